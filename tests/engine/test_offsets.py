"""Members beside the line of their nodes: their own forces, with the moments of the way to it, in every check."""

import unittest

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.shapes.i_sections import welded_i
from engine.chain import run
from engine.document import read_document
from engine.document.byhand import Offset
from engine.laid import offset_of


def strut(N=300.0, offset=None, moments=0.0, sideways=0.0, section="HEA 160", order="first", length=4.0, load=0.0):
    """A member of S355 between hinges, pressed at its nodes, kN; offset along local z (and y), or end moments in its place, kNm."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [length, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": section, "material": "S355"} | ({"offset": offset} if offset else {})],
            "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "analysis": {"order": order, "second_order_below": 1.0},
            "node_loads": [
                {"case": "Q", "node": "a", "moment": [0, moments, sideways]},
                {"case": "Q", "node": "b", "moment": [0, -moments, -sideways], "force": [-N, 0, 0]},
            ],
            "member_loads": [{"case": "Q", "member": "m", "kind": "line", "value": [0, 0, -load]}] if load else [],
        }
    )  # fmt: skip


def reached(document):
    chain = run(document)
    verdict = chain.verification.verdicts[0]
    return {o.criterion: o.utilisation for o in verdict.outcomes}, verdict, chain


class Beside(unittest.TestCase):
    def same(self, one, other, delta=1e-6):
        found, verdict, _ = reached(one)
        expected, _, _ = reached(other)
        self.assertEqual(verdict.not_covered, ())
        for criterion in ("section", "flexural", "lateral", "interaction"):
            self.assertAlmostEqual(found[criterion], expected[criterion], delta=delta, msg=criterion)
        return found

    def test_above_the_line_it_bends_as_under_the_moment_of_its_way(self):
        for order in ("first", "second"):
            # 300 kN at 80 mm: 24 kNm all along; pressed at its lower side, the outer flange is in tension
            for side in (1, -1):
                with self.subTest(order=order, side=side):
                    found = self.same(
                        strut(offset={"z": 0.08 * side}, order=order),
                        strut(moments=-24.0 * side, order=order),
                        1e-5 if order == "first" else 2e-3,
                    )
                    self.assertGreater(found["interaction"], 1.5 * found["flexural"])

    def test_beside_the_line_it_bends_about_its_weak_axis(self):
        self.same(strut(N=150.0, offset={"y": 0.05}), strut(N=150.0, sideways=7.5), 1e-5)

    def test_as_if_it_stood_on_the_line_without_force_along_it(self):
        self.same(strut(N=0.0, offset={"z": -0.1}, load=8.0), strut(N=0.0, load=8.0), 1e-6)

    def test_farther_off_never_asks_less(self):
        values = [reached(strut(offset={"z": z}))[0]["interaction"] for z in (0.01, 0.04, 0.08, 0.16)]
        self.assertEqual(values, sorted(values))
        self.assertGreater(values[-1], 1)

    def test_a_floor_beam_under_its_deck_is_covered(self):
        data = strut(N=0.0, load=10.0).model_dump(mode="json")
        data["members"][0]["align"] = "top flange"
        _, verdict, chain = reached(read_document(data))
        self.assertNotEqual(chain.structure.members[0].offset, (0.0, 0.0))
        self.assertEqual(verdict.status, "passes")

    def test_the_critical_factor_is_that_of_the_member_on_its_own_line(self):
        _, _, beside = reached(strut(offset={"z": 0.05}))
        _, _, on = reached(strut())
        self.assertAlmostEqual(
            float(np.ravel(beside.combined.alpha)[0] / np.ravel(on.combined.alpha)[0]), 1, delta=0.01
        )


class LiesAt(unittest.TestCase):
    """Flanges and sides that lie on the line of the nodes, by the published places of centroids."""

    def test_by_shape(self):
        for name, align, y, z in (
            ("IPE 300", "top flange", 0.0, -0.150),
            ("IPE 300", "left side", -0.075, 0.0),
            ("IPE 300", "right side", 0.075, 0.0),
            # EN 10365: e_y of UPE 200 2.56 cm from the back of its web, which lies to the right
            ("UPE 200", "right side", 0.0256, 0.0),
            ("UPE 200", "left side", -(0.080 - 0.0256), 0.0),
            ("UPE 200", "bottom flange", 0.0, 0.100),
            ("SHS 100x5", "left side", -0.050, 0.0),
        ):
            found = offset_of(Offset(), align, section(name))
            self.assertAlmostEqual(found[0], y, delta=3e-4, msg=(name, align))
            self.assertAlmostEqual(found[1], z, delta=3e-4, msg=(name, align))

    def test_a_tee_and_unequal_flanges_by_parts(self):
        # flange 300 × 15.5, stem (155 − 15.5) × 9 and its fillets, from the top: within 2 mm of the parts alone
        s = section("T HEA 320")
        parts = [(s.b * s.tf, s.tf / 2), ((s.h - s.tf) * s.tw, (s.h + s.tf) / 2)]
        middle = sum(A * at for A, at in parts) / sum(A for A, _ in parts)
        self.assertAlmostEqual(offset_of(Offset(), "top flange", s)[1], -middle, delta=2e-3)
        # three plates: 300 × 20 above, 760 × 10, 200 × 20 below
        w = welded_i("w", 0.8, 0.3, 0.02, 0.01, 0.2, 0.02)
        parts = [(0.3 * 0.02, 0.01), (0.76 * 0.01, 0.4), (0.2 * 0.02, 0.79)]
        middle = sum(A * at for A, at in parts) / sum(A for A, _ in parts)
        self.assertAlmostEqual(offset_of(Offset(), "top flange", w)[1], -middle, delta=1e-6)
        self.assertAlmostEqual(offset_of(Offset(), "bottom flange", w)[1], 0.8 - middle, delta=1e-6)

    def test_what_is_stated_besides_comes_on_top(self):
        found = offset_of(Offset(y=0.02, z=-0.01), "left side", section("IPE 300"))
        np.testing.assert_allclose(found, (0.02 - 0.075, -0.01), atol=1e-9)
