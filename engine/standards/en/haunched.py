"""Cross-sections by stresses: those with a haunch below them, and I sections of unequal flanges: EN 1993-1-1 6.2.1(5) and 6.2.9.2.

With a haunch: an I section, a web and a flange below it, three flanges and two webs; else two flanges and one web. Forces about the
centroid of the whole. Where a web is of class 4 under the stresses, webs are left out for N and M, as a resistance that is surely
there (EN 1993-1-5 7.1: M_f,Rd).
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import E, Material
from engine.structure.model import Bools, Floats

Values = dict[str, Any]

#: shapes that are checked so
SHAPES = ("haunched", "welded I")


@dataclass(frozen=True)
class Haunched:
    """One entry a row: properties; of the flanges alone A_f, Wf_y, Wf_z, and how far their centroid lies from that of the whole;
    the most slender flange c/t; of both webs (2, …) c/t, h_w/t and the heights of their upper and lower edge above the centroid; whole, A_w: h_w/t
    and area of both as one plate of the thinner one's thickness, without the flange between them; A_fc: of the larger outer flange."""

    A: Floats
    Iy: Floats
    Wel_y: Floats
    Wel_z: Floats
    Av_y: Floats
    Av_z: Floats
    Wt: Floats
    fy: Floats
    E: Floats
    A_f: Floats
    Wf_y: Floats
    Wf_z: Floats
    shift: Floats
    flange: Floats
    whole: Floats
    A_w: Floats
    A_fc: Floats
    web: Floats
    clear: Floats
    upper: Floats
    lower: Floats

    def take(self, rows: Any, extra: int) -> Haunched:
        """Rows by index, with `extra` axes appended for broadcasting."""
        ones = (1,) * extra
        values = {}
        for f in fields(self):
            own = getattr(self, f.name)[..., rows]
            values[f.name] = own.reshape(*own.shape[:-1], -1, *ones)
        return Haunched(**values)


#: a flange: height of its middle above the centroid, width, thickness; a web: thickness, clear depth, depth that may buckle, its upper edge
Flange = tuple[float, float, float]
Web = tuple[float, float, float, float]
#: the web that a section without a haunch does not have
NO_WEB: Web = (1.0, 0.0, 0.0, 0.0)


def _plates(s: Section) -> tuple[list[Flange], list[Web]]:
    if s.shape == "welded I":
        deep = s.h - s.tf - s.tf2
        top = s.h - s.tf - s.centre_z
        flanges = [(top + s.tf / 2, s.b, s.tf), (s.tf2 / 2 - s.centre_z, s.b2, s.tf2)]
        return flanges, [(s.tw, deep, deep, top), NO_WEB]
    upper, middle = s.h - s.h2, -s.centre_z
    straight, below = upper - 2 * s.tf - 2 * s.r, max(s.h2 - s.tf2, 0.0)
    face, half = middle - upper / 2, (upper - s.tf) / 2
    flanges = [(middle + half, s.b, s.tf), (middle - half, s.b, s.tf), (face - below - s.tf2 / 2, s.b2, s.tf2)]
    return flanges, [(s.tw, upper - 2 * s.tf, straight, middle + straight / 2), (s.tw2, below, below, face)]


def haunched_arrays(rows: list[tuple[Section, Material]]) -> Haunched:
    """Arrays of such sections."""
    found: dict[str, list[Any]] = {f.name: [] for f in fields(Haunched)}
    for s, material in rows:
        plates, webs = _plates(s)
        area = sum(b * t for _, b, t in plates)
        shift = sum(b * t * z for z, b, t in plates) / area
        second = sum(b * t * (z - shift) ** 2 for z, b, t in plates)
        far = max(plates[0][0] + plates[0][2] / 2 - shift, shift - plates[-1][0] + plates[-1][2] / 2)
        values = {
            "A_f": area,
            "Wf_y": second / far,
            "Wf_z": sum(t * b**3 / 12 for _, b, t in plates) / (max(s.b, s.b2) / 2),
            "shift": abs(shift),
            "fy": material.fy(max(s.tf, s.tw, s.tf2, s.tw2)),
            "E": material.E,
            "flange": max((s.b - s.tw - 2 * s.r) / 2 / s.tf, (s.b2 - (s.tw2 or s.tw)) / 2 / s.tf2),
            "whole": sum(clear for _, clear, _, _ in webs) / min(t for t, clear, _, _ in webs if clear > 0),
            "A_w": sum(t * clear for t, clear, _, _ in webs),
            "A_fc": max(plates[0][1] * plates[0][2], plates[-1][1] * plates[-1][2]),
            "web": tuple(depth / t for t, _, depth, _ in webs),
            "clear": tuple(clear / t for t, clear, _, _ in webs),
            "upper": tuple(z for _, _, _, z in webs),
            "lower": tuple(z - depth for _, _, depth, z in webs),
        }
        for name, column in found.items():
            column.append(values[name] if name in values else getattr(s, name))
    return Haunched(**{name: np.array(column, dtype=float).T for name, column in found.items()})


