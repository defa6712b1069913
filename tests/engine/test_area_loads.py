"""One pressure on many surfaces: all of it arrives, and what is left out takes none."""

from __future__ import annotations

import unittest

import numpy as np

from engine.balance import balances
from engine.document import Document
from engine.document.jigs import HallJig
from engine.document.loads import AreaLoad, CaseInput
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from tests.engine.helpers import by_case
from tests.engine.test_storeys import building


def loaded(**more) -> Document:
    values = {"case": "extra", "on": "roofs", "pressure": 0.5} | more
    return Document(
        hall=HallJig(), jigs=more.pop("jigs", []), cases=[CaseInput(name="extra")], area_loads=[AreaLoad(**values)]
    )


def total(document: Document) -> np.ndarray:
    loading = load(document, expand(document))
    return loading.expected[next(i for i, c in enumerate(loading.cases) if c.name == "extra")] / 1000


class Pressures(unittest.TestCase):
    def test_on_all_roofs_walls_and_floors(self):
        # 24 x 42 m of plan under 10°; two walls of 6 m by 42 m and two gables, which have no panels with posts here
        self.assertAlmostEqual(total(loaded(axes="plan"))[2], -0.5 * 24 * 42, delta=1e-6)
        self.assertAlmostEqual(total(loaded(axes="down"))[2], -0.5 * 24 * 42 / np.cos(np.radians(10)), delta=1e-6)
        self.assertAlmostEqual(total(loaded(on="walls", axes="normal"))[0], 0.0, delta=1e-9)
        storeys = Document(
            jigs=[building(storeys=[{"height": 3.5}])],
            cases=[CaseInput(name="extra")],
            area_loads=[AreaLoad(case="extra", on="floors", pressure=2.0)],
        )
        self.assertAlmostEqual(total(storeys)[2], -2 * 2.0 * 12 * 14, delta=1e-6)
        storeys.area_loads[0].level = "office/2"
        self.assertAlmostEqual(total(storeys)[2], -2.0 * 12 * 14, delta=1e-6)

    def test_named_walls_push_the_way_they_face(self):
        pushed = total(loaded(on="panels", panels=["wall-A", "wall-A"], axes="normal"))
        self.assertAlmostEqual(pushed[0], 0.5 * 6 * 42, delta=1e-6)

    def test_what_is_left_out_takes_none_and_its_neighbours_take_its_share(self):
        left_out = [f"frame-4/rafter-AB-{side}" for side in ("left", "right")]
        chain = by_case(loaded(axes="plan", excluded=left_out))
        case = next(i for i, c in enumerate(chain.loading.cases) if c.name == "extra")
        table = chain.loading.spread
        forces = {}
        for member, a, b, first, last in zip(
            *(column[table.case == case] for column in (table.member, table.start, table.end, table.first, table.last)),
            strict=True,
        ):
            name = chain.structure.members[member].name
            forces[name] = forces.get(name, 0.0) - (first + last)[2] / 2 * (b - a) / 1000
        self.assertFalse(set(left_out) & forces.keys())
        # between frames 3 and 5 there are 12 m now: frame 3 takes 3 + 6 m of half the roof
        self.assertAlmostEqual(forces["frame-3/rafter-AB-left"], 0.5 * 12 * 9, delta=1e-6)
        self.assertAlmostEqual(forces["frame-2/rafter-AB-left"], 0.5 * 12 * 6, delta=1e-6)
        self.assertTrue(balances(chain.loading, chain.response)[case].holds)

    def test_refusals(self):
        every = [f"frame-{k}/rafter-AB-left" for k in range(1, 9)]
        for more, words, place in (
            ({"on": "floors"}, "There are no floors", "area_loads.0.on"),
            ({"on": "floors", "level": "attic"}, "no level “attic”", "area_loads.0.level"),
            ({"on": "panels", "panels": ["deck"]}, "panel “deck”", "area_loads.0.panels.0"),
            ({"on": "panels"}, "names none", "area_loads.0.panels"),
            ({"excluded": ["m7"]}, "leaves out “m7”", "area_loads.0.excluded"),
            ({"excluded": every}, "nothing carries the load on “roof-AB-left”", "area_loads.0.excluded"),
            ({"case": "none"}, "case “none”", "area_loads.0.case"),
            ({"on": "walls", "axes": "plan"}, "stands upright", "area_loads.0.axes"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as raised:
                total(loaded(**more))
            self.assertEqual(raised.exception.place, place)
