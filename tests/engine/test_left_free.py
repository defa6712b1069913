"""What slack members and lifted supports leave as a mechanism; sways of storeys."""

import unittest

import numpy as np

from engine.analysis.modes import left_free
from engine.analysis.sways import storeys, sways
from engine.chain import respond, run
from engine.document import Document, read_document
from engine.document.floors import FloorJig
from engine.document.jigs import HallJig
from tests.engine.helpers import FIXED, textbook

HINGE = ["ry", "rz"]


def braced(order="first"):
    """A hinged portal with one tension-only brace, pushed from either side."""
    at = {"a": (0, 0, 0), "b": (0, 0, 4), "c": (5, 0, 4), "d": (5, 0, 0)}
    return {
        "nodes": [{"name": n, "at": list(p)} for n, p in at.items()],
        "members": [
            {"name": "ab", "start": "a", "end": "b", "section": "HEA 200"},
            {"name": "dc", "start": "d", "end": "c", "section": "HEA 200"},
            {"name": "bc", "start": "b", "end": "c", "section": "HEA 200", "releases": {"start": HINGE, "end": HINGE}},
            {"name": "br", "start": "a", "end": "c", "section": "FL 100x10", "behaviour": "tension-only"},
        ],
        "supports": [{"node": n, "fixed": ["x", "y", "z", "rx", "rz"]} for n in "ad"]
        + [{"node": n, "fixed": ["y"]} for n in "bc"],
        "cases": [{"name": "P", "nature": "wind"}, {"name": "Q", "nature": "wind"}],
        "node_loads": [
            {"case": "P", "node": "b", "force": [10, 0, -10]},
            {"case": "Q", "node": "b", "force": [-10, 0, -10]},
        ],
        "combinations": [
            {"name": "to the right", "use": "strength", "factors": {"P": 1}},
            {"name": "to the left", "use": "strength", "factors": {"Q": 1}},
            {"name": "to the left, service", "use": "deflection", "factors": {"Q": 1}},
        ],
        "analysis": {"order": order},
    }


class LeftFree(unittest.TestCase):
    def test_a_slack_brace_leaves_a_mechanism(self):
        for order in ("first", "second"):
            chain = run(read_document(braced(order)))
            combined = chain.combined
            self.assertEqual([combined.free(i) for i in range(3)], [False, True, True])
            self.assertEqual([combined.stable(i) for i in range(3)], [True, False, False])
            self.assertEqual(np.abs(combined.displacement([1])).max(), 0.0)
            self.assertGreater(combined.alpha[0], 10)
            self.assertEqual(combined.alpha[1], 0)
            # nobody passes on numbers that are not there
            self.assertTrue(all(v.status != "passes" for v in chain.verification.verdicts))

    def test_how_it_moves(self):
        combined = respond(read_document(braced())).combined
        self.assertIsNone(left_free(combined, 0))
        mode = left_free(combined, 1)
        head = {n: mode.nodes[combined.structure.nodes.index(n)] for n in "abcd"}
        self.assertAlmostEqual(abs(head["b"][0]), 1, delta=1e-3)
        self.assertAlmostEqual(head["b"][0], head["c"][0], delta=1e-3)
        self.assertLess(np.abs(head["a"][:3]).max(), 1e-3)

    def test_supports_that_all_lift(self):
        data = {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 300"}],
            "supports": [
                {"node": n, "fixed": ["x", "y", "rx", "rz"], "springs": {"z": 1e4}, "one_way": ["z"]} for n in "ab"
            ],
            "cases": [{"name": "W", "nature": "wind"}],
            "member_loads": [{"case": "W", "member": "m", "value": [0, 0, 2]}],
            "combinations": [{"name": "U", "use": "strength", "factors": {"W": 1}}],
        }
        combined = respond(read_document(textbook(data))).combined
        self.assertTrue(combined.free(0))
        self.assertAlmostEqual(np.abs(left_free(combined, 0).nodes[:, 2]).max(), 1, delta=1e-6)


class Storeys(unittest.TestCase):
    def test_a_cantilever_with_a_level(self):
        # P h³/3EI at the top; up to the level P (3 h z² − z³)/6EI
        h, z, P = 6.0, 2.5, 4e3
        data = {
            "levels": [{"name": "crane rail", "height": z}],
            "nodes": [{"name": n, "at": [0, 0, at]} for n, at in (("a", 0), ("m", z), ("b", h))],
            "members": [{"name": "c", "role": "column", "start": "a", "end": "b", "section": "HEA 300"}],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "P", "nature": "wind"}],
            "node_loads": [{"case": "P", "node": "b", "force": [P / 1000, 0, 0]}],
            "analysis": {"shear_deformation": False},
        }
        chain = respond(read_document(textbook(data)))
        found = storeys(chain.structure)
        self.assertEqual([(s.height, s.whole) for s in found], [(6.0, True), (2.5, False), (3.5, False)])
        moved = sways(found, chain.combined.displacement([0]))[:, 0, 0]
        EI = 210e9 * chain.structure.members[0].section.Iy
        top, level = P * h**3 / (3 * EI), P * (3 * h * z**2 - z**3) / (6 * EI)
        np.testing.assert_allclose(moved, [top, level, top - level], rtol=1e-6)

    def test_columns_of_a_hall_with_a_floor(self):
        structure = respond(Document(hall=HallJig(), jigs=[FloorJig(name="loft", along=("2", "4"))])).structure
        found = storeys(structure)
        whole = {structure.members[s.member].name for s in found if s.whole}
        self.assertIn("frame-2/column-A", whole)
        parts = [s for s in found if structure.members[s.member].name == "frame-2/column-A" and not s.whole]
        self.assertEqual([round(s.height, 3) for s in parts], [3.2, 2.8])


class Forks(unittest.TestCase):
    """Ends that count as forks though the support there is none."""

    def said(self, start, end, turned=False, section="IPE 300"):
        data = {
            "units": "kN, m",
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [0, 6, 0] if turned else [6, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": section, "material": "S355"}],
            "supports": [{"node": n, "fixed": fixed} for n, fixed in (("a", start), ("b", end)) if fixed],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "member_loads": [{"case": "Q", "member": "m", "value": [0, 0, -5]}],
        }
        (verdict,) = run(read_document(data)).verification.verdicts
        return [words for words in verdict.left_out if "counts as held" in words]

    def test_what_its_supports_do_not_hold_is_told(self):
        pinned, fork = ["x", "y", "z"], ["y", "z", "rx"]
        self.assertEqual(self.said([*pinned, "rx"], fork), [])
        (words,) = self.said(pinned, fork)
        self.assertIn("at its start against twist", words)
        (words,) = self.said(fork, pinned)
        self.assertIn("at its end against twist", words)
        # along Y it turns about Y
        self.assertEqual(len(self.said([*pinned, "rx"], ["x", "z", "ry"], turned=True)), 1)
        self.assertEqual(self.said([*pinned, "ry"], ["x", "z", "ry"], turned=True), [])
        # a free end is a cantilever's; tubes do not buckle sideways
        self.assertEqual(self.said(["x", "y", "z", "rx", "ry", "rz"], None), [])
        self.assertEqual(self.said(pinned, fork, section="CHS 139.7x5"), [])
