"""What proofs are written with: every name has a symbol, every formula is whole, numbers read well."""

import re
import unittest
from math import inf, nan

import numpy as np

from engine.chain import run
from engine.derivation import Symbol
from engine.document import read_document
from engine.document.base import Haunch
from engine.standards.en.proof_symbols import SYMBOLS
from engine.standards.en.proof_text import LINES
from engine.verification.outcomes import CRITERIA
from engine.verification.proof import evaluated, prove
from tests.engine.helpers import failing_hall, hall
from tests.engine.latex import UNITS, value
from tests.engine.test_built_up import BATTENED
from tests.engine.test_built_up import column as built_up_column
from tests.engine.test_slenderness import strut
from tests.engine.test_summed import beam as channel_beam
from tests.engine.test_torsion import beam as twisted_beam
from tests.engine.test_webs import girder


class Lines(unittest.TestCase):
    def test_every_criterion_has_lines_and_ends_in_its_utilisation(self):
        self.assertEqual(set(LINES), set(CRITERIA))
        for criterion, lines in LINES.items():
            self.assertEqual(lines[-1].key, "u", criterion)

    def test_every_name_has_a_symbol(self):
        for lines in LINES.values():
            for line in lines:
                for name in [line.key, *re.findall(r"<(\w+)>", line.formula)]:
                    self.assertIn(name, SYMBOLS)

    def test_braces_and_brackets_are_closed(self):
        for lines in LINES.values():
            for line in lines:
                self.assertEqual(line.formula.count("{"), line.formula.count("}"), line.formula)
                self.assertEqual(line.formula.count(r"\left"), line.formula.count(r"\right"), line.formula)

    def test_every_formula_states_its_clause(self):
        for criterion, lines in LINES.items():
            for line in lines:
                if line.formula and line.key != "u":
                    self.assertTrue(line.clause, f"{criterion} {line.key}")


class Numbers(unittest.TestCase):
    def test_figures(self):
        plain, force, stress = Symbol("x"), Symbol("N", "kN", 1e-3), Symbol("f", "N/mm²", 1e-6, 3)
        self.assertEqual(plain.text(0.123456), "0.1235")
        self.assertEqual(plain.text(12.3456), "12.35")
        self.assertEqual(force.text(1234567.0), "1235")
        self.assertEqual(stress.text(355e6), "355")
        self.assertEqual(plain.text(0.0), "0")
        self.assertEqual(plain.text(nan), "–")
        self.assertEqual(plain.text(inf), "∞")
        self.assertEqual(force.text(-91930.0), "-91.93")

    def test_units_for_latex(self):
        self.assertEqual(Symbol("I", "cm⁴").unit_latex, "cm^4")


