"""Linear analysis against closed forms, and its invariances on random frames."""

import unittest

import numpy as np

from engine.analysis.diagrams import diagrams
from engine.analysis.solve import assemble, solve
from engine.chain import run
from engine.document import read_document
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from tests.engine.helpers import FIXED, PINNED, ROLLER, E, I, beam, published, solved, textbook

CASES = {case["id"]: case for case in published("analysis.json")}


class PublishedLinearCases(unittest.TestCase):
    """The linear cases of the shared verification file, through the result that `./lorica solve` writes."""

    def close(self, found, case, key):
        """Within the file's tolerance, or half a unit of the last figure that the file prints."""
        expected = CASES[case]["expect"][key]
        decimals = len(repr(expected).partition(".")[2])
        allowed = max(CASES[case]["tolerance"] * expected, 0.5 * 10.0**-decimals if expected < 1 else 0.0)
        self.assertLessEqual(abs(found - expected), allowed)

    def test_cantilever(self):
        _, state = solved(
            beam(
                supports=[{"node": "n0", "fixed": FIXED}],
                node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -10000]}],
            )
        )
        self.close(-state["displacements"]["n1"][2], "lin-cantilever-tip", "tip_deflection")
        self.assertAlmostEqual(-state["displacements"]["n1"][2] / (10000 * 6**3 / (3 * E * I)), 1, delta=1e-9)
        # the support holds the beam up: its moment turns x towards z, that is about −Y
        self.close(-state["reactions"]["n0"][4], "lin-cantilever-tip", "base_moment")

    def test_fixed_fixed_in_one_element(self):
        _, state = solved(
            beam(
                supports=[{"node": n, "fixed": FIXED} for n in ("n0", "n1")],
                member_loads=[{"case": "P", "member": "b0", "value": [0, 0, -5000]}],
            )
        )
        stations = state["members"]["b0"]["stations"]
        middle = stations[4]
        self.close(-stations[0]["My"], "lin-fixed-fixed-udl", "end_moment")
        self.close(middle["My"], "lin-fixed-fixed-udl", "mid_moment")
        self.assertAlmostEqual(-middle["displacement"][2], 5000 * 6**4 / (384 * E * I), delta=1e-12)
        self.close(-middle["displacement"][2], "lin-fixed-fixed-udl", "mid_deflection")

    def test_propped_triangular(self):
        _, state = solved(
            beam(
                supports=[{"node": "n0", "fixed": ROLLER}, {"node": "n1", "fixed": FIXED}],
                member_loads=[{"case": "P", "member": "b0", "value": [0, 0, 0], "value_end": [0, 0, -5000]}],
            )
        )
        self.close(state["reactions"]["n0"][2], "lin-propped-triangular", "prop_reaction")

    def test_spring_support(self):
        _, state = solved(
            beam(
                nodes=3,
                supports=[
                    {"node": "n0", "fixed": PINNED},
                    {"node": "n2", "fixed": ["y", "rx", "rz"], "springs": {"z": 2e6}},
                ],
                node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -10000]}],
            )
        )
        self.close(-state["displacements"]["n1"][2], "lin-spring-support", "mid_deflection")
        self.assertAlmostEqual(state["reactions"]["n2"][2], 5000, delta=1e-3)


