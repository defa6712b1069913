"""Stability of members by EN 1993-1-1 6.3: flexural, lateral-torsional, and under N with M, on arrays."""

from __future__ import annotations

import numpy as np

from engine.standards.en.interaction import annex_a, annex_b
from engine.standards.en.steel import LITTLE, PLATEAU, SteelArrays, Values, classify, ratio, reduction
from engine.structure.model import Floats


def critical_moment(p: SteelArrays, length: Floats, C1: Floats, lift: Floats | float = 0.0) -> Values:
    """M_cr of a doubly symmetric section between fork supports (Timoshenko and Gere, 6.4 to 6.6), and what it is made of.

    lift: c of `shape_of_moments` where the load acts at the flange, 0 where it acts at the shear centre: the energy of one half
    wave gives M² / C1² + N_z (h/2) c M = M_cr,0², with M_cr,0 that of uniform moment.
    """
    N_z = np.pi**2 * p.E * p.Iz / length**2
    uniform = N_z * np.sqrt(p.Iw / p.Iz + p.G * p.It / N_z)
    push = N_z * p.h / 2 * lift
    M_cr = C1**2 / 2 * (np.sqrt(push**2 + 4 * uniform**2 / C1**2) - push)
    return {"N_z": N_z + 0 * M_cr, "Mcr_0": uniform + 0 * M_cr, "Mcr": M_cr}


def _flexural(p: SteelArrays, v: Values, NEd: Floats, gamma_M1: float) -> Values:
    """Flexural and torsional buckling, 6.3.1, by the critical forces and the area A_N (class 4: the effective one) in v."""
    f: Values = {"N_Rk": v["A_N"] * p.fy}
    f["lambda_y"] = np.sqrt(f["N_Rk"] / v["Ncr_y"])
    f["lambda_z"] = np.sqrt(f["N_Rk"] / v["Ncr_z"])
    f["Phi_y"], f["chi_y"] = reduction(p.alpha_y, f["lambda_y"])
    f["Phi_z"], f["chi_zf"] = reduction(p.alpha_z, f["lambda_z"])
    f["lambda_T"] = np.sqrt(f["N_Rk"] / v["Ncr_T"])
    f["Phi_T"], f["chi_T"] = reduction(p.alpha_z, f["lambda_T"])
    f["chi_z"] = np.minimum(f["chi_zf"], f["chi_T"])
    f["Nb_y"] = f["chi_y"] * f["N_Rk"] / gamma_M1
    f["Nb_z"] = f["chi_z"] * f["N_Rk"] / gamma_M1
    f["u_Ny"], f["u_Nz"] = NEd / f["Nb_y"], NEd / f["Nb_z"]
    return f


