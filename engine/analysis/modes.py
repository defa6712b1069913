"""Buckling modes of a combination, and natural frequencies with masses from chosen cases."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import pi, sqrt

import numpy as np
from scipy.sparse import csc_array, csr_array, diags_array

from engine.analysis.combined import Combined
from engine.analysis.second_order import (
    BUBBLES,
    FAR_FROM_CRITICAL,
    FREEDOMS_OF,
    Geometry,
    Operator,
    Unknowns,
    modes,
    shapes,
)
from engine.analysis.solve import System, softest_mode
from engine.analysis.states import StateSolver, load_bubbles, solve_states
from engine.catalogue.steels import GRAVITY
from engine.structure.model import Floats, Ints

#: Gauss points of a line load's mass
GAUSS = BUBBLES + 4
#: share of a mode's bending from which a member counts as buckling by itself
LONE = 0.9


@dataclass(frozen=True)
class Mode:
    """A shape, its largest movement 1: (nodes, 6) and (e, s, 3) along the elements, in global axes. value: critical factor,
    frequency in Hz, or 0 for a mechanism. by_itself: a member that buckles nearly alone, −1: parts of the frame together."""

    value: float
    nodes: Floats
    along: Floats
    by_itself: int = -1


def buckling_modes(combined: Combined, number: int, count: int = 4) -> list[Mode]:
    """The lowest critical factors of a combination with their modes, from its first-order axial forces and with the members
    acting that do so in it. Empty where nothing buckles."""
    system, row = combined.response.system, combined.rows[[number]]
    solver = StateSolver(system, row * FAR_FROM_CRITICAL)
    plain = solve_states(system, row, np.zeros(1, dtype=bool))
    geo, _ = solver.prepare()
    K, lu, active = solver.stiffness(plain.slack[:, 0], plain.lifted[:, 0])
    if lu is None:
        return []
    geo = geo.on(active, system.R)
    u = plain.displacement[:, :, 0].reshape(-1, 1)
    N = system.axial(u, row) * ~plain.slack[:, [0]]
    uneven = solver.varying(row)
    operator = Operator(geo, csr_array(K[active][:, active]), lu.solve, N, uneven)
    first = operator.still()
    first.u[:], first.a[:] = system.to_own(u)[active], geo.pick(load_bubbles(system)) @ row.T

    def image(x: Unknowns) -> Unknowns:
        found = operator.geometric(x)
        return Unknowns(-found.u, -found.e, -found.a)

    values, vectors = modes(operator, image, first, count)
    return [
        replace(_shown(system, geo, active, float(v), x), by_itself=_lone(system, operator, x))
        for v, x in zip(values, vectors, strict=True)
    ]


def _lone(system: System, operator: Operator, x: Unknowns) -> int:
    """The member that stores nearly all the bending of a mode beyond a straight line between its nodes; −1 where none does."""
    geo, unit = operator.geometry, shapes()
    t, _ = geo.split(geo.Z @ x.u + geo.Z_loose @ x.e.reshape(-1, 1))
    # bending of the ends from the chord, and of the bubbles, as ∫w''² on the unit element
    turned = t[:, 1:, 0] - t[:, :1, 0]
    bent = 4 * (turned[:, 0] ** 2 + turned[:, 0] * turned[:, 1] + turned[:, 1] ** 2) + x.a[..., 0] ** 2 @ unit.mu
    plane, e = geo.bend.T
    EI = np.where(plane == 0, system.elements.EIz[e], system.elements.EIy[e])
    work = np.bincount(system.elements.member[e], EI / geo.length[e] ** 3 * bent, len(system.structure.members))
    most = int(np.argmax(work))
    return most if work[most] > LONE * work.sum() else -1


@dataclass(frozen=True)
class Masses:
    """Masses in kg. element, share, mass: (p,) those on elements, each at a share of the element's length; nodes: (nodes,)."""

    element: Ints
    share: Floats
    mass: Floats
    nodes: Floats

    @property
    def total(self) -> float:
        """Their sum."""
        return float(self.mass.sum() + self.nodes.sum())

    def gathered(self, values: Floats, count: int) -> Floats:
        """(count, k, k) Σ m v vᵀ over each of `count` elements, of values v (p, k) at the masses."""
        size = values.shape[1]
        products = (self.mass[:, None, None] * values[:, :, None] * values[:, None]).reshape(-1, size**2)
        into = csr_array((np.ones(len(products)), (self.element, np.arange(len(products)))), (count, len(products)))
        return np.asarray(into @ products).reshape(count, size, size)


