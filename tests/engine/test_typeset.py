"""Dossiers in type: PDF read back, spreadsheets read back, formulas of every proof, digests by which ticks stand or fall."""

import contextlib
import io
import json
import re
import subprocess
import tempfile
import unittest
from pathlib import Path
from unittest import mock

import ezdxf
import typst
from openpyxl import load_workbook
from pypdf import PdfReader

from engine.chain import run
from engine.demo import drying_hall
from engine.derivation import written
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.drawing import Circle, Drawing, Stroke, Words
from engine.dossier.values import Heading, Proven
from engine.errors import ModelError
from engine.standards.en.derived import FACTORS
from engine.standards.en.derived_lines import KINDS
from engine.standards.en.derived_lines import SYMBOLS as OF_LOADS
from engine.standards.en.proof_symbols import SYMBOLS
from engine.standards.en.proof_text import LINES
from publish.__main__ import main
from publish.blocks import parts, shown
from publish.drawings import svg
from publish.dxf.drawings import dxf
from publish.formulas import typst_math
from publish.tables.dossier import workbook
from publish.typeset import typeset
from tests.engine.test_dossier import BEAM, full


def text_of(pdf):
    """The words of a PDF page by page, without the spaces that setting in type puts in."""
    return [" ".join(page.extract_text().split()) for page in PdfReader(io.BytesIO(pdf)).pages]


class Formulas(unittest.TestCase):
    def test_known_ones(self):
        for latex, wanted in (
            (r"\dfrac{W_{pl,y} f_y}{\gamma_{M0}}", 'frac(W_(upright("pl,y")) f_(upright("y")), gamma_(upright("M0")))'),
            (r"\sqrt{235\,\mathrm{N/mm^2}/f_y}", 'sqrt(235 thin upright("N/mm")^(2) slash f_(upright("y")))'),
            (r"\sqrt[4]{x}\le 1", "root(4, x) lt.eq 1"),
            (r"\bar\lambda_{LT,0}^2", 'overline(lambda)_(upright("LT,0"))^(2)'),
            (r"\text{utilisation}", 'upright("utilisation")'),
            (r"2\cdot x", "2 dot.op x"),
        ):
            with self.subTest(latex):
                self.assertEqual(typst_math(latex), wanted)

    def test_what_is_not_known_is_refused(self):
        for latex in (r"\oint x", r"\dfrac{a}{b", r"a}", r"\!"):
            with self.subTest(latex), self.assertRaises((ValueError, IndexError)):
                typst_math(latex)

    def test_every_formula_of_every_proof_can_be_set(self):
        rows = []
        for lines in LINES.values():
            for line in lines:
                formula = typst_math(written(line.formula, lambda key: SYMBOLS[key].latex))
                rows.append(f"$ {typst_math(SYMBOLS[line.key].latex)} = {formula or 'x'} $")
        for _, _, lines in KINDS.values():
            for line in lines:
                formula = typst_math(written(line.formula, lambda key: OF_LOADS[key].latex))
                rows.append(f"$ {typst_math(OF_LOADS[line.key].latex)} = {formula or 'x'} $")
        rows += [f"$ {typst_math(symbol.latex)} $" for symbol in FACTORS.values()]
        self.assertGreater(len(rows), 300)
        typst.compile("\n".join(rows).encode())

    def test_words_with_subscripts(self):
        self.assertEqual(
            [(p["words"], p["sub"]) for p in parts("L_cr,y: own; α_cr = 3")],
            [("L", False), ("cr,y", True), (": own; α", False), ("cr", True), (" = 3", False)],
        )
        self.assertEqual([p["words"] for p in parts("frame-1/column_A")][0], "frame-1/column")

    def test_numbers(self):
        self.assertEqual(
            [shown(v, d) for v, d in ((-0.0001, 2), (-1.256, 2), (0.0, 0), (12.5, 1))], ["0.00", "−1.26", "0", "12.5"]
        )


