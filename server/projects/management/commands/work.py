"""Worker processes: they compute what the queue asks for. One that ends is replaced."""

import logging
import os
import signal
import subprocess
import sys
import threading
import time
from typing import Any

from django.core.management.base import BaseCommand, CommandParser
from django.db import connection
from procrastinate.contrib.django import app

from engine.memory import settle

#: seconds that a worker may take to finish when it is told to stop
GRACE = 3.0


class Command(BaseCommand):
    """manage.py work [--processes N]"""

    help = "Compute the chains that projects ask for, until stopped."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--processes", type=int, default=2)
        parser.add_argument("--one", action="store_true", help="be one worker, without a keeper")

    def handle(self, *args: Any, processes: int, one: bool, **options: Any) -> None:
        if one:
            work()
        else:
            keep(processes)


def keep(processes: int) -> None:
    """Keep a number of workers running until told to stop."""
    stopping = threading.Event()
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: stopping.set())
    command = [sys.executable, sys.argv[0], "work", "--one"]
    workers: list[subprocess.Popen[bytes] | None] = [None] * processes
    born = [0.0] * processes
    while not stopping.is_set():
        for i, worker in enumerate(workers):
            # one that ends at once (the database is away) is tried again once a second
            if (worker is None or worker.poll() is not None) and time.monotonic() - born[i] > 1.0:
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


def work() -> None:
    """Be one worker; ends with its keeper."""
    logging.basicConfig(level=logging.WARNING)
    keeper = os.getppid()

    def watch() -> None:
        while os.getppid() == keeper:
            time.sleep(0.5)
        os._exit(1)

    threading.Thread(target=watch, daemon=True).start()
    with connection.cursor() as cursor:
        # of workers that died; their runs are taken up again by who asks for them
        cursor.execute("DELETE FROM procrastinate_jobs WHERE status = 'doing' AND worker_id IS NULL")
    connection.close()
    settle()
    with app.replace_connector(app.connector.get_worker_connector()) as working:  # type: ignore[attr-defined]
        working.run_worker(
            queues=["chains"],
            concurrency=1,
            fetch_job_polling_interval=1.0,
            delete_jobs="always",
            update_heartbeat_interval=2.0,
            stalled_worker_timeout=20.0,
            shutdown_graceful_timeout=GRACE / 2,
        )
