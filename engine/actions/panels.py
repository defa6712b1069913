"""From pressures on panels to line loads on the members that carry them.

The cladding is simply supported between neighbouring carriers, and each takes half of the field on either side of it
(tributary width). A pressure on any polygon so becomes line loads that run linearly between the places where the polygon
or the limits between the carriers turn; they are exact for a pressure that does not vary along the span.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
import shapely
import shapely.affinity
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from engine.actions.cases import LineTable, Loading, SurfaceLoad
from engine.derivation import Reason
from engine.document.base import LiesOn
from engine.structure.model import Floats, Ints, Panel, Structure

DOWN = np.array([0.0, 0.0, -1.0])
#: coordinates nearer than this are the same, in metres
SAME = 1e-6
_FAR = 1e6
#: in place of a member's number: the ground
GROUND = -1


def outline(panel: Panel) -> BaseGeometry:
    """The panel in its own coordinates, its openings cut out."""
    whole: BaseGeometry = Polygon(panel.flat(panel.corners))
    for opening in panel.openings:
        whole = whole.difference(Polygon(panel.flat(opening)))
    return whole


def cut(panel: Panel, points: Floats) -> list[Floats]:
    """The parts of the panel within a polygon (k, 3) in space: (k, 2) each, in the panel's coordinates."""
    return pieces(outline(panel).intersection(Polygon(panel.flat(points))))


def pieces(shape: shapely.Geometry) -> list[Floats]:
    """The simple polygons of a shape; one with holes is cut into pieces without."""
    found: list[Floats] = []
    for part in getattr(shape, "geoms", [shape]):
        if part.geom_type != "Polygon" or part.area < 1e-9:
            continue
        if part.interiors:
            # cut it across the middle of its first hole
            middle = part.interiors[0].centroid.y
            x0, y0, x1, y1 = part.bounds
            for low, high in ((y0 - 1, middle), (middle, y1 + 1)):
                found += pieces(part.intersection(shapely.box(x0 - 1, low, x1 + 1, high)))
        else:
            found.append(np.array(part.exterior.coords)[:-1])
    return found


def press(
    loading: Loading,
    case: int,
    panel: Panel,
    direction: Floats,
    pressure: float | tuple[float, float, float],
    within: Floats | None = None,
    zone: str = "",
    why: str = "",
    excluded: frozenset[str] = frozenset(),
    reason: Reason | None = None,
    kind: LiesOn = "area",
    reach: float = 1.0,
) -> None:
    """Load a panel, or the part of it within a polygon (k, 3), with a pressure in N/m² of its surface.

    pressure: even, or at the panel's origin with its change along s and t; none at all is kept to be told. The expected resultant
    is pressure times area. What acts on cladding beyond the lines of the steel is spread over the area between them. kind, reach: as of a
    SurfaceLoad.
    """
    terms = pressure if isinstance(pressure, tuple) else (pressure, 0.0, 0.0)
    if panel.cover != 1:
        terms = (terms[0] * panel.cover, terms[1] * panel.cover, terms[2] * panel.cover)
        why += f"{' · ' if why else ''}{panel.cover:.3f} (cladding over the area between the lines of the steel)"
        if reason:
            reason = replace(reason, values={**reason.values, "cover": panel.cover})
    key = (panel.name, b"" if within is None else within.tobytes())
    if key not in loading.regions:
        parts = pieces(outline(panel)) if within is None else cut(panel, within)
        shapes = [Polygon(part) for part in parts]
        loading.regions[key] = [
            (part, shape.area, np.array(shape.centroid.coords[0])) for part, shape in zip(parts, shapes, strict=True)
        ]
    for polygon, area, middle in loading.regions[key]:
        load = SurfaceLoad(case, panel.name, polygon, terms, direction, zone, why, excluded, reason, kind, reach)
        loading.surfaces.append(load)
        loading.expected[case] = loading.expected[case] + direction * load.at(middle) * area


@dataclass(frozen=True)
class Fields:
    """The fields of a panel that each carrier takes: n of them, each between two distances s, and two lines low and high.

    member: (n,); s: (n, 2); low, high: (n, 2) values of t at both ends of s; start: (n,) distance along the member at
    s[:, 0]; rate: (n,) metres of member per metre of s (negative: it runs backwards). clip: polygon that bounds the
    field, None: the panel's.
    """

    member: Ints
    s: Floats
    low: Floats
    high: Floats
    start: Floats
    rate: Floats
    clip: Polygon | None = None


