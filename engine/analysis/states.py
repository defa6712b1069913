"""States of their own: combinations in which members or supports act one way only, or which are taken in second order."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from scipy.sparse import coo_array, csc_array, csr_array

from engine.analysis.second_order import (
    BUBBLES,
    CLOSE,
    FREEDOMS_OF,
    Geometry,
    Operator,
    amplify,
    critical_factors,
    geometry,
    shapes,
)
from engine.analysis.solve import System, sound_factor
from engine.analysis.transfer import integrate
from engine.progress import Step, quiet
from engine.structure.model import Bools, Floats, Ints

#: share of its stiffness that a member keeps while it does not act, so that the rest can be solved
SLACK = 1e-6
#: forces below this share of the largest do not change a state
SMALL = 1e-9
MOST_ROUNDS = 40
MOST_UPDATES = 6
#: points of Gauss' rule for the loads' bubbles
POINTS = 8
#: states whose critical factors are sought at a time
BLOCK = 160


@dataclass(frozen=True)
class States:
    """Solved states; arrays as in a Response, over states in place of cases.

    factors: (s, cases). axial: (e, s) the axial forces that second order acts with, zero in first order; swell: (2, e, b, s)
    bubbles beyond those of the first order. slack: (e, s) elements that do not act; lifted: (6 n, s) supports that lift.
    settled: whether the state of one-way parts was found; stable: whether it stands, or lies beyond its critical load.
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
    slack: Bools
    lifted: Bools
    settled: Bools
    stable: Bools
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
    """(2, e, b, cases): what loads between clamped ends make of the bubbles, −∫ w ψ'' dξ, by Gauss' rule."""
    e = system.elements
    at, weights = np.polynomial.legendre.leggauss(POINTS)
    xi = (at + 1) / 2
    w, _ = clamped(system, e.length[:, None] * xi)
    rows = np.array([weights / 2 * b.deriv(2)(xi) for b in shapes().bubbles])
    found = -np.einsum("bs,pesc->pebc", rows, w, optimize=True)
    found[:, e.bar] = 0.0
    return np.asarray(found)


