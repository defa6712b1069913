"""Sections of every family: published values, closed forms, and two ways to the same number."""

import csv
import unittest
from math import pi, sqrt

import numpy as np

from engine.catalogue.built import built_section
from engine.catalogue.outlines import circle, integrals, plastic_modulus, rounded
from engine.catalogue.sections import FAMILIES, catalogue, family_of, made_to_size, section
from engine.catalogue.shapes import outline_of
from engine.catalogue.shapes.angles import angle
from engine.catalogue.shapes.channels import channel
from engine.catalogue.shapes.cold_formed import zed
from engine.catalogue.shapes.hollow import box
from engine.catalogue.shapes.i_sections import cross, haunched, i_outline, rolled_i, welded_i
from engine.catalogue.shapes.pairs import double
from engine.catalogue.shapes.solid import flat_bar
from engine.catalogue.shapes.tees import tee
from engine.catalogue.steels import AMERICAN, ELASTIC, material
from engine.catalogue.thin_walled import thin_walled
from engine.errors import ModelError
from tests.engine.helpers import PUBLISHED

POWER = {"A": 2, "Iy": 4, "Iz": 4, "It": 4, "Iw": 6, "Wpl_y": 3}


def rows(name):
    with (PUBLISHED / name).open() as file:
        return list(csv.DictReader(file))


class Published(unittest.TestCase):
    def test_within_half_a_percent_of_the_tables(self):
        compared = 0
        for row in rows("sections_more.csv"):
            s, unit = section(row["name"]), {"cm": 0.01, "in": 0.0254}[row["unit"]]
            for key, power in POWER.items():
                if row[key]:
                    compared += 1
                    with self.subTest(f"{row['name']} {key}"):
                        self.assertAlmostEqual(getattr(s, key) / unit**power / float(row[key]), 1, delta=0.005)
        self.assertGreater(compared, 330)

    def test_every_known_difference_is_still_the_one_written_down(self):
        # tapered flanges (tables print other torsion formulas) and dimensions that are printed rounded
        for row in rows("sections_differing.csv"):
            unit = {"cm": 0.01, "in": 0.0254}[row["unit"]]
            value = getattr(section(row["name"]), row["property"]) / unit ** POWER[row["property"]]
            with self.subTest(row["name"]):
                off = (value / float(row["published"]) - 1) * 100
                self.assertAlmostEqual(off, float(row["difference_percent"]), delta=0.01)

    def test_names_of_sections_with_a_mass_in_them_weigh_that(self):
        for name, s in catalogue().items():
            if s.family in ("UB", "UC", "PFC", "HD", "HL"):
                said = float(name.rsplit("x", 1)[1])
                self.assertAlmostEqual(s.mass() / said, 1, delta=0.025 if said < 40 else 0.012, msg=name)
            if s.family == "W":
                self.assertAlmostEqual(s.mass() / 1.48816 / float(name.split("x")[1]), 1, delta=0.012, msg=name)

    def test_shear_centre_and_centroid_of_upn_200(self):
        # published: e = 2.01 cm, y_m = 3.94 cm from the centroid; the tapered walls give 2.2 % more than the table
        s = section("UPN 200")
        self.assertAlmostEqual(s.centre_y * 100, 2.01, delta=0.01)
        self.assertAlmostEqual(-s.shear_y * 100, 3.94, delta=0.09)


class Outlines(unittest.TestCase):
    def test_what_is_drawn_has_the_area_and_lies_about_its_centroid(self):
        built = [
            welded_i("w", 0.8, 0.3, 0.02, 0.01, 0.2, 0.015),
            welded_i("w", 0.8, 0.3, 0.02, 0.01),
            box("b", 0.4, 0.3, 0.02, 0.012),
            double("d", section("L 80x8"), 0.01),
            double("d", section("UPE 200"), 0.012),
        ]
        every = [s for name, s in catalogue().items() if name == family_of(name)[0].name]
        self.assertEqual({s.family for s in every}, set(FAMILIES))
        for s in [*every, *built]:
            with self.subTest(s.name):
                found = integrals(outline_of(s))
                # printed areas of tapered flanges and hot-finished corners differ a little from their outlines
                self.assertAlmostEqual(found.A / s.A, 1, delta=0.012)
                self.assertAlmostEqual(found.y, 0, delta=1e-9)
                self.assertAlmostEqual(found.z, 0, delta=1e-9)

    def test_the_outline_of_a_rolled_section_gives_its_closed_form(self):
        s = section("IPE 300")
        area = integrals([i_outline(s)])
        for found, exact in (
            (area.A, s.A),
            (area.Iy, s.Iy),
            (area.Iz, s.Iz),
            (plastic_modulus([i_outline(s)]), s.Wpl_y),
        ):
            self.assertAlmostEqual(found / exact, 1, delta=5e-4)
        self.assertAlmostEqual(plastic_modulus([i_outline(s)], pi / 2) / s.Wpl_z, 1, delta=1e-3)

    def test_circle_and_rounded_square(self):
        self.assertAlmostEqual(integrals([circle(0.1)]).A, pi * 0.01, delta=1e-9)
        square = rounded([(0, 0, 0.01), (0.1, 0, 0.01), (0.1, 0.1, 0.01), (0, 0.1, 0.01)])
        self.assertAlmostEqual(integrals([square]).A, 0.01 - (4 - pi) * 1e-4, delta=1e-6)

    def test_plastic_modulus_of_a_tee_by_hand(self):
        # flange 100 × 10, web 90 × 10 below: the halving line lies 95 mm above the foot, 5 mm into the flange
        ring = tee("t", "t", 0.1, 0.1, 0.01, 0.01, 0.0)
        half = 0.1 * 0.0095 * 0.00475 + 0.0005 * 0.1 * 0.00025 + 0.0009 * (0.0005 + 0.045)
        self.assertAlmostEqual(ring.Wpl_y / half, 1, delta=1e-6)


