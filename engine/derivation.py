"""How a number came about: its lines with values by name, written with symbols, numbers, units and clauses. Loads, combinations and checks
all explain themselves by it."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from math import isinf, isnan

Values = Mapping[str, float]


def always(_: Values) -> bool:
    """Of lines that belong in every derivation of their kind."""
    return True


def there(*names: str) -> Callable[[Values], bool]:
    """Of lines that belong where all of these values are."""
    return lambda values: all(name in values for name in names)


@dataclass(frozen=True)
class Line:
    """A line of a derivation: which value, its formula with <names>, clause, words, and when it belongs there. {name} in its words
    stands for what is said of the case at hand."""

    key: str
    formula: str = ""
    clause: str = ""
    words: str = ""
    when: Callable[[Values], bool] = always


@dataclass(frozen=True)
class Symbol:
    """LaTeX of a value, the unit it is shown in and the factor from SI to it."""

    latex: str
    unit: str = ""
    factor: float = 1.0
    digits: int = 4

    @property
    def unit_latex(self) -> str:
        """The unit for LaTeX."""
        powers = {"²": "^2", "³": "^3", "⁴": "^4", "⁶": "^6"}
        text = self.unit.replace("·", r"\,")
        for sign, power in powers.items():
            text = text.replace(sign, power)
        return text

    def text(self, value: float) -> str:
        """The value in its unit, to its significant digits, never in powers of ten."""
        if isnan(value):
            return "–"
        if isinf(value):
            return "∞"
        shown = value * self.factor
        if shown == 0 or abs(shown) < 1e-9:
            return "0"
        whole = len(str(int(abs(shown)))) if abs(shown) >= 1 else 0
        return f"{shown:.{max(0, min(4, self.digits - whole))}f}"


@dataclass(frozen=True)
class Reason:
    """Why a number is what it is: which derivation leads to it, the values that this uses, by name, and words for them."""

    kind: str
    values: Values
    words: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class Step:
    """One line as it is written: symbol, formula and the formula with numbers in LaTeX; value with its unit; clause; words."""

    symbol: str
    formula: str
    numbers: str
    value: str
    clause: str
    words: str


@dataclass(frozen=True, kw_only=True)
class Derivation:
    """How one number came about, in its last line; leads: false where each line is a number of its own. assumptions: what goes without
    saying in it."""

    title: str
    clause: str
    steps: tuple[Step, ...]
    assumptions: tuple[str, ...] = ()
    leads: bool = True


def steps(
    lines: Sequence[Line], values: Values, symbols: Mapping[str, Symbol], words: Mapping[str, str] | None = None
) -> tuple[Step, ...]:
    """The lines that belong there, written with their values. words: in place of the {names} in the lines' own."""
    return tuple(_step(line, values, symbols, words or {}) for line in lines if line.when(values))


_TOKEN = re.compile(r"<(\w+)>(?=(\^?))")
_WORD = re.compile(r"(\\cdot)(?=[A-Za-z])")
#: what stands before a value that it is multiplied by: between numbers the product needs its dot
_PRODUCT = re.compile(r"(>|\^2|\)|\d)\s*(?:\\,)?\s*<")
_SAID = re.compile(r"\{(\w+)\}")


def written(formula: str, value: Callable[[str], str]) -> str:
    """A formula with what stands for each of its values."""
    # a control word ends where a letter follows
    return _WORD.sub(r"\1 ", _TOKEN.sub(lambda match: value(match[1]), formula))


def _step(line: Line, values: Values, symbols: Mapping[str, Symbol], words: Mapping[str, str]) -> Step:
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
        words=_SAID.sub(lambda match: words.get(match[1], ""), line.words),
    )
