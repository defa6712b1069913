"""Panels of a hall, with the members that carry them."""

from __future__ import annotations

from math import cos, radians, tan

import numpy as np

from engine.jigs.hall_frames import fall_sense
from engine.jigs.hall_parts import Hall
from engine.jigs.profile import ColumnLine, Profile, Slope, purlin_positions
from engine.structure.model import Floats, Panel

ALONG = np.array([0.0, 1.0, 0.0])
ACROSS = np.array([1.0, 0.0, 0.0])
UP = np.array([0.0, 0.0, 1.0])


def panels(hall: Hall) -> None:
    """Roof slopes, long walls, lean-tos with their ends, overhangs, and gables."""
    jig = hall.jig
    for slope in hall.profile.slopes:
        side = slope.side or ("left" if slope.z1 > slope.z0 else "right" if slope.z1 < slope.z0 else "")
        ends = (slope.x0, slope.z0, slope.x1, slope.z1)
        carriers = _purlins(hall, slope) if jig.purlins.modelled else _rafters(hall, slope)
        span = _up(ends) if jig.purlins.modelled else ALONG
        # the cladding ends outside the outer columns
        outer = {hall.profile.columns[0].name, hall.profile.columns[-1].name} & {slope.column_start, slope.column_end}
        aside = hall.profile.outside[0]
        cover = 1 + len(outer) * aside / abs(slope.x1 - slope.x0)
        beyond = (aside, hall.profile.above(slope))
        name = f"roof-{slope.name}"
        _add(hall, name, "roof", ends, slope.outside, carriers, span, side, slope.pitch, cover=cover, beyond=beyond)
    for side, column, out in (("left", hall.profile.columns[0], -1.0), ("right", hall.profile.columns[-1], 1.0)):
        if not jig.open_sides:
            _wall(hall, side, column, out)
        if getattr(jig, f"lean_to_{side}"):
            _lean_to(hall, side, column, out)
        reach = getattr(jig.overhangs, side)
        if reach:
            slope = hall.profile.slopes[0 if side == "left" else -1]
            fall = reach * tan(radians(slope.pitch)) * fall_sense(slope, side)
            ends = (column.x, column.top, column.x + out * reach, column.top - fall)
            carriers = _each_frame(hall, f"overhang-{side}")
            name = f"overhang-{side}"
            _add(hall, name, "roof", ends, slope.outside, carriers, ALONG, side, slope.pitch, "overhang")
    for number, name, out in ((1, "front", -1.0), (jig.frames, "back", 1.0)):
        if not jig.open_sides:
            _gable(hall, number, name, out)


def _add(
    hall: Hall,
    name: str,
    kind: str,
    ends: tuple[float, float, float, float],
    out: tuple[float, float],
    carriers: list[str],
    span: Floats,
    side: str,
    pitch: float,
    place: str = "",
    cover: float = 1.0,
    beyond: tuple[float, float] = (0.0, 0.0),
) -> None:
    """A rectangle over the whole length of the hall, between two points (x, z) of its cross-section."""
    x0, z0, x1, z1 = ends
    far = float(hall.y[-1])
    corners = np.array([(x0, 0.0, z0), (x0, far, z0), (x1, far, z1), (x1, 0.0, z1)])
    outside = np.array([out[0], 0.0, out[1]])
    panel = Panel(
        name,
        kind,
        corners,
        outside,
        span,
        tuple(carriers),
        side,
        pitch,
        place=place,
        cover=cover,
        beyond=beyond,
        jig="hall",
    )
    hall.parts.panels.append(panel)


def _up(ends: tuple[float, float, float, float]) -> Floats:
    x0, z0, x1, z1 = ends
    d = np.array([x1 - x0, 0.0, z1 - z0])
    return np.asarray(d / np.linalg.norm(d))


def _each_frame(hall: Hall, name: str) -> list[str]:
    return [f"frame-{number}/{name}" for number in hall.frames()]


def _rafters(hall: Hall, slope: Slope) -> list[str]:
    # the top chords of a truss are numbered from left to right
    number = 2 if slope.side == "right" else 1
    return [
        f"frame-{f}/truss-{slope.name[:2]}/top-{number}" if hall.trussed(f) else f"frame-{f}/rafter-{slope.name}"
        for f in hall.frames()
    ]


def _each_bay(hall: Hall, marks: list[str]) -> list[str]:
    return [f"bay-{bay}/{mark}" for mark in marks for bay in range(1, hall.jig.frames)]


def _purlins(hall: Hall, slope: Slope) -> list[str]:
    """The purlins, with the beams at both ends of the slope."""
    count = len(purlin_positions(slope.length, hall.jig.purlins)) - 2
    end = f"eaves-beam-{slope.column_end}" if slope.column_end else f"ridge-beam-{slope.bay}"
    marks = [f"eaves-beam-{slope.column_start}", *(f"purlin-{slope.name}-{i + 1}" for i in range(count)), end]
    return _each_bay(hall, marks)


