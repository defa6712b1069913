"""Interaction factors of 6.3.3 by annex A and by annex B of EN 1993-1-1, on what `steel.stability_check` has found so far.

Values read: N_Ed over N_cr and over resistances, slendernesses, χ, M_cr; written: k_yy, k_yz, k_zy, k_zz and what they are made of.
"""

from __future__ import annotations

import numpy as np

from engine.standards.en.steel import SteelArrays, Values
from engine.structure.model import Floats

#: N_Ed/N_cr counts at most as this: beyond it flexural buckling fails by itself
NEARLY = 1 - 1e-6
#: C_mz,0 = 1 + 0.24 N_Ed/N_cr,z of a uniform moment, table A.2 with ψ = 1: no moment about z asks for more
UNIFORM = 0.36 * 0.67


def annex_b(p: SteelArrays, v: Values, Cmy: Floats, CmLT: Floats) -> Values:
    """Tables B.1 and B.2. Cmy, CmLT: of table B.3; C_mz = 1."""
    plastic, prone = v["cls"] <= 2, p.kind == 0
    ny, nz = v["u_Ny"], v["u_Nz"]
    ly, lz = v["lambda_y"], np.maximum(v["lambda_z"], v["lambda_T"])
    found: Values = {"Cmy": Cmy + 0 * ny, "Cmz": 1.0 + 0 * ny, "CmLT": CmLT + 0 * ny, "lambda_zT": lz}
    found["kyy"] = np.where(
        plastic,
        Cmy * np.minimum(1 + (ly - 0.2) * ny, 1 + 0.8 * ny),
        Cmy * np.minimum(1 + 0.6 * ly * ny, 1 + 0.6 * ny),
    )
    kzz_open = np.minimum(1 + (2 * lz - 0.6) * nz, 1 + 1.4 * nz)
    kzz_hollow = np.minimum(1 + (lz - 0.2) * nz, 1 + 0.8 * nz)
    kzz_elastic = np.minimum(1 + 0.6 * lz * nz, 1 + 0.6 * nz)
    found["kzz"] = np.where(plastic, np.where(prone, kzz_open, kzz_hollow), kzz_elastic)
    found["kyz"] = np.where(plastic, 0.6 * found["kzz"], found["kzz"])
    spread = np.maximum(CmLT - 0.25, 0.15)
    kzy_plastic = np.where(
        lz < 0.4,
        np.minimum(0.6 + lz, 1 - 0.1 * lz * nz / spread),
        np.maximum(1 - 0.1 * lz * nz / spread, 1 - 0.1 * nz / spread),
    )
    kzy_elastic = np.maximum(1 - 0.05 * lz * nz / spread, 1 - 0.05 * nz / spread)
    hollow = np.where(plastic, 0.6, 0.8) * found["kyy"]
    found["kzy"] = np.where(prone, np.where(plastic, kzy_plastic, kzy_elastic), hollow)
    return found


