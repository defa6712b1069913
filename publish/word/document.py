"""A dossier as a document for word processors: real text, tables whose heads repeat, formulas as such, links, drawings as pictures."""

from __future__ import annotations

import io
from collections.abc import Mapping
from typing import Any

import docx
from docx.document import Document
from docx.enum.style import WD_STYLE_TYPE
from docx.oxml import parse_xml
from docx.oxml.ns import nsdecls
from docx.shared import Mm, Pt, RGBColor
from PIL import Image

from engine.dossier.values import Dossier
from publish.blocks import numbered, page_data
from publish.word import marks
from publish.word.drawings import pictures
from publish.word.formulas import office_math
from publish.word.marks import BAD, BLUE, FAINT, GONE, GOOD, TONES, paragraph, run, said

#: width and height of a page, and its margins left, right, above, below, mm
PAPER = {"A4": (210.0, 297.0), "Letter": (215.9, 279.4)}
MARGINS = (24.0, 18.0, 24.0, 22.0)
#: mm of a letter in a table, and letters up to which a column is as wide as its longest words
LETTER, MOST_LETTERS = 1.5, 30
_DECLARED = (
    f'{nsdecls("w", "r", "wp", "a", "pic")} xmlns:m="http://schemas.openxmlformats.org/officeDocument/2006/math"'
)


def word(dossier: Dossier, own: Mapping[str, bytes] | None = None) -> bytes:
    """The document. own: pictures, PNG or JPEG by key; one that is not there is told as missing."""
    data = page_data(dossier, office_math)
    document = docx.Document()
    _set_up(document, data, dossier.paper)
    body = document.element.body
    text = _Text(document, data, dossier.paper, own or {}).whole()
    for part in list(parse_xml(f"<w:body {_DECLARED}>{text}</w:body>")):
        body.insert(len(body) - 1, part)
    file = io.BytesIO()
    document.save(file)
    return file.getvalue()


def _set_up(document: Document, data: dict[str, Any], paper: str) -> None:
    """Paper, looks, what stands on every page, and what the file says of itself."""
    section = document.sections[0]
    width, height = PAPER[paper]
    section.page_width, section.page_height = Mm(width), Mm(height)
    section.left_margin, section.right_margin, section.top_margin, section.bottom_margin = (Mm(m) for m in MARGINS)
    styles = document.styles
    for name, size, above in (
        ("Normal", 9.5, 0),
        ("Heading 1", 15, 22),
        ("Heading 2", 11.5, 14),
        ("Heading 3", 9.5, 10),
        ("Heading 4", 9, 8),
        ("Title", 24, 40),
    ):
        style = styles[name]
        style.font.size, style.font.name = Pt(size), "Calibri"
        style.paragraph_format.space_before, style.paragraph_format.space_after = Pt(above), Pt(4)
        if name != "Normal":
            style.font.color.rgb, style.font.bold, style.font.italic = RGBColor(0x1F, 0x2A, 0x33), True, False
            style.element.rPr.rFonts.attrib.clear()
            style.font.name = "Calibri"
    cell = styles.add_style("Cell", WD_STYLE_TYPE.PARAGRAPH)
    cell.base_style, cell.font.size = styles["Normal"], Pt(8)
    cell.paragraph_format.space_after = Pt(1)
    head, foot = section.header.paragraphs[0], section.footer.paragraphs[0]
    words = data["title"] + (f" · {data['place']}" if data["place"] else "")
    page = run(f"{data['revision']} · {data['made']} · ", colour=FAINT, size=7.5)
    for place, inner in (
        (head, run(words, colour=FAINT, size=7.5)),
        (foot, page + marks.field("PAGE") + run(" / ", colour=FAINT, size=7.5) + marks.field("NUMPAGES")),
    ):
        for part in list(parse_xml(f"<w:p {_DECLARED}>{inner}</w:p>")):
            place._p.append(part)
    about = document.core_properties
    about.title, about.author, about.comments = (
        data["title"][:255],
        data["author"][:255],
        f"{data['revision']}, {data['made']}",
    )


def _widths(block: dict[str, Any], room: float) -> list[float]:
    """Widths of the columns of a table in mm by their longest words; wide ones share what is left."""
    columns = block["columns"]
    longest = [
        max([len(_plain(c["words"])) + len(c["unit"]) * 0.6, *(len(_in_words(row[k])) for row in block["rows"])])
        for k, c in enumerate(columns)
    ]
    own = [
        0.0 if c["wide"] else min(max(n, 4), MOST_LETTERS) * LETTER + 3 for c, n in zip(columns, longest, strict=True)
    ]
    wide = sum(c["wide"] for c in columns)
    free = room - 28.0 * wide
    if sum(own) > free:
        own = [width * free / sum(own) for width in own]
    left = room - sum(own)
    weights = [min(n, 3 * MOST_LETTERS) if c["wide"] else 0 for c, n in zip(columns, longest, strict=True)]
    return [left * w / sum(weights) if w else width for w, width in zip(weights, own, strict=True)]


