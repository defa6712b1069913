"""Geometric stiffness of elements with axial force, by shape functions that also bend within the element."""

from __future__ import annotations

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


@dataclass(frozen=True)
class Shapes:
    """Shapes on the unit element, at ξ = x/L. hermite: of the shear-rigid beam for (w1, θ1 L, w2, θ2 L); straight: what
    shear adds; bubbles. mu: ∫ψ''² of the bubbles, whose ∫ψ'² is 1."""

    hermite: tuple[Polynomial, ...]
    straight: tuple[Polynomial, ...]
    bubbles: tuple[Polynomial, ...]
    mu: Floats
    G: tuple[Floats, Floats, Floats]
    g: tuple[Floats, Floats]


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
    return Shapes(hermite, straight, bubbles, mu, G, g)


#: of the scaled freedoms (w1, ±θ1 L, w2, ±θ2 L): the lean w2 − w1, and the two rotations
LEAN = np.array([[-1.0, 0, 1, 0], [0, 1, 0, 0], [0, 0, 0, 1]])


#: where they stand while w1 = 0
COUNTING = [2, 1, 3]


@dataclass(frozen=True)
class Geometry:
    """What second order needs of the elements. Their own ends move in scaled freedoms (w1, ±θ1 L, w2, ±θ2 L); of these only
    the lean and the rotations count, t = LEAN q.

    ends: (8 e, n) from the displacements of the nodes to q, planes × elements × 4; scale: (2, e, 4). bend: (m, 2) plane and
    element of those that bend as part of the structure, with G: (m, 3, 3) and g: (m, b, 3), to be multiplied by N/L, and
    K_b: (m, b) stiffness of their bubbles, phi: (m,) their Φ. hang: (h, 2) those that take part as straight lines. Z: (3 m + h, n) from the
    displacements of the nodes to t of what bends (all leans, then the rotations), then to the lean of what hangs; local:
    (3 m + h, 12 e) the same from the displacements of the elements' own ends. loose: rows of `bend` with a released end; D, K_r:
    (r, 4, 4) its flexibility and stiffness; Z_loose: (3 m + h, 4 r) from the movements of released ends.
    """

    ends: csr_array
    scale: Floats
    bend: Ints
    hang: Ints
    Z: csr_array
    local: csr_array
    G: Floats
    g: Floats
    K_b: Floats
    phi: Floats
    loose: Ints
    D: Floats
    K_r: Floats
    Z_loose: csr_array
    length: Floats

    def on(self, columns: Ints, R: csr_array | None, with_ends: bool = True) -> Geometry:
        """With the displacements of some freedoms alone, which R turns to global ones."""

        def turned(part: csr_array) -> csr_array:
            return csr_array((part if R is None else part @ R)[:, columns])

        return replace(self, ends=turned(self.ends) if with_ends else self.ends, Z=turned(self.Z))

    def pick(self, values: Floats) -> Floats:
        """Of (2, e, …) values the rows of what bends."""
        return np.asarray(values[self.bend[:, 0], self.bend[:, 1]])

    def spread(self, values: Floats, count: int) -> Floats:
        """Rows of what bends as (2, e, …) values, zero elsewhere."""
        out = np.zeros((2, count, *values.shape[1:]))
        out[self.bend[:, 0], self.bend[:, 1]] = values
        return out

    def whole(self, rows: Ints) -> Floats:
        """(k, 3 + b, 3 + b) ∫ s sᵀ over the unit element of rows of what bends; s: slopes of lean, rotations and bubbles."""
        found = np.zeros((len(rows), 3 + BUBBLES, 3 + BUBBLES))
        found[:, :3, :3], found[:, 3:, :3] = self.G[rows], self.g[rows]
        found[:, :3, 3:], found[:, 3:, 3:] = np.swapaxes(self.g[rows], 1, 2), np.eye(BUBBLES)
        return found

    def rates(self, N: Floats) -> tuple[Floats, Floats]:
        """N/L of what bends (m, c) and of what hangs (h, c)."""
        rate = N / self.length[:, None]
        return rate[self.bend[:, 1]], rate[self.hang[:, 1]]

    def split(self, values: Floats) -> tuple[Floats, Floats]:
        """(3 m + h, c) as t of what bends (m, 3, c), and the lean of what hangs (h, c)."""
        m = len(self.bend)
        return values[: 3 * m].reshape(3, m, values.shape[1]).transpose(1, 0, 2), values[3 * m :]

    def join(self, turned: Floats, hang: Floats) -> Floats:
        """The reverse of `split`."""
        return np.concatenate([turned.transpose(1, 0, 2).reshape(3 * len(turned), turned.shape[2]), hang])


def hinged(elements: Elements, plane: int) -> Bools:
    """(e,) beams that are free to turn at both ends in a plane (0 along local y, 1 along z)."""
    turns = [FREEDOMS_OF[plane][0][1], FREEDOMS_OF[plane][0][3]]
    free = elements.released[:, turns].all(axis=1) & ~elements.spring[:, turns].any(axis=1)
    return np.asarray(free & ~elements.bar)


