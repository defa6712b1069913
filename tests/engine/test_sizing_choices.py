"""What may be chosen: sections welded of plates, what is on stock and what is avoided, and what stays, haunches and seams cost."""

import itertools
import unittest
from dataclasses import replace as but
from math import cos, radians

import numpy as np

from engine.catalogue.sections import section
from engine.chain import run
from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import HallJig, Purlins, RoofBay
from engine.document.sizing import GroupPlan, Plates, Prices
from engine.errors import ModelError
from engine.expand import expand
from engine.sizing.candidates import candidates_of
from engine.sizing.costs import amounts
from engine.sizing.groups import groups_of, with_choices
from engine.sizing.search import Space
from engine.sizing.size import size
from tests.engine.test_sizing import planned, quiet, simple_beam

OWN = "Members by hand"


def offered(document, name=OWN):
    """Candidates of a group."""
    structure = expand(document)
    group = next(g for g in groups_of(document, structure) if g.name == name)
    return candidates_of(document, structure, group)


class OfPlates(unittest.TestCase):
    def test_a_section_by_its_name(self):
        s = section("WI 800x300x10x20")
        self.assertAlmostEqual(s.A, 2 * 0.3 * 0.02 + 0.76 * 0.01, places=12)
        self.assertAlmostEqual(s.Iy, (0.3 * 0.8**3 - 0.29 * 0.76**3) / 12, places=12)
        self.assertAlmostEqual(s.Iz, (2 * 0.02 * 0.3**3 + 0.76 * 0.01**3) / 12, places=12)
        self.assertEqual((s.shape, s.r, s.family), ("I", 0.0, "WI"))
        for wrong in ("WI 800x300x10", "WI 40x300x10x20", "WI 800x10x12x20", "WI 0x0x0x0"):
            with self.assertRaises(ModelError):
                section(wrong)

    def test_the_lightest_of_all_plates(self):
        plates = Plates(depths=[350, 400, 500], widths=[150, 200], webs=[6, 8], flanges=[8, 12])
        document = simple_beam(8.0, 25.0, 300.0, groups={OWN: GroupPlan(plates=plates)})
        found = size(document).choices[OWN].section
        # tried one by one, from the lightest on
        names = sorted(plates.names, key=lambda name: section(name).A)
        self.assertEqual(len(names), 24)
        structure = expand(document)
        groups = groups_of(document, structure)
        least = next(
            name
            for name in names
            if run(
                with_choices(document, structure, groups, {OWN: but(groups[0].now, section=name)})
            ).verification.whole.passes
        )
        self.assertEqual(found, least)

    def test_beside_a_series_and_alone(self):
        plates = Plates(depths=[400], widths=[150], webs=[6], flanges=[10])
        alone = offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: GroupPlan(plates=plates)}))
        self.assertEqual([c.section for c in alone.choices], ["WI 400x150x6x10"])
        both = offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: GroupPlan(plates=plates, families=["IPE"])}))
        names = [c.section for c in both.choices]
        self.assertIn("WI 400x150x6x10", names)
        self.assertIn("IPE 400", names)

    def test_limits_of_depth_hold_for_plates_too(self):
        plates = Plates(depths=[300, 400, 500], widths=[150], webs=[6], flanges=[10])
        plan = GroupPlan(plates=plates, least_depth=0.35, most_depth=0.45)
        found = offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: plan}))
        self.assertEqual([c.section for c in found.choices], ["WI 400x150x6x10"])

    def test_plates_that_make_none_are_refused(self):
        for plates in (Plates(depths=[300]), Plates(depths=[300], widths=[100], webs=[20], flanges=[10])):
            with self.assertRaisesRegex(ModelError, "no section of plates") as refused:
                offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: GroupPlan(plates=plates)}))
            self.assertEqual(refused.exception.place, f"sizing.groups.{OWN}.plates")
        many = Plates(
            depths=list(range(200, 390, 10)), widths=[100, 120, 140, 160], webs=[5, 6, 8], flanges=[8, 10, 12]
        )
        with self.assertRaisesRegex(ModelError, "more than 600"):
            offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: GroupPlan(plates=many)}))

    def test_seams_have_a_price(self):
        plates = Plates(depths=[400], widths=[150], webs=[6], flanges=[10])
        prices = Prices(welded=2.0, piece=0.0, stay=0.0, weld=5.0)
        found = offered(simple_beam(8.0, 40.0, 300.0, groups={OWN: GroupPlan(plates=plates)}, prices=prices))
        # four seams of 8 m
        mass = (2 * 0.15 * 0.01 + 0.38 * 0.006) * 8 * 7850
        self.assertAlmostEqual(float(found.cost[0]), 2 * mass + 5 * 4 * 8, places=6)


