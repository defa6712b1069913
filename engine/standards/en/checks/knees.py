"""Knees and other rigid joints: the panel of a column's web that the moments of beams shear (EN 1993-1-8 6.2.6.1)."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.knees_at import Beam, Knee
from engine.standards.en.web_panels import STOCKY, panel_check, supplement
from engine.structure.model import Floats
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: sections whose webs are checked
WEBBED = ("I", "welded I")
#: share of a member's elastic moment from which on what is not checked is told
TOLD = 0.02
SLENDER = (
    "its web is too slender for the shear of a panel at a rigid joint (EN 1993-1-8 6.2.6.1(1)): that is not checked"
)
WALLS = "members are joined to it rigidly: what that asks of its walls there is not checked (EN 1993-1-8 6, 7)"
ASIDE = "members are joined rigidly to the side of its web: what that asks of the web and of stiffeners there is not checked (EN 1993-1-8)"
DIAGONAL = "the shear of its panels at rigid joints is taken by diagonal stiffeners that are stated, and not verified"
UNKNOWN = "what is joined to it rigidly is known by its stiffness alone: the panel of its web there is not checked (EN 1993-1-8 6.2.6.1)"
CRANKED = "members are joined to it rigidly at an angle, none of them upright: the panel of its web there is not checked (EN 1993-1-8 6.2.6.1)"
SUPPORTED = "members are joined to it rigidly at a support that holds it: the panel of its web there is not checked (EN 1993-1-8 6.2.6.1)"


def _area(grounds: SteelGrounds, i: int, s: Section) -> float:
    """A_vc of a web with what is stated to strengthen it."""
    own = s.Av_z if s.shape == "I" else (s.h - s.tf - (s.tf2 or s.tf)) * s.tw
    if grounds.combined.structure.members[i].checks.knees != "plates":
        return own
    return own + float(supplement(np.asarray(_clear(s)), np.asarray(s.tw), grounds.steel.fy[i]))


def of_member(grounds: SteelGrounds, member: int) -> list[Knee]:
    """The panels of a member that are checked."""
    m, fy = grounds.combined.structure.members[member], grounds.steel.fy[member]
    own = grounds.knees.found.get(member, [])
    if m.checks.knees == "diagonals" or not np.isfinite(fy):
        return []
    return [knee for knee in own if knee.section.shape in WEBBED and _stocky(knee.section, fy) and _deep(knee)]


def _deep(knee: Knee) -> bool:
    """Whether it is known how deep all of what is joined there is."""
    return all(beam.z > 0 for beam in knee.beams)


def _stocky(s: Section, fy: float) -> bool:
    return bool(_clear(s) <= STOCKY * np.sqrt(235e6 / fy) * s.tw)


def _clear(s: Section) -> float:
    """Depth of a web between its root radii."""
    return s.h - s.tf - (s.tf2 or s.tf) - 2 * s.r


def arms_of(grounds: SteelGrounds, member: int, row: int) -> dict[int, float]:
    """Beams at one of a member's panels, by number, and the distances of their flanges, m."""
    return {beam.member: beam.z for beam in of_member(grounds, member)[row].beams}


def at_faces(grounds: SteelGrounds, beams: tuple[Beam, ...], columns: list[int] | slice) -> Floats:
    """(beams, combinations) the moments of beams at a member's faces, as they turn its panel."""
    e, s, share, turn = (
        np.array(values) for values in zip(*((b.element, b.station, b.share, b.turn) for b in beams), strict=True)
    )
    My, Vz, x = grounds.analysed.My, grounds.analysed.Vz, grounds.combined.stations
    # a cubic through the moments with their slopes, the shear: exact between stations
    t, step = share[:, None], (x[e, s + 1] - x[e, s])[:, None]
    at = (1 - 3 * t**2 + 2 * t**3) * My[e, s][:, columns] + (3 * t**2 - 2 * t**3) * My[e, s + 1][:, columns]
    at += step * ((t - 2 * t**2 + t**3) * Vz[e, s][:, columns] + (t**3 - t**2) * Vz[e, s + 1][:, columns])
    return np.asarray(turn[:, None] * at)


