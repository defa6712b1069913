"""A dossier as pages: its values for the template, which Typst sets in type as PDF with real text, bookmarks and links."""

from __future__ import annotations

import hashlib
import json
import shutil
import subprocess
import sys
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from engine.dossier.values import Dossier
from engine.errors import ModelError
from engine.progress import Progress, quiet
from publish.blocks import numbered, page_data
from publish.formulas import typst_math

TEMPLATE = Path(__file__).with_name("dossier.typ")
SETTING = Path(__file__).with_name("setting.py")
#: seconds after which it is asked whether the pages are still wanted
ASKED = 0.3


@dataclass(frozen=True)
class Section:
    """A chapter (depth 1) or section of a dossier in type, or (row) a row of a table in it: its lasting name, number, the page that it is on,
    from 1, how far down it stands there (mm), and a digest of what stands in it, as it is written."""

    anchor: str
    depth: int
    number: str
    title: str
    page: int
    down: float
    digest: str
    row: bool = False


@dataclass(frozen=True)
class Pages:
    """A dossier in type. memory: the most that setting it took, MB."""

    pdf: bytes
    count: int
    sections: tuple[Section, ...]
    memory: float = 0.0


def typeset(dossier: Dossier, progress: Progress = quiet, pictures: Mapping[str, bytes] | None = None) -> Pages:
    """Set a dossier in type. `progress` is asked every now and then, and may raise to stop. pictures: PNG or JPEG by key; one that is not there is
    told as missing. Raises ModelError where it cannot be set."""
    progress("Pages", 0, 0)
    data = page_data(dossier, typst_math)
    data["paper"] = {"A4": "a4", "Letter": "us-letter"}[dossier.paper]
    data["pictures"] = sorted(pictures or ())
    with TemporaryDirectory(prefix="lorica-pages-") as name:
        folder = Path(name)
        shutil.copy(TEMPLATE, folder / "page.typ")
        for key, picture in (pictures or {}).items():
            (folder / key).write_bytes(picture)
        (folder / "data.json").write_text(json.dumps(data, ensure_ascii=False), encoding="utf-8")
        _set(folder, progress)
        pdf = (folder / "pages.pdf").read_bytes()
        found = json.loads((folder / "places.json").read_text())
    places = {one["anchor"]: (int(one["page"]), round(float(one["down"]), 1)) for one in found["places"]}
    return Pages(pdf, found["count"], tuple(_sections(data["chapters"], places)), found["memory"])


def _set(folder: Path, progress: Progress) -> None:
    """Have a folder set in type by a process of its own, which ends when it is stopped. Raises ModelError where it fails."""
    with subprocess.Popen(
        [sys.executable, "-I", str(SETTING), str(folder)], stderr=subprocess.PIPE, text=True
    ) as process:
        try:
            while True:
                try:
                    _, said = process.communicate(timeout=ASKED)
                    break
                except subprocess.TimeoutExpired:
                    progress("Pages", 0, 0)
        except BaseException:
            process.kill()
            raise
    if process.returncode:
        last = said.strip().splitlines()[-1:] or [f"it ended with {process.returncode}"]
        raise ModelError(f"The dossier could not be set in type: {last[0][:300]}.")


def _sections(chapters: list[dict[str, Any]], places: dict[str, tuple[int, float]]) -> Iterator[Section]:
    numbers = {part["anchor"]: number for part, number in numbered(chapters)}
    for chapter in chapters:
        inside: list[tuple[str, int, str, list[Any]]] = [(chapter["anchor"], 1, chapter["title"], [chapter["title"]])]
        for block in chapter["blocks"]:
            if block["kind"] == "heading":
                words = "".join(part["words"] for part in block["words"])
                inside.append((block["anchor"], block["depth"], words, []))
            inside[-1][3].append(block)
        for anchor, depth, title, blocks in inside:
            yield Section(anchor, depth, numbers[anchor], title, *places[anchor], _digest(blocks))
            rows = [row for block in blocks if isinstance(block, dict) for row in _rows(block)]
            for k, (own, cells) in enumerate(rows, 1):
                words = _in_words(cells[0])
                yield Section(own, depth + 1, f"{numbers[anchor]} ({k})", words, *places[own], _digest(cells), True)


def _rows(block: dict[str, Any]) -> Iterator[tuple[str, list[dict[str, Any]]]]:
    """Rows of a table that can be ticked by themselves, with their names."""
    yield from zip(block.get("anchors", ()), block.get("rows", ()), strict=False)


def _digest(what: Any) -> str:
    return hashlib.sha256(json.dumps(what, sort_keys=True).encode()).hexdigest()[:16]


def _in_words(cell: dict[str, Any]) -> str:
    return str(cell["words"]) if "words" in cell else "".join(part["words"] for part in cell["parts"])
