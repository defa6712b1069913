"""Extremes along a member lie where formulas put them, wherever the loads act between the stations."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import read_document

SPAN = 8.0


def beam(*loads, **more):
    """A simple beam under forces (kN, at m) downwards."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [SPAN, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300"}],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z"]}],
            "cases": [{"name": "P", "nature": "imposed"}],
            "member_loads": [
                {"case": "P", "member": "m", "value": [0, 0, -force], "kind": "force", "start": at}
                for force, at in loads
            ],
            "combinations": [{"name": "U", "factors": {"P": 1.0}, "use": "strength"}],
            **more,
        }
    )


def moment(loads, x):
    return sum(P * (SPAN - a) * x / SPAN - P * max(x - a, 0.0) for P, a in loads)


class ConcentratedLoads(unittest.TestCase):
    def largest(self, *loads):
        """Largest moment for the section and for stability, and largest shear at either end, kNm and kN."""
        v = run(beam(*loads)).verification
        return np.abs(v.peaks.My).max() / 1e3, v.segments.My.max() / 1e3, np.abs(v.forces.Vz).max() / 1e3

    def test_one_load_anywhere(self):
        for a in (0.35, 1.0, 3.3, 3.5, 4.0, 6.9):
            section, stability, shear = self.largest((10.0, a))
            self.assertAlmostEqual(section, 10 * a * (SPAN - a) / SPAN, delta=1e-4)
            self.assertAlmostEqual(stability, section, delta=1e-4)
            self.assertAlmostEqual(shear, 10 * max(a, SPAN - a) / SPAN, places=9)

    def test_two_close_together_and_more_than_there_are_stations(self):
        for loads in (
            [(10.0, 3.5), (6.0, 3.5001)],
            [(4.0, 0.7 * k) for k in range(1, 12)],
            [(9.0, 2.2), (-5.0, 4.1), (3.0, 7.3)],
        ):
            expected = max(abs(moment(loads, a)) for _, a in loads)
            section, stability, _ = self.largest(*loads)
            self.assertAlmostEqual(section / expected, 1.0, delta=1e-5)
            self.assertAlmostEqual(stability / expected, 1.0, delta=1e-5)

    def test_stations_stand_on_both_sides_of_a_load(self):
        d = run(beam((10.0, 3.5))).combined.diagrams([0])
        x, V = d.x[0], d.Vz[0, :, 0]
        before, behind = np.flatnonzero(np.abs(x - 3.5) < 1e-4)
        self.assertAlmostEqual((V[before] - V[behind]) / 1e3, 10.0, places=9)
        self.assertTrue((np.diff(x) > 0).all())

    def test_the_same_in_second_order(self):
        # a tie of no axial force bends in second order as in first
        document = beam((10.0, 3.5))
        first = np.abs(run(document).verification.peaks.My).max()
        document.analysis.order = "second"
        chain = run(document)
        self.assertTrue(chain.combined.second.any())
        self.assertAlmostEqual(np.abs(chain.verification.peaks.My).max() / first, 1.0, places=6)

    def test_deflection_is_that_of_the_formula_at_the_stations(self):
        chain = run(beam((10.0, 3.5), analysis={"shear_deformation": False}))
        d = chain.combined.deflections([0])[0, :, 2, 0]
        x, a, b = chain.combined.stations[0], 3.5, SPAN - 3.5
        section = chain.structure.members[0].section
        EI = 210e9 * section.Iy
        left = 10e3 * b * x * (SPAN**2 - b**2 - x**2) / (6 * SPAN * EI)
        right = 10e3 * a * (SPAN - x) * (SPAN**2 - a**2 - (SPAN - x) ** 2) / (6 * SPAN * EI)
        np.testing.assert_allclose(-d, np.where(x <= a, left, right), atol=1e-9)


if __name__ == "__main__":
    unittest.main()
