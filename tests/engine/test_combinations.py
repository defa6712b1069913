"""Combinations by EN 1990 and the sway imperfections that go with them, by hand."""

import unittest
from dataclasses import replace

import numpy as np

from engine.actions.cases import Case
from engine.chain import prepare, respond
from engine.demo import DEMOS
from engine.document import Document, read_document
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig
from engine.document.national import BasisValues
from engine.document.rules import Rules, Site, SnowOptions
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.standards.en.combinations import PSI, choices, combine, foresee, leaning, psi
from engine.standards.en.imperfections import slopes, sway

G, S, T = (
    Case("Self-weight", "G1", "permanent"),
    Case("Snow a", "S1", "snow", "snow"),
    Case("Snow b", "S2", "snow", "snow"),
)
W = Case("Wind", "W1", "wind", "wind")
Q = Case("Imposed", "Q1", "imposed", "Q", category="C")
H = Case("Maintenance", "Q2", "imposed", "roof", category="H")
A = Case("Exceptional snow", "A1", "accidental", "snow")


def factors(cases, use, rules=None, site=None, basis=None):
    found = combine(cases, rules or Rules(), site or Site(), basis or BasisValues())
    return {tuple(np.round(c.factors, 9)) for c in found if c.use == use}


class Rule(unittest.TestCase):
    def test_table_a1_1(self):
        for rows, values in (
            ("AB", (0.7, 0.5, 0.3)),
            ("CDF", (0.7, 0.7, 0.6)),
            ("E", (1.0, 0.9, 0.8)),
            ("G", (0.7, 0.5, 0.3)),
            ("H", (0, 0, 0)),
        ):
            for row in rows:
                self.assertEqual(PSI[row], values)
        for row, values in (
            ("snow", (0.5, 0.2, 0)),
            ("snow above 1000 m", (0.7, 0.5, 0.2)),
            ("wind", (0.6, 0.2, 0)),
            ("temperature", (0.6, 0.5, 0)),
        ):
            self.assertEqual(PSI[row], values)
        self.assertEqual(psi(S, Rules(), Site(altitude=1001), BasisValues()), (0.7, 0.5, 0.2))
        self.assertEqual(psi(Q, Rules(psi={"C": (0.8, 0.6, 0.5)}), Site(), BasisValues()), (0.8, 0.6, 0.5))

    def test_exclusive_sets_and_maintenance_alone(self):
        found = {tuple(acting) for acting in choices([G, S, T, W, H])}
        self.assertEqual(found, {(), (1,), (2,), (3,), (1, 3), (2, 3), (4,)})

    def test_cases_that_act_together_are_one_action(self):
        # a crane's vertical and horizontal load, in two positions that exclude each other, beside wind
        C = [
            Case("Crane up, west", "C1", "crane", "place", together="west"),
            Case("Crane along, west", "C2", "crane", "place", together="west"),
            Case("Crane up, east", "C3", "crane", "place", together="east"),
        ]
        self.assertEqual(set(choices([G, *C, W])), {(), (1, 2), (3,), (4,), (1, 2, 4), (3, 4)})
        found = factors([G, *C, W], "strength")
        expected = set()
        for g in (1.35, 1.0):
            for c in ((0, 0, 0), (1.5, 1.5, 0), (0, 0, 1.5)):
                expected |= {(g, *c, 0.0), (g, *c, 0.9 if any(c) else 1.5)}
                # wind leads, the crane accompanies it with ψ0 = 1
                expected |= {(g, *c, 1.5)}
        self.assertEqual(found, expected)

    def test_6_10_a_and_b_by_hand(self):
        found = factors([G, S, W], "strength", Rules(strength_rule="6.10a/b"))
        a = {(g, 1.5 * 0.5 * s, 1.5 * 0.6 * w) for g in (1.35, 1.0) for s in (0, 1) for w in (0, 1)}
        b = {(g, *v) for g in (1.35 * 0.85, 1.0) for v in ((0, 0), (1.5, 0), (0, 1.5), (1.5, 0.9), (0.75, 1.5))}
        self.assertEqual(found, {tuple(np.round(x, 9)) for x in a | b})

    def test_uplift_by_hand(self):
        expected = {(g, *v) for g in (1.1, 0.9) for v in ((1.5, 0), (0, 1.5), (1.5, 0.9), (0.75, 1.5))}
        self.assertEqual(factors([G, S, W], "uplift"), expected)

    def test_accidental_by_hand(self):
        # usual snow does not act with the exceptional one; imposed leads with ψ1, wind follows with ψ2 and the other way
        found = factors([G, S, W, Q, A], "accidental")
        self.assertEqual(
            found, {(1, 0, 0, 0, 1), (1, 0, 0.2, 0, 1), (1, 0, 0, 0.7, 1), (1, 0, 0.2, 0.6, 1), (1, 0, 0, 0.7, 1)}
        )

    def test_seismic_by_hand(self):
        # with ψ2 of all others; it never acts as a variable load
        quake = Case("Quake", "E1", "seismic")
        self.assertEqual(factors([G, S, Q, quake], "accidental"), {(1, 0, 0, 1), (1, 0, 0.6, 1)})
        self.assertTrue(all(f[3] == 0 for f in factors([G, S, Q, quake], "strength")))

    def test_service_by_hand(self):
        self.assertEqual(factors([G, S, W], "frequent"), {(1, 0, 0), (1, 0.2, 0), (1, 0, 0.2)})
        self.assertEqual(factors([G, S, Q], "quasi-permanent"), {(1, 0, 0), (1, 0, 0.6)})
        self.assertEqual(factors([G, S, W], "variable"), {(0, 1, 0), (0, 0, 1), (0, 1, 0.6), (0, 0.5, 1)})


