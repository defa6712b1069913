"""Limits of slenderness by role and for single members: EN 1993-1-1 sets none."""

import unittest
from math import sqrt

from engine.catalogue.sections import family_of
from engine.chain import run
from engine.document import read_document
from engine.errors import ModelError
from engine.sizing.size import size
from engine.verification.proof import prove
from tests.engine.test_torsion import beam


def strut(length=6.0, section="HEA 140", force=-50.0, rules=None, **more):
    """A member between hinges, pressed along its axis, kN."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": section, **more}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [
                {"name": "pulled", "use": "strength", "factors": {"Q": -1.0}},
                {"name": "pressed", "use": "strength", "factors": {"Q": 1.0}},
            ],
            "rules": {"imperfections": False, **(rules or {})},
            "node_loads": [{"case": "Q", "node": "b", "force": [force, 0, 0]}],
        }
    )


def reached(document):
    chain = run(document)
    verdict = chain.verification.verdicts[0]
    return chain, verdict, next((o for o in verdict.outcomes if o.criterion == "slenderness"), None)


class Limits(unittest.TestCase):
    def test_nothing_is_asked_for_unless_it_is_stated(self):
        self.assertIsNone(reached(strut())[2])
        self.assertIsNone(reached(strut(rules={"slenderness": {"member": 0}}))[2])

    def test_by_role_and_by_member(self):
        # HEA 140: i_z = 3.52 cm, 6 m: 170.5
        section = next(s for s in family_of("HEA 140") if s.name == "HEA 140")
        slender = 6.0 / sqrt(section.Iz / section.A)
        self.assertAlmostEqual(slender, 170.5, delta=0.5)
        _, verdict, found = reached(strut(rules={"slenderness": {"member": 200}}))
        self.assertAlmostEqual(found.utilisation, slender / 200, delta=1e-9)
        self.assertEqual(verdict.status, "passes")
        chain, verdict, found = reached(strut(rules={"slenderness": {"member": 200}}, checks={"slenderness": 150}))
        self.assertAlmostEqual(found.utilisation, slender / 150, delta=1e-9)
        self.assertEqual(verdict.status, "fails")
        self.assertEqual(chain.combinations[chain.verification.strength[found.combination]].name, "pressed")
        steps = {step.symbol: step.value for step in prove(chain.verification, chain.combinations, 0, found).steps}
        self.assertEqual(steps[r"\lambda_{max}"], "150.0")
        # 0 by the member takes the limit of its role away
        self.assertIsNone(reached(strut(rules={"slenderness": {"member": 200}}, checks={"slenderness": 0}))[2])

    def test_by_the_effective_length(self):
        section = next(s for s in family_of("HEA 140") if s.name == "HEA 140")
        _, _, found = reached(strut(checks={"slenderness": 200, "buckling_z": 0.5, "buckling_y": 2.0}))
        expected = max(12.0 / sqrt(section.Iy / section.A), 3.0 / sqrt(section.Iz / section.A))
        self.assertAlmostEqual(found.utilisation, expected / 200, delta=1e-9)

    def test_of_rods_in_tension_alone(self):
        document = strut(section="RD 20", force=20.0, behaviour="tension-only", rules={"slenderness": {"member": 400}})
        document.combinations.pop(0)
        _, verdict, found = reached(document)
        self.assertAlmostEqual(found.utilisation, 6.0 / 0.005 / 400, delta=1e-5)
        self.assertEqual(verdict.status, "fails")

    def test_what_no_check_knows_has_its_slenderness_still(self):
        _, verdict, found = reached(strut(section="L 100x10", checks={"slenderness": 100}))
        self.assertGreater(found.utilisation, 1)
        self.assertEqual(verdict.status, "fails")

    def test_sizing_keeps_them(self):
        document = beam(torque=0.0, force=2.0, length=6.0)
        free = size(beam(torque=0.0, force=2.0, length=6.0))
        document.rules.slenderness["member"] = 150
        document.sizing.slenderness = 0
        kept = size(document)
        of = {s.name: 6.0 / sqrt(s.Iz / s.A) for s in family_of("IPE 300")}
        self.assertLessEqual(of[next(iter(kept.choices.values())).section], 150)
        self.assertGreater(of[next(iter(free.choices.values())).section], 150)
        document.rules.slenderness["member"] = 5
        with self.assertRaisesRegex(ModelError, "no section of a slenderness up to 5"):
            size(document)
