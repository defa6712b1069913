"""Wind where halls are less usual: open roofs of several bays, friction under them, zones from every side, correlation."""

import unittest
from math import cos, radians

import numpy as np

from engine.document.jigs import Overhangs, RoofBay
from engine.document.rules import Inside
from engine.expand import expand
from engine.load import load
from engine.standards.en import wind_tables as tables
from engine.standards.en.roofs import Plane
from engine.standards.en.wind_cases import hall_winds
from engine.standards.en.wind_parapets import resultant
from tests.engine.helpers import by_case
from tests.engine.test_wind import hall

Q = 1000.0


def windy(**more):
    """A hall under a peak pressure of 1 kN/m² at every height."""
    document = hall(**more)
    document.national.wind.peak_pressure = 1.0
    return document


def case_of(loading, name):
    return next(i for i, c in enumerate(loading.cases) if c.name == name)


class OpenRoofs(unittest.TestCase):
    def test_bays_behind_one_another(self):
        # three bays at 10°: table 7.7: +0.4, −0.7 at φ = 0; table 7.8: 1.0/0.8 at the ends, 0.9/0.7 for the second
        document = windy(open_sides=True, bays=[RoofBay(span=20, pitch=10)] * 3, spacings=[6.0] * 4)
        loading = load(document, expand(document))
        down, lift = (
            loading.expected[case_of(loading, f"Wind from left, roof {w}")][2] for w in ("pressing down", "lifting")
        )
        area = 20 * 24
        self.assertAlmostEqual(down, -0.4 * Q * area * (1.0 + 0.9 + 1.0), delta=1)
        self.assertAlmostEqual(lift, 0.7 * Q * area * (0.8 + 0.7 + 0.8), delta=1)
        # one slope of all bays
        left = loading.expected[case_of(loading, "Wind from left, left slope lifting")][2]
        self.assertAlmostEqual(left, lift / 2, delta=1)

    def test_a_blocked_roof_lifts_more(self):
        # table 7.7 at 10°, φ = 1: −1.3
        document = windy(open_sides=True, blockage=1.0)
        loading = load(document, expand(document))
        found = loading.expected[case_of(loading, "Wind from left, roof lifting")][2]
        self.assertAlmostEqual(found, 1.3 * Q * 24 * 42, delta=1)

    def test_a_single_slope_bears_all_on_its_windward_half(self):
        # table 7.6 at 10°: +0.5, −0.9; its mean over the whole, at a quarter of the depth
        document = windy(open_sides=True, bays=[RoofBay(shape="single pitch", span=12, pitch=10)], spacings=[6.0] * 3)
        loading = load(document, expand(document))
        for side in ("left", "right"):
            number = case_of(loading, f"Wind from {side}, roof pressing down")
            self.assertAlmostEqual(loading.expected[number][2], -0.5 * Q * 12 * 18, delta=1)
            own = [s for s in loading.surfaces if s.case == number]
            self.assertTrue(own)
            for s in own:
                self.assertAlmostEqual(abs(s.pressure[0]), 2 * 0.5 * Q, delta=1e-6)
        along = loading.expected[case_of(loading, "Wind from front, roof pressing down")][2]
        self.assertAlmostEqual(along, -0.5 * Q * 12 * 18, delta=1)

    def test_friction_below_an_open_roof(self):
        # 8 m wide, 96 m long, its roof 5 m above the ground
        for base in (0.0, 1.5):
            document = windy(
                open_sides=True,
                bays=[RoofBay(shape="flat", span=8)],
                spacings=[6.0] * 16,
                eaves_height=5.0 + base,
                base_level=base,
            )
            document.wind.friction = "very rough"
            structure = expand(document)
            loading = load(document, structure)
            number = case_of(loading, "Wind from front, roof pressing down")
            own = [s for s in loading.surfaces if s.case == number and s.zone == "friction"]
            # c_fr 0.04 beyond the smaller of 2 · 8 and 4 · 5 m
            self.assertAlmostEqual(loading.expected[number][1], 0.04 * Q * 8 * (96 - 16), delta=1)
            # 8 · 96 m² along the wind against 2 · 8 · 5 m² across it: 9.6 times
            self.assertIn("768 m² along the wind against 80 m² across it", own[0].why)
            # from the left: 2 · 96 · 5 m² across, more than a quarter of 768
            left = case_of(loading, "Wind from left, roof pressing down")
            self.assertFalse([s for s in loading.surfaces if s.case == left and s.zone == "friction"])


