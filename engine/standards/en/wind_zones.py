"""Where the wind zones of EN 1991-1-4 section 7 lie on a hall's panels, for four directions.

Distances u count along the wind from the windward edge, v across it. e = min(b, 2h); b across the wind, d along it, h the
height of the ridge above the ground.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

import numpy as np

from engine.actions.derived import Both, Box, Zone
from engine.document.base import Direction
from engine.document.rules import Eaves
from engine.standards.en import wind_tables as tables
from engine.standards.en.roofs import SAME, Plane, planes_of, roofs_of
from engine.standards.en.wind_tables import coefficient
from engine.structure.model import Floats, Panel, Structure

DIRECTIONS: tuple[Direction, ...] = ("left", "right", "front", "back")
#: unit vector in which the wind blows
BLOWS: dict[Direction, Floats] = {
    "left": np.array([1.0, 0.0, 0.0]),
    "right": np.array([-1.0, 0.0, 0.0]),
    "front": np.array([0.0, 1.0, 0.0]),
    "back": np.array([0.0, -1.0, 0.0]),
}
#: figure 7.10: factors on the coefficients of the first, second and further troughs
TROUGHS = (1.0, 0.8, 0.6)
FAR = 1e4


def zones(structure: Structure, b: Box, direction: Direction, eaves: Eaves) -> list[Zone]:
    """All zones of the building for wind from a direction; their polygons may reach beyond their panels."""
    return [*_roof_zones(structure, b, direction, eaves), *_wall_zones(structure, b, direction)]


def on_roof(panel: Panel, x: tuple[float, float], y: tuple[float, float]) -> Floats:
    """A rectangle of the plan on a roof panel, as points in space."""
    start, end = panel.corners[0], panel.corners[-1]
    rise = (end[2] - start[2]) / (end[0] - start[0])
    return np.array(
        [
            (px, py, start[2] + rise * (px - start[0]))
            for px, py in zip((x[0], x[1], x[1], x[0]), (y[0], y[0], y[1], y[1]), strict=True)
        ]
    )


def _plan(
    b: Box, direction: Direction, u: tuple[float, float], v: tuple[float, float]
) -> tuple[tuple[float, float], tuple[float, float]]:
    """A rectangle in u and v as ranges of x and y; u from the roof's edge."""
    if direction == "left":
        return (b.roof_x0 + u[0], b.roof_x0 + u[1]), (b.y0 + v[0], b.y0 + v[1])
    if direction == "right":
        return (b.roof_x1 - u[1], b.roof_x1 - u[0]), (b.y0 + v[0], b.y0 + v[1])
    if direction == "front":
        return (b.roof_x0 + v[0], b.roof_x0 + v[1]), (b.y0 + u[0], b.y0 + u[1])
    return (b.roof_x0 + v[0], b.roof_x0 + v[1]), (b.y1 - u[1], b.y1 - u[0])


def _extent(panel: Panel) -> tuple[float, float]:
    return float(panel.corners[:, 0].min()), float(panel.corners[:, 0].max())


def _rises(panel: Panel, direction: Direction) -> bool:
    """Whether a roof rises with the wind."""
    start, end = panel.corners[0], panel.corners[-1]
    return bool((end[2] - start[2]) * (end[0] - start[0]) * BLOWS[direction][0] > 0)


def _roof_zones(structure: Structure, b: Box, direction: Direction, eaves: Eaves) -> list[Zone]:
    across = direction in ("left", "right")
    order = 1 if direction != "right" else -1
    planes = planes_of(structure)[::order]
    laid = _laid(planes, direction) if across else []
    trough = len(planes) == 2 and planes[0].slope < -SAME and planes[1].slope > SAME
    spans = {plane.x0: roof.duopitch or trough for roof in roofs_of(structure) for plane in roof.planes}
    found: list[Zone] = []
    for i, plane in enumerate(planes):
        edges = (plane.x0, plane.x1)
        for panel in plane.panels:
            if across:
                found += _across(b, direction, eaves, panel, laid[i], edges)
            else:
                found += _lengthwise(b, direction, eaves, panel, edges, spans[plane.x0], trough)
    for panel in (p for p in structure.panels if p.kind == "roof"):
        if panel.place == "overhang":
            # the roof's edge zones begin at the edge of the overhang; its own slope decides the coefficients
            i = 0 if (panel.side == "left") == (order > 0) else -1
            if across:
                found += _across(b, direction, eaves, panel, laid[i], _extent(panel))
            else:
                found += _lengthwise(b, direction, eaves, panel, _extent(panel), spans[planes[i].x0], trough)
        elif panel.place == "lean-to":
            found += _lean_to(b, direction, eaves, panel)
    return found


