"""Two builds of the program on one database: the old one notices, ends its work and goes; the new one does what is left, once."""

import json
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from django.test import SimpleTestCase

from command.environment import COMPUTING, ROOT
from engine.chain import run
from engine.document import Document
from engine.document.jigs import HallJig
from tests.faults.installation import Installation, Visitor, until

LOOK = """
import json
from server.projects import builds, runs
from server.projects.models import Project, Run
found = {}
for project in Project.objects.exclude(name__startswith="Demo").filter(name__startswith="Build"):
    chain = runs.chain_of(project, project.head, patience=120)
    rows = list(Run.objects.filter(project=project).values_list("build", "state"))
    found[project.name] = {
        "worst": chain.verification.worst,
        "own": sum(build == builds.own() and state == "done" for build, state in rows),
        "all": len(rows),
        "active": sum(state in Run.ACTIVE for _, state in rows),
    }
print("FOUND" + json.dumps(found))
"""


def short_hall(name: str, eaves: float) -> Document:
    document = Document(name=name, hall=HallJig(spacings=[6.0, 6.0], eaves_height=eaves))
    document.wind.inside.kind, document.wind.inside.values = "own", [0.2]
    return document


class OtherBuild:
    """A copy of the program that differs by a remark, on the database of an installation."""

    def __init__(self, place: Installation) -> None:
        self.root = Path(tempfile.mkdtemp(prefix="lorica-build-"))
        for name in ("engine", "publish", "server", "climate", "manage.py"):
            source = ROOT / name
            copy = shutil.copytree if source.is_dir() else shutil.copy
            copy(source, self.root / name)
        with (self.root / "engine" / "__init__.py").open("a") as file:
            file.write("\n# another build\n")
        self.environment = {
            **{key: value for key, value in os.environ.items() if not key.startswith("LORICA_")},
            **COMPUTING,
            "LORICA_LOCAL": "1",
            "LORICA_WORKERS": "1",
            "LORICA_SECRET": (place.folder / "secret").read_text(),
            "LORICA_DATABASE_URL": place.database_url(),
            "PYTHONPATH": str(self.root),
        }
        self.workers: subprocess.Popen[bytes] | None = None

    def manage(self, *arguments: str) -> str:
        done = subprocess.run(
            [sys.executable, "manage.py", *arguments],
            cwd=self.root,
            env=self.environment,
            capture_output=True,
            text=True,
            timeout=300,
        )
        if done.returncode:
            raise AssertionError(done.stdout[-2000:] + done.stderr[-3000:])
        return done.stdout

    def start_workers(self) -> None:
        command = [sys.executable, "manage.py", "work", "--processes", "1"]
        self.workers = subprocess.Popen(command, cwd=self.root, env=self.environment, stderr=subprocess.DEVNULL)

    def remove(self) -> None:
        if self.workers:
            self.workers.terminate()
            self.workers.wait(60)
        shutil.rmtree(self.root)


def lives(pid: int) -> bool:
    try:
        # one that has ended and is waited for by nobody counts as gone
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


class TwoBuilds(SimpleTestCase):
    def test_the_old_build_goes_and_the_new_one_computes_each_result_once(self):
        place = Installation()
        self.addCleanup(place.remove)
        place.start()
        visitor = Visitor(place)
        documents = [short_hall(f"Build {k}", 6.0 + k / 10) for k in range(3)]
        projects = []
        for document in documents:
            status, project = visitor.ask("projects/import", "POST", document.model_dump(mode="json"))
            self.assertEqual(status, 201)
            projects.append(project["id"])
        # the first is computed by the old build, the others may be under way when it is replaced
        until(lambda: visitor.ask(f"projects/{projects[0]}/chain?wait=1")[0] == 200, "the first chain came", 90)
        old = [place.pid(name) for name in ("web", "workers")]
        other = OtherBuild(place)
        self.addCleanup(other.remove)
        other.manage("set_up")
        for pid in old:
            until(lambda pid=pid: not lives(pid), "the old build went", 60)
        self.assertEqual(visitor.ask(f"projects/{projects[0]}")[0], 0)
        other.start_workers()
        told = json.loads(other.manage("shell", "-v0", "-c", LOOK).split("FOUND")[1])
        self.assertEqual(set(told), {d.name for d in documents})
        for document in documents:
            found = told[document.name]
            self.assertAlmostEqual(found["worst"], run(document).verification.worst, places=9)
            # one by the new build; beside it at most one that the old build did or left
            self.assertEqual(found["own"], 1, found)
            self.assertLessEqual(found["all"], 2, found)
            self.assertEqual(found["active"], 0, found)
