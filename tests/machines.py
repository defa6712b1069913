"""What a second machine gives a study: the same set-outs sized by the workers of one machine, then by those of two.

    python -m tests.machines [--set-outs 12]

Each machine is a group of workers of its own, as `manage.py work` starts them beside the same database, kept to one processor of this one.
"""

from __future__ import annotations

import argparse
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager

from command.environment import ROOT
from engine.demo import drying_hall
from engine.document import Document
from tests.faults.installation import Installation, Visitor, until

#: seconds that a study may take
LONG = 1800.0


@contextmanager
def machines(place: Installation, count: int) -> Iterator[list[subprocess.Popen[bytes]]]:
    """So many groups of one worker, each on a processor of its own, in place of the installation's workers."""
    groups = []
    for processor in sorted(os.sched_getaffinity(0))[:count]:
        command = [str(ROOT / "lorica"), "manage", "work", "--processes", "1"]
        groups.append(
            subprocess.Popen(
                ["taskset", "-c", str(processor), *command],
                env=place.environment,
                start_new_session=True,
                stdout=subprocess.DEVNULL,
                stderr=subprocess.DEVNULL,
            )
        )
    try:
        yield groups
    finally:
        for group in groups:
            os.killpg(group.pid, 15)
        for group in groups:
            group.wait(30)


def project(visitor: Visitor, document: Document) -> str:
    """A new project of a document."""
    status, own = visitor.ask("projects/import", "POST", document.model_dump(mode="json"))
    if status != 201:
        raise RuntimeError(f"import: {status} {own}")
    return str(own["id"])


def studied(visitor: Visitor, own: str, ranges: dict[str, list[object]]) -> tuple[float, list[dict]]:
    """Seconds that a study of a project takes until all its set-outs have ended, and these."""
    began = time.monotonic()
    status, told = visitor.ask(f"projects/{own}/study", "POST", {"base": 1, "ranges": ranges})
    if status != 202:
        raise RuntimeError(f"study: {status} {told}")
    count = len(told["points"])
    found = until(lambda: _ended(visitor, own, count), "every set-out ended", LONG)
    return time.monotonic() - began, found


def _ended(visitor: Visitor, own: str, count: int) -> list[dict]:
    told = visitor.ask(f"projects/{own}/study")[1]
    return told["points"] if told["done"] >= count else []


def main() -> int:
    """Measure and say it; 1 where two machines give less than they should."""
    parser = argparse.ArgumentParser()
    parser.add_argument("--set-outs", type=int, default=12)
    count = parser.parse_args().set_outs
    place = Installation()
    try:
        place.start()
        os.killpg(place.pid("workers"), 15)
        visitor = Visitor(place)
        ranges: dict[str, list[object]] = {"pitch": [round(4 + 12 * k / max(count - 1, 1), 2) for k in range(count)]}
        took, results = [], []
        for number in (1, 2):
            own = project(visitor, drying_hall())
            with machines(place, number):
                seconds, points = studied(visitor, own, ranges)
            took.append(seconds)
            results.append(sorted((str(p["values"]), p["state"], p["tonnage"]) for p in points))
            print(f"{len(points)} set-outs by {number} machine{'s' if number > 1 else ''}: {seconds:.0f} s", flush=True)
        print(f"two take {took[1] / took[0]:.2f} of the time of one; the same set-outs: {results[0] == results[1]}")
        return 0 if took[1] < 0.65 * took[0] and results[0] == results[1] else 1
    finally:
        place.remove()


if __name__ == "__main__":
    sys.exit(main())
