"""How loads and combinations come about: every formula gives the value beside it, and the last one what acts."""

import re
import unittest
from math import log, pi

import numpy as np

from engine.chain import prepare, run
from engine.demo import drying_hall, log_store, planer_shed, workshop
from engine.document import Document, read_document
from engine.document.handover import DossierPlan
from engine.document.jigs import HallJig, LeanTo, RoofBay, TrussJig
from engine.document.national import National
from engine.document.rules import Site, SnowOptions, WindOptions
from engine.dossier.compose import compose
from engine.expand import expand
from engine.load import load
from engine.standards.en.derived_lines import KINDS, SYMBOLS
from engine.standards.family import family
from tests.engine.helpers import hall
from tests.engine.latex import value

#: values that need no line of their own: partial values of bounds that a formula names
PRESSURE = ("net", "w_overhang", "w_net", "w_canopy", "w_half", "w_fr")


def loaded(document):
    structure = expand(document)
    return document, load(document, structure)


def halls():
    """Halls whose snow and wind come about in all the ways there are."""
    site = Site(ground_snow=1.2, wind_speed=27.0, terrain="III", altitude=900.0, reference_period=100)
    rough = Site(terrain="IV", around={"height": 12.0, "distance": 20.0})

    def built(snow=None, wind=None, where=site, national=None, **parameters):
        return Document(
            hall=HallJig(**parameters),
            site=where,
            snow=SnowOptions(**(snow or {})),
            wind=WindOptions(**(wind or {})),
            national=National.model_validate(national or {}),
        )

    yield built(wind={"correlation": True, "structural": 0.95, "season": 0.9, "directional": {"left": 0.85}})
    yield built(bays=[RoofBay(span=20, pitch=40)] * 2, where=rough, snow={"held": True})
    yield built(bays=[RoofBay(span=16, pitch=45)], snow={"exceptional": 2.0}, overhangs={"left": 0.8, "right": 0.8})
    yield built(bays=[RoofBay(span=16, pitch=25)] * 3, wind={"hills": {"left": {"height": 20, "upwind": 80}}})
    yield built(bays=[RoofBay(shape="flat", span=20)], snow={"parapet": 0.7})
    yield built(lean_to_left=LeanTo(span=6.0, height=4.0, pitch=8.0), bays=[RoofBay(span=20, pitch=20)])
    yield built(snow={"neighbour": {"side": "right", "above": 4.0, "width": 5.6, "gap": 2.0}})
    yield built(snow={"obstructions": [{"panel": "roof-AB-left", "at": 3.0, "height": 0.9, "start": 6, "end": 12}]})
    yield built(open_sides=True, bays=[RoofBay(span=20, pitch=10)] * 3, spacings=[6.0] * 4)
    single = RoofBay(shape="single pitch", span=10, pitch=10)
    yield built(open_sides=True, bays=[single])
    yield built(open_sides=True, bays=[single] * 3)
    yield built(spacings=[6.0] * 20, bays=[RoofBay(span=12, pitch=6)])
    yield built(national={"wind": {"basic_pressure": 0.5}}, wind={"inside": {"kind": "own", "values": [0.1]}})
    yield built(national={"wind": {"peak_pressure": 0.8, "roughness": 0.1}})
    yield built(eaves_height=15.0, bays=[RoofBay(span=10, pitch=10)])
    corners = {"a": (0, 0), "b": (6, 0), "c": (6, 5), "d": (0, 5)}
    yield read_document(
        {
            "nodes": [{"name": n, "at": [*at, 4]} for n, at in corners.items()],
            "members": [{"name": m, "start": m[0], "end": m[1], "section": "IPE 200"} for m in ("ab", "dc")],
            "supports": [{"node": n, "fixed": ["x", "y", "z", "rx"]} for n in corners],
            "panels": [
                {"name": "roof", "kind": "surface", "corners": list(corners), "snow": 0.8, "wind": {"left": -1.2}}
            ],
            "site": {"ground_snow": 1.0, "wind_speed": 25.0},
        }
    )
    for outline in ("curved", "double pitch"):
        jig = TrussJig(
            name="T", start=(0, 0, 6), end=(24, 0, 6), pattern="Warren with posts", height_support=1.0, height_apex=4.0,
            panels=6, roofed=True, repeat={"step": (0, 5, 0), "count": 4}, outline=outline,
        )  # fmt: skip
        yield Document(jigs=[jig], site=Site(ground_snow=0.8))


