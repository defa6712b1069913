"""Snow by EN 1991-1-3, recommended values: shape coefficients and arrangements of a duopitch roof."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike

from engine.structure.model import Floats


def mu1(pitch: ArrayLike) -> Floats:
    """Shape coefficient μ1, table 5.2; pitch in degrees."""
    angle = np.asarray(pitch, dtype=float)
    return np.asarray(np.interp(angle, [0.0, 30.0, 60.0], [0.8, 0.8, 0.0]))


def mu2(pitch: ArrayLike) -> Floats:
    """Shape coefficient μ2, table 5.2, of valleys and multi-span roofs; NaN from 60° where the table gives none."""
    angle = np.asarray(pitch, dtype=float)
    return np.where(angle < 60.0, np.interp(angle, [0.0, 30.0], [0.8, 1.6]), np.nan)


@dataclass(frozen=True)
class Arrangement:
    """Snow on the two slopes, as μ for left and right."""

    name: str
    left: float
    right: float


def duopitch(pitch_left: float, pitch_right: float) -> list[Arrangement]:
    """The three arrangements of 5.3.3(3), (4) and figure 5.3: undrifted, drifted to the right, drifted to the left."""
    left, right = float(mu1(pitch_left)), float(mu1(pitch_right))
    return [
        Arrangement("Snow, undrifted", left, right),
        Arrangement("Snow, drifted to the right", 0.5 * left, right),
        Arrangement("Snow, drifted to the left", left, 0.5 * right),
    ]


def roof_snow(ground: float, mu: float, exposure: float = 1.0, thermal: float = 1.0) -> float:
    """s = μ C_e C_t s_k on the plan projection, (5.1); same unit as the ground snow."""
    return mu * exposure * thermal * ground
