"""Panels: exact line loads from pressures on any polygon, by hand and as properties of random ones."""

import unittest
from dataclasses import replace

import numpy as np
import shapely
from shapely.geometry import Polygon

from engine.actions.cases import Case, Loading
from engine.actions.panels import cut, outline, press, spread
from engine.balance import balances
from engine.document import Document, read_document
from engine.document.floors import FloorJig
from engine.document.jigs import Gable, HallJig, Purlins
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.audit import audit
from engine.structure.model import Panel
from tests.engine.helpers import by_case, hall

DOWN = np.array([0.0, 0.0, -1.0])


def flat_panel(lines, span=(0, 1, 0), corners=((0, 0), (6, 0), (6, 4), (0, 4)), **more):
    """A level panel over members drawn between points of the plan, with the structure they stand in."""
    points = [(*p, 0.0) for line in lines for p in line]
    data = {
        "units": "N, m",
        "nodes": [{"name": f"n{i}", "at": p} for i, p in enumerate(points)],
        "members": [
            {"name": f"m{k}", "start": f"n{2 * k}", "end": f"n{2 * k + 1}", "section": "IPE 200"}
            for k in range(len(lines))
        ],
        "supports": [{"node": "n0", "fixed": ["x", "y", "z", "rx", "ry", "rz"]}],
    }
    structure = expand(read_document(data))
    names = tuple(m.name for m in structure.members)
    xyz = np.array([(*c, 0.0) for c in corners])
    panel = Panel("p", "floor", xyz, np.array([0, 0, 1.0]), np.array(span, dtype=float), names, **more)
    return replace(structure, panels=(panel,)), panel


def loads_of(structure, panel, pressure=1000.0, within=None):
    """(member, start, end, first, last) of the line loads, downwards in N/m, and the loading."""
    loading = Loading()
    case = loading.add_case(Case("a", "a", "permanent"))
    press(loading, case, panel, DOWN, pressure, within)
    loading.spread = spread(structure, loading)
    t = loading.spread
    rows = [
        (structure.members[m].name, s, e, -first[2], -last[2])
        for m, s, e, first, last in zip(t.member, t.start, t.end, t.first, t.last, strict=True)
    ]
    return rows, loading


def total(rows):
    found = {}
    for name, start, end, first, last in rows:
        found[name] = found.get(name, 0.0) + (first + last) / 2 * (end - start)
    return found


