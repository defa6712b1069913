"""What stays lead to: the purlins, rails and members that keep a member from twisting where both its flanges are held."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import isnan, nan

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import material
from engine.document import Document
from engine.document.jigs import Purlins
from engine.jigs.profile import purlin_positions
from engine.standards.en import cold_bending
from engine.standards.en.checks.sheeting import sheeting_of
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure

#: shapes that turn about their axis as they buckle, and whose flanges are known
STAYED = ("I", "welded I")
#: of 4 E I/L, what is left where the far end turns as much the other way: the next member that buckles, against this one
OPPOSED = 2.0
#: places nearer than this are one, m; cosines from which on directions count as one, and as one line
SAME, ALONG, STRAIGHT = 1e-3, 0.7, 1 - 1e-6
#: rise over length from which on a member of a hall is held by its rails, not by its purlins
STEEP = 0.8

UNKNOWN = "its stays count as stiff and strong: nothing is known of what they lead to"
UNPROVEN = "what its stays lead to is not verified for the moments that they bring: what it bears is not known"


@dataclass(frozen=True)
class Side:
    """What bends with a stay, to one side of it. rotation: Nm per radian at the stay; resistance: Nm, NaN where it is not known; member: its
    number, the node of the stay, and whether it goes on from there towards its end (1) or its start (−1), None beside the model; about: the axis
    about which it bends."""

    rotation: float
    resistance: float = nan
    member: tuple[int, int, int] | None = None
    about: str = "y"


@dataclass(frozen=True)
class Stay:
    """A stay of a member at x, m from its start, and what it leads to, in words."""

    x: float
    sides: tuple[Side, ...]
    what: str

    @property
    def rotation(self) -> float:
        """Nm per radian of all sides."""
        return sum(side.rotation for side in self.sides)


def stays_of(document: Document, structure: Structure, number: int, facing: int = 1) -> tuple[list[Stay], list[float]]:
    """The stays of a member of which it is known what they lead to, and the places of the others, m from its start. A stay is where both flanges are
    held between the ends of an I section, and sheeting does not hold them, or the flange that is not pushed by loads (`facing`) by itself."""
    m = structure.members[number]
    places, alone = _places(document, structure, m, facing)
    stated = document.rules.stays.get(m.role)  # type: ignore[call-overload]
    if stated and stated.rotation:
        side = Side(stated.rotation * 1000, stated.moment * 1000 or nan)
        return [Stay(x, (side,), "what is stated for them") for x in places], alone
    found, others = [], list(alone)
    for x in places:
        sides = _meeting(structure, number, x)
        names = " and ".join(sorted({structure.members[s.member[0]].section.name for s in sides if s.member}))
        stay = Stay(x, sides, names) if sides else _beside(document, structure, m, x)
        if stay:
            found.append(stay)
        else:
            others.append(x)
    return found, others


def _places(document: Document, structure: Structure, m: Member, facing: int) -> tuple[list[float], list[float]]:
    """Where both flanges are held between the ends, and where the flange is held alone that purlins do not lie on; m from the start."""
    if m.bar or m.section.shape not in STAYED or m.material.strength is None:
        return [], []
    length = structure.length(m)
    outer, inner = ([x for x in places if SAME < x < length - SAME] for places in (m.outer, m.inner))
    purlins, stays = (outer, inner) if facing > 0 or (facing == 0 and len(outer) >= len(inner)) else (inner, outer)
    held = sheeting_of(document, structure, m) if stays else None
    if not stays or (held and held.twist):
        return [], []
    both = [x for x in stays if any(abs(x - place) < SAME for place in purlins)]
    return both, [x for x in stays if x not in both]


def _meeting(structure: Structure, number: int, x: float) -> tuple[Side, ...]:
    """What meets a member at a place, across it, and bends as it twists."""
    m = structure.members[number]
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    way, across, up = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    found = []
    for node in m.nodes[1:-1]:
        if abs(float((structure.xyz[node] - ends[0]) @ way) - x) > SAME:
            continue
        for j in structure.meeting[node]:
            other = structure.members[j]
            if j == number or other.bar or other.behaviour == "rigid link":
                continue
            for k in _sides(other, node):
                side = _side(structure, j, node, k, across, up)
                found += [side] if side else []
    return tuple(found)


def _sides(member: Member, node: int) -> list[int]:
    """The ways in which a member goes on from a node: 1 towards its end, −1 towards its start."""
    return [way for way, end in ((1, member.nodes[-1]), (-1, member.nodes[0])) if node != end]


def _side(structure: Structure, j: int, node: int, way: int, across: Floats, up: Floats) -> Side | None:
    """What one side of a stay bends: a member from the stay to where the next thing holds it; None where it does not lie across, or ends free."""
    m = structure.members[j]
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    along, _, z = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    if abs(along @ across) < ALONG:
        return None
    about = "y" if abs(z @ up) > ALONG else "z"
    flexible, at, on, first = 0.0, node, j, way
    for _ in range(len(structure.members)):
        other = structure.members[on]
        nodes = other.nodes[other.nodes.index(at) :] if way > 0 else other.nodes[other.nodes.index(at) :: -1]
        for a, b in pairwise(nodes):
            own = other.section.Iy if about == "y" else other.section.Iz
            flexible += float(np.linalg.norm(structure.xyz[b] - structure.xyz[a])) / (other.material.E * own)
            if _held(structure, b, along):
                return Side(OPPOSED / flexible, nan, (j, node, first), about)
        at = nodes[-1]
        # only what goes on in its line meets it there
        following = [(i, w) for i in structure.meeting[at] if i != on for w in _sides(structure.members[i], at)]
        if not following:
            return None
        on, way = following[0]
    return None


def _held(structure: Structure, node: int, along: Floats) -> bool:
    """Whether something beside the line itself is there: a support, or a member at an angle to it that bends."""
    if (structure.fixed[node, :3] | (structure.springs[node, :3] != 0)).any():
        return True
    for i in structure.meeting[node]:
        m = structure.members[i]
        step = structure.xyz[m.nodes[-1]] - structure.xyz[m.nodes[0]]
        if not m.bar and m.behaviour != "rigid link" and abs(step @ along) < STRAIGHT * np.linalg.norm(step):
            return True
    return False


def _beside(document: Document, structure: Structure, m: Member, x: float) -> Stay | None:
    """A purlin or rail of the hall that is none of the model, where one lies at a place of a column or rafter of its frames."""
    hall = document.hall
    if hall is None or m.jig != "hall" or not m.frame or m.place:
        return None
    start, end = (structure.xyz[m.nodes[k]] for k in (0, -1))
    length = structure.length(m)
    steep = abs(end[2] - start[2]) > STEEP * length
    kind = hall.rails if steep else hall.purlins
    if m.role not in ("column", "rafter") or kind is None or kind.modelled:
        return None
    if not any(abs(x - place) < SAME for place in purlin_positions(length, kind)):
        return None
    bends = _stiffness(document, kind)
    if bends is None:
        return None
    EI, M_Rd, what = bends
    bays = [hall.spacings[k] for k in (m.frame - 2, m.frame - 1) if 0 <= k < len(hall.spacings)]
    return Stay(x, tuple(Side(OPPOSED * EI / bay, M_Rd) for bay in bays), what)


def _stiffness(document: Document, kind: Purlins) -> tuple[float, float, str] | None:
    """E I in Nm² of purlins or rails that are no members, and the moment in Nm that they bear, NaN where it is not known; None where nothing is."""
    if kind.cold:
        s, steel = section(kind.cold.section), material(kind.cold.grade)
        fy = steel.fy(s.tw)
        walls = cold_bending.walls(s)
        if isnan(fy) or cold_bending.beyond(walls):
            return None
        v = cold_bending.bent(walls, steel, fy)
        return steel.E * v["I_eff"], v["W_eff"] * fy / document.rules.gamma_M0, s.name
    table = next((t for t in document.load_tables if t.name == kind.table), None)
    if table is None or not table.stiffness:
        return None
    return table.stiffness * 1000, table.moment * 1000 or nan, table.name
