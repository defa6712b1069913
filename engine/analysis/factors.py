"""Factors of a stiffness matrix, for many right-hand sides at once.

The factors are SuperLU's. Its own solve takes one right-hand side after another; here a row of the triangle is taken off all
of them together, four to five times as quick. SciPy has no such solve, but its product Y += A X of a matrix in rows is one
when X and Y are the same array: row i adds −l_ij y_j for j < i, all of which are final by then (forward substitution; Golub and
Van Loan, Matrix Computations, 3.1.1). The product is not part of SciPy's public interface: tests/engine/test_factors.py
compares it with SuperLU, and every response states its residual.
"""

from __future__ import annotations

from typing import Any

import numpy as np
from scipy.sparse import csc_array, csr_array
from scipy.sparse._sparsetools import csr_matvecs
from scipy.sparse.linalg import splu

from engine.structure.model import Floats, Ints

#: a pivot this small beside its own diagonal term may mean that nothing holds the freedom
PIVOT_LIMIT = 1e-9
#: it does where the softest movement has no more energy than this share of what its freedoms have alone, times the root of their
#: number: rounding, which adds up where many members meet in one freedom, as in a rigid floor
NOTHING = 1e-14


def sparse_lu(K: csc_array) -> Any:
    """Sparse LU in symmetric mode with a minimum-degree ordering: halls are stringy, and their factors stay thin."""
    return splu(K, permc_spec="MMD_AT_PLUS_A", diag_pivot_thresh=0.0, options={"SymmetricMode": True})


class Factors:
    """L U = P_r K P_c; pivots: (n,) the diagonal of U, in its order."""

    def __init__(self, lu: Any):
        lower, upper = csr_array(lu.L), csr_array(lu.U)
        self.pivots = np.asarray(upper.diagonal())
        self.lower = _substitution(lower)
        # from the last row to the first: the same substitution with all in reverse
        indptr, indices, data = _substitution(upper)
        n, data = len(indptr) - 1, data / np.repeat(self.pivots, np.diff(indptr))
        self.upper = (indptr[-1] - indptr[::-1], (n - 1 - indices)[::-1].copy(), data[::-1].copy())
        self.inverse = 1 / self.pivots[::-1, None]
        self.order: Ints = np.argsort(lu.perm_c)
        self.into: Ints = np.argsort(lu.perm_r)
        self.out: Ints = n - 1 - lu.perm_c

    def solve(self, right: Floats) -> Floats:
        """K⁻¹ right, for (n, c) right-hand sides."""
        y = np.take(right, self.into, axis=0)
        _substitute(self.lower, y)
        y = np.multiply(y[::-1], self.inverse, out=np.empty_like(y))
        _substitute(self.upper, y)
        return np.take(y, self.out, axis=0)


def _substitution(triangle: csr_array) -> tuple[Ints, Ints, Floats]:
    """The rows of a triangle without its diagonal, negative: indptr, indices, data."""
    count = np.diff(triangle.indptr)
    row = np.repeat(np.arange(len(count)), count)
    kept = triangle.indices != row
    before = np.concatenate([[0], np.cumsum(np.bincount(row[kept], minlength=len(count)))])
    return before.astype(triangle.indices.dtype), triangle.indices[kept], -triangle.data[kept]


def _substitute(triangle: tuple[Ints, Ints, Floats], y: Floats) -> None:
    """Forward substitution in place on contiguous (n, c)."""
    n, count = y.shape
    flat = y.reshape(-1)
    csr_matvecs(n, n, count, *triangle, flat, flat)


def sound_factor(K: csc_array) -> Factors | None:
    """The factors of K, None where something moves freely."""
    try:
        factors = Factors(sparse_lu(K))
    except RuntimeError:
        return None
    diagonal = np.abs(K.diagonal())
    weak = np.abs(factors.pivots) < PIVOT_LIMIT * diagonal[factors.order]
    nothing = NOTHING * np.sqrt(len(diagonal))
    return None if weak.any() and _softest(K, factors, diagonal) < nothing else factors


def _softest(K: csc_array, factors: Factors, diagonal: Floats) -> float:
    """The least uᵀ K u / uᵀ D u, with D the diagonal of K, by inverse iteration; 0 where the factors are not sound."""
    u: Floats = np.random.default_rng(3).standard_normal((len(diagonal), 1))
    for _ in range(8):
        with np.errstate(all="ignore"):
            u = factors.solve(diagonal[:, None] * u)
        size = np.abs(u).max(initial=0.0)
        if not np.isfinite(size) or size == 0.0:
            return 0.0
        u /= size
    return float(((K @ u) * u).sum() / (diagonal[:, None] * u * u).sum())
