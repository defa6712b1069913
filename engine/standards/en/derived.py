"""Loads and factors of combinations with how they came about, line by line."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from engine.actions.cases import Case, Loading
from engine.actions.combinations import Combination
from engine.actions.derived import Wind, Zone
from engine.derivation import Derivation, Line, Reason, Symbol, steps
from engine.document import Document
from engine.standards.en.combinations import PSI, gamma_Q, psi, psi_key
from engine.standards.en.derived_lines import KINDS, SYMBOLS
from engine.standards.en.wind_pressed import net_reason

#: two factors nearer than this are one
SAME = 1e-9
FACTORS = {
    "K": Symbol("K_{FI}"),
    "xi": Symbol(r"\xi"),
    "G_sup": Symbol(r"\gamma_{G,sup}"),
    "G_inf": Symbol(r"\gamma_{G,inf}"),
    "Q": Symbol(r"\gamma_Q"),
    "psi0": Symbol(r"\psi_0"),
    "psi1": Symbol(r"\psi_1"),
    "psi2": Symbol(r"\psi_2"),
}


def of_load(reason: Reason) -> Derivation:
    """How a pressure of wind or snow came about."""
    title, clause, lines = KINDS[reason.kind]
    return Derivation(title=title, clause=clause, steps=steps(lines, reason.values, SYMBOLS, reason.words))


def of_case(loading: Loading, case: int) -> list[Derivation]:
    """How the pressures of a case come about, alike ones once: the wind's peak pressures first, then what acts on the surfaces, by their
    panels and zones; none of what is stated."""
    peaks: dict[tuple[float, ...], Derivation] = {}
    found: dict[tuple[object, ...], tuple[Derivation, list[str]]] = {}
    extent: Derivation | None = None
    for load in loading.surfaces:
        reason = load.reason
        if load.case != case or reason is None:
            continue
        key = (tuple(reason.values.items()), tuple(reason.words.items()))
        if key not in found:
            own = reason
            if reason.kind == "wind":
                of_peak = replace(reason, kind="velocity")
                peaks.setdefault((reason.values["z"], reason.values["peak"]), of_load(of_peak))
                if "e" in reason.values:
                    extent = of_load(replace(reason, kind="extent"))
                own = replace(reason, kind="surface")
            found[key] = of_load(own), []
        place = load.panel + (f", {load.zone}" if load.zone else "")
        if place not in found[key][1]:
            found[key][1].append(place)
    surfaces = [replace(own, title=f"{own.title}: {'; '.join(places)}") for own, places in found.values()]
    return [*peaks.values(), *([extent] if extent else []), *surfaces]


def of_zone(wind: Wind, zone: Zone) -> list[Derivation]:
    """How the wind on a zone comes about: its peak pressure, then what follows by each set of coefficients and pressure inside."""
    if not wind.inside:
        return [of_load(wind.pressures[zone.height].reason)]
    picks = (0, 1) if abs(zone.both[0][0] - zone.both[1][0]) > SAME else (0,)
    within = wind.inside if zone.below is None else wind.inside[:1]
    reasons = [net_reason(wind, zone, pick, inside, source) for pick in picks for inside, source in within]
    extent = of_load(replace(reasons[0], kind="extent"))
    return [
        of_load(wind.pressures[zone.height].reason),
        extent,
        *(of_load(replace(r, kind="surface")) for r in reasons),
    ]


@dataclass(frozen=True)
class _Way:
    """One way to a factor: the product of these values by name, and where it is from."""

    values: dict[str, float]
    clause: str
    words: str

    @property
    def product(self) -> float:
        return float(np.prod(list(self.values.values()))) if self.values else 1.0


def of_combination(document: Document, loading: Loading, combination: Combination) -> Derivation:
    """How the factors of a combination come about: a line for each case that acts, its factor as a product of partial and combination
    factors; one that is none of those that its rule makes is stated. Sway imperfections take that of the case whose loads lean."""
    leaning = {which: case for case, both in loading.leans.items() for which in both}
    lines: list[Line] = []
    values: dict[str, float] = {}
    symbols: dict[str, Symbol] = {}
    for i in np.flatnonzero(combination.factors).tolist():
        case, factor = loading.cases[i], float(combination.factors[i])
        key = f"f{i}"
        symbols[key] = Symbol(rf"f_{{\mathrm{{{case.symbol}}}}}")
        values[key] = factor
        if i in leaning:
            sign = "" if factor > 0 else "-"
            lines.append(Line(key, f"{sign}<f{leaning[i]}>", "EN 1993-1-1 5.3.2", case.name))
            continue
        ways = _ways(document, case, combination)
        way = next((w for w in ways if abs(w.product - factor) < SAME), _Way({}, "", "stated"))
        names = {name: f"{key}_{name}" for name in way.values}
        values |= {names[name]: value for name, value in way.values.items()}
        symbols |= {names[name]: FACTORS[name] for name in way.values}
        formula = r"\,".join(f"<{name}>" for name in names.values())
        words = case.name + (f": {way.words}" if way.words else "")
        lines.append(Line(key, formula, way.clause, words))
    clause = "stated" if combination.own else f"EN 1990 {combination.rule}"
    return Derivation(
        title=f"Factors of {combination.name}", clause=clause, steps=steps(lines, values, symbols), leads=False
    )


def _ways(document: Document, case: Case, combination: Combination) -> list[_Way]:
    """Factors that a rule gives a case, those first that say most."""
    if combination.own:
        return []
    rules, basis = document.rules, document.national.basis
    safe = combination.use in ("strength", "uplift")
    if case.nature == "permanent":
        return _permanent(document, combination) if safe else [_Way({}, combination.rule, "permanent")]
    if case.nature in ("accidental", "seismic"):
        return [_Way({}, combination.rule, "design value")]
    zero, one, two = psi(case, rules, document.site, basis)
    row = psi_key(case, document.site, basis)
    table = "table A1.1" if (zero, one, two) == PSI[row] else "table A1.1, changed"
    words = f"category {row}" if len(row) == 1 else row
    other = f"{words}, accompanying"
    if safe:
        K, Q = basis.importance, gamma_Q(case, rules, basis) / basis.importance
        partial = ({"K": K} if K != 1 else {}) | {"Q": Q}
        of = "table A1.2(A)" if combination.use == "uplift" else "table A1.2(B)"
        leads = [] if combination.rule == "(6.10a)" else [_Way(partial, of, f"{words}, leading")]
        return [*leads, _Way({**partial, "psi0": zero}, f"{of}, {table}", other)]
    if combination.use in ("deflection", "variable"):
        return [_Way({}, combination.rule, f"{words}, leading"), _Way({"psi0": zero}, table, other)]
    return [_Way({"psi1": one}, table, f"{words}, leading"), _Way({"psi2": two}, table, other)]


def _permanent(document: Document, combination: Combination) -> list[_Way]:
    """Of the permanent cases, unfavourable and favourable."""
    rules, K = document.rules, document.national.basis.importance
    importance = {"K": K} if K != 1 else {}
    if combination.use == "uplift":
        of = "table A1.2(A)"
        heavy, light = rules.gamma_G_equ_unfavourable, rules.gamma_G_equ_favourable
    else:
        of, heavy, light = "table A1.2(B)", rules.gamma_G_unfavourable, rules.gamma_G_favourable
    reduced = {"xi": rules.xi} if combination.rule == "(6.10b)" else {}
    return [
        _Way({**importance, **reduced, "G_sup": heavy}, of, "permanent, unfavourable"),
        _Way({"G_inf": light}, of, "permanent, favourable"),
    ]
