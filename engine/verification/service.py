"""Deflection: which stretches of which members have a limit, what of them moves, and against what it is measured.

A stretch of a beam runs from support to support, whatever members it is drawn in: through every node that neither stands over a
support nor hangs on a deeper beam, straight in plan, so that two rafters are one stretch from eaves to eaves. A beam as deep as
the one that it crosses may carry it or hang on it: then both readings are checked; and a third, in which what leads to the ground
bears, however deep it is. A chord carries as the truss does that it is of,
whatever its own depth. A cantilever counts with twice its length, from its root; so does, besides, what ends where others meet that
do not bear it (a fascia, the webs of a truss). Columns drift between foot and head; posts and rails bend across.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import replace
from functools import partial
from itertools import pairwise

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.elements import Elements
from engine.analysis.sways import IN_LEVEL, UPRIGHT, storeys
from engine.document import Document
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure
from engine.structure.together import together
from engine.verification import limits
from engine.verification.limits import Limit, Stretch
from engine.verification.rails import element_at, rail_stretches, shown_at
from engine.verification.runs import measured_from, over_supports, runs

#: stations nearer than this stand at one place, in metres
CLOSE = 1e-6
#: natural frequency in Hz of a beam between pins times the square root of what it is bent by, mm
SWINGS = 17.75
#: the same of a mass that moves up and down as a whole, √g/2π. Of a floor 1/f² is at most the sum of those of its parts, each swinging alone (Dunkerley): what a
#: beam is bent by between its supports, and what these move by
BOUNCES = 15.76
#: roles of beams that are a floor
FLOORS = ("main beam", "joist")


def stretches(document: Document, structure: Structure, elements: Elements) -> list[Stretch]:
    """All stretches with a limit; a member may be part of several. Those under other combinations follow the others."""

    def upright(m: Member, limit: Limit) -> Limit:
        return replace(limit, ratio=document.rules.eaves_sway_ratio) if m.checks.deflection is None else limit

    found = _stretches(structure, elements, partial(limits.total, document), upright)
    if document.rules.apart_ratio > 0:
        found += _apart(structure, elements, document.rules.apart_ratio)
    found += rail_stretches(document, structure, elements)
    for criterion, of, cambered in (
        ("variable", limits.variable, False),
        ("imposed", limits.imposed, False),
        ("lasting", limits.lasting, True),
    ):
        limit_of = partial(of, document)
        for stretch in _stretches(structure, elements, limit_of) if any(map(limit_of, structure.members)) else ():
            found.append(replace(stretch, criterion=criterion, camber=stretch.camber if cambered else 0.0))
    rules = document.rules
    if any(rules.frequencies.values()):
        found += _swinging(structure, elements, lambda m: rules.frequencies.get(m.role) or None)  # type: ignore[call-overload]
    if rules.floor_frequency:
        of_floors = _swinging(structure, elements, lambda m: rules.floor_frequency if m.role in FLOORS else None)
        found += [
            replace(stretch, criterion="floor", way="swing", words="with what it rests on") for stretch in of_floors
        ]
    return found


def _swinging(structure: Structure, elements: Elements, least: Callable[[Member], float | None]) -> list[Stretch]:
    """Beams between their supports that are to swing fast enough, as a limit on what they bend by."""
    return [
        replace(stretch, criterion="frequency", camber=0.0, ratio=stretch.length / bent_by(stretch.ratio))
        for stretch in _stretches(structure, elements, lambda m: Limit(least(m) or 0.0))
        if stretch.way == "down"
    ]


def bent_by(frequency: float) -> float:
    """What its mass, spread along it, bends a beam between pins by that swings at a frequency in Hz, m: f = 17.75/√w, w in mm, which is π/2 √(EI/m L⁴) with
    w = 5 m g L⁴/384 EI. With clamped ends it is 18.0, of a cantilever 19.6: the limit is on the safe side for them."""
    return float((SWINGS / frequency) ** 2 / 1000)


def frequency_of(bent: float) -> float:
    """The natural frequency in Hz of a beam that its mass bends by so much, m."""
    return float(SWINGS / np.sqrt(max(bent, 1e-9) * 1000))


def _stretches(
    structure: Structure,
    elements: Elements,
    limit_of: Callable[[Member], Limit],
    upright: Callable[[Member, Limit], Limit] = lambda m, limit: limit,
) -> list[Stretch]:
    """Those that have a limit. upright: that of a member without a role that stands upright."""
    rise = _rises(structure)
    beams = np.array(
        [
            r < UPRIGHT and (m.behaviour == "beam" or (m.behaviour == "bar" and bool(limit_of(m))))
            for m, r in zip(structure.members, rise, strict=True)
        ],
        dtype=bool,
    )
    limited = np.array([bool(limit_of(m)) for m in structure.members], dtype=bool)
    found: list[Stretch] = []
    grounded = over_supports(structure)
    met = np.bincount(elements.ends.ravel(), minlength=len(structure.nodes))
    seen: set[tuple[tuple[int, ...], int, int]] = set()
    for reading in runs(structure, elements, beams, limited, grounded):
        readings = [
            (run.rows, run.nodes, measured) for run in reading for measured in measured_from(run, met, grounded)
        ]
        for rows, nodes, (start, end) in readings:
            length = float(np.linalg.norm(structure.xyz[nodes[-1]] - structure.xyz[nodes[0]]))
            words = "between its supports"
            if start == end:
                length, words = 2 * length, "of a cantilever, twice its length"
            key = (tuple(sorted(rows)), start, end)
            if key in seen or length < 1e-3:
                continue
            seen.add(key)
            by_limit: dict[Limit, list[int]] = defaultdict(list)
            for row in rows:
                member = structure.members[int(elements.member[row])]
                limit = limit_of(member)
                if limit and member.role not in ("side rail",):
                    by_limit[limit].append(row)
            for limit, alike in by_limit.items():
                made_of = tuple(dict.fromkeys(elements.member[alike].tolist()))
                camber = 0.0 if start == end else _camber(structure, elements, rows)
                over = limit.over(length), made_of, words, camber, limit.absolute(length)
                found.append(Stretch("deflection", "down", np.array(alike), start, end, length, *over))
    standing = {s.member for s in storeys(structure)}
    as_one, in_levels = together(structure), _in_levels(structure)
    drifted: set[tuple[str, Limit, int]] = set()

    def drifts(i: int, limit: Limit) -> list[Stretch]:
        """How far the head of a member moves, with all that bends as one with it; apart in both planes where that differs. Once for each run."""
        by_plane = [as_one.run(structure, i, planes, in_levels)[0] for planes in ((0,), (1,))]
        alike = sorted(by_plane[0]) == sorted(by_plane[1])
        ways = [("drift", by_plane[0])] if alike else [("drift y", by_plane[0]), ("drift z", by_plane[1])]
        new = [(way, run) for way, run in ways if (way, limit, min(run)) not in drifted]
        drifted.update((way, limit, min(run)) for way, run in new)
        return [_drift(structure, elements, run, _heights(structure, run), limit, way) for way, run in new]

    for storey in storeys(structure):
        member = structure.members[storey.member]
        limit = limit_of(member)
        if member.role != "column" or not limit:
            continue
        if storey.whole:
            found += drifts(storey.member, limit)
        else:
            found.append(_drift(structure, elements, [storey.member], (storey.foot, storey.head), limit))
    for i, m in enumerate(structure.members):
        limit = limit_of(m)
        if m.bar or not limit or m.behaviour != "beam":
            continue
        if m.role in ("gable post", "side rail"):
            for way, plane in (("across", 1), ("across y", 0))[: 1 if m.role == "side rail" else 2]:
                run, (start, end) = as_one.run(structure, i, (plane,))
                length = float(np.linalg.norm(structure.xyz[end] - structure.xyz[start]))
                words = "between its ends" if len(run) == 1 else "between the ends of all its pieces"
                over = limit.over(length), (i,), words, 0.0, limit.absolute(length)
                found.append(Stretch("deflection", way, elements.rows(i), start, end, length, *over))
        elif m.role == "member" and rise[i] >= UPRIGHT and i not in standing:
            found += drifts(i, upright(m, limit))
    return found


def _in_levels(structure: Structure) -> set[int]:
    """Nodes in a level."""
    heights = np.array([level.height for level in structure.levels])
    if not len(heights):
        return set()
    near = np.abs(structure.xyz[:, 2, None] - heights).min(axis=1) < IN_LEVEL
    return set(np.flatnonzero(near).tolist())


def _heights(structure: Structure, run: list[int]) -> tuple[int, int]:
    """The lowest and the highest node of members."""
    nodes = sorted((n for i in run for n in structure.members[i].nodes), key=lambda n: float(structure.xyz[n, 2]))
    return nodes[0], nodes[-1]


def _camber(structure: Structure, elements: Elements, rows: list[int]) -> float:
    """That of the member that a stretch is, m; none of one that is a part of a member or several: their ends do not rise with them."""
    member = int(elements.member[rows[0]])
    whole = sorted(rows) == elements.rows(member).tolist()
    return (structure.members[member].checks.camber or 0.0) / 1000 if whole else 0.0


def _drift(
    structure: Structure,
    elements: Elements,
    run: list[int],
    between: tuple[int, int],
    limit: Limit,
    way: str = "drift",
) -> Stretch:
    """Of members one above the other, each with the element that ends highest; between: foot and head."""
    foot, head = between
    below = [max(elements.rows(i), key=lambda e: _top(structure, elements, e, head)) for i in run]
    height = float(structure.xyz[head, 2] - structure.xyz[foot, 2])
    words = "of the head beside the foot" + (", over all its pieces" if len(run) > 1 else "")
    ratio, absolute = limit.over(height), limit.absolute(height)
    return Stretch("sway", way, np.array(below), foot, head, height, ratio, tuple(run), words, absolute=absolute)


def _top(structure: Structure, elements: Elements, row: int, head: int) -> tuple[bool, float]:
    """Whether an element ends at a node, and else how high it ends."""
    ends = elements.ends[row]
    return bool((ends == head).any()), float(structure.xyz[ends, 2].max())


def _apart(structure: Structure, elements: Elements, ratio: float) -> list[Stretch]:
    """The heads of columns of one line in neighbouring frames of a hall."""
    lines: dict[str, list[tuple[int, int, int]]] = defaultdict(list)
    for i, m in enumerate(structure.members):
        if m.role == "column" and m.frame and m.line and m.jig == "hall":
            lines[m.line].append((m.frame, i, max(m.nodes[0], m.nodes[-1], key=lambda n: structure.xyz[n, 2])))
    found = []
    for own in lines.values():
        for (frame, i, head), (following, j, other) in pairwise(sorted(own)):
            length = float(np.linalg.norm(structure.xyz[other, :2] - structure.xyz[head, :2]))
            if following != frame + 1 or length < CLOSE:
                continue
            rows = [element_at(elements, i, head), element_at(elements, j, other)]
            at = tuple(shown_at(structure, elements, row, n) for row, n in zip(rows, (head, other), strict=True))
            x, y = ((structure.xyz[other, :2] - structure.xyz[head, :2]) / length).tolist()
            said = length, ratio, (i, j), "of the heads of neighbouring frames"
            found.append(Stretch("apart", "apart", np.array(rows), head, other, *said, towards=(-y, x, 0.0), at=at))
    return found


def unlimited(document: Document, structure: Structure, found: list[Stretch]) -> list[int]:
    """Beams without a limit on their deflection: nothing is checked there."""
    with_limit = {i for stretch in found for i in stretch.members}
    return [
        i
        for i, m in enumerate(structure.members)
        if i not in with_limit and m.behaviour in ("beam", "bar") and document.rules.deflects(m.role)
    ]


def silent(document: Document, structure: Structure, found: list[Stretch]) -> list[int]:
    """Members of roles without a limit of deflection (struts, ties, webs) that could bend as beams do."""
    with_limit = {i for stretch in found for i in stretch.members}
    return [
        i
        for i, (m, rise) in enumerate(zip(structure.members, _rises(structure), strict=True))
        if m.behaviour == "beam" and rise < UPRIGHT and i not in with_limit and not document.rules.deflects(m.role)
    ]


def measure(combined: Combined, moved: Floats, along: Floats, stretch: Stretch) -> Floats:
    """(k, s, c) m: how far a stretch has moved off the line it is measured from, at each station or as near it as it is greatest;
    moved: (nodes, 6, c) displacements of the nodes, along: (k, s, 3, c) along its own elements."""
    structure, elements = combined.structure, combined.elements
    if stretch.drifts:
        step = moved[stretch.end, :2] - moved[stretch.start, :2]
        off = np.linalg.norm(step, axis=0) if stretch.way == "drift" else np.abs(_aside(structure, stretch) @ step)
        out = np.zeros((len(stretch.rows), along.shape[1], along.shape[3]))
        for k, (a, b) in enumerate(elements.ends[stretch.rows].tolist()):
            upwards = b == stretch.end or (a != stretch.end and structure.xyz[b, 2] > structure.xyz[a, 2])
            out[k, -1 if upwards else 0] = off
        return out
    if stretch.way == "apart":
        off = np.abs(np.array(stretch.towards) @ (moved[stretch.end, :3] - moved[stretch.start, :3]))
        out = np.zeros((len(stretch.rows), along.shape[1], along.shape[3]))
        out[np.arange(len(stretch.rows)), list(stretch.at)] = off
        return out
    rows = stretch.rows
    if stretch.way in ("down", "swing"):
        from_start, from_end, there = moved[stretch.start, 2], moved[stretch.end, 2], along[:, :, 2]
    else:
        member = structure.members[stretch.members[0]]
        ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
        roll = 0.0 if stretch.way == "aside" else member.roll
        # without roll local y lies level
        across = local_axes(ends[:1], ends[1:], np.array([roll]))[0, 2 if stretch.way == "across" else 1]
        from_start, from_end = across @ moved[stretch.start, :3], across @ moved[stretch.end, :3]
        there = across @ along
    share: Floats = np.zeros((1, 1, 1))
    if stretch.start != stretch.end:
        a, b = structure.xyz[stretch.start], structure.xyz[stretch.end]
        at = structure.xyz[elements.ends[rows, 0], None] + (
            (combined.stations[rows] / elements.length[rows, None])[:, :, None]
            * (structure.xyz[elements.ends[rows, 1]] - structure.xyz[elements.ends[rows, 0]])[:, None]
        )
        share = ((at - a) @ (b - a) / ((b - a) @ (b - a)))[:, :, None]
    chord = (1 - share) * from_start + share * from_end
    off = _peaked(chord - there - stretch.camber * 4 * share * (1 - share), combined.stations[rows])
    return off + np.maximum(-chord, 0.0) * (SWINGS / BOUNCES) ** 2 if stretch.way == "swing" else off


def _aside(structure: Structure, stretch: Stretch) -> Floats:
    """(2,) in which direction of the plan a drift counts: that of one axis of its first member's section."""
    member = structure.members[stretch.members[0]]
    ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
    across = local_axes(ends[:1], ends[1:], np.array([member.roll]))[0, 1 if stretch.way == "drift y" else 2, :2]
    return np.asarray(across / max(float(np.linalg.norm(across)), 1e-9))


