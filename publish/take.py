"""Any file of others to what it becomes, by what it begins with."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

import numpy as np

from engine.document import read_document
from engine.document.units import in_kilonewtons
from engine.errors import ModelError, refused
from publish.picture import picture
from publish.taken import Settled, Taken

KINDS = "IFC4, DXF, a spreadsheet (.xlsx) or a table (.csv)"


def main(arguments: list[str]) -> int:
    """From the command line; what was guessed and left out goes to standard error. 0 when it worked, 2 for a file that cannot be used."""
    parser = argparse.ArgumentParser(prog="lorica", description="A file of others as a document.")
    commands = parser.add_subparsers(dest="command", required=True)
    taking = commands.add_parser("take", help="turn a file of others into a document")
    taking.add_argument("file", type=Path, help=f"{KINDS}; - for standard input")
    taking.add_argument(
        "--out", type=Path, help="where to write the document (default: all that is said of it, as JSON)"
    )
    taking.add_argument("--name", default="", help="name of the file, where it comes by standard input")
    settled = 'what is settled of it, as JSON: [{"of": layer or sheet, "field": …, "value": …}]'
    taking.add_argument("--settled", default="[]", help=settled)
    chosen = parser.parse_args(arguments)
    return _taken(chosen.file, chosen.name or chosen.file.name, chosen.settled, chosen.out)


def _taken(file: Path, name: str, settled: str, out: Path | None) -> int:
    """A document from a file of others; what was guessed and left out goes to standard error."""
    try:
        own = {(one["of"], one["field"]): str(one["value"]) for one in json.loads(settled)}
    except (ValueError, TypeError, KeyError):
        return refused("what is settled is a list of objects with “of”, “field” and “value”")
    try:
        found = take(sys.stdin.buffer.read() if str(file) == "-" else file.read_bytes(), name, own)
        if found.problems and out is not None:
            return refused(found.problems[0])
    except OSError as error:
        return refused(f"cannot read {file}: {error.strerror}")
    except ModelError as error:
        return refused(error.message)
    if out is None:
        print(found.model_dump_json())
        return 0
    for word, said in (("understood", found.understood), ("guessed", found.guessed), ("left out", found.left_out)):
        for words in said:
            print(f"{word}: {words}", file=sys.stderr)
    try:
        out.write_text(json.dumps(found.document, indent=1))
    except OSError as error:
        return refused(f"cannot write {out}: {error.strerror}")
    return 0


def take(data: bytes, name: str, settled: Settled) -> Taken:
    """The document that a file becomes, and a picture of it; what cannot be a document is told among the problems. name: of the file.
    Raises ModelError with one sentence for what is none of the kinds that are read, or cannot be read as what it is."""
    if not data.strip():
        raise ModelError("The file is empty.")
    found = _by_kind(data, name, settled)
    if found.document:
        remark = "\n\n".join([f"Taken in from {name[-120:]}.", *_told(found)])[:4000]
        found.document["dossier"] = {"chapters": {"basis": {"remark": remark}}}
    if found.document and not found.problems:
        try:
            document = read_document(found.document)
        except ModelError as error:
            found.problems.append(error.message)
        else:
            # whoever adds parts of it to a project states forces in kilonewtons
            if document.units != "kN, m":
                stated = in_kilonewtons(document).model_dump(mode="json", exclude_defaults=True)
                found.document = {"version": document.version, **stated}
    found.lines = _picture(found)
    return found


def _by_kind(data: bytes, name: str, settled: Settled) -> Taken:
    # each reader brings a library of its own, which takes longer to import than a file takes to read
    stem, _, kind = name.rpartition(".")
    stem, kind, head = stem or name, kind.lower(), data[:200].lstrip()
    if head.startswith(b"ISO-10303-21") or kind == "ifc":
        from publish.ifc.taken import taken as ifc_taken

        return ifc_taken(data, settled)
    drawing = kind == "dxf" or b"Binary DXF" in data[:32] or (head.startswith(b"0") and b"SECTION" in data[:200])
    if drawing and not data.startswith(b"PK"):
        from publish.dxf.taken import taken as drawing_taken

        return drawing_taken(data, settled, stem)
    if data.startswith(b"PK\x03\x04") or kind in ("xlsx", "xlsm", "csv", "txt", "tsv"):
        from publish.tables.taken import taken as tables_taken

        return tables_taken(data, settled, stem)
    raise ModelError(f"The file is none that can be taken in; {KINDS} can.")


def _told(found: Taken) -> list[str]:
    """What the dossier says of where the model comes from."""
    parts = (("Guessed", found.guessed), ("Left out", found.left_out))
    return [f"{word}: {' '.join(lines)}" for word, lines in parts if lines]


def _picture(found: Taken) -> str:
    places = {node["name"]: node["at"] for node in found.document.get("nodes", ())}
    ends = [[places.get(m["start"]), places.get(m["end"])] for m in found.document.get("members", ())]
    known = np.array([pair for pair in ends if None not in pair], dtype=float).reshape(-1, 2, 3)
    return picture(known, np.zeros(len(known), dtype=bool))[0]
