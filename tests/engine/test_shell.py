"""Shell elements and their reduction, against closed forms and published results."""

from __future__ import annotations

import unittest
from collections.abc import Callable

import numpy as np
from scipy.sparse import coo_array, csc_array
from scipy.sparse.linalg import spsolve

from engine.analysis.recovery import recovered
from engine.analysis.shell import Law, alike, quadrilaterals, triangles
from engine.analysis.slabs import principal
from engine.analysis.substructure import Reduced, reduce
from engine.structure.model import Bools, Floats, Ints, Plate, Slab

#: corners of a patch, none of whose cells is a rectangle (MacNeal and Harder, 1985), and its five cells
PATCH = np.array([[0, 0], [0.24, 0], [0.24, 0.12], [0, 0.12], [0.04, 0.02], [0.18, 0.03], [0.16, 0.08], [0.08, 0.08]])
CELLS = np.array([[0, 1, 5, 4], [1, 2, 6, 5], [2, 3, 7, 6], [3, 0, 4, 7], [4, 5, 6, 7]])


def halves(cells: Ints) -> Ints:
    """Quadrilaterals as two triangles each."""
    return np.concatenate([cells[:, [0, 1, 2]], cells[:, [0, 2, 3]]])


def assembled(points: Floats, cells: Ints, law: Law) -> csc_array:
    """K of cells in space, (6 v, 6 v); of each its own axes: x along the first side, z its normal."""
    k = cells.shape[1]
    made = quadrilaterals if k == 4 else triangles
    xyz = points[cells]
    x = xyz[:, 1] - xyz[:, 0]
    z = np.cross(xyz[:, 2] - xyz[:, 0], xyz[:, -1] - xyz[:, 1]) if k == 4 else np.cross(x, xyz[:, 2] - xyz[:, 0])
    x, z = (v / np.linalg.norm(v, axis=1, keepdims=True) for v in (x, z))
    axes = np.stack([x, np.cross(z, x), z], axis=1)
    flat = np.einsum("cax,ckx->cka", axes[:, :2], xyz - xyz[:, :1])
    K = made(flat, law).K
    T = np.zeros((len(cells), 6 * k, 6 * k))
    for i in range(2 * k):
        T[:, 3 * i : 3 * i + 3, 3 * i : 3 * i + 3] = axes
    K = np.swapaxes(T, 1, 2) @ K @ T
    dofs = (6 * cells[:, :, None] + np.arange(6)).reshape(len(cells), -1)
    rows, columns = np.repeat(dofs, 6 * k, axis=1).ravel(), np.tile(dofs, (1, 6 * k)).ravel()
    size = 6 * len(points)
    return csc_array(coo_array((K.ravel(), (rows, columns)), shape=(size, size)))


def solved(K: csc_array, force: Floats, held: Bools) -> Floats:
    free = np.flatnonzero(~held.ravel())
    u = np.zeros(held.size)
    u[free] = spsolve(K[free][:, free], force.ravel()[free])
    return u.reshape(-1, 6)


def grid(nx: int, ny: int) -> tuple[Floats, Ints]:
    """Points (v, 2) of the unit square and its cells."""
    x, y = np.meshgrid(np.linspace(0, 1, nx + 1), np.linspace(0, 1, ny + 1), indexing="ij")
    number = np.arange(x.size).reshape(x.shape)
    corners = (number[:-1, :-1], number[1:, :-1], number[1:, 1:], number[:-1, 1:])
    return np.stack([x.ravel(), y.ravel()], axis=1), np.stack([c.ravel() for c in corners], axis=1)