def stability_check(
    p: SteelArrays,
    N: Floats,
    My: Floats,
    Mz: Floats,
    Cmy: Floats,
    CmLT: Floats,
    C1: Floats,
    Lcr_y: Floats,
    Lcr_z: Floats,
    L_T: Floats,
    a_T: Floats,
    L_LT: Floats,
    gamma_M1: float,
    lift: Floats | float = 0.0,
    My_most: Floats | float = 0.0,
    Mz_most: Floats | float = 0.0,
    most_y: Floats | float = np.inf,
    most_z: Floats | float = np.inf,
    lambda_LT0: float = 0.4,
    beta: float = 0.75,
    modified: bool = False,
    every: bool = False,
    Cmy0: tuple[Floats, Floats] | None = None,
) -> Values:
    """Buckling of members, 6.3.1 to 6.3.3, with annex B, or with annex A where Cmy0 is given (`annex_a`).

    N: the axial force (tension positive; tension counts as none). My, Mz: largest moments of the segment, magnitudes.
    Lcr_y, Lcr_z: flexural buckling lengths; L_T: spacing of torsional restraints, a_T: distance of the held flange from
    the shear centre (0: free axis), BB.3.3.1; L_LT: length between restraints of the compressed flange. lift: as for
    `critical_moment`. My_most, Mz_most: largest moments anywhere in the member: without any that counts it is one in compression
    alone. most_y, most_z: critical axial forces that the buckling of the whole leaves the member, inf where it does
    not limit them; there it counts as a member that sways (C_my ≥ 0.9). lambda_LT0, beta: of 6.3.2.3(1); modified: χ_LT by f of
    6.3.2.3(2) with k_c = 1/√C1, which table 6.6 gives for linear diagrams; every: by 6.3.2.2 for all sections instead, χ_LT = 1 up
    to λ̄ = 0.2 alone (safe side of 6.3.2.2(4)).
    """
    alpha_LT = p.alpha_LT
    if every:
        alpha_LT, lambda_LT0, beta, modified = p.alpha_LT_all, PLATEAU, 1.0, False
    v: Values = classify(p, N)
    with np.errstate(divide="ignore", invalid="ignore"):
        shape = np.zeros(np.broadcast_shapes(np.shape(N), np.shape(L_LT)))
        NEd = np.maximum(-N, 0.0)
        v["Euler_y"] = np.pi**2 * p.E * p.Iy / Lcr_y**2 + shape
        v["Euler_z"] = np.pi**2 * p.E * p.Iz / Lcr_z**2 + shape
        v["Ncr_y"], v["Ncr_z"] = np.minimum(v["Euler_y"], most_y), np.minimum(v["Euler_z"], most_z)
        v["as_whole_y"], v["as_whole_z"] = (v["Ncr_y"] < v["Euler_y"]) + 0.0, (v["Ncr_z"] < v["Euler_z"]) + 0.0
        Cmy = np.where(v["as_whole_y"] > 0, np.maximum(Cmy, 0.9), Cmy)
        v["i_s2"] = (p.Iy + p.Iz) / p.A + a_T**2 + shape
        v["Ncr_T"] = np.where(
            p.kind == 0,
            (np.pi**2 * p.E * (p.Iz * a_T**2 + p.Iw) / L_T**2 + p.G * p.It) / v["i_s2"],
            np.inf,
        )
        v["A_N"] = np.where(v["cls"] == 4, p.A_eff, p.A) + shape
        v |= _flexural(p, v, NEd, gamma_M1)
        alone = v["cls_N"] == 4
        if (alone & (v["cls"] < 4)).any():
            # in compression alone, or nearly, a section whose class is 4 there has no full area
            W_y, W_z = (np.where(v["cls"] <= 2, pl, el) for pl, el in ((p.Wpl_y, p.Wel_y), (p.Wpl_z, p.Wel_z)))
            bent = np.maximum(My, My_most) / (W_y * p.fy) + np.maximum(Mz, Mz_most) / (W_z * p.fy)
            pressed = np.maximum(v["u_Ny"], v["u_Nz"])
            nearly = (pressed > LITTLE) & (pressed >= bent * gamma_M1)
            v["cls"] = np.where(nearly & alone, 4.0, v["cls"])
            v["A_N"] = np.where(v["cls"] == 4, p.A_eff, p.A) + shape
            v |= _flexural(p, v, NEd, gamma_M1)
        plastic, slender = v["cls"] <= 2, v["cls"] == 4
        v["W_y"] = np.where(plastic, p.Wpl_y, np.where(slender, p.Weff_y, p.Wel_y))
        v["W_z"] = np.where(plastic, p.Wpl_z, np.where(slender, p.Weff_z, p.Wel_z))
        v["My_Rk"], v["Mz_Rk"] = v["W_y"] * p.fy, v["W_z"] * p.fy

        prone = p.kind == 0
        found = critical_moment(p, L_LT, C1, lift)
        v |= found | {"Mcr": np.where(prone, found["Mcr"], np.inf)}
        v["lambda_LT"] = np.sqrt(v["My_Rk"] / v["Mcr"])
        v["Phi_LT"] = 0.5 * (1 + alpha_LT * (v["lambda_LT"] - lambda_LT0) + beta * v["lambda_LT"] ** 2)
        chi = 1 / (v["Phi_LT"] + np.sqrt(np.maximum(v["Phi_LT"] ** 2 - beta * v["lambda_LT"] ** 2, 0)))
        chi = np.minimum(np.minimum(chi, 1.0), 1 / np.maximum(v["lambda_LT"], 1e-9) ** 2)
        v["f"] = np.ones_like(chi)
        if modified:
            v["k_c"] = 1 / np.sqrt(C1) + shape
            least = 1 - 0.5 * (1 - v["k_c"]) * (1 - 2 * (v["lambda_LT"] - 0.8) ** 2)
            v["f"] = np.minimum(np.where(np.isfinite(least), least, 1.0), 1.0)
            chi = np.minimum(np.minimum(chi / v["f"], 1.0), 1 / np.maximum(v["lambda_LT"], 1e-9) ** 2)
        v["chi_LT"] = np.where(v["lambda_LT"] <= lambda_LT0, 1.0, chi)
        v["Mb_Rd"] = v["chi_LT"] * v["My_Rk"] / gamma_M1
        v["u_LT"] = My / v["Mb_Rd"]

        ny, nz = v["u_Ny"], v["u_Nz"]
        v["ratio_My"], v["ratio_Mz"] = My / v["Mb_Rd"], ratio(Mz, v["Mz_Rk"] / gamma_M1)
        if Cmy0 is None:
            v |= annex_b(p, v, Cmy, CmLT)
        else:
            sways = v["as_whole_y"] > 0
            own = np.where(sways, 1.0, Cmy0[0]), np.where(sways, np.maximum(Cmy0[1], 0.0), Cmy0[1])
            v |= annex_a(p, v, NEd, My, Mz, own, C1)
        v["u_661"] = ny + v["kyy"] * v["ratio_My"] + v["kyz"] * v["ratio_Mz"]
        v["u_662"] = nz + v["kzy"] * v["ratio_My"] + v["kzz"] * v["ratio_Mz"]
    return v
