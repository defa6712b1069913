"""The snow arrangements of a hall by EN 1991-1-3: undrifted, drifted, in valleys, at taller parts, at parapets."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field
from math import cos, radians

import numpy as np

from engine.actions.cases import Case, Loading
from engine.actions.panels import DOWN, press
from engine.document import Document
from engine.standards.en import snow
from engine.standards.en.wind_zones import FAR, on_roof
from engine.structure.model import Panel, Structure

#: width of the strip at the eaves on which the snow that overhangs it is laid, metres of plan
EDGE = 0.25


@dataclass
class Arrangement:
    """How snow lies: for each panel the stretches (x0, x1, μ at x0, μ at x1) across the hall, and why."""

    name: str
    note: str
    stretches: dict[str, list[tuple[float, float, float, float]]] = field(default_factory=lambda: defaultdict(list))

    def lay(self, panel: Panel, mu: float) -> None:
        """The same μ over a whole panel."""
        x0, x1 = _range(panel)
        self.stretches[panel.name].append((x0, x1, mu, mu))

    def slope(self, panel: Panel, at0: float, at1: float) -> None:
        """μ from one value at the panel's left edge to another at its right one."""
        self.stretches[panel.name].append((*_range(panel), at0, at1))

    def drift(self, panel: Panel, wall: float, length: float, peak: float, even: float) -> None:
        """Where a drift of that length lies against a wall at x on a panel: linear from `peak` to `even`; beyond it, even."""
        x0, x1 = _range(panel)
        away = 1.0 if (x0 + x1) / 2 > wall else -1.0
        end = wall + away * length

        def mu(x: float) -> float:
            return peak + (even - peak) * min(max((x - wall) * away / length, 0.0), 1.0)

        cuts = sorted({x0, x1, *(x for x in (end,) if x0 < x < x1)})
        for a, b in zip(cuts[:-1], cuts[1:], strict=True):
            self.stretches[panel.name].append((a, b, mu(a), mu(b)))


def _range(panel: Panel) -> tuple[float, float]:
    return float(panel.corners[:, 0].min()), float(panel.corners[:, 0].max())


def shape(panel: Panel, document: Document) -> float:
    """μ1 of a roof panel; at least 0.8 where snow is kept from sliding (5.3.2(2), 5.3.3(2))."""
    mu = float(snow.mu1(panel.pitch))
    return max(mu, 0.8) if document.snow.held or document.snow.parapet else mu


def arrangements(document: Document, structure: Structure) -> list[Arrangement]:
    """All arrangements of snow on the hall's roofs."""
    roofs = sorted((p for p in structure.panels if p.kind == "roof"), key=lambda p: _range(p)[0])
    main = [p for p in roofs if not p.place]
    mu = {p.name: shape(p, document) for p in roofs}

    def even(name: str, note: str, but: tuple[str, ...] = ()) -> Arrangement:
        made = Arrangement(name, note)
        for panel in roofs:
            if panel.name not in but:
                made.lay(panel, mu[panel.name])
        return made

    words = ", ".join(f"{mu[p.name]:.2f} {p.name.removeprefix('roof-')}" for p in roofs)
    found = [even("Snow, undrifted", f"μ1 = {words}, on the plan projection (5.3)")]
    bays = len({p.name.removeprefix("roof-")[:2] for p in main})
    if bays == 1 and len(main) == 2:
        for towards, light in (("right", "left"), ("left", "right")):
            made = Arrangement(f"Snow, drifted to the {towards}", f"half of μ1 on the {light} slope (figure 5.3)")
            for panel in roofs:
                made.lay(panel, mu[panel.name] * (0.5 if panel.side == light and panel.place != "lean-to" else 1.0))
            found.append(made)
    if bays > 1:
        found += _valleys(main, roofs, mu)
    found += _at_lean_tos(document, structure, roofs, main, mu, even)
    found += _at_neighbour(document, main, mu, even)
    if document.snow.parapet:
        found += _at_parapets(document, main, roofs, even)
    return found


def _valleys(main: list[Panel], roofs: list[Panel], mu: dict[str, float]) -> list[Arrangement]:
    """Figure 5.4, case (ii): μ1 at the ridges, μ2 of the mean pitch in the valleys; outer slopes with μ1."""
    made = Arrangement("Snow, drifted in the valleys", "μ2 of the mean pitch in the valleys (figure 5.4)")
    valley: dict[str, tuple[float, float]] = {}
    for one, other in zip(main[:-1], main[1:], strict=True):
        if one.side == "right" and other.side == "left":
            value = float(snow.mu2(min((one.pitch + other.pitch) / 2, 59.9)))
            valley[one.name], valley[other.name] = (mu[one.name], value), (value, mu[other.name])
    if not valley:
        return []
    for panel in roofs:
        if panel.name in valley:
            made.slope(panel, *valley[panel.name])
        else:
            made.lay(panel, mu[panel.name])
    peaks = ", ".join(sorted({f"{max(pair):.2f}" for pair in valley.values()}))
    made.note += f"; μ2 = {peaks}"
    return [made]


