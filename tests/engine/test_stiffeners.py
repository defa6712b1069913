"""Transverse stiffeners and end posts (EN 1993-1-5 9): figures by hand, and stiffeners that must not pass."""

import math
import unittest

import numpy as np

from engine.chain import Chain, run
from engine.editing.apply import operate
from engine.sizing.levers import Lever, _stiffeners, levers
from engine.standards.en.checks.stiffeners import NO_POST, UNEVEN, UNSTATED, stiffener_values, stiffeners_of
from engine.verification.proof import prove
from engine.verification.single import everything
from tests.engine.test_webs import chain_of, girder, web

PLATES = {"width": 80, "thickness": 8}
#: of the girder of `girder`, in N and mm
E, FY, HW, TW = 210000.0, 275.0, 700.0, 6.0
EPSILON = math.sqrt(235 / 275)


def stiffener(chain: Chain, name: str = "beam") -> float:
    verdict = chain.verification.verdicts[chain.structure.index[name]]
    return next((o.utilisation for o in verdict.outcomes if o.criterion == "stiffener"), math.nan)


def left_out(chain: Chain) -> tuple[str, ...]:
    return chain.verification.verdicts[0].left_out


def reached(chain: Chain) -> dict[str, np.ndarray]:
    """The values of all stiffeners of the girder, in its one combination."""
    values = stiffener_values(chain.verification.checks.grounds, 0)
    return {key: value[:, 0] for key, value in values.items() if value.ndim}


def cross(width: float, thickness: float, sides: int = 2) -> tuple[float, float]:
    """A_st in mm² and I_st in mm⁴ with 15 ε t_w of web on each side."""
    strip = sides * 15 * EPSILON * TW
    area = 2 * width * thickness + (strip + thickness) * TW
    return area, (thickness * (2 * width + TW) ** 3 + strip * TW**3) / 12


def buckling(N: float, width: float, thickness: float, sides: int = 2) -> float:
    """N in kN over N_b,Rd, curve c, over the depth of the web."""
    area, second = cross(width, thickness, sides)
    slenderness = math.sqrt(area * FY / (math.pi**2 * E * second / HW**2))
    phi = 0.5 * (1 + 0.49 * (slenderness - 0.2) + slenderness**2)
    return 1e3 * N / (min(1 / (phi + math.sqrt(phi**2 - slenderness**2)), 1.0) * area * FY)


def torsion(width: float, thickness: float) -> float:
    return 5.3 * FY / E * (width / thickness) ** 2


def slenderness_of_web(a: float) -> float:
    """Of panels a mm long, EN 1993-1-5 (5.6) and (A.5)."""
    k = 5.34 + 4 * (HW / a) ** 2 if a >= HW else 4 + 5.34 * (HW / a) ** 2
    return HW / (37.4 * TW * EPSILON * math.sqrt(k))


