"""Extremes along a member lie where formulas put them, wherever the loads act between the stations."""

import unittest

import numpy as np

from engine.analysis.diagrams import extremes
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
        return np.abs(v.peaks.My).max() / 1e3, v.grounds.segments().My.max() / 1e3, np.abs(v.forces.Vz).max() / 1e3

    def test_one_load_anywhere(self):
        for a in (0.35, 1.0, 3.3, 3.5, 4.0, 6.9):
            section, stability, shear = self.largest((10.0, a))
            self.assertAlmostEqual(section, 10 * a * (SPAN - a) / SPAN, delta=1e-4)
            self.assertAlmostEqual(stability, section, delta=1e-4)
            self.assertAlmostEqual(shear, 10 * max(a, SPAN - a) / SPAN, places=9)

    def test_a_couple_makes_no_shear_of_its_own(self):
        # a bracket: force and couple at one place, beside a uniform load and one that grows
        C, at = 40.0, 3.0
        for q, grown in ((0.0, 0.0), (2.0, 2.0), (1.0, 3.0)):
            loads = [
                {"case": "P", "member": "m", "kind": "moment", "start": at, "value": [0, C, 0]},
                {"case": "P", "member": "m", "kind": "force", "start": at, "value": [0, 0, -10.0]},
            ]
            if q:
                loads.append({"case": "P", "member": "m", "value": [0, 0, -q], "value_end": [0, 0, -grown]})
            v = run(beam(member_loads=loads)).verification
            # about y a couple turns x towards −z: it lifts the start and presses the end
            left = q * SPAN / 2 + (grown - q) * SPAN / 6 + 10 * (SPAN - at) / SPAN - C / SPAN
            right = q * SPAN / 2 + (grown - q) * SPAN / 3 + 10 * at / SPAN + C / SPAN
            most, _, least, _ = extremes(v.forces)["Vz"]
            self.assertAlmostEqual(float(most.max()) / 1e3, left, places=6)
            self.assertAlmostEqual(float(least.min()) / 1e3, -right, places=6)
            self.assertAlmostEqual(np.abs(v.peaks.Vz).max() / 1e3, right, places=6)
            # closely behind the bracket
            behind = left * at - q * at**2 / 2 - (grown - q) / SPAN * at**3 / 6 + C
            self.assertAlmostEqual(extremes(v.forces)["My"][0].max() / 1e3, behind, delta=1e-3)
            self.assertAlmostEqual(np.abs(v.peaks.My).max() / 1e3, behind, delta=1e-3)

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


class JumpAtARestraint(unittest.TestCase):
    """A couple where both flanges are held: the segment beside it is a beam of its own under a moment at its end."""

    FORK = ["y", "z", "rx"]

    def reached(self, length, held=(), **loads):
        found = run(
            read_document(
                {
                    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
                    "members": [
                        {
                            "name": "m",
                            "start": "a",
                            "end": "b",
                            "section": "IPE 300",
                            "restraints_outer": held,
                            "restraints_inner": held,
                        }
                    ],
                    "supports": [{"node": "a", "fixed": ["x", *self.FORK]}, {"node": "b", "fixed": self.FORK}],
                    "cases": [{"name": "M", "nature": "imposed"}],
                    "combinations": [{"name": "U", "use": "strength", "factors": {"M": 1.0}}],
                    "rules": {"loads_at": "shear centre", "imperfections": False},
                    **loads,
                }
            )
        ).verification.verdicts[0]
        return {o.criterion: o.utilisation for o in found.outcomes}

    def test_its_segment_is_verified_as_if_alone(self):
        for length in (6.0, 24.0):
            for sign in (1, -1):
                # M0 at a third of the span: 2/3 M0 in the longer part, falling to nothing over 2/3 L
                couple = {"case": "M", "node": "b", "force": [0, 0, 0], "moment": [0, sign * 40.0, 0]}
                alone = self.reached(2 * length / 3, node_loads=[couple])
                for at in (length / 3, 2 * length / 3):
                    load = {"case": "M", "member": "m", "kind": "moment", "start": at, "value": [0, sign * 60.0, 0]}
                    whole = self.reached(length, [at], member_loads=[load])
                    self.assertAlmostEqual(whole["lateral"] / alone["lateral"], 1, delta=1e-5, msg=(length, sign, at))


