"""The dossier for word processors: what the PDF says, formulas as formulas, links that lead somewhere, words of people as words."""

import io
import re
import unittest
import xml.etree.ElementTree as ET
import zipfile

from docx import Document
from PIL import Image

from engine.chain import run
from engine.demo import drying_hall
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.values import Figure, Heading, Proven, Table
from publish.blocks import page_data, shown
from publish.webpage import mathml
from publish.word.document import word
from publish.word.drawings import SHARPNESS, pictures
from publish.word.formulas import office_math
from tests.engine.test_dossier import BEAM
from tests.engine.test_webpage import every_formula

M = "{http://schemas.openxmlformats.org/officeDocument/2006/math}"
W = "{http://schemas.openxmlformats.org/wordprocessingml/2006/main}"
DECLARED = 'xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math" xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"'


def math(latex):
    return ET.fromstring(office_math(latex).replace("<m:oMath>", f"<m:oMath {DECLARED}>", 1))


def drawn(part):
    """A formula as letters: a fraction as (a)/(b), what is raised after ^, lowered after _, roots as √()."""
    tag = part.tag.removeprefix(M)
    inner = {one.tag.removeprefix(M): drawn(one) for one in part}
    if tag == "t":
        return part.text or ""
    if tag == "f":
        return f"({inner['num']})/({inner['den']})"
    if tag == "rad":
        return f"{inner['deg']}√({inner['e']})"
    if tag == "bar":
        return f"bar({inner['e']})"
    if tag == "d":
        signs = [part.find(f"{M}dPr/{M}{end}").get(f"{M}val") for end in ("begChr", "endChr")]
        return signs[0] + inner["e"] + signs[1]
    if tag in ("sSub", "sSup", "sSubSup"):
        return inner["e"] + "".join(f"{sign}{inner[key]}" for key, sign in (("sub", "_"), ("sup", "^")) if key in inner)
    return "".join(drawn(one) for one in part if not one.tag.endswith(("Pr", "rPr")))


def letters(text):
    """What of a formula is neither blank nor bracket."""
    return sorted(re.sub(r"[\s\u2009()\[\]|^_√/]", "", text.replace("bar", "")))


class Formulas(unittest.TestCase):
    def test_of_each_kind(self):
        for latex, expected in (
            (r"\dfrac{\pi^2 E\,I_z}{(L_{cr,z})^2}", "(π^2E\u2009I_z)/((L_cr,z)^2)"),
            (r"0.5\left[1+\alpha(\bar\lambda-0.2)+\bar\lambda^2\right]", "0.5[1+α(bar(λ)−0.2)+bar(λ)^2]"),
            (r"\sqrt{\dfrac{a}{b}}\le 1", "√((a)/(b))≤1"),
            (r"\sqrt[4]{a+b}", "4√(a+b)"),
            (r"\bar\lambda_{LT}^2", "bar(λ)_LT^2"),
            (r"|(-0.1)|+f(x(y))", "|(−0.1)|+f(x(y))"),
            # a bracket that nothing closes stays what it is
            (r"(a+b", "(a+b"),
        ):
            with self.subTest(latex):
                self.assertEqual(drawn(math(latex)), expected)

    def test_every_formula_of_every_proof(self):
        for latex in every_formula():
            with self.subTest(latex):
                own = "".join(ET.fromstring(mathml(latex)).itertext()).replace("¯", "")
                self.assertEqual(letters(drawn(math(latex))), letters(own))
                # brackets come in pairs that word processors know
                alone = [t.text for t in math(latex).iter(f"{M}t") if t.text in ("(", ")", "|")]
                self.assertEqual(alone, [])

    def test_what_is_not_known_is_refused(self):
        with self.assertRaisesRegex(ValueError, "mtable is not known"):
            office_math(r"\begin{matrix}a&b\end{matrix}")


