"""Limits on the natural frequency of beams: against closed forms, the natural modes of the analysis, and what they leave out."""

import unittest
from math import pi, sqrt

from engine.chain import run
from engine.document import read_document
from engine.dossier.behaviour import response
from engine.dossier.second import second
from engine.dossier.values import Table, Told
from engine.report import modes
from engine.verification.proof import prove
from engine.verification.service import bent_by, frequency_of

E, Iy, G = 210e9, 8356e-8, 9.80665


def beam(least=3.0, span=8.0, ends=(["x", "y", "z", "rx"], ["y", "z", "rx"]), imposed=0.0, role="main beam", **more):
    """IPE 300 with 2 kN/m permanent on it, what is imposed besides; its own weight left out."""
    loads = [{"case": "G", "member": "b", "value": [0, 0, -2]}]
    cases = [{"name": "G", "nature": "permanent"}]
    if imposed:
        cases.append({"name": "Q", "nature": "imposed", "category": "B"})
        loads.append({"case": "Q", "member": "b", "value": [0, 0, -imposed]})
    return run(
        read_document(
            {
                "nodes": [{"name": "s", "at": [0, 0, 0]}, {"name": "e", "at": [span, 0, 0]}],
                "members": [{"name": "b", "start": "s", "end": "e", "section": "IPE 300", "role": role}],
                "supports": [{"node": n, "fixed": fixed} for n, fixed in zip("se", ends, strict=True) if fixed],
                "cases": cases,
                "member_loads": loads,
                "rules": {"imperfections": False, "frequencies": {role: least}},
                "analysis": {"shear_deformation": False},
                **more,
            }
        )
    )


def outcome(chain):
    return next((o for o in chain.verification.verdicts[0].outcomes if o.criterion == "frequency"), None)


def exact(span=8.0, q=2000.0, factor=pi / 2):
    """A beam with its mass spread along it; between pins π/2 √(EI/m l⁴)."""
    return factor * sqrt(E * Iy / (q / G * span**4))


class Beams(unittest.TestCase):
    def test_between_pins_it_is_the_closed_form(self):
        for span, least in ((8.0, 3.0), (8.0, 6.0), (11.0, 3.5)):
            found = outcome(beam(least, span))
            self.assertAlmostEqual(found.utilisation, (least / exact(span)) ** 2, delta=2e-3 * found.utilisation)

    def test_it_is_a_natural_mode(self):
        # sideways, about its weak axis, it swings slower
        chain = beam(3.0)
        own = 3.0 / sqrt(outcome(chain).utilisation)
        self.assertLess(min(abs(mode.value - own) for mode in modes.natural(chain)), 2e-3 * own)

    def test_what_is_imposed_counts_as_it_does_most_of_the_time(self):
        # ψ2 of category B is 0.3
        found = outcome(beam(3.0, imposed=5.0))
        self.assertAlmostEqual(found.utilisation, (3.0 / exact(q=3500.0)) ** 2, delta=2e-3 * found.utilisation)

    def test_clamped_and_cantilevered_it_is_on_the_safe_side(self):
        clamp = ["x", "y", "z", "rx", "ry", "rz"]
        for ends, factor, most in (
            ((clamp, clamp), 22.373 / (2 * pi), 1.04),
            ((clamp, []), 3.516 / (2 * pi), 1.25),
        ):
            span = 8.0 if ends[1] else 4.0
            own = 3.0 / sqrt(outcome(beam(3.0, span, ends)).utilisation)
            self.assertLess(own, exact(span, factor=factor))
            self.assertGreater(own * most, exact(span, factor=factor))

    def test_too_slow_fails(self):
        self.assertEqual(beam(3.0).verification.verdicts[0].status, "passes")
        chain = beam(8.0)
        self.assertEqual(chain.verification.verdicts[0].status, "fails")
        self.assertEqual(chain.verification.whole.failing, 1)

    def test_no_limit_no_check(self):
        for least, role in ((0.0, "main beam"), (None, "main beam")):
            self.assertIsNone(outcome(beam(least, role=role)))

    def test_what_does_not_bend_between_supports_says_that_it_is_not_checked(self):
        # a rail bends across; a beam whose ends both stand free has no supports to bend between
        words = "natural frequency not checked: it does not bend downwards between supports"
        chain = beam(3.0, role="side rail")
        self.assertIsNone(outcome(chain))
        self.assertIn(words, chain.verification.verdicts[0].left_out)
        self.assertIn((words, 1), chain.verification.whole.left_out)
        self.assertNotIn(words, beam(3.0).verification.verdicts[0].left_out)
        # a beam that is checked says what its figure leaves out
        alone = "its natural frequency is of it alone: what it rests on is taken as still"
        self.assertIn(alone, beam(3.0).verification.verdicts[0].left_out)
        self.assertNotIn(alone, beam(0.0).verification.verdicts[0].left_out)
        self.assertNotIn(words, beam(0.0, role="side rail").verification.verdicts[0].left_out)

    def test_the_proof(self):
        chain = beam(3.0)
        found = outcome(chain)
        proof = prove(chain.verification, chain.combinations, 0, found)
        values = {step.symbol: step.value for step in proof.steps}
        self.assertEqual(values["f_{lim}"], "3.000 Hz")
        self.assertAlmostEqual(float(values["f_1"].split()[0]), exact(), delta=0.02)
        self.assertEqual(proof.clause, "EN 1990 A1.4.4")
        self.assertTrue([words for words in proof.assumptions if "taken as still" in words])
        self.assertAlmostEqual(second(chain, 0, found).utilisation, found.utilisation, delta=1e-3 * found.utilisation)

    def test_in_the_dossier_its_limit_is_told_in_hertz(self):
        told = Told("response", "", "normal")
        response(beam(3.0), told)
        [table] = [b for b in told.blocks if isinstance(b, Table) and b.name == "deflections"]
        row = next(row for row in table.rows if row[1] == "Natural frequency")
        self.assertEqual(row[5], "3 Hz at least")
        self.assertAlmostEqual(row[4], (17.75 / 3) ** 2, places=6)

    def test_there_and_back(self):
        for frequency in (1.0, 3.0, 7.5):
            self.assertAlmostEqual(frequency_of(bent_by(frequency)), frequency)
