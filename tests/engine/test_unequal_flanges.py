"""Welded I sections of unequal flanges: stresses by hand, lateral buckling by a published value, torsional-flexural buckling closed."""

import unittest
from math import pi, sqrt

import numpy as np

from engine.catalogue.built import built_section
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.haunched import classify_haunched, haunched_arrays, haunched_check
from engine.standards.en.steel import buckling_curves, lateral_curve
from engine.verification.proof import prove
from tests.engine.helpers import published

CASE = {case["id"]: case for case in published("steel-deep.json")["cases"]}["L06"]
SIZES = {"h": 525, "b": 240, "tf": 15, "tw": 8, "b2": 150, "tf2": 10}
FORK = ["x", "y", "z", "rx"]
FY = 235e6


def girder(moment=0.0, axial=0.0, sizes=None, cuts=(), length=8.0, **more):
    """A beam between forks under end moments that sag it (kNm) and an axial force (kN, tension positive)."""
    places = [0.0, *cuts, length]
    last = len(places) - 1
    return read_document(
        {
            "built_sections": [{"name": "girder", "shape": "welded I", **(sizes or SIZES)}],
            "nodes": [{"name": f"n{i}", "at": [x, 0, 0]} for i, x in enumerate(places)],
            "members": [
                {"name": f"m{i}", "start": f"n{i}", "end": f"n{i + 1}", "section": "girder", "material": "S235", **more}
                for i in range(last)
            ],
            "supports": [{"node": "n0", "fixed": FORK}, {"node": f"n{last}", "fixed": FORK[1:]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "analysis": {"order": "first", "second_order_below": 1.0},
            "node_loads": [
                {"case": "Q", "node": "n0", "moment": [0, moment, 0]},
                {"case": "Q", "node": f"n{last}", "moment": [0, -moment, 0], "force": [axial, 0, 0]},
            ],
        }
    )


def found(document, member=0):
    chain = run(document)
    verdict = chain.verification.verdicts[member]
    return chain, verdict, {o.criterion: o for o in verdict.outcomes}


def properties(tw=8.0):
    """(A, centroid above the bottom, I_y, I_z, I_t, I_w, shear centre above the centroid) by parts, independent of the engine."""
    parts = [(240, 15, 517.5), (tw, 500, 260), (150, 10, 5)]
    A = sum(b * t for b, t, _ in parts)
    centre = sum(b * t * z for b, t, z in parts) / A
    Iy = sum(b * t**3 / 12 + b * t * (z - centre) ** 2 for b, t, z in parts)
    top, bottom = 15 * 240**3 / 12, 10 * 150**3 / 12
    Iz = top + bottom + 500 * tw**3 / 12
    d = 512.5
    Iw = d**2 * top * bottom / (top + bottom)
    shear = 5 + d * top / (top + bottom) - centre
    return A, centre, Iy, Iz, (240 * 15**3 + 150 * 10**3 + 500 * tw**3) / 3, Iw, shear


def reduced(alpha, slenderness):
    phi = 0.5 * (1 + alpha * (slenderness - 0.2) + slenderness**2)
    return min(1.0, 1 / (phi + sqrt(phi**2 - slenderness**2)))


class Sections(unittest.TestCase):
    def setUp(self):
        self.section = built_section(
            "girder", "welded I", {**{k: float(v) for k, v in SIZES.items()}, "gap": 0.0}, "", ""
        )
        self.p = haunched_arrays([(self.section, material("S235"))])

    def check(self, N=0.0, My=0.0, Vz=0.0):
        values = [np.array([x]) for x in (N, 0.0, Vz, 0.0, My, 0.0)]
        return haunched_check(self.p, *values, 1.0)

    def test_properties_are_those_of_its_parts(self):
        A, centre, Iy, _, _, _, _ = properties()
        self.assertAlmostEqual(self.section.A * 1e6, A, delta=1e-6 * A)
        self.assertAlmostEqual(self.section.Iy * 1e12, Iy, delta=1e-6 * Iy)
        # the flanges alone, where the web is left out
        flanges = 240 * 15 + 150 * 10
        self.assertAlmostEqual(float(self.p.A_f[0]) * 1e6, flanges, delta=1e-3)
        of_flanges = (240 * 15 * 517.5 + 150 * 10 * 5) / flanges
        self.assertAlmostEqual(float(self.p.shift[0]) * 1e3, abs(of_flanges - centre), delta=1e-3)
        I_f = 240 * 15 * (517.5 - of_flanges) ** 2 + 150 * 10 * (of_flanges - 5) ** 2
        self.assertAlmostEqual(float(self.p.Wf_y[0]) * 1e9, I_f / max(525 - of_flanges, of_flanges), delta=1.0)

    def test_the_sum_of_stresses(self):
        A, centre, Iy, *_ = properties()
        far = max(centre, 525 - centre)
        v = self.check(N=300e3, My=100e3)
        by_hand = (300e3 / A + 100e6 * far / Iy) / 235
        self.assertAlmostEqual(float(v["u_NM"][0]), by_hand, delta=1e-6)

    def test_without_a_web_of_class_4_its_flanges_bear_all(self):
        # 4 mm thick: of class 4 under compression; N with the way between both centroids, M_z by the flanges
        thin = built_section(
            "g", "welded I", {**{k: float(v) for k, v in (SIZES | {"tw": 4}).items()}, "gap": 0.0}, "", ""
        )
        p = haunched_arrays([(thin, material("S235"))])
        v = haunched_check(p, *(np.array([x]) for x in (-200e3, 0.0, 0.0, 0.0, 0.0, 8e3)), 1.0)
        A_f = 240 * 15 + 150 * 10
        z_f = (240 * 15 * 517.5 + 150 * 10 * 5) / A_f
        z = (240 * 15 * 517.5 + 150 * 10 * 5 + 4 * 500 * 260) / (A_f + 2000)
        I_f = 240 * 15 * (517.5 - z_f) ** 2 + 150 * 10 * (z_f - 5) ** 2
        far = max(525 - z_f, z_f)
        W_z = (15 * 240**3 + 10 * 150**3) / 12 / 120
        by_hand = (200e3 / A_f + 200e3 * abs(z - z_f) / (I_f / far) + 8e6 / W_z) / 235
        self.assertAlmostEqual(float(v["u_NM"][0]) / by_hand, 1, delta=2e-3)

    def test_its_web_under_its_own_stresses(self):
        # sagging: from 15 mm below the top to 10 mm above the bottom; 42 ε/(0.67 + 0.33 ψ) or 62 ε (1 − ψ) √−ψ
        _, centre, *_ = properties()
        upper, lower = 510 - centre, 10 - centre
        for My, (most, least) in ((100e3, (upper, lower)), (-100e3, (-lower, -upper))):
            psi = least / most
            limit = 42 / (0.67 + 0.33 * psi) if psi > -1 else 62 * (1 - psi) * sqrt(-psi)
            v = classify_haunched(self.p, np.zeros(1), np.array([My]))
            self.assertAlmostEqual(float(v["web_use"][0]), 500 / 8 / limit, delta=1e-6)

    def test_curves_are_those_of_welded_sections(self):
        self.assertEqual(buckling_curves(self.section, "S235"), ("b", "c", "d"))
        self.assertEqual(lateral_curve(self.section), "d")


class Members(unittest.TestCase):
    def test_lateral_buckling_under_a_uniform_moment(self):
        _, verdict, use = found(girder(moment=100.0))
        A, centre, Iy, *_ = properties()
        M_Rk = Iy / max(centre, 525 - centre) * 235e-6
        M_cr = CASE["expect"]["Mcr_kNm"]
        chi = reduced(0.76, sqrt(M_Rk / M_cr))
        self.assertAlmostEqual(use["general"].utilisation / (100 / (chi * M_Rk)), 1, delta=5e-3)
        self.assertEqual(verdict.status, "passes")
        self.assertTrue(any("shear centre" in words for words in verdict.left_out))

    def test_pressed_alone_it_buckles_sideways_with_twist(self):
        # with a web that is of class 3 in compression
        A, _, Iy, Iz, It, Iw, shear = properties(12.5)
        L, N = 8000.0, 300e3
        i02 = (Iy + Iz) / A + shear**2
        Nz, NT = pi**2 * 210e3 * Iz / L**2, (80769.2 * It + pi**2 * 210e3 * Iw / L**2) / i02
        beta = 1 - shear**2 / i02
        ratio = NT / Nz
        N_cr = Nz / (2 * beta) * (1 + ratio - sqrt((1 + ratio) ** 2 - 4 * beta * ratio))
        chain, verdict, use = found(girder(axial=-300.0, sizes=SIZES | {"tw": 12.5}))
        v = chain.verification.checks.evaluated(0, use["general"]).values
        self.assertAlmostEqual(v["alpha_op"] / (N_cr / N), 1, delta=5e-3)
        # in the plane by curve b, out of it by curve c: 6.3.4 multiplies both
        in_plane = N / (reduced(0.34, sqrt(A * 235 / (pi**2 * 210e3 * Iy / L**2))) * A * 235)
        self.assertAlmostEqual(v["use"], in_plane, delta=1e-3)
        chi = min(reduced(a, sqrt(1 / in_plane / (N_cr / N))) for a in (0.49, 0.76))
        self.assertAlmostEqual(use["general"].utilisation / (in_plane / chi), 1, delta=5e-3)
        self.assertIn(verdict.status, ("passes", "fails"))

    def test_the_smaller_flange_pressed_is_worse(self):
        large, small = (found(girder(moment=m))[2]["general"].utilisation for m in (100.0, -100.0))
        self.assertGreater(small, 1.5 * large)

    def test_held_more_it_bears_no_less(self):
        free = found(girder(moment=-60.0))[2]["general"].utilisation
        both = found(girder(moment=-60.0, restraints_outer=[4.0], restraints_inner=[4.0]))[2]["general"].utilisation
        self.assertLess(both, free)

    def test_beyond_what_it_bears_it_never_passes(self):
        M_cr = CASE["expect"]["Mcr_kNm"]
        for document in (
            girder(moment=M_cr),
            girder(moment=-200.0),
            girder(axial=-1500.0),
            girder(moment=60.0, axial=-700.0),
            girder(moment=-60.0, axial=-700.0),
            girder(moment=300.0, restraints_outer=[1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0]),
        ):
            self.assertNotEqual(found(document)[1].status, "passes")

    def test_in_pieces_it_is_said_and_not_passed(self):
        _, verdict, _ = found(girder(moment=100.0, cuts=(3.0,)))
        self.assertEqual(verdict.status, "not covered")
        self.assertTrue(any("unequal flanges go on" in words for words in verdict.not_covered))

    def test_slender_flanges_are_not_covered(self):
        _, verdict, _ = found(girder(moment=50.0, sizes=SIZES | {"b": 400, "tf": 10}))
        self.assertTrue(any("class 4" in words for words in verdict.not_covered), verdict.not_covered)

    def test_a_web_that_buckles_under_shear(self):
        # h_w/t = 500/6 above 72: λ̄_w = 83.33/86.4, χ_w = 0.83/λ̄_w, V_bw,Rd = χ_w 235 · 500 · 6/√3
        chain, verdict, use = found(girder(moment=50.0, sizes=SIZES | {"tw": 6}))
        self.assertEqual(verdict.not_covered, ())
        self.assertTrue(any("stiffeners at the supports" in words for words in verdict.left_out), verdict.left_out)
        values = evaluated(chain.verification.checks.grounds, 0, use["shear"]).values
        self.assertAlmostEqual(values["lambda_w"], 83.333 / 86.4, places=4)
        bears = 0.83 / (83.333 / 86.4) * 235e6 * 0.5 * 0.006 / sqrt(3)
        self.assertAlmostEqual(values["Vbw_Rd"], bears, delta=1e-3 * bears)
        # one of which the compressed flange folds into the web stays open: 500/1.2 above 0.55 E/f_y √(A_w/A_fc)
        _, verdict, _ = found(girder(moment=50.0, sizes=SIZES | {"tw": 1.2}))
        self.assertTrue(any("buckle into the web" in words for words in verdict.not_covered), verdict.not_covered)

    def test_proof_and_verdict_agree(self):
        chain, verdict, use = found(girder(moment=80.0, axial=-100.0))
        self.assertEqual(
            {"section", "shear", "general"}, set(use) & {"section", "shear", "general", "lateral", "flexural"}
        )
        for outcome in verdict.outcomes:
            self.assertTrue(prove(chain.verification, chain.combinations, 0, outcome).steps)
            value = chain.verification.checks.evaluated(0, outcome).values["u"]
            self.assertAlmostEqual(value, outcome.utilisation, delta=1e-9)