def clamped(system: System, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, cases), the same): deflection of loaded elements between clamped ends (bars: hinged ones) at stations x,
    and its slope dw/dx."""
    e, cases = system.elements, system.fixed.shape[2]
    loads = integrate(system.loads, x, cases)
    X, L = x[:, :, None], e.length[:, None, None]
    w, slope = np.zeros((2, *x.shape, cases)), np.zeros((2, *x.shape, cases))
    for p, (axis, ((w1, r1, _, _), sense)) in enumerate(zip("yz", FREEDOMS_OF, strict=True)):
        EI, GA = (e.EIz, e.GAy) if p == 0 else (e.EIy, e.GAz)
        EI, GA = EI[:, None, None], GA[:, None, None]
        V0, M0 = system.fixed[:, w1, None], -system.fixed[:, r1, None] * sense
        q1, _, q3, q4, s2 = loads.transverse[axis]
        w[p] = (M0 * X**2 / 2 + V0 * X**3 / 6 + q4) / EI - (V0 * X + s2) / GA
        slope[p] = (M0 * X + V0 * X**2 / 2 + q3) / EI - (V0 + q1) / GA
        turn = np.where(e.bar[:, None, None], -w[p][:, -1:] / L, 0.0)
        w[p] += turn * X
        slope[p] += turn
    return w, slope


class StateSolver:
    """Solves groups of states that have the same parts acting."""

    def __init__(self, system: System):
        self.system = system
        s = system.structure
        self.side = sides(system)
        self.sided = np.flatnonzero(self.side)
        self.one_way = np.flatnonzero((s.one_way & (s.fixed | (s.springs != 0))).ravel())
        self.factors: dict[bytes, tuple[csc_array, Any, Ints]] = {}
        self.geometry: Geometry | None = None
        self.bubbles: Floats | None = None
        self.solves = 0

    def prepare(self) -> tuple[Geometry, Floats]:
        """What second order needs, made once."""
        if self.geometry is None or self.bubbles is None:
            y = self.system
            self.geometry = geometry(y.elements, y.k, y.maps, y.T, y.dofs)
            self.bubbles = load_bubbles(y)
        return self.geometry, self.bubbles

    def stiffness(self, slack: Bools, lifted: Bools) -> tuple[csc_array, Any, Ints]:
        """K, its factors and the freedoms that move, with some elements slack and some supports lifted."""
        key = np.packbits(np.concatenate([slack[self.sided], lifted[self.one_way]])).tobytes()
        if key not in self.factors:
            system = self.system
            K, active = system.K, system.active
            off = np.flatnonzero(slack)
            if len(off):
                part = np.swapaxes(system.T[off], 1, 2) @ system.k_c[off] @ system.T[off]
                dofs = system.dofs[off]
                at = (np.repeat(dofs, 12, axis=1).ravel(), np.tile(dofs, (1, 12)).ravel())
                block = csc_array(coo_array((part.ravel(), at), shape=K.shape))
                if system.R is not None:
                    block = csc_array(system.R.T @ block @ system.R)
                K = csc_array(K - (1 - SLACK) * block)
            loose = np.flatnonzero(lifted)
            if len(loose):
                springs = system.structure.springs.ravel()[loose]
                less = coo_array(((1 - SLACK) * springs, (loose, loose)), shape=K.shape)
                K = csc_array(K - csc_array(less))
                active = np.union1d(active, loose)
            Kff = csc_array(K[active][:, active])
            self.factors[key] = (K, sound_factor(Kff), active)
        return self.factors[key]

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


def _axial(system: System, local: Floats, factors: Floats) -> Floats:
    """(e, c) mean axial force from end displacements, as if every element acted."""
    e = system.elements
    fixed = (system.fixed[:, 6] - system.fixed[:, 0]) / 2 @ factors.T
    found: Floats = (e.EA / e.length)[:, None] * (local[:, 6] - local[:, 0]) + fixed
    return found


def solve_states(system: System, factors: Floats, second: Bools, progress: Step = quiet) -> States:
    """Solve combinations of the cases, factors (s, cases), each with the parts that act in it; those of `second` in second
    order. One that finds no state of its one-way parts keeps the last, and one beyond its critical load the first-order
    values: `settled` and `stable` say so. `progress` is told how many found their state."""
    solver = StateSolver(system)
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
        np.zeros((e, count), dtype=bool),
        np.zeros((n, count), dtype=bool),
        np.ones(count, dtype=bool),
        np.ones(count, dtype=bool),
        np.zeros(count),
        0,
    )
    slack, lifted = out.slack, out.lifted
    seen: list[set[bytes]] = [set() for _ in range(count)]
    careful = np.zeros(count, dtype=bool)
    open_ = np.arange(count)
    for _ in range(MOST_ROUNDS):
        wanted_slack, wanted_lifted = slack.copy(), lifted.copy()
        margin = np.zeros((e + n, count))
        for group in _alike(slack, lifted, open_):
            progress(count - len(open_), count)
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
    return States(**{**vars(out), "solves": solver.solves})


def _alike(slack: Bools, lifted: Bools, which: Ints) -> list[Ints]:
    """States with the same parts acting."""
    if not len(which):
        return []
    both = np.packbits(np.concatenate([slack[:, which], lifted[:, which]]), axis=0).T
    _, number = np.unique(both, axis=0, return_inverse=True)
    number = number.ravel()
    return [which[number == k] for k in range(int(number.max()) + 1)]


def _solve_group(solver: StateSolver, out: States, group: Ints, second: Bools) -> None:
    system, factors = out.system, out.factors[group]
    slack, lifted = out.slack[:, group[0]], out.lifted[:, group[0]]
    K, lu, active = solver.stiffness(slack, lifted)
    if lu is None:
        out.stable[group] = False
        return
    out.stable[group] = True
    force, imposed = solver.force(factors, slack), system.imposed @ factors.T
    imposed[np.isin(np.arange(len(imposed)), active)] = 0.0
    u = imposed.copy()
    right = (force - K @ imposed)[active]
    u[active] = lu.solve(right)
    solver.solves += 1
    axial = np.zeros((len(system.elements), len(group)))
    swell = np.zeros((2, len(system.elements), BUBBLES, len(group)))
    free_ends = np.zeros((2, len(system.elements), 4, len(group)))
    extra = np.zeros((2, len(system.elements), 4, len(group)))
    nodal = np.zeros_like(u)
    if second.any():
        at = np.flatnonzero(second)
        found = _amplified(solver, factors[at], K, lu, active, u[:, at], imposed[:, at], slack)
        u[:, at], axial[:, at], swell[..., at], free_ends[..., at], extra[..., at], nodal[:, at], stable = found
        out.stable[group[at]] = stable
    _record(out, group, K, active, force, u, axial, swell, free_ends, extra, nodal, slack)


def _amplified(
    solver: StateSolver,
    factors: Floats,
    K: csc_array,
    lu: Any,
    active: Ints,
    u: Floats,
    imposed: Floats,
    slack: Bools,
) -> tuple[Floats, Floats, Floats, Floats, Floats, Floats, Bools]:
    """Second order of states whose first order is u: u, N, bubbles beyond the first order, movement of released ends,
    geometric forces on element ends (in scaled freedoms) and on nodes, and which states stand."""
    system = solver.system
    whole, bubbles = solver.prepare()
    geo, held = whole.on(active, system.R), whole.on(np.arange(len(imposed)), system.R)
    count, elements = len(factors), len(system.elements)
    a0 = geo.pick(bubbles) @ factors.T
    free = np.stack([system.free[:, list(f)] for f, _ in FREEDOMS_OF]) @ factors.T * geo.scale[..., None]
    stretched = (held.ends @ imposed).reshape(free.shape) + free
    given = (
        geo.pick(stretched),
        stretched[geo.hang[:, 0], geo.hang[:, 1], 0] - stretched[geo.hang[:, 0], geo.hang[:, 1], 2],
    )
    Kff = csr_array(K[active][:, active])
    N = axial_forces(system, u, factors, slack)
    operator = Operator(geo, Kff, lu.solve, N)
    first = operator.still()
    first.u[:], first.a[:] = u[active], a0
    x, stable = first, np.ones(count, dtype=bool)
    for update in range(MOST_UPDATES):
        operator = Operator(geo, Kff, lu.solve, N)
        # the axial forces of the first round are not the last ones yet
        x, stable, steps = amplify(operator, first, given, x, CLOSE if update else 1e-4)
        solver.solves += steps
        moved = imposed.copy()
        moved[active] = x.u
        new = axial_forces(system, moved, factors, slack)
        # what does not stand would never come to rest
        new[:, ~stable] = N[:, ~stable]
        close = np.abs(new - N).max(initial=0.0) <= 1e-6 * np.abs(N).max(initial=1.0)
        N = new
        if close and update:
            break
    x.u[:, ~stable], x.e[..., ~stable], x.a[..., ~stable] = first.u[:, ~stable], 0.0, a0[..., ~stable]
    N = np.where(stable, operator.N, 0.0)
    moved = imposed.copy()
    moved[active] = x.u
    q = (geo.ends_bend @ x.u).reshape(-1, 4, count) + given[0]
    q[geo.loose] += x.e
    lean = np.asarray(geo.ends_hang @ x.u) + given[1]
    force, across, _ = replace(operator, N=N).forces(q, lean, x.a)
    ends = geo.spread(force, elements)
    ends[geo.hang[:, 0], geo.hang[:, 1], 0] += across
    ends[geo.hang[:, 0], geo.hang[:, 1], 2] -= across
    loose = np.zeros((len(geo.bend), 4, count))
    loose[geo.loose] = x.e
    nodal = held.ends.T @ ends.reshape(-1, count)
    return (
        moved,
        N,
        geo.spread(x.a - a0, elements),
        geo.spread(loose, elements),
        ends,
        np.asarray(nodal),
        stable,
    )


def axial_forces(system: System, u: Floats, factors: Floats, slack: Bools) -> Floats:
    """(e, c) mean axial forces; none in slack elements."""
    local = system.T @ system.to_global(u)[system.dofs].reshape(len(system.elements), 12, -1)
    found = _axial(system, system.maps @ local + system.free @ factors.T, factors)
    found[slack] = 0.0
    return found


def _record(
    out: States,
    group: Ints,
    K: csc_array,
    active: Ints,
    force: Floats,
    u: Floats,
    axial: Floats,
    swell: Floats,
    ends: Floats,
    extra: Floats,
    nodal: Floats,
    slack: Bools,
) -> None:
    system, factors = out.system, out.factors[group]
    structure = system.structure
    count = len(group)
    off = K @ u + nodal - force
    scale = np.abs(force).max(axis=0, initial=0.0)
    out.residual[group] = np.abs(off[active]).max(axis=0, initial=0.0) / np.where(scale > 0, scale, 1.0)
    reaction = off
    held = (structure.fixed | (structure.springs != 0)).ravel()
    reaction[~held] = 0.0
    reaction[active] = 0.0
    lifted = out.lifted[:, group[0]]
    springs = np.where(structure.fixed, 0.0, structure.springs).ravel()
    sprung = np.flatnonzero(springs)
    reaction[sprung] = -(springs * np.where(lifted, SLACK, 1.0))[sprung, None] * u[sprung]
    shown = system.to_global(u)
    local = system.T @ shown[system.dofs].reshape(len(system.elements), 12, count)
    own = system.maps @ local + system.free @ factors.T
    for p, (freedoms, _) in enumerate(FREEDOMS_OF):
        for k, f in enumerate(freedoms):
            own[:, f] += ends[p, :, k] / _scale(system, p, k)
    end_force = system.k @ own + system.fixed @ factors.T
    for p, (freedoms, _) in enumerate(FREEDOMS_OF):
        for k, f in enumerate(freedoms):
            end_force[:, f] += extra[p, :, k] * _scale(system, p, k)
    for e in np.flatnonzero(slack).tolist():
        # its weight still hangs on its ends
        half = (system.fixed[e, 0] + system.fixed[e, 6]) @ factors.T / 2
        end_force[e, 0] = end_force[e, 6] = half
    # released ends bear what their springs give
    for f in range(12):
        loose = np.flatnonzero(system.elements.released[:, f] & ~system.elements.bar)
        if len(loose):
            end_force[loose, f] = system.elements.spring[loose, f, None] * (local[loose, f] - own[loose, f])
    shape = (len(structure.nodes), 6, count)
    out.displacement[:, :, group] = shown.reshape(shape)
    out.reaction[:, :, group] = system.to_global(reaction).reshape(shape)
    out.end_force[:, :, group], out.end_displacement[:, :, group] = end_force, own
    out.axial[:, group], out.swell[..., group] = axial, swell


def _scale(system: System, p: int, k: int) -> Floats:
    """(e, 1) factor from a freedom to its scaled one."""
    sense = FREEDOMS_OF[p][1]
    length = system.elements.length[:, None]
    return sense * length if k in (1, 3) else np.ones_like(length)


def _wish(
    solver: StateSolver, out: States, group: Ints, wanted_slack: Bools, wanted_lifted: Bools, margin: Floats
) -> None:
    """Which parts should act, by the forces and gaps found; margin: by how much, for the worst first."""
    system, factors = out.system, out.factors[group]
    e = len(system.elements)
    if len(solver.sided):
        own = solver.sided
        N = _axial(system, out.end_displacement[:, :, group], factors)[own] * solver.side[own, None]
        least = SMALL * max(float(np.abs(N).max(initial=0.0)), 1.0)
        wanted = np.where(np.abs(N) <= least, out.slack[np.ix_(own, group)], N < 0)
        wanted_slack[np.ix_(own, group)] = wanted
        margin[np.ix_(own, group)] = np.abs(N)
    if len(solver.one_way):
        own = solver.one_way
        n = out.displacement.shape[0] * 6
        back = (lambda v: v) if system.R is None else (lambda v: np.asarray(system.R.T @ v))
        u = back(out.displacement[:, :, group].reshape(n, -1))[own]
        R = back(out.reaction[:, :, group].reshape(n, -1))[own]
        gap = u - (system.imposed @ factors.T)[own]
        up = out.lifted[np.ix_(own, group)]
        least = SMALL * max(float(np.abs(R).max(initial=0.0)), 1.0)
        wanted_lifted[np.ix_(own, group)] = np.where(up, gap > -1e-12, -least > R)
        margin[np.ix_(e + own, group)] = np.where(up, np.abs(gap) * 1e6, np.abs(R))


def critical(system: System, factors: Floats) -> Floats:
    """(s,) critical factors α_cr of combinations, from their first-order axial forces with all members acting that do so
    there; 0 where the elastic structure itself does not stand."""
    solver = StateSolver(system)
    found = np.zeros(len(factors))
    plain = solve_states(system, factors, np.zeros(len(factors), dtype=bool))
    whole, bubbles = solver.prepare()
    for group in _alike(plain.slack, plain.lifted, np.arange(len(factors))):
        slack = plain.slack[:, group[0]]
        K, lu, active = solver.stiffness(slack, plain.lifted[:, group[0]])
        if lu is None:
            continue
        Kff, geo = csr_array(K[active][:, active]), whole.on(active, system.R)
        for start in range(0, len(group), BLOCK):
            own = group[start : start + BLOCK]
            u = plain.displacement[:, :, own].reshape(-1, len(own))
            if system.R is not None:
                u = np.asarray(system.R.T @ u)
            operator = Operator(geo, Kff, lu.solve, axial_forces(system, u, factors[own], slack))
            first = operator.still()
            first.u[:], first.a[:] = u[active], geo.pick(bubbles) @ factors[own].T
            found[own] = critical_factors(operator, first)
    return found
