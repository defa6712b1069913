"""Structural steels with their strength by thickness, EN 1993-1-1 table 3.1, and the elastic constants of 3.2.6."""

from __future__ import annotations

from dataclasses import dataclass
from math import nan, sqrt

from engine.errors import ModelError

E = 210e9
G = E / (2 * (1 + 0.3))
DENSITY = 7850.0
GRAVITY = 9.81

#: grade -> ((thickness up to, fy), ...) in metres and pascals; EN 10025-2 (S460: EN 10025-3 N), EN 10210-1 alike
STRENGTH: dict[str, tuple[tuple[float, float], ...]] = {
    "S235": ((0.040, 235e6), (0.080, 215e6)),
    "S275": ((0.040, 275e6), (0.080, 255e6)),
    "S355": ((0.040, 355e6), (0.080, 335e6)),
    "S460": ((0.040, 460e6), (0.080, 430e6)),
}


@dataclass(frozen=True)
class Material:
    """An elastic material in pascals and kg/m³; grade is None when it has no design strength here."""

    name: str
    E: float
    G: float
    density: float
    grade: str | None


def steel(grade: str, place: str = "") -> Material:
    """The steel of that grade. Raises ModelError when there is none."""
    if grade not in STRENGTH:
        raise ModelError(f"There is no steel “{grade}”; known are {', '.join(STRENGTH)}.", place)
    return Material(grade, E, G, DENSITY, grade)


def yield_strength(grade: str, thickness: float) -> float:
    """fy in pascals for the nominal thickness in metres, table 3.1; NaN beyond its range (80 mm)."""
    for limit, fy in STRENGTH[grade]:
        if thickness <= limit + 1e-9:
            return fy
    return nan


def epsilon(fy: float) -> float:
    """ε = √(235 / fy), EN 1993-1-1 table 5.2; fy in pascals."""
    return sqrt(235e6 / fy)