def geometry(
    elements: Elements,
    k: Floats,
    maps: Floats,
    T: Floats,
    dofs: Ints,
    size: int,
    bowed: Bools | None = None,
    hinged_straight: bool = False,
) -> Geometry:
    """The geometry of elements with their unreleased stiffness k, the maps of their releases, and their transforms T; dofs:
    (e, 12) of `size` freedoms.

    Bars take part as straight lines: their own buckling is their check as members. So does sideways what is held at short
    distances between its nodes by what is no member. bowed: (2, e) elements with a bow imperfection, which bend in any case.
    hinged_straight: elements hinged at both ends as straight lines too: their buckling is no part of anything else.
    """
    unit = shapes()
    n, L = len(elements), elements.length
    scale = np.ones((2, n, 4))
    bends, hangs = np.zeros((2, n), dtype=bool), np.zeros((2, n), dtype=bool)
    rows, columns, values = [], [], []
    own = maps @ T
    freedoms = np.array([f for f, _ in FREEDOMS_OF])
    for p, (f, (_, sense)) in enumerate(zip(freedoms, FREEDOMS_OF, strict=True)):
        scale[p, :, 1] = scale[p, :, 3] = sense * L
        hangs[p] = elements.bar | (elements.held if p == 0 else False)
        if hinged_straight:
            hangs[p] |= hinged(elements, p)
        bends[p] = ~hangs[p]
        if bowed is not None:
            bends[p] |= bowed[p] & ~elements.bar
            hangs[p] &= ~bends[p]
        block = own[:, f] * scale[p][:, :, None]
        index = ((p * n + np.arange(n))[:, None] * 4 + np.arange(4))[:, :, None]
        rows.append(np.broadcast_to(index, block.shape).ravel())
        columns.append(np.broadcast_to(dofs[:, None, :], block.shape).ravel())
        values.append(block.ravel())
    value = np.concatenate(values)
    kept = value != 0
    places = (np.concatenate(rows)[kept], np.concatenate(columns)[kept])
    ends = csr_array((value[kept], places), shape=(8 * n, size))
    bend, hang = np.argwhere(bends), np.argwhere(hangs)
    plane, e = bend.T
    EI = np.where(plane == 0, elements.EIz[e], elements.EIy[e])
    GA = np.where(plane == 0, elements.GAy[e], elements.GAz[e])
    phi = 12 * EI / (GA * L[e] ** 2)
    P = phi[:, None, None]
    G = (unit.G[0] + P * unit.G[1] + P**2 * unit.G[2]) / (1 + P) ** 2
    g = (unit.g[0] + P * unit.g[1]) / (1 + P)
    K_b = EI[:, None] / L[e, None] ** 3 * unit.mu / (1 + unit.mu * phi[:, None] / 12)
    free = elements.released[e[:, None], freedoms[plane]]
    loose = np.flatnonzero(free.any(axis=1))
    D, K_r = np.zeros((len(loose), 4, 4)), np.zeros((len(loose), 4, 4))
    for row, m in enumerate(loose.tolist()):
        r = np.flatnonzero(free[m])
        at = freedoms[plane[m]][r]
        part = k[e[m]][np.ix_(at, at)] + np.diag(elements.spring[e[m], at])
        part = part / np.outer(scale[plane[m], e[m], r], scale[plane[m], e[m], r])
        K_r[row][np.ix_(r, r)], D[row][np.ix_(r, r)] = part, np.linalg.inv(part)
    # t of what bends, then the lean of what hangs, from q
    first, last = 4 * (plane * n + e), 4 * (hang[:, 0] * n + hang[:, 1])
    height = 3 * len(bend) + len(hang)
    count = len(bend)
    row_b, row_h = np.arange(count), 3 * count + np.arange(len(hang))
    lean_rows = np.concatenate([row_b, row_b, row_b + count, row_b + 2 * count, row_h, row_h])
    lean_columns = np.concatenate([first, first + 2, first + 1, first + 3, last, last + 2])
    b, h = np.ones(len(bend)), np.ones(len(hang))
    signs = np.concatenate([-b, b, b, b, -h, h])
    lean = csr_array((signs, (lean_rows, lean_columns)), shape=(height, ends.shape[0]))
    own_columns = (12 * np.arange(n)[:, None] + freedoms[:, None]).ravel()[lean_columns]
    local = csr_array((signs * scale.ravel()[lean_columns], (lean_rows, own_columns)), shape=(height, 12 * n))
    released = np.broadcast_to(LEAN * free[loose][:, None, :], (len(loose), 3, 4))
    at_rows = np.broadcast_to(loose[:, None, None] + count * np.arange(3)[:, None], released.shape)
    at_columns = np.broadcast_to(4 * np.arange(len(loose))[:, None, None] + np.arange(4), released.shape)
    Z_loose = csr_array((released.ravel(), (at_rows.ravel(), at_columns.ravel())), shape=(height, 4 * len(loose)))
    return Geometry(
        ends,
        scale,
        bend,
        hang,
        csr_array(lean @ ends),
        local,
        G[:, COUNTING][:, :, COUNTING],
        g[:, :, COUNTING],
        K_b,
        phi,
        loose,
        D,
        K_r,
        Z_loose,
        L,
    )
