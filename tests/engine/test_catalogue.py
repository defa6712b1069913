"""Section properties against published tables, and strengths at the printed values of EN 1993-1-1 table 3.1."""

import csv
import unittest
from math import isnan

from engine.catalogue.sections import FAMILIES, catalogue, family_of, section
from engine.catalogue.steels import material
from engine.errors import ModelError
from tests.engine.helpers import PUBLISHED, published


class Published(unittest.TestCase):
    def rows(self, name):
        with (PUBLISHED / name).open() as file:
            return list(csv.DictReader(file))

    def test_every_rolled_section_has_its_published_area_and_second_moments(self):
        rows = self.rows("rolled_i.csv")
        self.assertEqual(len(rows), len([s for s in catalogue().values() if s.family in ("IPE", "HEA", "HEB", "HEM")]))
        for row in rows:
            s = section(row["name"])
            with self.subTest(row["name"]):
                # tables print three or four figures
                self.assertAlmostEqual(s.A * 1e4 / float(row["A_cm2"]), 1, delta=0.004)
                self.assertAlmostEqual(s.Iy * 1e8 / float(row["Iy_cm4"]), 1, delta=0.004)
                self.assertAlmostEqual(s.Iz * 1e8 / float(row["Iz_cm4"]), 1, delta=0.006)

    def test_hollow_sections(self):
        for row in self.rows("hollow.csv"):
            s = section(row["name"])
            with self.subTest(row["name"]):
                self.assertAlmostEqual(s.A * 1e4 / float(row["A_cm2"]), 1, delta=0.004)
                self.assertAlmostEqual(s.Iy * 1e8 / float(row["Iy_cm4"]), 1, delta=0.004)
                self.assertAlmostEqual(s.It * 1e8 / float(row["It_cm4"]), 1, delta=0.004)

    def test_shared_verification_file(self):
        data = published("sections.json")
        for row in data["sections"]:
            parts = row["name"].split()
            s = section(row["name"] if parts[0] == "IPE" else f"HE{parts[2]} {parts[1]}")
            found = {
                "A_cm2": s.A * 1e4,
                "Iy_cm4": s.Iy * 1e8,
                "Wpl_y_cm3": s.Wpl_y * 1e6,
                "Iz_cm4": s.Iz * 1e8,
                "It_cm4": s.It * 1e8,
                "Iw_cm6": s.Iw * 1e12,
            }
            for key, value in found.items():
                with self.subTest(f"{row['name']} {key}"):
                    self.assertAlmostEqual(value / row[key], 1, delta=data["tolerance"])

    def test_shear_area_and_plastic_modulus_of_ipe_300(self):
        # published: Avz = 25.68 cm², Wpl,z = 125.2 cm³, Wel,y = 557.1 cm³, Wel,z = 80.50 cm³
        s = section("IPE 300")
        for value, expected in (
            (s.Av_z * 1e4, 25.68),
            (s.Wpl_z * 1e6, 125.2),
            (s.Wel_y * 1e6, 557.1),
            (s.Wel_z * 1e6, 80.50),
        ):
            self.assertAlmostEqual(value / expected, 1, delta=0.002)


class Catalogue(unittest.TestCase):
    def test_families_are_in_ascending_mass(self):
        for family in FAMILIES:
            masses = [s.A for s in catalogue().values() if s.family == family]
            self.assertEqual(masses, sorted(masses))
            self.assertGreater(len(masses), 5, family)

    def test_family_of(self):
        self.assertEqual({s.family for s in family_of("HEB 300")}, {"HEB"})

    def test_unknown_section_names_itself_and_near_ones(self):
        with self.assertRaises(ModelError) as caught:
            section("IPE 350", "hall.sections.rafters")
        self.assertIn("IPE 350", caught.exception.message)
        self.assertIn("IPE 3", caught.exception.message.split("Did you mean")[1])
        self.assertEqual(caught.exception.place, "hall.sections.rafters")


class Strength(unittest.TestCase):
    def test_table_3_1(self):
        for grade, thin, thick in (("S235", 235, 215), ("S275", 275, 255), ("S355", 355, 335), ("S460", 460, 430)):
            self.assertEqual(material(grade).fy(0.040), thin * 1e6)
            self.assertEqual(material(grade).fy(0.0401), thick * 1e6)
            self.assertTrue(isnan(material(grade).fy(0.081)))
