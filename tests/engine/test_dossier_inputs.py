"""Inputs in the dossier: every one is listed under a lasting name, and a tick falls with its own alone; remarks at single sections."""

import copy
import unittest
from unittest.mock import patch

from engine.bench import portal_hall
from engine.chain import run
from engine.demo import drying_hall
from engine.document import Document, read_document
from engine.document.handover import DossierPlan, PlacedView
from engine.dossier import inputs as listing
from engine.dossier.compose import compose
from engine.dossier.inputs import ELSEWHERE, PARTS, inputs
from engine.dossier.meeting import joint_anchor, ranked_joints
from engine.dossier.values import Heading, Paragraph, Pictured, Table
from engine.dossier.views import placed
from engine.editing.apply import operate
from engine.editing.operations import ReleaseJig
from engine.structure.words import label
from publish.typeset import typeset
from publish.webpage import webpage
from tests.engine.test_dossier import BEAM, told

FULL = {"chapters": {"basis": {"level": "full"}}}
PICTURE = {"name": "0" * 16, "caption": "As found", "width": 0.5}


def listed(document):
    """Rows of all tables of inputs, by name."""
    tables = [b for b in inputs(read_document(document)) if isinstance(b, Table)]
    return {a: row for t in tables for a, row in zip(t.anchors, t.rows, strict=True)}


def section(dossier, anchor):
    """What stands in a section."""
    blocks = [b for c in dossier.chapters for b in c.blocks]
    at = next(k for k, b in enumerate(blocks) if isinstance(b, Heading) and b.anchor == anchor)
    end = next((k for k in range(at + 1, len(blocks)) if isinstance(blocks[k], Heading)), len(blocks))
    return blocks[at + 1 : end]


class Inputs(unittest.TestCase):
    def test_no_part_of_a_document_is_forgotten(self):
        self.assertEqual(set(PARTS) | ELSEWHERE, set(Document.model_fields))
        self.assertFalse(set(PARTS) & ELSEWHERE)

    def test_what_is_stated_and_what_is_proposed(self):
        document = {
            **BEAM,
            "site": {"ground_snow": 1.25, "around": {"height": 9}},
            "rules": {"deflections": {"joist": 300}},
        }
        found = listed(document)
        self.assertEqual(found["input.site.ground_snow"], ("ground snow", "1.25 kN/m²", ""))
        self.assertEqual(found["input.site.wind_speed"], ("wind speed", "24 m/s", "as proposed"))
        self.assertEqual(found["input.site.around.height"], ("around · height", "9 m", ""))
        self.assertEqual(found["input.rules.gamma_M1"], ("γ M1", "1", "as proposed"))
        self.assertEqual(found["input.rules.deflections.joist"], ("deflections · joist", "300", ""))
        # not stated: not listed
        self.assertNotIn("input.snow.neighbour", found)
        self.assertFalse([name for name in found if name.startswith("input.hall")])

    def test_items_of_lists(self):
        found = listed(BEAM)
        self.assertEqual(found["input.nodes.b"], ("b", "at 6, 0, 0"))
        self.assertEqual(found["input.members.beam"], ("beam", "start a; end b; section IPE 300"))
        self.assertEqual(found["input.supports.b"], ("b", "fixed y, z, rx"))
        [load] = [row for name, row in found.items() if name.startswith("input.member_loads")]
        self.assertEqual(load, ("1", "case Q; member beam; value 0, 0, −10"))

    def test_newtons_are_told_as_kilonewtons(self):
        document = {**copy.deepcopy(BEAM), "units": "N, m"}
        document["member_loads"][0]["value"] = [0, 0, -10000]
        self.assertEqual(listed(document), listed(BEAM))

    def test_two_loads_alike_have_two_names(self):
        document = {**BEAM, "member_loads": BEAM["member_loads"] * 2}
        self.assertEqual(len([name for name in listed(document) if name.startswith("input.member_loads")]), 2)

    def test_of_a_hall_and_of_what_is_set_out_besides(self):
        document = drying_hall().model_dump(mode="json")
        document["jigs"] = [{"kind": "truss", "name": "T1", "height_apex": 2.5}]
        found = listed(document)
        self.assertEqual(found["input.hall.spacings"], ("spacings", "7 × 6 m", "as proposed"))
        self.assertEqual(found["input.hall.eaves_haunch.length"], ("eaves haunch · length", "3 m", ""))
        self.assertEqual(found["input.jigs.T1.height_apex"], ("T1 · height apex", "2.5 m"))

    def test_a_list_without_end_says_how_many_are_left(self):
        with patch.object(listing, "MOST", 1):
            words = [b.words for b in inputs(read_document(BEAM)) if isinstance(b, Paragraph) and b.kind == "missing"]
        self.assertIn("1 further ones stand in the model that goes with this document.", words)

    def test_a_tick_falls_with_its_own_input_alone(self):
        def digests(snow):
            document = read_document({**BEAM, "site": {"ground_snow": snow}, "dossier": FULL})
            return {s.anchor: s for s in typeset(compose(run(document), document.dossier)).sections}

        one, other = digests(0.9), digests(1.1)
        fallen = {a for a in one if a.startswith("input.") and one[a].digest != other[a].digest}
        self.assertEqual(fallen, {"input.site.ground_snow"})
        self.assertNotEqual(one["inputs.site"].digest, other["inputs.site"].digest)
        self.assertEqual(one["inputs.wind"].digest, other["inputs.wind"].digest)
        row, head = one["input.site.ground_snow"], one["inputs.site"]
        self.assertTrue(row.row and not head.row)
        self.assertEqual((row.title, row.page), ("ground snow", head.page))
        self.assertGreater(row.down, head.down)
        self.assertRegex(row.number, rf"^{head.number} \(\d+\)$")

    def test_below_full_they_are_not_told(self):
        found = compose(run(read_document(BEAM)), DossierPlan())
        self.assertFalse([s for s in typeset(found).sections if s.anchor.startswith("input")])

    def test_a_row_of_the_page_bears_its_name(self):
        document = read_document({**BEAM, "dossier": FULL})
        page = webpage(compose(run(document), document.dossier)).decode()
        self.assertIn('<tr id="input.site.ground_snow">', page)


