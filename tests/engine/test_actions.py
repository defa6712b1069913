"""Snow, wind and combinations at the printed values of their tables; balance and symmetry of random halls."""

import unittest

import numpy as np

from engine.actions.cases import Case
from engine.balance import balances
from engine.chain import respond
from engine.document import read_document
from engine.document.national import BasisValues
from engine.document.rules import Rules, Site
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.standards.en import snow, wind
from engine.standards.en import wind_tables as tables
from engine.standards.en.combinations import combine
from engine.standards.en.snow_cases import arrangements
from engine.standards.en.wind_cases import hall_winds
from engine.standards.en.wind_tables import coefficient
from tests.engine.helpers import FIXED, beam, hall, published

ACTIONS = published("actions.json")


class Snow(unittest.TestCase):
    def test_shape_coefficients(self):
        for pitch, value in ACTIONS["snow"]["mu1"].items():
            self.assertAlmostEqual(float(snow.mu1(float(pitch))), value, delta=1e-9)
        for pitch, value in ACTIONS["snow"]["mu2"].items():
            self.assertAlmostEqual(float(snow.mu2(float(pitch))), value, delta=1e-9)
        self.assertTrue(np.isnan(snow.mu2(60.0)))

    def test_arrangements_of_the_duopitch_roof(self):
        # 45° gives μ1 = 0.4; half of it on one slope at a time
        document = hall(pitch=45.0)
        found = [
            tuple(a.stretches[f"roof-AB-{side}"][0].mu[0] for side in ("left", "right"))
            for a in arrangements(document, expand(document))
        ]
        self.assertEqual([tuple(np.round(pair, 9)) for pair in found], [(0.4, 0.4), (0.2, 0.4), (0.4, 0.2)])

    def test_snow_acts_on_the_plan_projection(self):
        # 24 m × 42 m in plan, μ = 0.8, s_k = 0.8 kN/m²
        chain = respond(hall())
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
        total = balances(chain.loading, chain.response)[case].reacted
        self.assertAlmostEqual(total[2], -0.8 * 0.8 * 24 * 42 * 1000, delta=1)


class Wind(unittest.TestCase):
    def test_exposure_factors(self):
        for terrain, values in ACTIONS["wind"]["exposure_factor_ce"].items():
            for z, value in values.items():
                self.assertAlmostEqual(wind.peak_pressure(25.0, terrain, float(z)).exposure, value, delta=6e-5)

    def test_wall_coefficients(self):
        for row, slenderness in (("h/d=5", 5.0), ("h/d=1", 1.0), ("h/d<=0.25", 0.2)):
            for zone, value in ACTIONS["wind"]["walls_cpe10"][row].items():
                self.assertAlmostEqual(coefficient(tables.WALLS, zone, slenderness)[0][0], value, delta=1e-9)
        self.assertAlmostEqual(coefficient(tables.WALLS, "E", 0.625)[0][0], -0.4, delta=1e-9)

    def test_duopitch_coefficients(self):
        for pitch in (15, 30):
            for zone, values in ACTIONS["wind"]["duopitch_cpe10"][f"theta0_pitch{pitch}"].items():
                low, high = coefficient(tables.DUOPITCH_ACROSS, zone, pitch)
                self.assertEqual([low[0], high[0]], values)
        for zone, value in ACTIONS["wind"]["duopitch_cpe10"]["theta90_pitch15"].items():
            self.assertEqual(coefficient(tables.DUOPITCH_ALONG, zone, 15.0)[0][0], value)
        suction, pressure = coefficient(tables.DUOPITCH_ACROSS, "G", 22.5)
        self.assertAlmostEqual(suction[0], -0.65, delta=1e-9)
        self.assertAlmostEqual(pressure[0], 0.45, delta=1e-9)

    def test_hand_calculation_of_the_wind_on_the_default_hall(self):
        # h = 6 + 12 tan 10° = 8.116 m; q_b = 0.36 kN/m²; c_r = 0.19 ln(8.116/0.05) = 0.9671; I_v = 0.1964
        # c_e = (1 + 7 · 0.1964) 0.9671² = 2.221; q_p = 0.7997 kN/m²; e = min(42, 16.23) = 16.23 m
        document = hall()
        found = hall_winds(document, expand(document))[0]
        self.assertAlmostEqual(found.box.height, 8.1159, delta=1e-4)
        self.assertAlmostEqual(found.pressures[found.box.height].peak, 799.7, delta=0.5)
        self.assertAlmostEqual(found.box.e("left"), 16.232, delta=1e-3)

    def test_resultant_of_a_wind_case_by_hand(self):
        # W1: D and E on the walls and the slopes' zones, times q_p and areas, c_pi = +0.2
        document = hall()
        chain = respond(document)
        w = hall_winds(document, chain.structure)[0]
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "W1")
        q, length, rise, half = w.pressures[w.box.height].peak, 42.0, w.box.height - 6.0, 12.0
        strip, corner = 1.6232, 2 * 4.0580  # e/10 in plan, both corners of e/4
        F, G, H = -1.7 + 0.5 * 0.8, -1.2 + 0.5 * 0.4, -0.6 + 0.5 * 0.3
        J, I = -0.6 - 0.5 * 0.4, -0.6 + 0.5 * 0.2  # noqa: E741
        D, E = 0.7 + 0.1 * (w.slenderness - 0.25) / 0.75, -0.3 - 0.2 * (w.slenderness - 0.25) / 0.75
        front = strip * (F * corner + G * (length - corner)) + (H * (half - strip) - 0.2 * half) * length
        back = (J * strip + I * (half - strip) - 0.2 * half) * length
        up = -q * (front + back)
        across = q * length * 6.0 * (D - E) + q * (front - back) * rise / half
        reacted = balances(chain.loading, chain.response)[case].reacted
        self.assertAlmostEqual(reacted[2] / up, 1, delta=2e-4)
        self.assertAlmostEqual(reacted[0] / across, 1, delta=2e-4)


