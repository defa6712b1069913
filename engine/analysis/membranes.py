"""Stiff deck panels: membranes between three or four nodes, in their own plane, and level floors that move as one.

A quadrilateral has two incompatible modes in each direction, so that it bends in its plane without locking (Wilson, Taylor,
Doherty and Ghaboussi, Incompatible Displacement Models, 1973; with the correction of Taylor, Beresford and Wilson, 1976, that
passes the patch test); a triangle has constant strain. A panel of shear alone has it constant.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.sparse import coo_array, csc_array

from engine.errors import ModelError
from engine.structure.model import FREEDOMS, Floats, Ints, Membrane, Structure

GAUSS = 1 / np.sqrt(3)
CORNERS = np.array([[-1.0, -1.0], [1, -1], [1, 1], [-1, 1]])


def plane_of(xyz: Floats) -> Floats:
    """(2, 3) unit vectors in the plane of three or four points: along the first side, and at right angles to it."""
    x = xyz[1] - xyz[0]
    x = x / np.linalg.norm(x)
    normal = np.cross(x, xyz[-1] - xyz[0])
    y = np.cross(normal / np.linalg.norm(normal), x)
    return np.stack([x, y])


def law_matrix(law: tuple[float, float, float]) -> Floats:
    """(3, 3) from strains (ε_x, ε_y, γ) to forces per metre (n_x, n_y, n_xy), N/m."""
    return np.array([[law[0], law[1], 0.0], [law[1], law[0], 0.0], [0.0, 0.0, law[2]]])


def _strain(gradient: Floats) -> Floats:
    """(3, 2 k) from displacements (u, v of each shape) to strains; gradient: (2, k) of the shapes along x and y."""
    B = np.zeros((3, 2 * gradient.shape[1]))
    B[0, 0::2], B[1, 1::2] = gradient
    B[2, 0::2], B[2, 1::2] = gradient[1], gradient[0]
    return B


def _bilinear(at: Floats, flat: Floats) -> tuple[Floats, float, Floats]:
    """Gradients (2, 4) of the four shapes at ξ, η, the determinant of the Jacobian there, and its inverse (2, 2)."""
    local = np.stack([CORNERS[:, 0] * (1 + at[1] * CORNERS[:, 1]), CORNERS[:, 1] * (1 + at[0] * CORNERS[:, 0])]) / 4
    J = local @ flat
    inverse: Floats = np.asarray(np.linalg.inv(J), dtype=np.float64)
    return inverse @ local, float(np.linalg.det(J)), inverse


def _middle(flat: Floats) -> tuple[Floats, float]:
    """Strains (3, 2 k) from the corners' displacements in the middle of a panel, and its area."""
    if len(flat) == 4:
        gradient, determinant, _ = _bilinear(np.zeros(2), flat)
        return _strain(gradient), 4 * determinant
    side = flat[1:] - flat[0]
    slopes = np.linalg.inv(side)
    gradient = np.column_stack([-slopes.sum(axis=1), slopes])
    return _strain(gradient), float(np.linalg.det(side)) / 2


def stiffness_of(flat: Floats, law: tuple[float, float, float]) -> Floats:
    """(2 k, 2 k) stiffness of a panel with corners flat (k, 2) in its plane, k = 3 or 4, anticlockwise."""
    D = law_matrix(law)
    B, area = _middle(flat)
    if len(flat) == 3 or not law[0]:
        return np.asarray(B.T @ D @ B * area)
    _, j0, J0 = _bilinear(np.zeros(2), flat)
    K = np.zeros((12, 12))
    for xi in (-GAUSS, GAUSS):
        for eta in (-GAUSS, GAUSS):
            gradient, j, _ = _bilinear(np.array([xi, eta]), flat)
            bend = J0 @ np.diag([-2 * xi, -2 * eta]) * (j0 / j)
            both = np.concatenate([_strain(gradient), _strain(bend)], axis=1)
            K += both.T @ D @ both * j
    return np.asarray(K[:8, :8] - K[:8, 8:] @ np.linalg.solve(K[8:, 8:], K[8:, :8]))


