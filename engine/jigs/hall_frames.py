"""Frames of a hall: columns, rafters or trusses, haunches, braces, end frames on posts, lean-tos."""

from __future__ import annotations

from dataclasses import replace
from math import cos, pi, radians, tan

import numpy as np

from engine.document.base import Haunch
from engine.document.jigs import Gable
from engine.errors import ModelError
from engine.jigs.hall_parts import Hall, between_frames
from engine.jigs.haunches import haunched_pieces
from engine.jigs.profile import Slope, purlin_positions, stay_positions
from engine.jigs.trusses import add_truss, stay_bottom
from engine.structure.model import HINGE


def frame(hall: Hall, frame: int) -> None:
    jig, parts, y = hall.jig, hall.parts, float(hall.y[frame - 1])
    shape = hall.profile
    posted = hall.posted(frame) is not None
    for i, column in enumerate(shape.columns):
        base = parts.node(f"frame-{frame}/base-{column.name}", (column.x, y, column.base))
        parts.node(hall.eaves(frame, column.name), (column.x, y, column.top))
        hold_foot(hall, base)
        outer: tuple[float, ...] = (0.0, column.top - column.base)
        inner = outer
        last = i == len(shape.columns) - 1
        if jig.rails and i in (0, len(shape.columns) - 1):
            outer = purlin_positions(column.top - column.base, jig.rails)
            inner = stay_positions(outer, jig.rails.stay_every)
        hall.member(
            f"frame-{frame}/column-{column.name}",
            "column",
            base,
            hall.eaves(frame, column.name),
            "columns" if i in (0, len(shape.columns) - 1) else "inner_columns",
            roll=pi if last else 0.0,  # local z outwards on both sides
            frame=frame,
            line=column.name,
            outer=outer,
            inner=inner,
        )
    for letters, x, z in shape.ridges:
        parts.node(f"frame-{frame}/ridge-{letters}", (x, y, z))
    if hall.trussed(frame):
        _roof_trusses(hall, frame)
    else:
        for slope in shape.slopes:
            _rafter(hall, frame, slope, posted)
    for side, column, out in (("left", shape.columns[0], -1), ("right", shape.columns[-1], 1)):
        reach = getattr(jig.overhangs, side)
        if reach:
            slope = shape.slopes[0 if side == "left" else -1]
            fall = reach * tan(radians(slope.pitch)) * fall_sense(slope, side)
            tip = parts.node(f"frame-{frame}/overhang-{side}", (column.x + out * reach, y, column.top - fall))
            root = hall.eaves(frame, column.name)
            hall.member(f"frame-{frame}/overhang-{side}", "rafter", root, tip, "rafters", frame=frame, place="overhang")


def fall_sense(slope: Slope, side: str) -> float:
    """+1 when the roof falls outwards at that side, −1 when it rises."""
    low_first = slope.z0 < slope.z1
    return 1.0 if slope.side or (low_first == (side == "left")) else -1.0


def hold_foot(hall: Hall, base: str, bases: str | None = None) -> None:
    kind = bases or hall.jig.bases
    hall.parts.hold(base, "x y z rx ry rz" if kind == "fixed" else "x y z rz")
    if kind == "spring":
        hall.parts.springs[base] = (("ry", hall.jig.base_stiffness * 1000),)


def _rafter(hall: Hall, frame: int, slope: Slope, posted: bool) -> None:
    jig = hall.jig
    name = f"frame-{frame}/rafter-{slope.name}"
    start = hall.on_slope(frame, slope, 0.0, "")
    end = hall.on_slope(frame, slope, slope.length, "")
    purlins = purlin_positions(slope.length, jig.purlins)
    key = "gable_rafters" if posted else "rafters"
    haunches: tuple[Haunch | None, Haunch | None] = (None, None)
    places = ("hall.eaves_haunch", "hall.apex_haunch" if slope.side else "hall.eaves_haunch")
    if not posted:
        haunches = (jig.eaves_haunch, jig.apex_haunch if slope.side else jig.eaves_haunch)
    hall.member(
        name,
        "rafter",
        start,
        end,
        key,
        frame=frame,
        bay=slope.bay,
        outer=purlins,
        inner=stay_positions(purlins, jig.purlins.stay_every),
        pieces=haunched_pieces(haunches, hall.section(key), slope.length, hall.materials, places),
        haunches=haunches,
        release_start=HINGE if posted else frozenset(),
        release_end=HINGE if posted and slope.column_end else frozenset(),
    )
    if jig.knee_braces and not posted:
        for mark, column, distance in (
            ("", slope.column_start, jig.knee_braces.along),
            ("-far", slope.column_end, slope.length - jig.knee_braces.along),
        ):
            if column:
                _knee_brace(hall, frame, slope, column, distance, mark)
    if jig.tie and slope.side == "left" and not posted:
        _tie(hall, frame, slope)


