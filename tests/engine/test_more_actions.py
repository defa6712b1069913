"""Orography, obstructions, roofs on trusses, drawn panels, reduced imposed loads, runs of members, settlements."""

import unittest
from math import log10
from unittest.mock import patch

import numpy as np

from engine.actions.cases import Case, Loading
from engine.actions.combinations import formula
from engine.balance import balances
from engine.chain import respond, run
from engine.document import Document, read_document
from engine.document.byhand import PanelInput
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig, RoofBay, TrussJig
from engine.document.national import WindValues
from engine.document.rules import Hill, Obstruction, Rules, Site, SnowOptions, WindOptions
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.standards import family as families
from engine.standards.en.imposed import area_factor, storeys_factor
from engine.standards.en.wind import crest_factor, hill_factor, site_pressure
from engine.standards.family import family
from engine.verification.checks import Checks
from engine.verification.grounds import Grounds, Lengths
from engine.verification.outcomes import Outcome
from engine.verification.stabilising import none
from tests.engine.helpers import FIXED, beam, solved


def downwards(document: Document) -> dict[str, float]:
    """Vertical load of each case, kN, after checking that every case balances."""
    forces = respond(document)
    found = {}
    for case, balance in zip(forces.loading.cases, balances(forces.loading, forces.response), strict=True):
        assert balance.holds, case.name
        found[case.name] = -float(balance.applied[2]) / 1000
    return found


class Orography(unittest.TestCase):
    def test_ridge_by_hand(self):
        # H = 40, L_u = 300: Φ = 0.1333, z/L_e = 1/30: A = 0.95067, B = 2.61074 upwind and −1.73000 downwind
        for x, share in ((0.0, 0.95067), (-150.0, 0.25770), (150.0, 0.40028)):
            hill = Hill(height=40, upwind=300, downwind=300, x=x)
            self.assertAlmostEqual(crest_factor(hill, 10.0), share, delta=2e-5)
            self.assertAlmostEqual(hill_factor(hill, 10.0), 1 + 2 * share * 40 / 300, delta=1e-5)

    def test_steep_cliff_by_hand(self):
        # Φ = 0.4: L_e = 400 m; behind the edge at x = L_e and z = 0.1 L_e: s = C = 0.3550; c_o = 1 + 0.6 s
        hill = Hill(kind="cliff", height=120, upwind=300, x=400)
        self.assertAlmostEqual(crest_factor(hill, 40.0), 0.3550, delta=1e-9)
        self.assertAlmostEqual(hill_factor(hill, 40.0), 1.2130, delta=1e-9)

    def test_behind_a_cliff_by_the_formulas_of_the_annex(self):
        # (A.7) to (A.11), typed a second time; H = 60, L_u = 100: Φ = 0.6, L_e = 200 m
        for x in (30.0, 100.0, 400.0, 690.0):
            for z in (22.0, 60.0, 200.0, 390.0, 900.0):
                Z = log10(min(z / 200, 2.0))
                X = log10(x / 200)
                A = -1.3420 * Z**3 - 0.8222 * Z**2 + 0.4609 * Z - 0.0791
                B = -1.0196 * Z**3 - 0.8910 * Z**2 + 0.5343 * Z - 0.1156
                C = 0.8030 * Z**3 + 0.4236 * Z**2 - 0.5738 * Z + 0.1606
                hill = Hill(kind="cliff", height=60, upwind=100, x=x)
                self.assertAlmostEqual(
                    crest_factor(hill, z), max(A * X * X + B * X + C, 0.0), delta=1e-12, msg=f"{x} {z}"
                )
        for z in (1.0, 20.0):
            # below 0.1 L_e as at it
            hill = Hill(kind="cliff", height=60, upwind=100, x=100)
            self.assertAlmostEqual(crest_factor(hill, z), crest_factor(hill, 20.0), delta=1e-12)

    def test_where_the_hill_ends(self):
        # nothing beyond 1.5 L_u before the crest, 2 L_d behind a ridge, 3.5 L_e behind a cliff; something just within
        for hill, edge in (
            (Hill(height=40, upwind=300, downwind=200), -450.0),
            (Hill(height=40, upwind=300, downwind=200), 400.0),
            (Hill(kind="cliff", height=60, upwind=100), 700.0),
        ):
            inside, outside = (
                crest_factor(hill.model_copy(update={"x": edge * share}), 30.0) for share in (0.98, 1.02)
            )
            self.assertEqual(outside, 0.0)
            self.assertGreater(inside, 0.01)

    def test_continuous_at_the_crest_and_nought_far_away(self):
        for kind in ("hill", "cliff"):
            before, at, behind = (crest_factor(Hill(kind=kind, x=x), 12.0) for x in (-1e-6, 0.0, 1e-6))
            self.assertAlmostEqual(before, at, delta=1e-6)
            self.assertAlmostEqual(behind, at, delta=1e-6)
            for x in (-1000.0, 5000.0):
                self.assertEqual(hill_factor(Hill(kind=kind, x=x), 12.0), 1.0)
        self.assertEqual(hill_factor(Hill(height=10, upwind=300), 5.0), 1.0)

    def test_goes_into_the_peak_pressure_of_its_direction_alone(self):
        options = WindOptions(hills={"left": Hill(height=40, upwind=300)})
        left, right = (site_pressure(Site(), options, WindValues(), d, 10.0, 10.0) for d in ("left", "right"))
        self.assertAlmostEqual(left.orography, 1.25351, delta=1e-5)
        self.assertEqual(right.orography, 1.0)
        self.assertGreater(left.peak, 1.3 * right.peak)