class Proofs(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        by_annex_a = hall(frames=2)
        by_annex_a.national.steel.interaction = "annex A"
        by_annex_a.national.steel.modification = "(6.58)"
        as_any = hall(frames=2, sections={"columns": "HEA 280", "rafters": "HEA 300"})
        as_any.national.steel.lateral = "6.3.2.2"
        cls.chains = [
            run(by_annex_a),
            run(failing_hall()),
            run(as_any),
            run(hall(frames=2, sections={"rafters": "IPE 400", "eaves_beams": "SHS 300x6.3", "bracing": "L 100x12"})),
            run(hall(spacings=[6.0], eaves_haunch=Haunch(length=2.4, depth=0.3))),
            run(channel_beam((0, -1, -6), axial=-40.0)),
            run(channel_beam()),
            run(built_up_column(N=200.0, M=10.0, length=6.0)),
            run(built_up_column(BATTENED, N=200.0, M=10.0, length=6.0)),
            run(strut(checks={"slenderness": 300})),
            run(twisted_beam()),
            run(twisted_beam(torque=30.0, section="SHS 150x8")),
            *(
                # stiffeners that are used most under a force, between panels of either kind, and at an end
                run(
                    read_document(
                        girder(load, checks={"stiffened": True, "plates": {"width": 60, "thickness": 6}} | own)
                    )
                )
                for load, own in (
                    (800, {}),
                    (1000, {"panel": 0.8}),
                    (10, {"panel": 1.5, "plates": {"width": 12, "thickness": 3}}),
                    (10, {"rigid_ends": True, "plates": {"width": 40, "thickness": 4, "post": 90}}),
                )
            ),
        ]
        # evaluated once: what each test looks at from its side
        cls.written = [
            (
                chain,
                outcome,
                evaluated(chain.verification, verdict.member, outcome).values,
                prove(chain.verification, chain.combinations, verdict.member, outcome),
            )
            for chain in cls.chains
            for verdict in chain.verification.verdicts
            for outcome in verdict.outcomes
        ]

    def proofs(self):
        return [(chain, proof) for chain, _, _, proof in self.written]

    def test_no_name_is_left_unfilled(self):
        for _, proof in self.proofs():
            for step in proof.steps:
                self.assertNotRegex(step.formula + step.numbers, r"<\w+>")
                # LaTeX reads a control word to its last letter
                self.assertNotRegex(step.formula + step.numbers, r"\\(cdot|pi|ge|le(?!ft))[A-Za-z]")
                self.assertNotIn("nan", step.value)
                self.assertNotEqual(step.value, "–", f"{proof.title} {step.symbol}")

    def test_formulas_give_the_values_they_stand_beside(self):
        told = set()
        for _, outcome, values, _ in self.written:
            shown = [line.key for line in LINES[outcome.criterion] if line.when(values)]
            self.assertEqual(len(shown), len(set(shown)), shown)
            for line in LINES[outcome.criterion]:
                if line.formula and line.when(values):
                    told.add(line.formula)
                    found = value(line.formula, values)
                    self.assertAlmostEqual(
                        found, values[line.key], delta=1e-9 * max(1.0, abs(found)), msg=f"{line.key} {values}"
                    )
        # what these chains do not meet is nothing that may grow unseen
        every = {line.formula for lines in LINES.values() for line in lines if line.formula}
        self.assertLess(len(every - told), 0.2 * len(every), every - told)

    def test_what_a_formula_uses_stands_in_the_proof(self):
        # but for properties of section and material, partial factors and the forces themselves
        words = "A Av_y Av_z Iy Iz It Iw W_y W_z Wel_y Wel_z Wpl_y Wpl_z h b tw tf E G fy alpha_y alpha_z alpha_LT gamma_M0 gamma_M1"
        given = set(re.findall(r"\w+", words + " lambda_LT0 beta N Vy Vz My Mz N_Ed a_T span ratio"))
        for _, outcome, values, _ in self.written:
            lines = [line for line in LINES[outcome.criterion] if line.when(values)]
            shown = {line.key for line in lines}
            symbols = {SYMBOLS[key].latex for key in shown}
            for line in lines:
                used = {SYMBOLS[n].latex for n in re.findall(r"<(\w+)>", line.formula) if n not in given}
                self.assertLessEqual(used, symbols, f"{outcome.criterion} {line.key}")
            if outcome.criterion == "section":
                # what shear or axial force takes of a resistance is said where it takes something
                for axis in "yz":
                    share = f"rho_{axis}"
                    if values[share] > 0:
                        self.assertIn(share, shown)

    def test_moments_of_a_segment_are_those_of_its_diagram(self):
        for chain in self.chains:
            elements, forces = chain.combined.elements, chain.verification.forces
            segments, places = chain.verification.grounds.segments(), elements.positions(forces.x)
            for row in range(0, len(segments.member), 7):
                own = elements.member == segments.member[row]
                x, M = places[own].ravel(), forces.My[own].reshape(-1, forces.My.shape[2])
                start, end = segments.start[row], segments.end[row]
                for at, found in zip(
                    (start, (start + end) / 2, end),
                    (segments.M_start[row], segments.M_middle[row], segments.M_end[row]),
                    strict=True,
                ):
                    beside = np.array([np.interp(at, x, column) for column in M.T])
                    np.testing.assert_allclose(found, beside, atol=0.02 * np.abs(M).max() + 1e-6)

    def test_values_are_shown_in_their_units(self):
        for _, outcome, values, proof in self.written:
            lines = [line for line in LINES[outcome.criterion] if line.when(values)]
            for line, step in zip(lines, proof.steps, strict=True):
                number, _, unit = step.value.partition(" ")
                if step.numbers and number not in ("–", "∞") and "∞" not in step.numbers:
                    # what is written out in figures of four digits
                    try:
                        again = value(step.numbers, {}) / UNITS[unit]
                    except ZeroDivisionError:
                        # by what rounds to nothing
                        continue
                    shown = float(number)
                    self.assertAlmostEqual(again, shown, delta=0.03 * abs(shown) + 0.01, msg=step.numbers)
                digits = len(number.partition(".")[2])
                if number not in ("–", "∞"):
                    shown = values[line.key] / UNITS[unit]
                    self.assertAlmostEqual(float(number), shown, delta=0.51 * 10**-digits, msg=f"{line.key}")

    def test_no_value_is_stated_twice_with_different_figures(self):
        for _, proof in self.proofs():
            seen: dict[tuple[str, str], str] = {}
            for step in proof.steps:
                if step.formula == "" and step.symbol not in (r"\alpha",):
                    key = (step.symbol, step.clause)
                    self.assertEqual(seen.setdefault(key, step.value), step.value)

    def test_both_classes_are_written_out(self):
        classes = {step.value for _, proof in self.proofs() for step in proof.steps if step.symbol == r"\text{class}"}
        self.assertTrue({"1", "3"} <= classes, classes)

    def test_combination_belongs_to_the_use(self):
        for chain, proof in self.proofs():
            combination = next(c for c in chain.combinations if c.name == proof.combination)
            service = proof.title in (CRITERIA["deflection"], CRITERIA["sway"])
            self.assertEqual(combination.use, "deflection" if service else "strength")
            self.assertEqual(combination.formula, proof.formula)

    def test_the_method_of_interaction_is_written_out(self):
        found = {}
        for chain, proof in self.proofs():
            if proof.title == CRITERIA["interaction"]:
                clauses = {step.clause for step in proof.steps}
                found.setdefault(chain.document.national.steel.interaction, set()).update(clauses)
        self.assertIn("table A.1", found["annex A"])
        self.assertNotIn("table B.1", found["annex A"])
        self.assertIn("6.3.2.3(2)", found["annex A"])
        self.assertIn("table B.1", found["annex B"])
        self.assertFalse({"table A.1", "6.3.2.3(2)"} & found["annex B"])

    def test_the_method_of_lateral_buckling_is_written_out(self):
        found = {}
        for chain, proof in self.proofs():
            if proof.title == CRITERIA["lateral"]:
                clauses = {step.clause for step in proof.steps}
                found.setdefault(chain.document.national.steel.lateral, set()).update(clauses)
        self.assertTrue({"6.3.2.2, table 6.4", "(6.56)"} <= found["6.3.2.2"])
        self.assertFalse({"6.3.2.2, table 6.4", "(6.56)"} & found["6.3.2.3"])
        self.assertNotIn("(6.57)", found["6.3.2.2"])

    def test_assumptions_are_stated(self):
        for _, proof in self.proofs():
            self.assertTrue(proof.assumptions)
