"""What acts on members in a state: the loads of its cases with their factors, summed."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from engine.actions.cases import LineLoad, LineTable, Loading, SurfaceLoad
from engine.document.base import LiesOn
from engine.structure.model import Bools, Floats, Structure


def summed(structure: Structure, table: LineTable, factors: Floats, rows: Bools) -> list[LineLoad]:
    """The sum of chosen line loads on each member, with the factors of their cases, in pieces over which it runs linearly; of no case, −1."""
    own: dict[str, list[LineLoad]] = defaultdict(list)
    for k in np.flatnonzero(rows).tolist():
        name = structure.members[table.member[k]].name
        case, start, end = int(table.case[k]), float(table.start[k]), float(table.end[k])
        own[name].append(LineLoad(case, name, start, end, table.first[k], table.last[k]))
    found = []
    for name, loads in own.items():
        cuts = sorted({round(x, 9) for one in loads for x in (one.start, one.end or 0.0)})
        for start, end in zip(cuts[:-1], cuts[1:], strict=True):
            first, last = _at_ends(loads, factors, start, end)
            found.append(LineLoad(-1, name, start, end, first, last))
    return found


def _at_ends(loads: list[LineLoad], factors: Floats, start: float, end: float) -> Floats:
    """(2, 3) the sum of line loads at both ends of a stretch over which all run linearly."""
    ends = np.zeros((2, 3))
    for one in loads:
        if one.start <= start + 1e-9 and one.end is not None and one.end >= end - 1e-9:
            slope = (one.last - one.first) / (one.end - one.start)
            ends += factors[one.case] * (one.first + np.outer([start - one.start, end - one.start], slope))
    return ends


@dataclass(frozen=True)
class Pressed:
    """What lies on a slab, or on a part of it: corners (k, 3) m on its middle, force (k, 3) at them, N/m², of a line N/m, of a point N."""

    panel: str
    corners: Floats
    force: Floats
    kind: LiesOn = "area"


def pressed(structure: Structure, loading: Loading, factors: Floats) -> list[Pressed]:
    """The sum of what lies on slabs in a state, one for each part of a slab that something lies on; factors: (cases,)."""
    panels = {panel.name: panel for panel in structure.panels}
    rise = {slab.panel: slab.plate.rise for slab in structure.slabs}
    total: dict[tuple[str, bytes], Floats] = {}
    parts: dict[tuple[str, bytes], SurfaceLoad] = {}
    for load in loading.surfaces:
        if load.panel in rise and factors[load.case]:
            key = load.panel, np.round(load.polygon, 6).tobytes()
            parts[key] = load
            values = np.array([load.at(point) for point in load.polygon]) * load.reach
            total[key] = total.get(key, np.zeros(3)) + factors[load.case] * np.outer(values, load.direction)
    found = []
    for (name, mark), force in total.items():
        lifted = panels[name].outside * rise[name]
        part = parts[name, mark]
        found.append(Pressed(name, panels[name].place_of(part.polygon) + lifted, force, part.kind))
    return [one for one in found if np.abs(one.force).max() > 0.5]
