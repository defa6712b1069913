"""Bars in axial force of shapes that bend about no axis of symmetry, or one: EN 1993-1-1 6.2.3, 6.2.4, 6.3.1 and BB.1.2.

Angles, tees, channels, double angles and channels, solid rounds and flats. Buckling by the lowest of flexural, torsional and
flexural-torsional modes (Timoshenko and Gere, Theory of Elastic Stability, 5.6).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.linalg import eigh

from engine.catalogue.properties import Section
from engine.catalogue.steels import E, Material
from engine.standards.en.steel import CURVES, reduction
from engine.structure.model import Floats

Values = dict[str, Any]

#: shapes that are checked as bars -> buckling curve of table 6.2
SHAPES = {
    "angle": "b",
    "double angle": "b",
    "tee": "c",
    "channel": "c",
    "double channel": "c",
    "round": "c",
    "flat": "c",
}


@dataclass(frozen=True)
class Bar:
    """A bar: its section and strength, lengths for buckling about y and z and in torsion, m; slender: c/t of its worst part over the
    most at which all of its area counts, 0 of solid ones."""

    section: Section
    fy: float
    E: float
    G: float
    Ly: float
    Lz: float
    LT: float
    slender: float


def bar(section: Section, material: Material, Ly: float, Lz: float, LT: float) -> Bar:
    """A bar of a section of one of `SHAPES`. Strength NaN where the material has none for its thickness."""
    fy = material.fy(thickest(section))
    slender = _slenderness(section, float(np.sqrt(235e6 / fy * material.E / E)))
    return Bar(section, fy, material.E, material.G, Ly, Lz, LT, slender)


def thickest(section: Section) -> float:
    """The thickness that its strength goes by, m: a flat's sizes stand where others have those of flange and web."""
    return min(section.h, section.b) if section.shape == "flat" else max(section.tf, section.tw)


def _slenderness(s: Section, epsilon: float) -> float:
    """Outstands by EN 1993-1-5 (4.3), where ρ begins to fall: λ̄_p = 0.748 with k_σ = 0.43, of angles the whole leg (4.4(2)); webs by
    class 3 of table 5.2. That legs twist is in N_cr,TF, which is what (b + h)/(2 t) of table 5.2 stands for."""
    outstand = 0.748 * 28.4 * np.sqrt(0.43)
    if s.shape in ("angle", "double angle"):
        leg = s.b if s.shape == "angle" else (s.b - s.gap) / 2
        return float(max(s.h, leg) / s.tf / (outstand * epsilon))
    if s.shape == "tee":
        return float(max(((s.b - s.tw) / 2 - s.r) / s.tf, (s.h - s.tf - s.r) / s.tw) / (outstand * epsilon))
    if s.shape in ("channel", "double channel"):
        width = s.b if s.shape == "channel" else (s.b - s.gap) / 2
        flange, web = (width - s.tw - s.r) / s.tf / outstand, (s.h - 2 * s.tf - 2 * s.r) / s.tw / 42
        return float(max(flange, web) / epsilon)
    return 0.0


def torsional(s: Section, Ncr_y: float, Ncr_z: float, E_: float, G: float, LT: float) -> tuple[float, float]:
    """(N_cr,T, N_cr,TF): torsion about the shear centre, and the lowest of all modes together: the least N at which
    diag(N_z, N_y, i_s² N_T) − N [[1, 0, z_s], [0, 1, −y_s], [z_s, −y_s, i_s²]] is singular."""
    i2 = (s.Iy + s.Iz) / s.A + s.shear_y**2 + s.shear_z**2
    N_T = (G * s.It + np.pi**2 * E_ * s.Iw / LT**2) / i2
    pull = np.array([[1.0, 0.0, s.shear_z], [0.0, 1.0, -s.shear_y], [s.shear_z, -s.shear_y, i2]])
    least = 1 / float(eigh(pull, np.diag([Ncr_z, Ncr_y, i2 * N_T]), eigvals_only=True)[-1])
    return float(N_T), least


def axial_check(
    p: Bar,
    N: Floats,
    gamma_M0: float,
    gamma_M1: float,
    most_y: Floats | float = np.inf,
    most_z: Floats | float = np.inf,
) -> Values:
    """Tension and compression, (c,). N: tension positive; most_y, most_z: critical forces that the buckling of the whole leaves.

    Angles buckle with the effective slendernesses of BB.1.2, which take in that one leg is connected, by two bolts or a weld. Where not
    all of the area counts in compression, it is not covered: NaN.
    """
    s = p.section
    euler_y, euler_z = np.pi**2 * p.E * s.Iy / p.Ly**2, np.pi**2 * p.E * s.Iz / p.Lz**2
    N_T, N_TF = torsional(s, euler_y, euler_z, p.E, p.G, p.LT)
    alpha = CURVES[SHAPES[s.shape]]
    N_Rk = s.A * p.fy
    v: Values = {
        "fy": p.fy,
        "N_Rk": N_Rk,
        "N_Rd": N_Rk / gamma_M0,
        "slender": p.slender,
        "cls": 4.0 if p.slender > 1 else 3.0,
        "Ncr_y": np.minimum(euler_y, most_y) + 0 * N,
        "Ncr_z": np.minimum(euler_z, most_z) + 0 * N,
        "Ncr_T": N_T + 0 * N,
        "Ncr_TF": N_TF + 0 * N,
        "alpha_bar": alpha,
    }
    modes = {name: np.sqrt(N_Rk / v[f"Ncr_{name}"]) for name in ("y", "z", "TF")}
    v |= {f"lambda_{name}": values for name, values in modes.items()}
    worst = np.maximum(np.maximum(modes["y"], modes["z"]), modes["TF"])
    v["one_leg"] = float(s.shape == "angle")
    if s.shape == "angle":
        # about the axes along the legs, at the longer of both lengths
        half = (s.Iy - s.Iz) / 2 * np.cos(2 * s.turn)
        L, mean = max(p.Ly, p.Lz), (s.Iy + s.Iz) / 2
        leg = np.sqrt(N_Rk / (np.pi**2 * p.E * (mean - abs(half)) / L**2)) + 0 * N
        v["lambda_leg"] = leg
        v["lambda_eff_v"], v["lambda_eff_leg"] = 0.35 + 0.7 * modes["z"], 0.50 + 0.7 * leg
        worst = np.maximum(np.maximum(v["lambda_eff_v"], v["lambda_eff_leg"]), np.maximum(modes["y"], modes["TF"]))
        # the weak axis counts by BB.1.2 alone; a mode that twists hardly lies below it
        worst = np.where(modes["TF"] <= modes["z"] * 1.02, np.maximum(v["lambda_eff_v"], v["lambda_eff_leg"]), worst)
    v["lambda_worst"] = worst
    v["Phi_bar"], v["chi_bar"] = reduction(np.asarray(alpha), worst)
    v["Nb_Rd"] = v["chi_bar"] * N_Rk / gamma_M1 * (np.nan if p.slender > 1 else 1.0)
    pressed = np.maximum(-N, 0.0)
    v["u_t"] = np.maximum(N, 0.0) / v["N_Rd"]
    v["u_c"] = np.where(pressed > 0, pressed / v["Nb_Rd"], 0.0)
    v["u_axial"] = np.maximum(v["u_t"], v["u_c"])
    return v
