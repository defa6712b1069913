"""Member checks against closed forms, printed values and calculations by hand."""

import unittest
from math import pi, sqrt

import numpy as np

from engine.catalogue.built import built_section
from engine.catalogue.sections import section
from engine.catalogue.shapes.i_sections import rolled_i, welded_i
from engine.catalogue.steels import E, G, material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.checks.effective_lengths import sway_factor
from engine.standards.en.member_stability import critical_moment, stability_check
from engine.standards.en.steel import (
    CURVES,
    buckling_curves,
    classify,
    lateral_curve,
    reduction,
    section_check,
    steel_arrays,
)
from tests.engine.helpers import FIXED, published

ANALYSIS = {case["id"]: case for case in published("analysis.json")}


def one(value):
    return np.array([float(value)])


def arrays(name, grade="S355", bar=False):
    return steel_arrays([(section(name), material(grade), bar)])


def in_section(name, N=0.0, Vy=0.0, Vz=0.0, T=0.0, My=0.0, Mz=0.0, grade="S355"):
    v = section_check(arrays(name, grade), *(one(x) for x in (N, Vy, Vz, T, My, Mz)), 1.0)
    return {key: float(np.ravel(value)[0]) for key, value in v.items()}


def member(name, N=0.0, My=0.0, Mz=0.0, L=5.0, grade="S355", Cmy=1.0, CmLT=1.0, C1=1.0, a=0.0, Lz=None, LT=None):
    forces = [one(x) for x in (N, My, Mz, Cmy, CmLT, C1)]
    lengths = [one(x) for x in (L, Lz or L, LT or L, a, L)]
    v = stability_check(arrays(name, grade), *forces, *lengths, 1.0)
    return {key: float(np.ravel(value)[0]) for key, value in v.items()}