def _knee_brace(hall: Hall, frame: int, slope: Slope, letter: str, distance: float, mark: str) -> None:
    jig = hall.jig
    assert jig.knee_braces
    column = next(c for c in hall.profile.columns if c.name == letter)
    if jig.knee_braces.down >= column.top - column.base:
        raise ModelError(
            f"The knee braces reach {jig.knee_braces.down:g} m down columns of {column.top - column.base:.2f} m.",
            "hall.knee_braces.down",
        )
    if jig.knee_braces.along >= slope.length:
        raise ModelError(
            f"The knee braces reach {jig.knee_braces.along:g} m along rafters of {slope.length:.2f} m.",
            "hall.knee_braces.along",
        )
    name = f"frame-{frame}/knee-brace-{slope.name}{mark}"
    low = hall.parts.node(f"{name}-foot", (column.x, float(hall.y[frame - 1]), column.top - jig.knee_braces.down))
    high = hall.on_slope(frame, slope, distance, f"knee-brace-{slope.name}{mark}-head")
    hall.member(name, "knee brace", low, high, "knee_braces", behaviour="bar", frame=frame)


def _tie(hall: Hall, frame: int, left: Slope) -> None:
    assert hall.jig.tie
    right = next(s for s in hall.profile.slopes if s.bay == left.bay and s.side == "right")
    high = max(left.z0, right.z0)
    z = high + hall.jig.tie.at * (left.z1 - high)
    ends: list[str] = []
    for slope in (left, right):
        distance = slope.length * (z - slope.z0) / (slope.z1 - slope.z0)
        ends.append(hall.on_slope(frame, slope, distance, f"tie-{slope.name}"))
    hall.member(f"frame-{frame}/tie-{left.bay}", "tie", ends[0], ends[1], "ties", behaviour="bar", frame=frame)


def _roof_trusses(hall: Hall, frame: int) -> None:
    truss = hall.jig.truss
    assert truss
    y = float(hall.y[frame - 1])
    sections = {"top": "top_chords", "bottom": "bottom_chords", "posts": "webs", "diagonals": "webs"}
    names = {key: getattr(hall.jig.sections, own) for key, own in sections.items()}
    for a, b in zip(hall.profile.columns[:-1], hall.profile.columns[1:], strict=True):
        letters = a.name + b.name
        slopes = [s for s in hall.profile.slopes if s.bay == letters]
        left, n = slopes[0], truss.panels
        if len(slopes) == 2:
            top = [left.at(left.length * k / n) for k in range(n)] + [
                slopes[1].at(slopes[1].length * (n - k) / n) for k in range(n + 1)
            ]
        else:
            top = [left.at(left.length * k / (2 * n)) for k in range(2 * n + 1)]
        low = min(a.top, b.top) - truss.depth
        if low - max(a.base, b.base) < 0.5:
            raise ModelError(f"A truss {truss.depth:g} m deep leaves no column below it.", "hall.truss.depth")
        bottom = [(x, z - truss.depth if truss.bottom == "parallel" else low) for x, z in top]
        _, _, chords = add_truss(
            hall.parts,
            hall.materials,
            f"frame-{frame}/truss-{letters}",
            [(x, y, z) for x, z in top],
            [(x, y, z) for x, z in bottom],
            n,
            truss.pattern,
            names,
            hall.jig.grade,
            "hall.truss",
            jig="hall",
            frame=frame,
            bay=letters,
            slots=sections,
            sections_at="hall.sections",
            pinned=truss.webs_pinned,
        )
        stay_bottom(hall.parts, f"frame-{frame}/truss-{letters}", [(x, y, z) for x, z in bottom], truss.stay_every)
        for chord, slope in zip(chords, slopes, strict=False):
            purlins = purlin_positions(slope.length, hall.jig.purlins)
            if slope.side == "right":
                purlins = tuple(slope.length - p for p in reversed(purlins))
            hall.parts.members[chord] = replace(hall.parts.members[chord], outer=purlins)


