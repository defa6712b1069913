"""What the verification says of a document in a few figures, so that two of them can stand side by side."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite

from engine.chain import Chain
from engine.structure.words import label


@dataclass(frozen=True)
class Effect:
    """What the verification says of a document: its largest utilisation (None: nothing was verified) and the member that has it, members that fail and that are not
    covered, things that the verdict leaves out, steel in tonnes. problem: why it cannot be said."""

    worst: float | None = None
    governs: str = ""
    failing: int = 0
    not_covered: int = 0
    left_out: int = 0
    tonnage: float = 0.0
    problem: str = ""


def effect_of(chain: Chain) -> Effect:
    """What it says of a chain."""
    whole, structure = chain.verification.whole, chain.structure
    worst = max(
        (v for v in chain.verification.verdicts if v.governing),
        key=lambda v: v.governing.utilisation if v.governing else 0.0,
        default=None,
    )
    return Effect(
        worst=whole.worst if worst and isfinite(whole.worst) else None,
        governs=label(structure.members[worst.member]) if worst else "",
        failing=whole.failing,
        not_covered=whole.not_covered,
        left_out=len(whole.left_out),
        tonnage=structure.masses().get("steel", 0.0) / 1000,
    )
