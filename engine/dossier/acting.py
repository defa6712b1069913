"""Loads drawn on a frame with their values; wind zones on the plan of roofs."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.actions.derived import Wind, Zone
from engine.actions.panels import cut
from engine.chain import Chain
from engine.dossier.diagrams import TALL
from engine.dossier.drawing import Drawing, Point, Sheet
from engine.dossier.elevations import ROOM
from engine.report.acting import summed
from engine.structure.model import Floats, Panel
from engine.structure.planes import Plane

#: size of coefficients in zones, mm; between a roof and the walls that are laid flat around it, m
FIGURE, GAP = 1.8, 1.5
#: a quarter turn clockwise
QUARTER = np.array([[0.0, 1.0], [-1.0, 0.0]])


def loads(chain: Chain, plane: Plane, factors: Floats, title: str) -> Drawing | None:
    """What cases with their factors (cases,) put on the members of a plane, in it: line loads as they fall on them with their values in kN/m, forces in kN;
    None where there is nothing."""
    structure = chain.structure
    basis, origin = np.array([plane.u, plane.v]), np.array(plane.origin)
    base = origin @ basis.T
    table = chain.loading.table(structure)
    rows = []
    for load in summed(structure, table, factors, (factors[table.case] != 0) & np.isin(table.member, plane.members)):
        first, last = load.first @ basis.T, load.last @ basis.T
        if max(np.linalg.norm(first), np.linalg.norm(last)) > 1.0:
            m = structure.member(load.member)
            start, end = structure.xyz[m.nodes[0]], structure.xyz[m.nodes[-1]]
            way = (end - start) / np.linalg.norm(end - start)
            ends = [(start + way * at) @ basis.T - base for at in (load.start, load.end or 0.0)]
            rows.append((ends, (first, last)))
    on = {n for i in plane.members for n in structure.members[i].nodes}
    pushed: dict[int, Floats] = defaultdict(lambda: np.zeros(2))
    for p in chain.loading.points:
        if factors[p.case] and p.node in on:
            pushed[p.node] += factors[p.case] * (p.force @ basis.T)
    forces = [
        (structure.xyz[node] @ basis.T - base, force) for node, force in pushed.items() if np.linalg.norm(force) > 1.0
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


def zones_drawing(wind: Wind, title: str) -> Drawing | None:
    """The zones for one direction of the wind with their coefficients: the roofs seen from above, the walls laid flat around them, and the way in which
    it blows. A zone that is too small for its coefficients has its letter alone."""
    found: list[tuple[Zone, Floats]] = []
    for zone in wind.zones:
        if zone.panel.place != "truss" and zone.panel.kind in ("roof", "wall"):
            parts = (zone.panel.place_of(part) for part in cut(zone.panel, zone.points))
            found += [(zone, _laid_out(zone.panel, part)) for part in parts]
    if not found:
        return None
    points = np.concatenate([part for _, part in found])
    low, high = points.min(axis=0), points.max(axis=0)
    turned = high[1] - low[1] > high[0] - low[0]
    if turned:
        # a quarter turn, not a mirror: Y to the right, X downwards
        low, high = np.array([low[1], -high[0]]), np.array([high[1], -low[0]])
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), (ROOM[0], 92.0), (8.0, 7.0, 8.0, 7.0))
    for zone, part in found:
        flat = part @ QUARTER.T if turned else part
        sheet.line(flat, "zone", True)
        (x0, y0), (x1, y1) = flat.min(axis=0), flat.max(axis=0)
        wide, tall = (x1 - x0) * sheet.factor, (y1 - y0) * sheet.factor
        size = min(2.6, max(1.4, min(wide, tall) * 0.6))
        x, y = sheet.at((x0 + x1) / 2, (y0 + y1) / 2)
        words = " / ".join(dict.fromkeys(_coefficients(zone)))
        _say_zone(sheet, (x, y), (wide, tall), zone.letter, size, words)
    blows = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "front": (0.0, 1.0), "back": (0.0, -1.0)}[wind.direction]
    way = QUARTER @ np.array(blows) if turned else np.array(blows)
    middle = np.array([sheet.width, sheet.height]) / 2
    reach = np.abs(way) @ (middle - 4.5)
    tip = middle - way * reach
    side = np.array([-way[1], way[0]])
    sheet.paper([tuple(p) for p in (tip - way * 4, tip)], "load")
    sheet.paper([tuple(p) for p in (tip, tip - way * 1.8 + side, tip - way * 1.8 - side)], "load", True)
    return sheet.done()


def _laid_out(panel: Panel, points: Floats) -> Floats:
    """(k, 2) m: a roof seen from above; a wall laid flat, away from the building."""
    if panel.kind == "roof":
        return points[:, :2]
    outside = panel.outside[:2] / np.linalg.norm(panel.outside[:2])
    found: Floats = points[:, :2] + (points[:, 2] + GAP)[:, None] * outside
    return found


def _coefficients(zone: Zone) -> list[str]:
    """c_pe of both sets, as they are printed."""
    values = zone.own[0] if zone.own is not None else [pair[0] for pair in zone.both]
    return [f"{value:+.2f}".replace("-", "−") for value in values]


def _say_zone(sheet: Sheet, at: Point, room: Point, letter: str, size: float, words: str) -> None:
    """The letter of a zone with its coefficients below it or behind it, along the page or upwards, where there is room; else the letter alone."""
    x, y = at
    length = len(words) * FIGURE * 0.52
    for angle, (along, across) in ((0.0, room), (90.0, room[::-1])):
        turn = np.array([[1.0, 0.0], [0.0, 1.0]] if not angle else [[0.0, 1.0], [-1.0, 0.0]])
        if across > 6.0 and along > length + 1:
            first, second = np.array([[0.0, 0.4], [0.0, -FIGURE - 0.4]]) @ turn
        elif across > FIGURE + 0.6 and along > length + size + 3:
            first, second = np.array([[-length / 2 - 0.6, -size / 3], [size / 2 + 0.4, -FIGURE / 3]]) @ turn
        else:
            continue
        sheet.say((x + float(first[0]), y + float(first[1])), letter, size=size, bold=True, angle=angle)
        sheet.say((x + float(second[0]), y + float(second[1])), words, size=FIGURE, angle=angle)
        return
    sheet.say((x, y - size / 3), letter, size=size, bold=True)
