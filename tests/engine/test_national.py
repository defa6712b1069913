"""National values: each acts where its clause says, found by hand from the recommended number and the clause."""

import unittest
from math import log, sqrt

import numpy as np

from engine.actions.cases import Case
from engine.chain import fingerprints
from engine.demo import drying_hall
from engine.document import Document, read_document
from engine.document.national import BasisValues, SnowValues, WindValues
from engine.document.rules import Rules, Site, WindOptions
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.standards.en import snow, wind
from engine.standards.en.combinations import combine
from engine.standards.en.national import GROUPS, national_values
from engine.standards.en.wind_tables import by_area

G1, G2 = Case("Steel", "G1", "permanent"), Case("Cladding", "G2", "permanent")
S = Case("Snow", "S1", "snow", "snow")
W = Case("Wind", "W1", "wind", "wind")
A = Case("Fire", "A1", "accidental", "accidental")


def factors(use, rules=None, **basis):
    found = combine([G1, G2, S, W, A], rules or Rules(), Site(), BasisValues(**basis))
    return {tuple(np.round(c.factors, 6)) for c in found if c.use == use}


class Basis(unittest.TestCase):
    def test_importance_acts_on_what_is_unfavourable(self):
        found = factors("strength", importance=1.1)
        self.assertIn((1.485, 1.485, 1.65, 0.99, 0.0), found)
        self.assertIn((1.0, 1.0, 1.65, 0.99, 0.0), found)
        self.assertNotIn((1.35, 1.35, 1.5, 0.9, 0.0), found)
        self.assertIn((1.21, 1.21, 0.825, 1.65, 0.0), factors("uplift", importance=1.1))

    def test_factors_of_single_actions(self):
        found = factors("strength", gamma_wind=1.4, gamma_snow=1.6)
        self.assertIn((1.35, 1.35, 1.6, 0.84, 0.0), found)
        self.assertIn((1.35, 1.35, 0.8, 1.4, 0.0), found)

    def test_permanent_cases_from_separate_sources(self):
        found = factors("strength", permanents="separate")
        self.assertIn((1.35, 1.0, 1.5, 0.9, 0.0), found)
        self.assertIn((1.0, 1.35, 1.5, 0.9, 0.0), found)
        self.assertNotIn((1.35, 1.0, 1.5, 0.9, 0.0), factors("strength"))
        both = factors("strength", Rules(strength_rule="6.10a/b"), permanents="separate")
        self.assertIn((1.1475, 1.0, 1.5, 0.9, 0.0), both)
        many = [Case(f"G {i}", f"G{i}", "permanent") for i in range(6)]
        with self.assertRaisesRegex(ModelError, "6 permanent cases"):
            combine(many, Rules(), Site(), BasisValues(permanents="separate"))

    def test_the_leading_action_of_an_accident(self):
        self.assertIn((1.0, 1.0, 0.2, 0.0, 1.0), factors("accidental"))
        found = factors("accidental", accidental_lead="ψ2")
        self.assertEqual(found, {(1.0, 1.0, 0.0, 0.0, 1.0)})

    def test_the_altitude_of_the_other_row_of_snow(self):
        found = combine([G1, S, W], Rules(), Site(altitude=600), BasisValues(snow_altitude=500))
        led = {tuple(np.round(c.factors, 6)) for c in found if c.use == "strength"}
        self.assertIn((1.35, 1.05, 1.5), led)


class Sources(unittest.TestCase):
    def test_of_one_value_and_of_all(self):
        data = {"national": {"source": "annex", "sources": {"rules/gamma_M0": "memo 3"}}}
        national = read_document(data).national
        self.assertEqual((national.source, national.sources), ("annex", {"rules/gamma_M0": "memo 3"}))
        for key, words in (("rules.gamma_M0", "memo"), ("rules/gamma_M0", "m" * 201)):
            with self.assertRaises(ModelError):
                read_document({"national": {"sources": {key: words}}})


class Snow(unittest.TestCase):
    def test_shapes_and_their_limits(self):
        self.assertAlmostEqual(float(snow.mu1(45.0, 1.0)), 0.5)
        self.assertAlmostEqual(float(snow.mu2(15.0, 1.0)), 1.4)
        self.assertEqual(float(snow.mu3(0.0, 5.0, 10.0, 1.6)), 1.6)
        own = SnowValues(length_most=20, length_least=6, drift_most=2.5, drift_least=1.0, sliding=30, drift_weight=3)
        self.assertEqual([snow.drift_length(h, own) for h in (1.0, 9.0, 12.0)], [6.0, 18.0, 20.0])
        # (20 + 12)/8 = 4, at most 2.5; 25° does not slide
        self.assertEqual(snow.drift_at_taller(20, 12, 4.0, 1.6, 25.0, 10.0, own), (0.0, 2.5))
        # 3 · 0.7/1.5 = 1.4
        self.assertAlmostEqual(snow.drift_at_obstruction(0.7, 1.5, own), 1.4)
        # s = 0.8: depth 0.2 m of 4 kN/m³, k = min(15, 0.8); 0.8 · 0.64/4
        self.assertAlmostEqual(snow.edge_load(0.8, 4.0), 0.128)
        # k = 0.5: 0.5 · 1.6²/3.2
        self.assertAlmostEqual(snow.edge_load(1.6, 3.2, 0.5), 0.4)

    def test_exposure_of_drifted_arrangements_and_snow_over_eaves(self):
        def total(**values):
            document = read_document({**Document(**HALL).model_dump(mode="json"), "national": {"snow": values}})
            loading = load(document, expand(document))
            return {case.name: -loading.expected[i][2] / 1000 for i, case in enumerate(loading.cases)}

        usual, changed = total(), total(exposure_drifted=1.2, edge_altitude=100)
        self.assertAlmostEqual(changed["Snow, drifted to the right"] / usual["Snow, drifted to the right"], 1.2)
        # 0.64 kN/m² on 24 m · 42 m; k = min(3/0.2133, 0.64) = 0.64, s_e = 0.64³/3 on both eaves
        self.assertAlmostEqual(usual["Snow, undrifted"], 0.64 * 24 * 42, delta=1e-6)
        self.assertAlmostEqual(changed["Snow, undrifted"] - usual["Snow, undrifted"], 2 * 42 * 0.64**3 / 3, delta=1e-6)


