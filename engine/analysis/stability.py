"""Critical factors α_cr of many combinations at once, with what buckles in each.

All combinations with the same parts acting share K; only the axial forces differ. Their lowest modes lie in a small common space,
so the eigenproblem is solved in that space for all of them together (Rayleigh and Ritz), and its residual says where the space
is too small: there it grows by what is missing (a Davidson step), or the combination is solved on its own. The space starts
with the modes of the envelope of all axial forces: K_g falls with the compression, so no combination has a mode of its
own below those of the envelope; beside them, every θ is at most the first that was left out.

Saad, Numerical Methods for Large Eigenvalue Problems, 4.3 (Rayleigh–Ritz), 8.4 (Davidson).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.sparse import csr_array

from engine.analysis import restraints
from engine.analysis.geometric import hinged
from engine.analysis.lowest import FAR, lowest
from engine.analysis.pencil import Pencil, Varying
from engine.analysis.solve import assemble, solve_linear
from engine.analysis.state_solver import StateSolver, one_sided
from engine.analysis.states import States, alike, solve_states
from engine.analysis.system import Response, System
from engine.analysis.uneven import Uneven
from engine.structure.cut import cut
from engine.structure.model import Bools, Floats, Ints
from engine.structure.together import together

#: share of the greatest part in driving a mode from which a member takes part in it
TAKES_PART = 0.2
#: share of the driving work from which a member buckles by itself
LONE = 0.9
#: a mode sways if the imperfections push it by this share of what they push a frame of its height
SWAYS = 0.3
#: inclination of a frame that stands for imperfections, 1/300
INCLINED = 1 / 300
#: combinations that are looked at together
TOGETHER = 512


@dataclass(frozen=True)
class Critical:
    """Stability of combinations as a whole (s of them).

    alpha: (s,) α_cr: inf where nothing buckles, 0 where the elastic structure itself does not stand, NaN where it was not
    sought; together: the same of members together, without those that are hinged at both ends and buckle between their hinges
    whatever the rest does. by_itself: (s,) member that the lowest mode is nearly alone in, −1: several together; plane: (s,) 0 where it bends
    sideways, along its local y, 1 along z; sways: (s,) whether the lowest mode moves as the imperfections push; along: (s,)
    axis X, Y or Z along which the mode moves most; part: (members, s) who takes part in the lowest mode.
    least: (2, members, s) by plane the least critical axial force that a member has in the modes below FAR that it takes part
    in, N; held: the same without modes in which it sways. loose: (s,) slack members leave a mechanism there that the loads do
    not excite.
    """

    alpha: Floats
    together: Floats
    by_itself: Ints
    plane: Ints
    sways: Bools
    along: Ints
    part: Bools
    least: Floats
    held: Floats
    loose: Bools

    @staticmethod
    def none(count: int, members: int) -> Critical:
        """Of combinations that were not looked at."""
        far: Any = np.full((2, members, count), np.inf, dtype=np.float32)
        return Critical(
            np.full(count, np.nan),
            np.full(count, np.nan),
            np.full(count, -1),
            np.zeros(count, dtype=np.int64),
            np.zeros(count, dtype=bool),
            np.zeros(count, dtype=np.int64),
            np.zeros((members, count), dtype=bool),
            far,
            far.copy(),
            np.zeros(count, dtype=bool),
        )

    def put(self, where: Ints, other: Critical) -> None:
        """Write what was found for some of the combinations."""
        for name, values in vars(other).items():
            getattr(self, name)[..., where] = values


def critical(response: Response, factors: Floats) -> Critical:
    """Of combinations with factors (s, cases), from their first-order axial forces with the parts acting that do so there."""
    system = response.system
    members = len(system.structure.members)
    found = Critical.none(len(factors), members)
    if not len(factors):
        return found
    near = near_restraints(response, factors)
    if near:
        response = solve_linear(cut_system(system, near))
        system = response.system
    plain = plain_of(system, factors)
    if plain is not None:
        found.alpha[plain.free] = found.together[plain.free] = 0.0
        groups = alike(plain.slack, plain.lifted, np.flatnonzero(~plain.free))
    else:
        groups = [np.arange(len(factors))]
    solver = StateSolver(system, factors * FAR, hinged_straight=True)
    as_one = together(system.structure).group
    for group in groups:
        for start in range(0, len(group), TOGETHER):
            own = group[start : start + TOGETHER]
            _of_group(found, solver, response, plain, factors, own, as_one)
    return found


def plain_of(system: System, factors: Floats) -> States | None:
    """First-order states of combinations, where parts that act one way decide on them; None where superposition holds."""
    return solve_states(system, factors, np.zeros(len(factors), dtype=bool)) if one_sided(system) else None


def near_restraints(response: Response, factors: Floats) -> dict[int, list[float]]:
    """Members, with the places, that purlins or rails hold within elements that would buckle between them below FAR: there the
    straight line that stands for what is held is not good enough."""
    system = response.system
    elements, structure = system.elements, system.structure
    held = np.flatnonzero(elements.held)
    if not len(held):
        return {}
    N = axial_forces(response, None, factors, np.arange(len(factors)))
    pressed = -N[held].min(axis=1, initial=0.0)
    found: dict[int, list[float]] = {}
    for e, push in zip(held.tolist(), pressed.tolist(), strict=True):
        member = int(elements.member[e])
        start, end = elements.offset[e], elements.offset[e] + elements.reach[e]
        inside = [x for x in restraints.places(structure, member) if start + 1e-6 < x < end - 1e-6]
        span = float(np.diff([start, *inside, end]).max()) * elements.length[e] / elements.reach[e]
        if push * FAR * span**2 > np.pi**2 * elements.EIz[e]:
            found.setdefault(member, []).extend(inside)
    return found


def cut_system(system: System, at: dict[int, list[float]]) -> System:
    """The same frame with further nodes within members."""
    structure = cut(system.structure, at, restraints.SAME)
    return assemble(structure, system.loading, system.shear_deformation, system.bows)


def axial_forces(response: Response, plain: States | None, factors: Floats, own: Ints) -> Floats:
    """(e, c) mean axial forces of some combinations in first order."""
    system = response.system
    if plain is None:
        moved = response.displacement.reshape(-1, factors.shape[1]) @ factors[own].T
        return system.axial(moved, factors[own])
    moved = plain.displacement[:, :, own].reshape(-1, len(own))
    return system.axial(moved, factors[own]) * ~plain.slack[:, own]


def pencil_of(solver: StateSolver, slack: Bools, lifted: Bools) -> tuple[Pencil | None, Ints, bool]:
    """The pencil with some parts not acting, None where nothing stands; the freedoms that move; and whether slack members leave a
    mechanism."""
    K, lu, active, loose = solver.braced(slack, lifted)
    if lu is None:
        return None, active, loose
    geo = solver.prepare()[0].on(active, solver.system.R)
    return Pencil(geo, csr_array(K[active][:, active]), lu.solve), active, loose


def _of_group(
    found: Critical,
    solver: StateSolver,
    response: Response,
    plain: States | None,
    factors: Floats,
    own: Ints,
    as_one: Ints,
) -> None:
    system = solver.system
    slack = np.zeros(len(system.elements), dtype=bool) if plain is None else plain.slack[:, own[0]]
    lifted = np.zeros(system.force.shape[0], dtype=bool) if plain is None else plain.lifted[:, own[0]]
    pencil, active, loose = pencil_of(solver, slack, lifted)
    found.loose[own] = loose
    if pencil is None:
        found.alpha[own] = found.together[own] = 0.0
        return
    N = axial_forces(response, plain, factors, own)
    values, vectors = lowest(pencil, N, solver.uneven, factors[own])
    told = _told(system, pencil, active, values, vectors, N, solver.uneven, factors[own], loose, as_one)
    _between_hinges(told, system, N)
    found.put(own, told)


def _hinged_factors(system: System, N: Floats, plane: int) -> tuple[Ints, Floats]:
    """((h,), (h, c)) beams hinged at both ends in a plane, and Euler's factor of each under axial forces N (e, c), exact with
    their mean: the deflection between the hinges does not take part in anything else."""
    e = system.elements
    own = np.flatnonzero(hinged(e, plane) & ~(e.held if plane == 0 else False))
    EI, GA = (e.EIz, e.GAy) if plane == 0 else (e.EIy, e.GAz)
    euler = np.pi**2 * EI[own] / e.length[own] ** 2
    euler = euler / (1 + euler / GA[own])
    return own, np.where(N[own] < 0, euler[:, None] / np.maximum(-N[own], 1e-200), np.inf)


def between_hinges(system: System, N: Floats) -> list[tuple[float, int, int]]:
    """(factor, element, plane) of the beams that buckle between their hinges under axial forces N (e, 1), the lowest first, one
    plane each."""
    found: dict[int, tuple[float, int, int]] = {}
    for plane in (0, 1):
        own, factor = _hinged_factors(system, N, plane)
        for e, f in zip(own.tolist(), factor[:, 0].tolist(), strict=True):
            if np.isfinite(f):
                found[e] = min(found.get(e, (np.inf, e, plane)), (f, e, plane))
    return sorted(found.values())


def _between_hinges(found: Critical, system: System, N: Floats) -> None:
    """Where a beam that buckles between its hinges is the lowest of all."""
    for plane in (0, 1):
        own, factor = _hinged_factors(system, N, plane)
        if not len(own):
            continue
        row = factor.argmin(axis=0)
        least = factor[row, np.arange(N.shape[1])]
        low = np.flatnonzero(least < found.alpha)
        member = system.elements.member[own[row[low]]]
        found.alpha[low], found.by_itself[low], found.plane[low] = least[low], member, plane
        found.sways[low] = False
        found.part[:, low] = False
        found.part[found.by_itself[low], low] = True


def driving(pencil: Pencil, modes: Floats, N: Floats, varying: Varying | None) -> Floats:
    """(2, e, c) work by which the axial forces of each element drive a mode (size, c), in both planes; negative: against it."""
    geo = pencil.geometry
    s, lean = pencil.shapes(modes)
    whole = geo.whole(np.arange(len(geo.bend)))
    bend, hang = geo.rates(N)
    half = np.einsum("mij,jmc->imc", whole, s, optimize=True)
    work = -bend * (s * half).sum(axis=0)
    if varying is not None:
        rows, more = varying
        own = s[:, rows]
        work[rows] -= (own * np.einsum("ijkc,jkc->ikc", more, own, optimize=True)).sum(axis=0)
    found = geo.spread(work, len(geo.length))
    found[geo.hang[:, 0], geo.hang[:, 1]] = -hang * lean**2
    return found


def _told(
    system: System,
    pencil: Pencil,
    active: Ints,
    alpha: Floats,
    modes: Floats,
    N: Floats,
    uneven: Uneven | None,
    factors: Floats,
    loose: bool,
    as_one: Ints,
) -> Critical:
    """What the modes (size, k, c) with factors alpha (k, c) say. as_one: (2, members) by plane the number of what bends as one: it takes part as a whole."""
    structure, elements, count = system.structure, system.elements, len(factors)
    members = len(structure.members)
    found = Critical.none(count, members)
    found.alpha[:] = found.together[:] = alpha[0]
    found.loose[:] = loose
    lean = _leaning(system, factors)
    into = csr_array((np.ones(len(elements)), (elements.member, np.arange(len(elements)))), (members, len(elements)))
    heaviest = np.full((members, count), 0.0)
    np.maximum.at(heaviest, elements.member, -N)
    z = structure.xyz[elements.ends, 2]
    each = np.arange(2 * members)
    gathered = csr_array((np.ones(len(each)), (as_one.ravel(), each)), (len(each), len(each)))
    for k in range(len(alpha)):
        low = np.flatnonzero(alpha[k] < FAR) if k else np.flatnonzero(np.isfinite(alpha[k]))
        if not len(low):
            continue
        mode = modes[:, k, low]
        part = None if uneven is None else (uneven.rows, uneven.of(factors[low]))
        work = driving(pencil, mode, N[:, low], part)
        own = np.stack([np.maximum(into @ plane, 0.0) for plane in work])
        whole = (gathered @ own.reshape(2 * members, -1))[as_one]
        takes = whole >= TAKES_PART * np.maximum(whole.max(axis=(0, 1)), 1e-300)
        u = np.zeros((system.force.shape[0], len(low)))
        u[active] = pencil.split(mode)[0]
        moved = system.to_global(u).reshape(-1, 6, len(low))[:, :3]
        most = np.linalg.norm(moved, axis=1).max(axis=0)
        # heights over which what takes part extends
        extent = takes.any(axis=0)[elements.member]
        top = np.where(extent, z.max(axis=1)[:, None], -np.inf).max(axis=0)
        height = top - np.where(extent, z.min(axis=1)[:, None], np.inf).min(axis=0)
        pushed = np.abs(np.stack([(u * side[:, low]).sum(axis=0) for side in lean])).max(axis=0) * most
        sways = (height > 0.1) & (pushed * alpha[k, low] > SWAYS * INCLINED * height)
        force = np.where(takes, alpha[k, low] * heaviest[:, low], np.inf)
        limited = alpha[k, low] < FAR
        found.least[:, :, low[limited]] = np.minimum(found.least[:, :, low[limited]], force[..., limited])
        free = limited & ~sways
        found.held[:, :, low[free]] = np.minimum(found.held[:, :, low[free]], force[..., free])
        if k == 0:
            total = own.sum(axis=(0, 1))
            each = own.sum(axis=0)
            lone = each.argmax(axis=0)
            alone = each.max(axis=0) > LONE * total
            found.by_itself[low] = np.where(alone, lone, -1)
            found.plane[low] = own.sum(axis=1).argmax(axis=0)
            found.sways[low] = sways
            found.along[low] = np.square(moved).sum(axis=0).argmax(axis=0)
            found.part[:, low] = takes.any(axis=0)
    return found


def _leaning(system: System, factors: Floats) -> list[Floats]:
    """(6 n, c) forces of the sway imperfections of all that acts, along X and along Y, on the freedoms."""
    found = []
    for axis in (0, 1):
        rows = np.zeros_like(factors)
        for case, both in system.loading.leans.items():
            rows[:, both[axis]] += np.abs(factors[:, case])
        found.append(system.force @ rows.T)
    return found
