"""Joists of a floor jig, the trimmers and headers round its openings, and the decks that they carry."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil
from typing import Any

import numpy as np

from engine.catalogue.steels import Material
from engine.document.floors import FloorJig, FloorOpening
from engine.errors import ModelError
from engine.jigs.floor_parts import HINGED, Plan, Stage, corner
from engine.jigs.parts import Parts
from engine.structure.model import Panel

#: places nearer than this are one line of joists, and openings nearer than this to an edge reach it, in metres
NEAR = 0.005
Field = tuple[int, int]


@dataclass(frozen=True)
class Line:
    """A line of joists of a field: its place along the main beams, and its members from low to high: (name, from, to) in metres along
    the joists."""

    u: float
    members: tuple[tuple[str, float, float], ...]


@dataclass(frozen=True)
class Hole:
    """An opening in a field, in the floor's own axes: u along the main beams, v along the joists, metres."""

    number: int
    u: tuple[float, float]
    v: tuple[float, float]

    def cuts(self, u: float) -> bool:
        """Whether it lies across a line of joists."""
        return self.u[0] + NEAR < u < self.u[1] - NEAR


def spread(jig: FloorJig, plan: Plan, i: int) -> list[float]:
    """Places of the joists in a field between two columns, both ends included."""
    width = float(plan.us[i + 1] - plan.us[i])
    fields = jig.joists + 1 if jig.joists is not None else max(1, ceil(width / jig.joist_spacing - 1e-9))
    return [float(plan.us[i]) + width * k / fields for k in range(fields + 1)]


def holes_of(jig: FloorJig, plan: Plan, place: str) -> dict[Field, list[Hole]]:
    """The openings of each field. Raises ModelError for one off its field, without room, or over another."""
    found: dict[Field, list[Hole]] = {}
    for n, opening in enumerate(jig.openings):
        here = f"{place}.openings.{n}"
        i, j = _field(plan, opening, here)
        u0, v0 = float(plan.us[i]), float(plan.vs[j])
        width, length = float(plan.us[i + 1]) - u0, float(plan.vs[j + 1]) - v0
        (a, b), (c, d) = _sides(plan, opening)
        if max(a, c) < -1e-9 or min(a, c) < -1e-9 or b > width + 1e-9 or d > length + 1e-9:
            raise ModelError(f"Opening {n + 1} reaches beyond its field of {width:g} by {length:g} m.", here)
        a, b = (0.0 if a < NEAR else a), (width if b > width - NEAR else b)
        c, d = (0.0 if c < NEAR else c), (length if d > length - NEAR else d)
        if b - a < 0.3 or d - c < 0.3:
            raise ModelError(f"Opening {n + 1} is less than 0.3 m wide.", here)
        made = Hole(n + 1, (u0 + a, u0 + b), (v0 + c, v0 + d))
        for other in found.get((i, j), []):
            if made.u[0] < other.u[1] - NEAR and other.u[0] < made.u[1] - NEAR:
                raise ModelError(
                    f"Openings {other.number} and {n + 1} lie across the same joists of one field; make one of both.",
                    here,
                )
        found.setdefault((i, j), []).append(made)
    return found


def _field(plan: Plan, opening: FloorOpening, here: str) -> Field:
    numbers = (opening.field[0], opening.field[1])
    along_x, along_y = (len(plan.axis("X")) - 1, len(plan.axis("Y")) - 1)
    if not (1 <= numbers[0] <= along_x and 1 <= numbers[1] <= along_y):
        raise ModelError(
            f"There is no field {numbers[0]}:{numbers[1]}; there are {along_x} across and {along_y} along.",
            f"{here}.field",
        )
    i, j = numbers if plan.over_x else numbers[::-1]
    return i - 1, j - 1


def _sides(plan: Plan, opening: FloorOpening) -> tuple[tuple[float, float], tuple[float, float]]:
    """Its sides along the main beams and along the joists, from the field's corner."""
    x = (opening.corner[0], opening.corner[0] + opening.size[0])
    y = (opening.corner[1], opening.corner[1] + opening.size[1])
    return (x, y) if plan.over_x else (y, x)


