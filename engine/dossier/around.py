"""How far the head of a column moves, found without the stiffness matrix: what its frame bends, stretches and shears by, followed around from one support
to another. What turns at the foot, and at hinges on the way, is what lets the other support stay where it is."""

from __future__ import annotations

from collections import deque
from dataclasses import dataclass

import numpy as np

from engine.analysis.diagrams import Diagrams
from engine.chain import Chain
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.verification.limits import Stretch

#: nodes nearer to the plane of a frame than this lie in it, m
IN_PLANE = 0.01
#: two turns that are not told apart better than this, of the larger, are not found
APART = 1e-9
#: local freedoms that turn about y and z, and those that slide, at the start of an element
TURNS, SLIDES = (4, 5), (0, 1, 2)
#: supports that are tried as the end of a way, the nearest first
TRIED = 8
#: members that run along an axis: cosine of their slope, from 1
LEVEL = 1e-6


@dataclass(frozen=True)
class Passed:
    """Something on the way: it turns what comes after it about a place of the plane by an angle, None where that is unknown, and moves it by a step."""

    turn: float | None
    place: Floats
    step: Floats


@dataclass(frozen=True)
class Way:
    """Elements from a foot through a node to another support that holds still, which of them are passed from their end, and how many lead up to the
    node."""

    rows: list[int]
    turned: list[bool]
    at_head: int


def followed(chain: Chain, stretch: Stretch, number: int, axis: int) -> float | None:
    """How far the head of a stretch moves beside its foot along X (axis 0) or along Y, in a case or combination by number, m. None where no way leads
    around: its frame must lie in a plane and end on supports that hold still, with one unknown turn less than they give conditions; or a beam along the
    plane ties it to one of which that is so."""
    structure = chain.structure
    warm = any(chain.loading.cases[k].nature == "temperature" for k in np.flatnonzero(chain.combined.rows[number]))
    if warm or chain.loading.settlements or not _still(structure, axis)[stretch.start]:
        return None
    found = chain.combined.diagrams([number])
    own = chain.response.elements.rows(stretch.members[0])
    alone = _led(chain, found, stretch.start, stretch.end, own, axis)
    if alone is not None:
        return abs(alone)
    for node, longer in _tied(chain, found, stretch.end, axis):
        for foot in _nearest(structure, node, axis):
            other = _led(chain, found, foot, node, None, axis)
            if other is not None:
                return abs(other + longer)
    return None


def _still(structure: Structure, axis: int) -> Bools:
    """(n,): supports that hold still along the axis and upwards."""
    return np.asarray(structure.fixed[:, [axis, 2]].all(axis=1) & (structure.turn == 0))


def _nearest(structure: Structure, node: int, axis: int) -> list[int]:
    """Supports that hold still in the upright plane through a node, the nearest first, as many as are tried."""
    aside = np.abs(structure.xyz[:, 1 - axis] - structure.xyz[node, 1 - axis]) < IN_PLANE
    feet = np.flatnonzero(_still(structure, axis) & aside)
    away = np.linalg.norm(structure.xyz[feet] - structure.xyz[node], axis=1)
    return [int(k) for k in feet[np.argsort(away, kind="stable")][:TRIED]]


def _flat(chain: Chain, node: int, axis: int) -> Bools:
    """(e,): elements that bear bending in the upright plane through a node."""
    structure, elements = chain.structure, chain.response.elements
    aside = structure.xyz[:, 1 - axis]
    return np.asarray((np.abs(aside[elements.ends] - aside[node]) < IN_PLANE).all(axis=1) & ~elements.bar)


