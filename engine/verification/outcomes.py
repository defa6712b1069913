"""What verification finds: outcomes of criteria, verdicts on members, and what is said of the whole."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import get_args

import numpy as np

from engine.analysis.combined import Combined
from engine.document.base import Kind
from engine.progress import Step, quiet
from engine.structure.model import Floats, Ints
from engine.structure.words import ROLE_WORDS
from engine.verification.secondary import Secondary

#: criteria in words; where they are written, a family says
CRITERIA = {
    "section": "Cross-section N + M",
    "net": "Net section in tension",
    "web": "Web under a concentrated force",
    "knee": "Web panel at a rigid joint",
    "stiffener": "Transverse stiffener",
    "shear": "Shear",
    "flexural": "Flexural buckling",
    "lateral": "Lateral-torsional buckling",
    "interaction": "Buckling under N + M",
    "sum": "Cross-section, shares added",
    "single": "Buckling, shares added",
    "torsion": "Cross-section with torsion",
    "twist": "Buckling with torsion",
    "general": "Buckling with haunch or taper",
    "chord": "Chords of a built-up member",
    "lacing": "Lacing or battens",
    "held": "Stiffness of stays",
    "stays": "Moment from stays",
    "axial": "Axial force",
    "slenderness": "Slenderness",
    "critical": "Critical load exceeded",
    "deflection": "Deflection",
    "sway": "Sway",
    "apart": "Sway beside the next frame",
    "variable": "Deflection, variable actions",
    "rail_sway": "Crane rail, across",
    "rail_beside": "Crane rail beside the next frame",
    "rail_spread": "Crane rails, apart",
    "rail_level": "Crane rails, level",
    "imposed": "Deflection, imposed loads",
    "lasting": "Deflection, quasi-permanent",
    "frequency": "Natural frequency",
    "floor": "Natural frequency of the floor",
}
#: criteria of serviceability, and those of cross-sections; the others are of stability
RAILS = ("rail_sway", "rail_beside", "rail_spread", "rail_level")
SERVICE = ("deflection", "sway", "apart", *RAILS, "variable", "imposed", "lasting", "frequency", "floor")
#: those of natural frequencies
SWINGING = ("frequency", "floor")
#: uses of the combinations that criteria of serviceability look at, where they are not those for deflection
UNDER = {
    **dict.fromkeys(RAILS, "crane"),
    "variable": "variable",
    "imposed": "imposed",
    "lasting": "quasi-permanent",
    "frequency": "quasi-permanent",
    "floor": "quasi-permanent",
}
SECTION = ("section", "shear", "net", "sum", "torsion", "web", "knee", "stiffener")
KINDS: tuple[Kind, ...] = get_args(Kind)


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
class Held:
    """Stretches of members, (rows,): member, start and end in m along it, and the largest utilisation, 0 where another criterion
    verifies them instead."""

    member: Ints
    start: Floats
    end: Floats
    utilisation: Floats


@dataclass(frozen=True)
class Findings:
    """What is found of each member while it is verified: outcomes, why it is not covered, and what a verdict leaves out, in words; along:
    (e, s) the largest utilisation at each station, NaN where nothing is checked; progress: told of how many members have been checked; slender: members
    of which a part is too slender to be covered."""

    outcomes: list[list[Outcome]]
    reasons: list[list[str]]
    left_out: list[list[str]]
    along: Floats
    progress: Step = quiet
    slender: set[int] = field(default_factory=set)

    @classmethod
    def none(cls, members: int, shape: tuple[int, ...], progress: Step = quiet) -> Findings:
        """Nothing found yet."""
        outcomes: list[list[Outcome]] = [[] for _ in range(members)]
        reasons: list[list[str]] = [[] for _ in range(members)]
        left_out: list[list[str]] = [[] for _ in range(members)]
        return cls(outcomes, reasons, left_out, np.full(shape, np.nan), progress)


@dataclass(frozen=True)
class Reached:
    """One criterion of one member under combinations, (c,): the utilisation in each and where it is reached, as in `Outcome`.

    used: numbers of the combinations.
    """

    criterion: str
    used: tuple[int, ...]
    utilisation: Floats
    row: Ints
    station: Ints
    position: Floats

    def outcome(self, column: int) -> Outcome:
        """As what governs in one of the combinations."""
        c = column
        return Outcome(
            self.criterion,
            float(self.utilisation[c]),
            c,
            float(self.position[c]),
            int(self.row[c]),
            int(self.station[c]),
        )

    @property
    def worst(self) -> int:
        """The combination, by its place among those used, in which most is reached; −1 where nothing could be computed."""
        known = np.nan_to_num(self.utilisation, nan=-1.0)
        return int(known.argmax()) if known.size and known.max() >= 0 else -1


def most_of(criterion: str, used: tuple[int, ...], u: Floats, places: Sequence[tuple[int, int, float]]) -> Reached:
    """The largest of u, (places, combinations), over the places: each its row, station and position."""
    at = np.where(np.isnan(u).all(axis=0), 0, np.nan_to_num(u, nan=-1.0).argmax(axis=0))
    rows, stations, x = (np.array(column) for column in zip(*places, strict=True))
    return Reached(criterion, used, u[at, np.arange(u.shape[1])], rows[at], stations[at], x[at])


@dataclass(frozen=True)
class Verdict:
    """Everything found for one member. status: "passes", "fails" or "not covered" (then the reasons say why). left_out: what a
    verdict that passes does not speak for, in words. slender: a part of its section is too slender to be covered, and so is one that is more so."""

    member: int
    status: str
    outcomes: tuple[Outcome, ...]
    not_covered: tuple[str, ...]
    left_out: tuple[str, ...] = ()
    slender: bool = False

    @property
    def governing(self) -> Outcome | None:
        """The outcome with the largest utilisation."""
        return max(self.outcomes, key=lambda o: o.utilisation, default=None)


@dataclass(frozen=True)
class Whole:
    """What may be said of the whole building: how many members pass, fail (purlins and rails beside the model as one each), are not covered; what is left out, with the number of
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