class Obstructions(unittest.TestCase):
    def document(self, **more) -> Document:
        options = SnowOptions(obstructions=[Obstruction(panel="roof-AB", at=8.0, height=0.7, **more)])
        hall = HallJig(bays=[RoofBay(shape="flat", span=20.0)], spacings=[6.0] * 4)
        return Document(hall=hall, snow=options, site=Site(ground_snow=1.0, wind_speed=0.0))

    def test_triangles_on_both_sides(self):
        # μ2 = 2 · 0.7 / 1.0 = 1.4 and μ1 = 0.8 over l_s = 5 m on both sides
        found = downwards(self.document())
        self.assertAlmostEqual(found["Snow, undrifted"], 0.8 * 20 * 24, delta=1e-6)
        self.assertAlmostEqual(found["Snow, drifted at obstruction 1"], 24 * (0.8 * 20 + 0.6 * 5), delta=1e-6)

    def test_beside_its_ends_the_snow_lies_even(self):
        found = downwards(self.document(start=6.0, end=10.0))
        self.assertAlmostEqual(found["Snow, drifted at obstruction 1"], 24 * 0.8 * 20 + 4 * 0.6 * 5, delta=1e-6)

    def test_refused_off_its_roof(self):
        for more, words in (({"start": 20.0, "end": 30.0}, "reaches from 0 to 24"), ({"start": 9.0, "end": 9.0}, "y")):
            with self.assertRaisesRegex(ModelError, words):
                respond(self.document(**more))
        wrong = self.document()
        wrong.snow.obstructions[0].panel = "roof-XY"
        with self.assertRaisesRegex(ModelError, "no such roof"):
            respond(wrong)


