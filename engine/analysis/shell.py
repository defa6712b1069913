"""Flat shell elements: plates that bend and carry forces in their plane, with four corners or three.

Bending: the four-node plate with assumed transverse shear (Bathe and Dvorkin, A four-node plate bending element based on
Mindlin/Reissner plate theory and a mixed interpolation, 1985). In the plane: incompatible modes that pass the patch test (Wilson,
Taylor, Doherty and Ghaboussi, 1973; Taylor, Beresford and Wilson, 1976), their corners' turning about the normal tied to the plane's own
rotation (Hughes and Brezzi, On drilling degrees of freedom, 1989, with γ = G). A triangle is made of three quadrilaterals that meet in its
middle; the middles of its sides follow the corners, quadratically in bending, so that it keeps the patch test.

Axes: x, y in the plane, z its normal; freedoms of a corner: u, v, w and the turns about x, y, z. Resultants, per metre: m_x, m_y, m_xy,
positive where they pull on the side that z points away from; v_x, v_y; n_x, n_y, n_xy, positive in tension.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.structure.model import Floats, Ints

RESULTANTS = ("mx", "my", "mxy", "vx", "vy", "nx", "ny", "nxy")
#: freedoms of a corner that bend the plate, and those that stay in its plane
BENDING, IN_PLANE = (2, 3, 4), (0, 1, 5)
#: share of the shear stress's energy in a solid section: 5/6
SHEAR = 5 / 6
_G = 1 / np.sqrt(3)
_CORNERS = np.array([[-1.0, -1.0], [1, -1], [1, 1], [-1, 1]])
_GAUSS = _CORNERS * _G


@dataclass(frozen=True)
class Law:
    """An elastic plate: E in N/m², ν, thickness in m; cracked: share of its bending stiffness that is left."""

    E: float
    nu: float
    thickness: float
    cracked: float = 1.0

    @property
    def plane(self) -> Floats:
        """(3, 3) N/m² from strains to stresses in the plane."""
        nu = self.nu
        return self.E / (1 - nu**2) * np.array([[1.0, nu, 0.0], [nu, 1.0, 0.0], [0.0, 0.0, (1 - nu) / 2]])

    @property
    def G(self) -> float:
        """Shear modulus, N/m²."""
        return self.E / 2 / (1 + self.nu)


@dataclass(frozen=True)
class Cells:
    """Of c cells with k corners: K (c, 6 k, 6 k) stiffness and S (c, 8, 6 k), from the movements of the corners to the resultants in the middle,
    where they are nearest to what they stand for (Barlow, Optimal stress locations in finite element models, 1976)."""

    K: Floats
    S: Floats


def _shapes(at: Floats) -> tuple[Floats, Floats]:
    """Values (…, 4) and slopes (…, 2, 4) along ξ, η of the four shapes at places (…, 2)."""
    both = 1 + at[..., None, :] * _CORNERS
    N = both.prod(axis=-1) / 4
    slopes = np.stack([_CORNERS[:, 0] * both[..., 1], _CORNERS[:, 1] * both[..., 0]], axis=-2) / 4
    return N, slopes


def _gradients(flat: Floats, at: Floats) -> tuple[Floats, Floats, Floats, Floats]:
    """At places (g, 2) of cells (c, 4, 2): N (g, 4), gradients (c, g, 2, 4) along x, y, J (c, g, 2, 2) and its determinant."""
    N, slopes = _shapes(at)
    J = np.einsum("gai,cix->cgax", slopes, flat)
    return N, np.linalg.solve(J, np.broadcast_to(slopes, (len(flat), *slopes.shape))), J, np.linalg.det(J)


def _strain(gradient: Floats) -> Floats:
    """(…, 3, 2 k) from u, v of k shapes to the strains, of their gradients (…, 2, k)."""
    B = np.zeros((*gradient.shape[:-2], 3, 2 * gradient.shape[-1]))
    B[..., 0, 0::2], B[..., 1, 1::2] = gradient[..., 0, :], gradient[..., 1, :]
    B[..., 2, 0::2], B[..., 2, 1::2] = gradient[..., 1, :], gradient[..., 0, :]
    return B


def _in_plane(flat: Floats, law: Law) -> tuple[Floats, Floats]:
    """K (c, 12, 12) of u, v, θ_z at each corner, and the forces n in the middle (c, 3, 12)."""
    cells = len(flat)
    N, gradient, _, j = _gradients(flat, _GAUSS)
    _, _, J0, j0 = _gradients(flat, np.zeros((1, 2)))
    bend = np.linalg.inv(J0) @ np.stack([np.diag([-2 * g[0], -2 * g[1]]) for g in _GAUSS]) * (j0 / j)[..., None, None]
    every = np.concatenate([gradient, bend], axis=-1)
    B = np.zeros((cells, 4, 4, 16))
    B[..., :3, :12] = _strain(every)
    # the plane's own rotation less the corners'
    B[..., 3, 0:12:2], B[..., 3, 1:12:2] = -every[..., 1, :] / 2, every[..., 0, :] / 2
    B[..., 3, 12:] = -N
    D = np.zeros((4, 4))
    D[:3, :3], D[3, 3] = law.plane * law.thickness, law.G * law.thickness
    K = np.einsum("cgai,ab,cgbj,cg->cij", B, D, B, j, optimize=True)
    left, bubbles = np.r_[0:8, 12:16], np.arange(8, 12)
    inner = -np.linalg.solve(K[:, bubbles[:, None], bubbles], K[:, bubbles[:, None], left])
    K = K[:, left[:, None], left] + K[:, left[:, None], bubbles] @ inner
    whole = np.zeros((cells, 16, 12))
    whole[:, left, np.arange(12)], whole[:, bubbles] = 1.0, inner
    n = np.einsum("ab,cgbi,cij->caj", D[:3, :3], B[..., :3, :], whole, optimize=True) / 4
    order = np.array([[2 * i, 2 * i + 1, 8 + i] for i in range(4)]).ravel()
    return K[:, order[:, None], order], n[..., order]


def _bending(flat: Floats, law: Law) -> tuple[Floats, Floats]:
    """K (c, 12, 12) of w, θ_x, θ_y at each corner, and m and v in the middle (c, 5, 12)."""
    cells = len(flat)
    _, gradient, J, j = _gradients(flat, _GAUSS)
    bend = np.zeros((cells, 4, 3, 12))
    bend[..., 0, 2::3], bend[..., 1, 1::3] = gradient[..., 0, :], -gradient[..., 1, :]
    bend[..., 2, 2::3], bend[..., 2, 1::3] = gradient[..., 1, :], -gradient[..., 0, :]
    # shear along the sides, tied in their middles: along ξ at η = ∓1, along η at ξ = ∓1
    tied = np.zeros((2, 2, cells, 12))
    for direction, sides in enumerate((((0, 1), (3, 2)), ((0, 3), (1, 2)))):
        for which, (a, b) in enumerate(sides):
            half = (flat[:, b] - flat[:, a]) / 2
            for corner, sense in ((a, -0.5), (b, 0.5)):
                tied[direction, which, :, 3 * corner] = sense
                tied[direction, which, :, 3 * corner + 1] = -half[:, 1] / 2
                tied[direction, which, :, 3 * corner + 2] = half[:, 0] / 2
    across = _GAUSS[:, ::-1]
    covariant = np.einsum("agd,dacj->cgdj", np.stack([(1 - across) / 2, (1 + across) / 2]), tied)
    shear = np.linalg.solve(J, covariant)
    D = law.plane * law.thickness**3 / 12 * law.cracked
    Ds = law.G * law.thickness * SHEAR
    K = np.einsum("cgai,ab,cgbj,cg->cij", bend, D, bend, j, optimize=True)
    K += Ds * np.einsum("cgai,cgaj,cg->cij", shear, shear, j, optimize=True)
    return K, np.concatenate([-np.einsum("ab,cgbj->caj", D, bend), Ds * shear.sum(axis=1)], axis=1) / 4


def quadrilaterals(flat: Floats, law: Law) -> Cells:
    """Cells with corners flat (c, 4, 2), anticlockwise. K in N/m; S gives N/m, Nm/m."""
    K, S = np.zeros((len(flat), 24, 24)), np.zeros((len(flat), 8, 24))
    bending = np.add.outer(6 * np.arange(4), BENDING).ravel()
    in_plane = np.add.outer(6 * np.arange(4), IN_PLANE).ravel()
    for part, rows, own in ((_bending, slice(0, 5), bending), (_in_plane, slice(5, 8), in_plane)):
        k, s = part(flat, law)
        K[:, own[:, None], own] = k
        S[:, rows, own] = s
    return Cells(K, S)


def triangles(flat: Floats, law: Law) -> Cells:
    """Cells with corners flat (c, 3, 2), anticlockwise, as quadrilaterals gives them."""
    cells = len(flat)
    middles = (flat + np.roll(flat, -1, axis=1)) / 2
    points = np.concatenate([flat, middles, flat.mean(axis=1, keepdims=True)], axis=1)
    parts = np.array([[0, 3, 6, 5], [1, 4, 6, 3], [2, 5, 6, 4]])
    # from the corners and the middle to all seven points
    T = np.zeros((cells, 7, 6, 4, 6))
    one = np.eye(6)
    for point, corner in ((0, 0), (1, 1), (2, 2), (6, 3)):
        T[:, point, :, corner] = one
    for side in range(3):
        a, b = side, (side + 1) % 3
        way = flat[:, b] - flat[:, a]
        for corner, sense in ((a, 1.0), (b, -1.0)):
            T[:, 3 + side, :, corner] = one / 2
            # w between the ends of a side that bends evenly
            T[:, 3 + side, 2, corner, 3] = way[:, 1] / 8 * sense
            T[:, 3 + side, 2, corner, 4] = -way[:, 0] / 8 * sense
    whole = T.reshape(cells, 7, 6, 24)
    K = np.zeros((cells, 24, 24))
    S = np.zeros((cells, 8, 24))
    for part in parts:
        found = quadrilaterals(points[:, part], law)
        own = whole[:, part].reshape(cells, 24, 24)
        K += np.swapaxes(own, 1, 2) @ found.K @ own
        # the three parts have a third of the area each
        S += found.S @ own / 3
    inner = -np.linalg.solve(K[:, 18:, 18:], K[:, 18:, :18])
    S = S[..., :18] + S[..., 18:] @ inner
    return Cells(K[:, :18, :18] + K[:, :18, 18:] @ inner, S)


def alike(flat: Floats) -> tuple[Ints, Ints]:
    """Cells of one shape and size: the first of each kind, and for every cell its kind; flat: (c, k, 2)."""
    shape = np.round((flat - flat[:, :1]).reshape(len(flat), -1), 7)
    _, first, kind = np.unique(shape, axis=0, return_index=True, return_inverse=True)
    return first, kind.ravel()
