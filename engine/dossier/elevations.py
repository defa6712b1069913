"""Elevations and plans of steel, to scale, with grid, levels and dimensions."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence

import numpy as np

from engine.catalogue.shapes import outline_of
from engine.dossier.drawing import Drawing, Point, Sheet, Style
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure
from engine.structure.planes import Plane
from engine.structure.words import ROLE_WORDS

#: room on the page for a drawing, mm
ROOM = (168.0, 105.0)
#: a member that runs this far along the sight is seen from its end
ENDWAYS = 0.98
#: members of a role and section up to which each bears its name
NAMED = 4


def axes_of(structure: Structure, m: Member) -> Floats:
    """(3, 3) local axes of a member as rows."""
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    found: Floats = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    return found


def outline(structure: Structure, m: Member, plane: Floats) -> tuple[Floats, bool]:
    """A member's outline in the plane of two unit vectors (2, 3): points (k, 2) in metres, and whether it is a closed
    cross-section seen from its end."""
    start, end = structure.xyz[m.nodes[0]], structure.xyz[m.nodes[-1]]
    axes = axes_of(structure, m)
    across = axes[1:]
    shift = m.offset[0] * axes[1] + m.offset[1] * axes[2]
    if abs(float(axes[0] @ np.cross(plane[0], plane[1]))) > ENDWAYS:
        rings = outline_of(m.section)
        if rings:
            return (start + shift + rings[0] @ across) @ plane.T, True
    h, b = m.section.h or 0.1, m.section.b or m.section.h or 0.1
    flat = np.array([start + shift, end + shift]) @ plane.T
    along = flat[1] - flat[0]
    length = float(np.linalg.norm(along))
    if length < 1e-6:
        return flat, False
    along = along / length
    up = np.array([-along[1], along[0]])
    # its depth is seen where the web lies in the plane, its width where the flange does
    width, depth = np.abs((across @ plane.T) @ up)
    half = (h * depth + b * width) / 2
    if (plane @ axes[2]) @ up < 0:
        up = -up
    top = [flat[0] + up * half, flat[1] + up * half]
    below: list[Floats] = []
    first, last = m.haunches
    if first:
        below += [flat[0] - up * (half + first.depth * depth), flat[0] + along * first.length - up * half]
    else:
        below.append(flat[0] - up * half)
    if last:
        below += [flat[1] - along * last.length - up * half, flat[1] - up * (half + last.depth * depth)]
    else:
        below.append(flat[1] - up * half)
    return np.array([*top, *reversed(below)]), False


def in_space(structure: Structure, bearing: float, tilt: float) -> Plane:
    """The whole as it is seen from far away: from a bearing (degrees from X towards Y) at a tilt above the ground."""
    a, b = np.radians([bearing, tilt])
    right = np.array([-np.sin(a), np.cos(a), 0.0])
    up = np.array([-np.sin(b) * np.cos(a), -np.sin(b) * np.sin(a), np.cos(b)])
    # what is far away is drawn first
    middles = np.array([structure.xyz[[m.nodes[0], m.nodes[-1]]].mean(axis=0) for m in structure.members]).reshape(
        -1, 3
    )
    order = np.argsort(middles @ np.cross(right, up), kind="stable")
    u, v = tuple(right.tolist()), tuple(up.tolist())
    return Plane("whole", "space", "The whole building", (0.0, 0.0, 0.0), u, v, tuple(order.tolist()))


def elevation(structure: Structure, plane: Plane, title: str) -> Drawing:
    """The members of a plane with its supports, grid lines, levels and dimensions."""
    return steel_sheet(structure, plane, title, {}).done()


def steel_sheet(structure: Structure, plane: Plane, title: str, styles: Mapping[str, Style]) -> Sheet:
    """The sheet of an elevation, on which more may be drawn. styles: of members by name; none: they bear the names of their sections."""
    basis, origin = np.array([plane.u, plane.v]), np.array(plane.origin)
    members = [structure.members[i] for i in plane.members]
    base = origin @ basis.T
    grid = [
        (line.name, line.at)
        for line in structure.grid
        if line.axis == ("X" if plane.kind == "frame" else "Y") and plane.kind in ("frame", "row")
    ]
    flat = structure.xyz[[n for m in members for n in m.nodes]] @ basis.T - base
    low, high = flat.min(axis=0), flat.max(axis=0)
    for _, at in grid:
        low[0], high[0] = min(low[0], at), max(high[0], at)
    upright = plane.kind in ("frame", "row")
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), ROOM, (16.0, 22.0 if grid else 8.0, 22.0, 13.0))
    if upright:
        sheet.paper([(8.0, sheet.margins[1]), (sheet.width - 20.0, sheet.margins[1])], "ground")
    for name, at in grid:
        x = sheet.at(at, 0)[0]
        sheet.paper([(x, sheet.margins[1] - 13), (x, sheet.height - 6)], "axis")
        sheet.bubble((x, sheet.height - 3), name)
    _members(sheet, structure, members, basis, base, not styles and plane.kind != "space", styles)
    if upright:
        _supports(sheet, structure, members, basis, base)
    if grid:
        places = [at for _, at in grid]
        sheet.across(places, 8.0)
        if len(places) > 2:
            sheet.across([places[0], places[-1]], 3.0)
    if upright:
        _levels(sheet, structure, low[1], high[1])
    return sheet


def _levels(sheet: Sheet, structure: Structure, low: float, high: float) -> None:
    heights = sorted({round(v.height, 3) for v in structure.levels if low - 1e-6 <= v.height <= high + 1e-6})
    heights = sorted({*heights, round(low, 3), round(high, 3)})
    x, before = sheet.width - 14.0, -np.inf
    kept: list[float] = []
    for height in heights:
        y = sheet.at(0, height)[1]
        if y - before < 3.2 and height != heights[-1]:
            continue
        if y - before < 3.2 and kept:
            kept.pop()
        before = y
        kept.append(height)
    for height in kept:
        y = sheet.at(0, height)[1]
        sheet.paper([(x - 3, y), (x + 2, y)], "dimension")
        sheet.paper([(x - 1.2, y + 1.6), (x, y), (x + 1.2, y + 1.6)], "dimension", True)
        sheet.say(
            (x + 2.4, y + 0.4),
            f"{'±' if abs(height) < 5e-4 else '+' if height > 0 else '−'}{abs(height):.2f}",
            align="start",
        )


def _members(
    sheet: Sheet,
    structure: Structure,
    members: Sequence[Member],
    basis: Floats,
    base: Floats,
    named: bool,
    styles: Mapping[str, Style],
) -> None:
    count = Counter((m.role, m.section.name) for m in members)
    later = []
    for m in members:
        points, _ = outline(structure, m, basis)
        sheet.line(points - base, styles.get(m.name, "steel"), True)
        a, b = (structure.xyz[[m.nodes[0], m.nodes[-1]]] @ basis.T - base).tolist()
        start, end = sheet.at(*a), sheet.at(*b)
        if named and count[(m.role, m.section.name)] <= NAMED and np.hypot(end[0] - start[0], end[1] - start[1]) > 14:
            # what crosses another one bears its name beside the crossing
            share = 0.27 if m.role in ("roof bracing", "wall bracing") else 0.5
            later.append((start, end, m.section.name, float(m.section.h or 0.1) * sheet.factor / 2, share))
    for start, end, words, half, share in later:
        _along(sheet, start, end, words, half, share)


def in_words(members: Sequence[Member]) -> str:
    """The sections of a drawing by role: what is too often there to be named in it."""
    rows = list(dict.fromkeys((m.role, m.section.name) for m in members))
    order = list(ROLE_WORDS)
    return " · ".join(
        f"{ROLE_WORDS[role][1]} {section}" for role, section in sorted(rows, key=lambda r: (order.index(r[0]), r[1]))
    )


def _along(sheet: Sheet, start: Point, end: Point, words: str, half: float, share: float) -> None:
    """Words along a line at a share of it, readable from below or from the right."""
    middle = np.array(start) + share * (np.array(end) - start)
    if end[0] < start[0] - 1e-6 or (abs(end[0] - start[0]) <= 1e-6 and end[1] < start[1]):
        start, end = end, start
    angle = float(np.degrees(np.arctan2(end[1] - start[1], end[0] - start[0])))
    up = np.array([-np.sin(np.radians(angle)), np.cos(np.radians(angle))])
    x, y = middle + up * (half + 1.0)
    sheet.say((float(x), float(y)), words, size=2.3, angle=angle, bold=True, ground=True)


def _supports(sheet: Sheet, structure: Structure, members: Sequence[Member], basis: Floats, base: Floats) -> None:
    for node in sorted({n for m in members for n in m.nodes}):
        held = structure.fixed[node] | (structure.springs[node] != 0)
        if not held.any():
            continue
        x, y = sheet.at(*(structure.xyz[node] @ basis.T - base).tolist())
        if held[3:5].any():
            sheet.paper([(x - 2.2, y), (x + 2.2, y), (x + 2.2, y - 1.2), (x - 2.2, y - 1.2)], "restraint", True)
        else:
            sheet.paper([(x, y), (x - 1.5, y - 2.2), (x + 1.5, y - 2.2)], "restraint", True)


def plan(
    structure: Structure,
    members: Sequence[Member],
    title: str,
    named: bool = True,
    bearing: float | None = None,
) -> Drawing | None:
    """Members seen from above, with the grid both ways, and north where the compass bearing of Y is stated; None where there are none."""
    if not members:
        return None
    basis = np.eye(3)[:2]
    flat = structure.xyz[[n for m in members for n in m.nodes]] @ basis.T
    low, high = flat.min(axis=0), flat.max(axis=0)
    across, along = (
        sorted(((line.name, line.at) for line in structure.grid if line.axis == axis), key=lambda line: line[1])
        for axis in "XY"
    )
    for axis, lines in enumerate((across, along)):
        for _, at in lines:
            low[axis], high[axis] = min(low[axis], at), max(high[axis], at)
    # the long side of a hall lies across the page
    turned = high[1] - low[1] > high[0] - low[0]
    if turned:
        # a quarter turn, not a mirror: Y to the right, X downwards
        basis = np.array([[0.0, 1.0, 0.0], [-1.0, 0.0, 0.0]])
        low, high = np.array([low[1], -high[0]]), np.array([high[1], -low[0]])
        across, along = along, [(name, -at) for name, at in reversed(across)]
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), (ROOM[0], 104.0), (20.0, 18.0, 10.0, 10.0))
    for name, at in across:
        x = sheet.at(at, 0)[0]
        sheet.paper([(x, 10), (x, sheet.height - 6)], "axis")
        sheet.bubble((x, sheet.height - 3), name)
    for name, at in along:
        y = sheet.at(0, at)[1]
        sheet.paper([(6, y), (sheet.width - 6, y)], "axis")
        sheet.bubble((3, y), name)
    if named:
        _members(sheet, structure, members, basis, np.zeros(2), True, {})
    else:
        for m in members:
            points, _ = outline(structure, m, basis)
            sheet.line(points, "steel", True)
    sheet.across([at for _, at in across], 6.0)
    if len(across) > 2:
        sheet.across([across[0][1], across[-1][1]], 1.5)
    sheet.upward([at for _, at in along], 13.0)
    if bearing is not None:
        b = np.radians(bearing)
        u, v = basis[:, :2] @ np.array([-np.sin(b), np.cos(b)])
        sheet.north((sheet.width - 6.0, 7.0), (float(u), float(v)))
    return sheet.done()


def alike(structure: Structure, planes: Sequence[Plane]) -> list[list[Plane]]:
    """Planes gathered by what is in them: the same members at the same places of the plane, with the same supports."""
    found: dict[tuple[object, ...], list[Plane]] = {}
    for plane in planes:
        basis = np.array([plane.u, plane.v])
        base = np.array(plane.origin) @ basis.T
        rows = []
        for i in plane.members:
            m = structure.members[i]
            ends = np.round((structure.xyz[[m.nodes[0], m.nodes[-1]]] @ basis.T - base), 3) + 0.0
            held = tuple(structure.fixed[[m.nodes[0], m.nodes[-1]]].ravel().tolist())
            depths = tuple((h.length, h.depth) if h else None for h in m.haunches)
            rows.append((m.role, m.section.name, tuple(map(tuple, sorted(ends.tolist()))), held, depths))
        key = tuple(sorted(map(repr, rows)))
        found.setdefault(key, []).append(plane)
    return list(found.values())


def section_drawing(m: Member, size: float = 34.0) -> Drawing:
    """The cross-section of a member with its depth and width, to scale."""
    h, b = m.section.h or 0.1, m.section.b or m.section.h or 0.1
    rings = outline_of(m.section)
    points = np.concatenate(rings) if rings else np.array([[-b, -h], [b, h]]) / 2
    low, high = points.min(axis=0), points.max(axis=0)
    sheet = Sheet(m.section.name, (low[0], low[1]), (high[0], high[1]), (size + 14, size + 12), (6.0, 8.0, 8.0, 3.0))
    sheet.rings(rings, "steel")
    x0, x1, y0, y1 = (
        *sheet.at(low[0], low[1])[:1],
        sheet.at(high[0], 0)[0],
        sheet.at(0, low[1])[1],
        sheet.at(0, high[1])[1],
    )
    sheet.paper([(x0, 4.0), (x1, 4.0)], "dimension")
    for x in (x0, x1):
        sheet.paper([(x - 0.7, 3.3), (x + 0.7, 4.7)], "dimension")
    sheet.say(((x0 + x1) / 2, 0.8), f"{b * 1000:.4g}", size=2.2)
    right = sheet.width - 4.0
    sheet.paper([(right, y0), (right, y1)], "dimension")
    for y in (y0, y1):
        sheet.paper([(right - 0.7, y - 0.7), (right + 0.7, y + 0.7)], "dimension")
    sheet.say((right + 3.0, (y0 + y1) / 2), f"{h * 1000:.4g}", size=2.2, angle=90.0)
    return sheet.done()
