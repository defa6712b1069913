"""Web panels of columns in shear where beams are joined to them rigidly: EN 1993-1-8 5.3 and 6.2.6.1, on arrays of any shape that broadcasts."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats

#: d/t_w over ε up to which a panel yields before it buckles, 6.2.6.1(1)
STOCKY = 69.0
#: width over thickness, over ε, up to which a supplementary plate counts, 6.2.6.1(9)
PLATE = 40.0


def supplement(d: Floats, tw: Floats, fy: Floats) -> Floats:
    """b_s t_w that one supplementary plate as thick as the web adds to the shear area, m²: it covers the web between its root radii, and
    counts to 40 ε t_s (6.2.6.1(6), (9)). d, tw: m; fy: Pa."""
    return np.asarray(np.minimum(d, PLATE * np.sqrt(235e6 / fy) * tw) * tw)


def panel_check(flanges: Floats, shear: Floats, area: Floats, fy: Floats, gamma_M0: float) -> dict[str, Any]:
    """The shear in a panel, (5.3), over what it bears, (6.7). flanges: of the beams' M/z, N, as they turn the panel; shear: mean shear of the column
    below and above, N, with the sign that makes M fall; area: A_vc, m²; fy: Pa."""
    V, R = np.abs(flanges + shear), 0.9 * fy * area / (np.sqrt(3) * gamma_M0)
    return {"F_b": flanges, "V_c": -shear, "V_wp": V, "V_wp_Rd": R + 0 * V, "u_knee": V / R}
