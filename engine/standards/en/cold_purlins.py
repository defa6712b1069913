"""What cold-formed purlins and rails bear between frames with sheeting on one flange: EN 1993-1-3 10.1, by moments of elastic beams whose
spans are loaded alike."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf, pi, sqrt

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.derivation import Derivation, Reason, steps
from engine.standards.en.cold_bending import POISSON, Walls, bent, sheared, walls
from engine.standards.en.cold_flange import PARTS, Spans, bending, buckling_length, free_flange
from engine.standards.en.cold_lines import LINES, SYMBOLS
from engine.verification.secondary import Way

WAYS: tuple[Way, ...] = ("down", "up", "service")
WORDS = {"down": "pressed", "up": "lifted", "service": "under characteristic loads"}
#: curve b by EN 1993-1-1 6.3.2.3 for the free flange, NOTE of 10.1.4.2(1)
ALPHA, PLATEAU, BETA = 0.34, 0.4, 0.75
TITLES = {
    "held": "Bending of the section",
    "free": "Free flange in compression",
    "shear": "Shear of the web",
    "both": "Bending and shear over a support",
    "deflection": "Deflection",
}
ASSUMPTIONS = (
    "The sheeting holds the flange it is fixed to sideways (10.1.1(6)).",
    "Walls as thick as their core, nominal less 0.04 mm of coating (3.2.4); corners sharp (5.1(3)).",
    "Every span is loaded alike; elastic moments; no laps and no sleeves over the supports.",
    "Reactions go into cleats at the web, which hold both flanges sideways: no transverse forces on it (6.1.7).",
    "A free flange in tension bears no moment of its own (10.1.4.1).",
)


@dataclass(frozen=True)
class Purlin:
    """A purlin over its frames. spans: in line, m; bars: anti-sag bars in each span; fastener: from the web to the fastener of the
    sheeting, m; rotation: C_D in Nm/m per radian; ratio: span over the deflection that is allowed, None: no limit; gamma: γ_M0, γ_M1."""

    section: Section
    material: Material
    spans: Spans
    bars: int
    fastener: float
    rotation: float
    ratio: float | None
    gamma: tuple[float, float]


@dataclass(frozen=True)
class Capacity:
    """What a purlin bears one way in N/m, and how it fails then."""

    way: Way
    load: float
    reason: Reason


#: load in N/m, kind of failure, values by name
_Found = tuple[float, str, dict[str, float]]


def capacities(p: Purlin) -> dict[Way, Capacity]:
    """The least of what each check allows, pressed, lifted and by deflection; a way that nothing limits is left out. The section must be one
    that 5.2 reaches, of a steel with strength at its thickness."""
    w = walls(p.section)
    fy = p.material.fy(p.section.tw)
    values = {"gamma_M0": p.gamma[0], "gamma_M1": p.gamma[1], "L": max(p.spans), "E": p.material.E}
    values |= {"h": p.section.h, "t": w.t, "b_p": w.pressed, "c_p": w.lip, "h_p": w.web}
    values |= bent(w, p.material, fy) | sheared(w, p.material, fy)
    found: dict[Way, Capacity] = {}
    for way in WAYS:
        load, kind, own = _deflected(p, values) if way == "service" else _least(p, w, values, way == "up")
        if load < inf:
            found[way] = Capacity(way, load, Reason(kind, values | own | {"q": load}))
    return found


def derivation(capacity: Capacity) -> Derivation:
    """How what a purlin bears came about."""
    reason = capacity.reason
    return Derivation(
        title=f"{TITLES[reason.kind]}, {WORDS[capacity.way]}",
        clause="EN 1993-1-3 7.1" if capacity.way == "service" else "EN 1993-1-3 6.1, 10.1",
        steps=steps(LINES[reason.kind], reason.values, SYMBOLS),
        assumptions=ASSUMPTIONS,
    )


def _least(p: Purlin, w: Walls, v: dict[str, float], lifted: bool) -> _Found:
    """What allows least of bending, shear, both over a support, and the free flange."""
    main = bending(p.spans)
    M_c, V_b = v["f_yb"] * v["W_eff"] / v["gamma_M0"], v["V_b"] / v["gamma_M0"]
    m, s = main.most, max(main.shear_within, main.shear_end)
    found: list[_Found] = [(M_c / m, "held", {"m": m}), (V_b / s, "shear", {"v": s})]
    if len(p.spans) > 1:
        # m q / M + (2 v q / V - 1)^2 = 1, (6.27) with M_f,Rd = 0 on the safe side, where V is above half its resistance
        support, v_s = float(-main.moment.min()), main.shear_within
        a, b = support / M_c, 2 * v_s / V_b
        if b > a:
            found.append(((2 * b - a) / b**2, "both", {"m": support, "v": v_s}))
    found += _free(p, w, v, lifted)
    return min(found, key=lambda one: one[0])


def _free(p: Purlin, w: Walls, v: dict[str, float], lifted: bool) -> list[_Found]:
    """The free flange where it is in compression, (10.7), at the station that asks most; none where it never is."""
    main = bending(p.spans).moment * (1.0 if lifted else -1.0)
    if main.max() <= 1e-9 * max(p.spans) ** 2:
        return []
    f = free_flange(w)
    own = _pushed(p, v, lifted)
    bed = (p.spans, p.material.E * f.I_z, own["K"], p.bars)
    length = buckling_length(*bed, lifted)
    slender = length / f.i / (pi * sqrt(p.material.E / v["f_yb"]))
    chi = _reduction(slender)
    m_z = abs(own["k_h"]) * np.abs(bending(*bed).moment)
    total = np.where(main > 0, main / (chi * v["W_eff"]) + m_z / f.W, 0.0)
    k = int(total.argmax())
    own |= {"I_fz": f.I_z, "W_fz": f.W, "i_fz": f.i, "l_fz": length, "lambda_fz": slender, "chi": chi}
    own |= {
        "R": own["K"] * (max(p.spans) / (p.bars + 1)) ** 4 / (pi**4 * p.material.E * f.I_z),
        "m": float(main[k]),
        "m_z": float(m_z[k]),
    }
    return [(v["f_yb"] / v["gamma_M1"] / float(total[k]), "free", own)]


def _reduction(slender: float) -> float:
    """χ_LT of EN 1993-1-1 (6.57)."""
    if slender <= PLATEAU:
        return 1.0
    Phi = 0.5 * (1 + ALPHA * (slender - PLATEAU) + BETA * slender**2)
    return min(1.0, 1 / slender**2, 1 / (Phi + sqrt(Phi**2 - BETA * slender**2)))


def _pushed(p: Purlin, v: dict[str, float], lifted: bool) -> dict[str, float]:
    """k_h, the share of the load that pushes the free flange sideways (figure 10.3), and the spring K that resists it, (10.14).

    With the load in its web the shear flow pushes by k_h0: of a Z h t (b² + 2 c b − 2 c²b/h)/(4 I_y), its product moment over 2 I_y; of a channel
    e/h with its shear centre e beside the web. A load beside the web turns the section by a/h more. k_h is positive where the free flange is
    pushed as the flange at the sheeting points, if lifted. Lifted, the load hangs on the fasteners; pressed, it may rest anywhere between
    the web and the fasteners, the worse place counts."""
    b, c, h = v["b_p"], v["c_p"], v["h_p"]
    turned = p.fastener / v["h"]
    if p.section.shape == "zed":
        own = {"k_h0": h * v["t"] * (b**2 + 2 * c * b - 2 * c**2 * b / h) / (4 * v["I_gross"])}
        flow = -own["k_h0"]
    else:
        beside = -(p.section.centre_y + p.section.shear_y)
        own = {"e": beside, "k_h0": beside / h}
        flow = own["k_h0"]
    places = [flow + turned] if lifted else [flow, flow + turned]
    k_h = max(places, key=abs)
    # pushed that way the tip of the flange bears against the sheeting, else the web does
    tip = (k_h > 0) == lifted
    b_mod = 2 * p.fastener + p.section.b if tip else p.fastener
    K = 0.0
    if p.rotation > 0:
        bent_wall = 4 * (1 - POISSON**2) * v["h"] ** 2 * (h + b_mod) / (v["E"] * v["t"] ** 3)
        K = 1 / (bent_wall + v["h"] ** 2 / p.rotation)
    return own | {"a": p.fastener, "k_h": abs(k_h), "b_mod": b_mod, "C_D": p.rotation, "K": K}


def _deflected(p: Purlin, v: dict[str, float]) -> _Found:
    """The load under which the deflection reaches its limit, with I_fic of 7.1(3) for the stress that it causes."""
    if not p.ratio:
        return inf, "deflection", {}
    main = bending(p.spans)
    m = main.most
    # the span that is nearest to its limit
    most = np.abs(main.deflection[:-1]).reshape(-1, PARTS).max(axis=1)
    k = int((most / np.array(p.spans)).argmax())
    allowed, deflection = p.spans[k] / p.ratio, float(most[k])
    lost = m / (v["W_gross"] * v["f_yb"]) * (v["I_gross"] - v["I_eff"])
    load = p.material.E * allowed * v["I_gross"] / (deflection + p.material.E * allowed * lost)
    I_fic = v["I_gross"] - lost * load
    own = {
        "m": m,
        "d": deflection,
        "w": allowed,
        "ratio": p.ratio,
        "L": p.spans[k],
        "sigma_gr": m * load / v["W_gross"],
        "I_fic": I_fic,
    }
    return load, "deflection", own
