"""Haunched and tapered members: buckling sideways, sections by stresses, the general method, and what must not pass."""

import unittest
from dataclasses import replace
from math import pi, sqrt

import numpy as np

from engine.analysis.flanges import flanges_at
from engine.analysis.lateral import Ends, factors_of, geometry_of, shape_of, stretch_of
from engine.catalogue.sections import section
from engine.catalogue.shapes.i_sections import haunched, welded_i
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import read_document
from engine.document.base import Haunch
from engine.dossier.second import second
from engine.errors import ModelError
from engine.jigs.haunches import haunch_pieces, taper
from engine.jigs.parts import Materials
from engine.standards.en.checks.alike import general_stretches
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.general import general_check, in_plane
from engine.standards.en.haunched import classify_haunched, haunched_arrays, haunched_check
from engine.structure.model import Member, Piece
from engine.verification.outcomes import Outcome
from tests.engine.helpers import FIXED, hall, published

STEEL = replace(material("S355"), E=210e9, G=80769.2e6)
FORKS = Ends("fork", "fork")
CASES = {case["id"]: case for case in published("steel-deep.json")["cases"]}
HAUNCH = {"length": 2.4, "depth": 0.3}


def member(of, **more):
    return Member("m", "beam", (0, 1), of, STEEL, **more)


def critical(m, length, forces, ends=FORKS, above=False, places=(), least=16):
    """Factor on forces x → (N, M, V), with their jumps at `places`."""
    stretch = stretch_of(m, [0.0, length, *places], 0.0, length, ends, least)
    beside = 1e-9 * length
    at = [x for a, b in zip(stretch.x[:-1], stretch.x[1:], strict=True) for x in (a + beside, b - beside)]
    N, M, V = (np.array(values)[:, None] for values in zip(*map(forces, at), strict=True))
    return float(factors_of(stretch, geometry_of(stretch, N, M, V, above))[0])


def of_case(case):
    s = case["inputs"]["section"]
    if "designation" in s:
        return section(s["designation"].replace("HE 240 A", "HEA 240").replace("HE 200 B", "HEB 200"))
    keys = ("h_mm", "top_b_mm", "top_t_mm", "tw_mm", "bottom_b_mm", "bottom_t_mm")
    return welded_i("w", *(s[key] / 1000 for key in keys))


class Published(unittest.TestCase):
    """Eigenvalues of two other programs: Hermite elements, and shooting on the differential equations."""

    def near(self, case, key, found, tolerance=0.003):
        self.assertAlmostEqual(found / case["expect"][key], 1, delta=tolerance, msg=case["what"])

    def test_critical_moments(self):
        built_in = Ends("built in", "built in")
        for name, shape, ends in (
            ("L01", lambda x, L: (0.0, 1 - x / L, -1 / L), FORKS),
            ("L02", lambda x, L: (0.0, 4 * x * (L - x) / L**2, 4 * (L - 2 * x) / L**2), FORKS),
            ("L04", lambda x, L: (0.0, x / L - 1, 1 / L), Ends("built in", "free")),
            ("L05", lambda x, L: (0.0, -((1 - x / L) ** 2), 2 * (1 - x / L) / L), Ends("built in", "free")),
            ("L06", lambda x, L: (0.0, 1.0, 0.0), FORKS),
            ("L07", lambda x, L: (0.0, -1 + 6 * x / L - 6 * (x / L) ** 2, 6 / L - 12 * x / L**2), built_in),
            ("L10", lambda x, L: (0.0, 4 * x * (L - x) / L**2, 4 * (L - 2 * x) / L**2), FORKS),
        ):
            case = CASES[name]
            inputs = case["inputs"]
            L, held = inputs["L_mm"] / 1000, inputs["lateral_restraint_at_midspan"]
            m = member(of_case(case), outer=(0.0, L / 2, L) if held else ())

            def forces(x, shape=shape, L=L):
                N, M, V = shape(x, L)
                return N, 1e3 * M, 1e3 * V

            found = critical(m, L, forces, ends, inputs["load_height"] == "top flange", [L / 2] if held else [])
            self.near(case, "Mcr_kNm", found)

    def test_a_tapered_web(self):
        case, L = CASES["L08"], 6.0
        deep, shallow = (welded_i("w", h, 0.2, 0.012, 0.007) for h in (0.7, 0.35))
        for align in ("centre", "top flange", "bottom flange"):
            m = member(deep, pieces=taper(deep, shallow, L, align))
            found = critical(m, L, lambda x: (0.0, 1e3 * (1 - x / L), -1e3 / L))
            self.near(case, "Mcr_kNm", found, 1e-4)

    def test_under_axial_force_and_moment(self):
        L = 5.0
        found = critical(member(section("HEB 200")), L, lambda x: (-400e3, 60e3, 0.0))
        self.near(CASES["A01"], "alpha_cr_op", found, 1e-4)
        found = critical(member(section("HEA 240")), L, lambda x: (-300e3, 70e3 * (1 - x / L), -70e3 / L))
        self.near(CASES["P02"], "alpha_cr_op", found, 1e-4)


