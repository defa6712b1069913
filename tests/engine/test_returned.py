"""Models that come back: what differs is found by where steel lies, whatever joints do to its ends."""

import unittest
import uuid

import ifcopenshell
import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from detailing.changes import detailed
from engine.chain import prepare, run
from engine.demo import drying_hall, log_store, planer_shed, workshop
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import Gable, HallJig
from engine.editing.apply import operate
from engine.editing.operations import ChangeMembers, MemberChange, RemoveMembers
from engine.errors import ModelError
from engine.expand import expand
from engine.returned.axes import FIT, sent_axes
from engine.returned.compare import compare
from engine.returned.model import ReturnedHaunch, ReturnedMember, ReturnedModel, alike
from engine.returned.taking import effect, take
from publish.ifc.identity import identity, members_by_identity
from publish.ifc.out import ifc
from publish.ifc.returned import returned

HALL = Document(hall=HallJig(spacings=[6.0] * 4, eaves_height=6.0))


class Sent:
    """What came back of a document, to be changed: members by name, axes in metres."""

    def __init__(self, document=HALL):
        self.document = document
        self.structure = expand(document)
        self.members = {}
        for m, (start, end) in zip(self.structure.members, sent_axes(self.structure)[0].tolist(), strict=True):
            self.members[m.name] = ReturnedMember(
                identity=m.name,
                called=m.name,
                section=m.section.name,
                material=m.material.name,
                role=m.role,
                start=tuple(start),
                end=tuple(end),
                roll=float(np.degrees(m.roll)),
            )

    def set(self, name, **values):
        self.members[name] = self.members[name].model_copy(update=values)

    def shift(self, name, step, ends=("start", "end")):
        self.set(name, **{e: tuple(np.add(getattr(self.members[name], e), step)) for e in ends})

    def reach(self, name, end, by):
        """Let it reach further along its axis at an end, in metres."""
        m = self.members[name]
        way = np.subtract(m.end, m.start) / np.linalg.norm(np.subtract(m.end, m.start))
        self.shift(name, way * (by if end == "end" else -by), (end,))

    def at(self, name, place):
        """The end of a member that is nearest to a place."""
        m = self.members[name]
        return min(("start", "end"), key=lambda e: np.linalg.norm(np.subtract(getattr(m, e), place)))

    def new(self, start, end, section="IPE 200", identity="theirs"):
        self.members[identity] = ReturnedMember(
            identity=identity, called="Trimmer", section=section, material="S355", role="member", start=start, end=end, roll=0.0
        )  # fmt: skip

    @property
    def model(self):
        return ReturnedModel(revision=1, members=list(self.members.values()))

    def found(self, stands=None):
        now = expand(stands) if stands else self.structure
        names = {*self.structure.index, *now.index}
        return compare(self.model, lambda i: i if i in names else None, self.structure, now)

    def keys(self, stands=None):
        return {d.key: d for d in self.found(stands).differences}


