"""What the Site stage draws: snow across the building, and q_p over the height."""

import math
import unittest

import numpy as np

from engine.actions.across import across
from engine.chain import prepare
from engine.document import Document
from engine.standards.en.wind_cases import hall_winds, profile


def hall(**more):
    return Document.model_validate({"hall": {"bays": [{"span": 24.0, "pitch": 10.0}], "spacings": [6.0] * 4}, **more})


class Snow(unittest.TestCase):
    def lying(self, document):
        loaded = prepare(document)
        return {
            loaded.loading.cases[found.case].name: found for found in across(loaded.structure, loaded.loading, "snow")
        }

    def test_arrangements_of_a_duopitch_roof(self):
        # 5.3.3: μ1 = 0.8 below 30°, halves of it in the drifted arrangements; s = 0.8 · 0.8 kN/m² of plan
        found = self.lying(hall(site={"ground_snow": 0.8}))
        even, right = found["Snow, undrifted"], found["Snow, drifted to the right"]
        np.testing.assert_allclose(even.pressure, 640.0, rtol=1e-9)
        self.assertAlmostEqual(even.x[0], 0.0, delta=1e-3)
        self.assertAlmostEqual(even.x[-1], 24.0, delta=1e-3)
        np.testing.assert_allclose([right.pressure[0], right.pressure[-1]], [320.0, 640.0], rtol=1e-9)
        np.testing.assert_allclose(np.interp([5.0, 19.0], right.x, right.pressure), [320.0, 640.0], rtol=1e-9)

    def test_its_area_is_the_load_of_a_metre(self):
        document = hall(site={"ground_snow": 1.1}, snow={"neighbour": {"side": "left", "above": 5.0, "width": 18.0}})
        loaded = prepare(document)
        self.assertGreater(len(across(loaded.structure, loaded.loading, "snow")), 3)
        for found in across(loaded.structure, loaded.loading, "snow"):
            # what the case puts on the whole roof, all alike along it
            total = -loaded.loading.expected[found.case][2] / 24.0
            own = float(((found.pressure[1:] + found.pressure[:-1]) / 2 * np.diff(found.x)).sum())
            self.assertAlmostEqual(own / total, 1.0, delta=1e-5)

    def test_it_is_the_snow_on_the_cladding_where_that_reaches_beyond_the_steel(self):
        document = hall(site={"ground_snow": 0.8})
        document.hall.measured = "cladding"
        loaded = prepare(document)
        self.assertTrue(any(p.cover > 1.001 for p in loaded.structure.panels if p.kind == "roof"))
        np.testing.assert_allclose(self.lying(document)["Snow, undrifted"].pressure, 640.0, rtol=1e-9)

    def test_nothing_without_a_roof(self):
        document = Document.model_validate({"name": "empty"})
        loaded = prepare(document)
        self.assertEqual(across(loaded.structure, loaded.loading, "snow"), [])


class Wind(unittest.TestCase):
    def test_peak_pressure_over_the_height_by_hand(self):
        # EN 1991-1-4 4.3 to 4.5, terrain III: z0 = 0.3 m, z_min = 5 m, k_r = 0.19 (0.3/0.05)^0.07
        document = hall(site={"wind_speed": 26.0, "terrain": "III"}, wind={"directional": {"back": 0.85}})
        winds = {w.direction: w for w in hall_winds(document, prepare(document).structure)}
        k_r = 0.19 * (0.3 / 0.05) ** 0.07

        def by_hand(z, speed):
            log = math.log(max(z, 5.0) / 0.3)
            return (1 + 7 / log) * 0.5 * 1.25 * (k_r * log * speed) ** 2

        heights = np.array([0.0, 3.0, 5.0, 8.0, 12.5])
        left, back = profile(document, winds["left"], heights), profile(document, winds["back"], heights)
        np.testing.assert_allclose(left, [by_hand(z, 26.0) for z in heights], rtol=1e-9)
        np.testing.assert_allclose(back, [by_hand(z, 0.85 * 26.0) for z in heights], rtol=1e-9)
