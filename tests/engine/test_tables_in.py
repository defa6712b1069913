"""Tables taken in: a model that goes out comes back, tables made by others are read, what is wrong is told by its cell."""

import io
import unittest
import zipfile

import numpy as np
from openpyxl import Workbook, load_workbook

from engine.catalogue.sections import section
from engine.chain import prepare, run
from engine.demo import drying_hall, log_store
from engine.document import read_document
from engine.errors import ModelError
from engine.report.supports import reactions
from publish.tables.model import model_workbook
from publish.take import take
from tests.engine.test_ifc import MIXED


def book(**sheets) -> bytes:
    made = Workbook()
    made.remove(made.active)
    for name, rows in sheets.items():
        sheet = made.create_sheet(name.replace("_", " "))
        for row in rows:
            sheet.append(row)
    file = io.BytesIO()
    made.save(file)
    return file.getvalue()


#: a beam of 6 m with 10 kN/m, in the units and words of others
NODES = [["Node no.", "X (mm)", "Y (mm)", "Z (mm)"], [1, 0, 0, 0], [2, 6000, 0, 0]]
BEAMS = [["Beam", "Node i", "Node j", "Profile", "Steel"], ["B1", 1, 2, "ipe300", "S 275"]]
BASES = [["Joint", "ux", "uy", "uz", "rx"], [1, "x", "x", "x", "x"], [2, None, 1, "yes", 0]]
CASES = [["Load case", "Type"], ["Q", "imposed"]]
LOADS = [["Load case", "Beam", "qz [N/mm]"], ["Q", "B1", -10]]
FACTORS = [["Combination", "Limit state", "Q"], ["U", "strength", 1.5]]
BEAM = {"Nodes": NODES, "Beams": BEAMS, "Supports": BASES, "Cases": CASES, "Line_loads": LOADS, "Combinations": FACTORS}


def read(data, **settled):
    return take(data, "frame.xlsx", {tuple(key.split("|")): value for key, value in settled.items()})


class Back(unittest.TestCase):
    def back(self, document):
        before = prepare(document)
        found = read(model_workbook(before))
        self.assertEqual(found.problems, [])
        after = prepare(read_document(found.document))
        one, two = before.structure, after.structure
        self.assertEqual(set(one.index), set(two.index))
        places = [two.nodes.index(n) for n in one.nodes]
        np.testing.assert_allclose(two.xyz[places], one.xyz, atol=1e-8)
        np.testing.assert_array_equal(two.fixed[places], one.fixed)
        for m in one.members:
            n = two.member(m.name)
            with self.subTest(m.name):
                self.assertEqual((n.material.name, n.behaviour, n.role), (m.material.name, m.behaviour, m.role))
                self.assertEqual(
                    (n.section.name, n.release_start, n.release_end), (m.section.name, m.release_start, m.release_end)
                )
                self.assertAlmostEqual(n.roll, m.roll, places=6)
                self.assertAlmostEqual(n.section.A, m.section.A, delta=1e-9)
        self.assertEqual([c.symbol for c in after.loading.cases], [c.symbol for c in before.loading.cases])
        np.testing.assert_allclose(after.loading.borne, before.loading.borne, atol=1.0)
        own = {c.name: c.factors for c in after.combinations}
        self.assertEqual(set(own), {c.name for c in before.combinations})
        for c in before.combinations:
            np.testing.assert_allclose(own[c.name], c.factors)
        return found

    def test_a_mixed_frame(self):
        # springs have no table: the first sheet says so
        document = read_document(MIXED)
        data = model_workbook(prepare(document))
        sheet = load_workbook(io.BytesIO(data))["About"]
        text = " ".join(str(row[0].value) for row in sheet.rows)
        self.assertIn("1 nodes that rest on springs", text)
        self.assertIn("1 members with springs at their ends", text)
        self.back(document)

    def test_halls(self):
        self.back(drying_hall())
        self.back(log_store())


