"""What has to be on the machine: Debian packages, a virtual environment, npm packages, the built front end.

Standard library only: this runs before anything is installed. Every step is idempotent and skipped by a stamp.
"""

from __future__ import annotations

import hashlib
import os
import shutil
import subprocess
import sys
from collections.abc import Iterable
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
LOCAL = ROOT / ".local"
#: where the database, the secret and the logs of this installation are
DATA = Path(os.environ.get("LORICA_DATA") or LOCAL).resolve()
VENV = LOCAL / "venv"
PYTHON = VENV / "bin" / "python"
WEB = ROOT / "web"
#: for whatever computes: the many small products of matrices are slower on two threads than on one; and what arrays give back (up to 256 MB) stays
#: with the process: taking and giving back pages is a tenth of a chain's time
COMPUTING = {
    "OPENBLAS_NUM_THREADS": "1",
    "MALLOC_ARENA_MAX": "1",
    "MALLOC_MMAP_THRESHOLD_": "33554432",
    "MALLOC_TOP_PAD_": "67108864",
    "MALLOC_TRIM_THRESHOLD_": "268435456",
}
#: that can drive the pages, the lighter one first
BROWSERS = (Path("/usr/bin/chromium-headless-shell"), Path("/usr/bin/chromium"))


class Stop(Exception):
    """Something that ends the command, said in one sentence."""


def say(text: str) -> None:
    """A line of progress."""
    print(f"lorica: {text}", flush=True)


def call(arguments: list[str], what: str, **options: object) -> None:
    """Run a program; its output is shown only when it fails."""
    try:
        done = subprocess.run(arguments, capture_output=True, text=True, **options)  # type: ignore[call-overload]
    except FileNotFoundError:
        raise Stop(f"{what} needs the program “{arguments[0]}”, which is not installed.") from None
    if done.returncode:
        tail = "\n".join((done.stdout + done.stderr).strip().splitlines()[-15:])
        raise Stop(f"{what} failed.\n{tail}")


def digest(paths: Iterable[Path]) -> str:
    """Hash of files, and of the files below folders, by name and content."""
    found = hashlib.sha256()
    for path in paths:
        files = sorted(p for p in path.rglob("*") if p.is_file()) if path.is_dir() else [path]
        for file in files:
            found.update(str(file.relative_to(ROOT)).encode())
            found.update(file.read_bytes())
    return found.hexdigest()


def fresh(stamp: str, value: str) -> bool:
    """Whether the stamp already says this value."""
    path = LOCAL / "stamps" / stamp
    return path.exists() and path.read_text() == value


def mark(stamp: str, value: str) -> None:
    """Write the stamp."""
    (LOCAL / "stamps").mkdir(parents=True, exist_ok=True)
    (LOCAL / "stamps" / stamp).write_text(value)


def debian_packages(wanted: dict[str, str]) -> None:
    """Install Debian packages: name -> why it is needed."""
    if not wanted:
        return
    if not shutil.which("apt-get"):
        names = " ".join(wanted)
        raise Stop(f"These programs are missing and apt-get is not here to install them: {names}.")
    root = os.geteuid() == 0
    for name, why in wanted.items():
        say(f"installing Debian's {name}{'' if root else ' (asks for your password through sudo)'}: {why}")
    if not root and not shutil.which("sudo"):
        raise Stop(f"Installing {' '.join(wanted)} needs root, and there is no sudo; install them and start again.")
    prefix = [] if root else ["sudo"]
    environment = {**os.environ, "DEBIAN_FRONTEND": "noninteractive"}
    call([*prefix, "apt-get", "update", "-qq"], "Reading Debian's package lists", env=environment)
    call(
        [*prefix, "apt-get", "install", "-y", "-qq", *wanted],
        f"Installing {' '.join(wanted)}",
        env=environment,
    )


def chromium() -> Path:
    """The browser of the tests: the first that is there, else the one to install."""
    return next((path for path in BROWSERS if path.exists()), BROWSERS[0])


def ensure_system(browser: bool, database: bool) -> None:
    """The Debian packages for serving, and the browser for testing."""
    missing = {}
    if database and not list(Path("/usr/lib/postgresql").glob("*/bin/initdb")):
        missing["postgresql"] = "projects are kept in PostgreSQL"
    if browser and not chromium().exists():
        missing[chromium().name] = "the browser tests drive it"
    debian_packages(missing)
    for tool, why in (("node", "the front end is built with it"), ("npm", "it fetches the front end's packages")):
        if not shutil.which(tool):
            raise Stop(f"{tool} is not installed (Node 20 or newer): {why}.")


def ensure_python(test: bool) -> None:
    """The virtual environment with pinned packages."""
    wanted = ROOT / ("requirements-test.txt" if test else "requirements.txt")
    files = [ROOT / "requirements.txt", *([wanted] if test else [])]
    value = digest(files)
    if PYTHON.exists() and (
        fresh("python-test", digest([*files[:1], ROOT / "requirements-test.txt"])) or fresh("python", value)
    ):
        return
    if not PYTHON.exists():
        say("making a virtual environment")
        call([sys.executable, "-m", "venv", str(VENV)], "Making the virtual environment")
    say(f"installing Python packages from {wanted.name}")
    call([str(PYTHON), "-m", "pip", "install", "-q", "-r", str(wanted)], "Installing Python packages")
    mark("python-test" if test else "python", value)


def ensure_node() -> None:
    """The npm packages of the lock file."""
    value = digest([WEB / "package-lock.json"])
    if fresh("node", value) and (WEB / "node_modules").exists():
        return
    say("installing npm packages from the lock file")
    call(["npm", "ci", "--no-audit", "--no-fund"], "Installing npm packages", cwd=WEB)
    mark("node", value)


def ensure_types(environment: dict[str, str]) -> None:
    """TypeScript types of the API, from its OpenAPI description, from the engine's types."""
    call(
        [str(PYTHON), "manage.py", "export_openapi_schema", "--api", "server.api.api", "--output", "web/openapi.json"],
        "Describing the API",
        cwd=ROOT,
        env=environment,
    )
    call(["npm", "run", "-s", "types"], "Generating TypeScript types", cwd=WEB)


def ensure_front_end(environment: dict[str, str]) -> None:
    """The built front end, collected and compressed."""
    parts = [
        WEB / "src",
        WEB / "index.html",
        WEB / "vite.config.ts",
        WEB / "package-lock.json",
        ROOT / "engine",
        ROOT / "server",
    ]
    value = digest(p for part in parts for p in ([part] if part.is_file() else _sources(part)))
    if fresh("front-end", value) and (LOCAL / "static").exists():
        return
    say("building the front end")
    ensure_types(environment)
    call(["npm", "run", "-s", "build"], "Building the front end", cwd=WEB)
    call(
        [str(PYTHON), "manage.py", "collectstatic", "--noinput", "--clear", "-v0"],
        "Collecting static files",
        cwd=ROOT,
        env=environment,
    )
    mark("front-end", value)


def _sources(folder: Path) -> list[Path]:
    kinds = {".py", ".ts", ".vue", ".css", ".html", ".svg", ".csv"}
    return sorted(p for p in folder.rglob("*") if p.suffix in kinds and p.name != "schema.d.ts")
