"""The eigenproblem of buckling, −K_g x = θ K x with θ = 1/α, and of vibration, M x = θ K x, on nodes, released ends and
bubbles; and Krylov spaces that find its greatest θ.

Vectors are flat, one column a state: the freedoms of the nodes that move (n), four of each element with a released end (4 r),
the bubbles of what bends (m b). K is block diagonal over these three. Parlett, The Symmetric Eigenvalue Problem, chapters 11
(Ritz pairs and their residuals) and 13 (block Krylov spaces, orthogonalised twice: Daniel, Gragg, Kaufman, Stewart, 1976).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_array, hstack

from engine.analysis.geometric import BUBBLES, Geometry
from engine.lazy import lazily
from engine.structure.model import Floats, Ints

#: of a vector, what is left beside a basis counts as nothing new below this share
NEW = 1e-7
#: relative residual at which a Ritz pair is found, and up to which it is given when the steps are used up: θ is as close as
#: its square
FOUND, NEARLY = 1e-5, 1e-2

#: rows of what bends whose axial force varies, and what that adds to their K_g: (3 + b, 3 + b, k, c)
Varying = tuple[Ints, Floats]


@dataclass(frozen=True)
class Pencil:
    """K: elastic stiffness of the nodes that move; solve: by its factors."""

    geometry: Geometry
    K: csr_array
    solve: Callable[[Floats], Floats]

    @lazily
    def through(self) -> csr_array:
        """(3 m + h, n + 4 r) from nodes and released ends to what bends and hangs."""
        return csr_array(hstack([self.geometry.Z, self.geometry.Z_loose]))

    @property
    def sizes(self) -> tuple[int, int, int]:
        """How many freedoms of nodes, of released ends, and bubbles."""
        return self.K.shape[0], 4 * len(self.geometry.loose), len(self.geometry.bend) * BUBBLES

    def split(self, x: Floats) -> tuple[Floats, Floats, Floats]:
        """Nodes (n, c), released ends (r, 4, c), bubbles (m, b, c)."""
        n, e, _ = self.sizes
        return x[:n], x[n : n + e].reshape(-1, 4, x.shape[1]), x[n + e :].reshape(-1, BUBBLES, x.shape[1])

    def shapes(self, x: Floats) -> tuple[Floats, Floats]:
        """(3 + b, m, c) lean, rotations and bubbles of what bends, and the lean of what hangs (h, c)."""
        geo = self.geometry
        n, e, _ = self.sizes
        t, lean = geo.split(np.asarray(self.through @ x[: n + e]))
        return np.concatenate([t, self.split(x)[2]], axis=1).swapaxes(0, 1), lean

    def elastic(self, x: Floats) -> Floats:
        """K x."""
        u, e, a = self.split(x)
        parts = (self.K @ u, self.geometry.K_r @ e, self.geometry.K_b[..., None] * a)
        return np.concatenate([np.asarray(part).reshape(-1, x.shape[1]) for part in parts])

    def precondition(self, r: Floats) -> Floats:
        """K⁻¹ r."""
        u, e, a = self.split(r)
        parts = (self.solve(u), self.geometry.D @ e, a / self.geometry.K_b[..., None])
        return np.concatenate([np.asarray(part).reshape(-1, r.shape[1]) for part in parts])

    def geometric(self, x: Floats, N: Floats, varying: Varying | None = None) -> Floats:
        """K_g x for mean axial forces N (e, c), tension positive; one state for all columns where c is 1."""
        geo, c = self.geometry, x.shape[1]
        n, e, _ = self.sizes
        t, lean = geo.split(np.asarray(self.through @ x[: n + e]))
        a = self.split(x)[2]
        bend, hang = geo.rates(N)
        rate = bend[:, None]
        turned = rate * (geo.G @ t + np.swapaxes(geo.g, 1, 2) @ a)
        swollen = rate * (geo.g @ t + a)
        if varying is not None:
            rows, more = varying
            more = np.broadcast_to(more, (*more.shape[:3], c))
            added = np.einsum("ijkc,kjc->kic", more, np.concatenate([t[rows], a[rows]], axis=1))
            turned[rows] += added[:, :3]
            swollen[rows] += added[:, 3:]
        force = geo.join(turned, hang * lean)
        return np.concatenate([np.asarray(self.through.T @ force), swollen.reshape(-1, c)])

    def random(self, count: int, seed: int = 7) -> Floats:
        """Disturbances in every direction, (n + 4 r + m b, count)."""
        push = np.random.default_rng(seed).standard_normal((sum(self.sizes), count))
        found: Floats = self.precondition(push)
        return found


def orthonormal(
    X: Floats, KX: Floats, basis: Floats | None = None, K_basis: Floats | None = None
) -> tuple[Floats, Floats]:
    """Columns of X that are orthonormal in K to one another and to a basis, with K times them; KX: K X. Those that bring nothing
    new are left out."""
    size = np.sqrt(np.maximum((X * KX).sum(axis=0), 0.0))
    good = size > 0
    X, KX = X[:, good] / size[good], KX[:, good] / size[good]
    for _ in range(2):
        if basis is not None and K_basis is not None:
            share = K_basis.T @ X
            X, KX = X - basis @ share, KX - K_basis @ share
    # by the Gram matrix, twice over: directions with little in them go
    for limit in (NEW**2, 0.1):
        if not X.shape[1]:
            break
        values, vectors = np.linalg.eigh((X.T @ KX + KX.T @ X) / 2)
        kept = values > limit
        turn = vectors[:, kept] / np.sqrt(values[kept])
        X, KX = X @ turn, KX @ turn
    return X, KX


@dataclass(frozen=True)
class Ritz:
    """Ritz pairs, greatest θ first: values (k,), vectors (size, k) of unit energy, and residuals (k,) of A x − θ x in energy."""

    values: Floats
    vectors: Floats
    residuals: Floats


def greatest(pencil: Pencil, image: Callable[[Floats], Floats], start: Floats, count: int, steps: int = 40) -> Ritz:
    """The `count` greatest θ of B x = θ K x, each as often as it occurs (up to the width of `start`), by a block Krylov space
    from `start`. image: B x. What is not found is left out: no value without its vector."""
    basis, K_basis = orthonormal(start, pencil.elastic(start))
    block, images, moved = basis, np.zeros((len(basis), 0)), np.zeros((len(basis), 0))
    empty = Ritz(np.zeros(0), np.zeros((len(start), 0)), np.zeros(0))
    if not block.shape[1]:
        return empty
    for step in range(steps):
        pushed = image(block)
        images = np.concatenate([images, pushed], axis=1)
        w = pencil.precondition(pushed)
        moved = np.concatenate([moved, w], axis=1)
        used = basis
        H = basis.T @ images
        values, vectors = np.linalg.eigh((H + H.T) / 2)
        values, vectors = values[::-1][:count], vectors[:, ::-1][:, :count]
        rest = moved @ vectors - (basis @ vectors) * values
        residual = np.sqrt(np.maximum((rest * pencil.elastic(rest)).sum(axis=0), 0.0))
        scale = max(float(np.abs(values).max(initial=0.0)), 1e-300)
        done = (residual <= FOUND * np.maximum(values, 1e-3 * scale)) | (values <= 1e-9 * scale)
        block, K_block = orthonormal(w, pencil.elastic(w), basis, K_basis)
        if (step and done.all()) or not block.shape[1] or basis.shape[1] + block.shape[1] > len(basis) + 1:
            break
        basis, K_basis = np.concatenate([basis, block], axis=1), np.concatenate([K_basis, K_block], axis=1)
    kept = (values > 1e-9 * scale) & (residual <= NEARLY * values)
    return Ritz(values[kept], (used @ vectors)[:, kept], residual[kept])
