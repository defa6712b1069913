"""What a search for sections found, told: the sections, what governs them, the candidates beside them, and what stands in the way."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.sizing.assignments import Search
from engine.sizing.foresight import governing
from engine.sizing.groups import Choice, Group
from engine.sizing.levers import levers
from engine.sizing.search import Assignment
from engine.sizing.sized import Candidate, Sized, Sizing
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import CRITERIA

#: candidates of a group that are shown
SHELF = 24


def told(search: Search) -> Sizing:
    """The end of the search."""
    chain, choices = search.first, {g.name: g.now for g in search.space.groups}
    # what nothing is known of is no proposal
    at = search.closest()
    if at is not None and (not search.analysed[at].whole or at not in search.chains):
        search.analyse(at, "nearest", "nothing passes; what comes nearest, in full", full=True)
    if at is not None:
        chain, choices = search.chains[at], search.choices(at)
        search.look_from(at)
    worst, first = search.worst(chain, search.space.groups), search.worst(search.first, search.space.groups)
    groups = tuple(
        _sized(search, k, g, chain, at, float(first[k]), float(worst[k]), choices[g.name])
        for k, g in enumerate(search.space.groups)
    )
    obstacles = [*_failing(search, chain, worst), *_uncovered(chain), *_beside(chain), *search.refused]
    masses = search.first.tonnage(), chain.tonnage()
    carbon = search.document.sizing.prices.carbon
    before, after = (
        (mass, search.cost(of), mass * carbon)
        for mass, of in zip(masses, ({g.name: g.now for g in search.space.groups}, choices), strict=True)
    )
    return Sizing(
        tuple(search.rounds),
        groups,
        chain.verification.whole.passes and search.fits(chain),
        tuple(obstacles),
        before,
        after,
        (search.counted[0], search.counted[1]),
    )


def _sized(
    search: Search,
    k: int,
    group: Group,
    chain: Chain,
    at: Assignment | None,
    before: float,
    after: float,
    choice: Choice,
) -> Sized:
    found = governing(chain, group, search.space.targets[k])
    verdicts = chain.verification.verdicts
    reasons = [r for i in group.members for r in verdicts[i].not_covered]
    own = [i for i, of in enumerate(search.foresight.whose) if of == k]
    moves: dict[str, float] = {}
    if own:
        share = search.foresight.shares[max(own, key=lambda i: search.foresight.moved[i])]
        share = share / max(float(np.abs(share).sum()), 1e-9)
        moves = {g.name: float(s) for g, s in zip(search.space.groups, share, strict=True) if abs(s) >= 0.02}
    members = search.structure.members
    mass = [sum(c.structure.mass(c.structure.members[i]) for i in group.members) for c in (search.first, chain)]
    return Sized(
        group.name,
        tuple(members[i].name for i in group.members),
        group.kept,
        group.now,
        choice,
        mass[0],
        mass[1],
        before,
        after,
        found[1].criterion if found else "",
        members[found[0]].name if found else "",
        tuple(search.space.targets[k].tolist()),
        reasons[0] if reasons else "",
        _shelf(search, k, at) if at is not None and len(search.space.candidates[k].choices) > 1 else (),
        moves,
    )


def _shelf(search: Search, k: int, at: Assignment) -> tuple[Candidate, ...]:
    """The candidates of a group about the one found, all others as found."""
    of = search.space.candidates[k]
    first = max(0, min(at[k] - SHELF // 2, len(of.choices) - SHELF))
    rows = np.arange(first, min(first + SHELF, len(of.choices)))
    chosen = np.repeat(np.array([at]), len(rows), axis=0)
    chosen[:, k] = rows
    fits, movement = search.space.tied(chosen), search.foresight.movement(chosen)
    beside = np.delete(search.foresight.strength(chosen), k, axis=1).max(axis=1, initial=0.0)
    touched = np.abs(search.foresight.shares[:, k]) > 0.02
    found = []
    for row, number in enumerate(rows.tolist()):
        values = [*search.foresight.reached[k][number], movement[row, touched].max() if touched.any() else np.nan]
        values.append(beside[row])
        solved = search.analysed.get(tuple(chosen[row].tolist()))
        if solved is not None and solved.whole:
            values = [*solved.reached[k], np.delete(solved.worst, k).max(initial=0.0)]
            if not touched.any():
                values[2] = np.nan
        section, stability, service, others = (float(v) for v in values)
        if k in search.space.uncovered and search.space.uncovered[k][number] and not (solved and solved.whole):
            section = float("inf")
        choice, mass, cost = of.choices[number], float(of.mass[number]), float(of.cost[number])
        whole = solved is not None and solved.whole
        slender = float(of.slenderness[number])
        reached = section, stability, service, others, slender
        found.append(Candidate(choice, mass, cost, *reached, whole, bool(fits[row])))
    return tuple(found)


def _failing(search: Search, chain: Chain, worst: np.ndarray) -> list[str]:
    """The groups that do not keep their targets, by how much, and what would help."""
    said = []
    over = search.beside(chain)
    for k, g in enumerate(search.space.groups):
        if (worst[k] if g.kept else over[k]) <= 1.0:
            continue
        found = governing(chain, g, search.space.targets[k])
        if found is None or np.isinf(worst[k]):
            said.append(f"{g.name}: {chain.structure.members[g.members[0]].section.name} is not covered")
            continue
        member = chain.structure.members[found[0]]
        words = f"{g.name}: {member.section.name} reaches {worst[k]:.2f}, {CRITERIA[found[1].criterion].lower()} of {label(member)}"
        if g.kept:
            words += f" ({g.kept})"
        elif member.section.name == max(search.space.candidates[k].sections, key=lambda s: s.Iy * s.A).name:
            words += ", and nothing larger may be chosen"
        help_ = next((x for x in levers(chain, member.name) if x.kind == "stay"), None)
        if help_ is not None and help_.outcome.utilisation < worst[k] - 0.02:
            words += f"; a stay, {help_.words}, would bring it to {help_.outcome.utilisation:.2f}"
        said.append(words)
    return said


def _beside(chain: Chain) -> list[str]:
    """Purlins and rails that are no members and fail: no section of a group helps them."""
    return [
        f"{ROLE_WORDS[s.role][1]}, which are no members: {s.table} reaches {s.worst:.2f}"
        for s in chain.verification.secondary
        if s.status == "fails"
    ]


def _uncovered(chain: Chain) -> list[str]:
    """What is not covered, by its reason."""
    found: dict[str, list[str]] = {}
    for v in chain.verification.verdicts:
        for reason in v.not_covered:
            found.setdefault(reason, []).append(label(chain.structure.members[v.member]))
    return [f"{len(names)} × not covered, {names[0]} for one: {reason}" for reason, names in found.items()]