class OneWay(unittest.TestCase):
    def test_half_of_each_field_by_hand(self):
        # three beams along x at y = 0, 1, 4: fields of 1 and 3 m
        structure, panel = flat_panel([((0, y), (6, y)) for y in (0, 1, 4)])
        rows, loading = loads_of(structure, panel)
        self.assertEqual({r[0]: r[3] for r in rows}, {"m0": 500.0, "m1": 2000.0, "m2": 1500.0})
        self.assertAlmostEqual(loading.expected[0][2], -24000)

    def test_a_part_across_the_middle_of_a_field_is_shared(self):
        structure, panel = flat_panel([((0, 0), (6, 0)), ((0, 4), (6, 4))])
        rows, _ = loads_of(structure, panel, within=np.array([(1, 1.5, 0), (3, 1.5, 0), (3, 3.5, 0), (1, 3.5, 0)]))
        self.assertEqual(sorted(rows), [("m0", 1.0, 3.0, 500.0, 500.0), ("m1", 1.0, 3.0, 1500.0, 1500.0)])

    def test_a_triangle_gives_a_load_that_runs_linearly(self):
        structure, panel = flat_panel([((0, 0), (6, 0)), ((0, 4), (6, 4))], corners=((0, 0), (6, 0), (0, 4)))
        rows, _ = loads_of(structure, panel)
        # the width is 4 − 2x/3, of which the lower beam takes the first 2 m: full until x = 3
        self.assertAlmostEqual(total(rows)["m0"], 1000 * (2 * 3 + 3), delta=1e-6)
        self.assertAlmostEqual(total(rows)["m1"], 1000 * 3, delta=1e-6)
        upper = sorted(r[1:] for r in rows if r[0] == "m1")
        np.testing.assert_allclose(upper, [(0, 3, 2000, 0)], atol=1e-6)

    def test_a_member_that_runs_backwards(self):
        structure, panel = flat_panel([((6, 0), (0, 0)), ((0, 4), (6, 4))])
        rows, _ = loads_of(structure, panel, within=np.array([(0, 0, 0), (1, 0, 0), (1, 1, 0), (0, 1, 0)]))
        self.assertEqual(rows, [("m0", 5.0, 6.0, 1000.0, 1000.0)])

    def test_an_inclined_carrier_takes_the_load_per_metre_of_itself(self):
        structure, panel = flat_panel([((0, 0), (6, 0)), ((0, 4), (6, 2))], corners=((0, 0), (6, 0), (6, 2), (0, 4)))
        rows, loading = loads_of(structure, panel)
        self.assertAlmostEqual(sum(total(rows).values()), 18000, delta=1e-6)
        self.assertAlmostEqual(total(rows)["m0"], 9000, delta=1e-6)
        self.assertAlmostEqual(max(r[2] for r in rows if r[0] == "m1"), float(np.hypot(6, 2)), delta=1e-6)

    def test_a_pressure_that_changes_along_the_carriers(self):
        structure, panel = flat_panel([((0, 0), (6, 0)), ((0, 4), (6, 4))])
        s_of_x = panel.basis[0, 0]
        rows, loading = loads_of(structure, panel, (600.0, 100.0 * s_of_x, 0.0))
        np.testing.assert_allclose([r[3:] for r in rows], [(1200, 2400)] * 2, atol=1e-9)
        self.assertAlmostEqual(loading.expected[0][2], -(600 + 1200) / 2 * 24, delta=1e-9)

    def test_what_lies_in_an_opening_loads_nobody(self):
        hole = np.array([(2, 1, 0), (4, 1, 0), (4, 3, 0), (2, 3, 0)], dtype=float)
        structure, panel = flat_panel([((0, 0), (6, 0)), ((0, 4), (6, 4))], openings=(hole,))
        rows, loading = loads_of(structure, panel)
        self.assertAlmostEqual(panel.area, 20)
        self.assertAlmostEqual(loading.expected[0][2], -20000, delta=1e-6)
        self.assertAlmostEqual(sum(total(rows).values()), 20000, delta=1e-6)
        at = [r for r in rows if r[0] == "m0" and r[1] < 3 < r[2]]
        self.assertAlmostEqual(sum(r[3] for r in at), 1000, delta=1e-6)

    def test_random_polygons_lose_nothing(self):
        rng = np.random.default_rng(11)
        for _ in range(40):
            ys = np.sort(rng.uniform(0, 4, rng.integers(1, 5)))
            tilt = rng.uniform(-0.3, 0.3, len(ys))
            structure, panel = flat_panel([((-1, y), (7, y + t)) for y, t in zip(ys, tilt, strict=True)])
            angles = np.sort(rng.uniform(0, 2 * np.pi, rng.integers(3, 8)))
            radius = rng.uniform(0.4, 3.5, len(angles))
            star = np.array([3, 2]) + np.stack([radius * np.cos(angles), 0.6 * radius * np.sin(angles)], axis=1)
            within = np.concatenate([star, np.zeros((len(star), 1))], axis=1)
            area = Polygon(star).buffer(0).intersection(shapely.box(0, 0, 6, 4)).area
            rows, loading = loads_of(structure, panel, within=within) if Polygon(star).is_valid else ([], None)
            if loading:
                self.assertAlmostEqual(sum(total(rows).values()) / 1000, area, delta=1e-6)
                self.assertAlmostEqual(-loading.expected[0][2] / 1000, area, delta=1e-6)