def _led(chain: Chain, found: Diagrams, foot: int, node: int, own: Ints | None, axis: int) -> float | None:
    """How far a node moves along the axis, by a way from a foot through it to another support; own: elements that lead up to it, None: any without a
    hinge. Ways without hinges are tried first. None where none leads around."""
    structure, elements = chain.structure, chain.response.elements
    flat = _flat(chain, node, axis)
    free = elements.released[:, [*TURNS, *(6 + t for t in TURNS)]].any(axis=1)
    up = _path(elements.ends, np.flatnonzero(flat & ~free) if own is None else own, foot, {node})
    if up is None or not flat[up[0]].all():
        return None
    goals = [goal for goal in _nearest(structure, node, axis) if goal != foot]
    for among in (flat & ~free, flat):
        others = np.setdiff1d(np.flatnonzero(among), up[0])
        for goal in goals:
            on = _path(elements.ends, others, node, {goal})
            if on is not None:
                way = Way([*up[0], *on[0]], [*up[1], *on[1]], len(up[0]))
                moved = _along_way(chain, found, way, foot, node, axis)
                if moved is not None:
                    return moved
    # a clamped foot alone says it
    return _along_way(chain, found, Way(*up, len(up[0])), foot, node, axis)


def _along_way(chain: Chain, found: Diagrams, way: Way, foot: int, node: int, axis: int) -> float | None:
    """How far a node moves along the axis by what a way does; None where the turns on it do not follow."""
    structure = chain.structure
    passed: list[Passed] = []
    flat = structure.xyz[:, [axis, 2]]
    if not structure.fixed[foot, 4 - axis]:
        passed.append(Passed(None, flat[foot], np.zeros(2)))
    upto = 0
    for k, (row, back) in enumerate(zip(way.rows, way.turned, strict=True)):
        own = _along(chain, found, row, back, axis)
        if own is None:
            return None
        passed += own
        upto = len(passed) if k < way.at_head else upto
    last = int(chain.response.elements.ends[way.rows[-1], 0 if way.turned[-1] else 1])
    turns = _turns(passed, flat[last], bool(structure.fixed[last, 4 - axis]), last != node)
    return None if turns is None else float(_moved(passed[:upto], flat[node], turns)[0])


def _tied(chain: Chain, found: Diagrams, node: int, axis: int) -> list[tuple[int, float]]:
    """Nodes to which members along the axis tie a node, and by how much farther it moves along the axis than they do."""
    structure, elements = chain.structure, chain.response.elements
    ties = []
    for i in structure.meeting.get(node, ()):
        rows = elements.rows(i)
        straight = np.abs(np.abs(elements.axes[rows, 0, axis]) - 1).max() < LEVEL
        if not straight or np.abs(elements.arms[rows]).max() > 0 or elements.released[rows][:, [0, 6]].any():
            continue
        h, N = np.diff(found.x[rows]), found.N[rows, :, 0]
        longer = (h * (N[:, :-1] + N[:, 1:]) / 2).sum(axis=1) / elements.EA[rows]
        places = structure.xyz[elements.ends[rows], axis].mean(axis=1)
        for other in structure.members[i].nodes:
            if other == node:
                continue
            low, high = sorted((structure.xyz[node, axis], structure.xyz[other, axis]))
            between = (places > low) & (places < high)
            sense = 1.0 if structure.xyz[node, axis] > structure.xyz[other, axis] else -1.0
            ties.append((int(other), sense * float(longer[between].sum())))
    return ties


def _moved(passed: list[Passed], at: Floats, turns: list[float]) -> Floats:
    """How far a place beyond all of them moves."""
    unknown = iter(turns)
    found = np.zeros(2)
    for one in passed:
        turn = next(unknown) if one.turn is None else one.turn
        found = found + one.step + turn * _square(at - one.place)
    return found


def _square(arm: Floats) -> Floats:
    """What a unit turn, from X or Y towards Z, moves the end of an arm by."""
    return np.array([-arm[1], arm[0]])


