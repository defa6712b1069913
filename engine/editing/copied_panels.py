"""Panels that lie on copied members, copied with them: floors, roofs and walls drawn by hand, and the decks of floors that are set out."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from engine.document.base import Direction
from engine.document.byhand import PanelInput
from engine.document.floors import FloorJig
from engine.document.loads import AreaLoad, PanelLoad
from engine.editing.work import SAME, Work, vector
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.model import Floats, Panel

Place = Callable[[Floats], Floats]
#: which way the wind blows that is named by where it comes from
BLOWS: dict[Direction, tuple[float, float, float]] = {
    "left": (1, 0, 0),
    "right": (-1, 0, 0),
    "front": (0, 1, 0),
    "back": (0, -1, 0),
}


def floor_panel(
    panel: Panel,
    floor: FloorJig,
    name: str,
    corners: list[str | tuple[float, float, float]],
    carriers: list[str],
    excluded: list[str],
) -> PanelInput:
    """A deck of a floor that is set out as one drawn by hand: with its loads, and what holds it in its plane."""
    return PanelInput(
        name=name,
        kind="floor",
        corners=corners,
        carriers=carriers,
        excluded=excluded,
        span=(float(panel.span[0]), float(panel.span[1]), float(panel.span[2])),
        two_way=panel.two_way,
        permanent=panel.permanent / 1000,
        imposed=panel.imposed / 1000,
        category=floor.category if panel.category == "" else panel.category,  # type: ignore[arg-type]
        reduced=panel.reduced,
        diaphragm=floor.diaphragm,
        membrane=floor.membrane,
        slab=floor.slab,
    )


@dataclass(frozen=True)
class Shift:
    """One set of copies: names of the copies by those of the members, where a place comes to, and (3, 3) what becomes of a direction; axes:
    by member, (3, 3), what becomes of what is stated along its own axes, where that changes."""

    made: dict[str, str]
    place: Place
    turned: Floats
    axes: dict[str, Floats]


def copy_panels(work: Work, members: list[str], shifts: list[Shift], loads: bool) -> None:
    """Copy the panels that rest on copied members alone; loads: with what is put on them. Raises ModelError for wind that no named direction
    is left of."""
    resting = list(_resting(work, set(members)))
    if not resting:
        return
    at = work.at
    there = {_key(list(p.corners)) for p in work.structure.panels}
    there |= {_key([at[c] if isinstance(c, str) else np.array(c) for c in p.corners]) for p in work.document.panels}
    taken = {p.name for p in work.document.panels} | {p.name for p in work.structure.panels}
    copies: list[tuple[Panel, PanelInput, Shift]] = []
    for shift in shifts:
        for panel, given in resting:
            corners = [shift.place(corner) for corner in panel.corners]
            if _key(corners) in there:
                continue
            there.add(_key(corners))
            name = work.fresh(f"{given.name} ", taken)
            taken.add(name)
            copies.append((panel, _copied(work, given, name, corners, shift), shift))
    work.document.panels += [copy for _, copy, _ in copies]
    _right_way_out(work, copies)
    if loads:
        _copy_loads(work, copies)


def _copied(work: Work, given: PanelInput, name: str, corners: list[Floats], shift: Shift) -> PanelInput:
    made, place, turned = shift.made, shift.place, shift.turned
    update = {
        "name": name,
        "corners": [work.stands(corner) or vector(corner) for corner in corners],
        "openings": [[vector(place(np.array(p))) for p in opening] for opening in given.openings],
        # where a carrier is there already its name is not known: then all that run through it bear it
        "carriers": [made[n] for n in given.carriers] if made.keys() >= set(given.carriers) else [],
        "excluded": [made[n] for n in given.excluded if n in made],
        "span": None if given.span is None else vector(turned @ np.array(given.span)),
        "wind": _wind(given, turned),
    }
    return given.model_copy(update=update, deep=True)


def _resting(work: Work, members: set[str]) -> Iterator[tuple[Panel, PanelInput]]:
    """The panels whose carriers are all among some members, as they stand and as they are stated."""
    drawn = {p.name: p for p in work.document.panels}
    floors = {j.name: j for j in work.document.jigs if isinstance(j, FloorJig)}
    for panel in work.structure.panels:
        if not panel.carriers or not members.issuperset(panel.carriers):
            continue
        if panel.name in drawn:
            yield panel, drawn[panel.name]
        elif panel.kind == "floor" and panel.jig in floors:
            yield (
                panel,
                floor_panel(
                    panel, floors[panel.jig], "floor", [(0, 0, 0)] * 3, list(panel.carriers), list(panel.excluded)
                ),
            )


def _key(corners: list[Floats]) -> tuple[tuple[float, ...], ...]:
    """What panels with the same corners have in common, to the millimetre."""
    # a hair aside, so that what is stated to the half millimetre falls on one side
    return tuple(sorted(tuple(np.round(corner + 1e-7, 3).tolist()) for corner in corners))


def _wind(given: PanelInput, turned: Floats) -> dict[Direction, float | None]:
    """Its coefficients by the directions that the wind's own become."""
    found: dict[Direction, float | None] = {}
    for direction, value in given.wind.items():
        way = turned @ np.array(BLOWS[direction])
        new = next((name for name, blows in BLOWS.items() if way @ np.array(blows) > 1 - 1e-6), None)
        if new is None and value:
            raise ModelError(
                f"Panel “{given.name}” takes wind from the {direction}, which is no named direction on a copy turned so: copy without panels.",
                "panels",
            )
        if new is not None:
            found[new] = value
    return found