class Shapes(unittest.TestCase):
    """How a member looks as it buckles sideways."""

    def shape(self, m, length, ends=FORKS, moment=1.0, least=16):
        stretch = stretch_of(m, [0.0, length], 0.0, length, ends, least)
        M = np.full((2 * len(stretch.elastic), 1), moment)
        geometric = geometry_of(stretch, 0 * M, M, 0 * M, False)
        return shape_of(stretch, geometric[..., 0])

    def test_under_a_uniform_moment(self):
        # v'' E I_z = −M φ between forks: v = φ M/N_cr,z, both half a sine; the flanges move by v ± φ h/2
        s, length = section("IPE 300"), 6.0
        N_cr = pi**2 * STEEL.E * s.Iz / length**2
        M_cr = sqrt(N_cr * (STEEL.G * s.It + pi**2 * STEEL.E * s.Iw / length**2))
        arm, half = M_cr / N_cr, (s.h - s.tf) / 2
        for moment, pressed in ((1.0, 0), (-1.0, 1)):
            x, both = self.shape(member(s), length, moment=moment)
            wave = np.sin(pi * x / length)
            np.testing.assert_allclose(both[pressed], wave, atol=1e-3)
            np.testing.assert_allclose(both[1 - pressed], (arm - half) / (arm + half) * wave, atol=5e-3)

    def test_what_holds_a_flange_stays(self):
        m = member(section("IPE 300"), outer=(0.0, 3.0, 6.0), inner=(0.0, 6.0))
        x, (outer, inner) = self.shape(m, 6.0, moment=-1.0)
        at = int(np.argmin(abs(x - 3.0)))
        self.assertAlmostEqual(outer[at], 0.0, delta=1e-9)
        self.assertAlmostEqual(inner[at], 1.0, delta=1e-6)

    def test_a_free_end_moves_most(self):
        x, both = self.shape(member(section("IPE 300")), 3.0, Ends("built in", "free"), moment=-1.0)
        self.assertEqual((int(np.abs(both[1]).argmax()), float(both[1][-1])), (len(x) - 1, 1.0))


