"""From what is known in the middles of cells to the corners, where it is greatest.

At each corner a plane is fitted to the values in the middles of the cells round it (Zienkiewicz and Zhu, The superconvergent patch recovery,
1992); at an edge a curved surface to those behind them too. Lines along which a slab is joined to something divide it: moments may jump there, and shear does.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse import coo_array, csr_array
from scipy.sparse.csgraph import connected_components

from engine.structure.model import Bools, Floats, Ints, Slab

#: cells round a corner that are enough for a plane
ENOUGH = 4
#: share of the largest below which a surface has no slope, or no curve, in a direction
FLAT = 1e-6


@dataclass(frozen=True)
class Recovered:
    """corner: (cells, 4) the number of the value that each corner has; weights: (g, cells) from values in the middles to these; point: (g,) the
    point where each lies."""

    corner: Ints
    weights: csr_array
    point: Ints


def recovered(slab: Slab) -> Recovered:
    """How values in the middles of a slab's cells become those at their corners."""
    cells = slab.cells
    part = _parts(slab)
    key = part[:, None] * len(slab.flat) + cells
    unique, corner = np.unique(key, return_inverse=True)
    corner = corner.reshape(cells.shape)
    point = unique % len(slab.flat)
    number = np.repeat(np.arange(len(cells)), 4)
    near = csr_array((np.ones(cells.size), (corner.ravel(), number)), shape=(len(unique), len(cells)))
    near.sum_duplicates()
    near.data[:] = 1.0
    beside = csr_array(near.T @ near)
    few = np.diff(near.indptr) < ENOUGH
    one_ring, two_rings = csr_array(near @ beside), csr_array(near @ beside @ beside)
    three = cells[:, 2] == cells[:, 3]
    middle = np.where(three[:, None], slab.flat[cells[:, :3]].mean(axis=1), slab.flat[cells].mean(axis=1))

    def fitted(among: csr_array, rows: Bools, curved: bool) -> tuple[Ints, Ints, Floats, Bools]:
        g, c = _pairs(among, rows)
        x, y = (middle[c] - slab.flat[point[g]]).T / slab.plate.size
        terms = [np.ones(len(g)), x, y, *([x**2, x * y, y**2] if curved else [])]
        p = np.column_stack(terms)
        A = np.zeros((len(unique), len(terms), len(terms)))
        np.add.at(A, g, p[:, :, None] * p[:, None])
        values = np.linalg.eigvalsh(A)
        first = np.linalg.pinv(A, rcond=FLAT, hermitian=True)[:, 0]
        return g, c, (first[g] * p).sum(axis=1), rows & (values[:, 0] > FLAT * values[:, -1])

    # at an edge the surface is curved where there are cells enough behind it
    g2, c2, weight2, sound = fitted(two_rings, few, curved=True)
    g1, c1, weight1, _ = fitted(one_ring, few & ~sound, curved=False)
    g0, c0, weight0, _ = fitted(near, ~few, curved=False)
    used = sound[g2]
    rows, columns = np.concatenate([g0, g1, g2[used]]), np.concatenate([c0, c1, c2[used]])
    weight = np.concatenate([weight0, weight1, weight2[used]])
    weights = csr_array(coo_array((weight, (rows, columns)), shape=(len(unique), len(cells))))
    return Recovered(corner, weights, point)


def _pairs(near: csr_array, rows: Bools) -> tuple[Ints, Ints]:
    found = coo_array(near)
    row, column = found.coords
    kept = rows[row]
    return row[kept].astype(np.int64), column[kept].astype(np.int64)


def _parts(slab: Slab) -> Ints:
    """The part of the slab that each cell lies in, between the lines along which it is joined."""
    cells = slab.cells
    sides = np.sort(np.stack([cells, np.roll(cells, -1, axis=1)], axis=-1).reshape(-1, 2), axis=1)
    owner = np.repeat(np.arange(len(cells)), 4)
    joined = slab.nodes[sides] >= 0
    open_ = (sides[:, 0] != sides[:, 1]) & ~joined.all(axis=1)
    key = sides[open_, 0] * len(slab.flat) + sides[open_, 1]
    order = np.argsort(key, kind="stable")
    key, owner = key[order], owner[open_][order]
    same = np.flatnonzero(key[1:] == key[:-1])
    links = coo_array((np.ones(len(same)), (owner[same], owner[same + 1])), shape=(len(cells), len(cells)))
    return np.asarray(connected_components(links, directed=False)[1], dtype=np.int64)
