"""backup and restore: everything that people made, in one file of PostgreSQL's own format.

Left out, because it is made again or must not be carried around: results and runs, the queue, sessions, and the secret of the
installation, which is no part of its data.
"""

from __future__ import annotations

import os
import subprocess
from pathlib import Path
from urllib.parse import unquote, urlsplit

from command import postgres, serve
from command.environment import PYTHON, ROOT, Stop, call, ensure_python, ensure_system, say

LEFT_OUT = (
    "projects_result",
    "projects_resultpart",
    "projects_run",
    "projects_dossierfile",
    "projects_installed",
    "procrastinate_jobs",
    "procrastinate_events",
    "procrastinate_workers",
    "procrastinate_periodic_defers",
    "django_session",
    "axes_*",
)


def backup(file: Path) -> int:
    """Write a backup; edits may go on meanwhile, and are in it as far as they were stored when it began."""
    variables = _database()
    part = file.with_name(file.name + ".part")
    part.touch(mode=0o600)
    left_out = [f"--exclude-table-data={name}" for name in LEFT_OUT]
    _postgres("pg_dump", variables, "--format=custom", "--no-owner", "--no-privileges", *left_out, f"--file={part}")
    _postgres("pg_restore", variables, "--list", str(part))
    with part.open("rb") as written:
        os.fsync(written.fileno())
    part.replace(file)
    say(f"backed up to {file} ({file.stat().st_size / 1e6:.1f} MB)")
    return 0


def restore(file: Path, replace: bool) -> int:
    """Bring a backup back into an installation that holds no projects, or in place of all that it holds; an older one is upgraded."""
    if not file.is_file():
        raise Stop(f"There is no file {file}.")
    if serve.running():
        raise Stop("The server is running; stop it first (./lorica stop).")
    ensure_system(browser=False, database="LORICA_DATABASE_URL" not in os.environ)
    ensure_python(test=False)
    variables = _database()
    _postgres("pg_restore", variables, "--list", str(file))
    held = _query(variables, "SELECT count(*) FROM projects_project") if _has_projects(variables) else "0"
    if held != "0" and not replace:
        raise Stop(f"This installation holds {held} projects. With --replace they are dropped for those of the backup.")
    _query(variables, "DROP SCHEMA public CASCADE")
    _query(variables, "CREATE SCHEMA public")
    _postgres(
        "pg_restore", variables, "--no-owner", "--no-privileges", "--exit-on-error", "--single-transaction",
        f"--dbname={variables['PGDATABASE']}", str(file),
    )  # fmt: skip
    settings = serve.serving()
    call([str(PYTHON), "manage.py", "migrate", "-v0"], "Upgrading what was restored", cwd=ROOT, env=settings)
    say(f"restored {_query(variables, 'SELECT count(*) FROM projects_project')} projects from {file}")
    return 0


def _database() -> dict[str, str]:
    """Where the database is, as its own programs read it from the environment."""
    url = urlsplit(os.environ.get("LORICA_DATABASE_URL") or postgres.start())
    return {
        **os.environ,
        "PGHOST": url.hostname or "",
        "PGPORT": str(url.port or 5432),
        "PGUSER": unquote(url.username or ""),
        "PGPASSWORD": unquote(url.password or ""),
        "PGDATABASE": url.path.lstrip("/"),
    }


def _postgres(program: str, variables: dict[str, str], *arguments: str) -> None:
    done = subprocess.run(
        [str(postgres.programs() / program), *arguments], env=variables, capture_output=True, text=True
    )
    if done.returncode:
        tail = (done.stderr.strip().splitlines() or ["it said nothing"])[-1]
        raise Stop(f"{program} failed: {tail}")


def _has_projects(variables: dict[str, str]) -> bool:
    return _query(variables, "SELECT to_regclass('projects_project') IS NOT NULL") == "t"


def _query(variables: dict[str, str], sql: str) -> str:
    done = subprocess.run(
        [str(postgres.programs() / "psql"), "-X", "-q", "-t", "-A", "-v", "ON_ERROR_STOP=1", "-c", sql],
        env=variables,
        capture_output=True,
        text=True,
    )
    if done.returncode:
        raise Stop(f"The database refused: {done.stderr.strip().splitlines()[-1]}")
    return done.stdout.strip()
