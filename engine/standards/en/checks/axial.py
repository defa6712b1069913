"""Bars of angles, tees, channels, rounds and flats: axial force alone."""

from __future__ import annotations

import numpy as np

from engine.standards.en.axial import SHAPES, Values, axial_check, bar, thickest
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.net import BOTH_LEGS, UNKNOWN
from engine.structure.model import Floats, Member
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of
from engine.verification.unloaded import laden

#: what a verdict on such a bar does not speak for
LEFT_OUT = {
    "angle": "its ends count as held by two bolts or a weld (BB.1.2)",
    "double angle": "its parts count as joined at most every 15 i_min (6.4.4)",
    "double channel": "its parts count as joined at most every 15 i_min (6.4.4)",
    "tee": "the eccentricity of its connections is not checked",
    "channel": "the eccentricity of its connections is not checked",
    "round": "its thread or ends are not checked",
}


#: what such bars are not checked for
ACROSS = "a bar of this shape is checked for its axial force alone"
#: shares of the elastic moment resistance from which on bending by loads is told, and from which on it is not covered and that by its own weight is told
BENT, SAGS = 0.02, 0.10


def left_out_of(member: Member) -> list[str]:
    """What a verdict on such a bar leaves out, in words."""
    shape = member.section.shape
    found = [LEFT_OUT[shape]] if shape in LEFT_OUT else []
    holes = member.checks.holes
    if holes and shape == "angle" and not holes.rows:
        found.append(BOTH_LEGS)
    return found if holes or shape == "round" else [*found, UNKNOWN]


def is_axial(member: Member) -> bool:
    """Whether a member is a bar of a shape that is checked here."""
    return member.bar and member.section.shape in SHAPES and member.material.strength is not None


def axial_values(grounds: SteelGrounds, member: int, columns: list[int] | slice = slice(None)) -> Values:
    """`axial_check` on a bar, the largest tension and compression along it in each combination: tension where it is larger."""
    m = grounds.combined.structure.members[member]
    most, least = grounds.extremes(member, columns)
    lengths = grounds.lengths[member]
    limits = grounds.limits[:, member][:, columns]
    p = bar(m.section, m.material, lengths.y, lengths.z, lengths.torsion)
    gammas = grounds.document.rules.gamma_M0, grounds.document.rules.gamma_M1
    pulled, pressed = (axial_check(p, N, *gammas, limits[0], limits[1]) for N in (most, least))
    pulls = pulled["u_axial"] > pressed["u_axial"]
    v = pressed | {"N": np.where(pulls, most, least)}
    return v | {name: np.where(pulls, pulled[name], pressed[name]) for name in ("u_t", "u_c", "u_axial")}


def _bent(grounds: SteelGrounds, member: int) -> float:
    """What bends a bar at most, as a share of its elastic moment resistance, both axes added."""
    m, f = grounds.combined.structure.members[member], grounds.analysed
    rows = grounds.combined.elements.rows(member)
    s, fy = m.section, m.material.fy(thickest(m.section))
    return float((np.abs(f.My[rows]) / s.Wel_y + np.abs(f.Mz[rows]) / s.Wel_z).max(initial=0.0)) / fy


def _bending(grounds: SteelGrounds, member: int, found: Findings, u: float, loaded: bool) -> None:
    """What bends a bar that is checked for its axial force alone, which uses it to u: loads across it are not covered but for little of them, beside which the
    sum of both shares, grown as much as its axial force may let it, stays below 1; little of them and its own weight are told."""
    share = _bent(grounds, member)
    if share <= BENT:
        return
    of = f"up to {share:.2f} of its elastic moment resistance"
    if loaded and not (share <= SAGS and u < 1 and u + share / (1 - u) <= 1):
        found.reasons[member].append(f"loads across it bend it, {of}: {ACROSS}")
    elif loaded:
        found.left_out[member].append(f"loads across it bend it, {of}: that is not checked")
    elif share > SAGS and grounds.combined.structure.members[member].behaviour != "tension-only":
        found.left_out[member].append(f"its own weight bends it, {of}: that is not checked")


def axial(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each such bar, and to what its verdict leaves out; gives what they reach."""
    structure = grounds.combined.structure
    bars: list[tuple[int, float, float]] = []
    own = [(i, m) for i, m in enumerate(structure.members) if is_axial(m)]
    if not own:
        return []
    across = laden(structure, grounds.combined.response.system.loading)
    for i, m in own:
        u = axial_values(grounds, i)["u_axial"]
        found.left_out[i] += left_out_of(m)
        _bending(grounds, i, found, float(np.nan_to_num(u).max()), bool(across[i]))
        if np.isnan(u).any():
            found.reasons[i].append("a class 4 cross-section of this shape, not all of it effective, is not covered")
            found.slender.add(i)
        length = structure.length(m)
        c = int(np.argmax(np.nan_to_num(u, nan=-1.0)))
        found.outcomes[i].append(Outcome("axial", float(u[c]), c, length / 2, i))
        bars.append((i, length, float(np.nan_to_num(u[c]))))
    members, lengths, most = (np.array(column) for column in zip(*bars, strict=True))
    found.along[np.isin(grounds.combined.elements.member, members)] = 0.0
    return [Held(members.astype(np.int64), np.zeros(len(members)), lengths, most)]


def axial_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What such bars reach in one combination for strength; along (e, s) them it begins at none."""
    structure = grounds.combined.structure
    rows = [i for i, m in enumerate(structure.members) if is_axial(m)]
    most = [float(np.nan_to_num(axial_values(grounds, i, [column])["u_axial"][0])) for i in rows]
    ends = [structure.length(structure.members[i]) for i in rows]
    along[np.isin(grounds.combined.elements.member, rows)] = 0.0
    return [Held(np.array(rows, dtype=np.int64), np.zeros(len(rows)), np.array(ends), np.array(most))]


def axial_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """A bar in every combination for strength; nothing for other members."""
    m = grounds.combined.structure.members[member]
    if not is_axial(m):
        return []
    u = axial_values(grounds, member)["u_axial"]
    return [most_of("axial", grounds.strength, u[None], [(member, -1, grounds.combined.structure.length(m) / 2)])]


def axial_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what such bars reach."""
    for i, m in enumerate(grounds.combined.structure.members):
        if is_axial(m):
            most[i] = np.maximum(most[i], np.nan_to_num(axial_values(grounds, i)["u_axial"]))
