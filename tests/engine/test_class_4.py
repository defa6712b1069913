"""Slender sections: effective areas and moduli, webs that buckle under shear, and what is not covered."""

import unittest
from dataclasses import replace
from math import isnan, sqrt

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.catalogue.sections import section
from engine.catalogue.shapes.hollow import rectangular_hollow
from engine.catalogue.shapes.i_sections import welded_i
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.standards.en.effective import effective, internal, outstand
from engine.standards.en.steel import section_check, shear_check, steel_arrays
from engine.verification.proof import prove
from tests.engine.helpers import FIXED, published

CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}
GIRDER = {"name": "girder", "shape": "welded I", "h": 1030, "b": 280, "tf": 15, "tw": 6}


def plates(case):
    s = case["inputs"]["section"]
    return welded_i("w", *(s[key] / 1000 for key in ("h_mm", "top_b_mm", "top_t_mm", "tw_mm")))


class Published(unittest.TestCase):
    def near(self, case, **found):
        for key, value in found.items():
            self.assertAlmostEqual(value / case["expect"][key], 1, delta=1e-3, msg=f"{case['id']} {key}")

    def test_in_compression(self):
        case = CASES["E01"]
        found = effective(plates(case), 355e6)
        self.near(case, Aeff_mm2=found.A * 1e6, Nc_kN=found.A * 355e3)

    def test_in_bending(self):
        case = CASES["E02"]
        found = effective(plates(case), 355e6)
        self.near(case, Weff_compression_mm3=found.Wy * 1e9, Mc_kNm=found.Wy * 355e3)

    def test_hollow(self):
        case = CASES["E03"]
        s = rectangular_hollow("r", 0.3, 0.2, 0.005)
        found = effective(s, 460e6)
        # its corners are rounded in the catalogue, and in the case
        self.near(case, Aeff_mm2=found.A * 1e6, Nc_kN=found.A * 460e3)
        for key, flat in (("rho_h", 0.285), ("rho_b", 0.185)):
            slender = flat / 0.005 / (28.4 * sqrt(235 / 460) * 2)
            self.near(case, **{key: internal(slender, 1.0)})

    def test_in_shear(self):
        case = CASES["E04"]
        p = steel_arrays([(plates(case), material("S355"), False)]).take(np.array([0]), 0)
        v = shear_check(p, np.array([0.0]), np.array([500e3]), 1.0, 1.2, 1.0)
        self.near(case, lambda_w=v["lambda_w"][0], chi_w=v["chi_w"][0], Vbw_kN=v["Vbw_Rd"][0] / 1e3)
        self.assertAlmostEqual(v["u_Vz"][0], 500 / case["expect"]["Vb_kN"], delta=1e-3)


