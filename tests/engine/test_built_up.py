"""Laced and battened members: published cases, statics by hand, and what falls."""

import unittest
from dataclasses import replace
from math import inf, pi, sqrt

import numpy as np

from engine.catalogue.built import built_section
from engine.catalogue.outlines import integrals
from engine.catalogue.properties import Latticed
from engine.catalogue.sections import section
from engine.catalogue.shapes import outline_of
from engine.catalogue.shapes.latticed import shear_stiffness
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.errors import ModelError
from engine.standards.en.built_up import built_up_check, efficiency
from engine.verification.proof import prove
from tests.engine.helpers import published

CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}
LACED = {"shape": "laced", "of": "UPE 200", "h": 350, "panel": 800, "by": "L 50x5"}
BATTENED = {"shape": "battened", "of": "UPE 200", "h": 280, "panel": 800, "b": 200, "tw": 8}


def of_case(case):
    i, c = case["inputs"], case["inputs"]["chord"]
    chord = replace(section("UPE 200"), A=c["A_mm2"] * 1e-6, Iy=c["Iy_mm4"] * 1e-12, Iz=c["Iz_mm4"] * 1e-12)
    lacing = replace(section("FL 40x10"), A=i["Ad_mm2"] * 1e-6) if "Ad_mm2" in i else None
    panel = i.get("panel_a_mm") or i["a_mm"]
    return Latticed(chord, i["h0_mm"] / 1e3, panel / 1e3, lacing, "zigzag", i["planes"], (inf, 1.0))


def column(section_=LACED, N=600.0, M=0.0, sideways=0.0, length=8.0, load=0.0, behaviour="beam", **more):
    """A column laid flat between hinges, pressed, with end moments across its chords (kNm) and about the other axis; an even load, kN/m."""
    return read_document(
        {
            "built_sections": [{"name": "K", **section_}],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "K", "material": "S355", "behaviour": behaviour} | more],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "analysis": {"order": "first", "second_order_below": 1.0},
            "node_loads": [
                {"case": "Q", "node": "a", "moment": [0, M, sideways]},
                {"case": "Q", "node": "b", "moment": [0, -M, -sideways], "force": [-N, 0, 0]},
            ],
            "member_loads": [{"case": "Q", "member": "m", "kind": "line", "value": [0, 0, -load]}] if load else [],
        }
    )  # fmt: skip


def found(document):
    chain = run(document)
    verdict = chain.verification.verdicts[0]
    return {o.criterion: o.utilisation for o in verdict.outcomes}, verdict, chain


class Published(unittest.TestCase):
    def check(self, key):
        case = CASES[key]
        i = case["inputs"]
        forces = (np.array([-i["N_kN"] * 1e3]),) * 2, np.array([i["MI_kNm"] * 1e3]), np.zeros(1), (np.zeros(1),) * 2
        v = built_up_check(of_case(case), material("S355"), *forces, (i["L_mm"] / 1e3,) * 2, (1.0, 1.0))
        return {name: float(np.ravel(value)[0]) for name, value in v.items()}, case["expect"]

    def test_a_laced_column(self):
        v, expect = self.check("G02")
        for name, key, unit in (
            ("I_eff", "Ieff_mm4", 1e-12), ("Ncr_y", "Ncr_kN", 1e3), ("S_v", "Sv_kN", 1e3), ("M_Ed", "M_kNm", 1e3), ("N_ch", "Nch_kN", 1e3),
            ("V_Ed", "V_kN", 1e3), ("chi_ch", "chi_chord", 1), ("Nb_ch", "Nb_chord_kN", 1e3), ("n_ch", "utilisation", 1),
        ):  # fmt: skip
            self.assertAlmostEqual(v[name] / unit / expect[key], 1, delta=1e-5, msg=key)

    def test_a_battened_column(self):
        v, expect = self.check("G03")
        for name, key, unit in (
            ("mu", "mu", 1), ("I_eff", "Ieff_mm4", 1e-12), ("S_v", "Sv_kN", 1e3), ("M_Ed", "M_kNm", 1e3), ("N_ch", "Nch_kN", 1e3),
            ("V_Ed", "V_kN", 1e3), ("M_ch", "chord_panel_moment_kNm", 1e3),
        ):  # fmt: skip
            self.assertAlmostEqual(v[name] / unit / expect[key], 1, delta=1e-5, msg=key)
        self.assertAlmostEqual(2 * v["V_b"] / 1e3 / expect["batten_shear_total_kN"], 1, delta=1e-5)


