"""Members with haunches, tapers or unequal flanges: stability by the general method of 6.3.4, between places where both flanges are held."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from engine.analysis.lateral import (
    MOST,
    Ends,
    Stretch,
    buckles_below,
    end_conditions,
    factors_of,
    geometry_of,
    shape_of,
    stretch_of,
)
from engine.analysis.lateral_members import at_nodes, breaks, referred
from engine.analysis.sampling import interpolation
from engine.processors import shared_out
from engine.standards.en.checks.alike import general_stretches
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.general import (
    Values,
    general_check,
    general_curves,
    in_plane,
)
from engine.standards.en.haunched import classify_haunched
from engine.standards.en.moments import moment_factor
from engine.standards.en.steel import CURVES, LITTLE, classify, reduction
from engine.structure.model import Bools, Floats, Ints, Member, Structure
from engine.verification.checks import Buckled
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: elements of a stretch, at least; samples along a member for C_my
PIECES, ALONG = 8, 49
#: halvings by which a factor is found from a utilisation
BISECTIONS = 24
#: bounds this near below what was found may be equal to it but for rounding
NEAR = 1e-9
#: states of a member that are solved first; then twice as many, as long as bounds leave any
FIRST = 8


@dataclass(frozen=True)
class Alike:
    """Members that are haunched, held and divided alike: their indices (m,), their elements (m, n), and their stretches."""

    members: Ints
    elements: Ints
    spans: list[tuple[float, float]]


def alike(
    grounds: SteelGrounds,
    members: list[int] | None = None,
    stretches: Callable[[Structure, int], list[tuple[float, float]]] = general_stretches,
) -> list[Alike]:
    """Members (all by default) in groups, of those that have stretches: for the general method what has haunches, tapers or unequal flanges."""
    structure, elements = grounds.combined.structure, grounds.combined.elements
    x = elements.positions(grounds.forces.x)
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    found: dict[tuple[object, ...], list[int]] = defaultdict(list)
    for i in range(len(structure.members)) if members is None else members:
        m = structure.members[i]
        if np.isfinite(grounds.steel.fy[i]) and stretches(structure, i):
            ends, lengths = end_conditions(structure, i), grounds.lengths[i]
            shape = tuple((p.start, p.end, p.section.name, p.rise_start, p.rise_end) for p in m.pieces)
            places = np.round(x[first[i] : first[i + 1]], 6).tobytes()
            own = (
                m.section.name,
                m.material.name,
                m.roll,
                m.outer,
                m.inner,
                m.offset,
                lengths.y,
                lengths.sway,
                lengths.part,
                int(grounds.facing[i]),
            )
            found[(*own, ends.start, ends.end, shape, places)].append(i)
    return [
        Alike(
            np.array(same),
            np.array([np.arange(first[i], first[i + 1]) for i in same]),
            stretches(structure, same[0]),
        )
        for same in found.values()
    ]


def stretch_within(
    grounds: SteelGrounds,
    member: Member,
    places: list[float],
    span: tuple[float, float],
    ends: Ends,
    sprung: tuple[tuple[float, ...], int] = ((), -1),
) -> Stretch:
    """A stretch of a member, made once for all that are alike in what it depends on."""
    shape = (member.section, member.material, member.pieces, member.offset, member.outer, member.inner)
    key = (*shape, tuple(round(x, 6) for x in places), *span, ends.start, ends.end, sprung)
    if key not in grounds.stretches:
        grounds.stretches[key] = stretch_of(member, places, *span, ends, PIECES, sprung)
    return grounds.stretches[key]


class Within:
    """One stretch of members alike under combinations: states are (m, combinations), member by member. sprung: places of stays that do not
    hold one flange in it, and which (`stretch_of`)."""

    def __init__(
        self,
        grounds: SteelGrounds,
        own: Alike,
        span: tuple[float, float],
        columns: list[int] | None = None,
        sprung: tuple[tuple[float, ...], int] = ((), -1),
    ) -> None:
        combined = grounds.combined
        structure, elements, forces = combined.structure, combined.elements, grounds.forces
        self.document, self.own, self.span = grounds.document, own, span
        self.member = structure.members[int(own.members[0])]
        self.columns: slice | list[int] = slice(None) if columns is None else columns
        self.count = forces.N.shape[2] if columns is None else len(columns)
        length = structure.length(self.member)
        ends = end_conditions(structure, int(own.members[0]))
        kinds = [ends.start if span[0] < 1e-6 else "fork", ends.end if span[1] > length - 1e-6 else "fork"]
        rows = own.elements[0]
        places = elements.positions(forces.x, rows)
        self.breaks, self.ends = breaks(places), Ends(*kinds)
        self.stretch = stretch_within(grounds, self.member, self.breaks, span, self.ends, sprung)
        N, V, M = (self._states(values) for values in (forces.N, forces.Vz, forces.My))
        self._about = referred(structure, elements, rows, forces.x[rows], (N, V, M))
        self._loaded = grounds.document.rules.loads_at == "upper flange", int(grounds.facing[own.members[0]])
        self.geometric = self.geometry(self.stretch)
        self.curves = general_curves(
            self.member.section,
            max((self.member.section, *(p.section for p in self.member.pieces)), key=lambda s: s.h),
            float(grounds.steel.alpha_z[own.members[0]]),
        )
        self._sections(grounds, rows, places, length)

    def geometry(self, stretch: Stretch, states: Ints | None = None) -> Floats:
        """(n, 36, states) what the forces do in a stretch of the members, in all states by default."""
        above, turned = self._loaded
        about = self._about if states is None else self._about.of(states)
        return geometry_of(stretch, *at_nodes(stretch, about), above=above, facing=turned)

    def forces(self, stretch: Stretch) -> tuple[Floats, Floats, Floats]:
        """N, M, V (2 n, states) about the nodes' line, at both ends of the elements of a stretch."""
        return at_nodes(stretch, self._about)

    def _states(self, values: Floats) -> Floats:
        """(n, stations, m × combinations)."""
        found = values[self.own.elements][..., self.columns]
        return np.asarray(found.transpose(1, 2, 0, 3).reshape(*found.shape[1:3], -1))

    def _at(self, values: Floats, e: Ints, s: Ints) -> Floats:
        """(places, m × combinations) at stations s of the members' elements e."""
        found = values[self.own.elements[:, e], s][..., self.columns]
        return np.asarray(found.transpose(1, 0, 2).reshape(len(e), -1))

    def _sections(self, grounds: SteelGrounds, rows: Ints, places: Floats, length: float) -> None:
        """1/α_ult,k at the stations of the stretch, and the station where it is largest."""
        gamma = self.document.rules.gamma_M1
        peaks = grounds.peaks
        near = (places >= self.span[0] - 1e-6) & (places <= self.span[1] + 1e-6)
        reaches = (places[:, 0] < self.span[1] - 1e-6) & (places[:, -1] > self.span[0] + 1e-6)
        e, s = np.nonzero(near & reaches[:, None])
        self.at = (rows[e], s)
        self.x = places[e, s]
        N, My, Mz = (self._at(values, e, s) for values in (peaks.N, peaks.My, peaks.Mz))
        p = grounds.element_steel.take(grounds.steel_of[rows[e]], 1)
        haunched = p.kind[:, 0] == 4
        plastic, slender = np.zeros(N.shape, dtype=bool), np.zeros(N.shape, dtype=bool)
        straight = p.take(~haunched, 1)
        known = classify(straight, N[~haunched])
        plastic[~haunched] = known["cls"] <= 2
        W_y, W_z = (np.where(plastic, pl, el) for pl, el in ((p.Wpl_y, p.Wel_y), (p.Wpl_z, p.Wel_z)))
        A, signed, My = np.broadcast_to(p.A, N.shape).copy(), My, np.abs(My)
        # in compression alone, or nearly: effective sections; under the stresses of a haunch: without webs of class 4
        if (known["cls_N"] == 4).any() or (known["cls"] == 4).any():
            n, m = np.maximum(-N[~haunched], 0.0) / (straight.A * straight.fy), My[~haunched] / (W_y * p.fy)[~haunched]
            slender[~haunched] = (known["cls"] == 4) | ((known["cls_N"] == 4) & (n > LITTLE) & (n >= m))
        effective = [p.A_eff.copy(), p.Weff_y.copy(), p.Weff_z.copy()]
        if haunched.any():
            q = grounds.haunched.take(grounds.haunched_row[rows[e[haunched]]], 1)
            out = classify_haunched(q, N[haunched], signed[haunched])["slender"]
            My[haunched] += np.where(out, q.shift, 0.0) * np.abs(N[haunched])
            slender[haunched] = out
            for values, of in zip(effective, (q.A_f, q.Wf_y, q.Wf_z), strict=True):
                values[haunched] = of
        for values, of in zip((A, W_y, W_z), effective, strict=True):
            np.copyto(values, of, where=slender)
        self.N_Rk, self.My_Rk, self.Mz_Rk = A * p.fy, W_y * p.fy, W_z * p.fy
        # buckling in the plane is the whole member's: by the least of all its sections
        steel, own = grounds.steel, self.own.members[0]
        lengths = grounds.lengths[own]
        made_of = [self.member.section, *(piece.section for piece in self.member.pieces)]
        euler = np.pi**2 * self.member.material.E * min(s.Iy for s in made_of) / lengths.y**2
        limits = grounds.limits[0][self.own.members][:, self.columns].ravel().astype(np.float64)
        self.Ncr_y = np.minimum(euler, limits)
        least_A = min(s.A for s in made_of) * float(steel.fy[own])
        self.N_least = least_A
        self.lambda_y = np.sqrt(least_A / self.Ncr_y)
        # table 6.2: welded sections take curve b about y at least
        alpha_y = max(float(steel.alpha_y[own]), CURVES["b"])
        self.chi_y = reduction(np.asarray(alpha_y), self.lambda_y)[1]
        Cmy = self._shape(grounds, places, length)
        self.Cmy = np.where(lengths.sway | (self.Ncr_y < euler), np.maximum(Cmy, 0.9), Cmy)
        if lengths.part:
            self.Cmy = np.ones_like(Cmy)
        N_plane = np.minimum(self.N_Rk, least_A)
        v = in_plane(N, My, self.N_Rk, N_plane, self.My_Rk, plastic, self.lambda_y, self.chi_y, self.Cmy, gamma)
        self.governs = v["use"].argmax(axis=0)
        every = np.arange(N.shape[1])
        self.use = v["use"][self.governs, every]
        self.N_plane = N_plane[self.governs, every]
        self.plane = {name: values[self.governs, every] for name, values in v.items()}
        self.N, self.My = N[self.governs, every], My[self.governs, every]
        self.m_z = (np.abs(Mz) * gamma / self.Mz_Rk).max(axis=0)
        self.plastic = plastic[self.governs, every]

    def _shape(self, grounds: SteelGrounds, places: Floats, length: float) -> Floats:
        """(states,) C_my of the whole members, found once for all their stretches."""
        key = self.own.members.tobytes() if isinstance(self.columns, slice) else None
        if key is None or key not in grounds.shapes:
            value, slope, _ = interpolation(places, [(0.0, length)], ALONG)
            My, V = (self._states(v).reshape(places.size, -1) for v in (grounds.forces.My, grounds.forces.Vz))
            found = moment_factor(value @ My + slope @ V)
            if key is None:
                return found
            grounds.shapes[key] = found
        return grounds.shapes[key]

    def values(self, states: Ints) -> Values:
        """The whole check of some states."""
        alpha = factors_of(self.stretch, self.geometric[..., states])
        gamma = self.document.rules.gamma_M1
        return general_check(self.use[states], alpha, self.m_z[states], *self.curves, gamma)

    def largest(self) -> tuple[Floats, Ints]:
        """(m,) the largest utilisation of each member and its combination. States that bounds show below it are not solved."""
        m = len(self.own.members)
        owner = np.repeat(np.arange(m), self.count)
        if self.stretch.loose:
            return np.full(m, np.nan), np.zeros(m, dtype=np.int64)
        best, at = np.full(m, -1.0), np.zeros(m, dtype=np.int64)
        left, most = np.arange(m * self.count), FIRST
        while len(left):
            likely = left[np.lexsort((-self.use[left], owner[left]))]
            rank = np.arange(len(likely)) - np.searchsorted(owner[likely], owner[likely])
            now, most = likely[rank < most], 2 * most
            u = self.values(now)["u_general"]
            for state, value in zip(now.tolist(), u.tolist(), strict=True):
                if not value <= best[owner[state]]:
                    best[owner[state]], at[owner[state]] = value, state % self.count
            left = np.setdiff1d(left, now)
            left = left[self._above(left, best[owner[left]] * (1 - NEAR))]
        return best, at

    def _above(self, states: Ints, u: Floats) -> Bools:
        """Of states, whether they can reach more than u: they do where they buckle below the factor at which they would reach it."""
        factor = self.needed(states, u)
        found = np.isinf(factor)
        check = np.flatnonzero(~found & (factor > 0))
        found[check] = buckles_below(self.stretch, self.geometric[..., states[check]], factor[check])
        return found

    def needed(self, states: Ints, u: Floats) -> Floats:
        """The least factor α_cr,op at which states reach no more than u; 0 where they never do, inf where they always do."""
        low, high = np.full(len(states), 1 / MOST), np.full(len(states), MOST)

        def at(alpha: Floats, of: Ints) -> Floats:
            v = general_check(self.use[of], alpha, self.m_z[of], *self.curves, self.document.rules.gamma_M1)
            return np.asarray(v["u_general"])

        found = at(high, states) > u
        for _ in range(BISECTIONS):
            middle = np.sqrt(low * high)
            over = at(middle, states) > u
            low, high = np.where(over, middle, low), np.where(over, high, middle)
        # the factor at which they reach u lies between both: above it they stay below
        return np.where(found, np.inf, np.where(at(low, states) > u, high, 0.0))


