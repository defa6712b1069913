"""Buildings of storeys: a repeated storey is one set out by hand, nothing stands in mid-air, and snow and wind act on the whole."""

from __future__ import annotations

import unittest

import numpy as np

from engine.balance import balances
from engine.document import Document
from engine.document.byhand import LevelInput, SupportInput
from engine.document.floors import BracedField, FloorGrid, FloorJig, FloorSections, Storey
from engine.document.jigs import HallJig, Repeat, TrussJig
from engine.document.rules import Rules
from engine.editing.apply import operate
from engine.editing.operations import ReleaseJig
from engine.errors import ModelError
from engine.expand import expand
from engine.standards.family import family
from engine.structure.audit import audit
from engine.structure.storeys import storeys
from tests.engine.helpers import by_case

SECTIONS = FloorSections(columns="HEA 220", main_beams="IPE 400", joists="IPE 270")
BRACED = [BracedField(line=line, bay=bay) for line, bay in (("A", 1), ("C", -1), ("1", 1), ("3", -1))]


def building(**more) -> FloorJig:
    """Two bays of 6 m by two of 7 m, floors at 4 m and above."""
    values = {
        "name": "office",
        "level": 4.0,
        "grid": FloorGrid(across=[6.0, 6.0], along=[7.0, 7.0]),
        "sections": SECTIONS,
        "braced": BRACED,
        "imposed": 3.0,
    }
    return FloorJig(**values | more)


def case(chain, symbol: str) -> int:
    return next(i for i, c in enumerate(chain.loading.cases) if c.symbol == symbol)


