"""The hall jig: portal frames or trusses in a row, with what stands between them.

Axes: X across the hall from grid A, Y along it from frame 1, Z up. Lasting names say role and place, and do not depend on
how many frames or bays there are: `frame-4/column-A`, `frame-4/rafter-AB-left`, `bay-2/eaves-beam-A`.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import cos, floor, pi, radians, tan
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.jigs import BracedBays, Gable, HallJig
from engine.errors import ModelError
from engine.jigs.bracing import diagonals, resolve
from engine.jigs.haunches import haunch_pieces
from engine.jigs.parts import Materials, Parts
from engine.jigs.profile import ColumnLine, Profile, Slope, profile, purlin_positions, stay_positions
from engine.jigs.trusses import add_truss
from engine.structure.model import HINGE, Carrier, Floats, GridLine, Level, Panel, Piece


@dataclass
class Hall:
    """The hall being set out: its parameters, its cross-section, and the nodes found so far."""

    jig: HallJig
    parts: Parts
    materials: Materials
    profile: Profile
    y: Floats
    grade: Material
    sections: dict[str, Section] = field(default_factory=dict)

    def section(self, key: str) -> Section:
        """The section of a role."""
        if key not in self.sections:
            self.sections[key] = self.materials.section(getattr(self.jig.sections, key), f"hall.sections.{key}")
        return self.sections[key]

    def member(self, name: str, role: str, start: str, end: str, key: str, **more: Any) -> None:
        """Set a member of the hall with the section of a role."""
        self.parts.member(name, role, start, end, self.section(key), self.grade, jig="hall", slot=key, **more)

    def posted(self, frame: int) -> Gable | None:
        """The gable at a frame when it stands on posts."""
        gable = self.jig.front if frame == 1 else self.jig.back if frame == self.jig.frames else None
        return gable if gable and gable.kind == "posts" else None

    def trussed(self, frame: int) -> bool:
        """Whether a frame has trusses in place of rafters."""
        return self.jig.truss is not None and not self.posted(frame)

    def frames(self) -> range:
        """Numbers of the frames."""
        return range(1, self.jig.frames + 1)

    def widths(self) -> Floats:
        """Width of cladding that each frame carries: half a bay on each side."""
        half = np.array(self.jig.spacings) / 2
        return np.concatenate([half, [0.0]]) + np.concatenate([[0.0], half])

    def eaves(self, frame: int, column: str) -> str:
        """Node at the top of a column."""
        return f"frame-{frame}/eaves-{column}"

    def on_slope(self, frame: int, slope: Slope, distance: float, mark: str) -> str:
        """A node on a slope; its ends are the nodes that stand there already."""
        if distance < 1e-6:
            return self.eaves(frame, slope.column_start)
        if distance > slope.length - 1e-6:
            return self.eaves(frame, slope.column_end) if slope.column_end else f"frame-{frame}/ridge-{slope.name[:2]}"
        x, z = slope.at(distance)
        return self.parts.node(f"frame-{frame}/{mark}", (x, float(self.y[frame - 1]), z))


def set_out_hall(jig: HallJig, materials: Materials) -> Parts:
    """The parts of the hall. Raises ModelError naming the field that makes no hall."""
    shape = profile(jig, materials)
    y = np.concatenate([[0.0], np.cumsum(jig.spacings)])
    hall = Hall(jig, Parts(), materials, shape, y, materials.material(jig.grade, "hall.grade"))
    for frame in hall.frames():
        _frame(hall, frame)
    for frame in (1, jig.frames):
        if gable := hall.posted(frame):
            _posts(hall, frame, gable)
    _long_beams(hall)
    _lean_tos(hall)
    _purlins_and_rails(hall)
    _roof_bracing(hall)
    _wall_bracing(hall)
    _gable_bracing(hall)
    _panels(hall)
    hall.parts.grid += [GridLine(column.name, "X", column.x) for column in shape.columns]
    hall.parts.grid += [GridLine(str(i + 1), "Y", float(at)) for i, at in enumerate(y)]
    _levels(hall)
    return hall.parts


def _levels(hall: Hall) -> None:
    feet = sorted({column.base for column in hall.profile.columns})
    tops = sorted({column.top for column in hall.profile.columns})
    for words, heights in (("Base", feet), ("Eaves", tops)):
        for i, height in enumerate(heights):
            hall.parts.levels.append(
                Level(words if len(heights) == 1 else f"{words} {i + 1}", height, floor=words == "Base")
            )
    hall.parts.levels.append(Level("Top", hall.profile.height))


def _frame(hall: Hall, frame: int) -> None:
    jig, parts, y = hall.jig, hall.parts, float(hall.y[frame - 1])
    shape = hall.profile
    posted = hall.posted(frame) is not None
    for i, column in enumerate(shape.columns):
        base = parts.node(f"frame-{frame}/base-{column.name}", (column.x, y, column.base))
        parts.node(hall.eaves(frame, column.name), (column.x, y, column.top))
        _foot(hall, base)
        outer = inner = (0.0, column.top - column.base)
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
            fall = reach * tan(radians(slope.pitch)) * _fall_sense(slope, side)
            tip = parts.node(f"frame-{frame}/overhang-{side}", (column.x + out * reach, y, column.top - fall))
            hall.member(
                f"frame-{frame}/overhang-{side}", "rafter", hall.eaves(frame, column.name), tip, "rafters", frame=frame
            )


def _fall_sense(slope: Slope, side: str) -> float:
    """+1 when the roof falls outwards at that side, −1 when it rises."""
    low_first = slope.z0 < slope.z1
    return 1.0 if slope.side or (low_first == (side == "left")) else -1.0


def _foot(hall: Hall, base: str, bases: str | None = None) -> None:
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
    pieces: tuple[Piece, ...] = ()
    if not posted:
        section = hall.section("rafters")
        for haunch, at_start, place in (
            (jig.eaves_haunch, True, "hall.eaves_haunch"),
            (
                jig.apex_haunch if slope.side else jig.eaves_haunch,
                False,
                "hall.apex_haunch" if slope.side else "hall.eaves_haunch",
            ),
        ):
            if haunch:
                pieces += haunch_pieces(haunch, section, slope.length, at_start, hall.materials, place)
        covered = sum(piece.end - piece.start for piece in pieces)
        if covered > slope.length + 1e-9:
            raise ModelError(
                f"The haunches take {covered:.2f} m of a rafter that is {slope.length:.2f} m long.",
                "hall.eaves_haunch.length",
            )
    hall.member(
        name,
        "rafter",
        start,
        end,
        key,
        frame=frame,
        outer=purlins,
        inner=stay_positions(purlins, jig.purlins.stay_every),
        pieces=pieces,
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
    right = next(s for s in hall.profile.slopes if s.name == f"{left.name[:2]}-right")
    high = max(left.z0, right.z0)
    z = high + hall.jig.tie.at * (left.z1 - high)
    ends = []
    for slope in (left, right):
        distance = slope.length * (z - slope.z0) / (slope.z1 - slope.z0)
        ends.append(hall.on_slope(frame, slope, distance, f"tie-{slope.name}"))
    hall.member(f"frame-{frame}/tie-{left.name[:2]}", "tie", *ends, "ties", behaviour="bar", frame=frame)


def _roof_trusses(hall: Hall, frame: int) -> None:
    truss = hall.jig.truss
    assert truss
    y = float(hall.y[frame - 1])
    sections = {"top": "top_chords", "bottom": "bottom_chords", "posts": "webs", "diagonals": "webs"}
    names = {key: getattr(hall.jig.sections, own) for key, own in sections.items()}
    for a, b in zip(hall.profile.columns[:-1], hall.profile.columns[1:], strict=True):
        letters = a.name + b.name
        slopes = [s for s in hall.profile.slopes if s.name.startswith(letters)]
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
            slots=sections,
            sections_at="hall.sections",
            pinned=truss.webs_pinned,
        )
        for chord, slope in zip(chords, slopes, strict=False):
            member = hall.parts.members[chord]
            purlins = purlin_positions(slope.length, hall.jig.purlins)
            if slope.side == "right":
                purlins = tuple(slope.length - p for p in reversed(purlins))
            object.__setattr__(member, "outer", purlins)


def _posts(hall: Hall, frame: int, gable: Gable) -> None:
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
        roll = -pi / 2 if frame == 1 else pi / 2  # local z outwards, along the hall
        hall.member(f"{side}/post-{i}", "gable post", foot, head, "gable_posts", roll=roll, release_end=HINGE)


def _long_beams(hall: Hall) -> None:
    for bay in range(1, hall.jig.frames):
        rows = [(f"eaves-beam-{c.name}", "eaves beam", "eaves_beams", f"eaves-{c.name}") for c in hall.profile.columns]
        rows += [
            (f"ridge-beam-{letters}", "ridge beam", "ridge_beam", f"ridge-{letters}")
            for letters, _, _ in hall.profile.ridges
        ]
        for name, role, key, node in rows:
            _between_frames(hall, bay, f"bay-{bay}/{name}", role, f"frame-{bay}/{node}", f"frame-{bay + 1}/{node}", key)


def _between_frames(hall: Hall, bay: int, name: str, role: str, start: str, end: str, key: str) -> None:
    along = (0.0, hall.jig.spacings[bay - 1])
    hall.member(name, role, start, end, key, release_start=HINGE, release_end=HINGE, outer=along, inner=along)


def _lean_tos(hall: Hall) -> None:
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
            _foot(hall, foot)
            hall.member(
                f"frame-{frame}/lean-column-{side}",
                "column",
                foot,
                eaves,
                "lean_to_columns",
                roll=pi if out > 0 else 0.0,
                frame=frame,
            )
            purlins = purlin_positions(lean.span / cos(radians(lean.pitch)), hall.jig.purlins)
            hall.member(
                f"frame-{frame}/lean-rafter-{side}",
                "rafter",
                eaves,
                head,
                "lean_to_rafters",
                frame=frame,
                outer=purlins,
                inner=stay_positions(purlins, hall.jig.purlins.stay_every),
                release_start=HINGE,
                release_end=HINGE,
            )
            if frame > 1:
                before = f"frame-{frame - 1}/lean-eaves-{side}"
                _between_frames(
                    hall,
                    frame - 1,
                    f"bay-{frame - 1}/lean-eaves-beam-{side}",
                    "eaves beam",
                    before,
                    eaves,
                    "eaves_beams",
                )


def _purlins_and_rails(hall: Hall) -> None:
    """Purlins and rails as members, where they are asked for; at eaves and ridge the long beams stand already."""
    if hall.jig.purlins.modelled:
        for slope in hall.profile.slopes:
            places = purlin_positions(slope.length, hall.jig.purlins)
            for i, distance in enumerate(places):
                if 0 < i < len(places) - 1:
                    _run(
                        hall,
                        f"purlin-{slope.name}-{i}",
                        "purlin",
                        "purlins",
                        hall.jig.purlins.continuous,
                        lambda f, d=distance, s=slope, i=i: hall.on_slope(f, s, d, f"purlin-{s.name}-{i}"),
                    )
    rails = hall.jig.rails
    if rails and rails.modelled:
        for column in (hall.profile.columns[0], hall.profile.columns[-1]):
            places = purlin_positions(column.top - column.base, rails)
            for i, height in enumerate(places):
                if 0 < i < len(places) - 1:
                    _run(
                        hall,
                        f"rail-{column.name}-{i}",
                        "side rail",
                        "rails",
                        rails.continuous,
                        lambda f, h=height, c=column, i=i: hall.parts.node(
                            f"frame-{f}/rail-{c.name}-{i}", (c.x, float(hall.y[f - 1]), c.base + h)
                        ),
                    )


def _run(hall: Hall, mark: str, role: str, key: str, continuous: bool, node: Any) -> None:
    """A line of members from frame to frame: hinged at each frame, or continuous and hinged at its two ends."""
    last = hall.jig.frames
    for bay in range(1, last):
        along = (0.0, hall.jig.spacings[bay - 1])
        hall.member(
            f"bay-{bay}/{mark}",
            role,
            node(bay),
            node(bay + 1),
            key,
            outer=along,
            inner=along,
            release_start=HINGE if not continuous or bay == 1 else frozenset(),
            release_end=HINGE if not continuous or bay == last - 1 else frozenset(),
        )


def braced_bays(bays: BracedBays | None, count: int, place: str) -> list[int]:
    """Numbers of the braced bays, from the front. Raises ModelError for a bay that is not there."""
    found = set()
    for i, bay in enumerate(bays.bays if bays else []):
        number = bay if bay > 0 else count + 1 + bay
        if bay == 0 or not 1 <= number <= count:
            raise ModelError(
                f"There is no bay {bay}; there are {count} (negative numbers count from the back).", f"{place}.bays.{i}"
            )
        found.add(number)
    return sorted(found)


def _panel_points(hall: Hall, slope: Slope) -> list[float]:
    """Distances of the panel points of the roof bracing: equal, or at the nearest purlins when those are members."""
    cuts = max(2, floor(slope.length / hall.jig.bracing.panel + 0.5))
    points = [slope.length * k / cuts for k in range(cuts + 1)]
    if not hall.jig.purlins.modelled:
        return points
    purlins = np.array(purlin_positions(slope.length, hall.jig.purlins))
    return sorted({float(purlins[np.argmin(np.abs(purlins - p))]) for p in points})


def _roof_bracing(hall: Hall) -> None:
    chosen = hall.jig.bracing.roof
    # where purlins are members, those at the panel points are the struts
    jig_has_purlins = hall.jig.purlins.modelled
    for bay in braced_bays(chosen, hall.jig.frames - 1, "hall.bracing.roof"):
        assert chosen
        for slope in hall.profile.slopes:
            points = _panel_points(hall, slope)
            for cut, (low, high) in enumerate(zip(points[:-1], points[1:], strict=True), 1):
                marks = [f"roof-{slope.name}-{cut - 1}", f"roof-{slope.name}-{cut}"]
                corners = (
                    hall.on_slope(bay, slope, low, marks[0]),
                    hall.on_slope(bay + 1, slope, low, marks[0]),
                    hall.on_slope(bay + 1, slope, high, marks[1]),
                    hall.on_slope(bay, slope, high, marks[1]),
                )
                upper_free = cut < len(points) - 1
                if upper_free and not jig_has_purlins and (hall.jig.bracing.struts or chosen.kind == "V"):
                    _between_frames(
                        hall, bay, f"bay-{bay}/strut-{slope.name}-{cut}", "strut", corners[3], corners[2], "struts"
                    )
                _field(hall, chosen, f"bay-{bay}/roof-brace-{slope.name}-{cut}", "roof bracing", corners, cut)


def _field(
    hall: Hall, chosen: BracedBays, name: str, role: str, corners: tuple[str, str, str, str], number: int
) -> None:
    behaviour = "tension-only" if chosen.tension_only and chosen.kind == "X" else "bar"
    for mark, a, b in diagonals(chosen.kind, odd=number % 2 == 0):
        ends = [resolve(hall.parts, name, corners, end) for end in (a, b)]
        hall.member(f"{name}-{mark}", role, *ends, "bracing", behaviour=behaviour)


def _wall_bracing(hall: Hall) -> None:
    chosen = hall.jig.bracing.walls
    lines = [(c.name, f"base-{c.name}", f"eaves-{c.name}") for c in hall.profile.columns]
    lines += [
        (f"lean-{side}", f"lean-base-{side}", f"lean-eaves-{side}")
        for side in ("left", "right")
        if getattr(hall.jig, f"lean_to_{side}")
    ]
    for bay in braced_bays(chosen, hall.jig.frames - 1, "hall.bracing.walls"):
        assert chosen
        for mark, base, eaves in lines:
            corners = (
                f"frame-{bay}/{base}",
                f"frame-{bay + 1}/{base}",
                f"frame-{bay + 1}/{eaves}",
                f"frame-{bay}/{eaves}",
            )
            _field(hall, chosen, f"bay-{bay}/wall-brace-{mark}", "wall bracing", corners, bay)


def _gable_bracing(hall: Hall) -> None:
    chosen = hall.jig.bracing.gables
    if chosen is None:
        return
    xyz = hall.parts.nodes
    names = list(xyz)
    for side, frame in (("front", 1), ("back", hall.jig.frames)):
        uprights = [(f"frame-{frame}/base-{c.name}", hall.eaves(frame, c.name)) for c in hall.profile.columns]
        posts = [m for name, m in hall.parts.members.items() if name.startswith(f"{side}/post-")]
        uprights += [(names[m.nodes[0]], names[m.nodes[1]]) for m in posts]
        uprights.sort(key=lambda pair: xyz[pair[0]][0])
        for bay in braced_bays(chosen, len(uprights) - 1, "hall.bracing.gables"):
            (a, c), (b, d) = uprights[bay - 1], uprights[bay]
            _field(hall, chosen, f"{side}/brace-{bay}", "wall bracing", (a, b, d, c), bay)


def _panels(hall: Hall) -> None:
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
            fall = reach * tan(radians(slope.pitch)) * _fall_sense(slope, side)
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