@dataclass(frozen=True)
class Mark:
    """Where a line of joists of a field stands: u, the part of its members' names, and the columns' number at its ends where it is an
    edge of the field (None: between beams). shared: the part of its nodes' names that it has in common with the fields beside it."""

    u: float
    name: str
    edge: int | None
    shared: str


def _marks(jig: FloorJig, plan: Plan, field: Field, holes: list[Hole]) -> list[Mark]:
    """The lines of joists of a field in order, with the trimmers of its openings where no line stands."""
    i, j = field
    places = spread(jig, plan, i)
    last = len(places) - 1
    found = [
        Mark(u, f"joist-{i + 1 + (k == last)}-{j + 1}", i + (k == last), "")
        if k in (0, last)
        else Mark(u, f"joist-{i + 1}-{j + 1}-{k}", None, f"joist-{i + 1}-{k}")
        for k, u in enumerate(places)
    ]
    for hole in holes:
        for n, u in enumerate(hole.u):
            if all(abs(u - mark.u) > NEAR for mark in found):
                name = f"trimmer-{i + 1}-{j + 1}-{hole.number}-{n + 1}"
                found.append(Mark(u, name, None, name))
    return sorted(found, key=lambda mark: mark.u)


def set_joists(
    parts: Parts, jig: FloorJig, plan: Plan, stage: Stage, grade: Material, holes: dict[Field, list[Hole]]
) -> dict[Field, list[Line]]:
    """Add the joists of a storey, and what goes round its openings; gives by field the lines that carry its deck, in order."""
    found: dict[Field, list[Line]] = {}
    for i in range(len(plan.us) - 1):
        for j in range(len(plan.vs) - 1):
            own = holes.get((i, j), [])
            low, high = float(plan.vs[j]), float(plan.vs[j + 1])
            lines = found[i, j] = []
            for mark in _marks(jig, plan, (i, j), own):
                across = next((hole for hole in own if hole.cuts(mark.u)), None)
                line = Line(mark.u, _members(f"{stage.prefix}/{mark.name}", low, high, across))
                lines.append(line)
                for name, a, b in line.members:
                    if name not in parts.members:
                        ends = [_end(parts, plan, stage, mark, j, v, (low, high)) for v in (a, b)]
                        rigid = jig.frames == "all" and mark.edge is not None
                        _joist(parts, jig, stage, grade, name, ends, b - a, {} if rigid else HINGED)
            _headers(parts, jig, plan, stage, grade, (i, j), own, lines)
    return found


def _joist(
    parts: Parts,
    jig: FloorJig,
    stage: Stage,
    grade: Material,
    name: str,
    ends: list[str],
    length: float,
    releases: dict[str, Any],
) -> None:
    # the deck holds the top flange everywhere, taken at every half metre; nowhere without a diaphragm
    steps = max(1, ceil(length / 0.5 - 1e-9)) if jig.diaphragm != "none" else 1
    section, slot = stage.joists
    parts.member(
        name,
        "joist",
        ends[0],
        ends[1],
        section,
        grade,
        jig=jig.name,
        slot=slot,
        outer=tuple(length * k / steps for k in range(steps + 1)),
        **releases,
    )


def _end(parts: Parts, plan: Plan, stage: Stage, mark: Mark, j: int, v: float, limits: tuple[float, float]) -> str:
    """The node of a joist's end: on a column, on a beam (where it meets that of the next field), or beside an opening."""
    row = j + limits.index(v) if v in limits else None
    if mark.edge is not None and row is not None:
        return corner(parts, plan, stage, mark.edge, row)
    place = f"{row + 1}" if row is not None else f"{j + 1}-{v - limits[0]:.3f}"
    return parts.node(f"{stage.prefix}/{mark.shared}-at-{place}", plan.at(mark.u, v, stage.level))


