"""Trusses as two rows of panel points and the webs between them, whatever their outline."""

from __future__ import annotations

from math import hypot
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.errors import ModelError
from engine.jigs.parts import SAME, Materials, Parts, Point
from engine.structure.model import HINGE

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
    bay: str = "",
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
        cuts = bends(points, along) if continuous else along
        for number, (a, b) in enumerate(zip(cuts[:-1], cuts[1:], strict=True), 1):
            name = f"{prefix}/{key}-{number}"
            more: dict[str, Any] = {} if continuous else {"behaviour": "bar"}
            if continuous and held_ends:
                more = {
                    "release_start": HINGE if a == 0 else frozenset(),
                    "release_end": HINGE if b == panels else frozenset(),
                }
            parts.member(
                name,
                role,
                names[row, a],
                names[row, b],
                *part(key),
                jig=jig,
                slot=own[key],
                frame=frame,
                bay=bay,
                **more,
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


def stay_bottom(parts: Parts, prefix: str, points: list[Point], every: int) -> None:
    """Stays from the purlins to the bottom chord at every n-th of its panel points (0: none): they hold both flanges sideways."""
    if not every:
        return
    number = 1
    while (chord := parts.members.get(f"{prefix}/bottom-{number}")) is not None:
        ends = parts.ends(chord.name)
        assert ends
        start, end = np.array(ends[0]), np.array(ends[1])
        length = float(np.linalg.norm(end - start))
        along = (np.array(points[every:-1:every]).reshape(-1, 3) - start) @ (end - start) / length
        held = (0.0, *along[(along > SAME) & (along < length - SAME)].tolist(), length)
        parts.members[chord.name] = chord.but(outer=held, inner=held)
        number += 1


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


def bends(points: list[Point], along: list[int]) -> list[int]:
    """The points at which a row changes direction, with both its ends."""
    cuts = [along[0]]
    for a, b, c in zip(along[:-2], along[1:-1], along[2:], strict=True):
        u, v = np.subtract(points[b], points[a]), np.subtract(points[c], points[b])
        if np.linalg.norm(np.cross(u, v)) > 1e-6 * np.linalg.norm(u) * np.linalg.norm(v):
            cuts.append(b)
    return [*cuts, along[-1]]
