"""Effective lengths and limits of single members: they act on these alone, and last through cuts and joins in metres."""

import unittest

from engine.chain import run
from engine.document import Document, read_document
from engine.document.byhand import MemberEdit, OwnChecks
from engine.document.jigs import HallJig
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, MemberChange
from engine.errors import ModelError
from engine.expand import expand
from engine.laid import said
from tests.engine.helpers import FIXED


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
        from engine.editing.operations import Divide, Join

        document = operate(beams(checks={"buckling_y": 1.2}), Divide(members=["m"], parts=3, cut=True))
        pieces = [m for m in document.members if m.name != "n"]
        self.assertEqual([m.checks.buckling_y for m in pieces], [3.6] * 3)
        joined = operate(document, Join(members=[m.name for m in pieces]))
        whole = next(m for m in joined.members if m.name != "n")
        self.assertAlmostEqual(whole.checks.buckling_y, 1.2, delta=1e-6)

    def test_many_pieces_keep_them_too(self):
        from engine.editing.operations import Divide

        document = operate(beams(checks={"buckling_y": 2.0}), Divide(members=["m"], parts=12, cut=True))
        pieces = [m for m in document.members if m.name != "n"]
        self.assertEqual([m.checks.buckling_y for m in pieces], [24.0] * 12)

    def test_a_factor_of_zero_is_refused_at_its_place(self):
        with self.assertRaises(ModelError) as caught:
            beams(checks={"buckling_y": 0})
        self.assertIn("members.0.checks.buckling_y", caught.exception.place or str(caught.exception))