class PatchTests(unittest.TestCase):
    """A patch of odd cells in an even state keeps it, whatever their shape."""

    law = Law(1e6, 0.25, 0.001)

    def check(self, cells: Ints, moved: Callable[[Floats], Floats], wanted: Floats) -> None:
        points = np.column_stack([PATCH, np.zeros(8)])
        K = assembled(points, cells, self.law)
        given = moved(PATCH)
        inner = np.arange(24, 48)
        u = given.ravel().copy()
        u[inner] = spsolve(K[inner][:, inner], -(K[inner][:, :24] @ u[:24]))
        np.testing.assert_allclose(u.reshape(-1, 6)[4:], given[4:], rtol=1e-6, atol=1e-12)
        made = quadrilaterals if cells.shape[1] == 4 else triangles
        S = made(PATCH[cells], self.law).S
        for cell in np.einsum("caj,cj->ca", S, u.reshape(-1, 6)[cells].reshape(len(cells), -1)):
            np.testing.assert_allclose(cell, wanted, rtol=1e-6, atol=1e-8 * np.abs(wanted).max())

    def test_stretched(self) -> None:
        # u = (x + y/2) e, v = (y + x/2) e with e = 1e-3: σ = 1333, 1333, τ = 400 (MacNeal and Harder)
        def moved(xy: Floats) -> Floats:
            x, y = xy.T * 1e-3
            return np.column_stack([x + y / 2, y + x / 2, *[0 * x] * 4])

        wanted = np.array([0, 0, 0, 0, 0, 1333.3333333, 1333.3333333, 400]) * self.law.thickness
        for cells in (CELLS, halves(CELLS)):
            self.check(cells, moved, wanted)

    def test_bent(self) -> None:
        # w = e (x² + xy + y²)/2: m = 1.111e-7, 1.111e-7, 3.333e-8 (MacNeal and Harder), pulling below where w rises outwards
        def moved(xy: Floats) -> Floats:
            x, y = xy.T
            w = 1e-3 * (x**2 + x * y + y**2) / 2
            return np.column_stack([0 * x, 0 * x, w, 1e-3 * (y + x / 2), -1e-3 * (x + y / 2), 0 * x])

        wanted = np.array([1.11111111e-7, 1.11111111e-7, 3.33333333e-8, 0, 0, 0, 0, 0])
        for cells in (CELLS, halves(CELLS)):
            self.check(cells, moved, wanted)

    def test_a_rigid_movement_costs_nothing(self) -> None:
        for made, k in ((quadrilaterals, 4), (triangles, 3)):
            K = made(PATCH[CELLS[:, :k]], self.law).K
            values = np.linalg.eigvalsh(K)
            self.assertTrue((np.abs(values[:, :6]) < 1e-9 * values[:, -1:]).all())
            self.assertTrue((values[:, 6] > 1e-9 * values[:, -1]).all())


