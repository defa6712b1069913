"""Openings of panels by hand, and lines a thousand times too long."""

import unittest

import numpy as np

from engine.chain import run
from engine.document import read_document
from engine.errors import ModelError
from engine.structure.join import POINTS, STEP, nodes_on_lines, sample
from tests.engine.helpers import FIXED

CORNERS = {"a": [0, 0], "b": [8, 0], "c": [8, 6], "d": [0, 6]}


def box(x0, y0, x1, y1, z=3.0):
    return [[x0, y0, z], [x1, y0, z], [x1, y1, z], [x0, y1, z]]


def floor(*openings):
    """A floor of 8 by 6 m on two beams, under 3 kN/m²."""
    feet = {name.upper(): at for name, at in CORNERS.items()}
    return read_document(
        {
            "nodes": [{"name": n, "at": [*at, 3]} for n, at in CORNERS.items()]
            + [{"name": n, "at": [*at, 0]} for n, at in feet.items()],
            "members": [
                {"name": "1", "start": "a", "end": "b", "section": "IPE 300"},
                {"name": "2", "start": "d", "end": "c", "section": "IPE 300"},
                *({"name": n, "start": n.upper(), "end": n, "section": "HEA 200"} for n in CORNERS),
            ],
            "supports": [{"node": n, "fixed": FIXED} for n in feet],
            "panels": [{"name": "p", "corners": list(CORNERS), "imposed": 3, "openings": list(openings)}],
        }
    )


class Openings(unittest.TestCase):
    def test_those_apart_are_cut_out(self):
        chain = run(floor(box(1, 1, 3, 3), box(4, 1, 6, 4), box(3, 1, 4, 3)))
        self.assertAlmostEqual(chain.structure.panels[0].area, 48 - 4 - 6 - 2, delta=1e-9)
        case = next(i for i, c in enumerate(chain.loading.cases) if c.nature == "imposed")
        down = -float(chain.response.reaction[:, 2, case].sum())
        self.assertAlmostEqual(abs(down), 3e3 * 36, delta=1.0)

    def test_each_that_cannot_be_is_refused_in_words_at_its_place(self):
        for openings, words in (
            ((box(1, 1, 4, 3), box(3, 2, 6, 5)), "Opening 2 of panel “p” overlaps opening 1"),
            ((box(1, 1, 4, 3), box(2, 1.5, 3, 2)), "overlaps"),
            (([[1, 1, 3], [4, 3, 3], [4, 1, 3], [1, 3, 3]],), "The edge of opening 1 of panel “p” crosses itself"),
            ((box(-2, 1, 4, 3),), "reaches beyond its edge"),
            (([[1, 1, 3], [2, 1, 3], [3, 1, 3]],), "crosses itself|encloses no area"),
            ((box(1, 1, 4, 3, z=5.0),), "lies up to 2000 mm off its plane"),
        ):
            with self.subTest(words), self.assertRaisesRegex(ModelError, words) as refused:
                run(floor(*openings))
            self.assertRegex(refused.exception.place, r"^panels\.0\.openings\.[01]$")


class LongLines(unittest.TestCase):
    def test_what_is_looked_at_grows_with_the_lines_and_not_with_their_length(self):
        start = np.zeros((2, 3))
        end = np.array([[6.0, 0, 0], [60_000.0, 0, 0]])
        points, owner, half = sample(start, end, STEP)
        self.assertEqual(np.bincount(owner).tolist(), [2, POINTS])
        self.assertAlmostEqual(half, 60_000 / POINTS / 2, delta=1e-6)
        self.assertTrue((np.diff(points[owner == 1, 0]) > 0).all())

    def test_nodes_on_long_lines_are_found_all_the_same(self):
        rng = np.random.default_rng(5)
        start, end = rng.uniform(-9e3, 9e3, (30, 3)), rng.uniform(-9e3, 9e3, (30, 3))
        on = rng.integers(0, 30, 200)
        at = rng.uniform(0.01, 0.99, 200)[:, None]
        xyz = start[on] + at * (end[on] - start[on])
        xyz[::4] += [0, 0, 0.5]
        line, node, along, off = nodes_on_lines(xyz, start, end, 1e-3)
        found = set(zip(line.tolist(), node.tolist(), strict=True))
        expected = {(int(on[k]), k) for k in range(200) if k % 4}
        self.assertEqual(found & expected, expected)
        self.assertLessEqual(off.max(), 1e-3)
        self.assertEqual(len(along), len(found))
