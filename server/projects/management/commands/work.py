"""Worker processes: they do what the queue asks for. One that ends is replaced."""

import contextlib
import gc
import logging
import os
import signal
import subprocess
import sys
import threading
import time
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser
from django.db import DatabaseError, connection
from procrastinate.contrib.django import app
from prometheus_client import multiprocess

from engine.memory import settle
from server import metrics
from server.projects import builds, queue
from server.projects.models import Run

#: seconds that a worker may take to finish when it is told to stop
GRACE = 3.0
#: bytes of memory above which a worker is renewed once it has nothing to do
HEAVY = 700_000_000
#: how far workers stand back: who clicks is answered before what is computed goes on
NICE = 5
#: exit status of a worker whose build no longer serves the database
REPLACED = 75
_log = logging.getLogger("lorica.work")


class Command(BaseCommand):
    """manage.py work [--processes N]"""

    help = "Do what the queue asks for, until stopped."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--processes", type=int, default=2)
        parser.add_argument("--one", default="", help="be one worker of these queues, without a keeper")

    def handle(self, *args: Any, processes: int, one: str, **options: Any) -> None:
        if one:
            work(one.split(","))
        else:
            keep(processes)


def queues(number: int, of: int) -> list[str]:
    """What the worker of this number takes: the first of several leaves the large runs to the others; one beyond them takes these alone, on the
    processor that the first one leaves idle."""
    if number >= of:
        return [queue.LARGE_QUEUE]
    return [queue.SMALL_QUEUE] if of > 1 and number == 0 else [queue.SMALL_QUEUE, queue.LARGE_QUEUE]


def stand_back() -> None:
    """Let who clicks be answered before what is computed goes on, here and in the workers that are begun from here."""
    os.nice(NICE)
    if os.getsid(0) == os.getpid():
        # Linux shares its processors among sessions first, if it groups them
        with contextlib.suppress(OSError):
            Path("/proc/self/autogroup").write_text(str(NICE))


def keep(processes: int) -> None:
    """Keep a number of workers running until told to stop, or until another build serves the database."""
    stand_back()
    stopping = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stopping.set())
    count = processes + (processes > 1)
    workers: list[subprocess.Popen[bytes] | None] = [None] * count
    born = [0.0] * count
    while not stopping.is_set():
        for i, worker in enumerate(workers):
            if worker is not None and worker.poll() == REPLACED:
                _log.warning("another build serves the database; the workers of this one end")
                stopping.set()
            # one that ends at once (the database is away) is tried again once a second
            elif (worker is None or worker.poll() is not None) and time.monotonic() - born[i] > 1.0:
                if worker is not None and "PROMETHEUS_MULTIPROC_DIR" in os.environ:
                    multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]
                command = [sys.executable, sys.argv[0], "work", "--one", ",".join(queues(i, processes))]
                workers[i], born[i] = subprocess.Popen(command), time.monotonic()
        stopping.wait(0.1)
    for worker in workers:
        if worker and worker.poll() is None:
            worker.terminate()
    end = time.monotonic() + GRACE
    for worker in workers:
        if worker:
            try:
                worker.wait(max(end - time.monotonic(), 0.1))
            except subprocess.TimeoutExpired:
                worker.kill()


def work(of: list[str]) -> None:
    """Be one worker; ends with its keeper. One of large runs alone lets the others go first."""
    if of == [queue.LARGE_QUEUE]:
        os.nice(NICE)
    if builds.replaced():
        sys.exit(REPLACED)
    threading.Thread(target=watch, args=[os.getppid()], daemon=True).start()
    with connection.cursor() as cursor:
        # of workers that died; their runs are taken up again by who asks for them
        cursor.execute("DELETE FROM procrastinate_jobs WHERE status = 'doing' AND worker_id IS NULL")
    connection.close()
    settle()
    with app.replace_connector(app.connector.get_worker_connector()) as working:  # type: ignore[attr-defined]
        working.run_worker(
            queues=of,
            concurrency=1,
            fetch_job_polling_interval=1.0,
            delete_jobs="always",
            update_heartbeat_interval=2.0,
            stalled_worker_timeout=20.0,
            shutdown_graceful_timeout=GRACE / 2,
        )


def watch(keeper: int) -> None:
    """End this worker with its keeper, when a run exceeds its limits, when heavy work is done, when its build is replaced."""
    looked = time.monotonic()
    while os.getppid() == keeper:
        time.sleep(0.5)
        memory, present = metrics.resident(), queue.under_way
        metrics.MEMORY.labels("worker").set(memory)
        if present is not None:
            if words := exceeded(present, memory, time.monotonic() - present.since):
                _log.error("a run was ended", extra={"run": present.run, "why": words})
                _give_up(present.run, words)
                os._exit(1)
            continue
        if memory > HEAVY and gc.collect() >= 0 and metrics.resident() > HEAVY:
            _log.info("renewed after heavy work", extra={"memory": memory})
            os.kill(os.getpid(), signal.SIGTERM)
            return
        if time.monotonic() - looked > builds.LOOK:
            looked = time.monotonic()
            if _replaced():
                os.kill(os.getpid(), signal.SIGTERM)
                return
    os._exit(1)


def exceeded(present: queue.UnderWay, memory: int, seconds: float) -> str:
    """What a run takes too much of, in words; "" while it keeps its limits."""
    where = f" in “{present.stage}”" + (f" ({present.of} combinations)" if present.of else "") if present.stage else ""
    if memory > settings.RUN_MEMORY:
        took, most = f"{memory / 1e6:,.0f} MB of memory", f"{settings.RUN_MEMORY / 1e6:,.0f} MB"
    elif seconds > settings.RUN_SECONDS:
        took, most = f"{seconds:,.0f} s", f"{settings.RUN_SECONDS:,.0f} s"
    else:
        return ""
    return (
        f"This needed {took}{where}; a run may take {most}. Fewer combinations or members need less; who runs the server can"
        " raise the limit."
    )


def _give_up(run: int, words: str) -> None:
    try:
        queue.end(run, Run.State.FAILED, message=words)
    except DatabaseError:
        _log.exception("the end of a run could not be written down")


def _replaced() -> bool:
    try:
        return builds.replaced()
    except DatabaseError:
        return False
    finally:
        connection.close()
