"""Loaded areas of purlins and rails that are members, by which they bear the wind: EN 1991-1-4 7.2.1(1)."""

from __future__ import annotations

from dataclasses import replace

from engine.actions.derived import Zone
from engine.document import Document
from engine.standards.en.wind_tables import by_area
from engine.structure.model import Structure

#: area from which c_pe,10 is that of the area itself, m²
LARGE = 10.0


def small_areas(document: Document) -> dict[str, float]:
    """Loaded areas of the purlins and rails of a hall that are members, m², by role, where c_pe is another than that of 10 m²."""
    hall = document.hall
    if hall is None or hall.open_sides:
        return {}
    rows = {"purlin": hall.purlins, "side rail": hall.rails}
    areas = {role: kind.spacing * max(hall.spacings) for role, kind in rows.items() if kind and kind.modelled}
    return {role: area for role, area in areas.items() if area < LARGE}


def by_larger_areas(document: Document) -> frozenset[str]:
    """Roles of such members that bear the pressures of larger areas in the analysis, c_pe,10."""
    return frozenset() if document.wind.own_areas else frozenset(small_areas(document))


def by_own_area(document: Document, structure: Structure, zones: list[Zone]) -> list[Zone]:
    """Zones with the coefficients of the loaded area of what carries their panels, where that is small."""
    areas = small_areas(document) if document.wind.own_areas else {}
    if not areas:
        return zones
    carried = {
        panel.name: next(
            (areas[role] for role in areas if any(structure.member(c).role == role for c in panel.carriers)), None
        )
        for panel in structure.panels
    }
    rule = document.national.wind.area_rule
    found = []
    for zone in zones:
        area = None if zone.panel.place == "overhang" else carried[zone.panel.name]
        if area is not None:
            first, second = (by_area(pair, area, rule) for pair in zone.both)
            zone = replace(zone, own=((first, second), area))
        found.append(zone)
    return found