def _turns(passed: list[Passed], at: Floats, clamped: bool, closed: bool) -> list[float] | None:
    """The unknown turns, by which the support at the end of the way stays where it is; None where they do not follow."""
    places = [one.place for one in passed if one.turn is None]
    if not places:
        return []
    if not closed:
        return None
    known = _moved([one for one in passed if one.turn is not None], at, [])
    rows, wanted = [np.array([_square(at - place) for place in places]).T], [-known]
    if clamped:
        rows.append(np.ones((1, len(places))))
        wanted.append(np.array([-sum(one.turn for one in passed if one.turn is not None)]))
    matrix = np.concatenate(rows)
    size = np.linalg.svd(matrix, compute_uv=False)
    if len(places) > len(matrix) or size.min() < APART * size.max():
        return None
    solved: list[float] = np.linalg.lstsq(matrix, np.concatenate(wanted), rcond=None)[0].tolist()
    return solved


def _path(ends: Ints, among: Ints, start: int, goals: set[int]) -> tuple[list[int], list[bool]] | None:
    """The fewest elements from a node to one of others, and which of them are passed from their end."""
    meeting: dict[int, list[tuple[int, int, bool]]] = {}
    for row in among.tolist():
        a, b = ends[row].tolist()
        meeting.setdefault(a, []).append((row, b, False))
        meeting.setdefault(b, []).append((row, a, True))
    came: dict[int, tuple[int, int, bool]] = {start: (-1, -1, False)}
    waiting = deque([start])
    while waiting:
        node = waiting.popleft()
        if node in goals:
            rows, turned = [], []
            while node != start:
                before, row, back = came[node]
                rows.append(row)
                turned.append(back)
                node = before
            return rows[::-1], turned[::-1]
        for row, other, back in meeting.get(node, ()):
            if other not in came:
                came[other] = node, row, back
                waiting.append(other)
    return None


def _along(chain: Chain, found: Diagrams, row: int, back: bool, axis: int) -> list[Passed] | None:
    """What an element does on the way, and hinges at its ends; None for one that lies askew in the plane, or slides at an end."""
    elements, structure = chain.response.elements, chain.structure
    normal = np.eye(3)[1 - axis]
    about = next((k for k in (1, 2) if abs(elements.axes[row, k] @ normal) > 1 - 1e-6), None)
    released = elements.released[row]
    if about is None or released[[*SLIDES, *(6 + s for s in SLIDES)]].any():
        return None
    M, V = (values[row, :, 0] for values in ((found.My, found.Vz) if about == 1 else (found.Mz, found.Vy)))
    EI, GA = (elements.EIy[row], elements.GAz[row]) if about == 1 else (elements.EIz[row], elements.GAy[row])
    plane = [axis, 2]
    along, across = elements.axes[row, 0, plane], elements.axes[row, 3 - about, plane]
    # a turn from along to across is one from X or Y towards Z, or the other way
    sense = float(along[0] * across[1] - along[1] * across[0])
    x = found.x[row]
    start = structure.xyz[elements.ends[row, 0], plane] + elements.arms[row, 0, plane]
    h = np.diff(x)
    # between two stations a cubic through the moments with their slopes, the shear: what its curvature turns and moves the next one by
    turns = (h / 2 * (M[:-1] + M[1:]) + h**2 / 12 * (V[:-1] - V[1:])) / EI
    fallen = (h**2 * (7 * M[:-1] + 3 * M[1:]) / 20 + h**3 * (V[:-1] / 20 - V[1:] / 30)) / EI
    stretched = h * (found.N[row, :-1, 0] + found.N[row, 1:, 0]) / 2 / elements.EA[row]
    sheared = -h * (V[:-1] + V[1:]) / 2 / GA
    steps = stretched[:, None] * along + (sheared + fallen - turns * h / 2)[:, None] * across
    places = start + ((x[:-1] + x[1:]) / 2)[:, None] * along
    way = -1.0 if back else 1.0
    passed = [Passed(way * sense * float(t), p, way * s) for t, p, s in zip(turns, places, steps, strict=True)]
    if back:
        passed.reverse()
    hinges = [
        [Passed(None, structure.xyz[elements.ends[row, end], plane], np.zeros(2))]
        if released[6 * end + TURNS[about - 1]]
        else []
        for end in ((1, 0) if back else (0, 1))
    ]
    return [*hinges[0], *passed, *hinges[1]]
