"""Chapters: actions with their derivations, and how they are combined."""

from __future__ import annotations

from collections import Counter
from dataclasses import replace

import numpy as np

from engine.actions.derived import Wind
from engine.chain import Chain
from engine.dossier.acting import loads as loads_drawing
from engine.dossier.acting import zones_drawing
from engine.dossier.behaviour import frames_with_worst
from engine.dossier.building import named
from engine.dossier.values import Cell, Column, Derived, Facts, Figure, Heading, Paragraph, Table, Told
from engine.report import loads
from engine.standards.family import Family, family
from engine.structure.model import Floats
from engine.verification.outcomes import SERVICE

WAYS = {
    "left": "Wind from the left",
    "right": "Wind from the right",
    "front": "Wind from the front",
    "back": "Wind from the back",
}


def actions(chain: Chain, told: Told) -> None:
    """Weights, imposed loads, snow, wind, imperfections; every case with its balance."""
    document, loading = chain.document, chain.loading
    cladding, site = document.cladding, document.site
    told.add(Heading("Permanent and imposed loads", "actions.permanent"))
    densities = sorted({(m.material.name, m.material.density) for m in chain.structure.members})
    rows = [(name, f"{density:g} kg/m³", "volume of every member, haunches included") for name, density in densities]
    if any(p.kind == "roof" for p in chain.structure.panels):
        rows.append(("Cladding of roofs", f"{cladding.roof:.2f} kN/m²", "of the surface, stated"))
        rows.append(
            ("Imposed on roofs", f"{cladding.roof_imposed:.2f} kN/m²", "category H, on the plan · EN 1991-1-1 6.3.4")
        )
    if any(p.kind == "wall" for p in chain.structure.panels):
        rows.append(("Cladding of walls", f"{cladding.walls:.2f} kN/m²", "of the surface, stated"))
    for p in chain.structure.panels:
        if p.kind == "floor" and (p.permanent or p.imposed):
            words = f"{p.permanent / 1000:.2f} + {p.imposed / 1000:.2f} kN/m²"
            rows.append(
                (p.name, words, f"permanent + imposed, category {p.category}" if p.category else "permanent + imposed")
            )
    told.add(Facts(tuple(rows)))
    snow = [c for c in loading.cases if c.nature == "snow"]
    if snow:
        _snow(chain, told)
    winds = family(document).winds(document, chain.structure)
    if winds:
        _wind(chain, told, winds)
    elif any(c.nature == "wind" for c in loading.cases):
        told.add(
            Heading("Wind", "actions.wind"),
            Facts((("v_b,0", f"{site.wind_speed:g} m/s", _source(chain, "wind_speed")), ("Terrain", site.terrain, ""))),
        )
    if told.level != "summary":
        _on_frames(chain, told)
    told.add(Heading("Cases and their balance", "actions.cases"), cases_table(chain))
    if told.level == "full":
        _each_case(chain, told)
    broken = [found.case.symbol for found in loads.cases(chain) if not found.balance.holds]
    if broken:
        told.add(Paragraph(f"The balance does not hold in {', '.join(broken)}.", "fails"))
    else:
        told.add(
            Paragraph(
                "In every case what is expected from surfaces and masses, what acts on the members, and what the supports give back agree within 0.1 %."
            )
        )
    if told.level != "summary":
        notes = [(case.symbol, case.name, case.note) for case in loading.cases if case.note]
        if notes:
            told.add(
                Heading("What the cases hold", "actions.notes"),
                Facts(tuple((f"{symbol}  {name}", note, "") for symbol, name, note in notes)),
            )


