"""What does not act at a site, and why."""

import unittest

from engine.chain import prepare
from engine.document import Document
from engine.standards.en.idle import idle


class DoesNotAct(unittest.TestCase):
    def found(self, spacings=4, hall=None, **more):
        own = {
            "bays": [{"span": 24.0, "pitch": 10.0}],
            "spacings": [6.0] * spacings,
            "eaves_height": 6.0,
            **(hall or {}),
        }
        document = Document.model_validate({"hall": own, **more})
        loaded = prepare(document)
        cases = {case.note: case for case in loaded.loading.cases}
        return {one.what: one for one in idle(document, loaded.structure)}, cases

    def test_a_plain_hall(self):
        found, _ = self.found(site={"altitude": 210.0})
        self.assertEqual(
            {one.why for one in found.values() if one.nature == "snow" and one.covered},
            {
                "no two roofs meet in one (5.3.4)",
                "none is stated beside it (5.3.6)",
                "there are none (6.2)",
                "none stands on the roof (6.2)",
                "asked for above 800 m, the place lies at 210 m (6.3(1) note)",
                "the place is not said to know it (4.3)",
            },
        )
        # a duopitch roof drifts
        self.assertNotIn("Drifted arrangement", found)
        # what nobody computes is told apart from what there is none of
        self.assertFalse(found["Snow that slides against guards"].covered)
        self.assertFalse(found["Temperature"].covered)

    def test_what_is_stated_acts(self):
        found, _ = self.found(
            site={"ground_snow": 0.8, "altitude": 900.0},
            snow={
                "neighbour": {"side": "left", "above": 5.0, "width": 18.0},
                "parapet": 1.0,
                "exceptional": 2.0,
                "obstructions": [{"panel": "roof-AB-left", "at": 5.0, "height": 1.0}],
            },
            cases=[{"name": "warm", "nature": "temperature"}, {"name": "impact", "nature": "accidental"}],
            cladding={"roof_imposed": 0.4},
        )
        self.assertEqual(
            {one.what for one in found.values() if one.nature not in ("wind",)},
            {"Snow in valleys", "Snow that slides against guards"},
        )

    def test_roofs_of_one_slope_and_of_several(self):
        single, _ = self.found(hall={"bays": [{"span": 12.0, "shape": "single pitch", "pitch": 8.0}]})
        self.assertIn("Drifted arrangement", single)
        two, _ = self.found(hall={"bays": [{"span": 15.0, "pitch": 12.0}, {"span": 15.0, "pitch": 12.0}]})
        self.assertNotIn("Snow in valleys", two)

    def test_no_snow_on_the_ground_or_on_steep_roofs(self):
        none, _ = self.found(site={"ground_snow": 0.0})
        self.assertEqual(none["Snow"].why, "the ground snow s_k is 0")
        self.assertEqual([one.what for one in none.values() if one.nature == "snow"], ["Snow"])

    def test_friction_by_hand(self):
        # 24 m wide, ridge at 6 + 12 tan 10° = 8.116 m. Wind onto the gable: 2b = 48 m, 4h = 32.46 m, so from 32.5 m on:
        # four bays (24 m) end before it, ten (60 m) do not
        short, cases = self.found(4)
        why = short["Friction"].why
        self.assertIn("32.5 m behind the windward edge", why.replace("it would begin ", ""))
        self.assertFalse(any("c_fr" in note for note in cases))
        # along it two walls of 6 · 60 and two slopes of 60 · 12/cos 10°: 720 + 1462 = 2182 m²; across it both gables,
        # 2 · 24 · (6 + 2.116/2) = 339 m²; 2182 > 4 · 339 = 1355
        long, _ = self.found(10)
        self.assertNotIn("Friction, wind from the front and the back", long)
        self.assertIn("Friction, wind from the left and the right", long)
        # eight bays: 48 m > 32.5 m; 576 + 1170 = 1746 > 1355 acts; with eaves at 10 m, 4h = 48.5 m and 2b = 48 m: it ends
        # there
        eight, _ = self.found(8)
        self.assertNotIn("Friction, wind from the front and the back", eight)
        tall, _ = self.found(8, {"eaves_height": 10.0})
        self.assertIn("Friction, wind from the front and the back", tall)

    def test_nothing_without_a_building(self):
        document = Document.model_validate({"name": "empty"})
        self.assertEqual(idle(document, prepare(document).structure), [])


if __name__ == "__main__":
    unittest.main()
