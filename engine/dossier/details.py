"""Details: a member laid flat with what holds its flanges, and joints with haunches, to scale."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.chain import Chain
from engine.document.base import Haunch
from engine.dossier.drawing import Drawing, Point, Sheet, Style
from engine.dossier.elevations import ROOM, axes_of
from engine.report.ribbon import Ribbon, ribbon
from engine.structure.model import Floats, Member, Structure
from engine.structure.words import ROLE_WORDS, label

#: height of the largest moment on paper, and of the strip along a compressed flange, mm
TALL, STRIP = 11.0, 1.1
#: a member at a joint, the way (1, −1) that it goes from there (0: through it), and the haunch that it has there
Met = tuple[Member, float, Haunch | None]
#: a moment below this is none, Nm
LEAST = 1.0
#: words that are nearer to those before than this have no room, mm
CLOSE = 7.0
#: members this far out of a plane are not drawn in it; sine
FLAT = 0.05


def flanges(chain: Chain, member: int) -> tuple[Drawing, str]:
    """A member laid flat, to scale: outer and inner flange with its haunches, what holds them, where they are compressed as it is bent where
    strength governs, the largest utilisation of each stretch under all combinations, and that moment on the side in tension; in words what is seen."""
    m = chain.structure.members[member]
    found = ribbon(chain, member)
    length, half = chain.structure.length(m), (m.section.h or 0.1) / 2
    inner = _inner_flange(m, length, half)
    low = float(inner[:, 1].min())
    most = max(float(np.abs(found.My).max(initial=0.0)), LEAST)
    down, up = float(found.My.max(initial=0.0)) / most * TALL, -float(found.My.min(initial=0.0)) / most * TALL
    sheet = Sheet(label(m), (0.0, low), (length, half), (ROOM[0], 95.0), (14.0, 22.0 + down + up, 8.0, 15.0))
    outer = np.array([[0.0, half], [length, half]])
    sheet.line(np.concatenate([outer, inner[::-1]]), "steel", True)
    for name, line, places, way in (("outer", outer, m.outer, 1.0), ("inner", inner, m.inner, -1.0)):
        _pressed(sheet, found, line, way)
        _held(sheet, line, places, length, way)
        spans = [s for s in found.spans if s.flange == name]
        _uses(sheet, line, [(s.start, s.end, s.utilisation) for s in spans], way)
        y = sheet.at(0, line[0, 1])[1]
        sheet.say((sheet.margins[0] - 2, y - 0.8), name, size=2.2, align="end")
    _moment(sheet, found, down + 5.0, most)
    words = [f"{m.section.name}, {length:.2f} m, from its start"]
    if found.combination:
        words.append(f"M_y and compressed flanges (strips) in {found.combination}")
        words.append("figures beside the flanges: utilisation of the stretch, the largest of all combinations")
    return sheet.done(), "; ".join(words) + "."


def _inner_flange(m: Member, length: float, half: float) -> Floats:
    first, last = m.haunches
    points = [(0.0, -half - (first.depth if first else 0.0))]
    points += [(min(first.length, length), -half)] if first else []
    points += [(max(length - last.length, 0.0), -half)] if last else []
    points.append((length, -half - (last.depth if last else 0.0)))
    return np.array(points)


def _y(line: Floats, x: float) -> float:
    return float(np.interp(x, line[:, 0], line[:, 1]))


def _pressed(sheet: Sheet, found: Ribbon, line: Floats, way: float) -> None:
    """Strips along a flange where the moment presses it: the outer one (z upwards) where it sags."""
    for a, b in _above(found.x, found.My * way):
        inside = [float(p) for p in line[:, 0] if a < p < b]
        along = [sheet.at(p, _y(line, p)) for p in (a, *inside, b)]
        beyond = [(px, py + way * STRIP) for px, py in along]
        sheet.paper([*along, *reversed(beyond)], "pressure", True)


def _above(x: Floats, values: Floats) -> list[tuple[float, float]]:
    """Stretches along which values are positive, from zero to zero; none where all are nothing."""
    if float(np.abs(values).max(initial=0.0)) < LEAST:
        return []
    there = values > 1e-3 * float(np.abs(values).max())
    edges = np.flatnonzero(np.diff(np.concatenate([[False], there, [False]]).astype(int)))

    def zero(inside: int, outside: int) -> float:
        """Where the values vanish between a station and its neighbour."""
        if not 0 <= outside < len(x):
            return float(x[inside])
        v, w = float(values[inside]), float(values[outside])
        return float(x[inside] + (x[outside] - x[inside]) * min(v / (v - min(w, 0.0)), 1.0))

    return [(zero(a, a - 1), zero(b - 1, b)) for a, b in zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True)]


def _held(sheet: Sheet, line: Floats, places: Sequence[float], length: float, way: float) -> None:
    """Marks where a flange is held, at its ends too, with distances from the start where there is room."""
    before = -np.inf
    for x in sorted({0.0, length, *(round(p, 4) for p in places)}):
        px, py = sheet.at(x, _y(line, x))
        py += way * STRIP
        sheet.paper([(px, py), (px - 1.1, py + way * 2.0), (px + 1.1, py + way * 2.0)], "restraint", True)
        if px - before >= CLOSE and x > 1e-3:
            sheet.say((px, py + way * 9.6 - (0.0 if way > 0 else 1.6)), f"{x:.2f}", size=2.0)
            before = px


def _uses(sheet: Sheet, line: Floats, spans: list[tuple[float, float, float]], way: float) -> None:
    for start, end, use in spans:
        a, b = sheet.at(start, 0)[0], sheet.at(end, 0)[0]
        if b - a < CLOSE - 1 or use < 0.005:
            continue
        y = sheet.at(0, _y(line, (start + end) / 2))[1]
        sheet.say(
            ((a + b) / 2, y + way * (STRIP + 4.6) - (0.0 if way > 0 else 1.6)), f"{use:.2f}", size=2.2, bold=use > 1
        )


def _moment(sheet: Sheet, found: Ribbon, base: float, most: float) -> None:
    """The moment below, on the side in tension: what sags is drawn downwards."""
    if not len(found.x):
        return
    left, right = sheet.at(float(found.x[0]), 0)[0], sheet.at(float(found.x[-1]), 0)[0]
    sheet.paper([(left, base), (right, base)], "axis")
    if float(np.abs(found.My).max()) < LEAST:
        return
    spots = [sheet.at(float(x), 0)[0] for x in found.x]
    tips = [(px, base - float(v) / most * TALL) for px, v in zip(spots, found.My, strict=True)]
    sheet.paper([(left, base), *tips, (right, base)], "diagram", True)
    said: list[float] = []
    for k in sorted(
        {0, len(tips) - 1, int(found.My.argmax()), int(found.My.argmin())}, key=lambda k: -abs(found.My[k])
    ):
        px, py = tips[k]
        if abs(found.My[k]) < 0.08 * most or any(abs(px - other) < 2 * CLOSE for other in said):
            continue
        said.append(px)
        unit = " kNm" if len(said) == 1 else ""
        sheet.say(
            (px, py + (0.8 if found.My[k] < 0 else -2.6)), f"{found.My[k] / 1000:.1f}{unit}".replace("-", "−"), size=2.2
        )


def haunched_joints(structure: Structure) -> list[tuple[list[int], Drawing, str]]:
    """Each different joint at which a haunch begins: the nodes where it is, drawn once, and in words."""
    kinds: dict[tuple[object, ...], list[int]] = {}
    for node in sorted(structure.meeting):
        parts = _meeting(structure, node)
        if any(haunch for _, _, haunch in parts):
            kinds.setdefault(_alike(structure, _in_plane(structure, parts)[0]), []).append(node)
    return [(nodes, *_joint(structure, nodes[0])) for nodes in kinds.values()]


def _meeting(structure: Structure, node: int) -> list[Met]:
    """Members that bear bending at a node."""
    found: list[Met] = []
    for i in structure.meeting[node]:
        m = structure.members[i]
        if m.bar or m.behaviour == "rigid link":
            continue
        if m.nodes[0] == node:
            found.append((m, 1.0, m.haunches[0]))
        elif m.nodes[-1] == node:
            found.append((m, -1.0, m.haunches[1]))
        else:
            found.append((m, 0.0, None))
    return found


def _alike(structure: Structure, parts: list[Met]) -> tuple[object, ...]:
    rows = []
    for m, way, haunch in parts:
        along = axes_of(structure, m)[0] * (way or 1.0)
        rows.append((m.role, m.section.name, repr(haunch), way == 0.0, round(float(along[2]), 3)))
    return tuple(sorted(rows))


def _in_plane(structure: Structure, parts: list[Met]) -> tuple[list[Met], Floats]:
    """Those that lie in the plane in which the first one with a haunch bends, and that plane: to the right and upwards, (2, 3)."""
    axes = axes_of(structure, next(m for m, _, haunch in parts if haunch))
    normal = axes[1]
    up = np.array([0.0, 0.0, 1.0]) - normal * normal[2]
    up = up / np.linalg.norm(up) if np.linalg.norm(up) > FLAT else axes[2]
    right = np.cross(up, normal)
    right = -right if right @ np.array([1.0, 1.0, 0.0]) < 0 else right
    drawn = [part for part in parts if abs(float(axes_of(structure, part[0])[0] @ normal)) < FLAT]
    return drawn, np.array([right, up])


def _joint(structure: Structure, node: int) -> tuple[Drawing, str]:
    drawn, plane = _in_plane(structure, _meeting(structure, node))
    up = plane[1]
    first = next(m for m, _, haunch in drawn if haunch)
    # what goes on upright covers what ends on it
    drawn.sort(key=lambda part: abs(float(axes_of(structure, part[0])[0] @ up)))
    reach = max(h.length for _, _, h in drawn if h)
    deep = max(h.depth + (m.section.h or 0.1) for m, _, h in drawn if h)
    stubs = [_stub(structure, m, way, haunch, plane, 1.3 * reach if haunch else 1.8 * deep) for m, way, haunch in drawn]
    corners = np.concatenate([np.concatenate(lines) for lines, _ in stubs])
    low, high = corners.min(axis=0), corners.max(axis=0)
    sheet = Sheet(
        f"Haunch of {label(first)}", (low[0], low[1]), (high[0], high[1]), (ROOM[0], 92.0), (18.0, 6.0, 18.0, 8.0)
    )
    for lines, _ in stubs:
        for k, line in enumerate(lines):
            sheet.line(line, "steel" if k == 0 else "outline", k == 0)
    behind = max(((m.section.h or 0.1) / 2 for m, _, haunch in drawn if not haunch), default=0.0) * sheet.factor
    for (_, _, haunch), (_, dimension) in zip(drawn, stubs, strict=True):
        if haunch:
            _measured(sheet, haunch, dimension, behind)
    return sheet.done(), _in_words(drawn)


def _stub(
    structure: Structure, m: Member, way: float, haunch: Haunch | None, plane: Floats, reach: float
) -> tuple[list[Floats], Floats]:
    """A member near a joint, from it outwards as far as it is drawn, in the plane: its outline and the line between it and its haunch; and the corners that are measured."""
    axes = axes_of(structure, m)
    along = plane @ (axes[0] * (way or 1.0))
    upwards = plane @ axes[2]
    half = (m.section.h or 0.1) / 2
    length = min(structure.length(m), reach)
    start, end = (-half if way else -length / 2), (length if way else length / 2)
    if haunch is None:
        points = [along * x + upwards * z for x, z in ((start, half), (end, half), (end, -half), (start, -half))]
        return [np.array(points)], np.zeros((0, 2))
    depth, tip = haunch.depth, haunch.length
    outline = ((0.0, half), (end, half), (end, -half), (tip, -half), (0.0, -half - depth))
    seam = ((0.0, -half), (tip, -half))
    measured = ((0.0, half), (tip, half), (0.0, -half), (0.0, -half - depth), (tip, -half))
    return [np.array([along * x + upwards * z for x, z in line]) for line in (outline, seam)], np.array(
        [along * x + upwards * z for x, z in measured]
    )


def _measured(sheet: Sheet, haunch: Haunch, corners: Floats, behind: float) -> None:
    """Length along the member, above it, and depth beyond what it ends on (behind: mm of paper)."""
    style: Style = "dimension"
    a, b, c, d, _ = (np.array(sheet.at(*p)) for p in corners.tolist())
    along, deep = (b - a) / np.linalg.norm(b - a), (c - d) / np.linalg.norm(c - d)

    def chain(p: Floats, q: Floats, aside: Floats, words: str) -> None:
        p, q = p + aside, q + aside
        way = (q - p) / np.linalg.norm(q - p)
        cross = np.array([-way[1], way[0]]) * 1.2
        sheet.paper([_point(p), _point(q)], style)
        for at in (p, q):
            sheet.paper([_point(at - cross), _point(at + cross)], style)
        angle = float(np.degrees(np.arctan2(way[1], way[0])))
        angle = angle - 180 if angle > 90 else angle + 180 if angle <= -90 else angle
        lift = np.array([-np.sin(np.radians(angle)), np.cos(np.radians(angle))]) * 0.8
        sheet.say(_point((p + q) / 2 + lift), words, size=2.2, angle=angle, ground=True)

    chain(a, b, deep * 3.4, f"{haunch.length:.2f}")
    chain(d, c, -along * (behind + 5.5), f"{haunch.depth:.2f}")


def _point(at: Floats) -> Point:
    return float(at[0]), float(at[1])


def _in_words(parts: list[Met]) -> str:
    found = []
    for m, _, haunch in parts:
        words = f"{ROLE_WORDS[m.role][0]} {m.section.name}"
        if haunch:
            made = (
                f"cut from {haunch.section or m.section.name}"
                if haunch.made_of == "cut"
                else (
                    f"of plates: web {1000 * haunch.web:g} mm, flange {1000 * haunch.flange_width:g} × {1000 * haunch.flange:g} mm"
                )
            )
            words += f", haunch {haunch.length:.2f} m long and {1000 * haunch.depth:.0f} mm deep, {made}"
        found.append(words)
    return "; ".join(dict.fromkeys(found)) + "."
