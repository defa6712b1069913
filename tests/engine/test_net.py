"""Net sections in tension: published values, by hand, and through the whole chain."""

import unittest

import numpy as np

from engine.catalogue.steels import EUROPEAN, STRENGTH, ULTIMATE, material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.net import HolesAt, leg_factor, net_area, net_check
from engine.verification.proof import prove
from tests.engine.helpers import published

CASE = {case["id"]: case for case in published("steel-deep.json")["cases"]}["P04"]
ALL = ["x", "y", "z", "rx", "ry", "rz"]


def tie(section, holes, pull=200.0, behaviour="bar", **more):
    """A tie of 3 m pulled at its end."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [3, 0, 0]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": section, "behaviour": behaviour}
                | ({"checks": {"holes": holes}} if holes else {})
                | more
            ],
            "supports": [{"node": "a", "fixed": ALL}, {"node": "b", "fixed": ALL[1:]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "node_loads": [{"case": "Q", "node": "b", "force": [pull, 0, 0]}],
        }
    )


def verdict(document):
    chain = run(document)
    return chain, chain.verification.verdicts[0]


def of(found, criterion):
    return next((o.utilisation for o in found.outcomes if o.criterion == criterion), None)


class Holes(unittest.TestCase):
    def test_staggered_holes_of_a_flat(self):
        given, expect = CASE["inputs"], CASE["expect"]
        s, p = given["s_p_mm"][0]
        holes = HolesAt(
            given["d0_mm"] / 1e3,
            given["t_mm"] / 1e3,
            given["holes_straight"],
            given["holes_zigzag"],
            s / 1e3,
            p / 1e3,
        )
        A = given["b_mm"] * given["t_mm"] * 1e-6
        found = net_area(A, holes)
        self.assertAlmostEqual((A - found["A_straight"]) * 1e6, expect["Anet_straight_mm2"], delta=1e-6)
        self.assertAlmostEqual((A - found["A_zigzag"]) * 1e6, expect["Anet_zigzag_mm2"], delta=1e-6)
        self.assertAlmostEqual(found["A_net"] * 1e6, expect["Anet_mm2"], delta=1e-6)
        v = net_check(np.array([given["N_t_kN"] * 1e3]), A, holes, given["fu_MPa"] * 1e6, 1.25)
        self.assertAlmostEqual(v["N_u"] / 1e3, expect["Nu_kN"], delta=1e-6)
        self.assertAlmostEqual(float(v["u_net"][0]), expect["utilisation"], delta=1e-5)

    def test_an_angle_by_one_leg(self):
        # EN 1993-1-8 table 3.8: β2 = 0.4 to 0.7, β3 = 0.5 to 0.7 between p1 = 2.5 d0 and 5 d0
        for rows, p1, beta in ((2, 40, 0.4), (2, 75, 0.55), (2, 120, 0.7), (3, 50, 0.5), (5, 75, 0.6), (4, 100, 0.7)):
            self.assertAlmostEqual(leg_factor(HolesAt(0.02, 0.008, 1, rows=rows, p1=p1 / 1e3)), beta, delta=1e-9)
        # one bolt: 2 (35 − 0.5 · 22) 8 · 490/1.25
        one = net_check(np.array([1e5]), 1e-3, HolesAt(0.022, 0.008, 1, rows=1, e2=0.035), 490e6, 1.25)
        self.assertAlmostEqual(one["N_u"], 2 * (35 - 11) * 8 * 490 / 1.25, delta=1e-3)

    def test_strengths_of_table_3_1(self):
        for name, thickness, fu in (
            ("S235", 0.02, 360),
            ("S275", 0.02, 430),
            ("S275", 0.06, 410),
            ("S355", 0.04, 490),
            ("S355", 0.041, 470),
            ("S420", 0.03, 520),
            ("S450", 0.03, 550),
            ("S460", 0.08, 540),
        ):
            self.assertEqual(material(name).fu(thickness), fu * 1e6)
        self.assertEqual(set(STRENGTH), set(ULTIMATE))
        for name in EUROPEAN:
            self.assertGreater(material(name).fu(0.02), material(name).fy(0.02))
        self.assertTrue(np.isnan(material("C24").fu(0.02)))


class Ties(unittest.TestCase):
    def test_a_flat_with_two_holes(self):
        chain, found = verdict(tie("FL 100x10", {"d0": 22, "across": 2}))
        # (1000 − 2 · 22 · 10) mm² · 0.9 · 490/1.25
        expected = 200e3 / (0.9 * 560 * 490 / 1.25)
        self.assertAlmostEqual(of(found, "net"), expected, delta=1e-9)
        self.assertEqual(found.status, "fails" if expected > 1 else "passes")
        self.assertFalse(any("net section" in words for words in found.left_out))
        outcome = next(o for o in found.outcomes if o.criterion == "net")
        proof = prove(chain.verification, chain.combinations, 0, outcome)
        self.assertAlmostEqual(proof.utilisation, expected, delta=1e-9)
        self.assertIn("6.2.2.2(3)", {step.clause for step in proof.steps})

    def test_what_the_gross_section_bears_the_net_one_may_not(self):
        # between 0.9 A_net fu/γM2 and A fy the gross section passes and the net one falls
        chain, found = verdict(tie("FL 100x10", {"d0": 26, "across": 2}, pull=300))
        self.assertLess(of(found, "axial"), 1.0)
        self.assertGreater(of(found, "net"), 1.0)
        self.assertEqual(found.status, "fails")
        _, plain = verdict(tie("FL 100x10", None, pull=300))
        self.assertEqual(plain.status, "passes")
        self.assertTrue(any("no holes are stated" in words for words in plain.left_out))

    def test_angles_channels_and_i_sections(self):
        for section, behaviour in (
            ("L 80x8", "bar"),
            ("PFC 150x75x18", "bar"),
            ("IPE 200", "beam"),
            ("SHS 100x5", "beam"),
        ):
            _, found = verdict(tie(section, {"d0": 18, "across": 1}, pull=100, behaviour=behaviour))
            self.assertGreater(of(found, "net"), 0.05, section)
        by_leg = {"d0": 18, "across": 1, "rows": 2, "p1": 45}
        _, found = verdict(tie("L 80x8", by_leg, pull=100))
        chain, _ = verdict(tie("L 80x8", by_leg, pull=100))
        A = chain.structure.members[0].section.A * 1e6
        self.assertAlmostEqual(of(found, "net"), 100e3 / (0.4 * (A - 18 * 8) * 490 / 1.25), delta=1e-6)

    def test_an_unequal_angle_counts_with_its_shorter_leg(self):
        by_leg = {"d0": 18, "across": 1, "rows": 3, "p1": 90}
        chain, found = verdict(tie("L 150x100x10", by_leg, pull=100))
        A = chain.structure.members[0].section.A * 1e6 - 50 * 10
        self.assertAlmostEqual(of(found, "net"), 100e3 / (0.7 * (A - 180) * 490 / 1.25), delta=1e-6)
        outcome = next(o for o in found.outcomes if o.criterion == "net")
        proof = prove(chain.verification, chain.combinations, 0, outcome)
        self.assertAlmostEqual(proof.utilisation, outcome.utilisation, delta=1e-9)
        self.assertFalse(any("both legs" in words for words in found.left_out))
        _, found = verdict(tie("L 150x100x10", {"d0": 18, "across": 1}, pull=100))
        self.assertTrue(any("both legs" in words for words in found.left_out))

    def test_a_wide_flat_has_the_strength_of_its_thickness(self):
        _, found = verdict(tie("FL 150x10", None, pull=100))
        self.assertAlmostEqual(of(found, "axial"), 100e3 / (1500 * 355), delta=1e-9)

    def test_compression_needs_no_net_section(self):
        _, found = verdict(tie("L 80x8", {"d0": 18, "across": 1}, pull=-20))
        self.assertEqual(of(found, "net"), 0.0)

    def test_holes_that_leave_nothing(self):
        for holes in ({"d0": 60, "across": 2}, {"d0": 18, "across": 1, "rows": 1, "e2": 5}):
            section = "FL 100x10" if holes["d0"] == 60 else "L 80x8"
            _, found = verdict(tie(section, holes))
            self.assertEqual(found.status, "not covered", found)
            self.assertTrue(any("holes leave nothing" in words for words in found.not_covered), found.not_covered)

    def test_a_steel_of_ones_own_without_a_tensile_strength(self):
        for fu, status in ((None, "not covered"), (510000, "passes")):
            own = {"name": "mine", "E": 210e6, "fy": 355000} | ({"fu": fu} if fu else {})
            data = tie("FL 100x10", {"d0": 18, "across": 1}, pull=100, material="mine").model_dump(mode="json")
            data["materials"] = [own]
            _, found = verdict(read_document(data))
            self.assertEqual(found.status, status, found.not_covered)