class TrussRoofs(unittest.TestCase):
    def roof(self, **more) -> Document:
        jig = TrussJig(
            name="T",
            start=(0, 0, 6),
            end=(24, 0, 6),
            pattern="Warren with posts",
            height_support=1.0,
            panels=6,
            roofed=True,
            repeat={"step": (0, 5, 0), "count": 4},
            **more,
        )
        return Document(jigs=[jig], site=Site(ground_snow=0.8))

    def test_curved_by_figure_5_6(self):
        # rise 3 m over 24 m: μ3 = 0.2 + 10 · 3/24 = 1.45; triangles over halves: 0.375 μ3 l_s; nowhere steeper than 60°
        found = downwards(self.roof(outline="curved", height_apex=4.0))
        self.assertAlmostEqual(found["Snow, undrifted"], 0.8 * 0.8 * 24 * 15, delta=1e-6)
        for side in ("left", "right"):
            self.assertAlmostEqual(found[f"Snow on T, drifted to the {side}"], 0.375 * 1.45 * 24 * 0.8 * 15, delta=1e-6)

    def test_drift_lies_on_its_side(self):
        document = self.roof(outline="curved", height_apex=4.0)
        structure = expand(document)
        loading = load(document, structure)
        case = next(i for i, c in enumerate(loading.cases) if c.name == "Snow on T, drifted to the right")
        at = {s.panel: s.at(s.polygon.mean(axis=0)) for s in loading.surfaces if s.case == case}
        self.assertGreater(sum(at[f"T/roof-{i}"] for i in (7, 8, 9)), 1.9 * sum(at[f"T/roof-{i}"] for i in (4, 5, 6)))

    def test_double_pitch_halves_one_slope(self):
        found = downwards(self.roof(outline="double pitch", height_apex=2.2))
        even = 0.8 * 0.8 * 24 * 15
        self.assertAlmostEqual(found["Snow, drifted to the left"], 0.75 * even, delta=1e-6)

    def test_cut_chords_carry_and_other_directions_too(self):
        document = self.roof(outline="double pitch", height_apex=2.2, chords_continuous=False)
        jig = document.jigs[0]
        jig.end, jig.repeat.step = (14.4, 19.2, 6.0), (-4.0, 3.0, 0.0)
        loading = load(document, expand(document))
        snow = next(i for i, c in enumerate(loading.cases) if c.name == "Snow, undrifted")
        carried = loading.spread.case == snow
        length = (loading.spread.end - loading.spread.start)[carried]
        force = (loading.spread.first + loading.spread.last)[carried, 2] / 2 @ length
        self.assertAlmostEqual(-force / 1000, 0.8 * 0.8 * 24 * 15, delta=1e-6)

    def test_wind_on_it_is_said_not_to_be_there(self):
        document = self.roof(outline="curved")
        words = family(document).simplifications(document, expand(document))
        self.assertTrue(any("wind on them is not generated" in w for w in words))

    def test_one_truss_bears_no_cladding(self):
        document = self.roof()
        document.jigs[0].repeat.count = 1
        with self.assertRaisesRegex(ModelError, "at least two trusses"):
            expand(document)


class DrawnPanels(unittest.TestCase):
    def test_canopy_by_hand_bears_snow_and_wind(self):
        corners = [[0, 0, 4], [6, 0, 4], [6, 5, 4], [0, 5, 4]]
        names = ["a", "b", "c", "d"]
        data = {
            "nodes": [{"name": n, "at": at} for n, at in zip(names, corners, strict=True)]
            + [{"name": f"{n}0", "at": [at[0], at[1], 0]} for n, at in zip(names, corners, strict=True)],
            "members": [{"name": "ab", "start": "a", "end": "b", "section": "IPE 200"}]
            + [{"name": "dc", "start": "d", "end": "c", "section": "IPE 200"}]
            + [{"name": f"{n}{n}", "start": f"{n}0", "end": n, "section": "HEA 160"} for n in names],
            "supports": [{"node": f"{n}0", "fixed": FIXED} for n in names],
            "panels": [
                PanelInput(
                    name="roof", kind="surface", corners=names, snow=0.8, wind={"left": -1.2, "back": 0.4}
                ).model_dump()
            ],
            "site": {"ground_snow": 1.0, "wind_speed": 25.0},
        }
        document = read_document(data)
        found = downwards(document)
        self.assertAlmostEqual(found["Snow, undrifted"], 0.8 * 30, delta=1e-9)
        peak = site_pressure(document.site, document.wind, WindValues(), "left", 4.0, 4.0).peak / 1000
        self.assertAlmostEqual(found["Wind from left"], -1.2 * peak * 30, delta=1e-9)
        self.assertAlmostEqual(found["Wind from back"], 0.4 * peak * 30, delta=1e-9)
        self.assertNotIn("Wind from front", found)


