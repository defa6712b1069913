"""Purlins and rails of a hall that are no members of the model, by tables of resistances or as cold-formed ones of EN 1993-1-3: EN 1990 (6.10)
with local pressures of the wind of EN 1991-1-4 7.2.1(1)."""

from __future__ import annotations

from dataclasses import replace
from math import cos, isnan, radians

import numpy as np

from engine.actions.cases import Case, Loading
from engine.actions.derived import LocalPressure
from engine.catalogue.sections import family_of, section
from engine.catalogue.steels import DENSITY, material
from engine.document import Document
from engine.document.jigs import ColdFormed, HallJig, Purlins
from engine.document.rules import Sheeting
from engine.standards.en import cold_bending, cold_purlins
from engine.standards.en.cold_flange import line_of
from engine.standards.en.combinations import gamma_Q, psi
from engine.standards.en.sheeting import EVERY_SECOND, shear_needed
from engine.standards.en.snow_cases import greatest
from engine.standards.en.wind_local import local_pressures
from engine.structure.model import Panel, Structure
from engine.verification.secondary import Candidate, How, Secondary, Use, Way, row_for

#: N/m at right angles to the sheeting, each way; 0, or nothing, where it is not stated
Bears = dict[Way, float]
Loads = tuple[float, str]

NO_TABLE = "no table says what they bear"
BY_HAND = "loads by hand on the cladding are not in it"
IN_PLANE = "what acts in the plane of the roof is left to the sheeting"
WEIGHT = "the weight of the wall is left to its sheeting"
ALONG = "forces along them, of bracing and of what they hold sideways"
STAYED = "the moments that stays bring them, which stand with the members that they stay"
OPEN = "the wind on purlins of open roofs is not found"
SILENT = "their table says nothing of deflection"
HELD = "they count as held as their table says"
CRIPPLED = "crippling of the web over supports: cleats carry the reactions (EN 1993-1-3 6.1.7)"
SIDEWAYS = "(EN 1993-1-3 10.1.1(6))"
UNLIMITED = "no limit of deflection is stated for them"
LAPPED = "laps and sleeves over the supports count for nothing"


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


def candidates(document: Document, structure: Structure, loading: Loading, role: str) -> list[Candidate]:
    """How the cold-formed purlins or rails would fare as each section of their series, the lightest first; none where they are no
    cold-formed ones beside the model."""
    hall = document.hall
    kind = hall and {"purlin": hall.purlins, "side rail": hall.rails}.get(role)
    if not hall or not kind or not kind.cold or kind.modelled:
        return []
    pressures = [p for p in local_pressures(document, structure, loading) if p.role == role]
    found = []
    for s in family_of(kind.cold.section):
        if isnan(material(kind.cold.grade).fy(s.tw)) or (kind.cold.fastener or 0.0) >= s.b:
            continue
        own = kind.model_copy(update={"cold": kind.cold.model_copy(update={"section": s.name})})
        found.append(Candidate(s.name, s.A * DENSITY, _of(document, structure, hall, role, own, pressures)))
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
    stayed = kind.stay_every > 0
    if kind.cold:
        computed, own = _cold(document, role, kind, kind.cold, hall.spacings)
        return _used(document, structure, replace(computed, stayed=stayed), own, pressures) if own else computed
    table = next((t for t in document.load_tables if t.name == kind.table), None)
    plain = Secondary(role, kind.table, table.source if table else "", span, spans, kind.spacing, stayed=stayed)
    if table is None:
        reason = f"there is no table “{kind.table}”" if kind.table else NO_TABLE
        return replace(plain, reasons=(reason,))
    row = row_for(table, span, spans)
    if row is None:
        in_line = (
            "in one span" if spans == 1 else f"over {min(spans, 3)}{' or more' if spans > 2 else ''} spans in line"
        )
        return replace(plain, reasons=(f"“{table.name}” has no row for {span:g} m {in_line}",))
    bears: Bears = {"down": row.down * 1000, "up": row.up * 1000, "service": row.service * 1000}
    return _used(document, structure, replace(plain, left_out=(HELD,)), bears, pressures)


