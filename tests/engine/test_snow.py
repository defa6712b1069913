"""Snow by EN 1991-1-3: coefficients at printed values, every arrangement by hand."""

import unittest
from math import cos, radians

import numpy as np

from engine.balance import balances
from engine.document import Document
from engine.document.jigs import HallJig, LeanTo, RoofBay
from engine.document.rules import Neighbour, SnowOptions
from engine.expand import expand
from engine.load import load
from engine.standards.en import snow
from engine.standards.en.snow_cases import arrangements, greatest
from tests.engine.helpers import by_case


def hall(bays=None, snow_options=None, ground=1.0, altitude=200.0, **more):
    document = Document(hall=HallJig(bays=bays or [RoofBay(span=20.0, pitch=10.0)], spacings=[6.0] * 4, **more))
    document.site.ground_snow, document.site.altitude = ground, altitude
    document.snow = snow_options or SnowOptions()
    return document


def totals(document):
    """Vertical resultant of every snow case in kN, by the case's name."""
    chain = by_case(document)
    for case, b in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
        assert b.holds, case.name
    pairs = zip(chain.loading.cases, chain.loading.expected, strict=True)
    return {case.name: -e[2] / 1000 for case, e in pairs if case.nature in ("snow", "accidental")}


class Coefficients(unittest.TestCase):
    def test_drift_length(self):
        self.assertEqual([snow.drift_length(h) for h in (1.0, 4.0, 9.0)], [5.0, 8.0, 15.0])

    def test_at_a_taller_building(self):
        # b1 = 20, b2 = 12, h = 4: (20 + 12)/8 = 4.0; γ h/s_k = 2·4/1.6 = 5 → at most 4
        self.assertEqual(snow.drift_at_taller(20, 12, 4.0, 1.6, 10.0, 10.0), (0.0, 4.0))
        # γ h/s_k = 2·1.5/1 = 3 limits (20 + 10)/3 = 10
        self.assertEqual(snow.drift_at_taller(20, 10, 1.5, 1.0, 10.0, 10.0)[1], 3.0)
        # at least 0.8
        self.assertEqual(snow.drift_at_taller(4, 2, 6.0, 1.0, 10.0, 2.0)[1], 0.8)
        # steeper than 15°: half of the snow of the adjacent slope, over l_s: 0.5 · 0.8 · 20 / 8 = 1.0
        self.assertAlmostEqual(snow.drift_at_taller(20, 12, 4.0, 1.6, 20.0, 10.0)[0], 1.0)

    def test_at_obstructions(self):
        self.assertEqual([snow.drift_at_obstruction(h, 1.0) for h in (0.1, 0.7, 2.0)], [0.8, 1.4, 2.0])

    def test_at_the_edge(self):
        # s = 2.4 kN/m²: d = 0.8 m, k = min(3/0.8, 0.8·3) = 2.4; s_e = 2.4 · 2.4² / 3 = 4.608
        self.assertAlmostEqual(snow.edge_load(2.4), 4.608)
        self.assertEqual(snow.edge_load(0.0), 0.0)

    def test_cylinders(self):
        # μ3 = 0.2 + 10 h/b, at most 2, nothing beyond 60°
        np.testing.assert_allclose(snow.mu3([0, 59, 61], 2.0, 20.0), [1.2, 1.2, 0])
        np.testing.assert_allclose(snow.mu3(10.0, 8.0, 20.0), 2.0)


