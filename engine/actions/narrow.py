"""Loads along lines and at points of slabs: pressures on strips and squares so narrow that their width is of no account."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from engine.actions.panels import outline, pieces
from engine.structure.model import Floats, Panel

#: across a strip, and along the sides of a square, m
NARROW = 1e-3


@dataclass(frozen=True)
class Narrow:
    """Where a load lies, corners (k, 2) in the panel's coordinates, and its reach: what is on it over the pressure there, m² per m of a
    line, m² of a point."""

    corners: Floats
    reach: float


def along(panel: Panel, points: Floats) -> list[Narrow]:
    """Strips along a line through points (n, 2), one for each straight piece of it. Raises ValueError where it leaves the panel, or has no length."""
    whole = outline(panel)
    found = []
    for a, b in zip(points[:-1], points[1:], strict=True):
        line = LineString([a, b])
        if line.length < NARROW:
            continue
        strip = line.buffer(NARROW / 2, cap_style="flat")
        found.append(_within(strip, whole, line.length))
    if not found:
        raise ValueError("without length")
    return found


def at(panel: Panel, point: Floats) -> Narrow:
    """The square at a point (2,). Raises ValueError where it lies beside the panel."""
    return _within(Point(point).buffer(NARROW / 2, cap_style="square"), outline(panel), 1.0)


def _within(shape: BaseGeometry, whole: BaseGeometry, length: float) -> Narrow:
    """What of a strip or square lies on the panel, all of it or half where it lies along an edge: its load stays whole."""
    # along an edge lines may be left beside the polygon
    inside = pieces(shape.intersection(whole))
    left = Polygon(inside[0]) if len(inside) == 1 else Polygon()
    # at a corner a quarter of a square is left, less of what lies beside
    if left.area < 0.2 * shape.area or shapely.hausdorff_distance(shape, left) > NARROW:
        raise ValueError("beside it")
    return Narrow(inside[0], left.area / length)
