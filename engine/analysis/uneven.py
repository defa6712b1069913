"""Axial forces that vary along an element, because loads act along it: what they do in second order beside their mean.

N(x) = N̄ + δ(x), where δ follows from the loads alone. Its geometric matrix (1/L) ∫ δ s sᵀ dξ, with the slopes s of the lean,
the end rotations and the bubbles, is found for every case by Gauss' formula, exactly.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from scipy.sparse import csr_array

from engine.analysis.geometric import BUBBLES, COUNTING, Geometry, shapes
from engine.analysis.system import System
from engine.structure.model import Bools, Floats, Ints

#: loads along an element below this share of its Euler load count with their mean alone
NOTICED = 1e-4
#: Gauss points: products of two slopes and the integral of a load that grows
POINTS = BUBBLES + 4


@dataclass(frozen=True)
class Uneven:
    """rows: (k,) of Geometry.bend; matrix: (3 + b, 3 + b, k, cases) of the lean, the rotations and the bubbles."""

    rows: Ints
    matrix: Floats

    def of(self, factors: Floats) -> Floats:
        """(3 + b, 3 + b, k, c) for combinations with factors (c, cases)."""
        return np.asarray(self.matrix @ factors.T)

    def places(self, geometry: Geometry, count: int) -> Bools:
        """(2, count) planes and elements that it concerns."""
        found = np.zeros((2, count), dtype=bool)
        plane, e = geometry.bend[self.rows].T
        found[plane, e] = True
        return found


def uneven(system: System, geometry: Geometry, factors: Floats) -> Uneven | None:
    """Where loads along the elements count in any of the combinations (c, cases); None where nowhere."""
    e, loads, cases = system.elements, system.loads, system.force.shape[1]
    q, force = loads.q[:, :, 0], loads.force[:, 0]
    spread = np.abs(q).max(axis=1, initial=0.0) * (loads.span[:, 1] - loads.span[:, 0])
    cells = np.concatenate([loads.line, loads.point])
    total = np.bincount(cells[:, 0] * cases + cells[:, 1], np.concatenate([spread, np.abs(force)]), len(e) * cases)
    most = (total.reshape(len(e), cases) @ np.abs(factors).T).max(axis=1, initial=0.0)
    plane, element = geometry.bend.T
    EI = np.where(plane == 0, e.EIz[element], e.EIy[element])
    rows = np.flatnonzero(most[element] * e.length[element] ** 2 > NOTICED * np.pi**2 * EI)
    if not len(rows):
        return None
    row_of = np.full((2, len(e)), -1)
    row_of[plane[rows], element[rows]] = np.arange(len(rows))
    matrix = np.zeros((len(rows) * cases, (3 + BUBBLES) ** 2))
    # most loads run from end to end: their integrals are L (qa ξ + (qb − qa) ξ²/2)
    length = e.length[loads.line[:, 0]]
    whole = (loads.span[:, 0] < 1e-9 * length) & (loads.span[:, 1] > (1 - 1e-9) * length)
    where = loads.line[whole, 0] * cases + loads.line[whole, 1]
    at, share = _gauss(np.zeros(len(rows)), np.ones(len(rows)))
    for power, amount in ((1, q[whole, 0]), (2, (q[whole, 1] - q[whole, 0]) / 2)):
        sums = np.bincount(where, amount * length[whole], len(e) * cases).reshape(len(e), cases)[element[rows]]
        part = _matrices(geometry, rows, at, share * at**power)
        matrix += (sums[..., None] * part.reshape(len(rows), 1, -1)).reshape(matrix.shape)
    line, point = (spread > 0) & ~whole, force != 0
    on, beside = loads.line[line], loads.point[point]
    for cells, (places, weights) in (
        (on, _line_points(loads.span[line], q[line], e.length[on[:, 0]])),
        (beside, _point_points(loads.at[point], force[point], e.length[beside[:, 0]])),
    ):
        for p in (0, 1):
            row = row_of[p, cells[:, 0]]
            own = np.flatnonzero(row >= 0)
            found = _matrices(geometry, rows[row[own]], places[own], weights[own])
            cell = row[own] * cases + cells[own, 1]
            into = csr_array((np.ones(len(own)), (cell, np.arange(len(own)))), shape=(len(matrix), len(own)))
            matrix += into @ found.reshape(len(own), matrix.shape[1])
    shape = (len(rows), cases, 3 + BUBBLES, 3 + BUBBLES)
    return Uneven(rows, np.ascontiguousarray(matrix.reshape(shape).transpose(2, 3, 0, 1)))


def _gauss(start: Floats, end: Floats) -> tuple[Floats, Floats]:
    """((n, POINTS), the same): places and weights between (n,) starts and ends."""
    at, share = np.polynomial.legendre.leggauss(POINTS)
    half = (end - start)[:, None] / 2
    return start[:, None] + half * (at + 1), half * share


def _line_points(span: Floats, q: Floats, length: Floats) -> tuple[Floats, Floats]:
    """Shares of the length, and weights times the integral of line loads q (n, 2) from the start of the element."""
    a, b = span.T
    x, w = _gauss(a, b)
    beyond, w_beyond = _gauss(b, length)
    rise = (q[:, 1] - q[:, 0]) / (b - a)
    integral = q[:, :1] * (x - a[:, None]) + rise[:, None] * (x - a[:, None]) ** 2 / 2
    total = (q.mean(axis=1) * (b - a))[:, None]
    return _shares([x, beyond], [w * integral, w_beyond * total], length)


def _point_points(at: Floats, force: Floats, length: Floats) -> tuple[Floats, Floats]:
    """The same for concentrated loads."""
    x, w = _gauss(at, length)
    return _shares([x], [w * force[:, None]], length)


def _shares(x: list[Floats], w: list[Floats], length: Floats) -> tuple[Floats, Floats]:
    return np.concatenate(x, axis=1) / length[:, None], np.concatenate(w, axis=1) / length[:, None]


def _matrices(geometry: Geometry, rows: Ints, places: Floats, weights: Floats) -> Floats:
    """(n, 3 + b, 3 + b) what integrals of loads take from N beyond their mean; rows: (n,) of Geometry.bend."""
    table = _slopes()
    values = np.vander(places.ravel(), len(table), increasing=True) @ table
    bent, sheared, bubbles = np.split(values.reshape(*places.shape, table.shape[1]), [3, 6], axis=2)
    phi = geometry.phi[rows, None, None]
    s = np.concatenate([(bent + phi * sheared) / (1 + phi), bubbles], axis=2)
    found = np.swapaxes(s * weights[:, :, None], 1, 2) @ s - weights.sum(axis=1)[:, None, None] * geometry.whole(rows)
    return np.asarray(-found / geometry.length[geometry.bend[rows, 1], None, None])


@cache
def _slopes() -> Floats:
    """(powers of ξ, 3 + 3 + b) coefficients of the slopes: of the lean and the rotations, of what shear adds, of the bubbles."""
    unit = shapes()
    every = [unit.hermite[k] for k in COUNTING] + [unit.straight[k] for k in COUNTING] + list(unit.bubbles)
    found = np.zeros((BUBBLES + 3, len(every)))
    for column, shape in enumerate(every):
        slope = shape.deriv().coef
        found[: len(slope), column] = slope
    return found
