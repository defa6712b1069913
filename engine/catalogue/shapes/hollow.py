"""Hollow sections: square, rectangular, circular, and boxes of four plates."""

from __future__ import annotations

from math import pi

import numpy as np

from engine.catalogue.outlines import Ring, circle, rounded
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import make


def rectangular_hollow(
    name: str, h: float, b: float, t: float, cold: bool = False, radii: tuple[float, float] | None = None
) -> Section:
    """Rectangular or square hollow section, EN 10210-2 annex B (hot-finished) or EN 10219-2 annex B (cold-formed).

    Corner radii outside and inside: hot 1.5 t and 1.0 t; cold 2.0 t and 1.0 t up to 6 mm, 2.5 t and 1.5 t up to 10 mm,
    else 3.0 t and 2.0 t; or other `radii` in multiples of t.
    """
    by_standard = (1.5, 1.0) if not cold else (2.0, 1.0) if t <= 0.006 else (2.5, 1.5) if t <= 0.010 else (3.0, 2.0)
    outer, within = radii or by_standard
    ro, ri = outer * t, within * t
    corner_out, corner_in = (1 - pi / 4) * ro**2, (1 - pi / 4) * ri**2
    share = (10 - 3 * pi) / (12 - 3 * pi)
    own = 1 / 3 - pi / 16 - 1 / (3 * (12 - 3 * pi))
    A = h * b - (h - 2 * t) * (b - 2 * t) - 4 * corner_out + 4 * corner_in

    def about(d: float, w: float) -> tuple[float, float]:
        """Second moment and plastic modulus for bending over the depth d."""
        arm_out, arm_in = d / 2 - share * ro, d / 2 - t - share * ri
        di, wi = d - 2 * t, w - 2 * t
        second = (w * d**3 - wi * di**3) / 12
        second += 4 * (own * ri**4 + corner_in * arm_in**2) - 4 * (own * ro**4 + corner_out * arm_out**2)
        return second, (w * d**2 - wi * di**2) / 4 - 4 * corner_out * arm_out + 4 * corner_in * arm_in

    (Iy, Wpl_y), (Iz, Wpl_z) = about(h, b), about(b, h)
    rc = (ro + ri) / 2
    around = 2 * ((b - t) + (h - t)) - 2 * rc * (4 - pi)
    enclosed = (b - t) * (h - t) - rc**2 * (4 - pi)
    K = 2 * enclosed * t / around
    It = t**3 * around / 3 + 2 * K * enclosed
    square = h == b
    return Section(
        name=name,
        family=("SHS" if square else "RHS") + (" cold" if cold else ""),
        shape="square" if square else "rectangular",
        h=h,
        b=b,
        tw=t,
        tf=t,
        r=ro,
        A=A,
        Iy=Iy,
        Iz=Iz,
        It=It,
        Iw=0.0,
        Wel_y=2 * Iy / h,
        Wel_z=2 * Iz / b,
        Wpl_y=Wpl_y,
        Wpl_z=Wpl_z,
        Wt=It / (t + K / t),
        Av_y=A * b / (b + h),
        Av_z=A * h / (b + h),
        stiffness_Avy=A * b / (b + h),
        stiffness_Avz=A * h / (b + h),
        cold=cold,
    )


def circular_hollow(name: str, d: float, t: float, cold: bool = False) -> Section:
    """Circular hollow section, EN 10210-2 annex B (hot-finished) or EN 10219-2 annex B (cold-formed)."""
    inner = d - 2 * t
    A = pi * (d**2 - inner**2) / 4
    second = pi * (d**4 - inner**4) / 64
    plastic = (d**3 - inner**3) / 6
    return Section(
        name=name,
        family="CHS" + (" cold" if cold else ""),
        shape="circular",
        h=d,
        b=d,
        tw=t,
        tf=t,
        r=0.0,
        A=A,
        Iy=second,
        Iz=second,
        It=2 * second,
        Iw=0.0,
        Wel_y=2 * second / d,
        Wel_z=2 * second / d,
        Wpl_y=plastic,
        Wpl_z=plastic,
        Wt=4 * second / d,
        Av_y=2 * A / pi,
        Av_z=2 * A / pi,
        stiffness_Avy=A / 2,
        stiffness_Avz=A / 2,
        cold=cold,
    )


def box_outline(h: float, b: float, tf: float, tw: float) -> list[Ring]:
    """Outside and inside of four plates."""
    outer = np.array([(-b / 2, -h / 2), (b / 2, -h / 2), (b / 2, h / 2), (-b / 2, h / 2)])
    y, z = b / 2 - tw, h / 2 - tf
    return [outer, np.array([(-y, -z), (-y, z), (y, z), (y, -z)])]


def box(name: str, h: float, b: float, tf: float, tw: float) -> Section:
    """Box of four plates; b over all, webs flush with the flanges' edges. It by Bredt: 4 A_m² / ∮ ds/t."""
    enclosed = (b - tw) * (h - tf)
    It = 4 * enclosed**2 / (2 * (b - tw) / tf + 2 * (h - tf) / tw)
    return make(
        name,
        "built",
        "box",
        box_outline(h, b, tf, tw),
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        It=It,
        Iw=0.0,
        web=2 * h * tw,
        flanges=2 * b * tf,
    )


def _frame(s: Section) -> list[Ring]:
    inner = s.r - s.tw if s.cold else s.r / 1.5

    def frame(y: float, z: float, r: float) -> Ring:
        return rounded([(-y, -z, r), (y, -z, r), (y, z, r), (-y, z, r)])

    return [frame(s.b / 2, s.h / 2, s.r), frame(s.b / 2 - s.tw, s.h / 2 - s.tf, inner)[::-1]]


OUTLINES = {
    "box": lambda s: box_outline(s.h, s.b, s.tf, s.tw),
    "square": _frame,
    "rectangular": _frame,
    "circular": lambda s: [circle(s.h / 2), circle(s.h / 2 - s.tw, hole=True)],
}
