"""Member ends and lines beyond the plain beam: springs, offsets, tapers, turned supports, settlement; in closed form."""

import unittest

import numpy as np

from engine.analysis.diagrams import diagrams
from engine.chain import run
from engine.document import read_document
from tests.engine.helpers import FIXED, E, I, beam

FREE_Y = ["y", "rx", "rz"]


class Springs(unittest.TestCase):
    def test_semi_rigid_ends_of_a_uniformly_loaded_beam(self):
        # fixed-end moment with end springs k: M = (w L²/12) / (1 + 2EI/(k L)); Monforte and Wu 1963
        L, k, w = 6.0, 5e6, -10e3
        data = beam(
            L,
            supports=[{"node": n, "fixed": FIXED} for n in ("n0", "n1")],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, w]}],
        )
        data["members"][0]["releases"] = {"start_springs": {"ry": k}, "end_springs": {"ry": k}}
        chain = run(read_document(data))
        expected = abs(w) * L**2 / 12 / (1 + 2 * E * I / (k * L))
        self.assertAlmostEqual(abs(chain.response.end_force[0, 4, 0]) / expected, 1, delta=1e-9)
        self.assertAlmostEqual(chain.response.reaction[:, 2].sum() / (-w * L), 1, delta=1e-9)

    def test_a_very_stiff_spring_is_a_rigid_end_and_a_soft_one_a_hinge(self):
        for k, share in ((1e15, 1.0), (1e-3, 0.0)):
            data = beam(
                6.0,
                supports=[{"node": n, "fixed": FIXED} for n in ("n0", "n1")],
                member_loads=[{"case": "P", "member": "b0", "value": [0, 0, -1e4]}],
            )
            data["members"][0]["releases"] = {"start_springs": {"ry": k}, "end_springs": {"ry": k}}
            moment = abs(run(read_document(data)).response.end_force[0, 4, 0])
            self.assertAlmostEqual(moment / (1e4 * 36 / 12), share, delta=1e-6)


class Offsets(unittest.TestCase):
    def test_a_bar_beside_the_line_of_its_nodes_bends_it(self):
        # a cantilever whose centroid lies e above the nodes: an axial pull P at the node gives the moment P e throughout
        e, P = 0.3, 1e5
        data = beam(
            4.0, supports=[{"node": "n0", "fixed": FIXED}], node_loads=[{"case": "P", "node": "n1", "force": [P, 0, 0]}]
        )
        data["members"][0]["offset"] = {"z": e}
        chain = run(read_document(data))
        self.assertAlmostEqual(abs(chain.response.end_force[0, 4, 0]) / (P * e), 1, delta=1e-9)
        # the end turns by P e L / EI
        turn = chain.response.displacement[1, 4, 0]
        self.assertAlmostEqual(abs(turn) / (P * e * 4.0 / (E * I)), 1, delta=1e-9)

    def test_a_simple_beam_lowered_between_pinned_nodes_thrusts(self):
        # ends pinned at the nodes, the beam e below: bending lengthens its top line, so the supports push: N = 8 f e A…
        e, w, L = 0.2, -10e3, 6.0
        data = beam(
            L,
            supports=[{"node": n, "fixed": ["x", "y", "z", "rx", "rz"]} for n in ("n0", "n1")],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, w]}],
        )
        data["members"][0]["offset"] = {"z": -e}
        chain = run(read_document(data))
        # force method: δ0 = 2 e θ, θ = w L³/24EI; δ1 = L/EA + 2 e² L / (2 EI) · … the redundant thrust X acts at the nodes
        theta, A = abs(w) * L**3 / (24 * E * I), 1.0
        X = 2 * e * theta / (L / (E * A) + e**2 * L / (E * I))
        self.assertAlmostEqual(abs(chain.response.reaction[0, 0, 0]) / X, 1, delta=1e-6)

    def test_flange_aligned(self):
        data = beam(4.0, supports=[{"node": "n0", "fixed": FIXED}])
        data["members"][0] |= {"section": "IPE 300", "material": "S355", "align": "top flange"}
        member = run(read_document(data)).structure.members[0]
        self.assertAlmostEqual(member.offset[1], -0.15)


