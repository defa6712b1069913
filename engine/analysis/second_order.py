"""Second order: P-Δ and P-δ of all states at once, with the elastic factorisation that the first order has already made.

Transverse displacement of an element: the exact shape of the unloaded elastic element for its end displacements, what its
loads make of it between clamped ends, and bubbles: the buckling modes of a clamped element, which are orthogonal to both.
The axial force N (tension positive) does work N/2 ∫ w'² dx on all of them. The unknowns (displacements of nodes, of released
ends, amplitudes of bubbles) are found by conjugate gradients with the elastic stiffness as preconditioner: the pseudo-load
iteration u ← K⁻¹ (f − K_g u) with optimal steps, for every state as one block of right-hand sides.

Przemieniecki, Theory of Matrix Structural Analysis, chapter 15 (geometric stiffness with shear: (15.34)); Saad, Iterative
Methods for Sparse Linear Systems, 9.2 (preconditioned conjugate gradients), 6.7.3 (their Lanczos matrix).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cache

import numpy as np
from numpy.polynomial import Polynomial
from scipy.linalg import eigh
from scipy.sparse import csr_array

from engine.analysis.elements import Elements
from engine.analysis.transfer import PLANES
from engine.structure.model import Bools, Floats, Ints

#: bubbles of an element; with four, clamped ends buckle within 0.06 % of the exact load
BUBBLES = 4
#: local freedoms (w1, θ1, w2, θ2) in the planes x–y and x–z, and the sense of the rotation against θ = dw/dx
FREEDOMS_OF = tuple(((w1, r1, w2, r2), sense) for w1, r1, w2, r2, sense in PLANES.values())
#: relative residual at which the iteration ends
CLOSE = 1e-10
MOST_STEPS = 60
#: critical factors beyond this are found less closely
FAR_FROM_CRITICAL = 30.0


@dataclass(frozen=True)
class Shapes:
    """Shapes on the unit element, at ξ = x/L. hermite: of the shear-rigid beam for (w1, θ1 L, w2, θ2 L); straight: what
    shear adds; bubbles. mu: ∫ψ''² of the bubbles, whose ∫ψ'² is 1. M: (4 + b, 4 + b) ∫ of the products of all shapes.
    """

    hermite: tuple[Polynomial, ...]
    straight: tuple[Polynomial, ...]
    bubbles: tuple[Polynomial, ...]
    mu: Floats
    G: tuple[Floats, Floats, Floats]
    g: tuple[Floats, Floats]
    M: Floats


def _inner(p: Polynomial, q: Polynomial) -> float:
    found = (p * q).integ()
    return float(found(1.0) - found(0.0))


@cache
def shapes() -> Shapes:
    """The shapes and their integrals: G = ∫H'H'ᵀ in powers of Φ, g = ∫H'ψ'."""
    x = Polynomial([0.0, 1.0])
    hermite = (1 - 3 * x**2 + 2 * x**3, x - 2 * x**2 + x**3, 3 * x**2 - 2 * x**3, x**3 - x**2)
    straight = (1 - x, (x - x**2) / 2, x, (x**2 - x) / 2)
    raw = [x**2 * (1 - x) ** 2 * (2 * x - 1) ** i for i in range(BUBBLES)]
    slopes, bends = [p.deriv() for p in raw], [p.deriv(2) for p in raw]
    A = np.array([[_inner(p, q) for q in bends] for p in bends])
    B = np.array([[_inner(p, q) for q in slopes] for p in slopes])
    mu, modes = eigh(A, B)
    bubbles = tuple(sum((c * p for c, p in zip(mode, raw, strict=True)), Polynomial([0.0])) for mode in modes.T)
    h, s, b = ([p.deriv() for p in group] for group in (hermite, straight, bubbles))
    G = (
        np.array([[_inner(p, q) for q in h] for p in h]),
        np.array([[_inner(p, q) + _inner(r, t) for q, t in zip(h, s, strict=True)] for p, r in zip(s, h, strict=True)]),
        np.array([[_inner(p, q) for q in s] for p in s]),
    )
    g = (np.array([[_inner(p, q) for p in h] for q in b]), np.array([[_inner(p, q) for p in s] for q in b]))
    every = (*hermite, *bubbles)
    M = np.array([[_inner(p, q) for q in every] for p in every])
    return Shapes(hermite, straight, bubbles, mu, G, g, M)


@dataclass(frozen=True)
class Geometry:
    """What second order needs of the elements, in scaled freedoms (w1, ±θ1 L, w2, ±θ2 L) of their own ends.

    ends: (8 e, n) from the displacements of the nodes, planes × elements × 4; scale: (2, e, 4). bend: (m, 2) plane and
    element of those that bend as part of the structure, with G: (m, 4, 4) and g: (m, b, 4), to be multiplied by N/L, and
    K_b: (m, b) stiffness of their bubbles. hang: (h, 2) those that take part as straight lines; ends_bend: (4 m, n), and
    ends_hang: (h, n) the difference of their end movements. loose: rows of `bend` with a released end; D, K_r: (r, 4, 4)
    its flexibility and stiffness.
    """

    ends: csr_array
    scale: Floats
    bend: Ints
    hang: Ints
    ends_bend: csr_array
    ends_hang: csr_array
    G: Floats
    g: Floats
    K_b: Floats
    loose: Ints
    D: Floats
    K_r: Floats
    length: Floats

    def on(self, columns: Ints, R: csr_array | None) -> Geometry:
        """With the displacements of some freedoms alone, in the axes that R turns to global ones."""
        parts = (self.ends, self.ends_bend, self.ends_hang)
        turned = parts if R is None else tuple(csr_array(part @ R) for part in parts)
        all_, bend, hang = (csr_array(part[:, columns]) for part in turned)
        return replace(self, ends=all_, ends_bend=bend, ends_hang=hang)

    def pick(self, values: Floats) -> Floats:
        """Of (2, e, …) values the rows of what bends."""
        return np.asarray(values[self.bend[:, 0], self.bend[:, 1]])

    def spread(self, values: Floats, count: int) -> Floats:
        """Rows of what bends as (2, e, …) values, zero elsewhere."""
        out = np.zeros((2, count, *values.shape[1:]))
        out[self.bend[:, 0], self.bend[:, 1]] = values
        return out


def geometry(elements: Elements, k: Floats, maps: Floats, T: Floats, dofs: Ints) -> Geometry:
    """The geometry of elements with their unreleased stiffness k, the maps of their releases, and their transforms T.

    Elements hinged at both ends, and bars, take part as straight lines: their own buckling is their check as members. What
    purlins or rails hold that are no members does not move sideways between its nodes, and takes no part there.
    """
    unit = shapes()
    n, L = len(elements), elements.length
    scale = np.ones((2, n, 4))
    bends, hangs = np.zeros((2, n), dtype=bool), np.zeros((2, n), dtype=bool)
    rows, columns, values = [], [], []
    own = maps @ T
    for p, (freedoms, sense) in enumerate(FREEDOMS_OF):
        f = list(freedoms)
        scale[p, :, 1] = scale[p, :, 3] = sense * L
        turns = [f[1], f[3]]
        hinged = elements.released[:, turns].all(axis=1) & ~elements.spring[:, turns].any(axis=1)
        hangs[p] = elements.bar | hinged
        bends[p] = ~hangs[p] & ~(elements.held if p == 0 else False)
        block = own[:, f] * scale[p][:, :, None]
        index = ((p * n + np.arange(n))[:, None] * 4 + np.arange(4))[:, :, None]
        rows.append(np.broadcast_to(index, block.shape).ravel())
        columns.append(np.broadcast_to(dofs[:, None, :], block.shape).ravel())
        values.append(block.ravel())
    value = np.concatenate(values)
    kept = value != 0
    places = (np.concatenate(rows)[kept], np.concatenate(columns)[kept])
    ends = csr_array((value[kept], places), shape=(8 * n, int(dofs.max()) + 1))
    bend, hang = np.argwhere(bends), np.argwhere(hangs)
    plane, e = bend.T
    EI = np.where(plane == 0, elements.EIz[e], elements.EIy[e])
    GA = np.where(plane == 0, elements.GAy[e], elements.GAz[e])
    phi = 12 * EI / (GA * L[e] ** 2)
    P = phi[:, None, None]
    G = (unit.G[0] + P * unit.G[1] + P**2 * unit.G[2]) / (1 + P) ** 2
    g = (unit.g[0] + P * unit.g[1]) / (1 + P)
    K_b = EI[:, None] / L[e, None] ** 3 * unit.mu / (1 + unit.mu * phi[:, None] / 12)
    free = np.array([elements.released[j, list(FREEDOMS_OF[i][0])] for i, j in bend.tolist()]).reshape(-1, 4)
    loose = np.flatnonzero(free.any(axis=1))
    D, K_r = np.zeros((len(loose), 4, 4)), np.zeros((len(loose), 4, 4))
    for row, m in enumerate(loose.tolist()):
        r = np.flatnonzero(free[m])
        at = np.array(list(FREEDOMS_OF[int(plane[m])][0]), dtype=np.int64)[r]
        part = k[e[m]][np.ix_(at, at)] + np.diag(elements.spring[e[m], at])
        part = part / np.outer(scale[plane[m], e[m], r], scale[plane[m], e[m], r])
        K_r[row][np.ix_(r, r)], D[row][np.ix_(r, r)] = part, np.linalg.inv(part)
    first = 4 * (bend[:, 0] * n + bend[:, 1])
    ends_bend = csr_array(ends[(first[:, None] + np.arange(4)).ravel()])
    first = 4 * (hang[:, 0] * n + hang[:, 1])
    ends_hang = csr_array(ends[first] - ends[first + 2])
    return Geometry(ends, scale, bend, hang, ends_bend, ends_hang, G, g, K_b, loose, D, K_r, L)


@dataclass
class Unknowns:
    """A vector of the enlarged system for several states. u: (n, c); e: (r, 4, c) released ends; a: (m, b, c) bubbles."""

    u: Floats
    e: Floats
    a: Floats

    def dot(self, other: Unknowns) -> Floats:
        """(c,) inner products."""
        count = self.u.shape[1]
        found: Floats = np.zeros(count)
        for mine, its in zip(parts_of(self), parts_of(other), strict=True):
            found = found + np.einsum("kc,kc->c", mine.reshape(-1, count), its.reshape(-1, count))
        return found

    def plus(self, factor: Floats | float, other: Unknowns) -> Unknowns:
        """This with `factor` (c,) times another."""
        return Unknowns(self.u + factor * other.u, self.e + factor * other.e, self.a + factor * other.a)

    def take_off(self, factor: Floats, other: Unknowns) -> None:
        """Subtract `factor` (c,) times another from this, in place."""
        self.u -= factor * other.u
        self.e -= factor * other.e
        self.a -= factor * other.a

    def columns(self, which: Ints | Bools) -> Unknowns:
        """Some of the states."""
        return Unknowns(self.u[:, which], self.e[..., which], self.a[..., which])


@dataclass(frozen=True)
class Operator:
    """K + K_g of several states on the freedoms that move. N: (e, c) axial forces, tension positive; K: elastic stiffness of
    the nodes; solve: by its factors."""

    geometry: Geometry
    K: csr_array
    solve: Callable[[Floats], Floats]
    N: Floats

    def still(self) -> Unknowns:
        """Nothing moved."""
        geo, c = self.geometry, self.N.shape[1]
        return Unknowns(
            np.zeros((self.K.shape[0], c)), np.zeros((len(geo.loose), 4, c)), np.zeros((len(geo.bend), BUBBLES, c))
        )

    def forces(self, q: Floats, lean: Floats, a: Floats) -> tuple[Floats, Floats, Floats]:
        """Geometric forces for movements q (m, 4, c) of ends that bend, differences (h, c) of those that hang, and bubbles:
        on the ends, across the hanging ones, on the bubbles."""
        geo = self.geometry
        rate = (self.N / geo.length[:, None])[geo.bend[:, 1]][:, None]
        across = (self.N / geo.length[:, None])[geo.hang[:, 1]] * lean
        return rate * (geo.G @ q + np.swapaxes(geo.g, 1, 2) @ a), across, rate * (geo.g @ q + a)

    def geometric(self, x: Unknowns, given: tuple[Floats, Floats] | None = None) -> Unknowns:
        """K_g x; given: movements (m, 4, c) and (h, c) besides those of x."""
        geo, c = self.geometry, self.N.shape[1]
        q = (geo.ends_bend @ x.u).reshape(-1, 4, c)
        lean = np.asarray(geo.ends_hang @ x.u)
        q[geo.loose] += x.e
        if given:
            q, lean = q + given[0], lean + given[1]
        force, across, swell = self.forces(q, lean, x.a)
        free = (geo.K_r != 0).any(axis=2)[..., None]
        u = geo.ends_bend.T @ force.reshape(-1, c) + geo.ends_hang.T @ across
        return Unknowns(np.asarray(u), force[geo.loose] * free, swell)

    def elastic(self, x: Unknowns) -> Unknowns:
        """K x."""
        geo = self.geometry
        return Unknowns(np.asarray(self.K @ x.u), geo.K_r @ x.e, geo.K_b[..., None] * x.a)

    def precondition(self, r: Unknowns) -> Unknowns:
        """K⁻¹ r."""
        geo = self.geometry
        return Unknowns(self.solve(r.u), geo.D @ r.e, r.a / geo.K_b[..., None])

    def of(self, which: Ints | Bools) -> Operator:
        """For some of the states."""
        return replace(self, N=self.N[:, which])


def amplify(
    operator: Operator,
    first: Unknowns,
    given: tuple[Floats, Floats],
    start: Unknowns,
    close: float = CLOSE,
) -> tuple[Unknowns, Bools, int]:
    """Solve (K + K_g) x = K `first` − K_g `given` for all states; given: movements of ends that do not depend on x; start: a first
    guess; close: relative residual, in energy, at which it ends. Gives x, which of them found equilibrium (the others lie beyond their
    critical load), and the number of block solves."""
    count = operator.N.shape[1]
    right = operator.elastic(first)
    # work of the first-order state measures the residual
    scale = np.maximum(first.dot(right), 1e-30)
    x = Unknowns(start.u.copy(), start.e.copy(), start.a.copy())
    stable = np.ones(count, dtype=bool)
    product = operator.elastic(x)
    bend = operator.geometric(x, given)
    r = Unknowns(*(f - k - g for f, k, g in zip(parts_of(right), parts_of(product), parts_of(bend), strict=True)))
    z = operator.precondition(r)
    p, rz = z, r.dot(z)
    open_ = np.flatnonzero(rz > close**2 * scale)
    steps = 1
    r, p, rz = r.columns(open_), p.columns(open_), rz[open_]
    while len(open_) and steps < MOST_STEPS:
        part = operator.of(open_)
        Ap = part.elastic(p).plus(1.0, part.geometric(p))
        curve = p.dot(Ap)
        fell = curve <= 0
        alpha = np.where(fell, 0.0, rz / np.where(fell, 1.0, curve))
        for whole, piece in zip(parts_of(x), parts_of(p), strict=True):
            whole[..., open_] += alpha * piece
        stable[open_[fell]] = False
        r.take_off(alpha, Ap)
        z = part.precondition(r)
        steps += 1
        new = r.dot(z)
        go = (new > close**2 * scale[open_]) & ~fell
        beta = new / np.maximum(rz, 1e-300)
        p = z.plus(beta, p).columns(go)
        r, rz, open_ = r.columns(go), new[go], open_[go]
    stable[open_] = False
    return x, stable, steps


def parts_of(x: Unknowns) -> tuple[Floats, Floats, Floats]:
    """Its three parts."""
    return x.u, x.e, x.a


def disturbed(operator: Operator, first: Unknowns) -> Unknowns:
    """A start for Lanczos' method: the first-order state, and a disturbance in every direction."""
    random = np.random.default_rng(7)
    push = Unknowns(*(random.standard_normal((*part.shape[:-1], 1)) for part in parts_of(first)))
    push.e *= (operator.geometry.K_r != 0).any(axis=2)[..., None]
    noise = operator.precondition(push)
    size = np.sqrt(np.maximum(noise.dot(operator.elastic(noise)), 1e-300))
    work = np.sqrt(np.maximum(first.dot(operator.elastic(first)), 1e-300))
    return Unknowns(*(f / work + 0.3 * q / size for f, q in zip(parts_of(first), parts_of(noise), strict=True)))


