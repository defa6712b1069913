"""Slenderness of members against limits that the document sets; EN 1993-1-1 sets none."""

from __future__ import annotations

import numpy as np

from engine.standards.en.checks.grounds import SteelGrounds
from engine.verification.outcomes import Findings, Held, Reached, most_of


def is_limited(grounds: SteelGrounds, member: int) -> bool:
    """Whether a member has a limit."""
    m = grounds.combined.structure.members[member]
    limit = grounds.document.rules.slenderness_limit(m.role, m.checks.slenderness)
    return m.behaviour != "rigid link" and limit is not None


def slenderness_values(grounds: SteelGrounds, member: int) -> dict[str, float]:
    """Every value of the check of a member with a limit, for its proof; with haunches and tapers of the section between them."""
    m, lengths = grounds.combined.structure.members[member], grounds.lengths[member]
    limit = grounds.document.rules.slenderness_limit(m.role, m.checks.slenderness) or np.inf
    v = {"Lcr_y": lengths.y, "Lcr_z": lengths.z, "i_y": m.section.iy, "i_z": m.section.iz, "lambda_limit": limit}
    v |= {"slender_y": lengths.y / m.section.iy, "slender_z": lengths.z / m.section.iz}
    return v | {"u": max(v["slender_y"], v["slender_z"]) / limit}


def slenderness_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """Of a member with a limit, in the combination that presses it most: slenderness does not depend on it; NaN in the others."""
    if not is_limited(grounds, member):
        return []
    u = np.full((1, len(grounds.strength)), np.nan)
    u[0, int(grounds.extremes(member)[1].argmin())] = slenderness_values(grounds, member)["u"]
    length = grounds.combined.structure.length(grounds.combined.structure.members[member])
    return [most_of("slenderness", grounds.strength, u, [(member, -1, length / 2)])]


def slenderness(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes of each member with a limit."""
    for i in range(len(found.outcomes)):
        found.outcomes[i] += [r.outcome(r.worst) for r in slenderness_reached(grounds, i)]
    return []