def _peaked(off: Floats, x: Floats) -> Floats:
    """Magnitudes (k, s, c) of what runs smoothly along elements with stations x (k, s), raised to the vertex of the parabola through
    a station and its neighbours where that lies between them."""
    found = np.abs(off)
    if off.shape[1] < 3:
        return found
    at = np.arange(1, x.shape[1] - 1)
    row = np.arange(len(x))[:, None]
    # one of two stations before and behind a concentrated load looks past the other
    lower = np.where(x[:, at] - x[:, at - 1] > CLOSE, at - 1, np.maximum(at - 2, 0))
    upper = np.where(x[:, at + 1] - x[:, at] > CLOSE, at + 1, np.minimum(at + 2, x.shape[1] - 1))
    left, right = (x[:, at] - x[row, lower])[..., None], (x[row, upper] - x[:, at])[..., None]
    apart = (left > CLOSE) & (right > CLOSE)
    left, right = np.where(apart, left, 1.0), np.where(apart, right, 1.0)
    before, after = (off[:, 1:-1] - off[row, lower]) / left, (off[row, upper] - off[:, 1:-1]) / right
    bend = (after - before) / (left + right)
    slope = (before * right + after * left) / (left + right)
    safe = np.where(bend == 0, 1.0, bend)
    away = np.where(bend == 0, 0.0, -slope / (2 * safe))
    between = apart & (away > -left) & (away < right)
    peak = np.abs(off[:, 1:-1] - slope**2 / (4 * safe))
    found[:, 1:-1] = np.where(between & (bend != 0), np.maximum(found[:, 1:-1], peak), found[:, 1:-1])
    return found


def _rises(structure: Structure) -> list[float]:
    """Rise over length of every member."""
    span = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    length = np.maximum(np.linalg.norm(span, axis=1), 1e-9)
    found: list[float] = (np.abs(span[:, 2]) / length).tolist()
    return found
