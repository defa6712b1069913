"""Outlines of cross-sections as rings of points, and the properties that follow from them by Green's theorem.

Points are (y, z) in metres, z up. Outer rings run anticlockwise, holes clockwise. Arcs are cut into short chords,
eight to a quarter circle, that cover the arc's own area.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import atan2, cos, hypot, pi, sin, sqrt, tan

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

Ring = NDArray[np.float64]
Corner = tuple[float, float, float]
#: chords of a quarter circle
CHORDS = 8


def rounded(corners: list[Corner]) -> Ring:
    """The ring through corners (y, z, radius), each rounded by an arc that touches both its sides."""
    points: list[tuple[float, float]] = []
    n = len(corners)
    for i, (y, z, r) in enumerate(corners):
        if r <= 0:
            points.append((y, z))
            continue
        (y0, z0, _), (y1, z1, _) = corners[i - 1], corners[(i + 1) % n]
        a, b = np.array([y0 - y, z0 - z]), np.array([y1 - y, z1 - z])
        a, b = a / hypot(*a), b / hypot(*b)
        half = float(np.arccos(np.clip(a @ b, -1, 1))) / 2
        middle = a + b
        centre = np.array([y, z]) + middle / hypot(*middle) * r / sin(half)
        reach = r / tan(half)
        first, last = np.array([y, z]) + a * reach - centre, np.array([y, z]) + b * reach - centre
        start, end = atan2(first[1], first[0]), atan2(last[1], last[0])
        sweep = (end - start + pi) % (2 * pi) - pi
        steps = max(3, round(abs(sweep) / (pi / 2) * CHORDS))
        # the inner points stand off the arc a little, so that the chords enclose the sector's own area
        step = sin(abs(sweep) / steps)
        inner = r * (sqrt(step**2 + (steps - 2) * step * abs(sweep)) - step) / ((steps - 2) * step)
        for k in range(steps + 1):
            angle = start + sweep * k / steps
            reach = r if k in (0, steps) else inner
            points.append((float(centre[0]) + reach * cos(angle), float(centre[1]) + reach * sin(angle)))
    return np.array(points)


def circle(radius: float, y: float = 0.0, z: float = 0.0, hole: bool = False) -> Ring:
    """A circle whose polygon has the circle's own area."""
    count = 8 * CHORDS
    angle = np.linspace(0, 2 * pi, count, endpoint=False)
    scaled = radius * np.sqrt(2 * pi / count / np.sin(2 * pi / count))
    ring = np.stack([y + scaled * np.cos(angle), z + scaled * np.sin(angle)], axis=1)
    return ring[::-1] if hole else ring


def is_hole(ring: Ring) -> bool:
    """Whether a ring bounds a hole: it runs clockwise."""
    y, z = ring.T
    return bool(y @ np.roll(z, -1) < z @ np.roll(y, -1))


def turned(ring: Ring, quarters: int = 1) -> Ring:
    """The ring turned about the origin by quarter turns, anticlockwise."""
    for _ in range(quarters % 4):
        ring = np.stack([-ring[:, 1], ring[:, 0]], axis=1)
    return ring


def mirrored(ring: Ring) -> Ring:
    """The ring mirrored in the z axis, running anticlockwise again."""
    return np.stack([-ring[:, 0], ring[:, 1]], axis=1)[::-1]


@dataclass(frozen=True)
class Area:
    """Integrals over an outline. Iyz is the product ∫ y z dA; all second moments about the centroid."""

    A: float
    y: float
    z: float
    Iy: float
    Iz: float
    Iyz: float


def integrals(rings: list[Ring]) -> Area:
    """Area, centroid and second moments of an outline."""
    A = Sy = Sz = Iy = Iz = Iyz = 0.0
    for ring in rings:
        y, z = ring[:, 0], ring[:, 1]
        y1, z1 = np.roll(y, -1), np.roll(z, -1)
        cross = y * z1 - y1 * z
        A += float(cross.sum()) / 2
        Sz += float(((y + y1) * cross).sum()) / 6
        Sy += float(((z + z1) * cross).sum()) / 6
        Iy += float(((z**2 + z * z1 + z1**2) * cross).sum()) / 12
        Iz += float(((y**2 + y * y1 + y1**2) * cross).sum()) / 12
        Iyz += float(((y * z1 + 2 * y * z + 2 * y1 * z1 + y1 * z) * cross).sum()) / 24
    cy, cz = Sz / A, Sy / A
    return Area(A, cy, cz, Iy - A * cz**2, Iz - A * cy**2, Iyz - A * cy * cz)


def plastic_modulus(rings: list[Ring], angle: float = 0.0) -> float:
    """Plastic modulus for bending about the axis at that angle from y: first moments about the line that halves the area."""
    c, s = cos(angle), sin(angle)
    ends = np.concatenate([np.hstack([ring, np.vstack([ring[1:], ring[:1]])]) for ring in rings])
    y0, z0 = ends[:, 0] * c + ends[:, 1] * s, ends[:, 1] * c - ends[:, 0] * s
    y1, z1 = ends[:, 2] * c + ends[:, 3] * s, ends[:, 3] * c - ends[:, 2] * s
    rise = z1 - z0
    flat = np.abs(rise) < 1e-15
    slope = np.where(flat, 0.0, (y1 - y0) / np.where(flat, 1.0, rise))
    base = y0 - slope * z0

    def above(cut: float) -> tuple[float, float]:
        """Area above the cut and its first moment about it: ∮ y dz and ∮ y (z − cut) dz; the cut itself gives none."""
        a, b = np.maximum(z0 - cut, 0.0), np.maximum(z1 - cut, 0.0)
        foot = base + slope * cut
        area = float((foot * (b - a) + slope * (b**2 - a**2) / 2).sum())
        return area, float((foot * (b**2 - a**2) / 2 + slope * (b**3 - a**3) / 3).sum())

    low, high = float(z0.min()), float(z0.max())
    total, whole_moment = above(low)
    cut = float(brentq(lambda level: above(level)[0] - total / 2, low, high, xtol=1e-9))
    upper = above(cut)[1]
    return 2 * upper - (whole_moment - (cut - low) * total)