class Tapers(unittest.TestCase):
    def deflection(self, pieces=None):
        import engine.jigs.haunches as haunches

        usual = haunches.TAPER_PIECES
        haunches.TAPER_PIECES = pieces or usual
        try:
            data = {
                "units": "N, m",
                "built_sections": [
                    {"name": "deep", "shape": "welded I", "h": 800, "b": 250, "tw": 10, "tf": 15},
                    {"name": "slim", "shape": "welded I", "h": 300, "b": 250, "tw": 10, "tf": 15},
                ],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": "deep", "end_section": "slim"}],
                "supports": [{"node": "a", "fixed": FIXED}],
                "cases": [{"name": "P"}],
                "node_loads": [{"case": "P", "node": "b", "force": [0, 0, -50e3]}],
                "analysis": {"shear_deformation": False},
            }
            return run(read_document(data)).response.displacement[:, 2, 0].min()
        finally:
            haunches.TAPER_PIECES = usual

    def test_tip_of_a_tapered_cantilever_by_integration(self):
        # δ = ∫ P x² / (E I(x)) dx from the tip, I(x) of the plates at each place
        x = np.linspace(0, 8, 20001)
        h = 0.3 + 0.5 * x / 8
        second = (0.25 * h**3 - 0.24 * (h - 0.03) ** 3) / 12
        exact = np.trapezoid(50e3 * x**2 / (E * second), x)
        self.assertAlmostEqual(-self.deflection() / exact, 1, delta=3e-3)
        self.assertAlmostEqual(-self.deflection(64) / exact, 1, delta=3e-4)


class Supports(unittest.TestCase):
    def test_a_roller_on_its_own_axes_slides_along_them(self):
        # a bar along X held at a, its other end on a roller turned by 30°: pushed along Y it can only slide along the roller
        angle, P = np.radians(30.0), 1000.0
        data = {
            "units": "N, m",
            "materials": [{"name": "m", "E": E}],
            "sections": [{"name": "s", "A": 1e-3, "Iy": I, "Iz": I, "It": I}],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [5, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "s", "material": "m", "behaviour": "bar"}],
            "supports": [{"node": "a", "fixed": FIXED}, {"node": "b", "fixed": ["y", "z"], "turn": 30}],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "b", "force": [0, P, 0]}],
        }
        chain = run(read_document(data))
        u = chain.response.displacement[1, :2, 0]
        self.assertAlmostEqual(u[1] / u[0], np.tan(angle), delta=1e-9)
        # the bar holds the slide: k cos² s = P sin
        s = P * np.sin(angle) / (E * 1e-3 / 5 * np.cos(angle) ** 2)
        self.assertAlmostEqual(np.hypot(*u) / s, 1, delta=1e-9)
        np.testing.assert_allclose(chain.response.reaction[:, :3, 0].sum(axis=0), [0, -P, 0], atol=1e-6)

    def test_settlement_of_the_middle_support(self):
        # two spans of 5 m, the middle one sinks by δ: M = 3 E I δ / L² at it
        data = beam(
            10.0,
            nodes=3,
            supports=[
                {"node": "n0", "fixed": ["x", "y", "z", "rx", "rz"]},
                {"node": "n1", "fixed": ["y", "z", "rz"]},
                {"node": "n2", "fixed": ["y", "z", "rz"]},
            ],
        )
        data |= {"hall": None}
        data["supports"][1]["settlement"] = [0, 0, -0.01]
        chain = run(read_document(data))
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Settlement")
        self.assertAlmostEqual(abs(chain.response.end_force[0, 10, case]) / (3 * E * I * 0.01 / 25), 1, delta=1e-9)

    def test_a_rigid_link_carries_a_lever(self):
        data = {
            "units": "N, m",
            "materials": [{"name": "m", "E": E}],
            "sections": [{"name": "s", "A": 1e-2, "Iy": I, "Iz": I, "It": I}],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}, {"name": "c", "at": [4, 0, 0.5]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": "s", "material": "m"},
                {"name": "r", "start": "b", "end": "c", "section": "s", "material": "m", "behaviour": "rigid link"},
            ],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "c", "force": [1e4, 0, 0]}],
        }
        chain = run(read_document(data))
        self.assertAlmostEqual(abs(chain.response.displacement[1, 4, 0]) / (1e4 * 0.5 * 4 / (E * I)), 1, delta=1e-4)


class Temperature(unittest.TestCase):
    def bar(self, ends, **more):
        data = beam(5.0, supports=[{"node": n, "fixed": fixed} for n, fixed in ends], **more)
        data["member_loads"] = [{"case": "P", "member": "b0", "kind": "temperature", "value": [30, 0, 0]}]
        return run(read_document(data))

    def test_held_at_both_ends(self):
        # N = −E A α ΔT
        chain = self.bar((("n0", FIXED), ("n1", FIXED)))
        EA = chain.response.elements.EA[0]
        self.assertAlmostEqual(chain.response.reaction[0, 0, 0] / (EA * 12e-6 * 30), 1, delta=1e-12)
        self.assertAlmostEqual(diagrams(chain.response).N[0, 4, 0] / (-EA * 12e-6 * 30), 1, delta=1e-12)

    def test_free_to_grow(self):
        chain = self.bar((("n0", FIXED),))
        self.assertAlmostEqual(chain.response.displacement[1, 0, 0] / (12e-6 * 30 * 5.0), 1, delta=1e-12)
        self.assertLess(np.abs(diagrams(chain.response).N).max(), 1e-3)
        self.assertLess(np.abs(chain.response.reaction).max(), 1e-3)
