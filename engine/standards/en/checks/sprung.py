"""A member with its stays as springs: what it needs of them, and what they bring to what they lead to."""

from __future__ import annotations

from itertools import pairwise

import numpy as np

from engine.analysis.flanges import flanges_at
from engine.analysis.lateral import MOST, Ends, buckles_below, factors_of, modes_below
from engine.analysis.twist_springs import added, share_needed, twist_rows
from engine.standards.en.checks.general import Alike, Within, stretch_within
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.stays_to import SAME, Side, Stay
from engine.standards.en.stays import flange_force, stay_check
from engine.standards.en.steel import classify
from engine.structure.model import Bools, Floats, Ints

#: states of a member that are looked at first
FIRST = 6
#: share of a segment's own factor that is asked for: the whole, cut otherwise into elements, is found as exactly as that
FOUND = 0.995
#: no share of what there is counts for more
WIDEST = 1e3


class Sprung:
    """Members alike with stays that lead to as much, under combinations: states are (m, combinations), member by member. flange: the one that
    the stays hold, the inner (−1) or the outer (1)."""

    def __init__(
        self,
        grounds: SteelGrounds,
        own: Alike,
        flange: int,
        columns: list[int] | None = None,
        stays: list[Stay] | None = None,
    ) -> None:
        self.grounds, self.own, self.flange = grounds, own, flange
        self.member = grounds.combined.structure.members[int(own.members[0])]
        self.stays = stays or grounds.stays[int(own.members[0])][0]
        span = own.spans[0]
        self.within = Within(grounds, own, span, columns, (tuple(stay.x for stay in self.stays), flange))
        self.rows = twist_rows(self.member, self.within.stretch, [(s.x, s.rotation) for s in self.stays])
        self.elastic = added(self.rows, len(self.within.stretch.x))
        self.whole = self.within.needed(np.arange(self.within.use.size), np.ones(self.within.use.size))

    def share(self, states: Ints, factors: Floats) -> Floats:
        """The least share of what there is with which states do not buckle below factors."""
        return share_needed(self.within.stretch, self.within.geometric[..., states], factors, self.rows)

    def segments(self, states: Ints, factors: Floats) -> Floats:
        """The least factor at which a segment between places where both flanges are held buckles by itself, as it is verified; inf where none does
        below `factors`."""
        w = self.within
        cuts = [w.span[0], *(stay.x for stay in self.stays), w.span[1]]
        found = np.full(len(states), np.inf)
        for k, (a, b) in enumerate(pairwise(cuts)):
            if b - a < SAME:
                continue
            kinds = Ends(w.ends.start if k == 0 else "fork", w.ends.end if k == len(cuts) - 2 else "fork")
            stretch = stretch_within(self.grounds, self.member, w.breaks, (a, b), kinds)
            geometric = w.geometry(stretch, states)
            limit = np.minimum(np.minimum(found, factors / FOUND), MOST)
            below = np.flatnonzero(buckles_below(stretch, geometric, limit))
            found[below] = np.fmin(found[below], factors_of(stretch, geometric[..., below]))
        return FOUND * found

    def needs(self, states: Ints) -> tuple[Floats, Floats]:
        """Of states, the factor that they need and the share of what there is that gives it: the lesser of that at which the whole passes
        by 6.3.4, and that of the segments where the first asks for more than there is."""
        factors = self.whole[states].copy()
        found = np.where(np.isinf(factors), np.inf, 0.0)
        finite = np.flatnonzero(np.isfinite(factors) & (factors > 0))
        found[finite] = self.share(states[finite], factors[finite])
        beyond = np.flatnonzero(found > 1)
        if len(beyond):
            own = self.segments(states[beyond], factors[beyond])
            lesser = np.flatnonzero(own < factors[beyond])
            chosen = beyond[lesser]
            factors[chosen] = own[lesser]
            found[chosen] = self.share(states[chosen], factors[chosen])
        return factors, np.minimum(found, WIDEST)

    def largest(self) -> tuple[Floats, Ints]:
        """(m,) the largest share of each member that is needed, and its combination."""
        count = self.within.count
        best, at = np.zeros(len(self.own.members)), np.zeros(len(self.own.members), dtype=np.int64)
        owner = np.repeat(np.arange(len(best)), count)
        pressed = self.pressed().ravel()
        left = np.flatnonzero((self.whole > 0) & (pressed > 0))
        left = left[self._more(left, np.zeros(len(left)))]
        most = FIRST
        while len(left):
            likely = left[np.lexsort((-(pressed * np.minimum(self.whole, MOST))[left], owner[left]))]
            rank = np.arange(len(likely)) - np.searchsorted(owner[likely], owner[likely])
            now, most = likely[rank < most], 2 * most
            for state, share in zip(now.tolist(), self.needs(now)[1].tolist(), strict=True):
                if share > best[owner[state]]:
                    best[owner[state]], at[owner[state]] = share, state % count
            left = np.setdiff1d(left, now)
            left = left[self._more(left, best[owner[left]])]
        return best, at

    def _more(self, states: Ints, share: Floats) -> Bools:
        """Of states, whether they may need more than a share: they do where they buckle with it below what the whole needs."""
        w, factors = self.within, np.minimum(self.whole[states], MOST)
        return np.asarray(modes_below(w.stretch, w.geometric[..., states], factors, (self.elastic, share)) > 0)

    def pressed(self) -> Floats:
        """(m, combinations) the largest compression in the stayed flange of the plain section anywhere along the members."""
        s, f = self.member.section, self.grounds.forces
        N, My = (values[self.own.elements][..., self.within.columns] for values in (f.N, f.My))
        return np.asarray(flange_force(N, My, s.h - s.tf, s.b * s.tf / s.A, self.flange).max(axis=(1, 2)))

    def forces(self) -> Floats:
        """(stays, m, combinations) compression in the stayed flange at the stays."""
        w, found = self.within, []
        N, M = (np.stack([v[::2], v[1::2]], axis=1) for v in w.forces(w.stretch)[:2])
        for stay in self.stays:
            # before the stay and behind it
            node = int(np.argmin(np.abs(w.stretch.x - stay.x)))
            sides = [(N[node - 1, 1], M[node - 1, 1]), (N[node, 0], M[node, 0])]
            depth, share, rise = self.shape(stay.x)
            found.append(np.max([flange_force(n, m + rise * n, depth, share, self.flange) for n, m in sides], axis=0))
        return np.array(found).reshape(len(self.stays), len(self.own.members), -1)

    def shape(self, x: float) -> tuple[float, float, float]:
        """Distance of the flanges at a place, m, the stayed flange's share of the area, and the height of the centroid above the nodes' line, m."""
        at = flanges_at(self.member, np.array([x]))
        piece = next((p for p in self.member.pieces if p.start <= x <= p.end), None)
        s = piece.section if piece else self.member.section
        flange = s.b2 * s.tf2 if s.b2 and self.flange < 0 else s.b * s.tf
        return float(at.top[0] - at.bottom[0]), flange / s.A, float(at.centroid[0])

    def borne(self) -> tuple[list[tuple[Stay, Side]], dict[str, Floats]]:
        """The sides of what is known to bear moments, and `stay_check` of them, (sides, m, combinations)."""
        parts, found = [], []
        for k, (stay, N_f) in enumerate(zip(self.stays, self.forces(), strict=True)):
            depth = self.shape(stay.x)[0]
            for n, side in enumerate(stay.sides):
                resistance = self._resistance(side)
                if np.isnan(resistance):
                    continue
                own = np.array([self._own(self.grounds.stays[i][0][k].sides[n]) for i in self.own.members.tolist()])
                part = side.rotation / stay.rotation
                v = stay_check(N_f, depth, part, own, resistance)
                v |= {"N_f": N_f, "d_f": depth, "part": part, "M_own": own, "M_side": resistance}
                parts.append((stay, side))
                found.append({name: np.broadcast_to(value, N_f.shape) for name, value in v.items()})
        return parts, {name: np.array([v[name] for v in found]) for name in (found[0] if found else ())}

    def _resistance(self, side: Side) -> float:
        if side.member is None:
            return side.resistance
        p = self.grounds.steel.take(np.array([side.member[0]]), 0)
        if p.kind[0] not in (0.0, 1.0, 2.0) or not np.isfinite(p.fy[0]):
            return np.nan
        cls = float(classify(p, np.zeros(1))["cls"][0])
        W = {"y": (p.Wpl_y, p.Wel_y, p.Weff_y), "z": (p.Wpl_z, p.Wel_z, p.Weff_z)}[side.about]
        return float(
            (W[0] if cls <= 2 else W[1] if cls == 3 else W[2])[0] * p.fy[0] / self.grounds.document.rules.gamma_M0
        )

    def _own(self, side: Side) -> Floats:
        """(combinations,) the moment that a member of the model bears at the stay."""
        if side.member is None:
            return np.zeros(self.within.count)
        number, node, way = side.member
        elements = self.grounds.combined.elements
        rows = elements.rows(number)
        f = self.grounds.forces
        values = (f.My if side.about == "y" else f.Mz)[..., self.within.columns]
        # the element that begins, or ends, at the stay: it may lie anywhere along the member
        e = int(rows[elements.ends[rows, 0 if way > 0 else 1] == node][0])
        return np.asarray(np.abs(values[e, 0 if way > 0 else -1]))