class Flanges(unittest.TestCase):
    def test_a_taper_to_itself_is_prismatic(self):
        s, L = welded_i("w", 0.5, 0.2, 0.012, 0.008), 7.0
        cut = member(s, pieces=taper(s, s, L, "centre"), inner=(0.0, 3.0, L))
        whole = member(s, inner=(0.0, 3.0, L))

        def forces(x):
            return -50e3, 1e5 - 3e4 * x, -3e4

        self.assertAlmostEqual(critical(cut, L, forces) / critical(whole, L, forces), 1, delta=1e-9)

    def test_where_the_flanges_of_a_haunch_are(self):
        s, L = section("IPE 360"), 12.0
        m = member(s, pieces=haunch_pieces(_haunch(), s, L, True, Materials(), "h"))
        f = flanges_at(m, np.array([1e-6, 1.2, 2.4 - 1e-6, 6.0]))
        # the rafter's own flanges go on straight; the lowest one comes up to them
        np.testing.assert_allclose(f.top, (s.h - s.tf) / 2, atol=1e-9)
        np.testing.assert_allclose(f.middle[:2], -(s.h - s.tf) / 2, atol=1e-9)
        depths = np.array([0.3, 0.15, 0.0])
        np.testing.assert_allclose(f.bottom[:3], -s.h / 2 - depths + s.tf / 2, atol=2e-3)
        self.assertAlmostEqual(f.bottom[3], -(s.h - s.tf) / 2)

    def test_forces_about_another_line_buckle_it_alike(self):
        # a compressed member: N at its centroid, or N and N e about a line beside it
        s, L = section("IPE 300"), 5.0
        rise = 0.2
        moved = member(s, pieces=(Piece(0.0, L, s, rise, rise),))
        one = critical(member(s), L, lambda x: (-2e5, 3e4, 0.0))
        # M about the line = M about the centroid − e N
        other = critical(moved, L, lambda x: (-2e5, 3e4 + rise * 2e5, 0.0))
        self.assertAlmostEqual(one / other, 1, delta=1e-9)

    def test_a_finer_mesh_and_finer_pieces_say_the_same(self):
        s, L = section("IPE 360"), 6.0
        found = []
        for pieces, least in ((6, 8), (6, 40), (24, 40)):
            # a flange so thin that the last piece is deeper
            plates = _haunch(made_of="plates", web=0.008, flange_width=0.17, flange=0.006)
            m = member(s, pieces=haunch_pieces(plates, s, L, True, Materials(), "h", pieces))
            found.append(critical(m, L, lambda x: (-5e4, -2e5 + 4e4 * x, 4e4), least=least))
        np.testing.assert_allclose(found[:2], found[2], rtol=3e-3)


def _haunch(**more):
    return Haunch(**HAUNCH, **more)


class Sections(unittest.TestCase):
    rafter = section("IPE 360")
    made = haunched(rafter, 0.25, 0.008, 0.17, 0.0127)
    row = haunched_arrays([(made, material("S355"))]).take(np.array([0]), 0)

    def test_by_parallel_axes(self):
        """IPE 360 (A 72.73 cm², I_y 16 270 cm⁴; EN 10365) with a web of 8 mm and a flange of 170 × 12.7 below it."""
        A = np.array([72.73, 0.8 * (25 - 1.27), 17 * 1.27])
        z = np.array([0.0, -18 - (25 - 1.27) / 2, -18 - 25 + 1.27 / 2])
        own = np.array([16270, 0.8 * (25 - 1.27) ** 3 / 12, 17 * 1.27**3 / 12])
        centre = (A * z).sum() / A.sum()
        Iy = (own + A * (z - centre) ** 2).sum()
        W = Iy / max(18 - centre, centre + 43)
        self.assertAlmostEqual(self.made.A * 1e4 / A.sum(), 1, delta=1e-3)
        self.assertAlmostEqual(self.made.Wel_y * 1e6 / W, 1, delta=1e-3)
        N, M = -200e3, -300e3
        v = haunched_check(self.row, *(np.array([x]) for x in (N, 0.0, 0.0, 0.0, M, 0.0)), 1.0)
        by_hand = 200e3 / (A.sum() * 1e-4 * 355e6) + 300e3 / (W * 1e-6 * 355e6)
        self.assertAlmostEqual(v["u_NM"][0] / by_hand, 1, delta=1e-3)

    def test_webs_under_their_stresses(self):
        """In compression alone 42 ε, with ε = √(235/355): 298.6/8 = 37.3 of the rafter's web is above it; in bending it is not."""
        limit = 42 * sqrt(235 / 355)
        web = (360 - 2 * 12.7 - 2 * 18) / 8
        pressed = classify_haunched(self.row, np.array([-1e6]), np.array([0.0]))
        self.assertAlmostEqual(pressed["web_use"][0], web / limit, delta=1e-3)
        self.assertTrue(pressed["slender"][0])
        self.assertFalse(classify_haunched(self.row, np.array([-1e4]), np.array([-3e5]))["slender"][0])

    def test_a_slender_web_is_left_out(self):
        N = np.array([-5e5])
        none = np.array([0.0])
        v = haunched_check(self.row, N, none, none, none, none, none, 1.0)
        flanges = 3 * 0.17 * 0.0127
        self.assertAlmostEqual(v["n"][0], 5e5 / (flanges * 355e6), delta=1e-9)
        self.assertGreater(v["u_NM"][0], v["n"][0])

    def test_torsion_and_shear_take_their_part(self):
        none = np.array([0.0])
        M = np.array([-3e5])
        alone = haunched_check(self.row, none, none, none, none, M, none, 1.0)["u_NM"][0]
        tau = 355e6 / sqrt(3)
        half = np.array([0.5 * self.made.Wt * tau])
        twisted = haunched_check(self.row, none, none, none, half, M, none, 1.0)["u_NM"][0]
        self.assertAlmostEqual(twisted / alone, 1 / sqrt(1 - 0.25), delta=1e-9)
        sheared = haunched_check(self.row, none, none, np.array([0.8 * self.made.Av_z * tau]), none, M, none, 1.0)
        self.assertAlmostEqual(sheared["u_NM"][0] / alone, 1 / (1 - 0.6**2), delta=1e-9)