def masses(system: System, factors: Floats) -> Masses:
    """The downward loads of the cases, with their factors (cases,), as masses. A line load counts at Gauss points, with which
    the products of all shapes are integrated exactly; what lifts an element takes off the rest of what is on it."""
    loads, e = system.loads, system.elements
    nodes = np.zeros(len(system.structure.nodes))
    if not len(factors):
        return Masses(np.zeros(0, dtype=np.int64), np.zeros(0), np.zeros(0), nodes)

    def down(cells: Ints, values: Floats) -> Floats:
        """Of loads (n, …, 3) in local axes, those on (n, 2) elements and cases, what acts downwards."""
        found = np.einsum("nj,n...j->n...", e.axes[cells[:, 0], :, 2], values)
        return np.asarray(-(found.T * factors[cells[:, 1]]).T)

    at, share = np.polynomial.legendre.leggauss(GAUSS)
    a, b = loads.span[:, :1], loads.span[:, 1:]
    ends = down(loads.line, loads.q)
    q = ends[:, :1] + (ends[:, 1:] - ends[:, :1]) * (at + 1) / 2
    element = np.concatenate([np.repeat(loads.line[:, 0], GAUSS), loads.point[:, 0]])
    x = np.concatenate([(a + (b - a) * (at + 1) / 2).ravel(), loads.at])
    weight = np.concatenate([(q * share * (b - a) / 2).ravel(), down(loads.point, loads.force)])
    pressing = np.maximum(weight, 0.0)
    net, whole = (np.bincount(element, w, len(e)) for w in (weight, pressing))
    kept = np.maximum(net, 0.0) / np.where(whole > 0, whole, 1.0)
    # what is left of the nodes' loads once the elements have theirs
    at_nodes = -(system.force.reshape(-1, 6, len(factors))[:, 2] @ factors)
    shared = np.swapaxes(system.T, 1, 2) @ system.fixed_c
    np.subtract.at(at_nodes, e.ends.ravel(), (shared[:, [2, 8]] @ factors).ravel())
    nodes = np.maximum(at_nodes, 0.0) / GRAVITY
    return Masses(element, x / e.length[element], pressing * kept[element] / GRAVITY, nodes)


def natural_modes(system: System, factors: Floats, count: int = 6) -> list[Mode]:
    """Natural frequencies in Hz and their modes, masses from the downward loads of cases with factors (cases,). All
    members and supports act both ways. Empty without mass."""
    solver = StateSolver(system, np.zeros((0, len(factors))))
    geo, _ = solver.prepare()
    n = system.force.shape[0]
    K, lu, active = solver.stiffness(np.zeros(len(system.elements), dtype=bool), np.zeros(n, dtype=bool))
    mass = masses(system, factors)
    if lu is None or mass.total <= 0:
        return []
    geo, count_e = geo.on(active, system.R), len(system.elements)
    unit, xi = shapes(), mass.share
    every = mass.gathered(np.stack([shape(xi) for shape in (*unit.hermite, *unit.bubbles)], axis=1), count_e)
    straight = np.zeros((count_e, 4, 4))
    straight[:, ::2, ::2] = mass.gathered(np.stack([1 - xi, xi], axis=1), count_e)
    bends = np.zeros((2, count_e, 1, 1), dtype=bool)
    bends[geo.bend[:, 0], geo.bend[:, 1]] = True
    # what hangs, and what purlins that are no members hold, moves as a straight line between its nodes
    blocks = np.where(bends, every[:, :4, :4], straight)
    cross, swell = every[geo.bend[:, 1], :4, 4:], every[geo.bend[:, 1], 4:, 4:]
    along = _axial_mass(system, straight[:, ::2, ::2])
    point = diags_array(np.repeat(mass.nodes, 6) * np.tile([1.0, 1, 1, 0, 0, 0], len(mass.nodes)))
    lumped = csc_array(along + point)
    if system.R is not None:
        lumped = csc_array(system.R.T @ lumped @ system.R)
    M_u = csr_array(lumped[active][:, active])
    free = (geo.K_r != 0).any(axis=2)[..., None]
    operator = Operator(geo, csr_array(K[active][:, active]), lu.solve, np.zeros((count_e, 1)))

    def image(x: Unknowns) -> Unknowns:
        q = (geo.ends @ x.u).reshape(2, count_e, 4, 1)
        own = geo.pick(q)
        own[geo.loose] += x.e
        q[geo.bend[:, 0], geo.bend[:, 1]] = own
        force = blocks @ q + geo.spread(cross @ x.a, count_e)
        inside = np.swapaxes(cross, 1, 2) @ own + swell @ x.a
        u = np.asarray(M_u @ x.u) + geo.ends.T @ force.reshape(-1, 1)
        return Unknowns(u, geo.pick(force)[geo.loose] * free, inside)

    still = operator.still()
    values, vectors = modes(operator, image, still, count)
    return [_shown(system, geo, active, sqrt(float(v)) / (2 * pi), x) for v, x in zip(values, vectors, strict=True)]


