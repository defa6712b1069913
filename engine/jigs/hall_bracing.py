"""Bracing of a hall: roof, side walls, gables."""

from __future__ import annotations

from math import floor

import numpy as np

from engine.document.jigs import BracedBays
from engine.errors import ModelError
from engine.jigs.bracing import diagonals, resolve
from engine.jigs.hall_parts import Hall, between_frames
from engine.jigs.profile import Slope, purlin_positions


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


def roof_bracing(hall: Hall) -> None:
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
                    between_frames(
                        hall, bay, f"bay-{bay}/strut-{slope.name}-{cut}", "strut", corners[3], corners[2], "struts"
                    )
                _field(hall, chosen, f"bay-{bay}/roof-brace-{slope.name}-{cut}", "roof bracing", corners, cut)


def _field(
    hall: Hall, chosen: BracedBays, name: str, role: str, corners: tuple[str, str, str, str], number: int
) -> None:
    behaviour = "tension-only" if chosen.tension_only and chosen.kind == "X" else "bar"
    for mark, a, b in diagonals(chosen.kind, odd=number % 2 == 0):
        start, end = resolve(hall.parts, name, corners, a), resolve(hall.parts, name, corners, b)
        hall.member(f"{name}-{mark}", role, start, end, "bracing", behaviour=behaviour)


def wall_bracing(hall: Hall) -> None:
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


def gable_bracing(hall: Hall) -> None:
    chosen = hall.jig.bracing.gables
    if chosen is None:
        return
    xyz = hall.parts.nodes
    names = list(xyz)
    for side, frame in (("front", 1), ("back", hall.jig.frames)):
        uprights = [(f"frame-{frame}/base-{c.name}", hall.eaves(frame, c.name)) for c in hall.profile.columns]
        posts = [m for m in hall.parts.members.values() if m.role == "gable post" and m.place == side]
        uprights += [(names[m.nodes[0]], names[m.nodes[1]]) for m in posts]
        uprights.sort(key=lambda pair: xyz[pair[0]][0])
        for bay in braced_bays(chosen, len(uprights) - 1, "hall.bracing.gables"):
            (a, c), (b, d) = uprights[bay - 1], uprights[bay]
            _field(hall, chosen, f"{side}/brace-{bay}", "wall bracing", (a, b, d, c), bay)
