"""The floor jig: a floor or mezzanine at a level between chosen grid lines."""

from __future__ import annotations

from math import ceil

import numpy as np

from engine.document.jigs import FloorJig
from engine.errors import ModelError
from engine.jigs.parts import Materials, Parts
from engine.structure.model import HINGE, GridLine, Level, Panel


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


def set_out_floor(parts: Parts, materials: Materials, jig: FloorJig, place: str) -> None:
    """Add a floor: columns, main beams, joists, deck panels, and its level. Raises ModelError naming the field."""
    across = _between(parts, "X", jig.across, f"{place}.across")
    along = _between(parts, "Y", jig.along, f"{place}.along")
    if jig.level - jig.base < 0.5 and jig.columns:
        raise ModelError(
            f"The floor at {jig.level:g} m has its feet at {jig.base:g} m; at least 0.5 m is needed.", f"{place}.level"
        )
    first, last = across[0].at, across[-1].at
    xs = np.unique(np.round([first + (last - first) * i / jig.divide for i in range(jig.divide + 1)], 9))
    ys = np.array([line.at for line in along])
    grade = materials.material(jig.grade, f"{place}.grade")
    beams, joists, posts = (
        materials.section(getattr(jig.sections, key), f"{place}.sections.{key}")
        for key in ("main_beams", "joists", "columns")
    )
    in_plane = materials.in_plane(jig.diaphragm, jig.membrane, place)
    # in the floor's own axes: u along the main beams, v along the joists
    over_x = jig.main == "across"
    us, vs = (xs, ys) if over_x else (ys, xs)

    def point(u: float, v: float, z: float) -> tuple[float, float, float]:
        return (float(u), float(v), z) if over_x else (float(v), float(u), z)

    def corner(i: int, j: int) -> str:
        return parts.node(f"{jig.name}/{i + 1}-{j + 1}", point(us[i], vs[j], jig.level))

    standing = _standing(parts)
    for i in range(len(us)):
        for j in range(len(vs)):
            head = corner(i, j)
            if not jig.columns or standing(parts.nodes[head]):
                continue
            x, y, _ = parts.nodes[head]
            foot = parts.node(f"{jig.name}/base-{i + 1}-{j + 1}", (x, y, jig.base))
            parts.hold(foot, "x y z rz")
            parts.member(
                f"{jig.name}/column-{i + 1}-{j + 1}", "column", foot, head, posts, grade, jig=jig.name, slot="columns"
            )

    def spread(i: int) -> list[float]:
        """Places of the joists in a field between two columns, both ends included."""
        width = float(us[i + 1] - us[i])
        fields = jig.joists + 1 if jig.joists is not None else max(1, ceil(width / jig.joist_spacing - 1e-9))
        return [float(us[i]) + width * k / fields for k in range(fields + 1)]

    for j in range(len(vs)):
        for i in range(len(us) - 1):
            # the joists hold the beam's top flange
            outer = tuple(place - float(us[i]) for place in spread(i))
            hinges = {"release_start": HINGE, "release_end": HINGE, "outer": outer}
            parts.member(
                f"{jig.name}/beam-{j + 1}-{i + 1}",
                "main beam",
                corner(i, j),
                corner(i + 1, j),
                beams,
                grade,
                jig=jig.name,
                **hinges,
            )

    def held(j: int) -> tuple[float, ...]:
        """Where the deck holds a joist's top flange: everywhere, taken at every half metre; nowhere without a diaphragm."""
        length = float(vs[j + 1] - vs[j])
        steps = ceil(length / 0.5) if jig.diaphragm != "none" else 1
        return tuple(length * k / steps for k in range(steps + 1))

    for i in range(len(us) - 1):
        places = spread(i)
        fields = len(places) - 1
        for j in range(len(vs) - 1):
            names = []
            for k, u in enumerate(places):
                edge = k in (0, fields)
                name = (
                    f"{jig.name}/joist-{i + 1 + (k == fields)}-{j + 1}"
                    if edge
                    else f"{jig.name}/joist-{i + 1}-{j + 1}-{k}"
                )
                names.append(name)
                if name in parts.members:
                    continue
                if edge:
                    a, b = corner(i + (k == fields), j), corner(i + (k == fields), j + 1)
                else:
                    a = parts.node(f"{jig.name}/joist-{i + 1}-{k}-at-{j + 1}", point(u, vs[j], jig.level))
                    b = parts.node(f"{jig.name}/joist-{i + 1}-{k}-at-{j + 2}", point(u, vs[j + 1], jig.level))
                parts.member(
                    name,
                    "joist",
                    a,
                    b,
                    joists,
                    grade,
                    jig=jig.name,
                    slot="joists",
                    outer=held(j),
                    release_start=HINGE,
                    release_end=HINGE,
                )
            _deck(parts, jig, i, j, places, names, us, vs, point, in_plane)
    parts.levels.append(Level(jig.name, jig.level, floor=True))


def _standing(parts: Parts):  # type: ignore[no-untyped-def]
    """Whether an upright member of another jig passes through a point."""
    names = list(parts.nodes)
    xyz = np.array(list(parts.nodes.values())).reshape(-1, 3)
    uprights = [
        (xyz[m.nodes[0]], xyz[m.nodes[1]])
        for m in parts.members.values()
        if names and np.abs(xyz[m.nodes[0]][:2] - xyz[m.nodes[1]][:2]).max() < 1e-6
    ]
    low = np.array([min(a[2], b[2]) for a, b in uprights])
    high = np.array([max(a[2], b[2]) for a, b in uprights])
    plan = np.array([a[:2] for a, _ in uprights]).reshape(-1, 2)

    def standing(at: tuple[float, float, float]) -> bool:
        if not len(plan):
            return False
        near = np.abs(plan - at[:2]).max(axis=1) < 1e-3
        return bool((near & (low < at[2] + 1e-6) & (high > at[2] - 1e-6)).any())

    return standing


def _deck(  # type: ignore[no-untyped-def]
    parts: Parts, jig: FloorJig, i: int, j: int, places: list[float], joists: list[str], us, vs, point, in_plane
) -> None:
    """One deck panel a field between joists: one way it spans onto the two joists; two ways onto the beams as well."""
    for k, (a, b) in enumerate(zip(places[:-1], places[1:], strict=True)):
        corners = np.array(
            [
                point(a, vs[j], jig.level),
                point(b, vs[j], jig.level),
                point(b, vs[j + 1], jig.level),
                point(a, vs[j + 1], jig.level),
            ]
        )
        carriers = [joists[k], joists[k + 1]]
        if jig.deck == "two ways":
            for row in (j, j + 1):
                carriers.append(f"{jig.name}/beam-{row + 1}-{i + 1}")
        parts.panels.append(
            Panel(
                f"{jig.name}/deck-{i + 1}-{j + 1}-{k + 1}",
                "floor",
                corners,
                np.array([0.0, 0.0, 1.0]),
                (corners[1] - corners[0]) / np.linalg.norm(corners[1] - corners[0]),
                tuple(carriers),
                two_way=jig.deck == "two ways",
                permanent=jig.permanent * 1000,
                imposed=jig.imposed * 1000,
                category=jig.category,
                reduced=jig.reduced,
                **in_plane,
            )
        )
