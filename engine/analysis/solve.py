"""Assembly and solution of the linear frame; mechanisms are named, not left to the arithmetic."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from scipy.sparse import coo_array, csc_array, csr_array, diags_array
from scipy.sparse.linalg import splu

from engine.actions.cases import Loading
from engine.analysis.bows import Bow
from engine.analysis.elements import Elements, condense, local_stiffness, make_elements, release_forces, transforms
from engine.analysis.factors import Factors
from engine.analysis.membranes import linked, membrane_stiffness
from engine.analysis.relative import relative
from engine.analysis.slabs import slab_loads, slab_stiffness
from engine.analysis.system import Response, System
from engine.analysis.transfer import PLANES, cut_loads, fixed_end_forces
from engine.errors import ModelError
from engine.structure.model import Bools, Floats, Ints, Structure

#: a spring this many times as stiff as what it holds is as good as rigid, and keeps no more than that
AS_RIGID = 1e8
#: a rotation with less than this share of the stiffness of the members at its node has none
IDLE = 1e-12
WORDS = ("along X", "along Y", "along Z", "about X", "about Y", "about Z")


def global_stiffness(elements: Elements, k: Floats, size: int, T: Floats | None = None) -> csc_array:
    """Assembled stiffness of the elements over all freedoms, (6 n, 6 n)."""
    T = transforms(elements) if T is None else T
    K = np.swapaxes(T, 1, 2) @ k @ T
    dofs = dofs_of(elements)
    rows, columns = np.repeat(dofs, 12, axis=1).ravel(), np.tile(dofs, (1, 12)).ravel()
    return csc_array(coo_array((K.ravel(), (rows, columns)), shape=(size, size)))


def support_axes(turn: Floats) -> csc_array:
    """(6 n, 6 n) rotation with u = R u', u' in each support's own axes, turned about Z."""
    R = np.tile(np.eye(6), (len(turn), 1, 1))
    c, s = np.cos(turn), np.sin(turn)
    for base in (0, 3):
        R[:, base, base] = R[:, base + 1, base + 1] = c
        R[:, base, base + 1], R[:, base + 1, base] = -s, s
    dofs = np.arange(6 * len(turn)).reshape(-1, 6)
    rows, columns = np.repeat(dofs, 6, axis=1).ravel(), np.tile(dofs, (1, 6)).ravel()
    found = csc_array(coo_array((R.ravel(), (rows, columns)), shape=(dofs.size, dofs.size)))
    found.eliminate_zeros()
    return found


def dofs_of(elements: Elements) -> Ints:
    """(e, 12) numbers of the freedoms of each element's nodes."""
    return (elements.ends[:, :, None] * 6 + np.arange(6)).reshape(-1, 12)


