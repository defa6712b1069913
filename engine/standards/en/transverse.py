"""Webs of I sections under forces on a flange: EN 1993-1-5 6 and 7.2."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.standards.en.steel import SteelArrays
from engine.structure.model import Bools, Floats

Values = dict[str, Any]


def transverse_check(
    p: SteelArrays,
    F: Floats,
    N: Floats,
    My: Floats,
    ss: Floats,
    end: Bools,
    gamma_M0: float,
    gamma_M1: float,
    a: Floats | float = np.inf,
) -> Values:
    """Resistance of an unstiffened web to a force on one flange, type (a) of figure 6.1, or type (c) where it acts at the end of the
    member, and its interaction with bending.

    p: rows that broadcast with F, N, My (N, Nm; tension positive), magnitudes of F. ss: stiff bearing length, m; end: whether the force
    acts at an unstiffened end, c = 0; a: distance of transverse stiffeners, m. The bearing length counts up to the depth of the web
    (6.3(1)), the effective loaded length up to a (6.5(2)).
    """
    hw = p.h - 2 * p.tf
    ss = np.minimum(ss, hw) + 0 * F
    kF = np.where(end, np.minimum(2 + 6 * ss / hw, 6.0), 6 + 2 * (hw / a) ** 2)
    F_cr = 0.9 * kF * p.E * p.tw**3 / hw
    m1 = p.b / p.tw
    # the length from the end that a force there is spread over
    le = np.minimum(kF * p.E * p.tw**2 / (2 * p.fy * hw), ss)

    def loaded(m2: Floats) -> Floats:
        inside = ss + 2 * p.tf * (1 + np.sqrt(m1 + m2))
        at_end = np.minimum(le + p.tf * np.sqrt(m1 / 2 + (le / p.tf) ** 2 + m2), le + p.tf * np.sqrt(m1 + m2))
        return np.asarray(np.minimum(np.where(end, np.minimum(at_end, inside), inside), a))

    def slenderness(ly: Floats) -> Floats:
        return np.asarray(np.sqrt(ly * p.tw * p.fy / F_cr))

    folding = 0.02 * (hw / p.tf) ** 2 + 0 * F
    # m_2 counts for λ̄_F above 0.5, which depends on it
    slender = slenderness(loaded(folding)) > 0.5
    m2 = np.where(slender, folding, 0.0)
    ly = loaded(m2)
    lambda_F = slenderness(ly)
    chi = np.minimum(0.5 / lambda_F, 1.0)
    F_Rd = p.fy * chi * ly * p.tw / gamma_M1
    eta_2 = np.abs(F) / F_Rd
    A = np.where((N < 0) & np.isfinite(p.A_eff), np.minimum(p.A_eff, p.A), p.A)
    W = np.where(np.isfinite(p.Weff_y), np.minimum(p.Weff_y, p.Wel_y), p.Wel_y)
    eta_1 = np.abs(N) * gamma_M0 / (p.fy * A) + np.abs(My) * gamma_M0 / (p.fy * W)
    return {
        "hw": hw + 0 * F,
        "ss": ss,
        "k_F": kF + 0 * F,
        "F_cr": F_cr + 0 * F,
        "m_1": m1 + 0 * F,
        "m_2": m2,
        "l_e": le + 0 * F,
        "l_y": ly + 0 * F,
        "lambda_F": lambda_F + 0 * F,
        "chi_F": chi + 0 * F,
        "F_Rd": F_Rd + 0 * F,
        "eta_1": eta_1,
        "eta_2": eta_2,
        "u_web": np.maximum(eta_2, np.where(eta_2 > 0, (eta_2 + 0.8 * eta_1) / 1.4, 0.0)),
    }
