"""Subgrades that thick steel wants so that it does not break brittly in the cold, EN 1993-1-10 2.3."""

from __future__ import annotations

from engine.standards.en.axial import thickest
from engine.structure.model import Member

#: f_y of the nominal grade in Pa, and its subgrades with the greatest thickness in metres at a reference temperature of −30 °C under
#: σ_Ed = 0.75 f_y(t): EN 1993-1-10 table 2.1, the lowest stresses that it may be entered with being no safer
TABLE: tuple[tuple[float, tuple[tuple[str, float], ...]], ...] = (
    (235e6, (("JR", 0.030), ("J0", 0.040), ("J2", 0.060))),
    (275e6, (("JR", 0.025), ("J0", 0.035), ("J2", 0.055), ("M or N", 0.065), ("ML or NL", 0.095))),
    (355e6, (("JR", 0.015), ("J0", 0.025), ("J2", 0.040), ("K2, M or N", 0.050), ("ML or NL", 0.075))),
    (420e6, (("M or N", 0.045), ("ML or NL", 0.065))),
    # the table has no S450
    (440e6, ()),
    (460e6, (("Q", 0.030), ("M or N", 0.040), ("QL", 0.050), ("ML or NL", 0.060), ("QL1", 0.070))),
)
#: what any grade of the table may be, m
THIN = min(subgrades[0][1] for _, subgrades in TABLE if subgrades)
ROUNDED = 1e-6


def subgrade(fy: float, thickness: float) -> str | None:
    """The first subgrade of a steel that may be so thick at −30 °C: "" where the least one may be, None where none of table 2.1 may.
    fy: of its thinnest plates, Pa; thickness: m. Steels between two grades count as the stronger one."""
    own = next((subgrades for most, subgrades in TABLE if fy <= most * (1 + ROUNDED)), ())
    if thickness <= (own[0][1] if own else THIN) + ROUNDED:
        return ""
    return next((name for name, most in own if thickness <= most + ROUNDED), None)


def cold(member: Member) -> list[str]:
    """Said of a member whose steel wants more than its least subgrade."""
    thickness, material = thickest(member.section), member.material
    wanted = subgrade(material.strength[0][1], thickness) if material.strength else ""
    if wanted == "":
        return []
    what = f"wants subgrade {wanted} at least" if wanted else "is beyond table 2.1"
    return [
        f"its subgrade is not verified: at −30 °C under 0.75 f_y, {material.name} of {thickness * 1e3:.3g} mm {what} (EN 1993-1-10 2.3)"
    ]