def lanczos(
    operator: Operator,
    image: Callable[[Unknowns], Unknowns],
    start: Unknowns,
    steps: int,
    enough: Callable[[Floats], bool] = lambda _: False,
) -> tuple[Floats, list[Unknowns]]:
    """Lanczos' method for the greatest θ of B x = θ K x, for all states at once: the matrix (c, m, m) in the basis found.

    image: B x. The basis is orthonormal in the inner product of K. enough: of the matrix so far, whether to end.
    """
    count = start.u.shape[1]
    basis: list[Unknowns] = []
    matrix = np.zeros((count, steps, steps))
    size, v = np.zeros(count), start
    used = steps
    for j in range(steps):
        Kv = operator.elastic(v)
        norm = np.sqrt(np.maximum(v.dot(Kv), 0.0))
        size = np.maximum(size, norm) if j else size
        # nothing new is left once the space is used up
        fresh = norm > 1e-5 * size if j else norm > 0
        if not fresh.any():
            used = j
            break
        if j:
            matrix[:, j, j - 1] = matrix[:, j - 1, j] = np.where(fresh, norm, 0.0)
        inverse = np.where(fresh, 1 / np.where(fresh, norm, 1.0), 0.0)
        v = Unknowns(*(inverse * part for part in parts_of(v)))
        basis.append(v)
        w = operator.precondition(image(v))
        Kw = operator.elastic(w)
        shares = [Kw.dot(q) for q in basis]
        matrix[:, j, j] = shares[j]
        for share, q in zip(shares, basis, strict=True):
            w.take_off(share, q)
        size = np.maximum(size, np.abs(matrix[:, j, j]))
        v = w
        if enough(matrix[:, : j + 1, : j + 1]):
            used = j + 1
            break
    return matrix[:, :used, :used], basis


