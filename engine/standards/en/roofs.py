"""What the roofs of a hall are, whatever bays they span: planes, and pairs of planes that meet at a ridge."""

from __future__ import annotations

from dataclasses import dataclass

from engine.document import Document
from engine.document.rules import Eaves
from engine.structure.model import Panel, Structure

#: planes whose slopes differ by less than this are one; heights that differ by less meet, in metres
SAME = 1e-3


def parapet(document: Document) -> float:
    """Height of the parapet at the eaves, metres: one for snow and for wind, whichever states it."""
    own = document.wind.eaves.size if document.wind.eaves.kind == "parapet" else 0.0
    return max(own, document.snow.parapet)


def eaves_of(document: Document) -> Eaves:
    """The edge of the roof for wind: with a parapet, whichever states it."""
    height = parapet(document)
    return Eaves(kind="parapet", size=height) if height else document.wind.eaves


@dataclass(frozen=True)
class Plane:
    """A plane of roof: its panels from left to right, over as many bays as it runs through. x0, x1: its edges; z0, z1: heights
    there, in metres."""

    panels: tuple[Panel, ...]
    x0: float
    x1: float
    z0: float
    z1: float

    @property
    def pitch(self) -> float:
        """Degrees."""
        return self.panels[0].pitch

    @property
    def slope(self) -> float:
        """Rise over run towards the right."""
        return (self.z1 - self.z0) / (self.x1 - self.x0)

    @property
    def width(self) -> float:
        """In plan, metres."""
        return self.x1 - self.x0


@dataclass(frozen=True)
class Roof:
    """One roof for snow and wind: a single plane, or two that meet at a ridge, from left to right."""

    planes: tuple[Plane, ...]

    @property
    def duopitch(self) -> bool:
        """Whether it has a ridge."""
        return len(self.planes) == 2


def _plane(panel: Panel) -> Plane:
    a, b = panel.corners[0], panel.corners[-1]
    low, high = (a, b) if a[0] < b[0] else (b, a)
    return Plane((panel,), float(low[0]), float(high[0]), float(low[2]), float(high[2]))


def planes_of(structure: Structure) -> list[Plane]:
    """Planes of the hall's own roof, from left to right; bays of one slope that follow on one another are one plane."""
    main = [p for p in structure.panels if p.kind == "roof" and not p.place]
    found: list[Plane] = []
    for plane in sorted((_plane(p) for p in main), key=lambda p: p.x0):
        last = found[-1] if found else None
        if last and abs(last.slope - plane.slope) < SAME and _meet(last, plane):
            found[-1] = Plane((*last.panels, *plane.panels), last.x0, plane.x1, last.z0, plane.z1)
        else:
            found.append(plane)
    return found


def _meet(one: Plane, other: Plane) -> bool:
    return abs(one.x1 - other.x0) < SAME and abs(one.z1 - other.z0) < SAME


def roofs_of(structure: Structure) -> list[Roof]:
    """The roofs of the hall from left to right. A plane that rises and one that falls from the same height are one roof,
    also where a column stands below the ridge."""
    found: list[Roof] = []
    for plane in planes_of(structure):
        before = found[-1].planes if found else ()
        ridge = len(before) == 1 and before[0].slope > SAME and plane.slope < -SAME and _meet(before[0], plane)
        if ridge:
            found[-1] = Roof((*before, plane))
        else:
            found.append(Roof((plane,)))
    return found
