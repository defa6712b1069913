"""Loads drawn on a frame with their values; wind zones on the plan of roofs."""

from __future__ import annotations

import numpy as np

from engine.actions.derived import Wind
from engine.actions.panels import cut
from engine.chain import Chain
from engine.dossier.diagrams import TALL
from engine.dossier.drawing import Drawing, Sheet
from engine.dossier.elevations import ROOM
from engine.structure.model import Floats, Structure
from engine.structure.planes import Plane


def loads(chain: Chain, plane: Plane, case: int, title: str) -> Drawing | None:
    """What a case puts on the members of a plane, in it: line loads as they fall on them with their values in kN/m, forces in kN; None
    where there is nothing."""
    structure = chain.structure
    basis, origin = np.array([plane.u, plane.v]), np.array(plane.origin)
    base = origin @ basis.T
    table = chain.loading.table(structure)
    inside = set(plane.members)
    rows = []
    for k in np.flatnonzero(table.case == case).tolist():
        m = int(table.member[k])
        first, last = table.first[k] @ basis.T, table.last[k] @ basis.T
        if m in inside and max(np.linalg.norm(first), np.linalg.norm(last)) > 1.0:
            start, end = structure.xyz[structure.members[m].nodes[0]], structure.xyz[structure.members[m].nodes[-1]]
            way = (end - start) / np.linalg.norm(end - start)
            ends = [(start + way * at) @ basis.T - base for at in (table.start[k], table.end[k])]
            rows.append((ends, (first, last)))
    on = {n for i in inside for n in structure.members[i].nodes}
    forces = [
        (structure.xyz[p.node] @ basis.T - base, p.force @ basis.T)
        for p in chain.loading.points
        if p.case == case and p.node in on and np.linalg.norm(p.force @ basis.T) > 1.0
    ]
    if not rows and not forces:
        return None
    flat = structure.xyz[sorted(on)] @ basis.T - base
    low, high = flat.min(axis=0), flat.max(axis=0)
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), (ROOM[0], 74.0), (24.0, 10.0, 24.0, 18.0))
    for i in plane.members:
        sheet.line(structure.xyz[structure.ends[i]] @ basis.T - base, "outline")
    most = max([float(np.linalg.norm(q)) for _, pair in rows for q in pair], default=1.0)
    said: list[tuple[float, float]] = []
    for ends, pair in rows:
        feet = np.array([sheet.at(*point) for point in ends])
        # a load stands on the side from which it comes
        tips = feet - np.array(pair) * (TALL * 0.7 / most)
        sheet.paper([(float(x), float(y)) for x, y in (*feet, *tips[::-1])], "pressure", True)
        for share in np.linspace(0.0, 1.0, max(2, int(np.linalg.norm(feet[1] - feet[0]) / 6.0) + 1)):
            _arrow(sheet, tips[0] + share * (tips[1] - tips[0]), feet[0] + share * (feet[1] - feet[0]))
        sizes = [float(np.linalg.norm(q)) / 1000 for q in pair]
        spots = [(0.5, sizes[0])] if abs(sizes[0] - sizes[1]) < 0.005 else [(0.04, sizes[0]), (0.96, sizes[1])]
        for share, size in spots:
            tip = tips[0] + share * (tips[1] - tips[0])
            out = tip - (feet[0] + share * (feet[1] - feet[0]))
            out = out / max(float(np.linalg.norm(out)), 1e-9)
            spot = (float(tip[0] + out[0] * 2.6), float(tip[1] + out[1] * 2.4 - 0.8))
            if not any(abs(spot[0] - a) < 8.0 and abs(spot[1] - b) < 2.4 for a, b in said):
                said.append(spot)
                sheet.say(spot, f"{size:.2f}", size=2.1, ground=True)
    for point, force in forces:
        foot = np.array(sheet.at(*point))
        size = float(np.linalg.norm(force))
        tip = foot - force / size * 9.0
        _arrow(sheet, tip, foot)
        sheet.say((float(tip[0]), float(tip[1] + 0.6)), f"{size / 1000:.2f} kN", size=2.1, ground=True)
    return sheet.done()


def _arrow(sheet: Sheet, tip: Floats, foot: Floats) -> None:
    """An arrow whose head is at `foot`; none where it would be shorter than its head."""
    way = foot - tip
    length = float(np.linalg.norm(way))
    if length < 1.6:
        return
    way = way / length
    side = np.array([-way[1], way[0]]) * 0.45
    neck = foot - way * 1.4
    sheet.paper([(float(tip[0]), float(tip[1])), (float(neck[0]), float(neck[1]))], "load")
    sheet.paper([(float(x), float(y)) for x, y in (foot, neck + side, neck - side)], "load", True)


def zones_drawing(structure: Structure, wind: Wind, title: str) -> Drawing | None:
    """The zones of the roofs for one direction of the wind, seen from above, with the way in which it blows."""
    found: list[tuple[str, Floats]] = []
    for zone in wind.zones:
        if zone.panel.kind == "roof" and zone.panel.place != "truss":
            found += [(zone.letter, zone.panel.place_of(part)[:, :2]) for part in cut(zone.panel, zone.points)]
    if not found:
        return None
    points = np.concatenate([part for _, part in found])
    low, high = points.min(axis=0), points.max(axis=0)
    turned = high[1] - low[1] > high[0] - low[0]
    if turned:
        low, high = low[::-1], high[::-1]
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), (105.0, 58.0), (8.0, 6.0, 8.0, 6.0))
    for letter, part in found:
        flat = part[:, ::-1] if turned else part
        sheet.line(flat, "zone", True)
        (x0, y0), (x1, y1) = flat.min(axis=0), flat.max(axis=0)
        size = min(2.6, max(1.4, min(x1 - x0, y1 - y0) * sheet.factor * 0.6))
        x, y = sheet.at((x0 + x1) / 2, (y0 + y1) / 2)
        sheet.say((x, y - size / 3), letter, size=size, bold=True)
    blows = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "front": (0.0, 1.0), "back": (0.0, -1.0)}[wind.direction]
    way = np.array(blows[::-1] if turned else blows)
    middle = np.array([sheet.width, sheet.height]) / 2
    reach = np.abs(way) @ (middle - 4.5)
    tip = middle - way * reach
    side = np.array([-way[1], way[0]])
    sheet.paper([tuple(p) for p in (tip - way * 4, tip)], "load")
    sheet.paper([tuple(p) for p in (tip, tip - way * 1.8 + side, tip - way * 1.8 - side)], "load", True)
    return sheet.done()
