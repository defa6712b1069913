"""IFC taken in: what goes out comes back, what others made is read, what is none is refused in a sentence."""

import json
import unittest

import ifcopenshell
import ifcopenshell.guid
import numpy as np

from engine.chain import prepare, run
from engine.demo import drying_hall
from engine.document import FORMAT_VERSION, Document, read_document
from engine.document.jigs import HallJig
from engine.errors import ModelError
from publish.ifc.made_of import AS_IT_IS
from publish.ifc.out import ifc
from publish.ifc.taken import taken
from publish.take import take
from tests.engine.test_ifc import MIXED, SPACE


class Back(unittest.TestCase):
    def same(self, document):
        before = prepare(document)
        found = taken(ifc(before, document.name, SPACE, "revision 1"))
        after = prepare(read_document(found.document))
        one, two = before.structure, after.structure
        self.assertEqual(set(one.index), set(two.index))
        self.assertEqual(set(one.nodes), set(two.nodes))
        places = [two.nodes.index(n) for n in one.nodes]
        np.testing.assert_allclose(two.xyz[places], one.xyz, atol=1e-8)
        np.testing.assert_array_equal(two.fixed[places], one.fixed)
        np.testing.assert_allclose(two.springs[places], one.springs)
        for m in one.members:
            n = two.member(m.name)
            with self.subTest(m.name):
                self.assertEqual((n.material.name, n.behaviour, n.role), (m.material.name, m.behaviour, m.role))
                self.assertEqual({two.nodes[i] for i in n.nodes}, {one.nodes[i] for i in m.nodes})
                self.assertEqual((n.release_start, n.release_end), (m.release_start, m.release_end))
                self.assertEqual((n.springs_start, n.springs_end), (m.springs_start, m.springs_end))
                self.assertAlmostEqual(n.roll, m.roll, places=6)
                self.assertAlmostEqual(n.section.A, m.section.A, delta=1e-9)
        np.testing.assert_allclose(
            [after.loading.borne[k] for k in range(len(after.loading.cases))], before.loading.borne, atol=1.0
        )
        own = {c.name: c.factors for c in after.combinations}
        for c in before.combinations:
            np.testing.assert_allclose(own[c.name], c.factors)
        return found

    def test_a_mixed_frame(self):
        found = self.same(read_document(MIXED))
        self.assertEqual(len(found.left_out), 1)
        self.assertIn("what holds the flanges", found.left_out[0])
        self.assertIn("5 members, 4 nodes, 2 supports", " ".join(found.understood))

    def test_a_hall(self):
        document = Document(name="Short", hall=HallJig(spacings=[6.0]))
        document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
        found = self.same(document)
        lines = {(g["name"], g["axis"], round(g["at"], 6)) for g in found.document["grid"]}
        self.assertEqual(lines, {("A", "X", 0.0), ("B", "X", 24.0), ("1", "Y", 0.0), ("2", "Y", 6.0)})
        self.assertIn(0.0, [level["height"] for level in found.document["levels"]])

    def test_loads_keep_to_their_members_where_all_bear_one_name(self):
        f = ifcopenshell.file.from_string(ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "r").decode())
        for member in f.by_type("IfcStructuralCurveMember"):
            member.Name = "Beam"
        document = taken(f.to_string().encode()).document
        loaded = {load["member"] for load in document["member_loads"] if load.get("kind") != "force"}
        [top] = [m["name"] for m in document["members"] if m["section"] == "UPN 200"]
        self.assertEqual(loaded, {top})

    def test_loads_in_other_units_are_left_out_not_taken_as_they_read(self):
        f = ifcopenshell.file.from_string(ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "r").decode())
        next(u for u in f.by_type("IfcSIUnit") if u.UnitType == "FORCEUNIT").Prefix = "KILO"
        found = taken(f.to_string().encode())
        self.assertNotIn("member_loads", found.document)
        self.assertIn("other units than newton", " ".join(found.left_out))

    def test_combinations_that_are_not_factors_of_cases_are_told(self):
        f = ifcopenshell.file.from_string(ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "r").decode())
        [group] = [g for g in f.by_type("IfcStructuralLoadGroup") if g.Name == "U1"]
        group.Coefficient = 1.35
        found = taken(f.to_string().encode())
        self.assertNotIn("U1", [c["name"] for c in found.document["combinations"]])
        self.assertIn("Combination U1", " ".join(found.left_out))

    def test_forces_are_the_same(self):
        document = read_document(MIXED)
        back = read_document(taken(ifc(prepare(document), "Mixed", SPACE, "r")).document)
        one, two = (run(d).response.reaction[:, :, 0] for d in (document, back))
        np.testing.assert_allclose(np.abs(two).sum(axis=0), np.abs(one).sum(axis=0), rtol=1e-6, atol=1e-3)


