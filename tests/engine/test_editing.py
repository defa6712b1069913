"""The operations by hand: each on a small model, and on a hall whose parameters change afterwards."""

import unittest

import numpy as np
from pydantic import TypeAdapter

from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.byhand import SupportInput
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig, TrussJig
from engine.document.loads import CaseInput, CombinationInput, MemberLoad, NodeLoad
from engine.editing.apply import grow, operate
from engine.editing.operations import Operation
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.structure.audit import audit

ADAPTER = TypeAdapter(Operation)


def do(document, **operation):
    return read_document(operate(document, ADAPTER.validate_python(operation)).model_dump())


def places(document):
    return sorted(tuple(round(float(v), 6) for v in p) for p in expand(document).xyz)


class ByHand(unittest.TestCase):
    def setUp(self):
        self.one = do(Document(), do="draw", points=[(0, 0, 0), (0, 0, 4), (6, 0, 4)], section="IPE 240", role="column")

    def refused(self, words, document=None, **operation):
        with self.assertRaisesRegex(ModelError, words):
            do(document or self.one, **operation)

    def test_draw_a_chain(self):
        s = expand(self.one)
        self.assertEqual([m.name for m in s.members], ["m1", "m2"])
        self.assertEqual(s.nodes, ("n1", "n2", "n3"))
        again = do(self.one, do="draw", points=["n3", (6, 0, 0)])
        self.assertEqual(len(expand(again).nodes), 4)
        self.refused("no node “zz”", do="draw", points=["zz", (1, 1, 1)])
        self.refused("coincide", do="draw", points=[(1, 1, 1), (1, 1, 1)])

    def test_add_what_was_made_elsewhere(self):
        nodes = [{"name": "n1", "at": (0, 0, 0)}, {"name": "b", "at": (0, 0, 4)}, {"name": "c", "at": (3, 0, 4)}]
        members = [
            {"name": "m1", "start": "n1", "end": "b", "section": "HEA 200"},
            {"name": "beam", "start": "b", "end": "c", "section": "X1"},
        ]
        own = {"name": "X1", "A": 5e-3, "Iy": 8e-5, "Iz": 6e-6, "It": 2e-7}
        supports = [{"node": "n1", "fixed": ["x", "y", "z"]}]
        parts = {"nodes": nodes, "members": members, "supports": supports, "sections": [own]}
        # its foot moves onto the head of the column at (6, 0, 4), whose node it shares
        added = do(self.one, do="add", step=(6, 0, 4), **parts)
        self.assertEqual([m.name for m in added.members], ["m1", "m2", "m1 (2)", "beam"])
        self.assertEqual((added.members[2].start, added.members[2].section), ("n3", "HEA 200"))
        self.assertEqual([(n.name, n.at) for n in added.nodes[3:]], [("b", (6, 0, 8)), ("c", (9, 0, 8))])
        self.assertEqual([s.node for s in added.supports], ["n3"])
        # the same again: its nodes stand there, its support does, its section is known
        again = do(added, do="add", step=(6, 0, 4), **parts)
        self.assertEqual((len(again.nodes), len(again.supports), len(again.sections)), (5, 1, 1))
        # cases and loads come along: a case that is there already is the same one
        loads = {
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [{"case": "Q", "member": "m1", "value": (0, 0, -2), "run": ["beam"]}],
            "node_loads": [{"case": "Q", "node": "n1", "force": (0, 0, -7)}],
        }
        first = do(self.one, do="add", step=(6, 0, 4), **parts, **loads)
        twice = do(first, do="add", step=(6, 0, 8), **parts, **loads)
        self.assertEqual([c.name for c in twice.cases], ["Q"])
        self.assertEqual(
            [(x.member, x.run) for x in twice.member_loads], [("m1 (2)", ["beam"]), ("m1 (3)", ["beam (2)"])]
        )
        self.assertEqual([x.node for x in twice.node_loads], ["n3", "b"])
        wind = {"cases": [{"name": "Q", "nature": "wind"}]}
        self.refused("“Q” is imposed in this project, not wind", first, do="add", **parts | wind)
        for more in (
            {"member_loads": loads["member_loads"]},
            {"node_loads": [{"case": "Q", "node": "zz"}], "cases": loads["cases"]},
        ):
            self.refused("that is not added", do="add", **parts, **more)
        self.refused("two members named “m1”", do="add", **parts | {"members": [*members, members[0]]})
        # what a jig holds stays as the jig holds it
        hall = do(
            Document(hall=HallJig()),
            do="add",
            step=(24, 0, 0),
            **parts | {"supports": [{"node": "n1", "fixed": ["z"]}]},
        )
        self.assertEqual((hall.members[0].start, hall.supports), ("frame-1/base-B", []))
        self.refused("another section named “X1”", added, do="add", **parts | {"sections": [own | {"A": 1e-3}]})
        self.refused("no node “zz”", do="add", **parts | {"supports": [{"node": "zz"}]})
        self.refused("m1: there is no node “b”", do="add", **parts | {"nodes": [nodes[0], nodes[2]]})
        self.refused("two nodes named “n1”", do="add", **parts | {"nodes": [*nodes, nodes[0]]})
        self.refused("no length", do="add", **parts | {"nodes": [*nodes[:1], {"name": "b", "at": (0, 0, 0)}, nodes[2]]})

    def test_copy_with_supports_and_array(self):
        held = do(self.one, do="support", nodes=["n1"], fixed=["x", "y", "z"])
        many = do(held, do="copy", members=["m1", "m2"], step=(0, 5, 0), count=3)
        s = expand(many)
        self.assertEqual(len(s.members), 8)
        self.assertEqual(int(s.fixed.any(axis=1).sum()), 4)
        self.refused("give a step", do="copy", members=["m1"], step=(0, 0, 0))

    def test_a_copied_support_holds_as_the_first(self):
        held = do(
            self.one,
            do="support",
            nodes=["n1"],
            fixed=["x", "z"],
            springs={"y": 500.0},
            one_way=["z"],
            turn=30.0,
        )
        copied = do(held, do="copy", members=["m1"], step=(0, 5, 0))
        first, other = copied.supports
        self.assertEqual(other.model_dump(exclude={"node"}), first.model_dump(exclude={"node"}))

    def test_copies_in_two_directions_with_their_loads(self):
        loaded = self.one.model_copy(
            update={
                "cases": [CaseInput(name="P")],
                "member_loads": [
                    MemberLoad(case="P", member="m2", value=(0, 0, -3)),
                    MemberLoad(case="P", member="m1", run=["m2"], value=(0, 0, -1)),
                ],
                "node_loads": [NodeLoad(case="P", node="n3", force=(2, 0, 0))],
            }
        )
        made = do(
            loaded, do="copy", members=["m1", "m2"], step=(0, 5, 0), count=2, across=(20, 0, 0), rows=1, loads=True
        )
        self.assertEqual((len(made.members), len(made.member_loads), len(made.node_loads)), (12, 12, 6))
        structure = expand(made)
        loading = load(made, structure)
        # six frames, each 3 kN/m over 6 m, and 1 kN/m over 6 + 4 m
        self.assertAlmostEqual(loading.expected[0][2] / 1e3, -6 * (3 * 6 + 1 * 10), delta=1e-9)
        self.assertAlmostEqual(loading.expected[0][0] / 1e3, 12.0, delta=1e-9)
        alone = do(loaded, do="copy", members=["m1", "m2"], step=(0, 5, 0))
        self.assertEqual(len(alone.member_loads), 2)
        self.refused("give a second step", do="copy", members=["m1"], step=(0, 5, 0), rows=2)
        self.refused(
            "more than", do="copy", members=["m1", "m2"], step=(0, 5, 0), count=200, across=(9, 0, 0), rows=200
        )

    def test_mirrored_and_turned_copies_take_supports_and_loads(self):
        loaded = self.one.model_copy(
            update={
                "cases": [CaseInput(name="P")],
                "supports": [SupportInput(node="n1", fixed=["x", "z"], turn=30.0)],
                "member_loads": [
                    MemberLoad(case="P", member="m2", value=(0, 0, -3)),
                    # along its own z: against X on a column that rises
                    MemberLoad(case="P", member="m1", value=(0, 0, 2), axes="local", kind="force", start=1.0),
                    MemberLoad(case="P", member="m1", value=(0, 5, 0), kind="moment", start=2.0),
                ],
                "node_loads": [NodeLoad(case="P", node="n2", force=(4, 1, 0), moment=(0, 6, 0))],
            }
        )

        def total(document):
            loading = load(document, expand(document))
            couples = sum((p.moment for p in loading.points), start=np.zeros(3))
            return loading.expected[0] / 1e3, couples / 1e3

        once, couple = total(loaded)
        twice, couples = total(
            do(loaded, do="mirror", members=["m1", "m2"], axis="X", at=20, supports=True, loads=True)
        )
        # what is symmetrical cancels along X; couples about Y cancel too
        np.testing.assert_allclose(twice, 2 * once * [0, 1, 1], atol=1e-9)
        np.testing.assert_allclose(couples, 2 * couple * [1, 0, 0], atol=1e-9)
        turned = do(loaded, do="rotate", members=["m1", "m2"], about=(20, 0, 0), angle=90, supports=True, loads=True)
        R = np.array([[0, -1, 0], [1, 0, 0], [0, 0, 1.0]])
        both, couples = total(turned)
        np.testing.assert_allclose(both, once + R @ once, atol=1e-9)
        np.testing.assert_allclose(couples, couple + R @ couple, atol=1e-9)
        self.assertEqual([s.turn for s in turned.supports], [30.0, 120.0])
        mirrored = do(loaded, do="mirror", members=["m1"], axis="X", at=20, supports=True)
        self.assertEqual([s.turn for s in mirrored.supports], [30.0, 150.0])

    def test_what_refers_to_a_renamed_case_follows(self):
        loaded = self.one.model_copy(
            update={
                "cases": [CaseInput(name="P"), CaseInput(name="Q")],
                "member_loads": [MemberLoad(case="P", member="m2", value=(0, 0, -3))],
                "combinations": [CombinationInput(name="C", factors={"P": 1.5})],
            }
        )
        made = do(loaded, do="rename", kind="case", name="P", to="Plant")
        self.assertEqual((made.member_loads[0].case, made.combinations[0].factors), ("Plant", {"Plant": 1.5}))
        for name, to, words in (("P", "Q", "already is"), ("R", "S", "no case “R”")):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words):
                do(loaded, do="rename", kind="case", name=name, to=to)

    def test_drawn_members_end_as_they_are_said_to(self):
        hinged = {"start": ["ry", "rz"], "end": []}
        drawn = do(Document(), do="draw", points=[(0, 0, 0), (6, 0, 0)], releases=hinged, material="S275", roll=90)
        member = expand(drawn).member("m1")
        self.assertEqual((set(member.release_start), set(member.release_end)), ({"ry", "rz"}, set()))
        self.assertEqual(member.material.name, "S275")

    def test_move_mirror_rotate(self):
        moved = do(self.one, do="move", members=["m2"], step=(0, 0, 1))
        self.assertEqual(places(moved), [(0, 0, 0), (0, 0, 5), (6, 0, 5)])
        mirrored = do(self.one, do="mirror", members=["m1", "m2"], axis="X", at=6)
        self.assertEqual(places(mirrored), [(0, 0, 0), (0, 0, 4), (6, 0, 4), (12, 0, 0), (12, 0, 4)])
        turned = do(self.one, do="rotate", members=["m1", "m2"], about=(6, 0, 0), angle=90, count=3)
        self.assertEqual(len(expand(turned).members), 8)
        self.assertIn((6, -6, 4), places(turned))

    def test_a_turned_column_turns_its_section(self):
        turned = do(self.one, do="rotate", members=["m1"], about=(6, 0, 0), angle=90)
        chain = run(
            do(
                turned,
                do="support",
                nodes=["n1", expand(turned).nodes[expand(turned).member("m3").nodes[0]]],
                fixed=["x", "y", "z", "rx", "ry", "rz"],
            )
        )
        axes = {
            chain.structure.members[m].name: chain.response.elements.axes[e]
            for e, m in enumerate(chain.response.elements.member)
        }
        R = np.array([[0, -1, 0], [1, 0, 0], [0, 0, 1.0]])
        np.testing.assert_allclose(axes["m3"], axes["m1"] @ R.T, atol=1e-12)

    def test_what_holds_flanges_and_hinges_stay_where_they_are(self):
        data = self.one.model_dump(mode="json")
        hinges = {"start": ["ry"], "end": ["rz"], "end_springs": {"ry": 900.0}}
        data["members"][1] |= {"restraints_outer": [0.5, 4.5], "restraints_inner": [1.2], "releases": hinges}
        whole = read_document(data)
        cut = do(whole, do="divide", members=["m2"], parts=2, cut=True)
        first, second = (m for m in cut.members if m.name != "m1")
        self.assertEqual((first.restraints_outer, second.restraints_outer), ([0.5], [1.5]))
        self.assertEqual((first.releases.end, second.releases.start), ([], []))
        joined = do(cut, do="join", members=[first.name, second.name])
        again = next(m for m in joined.members if m.name == first.name)
        self.assertEqual((again.restraints_outer, again.restraints_inner), ([0.5, 4.5], [1.2]))
        self.assertEqual(again.releases, whole.members[1].releases)
        second.releases.start.append("ry")
        self.refused("released where it meets", cut, do="join", members=[first.name, second.name])

    def test_extrude_divide_join(self):
        up = do(self.one, do="extrude", nodes=["n2", "n3"], step=(0, 0, 3), count=2, section="HEA 200")
        self.assertEqual(len(expand(up).members), 6)
        through = do(self.one, do="divide", members=["m2"], parts=3)
        self.assertEqual(len(expand(through).member("m2").nodes), 4)
        cut = do(self.one, do="divide", members=["m2"], parts=3, cut=True)
        self.assertEqual(len(cut.members), 4)
        names = [m.name for m in cut.members if m.name != "m1"]
        joined = do(cut, do="join", members=names)
        self.assertEqual(places(joined), places(self.one))
        self.refused("do not lie on one line", do="join", members=["m1", "m2"])

    def test_releases_go_to_the_outer_ends_when_cut(self):
        hinged = do(self.one, do="change", members=["m2"], change={"releases": {"start": ["ry"], "end": ["rz"]}})
        cut = [m for m in do(hinged, do="divide", members=["m2"], parts=2, cut=True).members if m.name != "m1"]
        self.assertEqual([(m.releases.start, m.releases.end) for m in cut], [(["ry"], []), ([], ["rz"])])

    def test_cross_and_trim(self):
        both = do(self.one, do="draw", points=[(3, 0, 2), (3, 0, 6)])
        self.assertEqual([s.kind for s in audit(expand(both)) if s.kind == "crossing"], ["crossing"])
        joined = do(both, do="cross", members=["m2", "m3"])
        self.assertEqual([s.kind for s in audit(expand(joined)) if s.kind == "crossing"], [])
        trimmed = do(both, do="trim", members=["m3"], to="m2")
        self.assertIn((3, 0, 4), places(trimmed))
        self.refused("do not cross", do="cross", members=["m1", "m1"])
        self.refused(
            "do not meet",
            document=do(self.one, do="draw", points=[(0, 9, 0), (1, 9, 0)]),
            do="trim",
            members=["m3"],
            to="m2",
        )

    def test_merge(self):
        near = do(self.one, do="draw", points=[(6.01, 0, 4), (6.01, 0, 0)])
        merged = do(near, do="merge", nodes=["n3", "n4"])
        self.assertEqual(len(expand(merged).nodes), 4)
        held = do(merged, do="support", nodes=["n1"], fixed=["x", "y", "z", "rx", "ry", "rz"])
        self.assertEqual([s.kind for s in audit(expand(held))], ["cantilevers"])

    def test_removing_sweeps_nodes_and_loads(self):
        data = self.one.model_dump() | {
            "cases": [{"name": "P"}],
            "member_loads": [{"case": "P", "member": "m2", "value": [0, 0, -1]}],
        }
        after = do(read_document(data), do="remove", members=["m2"])
        self.assertEqual([n.name for n in after.nodes], ["n1", "n2"])
        self.assertEqual(after.member_loads, [])
        self.refused("no member “m9”", do="remove", members=["m9"])

    def test_change_and_roles(self):
        after = do(
            self.one,
            do="change",
            members=["m1", "m2"],
            change={"section": "HEB 200", "roll": 90, "group": "legs"},
            role="rafter",
        )
        self.assertEqual(
            [(m.section, m.roll, m.group, m.role) for m in after.members], [("HEB 200", 90, "legs", "rafter")] * 2
        )
        self.refused("Nothing to change", do="change", members=["m1"], change={})

    def test_grow(self):
        self.assertEqual(grow(expand(self.one), ["m1"]), ["m1", "m2"])


