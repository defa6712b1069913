"""Headless use: solve a document, print the schema, run the bench."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

import orjson

from engine.bench import bench
from engine.chain import run
from engine.document import Document, read_document
from engine.errors import ModelError
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
    commands.add_parser("schema", help="print the JSON Schema of the document format")
    commands.add_parser("bench", help="time the chain on reference models")
    chosen = parser.parse_args(arguments)
    if chosen.command == "schema":
        print(json.dumps(Document.model_json_schema(), indent=2))
    elif chosen.command == "bench":
        print(bench())
    else:
        return _solve(chosen.model, chosen.out, chosen.full, chosen.lateral)
    return 0


def _solve(model: Path, out: Path | None, full: bool, lateral: bool) -> int:
    try:
        document = read_document(json.loads(model.read_text()))
        text = orjson.dumps(result(run(document), full, lateral), option=orjson.OPT_INDENT_2).decode()
    except OSError as error:
        print(f"lorica: cannot read {model}: {error.strerror}", file=sys.stderr)
        return 2
    except json.JSONDecodeError as error:
        print(f"lorica: {model} is not JSON: {error}", file=sys.stderr)
        return 2
    except ModelError as error:
        print(f"lorica: {error.message}", file=sys.stderr)
        return 2
    if out:
        out.write_text(text + "\n")
    else:
        print(text)
    return 0


if __name__ == "__main__":
    sys.exit(main())
