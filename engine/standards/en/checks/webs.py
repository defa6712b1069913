"""Webs of I sections where something presses on a flange: point loads, supports and members that meet them (EN 1993-1-5 6)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.analysis.stations import ACROSS
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.transverse import Values, transverse_check
from engine.structure.model import Floats, Member, Structure
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: directions nearer to each other than this (of a cosine) count as one
ALONG = 0.7
#: members whose directions differ by less than this (of a cosine) lie on one line
STRAIGHT = 1e-6
#: how far from the place of a force a picture shows what it does, m
SHOWN = 1e-4
#: shapes whose webs this is for; haunches and tapers are such sections by pieces, where they have no flange between
WEBBED = ("I",)
#: what presses where members end on both flanges
BOTH = "members on both sides"
UNSTATED = "its bearing on supports at its ends is not checked: no bearing length is stated (EN 1993-1-5 6)"
OTHER = "forces that press on its side are not checked: EN 1993-1-5 6 is for webs of I sections"
THROUGH = (
    "members press on it from both sides at one place: a force through its web (EN 1993-1-5 6.1(2)b) is not checked"
)
HAUNCHED = "a force presses where it has a haunch: that is not checked (EN 1993-1-5 6)"


#: a side of a place: element, station, and the sign with which its shear counts
Side = tuple[int, int, float]


@dataclass(frozen=True)
class Pressed:
    """A place where something presses on a flange. sides: before and behind it, one alone at an end of the member; x: m from the start;
    what: in words; through: members end on both flanges, one above the other, and press through the web (type (b))."""

    sides: tuple[Side, ...]
    x: float
    end: bool
    what: str
    through: bool = False


def pressed(grounds: SteelGrounds, member: int) -> list[Pressed]:
    """Every such place of a member, from its start. Where it goes on in another member on its line, its end is no end."""
    combined = grounds.combined
    structure, elements, loads = combined.structure, combined.elements, combined.response.loads
    m = structure.members[member]
    rows = elements.rows(member)
    stations = grounds.analysed.x
    places, last = elements.positions(stations, rows), stations.shape[1] - 1
    start, way = int(rows[0]), elements.axes[rows[0]][2]
    sideways = np.abs(loads.force[:, 2]) > 1e-9
    found = []
    for e in np.intersect1d(rows, loads.point[sideways, 0]).tolist():
        # the two stations beside a load inside the element
        for s in np.flatnonzero(np.diff(stations[e]) <= ACROSS * elements.length[e]).tolist():
            sides = ((e, s, 1.0), (e, s + 1, -1.0))
            found.append(Pressed(sides, float(places[e - start, s]), False, "a load"))
    for e in rows[:-1].tolist():
        sides = ((e, last, 1.0), (e + 1, 0, -1.0))
        what = _presses(grounds, {member}, int(elements.ends[e, 1]), way, sides)
        if what:
            found.append(Pressed(sides, float(places[e - start, last]), False, what, what == BOTH))
    for e, s, node in ((start, 0, m.nodes[0]), (int(rows[-1]), last, m.nodes[-1])):
        x, sign = float(places[e - start, s]), 1.0 if s else -1.0
        goes_on = beyond(grounds, member, node, last)
        if goes_on is not None:
            other, side = goes_on
            what = _presses(grounds, {member, other}, node, way, ((e, s, sign), side))
            if what:
                found.append(Pressed(((e, s, sign), side), x, False, what, what == BOTH))
        elif abs(elements.axes[e][0][2]) < ALONG and _supported(structure, node, way):
            found.append(Pressed(((e, s, sign),), x, True, "a support"))
    return sorted(found, key=lambda place: place.x)


def beyond(grounds: SteelGrounds, member: int, node: int, last: int) -> tuple[int, Side] | None:
    """The member that goes on from a node on the same line, bent as one with this one, and its side there; None where none does: what is
    hinged there meets it by plates."""
    structure, elements = grounds.combined.structure, grounds.combined.elements
    if _hinged(structure.members[member], node):
        return None

    def way(of: int) -> Floats:
        return np.asarray(structure.xyz[structure.ends[of, 1]] - structure.xyz[structure.ends[of, 0]])

    own = way(member) / np.linalg.norm(way(member))
    for j in structure.meeting.get(node, ()):
        m = structure.members[j]
        if j == member or m.bar or node not in (m.nodes[0], m.nodes[-1]) or _hinged(m, node):
            continue
        if abs(way(j) @ own) < (1 - STRAIGHT) * np.linalg.norm(way(j)):
            continue
        rows = elements.rows(j)
        return (j, (int(rows[-1]), last, 1.0)) if node == m.nodes[-1] else (j, (int(rows[0]), 0, -1.0))
    return None


def _hinged(member: Member, node: int) -> bool:
    return "ry" in (member.release_start if node == member.nodes[0] else member.release_end)


def _supported(structure: Structure, node: int, way: Floats) -> bool:
    held = structure.fixed[node, :3] | (structure.springs[node, :3] != 0)
    return bool(np.abs(way[held]).max(initial=0.0) > ALONG)


def _presses(grounds: SteelGrounds, own: set[int], node: int, way: Floats, sides: tuple[Side, ...]) -> str:
    """What presses at a node on the members that run through it, along their local z: a support, a load, a member that ends there; ""
    where nothing does. Bars meet them by plates; what goes on behind them passes by."""
    combined = grounds.combined
    structure, loads, length = combined.structure, combined.response.loads, combined.elements.length
    if _supported(structure, node, way):
        return "a support"
    for e, s, _ in sides:
        near = np.abs(loads.at - (length[e] if s else 0.0)) <= ACROSS * length[e]
        if (near & (loads.point[:, 0] == e) & (np.abs(loads.force[:, 2]) > 1e-9)).any():
            return "a load"
    if any(p.node == node and abs(p.force @ way) > 1e-9 for p in combined.response.system.loading.points):
        return "a load"
    meets = []
    for i in structure.meeting.get(node, ()):
        other = structure.members[i]
        step = structure.xyz[other.nodes[-1]] - structure.xyz[other.nodes[0]]
        if i not in own and not other.bar and abs(step @ way) > ALONG * np.linalg.norm(step):
            meets.append(other)
    if not all(node in (other.nodes[0], other.nodes[-1]) for other in meets):
        return ""
    if len(meets) > 1:
        # a column between its beams has plates on both sides, also where beams and columns are all joined rigidly and end there; else
        # a beam between two columns bears them with its web
        framed = len(own) > 1 and not any(_hinged(other, node) for other in meets)
        return BOTH if abs(way[2]) > ALONG and not framed else ""
    return "a member that meets it" if meets else ""


def checked(grounds: SteelGrounds, member: int) -> list[Pressed]:
    """The places of a member that are checked: not where stiffeners are stated, nor at its ends without a bearing length."""
    m = grounds.combined.structure.members[member]
    if m.bar or m.section.shape not in WEBBED or m.checks.stiffened or not np.isfinite(grounds.steel.fy[member]):
        return []
    return [
        p
        for p in pressed(grounds, member)
        if (m.checks.bearing or not p.end) and not p.through and not _haunch(grounds, p)
    ]


def _haunch(grounds: SteelGrounds, place: Pressed) -> bool:
    return bool((grounds.haunched_row[[e for e, _, _ in place.sides]] >= 0).any())


def jump(grounds: SteelGrounds, sides: tuple[Side, ...]) -> Floats:
    """(combinations,) the jump of the shear over the sides of a place, N, either way."""
    axes = grounds.combined.elements.axes
    of, at, sign = (np.array(column) for column in zip(*sides, strict=True))
    turned = sign * (axes[of][:, 2] @ axes[of[0]][2])
    return np.asarray(np.abs(turned @ grounds.analysed.Vz[of, at]))


def web_values(
    grounds: SteelGrounds,
    member: int,
    places: list[Pressed],
    columns: list[int] | slice = slice(None),
) -> Values:
    """`transverse_check` at places of a member, (places, combinations). The force is the jump of the shear, either way."""
    f = grounds.analysed
    end = np.array([place.end for place in places])[:, None]
    e = np.array([place.sides[0][0] for place in places])
    jumps, moments, axial = [], [], []
    for place in places:
        of, at, _ = (np.array(column) for column in zip(*place.sides, strict=True))
        jumps.append(jump(grounds, place.sides)[columns])
        moments.append(np.abs(f.My[of, at][:, columns]).max(axis=0))
        own = grounds.forces.N[of, at][:, columns]
        axial.append(np.take_along_axis(own, np.abs(own).argmax(axis=0)[None], axis=0)[0])
    F, My, N = (np.array(values) for values in (jumps, moments, axial))
    ss = (grounds.combined.structure.members[member].checks.bearing or 0.0) / 1000
    p = grounds.element_steel.take(grounds.steel_of[e], 1)
    gammas = grounds.document.rules.gamma_M0, grounds.document.rules.gamma_M1
    v = transverse_check(p, F, N, My, np.full(F.shape, ss), end, *gammas)
    return v | {"F": F, "N": N, "My": My}


def webs(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes of each member on whose flanges something presses, and to what its verdict leaves out."""
    held = []
    for i, m in enumerate(grounds.combined.structure.members):
        if m.bar or m.material.strength is None:
            continue
        every = pressed(grounds, i)
        if not every:
            continue
        found.left_out[i] += _unsaid(grounds, m, every)
        places = checked(grounds, i)
        if not places:
            continue
        u = web_values(grounds, i, places)["u_web"]
        row, c = (int(k) for k in np.unravel_index(int(u.argmax()), u.shape))
        found.outcomes[i].append(Outcome("web", float(u[row, c]), c, places[row].x, row))
        at = np.array([place.x for place in places])
        held.append(Held(np.full(len(at), i), at - SHOWN, at + SHOWN, u.max(axis=1)))
    return held


