"""Details of the frame stage: old documents, planes, purlins by hand, effective lengths of other frames, what is said."""

import unittest
from math import cos, pi, radians, sqrt, tan

import numpy as np

from engine.catalogue.sections import family_of, section
from engine.catalogue.shapes.i_sections import welded_i
from engine.catalogue.steels import material
from engine.chain import run
from engine.document import FORMAT_VERSION, Document, read_document
from engine.document.byhand import MemberEdit
from engine.document.floors import FloorJig
from engine.document.jigs import Gable, HallJig, LeanTo, Overhangs, Purlins, RoofBay, RoofTruss
from engine.document.rules import AnalysisOptions
from engine.document.upgrade import upgrade
from engine.errors import ModelError
from engine.expand import expand
from engine.jigs.profile import purlin_positions, stay_positions
from engine.laid import said
from engine.standards.en.checks.effective_lengths import default_factors, sway_factor
from engine.standards.en.hall_actions import HELD, TENSION_ONLY, simplifications
from engine.standards.en.member_stability import stability_check
from engine.standards.en.steel import buckling_curves, section_check, steel_arrays
from engine.structure.planes import planes


def hall(**more):
    return Document(hall=HallJig(**more))


class OldDocuments(unittest.TestCase):
    def test_every_field_of_the_first_hall_finds_its_place(self):
        old = {
            "version": 1,
            "hall": {
                "span": 18, "eaves_height": 5, "pitch": 12, "frames": 4, "spacing": 5.5, "bases": "fixed",
                "purlin_spacing": 1.2, "stay_every": 3, "grade": "S275", "sections": {"columns": "HEA 240"},
            },
            "member_loads": [{"case": "P", "member": "frame-2/column-right", "value": [0, 0, -1]}],
            "cases": [{"name": "P"}],
        }  # fmt: skip
        document = read_document(old)
        h = document.hall
        self.assertEqual(
            (h.bays[0].span, h.bays[0].pitch, h.eaves_height, h.bases, h.grade), (18, 12, 5, "fixed", "S275")
        )
        self.assertEqual((h.spacings, h.purlins.spacing, h.purlins.stay_every), ([5.5] * 3, 1.2, 3))
        self.assertEqual(h.sections.columns, "HEA 240")
        self.assertEqual(document.member_loads[0].member, "frame-2/column-B")
        self.assertEqual(document.version, FORMAT_VERSION)

    def test_hinges_keep_their_meaning(self):
        old = {
            "version": 1,
            "members": [{"name": "m", "start": "a", "end": "b", "section": "s", "releases": {"end": ["y", "z"]}}],
        }
        self.assertEqual(upgrade(old)["members"][0]["releases"], {"end": ["ry", "rz"]})

    def test_nonsense_is_left_for_the_schema_to_refuse(self):
        for data in (
            "text",
            3,
            {"version": 1, "hall": "big"},
            {"version": 1, "members": ["m"]},
            {"version": 1, "hall": {"frames": "four"}},
        ):
            with self.subTest(str(data)), self.assertRaises(ModelError):
                read_document(data)

    def test_a_document_of_today_is_left_alone(self):
        data = Document(hall=HallJig()).model_dump()
        self.assertIs(upgrade(data), data)
        self.assertEqual(read_document(data).model_dump(), data)


class Positions(unittest.TestCase):
    def test_purlins_even_and_with_a_first_one(self):
        self.assertEqual(purlin_positions(6.0, Purlins(spacing=1.5)), (0.0, 1.5, 3.0, 4.5, 6.0))
        first = purlin_positions(6.0, Purlins(spacing=1.5, first=0.3))
        self.assertEqual(first[:2], (0.0, 0.3))
        self.assertLessEqual(max(np.diff(first)), 1.5 + 1e-9)
        self.assertAlmostEqual(first[-1], 6.0)
        self.assertEqual(purlin_positions(1.0, Purlins(spacing=2, first=5)), (0.0, 1.0))

    def test_stays(self):
        places = purlin_positions(9.0, Purlins(spacing=1.5))
        self.assertEqual(stay_positions(places, 2), (0.0, 3.0, 6.0, 9.0))
        self.assertEqual(stay_positions(places, 0), (0.0, 9.0))

    def test_rails_hold_the_outer_columns_only(self):
        built = expand(hall(bays=[RoofBay(span=12), RoofBay(span=12)], rails=Purlins(spacing=2.0, stay_every=1)))
        self.assertEqual(len(built.member("frame-2/column-A").outer), 4)
        self.assertEqual(len(built.member("frame-2/column-A").inner), 4)
        self.assertEqual(len(built.member("frame-2/column-B").outer), 2)