class Curves(unittest.TestCase):
    def test_reduction_factors_at_printed_values(self):
        # ECCS tables of χ at λ̄ = 0.5, 1.0, 2.0
        printed = {
            "a0": (0.9513, 0.7253, 0.2323),
            "a": (0.9243, 0.6656, 0.2229),
            "b": (0.8842, 0.5970, 0.2095),
            "c": (0.8430, 0.5399, 0.1962),
            "d": (0.7793, 0.4671, 0.1766),
        }
        for curve, values in printed.items():
            for slenderness, value in zip((0.5, 1.0, 2.0), values, strict=True):
                _, chi = reduction(one(CURVES[curve]), one(slenderness))
                self.assertAlmostEqual(float(chi[0]), value, delta=1.5e-4, msg=f"{curve} {slenderness}")
        self.assertEqual(float(reduction(one(0.49), one(0.2))[1][0]), 1.0)

    def test_6_3_2_2_beside_6_3_2_3(self):
        """P01: one beam by both, and by (6.58) with k_c of table 6.6."""
        case = {c["id"]: c for c in published("steel-deep.json")["cases"]}["P01"]
        given, expect = case["inputs"], case["expect"]
        p, L = arrays("IPE 400"), one(6.0)
        uniform = critical_moment(p, L, one(1.0))["Mcr_0"]
        C1 = one(given["Mcr_kNm"] * 1e3 / uniform[0])
        none, unit = one(0), one(1)

        def by(**choice):
            v = stability_check(p, none, one(200e3), none, unit, unit, C1, L, L, L, none, L, 1.0, **choice)
            return {name: float(np.ravel(v[name])[0]) for name in ("lambda_LT", "chi_LT", "Mb_Rd", "u_LT")}

        for choice, chi, M in (
            ({"every": True}, "chi_LT_general", "Mb_general_kNm"),
            ({}, "chi_LT_rolled", "Mb_rolled_kNm"),
        ):
            v = by(**choice)
            self.assertAlmostEqual(v["lambda_LT"], expect["lambda_LT"], delta=2e-3 * expect["lambda_LT"])
            self.assertAlmostEqual(v["chi_LT"], expect[chi], delta=3e-3 * expect[chi])
            if choice:
                self.assertAlmostEqual(v["Mb_Rd"] / 1e3, expect[M], delta=3e-3 * expect[M])
                self.assertAlmostEqual(v["u_LT"], expect["utilisation_general"], delta=3e-3)

    def test_table_6_4(self):
        for name, curve in (("IPE 300", "a"), ("IPE 400", "b"), ("HEA 200", "a"), ("SHS 100x5", "d")):
            self.assertEqual(lateral_curve(section(name)), curve)
        self.assertEqual(lateral_curve(welded_i("w", 0.5, 0.2, 0.02, 0.01)), "d")
        self.assertEqual(lateral_curve(welded_i("w", 0.3, 0.3, 0.02, 0.01)), "c")

    def test_by_all_sections_nothing_is_left_out_above_0_2(self):
        # λ̄_LT between 0.2 and 0.4 is reduced by 6.3.2.2 as it stands here, and not by 6.3.2.3
        p, none, unit = arrays("HEB 300"), one(0), one(1)
        for L in (2.0, 2.5, 3.0):
            found = [
                stability_check(
                    p, none, one(1e5), none, unit, unit, unit, *[one(L)] * 3, none, one(L), 1.0, every=every
                )
                for every in (False, True)
            ]
            slender = float(found[0]["lambda_LT"][0])
            self.assertTrue(0.2 < slender < 0.5, slender)
            self.assertLess(float(found[1]["chi_LT"][0]), 1.0)
            self.assertLessEqual(float(found[1]["chi_LT"][0]), float(found[0]["chi_LT"][0]))

    def test_table_6_2(self):
        self.assertEqual(buckling_curves(section("IPE 300"), "S355"), ("a", "b", "b"))
        self.assertEqual(buckling_curves(section("IPE 450"), "S355"), ("a", "b", "c"))
        self.assertEqual(buckling_curves(section("HEA 200"), "S235"), ("b", "c", "b"))
        self.assertEqual(buckling_curves(section("HEB 300"), "S460"), ("a", "a", "b"))
        self.assertEqual(buckling_curves(section("IPE 300"), "S460"), ("a0", "a0", "b"))
        self.assertEqual(buckling_curves(section("SHS 100x5"), "S355")[:2], ("a", "a"))
        self.assertEqual(buckling_curves(section("CHS 88.9x4"), "S460")[:2], ("a0", "a0"))
        thick = rolled_i("thick", "IPE", 0.6, 0.3, 0.03, 0.05, 0.02)
        self.assertEqual(buckling_curves(thick, "S355")[:2], ("b", "c"))

    def test_what_is_welded_of_plates_by_its_name_takes_the_curves_of_welded_sections(self):
        for name, curves, every in (("WI 800x300x10x20", "bcd", "d"), ("WI 500x300x10x45", "cdc", "c")):
            made = section(name)
            self.assertEqual("".join(buckling_curves(made, "S355")), curves)
            self.assertEqual(lateral_curve(made), every)
            sizes = {"h": made.h, "b": made.b, "tw": made.tw, "tf": made.tf, "b2": 0.0, "tf2": 0.0}
            built = built_section("p", "welded I", {k: 1000 * v for k, v in sizes.items()}, "", "")
            self.assertEqual(buckling_curves(built, "S355"), buckling_curves(made, "S355"))


