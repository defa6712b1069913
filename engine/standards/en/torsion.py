"""Torsion of prismatic members with bending: the bimoment of warping, cross-sections by 6.2.7, members by EN 1993-6 annex A."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.linalg import solve_banded

from engine.standards.en.steel import SteelArrays, Values, section_check, torsion_use
from engine.structure.model import Floats

#: stations nearer than this stand at one place, m
CLOSE = 1e-9
#: k L of an interval beyond which its ends know nothing of each other
FAR = 300.0
#: of what is left of 1 − M_y/M_cr − N/N_cr no less counts: beyond, it buckles, a thousand times over
NEARLY = 1e-3
#: share of the strength in shear beyond which nothing is left for the rest
SPENT = 1 - 1e-9


@dataclass(frozen=True)
class Warped:
    """What torsion does along a member, at its stations, (stations, combinations). B: bimoment, Nm²; T_t: St Venant's part of the torque,
    Nm; twist: from the start, rad."""

    B: Floats
    T_t: Floats
    twist: Floats


def warped(x: Floats, T: Floats, EIw: float, GIt: float, held: tuple[bool, bool]) -> Warped:
    """Warping torsion of a prismatic member under its torque: E I_w θ″ − G I_t θ = −T with the rate of twist θ = φ′, B = −E I_w θ′
    (Vlasov); exact where T is linear between stations.

    x: (stations,) m, rising; where T jumps, a station before and one behind, at the same place or closely. T: (stations, combinations).
    held: whether the start and the end are held against warping (θ = 0) or free to warp (B = 0).
    """
    k = np.sqrt(GIt / EIw)
    apart = np.diff(x) > CLOSE
    place = np.concatenate([[0], np.cumsum(apart)])
    left, right = np.flatnonzero(apart), np.flatnonzero(apart) + 1
    a = (x[right] - x[left])[:, None]
    ka = np.minimum(k * a, FAR)
    coth, csch = k / np.tanh(ka), k / np.sinh(ka)
    # between stations θ is T/G I_t and what dies away from its ends
    t0, t1 = T[left] / GIt, T[right] / GIt
    slope = (t1 - t0) / a
    count = int(place[-1]) + 1
    diagonal, beside = np.zeros(count), -csch[:, 0]
    diagonal[:-1] += coth[:, 0]
    diagonal[1:] += coth[:, 0]
    rhs = np.zeros((count, T.shape[1]))
    rhs[:-1] += slope + coth * t0 - csch * t1
    rhs[1:] += -slope + coth * t1 - csch * t0
    upper, lower = np.zeros(count), np.zeros(count)
    upper[1:], lower[:-1] = beside, beside
    for end, off, fixed in ((0, upper[1:2], held[0]), (-1, lower[-2:-1], held[1])):
        if fixed:
            diagonal[end], off[:], rhs[end] = 1.0, 0.0, 0.0
    theta = solve_banded((1, 1), np.stack([upper, diagonal, lower]), rhs)
    h0, h1 = theta[:-1] - t0, theta[1:] - t1
    start, end = slope - coth * h0 + csch * h1, slope - csch * h0 + coth * h1
    bend = np.zeros((len(x), T.shape[1]))
    bend[left], bend[right] = start, end
    # where θ′ turns between two stations: tanh kξ = h0 sinh ka/(h0 cosh ka − h1)
    with np.errstate(divide="ignore", invalid="ignore"):
        xi = np.arctanh(h0 * np.sinh(ka) / (h0 * np.cosh(ka) - h1))
        inside = (h0 * h1 < 0) & (xi > 0) & (xi < ka)
        turned = slope + k * (h1 * np.cosh(xi) - h0 * np.cosh(ka - xi)) / np.sinh(ka)
        peak = np.where(inside & np.isfinite(turned), turned, 0.0)
    for side in (left, right):
        bend[side] = np.where(np.abs(peak) > np.abs(bend[side]), peak, bend[side])
    gained = (t0 + t1) / 2 * a + (h0 + h1) * np.tanh(ka / 2) / k
    twist = np.concatenate([np.zeros((1, T.shape[1])), np.cumsum(gained, axis=0)])
    return Warped(-EIw * bend, GIt * theta[place], twist[place])


def left_by(u_T: Floats) -> Floats:
    """What the shear of torsion, as a share of the strength in shear, leaves of the strength to normal stresses, (6.1)."""
    return np.asarray(np.sqrt(1 - np.minimum(u_T, SPENT) ** 2))


def torsion_section(
    p: SteelArrays,
    N: Floats,
    Vy: Floats,
    Vz: Floats,
    My: Floats,
    Mz: Floats,
    B: Floats,
    T_t: Floats,
    gamma_M0: float,
    eta: float = 1.0,
    gamma_M1: float = 1.0,
) -> Values:
    """Cross-section with torsion, 6.2.7. I sections: the bimoment bends both flanges about z, each by B/h_s, which 6.2.9 takes as
    M_z + 2 B/h_s (for both flanges as for the worse one: safe side); shear by (6.26). Hollow sections: B = 0, shear by (6.28). St
    Venant's shear stress leaves √(1 − (τ_t/τ_Rd)²) of the strength by (6.1) to N and M: u_NM is under what is left, u_MT what the
    loads may grow by together. Class 4 I sections: NaN."""
    with np.errstate(divide="ignore", invalid="ignore"):
        v: Values = {"h_s": p.h - p.tf, "tau_t": np.abs(T_t) / p.Wt, "u_T": torsion_use(p, T_t, gamma_M0)}
        v["left"] = left_by(v["u_T"])
        v["Mz_B"] = np.where(p.kind == 0, 2 * np.abs(B) / v["h_s"], 0.0)
        v["Mz_T"] = np.abs(Mz) + v["Mz_B"]
        # 6.2.8(4): by the resistance to shear that torsion leaves
        used = np.minimum(v["u_T"], SPENT)
        v["sheared"] = np.where(p.kind == 0, np.sqrt(np.maximum(1 - used / 1.25, 0.0)), 1 - used)
        loads = (N / v["left"], Vy / v["sheared"], Vz / v["sheared"], 0 * N, My / v["left"], v["Mz_T"] / v["left"])
        w = section_check(p, *loads, gamma_M0, eta, gamma_M1)
        v |= {name: w[name] for name in ("cls", "n", "ry", "rz", "exp_y", "exp_z", "biaxial", "u_linear", "u_NM")}
        v["linear"] = w["linear"] + 0.0
        v["u_V"] = w["u_V"] * v["sheared"]
        # (6.26) and (6.28) as what the loads may grow by
        share = v["u_T"] / 1.25
        open_ = (share + np.sqrt(share**2 + 4 * v["u_V"] ** 2)) / 2
        v["u_VT"] = np.where(p.kind == 0, open_, v["u_V"] + v["u_T"])
        v["u_MT"] = np.hypot(v["left"] * v["u_NM"], v["u_T"])
        slender = (w["cls"] == 4) & (p.kind == 0)
        v["u_torsion"] = np.where(slender, np.nan, np.maximum(v["u_VT"], v["u_MT"]))
    return v


def torsion_member(p: SteelArrays, s: Values, N: Floats, B: Floats, u_T: Floats, gamma_M1: float) -> Values:
    """Buckling with torsion. I sections: EN 1993-6 (A.1), M_y/(χ_LT M_y,Rd) + C_mz M_z/M_z,Rd + k_w k_zw k_α B/B_Rd, its first two terms
    with those of N as 6.3.3 has them; k_α of M_y/M_cr and N/N_cr together; B_Rd elastic. Hollow sections: what 6.3 finds, with
    the strength that the shear of torsion leaves. s: `stability_check` of the segments; B, u_T: the largest there."""
    with np.errstate(divide="ignore", invalid="ignore"):
        v: Values = {
            "u_63": np.max(np.broadcast_arrays(s["u_Ny"], s["u_Nz"], s["u_LT"], s["u_661"], s["u_662"]), axis=0)
        }
        v["h_s"] = p.h - p.tf
        v["W_w"] = p.tf * p.b**2 * v["h_s"] / 6
        v["B_Rd"] = v["W_w"] * p.fy / gamma_M1
        v["b_B"] = np.abs(B) / v["B_Rd"]
        v["k_w"] = np.maximum(0.7 - 0.2 * v["b_B"], 0.0)
        v["k_zw"] = np.maximum(1 - s["ratio_Mz"], 0.0)
        v["grown"] = s["ratio_My"] * s["Mb_Rd"] / s["Mcr"] + np.maximum(-N, 0.0) / np.minimum(s["Ncr_z"], s["Ncr_T"])
        v["k_alpha"] = 1 / np.maximum(1 - v["grown"], NEARLY)
        by_warping = v["u_63"] + v["k_w"] * v["k_zw"] * v["k_alpha"] * v["b_B"]
        v["u_twist"] = np.where(p.kind == 0, np.where(s["cls"] == 4, np.nan, by_warping), np.hypot(v["u_63"], u_T))
    return v
