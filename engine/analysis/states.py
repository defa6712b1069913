"""States of their own: combinations in which members or supports act one way only, or which are taken in second order."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache, partial
from typing import Any

import numpy as np
from scipy.sparse import coo_array, csc_array, csr_array, vstack

from engine.analysis import restraints
from engine.analysis.bows import bowed, leans
from engine.analysis.factors import Factors, sound_factor
from engine.analysis.second_order import (
    BUBBLES,
    CLOSE,
    FREEDOMS_OF,
    Condensed,
    Geometry,
    amplify,
    geometry,
    shapes,
)
from engine.analysis.solve import System, pushed_back
from engine.analysis.uneven import Uneven, uneven
from engine.lazy import lazily
from engine.progress import Step, quiet
from engine.structure.model import Bools, Floats, Ints

#: share of its stiffness that a member keeps while it does not act, so that the rest can be solved
SLACK = 1e-6
#: share of the work of the loads that parts which do not act may take before the rest counts as a mechanism
LEANING = 0.01
#: forces below this share of the largest do not change a state
SMALL = 1e-9
MOST_ROUNDS = 40
MOST_UPDATES = 6
#: states that are solved at a time where all parts act
TOGETHER = 256
#: powers of the twice integrated bubbles
POWERS = BUBBLES + 6


@dataclass(frozen=True)
class States:
    """Solved states; arrays as in a Response, over states in place of cases.

    factors: (s, cases). axial: (e, s) the axial forces that second order acts with, zero in first order; swell: (2, e, b, s)
    bubbles beyond those of the first order; varies: (2, e) where the axial force acts with its course along the element, not its
    mean alone; signs: (bows, s) of the bow imperfections. slack: (e, s) elements that do not
    act; lifted: (6 n, s) supports that lift.
    settled: whether the state of one-way parts was found; stable: whether it stands, or lies beyond its critical load; free:
    whether what does not act leaves a mechanism: then nothing is known of it.
    residual: (s,) out-of-balance force beside the largest.
    """

    system: System
    factors: Floats
    displacement: Floats
    reaction: Floats
    end_force: Floats
    end_displacement: Floats
    axial: Floats
    swell: Floats
    varies: Bools
    signs: Floats
    slack: Bools
    lifted: Bools
    settled: Bools
    stable: Bools
    free: Bools
    residual: Floats
    solves: int

    def __len__(self) -> int:
        return len(self.factors)


def sides(system: System) -> Ints:
    """(e,) +1 for elements that act in tension only, −1 in compression only, else 0."""
    signs = {"tension-only": 1, "compression-only": -1}
    of = np.array([signs.get(m.behaviour, 0) for m in system.structure.members], dtype=np.int64)
    return np.asarray(of[system.elements.member])


def one_sided(system: System) -> bool:
    """Whether anything acts one way only, so that superposition does not hold."""
    s = system.structure
    return bool(sides(system).any() or (s.one_way & (s.fixed | (s.springs != 0))).any())


def load_bubbles(system: System) -> Floats:
    """(2, e, b, cases): what loads between clamped ends make of the bubbles: the work they do on each, over its stiffness."""
    e, loads, cases, unit = system.elements, system.loads, system.fixed.shape[2], shapes()
    row = loads.line[:, 0]
    L = e.length[row, None]
    xi = loads.span / L
    rise = (loads.q[:, 1] - loads.q[:, 0]) / (xi[:, 1] - xi[:, 0])[:, None]
    # ∫ q ψ dξ by parts, q linear
    ends = np.split(_powers_of(xi) @ _integrated_bubbles(), 2, axis=2)
    first, last = loads.q[:, 0, 1:, None] * ends[0][:, [0]], loads.q[:, 1, 1:, None] * ends[0][:, [1]]
    work = (last - first - rise[:, 1:, None] * (ends[1][:, [1]] - ends[1][:, [0]])) * L[..., None]
    cells = loads.line
    phi = np.stack([12 * e.EIz / (e.GAy * e.length**2), 12 * e.EIy / (e.GAz * e.length**2)])[..., None]
    soft = 1 + unit.mu * phi / 12
    if len(loads.point):
        row = loads.point[:, 0]
        xi = loads.at / e.length[row]
        value = np.stack([b(xi) for b in unit.bubbles], axis=1)
        slope = np.stack([b.deriv()(xi) for b in unit.bubbles], axis=1) / e.length[row, None]
        # a couple turns with the bending alone; about local y it turns x towards −z, about z towards +y
        turn = slope[:, None] / soft[:, row].swapaxes(0, 1)
        couple = np.stack([loads.moment[:, 2], -loads.moment[:, 1]], axis=1)
        work = np.concatenate([work, loads.force[:, 1:, None] * value[:, None] + couple[..., None] * turn])
        cells = np.concatenate([cells, loads.point])
    into = (np.ones(len(cells)), (cells[:, 0] * cases + cells[:, 1], np.arange(len(cells))))
    total = csr_array(into, shape=(len(e) * cases, len(cells))) @ work.reshape(len(cells), 2 * BUBBLES)
    EI = np.stack([e.EIz, e.EIy])[..., None]
    K_b = EI / e.length[:, None] ** 3 * unit.mu / soft
    found = total.reshape(len(e), cases, 2, BUBBLES).transpose(2, 0, 3, 1) / K_b[..., None]
    found[:, e.bar] = 0.0
    return np.asarray(found)


@cache
def _integrated_bubbles() -> Floats:
    """(powers, 2 b): coefficients of the bubbles' first and second integrals over ξ."""
    once = [b.integ() for b in shapes().bubbles]
    found = np.zeros((POWERS, 2 * BUBBLES))
    for k, p in enumerate([*once, *(b.integ() for b in once)]):
        found[: len(p.coef), k] = p.coef
    return found


