"""The verdicts on members and on the whole."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from engine.actions.combinations import Combination
from engine.chain import Chain
from engine.document.base import Kind
from engine.structure.model import Member
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import CRITERIA, SERVICE, Outcome, Verdict, kind_of

#: what a status says of several, the worst first
STATES = ("fails", "not covered", "passes")


@dataclass(frozen=True)
class Check:
    """A criterion of a member where it asks most: in which combination, m from its start."""

    outcome: Outcome
    kind: Kind
    words: str
    clause: str
    combination: Combination

    @property
    def criterion(self) -> str:
        """Its name."""
        return self.outcome.criterion

    @property
    def utilisation(self) -> float:
        """What it comes to."""
        return self.outcome.utilisation

    @property
    def position(self) -> float:
        """m from the member's start."""
        return self.outcome.position


@dataclass(frozen=True)
class MemberReport:
    """A member with its verdict: checks the worst first; not_covered, left_out: in words."""

    member: Member
    label: str
    length: float
    mass: float
    verdict: Verdict
    checks: tuple[Check, ...]

    @property
    def status(self) -> str:
        """ "passes", "fails" or "not covered"."""
        return self.verdict.status

    @property
    def governing(self) -> Check | None:
        """The check that governs."""
        return self.checks[0] if self.checks else None

    @property
    def strongest(self) -> Check | None:
        """The one that governs of strength and stability."""
        return next((c for c in self.checks if c.criterion not in SERVICE), None)


def check(chain: Chain, outcome: Outcome) -> Check:
    """An outcome with its words."""
    found, criterion = chain.verification, outcome.criterion
    combination = chain.combinations[found.used(criterion)[outcome.combination]]
    return Check(outcome, kind_of(criterion), CRITERIA[criterion], found.checks.clauses[criterion], combination)


def member(chain: Chain, verdict: Verdict) -> MemberReport:
    """A member with its verdict."""
    structure, own = chain.structure, chain.structure.members[verdict.member]
    checks = tuple(check(chain, o) for o in sorted(verdict.outcomes, key=lambda o: -o.utilisation))
    return MemberReport(own, label(own), structure.length(own), structure.mass(own), verdict, checks)


def members(chain: Chain) -> list[MemberReport]:
    """All members, as they stand."""
    return [member(chain, verdict) for verdict in chain.verification.verdicts]


def worst_state(states: Iterable[str]) -> str:
    """The worst of several states, "" of none."""
    there = set(states)
    return next((state for state in STATES if state in there), "")


@dataclass(frozen=True)
class Group:
    """Members of one role and section, the worst first: what fails, then what is not covered, then by utilisation."""

    role: str
    section: str
    members: tuple[MemberReport, ...]

    @property
    def name(self) -> str:
        """As it is headed."""
        return f"{ROLE_WORDS[self.role][1]}, {self.section}"


def groups(chain: Chain) -> list[Group]:
    """Members by role and section."""
    found: dict[tuple[str, str], list[MemberReport]] = {}
    for m in members(chain):
        found.setdefault((m.member.role, m.member.section.name), []).append(m)
    order = list(ROLE_WORDS)

    def worst_first(m: MemberReport) -> tuple[int, float]:
        place = STATES.index(m.status) if m.status in STATES else len(STATES)
        return place, -(m.governing.utilisation if m.governing else 0.0)

    return [
        Group(role, section, tuple(sorted(own, key=worst_first)))
        for (role, section), own in sorted(found.items(), key=lambda item: (order.index(item[0][0]), item[0][1]))
    ]


def left_out(chain: Chain) -> list[str]:
    """What no verdict speaks for, in words, with the number of members that it concerns."""
    return [
        words + (f" ({count} member{'s' * (count > 1)})" if count else "")
        for words, count in chain.verification.whole.left_out
    ]