def posts(hall: Hall, frame: int, gable: Gable) -> None:
    """Posts of an end frame: evenly between the outer columns, number given or by largest spacing; none where a column stands."""
    x0, x1 = hall.profile.columns[0].x, hall.profile.columns[-1].x
    count = gable.posts if gable.spacing is None else max(0, int(np.ceil((x1 - x0) / gable.spacing - 1e-9)) - 1)
    y = float(hall.y[frame - 1])
    side = "front" if frame == 1 else "back"
    for i in range(1, count + 1):
        x = x0 + (x1 - x0) * i / (count + 1)
        if min(abs(x - c.x) for c in hall.profile.columns) < 0.3:
            continue
        slope = next(s for s in hall.profile.slopes if min(s.x0, s.x1) - 1e-9 <= x <= max(s.x0, s.x1) + 1e-9)
        distance = slope.length * (x - slope.x0) / (slope.x1 - slope.x0)
        base_level = hall.profile.columns[0].base
        foot = hall.parts.node(f"{side}/base-{i}", (x, y, base_level))
        hall.parts.hold(foot, "x y z rz")
        head = hall.on_slope(frame, slope, distance, f"post-{i}")
        roll = pi / 2 if frame == 1 else -pi / 2  # local z outwards, along the hall
        hall.member(
            f"{side}/post-{i}", "gable post", foot, head, "gable_posts", roll=roll, release_end=HINGE, place=side
        )


def lean_tos(hall: Hall) -> None:
    for side, column, out in (("left", hall.profile.columns[0], -1), ("right", hall.profile.columns[-1], 1)):
        lean = getattr(hall.jig, f"lean_to_{side}")
        if lean is None:
            continue
        low = lean.height - lean.span * tan(radians(lean.pitch))
        if not column.base + 1 <= lean.height <= column.top - 0.3:
            raise ModelError(
                f"The lean-to meets the column at {lean.height:g} m; that must lie between {column.base + 1:g} m and {column.top - 0.3:g} m.",
                f"hall.lean_to_{side}.height",
            )
        if low - column.base < 1:
            raise ModelError(
                f"The lean-to's eaves would lie at {low:.2f} m, less than 1 m above its base.",
                f"hall.lean_to_{side}.pitch",
            )
        for frame in hall.frames():
            y = float(hall.y[frame - 1])
            x = column.x + out * lean.span
            foot = hall.parts.node(f"frame-{frame}/lean-base-{side}", (x, y, column.base))
            eaves = hall.parts.node(f"frame-{frame}/lean-eaves-{side}", (x, y, low))
            head = hall.parts.node(f"frame-{frame}/lean-head-{side}", (column.x, y, lean.height))
            hold_foot(hall, foot)
            hall.member(
                f"frame-{frame}/lean-column-{side}",
                "column",
                foot,
                eaves,
                "lean_to_columns",
                roll=pi if out > 0 else 0.0,
                frame=frame,
                place="lean-to",
            )
            purlins = purlin_positions(lean.span / cos(radians(lean.pitch)), hall.jig.purlins)
            hall.member(
                f"frame-{frame}/lean-rafter-{side}",
                "rafter",
                eaves,
                head,
                "lean_to_rafters",
                frame=frame,
                place="lean-to",
                outer=purlins,
                inner=stay_positions(purlins, hall.jig.purlins.stay_every),
                release_start=HINGE,
                release_end=HINGE,
            )
            if frame > 1:
                before = f"frame-{frame - 1}/lean-eaves-{side}"
                between_frames(
                    hall,
                    frame - 1,
                    f"bay-{frame - 1}/lean-eaves-beam-{side}",
                    "eaves beam",
                    before,
                    eaves,
                    "eaves_beams",
                )
