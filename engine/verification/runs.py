"""Runs of beams between what bears them: over which elements a deflection is measured, and from which ends."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.elements import Elements
from engine.structure.model import Bools, Floats, Ints, Member, Structure

#: least depth of a crossing beam, beside that of the one it carries: surely, and perhaps
SURELY, PERHAPS = 1.05, 0.95
#: cosine between stretches that run on straight in plan
STRAIGHT = 0.9998
#: what a chord is as deep as, beside beams: its truss, m
TRUSS = 10.0
#: rise over length of a member that stands upright
UPRIGHT = 0.9987

#: by node the stretches of beams there: (element, depth that it may carry)
Crossing = dict[int, list[tuple[int, float]]]


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


def runs(structure: Structure, elements: Elements, beams: Bools, grounded: Bools, least: float) -> list[Run]:
    """Every stretch of beam between supports, where a crossing beam bears from `least` times the depth of the one it carries on. beams:
    (members,) those that count; grounded: (nodes,) what stands over a support."""
    ways = _Ways.of(structure, elements)
    found = _stretched(elements, ways, beams, grounded, _crossing(ways, elements, beams, least))
    return _borne(found, ways, grounded, _crossing(ways, elements, beams, PERHAPS))


@dataclass(frozen=True)
class _Ways:
    """(e, 3) directions of elements, (e, 2) those in plan, (e,) depths of their members, (e, 2) nodes."""

    space: Floats
    plan: Floats
    depth: Floats
    ends: Ints

    @classmethod
    def of(cls, structure: Structure, elements: Elements) -> _Ways:
        ends = elements.ends
        span = structure.xyz[ends[:, 1]] - structure.xyz[ends[:, 0]]
        space, plan = (x / np.maximum(np.linalg.norm(x, axis=1, keepdims=True), 1e-9) for x in (span, span[:, :2]))
        return cls(space, plan, np.array([_depth(m) for m in structure.members])[elements.member], ends)

    def turn(self, e: int, other: int, node: int) -> tuple[float, float]:
        """How straight an element goes on in another beyond a node, in plan and in space: 1 straight on, −1 back over itself."""
        same = (self.ends[e, 0] == node) == (self.ends[other, 0] == node)
        sign = -1.0 if same else 1.0
        return sign * float(self.plan[e] @ self.plan[other]), sign * float(self.space[e] @ self.space[other])


def measured_from(run: Run, met: Ints, grounded: Bools) -> list[tuple[int, int]]:
    """From which nodes a run is measured: from end to end, or twice the root of a cantilever, whose other end meets nothing (met:
    (nodes,) elements there); both where nothing that its one end meets bears it; none where both ends are free."""
    first, last = run.nodes[0], run.nodes[-1]
    free = [met[n] == 1 and not grounded[n] for n in (first, last)]
    root = last if free[0] or (run.loose[0] and not free[1]) else first
    if any(free):
        return [] if all(free) else [(root, root)]
    return [(first, last)] + ([(root, root)] if run.loose[0] != run.loose[1] else [])


def _borne(found: list[Run], ways: _Ways, grounded: Bools, crossing: Crossing) -> list[Run]:
    """The runs with what bears their ends: a support, or a run that may carry them and is borne itself without them.

    First those are borne whose both ends are; where there are no more, those with one end borne are cantilevers, first the ones that
    nothing could bear at the other; then what these bear, and so on. The webs of a truss, which end where a chord runs through in
    their own plane, are none and bear nothing.
    """
    of = {e: k for k, run in enumerate(found) for e in run.rows}
    webs = {k for k, run in enumerate(found) if any(_in_a_truss(ways, crossing[n], of, e, n) for e, n in run.ends)}
    bearers = [
        [{of[o] for o, reach in crossing[n] if of[o] != k and reach >= ways.depth[e]} - webs for e, n in run.ends]
        for k, run in enumerate(found)
    ]
    loose: dict[int, tuple[bool, bool]] = {}

    def borne(k: int) -> tuple[bool, bool]:
        start, end = (
            bool(grounded[n]) or bool(by & loose.keys()) for (_, n), by in zip(found[k].ends, bearers[k], strict=True)
        )
        return start, end

    left = dict.fromkeys(k for k in range(len(found)) if k not in webs)
    while left:
        states = {k: borne(k) for k in left}
        firm = [k for k, state in states.items() if all(state)]
        hung = [k for k, state in states.items() if any(state)]
        alone = [k for k in hung if not any(by for by, held in zip(bearers[k], states[k], strict=True) if not held)]
        following = firm or alone or hung or list(left)
        for k in following:
            loose[k] = not states[k][0], not states[k][1]
            del left[k]
    return [replace(run, loose=loose.get(k, (False, False))) for k, run in enumerate(found)]


def _in_a_truss(ways: _Ways, there: list[tuple[int, float]], of: dict[int, int], e: int, node: int) -> bool:
    """Whether another run goes on through a node in the vertical plane of an element that ends there."""
    others = [o for o, _ in there if of[o] != of[e] and abs(ways.turn(e, o, node)[0]) > STRAIGHT]
    through = [of[o] for o in others]
    return len(set(through)) < len(through)


def _crossing(ways: _Ways, elements: Elements, beams: Bools, least: float) -> Crossing:
    """By node the stretches of beams there with their depths times `least`: (element, depth / least)."""
    at: dict[int, list[tuple[int, float]]] = defaultdict(list)
    for e in np.flatnonzero(beams[elements.member]).tolist():
        for node in elements.ends[e].tolist():
            at[node].append((e, float(ways.depth[e]) / least))
    return at


def _stretched(elements: Elements, ways: _Ways, beams: Bools, grounded: Bools, crossing: Crossing) -> list[Run]:
    ends = elements.ends

    def follows(e: int, node: int) -> int | None:
        """The element that runs on beyond a node, the straightest in space of those that do in plan; None where the stretch ends."""
        if grounded[node]:
            return None
        best, straightest = None, -2.0
        for other, reach in crossing[node]:
            if other == e:
                continue
            plan, space = ways.turn(e, other, node)
            if plan > STRAIGHT:
                best, straightest = (other, space) if space > straightest else (best, straightest)
            elif abs(plan) <= STRAIGHT and reach >= ways.depth[e]:
                return None
        return best

    done: set[int] = set()
    found = []
    for e in np.flatnonzero(beams[elements.member]).tolist():
        if e in done:
            continue
        rows, nodes = [e], ends[e].tolist()
        done.add(e)
        for forward in (True, False):
            at, node = e, nodes[-1] if forward else nodes[0]
            while True:
                following = follows(at, node)
                if following is None or following in done or follows(following, node) != at:
                    break
                done.add(following)
                a, b = ends[following].tolist()
                node, at = b if a == node else a, following
                if forward:
                    rows.append(following)
                    nodes.append(node)
                else:
                    rows.insert(0, following)
                    nodes.insert(0, node)
        found.append(Run(rows, nodes))
    return found


def _depth(m: Member) -> float:
    """Of a member beside those that it crosses."""
    return TRUSS if m.role in ("top chord", "bottom chord") else m.section.h
