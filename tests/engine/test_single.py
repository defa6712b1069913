"""One member by itself: what it reaches in every combination, and what a change would do to it."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.byhand import MemberEdit
from engine.document.jigs import HallJig, HallSections
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, MatchRestraints, MemberChange, Restrain
from engine.errors import ModelError
from engine.expand import expand
from engine.laid import said
from engine.sizing.levers import changed, levers, proof_otherwise
from engine.verification.proof import prove
from engine.verification.single import everything
from tests.engine.helpers import FIXED

RAFTER = "frame-2/rafter-AB-left"


def hall(**more):
    """Two bays with haunched rafters and one wind pressure inside: a hundred combinations."""
    jig = HallJig(
        spacings=[6.0, 6.0],
        sections=HallSections(columns="IPE 550", rafters="IPE 450"),
        eaves_haunch=Haunch(length=2.4, depth=0.4),
    )
    document = Document(hall=jig, **more)
    document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
    return document


def beam(section="IPE 300", **more):
    """A beam of 6 m between forks under 4 kN/m permanent and 10 kN/m imposed."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": section, "role": "main beam", **more},
            ],
            "supports": [{"node": "a", "fixed": FIXED[:4]}, {"node": "b", "fixed": ["y", "z"]}],
            "cases": [{"name": "G", "nature": "permanent"}, {"name": "Q", "nature": "imposed"}],
            "member_loads": [
                {"case": "G", "member": "m", "value": [0, 0, -4]},
                {"case": "Q", "member": "m", "value": [0, 0, -10]},
            ],
        }
    )


class Restraints(unittest.TestCase):
    def places(self, document, flange="inner", name=RAFTER):
        return [round(x, 3) for x in getattr(expand(document).member(name), flange)]

    def test_what_the_jig_holds_is_let_go_and_held_again(self):
        document = hall()
        before = self.places(document)
        at = before[1]
        freed = operate(document, Restrain(members=[RAFTER], flange="inner", at=at, let_go=True))
        self.assertEqual(self.places(freed), [x for x in before if x != at])
        self.assertIn("inner flange not held", said(freed.edits[0]))
        back = operate(freed, Restrain(members=[RAFTER], flange="inner", at=at))
        self.assertEqual(self.places(back), before)
        self.assertEqual(back.edits[0].restraints_inner, [])

    def test_a_stay_is_moved(self):
        document = hall()
        before = self.places(document)
        moved = operate(document, Restrain(members=[RAFTER], flange="inner", at=before[1], to=before[1] + 0.5))
        self.assertEqual(
            self.places(moved), sorted([*(x for x in before if x != before[1]), round(before[1] + 0.5, 3)])
        )
        again = operate(moved, Restrain(members=[RAFTER], flange="inner", at=before[1] + 0.5, to=before[1]))
        self.assertEqual(self.places(again), before)

    def test_the_ends_and_what_is_not_held_cannot_be_let_go(self):
        document = hall()
        length = expand(document).length(expand(document).member(RAFTER))
        for at, words in ((0.0, "ends"), (length, "ends"), (0.77, "Nothing holds the inner flange")):
            with self.assertRaisesRegex(ModelError, words):
                operate(document, Restrain(members=[RAFTER], flange="inner", at=at, let_go=True))
        with self.assertRaisesRegex(ModelError, "beyond the length"):
            operate(document, Restrain(members=[RAFTER], flange="inner", at=self.places(document)[1], to=99.0))

    def test_a_pattern_is_copied_to_members_of_one_length(self):
        document = hall()
        others = ["frame-1/rafter-AB-right", "frame-3/rafter-AB-left"]
        first = self.places(document)[1]
        for change in ({"at": first, "let_go": True}, {"at": 3.3}):
            document = operate(document, Restrain(members=[RAFTER], flange="inner", **change))
        document = operate(document, MatchRestraints(members=[RAFTER, *others], like=RAFTER))
        for name in others:
            for flange in ("inner", "outer"):
                self.assertEqual(self.places(document, flange, name), self.places(document, flange))
        with self.assertRaisesRegex(ModelError, "one length"):
            operate(document, MatchRestraints(members=["frame-2/column-A"], like=RAFTER))
        # taken back, the jig's own return
        plain = hall()
        plain = operate(plain, MatchRestraints(members=[others[0]], like=RAFTER))
        self.assertEqual(self.places(plain, name=others[0]), self.places(hall(), name=others[0]))

    def test_what_was_let_go_and_is_not_there_any_more_is_told(self):
        document = hall(edits=[MemberEdit(member=RAFTER, freed_inner=[0.41])])
        self.assertIn("not held at 0.41 m, where the jig holds nothing", expand(document).orphans[0].said)

    def test_of_members_by_hand(self):
        document = operate(beam(), Restrain(members=["m"], flange="outer", at=3.0))
        self.assertEqual(self.places(document, "outer", "m"), [0, 3, 6])
        document = operate(document, Restrain(members=["m"], flange="outer", at=3.0, to=2.0))
        self.assertEqual(self.places(document, "outer", "m"), [0, 2, 6])
        document = operate(document, Restrain(members=["m"], flange="outer", at=2.0, let_go=True))
        self.assertEqual(self.places(document, "outer", "m"), [0, 6])
        with self.assertRaisesRegex(ModelError, "Nothing holds"):
            operate(document, Restrain(members=["m"], flange="outer", at=2.0, let_go=True))


