"""The floor jig: a floor or mezzanine at a level between grid lines, or a building of storeys one above another."""

from __future__ import annotations

from typing import TypeVar

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.floors import FloorJig, Storey
from engine.errors import ModelError
from engine.jigs.bracing import diagonals, resolve
from engine.jigs.decks import deck, holes_of, roof, set_joists, spread
from engine.jigs.floor_parts import HINGED, Plan, Stage, corner
from engine.jigs.parts import Materials, Parts, Point
from engine.structure.model import HINGE, Floats, GridLine, Level, Panel

#: lines nearer than this stand in one place, in metres
SAME = 1e-6
T = TypeVar("T", float, str)
LETTERS = "ABCDEFGHIJKLMNOPQRSTUVWXYZ"


def set_out_floor(parts: Parts, materials: Materials, jig: FloorJig, place: str) -> None:
    """Add the storeys of a floor jig: columns, main beams, joists, decks, bracing, cladding, grid lines and levels. Raises
    ModelError naming the field."""
    plan = _plan(parts, jig, place)
    if jig.level - jig.base < 0.5 and jig.columns:
        raise ModelError(
            f"The floor at {jig.level:g} m has its feet at {jig.base:g} m; at least 0.5 m is needed.", f"{place}.level"
        )
    grade = materials.material(jig.grade, f"{place}.grade")
    stages = _stages(materials, jig, place)
    if jig.slab.held and jig.diaphragm == "slab":
        words = f"The slabs of “{jig.name}” lie on its beams: an edge is held only of a slab that is drawn."
        raise ModelError(words, f"{place}.slab.held")
    in_plane = materials.in_plane(jig, place)
    holes = holes_of(jig, plan, place)
    for stage in stages:
        _columns(parts, jig, plan, stage, grade, first=stage is stages[0])
        if stage.bare:
            continue
        _beams(parts, jig, plan, stage, grade)
        own = {} if stage.roof else holes
        lines = set_joists(parts, jig, plan, stage, grade, own)
        if stage.roof:
            roof(parts, jig, plan, stage, lines, in_plane)
        else:
            for field, found in lines.items():
                deck(parts, jig, plan, stage, field, found, own.get(field, []), in_plane)
        parts.levels.append(Level(stage.prefix, stage.level, floor=True))
    for n, braced in enumerate(jig.braced):
        _brace(parts, materials, jig, plan, stages, braced.line, braced.bay, f"{place}.braced.{n}", place)
    if jig.walls:
        _walls(parts, jig, plan, stages, place)


def _stages(materials: Materials, jig: FloorJig, place: str) -> list[Stage]:
    def section(storey: Storey | None, number: int, key: str) -> tuple[Section, str]:
        own = getattr(storey, key) if storey else None
        if own:
            return materials.section(own, f"{place}.storeys.{number - 1}.{key}"), ""
        return materials.section(getattr(jig.sections, key), f"{place}.sections.{key}"), key

    found: list[Stage] = []
    below = jig.base
    for number, level in enumerate(jig.levels):
        storey = jig.storeys[number - 1] if number else None
        found.append(
            Stage(
                prefix=f"{jig.name}/{number + 1}" if number else jig.name,
                on=found[-1].prefix if found else "",
                level=level,
                below=below,
                beams=section(storey, number, "main_beams"),
                joists=section(storey, number, "joists"),
                columns=section(storey, number, "columns"),
                permanent=_own(storey, "permanent", jig.permanent),
                imposed=_own(storey, "imposed", jig.imposed),
                category=_own(storey, "category", jig.category),
                roof=jig.top == "roof" and number == len(jig.storeys),
                bare=jig.top == "columns" and number == len(jig.storeys),
            )
        )
        below = level
    return found


def _own(storey: Storey | None, key: str, first: T) -> T:
    """What a storey says for itself, or what the first floor has."""
    own = getattr(storey, key) if storey else None
    return first if own is None or own == "" else type(first)(own)