class GeneralMethod(unittest.TestCase):
    def test_a_published_member(self):
        expect = CASES["P02"]["expect"]
        use = 300 / (7683.56 * 235e-3) + 70 / (744.62e3 * 235e-6)
        self.assertAlmostEqual(1 / use, expect["alpha_ult_k"], delta=0.002)
        v = general_check(np.array([use]), np.array([expect["alpha_cr_op"]]), np.array([0.0]), 0.34, 0.34, 1.0)
        self.assertAlmostEqual(v["lambda_op"][0], expect["lambda_op"], delta=1e-3)
        # curve c about z in the case; curve a laterally
        v = general_check(np.array([use]), np.array([expect["alpha_cr_op"]]), np.array([0.0]), 0.49, 0.21, 1.0)
        self.assertAlmostEqual(v["chi_flex"][0], expect["chi_op_min"], delta=1e-3)
        self.assertAlmostEqual(v["chi_LTop"][0], expect["chi_LT"], delta=1e-3)
        self.assertAlmostEqual(v["u_general"][0], expect["utilisation_6_3_4"], delta=1e-3)

    def test_bending_sideways_grows(self):
        args = np.array([0.4]), np.array([4.0])
        alone = general_check(*args, np.array([0.0]), 0.49, 0.76, 1.0)["u_general"][0]
        beside = general_check(*args, np.array([0.15]), 0.49, 0.76, 1.0)["u_general"][0]
        self.assertAlmostEqual(beside - alone, 0.15 / (1 - 1 / 4), delta=1e-12)
        # beyond its critical load it never passes
        over = general_check(np.array([0.1]), np.array([0.9]), np.array([0.0]), 0.49, 0.76, 1.0)
        self.assertGreater(over["u_general"][0], 1.0)

    def test_in_the_plane(self):
        """λ̄_y = 1.2, curve b (χ = 0.4781); N 20 % and M 30 % of the section's."""
        one = np.array([1.0])
        v = in_plane(-0.2 * one, 0.3 * one, one, one, one, np.array([True]), 1.2 * one, 0.4781 * one, 0.9 * one, 1.0)
        n = 0.2 / 0.4781
        self.assertAlmostEqual(v["use"][0], n + 0.9 * min(1 + 1.0 * n, 1 + 0.8 * n) * 0.3, delta=1e-9)
        pulled = in_plane(
            0.2 * one, 0.3 * one, one, one, one, np.array([True]), 1.2 * one, 0.4781 * one, 0.9 * one, 1.0
        )
        self.assertAlmostEqual(pulled["use"][0], 0.5, delta=1e-12)