class TwoWays(unittest.TestCase):
    SIDES = (((0, 0), (6, 0)), ((0, 4), (6, 4)), ((0, 0.0), (0, 4)), ((6, 0), (6, 4)))

    def test_by_hand(self):
        # a field of 6 × 4 m under 1 kN/m²: triangles of 4 kN on the short sides, trapezoids of 8 kN on the long ones
        structure, panel = flat_panel(self.SIDES, two_way=True)
        rows, _ = loads_of(structure, panel)
        np.testing.assert_allclose([total(rows)[f"m{i}"] for i in range(4)], [8000, 8000, 4000, 4000], atol=1e-6)
        self.assertAlmostEqual(max(max(r[3:]) for r in rows), 2000.0, delta=1e-6)

    def test_a_part_goes_to_the_nearest_sides(self):
        structure, panel = flat_panel(self.SIDES, two_way=True)
        rows, _ = loads_of(structure, panel, within=np.array([(2, 0, 0), (4, 0, 0), (4, 1, 0), (2, 1, 0)]))
        self.assertEqual({name: round(v, 6) for name, v in total(rows).items()}, {"m0": 2000.0})

    def test_sides_that_bear_take_what_those_without_a_beam_would(self):
        # 24 kN: three sides, a triangle of 4 kN or 9 kN on the one between; two across, halves; two that meet, parted at 45°; one
        for sides, expected in (
            ((0, 1, 3), {"m0": 10, "m1": 10, "m2": 4}),
            ((0, 2, 3), {"m0": 9, "m1": 7.5, "m2": 7.5}),
            ((0, 1), {"m0": 12, "m1": 12}),
            ((0, 2), {"m0": 16, "m1": 8}),
            ((3,), {"m0": 24}),
        ):
            with self.subTest(sides=sides):
                structure, panel = flat_panel([self.SIDES[k] for k in sides], two_way=True)
                rows, loading = loads_of(structure, panel)
                self.assertEqual({name: round(v / 1000, 6) for name, v in total(rows).items()}, expected)
                self.assertAlmostEqual(sum(total(rows).values()), -loading.expected[0][2], delta=1e-6)

    def test_a_side_borne_in_part_counts_for_none(self):
        # a beam along half of one side: what the rest of that side would take must not be lost
        structure, panel = flat_panel([*self.SIDES[:3], ((6, 0), (6, 2))], two_way=True)
        rows, _ = loads_of(structure, panel)
        self.assertEqual({name: round(v / 1000, 6) for name, v in total(rows).items()}, {"m0": 10, "m1": 10, "m2": 4})

    def test_beams_one_after_another_bear_a_side(self):
        structure, panel = flat_panel([*self.SIDES[:3], ((6, 4), (6, 1)), ((6, 0), (6, 1))], two_way=True)
        rows, _ = loads_of(structure, panel)
        # the triangle of 2 m over 4 m: up to 1 m from its corner 0.5 kN
        found = {name: round(v / 1000, 6) for name, v in total(rows).items()}
        self.assertEqual(found, {"m0": 8, "m1": 8, "m2": 4, "m3": 3.5, "m4": 0.5})


class Halls(unittest.TestCase):
    def test_the_gable_spans_between_columns_posts_and_rafters(self):
        structure = expand(hall(front=Gable(kind="posts", posts=3)))
        front = next(p for p in structure.panels if p.name == "gable-front")
        self.assertAlmostEqual(front.area, 24 * 6 + 12 * 12 * np.tan(np.radians(10)), delta=1e-6)
        rows, loading = loads_of(structure, front)
        found = total(rows)
        self.assertAlmostEqual(sum(found.values()) / 1000, front.area, delta=1e-6)
        # the middle post takes 6 m; at the roof half of what lies between it and the rafters' line
        rise = 12 * np.tan(np.radians(10))
        self.assertAlmostEqual(found["front/post-2"] / 1000, 6 * (6 + rise / 2) + 6 * rise / 2 * 0.5, delta=0.01)

    def test_a_gable_without_posts_gives_half_to_the_ground(self):
        structure = expand(hall())
        back = next(p for p in structure.panels if p.name == "gable-back")
        rows, loading = loads_of(structure, back)
        self.assertAlmostEqual(sum(total(rows).values()) / 1000, back.area / 2, delta=1e-6)
        # all of it is expected, and the balance says what of it the ground takes
        self.assertAlmostEqual(-loading.expected[0][2] / 1000, back.area, delta=1e-6)
        self.assertAlmostEqual(-loading.grounded[0][2] / 1000, back.area / 2, delta=1e-6)
        self.assertEqual({r[0] for r in rows}, {"frame-8/rafter-AB-left", "frame-8/rafter-AB-right"})

    def test_purlins_of_the_same_roof_take_the_same(self):
        plain, modelled = hall(), hall(purlins=Purlins(modelled=True))
        for document in (plain, modelled):
            structure = expand(document)
            roof = structure.panels[0]
            rows, _ = loads_of(structure, roof)
            self.assertAlmostEqual(sum(total(rows).values()) / 1000, roof.area, delta=1e-6)

    def test_a_stated_pressure_on_a_part_of_a_panel(self):
        data = {
            "hall": {},
            "cases": [{"name": "sign", "nature": "imposed", "category": "E"}],
            "panel_loads": [
                {"case": "sign", "panel": "wall-A", "pressure": 2, "part": [[0, 6], [3, 6], [3, 12], [0, 12]]}
            ],
        }
        chain = by_case(read_document(data))
        number = next(i for i, c in enumerate(chain.loading.cases) if c.name == "sign")
        panel = next(p for p in chain.structure.panels if p.name == "wall-A")
        covered = sum(
            Polygon(part).area for part in cut(panel, panel.place_of(np.array(data["panel_loads"][0]["part"])))
        )
        self.assertEqual(covered, 18.0)
        balance = balances(chain.loading, chain.response)[number]
        self.assertTrue(balance.holds)
        self.assertAlmostEqual(balance.reacted[0], 2000 * 18, delta=1e-3)

    def test_floors_two_ways_and_one_way_carry_the_same(self):
        for deck in ("one way", "two ways"):
            document = Document(hall=HallJig(), jigs=[FloorJig(name="m", along=("2", "4"), deck=deck)])
            chain = by_case(document)
            case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Floors")
            area = sum(p.area for p in chain.structure.panels if p.kind == "floor")
            applied = balances(chain.loading, chain.response)[case].applied[2]
            self.assertAlmostEqual(applied / -(area * document.jigs[0].permanent * 1000), 1, delta=1e-9)

    def test_outlines_lie_in_their_planes(self):
        for panel in expand(hall(front=Gable(kind="posts"), pitch=20.0)).panels:
            back = panel.place_of(panel.flat(panel.corners))
            np.testing.assert_allclose(back, panel.corners, atol=1e-9)
            self.assertAlmostEqual(outline(panel).area, panel.area, delta=1e-9)


