"""Set-outs beside one another: what they vary, what each finds, and what taking one makes of a document."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import ColdFormed, HallJig, KneeBraces, Purlins, RoofBay
from engine.document.rules import Inside, WindOptions
from engine.document.sizing import GroupPlan, SizingPlan
from engine.errors import ModelError
from engine.expand import expand
from engine.sizing.costs import beside
from engine.sizing.groups import Choice, groups_of
from engine.sizing.quantities import QUANTITIES
from engine.sizing.study import MOST, grid, in_words, solve, taken, varied, ways


def shed(**jig):
    """A small hall of which columns and rafters may be chosen alone."""
    kept = {name: GroupPlan(locked=True) for name in ("Bracing", "Eaves beams", "Ridge beam")}
    return Document(
        name="Shed",
        hall=HallJig(**{"bays": [RoofBay(span=15.0, pitch=8.0)], "eaves_height": 5.0, "spacings": [5.0] * 2} | jig),
        wind=WindOptions(inside=Inside(kind="own", values=[0.2])),
        sizing=SizingPlan(groups=kept),
    )


class Varied(unittest.TestCase):
    def test_each_quantity_is_read_as_it_was_written(self):
        values = {
            "frames": 4.0,
            "pitch": 12.0,
            "haunch length": 2.0,
            "haunch depth": 0.25,
            "purlins": 1.2,
            "stays": 3.0,
            "bases": "fixed",
            "base stiffness": 8000.0,
            "roof": "truss",
            "grade": "S275",
            "order": "always",
        }
        # what these do to a document is told by its groups and restraints alone
        self.assertEqual(set(values) | {"split", "stay"}, set(QUANTITIES))
        for key, value in values.items():
            with self.subTest(key):
                self.assertEqual(QUANTITIES[key].read(varied(shed(), {key: value})), value)

    def test_end_frames_apart_are_groups_of_their_own_and_taken_so(self):
        document = shed()
        apart = varied(document, {"split": "everything by end frames"})
        names = {g.name for g in groups_of(apart, expand(apart))}
        self.assertTrue({"Rafters", "Rafters, end frames", "Columns", "Columns, end frames"} <= names)
        self.assertEqual(varied(document, {"split": "none"}), document)
        one = varied(document, {"split": "Rafters by end frames"})
        self.assertNotIn("Columns, end frames", {g.name for g in groups_of(one, expand(one))})
        # two frames have no inner ones
        with self.assertRaisesRegex(ModelError, "Split: everything by end frames is none of none"):
            varied(shed(spacings=[5.0]), {"split": "everything by end frames"})
        lighter = taken(
            document, {"split": "everything by end frames"}, {"Rafters, end frames": Choice("IPE 300", "S355")}
        )
        made = {m.name: m.section.name for m in expand(lighter).members if m.role == "rafter"}
        self.assertEqual({made[n] for n in made if not n.startswith("frame-2")}, {"IPE 300"})
        self.assertEqual({made[n] for n in made if n.startswith("frame-2")}, {"IPE 360"})

    def test_a_split_never_weighs_more(self):
        whole, split = (solve(shed(), values).sizing for values in ({}, {"split": "everything by end frames"}))
        self.assertTrue(split.passes)
        self.assertLessEqual(split.after[0], whole.after[0] + 1e-6)

    def test_the_length_of_the_hall_stays(self):
        hall = varied(shed(spacings=[5.0, 6.0]), {"frames": 5.0}).hall
        self.assertEqual(hall.spacings, [2.75] * 4)

    def test_a_truss_takes_haunches_and_knee_braces_away(self):
        hall = varied(shed(eaves_haunch=Haunch(), knee_braces=KneeBraces()), {"roof": "truss"}).hall
        self.assertIsNone(hall.eaves_haunch)
        self.assertIsNone(hall.knee_braces)
        self.assertGreater(len(expand(varied(shed(), {"roof": "truss"})).members), 0)

    def test_what_makes_no_hall_is_refused_by_name(self):
        for values, words in (
            ({"frames": 1.0}, "two frames to 120"),
            ({"frames": 1e300}, "two frames to 120"),
            ({"pitch": 70.0}, "at most 60"),
            ({"bases": "loose"}, "none of pinned, spring, fixed"),
            ({"pitch": "steep"}, "no number"),
            ({"colour": "red"}, "nothing that a study varies"),
        ):
            with self.subTest(values), self.assertRaisesRegex(ModelError, words):
                varied(shed(), values)
        with self.assertRaisesRegex(ModelError, "Pitch of the roof is of a hall, and there is none"):
            varied(Document(name="empty"), {"pitch": 5.0})

    def test_every_combination_once(self):
        found = grid({"frames": [3.0, 4.0, 4.0], "bases": ["pinned", "fixed"]})
        self.assertEqual(len(found), 4)
        self.assertEqual(in_words(found[1]), "Frames over its length 3, bases fixed")
        # in one order, whatever order they were kept in
        self.assertEqual(in_words({"bases": "fixed", "frames": 3.0}), in_words(found[1]))
        self.assertEqual(in_words({"pitch": 6.5}), "Pitch of the roof 6.5°")
        with self.assertRaisesRegex(ModelError, f"more than {MOST}"):
            grid({"frames": [float(k) for k in range(2, 32)], "pitch": [float(k) for k in range(5, 15)]})
        # counted, not made
        with self.assertRaisesRegex(ModelError, "more than"):
            grid({key: [float(k) for k in range(50)] for key in QUANTITIES})
        for ranges, words in (({}, "what the study varies"), ({"pitch": []}, "say which values")):
            with self.assertRaisesRegex(ModelError, words):
                grid(ranges)

    def test_ways_change_what_is_there(self):
        document = shed(bases="pinned")
        for values in ways(document):
            changed = varied(document, values)
            self.assertNotEqual(changed, document, values)
        self.assertNotIn({"bases": "fixed"}, ways(shed(bases="fixed")))
        self.assertIn({"split": "Rafters by end frames"}, ways(document))
        self.assertIn({"stay": "Columns"}, ways(document))

    def test_one_more_stay_halves_the_longest_stretch(self):
        document = shed(purlins=Purlins(spacing=1.5, stay_every=2))
        before, after = (expand(d) for d in (document, varied(document, {"stay": "Rafters"})))
        for m in (m for m in after.members if m.role == "rafter"):
            was, held = before.member(m.name), [0.0, *m.inner, after.length(m)]
            new = sorted({round(x, 4) for x in m.inner} - {round(x, 4) for x in was.inner})
            self.assertEqual(len(new), 1)
            # at a purlin, which holds the outer flange there
            self.assertIn(new[0], [round(x, 4) for x in was.outer])
            self.assertLessEqual(max(np.diff(sorted(set(held)))), 3.0 + 1e-6)
        self.assertEqual(
            [m.inner for m in after.members if m.role != "rafter"],
            [m.inner for m in before.members if m.role != "rafter"],
        )

    def test_a_building_by_hand_has_ways_too(self):
        # two storeys of one column each at two places, of which one is twice as long; no hall anywhere
        document = read_document(
            {
                "nodes": [
                    {"name": f"{x}{z}", "at": [4.0 * k, 0, h]}
                    for k, x in enumerate("ab")
                    for z, h in (("0", 0), ("1", 3.0), ("2", 7.0))
                ],
                "members": [
                    {"name": f"{x}-{a}", "start": f"{x}{a}", "end": f"{x}{a + 1}", "role": "column", "section": "HEA 200", "material": "S355"}
                    for x in "ab" for a in (0, 1)
                ],
                "supports": [{"node": f"{x}0", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for x in "ab"],
            }
        )  # fmt: skip
        found = ways(document)
        self.assertIn({"split": "Columns by levels"}, found)
        self.assertIn({"split": "Columns by lengths"}, found)
        self.assertIn({"stay": "Columns"}, found)
        levels, lengths = (
            {g.name: {structure.members[i].name for i in g.members} for g in groups_of(d, structure)}
            for d in (varied(document, {"split": f"Columns by {by}"}) for by in ("levels", "lengths"))
            for structure in (expand(d),)
        )
        self.assertEqual(set(map(frozenset, levels.values())), {frozenset({"a-0", "b-0"}), frozenset({"a-1", "b-1"})})
        self.assertEqual(set(map(frozenset, lengths.values())), {frozenset({"a-0", "b-0"}), frozenset({"a-1", "b-1"})})
        self.assertEqual(set(levels), {"Columns", "Columns, up to 7·00 m"})
        # held in the middle, both flanges: nothing holds the outer one
        held = expand(varied(document, {"stay": "Columns"}))
        self.assertEqual(
            [(m.outer, m.inner) for m in held.members][:2],
            [((0.0, 1.5, 3.0), (0.0, 1.5, 3.0)), ((0.0, 2.0, 4.0), (0.0, 2.0, 4.0))],
        )


class Beside(unittest.TestCase):
    """Purlins and rails that are no members: they weigh in set-outs."""

    def lines(self, **jig):
        return {b.role: b for b in beside(shed(**jig))}

    def test_cold_formed_ones_by_their_lines(self):
        # two slopes of 7.5 m in plan at 8°: 7.574 m, six spaces of 1.26 m, five lines between eaves and ridge, 10 m long
        cold = ColdFormed(section="Z 200x60x20x2.0")
        rails = Purlins(spacing=2.0, cold=cold)
        found = self.lines(purlins=Purlins(spacing=1.5, cold=cold), rails=rails)
        self.assertAlmostEqual(found["purlin"].length, 2 * 5 * 10.0)
        # walls of 5 m, three spaces
        self.assertAlmostEqual(found["side rail"].length, 2 * 2 * 10.0)
        # the middle lines of its walls: 200 − 2, twice 60 − 2 and 20 − 1, 2 mm thick, less a little for its round corners
        mass = (198 + 2 * 58 + 2 * 19) * 2e-6 * 7850 * 100 / 1000
        self.assertAlmostEqual(found["purlin"].mass / mass, 1, delta=0.02)
        self.assertAlmostEqual(found["purlin"].cost, 2800 * found["purlin"].mass)
        self.assertAlmostEqual(found["purlin"].carbon, 1.2 * found["purlin"].mass)
        self.assertIn("100 m of purlins, Z 200x60x20x2.0", found["purlin"].words)

    def test_what_no_table_weighs_is_left_out_by_name(self):
        found = self.lines(purlins=Purlins(spacing=1.5, table="A profile"))
        self.assertIsNone(found["purlin"].mass)
        self.assertEqual(found["purlin"].words, "100 m of purlins, A profile")
        self.assertNotIn("side rail", found)
        # members weigh already
        self.assertEqual(self.lines(purlins=Purlins(modelled=True)), {})
        self.assertEqual(beside(Document(name="empty")), ())

    def test_purlins_that_fail_stand_in_the_way(self):
        weak = shed(purlins=Purlins(spacing=6.0, cold=ColdFormed(section="Z 200x60x20x2.0")))
        found = solve(weak, {})
        self.assertFalse(found.sizing.passes)
        self.assertTrue(
            any("Purlins, which are no members: Z 200x60x20x2.0" in o for o in found.sizing.obstacles),
            found.sizing.obstacles,
        )


class Solved(unittest.TestCase):
    def test_what_is_found_is_what_stands_when_it_is_taken(self):
        document = shed()
        values = {"bases": "fixed"}
        found = solve(document, values)
        self.assertEqual(found.area, 15.0 * 10.0)
        self.assertTrue(found.sizing.passes, found.sizing.obstacles)
        made = taken(document, values, found.sizing.choices)
        self.assertEqual(made.hall.bases, "fixed")
        chain = run(made)
        self.assertTrue(chain.verification.whole.passes)
        self.assertAlmostEqual(chain.tonnage(), found.sizing.after[0])
        # the sway of a portal on fixed feet asks for less steel
        self.assertLess(found.sizing.after[0], solve(document, {}).sizing.after[0])