def general(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each member with haunches or tapers; gives what its stretches reach."""
    work = [(own, number, span) for own in alike(grounds) for number, span in enumerate(own.spans)]

    def of(item: tuple[Alike, int, tuple[float, float]]) -> tuple[Floats, Ints]:
        return Within(grounds, item[0], item[2]).largest()

    held = []
    worst: dict[int, Outcome] = {}
    for (own, number, span), (u, at) in zip(work, shared_out(of, work), strict=True):
        held.append(_held(own, span, u))
        for k, i in enumerate(own.members.tolist()):
            reached = Outcome("general", float(u[k]), int(at[k]), (span[0] + span[1]) / 2, number)
            if np.isnan(u[k]):
                found.reasons[i].append("nothing holds it sideways (6.3.4)")
            if i not in worst or not reached.utilisation <= worst[i].utilisation:
                worst[i] = reached
    for i, reached in worst.items():
        found.outcomes[i].append(reached)
    return held


def _held(own: Alike, span: tuple[float, float], u: Floats) -> Held:
    count = len(own.members)
    return Held(own.members, np.full(count, span[0]), np.full(count, span[1]), np.nan_to_num(u))


def general_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What the stretches of members reach in one combination for strength."""
    held = []
    for own in alike(grounds):
        for span in own.spans:
            within = Within(grounds, own, span, [column])
            held.append(_held(own, span, within.values(np.arange(len(own.members)))["u_general"]))
    return held


def general_values(grounds: SteelGrounds, member: int, number: int, column: int) -> tuple[Values, tuple[float, float]]:
    """Every value of the check of one stretch of a member, by its number, in one combination, for its proof; and from where to
    where it reaches."""
    own = alike(grounds, [member])[0]
    within = Within(grounds, own, own.spans[number], [column])
    v = {name: values[0] for name, values in within.values(np.array([0])).items()}
    v |= {name: values[0] for name, values in within.plane.items()}
    k = int(within.governs[0])
    v |= {"x": within.x[k], "N": within.N[0], "My": within.My[0], "N_Ed": max(-within.N[0], 0.0)}
    v |= {"N_Rk": within.N_Rk[k, 0], "My_Rk": within.My_Rk[k, 0], "plastic": float(within.plastic[0])}
    v |= {"Ncr_y": within.Ncr_y[0], "lambda_y": within.lambda_y[0], "chi_y": within.chi_y[0], "Cmy": within.Cmy[0]}
    v |= {"alpha_op_z": within.curves[0], "alpha_op_LT": within.curves[1], "u": v["u_general"]}
    v |= {"Lcr_y": grounds.lengths[member].y, "N_least": within.N_least, "N_plane": within.N_plane[0]}
    return v, own.spans[number]


def general_buckled(grounds: SteelGrounds, member: int, number: int, column: int) -> Buckled:
    """How one stretch of a member, by its number, buckles sideways in one combination."""
    own = alike(grounds, [member])[0]
    within = Within(grounds, own, own.spans[number], [column])
    factor = float(factors_of(within.stretch, within.geometric)[0])
    x, (outer, inner) = shape_of(within.stretch, within.geometric[..., 0])
    return Buckled(column, factor, x, outer, inner)


def general_largest(grounds: SteelGrounds, member: int) -> list[tuple[float, float, float]]:
    """Stretches of a member that the general method verifies: from, to, and the largest utilisation."""
    return [
        (*span, float(Within(grounds, own, span).largest()[0][0]))
        for own in alike(grounds, [member])
        for span in own.spans
    ]


def general_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The stretches of a member with a haunch or taper; nothing for others."""
    for own in alike(grounds, [member]):
        values = []
        for span in own.spans:
            within = Within(grounds, own, span)
            u = np.full(within.count, np.nan)
            if governing:
                most, at = within.largest()
                u[at[0]] = most[0]
            elif not within.stretch.loose:
                u = within.values(np.arange(within.count))["u_general"]
            values.append(u)
        where = [(k, -1, sum(span) / 2) for k, span in enumerate(own.spans)]
        return [most_of("general", grounds.strength, np.array(values), where)]
    return []


def general_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what members with haunches or tapers reach."""
    for members, values in general_utilisations(grounds):
        most[members] = np.maximum(most[members], np.nan_to_num(values))


def general_utilisations(grounds: SteelGrounds) -> list[tuple[Ints, Floats]]:
    """Members with haunches or tapers, and (m, combinations) what they reach by the general method in each."""
    work = [(own, span) for own in alike(grounds) for span in own.spans]

    def of(item: tuple[Alike, tuple[float, float]]) -> tuple[Ints, Floats]:
        within = Within(grounds, *item)
        u = within.values(np.arange(len(within.use)))["u_general"]
        return item[0].members, u.reshape(len(item[0].members), -1)

    return list(shared_out(of, work))
