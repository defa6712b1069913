"""Torsion with bending: closed forms of warping, a published case, hollow sections by hand, and what falls."""

import unittest
from math import cosh, hypot, sinh, sqrt, tanh

import numpy as np

from engine.catalogue.shapes.i_sections import rolled_i
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.steel import section_check, steel_arrays
from engine.standards.en.torsion import torsion_member, torsion_section, warped
from engine.verification.proof import prove
from tests.engine.helpers import published

CASE = {case["id"]: case for case in published("steel-deep.json")["cases"]}["T01"]
ALL = ["x", "y", "z", "rx", "ry", "rz"]
FORK = ["x", "y", "z", "rx"]
EIw, GIt = 210e9 * 125934e-12, 80769.2e6 * 201185e-12
K = sqrt(GIt / EIw)


def beam(torque=1.5, force=30.0, section="IPE 300", cuts=(), length=5.0, supports=None, **more):
    """A beam between forks (or other supports) with a force and a torque at its middle, kN and kNm; cuts: where it is drawn in pieces."""
    places = [0.0, *cuts, length]
    middle = next(i for i, (a, b) in enumerate(zip(places, places[1:], strict=False)) if a <= length / 2 < b)
    at = {"case": "Q", "member": f"m{middle}", "start": length / 2 - places[middle]}
    return read_document(
        {
            "nodes": [{"name": f"n{i}", "at": [x, 0, 0]} for i, x in enumerate(places)],
            "members": [
                {"name": f"m{i}", "start": f"n{i}", "end": f"n{i + 1}", "section": section, **more}
                for i in range(len(places) - 1)
            ],
            "supports": supports or [{"node": "n0", "fixed": FORK}, {"node": f"n{len(places) - 1}", "fixed": FORK[1:]}],
            "cases": [{"name": "Q", "nature": "imposed"}],
            "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
            "rules": {"imperfections": False},
            "member_loads": [
                {**at, "kind": "force", "value": [0, 0, -force]},
                {**at, "kind": "moment", "value": [torque, 0, 0]},
            ],
        }
    )


def found(document, member=0):
    chain = run(document)
    verdict = chain.verification.verdicts[member]
    return chain, verdict, {o.criterion: o.utilisation for o in verdict.outcomes}


def values_of(document, criterion):
    """Every value of the proof of a criterion of the first member."""
    chain, verdict, _ = found(document)
    outcome = next(o for o in verdict.outcomes if o.criterion == criterion)
    return chain.verification.checks.evaluated(0, outcome).values


class Warping(unittest.TestCase):
    def test_a_torque_at_the_middle_between_forks(self):
        expect, allow = CASE["expect"], CASE["tolerance"]
        x = np.array([0, 1, 2.5, 2.5, 4, 5])
        w = warped(x, np.array([750.0] * 3 + [-750.0] * 3)[:, None], EIw, GIt, (False, False))
        self.assertAlmostEqual(w.B.max() / 1e3 / expect["B_kNm2"], 1, delta=1e-5)
        self.assertAlmostEqual(w.twist.max() * 1e3 / expect["twist_mrad"], 1, delta=1e-5)
        self.assertAlmostEqual(w.T_t.max() / 1e3 / expect["T_stvenant_max_kNm"], 1, delta=1e-5)
        self.assertLess(1e-5, allow)

    def test_a_constant_torque_by_how_its_ends_warp(self):
        x, T = np.linspace(0, 4, 9), np.full((9, 1), 600.0)
        free = warped(x, T, EIw, GIt, (False, False))
        self.assertAlmostEqual(float(np.abs(free.B).max()), 0, delta=1e-6)
        self.assertAlmostEqual(float(free.twist[-1, 0]), 600 * 4 / GIt, delta=1e-9)
        both = warped(x, T, EIw, GIt, (True, True))
        self.assertAlmostEqual(float(np.abs(both.B).max()), 600 / K * tanh(K * 2), delta=1e-6)
        self.assertAlmostEqual(float(both.twist[-1, 0]), 600 / GIt * (4 - 2 / K * tanh(K * 2)), delta=1e-9)
        # a cantilever: the root does not warp
        root = warped(x, T, EIw, GIt, (True, False))
        self.assertAlmostEqual(float(np.abs(root.B[0, 0])), 600 / K * tanh(K * 4), delta=1e-6)
        self.assertAlmostEqual(float(root.B[-1, 0]), 0, delta=1e-6)

    def test_an_even_torque_between_forks_between_its_stations(self):
        # E I_w φ⁗ − G I_t φ″ = m: B = m/k² (1 − cosh k(x − L/2)/cosh kL/2); at the middle, where none of four stations stands
        L, m = 6.0, 400.0
        x = np.array([0.0, 2.0, 4.0, L])
        w = warped(x, (m * (L / 2 - x))[:, None], EIw, GIt, (False, False))
        at_station = m / K**2 * (1 - cosh(K * 1.0) / cosh(K * 3.0))
        at_middle = m / K**2 * (1 - 1 / cosh(K * 3.0))
        self.assertGreater(at_middle, 1.05 * at_station)
        self.assertAlmostEqual(float(np.abs(w.B).max()), at_middle, delta=1e-6)

    def test_one_end_held_by_the_general_solution(self):
        # θ = T/G I_t (1 − cosh k(L − x)/cosh kL): St Venant's part at the tip
        x, L = np.linspace(0, 3, 4), 3.0
        w = warped(x, np.full((4, 1), 100.0), EIw, GIt, (True, False))
        for i, place in enumerate(x):
            self.assertAlmostEqual(float(w.T_t[i, 0]), 100 * (1 - cosh(K * (L - place)) / cosh(K * L)), delta=1e-9)
            self.assertAlmostEqual(abs(float(w.B[i, 0])), 100 / K * sinh(K * (L - place)) / cosh(K * L), delta=1e-6)


