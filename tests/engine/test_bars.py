"""Bars of angles, tees, channels, rounds and flats in axial force."""

import unittest
from dataclasses import replace
from math import pi, sqrt

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.shapes.angles import angle
from engine.catalogue.shapes.channels import channel
from engine.catalogue.shapes.pairs import double
from engine.catalogue.shapes.solid import flat_bar, round_bar
from engine.catalogue.shapes.tees import tee
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import Document, read_document
from engine.document.byhand import MemberEdit
from engine.document.jigs import HallJig
from engine.standards.en.axial import axial_check, bar
from engine.verification.proof import prove
from tests.engine.helpers import published

CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}


def checked(s, grade, L, N, G=80769.2e6):
    v = axial_check(bar(s, replace(material(grade), G=G), L, L, L), np.array([N]), 1.0, 1.0)
    return {name: float(np.ravel(value)[0]) for name, value in v.items()}


class Published(unittest.TestCase):
    def near(self, case, key, found, tolerance=1e-3):
        self.assertAlmostEqual(found / case["expect"][key], 1, delta=tolerance, msg=f"{case['id']} {key}")

    def test_an_angle_connected_by_one_leg(self):
        case = CASES["G01"]
        v = checked(angle("a", "L", 0.1, 0.1, 0.01, 0.012, 0.006), "S235", 2.5, -120e3)
        for key, found in (
            ("lambda_v", v["lambda_z"]),
            ("lambda_eff_v", v["lambda_eff_v"]),
            ("lambda_eff_y", v["lambda_eff_leg"]),
            ("chi_v", v["chi_bar"]),
            ("Nb_kN", v["Nb_Rd"] / 1e3),
            ("utilisation", v["u_axial"]),
        ):
            self.near(case, key, found)

    def test_a_tee_twists_as_it_bends_and_its_stem_is_of_class_4(self):
        case = CASES["F01"]
        s = replace(tee("t", "T", 0.15, 0.15, 0.0071, 0.0107, 0.015), It=78509.4e-12, Iw=0.0)
        v = checked(s, "S355", 2.0, -120e3)
        self.near(case, "Ncr_lowest_kN", v["Ncr_TF"] / 1e3)
        self.near(case, "Ncr_T_kN", v["Ncr_T"] / 1e3)
        self.assertGreater(v["slender"], 1.0)
        self.assertTrue(np.isnan(v["u_axial"]))
        self.assertFalse(np.isnan(checked(s, "S355", 2.0, 120e3)["u_axial"]))

    def test_a_channel(self):
        case = CASES["F02"]
        # the case's own I_t and I_w, without fillets
        s = replace(channel("u", "UPE", 0.2, 0.08, 0.006, 0.011, 0.013), It=81932.7e-12, Iw=1.15651e-8)
        v = checked(s, "S275", 1.5, -120e3)
        self.assertTrue(case["allow"]["Ncr_lowest_kN"][0] <= v["Ncr_TF"] / 1e3 <= case["allow"]["Ncr_lowest_kN"][1])
        self.assertTrue(case["allow"]["Nb_kN"][0] <= v["Nb_Rd"] / 1e3 <= case["allow"]["Nb_kN"][1])


class ClosedForms(unittest.TestCase):
    def test_solid_bars_buckle_by_euler(self):
        """Round 30 mm, 1 m, S235, curve c: i = 7.5 mm, λ̄ = 133.3/93.9 = 1.420, Φ = 1.807, χ = 0.3419."""
        v = checked(round_bar("r", 0.030), "S235", 1.0, -10e3)
        self.assertAlmostEqual(v["lambda_z"], 1 / 0.0075 / (pi * sqrt(210e3 / 235)), delta=1e-6)
        self.assertAlmostEqual(v["chi_bar"], 0.3419, delta=5e-4)
        weak = checked(flat_bar("f", "FL", 0.1, 0.01), "S235", 1.0, -1e3)
        self.assertAlmostEqual(weak["Ncr_y"], pi**2 * 210e9 * 0.1 * 0.01**3 / 12, delta=1.0)

    def test_doubly_symmetric_pairs_do_not_couple(self):
        pair = double("d", section("UPE 200"), 0.01)
        v = checked(pair, "S235", 3.0, -1e3)
        self.assertAlmostEqual(v["Ncr_TF"], min(v["Ncr_y"], v["Ncr_z"], v["Ncr_T"]), delta=1.0)

    def test_coupling_lowers_and_never_raises(self):
        for name in ("L 100x10", "L 150x100x10", "UPE 200", "UPN 200"):
            for L in (0.5, 1.5, 4.0):
                v = checked(section(name), "S235", L, -1e3)
                self.assertLessEqual(v["Ncr_TF"], min(v["Ncr_y"], v["Ncr_z"], v["Ncr_T"]) * (1 + 1e-9))

    def test_slender_legs(self):
        """L 100 × 6: 16.67 above 0.748 · 28.4 · √0.43 = 13.93 of S235."""
        v = checked(angle("a", "L", 0.1, 0.1, 0.006, 0.012), "S235", 1.0, -1e3)
        self.assertAlmostEqual(v["slender"], 16.667 / 13.93, delta=1e-3)
        self.assertTrue(np.isnan(v["u_axial"]))


