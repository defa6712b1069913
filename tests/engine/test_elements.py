"""Elements on their own: axes, stiffness, releases, roll, loads in local axes, springs."""

import unittest

import numpy as np

from engine.analysis.elements import condense, local_stiffness, make_elements, transforms
from engine.analysis.solve import global_stiffness
from engine.document import read_document
from engine.expand import expand
from engine.structure.axes import local_axes
from tests.engine.helpers import FIXED, PINNED, ROLLER, E, I, beam, hall, solved

RNG = np.random.default_rng(3)


def axes(start, end, roll=0.0):
    return local_axes(np.array([start], float), np.array([end], float), np.array([roll]))[0]


class Axes(unittest.TestCase):
    def test_conventions(self):
        # docs/conventions.md: along X, up, and down a slope
        np.testing.assert_allclose(axes([0, 0, 0], [5, 0, 0]), np.eye(3), atol=1e-12)
        np.testing.assert_allclose(axes([0, 0, 0], [0, 0, 5]), [[0, 0, 1], [0, 1, 0], [-1, 0, 0]], atol=1e-12)
        np.testing.assert_allclose(axes([0, 0, 0], [0, 4, 0])[2], [0, 0, 1], atol=1e-12)
        x, y, z = axes([0, 0, 0], [3, 0, 1])
        self.assertGreater(z[2], 0)
        np.testing.assert_allclose(y, [0, 1, 0], atol=1e-12)

    def test_right_handed_and_orthonormal_in_any_direction(self):
        for _ in range(50):
            found = axes(RNG.normal(size=3), RNG.normal(size=3), RNG.uniform(-3, 3))
            np.testing.assert_allclose(found @ found.T, np.eye(3), atol=1e-12)
            self.assertAlmostEqual(np.linalg.det(found), 1.0)

    def test_roll_turns_about_x(self):
        x, y, z = axes([0, 0, 0], [5, 0, 0], np.pi / 2)
        np.testing.assert_allclose(y, [0, 0, 1], atol=1e-12)
        np.testing.assert_allclose(z, [0, -1, 0], atol=1e-12)

    def test_rotation_there_and_back(self):
        T = transforms(make_elements(expand(hall(frames=2))))
        np.testing.assert_allclose(T @ np.swapaxes(T, 1, 2), np.broadcast_to(np.eye(12), T.shape), atol=1e-12)


class Stiffness(unittest.TestCase):
    def setUp(self):
        self.elements = make_elements(expand(hall(frames=2)))
        self.k = local_stiffness(self.elements)

    def test_symmetric_and_never_negative(self):
        np.testing.assert_allclose(self.k, np.swapaxes(self.k, 1, 2), atol=1e-6)
        k, _ = condense(self.k, self.elements)
        np.testing.assert_allclose(k, np.swapaxes(k, 1, 2), atol=1e-4)
        self.assertGreater(np.linalg.eigvalsh(k).min(), -1e-3)

    def test_rigid_motions_cost_nothing(self):
        L = self.elements.length
        motions = np.zeros((len(L), 12, 6))
        for i in range(3):
            motions[:, i, i] = motions[:, i + 6, i] = 1.0
        motions[:, 3, 3] = motions[:, 9, 3] = 1.0
        motions[:, 4, 4] = motions[:, 10, 4] = 1.0
        motions[:, 8, 4] = -L  # a turn about y lowers the far end
        motions[:, 5, 5] = motions[:, 11, 5] = 1.0
        motions[:, 7, 5] = L
        forces = self.k @ motions
        self.assertLess(np.abs(forces).max(), 1e-6 * np.abs(self.k).max())

    def test_assembled_stiffness_is_symmetric(self):
        structure = expand(hall(frames=3))
        elements = make_elements(structure)
        K = global_stiffness(elements, condense(local_stiffness(elements), elements)[0], structure.fixed.size)
        self.assertLess(abs(K - K.T).max(), 1e-6 * abs(K).max())

    def test_released_ends_carry_no_moment(self):
        k, maps = condense(self.k, self.elements)
        released = self.elements.released & ~self.elements.bar[:, None]
        self.assertTrue(released.any())
        self.assertTrue((k[released] == 0).all())
        # behind a release the end turns as the rest asks: k (G d) has no moment there
        d = RNG.normal(size=(len(k), 12, 1))
        behind = (self.k @ (maps @ d))[..., 0]
        self.assertLess(np.abs(behind[released]).max(), 1e-6 * np.abs(self.k).max())

    def test_bars_have_axial_stiffness_only(self):
        bars = self.k[self.elements.bar]
        self.assertTrue(len(bars))
        mask = np.zeros((12, 12), bool)
        mask[np.ix_([0, 6], [0, 6])] = True
        self.assertTrue((bars[:, ~mask] == 0).all())
        self.assertTrue((bars[:, 0, 0] > 0).all())