class Planes(unittest.TestCase):
    def test_every_member_of_a_plain_hall_lies_in_one(self):
        built = expand(hall())
        found = planes(built)
        covered = {i for p in found for i in p.members}
        self.assertEqual(covered, set(range(len(built.members))))

    def test_right_handed_and_upright(self):
        for plane in planes(expand(hall(lean_to_left=LeanTo()))):
            u, v = np.array(plane.u), np.array(plane.v)
            self.assertAlmostEqual(float(u @ v), 0, delta=1e-12)
            self.assertAlmostEqual(float(np.linalg.norm(u)), 1, delta=1e-12)
            if plane.kind in ("frame", "row"):
                self.assertEqual(tuple(plane.v), (0, 0, 1))

    def test_a_floor_is_a_level(self):
        built = expand(Document(hall=HallJig(), jigs=[FloorJig(name="loft", along=("2", "3"))]))
        level = next(p for p in planes(built) if p.key == "level-loft")
        self.assertEqual({built.members[i].role for i in level.members}, {"main beam", "joist"})


class Panels(unittest.TestCase):
    def test_snow_on_other_roofs_is_mu1_on_the_plan(self):
        chain = run(
            hall(
                bays=[RoofBay(span=10, shape="flat"), RoofBay(span=10, pitch=40, right_pitch=40)],
                overhangs=Overhangs(right=1.0),
            )
        )
        case = next(i for i, c in enumerate(chain.loading.cases) if c.symbol == "S1")
        steep = 0.8 * (60 - 40) / 30
        expected = -0.8e3 * 42 * (0.8 * 10 + steep * 11)
        self.assertAlmostEqual(chain.loading.expected[case][2] / expected, 1, delta=1e-9)


class WhatIsSaid(unittest.TestCase):
    def test_a_gable_without_posts_is_said(self):
        plain, posted = hall(), hall(front=Gable(kind="posts"), back=Gable(kind="posts"))
        self.assertTrue(any("gable front has no posts" in s for s in simplifications(plain, expand(plain))))
        self.assertFalse(any("has no posts" in s for s in simplifications(posted, expand(posted))))

    def test_one_sided_members_are_said(self):
        document = Document(
            hall=HallJig(), edits=[MemberEdit(member="bay-1/wall-brace-A-up", behaviour="tension-only")]
        )
        self.assertIn(TENSION_ONLY, simplifications(document, expand(document)))

    def test_that_purlins_hold_in_critical_factors_is_said_where_they_do(self):
        def beam_held(*at):
            nodes = [{"name": n, "at": [x, 0, 0]} for n, x in (("a", 0), ("b", 6))]
            member = {"name": "m", "start": "a", "end": "b", "section": "IPE 300", "restraints_outer": list(at)}
            document = read_document({"nodes": nodes, "members": [member]})
            return HELD in simplifications(document, expand(document))

        self.assertEqual([beam_held(), beam_held(3.0)], [False, True])

    def test_an_edit_in_words(self):
        edit = MemberEdit(member="m", section="IPE 300", roll=90, restraints_inner=[1.5, 3])
        self.assertEqual(said(edit), "section IPE 300; roll 90; inner flange held at 1.5 m, 3 m")
        self.assertEqual(said(MemberEdit(member="m", removed=True)), "removed")

    def test_an_angle_that_bends_is_analysed_and_not_checked(self):
        document = Document(hall=HallJig(), edits=[MemberEdit(member="bay-2/eaves-beam-A", section="L 100x10")])
        chain = run(document)
        verdict = chain.verification.verdicts[chain.structure.index["bay-2/eaves-beam-A"]]
        self.assertEqual(verdict.status, "not covered")
        self.assertEqual({o.criterion for o in verdict.outcomes}, {"deflection"})
        self.assertIn("angle", verdict.not_covered[0])


