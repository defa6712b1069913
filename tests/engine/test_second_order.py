"""Second order, critical factors, members and supports that act one way: closed forms and published values."""

import math
import unittest
from unittest import mock

import numpy as np

from engine.analysis.combined import Combined, combine_results
from engine.analysis.solve import assemble
from engine.catalogue.sections import section as catalogue
from engine.document import read_document
from engine.errors import ModelError
from engine.expand import expand
from engine.load import combinations, load
from tests.engine.helpers import FIXED, hall, published, textbook

INCH, KIP, KSI = 0.0254, 4448.2216, 6894757.29
ANALYSIS = {case["id"]: case for case in published("analysis.json")}
E, I, A = 210e9, 8.356e-05, 5.381e-3  # noqa: E741


def analysed(data: dict, order: str = "second", shear: bool = False) -> Combined:
    """The results of a document's combinations."""
    document = read_document(textbook(data))
    structure = expand(document)
    loading = load(document, structure)
    system = assemble(structure, loading, shear)
    return combine_results(system, combinations(document, loading), order)


def column(start=FIXED, end=(), length=6.0, pieces=1, force=(0, 0, -1e5), line=(0, 0, 0), section=None, release=()):
    """A column along Z from n0, loaded at its head; held as stated."""
    values = section or {"E": E, "A": A, "I": I}
    names = [f"n{i}" for i in range(pieces + 1)]
    members = [
        {"name": f"m{i}", "start": a, "end": b, "section": "s", "material": "m"}
        for i, (a, b) in enumerate(zip(names[:-1], names[1:], strict=True))
    ]
    if release:
        members[-1]["releases"] = {"end": list(release)}
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": values["E"], "G": values["E"] / 2.6}],
        "sections": [{"name": "s", "A": values["A"], "Iy": values["I"], "Iz": values["I"], "It": values["I"]}],
        "nodes": [{"name": n, "at": [0, 0, length * i / pieces]} for i, n in enumerate(names)],
        "members": members,
        "supports": [{"node": "n0", "fixed": list(start)}] + ([{"node": names[-1], "fixed": list(end)}] if end else []),
        "cases": [{"name": "P"}],
        "node_loads": [{"case": "P", "node": names[-1], "force": list(force)}],
        "member_loads": [{"case": "P", "member": m["name"], "value": list(line)} for m in members if any(line)],
        "combinations": [{"name": "c", "factors": {"P": 1.0}, "use": "strength"}],
    }


