"""start, stop, status: the web server and its database."""

from __future__ import annotations

import contextlib
import os
import secrets
import signal
import socket
import subprocess
import time
import urllib.error
import urllib.request
from pathlib import Path

from command import postgres
from command.environment import (
    COMPUTING,
    DATA,
    PYTHON,
    ROOT,
    Stop,
    call,
    ensure_front_end,
    ensure_node,
    ensure_python,
    ensure_system,
    say,
)

PID_FILE = DATA / "web.pid"
ADDRESS_FILE = DATA / "web.address"
CLIMATE_PID_FILE = DATA / "climate.pid"
WORKERS_PID_FILE = DATA / "workers.pid"
#: worker processes that compute chains
WORKERS = 2
DEMO_USER, DEMO_PASSWORD = "demo", "sandmartin"


def environment() -> dict[str, str]:
    """The environment of Django processes on this machine; starts the database unless one is given by URL."""
    secret = DATA / "secret"
    DATA.mkdir(parents=True, exist_ok=True)
    if not secret.exists():
        secret.touch(mode=0o600)
        secret.write_text(secrets.token_urlsafe(48))
    given = os.environ.get("LORICA_DATABASE_URL")
    if given:
        _reach(given)
    url = given or postgres.start()
    return {
        **os.environ,
        **COMPUTING,
        "LORICA_LOCAL": "1",
        "LORICA_SECRET": os.environ.get("LORICA_SECRET") or secret.read_text(),
        "LORICA_DATABASE_URL": url,
        "PYTHONPATH": str(ROOT),
    }


def _reach(url: str) -> None:
    program = "import sys, psycopg; psycopg.connect(sys.argv[1], connect_timeout=5).close()"
    done = subprocess.run([str(PYTHON), "-c", program, url], capture_output=True, text=True)
    if done.returncode:
        reason = next((line for line in done.stderr.splitlines() if "Error: " in line), "it does not answer")
        raise Stop(f"The database of LORICA_DATABASE_URL cannot be reached: {reason.split('Error: ', 1)[-1]}")


def _process(file: Path, mark: bytes) -> int | None:
    """The process that a file names, if it runs and its command bears the mark."""
    try:
        pid = int(file.read_text())
        command = Path(f"/proc/{pid}/cmdline").read_bytes()
    except (OSError, ValueError):
        return None
    return pid if mark in command else None


def running() -> int | None:
    """The web server's process id, if it runs."""
    return _process(PID_FILE, b"gunicorn")


def start(port: int, detach: bool) -> int:
    """Set up, serve and print the address. Serves until Ctrl-C, or in the background."""
    if running():
        say(f"already serving at {ADDRESS_FILE.read_text()} (stop it with ./lorica stop)")
        return 0
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            raise Stop(f"Port {port} is taken by another program; choose another with --port NUMBER.") from None
    ensure_system(browser=False, database="LORICA_DATABASE_URL" not in os.environ)
    ensure_python(test=False)
    ensure_node()
    variables = environment()
    ensure_front_end(variables)
    call([str(PYTHON), "manage.py", "migrate", "-v0"], "Preparing the database", cwd=ROOT, env=variables)
    call(
        [str(PYTHON), "manage.py", "load_demo", DEMO_USER, DEMO_PASSWORD],
        "Loading the demo projects",
        cwd=ROOT,
        env=variables,
    )
    address = f"http://127.0.0.1:{port}/"
    if "LORICA_CLIMATE_URL" not in os.environ:
        variables["LORICA_CLIMATE_URL"] = _start_climate(variables)
    log = (DATA / "web.log").open("a") if detach else None
    variables["LORICA_WORKERS"] = "1"
    _stop_process(WORKERS_PID_FILE, b"manage.py")
    workers = subprocess.Popen(
        [str(PYTHON), "manage.py", "work", "--processes", str(WORKERS)],
        cwd=ROOT,
        env=variables,
        start_new_session=True,
        stdout=log,
        stderr=subprocess.STDOUT if log else None,
    )
    WORKERS_PID_FILE.write_text(str(workers.pid))
    server = subprocess.Popen(
        [
            str(PYTHON), "-m", "gunicorn", "server.wsgi", "--bind", f"127.0.0.1:{port}", "--worker-class", "gthread",
            "--workers", "1", "--threads", "16", "--timeout", "120", "--log-level", "warning",
        ],
        cwd=ROOT,
        env=variables,
        start_new_session=True,
        stdout=log,
        stderr=subprocess.STDOUT if log else None,
    )  # fmt: skip
    PID_FILE.write_text(str(server.pid))
    ADDRESS_FILE.write_text(address)
    _wait(server, address)
    say(f"serving at {address}")
    say(f"demo sign-in: {DEMO_USER} / {DEMO_PASSWORD}")
    if detach:
        say("in the background; stop it with ./lorica stop")
        return 0
    say("Ctrl-C stops it; data stays")
    signal.signal(signal.SIGTERM, lambda *_: (_ for _ in ()).throw(KeyboardInterrupt))
    try:
        server.wait()
    except KeyboardInterrupt:
        print()
        stop()
    return 0


