"""The snow arrangements of a hall by EN 1991-1-3: undrifted, drifted, in valleys, at taller parts, at parapets."""

from __future__ import annotations

from itertools import pairwise
from math import cos, radians

import numpy as np

from engine.actions.cases import Case, Loading
from engine.actions.panels import DOWN, press
from engine.derivation import Reason
from engine.document import Document
from engine.errors import ModelError
from engine.standards.en import snow
from engine.standards.en.roofs import Roof, parapet, planes_of, roofs_of
from engine.standards.en.snow_lying import Arrangement, Stretch, shape, shaped, stretched
from engine.standards.en.snow_trusses import on_truss, truss_roofs
from engine.standards.en.wind_zones import FAR, on_roof
from engine.structure.model import Panel, Structure
from engine.structure.words import slope_words

#: width of the strip at the eaves on which the snow that overhangs it is laid, metres of plan
EDGE = 0.25


def hall_roofs(structure: Structure) -> list[Panel]:
    """Roofs of the hall and its lean-tos, from left to right."""
    found = (p for p in structure.panels if p.kind == "roof" and p.place != "truss")
    return sorted(found, key=lambda p: stretched(p)[0])


def arrangements(document: Document, structure: Structure) -> list[Arrangement]:
    """All arrangements of snow on the hall's roofs."""
    roofs = hall_roofs(structure)
    main = [p for p in roofs if not p.place]
    own = roofs_of(structure)
    how = {p.name: shaped(p, document) for p in roofs}
    mu = {name: values["mu1"] for name, values in how.items()}

    def even(name: str, note: str, but: tuple[str, ...] = ()) -> Arrangement:
        made = Arrangement(name, note)
        for panel in roofs:
            if panel.name not in but:
                made.lay(panel, mu[panel.name], how[panel.name])
        return made

    words = ", ".join(f"{mu[p.name]:.2f} {slope_words(p)}" for p in roofs)
    found = [even("Snow, undrifted", f"μ1 = {words}, on the plan projection (5.3)")]
    if len(own) == 1 and own[0].duopitch:
        for towards, light in (("right", "left"), ("left", "right")):
            made = Arrangement(f"Snow, drifted to the {towards}", f"half of μ1 on the {light} slope (figure 5.3)")
            slope = {p.name for p in own[0].planes[0 if light == "left" else 1].panels}
            for panel in roofs:
                half = panel.name in slope or (panel.place == "overhang" and panel.side == light)
                share = {"half": 0.5} if half else {}
                made.lay(panel, mu[panel.name] * (0.5 if half else 1.0), how[panel.name] | share)
            found.append(made)
    if len(own) > 1:
        found += _valleys(own, roofs, how, document.national.snow.flat)
    found += _at_lean_tos(document, structure, roofs, main, mu, even)
    found += _at_neighbour(document, main, mu, even)
    if parapet(document):
        found += _at_parapets(document, main, roofs, even)
    return found + _at_obstructions(document, structure, roofs, even)


def _valleys(own: list[Roof], roofs: list[Panel], how: dict[str, dict[str, float]], flat: float) -> list[Arrangement]:
    """Figure 5.4, case (ii): μ1 at the ridges, μ2 of the mean pitch in the valleys; outer slopes with μ1."""
    made = Arrangement("Snow, drifted in the valleys", "μ2 of the mean pitch in the valleys (figure 5.4)")
    valley: dict[str, list[tuple[float, float]]] = {}
    mu = {name: values["mu1"] for name, values in how.items()}
    of: dict[str, dict[str, float]] = {}
    planes = [plane for roof in own for plane in roof.planes]
    peaks = set()
    for one, other in pairwise(planes):
        if one.slope < 0 < other.slope:
            mean = (one.pitch + other.pitch) / 2
            value = float(snow.mu2(min(mean, 59.9), flat))
            peaks.add(f"{value:.2f}")
            own_values = {"alpha_1": one.pitch, "alpha_2": other.pitch, "alpha_mean": mean, "flat": flat, "mu2": value}
            of |= {panel.name: own_values for panel in [*one.panels, *other.panels]}
            for plane, knots in (
                (one, [(one.x0, mu[one.panels[0].name]), (one.x1, value)]),
                (other, [(other.x0, value), (other.x1, mu[other.panels[-1].name])]),
            ):
                valley |= {panel.name: knots for panel in plane.panels}
    if not valley:
        return []
    for panel in roofs:
        if panel.name in valley:
            made.knots(panel, valley[panel.name], of[panel.name])
        else:
            made.lay(panel, mu[panel.name], how[panel.name])
    made.note += f"; μ2 = {', '.join(sorted(peaks))}"
    return [made]