class EffectiveLengths(unittest.TestCase):
    def factor(self, document, name):
        document = document.model_copy(update={"analysis": AnalysisOptions(order="first")})
        built = expand(document)
        return default_factors(document, built, built.member(name))

    def test_an_inner_column_has_beams_on_both_sides(self):
        document = hall(bays=[RoofBay(span=20), RoofBay(span=20)])
        beam = section("IPE 360").Iy / (20 / cos(radians(10)))
        column = section("HEA 300").Iy / 6.0
        self.assertAlmostEqual(
            self.factor(document, "frame-2/column-B")[0], sway_factor(2 * beam / column, False), delta=1e-9
        )
        self.assertAlmostEqual(
            self.factor(document, "frame-2/column-A")[0], sway_factor(beam / column, False), delta=1e-9
        )

    def test_under_a_truss_the_beam_is_stiff(self):
        document = hall(truss=RoofTruss(depth=1.5), bases="fixed")
        top, bottom = section("HEA 160").A, section("HEA 140").A
        second = 1.5**2 * top * bottom / (top + bottom)
        length = 24 / cos(radians(10))
        expected = sway_factor(second / length / (section("HEA 300").Iy / 6), True)
        self.assertAlmostEqual(self.factor(document, "frame-2/column-A")[0], expected, delta=1e-9)

    def test_chords_buckle_between_panel_points(self):
        document = hall(truss=RoofTruss(panels=5))
        factor, why, sway = self.factor(document, "frame-2/truss-AB/top-1")
        self.assertAlmostEqual(factor, 0.2, delta=1e-9)
        self.assertEqual((why, sway), ("between panel points", False))

    def test_gables_on_posts_and_lean_tos_are_held(self):
        document = hall(front=Gable(kind="posts"), lean_to_left=LeanTo())
        for name in ("frame-1/column-A", "frame-1/rafter-AB-left", "frame-3/lean-rafter-left"):
            self.assertEqual(self.factor(document, name)[0], 1.0, name)

    def test_unequal_slopes_count_together(self):
        document = hall(bays=[RoofBay(span=20, pitch=10, right_pitch=25)])
        built = expand(document)
        left, right = (built.length(built.member(f"frame-2/rafter-AB-{side}")) for side in ("left", "right"))
        self.assertAlmostEqual(self.factor(document, "frame-2/rafter-AB-left")[0] * left, left + right, delta=1e-9)


class Checks(unittest.TestCase):
    def test_curves_of_cold_and_welded_sections(self):
        self.assertEqual(buckling_curves(section("SHS 100x5 cold"), "S355")[:2], ("c", "c"))
        self.assertEqual(buckling_curves(section("SHS 100x5"), "S460")[:2], ("a0", "a0"))
        self.assertEqual(buckling_curves(welded_i("w", 0.5, 0.2, 0.02, 0.01), "S355"), ("b", "c", "d"))
        self.assertEqual(buckling_curves(welded_i("w", 0.3, 0.3, 0.05, 0.02), "S355"), ("c", "d", "c"))

    def test_a_rectangular_hollow_section_by_hand(self):
        # RHS 200x100x8, S355, N = 500 kN, My = 40 kNm, Mz = 15 kNm; (6.39), (6.40), (6.41)
        s = section("RHS 200x100x8")
        p = steel_arrays([(s, material("S355"), False)])
        fy, N, My, Mz = 355e6, 500e3, 40e3, 15e3
        zero = np.zeros(1)
        v = section_check(p, np.array([-N]), zero, zero, zero, np.array([My]), np.array([Mz]), 1.0)
        n = N / (s.A * fy)
        a_w, a_f = (s.A - 2 * 0.1 * 0.008) / s.A, (s.A - 2 * 0.2 * 0.008) / s.A
        M_y = s.Wpl_y * fy * min(1, (1 - n) / (1 - 0.5 * min(a_w, 0.5)))
        M_z = s.Wpl_z * fy * min(1, (1 - n) / (1 - 0.5 * min(a_f, 0.5)))
        exponent = min(6, 1.66 / (1 - 1.13 * n**2))
        biaxial = (My / M_y) ** exponent + (Mz / M_z) ** exponent
        # the use shown is the largest of (6.41), the moments alone and the force alone
        self.assertAlmostEqual(float(v["u_NM"][0]), max(biaxial, My / M_y, Mz / M_z, n), delta=1e-9)

    def test_buckling_of_a_rectangular_hollow_strut_by_hand(self):
        s = section("RHS 200x100x8")
        p = steel_arrays([(s, material("S355"), True)])
        one, L = np.ones(1), np.array([4.0])
        v = stability_check(p, np.array([-300e3]), 0 * one, 0 * one, one, one, one, L, L, L, 0 * one, L, 1.0)
        slenderness = sqrt(s.A * 355e6 / (pi**2 * 210e9 * s.Iz / 16))
        phi = 0.5 * (1 + 0.21 * (slenderness - 0.2) + slenderness**2)
        chi = 1 / (phi + sqrt(phi**2 - slenderness**2))
        self.assertAlmostEqual(float(v["u_Nz"][0]), 300e3 / (chi * s.A * 355e6), delta=1e-9)

    def test_neighbours_and_families(self):
        self.assertEqual([s.name for s in family_of("RECT 100x200")], ["RECT 100x200"])
        masses = [s.A for s in family_of("UB 457x191x67")]
        self.assertEqual(masses, sorted(masses))

    def test_slope_of_the_lean_to(self):
        built = expand(hall(lean_to_left=LeanTo(span=5.0, height=4.0, pitch=8.0)))
        low = built.xyz[built.nodes.index("frame-2/lean-eaves-left")]
        self.assertAlmostEqual(low[0], -5.0)
        self.assertAlmostEqual(low[2], 4.0 - 5.0 * tan(radians(8)))
        self.assertIn(built.nodes.index("frame-2/lean-head-left"), built.member("frame-2/column-A").nodes)
