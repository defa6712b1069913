"""The lightest assignment of sections to groups that is foreseen to pass, and those near one that could."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from itertools import combinations

import numpy as np

from engine.lazy import lazily
from engine.sizing.candidates import Candidates
from engine.sizing.foresight import Foresight
from engine.sizing.groups import Group
from engine.structure.model import Bools, Floats, Ints

#: how far pairs and triples of groups are moved together, in candidates
PAIRS, TRIPLES = 12, 3
#: groups up to which triples are looked at
TRIPLED = 8
#: depths this near count as the same, m
AS_DEEP = 0.010
#: how far from passing the next lighter of a group by itself is tried all the same
BY_ITSELF = 0.5
#: how far from passing what is foreseen to fail is looked at by a linear response of its own
FAR = 3.0
#: steps of one descent
STEPS = 200
#: more of something than this share is more
MORE = 1e-9

Assignment = tuple[int, ...]


@dataclass(frozen=True)
class Lost:
    """An assignment that failed: so does every one that is no larger in some groups, and the same in others, (groups,) each."""

    at: Assignment
    less: Bools
    same: Bools


@dataclass(frozen=True)
class Space:
    """All assignments. targets: (groups, 3) the largest utilisation that each may reach in cross-sections, stability and service; uncovered: by group the candidates, (n,), that are too slender to be
    covered, as far as that is known."""

    groups: tuple[Group, ...]
    candidates: tuple[Candidates, ...]
    targets: Floats
    uncovered: dict[int, Bools] = field(default_factory=dict)

    def weight(self, chosen: Ints) -> Floats:
        """(m,) what is made least, of assignments (m, groups)."""
        return np.asarray(sum(c.weight[chosen[:, g]] for g, c in enumerate(self.candidates)))

    def allowed(self, chosen: Ints) -> Bools:
        """(m,) whether groups that are tied by their depths keep to it, and all of them are covered."""
        found = self.tied(chosen)
        for k, uncovered in self.uncovered.items():
            found &= ~uncovered[chosen[:, k]]
        return found

    def no_less_slender(self, group: int, candidate: int) -> Bools:
        """(n,) candidates of a group whose parts are at least as slender as those of one, of its shape and no weaker grade."""
        own = self.candidates[group]
        parts = np.array(
            [
                (s.h / s.tw if s.tw else 0.0, s.b / s.tf if s.tf else 0.0, _rank(c.grade))
                for s, c in zip(own.sections, own.choices, strict=True)
            ]
        )
        alike = np.array([s.shape == own.sections[candidate].shape for s in own.sections])
        return np.asarray(alike & (parts >= parts[candidate] * (1 - MORE)).all(axis=1))

    def tied(self, chosen: Ints) -> Bools:
        """(m,) whether groups that are tied by their depths keep to it."""
        found = np.ones(len(chosen), dtype=bool)
        number = {g.name: k for k, g in enumerate(self.groups)}
        depth = [np.array([s.h for s in c.sections]) for c in self.candidates]
        for k, group in enumerate(self.groups):
            own = depth[k][chosen[:, k]]
            for key, tie in (("not_deeper_than", -1), ("as_deep_as", 0)):
                other = number.get(getattr(group.plan, key) or "")
                if other is None:
                    continue
                more = own - depth[other][chosen[:, other]]
                found &= more < 1e-6 if tie else np.abs(more) < AS_DEEP
        return found

    @lazily
    def free(self) -> tuple[int, ...]:
        """The groups that have a choice."""
        return tuple(k for k, c in enumerate(self.candidates) if len(c.choices) > 1)

    @lazily
    def _strength(self) -> list[Floats]:
        """By group (n, 6) of its candidates: what each resists with."""
        return [
            np.array(
                [
                    (s.A, s.Iy, s.Iz, s.Wel_y, s.It, _rank(c.grade))
                    for s, c in zip(own.sections, own.choices, strict=True)
                ]
            )
            for own in self.candidates
        ]

    @lazily
    def _no_larger(self) -> list[Bools]:
        """By group (n, n) whether the second candidate resists with no more than the first in anything."""
        return [np.asarray((own[None] <= own[:, None] * (1 + MORE)).all(axis=2)) for own in self._strength]

    def lost(self, chosen: Ints, among: Sequence[Lost]) -> Bools:
        """(m,) whether something like it, or larger, failed."""
        found = np.zeros(len(chosen), dtype=bool)
        for one in among:
            like = np.flatnonzero(~found)
            for k in np.flatnonzero(one.same | one.less).tolist():
                own = chosen[like, k]
                like = like[own == one.at[k] if one.same[k] else self._no_larger[k][one.at[k], own]]
            found[like] = True
        return found

    def around(self, at: Assignment) -> Ints:
        """(m, groups) one group anywhere else, pairs and triples a little."""
        base = np.array(at, dtype=np.int64)
        parts = [np.repeat(base[None], len(self.candidates[k].choices), axis=0) for k in self.free]
        for k, part in zip(self.free, parts, strict=True):
            part[:, k] = np.arange(len(part))
        parts += list(self._together(base, 2, PAIRS))
        if len(self.free) <= TRIPLED:
            parts += list(self._together(base, 3, TRIPLES))
        return np.concatenate(parts) if parts else base[None]

    def _together(self, base: Ints, count: int, reach: int) -> Iterator[Ints]:
        for groups in combinations(self.free, count):
            spans = [
                np.arange(max(base[k] - reach, 0), min(base[k] + reach + 1, len(self.candidates[k].choices)))
                for k in groups
            ]
            grid = np.stack([x.ravel() for x in np.meshgrid(*spans, indexing="ij")], axis=1)
            found = np.repeat(base[None], len(grid), axis=0)
            found[:, list(groups)] = grid
            yield found


def _rank(grade: str) -> float:
    digits = "".join(c for c in grade if c.isdigit())
    return float(digits or 0)


def lightest(
    space: Space, foresight: Foresight, starts: Sequence[Assignment], lost: Sequence[Lost]
) -> tuple[Assignment | None, Assignment]:
    """The lightest assignment that is foreseen to pass and is not lost, by descents from several ones, None where none is; and the one
    that is foreseen to come nearest to passing."""
    best: tuple[float, Assignment] | None = None
    nearest: tuple[float, Assignment] = (np.inf, starts[0])
    for start in starts:
        at = start
        for _ in range(STEPS):
            around = space.around(at)
            around = around[space.allowed(around) & ~space.lost(around, lost)]
            if not len(around):
                break
            over, weight = foresight.over(around, space.targets), space.weight(around)
            fits = over <= 1.0
            least = int(np.argmin(over))
            if over[least] < nearest[0]:
                nearest = float(over[least]), tuple(around[least].tolist())
            pick = int(np.argmin(np.where(fits, weight, np.inf))) if fits.any() else least
            if fits.any() and (best is None or weight[pick] < best[0] * (1 - MORE)):
                best = float(weight[pick]), tuple(around[pick].tolist())
            following = tuple(around[pick].tolist())
            if following == at:
                break
            at = following
    return best[1] if best else None, nearest[1]


def lighter_far(
    space: Space, foresight: Foresight, at: Assignment, lost: Sequence[Lost], within: float, count: int
) -> list[Assignment]:
    """Lighter assignments near one that are not lost and foreseen to fail by more than a share, but by less than `FAR`: those that
    fail least first, at most so many."""
    around = space.around(at)
    own = float(space.weight(np.array([at]))[0])
    around = around[(space.weight(around) < own * (1 - MORE)) & space.allowed(around)]
    if not len(around):
        return []
    around = np.unique(around[~space.lost(around, lost)], axis=0)
    over = foresight.over(around, space.targets) if len(around) else np.zeros(0)
    order = np.argsort(over, kind="stable")
    return [tuple(around[k].tolist()) for k in order if 1.0 + within < over[k] <= FAR][:count]


def lighter_near(
    space: Space, foresight: Foresight, at: Assignment, lost: Sequence[Lost], within: float
) -> list[Assignment]:
    """Lighter assignments near one that are not lost and foreseen to pass, the lightest first, then those that miss it by less than a
    share, by how little; last the next lighter of each group by itself, unless it is far from passing."""
    around = space.around(at)
    weight, own = space.weight(around), float(space.weight(np.array([at]))[0])
    around = around[(weight < own * (1 - MORE)) & space.allowed(around)]
    if len(around):
        around = np.unique(around[~space.lost(around, lost)], axis=0)
    if not len(around):
        return []
    weight, over = space.weight(around), foresight.over(around, space.targets)
    order = np.lexsort((weight, np.where(over <= 1.0, 0.0, over)))
    single = (around == np.array(at)).sum(axis=1) == around.shape[1] - 1
    next_ = single & ((around - np.array(at)).sum(axis=1) == -1) & (over <= 1.0 + BY_ITSELF)
    near = [k for k in order if over[k] <= 1.0 + within]
    return [tuple(around[k].tolist()) for k in (*near, *(k for k in order if next_[k] and over[k] > 1.0 + within))]
