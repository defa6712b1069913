"""A dossier as pages: its values for the template, which Typst sets in type as PDF with real text, bookmarks and links."""

from __future__ import annotations

import hashlib
import json
import re
import shutil
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

import typst

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
from engine.progress import Progress, quiet
from publish.drawings import svg
from publish.formulas import typst_math

TEMPLATE = Path(__file__).with_name("dossier.typ")
FONTS = Path(__file__).with_name("fonts")
MARKS = ("passes", "fails", "not covered", "holds", "does not hold")
#: chapters that begin on a page of their own
OWN_PAGE = ("building", "actions", "verification")
#: a letter with what stands below it
_SUBSCRIPT = re.compile(r"([A-Za-zΑ-ωϵ)])_([A-Za-z0-9]+(?:,[A-Za-z0-9]+)*)")
_NUMBER = re.compile(r"[+−±-]?\d")


@dataclass(frozen=True)
class Section:
    """A chapter (depth 1) or section of a dossier in type: its lasting name, number, the page that it is on, from 1, how far down
    it stands there (mm), and a digest of what stands in it, as it is written."""

    anchor: str
    depth: int
    number: str
    title: str
    page: int
    down: float
    digest: str


@dataclass(frozen=True)
class Pages:
    """A dossier in type."""

    pdf: bytes
    count: int
    sections: tuple[Section, ...]


def typeset(dossier: Dossier, progress: Progress = quiet, pictures: Mapping[str, bytes] | None = None) -> Pages:
    """Set a dossier in type. `progress` may raise to stop. pictures: PNG or JPEG by key; one that is not there is told as missing."""
    progress("Pages", 0, 0)
    anchors = {c.key for c in dossier.chapters} | {
        b.anchor for c in dossier.chapters for b in c.blocks if isinstance(b, Heading)
    }
    data: dict[str, Any] = {
        "title": dossier.title,
        "place": dossier.place,
        "author": next((value for term, value, _ in dossier.cover.rows if term == "Author"), ""),
        "paper": {"A4": "a4", "Letter": "us-letter"}[dossier.paper],
        "revision": dossier.revision,
        "made": dossier.made,
        "verdict": dossier.verdict[:1].upper() + dossier.verdict[1:],
        "standing": dossier.standing,
        "cover": _block(dossier.cover, anchors),
        "left_out": list(dossier.left_out),
        "chapters": [_chapter(c, anchors, not k or c.key in OWN_PAGE) for k, c in enumerate(dossier.chapters)],
    }
    data["pictures"] = sorted(pictures or ())
    with TemporaryDirectory(prefix="lorica-pages-") as folder:
        # the template reads what lies beside it, and nothing else
        root = Path(folder)
        shutil.copy(TEMPLATE, root)
        for key, picture in (pictures or {}).items():
            (root / key).write_bytes(picture)
        compiler = typst.Compiler(
            str(root / TEMPLATE.name),
            root=folder,
            font_paths=[str(FONTS)],
            ignore_system_fonts=True,
            sys_inputs={"data": json.dumps(data, ensure_ascii=False)},
        )
        # marks of what each word is would take seven times the room of all the rest
        pdf = compiler.compile(format="pdf", pdf_tags=False)
        assert isinstance(pdf, bytes)
        found = json.loads(compiler.query("<place>", field="value"))
        count = int(json.loads(compiler.query("<count>", field="value"))[0])
    places = {one["anchor"]: (int(one["page"]), round(float(one["down"]), 1)) for one in found}
    return Pages(pdf, count, tuple(_sections(data["chapters"], places)))


def _sections(chapters: list[dict[str, Any]], places: dict[str, tuple[int, float]]) -> Iterator[Section]:
    for k, chapter in enumerate(chapters, 1):
        inside: list[tuple[str, int, str, str, list[Any]]] = [
            (chapter["anchor"], 1, f"{k}", chapter["title"], [chapter["title"]])
        ]
        counts = [k, 0, 0]
        for block in chapter["blocks"]:
            if block["kind"] == "heading":
                depth = block["depth"]
                counts[depth - 1] += 1
                counts[depth:] = [0] * (3 - depth)
                number = ".".join(str(c) for c in counts[:depth])
                words = "".join(part["words"] for part in block["words"])
                inside.append((block["anchor"], depth, number, words, []))
            inside[-1][4].append(block)
        for anchor, depth, number, title, blocks in inside:
            digest = hashlib.sha256(json.dumps(blocks, sort_keys=True).encode()).hexdigest()[:16]
            yield Section(anchor, depth, number, title, *places[anchor], digest)


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


def _chapter(told: Told, anchors: set[str], new_page: bool) -> dict[str, Any]:
    return {
        "title": told.title,
        "anchor": told.key,
        "new-page": new_page,
        "blocks": [_block(block, anchors) for block in told.blocks],
    }


def _block(block: Block, anchors: set[str]) -> dict[str, Any]:
    if isinstance(block, Heading):
        return {
            "kind": "heading",
            "words": parts(block.words),
            "anchor": block.anchor,
            "depth": block.depth,
            "aside": parts(block.aside),
        }
    if isinstance(block, Paragraph):
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
        return _derivation(block.derivation)
    assert isinstance(block, Proven)
    return _proof(block)


def _proof(block: Proven) -> dict[str, Any]:
    proof = block.proof
    return {
        **_derivation(proof),
        "combination": proof.combination,
        "formula": proof.formula,
        "utilisation": f"{proof.utilisation:.3f}",
        "holds": proof.utilisation <= 1.0,
        "drawing": {"svg": svg(block.drawing), "width": block.drawing.width} if block.drawing else None,
    }


def _derivation(found: Derivation) -> dict[str, Any]:
    return {
        "kind": "proof",
        "title": found.title,
        "clause": found.clause,
        "combination": None,
        "drawing": None,
        "assumptions": [parts(words) for words in found.assumptions],
        "steps": [
            {
                "symbol": typst_math(step.symbol),
                "formula": typst_math(step.formula) if step.formula else "",
                "numbers": typst_math(step.numbers) if step.numbers else "",
                "value": step.value,
                "clause": step.clause,
                "words": parts(step.words),
            }
            for step in found.steps
        ],
    }
