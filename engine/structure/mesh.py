"""A plane area divided into cells with four corners, or three, through points and along lines that are given.

Where all edges and lines run in two directions at right angles, the cells are rectangles; else triangles between points as far apart as
the cells are to be wide (Delaunay), whose constraints are halved until they are sides of triangles, and which are joined two by two into
quadrilaterals where these are well shaped.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
import shapely
from scipy.spatial import Delaunay, cKDTree
from shapely.geometry import LineString, Polygon

from engine.structure.join import SAME, merge
from engine.structure.model import Floats, Ints

#: how often a constraint may be halved
HALVINGS = 24
#: least and greatest angle of a quadrilateral made of two triangles, in degrees
ANGLES = (40.0, 140.0)


@dataclass(frozen=True)
class Mesh:
    """points: (v, 2) m; cells: (c, 4) their corners anticlockwise, the last two alike in a triangle."""

    points: Floats
    cells: Ints


class MeshError(Exception):
    """An area that cannot be divided."""


def divide(area: Polygon, points: Floats, lines: Floats, size: float) -> Mesh:
    """The area (with holes) in cells at most about `size` wide, with corners at points (p, 2) and sides along lines (l, 2, 2) within it.
    Raises MeshError where none is found."""
    rings = [np.array(ring.coords) for ring in (area.exterior, *area.interiors)]
    sides = np.concatenate([np.stack([ring[:-1], ring[1:]], axis=1) for ring in rings] + [lines.reshape(-1, 2, 2)])
    way = sides[np.argmax(np.linalg.norm(sides[:, 1] - sides[:, 0], axis=1))]
    along = (way[1] - way[0]) / np.linalg.norm(way[1] - way[0])
    turn = np.stack([along, [-along[1], along[0]]])
    turned = sides @ turn.T
    if (np.abs(turned[:, 1] - turned[:, 0]).min(axis=1) < SAME).all():
        return _rectangles(area, np.concatenate([turned.reshape(-1, 2), points @ turn.T]), turn, size)
    return _general(area, sides, points, size)


def _steps(values: Floats, size: float) -> Floats:
    """Ascending values, those within SAME made one, with further ones between so that none is farther than `size` from the next."""
    values = np.sort(values)
    values = values[np.r_[True, np.diff(values) > SAME]]
    found = [values[:1]]
    for a, b in zip(values[:-1], values[1:], strict=True):
        found.append(np.linspace(a, b, max(1, ceil((b - a) / size - 1e-6)) + 1)[1:])
    return np.concatenate(found)


def _rectangles(area: Polygon, marks: Floats, turn: Floats, size: float) -> Mesh:
    x, y = _steps(marks[:, 0], size), _steps(marks[:, 1], size)
    middles = np.stack(np.meshgrid((x[:-1] + x[1:]) / 2, (y[:-1] + y[1:]) / 2, indexing="ij"), axis=-1) @ turn
    i, j = np.nonzero(shapely.contains_xy(area, middles[..., 0], middles[..., 1]))
    cells = np.stack([i * len(y) + j, (i + 1) * len(y) + j, (i + 1) * len(y) + j + 1, i * len(y) + j + 1], axis=1)
    used, cells = np.unique(cells, return_inverse=True)
    points = np.stack([x[used // len(y)], y[used % len(y)]], axis=1) @ turn
    return Mesh(points, cells.reshape(-1, 4).astype(np.int64))


def _general(area: Polygon, sides: Floats, points: Floats, size: float) -> Mesh:
    network = shapely.union_all([LineString(side) for side in sides], grid_size=SAME / 100)
    pieces = [np.array(part.coords) for part in getattr(network, "geoms", [network])]
    bounds = [np.stack([piece[:-1], piece[1:]], axis=1) for piece in pieces]
    every = np.concatenate(bounds)
    marks = np.concatenate([every.reshape(-1, 2), points])
    _, corners, edges = merge([""] * len(marks), marks)
    pairs = edges[: 2 * len(every)].reshape(-1, 2)
    corners, pairs = _subdivided(corners, pairs[pairs[:, 0] != pairs[:, 1]], size)
    low, high = corners.min(axis=0), corners.max(axis=0)
    rows = np.arange(low[1] + size / 2, high[1], size * np.sqrt(3) / 2)
    firsts = low[0] + size / 2 * (1 + np.arange(len(rows)) % 2)
    seeds = np.concatenate([np.zeros((0, 2)), *(_row(x, high[0], size, y) for x, y in zip(firsts, rows, strict=True))])
    if len(seeds):
        near = shapely.distance(shapely.points(seeds), network) < 0.5 * size
        apart = cKDTree(corners).query(seeds)[0] > 0.6 * size
        seeds = seeds[shapely.contains_xy(area, seeds[:, 0], seeds[:, 1]) & ~near & apart]
    for _ in range(HALVINGS):
        all_points = np.concatenate([corners, seeds])
        found = Delaunay(all_points).simplices
        sides_of = np.sort(found[:, [[0, 1], [1, 2], [2, 0]]].reshape(-1, 2), axis=1)
        have = set(map(tuple, sides_of.tolist()))
        missing = np.array([tuple(sorted(pair)) not in have for pair in pairs.tolist()])
        if not missing.any():
            break
        middles = corners[pairs[missing]].mean(axis=1)
        number = len(corners) + np.arange(len(middles))
        pairs = np.concatenate(
            [
                pairs[~missing],
                np.stack([pairs[missing, 0], number], axis=1),
                np.stack([number, pairs[missing, 1]], axis=1),
            ]
        )
        corners = np.concatenate([corners, middles])
    else:
        raise MeshError("its edges and the lines on it meet at angles too small to divide it")
    flat = all_points[found]
    middle = flat.mean(axis=1)
    a, b = flat[:, 1] - flat[:, 0], flat[:, 2] - flat[:, 0]
    size_of = a[:, 0] * b[:, 1] - a[:, 1] * b[:, 0]
    found = np.where((size_of < 0)[:, None], found[:, ::-1], found)
    whole = shapely.contains_xy(area, middle[:, 0], middle[:, 1]) & (np.abs(size_of) > 1e-6 * size**2)
    cells = _paired(all_points, found[whole], {tuple(sorted(pair)) for pair in pairs.tolist()})
    if abs(np.abs(size_of[whole]).sum() / 2 - area.area) > 1e-4 * area.area:
        raise MeshError("its edges and the lines on it leave parts of it too thin to divide")
    used, cells = np.unique(cells, return_inverse=True)
    return Mesh(all_points[used], cells.reshape(-1, 4).astype(np.int64))


def _row(start: float, end: float, step: float, y: float) -> Floats:
    x = np.arange(start, end, step)
    return np.stack([x, np.full(len(x), y)], axis=1)


def _subdivided(corners: Floats, pairs: Ints, size: float) -> tuple[Floats, Ints]:
    """Sides cut at the points that lie on them, and then until none is longer than `size`."""
    points, found = [corners], list[tuple[int, int]]()
    count = len(corners)
    for a, b in pairs.tolist():
        way = corners[b] - corners[a]
        length = float(np.linalg.norm(way))
        along = (corners - corners[a]) @ way / length
        off = np.abs((corners - corners[a]) @ np.array([-way[1], way[0]])) / length
        on = np.flatnonzero((off < SAME) & (along > SAME) & (along < length - SAME))
        stops = [(0.0, a), *sorted(zip(along[on].tolist(), on.tolist(), strict=True)), (length, b)]
        for (s, first), (t, last) in zip(stops[:-1], stops[1:], strict=True):
            parts = max(1, ceil((t - s) / size - 1e-6))
            between = [corners[a] + way / length * (s + (t - s) * k / parts) for k in range(1, parts)]
            row = [first, *range(count, count + len(between)), last]
            found += list(zip(row[:-1], row[1:], strict=True))
            count += len(between)
            if between:
                points.append(np.array(between))
    return np.concatenate(points), np.array(sorted({tuple(sorted(pair)) for pair in found}), dtype=np.int64)


def _paired(points: Floats, triangles: Ints, held: set[tuple[int, ...]]) -> Ints:
    """Triangles joined across the sides that are no constraints into quadrilaterals, the best shaped first; the others stay."""
    by_side: dict[tuple[int, int], list[tuple[int, int]]] = {}
    for t, triangle in enumerate(triangles.tolist()):
        for k in range(3):
            a, b = triangle[k], triangle[(k + 1) % 3]
            by_side.setdefault((min(a, b), max(a, b)), []).append((t, k))
    offers = []
    for side, both in by_side.items():
        if len(both) < 2 or side in held:
            continue
        (s, i), (t, j) = both
        first, second = triangles[s], triangles[t]
        quad = [first[(i + 1) % 3], first[(i + 2) % 3], first[i], second[(j + 2) % 3]]
        flat = points[quad]
        before, after = np.roll(flat, 1, axis=0) - flat, np.roll(flat, -1, axis=0) - flat
        turned = after[:, 0] * before[:, 1] - after[:, 1] * before[:, 0]
        angle = np.degrees(np.arctan2(turned, (before * after).sum(axis=1)))
        if ANGLES[0] < angle.min() and angle.max() < ANGLES[1] and (angle > 0).all():
            offers.append((float(np.abs(angle - 90).max()), s, t, quad))
    free = np.ones(len(triangles), dtype=bool)
    cells = []
    for _, s, t, quad in sorted(offers, key=lambda offer: offer[:3]):
        if free[s] and free[t]:
            free[[s, t]] = False
            cells.append([int(p) for p in quad])
    rest = triangles[free]
    return np.concatenate([np.array(cells, dtype=np.int64).reshape(-1, 4), np.column_stack([rest, rest[:, 2:]])])
