"""Deflections and sways against their limits."""

from __future__ import annotations

from dataclasses import dataclass

from engine.chain import Chain
from engine.report.verdicts import Check, check
from engine.structure.model import Member
from engine.verification.outcomes import SERVICE, SWINGING
from engine.verification.service import frequency_of


@dataclass(frozen=True)
class Movement:
    """A movement against its limit, in m: over which length and at which ratio of it; absolute: it was set in millimetres."""

    member: Member
    check: Check
    movement: float
    limit: float
    length: float
    ratio: float
    absolute: bool

    @property
    def words(self) -> str:
        """Where the limit comes from."""
        if self.check.criterion in SWINGING:
            return f"{frequency_of(self.limit):.3g} Hz at least"
        return f"{self.limit * 1000:g} mm at most" if self.absolute else f"{self.length:.2f} m / {self.ratio:g}"


def worst_movements(chain: Chain) -> list[Movement]:
    """Of each role and criterion the one that comes nearest to its limit."""
    best: dict[tuple[str, str], Movement] = {}
    for v in chain.verification.verdicts:
        for o in v.outcomes:
            own = chain.structure.members[v.member]
            key = (own.role, o.criterion)
            if o.criterion not in SERVICE or (key in best and best[key].check.utilisation >= o.utilisation):
                continue
            stretch = chain.verification.stretches[o.row]
            limit = stretch.length / stretch.ratio
            best[key] = Movement(
                own, check(chain, o), o.utilisation * limit, limit, stretch.length, stretch.ratio, stretch.absolute
            )
    return list(best.values())
