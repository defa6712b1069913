"""Cold-formed channels and Z with lips in bending and shear: effective section, EN 1993-1-3 5.5 and 6.1."""

from __future__ import annotations

from dataclasses import dataclass
from math import cbrt, sqrt

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.standards.en.effective import internal, outstand, part_slenderness

#: metallic coating on both sides, 3.2.4(3) NOTE: 0.04 mm for the usual 275 g/m²
COATING = 0.04e-3
POISSON = 0.3
#: steps of 5.5.3.2(3) end where χ_d moves less than this
SETTLED = 1e-9


@dataclass(frozen=True)
class Walls:
    """A lipped channel or Z by its notional flat widths, 5.1, corners sharp as 5.1(3) allows: web, flange in compression, flange in tension,
    lips; t: design thickness of the core. Metres."""

    web: float
    pressed: float
    pulled: float
    lip: float
    t: float


def walls(s: Section) -> Walls:
    """The walls of a section of the catalogue, its nominal thickness less the coating."""
    return Walls(s.h - s.tw, s.b - s.tw, s.b - s.tw, s.lip - s.tw / 2, s.tw - COATING)


def beyond(w: Walls) -> str:
    """Why the rules of 5.2 do not reach a section, in words; "" where they do."""
    for name, ratio, most in (("b/t", w.pressed / w.t, 60), ("c/t", w.lip / w.t, 50), ("h/t", w.web / w.t, 500)):
        if ratio > most:
            return f"{name} = {ratio:.0f} is above {most} (EN 1993-1-3 table 5.1)"
    share = w.lip / w.pressed
    if not 0.2 <= share <= 0.6:
        return f"c/b = {share:.2f} is not between 0.2 and 0.6 (EN 1993-1-3 5.2(2))"
    return ""


def lip_factor(share: float) -> float:
    """k_σ of a single lip by b_p,c/b_p, 5.5.3.2(5)."""
    return 0.5 if share <= 0.35 else 0.5 + 0.83 * cbrt((share - 0.35) ** 2)


def distortion(slenderness: float) -> float:
    """χ_d of an edge stiffener, (5.12)."""
    if slenderness <= 0.65:
        return 1.0
    return 1.47 - 0.723 * slenderness if slenderness < 1.38 else 0.66 / slenderness


def bent(w: Walls, material: Material, fy: float) -> dict[str, float]:
    """Effective section in bending about the axis parallel to the flanges, by name: 5.5.3.2 for the flange with its lip, then the web by
    EN 1993-1-5 table 4.1 with the flange reduced. fy: f_yb in Pa, reached in full. W_eff is the smaller of both flanges."""
    epsilon = sqrt(235e6 / fy * material.E / 210e9)
    flange_p = part_slenderness(w.pressed / w.t, 4.0, epsilon)
    k_c = lip_factor(w.lip / w.pressed)
    lip_p = part_slenderness(w.lip / w.t, k_c, epsilon)
    b_e1 = internal(flange_p, 1.0) * w.pressed / 2
    b_1, K_1 = _spring(w, material, b_e1, outstand(lip_p) * w.lip)
    chi, found = 1.0, dict[str, float]()
    for _ in range(100):
        # the outer half of the flange and the lip bear χ_d f_yb only, 5.5.3.2(3) and 5.5.2(5)
        b_e2 = internal(flange_p * sqrt(chi), 1.0) * w.pressed / 2
        c_eff = outstand(lip_p * sqrt(chi)) * w.lip
        found = _stiffener(w, material, fy, K_1, b_e2, c_eff)
        if abs(found["chi_d"] - chi) < SETTLED:
            break
        chi = found["chi_d"]
    found |= {"k_c": k_c, "lambda_b": flange_p, "lambda_c": lip_p, "b_e1": b_e1, "b_1": b_1, "K_1": K_1}
    return found | _with_web(w, found, epsilon) | {"f_yb": fy}


def _spring(w: Walls, material: Material, b_e2: float, c_eff: float) -> tuple[float, float]:
    """b_1 in m, from the web to the centroid of the edge stiffener as first estimated, and its spring in N/m², (5.10b) with k_f = 0: one flange
    is compressed."""
    b_1 = w.pressed - b_e2**2 / (2 * (b_e2 + c_eff))
    return b_1, material.E * w.t**3 / (4 * (1 - POISSON**2)) / (b_1**2 * w.web + b_1**3)


