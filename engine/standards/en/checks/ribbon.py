"""A member laid flat: its flanges between their restraints, with what buckles sideways there, and figures beside them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Literal

import numpy as np

from engine.standards.en.checks.alike import Segments, general_stretches
from engine.standards.en.checks.general import general_buckled, general_largest, general_values
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sheeting import sheeting_of
from engine.standards.en.checks.stability import stability_values
from engine.standards.en.checks.stays import asked_of_stays
from engine.standards.en.checks.summed import buckling_use, is_summed
from engine.standards.en.compressed_flange import flange_strut
from engine.structure.model import Floats
from engine.verification.checks import Between, Buckled, Figure
from engine.verification.outcomes import Outcome


def flanges(grounds: SteelGrounds, member: int) -> list[Between]:
    """The segments of a member under every combination for strength; none where there is no such combination."""
    if not grounds.strength:
        return []
    s, m = grounds.segments([member]), grounds.combined.structure.members[member]
    if is_summed(m):
        sideways = np.nan_to_num(buckling_use(grounds, member)[1]["u_single"]).max(axis=1)
    elif m.section.shape == "I":
        v = stability_values(grounds.document, s, grounds.steel, grounds.limits)
        sideways = np.nan_to_num(v["u_LT"]).max(axis=1)
    else:
        sideways = np.zeros(len(s.member))
    stretches = general_largest(grounds, member)
    found = []
    for r, (start, end) in enumerate(zip(s.start.tolist(), s.end.tolist(), strict=True)):
        u = float(sideways[r])
        if s.inside[r]:
            u = next(u for a, b, u in stretches if a < start + 1e-6 and end < b + 1e-6)
        found.append(Between(start, end, _flange(s.flange[r]), float(s.L_LT[r]), u, bool(s.inside[r])))
    return _held_all_along(grounds, member, found)


def _held_all_along(grounds: SteelGrounds, member: int, found: list[Between]) -> list[Between]:
    """What sheeting holds all along as one stretch a flange."""
    structure = grounds.combined.structure
    held = sheeting_of(grounds.document, structure, structure.members[member])
    flanges = {"outer": bool(held and held.sideways), "inner": bool(held and held.twist)}
    kept = [b for b in found if not flanges.get(b.flange)]
    for flange, whole in flanges.items():
        own = [b for b in found if b.flange == flange]
        if whole and own:
            most = max(b.utilisation for b in own)
            kept.append(replace(own[0], end=own[-1].end, utilisation=most))
    return kept


def _flange(sign: float) -> Literal["outer", "inner"]:
    return "outer" if sign > 0 else "inner"


def between(grounds: SteelGrounds, member: int, outcome: Outcome) -> Between | None:
    """The segment or stretch that an outcome looks at; None for those of cross-sections and of the whole member."""
    if outcome.criterion in ("lateral", "interaction", "single", "flexural", "twist"):
        s, row = grounds.segments([member], [outcome.combination]), outcome.row
        return Between(float(s.start[row]), float(s.end[row]), _flange(s.flange[row]), float(s.L_LT[row]))
    if outcome.criterion == "general":
        start, end = general_stretches(grounds.combined.structure, member)[outcome.row]
        return Between(start, end, "", end - start)
    return None


def buckled(grounds: SteelGrounds, member: int, outcomes: Sequence[Outcome]) -> Buckled | None:
    """How a member buckles sideways where the general method verifies it, in what governs there."""
    found = next((o for o in outcomes if o.criterion == "general" and np.isfinite(o.utilisation)), None)
    if found is None:
        return None
    shape = general_buckled(grounds, member, found.row, found.combination)
    return shape if np.isfinite(shape.factor) else None


def figures(grounds: SteelGrounds, member: int, outcomes: Sequence[Outcome]) -> list[Figure]:
    """Of sheeting that holds it, of the general method and of lateral buckling of I sections, where they are among the outcomes."""
    found = _of_sheeting(grounds, member) + _of_stays(grounds, member)
    whole = next((o for o in outcomes if o.criterion == "general"), None)
    if whole:
        v, (start, end) = general_values(grounds, member, whole.row, whole.combination)
        place = f"{start:.2f} m to {end:.2f} m, with its haunch or taper"
        found.append(
            Figure(r"\alpha_{cr,op}", f"{float(v['alpha_op']):.2f}", f"Buckling sideways of {place} (6.3.4(3))")
        )
        found.append(Figure(r"\chi_{op}", f"{float(v['chi_op']):.2f}", "Reduction of the general method (6.3.4(4))"))
    lateral = next((o for o in outcomes if o.criterion == "lateral"), None)
    if lateral and grounds.combined.structure.members[member].section.shape == "I":
        s, c = grounds.segments([member], [lateral.combination]), lateral.combination
        v = stability_values(grounds.document, s.of([lateral.row], [0]), grounds.steel, grounds.limits[..., [c]])
        start, end, flange = s.start[lateral.row], s.end[lateral.row], _flange(s.flange[lateral.row])
        of = f"Of the governing segment, {start:.2f} m to {end:.2f} m, {flange} flange in compression"
        moment = f"{float(v['Mcr'][0, 0]) / 1000:.0f} kNm"
        reduction = f"{float(v['chi_LT'][0, 0]):.2f}"
        found += [
            Figure("L_{LT}", f"{float(s.L_LT[lateral.row]):.2f} m", of),
            Figure("M_{cr}", moment, "Elastic critical moment of the same segment (6.3.2.2)"),
            Figure(r"\chi_{LT}", reduction, "Reduction for lateral-torsional buckling (6.57)"),
            _quickly(grounds, member, s.of([lateral.row], [0]), v),
        ]
    return found


def _quickly(grounds: SteelGrounds, member: int, s: Segments, v: Mapping[str, Floats]) -> Figure:
    """The same segment by its compressed flange alone, which says nothing of where loads act."""
    m, steel, gamma = (
        grounds.combined.structure.members[member],
        grounds.document.national.steel,
        grounds.document.rules.gamma_M1,
    )
    M, M_c = float(s.My[0, 0]), float(v["My_Rk"][0, 0]) / gamma
    made = m.section.welded
    fy, E = float(grounds.steel.fy[member]), m.material.E
    strut = flange_strut(
        m.section, float(s.L_LT[0]), float(s.C1[0, 0]), M, M_c, fy, E, made, (steel.lambda_LT0, steel.flange)
    )
    brief = f"the compressed flange as a strut, λ̄_f = {strut.slenderness:.2f}"
    return Figure(r"M_{Ed}/M_{b,Rd}", f"{M / strut.resistance:.2f}", f"Quick estimate: {brief} (6.3.2.4)", brief)


def _of_sheeting(grounds: SteelGrounds, member: int) -> list[Figure]:
    structure = grounds.combined.structure
    held = sheeting_of(grounds.document, structure, structure.members[member])
    if not held:
        return []
    shear = "holds the outer flange all along" if held.sideways else "too soft: the flange counts as free"
    shear = shear if held.shear > 0 else "none is stated"
    found = [Figure("S", _kN(held.shear), f"Sheeting, of {_kN(held.shear_needed)} needed: {shear} (BB.2.1)", shear)]
    if held.rotation > 0:
        words = "the member does not twist" if held.twist else "not enough by itself, or without S"
        needed = f"Sheeting, of {held.rotation_needed / 1e3:.2f} kNm/m needed: {words} (BB.2.2)"
        found.append(Figure(r"C_\theta", f"{held.rotation / 1e3:.2f} kNm/m", needed, words))
    return found


def _of_stays(grounds: SteelGrounds, member: int) -> list[Figure]:
    asked = asked_of_stays(grounds, member) if grounds.strength else None
    if asked is None:
        return []
    needed, force, there = asked
    stiff = f"{needed / 1e3:.0f} kNm"
    if np.isnan(there):
        words = "What each stay must lead to, per radian; nothing is known of what it does lead to (6.3.4)"
        found = [Figure(r"C_\theta", f"≥ {stiff}", words)]
    else:
        found = [
            Figure(
                r"C_\theta", f"{there / 1e3:.0f} kNm", f"What each stay leads to, of {stiff} per radian needed (6.3.4)"
            )
        ]
    return [
        *found,
        Figure("F_m", f"{force / 1e3:.1f} kN", "2.5 % of the inner flange's force, at its stays (6.3.5.2(3))"),
    ]


def _kN(force: float) -> str:
    return f"{force / 1e3:.0f} kN"
