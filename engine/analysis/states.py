"""States of their own: combinations in which members or supports act one way only, or which are taken in second order."""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np
from scipy.sparse import csc_array, csr_array, vstack

from engine.analysis.bows import leans
from engine.analysis.factors import Factors
from engine.analysis.geometric import BUBBLES, FREEDOMS_OF
from engine.analysis.second_order import CLOSE, Condensed, amplify
from engine.analysis.solve import pushed_back
from engine.analysis.state_solver import SLACK, StateSolver
from engine.analysis.system import System
from engine.progress import Step, quiet
from engine.structure.model import Bools, Floats, Ints

#: share of the work of the loads that parts which do not act may take before the rest counts as a mechanism
LEANING = 0.01
#: forces below this share of the largest do not change a state
SMALL = 1e-9
MOST_ROUNDS = 40
MOST_UPDATES = 6
#: states that are solved at a time where all parts act
TOGETHER = 256


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
    held = (structure.still | (structure.springs != 0)).ravel()
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
