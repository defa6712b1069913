"""Words, paragraphs, tables and pictures as WordprocessingML (ECMA-376 part 1, 17)."""

from __future__ import annotations

import re
from collections.abc import Sequence
from html import escape
from typing import Any

#: what XML cannot bear
_ILLEGAL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f\x7f\ufffe\uffff]")
FAINT, GOOD, BAD, GONE, BLUE = "56626C", "2F6B4F", "A03B23", "7A5A14", "1F5F7A"
TONES = {"passes": GOOD, "holds": GOOD, "fails": BAD, "does not hold": BAD, "not covered": GONE}
#: English Metric Units per mm, and twentieths of a point per mm
EMU, TWIPS = 36000, 56.6929


def run(
    words: str, bold: bool = False, italic: bool = False, colour: str = "", size: float = 0, sub: bool = False
) -> str:
    """Words in one look; size in points, 0: that of the paragraph."""
    look = "<w:b/>" * bold + "<w:i/>" * italic
    look += f'<w:color w:val="{colour}"/>' if colour else ""
    look += f'<w:sz w:val="{round(size * 2)}"/>' if size else ""
    look += '<w:vertAlign w:val="subscript"/>' if sub else ""
    lines = "<w:br/>".join(
        f'<w:t xml:space="preserve">{escape(line)}</w:t>' for line in _ILLEGAL.sub("", words).split("\n")
    )
    return f"<w:r><w:rPr>{look}</w:rPr>{lines}</w:r>" if words else ""


def said(parts: Sequence[dict[str, Any]], **look: Any) -> str:
    """Words with what is lowered in them."""
    return "".join(run(part["words"], sub=part["sub"], **look) for part in parts)


def paragraph(inner: str, style: str = "", properties: str = "") -> str:
    """A paragraph of runs."""
    own = f'<w:pStyle w:val="{style}"/>' if style else ""
    return f"<w:p><w:pPr>{own}{properties}</w:pPr>{inner}</w:p>"


def beside(colour: str, kind: str) -> str:
    """A line to the left of a paragraph: "single" or "dashed"."""
    return f'<w:pBdr><w:left w:val="{kind}" w:sz="12" w:space="6" w:color="{colour}"/></w:pBdr>'


def bookmark(number: int, inner: str) -> str:
    """A place that links lead to."""
    return f'<w:bookmarkStart w:id="{number}" w:name="place{number}"/>{inner}<w:bookmarkEnd w:id="{number}"/>'


def link(number: int, inner: str) -> str:
    """Words that lead to a place."""
    return f'<w:hyperlink w:anchor="place{number}" w:history="1">{inner}</w:hyperlink>'


def field(instruction: str) -> str:
    """What a word processor finds itself: PAGE, NUMPAGES."""
    return f'<w:fldSimple w:instr=" {instruction} "><w:r><w:t>1</w:t></w:r></w:fldSimple>'


def table(
    rows: Sequence[Sequence[str]],
    widths: Sequence[float],
    head: bool = True,
    right: Sequence[bool] = (),
    marked: int = -1,
) -> str:
    """Cells of runs or formulas. widths: of columns in mm; head: the first row is repeated on each page; right: columns whose
    words stand on the right; marked: number of a row below the head that is tinted."""
    grid = "".join(f'<w:gridCol w:w="{round(width * TWIPS)}"/>' for width in widths)
    lines = "".join(
        f'<w:{side} w:val="single" w:sz="2" w:space="0" w:color="CFD4D8"/>' for side in ("bottom", "insideH")
    )
    properties = (
        f'<w:tblW w:w="{round(sum(widths) * TWIPS)}" w:type="dxa"/><w:tblBorders>{lines}</w:tblBorders><w:tblLayout w:type="fixed"/>'
        '<w:tblCellMar><w:left w:w="40" w:type="dxa"/><w:right w:w="80" w:type="dxa"/></w:tblCellMar>'
    )
    body = "".join(
        _row(row, widths, head and not k, right, head and k == marked + 1 and marked >= 0) for k, row in enumerate(rows)
    )
    return f"<w:tbl><w:tblPr>{properties}</w:tblPr><w:tblGrid>{grid}</w:tblGrid>{body}</w:tbl>{paragraph('', 'Cell')}"


def _row(cells: Sequence[str], widths: Sequence[float], head: bool, right: Sequence[bool], tinted: bool) -> str:
    found = []
    for k, (cell, width) in enumerate(zip(cells, widths, strict=True)):
        own = f'<w:tcW w:w="{round(width * TWIPS)}" w:type="dxa"/>'
        own += (
            '<w:tcBorders><w:bottom w:val="single" w:sz="8" w:space="0" w:color="1F2A33"/></w:tcBorders>'
            if head
            else ""
        )
        own += '<w:shd w:val="clear" w:color="auto" w:fill="EEF2F4"/>' if tinted else ""
        side = '<w:jc w:val="right"/>' if right and right[k] else ""
        found.append(f"<w:tc><w:tcPr>{own}</w:tcPr>{paragraph(cell, 'Cell', side)}</w:tc>")
    return f"<w:tr><w:trPr><w:cantSplit/>{'<w:tblHeader/>' * head}</w:trPr>{''.join(found)}</w:tr>"


def picture(relation: str, number: int, size: tuple[float, float], words: str) -> str:
    """A picture by its relation, in mm; words: for who cannot see it."""
    x, y = (round(side * EMU) for side in size)
    name = escape(_ILLEGAL.sub("", words), quote=True)
    return (
        f'<w:r><w:drawing><wp:inline distT="0" distB="0" distL="0" distR="0"><wp:extent cx="{x}" cy="{y}"/>'
        f'<wp:docPr id="{number}" name="Picture {number}" descr="{name}"/><a:graphic><a:graphicData '
        'uri="http://schemas.openxmlformats.org/drawingml/2006/picture"><pic:pic><pic:nvPicPr>'
        f'<pic:cNvPr id="{number}" name="Picture {number}"/><pic:cNvPicPr/></pic:nvPicPr><pic:blipFill><a:blip r:embed="{relation}"/>'
        f'<a:stretch><a:fillRect/></a:stretch></pic:blipFill><pic:spPr><a:xfrm><a:off x="0" y="0"/><a:ext cx="{x}" cy="{y}"/></a:xfrm>'
        '<a:prstGeom prst="rect"><a:avLst/></a:prstGeom></pic:spPr></pic:pic></a:graphicData></a:graphic></wp:inline></w:drawing></w:r>'
    )
