"""Members that sheeting holds all along, where it is stated and stiff enough (EN 1993-1-1 BB.2)."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import ceil

from engine.analysis.combined import Combined
from engine.document import Document
from engine.document.rules import Sheeting
from engine.standards.en.sheeting import EVERY_SECOND, rotation_needed, shear_needed
from engine.structure.model import Member, Structure

#: distance of the places at which sheeting holds, at most, m: as short as makes no difference
FIXINGS = 0.3
#: roles that usually have sheeting on them
USUAL = ("purlin", "side rail")


@dataclass(frozen=True)
class Held:
    """What sheeting has and needs: S in N, C_θ in Nm/m per radian."""

    shear: float
    shear_needed: float
    rotation: float
    rotation_needed: float

    @property
    def sideways(self) -> bool:
        """Whether it holds the outer flange sideways."""
        return self.shear >= self.shear_needed

    @property
    def twist(self) -> bool:
        """Whether it holds the member against twist too."""
        return self.sideways and self.rotation >= self.rotation_needed


def sheeting_of(document: Document, structure: Structure, member: Member) -> Held | None:
    """What the sheeting stated for the role of a member has and needs; None where none is stated and none is usual, or nothing is known
    of what it would hold: I sections of one strength alone."""
    stated = document.rules.sheeting.get(member.role) or Sheeting()  # type: ignore[call-overload]
    usual = member.role in USUAL or stated.shear > 0
    if not usual or member.bar or member.pieces or member.section.shape != "I" or member.material.strength is None:
        return None
    share = 1.0 if stated.every_rib else EVERY_SECOND
    length = structure.length(member)
    return Held(
        stated.shear * 1000 * share,
        shear_needed(member.section, member.material, length),
        stated.rotation * 1000,
        rotation_needed(member.section, member.material),
    )


def sheeted(document: Document, structure: Structure) -> Structure:
    """The structure with the flanges held all along that sheeting holds."""
    if not any(document.rules.sheeting.values()):
        return structure
    members = []
    for m in structure.members:
        held = sheeting_of(document, structure, m)
        if held and held.sideways:
            outer = _all_along(m.outer, structure.length(m))
            m = m.but(outer=outer, inner=outer if held.twist else m.inner)
        members.append(m)
    return replace(structure, members=tuple(members))


def _all_along(places: tuple[float, ...], length: float) -> tuple[float, ...]:
    steps = ceil(length / FIXINGS)
    every = sorted({*places, *(length * k / steps for k in range(steps + 1))})
    apart = [every[0]]
    for place in every[1:]:
        if place - apart[-1] > 1e-6:
            apart.append(place)
    return tuple(apart)


def with_sheeting(document: Document, combined: Combined) -> Combined:
    """Results whose members sheeting holds, for their checks: it takes no part in the analysis."""
    structure = sheeted(document, combined.structure)
    if structure is combined.structure:
        return combined
    system = replace(combined.response.system, structure=structure)
    return replace(combined, response=replace(combined.response, system=system))