class OverJigs(unittest.TestCase):
    RAFTER = "frame-4/rafter-AB-left"

    def test_edits_by_operation_survive_the_jig(self):
        d = Document(hall=HallJig())
        d = do(d, do="change", members=[self.RAFTER], change={"section": "IPE 450"})
        d = do(d, do="remove", members=["bay-1/wall-brace-A-up"])
        d = do(d, do="restrain", members=[self.RAFTER], flange="inner", at=2.0)
        d = do(d, do="draw", points=["frame-4/eaves-A", "frame-4/eaves-B"], section="CHS 88.9x4", behaviour="bar")
        d.hall.spacings = [5.0] * 7
        s = expand(read_document(d.model_dump()))
        self.assertEqual(s.member(self.RAFTER).section.name, "IPE 450")
        self.assertIn(2.0, s.member(self.RAFTER).inner)
        self.assertNotIn("bay-1/wall-brace-A-up", s.index)
        self.assertAlmostEqual(s.xyz[s.member("m1").nodes[0]][1], 15.0)
        restored = expand(do(d, do="restore", members=[self.RAFTER, "bay-1/wall-brace-A-up"]))
        self.assertEqual(restored.member(self.RAFTER).section.name, "IPE 360")
        self.assertIn("bay-1/wall-brace-A-up", restored.index)

    def test_let_go_takes_back_only_what_was_added(self):
        d = do(Document(hall=HallJig()), do="restrain", members=[self.RAFTER], flange="both", at=2.0)
        d = do(d, do="restrain", members=[self.RAFTER], flange="both", at=2.0, let_go=True)
        self.assertEqual(
            expand(d).member(self.RAFTER).inner, expand(Document(hall=HallJig())).member(self.RAFTER).inner
        )
        with self.assertRaisesRegex(ModelError, "held by what it meets there"):
            do(d, do="restrain", members=[self.RAFTER], flange="inner", at=0.0, let_go=True)

    def test_a_generated_member_is_not_moved_but_copied(self):
        d = Document(hall=HallJig())
        with self.assertRaisesRegex(ModelError, "belongs to the jig “hall”"):
            do(d, do="move", members=[self.RAFTER], step=(0, 1, 0))
        copied = do(d, do="copy", members=[self.RAFTER], step=(0, 3, 0), supports=False)
        self.assertEqual(copied.members[0].section, "IPE 360")
        moved = do(d, do="move", nodes=["frame-4/eaves-A"], step=(0, 0, 0.2))
        self.assertEqual(moved.moved_nodes[0].move, (0, 0, 0.2))

    def test_orphans_are_given_another_place_or_dropped(self):
        d = do(Document(hall=HallJig()), do="change", members=["frame-8/column-A"], change={"section": "HEA 400"})
        d.hall.spacings = [6.0] * 4
        orphan = expand(d).orphans[0]
        placed = do(d, do="replace", place=orphan.place, target="frame-5/column-A")
        self.assertEqual(expand(placed).member("frame-5/column-A").section.name, "HEA 400")
        self.assertEqual(do(d, do="replace", place=orphan.place).edits, [])
        with self.assertRaisesRegex(ModelError, "no edit at"):
            do(d, do="replace", place="edits.7")

    def test_release_keeps_every_member_where_it_stood(self):
        d = Document(
            hall=HallJig(),
            jigs=[
                FloorJig(name="deck", along=("2", "3")),
                TrussJig(name="t", start=(0, 60, 5), end=(18, 60, 5), columns=5),
            ],
        )
        d = do(d, do="change", members=[self.RAFTER], change={"section": "IPE 450"})
        before = expand(d)
        for jig in ("t", "deck", "hall"):
            d = do(d, do="release", jig=jig)
        after = expand(d)
        self.assertIsNone(d.hall)
        self.assertEqual((len(after.members), len(after.nodes)), (len(before.members), len(before.nodes)))
        self.assertAlmostEqual(sum(map(after.mass, after.members)), sum(map(before.mass, before.members)), delta=1e-6)
        self.assertEqual(int(after.fixed.sum()), int(before.fixed.sum()))
        self.assertEqual(after.member(self.RAFTER.replace("/", " ")).section.name, "IPE 450")
        with self.assertRaisesRegex(ModelError, "no jig “hall”"):
            do(d, do="release", jig="hall")

    def test_release_keeps_haunches(self):
        d = Document(hall=HallJig(eaves_haunch=Haunch(length=2.0, depth=0.25), apex_haunch=Haunch(depth=0.2)))
        before, after = expand(d), expand(do(d, do="release", jig="hall"))
        one, other = before.member(self.RAFTER), after.member(self.RAFTER.replace("/", " "))
        for a, b in zip(other.pieces, one.pieces, strict=True):
            self.assertAlmostEqual(a.start, b.start, places=6)
            self.assertAlmostEqual(a.section.Iy / b.section.Iy, 1, places=9)
        self.assertEqual(len(after.nodes), len(before.nodes))
        self.assertAlmostEqual(sum(map(after.mass, after.members)), sum(map(before.mass, before.members)), delta=1e-6)


