"""Moments drawn on a frame, on the side in tension, with their values; wind zones on the plan of roofs."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.actions.panels import cut
from engine.chain import Chain
from engine.dossier.drawing import Drawing, Sheet
from engine.dossier.elevations import ROOM, axes_of
from engine.standards.en.wind_cases import Wind
from engine.structure.model import Floats, Structure
from engine.structure.planes import Plane

#: height of the largest ordinate on paper, mm
TALL = 17.0


def moments(chain: Chain, plane: Plane, values: Sequence[Floats], title: str) -> Drawing:
    """M_y of the members of a plane. values: one or more (e, s) in Nm over all elements, drawn over one another (an envelope is
    two of them)."""
    structure, elements = chain.structure, chain.response.elements
    basis, origin = np.array([plane.u, plane.v]), np.array(plane.origin)
    base = origin @ basis.T
    x = chain.verification.forces.x
    lines, most = [], 1e-9
    for i in plane.members:
        m = structure.members[i]
        own = np.flatnonzero(elements.member == i)
        axes = axes_of(structure, m)
        across = axes[2] @ basis.T
        if m.bar or np.linalg.norm(across) < 0.5:
            continue
        start = structure.xyz[m.nodes[0]]
        places = elements.positions(x)[own].ravel()
        flat = (start + places[:, None] * axes[0]) @ basis.T - base
        rows = [v[own].ravel() for v in values]
        lines.append((flat, across, rows))
        most = max(most, *(float(np.abs(row).max(initial=0.0)) for row in rows))
    flat = structure.xyz[[n for i in plane.members for n in structure.members[i].nodes]] @ basis.T - base
    low, high = flat.min(axis=0), flat.max(axis=0)
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), (ROOM[0], 88.0), (26.0, 8.0, 26.0, 18.0))
    for points, across, rows in lines:
        sheet.line(points[[0, -1]], "outline")
        for row in rows:
            at = np.array([sheet.at(*p) for p in points.tolist()])
            # tension below (−z) is positive
            tips = at - row[:, None] * across * (TALL / most)
            sheet.paper([tuple(p) for p in np.concatenate([at[:1], tips, at[-1:]]).tolist()], "diagram", True)
    said: list[tuple[float, float]] = []
    for points, across, rows in lines:
        for row in rows:
            spots = {0, len(row) - 1, int(np.abs(row).argmax()), int(row.argmax()), int(row.argmin())}
            for k in sorted(spots, key=lambda k: -abs(row[k])):
                if abs(row[k]) < 0.08 * most:
                    continue
                x0, y0 = sheet.at(*points[k].tolist())
                reach = -row[k] * across * (TALL / most)
                reach = reach * (1 + 2.6 / max(float(np.linalg.norm(reach)), 1e-9))
                spot = (x0 + float(reach[0]), y0 + float(reach[1]) - 0.8)
                if any(abs(spot[0] - a) < 8.5 and abs(spot[1] - b) < 2.6 for a, b in said):
                    continue
                said.append(spot)
                sheet.say(spot, f"{abs(row[k]) / 1000:.1f}", size=2.2, ground=True)
    return sheet.done()


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
