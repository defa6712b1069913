"""What of EN 1991-1-3 and -1-4 does not act on a building, and why: nobody should have to guess whether it was forgotten."""

from __future__ import annotations

from engine.actions.derived import Idle
from engine.document import Document
from engine.standards.en.roofs import parapet, roofs_of
from engine.standards.en.wind_cases import friction_why, hall_winds
from engine.structure.model import Structure


def idle(document: Document, structure: Structure) -> list[Idle]:
    """By action, in the order of the standards; nothing where no building stands that snow and wind act on."""
    if structure.envelope is None or not any(p.kind == "roof" for p in structure.panels):
        return []
    return [*_snow(document, structure), *_wind(document, structure), *_others(document, structure)]


def _snow(document: Document, structure: Structure) -> list[Idle]:
    options, site, values = document.snow, document.site, document.national.snow
    roofs = [p for p in structure.panels if p.kind == "roof"]
    if site.ground_snow * options.exposure * options.thermal <= 0:
        return [Idle("snow", "Snow", "the ground snow s_k is 0")]
    found = []
    if all(p.pitch >= 60 for p in roofs):
        return [Idle("snow", "Snow", "every roof is steeper than 60° (table 5.2)")]
    own = roofs_of(structure)
    if len(own) == 1 and not own[0].duopitch:
        found.append(Idle("snow", "Drifted arrangement", "the roof has one slope: snow has none to drift to (5.3.2)"))
    if len(own) < 2:
        found.append(Idle("snow", "Snow in valleys", "no two roofs meet in one (5.3.4)"))
    lower = any(p.place == "lean-to" for p in roofs)
    if options.neighbour is None and not lower:
        found.append(Idle("snow", "Drift against a taller building", "none is stated beside it (5.3.6)"))
    if not parapet(document):
        found.append(Idle("snow", "Drift against parapets", "there are none (6.2)"))
    if not options.obstructions:
        found.append(Idle("snow", "Drift against obstructions", "none stands on the roof (6.2)"))
    if not options.edge:
        found.append(Idle("snow", "Snow over the eaves", "it is left out (6.3)"))
    elif site.altitude < values.edge_altitude:
        words = f"asked for above {values.edge_altitude:g} m, the place lies at {site.altitude:g} m (6.3(1) note)"
        found.append(Idle("snow", "Snow over the eaves", words))
    if not options.exceptional:
        found.append(Idle("snow", "Exceptional snow", "the place is not said to know it (4.3)"))
    found.append(Idle("snow", "Snow that slides against guards", "not covered (6.4)", covered=False))
    return found


def _wind(document: Document, structure: Structure) -> list[Idle]:
    winds = hall_winds(document, structure)
    if not winds:
        return [Idle("wind", "Wind", "no roof stands that it is known for", covered=False)]
    by_reason: dict[str, list[str]] = {}
    for w in winds:
        why = friction_why(w, document, structure)
        if why:
            by_reason.setdefault(why, []).append(w.direction)
    found = []
    for why, directions in by_reason.items():
        every = len(directions) == len(winds)
        from_ = "" if every else f", wind from the {' and the '.join(directions)}"
        found.append(Idle("wind", f"Friction{from_}", why))
    if all(w.correlation == 1 for w in winds):
        words = "not used" if not document.wind.correlation else "h/d is at least 5"
        found.append(Idle("wind", "Lack of correlation of windward and leeward walls", f"{words} (7.2.2(3))"))
    if document.wind.structural == 1:
        found.append(Idle("wind", "Dynamic response", "c_s c_d is 1 (6.2)"))
    return found


def _others(document: Document, structure: Structure) -> list[Idle]:
    found = []
    if document.cladding.roof_imposed <= 0 and any(p.kind == "roof" for p in structure.panels):
        found.append(Idle("imposed", "Imposed on the roof", "none is stated (category H)"))
    if not document.rules.imperfections:
        found.append(Idle("imperfection", "Sway imperfections", "they are left out (5.3.2)"))
    natures = {case.nature for case in document.cases}
    if "temperature" not in natures:
        found.append(Idle("temperature", "Temperature", "no case states it; none is generated", covered=False))
    if "accidental" not in natures:
        found.append(
            Idle("accidental", "Earthquake, fire, impact", "no case states them; none is generated", covered=False)
        )
    return found