def _at_lean_tos(document, structure, roofs, main, mu, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    found = []
    for panel in roofs:
        if panel.place != "lean-to":
            continue
        x0, x1 = stretched(panel)
        wall = x1 if panel.side == "left" else x0
        upper = main[0] if panel.side == "left" else main[-1]
        eaves = float(upper.corners[0, 2] if abs(upper.corners[0, 0] - wall) < 0.01 else upper.corners[-1, 2])
        height = eaves - float(panel.corners[:, 2].max())
        if height <= 0.05:
            continue
        width = max(stretched(p)[1] for p in main) - min(stretched(p)[0] for p in main)
        plane = planes_of(structure)[0 if panel.side == "left" else -1]
        towards = plane.slope > 0 if panel.side == "left" else plane.slope < 0
        slope = plane.width if towards else 0.0
        how = _at_taller(document, width, x1 - x0, height, upper.pitch, slope)
        sliding, blown, length = how["mu_s"], how["mu_w"], how["l_s"]
        note = f"μ_s = {sliding:.2f}, μ_w = {blown:.2f} over l_s = {length:.1f} m from the hall's wall (5.3.6)"
        made = even(f"Snow, drifted onto the {panel.side} lean-to", note, (panel.name,))
        made.drift(panel, wall, length, sliding + blown, mu[panel.name], how)
        found.append(made)
    return found


def _at_neighbour(document, main, mu, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    n = document.snow.neighbour
    if n is None:
        return []
    edge = min(stretched(p)[0] for p in main) if n.side == "left" else max(stretched(p)[1] for p in main)
    wall = edge - n.gap if n.side == "left" else edge + n.gap
    width = max(stretched(p)[1] for p in main) - min(stretched(p)[0] for p in main)
    how = _at_taller(document, n.width, width, n.above, 0.0, 0.0)
    blown, length = how["mu_w"], how["l_s"]
    if n.gap >= length:
        return []
    note = f"μ_w = {blown:.2f} at the taller building, over l_s = {length:.1f} m (5.3.6); no snow slides from it"
    made = even(f"Snow, drifted against the building to the {n.side}", note, tuple(p.name for p in main))
    for panel in main:
        made.drift(panel, wall, length, blown, mu[panel.name], how)
    return [made]


def _at_parapets(document, main, roofs, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    how = _at_obstruction(document, parapet(document))
    peak, length = how["mu2_at"], how["l_s"]
    found = []
    for side, panel, wall in (("left", main[0], stretched(main[0])[0]), ("right", main[-1], stretched(main[-1])[1])):
        note = f"μ2 = {peak:.2f} at the parapet, over l_s = {length:.1f} m (6.2)"
        made = even(f"Snow, drifted against the {side} parapet", note, (panel.name,))
        made.drift(panel, wall, length, peak, shape(panel, document), how)
        found.append(made)
    return found


def _at_taller(
    document: Document, upper: float, lower: float, height: float, pitch: float, slope: float
) -> dict[str, float]:
    """μ_s and μ_w of the drift at a taller building with its length, and what they come from (5.3.6)."""
    values, ground = document.national.snow, document.site.ground_snow
    sliding, blown = snow.drift_at_taller(upper, lower, height, ground, pitch, slope, values)
    slides = {"mu1_above": float(snow.mu1(pitch, values.flat)), "slope_above": slope} if sliding else {}
    return {
        **slides,
        "b_1": upper,
        "b_2": lower,
        "h_step": height,
        "blown": (upper + lower) / (2 * height),
        "held_w": values.drift_weight * height / ground if ground else np.inf,
        "mu_w": blown,
        "mu_s": sliding,
        "l_s": snow.drift_length(height, values),
        **_bounds(document, "w", values.drift_least, values.drift_most),
    }


def _at_obstruction(document: Document, height: float) -> dict[str, float]:
    """μ2 of the drift at an obstruction with its length, and what they come from (6.2)."""
    values = document.national.snow
    peak = snow.drift_at_obstruction(height, document.site.ground_snow, values)
    length = snow.drift_length(height, values)
    bounds = _bounds(document, "at", values.obstruction_least, values.obstruction_most)
    held = values.drift_weight * height / document.site.ground_snow if document.site.ground_snow else np.inf
    return {"h_step": height, "held_at": held, "mu2_at": peak, "l_s": length, **bounds}


def _bounds(document: Document, of: str, least: float, most: float) -> dict[str, float]:
    """What bounds a drift, by name."""
    values = document.national.snow
    length = {"l_least": values.length_least, "l_most": values.length_most}
    return {f"least_{of}": least, f"most_{of}": most, "gamma_snow": values.drift_weight * 1000, **length}


def _at_obstructions(document, structure, roofs, even) -> list[Arrangement]:  # type: ignore[no-untyped-def]
    """6.2: on both sides of each, triangles from μ2 at it to μ1 at l_s; beside its ends the snow lies even."""
    found = []
    for i, o in enumerate(document.snow.obstructions):
        panel = next((p for p in roofs if p.name == o.panel), None)
        place = f"snow.obstructions.{i}"
        if panel is None:
            raise ModelError(
                f"Snow cannot drift at an obstruction on “{o.panel}”: there is no such roof.", f"{place}.panel"
            )
        x0, x1 = stretched(panel)
        if not x0 < o.at < x1:
            raise ModelError(
                f"The obstruction at x = {o.at:g} m lies off “{o.panel}”, which reaches from {x0:g} to {x1:g} m.",
                f"{place}.at",
            )
        low, high = float(panel.corners[:, 1].min()), float(panel.corners[:, 1].max())
        y = (low if o.start is None else o.start, high if o.end is None else o.end)
        if not low - 1e-6 <= y[0] < y[1] <= high + 1e-6:
            raise ModelError(
                f"The obstruction on “{o.panel}” stands from y = {y[0]:g} to {y[1]:g} m; the roof reaches from {low:g} to "
                f"{high:g} m.",
                f"{place}.start",
            )
        how, beside_it = _at_obstruction(document, o.height), shaped(panel, document)
        length, mu1 = how["l_s"], beside_it["mu1"]
        peak = max(how["mu2_at"], mu1)
        note = f"μ2 = {peak:.2f} at x = {o.at:g} m, over l_s = {length:.1f} m on both sides (6.2)"
        made = even(f"Snow, drifted at obstruction {i + 1}", note, (panel.name,))
        made.knots(panel, [(o.at - length, mu1), (o.at, peak), (o.at + length, mu1)], how, y)
        for beside in ((low, y[0]), (y[1], high)):
            if beside[1] - beside[0] > 1e-6:
                made.stretches[panel.name].append(Stretch((x0, x1), (mu1, mu1), beside, how=beside_it))
        found.append(made)
    return found


def _everywhere(document: Document, structure: Structure) -> list[Arrangement]:
    """The hall's arrangements with what else bears snow: roofs of trusses, and drawn panels with a μ of their own."""
    trusses = truss_roofs(document, structure)
    drawn = [p for p in structure.panels if p.snow is not None]
    found = arrangements(document, structure) if hall_roofs(structure) else []
    if not found and (trusses or drawn):
        found = [Arrangement("Snow, undrifted", "on the plan projection (5.3)")]
    for roof in trusses:
        sides = ("left", "right") if len({p.side for p in roof.panels}) == 2 else ()
        for side in sides:
            note = "figure 5.3: half of μ1 on the other slope"
            if roof.rise:
                most = float(snow.mu3(0.0, roof.rise, roof.length, document.national.snow.curved_most))
                note = f"μ3 = {most:.2f} on the {side} half (5.3.5, figure 5.6)"
            made = Arrangement(f"Snow on {roof.name}, drifted to the {side}", note)
            made.stretches.update({name: list(stretches) for name, stretches in found[0].stretches.items()})
            on_truss(made, roof, document, side)
            found.append(made)
    for made in found:
        for roof in trusses:
            if not any(p.name in made.stretches for p in roof.panels):
                on_truss(made, roof, document)
        for panel in drawn:
            made.knots(panel, [(0.0, float(panel.snow or 0.0))], {})
    return found


def add_snow(loading: Loading, structure: Structure, document: Document) -> None:
    """Add the snow cases of the hall, the undrifted one as an exceptional case too where the place knows such snow."""
    options, site, values = document.snow, document.site, document.national.snow
    roof = site.ground_snow * options.exposure * options.thermal
    if roof <= 0:
        return
    panels = {p.name: p for p in structure.panels}
    found = [made for made in _everywhere(document, structure) if _bears(made)]
    hangs = options.edge and site.altitude >= values.edge_altitude
    edge = snow.edge_load(values.flat * roof, values.edge_weight, values.edge_share) if hangs else 0.0
    for i, made in enumerate(found):
        note = made.note + (f"; s_e = {edge:.2f} kN/m at the eaves (6.3)" if edge and i == 0 else "")
        case = loading.add_case(Case(made.name, f"S{i + 1}", "snow", "snow", note))
        _lay(loading, case, panels, made, document, drifted=i > 0)
        if edge and i == 0 and hall_roofs(structure):
            _edges(loading, case, structure, edge)
    if options.exceptional and found:
        name = "Exceptional snow, undrifted"
        note = f"C_esl = {options.exceptional:g} on the ground snow (4.3); an accidental action"
        case = loading.add_case(Case(name, "A1", "accidental", "snow", note))
        _lay(loading, case, panels, found[0], document, exceptional=options.exceptional)


def _bears(made: Arrangement) -> bool:
    """Whether any snow lies in it: none does on roofs steeper than 60°."""
    return any(max(stretch.mu) > 1e-9 for stretches in made.stretches.values() for stretch in stretches)


def _lay(
    loading: Loading,
    case: int,
    panels: dict[str, Panel],
    made: Arrangement,
    document: Document,
    drifted: bool = False,
    exceptional: float | None = None,
) -> None:
    """Put s = μ C_e C_t s_k (5.1) of an arrangement onto its panels, C_esl times it where it is exceptional (4.3)."""
    options, ground = document.snow, document.site.ground_snow
    exposure = (document.national.snow.exposure_drifted if drifted else None) or options.exposure
    roof = snow.roof_snow(ground, exceptional or 1.0, exposure, options.thermal)
    terms_of_roof = f"C_e {exposure:g} · C_t {options.thermal:g} · s_k {ground:g} kN/m²"
    if exceptional:
        terms_of_roof = f"C_esl {exceptional:g} · {terms_of_roof}"
    on_roof_values = {"s_k": ground * 1000, "C_e": exposure, "C_t": options.thermal}
    if exceptional:
        on_roof_values["C_esl"] = exceptional
    for name, stretches in made.stretches.items():
        panel = panels[name]
        flatness = abs(float(panel.outside[2]))
        scale = roof * 1000 * flatness
        for stretch in stretches:
            mu0, mu1 = stretch.mu
            terms = stretch.terms(panel)
            even = abs(mu1 - mu0) < 1e-9
            words = f"μ = {mu0:.2f}" if even else f"μ from {mu0:.2f} to {mu1:.2f}"
            zone = f"{mu0:.2f}" if even else f"{mu0:.2f} … {mu1:.2f}"
            pressure = (scale * terms[0], scale * terms[1], scale * terms[2])
            why = f"{words}; s = μ · {terms_of_roof} (5.1) on the plan"
            most = {"s": max(stretch.mu) * roof * 1000, "flatness": flatness, "p": max(stretch.mu) * scale}
            reason = Reason("snow", {**_how(stretch), **on_roof_values, **most})
            press(loading, case, panel, DOWN, pressure, stretch.on(panel), zone, why, reason=reason)


def _how(stretch: Stretch) -> dict[str, float]:
    """What μ on a stretch comes from, its greatest, and its least where it varies."""
    low, high = sorted(stretch.mu)
    return {**stretch.how, "mu": high} | ({"mu_other": low} if high - low > 1e-9 else {})


def _edges(loading: Loading, case: int, structure: Structure, load: float) -> None:
    """The overhanging snow as a strip along the outer eaves."""
    roofs = [p for p in hall_roofs(structure) if p.place != "lean-to"]
    left = min(roofs, key=lambda p: stretched(p)[0])
    right = max(roofs, key=lambda p: stretched(p)[1])
    for panel, (a, b) in (
        (left, (stretched(left)[0], stretched(left)[0] + EDGE)),
        (right, (stretched(right)[1] - EDGE, stretched(right)[1])),
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
    values = [max(s.mu) for a in arrangements(document, structure) for every in a.stretches.values() for s in every]
    return float(np.max(values, initial=0.0))
