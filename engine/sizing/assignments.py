"""The search of a sizing: assignments of sections to groups that are analysed, what each says of others, and which comes next."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.combined import ULTIMATE
from engine.chain import Chain, prepare, run
from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.progress import Progress
from engine.sizing.candidates import candidates_of
from engine.sizing.foresight import Closer, Foresight, foresee, governing
from engine.sizing.groups import Choice, Group, groups_of, with_choices
from engine.sizing.haunches import haunches_of
from engine.sizing.present import now_of
from engine.sizing.search import Assignment, Lost, Space, lighter_far, lighter_near, lightest
from engine.sizing.sized import Round
from engine.verification.outcomes import KINDS, kind_of

#: proposals, and trials around the best of them, at most
MOST_PROPOSALS, MOST_TRIALS = 24, 120
#: trials without a better one after which the search ends: at least, at most, and members × trials between
LEAST_PATIENCE, MOST_PATIENCE, PATIENCE = 10, 50, 1000
#: how far from passing what is foreseen to fail is tried all the same, at the least patience; it goes with the root of patience
DOUBT = 0.10
#: of outcomes above this share of a group's target, the combinations are looked at first
NEARLY = 0.7
#: exponents and shares below this are none
TOUCHED = 0.03
#: the logarithm of how many times stiffer or softer a group may become
RANGE = 1.6
#: lighter by less than this share is not
LIGHTER = 1e-9
#: assignments that are looked at closer around each best one, for one member, fewer with the square of members, and at most
CLOSER, MOST_CLOSER = 16_000, 400
#: with other haunches the search goes on around what weighs up to this beside the best of all
WORTHWHILE = 1.01


@dataclass
class Analysed:
    """An assignment that was analysed, under all combinations (whole) or those that governed: (groups,) the largest utilisation of
    each group, and beside its target (over), and (groups, 3) what it reaches in cross-sections, stability and service."""

    worst: np.ndarray
    over: np.ndarray
    reached: np.ndarray
    whole: bool


class Search:
    """The state of one sizing."""

    def __init__(self, document: Document, progress: Callable[[Round], None], within: Progress) -> None:
        self.document, self.progress, self.within = document, progress, within
        structure = expand(document)
        self.structure = structure
        groups = groups_of(document, structure)
        haunches = haunches_of(structure, groups)
        #: what weighs no less is of no use: the best with other haunches
        self.bound = np.inf
        #: why something that is allowed was not looked at
        self.refused: list[str] = []
        candidates = tuple(candidates_of(document, structure, g) for g in groups)
        if not any(len(c.choices) > 1 for c in candidates) and not haunches:
            said = "; ".join(f"{g.name}: {g.kept or 'one section alone'}" for g in groups) or "there are no members"
            raise ModelError(f"There is nothing to choose: {said}.", "sizing.groups")
        self.rounds: list[Round] = []
        self.analysed: dict[Assignment, Analysed] = {}
        #: the whole numbers of what was analysed last and of the best: those of all would fill the memory
        self.chains: dict[Assignment, Chain] = {}
        self.best: Assignment | None = None
        self.governed: set[str] = set()
        self.lost: list[Lost] = []
        self.counted = [0, 0]
        self.looked: set[Assignment] = set()
        self.first = run(document, within)
        groups = tuple(self._covered(g) for g in groups)
        chosen = {g.name for g in groups if not g.kept}
        #: the sets of haunches that are allowed beside what stands
        self.haunches = [one for one in haunches if set(one) <= chosen]
        free = any(len(c.choices) > 1 and not g.kept for g, c in zip(groups, candidates, strict=True))
        if not free and not self.haunches:
            said = "; ".join(f"{g.name}: {g.kept or 'one section alone'}" for g in groups)
            raise ModelError(f"There is nothing to choose: {said}.", "sizing.groups")
        candidates = tuple(
            candidates_of(document, structure, g) if g.kept else c for g, c in zip(groups, candidates, strict=True)
        )
        reserve = 1.0 - document.sizing.reserve
        targets = np.array([self._targets(g, reserve) for g in groups])
        self.space = Space(groups, candidates, targets)
        self._govern(self.first)
        self.counted[0] += 1
        places = [c.choices.index(g.now) if g.now in c.choices else -1 for g, c in zip(groups, candidates, strict=True)]
        self.start: Assignment | None = None
        if min(places) >= 0 and not any(g.mixed for g in groups) and self.space.allowed(np.array([places]))[0]:
            self.start = tuple(places)
            self._keep(self.start, self.first, True)
        if self.start and self.fits(self.first):
            self.best = self.start
        self._note("start", "as it stands", self.first, {g.name: g.now for g in groups}, 0)
        self.foresight = foresee(self.first, groups, candidates)
        self.seen_from: Assignment | None = self.start

    # what an analysis says

    def _covered(self, group: Group) -> Group:
        """What no check covers keeps what it has: nothing says what less of it would do. What is said of all members alike, as where the
        whole buckles, other sections may mend."""
        verdicts = self.first.verification.verdicts
        of_all = set.intersection(*(set(v.not_covered) for v in verdicts))
        own = [r for i in group.members for r in verdicts[i].not_covered if r not in of_all]
        return replace(group, kept=f"not covered: {own[0]}") if own and not group.kept else group

    def _close(self, at: Assignment, chain: Chain) -> None:
        """What is too slender to be covered is not tried again, nor what is more slender."""
        closed = dict(self.space.uncovered)
        for k, group in enumerate(self.space.groups):
            if not group.kept and any(chain.verification.verdicts[i].slender for i in group.members):
                like = self.space.no_less_slender(k, at[k])
                closed[k] = like | closed.get(k, np.zeros(len(like), dtype=bool))
        self.space = replace(self.space, uncovered=closed)

    def worst(self, chain: Chain, groups: tuple[Group, ...]) -> np.ndarray:
        """(groups,) the largest utilisation; infinite where something of what is chosen is not covered."""
        found = np.array([now_of(chain, g).max() for g in groups])
        verdicts = chain.verification.verdicts
        for k, g in enumerate(groups):
            if not g.kept and any(verdicts[i].not_covered for i in g.members):
                found[k] = np.inf
        return found

    def beside(self, chain: Chain) -> np.ndarray:
        """(groups,) the largest utilisation beside its target; infinite where something of what is chosen is not covered."""
        reached = np.stack([now_of(chain, g) for g in self.space.groups])
        open_ = np.isinf(self.worst(chain, self.space.groups))
        return np.asarray(np.where(open_, np.inf, (reached / self.space.targets).max(axis=1)))

    def fits(self, chain: Chain) -> bool:
        """Whether every group keeps its targets."""
        return bool((self.beside(chain) <= 1.0).all())

    def _targets(self, group: Group, reserve: float) -> np.ndarray:
        """(3,) what a group may reach in cross-sections, stability and service; of one that keeps what it has what it does."""
        if group.kept:
            return np.maximum(now_of(self.first, group), 1.0)
        of_all = group.plan.target or reserve
        return np.array([group.plan.targets.get(kind, of_all) for kind in KINDS])

    def _govern(self, chain: Chain) -> None:
        """Keep the combinations that govern, or nearly: those that are looked at first."""
        verification, combined = chain.verification, chain.combined
        kept: set[int] = set()
        for k, g in enumerate(self.space.groups):
            by_kind: dict[str, list[tuple[float, int]]] = defaultdict(list)
            for i in g.members:
                for o in verification.verdicts[i].outcomes:
                    number = verification.used(o.criterion)[o.combination]
                    by_kind[kind_of(o.criterion)].append((o.utilisation, number))
            for kind, found in by_kind.items():
                kept.add(max(found)[1])
                kept |= {number for use, number in found if use > NEARLY * self.space.targets[k, KINDS.index(kind)]}
        if len(combined.standing.alpha):
            for values in (combined.standing.alpha, combined.standing.together):
                if not np.isnan(values).all():
                    kept.add(int(np.flatnonzero(combined.column == int(np.nanargmin(values)))[0]))
        self.governed |= {chain.combinations[number].name for number in kept}

    def _keep(self, at: Assignment, chain: Chain, whole: bool) -> Analysed:
        """Keep what an analysis found."""
        groups = self.space.groups
        reached = np.stack([now_of(chain, g) for g in groups])
        self.analysed[at] = Analysed(self.worst(chain, groups), self.beside(chain), reached, whole)
        self.chains = {k: c for k, c in self.chains.items() if k == self.best} | {at: chain}
        return self.analysed[at]

    def _lose(self, at: Assignment, chain: Chain, over: np.ndarray) -> None:
        """Keep what an assignment that failed says of others: by each group that fails, the groups on which that depends."""
        f, count = self.foresight, len(self.space.groups)
        nothing = np.zeros(count, dtype=bool)
        self.lost.append(Lost(at, ~nothing, nothing))
        standing = chain.combined.standing
        for k in np.flatnonzero(over > 1.0).tolist():
            group = self.space.groups[k]
            outcome = governing(chain, group, self.space.targets[k])
            if np.isinf(over[k]) or outcome is None or outcome[1].criterion == "critical":
                low = np.flatnonzero((standing.alpha <= 1.0) | (standing.together <= 1.0))
                part = np.asarray(standing.part[:, low].any(axis=1))
                of = np.array([bool(part[list(g.members)].any()) for g in self.space.groups])
                if of.any():
                    self.lost.append(Lost(at, of, nothing))
                continue
            if kind_of(outcome[1].criterion) == "service":
                rows = np.flatnonzero(f.whose == k)
                if not len(rows):
                    continue
                more = -f.shares[rows[np.argmax(f.moved[rows])]]
            else:
                more = f.exponents[k].copy()
            # what fails by little, little may mend
            touched = min(TOUCHED, (float(over[k]) - 1.0) / RANGE)
            less = more < -touched
            less[k] = True
            # where more stiffness makes it worse, less of it may help
            self.lost.append(Lost(at, less, more > touched))

    def choices(self, at: Assignment) -> dict[str, Choice]:
        """An assignment by the names of groups."""
        return {g.name: c.choices[k] for g, c, k in zip(self.space.groups, self.space.candidates, at, strict=True)}

    def _note(self, step: str, why: str, chain: Chain, choices: dict[str, Choice], few: int) -> None:
        kept = np.array([bool(g.kept) for g in self.space.groups])
        worst = np.where(kept, self.worst(chain, self.space.groups), self.beside(chain))
        named = {g.name: float(w) for g, w in zip(self.space.groups, worst, strict=True)}
        mass = chain.tonnage()
        new = Round(
            len(self.rounds) + 1,
            step,
            why,
            few,
            choices,
            named,
            self.fits(chain) and not few,
            mass,
            self.cost(choices),
        )
        self.rounds.append(new)
        self.progress(new)

    def cost(self, choices: dict[str, Choice]) -> float:
        """What choices cost, with those that groups keep."""
        found = 0.0
        for g, c in zip(self.space.groups, self.space.candidates, strict=True):
            if choices[g.name] in c.choices:
                found += float(c.cost[c.choices.index(choices[g.name])])
            else:
                alone = replace(g, kept="as it is")
                found += float(candidates_of(self.document, self.structure, alone).cost[0])
        return found

    # analyses

    def analyse(self, at: Assignment, step: str, why: str, full: bool = False) -> Analysed | None:
        """Analyse an assignment, under what governed first unless it shall be in full; None where it cannot be set out."""
        try:
            document = with_choices(self.document, self.structure, self.space.groups, self.choices(at))
            loaded = prepare(document, self.within)
        except ModelError:
            same = np.ones(len(self.space.groups), dtype=bool)
            self.lost.append(Lost(at, ~same, same))
            return None
        few = [c for c in loaded.combinations if c.name in self.governed]
        if not full and {c.use for c in few} & set(ULTIMATE) and len(few) < len(loaded.combinations):
            chain = run(document, self.within, loaded=replace(loaded, combinations=few, seconds=dict(loaded.seconds)))
            self.counted[1] += 1
            over = self.beside(chain)
            if (over > 1.0).any():
                self._close(at, chain)
                self._lose(at, chain, over)
                self._note(step, why, chain, self.choices(at), len(few))
                return self._keep(at, chain, False)
        chain = run(document, self.within, loaded=loaded)
        self.counted[0] += 1
        self._govern(chain)
        found = self._keep(at, chain, True)
        self._note(step, why, chain, self.choices(at), 0)
        if (found.over > 1.0).any():
            self._close(at, chain)
            self._lose(at, chain, found.over)
        elif self.best is None or self.weight(at) < self.weight(self.best):
            self.best = at
        return found

    def weight(self, at: Assignment) -> float:
        """What is made least, of an assignment."""
        return float(self.space.weight(np.array([at]))[0])

    def over(self, at: Assignment) -> float:
        """The largest utilisation beside its target that an assignment that was analysed reaches."""
        return float(self.analysed[at].over.max())

    def closest(self) -> Assignment | None:
        """The best; where nothing passes what misses it least, None where nothing is known of all that was analysed."""
        if self.best is not None or not self.analysed:
            return self.best
        found = min(self.analysed, key=self.over)
        return found if np.isfinite(self.over(found)) else None

    def look_from(self, at: Assignment) -> Foresight:
        """What is foreseen from an assignment that was analysed."""
        if self.seen_from != at:
            self.foresight = foresee(self.chains[at], self.space.groups, self.space.candidates)
            self.seen_from = at
        return self.foresight

    # the search

    def propose(self) -> None:
        """Analyse the lightest that is foreseen to pass, and go on from there."""
        heaviest = tuple(len(c.choices) - 1 for c in self.space.candidates)
        at = self.start
        for _ in range(MOST_PROPOSALS):
            starts = [s for s in (self.best, at, heaviest) if s is not None]
            new, nearest = lightest(self.space, self.foresight, starts, self.lost)
            least = min(self.bound, np.inf if self.best is None else self.weight(self.best))
            if np.isfinite(least):
                if new is None or self.weight(new) >= least * (1 - LIGHTER):
                    return
            elif new is None:
                # what comes nearest says more of what is beyond it
                new = nearest
            if new in self.analysed:
                return
            if self.analyse(new, "proposal", self._words(new, at)) is not None:
                at = new
                self.look_from(at)

    def refine(self) -> None:
        """Try what is lighter around the best."""
        trials = 0
        patience = PATIENCE // max(len(self.structure.members), 1)
        patience = min(max(patience, LEAST_PATIENCE), MOST_PATIENCE)
        doubt = DOUBT * (patience / LEAST_PATIENCE) ** 0.5
        while self.best is not None and self.weight(self.best) < self.bound * WORTHWHILE:
            around = self.best
            near = lighter_near(self.space, self.look_from(around), around, self.lost, doubt)
            trials += self._try(near, around, MOST_TRIALS - trials, patience)
            if self.best == around:
                trials += self._try(self._closer(around, doubt), around, MOST_TRIALS - trials, patience)
            if self.best == around:
                trials += self._try(self._again(around, patience // 5), around, MOST_TRIALS - trials, patience)
            if self.best == around:
                return

    def _again(self, around: Assignment, most: int) -> list[Assignment]:
        """Those that are foreseen to pass though something like them failed: what a group's failure depends on is foreseen too."""
        sure = [one for one in self.lost if one.less.all() or one.same.all()]
        near = lighter_near(self.space, self.look_from(around), around, sure, 0.0)
        return [new for new in near if new not in self.analysed][:most]

    def _try(self, near: list[Assignment], around: Assignment, most: int, patience: int) -> int:
        """Analyse assignments in turn until one is better than the best; how many were. After as many that failed as there is patience for
        only those that differ in one group."""
        trials = 0
        # only what is found from now on: the list was made with what was known
        gone, known = np.zeros(len(near), dtype=bool), len(self.lost)
        for number, new in enumerate(near):
            if known < len(self.lost):
                gone |= self.space.lost(np.array(near), self.lost[known:])
                known = len(self.lost)
            alone = sum(a != b for a, b in zip(new, around, strict=True)) == 1
            if gone[number] or trials >= most or (trials >= patience and not alone):
                continue
            trials += 1
            self.analyse(new, "trial", self._words(new, around))
            if self.best != around:
                break
        return trials

    def _closer(self, around: Assignment, doubt: float) -> list[Assignment]:
        """Those farther away of which a linear response of their own says that they may pass, the likeliest first; each is looked at once. Of
        large buildings none: that takes too long there."""
        count = min(CLOSER // max(len(self.structure.members), 1) ** 2, MOST_CLOSER)
        foresight = self.look_from(around)
        closer = Closer.of(self.chains[around], self.space.groups, self.space.candidates, foresight)
        targets, found = self.space.targets, []
        limits = foresight.limits(targets)
        for new in lighter_far(self.space, foresight, around, self.lost, doubt, count):
            if new in self.looked:
                continue
            self.looked.add(new)
            strength, movement = closer.look(new, targets)
            over = float(max(strength.max(), (movement / limits).max(initial=0.0)))
            if over <= 1.0 + 2 * doubt:
                found.append((max(over, 1.0), self.weight(new), new))
        return [new for _, _, new in sorted(found)]

    def _words(self, new: Assignment, before: Assignment | None) -> str:
        choices = self.choices(new)
        old = self.choices(before) if before else {g.name: g.now for g in self.space.groups}
        said = [
            f"{name} {c.words}" + (f" {c.grade}" if c.grade != old[name].grade else "")
            for name, c in choices.items()
            if c != old[name]
        ]
        return ", ".join(said) or "as it stands"