@dataclass(frozen=True)
class Laid:
    """What a plane of roof is to the wind across the ridges. kind: the slope that it is of a single pitch, a duopitch or a
    trough, which says its table; trough: how many lie before it; first: whether it lies at the windward edge; edge: whether it
    has the zones of an edge (F and G, or J behind a ridge or valley)."""

    kind: Literal["low", "high", "windward", "lee", "into a trough", "out of a trough"]
    trough: int = 0
    first: bool = False
    edge: bool = False

    @property
    def behind(self) -> bool:
        """Whether it has zones I and J."""
        return self.kind in ("lee", "out of a trough")

    def table(self, pitch: float) -> tuple[dict[float, dict[str, Both]], float, str]:
        """Table, the pitch to enter it with (degrees, below 0 of troughs) and how both are written."""
        if self.kind in ("low", "high"):
            table, theta = (tables.SINGLE_LOW, 0) if self.kind == "low" else (tables.SINGLE_HIGH, 180)
            return table, pitch, f"table 7.3a θ = {theta}°, α = {pitch:.1f}°"
        at = -pitch if self.kind in ("into a trough", "out of a trough") else pitch
        return tables.DUOPITCH_ACROSS, at, f"table 7.4a, α = {at:.1f}°"


def _laid(planes: list[Plane], direction: Direction) -> list[Laid]:
    """What each plane is, in the order in which the wind meets them.

    Planes that rise to one ridge and fall behind it are a duopitch roof, those that fall to one valley and rise behind it a
    trough (7.2.5), those of one sense a single pitch (7.2.4). Several ridges are a roof by 7.2.7 and figure 7.10: the first
    slope by 7.2.4, those on both sides of a valley, and the last, as troughs with pitches below 0 (c and d). Its a and b
    (saw teeth) cannot be set out: bays share the tops of their columns.
    """
    wind = BLOWS[direction][0]
    senses = [0 if abs(plane.slope) < SAME else int(np.sign(plane.slope * wind)) for plane in planes]
    runs = [(sense, len(list(group))) for sense, group in groupby(senses)]
    ridge = [sense for sense, _ in runs] == [1, -1]
    found: list[Laid] = []
    troughs = -1
    for i, (sense, count) in enumerate(runs):
        before = runs[i - 1][0] if i else 0
        after = runs[i + 1][0] if i + 1 < len(runs) else 0
        kind: Literal["low", "high", "windward", "lee", "into a trough", "out of a trough"]
        if ridge:
            kind, edge = ("windward", True) if sense > 0 else ("lee", True)
        elif sense < 0 and (before > 0 or after > 0):
            kind, edge, troughs = "into a trough", i == 0, troughs + 1
        elif sense > 0 and before < 0:
            kind, edge = "out of a trough", troughs == 0
        else:
            kind, edge = "low" if sense > 0 else "high", i == 0
        found += [Laid(kind, max(troughs, 0), i == 0, edge and k == 0) for k in range(count)]
    return found


def _flat_table(b: Box, eaves: Eaves) -> tuple[dict[float, dict[str, Both]], float, str]:
    at = eaves.size if eaves.kind == "mansard" else eaves.size / b.height
    words = {"sharp": "sharp eaves", "parapet": f"h_p/h = {at:.3f}", "curved": f"r/h = {at:.3f}"}
    return tables.FLAT[eaves.kind], at, f"table 7.2, {words.get(eaves.kind, f'mansard {at:g}°')}"


def _strips(
    b: Box,
    direction: Direction,
    panel: Panel,
    rows: list[tuple[str, tuple[float, float], tuple[float, float]]],
    table: dict[float, dict[str, Both]],
    at: float,
    source: str,
    face: str,
    factor: float = 1.0,
) -> list[Zone]:
    found = []
    for letter, u, v in rows:
        if u[1] - u[0] < 1e-9 or v[1] - v[0] < 1e-9:
            continue
        both = coefficient(table, letter, at)
        if factor != 1.0:
            both = tuple((c10 * factor, c1 * factor) for c10, c1 in both)  # type: ignore[assignment]
        points = on_roof(panel, *_plan(b, direction, u, v))
        flat = table in tables.FLAT.values()
        kind = "flat" if letter == "I" and flat else face
        read = _read(table, letter, at, "" if flat else "°")
        found.append(Zone(panel, letter, points, both, kind, b.height, source, factor, read))
    return found


def _read(table: dict[float, dict[str, Both]], letter: str, at: float, unit: str) -> tuple[str, str]:
    return tables.reading(table, letter, at, unit, 0), tables.reading(table, letter, at, unit, 1)