class Parts(unittest.TestCase):
    def test_stiffness_of_lacing_is_that_of_its_panel(self):
        """A panel of a truss with stiff chords, sheared: work of its diagonals and posts under V = 1."""
        chord, lacing, h0, a = section("UPE 200"), section("L 50x5"), 0.4, 0.6
        for arrangement in ("zigzag", "crossed", "posts"):
            d = sqrt(h0**2 + (a / 2 if arrangement == "zigzag" else a) ** 2)
            # of crossing diagonals one is counted
            bars = {"zigzag": 2, "crossed": 1, "posts": 1}[arrangement]
            work = bars * (d / h0) ** 2 * d / (210e9 * lacing.A)
            work += h0 / (210e9 * lacing.A) if arrangement == "posts" else 0.0
            # two planes; γ of the panel is its movement over its length
            S_v = 2 * a / work
            of = Latticed(chord, h0, a, lacing, arrangement, 2)
            self.assertAlmostEqual(shear_stiffness(of) / S_v, 1, delta=1e-9, msg=arrangement)

    def test_soft_battens_are_softer_than_stiff_ones(self):
        chord = section("UPE 200")
        soft, stiff = (Latticed(chord, 0.28, 0.8, None, "zigzag", 2, (depth, 0.008)) for depth in (0.04, inf))
        batten = 0.008 * 0.04**3 / 12
        by_hand = 24 * 210e9 * chord.Iz / 0.64 / (1 + 2 * chord.Iz * 0.28 / (2 * batten * 0.8))
        self.assertAlmostEqual(shear_stiffness(soft) / by_hand, 1, delta=1e-9)
        self.assertAlmostEqual(shear_stiffness(stiff) / (2 * pi**2 * 210e9 * chord.Iz / 0.64), 1, delta=1e-9)

    def test_lacing_and_battens_weigh(self):
        # by metre of member, in two planes: two diagonals of 0.5 m, crossed ones of 0.721 m, a diagonal and a post, in panels of 0.6 m
        chord, lacing = section("UPE 200"), section("L 50x5")
        for arrangement, lengths in (("zigzag", 2 * 0.5), ("crossed", 2 * 0.72111), ("posts", 0.72111 + 0.4)):
            of = Latticed(chord, 0.4, 0.6, lacing, arrangement, 2)
            self.assertAlmostEqual(of.joining / (2 * lengths * 4.80e-4 / 0.6), 1, delta=2e-3, msg=arrangement)
        # battens 200 x 8 every 0.8 m over 0.28 m: 2 x 3.517 kg, 8.8 kg/m, a fifth of what the chords weigh
        battens = Latticed(chord, 0.28, 0.8, None, "zigzag", 2, (0.2, 0.008))
        self.assertAlmostEqual(battens.joining * 7850, 8.79, delta=0.01)
        data = column(BATTENED, N=0.0).model_dump(mode="json")
        data["cases"] = [{"name": "G", "nature": "permanent", "self_weight": True}]
        data["combinations"], data["node_loads"] = [{"name": "C1", "use": "strength", "factors": {"G": 1.0}}], []
        chain = run(read_document(data))
        chords, own = 2 * 29.0e-4 * 7850, chain.structure.members[0].section.latticed.joining * 7850
        self.assertGreater(own, 8.0)
        self.assertAlmostEqual(chain.response.reaction[:, 2].sum() / ((chords + own) * 8.0 * 9.80665), 1, delta=3e-3)
        self.assertAlmostEqual(chain.tonnage() / ((chords + own) * 8.0), 1, delta=2e-3)

    def test_efficiency_of_battens(self):
        of = Latticed(section("UPE 200"), 0.28, 0.8, None, "zigzag", 2, (0.2, 0.008))
        i_0 = sqrt((0.28**2 * of.chord.A / 2 + 2 * of.chord.Iz) / (2 * of.chord.A))
        for slender, mu in ((60, 1.0), (75, 1.0), (100, 2 - 100 / 75), (150, 0.0), (200, 0.0)):
            self.assertAlmostEqual(efficiency(of, slender * i_0), mu, delta=1e-9)

    def test_the_outline_has_the_area_and_axes(self):
        s = run(column()).structure.members[0].section
        area = integrals(outline_of(s))
        self.assertAlmostEqual(area.A / s.A, 1, delta=1e-6)
        self.assertAlmostEqual(area.Iz / s.Iz, 1, delta=1e-6)
        self.assertAlmostEqual(area.Iy / (s.Iy + 2 * s.latticed.chord.Iz), 1, delta=1e-6)

    def test_what_makes_no_section_is_refused(self):
        sizes = {"h": 350.0, "panel": 800.0, "b": 200.0, "tw": 8.0, "tf": 0.0, "b2": 0.0, "tf2": 0.0, "gap": 0.0}
        for shape, change, of, by, words in (
            ("laced", {}, "L 80x8", "L 50x5", "channels or I sections"),
            ("laced", {}, "UPE 200", "HEA 100", "lacing is of angles"),
            ("laced", {"h": 60.0}, "UPE 200", "L 50x5", "overlap"),
            ("laced", {"panel": 0.0}, "UPE 200", "L 50x5", "panel must be"),
            ("battened", {"tw": 0.0}, "UPE 200", "", "tw must be"),
            ("battened", {"b": 900.0}, "UPE 200", "", "deeper than"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                built_section("K", shape, sizes | change, of, "p", by)


class Members(unittest.TestCase):
    def test_it_sways_as_soft_as_its_lacing(self):
        # a cantilever: F L³/3 E I + F L/S_v, with I and S_v by hand
        data = column(N=0.0).model_dump(mode="json")
        data["supports"] = [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}]
        data["node_loads"] = [{"case": "Q", "node": "b", "force": [0, 0, -10]}]
        chain = run(read_document(data))
        chord, lacing = section("UPE 200"), section("L 50x5")
        d = sqrt(0.35**2 + 0.4**2)
        S_v = 210e9 * lacing.A * 0.8 * 0.35**2 / d**3
        by_hand = 10e3 * (8**3 / (3 * 210e9 * 0.35**2 * chord.A / 2) + 8 / S_v)
        self.assertAlmostEqual(-float(chain.combined.displacement([0])[1, 2, 0]) / by_hand, 1, delta=1e-6)

    def test_in_the_verdict_as_by_hand(self):
        use, verdict, chain = found(column(N=300.0, M=25.0))
        chord = section("UPE 200")
        d, lacing = sqrt(0.35**2 + 0.4**2), section("L 50x5")
        S_v, I = 2 * 210e9 * lacing.A * 0.8 * 0.35**2 / (2 * d**3), 0.35**2 * chord.A / 2  # noqa: E741
        M = (300e3 * 8 / 500 + 25e3) / (1 - 300e3 / (pi**2 * 210e9 * I / 64) - 300e3 / S_v)
        N_ch = 150e3 + M * 0.35 * chord.A / (2 * I)
        outcome = next(o for o in verdict.outcomes if o.criterion == "chord")
        values = chain.verification.checks.evaluated(0, outcome).values
        self.assertAlmostEqual(values["M_Ed"] / M, 1, delta=1e-6)
        self.assertAlmostEqual(values["N_ch"] / N_ch, 1, delta=1e-6)
        self.assertEqual(verdict.status, "passes")
        self.assertTrue(any("weight of its lacing" in words for words in verdict.left_out))

    def test_shear_of_loads_adds_to_that_of_the_bow(self):
        _, verdict, chain = found(column(N=200.0, load=6.0))
        outcome = next(o for o in verdict.outcomes if o.criterion == "lacing")
        v = chain.verification.checks.evaluated(0, outcome).values
        self.assertAlmostEqual(v["V_I"], 24e3, delta=1.0)
        self.assertAlmostEqual(v["V_Ed"], 24e3 + pi * (v["M_Ed"] - 48e3) / 8, delta=5.0)
        self.assertAlmostEqual(v["N_d"], v["V_Ed"] * sqrt(0.35**2 + 0.4**2) / (2 * 0.35), delta=1e-3)

    def test_shear_along_both_webs(self):
        # 900 kN beside a support, sideways: both webs of UPE 200 bear some 680 kN
        data = column(N=0.0, length=6.0).model_dump(mode="json")
        data["member_loads"] = [{"case": "Q", "member": "m", "kind": "force", "start": 0.05, "value": [0, 900, 0]}]
        _, verdict, chain = found(read_document(data))
        outcome = next(o for o in verdict.outcomes if o.criterion == "chord")
        v = chain.verification.checks.evaluated(0, outcome).values
        V = 900e3 * (1 - 0.05 / 6)
        self.assertAlmostEqual(v["v_y"] / (V / (2 * section("UPE 200").Av_z * 355e6 / sqrt(3))), 1, delta=1e-6)
        self.assertEqual(verdict.status, "fails")

    def test_more_force_never_asks_less(self):
        for section_ in (LACED, BATTENED):
            values = [found(column(section_, N=N, M=10.0, length=6.0))[0] for N in (50.0, 200.0, 500.0, 800.0)]
            for criterion in ("chord", "lacing"):
                own = [use[criterion] for use in values]
                self.assertEqual(own, sorted(own))

    def test_beyond_what_it_bears_it_never_passes(self):
        for document in (
            column(N=1400.0),
            column(N=300.0, M=300.0),
            column(N=300.0, sideways=150.0),
            column(N=-2500.0),
            column(LACED | {"by": "FL 30x5"}, N=600.0, M=60.0),
            column(BATTENED, N=900.0, M=60.0, length=6.0),
            column(BATTENED | {"b": 40, "tw": 4}, N=400.0, M=30.0, length=6.0),
        ):
            use, verdict, _ = found(document)
            self.assertEqual(verdict.status, "fails", (use, verdict.not_covered))

    def test_few_panels_slender_chords_and_torsion_are_not_covered(self):
        _, verdict, _ = found(column(LACED | {"panel": 3000}))
        self.assertIn("fewer than three panels", verdict.not_covered[0])
        data = column().model_dump(mode="json")
        data["member_loads"] = [{"case": "Q", "member": "m", "kind": "moment", "start": 4.0, "value": [8, 0, 0]}]
        self.assertTrue(any("torsion" in words for words in found(read_document(data))[1].not_covered))

    def test_proof_and_verdict_agree(self):
        for section_ in (
            LACED,
            BATTENED,
            LACED | {"arrangement": "posts"},
            LACED | {"arrangement": "crossed", "of": "IPE 160"},
        ):
            use, verdict, chain = found(column(section_, N=200.0, M=10.0, length=6.0))
            self.assertTrue({"chord", "lacing"} <= set(use))
            for outcome in verdict.outcomes:
                value = chain.verification.checks.evaluated(0, outcome).values["u"]
                self.assertAlmostEqual(value, outcome.utilisation, delta=1e-9)
                self.assertTrue(prove(chain.verification, chain.combinations, 0, outcome).steps)