class Shapes(unittest.TestCase):
    """Haunches and plates, through a file."""

    def came(self, document, change):
        """The differences of a document that was sent as a file, which somebody changed, and the model that came."""
        loaded, space = prepare(document), uuid.uuid4()
        file = ifcopenshell.file.from_string(ifc(loaded, document.name, space, "revision 1").decode())
        change(file)
        model = returned(file.to_string().encode())
        names = members_by_identity(space, loaded.structure.index)
        return compare(model, names.get, loaded.structure, loaded.structure).differences, model

    def product(self, file, name):
        return next(p for kind in ("IfcColumn", "IfcBeam", "IfcMember") for p in file.by_type(kind) if p.Name == name)

    def longer(self, file, name, by, deeper=0.0):
        """Its first haunch reaches further along the member, and lower."""
        solid = self.product(file, name).Representation.Representations[0].Items[1]
        foot, (x, y), (a, b), _ = (p.Coordinates for p in solid.SweptArea.OuterCurve.Points)
        corners = (foot, (x + by, y), (a, b - deeper), foot)
        outline = file.create_entity("IfcPolyline", [file.create_entity("IfcCartesianPoint", c) for c in corners])
        solid.SweptArea = file.create_entity("IfcArbitraryClosedProfileDef", "AREA", "haunch", outline)

    HAUNCHED = Document(
        hall=HallJig(spacings=[6.0] * 2, eaves_height=6.0, eaves_haunch=Haunch(length=2.4, depth=0.3), apex_haunch=Haunch(length=1.2, depth=0.25))
    )  # fmt: skip
    RAFTER = "frame-1/rafter-AB-left"

    def test_a_haunch_that_is_longer_and_deeper(self):
        found, model = self.came(self.HAUNCHED, lambda f: self.longer(f, self.RAFTER, 0.3, 0.04))
        [d] = found
        self.assertEqual(
            (d.kind, d.was, d.now, d.takes),
            ("haunch", "2.40 m long, 300 mm deep", "2.70 m long, 340 mm deep", True),
        )
        m = expand(take(self.HAUNCHED, found, model)).member(self.RAFTER)
        self.assertEqual([(h.length, h.depth) for h in m.haunches], [(2.7, 0.34), (1.2, 0.25)])
        other = expand(take(self.HAUNCHED, found, model)).member("frame-2/rafter-AB-left")
        self.assertEqual([(h.length, h.depth) for h in other.haunches], [(2.4, 0.3), (1.2, 0.25)])

    def test_haunches_gone_at_both_ends_and_one_at_a_time(self):
        def bare(f):
            shape = self.product(f, self.RAFTER).Representation.Representations[0]
            shape.Items = shape.Items[:1]

        found, model = self.came(self.HAUNCHED, bare)
        self.assertEqual([(d.end_number, d.now) for d in found], [(0, "none"), (1, "none")])
        for taken, left in ((found, [False, False]), (found[:1], [False, True]), (found[1:], [True, False])):
            m = expand(take(self.HAUNCHED, taken, model)).member(self.RAFTER)
            self.assertEqual([h is not None for h in m.haunches], left)

    def test_a_member_drawn_the_other_way_round_keeps_its_haunches(self):
        sent = Sent(self.HAUNCHED)
        for name, m in sent.members.items():
            haunches = sent.structure.member(name).haunches
            drawn = [
                ReturnedHaunch(at_start=end == 1, length=h.length, depth=h.depth) for end, h in enumerate(haunches) if h
            ]
            sent.set(name, start=m.end, end=m.start, haunches=drawn)
        self.assertEqual([d for d in sent.found().differences if d.kind == "haunch"], [])

    def test_a_file_without_any_haunch_says_nothing_of_them(self):
        self.assertEqual(Sent(self.HAUNCHED).found().differences, [])

    def test_a_haunch_that_is_none(self):
        found, _ = self.came(self.HAUNCHED, lambda f: self.longer(f, self.RAFTER, 0.0, 3.0))
        [d] = found
        self.assertFalse(d.takes)
        self.assertIn("no haunch that is known here", d.now)

    PLATES = read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}, {"name": "c", "at": [16, 0, 0]}],
            "built_sections": [{"name": "PL 600", "shape": "welded I", "h": 600, "b": 220, "tw": 10, "tf": 18, "b2": 200}],
            "members": [
                {"name": "one", "start": "a", "end": "b", "section": "PL 600"},
                {"name": "two", "start": "b", "end": "c", "section": "PL 600"},
            ],
            "supports": [{"node": n, "fixed": ["x", "y", "z", "rx"]} for n in "abc"],
        }
    )  # fmt: skip

    def thicker(self, file, name, called="PL 600"):
        """One member alone of a profile whose lower flange is thicker."""
        old = next(p for p in file.by_type("IfcAsymmetricIShapeProfileDef"))
        new = file.create_entity("IfcAsymmetricIShapeProfileDef", *[old[k] for k in range(len(old))])
        new.ProfileName, new.BottomFlangeThickness = called, 0.025
        product = self.product(file, name)
        product.Representation.Representations[0].Items[0].SweptArea = new
        for relation in product.HasAssociations:
            relation.RelatedObjects = [o for o in relation.RelatedObjects if o != product]

    def test_plates_under_the_same_name(self):
        for called in ("PL 600", "PL heavy"):
            with self.subTest(called):
                found, model = self.came(self.PLATES, lambda f, c=called: self.thicker(f, "two", c))
                [d] = [d for d in found if d.kind == "section"]
                name = "PL 600 (2)" if called == "PL 600" else "PL heavy"
                self.assertEqual((d.members, d.was, d.now), (("two",), "PL 600", name))
                after = expand(take(self.PLATES, [d], model))
                self.assertEqual(after.member("one").section.tf2, 0.018)
                s = after.member("two").section
                self.assertEqual((s.h, s.b, s.tw, s.tf, s.b2, s.tf2), (0.6, 0.22, 0.01, 0.018, 0.2, 0.025))

    def test_another_name_for_the_same_plates_is_no_difference(self):
        def renamed(f):
            for p in f.by_type("IfcAsymmetricIShapeProfileDef"):
                p.ProfileName = "theirs"

        self.assertEqual(self.came(self.PLATES, renamed)[0], [])


