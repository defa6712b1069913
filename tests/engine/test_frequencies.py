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
from engine.verification.verify import ALONE

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

    def test_floors_that_people_walk_on_say_that_nobody_asked(self):
        words = "natural frequency of floors not checked: no limit of it is stated (EN 1990 A1.4.4)"
        self.assertNotIn(words, beam(3.0, imposed=2.0).verification.left_out)
        self.assertIn(words, beam(None, imposed=2.0).verification.left_out)
        self.assertNotIn(words, beam(None, imposed=2.0, role="rafter").verification.left_out)
        self.assertNotIn(words, beam(None).verification.left_out)
        document = beam(None, imposed=2.0).document.model_copy(deep=True)
        document.cases[-1].category = "E"
        self.assertNotIn(words, run(document).verification.left_out)
        document.rules.floor_frequency, document.cases[-1].category = 3.0, "B"
        self.assertNotIn(words, run(document).verification.left_out)

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


def floor(least=3.0, girder="IPE 330", columns="", **rules):
    """A joist of 8 m, IPE 300 with 2 kN/m on it, between the middles of two girders of 6 m on supports, or on columns of 4 m."""
    nodes = [("a", 0, 0), ("b", 0, 3), ("c", 0, 6), ("d", 8, 0), ("e", 8, 3), ("f", 8, 6)]
    height = 4.0 if columns else 0.0
    members = [
        {"name": "left", "start": "a", "end": "c", "section": girder, "role": "main beam"},
        {"name": "right", "start": "d", "end": "f", "section": girder, "role": "main beam"},
        {"name": "joist", "start": "b", "end": "e", "section": "IPE 300", "role": "joist"},
    ]
    members[2]["releases"] = {"start": ["ry"], "end": ["ry"]}
    stated = [{"name": n, "at": [x, y, height]} for n, x, y in nodes]
    feet = [n for n, _, y in nodes if y != 3]
    if columns:
        stated += [{"name": f"{n}0", "at": [x, y, 0]} for n, x, y in nodes if n in feet]
        members += [
            {"name": f"column {n}", "start": f"{n}0", "end": n, "section": columns, "role": "column"} for n in feet
        ]
    fixed = ["x", "y", "z", "rx", "ry", "rz"] if columns else ["x", "y", "z", "ry", "rz"]
    return run(
        read_document(
            {
                "nodes": stated,
                "members": members,
                "supports": [{"node": f"{n}0" if columns else n, "fixed": fixed} for n in feet],
                "cases": [{"name": "G", "nature": "permanent"}],
                "member_loads": [{"case": "G", "member": "joist", "value": [0, 0, -2]}],
                "rules": {"imperfections": False, "floor_frequency": least, **rules},
                "analysis": {"shear_deformation": False},
            }
        )
    )


def of_floor(chain, name="joist"):
    verdict = chain.verification.verdicts[chain.structure.index[name]]
    return next((o for o in verdict.outcomes if o.criterion == "floor"), None)


class Floors(unittest.TestCase):
    def test_stiff_on_springs_it_bounces(self):
        # two springs of 200 kN/m under 2 m with 2 kN/m: √(2 k/m)/2π
        chain = run(
            read_document(
                {
                    "nodes": [{"name": "s", "at": [0, 0, 0]}, {"name": "e", "at": [2, 0, 0]}],
                    "members": [{"name": "b", "start": "s", "end": "e", "section": "IPE 600", "role": "joist"}],
                    "supports": [
                        {"node": "s", "fixed": ["x", "y", "rx"], "springs": {"z": 200}},
                        {"node": "e", "fixed": ["y", "rx"], "springs": {"z": 200}},
                    ],
                    "cases": [{"name": "G", "nature": "permanent"}],
                    "member_loads": [{"case": "G", "member": "b", "value": [0, 0, -2]}],
                    "rules": {"imperfections": False, "floor_frequency": 3.0},
                }
            )
        )
        own = 3.0 / sqrt(of_floor(chain, "b").utilisation)
        self.assertAlmostEqual(own, sqrt(2 * 200e3 / (2 * 2000 / G)) / (2 * pi), delta=2e-3 * own)

    def test_never_above_the_natural_mode_and_not_far_below(self):
        for girder, columns in (("IPE 200", ""), ("IPE 330", ""), ("IPE 600", ""), ("IPE 330", "HEA 100")):
            chain = floor(girder=girder, columns=columns)
            own = 3.0 / sqrt(of_floor(chain).utilisation)
            upright = [m.value for m in modes.natural(chain) if abs(m.along[..., 2]).max() > 0.9]
            self.assertLess(own, upright[0] * 1.002, girder)
            self.assertGreater(own, 0.88 * upright[0], girder)

    def test_on_stiff_girders_it_is_that_of_the_joist(self):
        chain = floor(girder="HEM 1000", frequencies={"joist": 3.0})
        verdict = chain.verification.verdicts[chain.structure.index["joist"]]
        found = {o.criterion: o.utilisation for o in verdict.outcomes}
        self.assertAlmostEqual(found["floor"], found["frequency"], delta=0.01 * found["frequency"])
        self.assertNotIn(ALONE, verdict.left_out)

    def test_too_soft_girders_fail_though_the_joist_alone_passes(self):
        chain = floor(4.6, girder="IPE 200", frequencies={"joist": 4.6})
        verdict = chain.verification.verdicts[chain.structure.index["joist"]]
        found = {o.criterion: o.utilisation for o in verdict.outcomes}
        self.assertLess(found["frequency"], 1.0)
        self.assertGreater(found["floor"], 1.0)
        self.assertEqual(verdict.status, "fails")
        # the girder with its own load at its middle swings with its columns
        self.assertIsNotNone(of_floor(chain, "left"))

    def test_a_beam_whose_role_says_nothing_is_told(self):
        words = "natural frequency of floors not checked: its role does not say that it is of one"
        document = floor().document.model_dump(mode="json")
        document["members"][0]["role"] = "member"
        chain = run(read_document(document))
        told = [words in v.left_out for v in chain.verification.verdicts]
        self.assertEqual(told, [True, False, False])
        self.assertFalse(any(words in v.left_out for v in floor().verification.verdicts))

    def test_the_proof_and_a_limit_that_nothing_meets(self):
        chain = floor()
        found = of_floor(chain)
        proof = prove(chain.verification, chain.combinations, chain.structure.index["joist"], found)
        values = {step.symbol: step.value for step in proof.steps}
        parts = [float(values[f"w_{k}"].split()[0]) for k in (1, 2)]
        own = 1 / sqrt(parts[0] / 17.75**2 + parts[1] / 15.76**2)
        self.assertAlmostEqual(float(values["f_1"].split()[0]), own, delta=0.01)
        self.assertAlmostEqual(proof.utilisation, found.utilisation, delta=1e-9)
        words = "natural frequency of floors not checked: no main beam or joist bends between supports"
        self.assertIn(words, beam(0.0, role="rafter", rules={"floor_frequency": 3.0}).verification.left_out)
        self.assertNotIn(words, chain.verification.left_out)