def _powers_of(xi: Floats) -> Floats:
    """(…, POWERS): 1, ξ, ξ² …"""
    return np.vander(xi.ravel(), POWERS, increasing=True).reshape(*xi.shape, POWERS)


def clamped(system: System, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, cases), the same): deflection of loaded elements between clamped ends (bars: hinged ones) at stations x,
    and its slope dw/dx."""
    e, cases = system.elements, system.fixed.shape[2]
    loads = system.integrals_at(x)
    X, L = x[:, :, None], e.length[:, None, None]
    w, slope = np.zeros((2, *x.shape, cases)), np.zeros((2, *x.shape, cases))
    for p, (axis, ((w1, r1, _, _), sense)) in enumerate(zip("yz", FREEDOMS_OF, strict=True)):
        EI, GA = (e.EIz, e.GAy) if p == 0 else (e.EIy, e.GAz)
        EI, GA = EI[:, None, None], GA[:, None, None]
        V0, M0 = system.fixed[:, w1, None], -system.fixed[:, r1, None] * sense
        q1, _, q3, q4, s2 = loads.transverse[axis]
        curled = system.curled[p][:, None]
        w[p] = (M0 * X**2 / 2 + V0 * X**3 / 6 + q4) / EI - (V0 * X + s2) / GA + curled * X**2 / 2
        slope[p] = (M0 * X + V0 * X**2 / 2 + q3) / EI - (V0 + q1) / GA + curled * X
        turn = np.where(e.bar[:, None, None], -w[p][:, -1:] / L, 0.0)
        w[p] += turn * X
        slope[p] += turn
    return w, slope


class StateSolver:
    """Solves groups of states that have the same parts acting. factors: (s, cases) of all that will be taken in second order,
    as far as their loads grow there. hinged_straight: for `Geometry`."""

    def __init__(self, system: System, factors: Floats, hinged_straight: bool = False):
        self.system, self.all, self.hinged_straight = system, factors, hinged_straight
        s = system.structure
        self.side = sides(system)
        self.sided = np.flatnonzero(self.side)
        self.one_way = np.flatnonzero((s.one_way & (s.fixed | (s.springs != 0))).ravel())
        self.factors: dict[bytes, tuple[csc_array, Factors | None, Ints]] = {}
        self.loose: dict[bytes, bool] = {}
        self.geometry: Geometry | None = None
        self.uneven: Uneven | None = None
        self.bubbles: Floats | None = None
        self.solves = 0
        #: says how far the work is, now and then; it may raise to stop it
        self.tell: Callable[[], None] = lambda: None

    def prepare(self) -> tuple[Geometry, Floats]:
        """What second order needs, made once."""
        if self.geometry is None or self.bubbles is None:
            y = self.system
            curved = bowed(y.elements, y.bows) if y.bows and not self.hinged_straight else None
            self.geometry = geometry(
                y.elements, y.k, y.maps, y.T, y.dofs, y.force.shape[0], curved, self.hinged_straight
            )
            self.bubbles = load_bubbles(y)
            self.uneven = uneven(y, self.geometry, self.all)
        return self.geometry, self.bubbles

    def varying(self, factors: Floats) -> tuple[Ints, Floats] | None:
        """Rows of what bends whose axial force varies, and what that adds to K_g: (3 + b, 3 + b, k, c). What can hang slack is a
        bar, and does not bend."""
        self.prepare()
        return None if self.uneven is None else (self.uneven.rows, self.uneven.of(factors))

    def given(self, factors: Floats, imposed: Floats) -> Floats | None:
        """(3 m + h, c) movements of what bends and hangs that do not depend on the unknowns: settled supports, and ends that
        loads move where they are released. None where there are none."""
        geo, _ = self.prepare()
        system = self.system
        found = None
        if imposed.any():
            found = np.asarray(geo.Z @ system.to_global(imposed))
        plane, e = geo.bend[geo.loose].T
        free = system.free[e[:, None], np.array([f for f, _ in FREEDOMS_OF])[plane]]
        if free.any():
            q = free * geo.scale[plane, e][..., None] @ factors.T
            found = (0.0 if found is None else found) + geo.Z_loose @ q.reshape(-1, len(factors))
        return found

    def stiffness(self, slack: Bools, lifted: Bools) -> tuple[csc_array, Factors | None, Ints]:
        """K, its factors and the freedoms that move, with some elements slack and some supports lifted."""
        key = np.packbits(np.concatenate([slack[self.sided], lifted[self.one_way]])).tobytes()
        if key not in self.factors:
            system = self.system
            K, active = system.K, system.active
            off = np.flatnonzero(slack)
            if len(off):
                K = csc_array(K - (1 - SLACK) * self._of_elements(off))
            loose = np.flatnonzero(lifted)
            if len(loose):
                springs = system.structure.springs.ravel()[loose]
                less = csc_array(coo_array(((1 - SLACK) * springs, (loose, loose)), shape=K.shape))
                K = csc_array(K - (less if system.link is None else system.link.T @ less @ system.link))
                active = np.union1d(active, loose)
            if K is system.K and active is system.active:
                self.factors[key] = (K, system.factors, active)
            else:
                self.factors[key] = (K, sound_factor(csc_array(K[active][:, active])), active)
        return self.factors[key]

    def braced(self, slack: Bools, lifted: Bools) -> tuple[csc_array, Factors | None, Ints, bool]:
        """`stiffness` for what moves beyond the first order: with the restraints at nodes that are no members, and, where slack
        members leave a mechanism (last value), with those that slacken least: they tighten as soon as what they brace moves.
        """
        K, lu, active = self.stiffness(slack, lifted)
        if self.holding is None and not slack.any():
            return K, lu, active, False
        key = b"braced" + np.packbits(np.concatenate([slack[self.sided], lifted[self.one_way]])).tobytes()
        if key not in self.factors:
            loose = False
            off = np.flatnonzero(slack)
            whole = K
            if len(off) and lu is not None:
                loose = sound_factor(csc_array((K - SLACK * self._of_elements(off))[active][:, active])) is None
            if loose:
                whole = csc_array(K + (1 - SLACK) * self._of_elements(self._tightened(off, K, active)))
            if self.holding is not None:
                whole = csc_array(whole + self.holding)
            if whole is K:
                self.factors[key] = (K, lu, active)
            else:
                self.factors[key] = (whole, sound_factor(csc_array(whole[active][:, active])), active)
            self.loose[key] = loose
        return *self.factors[key], self.loose[key]

    @lazily
    def holding(self) -> csc_array | None:
        """(6 n, 6 n) restraints at nodes that are no members, on the freedoms."""
        system = self.system
        found = restraints.stiffness(system.structure, system.elements)
        return found if found is None or system.R is None else csc_array(system.R.T @ found @ system.R)

    def _of_elements(self, which: Ints) -> csc_array:
        """(6 n, 6 n) stiffness of some elements on the freedoms."""
        system = self.system
        part = np.swapaxes(system.T[which], 1, 2) @ system.k_c[which] @ system.T[which]
        dofs = system.dofs[which]
        at = (np.repeat(dofs, 12, axis=1).ravel(), np.tile(dofs, (1, 12)).ravel())
        block = csc_array(coo_array((part.ravel(), at), shape=system.K.shape))
        return block if system.R is None else csc_array(system.R.T @ block @ system.R)

    def _tightened(self, off: Ints, K: csc_array, active: Ints) -> Ints:
        """Of slack elements those without which there is a mechanism, one of each pair that hold each other's movement."""
        kept: list[int] = []
        for e in off.tolist():
            others = np.array([*kept, *[other for other in off.tolist() if other > e]], dtype=np.int64)
            rest = csc_array(K - SLACK * self._of_elements(off) + self._of_elements(others))
            if sound_factor(csc_array(rest[active][:, active])) is None:
                kept.append(e)
        return np.array(kept, dtype=np.int64)

    def force(self, factors: Floats, slack: Bools) -> Floats:
        """(6 n, c) loads; slack elements do not push because they are warm."""
        system = self.system
        found: Floats = system.force @ factors.T
        off = np.flatnonzero(slack)
        if len(off) and system.warm[off].any():
            push = np.zeros((len(off), 12, len(factors)))
            push[:, 0] = system.warm[off] @ factors.T
            push[:, 6] = -push[:, 0]
            extra = np.zeros_like(found)
            back = np.swapaxes(system.T[off], 1, 2) @ push
            np.add.at(extra, system.dofs[off].ravel(), back.reshape(-1, len(factors)))
            found = found + (extra if system.R is None else system.R.T @ extra)
        return found