def _start_climate(variables: dict[str, str]) -> str:
    """Start the stand-in climate service on a free port of loopback; gives its address."""
    _stop_process(CLIMATE_PID_FILE, b"climate.service")
    port = postgres.free_port()
    service = subprocess.Popen(
        [str(PYTHON), "-m", "climate.service", "--port", str(port)],
        cwd=ROOT,
        env=variables,
        start_new_session=True,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )
    CLIMATE_PID_FILE.write_text(str(service.pid))
    return f"http://127.0.0.1:{port}"


def _wait(server: subprocess.Popen[bytes], address: str) -> None:
    for _ in range(300):
        if server.poll() is not None:
            raise Stop(f"The web server ended at once; see {DATA / 'web.log'}.")
        try:
            urllib.request.urlopen(address + "sign-in/", timeout=2)
            return
        except (urllib.error.URLError, OSError):
            time.sleep(0.1)
    raise Stop("The web server does not answer.")


def stop() -> int:
    """Stop the web server and the private database."""
    pid = _stop_process(PID_FILE, b"gunicorn")
    _stop_process(WORKERS_PID_FILE, b"manage.py")
    _stop_process(CLIMATE_PID_FILE, b"climate.service")
    database = postgres.stop() if "LORICA_DATABASE_URL" not in os.environ else False
    say("stopped; data stays" if pid or database else "nothing was running")
    return 0


def _stop_process(file: Path, mark: bytes) -> int | None:
    """End the process that a file names and drop the file; gives its id, None when it did not run."""
    pid = _process(file, mark)
    if pid:
        os.kill(pid, signal.SIGTERM)
        for _ in range(100):
            if not Path(f"/proc/{pid}").exists() or _is_zombie(pid):
                break
            time.sleep(0.1)
    with contextlib.suppress(OSError):
        file.unlink()
    return pid


def _is_zombie(pid: int) -> bool:
    try:
        return Path(f"/proc/{pid}/stat").read_text().rsplit(")", 1)[1].split()[0] == "Z"
    except OSError:
        return True


def status() -> int:
    """Say what runs; 0 when the web server does, else 3."""
    pid = running()
    say(f"web: serving at {ADDRESS_FILE.read_text()} (process {pid})" if pid else "web: not running")
    workers = _process(WORKERS_PID_FILE, b"manage.py")
    say(f"workers: running (process {workers})" if workers else "workers: not running")
    if "LORICA_DATABASE_URL" in os.environ:
        say("database: the one of LORICA_DATABASE_URL")
    elif postgres.running():
        say(f"database: running on port {postgres.port_in_use()}")
    else:
        say("database: not running")
    return 0 if pid else 3
