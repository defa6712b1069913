"""./lorica: start, prepare, stop, status, backup, restore, test, report, take, solve, profile, schema, bench, manage, help."""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
from pathlib import Path

from command import backup, check, serve
from command.environment import COMPUTING, PYTHON, ROOT, Stop, ensure_python, say

HEADLESS = {
    "solve": "engine.cli",
    "profile": "engine.cli",
    "schema": "engine.cli",
    "bench": "publish",
    "report": "publish",
    "take": "publish",
}


def main() -> int:
    """Run one command; its exit status."""
    arguments = sys.argv[1:]
    if arguments and arguments[0] in HEADLESS:
        ensure_python(test=False)
        variables = {**os.environ, **COMPUTING, "PYTHONPATH": str(ROOT)}
        return subprocess.run([str(PYTHON), "-m", HEADLESS[arguments[0]], *arguments], env=variables).returncode
    if arguments and arguments[0] == "manage":
        ensure_python(test=False)
        return subprocess.run([str(PYTHON), str(ROOT / "manage.py"), *arguments[1:]], env=serve.serving()).returncode
    parser = argparse.ArgumentParser(prog="./lorica", description="Steel buildings, from set-out to verified frame.")
    commands = parser.add_subparsers(dest="command", required=True)
    start = commands.add_parser("start", help="set up, load the demo and serve")
    start.add_argument("--port", type=int, default=8000)
    start.add_argument("--detach", action="store_true", help="serve in the background")
    commands.add_parser("prepare", help="install and build what serving needs, without starting anything")
    commands.add_parser("stop", help="stop the web server and its database")
    commands.add_parser("status", help="say what runs")
    saving = commands.add_parser("backup", help="write all projects and accounts into a file")
    saving.add_argument("file", type=Path)
    restoring = commands.add_parser("restore", help="bring a backup back into an installation without projects")
    restoring.add_argument("file", type=Path)
    restoring.add_argument("--replace", action="store_true", help="drop what this installation holds")
    test = commands.add_parser("test", help="all checks and tests, or some parts of them")
    test.add_argument("parts", nargs="*", help=f"any of {', '.join(check.PARTS)}")
    for name, text in (
        ("solve", "run the chain on a document, without server and database"),
        ("report", "write the dossier of a document as PDF or spreadsheet, without server and database"),
        ("take", "turn an IFC4, DXF, XLSX or CSV file into a document"),
        ("profile", "say where the time of the chain on a document goes"),
        ("schema", "print the JSON Schema of the document format"),
        ("bench", "time the chain on reference models"),
        ("manage", "Django's manage.py with this machine's settings"),
        ("help", "this list, a line a command"),
    ):
        commands.add_parser(name, help=text)
    chosen = parser.parse_args(arguments)
    if chosen.command == "help":
        for action in commands._choices_actions:
            print(f"  ./lorica {action.dest:<9} {action.help}")
        return 0
    if chosen.command == "start":
        return serve.start(chosen.port, chosen.detach)
    if chosen.command == "prepare":
        return serve.prepare()
    if chosen.command == "backup":
        return backup.backup(chosen.file)
    if chosen.command == "restore":
        return backup.restore(chosen.file, chosen.replace)
    if chosen.command == "stop":
        return serve.stop()
    if chosen.command == "status":
        return serve.status()
    return check.test(chosen.parts)


if __name__ == "__main__":
    try:
        sys.exit(main())
    except Stop as problem:
        say(str(problem))
        sys.exit(1)
    except KeyboardInterrupt:
        sys.exit(130)
