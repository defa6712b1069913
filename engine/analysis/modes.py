"""Buckling modes of a combination, and natural frequencies with masses from chosen cases.

Both are found on a mesh of their own: further nodes within the members, so that higher modes are as close as the first, and
restraints at nodes act.
"""

from __future__ import annotations

from dataclasses import replace
from math import pi, sqrt

import numpy as np
from scipy.sparse import csc_array, csr_array, diags_array

from engine.analysis import restraints
from engine.analysis.combined import Combined
from engine.analysis.geometric import hinged, shapes
from engine.analysis.lowest import FAR
from engine.analysis.masses import masses
from engine.analysis.modes_drawn import Mode, Within, drawn
from engine.analysis.pencil import Pencil, greatest
from engine.analysis.solve import assemble, softest_mode, solve_linear
from engine.analysis.stability import LONE, axial_forces, between_hinges, driving, pencil_of, plain_of
from engine.analysis.state_solver import StateSolver
from engine.analysis.system import System
from engine.analysis.vibration import vibrations
from engine.structure.cut import cut
from engine.structure.model import Floats, Ints

#: beams hinged at both ends that are shown as they buckle
LONE_ONES = 2
#: elements of a member's stretch between two nodes, in frames of up to so many elements
FINENESS = ((400, 4), (2000, 2))


def finer(system: System, hinged_too: bool = True) -> System:
    """The same frame on a finer mesh, with nodes at all restraints; hinged_too: also within beams hinged at both ends."""
    elements, structure = system.elements, system.structure
    pieces = next((n for most, n in FINENESS if len(elements) <= most), 1)
    at: dict[int, list[float]] = {}
    straight = elements.bar if hinged_too else elements.bar | (hinged(elements, 0) & hinged(elements, 1))
    for e in np.flatnonzero(~straight).tolist():
        member = int(elements.member[e])
        if structure.members[member].behaviour == "rigid link":
            continue
        start, reach = float(elements.offset[e]), float(elements.reach[e])
        inside = [x for x in restraints.places(structure, member) if start < x < start + reach]
        shares = [start + reach * k / pieces for k in range(1, pieces)]
        apart = reach / pieces / 2
        places = inside + [x for x in shares if all(abs(x - held) > apart for held in inside)]
        if places:
            at.setdefault(member, []).extend(places)
    if not at:
        return system
    return assemble(cut(structure, at, restraints.SAME), system.loading, system.shear_deformation, system.bows)


def buckling_modes(combined: Combined, number: int, count: int = 4) -> list[Mode]:
    """The lowest critical factors of a combination with their modes, from its first-order axial forces and with the members
    acting that do so in it. Of beams hinged at both ends, whose buckling between the hinges is no part of any other, the two that
    buckle first are among them. Empty where nothing buckles."""
    coarse, row = combined.response.system, combined.rows[[number]]
    system = finer(coarse, hinged_too=False)
    response = combined.response if system is coarse else solve_linear(system)
    solver = StateSolver(system, row * FAR, hinged_straight=True)
    plain = plain_of(system, row)
    slack = np.zeros(len(system.elements), dtype=bool) if plain is None else plain.slack[:, 0]
    lifted = np.zeros(system.force.shape[0], dtype=bool) if plain is None else plain.lifted[:, 0]
    pencil, active, _ = pencil_of(solver, slack, lifted)
    if pencil is None:
        return []
    N = axial_forces(response, plain, row, np.zeros(1, dtype=np.int64))
    varying = solver.varying(row)
    found = greatest(pencil, lambda x: -pencil.geometric(x, N, varying), pencil.random(count + 2), count)
    modes = []
    for k, theta in enumerate(found.values.tolist()):
        x = found.vectors[:, [k]]
        work = np.maximum(driving(pencil, x, N, varying)[..., 0], 0.0).sum(axis=0)
        each = np.bincount(system.elements.member, work, len(system.structure.members))
        alone = int(each.argmax()) if each.max() > LONE * each.sum() else -1
        modes.append(replace(_shown(coarse, system, pencil, active, 1 / theta, x), by_itself=alone))
    N = axial_forces(combined.response, plain_of(coarse, row), row, np.zeros(1, dtype=np.int64))
    alone_too = [_bowed(coarse, e, plane, factor) for factor, e, plane in between_hinges(coarse, N)[:LONE_ONES]]
    return sorted([*modes, *alone_too], key=lambda mode: mode.value)[:count]


def _bowed(system: System, e: int, plane: int, factor: float) -> Mode:
    """A beam that buckles between its hinges: half a sine wave."""
    along = np.zeros((*system.stations.shape, 3))
    wave = np.sin(pi * system.stations[e] / system.elements.length[e])
    along[e] = wave[:, None] * system.elements.axes[e, 1 + plane]
    return Mode(factor, np.zeros((len(system.structure.nodes), 6)), along, int(system.elements.member[e]))


def natural_modes(system: System, factors: Floats, count: int = 6) -> list[Mode]:
    """Natural frequencies in Hz and their modes, masses from the downward loads of cases with factors (cases,). All
    members and supports act both ways. Empty without mass."""
    coarse, system = system, finer(system)
    if system.structure.slabs:
        return vibrations(coarse, system, factors, count)
    solver = StateSolver(system, np.zeros((0, len(factors))))
    n, count_e = system.force.shape[0], len(system.elements)
    mass = masses(system, factors)
    pencil, active, _ = pencil_of(solver, np.zeros(count_e, dtype=bool), np.zeros(n, dtype=bool))
    if pencil is None or mass.total <= 0:
        return []
    geo = pencil.geometry
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

    def image(x: Floats) -> Floats:
        u, e, a = pencil.split(x)
        columns = x.shape[1]
        q = np.asarray(geo.ends @ u).reshape(2, count_e, 4, columns)
        own = geo.pick(q)
        own[geo.loose] += e
        q[geo.bend[:, 0], geo.bend[:, 1]] = own
        force = blocks @ q + geo.spread(cross @ a, count_e)
        inside = np.swapaxes(cross, 1, 2) @ own + swell @ a
        pushed = np.asarray(M_u @ u) + geo.ends.T @ force.reshape(-1, columns)
        parts = (pushed, geo.pick(force)[geo.loose] * free, inside)
        return np.concatenate([np.asarray(part).reshape(-1, columns) for part in parts])

    found = greatest(pencil, image, pencil.random(count + 2), count)
    return [
        _shown(coarse, system, pencil, active, 1 / (2 * pi * sqrt(theta)), found.vectors[:, [k]])
        for k, theta in enumerate(found.values.tolist())
    ]


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


def _shown(coarse: System, system: System, pencil: Pencil, active: Ints, value: float, x: Floats) -> Mode:
    """A mode on the nodes and along the elements of the coarse mesh, its largest movement 1."""
    u, loose_ends, bubbles_ = pencil.split(x)
    geo, count = pencil.geometry, len(system.elements)
    whole = np.zeros((system.force.shape[0], 1))
    whole[active] = u
    loose = np.zeros((len(geo.bend), 4))
    loose[geo.loose] = loose_ends[..., 0]
    within = Within(geo.spread(loose, count), geo.spread(bubbles_[..., 0], count), geo.scale)
    bends = np.zeros((2, count), dtype=bool)
    bends[geo.bend[:, 0], geo.bend[:, 1]] = True
    return drawn(coarse, system, value, system.to_global(whole)[:, 0].reshape(-1, 6), (), within, bends)
