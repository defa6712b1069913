"""Local pressures of the wind on secondary members: EN 1991-1-4 7.2.1(1), by their loaded area."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import Loading
from engine.actions.derived import LocalPressure
from engine.actions.panels import cut
from engine.document import Document
from engine.standards.en import wind_tables
from engine.standards.en.wind_cases import hall_winds
from engine.structure.model import Structure


def local_pressures(document: Document, structure: Structure, loading: Loading | None = None) -> list[LocalPressure]:
    """Net pressures on secondary members by zone, with c_pe of their loaded area (figure 7.2), over all directions. loading: that
    of the document, if it is there: its zones are cut out already."""
    hall = document.hall
    if hall is None or hall.open_sides:
        return []
    bay = max(hall.spacings)
    rails = hall.rails.spacing if hall.rails else 1.5
    found: dict[tuple[str, str], tuple[str, float, float, float, float]] = {}
    for w in hall_winds(document, structure):
        for zone in w.zones:
            panel = zone.panel
            regions = loading.regions if loading else {}
            known = regions.get((panel.name, zone.points.tobytes()))
            if panel.place == "overhang" or not (cut(panel, zone.points) if known is None else known):
                continue
            if panel.kind == "roof":
                role, spacing, span = "purlin", hall.purlins.spacing, bay
            elif panel.side in ("front", "back"):
                posts = [s for s in panel.carriers if structure.member(s).role == "gable post"]
                width = w.box.x1 - w.box.x0
                role, spacing = "gable post", width / (len(posts) + 1)
                span = float(np.ptp(panel.corners[:, 2]))
            else:
                role, spacing, span = "side rail", rails, bay
            area = spacing * span
            q = w.peak(zone) * w.structural
            values = [
                q * wind_tables.by_area(pair, area, document.national.wind.area_rule) - w.inner * inside
                for pair in zone.both
                for inside, _ in w.inside
            ]
            key = (panel.name, zone.letter)
            _, _, _, most, least = found.get(key, (role, area, spacing, -np.inf, np.inf))
            found[key] = (role, area, spacing, max(most, *values), min(least, *values))
    return [
        LocalPressure(role, panel, letter, area, spacing, most, least)
        for (panel, letter), (role, area, spacing, most, least) in sorted(found.items())
    ]
