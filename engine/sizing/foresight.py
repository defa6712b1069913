"""What an assignment of sections to groups would reach, foreseen from one analysis.

Present forces give what each candidate of a group reaches. Forces and movements go with stiffness: the linear response is found again
with each group at half and at twice its stiffness. What the governing places bear then, and how far they move, is for one stiffness a
ratio of two linear functions of it, exactly so where the rest takes part as one spring: through three points it is known over all of
its range. Of several groups the factors on what is borne are multiplied, and what they add to a movement is added.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.solve import assemble, solve_linear
from engine.analysis.stability import critical
from engine.analysis.system import Response
from engine.analysis.transfer import PLANES
from engine.catalogue.properties import Section
from engine.chain import Chain
from engine.sizing.candidates import Candidates
from engine.sizing.groups import Group
from engine.sizing.present import reached_by, worst_of_service
from engine.structure.model import Floats, Ints, Structure
from engine.verification.outcomes import KINDS, Outcome, kind_of
from engine.verification.service import measure
from engine.verification.verify import STRENGTH

#: the ratios of stiffness at which the response is found again
RATIOS = (0.5, 2.0)
#: how area goes with the second moment within a series, as an exponent: between 0.4 and 0.5 of I sections and hollow ones
AREA = 0.45
#: movements below this share of their limit are not foreseen
SMALL = 0.2
#: critical factor of members together from which on it is not foreseen, and below which nothing is proposed
LOW, ENOUGH = 8.0, 1.5
#: below this share of what it is, what several groups take from a movement is multiplied, not added
LITTLE = 0.3


@dataclass(frozen=True)
class Foresight:
    """From one analysis. reached: by group (n, 2) of its candidates in cross-sections and stability, under present forces. borne: by
    group (groups, n) the factor on what each group bears with a candidate of this one; moves: by group (limits, n) the same of what
    limits of movement bound. moved: (limits,) their utilisation now; whose: (limits,) the group that keeps it. exponents: (groups,
    groups) of what the first bears with the stiffness of the second; shares: (limits, groups) of the groups in a movement. Where
    members buckle together below `LOW`, the last limit is that they shall not below `ENOUGH`, which is nobody's: whose is −1.
    """

    reached: tuple[Floats, ...]
    borne: tuple[Floats, ...]
    moves: tuple[Floats, ...]
    moved: Floats
    whose: Ints
    exponents: Floats
    shares: Floats

    def strength(self, chosen: Ints, targets: Floats | None = None) -> Floats:
        """(m, groups) of assignments (m, groups), the larger of cross-sections and stability, or beside targets (groups, 3)."""
        own = self.reached if targets is None else [r / t[:2] for r, t in zip(self.reached, targets, strict=True)]
        found = np.stack([r.max(axis=1)[chosen[:, g]] for g, r in enumerate(own)], axis=1)
        for h, factor in enumerate(self.borne):
            found = found * factor[:, chosen[:, h]].T
        return np.asarray(found)

    def movement(self, chosen: Ints) -> Floats:
        """(m, limits) of assignments (m, groups)."""
        added = np.ones((len(chosen), len(self.moved)))
        multiplied = added
        for h, factor in enumerate(self.moves):
            own = factor[:, chosen[:, h]].T
            added, multiplied = added + own - 1.0, multiplied * own
        return np.asarray(self.moved * np.where(added > LITTLE, added, multiplied))

    def over(self, chosen: Ints, targets: Floats) -> Floats:
        """(m,) the largest utilisation beside its target, (groups, 3) in cross-sections, stability and service, of assignments."""
        found = self.strength(chosen, targets).max(axis=1, initial=0.0)
        if len(self.moved):
            found = np.maximum(found, (self.movement(chosen) / self.limits(targets)).max(axis=1))
        return np.asarray(found)

    def limits(self, targets: Floats) -> Floats:
        """(limits,) what each may reach."""
        return np.where(self.whose < 0, 1.0, targets[self.whose, 2])


def through(low: Floats, high: Floats, ratio: Floats) -> Floats:
    """(k, n) at ratios (n,) the functions f(r) = (1 − b + b r)/(1 − e + e r), which are 1 at 1, through (k,) values at `RATIOS`.

    Where there is none between 0 and 1 for b and e, which keeps f positive and without a pole: powers through the same points.
    """
    one, two = ((f - 1.0) / (r - 1.0) for f, r in zip((low, high), RATIOS, strict=True))
    with np.errstate(divide="ignore", invalid="ignore"):
        e = np.where(np.abs(high - low) > 1e-9, (one - two) / (high - low), 0.0)
        b = one + low * e
        fits = (b >= -1e-6) & (b <= 1 + 1e-6) & (e >= -1e-6) & (e <= 1 + 1e-6)
        b, e = (np.clip(x, 0.0, 1.0)[:, None] for x in (b, e))
        fraction = (1 - b + b * ratio) / np.maximum(1 - e + e * ratio, 1e-9)
        powers = [np.log(np.maximum(f, 1e-6)) / np.log(r) for f, r in zip((low, high), RATIOS, strict=True)]
        power = ratio ** np.where(ratio < 1.0, powers[0][:, None], powers[1][:, None])
    return np.asarray(np.where(fits[:, None], fraction, power))


def foresee(chain: Chain, groups: Sequence[Group], candidates: Sequence[Candidates]) -> Foresight:
    """What assignments to the groups would reach, from the analysis of one."""
    watched = [_watched(chain, g) for g in groups]
    limits = [(k, of) for k, g in enumerate(groups) for of in worst_of_service(chain, g)]
    moved = [_present(chain, of) for _, of in limits]
    limits = [limit for limit, u in zip(limits, moved, strict=True) if u > SMALL]
    moved = [u for u in moved if u > SMALL]
    leaning = _leaning(chain)
    count, places = len(groups), [of for _, of in limits]
    before = _borne(chain, chain.structure, watched, places, chain.response)
    values = np.ones((2, count, len(before) + (leaning is not None)))
    ratios = []
    for k, (group, may) in enumerate(zip(groups, candidates, strict=True)):
        axial = _axial(chain, watched[k])
        now = chain.structure.members[max(group.members, key=lambda i: chain.structure.members[i].section.A)].section
        ratios.append(np.array([s.A / now.A if axial else s.Iy / now.Iy for s in may.sections]))
        if len(may.choices) < 2:
            continue
        for way, ratio in enumerate(RATIOS):
            structure = _stiffer(chain.structure, group, ratio, axial)
            response = _response(chain, structure)
            after = _borne(chain, structure, watched, places, response)
            known = (before > 0) & (after > 0)
            values[way, k, : len(before)][known] = after[known] / before[known]
            if leaning is not None:
                values[way, k, -1] = _leans(chain, group, response, leaning)
    if leaning is not None:
        moved.append(ENOUGH / max(float(chain.combined.standing.together[leaning[0]]), 0.1))
    functions = [through(values[0, k], values[1, k], ratios[k]) for k in range(count)]
    for g, group in enumerate(groups):
        for h, factor in _by_depth(chain, group, groups, candidates).items():
            functions[h][g] *= factor
    slopes = np.stack(
        [np.log(values[1, k] / values[0, k]) / np.log(RATIOS[1] / RATIOS[0]) for k in range(count)], axis=1
    )
    return Foresight(
        tuple(reached_by(chain, g, c) for g, c in zip(groups, candidates, strict=True)),
        tuple(f[:count] for f in functions),
        tuple(f[count:] for f in functions),
        np.array(moved),
        np.array([k for k, _ in limits] + ([-1] if leaning is not None else []), dtype=np.int64),
        slopes[:count],
        -slopes[count:],
    )


@dataclass(frozen=True)
class Closer:
    """What looks at single assignments by a linear response of their own: what is foreseen of several groups far from what stands is the
    product of what each does by itself, and up to a third off. before: what is borne where it is watched now."""

    chain: Chain
    groups: Sequence[Group]
    candidates: Sequence[Candidates]
    foresight: Foresight
    watched: list[Watched]
    places: list[tuple[int, int]]
    before: Floats

    @classmethod
    def of(
        cls, chain: Chain, groups: Sequence[Group], candidates: Sequence[Candidates], foresight: Foresight
    ) -> Closer:
        """From the analysis and what is foreseen from it."""
        watched = [_watched(chain, g) for g in groups]
        places = [of for g in groups for of in worst_of_service(chain, g) if _present(chain, of) > SMALL]
        before = _borne(chain, chain.structure, watched, places, chain.response)
        return cls(chain, groups, candidates, foresight, watched, places, before)

    def look(self, chosen: Sequence[int], targets: Floats) -> tuple[Floats, Floats]:
        """(groups,) and (limits,) what an assignment would reach in strength, beside targets (groups, 3), and in movement."""
        chain, structure, count = self.chain, self.chain.structure, len(self.places)
        for group, may, k in zip(self.groups, self.candidates, chosen, strict=True):
            structure = _made_of(structure, group, may.sections[k])
        response = _response(chain, structure)
        after = _borne(chain, structure, self.watched, self.places, response)
        known = (self.before > 0) & (after > 0)
        factor = np.where(known, after / np.where(known, self.before, 1.0), 1.0)
        beside = zip(self.foresight.reached, chosen, targets, strict=True)
        strength = np.array([(r[k] / t[:2]).max() for r, k, t in beside])
        movement = self.foresight.movement(np.array([chosen]))[0]
        movement[:count] = self.foresight.moved[:count] * factor[len(self.groups) :]
        leaning = _leaning(chain) if len(movement) > count else None
        if leaning is not None:
            alpha = float(critical(response, chain.combined.rows[[leaning[1]]]).together[0])
            movement[-1] = ENOUGH / max(alpha, 0.1)
        return strength * factor[: len(self.groups)], movement


def _made_of(structure: Structure, group: Group, section: Section) -> Structure:
    """With a group made of another section; what its members are made of besides goes with it."""
    members = list(structure.members)
    for i in group.members:
        m = members[i]
        area, second = section.A / m.section.A, section.Iy / m.section.Iy
        pieces = tuple(
            replace(p, section=replace(p.section, A=p.section.A * area, Iy=p.section.Iy * second)) for p in m.pieces
        )
        members[i] = m.but(section=section, pieces=pieces)
    return replace(structure, members=tuple(members))


def _axial(chain: Chain, watched: Watched) -> bool:
    """Whether a member bears by its area more than by its second moment, where its group reaches most."""
    m = chain.structure.members[watched.member]
    if m.bar or watched.number not in chain.verification.strength:
        return m.bar
    own = chain.response.elements.member == watched.member
    f, c = chain.verification.forces, chain.verification.strength.index(watched.number)
    pulled = np.abs(f.N[own][..., c]).max() / m.section.A
    bent = np.abs(f.My[own][..., c]).max() / max(m.section.Wpl_y, 1e-12)
    return bool(pulled > bent)


def _leans(chain: Chain, group: Group, response: Response, leaning: tuple[int, int]) -> float:
    """The factor on 1/α_cr of the members that buckle together first."""
    standing = chain.combined.standing
    if not standing.part[list(group.members), leaning[0]].any():
        return 1.0
    alpha = float(critical(response, chain.combined.rows[[leaning[1]]]).together[0])
    return float(standing.together[leaning[0]]) / alpha if 0 < alpha < np.inf else 1.0


def _leaning(chain: Chain) -> tuple[int, int] | None:
    """The combination in which members buckle together at the lowest factor: its place in `standing` and among all; None where that
    is far."""
    combined = chain.combined
    together = np.where(combined.standing.together > 0, combined.standing.together, np.inf)
    if not together.size or not np.nanmin(together, initial=np.inf) < LOW:
        return None
    k = int(np.nanargmin(together))
    return k, int(np.flatnonzero(combined.column == k)[0])


def _response(chain: Chain, structure: Structure) -> Response:
    """The linear response of what is made otherwise to the loads present."""
    before = chain.response.system
    return solve_linear(assemble(structure, chain.loading, before.shear_deformation, before.bows))


def _present(chain: Chain, of: tuple[int, int]) -> float:
    """The utilisation of a limit of movement, by its stretch and combination."""
    stretch, number = of
    verification = chain.verification
    criterion = verification.stretches[stretch].criterion
    found = (
        o.utilisation
        for i in verification.stretches[stretch].members
        for o in verification.verdicts[i].outcomes
        if o.criterion == criterion and o.row == stretch
    )
    return max(found, default=0.0)


@dataclass(frozen=True)
class Watched:
    """Where a group reaches most in strength: the member, the combination among all, from where to where along it, and which flange
    counts there: 1 the outer, −1 the inner, 0 both."""

    member: int
    number: int
    start: float
    end: float
    flange: int


def _strongest(chain: Chain, group: Group) -> tuple[int, Outcome] | None:
    """The member and the outcome of strength that reach most in a group; None where there is none."""
    found = [(o.utilisation, i, o) for i in group.members for o in chain.verification.verdicts[i].outcomes]
    strong = [one for one in found if one[2].criterion in STRENGTH]
    return max(strong, key=lambda one: one[0])[1:] if strong else None


def _watched(chain: Chain, group: Group) -> Watched:
    strongest = _strongest(chain, group)
    if strongest is None:
        return Watched(group.members[0], 0, 0.0, 0.0, 0)
    i, o = strongest
    number, length = chain.verification.strength[o.combination], chain.structure.length(chain.structure.members[i])
    if o.criterion in ("section", "shear", "sum", "torsion", "knee"):
        return Watched(i, number, o.position, o.position, 0)
    between = chain.verification.checks.between(i, o)
    if between and between.flange:
        return Watched(i, number, between.start, between.end, 1 if between.flange == "outer" else -1)
    return Watched(i, number, 0.0, length, 0)


def _by_depth(
    chain: Chain, group: Group, groups: Sequence[Group], candidates: Sequence[Candidates]
) -> dict[int, Floats]:
    """By other group (n,) what its candidates' depth makes of what governs a group, where that goes with how deep its members are."""
    strongest = _strongest(chain, group)
    arms = chain.verification.checks.arms(*strongest) if strongest else {}
    by_group = {}
    for i, arm in arms.items():
        depth = chain.structure.members[i].section.h
        for h, other in enumerate(groups):
            if i in other.members and other is not group:
                by_group[h] = np.array([arm / (arm + s.h - depth) for s in candidates[h].sections])
    return by_group


