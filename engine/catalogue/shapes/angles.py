"""Angles, equal and unequal."""

from __future__ import annotations

from engine.catalogue.outlines import Ring, rounded
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import corner_junction, make


def angle_outline(h: float, b: float, t: float, r1: float, r2: float) -> Ring:
    """An angle with its heel at the origin, its legs h upright and b lying."""
    return rounded([(0, 0, 0), (b, 0, 0), (b, t, r2), (t, t, r1), (t, h, r2), (0, h, 0)])


def angle(name: str, family: str, h: float, b: float, t: float, r1: float, r2: float = 0.0) -> Section:
    """Angle with legs h (upright) and b, turned to its principal axes. Shear centre at the crossing of the legs' middles;
    Iw = t³/36 [(h − t/2)³ + (b − t/2)³]."""
    ring = angle_outline(h, b, t, r1, r2)
    It = (b + h - t) * t**3 / 3 + corner_junction(t, t, r1) - 0.21 * t**4
    Iw = t**3 / 36 * ((h - t / 2) ** 3 + (b - t / 2) ** 3)
    return make(
        name,
        family,
        "angle",
        [ring],
        h=h,
        b=b,
        tw=t,
        tf=t,
        r=r1,
        It=It,
        Iw=Iw,
        web=h * t,
        flanges=b * t,
        shear=(t / 2, t / 2),
        principal=True,
    )


OUTLINES = {"angle": lambda s: [angle_outline(s.h, s.b, s.tf, s.r, s.r / 2)]}