class Notes(unittest.TestCase):
    def composed(self, *notes, **more):
        document = read_document({**BEAM, "dossier": {"notes": list(notes), **more}})
        return compose(run(document), document.dossier)

    def test_they_stand_below_the_heading_of_their_section(self):
        found = self.composed({"name": "response.reactions", "remark": " For the mason. ", "pictures": [PICTURE]})
        blocks = section(found, "response.reactions")
        self.assertEqual(blocks[:2], [Paragraph("For the mason.", "remark"), Pictured("0" * 16, "As found", 0.5)])
        self.assertFalse([b for b in told(found, "open").blocks if isinstance(b, Heading) and b.anchor == "open.notes"])

    def test_at_a_check_and_a_case_where_they_are_told_by_themselves(self):
        full = {"verification": {"level": "full"}, "actions": {"level": "full"}}
        notes = [
            {"name": "case.Q", "remark": "By the client."},
            {"name": "member.beam.deflection", "remark": "Precambered."},
        ]
        found = self.composed(*notes, chapters=full)
        self.assertEqual(section(found, "case.Q")[0], Paragraph("By the client.", "remark"))
        self.assertEqual(section(found, "member.beam.deflection")[0], Paragraph("Precambered.", "remark"))

    def test_one_whose_section_is_not_told_is_not_lost(self):
        found = self.composed(
            {"name": "member.beam.deflection", "title": "Deflection", "remark": "Precambered."},
            {"name": "gone", "title": "Eaves", "pictures": [PICTURE]},
        )
        blocks = section(found, "open.notes")
        self.assertEqual(blocks[0].kind, "missing")
        self.assertEqual(
            blocks[1:],
            [
                Paragraph("Deflection: Precambered.", "remark"),
                Paragraph("Eaves: pictures", "remark"),
                Pictured("0" * 16, "As found", 0.5),
            ],
        )

    def test_a_member_with_a_note_is_proven(self):
        beams = copy.deepcopy(BEAM)
        beams["nodes"] += [{"name": "c", "at": [0, 9, 0]}, {"name": "d", "at": [6, 9, 0]}]
        beams["members"].append({"name": "light", "start": "c", "end": "d", "section": "IPE 300"})
        beams["supports"] += [{**s, "node": n} for s, n in zip(BEAM["supports"], "cd", strict=True)]
        beams["member_loads"].append({"case": "Q", "member": "light", "value": [0, 0, -1]})
        for notes, proven in (([], False), ([{"name": "member.light", "pictures": [PICTURE]}], True)):
            document = read_document({**beams, "dossier": {"notes": notes}})
            found = compose(run(document), document.dossier)
            anchors = [b.anchor for b in told(found, "verification").blocks if isinstance(b, Heading)]
            self.assertEqual("member.light" in anchors, proven)

    def test_notes_follow_what_is_released(self):
        document = portal_hall(4, 1)
        rafter = "frame-1/rafter-AB-left"
        chain = run(document)
        ranked = ranked_joints(chain.structure)
        kind = next(joints for _, joints in ranked if len(joints) > 1)
        joint = joint_anchor(chain.structure, kind[-1:])
        notes = [
            {"name": f"member.{rafter}", "title": "Rafter", "remark": "Seen."},
            {"name": joint, "title": "Joint", "remark": "Bolted."},
        ]
        plan = DossierPlan.model_validate({"notes": notes})
        released = run(operate(document, ReleaseJig(jig="hall")))
        for now, name in ((chain, rafter), (released, rafter.replace("/", " "))):
            found = compose(now, plan)
            self.assertEqual(section(found, f"member.{name}")[0], Paragraph("Seen.", "remark"))
            own = next(
                joints
                for _, joints in ranked_joints(now.structure)
                if joint.replace("/", " ") in [joint_anchor(now.structure, [j]).replace("/", " ") for j in joints]
            )
            self.assertEqual(section(found, joint_anchor(now.structure, own))[0], Paragraph("Bolted.", "remark"))
            view = PlacedView(name="x", plane="whole", shows="restraints", member=rafter)
            self.assertIn(label(now.structure.member(name)), placed(now, view).words)

    def test_pictures_of_chapters_and_of_notes(self):
        other = {**PICTURE, "name": "f" * 16}
        plan = DossierPlan.model_validate(
            {"chapters": {"basis": {"pictures": [PICTURE]}}, "notes": [{"name": "x", "pictures": [other]}]}
        )
        self.assertEqual(plan.pictures, {"0" * 16, "f" * 16})
