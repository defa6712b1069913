"""Purlins and rails of a hall that are no members of the model, by tables of resistances: EN 1990 (6.10) with local pressures of the
wind of EN 1991-1-4 7.2.1(1)."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians

from engine.actions.cases import Case, Loading
from engine.actions.derived import LocalPressure
from engine.document import Document
from engine.document.jigs import HallJig, Purlins
from engine.document.secondary import SpanRow
from engine.standards.en.combinations import gamma_Q, psi
from engine.standards.en.snow_cases import greatest
from engine.standards.en.wind_local import local_pressures
from engine.structure.model import Panel, Structure
from engine.verification.secondary import Secondary, Use, row_for

NO_TABLE = "no table says what they bear"
BY_HAND = "loads by hand on the cladding are not in it"
IN_PLANE = "what acts in the plane of the roof is left to the sheeting"
OPEN = "the wind on purlins of open roofs is not found"
SILENT = "their table says nothing of deflection"
HELD = "they count as held as their table says"


def secondary(document: Document, structure: Structure, loading: Loading) -> list[Secondary]:
    """The purlins and the rails that the hall is said to have and that are no members."""
    hall = document.hall
    if hall is None:
        return []
    found = []
    pressures = local_pressures(document, structure, loading)
    for role, kind in (("purlin", hall.purlins), ("side rail", hall.rails)):
        if kind is None or kind.modelled or (role == "side rail" and hall.open_sides):
            continue
        found.append(_of(document, structure, hall, role, kind, [p for p in pressures if p.role == role]))
    return found


def _of(
    document: Document,
    structure: Structure,
    hall: HallJig,
    role: str,
    kind: Purlins,
    pressures: list[LocalPressure],
) -> Secondary:
    span, spans = max(hall.spacings), len(hall.spacings) if kind.continuous else 1
    table = next((t for t in document.load_tables if t.name == kind.table), None)
    plain = Secondary(role, kind.table, table.source if table else "", span, spans, kind.spacing)
    if table is None:
        reason = f"there is no table “{kind.table}”" if kind.table else NO_TABLE
        return replace(plain, reasons=(reason,))
    row = row_for(table, span, spans)
    if row is None:
        in_line = (
            "in one span" if spans == 1 else f"over {min(spans, 3)}{' or more' if spans > 2 else ''} spans in line"
        )
        return replace(plain, reasons=(f"“{table.name}” has no row for {span:g} m {in_line}",))
    if not pressures:
        return replace(plain, reasons=(OPEN,))
    panels = {panel.name: panel for panel in structure.panels}
    uses = [use for p in pressures for use in _uses(document, structure, panels[p.panel], p, kind.spacing, row)]
    left_out = [HELD, *([IN_PLANE] if role == "purlin" else [])]
    left_out += [] if row.service > 0 else [SILENT]
    left_out += [BY_HAND] if document.panel_loads or document.area_loads else []
    return replace(plain, uses=tuple(sorted(uses, key=lambda use: -use.utilisation)), left_out=tuple(left_out))


def _uses(
    document: Document, structure: Structure, panel: Panel, p: LocalPressure, spacing: float, row: SpanRow
) -> list[Use]:
    """Each way in which a zone asks something of its row: pressed, lifted, and bent under characteristic loads."""
    pressed, lifted, bent = _combined(document, structure, panel, p)
    found = [(pressed, "down", row.down), (lifted, "up", row.up), (bent, "service", row.service)]
    return [
        Use(p.panel, p.zone, way, load * spacing, resistance * 1000, formula)  # type: ignore[arg-type]
        for (load, formula), way, resistance in found
        if resistance > 0 and load > 0
    ]


Loads = tuple[float, str]


def _combined(document: Document, structure: Structure, panel: Panel, p: LocalPressure) -> tuple[Loads, Loads, Loads]:
    """(pressing, lifting, under characteristic loads) N/m² at right angles to a panel, each with its formula."""
    rules, site, basis = document.rules, document.site, document.national.basis
    least, most = p.least, max(p.most, 0.0)
    wind = Case("W", "W", "wind")
    gamma_W = gamma_Q(wind, rules, basis)
    if panel.kind != "roof":
        # rails: the wind alone acts across them
        service = max(most, -least)
        return (gamma_W * most, f"{gamma_W:g} W"), (gamma_W * -least, f"{gamma_W:g} W"), (service, "W")
    slope = cos(radians(panel.pitch))
    snow_ = document.snow
    mu = greatest(document, structure)
    G = document.cladding.roof * 1000 * slope
    S = mu * snow_.exposure * snow_.thermal * site.ground_snow * 1000 * slope**2
    H = document.cladding.roof_imposed * 1000 * slope**2
    snow, roof = Case("S", "S", "snow"), Case("H", "H", "imposed", category="H")
    gamma_S, gamma_H = (gamma_Q(case, rules, basis) for case in (snow, roof))
    gamma_G = rules.gamma_G_unfavourable * basis.importance
    psi_S, psi_W = psi(snow, rules, site, basis)[0], psi(wind, rules, site, basis)[0]
    pressing = [
        (gamma_G * G + gamma_S * S + gamma_W * psi_W * most, f"{gamma_G:g} G + {gamma_S:g} S + {gamma_W * psi_W:g} W"),
        (gamma_G * G + gamma_W * most + gamma_S * psi_S * S, f"{gamma_G:g} G + {gamma_W:g} W + {gamma_S * psi_S:g} S"),
        (gamma_G * G + gamma_H * H, f"{gamma_G:g} G + {gamma_H:g} H"),
    ]
    if snow_.exceptional is not None:
        pressing.append((G + snow_.exceptional * S, f"G + {snow_.exceptional:g} S, exceptional"))
    favourable = rules.gamma_G_favourable
    lifting = (-(favourable * G + gamma_W * least), f"{favourable:g} G + {gamma_W:g} W")
    bent = [
        (G + S + psi_W * most, f"G + S + {psi_W:g} W"),
        (G + most + psi_S * S, f"G + W + {psi_S:g} S"),
        (G + H, "G + H"),
        (-(G + least), "G + W"),
    ]
    return max(pressing), lifting, max(bent)
