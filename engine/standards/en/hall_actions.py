"""The cases that a duopitch hall's site puts on it: weights, snow, wind across the hall."""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, radians

from engine.actions.cases import Case, LineLoad, Loading
from engine.actions.panels import DOWN, press
from engine.catalogue.steels import GRAVITY
from engine.document import Cladding, HallJig, Site
from engine.jigs.hall import hall_height
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


def hall_wind(hall: HallJig, site: Site) -> HallWind:
    """The wind across a hall: reference height h, e = min(b, 2h), strip e/10 measured in plan (figure 7.8)."""
    height = hall_height(hall)
    length = (hall.frames - 1) * hall.spacing
    e = min(length, 2 * height)
    slenderness = height / hall.span
    return HallWind(
        pressure=wind.peak_pressure(site.wind_speed, site.terrain, height),
        height=height,
        e=e,
        strip=min(e / 10, hall.span / 2) / cos(radians(hall.pitch)),
        slenderness=slenderness,
        walls={zone: wind.wall_coefficient(zone, slenderness) for zone in "DE"},
        roof={zone: wind.duopitch_coefficient(zone, hall.pitch) for zone in "FGHIJ"},
    )


def add_hall_cases(loading: Loading, structure: Structure, hall: HallJig, site: Site, cladding: Cladding) -> None:
    """Add self-weight, cladding, snow and wind cases of the hall to the loading."""
    panels = {panel.name: panel for panel in structure.panels}
    add_self_weight(loading, structure, Case("Self-weight of steel", "G1", "permanent"))
    case = loading.add_case(Case("Cladding", "G2", "permanent", note="sheeting with purlins and rails"))
    for side in ("left", "right"):
        press(loading, case, panels[f"roof-{side}"], DOWN, cladding.roof * 1000)
        press(loading, case, panels[f"wall-{side}"], DOWN, cladding.walls * 1000)
    plan = cos(radians(hall.pitch))
    for i, arrangement in enumerate(snow.duopitch(hall.pitch, hall.pitch)):
        note = f"μ = {arrangement.left:.2f} left, {arrangement.right:.2f} right, on the plan projection"
        case = loading.add_case(Case(arrangement.name, f"S{i + 1}", "snow", "snow", note))
        for side, mu in (("left", arrangement.left), ("right", arrangement.right)):
            press(loading, case, panels[f"roof-{side}"], DOWN, snow.roof_snow(site.ground_snow, mu) * 1000 * plan)
    _add_wind(loading, panels, hall, site)


def add_self_weight(loading: Loading, structure: Structure, case: Case) -> None:
    """Add one permanent case with the weight of every member."""
    number = loading.add_case(case)
    for member in structure.members:
        weight = DOWN * member.section.A * member.material.density * GRAVITY
        length = structure.length(member)
        if weight.any():
            loading.lines.append(LineLoad(number, member.name, 0.0, length, weight, weight))
        loading.expected[number] = loading.expected[number] + DOWN * structure.mass(member) * GRAVITY


def _add_wind(loading: Loading, panels: dict[str, Panel], hall: HallJig, site: Site) -> None:
    data = hall_wind(hall, site)
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
