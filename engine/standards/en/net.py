"""Net sections in tension: EN 1993-1-1 6.2.2.2 and 6.2.3(2)b; angles by one leg, EN 1993-1-8 3.10.3."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.structure.model import Floats

Values = dict[str, Any]

#: β2 and β3 of EN 1993-1-8 table 3.8, at p1 up to 2.5 d0 and from 5 d0 on
BETA = {2: (0.4, 0.7), 3: (0.5, 0.7)}
CLOSE, WIDE = 2.5, 5.0


@dataclass(frozen=True)
class HolesAt:
    """Holes of an end, in metres. across: in a section at right angles; zigzag: on a staggered line, with s along and p across from one
    to the next. rows: bolts in a line along the force of an angle by one leg, 0 where it is not that; p1, e2: between them, and to the edge."""

    d0: float
    thickness: float
    across: int
    zigzag: int = 0
    s: float = 0.0
    p: float = 0.0
    rows: int = 0
    p1: float = 0.0
    e2: float = 0.0


def net_area(A: float, holes: HolesAt) -> Values:
    """What holes take off an area: in a straight section, and along a staggered line t (n d0 − Σ s²/4p), (6.3); the larger counts."""
    straight = holes.across * holes.d0 * holes.thickness
    zigzag = 0.0
    if holes.zigzag > 1 and holes.p > 0:
        zigzag = holes.thickness * (holes.zigzag * holes.d0 - (holes.zigzag - 1) * holes.s**2 / (4 * holes.p))
    return {"A_straight": straight, "A_zigzag": zigzag, "A_net": A - max(straight, zigzag)}


def leg_factor(holes: HolesAt) -> float:
    """β2 or β3 by the pitch, linear between."""
    close, wide = BETA[min(holes.rows, 3)]
    share = (holes.p1 / holes.d0 - CLOSE) / (WIDE - CLOSE)
    return close + (wide - close) * min(max(share, 0.0), 1.0)


def net_check(N: Floats, A: float, holes: HolesAt, fu: float, gamma_M2: float) -> Values:
    """Resistance of the net section to tension N (tension positive, (c,)). An angle by one leg: (3.11) to (3.13) of EN 1993-1-8. NaN where
    nothing is left of the section."""
    v: Values = {"fu": fu, "gamma_M2": gamma_M2, "d_0": holes.d0, "t_holes": holes.thickness, "n_across": holes.across}
    v |= net_area(A, holes) | {"rows": float(holes.rows), "beta_leg": np.nan, "e_2": holes.e2, "p_1": holes.p1}
    if holes.rows == 1:
        v["N_u"] = 2.0 * (holes.e2 - 0.5 * holes.d0) * holes.thickness * fu / gamma_M2
    elif holes.rows > 1:
        v["beta_leg"] = leg_factor(holes)
        v["N_u"] = v["beta_leg"] * v["A_net"] * fu / gamma_M2
    else:
        v["N_u"] = 0.9 * v["A_net"] * fu / gamma_M2
    known = v["A_net"] > 0 and v["N_u"] > 0
    v["N_t"] = np.maximum(N, 0.0)
    v["u_net"] = np.where(v["N_t"] > 0, v["N_t"] / v["N_u"], 0.0) if known else np.full(np.shape(N), np.nan)
    return v
