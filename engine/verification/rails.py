"""Crane rails: how far they move across, beside the next frame, apart and out of level (EN 1993-6 tables 7.1 and 7.2).

A rail lies on the free ends of brackets, or on the heads of members that stand upright. Those named together bear two rails: which bears
which follows from how the brackets point, or how the sections of what stands are turned. What is opposite each other belongs together.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import pairwise

import numpy as np

from engine.analysis.elements import Elements
from engine.analysis.sways import UPRIGHT
from engine.document import Document
from engine.document.byhand import CraneRails
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Structure
from engine.verification.limits import Limit, Stretch

#: places along the rails nearer than this are opposite each other; nodes of one rail lie within the other of a line, m
OPPOSITE, STRAIGHT = 0.1, 0.5
#: natures of what acts where the movement of rails is limited: EN 1993-6 table 7.1 asks for what cranes do, with thermal changes in (e)
BESIDE_CRANES = ("crane", "temperature")

UP = (0.0, 0.0, 1.0)
WORDS = {
    "rail_sway": "of the rail across, beside the foot",
    "rail_beside": "of the rail across, beside the next frame",
    "rail_spread": "of the rails apart or together",
    "rail_level": "of one rail above the other",
}


@dataclass(frozen=True)
class Place:
    """Where a rail lies: node; foot: the lowest node of what bears it; below: members from the bracket down to it; along, across: m."""

    node: int
    foot: int
    below: tuple[int, ...]
    along: float
    across: float


@dataclass(frozen=True)
class Rails:
    """A pair of rails: places of each in order along it, and numbers of those that are opposite each other; across: unit vector in plan.
    said: what cannot be found."""

    stated: CraneRails
    across: tuple[float, float, float] = (0.0, 0.0, 0.0)
    lines: tuple[tuple[Place, ...], tuple[Place, ...]] = ((), ())
    pairs: tuple[tuple[Place, Place], ...] = ()
    said: tuple[str, ...] = field(default=())


def laid_out(document: Document, structure: Structure) -> list[Rails]:
    """All stated rails, where they lie."""
    return [_laid_out(structure, stated) for stated in document.crane_rails]


def _laid_out(structure: Structure, stated: CraneRails) -> Rails:
    known = [structure.index[name] for name in stated.members if name in structure.index]
    if not known:
        return Rails(stated, said=("none of its members is there",))
    ends = [_bears_at(structure, i) for i in known]
    across = _across(structure, known[0], ends[0])
    if across is None:
        return Rails(stated, said=(f"“{structure.members[known[0]].name}” does not say which way is across",))
    along = np.array([-across[1], across[0], 0.0])
    places = []
    for i, node in zip(known, ends, strict=True):
        xyz, below = structure.xyz[node], _below(structure, i, node)
        foot = min((n for m in below for n in structure.members[m].nodes), key=lambda n: float(structure.xyz[n, 2]))
        places.append(Place(node, foot, below, float(along @ xyz), float(across @ xyz)))
    places = sorted({p.node: p for p in places}.values(), key=lambda p: p.along)
    middle = (max(p.across for p in places) + min(p.across for p in places)) / 2
    lines = tuple(p for p in places if p.across < middle), tuple(p for p in places if p.across >= middle)
    said = [f"“{name}” is not there" for name in stated.members if name not in structure.index]
    for line in lines:
        if not line or max(p.across for p in line) - min(p.across for p in line) > STRAIGHT:
            return Rails(stated, said=("its members do not bear two rails, each along one line",))
    pairs = [(a, b) for a in lines[0] for b in lines[1] if abs(a.along - b.along) < OPPOSITE]
    aloft = sum(structure.xyz[p.node, 2] - structure.xyz[p.foot, 2] <= 0 for p in places)
    if aloft:
        said.append(f"nothing stands below {aloft} of {len(places)} places: how far they move across is not checked")
    alone = len(places) - 2 * len(pairs)
    if alone:
        said.append(
            f"{alone} of {len(places)} places have none opposite: how far apart and level they are is not checked"
        )
    x, y, z = across.tolist()
    return Rails(stated, (x, y, z), lines, tuple(pairs), tuple(said))


def _bears_at(structure: Structure, member: int) -> int:
    """The node on which a rail lies: the head of what stands, the foot of what hangs, the end of a bracket that is not at what stands."""
    a, b = structure.members[member].nodes[0], structure.members[member].nodes[-1]
    if _stands(structure, member):
        low, high = sorted((a, b), key=lambda n: float(structure.xyz[n, 2]))
        held = bool(structure.fixed[low].any() or structure.springs[low].any())
        return int(high if held or len(structure.meeting[low]) > 1 else low)
    for led in (_stood, _led):
        borne = [led(structure, member, n) for n in (a, b)]
        if borne[0] != borne[1]:
            return int(a if borne[1] else b)
    return int(b)


def _stood(structure: Structure, member: int, node: int) -> bool:
    """Whether something else stands at an end of a member."""
    return any(_stands(structure, i) for i in structure.meeting[node] if i != member)


def _led(structure: Structure, member: int, node: int) -> tuple[int, int] | None:
    """What leads from an end of a member to something that stands, and where: the next piece of a bracket that is in pieces."""
    for i in structure.meeting[node]:
        m = structure.members[i]
        far = m.nodes[0] if node == m.nodes[-1] else m.nodes[-1]
        if i != member and not _stands(structure, i) and _in_line(structure, member, i) and _stood(structure, i, far):
            return i, far
    return None


def _in_line(structure: Structure, member: int, other: int) -> bool:
    steps = [
        structure.xyz[m.nodes[-1]] - structure.xyz[m.nodes[0]]
        for m in map(structure.members.__getitem__, (member, other))
    ]
    length = float(np.linalg.norm(steps[0]) * np.linalg.norm(steps[1]))
    return bool(abs(float(steps[0] @ steps[1])) > 0.9 * length)


def _stands(structure: Structure, member: int) -> bool:
    m = structure.members[member]
    step = structure.xyz[m.nodes[-1]] - structure.xyz[m.nodes[0]]
    return bool(abs(step[2]) >= UPRIGHT * float(np.linalg.norm(step)))


def _across(structure: Structure, member: int, node: int) -> Floats | None:
    """The unit vector in plan in which a bracket points, or the web of what stands."""
    m = structure.members[member]
    root = m.nodes[0] if node == m.nodes[-1] else m.nodes[-1]
    step = structure.xyz[node] - structure.xyz[root]
    if _stands(structure, member):
        ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
        step = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0, 2]
    flat = np.array([step[0], step[1], 0.0])
    length = float(np.linalg.norm(flat))
    return None if length < 1e-6 else flat / length


def _below(structure: Structure, member: int, node: int) -> tuple[int, ...]:
    """A bracket and what stands below it, piece by piece."""
    m = structure.members[member]
    found = [member]
    at = m.nodes[0] if node == m.nodes[-1] else m.nodes[-1]
    if not _stands(structure, member) and not _stood(structure, member, at):
        piece = _led(structure, member, at)
        if piece is not None:
            found.append(piece[0])
            at = piece[1]
    while True:
        low = float(structure.xyz[at, 2]) - 1e-6
        down = [
            (float(structure.xyz[n, 2]), i, n)
            for i in structure.meeting[at]
            if i not in found and _stands(structure, i)
            for n in (structure.members[i].nodes[0], structure.members[i].nodes[-1])
            if structure.xyz[n, 2] < low
        ]
        if not down:
            return tuple(found)
        _, i, at = min(down)
        found.append(i)


def element_at(elements: Elements, member: int, node: int) -> int:
    """The element of a member that ends at a node."""
    own = elements.rows(member)
    return int(own[(elements.ends[own] == node).any(axis=1)][0])


def shown_at(structure: Structure, elements: Elements, row: int, node: int) -> int:
    """The end of an element, 0 or −1, that is nearer to a node."""
    away = np.linalg.norm(structure.xyz[elements.ends[row]] - structure.xyz[node], axis=1)
    return 0 if away[0] < away[1] else -1


def rail_stretches(document: Document, structure: Structure, elements: Elements) -> list[Stretch]:
    """The limits of all rails."""
    found = []
    for rails in laid_out(document, structure):
        for criterion, places, length, limit in (*_of_lines(structure, rails), *_of_pairs(rails)):
            if limit:
                found.append(_stretch(structure, elements, rails, criterion, places, length, limit))
    return found


#: a criterion, the places that it looks at, a length in m, and its limit
Asked = tuple[str, tuple[Place, ...], float, Limit]


def _of_lines(structure: Structure, rails: Rails) -> Iterator[Asked]:
    """What each place of a rail keeps beside its foot, and beside the next place."""
    for line in rails.lines:
        for place in line:
            height = float(structure.xyz[place.node, 2] - structure.xyz[place.foot, 2])
            if height > 0:
                yield "rail_sway", (place,), height, Limit(rails.stated.sway_ratio)
        for a, b in pairwise(line):
            if b.along - a.along > OPPOSITE:
                yield "rail_beside", (a, b), b.along - a.along, Limit(rails.stated.beside_ratio)


def _of_pairs(rails: Rails) -> Iterator[Asked]:
    """What places that are opposite each other keep."""
    for a, b in rails.pairs:
        gauge = b.across - a.across
        yield "rail_spread", (a, b), gauge, Limit(most=rails.stated.spread_mm / 1000)
        yield "rail_level", (a, b), gauge, Limit(rails.stated.level_ratio)


def _stretch(
    structure: Structure,
    elements: Elements,
    rails: Rails,
    criterion: str,
    places: tuple[Place, ...],
    length: float,
    limit: Limit,
) -> Stretch:
    """One limit as that of all that bears the rail there, shown where each is nearest to it."""
    borne = [(i, place.node) for place in places for i in place.below]
    rows = [_nearest(structure, elements, i, node) for i, node in borne]
    return Stretch(
        criterion=criterion,
        way="apart",
        rows=np.array(rows),
        start=places[0].foot if len(places) == 1 else places[0].node,
        end=places[-1].node,
        length=length,
        ratio=limit.over(length),
        members=tuple(dict.fromkeys(i for i, _ in borne)),
        words=WORDS[criterion],
        absolute=limit.absolute(length),
        towards=UP if criterion == "rail_level" else rails.across,
        at=tuple(shown_at(structure, elements, row, node) for row, (_, node) in zip(rows, borne, strict=True)),
    )


def _nearest(structure: Structure, elements: Elements, member: int, node: int) -> int:
    """The element of a member that has an end nearest to a node."""
    own = elements.rows(member)
    away = np.linalg.norm(structure.xyz[elements.ends[own]] - structure.xyz[node], axis=2).min(axis=1)
    return int(own[np.argmin(away)])


def rails_unsaid(document: Document, structure: Structure, cranes: bool) -> tuple[str, ...]:
    """What is not checked of rails and cranes, in words. cranes: cases of cranes act."""
    found = [f"crane rails “{r.stated.name}”: {words}" for r in laid_out(document, structure) for words in r.said]
    if cranes and not document.crane_rails:
        found.append(
            "cranes act, and no crane rails are stated: how far these move (EN 1993-6 tables 7.1 and 7.2) is not checked"
        )
    if cranes:
        found.append("cranes act: fatigue, and what wheels do to their runway beams (EN 1993-6), is not verified")
    return tuple(found)