class PlateTests(unittest.TestCase):
    """Timoshenko and Woinowsky-Krieger, Theory of Plates and Shells, 2nd edition: tables 8, 35 and 23."""

    def square(self, clamped: bool, n: int = 24, split: bool = False) -> tuple[float, float, float, float]:
        """Coefficients of a square plate under an even load: deflection in the middle × D/(q a⁴), moments there and in the middle of an
        edge × 1/(q a²), and under a force in the middle the deflection × D/(F a²)."""
        law = Law(30e9, 0.3, 0.01)
        xy, cells = grid(n, n)
        cells = halves(cells) if split else cells
        edge = np.abs(xy - 0.5).max(axis=1) > 0.5 - 1e-9
        held = np.zeros((len(xy), 6), dtype=bool)
        held[:, [0, 1, 5]] = True
        held[edge, 2] = True
        if clamped:
            held[edge, 3:5] = True
        else:
            # hard: what bends along the edge does not twist across it
            held[np.abs(xy[:, 0] - 0.5) > 0.5 - 1e-9, 3] = True
            held[np.abs(xy[:, 1] - 0.5) > 0.5 - 1e-9, 4] = True
        K = assembled(np.column_stack([xy, 0 * xy[:, 0]]), cells, law)
        D = law.E * law.thickness**3 / 12 / (1 - law.nu**2)
        even, point = np.zeros((len(xy), 6)), np.zeros((len(xy), 6))
        np.add.at(even[:, 2], cells.ravel(), -1 / n**2 / 4 if not split else -1 / n**2 / 6)
        middle = int(np.argmin(np.linalg.norm(xy - 0.5, axis=1)))
        side = int(np.argmin(np.linalg.norm(xy - [0.0, 0.5], axis=1)))
        point[middle, 2] = -1.0
        u = solved(K, even, held)
        made = triangles if split else quadrilaterals
        found = np.einsum("caj,cj->ca", made(xy[cells], law).S, u[cells].reshape(len(cells), -1))
        plate = Plate(law.E, law.nu, 0.0, law.thickness, "", size=1 / n)
        four = cells if not split else np.column_stack([cells, cells[:, 2]])
        slab = Slab("", plate, np.column_stack([xy, 0 * xy[:, 0]]), xy, four, np.full(len(xy), -1), np.eye(3))
        recovery = recovered(slab)
        m = (recovery.weights @ found)[:, 0]
        at = {int(p): i for i, p in enumerate(recovery.point)}
        return -u[middle, 2] * D, m[at[middle]], m[at[side]], -solved(K, point, held)[middle, 2] * D

    def test_simply_supported(self) -> None:
        w, m, _, force = self.square(clamped=False)
        self.assertAlmostEqual(w / 0.00406, 1, delta=0.005)
        self.assertAlmostEqual(m / 0.0479, 1, delta=0.005)
        self.assertAlmostEqual(force / 0.0116, 1, delta=0.01)

    def test_clamped(self) -> None:
        w, m, edge, force = self.square(clamped=True)
        # Taylor and Govindjee, Solution of clamped rectangular plate problems, 2004: nearer than the printed table's 0.0231
        self.assertAlmostEqual(w / 0.0012653, 1, delta=0.01)
        self.assertAlmostEqual(m / 0.022905, 1, delta=0.01)
        self.assertAlmostEqual(edge / -0.051334, 1, delta=0.02)
        self.assertAlmostEqual(force / 0.0056, 1, delta=0.01)

    def test_of_triangles(self) -> None:
        w, m, _, _ = self.square(clamped=False, split=True)
        self.assertAlmostEqual(w / 0.00406, 1, delta=0.02)
        self.assertAlmostEqual(m / 0.0479, 1, delta=0.02)

    def test_a_skew_plate(self) -> None:
        # L. S. D. Morley, Skew Plates and Structures (1963): 30°, ν = 0.3, simply supported: w = 0.408e-3 q a⁴/D in the middle
        law = Law(10e6, 0.3, 0.01)
        xy, cells = grid(40, 40)
        xy = np.column_stack([xy[:, 0] + xy[:, 1] * np.cos(np.pi / 6), xy[:, 1] * np.sin(np.pi / 6)])
        unit = grid(40, 40)[0]
        held = np.zeros((len(xy), 6), dtype=bool)
        held[:, [0, 1, 5]] = True
        held[np.abs(unit - 0.5).max(axis=1) > 0.5 - 1e-9, 2] = True
        K = assembled(np.column_stack([xy, 0 * xy[:, 0]]), cells, law)
        force = np.zeros((len(xy), 6))
        np.add.at(force[:, 2], cells.ravel(), -0.5 / 1600 / 4)
        D = law.E * law.thickness**3 / 12 / (1 - law.nu**2)
        middle = int(np.argmin(np.linalg.norm(unit - 0.5, axis=1)))
        self.assertAlmostEqual(-solved(K, force, held)[middle, 2] * D / 0.408e-3, 1, delta=0.04)


