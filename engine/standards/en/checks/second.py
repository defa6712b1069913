"""A second figure for what governs, by another of the methods that EN 1993-1-1 allows."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.sections import section_values
from engine.verification.checks import Second
from engine.verification.outcomes import Outcome


def second(grounds: SteelGrounds, member: int, outcome: Outcome) -> Second | None:
    """The figure of another method for an outcome; None where there is no other method here."""
    if outcome.criterion == "interaction":
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
    if outcome.criterion == "section":
        return _elastic(grounds, outcome)
    return None


def _with(grounds: SteelGrounds, member: int, outcome: Outcome, **choice: str) -> float:
    """The utilisation of the same row in the same combination with another national choice."""
    return evaluated(grounds.chosen(**choice), member, outcome).values["u"]


def _elastic(grounds: SteelGrounds, outcome: Outcome) -> Second | None:
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