def _used(
    document: Document, structure: Structure, plain: Secondary, bears: Bears, pressures: list[LocalPressure]
) -> Secondary:
    """What acts on purlins or rails beside what they bear."""
    if not pressures:
        return replace(plain, reasons=(OPEN,))
    panels = {panel.name: panel for panel in structure.panels}
    uses = [use for p in pressures for use in _uses(document, structure, panels[p.panel], p, plain.spacing, bears)]
    left_out = [*plain.left_out, IN_PLANE if plain.role == "purlin" else WEIGHT]
    left_out += [] if bears.get("service") else [SILENT if plain.how == () else UNLIMITED]
    left_out += [BY_HAND] if document.panel_loads or document.area_loads else []
    left_out += [STAYED] if plain.stayed else []
    longer = [
        name
        for name in dict.fromkeys(p.panel for p in pressures)
        if _spans_farther(structure, panels[name], plain.span)
    ]
    return replace(
        plain,
        uses=tuple(sorted(uses, key=lambda use: -use.utilisation)),
        left_out=tuple(left_out),
        reasons=plain.reasons
        + tuple(
            f"some of what would bear “{name}” does not: they span farther than {plain.span:g} m" for name in longer
        ),
    )


def _spans_farther(structure: Structure, panel: Panel, span: float) -> bool:
    """Whether what bears a panel along the building stands farther apart than a span, or more than half of one within its ends."""
    if abs(panel.span[1]) < 0.99 or not panel.carriers:
        return False
    ends = [structure.xyz[structure.member(name).nodes[0], 1] for name in panel.carriers]
    at, edge = np.unique(ends), panel.corners[:, 1]
    within = max(at[0] - edge.min(), edge.max() - at[-1])
    return bool(within > span / 2 or (np.diff(at) > span + 1e-3).any())


def _cold(
    document: Document, role: str, kind: Purlins, cold: ColdFormed, lengths: list[float]
) -> tuple[Secondary, Bears]:
    """What a cold-formed purlin or rail bears, held as the sheeting of its role does; nothing where it is not covered."""
    s, steel, rules = section(cold.section), material(cold.grade), document.rules
    span, spans = max(lengths), len(lengths) if kind.continuous else 1
    plain = Secondary(role, f"{s.name} {cold.grade}", "EN 1993-1-3 10.1", span, spans, kind.spacing)
    beyond = cold_bending.beyond(cold_bending.walls(s))
    held = rules.sheeting.get(role, Sheeting())  # type: ignore[call-overload]
    shear = held.shear * 1000 * (1.0 if held.every_rib else EVERY_SECOND)
    needed = shear_needed(s, steel, span)
    if not beyond and 0 < shear < needed:
        beyond = f"the sheeting's S of {shear / 1000:.0f} kN does not hold it sideways, {needed / 1000:.0f} kN would {SIDEWAYS}"
    if beyond:
        return replace(plain, reasons=(beyond,)), {}
    found = cold_purlins.capacities(
        cold_purlins.Purlin(
            s,
            steel,
            line_of(lengths, kind.continuous),
            bars=cold.bars,
            fastener=cold.fastener or s.b / 2,
            rotation=held.rotation * 1000,
            ratio=rules.deflection_ratio(role),
            gamma=(rules.gamma_M0, rules.gamma_M1),
        )
    )
    left_out = [CRIPPLED, ALONG, *([LAPPED] if spans > 1 else [])]
    left_out += (
        [] if shear else [f"sheeting that holds it sideways, with S of {needed / 1000:.0f} kN at least {SIDEWAYS}"]
    )
    how = tuple(How(way, cold_purlins.derivation(capacity)) for way, capacity in found.items())
    bears = {way: capacity.load for way, capacity in found.items()}
    return replace(plain, left_out=tuple(left_out), how=how), bears


def _uses(
    document: Document, structure: Structure, panel: Panel, p: LocalPressure, spacing: float, bears: Bears
) -> list[Use]:
    """Each way in which a zone asks something of its row: pressed, lifted, and bent under characteristic loads."""
    pressed, lifted, bent = _combined(document, structure, panel, p)
    ways: tuple[tuple[Loads, Way], ...] = ((pressed, "down"), (lifted, "up"), (bent, "service"))
    return [
        Use(p.panel, p.zone, way, load * spacing, bears[way], formula)
        for (load, formula), way in ways
        if bears.get(way) and load > 0
    ]


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