def solve_states(system: System, factors: Floats, second: Bools, progress: Step = quiet) -> States:
    """Solve combinations of the cases, factors (s, cases), each with the parts that act in it; those of `second` in second
    order. One that finds no state of its one-way parts keeps the last, and one beyond its critical load the first-order
    values: `settled` and `stable` say so. `progress` is told how many found their state."""
    solver = StateSolver(system, factors[second])
    count, n, e = len(factors), system.force.shape[0], len(system.elements)
    nodes = n // 6
    out = States(
        system,
        factors,
        np.zeros((nodes, 6, count)),
        np.zeros((nodes, 6, count)),
        np.zeros((e, 12, count)),
        np.zeros((e, 12, count)),
        np.zeros((e, count)),
        np.zeros((2, e, BUBBLES, count)),
        np.zeros((2, e), dtype=bool),
        np.zeros((len(system.bows), count)),
        np.zeros((e, count), dtype=bool),
        np.zeros((n, count), dtype=bool),
        np.ones(count, dtype=bool),
        np.ones(count, dtype=bool),
        np.zeros(count, dtype=bool),
        np.zeros(count),
        0,
    )
    slack, lifted = out.slack, out.lifted
    seen: list[set[bytes]] = [set() for _ in range(count)]
    careful = np.zeros(count, dtype=bool)
    open_ = np.arange(count)
    if not len(solver.sided) and not len(solver.one_way):
        # everything acts: one round, in groups that bound what it takes of memory
        for start in range(0, count, TOGETHER):
            solver.tell = partial(progress, start, count)
            group = open_[start : start + TOGETHER]
            _solve_group(solver, out, group, second[group])
        progress(count, count)
        open_ = open_[:0]
    for _ in range(MOST_ROUNDS if len(open_) else 0):
        wanted_slack, wanted_lifted = slack.copy(), lifted.copy()
        margin = np.zeros((e + n, count))
        for group in alike(slack, lifted, open_):
            solver.tell = partial(progress, count - len(open_), count)
            _solve_group(solver, out, group, second[group])
            _wish(solver, out, group, wanted_slack, wanted_lifted, margin)
        moved = []
        for i in open_.tolist():
            change = np.concatenate([wanted_slack[:, i] ^ slack[:, i], wanted_lifted[:, i] ^ lifted[:, i]])
            if not change.any():
                continue
            key = np.packbits(np.concatenate([wanted_slack[:, i], wanted_lifted[:, i]])).tobytes()
            if key in seen[i]:
                # it goes round in a circle: from now on change the worst part alone
                careful[i] = True
            if careful[i]:
                worst = int(np.argmax(np.where(change, margin[:, i], -1.0)))
                change = np.arange(e + n) == worst
            slack[:, i] ^= change[:e]
            lifted[:, i] ^= change[e:]
            seen[i].add(np.packbits(np.concatenate([slack[:, i], lifted[:, i]])).tobytes())
            moved.append(i)
        open_ = np.array(moved, dtype=np.int64)
        progress(count - len(open_), count)
        if not len(open_):
            break
    out.settled[open_] = False
    for values in (out.displacement, out.reaction, out.end_force, out.end_displacement, out.axial, out.swell):
        values[..., out.free] = 0.0
    return States(**{**vars(out), "solves": solver.solves})


