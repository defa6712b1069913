"""Combinations by EN 1990: (6.10) for strength, characteristic (6.14b) for deflection; leading action rotating."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from itertools import product

import numpy as np

from engine.actions.cases import Case
from engine.document.rules import Rules, Site
from engine.structure.model import Floats


@dataclass(frozen=True)
class Combination:
    """factors: one per case, in the order of the cases. formula: the same in symbols."""

    name: str
    use: str
    formula: str
    factors: Floats


def psi0(nature: str, rules: Rules, site: Site) -> float:
    """ψ0 of table A1.1: snow 0.7 above 1000 m, else 0.5; wind 0.6; imposed and other 0.7 (category A to D) and 1.0."""
    if nature == "snow":
        return rules.psi0_snow if rules.psi0_snow is not None else (0.7 if site.altitude > 1000 else 0.5)
    if nature == "wind":
        return rules.psi0_wind
    return 0.7 if nature == "imposed" else 1.0


def combine(cases: list[Case], rules: Rules, site: Site) -> list[Combination]:
    """All strength (C1…) and deflection (D1…) combinations.

    Permanent cases act together, all unfavourable or all favourable. Variable cases of one exclusive set never act
    together; every set may be absent; each set present leads once.
    """
    permanent = [i for i, case in enumerate(cases) if case.nature == "permanent"]
    groups: dict[str, list[int]] = defaultdict(list)
    for i, case in enumerate(cases):
        if case.nature != "permanent":
            groups[case.exclusive or case.name].append(i)
    present = list(product(*[[None, *members] for members in groups.values()]))
    strength: list[tuple[float, dict[int, float]]] = []
    deflection: list[dict[int, float]] = []
    for choice in present:
        acting = [i for i in choice if i is not None]
        for lead in acting or [-1]:
            share = {i: 1.0 if i == lead else psi0(cases[i].nature, rules, site) for i in acting}
            deflection.append(share)
            for gamma in dict.fromkeys((rules.gamma_G_unfavourable, rules.gamma_G_favourable)):
                strength.append((gamma, {i: rules.gamma_Q * value for i, value in share.items()}))
    found: list[Combination] = []
    strength.sort(key=lambda row: (-row[0], len(row[1])))
    deflection.sort(key=len)
    seen: set[tuple[str, bytes]] = set()
    rows = [("strength", gamma, share) for gamma, share in strength] + [
        ("deflection", 1.0, share) for share in deflection
    ]
    counts = {"strength": 0, "deflection": 0}
    for use, gamma, share in rows:
        factors = np.zeros(len(cases))
        factors[permanent] = gamma
        for i, value in share.items():
            factors[i] = value
        key = (use, factors.tobytes())
        if key in seen or not factors.any():
            continue
        seen.add(key)
        counts[use] += 1
        name = f"{'C' if use == 'strength' else 'D'}{counts[use]}"
        found.append(Combination(name, use, formula(cases, factors), factors))
    return found


def formula(cases: list[Case], factors: Floats) -> str:
    """The combination in symbols and numbers: “1.35 (G1 + G2) + 1.5 S1 + 0.9 W3”; the largest variable action first."""
    terms: dict[float, list[str]] = defaultdict(list)
    for i in np.flatnonzero(factors):
        if cases[i].nature == "permanent":
            terms[float(factors[i])].append(cases[i].symbol)
    text = [_term(factor, f"({' + '.join(names)})" if len(names) > 1 else names[0]) for factor, names in terms.items()]
    variable = [i for i in np.flatnonzero(factors) if cases[i].nature != "permanent"]
    text += [_term(float(factors[i]), cases[i].symbol) for i in sorted(variable, key=lambda i: -abs(factors[i]))]
    return " + ".join(text)


def _term(factor: float, symbol: str) -> str:
    return symbol if factor == 1.0 else f"{factor:.4g} {symbol}"