class Nothing(unittest.TestCase):
    def test_a_model_that_comes_back_as_it_was_sent(self):
        for make in (drying_hall, planer_shed, log_store, workshop):
            with self.subTest(make.__name__):
                document, space = make(), uuid.uuid4()
                loaded = prepare(document)
                model = returned(ifc(loaded, document.name, space, "revision 12"))
                names = members_by_identity(space, loaded.structure.index)
                found = compare(model, names.get, loaded.structure, loaded.structure)
                self.assertEqual((found.differences, found.fitted, found.short, model.revision), ([], 0, 0, 12))
                self.assertEqual(len(model.members), len(loaded.structure.members))

    def test_a_file_by_the_names_that_members_bore_is_known(self):
        # before identities lasted through a release they were those of the names as they stood
        space, names = uuid.uuid4(), ["frame-1/column-A", "brace"]
        known = members_by_identity(space, names)
        for kind in ("IfcColumn", "IfcBeam", "IfcMember"):
            self.assertEqual(known[identity(space, kind, "frame-1/column-A")], "frame-1/column-A")
            self.assertEqual(known[identity(space, kind, "frame-1 column-A")], "frame-1/column-A")
            self.assertEqual(known[identity(space, kind, "brace")], "brace")
        # one that is called so already keeps its name to itself
        both = members_by_identity(space, [*names, "frame-1 column-A"])
        self.assertEqual(both[identity(space, "IfcBeam", "frame-1 column-A")], "frame-1 column-A")
        self.assertEqual(both[identity(space, "IfcBeam", "frame-1/column-A")], "frame-1/column-A")

    def test_members_turned_and_beside_their_nodes_come_back_as_they_were_sent(self):
        ends = {"a": [0, 0, 0], "b": [4, 1, 2], "c": [4, 1, -3], "d": [-2, 3, 0]}
        offset = {"y": 0.11, "z": -0.07}
        document = read_document(
            {
                "nodes": [{"name": n, "at": at} for n, at in ends.items()],
                "members": [
                    {"name": "one", "start": "a", "end": "b", "section": "UPN 200", "roll": 30, "offset": offset},
                    {"name": "two", "start": "c", "end": "b", "section": "IPE 300", "roll": -70, "offset": offset},
                    {
                        "name": "three",
                        "start": "a",
                        "end": "d",
                        "section": "L 100x10",
                        "roll": 15,
                        "align": "top flange",
                    },
                ],
            }
        )
        loaded, space = prepare(document), uuid.uuid4()
        model = returned(ifc(loaded, "Turned", space, "revision 1"))
        names = members_by_identity(space, loaded.structure.index)
        self.assertEqual(compare(model, names.get, loaded.structure, loaded.structure).differences, [])

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 2**32))
    def test_ends_cut_back_or_lengthened_for_joints_are_no_differences(self, seed):
        rng = np.random.default_rng(seed)
        sent = Sent()
        ends = 0
        for m in sent.structure.members:
            for e, node in (("start", m.nodes[0]), ("end", m.nodes[-1])):
                foot = m.role in ("column", "gable post") and bool(sent.structure.fixed[node].any())
                # a base plate and its grout above a foundation; elsewhere a joint either way
                by = -rng.uniform(0.003, 0.059) if foot else rng.uniform(-0.9, 0.9) * FIT
                sent.reach(m.name, e, by)
                ends += abs(by) > 0.002
        found = sent.found()
        self.assertEqual(found.differences, [])
        self.assertEqual(found.fitted, ends)

    def test_ends_that_came_the_other_way_round(self):
        sent = Sent()
        for name, m in list(sent.members.items()):
            sent.set(name, start=m.end, end=m.start)
        self.assertEqual(sent.found().differences, [])

    def test_a_model_of_somebody_else(self):
        sent = Sent()
        sent.members = {name: m.model_copy(update={"identity": f"other {name}"}) for name, m in sent.members.items()}
        with self.assertRaisesRegex(ModelError, "identity of this project"):
            sent.found()


