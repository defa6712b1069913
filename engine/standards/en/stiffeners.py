"""Transverse stiffeners of webs, flat plates alike on both sides, and end posts: EN 1993-1-5 9, on arrays of any shape that broadcasts."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.standards.en.steel import CURVES, reduction
from engine.structure.model import Bools, Floats

Values = dict[str, Any]

#: least distance of the two stiffeners of a rigid end post, over h_w, 9.3.1(3)
POST = 0.1


def stiffener_check(
    *,
    width: float,
    thickness: float,
    hw: float,
    tw: float,
    E: float,
    fy: float,
    fy_web: float,
    lambda_w: float,
    panel: float,
    post: float,
    beside: Floats,
    ends: Bools,
    F: Floats,
    V: Floats,
    N_web: Floats,
    gamma_M1: float,
) -> Values:
    """What one pair of plates is used at each place, by what asks most of it.

    width, thickness: of one plate, m; hw, tw: of the web, m; fy, fy_web: Pa, of the weaker of plate and web, and of the web; lambda_w: slenderness of
    the web in shear; panel: distance of stiffeners that the web's strength in shear counts with, m, inf where it counts without;
    post: distance of the two pairs of a rigid end post, m, 0 where it has none. beside: (k, 2) web that is there for the stiffener before and
    behind it, m; ends: (k, 1) whether it is an end post. F: (k, c) force that presses on it, V: shear of the web beside it, N_web:
    compression that the web bears in the panels beside it, all in N, not negative. Ends of the stiffener are held sideways, and hinged.
    """
    epsilon = np.sqrt(235e6 / fy_web * E / 210e9)
    strip = np.minimum(15 * epsilon * tw, beside).sum(axis=1, keepdims=True)
    A = 2 * width * thickness + (strip + thickness) * tw
    I = thickness * (2 * width + tw) ** 3 / 12 + strip * tw**3 / 12  # noqa: E741
    e = width + tw / 2
    N_ST = np.where(ends, 0.0, np.maximum(V - fy_web * hw * tw / (np.sqrt(3) * gamma_M1 * lambda_w**2), 0.0))
    N = F + N_ST
    N_cr = np.pi**2 * E * I / hw**2
    slender = np.sqrt(A * fy / N_cr)
    chi = reduction(np.asarray(CURVES["c"]), slender)[1]
    N_b = chi * A * fy / gamma_M1
    v: Values = {
        "F": F,
        "V_s": V,
        "N_web": N_web,
        "A_st": A,
        "I_st": I,
        "strip": strip,
        "N_ST": N_ST,
        "N_s": N,
        "N_cr_s": N_cr,
        "lambda_s": slender,
    }
    v |= {"chi_s": chi, "N_b_s": N_b, "u_N": N / N_b, "u_tor": 5.3 * fy / E * (width / thickness) ** 2}
    used = np.maximum(v["u_N"], v["u_tor"])
    bay = hw / panel
    # no stiffener is asked to keep panels apart that the web counts without
    v["I_min"] = np.where(ends | (bay == 0), 0.0, np.where(bay > 1 / np.sqrt(2), 1.5 * bay**2, 0.75) * hw * tw**3)
    v["u_I"] = v["I_min"] / I
    # 9.2.1(4) to (6), with σ_cr,c/σ_cr,p at its most, 1
    v["sigma_m"] = np.where(ends, 0.0, N_web / hw * 2 / panel)
    apart = v["sigma_m"] > 0
    v["Delta_N"] = v["sigma_m"] * hw**2 / np.pi**2
    v["w_0"] = min(panel, hw) / 300 + 0 * N
    whole = N + v["Delta_N"]
    with np.errstate(divide="ignore", invalid="ignore"):
        v["w"] = np.where(whole < N_cr, v["w_0"] * whole / (N_cr - whole), np.inf)
        bent = N / A + whole * (v["w_0"] + v["w"]) * e / I
    v["u_w"] = np.where(apart, v["w"] * 300 / hw, 0.0)
    v["sigma_s"] = np.where(apart, bent, 0.0)
    v["u_s"] = v["sigma_s"] * gamma_M1 / fy
    used = np.maximum(np.maximum(used, v["u_I"]), np.maximum(v["u_w"], v["u_s"]))
    v["A_post"] = np.where(ends & (post > 0), 4 * hw * tw**2 / max(post, 1e-9), 0.0)
    v["u_post"] = np.where(
        ends & (post > 0), np.maximum(v["A_post"] / (2 * width * thickness), POST * hw / max(post, 1e-9)), 0.0
    )
    v["u_stiffener"] = np.maximum(used, v["u_post"])
    return {key: value + 0 * N for key, value in v.items()}
