"""Shear lag of EN 1993-1-5 table 3.1, and what is said of it."""

import unittest

from engine.chain import run
from engine.document import read_document
from engine.standards.en.shear_lag import left_at_ultimate, width_factor
from tests.engine.helpers import FIXED


def girder(section, length, free=False):
    supports = [{"node": "a", "fixed": FIXED}] + ([] if free else [{"node": "b", "fixed": FIXED}])
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": section, "role": "main beam"}],
            "supports": supports,
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [{"case": "Q", "member": "m", "value": [0, 0, -1]}],
        }
    )


class Factors(unittest.TestCase):
    def test_table_3_1(self):
        for kappa, sagging, hogging in (
            (0.02, 1, 1),
            (0.1, 1 / 1.064, 1 / 1.592),
            (0.5, 1 / 2.6, 1 / 4.3952),
            (1.0, 1 / 5.9, 1 / 8.6),
        ):
            self.assertAlmostEqual(width_factor(kappa, False), sagging, places=6)
            self.assertAlmostEqual(width_factor(kappa, True), hogging, places=6)

    def test_its_lines_meet_at_0_7(self):
        for hogging in (False, True):
            below, above = width_factor(0.7, hogging), width_factor(0.7001, hogging)
            self.assertAlmostEqual(below / above, 1, delta=0.01)

    def test_beyond_yielding_little_is_lost(self):
        self.assertAlmostEqual(left_at_ultimate(0.1, True), (1 / 1.592) ** 0.1, places=9)


class Told(unittest.TestCase):
    def told(self, document):
        return [w for w in run(document).verification.verdicts[0].left_out if "shear lag" in w]

    def test_of_a_short_girder_of_wide_plates(self):
        # b_0 = 0.3 m over half of 6 m: κ = 0.1, (1/1.592)^0.1 = 0.9546
        self.assertIn("up to 5 %", self.told(girder("WI 800x600x10x20", 6.0))[0])

    def test_not_of_a_long_one_nor_of_a_rolled_section(self):
        self.assertEqual(self.told(girder("WI 800x300x10x20", 8.0)), [])
        self.assertEqual(self.told(girder("HEB 300", 2.0)), [])

    def test_a_cantilever_counts_twice_its_length(self):
        # κ = 0.3/6 = 0.05: 1/1.256, (0.7962)^0.05 = 0.9887
        self.assertEqual(self.told(girder("WI 800x600x10x20", 3.0, free=True)), [])
        self.assertEqual(len(self.told(girder("WI 800x600x10x20", 1.4, free=True))), 1)


if __name__ == "__main__":
    unittest.main()
