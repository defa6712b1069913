"""A second figure for what governs, by another of the methods that EN 1993-1-1 allows."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.second_sections import (
    crushed,
    elastic,
    of_outline,
    pulled_or_pressed,
    rankine,
    sheared,
    sheared_panel,
)
from engine.standards.en.steel import reduction
from engine.verification.checks import Second
from engine.verification.outcomes import Outcome

#: up to this ratio of slendernesses, either way, the lowest mode of the whole speaks for a member
OTHERS = 1.25


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
    own = _OTHERS.get(outcome.criterion)
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


def _whole(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """Flexural buckling with N_cr = α_cr N_Ed of the whole structure in place of that of the member's length."""
    v = evaluated(grounds, member, outcome).values
    alpha = v["alpha_cr"]
    if not np.isfinite(alpha) or v["N_Ed"] <= 0:
        return None
    slender = np.sqrt(v["N_Rk"] / (alpha * v["N_Ed"]))
    about = "y" if v["u_Ny"] >= v["u_Nz"] else "z"
    curve, own = v[f"alpha_{about}"], v["lambda_y"] if about == "y" else max(v["lambda_z"], v["lambda_T"])
    bar = grounds.combined.structure.members[member].bar
    if bar or not own / OTHERS < slender < OTHERS * own:
        # the lowest mode is that of other members, or one in which bars do not bend
        return rankine(v, own)
    chi = float(reduction(np.asarray(curve), np.asarray(slender))[1])
    return Second(
        "N_cr by α_cr of the whole",
        v["N_Ed"] * v["gamma_M1"] / (chi * v["N_Rk"]),
        "the lowest mode of the whole need not be this member's own: it is a lower bound then",
    )


_OTHERS = {
    "section": elastic,
    "shear": sheared,
    "sum": of_outline,
    "web": crushed,
    "knee": sheared_panel,
    "axial": pulled_or_pressed,
    "general": _interpolated,
    "flexural": _whole,
}