def annex_a(
    p: SteelArrays, v: Values, NEd: Floats, My: Floats, Mz: Floats, Cmy0: tuple[Floats, Floats], C1: Floats
) -> Values:
    """Tables A.1 and A.2. Cmy0: (a, b) of C_my,0 = a + b N_Ed/N_cr,y (`moments.amplification`); C_mz,0 as of a uniform moment; C1 of
    the segment. Ratios of moments are those of (6.61): M_Ed over M_b,Rd, and over M_z,Rk/γ_M1."""
    plastic, prone = v["cls"] <= 2, p.kind == 0
    ey, ez = np.minimum(NEd / v["Ncr_y"], NEARLY), np.minimum(NEd / v["Ncr_z"], NEARLY)
    eT = np.minimum(NEd / v["Ncr_T"], NEARLY)
    found: Values = {
        "e_y": ey,
        "e_z": ez,
        "e_T": eT,
        "mu_y": (1 - ey) / (1 - v["chi_y"] * ey),
        "mu_z": (1 - ez) / (1 - v["chi_z"] * ez),
        "w_y": np.minimum(p.Wpl_y / p.Wel_y, 1.5) + 0 * ey,
        "w_z": np.minimum(p.Wpl_z / p.Wel_z, 1.5) + 0 * ey,
        "n_pl": v["u_Ny"] * v["chi_y"],
        "lambda_most": np.maximum(v["lambda_y"], np.maximum(v["lambda_z"], v["lambda_T"])),
        "a_LT": np.maximum(1 - p.It / p.Iy, 0.0) + 0 * ey,
        "Cmy_0": Cmy0[0] + Cmy0[1] * ey,
        "Cmz": 1 + UNIFORM * ez,
    }
    f = found
    # λ̄_0: of a uniform moment
    f["lambda_0"] = np.where(prone, np.sqrt(v["My_Rk"] / v["Mcr_0"]), 0.0)
    f["lambda_0lim"] = 0.2 * np.sqrt(C1) * ((1 - ez) * (1 - eT)) ** 0.25
    W_elastic = np.where(v["cls"] == 4, v["W_y"], p.Wel_y)
    f["epsilon_y"] = np.where(NEd > 0, My * v["A_N"] / (np.where(NEd > 0, NEd, 1.0) * W_elastic), np.inf)
    root = np.sqrt(f["epsilon_y"]) * f["a_LT"]
    share = np.where(np.isinf(root), 1.0, root / (1 + np.where(np.isinf(root), 1.0, root)))
    twists = f["lambda_0"] > f["lambda_0lim"]
    f["Cmy"] = np.where(twists, f["Cmy_0"] + (1 - f["Cmy_0"]) * share, f["Cmy_0"])
    f["CmLT"] = np.where(twists, np.maximum(f["Cmy"] ** 2 * f["a_LT"] / np.sqrt((1 - ez) * (1 - eT)), 1.0), 1.0)
    my, mz = v["ratio_My"], v["ratio_Mz"]
    far = v["lambda_z"] ** 4
    b = 0.5 * f["a_LT"] * f["lambda_0"] ** 2 * my * mz
    c = 10 * f["a_LT"] * f["lambda_0"] ** 2 / (5 + far) * my / f["Cmy"]
    d = 2 * f["a_LT"] * f["lambda_0"] / (0.1 + far) * my / f["Cmy"] * mz / f["Cmz"]
    e = 1.7 * f["a_LT"] * f["lambda_0"] / (0.1 + far) * my / f["Cmy"]
    f |= {"b_LT": b, "c_LT": c, "d_LT": d, "e_LT": e}
    wy, wz, n, most = f["w_y"], f["w_z"], f["n_pl"], f["lambda_most"]

    def own(w: Floats, Cm: Floats) -> Floats:
        return np.asarray(2 - 1.6 / w * Cm**2 * most - 1.6 / w * Cm**2 * most**2)

    def other(w: Floats, Cm: Floats) -> Floats:
        return np.asarray(2 - 14 * Cm**2 * most**2 / w**5)

    yz, zy = 0.6 * np.sqrt(wz / wy), 0.6 * np.sqrt(wy / wz)
    f["C_yy"] = np.maximum(1 + (wy - 1) * (own(wy, f["Cmy"]) * n - b), 1 / wy)
    f["C_yz"] = np.maximum(1 + (wz - 1) * (other(wz, f["Cmz"]) * n - c), yz * p.Wel_z / p.Wpl_z)
    f["C_zy"] = np.maximum(1 + (wy - 1) * (other(wy, f["Cmy"]) * n - d), zy * p.Wel_y / p.Wpl_y)
    f["C_zz"] = np.maximum(1 + (wz - 1) * (own(wz, f["Cmz"]) - e) * n, p.Wel_z / p.Wpl_z)
    y, z = f["Cmy"] * f["CmLT"] / (1 - ey), f["Cmz"] / (1 - ez)
    f["kyy"] = y * f["mu_y"] * np.where(plastic, 1 / f["C_yy"], 1.0)
    f["kyz"] = z * f["mu_y"] * np.where(plastic, yz / f["C_yz"], 1.0)
    f["kzy"] = y * f["mu_z"] * np.where(plastic, zy / f["C_zy"], 1.0)
    f["kzz"] = z * f["mu_z"] * np.where(plastic, 1 / f["C_zz"], 1.0)
    return found
