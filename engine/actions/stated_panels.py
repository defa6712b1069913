"""What is stated on panels: pressures on one or on many, and loads along lines and at points of slabs."""

from __future__ import annotations

import numpy as np

from engine.actions import narrow
from engine.actions.cases import Loading
from engine.actions.panels import DOWN, cut, press
from engine.document.loads import AreaLoad, PanelLoad
from engine.errors import ModelError
from engine.structure.model import Floats, Panel, Structure


def press_panel(loading: Loading, panel: Panel, item: PanelLoad, case: int, force: float, place: str) -> None:
    """A pressure on a panel, or on a part of it given in the panel's coordinates from its first corner."""
    direction, pressure = _pushes(panel, item.axes, item.pressure * force, place)
    within = None
    if item.part:
        within = panel.place_of(np.array(item.part, dtype=float))
        if not cut(panel, within):
            raise ModelError(f"The part that a load names lies beside the panel “{panel.name}”.", f"{place}.part")
    press(loading, case, panel, direction, pressure, within, item.label, "stated")


def load_narrow(loading: Loading, panel: Panel, item: PanelLoad, case: int, force: float, place: str) -> None:
    """A load along a line or at a point of a slab."""
    words, least = ("along a line", 2) if item.kind == "line" else ("at a point", 1)
    if panel.plate is None:
        raise ModelError(
            f"“{panel.name}” is no slab: what acts {words} of it goes to the members below, put it on these.",
            f"{place}.kind",
        )
    if item.axes == "plan":
        raise ModelError(f"A load {words} acts down or onto the surface, not per m² of plan.", f"{place}.axes")
    if len(item.part) < least or (item.kind == "point" and len(item.part) > 1):
        raise ModelError(f"A load {words} needs {'its two ends' if least == 2 else 'its place'}.", f"{place}.part")
    points = np.array(item.part, dtype=float)
    try:
        found = narrow.along(panel, points) if item.kind == "line" else [narrow.at(panel, points[0])]
    except ValueError as why:
        raise ModelError(f"A load {words} of the panel “{panel.name}” is {why}.", f"{place}.part") from None
    direction = -panel.outside if item.axes == "normal" else DOWN
    for one in found:
        within, pressure = panel.place_of(one.corners), item.pressure * force / one.reach
        press(loading, case, panel, direction, pressure, within, item.label, "stated", kind=item.kind, reach=one.reach)


def _pushes(panel: Panel, axes: str, pressure: float, place: str) -> tuple[Floats, float]:
    """Which way a pressure pushes, and how much of it there is on each square metre of the panel. Raises ModelError for one on the plan
    of what stands upright: it would be none."""
    if axes == "plan" and abs(float(panel.outside[2])) < 1e-3:
        raise ModelError(
            f"“{panel.name}” stands upright: it has no plan on which a load could lie. Let it act per m² of surface.",
            f"{place}.axes",
        )
    if axes == "plan":
        pressure *= abs(float(panel.outside[2]))
    return -panel.outside if axes == "normal" else DOWN, pressure


def lay(
    loading: Loading, structure: Structure, item: AreaLoad, numbers: dict[str, int], force: float, place: str = ""
) -> list[Panel]:
    """Put a pressure on many panels, in the cases of these numbers; gives the panels. Raises ModelError for one that nothing is left
    to carry."""
    if item.case not in numbers:
        raise ModelError(f"A load refers to case “{item.case}”, which does not exist.", f"{place}.case")
    excluded = frozenset(item.excluded)
    for name in excluded - structure.index.keys():
        raise ModelError(f"A load leaves out “{name}”, which does not exist.", f"{place}.excluded")
    panels = panels_under(structure, item, place)
    for panel in panels:
        if excluded.issuperset(panel.carriers):
            raise ModelError(
                f"Without what is left out nothing carries the load on “{panel.name}”.", f"{place}.excluded"
            )
        direction, pressure = _pushes(panel, item.axes, item.pressure * force, place)
        press(loading, numbers[item.case], panel, direction, pressure, None, item.label, "stated", excluded)
    return panels


def panels_under(structure: Structure, item: AreaLoad, place: str = "") -> list[Panel]:
    """The panels that a load lies on. Surfaces by hand count as walls where they stand upright, else as roofs. Raises ModelError where
    one is not there, and where there is none."""
    if item.on == "panels":
        known = {panel.name: panel for panel in structure.panels}
        for i, name in enumerate(item.panels):
            if name not in known:
                raise ModelError(f"A load refers to panel “{name}”, which does not exist.", f"{place}.panels.{i}")
        if not item.panels:
            raise ModelError("A load on panels names none.", f"{place}.panels")
        return [known[name] for name in dict.fromkeys(item.panels)]
    kinds = {"roofs": "roof", "walls": "wall", "floors": "floor"}

    def kind(panel: Panel) -> str:
        return panel.kind if panel.kind != "surface" else "roof" if abs(float(panel.outside[2])) > 0.05 else "wall"

    found = [panel for panel in structure.panels if kind(panel) == kinds[item.on]]
    words: str = item.on
    if item.on == "floors" and item.level:
        level = next((level for level in structure.levels if level.name == item.level), None)
        if level is None:
            raise ModelError(f"There is no level “{item.level}”.", f"{place}.level")
        found = [p for p in found if np.abs(p.corners[:, 2] - level.height).max() < 1e-3]
        words = f"floors at level “{item.level}”"
    if not found:
        raise ModelError(f"There are no {words} that a load could lie on.", f"{place}.on")
    return found