class ClosedForms(unittest.TestCase):
    def test_shear_deformation_of_a_cantilever(self):
        # P L³/3EI + P L / G A_s
        data = beam(
            length=2.0,
            sections=[{"name": "s", "A": 1.0, "Iy": I, "Iz": I, "It": I, "Avz": 0.002}],
            supports=[{"node": "n0", "fixed": FIXED}],
            node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -10000]}],
        )
        _, state = solved(data)
        bending, shear = 10000 * 8 / (3 * E * I), 10000 * 2 / (E / 2.6 * 0.002)
        self.assertAlmostEqual(-state["displacements"]["n1"][2] / (bending + shear), 1, delta=1e-9)
        _, state = solved({**data, "analysis": {"shear_deformation": False}})
        self.assertAlmostEqual(-state["displacements"]["n1"][2] / bending, 1, delta=1e-9)

    def test_point_load_and_couple_within_an_element(self):
        # simple beam, P at a: M = P a b / L; couple C at a: jump of C, M left of it = C a / L
        a, b, L = 2.0, 4.0, 6.0
        supports = [{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}]
        chain, _ = solved(
            beam(
                supports=supports,
                member_loads=[{"case": "P", "member": "b0", "kind": "force", "value": [0, 0, -9000], "start": a}],
            )
        )
        at = np.array([[a, 1.0]])
        self.assertAlmostEqual(diagrams(chain.response, at).My[0, 0, 0], 9000 * a * b / L, delta=1e-6)
        chain, state = solved(
            beam(
                supports=supports,
                member_loads=[{"case": "P", "member": "b0", "kind": "moment", "value": [0, 6000, 0], "start": a}],
            )
        )
        # a couple about +Y turns z towards x: the left end is pushed up
        self.assertAlmostEqual(state["reactions"]["n0"][2], -6000 / L, delta=1e-6)
        M = diagrams(chain.response, np.array([[a - 1e-9, a + 1e-9]])).My[0, :, 0]
        self.assertAlmostEqual(M[0], -6000 * a / L, delta=1e-3)
        self.assertAlmostEqual(M[1] - M[0], 6000, delta=1e-3)

    def test_deflection_within_an_element_under_partial_load(self):
        # the same beam in one element and cut at the load's ends and in the middle
        load_args = {"case": "P", "value": [0, 0, -3000], "value_end": [0, 0, -7000]}
        supports = [{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}]
        _, one = solved(beam(supports=supports, member_loads=[{**load_args, "member": "b0", "start": 1.5, "end": 4.5}]))
        supports[1] = {"node": "n4", "fixed": ROLLER}
        _, four = solved(
            beam(
                nodes=5,
                supports=supports,
                member_loads=[
                    {**load_args, "member": "b1", "value_end": [0, 0, -5000]},
                    {**load_args, "member": "b2", "value": [0, 0, -5000]},
                ],
            )
        )
        middle = one["members"]["b0"]["stations"][4]["displacement"][2]
        self.assertAlmostEqual(middle, four["displacements"]["n2"][2], delta=1e-12)

    def test_hinge_makes_two_cantilevers(self):
        # fixed-fixed beam with a moment hinge in the middle: end moment P L / 4 from a load P at the hinge
        data = beam(
            nodes=3,
            supports=[{"node": "n0", "fixed": FIXED}, {"node": "n2", "fixed": FIXED}],
            node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -10000]}],
        )
        data["members"][0]["releases"] = {"end": ["ry"]}
        _, state = solved(data)
        self.assertAlmostEqual(state["reactions"]["n0"][4], -10000 * 6 / 4, delta=1e-3)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][-1]["My"], 0, delta=1e-6)

    def test_rectangular_portal(self):
        # pinned bases, uniform load on the beam: H = w L² / (4 h (2k + 3)), k = (I_beam / I_column) h / L
        # (Kleinlogel, Rahmenformeln, frame 41); axially stiff
        w, L, h, ratio = 8000.0, 12.0, 5.0, 2.0
        k = ratio * h / L
        data = {
            "units": "N, m",
            "materials": [{"name": "m", "E": E}],
            "sections": [
                {"name": "c", "A": 1e3, "Iy": I, "Iz": I, "It": I},
                {"name": "r", "A": 1e3, "Iy": ratio * I, "Iz": I, "It": I},
            ],
            "nodes": [
                {"name": n, "at": at}
                for n, at in (("a", [0, 0, 0]), ("b", [0, 0, h]), ("c", [L, 0, h]), ("d", [L, 0, 0]))
            ],
            "members": [
                {"name": "left", "start": "a", "end": "b", "section": "c", "material": "m"},
                {"name": "beam", "start": "b", "end": "c", "section": "r", "material": "m"},
                {"name": "right", "start": "d", "end": "c", "section": "c", "material": "m"},
            ],
            "supports": [
                {"node": "a", "fixed": ["x", "y", "z", "rx", "rz"]},
                {"node": "d", "fixed": ["x", "y", "z", "rx", "rz"]},
            ],
            "cases": [{"name": "w"}],
            "member_loads": [{"case": "w", "member": "beam", "value": [0, 0, -w]}],
        }
        _, state = solved(data)
        H = w * L**2 / (4 * h * (2 * k + 3))
        self.assertAlmostEqual(state["reactions"]["a"][0] / H, 1, delta=1e-6)
        self.assertAlmostEqual(state["members"]["beam"]["stations"][4]["My"] / (w * L**2 / 8 - H * h), 1, delta=1e-6)

    def test_truss_of_bars(self):
        # two bars at 45°, load P: N = P / √2 each, tip moves P a / (E A) · √2 for bars of length a √2
        data = {
            "units": "N, m",
            "materials": [{"name": "m", "E": E}],
            "sections": [{"name": "s", "A": 0.001, "Iy": I, "Iz": I, "It": I}],
            "nodes": [{"name": "a", "at": [-1, 0, 1]}, {"name": "b", "at": [1, 0, 1]}, {"name": "t", "at": [0, 0, 0]}],
            "members": [
                {"name": n, "start": n, "end": "t", "section": "s", "material": "m", "behaviour": "bar"} for n in "ab"
            ],
            "supports": [
                {"node": "a", "fixed": ["x", "y", "z"]},
                {"node": "b", "fixed": ["x", "y", "z"]},
                {"node": "t", "fixed": ["y"]},
            ],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "t", "force": [0, 0, -1e5]}],
        }
        _, state = solved(data)
        self.assertAlmostEqual(state["members"]["a"]["stations"][0]["N"], 1e5 / 2**0.5, delta=1e-3)
        self.assertAlmostEqual(-state["displacements"]["t"][2] / (1e5 * 2**0.5 / (E * 0.001)), 1, delta=1e-9)

    def test_torsion(self):
        _, state = solved(
            beam(
                supports=[{"node": "n0", "fixed": FIXED}],
                node_loads=[{"case": "P", "node": "n1", "moment": [5000, 0, 0]}],
            )
        )
        self.assertAlmostEqual(state["displacements"]["n1"][3] / (5000 * 6 / (E / 2.6 * I)), 1, delta=1e-9)
        self.assertAlmostEqual(state["members"]["b0"]["stations"][0]["T"], 5000, delta=1e-6)

    def test_projected_load_is_per_metre_of_plan(self):
        data = beam(supports=[{"node": "n0", "fixed": FIXED}])
        data["nodes"][1]["at"] = [4, 0, 3]
        data["member_loads"] = [{"case": "P", "member": "b0", "value": [0, 0, -1000], "axes": "projected"}]
        _, state = solved(data)
        self.assertAlmostEqual(state["reactions"]["n0"][2], 4000, delta=1e-6)


