"""Effective lengths of members, and why they are these."""

from __future__ import annotations

import numpy as np

from engine.document import Document
from engine.standards.en.checks.effective_lengths import default_factors, stands_alone
from engine.structure.model import Member, Structure
from engine.structure.runs import HELD, Reach
from engine.verification.grounds import Lengths


def effective_lengths(
    document: Document,
    structure: Structure,
    member: Member,
    reach: Reach = HELD,
    beyond: tuple[float, float] = (0.0, 0.0),
    line: tuple[int, ...] = (),
) -> Lengths:
    """Effective lengths of a member: the rule of its role, or the factors that the document sets for the role or for it. reach: how far
    it goes on beyond its ends; beyond: how far it bends on about y with others, m; line: numbers of those that bend sideways with it."""
    length = structure.length(member)
    factor_y, why_y, sway = default_factors(document, structure, member, beyond)
    twice = 2.0 if any(reach.free) else 1.0
    outer, torsion = (
        twice * _longest(places, length, on)
        for places, on in ((member.outer, reach.outer), (member.inner, reach.inner))
    )
    z, why_z = outer, "between restraints of the outer flange" if outer < length - 1e-6 else "own length"
    if outer > length + 1e-6:
        why_z = "with what it goes on in, to what holds that" + (", twice, to a free end" if any(reach.free) else "")
    if stands_alone(document, member):
        z, why_z = 2 * length, "a cantilever along the hall: clamped at its foot, and nothing braces the walls"
    chosen = document.rules.effective_lengths.get(member.role)  # type: ignore[call-overload]
    if chosen and chosen.y is not None:
        factor_y, why_y, sway = chosen.y, f"{chosen.y:g} × own length, set for the role", sway
    if chosen and chosen.z is not None:
        z, why_z = chosen.z * length, f"{chosen.z:g} × own length, set for the role"
    if member.checks.buckling_y is not None:
        factor_y = member.checks.buckling_y
        why_y = f"{factor_y:.4g} × own length, {member.checks.from_y or 'set for this member'}"
    if member.checks.buckling_z is not None:
        z = member.checks.buckling_z * length
        why_z = f"{member.checks.buckling_z:.4g} × own length, {member.checks.from_z or 'set for this member'}"
    if member.checks.buckling_T is not None:
        torsion = member.checks.buckling_T * length
    held = member.section.h / 2 if outer < torsion - 1e-6 else 0.0
    return Lengths(factor_y * length, z, torsion, held, sway, why_y, why_z, any(beyond), line)


def _longest(places: tuple[float, ...], length: float, beyond: tuple[float, float]) -> float:
    """The longest distance between restraints of a flange, which go on beyond its ends."""
    own = list(places) if len(places) > 1 else [0.0, length]
    own[0], own[-1] = own[0] - beyond[0], own[-1] + beyond[1]
    return float(np.max(np.diff(own)))