def critical_factors(operator: Operator, first: Unknowns) -> Floats:
    """α_cr of each state, (c,): the factor on its axial forces at which K + α K_g becomes singular; inf where nothing
    buckles. Those below FAR_FROM_CRITICAL are found to 1e-4."""
    if not operator.N.shape[1]:
        return np.zeros(0)
    before = np.zeros(operator.N.shape[1])

    def enough(matrix: Floats) -> bool:
        if matrix.shape[1] < 8 or matrix.shape[1] % 4:
            return False
        now = np.asarray(np.linalg.eigvalsh(matrix)[:, -1])
        near = now > 1 / FAR_FROM_CRITICAL
        settled = bool((now - before <= 1e-4 * now)[near].all())
        before[:] = now
        return settled

    start = disturbed(operator, first)
    matrix, _ = lanczos(operator, lambda x: _minus(operator.geometric(x)), start, MOST_STEPS, enough)
    return _inverse(np.asarray(np.linalg.eigvalsh(matrix)[:, -1], dtype=float))


def modes(
    operator: Operator, image: Callable[[Unknowns], Unknowns], first: Unknowns, count: int, steps: int = 60
) -> tuple[Floats, list[Unknowns]]:
    """The `count` lowest 1/θ of B x = θ K x for a single state, with their modes."""
    matrix, basis = lanczos(operator, image, disturbed(operator, first), steps)
    values, vectors = np.linalg.eigh(matrix[0])
    found, shapes_ = [], []
    for k in np.argsort(-values)[:count].tolist():
        if values[k] <= 1e-9 * np.abs(values).max():
            continue
        mode = Unknowns(*(np.zeros_like(part) for part in parts_of(basis[0])))
        for share, q in zip(vectors[:, k], basis, strict=True):
            mode.take_off(-share, q)
        found.append(1 / values[k])
        shapes_.append(mode)
    return np.array(found), shapes_


def _minus(x: Unknowns) -> Unknowns:
    return Unknowns(*(-part for part in parts_of(x)))


def _inverse(values: Floats) -> Floats:
    return np.asarray(np.where(values > 1e-6, 1 / np.where(values > 1e-6, values, 1.0), np.inf))