def _axial_mass(system: System, block: Floats) -> csc_array:
    """Mass of the elements along their own axes, (e, 2, 2) from end to end, assembled over the nodes."""
    own = system.T[:, [0, 6]]
    part = np.swapaxes(own, 1, 2) @ block @ own
    rows = np.repeat(system.dofs, 12, axis=1).ravel()
    columns = np.tile(system.dofs, (1, 12)).ravel()
    size = system.force.shape[0]
    return csc_array(csr_array((part.ravel(), (rows, columns)), shape=(size, size)))


def mechanism(system: System) -> Mode:
    """How a structure that does not stand moves: the mode in which it resists least."""
    return _softest(system, system.Kff, system.active)


def left_free(combined: Combined, number: int) -> Mode | None:
    """How a combination moves whose slack members and lifted supports leave a mechanism; None for one that stands."""
    if not combined.free(number) or combined.states is None:
        return None
    states, place = combined.states, int(combined.place[number])
    K, _, active = StateSolver(states.system, states.factors).stiffness(states.slack[:, place], states.lifted[:, place])
    return _softest(states.system, csc_array(K[active][:, active]), active)


def _softest(system: System, K: csc_array, active: Ints) -> Mode:
    mode = softest_mode(K)
    u = np.zeros((system.force.shape[0], 1))
    u[active, 0] = mode
    shown = system.to_global(u)[:, 0]
    ends = shown[system.dofs][:, [0, 1, 2, 6, 7, 8]].reshape(-1, 2, 3)
    share = (system.stations / system.elements.length[:, None])[:, :, None]
    along = ends[:, None, 0] * (1 - share) + ends[:, None, 1] * share
    size = max(float(np.abs(along).max(initial=0.0)), 1e-12)
    return Mode(0.0, shown.reshape(-1, 6) / size, along / size)


def _shown(system: System, geo: Geometry, active: Ints, value: float, x: Unknowns) -> Mode:
    """A mode along the elements, its largest movement 1."""
    e, unit = system.elements, shapes()
    u = np.zeros((system.force.shape[0], 1))
    u[active] = x.u
    shown = system.to_global(u)[:, 0]
    local = (system.maps @ (system.T @ shown[system.dofs][:, :, None]))[:, :, 0]
    xi = system.stations / e.length[:, None]
    out = np.zeros((*xi.shape, 3))
    out[:, :, 0] = local[:, [0]] * (1 - xi) + local[:, [6]] * xi
    loose = np.zeros((len(geo.bend), 4))
    loose[geo.loose] = x.e[..., 0]
    ends, bubbles = geo.spread(loose, len(e)), geo.spread(x.a[..., 0], len(e))
    bends = np.zeros((2, len(e)), dtype=bool)
    bends[geo.bend[:, 0], geo.bend[:, 1]] = True
    for p, (freedoms, _) in enumerate(FREEDOMS_OF):
        q = local[:, list(freedoms)] * geo.scale[p] + ends[p]
        line = q[:, [0]] * (1 - xi) + q[:, [2]] * xi
        curve = sum((unit.hermite[k](xi) * q[:, [k]] for k in range(4)), np.zeros_like(line))
        curve = curve + sum((b(xi) * bubbles[p, :, [k]].T for k, b in enumerate(unit.bubbles)), np.zeros_like(line))
        out[:, :, 1 + p] = np.where(bends[p][:, None], curve, line)
    along = np.einsum("eij,esi->esj", e.axes, out)
    size = max(float(np.abs(along).max(initial=0.0)), 1e-12)
    return Mode(value, shown.reshape(-1, 6) / size, along / size)