class InPlaneTests(unittest.TestCase):
    def test_a_panel_that_tapers(self) -> None:
        # Cook's membrane: 23.96 at the middle of its free side (Cook, Malkus, Plesha, Concepts and Applications of FEA, 1989)
        law = Law(1.0, 1 / 3, 1.0)
        xy, cells = grid(16, 16)
        points = np.column_stack([48 * xy[:, 0], 44 * xy[:, 0] + xy[:, 1] * (44 - 28 * xy[:, 0]), 0 * xy[:, 0]])
        held = np.zeros((len(xy), 6), dtype=bool)
        held[:, 2:5] = True
        held[xy[:, 0] < 1e-9] = True
        K = assembled(points, cells, law)
        end = np.flatnonzero(xy[:, 0] > 1 - 1e-9)
        force = np.zeros((len(xy), 6))
        force[end, 1] = 1 / 16
        force[end[[0, -1]], 1] = 1 / 32
        u = solved(K, force, held)
        self.assertAlmostEqual(u[end[8], 1] / 23.96, 1, delta=0.01)

    def test_a_couple_in_its_plane_turns_its_corner(self) -> None:
        # a cantilever 10 × 1 × 0.1 bent in its plane by couples at the two corners of its end: φ = M L/(E I), v = M L²/(2 E I)
        law = Law(1e7, 0.0, 0.1)
        xy, cells = grid(20, 2)
        points = np.column_stack([10 * xy[:, 0], xy[:, 1] - 0.5, 0 * xy[:, 0]])
        held = np.zeros((len(xy), 6), dtype=bool)
        held[:, 2:5] = True
        held[xy[:, 0] < 1e-9] = True
        K = assembled(points, cells, law)
        end = np.flatnonzero(xy[:, 0] > 1 - 1e-9)
        force = np.zeros((len(xy), 6))
        force[end, 5] = [0.25, 0.5, 0.25]
        u = solved(K, force, held)
        EI = 1e7 * 0.1 / 12
        self.assertAlmostEqual(u[end[1], 1] / (100 / 2 / EI), 1, delta=0.01)
        half = np.flatnonzero(np.abs(xy[:, 0] - 0.5) < 1e-9)
        np.testing.assert_allclose(u[half, 5] / (5 / EI), 1.0, atol=0.01)


class ShellTests(unittest.TestCase):
    """MacNeal and Harder, A proposed standard set of problems to test finite element accuracy, 1985."""

    def test_a_cylindrical_roof(self) -> None:
        # Scordelis and Lo: 0.3024 at the middle of the free edge; a quarter of it, R = 25, L = 50, 80°, t = 0.25, 90 per area
        law = Law(4.32e8, 0.0, 0.25)
        n = 16
        unit, cells = grid(n, n)
        angle = np.radians(40) * unit[:, 0]
        points = np.column_stack([25 * np.sin(angle), 25 * unit[:, 1], 25 * np.cos(angle)])
        held = np.zeros((len(points), 6), dtype=bool)
        held[unit[:, 1] > 1 - 1e-9] |= [True, False, True, False, False, False]
        held[unit[:, 1] < 1e-9] |= [False, True, False, True, False, True]
        held[unit[:, 0] < 1e-9] |= [True, False, False, False, True, True]
        K = assembled(points, cells, law)
        force = np.zeros((len(points), 6))
        chord = 50 * np.sin(np.radians(20) / n)
        np.add.at(force[:, 2], cells.ravel(), -90 * chord * 25 / n / 4)
        u = solved(K, force, held)
        free = int(np.argmin(np.linalg.norm(unit - [1.0, 0.0], axis=1)))
        self.assertAlmostEqual(-u[free, 2] / 0.3024, 1, delta=0.015)

    def test_a_pinched_cylinder(self) -> None:
        # 1.8248e-5 under unit forces, ends on diaphragms: R = 300, L = 600, t = 3; an eighth of it
        law = Law(3e6, 0.3, 3.0)
        n = 30
        unit, cells = grid(n, n)
        angle = np.pi / 2 * unit[:, 0]
        points = np.column_stack([300 * np.sin(angle), 300 * unit[:, 1], 300 * np.cos(angle)])
        held = np.zeros((len(points), 6), dtype=bool)
        held[unit[:, 1] > 1 - 1e-9] |= [True, False, True, False, False, False]
        held[unit[:, 1] < 1e-9] |= [False, True, False, True, False, True]
        held[unit[:, 0] < 1e-9] |= [True, False, False, False, True, True]
        held[unit[:, 0] > 1 - 1e-9] |= [False, False, True, True, True, False]
        K = assembled(points, cells, law)
        force = np.zeros((len(points), 6))
        force[0, 2] = -0.25
        self.assertAlmostEqual(-solved(K, force, held)[0, 2] / 1.8248e-5, 1, delta=0.03)

    def test_a_twisted_beam(self) -> None:
        # 12 long, 1.1 wide, 0.32 thick, twisted by 90°: 5.424e-3 in the plane of the load, 1.754e-3 across; cells of it are warped: triangles
        law = Law(29e6, 0.22, 0.32)
        unit, cells = grid(48, 8)
        angle = np.pi / 2 * unit[:, 0]
        across = 1.1 * (unit[:, 1] - 0.5)
        points = np.column_stack([12 * unit[:, 0], across * np.cos(angle), across * np.sin(angle)])
        held = np.zeros((len(points), 6), dtype=bool)
        held[unit[:, 0] < 1e-9] = True
        K = assembled(points, halves(cells), law)
        end = np.flatnonzero(unit[:, 0] > 1 - 1e-9)
        for axis, published in ((2, 5.424e-3), (1, 1.754e-3)):
            force = np.zeros((len(points), 6))
            force[end, axis] = 1 / 8
            force[end[[0, -1]], axis] = 1 / 16
            u = solved(K, force, held)
            self.assertAlmostEqual(u[end[4], axis] / published, 1, delta=0.03)


