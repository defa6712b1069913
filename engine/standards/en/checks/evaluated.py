"""Every value of one check on its one row, by the names that proofs use, and what goes without saying in it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from engine.standards.en.checks.alike import Segments
from engine.standards.en.checks.axial import axial_values, left_out_of
from engine.standards.en.checks.built_up import LEFT_OUT as BUILT_UP_LEFT_OUT
from engine.standards.en.checks.built_up import built_up_proof
from engine.standards.en.checks.general import general_values
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.knees import at_faces, knee_values
from engine.standards.en.checks.knees import of_member as panels_of_member
from engine.standards.en.checks.net import area_of, net_values
from engine.standards.en.checks.sections import section_values
from engine.standards.en.checks.slenderness import slenderness_values
from engine.standards.en.checks.stability import stability_values
from engine.standards.en.checks.stays import held_values, stay_values
from engine.standards.en.checks.stiffeners import stiffener_values, stiffeners_of
from engine.standards.en.checks.summed import buckling_use, left_out, section_use
from engine.standards.en.checks.torsion import torsion_proof, twist_proof
from engine.standards.en.checks.webs import checked as pressed_places
from engine.standards.en.checks.webs import web_values
from engine.standards.en.steel import PLATEAU
from engine.structure.words import label
from engine.verification.checks import Evaluated
from engine.verification.outcomes import Outcome
from engine.verification.standing import in_words

#: forces from stabilising below this are not worth a line, N
NOTED = 50.0
HOLES = "No deduction of bolt holes; connections are not covered."
#: of a section, as it stands
PROPERTIES = (
    "h", "b", "tw", "tf", "r", "A", "Iy", "Iz", "It", "Iw", "Wel_y", "Wel_z", "Wpl_y", "Wpl_z", "Wt", "Av_y", "Av_z",
)  # fmt: skip


def evaluated(grounds: SteelGrounds, member: int, outcome: Outcome) -> Evaluated:
    """An outcome of strength or stability, computed anew."""
    common = _common(grounds, member, outcome)
    values, assumptions = _OF[outcome.criterion](grounds, member, outcome)
    return Evaluated(common | values, assumptions + _stabilising(grounds, member, outcome))


def _scalars(values: dict[str, Any]) -> dict[str, float]:
    return {key: float(np.ravel(value)[0]) for key, value in values.items()}


def _made_of(grounds: SteelGrounds, member: int, outcome: Outcome) -> int:
    """The row of `element_steel` at the place of an outcome: a piece of a haunch or taper, else the member."""
    return int(grounds.steel_of[outcome.row]) if outcome.criterion in ("section", "shear") else member


def _common(grounds: SteelGrounds, member: int, outcome: Outcome) -> dict[str, float]:
    structure, rules, steel = grounds.combined.structure, grounds.document.rules, grounds.document.national.steel
    m, made_of = structure.members[member], _made_of(grounds, member, outcome)
    piece = made_of - len(structure.members)
    s = grounds.pieces[piece][1].section if piece >= 0 else m.section
    values: dict[str, float] = {name: getattr(s, name) for name in PROPERTIES}
    values |= {"E": m.material.E, "G": m.material.G, "L": structure.length(m), "A_N": s.A}
    values |= {"gamma_M0": rules.gamma_M0, "gamma_M1": rules.gamma_M1, "x": outcome.position}
    values |= {"lambda_LT0": steel.lambda_LT0, "beta": steel.beta}
    single = grounds.element_steel.take(np.array([made_of]), 0)
    values |= {name: float(getattr(single, name)[0]) for name in ("kind", "fy", "alpha_y", "alpha_z", "alpha_LT")}
    values |= {"panel": m.checks.panel or 0.0, "rigid_ends": float(bool(m.checks.rigid_ends))}
    values["every"] = float(steel.lateral == "6.3.2.2")
    if values["every"]:
        values |= {"lambda_LT0": PLATEAU, "beta": 1.0, "alpha_LT": float(single.alpha_LT_all[0])}
    return values


def _stabilising(grounds: SteelGrounds, member: int, outcome: Outcome) -> list[str]:
    """What of the axial force comes from what the member helps to stabilise, in words."""
    if outcome.criterion == "critical" or not grounds.stabilising.acts():
        return []
    own = grounds.combined.elements.rows(member)
    added = float(max(side.max() for side in grounds.stabilising.added(own, [outcome.combination])))
    if added < NOTED:
        return []
    return [
        f"N takes in up to {added / 1e3:.1f} kN, in tension or compression, that bracing carries for the members which lean on it "
        "(q_d, EN 1993-1-1 5.3.3)."
    ]


Found = tuple[dict[str, float], list[str]]


def _section(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    c = outcome.combination
    values = {
        name: float(getattr(grounds.peaks, name)[outcome.row, outcome.station, c])
        for name in ("N", "Vy", "Vz", "T", "My", "Mz")
    }
    values |= _scalars(section_values(grounds, [outcome.row], [outcome.station], [c]))
    values["u"] = values["u_NM" if outcome.criterion == "section" else "u_V"]
    piece = _made_of(grounds, member, outcome) - len(grounds.combined.structure.members)
    return values, [HOLES] + (
        [f"Section of the piece there: {grounds.pieces[piece][1].section.name}."] if piece >= 0 else []
    )


def _axial(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    values = _scalars(axial_values(grounds, member, [outcome.combination]))
    lengths = grounds.lengths[member]
    values |= {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "L_T": lengths.torsion, "u": values["u_axial"]}
    values["N_Ed"] = abs(values["N"])
    left_out = [f"Left out: {words}." for words in left_out_of(grounds.combined.structure.members[member])]
    return values, [*left_out, "A bar in axial force alone, at its centroid."]


def _net(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    values = _scalars(net_values(grounds, member, [outcome.combination]))
    values["A"] = area_of(grounds.combined.structure.members[member])
    values["A_holes"], values["u"] = max(values["A_straight"], values["A_zigzag"]), values["u_net"]
    return values, [
        "Holes as stated, at both ends; the largest tension along the member.",
        "Bolts themselves, block tearing and connections are not covered.",
    ]


def _web(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    place = pressed_places(grounds, member)[outcome.row]
    values = _scalars(web_values(grounds, member, [place], [outcome.combination]))
    values |= {"u": values["u_web"], "at_end": float(place.end)}
    bearing = grounds.combined.structure.members[member].checks.bearing or 0
    return values, [
        f"{place.what.capitalize()} presses there; the force is the jump of the shear, either way.",
        f"Stiff bearing length {bearing:g} mm{'' if bearing else ': none is stated'}; no stiffeners, and none beside it.",
    ]


def _stiffener(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    own = stiffeners_of(grounds, member)[outcome.row]
    found = stiffener_values(grounds, member, [outcome.combination])
    values = {k: float(v[outcome.row, 0]) if v.ndim else float(v) for k, v in found.items()}
    m = grounds.combined.structure.members[member]
    plates = m.checks.plates
    assert plates is not None
    values |= {
        "u": values["u_stiffener"],
        "end": float(own.end),
        "pressed": float(bool(own.what)),
        "hw": m.section.h - 2 * m.section.tf,
    }
    values |= {"b_s": plates.width / 1000, "t_s": plates.thickness / 1000, "e_post": plates.post / 1000}
    values["E"] = m.material.E
    presses = [f"{own.what.capitalize()} presses there, with the jump of the shear or all of it."] if own.what else []
    return values, [
        *presses,
        "A plate on each side of the web, fitted to both flanges without cut-outs, whose welds are not covered.",
        "Its ends are held sideways by the flanges: buckling length h_w, where 0.75 h_w would do (9.4(2)).",
    ]


def _knee(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    knee = panels_of_member(grounds, member)[outcome.row]
    values = _scalars({k: v[outcome.row] for k, v in knee_values(grounds, member, [outcome.combination]).items()})
    values |= {"u": values["u_knee"], "x": knee.x, "beams": float(len(knee.beams))}
    values |= {
        "z_b": knee.beams[0].z,
        "plated": float(grounds.combined.structure.members[member].checks.knees == "plates"),
    }
    values["gamma_M0"] = grounds.document.rules.gamma_M0
    members = grounds.combined.structure.members
    brought = zip(knee.beams, at_faces(grounds, knee.beams, [outcome.combination])[:, 0].tolist(), strict=True)
    each = "; ".join(f"{label(members[b.member])}, {M / 1e3:.1f} kNm over {b.z * 1e3:.0f} mm" for b, M in brought)
    return values, [
        f"Joined rigidly there: {each}.",
        "What stiffeners of the flanges' forces add is not counted; the joint itself (bolts, welds, plates) is not covered.",
    ]


def _held(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    every = grounds.stays[member][0]
    return held_values(grounds, member, outcome.combination), [
        f"{len(every)} stays, which lead to {every[0].what}; the next members turn as much the other way, which is least.",
        "What they hold is the flange opposite the purlins and rails; the stays themselves, their fixings and the web count as rigid.",
    ]


def _stays(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    values, stay = stay_values(grounds, member, outcome.row, outcome.combination)
    own = [] if stay.sides[0].member else ["What it bears besides is not in it: it is no member of the model."]
    return values, [f"The stay leads to {stay.what}.", *own]


def _summed_section(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    at = outcome.row, outcome.station, outcome.combination
    values = {name: float(getattr(grounds.peaks, name)[at]) for name in ("N", "Vy", "Vz", "My", "Mz")}
    own, found = section_use(grounds, member, [outcome.combination])
    k, shape = int(np.flatnonzero(own == outcome.row)[0]), found["u_sum"].shape
    values |= {name: float(np.broadcast_to(value, shape)[k, outcome.station, 0]) for name, value in found.items()}
    values["u"] = values["u_sum"]
    return values, [HOLES, *(f"Left out: {words}." for words in left_out(grounds.combined.structure.members[member]))]


def _summed_buckling(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    segments, found = buckling_use(grounds, member, [outcome.combination])
    k, shape = outcome.row, found["u_single"].shape
    values = {name: float(np.broadcast_to(value, shape)[k, 0]) for name, value in found.items()}
    values |= {name: float(getattr(segments, name)[k, 0]) for name in ("N", "My", "Mz", "C1", "lift")}
    lengths = grounds.lengths[member]
    values |= {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "L_T": lengths.torsion, "L_LT": float(segments.L_LT[k])}
    values["u"] = values["u_single"]
    return values, [
        *_segment_words(grounds, member, segments, k),
        "6.3.3 is for double symmetry: the sum of all shares, moments grown as a second order would, is on its safe side.",
        *(f"Left out: {words}." for words in left_out(grounds.combined.structure.members[member])),
    ]


def _segment_words(grounds: SteelGrounds, member: int, segments: Segments, row: int) -> list[str]:
    lengths, flange = grounds.lengths[member], "outer" if segments.flange[row] > 0 else "inner"
    checks = grounds.combined.structure.members[member].checks
    lateral = checks.lateral_factor(flange, float(segments.start[row]), float(segments.end[row]))
    stated = [
        f"{symbol}: {factor:.4g} × {of}, set for this member."
        for symbol, factor, of in (("L_T", checks.buckling_T, "own length"), ("L_LT", lateral, "the segment"))
        if factor is not None
    ]
    return [
        *stated,
        f"L_cr,y: {lengths.why_y}; L_cr,z: {lengths.why_z}.",
        f"Segment from {segments.start[row]:.2f} m to {segments.end[row]:.2f} m, {flange} flange in compression.",
    ]


def _general(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    found, span = general_values(grounds, member, outcome.row, outcome.combination)
    at = "the upper flange" if grounds.document.rules.loads_at == "upper flange" else "the shear centre"
    return {name: float(value) for name, value in found.items()}, [
        f"From {span[0]:.2f} m to {span[1]:.2f} m, where both flanges are held; forks at its ends, warping free.",
        f"Loads that push down act at {at}.",
        "Flanges are followed along the haunch or taper; a web keeps the shape of the cross-section.",
        "χ and χ_LT are those of welded sections; 6.3.4 is for loads in the plane, weak-axis moments are added.",
        f"L_cr,y: {grounds.lengths[member].why_y}.",
    ]


TORQUE = "The torque is that of the analysis, whose members are as stiff as by St Venant's torsion alone."
WARPING = "Ends that other members or a clamp, sprung or not, meet without a hinge may warp or not, whichever asks for more; others warp freely."


def _torsion(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    values = torsion_proof(grounds, member, outcome)
    notes = [TORQUE, "Twist turns M_y into M_z: that is in the check of buckling (k_α)."]
    return values, [*notes, WARPING] if grounds.steel.kind[member] == 0 else [TORQUE]


def _twist(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    values, notes = _stability(grounds, member, outcome)
    values |= twist_proof(grounds, member, outcome)
    notes.append(TORQUE)
    if grounds.steel.kind[member] == 0:
        notes += [
            WARPING,
            "EN 1993-6 annex A is for simply supported beams without axial force: N enters by 6.3.3, and the twist grows with it.",
            "Restraints between the ends do not lessen the torsion: safe side.",
        ]
    return values, notes


def _built_up(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    lengths = grounds.lengths[member]
    return built_up_proof(grounds, member, outcome), [
        f"L_cr,y: {lengths.why_y}; L_cr,z: {lengths.why_z}.",
        "6.4 is for hinged ends: the bow is that of the effective length.",
        *(f"Left out: {words}." for words in BUILT_UP_LEFT_OUT),
    ]


def _slenderness(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    lengths = grounds.lengths[member]
    return slenderness_values(grounds, member), [
        f"L_cr,y: {lengths.why_y}; L_cr,z: {lengths.why_z}.",
        "EN 1993-1-1 sets no limit: this one is the project's. The combination is the one that presses the member most.",
    ]


def _critical(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    said = in_words(grounds.combined, grounds.strength[outcome.combination])
    values = {"u": outcome.utilisation, "alpha_cr": 1 / outcome.utilisation}
    return values, [f"Elastic critical load under this combination{f': {said}' if said else ''}."]


def _stability(grounds: SteelGrounds, member: int, outcome: Outcome) -> Found:
    c, number = outcome.combination, grounds.strength[outcome.combination]
    g = grounds.segments([member], [c]).of([outcome.row], [0])
    values = _scalars(stability_values(grounds.document, g, grounds.steel, grounds.limits[..., [c]]))
    values["alpha_cr"] = float(grounds.combined.alpha[number])
    for name in ("N", "My", "Mz", "C1", "lift", "M_start", "M_middle", "M_end"):
        values[name] = float(getattr(g, name)[0, 0])
    for name in ("Lcr_y", "Lcr_z", "L_T", "a_T", "L_LT", "free"):
        values[name] = float(getattr(g, name)[0])
    values["N_Ed"] = max(-values["N"], 0.0)
    values["u"] = {
        "flexural": max(values["u_Ny"], values["u_Nz"]),
        "lateral": values["u_LT"],
        "interaction": max(values["u_661"], values["u_662"]),
    }.get(outcome.criterion, outcome.utilisation)
    notes = _segment_words(grounds, member, g, 0)
    if grounds.combined.structure.members[member].section.shape == "I":
        notes += _lateral_words(grounds, g, values)
    if grounds.lengths[member].sway:
        notes.append(f"Sway mode: C_my {'at least 0.9 (table B.3)' if 'C_yy' not in values else 'not below 1'}.")
    if values["as_whole_y"] or values["as_whole_z"]:
        said = in_words(grounds.combined, number)
        notes.append(f"N_cr is that of the buckling analysis, α_cr N_Ed{f' ({said})' if said else ''}.")
    return values, notes


def _lateral_words(grounds: SteelGrounds, g: Segments, values: dict[str, float]) -> list[str]:
    notes = []
    if g.free[0]:
        notes.append("A cantilever: twice its length under a uniform moment, which covers loads at its upper flange.")
    else:
        at = "the upper flange" if values["lift"] > 0 else "the shear centre"
        notes.append(f"Loads act at {at}; ends of the segment are forks (k = k_w = 1).")
        if "k_c" not in values and grounds.document.national.steel.lateral != "6.3.2.2":
            notes.append("f = 1 in (6.58): safe side.")
    if g.flange[0] < 0:
        notes.append("Purlins on the flange in tension are not counted as a restraint of the segment: safe side.")
    return notes


_OF: dict[str, Callable[[SteelGrounds, int, Outcome], Found]] = {
    "section": _section,
    "shear": _section,
    "axial": _axial,
    "net": _net,
    "web": _web,
    "knee": _knee,
    "stiffener": _stiffener,
    "held": _held,
    "stays": _stays,
    "sum": _summed_section,
    "single": _summed_buckling,
    "torsion": _torsion,
    "twist": _twist,
    "general": _general,
    "slenderness": _slenderness,
    "chord": _built_up,
    "lacing": _built_up,
    "critical": _critical,
    "flexural": _stability,
    "lateral": _stability,
    "interaction": _stability,
}
