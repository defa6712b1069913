"""EN 1993-1-1 by clause, shape and class against tests/worked: every intermediate value of hundreds of cases."""

import json
import unittest
from pathlib import Path

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import material
from engine.standards.en.member_stability import stability_check
from engine.standards.en.steel import section_check, steel_arrays

WORKED = Path(__file__).parents[1] / "worked"


def together(cases):
    steel = steel_arrays([(section(c["given"]["section"]), material(c["given"]["grade"]), False) for c in cases])

    def given(key):
        return np.array([float(c["given"][key]) for c in cases])

    return steel, given


class Worked(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.cases = json.loads((WORKED / "steel.json").read_text())

    def compare(self, cases, found):
        self.assertGreater(len(cases), 100)
        for i, case in enumerate(cases):
            for key, value in case["values"].items():
                engine = float(np.broadcast_to(found[key], (len(cases),))[i])
                self.assertAlmostEqual(
                    engine, value, delta=2e-9 * max(abs(value), 1.0), msg=f"{key} of {case['given']}"
                )

    def test_cross_sections(self):
        cases = [c for c in self.cases if c["clause"] == "6.2"]
        steel, given = together(cases)
        zero = np.zeros(len(cases))
        self.compare(cases, section_check(steel, given("N"), zero, given("Vz"), zero, given("My"), given("Mz"), 1.0))

    def test_cross_sections_sheared_along_y(self):
        """With γ_M0 = 1.05."""
        cases = [c for c in self.cases if c["clause"] == "6.2, V_y"]
        steel, given = together(cases)
        zero = np.zeros(len(cases))
        self.compare(cases, section_check(steel, given("N"), given("Vy"), zero, zero, given("My"), given("Mz"), 1.05))

    def test_members(self):
        cases = [c for c in self.cases if c["clause"] == "6.3"]
        steel, given = together(cases)
        L, one = given("L"), np.ones(len(cases))
        forces = (-given("N"), given("My"), given("Mz"), given("C_my"), given("C_mLT"), one)
        self.compare(cases, stability_check(steel, *forces, L, L, L, 0 * one, L, 1.0))

    def variants(self, clause, modified, annex_a):
        """6.3 with γ_M1 = 1.1, C1, loads at the flange and f, by either annex."""
        cases = [c for c in self.cases if c["clause"] == clause and c["given"]["modified"] == modified]
        steel, given = together(cases)
        L, zero = given("L"), np.zeros(len(cases))
        forces = (-given("N"), given("My"), given("Mz"), given("C_my"), given("C_mLT"), given("C1"))
        lengths = (L, L, L, zero, L, 1.1)
        cm0 = tuple(np.array([c["given"]["cm0"][k] for c in cases]) for k in (0, 1)) if annex_a else None
        self.compare(cases, stability_check(steel, *forces, *lengths, lift=given("c"), modified=modified, Cmy0=cm0))

    def test_members_by_annex_b(self):
        self.variants("6.3, annex B", False, False)
        self.variants("6.3, annex B", True, False)

    def test_members_by_annex_a(self):
        self.variants("6.3, annex A", False, True)
        self.variants("6.3, annex A", True, True)


if __name__ == "__main__":
    unittest.main()
