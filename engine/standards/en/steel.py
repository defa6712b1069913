"""Steel member checks by EN 1993-1-1, recommended values, on arrays of any shape that broadcasts.

Each function gives a dictionary of every intermediate value under the name its proof uses (proof_text.py), so that the
proof of one member is the same code evaluated on one row. Forces in N and Nm, N positive in tension.
"""

from __future__ import annotations

from dataclasses import dataclass, fields
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import E, Material
from engine.standards.en.effective import effective
from engine.structure.model import Bools, Floats

Values = dict[str, Any]

#: imperfection factors α of table 6.1
CURVES = {"a0": 0.13, "a": 0.21, "b": 0.34, "c": 0.49, "d": 0.76}
#: I sections, of equal flanges and of unequal ones
FLANGED = ("I", "welded I")
#: bending about one axis below this share of that about the other is none
UNIAXIAL = 1e-3
#: slenderness up to which χ = 1, 6.3.1.2(1) and (6.56)
PLATEAU = 0.2
#: compression below this share of its resistance is too little for the class in compression alone to matter
LITTLE = 0.05


@dataclass(frozen=True)
class SteelArrays:
    """Section properties and strengths as arrays, one entry a row; `kind`: 0 I section, 1 square or
    rectangular hollow, 2 circular hollow, 3 other, 4 by stresses: with a haunch or unequal flanges (haunched.py). panel: distance of transverse stiffeners, m, inf
    where they stand at supports alone; rigid_ends: 1 where end posts are rigid."""

    kind: Floats
    h: Floats
    b: Floats
    tw: Floats
    tf: Floats
    r: Floats
    A: Floats
    Iy: Floats
    Iz: Floats
    It: Floats
    Iw: Floats
    Wel_y: Floats
    Wel_z: Floats
    Wpl_y: Floats
    Wpl_z: Floats
    Wt: Floats
    Av_y: Floats
    Av_z: Floats
    fy: Floats
    E: Floats
    G: Floats
    alpha_y: Floats
    alpha_z: Floats
    alpha_LT: Floats
    alpha_LT_all: Floats
    bar: Floats
    A_eff: Floats
    Weff_y: Floats
    Weff_z: Floats
    panel: Floats
    rigid_ends: Floats

    def take(self, rows: Any, extra: int) -> SteelArrays:
        """Rows by index, with `extra` axes appended for broadcasting."""
        shape = (-1,) + (1,) * extra
        return SteelArrays(*(getattr(self, f.name)[rows].reshape(shape) for f in fields(self)))


def buckling_curves(section: Section, grade: str) -> tuple[str, str, str]:
    """Curves for buckling about y, about z (table 6.2) and for lateral-torsional buckling (table 6.5). The higher ones are those of S460 of
    the catalogue: a grade of one's own takes the others, whatever it is called."""
    high = grade == "S460"
    if section.shape not in FLANGED:
        if section.cold:
            return ("c", "c", "b")
        return ("a0", "a0", "b") if high else ("a", "a", "b")
    if section.welded:
        # welded I sections: table 6.2 and table 6.5
        lateral = "c" if section.h / min(section.b, section.b2 or section.b) <= 2 else "d"
        return ("b", "c", lateral) if max(section.tf, section.tf2) <= 0.040 else ("c", "d", lateral)
    ratio = section.h / section.b
    lateral = "b" if ratio <= 2 else "c"
    if ratio > 1.2:
        if section.tf <= 0.040:
            return ("a0", "a0", lateral) if high else ("a", "b", lateral)
        return ("a", "a", lateral) if high else ("b", "c", lateral)
    if section.tf <= 0.100:
        return ("a", "a", lateral) if high else ("b", "c", lateral)
    return ("c", "c", lateral) if high else ("d", "d", lateral)


def lateral_curve(section: Section) -> str:
    """Curve for lateral-torsional buckling of all sections, table 6.4."""
    if section.shape not in FLANGED:
        return "d"
    deep = section.h / min(section.b, section.b2 or section.b) > 2
    if section.welded:
        return "d" if deep else "c"
    return "b" if deep else "a"