class Moved(unittest.TestCase):
    def only(self, sent, *keys):
        found = sent.keys()
        self.assertEqual(set(found), set(keys), {k: d.now for k, d in found.items()})
        return [found[key] for key in keys]

    def test_a_foundation_that_lies_lower(self):
        # at the foot of the end frame a brace ends too, and stays
        for name, others in (("frame-3/column-A", ()), ("frame-1/column-B", ("placed:bay-1/wall-brace-B-up",))):
            sent = Sent()
            sent.reach(name, sent.at(name, (0, 0, -99)), 0.15)
            found = self.only(sent, f"moved:{name.replace('column', 'base')}", *others)
            self.assertEqual((found[0].step, found[0].now), ((0.0, 0.0, -0.15), "150 mm lower"))
            self.assertRegex(found[0].what, r"^Foot of Column \d·[AB]$")
            for set_off in found[1:]:
                self.assertEqual((set_off.kind, set_off.takes), ("set off", False))
                self.assertIn("150 mm", set_off.now)
            lower = take(HALL, found[:1], sent.model)
            node = expand(lower)
            self.assertAlmostEqual(node.xyz[node.nodes.index(found[0].node)][2], -0.15)
            # taken, it is no difference any more
            self.assertEqual([d.key for d in sent.found(lower).differences if d.takes], [])

    def test_a_base_plate_is_none(self):
        sent = Sent()
        sent.reach("frame-3/column-A", sent.at("frame-3/column-A", (0, 0, -99)), -0.04)
        self.assertEqual(sent.found().differences, [])
        sent.reach("frame-3/column-A", sent.at("frame-3/column-A", (0, 0, -99)), -0.04)
        # eight centimetres are no plate
        [d] = self.only(sent, "moved:frame-3/base-A")
        self.assertEqual(d.now, "80 mm higher")

    def test_a_ridge_that_lies_higher_found_though_every_end_is_cut_back(self):
        sent = Sent()
        s = sent.structure
        ridge = s.nodes.index("frame-3/ridge-AB")
        meeting = [s.members[i].name for i in s.meeting[ridge]]
        self.assertGreater(len(meeting), 3)
        for name in meeting:
            e = sent.at(name, s.xyz[ridge])
            sent.shift(name, (0, 0, 0.25), (e,))
            sent.reach(name, e, -0.02)
        [d] = self.only(sent, "moved:frame-3/ridge-AB")
        np.testing.assert_allclose(d.step, (0, 0, 0.25), atol=2e-3)
        self.assertEqual(sorted(d.members), sorted(meeting))

    def test_braces_one_panel_on(self):
        sent = Sent()
        for way in ("up", "down"):
            sent.shift(f"bay-1/wall-brace-A-{way}", (0, 6, 0))
        up, down = self.only(sent, "placed:bay-1/wall-brace-A-up", "placed:bay-1/wall-brace-A-down")
        self.assertEqual((up.start, up.end), ("frame-2/base-A", "frame-3/eaves-A"))
        self.assertEqual(list(alike([up, down]).values()), [[up, down]])
        self.assertEqual(up.shared, "by Y +6000 mm")
        after = take(HALL, [up, down], sent.model)
        s = expand(after)
        moved = s.member("bay-1 wall-brace-A-up")
        self.assertEqual([s.nodes[n] for n in (moved.nodes[0], moved.nodes[-1])], ["frame-2/base-A", "frame-3/eaves-A"])
        before = sent.structure.member("bay-1/wall-brace-A-up")
        for key in ("section", "material", "behaviour", "role", "release_start"):
            self.assertEqual(getattr(moved, key), getattr(before, key))
        self.assertNotIn("bay-1/wall-brace-A-up", s.index)
        # the model that came says so too: nothing is left to take, and nothing is told as lost
        found = sent.found(after)
        self.assertEqual((found.differences, found.already), ([], 2))

    def test_a_post_onto_the_line_of_another_member(self):
        ends = HallJig(spacings=[6.0] * 4, eaves_height=6.0, front=Gable(kind="posts", posts=3))
        document = Document(hall=ends)
        name = "front/post-2"
        sent = Sent(document)
        sent.shift(name, (0.7, 0, 0))
        e = sent.at(name, (0, 0, 99))
        foot, d = self.only(
            sent, f"moved:{sent.structure.nodes[sent.structure.member(name).nodes[0]]}", f"placed:{name}"
        )
        self.assertEqual(foot.now, "by X +700 mm")
        head = d.start if e == "start" else d.end
        self.assertRegex(d.now, r"m along Rafter")
        # on the rafter's line, not where the post's own head would be
        rafter = sent.structure
        member = rafter.member(f"frame-1/rafter-AB-{'left' if head[0] < ends.bays[0].span / 2 else 'right'}")
        a, b = rafter.xyz[member.nodes[0]], rafter.xyz[member.nodes[-1]]
        self.assertLess(np.linalg.norm(np.cross(np.subtract(head, a), (b - a) / np.linalg.norm(b - a))), 1e-3)

    def test_an_eccentricity_is_taken_as_an_offset(self):
        name = "bay-1/wall-brace-A-up"
        sent = Sent()
        sent.shift(name, (0.12, 0, 0))
        [d] = self.only(sent, f"placed:{name}")
        self.assertEqual((d.kind, d.takes), ("set off", True))
        self.assertRegex(d.now, r"lies 120 mm beside its nodes: by [+−]120 mm along its y, [+−]0 mm along its z")
        after = expand(take(HALL, [d], sent.model))
        axes, aside = sent_axes(after)
        np.testing.assert_allclose(aside[after.index[name]], (0.12, 0, 0), atol=1e-4)
        self.assertEqual(compare(sent.model, lambda i: i, after, after).differences, [])
        # beside one that was sent with an eccentricity already
        again = Sent(take(HALL, [d], sent.model))
        again.shift(name, (-0.2, 0, 0))
        [d] = self.only(again, f"placed:{name}")
        after = expand(take(again.document, [d], again.model))
        np.testing.assert_allclose(sent_axes(after)[1][after.index[name]], (-0.08, 0, 0), atol=1e-4)

    def test_an_eccentricity_of_one_end_is_told_and_not_taken(self):
        sent = Sent()
        name = "bay-1/wall-brace-A-up"
        sent.shift(name, (0.12, 0, 0), ("start",))
        [d] = self.only(sent, f"placed:{name}")
        self.assertEqual((d.kind, d.takes, d.offset), ("set off", False, None))
        self.assertIn("up to 120 mm", d.now)
        self.assertIn("the model does not bear", d.now)