class BeamColumns(unittest.TestCase):
    def benchmark(self, name):
        case = ANALYSIS[name]["inputs"]
        section = {"E": case["E_ksi"] * KSI, "A": case["A_in2"] * INCH**2, "I": case["I_in4"] * INCH**4}
        return case, ANALYSIS[name]["expect"], section

    def test_simply_supported_under_uniform_load(self):
        case, expected, section = self.benchmark("p-delta-simply-supported")
        w = case["w_kip_per_ft"] * KIP / (12 * INCH)
        for P, M, y in zip(case["P_kip"], expected["mid_moment_kip_in"], expected["mid_deflection_in"], strict=True):
            found = analysed(
                column(["x", "y", "z", "rz"], ["x", "y"], 336 * INCH, 1, (0, 0, -P * KIP), (w, 0, 0), section)
            )
            moment = abs(found.diagrams([0]).My[0, 4, 0]) / KIP / INCH
            deflection = abs(found.deflections([0])[0, 4, 0, 0]) / INCH
            # the closed form itself, beside the file's rounded figures
            if P:
                k = math.sqrt(P * KIP / (section["E"] * section["I"]))
                exact = w / k**2 * (1 / math.cos(k * 336 * INCH / 2) - 1) / KIP / INCH
                self.assertAlmostEqual(moment / exact, 1.0, delta=2e-5)
            self.assertAlmostEqual(moment / M, 1.0, delta=1e-4)
            self.assertAlmostEqual(deflection / y, 1.0, delta=1e-4)

    def test_cantilever(self):
        case, expected, section = self.benchmark("p-delta-cantilever")
        for P, M, y in zip(case["P_kip"], expected["base_moment_kip_in"], expected["tip_deflection_in"], strict=True):
            force = (case["H_kip"] * KIP, 0, -P * KIP)
            found = analysed(column(FIXED, (), 336 * INCH, 1, force, section=section))
            d = found.diagrams([0])
            self.assertAlmostEqual(abs(d.My[0, 0, 0]) / KIP / INCH / M, 1.0, delta=2e-5)
            self.assertAlmostEqual(abs(found.deflections([0])[0, -1, 0, 0]) / INCH / y, 1.0, delta=2e-5)
            # the free end has no moment, and the base bears the force and its arm
            self.assertAlmostEqual(d.My[0, -1, 0] / d.My[0, 0, 0], 0.0, delta=1e-8)
            arm = found.displacement([0])[1, 0, 0]
            base = case["H_kip"] * KIP * 336 * INCH + P * KIP * arm
            self.assertAlmostEqual(abs(found.reaction([0])[0, 4, 0]) / base, 1.0, delta=1e-8)

    def test_tension_stiffens(self):
        # cantilever under tension T: tip deflection H L³/3EI · 3(u − tanh u)/u³
        T, H, L = 2e5, 1e3, 6.0
        u = L * math.sqrt(T / (E * I))
        found = analysed(column(force=(H, 0, T)))
        exact = H * L**3 / (3 * E * I) * 3 * (u - math.tanh(u)) / u**3
        self.assertAlmostEqual(found.deflections([0])[0, -1, 0, 0] / exact, 1.0, delta=2e-5)
        self.assertEqual(found.alpha[0], np.inf)

    def test_one_element_or_eight(self):
        one, eight = (analysed(column(force=(2e3, 1e3, -2e5), pieces=n, line=(300.0, 0, 0))) for n in (1, 8))
        for axis in (0, 1):
            self.assertAlmostEqual(
                one.displacement([0])[-1, axis, 0] / eight.displacement([0])[-1, axis, 0], 1.0, delta=1e-4
            )
        self.assertAlmostEqual(one.diagrams([0]).My[0, 0, 0] / eight.diagrams([0]).My[0, 0, 0], 1.0, delta=1e-4)

    def test_slope_of_the_moment_is_the_shear(self):
        found = analysed(column(force=(2e3, 0, -2e5), line=(300.0, 0, 0)))
        d = found.diagrams([0])
        h = d.x[0, 1] - d.x[0, 0]
        # Simpson over pairs of intervals
        V, M = d.Vz[0, :, 0], d.My[0, :, 0]
        for i in range(0, 8, 2):
            enclosed = h / 3 * (V[i] + 4 * V[i + 1] + V[i + 2])
            self.assertAlmostEqual(M[i + 2] - M[i], enclosed, delta=1e-4 * abs(M).max())

    def test_beyond_its_critical_load(self):
        N = math.pi**2 * E * I / (4 * 36)
        found = analysed(column(force=(1e3, 0, -1.1 * N)))
        self.assertFalse(found.stable(0))
        self.assertAlmostEqual(found.alpha[0], 1 / 1.1, delta=1e-4)
        # what is shown then is the first order
        self.assertAlmostEqual(found.diagrams([0]).My[0, 0, 0] / 6e3, -1.0, delta=1e-9)


def portal(ratio: float, fixed: bool, load_: float = 1e5, lateral: float = 0.0) -> dict:
    """A rectangular frame under equal loads on its columns; ratio: (I_beam/L)/(I_column/h)."""
    h, span = 5.0, 8.0
    beam = ratio * I / h * span
    held = FIXED if fixed else ["x", "y", "z", "rx", "rz"]
    nodes = {"a0": (0, 0), "a": (0, h), "b": (span, h), "b0": (span, 0)}
    return {
        "units": "N, m",
        "materials": [{"name": "m", "E": E, "G": E / 2.6}],
        "sections": [
            {"name": "c", "A": 10.0, "Iy": I, "Iz": 1e-2, "It": I},
            {"name": "b", "A": 10.0, "Iy": beam, "Iz": 1e-2, "It": I},
        ],
        "nodes": [{"name": n, "at": [x, 0, z]} for n, (x, z) in nodes.items()],
        "members": [
            {"name": "left", "start": "a0", "end": "a", "section": "c", "material": "m"},
            {"name": "right", "start": "b0", "end": "b", "section": "c", "material": "m"},
            {"name": "beam", "start": "a", "end": "b", "section": "b", "material": "m"},
        ],
        "supports": [{"node": n, "fixed": held} for n in ("a0", "b0")]
        + [{"node": n, "fixed": ["y", "rx"]} for n in ("a", "b")],
        "cases": [{"name": "P"}],
        "node_loads": [
            {"case": "P", "node": "a", "force": [lateral, 0, -load_]},
            {"case": "P", "node": "b", "force": [0, 0, -load_]},
        ],
        "combinations": [{"name": "c", "factors": {"P": 1.0}, "use": "strength"}],
    }