class ThinWalled(unittest.TestCase):
    def test_channel_against_its_closed_form(self):
        b, h, t = 0.08, 0.2, 0.004
        w = thin_walled(np.array([(b, -h / 2), (0, -h / 2), (0, h / 2), (b, h / 2)]), t)
        # Timoshenko, Theory of bending, torsion and buckling of thin-walled members: equal thickness
        self.assertAlmostEqual(w.shear_y + w.y, -3 * b**2 / (h + 6 * b), delta=1e-9)
        self.assertAlmostEqual(w.Iw / (t * b**3 * h**2 / 12 * (3 * b + 2 * h) / (6 * b + h)), 1, delta=1e-9)

    def test_zed_against_its_closed_form(self):
        b, h, t = 0.07, 0.2, 0.002
        w = thin_walled(np.array([(-b, -h / 2), (0, -h / 2), (0, h / 2), (b, h / 2)]), t)
        self.assertAlmostEqual(w.Iw / (t * b**3 * h**2 / 12 * (b + 2 * h) / (2 * b + h)), 1, delta=1e-9)
        self.assertAlmostEqual(w.shear_y, 0.0, delta=1e-12)

    def test_warping_of_a_parallel_channel_two_ways(self):
        s = channel("c", "c", 0.2, 0.08, 0.006, 0.006, 0.0)
        y, z = 0.08 - 0.003, 0.097
        w = thin_walled(np.array([(y, -z), (0, -z), (0, z), (y, z)]), 0.006)
        self.assertAlmostEqual(s.Iw / w.Iw, 1, delta=0.03)


