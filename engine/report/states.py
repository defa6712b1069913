"""States by the words that the workbench calls them: cases, combinations, envelopes, and modes."""

from __future__ import annotations

from dataclasses import dataclass

from engine.analysis.modes import left_free
from engine.analysis.modes_drawn import Mode
from engine.chain import Chain
from engine.report import modes
from engine.structure.model import Floats


@dataclass(frozen=True)
class State:
    """What is drawn. numbers: among the results, none of a mode; kind: "case", "combination", "envelope" or "mode"; words: what it is, of a
    combination its formula; mode: its shape; of: the combination, of it or of a mode."""

    numbers: list[int]
    kind: str
    words: str
    mode: Mode | None = None
    of: str = ""


def find_state(chain: Chain, state: str) -> State:
    """A state by its words: a case by symbol or name, a combination by name, “envelope” of all strength combinations, “envelope:uplift” of those of a use,
    “envelope:snow” of the cases of a nature, “mode:C12:1” and “vibration:2” a mode, “free:C12” how what acts moves freely. Raises KeyError
    for one that is not there."""
    if state == "envelope" or state.startswith("envelope:"):
        return _envelope(chain, state)
    return _shape(chain, state) or _single(chain, state)


def number_of(chain: Chain, name: str) -> int:
    """The number of a combination by its name. Raises KeyError."""
    for i, c in enumerate(chain.combinations):
        if c.name == name:
            return i
    raise KeyError(name)


def _single(chain: Chain, state: str) -> State:
    for i, case in enumerate(chain.loading.cases):
        if state in (case.symbol, case.name):
            return State([chain.combined.case(i)], "case", case.name)
    number = number_of(chain, state)
    return State([number], "combination", chain.combinations[number].formula, of=state)


def _envelope(chain: Chain, state: str) -> State:
    _, _, word = state.partition(":")
    if not word:
        words = "least and greatest over all strength combinations"
        return State(list(chain.verification.strength), "envelope", words)
    rows = [i for i, c in enumerate(chain.combinations) if c.use == word]
    words = f"least and greatest over all combinations for {word}"
    if not rows:
        rows = [chain.combined.case(i) for i, case in enumerate(chain.loading.cases) if case.nature == word]
        words = f"least and greatest over all {word} cases"
    if not rows:
        raise KeyError(state)
    return State(rows, "envelope", words)


def _shape(chain: Chain, state: str) -> State | None:
    """A mode; None for what is none."""
    kind, *rest = state.split(":")
    if kind == "free" and rest:
        moving = left_free(chain.combined, number_of(chain, rest[0]))
        if moving is None:
            raise KeyError(state)
        return State([], "mode", "how what acts here moves freely", moving, rest[0])
    if kind not in ("mode", "vibration") or not rest or not rest[-1].isdigit():
        return None
    k = int(rest[-1]) - 1
    buckling = [m for m, _ in modes.buckling(chain, number_of(chain, rest[0]))] if kind == "mode" else []
    found = buckling if kind == "mode" else modes.natural(chain)
    if not 0 <= k < len(found):
        raise KeyError(state)
    value = found[k].value
    words = f"buckling mode {k + 1}, α_cr = {value:.3f}" if kind == "mode" else f"natural mode {k + 1}, {value:.3f} Hz"
    return State([], "mode", words, found[k], rest[0] if kind == "mode" else "")


def moved(chain: Chain, state: State) -> Floats | None:
    """(e, s, 3) m that elements move in a state, of a mode in shares of its largest; None of an envelope."""
    if state.mode is not None:
        return state.mode.along
    if state.kind == "envelope":
        return None
    found: Floats = chain.combined.deflections(state.numbers)[..., 0]
    return found
