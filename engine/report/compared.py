"""Two chains side by side: what is verified differently, and what the supports take differently."""

from __future__ import annotations

from dataclasses import dataclass
from math import isfinite

import numpy as np

from engine.chain import Chain
from engine.report.standing import Effect, effect_of
from engine.report.supports import Reactions, reactions
from engine.report.verdicts import MemberReport, members
from engine.structure.model import FREEDOMS

#: utilisations that differ by less are the same; reactions that differ by less than this share, and than this, N or Nm
USE, SHARE, FORCE = 0.005, 0.01, 500.0


@dataclass(frozen=True)
class Use:
    """A member in one of two chains: its section, what governs it, by how much, its verdict."""

    section: str
    governs: str
    utilisation: float | None
    status: str


@dataclass(frozen=True)
class MemberBeside:
    """A member in two chains; None where it is not there."""

    member: str
    label: str
    before: Use | None
    after: Use | None

    @property
    def by(self) -> float:
        """By how much its utilisation rises, or falls."""
        one, other = ((u.utilisation or 0.0) if u else 0.0 for u in (self.before, self.after))
        return other - one


@dataclass(frozen=True)
class ReactionBeside:
    """A reaction in two chains under the combinations for strength: the least and the greatest, N or Nm; None where nothing holds that way."""

    node: str
    freedom: str
    before: tuple[float, float] | None
    after: tuple[float, float] | None

    @property
    def by(self) -> float:
        """The most that one of them differs by."""
        one, other = ((0.0, 0.0) if r is None else r for r in (self.before, self.after))
        return max(abs(b - a) for a, b in zip(one, other, strict=True))


@dataclass(frozen=True)
class Compared:
    """members, reactions: those that differ, the most first; alike: how many do not."""

    before: Effect
    after: Effect
    members: tuple[MemberBeside, ...]
    members_alike: int
    reactions: tuple[ReactionBeside, ...]
    reactions_alike: int


def compared(before: Chain, after: Chain) -> Compared:
    """Two chains of one project, members and supports by their names."""
    one, other = ({m.member.name: m for m in members(chain)} for chain in (before, after))
    uses = [
        MemberBeside(name, (other.get(name) or one[name]).label, _use(one.get(name)), _use(other.get(name)))
        for name in dict.fromkeys([*one, *other])
    ]
    differ = [u for u in uses if _differs(u)]
    pairs = _reactions(before, after)
    moved = [
        p for p in pairs if p.before is None or p.after is None or p.by > max(FORCE, SHARE * max(map(abs, p.before)))
    ]
    return Compared(
        effect_of(before),
        effect_of(after),
        tuple(sorted(differ, key=lambda u: -abs(u.by))),
        len(uses) - len(differ),
        tuple(sorted(moved, key=lambda p: -p.by)),
        len(pairs) - len(moved),
    )


def _use(found: MemberReport | None) -> Use | None:
    if found is None:
        return None
    g = found.governing
    use = g.utilisation if g and isfinite(g.utilisation) else None
    return Use(found.member.section.name, g.words if g else "", use, found.status)


def _differs(u: MemberBeside) -> bool:
    if u.before is None or u.after is None:
        return True
    said = [(use.section, use.status) for use in (u.before, u.after)]
    return said[0] != said[1] or abs(u.by) >= USE


def _reactions(before: Chain, after: Chain) -> list[ReactionBeside]:
    one, other = (_extremes(reactions(chain)) for chain in (before, after))
    return [ReactionBeside(*key, one.get(key), other.get(key)) for key in dict.fromkeys([*one, *other])]


def _extremes(found: Reactions) -> dict[tuple[str, str], tuple[float, float]]:
    """Least and greatest of each reaction, by node and direction."""
    if not found.force.size:
        return {}
    least, most = found.force.min(axis=2), found.force.max(axis=2)
    return {
        (found.nodes[s], FREEDOMS[f]): (float(least[s, f]), float(most[s, f]))
        for s, f in np.argwhere(found.held).tolist()
    }