def assemble(
    structure: Structure, loading: Loading, shear_deformation: bool = True, bows: tuple[Bow, ...] = ()
) -> System:
    """The frame with all its cases, ready to be solved. Raises ModelError when nothing stands or nothing holds it."""
    if not structure.members:
        words = (
            "Slabs alone are not analysed: add a member."
            if structure.slabs
            else "There are no members: nothing to analyse yet."
        )
        raise ModelError(words, "members")
    if not structure.fixed.any() and not structure.springs.any():
        raise ModelError("Nothing holds the structure: it has no supports.", "supports")
    if structure.out >= 0 and structure.slabs:
        raise ModelError("Slabs and walls that bend move in space: plane frames have none.", "analysis.plane")
    elements = make_elements(structure, shear_deformation)
    cases = len(loading.cases)
    loads = cut_loads(structure, elements, loading)
    k_full = local_stiffness(elements)
    k, maps = condense(k_full, elements)
    fixed_full = fixed_end_forces(elements, loads, cases)
    warm, curled = _temperatures(structure, elements, loading)
    # clamped ends press the member that would grow, and bend back the one that would curl
    fixed_full[:, 0] += warm
    fixed_full[:, 6] -= warm
    for p, (_, r1, _, r2, sense) in enumerate(PLANES.values()):
        EI = np.where(elements.bar, 0.0, elements.EIz if p == 0 else elements.EIy)[:, None]
        fixed_full[:, r1] += sense * EI * curled[p]
        fixed_full[:, r2] -= sense * EI * curled[p]
    fixed, free_ends = release_forces(k_full, fixed_full, elements)
    T = transforms(elements)

    size = structure.fixed.size
    force = np.zeros((size, cases))
    dofs = dofs_of(elements)
    gathered = csr_array((np.ones(dofs.size), (dofs.ravel(), np.arange(dofs.size))), shape=(size, dofs.size))
    force -= gathered @ (np.swapaxes(T, 1, 2) @ fixed).reshape(dofs.size, cases)
    for point in loading.points:
        if point.node >= 0:
            force[6 * point.node : 6 * point.node + 6, point.case] += np.concatenate([point.force, point.moment])
    imposed = np.zeros((size, cases))
    for move in loading.settlements:
        imposed[6 * move.node : 6 * move.node + 3, move.case] += move.movement

    kept = structure.still.any(axis=1) | (structure.turn != 0)
    kept[[node for floor in structure.diaphragms for node in floor]] = True
    kept[[node for slab in structure.slabs for node in slab.joined]] = True
    stiff = relative(structure, elements, k, T, kept)
    soft = np.ones(len(elements), dtype=bool)
    if stiff is not None:
        soft[stiff.elements] = False
    K = global_stiffness(elements, np.where(soft[:, None, None], k, 0.0), size, T)
    decks = membrane_stiffness(structure)
    if decks is not None:
        K = csc_array(K + decks)
    slabs = slab_stiffness(structure)
    if slabs is not None:
        K, force = csc_array(K + slabs), force + slab_loads(structure, loading)
    bearing = _bearing(structure, elements)
    structure = _softened(structure, K, stiff.stiffness if stiff else None)
    turn, link = support_axes(structure.turn) if structure.turn.any() else None, linked(structure)
    if turn is not None:
        K, force, imposed = csc_array(turn.T @ K @ turn), turn.T @ force, turn.T @ imposed
    if structure.springs.any():
        K = csc_array(K + diags_array(structure.springs.ravel()))
    own = None
    if stiff is not None:
        basis = stiff.basis if turn is None else csc_array(turn.T @ stiff.basis @ turn)
        own = stiff.stiffness if turn is None else csc_array(turn.T @ stiff.stiffness @ turn)
        link = basis if link is None else csc_array(basis @ link)
    if link is not None:
        K, force = csc_array(link.T @ K @ link), link.T @ force
    if own is not None:
        K = csc_array(K + own)
    imposed[~structure.still.ravel()] = 0.0
    free = ~structure.still.ravel()
    if link is not None:
        free &= link.diagonal() != 0
    active = np.flatnonzero(free & ~_idle(structure, K.diagonal(), free, force, bearing))
    return System(
        structure,
        elements,
        loads,
        k_full,
        k,
        maps,
        T,
        dofs,
        fixed_full,
        fixed,
        free_ends,
        warm,
        curled,
        K,
        turn,
        link,
        force,
        imposed,
        active,
        loading,
        shear_deformation,
        bows,
    )


def _temperatures(structure: Structure, elements: Elements, loading: Loading) -> tuple[Floats, Floats]:
    """((e, cases), (2, e, cases)): axial force of warmed members between clamped ends, and the curvature that they would take
    freely, towards local y and z."""
    cases = len(loading.cases)
    warm, curled = np.zeros((len(elements), cases)), np.zeros((2, len(elements), cases))
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    for w in loading.warmings:
        m = structure.index[w.member]
        own = slice(first[m], first[m + 1])
        warm[own, w.case] += elements.EA[own] * w.strain
        curled[:, own, w.case] += np.array(w.curvature)[:, None]
    return warm, curled


def _softened(structure: Structure, K: csc_array, own: csc_array | None) -> Structure:
    """With springs no stiffer than AS_RIGID times what they hold: what is beyond is rounding, not stiffness."""
    if not structure.springs.any():
        return structure
    held = K.diagonal() + (0.0 if own is None else own.diagonal())
    groups = held.reshape(-1, 2, 3).max(axis=2)
    most = np.repeat(AS_RIGID * np.where(groups > 0, groups, np.inf), 3, axis=1)
    if (structure.springs <= most).all():
        return structure
    return replace(structure, springs=np.minimum(structure.springs, most))


def _bearing(structure: Structure, elements: Elements) -> Floats:
    """(n, 2) stiffness that the members at each node have along and in bending, whatever their releases."""
    found = np.zeros((len(structure.nodes), 2))
    turning = np.where(elements.bar, 0.0, np.maximum(np.maximum(elements.EIy, elements.EIz), elements.GJ))
    for column, values in enumerate((elements.EA, turning)):
        np.maximum.at(found[:, column], elements.ends, (values / elements.length)[:, None])
    for membrane in structure.membranes:
        found[list(membrane.nodes), 0] = np.maximum(found[list(membrane.nodes), 0], max(membrane.law))
    for slab in structure.slabs:
        plate, joined = slab.plate, list(slab.joined)
        found[joined] = np.maximum(found[joined], plate.E * plate.thickness * np.array([1.0, plate.thickness**2]))
    return found