class Classes(unittest.TestCase):
    def cls(self, name, N=0.0, grade="S355", bar=False):
        return int(classify(arrays(name, grade, bar), one(N))["cls"][0])

    def test_a_tie_has_no_class(self):
        self.assertEqual(self.cls("IPE 450", 1e5, bar=True), 1)

    def test_known_classes(self):
        # published classes: bending, and pure compression (bar)
        self.assertEqual(self.cls("IPE 300", grade="S235"), 1)
        self.assertEqual(self.cls("IPE 500", -1e3, bar=True), 4)
        self.assertEqual(self.cls("IPE 300", -1e3, grade="S235", bar=True), 2)
        self.assertEqual(self.cls("IPE 200", -1e3, grade="S235", bar=True), 1)
        self.assertEqual(self.cls("HEA 280", grade="S355"), 3)
        self.assertEqual(self.cls("HEB 300", grade="S355"), 1)

    def test_limits_are_those_of_table_5_2(self):
        v = classify(arrays("IPE 300", "S235"), one(0.0))
        self.assertAlmostEqual(float(v["web_1"][0]), 72.0)
        self.assertAlmostEqual(float(v["web_2"][0]), 83.0)
        self.assertAlmostEqual(float(v["web_3"][0]), 124.0, delta=0.5)
        v = classify(arrays("IPE 300", "S235", bar=True), one(-1.0))
        for key, limit in (("web_1", 33.0), ("web_2", 38.0), ("web_3", 42.0)):
            self.assertAlmostEqual(float(v[key][0]), limit)

    def test_hollow_sections(self):
        self.assertEqual(self.cls("SHS 300x6.3", grade="S355"), 4)
        self.assertEqual(self.cls("SHS 100x5"), 1)
        self.assertEqual(self.cls("CHS 88.9x4"), 1)


class CrossSection(unittest.TestCase):
    def test_plastic_resistances_of_ipe_300_in_s235(self):
        # N = 53.81 · 23.5 = 1264.6 kN; M = 628.4 · 0.235 = 147.7 kNm; V = 25.68 · 23.5 / √3 = 348.4 kN
        v = in_section("IPE 300", N=-100e3, Vz=50e3, My=80e3, grade="S235")
        self.assertAlmostEqual(v["N_Rd"] / 1264.6e3, 1, delta=1e-3)
        self.assertAlmostEqual(v["My_V"] / 147.7e3, 1, delta=1e-3)
        self.assertAlmostEqual(v["Vz_Rd"] / 348.4e3, 1, delta=1e-3)
        self.assertAlmostEqual(v["u_NM"], 80 / 147.7, delta=1e-3)

    def test_axial_force_reduces_the_moment(self):
        # n = 0.5, a = (A − 2 b tf)/A = 0.4034: M_N = M (1 − n)/(1 − a/2)
        v = in_section("IPE 300", N=-0.5 * 1264.6e3, My=10e3, grade="S235")
        a = (53.81 - 2 * 15 * 1.07) / 53.81
        self.assertAlmostEqual(v["My_N"] / (147.7e3 * 0.5 / (1 - a / 2)), 1, delta=2e-3)

    def test_small_axial_force_does_not(self):
        # n ≤ 0.25 and N ≤ 0.5 h_w t_w f_y = 0.5 · 278.6 · 7.1 · 235 = 232 kN
        self.assertAlmostEqual(in_section("IPE 300", N=-230e3, grade="S235")["My_N"] / 147.7e3, 1, delta=1e-3)
        # beyond, (6.36): (1 − 330/1264.6) / (1 − 0.4034/2) = 0.926
        self.assertAlmostEqual(in_section("IPE 300", N=-330e3, grade="S235")["My_N"] / 147.7e3, 0.926, delta=2e-3)

    def test_high_shear(self):
        # V = 0.8 V_pl: ρ = 0.36; M_V = (W − ρ A_w²/4t_w) f_y
        v = in_section("IPE 300", Vz=0.8 * 348.4e3, My=10e3, grade="S235")
        web = 278.6 * 7.1
        self.assertAlmostEqual(v["rho_z"], 0.36, delta=2e-3)
        self.assertAlmostEqual(v["My_V"] / ((628.4e3 - 0.36 * web**2 / (4 * 7.1)) * 235e-3), 1, delta=2e-3)

    def test_biaxial_bending(self):
        v = in_section("HEB 200", My=100e3, Mz=40e3)
        ry, rz = 100e3 / v["My_N"], 40e3 / v["Mz_N"]
        self.assertAlmostEqual(v["u_NM"], max(ry**2 + rz, ry, rz), delta=1e-9)

    def test_class_3_is_elastic(self):
        v = in_section("HEA 280", N=-100e3, My=50e3, Mz=5e3)
        s = section("HEA 280")
        expected = 100e3 / (s.A * 355e6) + 50e3 / (s.Wel_y * 355e6) + 5e3 / (s.Wel_z * 355e6)
        self.assertAlmostEqual(v["u_NM"], expected, delta=1e-9)

    def test_circular_and_square_interaction(self):
        v = in_section("CHS 168.3x8", N=-0.5 * section("CHS 168.3x8").A * 355e6, My=10e3)
        self.assertAlmostEqual(v["My_N"] / v["My_V"], 1 - 0.5**1.7, delta=1e-9)
        v = in_section("SHS 100x5", N=-0.3 * section("SHS 100x5").A * 355e6, My=5e3, Mz=5e3)
        self.assertAlmostEqual(v["exp_y"], 1.66 / (1 - 1.13 * 0.09), delta=1e-9)