def _each_case(chain: Chain, told: Told) -> None:
    """Each case for itself, so that each can be ticked: what it is, its resultant, and what it moves most."""
    told.add(Heading("Each case", "actions.each"))
    structure = chain.structure
    move = np.linalg.norm(chain.response.displacement[:, :3], axis=1) * 1000
    for k, found in enumerate(loads.cases(chain)):
        case, b = found.case, found.balance
        node = int(move[:, k].argmax())

        def forces(resultant: Floats) -> str:
            return ", ".join(f"{shown:.1f}" for shown in (resultant / 1000).round(1) + 0.0).replace("-", "−")

        rows = (
            ("Nature", case.nature, "stated here" if found.own else "generated"),
            ("Expected", f"{forces(b.expected - b.ground)} kN", "along X, Y, Z, from surfaces and masses"),
            (
                "On the members",
                f"{forces(b.applied)} kN",
                "the balance holds" if b.holds else "the balance does not hold",
            ),
            ("Moves most", f"{move[node, k]:.2f} mm", structure.nodes[node]),
            *([("Note", case.note, "")] if case.note else []),
        )
        told.add(Heading(f"{case.symbol} · {case.name}", f"case.{case.symbol}", 3), Facts(rows))


def _on_frames(chain: Chain, told: Told) -> None:
    """The loads of the different frames: at the normal level of the cases that act in what governs each, in full of all."""
    drawn = []
    for group, worst in frames_with_worst(chain):
        strong = [o for o in chain.verification.verdicts[worst].outcomes if o.criterion not in SERVICE]
        if not strong:
            continue
        governing = chain.verification.strength[max(strong, key=lambda o: o.utilisation).combination]
        factors = chain.combinations[governing].factors
        for case, of in enumerate(chain.loading.cases):
            if of.nature != "imperfection" and (told.level == "full" or factors[case]):
                drawing = loads_drawing(chain, group[0], np.eye(len(factors))[case], f"{of.symbol} · {named(group)}")
                if drawing:
                    drawn.append((group[0].key, of, drawing))
    if not drawn:
        return
    told.add(
        Heading("Loads on frames", "actions.frames", aside="kN/m and kN, as they fall on the members of the frame")
    )
    if told.level != "full":
        told.add(Paragraph("Of the cases that act in what governs each different frame; the level “full” draws all."))
    for key, of, drawing in drawn:
        told.add(Heading(drawing.title, f"actions.frames.{key}.{of.symbol}", 3, of.name), Figure(drawing))


def _source(chain: Chain, field: str) -> str:
    site = chain.document.site
    source = site.sources.get(field)
    return source.words if source and source.value == getattr(site, field) else "stated"


def _snow(chain: Chain, told: Told) -> None:
    document = chain.document
    site, snow = document.site, document.snow
    ground = site.ground_snow * snow.exposure * snow.thermal
    told.add(
        Heading("Snow", "actions.snow", aside="EN 1991-1-3"),
        Facts(
            (
                (
                    "s_k",
                    f"{site.ground_snow:.3f} kN/m²",
                    f"on the ground, {_source(chain, 'ground_snow')}; altitude {site.altitude:g} m",
                ),
                ("C_e", f"{snow.exposure:g}", "exposure · 5.2(7)"),
                ("C_t", f"{snow.thermal:g}", "heat through the roof · 5.2(8)"),
                ("C_e C_t s_k", f"{ground:.3f} kN/m²", "s = μ C_e C_t s_k, on the plan · (5.1)"),
            )
        ),
    )
    rows: list[tuple[Cell, ...]] = []
    for i, case in enumerate(chain.loading.cases):
        if case.nature != "snow":
            continue
        on: dict[str, list[float]] = {}
        for load in chain.loading.surfaces:
            if load.case == i and load.kind == "area":
                # a pressure on the surface is one on the plan times the cosine of its slope
                slope = abs(load.direction[2]) * _flatness(chain, load.panel)
                on.setdefault(load.panel, []).extend(load.at(p) / 1000 / max(slope, 1e-9) for p in load.polygon)
        for panel, values in on.items():
            rows.append((case.symbol, case.name, panel, min(values), max(values)))
    told.add(
        Table(
            "snow on panels",
            (
                Column("case"),
                Column("arrangement"),
                Column("panel"),
                Column("s least", "kN/m² plan", 3),
                Column("s most", "kN/m² plan", 3),
            ),
            tuple(rows),
        )
    )
    if told.level != "summary":
        told.add(*_snow_derived(chain))


