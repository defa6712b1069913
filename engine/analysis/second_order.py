"""Second order: P-Δ and P-δ of all states at once, with the elastic factorisation that the first order has already made.

Transverse displacement of an element: the exact shape of the unloaded elastic element for its end displacements, what its
loads make of it between clamped ends, and bubbles: the buckling modes of a clamped element, which are orthogonal to both.
The axial force N (tension positive) does work ½ ∫ N w'² dx on all of them. Under a constant N bubbles do not couple with one
another, and where loads along an element make it vary they do so on it alone (engine/analysis/uneven.py): they are eliminated
on their element. The unknowns left (displacements of nodes and of released ends) are found by conjugate gradients
with the elastic stiffness as preconditioner: the pseudo-load iteration u ← K⁻¹ (f − K_g u) with optimal steps, for every
state as one block of right-hand sides.

Przemieniecki, Theory of Matrix Structural Analysis, chapter 15 (geometric stiffness with shear: (15.34)); Saad, Iterative
Methods for Sparse Linear Systems, 9.2 (preconditioned conjugate gradients), 6.7.3 (their Lanczos matrix).
"""

from __future__ import annotations

from collections.abc import Callable
from copy import copy

import numpy as np
from scipy.sparse import csr_array, hstack

from engine.analysis.elimination import Eliminated
from engine.analysis.geometric import BUBBLES, Geometry
from engine.structure.model import Bools, Floats, Ints

#: relative residual at which the iteration ends
CLOSE = 1e-10
MOST_STEPS = 60
#: share of the states still open at which the others are left behind
FEW = 0.5


class Condensed:
    """K + K_g of several states on nodes and released ends, x = (n + 4 r, c), without the bubbles.

    A bubble follows from its element's ends and loads, a = (K_b a0 − (N/L) g t) / (K_b + N/L), so that the element's matrix is
    C = (N/L) G − (N/L)² gᵀ (K_b + N/L)⁻¹ g; where the axial force varies, the same with whole matrices. uneven: rows of `bend`
    where it does, and (3 + b, 3 + b, k, c) what that adds to K_g. buckled: (c,) states in which an element buckles between
    clamped ends; their axial forces are left out here.
    """

    def __init__(
        self,
        geometry: Geometry,
        K: csr_array,
        solve: Callable[[Floats], Floats],
        uneven: tuple[Ints, Floats] | None = None,
    ):
        self.geometry, self.K, self.solve, self.uneven = geometry, K, solve, uneven
        self.Z = csr_array(hstack([geometry.Z, geometry.Z_loose]))
        self.Z_T = csr_array(self.Z.T)
        self.n = K.shape[0]
        count = len(geometry.bend)
        self.G = geometry.G.transpose(1, 2, 0).reshape(9, count, 1)
        if uneven is not None:
            self.whole = geometry.whole(uneven[0]).transpose(1, 2, 0)[..., None].copy()
        self.g_g = np.einsum("mbi,mbj->mijb", geometry.g, geometry.g).reshape(count, 9, BUBBLES)

    def load(self, N: Floats, without: Bools | None = None) -> Condensed:
        """Under mean axial forces N (e, c); without any in some states (c,)."""
        geo = self.geometry
        if without is not None:
            N = np.where(without, 0.0, N)
        bend, _ = geo.rates(N)
        self.buckled = (geo.K_b[..., None] + bend[:, None] <= 0).any(axis=(0, 1))
        if self.uneven is not None:
            rows, more = self.uneven
            if without is not None and without.any():
                more = np.where(without, 0.0, more)
            self.bubbly = Eliminated(self._whole(bend[rows], more))
            self.buckled |= ~self.bubbly.sound
            if self.buckled.any():
                bend = np.where(self.buckled, 0.0, bend)
                self.bubbly = Eliminated(self._whole(bend[rows], np.where(self.buckled, 0.0, more)))
        self.N = N = np.where(self.buckled, 0.0, N)
        bend, self.hang = geo.rates(N)
        self.rate = bend[:, None]
        self.soft = geo.K_b[..., None] + self.rate
        count, states = len(geo.bend), N.shape[1]
        self.C = np.empty((9, count, states))
        np.matmul(self.g_g, self.rate**2 / self.soft, out=self.C.transpose(1, 0, 2))
        np.subtract(self.G * bend, self.C, out=self.C)
        if self.uneven is not None:
            self.C[:, self.uneven[0]] = self.bubbly.C.reshape(9, -1, states)
        self.C = self.C.reshape(3, 3, count * states)
        return self

    def _whole(self, bend: Floats, more: Floats) -> Floats:
        """(3 + b, 3 + b, k, c) matrix of the elements whose axial force varies, with N/L (k, c), and the bubbles' stiffness."""
        assert self.uneven is not None
        rows, bubble = self.uneven[0], np.arange(3, 3 + BUBBLES)
        found = self.whole * bend
        found += more
        found[bubble, bubble] += self.geometry.K_b[rows].T[..., None]
        return np.asarray(found)

    def of(self, which: Ints) -> Condensed:
        """For some of the states, to multiply with only."""
        part = copy(self)
        part.hang = np.take(self.hang, which, axis=1)
        C = np.take(self.C.reshape(3, 3, len(self.geometry.bend), self.hang.shape[1]), which, axis=3)
        part.C = C.reshape(3, 3, C.shape[2] * C.shape[3])
        return part

    def ends(self, y: Floats) -> Floats:
        """(3 m + h, c) geometric forces for movements y of what bends and hangs, without what loads make of the bubbles."""
        out = np.empty_like(y)
        m = 3 * len(self.geometry.bend)
        np.einsum("ijk,jk->ik", self.C, y[:m].reshape(3, self.C.shape[2]), out=out[:m].reshape(3, self.C.shape[2]))
        np.multiply(self.hang, y[m:], out=out[m:])
        return out

    def loaded(self, a0: Floats) -> Floats:
        """(3 m + h, c) forces on the ends from bubbles a0 (m, b, c) that loads make."""
        geo = self.geometry
        push = np.swapaxes(geo.g, 1, 2) @ (self.rate * geo.K_b[..., None] * a0 / self.soft)
        if self.uneven is not None:
            rows = self.uneven[0]
            force = (geo.K_b[rows, :, None] * a0[rows]).swapaxes(0, 1)
            push[rows] = self.bubbly.push(force).swapaxes(0, 1)
        return geo.join(push, np.zeros_like(self.hang))

    def bubbles(self, t: Floats, a0: Floats) -> Floats:
        """(m, b, c) bubbles for movements t (m, 3, c)."""
        geo = self.geometry
        found = (geo.K_b[..., None] * a0 - self.rate * (geo.g @ t)) / self.soft
        if self.uneven is not None:
            rows = self.uneven[0]
            force = (geo.K_b[rows, :, None] * a0[rows]).swapaxes(0, 1)
            found[rows] = self.bubbly.bubbles(t[rows].swapaxes(0, 1), force).swapaxes(0, 1)
        return np.asarray(found)

    def elastic(self, x: Floats) -> Floats:
        """K x."""
        geo, n = self.geometry, self.n
        found = np.empty_like(x)
        found[:n] = self.K @ x[:n]
        if len(geo.loose):
            found[n:] = (geo.K_r @ x[n:].reshape(len(geo.loose), 4, -1)).reshape(len(x) - n, -1)
        return found

    def geometric(self, x: Floats) -> Floats:
        """K_g x."""
        return np.asarray(self.Z_T @ self.ends(self.Z @ x))

    def precondition(self, r: Floats) -> Floats:
        """K⁻¹ r."""
        geo, n = self.geometry, self.n
        found = np.empty_like(r)
        found[:n] = self.solve(r[:n])
        if len(geo.loose):
            found[n:] = (geo.D @ r[n:].reshape(len(geo.loose), 4, -1)).reshape(len(r) - n, -1)
        return found