class HollowInShear(unittest.TestCase):
    def test_published_rectangle_under_bending_with_high_shear(self):
        case = next(c for c in published("steel-deep.json")["cases"] if c["id"] == "P03")
        p = steel_arrays([(section("RHS 200x120x8", "x"), material("S355", "x"), False)])
        zero = np.zeros(1)
        V, My = case["inputs"]["V_kN"] * 1e3, case["inputs"]["My_kNm"] * 1e3
        v = section_check(p, zero, zero, zero + V, zero, zero + My, zero, 1.0, 1.0, 1.0)
        self.assertAlmostEqual(float(v["rho_z"][0]), case["expect"]["rho"], delta=0.01 * case["expect"]["rho"])
        M = float(v["My_V"][0]) / 1e3
        # by its shear area; the webs' own plastic moment gives half a per cent more
        self.assertAlmostEqual(M, case["expect"]["MV_with_Av_kNm"], delta=1e-3)
        self.assertTrue(case["allow"]["MV_kNm"][0] <= M <= case["allow"]["MV_kNm"][1])


class Buckling(unittest.TestCase):
    def test_column_by_hand(self):
        # HEA 200, S235, 4 m, about z: N_cr = π² E 1336e-8 / 16 = 1730.6 kN, λ̄ = √(1265/1730.6) = 0.855
        # curve c: Φ = 0.5 (1 + 0.49 · 0.655 + 0.731) = 1.026, χ = 0.627; N_b = 793 kN
        v = member("HEA 200", N=-500e3, L=4.0, grade="S235")
        self.assertAlmostEqual(v["Ncr_z"] / 1730.6e3, 1, delta=1e-3)
        self.assertAlmostEqual(v["lambda_z"], 0.855, delta=1e-3)
        self.assertAlmostEqual(v["chi_zf"], 0.627, delta=1e-3)
        self.assertAlmostEqual(v["u_Nz"], 500 / 793, delta=2e-3)

    def test_torsional_buckling_about_a_held_flange(self):
        # BB.3.3.1 written out for IPE 360, L_T = 3 m, a = h/2
        s = section("IPE 360")
        v = member("IPE 360", N=-100e3, L=3.0, a=s.h / 2, Lz=1.5, LT=3.0)
        i_s2 = s.iy**2 + s.iz**2 + (s.h / 2) ** 2
        expected = (pi**2 * E * s.Iz * (s.h / 2) ** 2 / 9 + pi**2 * E * s.Iw / 9 + G * s.It) / i_s2
        self.assertAlmostEqual(v["Ncr_T"] / expected, 1, delta=1e-9)
        self.assertEqual(v["chi_z"], min(v["chi_zf"], v["chi_T"]))

    def test_sway_effective_lengths(self):
        for case, fixed in (("buckling-portal-sway-pinned", False), ("buckling-portal-sway-fixed", True)):
            for r, K in zip(ANALYSIS[case]["inputs"]["r"], ANALYSIS[case]["expect"]["K"], strict=True):
                self.assertAlmostEqual(sway_factor(r, fixed), K, delta=6e-5)