def _snow_derived(chain: Chain) -> list[Derived]:
    """How the snow of each arrangement comes about, what is alike once."""
    found: dict[tuple[object, ...], Derived] = {}
    for i, case in enumerate(chain.loading.cases):
        if any(load.case == i and load.reason and load.reason.kind == "snow" for load in chain.loading.surfaces):
            for derivation in family(chain.document).case_derivations(chain.loading, i):
                titled = replace(derivation, title=f"{case.symbol} · {derivation.title}")
                found.setdefault(derivation.steps, Derived(titled))
    return list(found.values())


def _flatness(chain: Chain, name: str) -> float:
    panel = next(p for p in chain.structure.panels if p.name == name)
    return abs(float(panel.outside[2]))


def _wind(chain: Chain, told: Told, winds: list[Wind]) -> None:
    site, options = chain.document.site, chain.document.wind
    of_terrain = [p for w in winds for p in w.pressures.values() if p.terrain == site.terrain]
    terrain = ", ".join(sorted({f"z_0 = {p.z_0:g} m, z_min = {p.z_min:g} m · {p.ground}" for p in of_terrain}))
    told.add(
        Heading("Wind", "actions.wind", aside="EN 1991-1-4"),
        Facts(
            (
                ("v_b,0", f"{site.wind_speed:g} m/s", f"basic value, {_source(chain, 'wind_speed')}"),
                ("Terrain", site.terrain, terrain),
                ("ρ", f"{options.air_density:g} kg/m³", "of air · 4.5(1)"),
                ("Reference period", f"{site.reference_period:g} years", "4.2(2)"),
            )
        ),
    )
    _peaks(family(chain.document), told, winds)
    inside = [
        (WAYS[w.direction], ", ".join(f"{c:+.2f}" for c, _ in w.inside), w.inside[0][1]) for w in winds if w.inside
    ]
    if not inside:
        told.add(Paragraph("An open roof: the overall coefficients c_f act on its slopes (7.3), as the cases say."))
        return
    told.add(
        Heading("Internal pressure", "actions.inside", 3), Facts(tuple(("c_pi  " + a, b, c) for a, b, c in inside))
    )
    if told.level != "summary":
        for w in winds:
            _zones(chain, told, w)


def _peaks(standard: Family, told: Told, winds: list[Wind]) -> None:
    """Peak velocity pressure by direction and height; how the highest of each direction comes about, equal ones once."""
    rows: list[tuple[Cell, ...]] = [
        (
            WAYS[w.direction], p.terrain, z, p.speed, p.basic / 1000, p.roughness, p.turbulence, p.exposure, p.peak / 1000,
        )
        for w in winds
        for z, p in sorted(w.pressures.items())
    ]  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("direction"), Column("terrain"), Column("z_e", "m"), Column("v_b", "m/s"), Column("q_b", "kN/m²", 3), Column("c_r", "", 3),
        Column("I_v", "", 3), Column("c_e", "", 3), Column("q_p", "kN/m²", 3),
    )  # fmt: skip
    told.add(
        Heading("Peak velocity pressure", "actions.peak", 3), Table("peak velocity pressure", columns, tuple(rows))
    )
    if told.level != "summary":
        highest = {w.inner: w.pressures[max(w.pressures)] for w in winds}
        told.add(*(Derived(standard.load_derivation(p.reason)) for p in highest.values()))


def _zones(chain: Chain, told: Told, w: Wind) -> None:
    """The zones of one direction, drawn and listed, each row once."""
    drawing = zones_drawing(w, WAYS[w.direction])
    told.add(Heading(WAYS[w.direction], f"actions.wind.{w.direction}", 3, aside=f"h/d = {w.slenderness:.2f}"))
    if drawing:
        words = f"zones with c_pe,10 of each set, walls laid flat around the roof, 1 : {drawing.scale}"
        told.add(Figure(drawing, words))
    rows: dict[tuple[Cell, ...], None] = {}
    for zone in w.zones:
        q = w.peak(zone) / 1000
        for pair, read in zip(zone.both, zone.read, strict=True):
            words = zone.source + (f", {read}" if read else "")
            rows[zone.letter, zone.panel.name, pair[0], words, q, pair[0] * q * w.structural] = None
    columns: tuple[Column, ...] = (
        Column("zone"), Column("panel"), Column("c_pe,10"), Column("table"), Column("q_p(z_e)", "kN/m²", 3), Column("w_e", "kN/m²", 3),
    )  # fmt: skip
    told.add(Table(f"wind zones {w.direction}", columns, tuple(rows)))


