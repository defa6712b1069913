"""The wind cases of a hall by EN 1991-1-4: external and internal pressure, friction, canopies, in four directions."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from itertools import product

import numpy as np

from engine.actions.cases import Case, Loading, PointLoad
from engine.actions.derived import Wind, Zone
from engine.actions.panels import cut
from engine.document import Document
from engine.document.base import Direction
from engine.document.rules import WindOptions
from engine.standards.en import wind, wind_tables
from engine.standards.en.roofs import eaves_of, parapet, roofs_of
from engine.standards.en.wind_areas import by_own_area
from engine.standards.en.wind_box import box
from engine.standards.en.wind_parapets import parapet_pushes
from engine.standards.en.wind_pressed import NOTHING, Pressed, because, net_reason
from engine.standards.en.wind_zones import BLOWS, DIRECTIONS, FAR, on_roof, zones
from engine.structure.model import Floats, Panel, Structure

WORDS = ("suction", "pressure")
#: table 7.8: factors on (most, least) of the first, second and further bays of a canopy
CANOPY_BAYS = ((1.0, 0.8), (0.9, 0.7), (0.7, 0.7))


def hall_winds(document: Document, structure: Structure) -> list[Wind]:
    """Wind on the building from four directions; none without one that has a roof."""
    if structure.envelope is None or not any(p.kind == "roof" and p.place != "truss" for p in structure.panels):
        return []
    b = box(structure, structure.envelope.ground)
    found, values = [], document.national.wind
    for direction in DIRECTIONS:
        on = zones(structure, b, direction, eaves_of(document))
        if values.wall_heights == "h":
            on = [replace(zone, height=b.height) for zone in on]
        if above := parapet(document):
            # z_e = h + h_p (figure 7.6)
            on = [replace(zone, height=zone.height + above) if zone.height == b.height else zone for zone in on]
        on = by_own_area(document, structure, on)
        heights = {zone.height for zone in on}
        pressures = {
            z: wind.site_pressure(document.site, document.wind, values, direction, z, b.height) for z in sorted(heights)
        }
        slenderness = b.height / b.along(direction)
        factor = wind.correlation(slenderness, values.correlation) if document.wind.correlation else 1.0
        inside = list(_inside(document.wind, direction, on, slenderness))
        panels = tuple({zone.panel.name: zone.panel for zone in on}.values())
        if structure.envelope.open:
            on, inside = [], []
        on = _over_walls(on, factor, document.wind.structural)
        found.append(Wind(direction, b, on, pressures, inside, slenderness, factor, document.wind.structural, panels))
    return found


def _over_walls(zones: list[Zone], correlation: float, structural: float) -> list[Zone]:
    """Zones of overhangs with the coefficient of the wall below them."""
    walls = {
        zone.panel.side: (zone.both[0][0] if zone.own is None else zone.own[0][0])
        * (correlation if zone.letter in "DE" else 1.0)
        * structural
        for zone in zones
        if zone.panel.kind == "wall" and zone.letter in "CDE" and zone.panel.side in ("left", "right")
    }
    over = [zone.panel.place == "overhang" for zone in zones]
    return [
        replace(zone, below=walls.get(zone.panel.side, -0.5)) if lies else zone
        for zone, lies in zip(zones, over, strict=True)
    ]


def profile(document: Document, w: Wind, heights: Floats) -> Floats:
    """q_p(z) in N/m² at heights z in m above the ground, for wind from the direction of `w`."""
    site, options, values = document.site, document.wind, document.national.wind
    return np.array(
        [wind.site_pressure(site, options, values, w.direction, float(z), w.box.height).peak for z in heights]
    )


def _inside(
    options: WindOptions, direction: Direction, on: list[Zone], slenderness: float
) -> Iterator[tuple[float, str]]:
    """Internal coefficients by 7.2.9: both signs, from the openings, or as stated."""
    given = options.inside
    total = sum(given.openings.values())
    if given.kind == "both" or (given.kind == "openings" and total == 0):
        yield from ((value, "7.2.9(6) note 2") for value in wind.INTERNAL)
        return
    if given.kind == "own":
        values = given.by_direction.get(direction, given.values)
        yield from ((value, "stated") for value in dict.fromkeys(values))
        return
    for face, area in given.openings.items():
        others = total - area
        if area > 0 and area >= 2 * others:
            # 7.2.9(5): 0.75 for twice the others, 0.90 from three times on, linear between
            ratio = area / others if others > 0 else np.inf
            share = float(np.interp(ratio, [2.0, 3.0], [0.75, 0.90]))
            clause = "(7.2)" if ratio >= 3 else "(7.1)" if ratio == 2 else f"between (7.1) and (7.2), ratio {ratio:.2f}"
            outside = _mean(on, face)
            yield share * outside, f"dominant face {face}: {share:.2f} · {outside:+.2f} {clause}"
            return
    negative = sum(area for face, area in given.openings.items() if _mean(on, face) <= 0)
    mu = negative / total
    yield wind.inside_coefficient(mu, slenderness), f"μ = {mu:.2f}, figure 7.13"


def _mean(on: list[Zone], face: str) -> float:
    """c_pe,10 of a face, the mean over its zones by area (suction set)."""
    weight = value = 0.0
    for zone in on:
        if (zone.panel.kind == "roof" and face == "roof") or (zone.panel.kind == "wall" and zone.panel.side == face):
            area = sum(_size(polygon) for polygon in cut(zone.panel, zone.points))
            weight, value = weight + area, value + area * zone.both[0][0]
    # a gable on no posts has no panel: windward it is pressed, else sucked
    if weight:
        return value / weight
    return -0.5


def _size(polygon: Floats) -> float:
    x, y = polygon.T
    return float(abs(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2)


def _drawn(structure: Structure, document: Document, direction: Direction) -> list[Pressed]:
    """Drawn panels with a net coefficient for that direction, with q_p at their top."""
    drawn = [p for p in structure.panels if direction in p.wind and p.wind[direction]]
    if not drawn:
        return []
    ground = structure.envelope.ground if structure.envelope else float(structure.xyz[:, 2].min())
    height = float(structure.xyz[:, 2].max()) - ground
    found: list[Pressed] = []
    for panel in drawn:
        z = float(panel.corners[:, 2].max()) - ground
        peak = wind.site_pressure(document.site, document.wind, document.national.wind, direction, z, height)
        structural = document.wind.structural
        q, c = peak.peak * structural, panel.wind[direction]
        why = f"net c_p {c:+.2f} (stated); q_p({z:.2f} m) = {q / 1000:.3f} kN/m²"
        reason = because(peak, structural=structural, c_net=c, w_net=q * c)
        found.append(Pressed(panel, -panel.outside, q * c, panel.corners, "net", why, reason))
    return found


def _drawn_alone(loading: Loading, structure: Structure, document: Document) -> None:
    """Wind cases of drawn panels where there is no hall."""
    for number, direction in enumerate(DIRECTIONS, 1):
        loads = _drawn(structure, document, direction)
        if loads:
            case = loading.add_case(Case(f"Wind from {direction}", f"W{number}", "wind", "wind", "on drawn panels"))
            for pressed in loads:
                pressed.put(loading, case)


def add_wind(loading: Loading, structure: Structure, document: Document) -> None:
    """Add all wind cases of the hall, with drawn panels that have coefficients of their own; equal ones once."""
    envelope, winds = structure.envelope, hall_winds(document, structure)
    if envelope is None or not winds:
        _drawn_alone(loading, structure, document)
        return
    count = 0
    seen: dict[tuple[object, ...], str] = {}
    for w in winds:
        add = _canopy_cases if envelope.open else _cases
        drawn = _drawn(structure, document, w.direction)
        above = 0.0 if envelope.open else parapet(document)
        q = w.inner * w.structural
        pushes = list(parapet_pushes(structure, w.direction, above, q)) if above else []
        words = f"; on the parapet {sum(abs(p.force).sum() for p in pushes) / 1000:.1f} kN" if pushes else ""
        for name, note, loads in add(w, document, structure):
            loads = [*loads, *drawn, *_friction(w, document, structure)]
            key = tuple(
                sorted(
                    (
                        load.panel.name,
                        tuple(np.round(load.towards, 6)),
                        round(load.pressure, 6),
                        load.points.round(6).tobytes(),
                    )
                    for load in loads
                    if abs(load.pressure) > NOTHING
                )
            )
            if key in seen or not key:
                continue
            count += 1
            seen[key] = name
            case = loading.add_case(Case(name, f"W{count}", "wind", "wind", (note + words).replace("-", "−")))
            for load in loads:
                load.put(loading, case)
            for push in pushes:
                loading.points.append(PointLoad(case, push.force, push.moment, push.member, push.at))
                loading.expected[case] = loading.expected[case] + push.force


def _cases(w: Wind, document: Document, structure: Structure) -> Iterator[tuple[str, str, list[Pressed]]]:
    choices: dict[str, tuple[int, ...]] = {}
    for zone in w.zones:
        differs = abs(zone.both[0][0] - zone.both[1][0]) > 1e-9
        choices[zone.face] = (0, 1) if differs or choices.get(zone.face) == (0, 1) else (0,)
    faces: list[str] = [face for face in ("front", "back", "flat", "wall") if face in choices]
    for pick in product(*(choices[face] for face in faces)):
        taken = dict(zip(faces, pick, strict=True))
        for inside, source in w.inside:
            loads: list[Pressed] = []
            for zone in w.zones:
                own = taken[zone.face]
                outside, words = w.outside(zone, own)
                q = w.peak(zone)
                if zone.below is not None:
                    below = zone.below
                    why = f"{words} above, {below:+.2f} of the wall below (7.2.1(3))"
                    pressure = q * (outside - below)
                    reason = net_reason(w, zone, own, inside, source)
                else:
                    why = f"{words}, c_pi {inside:+.2f} ({source})"
                    pressure = q * outside - w.inner * inside
                    reason = net_reason(w, zone, own, inside, source)
                why += f"; q_p({zone.height:.2f} m) = {q / 1000:.3f} kN/m²"
                if zone.below is None and abs(q - w.inner) > 1e-6:
                    why += f", inside q_p({max(w.pressures):.2f} m) = {w.inner / 1000:.3f} kN/m²"
                loads.append(Pressed(zone.panel, -zone.panel.outside, pressure, zone.points, zone.letter, why, reason))
            yield _name(w, choices, taken, inside), _note(w, source, inside), loads


def _name(w: Wind, choices: dict[str, tuple[int, ...]], taken: dict[str, int], inside: float) -> str:
    words = [WORDS[taken[face]] for face in ("front", "back", "flat") if len(choices.get(face, ())) == 2]
    roof = f", roof {'/'.join(words)}" if words else ""
    sign = "+" if inside > 0 else "−"
    return f"Wind from {w.direction}, inside {sign}{roof}" if len(w.inside) > 1 else f"Wind from {w.direction}{roof}"


def _note(w: Wind, source: str, inside: float) -> str:
    b, e = w.box, w.box.e(w.direction)
    q = w.pressures[max(w.pressures)].peak
    return (
        f"q_p = {q / 1000:.3f} kN/m² at {max(w.pressures):.2f} m; b = {b.across(w.direction):.2f} m, d = "
        f"{b.along(w.direction):.2f} m, e = {e:.2f} m; c_pi {inside:+.2f} ({source})"
    )


def _canopy_cases(w: Wind, document: Document, structure: Structure) -> Iterator[tuple[str, str, list[Pressed]]]:
    """A roof without walls, 7.3: the overall coefficient c_f, most and least, on all slopes or on one (7.3(6))."""
    assert structure.envelope
    blockage = structure.envelope.blockage
    roofs = [panel for panel in w.panels if panel.kind == "roof"]
    own = roofs_of(structure)
    bays = {panel.name: i for i, roof in enumerate(own) for plane in roof.planes for panel in plane.panels}
    ridged = {panel.name for roof in own if roof.duopitch for plane in roof.planes for panel in plane.panels}
    peak, structural = w.pressures[max(w.pressures)], document.wind.structural
    q = peak.peak * structural
    for which, words in ((0, "pressing down"), (1, "lifting")):
        whole: list[Pressed] = []
        for panel in roofs:
            duopitch = panel.name in ridged
            table = wind_tables.CANOPY_DUOPITCH if duopitch else wind_tables.CANOPY_SINGLE
            number = "7.7" if duopitch else "7.6"
            bay = bays.get(panel.name, 0)
            place = min(bay, len(own) - 1 - bay, 2)
            pitch = panel.pitch if not duopitch or panel.pitch >= 5 else 5.0
            c_f = wind_tables.canopy(table, pitch, blockage)[which][0]
            factor = CANOPY_BAYS[place][which] if len(own) > 1 else 1.0
            why = f"c_f {c_f:+.2f} (table {number}, φ = {blockage:g})" + (
                f" · {factor:g} (table 7.8)" if factor != 1 else ""
            )
            words_of = {"source": f"table {number}, φ = {blockage:g}"}
            values = {"structural": structural, "c_f": c_f} | ({"bay_factor": factor} if factor != 1 else {})
            x = sorted((float(panel.corners[:, 0].min()), float(panel.corners[:, 0].max())))
            if not duopitch and w.direction in ("left", "right"):
                # the centre of pressure lies a quarter of the depth from the windward edge (7.3(6)): all on that half
                middle = (x[0] + x[1]) / 2
                half = (x[0], middle) if w.direction == "left" else (middle, x[1])
                points = on_roof(panel, half, (-FAR, FAR))
                pressure, why = 2 * q * c_f * factor, why + ", on the windward half"
                reason = because(peak, words_of, **values, w_half=pressure)
            else:
                points = on_roof(panel, (-FAR, FAR), (-FAR, FAR))
                pressure = q * c_f * factor
                reason = because(peak, words_of, **values, w_canopy=pressure)
            whole.append(Pressed(panel, -panel.outside, pressure, points, "c_f", why, reason))
        yield f"Wind from {w.direction}, roof {words}", f"canopy, 7.3; q_p = {q / 1000:.3f} kN/m²", whole
        for side in ("left", "right"):
            part = [row for row in whole if row.panel.side == side]
            if part and len(part) < len(whole):
                yield f"Wind from {w.direction}, {side} slope {words}", "canopy, one slope loaded, 7.3(6)", part


def _perpendicular(w: Wind, structure: Structure) -> float:
    """Area of the surfaces that face the wind and of those in its lee, m²: the walls, where there is no panel of them the outline
    below the roof."""
    walls = [p for p in structure.panels if p.kind == "wall" and abs(float(p.outside @ BLOWS[w.direction])) > 0.5]
    if walls:
        return sum(p.area for p in walls)
    outline = 0.0
    for p in structure.panels:
        if p.kind == "roof" and p.place in ("", "lean-to"):
            outline += float(np.ptp(p.corners[:, 0])) * (float(p.corners[:, 2].mean()) - w.box.ground)
    if w.direction in ("front", "back"):
        return 2 * outline
    return 2 * w.box.across(w.direction) * w.box.height


def _friction_reach(w: Wind) -> float:
    """How far behind the windward edge friction begins, m."""
    return min(2 * w.box.across(w.direction), 4 * w.box.height)


def _along(w: Wind) -> list[Panel]:
    """The surfaces that the wind goes along."""
    across = w.direction in ("left", "right")
    return [
        p
        for p in w.panels
        if abs(p.outside @ BLOWS[w.direction]) < 1e-6 or (p.kind == "roof" and across and p.pitch < 5)
    ]


def friction_why(w: Wind, document: Document, structure: Structure) -> str:
    """Why there is no friction in a wind, "" where there is."""
    if document.wind.friction == "none":
        return "it is left out (7.5)"
    reach, d = _friction_reach(w), w.box.along(w.direction)
    if reach >= d - 1e-6:
        return f"it would begin {reach:.1f} m behind the windward edge, the building ends at {d:.1f} m (7.5(3))"
    area, facing = sum(p.area for p in _along(w)), _perpendicular(w, structure)
    if area <= 4 * facing:
        return f"{area:.0f} m² lie along the wind, no more than four times the {facing:.0f} m² across it (5.3(4))"
    return ""


def _friction(w: Wind, document: Document, structure: Structure) -> Iterator[Pressed]:
    """Friction on surfaces along the wind, beyond the smaller of 2b and 4h from the windward edge (7.5); none where these surfaces
    have less than four times the area of those across it (7.5(3))."""
    if friction_why(w, document, structure):
        return
    options, b = document.wind, w.box
    across = w.direction in ("left", "right")
    reach, along = _friction_reach(w), _along(w)
    area, facing = sum(p.area for p in along), _perpendicular(w, structure)
    values = document.national.wind
    c_fr = {
        "smooth": values.friction_smooth,
        "rough": values.friction_rough,
        "very rough": values.friction_very_rough,
    }[options.friction]
    why = f"c_fr {c_fr:g} (table 7.10) beyond {reach:.1f} m (7.5); {area:.0f} m² along the wind against {facing:.0f} m² across it"
    peak = w.pressures[max(w.pressures)]
    q = peak.peak * c_fr
    reason = because(peak, {"source": f"{options.friction}, table 7.10"}, reach=reach, c_fr=c_fr, w_fr=q)
    for panel in along:
        if across:
            x = (b.x0 + reach, FAR) if w.direction == "left" else (-FAR, b.x1 - reach)
            y = (-FAR, FAR)
        else:
            x = (-FAR, FAR)
            y = (b.y0 + reach, FAR) if w.direction == "front" else (-FAR, b.y1 - reach)
        if panel.kind == "roof":
            points = on_roof(panel, x, y)
        else:
            low, high = float(panel.corners[:, 2].min()) - 1, float(panel.corners[:, 2].max()) + 1
            at, run = panel.corners[0], x if across else y
            pairs = zip((run[0], run[1], run[1], run[0]), (low, low, high, high), strict=True)
            points = np.array([(r, at[1], z) if across else (at[0], r, z) for r, z in pairs])
        yield Pressed(panel, BLOWS[w.direction], q, points, "friction", why, reason)