def _placed(structure: Structure, membrane: Membrane) -> tuple[Floats, Floats, Ints]:
    """Its corners (k, 2) in its plane, the plane (2, 3), and the numbers (3 k,) of its nodes' translations."""
    nodes = np.array(membrane.nodes)
    xyz = structure.xyz[nodes]
    plane = plane_of(xyz)
    return (xyz - xyz[0]) @ plane.T, plane, (nodes[:, None] * 6 + np.arange(3)).ravel()


def membrane_stiffness(structure: Structure) -> csc_array | None:
    """Stiffness of all membranes over all freedoms, (6 n, 6 n), global axes; None without any."""
    if not structure.membranes:
        return None
    rows, columns, values = [], [], []
    for membrane in structure.membranes:
        flat, plane, dofs = _placed(structure, membrane)
        turn = np.kron(np.eye(len(flat)), plane)
        K = turn.T @ stiffness_of(flat, membrane.law) @ turn
        rows.append(np.repeat(dofs, len(dofs)))
        columns.append(np.tile(dofs, len(dofs)))
        values.append(K.ravel())
    size = structure.fixed.size
    places = (np.concatenate(rows), np.concatenate(columns))
    return csc_array(coo_array((np.concatenate(values), places), shape=(size, size)))


def membrane_forces(structure: Structure, displacement: Floats) -> Floats:
    """(membranes, 3, c) n_x, n_y, n_xy in N/m in the middle of each, x along its first side; displacement: (nodes, 6, c)."""
    found = np.zeros((len(structure.membranes), 3, displacement.shape[2]))
    for i, membrane in enumerate(structure.membranes):
        flat, plane, _ = _placed(structure, membrane)
        moved = np.einsum("pj,kjc->kpc", plane, displacement[list(membrane.nodes), :3])
        B, _ = _middle(flat)
        found[i] = law_matrix(membrane.law) @ B @ moved.reshape(2 * len(flat), -1)
    return found


def linked(structure: Structure) -> csc_array | None:
    """(6 n, 6 n) displacements from those of the freedoms left when each diaphragm moves as one in plan: along X, along Y and
    about Z with its leading node. Columns of what follows are empty. None without diaphragms. Raises ModelError for a
    diaphragm that supports hold sideways at more than one node.
    """
    if not structure.diaphragms:
        return None
    size = structure.fixed.size
    link = np.ones(size)
    rows: list[int] = []
    columns: list[int] = []
    values: list[float] = []
    for nodes in structure.diaphragms:
        first = _leader(structure, nodes)
        for node in nodes:
            if node == first:
                continue
            dx, dy = structure.xyz[node, :2] - structure.xyz[first, :2]
            link[[6 * node, 6 * node + 1, 6 * node + 5]] = 0.0
            for own, lead, value in ((0, 0, 1.0), (0, 5, -dy), (1, 1, 1.0), (1, 5, dx), (5, 5, 1.0)):
                rows.append(6 * node + own)
                columns.append(6 * first + lead)
                values.append(float(value))
    every = np.flatnonzero(link)
    places = (np.concatenate([every, rows]), np.concatenate([every, columns]))
    return csc_array(coo_array((np.concatenate([link[every], values]), places), shape=(size, size)))


def _leader(structure: Structure, nodes: Sequence[int]) -> int:
    """The node that leads a diaphragm: the one that a support holds sideways, or the one nearest its middle."""
    own = np.array(nodes)
    plan = np.array([FREEDOMS.index(f) for f in ("x", "y", "rz")])
    held = own[structure.still[np.ix_(own, plan)].any(axis=1) | (structure.turn[own] != 0)]
    if len(held) > 1:
        names = " and ".join(f"“{structure.nodes[n]}”" for n in held[:2])
        raise ModelError(
            f"Supports hold a rigid floor sideways at {names}: between them its forces cannot be told. Make the floor a "
            "membrane, or hold one of them in height alone.",
            structure.nodes[held[1]],
        )
    if len(held):
        return int(held[0])
    middle = structure.xyz[own].mean(axis=0)
    return int(own[np.argmin(np.linalg.norm(structure.xyz[own] - middle, axis=1))])