def fields(panel: Panel, structure: Structure) -> list[tuple[Floats, Fields]]:
    """What each carrier takes, with the (2, 2) turn from the panel's coordinates to those of the fields."""
    lines = np.array([structure.xyz[list(structure.member(name).nodes)][[0, -1]] for name in panel.carriers])
    numbers = np.array([structure.index[name] for name in panel.carriers], dtype=np.int64)
    if panel.grounded is not None:
        lines, numbers = np.concatenate([lines, np.stack(panel.grounded)[None]]), np.append(numbers, GROUND)
    if not len(lines):
        return []
    flat = panel.flat(lines)
    if not panel.two_way:
        return [(np.eye(2), _fields(flat, numbers, Polygon(panel.flat(panel.corners))))]
    # two ways: each point goes to the side that is nearest of those that bear, by lines at 45°
    corners = panel.flat(panel.corners)
    middle = corners.mean(axis=0)
    bearing = []
    for a, b in zip(corners, np.roll(corners, -1, axis=0), strict=True):
        along = (b - a) / np.linalg.norm(b - a)
        inward = np.array([-along[1], along[0]])
        inward = inward if inward @ (middle - a) > 0 else -inward
        on = (np.abs((flat - a) @ inward) < 1e-3).all(axis=1)
        if _borne_along((flat[on] - a) @ along, float(np.linalg.norm(b - a))):
            bearing.append((a, along, inward, on))
    found = []
    for k, (a, along, inward, on) in enumerate(bearing):
        part = corners
        for j, (other, _, away, _) in enumerate(bearing):
            if j != k and len(part):
                part = _nearer(part, (part - a) @ inward - (part - other) @ away)
        if len(part) > 2:
            turn = np.stack([along, inward])
            found.append((turn, _fields(flat[on] @ turn.T, numbers[on], Polygon(part @ turn.T))))
    return found


def _borne_along(lines: Floats, length: float) -> bool:
    """Whether members (m, 2), from start to end along a side, bear all of its length."""
    at = 0.0
    for start, end in sorted((min(line), max(line)) for line in lines.tolist()):
        if start > at + 1e-3:
            return False
        at = max(at, end)
    return at > length - 1e-3


def _nearer(points: Floats, value: Floats) -> Floats:
    """The part of a convex polygon (k, 2) where what is `value` (k,) at its corners and linear between is not positive."""
    found = []
    for p, q, v, w in zip(points, np.roll(points, -1, axis=0), value, np.roll(value, -1), strict=True):
        if v <= SAME:
            found.append(p)
        if (v < -SAME and w > SAME) or (v > SAME and w < -SAME):
            found.append(p + (q - p) * v / (v - w))
    return np.array(found).reshape(-1, 2)


def _fields(flat: Floats, numbers: Ints, clip: Polygon) -> Fields:
    """Fields of carriers (m, 2, 2) from start to end in coordinates (s, t); those along the span take nothing."""
    lengths = np.linalg.norm(flat[:, 1] - flat[:, 0], axis=1)
    run = flat[:, 1, 0] - flat[:, 0, 0]
    crossing = np.abs(run) > 1e-3
    flat, numbers, lengths, run = flat[crossing], numbers[crossing], lengths[crossing], run[crossing]
    s0, _, s1, _ = clip.bounds
    near, far = flat[:, :, 0].min(axis=1), flat[:, :, 0].max(axis=1)
    breaks = np.unique(np.round(np.concatenate([[s0, s1], near, far]), 9))
    breaks = breaks[(breaks > s0 - SAME) & (breaks < s1 + SAME)]
    slope = (flat[:, 1, 1] - flat[:, 0, 1]) / run
    rows: list[tuple[Ints, Floats, Floats, Floats]] = []
    for a, b in zip(breaks[:-1], breaks[1:], strict=True):
        if b - a < 1e-5:
            continue
        active = np.flatnonzero((near < a + 1e-5) & (far > b - 1e-5))
        if not len(active):
            continue
        at = flat[active, 0, 1, None] + slope[active, None] * (np.array([a, b]) - flat[active, 0, 0, None])
        order = np.argsort(at.mean(axis=1), kind="stable")
        active, at = active[order], at[order]
        middles = (at[:-1] + at[1:]) / 2
        edge = np.full((1, 2), _FAR)
        rows.append(
            (
                active,
                np.tile([a, b], (len(active), 1)),
                np.concatenate([-edge, middles]),
                np.concatenate([middles, edge]),
            )
        )
    if not rows:
        none = np.zeros((0, 2))
        return Fields(np.zeros(0, dtype=np.int64), none, none, none, np.zeros(0), np.zeros(0), clip)
    which = np.concatenate([row[0] for row in rows])
    s, low, high = (np.concatenate([row[k] for row in rows]) for k in (1, 2, 3))
    rate = (lengths / run)[which]
    return Fields(numbers[which], s, low, high, (s[:, 0] - flat[which, 0, 0]) * rate, rate, clip)