def classify_haunched(p: Haunched, N: Floats, My: Floats) -> Values:
    """By table 5.2: `cls` 4 where a flange is, as in uniform compression, else 3; `slender`: where a web is of class 4 under its
    stresses of N and M_y."""
    eps = np.sqrt(235e6 / p.fy * p.E / E)
    v: Values = {"epsilon": eps, "flange": p.flange, "flange_3": 14 * eps}
    with np.errstate(divide="ignore", invalid="ignore"):
        worst = np.zeros(np.broadcast_shapes(np.shape(N), p.A.shape))
        for web, upper, lower in zip(p.web, p.upper, p.lower, strict=True):
            # compression positive; a sagging moment compresses what lies above
            a, b = (-N / p.A + My * z / p.Iy for z in (upper, lower))
            most, least = np.maximum(a, b), np.minimum(a, b)
            psi = np.where(most > 0, least / most, 1.0)
            limit = np.where(
                psi > -1, 42 * eps / (0.67 + 0.33 * psi), 62 * eps * (1 - psi) * np.sqrt(np.maximum(-psi, 0))
            )
            worst = np.maximum(worst, np.where(most > 0, web / limit, 0.0))
    v["cls"] = np.where(p.flange > v["flange_3"] + 1e-12, 4.0, 3.0) + 0 * worst
    v["web_use"] = worst
    v["slender"] = worst > 1 + 1e-12
    return v


def buckles_in_shear(p: Haunched) -> Bools:
    """(rows,) whether a web is above the limit of 6.2.6(6), with η = 1."""
    return np.asarray((p.clear > 72 * np.sqrt(235e6 / p.fy * p.E / E)).any(axis=0))


def haunched_check(
    p: Haunched,
    N: Floats,
    Vy: Floats,
    Vz: Floats,
    T: Floats,
    My: Floats,
    Mz: Floats,
    gamma_M0: float,
    gamma_M1: float = 1.0,
    deepest: Floats | float = 0.0,
) -> Values:
    """Axial force, shear and bending by the sum of their stresses. Shear above half its resistance reduces the whole bending
    resistance by 1 − ρ (safe side; 6.2.8 takes the shear area alone). Torsion is St Venant's alone, an equilibrium that is surely
    there: it reduces shear by (6.26) and the strength for N and M by the yield criterion (6.1).

    deepest: h_w/t of a web that buckles under shear where it is deepest, 0 for others. It bears its own share alone, V_bw,Rd of EN 1993-1-5 5.3
    with stiffeners at the supports and end posts that are not rigid, as one plate of the larger depth (2.5), without the flange between a section and
    its haunch, which would stiffen it (safe side)."""
    v = classify_haunched(p, N, My)
    with np.errstate(divide="ignore", invalid="ignore"):
        fyd = p.fy / gamma_M0
        tau = fyd / np.sqrt(3)
        v["u_T"] = np.abs(T) / (p.Wt * tau)
        v["twisted"] = np.sqrt(np.maximum(1 - v["u_T"] ** 2, 0.0))
        out = v["slender"]
        v["W_y"], v["W_z"] = np.where(out, p.Wf_y, p.Wel_y), np.where(out, p.Wf_z, p.Wel_z)
        v["A_used"] = np.where(out, p.A_f, p.A)
        v["M_used"] = np.abs(My) + np.where(out, p.shift, 0.0) * np.abs(N)
        fyd = fyd * v["twisted"]
        v["N_Rd"] = v["A_used"] * fyd
        v["n"] = np.abs(N) / v["N_Rd"]
        v["Av_z"] = p.Av_z
        sheared = np.sqrt(np.maximum(1 - v["u_T"] / 1.25, 0.0))
        v["Vz_Rd"], v["Vy_Rd"] = p.Av_z * tau * sheared, p.Av_y * tau * sheared
        if np.any(np.asarray(deepest) > 0):
            v["lambda_w"] = deepest / (86.4 * v["epsilon"])
            v["chi_w"] = np.minimum(1.0, 0.83 / v["lambda_w"])
            v["Vbw_Rd"] = v["chi_w"] * p.fy * p.A_w / (np.sqrt(3) * gamma_M1)
            least = np.minimum(v["Vz_Rd"], v["Vbw_Rd"] * sheared)
            v["Vz_Rd"] = np.where(np.asarray(deepest) > 0, least, v["Vz_Rd"])
        v["u_Vz"], v["u_Vy"] = np.abs(Vz) / v["Vz_Rd"], np.abs(Vy) / v["Vy_Rd"]
        v["u_V"] = np.maximum(v["u_Vz"], v["u_Vy"])
        for axis in "zy":
            use = v[f"u_V{axis}"]
            v[f"rho_{axis}"] = np.where(use > 0.5, np.minimum((2 * use - 1) ** 2, 1.0), 0.0)
        v["My_V"], v["Mz_V"] = (1 - v["rho_z"]) * v["W_y"] * fyd, (1 - v["rho_y"]) * v["W_z"] * fyd
        v["u_linear"] = v["n"] + _ratio(v["M_used"], v["My_V"]) + _ratio(Mz, v["Mz_V"])
    v["linear"] = np.ones(v["u_linear"].shape, dtype=bool)
    v["u_NM"] = v["u_linear"]
    return v


def _ratio(load: Floats, resistance: Floats) -> Floats:
    """|load| / resistance; 0 where there is no load."""
    return np.where(load == 0, 0.0, np.abs(load) / resistance)
