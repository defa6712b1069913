"""What is laid over generated things survives their jigs; what loses its place is listed, not lost."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import Document, read_document
from engine.document.byhand import MemberEdit, NodeEdit, SupportInput
from engine.document.jigs import HallJig
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.structure.audit import audit
from engine.structure.join import merge
from tests.engine.test_editing import do

RAFTER = "frame-4/rafter-AB-left"


class Edits(unittest.TestCase):
    def document(self, hall=None, **more):
        edits = [
            MemberEdit(member=RAFTER, section="IPE 450", restraints_inner=[3.0]),
            MemberEdit(member="bay-1/wall-brace-A-up", removed=True),
            MemberEdit(member="frame-8/column-A", section="HEA 400"),
        ]
        return Document(hall=hall or HallJig(), edits=edits, **more)

    def test_survive_a_change_of_spacing_span_and_pitch(self):
        for hall in (HallJig(), HallJig(spacings=[5.0] * 9), HallJig(eaves_height=8.0)):
            s = expand(self.document(hall))
            self.assertEqual(s.member(RAFTER).section.name, "IPE 450")
            self.assertTrue(s.member(RAFTER).edited)
            self.assertIn(3.0, s.member(RAFTER).inner)
            self.assertNotIn("bay-1/wall-brace-A-up", s.index)
            self.assertEqual(s.orphans, ())

    def test_without_a_place_they_say_what_they_said(self):
        s = expand(self.document(HallJig(spacings=[6.0] * 5)))
        self.assertEqual(
            [(o.target, o.said, o.place) for o in s.orphans], [("frame-8/column-A", "section HEA 400", "edits.2")]
        )
        back = expand(self.document(HallJig(spacings=[6.0] * 7)))
        self.assertEqual(back.member("frame-8/column-A").section.name, "HEA 400")

    def test_a_moved_node_moves_with_its_jig(self):
        for height in (6.0, 7.5):
            document = self.document(
                HallJig(eaves_height=height), moved_nodes=[NodeEdit(node="frame-4/eaves-A", move=(0, 0, 0.1))]
            )
            s = expand(document)
            self.assertAlmostEqual(s.xyz[s.nodes.index("frame-4/eaves-A")][2], height + 0.1)
        lost = expand(self.document(moved_nodes=[NodeEdit(node="frame-40/eaves-A", move=(0, 0.2, 0))]))
        self.assertEqual(lost.orphans[-1].said, "moved by Y +0.2 m")

    def test_a_support_laid_over_a_base(self):
        s = expand(
            self.document(supports=[SupportInput(node="frame-2/base-A", fixed=["x", "y", "z", "rx", "ry", "rz"])])
        )
        self.assertTrue(s.fixed[s.nodes.index("frame-2/base-A")].all())
        lost = expand(self.document(supports=[SupportInput(node="frame-99/base-A", fixed=["z"])]))
        self.assertIn("support: z", lost.orphans[-1].said)

    def test_a_restraint_off_the_member_is_listed(self):
        document = Document(hall=HallJig(), edits=[MemberEdit(member=RAFTER, restraints_outer=[4.0, 99.0])])
        s = expand(document)
        self.assertIn(4.0, s.member(RAFTER).outer)
        self.assertIn("99 m, beyond its length", s.orphans[0].said)

    def test_an_edit_changes_the_forces_and_leaves_the_rest(self):
        plain, edited = run(Document(hall=HallJig())), run(self.document())
        self.assertGreater(edited.tonnage(), plain.tonnage())
        self.assertNotEqual(plain.fingerprints["structure"], edited.fingerprints["structure"])


class LeftOut(unittest.TestCase):
    """Members that generated panels do not rest on: a bay is 6 m, so that the frames beside bear 3 + 6 = 9 m of the roof."""

    ROOF = "roof-AB-left"
    SITE = {"ground_snow": 1.0, "altitude": 100.0}

    def document(self, spacings=7, **more) -> Document:
        return read_document(
            {
                "hall": {"spacings": [6.0] * spacings, "purlins": {"modelled": False}},
                "site": self.SITE,
                "panel_edits": [{"panel": self.ROOF, "excluded": ["frame-4/rafter-AB-left"]}],
            }
            | more
        )

    def snow(self, document: Document, frame: int) -> float:
        """Snow of the first case on a rafter at its start, N per metre of it."""
        structure = expand(document)
        loading = load(document, structure)
        table, name = loading.spread, f"frame-{frame}/rafter-AB-left"
        case = next(i for i, c in enumerate(loading.cases) if c.nature == "snow")
        on = (table.case == case) & (table.member == structure.index[name]) & (table.start < 1e-6)
        return -float(table.first[on, 2].sum())

    def test_its_share_goes_to_those_beside_it(self):
        plain = self.document(panel_edits=[])
        whole = self.snow(plain, 4)
        self.assertEqual(self.snow(self.document(), 4), 0.0)
        for frame, share in ((3, 1.5), (5, 1.5), (2, 1.0), (6, 1.0)):
            self.assertAlmostEqual(self.snow(self.document(), frame) / whole, share, 6)

    def test_it_lasts_and_says_where_it_has_no_place(self):
        found = expand(self.document(9)).panels
        panel = next(p for p in found if p.name == self.ROOF)
        self.assertEqual(panel.excluded, ("frame-4/rafter-AB-left",))
        self.assertNotIn("frame-4/rafter-AB-left", panel.carriers)
        gone = self.document(panel_edits=[{"panel": "roof-gone", "excluded": ["frame-4/rafter-AB-left"]}])
        lost = expand(gone).orphans[0]
        self.assertEqual((lost.place, lost.target), ("panel_edits.0", "roof-gone"))
        placed = do(gone, do="replace", place=lost.place, target=self.ROOF)
        self.assertEqual(placed.panel_edits[0].panel, self.ROOF)
        self.assertEqual(do(gone, do="replace", place=lost.place).panel_edits, [])
        with self.assertRaisesRegex(ModelError, "no panel “elsewhere”"):
            do(gone, do="replace", place=lost.place, target="elsewhere")

    def test_a_released_hall_keeps_it(self):
        free = do(self.document(), do="release", jig="hall")
        self.assertEqual(free.panel_edits, [])
        panel = next(p for p in free.panels if "frame-4 rafter-AB-left" in p.excluded)
        rests = next(p for p in expand(free).panels if p.name == panel.name).carriers
        self.assertNotIn("frame-4 rafter-AB-left", rests)
        self.assertEqual(len(rests), 7)
        taken_in = free.model_copy(deep=True)
        next(p for p in taken_in.panels if p.name == panel.name).excluded = []
        self.assertEqual(len(next(p for p in expand(taken_in).panels if p.name == panel.name).carriers), 8)

    def test_stated_twice_is_refused(self):
        with self.assertRaisesRegex(ModelError, "stated twice"):
            self.document(panel_edits=[{"panel": self.ROOF}, {"panel": self.ROOF}])


class Joins(unittest.TestCase):
    def test_merge_keeps_the_first_name(self):
        names, xyz, target = merge(["a", "b", "c"], np.array([[0, 0, 0], [0, 0, 5e-4], [1, 0, 0.0]]))
        self.assertEqual((names, target.tolist()), (["a", "c"], [0, 0, 1]))
        self.assertEqual(len(xyz), 2)

    def test_a_beam_by_hand_on_a_rafter(self):
        data = Document(hall=HallJig()).model_dump()
        data["nodes"] = [
            {"name": "p", "at": [6, 18, 6 + 6 * np.tan(np.radians(10))]},
            {"name": "q", "at": [6, 24, 6 + 6 * np.tan(np.radians(10))]},
        ]
        data["members"] = [{"name": "m", "start": "p", "end": "q", "section": "IPE 160"}]
        s = expand(read_document(data))
        self.assertIn(s.nodes.index("p"), s.member(RAFTER).nodes)
        self.assertEqual(audit(s), [])


class Snags(unittest.TestCase):
    def structure(self, nodes, members, supports=("a",), **more):
        return expand(
            read_document(
                {
                    "nodes": [{"name": n, "at": at} for n, at in nodes.items()],
                    "members": [
                        {"name": f"m{i}", "start": a, "end": b, "section": "IPE 200", **extra}
                        for i, (a, b, extra) in enumerate(members)
                    ],
                    "supports": [{"node": n, "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for n in supports],
                    **more,
                }
            )
        )

    def kinds(self, *arguments, **more):
        return [(s.kind, s.mend) for s in audit(self.structure(*arguments, **more))]

    def test_each_is_found_once(self):
        line = {"a": [0, 0, 0], "b": [4, 0, 0]}
        self.assertEqual(self.kinds(line, [("a", "b", {})]), [])
        self.assertEqual(self.kinds(line, [("a", "b", {})], supports=()), [("no supports", "")])
        self.assertEqual(
            self.kinds(line | {"c": [4.02, 0, 0], "d": [6, 0, 0]}, [("a", "b", {}), ("c", "d", {})]),
            [("not connected", ""), ("near nodes", "merge")],
        )
        self.assertEqual(self.kinds(line, [("a", "b", {}), ("b", "a", {})]), [("duplicate", "drop")])
        cross = line | {"c": [2, -2, 0], "d": [2, 2, 0]}
        self.assertEqual(
            self.kinds(cross, [("a", "b", {}), ("c", "d", {})], supports=("a", "c")), [("crossing", "cut")]
        )
        # a node of the one on the other joins them
        self.assertEqual(self.kinds(line | {"c": [2, 0, 0], "d": [2, 2, 0]}, [("a", "b", {}), ("c", "d", {})]), [])
        self.assertEqual(
            self.kinds(line | {"c": [8, 0, 0]}, [("a", "b", {}), ("b", "c", {"behaviour": "bar"})]), [("mechanism", "")]
        )
        # a level that waits for a floor is no snag
        self.assertEqual(self.kinds(line, [("a", "b", {})], levels=[{"name": "Roof", "height": 9}]), [])

    def test_a_hall_without_bracing_drifts_along_itself(self):
        data = Document(hall=HallJig()).model_dump()
        data["hall"]["bracing"] |= {"walls": None}
        found = audit(expand(read_document(data)))
        self.assertEqual([(s.kind, s.weight) for s in found], [("unbraced", "fault")])
        self.assertIn("along Y", found[0].what)
        data["hall"]["bases"] = "fixed"
        found = audit(expand(read_document(data)))
        self.assertEqual([(s.kind, s.weight) for s in found], [("cantilevers", "doubt")])
        self.assertIn("along Y by clamped feet alone", found[0].what)

    def test_a_panel_without_carriers(self):
        document = Document(
            hall=HallJig(spacings=[6.0]),
            edits=[MemberEdit(member=f"frame-{i}/rafter-AB-left", removed=True) for i in (1, 2)],
        )
        self.assertIn("no carrier", [s.kind for s in audit(expand(document))])