def cases_table(chain: Chain) -> Table:
    """Every case with its resultant and its balance."""
    rows: list[tuple[Cell, ...]] = []
    for found in loads.cases(chain):
        case, b = found.case, found.balance
        applied, reacted = b.applied / 1000, b.reacted / 1000
        rows.append(
            (
                case.symbol,
                case.name,
                case.nature,
                *applied.tolist(),
                float(np.abs(applied - reacted).max()),
                b.off * 100,
                "holds" if b.holds else "does not hold",
            )
        )
    columns: tuple[Column, ...] = (
        Column("case"), Column("name", wide=True), Column("nature"), Column("ΣX", "kN", 1), Column("ΣY", "kN", 1), Column("ΣZ", "kN", 1),
        Column("supports off", "kN", 3), Column("off", "%", 3), Column("balance"),
    )  # fmt: skip
    return Table("cases", columns, tuple(rows))


def combining(chain: Chain, told: Told) -> None:
    """Rules and factors; the combinations that govern, or all of them."""
    document = chain.document
    told.add(Heading("Rules", "combinations.rules"))
    by_rule = Counter((c.use, c.rule or "stated") for c in chain.combinations)
    told.add(
        Table(
            "rules of combination",
            (Column("use"), Column("rule", wide=True), Column("combinations", "", 0)),
            tuple((use, rule, float(count)) for (use, rule), count in by_rule.items()),
        )
    )
    rows = tuple((own.row, *own.used, ", ".join(symbols)) for own, symbols in loads.factors(chain))
    if rows:
        told.add(Heading("Combination factors", "combinations.psi", aside="EN 1990 table A1.1"))
        columns: tuple[Column, ...] = (Column("action"), Column("ψ_0"), Column("ψ_1"), Column("ψ_2"), Column("cases"))
        told.add(Table("combination factors", columns, rows))
    if told.level == "summary" or not chain.combinations:
        return
    governing = governed(chain)
    own = [c for i, c in enumerate(chain.combinations) if told.level == "full" or governing[i]]
    told.add(Heading("All combinations" if told.level == "full" else "Combinations that govern", "combinations.list"))
    if told.level != "full":
        told.add(
            Paragraph(
                f"{len(own)} of {len(chain.combinations)} combinations govern a check of a member, an edge of the footprint or a "
                "support; the level “full” lists all."
            )
        )
    columns = (Column("name"), Column("use"), Column("combination", wide=True), Column("checks that it governs", "", 0))
    most = {c.use: i for i, c in sorted(enumerate(chain.combinations), key=lambda item: governing[item[0]])}
    rows_of = {c.name: float(governing[i]) for i, c in enumerate(chain.combinations)}
    told.add(Table("combinations", columns, tuple((c.name, c.use, c.formula, rows_of[c.name]) for c in own)))
    derived = [
        family(document).factor_derivation(document, chain.loading, chain.combinations[i])
        for i in most.values()
        if governing[i]
    ]
    if derived:
        told.add(
            Heading(
                "How their factors come about",
                "combinations.factors",
                aside="of the one of each use that governs most checks",
            ),
            *(Derived(one) for one in derived),
        )


def governed(chain: Chain) -> Counter[int]:
    """By number of a combination the checks of members, edges of the footprint and supports that it governs."""
    verification = chain.verification
    found = Counter(verification.used(o.criterion)[o.combination] for v in verification.verdicts for o in v.outcomes)
    found.update(tilt.combination for tilt in verification.tilts)
    found.update(lifted.combination for lifted in verification.lifted)
    return found