class ByHand(unittest.TestCase):
    def test_under_a_force_and_at_the_ends(self):
        """800 kN in the middle of the girder, V = 400 kN: in the middle the web leaves N_ST to the stiffener besides; at the ends it has web on one
        side alone."""
        chain = chain_of(girder(800, checks={"stiffened": True, "plates": {"width": 60, "thickness": 6}}))
        every = stiffeners_of(chain.verification.checks.grounds, 0)
        self.assertEqual([(s.x, s.end) for s in every], [(0.0, True), (4.0, False), (8.0, True)])
        N_ST = 400 - FY * HW * TW / (math.sqrt(3) * (HW / (86.4 * TW * EPSILON)) ** 2) / 1e3
        self.assertGreater(N_ST, 0)
        found = reached(chain)["u_N"]
        self.assertAlmostEqual(found[1], buckling(800 + N_ST, 60, 6), delta=1e-4)
        for end in (0, 2):
            self.assertAlmostEqual(found[end], buckling(400, 60, 6, sides=1), delta=1e-4)
        self.assertAlmostEqual(stiffener(chain), found[1])

    def test_stiffness_between_panels(self):
        """(9.6) for panels shorter and longer than √2 h_w."""
        for a, least in ((800, 1.5 * (HW * TW) ** 3 / 800**2), (1000, 0.75 * HW * TW**3)):
            with self.subTest(a=a):
                v = reached(chain_of(girder(1, checks={"panel": a / 1000, "plates": {"width": 12, "thickness": 5}})))
                self.assertAlmostEqual(v["u_I"][1], least / cross(12, 5)[1], delta=1e-6)
                self.assertEqual(v["u_I"][0], 0.0)

    def test_what_the_web_leaves_to_a_stiffener_between_panels(self):
        """1000 kN in the middle, V = 500 kN; the panels beside the third stiffener reach to M = 2000 kNm: second order with w_0 = h_w/300."""
        width, thickness, a = 30.0, 6.0, 1000.0
        for gamma in (1.0, 1.1):
            data = girder(1000, checks={"panel": a / 1000, "plates": {"width": width, "thickness": thickness}})
            data["rules"]["gamma_M1"] = gamma
            chain = chain_of(data)
            self.assertEqual(
                [s.x for s in stiffeners_of(chain.verification.checks.grounds, 0)], [float(x) for x in range(9)]
            )
            N = 500e3 - FY * HW * TW / (math.sqrt(3) * gamma * slenderness_of_web(a) ** 2)
            self.assertGreater(N, 0)
            I = (220 * 724**3 - 214 * 700**3) / 12  # noqa: E741
            edge = 2000e6 / I * HW / 2
            N_web = edge * HW / 2 * TW / 2
            more = N_web / HW * 2 / a * HW**2 / math.pi**2
            area, second = cross(width, thickness)
            critical = math.pi**2 * E * second / HW**2
            w_0 = HW / 300
            w = w_0 * (N + more) / (critical - N - more)
            sigma = N / area + (N + more) * (w_0 + w) * (width + TW / 2) / second
            v = {key: values[3] for key, values in reached(chain).items()}
            self.assertAlmostEqual(v["N_ST"], N, delta=1e-4 * N)
            self.assertAlmostEqual(v["N_web"], N_web, delta=1e-3 * N_web)
            self.assertAlmostEqual(v["u_w"], w * 300 / HW, delta=1e-3)
            self.assertAlmostEqual(v["u_s"], sigma * gamma / FY, delta=1e-3)
            self.assertAlmostEqual(v["u_N"], gamma * buckling(N / 1e3, width, thickness), delta=1e-4)
            self.assertAlmostEqual(v["u_tor"], torsion(width, thickness), delta=1e-6)
            # the force presses on the stiffener that stands there, stated for it or not
            self.assertEqual([round(F / 1e3) for F in reached(chain)["F"]], [500, 0, 0, 0, 1000, 0, 0, 0, 500])

    def test_a_web_that_is_pressed_all_over(self):
        """2000 kN along it: the web's share of the area, 4200 of 9480 mm², whatever bends it besides."""
        data = girder(1, checks={"panel": 1.0, "plates": PLATES})
        data["node_loads"] = [{"case": "Q", "node": "b", "force": [-2000, 0, 0]}]
        data["analysis"] = {"order": "first"}
        v = reached(chain_of(data))
        self.assertAlmostEqual(v["N_web"][3], 2000e3 * 4200 / 9480, delta=1.0)

    def test_the_shear_counts_from_half_a_depth_inside(self):
        """Under 250 kN/m V falls from 1000 kN: beside the first stiffener 0.35 m from the end, beside the one in the middle 0.65 m from it."""
        data = girder(1, checks={"panel": 1.0, "plates": PLATES})
        [load] = data["member_loads"]
        load |= {"value": [0, 0, -250], "kind": "line"}
        load.pop("start")
        v = reached(chain_of(data))
        self.assertAlmostEqual(v["V_s"][1], 250e3 * (4 - 0.35), delta=1.0)
        self.assertAlmostEqual(v["V_s"][4], 250e3 * 0.65, delta=1.0)

    def test_rigid_end_posts(self):
        """A ≥ 4 h_w t²/e of each pair, whose distance is 0.1 h_w at least, 9.3.1(3)."""
        for thickness, post, least in ((8, 200, 4 * HW * TW**2 / 200 / (2 * 40 * 8)), (20, 50, 0.1 * HW / 50)):
            plates = {"width": 40, "thickness": thickness, "post": post}
            v = reached(chain_of(girder(1, checks={"rigid_ends": True, "plates": plates})))
            np.testing.assert_allclose(v["u_post"], [least, least])
        loose = reached(chain_of(girder(1, checks={"panel": 4.0, "plates": plates})))
        np.testing.assert_array_equal(loose["u_post"], 0.0)