class Arrangements(unittest.TestCase):
    def test_single_pitch_and_flat_have_one(self):
        for bay in (RoofBay(shape="single pitch", span=12, pitch=20), RoofBay(shape="flat", span=12)):
            np.testing.assert_allclose(list(totals(hall([bay])).values()), [0.8 * 12 * 24])

    def test_asymmetric_duopitch(self):
        # left 10° 0.8, right 45° 0.4: plan widths by the ridge's place
        document = hall([RoofBay(span=20, pitch=10, right_pitch=45)])
        left = expand(document).panels[0]
        x = float(np.ptp(left.corners[:, 0]))
        found = totals(document)
        expected = [24 * (a * 0.8 * x + b * 0.4 * (20 - x)) for a, b in ((1, 1), (0.5, 1), (1, 0.5))]
        np.testing.assert_allclose(list(found.values()), expected, rtol=1e-9)

    def test_valleys_by_hand(self):
        # figure 5.4: μ2 of the mean pitch 15° is 1.2; inner slopes run from 0.8 to 1.2
        bays = [RoofBay(span=20, pitch=10), RoofBay(span=20, pitch=20)]
        found = totals(hall(bays))
        self.assertAlmostEqual(found["Snow, undrifted"], 0.8 * 40 * 24, delta=1e-6)
        self.assertAlmostEqual(found["Snow, drifted in the valleys"], 24 * (0.8 * 20 + 1.0 * 20), delta=1e-6)
        self.assertAlmostEqual(greatest(hall(bays), expand(hall(bays))), 1.2)

    def test_a_drift_is_exact_along_the_rafter(self):
        document = hall([RoofBay(span=20, pitch=10), RoofBay(span=20, pitch=20)])
        chain = by_case(document)
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name.endswith("valleys"))
        table, rafter = chain.loading.spread, chain.structure.index["frame-3/rafter-AB-right"]
        row = int(np.flatnonzero((table.case == case) & (table.member == rafter))[0])
        plan = cos(radians(10))
        # from the valley (start, μ 1.2) to the ridge (0.8): 6 m of bay, per metre of rafter
        self.assertAlmostEqual(-table.first[row, 2], 1.2e3 * 6 * plan, delta=1e-6)
        self.assertAlmostEqual(-table.last[row, 2], 0.8e3 * 6 * plan, delta=1e-6)

    def test_drift_onto_a_lean_to(self):
        # h = 6 − 4 = 2 m below the eaves: l_s = 5 m of 6; μ_w = (20 + 6)/4 = 6.5 → γ h/s_k = 4; μ1 = 0.8
        document = hall(lean_to_left=LeanTo(span=6.0, height=4.0, pitch=8.0))
        found = totals(document)["Snow, drifted onto the left lean-to"]
        lean = 5 * (4.0 + 0.8) / 2 + 1 * 0.8
        self.assertAlmostEqual(found, 24 * (0.8 * 20 + lean), delta=1e-6)

    def test_drift_against_a_neighbour_with_a_gap(self):
        # l_s = 8 m from its wall, 2 m away: μ on this roof begins at 3.2 − (3.2 − 0.8)·2/8 = 2.6
        options = SnowOptions(neighbour=Neighbour(side="right", above=4.0, width=5.6, gap=2.0))
        found = arrangements(hall(snow_options=options), expand(hall(snow_options=options)))[-1]
        stretches = sorted(found.stretches["roof-AB-right"], key=lambda stretch: stretch.x)
        self.assertEqual([stretch.x for stretch in stretches], [(10.0, 14.0), (14.0, 20.0)])
        np.testing.assert_allclose([stretch.mu for stretch in stretches], [(0.8, 0.8), (0.8, 2.6)])

    def test_parapets_hold_and_drift(self):
        # h = 0.7, s_k = 1: μ2 = 1.4 over 5 m; μ1 at least 0.8
        document = hall([RoofBay(shape="flat", span=20)], SnowOptions(parapet=0.7))
        found = totals(document)
        self.assertAlmostEqual(
            found["Snow, drifted against the left parapet"], 24 * (0.8 * 20 + 0.6 * 5 / 2), delta=1e-6
        )
        self.assertEqual(len(found), 3)
        steep = hall([RoofBay(span=20, pitch=45)], SnowOptions(held=True))
        self.assertAlmostEqual(totals(steep)["Snow, undrifted"], 0.8 * 20 * 24, delta=1e-6)

    def test_exposure_thermal_exceptional_and_edge(self):
        found = totals(hall(snow_options=SnowOptions(exposure=1.2, thermal=0.9, exceptional=2.0), altitude=900.0))
        even = 0.8 * 20 * 24 * 1.2 * 0.9
        edge = snow.edge_load(0.8 * 1.2 * 0.9) * 24 * 2
        self.assertAlmostEqual(found["Snow, undrifted"], even + edge, delta=1e-6)
        self.assertAlmostEqual(found["Exceptional snow, undrifted"], 2 * even, delta=1e-6)
        self.assertEqual(totals(hall(ground=0.0)), {})

    def test_a_mirrored_hall_has_mirrored_snow(self):
        bays = [RoofBay(span=12, pitch=8), RoofBay(span=18, pitch=14)]
        one, other = hall(bays, lean_to_left=LeanTo()), hall(bays[::-1], lean_to_right=LeanTo())
        a, b = load(one, expand(one)), load(other, expand(other))

        def total(loading):
            pairs = zip(loading.cases, loading.expected, strict=True)
            return sorted(round(float(e[2]), 3) for c, e in pairs if c.nature == "snow")

        np.testing.assert_allclose(total(a), total(b), rtol=1e-6)
