"""Where beams are joined rigidly to a member that runs through, in the plane of its web: knees of frames, and joints of beams and columns."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from engine.analysis.elements import Elements
from engine.catalogue.properties import Section
from engine.structure.model import Floats, Member, Structure

#: cosine above the ground from which on a member stands upright
UPRIGHT = 0.7
#: share of its direction in the plane of the column's web from which on a beam bends it
IN_PLANE = 0.3
#: sine of the angle from which on members meet at one
ANGLED = 0.5


@dataclass(frozen=True)
class Beam:
    """What a beam brings to a knee: M_y at a station of an element and the next one, with the share of the second, at the column's face; turn: the
    sign with which it turns the panel; z: distance of its flanges there, m; member: its number."""

    element: int
    station: int
    share: float
    turn: float
    z: float
    member: int


@dataclass(frozen=True)
class Knee:
    """A panel of a member's web. x: m from its start; sides: elements before and behind it with their station and the sign of their shear;
    section: of the member there."""

    x: float
    sides: tuple[tuple[int, int, float], ...]
    beams: tuple[Beam, ...]
    section: Section


@dataclass(frozen=True)
class Knees:
    """All panels of a structure by member; aside: by member, what is joined rigidly to its side, place by place; cranked: members that meet rigidly at an
    angle where none is upright; supported: those that do so at a support that holds against turning."""

    found: dict[int, list[Knee]]
    aside: dict[int, list[tuple[Beam, ...]]]
    cranked: frozenset[int]
    supported: frozenset[int]


@dataclass(frozen=True)
class _Made:
    """What panels are found in. x: (e, s) stations, m along the elements; sections: of the elements."""

    structure: Structure
    elements: Elements
    x: Floats
    sections: Sequence[Section]

    @property
    def last(self) -> int:
        return int(self.x.shape[1]) - 1


def knees_of(structure: Structure, elements: Elements, x: Floats, sections: Sequence[Section]) -> Knees:
    """Every place where beams are joined rigidly, in the plane of its web, to a member that runs through there. x: (e, s) stations, m along
    the elements; sections: what each element is made of."""
    made = _Made(structure, elements, x, sections)
    found: dict[int, list[Knee]] = {}
    aside: dict[int, list[tuple[Beam, ...]]] = {}
    cranked: set[int] = set()
    supported: set[int] = set()
    for node, meeting in structure.meeting.items():
        rigid = [i for i in meeting if _rigid(structure.members[i], node)]
        joined = [(i, node, 0.0) for i in rigid] + _by_links(structure, node)
        if not rigid or len(joined) < 2:
            continue
        i = _through(structure, node, rigid)
        if i is None:
            cranked |= _cranked(structure, rigid)
            continue
        knee, sideways = _knee(made, i, node, [one for one in joined if one[0] != i])
        if sideways:
            aside.setdefault(i, []).append(sideways)
        if knee is None:
            continue
        turns = structure.fixed[node, 3:] | (structure.springs[node, 3:] != 0)
        if np.abs(elements.axes[knee.sides[0][0]][1][turns]).max(initial=0.0) > IN_PLANE:
            supported.add(i)
        else:
            found.setdefault(i, []).append(knee)
    for own in found.values():
        own.sort(key=lambda knee: knee.x)
    return Knees(found, aside, frozenset(cranked), frozenset(supported))


def _by_links(structure: Structure, node: int) -> list[tuple[int, int, float]]:
    """Members that rigid links join to a node: their numbers, the nodes that they start from there, and how far these are, m."""
    found = []
    for i in structure.meeting[node]:
        link = structure.members[i]
        if link.behaviour != "rigid link":
            continue
        end = link.nodes[-1] if link.nodes[0] == node else link.nodes[0]
        gap = float(np.linalg.norm(structure.xyz[end] - structure.xyz[node]))
        found += [(j, end, gap) for j in structure.meeting[end] if j != i and _rigid(structure.members[j], end)]
    return found


def _rigid(m: Member, node: int) -> bool:
    """Whether a beam takes moments about its strong axis over a node."""
    released = m.release_start if node == m.nodes[0] else m.release_end if node == m.nodes[-1] else frozenset()
    return not (m.bar or m.behaviour == "rigid link" or "ry" in released)


def _way(structure: Structure, i: int) -> Floats:
    step = structure.xyz[structure.ends[i, 1]] - structure.xyz[structure.ends[i, 0]]
    return np.asarray(step / np.linalg.norm(step))


def _through(structure: Structure, node: int, rigid: list[int]) -> int | None:
    """Which member runs through a rigid joint: one that is upright in one piece, else one in one piece, else the upright one that ends there
    from below, or from above; None where none is upright."""
    upright = [i for i in rigid if abs(_way(structure, i)[2]) > UPRIGHT]
    whole = [i for i in rigid if node in structure.members[i].nodes[1:-1]]
    if not upright:
        return None
    below = [
        i for i in upright if structure.xyz[list(structure.members[i].nodes), 2].min() < structure.xyz[node, 2] - 1e-6
    ]
    return ([i for i in whole if i in upright] + whole + below + upright)[0]


def _cranked(structure: Structure, rigid: list[int]) -> set[int]:
    """Members that are joined at an angle in an upright plane."""
    ways = {i: _way(structure, i) for i in rigid}
    return {
        i
        for i, way in ways.items()
        if any(np.linalg.norm(np.cross(way, other)[:2]) > ANGLED for j, other in ways.items() if j != i)
    }


def _knee(made: _Made, i: int, node: int, others: list[tuple[int, int, float]]) -> tuple[Knee | None, tuple[Beam, ...]]:
    """The panel of a member at a node, None where nothing bends it there in the plane of its web; and what bends it the other way."""
    structure, elements = made.structure, made.elements
    m, rows, last = structure.members[i], elements.rows(i), made.last
    place = m.nodes.index(node)
    sides = [(int(rows[k]), s, 1.0) for k, s in ((place - 1, last), (place, 0)) if 0 <= k < len(rows)]
    e = sides[0][0]
    x, y, z = elements.axes[e]
    section = made.sections[e]
    beams, aside = [], []
    for j, at, gap in others:
        way = _way(structure, j)
        if abs(way @ x) > 1 - 1e-6 and at in (structure.members[j].nodes[0], structure.members[j].nodes[-1]):
            if len(sides) == 1 and at == node:
                sides.append(_onward(made, j, node, (x, z)))
        elif abs(way @ z) > IN_PLANE:
            beams += _beams(made, j, at, y, max(section.h / 2 / abs(float(way @ z)) - gap, 0.0))
        elif abs(way @ y) > IN_PLANE:
            aside += _beams(made, j, at, z, 0.0)
    along = float(np.linalg.norm(structure.xyz[node] - structure.xyz[m.nodes[0]]))
    return Knee(along, tuple(sides), tuple(beams), section) if beams else None, tuple(aside)


def _onward(made: _Made, j: int, node: int, axes: tuple[Floats, Floats]) -> tuple[int, int, float]:
    """The side of a member that goes on from a node, with the sign of its shear in another's axes x and z."""
    elements, m = made.elements, made.structure.members[j]
    rows = elements.rows(j)
    e, s = (int(rows[0]), 0) if m.nodes[0] == node else (int(rows[-1]), made.last)
    return e, s, float((elements.axes[e][0] @ axes[0]) * (elements.axes[e][2] @ axes[1]))


def _beams(made: _Made, j: int, node: int, y: Floats, face: float) -> list[Beam]:
    """What a member that meets another brings to its faces, m from the node: once, or from both sides where it runs through."""
    elements, x = made.elements, made.x
    m, rows = made.structure.members[j], elements.rows(j)
    place = m.nodes.index(node)
    found = []
    for k, onward in ((place - 1, -1), (place, 1)):
        if not 0 <= k < len(rows):
            continue
        left = face
        # the face may lie beyond elements that are shorter
        while left > elements.length[rows[k]] and 0 <= k + onward < len(rows):
            left -= float(elements.length[rows[k]])
            k += onward
        e = int(rows[k])
        at = min(left, float(elements.length[e])) if onward > 0 else max(float(elements.length[e]) - left, 0.0)
        s = int(np.clip(np.searchsorted(x[e], at, side="right") - 1, 0, x.shape[1] - 2))
        step = float(x[e, s + 1] - x[e, s])
        of = made.sections[e]
        z = of.h - (of.tf + (of.tf2 or of.tf)) / 2
        found.append(Beam(e, s, (at - float(x[e, s])) / step, -onward * float(elements.axes[e][1] @ y), z, j))
    return found