class WhatMustNotPass(unittest.TestCase):
    def test_plates_that_are_too_thin(self):
        """Wide ones twist (9.3): 160 × 8 in S275 has b/t = 20 over 12."""
        own = {"stiffened": True, "plates": {"width": 160, "thickness": 8}}
        chain = chain_of(girder(100, checks=own))
        self.assertAlmostEqual(stiffener(chain), torsion(160, 8), delta=1e-6)
        self.assertEqual(chain.verification.verdicts[0].status, "fails")
        self.assertEqual(chain.verification.verdicts[0].governing.criterion, "stiffener")

    def test_stiffeners_without_plates_are_told(self):
        for own in ({"stiffened": True}, {"panel": 1.0}, {"rigid_ends": True}):
            with self.subTest(own):
                chain = chain_of(girder(100, checks=own))
                self.assertIn(UNSTATED, left_out(chain))
                self.assertTrue(math.isnan(stiffener(chain)))
        self.assertNotIn(UNSTATED, left_out(chain_of(girder(100))))

    def test_rigid_end_posts_without_their_distance_are_told(self):
        chain = chain_of(girder(100, checks={"rigid_ends": True, "plates": PLATES}))
        self.assertIn(NO_POST, left_out(chain))
        own = {"rigid_ends": True, "plates": PLATES | {"post": 200}}
        self.assertNotIn(NO_POST, left_out(chain_of(girder(100, checks=own))))

    def test_haunched_ones_are_told(self):
        haunch = {"haunch_start": {"length": 1.0, "depth": 0.3}, "checks": {"stiffened": True, "plates": PLATES}}
        chain = chain_of(girder(100, **haunch))
        self.assertIn(UNEVEN, left_out(chain))
        self.assertTrue(math.isnan(stiffener(chain)))

    def test_a_girder_in_two_pieces_and_one_drawn_backwards(self):
        """What a stiffener at the joint of two pieces bears, in either of them."""
        own = {"panel": 1.0, "stiffened": True, "plates": {"width": 40, "thickness": 6}}
        whole = stiffener(chain_of(girder(800, None, checks=own)))
        data = girder(800, None, checks=own)
        [beam] = data["members"]
        back = {**data, "members": [{**beam, "start": "b", "end": "a"}]}
        self.assertAlmostEqual(stiffener(chain_of(back)), whole)
        half = [0.5 * i for i in range(1, 8)]
        pieces = [
            {**beam, "name": name, "start": start, "end": end, "restraints_outer": half, "restraints_inner": half}
            for name, start, end in (("one", "a", "m"), ("other", "b", "m"))
        ]
        cut = chain_of({**data, "members": pieces})
        self.assertAlmostEqual(max(stiffener(cut, "one"), stiffener(cut, "other")), whole)

    def test_more_steel_is_never_used_more(self):
        used = [
            stiffener(chain_of(girder(800, checks={"panel": 1.0, "stiffened": True, "plates": {"width": 60, "thickness": t}})))
            for t in (5, 6, 8, 12)
        ]  # fmt: skip
        self.assertEqual(used, sorted(used, reverse=True))

    def test_every_row_and_the_proof_say_the_same(self):
        own = {
            "panel": 1.0,
            "rigid_ends": True,
            "stiffened": True,
            "plates": {"width": 60, "thickness": 6, "post": 150},
        }
        chain = chain_of(girder(800, checks=own))
        [row] = [r for r in everything(chain.verification, 0) if r.criterion == "stiffener"]
        self.assertAlmostEqual(float(row.utilisation.max()), stiffener(chain))
        [outcome] = [o for o in chain.verification.verdicts[0].outcomes if o.criterion == "stiffener"]
        self.assertAlmostEqual(prove(chain.verification, chain.combinations, 0, outcome).utilisation, stiffener(chain))


class Moved(unittest.TestCase):
    def lever(self, chain: Chain) -> Lever | None:
        return next((lever for lever in levers(chain, "beam") if lever.kind == "stiffeners"), None)

    def test_stiffeners_are_tried_where_a_web_is_crushed_and_thicker_ones_where_they_fail(self):
        """Flanges of 220 beside a web of 6: plates of 105, a tenth of which is 10.5, so 12 mm thick."""
        crushed = chain_of(girder(250))
        self.assertEqual(crushed.verification.verdicts[0].governing.criterion, "web")
        found = self.lever(crushed)
        self.assertEqual(found.words, "105 × 12 where something presses")
        after = run(operate(crushed.document, found.operations[0]))
        self.assertTrue(math.isnan(web(after)))
        self.assertAlmostEqual(found.outcome.utilisation, after.verification.verdicts[0].governing.utilisation)
        thin = chain_of(girder(250, checks={"stiffened": True, "plates": {"width": 105, "thickness": 6}}))
        self.assertEqual(self.lever(thin).words, "105 × 8 in place of 105 × 6")
        # in panels of their own the plates that are stated stand where it is crushed too
        panels = chain_of(girder(250, checks={"panel": 1.6, "plates": {"width": 105, "thickness": 12}}))
        self.assertEqual(panels.verification.verdicts[0].governing.criterion, "web")
        self.assertEqual(self.lever(panels).words, "105 × 12 where something presses")
        self.assertTrue(self.lever(panels).operations[0].change.checks.stiffened)

    def test_of_flanges_too_narrow_and_too_wide_for_plates(self):
        for b, words in ((14, None), (1500, "600 × 60 where something presses")):
            data = girder(250 if b < 1000 else 900)
            data["built_sections"][0]["b"] = b
            chain = chain_of(data)
            found = [said for _, said, _ in _stiffeners(chain.structure.members[0], "web")]
            self.assertEqual(found, [words] if words else [])

    def test_elsewhere_they_are_not(self):
        data = girder(20)
        data["member_loads"] = [{"case": "Q", "member": "beam", "kind": "line", "value": [0, 0, -20]}]
        self.assertIsNone(self.lever(chain_of(data)))
