"""Haunches as a choice beside the section, and groups that are split: what is found, what it weighs, and what cannot be."""

import unittest

from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.byhand import MemberEdit
from engine.document.jigs import HallJig, RoofBay
from engine.document.rules import Inside, WindOptions
from engine.document.sizing import GroupPlan, SizingPlan
from engine.editing.apply import operate
from engine.editing.operations import HaunchSize, Resize
from engine.errors import ModelError
from engine.expand import expand
from engine.sizing.candidates import candidates_of
from engine.sizing.groups import groups_of, with_choices
from engine.sizing.haunches import MOST, haunches_of
from engine.sizing.size import size

KEPT = {name: GroupPlan(locked=True) for name in ("Bracing", "Eaves beams", "Ridge beam", "Columns")}


def shed(plan=None, jig=None):
    """Three frames of which rafters alone may be chosen, with haunches of 1.5 × 0.25 m at the eaves."""
    values = {
        "bays": [RoofBay(span=15.0, pitch=8.0)],
        "eaves_height": 5.0,
        "spacings": [5.0] * 2,
        "eaves_haunch": Haunch(length=1.5, depth=0.25),
    }
    return Document(
        hall=HallJig(**values | (jig or {})),
        wind=WindOptions(inside=Inside(kind="own", values=[0.2])),
        sizing=SizingPlan(groups={**KEPT, "Rafters": GroupPlan(**(plan or {}))}),
    )


def rafters(document):
    structure = expand(document)
    return structure, next(g for g in groups_of(document, structure) if g.name == "Rafters")


