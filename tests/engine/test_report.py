"""What is said of a building: the result file and the dossier say what the report says, and the report what is so."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import read_document
from engine.document.handover import ChapterPlan, DossierPlan
from engine.dossier.compose import compose
from engine.dossier.values import Table
from engine.report import holding, loads, supports, verdicts
from engine.report.movements import worst_movements
from engine.result import result
from tests.engine.helpers import FIXED, failing_hall


class Reports(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(failing_hall())
        cls.result = result(cls.chain)
        plan = DossierPlan(chapters={key: ChapterPlan(level="full") for key in ("verification", "response", "actions")})
        told = compose(cls.chain, plan)
        cls.tables = {b.name: b for chapter in told.chapters for b in chapter.blocks if isinstance(b, Table)}

    def test_verdicts_are_the_same_everywhere(self):
        found = verdicts.members(self.chain)
        rows = self.tables["members"].rows
        self.assertEqual(len(rows), len(found))
        for m, written, row in zip(found, self.result["members"], rows, strict=True):
            self.assertEqual((written["name"], written["status"]), (m.member.name, m.status))
            self.assertEqual(written["utilisation"], m.governing.utilisation)
            self.assertEqual((row[4], row[5], row[6]), (m.governing.words, m.governing.utilisation, m.status))
            self.assertEqual(m.governing.utilisation, max(c["utilisation"] for c in written["checks"].values()))
            self.assertGreaterEqual(m.governing.utilisation, m.strongest.utilisation)
        self.assertEqual(verdicts.worst_state(m.status for m in found), "fails")

    def test_groups_have_what_fails_first(self):
        found = verdicts.groups(self.chain)
        self.assertEqual(sum(len(g.members) for g in found), len(self.chain.structure.members))
        for group in found:
            states = [m.status for m in group.members]
            self.assertEqual(states, sorted(states, key=verdicts.STATES.index))
            self.assertEqual(
                {(m.member.role, m.member.section.name) for m in group.members}, {(group.role, group.section)}
            )

    def test_balances_and_factors(self):
        for found, written in zip(loads.cases(self.chain), self.result["cases"], strict=True):
            self.assertEqual(found.case.name, written["name"])
            # the file is in kN
            np.testing.assert_allclose(found.balance.applied / 1000, written["applied"], atol=1e-6)
        rows = {own.row: symbols for own, symbols in loads.factors(self.chain)}
        self.assertEqual(set(rows), {"H", "snow", "wind"})
        self.assertEqual([row[0] for row in self.tables["combination factors"].rows], list(rows))

    def test_movements_come_from_their_limits(self):
        for m in worst_movements(self.chain):
            self.assertAlmostEqual(m.movement / m.limit, m.check.utilisation, delta=1e-12)
            self.assertAlmostEqual(m.limit * m.ratio, m.length, delta=1e-12)
            same = [o.utilisation for v in self.chain.verification.verdicts for o in v.outcomes
                    if o.criterion == m.check.criterion and self.chain.structure.members[v.member].role == m.member.role]  # fmt: skip
            self.assertEqual(m.check.utilisation, max(same))

    def test_reactions_are_those_of_the_combinations(self):
        found = supports.reactions(self.chain)
        strength = list(self.chain.verification.strength)
        states = self.chain.combined.reaction(strength)
        for s, node in enumerate(found.nodes):
            own = states[self.chain.structure.nodes.index(node)]
            self.assertEqual(found.force[s, 2, found.most[s, 2]], own[2].max())
            self.assertEqual(
                found.combinations[found.least[s, 0]].name, self.chain.combinations[strength[int(own[0].argmin())]].name
            )
        self.assertTrue(found.held.any(axis=1).all())

    def test_lengths_count_every_member_once(self):
        found = holding.lengths(self.chain)
        self.assertEqual(sum(f.count for f in found), len(self.chain.structure.members))

    def test_what_nothing_resists_does_not_hold(self):
        # a post that stands on one foot is not pressed by anything: what tips it over is resisted by nothing
        post = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "HEA 200"}],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "G", "nature": "permanent", "self_weight": True}, {"name": "W", "nature": "wind"}],
            "node_loads": [{"case": "W", "node": "b", "force": [0, 0, 50]}],
        }
        tilts = supports.tilts(run(read_document(post)))
        self.assertTrue(any(not tilt.holds for tilt in tilts))


if __name__ == "__main__":
    unittest.main()
