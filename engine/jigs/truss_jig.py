"""The truss jig: trusses between two points or on columns, repeated, with what stands between them and lies on them."""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2, degrees, sqrt

import numpy as np

from engine.document.jigs import TrussJig
from engine.errors import ModelError
from engine.jigs.parts import SAME, Materials, Parts, Point, Uprights
from engine.jigs.trusses import add_truss, bends, stay_bottom
from engine.structure.model import HINGE, Floats, Panel


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
    step: Floats,
    used: list[int],
    top: list[Floats],
    chords: list[list[str]],
    purlins: dict[int, list[str]],
    place: str,
) -> None:
    """Cladding on the top chords from the first truss to the last, a plane panel between the bends of the chord: carried by the
    chords, or by the purlins where there are some."""
    if jig.repeat.count < 2:
        raise ModelError("Cladding needs at least two trusses to lie on.", f"{place}.roofed")
    far = (jig.repeat.count - 1) * step
    cuts = bends([tuple(p) for p in top], used)
    ends = top[used[0]], top[used[-1]]
    for number, (a, b) in enumerate(zip(cuts[:-1], cuts[1:], strict=True), 1):
        corners = np.array([top[a], top[a] + far, top[b] + far, top[b]])
        outside = np.cross(top[b] - top[a], far)
        outside = outside / np.linalg.norm(outside)
        if outside[2] < 0:
            outside = -outside
        # chords cut at every panel point carry their part of a longer plane
        first, last = (0, len(chords[0])) if len(cuts) == 2 else _pieces(used, cuts, number - 1, len(chords[0]))
        carriers = tuple(name for chord in chords for name in chord[first:last])
        span = far / np.linalg.norm(far)
        if purlins:
            carriers = tuple(name for i in used if a <= i <= b for name in purlins[i])
            span = (top[b] - top[a]) / np.linalg.norm(top[b] - top[a])
        run = [float(np.linalg.norm((p - ends[0])[:2])) for p in (top[a], top[b], ends[1])]
        side = "left" if (run[0] + run[1]) / 2 < run[2] / 2 else "right"
        pitch = degrees(atan2(abs(float(top[b][2] - top[a][2])), run[1] - run[0]))
        parts.panels.append(
            Panel(
                f"{jig.name}/roof-{number}",
                "roof",
                corners,
                outside,
                span,
                carriers,
                side,
                pitch,
                place="truss",
                jig=jig.name,
            )
        )


def _pieces(used: list[int], cuts: list[int], number: int, chords: int) -> tuple[int, int]:
    """Which of a top chord's members lie in a stretch between two bends."""
    if chords == len(cuts) - 1:
        return number, number + 1
    return used.index(cuts[number]), used.index(cuts[number + 1])


def _placed(parts: Parts, jig: TrussJig, place: str) -> tuple[Floats, Floats]:
    """Ends of the first truss's bottom chord. Raises ModelError where they are not at one height, or coincide."""
    start, end = np.array(jig.start), np.array(jig.end)
    if jig.on is not None:
        if len(jig.on) != 2 or jig.on[0] == jig.on[1]:
            raise ModelError(f"The truss “{jig.name}” stands on two columns: name both.", f"{place}.on")
        start, end = (_head(parts, name, f"{place}.on.{i}") for i, name in enumerate(jig.on))
        if abs(start[2] - end[2]) > SAME:
            raise ModelError(
                f"The heads of “{jig.on[0]}” and “{jig.on[1]}” lie {abs(start[2] - end[2]) * 1000:.0f} mm apart in height; "
                "a truss needs them level.",
                f"{place}.on.1",
            )
        if jig.seat == "top chord":
            # where the chords meet at the supports there is one node, else the bottom chord meets the columns below their heads
            depth = np.array([0.0, 0.0, jig.height_apex if jig.outline == "parallel" else jig.height_support])
            start, end = start - depth, end - depth
    flat = end - start
    if np.linalg.norm(flat) < 0.5:
        raise ModelError("The two ends of the truss coincide.", f"{place}.end")
    if abs(flat[2]) > 1e-9:
        raise ModelError(
            "The two ends of the truss lie at different heights; its bottom chord is level.", f"{place}.end"
        )
    return start, end


def _head(parts: Parts, name: str, place: str) -> Floats:
    """The upper end of an upright member, of a jig before this one or by hand."""
    ends = parts.ends(name)
    if ends is None:
        raise ModelError(f"There is no column “{name}” below this jig; jigs stand on what comes before them.", place)
    low, high = sorted((np.array(p) for p in ends), key=lambda p: float(p[2]))
    if high[2] - low[2] < 0.1 or np.linalg.norm((high - low)[:2]) > 0.1 * (high[2] - low[2]):
        raise ModelError(f"“{name}” does not stand upright: a truss stands on columns.", place)
    return np.asarray(high)


def _meets_steel(standing: Uprights, jig: TrussJig, k: int, points: list[Point], place: str) -> None:
    """Raise ModelError where a repeated truss would end in the air."""
    for point in points:
        if not standing.bear(point):
            x, y, z = point
            raise ModelError(
                f"Truss {k} of “{jig.name}” would end in the air at {x:g}, {y:g}, {z:g}: no column stands there.",
                f"{place}.repeat",
            )


