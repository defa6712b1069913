"""Effective lengths and limits of single members: they act on these alone, and last through cuts and joins in metres."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import Document, read_document
from engine.document.byhand import MemberEdit, OwnChecks
from engine.document.jigs import HallJig
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, Divide, Join, Lateral, MemberChange, Restrain
from engine.errors import ModelError
from engine.expand import expand
from engine.laid import said
from tests.engine.helpers import FIXED, by_case
from tests.engine.test_second_order import ANALYSIS


def beams(**more):
    """Two beams of 4 m on one line between three supports, the first with `more`."""
    return read_document(
        {
            "nodes": [{"name": n, "at": [4.0 * k, 0, 0]} for k, n in enumerate("abc")],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam", **more},
                {"name": "n", "start": "b", "end": "c", "section": "IPE 300", "role": "main beam"},
            ],
            "supports": [{"node": n, "fixed": FIXED} for n in "abc"],
            "cases": [{"name": "P", "nature": "imposed"}],
            "member_loads": [{"case": "P", "member": m, "value": [0, 0, -10]} for m in "mn"],
        }
    )


class OwnLengths(unittest.TestCase):
    def use(self, document, name, criterion):
        chain = run(document)
        verdict = chain.verification.verdicts[chain.structure.index[name]]
        return next((o.utilisation for o in verdict.outcomes if o.criterion == criterion), None)

    def test_it_acts_on_that_member_alone(self):
        edit = MemberEdit(member="frame-2/column-A", checks=OwnChecks(buckling_y=3.0, buckling_z=2.0))
        plain, changed = run(Document(hall=HallJig())), run(Document(hall=HallJig(), edits=[edit]))
        for name in ("frame-2/column-A", "frame-2/column-B"):
            i = plain.structure.index[name]
            before, after = (c.verification.grounds.lengths[i] for c in (plain, changed))
            own = name == edit.member
            length = plain.structure.length(plain.structure.members[i])
            self.assertEqual(after.y, 3.0 * length if own else before.y)
            self.assertEqual(after.z, 2.0 * length if own else before.z)
            self.assertEqual("set for this member" in after.why_y, own)
        # N_cr goes with 1/L²
        flexural = [
            next(o.utilisation for o in c.verification.verdicts[i].outcomes if o.criterion == "flexural")
            for c in (plain, changed)
            for i in [c.structure.index[edit.member]]
        ]
        self.assertGreater(flexural[1], 1.2 * flexural[0])

    def test_a_limit_of_its_own(self):
        usual = self.use(beams(), "m", "deflection")
        self.assertIsNotNone(usual)
        stricter = beams(checks={"deflection": 1000})
        ratio = stricter.rules.deflection_ratio("main beam")
        self.assertAlmostEqual(self.use(stricter, "m", "deflection") / usual, 1000 / ratio, delta=1e-9)
        self.assertAlmostEqual(self.use(stricter, "n", "deflection"), self.use(beams(), "n", "deflection"), delta=1e-12)
        chain = run(beams(checks={"deflection": 0}))
        self.assertIn("deflection not checked: it has no limit", chain.verification.verdicts[0].left_out)

    def test_a_column_keeps_its_own_drift(self):
        plain = Document(hall=HallJig())
        edit = MemberEdit(member="frame-2/column-A", checks=OwnChecks(deflection=300))
        before, after = (self.use(d, edit.member, "sway") for d in (plain, Document(hall=HallJig(), edits=[edit])))
        self.assertAlmostEqual(after / before, 300 / plain.rules.eaves_sway_ratio, delta=1e-9)


def bent(length=6.0, moment=50.0, supports=("a", "b"), **more):
    """An IPE 300 of S355 between forks under a uniform moment, which presses its outer flange."""
    forks = {"a": ["x", "y", "z", "rx"], "b": ["y", "z", "rx"]}
    turning = [("a", 1.0), ("b", -1.0)]
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam", **more}],
            "supports": [{"node": n, "fixed": forks[n]} for n in supports],
            "cases": [{"name": "P", "nature": "imposed"}],
            "node_loads": [
                {"case": "P", "node": n, "force": [0, 0, 0], "moment": [0, s * moment, 0]} for n, s in turning
            ],
        }
    )


class OwnSegments(unittest.TestCase):
    """Lengths for lateral-torsional buckling, segment by segment."""

    def lateral(self, document):
        chain = run(document)
        verdict = chain.verification.verdicts[0]
        outcome = next(o for o in verdict.outcomes if o.criterion == "lateral")
        return chain, verdict, chain.verification.checks.evaluated(0, outcome)

    def state(self, document, at, factor, flange="outer"):
        return operate(document, Lateral(members=["m"], flange=flange, at=at, factor=factor))

    def test_critical_moments_of_the_stated_length(self):
        # M_cr between forks 3, 6 and 9 m apart (analysis.json): a beam of 6 m with half, once and 1.5 times its length
        case = ANALYSIS["ltb-uniform-moment"]
        published = dict(zip(case["inputs"]["L"], case["expect"]["Mcr_kNm"], strict=True))
        for factor, length in ((0.5, 3), (None, 6), (1.5, 9)):
            _, _, found = self.lateral(self.state(bent(), 3.0, factor))
            self.assertAlmostEqual(found.values["Mcr"] / 1e3 / published[length], 1, delta=0.01, msg=factor)
            self.assertAlmostEqual(found.values["L_LT"], length, delta=1e-9)
            told = [note for note in found.assumptions if "set for this member" in note]
            self.assertEqual(told, [] if factor is None else [f"L_LT: {factor:g} × the segment, set for this member."])

    def test_one_segment_of_several(self):
        document = operate(bent(), Restrain(members=["m"], flange="outer", at=2.0))
        chain = run(self.state(document, 5.0, 0.7))
        lengths = [(b.flange, b.start, round(b.lateral, 9)) for b in chain.verification.checks.flanges(0)]
        self.assertEqual(lengths, [("outer", 0.0, 2.0), ("outer", 2.0, 2.8), ("inner", 0.0, 6.0)])

    def test_where_a_stay_is_let_go_nothing_is_stated_and_that_is_told(self):
        # half of 2 m stated, the rest as it is: without the stay 6 m, never 3
        document = operate(bent(), Restrain(members=["m"], flange="outer", at=2.0))
        document = self.state(document, 1.0, 0.5)
        loose = run(operate(document, Restrain(members=["m"], flange="outer", at=2.0, let_go=True)))
        self.assertEqual([b.lateral for b in loose.verification.checks.flanges(0) if b.flange == "outer"], [6.0])
        said_ = [w for w in loose.verification.verdicts[0].left_out if "2.00 m apart no more" in w]
        self.assertEqual(len(said_), 1)
        self.assertFalse([w for w in run(document).verification.verdicts[0].left_out if "no more" in w])

    def test_of_two_for_one_segment_the_larger_counts(self):
        stated = [{"flange": "outer", "at": at, "factor": factor} for at, factor in ((1.0, 0.5), (4.0, 0.9))]
        chain = run(bent(checks={"lateral": stated}))
        lengths = [b.lateral for b in chain.verification.checks.flanges(0) if b.flange == "outer"]
        np.testing.assert_allclose(lengths, [5.4])

    def test_a_cantilever_by_hand_in_place_of_twice_its_length(self):
        for factor, wanted in ((None, 6.0), (1.4, 4.2)):
            document = read_document(
                bent(3.0).model_dump(mode="json")
                | {"supports": [{"node": "a", "fixed": FIXED}], "node_loads": []}
                | {"member_loads": [{"case": "P", "member": "m", "value": [0, 0, -5]}]}
            )
            chain = run(self.state(document, 1.0, factor, "inner"))
            own = [b.lateral for b in chain.verification.checks.flanges(0) if b.flange == "inner"]
            self.assertAlmostEqual(own[0], wanted, delta=1e-9)

    def test_of_two_members_alike_one_alone(self):
        # two beams of 4 m beside each other, the first with half its length
        forks = {"start": ["x", "y", "z", "rx"], "end": ["y", "z", "rx"]}
        document = read_document(
            {
                "nodes": [
                    {"name": f"{m}{e}", "at": [4.0 * (e == "end"), 3.0 * (m == "n"), 0]} for m in "mn" for e in forks
                ],
                "members": [
                    {"name": m, "start": f"{m}start", "end": f"{m}end", "section": "IPE 300", "role": "main beam"}
                    for m in "mn"
                ],
                "supports": [{"node": f"{m}{e}", "fixed": fixed} for m in "mn" for e, fixed in forks.items()],
                "cases": [{"name": "P", "nature": "imposed"}],
                "member_loads": [{"case": "P", "member": m, "value": [0, 0, -10]} for m in "mn"],
            }
        )
        plain, stated = run(document), run(self.state(document, 2.0, 0.5))

        def used(chain):
            own = chain.verification.verdicts
            return [next(o.utilisation for o in v.outcomes if o.criterion == "lateral") for v in own]

        self.assertLess(used(stated)[0], used(plain)[0])
        self.assertAlmostEqual(used(stated)[1], used(plain)[1], delta=1e-9)

    def test_in_torsion(self):
        for factor, wanted in ((None, 6.0), (0.5, 3.0)):
            chain = run(bent(checks={"buckling_T": factor}))
            lengths = chain.verification.grounds.lengths[0]
            self.assertAlmostEqual(lengths.torsion, wanted, delta=1e-9)
            self.assertAlmostEqual(lengths.z, 6.0, delta=1e-9)

    def test_what_is_not_used_is_told(self):
        stated = {"checks": {"lateral": [{"flange": "outer", "at": 1.0, "factor": 0.5}]}}
        beyond = {"checks": {"lateral": [{"flange": "outer", "at": 7.0, "factor": 0.5}]}}
        haunch = {"haunch_start": {"length": 2.0, "depth": 0.2}}
        for more, words in (
            (beyond, "it ends before"),
            (stated | {"section": "SHS 200x8"}, "does not buckle sideways"),
            (stated | haunch, "takes the restraints as they are"),
            (stated, ""),
        ):
            said_ = [w for w in run(bent(**more)).verification.verdicts[0].left_out if "lateral buckling" in w]
            self.assertEqual(len(said_), bool(words), more)
            self.assertTrue(all(words in w for w in said_), said_)

    def test_stated_anew_taken_back_and_cut(self):
        document = operate(bent(), Restrain(members=["m"], flange="outer", at=2.0))
        for at, factor in ((5.0, 0.7), (2.5, 0.8), (1.0, 0.9)):
            document = self.state(document, at, factor)
        own = document.members[0].checks.lateral
        self.assertEqual([(s.at, s.factor) for s in own], [(1.0, 0.9), (2.5, 0.8)])
        pieces = operate(document, Divide(members=["m"], parts=3, cut=True)).members
        self.assertEqual(
            [[(s.at, s.factor) for s in (m.checks.lateral or ())] for m in pieces], [[(1.0, 0.9)], [(0.5, 0.8)], []]
        )
        for at in (1.5, 4.0):
            document = self.state(document, at, None)
        self.assertIsNone(document.members[0].checks)
        with self.assertRaisesRegex(ModelError, "beyond the length"):
            self.state(document, 6.0, 0.7)

    def test_of_a_jig(self):
        name = "frame-2/rafter-AB-left"
        document = operate(Document(hall=HallJig()), Lateral(members=[name], flange="inner", at=0.5, factor=0.8))
        self.assertEqual(said(document.edits[0]), "lengths for lateral buckling")
        rafter = expand(document).member(name)
        checks, first = rafter.checks, rafter.inner[1]
        self.assertEqual(checks.lateral_factor("inner", 0.0, first), 0.8)
        self.assertIsNone(checks.lateral_factor("inner", 0.0, 2 * first))
        self.assertIsNone(checks.lateral_factor("outer", 0.0, 2.0))


class Editing(unittest.TestCase):
    def test_changed_and_taken_back(self):
        document = Document(hall=HallJig())
        name = "frame-2/column-A"
        for checks, wanted in (
            (OwnChecks(buckling_y=1.5), 1.5),
            (OwnChecks(deflection=300), 1.5),
            (OwnChecks(buckling_y=None), None),
        ):
            document = operate(document, ChangeMembers(members=[name], change=MemberChange(checks=checks)))
            self.assertEqual(expand(document).member(name).checks.buckling_y, wanted)
        # each change is about what it gives alone, holes too
        self.assertEqual(document.edits[0].checks, OwnChecks(deflection=300))
        for checks in (
            {"holes": {"d0": 22}},
            {"remark": "M20"},
            {"holes": {"d0": 22, "across": 2}},
            {"deflection": None},
        ):
            document = operate(document, ChangeMembers(members=[name], change=MemberChange(checks=checks)))
        document = operate(
            document, ChangeMembers(members=[name], change=MemberChange(checks={"holes": {"d0": 22, "thickness": 8}}))
        )
        left = document.edits[0].checks
        self.assertEqual((left.remark, left.deflection), ("M20", None))
        self.assertEqual((left.holes.across, left.holes.thickness), (2, 8))
        for checks in ({"holes": None}, {"remark": None}):
            document = operate(document, ChangeMembers(members=[name], change=MemberChange(checks=checks)))
        self.assertIsNone(document.edits[0].checks)
        self.assertEqual(said(MemberEdit(member="m", checks=OwnChecks(buckling_y=1.5))), "buckling about y 1.5")
        more = OwnChecks(holes={"d0": 22}, stiffened=False, rigid_ends=True, deflection_variable=300)
        words = said(MemberEdit(member="m", checks=more))
        self.assertEqual(words, "deflection variable 300; holes; not stiffened; rigid ends")

    def test_pieces_and_wholes_keep_their_metres(self):
        document = operate(beams(checks={"buckling_y": 1.2}), Divide(members=["m"], parts=3, cut=True))
        pieces = [m for m in document.members if m.name != "n"]
        self.assertEqual([round(m.checks.buckling_y, 9) for m in pieces], [3.6] * 3)
        joined = operate(document, Join(members=[m.name for m in pieces]))
        whole = next(m for m in joined.members if m.name != "n")
        self.assertAlmostEqual(whole.checks.buckling_y, 1.2, delta=1e-6)

    def test_many_pieces_keep_them_too(self):
        document = operate(beams(checks={"buckling_y": 2.0}), Divide(members=["m"], parts=12, cut=True))
        pieces = [m for m in document.members if m.name != "n"]
        self.assertEqual([round(m.checks.buckling_y, 9) for m in pieces], [24.0] * 12)

    def test_a_factor_of_zero_is_refused_at_its_place(self):
        with self.assertRaises(ModelError) as caught:
            beams(checks={"buckling_y": 0})
        self.assertIn("members.0.checks.buckling_y", caught.exception.place or str(caught.exception))


class DividedAnywhere(unittest.TestCase):
    """A member cut at any shares of its length carries what it carried as one."""

    def test_moments_and_deflections_are_those_of_the_whole(self):
        whole = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300", "role": "main beam"}],
                "supports": [{"node": "a", "fixed": FIXED}, {"node": "b", "fixed": ["y", "z", "rx"]}],
                "cases": [{"name": "P", "nature": "imposed"}],
                "member_loads": [
                    {"case": "P", "member": "m", "value": [0, 0, -2], "value_end": [0, 0, -6], "start": 1, "end": 7},
                    {"case": "P", "member": "m", "kind": "force", "value": [0, 0, -9], "start": 0.4, "ratio": True},
                    {"case": "P", "member": "m", "kind": "moment", "value": [0, 5, 0], "start": 2.4},
                ],
            }
        )
        plain = by_case(whole)
        for at in ([0.3], [0.7, 0.15, 0.4], [0.05, 0.95]):
            cut = by_case(operate(whole, Divide(members=["m"], at=at, cut=True)))
            self.assertEqual(len(cut.structure.members), len(at) + 1)
            xs = sorted(float(x) for x in cut.structure.xyz[:, 0])
            self.assertEqual([round(x, 9) for x in xs], [round(8 * s, 9) for s in (0, *sorted(at), 1)])
            for name in "ab":
                i, j = plain.structure.nodes.index(name), cut.structure.nodes.index(name)
                np.testing.assert_allclose(cut.response.reaction[j], plain.response.reaction[i], rtol=1e-9, atol=1e-5)
        # nodes alone leave it whole
        noded = operate(whole, Divide(members=["m"], at=[0.3]))
        self.assertEqual(len(expand(noded).member("m").nodes), 3)

    def test_neither_parts_nor_shares_are_refused(self):
        with self.assertRaisesRegex(ModelError, "how many parts"):
            operate(beams(), Divide(members=["m"]))
