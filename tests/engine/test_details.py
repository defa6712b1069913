"""Details of the dossier: members laid flat and joints with haunches, to scale, with what the engine found."""

import unittest

import numpy as np

from engine.chain import run
from engine.demo import drying_hall
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.handover import DossierPlan, PlacedView
from engine.document.jigs import HallJig
from engine.dossier.compose import compose
from engine.dossier.details import flanges, haunched_joints
from engine.dossier.values import Figure, Heading
from engine.dossier.views import placed
from engine.expand import expand
from engine.structure.planes import planes

#: 8 m, held against turning at both ends, 12 kN/m: it hogs up to (1 − 1/√3)/2 of its length from each
CLAMPED = {
    "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
    "members": [{"name": "beam", "start": "a", "end": "b", "section": "IPE 300", "restraints_outer": [2.0, 5.0]}],
    "supports": [{"node": n, "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for n in "ab"],
    "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
    "member_loads": [{"case": "Q", "member": "beam", "value": [0, 0, -12]}],
}


def strokes(drawing, style):
    return [np.array(s.points) for s in drawing.strokes if s.style == style]


class Flat(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(read_document(CLAMPED))
        cls.drawing, cls.words = flanges(cls.chain, 0)

    def along(self, x):
        """Where a distance from the start stands on paper: the outline begins and ends with the member."""
        [steel] = strokes(self.drawing, "steel")
        return steel[:, 0].min() + x * 1000 / self.drawing.scale

    def test_it_is_to_scale(self):
        [steel] = strokes(self.drawing, "steel")
        np.testing.assert_allclose(np.ptp(steel, axis=0), [8000 / self.drawing.scale, 300 / self.drawing.scale])

    def test_marks_stand_where_the_flanges_are_held(self):
        marks = strokes(self.drawing, "restraint")
        outer = sorted(m[0, 0] for m in marks if m[1, 1] > m[0, 1])
        inner = sorted(m[0, 0] for m in marks if m[1, 1] < m[0, 1])
        np.testing.assert_allclose(outer, [self.along(x) for x in (0, 2, 5, 8)])
        np.testing.assert_allclose(inner, [self.along(x) for x in (0, 8)])
        self.assertTrue({"2.00", "5.00", "8.00"} <= {w.words for w in self.drawing.words})

    def test_strips_reach_from_zero_to_zero_of_the_moment(self):
        zero = 8 * (1 - 1 / np.sqrt(3)) / 2
        strips = sorted((s[:, 0].min(), s[:, 0].max(), s[:, 1].mean()) for s in strokes(self.drawing, "pressure"))
        [steel] = strokes(self.drawing, "steel")
        middle = steel[:, 1].mean()
        expected = [(0, zero, False), (zero, 8 - zero, True), (8 - zero, 8, False)]
        self.assertEqual(len(strips), 3)
        for (left, right, y), (a, b, above) in zip(strips, expected, strict=True):
            # straight between stations a metre apart: q h²/8 over the shear there, up to 54 mm of steel
            np.testing.assert_allclose([left, right], [self.along(a), self.along(b)], atol=0.6)
            self.assertEqual(y > middle, above)

    def test_moments_are_those_of_the_combination_on_the_side_in_tension(self):
        found = {w.words for w in self.drawing.words}
        # 1.5 q l²/12 and 1.5 q l²/24
        self.assertTrue({"−96.0", "48.0"} <= {w.removesuffix(" kNm") for w in found}, found)
        [curve] = strokes(self.drawing, "diagram")
        base = curve[0, 1]
        self.assertGreater(curve[1, 1], base)
        self.assertLess(curve[len(curve) // 2, 1], base)

    def test_stretches_bear_the_largest_utilisation_of_all_combinations(self):
        spans = self.chain.verification.checks.flanges(0)
        outer = [f"{s.utilisation:.2f}" for s in spans if s.flange == "outer" and s.utilisation >= 0.005]
        said = [w.words for w in self.drawing.words]
        self.assertTrue(outer)
        for figure in outer:
            self.assertIn(figure, said)


class Haunches(unittest.TestCase):
    def test_each_different_joint_once_to_scale(self):
        hall = HallJig(
            spacings=[6.0] * 3, eaves_haunch=Haunch(length=2.4, depth=0.34), apex_haunch=Haunch(length=1.5, depth=0.2)
        )
        found = haunched_joints(expand(Document(hall=hall)))
        self.assertEqual(sorted(len(nodes) for nodes, _, _ in found), [4, 8])
        eaves = next(row for row in found if len(row[0]) == 8)
        self.assertIn("haunch 2.40 m long and 340 mm deep, cut from IPE 360; Column HEA 300", eaves[2])
        measured = [s for s in strokes(eaves[1], "dimension") if len(s) == 2]
        lengths = {round(float(np.linalg.norm(s[1] - s[0])) * eaves[1].scale / 1000, 3) for s in measured}
        self.assertTrue({2.4, 0.34} <= lengths, lengths)
        apex = next(row for row in found if len(row[0]) == 4)
        self.assertEqual([w.words for w in apex[1].words].count("1.50"), 2)

    def test_a_haunch_of_plates_is_told_with_them(self):
        plates = Haunch(length=2.0, depth=0.3, made_of="plates", web=0.012, flange_width=0.18, flange=0.016)
        [(_, _, words)] = haunched_joints(expand(Document(hall=HallJig(spacings=[6.0], eaves_haunch=plates))))
        self.assertIn("of plates: web 12 mm, flange 180 × 16 mm", words)

    def test_none_without(self):
        self.assertEqual(haunched_joints(expand(Document(hall=HallJig(spacings=[6.0], eaves_haunch=None)))), [])


class Views(unittest.TestCase):
    """Views of the workbench that are drawn anew in each dossier."""

    @classmethod
    def setUpClass(cls):
        cls.chain = run(read_document(CLAMPED))

    def placed(self, shows, state="", plane="elevation", chain=None):
        chain = chain or self.chain
        key = next(p.key for p in planes(chain.structure) if p.members) if plane == "elevation" else plane
        return placed(chain, PlacedView(name="mine", plane=key, shows=shows, state=state))

    def test_moments_of_a_case_a_combination_and_all(self):
        # q l²/12 and q l²/24 of the case alone, half as much again in combinations
        for state, ends, middle in (("Q", "64.0", "32.0"), (self.chain.combinations[0].name, "96.0", "48.0"), ("envelope", "96.0", "48.0")):  # fmt: skip
            with self.subTest(state):
                found = self.placed("moments", state)
                said = {w.words for w in found.drawing.words}
                self.assertTrue({ends, middle} <= said, said)
        self.assertIn("M_y in Q, Q, kNm", self.placed("moments", "Q").words)

    def test_loads_of_a_case_and_the_steel(self):
        self.assertIn("12.00", {w.words for w in self.placed("loads", "Q").drawing.words})
        self.assertIn("IPE 300", {w.words for w in self.placed("steel").drawing.words})

    def test_what_is_not_there_any_more_is_told(self):
        for shows, state, plane, words in (
            ("loads", "S1", "elevation", "there is no “S1” any more"),
            ("moments", "C900", "elevation", "there is no “C900” any more"),
            ("steel", "", "frame-9", "what it looked at is not there any more"),
        ):
            found = self.placed(shows, state, plane)
            self.assertEqual((found.kind, words in found.words), ("missing", True), found.words)

    def test_what_is_meant_is_found_where_numbers_have_moved_on(self):
        key = next(p.key for p in planes(self.chain.structure) if p.members)
        formula = self.chain.combinations[0].formula

        def shown(state, means):
            return placed(self.chain, PlacedView(name="mine", plane=key, shows="moments", state=state, means=means))

        self.assertIn(f"M_y in {self.chain.combinations[0].name} = {formula}", shown("C77", formula).words)
        self.assertIn("there is no “C1” any more", shown("C1", "1.35 G1 + 1.5 S9").words)
        self.assertIn("M_y in Q, Q", shown("Q", "Q").words)

    def test_it_stands_in_its_chapter(self):
        view = {"name": "mine", "plane": "nowhere", "shows": "steel"}
        plan = DossierPlan.model_validate({"chapters": {"actions": {"views": [view]}}})
        told = next(c for c in compose(self.chain, plan).chapters if c.key == "actions")
        self.assertIn("The view “mine” is not drawn", told.blocks[0].words)


class InTheDossier(unittest.TestCase):
    def test_worst_members_are_laid_flat_and_haunches_drawn(self):
        chain = run(drying_hall())
        chapters = {c.key: c for c in compose(chain, DossierPlan()).chapters}
        blocks = chapters["restraints"].blocks
        at = next(k for k, b in enumerate(blocks) if isinstance(b, Heading) and b.anchor == "restraints.drawn")
        shown = [b.words.split(",")[0] for b in blocks[at + 1 :] if isinstance(b, Figure)]
        self.assertEqual(len(shown), 2)
        self.assertRegex(shown[0], r"Column \d·[AB]")
        self.assertRegex(shown[1], r"Rafter \d·AB-[LR]")
        building = chapters["building"].blocks
        self.assertTrue(any(isinstance(b, Heading) and b.anchor == "building.haunches" for b in building))
        short = compose(chain, DossierPlan.model_validate({"chapters": {"restraints": {"level": "summary"}}}))
        blocks = next(c for c in short.chapters if c.key == "restraints").blocks
        self.assertFalse([b for b in blocks if isinstance(b, Figure)])