class Uncovered(unittest.TestCase):
    def test_what_no_check_covers_is_found_out_once(self):
        # webs that buckle under shear are not covered where they deepen by more than 10°: three depths of one web, and one that is thick enough
        plates = Plates(depths=[450, 500, 550], widths=[200], webs=[5, 12], flanges=[12])
        jig = HallJig(
            bays=[RoofBay(span=15.0, pitch=8.0)], eaves_height=5.0, spacings=[5.0] * 2, eaves_haunch=Haunch(length=1.2, depth=0.25)
        )  # fmt: skip
        names = ("Columns", "Bracing", "Eaves beams", "Ridge beam")
        groups = {"Rafters": GroupPlan(plates=plates)} | {name: GroupPlan(locked=True) for name in names}
        found = size(planned(quiet(Document(hall=jig)), groups=groups))
        self.assertTrue(found.passes)
        self.assertEqual(found.choices["Rafters"].section.split("x")[2], "12")
        thin = [r for r in found.rounds if "x5x" in r.choices["Rafters"].section]
        self.assertLessEqual(len(thin), 2)

    def test_what_a_state_leaves_unknown_is_not_the_sections_fault(self):
        # one of two columns buckles: nothing is known of the other, whose section is as good as it was
        column = {"section": "IPE 300", "role": "column"}
        document = read_document(
            {
                "nodes": [{"name": n, "at": [x, 0, z]} for n, x, z in (("a", 0, 0), ("b", 0, 8), ("c", 5, 0), ("d", 5, 8))],
                "members": [{"name": "one", "start": "a", "end": "b", **column}, {"name": "two", "start": "c", "end": "d", **column}],
                "supports": [
                    *({"node": n, "fixed": ["x", "y", "z", "rz"]} for n in "ac"), *({"node": n, "fixed": ["x", "y"]} for n in "bd")
                ],
                "cases": [{"name": "Q", "nature": "imposed", "category": "B"}],
                "node_loads": [{"case": "Q", "node": "b", "force": [0, 0, -900]}, {"case": "Q", "node": "d", "force": [0, 0, -5]}],
                "rules": {"imperfections": False},
            }
        )  # fmt: skip
        verdicts = run(document).verification.verdicts
        self.assertTrue(verdicts[1].not_covered)
        self.assertEqual([v.slender for v in verdicts], [False, False])

    def test_no_less_slender(self):
        plates = Plates(depths=[400, 500], widths=[150, 200], webs=[6, 8], flanges=[10])
        document = simple_beam(8.0, 25.0, 300.0, groups={OWN: GroupPlan(plates=plates)})
        structure = expand(document)
        [group] = groups_of(document, structure)
        space = Space((group,), (candidates_of(document, structure, group),), np.ones(1))
        names = [c.section for c in space.candidates[0].choices]
        found = space.no_less_slender(0, names.index("WI 400x150x6x10"))
        like = {n for n, yes in zip(names, found, strict=True) if yes}
        self.assertEqual(like, {"WI 400x150x6x10", "WI 400x200x6x10", "WI 500x150x6x10", "WI 500x200x6x10"})
        closed = Space(space.groups, space.candidates, space.targets, {0: found})
        every = np.arange(len(names))[:, None]
        np.testing.assert_array_equal(closed.allowed(every), ~found)
        self.assertTrue(closed.tied(every).all())