class CriticalFactors(unittest.TestCase):
    def factor(self, **more):
        found = analysed(column(force=(0, 0, -1e5), **more))
        return math.sqrt(math.pi**2 * E * I / 36 / (found.alpha[0] * 1e5))

    def test_columns(self):
        expected = ANALYSIS["buckling-columns"]["expect"]
        pin, slide = ["x", "y", "z", "rz"], ["x", "y"]
        for pieces in (1, 4):
            self.assertAlmostEqual(
                self.factor(start=pin, end=slide, pieces=pieces), expected["pinned_pinned"], delta=2e-5
            )
            self.assertAlmostEqual(self.factor(pieces=pieces), expected["fixed_free"], delta=2e-5)
            self.assertAlmostEqual(self.factor(end=slide, pieces=pieces), expected["fixed_pinned"], delta=5e-5)
            # clamped ends leave a single element its bubbles alone: 0.015 % off
            clamped = self.factor(end=[*slide, "rx", "ry"], pieces=pieces)
            self.assertAlmostEqual(clamped, expected["fixed_fixed"], delta=2e-4 if pieces == 1 else 2e-5)

    def test_a_hinge_at_the_head_is_a_pin(self):
        # the node keeps its rotation, the element's end is released
        self.assertAlmostEqual(
            self.factor(end=["x", "y", "rx", "ry"], release=["ry", "rz"]),
            ANALYSIS["buckling-columns"]["expect"]["fixed_pinned"],
            delta=5e-5,
        )

    def test_portals_in_sway(self):
        for name, fixed in (("buckling-portal-sway-pinned", False), ("buckling-portal-sway-fixed", True)):
            case = ANALYSIS[name]
            for ratio, K in zip(case["inputs"]["r"], case["expect"]["K"], strict=True):
                found = analysed(portal(ratio, fixed))
                factor = math.sqrt(math.pi**2 * E * I / 25 / (found.alpha[0] * 1e5))
                self.assertAlmostEqual(factor / K, 1.0, delta=2e-4)

    def test_sway_grows_towards_the_critical_load(self):
        # with the buckling mode as the only movement it would be 1/(1 − 1/α); other modes make it slightly less
        first = analysed(portal(1.0, False, lateral=1e3), order="first")
        second = analysed(portal(1.0, False, lateral=1e3))
        alpha = second.alpha[0]
        growth = second.displacement([0])[1, 0, 0] / first.displacement([0])[1, 0, 0]
        self.assertAlmostEqual(growth, 1 / (1 - 1 / alpha), delta=0.003 * growth)

    def test_a_cantilever_of_two_steps(self):
        # Timoshenko and Gere 2.14: EI2 below over l2, EI1 above over l1: tan(k1 l1) tan(k2 l2) = k1/k2 (both under P)
        l1, l2, I1, I2 = 3.0, 4.0, 2e-5, 8e-5

        def off(P):
            k1, k2 = math.sqrt(P / (E * I1)), math.sqrt(P / (E * I2))
            return math.tan(k1 * l1) * math.tan(k2 * l2) - k1 / k2

        from scipy.optimize import brentq

        critical = brentq(off, 1e3, (math.pi / 2 / l1) ** 2 * E * I1 * 0.999)
        data = column(length=7.0, pieces=2)
        data["nodes"][1]["at"] = [0, 0, l2]
        data["sections"] = [
            {"name": "s", "A": A, "Iy": I2, "Iz": I2, "It": I},
            {"name": "t", "A": A, "Iy": I1, "Iz": I1, "It": I},
        ]
        data["members"][1]["section"] = "t"
        found = analysed(data)
        self.assertAlmostEqual(found.alpha[0] * 1e5 / critical, 1.0, delta=1e-4)

    def pitched(self, pieces: int) -> dict:
        """A pitched portal on pins, 24 m by 6 m, ridge at 7.26 m, under vertical load on the rafters."""
        corners = [(0, 0), (0, 6), (12, 7.2612508), (24, 6), (24, 0)]
        points = [(0.0, 0.0)]
        for (x0, z0), (x1, z1) in zip(corners[:-1], corners[1:], strict=True):
            points += [(x0 + (x1 - x0) * k / pieces, z0 + (z1 - z0) * k / pieces) for k in range(1, pieces + 1)]
        count = len(points) - 1
        side = [i // pieces for i in range(count)]
        return {
            "nodes": [{"name": f"p{i}", "at": [x, 0, z]} for i, (x, z) in enumerate(points)],
            "members": [
                {
                    "name": f"m{i}",
                    "start": f"p{i}",
                    "end": f"p{i + 1}",
                    "section": "HEA 300" if side[i] in (0, 3) else "IPE 360",
                }
                for i in range(count)
            ],
            "supports": [{"node": f"p{i}", "fixed": ["x", "y", "z", "rx", "rz"]} for i in (0, count)]
            + [{"node": f"p{i}", "fixed": ["y", "rx", "rz"]} for i in range(1, count)],
            "cases": [{"name": "P"}],
            "member_loads": [
                {"case": "P", "member": f"m{i}", "value": [0, 0, -9.43], "axes": "projected"}
                for i in range(count)
                if side[i] in (1, 2)
            ],
            "combinations": [{"name": "c", "factors": {"P": 1.0}, "use": "strength"}],
        }

    def test_a_pitched_portal(self):
        one, many = analysed(self.pitched(1)), analysed(self.pitched(6))
        # the force changes along a rafter; one element takes its mean
        self.assertAlmostEqual(one.alpha[0] / many.alpha[0], 1.0, delta=3e-3)
        # Davies, In-plane stability in portal frames, The Structural Engineer 68 (1990): 3 E I_r / (s ((1 + 1.2/R) N_c h +
        # 0.3 N_r s)), R = I_c s / (I_r h); an estimate on the safe side
        column_, rafter = catalogue("HEA 300"), catalogue("IPE 360")
        s, h = math.hypot(12, 1.2612508), 6.0
        N = one.diagrams([0]).N[:, :, 0].mean(axis=1)
        ratio = column_.Iy * s / (rafter.Iy * h)
        estimate = 3 * E * rafter.Iy / (s * ((1 + 1.2 / ratio) * -N[0] * h + 0.3 * -N[1:3].mean() * s))
        self.assertTrue(estimate < one.alpha[0] < 1.2 * estimate)

    def test_by_alpha_only_those_below_ten(self):
        light, heavy = (analysed(portal(1.0, False, load_=P, lateral=1e3), order="by alpha_cr") for P in (2e4, 2e5))
        self.assertGreater(light.alpha[0], 10)
        self.assertEqual((bool(light.second[0]), bool(heavy.second[0])), (False, True))
        self.assertGreater(heavy.displacement([0])[1, 0, 0], 1.05 * light.displacement([0])[1, 0, 0])


class Progress(unittest.TestCase):
    def test_long_work_can_be_stopped_between_its_rounds(self):
        document = read_document(textbook(portal(1.0, False, lateral=1e3)))
        structure = expand(document)
        loading = load(document, structure)
        told = []

        def tell(done, of):
            told.append((done, of))
            if len(told) == 3:
                raise KeyboardInterrupt

        with self.assertRaises(KeyboardInterrupt):
            combine_results(assemble(structure, loading), combinations(document, loading), "second", progress=tell)
        self.assertEqual(told, [(0, 1)] * 3)


class Groups(unittest.TestCase):
    def test_how_many_states_are_solved_at_a_time_changes_nothing(self):
        document = hall(frames=3)
        structure = expand(document)
        loading = load(document, structure)
        chosen = [c for c in combinations(document, loading) if c.use == "strength"][:23]
        system = assemble(structure, loading)
        whole = combine_results(system, chosen, "second").states
        with mock.patch("engine.analysis.states.TOGETHER", 5):
            parts = combine_results(system, chosen, "second").states
        for name in ("displacement", "reaction", "end_force", "axial", "swell"):
            one, other = getattr(whole, name), getattr(parts, name)
            # axial forces count as settled within 1e-6 of the largest of their group
            self.assertLess(np.abs(one - other).max(), 1e-6 * np.abs(one).max(), name)


class OneWay(unittest.TestCase):
    def braced(self, behaviour="tension-only", warm=0.0):
        """A hinged frame of 6 m by 4 m with two crossing diagonals, pushed along X."""
        nodes = {"a0": (0, 0), "a": (0, 4), "b": (6, 4), "b0": (6, 0)}
        data = {
            "units": "N, m",
            "materials": [{"name": "m", "E": E, "G": E / 2.6}],
            "sections": [{"name": "s", "A": 2e-3, "Iy": I, "Iz": I, "It": I}],
            "nodes": [{"name": n, "at": [x, 0, z]} for n, (x, z) in nodes.items()],
            "members": [
                {"name": n, "start": p, "end": q, "section": "s", "material": "m", "behaviour": "bar"}
                for n, p, q in (("left", "a0", "a"), ("right", "b0", "b"), ("top", "a", "b"))
            ]
            + [
                {"name": n, "start": p, "end": q, "section": "s", "material": "m", "behaviour": behaviour}
                for n, p, q in (("rising", "a0", "b"), ("falling", "a", "b0"))
            ],
            "supports": [{"node": n, "fixed": ["x", "y", "z"]} for n in ("a0", "b0")]
            + [{"node": n, "fixed": ["y"]} for n in ("a", "b")],
            "cases": [{"name": "H"}, {"name": "V"}],
            "node_loads": [
                {"case": "H", "node": "a", "force": [3e4, 0, 0]},
                {"case": "V", "node": "a", "force": [0, 0, -1e4]},
                {"case": "V", "node": "b", "force": [0, 0, -1e4]},
            ],
            "combinations": [
                {"name": "right", "factors": {"H": 1.0}, "use": "strength"},
                {"name": "left", "factors": {"H": -1.0, "V": 1.0}, "use": "strength"},
                {"name": "down", "factors": {"V": 1.0}, "use": "strength"},
            ],
        }
        if warm:
            data["member_loads"] = [
                {"case": "H", "member": n, "kind": "temperature", "value": [warm, 0, 0]} for n in ("rising", "falling")
            ]
        return data

    def axial(self, found, number):
        names = [m.name for m in found.structure.members]
        N = found.diagrams([number]).N[:, 0, 0]
        return {names[m]: N[e] for e, m in enumerate(found.elements.member)}

    def test_one_diagonal_pulls_the_other_hangs(self):
        found = analysed(self.braced(), order="first")
        pull = 3e4 * math.hypot(6, 4) / 6
        right, left = self.axial(found, 0), self.axial(found, 1)
        self.assertAlmostEqual(right["rising"], pull, delta=1e-3 * pull)
        self.assertAlmostEqual(left["falling"], pull, delta=1e-3 * pull)
        self.assertAlmostEqual(right["falling"], 0.0, delta=1e-6)
        # statics with the pulling one alone: the leeward post takes its vertical part
        self.assertAlmostEqual(right["right"], -3e4 * 4 / 6, delta=20)
        self.assertEqual([found.structure.members[m].name for m in found.slack(0)], ["falling"])
        self.assertTrue(found.settled(0))

    def test_compression_only_is_the_mirror(self):
        found = analysed(self.braced("compression-only"), order="first")
        right = self.axial(found, 0)
        self.assertAlmostEqual(right["falling"], -3e4 * math.hypot(6, 4) / 6, delta=40)
        self.assertAlmostEqual(right["rising"], 0.0, delta=1e-6)

    def test_both_hang_under_weight(self):
        found = analysed(self.braced(), order="first")
        down = self.axial(found, 2)
        self.assertAlmostEqual(down["left"], -1e4, delta=1)
        self.assertEqual(len(found.slack(2)), 2)

    def test_warm_ones_hang_without_force(self):
        cold, warm = (analysed(self.braced(warm=t), order="first") for t in (0.0, 60.0))
        self.assertAlmostEqual(self.axial(warm, 0)["rising"], self.axial(cold, 0)["rising"], delta=60)
        self.assertAlmostEqual(self.axial(warm, 0)["falling"], 0.0, delta=1e-6)

    def test_reactions_balance_in_every_state(self):
        found = analysed(self.braced(), order="first")
        for number, total in ((0, (-3e4, 0, 0)), (1, (3e4, 0, 2e4)), (2, (0, 0, 2e4))):
            np.testing.assert_allclose(found.reaction([number])[:, :3, 0].sum(axis=0), total, atol=1e-3)
        self.assertLess(found.states.residual.max(), 1e-9)

    def beam_on_three(self, one_way=True):
        data = column()
        data["nodes"] = [{"name": f"n{i}", "at": [4.0 * i, 0, 0]} for i in range(3)]
        data["members"] = [
            {"name": f"m{i}", "start": f"n{i}", "end": f"n{i + 1}", "section": "s", "material": "m"} for i in range(2)
        ]
        data["supports"] = [
            {"node": "n0", "fixed": ["x", "y", "z", "rx"]},
            {"node": "n1", "fixed": ["y", "z"]},
            {"node": "n2", "fixed": ["y", "z"], "one_way": ["z"] if one_way else []},
        ]
        data["node_loads"] = []
        data["member_loads"] = [{"case": "P", "member": "m0", "value": [0, 0, -5e3]}]
        return data

    def test_a_support_lifts(self):
        # loaded in one span alone, the far support would pull: free of it, the beam is simply supported
        found = analysed(self.beam_on_three(), order="first")
        R = found.reaction([0])[:, 2, 0]
        np.testing.assert_allclose(R, [1e4, 1e4, 0.0], atol=1e-4)
        self.assertGreater(found.displacement([0])[2, 2, 0], 0)
        both = analysed(self.beam_on_three(False), order="first")
        self.assertAlmostEqual(both.reaction([0])[2, 2, 0], -5e3 * 4 / 16, delta=1e-6)

    def test_a_support_pressed_stays(self):
        data = self.beam_on_three()
        data["member_loads"].append({"case": "P", "member": "m1", "value": [0, 0, -5e3]})
        found = analysed(data, order="first")
        # two equal spans: 3/8, 10/8, 3/8
        np.testing.assert_allclose(found.reaction([0])[:, 2, 0], [7.5e3, 25e3, 7.5e3], rtol=1e-9)

    def test_second_order_with_one_way_members(self):
        first = analysed(self.braced(), order="first")
        second = analysed(self.braced(), order="second")
        self.assertTrue(second.settled(1) and second.stable(1))
        moved = [r.displacement([1])[1, 0, 0] for r in (first, second)]
        self.assertGreater(abs(moved[1]), abs(moved[0]))

    def test_alone_each_case_has_its_own_state(self):
        found = analysed(self.braced(), order="first")
        self.assertEqual([found.structure.members[m].name for m in found.slack(found.case(0))], ["falling"])


class OfAHall(unittest.TestCase):
    def test_linear_ones_superpose(self):
        document = hall(spacings=[6.0, 6.0])
        structure = expand(document)
        loading = load(document, structure)
        combined = combinations(document, loading)
        system = assemble(structure, loading)
        plain = combine_results(system, combined, "first")
        self.assertIsNone(plain.states)
        second = combine_results(system, combined, "second")
        numbers = [i for i, c in enumerate(combined) if c.use == "strength"][::40]
        one, other = plain.diagrams(numbers), second.diagrams(numbers)
        # second order adds a little, and nothing where nothing is pressed
        largest = np.abs(one.My).max()
        self.assertGreater(np.abs(other.My - one.My).max(), 1e-4 * largest)
        self.assertLess(np.abs(other.My - one.My).max(), 0.5 * largest)
        self.assertTrue(all(second.stable(i) for i in numbers))
        self.assertLess(second.states.residual.max(), 1e-8)

    def test_first_order_states_equal_superposition(self):
        from engine.analysis.states import solve_states

        document = hall(spacings=[6.0, 6.0])
        structure = expand(document)
        loading = load(document, structure)
        combined = combinations(document, loading)
        system = assemble(structure, loading)
        plain = combine_results(system, combined, "first")
        numbers = list(range(0, len(combined), 60))
        states = solve_states(system, plain.rows[numbers], np.zeros(len(numbers), dtype=bool))
        scale = np.abs(states.end_force).max()
        np.testing.assert_allclose(states.end_force, plain.end_force(numbers), atol=1e-8 * scale)
        np.testing.assert_allclose(states.displacement, plain.displacement(numbers), atol=1e-10)
        np.testing.assert_allclose(states.reaction, plain.reaction(numbers), atol=1e-8 * scale)
        from engine.analysis.state_diagrams import state_deflections, state_diagrams

        every, x = np.arange(len(numbers)), plain.diagrams([0]).x
        own, by_cases = state_diagrams(states, every, x), plain.diagrams(numbers)
        for name in ("N", "Vy", "Vz", "T", "My", "Mz"):
            np.testing.assert_allclose(getattr(own, name), getattr(by_cases, name), atol=1e-8 * scale)
        np.testing.assert_allclose(state_deflections(states, every, x), plain.deflections(numbers), atol=1e-9)

    def test_a_mechanism_is_still_named(self):
        data = column(start=["x", "y", "z"])
        with self.assertRaises(ModelError):
            analysed(data)


if __name__ == "__main__":
    unittest.main()
