"""Headless use: solve a document, say where its time goes, print the schema."""

from __future__ import annotations

import argparse
import cProfile
import json
import pstats
import sys
from pathlib import Path

import orjson

from engine.chain import run
from engine.document import Document, read_document
from engine.document.reading import read_json
from engine.errors import ModelError, refused
from engine.result import result


def main(arguments: list[str] | None = None) -> int:
    """Run a command; 0 when it worked, 2 for input that cannot be computed."""
    parser = argparse.ArgumentParser(prog="lorica", description="Lorica without server and database.")
    commands = parser.add_subparsers(dest="command", required=True)
    solve = commands.add_parser("solve", help="run the chain on a document")
    solve.add_argument("model", type=Path, help="document in Lorica's JSON format")
    solve.add_argument("--out", type=Path, help="where to write the result (default: standard output)")
    solve.add_argument("--full", action="store_true", help="state every generated combination as well")
    solve.add_argument(
        "--lateral", action="store_true", help="add the factors at which members buckle sideways in each state"
    )
    profile = commands.add_parser("profile", help="say where the time of the chain on a document goes")
    profile.add_argument("model", type=Path, help="document in Lorica's JSON format")
    profile.add_argument("--lines", type=int, default=25, help="functions to list")
    commands.add_parser("schema", help="print the JSON Schema of the document format")
    chosen = parser.parse_args(arguments)
    if chosen.command == "schema":
        print(json.dumps(Document.model_json_schema(), indent=2))
    elif chosen.command == "profile":
        return _profile(chosen.model, chosen.lines)
    else:
        return _solve(chosen.model, chosen.out, chosen.full, chosen.lateral)
    return 0


def _profile(model: Path, lines: int) -> int:
    """Print seconds by stage, then the functions that take most of one thread's time, their own apart from what they call."""
    try:
        document = read_document(read_json(model.read_bytes()))
        # what is read once, catalogues and compiled parts, is no part of it
        run(document)
        watch = cProfile.Profile()
        chain = watch.runcall(run, document)
    except OSError as error:
        return refused(f"cannot read {model}: {error.strerror}")
    except ModelError as error:
        return refused(error.message if error.place else f"{model}: {error.message}")
    for stage, seconds in chain.seconds.items():
        print(f"{stage:>14} {seconds:8.3f} s")
    pstats.Stats(watch).strip_dirs().sort_stats("tottime").print_stats(lines)
    return 0


def _solve(model: Path, out: Path | None, full: bool, lateral: bool) -> int:
    try:
        text = model.read_bytes()
    except OSError as error:
        return refused(f"cannot read {model}: {error.strerror}")
    if out:
        try:
            # what cannot be written is found before anything is computed
            out.open("ab").close()
        except OSError as error:
            return refused(f"cannot write {out}: {error.strerror}")
    try:
        chain = run(read_document(read_json(text)))
        found = orjson.dumps(result(chain, full, lateral), option=orjson.OPT_INDENT_2) + b"\n"
    except ModelError as error:
        return refused(error.message if error.place else f"{model}: {error.message}")
    if not out:
        print(found.decode(), end="")
        return 0
    try:
        out.write_bytes(found)
    except OSError as error:
        return refused(f"cannot write {out}: {error.strerror}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