def _stiffener(w: Walls, material: Material, fy: float, K_1: float, b_e2: float, c_eff: float) -> dict[str, float]:
    """The edge stiffener of a compressed flange, outer part b_e2 and lip c_eff: its critical stress (5.15) and reduction factor."""
    width = b_e2 + c_eff
    A_s = w.t * width
    low = c_eff**2 / (2 * width)
    I_s = w.t * (b_e2 * w.t**2 / 12 + c_eff**3 / 12 + b_e2 * low**2 + c_eff * (c_eff / 2 - low) ** 2)
    sigma = 2 * sqrt(K_1 * material.E * I_s) / A_s
    lambda_d = sqrt(fy / sigma)
    values = {"b_e2": b_e2, "c_eff": c_eff, "A_s": A_s, "I_s": I_s}
    return values | {"sigma_crs": sigma, "lambda_d": lambda_d, "chi_d": distortion(lambda_d)}


def _with_web(w: Walls, v: dict[str, float], epsilon: float) -> dict[str, float]:
    """The web between the reduced flange and the whole one, and the section of what is left."""
    outer = [(v["b_e1"], 1.0, 0.0), (v["b_e2"], v["chi_d"], 0.0)]
    lips = [(v["c_eff"], v["chi_d"], v["c_eff"] / 2), (w.lip, 1.0, w.web - w.lip / 2)]
    flat = [*outer, (w.pulled, 1.0, w.web)]
    # depth from the compressed flange: of the centroid with the whole web, 5.5.3.2 and EN 1993-1-5 4.4(3)
    h_c = _centre([*flat, *lips, (w.web, 1.0, w.web / 2)])
    psi = 1 - w.web / h_c
    k_w = 7.81 - 6.29 * psi + 9.78 * psi**2 if psi > -1 else 5.98 * (1 - psi) ** 2
    lambda_w = part_slenderness(w.web / w.t, k_w, epsilon)
    rho = internal(lambda_w, psi)
    upper, lower = 0.4 * rho * h_c, w.web - h_c + 0.6 * rho * h_c
    if rho >= 1:
        upper, lower = h_c, w.web - h_c
    upright = [*lips, (upper, 1.0, upper / 2), (lower, 1.0, w.web - lower / 2)]
    z_c = _centre([*flat, *upright])
    I_eff = w.t * sum(width * share * (z_c - z) ** 2 for width, share, z in [*flat, *upright])
    I_eff += w.t * sum(width**3 * share / 12 for width, share, _ in upright)
    whole = [(w.pressed, 1.0, 0.0), (w.pulled, 1.0, w.web), (w.lip, 1.0, w.lip / 2), lips[1], (w.web, 1.0, w.web / 2)]
    middle = _centre(whole)
    I_gross = w.t * sum(width * (middle - z) ** 2 for width, _, z in whole)
    I_gross += w.t * (w.web**3 + 2 * w.lip**3) / 12
    z_t = w.web - z_c
    found = {
        "h_c": h_c,
        "psi": psi,
        "k_w": k_w,
        "lambda_w": lambda_w,
        "rho_w": rho,
        "z_c": z_c,
        "z_t": z_t,
        "I_eff": I_eff,
    }
    return found | {
        "I_gross": I_gross,
        "W_gross": I_gross / max(middle, w.web - middle),
        "W_eff": I_eff / max(z_c, z_t),
    }


def _centre(parts: list[tuple[float, float, float]]) -> float:
    """Depth of the centroid of parts (width, share of the thickness, depth)."""
    return sum(b * share * z for b, share, z in parts) / sum(b * share for b, share, _ in parts)


def sheared(w: Walls, material: Material, fy: float) -> dict[str, float]:
    """Shear strength of the web without stiffeners at its supports, 6.1.5 and table 6.1: slenderness, strength and resistance by γ_M0 = 1."""
    slender = 0.346 * w.web / w.t * sqrt(fy / material.E)
    share = 0.58 if slender <= 0.83 else 0.48 / slender if slender < 1.40 else 0.67 / slender**2
    return {"lambda_v": slender, "f_bv": share * fy, "V_b": w.web * w.t * share * fy}
