"""Very stiff elements beside soft ones: unknowns in which nothing cancels.

The far node b of a very stiff element moves as a rigid body with its near node a, and by a small δ beyond that:
u_b = u_a + θ_a × r + δ_u, θ_b = θ_a + δ_θ. A rigid movement strains no element, so the stiff one resists δ alone, and its
great numbers stand in δ's own rows: what is soft keeps its digits. It is a change of unknowns, exact for any stiffness.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse import coo_array, csc_array

from engine.analysis.elements import Elements
from engine.structure.model import Bools, Floats, Ints, Structure

#: an element this many times as stiff as all others at one of its nodes counts as very stiff
STIFFER = 1e6
#: of the matrices of rigid movement, what is smaller than this beside a metre is rounding
ROUNDED = 1e-9


@dataclass(frozen=True)
class Relative:
    """basis: (6 n, 6 n) from the unknowns to the displacements of the nodes, global axes; elements: the very stiff ones;
    stiffness: (6 n, 6 n) theirs, over the unknowns."""

    basis: csc_array
    elements: Ints
    stiffness: csc_array


def stiff_elements(structure: Structure, elements: Elements) -> Ints:
    """Rigid links, and beams more than STIFFER times as stiff as anything else at one of their nodes."""
    links = np.array([m.behaviour == "rigid link" for m in structure.members], dtype=bool)[elements.member]
    stiffness = np.where(elements.bar, 0.0, np.minimum(elements.EIy, elements.EIz) / elements.length**3)
    if not links.any() and stiffness.max(initial=0.0) <= STIFFER * stiffness[stiffness > 0].min(initial=np.inf):
        return np.zeros(0, dtype=np.int64)
    node, owner = elements.ends.ravel(), np.repeat(np.arange(len(elements)), 2)
    order = np.argsort(stiffness[owner], kind="stable")
    first = np.full(len(structure.nodes), -1)
    # of several values for one place the last one stays: the stiffest
    first[node[order]] = owner[order]
    order = order[first[node[order]] != owner[order]]
    second = np.zeros(len(structure.nodes))
    second[node[order]] = stiffness[owner[order]]
    # bars bear a node too: what they give across is nothing, along it does not cancel
    others = np.where(first[elements.ends] == np.arange(len(elements))[:, None], second[elements.ends], np.inf)
    alone = (others > 0) & (stiffness[:, None] > STIFFER * others)
    return np.flatnonzero(links | alone.any(axis=1))


def _rigid(arm: Floats) -> Floats:
    """(6, 6) from the movement of a node to that of another, `arm` away, with which it moves as one body."""
    x, y, z = arm
    found = np.eye(6)
    found[:3, 3:] = [[0, z, -y], [-z, 0, x], [y, -x, 0]]
    return found


def relative(structure: Structure, elements: Elements, k_c: Floats, T: Floats, kept: Bools) -> Relative | None:
    """Unknowns for the very stiff elements; kept: (n,) nodes that keep their own (supports, floors that move as one).
    k_c: (e, 12, 12) condensed stiffness, T: (e, 12, 12) transforms. None where nothing is very stiff."""
    stiff = stiff_elements(structure, elements)
    if not len(stiff):
        return None
    beside: dict[int, list[int]] = {}
    for a, b in elements.ends[stiff].tolist():
        beside.setdefault(a, []).append(b)
        beside.setdefault(b, []).append(a)
    rows: dict[int, dict[int, Floats]] = {}

    def grow(root: int) -> None:
        rows[root] = {root: np.eye(6)}
        reached = [root]
        for near in reached:
            for far in beside[near]:
                if far in rows or kept[far]:
                    continue
                body = _rigid(structure.xyz[far] - structure.xyz[near])
                rows[far] = {node: body @ part for node, part in rows[near].items()}
                rows[far][far] = np.eye(6)
                reached.append(far)

    nodes = sorted(beside)
    for node in [n for n in nodes if kept[n]] + nodes:
        if node not in rows:
            grow(node)
    size = structure.fixed.size
    own = np.ones(size)
    entries: list[tuple[Ints, Ints, Floats]] = []
    for node, parts in rows.items():
        own[6 * node : 6 * node + 6] = 0.0
        entries += [_placed(node, other, part) for other, part in parts.items()]
    entries.append((np.flatnonzero(own), np.flatnonzero(own), own[own != 0]))
    gathered: list[tuple[Ints, Ints, Floats]] = []
    for e in stiff.tolist():
        a, b = elements.ends[e].tolist()
        body = _rigid(structure.xyz[b] - structure.xyz[a])
        beyond = {node: part.copy() for node, part in rows[b].items()}
        for node, part in rows[a].items():
            beyond[node] = beyond.get(node, np.zeros((6, 6))) - body @ part
        far = T[e][:, 6:]
        resists = far.T @ k_c[e] @ far
        for one in beyond.values():
            one[np.abs(one) < ROUNDED] = 0.0
        for i, one in beyond.items():
            for j, other in beyond.items():
                block = one.T @ resists @ other
                if block.any():
                    gathered.append(_placed(i, j, block))
    return Relative(_matrix(entries, size), stiff, _matrix(gathered, size))


def _placed(row: int, column: int, block: Floats) -> tuple[Ints, Ints, Floats]:
    at = np.arange(6)
    return np.repeat(6 * row + at, 6), np.tile(6 * column + at, 6), block.ravel()


def _matrix(entries: list[tuple[Ints, Ints, Floats]], size: int) -> csc_array:
    rows, columns, values = (np.concatenate(part) for part in zip(*entries, strict=True))
    found = csc_array(coo_array((values, (rows, columns)), shape=(size, size)))
    found.eliminate_zeros()
    return found