class MadeOf(unittest.TestCase):
    def test_sections_alike_change_the_hall_itself(self):
        sent = Sent()
        columns = [name for name, m in sent.members.items() if m.role == "column"]
        for name in columns:
            sent.set(name, section="HEB 240")
        found = sent.found().differences
        self.assertEqual(sorted(d.key for d in found), sorted(f"section:{name}" for name in columns))
        self.assertEqual(len(alike(found)), 1)
        after = take(HALL, found, sent.model)
        self.assertEqual((after.hall.sections.columns, after.edits), ("HEB 240", []))
        one = take(HALL, found[:1], sent.model)
        self.assertEqual([(e.member, e.section) for e in one.edits], [(found[0].members[0], "HEB 240")])
        self.assertEqual(len(sent.found(one).differences), len(columns) - 1)

    def test_grades(self):
        sent = Sent()
        sent.set("frame-2/column-A", material="S275")
        sent.set("frame-3/column-A", material="HX 9")
        found = sent.keys()
        self.assertEqual(set(found), {"grade:frame-2/column-A", "grade:frame-3/column-A"})
        self.assertTrue(found["grade:frame-2/column-A"].takes)
        # one that nobody here knows cannot be taken
        self.assertFalse(found["grade:frame-3/column-A"].takes)
        after = expand(take(HALL, [found["grade:frame-2/column-A"]], sent.model))
        self.assertEqual(after.member("frame-2/column-A").material.name, "S275")

    def test_turned(self):
        sent = Sent()
        before = float(np.degrees(sent.structure.member("frame-2/column-A").roll))
        sent.set("frame-2/column-A", roll=before + 90)
        # half a turn of a doubly symmetric section is none
        sent.set("frame-3/column-A", roll=before + 180)
        [d] = sent.found().differences
        self.assertEqual((d.key, d.kind), ("turned:frame-2/column-A", "turned"))
        after = expand(take(HALL, [d], sent.model))
        self.assertAlmostEqual(np.cos(2 * (after.member("frame-2/column-A").roll - np.radians(before + 90))), 1.0)
        self.assertEqual(sent.found(take(HALL, [d], sent.model)).differences, [])

    def test_half_a_turn_of_a_channel_is_one(self):
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [4, 0, 0]}],
                "members": [{"name": "m", "start": "a", "end": "b", "section": "UPN 200"}],
            }
        )
        sent = Sent(document)
        sent.set("m", roll=180.0)
        self.assertEqual([d.kind for d in sent.found().differences], ["turned"])

    def test_a_section_by_its_properties_comes_along(self):
        sent = Sent()
        sent.set("frame-2/column-A", section="X 1")
        own = {"name": "X 1", "A": 0.01, "Iy": 2e-4, "Iz": 5e-5, "It": 1e-6}
        model = ReturnedModel.model_validate({**sent.model.model_dump(), "sections": [own]})
        found = sent.found().differences
        after = take(HALL, found, model)
        self.assertEqual([s.name for s in after.sections], ["X 1"])
        # analysed, and not verified: the verdict says so
        chain = run(after)
        verdict = chain.verification.verdicts[chain.structure.index["frame-2/column-A"]]
        self.assertIn("known by its stiffness alone", verdict.not_covered[0])
        self.assertNotEqual(verdict.status, "passes")


