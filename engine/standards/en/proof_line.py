"""A line of a proof."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

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