class OnStock(unittest.TestCase):
    def names(self, **plan):
        return [c.section for c in offered(simple_beam(8.0, 40.0, 300.0, **plan)).choices]

    def test_what_is_on_stock_alone(self):
        every = self.names()
        self.assertEqual(self.names(stock=["IPE 300", "IPE 450", "HEA 200"]), ["IPE 300", "IPE 450"])
        self.assertEqual(self.names(stock=["IPE"]), every)

    def test_what_is_avoided(self):
        every = self.names()
        self.assertEqual(self.names(avoid=["IPE 300", "HEA"]), [n for n in every if n != "IPE 300"])
        both = {"groups": {OWN: GroupPlan(families=["IPE", "HEA"])}}
        self.assertEqual(self.names(avoid=["HEA"], **both), every)

    def test_sections_that_a_group_names_itself_are_taken_all_the_same(self):
        only = {"groups": {OWN: GroupPlan(only=["IPE 300", "IPE 330"])}}
        self.assertEqual(self.names(stock=["IPE 450"], avoid=["IPE 300"], **only), ["IPE 300", "IPE 330"])

    def test_names_that_are_none_and_nothing_left(self):
        for plan, words, place in (
            ({"stock": ["IPE 301"]}, "no section and no series “IPE 301”", "sizing.stock"),
            ({"avoid": ["XYZ"]}, "no section and no series “XYZ”", "sizing.avoid"),
            ({"stock": ["HEA 200"]}, "no section that is on stock", f"sizing.groups.{OWN}"),
            ({"avoid": ["IPE"]}, "no section that is not to be avoided", f"sizing.groups.{OWN}"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as refused:
                self.names(**plan)
            self.assertEqual(refused.exception.place, place)

    def test_the_search_keeps_to_it(self):
        free = size(simple_beam(8.0, 40.0, 300.0)).choices[OWN].section
        kept = size(simple_beam(8.0, 40.0, 300.0, avoid=[free])).choices[OWN].section
        self.assertNotEqual(kept, free)
        self.assertGreater(section(kept).A, section(free).A)


class WhatIsPutOn(unittest.TestCase):
    def test_haunches_and_stays_have_a_price(self):
        def cost(stay_every, eaves, **prices):
            jig = HallJig(
                bays=[RoofBay(span=15.0, pitch=8.0)], eaves_height=5.0, spacings=[5.0] * 2,
                eaves_haunch=eaves, purlins=Purlins(spacing=1.5, stay_every=stay_every),
            )  # fmt: skip
            document = planned(quiet(Document(hall=jig)), prices=Prices(piece=0.0, **prices))
            structure = expand(document)
            rafters = [m for m in structure.members if m.role == "rafter"]
            held = sum(0 < x < structure.length(m) - 1e-6 for m in rafters for x in m.inner)
            may = offered(document, "Rafters")
            at = [s.name for s in may.sections].index("IPE 360")
            return float(may.cost[at]), len(rafters), held

        haunch = Haunch(length=1.5, depth=0.25)
        plain, rafters, _ = cost(2, None, haunch=0.0, stay=0.0)
        self.assertEqual(rafters, 6)
        # by each, and its steel by the kilogram: cut from IPE 360 (170 × 12.7, web 8), on average 125 mm deep with its flange
        steel = (8.0 * (125 - 12.7) + 170 * 12.7) * 1e-6 * 1.5 * 7850
        self.assertAlmostEqual(
            cost(2, haunch, haunch=100.0, stay=0.0, rolled=2.0)[0] - cost(2, None, haunch=0.0, stay=0.0, rolled=2.0)[0],
            600.0 + 6 * 2.0 * steel,
            places=3,
        )
        for every in (1, 2, 3):
            dear, _, held = cost(every, None, haunch=0.0, stay=10.0)
            self.assertGreater(held, 0)
            self.assertAlmostEqual(dear - plain, 10.0 * held, places=6)
        counts = [cost(every, None)[2] for every in (1, 2, 3)]
        self.assertEqual(sorted(counts, reverse=True), counts)
        self.assertTrue(all(a > b for a, b in itertools.pairwise(counts)))

    def test_amounts_by_role(self):
        jig = HallJig(
            bays=[RoofBay(span=15.0, pitch=8.0)], eaves_height=5.0, spacings=[5.0] * 2, eaves_haunch=Haunch(length=1.5, depth=0.25)
        )  # fmt: skip
        structure = expand(Document(hall=jig))
        prices = Prices(rolled=2.0, hollow=3.0, piece=10.0, stay=0.0, haunch=100.0, carbon=1.5)
        found = {a.role: a for a in amounts(structure, prices)}
        columns, rafters = found["column"], found["rafter"]
        # six columns HEA 300 (112.5 cm²) of 5 m; a rafter each with one haunch
        mass = 6 * 112.5e-4 * 5 * 7850
        self.assertAlmostEqual(columns.mass * 1000, mass, delta=1e-3 * mass)
        self.assertAlmostEqual(columns.cost, 2 * columns.mass * 1000 + 60, places=6)
        # six IPE 360 (72.73 cm²) of 7.5 m in plan at 8°, each with a haunch cut from its like, and six haunches by the piece
        haunch = (8.0 * (125 - 12.7) + 170 * 12.7) * 1e-6 * 1.5
        bought = 6 * (72.73e-4 * 7.5 / cos(radians(8)) + haunch) * 7850
        self.assertAlmostEqual(rafters.cost, 2 * bought + 60 + 600, delta=2)
        self.assertAlmostEqual(1000 * rafters.mass, bought, delta=1)
        self.assertAlmostEqual(rafters.carbon, 1.5 * rafters.mass, places=9)
        self.assertAlmostEqual(
            found["eaves beam"].cost, 3000 * found["eaves beam"].mass + 10 * found["eaves beam"].number
        )
        self.assertAlmostEqual(sum(a.mass for a in found.values()), sum(map(structure.mass, structure.members)) / 1000)


if __name__ == "__main__":
    unittest.main()