if __name__ == "__main__":
    unittest.main()


class BetweenStations(unittest.TestCase):
    """Where shear and moment turn, by formula."""

    def extremes(self, *lines):
        document = beam(
            member_loads=[
                {"case": "P", "member": "m", "value": [0, 0, -a], "value_end": [0, 0, -b], "start": s, "end": e}
                for a, b, s, e in lines
            ]
        )
        combined = run(document).combined
        return extremes(combined.diagrams([0]))

    def test_load_that_changes_sign(self):
        p = 6.0
        most, at, least, low = (v[0, 0] for v in self.extremes((p, -p, 0.0, SPAN))["Vz"])
        # V(ξ) = p L (1/6 − ξ + ξ²): p L/6 at both ends, −p L/12 at ξ = 1/2
        self.assertAlmostEqual(most / 1e3, p * SPAN / 6, places=6)
        self.assertAlmostEqual(least / 1e3, -p * SPAN / 12, places=6)
        self.assertAlmostEqual(low, SPAN / 2, places=6)
        most, at, least, low = (v[0, 0] for v in self.extremes((p, -p, 0.0, SPAN))["My"])
        # M = p L² (ξ/6 − ξ²/2 + ξ³/3): ± p L²/(36 √3) at ξ = (1 ∓ 1/√3)/2
        self.assertAlmostEqual(most / 1e3, p * SPAN**2 / (36 * 3**0.5), places=5)
        self.assertAlmostEqual(at, SPAN * (1 - 3**-0.5) / 2, places=5)
        self.assertAlmostEqual(least / 1e3, -p * SPAN**2 / (36 * 3**0.5), places=5)

    def test_loads_that_end_between_stations(self):
        # 8 kN/m over 1.3 m from the left end: R = q a (1 − a/2L), M = R²/2q at R/q
        q, a = 8.0, 1.3
        R = q * a * (1 - a / (2 * SPAN))
        most, at, _, _ = (v[0, 0] for v in self.extremes((q, q, 0.0, a))["My"])
        self.assertAlmostEqual(most / 1e3, R**2 / (2 * q), places=6)
        self.assertAlmostEqual(at, R / q, places=6)

    def test_shear_for_the_section_check_turns_too(self):
        # a shear that is largest between two stations: q from p to −2p
        p = 6.0
        document = beam(
            member_loads=[
                {
                    "case": "P",
                    "member": "m",
                    "value": [0, 0, -p],
                    "value_end": [0, 0, 2.3 * p],
                    "start": 0.0,
                    "end": SPAN,
                }
            ]
        )
        v = run(document).verification
        fine = extremes(v.forces)["Vz"]
        self.assertAlmostEqual(np.abs(v.peaks.Vz).max(), max(np.abs(fine[0]).max(), np.abs(fine[2]).max()), places=6)
        self.assertGreater(np.abs(v.peaks.Vz - v.forces.Vz).max(), 1.0)

    def test_axial_load_that_changes_sign(self):
        p = 6.0
        document = beam(
            member_loads=[
                {"case": "P", "member": "m", "value": [-p, 0, 0], "value_end": [2 * p, 0, 0], "start": 0.0, "end": SPAN}
            ]
        )
        chain = run(document)
        d, pulled = chain.combined.diagrams([0]), chain.combined.pulled([0])
        most, at, least, low = (v[0, 0] for v in extremes(d, pulled)["N"])
        # N(ξ) = −∫ n from the free end: p L (1/2 + ξ − 3ξ²/2): 2/3 p L at ξ = 1/3, none at the end
        self.assertAlmostEqual(most / 1e3, p * SPAN * 2 / 3, places=6)
        self.assertAlmostEqual(at, SPAN / 3, places=6)
        self.assertAlmostEqual(least / 1e3, 0.0, places=6)
        self.assertAlmostEqual(np.abs(chain.verification.peaks.N).max() / 1e3, p * SPAN * 2 / 3, places=6)
        # uniform loads leave N straight between the stations
        plain = run(beam(member_loads=[{"case": "P", "member": "m", "value": [3, 0, -1]}]))
        self.assertIsNone(plain.combined.pulled([0]))