class Stiffened(unittest.TestCase):
    """A web of 1000 × 6 of S355, by hand: ε = 0.8136."""

    def check(self, panel=float("inf"), rigid=0.0, **sizes):
        s = {"h": 1.03, "b": 0.28, "tf": 0.015, "tw": 0.006} | sizes
        p = steel_arrays([(welded_i("w", *s.values()), material("S355"), False)])
        p = replace(p, panel=np.array([panel]), rigid_ends=np.array([rigid])).take(np.array([0]), 0)
        return shear_check(p, np.array([0.0]), np.array([100e3]), 1.0, 1.2, 1.0)

    def test_stiffeners_along_it_and_rigid_end_posts(self):
        eps = sqrt(235 / 355)
        for panel, k in ((2.0, 5.34 + 4 / 4), (1.0, 9.34), (0.5, 4 + 5.34 * 4)):
            slender = 1000 / (37.4 * 6 * eps * sqrt(k))
            v = self.check(panel)
            self.assertAlmostEqual(float(v["lambda_w"][0]), slender, delta=1e-9)
            chi = 1.2 if slender < 0.83 / 1.2 else 0.83 / slender
            self.assertAlmostEqual(float(v["chi_w"][0]), chi, delta=1e-9)
            rigid = 1.37 / (0.7 + slender) if slender >= 1.08 else chi
            self.assertAlmostEqual(float(self.check(panel, 1.0)["chi_w"][0]), rigid, delta=1e-9)
            self.assertAlmostEqual(float(v["Vbw_Rd"][0]), min(chi * 355e6 * 1.0 * 0.006 / sqrt(3), 1e12), delta=1.0)

    def test_far_apart_they_do_next_to_nothing_and_closer_never_harm(self):
        plain = float(self.check()["Vz_Rd"][0])
        values = [float(self.check(panel)["Vz_Rd"][0]) for panel in (1000.0, 4.0, 2.0, 1.0, 0.5)]
        self.assertAlmostEqual(values[0] / plain, 1, delta=2e-3)
        self.assertEqual(values, sorted(values))

    def test_a_web_that_needs_none_may_need_its_resistance_checked(self):
        # 5.1(2): stiffened webs above 31 ε √k_τ/η; 800 × 14 with stiffeners far apart and near
        v = self.check(1.0, h=0.83, tw=0.014)
        self.assertNotIn("lambda_w", v)

    def test_in_the_verdict_and_its_proof(self):
        def found(**checks):
            data = {
                "built_sections": [GIRDER],
                "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
                "members": [
                    {"name": "m", "start": "a", "end": "b", "section": "girder", "restraints_outer": [1, 2, 3, 4, 5, 6, 7]}
                    | ({"checks": checks} if checks else {})
                ],
                "supports": [{"node": "a", "fixed": ["x", "y", "z", "rx"]}, {"node": "b", "fixed": ["y", "z", "rx"]}],
                "cases": [{"name": "Q", "nature": "imposed"}],
                "combinations": [{"name": "C1", "use": "strength", "factors": {"Q": 1.0}}],
                "rules": {"imperfections": False},
                "member_loads": [{"case": "Q", "member": "m", "kind": "line", "value": [0, 0, -100]}],
            }  # fmt: skip
            chain = run(read_document(data))
            verdict = chain.verification.verdicts[0]
            outcome = next(o for o in verdict.outcomes if o.criterion == "shear")
            steps = prove(chain.verification, chain.combinations, 0, outcome).steps
            return outcome.utilisation, {s.symbol: s.value for s in steps}, verdict

        plain, _, _ = found()
        near, steps, verdict = found(panel=1.0, rigid_ends=True)
        eps = sqrt(235 / 355)
        chi = 1.37 / (0.7 + 1000 / (37.4 * 6 * eps * sqrt(9.34)))
        self.assertAlmostEqual(near, 400e3 / (chi * 355e6 * 0.006 / sqrt(3)), delta=1e-6)
        self.assertLess(near, plain)
        self.assertEqual(steps["a"], "1.000 m")
        self.assertEqual(steps[r"k_\tau"], "9.340")
        self.assertTrue(any("end posts themselves are not checked" in words for words in verdict.left_out))


class Parts(unittest.TestCase):
    def test_whole_up_to_their_limits(self):
        """(4.2) and (4.3) begin at 1 where they begin: λ̄_p = 0.673 and 0.874 of internal parts under ψ = 1 and −1, 0.748 of outstands."""
        for psi, limit in ((1.0, 0.673), (-1.0, 0.874)):
            self.assertEqual(internal(limit - 0.001, psi), 1.0)
            self.assertAlmostEqual(internal(limit + 0.001, psi), 1.0, delta=2e-3)
        self.assertEqual(outstand(0.748), 1.0)
        self.assertAlmostEqual(outstand(0.7481), 1.0, delta=1e-3)

    @settings(max_examples=200, deadline=None)
    @given(
        st.floats(0.3, 1.5), st.floats(0.1, 0.5), st.floats(0.006, 0.03), st.floats(0.004, 0.02), st.floats(235, 460)
    )
    def test_never_more_than_the_gross_section(self, h, b, tf, tw, fy):
        s = welded_i("w", h, b, tf, tw)
        found, weaker = effective(s, fy * 1e6), effective(s, 1.1 * fy * 1e6)
        for name, gross in (("A", s.A), ("Wy", s.Wel_y), ("Wz", s.Wel_z)):
            self.assertLessEqual(getattr(found, name), gross * (1 + 1e-12))
            self.assertGreater(getattr(found, name), 0.0)
            # the higher the strength, the less of it is effective
            self.assertLessEqual(getattr(weaker, name), getattr(found, name) * (1 + 1e-12))

    def test_shells_are_not_covered(self):
        self.assertTrue(isnan(effective(section("CHS 323.9x6.3"), 460e6).A))

    def test_slender_flanges_lose_their_tips(self):
        """Flange outstand 297/10 under S355: λ̄_p = 29.7/(28.4 · 0.8136 · √0.43) = 1.960, ρ = 0.4612."""
        s = welded_i("w", 0.4, 0.6, 0.010, 0.012 / 2)
        lost = (1 - 0.4612) * 0.297 * 0.010
        web = (0.4 - 0.02) / 0.006 / (28.4 * 0.8136 * 2)
        rho = (web - 0.22) / web**2
        self.assertAlmostEqual(effective(s, 355e6).A, s.A - 4 * lost - (1 - rho) * 0.38 * 0.006, delta=2e-6)


