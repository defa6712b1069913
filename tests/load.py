"""How an installation bears an office: designers who edit halls of their own, each once in a while, on this machine alone.

    python -m tests.load [--designers 50] [--seconds 120] [--every 30] [--heavy]

With --heavy it is measured twice, the second time beside somebody who does nothing but edit a building that takes long.
Says how long edits and fresh verdicts took, how many answers were errors, and how much memory the processes hold at rest.
"""

from __future__ import annotations

import argparse
import os
import random
import statistics
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path
from threading import Thread

from engine.bench import portal_hall
from engine.document import Document
from engine.document.jigs import HallJig
from tests.faults.installation import Installation, Visitor, children

PASSWORD = "gusset-plate-7"


@dataclass
class Measured:
    """Seconds that edits and fresh verdicts took; answers that were neither; verdicts that did not come."""

    edits: list[float] = field(default_factory=list)
    verdicts: list[float] = field(default_factory=list)
    errors: list[str] = field(default_factory=list)
    memory: dict[str, float] = field(default_factory=dict)
    processor: dict[str, float] = field(default_factory=dict)

    def late(self, values: list[float]) -> float:
        """The 95th percentile."""
        return statistics.quantiles(values, n=20)[-1] if len(values) > 1 else max(values, default=float("nan"))

    def middle(self) -> float:
        """The median of the fresh verdicts."""
        return statistics.median(self.verdicts) if self.verdicts else float("nan")

    def missed(self) -> list[str]:
        """Which of the aims are missed, in words."""
        aims = [
            ("95 % of the edits below 0.6 s", self.late(self.edits) < 0.6),
            ("95 % of the verdicts below 3 s", self.late(self.verdicts) < 3.0),
            ("no errors", not self.errors),
            ("web processes below 500 MB", all(v < 500 for k, v in self.memory.items() if k.startswith("web"))),
            ("workers below 1000 MB", all(v < 1000 for k, v in self.memory.items() if k.startswith("worker"))),
        ]
        return [words for words, met in aims if not met]

    def words(self) -> str:
        lines = [
            f"{name}: {len(values)}, median {statistics.median(values):.2f} s, 95 % below {self.late(values):.2f} s,"
            f" slowest {max(values):.2f} s"
            for name, values in (("edits", self.edits), ("fresh verdicts", self.verdicts))
            if values
        ]
        lines.append(f"errors: {len(self.errors)}" + (f", first: {self.errors[0]}" if self.errors else ""))
        lines += [
            f"{name}: {s / len(self.edits):.2f} s of processor for each edit" for name, s in self.processor.items()
        ]
        lines += [f"{name} at rest: {megabytes:.0f} MB" for name, megabytes in self.memory.items()]
        return "\n".join(lines)


def changes(rng: random.Random) -> Iterator[tuple[str, object]]:
    """What a designer changes from edit to edit: geometry, sections, site, rules."""
    choices: list[tuple[str, list[object]]] = [
        ("hall.sections.columns", ["HEA 400", "HEA 450", "HEA 500", "HEB 400"]),
        ("hall.sections.rafters", ["IPE 500", "IPE 550", "IPE 600"]),
        ("hall.eaves_height", [5.5, 6.0, 6.25, 6.5, 7.0]),
        ("hall.bays.0.pitch", [6.0, 8.0, 10.0, 12.0]),
        ("hall.purlins.spacing", [1.5, 1.8, 2.0]),
        ("site.ground_snow", [0.7, 0.9, 1.1]),
        ("site.wind_speed", [24.0, 25.0, 26.0]),
        ("rules.rafter_deflection_ratio", [180.0, 200.0, 220.0, 250.0]),
        ("rules.eaves_sway_ratio", [120.0, 150.0, 180.0]),
    ]
    while True:
        path, values = rng.choice(choices)
        yield path, rng.choice(values)


def people(place: Installation, number: int) -> None:
    """Make accounts designer-0, designer-1, …"""
    program = (
        "from django.contrib.auth.models import User\n"
        f"for i in range({number}):\n"
        f"    User.objects.create_user(f'designer-{{i}}', password={PASSWORD!r})\n"
    )
    place.command("manage", "shell", "-v0", "-c", program)


@dataclass
class Designer:
    """Somebody signed in with a hall of one's own, and the revision that stands."""

    visitor: Visitor
    project: str
    base: int
    rng: random.Random


def arrived(place: Installation, number: int, document: Document | None = None) -> Designer:
    """A designer whose hall is there and computed."""
    visitor = Visitor(place, f"designer-{number}", PASSWORD)
    if document is None:
        document = Document(name=f"Hall {number}", hall=HallJig())
        document.site.altitude = 300.0 + number
    status, project = visitor.ask("projects/import", "POST", document.model_dump(mode="json"))
    if status != 201:
        raise RuntimeError(f"import: {status} {project}")
    own = Designer(visitor, project["id"], project["revision"]["number"], random.Random(number))
    _verdicts(own, time.monotonic(), Measured())
    return own