class Pieces(unittest.TestCase):
    def test_a_member_in_two_pieces(self):
        for own in (True, False):
            sent = Sent()
            name = "frame-2/rafter-AB-left"
            m = sent.members[name]
            middle = tuple(np.add(m.start, m.end) / 2)
            if own:
                sent.set(name, end=middle)
            else:
                # both pieces are new to the file
                del sent.members[name]
                sent.new(m.start, middle, m.section, "first")
            sent.new(middle, m.end, m.section, "second")
            [d] = sent.found().differences
            self.assertEqual((d.key, d.takes), (f"split:{name}", False))
            self.assertIn("2 pieces", d.now)

    def test_pieces_of_another_section(self):
        sent = Sent()
        name = "frame-2/rafter-AB-left"
        m = sent.members[name]
        middle = tuple(np.add(m.start, m.end) / 2)
        sent.set(name, end=middle, section="IPE 600")
        sent.new(middle, m.end, "IPE 600")
        found = sent.keys()
        self.assertTrue(found[f"section:{name}"].takes)
        sent.new(middle, m.end, "IPE 550")
        found = sent.keys()
        # of different ones nothing can be taken, and it is said
        self.assertEqual(set(found), {f"split:{name}"})
        self.assertIn("cut the member here first", found[f"split:{name}"].now)

    def test_two_members_in_one_piece(self):
        document = read_document(
            {
                "nodes": [{"name": n, "at": [x, 0, 0]} for n, x in (("a", 0), ("b", 4), ("c", 9))],
                "members": [
                    {"name": "one", "start": "a", "end": "b", "section": "IPE 200"},
                    {"name": "two", "start": "b", "end": "c", "section": "IPE 200"},
                ],
            }
        )
        sent = Sent(document)
        del sent.members["two"]
        sent.set("one", end=(9.0, 0.0, 0.0))
        [d] = sent.found().differences
        self.assertEqual((d.key, d.kind, d.takes), ("joined:two", "joined", False))
        # a metre short of it the other one is missing, and the first reaches too far
        sent.set("one", end=(8.0, 0.0, 0.0))
        self.assertIn("removed:two", sent.keys())

    def test_added_and_removed(self):
        sent = Sent()
        s = sent.structure
        del sent.members["bay-1/wall-brace-A-up"]
        # from a node to the middle of a column, 20 mm off both
        a = s.xyz[s.nodes.index("frame-3/base-A")]
        start, end = a + (0, 0.02, 0), a + (0, 5.98, 3.0)
        sent.new(tuple(start), tuple(end))
        sent.new((1, 1, 1), (1, 1, 1.3), identity="stiffener")
        found = sent.found()
        self.assertEqual(found.short, 1)
        by = {d.kind: d for d in found.differences}
        self.assertEqual(set(by), {"added", "removed"})
        self.assertEqual(by["added"].start, "frame-3/base-A")
        np.testing.assert_allclose(by["added"].end, a + (0, 6.0, 3.0), atol=1e-6)
        after = expand(take(HALL, found.differences, sent.model))
        self.assertNotIn("bay-1/wall-brace-A-up", after.index)
        new = after.members[-1]
        self.assertEqual((new.section.name, new.release_start), ("IPE 200", frozenset({"ry", "rz"})))
        self.assertEqual(new.material.name, "S355")
        # the grade that the file says, where it says one
        sent.set("theirs", material="S275")
        graded = expand(take(HALL, sent.found().differences, sent.model))
        self.assertEqual(graded.members[-1].material.name, "S275")
        sent.set("theirs", material="")
        self.assertEqual(expand(take(HALL, sent.found().differences, sent.model)).members[-1].material.name, "S355")
        sent.set("theirs", material="S355")
        # it meets the column that it ends on
        self.assertIn(new.nodes[-1], after.member("frame-4/column-A").nodes)
        again = sent.found(take(HALL, found.differences, sent.model))
        self.assertEqual(([d.key for d in again.differences], again.already), ([], 2))

    def test_a_part_of_the_model_removes_nothing(self):
        sent = Sent()
        rest = [name for name in sent.members if not name.startswith(("frame-3/", "frame-4/"))]
        for name in rest:
            del sent.members[name]
        sent.set("frame-3/column-A", section="HEB 240")
        found = sent.found().differences
        self.assertEqual([d.key for d in found if d.takes], ["section:frame-3/column-A"])
        gone = [d for d in found if d.kind == "removed"]
        self.assertEqual(len(gone), len(rest))
        self.assertIn("a part of the model alone", gone[0].now)

    def test_links_that_are_no_steel_are_not_missed(self):
        document = read_document(
            {
                "nodes": [{"name": n, "at": [x, 0, 0]} for n, x in (("a", 0), ("b", 4), ("c", 4.2))],
                "members": [
                    {"name": "beam", "start": "a", "end": "b", "section": "IPE 200"},
                    {"name": "link", "start": "b", "end": "c", "section": "IPE 200", "behaviour": "rigid link"},
                ],
            }
        )
        sent = Sent(document)
        del sent.members["link"]
        self.assertEqual(sent.found().differences, [])

    def test_shapes_that_are_not_read_are_not_called_removed(self):
        sent = Sent()
        del sent.members["frame-2/column-A"]
        model = sent.model.model_copy(update={"unread": ["frame-2/column-A"]})
        found = compare(model, lambda i: i if i in sent.structure.index else None, sent.structure, sent.structure)
        self.assertEqual(found.differences, [])


