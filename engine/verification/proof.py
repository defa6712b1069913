"""The proof of one outcome: the same check evaluated on one row, written out with symbols, numbers, units and clauses."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.document import Document
from engine.standards.en.proof_line import Line
from engine.standards.en.proof_symbols import SYMBOLS
from engine.standards.en.proof_text import LINES
from engine.standards.en.steel import PLATEAU
from engine.verification.axial import axial_values, left_out_of
from engine.verification.channels import LEFT_OUT as CHANNEL_LEFT_OUT
from engine.verification.channels import buckling_use, section_use
from engine.verification.general import general_values
from engine.verification.net import area_of, net_values
from engine.verification.outcomes import CRITERIA, SERVICE, Outcome
from engine.verification.sections import section_values
from engine.verification.service import measure
from engine.verification.stability import stability_values
from engine.verification.standing import in_words
from engine.verification.verify import Verification
from engine.verification.webs import checked as pressed_places
from engine.verification.webs import web_values

#: forces from stabilising below this are not worth a line, N
NOTED = 50.0


@dataclass(frozen=True)
class Step:
    """One line of a proof: symbol, formula and the formula with numbers in LaTeX; value with its unit; clause; words."""

    symbol: str
    formula: str
    numbers: str
    value: str
    clause: str
    words: str


@dataclass(frozen=True)
class Proof:
    """A whole derivation. utilisation: its last value, equal to the one in the verdict."""

    title: str
    clause: str
    combination: str
    formula: str
    utilisation: float
    steps: tuple[Step, ...]
    assumptions: tuple[str, ...]


def prove(
    document: Document,
    combined: Combined,
    verification: Verification,
    combinations: list[Combination],
    member: int,
    outcome: Outcome,
) -> Proof:
    """Write out one outcome of one member."""
    values, assumptions = _values(document, combined, verification, member, outcome)
    lines = [line for line in LINES[outcome.criterion] if line.when(values)]
    used = verification.used(outcome.criterion)
    combination = combinations[used[outcome.combination]]
    title, clause = CRITERIA[outcome.criterion]
    return Proof(
        title=title,
        clause=clause,
        combination=combination.name,
        formula=combination.formula,
        utilisation=values["u"],
        steps=tuple(_step(line, values) for line in lines),
        assumptions=tuple(assumptions + _stabilising(verification, member, outcome)),
    )


def _stabilising(verification: Verification, member: int, outcome: Outcome) -> list[str]:
    """What of the axial force comes from what the member helps to stabilise, in words."""
    found = verification.grounds.stabilising
    if outcome.criterion in SERVICE or outcome.criterion == "critical" or not found.acts():
        return []
    own = np.flatnonzero(verification.grounds.combined.elements.member == member)
    added = float(max(side.max() for side in found.added(own, [outcome.combination])))
    if added < NOTED:
        return []
    return [
        f"N takes in up to {added / 1e3:.1f} kN, in tension or compression, that bracing carries for the members which lean on it "
        "(q_d, EN 1993-1-1 5.3.3)."
    ]


def _scalars(values: dict[str, Any]) -> dict[str, float]:
    return {key: float(np.ravel(value)[0]) for key, value in values.items()}


def _values(
    document: Document, combined: Combined, verification: Verification, member: int, outcome: Outcome
) -> tuple[dict[str, float], list[str]]:
    response = combined.response
    m = response.structure.members[member]
    s = m.section
    made_of = verification.grounds.steel_of[outcome.row] if outcome.criterion in ("section", "shear") else member
    piece = int(made_of) - len(response.structure.members)
    if piece >= 0:
        s = verification.grounds.pieces[piece][1].section
    values: dict[str, float] = {
        name: getattr(s, name)
        for name in ("h", "b", "tw", "tf", "r", "A", "Iy", "Iz", "It", "Iw", "Wel_y", "Wel_z", "Wpl_y", "Wpl_z", "Wt")
    }
    values |= {"Av_y": s.Av_y, "Av_z": s.Av_z, "E": m.material.E, "G": m.material.G, "L": response.structure.length(m)}
    values |= {"gamma_M0": document.rules.gamma_M0, "gamma_M1": document.rules.gamma_M1, "x": outcome.position}
    values |= {"lambda_LT0": document.national.steel.lambda_LT0, "beta": document.national.steel.beta}
    single = verification.grounds.element_steel.take(np.array([made_of]), 0)
    values["kind"], values["A_N"] = float(single.kind[0]), s.A
    for name in ("fy", "alpha_y", "alpha_z", "alpha_LT"):
        values[name] = float(getattr(single, name)[0])
    values["every"] = float(document.national.steel.lateral == "6.3.2.2")
    if values["every"]:
        values |= {"lambda_LT0": PLATEAU, "beta": 1.0, "alpha_LT": float(single.alpha_LT_all[0])}
    c = outcome.combination
    if outcome.criterion in ("section", "shear"):
        f = verification.peaks
        for name in ("N", "Vy", "Vz", "T", "My", "Mz"):
            values[name] = float(getattr(f, name)[outcome.row, outcome.station, c])
        v = section_values(document, verification.grounds, [outcome.row], [outcome.station], [c])
        values |= _scalars(v)
        if outcome.criterion == "section":
            values["u"] = values["u_NM"]
        else:
            values["u"] = values["u_V"]
        notes = ["No deduction of bolt holes; connections are not covered."]
        if piece >= 0:
            notes.append(f"Section of the piece there: {s.name}.")
        return values, notes
    if outcome.criterion == "axial":
        found_axial = axial_values(document, verification.grounds, member, [c])
        values |= _scalars(found_axial)
        lengths = verification.grounds.lengths[member]
        values |= {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "L_T": lengths.torsion, "u": values["u_axial"]}
        values["N_Ed"] = abs(values["N"])
        left_out = [f"Left out: {words}." for words in left_out_of(m)]
        return values, [*left_out, "A bar in axial force alone, at its centroid."]
    if outcome.criterion == "net":
        values |= _scalars(net_values(document, verification.grounds, member, [c]))
        values["A"] = area_of(m)
        values["A_holes"], values["u"] = max(values["A_straight"], values["A_zigzag"]), values["u_net"]
        return values, [
            "Holes as stated, at both ends; the largest tension along the member.",
            "Bolts themselves, block tearing and connections are not covered.",
        ]
    if outcome.criterion == "web":
        place = pressed_places(verification.grounds, member)[outcome.row]
        values |= _scalars(web_values(document, verification.grounds, member, [place], [c]))
        values |= {"u": values["u_web"], "at_end": float(place.end)}
        bearing = m.checks.bearing or 0
        return values, [
            f"{place.what.capitalize()} presses there; the force is the jump of the shear, either way.",
            f"Stiff bearing length {bearing:g} mm{'' if bearing else ': none is stated'}; no stiffeners, and none beside it.",
        ]
    if outcome.criterion == "sum":
        for name in ("N", "Vy", "Vz", "My", "Mz"):
            values[name] = float(getattr(verification.peaks, name)[outcome.row, outcome.station, c])
        own, found_sum = section_use(document, verification.grounds, member, [c])
        k = int(np.flatnonzero(own == outcome.row)[0])
        values |= {
            name: float(np.broadcast_to(value, (*found_sum["u_sum"].shape,))[k, outcome.station, 0])
            for name, value in found_sum.items()
        }
        values["u"] = values["u_sum"]
        return values, ["No deduction of bolt holes; connections are not covered.", f"Left out: {CHANNEL_LEFT_OUT}."]
    if outcome.criterion == "single":
        segments, found_single = buckling_use(document, verification.grounds, member, [c])
        k = outcome.row
        values |= {
            name: float(np.broadcast_to(value, found_single["u_single"].shape)[k, 0])
            for name, value in found_single.items()
        }
        for name in ("N", "My", "Mz", "C1", "lift"):
            values[name] = float(getattr(segments, name)[k, 0])
        lengths = verification.grounds.lengths[member]
        values |= {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "L_T": lengths.torsion, "L_LT": float(segments.L_LT[k])}
        values["u"] = values["u_single"]
        flange = "outer" if segments.flange[k] > 0 else "inner"
        return values, [
            f"L_cr,y: {lengths.why_y}; L_cr,z: {lengths.why_z}.",
            f"Segment from {segments.start[k]:.2f} m to {segments.end[k]:.2f} m, {flange} flange in compression.",
            "6.3.3 is for double symmetry: the sum of all shares, moments grown as a second order would, is on its safe side.",
            f"Left out: {CHANNEL_LEFT_OUT}.",
        ]
    if outcome.criterion == "general":
        found, span = general_values(document, verification.grounds, member, outcome.row, c)
        return values | {name: float(value) for name, value in found.items()}, [
            f"From {span[0]:.2f} m to {span[1]:.2f} m, where both flanges are held; forks at its ends, warping free.",
            f"Loads that push down act at {'the upper flange' if document.rules.loads_at == 'upper flange' else 'the shear centre'}.",
            "Flanges are followed along the haunch or taper; a web keeps the shape of the cross-section.",
            "χ and χ_LT are those of welded sections; 6.3.4 is for loads in the plane, weak-axis moments are added.",
            f"L_cr,y: {verification.grounds.lengths[member].why_y}.",
        ]
    if outcome.criterion == "critical":
        number = verification.strength[c]
        values["u"], values["alpha_cr"] = outcome.utilisation, 1 / outcome.utilisation
        said = in_words(combined, number)
        return values, [f"Elastic critical load under this combination{f': {said}' if said else ''}."]
    if outcome.criterion in SERVICE:
        words = verification.stretches[outcome.row].words
        return _service_values(combined, verification, values, outcome), [
            f"First-order displacement {words}; no pre-camber."
        ]
    grounds = verification.grounds
    g = grounds.segments([member], [c]).of([outcome.row], [0])
    values |= _scalars(stability_values(document, g, verification.steel, grounds.limits[..., [c]]))
    values["alpha_cr"] = float(combined.alpha[verification.strength[c]])
    for name in (
        "N",
        "My",
        "Mz",
        "C1",
        "lift",
        "M_start",
        "M_middle",
        "M_end",
    ):
        values[name] = float(getattr(g, name)[0, 0])
    for name in ("Lcr_y", "Lcr_z", "L_T", "a_T"):
        values[name] = float(getattr(g, name)[0])
    values["L_LT"] = float(g.L_LT[0])
    values["free"] = float(g.free[0])
    values["N_Ed"] = max(-values["N"], 0.0)
    values["u"] = {
        "flexural": max(values["u_Ny"], values["u_Nz"]),
        "lateral": values["u_LT"],
        "interaction": max(values["u_661"], values["u_662"]),
    }[outcome.criterion]
    lengths = grounds.lengths[member]
    flange = "outer" if g.flange[0] > 0 else "inner"
    notes = [
        f"L_cr,y: {lengths.why_y}; L_cr,z: {lengths.why_z}.",
        f"Segment from {g.start[0]:.2f} m to {g.end[0]:.2f} m, {flange} flange in compression.",
    ]
    if s.shape == "I":
        if g.free[0]:
            notes.append(
                "A cantilever: twice its length under a uniform moment, which covers loads at its upper flange."
            )
        else:
            at = "the upper flange" if values["lift"] > 0 else "the shear centre"
            notes.append(f"Loads act at {at}; ends of the segment are forks (k = k_w = 1).")
            if "k_c" not in values and not values["every"]:
                notes.append("f = 1 in (6.58): safe side.")
        if flange == "inner":
            notes.append("Purlins on the flange in tension are not counted as a restraint of the segment: safe side.")
    if lengths.sway:
        notes.append(f"Sway mode: C_my {'at least 0.9 (table B.3)' if 'C_yy' not in values else 'not below 1'}.")
    if values["as_whole_y"] or values["as_whole_z"]:
        said = in_words(combined, verification.strength[c])
        notes.append(f"N_cr is that of the buckling analysis, α_cr N_Ed{f' ({said})' if said else ''}.")
    return values, notes


def _service_values(
    combined: Combined, verification: Verification, values: dict[str, float], outcome: Outcome
) -> dict[str, float]:
    which = [verification.used(outcome.criterion)[outcome.combination]]
    stretch = verification.stretches[outcome.row]
    found = measure(combined, combined.displacement(which), combined.deflections(which, stretch.rows), stretch)
    k, s = divmod(outcome.station, found.shape[1])
    values["w"] = float(found[k, s, 0])
    values["span"], values["ratio"] = stretch.length, stretch.ratio
    values["limit"] = values["span"] / values["ratio"]
    values["u"] = values["w"] / values["limit"]
    return values


_TOKEN = re.compile(r"<(\w+)>(?=(\^?))")
_WORD = re.compile(r"(\\cdot)(?=[A-Za-z])")
#: what stands before a value that it is multiplied by: between numbers the product needs its dot
_PRODUCT = re.compile(r"(>|\^2|\)|\d)\s*(?:\\,)?\s*<")


def written(formula: str, value: Callable[[str], str]) -> str:
    """A formula with what stands for each of its values."""
    # a control word ends where a letter follows
    return _WORD.sub(r"\1 ", _TOKEN.sub(lambda match: value(match[1]), formula))


def _step(line: Line, values: dict[str, float]) -> Step:
    def number(match: re.Match[str]) -> str:
        known = SYMBOLS[match[1]]
        text = known.text(values[match[1]])
        unit = rf"\,\mathrm{{{known.unit_latex}}}" if known.unit else ""
        bracket = text.startswith("-") or (match[2] and unit)
        return f"({text}{unit})" if bracket else text + unit

    known = SYMBOLS[line.key]
    numbers = _TOKEN.sub(number, _PRODUCT.sub(lambda m: m[1] + r"\cdot <", line.formula))
    value = values[line.key]
    return Step(
        symbol=known.latex,
        formula=written(line.formula, lambda key: SYMBOLS[key].latex),
        numbers=numbers if _TOKEN.search(line.formula) else "",
        value=known.text(value) + (f" {known.unit}" if known.unit else ""),
        clause=line.clause,
        words=line.words,
    )