class OfOthers(unittest.TestCase):
    def test_a_beam_in_other_words_and_units(self):
        found = read(book(**BEAM))
        self.assertEqual(found.problems, [])
        self.assertEqual(found.document["members"][0]["material"], "S275")
        of = reactions(run(read_document(found.document)))
        k = [c.name for c in of.combinations].index("U")
        np.testing.assert_allclose(of.force[:, 2, k] / 1000, 1.5 * 10 * 6 / 2, rtol=1e-9)
        self.assertEqual(of.held.tolist(), [[True] * 4 + [False] * 2, [False, True, True] + [False] * 3])

    def test_members_by_their_places_from_a_table_with_semicolons(self):
        text = (
            "Bar;x1 [m];y1;z1;x2;y2;z2;Section;Role\nC1;0;0;0;0;0;4,5;HEA200;Columns\nR1;0;0;4,5;6;0;5;IPE 300;rafter\n"
        )
        found = take(text.encode("utf-8-sig"), "frame.csv", {})
        self.assertEqual(found.problems, [])
        self.assertEqual([n["at"] for n in found.document["nodes"]], [[0, 0, 0], [0, 0, 4.5], [6, 0, 5]])
        self.assertEqual(
            [(m["section"], m["role"]) for m in found.document["members"]],
            [("HEA 200", "column"), ("IPE 300", "rafter")],
        )
        self.assertIn("Supports: no sheet holds them", " ".join(found.left_out))

    def test_headings_below_a_title_and_columns_settled(self):
        rows = [["Frame of hall 3"], [], ["Tag", "Alpha", "Y", "Z"], ["a", 0, 0, 0], ["b", 5, 0, 0]]
        data = book(Nodes=rows, Members=[["Name", "Start", "End", "Section"], ["m", "a", "b", "IPE 200"]])
        found = read(data)
        self.assertIn("Nodes: no column is X.", found.problems)
        mended = read(data, **{"Nodes|A": "name", "Nodes|B": "x"})
        self.assertEqual(mended.problems, [])
        self.assertEqual(mended.document["nodes"][1]["at"], [5, 0, 0])
        left = read(data, **{"Nodes|A": "name", "Nodes|B": "x", "Members|": ""})
        self.assertIn("No sheet holds members: say which one does.", left.problems)

    def test_units_of_headings(self):
        # what one of each is in metres, in kN/m and in kN
        for unit, metres in (("m", 1), ("cm", 0.01), ("mm", 0.001), ("in", 0.0254), ("ft", 0.3048)):
            heading = ["Node", f"X [{unit}]", "Y", "Z"]
            found = read(book(**BEAM | {"Nodes": [heading, [1, 0, 0, 0], [2, 6000, 0, 0]]}))
            self.assertAlmostEqual(found.document["nodes"][1]["at"][0], 6000 * metres, places=6, msg=unit)
        for unit, kilonewtons in (("kN/m", 1), ("N/m", 0.001), ("N/mm", 1), ("kN", 1), ("N", 0.001)):
            loads = [["Load case", "Beam", f"qz ({unit})"], ["Q", "B1", -2000]]
            found = read(book(**BEAM | {"Line_loads": loads}))
            self.assertAlmostEqual(found.document["member_loads"][0]["value"][2], -2000 * kilonewtons, msg=unit)
        for unit, moment in (("kNm", 1), ("Nm", 0.001), ("kNcm", 0.01), ("MNm", 1000)):
            for force_unit, force in (("kN", 1), ("N", 0.001), ("MN", 1000)):
                nodal = [["Case", "Node", f"Fx [{force_unit}]", f"My [{unit}]"], ["Q", 1, 3, None], ["Q", 2, None, 5]]
                found = read(book(**BEAM | {"Node_loads": nodal})).document["node_loads"]
                self.assertEqual(
                    [(n["force"], n["moment"]) for n in found],
                    [([3 * force, 0, 0], [0] * 3), ([0] * 3, [0, 5 * moment, 0])],
                )

    def test_lengths_without_a_unit(self):
        for far, metres, words in (
            (6000, 6, "up to 6000, and taken to be in mm"),
            (6, 6, "up to 6, and taken to be in m."),
        ):
            data = book(**BEAM | {"Nodes": [["Node", "X", "Y", "Z"], [1, 0, 0, 0], [2, far, 0, 0]]})
            found = read(data)
            self.assertEqual(found.document["nodes"][1]["at"], [metres, 0, 0])
            self.assertIn(words, " ".join(found.guessed))
            settled = read(data, **{"|length": "ft"})
            self.assertAlmostEqual(settled.document["nodes"][1]["at"][0], far * 0.3048, places=6)
            self.assertNotIn("taken to be in", " ".join(settled.guessed))
        self.assertNotIn("length", [c.field for c in read(book(**BEAM)).choices])

    def test_rods_bear_as_rods(self):
        beams = [
            ["Beam", "Node i", "Node j", "Profile", "Role"],
            ["B1", 1, 2, "IPE 300", "main beam"],
            ["D", 1, 2, "RD 20", "wall bracing"],
        ]
        found = read(book(**BEAM | {"Beams": beams}))
        self.assertEqual([m["behaviour"] for m in found.document["members"]], ["beam", "tension-only"])
        self.assertIn("Wall bracing bear as usual: tension-only (1).", found.guessed)
        stated = [[*row, word] for row, word in zip(beams, ("Joined", "bar", "bar"), strict=True)]
        found = read(book(**BEAM | {"Beams": stated}))
        self.assertEqual([m["behaviour"] for m in found.document["members"]], ["bar", "bar"])

    def test_the_verdict_says_that_nobody_counts_the_weight(self):
        words = "no case counts the self-weight of the members: it acts only as far as stated loads bear it"
        document = read(book(**BEAM)).document
        left = [words for words, _ in run(read_document(document)).verification.whole.left_out]
        self.assertIn(words, left)
        own = {"cases": [*document["cases"], {"name": "G", "nature": "permanent", "self_weight": True}]}
        left = [words for words, _ in run(read_document(document | own)).verification.whole.left_out]
        self.assertNotIn(words, left)
        self.assertNotIn(words, [words for words, _ in run(drying_hall()).verification.whole.left_out])

    def test_loads_of_every_kind(self):
        heading = ["Case", "Member", "Kind", "Along X", "Along Z", "Along Z at its end", "From", "To", "Axes"]
        rows = [
            ["Q", "B1", "line", None, -2, -4, 1, 3, "local"],
            ["Q", "B1", "force", 7, None, None, 2.5, 9, None],
            ["Q", "B1", "moment", None, 3, None, None, None, None],
        ]
        found = read(book(**BEAM | {"Line_loads": [heading, *rows]}))
        self.assertEqual(found.problems, [])
        line, force, moment = found.document["member_loads"]
        self.assertEqual(
            (line["value"], line["value_end"], line["start"], line["end"], line["axes"]),
            ([0, 0, -2], [0, 0, -4], 1, 3, "local"),
        )
        # a single force has a place alone
        self.assertEqual((force["kind"], force["value"], force["start"]), ("force", [7, 0, 0], 2.5))
        self.assertNotIn("end", force)
        self.assertEqual((moment["kind"], moment["value"], moment["start"]), ("moment", [0, 0, 3], 0))

    def test_members_by_places_share_their_nodes(self):
        rows = [
            ["Bar", "x1", "y1", "z1", "x2", "y2", "z2", "Section"],
            ["a", 0, 2, 0, 0, 2, 3, "HEA 200"],
            ["b", 0, 2, 3, 5, 2, 3, "IPE 300"],
        ]
        found = read(book(Bars=rows))
        self.assertEqual([n["at"] for n in found.document["nodes"]], [[0, 2, 0], [0, 2, 3], [5, 2, 3]])
        self.assertEqual([m["role"] for m in found.document["members"]], ["column", "main beam"])
        self.assertIn("Members without a role are taken for columns by how they run (1).", found.guessed)

    def test_a_section_of_ones_own(self):
        own = [["Profile", "A [cm²]", "Iy [cm4]", "Iz [cm^4]", "It [cm4]"], ["X1", 53.8, 8356, 604, 20.1]]
        beams = [["Beam", "Node i", "Node j", "Profile"], ["B1", 1, 2, "X1"]]
        found = read(book(**BEAM | {"Sections": own, "Beams": beams}))
        self.assertEqual(found.problems, [])
        made = found.document["sections"][0]
        self.assertAlmostEqual(made["A"], section("IPE 300").A, delta=5e-6)
        self.assertAlmostEqual(made["Iy"], section("IPE 300").Iy, delta=5e-9)
        self.assertIn("analysed, not verified", " ".join(found.guessed))


