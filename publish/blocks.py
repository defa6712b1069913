"""What a dossier says as plain values: words with their subscripts apart, numbers to their digits, formulas and drawings as text."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any

from engine.derivation import Derivation
from engine.dossier.values import (
    Block,
    Cell,
    Column,
    Derived,
    Dossier,
    Facts,
    Figure,
    Heading,
    Link,
    Paragraph,
    Pictured,
    Proven,
    Table,
    Told,
)
from publish.drawings import svg
from publish.remarks import remark_lines

MARKS = ("passes", "fails", "not covered", "holds", "does not hold")
#: chapters that begin on a page of their own
OWN_PAGE = ("building", "actions", "verification")
#: a letter with what stands below it
_SUBSCRIPT = re.compile(r"([A-Za-zΑ-ωϵ)])_([A-Za-z0-9]+(?:,[A-Za-z0-9]+)*)")
_NUMBER = re.compile(r"[+−±-]?\d")


#: gives a formula in LaTeX as whoever sets it wants it
Formula = Callable[[str], str]


def page_data(dossier: Dossier, formula: Formula) -> dict[str, Any]:
    """A dossier for a template."""
    anchors = {c.key for c in dossier.chapters} | {
        b.anchor for c in dossier.chapters for b in c.blocks if isinstance(b, Heading)
    }
    return {
        "title": dossier.title,
        "place": dossier.place,
        "author": next((value for term, value, _ in dossier.cover.rows if term == "Author"), ""),
        "revision": dossier.revision,
        "made": dossier.made,
        "verdict": dossier.verdict[:1].upper() + dossier.verdict[1:],
        "standing": dossier.standing,
        "cover": _block(dossier.cover, anchors, formula),
        "left_out": list(dossier.left_out),
        "chapters": [_chapter(c, anchors, not k or c.key in OWN_PAGE, formula) for k, c in enumerate(dossier.chapters)],
    }


def numbered(chapters: list[dict[str, Any]]) -> list[tuple[dict[str, Any], str]]:
    """Chapters and headings with their numbers, in order."""
    found = []
    for k, chapter in enumerate(chapters, 1):
        found.append((chapter, f"{k}"))
        counts = [k, 0, 0, 0]
        for block in chapter["blocks"]:
            if block["kind"] == "heading":
                depth = block["depth"]
                counts[depth - 1] += 1
                counts[depth:] = [0] * (4 - depth)
                found.append((block, ".".join(str(c) for c in counts[:depth])))
    return found


def parts(words: str) -> list[dict[str, Any]]:
    """Words, with what stands after `_` apart: “L_cr,y”."""
    found, at = [], 0
    for match in _SUBSCRIPT.finditer(words):
        found.append({"sub": False, "words": words[at : match.start()] + match[1]})
        found.append({"sub": True, "words": match[2]})
        at = match.end()
    found.append({"sub": False, "words": words[at:]})
    return [part for part in found if part["words"]]


def shown(value: float, digits: int) -> str:
    """A number to its digits; a sign of nothing is none."""
    text = f"{value:.{digits}f}"
    return text.replace("-", "−") if float(text) else text.lstrip("-")


def _cell(cell: Cell, column: Column, anchors: set[str]) -> dict[str, Any]:
    if cell is None:
        return {"kind": "number", "words": "–"}
    if isinstance(cell, float):
        return {"kind": "number", "words": shown(cell, column.digits)}
    if isinstance(cell, Link):
        kind = "link" if cell.anchor in anchors else "words"
        return {"kind": kind, "parts": parts(cell.words), "to": cell.anchor}
    if cell in MARKS:
        return {"kind": "mark", "words": cell}
    return {"kind": "words", "parts": parts(cell)}


def _chapter(told: Told, anchors: set[str], new_page: bool, formula: Formula) -> dict[str, Any]:
    return {
        "title": told.title,
        "anchor": told.key,
        "new-page": new_page,
        "blocks": [_block(block, anchors, formula) for block in told.blocks],
    }


def _block(block: Block, anchors: set[str], formula: Formula) -> dict[str, Any]:
    if isinstance(block, Heading):
        return {
            "kind": "heading",
            "words": parts(block.words),
            "anchor": block.anchor,
            "depth": block.depth,
            "aside": parts(block.aside),
        }
    if isinstance(block, Paragraph):
        if block.kind == "remark":
            return {"kind": "remark", "lines": remark_lines(block.words, parts, formula)}
        return {"kind": "paragraph", "of": block.kind, "words": parts(block.words)}
    if isinstance(block, Facts):
        return {
            "kind": "facts",
            "rows": [
                [parts(term), parts(value) or [{"sub": False, "words": ""}], parts(note), bool(_NUMBER.match(value))]
                for term, value, note in block.rows
            ],
        }
    if isinstance(block, Table):
        numeric = [any(isinstance(row[k], float) for row in block.rows) for k in range(len(block.columns))]
        return {
            "kind": "table",
            "marked": block.marked,
            "anchors": list(block.anchors),
            "columns": [
                {"words": parts(c.words), "unit": c.unit, "wide": c.wide, "right": right}
                for c, right in zip(block.columns, numeric, strict=True)
            ],
            "rows": [
                [_cell(cell, column, anchors) for cell, column in zip(row, block.columns, strict=True)]
                for row in block.rows
            ],
        }
    if isinstance(block, Figure):
        return {
            "kind": "figure",
            "svg": svg(block.drawing),
            "width": block.drawing.width,
            "alt": block.drawing.title,
            "words": parts(block.words),
        }
    if isinstance(block, Pictured):
        return {"kind": "picture", "key": block.picture, "width": block.width, "words": parts(block.words)}
    if isinstance(block, Derived):
        return _derivation(block.derivation, formula)
    assert isinstance(block, Proven)
    return _proof(block, formula)


def _proof(block: Proven, formula: Formula) -> dict[str, Any]:
    proof = block.proof
    return {
        **_derivation(proof, formula),
        "combination": proof.combination,
        "formula": proof.formula,
        "utilisation": f"{proof.utilisation:.3f}",
        "holds": proof.utilisation <= 1.0,
        "drawing": {"svg": svg(block.drawing), "width": block.drawing.width} if block.drawing else None,
    }


def _derivation(found: Derivation, formula: Formula) -> dict[str, Any]:
    return {
        "kind": "proof",
        "title": found.title,
        "clause": found.clause,
        "combination": None,
        "drawing": None,
        "assumptions": [parts(words) for words in found.assumptions],
        "steps": [
            {
                "symbol": formula(step.symbol),
                "formula": formula(step.formula) if step.formula else "",
                "numbers": formula(step.numbers) if step.numbers else "",
                "value": step.value,
                "clause": step.clause,
                "words": parts(step.words),
            }
            for step in found.steps
        ],
    }