def alike(slack: Bools, lifted: Bools, which: Ints) -> list[Ints]:
    """States with the same parts acting."""
    if not len(which):
        return []
    both = np.packbits(np.concatenate([slack[:, which], lifted[:, which]]), axis=0).T
    _, number = np.unique(both, axis=0, return_inverse=True)
    number = number.ravel()
    return [which[number == k] for k in range(int(number.max()) + 1)]


@dataclass(frozen=True)
class Amplified:
    """Second order of states. signs: (bows, c) of the bow imperfections; u: (6 n, c); N: (e, c) the axial forces that act;
    bubbles: (m, b, c) of what bends, beyond those of the first order; ends: (12 e, c) geometric forces on the elements' own ends;
    loose: (r, 4, c) movement of released ends; nodal: (6 n, c) geometric forces on the nodes; stable: (c,) which states stand.
    """

    signs: Floats
    u: Floats
    N: Floats
    bubbles: Floats
    ends: Floats
    loose: Floats
    nodal: Floats
    stable: Bools


def _solve_group(solver: StateSolver, out: States, group: Ints, second: Bools) -> None:
    system, factors = out.system, out.factors[group]
    slack, lifted = out.slack[:, group[0]], out.lifted[:, group[0]]
    solver.tell()
    K, lu, active = solver.stiffness(slack, lifted)
    if lu is None:
        out.stable[group], out.free[group] = False, True
        return
    force, imposed = solver.force(factors, slack), system.imposed @ factors.T
    imposed[np.isin(np.arange(len(imposed)), active)] = 0.0
    u = imposed.copy()
    right = (force - K @ imposed if imposed.any() else force)[active]
    u[active] = lu.solve(right)
    solver.solves += 1
    out.free[group] = free = _leans_on_slack(system, slack, lifted, system.to_global(u), right, u[active])
    out.stable[group] = ~free
    found = None
    at = np.flatnonzero(second & ~free)
    if len(at):
        firm, firm_lu, _, _ = solver.braced(slack, lifted)
        assert firm_lu is not None
        first = u[:, at].copy()
        beyond = None
        more = right[:, at]
        if firm is not K:
            # what holds beyond the first order does nothing in it
            beyond = csc_array(firm - K)
            more = more + (beyond @ first)[active]
        found = _amplified(solver, factors[at], firm, firm_lu, active, more, u[:, at], imposed[:, at], slack)
        u[:, at] = found.u
        if beyond is not None:
            found.nodal[:] += beyond @ (found.u - first)
        out.stable[group[at]] = found.stable
    _record(solver, out, group, K, active, force, u, at, found)


