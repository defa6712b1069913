"""What verification finds: outcomes of criteria, verdicts on members, and what is said of the whole."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass
from typing import Literal

#: criterion -> (words, clause)
CRITERIA = {
    "section": ("Cross-section N + M", "EN 1993-1-1 6.2.9"),
    "net": ("Net section in tension", "EN 1993-1-1 6.2.3(2)"),
    "web": ("Web under a concentrated force", "EN 1993-1-5 6, 7.2"),
    "shear": ("Shear", "EN 1993-1-1 6.2.6"),
    "flexural": ("Flexural buckling", "EN 1993-1-1 6.3.1"),
    "lateral": ("Lateral-torsional buckling", "EN 1993-1-1 6.3.2"),
    "interaction": ("Buckling under N + M", "EN 1993-1-1 6.3.3"),
    "sum": ("Cross-section of a channel", "EN 1993-1-1 6.2.1(7), 6.2.6"),
    "single": ("Buckling of a channel", "EN 1993-1-1 6.3.1, 6.3.2.2"),
    "general": ("Buckling with haunch or taper", "EN 1993-1-1 6.3.4"),
    "axial": ("Axial force", "EN 1993-1-1 6.2.3, 6.3.1"),
    "critical": ("Critical load exceeded", "EN 1993-1-1 5.2.1"),
    "deflection": ("Deflection", "EN 1990 A1.4"),
    "sway": ("Sway", "EN 1990 A1.4"),
    "variable": ("Deflection, variable actions", "EN 1990 A1.4"),
}
#: criteria of serviceability, and those of cross-sections; the others are of stability
SERVICE = ("deflection", "sway", "variable")
SECTION = ("section", "shear", "net", "sum", "web")
Kind = Literal["section", "stability", "service"]


def kind_of(criterion: str) -> Kind:
    """What a criterion is about."""
    return "service" if criterion in SERVICE else "section" if criterion in SECTION else "stability"


@dataclass(frozen=True)
class Outcome:
    """The governing utilisation of one criterion for one member, and where: indices for the proof.

    row: element (section, shear), segment row (stability) or stretch (deflection, sway); station: of that element, or of the
    elements of that stretch one after another, else −1. position: m from start.
    """

    criterion: str
    utilisation: float
    combination: int
    position: float
    row: int
    station: int = -1


@dataclass(frozen=True)
class Verdict:
    """Everything found for one member. status: "passes", "fails" or "not covered" (then the reasons say why). left_out: what a
    verdict that passes does not speak for, in words."""

    member: int
    status: str
    outcomes: tuple[Outcome, ...]
    not_covered: tuple[str, ...]
    left_out: tuple[str, ...] = ()

    @property
    def governing(self) -> Outcome | None:
        """The outcome with the largest utilisation."""
        return max(self.outcomes, key=lambda o: o.utilisation, default=None)


@dataclass(frozen=True)
class Whole:
    """What may be said of the whole building: how many members pass, fail, are not covered; what is left out, with the number of
    members that it concerns (0: the whole). worst: the largest utilisation."""

    passing: int
    failing: int
    not_covered: int
    left_out: tuple[tuple[str, int], ...]
    worst: float

    @property
    def passes(self) -> bool:
        """Whether every member passes. What is left out is no part of it."""
        return not self.failing and not self.not_covered and self.passing > 0


def whole(verdicts: tuple[Verdict, ...], left_out: tuple[str, ...]) -> Whole:
    """The whole from all members, none left out."""
    states = Counter(v.status for v in verdicts)
    said = Counter(words for v in verdicts for words in v.left_out)
    return Whole(
        states["passes"],
        states["fails"],
        states["not covered"],
        tuple((words, 0) for words in left_out) + tuple(said.most_common()),
        max((v.governing.utilisation for v in verdicts if v.governing), default=0.0),
    )