class Imposed(unittest.TestCase):
    def test_factors(self):
        # (6.1): 5/7 · 0.7 + 10/A; (6.2): (2 + 2 · 0.7)/4
        np.testing.assert_allclose(area_factor([10, 20, 40], "B"), [1.0, 1.0, 0.75])
        self.assertAlmostEqual(float(area_factor(400, "C")), 0.6)
        self.assertAlmostEqual(storeys_factor(4, "B"), 0.85)
        self.assertEqual(storeys_factor(2, "B"), 1.0)

    def test_of_each_carrier(self):
        # beams of 12 m at 4 m: the middle ones carry 48 m² (α = 0.5 + 10/48), those at the edges 24 m² (0.9167)
        hall = HallJig(bays=[RoofBay(span=12.0)], spacings=[4.0] * 3)
        floor = FloorJig(
            name="F", along=("1", "4"), divide=1, joists=0, main="along", columns=False, imposed=3.0, reduced=True
        )
        full = floor.model_copy(update={"reduced": False})
        site = Site(ground_snow=0.0, wind_speed=0.0)
        reduced, whole = (downwards(Document(hall=hall, jigs=[jig], site=site)) for jig in (floor, full))
        self.assertAlmostEqual(whole["Imposed on floors"], 3 * 144, delta=1e-6)
        expected = 3 * (2 * 48 * (0.5 + 10 / 48) + 2 * 24 * (0.5 + 10 / 24))
        self.assertAlmostEqual(reduced["Imposed on floors"], expected, delta=1e-6)


