"""What a family of standards checks of the members of a building: the contract that verification, sizing and what is shown rest on."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.derivation import Line, Symbol
from engine.structure.model import Floats
from engine.verification.grounds import Grounds
from engine.verification.outcomes import Findings, Outcome, Reached


@dataclass(frozen=True)
class Method:
    """One way to the effective length about y or z. factor: on the member's own length, None where it leads to none; words: how it was
    found; note: what speaks against it, "" where nothing does."""

    key: str
    name: str
    factor: float | None
    words: str
    note: str = ""


@dataclass(frozen=True)
class Between:
    """A stretch of a member between restraints: m from its start. flange: the one in compression, "" where both are held at its ends;
    lateral: its length for lateral buckling; utilisation: of what is sideways there, NaN where it was not asked for; solved: by an eigenvalue, for which no
    length is needed."""

    start: float
    end: float
    flange: Literal["outer", "inner", ""]
    lateral: float
    utilisation: float = float("nan")
    solved: bool = False


@dataclass(frozen=True)
class Buckled:
    """How a stretch of a member buckles sideways where an eigenvalue governs it: x: (k,) m from its start; outer, inner: (k,) how far the flanges move, the largest
    of all 1; factor: on the forces of the combination, numbered among those for strength."""

    combination: int
    factor: float
    x: Floats
    outer: Floats
    inner: Floats


@dataclass(frozen=True)
class Figure:
    """A value worth showing beside a member. symbol: LaTeX; brief: what is said right beside it."""

    symbol: str
    value: str
    words: str
    brief: str = ""


@dataclass(frozen=True)
class Second:
    """Another method with the utilisation that it gives, and why it may differ."""

    method: str
    utilisation: float
    why: str


@dataclass(frozen=True)
class Evaluated:
    """One outcome with every value that its proof uses, by name, the utilisation under "u"; and what goes without saying in it."""

    values: dict[str, float]
    assumptions: list[str]


class Checks(ABC):
    """The checks of strength and stability of a family, on the grounds that it needs for them. Arrays over combinations are those for
    strength, in their order."""

    grounds: Grounds

    @abstractmethod
    def verify(self, found: Findings) -> None:
        """Add to what is found of every member."""

    @abstractmethod
    def unsaid(self) -> tuple[str, ...]:
        """What the checks leave out of the building as a whole, in words."""

    @abstractmethod
    def of_one(self, column: int) -> Floats:
        """(e, s) utilisation along the members in one combination; NaN where nothing is checked."""

    @abstractmethod
    def most(self) -> Floats:
        """(members, combinations) the largest utilisation of all checks."""

    @abstractmethod
    def reached(self, member: int, governing: bool = False) -> list[Reached]:
        """All criteria that apply to a member, in all combinations. governing: of what takes long, the combination that governs alone;
        NaN in the others."""

    @abstractmethod
    def flanges(self, member: int) -> list[Between]:
        """The stretches of both flanges between their restraints, with what is reached sideways."""

    @abstractmethod
    def between(self, member: int, outcome: Outcome) -> Between | None:
        """The stretch that an outcome looks at; None for one of a cross-section."""

    @abstractmethod
    def buckled(self, member: int, outcomes: Sequence[Outcome]) -> Buckled | None:
        """How a member buckles sideways, where one of the outcomes rests on an eigenvalue."""

    @abstractmethod
    def figures(self, member: int, outcomes: Sequence[Outcome]) -> list[Figure]:
        """What an engineer wants to see beside the restraints of a member."""

    @abstractmethod
    def methods(self, member: int, axis: str, column: int) -> list[Method]:
        """Ways to the effective length of a member about y or z in one combination."""

    @abstractmethod
    def evaluated(self, member: int, outcome: Outcome) -> Evaluated:
        """One outcome of strength or stability, computed anew on its one row."""

    def arms(self, member: int, outcome: Outcome) -> Mapping[int, float]:
        """Other members with whose depth an outcome goes inversely, by number, and the distance, m, that it is a part of."""
        return {}

    @abstractmethod
    def second(self, member: int, outcome: Outcome) -> Second | None:
        """The figure of another method for an outcome; None where there is none."""

    @abstractmethod
    def lines(self, criterion: str) -> Sequence[Line]:
        """The lines of the proof of a criterion, its own or one of service."""

    @property
    @abstractmethod
    def symbols(self) -> Mapping[str, Symbol]:
        """How the values of proofs are written, by name."""

    @property
    @abstractmethod
    def clauses(self) -> Mapping[str, str]:
        """Where each criterion is written, those of service too."""

    @abstractmethod
    def candidates(
        self,
        members: Sequence[int],
        made_of: Sequence[tuple[Section, Material]],
        columns: list[int],
        now: Mapping[str, float],
        twist: bool,
    ) -> Floats | None:
        """(n, 2) about what members would reach in cross-sections and in stability if they were made of others, what they are made of now
        the last of them, in some combinations under the forces present; inf where it could not be computed. now: what they reach, by
        criterion; twist: whether torsion that no check covers rules one out. None where they cannot be looked at all at once."""

    @abstractmethod
    def on(self, grounds: Grounds) -> Checks:
        """The same checks on other grounds of the same family."""