def random_frame(seed: int, turn: np.ndarray | None = None) -> dict:
    """A connected random space frame of seven nodes with loads; `turn` rotates nodes and loads."""
    rng = np.random.default_rng(seed)
    turn = np.eye(3) if turn is None else turn
    at = rng.uniform(-4, 4, (7, 3))
    pairs = [(i, i + 1) for i in range(6)] + [(0, 3), (1, 5), (2, 6)]
    loads = rng.uniform(-1e4, 1e4, (len(pairs), 3))
    forces = rng.uniform(-1e4, 1e4, (7, 3))
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E}],
        "sections": [{"name": "s", "A": 0.005, "Iy": I, "Iz": I, "It": I, "Avy": 0.002, "Avz": 0.002}],
        "nodes": [{"name": str(i), "at": list(turn @ p)} for i, p in enumerate(at)],
        "members": [
            {"name": f"{a}-{b}", "start": str(a), "end": str(b), "section": "s", "material": "m"} for a, b in pairs
        ],
        "supports": [{"node": "0", "fixed": FIXED}, {"node": "6", "fixed": ["x", "y", "z"]}],
        "cases": [{"name": "P"}],
        "node_loads": [{"case": "P", "node": str(i), "force": list(turn @ f)} for i, f in enumerate(forces)],
        "member_loads": [
            {"case": "P", "member": f"{a}-{b}", "value": list(turn @ q), "start": 0.1}
            for (a, b), q in zip(pairs, loads, strict=True)
        ],
    }


