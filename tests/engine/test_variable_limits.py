"""Limits of deflection under variable actions alone, by role and for single members."""

import unittest

from engine.catalogue.sections import section
from engine.chain import run
from engine.document import read_document
from engine.verification.marks import marks
from engine.verification.proof import prove
from engine.verification.single import everything
from engine.verification.verify import of_one
from tests.engine.helpers import FIXED

E = 210e9


def beam(rules=None, **more):
    """A beam of 6 m between supports under 4 kN/m permanent and 10 kN/m imposed."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"} | more,
            ],
            "supports": [{"node": "a", "fixed": FIXED[:4]}, {"node": "b", "fixed": ["y", "z"]}],
            "cases": [{"name": "G", "nature": "permanent"}, {"name": "Q", "nature": "imposed"}],
            "member_loads": [
                {"case": "G", "member": "m", "value": [0, 0, -4]},
                {"case": "Q", "member": "m", "value": [0, 0, -10]},
            ],
            "rules": rules or {},
            "analysis": {"shear_deformation": False},
        }
    )


def uses(chain):
    return {o.criterion: o.utilisation for o in chain.verification.verdicts[0].outcomes}


def sag(q):
    return 5 * q * 6**4 / (384 * E * section("IPE 300").Iy)


class VariableActions(unittest.TestCase):
    def test_it_is_looked_at_where_a_limit_is_stated(self):
        self.assertNotIn("variable", uses(run(beam())))
        for rules, more, ratio in (
            ({"deflections_variable": {"main beam": 360}}, {}, 360),
            ({}, {"checks": {"deflection_variable": 500}}, 500),
            ({"deflections_variable": {"main beam": 360}}, {"checks": {"deflection_variable": 500}}, 500),
        ):
            found = uses(run(beam(rules, **more)))
            self.assertAlmostEqual(found["variable"], sag(10e3) * ratio / 6, delta=1e-6)
            self.assertAlmostEqual(found["deflection"], sag(14e3) * 250 / 6, delta=1e-6)
        self.assertNotIn(
            "variable",
            uses(run(beam({"deflections_variable": {"main beam": 360}}, checks={"deflection_variable": 0}))),
        )

    def test_a_limit_that_is_exceeded_fails_the_member(self):
        chain = run(beam({"deflections_variable": {"main beam": 700}}))
        verdict = chain.verification.verdicts[0]
        self.assertGreater(uses(chain)["variable"], 1.0)
        self.assertLess(uses(chain)["deflection"], 1.0)
        self.assertEqual(verdict.status, "fails")
        outcome = next(o for o in verdict.outcomes if o.criterion == "variable")
        proof = prove(chain.verification, chain.combinations, 0, outcome)
        self.assertAlmostEqual(proof.utilisation, outcome.utilisation, delta=1e-9)
        used = next(c for c in chain.combinations if c.name == proof.combination)
        self.assertEqual(used.use, "variable")
        self.assertEqual(used.factors[0], 0.0)
        own = {r.criterion: float(r.utilisation[r.worst]) for r in everything(chain.verification, 0)}
        self.assertAlmostEqual(own["variable"], outcome.utilisation, delta=1e-9)
        # what is drawn in that combination, and how near it comes, go by the same limit
        number = chain.combinations.index(used)
        along = of_one(chain.verification, number)
        self.assertAlmostEqual(float(along.max()), outcome.utilisation, delta=1e-9)
        found = marks(chain.verification, chain.combinations)
        self.assertAlmostEqual(found[number].share, 1.0, delta=1e-9)

    def test_without_such_a_combination_it_is_said(self):
        data = beam({"deflections_variable": {"main beam": 360}}).model_dump(mode="json")
        data["combinations"] = [
            {"name": "C1", "use": "strength", "factors": {"G": 1.35, "Q": 1.5}},
            {"name": "D1", "use": "deflection", "factors": {"G": 1.0, "Q": 1.0}},
        ]
        verdict = run(read_document(data)).verification.verdicts[0]
        self.assertTrue(any("variable actions not checked" in words for words in verdict.left_out), verdict.left_out)

    def test_with_such_combinations_alone_it_is_looked_at(self):
        data = beam({"deflections_variable": {"main beam": 700}}).model_dump(mode="json")
        data["combinations"] = [
            {"name": "C1", "use": "strength", "factors": {"G": 1.0, "Q": 1.0}},
            {"name": "V1", "use": "variable", "factors": {"Q": 1.0}},
        ]
        chain = run(read_document(data))
        self.assertGreater(uses(chain)["variable"], 1.0)
        self.assertEqual(chain.verification.verdicts[0].status, "fails")
        self.assertNotIn("deflection", uses(chain))

    def test_columns_drift_under_variable_actions(self):
        data = {
            "nodes": [{"name": n, "at": [0, 0, z]} for n, z in (("a", 0), ("b", 5))],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "HEA 200", "role": "column"}],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "node_loads": [{"case": "Q", "node": "b", "force": [2, 0, 0]}],
            "rules": {"deflections_variable": {"column": 300}},
            "analysis": {"shear_deformation": False},
        }
        found = uses(run(read_document(data)))
        bent = max(section("HEA 200").Iy, section("HEA 200").Iz), min(section("HEA 200").Iy, section("HEA 200").Iz)
        expected = [2e3 * 5**3 / (3 * E * second) * 300 / 5 for second in bent]
        self.assertTrue(any(abs(found["variable"] - value) < 1e-6 for value in expected), (found, expected))


class MoreLimits(unittest.TestCase):
    """Millimetres at most beside a ratio, of which what allows less holds, and limits under quasi-permanent actions (ψ2 = 0.3)."""

    def test_millimetres_hold_where_they_allow_less(self):
        for mm, ratio in ((10, 0), (1000 * 6 / 250 - 0.5, 0), (30, 250)):
            for rules, more in (
                ({"limits": {"main beam": {"total_mm": mm}}}, {}),
                ({}, {"checks": {"deflection_mm": mm}}),
                ({"limits": {"main beam": {"total_mm": 1}}}, {"checks": {"deflection_mm": mm}}),
            ):
                chain = run(beam(rules, **more))
                limit = 6 / ratio if ratio else mm / 1000
                self.assertAlmostEqual(uses(chain)["deflection"], sag(14e3) / limit, delta=1e-6)
        outcome = next(o for o in chain.verification.verdicts[0].outcomes if o.criterion == "deflection")
        self.assertFalse(chain.verification.stretches[outcome.row].absolute)

    def test_they_hold_alone_where_there_is_no_ratio(self):
        for own in ({"deflection": 0, "deflection_mm": 12}, {"variable_mm": 12}):
            found = uses(run(beam(checks=own)))
            key, load = ("deflection", 14e3) if "deflection" in own else ("variable", 10e3)
            self.assertAlmostEqual(found[key], sag(load) / 0.012, delta=1e-6)
        none = run(beam(checks={"deflection": 0, "deflection_mm": 0}))
        self.assertNotIn("deflection", uses(none))
        self.assertIn("deflection not checked: it has no limit", none.verification.verdicts[0].left_out)

    def test_the_proof_says_which_it_was(self):
        chain = run(beam({"limits": {"main beam": {"total_mm": 10}}}))
        outcome = next(o for o in chain.verification.verdicts[0].outcomes if o.criterion == "deflection")
        proof = prove(chain.verification, chain.combinations, 0, outcome)
        limit = next(step for step in proof.steps if step.symbol == "w_{lim}")
        self.assertEqual((limit.formula, limit.value), ("", "10.00 mm"))
        self.assertAlmostEqual(proof.utilisation, sag(14e3) / 0.010, delta=1e-6)

    def test_what_lasts(self):
        lasting = 4e3 + 0.3 * 10e3
        for rules, own, limit in (
            ({"limits": {"main beam": {"lasting": 400}}}, {}, 6 / 400),
            ({"limits": {"main beam": {"lasting": 400, "lasting_mm": 5}}}, {}, 0.005),
            ({"limits": {"main beam": {"lasting": 400}}}, {"deflection_lasting": 0, "lasting_mm": 8}, 0.008),
        ):
            found = uses(run(beam(rules, checks=own)))
            self.assertAlmostEqual(found["lasting"], sag(lasting) / limit, delta=1e-6)
        # what it was made to rise by is taken off: 3 mm of 8.6
        found = uses(run(beam({"limits": {"main beam": {"lasting_mm": 5}}}, checks={"camber": 3})))
        self.assertAlmostEqual(found["lasting"], (sag(lasting) - 0.003) / 0.005, delta=1e-6)
        self.assertNotIn("lasting", uses(run(beam())))

    def test_imposed_loads_alone(self):
        snow = {
            "cases": [{"name": "G", "nature": "permanent"}, *({"name": n, "nature": n} for n in ("imposed", "snow"))]
        }
        loads = [{"case": c, "member": "m", "value": [0, 0, -q]} for c, q in (("G", 4), ("imposed", 6), ("snow", 9))]
        data = beam().model_dump(mode="json") | snow | {"member_loads": loads}
        for rules, own, limit in (
            ({"limits": {"main beam": {"imposed": 360}}}, {}, 6 / 360),
            ({"limits": {"main beam": {"imposed": 360, "imposed_mm": 9}}}, {"camber": 20}, 0.009),
            ({"limits": {"main beam": {"imposed": 360}}}, {"deflection_imposed": 500}, 6 / 500),
            ({}, {"imposed_mm": 7}, 0.007),
        ):
            data["rules"], data["members"][0]["checks"] = rules, own
            self.assertAlmostEqual(uses(run(read_document(data)))["imposed"], sag(6e3) / limit, delta=1e-6)
        data["rules"], data["members"][0]["checks"] = {}, {}
        self.assertNotIn("imposed", uses(run(read_document(data))))

    def test_without_such_a_combination_it_is_said(self):
        data = beam({"limits": {"main beam": {"lasting": 400}}}).model_dump(mode="json")
        data["combinations"] = [{"name": "C1", "use": "strength", "factors": {"G": 1.35, "Q": 1.5}}]
        verdict = run(read_document(data)).verification.verdicts[0]
        self.assertTrue(any("quasi-permanent actions not checked" in words for words in verdict.left_out))

    def test_heads_of_columns_by_millimetres(self):
        data = {
            "nodes": [{"name": n, "at": [0, 0, z]} for n, z in (("a", 0), ("b", 5))],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "HEA 200", "role": "column"}],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "node_loads": [{"case": "Q", "node": "b", "force": [2, 0, 0]}],
            "rules": {"limits": {"column": {"total_mm": 10}}},
            "analysis": {"shear_deformation": False},
        }
        found = uses(run(read_document(data)))
        expected = [2e3 * 5**3 / (3 * E * second) / 0.010 for second in (section("HEA 200").Iy, section("HEA 200").Iz)]
        self.assertTrue(any(abs(found["sway"] - value) < 1e-6 for value in expected), (found, expected))
