"""Loads along lines and at points of slabs, against closed forms and published values."""

from __future__ import annotations

import unittest
from typing import Any

import numpy as np

from engine import chain
from engine.balance import balances
from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.load import load
from engine.report.acting import pressed
from tests.engine.test_slabs import ALL, POST, POST_NODES, at, corners, slab, solved, stated

E_MODULUS, THICKNESS = 30e9, 0.06


class Plate(unittest.TestCase):
    def plate(self, a: float, b: float, edges: tuple[int, ...], nu: float, *loads: dict[str, Any]) -> Document:
        """A plate of a × b m held along some of its edges, E 30 GPa, 60 mm thin."""
        held = [{"edge": k, "fixed": ["z"]} for k in edges]
        document = stated(
            nodes=[*corners(a, b), *POST_NODES],
            members=[POST],
            materials=[{"name": "plate", "E": 30e6, "G": 30e6 / (2 + 2 * nu)}],
            supports=[
                {"node": "foot", "fixed": ALL},
                {"node": "a", "fixed": ["x", "y", "z"]},
                {"node": "b", "fixed": ["y", "z"]},
            ],
            panels=[
                slab(
                    corners=["a", "b", "c", "d"],
                    slab={"thickness": THICKNESS, "material": "plate", "size": 0.25, "held": held},
                )
            ],
            panel_loads=[{"case": "Q", "panel": "slab", "axes": "down"} | one for one in loads],
        )
        # places are stated in X and Y here, in the panel's own coordinates there
        panel = expand(document).panels[0]
        for one in document.panel_loads:
            one.part = [(s, t) for s, t in panel.flat(np.array([(x, y, 3) for x, y in one.part])).tolist()]
        return document

    def reactions(self, document: Document) -> tuple[float, tuple[float, float]]:
        """The upward reaction to Q in N, and where it acts."""
        forces, _ = solved(document)
        number = next(i for i, c in enumerate(forces.loading.cases) if c.name == "Q")
        up = forces.response.reaction[:, 2, number]
        x, y = ((up * forces.structure.xyz[:, k]).sum() / up.sum() for k in (0, 1))
        for balance in balances(forces.loading, forces.response):
            self.assertTrue(balance.holds, balance)
        return float(up.sum()), (x, y)

    def test_a_line_across_a_strip_bends_it_as_a_beam(self) -> None:
        # over 4 m from edge to edge, ν = 0: w = q L³/48 D; m = q y/2, under the line itself less by half a cell's share
        document = self.plate(6, 4, (1, 3), 0.0, {"kind": "line", "pressure": 5.0, "part": [(0, 2), (6, 2)]})
        forces, found = solved(document)
        D = E_MODULUS * THICKNESS**3 / 12
        self.assertAlmostEqual(-found.movement[:, 2, 0].min() * 48 * D / (5e3 * 4**3), 1, delta=0.005)
        self.assertAlmostEqual(at(forces, found, (3, 1), "my")[0] / (5e3 / 2), 1, delta=0.005)
        self.assertAlmostEqual(max(at(forces, found, (3, 2), "my")) / (5e3 * (2 - 0.125) / 2), 1, delta=0.005)

    def test_a_force_in_the_middle_of_a_square(self) -> None:
        # Timoshenko and Woinowsky-Krieger, table 23: 0.01160 P a²/D, simply supported
        document = self.plate(6, 6, (1, 2, 3, 4), 0.3, {"kind": "point", "pressure": 20.0, "part": [(3, 3)]})
        _, found = solved(document)
        D = E_MODULUS * THICKNESS**3 / 12 / (1 - 0.3**2)
        self.assertAlmostEqual(-found.movement[:, 2, 0].min() * D / (20e3 * 36) / 0.01160, 1, delta=0.01)

    def test_force_and_place_are_kept(self) -> None:
        for one, force, place in (
            # askew across cells, within one cell, and round a corner
            ({"kind": "line", "pressure": 3.0, "part": [(1.1, 0.3), (4.1, 3.3)]}, 3e3 * 3 * 2**0.5, (2.6, 1.8)),
            ({"kind": "point", "pressure": 8.0, "part": [(1.13, 2.71)]}, 8e3, (1.13, 2.71)),
            ({"kind": "line", "pressure": 2.0, "part": [(1, 1), (3, 1), (3, 3)]}, 8e3, (2.5, 1.5)),
            # along an edge, and in a corner, where half and three quarters of a strip or square lie beside
            ({"kind": "line", "pressure": 2.0, "part": [(0, 4), (6, 4)]}, 12e3, (3.0, 4.0)),
            ({"kind": "point", "pressure": 2.0, "part": [(6, 4)]}, 2e3, (6.0, 4.0)),
        ):
            with self.subTest(one=one):
                up, found = self.reactions(self.plate(6, 4, (1, 2, 3, 4), 0.2, one))
                self.assertAlmostEqual(up / force, 1, places=6)
                for own, wanted in zip(found, place, strict=True):
                    self.assertAlmostEqual(own, wanted, delta=6e-4)

    def test_beside_an_opening_and_never_across_one(self) -> None:
        hole = [(2, 1.5, 3), (3, 1.5, 3), (3, 2.5, 3), (2, 2.5, 3)]
        beside = self.plate(6, 4, (1, 3), 0.0, {"kind": "line", "pressure": 5.0, "part": [(2, 1.5), (3, 1.5)]})
        beside.panels[0].openings = [hole]
        up, place = self.reactions(beside)
        self.assertAlmostEqual(up, 5e3, delta=1e-3)
        np.testing.assert_allclose(place, (2.5, 1.5), atol=6e-4)
        across = self.plate(6, 4, (1, 3), 0.0, {"kind": "line", "pressure": 5.0, "part": [(0.5, 2), (5.5, 2)]})
        across.panels[0].openings = [hole]
        with self.assertRaisesRegex(ModelError, "is beside it"):
            solved(across)

    def test_what_is_drawn_is_what_was_stated(self) -> None:
        document = self.plate(
            6,
            4,
            (1, 3),
            0.0,
            {"kind": "line", "pressure": 5.0, "part": [(0, 4), (6, 4)]},
            {"kind": "point", "pressure": 7.0, "part": [(3, 2)]},
        )
        forces, _ = solved(document)
        factors = np.array([1.5 if c.name == "Q" else 0.0 for c in forces.loading.cases])
        line, point = pressed(forces.structure, forces.loading, factors)
        self.assertEqual((line.kind, point.kind), ("line", "point"))
        np.testing.assert_allclose(line.force[:, 2], -7.5e3, rtol=1e-6)
        np.testing.assert_allclose(point.force[:, 2], -10.5e3, rtol=1e-6)

    def test_refused(self) -> None:
        line, point = {"kind": "line", "pressure": 1.0}, {"kind": "point", "pressure": 1.0}
        for one, words in (
            ({**line, "part": [(1, 1)]}, "along a line needs its two ends"),
            ({**line, "part": [(1, 1), (1, 1)]}, "without length"),
            ({**point, "part": [(1, 1), (2, 2)]}, "at a point needs its place"),
            ({**line, "part": [(1, 1), (7, 1)]}, "along a line of the panel “slab” is beside it"),
            ({**point, "part": [(1, 4.1)]}, "at a point of the panel “slab” is beside it"),
            ({**line, "part": [(1, 1), (2, 1)], "axes": "plan"}, "down or onto the surface"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                solved(self.plate(6, 4, (1, 3), 0.0, one))
        deck = self.plate(6, 4, (1, 3), 0.0, {**line, "part": [(1, 1), (2, 1)]})
        deck.panels[0].diaphragm = "none"
        with self.assertRaisesRegex(ModelError, "“slab” is no slab"):
            load(deck, expand(deck))

    def test_the_whole_chain_takes_them(self) -> None:
        document = self.plate(6, 4, (1, 3), 0.0, {"kind": "line", "pressure": 5.0, "part": [(0, 2), (6, 2)]})
        found = chain.run(document)
        self.assertIsNotNone(found.verification)