class Drawn(unittest.TestCase):
    """Panels by hand over a small platform: beams along X at y = 0, 3 and 6, posts below."""

    def document(self, **panel):
        beams = {"A": 0.0, "B": 3.0, "C": 6.0}
        nodes = [
            {"name": f"{k}{i}{end}", "at": [6.0 * i, y, z]}
            for k, y in beams.items()
            for i in (0, 1)
            for end, z in (("", 3.0), ("f", 0.0))
        ]
        members = [{"name": k, "start": f"{k}0", "end": f"{k}1", "section": "IPE 200"} for k in beams]
        members += [
            {"name": f"post {k}{i}", "start": f"{k}{i}f", "end": f"{k}{i}", "section": "HEA 100"}
            for k in beams
            for i in (0, 1)
        ]
        members += [{"name": f"edge {i}", "start": f"A{i}", "end": f"C{i}", "section": "IPE 160"} for i in (0, 1)]
        supports = [{"node": f"{k}{i}f", "fixed": ["x", "y", "z", "rx", "ry", "rz"]} for k in beams for i in (0, 1)]
        given = {"name": "platform", "corners": ["A0", "A1", "C1", "C0"], "permanent": 1.0, "imposed": 4.0} | panel
        return read_document({"nodes": nodes, "members": members, "supports": supports, "panels": [given]})

    def shares(self, **panel):
        chain = by_case(self.document(**panel))
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Imposed on floors")
        t, found = chain.loading.spread, {}
        for k in np.flatnonzero(t.case == case):
            name = chain.structure.members[t.member[k]].name
            found[name] = (
                found.get(name, 0.0) - float((t.first[k, 2] + t.last[k, 2]) / 2 * (t.end[k] - t.start[k])) / 1000
            )
        self.assertTrue(balances(chain.loading, chain.response)[case].holds)
        return {name: round(v, 6) for name, v in found.items()}

    def test_it_finds_the_beams_in_it_and_spans_across_the_longest(self):
        # 36 m² at 4 kN/m²: a quarter, a half, a quarter; the edges run along the span and take nothing
        self.assertEqual(self.shares(), {"A": 36.0, "B": 72.0, "C": 36.0})

    def test_some_left_out_or_named(self):
        self.assertEqual(self.shares(excluded=["B"]), {"A": 72.0, "C": 72.0})
        self.assertEqual(self.shares(carriers=["A", "B"]), {"A": 36.0, "B": 108.0})
        self.assertEqual(self.shares(span=[1, 0, 0]), {"edge 0": 72.0, "edge 1": 72.0})

    def test_an_opening(self):
        hole = [[0, 0, 3], [6, 0, 3], [6, 1.5, 3], [0, 1.5, 3]]
        self.assertEqual(self.shares(openings=[hole]), {"B": 72.0, "C": 36.0})

    def test_what_makes_no_panel_is_refused(self):
        for panel, words in (
            ({"corners": ["A0", "A1", "Z9"]}, "no node “Z9”"),
            ({"corners": ["A0", "A1", "C1f", "C0"]}, "off one plane"),
            ({"corners": ["A0", "B0", "C0"]}, "enclose no area"),
            ({"corners": ["A0", "A1", "C0", "C1"]}, "crosses itself|no area"),
            ({"corners": ["A0", "A1", "C0"], "two_way": True}, "only a rectangle"),
            ({"span": [0, 0, 1]}, "right angles to itself"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words):
                expand(self.document(**panel))

    def test_one_that_nothing_carries_is_a_snag(self):
        structure = expand(self.document(corners=[[0, 0, 5], [6, 0, 5], [6, 6, 5]]))
        self.assertIn("no carrier", [s.kind for s in audit(structure)])