def amplify(
    operator: Condensed, right: Floats, scale: Floats, start: Floats, close: float = CLOSE
) -> tuple[Floats, Bools, int]:
    """Solve (K + K_g) x = right for all states. scale: (c,) work that measures the residual; start: a first guess; close:
    relative residual, in energy, at which it ends. Gives x, which of them found equilibrium (the others lie beyond their
    critical load), and the number of block solves."""
    found, stable = start.copy(), np.ones(right.shape[1], dtype=bool)
    r = right - operator.elastic(found) - operator.geometric(found)
    z = operator.precondition(r)
    rz, limit = _dot(r, z), close**2 * scale
    part, steps, x = operator, 1, found
    where, open_ = np.arange(len(rz)), rz > limit
    # K p goes along: K z is the residual
    p, Kp = z, r.copy()
    aside = np.empty_like(p)
    while open_.any() and steps < MOST_STEPS:
        if open_.sum() <= FEW * len(open_):
            # states that have come to rest go along until it pays to leave them behind
            if x is not found:
                found[:, where] = x
            left = np.flatnonzero(open_)
            part, where, rz = part.of(left), where[left], rz[left]
            x, r, p, Kp = (np.take(values, left, axis=1) for values in (x, r, p, Kp))
            open_, aside = np.ones(len(where), dtype=bool), np.empty_like(p)
        Ap = part.geometric(p)
        Ap += Kp
        curve = _dot(p, Ap)
        fell = open_ & (curve <= 0)
        stable[where[fell]] = False
        open_ &= ~fell
        alpha = np.where(open_, rz / np.where(open_, curve, 1.0), 0.0)
        x += np.multiply(p, alpha, out=aside)
        r -= np.multiply(Ap, alpha, out=aside)
        z = part.precondition(r)
        steps += 1
        new = _dot(r, z)
        beta = np.where(open_, new / np.maximum(rz, 1e-300), 0.0)
        open_ &= new > limit[where]
        rz = new
        p *= beta
        p += z
        Kp *= beta
        Kp += r
    if x is not found:
        found[:, where] = x
    stable[where[open_]] = False
    return found, stable, steps


def _dot(a: Floats, b: Floats) -> Floats:
    found: Floats = np.einsum("kc,kc->c", a, b)
    return found