class Imperfections(unittest.TestCase):
    def test_sway_by_hand(self):
        # h = 6 m: α_h = 2/√6 = 0.816; m = 2: α_m = √0.75 = 0.866; φ = 1/283
        self.assertAlmostEqual(1 / sway(6.0, 2), 282.8, delta=0.1)
        self.assertAlmostEqual(sway(2.0, 1), 1 / 200)
        self.assertAlmostEqual(sway(25.0, 4), (2 / 3) * np.sqrt(0.625) / 200, delta=1e-12)

    def test_they_push_with_the_vertical_load(self):
        chain = respond(Document(hall=HallJig()))
        phi = slopes(chain.structure)
        # two columns in a frame, eight in a row
        self.assertAlmostEqual(phi[0], sway(6.0, 2))
        self.assertAlmostEqual(phi[1], sway(6.0, 8))
        cases = {c.symbol: i for i, c in enumerate(chain.loading.cases)}
        down, leans = chain.loading.expected[cases["S1"]], chain.loading.leans[cases["S1"]]
        self.assertAlmostEqual(chain.loading.expected[leans[0]][0], -phi[0] * down[2], delta=1e-6)
        reacted = -chain.response.reaction[:, :3, leans[0]].sum(axis=0)
        self.assertAlmostEqual(reacted[0] / (-phi[0] * down[2]), 1, delta=1e-9)

    def test_which_combinations_lean(self):
        chain = respond(Document(hall=HallJig()))
        strength = [c for c in chain.combinations if c.use == "strength"]
        totals = chain.loading.borne
        leaning = np.array([c.nature == "imperfection" for c in chain.loading.cases])
        for c in strength:
            x, y, z = c.factors[~leaning] @ totals[~leaning]
            small = np.hypot(x, y) < -0.15 * z
            self.assertEqual(bool((c.factors[leaning] != 0).any()), bool(small), c.formula)
        gravity = [c.formula for c in strength if c.formula.startswith("1.35 (G1 + G2) + 1.5 S1 + Φ")]
        self.assertEqual(sorted(f[-4:] for f in gravity), ["(+X)", "(+Y)", "(−X)", "(−Y)"])
        self.assertFalse(any((c.factors[leaning] != 0).any() for c in chain.combinations if c.use != "strength"))

    def test_they_can_be_left_out(self):
        chain = respond(Document(hall=HallJig(), rules=Rules(imperfections=False)))
        self.assertFalse(any(c.nature == "imperfection" for c in chain.loading.cases))
        self.assertIn("1.35 (G1 + G2)", [c.formula for c in chain.combinations])


