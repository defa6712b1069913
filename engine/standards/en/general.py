"""The general method of EN 1993-1-1 6.3.4 for members that are haunched or tapered, on arrays of any shape that broadcasts.

Buckling in the plane is in α_ult,k, by the interaction of 6.3.3 (annex B) at every section; buckling out of the plane in α_cr,op.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.standards.en.steel import CURVES, reduction
from engine.structure.model import Bools, Floats

Values = dict[str, Any]

#: what bends sideways grows at most by this: at α_cr,op so near to 1 the member fails all the same, since u ≥ 1/α_cr,op
GROWN = 1e3


def general_curves(section: Section, deepest: Section, plain: float) -> tuple[float, float]:
    """(α of χ, α of χ_LT): curve c of welded sections about z (table 6.2; d above 40 mm) unless the plain section's own, `plain`, is
    lower; table 6.4 for welded sections by the greatest h/b."""
    thick = max(section.tf, deepest.tf, deepest.tf2)
    flexural = max(CURVES["c" if thick <= 0.040 else "d"], plain)
    width = min(deepest.b, deepest.b2 or deepest.b)
    return flexural, CURVES["c" if deepest.h / width <= 2 else "d"]


def in_plane(
    N: Floats,
    My: Floats,
    N_Rk: Floats,
    N_plane: Floats,
    My_Rk: Floats,
    plastic: Bools,
    lambda_y: Floats,
    chi_y: Floats,
    Cmy: Floats,
    gamma_M1: float,
) -> Values:
    """1/α_ult,k of sections: N_Ed/(χ_y N_plane) + k_yy M_y,Ed/M_y,Rk with k_yy of table B.1, never below N_Ed/N_Rk + M_y,Ed/M_y,Rk.
    N_plane: of the member as it buckles in its plane, no more than that of its least section. N: tension positive; My: any sign."""
    NEd, M = np.maximum(-N, 0.0), np.abs(My)
    n = NEd * gamma_M1 / (chi_y * N_plane)
    least = np.abs(N) / N_Rk + M / My_Rk
    kyy = Cmy * np.where(
        plastic,
        np.minimum(1 + (lambda_y - 0.2) * n, 1 + 0.8 * n),
        np.minimum(1 + 0.6 * lambda_y * n, 1 + 0.6 * n),
    )
    bent = NEd / (chi_y * N_plane) + kyy * M / My_Rk
    return {"n_y": n, "kyy": kyy, "use_section": least, "use_plane": bent, "use": np.maximum(least, bent)}


def general_reduction(alpha_z: float, alpha_LT: float, slenderness: Floats) -> Values:
    """χ of (6.49) and χ_LT of (6.56), both at λ̄_op, and the lower of them (6.3.4(4)a)."""
    Phi, chi = reduction(np.asarray(alpha_z), slenderness)
    Phi_LT, chi_LT = reduction(np.asarray(alpha_LT), slenderness)
    return {"Phi_op": Phi, "chi_flex": chi, "Phi_LTop": Phi_LT, "chi_LTop": chi_LT, "chi_op": np.minimum(chi, chi_LT)}


def general_check(
    use: Floats, alpha_cr: Floats, m_z: Floats, alpha_z: float, alpha_LT: float, gamma_M1: float
) -> Values:
    """(6.63) to (6.65). use: 1/α_ult,k; alpha_cr: α_cr,op; m_z: largest M_z,Ed over its resistance. 6.3.4 speaks of loads in the
    plane alone: what bends sideways is added, grown as it does before it buckles, by 1/(1 − 1/α_cr,op). Falls as α_cr,op grows."""
    with np.errstate(divide="ignore", invalid="ignore"):
        slender = np.where(use > 0, np.sqrt(1 / (use * alpha_cr)), 0.0)
    v: Values = {"alpha_ult": 1 / np.maximum(use, 1e-12), "alpha_op": alpha_cr, "lambda_op": slender}
    v |= general_reduction(alpha_z, alpha_LT, slender)
    v["u_op"] = use * gamma_M1 / v["chi_op"]
    with np.errstate(divide="ignore"):
        v["k_zop"] = np.where(alpha_cr > 1, 1 / np.maximum(1 - 1 / np.maximum(alpha_cr, 1e-9), 1e-9), np.inf)
    v["m_z"] = m_z
    v["u_general"] = v["u_op"] + np.where(m_z > 0, np.minimum(v["k_zop"], GROWN) * m_z, 0.0)
    return v