def steel_arrays(rows: list[tuple[Section, Material, bool]]) -> SteelArrays:
    """Arrays from (section, material, whether a bar in pure axial force); without a strength, and for shapes whose checks
    are not covered, the strength is NaN."""
    kinds = {"I": 0.0, "square": 1.0, "rectangular": 1.0, "circular": 2.0, "haunched": 4.0, "welded I": 4.0}
    columns: dict[str, list[float]] = {f.name: [] for f in fields(SteelArrays)}
    for section, material, bar in rows:
        curves = buckling_curves(section, material.name)
        thickest = max(section.tf, section.tw, section.tf2, section.tw2)
        fy = material.fy(thickest) if section.shape in kinds else float("nan")
        slender = effective(section, fy, material.E)
        derived = {
            "kind": kinds.get(section.shape, 3.0),
            "fy": fy,
            "A_eff": slender.A,
            "Weff_y": slender.Wy,
            "Weff_z": slender.Wz,
            "E": material.E,
            "G": material.G,
            "alpha_y": CURVES[curves[0]],
            "alpha_z": CURVES[curves[1]],
            "alpha_LT": CURVES[curves[2]],
            "alpha_LT_all": CURVES[lateral_curve(section)],
            "bar": float(bar),
            "panel": float("inf"),
            "rigid_ends": 0.0,
        }
        for name, column in columns.items():
            column.append(derived[name] if name in derived else getattr(section, name))
    return SteelArrays(**{name: np.array(column, dtype=float) for name, column in columns.items()})


