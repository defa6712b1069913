"""Small parts of verification and of the rules, each against a closed form."""

import unittest

import numpy as np

from engine.actions.cases import Case
from engine.chain import run
from engine.document import read_document
from engine.document.national import BasisValues
from engine.standards.en.combinations import foresee
from engine.standards.en.moments import amplification
from engine.verification.service import _peaked
from engine.verification.verify import of_one
from tests.engine.helpers import PINNED, ROLLER, E, I, beam, textbook


class Amplification(unittest.TestCase):
    def test_straight_diagrams_by_their_ends(self):
        # table A.2: a + b = 0.79 + 0.21 ψ, 0.36 (ψ − 0.33)
        for psi in (1.0, 0.5, 0.0, -0.5, -1.0):
            moments = np.linspace(10.0, 10.0 * psi, 21)[:, None]
            for straight in (moments, moments[::-1], -moments):
                a, b = amplification(straight)
                self.assertAlmostEqual(float(a[0]), 0.79 + 0.21 * psi)
                self.assertAlmostEqual(float(b[0]), 0.36 * (psi - 0.33))

    def test_a_parabola_and_a_triangle(self):
        # δ = 5 q L⁴ / (384 EI) with M = q L² / 8: π² 5/48 − 1; δ = F L³ / (48 EI) with M = F L / 4: π²/12 − 1
        xi = np.linspace(0.0, 1.0, 401)[:, None]
        for shape, wanted in ((xi * (1 - xi), np.pi**2 * 5 / 48 - 1), (np.minimum(xi, 1 - xi), np.pi**2 / 12 - 1)):
            a, b = amplification(shape)
            self.assertEqual(float(a[0]), 1.0)
            self.assertAlmostEqual(float(b[0]), wanted, delta=1e-4)

    def test_no_moment_counts_as_uniform(self):
        a, b = amplification(np.zeros((5, 1)))
        self.assertEqual((float(a[0]), round(float(b[0]), 6)), (1.0, round(0.36 * 0.67, 6)))


class Foreseen(unittest.TestCase):
    def test_as_counted_by_hand(self):
        # two permanent, a wind set of three, one imposed: choices (1 + 3)(1 + 1) = 8; leading: 2 · 3 + 4 · 1 + 1 = 11
        cases = [Case(f"G{i}", f"G{i}", "permanent") for i in (1, 2)]
        cases += [Case(f"W{i}", f"W{i}", "wind", exclusive="wind") for i in (1, 2, 3)]
        cases += [Case("Q", "Q", "imposed", category="B")]
        basis = BasisValues()
        self.assertEqual(foresee(cases, basis), (2 * 2 + 2) * 11 + 8)
        basis.permanents = "separate"
        self.assertEqual(foresee(cases, basis), (2 * 4 + 2) * 11 + 8)


class Deflected(unittest.TestCase):
    def test_the_vertex_between_uneven_stations(self):
        # w = 3 − (x − 1.3)²: its greatest is 3 at 1.3, whatever the stations
        for x in ([0.0, 0.9, 1.5, 3.0], [0.0, 0.2, 1.4, 2.0], [0.0, 1.2, 2.9, 3.1]):
            x = np.array(x)
            found = _peaked((3 - (x - 1.3) ** 2)[None, :, None], x[None])
            self.assertAlmostEqual(float(found.max()), 3.0, delta=1e-9)

    def test_the_vertex_beside_a_concentrated_load(self):
        # stations before and behind it look past one another
        x = np.array([0.0, 0.9, 0.9 + 5e-7, 2.0])
        found = _peaked((3 - (x - 1.3) ** 2)[None, :, None], x[None])
        self.assertAlmostEqual(float(found.max()), 3.0, delta=1e-5)

    def test_no_stations_are_far_apart_whatever_bears_on_a_beam(self):
        # a load that grows to one end moves a beam most at 0.5193 L, by 0.006522 q L⁴/EI; next to nothing beside its ends must not hide it
        q, L = 10.0, 6.0
        small = [0.05, 0.3, 5.7, 5.9]
        data = beam(
            L,
            analysis={"shear_deformation": False},
            supports=[{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}],
            member_loads=[{"case": "P", "member": "b0", "value": [0, 0, 0], "value_end": [0, 0, -q]}]
            + [{"case": "P", "member": "b0", "kind": "force", "value": [0, 0, -1e-9], "start": x} for x in small],
        )
        combined = run(read_document(textbook(data))).combined
        x = combined.stations
        self.assertLessEqual(float(np.diff(x).max()), L / 4 + 1e-9)
        found = _peaked(combined.deflections([0])[:, :, 2], x)
        self.assertAlmostEqual(float(found.max()) / (0.006522 * q * L**4 / (E * I)), 1.0, delta=2e-3)

    def beam(self, *sinks):
        """A beam of 6 m under 10 kN/m whose ends sink by so much, in metres, computed."""
        return run(
            read_document(
                beam(
                    units="kN, m",
                    materials=[],
                    sections=[],
                    members=[{"name": "b0", "start": "n0", "end": "n1", "section": "IPE 300"}],
                    supports=[{"node": "n0", "fixed": PINNED}, {"node": "n1", "fixed": ROLLER}],
                    member_loads=[{"case": "P", "member": "b0", "value": [0, 0, -10]}],
                    settlements=[
                        {"case": "P", "node": f"n{i}", "movement": [0, 0, -sink]}
                        for i, sink in enumerate(sinks)
                        if sink
                    ],
                    cases=[{"name": "P", "nature": "imposed", "category": "B"}],
                )
            )
        )

    def test_deflection_is_measured_from_the_line_between_the_ends(self):
        wanted = self.outcome(self.beam()).utilisation
        for sinks in ((0.04, 0.04), (0.04, 0.0), (0.0, 0.03), (0.01, 0.05)):
            self.assertAlmostEqual(self.outcome(self.beam(*sinks)).utilisation / wanted, 1, delta=1e-6)

    def outcome(self, chain):
        return next(o for o in chain.verification.verdicts[0].outcomes if o.criterion == "deflection")

    def test_utilisation_of_one_combination_is_what_the_verdict_says(self):
        chain = self.beam()
        # 5 q L⁴ / (384 EI) over L / ratio, I_y = 8356 cm⁴, without shear: 9.6 mm, and shear adds some two per cent
        outcome = self.outcome(chain)
        number = chain.verification.deflection[outcome.combination]
        along = of_one(chain.verification, number)
        self.assertAlmostEqual(float(np.nanmax(along)), outcome.utilisation, delta=1e-9)
        ratio = next(s.ratio for s in chain.verification.stretches)
        bending = 5 * 10e3 * 6**4 / (384 * 210e9 * 8356e-8)
        self.assertAlmostEqual(outcome.utilisation / (bending * ratio / 6), 1.02, delta=0.015)
