"""Unknowns of many small symmetric matrices eliminated, all matrices together."""

from __future__ import annotations

import numpy as np

from engine.structure.model import Floats

#: unknowns of an element's ends, which stay: its lean and two rotations
ENDS = 3


class Eliminated:
    """All but the first unknowns of A (3 + b, 3 + b, k, c), which is used up: matrices of k elements in c states, whose b last
    unknowns are bubbles; what is above their diagonal is not looked at.

    C: (3, 3, k, c) what is left for the ends; sound: (c,) whether all bubbles resist, by the signs of the pivots. Golub and Van
    Loan, Matrix Computations, 4.1 (LDLᵀ).
    """

    def __init__(self, A: Floats):
        self.pivots: list[Floats] = []
        self.rows: list[Floats] = []
        self.sound = np.ones(A.shape[3], dtype=bool)
        for j in range(len(A) - 1, ENDS - 1, -1):
            pivot = A[j, j]
            self.sound &= (pivot > 0).all(axis=0)
            row = A[j, :j] / np.where(pivot == 0, 1.0, pivot)
            for i in range(j):
                A[i, : i + 1] -= row[i] * A[j, : i + 1]
            self.pivots.append(pivot)
            self.rows.append(row)
        self.C = A[:ENDS, :ENDS]
        for i in range(ENDS):
            self.C[i, i + 1 :] = self.C[i + 1 :, i]

    def push(self, force: Floats) -> Floats:
        """(3, k, c) forces on the ends from forces (b, k, c) on the bubbles."""
        return self._forward(force)[:ENDS]

    def bubbles(self, t: Floats, force: Floats) -> Floats:
        """(b, k, c) bubbles under forces, for movements t (3, k, c)."""
        x, left = t, self._forward(force)
        for pivot, row in zip(self.pivots[::-1], self.rows[::-1], strict=True):
            x = np.concatenate([x, (left[len(x)] / pivot - (row * x).sum(axis=0))[None]])
        return np.asarray(x[ENDS:])

    def _forward(self, force: Floats) -> Floats:
        left = np.concatenate([np.zeros((ENDS, *force.shape[1:])), force])
        for row in self.rows:
            left[: len(row)] -= row * left[len(row)]
        left[:ENDS] *= -1
        return left
