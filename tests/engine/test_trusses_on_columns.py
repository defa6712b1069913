"""Trusses on columns that stand: what they meet, what they carry, and the wind on their roofs."""

from __future__ import annotations

import unittest

import numpy as np

from engine.balance import balances
from engine.document import Document
from engine.document.byhand import MemberInput, NodeInput, SupportInput
from engine.document.floors import FloorGrid, FloorJig
from engine.document.jigs import Repeat, TrussJig
from engine.document.rules import Site
from engine.editing.apply import operate
from engine.editing.operations import ReleaseJig, RemoveMembers
from engine.errors import ModelError
from engine.expand import expand
from engine.standards.en.wind_cases import hall_winds
from engine.standards.family import family
from engine.structure.audit import audit
from tests.engine.helpers import by_case


def columns(heights=(6.0, 6.0)) -> Document:
    """Four frames of two columns, 15 m apart, 5 m from frame to frame, clamped."""
    nodes, members, supports = [], [], []
    for k in range(4):
        for side, x, h in (("a", 0.0, heights[0]), ("b", 15.0, heights[1])):
            foot, head = f"{side}{k}f", f"{side}{k}h"
            nodes += [NodeInput(name=foot, at=(x, 5.0 * k, 0.0)), NodeInput(name=head, at=(x, 5.0 * k, h))]
            members.append(MemberInput(name=f"{side}{k}", start=foot, end=head, section="HEB 240", role="column"))
            supports.append(SupportInput(node=foot, fixed=["x", "y", "z", "rx", "ry", "rz"]))
    return Document(nodes=nodes, members=members, supports=supports, site=Site(ground_snow=1.0))


def truss(**more) -> TrussJig:
    values = {"name": "t", "on": ["a0", "b0"], "repeat": Repeat(count=4, step=(0, 5, 0)), "roofed": True, "braced": [1]}
    return TrussJig(**values | more)


def with_truss(document: Document, **more) -> Document:
    return document.model_copy(update={"jigs": [*document.jigs, truss(**more)]})


