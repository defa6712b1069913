"""A second figure for what governs, found in another way: no number is to stand on one method alone without saying so."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from engine.chain import Chain
from engine.verification.outcomes import Outcome
from engine.verification.proof import prove
from engine.verification.sections import section_values

#: a beam that rises more than this deflects along its axis too: sine of its slope
LEVEL = 0.05
#: difference above which it is said why
NEAR = 0.10


@dataclass(frozen=True)
class Second:
    """Another method with the utilisation that it gives, and why it may differ."""

    method: str
    utilisation: float
    why: str


def second(chain: Chain, member: int, outcome: Outcome) -> Second | None:
    """The figure of another method for an outcome; None where there is no other method here."""
    if outcome.criterion == "interaction":
        annex = chain.document.national.steel.interaction
        other = "annex B" if annex == "annex A" else "annex A"
        found = _with(chain, member, outcome, interaction=other)
        return Second(
            f"{other} of EN 1993-1-1",
            found,
            f"{annex} and {other} reach k_ij by other approximations; both are allowed",
        )
    if outcome.criterion == "lateral":
        other = "6.3.2.2" if chain.document.national.steel.lateral == "6.3.2.3" else "6.3.2.3"
        found = _with(chain, member, outcome, lateral=other)
        return Second(
            f"χ_LT by {other}",
            found,
            "6.3.2.2 is for all sections, with lower curves and a plateau to 0.2; 6.3.2.3 is for rolled ones",
        )
    if outcome.criterion == "section":
        return _elastic(chain, outcome)
    if outcome.criterion in ("deflection", "variable"):
        return _integrated(chain, outcome)
    return None


def _with(chain: Chain, member: int, outcome: Outcome, **choice: str) -> float:
    """The utilisation of the same row in the same combination with another national choice."""
    grounds = chain.verification.grounds.chosen(**choice)
    verification = replace(chain.verification, grounds=grounds)
    return prove(grounds.document, chain.combined, verification, chain.combinations, member, outcome).utilisation


def _elastic(chain: Chain, outcome: Outcome) -> Second | None:
    """The sum of elastic stresses (6.2.1(7), (6.42)): what 6.2.9 may not exceed in classes 1 to 3."""
    grounds, peaks = chain.verification.grounds, chain.verification.peaks
    at = (outcome.row, outcome.station, outcome.combination)
    values = section_values(chain.document, grounds, [outcome.row], [outcome.station], [outcome.combination])
    made_of = int(grounds.steel_of[outcome.row])
    members = chain.structure.members
    s = members[made_of].section if made_of < len(members) else grounds.pieces[made_of - len(members)][1].section
    if float(np.ravel(values["cls"])[0]) > 3 or s.Wel_y <= 0 or s.Wel_z <= 0:
        return None
    N, My, Mz = (abs(float(getattr(peaks, name)[at])) for name in ("N", "My", "Mz"))
    fy = float(grounds.element_steel.take(np.array([made_of]), 0).fy[0]) / chain.document.rules.gamma_M0
    found = (N / s.A + My / s.Wel_y + Mz / s.Wel_z) / fy
    return Second(
        "elastic stresses (6.42)", found, "elastic stresses leave the plastic reserve of classes 1 and 2 unused"
    )


def _integrated(chain: Chain, outcome: Outcome) -> Second | None:
    """Curvature from the moments, integrated twice between the supports: without the stiffness matrix, and without shear."""
    verification, elements = chain.verification, chain.response.elements
    stretch = verification.stretches[outcome.row]
    rows = np.sort(stretch.rows)
    ends = chain.structure.xyz[[stretch.start, stretch.end]]
    rise = abs(ends[1, 2] - ends[0, 2])
    if (
        stretch.start == stretch.end
        or len(stretch.members) != 1
        or rise > LEVEL * stretch.length
        or stretch.way != "down"
    ):
        return None
    member = chain.structure.members[stretch.members[0]]
    if {stretch.start, stretch.end} != {member.nodes[0], member.nodes[-1]}:
        return None
    along = chain.combined.diagrams([verification.used(outcome.criterion)[outcome.combination]])
    x = elements.positions(along.x)[rows]
    # between two stations a cubic through the moments with their slopes, the shear
    M, V = (values[rows, :, 0] / elements.EIy[rows][:, None] for values in (along.My, along.Vz))
    h, a, b = np.diff(x), (slice(None), slice(None, -1)), (slice(None), slice(1, None))
    gained = h / 2 * (M[a] + M[b]) + h**2 / 12 * (V[a] - V[b])
    fallen = h**2 * (7 * M[a] + 3 * M[b]) / 20 + h**3 * (V[a] / 20 - V[b] / 30)
    slope = np.concatenate([[0.0], np.cumsum(gained.ravel())])
    moved = np.concatenate([[0.0], np.cumsum(slope[:-1] * h.ravel() + fallen.ravel())])
    x = np.concatenate([x[0, :1], x[:, 1:].ravel()])
    chord = moved[0] + (moved[-1] - moved[0]) * (x - x[0]) / (x[-1] - x[0])
    found = float(np.abs(moved - chord).max()) * stretch.ratio / stretch.length
    return Second(
        "moments integrated twice", found, "shear of the web, supports that move and bending sideways are left out"
    )


def differs(first: float, other: float) -> float:
    """By how much another figure differs, as a share of the first."""
    return (other - first) / first if first else 0.0