def _plan(parts: Parts, jig: FloorJig, place: str) -> Plan:
    if jig.grid is not None:
        xs = jig.grid.x + np.concatenate([[0.0], np.cumsum(jig.grid.across)])
        ys = jig.grid.y + np.concatenate([[0.0], np.cumsum(jig.grid.along)])
        _lines(parts, "X", xs)
        _lines(parts, "Y", ys)
    else:
        across = _between(parts, "X", jig.across, f"{place}.across")
        first, last = across[0].at, across[-1].at
        xs = np.unique(np.round([first + (last - first) * i / jig.divide for i in range(jig.divide + 1)], 9))
        ys = np.array([line.at for line in _between(parts, "Y", jig.along, f"{place}.along")])
    over_x = jig.main == "across"
    return Plan(xs, ys, True) if over_x else Plan(ys, xs, False)


def _between(parts: Parts, axis: str, names: tuple[str, str], place: str) -> list[GridLine]:
    """The grid lines of an axis from the first named to the last, in order."""
    lines = sorted((line for line in parts.grid if line.axis == axis), key=lambda line: line.at)
    known = {line.name: i for i, line in enumerate(lines)}
    for i, name in enumerate(names):
        if name not in known:
            there = ", ".join(known) or "none"
            raise ModelError(f"There is no grid line “{name}” here; there are {there}.", f"{place}.{i}")
    a, b = sorted((known[names[0]], known[names[1]]))
    if a == b:
        raise ModelError(f"The floor would lie between grid line {names[0]} and itself.", f"{place}.1")
    return lines[a : b + 1]