class Pressures(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.found = [loaded(document) for document in halls()]
        cls.loads = [(d, found, s) for d, found in cls.found for s in found.surfaces if s.reason]

    def test_every_pressure_of_snow_and_wind_has_its_reason(self):
        for _, found in self.found:
            for s in found.surfaces:
                nature = found.cases[s.case].nature
                if nature in ("snow", "wind") and s.zone != "s_e":
                    self.assertIsNotNone(s.reason, s.why)

    def test_it_ends_in_what_acts(self):
        for _, _, s in self.loads:
            v = s.reason.values
            most = max((s.at(corner) for corner in s.polygon), key=abs)
            if s.reason.kind == "snow":
                self.assertAlmostEqual(v["p"] * v.get("cover", 1.0), most, delta=1e-3 * max(abs(most), 1.0))
            else:
                acting = next(v[name] for name in PRESSURE if name in v)
                self.assertAlmostEqual(acting * v.get("cover", 1.0), most, delta=1e-6 * max(abs(most), 1.0), msg=s.why)

    def test_formulas_give_the_values_they_stand_beside(self):
        told = set()
        for _, _, s in self.loads:
            v = s.reason.values
            lines = [line for line in KINDS[s.reason.kind][2] if line.when(v)]
            shown = [line.key for line in lines]
            self.assertEqual(len(shown), len(set(shown)), shown)
            for line in lines:
                if line.formula:
                    told.add(line.formula)
                    found = value(line.formula, v)
                    self.assertAlmostEqual(found, v[line.key], delta=1e-9 * max(1.0, abs(found)), msg=line.key)
                    for name in re.findall(r"<(\w+)>", line.formula):
                        self.assertIn(name, [*shown, "l_least", "l_most", "flat", "mu3_most"])
        every = {line.formula for _, _, lines in KINDS.values() for line in lines if line.formula}
        # roofs steeper than 60° beside flatter ones in valleys are not among these
        self.assertLessEqual(len(every - told), 1, every - told)

    def test_they_are_written_with_numbers(self):
        for document, _, s in self.loads[::7]:
            for step in family(document).load_derivation(s.reason).steps:
                self.assertNotRegex(step.formula + step.numbers + step.words, r"<\w+>|\{\w+\}$|nan")
                self.assertNotEqual(step.value, "–")

    def test_every_name_has_a_symbol(self):
        for _, _, lines in KINDS.values():
            for line in lines:
                for name in [line.key, *re.findall(r"<(\w+)>", line.formula)]:
                    self.assertIn(name, SYMBOLS)


class Zones(unittest.TestCase):
    def winds(self, **parameters):
        document = Document(hall=HallJig(**parameters))
        return document, family(document).winds(document, expand(document))

    def test_an_open_roof_has_no_zones_of_a_closed_building(self):
        document, winds = self.winds(open_sides=True, bays=[RoofBay(span=12, pitch=10)])
        self.assertEqual([(w.zones, w.inside) for w in winds], [([], [])] * 4)
        told = compose(run(document), DossierPlan())
        names = {t.name for _, t in told.tables}
        self.assertIn("peak velocity pressure", names)
        self.assertFalse([name for name in names if name.startswith("wind zones")])

    def test_an_overhang_takes_the_wall_below_in_place_of_the_pressure_inside(self):
        document, winds = self.winds(overhangs={"left": 1.0, "right": 0.0})
        wind = next(w for w in winds if w.direction == "left")
        zone = next(z for z in wind.zones if z.panel.place == "overhang")
        wall = next(z for z in wind.zones if z.letter == "D")
        self.assertEqual(zone.below, wall.both[0][0])
        peak, extent, *surfaces = family(document).zone_derivations(wind, zone)
        self.assertEqual(len(surfaces), 2 if zone.both[0] != zone.both[1] else 1)
        for found, c in zip(surfaces, (zone.both[0][0], zone.both[1][0]), strict=False):
            q = wind.peak(zone) / 1000
            self.assertEqual(
                found.steps[-1].value,
                f"{q * (c - wall.both[0][0]):.{4 if abs(q * (c - wall.both[0][0])) < 1 else 3}f} kN/m²",
            )
            self.assertNotIn("c_{pi}", [step.symbol for step in found.steps])

    def test_a_case_tells_each_pressure_once_and_the_peak_before(self):
        document, found = loaded(Document(hall=HallJig()))
        case = next(i for i, c in enumerate(found.cases) if c.nature == "wind")
        derived = family(document).case_derivations(found, case)
        self.assertEqual(derived[0].title, "Peak velocity pressure")
        self.assertEqual(derived[1].title, "Extent of the zones")
        places = {f"{s.panel}, {s.zone}" for s in found.surfaces if s.case == case}
        told = [place for d in derived[2:] for place in d.title.partition(": ")[2].split("; ")]
        self.assertEqual(sorted(told), sorted(places))
        stated = next(i for i, c in enumerate(found.cases) if c.symbol == "G2")
        self.assertEqual(family(document).case_derivations(found, stated), [])


class ByHand(unittest.TestCase):
    def test_wind_on_a_wall(self):
        # terrain II, 25 m/s, ridge of a hall of 20 m at 10° on eaves of 6 m: z = 6 + 10 tan 10° = 7.763 m
        jig = HallJig(bays=[RoofBay(span=20, pitch=10)], eaves_height=6.0)
        document = Document(hall=jig, site=Site(wind_speed=25.0, terrain="II"))
        _, found = loaded(document)
        wind = next(i for i, c in enumerate(found.cases) if c.nature == "wind" and "left" in c.name)
        s = next(s for s in found.surfaces if s.case == wind and s.zone == "D")
        steps = {step.symbol: step for step in family(document).load_derivation(s.reason).steps}
        z = 6 + 10 * np.tan(10 * pi / 180)
        c_r = 0.19 * log(z / 0.05)
        q = (1 + 7 / log(z / 0.05)) * c_r**2 * 0.5 * 1.25 * 625
        self.assertEqual(steps["v_b"].value, "25.00 m/s")
        self.assertEqual(steps["c_r(z)"].value, f"{c_r:.4f}")
        self.assertEqual(steps["q_p(z_e)"].value, f"{q / 1000:.4f} kN/m²")
        self.assertEqual(steps["z_0"].words, "terrain II, table 4.1")
        self.assertEqual(steps["w_i"].clause, "(5.2)")

    def test_a_national_roughness_is_the_one_that_is_said(self):
        document = hall()
        document.national.wind.roughness = 0.1
        _, found = loaded(document)
        reason = next(s.reason for s in found.surfaces if s.reason and s.reason.kind == "wind")
        self.assertEqual(reason.values["z_0"], 0.1)
        steps = {step.symbol: step for step in family(document).load_derivation(reason).steps}
        self.assertIn("in place of table 4.1", steps["z_0"].words)

    def test_snow_on_a_steep_roof(self):
        # 45°: μ1 = 0.8 · 15/30 = 0.4; s = 0.4 · 1.2 · 1 · 1.5 = 0.72 on the plan, · cos 45° on the surface
        jig = HallJig(bays=[RoofBay(span=10, pitch=45)])
        document = Document(hall=jig, site=Site(ground_snow=1.5), snow=SnowOptions(exposure=1.2))
        _, found = loaded(document)
        snow = next(i for i, c in enumerate(found.cases) if c.nature == "snow")
        s = next(s for s in found.surfaces if s.case == snow)
        steps = {step.symbol: step.value for step in family(document).load_derivation(s.reason).steps}
        self.assertEqual(steps[r"\mu_1"], "0.4000")
        self.assertEqual(steps["s"], "0.7200 kN/m²")
        self.assertEqual(steps["p"], f"{0.72 * 2**-0.5:.4f} kN/m²")


class Factors(unittest.TestCase):
    def derived(self, document):
        found = prepare(document)
        own = family(document)
        return found, [own.factor_derivation(document, found.loading, c) for c in found.combinations]

    def test_every_factor_of_a_rule_is_its_product(self):
        ab = planer_shed()
        ab.rules.strength_rule = "6.10a/b"
        important = planer_shed()
        important.national.basis.importance = 1.1
        accident = hall()
        accident.snow.exceptional = 2.0
        for document in (drying_hall(), log_store(), workshop(), ab, important, accident):
            found, derived = self.derived(document)
            for combination, derivation in zip(found.combinations, derived, strict=True):
                acting = np.flatnonzero(combination.factors)
                self.assertEqual(len(acting), len(derivation.steps))
                for i, step in zip(acting, derivation.steps, strict=True):
                    self.assertNotIn("stated", step.words)
                    self.assertAlmostEqual(float(step.value), combination.factors[i], delta=5e-4)
                    if step.numbers:
                        self.assertAlmostEqual(value(step.numbers, {}), combination.factors[i], delta=6e-4)

    def test_by_hand(self):
        # snow leads: 1.35 G, 1.5 S, 1.5 · 0.6 W; wind leads: 1.5 W, 1.5 · 0.5 S; favourable: 1.0 G
        found, derived = self.derived(hall())
        told = {}
        for combination, derivation in zip(found.combinations, derived, strict=True):
            if combination.use == "strength":
                for step in derivation.steps:
                    told.setdefault(step.words.partition(": ")[2], set()).add((step.numbers, step.value))
        self.assertEqual(told["permanent, unfavourable"], {("1.350", "1.350")})
        self.assertEqual(told["permanent, favourable"], {("1.000", "1.000")})
        self.assertEqual(told["snow, accompanying"], {(r"1.500\cdot 0.5000", "0.7500")})
        self.assertEqual(told["wind, leading"], {("1.500", "1.500")})

    def test_what_is_stated_says_so(self):
        document = read_document(
            {
                "hall": {},
                "cases": [{"name": "Plant", "nature": "permanent"}],
                "combinations": [{"name": "mine", "use": "strength", "factors": {"Plant": 1.2}}],
            }
        )
        found, derived = self.derived(document)
        mine = next(d for c, d in zip(found.combinations, derived, strict=True) if c.name == "mine")
        self.assertEqual(mine.clause, "stated")
        self.assertTrue(all("stated" in step.words for step in mine.steps))