def _stiffer(structure: Structure, group: Group, ratio: float, axial: bool) -> Structure:
    """With a group at a ratio of its stiffness, the rest of its section as it goes within a series."""
    area, second = (ratio, ratio ** (1 / AREA)) if axial else (ratio**AREA, ratio)

    def other(s: Section) -> Section:
        shear_y, shear_z = (None if x is None else x * area for x in (s.stiffness_Avy, s.stiffness_Avz))
        return replace(
            s,
            A=s.A * area,
            Iy=s.Iy * second,
            Iz=s.Iz * second,
            It=s.It * second,
            stiffness_Avy=shear_y,
            stiffness_Avz=shear_z,
        )

    chosen = set(group.members)
    members = tuple(
        m.but(section=other(m.section), pieces=tuple(replace(p, section=other(p.section)) for p in m.pieces))
        if i in chosen
        else m
        for i, m in enumerate(structure.members)
    )
    return replace(structure, members=members)


def _borne(
    chain: Chain,
    structure: Structure,
    watched: Sequence[Watched],
    limits: Sequence[tuple[int, int]],
    response: Response,
) -> Floats:
    """(groups + limits,) what is borne by what governs the groups, and how far what governs the limits moves, by superposition."""
    numbers = sorted({w.number for w in watched} | {number for _, number in limits})
    combined: Combined = replace(
        chain.combined,
        response=response,
        states=None,
        place=np.full_like(chain.combined.place, -1),
    )
    at = {number: k for k, number in enumerate(numbers)}
    # beside the response to what stands
    change = combined.end_force(numbers) - chain.response.end_force @ chain.combined.rows[numbers].T
    moved = combined.displacement(numbers)
    found = [_stress(chain, w, change[..., at[w.number]]) for w in watched]
    for number_of, number in limits:
        stretch = chain.verification.stretches[number_of]
        # a drift is known by the nodes alone
        along = np.zeros((1, 2, 3, 1)) if stretch.drifts else combined.deflections([number], stretch.rows)
        off = measure(combined, moved[..., [at[number]]], along, stretch)
        found.append(float(off.max() * stretch.ratio / stretch.length))
    return np.array(found)