def set_out_truss(parts: Parts, materials: Materials, jig: TrussJig, place: str) -> None:
    """Add the trusses of a truss jig, with their columns or supports. Raises ModelError naming the field."""
    start, end = _placed(parts, jig, place)
    flat = end - start
    length = float(np.linalg.norm(flat))
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
    rows: list[dict[int, str]] = []
    heads: list[tuple[str, str, str]] = []
    chords: list[list[str]] = []
    last = len(along) - 1
    standing = parts.uprights()
    on_columns = jig.on is not None and jig.seat == "top chord"
    for k in range(jig.repeat.count):
        prefix = f"{jig.name}/{k + 1}"
        origin = start + k * step

        def at(x: float, z: float, origin=origin) -> Point:  # type: ignore[no-untyped-def]
            p = origin + direction * x
            return (float(p[0]), float(p[1]), float(p[2] + z))

        top = [at(x, z) for x, z in zip(along, heights, strict=True)]
        bottom = [at(x, 0.0) for x in along]
        if jig.on is not None:
            _meets_steel(standing, jig, k + 1, [(top if on_columns else bottom)[i] for i in (0, last)], place)
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
            held_ends=jig.columns is not None or on_columns,
        )
        if jig.purlins:
            stay_bottom(parts, prefix, bottom, jig.stay_every)
        chords.append(chord)
        rows.append(tops)
        heads.append((tops.get(0, bottoms[0]), tops[apex], tops.get(last, bottoms[last])))
        if jig.on is not None:
            continue
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
    used = sorted(i for i in range(len(along)) if all(i in row for row in rows))
    purlins: dict[int, list[str]] = {}
    if jig.purlins:
        for i in used:
            names = [f"{jig.name}/purlin-{i}-{k}" for k in range(1, len(rows))]
            lean = _lean(along, heights, used, i, float(direction @ np.cross(step, (0.0, 0.0, 1.0))), step)
            _between(parts, materials, jig, "purlins", "purlin", names, [row[i] for row in rows], place, lean)
            purlins[i] = names
    elif jig.struts:
        for words, nodes in zip(("left", "apex", "right"), zip(*heads, strict=True), strict=True):
            names = [f"{jig.name}/strut-{k}-{words}" for k in range(1, len(rows))]
            _between(parts, materials, jig, "struts", "strut", names, list(nodes), place)
    _rods(parts, materials, jig, rows, used, place)
    if jig.roofed:
        line = [start + direction * x + np.array([0.0, 0.0, z]) for x, z in zip(along, heights, strict=True)]
        _roof(parts, jig, step, used, line, chords, purlins, place)


def _between(
    parts: Parts,
    materials: Materials,
    jig: TrussJig,
    slot: str,
    role: str,
    names: list[str],
    nodes: list[str],
    place: str,
    roll: float = 0.0,
) -> None:
    """Hinged members from truss to truss through one node of each, turned about themselves."""
    section = materials.section(getattr(jig.sections, slot), f"{place}.sections.{slot}")
    grade = materials.material(jig.grade, f"{place}.grade")
    for name, a, b in zip(names, nodes[:-1], nodes[1:], strict=True):
        own = {"jig": jig.name, "slot": slot, "roll": roll}
        parts.member(name, role, a, b, section, grade, release_start=HINGE, release_end=HINGE, **own)


def _lean(
    along: Sequence[float], heights: Sequence[float], used: list[int], i: int, across: float, step: Floats
) -> float:
    """Radians by which what runs from truss to truss by `step` is turned about itself to stand at right angles to the chord at a panel point: the mean of
    both sides of it. across: along the truss, of what lies level at right angles to the step."""
    j = used.index(i)
    a, b = used[max(j - 1, 0)], used[min(j + 1, len(used) - 1)]
    slope = (heights[b] - heights[a]) / (along[b] - along[a]) if a != b else 0.0
    return float(np.arctan2(-slope * across / max(float(np.linalg.norm(step)), 1e-9), 1.0))


def _rods(
    parts: Parts, materials: Materials, jig: TrussJig, rows: list[dict[int, str]], used: list[int], place: str
) -> None:
    """Crossing rods along the top chords in the braced fields. Raises ModelError for a field that is not there."""
    fields = len(rows) - 1
    for n, bay in enumerate(jig.braced):
        k = bay - 1 if bay > 0 else fields + bay
        if bay == 0 or not 0 <= k < fields:
            words = f"{fields} fields" if fields != 1 else "one field"
            raise ModelError(f"“{jig.name}” has {words} between its trusses; there is no {bay}.", f"{place}.braced.{n}")
        section = materials.section(jig.sections.bracing, f"{place}.sections.bracing")
        grade = materials.material(jig.grade, f"{place}.grade")
        behaviour = "tension-only" if jig.tension_only else "bar"
        for a, b in zip(used[:-1], used[1:], strict=True):
            for mark, one, other in (("up", rows[k][a], rows[k + 1][b]), ("down", rows[k + 1][a], rows[k][b])):
                parts.member(
                    f"{jig.name}/rod-{k + 1}-{a}-{mark}",
                    "roof bracing",
                    one,
                    other,
                    section,
                    grade,
                    behaviour=behaviour,
                    jig=jig.name,
                    slot="bracing",
                )