class Weights(unittest.TestCase):
    """What cases of weight say they hold."""

    def notes(self, document) -> list[str]:
        return [case.note for case in load(document, expand(document)).cases[:2]]

    def test_the_cladding_holds_no_purlins_that_are_members(self):
        for modelled, words in ((True, "sheeting with rails"), (False, "sheeting with purlins and rails")):
            document = read_document({"hall": {"purlins": {"modelled": modelled}}})
            self.assertEqual(self.notes(document), ["", words])

    def test_concrete_is_told_beside_steel(self):
        lines = {"south": "ab", "east": "bc", "north": "cd", "west": "da"}
        document = read_document(
            {
                "nodes": [
                    {"name": n, "at": at}
                    for n, at in zip("abcd", ([0, 0, 4], [6, 0, 4], [6, 4, 4], [0, 4, 4]), strict=True)
                ],
                "members": [
                    {"name": m, "start": a, "end": b, "section": "IPE 300", "role": "main beam"}
                    for m, (a, b) in lines.items()
                ],
                "supports": [{"node": n, "fixed": ["x", "y", "z"]} for n in "abcd"],
                "panels": [
                    {
                        "name": "floor",
                        "corners": list("abcd"),
                        "diaphragm": "slab",
                        "slab": {"thickness": 0.2, "material": "C25/30"},
                    }
                ],
            }
        )
        # 6 · 4 · 0.2 m³ of 2,500 kg/m³, and 20 m of 42.2 kg/m, at 9.81 m/s²
        self.assertEqual(self.notes(document)[0], "of C25/30 117.7 kN, steel 8.3 kN")


class Balance(unittest.TestCase):
    def test_every_case_of_random_halls(self):
        rng = np.random.default_rng(7)
        for _ in range(8):
            document = hall(
                span=float(rng.uniform(8, 40)),
                eaves_height=float(rng.uniform(3, 12)),
                pitch=float(rng.uniform(5, 44)),
                frames=int(rng.integers(2, 9)),
                spacing=float(rng.uniform(3, 8)),
                bases=str(rng.choice(["pinned", "fixed"])),
            )
            chain = respond(document)
            for case, balance in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
                self.assertTrue(balance.holds, f"{case.name}: {balance}")
                self.assertGreater(np.linalg.norm(balance.expected), 0)

    def test_a_load_on_nobody_is_flagged(self):
        # expectation and application are independent: a lost load shows
        chain = respond(hall())
        chain.loading.expected[0] = chain.loading.expected[0] * 1.01
        self.assertFalse(balances(chain.loading, chain.response)[0].holds)

    def test_mirrored_wind_gives_mirrored_reactions(self):
        chain = respond(hall())
        names = {c.name: i for i, c in enumerate(chain.loading.cases)}
        r, nodes = chain.response.reaction, {n: i for i, n in enumerate(chain.structure.nodes)}
        pairs = 0
        for name, i in names.items():
            if not name.startswith("Wind from left"):
                continue
            j = names[name.replace("from left", "from right")]
            a = r[nodes["frame-3/base-A"], :3, i] * [-1, 1, 1]
            b = r[nodes["frame-3/base-B"], :3, j]
            # the bracing pattern is mirrored too, so the two agree to rounding
            self.assertLess(np.abs(a - b).max(), 1e-3 * np.abs(a).max())
            pairs += 1
        self.assertEqual(pairs, 8)