class Wrong(unittest.TestCase):
    def problems(self, **sheets):
        return read(book(**BEAM | sheets)).problems

    def test_cells(self):
        for sheets, words in (
            ({"Beams": [*BEAMS, ["B2", 1, 3, "IPE 300", "S275"]]}, "Beams, C3: there is no node “3”."),
            ({"Beams": [*BEAMS, ["B2", 2, 1, "IPE 301", "S275"]]}, "Beams, D3: there is no section “IPE 301”"),
            ({"Beams": [*BEAMS, ["B2", 2, 1, "IPE 300", "S999"]]}, "Beams, E3: there is no material “S999”"),
            ({"Beams": [*BEAMS, ["B1", 2, 1, "IPE 300", ""]]}, "Beams, A3: there are two members named “B1”."),
            ({"Beams": [*BEAMS, ["B2", 2, 2, "IPE 300", ""]]}, "member B2 begins and ends at node 2."),
            ({"Beams": [*BEAMS, ["B2", 2, "", "IPE 300", ""]]}, "neither which node it has at its end"),
            ({"Nodes": [*NODES, [3, "five", 0, 0]]}, "Nodes, B4: X is a number, not “five”."),
            ({"Nodes": [*NODES, [3, None, 0, 0]]}, "Nodes, B4: X is missing."),
            ({"Nodes": [*NODES, [3, "nan", 0, 0]]}, "Nodes, B4: X is a number, not “nan”."),
            ({"Nodes": [*NODES, [3, "1e999", 0, 0]]}, "Nodes, B4: X is a number, not “1e999”."),
            ({"Nodes": [*NODES, [3, 1e12, 0, 0]]}, "nodes.2.at.0: must be at most 100000"),
            (
                {"Nodes": [["Node", "X (miles)", "Y", "Z"], *NODES[1:]]},
                "Nodes, column B: X in miles is not read; m, mm",
            ),
            ({"Nodes": [["Node", "X", "x", "Z"], *NODES[1:]]}, "Nodes: no column is Y."),
            (
                {"Supports": [["Joint", "Fixity"], [1, "welded"]]},
                "Supports, B2: a support is pinned, fixed, or holds some of x y z",
            ),
            ({"Supports": [["Joint", "ux"], [1, "maybe"]]}, "Supports, B2: a direction is held or free, not “maybe”."),
            ({"Cases": [["Load case", "Type"], ["Q", "lorry"]]}, "Cases, B2: Nature is permanent, imposed"),
            ({"Line_loads": [*LOADS, ["W", "B1", 3]]}, "Line loads, A3: there is no case “W”."),
            ({"Line_loads": [*LOADS, ["Q", "B1", None]]}, "the load has no value."),
            (
                {"Combinations": [["Combination", "Q"], ["U", "much"]]},
                "Combinations, B2: a factor is a number, not “much”.",
            ),
        ):
            with self.subTest(words):
                self.assertTrue(any(words in p for p in self.problems(**sheets)), self.problems(**sheets))

    def test_what_the_document_refuses_is_told_too(self):
        found = read(book(**BEAM | {"Nodes": [*NODES, ["n" * 90, 0, 0, 0]]}))
        self.assertTrue(found.problems)

    def test_files(self):
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file:
            file.writestr("xl/worksheets/sheet1.xml", b"0" * 250_000_000)
        for data, name, words in (
            (packed.getvalue(), "a.xlsx", "unpacks to more than 200 MB"),
            (b"PK\x03\x04rubbish", "a.xlsx", "cannot be read as a spreadsheet"),
            (b"name;x\x00;y", "a.csv", "NUL"),
            (book(Empty=[]), "a.xlsx", "every sheet is empty"),
            (b"\n\n \n", "a.csv", "The file is empty"),
        ):
            with self.subTest(words), self.assertRaises(ModelError) as caught:
                take(data, name, {})
            self.assertIn(words, caught.exception.message)

    def test_entities_that_grow_without_end(self):
        entities = '<!ENTITY e0 "aaaaaaaaaa">' + "".join(f'<!ENTITY e{k + 1} "{f"&e{k};" * 10}">' for k in range(9))
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(book(**BEAM))) as file, zipfile.ZipFile(out, "w") as bad:
            for name in file.namelist():
                text = file.read(name).decode()
                if name == "xl/worksheets/sheet1.xml":
                    start = text.index("<worksheet")
                    text = f"{text[:start]}<!DOCTYPE worksheet [{entities}]>{text[start:]}"
                    text = text.replace("Node no.", "&e9;")
                    self.assertIn("&e9;", text)
                bad.writestr(name, text)
        with self.assertRaises(ModelError) as caught:
            read(out.getvalue())
        self.assertIn("cannot be read as a spreadsheet", caught.exception.message)


if __name__ == "__main__":
    unittest.main()