def _right_way_out(work: Work, copies: list[tuple[Panel, PanelInput, Shift]]) -> None:
    """The outside of copies is that of the panels, turned: what stands upright would face away from the middle of the building by itself."""
    if all(np.allclose(shift.turned, np.eye(3)) and abs(old.outside[2]) > 0.05 for old, _, shift in copies):
        return
    after = {p.name: p for p in expand(work.document).panels}
    for old, copy, shift in copies:
        if float(after[copy.name].outside @ shift.turned @ old.outside) < 0:
            copy.flip = not copy.flip


def _copy_loads(work: Work, copies: list[tuple[Panel, PanelInput, Shift]]) -> None:
    """What is put on the panels, put on their copies too."""
    of: dict[str, list[PanelLoad]] = defaultdict(list)
    for load in work.document.panel_loads:
        of[load.panel].append(load)
    parts = any(load.part for old, _, _ in copies for load in of.get(old.name, ()))
    after = {p.name: p for p in expand(work.document).panels} if parts else {}
    for old, copy, shift in copies:
        for load in of.get(old.name, ()):
            part = load.part
            if part:
                corners = np.array([shift.place(p) for p in old.place_of(np.array(part))])
                part = [(round(float(s), 6), round(float(t), 6)) for s, t in after[copy.name].flat(corners)]
            work.document.panel_loads.append(load.model_copy(update={"panel": copy.name, "part": part}))
    work.document.area_loads += [
        found for area in work.document.area_loads if (found := _elsewhere(work, area, copies))
    ]
    for area in work.document.area_loads:
        own = [(copy, shift) for old, copy, shift in copies if old.name in area.panels]
        excluded = _excluded(area, [shift for _, shift in own])
        area.panels += [copy.name for copy, _ in own]
        area.excluded += [name for name in excluded if name not in area.excluded]


def _elsewhere(work: Work, area: AreaLoad, copies: list[tuple[Panel, PanelInput, Shift]]) -> AreaLoad | None:
    """A load on the floors of a level, on those of their copies that lie at none of its height; None where there are none."""
    height = next((level.height for level in work.structure.levels if level.name == area.level), None)
    if area.on != "floors" or height is None:
        return None

    def off(corners: Floats) -> float:
        return float(np.abs(corners[:, 2] - height).max())

    floors = [
        (copy, shift, old.corners) for old, copy, shift in copies if old.kind == "floor" and off(old.corners) < SAME
    ]
    away = [(c, s) for c, s, corners in floors if off(np.array([s.place(p) for p in corners])) >= SAME]
    if not away:
        return None
    own = {"on": "panels", "level": "", "panels": [copy.name for copy, _ in away]}
    return area.model_copy(update=own | {"excluded": _excluded(area, [shift for _, shift in away])})


def _excluded(area: AreaLoad, shifts: list[Shift]) -> list[str]:
    """The copies of what a load leaves out."""
    return list(dict.fromkeys(shift.made[name] for shift in shifts for name in area.excluded if name in shift.made))


def move_panels(work: Work, members: set[str], nodes: set[str], step: tuple[float, float, float]) -> None:
    """Panels whose corners all move with members and nodes take their openings along, and corners that are no nodes."""
    structure = {p.name: p for p in work.structure.panels}
    for given in work.document.panels:
        carriers = structure[given.name].carriers if given.name in structure else ()
        rests = bool(carriers) and members.issuperset(carriers)
        if not all(c in nodes if isinstance(c, str) else rests for c in given.corners):
            continue
        given.corners = [c if isinstance(c, str) else vector(np.add(c, step)) for c in given.corners]
        given.openings = [[vector(np.add(p, step)) for p in opening] for opening in given.openings]