class OnColumns(unittest.TestCase):
    def test_the_top_chord_meets_the_heads_and_the_bottom_chord_the_columns_below(self):
        built = expand(with_truss(columns()))
        at = dict(zip(built.nodes, built.xyz, strict=True))
        column = built.member("a2")
        self.assertEqual(len(column.nodes), 3)
        self.assertAlmostEqual(float(built.xyz[column.nodes[1], 2]), 5.0)
        apex = max(float(z) for name, (_, _, z) in at.items() if name.startswith("t/"))
        # 1 m deep at the supports, 2 m at the apex
        self.assertAlmostEqual(apex, 7.0)
        self.assertEqual([s.what for s in audit(built) if s.weight == "fault"], [])

    def test_the_bottom_chord_on_the_heads(self):
        built = expand(with_truss(columns(), seat="bottom chord", height_support=0.0))
        self.assertEqual(len(built.member("a2").nodes), 2)
        self.assertAlmostEqual(float(built.xyz[:, 2].max()), 8.0)

    def test_it_follows_the_columns_and_takes_no_support_of_its_own(self):
        for height in (6.0, 7.5):
            built = expand(with_truss(columns((height, height))))
            self.assertAlmostEqual(float(built.xyz[:, 2].max()), height + 1.0)
            self.assertEqual(int(built.fixed[:, 2].sum()), 8)

    def test_snow_reaches_the_feet_of_its_own_frame(self):
        chain = by_case(with_truss(columns(), purlins=True))
        snow = next(i for i, c in enumerate(chain.loading.cases) if c.name == "Snow, undrifted")
        feet = [
            chain.response.reaction[chain.structure.nodes.index(f"{side}{k}f"), 2, snow]
            for k in range(4)
            for side in "ab"
        ]
        frames = np.array(feet).reshape(4, 2).sum(axis=1) / (0.8 * 15 * 5 * 1e3)
        np.testing.assert_allclose(frames, [0.5, 1.0, 1.0, 0.5], rtol=0.02)

    def test_refusals(self):
        lower, far = columns((6.0, 5.0)), columns()
        far.members = far.members[:-1]
        for document, more, words, place in (
            (lower, {}, "1000 mm apart in height", "jigs.0.on.1"),
            (far, {}, "would end in the air", "jigs.0.repeat"),
            (columns(), {"on": ["a0", "zz"]}, "no column “zz”", "jigs.0.on.1"),
            (columns(), {"on": ["a0"]}, "name both", "jigs.0.on"),
            (columns(), {"braced": [4]}, "3 fields", "jigs.0.braced.0"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as raised:
                expand(with_truss(document, **more))
            self.assertEqual(raised.exception.place, place)

    def test_a_column_below_it_cannot_be_taken_away(self):
        with self.assertRaisesRegex(ModelError, "name both"):
            expand(operate(with_truss(columns()), RemoveMembers(members=["a0"])))

    def test_a_column_that_the_jig_before_it_lost_leaves_a_snag(self):
        grid = FloorGrid(across=[7.5, 7.5], along=[5.0, 5.0])
        floor = FloorJig(name="f", level=4, grid=grid, storeys=[{"height": 4.0}])
        on = ["f/2/column-1-1", "f/2/column-3-1"]
        whole = Document(jigs=[floor, truss(on=on, repeat=Repeat(count=3, step=(0, 5, 0)), seat="bottom chord")])
        gone = operate(whole, RemoveMembers(members=[on[0], "f/column-1-1"]))
        self.assertIn("fault", {s.weight for s in audit(expand(gone))})


class Wind(unittest.TestCase):
    def test_the_only_roof_is_a_canopy_by_7_3(self):
        chain = by_case(with_truss(columns(), blockage=0.0))
        cases = {c.name: i for i, c in enumerate(chain.loading.cases)}
        # slope 1 m in 7.5 m: 7.6°; table 7.7, φ = 0: c_f = −0.6 at 5°, −0.7 at 10°
        lift = chain.loading.expected[cases["Wind from left, roof lifting"]]
        peak = float(chain.loading.cases[cases["Wind from left, roof lifting"]].note.split("q_p = ")[1].split()[0])
        c_f = np.interp(np.degrees(np.arctan(1 / 7.5)), [5, 10], [0.6, 0.7])
        self.assertAlmostEqual(lift[2] / 1000 / (c_f * peak * 15 * 15), 1, delta=5e-3)

    def test_its_height_counts_from_the_ground_whatever_it_stands_on(self):
        on_walls = Document(
            jigs=[truss(on=None, start=(0, 0, 5), end=(15, 0, 5), repeat=Repeat(count=3, step=(0, 5, 0)))]
        )
        for document in (with_truss(columns()), on_walls):
            # heads at 6 m, top chord from there to 7 m; bottom chord at 5 m, 2 m deep at the apex
            heights = {round(w.box.height, 6) for w in hall_winds(document, expand(document))}
            self.assertEqual(heights, {7.0})

    def test_over_walls_it_is_a_closed_building_in_either_order(self):
        grid = FloorGrid(across=[7.5, 7.5], along=[5.0, 5.0])
        fields = [{"line": line, "bay": 1} for line in ("A", "C", "1", "3")]
        walls = FloorJig(name="f", level=4, grid=grid, walls=True, braced=fields)
        trusses = truss(
            height_support=0.0, on=None, start=(0, 0, 4), end=(15, 0, 4), repeat=Repeat(count=3, step=(0, 5, 0))
        )
        on_it = trusses.model_copy(update={"on": ["f/column-1-1", "f/column-3-1"], "seat": "bottom chord"})
        for jigs in ([walls, on_it], [walls, trusses], [trusses, walls]):
            chain = by_case(Document(jigs=jigs, site=Site(ground_snow=1.0)))
            names = {c.name for c in chain.loading.cases if c.nature == "wind"}
            self.assertTrue(any("inside +" in name for name in names))
            self.assertFalse(any("lifting" in name for name in names))
            pushed = chain.loading.expected[
                next(i for i, c in enumerate(chain.loading.cases) if c.name.startswith("Wind from left"))
            ]
            self.assertGreater(pushed[0], 0)
            for c, balance in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
                with self.subTest(c.name):
                    self.assertTrue(balance.holds)

    def test_curved_turned_or_doubled_roofs_have_none_and_say_so(self):
        curved = with_truss(columns(), outline="curved", height_apex=3.0)
        doubled = with_truss(with_truss(columns()), name="u")
        for document in (curved, doubled):
            chain = by_case(document)
            self.assertFalse([c for c in chain.loading.cases if c.nature == "wind"])
            words = family(document).simplifications(document, chain.structure)
            self.assertTrue(any("wind on them is not generated" in w for w in words))


class Released(unittest.TestCase):
    def test_released_trusses_keep_their_cladding_and_loads(self):
        whole = with_truss(columns())
        free = by_case(operate(whole, ReleaseJig(do="release", jig="t")))
        before = by_case(whole)
        for nature in ("permanent", "snow", "imposed"):
            sums = []
            for chain in (before, free):
                own = [
                    chain.loading.expected[i][2]
                    for i, c in enumerate(chain.loading.cases)
                    if c.nature == nature and "drifted to" not in c.name
                ]
                sums.append(sum(own))
            with self.subTest(nature):
                self.assertLess(sums[0], -1e3)
                self.assertAlmostEqual(sums[0] / sums[1], 1, delta=1e-6)


class OnStoreys(unittest.TestCase):
    def whole(self, **more) -> Document:
        fields = [{"line": line, "bay": 2} for line in ("A", "D", "1", "5")]
        floor = FloorJig(
            name="s",
            level=4.0,
            grid=FloorGrid(across=[6.0] * 3, along=[6.0] * 4),
            storeys=[{"height": 3.5}],
            top="columns",
            walls=True,
            braced=fields,
        )
        on = ["s/2/column-1-1", "s/2/column-4-1"]
        return Document(jigs=[floor, truss(on=on, repeat=Repeat(count=5, step=(0, 6, 0)), purlins=True, **more)])

    def test_columns_alone_stand_on_the_outer_lines_and_bear_the_trusses(self):
        built = expand(self.whole())
        upper = [m for m in built.members if m.name.startswith("s/2/column-")]
        self.assertEqual(len(upper), 10)
        self.assertEqual([s.what for s in audit(built) if s.weight == "fault"], [])
        self.assertFalse(any(p.name.startswith("s/2/deck") for p in built.panels))

    def test_stays_hold_the_bottom_chord(self):
        held = expand(self.whole(stay_every=2)).member("t/3/bottom-1")
        # eight panels of 2.25 m
        np.testing.assert_allclose(held.inner, [0.0, 4.5, 9.0, 13.5, 18.0])
        self.assertEqual(len(expand(self.whole()).member("t/3/bottom-1").inner), 2)

    def test_wind_acts_on_walls_and_roof_and_balances(self):
        chain = by_case(self.whole(stay_every=1))
        self.assertGreater(sum(c.nature == "wind" for c in chain.loading.cases), 8)
        for c, balance in zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True):
            with self.subTest(c.name):
                self.assertTrue(balance.holds)