class Shapes(unittest.TestCase):
    def test_welded_i_is_a_rolled_one_without_fillets(self):
        made, plain = welded_i("w", 0.5, 0.2, 0.02, 0.01), rolled_i("p", "p", 0.5, 0.2, 0.01, 0.02, 0.0)
        for key in ("A", "Iy", "Iz", "Iw", "Wpl_y", "Wpl_z"):
            self.assertAlmostEqual(getattr(made, key) / getattr(plain, key), 1, delta=1e-9)
        self.assertAlmostEqual(made.It, (2 * 0.2 * 0.02**3 + 0.46 * 0.01**3) / 3)

    def test_unequal_flanges_become_equal(self):
        almost, equal = welded_i("a", 0.5, 0.2, 0.02, 0.01, 0.2000001, 0.02), welded_i("e", 0.5, 0.2, 0.02, 0.01)
        for key in ("A", "Iy", "Iz", "Iw", "It", "Wpl_y", "Wpl_z"):
            self.assertAlmostEqual(getattr(almost, key) / getattr(equal, key), 1, delta=1e-5)
        self.assertAlmostEqual(almost.shear_z, 0.0, delta=1e-6)

    def test_shear_centre_of_unequal_flanges_lies_near_the_stiffer(self):
        s = welded_i("u", 0.5, 0.3, 0.02, 0.01, 0.15, 0.02)
        self.assertGreater(s.shear_z, 0.1)
        self.assertGreater(s.centre_z, 0.25)

    def test_box_by_hand(self):
        s = box("b", 0.3, 0.2, 0.01, 0.008)
        self.assertAlmostEqual(s.A, 0.3 * 0.2 - 0.28 * 0.184)
        self.assertAlmostEqual(s.Iy, (0.2 * 0.3**3 - 0.184 * 0.28**3) / 12)
        self.assertAlmostEqual(s.It, 4 * (0.192 * 0.29) ** 2 / (2 * 0.192 / 0.01 + 2 * 0.29 / 0.008))

    def test_cross_is_alike_both_ways(self):
        one = section("IPE 200")
        s = cross("x", one)
        self.assertAlmostEqual(s.Iy, s.Iz, delta=1e-12)
        self.assertAlmostEqual(s.Iy / (one.Iy + one.Iz), 1, delta=1e-3)
        self.assertAlmostEqual(s.A / (2 * one.A - one.tw**2), 1, delta=1e-3)

    def test_double_angle_by_the_parallel_axis_theorem(self):
        one = section("L 100x10")
        s = double("d", one, 0.012)
        geometric = one.Iy * 0.5 + one.Iz * 0.5  # an equal angle about an axis along its leg
        self.assertAlmostEqual(s.A / (2 * one.A), 1, delta=2e-3)
        self.assertAlmostEqual(s.Iz / (2 * (geometric + one.A * (one.centre_y + 0.006) ** 2)), 1, delta=3e-3)

    def test_principal_axes(self):
        s = section("L 100x10")
        self.assertAlmostEqual(abs(s.turn), pi / 4, delta=1e-9)
        z = zed("z", 0.2, 0.07, 0.02, 0.002)
        line = thin_walled(
            np.array([(-0.068, -0.08), (-0.068, -0.099), (0, -0.099), (0, 0.099), (0.068, 0.099), (0.068, 0.08)]), 0.002
        )
        mean, half = (line.Iy + line.Iz) / 2, sqrt(((line.Iy - line.Iz) / 2) ** 2 + line.Iyz**2)
        self.assertAlmostEqual(z.Iy / (mean + half), 1, delta=2e-3)
        self.assertAlmostEqual(z.Iz / (mean - half), 1, delta=2e-2)

    def test_angle_torsion_without_fillet(self):
        s = angle("a", "a", 0.1, 0.1, 0.01, 0.0)
        self.assertAlmostEqual(s.A, 0.0019)
        self.assertLess(abs(s.It / (0.19 * 0.01**3 / 3) - 1), 0.02)

    def test_torsion_of_a_square_and_of_a_thin_strip(self):
        self.assertAlmostEqual(flat_bar("s", "FL", 0.1, 0.1).It / 0.1**4, 0.1406, delta=1e-4)
        self.assertAlmostEqual(flat_bar("t", "FL", 0.2, 0.002).It / (0.2 * 0.002**3 / 3), 1, delta=0.01)

    def test_a_haunch_lowers_the_centroid_and_keeps_the_rafter(self):
        rafter = section("IPE 360")
        deep, shallow = haunched(rafter, 0.3, 0.008, 0.17, 0.0127), haunched(rafter, 0.05, 0.008, 0.17, 0.0127)
        self.assertLess(deep.centre_z, shallow.centre_z)
        self.assertLess(shallow.centre_z, 0)
        self.assertAlmostEqual(deep.A / (rafter.A + 0.17 * 0.0127 + (0.3 - 0.0127) * 0.008), 1, delta=1e-3)
        self.assertGreater(deep.Iy, 2.5 * rafter.Iy)


class Made(unittest.TestCase):
    def test_every_family_says_what_it_is(self):
        self.assertEqual({s.family for s in catalogue().values()}, set(FAMILIES))
        for s in catalogue().values():
            self.assertTrue(s.A > 0 and s.Iy > 0 and s.Iz > 0 and s.It > 0 and s.Wpl_y >= s.Wel_y * 0.999, s.name)

    def test_flats_and_rounds_of_any_size(self):
        self.assertAlmostEqual(section("FL 137x11").A, 0.137 * 0.011)
        self.assertAlmostEqual(section("RECT 200x400").Iy, 0.2 * 0.4**3 / 12)
        self.assertAlmostEqual(section("RD 33").A, pi * 0.033**2 / 4, delta=1e-9)
        for name in ("FL 0x5", "RD 99999", "FL 100", "RECT axb"):
            self.assertIsNone(made_to_size(name))

    def test_built_sections_refuse_what_makes_none(self):
        good = {"h": 500, "b": 200, "tw": 10, "tf": 20, "b2": 0, "tf2": 0, "gap": 0}
        self.assertEqual(built_section("PG", "welded I", good, "", "p").shape, "I")
        for change, words in (
            ({"h": 30}, "thicker than its depth"),
            ({"tw": 300}, "wider than its flange"),
            ({"tf": 0}, "tf must be greater"),
        ):
            with self.assertRaisesRegex(ModelError, words):
                built_section("PG", "welded I", good | change, "", "p")
        for shape, of in (("cross", "CHS 88.9x4"), ("double", "IPE 200")):
            with self.assertRaises(ModelError):
                built_section("x", shape, good, of, "p")

    def test_materials(self):
        self.assertEqual(material("S450").fy(0.03), 440e6)
        self.assertEqual(material("A992").fy(0.03), 345e6)
        self.assertEqual(set(AMERICAN) & set(ELASTIC), set())
        self.assertIsNone(material("C30/37").strength)
        self.assertEqual(material("GL24h").E, 11.5e9)
        with self.assertRaisesRegex(ModelError, "no material “S999”"):
            material("S999")
