"""Effective cross-sections of class 4, EN 1993-1-5 4.3 and 4.4: doubly symmetric I sections, square and rectangular hollow ones.

By 4.3(4) in compression alone and in bending alone, each by itself: of doubly symmetric sections the centroid does not move under
compression alone, e_N = 0. The whole yield strength is reached, σ_com,Ed = f_y.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import nan, sqrt

from engine.catalogue.properties import Section
from engine.catalogue.steels import E

#: buckling factors in uniform compression: internal (table 4.1), outstand (table 4.2)
K_PRESSED, K_OUTSTAND = 4.0, 0.43


@dataclass(frozen=True)
class Effective:
    """A_eff in compression alone, W_eff about y and z in bending alone; NaN where it is not covered."""

    A: float
    Wy: float
    Wz: float


def internal(slenderness: float, psi: float) -> float:
    """ρ of an internal part, (4.2); λ̄_p = (b̄/t)/(28.4 ε √k_σ)."""
    if slenderness <= 0.5 + sqrt(max(0.085 - 0.055 * psi, 0.0)):
        return 1.0
    return min((slenderness - 0.055 * (3 + psi)) / slenderness**2, 1.0)


def outstand(slenderness: float) -> float:
    """ρ of an outstand, (4.3)."""
    return 1.0 if slenderness <= 0.748 else min((slenderness - 0.188) / slenderness**2, 1.0)


def part_slenderness(ratio: float, k: float, epsilon: float) -> float:
    """λ̄_p of a part of width over thickness b̄/t."""
    return ratio / (28.4 * epsilon * sqrt(k))


def effective(s: Section, fy: float, modulus: float = E) -> Effective:
    """Effective properties of a section at a yield strength in pascals. The bent web is taken with ψ = −1 where the compressed flange
    is whole, else by its gross depth about the centroid with the reduced flange (4.4(3))."""
    if fy != fy:
        return Effective(nan, nan, nan)
    epsilon = sqrt(235e6 / fy * modulus / E)
    if s.shape == "I":
        return _i_section(s, epsilon)
    if s.shape in ("square", "rectangular"):
        return _hollow(s, epsilon)
    return Effective(nan, nan, nan)


def _i_section(s: Section, epsilon: float) -> Effective:
    web, flat = s.h - 2 * s.tf - 2 * s.r, (s.b - s.tw) / 2 - s.r
    rho_f = outstand(part_slenderness(flat / s.tf, K_OUTSTAND, epsilon))
    rho_w = internal(part_slenderness(web / s.tw, K_PRESSED, epsilon), 1.0)
    lost = (1 - rho_f) * flat
    A = s.A - 4 * lost * s.tf - (1 - rho_w) * web * s.tw
    # bending about z: both outstands that are compressed lose their tips, taken from all four
    width = s.b - 2 * lost
    Iz = s.Iz - 2 * s.tf * (s.b**3 - width**3) / 12
    return Effective(A, _bent(s.A, s.Iy, s.h, s.tf, (1, s.tw), web, 2 * lost * s.tf, epsilon), Iz / (s.b / 2))


def _hollow(s: Section, epsilon: float) -> Effective:
    depth, width = s.h - 3 * s.tw, s.b - 3 * s.tw
    lost = {}
    for name, flat in (("h", depth), ("b", width)):
        lost[name] = (1 - internal(part_slenderness(flat / s.tw, K_PRESSED, epsilon), 1.0)) * flat * s.tw
    A = s.A - 2 * (lost["h"] + lost["b"])
    Wy = _bent(s.A, s.Iy, s.h, s.tw, (2, s.tw), depth, lost["b"], epsilon)
    Wz = _bent(s.A, s.Iz, s.b, s.tw, (2, s.tw), width, lost["h"], epsilon)
    return Effective(A, Wy, Wz)


def _bent(
    area: float,
    second: float,
    h: float,
    tf: float,
    webs: tuple[int, float],
    flat: float,
    lost: float,
    epsilon: float,
) -> float:
    """W_eff on the compressed side of a doubly symmetric section in bending. webs: their number and thickness; flat: clear depth;
    lost: area that the compressed flange loses."""
    count, thickness = webs
    arm = (h - tf) / 2
    # with the reduced flange the centroid falls by this
    fall = lost * arm / (area - lost)
    top, low = flat / 2 + fall, -flat / 2 + fall
    psi = low / top
    k = 7.81 - 6.29 * psi + 9.78 * psi**2 if psi > -1 else 5.98 * (1 - psi) ** 2
    rho = internal(part_slenderness(flat / thickness, k, epsilon), psi)
    pressed = rho * top
    gap = top - pressed
    # 40 % of what is effective lies at the flange, 60 % at the neutral axis (table 4.1)
    hole = flat / 2 - 0.4 * pressed - gap / 2
    out = gap * count * thickness
    left = area - lost - out
    centre = -(lost * arm + out * hole) / left
    about = second - lost * (arm**2 + tf**2 / 12) - out * hole**2 - out * gap**2 / 12 - left * centre**2
    return about / max(h / 2 - centre, 1e-9)
