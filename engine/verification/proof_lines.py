"""A line of a proof, and how its values are written."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import isinf, isnan

Values = dict[str, float]


def always(_: Values) -> bool:
    """Of lines that belong in every proof of their criterion."""
    return True


@dataclass(frozen=True)
class Line:
    """A line of a proof: which value, its formula with <names>, clause, words, and when it belongs in the proof."""

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
