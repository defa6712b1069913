"""Panels that lie on copied members, copied with them: floors, roofs and walls drawn by hand, and the decks of floors that are set out."""

from __future__ import annotations

from collections.abc import Callable, Iterator

import numpy as np

from engine.document.base import Direction
from engine.document.byhand import PanelInput
from engine.document.floors import FloorJig
from engine.document.loads import PanelLoad
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
    panel: Panel, floor: FloorJig, name: str, corners: list[str | tuple[float, float, float]], carriers: list[str]
) -> PanelInput:
    """A deck of a floor that is set out as one drawn by hand: with its loads, and what holds it in its plane."""
    return PanelInput(
        name=name,
        kind="floor",
        corners=corners,
        carriers=carriers,
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


def copy_panels(
    work: Work, members: list[str], made: dict[str, str], place: Place, turned: Floats, loads: bool
) -> None:
    """Copy the panels that rest on copied members alone; made: names of the copies by those of the members; turned: (3, 3), what becomes of a
    direction; loads: with what is put on them. Raises ModelError for wind that no named direction is left of."""
    copies: dict[str, str] = {}
    for panel, given in _resting(work, set(members)):
        corners = [place(corner) for corner in panel.corners]
        if _is_there(work, corners):
            continue
        taken = {p.name for p in work.document.panels} | {p.name for p in work.structure.panels}
        name = next(work.fresh(f"{given.name} ", taken))
        copies[panel.name] = name
        update = {
            "name": name,
            "corners": [_corner(work, corner) for corner in corners],
            "openings": [[vector(place(np.array(p))) for p in opening] for opening in given.openings],
            # where a carrier is there already its name is not known: then all that run through it bear it
            "carriers": [made[n] for n in given.carriers] if made.keys() >= set(given.carriers) else [],
            "excluded": [made[n] for n in given.excluded if n in made],
            "span": None if given.span is None else vector(turned @ np.array(given.span)),
            "wind": _wind(given, turned),
        }
        work.document.panels.append(given.model_copy(update=update, deep=True))
    if copies:
        _right_way_out(work, copies, turned)
    if copies and loads:
        _copy_loads(work, copies, made, place)


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
            yield panel, floor_panel(panel, floors[panel.jig], "floor", [(0, 0, 0)] * 3, list(panel.carriers))


def _is_there(work: Work, corners: list[Floats]) -> bool:
    """Whether a panel with these corners is there already."""
    mine = _sorted(corners)
    nodes = work.at
    others = [list(p.corners) for p in work.structure.panels]
    others += [[nodes[c] if isinstance(c, str) else np.array(c) for c in p.corners] for p in work.document.panels]
    return any(len(o) == len(mine) and np.abs(_sorted(o) - mine).max() < SAME for o in others)


def _sorted(corners: list[Floats]) -> Floats:
    return np.array(sorted(tuple(np.round(corner, 4).tolist()) for corner in corners))


def _corner(work: Work, at: Floats) -> str | tuple[float, float, float]:
    """The node at a place, or the place."""
    return next((name for name, place in work.at.items() if np.abs(place - at).max() < SAME), vector(at))


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


def _right_way_out(work: Work, copies: dict[str, str], turned: Floats) -> None:
    """The outside of copies is that of the panels, turned: what stands upright would face away from the middle of the building by itself."""
    before = {p.name: p for p in work.structure.panels}
    if np.allclose(turned, np.eye(3)) and all(abs(before[name].outside[2]) > 0.05 for name in copies):
        return
    after = {p.name: p for p in expand(work.document).panels}
    for panel in work.document.panels:
        old = next((name for name, new in copies.items() if new == panel.name), None)
        if old is not None and float(after[panel.name].outside @ turned @ before[old].outside) < 0:
            panel.flip = not panel.flip


def _copy_loads(work: Work, copies: dict[str, str], made: dict[str, str], place: Place) -> None:
    """What is put on the panels, put on their copies too."""
    before = {p.name: p for p in work.structure.panels}
    own = [load for load in work.document.panel_loads if load.panel in copies]
    after = {p.name: p for p in expand(work.document).panels} if any(load.part for load in own) else {}

    def copied(load: PanelLoad) -> PanelLoad:
        name = copies[load.panel]
        part = load.part
        if part:
            corners = np.array([place(p) for p in before[load.panel].place_of(np.array(part))])
            part = [(round(float(s), 6), round(float(t), 6)) for s, t in after[name].flat(corners)]
        return load.model_copy(update={"panel": name, "part": part})

    work.document.panel_loads += [copied(load) for load in own]
    for load in work.document.area_loads:
        named = [copies[name] for name in load.panels if name in copies]
        load.panels += named
        if named:
            load.excluded += [made[name] for name in load.excluded if name in made]


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