def _plain(parts: list[dict[str, Any]]) -> str:
    return "".join(part["words"] for part in parts)


def _in_words(cell: dict[str, Any]) -> str:
    return str(cell["words"]) if "words" in cell else _plain(cell["parts"])


class _Text:
    """Writes the body from its start; what was numbered last is kept."""

    def __init__(self, document: Document, data: dict[str, Any], paper: str, own: Mapping[str, bytes]) -> None:
        self.document, self.data, self.own = document, data, own
        self.room = PAPER[paper][0] - MARGINS[0] - MARGINS[1]
        found = numbered(data["chapters"])
        self.numbers = {part["anchor"]: number for part, number in found}
        self.places = {part["anchor"]: k for k, (part, _) in enumerate(found, 1)}
        blocks = [block for chapter in data["chapters"] for block in chapter["blocks"]]
        drawn = [(b["svg"], b["width"]) for b in blocks if b["kind"] == "figure"]
        drawn += [(b["drawing"]["svg"], b["drawing"]["width"] * 0.62) for b in blocks if b.get("drawing")]
        self.drawings = dict(zip((svg for svg, _ in drawn), pictures(drawn), strict=True))
        self.count = 0

    def whole(self) -> str:
        """All of it."""
        parts = [self.cover()]
        for k, chapter in enumerate(self.data["chapters"]):
            new = "<w:pageBreakBefore/>" if chapter["new-page"] and k else ""
            parts.append(self.heading(chapter["anchor"], run(chapter["title"]), 1, new))
            parts += [self.block(block) for block in chapter["blocks"]]
        return "".join(parts)

    def block(self, block: dict[str, Any]) -> str:
        """What a block says."""
        tell = {
            "heading": self.section,
            "paragraph": self.paragraph,
            "remark": self.remark,
            "facts": self.facts,
            "table": self.table,
            "figure": self.figure,
            "picture": self.picture,
            "proof": self.proof,
        }
        return tell[block["kind"]](block)

    def cover(self) -> str:
        """Title, verdict, what the cover says, and the contents."""
        data = self.data
        tone = {"passes": GOOD, "fails": BAD, "open": GONE}[data["standing"]]
        kind = "dashed" if data["standing"] == "open" else "single"
        box = "".join(
            f'<w:{side} w:val="{kind}" w:sz="8" w:space="6" w:color="{tone}"/>'
            for side in ("top", "left", "bottom", "right")
        )
        parts = [
            paragraph(run(data["title"]), "Title"),
            paragraph(run(" · ".join(w for w in (data["place"], data["revision"], data["made"]) if w), colour=FAINT)),
            paragraph(run(data["verdict"], bold=True, colour=tone), "", f"<w:pBdr>{box}</w:pBdr>"),
            self.facts(data["cover"]),
        ]
        if data["left_out"]:
            parts.append(paragraph(run(f"Left out of this document: {', '.join(data['left_out'])}.", colour=GONE)))
        for part, number in numbered(data["chapters"]):
            chapter = "blocks" in part
            if chapter or part["depth"] < 3:
                words = run(part["title"], bold=True) if chapter else said(part["words"])
                inner = run(f"{number}  ", bold=chapter) + words
                indent = '<w:spacing w:after="0"/>' + ("" if chapter else '<w:ind w:left="300"/>')
                parts.append(paragraph(marks.link(self.places[part["anchor"]], inner), "", indent))
        return "".join(parts)

    def heading(self, anchor: str, words: str, depth: int, properties: str = "") -> str:
        """The heading of a chapter or section with its number."""
        inner = run(f"{self.numbers[anchor]}  ") + words
        return paragraph(marks.bookmark(self.places[anchor], inner), f"Heading{depth}", properties)

    def section(self, block: dict[str, Any]) -> str:
        """The heading of a section with what stands beside it."""
        aside = paragraph(said(block["aside"], colour=FAINT, size=7.5), "", "<w:keepNext/>") if block["aside"] else ""
        return self.heading(block["anchor"], said(block["words"]), block["depth"]) + aside

    def paragraph(self, block: dict[str, Any]) -> str:
        """A sentence in the look of its kind."""
        kind, words = block["of"], block["words"]
        if kind == "item":
            return paragraph(run("– ") + said(words), "", '<w:ind w:left="260" w:hanging="180"/>')
        if kind == "missing":
            return paragraph(said(words), "", marks.beside(GONE, "dashed"))
        if kind == "fails":
            return paragraph(said(words, bold=True), "", marks.beside(BAD, "single"))
        return paragraph(said(words))

    def remark(self, block: dict[str, Any]) -> str:
        """The designer's own words, line by line."""
        lines = []
        for line in block["lines"]:
            inner = run("– ", italic=True) if line["item"] else ""
            for part in line["parts"]:
                look = {"bold": part["bold"], "italic": not part["italic"] and not part["bold"], "sub": part["sub"]}
                inner += part["formula"] or run(part["words"], **look)
            lines.append(paragraph(inner, "", marks.beside(BLUE, "single")))
        return "".join(lines)

    def facts(self, block: dict[str, Any]) -> str:
        """Terms with what they are."""
        rows = [
            (said(term, colour=FAINT), said(value), said(note, colour=FAINT)) for term, value, note, _ in block["rows"]
        ]
        return marks.table(rows, (38.0, 46.0, self.room - 84.0), head=False) if rows else ""

    def table(self, block: dict[str, Any]) -> str:
        """A table."""
        columns = block["columns"]
        head = [
            said(c["words"], bold=True, colour=FAINT) + run(f" {c['unit']}" if c["unit"] else "", colour=FAINT)
            for c in columns
        ]
        widths = _widths(block, self.room)
        rows = [[self.cell(one) for one in row] for row in block["rows"]]
        return marks.table([head, *rows], widths, True, [c["right"] for c in columns], block["marked"])

    def cell(self, one: dict[str, Any]) -> str:
        """What stands in a table."""
        if one["kind"] == "number":
            return run(one["words"])
        if one["kind"] == "mark":
            return run(one["words"], bold=one["words"] not in ("passes", "holds"), colour=TONES[one["words"]])
        if one["kind"] == "link":
            return marks.link(self.places[one["to"]], said(one["parts"], colour=BLUE))
        return said(one["parts"])

    def figure(self, block: dict[str, Any]) -> str:
        """A drawing with what stands below it."""
        return self._pictured(self.drawings[block["svg"]], block["width"], block["alt"], block["words"])

    def picture(self, block: dict[str, Any]) -> str:
        """A picture of the designer's own."""
        shown = self.own.get(block["key"])
        if shown is None:
            missing = paragraph(
                run("This picture is not among those of the project."), "", marks.beside(GONE, "dashed")
            )
            return missing + paragraph(said(block["words"], colour=FAINT, size=7.5))
        return self._pictured(shown, block["width"] * self.room, _plain(block["words"]), block["words"])

    def _pictured(self, shown: bytes, width: float, alt: str, words: list[dict[str, Any]]) -> str:
        middle = '<w:keepNext/><w:jc w:val="center"/>'
        below = paragraph(said(words, colour=FAINT, size=7.5), "", '<w:jc w:val="center"/>') if words else ""
        return paragraph(self._image(shown, min(width, self.room), alt), "", middle) + below

    def _image(self, shown: bytes, width: float, alt: str) -> str:
        relation, _ = self.document.part.get_or_add_image(io.BytesIO(shown))
        with Image.open(io.BytesIO(shown)) as opened:
            across, down = opened.size
        self.count += 1
        return marks.picture(relation, self.count, (width, width * down / across), alt)

    def proof(self, block: dict[str, Any]) -> str:
        """A derivation or a proof, line by line."""
        keep = "<w:keepNext/>"
        parts = [
            paragraph(run(block["title"], bold=True) + run(f"   {block['clause']}", colour=FAINT, size=7.5), "", keep)
        ]
        if block["combination"]:
            parts.append(paragraph(run(f"{block['combination']} = {block['formula']}", colour=FAINT, size=8), "", keep))
        if block["drawing"]:
            drawing = block["drawing"]
            parts.append(
                paragraph(self._image(self.drawings[drawing["svg"]], drawing["width"] * 0.62, block["title"]), "", keep)
            )
        rows = [
            (self._line(step), run(step["value"], bold=True), run(step["clause"], colour=FAINT))
            for step in block["steps"]
        ]
        if block["combination"]:
            verdict = "passes" if block["holds"] else "fails"
            sign = "≤" if block["holds"] else ">"
            rows.append(
                (
                    run("Utilisation", bold=True),
                    run(f"{block['utilisation']} {sign} 1", bold=True),
                    run(verdict, bold=True, colour=TONES[verdict]),
                )
            )
        parts.append(marks.table(rows, (self.room - 62.0, 30.0, 32.0), head=False, right=(False, True, False)))
        parts += [paragraph(said(words, colour=FAINT, size=7.5)) for words in block["assumptions"]]
        return "".join(parts)

    def _line(self, step: dict[str, Any]) -> str:
        found: str = step["symbol"]
        for formula in (step["formula"], step["numbers"]):
            found += run(" = ") + formula if formula else ""
        return found + (run("  ") + said(step["words"], colour=FAINT, size=7.5) if step["words"] else "")