class Meanwhile(unittest.TestCase):
    def changed(self, **values):
        return operate(HALL, ChangeMembers(members=["frame-2/column-A"], change=MemberChange(**values)))

    def test_what_was_changed_here_alone_is_no_difference(self):
        sent = Sent()
        self.assertEqual(sent.found(self.changed(section="HEB 300")).differences, [])
        gone = operate(HALL, RemoveMembers(members=["frame-2/column-A"]))
        self.assertEqual(sent.found(gone).differences, [])

    def test_what_was_changed_in_both_places_says_so(self):
        sent = Sent()
        sent.set("frame-2/column-A", section="HEB 240")
        was = sent.structure.member("frame-2/column-A").section.name
        [d] = sent.found(self.changed(section="HEB 300")).differences
        self.assertEqual((d.was, d.now, d.meanwhile), ("HEB 300", "HEB 240", was))
        # the same change here: nothing is left
        found = sent.found(self.changed(section="HEB 240"))
        self.assertEqual((found.differences, found.already), ([], 1))

    def test_what_is_gone_here_cannot_be_taken(self):
        sent = Sent()
        sent.set("frame-2/column-A", section="HEB 240")
        [d] = sent.found(operate(HALL, RemoveMembers(members=["frame-2/column-A"]))).differences
        self.assertFalse(d.takes)
        self.assertIn("gone here since", d.now)