def areas(panel: Panel, structure: Structure) -> dict[str, list[Floats]]:
    """By carrier the parts of the panel that it takes, (k, 2) each in the panel's coordinates."""
    whole = outline(panel)
    found: dict[str, list[Floats]] = {}
    for turn, f in fields(panel, structure):
        for member, s, low, high in zip(f.member.tolist(), f.s, f.low, f.high, strict=True):
            strip: BaseGeometry = Polygon([(s[0], low[0]), (s[1], low[1]), (s[1], high[1]), (s[0], high[0])])
            if f.clip is not None:
                strip = strip.intersection(f.clip)
            back = shapely.affinity.affine_transform(strip, [*turn.T.ravel(), 0, 0])
            if member != GROUND:
                found.setdefault(structure.members[member].name, []).extend(pieces(back.intersection(whole)))
    return found


def chords(polygons: Floats, f: Fields) -> tuple[Ints, Ints, Floats, Floats]:
    """Where and how wide polygons (p, k, 2) without holes lie in each field.

    Gives the polygon and the field of each stretch (n,), polygon by polygon, its ends s (n, 2), and at both ends (n, 2, 2): the width,
    and the integral of t over it. Between the ends the width runs linearly.
    """
    x, y = polygons[..., 0], polygons[..., 1]
    backwards = (x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum(axis=1) < 0
    polygons = np.where(backwards[:, None, None], polygons[:, ::-1], polygons)
    # pairs of a polygon and a field over which it lies
    least_s, most_s = polygons[..., 0].min(axis=1), polygons[..., 0].max(axis=1)
    which, number = np.nonzero((f.s[:, 1] > least_s[:, None] + SAME) & (f.s[:, 0] < most_s[:, None] - SAME))
    a, b = polygons[which], np.roll(polygons, -1, axis=1)[which]
    ds = b[..., 0] - a[..., 0]
    slanted = np.abs(ds) > 1e-9
    rise = np.divide(b[..., 1] - a[..., 1], ds, out=np.zeros_like(ds), where=slanted)
    base = a[..., 1] - rise * a[..., 0]
    s, low, high = f.s[number], f.low[number], f.high[number]
    width = (s[:, 1] - s[:, 0])[:, None]
    # limits as lines t = p + r s
    r = np.stack([low[:, 1] - low[:, 0], high[:, 1] - high[:, 0]], axis=1) / width
    p = np.stack([low[:, 0], high[:, 0]], axis=1) - r * s[:, :1]
    with np.errstate(divide="ignore", invalid="ignore"):
        crossing = (p[:, :, None] - base[:, None]) / (rise[:, None] - r[:, :, None])
    meets = np.isfinite(crossing) & slanted[:, None]
    crossing = np.where(meets, crossing, s[:, :1, None]).reshape(len(number), -1)
    marks = np.concatenate([s, a[..., 0], crossing], axis=1)
    marks = np.sort(np.clip(marks, s[:, :1], s[:, 1:]), axis=1)
    left, right = marks[:, :-1], marks[:, 1:]
    middle = (left + right) / 2
    least, most = np.minimum(a[..., 0], b[..., 0])[:, None], np.maximum(a[..., 0], b[..., 0])[:, None]
    over = (middle[:, :, None] > least) & (middle[:, :, None] < most) & ((right - left)[:, :, None] > 1e-9)
    sign = np.where(over & slanted[:, None], -np.sign(ds)[:, None], 0.0)
    values = []
    for at in (left, right):
        t = base[:, None] + rise[:, None] * at[:, :, None]
        t = np.clip(t, (p[:, :1] + r[:, :1] * at)[:, :, None], (p[:, 1:] + r[:, 1:] * at)[:, :, None])
        values.append(np.stack([(sign * t).sum(axis=2), (sign * t**2).sum(axis=2) / 2], axis=2))
    both = np.stack(values, axis=2)
    row, column = np.nonzero((np.abs(both[:, :, :, 0]).max(axis=2) > 1e-9) & (right - left > 1e-9))
    return which[row], number[row], np.stack([left[row, column], right[row, column]], axis=1), both[row, column]


def spread(structure: Structure, loading: Loading) -> LineTable:
    """The line loads that all surface loads put on the carriers of their panels, slabs apart; what the ground takes of them goes to
    `loading.grounded`."""
    panels = {panel.name: panel for panel in structure.panels}
    takes: dict[tuple[str, frozenset[str]], list[tuple[Floats, Fields]]] = {}
    # cases share the polygons of their zones: what is pushed on the same one is spread at once
    alike: dict[tuple[str, frozenset[str], bytes], list[int]] = {}
    for number, load in enumerate(loading.surfaces):
        if any(load.pressure) and panels[load.panel].plate is None:
            alike.setdefault((load.panel, load.excluded, load.polygon.tobytes()), []).append(number)
    # by panel and number of corners, the parts of polygons that fields take, with the loads on them
    parts: dict[tuple[str, frozenset[str], int, int], list[tuple[Floats, list[int]]]] = {}
    for (name, excluded, _), numbers in alike.items():
        panel = panels[name]
        if (name, excluded) not in takes:
            bearers = tuple(carrier for carrier in panel.carriers if carrier not in excluded)
            takes[name, excluded] = fields(replace(panel, carriers=bearers) if excluded else panel, structure)
        for k, (turn, f) in enumerate(takes[name, excluded]):
            whole = loading.surfaces[numbers[0]].polygon @ turn.T
            clip = f.clip if panel.two_way else None
            for part in [whole] if clip is None else pieces(Polygon(whole).intersection(clip)):
                parts.setdefault((name, excluded, k, len(part)), []).append((part, numbers))
    found: list[tuple[Floats | Ints, ...]] = []
    for (name, excluded, k, _), own in parts.items():
        turn, f = takes[name, excluded][k]
        which, field, s, value = chords(np.array([part for part, _ in own]), f)
        limits = np.searchsorted(which, np.arange(len(own) + 1))
        for (_, numbers), start, end in zip(own, limits[:-1].tolist(), limits[1:].tolist(), strict=True):
            if end > start:
                found.append(_pushed(loading, numbers, turn, f, field[start:end], s[start:end], value[start:end]))
    if not found:
        none, no_number = np.zeros(0), np.zeros(0, dtype=np.int64)
        return LineTable(no_number, no_number, none, none, np.zeros((0, 3)), np.zeros((0, 3)), no_number)
    columns = [np.concatenate([row[k] for row in found]) for k in range(7)]
    order = np.argsort(columns[6], kind="stable")
    return LineTable(*(column[order] for column in columns))


def _pushed(
    loading: Loading, numbers: list[int], turn: Floats, f: Fields, field: Ints, s: Floats, value: Floats
) -> tuple[Floats | Ints, ...]:
    """Rows of a table of line loads: what surface loads of these numbers, all on the same stretches of fields as `chords` gives
    them, put on the carriers. What the ground takes goes to `loading.grounded`."""
    loads = [loading.surfaces[number] for number in numbers]
    pressure, direction = np.array([load.pressure for load in loads]), np.array([load.direction for load in loads])
    case = np.array([load.case for load in loads])
    # the pressure's change, in the turned coordinates
    along, across = turn @ pressure[:, 1:].T
    total = (pressure[:, :1, None] + along[:, None, None] * s) * value[:, :, 0] + across[:, None, None] * value[:, :, 1]
    per_metre = total / np.abs(f.rate[field])[:, None]
    x = f.start[field][:, None] + (s - f.s[field, :1]) * f.rate[field][:, None]
    back = f.rate[field] < 0
    x[back], per_metre[:, back] = x[back, ::-1], per_metre[:, back, ::-1]
    member = f.member[field]
    ground = member == GROUND
    if ground.any():
        forces = (per_metre[:, ground].mean(axis=2) * (x[ground, 1] - x[ground, 0])).sum(axis=1)
        for load, force in zip(loads, forces.tolist(), strict=True):
            loading.grounded[load.case] = loading.grounded.get(load.case, np.zeros(3)) + load.direction * force
        member, x, per_metre = member[~ground], x[~ground], per_metre[:, ~ground]
    shape = (len(loads), len(member))
    ends = per_metre[..., None] * direction[:, None, None]
    return (
        np.broadcast_to(member, shape).ravel(),
        np.repeat(case, len(member)),
        np.broadcast_to(x[:, 0], shape).ravel(),
        np.broadcast_to(x[:, 1], shape).ravel(),
        ends[:, :, 0].reshape(-1, 3),
        ends[:, :, 1].reshape(-1, 3),
        np.repeat(np.array(numbers), len(member)),
    )