def foreign(profile, unit="MILLI", more=()):
    """A column and a beam on it, as other programs write them: millimetres, extruded solids, no analysis model; and more of them."""
    f = ifcopenshell.file(schema="IFC4")
    make = f.create_entity
    units = make("IfcUnitAssignment", [make("IfcSIUnit", None, "LENGTHUNIT", unit, "METRE")])
    make("IfcProject", ifcopenshell.guid.new(), None, "Shed", UnitsInContext=units)

    def point(*at):
        return make("IfcCartesianPoint", tuple(map(float, at)))

    def direction(*way):
        return make("IfcDirection", tuple(map(float, way)))

    def product(kind, name, at, axis, ref, depth, shape):
        place = make(
            "IfcLocalPlacement", None, make("IfcAxis2Placement3D", point(*at), direction(*axis), direction(*ref))
        )
        solid = make("IfcExtrudedAreaSolid", shape, None, direction(0, 0, 1), float(depth))
        body = make("IfcShapeRepresentation", None, "Body", "SweptSolid", [solid])
        whole = make("IfcProductDefinitionShape", None, None, [body])
        return make(kind, ifcopenshell.guid.new(), None, name, ObjectPlacement=place, Representation=whole)

    shape = profile(make, point)
    product("IfcColumn", "C1", (0, 0, 0), (0, 0, 1), (0, 1, 0), 4000, shape)
    product("IfcBeam", "B1", (0, 0, 4000), (1, 0, 0), (0, 1, 0), 6000, shape)
    small = make("IfcRectangleProfileDef", "AREA", "S", None, 60.0, 120.0)
    for other in more:
        product(*other, small)
    return f


