"""Uniform built-up compression members, laced or battened: EN 1993-1-1 6.4, on arrays over combinations."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.properties import Latticed
from engine.catalogue.shapes.latticed import shear_stiffness
from engine.catalogue.steels import Material
from engine.standards.en.axial import SHAPES as BARS
from engine.standards.en.axial import axial_check, bar
from engine.standards.en.steel import CURVES, buckling_curves, classify, reduction, steel_arrays
from engine.structure.model import Floats

Values = dict[str, Any]

#: bow of such a member, 6.4.1(1)
BOW = 1 / 500
#: slenderness between which μ of table 6.8 falls from 1 to 0
LITTLE, MUCH = 75.0, 150.0
#: of what is left of 1 − N/N_cr − N/S_v no less counts: beyond, it buckles, a thousand times over
NEARLY = 1e-3
#: fewest panels between restraints, 6.4.1(1)
PANELS = 3


def chord_class(of: Latticed, material: Material) -> float:
    """Class of a chord in compression alone, 4 where not all of it counts."""
    if of.chord.shape in BARS:
        return 4.0 if bar(of.chord, material, 1.0, 1.0, 1.0).slender > 1 else 3.0
    steel = steel_arrays([(of.chord, material, True)])
    return float(classify(steel, np.array([-1.0]))["cls_N"][0])


def efficiency(of: Latticed, length: float) -> float:
    """μ of table 6.8, of battened members."""
    I_1 = of.h0**2 * of.chord.A / 2 + 2 * of.chord.Iz
    slender = length / np.sqrt(I_1 / (2 * of.chord.A))
    return float(np.clip(2 - slender / LITTLE, 0.0, 1.0))


def built_up_check(
    of: Latticed,
    material: Material,
    N: tuple[Floats, Floats],
    My: Floats,
    Mz: Floats,
    V: tuple[Floats, Floats],
    lengths: tuple[float, float],
    gammas: tuple[float, float],
    most: tuple[Floats | float, Floats | float] = (np.inf, np.inf),
) -> Values:
    """6.4.1 to 6.4.3. N: the largest and the least axial force along it (tension positive); My, Mz, V (along y, z): the largest magnitudes; lengths:
    effective ones about y (across both chords) and z; most: critical forces that the buckling of the whole leaves about y and z.

    Moments about z are borne by both chords alike and are added with 1/(1 − N/N_cr,z), shear of loads to that of the bow, shear along y,
    of the chords' own webs, to all by (6.1): on the safe side, since 6.4 speaks of none. NaN where a chord is of class 4.
    """
    c, (gamma_M0, gamma_M1), (L_y, L_z) = of.chord, gammas, lengths
    fy = material.fy(max(c.tf, c.tw))
    laced = of.lacing is not None
    mu = 0.0 if laced else efficiency(of, L_y)
    v: Values = {"fy": fy, "h0": of.h0, "a_panel": of.panel, "A_ch": c.A, "mu": mu, "laced": float(laced)}
    v["I_eff"] = of.h0**2 * c.A / 2 + 2 * mu * c.Iz
    v["S_v"], v["e_0"] = shear_stiffness(of, material.E), L_y * BOW
    pressed = np.maximum(-N[1], 0.0)
    v["N_Ed"], v["M_I"] = pressed, My
    with np.errstate(divide="ignore", invalid="ignore"):
        # of the whole's buckling the part without shear, which stands beside it: 1/N = 1/N_cr + 1/S_v
        apart = 1 / np.maximum(1 / np.asarray(most[0], dtype=float) - 1 / v["S_v"], 1e-30)
        v["Ncr_y"] = np.minimum(np.pi**2 * material.E * v["I_eff"] / L_y**2, apart) + 0 * pressed
        left = 1 - pressed / v["Ncr_y"] - pressed / v["S_v"]
        v["M_Ed"] = (pressed * v["e_0"] + My) / np.maximum(left, NEARLY)
        v["N_ch"] = 0.5 * pressed + v["M_Ed"] * of.h0 * c.A / (2 * v["I_eff"])
        v["V_I"] = V[1]
        v["V_bow"] = np.pi * v["M_Ed"] / L_y
        # loads have their own shear; the bow and what it grows to make the rest
        v["V_Ed"] = np.maximum(v["V_bow"], V[1] + np.pi * (v["M_Ed"] - My) / L_y)
        # a chord between the joints of lacing or battens
        v["Ncr_ch"] = np.pi**2 * material.E * c.Iz / of.panel**2
        curve = CURVES[BARS[c.shape] if c.shape in BARS else buckling_curves(c, material.name)[1]]
        v["lambda_ch"] = float(np.sqrt(c.A * fy / v["Ncr_ch"]))
        v["chi_ch"] = float(reduction(np.asarray(curve), np.asarray(v["lambda_ch"]))[1])
        v["alpha_ch"] = curve
        v["Nb_ch"] = v["chi_ch"] * c.A * fy / gamma_M1
        v["M_ch"] = np.zeros_like(pressed) if laced else v["V_Ed"] * of.panel / 4
        bent = v["M_ch"] / (c.Wel_z * fy / gamma_M1) / np.maximum(1 - v["N_ch"] / v["Ncr_ch"], 1e-9)
        # about z both chords buckle as one
        v["Ncr_z"] = np.minimum(np.pi**2 * material.E * 2 * c.Iy / L_z**2, most[1]) + 0 * pressed
        strong = CURVES[BARS[c.shape] if c.shape in BARS else buckling_curves(c, material.name)[0]]
        v["chi_z"] = reduction(np.asarray(strong), np.sqrt(2 * c.A * fy / v["Ncr_z"]))[1]
        grown = np.where(pressed < v["Ncr_z"], 1 / np.maximum(1 - pressed / v["Ncr_z"], 1e-9), np.inf)
        v["m_z"] = np.where(Mz > 0, Mz / (2 * c.Wel_y * fy / gamma_M1) * grown, 0.0)
        v["n_z"] = pressed / (v["chi_z"] * 2 * c.A * fy / gamma_M1)
        v["n_ch"], v["m_ch"] = v["N_ch"] / v["Nb_ch"], bent
        pulled = np.maximum(N[0], 0.0)
        v["n_t"] = (pulled / 2 + My / of.h0) / (c.A * fy / gamma_M0)
        v["v_y"] = V[0] / (2 * c.Av_z * fy / gamma_M0 / np.sqrt(3))
        whole = np.max([v["n_ch"] + v["m_ch"] + v["m_z"], v["n_z"] + v["m_z"], v["n_t"] + v["m_z"]], axis=0)
        v["u_chord"] = np.where(chord_class(of, material) > 3, np.nan, np.hypot(whole, v["v_y"]))
        v |= _lacing(of, material, v["V_Ed"], gammas) if laced else _battens(of, fy, v["V_Ed"], gamma_M0)
    return v


def _lacing(of: Latticed, material: Material, V: Floats, gammas: tuple[float, float]) -> Values:
    """Diagonals under the shear, pressed or pulled; those of a crossing bear half each, as one is pressed and the other pulled."""
    assert of.lacing is not None
    d = of.diagonal
    N_d = V * d / (of.planes * of.h0) / (2 if of.arrangement == "crossed" else 1)
    length = d / 2 if of.arrangement == "crossed" else d
    found = axial_check(bar(of.lacing, material, length, length, length), -N_d, *gammas)
    u = np.asarray(found["u_axial"])
    if of.arrangement == "posts":
        post = axial_check(bar(of.lacing, material, of.h0, of.h0, of.h0), -V / of.planes, *gammas)
        u = np.maximum(u, post["u_axial"])
    return {"d": d, "N_d": N_d, "Nb_d": found["Nb_Rd"], "u_lacing": u}


def _battens(of: Latticed, fy: float, V: Floats, gamma_M0: float) -> Values:
    """Battens and their bending, figure 6.11: V a/(n h0) each, with V a/(2 n) at its ends; elastic."""
    deep, thick = of.batten
    V_b = V * of.panel / (of.planes * of.h0)
    M_b = V_b * of.h0 / 2
    m = M_b / (thick * deep**2 / 6 * fy / gamma_M0)
    s = 1.5 * V_b / (thick * deep) / (fy / gamma_M0 / np.sqrt(3))
    return {"V_b": V_b, "M_b": M_b, "m_b": m, "s_b": s, "u_lacing": np.hypot(m, s)}