class Found(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.sizes = [(1.5, 0.25), (3.0, 0.25), (3.0, 0.33)]
        cls.alone = {
            (length, depth): size(shed(jig={"eaves_haunch": Haunch(length=length, depth=depth)}))
            for length, depth in [*cls.sizes, (1.5, 0.33)]
        }
        cls.document = shed({"haunch_lengths": [1.5, 3.0], "haunch_depths": [0.25, 0.33]})
        cls.found = size(cls.document)

    def test_no_haunch_sized_by_itself_weighs_less(self):
        least = min(one.after[0] for one in self.alone.values() if one.passes)
        self.assertTrue(self.found.passes)
        self.assertLessEqual(self.found.after[0], least * (1 + 1e-9))
        # and it is worth having been asked: they differ
        self.assertGreater(max(one.after[0] for one in self.alone.values()), least * 1.01)

    def test_what_was_found_stands_once_it_is_taken(self):
        structure = expand(self.document)
        choices = self.found.choices
        made = with_choices(self.document, structure, groups_of(self.document, structure), choices)
        chain = run(made)
        self.assertTrue(chain.verification.whole.passes)
        self.assertAlmostEqual(chain.tonnage(), self.found.after[0], places=6)
        length, depth = choices["Rafters"].haunch or (1.5, 0.25)
        self.assertEqual((made.hall.eaves_haunch.length, made.hall.eaves_haunch.depth), (length, depth))
        self.assertEqual(made.edits, [])
        # each set of haunches was looked at
        looked = {r.why for r in self.found.rounds if r.step == "haunches"}
        self.assertEqual(len(looked), 3)

    def test_masses_of_candidates_hold_their_haunches(self):
        document = shed()
        structure, group = rafters(document)
        for haunch in (None, (3.0, 0.33)):
            may = candidates_of(document, structure, group, haunch)
            for k in (0, len(may.choices) // 2, len(may.choices) - 1):
                made = expand(with_choices(document, structure, [group], {group.name: may.choices[k]}))
                mass = sum(made.mass(made.members[i]) for i in group.members)
                self.assertAlmostEqual(float(may.mass[k]), mass, delta=1e-9 * mass)


class Allowed(unittest.TestCase):
    def test_only_what_a_haunch_can_be_cut_from(self):
        structure, group = rafters(shed())
        may = candidates_of(shed(), structure, group, (2.0, 0.45))
        # IPE 500: 500 − 16; IPE 450: 450 − 14.6
        self.assertEqual(min(s.h for s in may.sections), 0.5)
        plates = shed(jig={"eaves_haunch": Haunch(length=1.5, depth=0.25, made_of="plates")})
        structure, group = rafters(plates)
        self.assertLess(min(s.h for s in candidates_of(plates, structure, group, (2.0, 0.45)).sections), 0.3)

    def test_what_cannot_be_says_why(self):
        many = {"haunch_lengths": [1.0, 1.2, 1.4, 1.6, 1.8], "haunch_depths": [0.2, 0.25, 0.3, 0.31, 0.32, 0.33]}
        for document, words, place in (
            (shed({"haunch_depths": [0.3]}, {"eaves_haunch": None}), "“Rafters” has no haunch", "sizing.groups.Rafters.haunch_depths"),
            (shed(many), f"30 sets of haunches, more than {MOST}", "sizing.groups"),
        ):  # fmt: skip
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as refused:
                structure = expand(document)
                haunches_of(structure, groups_of(document, structure))
            self.assertEqual(refused.exception.place, place)
        structure, group = rafters(shed())
        with self.assertRaisesRegex(ModelError, "deep enough to cut a haunch of 0.9 m") as refused:
            candidates_of(shed(), structure, group, (2.0, 0.9))
        self.assertEqual(refused.exception.place, "sizing.groups.Rafters.haunch_depths")

    def test_what_cannot_be_set_out_is_told_and_the_rest_is_sized(self):
        found = size(shed({"haunch_lengths": [9.0], "only": ["IPE 330", "IPE 360", "IPE 400"]}))
        self.assertTrue(any("9 × 0.25 m cannot be set out" in o for o in found.obstacles), found.obstacles)
        self.assertIsNone(found.choices["Rafters"].haunch)
        self.assertTrue(found.passes)


class Resized(unittest.TestCase):
    def resized(self, document, names):
        return operate(document, Resize(members=names, section="IPE 400", haunch=HaunchSize(length=2.0, depth=0.3)))

    def test_all_of_a_hall_change_the_hall(self):
        document = shed(jig={"apex_haunch": Haunch(length=1.5, depth=0.25)})
        structure, group = rafters(document)
        after = self.resized(document, [structure.members[i].name for i in group.members])
        self.assertEqual(
            [(h.length, h.depth) for h in (after.hall.eaves_haunch, after.hall.apex_haunch)], [(2.0, 0.3)] * 2
        )
        self.assertEqual(after.edits, [])
        # a shallower one at the apex stays
        other = shed(jig={"apex_haunch": Haunch(length=1.0, depth=0.2)})
        kept = self.resized(other, [m.name for m in expand(other).members if m.role == "rafter"])
        self.assertEqual((kept.hall.eaves_haunch.depth, kept.hall.apex_haunch.depth), (0.3, 0.2))

    def test_some_of_them_are_edited(self):
        document = shed()
        names = [m.name for m in expand(document).members if m.role == "rafter" and m.frame == 2]
        after = self.resized(document, names)
        self.assertEqual(after.hall.eaves_haunch.depth, 0.25)
        depths = {m.name: max(h.depth for h in m.haunches if h) for m in expand(after).members if m.role == "rafter"}
        self.assertEqual({d for n, d in depths.items() if n in names}, {0.3})
        self.assertEqual({d for n, d in depths.items() if n not in names}, {0.25})

    def test_one_that_had_been_edited_follows(self):
        document = shed()
        rafter = next(m.name for m in expand(document).members if m.role == "rafter")
        document = document.model_copy(
            update={"edits": [MemberEdit(member=rafter, haunch_start=Haunch(length=1.5, depth=0.25))]}
        )
        after = expand(self.resized(document, [m.name for m in expand(document).members if m.role == "rafter"]))
        self.assertEqual(
            {(h.length, h.depth) for m in after.members for h in m.haunches if m.role == "rafter" and h}, {(2.0, 0.3)}
        )

    def test_without_a_haunch_it_is_refused(self):
        document = shed(jig={"eaves_haunch": None})
        with self.assertRaisesRegex(ModelError, "None of these members has a haunch"):
            self.resized(document, [m.name for m in expand(document).members if m.role == "rafter"])


class Parts(unittest.TestCase):
    def test_a_part_is_planned_as_the_whole_until_it_has_its_own(self):
        document = shed({"families": ["HEA"], "apart": ["end frames"]})
        structure = expand(document)
        plans = {g.name: g.plan for g in groups_of(document, structure)}
        self.assertEqual(plans["Rafters, end frames"].families, ["HEA"])
        own = document.sizing.model_copy(
            update={"groups": {**document.sizing.groups, "Rafters, end frames": GroupPlan(families=["HEB"])}}
        )
        plans = {g.name: g.plan for g in groups_of(document.model_copy(update={"sizing": own}), structure)}
        self.assertEqual((plans["Rafters, end frames"].families, plans["Rafters"].families), (["HEB"], ["HEA"]))

    def test_end_frames_of_the_fourth_format(self):
        older = {"version": 4, "hall": {}, "sizing": {"groups": {"Rafters": {"ends_apart": True, "locked": True}, "Columns": {"ends_apart": False}}}}  # fmt: skip
        groups = read_document(older).sizing.groups
        self.assertEqual((groups["Rafters"].apart, groups["Rafters"].locked), (["end frames"], True))
        self.assertEqual(groups["Columns"].apart, [])


if __name__ == "__main__":
    unittest.main()
