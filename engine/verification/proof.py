"""The proof of one outcome: the same check evaluated on one row, written out with symbols, numbers, units and clauses."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from engine.actions.combinations import Combination
from engine.verification.checks import Evaluated
from engine.verification.outcomes import CRITERIA, SERVICE, Outcome
from engine.verification.proof_lines import Line, Symbol
from engine.verification.service import measure
from engine.verification.verify import Verification


@dataclass(frozen=True)
class Step:
    """One line of a proof: symbol, formula and the formula with numbers in LaTeX; value with its unit; clause; words."""

    symbol: str
    formula: str
    numbers: str
    value: str
    clause: str
    words: str


@dataclass(frozen=True)
class Proof:
    """A whole derivation. utilisation: its last value, equal to the one in the verdict."""

    title: str
    clause: str
    combination: str
    formula: str
    utilisation: float
    steps: tuple[Step, ...]
    assumptions: tuple[str, ...]


def prove(verification: Verification, combinations: list[Combination], member: int, outcome: Outcome) -> Proof:
    """Write out one outcome of one member."""
    found = evaluated(verification, member, outcome)
    lines = [line for line in verification.checks.lines(outcome.criterion) if line.when(found.values)]
    used = verification.used(outcome.criterion)
    combination = combinations[used[outcome.combination]]
    symbols = verification.checks.symbols
    return Proof(
        title=CRITERIA[outcome.criterion],
        clause=verification.checks.clauses[outcome.criterion],
        combination=combination.name,
        formula=combination.formula,
        utilisation=found.values["u"],
        steps=tuple(_step(line, found.values, symbols) for line in lines),
        assumptions=tuple(found.assumptions),
    )


def evaluated(verification: Verification, member: int, outcome: Outcome) -> Evaluated:
    """An outcome computed anew, with every value of its proof."""
    if outcome.criterion not in SERVICE:
        return verification.checks.evaluated(member, outcome)
    words, rise = verification.stretches[outcome.row].words, verification.stretches[outcome.row].camber
    camber = f", less the camber of {rise * 1000:g} mm in its middle" if rise else "; no pre-camber"
    return Evaluated(_service_values(verification, outcome), [f"First-order displacement {words}{camber}."])


def _service_values(verification: Verification, outcome: Outcome) -> dict[str, float]:
    combined = verification.grounds.combined
    which = [verification.used(outcome.criterion)[outcome.combination]]
    stretch = verification.stretches[outcome.row]
    found = measure(combined, combined.displacement(which), combined.deflections(which, stretch.rows), stretch)
    k, s = divmod(outcome.station, found.shape[1])
    w, limit = float(found[k, s, 0]), stretch.length / stretch.ratio
    return {
        "x": outcome.position,
        "camber": stretch.camber,
        "w": w,
        "span": stretch.length,
        "ratio": stretch.ratio,
        "limit": limit,
        "u": w / limit,
    }


_TOKEN = re.compile(r"<(\w+)>(?=(\^?))")
_WORD = re.compile(r"(\\cdot)(?=[A-Za-z])")
#: what stands before a value that it is multiplied by: between numbers the product needs its dot
_PRODUCT = re.compile(r"(>|\^2|\)|\d)\s*(?:\\,)?\s*<")


def written(formula: str, value: Callable[[str], str]) -> str:
    """A formula with what stands for each of its values."""
    # a control word ends where a letter follows
    return _WORD.sub(r"\1 ", _TOKEN.sub(lambda match: value(match[1]), formula))


def _step(line: Line, values: dict[str, float], symbols: Mapping[str, Symbol]) -> Step:
    def number(match: re.Match[str]) -> str:
        known = symbols[match[1]]
        text = known.text(values[match[1]])
        unit = rf"\,\mathrm{{{known.unit_latex}}}" if known.unit else ""
        bracket = text.startswith("-") or (match[2] and unit)
        return f"({text}{unit})" if bracket else text + unit

    known = symbols[line.key]
    numbers = _TOKEN.sub(number, _PRODUCT.sub(lambda m: m[1] + r"\cdot <", line.formula))
    value = values[line.key]
    return Step(
        symbol=known.latex,
        formula=written(line.formula, lambda key: symbols[key].latex),
        numbers=numbers if _TOKEN.search(line.formula) else "",
        value=known.text(value) + (f" {known.unit}" if known.unit else ""),
        clause=line.clause,
        words=line.words,
    )
