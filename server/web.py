"""How the web is served: several processes, each of which waits without threads, and cuts off who is slow to ask.

    gunicorn --config python:server.web server.asgi:application

LORICA_BIND (127.0.0.1:8000), LORICA_WEB (number of processes, 2).
"""

from __future__ import annotations

import asyncio
import os
import signal
import time
from typing import Any

from prometheus_client import multiprocess
from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol
from uvicorn_worker import UvicornWorker

#: seconds that a request may take to arrive, head and body
SLOWEST = 20.0
#: connections that one process serves at once; who comes then is told to try again
MOST = 1000


#: seconds after which a process looks by itself whether another build serves
IDLE = 10.0


class Prompt(HttpToolsProtocol):
    """Closes a connection whose request does not arrive whole in time."""

    _timer: asyncio.TimerHandle | None = None

    def connection_made(self, transport: Any) -> None:
        super().connection_made(transport)
        self._expect()

    def on_message_begin(self) -> None:
        super().on_message_begin()
        self._expect()

    def on_message_complete(self) -> None:
        super().on_message_complete()
        self._arrived()

    def connection_lost(self, exc: Exception | None) -> None:
        self._arrived()
        super().connection_lost(exc)

    def _expect(self) -> None:
        self._arrived()
        self._timer = self.loop.call_later(SLOWEST, self._cut)

    def _arrived(self) -> None:
        if self._timer:
            self._timer.cancel()
            self._timer = None

    def _cut(self) -> None:
        if not self.transport.is_closing():
            self.transport.close()


def _look() -> None:
    """See which build serves the database, if it answers."""
    from django.db import Error, connection

    from server.projects import builds

    try:
        builds.replaced(now=True)
    except Error:
        pass
    finally:
        connection.close()


class Worker(UvicornWorker):  # type: ignore[misc]
    """One web process."""

    CONFIG_KWARGS = {
        "http": Prompt,
        "loop": "asyncio",
        "lifespan": "off",
        "limit_concurrency": MOST,
        "timeout_keep_alive": 15,
        "server_header": False,
        "access_log": False,
        "timeout_notify": 1,
    }

    _looked = 0.0

    async def callback_notify(self) -> None:
        """Say that this process lives; it goes when the one that keeps it has gone, and all go when another build serves."""
        await super().callback_notify()
        if os.getppid() != self.ppid:
            os._exit(1)
        from server.projects import builds

        if builds.noticed():
            os.kill(self.ppid, signal.SIGTERM)
        elif time.monotonic() - self._looked > IDLE:
            # requests look too; one that nobody asks anything must find it out by itself
            self._looked = time.monotonic()
            asyncio.get_running_loop().run_in_executor(None, _look)


def child_exit(server: Any, worker: Any) -> None:
    """What a process that has ended had measured is told no longer."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        multiprocess.mark_process_dead(worker.pid)  # type: ignore[no-untyped-call]


bind = os.environ.get("LORICA_BIND", "127.0.0.1:8000")
workers = int(os.environ.get("LORICA_WEB", "2"))
worker_class = "server.web.Worker"
#: a process that does not stir for so long is replaced
timeout = 120
graceful_timeout = 10
loglevel = "warning"