def _headers(
    parts: Parts,
    jig: FloorJig,
    plan: Plan,
    stage: Stage,
    grade: Material,
    field: Field,
    holes: list[Hole],
    lines: list[Line],
) -> None:
    """Members from trimmer to trimmer along the sides of openings that joists end on; none where an opening begins on a beam."""
    i, j = field
    for hole in holes:
        # on the trimmers' own lines, which may stand a little beside the opening
        ends = [min((line.u for line in lines), key=lambda at, u=u: abs(at - u)) for u in hole.u]  # type: ignore[misc]
        for n, v in enumerate(hole.v):
            if plan.vs[j] + NEAR < v < plan.vs[j + 1] - NEAR:
                name = f"{stage.prefix}/header-{i + 1}-{j + 1}-{hole.number}-{n + 1}"
                nodes = [parts.node(f"{name}-{m + 1}", plan.at(u, v, stage.level)) for m, u in enumerate(ends)]
                _joist(parts, jig, stage, grade, name, nodes, ends[1] - ends[0], HINGED)


def _members(name: str, low: float, high: float, hole: Hole | None) -> tuple[tuple[str, float, float], ...]:
    """The members of a line of joists: one, or what is left of it beside an opening."""
    if hole is None:
        return ((name, low, high),)
    left = [(name, low, hole.v[0]), (f"{name}-beyond", hole.v[1], high)]
    return tuple(part for part in left if part[2] - part[1] > NEAR)


def deck(
    parts: Parts,
    jig: FloorJig,
    plan: Plan,
    stage: Stage,
    field: Field,
    lines: list[Line],
    holes: list[Hole],
    in_plane: dict[str, Any],
) -> None:
    """The deck of a field as panels between lines of joists: one way it spans onto two of them; two ways, in a field without openings,
    onto the beams as well."""
    i, j = field
    low, high = float(plan.vs[j]), float(plan.vs[j + 1])
    two_way = jig.deck == "two ways" and not holes
    number = 0
    for one, other in zip(lines[:-1], lines[1:], strict=True):
        hole = next((h for h in holes if h.cuts((one.u + other.u) / 2) or _between(h, one.u, other.u)), None)
        stretches = [(low, high)] if hole is None else [(low, hole.v[0]), (hole.v[1], high)]
        for a, b in stretches:
            if b - a <= NEAR:
                continue
            number += 1
            corners = np.array(
                [plan.at(u, v, stage.level) for u, v in ((one.u, a), (other.u, a), (other.u, b), (one.u, b))]
            )
            carriers = [
                name
                for line in (one, other)
                for name, start, end in line.members
                if start < b - NEAR and end > a + NEAR
            ]
            if two_way:
                carriers += [f"{stage.prefix}/beam-{row + 1}-{i + 1}" for row in (j, j + 1)]
            parts.panels.append(
                Panel(
                    f"{stage.prefix}/deck-{i + 1}-{j + 1}-{number}",
                    "floor",
                    corners,
                    np.array([0.0, 0.0, 1.0]),
                    (corners[1] - corners[0]) / np.linalg.norm(corners[1] - corners[0]),
                    tuple(carriers),
                    two_way=two_way,
                    permanent=stage.permanent * 1000,
                    imposed=stage.imposed * 1000,
                    category=stage.category,
                    reduced=jig.reduced,
                    jig=jig.name,
                    deck=(stage.prefix, i + 1, j + 1),
                    **in_plane,
                )
            )


def _between(hole: Hole, one: float, other: float) -> bool:
    """Whether a strip between two lines is the opening, or a part of it."""
    return hole.u[0] - NEAR <= one and other <= hole.u[1] + NEAR


def roof(
    parts: Parts,
    jig: FloorJig,
    plan: Plan,
    stage: Stage,
    lines: dict[Field, list[Line]],
    in_plane: dict[str, Any],
) -> None:
    """The uppermost deck as one flat roof on its joists."""
    xs, ys = plan.axis("X"), plan.axis("Y")
    corners = np.array(
        [(x, y, stage.level) for x, y in ((xs[0], ys[0]), (xs[0], ys[-1]), (xs[-1], ys[-1]), (xs[-1], ys[0]))]
    )
    names = tuple(dict.fromkeys(m[0] for own in lines.values() for line in own for m in line.members))
    span = np.array([1.0, 0.0, 0.0]) if plan.over_x else np.array([0.0, 1.0, 0.0])
    parts.panels.append(
        Panel(f"{jig.name}/roof", "roof", corners, np.array([0.0, 0.0, 1.0]), span, names, jig=jig.name, **in_plane)
    )