class RandomFrames(unittest.TestCase):
    def response(self, data):
        document = read_document(textbook(data))
        structure = expand(document)
        return solve(structure, load(document, structure))

    def test_equilibrium_of_the_whole(self):
        for seed in range(8):
            data = random_frame(seed)
            document = read_document(textbook(data))
            chain = run(document)
            r = chain.response
            force = np.array(chain.loading.expected[0])
            self.assertLess(np.abs(r.reaction[:, :3, 0].sum(axis=0) + force).max(), 1e-4)
            self.assertLess(r.residual, 1e-9)

    def test_equilibrium_at_every_node(self):
        # what the elements take at a node is what loads and supports give it
        for seed in range(8):
            r = self.response(random_frame(seed))
            left = -r.reaction[:, :, 0]
            loads = random_frame(seed)["node_loads"]
            for p in loads:
                left[r.structure.nodes.index(p["node"]), :3] -= p["force"]
            size = np.abs(left).max()
            for axes, ends, f in zip(r.elements.axes, r.elements.ends, r.end_force[:, :, 0], strict=True):
                for node, own in zip(ends, f.reshape(2, 6), strict=True):
                    left[node] += np.concatenate([axes.T @ own[:3], axes.T @ own[3:]])
            self.assertLess(np.abs(left).max(), 1e-8 * size, seed)

    def test_superposition(self):
        # the sum of two loads gives the sum of their results, by analysis and by combination
        for seed in range(4):
            one, other = random_frame(seed), random_frame(seed)
            data = random_frame(seed)
            for item in other["node_loads"]:
                item["force"] = [2.5 * v for v in item["force"][::-1]]
            data["cases"] = [{"name": "P"}, {"name": "Q"}]
            data["node_loads"] = one["node_loads"] + [{**p, "case": "Q"} for p in other["node_loads"]]
            data["combinations"] = [{"name": "C", "factors": {"P": 1.35, "Q": -0.7}}]
            chain = run(read_document(textbook(data)))
            direct = read_document(
                textbook(data)
                | {
                    "cases": [{"name": "P"}],
                    "combinations": [{"name": "C", "factors": {"P": 1.0}}],
                    "node_loads": [
                        {"case": "P", "node": p["node"], "force": [f * v for v in p["force"]]}
                        for f, load in ((1.35, one), (-0.7, other))
                        for p in load["node_loads"]
                    ],
                    "member_loads": [{**m, "value": [1.35 * v for v in m["value"]]} for m in data["member_loads"]],
                }
            )
            alone = run(direct).combined
            for name in ("displacement", "reaction", "end_force"):
                a, b = getattr(chain.combined, name)([0]), getattr(alone, name)([0])
                self.assertLess(np.abs(a - b).max(), 1e-9 * np.abs(a).max(), name)

    def test_stiffness_is_symmetric(self):
        for seed in range(4):
            data = random_frame(seed)
            data["members"][2]["releases"] = {"start": ["ry"], "end": ["rz"], "end_springs": {"ry": 500.0}}
            document = read_document(textbook(data))
            structure = expand(document)
            K = assemble(structure, load(document, structure)).K
            self.assertLess(abs(K - K.T).max(), 1e-12 * abs(K).max())

    def test_end_of_each_element_follows_from_its_start(self):
        # diagrams run from the start; at the end they must meet the end forces of the stiffness method
        for seed in range(8):
            r = self.response(random_frame(seed))
            d = diagrams(r, r.elements.length[:, None])
            for values, row, sign in (
                (d.N, 6, 1),
                (d.Vy, 7, -1),
                (d.Vz, 8, -1),
                (d.T, 9, 1),
                (d.My, 10, -1),
                (d.Mz, 11, 1),
            ):
                self.assertLess(np.abs(values[:, 0] - sign * r.end_force[:, row]).max(), 1e-5)

    def test_rotating_the_model_turns_the_displacements(self):
        c, s = np.cos(0.7), np.sin(0.7)
        turn = np.array([[c, -s, 0], [s, c, 0], [0, 0, 1.0]]) @ np.array([[1, 0, 0], [0, c, -s], [0, s, c]])
        for seed in range(4):
            u = self.response(random_frame(seed)).displacement[:, :3, 0]
            v = self.response(random_frame(seed, turn)).displacement[:, :3, 0]
            self.assertLess(np.abs(u @ turn.T - v).max(), 1e-8 * np.abs(u).max() + 1e-12)

    def test_renumbering_changes_nothing(self):
        data = random_frame(3)
        before = self.response(data)
        data["nodes"].reverse()
        data["members"].reverse()
        after = self.response(data)
        self.assertLess(np.abs(before.displacement - after.displacement[::-1]).max(), 1e-10)

    def test_work_of_the_loads_is_twice_the_strain_energy(self):
        # node loads only: F·u = 2 U, U from end forces and end displacements
        data = random_frame(5)
        data["member_loads"] = []
        r = self.response(data)
        work = sum(float(np.dot(p["force"], r.displacement[int(p["node"]), :3, 0])) for p in data["node_loads"])
        energy = float((r.end_force[:, :, 0] * r.end_displacement[:, :, 0]).sum())
        self.assertAlmostEqual(work / energy, 1, delta=1e-8)