def classify(p: SteelArrays, N: Floats) -> Values:
    """Section class by table 5.2 for the axial force present together with the bending that exhausts the section.

    Rectangular hollow sections: their longer wall as if in uniform compression (safe side). Web of I sections: α and ψ follow
    from N_Ed (bars in compression: α = ψ = 1); flanges and the walls of hollow sections count as in uniform compression.
    cls_N: the class of the section in compression alone; a bar under tension is of class 1. ε with the material's own E
    beside 210 000 N/mm².
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        eps = np.sqrt(235e6 / p.fy * p.E / E)
        compression = np.maximum(-N, 0.0)
        cw = np.where(p.kind == 0, p.h - 2 * p.tf - 2 * p.r, p.h - 3 * p.tw)
        pressed_bar, pulled_bar = (p.bar > 0) & (N < 0), (p.bar > 0) & (N >= 0)
        alpha = np.where(pressed_bar, 1.0, np.minimum(1.0, 0.5 * (1 + compression / (cw * p.tw * p.fy))))
        psi = np.where(pressed_bar, 1.0, np.clip(2 * compression / (p.A * p.fy) - 1, -1.0, 1.0))
        web = cw / p.tw
        web_limits = (
            np.where(alpha > 0.5, 396 * eps / (13 * alpha - 1), 36 * eps / alpha),
            np.where(alpha > 0.5, 456 * eps / (13 * alpha - 1), 41.5 * eps / alpha),
            42 * eps / (0.67 + 0.33 * psi),
        )
        cf = np.where(p.kind == 0, (p.b - p.tw - 2 * p.r) / 2, np.maximum(p.b, p.h) - 3 * p.tw)
        flange = np.where(p.kind == 2, p.h / p.tw, cf / p.tf)
        flange_limits = (
            np.where(p.kind == 0, 9 * eps, np.where(p.kind == 1, 33 * eps, 50 * eps**2)),
            np.where(p.kind == 0, 10 * eps, np.where(p.kind == 1, 38 * eps, 70 * eps**2)),
            np.where(p.kind == 0, 14 * eps, np.where(p.kind == 1, 42 * eps, 90 * eps**2)),
        )
        web_class = np.where(p.kind == 0, 1.0 + sum((web > limit).astype(float) for limit in web_limits), 1.0)
        flange_class = 1.0 + sum((flange > limit).astype(float) for limit in flange_limits)
        pressed_web = 1.0 + sum((web > limit * eps).astype(float) for limit in (33.0, 38.0, 42.0))
        alone = np.maximum(np.where(p.kind == 0, pressed_web, 1.0), flange_class)
    return {
        "epsilon": eps,
        "alpha_web": alpha,
        "psi_web": psi,
        "web": web,
        "web_1": web_limits[0],
        "web_2": web_limits[1],
        "web_3": web_limits[2],
        "flange": flange,
        "flange_1": flange_limits[0],
        "flange_2": flange_limits[1],
        "flange_3": flange_limits[2],
        "web_class": web_class,
        "flange_class": flange_class + 0 * web_class,
        "cls": np.where(pulled_bar, 1.0, np.maximum(web_class, flange_class)),
        "cls_N": alone + 0 * web_class,
        "slender_N": np.maximum(np.where(p.kind == 0, web / (42 * eps), 0.0), flange / flange_limits[2])
        + 0 * web_class,
    }


def section_check(
    p: SteelArrays,
    N: Floats,
    Vy: Floats,
    Vz: Floats,
    T: Floats,
    My: Floats,
    Mz: Floats,
    gamma_M0: float,
    eta: float = 1.0,
    gamma_M1: float = 1.0,
) -> Values:
    """Resistance of the cross-section, 6.2: axial force, shear, bending, and their interaction."""
    v: Values = classify(p, N)
    with np.errstate(divide="ignore", invalid="ignore"):
        fyd = p.fy / gamma_M0
        # compression alone, or nearly: the class for it, with 5.5.2(9)
        n = np.maximum(-N, 0.0) / (p.A * fyd)
        nearly = (n > LITTLE) & (n >= np.abs(My) / (p.Wel_y * fyd) + np.abs(Mz) / (p.Wel_z * fyd))
        v["cls"] = np.where(nearly & (v["slender_N"] * np.sqrt(n) > 1), 4.0, v["cls"])
        plastic, slender = v["cls"] <= 2, v["cls"] == 4
        v["A_N"] = np.where(slender & (N < 0), p.A_eff, p.A)
        v["N_Rd"] = v["A_N"] * fyd
        v["n"] = np.abs(N) / v["N_Rd"]
        v |= shear_check(p, Vy, Vz, gamma_M0, eta, gamma_M1)
        v["tau_T"] = np.abs(T) / p.Wt
        v["u_T"] = torsion_use(p, T, gamma_M0)
        round_: Bools = np.asarray(p.kind == 2)
        both: Floats = v["u_V"]
        # 6.2.8: shear above half its resistance reduces the moment resistance
        sheared_z: Floats = np.where(round_, both, v["u_Vz"])
        sheared_y: Floats = np.where(round_, both, v["u_Vy"])
        v["rho_z"] = np.where(sheared_z > 0.5, (2 * sheared_z - 1) ** 2, 0.0)
        v["rho_y"] = np.where(sheared_y > 0.5, (2 * sheared_y - 1) ** 2, 0.0)
        rho_z, rho_y = np.minimum(v["rho_z"], 1.0), np.minimum(v["rho_y"], 1.0)
        web_area = (p.h - 2 * p.tf) * p.tw
        # of I sections the web is the shear area of V_z, of rectangular hollow ones two walls of A_v together
        wall_z, wall_y = np.where(p.kind == 0, p.tw, 2 * p.tw), 2 * p.tw
        deep_z = np.where(p.kind == 0, p.h - 2 * p.tf, p.Av_z / wall_z)
        deep_y = p.Av_y / wall_y
        v["W_y"] = np.where(plastic, p.Wpl_y, np.where(slender, p.Weff_y, p.Wel_y))
        v["W_z"] = np.where(plastic, p.Wpl_z, np.where(slender, p.Weff_z, p.Wel_z))
        full_y, full_z = v["W_y"] * fyd, v["W_z"] * fyd
        # the reduced strength of 6.2.8(3) acts on the shear area: its share of W, plastic (6.30) or elastic
        share_z = np.where(plastic, wall_z * deep_z**2 / 4, wall_z * deep_z**3 / (6 * p.h))
        share_y = np.where(plastic, wall_y * deep_y**2 / 4, wall_y * deep_y**3 / (6 * p.b))
        v["My_V"] = np.where(p.kind <= 1, np.maximum(full_y - rho_z * share_z * fyd, 0.0), (1 - rho_z) * full_y)
        v["Mz_V"] = np.where(p.kind == 1, np.maximum(full_z - rho_y * share_y * fyd, 0.0), (1 - rho_y) * full_z)
        # 6.2.9.1: axial force reduces the plastic moment resistance
        n = np.minimum(v["n"], 1.0)
        v["a"] = np.where(p.kind == 2, 0.0, np.minimum((p.A - 2 * p.b * p.tf) / p.A, 0.5)) + 0 * N
        a_f = np.where(p.kind == 1, np.minimum((p.A - 2 * p.h * p.tw) / p.A, 0.5), v["a"])  # (6.40)
        small = (p.kind == 0) & (n <= 0.25) & (np.abs(N) <= 0.5 * web_area * fyd)
        reduced_y = np.where(
            p.kind == 2,
            v["My_V"] * (1 - _power(n, 1.7, p.kind == 2)),
            np.minimum(v["My_V"], v["My_V"] * (1 - n) / (1 - 0.5 * v["a"])),
        )
        beyond = np.maximum(n - v["a"], 0.0) / (1 - v["a"])
        reduced_z = np.where(
            p.kind == 0,
            v["Mz_V"] * (1 - beyond**2),
            np.where(p.kind == 2, reduced_y, np.minimum(v["Mz_V"], v["Mz_V"] * (1 - n) / (1 - 0.5 * a_f))),
        )
        small_z = (p.kind == 0) & (np.abs(N) <= web_area * fyd)
        v["My_N"] = np.where(small, v["My_V"], reduced_y)
        v["Mz_N"] = np.where(small_z, v["Mz_V"], reduced_z)
        v["exp_y"] = np.where(p.kind == 1, np.minimum(6.0, 1.66 / np.maximum(1 - 1.13 * n**2, 1e-9)), 2.0)
        v["exp_z"] = np.where(p.kind == 0, np.maximum(1.0, 5 * n), np.where(p.kind == 1, v["exp_y"], 2.0))
        v["ry"], v["rz"] = ratio(np.abs(My), v["My_N"]), ratio(np.abs(Mz), v["Mz_N"])
        biaxial = np.where(p.kind == 1, _power(v["ry"], v["exp_y"], p.kind == 1), v["ry"] ** 2)
        biaxial = biaxial + np.where(v["exp_z"] == 1, v["rz"], _power(v["rz"], v["exp_z"], v["exp_z"] != 1))
        # (6.41) is for bending about both axes: about one alone (6.31) says it
        v["biaxial"] = (np.minimum(v["ry"], v["rz"]) > UNIAXIAL * np.maximum(v["ry"], v["rz"])) + 0.0
        biaxial = np.where(v["biaxial"] > 0, biaxial, 0.0)
        v["u_plastic"] = np.maximum(np.maximum(v["ry"], v["rz"]), np.maximum(biaxial, v["n"]))
        # 6.2.9.2 and 6.2.9.3: classes 3 and 4, longitudinal stress; beyond the axial resistance, which leaves no moment, the sum of (6.2)
        v["u_linear"] = v["n"] + ratio(np.abs(My), v["My_V"]) + ratio(np.abs(Mz), v["Mz_V"])
        v["linear"] = ~plastic | (v["n"] >= 1)
        v["u_NM"] = np.where(v["linear"], v["u_linear"], v["u_plastic"])
    return v


def shear_factor(p: SteelArrays) -> Floats:
    """k_τ of plates with rigid transverse stiffeners alone, EN 1993-1-5 (A.5): 5.34 where they stand at supports alone."""
    with np.errstate(divide="ignore", invalid="ignore"):
        ratio_ = (p.h - 2 * p.tf) / p.panel
        return np.asarray(np.where(ratio_ <= 1, 5.34 + 4 * ratio_**2, 4 + 5.34 * ratio_**2))


def slender_web(p: SteelArrays, eta: float) -> Bools:
    """Webs of I sections whose buckling under shear counts: h_w/t_w > 72 ε/η (6.2.6(6)), with stiffeners along it 31 ε √k_τ/η
    (EN 1993-1-5 5.1(2))."""
    with np.errstate(divide="ignore", invalid="ignore"):
        epsilon = np.sqrt(235e6 / p.fy * p.E / E)
        limit = np.where(np.isfinite(p.panel), 31 * np.sqrt(shear_factor(p)), 72.0)
        return np.asarray((p.kind == 0) & (p.h - 2 * p.tf > limit * epsilon / eta * p.tw))


def shear_check(p: SteelArrays, Vy: Floats, Vz: Floats, gamma_M0: float, eta: float, gamma_M1: float) -> Values:
    """Resistance to shear, without torsion: plastic (6.2.6), of slender webs no more than the web's share of EN 1993-1-5 5.3, V_bw,Rd,
    by the distance of transverse stiffeners and whether end posts are rigid. Above half of it, what 6.2.8 takes off the
    moment resistance is what 7.1 does, also where the flanges alone bear the moment (safe side)."""
    tau = p.fy / gamma_M0 / np.sqrt(3)
    v: Values = {"Av_z": np.where(p.kind == 0, np.maximum(p.Av_z, eta * (p.h - 2 * p.tf) * p.tw), p.Av_z)}
    v["Vz_Rd"], v["Vy_Rd"] = v["Av_z"] * tau, p.Av_y * tau
    slender = slender_web(p, eta)
    if slender.any():
        with np.errstate(divide="ignore", invalid="ignore"):
            deep = p.h - 2 * p.tf
            v["k_tau"] = shear_factor(p)
            at_supports = deep / (86.4 * p.tw * np.sqrt(235e6 / p.fy * p.E / E))
            v["lambda_w"] = np.where(
                np.isfinite(p.panel), at_supports * 86.4 / (37.4 * np.sqrt(v["k_tau"])), at_supports
            )
            v["chi_w"] = np.where(v["lambda_w"] < 0.83 / eta, eta, 0.83 / v["lambda_w"])
            rigid = (p.rigid_ends > 0) & (v["lambda_w"] >= 1.08)
            v["chi_w"] = np.where(rigid, 1.37 / (0.7 + v["lambda_w"]), v["chi_w"])
            v["Vbw_Rd"] = v["chi_w"] * p.fy * deep * p.tw / (np.sqrt(3) * gamma_M1)
        v["Vz_Rd"] = np.where(slender, np.minimum(v["Vz_Rd"], v["Vbw_Rd"]), v["Vz_Rd"])
    with np.errstate(divide="ignore", invalid="ignore"):
        v["u_Vz"] = np.abs(Vz) / v["Vz_Rd"]
        v["u_Vy"] = np.abs(Vy) / v["Vy_Rd"]
    v["u_V"] = np.maximum(v["u_Vz"], v["u_Vy"])
    if (p.kind == 2).any():
        # a circular section has one shear, whichever way it goes
        v["u_V"] = np.where(p.kind == 2, np.hypot(v["u_Vz"], v["u_Vy"]), v["u_V"])
    return v


def torsion_use(p: SteelArrays, T: Floats, gamma_M0: float) -> Floats:
    """Shear stress of St Venant torsion as a share of the yield stress in shear, 6.2.7."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.asarray(np.abs(T) / p.Wt / (p.fy / gamma_M0 / np.sqrt(3)))