def _leans_on_slack(system: System, slack: Bools, lifted: Bools, moved: Floats, right: Floats, u: Floats) -> Bools:
    """(c,) whether what is left to members and supports that do not act bears a share of the work that is not small: then
    the rest is a mechanism. moved: (6 n, c) in global axes; right, u: forces and displacements that move."""
    off, loose = np.flatnonzero(slack), np.flatnonzero(lifted)
    work = np.zeros(u.shape[1])
    if len(off):
        k = (system.elements.EA / system.elements.length)[off, None]
        work += SLACK * (k * (system.stretch[off] @ moved) ** 2).sum(axis=0)
    if len(loose):
        work += SLACK * (system.structure.springs.ravel()[loose, None] * system.to_own(moved)[loose] ** 2).sum(axis=0)
    return np.asarray(work > LEANING * np.abs(np.einsum("kc,kc->c", right, u)))


def _amplified(
    solver: StateSolver,
    factors: Floats,
    K: csc_array,
    lu: Factors,
    active: Ints,
    right: Floats,
    u: Floats,
    imposed: Floats,
    slack: Bools,
) -> Amplified:
    """Second order of states whose first order is u, under the forces `right` on the freedoms that move."""
    system = solver.system
    whole, bubbles = solver.prepare()
    geo, count, n = whole.on(active, system.R, False), len(factors), len(active)
    Kff = system.Kff if K is system.K and active is system.active else csr_array(K[active][:, active])
    a0 = geo.pick(bubbles) @ factors.T
    given = solver.given(factors, imposed)
    operator = Condensed(geo, Kff, lu.solve, solver.varying(factors))
    operator.load(system.axial(system.to_global(u), factors) * ~slack[:, None])
    x = np.zeros((n + 4 * len(geo.loose), count))
    x[:n] = first = u[active]
    signs = np.zeros((len(system.bows), count))
    if system.bows:
        bent = vstack([leans(system.elements, system.bows, geo.bend), csr_array((len(geo.hang), len(system.bows)))])
        signs = _senses(system, operator, bent, operator.Z @ x + (0.0 if given is None else given), a0)
        given = bent @ signs + (0.0 if given is None else given)
    # work of the first-order state
    scale = np.einsum("kc,kc->c", first, right) + (geo.K_b[..., None] * a0**2).sum(axis=(0, 1))
    scale = np.maximum(np.abs(scale), 1e-30)
    for update in range(MOST_UPDATES):
        solver.tell()
        N = operator.N
        loaded = operator.loaded(a0)
        push = -(operator.Z_T @ (loaded if given is None else loaded + operator.ends(given)))
        push[:n] += right
        # the axial forces of the first round are not the last ones yet
        x, stable, steps = amplify(operator, push, scale, x, CLOSE if update else 1e-4)
        stable &= ~operator.buckled
        solver.solves += steps
        moved = imposed.copy()
        moved[active] = x[:n]
        new = system.axial(system.to_global(moved), factors) * ~slack[:, None]
        close = np.abs(new - N)[:, stable].max(initial=0.0) <= 1e-6 * np.abs(N).max(initial=1.0)
        if update and (close or update == MOST_UPDATES - 1):
            break
        # what does not stand would never come to rest
        operator.load(new, ~stable)
    if not stable.all():
        # first-order values, without axial forces, where it does not stand
        x[:n, ~stable], x[n:, ~stable] = first[:, ~stable], 0.0
        loaded = operator.load(N, ~stable).loaded(a0)
    moved = imposed.copy()
    moved[active] = x[:n]
    y = operator.Z @ x
    if given is not None:
        y = y + given
    forces = operator.ends(y) + loaded
    swell = operator.bubbles(geo.split(y)[0], a0) - a0
    everywhere = whole.Z if system.R is None else whole.Z @ system.R
    return Amplified(
        signs,
        moved,
        operator.N,
        swell,
        np.asarray(geo.local.T @ forces),
        x[n:].reshape(-1, 4, count),
        np.asarray(everywhere.T @ forces),
        stable,
    )