class Combinations(unittest.TestCase):
    CASES = (
        Case("Self-weight", "G1", "permanent"),
        Case("Snow a", "S1", "snow", "snow"),
        Case("Snow b", "S2", "snow", "snow"),
        Case("Wind", "W1", "wind", "wind"),
    )

    def factors(self, use, site=None):
        found = combine(list(self.CASES), Rules(), site or Site(), BasisValues())
        return {tuple(c.factors) for c in found if c.use == use}

    def test_strength_by_hand(self):
        expected = set()
        for g in (1.35, 1.0):
            expected |= {(g, 0, 0, 0), (g, 1.5, 0, 0), (g, 0, 1.5, 0), (g, 0, 0, 1.5)}
            for first in (True, False):
                s, w = (1.5, 0.9) if first else (0.75, 1.5)
                expected |= {(g, s, 0, w), (g, 0, s, w)}
        self.assertEqual({tuple(np.round(f, 9)) for f in self.factors("strength")}, expected)

    def test_characteristic_by_hand(self):
        expected = {(1, 0, 0, 0), (1, 1, 0, 0), (1, 0, 1, 0), (1, 0, 0, 1)}
        expected |= {(1, 1, 0, 0.6), (1, 0, 1, 0.6), (1, 0.5, 0, 1), (1, 0, 0.5, 1)}
        self.assertEqual({tuple(np.round(f, 9)) for f in self.factors("deflection")}, expected)

    def test_snow_accompanies_more_above_1000_m(self):
        self.assertIn(
            (1.35, 1.05, 0, 1.5), {tuple(np.round(f, 9)) for f in self.factors("strength", Site(altitude=1200))}
        )

    def test_formula_in_symbols(self):
        found = combine(list(self.CASES), Rules(), Site(), BasisValues())
        self.assertIn("1.35 G1 + 1.5 S1 + 0.9 W1", {c.formula for c in found})

    def test_names_are_unique_and_no_combination_stands_twice(self):
        found = respond(hall()).combinations
        self.assertEqual(len({c.name for c in found}), len(found))
        self.assertEqual(len({(c.use, c.factors.tobytes()) for c in found}), len(found))


class StatedLoads(unittest.TestCase):
    def refused(self, words, **more):
        data = beam(supports=[{"node": "n0", "fixed": FIXED}], **more)
        with self.assertRaisesRegex(ModelError, words):
            respond(read_document(data))

    def test_errors_name_the_thing(self):
        self.refused("case “Q”", node_loads=[{"case": "Q", "node": "n1", "force": [0, 0, 1]}])
        self.refused("node “n9”", node_loads=[{"case": "P", "node": "n9", "force": [0, 0, 1]}])
        self.refused("member “b9”", member_loads=[{"case": "P", "member": "b9", "value": [0, 0, 1]}])
        self.refused("beyond", member_loads=[{"case": "P", "member": "b0", "value": [0, 0, 1], "start": 1, "end": 7}])
        self.refused("“X” is empty", combinations=[{"name": "X", "factors": {}}])
        self.refused("refers to case “Q”", combinations=[{"name": "X", "factors": {"Q": 1}}])

    def test_self_weight_is_counted_once(self):
        with self.assertRaisesRegex(ModelError, "twice"):
            respond(
                read_document({"hall": {}, "cases": [{"name": "again", "nature": "permanent", "self_weight": True}]})
            )
