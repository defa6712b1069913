"""Grid lines of a drawing: a line that ends at a circle with a short text in it."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats
from publish.dxf.lines import Lines

#: letters of a grid line's name at most, as documents take them
LETTERS = 8
#: how far from its circle a line may end, and how far a text may stand from its middle, in radii
RIM, WITHIN = 0.3, 0.75


def bubbles(found: Lines) -> list[tuple[str, int]]:
    """Name and number of each line that is a grid line."""
    grid: list[tuple[str, int]] = []
    flat = found.ends[:, :, :2]
    texts = [(words, at) for words, at in found.texts if words]
    places = np.array([at[:2] for _, at in texts], dtype=float).reshape(-1, 2)
    for (x, y, _), radius in found.circles:
        centre = np.array([x, y])
        within = np.linalg.norm(places - centre, axis=1) <= WITHIN * radius
        words = [texts[k][0] for k in np.flatnonzero(within).tolist()]
        if len(words) != 1 or len(words[0]) > LETTERS:
            continue
        off = np.abs(np.linalg.norm(flat - centre, axis=2) - radius)
        for line, end in np.argwhere(off <= RIM * radius).tolist():
            if _points_at(flat[line, 1 - end], flat[line, end], centre, radius):
                grid.append((words[0], line))
    return grid


def _points_at(far: Floats, near: Floats, centre: Floats, radius: float) -> bool:
    """Whether a line that comes from afar leads to the middle of a circle."""
    way, to = near - far, centre - far
    length = float(np.linalg.norm(way))
    return length > radius and abs(float(way[0] * to[1] - way[1] * to[0])) <= 0.1 * radius * length


def grid_of(found: Lines, grid: list[tuple[str, int]], ends: Floats, view: str) -> list[dict[str, Any]]:
    """Grid lines as a document states them. ends: of all lines of the drawing in the building's axes, (lines, 2, 3)."""
    lines: dict[tuple[str, str], float] = {}
    for name, k in grid:
        way = np.abs(found.ends[k, 1] - found.ends[k, 0])
        upright, level = way[0] <= 1e-3 * way[1], way[1] <= 1e-3 * way[0]
        if upright:
            lines.setdefault((name, "X"), float(ends[k, 0, 0]))
        elif level and view != "elevation":
            lines.setdefault((name, "Y"), float(ends[k, 0, 1]))
    names: set[str] = set()
    out = []
    for (name, axis), at in lines.items():
        if name not in names:
            out.append({"name": name, "axis": axis, "at": round(at, 6)})
            names.add(name)
    return out
