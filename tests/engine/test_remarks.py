"""Remarks of people: looks, lists and formulas in them; what is none stays words, and nothing of it is ever read as program."""

import io
import unittest

from docx import Document
from hypothesis import given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from engine.chain import run
from engine.document import read_document
from engine.document.handover import DossierPlan
from engine.dossier.compose import compose
from publish.blocks import parts
from publish.remarks import can_be_set, remark_lines
from publish.typeset import typeset
from publish.webpage import mathml, webpage
from publish.word.document import word
from publish.word.formulas import office_math
from tests.engine.test_dossier import BEAM


def lines(words, formula=lambda latex: f"<{latex}>"):
    """Lines as text: • for items, b() and i() for looks, formulas as they are given."""
    found = []
    for line in remark_lines(words, parts, formula):
        said = "• " if line["item"] else ""
        for part in line["parts"]:
            own = part["formula"] or ("_" if part["sub"] else "") + part["words"]
            said += f"b({own})" if part["bold"] else f"i({own})" if part["italic"] else own
        found.append(said)
    return found


class Marks(unittest.TestCase):
    def test_each(self):
        for words, expected in (
            ("plain", ["plain"]),
            ("a **b c** d *e* f", ["a b(b c) d i(e) f"]),
            ("- one\n  – two\nthree\n\nfour", ["• one", "• two", "three", "", "four"]),
            ("s_k of $N_{b,Rd}$", ["s_k of <N_{b,Rd}>"]),
            ("$a$ and $b$", ["<a> and <b>"]),
            # prices, products and stars alone are none
            ("$5 and $6, 2 * 3 * 4, **, a*b", ["$5 and $6, 2 * 3 * 4, **, a*b"]),
            # what cannot be set stays as it was written
            ('$\\evil{x}$ $a_$ $a"b$ $#x$', ['$\\evil{x}$ $a_$ $a"b$ $#x$']),
        ):
            with self.subTest(words):
                self.assertEqual(lines(words), expected)

    def test_one_that_another_library_cannot_read_stays_words(self):
        def refuses(latex):
            raise KeyError(latex)

        self.assertEqual(lines("so $a$", refuses), ["so $a$"])

    def test_nothing_that_ends_words_or_begins_a_program(self):
        for latex in ('\\text{"+read("x")+"}', "#read(x)", "a;b", "`a`", "a$b", "<script>'", "a&b", "@x"):
            self.assertFalse(can_be_set(latex), latex)
        self.assertTrue(can_be_set("\\dfrac{\\chi A f_y}{\\gamma_{M1}}"))


class Set(unittest.TestCase):
    WORDS = "Agreed with the **client** on *3 May*:\n- holds as $N_{Rd} = A f_y$\n<b>&amp;</b> $x < y$"

    def setUp(self):
        plan = DossierPlan.model_validate({"chapters": {"basis": {"remark": self.WORDS}}})
        self.dossier = compose(run(read_document(BEAM)), plan)

    def test_in_each_kind_of_document(self):
        pages = " ".join(p.extract_text() for p in PdfReader(io.BytesIO(typeset(self.dossier).pdf)).pages)
        self.assertIn("Agreed with the client on 3 May:", " ".join(pages.split()))
        self.assertIn("<b>&amp;</b>", pages)
        self.assertNotIn("$", pages)
        page = webpage(self.dossier).decode()
        self.assertIn("with the <b>client</b> on <em>3 May</em>:", page)
        self.assertIn(f'<p class="item">holds as {mathml("N_{Rd} = A f_y")}</p>', page)
        self.assertIn("&lt;b&gt;&amp;amp;&lt;/b&gt;", page)
        document = Document(io.BytesIO(word(self.dossier)))
        said = [p for p in document.paragraphs if p.text.startswith(("Agreed", "– holds", "<b>"))]
        self.assertEqual([p.text for p in said[:1]], ["Agreed with the client on 3 May:"])
        self.assertEqual([r.text for r in said[0].runs if r.bold], ["client"])
        self.assertEqual(len([e for e in said[1]._p.iter() if e.tag.endswith("}oMath")]), 1)

    @settings(max_examples=60, deadline=None)
    @given(st.text(alphabet='ab1$*_^{}\\()|/-+=<>.,! \n"#', max_size=30))
    def test_whatever_is_written_the_document_is_made(self, words):
        remark_lines(words, parts, mathml)
        for line in remark_lines(words, parts, office_math):
            self.assertTrue(all(part["words"] or part["formula"] for part in line["parts"]))


class Whole(unittest.TestCase):
    def test_odd_formulas_do_not_take_the_document_with_them(self):
        odd = (
            "a_",
            "^2",
            "(",
            "a_b_c",
            "|",
            "\\sqrt",
            "\\left(",
            "\\text{a",
            "a}",
            "{}",
            "_",
            "/*",
            "//",
            "1.2.3",
            "\\,",
        )
        remark = "\n".join(f"${latex}$" for latex in odd)
        plan = DossierPlan.model_validate({"chapters": {"basis": {"remark": remark}}})
        dossier = compose(run(read_document(BEAM)), plan)
        self.assertGreater(typeset(dossier).count, 3)
        self.assertTrue(webpage(dossier) and word(dossier))
