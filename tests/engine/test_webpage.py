"""The dossier as one web page: what the PDF says, every formula as MathML, nothing asked of elsewhere, no words taken for marks."""

import re
import unittest
from html.parser import HTMLParser

from engine.chain import run
from engine.demo import drying_hall
from engine.derivation import written
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from engine.dossier.values import Heading, Table
from engine.standards.en.derived_lines import KINDS
from engine.standards.en.derived_lines import SYMBOLS as OF_LOADS
from engine.standards.en.proof_symbols import SYMBOLS
from engine.standards.en.proof_text import LINES
from publish.blocks import shown
from publish.webpage import mathml, webpage
from tests.engine.test_dossier import BEAM

EMPTY = {"meta", "img", "br", "path", "circle"}


class Page(HTMLParser):
    """What stands in a page, and that each mark is closed in order."""

    def __init__(self, text):
        super().__init__()
        self.open, self.words, self.ids, self.links, self.marks = [], [], [], [], []
        self.feed(text)
        self.close()

    def handle_starttag(self, tag, attrs):
        found = dict(attrs)
        self.marks.append((tag, found))
        self.ids += [found["id"]] if "id" in found else []
        self.links += [found["href"]] if "href" in found else []
        if tag not in EMPTY:
            self.open.append(tag)

    def handle_startendtag(self, tag, attrs):
        self.marks.append((tag, dict(attrs)))

    def handle_endtag(self, tag):
        if tag in EMPTY:
            return
        expected = self.open.pop()
        if expected != tag:
            raise AssertionError(f"{expected} is closed by {tag}")

    def handle_data(self, data):
        if self.open and self.open[-1] != "style":
            self.words.append(data)


class Whole(unittest.TestCase):
    @classmethod
    def setUpClass(cls):
        cls.dossier = compose(run(drying_hall()), DossierPlan(), revision="Revision 7")
        cls.text = webpage(cls.dossier).decode()
        cls.page = Page(cls.text)

    def test_every_mark_is_closed_and_every_link_leads_somewhere(self):
        self.assertEqual(self.page.open, [])
        self.assertEqual(len(self.page.ids), len(set(self.page.ids)))
        self.assertEqual({link.removeprefix("#") for link in self.page.links} - set(self.page.ids), set())

    def test_it_asks_nothing_of_elsewhere_and_runs_nothing(self):
        self.assertNotIn("script", {tag for tag, _ in self.page.marks})
        self.assertEqual([a for _, found in self.page.marks for a in found if a.startswith("on")], [])
        outside = re.findall(r"(?:src|href)\s*=\s*[\"'](?!#|data:)[^\"']*|url\((?!data:)[^)]*", self.text)
        self.assertEqual(outside, [])
        self.assertIn("default-src 'none'", self.text)

    def test_every_heading_and_every_number_of_every_table(self):
        words = " ".join("".join(self.page.words).split())
        numbers = 0
        for chapter in self.dossier.chapters:
            self.assertIn(chapter.title, words)
            for block in chapter.blocks:
                if isinstance(block, Heading):
                    self.assertIn(block.anchor, self.page.ids)
                if isinstance(block, Table):
                    for row in block.rows:
                        for cell, column in zip(row, block.columns, strict=True):
                            if isinstance(cell, float):
                                numbers += 1
                                self.assertIn(shown(cell, column.digits), words)
        self.assertGreater(numbers, 300)
        self.assertIn("what is left out is told under what is open", words)


def every_formula():
    """The formulas of all proofs and derivations, without numbers."""
    formulas = [s.latex for s in (*SYMBOLS.values(), *OF_LOADS.values())]
    for lines in LINES.values():
        formulas += [written(line.formula, lambda key: SYMBOLS[key].latex) for line in lines if line.formula]
    for _, _, lines in KINDS.values():
        formulas += [written(line.formula, lambda key: OF_LOADS[key].latex) for line in lines if line.formula]
    return formulas


class Words(unittest.TestCase):
    def test_words_of_people_are_words(self):
        plan = {"chapters": {"basis": {"remark": "<script>alert(1)</script> & {{ title }}"}}, "client": "<b>A & B</b>"}
        dossier = compose(run(read_document(BEAM)), DossierPlan.model_validate(plan), title="<img src=x onerror=1>")
        page = Page(webpage(dossier).decode())
        tags = {tag for tag, _ in page.marks}
        self.assertFalse(tags & {"script", "b", "img"} - {"b"})
        words = "".join(page.words)
        for said in ("<script>alert(1)</script> & {{ title }}", "<b>A & B</b>", "<img src=x onerror=1>"):
            self.assertIn(said, words)

    def test_every_formula_of_every_proof_is_set(self):
        formulas = every_formula()
        self.assertGreater(len(formulas), 300)
        for latex in formulas:
            with self.subTest(latex):
                found = Page(mathml(latex))
                words = "".join(found.words)
                # what is not understood stays as it was written
                self.assertNotRegex(words, r"[\\{}]")
                self.assertTrue(words.strip())
                digits = re.findall(r"\d+", latex)
                self.assertEqual(sorted(digits), sorted(re.findall(r"\d+", " ".join(found.words))))