def _unsaid(grounds: SteelGrounds, m: Member, every: list[Pressed]) -> list[str]:
    """What is not checked of the places where something presses on a member, in words."""
    if m.section.shape not in WEBBED:
        return [OTHER] if any(not p.end for p in every) and not m.checks.stiffened else []
    if m.checks.stiffened:
        return [THROUGH] if any(p.through for p in every) else []
    found = [HAUNCHED] if any(_haunch(grounds, p) for p in every if not p.end) else []
    found += [THROUGH] if any(p.through for p in every) else []
    return [*found, UNSTATED] if any(p.end for p in every) and not m.checks.bearing else found


def webs_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The places of a member where something presses; nothing where nothing does."""
    places = checked(grounds, member)
    if not places:
        return []
    u = web_values(grounds, member, places)["u_web"]
    return [most_of("web", grounds.strength, u, [(k, -1, place.x) for k, place in enumerate(places)])]


def webs_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what webs reach."""
    for i in range(len(most)):
        places = checked(grounds, i)
        if places:
            most[i] = np.maximum(most[i], web_values(grounds, i, places)["u_web"].max(axis=0))


def webs_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What webs reach in one combination for strength."""
    held = []
    for i in range(len(grounds.combined.structure.members)):
        places = checked(grounds, i)
        if places:
            at = np.array([place.x for place in places])
            u = web_values(grounds, i, places, [column])["u_web"][:, 0]
            held.append(Held(np.full(len(at), i), at - SHOWN, at + SHOWN, u))
    return held