class Own(unittest.TestCase):
    def own(self, data):
        return {c.name: c for c in respond(read_document(data)).combinations if c.rule == "stated"}

    def test_those_for_strength_lean_too(self):
        data = {"hall": {}, "combinations": [{"name": "Own", "factors": {"Snow, undrifted": 1.2, "Cladding": 1.0}}]}
        self.assertEqual(sorted(self.own(data)), ["Own", *(f"Own Φ({way})" for way in ("+X", "+Y", "−X", "−Y"))])
        leaning = self.own(data)["Own Φ(−X)"]
        self.assertEqual(leaning.formula, "G2 + 1.2 S1 + Φ(−X)")
        # those that state the imperfections themselves, and those for deflection, do not
        for other in ({"factors": {"Cladding": 1.0, "Cladding, leaning along X": 1.0}}, {"use": "deflection"}):
            data["combinations"][0] |= other
            self.assertEqual(list(self.own(data)), ["Own"])

    def test_own_combinations_outlive_the_hall(self):
        data = {"hall": {}, "combinations": [{"name": "Own", "factors": {"Snow, undrifted": 1.2, "Cladding": 1.0}}]}
        self.assertEqual(self.own(data)["Own"].formula, "G2 + 1.2 S1")
        data["hall"] = {"bays": [{"span": 15}, {"span": 18}]}
        self.assertEqual(self.own(data)["Own"].formula, "G2 + 1.2 S1")
        data["site"] = {"ground_snow": 0}
        lost = respond(read_document(data)).combinations[-1]
        self.assertEqual((lost.use, lost.formula), ("lost", "lost: “Snow, undrifted”"))
        data["combinations"] = [{"name": "C1", "factors": {"Cladding": 1}}]
        with self.assertRaisesRegex(ModelError, "“C1” is the name of a generated combination"):
            respond(read_document(data))

    def test_own_cases_join_the_generated_ones(self):
        data = {
            "hall": {},
            "cases": [
                {"name": "Crane", "nature": "crane"},
                {"name": "Stores", "nature": "imposed", "category": "E", "excludes": "snow"},
            ],
            "member_loads": [
                {
                    "case": "Crane",
                    "member": "frame-2/column-A",
                    "kind": "force",
                    "value": [0, 0, -50],
                    "start": 0.5,
                    "ratio": True,
                },
                {
                    "case": "Stores",
                    "member": "frame-2/rafter-AB-left",
                    "value": [0, 0, -2],
                    "start": 0.25,
                    "end": 0.75,
                    "ratio": True,
                },
            ],
        }
        chain = respond(read_document(data))
        cases = {c.name: i for i, c in enumerate(chain.loading.cases)}
        length = chain.structure.length(chain.structure.member("frame-2/rafter-AB-left"))
        self.assertAlmostEqual(chain.loading.expected[cases["Stores"]][2], -2000 * length / 2, delta=1e-6)
        self.assertEqual(chain.loading.points[0].at, 3.0)
        snow = [i for name, i in cases.items() if chain.loading.cases[i].exclusive == "snow" and name != "Stores"]
        for c in chain.combinations:
            self.assertFalse(c.factors[cases["Stores"]] and any(c.factors[i] for i in snow), c.formula)
        self.assertTrue(any(c.factors[cases["Crane"]] and c.factors[snow[0]] for c in chain.combinations))

    def test_exceptional_snow_makes_accidental_combinations(self):
        document = Document(hall=HallJig(), snow=SnowOptions(exceptional=2.0))
        found = [c for c in respond(document).combinations if c.use == "accidental"]
        self.assertTrue(found)
        self.assertIn("A1", found[0].formula)

    def test_floors_take_their_category(self):
        jig = FloorJig(name="m", along=("2", "4"), category="E")
        chain = respond(Document(hall=HallJig(), jigs=[jig]))
        q = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Imposed on floors")
        quasi = [c.factors[q] for c in chain.combinations if c.use == "quasi-permanent"]
        self.assertEqual(max(quasi), 0.8)