class Lateral(unittest.TestCase):
    def test_critical_moment(self):
        case = ANALYSIS["ltb-uniform-moment"]
        for L, expected in zip(case["inputs"]["L"], case["expect"]["Mcr_kNm"], strict=True):
            found = critical_moment(arrays("IPE 300"), one(L), one(1.0))["Mcr"][0] / 1000
            self.assertAlmostEqual(found / expected, 1, delta=case["tolerance"])

    def test_beam_by_hand(self):
        # IPE 300, S235, 6 m fork to fork, uniform moment: M_cr = 90.4 kNm, λ̄ = √(147.7/90.38) = 1.278
        # curve b: Φ = 0.5 (1 + 0.34 · 0.878 + 0.75 · 1.634) = 1.262; χ = 1/(1.262 + √(1.593 − 1.226)) = 0.535
        v = member("IPE 300", My=60e3, L=6.0, grade="S235")
        self.assertAlmostEqual(v["lambda_LT"], 1.278, delta=2e-3)
        self.assertAlmostEqual(v["chi_LT"], 0.535, delta=2e-3)
        self.assertAlmostEqual(v["u_LT"], 60 / (0.535 * 147.7), delta=4e-3)

    def test_stocky_and_hollow_members_do_not_buckle_laterally(self):
        self.assertEqual(member("IPE 300", My=60e3, L=0.5, grade="S235")["chi_LT"], 1.0)
        self.assertEqual(member("SHS 100x5", My=10e3, L=9.0)["chi_LT"], 1.0)


class Interaction(unittest.TestCase):
    def test_6_61_and_6_62_by_hand(self):
        # HEA 200, S235, 4 m, N = 200 kN, uniform My = 30 kNm, Cm = 1: annex B written out
        v = member("HEA 200", N=-200e3, My=30e3, L=4.0, grade="S235")
        s = section("HEA 200")
        NRk, MRk = s.A * 235e6, s.Wpl_y * 235e6
        ly = sqrt(NRk / (pi**2 * E * s.Iy / 16))
        ny, nz = 200e3 / (v["chi_y"] * NRk), 200e3 / (v["chi_z"] * NRk)
        kyy = min(1 + (ly - 0.2) * ny, 1 + 0.8 * ny)
        lz = v["lambda_z"]
        kzy = max(1 - 0.1 * lz * nz / 0.75, 1 - 0.1 * nz / 0.75)
        m = 30e3 / (v["chi_LT"] * MRk)
        self.assertAlmostEqual(v["u_661"], ny + kyy * m, delta=1e-9)
        self.assertAlmostEqual(v["u_662"], nz + kzy * m, delta=1e-9)

    def test_tension_does_not_buckle(self):
        v = member("HEA 200", N=500e3, L=8.0)
        self.assertEqual(v["u_Ny"], 0.0)
        self.assertEqual(v["u_661"], 0.0)


class Torsion(unittest.TestCase):
    def test_where_no_check_is_it_is_left_out_up_to_a_twentieth_of_the_shear_yield_stress(self):
        # τ = T/W_t of a UPE 200 clamped at one end; f_y/√3 of S355
        steel = section("UPE 200")
        limit = 0.05 * 355e6 / sqrt(3) * steel.Wt
        for share, status in ((0.98, "passes"), (1.02, "not covered")):
            chain = run(
                read_document(
                    {
                        "units": "N, m",
                        "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [2, 0, 0]}],
                        "members": [{"name": "m", "start": "a", "end": "b", "section": "UPE 200", "material": "S355"}],
                        "supports": [{"node": "a", "fixed": FIXED}],
                        "cases": [{"name": "P", "nature": "imposed"}],
                        "node_loads": [{"case": "P", "node": "b", "moment": [share * limit, 0, 0]}],
                        "combinations": [{"name": "C", "use": "strength", "factors": {"P": 1.0}}],
                        "rules": {"imperfections": False},
                    }
                )
            )
            self.assertEqual(chain.verification.verdicts[0].status, status)
