"""Channels that bend: EN 1993-1-1 6.2 as the sum of 6.2.1(7), 6.3.1, and 6.3.2.2 with curve d. Loads count at the shear centre.

They are symmetric about y, the axis of their strong bending: the flexural mode about y goes with torsion, that about z stands alone, and
M_cr is that of a doubly symmetric section with their own I_z, I_t, I_w (Trahair, Flexural-Torsional Buckling of Structures, 7.2).
6.3.3 is for double symmetry: under N with M they take the sum of all three shares, moments grown by 1/(1 − N/N_cr) (Timoshenko and
Gere, 1.11), without factors below 1.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import E, Material
from engine.standards.en.axial import torsional
from engine.standards.en.steel import CURVES, PLATEAU, reduction
from engine.structure.model import Floats

Values = dict[str, Any]

#: tables 6.2 and 6.4: buckling, and buckling sideways of other than I sections
FLEXURAL, LATERAL = "c", "d"


@dataclass(frozen=True)
class Channel:
    """A channel with its strength and class. cls: with the web as in uniform compression (safe side in bending), 4 where an outstand or
    the web is beyond class 3: such a one is not covered."""

    section: Section
    fy: float
    E: float
    G: float
    web: float
    flange: float
    epsilon: float
    cls: float

    @property
    def W_y(self) -> float:
        """Plastic in class 1 and 2, else elastic."""
        return self.section.Wpl_y if self.cls <= 2 else self.section.Wel_y


def channel_of(section: Section, material: Material) -> Channel:
    """A channel of a steel. Strength NaN where it has none for its thickness."""
    fy = material.fy(max(section.tf, section.tw))
    epsilon = float(np.sqrt(235e6 / fy * material.E / E))
    web = (section.h - 2 * section.tf - 2 * section.r) / section.tw
    flange = (section.b - section.tw - section.r) / section.tf
    cls = 1.0 + max(
        sum(web > limit * epsilon for limit in (33.0, 38.0, 42.0)),
        sum(flange > limit * epsilon for limit in (9.0, 10.0, 14.0)),
    )
    return Channel(section, fy, material.E, material.G, web, flange, epsilon, cls)


def channel_section(p: Channel, N: Floats, Vy: Floats, Vz: Floats, My: Floats, Mz: Floats, gamma_M0: float) -> Values:
    """N/N_Rd + M_y/M_y,Rd + M_z/M_z,Rd (6.2), moments about y plastic in class 1 and 2, about z elastic at the tips; shear by 6.2.6 and, above
    half its resistance, on the moment about the same axis by 6.2.8."""
    s, fyd = p.section, p.fy / gamma_M0
    v: Values = {"fy": p.fy, "epsilon": p.epsilon, "web": p.web, "flange": p.flange, "cls": p.cls}
    v["N_Rd"] = s.A * fyd + 0 * N
    v["Vz_Rd"], v["Vy_Rd"] = s.Av_z * fyd / np.sqrt(3), s.Av_y * fyd / np.sqrt(3)
    v["u_Vz"], v["u_Vy"] = np.abs(Vz) / v["Vz_Rd"], np.abs(Vy) / v["Vy_Rd"]
    for axis, shear in (("z", v["u_Vz"]), ("y", v["u_Vy"])):
        v[f"rho_{axis}"] = np.where(shear > 0.5, np.minimum((2 * shear - 1) ** 2, 1.0), 0.0)
    v["W_y"], v["W_z"] = p.W_y, s.Wel_z
    v["My_V"] = (1 - v["rho_z"]) * p.W_y * fyd
    v["Mz_V"] = (1 - v["rho_y"]) * s.Wel_z * fyd
    with np.errstate(divide="ignore", invalid="ignore"):
        n, my, mz = np.abs(N) / v["N_Rd"], np.abs(My) / v["My_V"], np.abs(Mz) / v["Mz_V"]
    v["n"] = n
    v["u_NM"] = n + np.where(My == 0, 0.0, my) + np.where(Mz == 0, 0.0, mz)
    v["u_V"] = np.maximum(v["u_Vz"], v["u_Vy"])
    v["u_sum"] = np.maximum(v["u_NM"], v["u_V"]) if p.cls < 4 else np.full(np.shape(N), np.nan)
    return v


def channel_buckling(
    p: Channel,
    N: Floats,
    My: Floats,
    Mz: Floats,
    C1: Floats,
    lift: Floats,
    lengths: tuple[float, float, float],
    L_LT: Floats,
    gamma_M1: float,
    most_y: Floats | float = np.inf,
    most_z: Floats | float = np.inf,
) -> Values:
    """Buckling of segments under combinations (r, c). N: tension positive; My, Mz: magnitudes; lengths: for buckling about y and z and in
    torsion; L_LT (r, 1): between restraints of the compressed flange; lift: as for `steel.critical_moment`; most_y, most_z: critical forces
    that the buckling of the whole leaves. Beyond a critical force it fails without end."""
    s = p.section
    pressed = np.maximum(-N, 0.0)
    euler_y, euler_z = (
        np.pi**2 * p.E * second / length**2 for second, length in zip((s.Iy, s.Iz), lengths, strict=False)
    )
    N_T, N_TF = torsional(s, euler_y, euler_z, p.E, p.G, lengths[2])
    N_Rk, W_y = s.A * p.fy, p.W_y
    v: Values = {"fy": p.fy, "cls": p.cls, "N_Rk": N_Rk, "N_Ed": pressed, "W_y": W_y, "W_z": s.Wel_z}
    v["Ncr_y"], v["Ncr_z"] = np.minimum(euler_y, most_y) + 0 * N, np.minimum(euler_z, most_z) + 0 * N
    v["Ncr_T"], v["Ncr_TF"] = N_T + 0 * N, N_TF + 0 * N
    for name in ("y", "z", "TF"):
        v[f"lambda_{name}"] = np.sqrt(N_Rk / v[f"Ncr_{name}"])
    v["lambda_worst"] = np.maximum(np.maximum(v["lambda_y"], v["lambda_z"]), v["lambda_TF"])
    v["alpha_bar"] = CURVES[FLEXURAL]
    v["Phi_bar"], v["chi_bar"] = reduction(np.asarray(CURVES[FLEXURAL]), v["lambda_worst"])
    v["Nb_Rd"] = v["chi_bar"] * N_Rk / gamma_M1
    v["My_Rk"], v["Mz_Rk"] = W_y * p.fy, s.Wel_z * p.fy
    N_z = np.pi**2 * p.E * s.Iz / L_LT**2
    v["Mcr_0"] = N_z * np.sqrt(s.Iw / s.Iz + p.G * s.It / N_z) + 0 * N
    push = N_z * s.h / 2 * lift
    v["N_z"] = N_z + 0 * N
    v["Mcr"] = C1**2 / 2 * (np.sqrt(push**2 + 4 * v["Mcr_0"] ** 2 / C1**2) - push)
    v["lambda_LT"] = np.sqrt(v["My_Rk"] / v["Mcr"])
    v["alpha_LT"], v["lambda_LT0"] = CURVES[LATERAL], PLATEAU
    v["Phi_LT"], v["chi_LT"] = reduction(np.asarray(CURVES[LATERAL]), v["lambda_LT"])
    v["Mb_Rd"] = v["chi_LT"] * v["My_Rk"] / gamma_M1
    with np.errstate(divide="ignore", invalid="ignore"):
        for axis in ("y", "z"):
            share = pressed / v[f"Ncr_{axis}"]
            v[f"k_{axis}"] = np.where(share < 1, 1 / np.maximum(1 - share, 1e-12), np.inf)
        bent_y = np.where(My == 0, 0.0, v["k_y"] * My / v["Mb_Rd"])
        bent_z = np.where(Mz == 0, 0.0, v["k_z"] * Mz * gamma_M1 / v["Mz_Rk"])
    v["u_single"] = pressed / v["Nb_Rd"] + bent_y + bent_z
    if p.cls >= 4:
        v["u_single"] = np.full(np.shape(v["u_single"]), np.nan)
    return v