def _flat(b: Box, direction: Direction, eaves: Eaves, panel: Panel) -> list[Zone]:
    e = b.e(direction)
    wide = b.across(direction) if direction in ("left", "right") else b.roof_x1 - b.roof_x0
    corner = min(e / 4, wide / 2)
    rows = [
        ("F", (0.0, e / 10), (-FAR, corner)),
        ("G", (0.0, e / 10), (corner, wide - corner)),
        ("F", (0.0, e / 10), (wide - corner, FAR)),
        ("H", (e / 10, e / 2), (-FAR, FAR)),
        ("I", (e / 2, FAR), (-FAR, FAR)),
    ]
    table, at, source = _flat_table(b, eaves)
    return _strips(b, direction, panel, rows, table, at, source, "front")


def _across(
    b: Box, direction: Direction, eaves: Eaves, panel: Panel, laid: Laid, edges: tuple[float, float]
) -> list[Zone]:
    """Zones of a panel for wind across the ridge; laid: what the plane is that it is part of; edges: x from where to where that
    plane runs."""
    if panel.pitch < 5:
        return _flat(b, direction, eaves, panel)
    e, wide = b.e(direction), b.across(direction)
    corner = min(e / 4, wide / 2)
    table, at, source = laid.table(panel.pitch)
    factor = TROUGHS[min(laid.trough, 2)]
    if factor != 1:
        source += f" · {factor:g} (figure 7.10)"
    # the edge of the first plane is that of the overhang
    start = 0.0 if laid.first else edges[0] - b.roof_x0 if direction == "left" else b.roof_x1 - edges[1]
    edge = start + (e / 10 if laid.edge else 0.0)
    if laid.behind:
        rows = [("J", (start, edge), (-FAR, FAR)), ("I", (edge, FAR), (-FAR, FAR))]
        if panel.place == "overhang":
            rows = [("I", (start, FAR), (-FAR, FAR))]
        return _strips(b, direction, panel, rows, table, at, source, "back", factor)
    rows = [
        ("F", (start, edge), (-FAR, corner)),
        ("G", (start, edge), (corner, wide - corner)),
        ("F", (start, edge), (wide - corner, FAR)),
        ("H", (edge, FAR), (-FAR, FAR)),
    ]
    return _strips(b, direction, panel, rows, table, at, source, "front" if laid.first else "back", factor)


def _lengthwise(
    b: Box,
    direction: Direction,
    eaves: Eaves,
    panel: Panel,
    edges: tuple[float, float],
    duopitch: bool,
    trough: bool = False,
) -> list[Zone]:
    """Zones of a panel for wind along the ridge, or along the valley of a trough; edges: x from where to where its slope runs."""
    if panel.pitch < 5:
        return _flat(b, direction, eaves, panel)
    e = b.e(direction)
    low, high = (x - b.roof_x0 for x in edges)
    start, end = panel.corners[0], panel.corners[-1]
    # the eaves (or the low edge) is at the side of the smaller height
    low_first = bool((start[2] < end[2]) == (start[0] < end[0]))
    corner = min(e / 4, high - low)
    edge, rest = (0.0, e / 10), ("H", (e / 10, e / 2), (low, high))
    behind = ("I", (e / 2, FAR), (low, high))
    if duopitch:
        # F lies at the outer edge: the eaves, of a trough the high edge (figure 7.8c)
        outer_first = low_first != trough
        outer = (low, low + corner) if outer_first else (high - corner, high)
        others = (low + corner, high) if outer_first else (low, high - corner)
        rows = [("F", edge, outer), ("G", edge, others), rest, behind]
        alpha = -panel.pitch if trough else panel.pitch
        source = f"table 7.4b, α = {alpha:.1f}°"
        return _strips(b, direction, panel, rows, tables.DUOPITCH_ALONG, alpha, source, "front")
    corner = min(e / 4, (high - low) / 2)
    first, last = ("Fl", "Fu") if low_first else ("Fu", "Fl")
    if panel.place == "overhang":
        # of the whole slope it is the outermost part: its corner lies at its own edge
        corner = min(e / 4, high - low)
        outer_first = panel.side == "left"
        at, others = (
            ((low, low + corner), (low + corner, high))
            if outer_first
            else ((high - corner, high), (low, high - corner))
        )
        rows = [(first if outer_first else last, edge, at), ("G", edge, others), rest, behind]
        source = f"table 7.3b, α = {panel.pitch:.1f}°"
        return _strips(b, direction, panel, rows, tables.SINGLE_ALONG, panel.pitch, source, "front")
    rows = [
        (first, edge, (low, low + corner)),
        ("G", edge, (low + corner, high - corner)),
        (last, edge, (high - corner, high)),
        rest,
        behind,
    ]
    return _strips(
        b, direction, panel, rows, tables.SINGLE_ALONG, panel.pitch, f"table 7.3b, α = {panel.pitch:.1f}°", "front"
    )


