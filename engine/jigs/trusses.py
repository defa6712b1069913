"""Trusses as two rows of panel points and the webs between them, whatever their outline; and the truss jig."""

from __future__ import annotations

from math import atan2, degrees, hypot, sqrt
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.jigs import TrussJig
from engine.errors import ModelError
from engine.jigs.parts import SAME, Materials, Parts, Point
from engine.structure.model import HINGE, Floats, Panel

#: end of a web: row (“T” top, “B” bottom, “M” middle of a post) and panel point
End = tuple[str, int]
#: name of the web (“post-3”, “diagonal-2”), whether it is a post, its ends
Web = tuple[str, bool, End, End]


def webs(pattern: str, panels: int, apex: int, place: str) -> tuple[list[Web], set[int], set[int]]:
    """Webs between the panel points 0 … panels, with the apex at one of them, and the points used on each chord.

    Pratt: diagonals fall towards the apex, Howe: rise; N: all fall to the right. Warren: zigzag, with posts or without.
    K: from the middle of each post to both chords at the next one outwards. fan: from one point of the bottom chord in
    each half to every point of the top chord. Fink: the W of two panels a half, or its compound of four.
    """
    found: list[Web] = []
    everywhere = set(range(panels + 1))
    top, bottom = set(everywhere), set(everywhere)

    def post(i: int) -> None:
        found.append((f"post-{i}", True, ("T", i), ("B", i)))

    def diagonal(i: int, a: End, b: End, mark: str = "") -> None:
        found.append((f"diagonal-{i}{mark}", False, a, b))

    if pattern in ("Pratt", "Howe", "N"):
        for i in everywhere:
            post(i)
        for i in range(panels):
            falls = pattern == "N" or (i < apex) == (pattern == "Pratt")
            diagonal(i + 1, ("T", i) if falls else ("B", i), ("B", i + 1) if falls else ("T", i + 1))
    elif pattern in ("Warren", "Warren with posts"):
        for i in range(panels):
            # even points lie on the top chord
            diagonal(i + 1, *((("T", i), ("B", i + 1)) if i % 2 == 0 else (("B", i), ("T", i + 1))))
        if pattern == "Warren":
            top = {i for i in everywhere if i % 2 == 0} | {0, panels, apex}
            bottom = {i for i in everywhere if i % 2 == 1} | {0, panels}
            for i in sorted({0, panels} | ({apex} if apex % 2 else set())):
                post(i)
                bottom.add(i)
        else:
            for i in everywhere:
                post(i)
    elif pattern == "K":
        for i in everywhere:
            if i in (0, panels):
                post(i)
                continue
            found.append((f"post-{i}-upper", True, ("T", i), ("M", i)))
            found.append((f"post-{i}-lower", True, ("M", i), ("B", i)))
        for i in range(1, panels):
            outwards = (i - 1,) if i < apex else (i + 1,) if i > apex else (i - 1, i + 1)
            for j in outwards:
                diagonal(i, ("M", i), ("T", j), f"-up{'' if len(outwards) == 1 else '-' + 'lr'[j > i]}")
                diagonal(i, ("M", i), ("B", j), f"-down{'' if len(outwards) == 1 else '-' + 'lr'[j > i]}")
    elif pattern == "fan":
        left, right = max(1, apex // 2), panels - max(1, (panels - apex) // 2)
        bottom = {0, left, right, panels}
        for i in (0, panels):
            post(i)
        for centre, points in ((left, range(apex + 1)), (right, range(apex, panels + 1))):
            for i in points:
                if i == centre:
                    found.append((f"post-{i}", True, ("T", i), ("B", i)))
                else:
                    diagonal(i, ("T", i), ("B", centre), "-left" if centre == left else "-right")
    elif pattern == "Fink":
        if apex * 2 != panels or apex not in (2, 4):
            raise ModelError("A Fink truss has two or four panels in each half.", place)
        bottom = {0, panels}
        for half, sign in ((0, 1), (panels, -1)):
            side = "left" if sign > 0 else "right"
            third = half + sign * (apex * 2 // 3 if apex == 4 else 1)
            bottom.add(third)
            for i in range(1, apex + 1):
                diagonal(i, ("T", half + sign * i), ("B", third), f"-{side}")
        for i in (0, panels):
            post(i)
    else:
        raise ModelError(f"There is no truss pattern “{pattern}”.", place)
    return found, top, bottom


def add_truss(
    parts: Parts,
    materials: Materials,
    prefix: str,
    top: list[Point],
    bottom: list[Point],
    apex: int,
    pattern: str,
    sections: dict[str, str],
    grade: str,
    place: str,
    *,
    jig: str,
    frame: int = 0,
    continuous: bool = True,
    pinned: bool = True,
    held_ends: bool = True,
    slots: dict[str, str] | None = None,
    sections_at: str = "",
) -> tuple[dict[int, str], dict[int, str], list[str]]:
    """Add a truss between two rows of panel points. Gives the nodes of each chord by panel point, and the names of the
    top chord's members from left to right.

    A point whose top and bottom coincide is one node. Chords are cut into members where they change direction. With
    `held_ends` they meet columns: they are hinged where they end, and the columns stand in for the end posts.
    """
    panels = len(top) - 1
    found, on_top, on_bottom = webs(pattern, panels, apex, f"{place}.pattern")
    names: dict[End, str] = {}
    for i in range(panels + 1):
        closed = hypot(*(a - b for a, b in zip(top[i], bottom[i], strict=True))) < SAME
        if i in on_top or closed:
            names["T", i] = parts.node(f"{prefix}/top-{i}", top[i])
        if closed:
            names["B", i] = names["T", i]
        elif i in on_bottom:
            names["B", i] = parts.node(f"{prefix}/bottom-{i}", bottom[i])
    grade_found = materials.material(grade, f"{place}.grade")

    own = slots or {key: key for key in sections}
    sections_at = sections_at or f"{place}.sections"

    def part(key: str) -> tuple[Section, Material]:
        return materials.section(sections[key], f"{sections_at}.{own[key]}"), grade_found

    chord_names: list[str] = []
    for row, points, used, role, key in (
        ("T", top, on_top, "top chord", "top"),
        ("B", bottom, on_bottom, "bottom chord", "bottom"),
    ):
        along = [i for i in range(panels + 1) if (row, i) in names and i in used]
        cuts = _bends(points, along) if continuous else along
        for number, (a, b) in enumerate(zip(cuts[:-1], cuts[1:], strict=True), 1):
            name = f"{prefix}/{key}-{number}"
            more: dict[str, Any] = {} if continuous else {"behaviour": "bar"}
            if continuous and held_ends:
                more = {
                    "release_start": HINGE if a == 0 else frozenset(),
                    "release_end": HINGE if b == panels else frozenset(),
                }
            parts.member(
                name, role, names[row, a], names[row, b], *part(key), jig=jig, slot=own[key], frame=frame, **more
            )
            if row == "T":
                chord_names.append(name)
    middles: dict[int, str] = {}
    drawn: set[frozenset[str]] = set()
    for web, is_post, first, last in found:
        ends = []
        for row, i in (first, last):
            if row == "M":
                if i not in middles:
                    middle = tuple((p + q) / 2 for p, q in zip(top[i], bottom[i], strict=True))
                    middles[i] = parts.node(f"{prefix}/middle-{i}", middle)  # type: ignore[arg-type]
                ends.append(middles[i])
            else:
                ends.append(names[row, i])
        pair = frozenset(ends)
        at_column = held_ends and is_post and first[1] in (0, panels)
        if len(pair) < 2 or pair in drawn or at_column or _same_line(names, ends, panels):
            continue
        drawn.add(pair)
        behaviour = "bar" if pinned and "M" not in (first[0], last[0]) else "bar" if pinned and not is_post else "beam"
        key = "posts" if is_post else "diagonals"
        parts.member(
            f"{prefix}/{web}",
            "web",
            ends[0],
            ends[1],
            *part(key),
            jig=jig,
            slot=own[key],
            frame=frame,
            behaviour=behaviour,
        )
    tops = {i: names["T", i] for i in range(panels + 1) if ("T", i) in names}
    return tops, {i: names["B", i] for i in range(panels + 1) if ("B", i) in names}, chord_names


def _same_line(names: dict[End, str], ends: list[str], panels: int) -> bool:
    """Whether a web would lie on a chord: from the point of a triangular truss along the bottom, or to the next joint on
    top."""
    for corner, following in ((0, 1), (panels, panels - 1)):
        point = names.get(("T", corner))
        if point is None or point != names.get(("B", corner)) or point not in ends:
            continue
        other = ends[1 - ends.index(point)]
        if other == names.get(("T", following)) or other in {n for (row, _), n in names.items() if row == "B"}:
            return True
    return False


def _bends(points: list[Point], along: list[int]) -> list[int]:
    """The points at which a row changes direction, with both its ends."""
    cuts = [along[0]]
    for a, b, c in zip(along[:-2], along[1:-1], along[2:], strict=True):
        u, v = np.subtract(points[b], points[a]), np.subtract(points[c], points[b])
        if np.linalg.norm(np.cross(u, v)) > 1e-6 * np.linalg.norm(u) * np.linalg.norm(v):
            cuts.append(b)
    return [*cuts, along[-1]]


def outline(jig: TrussJig, length: float) -> tuple[list[float], list[float], int]:
    """Distances along the span, heights of the top chord above the bottom one, and the apex's panel point."""
    n, h0, h1 = jig.panels, jig.height_support, jig.height_apex
    if jig.outline == "parallel":
        n2, apex_at = 2 * n, 0.5
        return [length * i / n2 for i in range(n2 + 1)], [h1] * (n2 + 1), n
    if h1 <= h0:
        raise ModelError(
            f"The truss is {h1:g} m high at its apex, not more than {h0:g} m at its supports.", "height_apex"
        )
    if jig.outline == "single pitch":
        return (
            [length * i / (2 * n) for i in range(2 * n + 1)],
            [h0 + (h1 - h0) * i / (2 * n) for i in range(2 * n + 1)],
            2 * n,
        )
    apex_at = 0.5 if jig.outline == "curved" else jig.apex_at
    peak = length * apex_at
    along = [peak * i / n for i in range(n)] + [peak + (length - peak) * i / n for i in range(n + 1)]
    if jig.outline == "double pitch":
        heights = [h0 + (h1 - h0) * (x / peak if x <= peak else (length - x) / (length - peak)) for x in along]
        return along, heights, n
    rise = h1 - h0
    radius = (length**2 / 4 + rise**2) / (2 * rise)
    heights = [h1 - radius + sqrt(max(radius**2 - (x - length / 2) ** 2, 0.0)) for x in along]
    return along, heights, n


def _stand(parts: Parts, foot: str, head: str, angle: float, side: str) -> None:
    """Supports of a truss without columns, in its own axes: held at the left, free to slide along its span at the right;
    both ends held sideways and against twist, at both chords."""
    parts.hold(foot, "x y z rx rz" if side == "left" else "y z rx rz")
    if head != foot:
        parts.hold(head, "y rx")
    if abs(angle) > 1e-9:
        parts.turns[foot] = parts.turns[head] = angle


def _roof(
    parts: Parts,
    jig: TrussJig,
    direction: Floats,
    step: Floats,
    used: list[int],
    along: list[float],
    heights: list[float],
    chords: list[list[str]],
    place: str,
) -> None:
    """Cladding on the top chords from the first truss to the last, a plane panel between the bends of the chord."""
    if jig.repeat.count < 2:
        raise ModelError("Cladding needs at least two trusses to lie on.", f"{place}.roofed")
    top = [np.array(jig.start) + direction * x + np.array([0.0, 0.0, z]) for x, z in zip(along, heights, strict=True)]
    far = (jig.repeat.count - 1) * step
    cuts = _bends([tuple(p) for p in top], used)
    for number, (a, b) in enumerate(zip(cuts[:-1], cuts[1:], strict=True), 1):
        corners = np.array([top[a], top[a] + far, top[b] + far, top[b]])
        outside = np.cross(top[b] - top[a], far)
        outside = outside / np.linalg.norm(outside)
        if outside[2] < 0:
            outside = -outside
        # chords cut at every panel point carry their part of a longer plane
        first, last = (0, len(chords[0])) if len(cuts) == 2 else _pieces(used, cuts, number - 1, len(chords[0]))
        carriers = tuple(name for chord in chords for name in chord[first:last])
        side = "left" if (along[a] + along[b]) / 2 < (along[0] + along[-1]) / 2 else "right"
        pitch = degrees(atan2(abs(heights[b] - heights[a]), along[b] - along[a]))
        span = far / np.linalg.norm(far)
        parts.panels.append(
            Panel(f"{jig.name}/roof-{number}", "roof", corners, outside, span, carriers, side, pitch, place="truss")
        )


def _pieces(used: list[int], cuts: list[int], number: int, chords: int) -> tuple[int, int]:
    """Which of a top chord's members lie in a stretch between two bends."""
    if chords == len(cuts) - 1:
        return number, number + 1
    return used.index(cuts[number]), used.index(cuts[number + 1])


def set_out_truss(parts: Parts, materials: Materials, jig: TrussJig, place: str) -> None:
    """Add the trusses of a truss jig, with their columns or supports. Raises ModelError naming the field."""
    start, end = np.array(jig.start), np.array(jig.end)
    flat = end - start
    length = float(np.linalg.norm(flat))
    if length < 0.5:
        raise ModelError("The two ends of the truss coincide.", f"{place}.end")
    if abs(flat[2]) > 1e-9:
        raise ModelError(
            "The two ends of the truss lie at different heights; its bottom chord is level.", f"{place}.end"
        )
    try:
        along, heights, apex = outline(jig, length)
    except ModelError as error:
        raise ModelError(error.message, f"{place}.{error.place}") from None
    direction = flat / length
    step = np.array(jig.repeat.step)
    if jig.repeat.count > 1 and np.linalg.norm(step) < 0.1:
        raise ModelError(
            "The repeated trusses would stand in one place; give a step of at least 0.1 m.", f"{place}.repeat.step"
        )
    section = jig.sections.model_dump()
    grade = materials.material(jig.grade, f"{place}.grade")
    angle = float(np.arctan2(direction[1], direction[0]))
    heads: list[tuple[str, str, str]] = []
    chords: list[list[str]] = []
    for k in range(jig.repeat.count):
        prefix = f"{jig.name}/{k + 1}"
        origin = start + k * step

        def at(x: float, z: float, origin=origin) -> Point:  # type: ignore[no-untyped-def]
            p = origin + direction * x
            return (float(p[0]), float(p[1]), float(p[2] + z))

        top = [at(x, z) for x, z in zip(along, heights, strict=True)]
        bottom = [at(x, 0.0) for x in along]
        tops, bottoms, chord = add_truss(
            parts,
            materials,
            prefix,
            top,
            bottom,
            apex,
            jig.pattern,
            section,
            jig.grade,
            place,
            jig=jig.name,
            continuous=jig.chords_continuous,
            pinned=jig.webs_pinned,
            held_ends=jig.columns is not None,
        )
        chords.append(chord)
        last = len(along) - 1
        heads.append((tops.get(0, bottoms[0]), tops[apex], tops.get(last, bottoms[last])))
        for side, i in (("left", 0), ("right", last)):
            head = tops.get(i, bottoms[i])
            if jig.columns is None:
                _stand(parts, bottoms[i], head, angle, side)
                continue
            x, y, z = parts.nodes[bottoms[i]]
            foot = parts.node(f"{prefix}/base-{side}", (x, y, z - jig.columns))
            parts.hold(foot, "x y z rx ry rz" if jig.bases == "fixed" else "x y z rz")
            # local z of a column looks outwards along the truss
            roll = angle + (np.pi if side == "right" else 0.0)
            parts.member(
                f"{prefix}/column-{side}",
                "column",
                foot,
                head,
                materials.section(section["columns"], f"{place}.sections.columns"),
                grade,
                roll=float(roll),
                jig=jig.name,
                slot="columns",
            )
    if jig.roofed:
        _roof(parts, jig, direction, step, sorted(tops), along, heights, chords, place)
    if jig.struts:
        strut = materials.section(section["struts"], f"{place}.sections.struts")
        for k, (one, other) in enumerate(zip(heads[:-1], heads[1:], strict=True), 1):
            for words, a, b in zip(("left", "apex", "right"), one, other, strict=True):
                name = f"{jig.name}/strut-{k}-{words}"
                parts.member(
                    name,
                    "strut",
                    a,
                    b,
                    strut,
                    grade,
                    jig=jig.name,
                    slot="struts",
                    release_start=HINGE,
                    release_end=HINGE,
                )