def work(own: Designer, end: float, every: float, found: Measured) -> None:
    """Edit until the end, and wait for each edit's verdicts as the page does."""
    time.sleep(own.rng.uniform(0, every))
    for path, value in changes(own.rng):
        if time.monotonic() > end:
            return
        began = time.monotonic()
        status, answer = own.visitor.edit(own.project, own.base, path, value)
        found.edits.append(time.monotonic() - began)
        if status != 200:
            found.errors.append(f"edit: {status} {answer}")
        else:
            new, own.base = answer["revision"]["number"] != own.base, answer["revision"]["number"]
            if new:
                _verdicts(own, began, found)
        time.sleep(max(began + every * own.rng.uniform(0.7, 1.3) - time.monotonic(), 0.0))


def _verdicts(own: Designer, began: float, found: Measured) -> None:
    at = f"projects/{own.project}"
    while time.monotonic() - began < 120:
        status, answer = own.visitor.ask(f"{at}/chain?revision={own.base}&wait=2")
        if status == 200:
            found.verdicts.append(time.monotonic() - began)
            status, answer = own.visitor.ask(f"{at}/diagrams?plane=frame-2&revision={own.base}")
            if status != 200:
                found.errors.append(f"diagrams: {status} {answer}")
            return
        if status != 202:
            found.errors.append(f"chain: {status} {answer}")
            return
    found.errors.append("verdicts did not come within 120 s")


def processor(place: Installation) -> dict[str, float]:
    """Seconds of processor that web, workers and database have taken so far."""
    roots = {"web": place.pid("web"), "workers": place.pid("workers"), "database": place.postmaster()}
    return {name: sum(_seconds(pid) for pid in (root, *children(root))) for name, root in roots.items()}


def _seconds(pid: int) -> float:
    fields = Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()
    # user, system, and those of children that have ended
    return sum(map(int, fields[11:15])) / os.sysconf("SC_CLK_TCK")


def memory(place: Installation) -> dict[str, float]:
    """MB that each web process and each worker holds."""
    named = {"web process": children(place.pid("web")), "worker": children(place.pid("workers"))}
    return {f"{name} {i + 1}": _resident(pid) for name, pids in named.items() for i, pid in enumerate(pids)}


def _resident(pid: int) -> float:
    return int(Path(f"/proc/{pid}/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE") / 1e6


def measure(place: Installation, designers: int, seconds: float, every: float) -> Measured:
    """Let designers work for some time."""
    people(place, designers)
    return at_work(place, [arrived(place, i) for i in range(designers)], seconds, every)


def beside_a_heavy_one(place: Installation, designers: int, seconds: float, every: float) -> tuple[Measured, Measured]:
    """The same twice, then beside one more who edits a building that takes long, again and again."""
    people(place, designers + 1)
    office = [arrived(place, i) for i in range(designers)]
    alone = at_work(place, office, seconds, every)
    heavy = portal_hall(40, 2)
    heavy.name = "Heavy"
    own = arrived(place, designers, heavy)
    end = time.monotonic() + seconds
    busy = Thread(target=work, args=(own, end, 0.1, Measured()))
    busy.start()
    both = at_work(place, office, seconds, every)
    busy.join()
    return alone, both


def at_work(place: Installation, office: list[Designer], seconds: float, every: float) -> Measured:
    """What these designers find while they work."""
    found = Measured()
    before = processor(place)
    end = time.monotonic() + seconds
    threads = [Thread(target=work, args=(own, end, every, found)) for own in office]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    found.processor = {name: now - before[name] for name, now in processor(place).items()}
    time.sleep(3)
    found.memory = memory(place)
    return found


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--designers", type=int, default=50)
    parser.add_argument("--seconds", type=float, default=120)
    parser.add_argument("--every", type=float, default=30)
    parser.add_argument("--heavy", action="store_true", help="measure again beside a heavy project")
    parser.add_argument("--check", action="store_true", help="fail beyond the limits of docs/reliability.md")
    given = parser.parse_args()
    place = Installation()
    try:
        place.start()
        if given.heavy:
            alone, found = beside_a_heavy_one(place, given.designers, given.seconds, given.every)
            print(f"alone:\n{alone.words()}\n\nbeside a heavy project:")
            print(f"median of fresh verdicts × {found.middle() / alone.middle():.2f}")
        else:
            found = measure(place, given.designers, given.seconds, given.every)
        print(found.words())
        if given.check and (missed := found.missed()):
            raise SystemExit("beyond the limits: " + ", ".join(missed))
    finally:
        place.remove()


if __name__ == "__main__":
    main()
