"""Runs of beams between what bears them: over which elements a deflection is measured, and from which ends."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.elements import Elements
from engine.structure.model import Bools, Ints, Member, Structure

#: least depth of a crossing beam, beside that of the one it carries: surely, and perhaps
SURELY, PERHAPS = 1.05, 0.95
#: cosine between stretches that run on straight in plan
STRAIGHT = 0.9998
#: what a chord is as deep as, beside beams: its truss, m
TRUSS = 10.0
#: rise over length of a member that stands upright
UPRIGHT = 0.9987

#: by node the elements of beams there
Crossing = dict[int, list[int]]
#: whether an element is borne by another that crosses it
Bears = Callable[[int, int], bool]


@dataclass(frozen=True)
class Run:
    """Elements and nodes, in order, of a stretch of beam between supports; loose: whether nothing bears it at its start, at its end."""

    rows: list[int]
    nodes: list[int]
    loose: tuple[bool, bool] = (False, False)

    @property
    def ends(self) -> tuple[tuple[int, int], tuple[int, int]]:
        """Element and node at both ends."""
        return (self.rows[0], self.nodes[0]), (self.rows[-1], self.nodes[-1])


def over_supports(structure: Structure) -> Bools:
    """(n,) nodes that are held upwards, or stand on such a node by upright members."""
    found = structure.fixed[:, 2] | (structure.springs[:, 2] != 0)
    ends = structure.segments
    span = structure.xyz[ends[:, 1]] - structure.xyz[ends[:, 0]]
    upright = ends[np.abs(span[:, 2]) > UPRIGHT * np.linalg.norm(span, axis=1)]
    while True:
        more = found.copy()
        more[upright[found[upright].any(axis=1)].ravel()] = True
        if (more == found).all():
            return np.asarray(found)
        found = more


def runs(structure: Structure, elements: Elements, beams: Bools, limited: Bools, grounded: Bools) -> list[list[Run]]:
    """Every stretch of beam between supports, in three readings: where a crossing beam bears that is surely deep enough, or perhaps, or that
    leads to the ground, however deep. beams, limited: (members,) those that count, and those whose deflection has a limit; grounded:
    (nodes,) what stands over a support."""
    ways, rows = _Ways.of(structure, elements), np.flatnonzero(beams[elements.member]).tolist()
    crossing: Crossing = defaultdict(list)
    for e in rows:
        for node in ways.ends[e]:
            crossing[node].append(e)
    deep = [_stretched(rows, ways, grounded, crossing, ways.deep_enough(least)) for least in (SURELY, PERHAPS)]
    return [*deep, _by_paths(rows, ways, limited[elements.member], grounded, crossing)]


@dataclass(frozen=True)
class _Ways:
    """By element its direction, that in plan, the depth of its member and its nodes: lists, of which single values are asked."""

    space: list[list[float]]
    plan: list[list[float]]
    depth: list[float]
    ends: list[list[int]]

    @classmethod
    def of(cls, structure: Structure, elements: Elements) -> _Ways:
        ends = elements.ends
        span = structure.xyz[ends[:, 1]] - structure.xyz[ends[:, 0]]
        space, plan = (x / np.maximum(np.linalg.norm(x, axis=1, keepdims=True), 1e-9) for x in (span, span[:, :2]))
        depth = np.array([_depth(m) for m in structure.members])[elements.member]
        return cls(space.tolist(), plan.tolist(), depth.tolist(), ends.tolist())

    def deep_enough(self, least: float) -> Bears:
        """What bears from `least` times the depth of what it carries on."""
        return lambda e, other: self.depth[other] / least >= self.depth[e]

    def turn(self, e: int, other: int, node: int) -> tuple[float, float]:
        """How straight an element goes on in another beyond a node, in plan and in space: 1 straight on, −1 back over itself."""
        same = (self.ends[e][0] == node) == (self.ends[other][0] == node)
        sign = -1.0 if same else 1.0
        plan, space = (sum(a * b for a, b in zip(of[e], of[other], strict=True)) for of in (self.plan, self.space))
        return sign * plan, sign * space


def measured_from(run: Run, met: Ints, grounded: Bools) -> list[tuple[int, int]]:
    """From which nodes a run is measured: from end to end, or twice the root of a cantilever, whose other end meets nothing (met:
    (nodes,) elements there); both where nothing that its one end meets bears it; none where both ends are free."""
    first, last = run.nodes[0], run.nodes[-1]
    free = [met[n] == 1 and not grounded[n] for n in (first, last)]
    root = last if free[0] or (run.loose[0] and not free[1]) else first
    if any(free):
        return [] if all(free) else [(root, root)]
    return [(first, last)] + ([(root, root)] if run.loose[0] != run.loose[1] else [])


def _by_paths(rows: list[int], ways: _Ways, limited: Bools, grounded: Bools, crossing: Crossing) -> list[Run]:
    """First what runs from support to support, whatever crosses it; then what runs between those, and so on. Where there is no more of
    that, what is borne at one end is a cantilever, first where nothing deep enough could bear the other; then what these bear. The webs
    of a truss, which end where a chord runs through in their own plane, are none and bear nothing; nor is what nothing leads to."""
    webs = _webs(rows, ways, grounded, crossing)
    found: list[Run] = []
    firm: set[int] = set()

    def bears(e: int, other: int) -> bool:
        return other in firm and (bool(limited[other]) or ways.depth[other] / PERHAPS >= ways.depth[e])

    def borne(e: int, node: int) -> bool:
        across = (o for o in crossing[node] if o != e and abs(ways.turn(e, o, node)[0]) <= STRAIGHT)
        return bool(grounded[node]) or any(bears(e, o) for o in across)

    def alone(run: Run) -> bool:
        return not any(
            ways.depth[o] / PERHAPS >= ways.depth[e] and o not in webs
            for (e, n), loose in zip(run.ends, run.loose, strict=True)
            for o in crossing[n]
            if loose and o not in run.rows
        )

    left = [e for e in rows if e not in webs]
    while left:
        now = _stretched(left, ways, grounded, crossing, bears)
        now = [replace(run, loose=(not borne(*run.ends[0]), not borne(*run.ends[1]))) for run in now]
        firmly = [run for run in now if not any(run.loose)]
        hung = [run for run in now if not all(run.loose)]
        following = firmly or [run for run in hung if alone(run)] or hung
        if not following:
            return found
        found += following
        firm |= {e for run in following for e in run.rows}
        left = [e for e in left if e not in firm]
    return found


def _webs(rows: list[int], ways: _Ways, grounded: Bools, crossing: Crossing) -> set[int]:
    """Elements of runs that end where another goes on in their own vertical plane."""
    plain = _stretched(rows, ways, grounded, crossing, lambda e, o: False)
    of = {e: k for k, run in enumerate(plain) for e in run.rows}
    found: set[int] = set()
    for run in plain:
        for e, n in run.ends:
            through = [of[o] for o in crossing[n] if of[o] != of[e] and abs(ways.turn(e, o, n)[0]) > STRAIGHT]
            if len(set(through)) < len(through):
                found.update(run.rows)
    return found


def _stretched(rows: list[int], ways: _Ways, grounded: Bools, crossing: Crossing, bears: Bears) -> list[Run]:
    """Elements of some rows from support to support: to what is grounded, and to what crosses them and bears them."""
    among = set(rows)

    def follows(e: int, node: int) -> int | None:
        """The element that runs on beyond a node, the straightest in space of those that do in plan; None where the stretch ends."""
        if grounded[node]:
            return None
        best, straightest = None, -2.0
        for other in crossing[node]:
            if other == e:
                continue
            plan, space = ways.turn(e, other, node)
            if plan > STRAIGHT:
                if other in among and space > straightest:
                    best, straightest = other, space
            elif abs(plan) <= STRAIGHT and bears(e, other):
                return None
        return best

    done: set[int] = set()
    found = []
    for e in rows:
        if e in done:
            continue
        own, nodes = [e], list(ways.ends[e])
        done.add(e)
        for forward in (True, False):
            at, node = e, nodes[-1] if forward else nodes[0]
            while True:
                following = follows(at, node)
                if following is None or following in done or follows(following, node) != at:
                    break
                done.add(following)
                a, b = ways.ends[following]
                node, at = b if a == node else a, following
                own.insert(len(own) if forward else 0, following)
                nodes.insert(len(nodes) if forward else 0, node)
        found.append(Run(own, nodes))
    return found


def _depth(m: Member) -> float:
    """Of a member beside those that it crosses."""
    return TRUSS if m.role in ("top chord", "bottom chord") else m.section.h