class Storeys(unittest.TestCase):
    def test_a_repeated_storey_is_one_set_out_by_hand(self):
        rules = Rules(imperfections=False)
        one = by_case(Document(jigs=[building(storeys=[Storey(height=3.5)])], rules=rules))
        above = building(
            name="above", level=7.5, base=4.0, grid=None, across=("A", "C"), along=("1", "3"), divide=2, braced=BRACED
        )
        two = by_case(Document(jigs=[building(), above], rules=rules))
        self.assertEqual(len(one.structure.members), len(two.structure.members))
        for symbol in ("G1", "Q1"):
            by_foot = []
            for chain in (one, two):
                own = chain.response.reaction[:, :3, case(chain, symbol)]
                order = np.lexsort(chain.structure.xyz.T)
                by_foot.append(own[order][np.abs(own[order]).max(axis=1) > 1e-3])
            with self.subTest(symbol):
                np.testing.assert_allclose(by_foot[0], by_foot[1], rtol=1e-6, atol=1e-3)

    def test_the_inner_column_bears_its_bay_on_every_floor_and_only_feet_are_held(self):
        chain = by_case(Document(jigs=[building(storeys=[Storey(height=3.5), Storey(height=3.0, imposed=1.0)])]))
        structure = chain.structure
        held = np.flatnonzero(structure.fixed[:, 2])
        self.assertEqual({float(z) for z in structure.xyz[held, 2]}, {0.0})
        self.assertEqual(len(held), 9)
        foot = structure.nodes.index("office/base-2-2")
        # 6 x 7 m on each floor: 3 + 3 + 1 kN/m2
        self.assertAlmostEqual(chain.response.reaction[foot, 2, case(chain, "Q1")] / (6 * 7 * 7e3), 1, delta=2e-3)
        self.assertEqual([s.what for s in audit(structure)], [])
        self.assertEqual([level.height for level in structure.levels], [4.0, 7.5, 10.5])

    def test_columns_run_through_or_are_hinged_on_each_floor(self):
        for joints, hinged in (("continuous", 0), ("hinged", 9)):
            built = expand(Document(jigs=[building(storeys=[Storey()], joints=joints)]))
            columns = [m for m in built.members if m.role == "column"]
            with self.subTest(joints):
                self.assertEqual(sum(bool(m.release_start) for m in columns), hinged)

    def test_without_bracing_it_does_not_stand_and_the_snag_says_so(self):
        built = expand(Document(jigs=[building(storeys=[Storey()], braced=[])]))
        self.assertEqual({s.kind for s in audit(built)}, {"unbraced"})

    def test_one_storey_differs_and_keeps_its_sections(self):
        built = expand(Document(jigs=[building(storeys=[Storey(columns="HEA 160"), Storey()])]))
        self.assertEqual(built.member("office/2/column-1-1").section.name, "HEA 160")
        self.assertEqual(built.member("office/3/column-1-1").section.name, "HEA 220")

    def test_members_know_their_storey(self):
        built = expand(Document(jigs=[building(storeys=[Storey(height=3.5)])]))
        by_storey = {}
        for member, storey in zip(built.members, storeys(built), strict=True):
            by_storey.setdefault(storey, set()).add(member.name)
        self.assertEqual(set(by_storey), {"office", "office/2"})
        self.assertIn("office/column-1-1", by_storey["office"])
        self.assertIn("office/2/column-1-1", by_storey["office/2"])
        self.assertEqual(set(storeys(expand(Document(hall=HallJig())))), {""})

    def test_refusals(self):
        for more, words, place in (
            ({"braced": [BracedField(line="Z")]}, "no grid line “Z”", "jigs.0.braced.0.line"),
            ({"braced": [BracedField(line="A", bay=3)]}, "has 2 fields", "jigs.0.braced.0.bay"),
            ({"walls": True, "columns": False}, "no columns", "jigs.0.walls"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as raised:
                expand(Document(jigs=[building(**more)]))
            self.assertEqual(raised.exception.place, place)
        with self.assertRaisesRegex(ModelError, "one building, and that is the hall"):
            expand(Document(hall=HallJig(), jigs=[FloorJig(name="m", along=("2", "4"), top="roof")]))


class Clad(unittest.TestCase):
    def chain(self, **more):
        return by_case(Document(jigs=[building(storeys=[Storey(height=3.5)], top="roof", walls=True, **more)]))

    def test_wind_on_the_walls_by_table_7_1(self):
        chain = self.chain()
        winds = [c for c in chain.loading.cases if c.nature == "wind"]
        self.assertEqual(
            {c.name.split(",")[0] for c in winds}, {f"Wind from {d}" for d in ("left", "right", "front", "back")}
        )
        # h = 7.5, d = 12, b = 14: h/d = 0.625, D = 0.7 + 0.1 (0.625 − 0.25)/0.75 = 0.75; E = −0.3 − 0.2 · 0.5 = −0.4
        peak = float(next(c for c in winds if "left" in c.name).note.split("q_p = ")[1].split()[0])
        expected = (0.75 + 0.4) * peak * 14 * 7.5
        first = chain.loading.cases.index(winds[0])
        self.assertAlmostEqual(chain.loading.expected[first][0] / 1000 / expected, 1, delta=2e-3)

    def test_every_case_balances_with_its_moments(self):
        for main in ("across", "along"):
            chain = self.chain(main=main)
            for c, balance in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
                with self.subTest(f"{main} {c.symbol}"):
                    self.assertTrue(balance.holds)

    def test_the_roof_bears_snow_and_no_floor_load(self):
        chain = self.chain()
        by_name = {c.name: chain.loading.expected[i][2] for i, c in enumerate(chain.loading.cases)}
        snow = 0.8 * chain.document.site.ground_snow * 12 * 14
        self.assertAlmostEqual(-by_name["Snow, undrifted"] / 1000, snow, delta=1e-6)
        # one floor below the roof
        self.assertAlmostEqual(-by_name["Imposed on floors"] / 1000, 3.0 * 12 * 14, delta=1e-6)


class Open(unittest.TestCase):
    def test_a_roof_without_walls_is_a_canopy_over_what_blocks_the_wind_and_says_what_it_leaves_out(self):
        chain = by_case(Document(jigs=[building(top="roof")]))
        cases = {c.name: i for i, c in enumerate(chain.loading.cases)}
        lift = chain.loading.expected[cases["Wind from front, roof lifting"]]
        peak = float(chain.loading.cases[cases["Wind from front, roof lifting"]].note.split("q_p = ")[1].split()[0])
        # table 7.6, 0°, φ = 1: c_f = −1.3
        self.assertAlmostEqual(lift[2] / 1000 / (1.3 * peak * 12 * 14), 1, delta=5e-3)
        self.assertAlmostEqual(float(np.abs(lift[:2]).max()), 0.0, delta=1e-6)
        words = family(chain.document).simplifications(chain.document, chain.structure)
        self.assertTrue(any("none is generated on columns" in w and "φ = 1" in w for w in words))


class Released(unittest.TestCase):
    def test_a_building_of_storeys_keeps_floors_cladding_loads_lines_and_levels(self):
        whole = Document(jigs=[building(storeys=[Storey(height=3.5)], top="roof", walls=True)])
        before, free = by_case(whole), operate(whole, ReleaseJig(do="release", jig="office"))
        after = by_case(free)
        self.assertEqual({line.name for line in after.structure.grid}, {"A", "B", "C", "1", "2", "3"})
        self.assertEqual([level.height for level in after.structure.levels], [4.0, 7.5])
        for symbol in ("G1", "Q1", "S1"):
            loads = [chain.loading.expected[case(chain, symbol)][2] for chain in (before, after)]
            with self.subTest(symbol):
                self.assertAlmostEqual(loads[0] / loads[1], 1, delta=1e-6)
        total = [
            sum(chain.loading.expected[i][2] for i, c in enumerate(chain.loading.cases) if c.nature == "permanent")
            for chain in (before, after)
        ]
        self.assertAlmostEqual(total[0] / total[1], 1, delta=1e-6)


class Levels(unittest.TestCase):
    def test_what_was_stated_lasts(self):
        def heights(eaves):
            levels = [
                LevelInput(name="crane", height=-1.2, above="Eaves"),
                LevelInput(name="rail", height=0.5, above="crane"),
            ]
            built = expand(Document(hall=HallJig(eaves_height=eaves), levels=levels))
            return {level.name: level.height for level in built.levels}

        self.assertAlmostEqual(heights(6.0)["rail"], 5.3)
        self.assertAlmostEqual(heights(7.5)["rail"], 6.8)

    def test_circles_and_lost_levels_are_refused(self):
        for levels, words in (
            ([LevelInput(name="a", height=1, above="b"), LevelInput(name="b", height=1, above="a")], "above itself"),
            ([LevelInput(name="a", height=1, above="x")], "not there"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words):
                expand(Document(levels=levels))


class InMidAir(unittest.TestCase):
    """Supports that stand on steel take their load out of the structure."""

    def test_a_truss_on_the_heads_of_a_floor_stands_on_them(self):
        roof = TrussJig(name="t", start=(0, 0, 4), end=(12, 0, 4), repeat=Repeat(count=3, step=(0, 7, 0)))
        for jigs in ([building(), roof], [roof, building()]):
            built = expand(Document(jigs=jigs))
            self.assertEqual({float(z) for z in built.xyz[built.fixed[:, 2], 2]}, {0.0})

    def test_a_truss_on_a_wall_beside_a_building_keeps_its_supports(self):
        roof = TrussJig(name="t", start=(0, 60, 5), end=(18, 60, 5), webs_pinned=False)
        built = expand(Document(jigs=[building(), roof]))
        self.assertEqual(
            sum(bool(fixed) and z == 5 for fixed, z in zip(built.fixed[:, 2], built.xyz[:, 2], strict=True)), 2
        )

    def test_a_support_by_hand_on_a_column_is_a_snag(self):
        jig = building()
        held = Document(jigs=[jig], supports=[SupportInput(node="office/2-2", fixed=["x", "y", "z"])])
        self.assertEqual([s.kind for s in audit(expand(held)) if s.weight == "fault"], ["in mid-air"])
        sideways = Document(jigs=[jig], supports=[SupportInput(node="office/2-2", fixed=["x", "y"])])
        self.assertEqual([s.kind for s in audit(expand(sideways)) if s.weight == "fault"], [])


class Mechanisms(unittest.TestCase):
    def test_unbraced_storeys_of_any_size_are_said_to_move_freely(self):
        for across, along, upper in ((2, 2, 1), (3, 4, 2), (5, 8, 1), (7, 9, 3)):
            grid = FloorGrid(across=[6.0] * across, along=[6.0] * along)
            with self.subTest(f"{across} x {along}, {upper}"), self.assertRaisesRegex(ModelError, "mechanism"):
                by_case(Document(jigs=[building(grid=grid, storeys=[Storey()] * upper, braced=[])]))


class Openings(unittest.TestCase):
    STAIR = {"field": (1, 2), "corner": (1.0, 2.0), "size": (2.6, 4.0)}

    def chain(self, **more):
        openings = more.pop("openings", [self.STAIR])
        return by_case(Document(jigs=[building(openings=openings, storeys=[Storey(height=3.5)], **more)]))

    def test_it_bears_nothing_and_all_around_it_is_carried(self):
        for more in ({}, {"main": "along"}, {"deck": "two ways"}, {"joists": 5}, {"diaphragm": "none"}):
            chain = self.chain(**more)
            with self.subTest(str(more)):
                imposed = chain.loading.expected[case(chain, "Q1")][2]
                # two floors of 12 x 14 m, less 2.6 x 4.0 m in each
                self.assertAlmostEqual(-imposed / (2 * 3e3 * (12 * 14 - 2.6 * 4.0)), 1, delta=1e-9)
                self.assertEqual(
                    [s.what for s in audit(chain.structure) if s.weight == "fault" and s.kind != "unbraced"], []
                )
                for c, balance in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
                    self.assertTrue(balance.holds, c.symbol)

    def test_joists_end_on_headers_and_headers_on_trimmers(self):
        chain = self.chain()
        built = chain.structure
        # joists stand at 2 and 4 m: the one at 2 m is cut, trimmers at 1.0 and 3.6 m
        cut = built.member("office/joist-1-2-1"), built.member("office/joist-1-2-1-beyond")
        self.assertEqual([round(built.length(m), 6) for m in cut], [2.0, 1.0])
        header = built.member("office/header-1-2-1-1")
        self.assertAlmostEqual(built.length(header), 2.6)
        self.assertEqual(len(header.nodes), 3)
        trimmer = built.member("office/trimmer-1-2-1-1")
        self.assertEqual(len(trimmer.nodes), 4)
        # a joist at 4 m keeps its whole length; nothing stands on the roof's or other fields' lines
        self.assertAlmostEqual(built.length(built.member("office/joist-1-2-2")), 7.0)

    def test_the_cut_joist_hangs_half_of_its_load_on_the_header(self):
        chain = self.chain()
        q = case(chain, "Q1")
        # its strip runs from half way to the trimmer at 1.0 m to half way to that at 3.6 m: 1.3 m; 2 m long, 3 kN/m2
        elements = chain.response.elements
        own = [e for e, m in enumerate(elements.member) if chain.structure.members[m].name == "office/joist-1-2-1"]
        ends = chain.response.end_force[own][:, :, q]
        shear = np.abs(ends[[0, -1]][[0, 1], [2, 8]])
        np.testing.assert_allclose(shear, 1.3 * 2.0 * 3e3 / 2, rtol=1e-6)

    def test_at_an_edge_and_in_no_roof(self):
        beside = {"field": (1, 1), "corner": (0.0, 0.0), "size": (2.0, 3.0)}
        built = self.chain(openings=[beside], top="roof").structure
        names = {m.name for m in built.members}
        # it begins on the beams: the joist at 2 m trims it, and one header closes it
        self.assertIn("office/header-1-1-1-2", names)
        self.assertNotIn("office/header-1-1-1-1", names)
        self.assertFalse([name for name in names if "trimmer" in name or name.startswith("office/2/header")])

    def test_refusals(self):
        for openings, words, place in (
            ([self.STAIR | {"size": (6.0, 4.0)}], "reaches beyond its field of 6 by 7 m", "jigs.0.openings.0"),
            ([self.STAIR | {"field": (3, 1)}], "no field 3:1", "jigs.0.openings.0.field"),
            ([self.STAIR, self.STAIR], "across the same joists", "jigs.0.openings.1"),
            ([self.STAIR | {"size": (0.2, 1.0)}], "less than 0.3 m", "jigs.0.openings.0"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as raised:
                expand(Document(jigs=[building(openings=openings)]))
            self.assertEqual(raised.exception.place, place)