class Mechanisms(unittest.TestCase):
    def test_no_supports(self):
        with self.assertRaisesRegex(ModelError, "no supports"):
            run(read_document(beam()))

    def test_a_sliding_beam_names_node_and_direction(self):
        data = beam(
            supports=[{"node": n, "fixed": ["y", "z", "rx", "rz"]} for n in ("n0", "n1")],
            node_loads=[{"case": "P", "node": "n1", "force": [10, 0, 0]}],
        )
        with self.assertRaisesRegex(ModelError, r"node “n[01]” can move along X"):
            run(read_document(textbook(data)))

    def test_a_hinge_too_many(self):
        data = beam(
            nodes=3,
            supports=[{"node": "n0", "fixed": PINNED}, {"node": "n2", "fixed": ROLLER}],
            node_loads=[{"case": "P", "node": "n1", "force": [0, 0, -10]}],
        )
        data["members"][0]["releases"] = {"end": ["ry"]}
        with self.assertRaisesRegex(ModelError, "mechanism: node “n"):
            run(read_document(textbook(data)))

    def test_a_stiff_model_is_not_taken_for_a_mechanism(self):
        # a chain of forty elements is ill-conditioned but sound: tip deflection of the cantilever
        data = beam(
            length=40.0,
            nodes=41,
            supports=[{"node": "n0", "fixed": FIXED}],
            node_loads=[{"case": "P", "node": "n40", "force": [0, 0, -10]}],
        )
        _, state = solved(data)
        self.assertAlmostEqual(-state["displacements"]["n40"][2] / (10 * 40**3 / (3 * E * I)), 1, delta=1e-6)
