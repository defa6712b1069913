"""How far the head of a column of a braced row moves, found without the stiffness matrix: by what its bars and columns stretch, laid together as
Williot's diagram does: a place that its bars fix is where their lengths meet."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.dossier.around import IN_PLANE, SLIDES
from engine.structure.model import Bools, Floats, Ints
from engine.verification.limits import Stretch

#: a movement is fixed by the bars where what they leave free does not take part in it by more than this
FREE = 1e-6
#: axial forces below this, as a share of the largest, are none
NONE = 1e-9


def stretched(chain: Chain, stretch: Stretch, number: int, axis: int) -> float | None:
    """How far the head of a stretch moves beside its foot along X (axis 0) or along Y, in a case or combination by number, m. None where the
    bars in the plane of the row, with supports that hold still, do not fix it."""
    structure, elements = chain.structure, chain.response.elements
    warm = any(chain.loading.cases[k].nature == "temperature" for k in np.flatnonzero(chain.combined.rows[number]))
    if warm or chain.loading.settlements:
        return None
    found = chain.combined.diagrams([number])
    rows = np.flatnonzero(_usable(chain, found.N[..., 0], structure.xyz[stretch.start], axis))
    h, N = np.diff(found.x[rows]), found.N[rows, :, 0]
    longer = (h * (N[:, :-1] + N[:, 1:]) / 2).sum(axis=1) / elements.EA[rows]
    matrix, place = _lengths(chain, rows, axis)
    if not {stretch.start, stretch.end} <= set(place):
        return None
    wanted = np.zeros(2 * len(place))
    wanted[2 * place[stretch.end]] += 1.0
    wanted[2 * place[stretch.start]] -= 1.0
    held = _held(chain, list(place), axis)
    matrix, wanted = matrix[:, ~held], wanted[~held]
    _, size, ways = np.linalg.svd(matrix)
    fixed = int((size > FREE * size.max(initial=0.0)).sum())
    if not fixed or np.abs(ways[fixed:] @ wanted).max(initial=0.0) > FREE:
        return None
    return abs(float(wanted @ np.linalg.lstsq(matrix, longer, rcond=None)[0]))


def _usable(chain: Chain, N: Floats, at: Floats, axis: int) -> Bools:
    """(e,): elements in the upright plane through a place along an axis whose ends lie on their axes and do not slide; not ties that are slack."""
    structure, elements = chain.structure, chain.response.elements
    flat = (np.abs(structure.xyz[elements.ends][:, :, 1 - axis] - at[1 - axis]) < IN_PLANE).all(axis=1)
    straight = (np.abs(elements.arms) < NONE).all(axis=(1, 2))
    sliding = elements.released[:, [*SLIDES, *(6 + s for s in SLIDES)]].any(axis=1)
    most = np.abs(N).max(axis=1)
    slack = elements.bar & (most <= NONE * most.max(initial=0.0))
    return np.asarray(flat & straight & ~sliding & ~slack)


def _lengths(chain: Chain, rows: Ints, axis: int) -> tuple[Floats, dict[int, int]]:
    """(rows, 2 · nodes): by how much each element grows as its nodes move along the axis and upwards; and the places of nodes among them."""
    elements = chain.response.elements
    place = {node: k for k, node in enumerate(np.unique(elements.ends[rows]).tolist())}
    matrix = np.zeros((len(rows), 2 * len(place)))
    for k, (row, (a, b)) in enumerate(zip(rows.tolist(), elements.ends[rows].tolist(), strict=True)):
        way = elements.axes[row, 0, [axis, 2]]
        matrix[k, [2 * place[a], 2 * place[a] + 1]] = -way
        matrix[k, [2 * place[b], 2 * place[b] + 1]] = way
    return matrix, place


def _held(chain: Chain, nodes: list[int], axis: int) -> Bools:
    """(2 · nodes,): what supports hold still, along the axis and upwards."""
    structure = chain.structure
    still = structure.fixed[nodes][:, [axis, 2]] & (structure.turn[nodes] == 0)[:, None]
    return np.asarray(still.ravel())