class Sections(unittest.TestCase):
    def setUp(self):
        self.p = steel_arrays([(rolled_i("IPE 300", "IPE", 0.3, 0.15, 0.0071, 0.0107, 0.015), material("S355"), False)])
        self.none = np.zeros(1)

    def test_the_elastic_sum_is_the_published_one(self):
        # class 3 as (6.42): the bimoment as a moment of both flanges gives σ_w at the tips
        p, expect = self.p, CASE["expect"]
        B, My = expect["B_kNm2"] * 1e3, 37.5e3
        Mz = 2 * B / 0.2893
        flanges = 2 * 0.0107 * 0.15**2 / 6
        self.assertAlmostEqual(Mz / flanges / 1e6, expect["sigma_w_MPa"], delta=0.02)
        total = (My / p.Wel_y[0] + Mz / flanges) / 355e6
        self.assertAlmostEqual(total, expect["sum_over_fy"], delta=1e-3)
        v = torsion_section(
            p, self.none, self.none, self.none, self.none + My, self.none, self.none + B, self.none, 1.0
        )
        self.assertAlmostEqual(float(v["Mz_T"][0]), Mz, delta=1e-6 * Mz)

    def test_shear_with_torsion(self):
        T, expect = np.array([542.754]), CASE["expect"]
        v = torsion_section(self.p, self.none, self.none, self.none, self.none, self.none, self.none, T, 1.0)
        self.assertAlmostEqual(float(v["tau_t"][0]) / 1e6, expect["tau_t_flange_MPa"], delta=0.02)
        self.assertAlmostEqual(float(v["sheared"][0]), expect["Vpl_T_over_Vpl"], delta=1e-4)
        # at what (6.26) leaves the use is 1, above it more
        V_Rd = float(v["sheared"][0]) * float(
            section_check(self.p, self.none, self.none, self.none + 1, self.none, self.none, self.none, 1.0)["Vz_Rd"][0]
        )
        for factor in (1.0, 1.02):
            v = torsion_section(
                self.p, self.none, self.none, self.none + factor * V_Rd, self.none, self.none, self.none, T, 1.0
            )
            if factor == 1.0:
                self.assertAlmostEqual(float(v["u_VT"][0]), 1, delta=1e-9)
            else:
                self.assertGreater(float(v["u_VT"][0]), 1)

    def test_without_torsion_it_is_the_section_alone(self):
        forces = [np.array([x]) for x in (-200e3, 5e3, 40e3, 60e3, 8e3)]
        N, Vy, Vz, My, Mz = forces
        alone = section_check(self.p, N, Vy, Vz, self.none, My, Mz, 1.0)
        v = torsion_section(self.p, N, Vy, Vz, My, Mz, self.none, self.none, 1.0)
        self.assertAlmostEqual(float(v["u_torsion"][0]), float(max(alone["u_NM"][0], alone["u_V"][0])), delta=1e-12)

    def test_shear_reduces_the_moment_by_what_torsion_leaves_of_it(self):
        # 6.2.8(4): ρ = (2 V/V_pl,T − 1)²; both shears
        T, My, Mz = np.array([900.0]), np.array([80e3]), np.array([12e3])
        t = 900 / float(self.p.Wt[0]) / (355e6 / sqrt(3))
        for Vy, Vz in ((0.0, 380e3), (450e3, 0.0)):
            V = (np.array([Vy]), np.array([Vz]))
            v = torsion_section(self.p, self.none, *V, My, Mz, self.none, T, 1.0)
            left, sheared = sqrt(1 - t**2), sqrt(1 - t / 1.25)
            plain = section_check(
                self.p, self.none, V[0] / sheared, V[1] / sheared, self.none, My / left, Mz / left, 1.0
            )
            self.assertGreater(float(plain["rho_z"][0] + plain["rho_y"][0]), 0.1)
            self.assertAlmostEqual(float(v["u_MT"][0]), hypot(left * float(plain["u_NM"][0]), t), delta=1e-9)

    def test_more_torsion_never_asks_less(self):
        rng = np.random.default_rng(7)
        for _ in range(200):
            N, Vy, Vz, My, Mz = (np.array([x]) for x in rng.uniform(-1, 1, 5) * (9e5, 2e5, 3e5, 1.6e5, 3e4))
            B, T = rng.uniform(0, 3e3), rng.uniform(0, 4e3)
            values = [
                float(torsion_section(self.p, N, Vy, Vz, My, Mz, self.none + f * B, self.none + f * T, 1.0)["u_torsion"][0])
                for f in (0.0, 0.3, 0.7, 1.0)
            ]  # fmt: skip
            # beyond the axial resistance the rule of the section itself changes
            values = [min(u, 1.0) for u in values]
            self.assertEqual(values, sorted(values))