def solve(structure: Structure, loading: Loading, shear_deformation: bool = True) -> Response:
    """Linear elastic response to every case. Raises ModelError when nothing stands or nothing holds it, and naming the
    node and direction of a mechanism."""
    return solve_linear(assemble(structure, loading, shear_deformation))


def solve_linear(system: System) -> Response:
    """Linear elastic response to every case, with all members and supports acting both ways."""
    structure, K, active = system.structure, system.K, system.active
    force, imposed = system.force, system.imposed
    cases = force.shape[1]
    u = imposed.copy()
    residual = 0.0
    if len(active):
        Kff, lu = system.Kff, checked_factors(system)
        right = (force - K @ imposed if imposed.any() else force)[active]
        u[active] = lu.solve(right) if cases else np.zeros((len(active), 0))
        scale = np.abs(right).max(initial=0.0)
        if scale > 0:
            residual = float(np.abs(Kff @ u[active] - right).max() / scale)
    reaction = K @ u - force
    reaction[~(structure.still | (structure.springs != 0)).ravel()] = 0.0
    u, reaction = system.to_global(u), pushed_back(system, u, reaction)
    local = system.T @ u[system.dofs].reshape(len(system.elements), 12, cases)
    end_force = system.k_c @ local + system.fixed_c
    end_displacement = system.own_ends(local, system.free)
    shape = (len(structure.nodes), 6, cases)
    return Response(system, u.reshape(shape), reaction.reshape(shape), end_force, end_displacement, residual)


def pushed_back(system: System, u: Floats, reaction: Floats, soft: Floats | float = 1.0) -> Floats:
    """Forces of the supports in global axes: `reaction` of the rigid ones in their own; of springs, softened by `soft` (6 n,),
    from displacements u of the freedoms."""
    springs = np.where(system.structure.still, 0.0, system.structure.springs).ravel() * soft
    sprung = np.flatnonzero(springs)
    if len(sprung):
        own = u if system.R is None else system.to_own(system.to_global(u))
        reaction[sprung] = -springs[sprung, None] * own[sprung]
    return system.forces_to_global(reaction)


def _idle(structure: Structure, diagonal: Floats, free: Bools, force: Floats, bearing: Floats) -> Bools:
    """Freedoms that nothing resists and nothing loads, so that they are no unknowns: rotations of nodes that only bars and
    hinges meet, and nodes that no member meets. Raises ModelError for those that are loaded."""
    stiff = np.repeat(bearing, 3, axis=1).ravel()
    rotation = np.arange(len(diagonal)) % 6 >= 3
    still = free & (np.abs(diagonal) <= IDLE * stiff) & (rotation | (stiff == 0))
    loaded = still & (np.abs(force) > 0).any(axis=1)
    if loaded.any():
        node, freedom = divmod(int(np.argmax(loaded)), 6)
        name = structure.nodes[node]
        if not bearing[node].any():
            raise ModelError(f"Node “{name}” bears a load, and no member meets it.", name)
        words = f"A couple {WORDS[freedom]} acts on node “{name}”, where only hinges and bars meet: nothing takes it."
        raise ModelError(words, name)
    return np.asarray(still)


def checked_factors(system: System) -> Factors:
    """The factors of K. Raises ModelError naming where a mechanism moves."""
    if system.factors is not None:
        return system.factors
    structure = system.structure
    node, freedom, moving = _mechanism(system.Kff, system.active)
    others = f" ({moving} nodes move together)" if moving > 1 else ""
    raise ModelError(
        f"The structure is a mechanism: node “{structure.nodes[node]}” can move {WORDS[freedom]} freely{others}. "
        "Add a support, a brace, or a stiff connection there.",
        structure.nodes[node],
    )


def softest_mode(K: csc_array) -> Floats:
    """The mode in which K resists least, its largest value 1; inverse iteration, shifted."""
    diagonal = np.abs(K.diagonal())
    shift = 1e-10 * np.where(diagonal > 0, diagonal, diagonal.max())
    K = csc_array(K + csc_array(coo_array((shift, (np.arange(len(shift)),) * 2), shape=K.shape)))
    lu = splu(K)
    mode: Floats = np.random.default_rng(1).standard_normal(K.shape[0])
    for _ in range(6):
        mode = lu.solve(mode * shift)
        mode /= np.abs(mode).max()
    return mode


def _mechanism(K: csc_array, active: Ints) -> tuple[int, int, int]:
    """Node and freedom that moves most in the softest mode, and how many nodes move."""
    mode = softest_mode(K)
    worst = int(np.argmax(np.abs(mode)))
    moving = len(np.unique(active[np.abs(mode) > 0.05] // 6))
    return int(active[worst] // 6), int(active[worst] % 6), moving