class Runs(unittest.TestCase):
    def run_of_three(self, **more):
        data = beam(9.0, 4, supports=[{"node": "n0", "fixed": FIXED}, {"node": "n3", "fixed": FIXED}])
        # the middle one is drawn backwards
        data["members"][1]["start"], data["members"][1]["end"] = "n2", "n1"
        load = {
            "case": "P",
            "member": "b0",
            "run": ["b1", "b2"],
            "value": [0, 0, -2.0],
            "value_end": [0, 0, -8.0],
            **more,
        }
        return {**data, "member_loads": [load]}

    def test_like_one_member(self):
        one = beam(9.0, 2, supports=[{"node": "n0", "fixed": FIXED}, {"node": "n1", "fixed": FIXED}])
        one["member_loads"] = [{"case": "P", "member": "b0", "value": [0, 0, -2.0], "value_end": [0, 0, -8.0]}]
        _, single = solved(one)
        _, run = solved(self.run_of_three())
        for node, same in (("n0", "n0"), ("n3", "n1")):
            np.testing.assert_allclose(run["reactions"][node], single["reactions"][same], atol=1e-7)

    def test_partial_by_ratio_and_a_point(self):
        _, run = solved(self.run_of_three(start=0.25, end=0.75, ratio=True, value_end=None))
        self.assertAlmostEqual(run["reactions"]["n0"][2], 2 * 4.5 / 2, delta=1e-9)
        _, point = solved(self.run_of_three(kind="force", start=4.5, value_end=None))
        self.assertAlmostEqual(point["reactions"]["n0"][2], 1.0, delta=1e-9)

    def test_an_end_as_it_is_read_off_is_the_end(self):
        # 9.004 m is no more than 9 m rounded; a millimetre further is refused
        _, point = solved(self.run_of_three(kind="force", start=9.004, value_end=None))
        self.assertAlmostEqual(point["reactions"]["n3"][2], 2.0, delta=1e-9)
        one = beam(9.0, 2, supports=[{"node": "n0", "fixed": FIXED}, {"node": "n1", "fixed": FIXED}])
        whole = {"case": "P", "member": "b0", "value": [0, 0, -2.0], "end": 9.004}
        _, line = solved({**one, "member_loads": [whole]})
        self.assertAlmostEqual(line["reactions"]["n1"][2], 9.0, delta=1e-9)
        for data in (self.run_of_three(end=9.006), {**one, "member_loads": [{**whole, "end": 9.006}]}):
            with self.assertRaisesRegex(ModelError, "beyond the"):
                solved(data)

    def test_refused(self):
        for more, words in (
            ({"run": ["b2"]}, "does not follow"),
            ({"run": ["b1", "b0"]}, "twice"),
            ({"axes": "local"}, "global axes"),
            ({"end": 12.0}, "beyond the run"),
            ({"run": ["b7"]}, "does not exist"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                solved(self.run_of_three(**more))


class Settlements(unittest.TestCase):
    def test_clamped_beam(self):
        # M = 6 E I δ / l², V = 12 E I δ / l³
        data = beam(6.0, 2, supports=[{"node": "n0", "fixed": FIXED}, {"node": "n1", "fixed": FIXED}])
        chain, state = solved({**data, "settlements": [{"case": "P", "node": "n1", "movement": [0, 0, -0.01]}]})
        EI = 210e9 * 8.356e-05
        self.assertAlmostEqual(state["reactions"]["n0"][2] / (12 * EI * 0.01 / 216), 1.0, delta=1e-9)
        self.assertAlmostEqual(abs(state["reactions"]["n0"][4]) / (6 * EI * 0.01 / 36), 1.0, delta=1e-9)

    def test_a_free_direction_is_refused(self):
        data = beam(6.0, 2, supports=[{"node": "n0", "fixed": FIXED}])
        with self.assertRaisesRegex(ModelError, "free along Z"):
            solved({**data, "settlements": [{"case": "P", "node": "n1", "movement": [0, 0, -0.01]}]})


class Families(unittest.TestCase):
    def test_another_family_can_take_the_place(self):
        class Plain:
            def add_actions(self, loading: Loading, structure, document):
                loading.add_case(Case("Dead", "D", "permanent"))

            def finish(self, loading, structure, document):
                pass

            def combine(self, cases, rules, site, basis, leans, resultants):
                from engine.actions.combinations import Combination

                factors = np.full(len(cases), 1.4)
                return [Combination("1", "strength", formula(cases, factors), factors)]

            def foresee(self, cases, basis):
                return 1

            def simplifications(self, document, structure):
                return []

            def secondary(self, document, structure, loading):
                return []

            def checks(self, document, combined, strength):
                return Columns(PlainGrounds(document, combined, strength, none(len(combined.elements), len(strength))))

        class PlainGrounds(Grounds):
            def length_of(self, member):
                length = self.combined.structure.length(self.combined.structure.members[member])
                return Lengths(length, length, length, 0.0, False, "own length", "own length")

            def compressed(self):
                return np.ones(len(self.combined.structure.members))

        class Columns(Checks):
            """Columns by the largest stress of their axial force; of other members it knows nothing."""

            def __init__(self, grounds):
                self.grounds = grounds

            def verify(self, found):
                structure = self.grounds.combined.structure
                for i, m in enumerate(structure.members):
                    if m.role == "column":
                        most, least = self.grounds.extremes(i)
                        u = max(most.max(), -least.min()) / m.section.A / 200e6
                        found.outcomes[i].append(Outcome("section", float(u), 0, 0.0, i))
                    else:
                        found.reasons[i].append("no rule of this family speaks of it")

            def unsaid(self):
                return ("wind is no action of this family",)

        for name in Checks.__abstractmethods__ - {"verify", "unsaid"}:
            setattr(Columns, name, None)
        Columns.__abstractmethods__ = frozenset()
        document = Document(hall=HallJig(), rules=Rules())
        with patch.dict(families.FAMILIES, {"EN": Plain()}):
            forces = run(document)
        self.assertEqual([c.formula for c in forces.combinations], ["1.4 D"])
        verdicts = forces.verification.verdicts
        by_role = {
            m.role: {v.status for v in verdicts if forces.structure.members[v.member].role == m.role}
            for m in forces.structure.members
        }
        self.assertEqual(by_role["column"], {"passes"})
        self.assertEqual(by_role["rafter"], {"not covered"})
        self.assertIn("wind is no action of this family", forces.verification.left_out)
        self.assertFalse(forces.verification.whole.passes)


if __name__ == "__main__":
    unittest.main()
