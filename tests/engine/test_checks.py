"""One table of checks, asked in several ways: what members reach in every combination, in one, and as pictures show it."""

import unittest

import numpy as np

from engine.chain import run
from engine.demo import DEMOS
from tests.engine.test_summed import beam

#: factors of the general method are found by halving, from where depends on who is looked at with whom;
#: of moments equally large at two places, either may give C_m
BISECTED = 5e-5


class AskedInSeveralWays(unittest.TestCase):
    def same(self, chain):
        checks, elements = chain.verification.checks, chain.response.elements
        most = checks.most()
        covered = [v.member for v in chain.verification.verdicts if v.status != "not covered"]
        self.assertTrue(covered)
        for i in covered:
            by = [np.nan_to_num(r.utilisation) for r in checks.reached(i) if r.criterion != "net"]
            np.testing.assert_allclose(
                most[i], np.max(by, axis=0), rtol=BISECTED, err_msg=chain.structure.members[i].name
            )
        count = len(chain.verification.strength)
        for column in sorted({0, count // 2, count - 1, int(most.max(axis=0).argmax())}):
            along = checks.of_one(column)
            for i in covered:
                shown = np.nanmax(along[elements.member == i])
                self.assertAlmostEqual(shown, most[i, column], delta=BISECTED, msg=chain.structure.members[i].name)
        # all along, what is shown is the largest of all combinations
        for i in covered:
            strong = [o.utilisation for o in chain.verification.verdicts[i].outcomes if o.criterion not in ("net",)]
            self.assertAlmostEqual(
                np.nanmax(chain.verification.along[elements.member == i]), max(strong), delta=BISECTED
            )

    def test_angles_and_trusses(self):
        self.same(run(DEMOS["log-store"]()))

    def test_haunches(self):
        self.same(run(DEMOS["drying-hall"]()))

    def test_summed(self):
        self.same(run(beam()))


if __name__ == "__main__":
    unittest.main()
