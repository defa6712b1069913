"""What stays of a compressed flange must do (EN 1993-1-1 6.3.5.2(3)B, by analogy): bear a share of its force, on arrays of any shape that broadcasts."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats

#: of the force in a compressed flange that what holds it must bear sideways, 6.3.5.2(3)B
SHARE = 0.025


def flange_force(N: Floats, My: Floats, depth: float, share: float, flange: int = -1) -> Floats:
    """Compression in the inner (−1) or the outer (1) flange: ±M_y/d − N A_f/A where it presses. N: tension positive; My: positive where it
    presses the outer flange."""
    return np.asarray(np.maximum(flange * My / depth - N * share, 0.0))


def stay_check(N_f: Floats, depth: float, part: float, own: Floats, resistance: float) -> dict[str, Any]:
    """What a stay brings to one side of what it leads to, beside what that bears. part: of the stay's moment that falls to it; own: its own moment."""
    F = SHARE * N_f
    M_stay = F * depth * part
    with np.errstate(invalid="ignore"):
        return {"F_stay": F, "M_stay": M_stay, "u_stays": (np.abs(own) * (M_stay > 0) + M_stay) / resistance}
