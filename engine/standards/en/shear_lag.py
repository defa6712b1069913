"""Shear lag in wide flanges, EN 1993-1-5 3: how much of a flange's area counts at the ultimate limit state."""

from __future__ import annotations

#: κ up to which nothing is lost, and from which on the last line of table 3.1 holds
NONE, WIDE = 0.02, 0.7


def width_factor(kappa: float, hogging: bool) -> float:
    """β of table 3.1 by κ = b_0/L_e without stiffeners in the flange: sagging β_1, hogging β_2 (supports, cantilevers)."""
    if kappa <= NONE:
        return 1.0
    if kappa <= WIDE:
        return 1 / (1 + (6 * (kappa - 1 / (2500 * kappa)) + 1.6 * kappa**2 if hogging else 6.4 * kappa**2))
    return 1 / ((8.6 if hogging else 5.9) * kappa)


def left_at_ultimate(kappa: float, hogging: bool) -> float:
    """Share of the flange that counts with elastic-plastic shear lag, β^κ, 3.3(1) NOTE 3."""
    return float(width_factor(kappa, hogging) ** kappa)
