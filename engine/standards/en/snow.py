"""Snow by EN 1991-1-3, recommended values: shape coefficients, drifts, snow at edges."""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from engine.document.national import SnowValues
from engine.structure.model import Floats

RECOMMENDED = SnowValues()


def mu1(pitch: ArrayLike, flat: float = 0.8) -> Floats:
    """Shape coefficient μ1, table 5.2; pitch in degrees; flat: its value up to 30°."""
    angle = np.asarray(pitch, dtype=float)
    return np.asarray(np.interp(angle, [0.0, 30.0, 60.0], [flat, flat, 0.0]))


def mu2(pitch: ArrayLike, flat: float = 0.8) -> Floats:
    """Shape coefficient μ2, table 5.2, of valleys and multi-span roofs; NaN from 60° where the table gives none."""
    angle = np.asarray(pitch, dtype=float)
    return np.where(angle < 60.0, np.interp(angle, [0.0, 30.0], [flat, flat + 0.8]), np.nan)


def mu3(pitch: ArrayLike, rise: float, width: float, most: float = 2.0) -> Floats:
    """Largest shape coefficient of a cylindrical roof of that rise and width, (5.4) and (5.5); no snow where it is steeper
    than 60°."""
    angle = np.asarray(pitch, dtype=float)
    return np.where(angle > 60.0, 0.0, min(0.2 + 10 * rise / width, most))


def drift_length(height: float, values: SnowValues = RECOMMENDED) -> float:
    """l_s = 2h between 5 and 15 m, as recommended (5.9), (6.2); metres."""
    return min(max(2 * height, values.length_least), values.length_most)


def drift_at_taller(
    upper: float,
    lower: float,
    height: float,
    ground: float,
    upper_pitch: float,
    slope: float,
    values: SnowValues = RECOMMENDED,
) -> tuple[float, float]:
    """(μ_s, μ_w) on a roof that abuts a taller building, 5.3.6: (5.7), (5.8).

    upper, lower: widths of the two roofs; height: by which the upper stands above the lower, in metres; ground: s_k in
    kN/m²; slope: width in plan of the upper slope that falls towards the lower roof, 0 where none does. μ_s: half of the
    greatest snow on that slope, where it is steeper than 15° (as recommended), slides down and lies as a triangle over l_s.
    """
    slides = upper_pitch > values.sliding
    sliding = float(mu1(upper_pitch, values.flat)) * slope / drift_length(height, values) if slides else 0.0
    blown = (upper + lower) / (2 * height)
    most = min(values.drift_weight * height / ground, values.drift_most) if ground > 0 else values.drift_most
    return sliding, min(max(blown, values.drift_least), max(most, values.drift_least))


def drift_at_obstruction(height: float, ground: float, values: SnowValues = RECOMMENDED) -> float:
    """μ2 at an obstruction or parapet, (6.1): γ h / s_k between 0.8 and 2, as recommended."""
    least = values.obstruction_least
    return min(max(values.drift_weight * height / ground if ground > 0 else least, least), values.obstruction_most)


def edge_load(roof: float, weight: float = 3.0, share: float | None = None) -> float:
    """s_e = k s²/γ of snow that hangs over the eaves, kN/m (6.4); roof: s in kN/m² of the undrifted snow above it;
    weight: γ in kN/m³; share: k, None: 3/d, at most d γ, as recommended."""
    depth = roof / weight
    k = (min(3 / depth, depth * weight) if depth > 0 else 0.0) if share is None else share
    return k * roof**2 / weight


def roof_snow(ground: float, mu: float, exposure: float = 1.0, thermal: float = 1.0) -> float:
    """s = μ C_e C_t s_k on the plan projection, (5.1); same unit as the ground snow."""
    return mu * exposure * thermal * ground