HALL = {
    "hall": {"bays": [{"span": 24.0}], "spacings": [6.0] * 7},
    "site": {"ground_snow": 0.8, "altitude": 200.0},
}


class Wind(unittest.TestCase):
    def peak(self, z=10.0, **values):
        return wind.site_pressure(Site(wind_speed=25.0), WindOptions(), WindValues(**values), "left", z, 10.0)

    def test_pressures_stated_and_terrain_of_ones_own(self):
        usual = self.peak()
        self.assertAlmostEqual(self.peak(basic_pressure=0.5).peak, 500 * usual.exposure)
        self.assertEqual({self.peak(z, peak_pressure=0.9).peak for z in (3.0, 10.0)}, {900.0})
        # z0 = 0.1: k_r = 0.19 · 2^0.07, c_r = k_r ln 100, I_v = 1.2/ln 100
        found, k_r = self.peak(roughness=0.1, turbulence=1.2), 0.19 * 2**0.07
        self.assertAlmostEqual(found.peak, (1 + 7 * 1.2 / log(100)) * (k_r * log(100)) ** 2 * 390.625, delta=1e-6)
        self.assertAlmostEqual(self.peak(2.0, least_height=8.0).peak, self.peak(8.0).peak)

    def test_probability_and_correlation(self):
        # K = 0.1, n = 1, 10 years: (1 − 0.1 ln(−ln 0.9))/(1 − 0.1 ln(−ln 0.98))
        self.assertAlmostEqual(wind.probability_factor(10, 0.1, 1.0), 1.225037 / 1.390194, delta=1e-5)
        self.assertAlmostEqual(wind.correlation(3.0, 0.9), 0.95)

    def test_the_rule_between_one_and_ten_square_metres(self):
        pair = (-1.0, -2.0)
        self.assertAlmostEqual(by_area(pair, sqrt(10)), -1.5)
        self.assertEqual([by_area(pair, a, "c_pe,1 below 10 m²") for a in (0.5, 9.9, 10.0)], [-2.0, -2.0, -1.0])
        self.assertEqual([by_area(pair, a, "c_pe,10") for a in (0.5, 9.9, 10.0)], [-1.0, -1.0, -1.0])

    def test_friction_walls_and_inside_by_direction(self):
        def document(**changes):
            return read_document({**drying_hall().model_dump(mode="json"), **changes})

        def loads(d):
            loading = load(d, expand(d))
            return {case.name: loading.expected[i] for i, case in enumerate(loading.cases) if case.nature == "wind"}

        def along(**changes):
            return next(total[1] for name, total in loads(document(**changes)).items() if "from front" in name)

        rubbed, none = along(), along(wind={"friction": "none"})
        twice = along(national={"wind": {"friction_very_rough": 0.08}})
        self.assertGreater(rubbed, none + 1000)
        self.assertAlmostEqual(twice - none, 2 * (rubbed - none), delta=1e-6 * abs(rubbed))
        # a tower 8 m wide: by figure 7.4 its windward face takes q_p(b) up to b = 8 m, else q_p(h) all over
        tower = {"bays": [{"span": 8.0}], "eaves_height": 14.0, "spacings": [6.0] * 4, "front": {"kind": "posts"}}
        strips, even = (
            along(hall=tower, wind={"friction": "none"}, national={"wind": {"wall_heights": rule}})
            for rule in ("figure 7.4", "h")
        )
        self.assertGreater(even, strips * 1.03)
        own = {"inside": {"kind": "own", "values": [0.0], "by_direction": {"left": [0.2, -0.3]}}}
        found = list(loads(document(wind=own)))
        self.assertGreater(sum("from left" in name for name in found), sum("from right" in name for name in found))


class TheList(unittest.TestCase):
    def test_every_value_has_its_place_and_what_it_says(self):
        document = Document().model_dump(mode="json")
        found = national_values()
        self.assertEqual(len({v.path for v in found}), len(found))
        for value in found:
            at = document
            for key in value.path.split("."):
                at = at[key]
            self.assertEqual(at, value.recommended, value.path)
            self.assertTrue(value.symbol and value.words and value.clause, value.path)
            self.assertIn(value.group, GROUPS)

    def test_a_change_makes_stale_what_it_acts_on(self):
        first = fingerprints(Document())
        for group, value, stage in (
            ("basis", {"importance": 1.1}, "combinations"),
            ("snow", {"flat": 1.0}, "loading"),
            ("wind", {"turbulence": 1.1}, "loading"),
            ("imperfections", {"sway": 300}, "loading"),
            ("steel", {"beta": 1.0}, "verification"),
        ):
            then = fingerprints(read_document({"national": {group: value}}))
            stages = list(first)
            changed = [name for name in stages if first[name] != then[name]]
            self.assertEqual(changed, stages[stages.index(stage) :], group)
