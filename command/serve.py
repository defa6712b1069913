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
#: stand-ins for services of others, by what they are called: the variable that says where one answers
STAND_INS = {"climate": "LORICA_CLIMATE_URL", "detailing": "LORICA_DETAILING_URL"}
WORKERS_PID_FILE = DATA / "workers.pid"
#: worker processes that compute chains
WORKERS = 2
WEB_MARK = b"gunicorn"
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


def serving() -> dict[str, str]:
    """The environment of what serves: with workers, a log and numbers to watch beside the data."""
    variables = environment()
    (DATA / "metrics").mkdir(exist_ok=True)
    return {
        "LORICA_LOG": str(DATA / "lorica.log"),
        **variables,
        "LORICA_WORKERS": "1",
        "PROMETHEUS_MULTIPROC_DIR": str(DATA / "metrics"),
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
    return _process(PID_FILE, WEB_MARK)


def prepare() -> int:
    """Install and build what serving needs; nothing is started, no database is asked."""
    ensure_system(browser=False, database=False)
    ensure_python(test=False)
    ensure_node()
    # for describing the API alone
    nothing = {"LORICA_SECRET": "none", "LORICA_DATABASE_URL": "postgres://nobody@127.0.0.1/none"}
    ensure_front_end({**os.environ, **nothing, "LORICA_LOCAL": "1", "PYTHONPATH": str(ROOT)})
    say("ready to serve")
    return 0


def start(port: int, detach: bool) -> int:
    """Set up, serve and print the address; what of it is dead is started again. Serves until Ctrl-C, or in the background."""
    web = running()
    if web and answers(ADDRESS_FILE.read_text()):
        return _mend()
    if web:
        say("the web server does not answer; it is started again")
        port = int(ADDRESS_FILE.read_text().rstrip("/").rsplit(":", 1)[1])
        _stop_process(PID_FILE, WEB_MARK)
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            raise Stop(f"Port {port} is taken by another program; choose another with --port NUMBER.") from None
    ensure_system(browser=False, database="LORICA_DATABASE_URL" not in os.environ)
    ensure_python(test=False)
    ensure_node()
    variables = serving()
    for numbers in (DATA / "metrics").iterdir():
        # of processes that have ended
        numbers.unlink()
    ensure_front_end(variables)
    demo = "LORICA_DATABASE_URL" not in os.environ or os.environ.get("LORICA_DEMO") == "1"
    account = ["--demo", DEMO_USER, DEMO_PASSWORD] if demo else []
    call([str(PYTHON), "manage.py", "set_up", *account], "Preparing the database", cwd=ROOT, env=variables)
    address = f"http://127.0.0.1:{port}/"
    for name, variable in STAND_INS.items():
        if variable not in os.environ:
            variables[variable] = _start_stand_in(name, variables)
    _start_workers(variables)
    server = _begin(
        [str(PYTHON), "-m", "gunicorn", "--config", "python:server.web", "server.asgi:application"],
        {**variables, "LORICA_BIND": f"127.0.0.1:{port}"},
        PID_FILE,
    )
    ADDRESS_FILE.write_text(address)
    _wait(server, address)
    say(f"serving at {address}")
    if demo:
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


def _mend() -> int:
    """Start again what of a serving installation is dead: its database, the keeper of its workers, the stand-ins for services of others."""
    mended = []
    if "LORICA_DATABASE_URL" not in os.environ and not postgres.running():
        mended.append("the database")
    variables = serving()
    for name, variable in STAND_INS.items():
        port = DATA / f"{name}.port"
        if (
            variable not in os.environ
            and port.exists()
            and not _process(DATA / f"{name}.pid", f"{name}.service".encode())
        ):
            # the web server knows the old address
            _start_stand_in(name, variables, int(port.read_text()))
            mended.append(f"the {name} service")
    if not _process(WORKERS_PID_FILE, b"manage.py"):
        _start_workers(variables)
        mended.append("the workers")
    for what in mended:
        say(f"{what} had ended and runs again")
    say(f"already serving at {ADDRESS_FILE.read_text()} (stop it with ./lorica stop)")
    return 0


def _begin(command: list[str], variables: dict[str, str], pid_file: Path) -> subprocess.Popen[bytes]:
    """A process of its own session; what it writes beside its log goes to web.log."""
    with (DATA / "web.log").open("a") as log:
        process = subprocess.Popen(
            command, cwd=ROOT, env=variables, start_new_session=True, stdout=log, stderr=subprocess.STDOUT
        )
    pid_file.write_text(str(process.pid))
    return process


def _start_workers(variables: dict[str, str]) -> None:
    _stop_process(WORKERS_PID_FILE, b"manage.py")
    _begin([str(PYTHON), "manage.py", "work", "--processes", str(WORKERS)], variables, WORKERS_PID_FILE)


def _start_stand_in(name: str, variables: dict[str, str], port: int = 0) -> str:
    """Start a stand-in for a service of others on a free port of loopback, or on that one; gives its address."""
    _stop_process(DATA / f"{name}.pid", f"{name}.service".encode())
    port = port or postgres.free_port()
    _begin([str(PYTHON), "-m", f"{name}.service", "--port", str(port)], variables, DATA / f"{name}.pid")
    (DATA / f"{name}.port").write_text(str(port))
    return f"http://127.0.0.1:{port}"


def answers(address: str) -> bool:
    """Whether a web server is alive at an address."""
    try:
        urllib.request.urlopen(address + "healthz", timeout=5).close()
    except (urllib.error.URLError, OSError):
        return False
    return True


def _wait(server: subprocess.Popen[bytes], address: str) -> None:
    end = time.monotonic() + 60
    while time.monotonic() < end:
        if server.poll() is not None:
            raise Stop(f"The web server ended at once; see {DATA / 'web.log'}.")
        if answers(address):
            return
        time.sleep(0.1)
    raise Stop("The web server does not answer.")


def stop() -> int:
    """Stop the web server and the private database."""
    pid = _stop_process(PID_FILE, WEB_MARK)
    _stop_process(WORKERS_PID_FILE, b"manage.py")
    for name in STAND_INS:
        _stop_process(DATA / f"{name}.pid", f"{name}.service".encode())
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
        else:
            # one that hangs goes with all that it started
            os.killpg(pid, signal.SIGKILL)
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
