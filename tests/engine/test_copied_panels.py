"""Panels copied with the members that they rest on: what a copy bears is what the first bears, turned as it is."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np

from engine import chain
from engine.document import Document, read_document
from engine.document.byhand import LevelInput
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig, RoofBay
from engine.document.loads import AreaLoad
from engine.editing.apply import operate
from engine.editing.operations import Copy, Mirror, Move, Rotate
from engine.errors import ModelError
from engine.expand import expand

SQUARE = {"a": (0, 0), "b": (6, 0), "c": (6, 4), "d": (0, 4)}
BEAMS = {"south": "ab", "east": "bc", "north": "dc", "west": "ad"}
FIXED = ["x", "y", "z", "rx", "ry", "rz"]


def table(**panel: Any) -> Document:
    """A floor of 6 × 4 m on beams and columns of 3 m, with 2 kN/m² imposed, a load on a part of it, and one on it by its name."""
    return read_document(
        {
            "name": "Table",
            "units": "kN, m",
            "nodes": [{"name": n, "at": [x, y, 3]} for n, (x, y) in SQUARE.items()]
            + [{"name": f"{n}0", "at": [x, y, 0]} for n, (x, y) in SQUARE.items()],
            "members": [
                {"name": m, "start": a, "end": b, "section": "IPE 300", "role": "main beam"}
                for m, (a, b) in BEAMS.items()
            ]
            + [{"name": f"column {n}", "start": f"{n}0", "end": n, "section": "HEA 200", "role": "column"} for n in SQUARE],
            "supports": [{"node": f"{n}0", "fixed": FIXED} for n in SQUARE],
            "panels": [{"name": "deck", "corners": list("abcd"), "imposed": 2.0} | panel],
            "cases": [{"name": "Q", "nature": "imposed"}, {"name": "A", "nature": "imposed"}],
            "panel_loads": [
                {"case": "Q", "panel": "deck", "pressure": 5.0, "axes": "down", "part": [[0, 0], [1, 0], [1, 2], [0, 2]]}
            ],
            "area_loads": [{"case": "A", "panels": ["deck"], "pressure": 1.0, "excluded": ["west"]}],
        }
    )  # fmt: skip


def pushed(document: Document, case: str) -> tuple[float, list[float]]:
    """The downward load of a case in kN, and where it acts by the reactions."""
    found = chain.respond(document)
    number = next(i for i, c in enumerate(found.loading.cases) if c.name == case)
    up = found.response.reaction[:, 2, number] / 1000
    return float(up.sum()), ((up[:, None] * found.structure.xyz[:, :2]).sum(axis=0) / up.sum()).tolist()


EVERY = [*BEAMS, *(f"column {n}" for n in SQUARE)]


class Copied(unittest.TestCase):
    def imposed(self, document: Document) -> float:
        return pushed(document, next(c for c in ("Imposed on floors",)))[0]

    def test_with_what_is_put_on_them(self) -> None:
        once = table()
        twice = operate(once, Copy(members=EVERY, step=(10, 0, 0), loads=True))
        self.assertEqual([p.name for p in twice.panels], ["deck", "deck 1"])
        self.assertAlmostEqual(self.imposed(once), 48)
        self.assertAlmostEqual(self.imposed(twice), 96)
        one, place = pushed(once, "Q")
        two, both = pushed(twice, "Q")
        self.assertAlmostEqual(two, 2 * one)
        np.testing.assert_allclose(both, [place[0] + 5, place[1]], atol=1e-6)
        # the one by its name knows the copy too, and leaves out the copy of what it left out
        area = twice.area_loads[0]
        self.assertEqual((area.panels, len(area.excluded)), (["deck", "deck 1"], 2))
        self.assertAlmostEqual(pushed(twice, "A")[0], 48)

    def test_what_is_put_on_a_level_follows_to_another_one(self) -> None:
        once = table()
        once.levels = [LevelInput(name="First", height=3.0)]
        once.area_loads = [AreaLoad(case="A", on="floors", level="First", pressure=1.0, excluded=["west"])]
        self.assertAlmostEqual(pushed(once, "A")[0], 24)
        beside = operate(once, Copy(members=EVERY, step=(10, 0, 0), loads=True))
        # at the same level it lies on the copy as it is
        self.assertEqual((len(beside.area_loads), round(pushed(beside, "A")[0], 6)), (1, 48))
        above = operate(once, Copy(members=EVERY, step=(0, 0, 3), count=2, loads=True))
        self.assertEqual(
            [(a.on, len(a.panels), len(a.excluded)) for a in above.area_loads], [("floors", 0, 1), ("panels", 2, 2)]
        )
        self.assertAlmostEqual(pushed(above, "A")[0], 72)
        self.assertAlmostEqual(pushed(operate(once, Copy(members=EVERY, step=(0, 0, 3))), "A")[0], 24)

    def test_without_loads_they_bring_their_own(self) -> None:
        twice = operate(table(), Copy(members=EVERY, step=(10, 0, 0)))
        self.assertAlmostEqual(self.imposed(twice), 96)
        self.assertEqual((len(twice.panel_loads), twice.area_loads[0].panels), (1, ["deck"]))

    def test_not_where_it_is_not_asked_for_or_rests_on_others_too(self) -> None:
        self.assertEqual(len(operate(table(), Copy(members=EVERY, step=(10, 0, 0), panels=False)).panels), 1)
        self.assertEqual(len(operate(table(), Copy(members=EVERY[1:], step=(10, 0, 0))).panels), 1)

    def test_never_twice_at_one_place(self) -> None:
        # three in a row, then the first again onto the second
        row = operate(table(), Copy(members=EVERY, step=(10, 0, 0), count=2))
        self.assertEqual(len(row.panels), 3)
        again = operate(row, Copy(members=list(BEAMS), step=(10, 0, 0)))
        self.assertEqual(len(again.panels), 3)

    def test_mirrored_and_turned(self) -> None:
        once = table()
        one, (x, y) = pushed(once, "Q")
        mirrored = operate(once, Mirror(members=EVERY, axis="X", at=8.0, supports=True, loads=True))
        two, both = pushed(mirrored, "Q")
        self.assertAlmostEqual(two, 2 * one)
        np.testing.assert_allclose(both, [8.0, y], atol=1e-6)
        # a quarter turn about (−2, 0): (x, y) comes to (−2 − y, x + 2)
        quarter = operate(once, Rotate(members=EVERY, about=(-2, 0, 0), angle=90, supports=True, loads=True))
        two, both = pushed(quarter, "Q")
        self.assertAlmostEqual(two, 2 * one)
        np.testing.assert_allclose(both, [(x - 2 - y) / 2, (y + x + 2) / 2], atol=1e-6)

    def test_walls_face_outwards_and_the_wind_turns_with_them(self) -> None:
        # a wall along y at x = 0 that faces left, with openings
        wall = {
            "kind": "surface",
            "imposed": 0.0,
            "corners": ["a0", "d0", "d", "a"],
            "carriers": ["column a", "column d"],
            "wind": {"left": 0.8, "right": -0.5, "front": -0.9, "back": -0.9},
            "openings": [[[0, 1, 1], [0, 2, 1], [0, 2, 2], [0, 1, 2]]],
        }
        once = table(**wall)
        once.panel_loads, once.area_loads = [], []
        mirrored = operate(once, Mirror(members=EVERY, axis="X", at=3.0, supports=True))
        self.assertEqual(len(mirrored.panels), 2)
        copy = mirrored.panels[1]
        self.assertEqual(copy.wind, {"right": 0.8, "left": -0.5, "front": -0.9, "back": -0.9})
        outside = {p.name: p.outside for p in expand(mirrored).panels}
        np.testing.assert_allclose(outside["deck 1"], outside["deck"] * [-1, 1, 1], atol=1e-9)
        self.assertEqual({p[0] for p in copy.openings[0]}, {6.0})
        quarter = operate(once, Rotate(members=EVERY, about=(20, 0, 0), angle=90, supports=True))
        self.assertEqual(quarter.panels[1].wind, {"front": 0.8, "back": -0.5, "right": -0.9, "left": -0.9})
        with self.assertRaisesRegex(ModelError, "copy without panels"):
            operate(once, Rotate(members=EVERY, about=(20, 0, 0), angle=30, supports=True))

    def test_moved_with_their_openings(self) -> None:
        hole = [[[1, 1, 3], [2, 1, 3], [2, 2, 3], [1, 2, 3]]]
        by_nodes = table(openings=hole)
        by_places = table(openings=hole, corners=[[0, 0, 3], [6, 0, 3], [6, 4, 3], [0, 4, 3]])
        for document in (by_nodes, by_places):
            before = expand(document).panels[0]
            moved = operate(document, Move(members=EVERY, step=(1, 2, 0.5)))
            after = expand(moved).panels[0]
            np.testing.assert_allclose(after.corners, before.corners + [1, 2, 0.5])
            np.testing.assert_allclose(after.openings[0], before.openings[0] + [1, 2, 0.5])
            self.assertEqual(self.imposed(moved), self.imposed(document))
        # one beam alone takes nothing along
        part = operate(by_nodes, Move(nodes=["a0"], step=(-1, 0, 0)))
        self.assertEqual(part.panels, by_nodes.panels)

    def test_a_slab_stays_one(self) -> None:
        slab = table(diaphragm="slab", slab={"thickness": 0.16, "material": "C25/30"})
        slab.area_loads, slab.panel_loads[0].kind, slab.panel_loads[0].part = [], "line", [(0.5, 1.0), (2.5, 1.0)]
        twice = operate(slab, Copy(members=EVERY, step=(0, 9, 0), loads=True))
        self.assertEqual(len(expand(twice).slabs), 2)
        self.assertAlmostEqual(pushed(twice, "Q")[0], 2 * 10, places=6)

    def test_decks_that_are_set_out(self) -> None:
        hall = HallJig(bays=[RoofBay(span=12.0)], spacings=[6.0] * 2)
        floor = FloorJig(name="F", along=("1", "3"), divide=1, imposed=3.0)
        document = Document(hall=hall, jigs=[floor])
        structure = expand(document)
        decks = [p for p in structure.panels if p.kind == "floor"]
        members = sorted({name for p in decks for name in p.carriers})
        up = operate(document, Copy(members=members, step=(0, 0, 1.2), supports=False))
        self.assertEqual(len(up.panels), len(decks))
        after = {p.name: p for p in expand(up).panels if p.kind == "floor" and p.jig != "F"}
        self.assertAlmostEqual(sum(p.area for p in after.values()), sum(p.area for p in decks))
        for panel in after.values():
            self.assertAlmostEqual(panel.imposed, 3000)
            self.assertAlmostEqual(panel.permanent, decks[0].permanent)
            self.assertAlmostEqual(panel.corners[0][2], decks[0].corners[0][2] + 1.2)