def _stress(chain: Chain, watched: Watched, change: Floats) -> float:
    """The largest sum of stress shares where a group reaches most, with other end forces, (e, 12): the loads between are the same, so
    that the diagrams differ by straight lines."""
    m, elements = chain.structure.members[watched.member], chain.response.elements
    if m.section.shape == "given" or watched.number not in chain.verification.strength:
        return 0.0
    own = elements.rows(watched.member)
    f, c = chain.verification.forces, chain.verification.strength.index(watched.number)
    s, fy = m.section, m.material.fy(max(m.section.tf, m.section.tw))
    found = np.abs(f.N[own][..., c] - change[own, 0, None]) / s.A
    if not m.bar:
        for axis, M, W in (("z", f.My, s.Wpl_y), ("y", f.Mz, s.Wpl_z)):
            w, r, _, _, sense = PLANES[axis]
            moment = M[own][..., c] - change[own, r, None] * sense + change[own, w, None] * f.x[own]
            counted = np.maximum(moment * watched.flange, 0.0) if axis == "z" and watched.flange else np.abs(moment)
            found = found + counted / W
    places = elements.positions(f.x, own)
    beside = np.maximum(np.maximum(watched.start - places, places - watched.end), 0.0)
    return float(found[beside <= beside.min() + 1e-6].max() / fy)


def governing(chain: Chain, group: Group, targets: Floats) -> tuple[int, Outcome] | None:
    """The member of a group that reaches most of all beside its targets (3,), and what governs it."""
    found = [(i, o) for i in group.members for o in chain.verification.verdicts[i].outcomes]
    beside = dict(zip(KINDS, targets.tolist(), strict=True))
    return max(found, key=lambda pair: pair[1].utilisation / beside[kind_of(pair[1].criterion)], default=None)