class Whole(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.dossier = compose(run(drying_hall()), DossierPlan(), revision="Revision 7", made="made today")
        cls.file = word(cls.dossier)
        cls.document = Document(io.BytesIO(cls.file))
        with zipfile.ZipFile(io.BytesIO(cls.file)) as archive:
            cls.body = ET.fromstring(archive.read("word/document.xml"))
            cls.names = archive.namelist()

    def test_headings_with_their_numbers(self):
        found = [p.text for p in self.document.paragraphs if p.style.name.startswith("Heading")]
        expected = []
        for k, chapter in enumerate(self.dossier.chapters, 1):
            expected.append(f"{k}  {chapter.title}")
            expected += [b.words for b in chapter.blocks if isinstance(b, Heading)]
        self.assertEqual(len(found), len(expected))
        for said, wanted in zip(found, expected, strict=True):
            self.assertTrue(said.endswith(wanted.replace("_", "")), (said, wanted))

    def test_every_number_of_every_table(self):
        words = {"".join(t.text or "" for t in cell.iter(f"{W}t")) for cell in self.body.iter(f"{W}tc")}
        numbers = 0
        for _, table in self.dossier.tables:
            self.assertIsInstance(table, Table)
            for row in table.rows:
                for cell, column in zip(row, table.columns, strict=True):
                    if isinstance(cell, float):
                        numbers += 1
                        self.assertIn(shown(cell, column.digits), words)
        self.assertGreater(numbers, 300)

    def test_heads_are_repeated_and_rows_hold_together(self):
        heads = [row for row in self.body.iter(f"{W}tr") if row.find(f"{W}trPr/{W}tblHeader") is not None]
        self.assertEqual(len(heads), len(self.dossier.tables))
        for table in self.body.iter(f"{W}tbl"):
            widths = [int(c.get(f"{W}w")) for c in table.find(f"{W}tblGrid")]
            for row in table.iter(f"{W}tr"):
                self.assertEqual(len(row.findall(f"{W}tc")), len(widths))
            # no table is wider than the page between its margins, 168 mm
            self.assertLess(sum(widths), 168.5 * 56.6929)

    def test_links_lead_somewhere(self):
        places = [b.get(f"{W}name") for b in self.body.iter(f"{W}bookmarkStart")]
        links = [h.get(f"{W}anchor") for h in self.body.iter(f"{W}hyperlink")]
        self.assertEqual(len(places), len(set(places)))
        self.assertGreater(len(links), 40)
        self.assertEqual(set(links) - set(places), set())

    def test_proofs_with_their_formulas_and_utilisations(self):
        blocks = [b for c in self.dossier.chapters for b in c.blocks]
        proofs = [b.proof for b in blocks if isinstance(b, Proven)]
        words = " ".join("".join(t.text or "" for t in p.iter(f"{W}t")) for p in self.body.iter(f"{W}p"))
        for proof in proofs:
            self.assertIn(f"{proof.utilisation:.3f} ≤ 1", words)
        data = page_data(self.dossier, lambda latex: latex)
        steps = [s for c in data["chapters"] for b in c["blocks"] if b["kind"] == "proof" for s in b["steps"]]
        formulas = sum(bool(s[key]) for s in steps for key in ("symbol", "formula", "numbers"))
        self.assertEqual(len(list(self.body.iter(f"{M}oMath"))), formulas)

    def test_drawings_to_their_size(self):
        figures = [b.drawing for c in self.dossier.chapters for b in c.blocks if isinstance(b, Figure)]
        shapes = self.document.inline_shapes
        widths = sorted(round(s.width.mm, 1) for s in shapes)
        for drawing in figures:
            self.assertIn(round(min(drawing.width, 168.0), 1), widths)
        self.assertIn(figures[0].title, {d.get("descr") for d in self.body.iter() if d.tag.endswith("docPr")})

    def test_every_page_says_its_revision(self):
        section = self.document.sections[0]
        self.assertIn("Revision 7 · made today", section.footer.paragraphs[0].text)
        self.assertIn(self.dossier.title, section.header.paragraphs[0].text)
        self.assertEqual((round(section.page_width.mm), round(section.page_height.mm)), (210, 297))
        about = self.document.core_properties
        self.assertEqual((about.title, about.author), (self.dossier.title, ""))


class Words(unittest.TestCase):
    def test_words_of_people_are_words(self):
        odd = "<w:p/> & \x01 “x”\nsecond line"
        plan = {"chapters": {"basis": {"remark": odd}}, "client": "<b>A & B</b>", "paper": "Letter"}
        dossier = compose(run(read_document(BEAM)), DossierPlan.model_validate(plan), title="</w:t><x>")
        document = Document(io.BytesIO(word(dossier)))
        words = [p.text for p in document.paragraphs]
        at = words.index("<w:p/> &  “x”")
        self.assertEqual(words[at + 1], "second line")
        self.assertIn("</w:t><x>", words)
        self.assertIn("<b>A & B</b>", [c.text for t in document.tables for c in t._cells])
        self.assertEqual(round(document.sections[0].page_width.mm, 1), 215.9)

    def test_pictures_of_ones_own_and_those_that_are_gone(self):
        file = io.BytesIO()
        Image.new("RGB", (40, 20), "red").save(file, "PNG")
        shown_ones = [{"name": key * 16, "caption": f"No. {key}", "width": 0.25} for key in "ab"]
        plan = DossierPlan.model_validate({"chapters": {"basis": {"pictures": shown_ones}}})
        dossier = compose(run(read_document(BEAM)), plan)
        document = Document(io.BytesIO(word(dossier, {"a" * 16: file.getvalue()})))
        sizes = [(round(s.width.mm, 1), round(s.height.mm, 1)) for s in document.inline_shapes]
        self.assertIn((42.0, 21.0), sizes)
        words = [p.text for p in document.paragraphs]
        self.assertIn("This picture is not among those of the project.", words)
        self.assertTrue({"No. a", "No. b"} <= set(words))


class Drawings(unittest.TestCase):
    def test_each_in_its_order_and_size(self):
        svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 10 {0}" width="10mm" height="{0}mm"><rect width="10" height="{0}" fill="{1}"/></svg>'
        made = [
            Image.open(io.BytesIO(p)) for p in pictures([(svg.format(5, "#f00"), 20.0), (svg.format(10, "#00f"), 10.0)])
        ]
        dots = SHARPNESS / 25.4
        for picture, size, colour in zip(made, ((20, 10), (10, 10)), ((255, 0, 0), (0, 0, 255)), strict=True):
            self.assertAlmostEqual(picture.width, size[0] * dots, delta=1.5)
            self.assertAlmostEqual(picture.height, size[1] * dots, delta=1.5)
            self.assertEqual(picture.convert("RGB").getpixel((10, 10)), colour)
        self.assertEqual(pictures([]), [])