class OfOthers(unittest.TestCase):
    def test_axes_and_a_profile_by_its_dimensions(self):
        f = foreign(
            lambda make, point: make("IfcIShapeProfileDef", "AREA", "I300-150", None, 150.0, 300.0, 7.1, 10.7, 15.0)
        )
        found = taken(f.to_string().encode())
        members = {m["name"]: m for m in found.document["members"]}
        self.assertEqual((members["C1"]["section"], members["C1"]["role"]), ("IPE 300", "column"))
        structure = prepare(read_document(found.document)).structure
        self.assertEqual(
            sorted(map(tuple, structure.xyz.tolist())), [(0.0, 0.0, 0.0), (0.0, 0.0, 4.0), (6.0, 0.0, 4.0)]
        )
        words = " ".join(found.guessed)
        for wanted in ("taken for IPE 300 by its dimensions (2)", "“none” is taken for S355", "no supports"):
            self.assertIn(wanted, words)

    def test_an_outline_is_known_by_its_properties(self):
        def box(make, point):
            corners = [(-50, -100), (50, -100), (50, 100), (-50, 100), (-50, -100)]
            return make(
                "IfcArbitraryClosedProfileDef", "AREA", "Block", make("IfcPolyline", [point(*c) for c in corners])
            )

        found = taken(foreign(box).to_string().encode())
        [section] = found.document["sections"]
        # 100 × 200 mm: b h, b h³/12, h b³/12
        self.assertAlmostEqual(section["A"], 0.02)
        self.assertAlmostEqual(section["Iy"], 0.1 * 0.2**3 / 12)
        self.assertAlmostEqual(section["Iz"], 0.2 * 0.1**3 / 12)
        self.assertIn("not verified", " ".join(found.guessed))
        member = read_document(found.document).members[0]
        self.assertEqual(member.section, "Block")

    def test_plates_are_taken_as_what_is_welded_of_them(self):
        plates = [
            {"name": "own", "shape": "welded I", "h": 600, "b": 220, "tw": 10, "tf": 18},
            {"name": "unequal", "shape": "welded I", "h": 600, "b": 220, "tw": 10, "tf": 18, "b2": 160, "tf2": 14},
            {"name": "box", "shape": "box", "h": 300, "b": 200, "tw": 8, "tf": 12},
        ]
        for of in plates:
            with self.subTest(of["name"]):
                members = [dict(m, section=of["name"]) if m["name"] == "left" else m for m in MIXED["members"]]
                document = read_document(MIXED | {"built_sections": [of], "members": members})
                found = taken(ifc(prepare(document), "Mixed", SPACE, "r"))
                back = read_document(found.document)
                [own] = back.built_sections
                self.assertEqual({key: getattr(own, key) for key in of}, of)
                one, two = (prepare(d).structure.member("left").section for d in (document, back))
                for key in ("A", "Iy", "Iz", "It", "shape"):
                    self.assertEqual(getattr(one, key), getattr(two, key), key)
                self.assertIn("as welded of its plates", " ".join(found.guessed))

    def test_a_rolled_section_that_nobody_knows_is_taken_as_plates(self):
        def wide(make, point):
            return make("IfcIShapeProfileDef", "AREA", "Odd", None, 180.0, 333.0, 9.0, 14.0, 15.0)

        found = taken(foreign(wide).to_string().encode())
        [own] = read_document(found.document).built_sections
        self.assertEqual((own.shape, own.h, own.b, own.tw, own.tf), ("welded I", 333, 180, 9, 14))
        # above 100 mm a rolled flange has a lower curve than a welded one
        thick = taken(
            foreign(lambda make, point: make("IfcIShapeProfileDef", "AREA", "Odd", None, 400.0, 600.0, 60.0, 110.0))
            .to_string()
            .encode()
        )
        self.assertEqual(thick.document["built_sections"], [])
        self.assertIn("not verified", " ".join(thick.guessed))

    def test_two_profiles_of_one_name_are_two_sections(self):
        f = foreign(lambda make, point: make("IfcIShapeProfileDef", "AREA", "PL", None, 180.0, 400.0, 8.0, 12.0))
        [beam] = f.by_type("IfcBeam")
        for solid in f.by_type("IfcExtrudedAreaSolid"):
            if solid in f.traverse(beam):
                solid.SweptArea = f.create_entity("IfcIShapeProfileDef", "AREA", "PL", None, 180.0, 400.0, 8.0, 16.0)
        document = read_document(taken(f.to_string().encode()).document)
        self.assertEqual({(s.name, s.tf) for s in document.built_sections}, {("PL", 12), ("PL (2)", 16)})
        self.assertEqual({m.section for m in document.members}, {"PL", "PL (2)"})

    def test_profiles_and_grades_are_settled(self):
        data = foreign(lambda make, point: make("IfcCircleProfileDef", "AREA", "Odd", None, 40.0)).to_string().encode()
        plain = taken(data)
        of = {(c.of, c.field): c for c in plain.choices}
        profile, material = of["Profile Odd", "section"], of["Material without name", "material"]
        self.assertEqual((profile.value, profile.aside, profile.kind), (AS_IT_IS, "2 members", "section"))
        self.assertEqual((material.value, "S275" in {o.value for o in material.options}), ("S355", True))
        chosen = {("Profile Odd", "section"): "CHS 76.1x5", ("Material without name", "material"): "S275"}
        found = taken(data, chosen)
        self.assertEqual({(m["section"], m["material"]) for m in found.document["members"]}, {("CHS 76.1x5", "S275")})
        self.assertEqual(found.document["sections"], [])
        said = " ".join(found.guessed)
        self.assertNotIn("Odd", said)
        self.assertNotIn("S355", said)
        for wrong, words in (
            (("Profile Odd", "section", "IPE 301"), "no section “IPE 301”"),
            (("Material without name", "material", "S1"), "no grade “S1”"),
        ):
            with self.assertRaises(ModelError) as refused:
                taken(data, {wrong[:2]: wrong[2]})
            self.assertIn(words, refused.exception.message)

    def test_a_beam_cut_at_the_face_of_its_column_meets_it(self):
        f = foreign(lambda make, point: make("IfcRectangleProfileDef", "AREA", "R", None, 100.0, 200.0))
        [beam] = f.by_type("IfcBeam")
        beam.ObjectPlacement.RelativePlacement.Location.Coordinates = (150.0, 0.0, 3000.0)
        apart = taken(f.to_string().encode())
        self.assertEqual(len(apart.document["nodes"]), 4)
        found = taken(f.to_string().encode(), {("", "gap"): "200"})
        structure = prepare(read_document(found.document)).structure
        column = structure.member("C1")
        # the column passes through the node of the beam, which was moved onto its axis
        np.testing.assert_allclose(structure.xyz[list(column.nodes)], [[0, 0, 0], [0, 0, 3], [0, 0, 4]], atol=1e-9)
        self.assertIn("1 end is put on the line that they nearly reach, by 150.0 mm", " ".join(found.guessed))

    def test_axes_that_miss_each_other_are_joined_where_that_is_asked_for(self):
        # two purlins on the beam, 225 mm above its axis; a third far above; one that ends at a node of the beam's
        along, up = (0, 1, 0), (0, 0, 1)
        more = [
            ("IfcMember", "P1", (2000, -3000, 4225), along, up, 6000),
            ("IfcMember", "P2", (6000, -3000, 4225), along, up, 6000),
            ("IfcMember", "P3", (4000, -3000, 5225), along, up, 6000),
            ("IfcMember", "P4", (6000, 0, 4000), along, up, 6000),
            # of its section: it passes P1 as a brace does another
            ("IfcMember", "P5", (0, 1000, 4100), (1, 0, 0), up, 6000),
        ]
        data = foreign(lambda make, point: make("IfcRectangleProfileDef", "AREA", "R", None, 100.0, 200.0), more=more)
        data = data.to_string().encode()
        apart = taken(data)
        self.assertFalse([m for m in apart.document["members"] if m.get("behaviour") == "rigid link"])
        self.assertNotIn("Rigid links", " ".join(apart.guessed))
        found = taken(data, {("", "passing"): "300"})
        links = [m for m in found.document["members"] if m.get("behaviour") == "rigid link"]
        self.assertEqual([m["name"] for m in links], ["link 1", "link 2"])
        self.assertIn(
            "Rigid links join members at 2 places at which they pass each other, 225 mm apart at most.",
            " ".join(found.guessed),
        )
        structure = prepare(read_document(found.document)).structure
        for name, x in (("P1", 2.0), ("P2", 6.0)):
            purlin, beam = structure.member(name), structure.member("B1")
            link = next(
                structure.member(m["name"]) for m in links if set(structure.member(m["name"]).nodes) & set(purlin.nodes)
            )
            self.assertTrue(set(link.nodes) & set(beam.nodes))
            ends = structure.xyz[list(link.nodes)]
            np.testing.assert_allclose(np.sort(ends, axis=0), [[x, 0, 4.0], [x, 0, 4.225]], atol=1e-9)
        # what is nearer than the purlins alone
        self.assertEqual(len(taken(data, {("", "passing"): "200"}).document["members"]), 7)
        with self.assertRaisesRegex(ModelError, "none of what"):
            taken(data, {("", "passing"): "70"})

    def test_it_is_handed_on_in_kilonewtons(self):
        found = take(ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "r"), "mixed.ifc", {}).document
        self.assertEqual(found["version"], FORMAT_VERSION)
        document = read_document(found)
        springs = next(s.springs for s in document.supports if s.springs)
        at_end = next(m.releases.end_springs for m in document.members if m.releases.end_springs)
        self.assertEqual((document.units, springs, at_end), ("kN, m", {"rx": 800}, {"ry": 500}))
        self.assertEqual(document.node_loads[0].force, (1, 2, -3))
        self.assertTrue(document.dossier.chapters["basis"].remark.startswith("Taken in from mixed.ifc."))

    def test_what_is_none(self):
        whole = ifc(prepare(read_document(MIXED)), "Mixed", SPACE, "r")
        empty = ifcopenshell.file(schema="IFC4").to_string().encode()
        for data, words in (
            (b"", "no IFC file"),
            (b"PK\x03\x04", "no IFC file"),
            (json.dumps(MIXED).encode(), "no IFC file"),
            (whole[: len(whole) // 2], "cut off"),
            (ifcopenshell.file(schema="IFC2X3").to_string().encode(), "IFC2X3"),
            (empty, "no structural member"),
        ):
            with self.subTest(words), self.assertRaises(ModelError) as refused:
                taken(data)
            self.assertIn(words, refused.exception.message)

    def test_the_demo_hall_is_large_enough_to_matter(self):
        found = taken(ifc(prepare(drying_hall()), "Hall", SPACE, "r"))
        self.assertEqual(len(found.document["members"]), 77)