def whole(verdicts: tuple[Verdict, ...], left_out: tuple[str, ...], secondary: Sequence[Secondary] = ()) -> Whole:
    """The whole from all members, none left out. secondary: purlins and rails that are no members: those that fail count as one each;
    those that are not covered hold flanges all the same, and are left out."""
    states = Counter(v.status for v in verdicts)
    said = Counter(words for v in verdicts for words in v.left_out)
    failing = sum(s.status == "fails" for s in secondary)
    unknown = tuple(
        (f"{ROLE_WORDS[s.role][1]}, which hold members and are none of the model, are not verified: {words}", 0)
        for s in secondary
        for words in s.reasons
    )
    unknown += tuple(
        (f"{ROLE_WORDS[s.role][1]} beside the model: {'; '.join(s.left_out)}", 0) for s in secondary if s.left_out
    )
    worst = [v.governing.utilisation for v in verdicts if v.governing] + [s.worst for s in secondary]
    return Whole(
        states["passes"],
        states["fails"] + failing,
        states["not covered"],
        tuple((words, 0) for words in left_out) + unknown + tuple(said.most_common()),
        max(worst, default=0.0),
    )


def spread(combined: Combined, held: Sequence[Held], along: Floats) -> None:
    """Raise utilisations along the elements, (e, s), to those of the stretches that the stations lie in."""
    x = combined.elements.positions(combined.stations)
    first = np.searchsorted(combined.elements.member, np.arange(len(combined.structure.members) + 1))
    for part in held:
        for m, start, end, value in zip(part.member, part.start, part.end, part.utilisation, strict=True):
            own = slice(first[m], first[m + 1])
            inside = (x[own] >= start - 1e-6) & (x[own] <= end + 1e-6)
            np.maximum(along[own], value, out=along[own], where=inside)
