"""Combinations of cases: factors, and how they are written."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.cases import Case
from engine.structure.model import Floats


@dataclass(frozen=True)
class Combination:
    """factors: one per case, in the order of the cases. formula: the same in symbols. rule: expression and clause."""

    name: str
    use: str
    formula: str
    factors: Floats
    rule: str = ""
    own: bool = False


def formula(cases: list[Case], factors: Floats) -> str:
    """The combination in symbols and numbers: “1.35 (G1 + G2) + 1.5 S1 + 0.9 W3”; the largest variable action first, the
    direction of imperfections last."""
    permanent: dict[float, list[str]] = {}
    variable: list[tuple[float, str]] = []
    leaning = ""
    acting = np.flatnonzero(factors)
    for number, factor in zip(acting.tolist(), factors[acting].tolist(), strict=True):
        case = cases[number]
        if case.nature == "permanent":
            permanent.setdefault(factor, []).append(case.symbol)
        elif case.nature != "imperfection":
            variable.append((factor, case.symbol))
        else:
            leaning = leaning or f"Φ({'+' if factor > 0 else '−'}{case.exclusive})"
    text = [
        _term(factor, f"({' + '.join(names)})" if len(names) > 1 else names[0]) for factor, names in permanent.items()
    ]
    text += [_term(factor, symbol) for factor, symbol in sorted(variable, key=lambda term: -abs(term[0]))]
    return " + ".join([*text, leaning] if leaning else text)


def _term(factor: float, symbol: str) -> str:
    return symbol if factor == 1.0 else f"{factor:.4g} {symbol}"
