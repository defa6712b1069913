"""What sizing tells: its rounds, the candidates of each group, and the sections that it found."""

from __future__ import annotations

from dataclasses import dataclass

from engine.sizing.groups import Choice


@dataclass(frozen=True)
class Round:
    """One analysis on the way. step: "start", "proposal", "trial" or "nearest"; few: the number of combinations where not all were looked at, else
    0; worst: per group, utilisation beside what it may be used, infinite where something that is chosen is not covered; passes: whether all groups keep their targets;
    tonnage in kg; cost: by the document's prices."""

    number: int
    step: str
    why: str
    few: int
    choices: dict[str, Choice]
    worst: dict[str, float]
    passes: bool
    tonnage: float
    cost: float


@dataclass(frozen=True)
class Candidate:
    """One on the shelf of a group, all other groups as found: what it reaches in cross-sections, stability and service (NaN: it has no
    limit); slenderness: L_cr/i; others: the largest utilisation of the other groups then; solved: by an analysis of its own, else foreseen; mass and cost of the group; fits: whether its ties allow it."""

    choice: Choice
    mass: float
    cost: float
    section: float
    stability: float
    service: float
    others: float
    slenderness: float
    solved: bool
    fits: bool


@dataclass(frozen=True)
class Sized:
    """A group: what it had and what was found. before, after: utilisation, member and criterion that govern; kept: why nothing was
    chosen; not_covered: the first reason why something of it is not. moves: shares of the groups in what governs its movement, by their names."""

    name: str
    members: tuple[str, ...]
    kept: str
    before: Choice
    after: Choice
    mass_before: float
    mass_after: float
    worst_before: float
    worst_after: float
    criterion: str
    member: str
    targets: tuple[float, float, float]
    not_covered: str
    shelf: tuple[Candidate, ...]
    moves: dict[str, float]


@dataclass(frozen=True)
class Sizing:
    """The rounds, the groups with what was found, whether every member of the building passes with it and every group keeps
    its target, and what is in the way if not.
    before, after: (mass in kg, cost, kg CO2e). analyses: under all combinations, and under those that governed."""

    rounds: tuple[Round, ...]
    groups: tuple[Sized, ...]
    passes: bool
    obstacles: tuple[str, ...]
    before: tuple[float, float, float]
    after: tuple[float, float, float]
    analyses: tuple[int, int]

    @property
    def choices(self) -> dict[str, Choice]:
        """What was found, by group."""
        return {g.name: g.after for g in self.groups}