def _lines(parts: Parts, axis: str, places: Floats) -> None:
    """Grid lines at places where none stands yet, by the next free letters or numbers."""
    taken = {line.name for line in parts.grid}
    there = [line.at for line in parts.grid if line.axis == axis]
    number = 0
    for at in places.tolist():
        if any(abs(at - other) < SAME for other in there):
            continue
        while True:
            name = (
                LETTERS[number % 26] + (str(number // 26) if number >= 26 else "") if axis == "X" else f"{number + 1}"
            )
            number += 1
            if name not in taken:
                break
        parts.grid.append(GridLine(name, axis, at))


def _foot(parts: Parts, jig: FloorJig, plan: Plan, stage: Stage, mark: str, at: Point) -> str:
    """Where a storey's column starts: on the ground, or on the deck below."""
    if not stage.on:
        return parts.node(f"{jig.name}/base-{mark}", at)
    return parts.node(f"{stage.on}/{mark}", at)


def _columns(
    parts: Parts,
    jig: FloorJig,
    plan: Plan,
    stage: Stage,
    grade: Material,
    first: bool,
) -> None:
    section, slot = stage.columns
    standing = parts.uprights()
    hinges = {} if first or jig.joints == "continuous" else {"release_start": HINGE}
    # webs in the frames' planes
    turned = np.pi / 2 if jig.frames != "none" and not plan.over_x else 0.0
    for i in range(len(plan.us)):
        for j in range(len(plan.vs)):
            outer = (i if plan.over_x else j) in (0, len(plan.axis("X")) - 1)
            if stage.bare and not outer:
                continue
            head = corner(parts, plan, stage, i, j)
            if not jig.columns or standing.bear(parts.nodes[head]):
                continue
            x, y, _ = parts.nodes[head]
            mark = f"{i + 1}-{j + 1}"
            foot = _foot(parts, jig, plan, stage, mark, (x, y, stage.below))
            if first:
                parts.hold(foot, "x y z rx ry rz" if jig.bases == "fixed" else "x y z rz")
            parts.member(
                f"{stage.prefix}/column-{mark}",
                "column",
                foot,
                head,
                section,
                grade,
                jig=jig.name,
                slot=slot,
                roll=turned,
                **hinges,
            )


def _beams(parts: Parts, jig: FloorJig, plan: Plan, stage: Stage, grade: Material) -> None:
    section, slot = stage.beams
    ends = {} if jig.frames != "none" else HINGED
    for j in range(len(plan.vs)):
        for i in range(len(plan.us) - 1):
            parts.member(
                f"{stage.prefix}/beam-{j + 1}-{i + 1}",
                "main beam",
                corner(parts, plan, stage, i, j),
                corner(parts, plan, stage, i + 1, j),
                section,
                grade,
                jig=jig.name,
                slot=slot,
                # the joists hold the beam's top flange
                outer=tuple(place - float(plan.us[i]) for place in spread(jig, plan, i)),
                **ends,
            )


def _brace(
    parts: Parts,
    materials: Materials,
    jig: FloorJig,
    plan: Plan,
    stages: list[Stage],
    line: str,
    bay: int,
    here: str,
    place: str,
) -> None:
    """Diagonals in one field of a grid line, from the feet to the top."""
    found = next((g for g in parts.grid if g.name == line), None)
    if found is None:
        raise ModelError(f"There is no grid line “{line}” here.", f"{here}.line")
    across = plan.axis(found.axis)
    run = plan.axis("Y" if found.axis == "X" else "X")
    hits = np.flatnonzero(np.abs(across - found.at) < 1e-3)
    if not len(hits):
        raise ModelError(f"No columns of “{jig.name}” stand on grid line {line}.", f"{here}.line")
    bays = len(run) - 1
    number = bay - 1 if bay > 0 else bays + bay
    if bay == 0 or not 0 <= number < bays:
        raise ModelError(f"Grid line {line} has {bays} fields; there is no field {bay}.", f"{here}.bay")
    row = int(hits[0])
    section = materials.section(jig.sections.bracing, f"{place}.sections.bracing")
    grade = materials.material(jig.grade, f"{place}.grade")
    behaviour = "tension-only" if jig.tension_only and jig.pattern == "X" else "bar"

    def column(k: int) -> tuple[str, float, float]:
        i, j = (row, k) if found.axis == "X" else (k, row)
        return plan.mark(i, j), float(plan.axis("X")[i]), float(plan.axis("Y")[j])

    left, right = column(number), column(number + 1)
    for n, stage in enumerate(stages):
        if stage.bare and any(f"{stage.prefix}/{mark}" not in parts.nodes for mark in (left[0], right[0])):
            continue
        feet = [_foot(parts, jig, plan, stage, mark, (x, y, stage.below)) for mark, x, y in (left, right)]
        corners = (feet[0], feet[1], f"{stage.prefix}/{right[0]}", f"{stage.prefix}/{left[0]}")
        prefix = f"{stage.prefix}/brace-{line}-{number + 1}"
        for mark, a, b in diagonals(jig.pattern, bool(n % 2)):
            start, end = resolve(parts, prefix, corners, a), resolve(parts, prefix, corners, b)
            parts.member(
                f"{prefix}-{mark}",
                "wall bracing",
                start,
                end,
                section,
                grade,
                behaviour=behaviour,
                jig=jig.name,
                slot="bracing",
            )


def _walls(parts: Parts, jig: FloorJig, plan: Plan, stages: list[Stage], place: str) -> None:
    """Four walls from the feet to the top; their cladding spans sideways between the columns that stand on their line."""
    if not jig.columns:
        raise ModelError(f"“{jig.name}” has no columns that could carry walls.", f"{place}.walls")
    xs, ys = plan.axis("X"), plan.axis("Y")
    low, high = jig.base, stages[-1].level
    for side, axis, row, out in (
        ("left", "X", 0, (-1.0, 0.0, 0.0)),
        ("right", "X", len(xs) - 1, (1.0, 0.0, 0.0)),
        ("front", "Y", 0, (0.0, -1.0, 0.0)),
        ("back", "Y", len(ys) - 1, (0.0, 1.0, 0.0)),
    ):
        at, run = (xs[row], ys) if axis == "X" else (ys[row], xs)
        corners = [
            (at, end, z) if axis == "X" else (end, at, z)
            for end, z in ((run[0], low), (run[-1], low), (run[-1], high), (run[0], high))
        ]
        marks = [plan.mark(row, k) if axis == "X" else plan.mark(k, row) for k in range(len(run))]
        names = [f"{stage.prefix}/column-{mark}" for stage in stages for mark in marks]
        span = np.array([0.0, 1.0, 0.0] if axis == "X" else [1.0, 0.0, 0.0])
        there = tuple(name for name in names if name in parts.members)
        parts.panels.append(
            Panel(
                f"{jig.name}/wall-{side}",
                "wall",
                np.array(corners),
                np.array(out),
                span,
                there,
                side,
                90.0,
                jig=jig.name,
            )
        )
