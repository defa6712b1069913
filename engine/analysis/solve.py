"""Assembly and solution of the linear frame; mechanisms are named, not left to the arithmetic."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.sparse import coo_array, csc_array
from scipy.sparse.linalg import splu

from engine.actions.cases import Loading
from engine.analysis.elements import Elements, condense, local_stiffness, make_elements, release_forces, transforms
from engine.analysis.transfer import ElementLoads, cut_loads, fixed_end_forces
from engine.errors import ModelError
from engine.structure.model import Floats, Ints, Structure

#: a pivot this small beside its own diagonal term means that nothing holds the freedom
PIVOT_LIMIT = 1e-9
WORDS = ("along X", "along Y", "along Z", "about X", "about Y", "about Z")


@dataclass(frozen=True)
class Response:
    """Linear response to every case.

    displacement: (nodes, 6, cases) m and rad; reaction: (nodes, 6, cases) N and Nm; end_force and end_displacement:
    (e, 12, cases) in local axes at the element's own ends (behind the releases).
    """

    structure: Structure
    elements: Elements
    loads: ElementLoads
    displacement: Floats
    reaction: Floats
    end_force: Floats
    end_displacement: Floats
    residual: float


def global_stiffness(elements: Elements, k: Floats, springs: Floats) -> csc_array:
    """Assembled stiffness over all freedoms, (6 n, 6 n)."""
    T = transforms(elements)
    K = np.swapaxes(T, 1, 2) @ k @ T
    dofs = _dofs(elements)
    rows = np.repeat(dofs, 12, axis=1).ravel()
    columns = np.tile(dofs, (1, 12)).ravel()
    size = springs.size
    spring = np.flatnonzero(springs.ravel())
    rows = np.concatenate([rows, spring])
    columns = np.concatenate([columns, spring])
    values = np.concatenate([K.ravel(), springs.ravel()[spring]])
    return csc_array(coo_array((values, (rows, columns)), shape=(size, size)))


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


def _dofs(elements: Elements) -> Ints:
    return (elements.ends[:, :, None] * 6 + np.arange(6)).reshape(-1, 12)


def factorise(K: csc_array) -> Any:
    """Sparse LU in symmetric mode with a minimum-degree ordering: halls are stringy, and their factors stay thin."""
    return splu(K, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True})


def solve(structure: Structure, loading: Loading, shear_deformation: bool = True) -> Response:
    """Linear elastic response to every case. Raises ModelError when nothing stands or nothing holds it, and naming the
    node and direction of a mechanism."""
    if not structure.members:
        raise ModelError("There are no members: nothing to analyse yet.", "members")
    if not structure.fixed.any() and not structure.springs.any():
        raise ModelError("Nothing holds the structure: it has no supports.", "supports")
    elements = make_elements(structure, shear_deformation)
    cases = len(loading.cases)
    loads = cut_loads(structure, elements, loading)
    k_full = local_stiffness(elements)
    k, maps = condense(k_full, elements)
    fixed_full = fixed_end_forces(elements, loads, cases)
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    for warm in loading.warmings:
        m = structure.index[warm.member]
        own = slice(first[m], first[m + 1])
        # clamped ends press the member that would grow
        fixed_full[own, 0, warm.case] += elements.EA[own] * warm.strain
        fixed_full[own, 6, warm.case] -= elements.EA[own] * warm.strain
    fixed, free_ends = release_forces(k_full, fixed_full, elements)
    T = transforms(elements)

    size = structure.fixed.size
    force = np.zeros((size, cases))
    dofs = _dofs(elements)
    np.add.at(force, dofs.ravel(), -(np.swapaxes(T, 1, 2) @ fixed).reshape(dofs.size, cases))
    for point in loading.points:
        if point.node >= 0:
            force[6 * point.node : 6 * point.node + 6, point.case] += np.concatenate([point.force, point.moment])
    imposed = np.zeros((size, cases))
    for move in loading.settlements:
        imposed[6 * move.node : 6 * move.node + 3, move.case] += move.movement

    K = global_stiffness(elements, k, structure.springs)
    R = support_axes(structure.turn) if structure.turn.any() else None
    if R is not None:
        K, force, imposed = csc_array(R.T @ K @ R), R.T @ force, R.T @ imposed
    imposed[~structure.fixed.ravel()] = 0.0
    diagonal = K.diagonal()
    free = ~structure.fixed.ravel()
    idle = _idle_rotations(K, diagonal, free, force)
    active = np.flatnonzero(free & ~idle)
    u = imposed.copy()
    residual = 0.0
    if len(active):
        Kff = csc_array(K[active][:, active])
        lu = _checked_factor(Kff, active, structure, dofs)
        right = (force - K @ imposed if imposed.any() else force)[active]
        u[active] = lu.solve(right) if cases else np.zeros((len(active), 0))
        scale = np.abs(right).max(initial=0.0)
        if scale > 0:
            residual = float(np.abs(Kff @ u[active] - right).max() / scale)
    reaction = K @ u - force
    reaction[~(structure.fixed | (structure.springs != 0)).ravel()] = 0.0
    for node, freedom in np.argwhere(structure.springs != 0):
        if not structure.fixed[node, freedom]:
            reaction[6 * node + freedom] = -structure.springs[node, freedom] * u[6 * node + freedom]
    if R is not None:
        u, reaction = R @ u, R @ reaction
    local = T @ u[dofs].reshape(len(elements), 12, cases)
    end_force = k @ local + fixed
    end_displacement = maps @ local + free_ends
    shape = (len(structure.nodes), 6, cases)
    return Response(
        structure, elements, loads, u.reshape(shape), reaction.reshape(shape), end_force, end_displacement, residual
    )


def _idle_rotations(K: csc_array, diagonal: Floats, free: Any, force: Floats) -> Any:
    """Rotations of nodes that only bars and hinges meet: no stiffness and no load, so no unknown."""
    scale = np.abs(diagonal).max()
    rotation = np.arange(len(diagonal)) % 6 >= 3
    still = np.abs(diagonal) <= 1e-14 * scale
    loaded = (np.abs(force) > 0).any(axis=1)
    return free & rotation & still & ~loaded


def _checked_factor(K: csc_array, active: Ints, structure: Structure, dofs: Ints) -> Any:
    try:
        lu = factorise(K)
    except RuntimeError:
        lu = None
    if lu is not None:
        pivots = np.abs(lu.U.diagonal())
        # permuted back to the order of the freedoms: U's column perm_c
        weak = pivots < PIVOT_LIMIT * np.abs(K.diagonal())[np.argsort(lu.perm_c)]
        if not weak.any():
            return lu
    node, freedom, moving = _mechanism(K, active)
    others = f" ({moving} nodes move together)" if moving > 1 else ""
    raise ModelError(
        f"The structure is a mechanism: node “{structure.nodes[node]}” can move {WORDS[freedom]} freely{others}. "
        "Add a support, a brace, or a stiff connection there.",
        structure.nodes[node],
    )


def _mechanism(K: csc_array, active: Ints) -> tuple[int, int, int]:
    """Node and freedom that moves most in the softest mode, and how many nodes move; inverse iteration, shifted."""
    diagonal = np.abs(K.diagonal())
    shift = 1e-10 * np.where(diagonal > 0, diagonal, diagonal.max())
    K = csc_array(K + csc_array(coo_array((shift, (np.arange(len(shift)),) * 2), shape=K.shape)))
    lu = splu(K)
    mode = np.random.default_rng(1).standard_normal(K.shape[0])
    for _ in range(6):
        mode = lu.solve(mode * shift)
        mode /= np.abs(mode).max()
    worst = int(np.argmax(np.abs(mode)))
    moving = len(np.unique(active[np.abs(mode) > 0.05] // 6))
    return int(active[worst] // 6), int(active[worst] % 6), moving