def knee_values(grounds: SteelGrounds, member: int, columns: list[int] | slice = slice(None)) -> dict[str, Any]:
    """`panel_check` of the panels of a member, (panels, combinations)."""
    f, gamma = grounds.analysed, grounds.document.rules.gamma_M0
    M, flanges, shear, area = [], [], [], []
    for knee in of_member(grounds, member):
        at_face = at_faces(grounds, knee.beams, columns)
        M.append(at_face.sum(axis=0))
        flanges.append((at_face / np.array([[b.z] for b in knee.beams])).sum(axis=0))
        e, s, sign = (np.array(values) for values in zip(*knee.sides, strict=True))
        shear.append(sign @ f.Vz[e, s][:, columns] / 2)
        area.append(_area(grounds, member, knee.section))
    v = panel_check(np.array(flanges), np.array(shear), np.array(area)[:, None], grounds.steel.fy[member], gamma)
    return v | {"M_knee": np.array(M), "A_vc": np.array(area)[:, None] + 0 * v["V_wp"]}


def panels(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes of each member with panels, and to what the verdicts of others leave out."""
    held = []
    knees = grounds.knees
    for i in sorted({*knees.found, *knees.aside, *knees.cranked, *knees.supported}):
        found.left_out[i] += _unsaid(grounds, i)
        own = of_member(grounds, i)
        if not own:
            continue
        u = knee_values(grounds, i)["u_knee"]
        row, c = (int(k) for k in np.unravel_index(int(u.argmax()), u.shape))
        found.outcomes[i].append(Outcome("knee", float(u[row, c]), c, own[row].x, row))
        held.append(_shown(i, own, u.max(axis=1)))
    return held


def _unsaid(grounds: SteelGrounds, i: int) -> list[str]:
    """What is not checked where members are joined rigidly to one that bends, in words."""
    m, knees = grounds.combined.structure.members[i], grounds.knees
    if m.material.strength is None:
        return []
    little = TOLD * m.material.fy(max(m.section.tf, m.section.tw))
    webbed = m.section.shape in WEBBED
    said = []
    brought = (at_faces(grounds, beams, slice(None)).sum(axis=0) for beams in knees.aside.get(i, ()))
    if any(np.abs(M).max(initial=0.0) > little * m.section.Wel_z for M in brought):
        said.append(ASIDE if webbed else WALLS)
    bent = np.abs(grounds.analysed.My[grounds.combined.elements.rows(i)]).max(initial=0.0)
    if bent <= little * m.section.Wel_y:
        return said
    said += [CRANKED] if i in knees.cranked and webbed else []
    said += [SUPPORTED] if i in knees.supported else []
    own = knees.found.get(i, [])
    if any(knee.section.shape not in WEBBED for knee in own):
        return list(dict.fromkeys([*said, WALLS]))
    if own and m.checks.knees == "diagonals":
        return [*said, DIAGONAL]
    said += [UNKNOWN] if not all(map(_deep, own)) else []
    return [*said, SLENDER] if not all(_stocky(knee.section, grounds.steel.fy[i]) for knee in own) else said


def _shown(member: int, own: list[Knee], u: Floats) -> Held:
    """Over the depth of the beams."""
    at, half = np.array([k.x for k in own]), np.array([max(b.z for b in k.beams) / 2 for k in own])
    return Held(np.full(len(own), member), at - half, at + half, u)


def panels_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The panels of a member in every combination."""
    own = of_member(grounds, member)
    if not own:
        return []
    u = knee_values(grounds, member)["u_knee"]
    return [most_of("knee", grounds.strength, u, [(k, -1, knee.x) for k, knee in enumerate(own)])]


def panels_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what panels reach."""
    for i in grounds.knees.found:
        if not of_member(grounds, i):
            continue
        most[i] = np.maximum(most[i], knee_values(grounds, i)["u_knee"].max(axis=0))


def panels_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What panels reach in one combination for strength."""
    return [
        _shown(i, own, knee_values(grounds, i, [column])["u_knee"][:, 0])
        for i in grounds.knees.found
        if (own := of_member(grounds, i))
    ]