def drawn(loads, **more):
    """A beam of IPE 360 on X, 8 m long, drawn by hand: a cantilever clamped at its start."""
    return read_document(
        {
            "nodes": [{"name": "a", "at": [0, 0, 0]}, {"name": "b", "at": [8, 0, 0]}],
            "members": [{"name": "m", "start": "a", "end": "b", "section": "IPE 360", **more}],
            "supports": [{"node": "a", "fixed": FIXED}],
            "cases": [{"name": "P"}],
            "node_loads": [{"case": "P", "node": "b", "force": loads}],
            "rules": {"imperfections": False},
            "combinations": [{"name": "C", "factors": {"P": 1.0}}],
        }
    )


class Verdicts(unittest.TestCase):
    def verdict(self, document):
        chain = run(document)
        return chain.verification.verdicts[0]

    def use(self, document, criterion="general"):
        found = [o.utilisation for o in self.verdict(document).outcomes if o.criterion == criterion]
        return found[0] if found else float("nan")

    held = {"restraints_outer": [2.0, 4.0, 6.0, 8.0], "restraints_inner": [2.0, 4.0, 6.0, 8.0]}

    def test_what_bends_beyond_its_resistance_fails(self):
        for name, more in (
            ("haunch", {"haunch_start": HAUNCH}),
            ("haunch at the tip", {"haunch_end": HAUNCH}),
            ("both", {"haunch_start": HAUNCH, "haunch_end": HAUNCH}),
        ):
            with self.subTest(name):
                document = drawn([0, 0, -1.0], **more, **self.held)
                chain = run(document)
                m = chain.structure.members[0]
                # by hand: the tip load at which the first of its sections is plastic through and through
                places = (
                    [(0.0, m.section)]
                    + [(p.start, p.section) for p in m.pieces]
                    + [(p.end, m.section) for p in m.pieces]
                )
                plastic = min(
                    s.Wpl_y * m.material.fy(s.tf) / (8 - x) / 1e3
                    for x, s in places
                    if x < 7.9 and not any(p.start <= x < p.end and p.section is not s for p in m.pieces)
                )
                for share, fails in ((1.02, True), (-1.02, True), (0.2, False)):
                    verdict = self.verdict(drawn([0, 0, -plastic * share], **more, **self.held))
                    worst = max(o.utilisation for o in verdict.outcomes if o.criterion in ("section", "general"))
                    self.assertEqual(worst > 1.0, fails, (share, worst))
                    self.assertEqual(verdict.status, "fails" if fails else "passes")

    def test_nothing_passes_beyond_its_buckling_load(self):
        # an eigenvalue below 1 with hardly any stress: long and held nowhere
        s = section("IPE 360")
        M0 = pi / 8 * sqrt(210e9 * s.Iz * 80.77e9 * s.It)
        self.assertLess(M0 / 8, 40e3)
        for sign in (1, -1):
            verdict = self.verdict(drawn([0, 0, sign * 40.0], haunch_start=HAUNCH))
            self.assertGreater(max(o.utilisation for o in verdict.outcomes if o.criterion == "general"), 1.0)

    def test_a_strut_with_a_haunch_buckles_in_its_plane_too(self):
        # N_cr,y of a cantilever with twice its length; the haunch at the tip hardly helps it
        s = section("IPE 360")
        euler = pi**2 * 210e9 * s.Iy / 16**2 / 1e3
        held = {"restraints_outer": [k / 2 for k in range(1, 17)], "restraints_inner": [k / 2 for k in range(1, 17)]}
        verdict = self.verdict(drawn([-1.1 * euler, 0, 0], haunch_end={"length": 1.0, "depth": 0.2}, **held))
        self.assertNotEqual(verdict.status, "passes")

    def test_a_tapered_strut_counts_in_its_plane_as_its_least_section(self):
        """Welded 500 to 250 mm, held sideways every half metre: N/(χ_y A f_y) of the 250 mm end, curve b, at the length of 8 m."""
        plates = {"shape": "welded I", "b": 200, "tw": 8, "tf": 12}
        data = drawn([-600.0, 0, 0]).model_dump()
        data["built_sections"] = [{"name": "deep", "h": 500, **plates}, {"name": "low", "h": 250, **plates}]
        held = [k / 2 for k in range(1, 16)]
        data["members"][0] |= {
            "section": "deep",
            "end_section": "low",
            "restraints_outer": held,
            "restraints_inner": held,
        }
        data["supports"].append({"node": "b", "fixed": ["y", "z", "rx"]})
        low = welded_i("low", 0.25, 0.2, 0.012, 0.008)
        slender = sqrt(low.A * 355e6 / (pi**2 * 210e9 * low.Iy / 64))
        phi = 0.5 * (1 + 0.34 * (slender - 0.2) + slender**2)
        chi = 1 / (phi + sqrt(phi**2 - slender**2))
        # the pieces stand for the middles of what they are; the last is a thirty-second of the taper deeper than its end
        least = 600e3 / (chi * low.A * 355e6)
        self.assertGreater(self.use(read_document(data)), 0.95 * least)

    def test_more_restraint_never_hurts_and_more_load_never_helps(self):
        loads = [-50.0, 0, -25.0]
        uses = [
            self.use(drawn(loads, haunch_start=HAUNCH, restraints_outer=outer, restraints_inner=inner))
            for outer, inner in (([], []), ([8.0], []), ([4.0, 8.0], []), ([4.0, 8.0], [4.0]), ([4.0, 8.0], [4.0, 8.0]))
        ]
        self.assertEqual(uses, sorted(uses, reverse=True))
        grown = [
            self.use(drawn([k * x for x in loads], haunch_start=HAUNCH, **self.held)) for k in (0.5, 1.0, 1.5, 2.0)
        ]
        self.assertEqual(grown, sorted(grown))

    def test_a_haunch_of_a_slender_flange_is_not_covered(self):
        plates = {"made_of": "plates", "web": 0.008, "flange": 0.006, "flange_width": 0.3, **HAUNCH}
        verdict = self.verdict(drawn([0, 0, -5.0], haunch_start=plates, **self.held))
        self.assertEqual((verdict.status, verdict.slender), ("not covered", True))
        self.assertTrue(any("class 4" in words for words in verdict.not_covered), verdict.not_covered)

    #: beside an IPE 360: a web of 4 mm, 388 mm deep, above the limit 72 ε = 58.6
    THIN = {"made_of": "plates", "web": 0.004, "flange": 0.012, "flange_width": 0.17, "length": 2.4, "depth": 0.4}

    def test_a_web_that_buckles_under_shear(self):
        chain = run(drawn([0, 0, -60.0], haunch_start=self.THIN, **self.held))
        verdict = chain.verification.verdicts[0]
        self.assertEqual(verdict.not_covered, ())
        self.assertTrue(any("stiffeners at the supports" in words for words in verdict.left_out), verdict.left_out)
        grounds = chain.verification.checks.grounds
        [row] = np.flatnonzero(grounds.deepest > 0)[:1]
        # the piece at the clamp is the middle of a twelfth of the haunch or so: its depth below the section, of the first of its pieces
        piece = min(chain.structure.members[0].pieces, key=lambda p: p.start)
        below = piece.section.h2 - 0.012
        # both webs as one plate of 4 mm: IPE 360 has 334.6 mm between its flanges, of 8 mm
        slender = (334.6 + 1000 * below) / 4
        self.assertAlmostEqual(float(grounds.deepest[row]), slender, delta=0.2)
        chi = 0.83 / (slender / (86.4 * sqrt(235 / 355)))
        bears = chi * 355e6 * (0.3346 * 0.008 + below * 0.004) / sqrt(3)
        found = next(o for o in verdict.outcomes if o.criterion == "shear")
        values = evaluated(grounds, 0, Outcome("shear", 0.0, found.combination, 0.0, int(row), 0)).values
        self.assertAlmostEqual(values["Vbw_Rd"], bears, delta=2e-3 * bears)
        self.assertAlmostEqual(values["u_Vz"], 60e3 / bears, delta=2e-3 * values["u_Vz"])
        # what is deeper than the piece bears no less than the plastic resistance says, and falls by this one
        self.assertLess(bears, values["Av_z"] * 355e6 / sqrt(3))

    def test_beyond_what_its_web_bears_it_falls(self):
        plates = {**self.THIN, "flange": 0.03, "flange_width": 0.3}
        short = drawn([0, 0, -700.0], haunch_start=plates, **self.held)
        short.members[0].section = "HEB 300"
        verdict = self.verdict(short)
        self.assertEqual(verdict.status, "fails")
        self.assertGreater(self.use(short, "shear"), 1.0)

    def test_a_web_that_deepens_too_fast_is_not_covered(self):
        # 400 mm over 1.5 m: 14.9°
        verdict = self.verdict(drawn([0, 0, -5.0], haunch_start={**self.THIN, "length": 1.5}, **self.held))
        self.assertTrue(any("more than 10°" in words for words in verdict.not_covered), verdict.not_covered)
        # at its other end, and as a taper of plates of equal flanges: 0.4 to 1.0 m over 3 m, 11.3°
        at_end = self.verdict(drawn([0, 0, -5.0], haunch_end={**self.THIN, "length": 1.5}, **self.held))
        self.assertTrue(any("more than 10°" in words for words in at_end.not_covered), at_end.not_covered)
        for length, covered in ((3.0, False), (6.0, True)):
            taper_ = drawn([0, 0, -5.0], section="WI 1000x250x6x15", end_section="WI 400x250x6x15")
            taper_.nodes[1].at = (length, 0, 0)
            said = self.verdict(taper_).not_covered
            self.assertEqual(not any("more than 10°" in words for words in said), covered, said)
        # with a web that does not buckle nobody asks
        thick = {**self.THIN, "length": 1.5, "web": 0.008}
        self.assertEqual(self.verdict(drawn([0, 0, -5.0], haunch_start=thick, **self.held)).not_covered, ())

    def test_the_second_figure_of_such_a_web(self):
        chain = run(drawn([0, 0, -60.0], haunch_start=self.THIN, **self.held))
        grounds = chain.verification.checks.grounds
        row = int(np.flatnonzero(grounds.deepest > 0)[0])
        found = second(chain, 0, Outcome("shear", 0.1, 0, 0.0, row, 0))
        self.assertIn("τ_cr", found.method)

    def test_only_i_sections_have_haunches(self):
        for name in ("RHS 300x200x10", "UPN 300"):
            with self.assertRaises(ModelError) as caught:
                run(drawn([0, 0, -5.0], haunch_start={"made_of": "plates", **HAUNCH}, section=name))
            self.assertIn(name, caught.exception.message)
            self.assertIn("haunch_start", caught.exception.place)

    def test_stretches_reach_from_fork_to_fork(self):
        chain = run(hall(frames=2, eaves_haunch=_haunch()))
        for i, m in enumerate(chain.structure.members):
            spans = general_stretches(chain.structure, i)
            self.assertEqual(bool(spans), bool(m.pieces))
            if not spans:
                continue
            self.assertTrue(spans[0][0] == 0.0 and spans[0][1] >= 2.4 - 1e-6, spans)
            verdict = chain.verification.verdicts[i]
            self.assertEqual(verdict.not_covered, ())
            self.assertEqual(sum(o.criterion == "general" for o in verdict.outcomes), 1)
            # section checks reach all of it now
            first = np.searchsorted(chain.combined.elements.member, i)
            self.assertFalse(np.isnan(chain.verification.along[first]).any())