class Foreseen(unittest.TestCase):
    def test_never_fewer_than_are_made_and_not_absurdly_more(self):
        for name in DEMOS:
            document = DEMOS[name]()
            cases = [c for c in load(document, expand(document)).cases if c.nature != "imperfection"]
            made = len(combine(cases, document.rules, document.site, document.national.basis))
            foreseen = foresee(cases, document.national.basis)
            self.assertLessEqual(made, foreseen, name)
            self.assertLess(foreseen, 5 * made, name)

    def test_independent_cases_beyond_reason_are_refused_before_they_are_made(self):
        # beside three of snow and twenty of wind, which exclude one another
        own = [Case(f"Own {i}", f"Q{i}", "other") for i in range(12)]
        site = [Case(f"{w} {i}", f"{w}{i}", w, exclusive=w) for w, n in (("snow", 3), ("wind", 20)) for i in range(n)]
        with self.assertRaisesRegex(ModelError, "12 of them act independently.*exclude one another"):
            combine([Case("G", "G1", "permanent"), *site, *own], Rules(), Site(), BasisValues())
        together = [replace(case, exclusive="own") for case in own]
        self.assertGreater(len(combine([*site, *together], Rules(), Site(), BasisValues())), 100)

    def test_what_an_edit_leaves_to_its_run_is_what_it_would_have_made(self):
        document = Document(hall=HallJig(spacings=[6.0, 6.0]))
        whole, left = prepare(document), prepare(document, most=100)
        self.assertEqual((left.combinations, whole.left), ([], 0))
        self.assertGreaterEqual(left.count(), whole.count())
        one, other = respond(document, loaded=whole), respond(document, loaded=left)
        names = [(c.name, c.formula) for c in one.combinations]
        self.assertGreater(len(names), 100)
        self.assertEqual(names, [(c.name, c.formula) for c in other.combinations])
        np.testing.assert_array_equal(one.combined.alpha, other.combined.alpha)

    def test_too_many_are_refused_also_where_they_are_left(self):
        own = [{"name": f"Own {i}", "nature": "other"} for i in range(12)]
        with self.assertRaisesRegex(ModelError, "act independently"):
            prepare(Document.model_validate({"hall": {"spacings": [6.0, 6.0]}, "cases": own}), most=100)


class Leaning(unittest.TestCase):
    def test_each_way_with_the_factor_of_its_case(self):
        # one case of 100 kN down, 0.3 kN aside at most: all four ways, with its own factor
        resultants = np.array([[0.0, 0.0, -1e5], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [2e4, 0.0, 0.0]])
        leans = {0: (1, 2)}
        found = leaning(np.array([1.35, 0, 0, 0]), leans, resultants)
        self.assertEqual(
            [tuple(row) for row in found],
            [(1.35, 1.35, 0, 0), (1.35, -1.35, 0, 0), (1.35, 0, 1.35, 0), (1.35, 0, -1.35, 0)],
        )
        # pushed along X by 0.5 % to 15 %: that way alone; beyond, none (5.3.2(4))
        found = leaning(np.array([1.35, 0, 0, 0.5]), leans, resultants)
        self.assertEqual([tuple(row) for row in found], [(1.35, 1.35, 0, 0.5)])
        found = leaning(np.array([1.35, 0, 0, -0.5]), leans, resultants)
        self.assertEqual([tuple(row) for row in found], [(1.35, -1.35, 0, -0.5)])
        self.assertEqual(leaning(np.array([1.0, 0, 0, 0.8]), leans, resultants), [])
