"""Panels of a hall, with the members that carry them."""

from __future__ import annotations

from math import cos, radians, tan

import numpy as np

from engine.jigs.hall_frames import fall_sense
from engine.jigs.hall_parts import Hall
from engine.jigs.profile import ColumnLine, Slope, purlin_positions
from engine.structure.model import Carrier, Floats, Panel


def panels(hall: Hall) -> None:
    jig, widths = hall.jig, hall.widths()
    total = float(hall.y[-1])

    def rectangle(x0: float, z0: float, x1: float, z1: float) -> Floats:
        return np.array([(x0, 0.0, z0), (x0, total, z0), (x1, total, z1), (x1, 0.0, z1)])

    def add(
        name: str,
        kind: str,
        side: str,
        ends: tuple[float, float, float, float],
        out: tuple[float, float],
        pitch: float,
        carriers: list[Carrier],
    ) -> None:
        corners = rectangle(*ends)
        length = float(np.hypot(ends[2] - ends[0], ends[3] - ends[1]))
        hall.parts.panels.append(
            Panel(name, kind, corners, np.array([out[0], 0.0, out[1]]), length, total, tuple(carriers), side, pitch)
        )

    def frames_carry(name: str, start: float, end: float, offset: float = 0.0) -> list[Carrier]:
        return [Carrier(f"frame-{f}/{name}", start, end, float(widths[f - 1]), offset) for f in hall.frames()]

    for slope in hall.profile.slopes:
        side = slope.side or ("left" if slope.z1 > slope.z0 else "right" if slope.z1 < slope.z0 else "")
        add(
            f"roof-{slope.name}",
            "roof",
            side,
            (slope.x0, slope.z0, slope.x1, slope.z1),
            slope.outside,
            slope.pitch,
            _roof_carriers(hall, slope),
        )
    for side, column, out in (("left", hall.profile.columns[0], -1.0), ("right", hall.profile.columns[-1], 1.0)):
        lean = getattr(jig, f"lean_to_{side}")
        foot = lean.height if lean else column.base
        height = column.top - foot
        carriers = (
            _wall_carriers(hall, column, foot)
            if jig.rails and jig.rails.modelled and not lean
            else frames_carry(f"column-{column.name}", 0.0, height, foot - column.base)
        )
        add(f"wall-{column.name}", "wall", side, (column.x, foot, column.x, column.top), (out, 0.0), 90.0, carriers)
        if lean:
            x = column.x + out * lean.span
            low = lean.height - lean.span * tan(radians(lean.pitch))
            length = lean.span / cos(radians(lean.pitch))
            tilt = radians(lean.pitch)
            add(
                f"lean-roof-{side}",
                "roof",
                side,
                (x, low, column.x, lean.height),
                (out * np.sin(tilt), np.cos(tilt)),
                lean.pitch,
                frames_carry(f"lean-rafter-{side}", 0.0, length),
            )
            add(
                f"lean-wall-{side}",
                "wall",
                side,
                (x, column.base, x, low),
                (out, 0.0),
                90.0,
                frames_carry(f"lean-column-{side}", 0.0, low - column.base),
            )
        reach = getattr(jig.overhangs, side)
        if reach:
            slope = hall.profile.slopes[0 if side == "left" else -1]
            fall = reach * tan(radians(slope.pitch)) * fall_sense(slope, side)
            length = float(np.hypot(reach, fall))
            add(
                f"overhang-{side}",
                "roof",
                side,
                (column.x, column.top, column.x + out * reach, column.top - fall),
                slope.outside,
                slope.pitch,
                frames_carry(f"overhang-{side}", 0.0, length),
            )


def _roof_carriers(hall: Hall, slope: Slope) -> list[Carrier]:
    """Purlins and the beams at both ends of the slope when they are members; else rafters or top chords by width."""
    if hall.jig.purlins.modelled:
        places = purlin_positions(slope.length, hall.jig.purlins)
        ends = (
            f"eaves-beam-{slope.column_start}",
            (f"eaves-beam-{slope.column_end}" if slope.column_end else f"ridge-beam-{slope.name[:2]}"),
        )
        marks = [ends[0], *(f"purlin-{slope.name}-{i}" for i in range(1, len(places) - 1)), ends[1]]
        return _strips(hall, marks, places)
    widths = hall.widths()
    carriers = []
    for frame in hall.frames():
        width = float(widths[frame - 1])
        if not hall.trussed(frame):
            carriers.append(Carrier(f"frame-{frame}/rafter-{slope.name}", 0.0, slope.length, width))
            continue
        # the top chord runs from left to right: on a right slope, against the panel
        number = 2 if slope.side == "right" else 1
        carriers.append(
            Carrier(
                f"frame-{frame}/truss-{slope.name[:2]}/top-{number}",
                0.0,
                slope.length,
                width,
                slope.length if slope.side == "right" else 0.0,
                slope.side == "right",
            )
        )
    return carriers


def _wall_carriers(hall: Hall, column: ColumnLine, foot: float) -> list[Carrier]:
    assert hall.jig.rails
    places = purlin_positions(column.top - foot, hall.jig.rails)
    marks = ["", *(f"rail-{column.name}-{i}" for i in range(1, len(places) - 1)), f"eaves-beam-{column.name}"]
    if len(places) == 2:
        return _strips(hall, [marks[-1]], places[-1:], 0.0)
    # what lies below the middle of the lowest field goes to the lowest rail: the sheeting's foot is not held apart
    return _strips(hall, marks[1:], places[1:], 0.0)


def _strips(hall: Hall, marks: list[str], places: tuple[float, ...], first: float | None = None) -> list[Carrier]:
    """Carriers across a panel, each with the strip to the middles of its neighbours."""
    middles = [(a + b) / 2 for a, b in zip(places[:-1], places[1:], strict=True)]
    starts = [places[0] if first is None else first, *middles]
    ends = [*middles, places[-1]]
    return [
        Carrier(f"bay-{bay}/{mark}", start, end, across=True)
        for mark, start, end in zip(marks, starts, ends, strict=True)
        for bay in range(1, hall.jig.frames)
    ]