def section_bound(
    p: SteelArrays,
    N: Floats,
    Vy: Floats,
    Vz: Floats,
    My: Floats,
    Mz: Floats,
    gamma_M0: float,
    eta: float = 1.0,
    gamma_M1: float = 1.0,
) -> tuple[Floats, Floats]:
    """(what `section_check` finds for N + M at most, inf where that is not known so simply; u_V). Forces: (e, s, c), p: (e, 1, 1).

    With shear up to half its resistance M_N,Rd ≥ (1 − n) M_Rd in (6.36) to (6.40), for I sections ≥ (1 − n) / (1 − 0.5 a) M_Rd, and the
    exponents of (6.41) are not below 1: up to 1, neither ratios nor their powers exceed the sum of the ratios. Where the class under
    the most compression is 3, that of 6.2.9.2, n + Σ M/M_el, is not below either.
    """
    u_V = shear_check(p, Vy, Vz, gamma_M0, eta, gamma_M1)["u_V"]
    pressed = N.min(axis=(1, 2), keepdims=True, initial=0.0)
    most = classify(p, pressed)
    with np.errstate(divide="ignore", invalid="ignore"):
        fyd = p.fy / gamma_M0
        plastic = most["cls"] <= 2
        n = np.abs(N) / (p.A * fyd)
        bound = np.abs(My) / (np.where(plastic, p.Wpl_y, p.Wel_y) * fyd)
        bound += np.abs(Mz) / (np.where(plastic, p.Wpl_z, p.Wel_z) * fyd)
        a = np.where(p.kind == 0, np.minimum((p.A - 2 * p.b * p.tf) / p.A, 0.5), 0.0)
        # no number times what is infinite at n = 1 would look like a shape that has no bound
        reduced = bound * np.where(n < 1, np.maximum((1 - 0.5 * a) / (1 - n), 1.0), 1.0)
        bound = np.where(plastic, np.maximum(reduced, n), bound + n)
        # 5.5.2(9): under no more compression than this no plate of it is slender
        known = (most["cls"] <= 3) & (most["slender_N"] * np.sqrt(-pressed / (p.A * fyd)) <= 1)
        unknown = ~known | (n >= 1) | (u_V > 0.5) | (bound > 1)
    return np.where(unknown & ~np.isnan(bound), np.inf, bound), u_V


def ratio(load: Floats, resistance: Floats) -> Floats:
    """load / resistance; 0 where there is no load, whatever resists it."""
    with np.errstate(divide="ignore", invalid="ignore"):
        return np.where(load == 0, 0.0, load / resistance)


def _power(base: Floats, exponent: Floats | float, needed: Any) -> Floats:
    """base ** exponent where it is needed, else 0: powers are the dearest operation of the section checks."""
    wanted = np.broadcast_to(needed, base.shape)
    return np.power(base, exponent, where=wanted, out=np.zeros_like(base))


def reduction(alpha: Floats, slenderness: Floats) -> tuple[Floats, Floats]:
    """(Φ, χ) of flexural buckling, (6.49); χ = 1 up to λ̄ = 0.2."""
    phi = 0.5 * (1 + alpha * (slenderness - 0.2) + slenderness**2)
    chi = 1 / (phi + np.sqrt(np.maximum(phi**2 - slenderness**2, 0)))
    return phi, np.where(slenderness <= 0.2, 1.0, np.minimum(chi, 1.0))