class ReductionTests(unittest.TestCase):
    def reduced(self, n: int, kept: Bools) -> tuple[Reduced, Floats]:
        xy, cells = grid(n, n)
        K = quadrilaterals(xy[cells], Law(1e7, 0.2, 0.1)).K
        own = np.add.outer(6 * np.arange(4), (2, 3, 4)).ravel()
        parts = K[:, own[:, None], own]
        found = reduce(list(cells), list(parts), xy, kept)
        assert isinstance(found, Reduced)
        whole = np.zeros((3 * len(xy), 3 * len(xy)))
        for c, k in zip(cells, parts, strict=True):
            dofs = (3 * c[:, None] + np.arange(3)).ravel()
            whole[np.ix_(dofs, dofs)] += k
        return found, whole

    def test_it_is_the_schur_complement(self) -> None:
        kept = np.zeros((13 * 13, 3), dtype=bool)
        kept[[0, 12, 77, 156, 168]] = True
        kept[[40, 41], 0] = True
        found, K = self.reduced(12, kept)
        b, i = np.flatnonzero(kept), np.flatnonzero(~kept)
        follows = np.linalg.solve(K[np.ix_(i, i)], K[np.ix_(i, b)])
        np.testing.assert_array_equal(found.kept, b)
        S = K[np.ix_(b, b)] - K[np.ix_(b, i)] @ follows
        np.testing.assert_allclose(found.K, S, atol=1e-8 * np.abs(S).max())
        force = np.random.default_rng(4).standard_normal((len(K), 2))
        pushed = force[b] - follows.T @ force[i]
        np.testing.assert_allclose(found.push(force), pushed, atol=1e-9)
        moved = np.random.default_rng(5).standard_normal((len(b), 2))
        inside = np.linalg.solve(K[np.ix_(i, i)], force[i] - K[np.ix_(i, b)] @ moved)
        u = found.recover(force, moved)
        np.testing.assert_allclose(u[i], inside, atol=1e-6 * np.abs(inside).max())
        np.testing.assert_array_equal(u[b], moved)

    def test_what_nothing_holds_is_named(self) -> None:
        xy, cells = grid(6, 6)
        own = np.add.outer(6 * np.arange(4), (2, 3, 4)).ravel()
        parts = list(quadrilaterals(xy[cells], Law(1e7, 0.2, 0.1)).K[:, own[:, None], own])
        kept = np.zeros((49, 3), dtype=bool)
        # along one edge, where it may turn
        kept[:7, 0] = True
        self.assertIsInstance(reduce(list(cells), parts, xy, kept), int)


class SmallTests(unittest.TestCase):
    def test_principal_values(self) -> None:
        most, least, way = principal(np.array([30.0]), np.array([-10.0]), np.array([15.0]))
        self.assertAlmostEqual(most[0], 35.0)
        self.assertAlmostEqual(least[0], -15.0)
        # tan 2α = 2·15/40
        self.assertAlmostEqual(np.tan(2 * way[0]), 0.75)

    def test_cells_of_one_shape_are_found(self) -> None:
        xy, cells = grid(3, 2)
        first, kind = alike(xy[cells])
        self.assertEqual(len(first), 1)
        self.assertEqual(kind.tolist(), [0] * 6)


if __name__ == "__main__":
    unittest.main()
