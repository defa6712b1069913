"""Channels with parallel or tapered flanges."""

from __future__ import annotations

import numpy as np

from engine.catalogue.outlines import Ring, integrals, rounded
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import corner_junction, make
from engine.catalogue.thin_walled import thin_walled


def channel_outline(
    h: float, b: float, tw: float, tf: float, r1: float, r2: float = 0.0, slope: float = 0.0, at: float | None = None
) -> Ring:
    """A channel with its back on y = 0. tf: flange thickness at the distance `at` from the toe; slope: of its inside."""
    at = (b - tw) / 2 if at is None else at
    toe = tf - slope * at
    root = tf + slope * (b - tw - at)
    half = h / 2
    return rounded(
        [
            (0, -half, 0),
            (b, -half, 0),
            (b, -half + toe, r2),
            (tw, -half + root, r1),
            (tw, half - root, r1),
            (b, half - toe, r2),
            (b, half, 0),
            (0, half, 0),
        ]
    )


def channel(
    name: str,
    family: str,
    h: float,
    b: float,
    tw: float,
    tf: float,
    r1: float,
    r2: float = 0.0,
    slope: float = 0.0,
    at: float | None = None,
) -> Section:
    """Channel, parallel or tapered flanges. Warping by (h−tf)²/4 [Iz − A (c − tw/2)² ((h−tf)² A / (4 Iy) − 1)]; shear centre
    b'² (h−tf)² tf / (4 Iy) behind the web's middle, b' = b − tw/2."""
    ring = channel_outline(h, b, tw, tf, r1, r2, slope, at)
    area = integrals([ring])
    depth = h - tf
    It = 2 / 3 * b * tf**3 + (h - 2 * tf) * tw**3 / 3 + 2 * corner_junction(tw, tf, r1) - 0.42 * tf**4
    Iw = depth**2 / 4 * (area.Iz - area.A * (area.y - tw / 2) ** 2 * (depth**2 * area.A / (4 * area.Iy) - 1))
    centre = tw / 2 - (b - tw / 2) ** 2 * depth**2 * tf / (4 * area.Iy)
    if slope:
        Iw, centre = _tapered_warping(h, b, tw, tf, slope, (b - tw) / 2 if at is None else at)
    return make(
        name,
        family,
        "channel",
        [ring],
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        r=r1,
        It=It,
        Iw=Iw,
        web=area.A - 2 * b * tf + (tw + r1) * tf,
        flanges=2 * b * tf,
        shear=(centre, 0.0),
        slope=slope,
        slope_at=at or 0.0,
        r2=r2,
    )


def _tapered_warping(h: float, b: float, tw: float, tf: float, slope: float, at: float) -> tuple[float, float]:
    """Iw of a channel with tapered flanges, and its shear centre from the back: walls of stepped thickness."""
    y = np.linspace(b, tw / 2, 21)
    t = tf + slope * (b - y - at)
    flange = np.stack([y, -h / 2 + t / 2], axis=1)
    line = np.vstack([flange, (flange * (1, -1))[::-1]])
    thickness = (t[1:] + t[:-1]) / 2
    found = thin_walled(line, np.concatenate([thickness, [tw], thickness[::-1]]))
    return found.Iw, found.y + found.shear_y


OUTLINES = {"channel": lambda s: [channel_outline(s.h, s.b, s.tw, s.tf, s.r, s.r2, s.slope, s.slope_at or None)]}
