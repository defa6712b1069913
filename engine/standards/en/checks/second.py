"""A second figure for what governs, by another of the methods that EN 1993-1-1 allows."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sections import section_values
from engine.standards.en.steel import reduction
from engine.verification.checks import Second
from engine.verification.outcomes import Outcome


def second(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The figure of another method for an outcome; None where there is no other method here."""
    if outcome.criterion in ("interaction", "twist"):
        annex = grounds.document.national.steel.interaction
        other = "annex B" if annex == "annex A" else "annex A"
        found = _with(grounds, member, outcome, interaction=other)
        return Second(
            f"{other} of EN 1993-1-1",
            found,
            f"{annex} and {other} reach k_ij by other approximations; both are allowed",
        )
    if outcome.criterion == "lateral":
        other = "6.3.2.2" if grounds.document.national.steel.lateral == "6.3.2.3" else "6.3.2.3"
        found = _with(grounds, member, outcome, lateral=other)
        return Second(
            f"χ_LT by {other}",
            found,
            "6.3.2.2 is for all sections, with lower curves and a plateau to 0.2; 6.3.2.3 is for rolled ones",
        )
    own = {"section": _elastic, "general": _interpolated, "axial": _unheld, "flexural": _whole}.get(outcome.criterion)
    return own(grounds, member, outcome) if own else None


def _with(grounds: SteelGrounds, member: int, outcome: Outcome, **choice: str) -> float:
    """The utilisation of the same row in the same combination with another national choice."""
    return evaluated(grounds.chosen(**choice), member, outcome).values["u"]


def _interpolated(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The general method with χ for N and χ_LT for M, (6.66), in place of the lower of them for both, (6.65)."""
    v = evaluated(grounds, member, outcome).values
    pressed = v["N_Ed"] / (v["chi_y"] * v["N_plane"]) if v["use_plane"] >= v["use_section"] else abs(v["N"]) / v["N_Rk"]
    both = v["gamma_M1"] * (pressed / v["chi_flex"] + (v["use"] - pressed) / v["chi_LTop"])
    return Second(
        "χ and χ_LT each for its own, (6.66)",
        both + v["u_general"] - v["u_op"],
        "(6.65) takes the lower of χ and χ_LT for all; both are allowed",
    )


def _unheld(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """An angle in compression by one leg as a bar between pins (6.3.1), without what its gussets hold (BB.1.2)."""
    v = evaluated(grounds, member, outcome).values
    if not v["one_leg"] or v["u_t"] >= v["u_c"]:
        return None
    worst = max(v["lambda_y"], v["lambda_z"], v["lambda_TF"])
    chi = float(reduction(np.asarray(v["alpha_bar"]), np.asarray(worst))[1])
    return Second(
        "a bar between pins, 6.3.1",
        v["N_Ed"] * v["gamma_M1"] / (chi * v["N_Rk"]),
        "BB.1.2 counts that gussets hold the ends: λ_eff = 0.35 + 0.7 λ about v",
    )


def _whole(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """Flexural buckling with N_cr = α_cr N_Ed of the whole structure in place of that of the member's length."""
    v = evaluated(grounds, member, outcome).values
    alpha = v["alpha_cr"]
    if not np.isfinite(alpha) or v["N_Ed"] <= 0:
        return None
    slender = np.sqrt(v["N_Rk"] / (alpha * v["N_Ed"]))
    curve = v["alpha_y"] if v["u_Ny"] >= v["u_Nz"] else v["alpha_z"]
    chi = float(reduction(np.asarray(curve), np.asarray(slender))[1])
    return Second(
        "N_cr by α_cr of the whole",
        v["N_Ed"] * v["gamma_M1"] / (chi * v["N_Rk"]),
        "the lowest mode of the whole may be that of other members: it is a lower bound then",
    )


def _elastic(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The sum of elastic stresses (6.2.1(7), (6.42)): what 6.2.9 may not exceed in classes 1 to 3."""
    at = (outcome.row, outcome.station, outcome.combination)
    values = section_values(grounds, [outcome.row], [outcome.station], [outcome.combination])
    made_of = int(grounds.steel_of[outcome.row])
    members = grounds.combined.structure.members
    s = members[made_of].section if made_of < len(members) else grounds.pieces[made_of - len(members)][1].section
    if float(np.ravel(values["cls"])[0]) > 3 or s.Wel_y <= 0 or s.Wel_z <= 0:
        return None
    N, My, Mz = (abs(float(getattr(grounds.peaks, name)[at])) for name in ("N", "My", "Mz"))
    fy = float(grounds.element_steel.take(np.array([made_of]), 0).fy[0]) / grounds.document.rules.gamma_M0
    found = (N / s.A + My / s.Wel_y + Mz / s.Wel_z) / fy
    return Second(
        "elastic stresses (6.42)", found, "elastic stresses leave the plastic reserve of classes 1 and 2 unused"
    )