class Beams(unittest.TestCase):
    UDL = -5000.0

    def moments(self, releases=None, supports=None, **more):
        data = beam(
            supports=supports or [{"node": n, "fixed": FIXED} for n in ("n0", "n1")],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, self.UDL]}],
            **more,
        )
        if releases:
            data["members"][0]["releases"] = releases
        _, state = solved(data)
        return state, [s["My"] for s in state["members"]["b0"]["stations"]]

    def test_released_at_both_ends_is_a_simple_beam(self):
        state, M = self.moments({"start": ["ry"], "end": ["ry"]})
        self.assertAlmostEqual(M[4], 5000 * 36 / 8, delta=1e-6)
        self.assertAlmostEqual(M[0], 0, delta=1e-6)
        middle = state["members"]["b0"]["stations"][4]["displacement"][2]
        self.assertAlmostEqual(middle / (-5 * 5000 * 6**4 / (384 * E * I)), 1, delta=1e-9)

    def test_released_at_one_end_is_a_propped_cantilever(self):
        _, M = self.moments({"start": ["ry"]})
        self.assertAlmostEqual(M[8], -5000 * 36 / 8, delta=1e-6)
        self.assertAlmostEqual(M[0], 0, delta=1e-6)

    def test_two_spans(self):
        # continuous beam, two spans L = 3 m: support moment −q L²/8, end reactions 3 q L/8
        data = beam(
            nodes=3,
            supports=[{"node": "n0", "fixed": PINNED}] + [{"node": n, "fixed": ROLLER} for n in ("n1", "n2")],
            member_loads=[{"case": "P", "member": m, "value": [0, 0, self.UDL]} for m in ("b0", "b1")],
        )
        _, state = solved(data)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][-1]["My"], -5000 * 9 / 8, delta=1e-6)
        self.assertAlmostEqual(state["reactions"]["n0"][2], 3 * 5000 * 3 / 8, delta=1e-6)

    def test_three_spans(self):
        # three equal spans L = 2 m: support moments −q L²/10
        data = beam(
            nodes=4,
            supports=[{"node": "n0", "fixed": PINNED}] + [{"node": f"n{i}", "fixed": ROLLER} for i in (1, 2, 3)],
            member_loads=[{"case": "P", "member": f"b{i}", "value": [0, 0, self.UDL]} for i in range(3)],
        )
        _, state = solved(data)
        for member in ("b0", "b1"):
            self.assertAlmostEqual(state["members"][member]["stations"][-1]["My"], -5000 * 4 / 10, delta=1e-6)

    def test_rolled_beam_bends_about_its_weak_axis(self):
        sections = [{"name": "s", "A": 1.0, "Iy": I, "Iz": I / 10, "It": I}]
        supports = [{"node": "n0", "fixed": FIXED}]
        loads = [{"case": "P", "node": "n1", "force": [0, 0, -1000]}]
        data = beam(sections=sections, supports=supports, node_loads=loads)
        _, upright = solved(data)
        data["members"][0]["roll"] = 90
        _, flat = solved(data)
        self.assertAlmostEqual(flat["displacements"]["n1"][2] / upright["displacements"]["n1"][2], 10, delta=1e-6)
        self.assertAlmostEqual(abs(flat["members"]["b0"]["stations"][0]["Mz"]), 6000, delta=1e-6)

    def test_local_loads_turn_with_the_member(self):
        # a cantilever at 30° with a load at right angles to itself: base moment q L²/2
        data = beam(supports=[{"node": "n0", "fixed": FIXED}])
        data["nodes"][1]["at"] = [6 * np.cos(np.pi / 6), 0, 6 * np.sin(np.pi / 6)]
        data["member_loads"] = [{"case": "P", "member": "b0", "value": [0, 0, -1000], "axes": "local"}]
        _, state = solved(data)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][0]["My"], -1000 * 36 / 2, delta=1e-5)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][0]["N"], 0, delta=1e-6)

    def test_axial_load_along_a_member(self):
        # hanging bar: N at the top n L, extension n L²/2EA
        data = beam(supports=[{"node": "n0", "fixed": FIXED}])
        data["sections"][0]["A"] = 0.001
        data["member_loads"] = [{"case": "P", "member": "b0", "value": [1000, 0, 0]}]
        _, state = solved(data)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][0]["N"], 6000, delta=1e-6)
        self.assertAlmostEqual(state["displacements"]["n1"][0] / (1000 * 36 / (2 * E * 0.001)), 1, delta=1e-9)

    def test_springs_share_by_stiffness(self):
        data = beam(
            nodes=3,
            supports=[
                {"node": "n0", "fixed": ["x", "y", "rx", "rz"], "springs": {"z": 1e5}},
                {"node": "n2", "fixed": ["y", "rx", "rz"], "springs": {"z": 3e5}},
            ],
            node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -8000]}],
        )
        _, state = solved(data)
        self.assertAlmostEqual(state["reactions"]["n0"][2], 4000, delta=1e-3)
        self.assertAlmostEqual(state["displacements"]["n0"][2], -0.04, delta=1e-6)
        self.assertAlmostEqual(state["displacements"]["n2"][2], -4000 / 3e5, delta=1e-6)

    def test_grillage(self):
        # two crossing cantilever-free beams of equal length carry a load at the crossing half each
        names = {"c": [0, 0, 0], "w": [-3, 0, 0], "e": [3, 0, 0], "s": [0, -3, 0], "n": [0, 3, 0]}
        data = beam(
            nodes=2,
            supports=[{"node": n, "fixed": ["x", "y", "z"]} for n in "wesn"],
            node_loads=[{"case": "P", "node": "c", "force": [0, 0, -10000]}],
        )
        data["nodes"] = [{"name": n, "at": at} for n, at in names.items()]
        data["members"] = [{"name": n, "start": n, "end": "c", "section": "s", "material": "m"} for n in "wesn"]
        _, state = solved(data)
        for n in "wesn":
            self.assertAlmostEqual(state["reactions"][n][2], 2500, delta=1e-6)
        # each beam is a simple beam of 6 m with half the load
        self.assertAlmostEqual(state["displacements"]["c"][2] / (-5000 * 6**3 / (48 * E * I)), 1, delta=1e-9)


class Stated(unittest.TestCase):
    def test_a_member_can_join_a_hall(self):
        document = read_document(
            {
                "version": 1,
                "hall": {"frames": 3},
                "members": [
                    {
                        "name": "tie",
                        "start": "frame-2/eaves-A",
                        "end": "frame-2/eaves-B",
                        "section": "CHS 88.9x4",
                        "behaviour": "bar",
                    }
                ],
            }
        )
        structure = expand(document)
        self.assertTrue(structure.member("tie").bar)
        self.assertAlmostEqual(structure.length(structure.member("tie")), 24.0)