def _senses(system: System, operator: Condensed, bent: csr_array, y: Floats, a0: Floats) -> Floats:
    """(bows, c) the sense of each bow: as stated, or that in which it adds to how the first order (movements y, bubbles a0)
    bends the member; 0 in members under tension."""
    push = -(bent.T @ (operator.ends(y) + operator.loaded(a0)))
    sense = np.array([bow.sense for bow in system.bows])[:, None]
    owner = system.elements.member
    pressed = np.array([operator.N[owner == bow.member].mean(axis=0) < 0 for bow in system.bows])
    return np.where(pressed, np.where(sense == 0, np.where(push < 0, -1.0, 1.0), sense), 0.0)


def _record(
    solver: StateSolver,
    out: States,
    group: Ints,
    K: csc_array,
    active: Ints,
    force: Floats,
    u: Floats,
    at: Ints,
    found: Amplified | None,
) -> None:
    """Write what was found for a group of states; `found` for those `at` its places taken in second order."""
    system, factors = out.system, out.factors[group]
    structure = system.structure
    count = len(group)
    # plain slices copy faster than lists of columns
    into: Any = slice(None) if count == len(out) else group
    off = K @ u - force
    if found:
        off[:, at] += found.nodal
    scale = np.abs(force).max(axis=0, initial=0.0)
    out.residual[group] = np.abs(off[active]).max(axis=0, initial=0.0) / np.where(scale > 0, scale, 1.0)
    reaction = off
    held = (structure.fixed | (structure.springs != 0)).ravel()
    reaction[~held] = 0.0
    reaction[active] = 0.0
    lifted = out.lifted[:, group[0]]
    reaction = pushed_back(system, u, reaction, np.where(lifted, SLACK, 1.0))
    shown = system.to_global(u)
    local = system.T @ shown[system.dofs].reshape(len(system.elements), 12, count)
    own = system.own_ends(local, system.free @ factors.T)
    if found:
        geo, _ = solver.prepare()
        plane, e = geo.bend.T
        freedoms = np.array([f for f, _ in FREEDOMS_OF])
        grow = geo.scale[plane, e]
        rows, f = e[geo.loose], freedoms[plane[geo.loose]]
        for k in range(4):
            own[rows[:, None], f[:, [k]], at] += found.loose[:, k] / grow[geo.loose, k, None]
    end_force = system.k @ own + system.fixed @ factors.T
    if found:
        end_force[..., at] += found.ends.reshape(len(system.elements), 12, len(at))
        out.axial[:, group[at]], out.signs[:, group[at]] = found.N, found.signs
        if solver.uneven is not None:
            out.varies[:] = solver.uneven.places(geo, len(system.elements))
        swell = np.zeros((2, len(system.elements), BUBBLES, len(at)))
        swell[plane, e] = found.bubbles
        out.swell[..., group[at]] = swell
    for j in np.flatnonzero(out.slack[:, group[0]]).tolist():
        # its weight still hangs on its ends
        half = (system.fixed[j, 0] + system.fixed[j, 6]) @ factors.T / 2
        end_force[j, 0] = end_force[j, 6] = half
    # released ends bear what their springs give
    for freedom in range(12):
        loose = np.flatnonzero(system.elements.released[:, freedom] & ~system.elements.bar)
        if len(loose):
            gap = local[loose, freedom] - own[loose, freedom]
            end_force[loose, freedom] = system.elements.spring[loose, freedom, None] * gap
    shape = (len(structure.nodes), 6, count)
    out.displacement[:, :, into] = shown.reshape(shape)
    out.reaction[:, :, into] = reaction.reshape(shape)
    out.end_force[:, :, into], out.end_displacement[:, :, into] = end_force, own


