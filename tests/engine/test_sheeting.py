"""Sheeting that holds purlins: the published stiffness, and what it does to a verdict."""

import unittest
from math import pi

from engine.catalogue.sections import section
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.uncovered import SHEETED
from engine.standards.en.sheeting import rotation_needed, shear_needed
from tests.engine.helpers import published

CASE = {case["id"]: case for case in published("steel-deep.json")["cases"]}["R02"]
NEEDED = CASE["expect"]["S_required_kN"]
TWIST = CASE["expect"]["C_theta_required_kNm_per_m_rad"] / 0.35


def purlin(load=-5.0, sheeting=None, role="purlin", **more):
    """IPE 240 of S235 over 5 m between forks under an even load, kN/m, up where positive."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [5, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "role": role, "section": "IPE 240", "material": "S235"} | more],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False, "sheeting": {"purlin": sheeting} if sheeting else {}},
            "member_loads": [{"case": "Q", "member": "m", "kind": "line", "value": [0, 0, load]}],
        }
    )  # fmt: skip


def reached(document):
    chain = run(document)
    verdict = chain.verification.verdicts[0]
    return {o.criterion: o.utilisation for o in verdict.outcomes}, verdict, chain


class Needed(unittest.TestCase):
    def test_the_published_stiffness(self):
        s, m = section("IPE 240"), material("S235")
        self.assertAlmostEqual(shear_needed(s, m, 5.0) / 1e3 / NEEDED, 1, delta=1e-3)
        self.assertAlmostEqual(rotation_needed(s, m, 4.0, 0.35) / 1e3 / TWIST / 0.35, 1, delta=2e-3)

    def test_by_hand(self):
        s, m = section("IPE 240"), material("S235")
        euler = pi**2 * 210e9 / 25
        by_hand = (euler * 37391.2e-12 + 80769.2e6 * 128798e-12 + euler * 2836340e-12 * 0.0144) * 70 / 0.0576
        self.assertAlmostEqual(shear_needed(s, m, 5.0) / by_hand, 1, delta=2e-3)


class Verdicts(unittest.TestCase):
    def test_where_it_is_stiff_enough_the_pressed_flange_does_not_buckle(self):
        free = reached(purlin())[0]["lateral"]
        held, verdict, _ = reached(purlin(sheeting={"shear": 1.01 * NEEDED}))
        M = 5.0 * 25 / 8
        self.assertAlmostEqual(held["lateral"], M / (366.6e-6 * 235e3), delta=0.002)
        self.assertGreater(free, 1.5 * held["lateral"])
        self.assertFalse(any("not stiff enough" in words for words in verdict.left_out))
        self.assertIn(SHEETED, verdict.left_out)
        self.assertNotIn(SHEETED, reached(purlin())[1].left_out)

    def test_where_it_is_too_soft_it_counts_for_nothing_and_is_said(self):
        free = reached(purlin())[0]["lateral"]
        for sheeting in ({"shear": 0.99 * NEEDED}, {"shear": 4.9 * NEEDED, "every_rib": False}):
            use, verdict, _ = reached(purlin(sheeting=sheeting))
            self.assertAlmostEqual(use["lateral"], free, delta=1e-12)
            self.assertTrue(any("sheeting is not stiff enough" in words for words in verdict.left_out))
        self.assertLess(reached(purlin(sheeting={"shear": 5.1 * NEEDED, "every_rib": False}))[0]["lateral"], free)

    def test_in_uplift_only_what_holds_it_against_twist_helps(self):
        free = reached(purlin(load=5.0))[0]["lateral"]
        sideways = reached(purlin(load=5.0, sheeting={"shear": 2 * NEEDED}))[0]["lateral"]
        self.assertAlmostEqual(sideways, free, delta=1e-9)
        little = reached(purlin(load=5.0, sheeting={"shear": 2 * NEEDED, "rotation": 0.99 * TWIST}))[0]["lateral"]
        self.assertAlmostEqual(little, free, delta=1e-9)
        both = reached(purlin(load=5.0, sheeting={"shear": 2 * NEEDED, "rotation": 1.01 * TWIST}))[0]["lateral"]
        self.assertAlmostEqual(both, 5.0 * 25 / 8 / (366.6e-6 * 235e3), delta=0.002)
        # against twist alone it is not held sideways
        alone = reached(purlin(load=5.0, sheeting={"shear": 0.5 * NEEDED, "rotation": 9 * TWIST}))[0]["lateral"]
        self.assertAlmostEqual(alone, free, delta=1e-9)

    def test_of_other_roles_and_shapes_it_holds_nothing(self):
        sheeting = {"shear": 9 * NEEDED, "rotation": 9 * TWIST}
        for more in ({"role": "member"}, {"section": "UPE 200"}):
            self.assertEqual(reached(purlin(sheeting=sheeting, **more))[0], reached(purlin(**more))[0])

    def test_it_takes_no_part_in_the_analysis(self):
        with_, without = (reached(d)[2] for d in (purlin(sheeting={"shear": 2 * NEEDED}), purlin()))
        self.assertEqual(with_.structure.members[0].outer, without.structure.members[0].outer)
        self.assertEqual(float(with_.combined.alpha[0]), float(without.combined.alpha[0]))

    def test_proof_changes_and_figures_know_it(self):
        use, verdict, chain = reached(purlin(sheeting={"shear": 1.01 * NEEDED, "rotation": 3.0}))
        checks = chain.verification.checks
        for outcome in verdict.outcomes:
            if outcome.criterion not in ("deflection", "sway", "variable"):
                self.assertAlmostEqual(checks.evaluated(0, outcome).values["u"], outcome.utilisation, delta=1e-9)
        again = checks.on(checks.grounds.under(chain.document, chain.structure))
        self.assertAlmostEqual(
            max(float(r.utilisation.max()) for r in again.reached(0) if r.criterion == "lateral"),
            use["lateral"],
            delta=1e-9,
        )
        told = {f.symbol: f.words for f in checks.figures(0, verdict.outcomes)}
        self.assertIn("holds the outer flange all along", told["S"])
        self.assertIn("not enough", told[r"C_\theta"])

    def test_beyond_what_it_bears_it_never_passes(self):
        self.assertEqual(
            reached(purlin(load=-40.0, sheeting={"shear": 9 * NEEDED, "rotation": 90.0}))[1].status, "fails"
        )