class Haunches(unittest.TestCase):
    RAFTER = "frame-4/rafter-AB-left"

    def setUp(self):
        one = do(Document(), do="draw", points=[(0, 0, 4), (12, 0, 4)], section="IPE 360")
        self.one = do(one, do="change", members=["m1"], change={"haunch_start": {"length": 2, "depth": 0.3}})

    def ends(self, document):
        return [(bool(m.haunches[0]), bool(m.haunches[1]), len(m.pieces)) for m in expand(document).members]

    def test_on_a_member_by_hand(self):
        self.assertEqual(self.ends(self.one), [(True, False, 6)])
        both = do(self.one, do="change", members=["m1"], change={"haunch_end": {"length": 1, "depth": 0.2}})
        self.assertEqual(self.ends(both), [(True, True, 12)])
        plain = do(both, do="change", members=["m1"], change={"prismatic": True})
        self.assertEqual(self.ends(plain), [(False, False, 0)])

    def test_cut_and_joined_they_stay_at_their_ends(self):
        both = do(self.one, do="change", members=["m1"], change={"haunch_end": {"length": 1, "depth": 0.2}})
        cut = do(both, do="divide", members=["m1"], parts=3, cut=True)
        self.assertEqual(self.ends(cut), [(True, False, 6), (False, False, 0), (False, True, 6)])
        joined = do(cut, do="join", members=[m.name for m in cut.members])
        self.assertEqual(self.ends(joined), [(True, True, 12)])

    def test_what_makes_no_haunch_is_refused(self):
        for change, words in (
            ({"haunch_end": {"length": 12.5, "depth": 0.3}}, "longer than the rafter"),
            ({"section": "SHS 200x10"}, "lies below an I section"),
            ({"end_section": "IPE 300"}, "tapers; it cannot have haunches"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                expand(do(self.one, do="change", members=["m1"], change=change))

    def test_laid_over_a_jig_and_kept_with_another_section(self):
        d = Document(hall=HallJig(eaves_haunch=Haunch(length=2.0, depth=0.25)))
        deeper = do(d, do="change", members=[self.RAFTER], change={"section": "IPE 450"})
        self.assertEqual(len(expand(deeper).member(self.RAFTER).pieces), 6)
        self.assertGreater(expand(deeper).member(self.RAFTER).pieces[0].section.h, 0.45)
        off = do(deeper, do="change", members=[self.RAFTER], change={"prismatic": True})
        self.assertEqual(expand(off).member(self.RAFTER).pieces, ())
        off.hall.spacings = [6.0] * 2
        self.assertIn("prismatic", expand(off).orphans[0].said)
        own = do(off, do="change", members=["frame-2/rafter-AB-left"], change={"haunch_end": {"length": 1.5}})
        own = expand(own).member("frame-2/rafter-AB-left")
        self.assertEqual((len(own.pieces), own.haunches[1].length), (12, 1.5))
