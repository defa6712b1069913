"""Headless: a document to its dossier, or to files of others."""

from __future__ import annotations

import argparse
import datetime
import uuid
from collections.abc import Callable
from pathlib import Path

from engine.chain import Loaded, prepare, run
from engine.document import read_document
from engine.document.reading import read_json
from engine.dossier.compose import compose
from engine.errors import ModelError, refused
from publish.bench import whole_bench
from publish.dxf.axes import axes
from publish.dxf.drawings import dxf
from publish.ifc.out import ifc
from publish.tables.dossier import workbook
from publish.tables.model import model_workbook
from publish.typeset import typeset
from publish.webpage import webpage
from publish.word.document import word

WRITERS = {
    ".pdf": lambda dossier: typeset(dossier).pdf,
    ".html": webpage,
    ".docx": word,
    ".xlsx": workbook,
    ".dxf": dxf,
}
#: of the model in place of its dossier
MODEL_WRITERS: dict[str, Callable[[Loaded, str, str], bytes]] = {
    ".ifc": lambda loaded, name, of: ifc(loaded, name, uuid.uuid5(uuid.NAMESPACE_URL, name), of),
    ".model.xlsx": lambda loaded, name, of: model_workbook(loaded),
    ".axes.dxf": lambda loaded, name, of: axes(loaded.structure),
}


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
        help="where to write it: a .pdf, one .html page, a .docx, an .xlsx with its tables, a .dxf with its drawings; or the model itself as .ifc, .model.xlsx or "
        ".axes.dxf",
    )
    commands.add_parser("bench", help="time the chain and a dossier on reference models")
    chosen = parser.parse_args(arguments)
    if chosen.command == "bench":
        print(whole_bench())
        return 0
    of_model = next((write for end, write in MODEL_WRITERS.items() if chosen.out.name.endswith(end)), None)
    if chosen.out.suffix not in WRITERS and of_model is None:
        return refused(f"{chosen.out}: the name must end in {', '.join(WRITERS)} or {', '.join(MODEL_WRITERS)}")
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
        if of_model is not None:
            chosen.out.write_bytes(of_model(prepare(document), document.name, chosen.model.name))
            return 0
        dossier = compose(run(document), document.dossier, revision=chosen.model.name, made=made)
        chosen.out.write_bytes(WRITERS[chosen.out.suffix](dossier))
    except ModelError as error:
        return refused(error.message if error.place else f"{chosen.model}: {error.message}")
    except OSError as error:
        return refused(f"cannot write {chosen.out}: {error.strerror}")
    return 0
