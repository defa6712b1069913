"""Where the wind zones of EN 1991-1-4 section 7 lie on a hall's panels, for four directions.

Distances u count along the wind from the windward edge, v across it. e = min(b, 2h); b across the wind, d along it, h the
height of the ridge above the ground.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from engine.document.base import Direction
from engine.document.rules import Eaves
from engine.standards.en import wind_tables as tables
from engine.standards.en.roofs import Plane, roofs_of
from engine.standards.en.wind_tables import Both, coefficient
from engine.structure.model import Floats, Panel, Structure

DIRECTIONS: tuple[Direction, ...] = ("left", "right", "front", "back")
#: unit vector in which the wind blows
BLOWS: dict[Direction, Floats] = {
    "left": np.array([1.0, 0.0, 0.0]),
    "right": np.array([-1.0, 0.0, 0.0]),
    "front": np.array([0.0, 1.0, 0.0]),
    "back": np.array([0.0, -1.0, 0.0]),
}
#: figure 7.10: factors on the coefficients of the first, second, third and further bays
BAYS = (1.0, 0.8, 0.6)
FAR = 1e4


@dataclass(frozen=True)
class Box:
    """The building in plan and height: walls from x0 to x1 and y0 to y1, roof edges, ground and ridge, in metres."""

    x0: float
    x1: float
    y0: float
    y1: float
    roof_x0: float
    roof_x1: float
    ground: float
    height: float

    def across(self, direction: Direction) -> float:
        """b: dimension across the wind."""
        return self.y1 - self.y0 if direction in ("left", "right") else self.x1 - self.x0

    def along(self, direction: Direction) -> float:
        """d: dimension along the wind."""
        return self.x1 - self.x0 if direction in ("left", "right") else self.y1 - self.y0

    def e(self, direction: Direction) -> float:
        """e = min(b, 2h)."""
        return min(self.across(direction), 2 * self.height)


@dataclass(frozen=True)
class Zone:
    """A zone on a panel: its polygon in space, its coefficients, and how they came about.

    face: which zones change sign together: "front" and "back" of the roof, "flat", "wall". height: z_e. factor: of a bay
    behind the first. source: table and what it was entered with.
    """

    panel: Panel
    letter: str
    points: Floats
    both: Both
    face: str
    height: float
    source: str
    factor: float = 1.0


def box(structure: Structure, ground: float) -> Box:
    """The building's outline from its panels; ground: height of the ground above ±0. The structure must have a roof."""
    roofs = [p for p in structure.panels if p.kind == "roof" and p.place != "truss"]
    main = np.concatenate([p.corners for p in roofs if not p.place])
    outer = np.concatenate([p.corners for p in roofs if p.place != "overhang"])
    # a lean-to lies lower: the edge of the hall's own roof stays an edge
    every = np.concatenate([p.corners for p in roofs if p.place != "lean-to"])
    return Box(
        float(outer[:, 0].min()),
        float(outer[:, 0].max()),
        float(main[:, 1].min()),
        float(main[:, 1].max()),
        float(every[:, 0].min()),
        float(every[:, 0].max()),
        ground,
        float(main[:, 2].max()) - ground,
    )


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
    roofs = roofs_of(structure)[::order]
    found: list[Zone] = []
    for number, roof in enumerate(roofs):
        for i, plane in enumerate(roof.planes[::order]):
            for panel in plane.panels:
                if across:
                    found += _across(b, direction, eaves, panel, plane, number, roof.duopitch, i == 0)
                else:
                    found += _lengthwise(b, direction, eaves, panel, (plane.x0, plane.x1), roof.duopitch)
    for panel in (p for p in structure.panels if p.kind == "roof"):
        if panel.place == "overhang":
            # the roof's edge zones begin at the edge of the overhang; its own slope decides the coefficients
            windward = (panel.side == "left") == (order > 0)
            roof = roofs[0 if windward else -1]
            plane = roof.planes[::order][0 if windward else -1]
            if across:
                number = 0 if windward else len(roofs) - 1
                found += _across(b, direction, eaves, panel, plane, number, roof.duopitch, windward)
            else:
                found += _lengthwise(b, direction, eaves, panel, _extent(panel), roof.duopitch)
        elif panel.place == "lean-to":
            found += _lean_to(b, direction, eaves, panel)
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
        kind = "flat" if letter == "I" and table in tables.FLAT.values() else face
        found.append(Zone(panel, letter, points, both, kind, b.height, source, factor))
    return found


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
    b: Box, direction: Direction, eaves: Eaves, panel: Panel, plane: Plane | None, bay: int, duopitch: bool, first: bool
) -> list[Zone]:
    """Zones of a panel for wind across the ridge; plane: what it is part of; bay: the number of its roof in the wind; first:
    whether it is the windward slope of its roof."""
    if panel.pitch < 5:
        return _flat(b, direction, eaves, panel)
    e, wide = b.e(direction), b.across(direction)
    corner = min(e / 4, wide / 2)
    factor = BAYS[min(bay, 2)]
    if duopitch and not first:
        table, source = tables.DUOPITCH_ACROSS, f"table 7.4a, α = {panel.pitch:.1f}°"
        x0, x1 = _extent(panel) if plane is None or panel.place else (plane.x0, plane.x1)
        ridge = x0 - b.roof_x0 if direction == "left" else b.roof_x1 - x1
        near = ridge + (e / 10 if bay == 0 else 0.0)
        rows = [("J", (ridge, near), (-FAR, FAR)), ("I", (near, FAR), (-FAR, FAR))]
        if panel.place == "overhang":
            rows = [("I", (ridge, FAR), (-FAR, FAR))]
        return _strips(b, direction, panel, rows, table, panel.pitch, source, "back", factor)
    if duopitch:
        table, source = tables.DUOPITCH_ACROSS, f"table 7.4a, α = {panel.pitch:.1f}°"
    elif _rises(panel, direction):
        table, source = tables.SINGLE_LOW, f"table 7.3a θ = 0°, α = {panel.pitch:.1f}°"
    else:
        table, source = tables.SINGLE_HIGH, f"table 7.3a θ = 180°, α = {panel.pitch:.1f}°"
    edge = e / 10 if bay == 0 else 0.0
    rows = [
        ("F", (0.0, edge), (-FAR, corner)),
        ("G", (0.0, edge), (corner, wide - corner)),
        ("F", (0.0, edge), (wide - corner, FAR)),
        ("H", (edge, FAR), (-FAR, FAR)),
    ]
    return _strips(b, direction, panel, rows, table, panel.pitch, source, "front", factor)


def _lengthwise(
    b: Box, direction: Direction, eaves: Eaves, panel: Panel, edges: tuple[float, float], duopitch: bool
) -> list[Zone]:
    """Zones of a panel for wind along the ridge; edges: x from where to where its slope runs."""
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
        at_low = (low, low + corner) if low_first else (high - corner, high)
        others = (low + corner, high) if low_first else (low, high - corner)
        rows = [("F", edge, at_low), ("G", edge, others), rest, behind]
        source = f"table 7.4b, α = {panel.pitch:.1f}°"
        return _strips(b, direction, panel, rows, tables.DUOPITCH_ALONG, panel.pitch, source, "front")
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
        return _across(b, direction, eaves, panel, None, 0, duopitch=False, first=True)
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