class Effects(unittest.TestCase):
    def test_what_would_fall_is_said(self):
        document = planer_shed()
        sent = Sent(document)
        before = effect(document)
        self.assertEqual((before.failing, before.problem), (0, ""))
        weak = [n for n, m in sent.members.items() if m.role == "column"]
        for name in weak:
            sent.set(name, section="IPE 220")
        worse = effect(take(document, sent.found().differences, sent.model))
        self.assertGreater(worse.failing, 0)
        self.assertGreater(worse.worst, 1.0)
        self.assertLess(worse.tonnage, before.tonnage)

    def test_what_does_not_stand_is_said(self):
        document = read_document(
            {
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 0, 4]}],
                "members": [{"name": "post", "start": "a", "end": "b", "section": "HEA 200", "role": "column"}],
                "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
                "cases": [{"name": "P", "nature": "permanent"}],
                "node_loads": [{"case": "P", "node": "b", "force": [0, 0, -9]}],
            }
        )
        sent = Sent(document)
        self.assertEqual(effect(document).problem, "")
        # a strut in the air, hinged at both ends
        sent.new((5, 0, 1), (5, 0, 3))
        found = sent.found().differences
        self.assertIn("where nothing is", found[0].now)
        self.assertNotEqual(effect(take(document, found, sent.model)).problem, "")


class DetailingOffice(unittest.TestCase):
    """The stand-in's changes, each found again by where the steel lies."""

    def test_all_that_it_does_is_found(self):
        document, space = planer_shed(), uuid.uuid4()
        loaded = prepare(document)
        s = loaded.structure
        text, done = detailed(ifc(loaded, document.name, space, "revision 3").decode())
        self.assertEqual(len(done), 6)
        model = returned(text.encode())
        names = members_by_identity(space, s.index)
        found = compare(model, names.get, s, s)
        kinds = {kind: [d for d in found.differences if d.kind == kind] for kind in ("section", "moved", "placed", "split", "set off")}  # fmt: skip
        self.assertEqual(sum(map(len, kinds.values())), len(found.differences))
        columns = [m.name for m in s.members if m.role == "column"]
        self.assertEqual(sorted(n for d in kinds["section"] for n in d.members), sorted(columns))
        self.assertEqual({d.now for d in kinds["section"]}, {"IPE 500"})
        self.assertEqual([d.now for d in kinds["moved"]], ["150 mm lower"])
        self.assertEqual(len(kinds["placed"]), 2)
        self.assertEqual(len(kinds["split"]), 1)
        beams = [m for m in s.members if m.role in ("rafter", "eaves beam", "ridge beam")]
        self.assertEqual(found.fitted, 2 * len(beams))
        self.assertAlmostEqual(found.farthest, 0.012, places=6)
        self.assertEqual(model.left_out, ["Parts of joints: 12 plates, 12 groups of bolts."])
        self.assertEqual(model.revision, 3)
