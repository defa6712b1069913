"""The cases that a hall's site puts on it, and floors on themselves: weights, snow, wind across the hall."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians

import numpy as np

from engine.actions.cases import Case, LineLoad, Loading, Settlement
from engine.actions.panels import DOWN, press
from engine.catalogue.steels import GRAVITY
from engine.document import Document
from engine.document.jigs import HallJig
from engine.document.rules import Site
from engine.standards.en import snow, wind
from engine.structure.model import Panel, Structure

#: What is simplified in these actions, shown on the screen and in the result.
SIMPLIFICATIONS = (
    "Wind: only across the hall so far (θ = 0° and 180°). Wind along it, and on the gables, is not covered yet.",
    "Wind zones: cut across the slope exactly (e/10 at the windward eaves, e/10 behind the ridge); along the eaves the "
    "corner zone F is taken over the whole length in place of G, on the safe side.",
    "Wind: the reference height of walls is the ridge height, and the lack of correlation between windward and leeward "
    "faces (7.2.2(3)) is not used; both on the safe side. c_s c_d = 1 (6.2(1)). Friction along the roof is not covered.",
    "Internal pressure: +0.2 and −0.3 (7.2.9(6) note 2). A dominant opening is not covered yet.",
    "Snow: C_e = C_t = 1, no exceptional snow, no obstructions, no overhang at the eaves.",
    "Imperfections: not applied as forces; stability in the plane of a frame uses sway effective lengths instead "
    "(EN 1993-1-1 5.2.2(8)).",
    "Imposed load on the roof (category H) is not covered yet; it does not act together with snow or wind "
    "(EN 1991-1-1 3.3.2(1)).",
)
NO_WIND = (
    "Wind is NOT generated for this shape yet: only for one bay under a symmetric duopitch roof of 5° and more, without "
    "lean-to. State the wind as cases of your own, or count no verdict as final."
)
NO_DRIFT = (
    "Snow on this shape: undrifted only (μ1 on every slope). Drift in valleys, at lean-tos and at taller parts is not "
    "covered yet."
)
TENSION_ONLY = "Members for tension or compression only, and supports that push one way only, act both ways so far."
GABLE_CLADDING = "The cladding of the gables is not loaded on its posts yet, neither its weight nor its wind."


def simplifications(document: Document, structure: Structure) -> list[str]:
    """What is simplified for this document."""
    hall = document.hall
    found: list[str] = []
    if hall:
        plain = hall.symmetric_duopitch
        wind_words = [] if plain else [NO_WIND]
        found += [text for text in SIMPLIFICATIONS if plain or not text.startswith(("Wind", "Internal"))]
        found = wind_words + found
        if len(hall.bays) > 1 or hall.lean_to_left or hall.lean_to_right:
            found.insert(1, NO_DRIFT)
        if "posts" in (hall.front.kind, hall.back.kind):
            found.append(GABLE_CLADDING)
    one_sided = any(m.behaviour in ("tension-only", "compression-only") for m in structure.members)
    if one_sided or structure.one_way.any():
        found.append(TENSION_ONLY)
    return found


@dataclass(frozen=True)
class HallWind:
    """Numbers behind the wind cases, for the screen: pressures in N/m², lengths in metres."""

    pressure: wind.PeakPressure
    height: float
    e: float
    strip: float
    slenderness: float
    walls: dict[str, float]
    roof: dict[str, tuple[float, float]]


def hall_wind(hall: HallJig, structure: Structure, site: Site) -> HallWind | None:
    """The wind across a hall: reference height h, e = min(b, 2h), strip e/10 measured in plan (figure 7.8); None for a
    shape that is not covered."""
    if not hall.symmetric_duopitch:
        return None
    roof = next(panel for panel in structure.panels if panel.name == "roof-AB-left")
    height = float(roof.corners[:, 2].max()) - hall.base_level
    span = 2 * float(abs(roof.corners[2, 0] - roof.corners[0, 0]))
    e = min(hall.length, 2 * height)
    slenderness = height / span
    return HallWind(
        pressure=wind.peak_pressure(site.wind_speed, site.terrain, height),
        height=height,
        e=e,
        strip=min(e / 10, span / 2) / cos(radians(roof.pitch)),
        slenderness=slenderness,
        walls={zone: wind.wall_coefficient(zone, slenderness) for zone in "DE"},
        roof={zone: wind.duopitch_coefficient(zone, roof.pitch) for zone in "FGHIJ"},
    )


def add_hall_cases(loading: Loading, structure: Structure, document: Document) -> None:
    """Add self-weight, cladding, floors, settlement, snow and wind cases of what the jigs set out."""
    hall, site, cladding = document.hall, document.site, document.cladding
    add_self_weight(loading, structure, Case("Self-weight of steel", "G1", "permanent"))
    surfaces = [panel for panel in structure.panels if panel.kind != "floor"]
    if surfaces:
        case = loading.add_case(Case("Cladding", "G2", "permanent", note="sheeting with purlins and rails"))
        for panel in surfaces:
            press(loading, case, panel, DOWN, (cladding.roof if panel.kind == "roof" else cladding.walls) * 1000)
    floors = [panel for panel in structure.panels if panel.kind == "floor"]
    if floors:
        case = loading.add_case(Case("Floors", f"G{len(loading.cases) + 1}", "permanent", note="deck and finishes"))
        for panel in floors:
            press(loading, case, panel, DOWN, panel.permanent)
    if floors:
        case = loading.add_case(Case("Imposed on floors", "Q1", "imposed", "imposed", "all fields loaded"))
        for panel in floors:
            press(loading, case, panel, DOWN, panel.imposed)
    if hall:
        _add_snow(loading, [panel for panel in surfaces if panel.kind == "roof"], site)
        _add_wind(loading, structure, hall, site)


def _add_snow(loading: Loading, roofs: list[Panel], site: Site) -> None:
    """Arrangements of figure 5.3 where one roof has just two slopes; else the undrifted one."""
    sides = [panel for panel in roofs if not panel.name.startswith(("overhang", "lean"))]
    duopitch = (
        len(sides) == 2 and {p.side for p in sides} == {"left", "right"} and sides[0].name[:-5] == sides[1].name[:-6]
    )
    mu = {panel.name: float(snow.mu1(panel.pitch)) for panel in roofs}
    if duopitch and len(roofs) - len(sides) == sum(p.name.startswith("overhang") for p in roofs):
        left, right = sides
        arrangements = snow.duopitch(left.pitch, right.pitch)
    else:
        arrangements = [snow.Arrangement("Snow, undrifted", 1.0, 1.0)]
        duopitch = False
    for i, arrangement in enumerate(arrangements):
        if duopitch:
            note = f"μ = {arrangement.left:.2f} left, {arrangement.right:.2f} right, on the plan projection"
        else:
            note = (
                "μ1 = "
                + ", ".join(f"{mu[p.name]:.2f} {p.name.removeprefix('roof-')}" for p in roofs)
                + ", on the plan projection"
            )
        case = loading.add_case(Case(arrangement.name, f"S{i + 1}", "snow", "snow", note))
        for panel in roofs:
            side = (arrangement.left if panel.side == "left" else arrangement.right) if duopitch else mu[panel.name]
            plan = cos(radians(panel.pitch))
            press(loading, case, panel, DOWN, snow.roof_snow(site.ground_snow, side) * 1000 * plan)


def add_settlement(loading: Loading, structure: Structure) -> None:
    """Add one permanent case with the imposed movements of all supports."""
    note = "imposed movements of supports"
    case = loading.add_case(Case("Settlement", f"G{len(loading.cases) + 1}", "permanent", note=note))
    for node in np.flatnonzero(structure.settlement.any(axis=1)).tolist():
        loading.settlements.append(Settlement(case, node, structure.settlement[node]))


def add_self_weight(loading: Loading, structure: Structure, case: Case) -> None:
    """Add one permanent case with the weight of every member."""
    number = loading.add_case(case)
    for member in structure.members:
        weight = DOWN * member.section.A * member.material.density * GRAVITY
        if weight.any():
            loading.lines.append(LineLoad(number, member.name, 0.0, None, weight, weight))
        for piece in member.pieces:
            more = weight * (piece.section.A / member.section.A - 1)
            loading.lines.append(LineLoad(number, member.name, piece.start, piece.end, more, more))
        loading.expected[number] = loading.expected[number] + DOWN * structure.mass(member) * GRAVITY


def _add_wind(loading: Loading, structure: Structure, hall: HallJig, site: Site) -> None:
    data = hall_wind(hall, structure, site)
    if data is None:
        return
    panels = {
        f"{panel.kind}-{panel.side}": panel for panel in structure.panels if not panel.name.startswith("overhang")
    }
    q = data.pressure.peak
    words = ("suction", "pressure")
    seen: set[tuple[float, ...]] = set()
    count = 0
    for windward, leeward in (("left", "right"), ("right", "left")):
        for up in (0, 1):
            for down in (0, 1):
                for internal in wind.INTERNAL:
                    edge, rest = data.roof["F"][up], data.roof["H"][up]
                    ridge, back = data.roof["J"][down], data.roof["I"][down]
                    key = (float(windward == "left"), edge, rest, ridge, back, internal)
                    if key in seen:
                        continue
                    seen.add(key)
                    count += 1
                    sign = "+" if internal > 0 else "−"
                    name = f"Wind from {windward}, inside {sign}, roof {words[up]}/{words[down]}"
                    note = (
                        f"c_pe walls {data.walls['D']:+.2f} / {data.walls['E']:+.2f}; windward slope {edge:+.2f} over "
                        f"{data.strip:.2f} m, {rest:+.2f}; leeward {ridge:+.2f} over {data.strip:.2f} m, {back:+.2f}; "
                        f"c_pi {internal:+.1f}; q_p = {q / 1000:.3f} kN/m²"
                    )
                    case = loading.add_case(Case(name, f"W{count}", "wind", "wind", note.replace("-", "−")))

                    def blow(panel: Panel, external: float, start: float = 0.0, end: float | None = None) -> None:
                        # positive pressure pushes towards the surface: inwards from outside, outwards from inside
                        press(loading, case, panel, -panel.outside, q * (external - internal), start, end)  # noqa: B023

                    blow(panels[f"wall-{windward}"], data.walls["D"])
                    blow(panels[f"wall-{leeward}"], data.walls["E"])
                    front, behind = panels[f"roof-{windward}"], panels[f"roof-{leeward}"]
                    blow(front, edge, 0.0, data.strip)
                    blow(front, rest, data.strip, front.length)
                    blow(behind, back, 0.0, behind.length - data.strip)
                    blow(behind, ridge, behind.length - data.strip, behind.length)
