"""Wind by EN 1991-1-4, recommended values: velocity pressures, internal pressure, friction."""

from __future__ import annotations

from dataclasses import replace
from math import exp, log, log10

import numpy as np

from engine.actions.derived import PeakPressure
from engine.document.base import Direction
from engine.document.national import WindValues
from engine.document.rules import Hill, Site, WindOptions

#: terrain category -> (z0, z_min) in metres, table 4.1
TERRAIN = {"0": (0.003, 1.0), "I": (0.01, 1.0), "II": (0.05, 2.0), "III": (0.3, 5.0), "IV": (1.0, 10.0)}

#: 7.2.9(6) note 2: internal pressure where openings cannot be estimated
INTERNAL = (0.2, -0.3)


def probability_factor(period: float, shape: float = 0.2, exponent: float = 0.5) -> float:
    """c_prob for a mean return period in years, (4.2) with K and n."""
    share = 1 / period
    return float(((1 - shape * log(-log(1 - share))) / (1 - shape * log(-log(0.98)))) ** exponent)


def crest_factor(hill: Hill, z: float) -> float:
    """s of A.3, the share of the crest's speed-up at the height z (m) above the ground and x from the crest.

    (A.4) to (A.14); between the crest and x = 0.1 L_e behind a cliff the table gives no formula: linear between them.
    """
    slope = hill.height / hill.upwind
    effective = hill.upwind if slope < 0.3 else hill.height / 0.3
    up = min(max(z / effective, 0.0), 2.0)
    x = hill.x
    at_crest = 0.1552 * up**4 - 0.8575 * up**3 + 1.8133 * up**2 - 1.9115 * up + 1.0124  # (A.5)
    if x <= 0:
        if x < -1.5 * hill.upwind:
            return 0.0
        growth = 0.3542 * up**2 - 1.0577 * up + 2.6456  # (A.6)
        return float(at_crest * exp(growth * x / hill.upwind))  # (A.4)
    if hill.kind == "hill":
        if x > 2 * hill.downwind:
            return 0.0
        decay = -0.3056 * up**2 + 1.0212 * up - 1.7637  # (A.14)
        return float(at_crest * exp(decay * x / hill.downwind))  # (A.12), (A.13)
    reach = x / effective
    if reach > 3.5:
        return 0.0
    level = log10(min(max(up, 0.1), 2.0))
    far = log10(max(reach, 0.1))
    a = -1.3420 * level**3 - 0.8222 * level**2 + 0.4609 * level - 0.0791  # (A.9)
    b = -1.0196 * level**3 - 0.8910 * level**2 + 0.5343 * level - 0.1156  # (A.10)
    c = 0.8030 * level**3 + 0.4236 * level**2 - 0.5738 * level + 0.1606  # (A.11)
    behind = a * far**2 + b * far + c  # (A.8)
    if reach < 0.1:
        behind = at_crest + (behind - at_crest) * reach / 0.1
    return float(max(behind, 0.0))


def hill_factor(hill: Hill, z: float) -> float:
    """c_o(z) at a hill, ridge, cliff or escarpment, (A.1) to (A.3)."""
    slope = hill.height / hill.upwind
    if slope <= 0.05:
        return 1.0
    share = crest_factor(hill, z)
    return 1 + 2 * share * slope if slope < 0.3 else 1 + 0.6 * share


def displacement(height: float, around: float, distance: float) -> float:
    """h_dis by A.5: `height` of the building, average height and distance of the obstructions upwind, in metres."""
    if distance <= 2 * around:
        return min(0.8 * around, 0.6 * height)
    if distance < 6 * around:
        return min(1.2 * around - 0.2 * distance, 0.6 * height)
    return 0.0


def peak_pressure(
    speed: float,
    terrain: str,
    z: float,
    orography: float = 1.0,
    lifted: float = 0.0,
    density: float = 1.25,
    rough: tuple[float, float] | None = None,
    turbulence_factor: float = 1.0,
) -> PeakPressure:
    """q_p(z) = c_e(z) q_b, (4.8). rough: (z0, z_min) in metres in place of those of table 4.1; turbulence_factor: k_I.

    speed: basic velocity v_b in m/s; z: height above ground, of which `lifted` is displaced (A.5); orography: c_o.
    """
    z0, z_min = rough or TERRAIN[terrain]
    above = max(z - lifted, z_min)
    terrain_factor = 0.19 * (z0 / 0.05) ** 0.07  # (4.5)
    roughness = terrain_factor * log(above / z0)  # (4.4)
    turbulence = turbulence_factor / (orography * log(above / z0))  # (4.7)
    exposure = (1 + 7 * turbulence) * (roughness * orography) ** 2
    basic = density * speed**2 / 2  # (4.10)
    return PeakPressure(
        terrain=terrain,
        ground=f"terrain {terrain}, {'stated in place of table 4.1' if rough and rough != TERRAIN[terrain] else 'table 4.1'}",
        fundamental=speed,
        speed=speed,
        z=z,
        displacement=lifted,
        z_0=z0,
        z_min=z_min,
        above=above,
        terrain_factor=terrain_factor,
        roughness=roughness,
        orography=orography,
        mean=roughness * orography * speed,  # (4.3)
        turbulence_factor=turbulence_factor,
        turbulence=turbulence,
        exposure=exposure,
        density=density,
        basic=basic,
        peak=exposure * basic,
    )


def site_pressure(
    site: Site, options: WindOptions, values: WindValues, direction: Direction, z: float, height: float
) -> PeakPressure:
    """q_p(z) for wind from a direction on a building of that height: v_b = c_dir c_season c_prob v_b,0 (4.1); q_b and q_p as the
    document states them, where it does."""
    directional, probability = options.directional.get(direction, 1.0), 1.0
    if site.reference_period != 50:
        probability = probability_factor(site.reference_period, values.shape, values.exponent)
    speed = site.wind_speed * directional * options.season * probability
    terrain = options.terrains.get(direction, site.terrain)
    lifted = 0.0
    if terrain == "IV" and site.around is not None:
        lifted = displacement(height, site.around.height, site.around.distance)
    hill = options.hills.get(direction)
    orography = hill_factor(hill, z) if hill else options.orography.get(direction, 1.0)
    z0, z_min = TERRAIN[terrain]
    if terrain == site.terrain:
        z0 = z0 if values.roughness is None else values.roughness
        z_min = max(z_min if values.least_height is None else values.least_height, 2 * z0)
    found = peak_pressure(speed, terrain, z, orography, lifted, options.air_density, (z0, z_min), values.turbulence)
    found = replace(
        found, fundamental=site.wind_speed, directional=directional, season=options.season, probability=probability
    )
    if values.basic_pressure is not None:
        basic = values.basic_pressure * 1000
        found = replace(found, basic=basic, peak=found.exposure * basic, stated="basic")
    return found if values.peak_pressure is None else replace(found, peak=values.peak_pressure * 1000, stated="peak")


def inside_coefficient(share: float, slenderness: float) -> float:
    """c_pi of figure 7.13: `share` μ of the openings where c_pe is negative or nought, slenderness h/d."""
    shallow = np.interp(share, [0.33, 0.90], [0.35, -0.3])
    deep = np.interp(share, [0.33, 0.95], [0.35, -0.5])
    return float(shallow + np.clip((slenderness - 0.25) / 0.75, 0, 1) * (deep - shallow))


def correlation(slenderness: float, low: float = 0.85) -> float:
    """Factor on the forces of windward and leeward face together, 7.2.2(3): `low` up to h/d = 1, 1 from h/d = 5."""
    return float(np.interp(slenderness, [1.0, 5.0], [low, 1.0]))