class Members(unittest.TestCase):
    def test_a_beam_between_forks_by_hand(self):
        v = values_of(beam(), "torsion")
        expect = CASE["expect"]
        self.assertAlmostEqual(v["B"] / 1e3 / expect["B_kNm2"], 1, delta=2e-3)
        self.assertAlmostEqual(v["twist"] * 1e3 / expect["twist_mrad"], 1, delta=2e-3)
        self.assertAlmostEqual(v["k_t"] / expect["k_per_m"], 1, delta=1e-3)
        # 6.2.9 with M_z + 2 B/h_s by hand, about y and z: n = 0, exponents 2 and 1
        fy, Wpl_y, Wpl_z = 355e6, 628.4e-6, 125.2e-6
        by_hand = (37.5e3 / (Wpl_y * fy)) ** 2 + 2 * v["B"] / 0.2893 / (Wpl_z * fy)
        self.assertAlmostEqual(v["u_NM"] * v["left"] / by_hand, 1, delta=0.02)

    def test_its_buckling_by_annex_a_of_en_1993_6(self):
        document = beam()
        v, lateral = values_of(document, "twist"), values_of(document, "lateral")
        B_Rd = 0.0107 * 0.15**2 * 0.2893 / 6 * 355e6
        b = CASE["expect"]["B_kNm2"] * 1e3 / B_Rd
        k_alpha = 1 / (1 - 37.5e3 / lateral["Mcr"])
        by_hand = 37.5e3 / lateral["Mb_Rd"] + (0.7 - 0.2 * b) * k_alpha * b
        self.assertAlmostEqual(v["u"] / by_hand, 1, delta=2e-3)

    def test_compression_makes_the_twist_grow(self):
        p = steel_arrays([(rolled_i("IPE 300", "IPE", 0.3, 0.15, 0.0071, 0.0107, 0.015), material("S355"), False)])
        one = {n: np.array([x]) for n, x in {"u_Ny": 0.1, "u_Nz": 0.3, "u_LT": 0.0, "u_661": 0.1, "u_662": 0.3, "ratio_Mz": 0.0, "ratio_My": 0.0, "Mb_Rd": 1e5, "Mcr": 2e5, "Ncr_z": 5e5, "Ncr_T": 4e5, "cls": 1.0}.items()}  # fmt: skip
        B = np.array([500.0])
        found_ = torsion_member(p, one, np.array([-1e5]), B, np.zeros(1), 1.0)
        b = 500 / (0.0107 * 0.15**2 * 0.2893 / 6 * 355e6)
        self.assertAlmostEqual(float(found_["u_twist"][0]), 0.3 + (0.7 - 0.2 * b) * b / (1 - 1 / 4), delta=1e-9)
        beyond = torsion_member(p, one, np.array([-4e5]), B, np.zeros(1), 1.0)
        self.assertGreater(float(beyond["u_twist"][0]), 10)

    def test_a_hollow_cantilever_by_hand(self):
        # SHS 150x8 of S355 hot finished: a torque and a force at its tip
        document = beam(
            torque=40.0, force=20.0, section="SHS 150x8", length=3.0, supports=[{"node": "n0", "fixed": ALL}]
        )
        chain, _, use = found(document)
        s = chain.structure.members[0].section
        t = 40e3 / (s.Wt * 355e6 / sqrt(3))
        M, V = 20e3 * 1.5 / (s.Wpl_y * 355e6), 20e3 / (s.Av_z * 355e6 / sqrt(3))
        self.assertGreater(t, 0.4)
        self.assertAlmostEqual(use["torsion"], max(hypot(M, t), V + t), delta=1e-6)

    def test_a_hollow_strut_by_hand(self):
        # pressed with 600 kN, twisted and bent: what 6.3.3 finds, with the strength that torsion leaves
        document = beam(torque=50.0, force=20.0, section="SHS 150x8", length=4.0)
        data = document.model_dump(mode="json")
        data["node_loads"] = [{"case": "Q", "node": "n1", "force": [-600, 0, 0]}]
        chain, _, use = found(read_document(data))
        t = 25e3 / (chain.structure.members[0].section.Wt * 355e6 / sqrt(3))
        self.assertAlmostEqual(use["twist"], hypot(max(use["interaction"], use["flexural"]), t), delta=1e-6)

    def test_beyond_what_they_bear_they_never_pass(self):
        for document in (
            beam(torque=9.0, force=30.0),
            beam(torque=1.5, force=150.0),
            beam(torque=130.0, force=1.0, section="SHS 150x8"),
            beam(torque=9.0, force=0.5, length=3.0, supports=[{"node": "n0", "fixed": ALL}]),
            beam(
                torque=12.0, force=40.0, section="HEA 200", supports=[{"node": n, "fixed": ALL} for n in ("n0", "n1")]
            ),
        ):
            _, verdict, use = found(document)
            self.assertEqual(verdict.status, "fails", use)

    def test_a_root_that_cannot_warp(self):
        document = beam(torque=1.0, force=1.0, length=4.0, supports=[{"node": "n0", "fixed": ALL}])
        # the torque acts at the middle: what lies beyond it is not twisted, but holds it from warping
        v = values_of(document, "torsion")
        exact = 1e3 / K * (sinh(K * 4) - sinh(K * 2)) / cosh(K * 4)
        self.assertAlmostEqual(v["B"] / exact, 1, delta=2e-3)

    def test_a_root_on_stiff_springs_warps_as_little_as_a_clamped_one(self):
        clamped = beam(torque=9.0, force=0.5, length=3.0, supports=[{"node": "n0", "fixed": ALL}])
        springs = {"node": "n0", "fixed": ["x", "y", "z", "rx"], "springs": {"ry": 1e9, "rz": 1e9}}
        sprung = beam(torque=9.0, force=0.5, length=3.0, supports=[springs])
        self.assertAlmostEqual(found(sprung)[2]["torsion"], found(clamped)[2]["torsion"], delta=1e-3)
        self.assertEqual(found(sprung)[1].status, "fails")
        # what slides along it is no hinge
        both = [{"node": n, "fixed": ALL} for n in ("n0", "n1")]
        firm, sliding = (
            found(beam(supports=both, **more))[2]["torsion"] for more in ({}, {"releases": {"start": ["x"]}})
        )
        self.assertAlmostEqual(sliding, firm, delta=1e-6)

    def test_in_pieces_it_is_said_and_not_passed(self):
        whole = found(beam())[2]["torsion"]
        chain, verdict, _ = found(beam(cuts=(1.7,)), 1)
        self.assertEqual(verdict.status, "not covered")
        self.assertIn("its torsion goes on in another member", verdict.not_covered[0])
        self.assertLess(whole, 1)
        self.assertFalse(chain.verification.whole.passes)

    def test_little_torsion_is_negligible_and_more_is_not(self):
        limit = 0.01 * 18.8e-6 * 355e6 / sqrt(3)
        self.assertNotIn("torsion", found(beam(torque=2 * 0.9 * limit / 1e3))[2])
        self.assertIn("torsion", found(beam(torque=2 * 1.1 * limit / 1e3))[2])

    def test_class_4_and_haunches_say_that_it_is_not_covered(self):
        slender = {"name": "girder", "shape": "welded I", "h": 900, "b": 200, "tf": 12, "tw": 5}
        document = beam(torque=3.0, section="girder").model_dump(mode="json")
        _, verdict, _ = found(read_document(document | {"built_sections": [slender]}))
        self.assertTrue(any("class 4" in words for words in verdict.not_covered), verdict.not_covered)

    def test_proof_and_verdict_agree(self):
        for document in (beam(), beam(torque=30.0, section="SHS 150x8"), beam(torque=0.9, cuts=())):
            chain, verdict, _ = found(document)
            self.assertTrue({"torsion", "twist"} <= {o.criterion for o in verdict.outcomes})
            for outcome in verdict.outcomes:
                proof = prove(chain.verification, chain.combinations, 0, outcome)
                self.assertAlmostEqual(
                    chain.verification.checks.evaluated(0, outcome).values["u"], outcome.utilisation, delta=1e-9
                )
                self.assertTrue(proof.steps)
