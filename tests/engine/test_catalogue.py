"""Section properties against published tables, and strengths at the printed values of EN 1993-1-1 table 3.1."""

import csv
import unittest
from math import isnan

from engine.catalogue.sections import FAMILIES, catalogue, family_of, section
from engine.catalogue.steels import material
from engine.document import Document
from engine.document.byhand import MemberInput, NodeInput
from engine.errors import ModelError
from engine.expand import expand
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


class MixedBuildings(unittest.TestCase):
    """Materials and solid sections of what is analysed beside the steel."""

    def test_printed_values(self):
        # EN 1992-1-1 table 3.1, E_cm in GPa; EN 338 and EN 14080, E_0,mean and G_mean
        for name, modulus in (("C12/15", 27), ("C25/30", 31), ("C50/60", 37)):
            self.assertEqual((material(name).E, material(name).expansion), (modulus * 1e9, 10e-6))
        for name, modulus, shear, density in (
            ("C16", 8.0, 0.5, 370),
            ("C24", 11.0, 0.69, 420),
            ("C30", 12.0, 0.75, 460),
        ):
            found = material(name)
            self.assertEqual((found.E, found.G, found.density), (modulus * 1e9, shear * 1e9, density))
            self.assertEqual(found.expansion, 5e-6)
            self.assertTrue(isnan(found.fy(0.01)))

    def test_a_tee_of_any_size(self):
        # flange 600 x 150, web 200 x 350 below it: by hand
        s = section("TEE 600x500x150x200")
        area = 0.6 * 0.15 + 0.2 * 0.35
        middle = (0.6 * 0.15 * 0.425 + 0.2 * 0.35 * 0.175) / area
        second = (
            0.6 * 0.15**3 / 12
            + 0.6 * 0.15 * (0.425 - middle) ** 2
            + 0.2 * 0.35**3 / 12
            + 0.2 * 0.35 * (0.175 - middle) ** 2
        )
        self.assertAlmostEqual(s.A / area, 1, delta=1e-6)
        self.assertAlmostEqual(s.Iy / second, 1, delta=1e-6)
        self.assertAlmostEqual(s.Iz / (0.15 * 0.6**3 / 12 + 0.35 * 0.2**3 / 12), 1, delta=1e-6)
        with self.assertRaisesRegex(ModelError, "no section"):
            section("TEE 200x500x150x600")

    def test_mass_by_material(self):
        document = Document(
            nodes=[NodeInput(name=n, at=at) for n, at in (("a", (0, 0, 0)), ("b", (0, 0, 4)), ("c", (5, 0, 4)))],
            members=[
                MemberInput(name="column", start="a", end="b", section="RECT 300x300", material="C30/37"),
                MemberInput(name="beam", start="b", end="c", section="IPE 300", material="S355"),
            ],
        )
        found = expand(document).masses()
        self.assertEqual(list(found), ["C30/37", "steel"])
        self.assertAlmostEqual(found["C30/37"], 0.09 * 4 * 2500, delta=1e-6)
        self.assertAlmostEqual(found["steel"] / (53.81e-4 * 5 * 7850), 1, delta=1e-3)