def _lean_to(b: Box, direction: Direction, eaves: Eaves, panel: Panel) -> list[Zone]:
    """The roof of a lean-to as a single pitch of its own; in the hall's lee it has zone H alone."""
    x0, x1 = _extent(panel)
    b = replace(b, roof_x0=x0, roof_x1=x1)
    if direction in ("front", "back"):
        return _lengthwise(b, direction, eaves, panel, (x0, x1), duopitch=False)
    if panel.side == direction:
        kind: Literal["low", "high"] = "low" if _rises(panel, direction) else "high"
        return _across(b, direction, eaves, panel, Laid(kind, first=True, edge=True), (x0, x1))
    if panel.pitch < 5:
        return _flat(b, direction, eaves, panel)
    rows = [("H", (-FAR, FAR), (-FAR, FAR))]
    source = f"table 7.3a θ = 180°, α = {panel.pitch:.1f}°"
    return _strips(b, direction, panel, rows, tables.SINGLE_HIGH, panel.pitch, source, "front")


def _wall_zones(structure: Structure, b: Box, direction: Direction) -> list[Zone]:
    e, d = b.e(direction), b.along(direction)
    slenderness = b.height / d
    source = f"table 7.1, h/d = {slenderness:.2f}"
    found: list[Zone] = []
    for panel in structure.panels:
        if panel.kind != "wall":
            continue
        z0, z1 = float(panel.corners[:, 2].min()), float(panel.corners[:, 2].max())
        lengthwise = abs(panel.outside[1]) > 0.5
        towards = float(panel.outside @ BLOWS[direction])
        if abs(towards) > 0.5:
            letter = "D" if towards < 0 else "E"
            both = coefficient(tables.WALLS, letter, slenderness)
            for low, high, ze in _heights(b, direction) if letter == "D" else [(-FAR, FAR, b.height)]:
                found.append(
                    Zone(
                        panel,
                        letter,
                        _on_wall(panel, (-FAR, FAR), (low + b.ground, high + b.ground)),
                        both,
                        "wall",
                        ze,
                        source,
                        read=_read(tables.WALLS, letter, slenderness, ""),
                    )
                )
            continue
        origin, sense = (
            ((b.x0, 1.0) if direction == "left" else (b.x1, -1.0))
            if lengthwise
            else ((b.y0, 1.0) if direction == "front" else (b.y1, -1.0))
        )
        for letter, u0, u1 in (("A", -FAR, e / 5), ("B", e / 5, e), ("C", e, FAR)):
            if u0 >= d:
                continue
            both = coefficient(tables.WALLS, letter, slenderness)
            range_ = sorted((origin + sense * u0, origin + sense * u1))
            found.append(
                Zone(
                    panel,
                    letter,
                    _on_wall(panel, (range_[0], range_[1]), (z0 - 1, z1 + 1)),
                    both,
                    "wall",
                    b.height,
                    source,
                    read=_read(tables.WALLS, letter, slenderness, ""),
                )
            )
    return found


def _heights(b: Box, direction: Direction) -> list[tuple[float, float, float]]:
    """Strips of the windward wall with their reference heights, figure 7.4: (low, high, z_e)."""
    wide, h = b.across(direction), b.height
    if h <= wide:
        return [(-FAR, FAR, h)]
    if h <= 2 * wide:
        return [(-FAR, wide, wide), (wide, FAR, h)]
    count = int(np.ceil((h - 2 * wide) / wide))
    marks = [wide + (h - 2 * wide) * i / count for i in range(count + 1)]
    middle = [(low, high, high) for low, high in zip(marks[:-1], marks[1:], strict=True)]
    return [(-FAR, wide, wide), *middle, (h - wide, FAR, h)]


def _on_wall(panel: Panel, run: tuple[float, float], z: tuple[float, float]) -> Floats:
    """A rectangle on a wall: `run` along y (long walls) or x (gables), z in height."""
    x, y = panel.corners[0, 0], panel.corners[0, 1]
    pairs = zip((run[0], run[1], run[1], run[0]), (z[0], z[0], z[1], z[1]), strict=True)
    if abs(panel.outside[0]) > 0.5:
        return np.array([(x, r, h) for r, h in pairs])
    return np.array([(r, y, h) for r, h in pairs])