def _wish(
    solver: StateSolver, out: States, group: Ints, wanted_slack: Bools, wanted_lifted: Bools, margin: Floats
) -> None:
    """Which parts should act, by the forces and gaps found; margin: by how much, for the worst first."""
    system, factors = out.system, out.factors[group]
    e = len(system.elements)
    if len(solver.sided):
        own = solver.sided
        moved = out.displacement[:, :, group].reshape(-1, len(group))
        N = system.axial(moved, factors)[own] * solver.side[own, None]
        least = SMALL * max(float(np.abs(N).max(initial=0.0)), 1.0)
        wanted = np.where(np.abs(N) <= least, out.slack[np.ix_(own, group)], N < 0)
        wanted_slack[np.ix_(own, group)] = wanted
        margin[np.ix_(own, group)] = np.abs(N)
    if len(solver.one_way):
        own = solver.one_way
        u, R = (system.to_own(v[:, :, group].reshape(-1, len(group)))[own] for v in (out.displacement, out.reaction))
        gap = u - (system.imposed @ factors.T)[own]
        up = out.lifted[np.ix_(own, group)]
        least = SMALL * max(float(np.abs(R).max(initial=0.0)), 1.0)
        wanted_lifted[np.ix_(own, group)] = np.where(up, gap > -1e-12, -least > R)
        margin[np.ix_(e + own, group)] = np.where(up, np.abs(gap) * 1e6, np.abs(R))