class Verdicts(unittest.TestCase):
    def verdict(self, force, of="L 100x10", behaviour="bar", length=2.5):
        """A strut or tie on a slide, drawn by hand, in S235."""
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
                "members": [
                    {"name": "m", "start": "a", "end": "b", "section": of, "material": "S235", "behaviour": behaviour}
                ],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z", *(["rx"] if behaviour == "beam" else [])]},
                    {"node": "b", "fixed": ["y", "z"]},
                ],
                "cases": [{"name": "P"}],
                "node_loads": [{"case": "P", "node": "b", "force": [force, 0, 0]}],
                "rules": {"imperfections": False},
                "combinations": [{"name": "C", "factors": {"P": 1.0}}],
            }
        )
        chain = run(document)
        return chain, chain.verification.verdicts[0]

    def test_pulled_and_pressed_beyond_what_they_bear(self):
        full = section("L 100x10").A * 235e3
        for force, status in (
            (1.01 * full, "fails"),
            (0.9 * full, "passes"),
            (-1.01 * 191.2, "fails"),
            (-0.9 * 191.2, "passes"),
        ):
            chain, verdict = self.verdict(force)
            self.assertEqual(verdict.status, status, force)
            self.assertIn("two bolts", verdict.left_out[0])
            outcome = next(o for o in verdict.outcomes if o.criterion == "axial")
            proof = prove(chain.verification, chain.combinations, 0, outcome)
            self.assertAlmostEqual(proof.utilisation, outcome.utilisation, delta=1e-12)

    def test_other_shapes(self):
        for name, force, status in (
            ("UPE 200", -50.0, "passes"),
            ("UPE 200", -2000.0, "fails"),
            ("L 150x10", -20.0, "not covered"),
            ("L 150x10", 20.0, "passes"),
        ):
            self.assertEqual(self.verdict(force, name)[1].status, status, name)

    def test_bent_ones_are_not_covered(self):
        self.assertEqual(self.verdict(-20.0, behaviour="beam")[1].status, "not covered")

    def bent(self, q=0.0, force=-20.0, weight=False, of="L 100x10", length=2.5, behaviour="bar"):
        """(status, what is said of bending) of such a bar with a load of its own in kN/m, and its weight."""
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": of, "material": "S235", "behaviour": behaviour}],
                "supports": [
                    {"node": "a", "fixed": ["x", "y", "z"]},
                    {"node": "b", "fixed": ["y", "z"]},
                ],
                "cases": [{"name": "P"}, *([{"name": "G", "nature": "permanent", "self_weight": True}] if weight else [])],
                "node_loads": [
                    {"case": "P", "node": "b", "force": [force, 0, 0]},
                ],
                "member_loads": [{"case": "P", "member": "m", "kind": "line", "value": [0, 0, -q]}] if q else [],
                "rules": {"imperfections": False},
                "combinations": [{"name": "C", "factors": {"P": 1.0, **({"G": 1.35} if weight else {})}}],
                "analysis": {"order": "first"},
            }
        )  # fmt: skip
        verdict = run(document).verification.verdicts[0]
        return verdict.status, " ".join(
            w for w in (*verdict.not_covered, *verdict.left_out) if "bend it" in w or "bends it" in w
        )

    def test_what_acts_across_them_is_not_covered(self):
        # about its principal axes, 45° from its legs
        s = section("L 100x10")
        for q in (1.0, 5.0):
            share = q * 1000 * 2.5**2 / 8 * sqrt(0.5) * (1 / s.Wel_y + 1 / s.Wel_z) / 235e6
            self.assertGreater(share, 0.1)
            status, words = self.bent(q)
            self.assertEqual(status, "not covered")
            self.assertIn(f"loads across it bend it, up to {share:.2f} of its elastic", words)
        # little of it is told; not where the bar is used up, in whichever way
        self.assertEqual(self.bent(0.3)[0], "passes")
        self.assertIn("that is not checked", self.bent(0.3)[1])
        self.assertEqual(self.bent(0.3, force=-185.0)[0], "not covered")
        self.assertEqual(self.bent(0.01), ("passes", ""))
        self.assertEqual(self.bent(), ("passes", ""))
        for shape in ("RD 60", "FL 100x20", "UPE 200"):
            self.assertEqual(self.bent(20.0, force=20.0, of=shape)[0], "not covered", shape)

    def test_their_own_weight_is_told_where_it_bends_them(self):
        """RD 40 of 4 m: 9.86 kg/m, q L²/8 = 193 Nm, 1.35 times of which is 0.18 of 6.28 cm³ × 235 N/mm²."""
        status, words = self.bent(of="RD 40", force=5.0, weight=True, length=4.0)
        self.assertEqual(status, "passes")
        self.assertIn("its own weight bends it, up to 0.18 of its elastic moment resistance", words)
        # what is pulled alone straightens
        self.assertEqual(self.bent(of="RD 40", force=5.0, weight=True, length=4.0, behaviour="tension-only")[1], "")

    def test_bracing_of_angles_and_rods_in_a_hall(self):
        edits = [
            MemberEdit(member="bay-1/wall-brace-A-up", section="L 150x15"),
            MemberEdit(member="bay-1/wall-brace-A-down", section="L 150x15"),
        ]
        chain = run(Document(hall=HallJig(), edits=edits))
        for edit in edits:
            i = chain.structure.index[edit.member]
            verdict = chain.verification.verdicts[i]
            self.assertEqual([o.criterion for o in verdict.outcomes], ["axial"])
            self.assertEqual(verdict.not_covered, ())
            own = chain.combined.elements.member == i
            self.assertAlmostEqual(float(chain.verification.along[own].max()), verdict.outcomes[0].utilisation)