class Pages(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.chain = run(drying_hall())
        cls.dossier = compose(cls.chain, DossierPlan(), revision="Revision 41", made="made 2 May 2031")
        cls.pages = typeset(cls.dossier)
        cls.text = text_of(cls.pages.pdf)

    def test_every_page_says_its_revision_date_and_number(self):
        self.assertEqual(len(self.text), self.pages.count)
        for number, words in enumerate(self.text, 1):
            with self.subTest(number):
                self.assertIn("Revision 41", words)
                self.assertIn("made 2 May 2031", words)
                self.assertIn(f"{number} / {self.pages.count}", words)

    def test_it_stops_where_it_is_not_wanted_any_more(self):
        class Stopped(Exception):
            pass

        asked = []

        def progress(*said):
            asked.append(said)
            if len(asked) > 1:
                raise Stopped

        started, begin = [], subprocess.Popen

        def popen(*arguments, **more):
            started.append(begin(*arguments, **more))
            return started[-1]

        with (
            mock.patch("publish.typeset.ASKED", 0.01),
            mock.patch("publish.typeset.subprocess.Popen", popen),
            self.assertRaises(Stopped),
        ):
            typeset(self.dossier, progress)
        [process] = started
        self.assertEqual(process.returncode, -9)

    def test_what_cannot_be_set_is_told(self):
        with tempfile.TemporaryDirectory() as folder:
            broken = Path(folder) / "dossier.typ"
            broken.write_text("#let data = json(bytes(sys.inputs.data))\n#panic(data.title)\n")
            with mock.patch("publish.typeset.TEMPLATE", broken), self.assertRaises(ModelError) as refused:
                typeset(self.dossier)
        self.assertIn("could not be set in type", refused.exception.message)

    def test_sections_are_on_the_pages_that_the_contents_say(self):
        anchors = [b.anchor for c in self.dossier.chapters for b in c.blocks if isinstance(b, Heading)]
        self.assertEqual(len(self.pages.sections), len(anchors) + len(self.dossier.chapters))
        for section in self.pages.sections:
            if section.depth < 3 and "_" not in section.title:
                with self.subTest(section.title):
                    self.assertIn(f"{section.number} {section.title}", self.text[section.page - 1])
        outline = [one for one in PdfReader(io.BytesIO(self.pages.pdf)).outline if not isinstance(one, list)]
        self.assertEqual([one.title.split(" ", 1)[1] for one in outline], [c.title for c in self.dossier.chapters])

    def test_the_utilisation_of_each_proof_is_in_it(self):
        words = " ".join(self.text)
        proofs = [b.proof for c in self.dossier.chapters for b in c.blocks if isinstance(b, Proven)]
        self.assertEqual(len(proofs), 6)
        for proof in proofs:
            self.assertIn(f"{proof.utilisation:.3f} ≤ 1", words)
            for step in proof.steps:
                self.assertIn(step.value.replace(" ", ""), words.replace(" ", ""))

    def test_links_lead_from_the_summary_to_proofs(self):
        summary = next(s for s in self.pages.sections if s.anchor == "verification.summary")
        page = PdfReader(io.BytesIO(self.pages.pdf)).pages[summary.page - 1]
        links = [a for a in page.get("/Annots", []) if a.get_object()["/Subtype"] == "/Link"]
        self.assertGreaterEqual(len(links), 6)

    def test_a_tick_falls_where_what_it_stands_on_changed_and_nowhere_else(self):
        before = {s.anchor: s.digest for s in self.pages.sections}
        again = {s.anchor: s.digest for s in typeset(self.dossier).sections}
        self.assertEqual(again, before)
        plan = DossierPlan.model_validate({"chapters": {"basis": {"remark": "Agreed."}}})
        after = {s.anchor: s.digest for s in typeset(compose(self.chain, plan)).sections}
        self.assertEqual({a for a in before if before[a] != after[a]}, {"basis"})
        snowed = drying_hall()
        snowed.site.ground_snow = 0.85
        snowed_chain = run(snowed)
        after = {s.anchor: s.digest for s in typeset(compose(snowed_chain, DossierPlan())).sections}
        changed = {a for a in before if before[a] != after.get(a)}
        self.assertIn("actions.snow", changed)
        self.assertIn("response.reactions", changed)
        for anchor in (
            "basis.standards",
            "building.dimensions",
            "building.frame-1",
            "actions.wind.left",
            "quantities.sections",
        ):
            self.assertNotIn(anchor, changed)
        # in full, case by case: the snow alone has changed
        cases = DossierPlan.model_validate({"chapters": {"actions": {"level": "full"}}})
        told = [{s.anchor: s.digest for s in typeset(compose(c, cases)).sections} for c in (self.chain, snowed_chain)]
        fallen = {a for a in told[0] if a.startswith("case.") and told[0][a] != told[1][a]}
        self.assertEqual(fallen, {f"case.{c.symbol}" for c in self.chain.loading.cases if "S" in c.symbol})

    def test_letter(self):
        page = typeset(compose(self.chain, DossierPlan(paper="Letter"))).pdf
        box = PdfReader(io.BytesIO(page)).pages[0].mediabox
        self.assertEqual((round(box.width), round(box.height)), (612, 792))

    def test_the_spreadsheet_says_the_same(self):
        book = load_workbook(io.BytesIO(workbook(self.dossier)))
        # those of one name, kind of joint by kind of joint, stand on one sheet
        kinds = {}
        for _, table in self.dossier.tables:
            kinds.setdefault((table.name, table.columns), []).extend(table.rows)
        self.assertLess(len(kinds), len(self.dossier.tables))
        for all_rows, name in zip(kinds.values(), book.sheetnames[1:], strict=True):
            rows = list(book[name].iter_rows(values_only=True))
            self.assertEqual(len(rows) - 1, len(all_rows))
            for row, wanted in zip(rows[1:], all_rows, strict=True):
                for cell, value in zip(row, wanted, strict=True):
                    if isinstance(value, float):
                        self.assertAlmostEqual(cell, value, delta=1e-12 * abs(value))
                    else:
                        self.assertEqual(cell or None, getattr(value, "words", value) or None)

    def test_words_that_begin_like_formulas_stay_words(self):
        member, load = {**BEAM["members"][0], "name": "=1+1"}, {**BEAM["member_loads"][0], "member": "=1+1"}
        chain = run(read_document({**BEAM, "name": '=cmd|"x"!A1', "members": [member], "member_loads": [load]}))
        book = load_workbook(io.BytesIO(workbook(compose(chain, full()))))
        cells = [c for sheet in book for row in sheet.iter_rows() for c in row if isinstance(c.value, str)]
        self.assertTrue(any(c.value.startswith("=") for c in cells))
        self.assertFalse(any(c.data_type == "f" for c in cells))

    def test_words_of_people_are_no_program(self):
        name = '#panic("x") $ \\ " <b> [ ] _ * `'
        plan = DossierPlan.model_validate({"client": name, "chapters": {"basis": {"remark": name}}})
        words = " ".join(text_of(typeset(compose(run(read_document(BEAM)), plan, title=name)).pdf))
        self.assertEqual(words.count('#panic("x")') >= 3, True)


class Svg(unittest.TestCase):
    def test_a_drawing(self):
        drawing = Drawing(
            "A <frame>", 100.0, 50.0, 200,
            (Stroke(((10.0, 5.0), (20.0, 5.0)), "axis"), Stroke(((0.0, 0.0), (4.0, 0.0), (4.0, 4.0)), "steel", True, (((1.0, 1.0), (2.0, 1.0), (2.0, 2.0)),))),
            (Words((10.0, 5.0), "IPE <450>", angle=30.0),),
            (Circle((10.0, 45.0), 2.6, "dimension"),),
        )  # fmt: skip
        found = svg(drawing)
        self.assertIn('viewBox="0 0 100.00 50.00"', found)
        # y grows upwards on paper, downwards in the file
        self.assertIn("M10.00 45.00L20.00 45.00", found)
        self.assertIn("M0.00 50.00L4.00 50.00L4.00 46.00ZM1.00 49.00", found)
        self.assertIn("IPE &lt;450&gt;", found)
        self.assertIn("rotate(-30.0 10.00 45.00)", found)


class Drawings(unittest.TestCase):
    def test_dxf_is_to_true_size_on_named_layers(self):
        found = ezdxf.read(io.StringIO(dxf(compose(run(drying_hall()), DossierPlan())).decode()))
        self.assertEqual(found.audit().errors, [])
        self.assertEqual(found.units, ezdxf.units.MM)
        steel = list(found.modelspace().query('LWPOLYLINE[layer=="STEEL"]'))
        heights = {round(max(p[1] for p in line) - min(p[1] for p in line)) for line in map(list, steel)}
        # columns of 6 m from base to eaves
        self.assertIn(6000, heights)
        words = {text.dxf.text for text in found.modelspace().query('TEXT[layer=="TEXT"]')}
        self.assertLessEqual({"IPE 550", "IPE 450", "24.00", "+8.12", "A", "B"}, words)
        axes = [list(line) for line in found.modelspace().query('LWPOLYLINE[layer=="AXES"]')]
        self.assertTrue(axes)


class Command(unittest.TestCase):
    def report(self, data, name="report.pdf"):
        with tempfile.TemporaryDirectory() as folder:
            model, out = Path(folder) / "model.json", Path(folder) / name
            model.write_bytes(data)
            said = io.StringIO()
            with contextlib.redirect_stderr(said):
                status = main(["report", str(model), "--out", str(out)])
            return status, said.getvalue(), out.read_bytes() if out.exists() else b""

    def test_a_report_without_server(self):
        status, _, pdf = self.report(json.dumps(BEAM).encode())
        self.assertEqual(status, 0)
        self.assertRegex(" ".join(text_of(pdf)), r"model\.json")
        status, _, document = self.report(json.dumps(BEAM).encode(), "report.docx")
        self.assertEqual((status, document[:2]), (0, b"PK"))
        status, _, sheets = self.report(json.dumps(BEAM).encode(), "tables.xlsx")
        self.assertEqual((status, "reactions" in load_workbook(io.BytesIO(sheets)).sheetnames), (0, True))

    def test_what_cannot_be_made(self):
        status, said, _ = self.report(b"{", "report.pdf")
        self.assertEqual((status, bool(re.search("not JSON", said))), (2, True))
        status, said, out = self.report(json.dumps(BEAM).encode(), "report.doc")
        self.assertEqual((status, out), (2, b""))
        self.assertIn(".pdf, .html, .docx, .xlsx, .dxf or .ifc", said)
        status, said, _ = self.report(json.dumps({**BEAM, "supports": []}).encode())
        self.assertEqual(status, 2)