class Sections(unittest.TestCase):
    def check(self, s, N, M):
        p = steel_arrays([(s, material("S355"), False)]).take(np.array([0]), 0)
        zero = np.array([0.0])
        return {
            k: float(np.ravel(v)[0])
            for k, v in section_check(p, np.array([N]), zero, zero, zero, np.array([M]), zero, 1.0).items()
        }

    def test_compression_and_bending_add_up(self):
        """(6.44) with e_N = 0."""
        s = plates(CASES["E02"])
        eff = effective(s, 355e6)
        v = self.check(s, -1e6, 5e5)
        self.assertEqual(v["cls"], 4)
        self.assertAlmostEqual(v["u_NM"], 1e6 / (eff.A * 355e6) + 5e5 / (eff.Wy * 355e6), delta=1e-9)

    def test_tension_has_the_whole_area(self):
        s = plates(CASES["E02"])
        self.assertAlmostEqual(self.check(s, 1e6, 0.0)["N_Rd"], s.A * 355e6, delta=1.0)


class Girders(unittest.TestCase):
    """A plate girder of 10 m held sideways, by hand: E04's plates in S355."""

    def verdict(self, q):
        held = [k / 2 for k in range(1, 20)]
        ends = [{"node": n, "fixed": fixed} for n, fixed in (("a", ["x", "y", "z", "rx"]), ("b", ["y", "z", "rx"]))]
        document = {
            "built_sections": [GIRDER],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [10, 0, 0]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": "girder", "material": "S355"}
                | {"restraints_outer": held, "restraints_inner": held}
            ],
            "supports": ends,
            "cases": [{"name": "P"}],
            "member_loads": [{"case": "P", "member": "m", "value": [0, 0, -q]}],
            "rules": {"imperfections": False},
            "combinations": [{"name": "C", "factors": {"P": 1.0}}],
        }
        return run(read_document(document)).verification.verdicts[0]

    def test_bending_and_shear_govern_as_by_hand(self):
        """V_bw,Rd = 430.5 kN (E04), so q = 86.1 kN/m; its shear use is V/V_bw whatever its plastic resistance of 1230 kN."""
        for q in (40.0, 80.0, 90.0):
            verdict = self.verdict(q)
            found = next(o for o in verdict.outcomes if o.criterion == "shear")
            self.assertAlmostEqual(found.utilisation, q * 5 / 430.5, delta=2e-3)
            self.assertEqual(verdict.status == "passes", q < 86 and max(o.utilisation for o in verdict.outcomes) <= 1)
        self.assertTrue(any("stiffeners" in words for words in self.verdict(40.0).left_out))

    def test_it_fails_in_bending_before_its_gross_modulus(self):
        s = welded_i("w", 1.03, 0.28, 0.015, 0.006)
        effective_one = effective(s, 355e6).Wy * 355e3
        self.assertLess(effective_one, 0.95 * s.Wel_y * 355e3)
        q = 8 * effective_one * 1.01 / 100
        self.assertEqual(self.verdict(q).status, "fails")

    def test_a_web_so_slender_that_the_flange_folds_into_it(self):
        held = [k / 2 for k in range(1, 12)]
        thin = GIRDER | {"tw": 4, "h": 1830, "b": 400, "tf": 30}
        document = {
            "built_sections": [thin],
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [6, 0, 0]}],
            "members": [
                {"name": "m", "start": "a", "end": "b", "section": "girder", "material": "S460"}
                | {"restraints_outer": held, "restraints_inner": held}
            ],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "b", "force": [0, 0, -1]}],
            "rules": {"imperfections": False},
            "combinations": [{"name": "C", "factors": {"P": 1.0}}],
        }
        # 0.55 · 210 000/460 · √(7.08/12.0 · 10⁻³) = 193 below 1770/4 = 443
        verdict = run(read_document(document)).verification.verdicts[0]
        self.assertEqual(verdict.status, "not covered")
        self.assertTrue(any("into the web" in words for words in verdict.not_covered), verdict.not_covered)