def _at_lean_tos(document, structure, roofs, main, mu, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    found = []
    for panel in roofs:
        if panel.place != "lean-to":
            continue
        x0, x1 = _range(panel)
        wall = x1 if panel.side == "left" else x0
        upper = main[0] if panel.side == "left" else main[-1]
        eaves = float(upper.corners[0, 2] if abs(upper.corners[0, 0] - wall) < 0.01 else upper.corners[-1, 2])
        height = eaves - float(panel.corners[:, 2].max())
        if height <= 0.05:
            continue
        width = max(_range(p)[1] for p in main) - min(_range(p)[0] for p in main)
        sliding, blown = snow.drift_at_taller(width, x1 - x0, height, document.site.ground_snow, upper.pitch)
        length = snow.drift_length(height)
        note = f"μ_s = {sliding:.2f}, μ_w = {blown:.2f} over l_s = {length:.1f} m from the hall's wall (5.3.6)"
        made = even(f"Snow, drifted onto the {panel.side} lean-to", note, (panel.name,))
        made.drift(panel, wall, length, sliding + blown, mu[panel.name])
        found.append(made)
    return found


def _at_neighbour(document, main, mu, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    n = document.snow.neighbour
    if n is None:
        return []
    edge = min(_range(p)[0] for p in main) if n.side == "left" else max(_range(p)[1] for p in main)
    wall = edge - n.gap if n.side == "left" else edge + n.gap
    width = max(_range(p)[1] for p in main) - min(_range(p)[0] for p in main)
    _, blown = snow.drift_at_taller(n.width, width, n.above, document.site.ground_snow, 0.0)
    length = snow.drift_length(n.above)
    if n.gap >= length:
        return []
    note = f"μ_w = {blown:.2f} at the taller building, over l_s = {length:.1f} m (5.3.6); no snow slides from it"
    made = even(f"Snow, drifted against the building to the {n.side}", note, tuple(p.name for p in main))
    for panel in main:
        made.drift(panel, wall, length, blown, mu[panel.name])
    return [made]


def _at_parapets(document, main, roofs, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    height = document.snow.parapet
    peak, length = snow.drift_at_obstruction(height, document.site.ground_snow), snow.drift_length(height)
    found = []
    for side, panel, wall in (("left", main[0], _range(main[0])[0]), ("right", main[-1], _range(main[-1])[1])):
        note = f"μ2 = {peak:.2f} at the parapet, over l_s = {length:.1f} m (6.2)"
        made = even(f"Snow, drifted against the {side} parapet", note, (panel.name,))
        made.drift(panel, wall, length, peak, shape(panel, document))
        found.append(made)
    return found


def add_snow(loading: Loading, structure: Structure, document: Document) -> None:
    """Add the snow cases of the hall, the undrifted one as an exceptional case too where the place knows such snow."""
    if document.hall is None:
        return
    options, site = document.snow, document.site
    roof = site.ground_snow * options.exposure * options.thermal
    if roof <= 0:
        return
    panels = {p.name: p for p in structure.panels}
    found = arrangements(document, structure)
    edge = snow.edge_load(0.8 * roof) if options.edge and site.altitude >= 800 else 0.0
    for i, made in enumerate(found):
        note = made.note + (f"; s_e = {edge:.2f} kN/m at the eaves (6.3)" if edge and i == 0 else "")
        case = loading.add_case(Case(made.name, f"S{i + 1}", "snow", "snow", note))
        _lay(loading, case, panels, made, roof)
        if edge and i == 0:
            _edges(loading, case, structure, edge)
    if options.exceptional:
        name = "Exceptional snow, undrifted"
        note = f"C_esl = {options.exceptional:g} on the ground snow (4.3); an accidental action"
        case = loading.add_case(Case(name, "A1", "accidental", "accidental", note))
        _lay(loading, case, panels, found[0], roof * options.exceptional)


def _lay(loading: Loading, case: int, panels: dict[str, Panel], made: Arrangement, roof: float) -> None:
    for name, stretches in made.stretches.items():
        panel = panels[name]
        plan = cos(radians(panel.pitch))
        for x0, x1, mu0, mu1 in stretches:
            # a linear change in x, written in the panel's coordinates
            rate = (mu1 - mu0) / (x1 - x0)
            origin = mu0 + rate * (panel.corners[0, 0] - x0)
            scale = roof * 1000 * plan
            terms = (
                float(scale * origin),
                float(scale * rate * panel.basis[0, 0]),
                float(scale * rate * panel.basis[1, 0]),
            )
            words = f"μ = {mu0:.2f}" if abs(mu1 - mu0) < 1e-9 else f"μ from {mu0:.2f} to {mu1:.2f}"
            points = on_roof(panel, (x0, x1), (-FAR, FAR))
            zone = f"{mu0:.2f}" if abs(mu1 - mu0) < 1e-9 else f"{mu0:.2f} … {mu1:.2f}"
            press(loading, case, panel, DOWN, terms, points, zone, f"{words}; s = μ C_e C_t s_k (5.1) on the plan")


def _edges(loading: Loading, case: int, structure: Structure, load: float) -> None:
    """The overhanging snow as a strip along the outer eaves."""
    roofs = [p for p in structure.panels if p.kind == "roof" and p.place != "lean-to"]
    left = min(roofs, key=lambda p: _range(p)[0])
    right = max(roofs, key=lambda p: _range(p)[1])
    for panel, (a, b) in (
        (left, (_range(left)[0], _range(left)[0] + EDGE)),
        (right, (_range(right)[1] - EDGE, _range(right)[1])),
    ):
        pressure = load * 1000 / EDGE * cos(radians(panel.pitch))
        press(
            loading,
            case,
            panel,
            DOWN,
            pressure,
            on_roof(panel, (a, b), (-FAR, FAR)),
            "s_e",
            "snow over the eaves (6.3)",
        )


def greatest(document: Document, structure: Structure) -> float:
    """The largest μ of all arrangements, for a quick look."""
    values = [
        max(m0, m1) for a in arrangements(document, structure) for s in a.stretches.values() for _, _, m0, m1 in s
    ]
    return float(np.max(values, initial=0.0))