def _wall(hall: Hall, side: str, column: ColumnLine, out: float) -> None:
    lean, rails = getattr(hall.jig, f"lean_to_{side}"), hall.jig.rails
    foot = lean.height if lean else column.base
    if rails and rails.modelled and not lean:
        # the sheeting's foot is not held apart: what lies below the lowest rail goes to it
        count = len(purlin_positions(column.top - foot, rails)) - 2
        marks = [*(f"rail-{column.name}-{i + 1}" for i in range(count)), f"eaves-beam-{column.name}"]
        carriers, span = _each_bay(hall, marks), UP
    else:
        carriers, span = _each_frame(hall, f"column-{column.name}"), ALONG
    ends = (column.x, foot, column.x, column.top)
    cover = 1 + hall.profile.above(hall.profile.slopes[0 if side == "left" else -1]) / (column.top - foot)
    _add(hall, f"wall-{column.name}", "wall", ends, (out, 0.0), carriers, span, side, 90.0, cover=cover)


def _lean_to(hall: Hall, side: str, column: ColumnLine, out: float) -> None:
    lean = getattr(hall.jig, f"lean_to_{side}")
    x, tilt = column.x + out * lean.span, radians(lean.pitch)
    low = lean.height - lean.span * tan(tilt)
    rafters, columns = _each_frame(hall, f"lean-rafter-{side}"), _each_frame(hall, f"lean-column-{side}")
    normal = (out * float(np.sin(tilt)), cos(tilt))
    roof, wall = (x, low, column.x, lean.height), (x, column.base, x, low)
    _add(hall, f"lean-roof-{side}", "roof", roof, normal, rafters, ALONG, side, lean.pitch, "lean-to")
    _add(hall, f"lean-wall-{side}", "wall", wall, (out, 0.0), columns, ALONG, side, 90.0, "lean-to")
    for number, end, ahead in ((1, "front", -1.0), (hall.jig.frames, "back", 1.0)):
        # the end of the lean-to spans upright, from the ground to its rafter
        y = float(hall.y[number - 1])
        base = column.base
        corners = np.array([(x, y, base), (column.x, y, base), (column.x, y, lean.height), (x, y, low)])
        outside = np.array([0.0, ahead, 0.0])
        hall.parts.panels.append(
            Panel(
                f"gable-{end}-lean-{side}",
                "wall",
                corners,
                outside,
                UP,
                (f"frame-{number}/lean-rafter-{side}",),
                end,
                90.0,
                place="lean-to",
                jig="hall",
                grounded=(corners[0], corners[1]),
            )
        )


def _gable(hall: Hall, number: int, name: str, out: float) -> None:
    """The end wall: sheeting rails span between columns, posts and, at the slope of the roof, the rafters.

    Where no posts are modelled it spans upright, from the ground to the rafters.
    """
    shape, y = hall.profile, float(hall.y[number - 1])
    top = [(slope.x0, slope.z0) for slope in shape.slopes] + [(slope.x1, slope.z1) for slope in shape.slopes]
    first, last = shape.columns[0], shape.columns[-1]
    line = [(last.x, last.base), (first.x, first.base), *sorted(set(top))]
    corners = np.array([(x, y, z) for x, z in line])
    posts = [m.name for m in hall.parts.members.values() if m.role == "gable post" and m.place == name]
    columns = [f"frame-{number}/column-{c.name}" for c in shape.columns]
    rafters = [f"frame-{number}/rafter-{slope.name}" for slope in shape.slopes]
    outside = np.array([0.0, out, 0.0])
    cover = _gable_cover(shape)
    if hall.posted(number):
        carriers = (*columns, *posts, *rafters)
        panel = Panel(f"gable-{name}", "wall", corners, outside, ACROSS, carriers, name, 90.0, cover=cover, jig="hall")
        hall.parts.panels.append(panel)
        return
    tops = tuple(_rafters(hall, slope)[number - 1] for slope in shape.slopes)
    edge = (corners[0], corners[1])
    panel = Panel(
        f"gable-{name}", "wall", corners, outside, UP, tops, name, 90.0, grounded=edge, cover=cover, jig="hall"
    )
    hall.parts.panels.append(panel)


def _gable_cover(shape: Profile) -> float:
    """Area of a gable's cladding over that between the lines of the steel."""
    first, last = shape.columns[0], shape.columns[-1]
    foot = (first.base + last.base) / 2
    inner = outer = 0.0
    for slope in shape.slopes:
        width, height = abs(slope.x1 - slope.x0), (slope.z0 + slope.z1) / 2 - foot
        inner += width * height
        outer += width * (height + shape.above(slope))
    for column, slope in ((first, shape.slopes[0]), (last, shape.slopes[-1])):
        outer += shape.outside[0] * (column.top + shape.above(slope) - column.base)
    return outer / inner
