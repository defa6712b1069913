"""The test command: static checks, front-end tests and build, then Django's test runner; one closing line."""

from __future__ import annotations

import json
import os
import re
import subprocess
import time
from pathlib import Path

from command import postgres
from command.environment import (
    LOCAL,
    PYTHON,
    ROOT,
    VENV,
    WEB,
    Stop,
    ensure_front_end,
    ensure_node,
    ensure_python,
    ensure_system,
    ensure_types,
    say,
)
from command.serve import environment

PARTS = ("lint", "web", "engine", "server", "browser", "faults")
#: hours of requests at random, kills and load, in place of the minutes that the parts take of them
LONG = "long"


class Tally:
    """Counts of checks and tests."""

    def __init__(self) -> None:
        self.passed = self.failed = self.skipped = 0

    def check(
        self,
        title: str,
        arguments: list[str],
        folder: Path = ROOT,
        env: dict[str, str] | None = None,
        shown: bool = False,
    ) -> None:
        """A check that passes or fails as a whole. shown: what it says is, also when it passes."""
        start = time.monotonic()
        done = subprocess.run(arguments, cwd=folder, env=env, capture_output=True, text=True)
        seconds = time.monotonic() - start
        good = done.returncode == 0
        self.passed += good
        self.failed += not good
        say(f"{'ok  ' if good else 'FAIL'} {title} ({seconds:.1f} s)")
        if shown or not good:
            print(done.stdout[-8000:] + done.stderr[-4000:], flush=True)

    def django(self, label: str, env: dict[str, str]) -> None:
        """A part of the tests with Django's test runner."""
        start = time.monotonic()
        process = subprocess.Popen(
            [
                *(str(PYTHON), "-W", "error::RuntimeWarning", "manage.py", "test", f"tests.{label}", "--noinput"),
                *(() if label in ("faults", "server.test_fuzz") else ("--parallel", "2")),
            ],
            cwd=ROOT,
            env=env,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
        )
        output = process.communicate()[0]
        ran = re.search(r"^Ran (\d+) tests?", output, re.M)
        counts = {key: int(n) for key, n in re.findall(r"(failures|errors|skipped)=(\d+)", output)}
        bad = counts.get("failures", 0) + counts.get("errors", 0)
        skipped = counts.get("skipped", 0)
        total = int(ran[1]) if ran else 0
        if process.returncode and not bad or not total:
            bad += 1
        self.failed += bad
        self.skipped += skipped
        self.passed += max(total - bad - skipped, 0)
        say(f"{'FAIL' if bad else 'ok  '} {label}: {total} tests ({time.monotonic() - start:.1f} s)")
        if bad:
            # which ones, before as much as may be read of why
            print("\n".join(re.findall(r"^(?:FAIL|ERROR): .*", output, re.M)), flush=True)
            print(output[-12000:], flush=True)

    def vitest(self) -> None:
        """The front end's unit tests."""
        report = LOCAL / "vitest.json"
        report.unlink(missing_ok=True)
        done = subprocess.run(
            ["npx", "vitest", "run", "--reporter=json", f"--outputFile={report}"],
            cwd=WEB,
            capture_output=True,
            text=True,
        )
        if not report.exists():
            self.failed += 1
            say("FAIL front-end unit tests did not run")
            print(done.stdout[-4000:] + done.stderr[-4000:], flush=True)
            return
        data = json.loads(report.read_text())
        self.passed += data["numPassedTests"]
        self.failed += data["numFailedTests"] + (data["numFailedTests"] == 0 and done.returncode != 0)
        self.skipped += data["numPendingTests"]
        say(f"{'FAIL' if done.returncode else 'ok  '} front-end unit tests: {data['numTotalTests']}")
        if done.returncode:
            messages = [m for f in data["testResults"] for a in f["assertionResults"] for m in a["failureMessages"]]
            print("\n".join(messages)[-6000:] or done.stderr[-4000:], flush=True)


def test(parts: list[str]) -> int:
    """Run the parts (all when none is named); 0 when nothing failed."""
    unknown = [part for part in parts if part not in (*PARTS, LONG)]
    if unknown:
        raise Stop(f"There is no part “{unknown[0]}”; there are {', '.join(PARTS)} and {LONG}.")
    chosen = parts or list(PARTS)
    began = time.monotonic()
    ensure_system(
        browser=bool({"browser", "faults", LONG} & set(chosen)), database="LORICA_DATABASE_URL" not in os.environ
    )
    ensure_python(test=True)
    own_database = "LORICA_DATABASE_URL" not in os.environ and not postgres.running()
    variables = {**environment(), "LORICA_LOG": str(LOCAL / "tests.log")}
    tally = Tally()
    tool = VENV / "bin"
    if "lint" in chosen:
        tally.check("formatted (ruff)", [str(tool / "ruff"), "format", "--check", "."])
        tally.check("linted (ruff)", [str(tool / "ruff"), "check", "."])
        tally.check("types of engine and server (mypy)", [str(tool / "mypy")], env=variables)
        tally.check("import contract", [str(tool / "lint-imports")], env=variables)
        deploy = {
            **variables,
            "LORICA_LOCAL": "0",
            "LORICA_HOSTS": "lorica.example",
            "LORICA_HSTS": "31536000",
        }
        tally.check(
            "fit to deploy", [str(PYTHON), "manage.py", "check", "--deploy", "--fail-level", "WARNING"], env=deploy
        )
        tally.check(
            "migrations match models",
            [str(PYTHON), "manage.py", "makemigrations", "--check", "--dry-run"],
            env=variables,
        )
    if {"web", "browser", "server", "faults", LONG} & set(chosen):
        ensure_node()
        ensure_front_end(variables)
    if "web" in chosen:
        ensure_types(variables)
        tally.check("front end in order (prettier, eslint, stylelint)", ["npm", "run", "-s", "lint"], WEB)
        tally.check("front-end types (vue-tsc)", ["npm", "run", "-s", "check"], WEB)
        tally.vitest()
    for label in ("engine", "server", "browser", "faults"):
        if label in chosen:
            tally.django(label, variables)
    if LONG in chosen:
        for label in ("engine.test_together", "server.test_fuzz", "faults"):
            tally.django(label, {**variables, "LORICA_LONG": "1"})
        tally.check("load of an office", [str(PYTHON), "-m", "tests.load", "--check"], env=variables, shown=True)
    if own_database:
        postgres.stop()
    say(f"took {time.monotonic() - began:.0f} s")
    print(f"{tally.passed} passed, {tally.failed} failed, {tally.skipped} skipped", flush=True)
    return 1 if tally.failed else 0
