"""Wind by EN 1991-1-4, recommended values: peak velocity pressure, walls, duopitch roofs for wind across the ridge."""

from __future__ import annotations

from dataclasses import dataclass
from math import log

import numpy as np

AIR_DENSITY = 1.25

#: terrain category -> (z0, z_min) in metres, table 4.1
TERRAIN = {"0": (0.003, 1.0), "I": (0.01, 1.0), "II": (0.05, 2.0), "III": (0.3, 5.0), "IV": (1.0, 10.0)}

#: 7.2.9(6) note 2: internal pressure where openings cannot be estimated
INTERNAL = (0.2, -0.3)


@dataclass(frozen=True)
class PeakPressure:
    """Steps of 4.2 to 4.5 at height z: pressures in N/m², factors without unit."""

    basic: float
    terrain_factor: float
    roughness: float
    turbulence: float
    exposure: float
    peak: float


def peak_pressure(speed: float, terrain: str, z: float) -> PeakPressure:
    """q_p(z) = c_e(z) q_b, (4.8), with k_I = c_o = c_dir = c_season = 1; speed in m/s, z in metres."""
    z0, z_min = TERRAIN[terrain]
    height = max(z, z_min)
    terrain_factor = 0.19 * (z0 / 0.05) ** 0.07  # (4.5)
    roughness = terrain_factor * log(height / z0)  # (4.4)
    turbulence = 1 / log(height / z0)  # (4.7)
    exposure = (1 + 7 * turbulence) * roughness**2
    basic = AIR_DENSITY * speed**2 / 2  # (4.10)
    return PeakPressure(basic, terrain_factor, roughness, turbulence, exposure, exposure * basic)


_WALL_RATIOS = [0.25, 1.0, 5.0]
#: table 7.1, c_pe,10 of zones A to E at h/d = 0.25, 1, 5
WALLS = {
    "A": [-1.2, -1.2, -1.2],
    "B": [-0.8, -0.8, -0.8],
    "C": [-0.5, -0.5, -0.5],
    "D": [0.7, 0.8, 0.8],
    "E": [-0.3, -0.5, -0.7],
}


def wall_coefficient(zone: str, slenderness: float) -> float:
    """c_pe,10 of a wall zone for h/d, table 7.1, linear between its rows."""
    return float(np.interp(slenderness, _WALL_RATIOS, WALLS[zone]))


_PITCHES = [5.0, 15.0, 30.0, 45.0]
#: table 7.4a, c_pe,10 for wind across the ridge: zone -> (most negative, most positive) at 5°, 15°, 30°, 45°
DUOPITCH_ACROSS = {
    "F": ([-1.7, -0.9, -0.5, 0.0], [0.0, 0.2, 0.7, 0.7]),
    "G": ([-1.2, -0.8, -0.5, 0.0], [0.0, 0.2, 0.7, 0.7]),
    "H": ([-0.6, -0.3, -0.2, 0.0], [0.0, 0.2, 0.4, 0.6]),
    "I": ([-0.6, -0.4, -0.4, -0.2], [-0.6, 0.0, 0.0, 0.0]),
    "J": ([-0.6, -1.0, -0.5, -0.3], [0.2, 0.0, 0.0, 0.0]),
}


def duopitch_coefficient(zone: str, pitch: float) -> tuple[float, float]:
    """(suction, pressure) c_pe,10 of a zone for wind across the ridge, table 7.4a, linear between pitches of one sign."""
    low, high = DUOPITCH_ACROSS[zone]
    return float(np.interp(pitch, _PITCHES, low)), float(np.interp(pitch, _PITCHES, high))
