"""Headless: a document to its dossier, an IFC file to a document."""

from __future__ import annotations

import argparse
import datetime
import json
import sys
import uuid
from pathlib import Path

from engine.chain import prepare, run
from engine.cli import refused
from engine.document import read_document
from engine.document.reading import read_json
from engine.dossier.compose import compose
from engine.errors import ModelError
from publish.bench import whole_bench
from publish.dxf import dxf
from publish.ifc import ifc, taken
from publish.sheets import workbook
from publish.typeset import typeset

WRITERS = {".pdf": lambda dossier: typeset(dossier).pdf, ".xlsx": workbook, ".dxf": dxf}


def main(arguments: list[str] | None = None) -> int:
    """Write a report; 0 when it worked, 2 for input that cannot be computed."""
    parser = argparse.ArgumentParser(prog="lorica", description="The dossier of a document.")
    commands = parser.add_subparsers(dest="command", required=True)
    report = commands.add_parser("report", help="write the dossier of a document")
    report.add_argument("model", type=Path, help="document in Lorica's JSON format")
    report.add_argument(
        "--out",
        type=Path,
        required=True,
        help="where to write it: a .pdf, an .xlsx with its tables, a .dxf with its drawings, or an .ifc of the model",
    )
    take = commands.add_parser("take", help="turn an IFC file into a document")
    take.add_argument("file", type=Path, help="IFC4; - for standard input")
    take.add_argument("--out", type=Path, help="where to write the document (default: all that is said of it, as JSON)")
    commands.add_parser("bench", help="time the chain and a dossier on reference models")
    chosen = parser.parse_args(arguments)
    if chosen.command == "bench":
        print(whole_bench())
        return 0
    if chosen.command == "take":
        return _take(chosen.file, chosen.out)
    if chosen.out.suffix not in (*WRITERS, ".ifc"):
        return refused(f"{chosen.out}: the name must end in {', '.join(WRITERS)} or .ifc")
    try:
        text = chosen.model.read_bytes()
    except OSError as error:
        return refused(f"cannot read {chosen.model}: {error.strerror}")
    try:
        # what cannot be written is found before anything is computed
        chosen.out.open("ab").close()
        today = datetime.date.today()
        document = read_document(read_json(text))
        made = f"made {today.day} {today:%b %Y}"
        if chosen.out.suffix == ".ifc":
            space = uuid.uuid5(uuid.NAMESPACE_URL, document.name)
            chosen.out.write_bytes(ifc(prepare(document), document.name, space, chosen.model.name))
            return 0
        dossier = compose(run(document), document.dossier, revision=chosen.model.name, made=made)
        chosen.out.write_bytes(WRITERS[chosen.out.suffix](dossier))
    except ModelError as error:
        return refused(error.message if error.place else f"{chosen.model}: {error.message}")
    except OSError as error:
        return refused(f"cannot write {chosen.out}: {error.strerror}")
    return 0


def _take(file: Path, out: Path | None) -> int:
    """A document from an IFC file; what was guessed and left out goes to standard error."""
    try:
        found = taken(sys.stdin.buffer.read() if str(file) == "-" else file.read_bytes())
        read_document(found.document)
    except OSError as error:
        return refused(f"cannot read {file}: {error.strerror}")
    except ModelError as error:
        return refused(error.message)
    if out is None:
        print(json.dumps(vars(found)))
        return 0
    for word, said in (("understood", found.understood), ("guessed", found.guessed), ("left out", found.left_out)):
        for words in said:
            print(f"{word}: {words}", file=sys.stderr)
    try:
        out.write_text(json.dumps(found.document, indent=1))
    except OSError as error:
        return refused(f"cannot write {out}: {error.strerror}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
