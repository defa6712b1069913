"""Channels, flats and rounds that bend: EN 1993-1-1 6.2 as the sum of 6.2.1(7), 6.3.1, and 6.3.2.2 with curve d. Loads on channels count at the
shear centre.

Channels are symmetric about y, the axis of their strong bending: the flexural mode about y goes with torsion, that about z stands alone, and
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
from engine.standards.en.axial import bar, thickest, torsional
from engine.standards.en.steel import CURVES, PLATEAU, reduction
from engine.structure.model import Floats, Ints

Values = dict[str, Any]

#: tables 6.2 and 6.4: buckling, and buckling sideways of other than I sections
FLEXURAL, LATERAL = "c", "d"
#: shapes that do not buckle locally, and take plastic moments about both axes
SOLID = ("flat", "round")
SUMMED = ("channel", "tee", *SOLID)


@dataclass(frozen=True)
class Summed:
    """A channel, tee, flat or round with its strength and class. cls: of channels and tees with the web as in uniform compression (safe side in bending), 4 where an
    outstand or the web is beyond class 3: such a one is not covered; what is solid does not buckle locally. Tees are elastic: class 3."""

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

    @property
    def W_z(self) -> float:
        """Of channels elastic, at the tips."""
        return self.section.Wpl_z if self.solid else self.section.Wel_z

    @property
    def solid(self) -> float:
        """1 where it is, else 0."""
        return float(self.section.shape in SOLID)

    @property
    def prone(self) -> bool:
        """Whether it buckles sideways when bent about y."""
        return self.section.shape != "round" and (self.section.shape == "tee" or self.section.Iy > self.section.Iz)

    @property
    def Av_z(self) -> float:
        """6.2.6(3); of tees as if welded, h less half of the flange."""
        s = self.section
        return s.tw * (s.h - s.tf / 2) if s.shape == "tee" else s.Av_z

    @property
    def skew(self) -> float:
        """β_y/2, m: the shear centre's z, less half of the integral of z (y² + z²) over the section by I_y. How much more a moment bears
        that compresses the side of +z than by double symmetry (Trahair, Flexural-Torsional Buckling of Structures, 5.5); 0 of shapes symmetric about y."""
        s = self.section
        if s.shape != "tee":
            return 0.0
        middle = s.shear_z
        parts = ((s.b, s.tf, middle), (s.tw, s.h - s.tf, middle - s.h / 2))
        whole = sum(z * t * b**3 / 12 + b * ((z + t / 2) ** 4 - (z - t / 2) ** 4) / 4 for b, t, z in parts)
        return middle - whole / (2 * s.Iy)


def summed_of(section: Section, material: Material) -> Summed:
    """Such a section of a steel. Strength NaN where it has none for its thickness."""
    fy = material.fy(thickest(section))
    epsilon = float(np.sqrt(235e6 / fy * material.E / E))
    if section.shape == "tee":
        web, flange = (
            (section.h - section.tf - section.r) / section.tw,
            (section.b / 2 - section.tw / 2 - section.r) / section.tf,
        )
        cls = 4.0 if bar(section, material, 1.0, 1.0, 1.0).slender > 1 else 3.0
        return Summed(section, fy, material.E, material.G, web, flange, epsilon, cls)
    if section.shape in SOLID:
        return Summed(section, fy, material.E, material.G, 0.0, 0.0, epsilon, 1.0)
    web = (section.h - 2 * section.tf - 2 * section.r) / section.tw
    flange = (section.b - section.tw - section.r) / section.tf
    cls = 1.0 + max(
        sum(web > limit * epsilon for limit in (33.0, 38.0, 42.0)),
        sum(flange > limit * epsilon for limit in (9.0, 10.0, 14.0)),
    )
    return Summed(section, fy, material.E, material.G, web, flange, epsilon, cls)


def summed_section(p: Summed, N: Floats, Vy: Floats, Vz: Floats, My: Floats, Mz: Floats, gamma_M0: float) -> Values:
    """N/N_Rd + M_y/M_y,Rd + M_z/M_z,Rd (6.2), moments about y plastic in class 1 and 2, about z elastic at the tips of channels; shear by 6.2.6 and, above
    half its resistance, on the moment about the same axis by 6.2.8."""
    s, fyd = p.section, p.fy / gamma_M0
    v: Values = {"fy": p.fy, "epsilon": p.epsilon, "web": p.web, "flange": p.flange, "cls": p.cls, "solid": p.solid}
    v["N_Rd"] = s.A * fyd + 0 * N
    v["Vz_Rd"], v["Vy_Rd"] = p.Av_z * fyd / np.sqrt(3), s.Av_y * fyd / np.sqrt(3)
    v["u_Vz"], v["u_Vy"] = np.abs(Vz) / v["Vz_Rd"], np.abs(Vy) / v["Vy_Rd"]
    for axis, shear in (("z", v["u_Vz"]), ("y", v["u_Vy"])):
        v[f"rho_{axis}"] = np.where(shear > 0.5, np.minimum((2 * shear - 1) ** 2, 1.0), 0.0)
    v["W_y"], v["W_z"] = p.W_y, p.W_z
    v["My_V"] = (1 - v["rho_z"]) * p.W_y * fyd
    v["Mz_V"] = (1 - v["rho_y"]) * p.W_z * fyd
    with np.errstate(divide="ignore", invalid="ignore"):
        n, my, mz = np.abs(N) / v["N_Rd"], np.abs(My) / v["My_V"], np.abs(Mz) / v["Mz_V"]
    v["n"] = n
    v["u_NM"] = n + np.where(My == 0, 0.0, my) + np.where(Mz == 0, 0.0, mz)
    v["u_V"] = np.maximum(v["u_Vz"], v["u_Vy"])
    v["u_sum"] = np.maximum(v["u_NM"], v["u_V"]) if p.cls < 4 else np.full(np.shape(N), np.nan)
    return v


def summed_buckling(
    p: Summed,
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
    side: Ints | int = 1,
) -> Values:
    """Buckling of segments under combinations (r, c). N: tension positive; My, Mz: magnitudes; lengths: for buckling about y and z and in
    torsion; L_LT (r, 1): between restraints of the compressed flange; lift: as for `steel.critical_moment`; most_y, most_z: critical forces
    that the buckling of the whole leaves; side: (r, 1) 1 where the side of +z is compressed, −1 where the other is. Beyond a critical force it fails without end."""
    s = p.section
    pressed = np.maximum(-N, 0.0)
    euler_y, euler_z = (
        np.pi**2 * p.E * second / length**2 for second, length in zip((s.Iy, s.Iz), lengths, strict=False)
    )
    N_T, N_TF = torsional(s, euler_y, euler_z, p.E, p.G, lengths[2])
    N_Rk, W_y = s.A * p.fy, p.W_y
    v: Values = {"fy": p.fy, "cls": p.cls, "N_Rk": N_Rk, "N_Ed": pressed, "W_y": W_y, "W_z": p.W_z}
    v["Ncr_y"], v["Ncr_z"] = np.minimum(euler_y, most_y) + 0 * N, np.minimum(euler_z, most_z) + 0 * N
    v["Ncr_T"], v["Ncr_TF"] = N_T + 0 * N, N_TF + 0 * N
    for name in ("y", "z", "TF"):
        v[f"lambda_{name}"] = np.sqrt(N_Rk / v[f"Ncr_{name}"])
    v["lambda_worst"] = np.maximum(np.maximum(v["lambda_y"], v["lambda_z"]), v["lambda_TF"])
    v["alpha_bar"] = CURVES[FLEXURAL]
    v["Phi_bar"], v["chi_bar"] = reduction(np.asarray(CURVES[FLEXURAL]), v["lambda_worst"])
    v["Nb_Rd"] = v["chi_bar"] * N_Rk / gamma_M1
    v["My_Rk"], v["Mz_Rk"] = W_y * p.fy, p.W_z * p.fy
    N_z = np.pi**2 * p.E * s.Iz / L_LT**2
    v["Mcr_0"] = N_z * np.sqrt(s.Iw / s.Iz + p.G * s.It / N_z) + 0 * N
    v["N_z"] = N_z + 0 * N
    if s.shape == "tee":
        # as under a uniform moment: C1 is for double symmetry. Loads on the compressed side, off the shear centre
        lever = np.where(np.asarray(side) > 0, s.tf / 2, s.h - s.tf / 2)
        v["skew"] = side * p.skew - lever * lift
        v["Mcr"] = N_z * v["skew"] + np.sqrt((N_z * v["skew"]) ** 2 + v["Mcr_0"] ** 2)
    else:
        push = N_z * s.h / 2 * lift
        v["skew"] = 0 * N
        v["Mcr"] = C1**2 / 2 * (np.sqrt(push**2 + 4 * v["Mcr_0"] ** 2 / C1**2) - push)
    v["prone"], v["solid"] = float(p.prone), p.solid
    v["lambda_LT"] = np.sqrt(v["My_Rk"] / v["Mcr"]) if p.prone else 0 * N
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