class OfOneMember(unittest.TestCase):
    def test_the_worst_of_all_combinations_is_the_verdict(self):
        chain = run(hall())
        for verdict in chain.verification.verdicts:
            found = everything(chain.verification, verdict.member)
            own = {r.criterion: float(r.utilisation[r.worst]) for r in found}
            for outcome in verdict.outcomes:
                self.assertAlmostEqual(own.pop(outcome.criterion), outcome.utilisation, delta=1e-9)
            self.assertEqual(own, {})

    def test_proofs_in_other_combinations_than_the_governing_one(self):
        chain = run(hall())
        index = chain.structure.index[RAFTER]
        for r in everything(chain.verification, index):
            for column in (0, len(r.used) // 2):
                proof = prove(chain.verification, chain.combinations, index, r.outcome(column))
                self.assertAlmostEqual(proof.utilisation, float(r.utilisation[column]), delta=1e-9)
                self.assertEqual(proof.combination, chain.combinations[r.used[column]].name)

    def worst(self, chain, name="m"):
        return {o.criterion: o.utilisation for o in chain.verification.verdicts[chain.structure.index[name]].outcomes}

    def test_what_a_change_would_do_is_what_it_does(self):
        # restraints, lengths and limits do not change forces; of a beam on two supports its section does not either
        chain = run(beam())
        self.assertGreater(self.worst(chain)["lateral"], 0.5)
        for operation in (
            Restrain(members=["m"], flange="outer", at=3.0),
            ChangeMembers(members=["m"], change=MemberChange(section="IPE 360")),
            ChangeMembers(members=["m"], change=MemberChange(checks={"deflection": 500.0, "buckling_z": 2.0})),
        ):
            found, without = changed(chain, "m", (operation,))
            self.assertEqual(without, ())
            after = self.worst(run(operate(chain.document, operation)))
            for outcome in found:
                # the heavier beam weighs more, which is not among its loads here
                self.assertAlmostEqual(outcome.utilisation, after.pop(outcome.criterion), delta=1e-6)
            self.assertEqual(after, {})
        self.assertEqual(found[0].utilisation, max(o.utilisation for o in found))

    def test_a_stay_in_a_hall(self):
        chain = run(hall())
        at = expand(chain.document).member(RAFTER).outer[1]
        operation = Restrain(members=[RAFTER], flange="inner", at=at)
        found, _ = changed(chain, RAFTER, (operation,))
        after = self.worst(run(operate(chain.document, operation)), RAFTER)
        for outcome in found:
            self.assertAlmostEqual(outcome.utilisation, after[outcome.criterion], delta=1e-6)
        self.assertLess(found[0].utilisation, self.worst(chain, RAFTER)["general"] + 1e-9)

    def test_what_takes_a_new_analysis_is_refused(self):
        chain = run(beam())
        for change in ({"haunch_start": Haunch(length=1.0, depth=0.2)},):
            with self.assertRaisesRegex(ModelError, "new analysis"):
                changed(chain, "m", (ChangeMembers(members=["m"], change=MemberChange(**change)),))

    def test_levers_by_hand(self):
        chain = run(beam())
        found = {lever.kind: lever for lever in levers(chain, "m")}
        before = self.worst(chain)
        governs = max(before, key=before.get)
        # (6.10) 1.35 · 4 + 1.5 · 10, or 4 + 10 for the deflection: its variable part a tenth more
        more = {"deflection": (4 + 11) / 14}.get(governs, (5.4 + 16.5) / 20.4)
        self.assertAlmostEqual(found["load"].outcome.utilisation, before[governs] * more, delta=2e-3)
        self.assertIn("+10 %, Q", found["load"].words)
        # lateral buckling has the next section's W_pl and M_cr; its deflection goes with 1/I
        self.assertEqual(found["section"].words, "IPE 330")
        self.assertLess(found["section"].outcome.utilisation, before[governs])
        self.assertEqual(
            [lv.outcome.utilisation for lv in levers(chain, "m")],
            sorted(lv.outcome.utilisation for lv in found.values()),
        )

    def test_a_longer_length_is_never_better(self):
        chain = run(hall())
        name = "frame-2/column-A"
        before = self.worst(chain, name)
        for lever in levers(chain, name):
            if lever.kind.startswith("length"):
                self.assertLessEqual(lever.outcome.utilisation, max(before.values()) + 1e-9)
            if lever.kind == "load":
                self.assertGreaterEqual(lever.outcome.utilisation, max(before.values()) - 1e-9)
        self.assertFalse(np.isnan([lever.outcome.utilisation for lever in levers(chain, name)]).any())


class ProofsOtherwise(unittest.TestCase):
    """Two sections or two methods beside each other: the proof of what is not in the document."""

    def governing(self, chain, name, criterion):
        index = chain.structure.index[name]
        found = next(r for r in everything(chain.verification, index) if r.criterion == criterion)
        return chain.combinations[found.used[found.worst]].name, float(found.utilisation[found.worst])

    def test_another_section_by_hand(self):
        chain = run(beam())
        other = (ChangeMembers(members=["m"], change=MemberChange(section="IPE 360")),)
        combination, now = self.governing(chain, "m", "deflection")
        proof, reached, without = proof_otherwise(chain, "m", other, {}, ("deflection", combination))
        # 5 q L⁴/384 E I with IPE 360's I_y = 16270 cm⁴ and the part of shear, q L²/8 G A_v; the limit is L/250 or a finer one
        before = prove(chain.verification, chain.combinations, 0, self.outcome(chain, "deflection"))
        ratio = (5 * 14 * 6**4 / (384 * 210e6 * 16270e-8)) / (5 * 14 * 6**4 / (384 * 210e6 * 8356e-8))
        self.assertAlmostEqual(proof.utilisation / before.utilisation, ratio, delta=0.01)
        self.assertAlmostEqual(before.utilisation, now, delta=1e-9)
        # W_pl,y = 1019 cm³ of S355: M/(W f_y) under 1.35 · 4 + 1.5 · 10
        combination, _ = self.governing(chain, "m", "section")
        proof, reached, _ = proof_otherwise(chain, "m", other, {}, ("section", combination))
        fy = chain.structure.member("m").material.fy(0.0127) / 1e6
        self.assertAlmostEqual(proof.utilisation, 20.4 * 36 / 8 / (1019e-6 * fy * 1e3), delta=1e-3)
        self.assertEqual(without, ())
        self.assertAlmostEqual(max(o.utilisation for o in reached), reached[0].utilisation)

    def outcome(self, chain, criterion):
        return next(o for o in chain.verification.verdicts[0].outcomes if o.criterion == criterion)

    def test_another_method_is_that_of_a_document_that_states_it(self):
        chain = run(hall())
        name = "frame-2/column-A"
        for criterion, methods in (
            ("interaction", {"interaction": "annex A"}),
            ("lateral", {"lateral": "6.3.2.2"}),
        ):
            combination, now = self.governing(chain, name, criterion)
            proof, _, _ = proof_otherwise(chain, name, (), methods, (criterion, combination))
            document = chain.document.model_copy(deep=True)
            for key, value in methods.items():
                setattr(document.national.steel, key, value)
            stated = run(document)
            r = next(
                r for r in everything(stated.verification, stated.structure.index[name]) if r.criterion == criterion
            )
            column = [stated.combinations[i].name for i in r.used].index(combination)
            self.assertAlmostEqual(proof.utilisation, float(r.utilisation[column]), delta=1e-9)
            self.assertNotAlmostEqual(proof.utilisation, now, delta=1e-4)

    def test_how_it_would_move_where_nothing_can_be_added_up_takes_an_analysis(self):
        # a support that pushes alone: its movement is no sum of those of its cases
        data = beam().model_dump(mode="json")
        data["supports"][1]["one_way"] = ["z"]
        chain = run(read_document(data))
        combination, _ = self.governing(chain, "m", "deflection")
        other = (ChangeMembers(members=["m"], change=MemberChange(section="IPE 360")),)
        with self.assertRaisesRegex(ModelError, "new analysis"):
            proof_otherwise(chain, "m", other, {}, ("deflection", combination))
        strong, _ = self.governing(chain, "m", "section")
        _, reached, without = proof_otherwise(chain, "m", other, {}, ("section", strong))
        self.assertEqual(without, ("deflection",))
        self.assertNotIn("deflection", {o.criterion for o in reached})

    def test_what_is_no_check_then_is_refused(self):
        chain = run(beam())
        hollow = (ChangeMembers(members=["m"], change=MemberChange(section="RHS 250x150x8")),)
        strong, _ = self.governing(chain, "m", "lateral")
        bent, _ = self.governing(chain, "m", "deflection")
        for operations, which, words in (
            (hollow, ("lateral", strong), "no check of it"),
            ((), ("deflection", strong), "is not checked in"),
            ((), ("section", bent), "is not checked in"),
            ((), ("nonsense", strong), "no check of it"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                proof_otherwise(chain, "m", operations, {}, which)


class OneCombination(unittest.TestCase):
    def test_without_more_of_a_case_a_combination_alone_reaches_what_it_does_among_all(self):
        document = hall()
        # soft in sway: what the whole leaves each member, its critical axial force, differs by combination
        document.hall.sections.columns = "IPE 360"
        chain = run(document)
        checks, cases = chain.verification.checks, np.zeros(len(chain.loading.cases))
        limits = checks.grounds.limits
        self.assertGreater(len(np.unique(limits[np.isfinite(limits)])), 10)
        compared = 0
        for name in ("frame-2/column-A", RAFTER, "bay-1/eaves-beam-A"):
            index = chain.structure.index[name]
            among = {r.criterion: r for r in checks.reached(index)}
            for number in chain.verification.strength[:: max(len(chain.verification.strength) // 6, 1)]:
                for alone in checks.on(checks.grounds.added(number, cases)).reached(index):
                    whole = among[alone.criterion]
                    wanted = whole.utilisation[whole.used.index(number)]
                    with self.subTest(member=name, number=number, criterion=alone.criterion):
                        self.assertEqual(alone.utilisation.shape, (1,))
                        np.testing.assert_allclose(alone.utilisation[0], wanted, rtol=1e-6, atol=1e-9)
                        compared += 1
        self.assertGreater(compared, 40)
