"""A mesh reduced to the freedoms that it shares with what stands around it, by nested dissection.

The mesh is halved again and again; from the smallest parts upwards, freedoms whose cells are all within a part are eliminated from its
dense front (George, Nested dissection of a regular finite element mesh, 1973). What is eliminated stays known, so that loads are pushed
out and movements found again without another factorisation.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.linalg import LinAlgError, cholesky, solve_triangular

from engine.structure.model import Bools, Floats, Ints

#: cells of the smallest part
LEAF = 24
#: freedoms of a point
OWN = 3
#: a pivot that is this small a share of what its freedom has alone: nothing holds it
LOOSE = 1e-12


@dataclass(frozen=True)
class Reduced:
    """kept: (b,) numbers of the freedoms that stay, K (b, b) what is left for them. steps: what was eliminated, in order: its freedoms, those
    that it hangs on, L of its own K = L Lᵀ, and L⁻¹ times its K with the others."""

    kept: Ints
    K: Floats
    steps: list[tuple[Ints, Ints, Floats, Floats]]

    def push(self, force: Floats) -> Floats:
        """(n, c) forces on all freedoms → the same with those of the eliminated moved to the kept ones, (b, c)."""
        return np.asarray(self._forward(force)[self.kept])

    def recover(self, force: Floats, moved: Floats) -> Floats:
        """(n, c) movements of all freedoms, from forces (n, c) on them and the movements (b, c) of the kept."""
        found = self._forward(force)
        found[self.kept] = moved
        for own, others, L, hangs in reversed(self.steps):
            found[own] = _solved(L, found[own] - hangs @ found[others], transposed=True)
        return found

    def _forward(self, force: Floats) -> Floats:
        """L⁻¹ of the forces on what is eliminated, and what it leaves on the others."""
        found = force.copy()
        for own, others, L, hangs in self.steps:
            found[own] = _solved(L, found[own])
            found[others] -= hangs.T @ found[own]
        return found


def reduce(corners: Sequence[Ints], stiffness: Sequence[Floats], xy: Floats, kept: Bools) -> Reduced | int:
    """A mesh with points xy (v, 2), reduced to the freedoms kept (v, 3). corners: of each cell its points (k,); stiffness: (3 k, 3 k).
    Gives the number of a point that nothing holds where one can move freely."""
    count = np.bincount(np.concatenate(corners), minlength=len(xy))
    middle = np.array([xy[c].mean(axis=0) for c in corners])
    stays = kept.ravel()
    shared = np.flatnonzero(stays & np.repeat(count > 0, OWN))
    place = np.cumsum(stays) - 1
    steps = list[tuple[Ints, Ints, Floats, Floats]]()
    alone = np.zeros(len(stays))
    for c, k in zip(corners, stiffness, strict=True):
        np.add.at(alone, _freedoms(c), np.diag(k))
    Kbb = np.zeros((len(shared), len(shared)))

    def leaf(cells: Ints) -> _Front:
        points, number = np.unique(np.concatenate([corners[i] for i in cells]), return_inverse=True)
        dofs = _freedoms(points)
        K = np.zeros((len(dofs), len(dofs)))
        first = 0
        for i in cells.tolist():
            own = _freedoms(number[first : first + len(corners[i])])
            K[own[:, None], own] += stiffness[i]
            first += len(corners[i])
        held = stays[dofs]
        at = place[dofs[held]]
        Kbb[at[:, None], at] += K[held][:, held]
        return _Front(dofs[~held], dofs[held], K[~held][:, ~held], K[~held][:, held], points, np.bincount(number))

    def front(cells: Ints) -> _Front:
        if len(cells) <= LEAF:
            whole = leaf(cells)
        else:
            spread = np.ptp(middle[cells], axis=0)
            order = cells[np.argsort(middle[cells, int(np.argmax(spread))], kind="stable")]
            whole = _both(front(order[: len(order) // 2]), front(order[len(order) // 2 :]))
        done = whole.points[whole.met == count[whole.points]]
        gone = np.isin(whole.free // OWN, done, assume_unique=False)
        if not gone.any():
            return whole
        own = whole.free[gone]
        try:
            L = cholesky(whole.K[gone][:, gone], lower=True, check_finite=False)
        except LinAlgError:
            raise _Loose(int(own[-1]) // OWN) from None
        weak = np.diag(L) ** 2 < LOOSE * alone[own]
        if weak.any():
            raise _Loose(int(own[np.argmax(weak)]) // OWN)
        hangs = _solved(L, np.concatenate([whole.K[gone][:, ~gone], whole.K_held[gone]], axis=1))
        steps.append((own, np.concatenate([whole.free[~gone], whole.held]), L, hangs))
        free, held = np.split(hangs, [int((~gone).sum())], axis=1)
        at = place[whole.held]
        Kbb[at[:, None], at] -= held.T @ held
        return _Front(
            whole.free[~gone],
            whole.held,
            whole.K[~gone][:, ~gone] - free.T @ free,
            whole.K_held[~gone] - free.T @ held,
            whole.points,
            whole.met,
        )

    try:
        front(np.arange(len(corners)))
    except _Loose as loose:
        return loose.point
    return Reduced(shared, (Kbb + Kbb.T) / 2, steps)


@dataclass(frozen=True)
class _Front:
    """A part with what is left of it: freedoms that are still to go and those that stay, K of the first among themselves and with the others;
    its points, and how many of its cells meet at each."""

    free: Ints
    held: Ints
    K: Floats
    K_held: Floats
    points: Ints
    met: Ints


def _both(one: _Front, other: _Front) -> _Front:
    free, held = np.union1d(one.free, other.free), np.union1d(one.held, other.held)
    K, K_held = np.zeros((len(free), len(free))), np.zeros((len(free), len(held)))
    points = np.union1d(one.points, other.points)
    met = np.zeros(len(points), dtype=np.int64)
    for part in (one, other):
        rows, columns = np.searchsorted(free, part.free), np.searchsorted(held, part.held)
        K[rows[:, None], rows] += part.K
        K_held[rows[:, None], columns] += part.K_held
        met[np.searchsorted(points, part.points)] += part.met
    return _Front(free, held, K, K_held, points, met)


class _Loose(Exception):
    def __init__(self, point: int):
        super().__init__(point)
        self.point = point


def _solved(L: Floats, right: Floats, transposed: bool = False) -> Floats:
    return np.asarray(solve_triangular(L, right, trans=int(transposed), lower=True, check_finite=False))


def _freedoms(points: Ints) -> Ints:
    return (OWN * points[:, None] + np.arange(OWN)).ravel()