class Zones(unittest.TestCase):
    def test_walls_along_the_wind_from_every_side(self):
        # 24 × 42 m, 6 m eaves, ridge 6 + 12 tan 10°: e = min(b, 2h)
        document = windy()
        structure = expand(document)
        h = 6 + 12 * np.tan(radians(10))
        for w in hall_winds(document, structure):
            b, d, axis = (42, 24, 0) if w.direction in ("left", "right") else (24, 42, 1)
            e = min(b, 2 * h)
            far = w.direction in ("right", "back")
            limits = {"A": (0, e / 5), "B": (e / 5, min(e, d)), "C": (e, d)}
            seen = set()
            for zone in w.zones:
                if zone.panel.kind != "wall" or zone.letter not in limits:
                    continue
                at = zone.points[:, axis]
                at = np.clip(d - at if far else at, 0, d)
                first, last = limits[zone.letter]
                self.assertAlmostEqual(at.min(), first, delta=1e-6, msg=f"{w.direction} {zone.letter}")
                self.assertAlmostEqual(at.max(), last, delta=1e-6, msg=f"{w.direction} {zone.letter}")
                seen.add(zone.letter)
            self.assertEqual(seen, {"A", "B"} | ({"C"} if e < d else set()))

    def test_an_overhang_is_pressed_by_the_wall_below_it(self):
        # from the front the walls on the sides are A, B, C; the overhang of the side has C below it, −0.5 (7.2.1(3))
        document = windy(overhangs=Overhangs(left=1.0))
        loading = load(document, expand(document))
        number = next(i for i, c in enumerate(loading.cases) if c.name.startswith("Wind from front"))
        own = {s.zone: s.pressure[0] for s in loading.surfaces if s.case == number and s.panel == "overhang-left"}
        # table 7.4b at 10°: I −0.55 between −0.6 at 5° and −0.5 at 15°
        self.assertAlmostEqual(own["I"], Q * (-0.55 + 0.5), delta=1e-6)

    def test_roofs_without_a_second_sign_have_no_case_for_it(self):
        # at 60° the zones of a duopitch roof have one sign each (table 7.4a)
        steep = windy(pitch=60.0)
        steep.wind.inside = Inside(kind="own", values=[0.0])
        names = [c.name for c in load(steep, expand(steep)).cases if c.name.startswith("Wind from left")]
        self.assertEqual(names, ["Wind from left"])
        # at 10° front and back of it change sign by themselves: four
        low = windy()
        low.wind.inside = Inside(kind="own", values=[0.0])
        names = [c.name for c in load(low, expand(low)).cases if c.name.startswith("Wind from left")]
        self.assertEqual(len(names), 4)

    def test_a_sharp_edge_of_a_flat_roof(self):
        # table 7.2, typed a second time; parapets and curves begin with it
        sharp = {
            "F": ((-1.8, -2.5), (-1.8, -2.5)),
            "G": ((-1.2, -2.0), (-1.2, -2.0)),
            "H": ((-0.7, -1.2), (-0.7, -1.2)),
            "I": ((-0.2, -0.2), (0.2, 0.2)),
        }
        for eaves in ("sharp", "parapet", "curved"):
            self.assertEqual(tables.FLAT[eaves][0.0], sharp, eaves)

    def test_a_dominant_face_is_told_by_its_clause(self):
        # 7.2.9(5): 0.75 for twice the others, 0.90 for three times, between them in between
        for front, words, share in ((20.0, "(7.1)", 0.75), (30.0, "(7.2)", 0.90), (25.0, "ratio 2.50", 0.825)):
            document = windy()
            document.wind.inside = Inside(kind="openings", openings={"front": front, "back": 4.0, "left": 6.0})
            w = next(w for w in hall_winds(document, expand(document)) if w.direction == "front")
            ((value, why),) = w.inside
            self.assertTrue(why.endswith(words), why)
            # h/d = 8.116/42 < 0.25: D 0.7
            self.assertAlmostEqual(value, share * 0.7, delta=1e-9)


class Parts(unittest.TestCase):
    def test_the_slope_of_a_plane(self):
        self.assertAlmostEqual(Plane((), 2.0, 6.0, 5.0, 6.0).slope, 0.25)
        self.assertAlmostEqual(Plane((), 0.0, 10.0, 7.0, 5.0).slope, -0.2)

    def test_a_piece_of_a_free_wall(self):
        # 30 m long, 1 m high: A to 0.3 m, B to 2 m, C to 4 m, D between
        four = (3.4, 2.1, 1.7, 1.2)
        self.assertAlmostEqual(resultant(four, 1.0, 30.0, 0.0, 0.3), 0.3 * 3.4)
        self.assertAlmostEqual(resultant(four, 1.0, 30.0, 0.2, 1.0), 0.1 * 3.4 + 0.7 * 2.1)
        self.assertAlmostEqual(resultant(four, 1.0, 30.0, 3.0, 7.0), 1.0 * 1.7 + 3.0 * 1.2)
        self.assertAlmostEqual(resultant(four, 1.0, 30.0, 27.0, 30.0), 1.0 * 1.7 + 1.7 * 2.1 + 0.3 * 3.4)

    def test_roof_pressure_is_across_the_slope(self):
        chain = by_case(windy(open_sides=True))
        number = case_of(chain.loading, "Wind from left, roof pressing down")
        own = [s for s in chain.loading.surfaces if s.case == number]
        self.assertAlmostEqual(own[0].pressure[0] / (0.4 * Q), 1.0, delta=1e-9)
        # its vertical part on the slope's area is that on the plan's
        self.assertAlmostEqual(
            -chain.loading.expected[number][2] * cos(radians(10)) / (0.4 * Q * 24 * 42 * cos(radians(10))),
            1,
            delta=1e-6,
        )
