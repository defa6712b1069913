"""News of runs: PostgreSQL notifies every web process when one begins or ends, so that whoever waits holds no thread."""

from __future__ import annotations

import asyncio
import contextlib
import logging
from collections import defaultdict
from collections.abc import Iterator

import psycopg
from django.db import connection

CHANNEL = "lorica_runs"
#: seconds after which a waiting request looks for itself, also when nothing was told
LOOK = 5.0
_log = logging.getLogger(__name__)
_waiting: dict[int, set[asyncio.Event]] = defaultdict(set)
_listener: asyncio.Task[None] | None = None


def tell(run: int) -> None:
    """Tell all processes that something became of a run; once the transaction is committed, if there is one."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_notify(%s, %s)", [CHANNEL, str(run)])


async def heard(event: asyncio.Event, seconds: float) -> None:
    """Until the event is set, LOOK seconds at most."""
    with contextlib.suppress(TimeoutError):
        await asyncio.wait_for(event.wait(), min(seconds, LOOK))


@contextlib.contextmanager
def listening(run: int) -> Iterator[asyncio.Event]:
    """An event that is set when something is told of the run."""
    global _listener
    if _listener is None or _listener.done() or _listener.get_loop() is not asyncio.get_running_loop():
        _listener = asyncio.get_running_loop().create_task(_listen(dict(connection.get_connection_params())))
    event = asyncio.Event()
    _waiting[run].add(event)
    try:
        yield event
    finally:
        _waiting[run].discard(event)
        if not _waiting[run]:
            del _waiting[run]


async def _listen(parameters: dict[str, object]) -> None:
    for name in ("cursor_factory", "context", "client_encoding", "prepare_threshold", "pool"):
        parameters.pop(name, None)
    while True:
        try:
            async with await psycopg.AsyncConnection.connect(**parameters, autocommit=True) as listener:  # type: ignore[arg-type]
                await listener.execute(f"LISTEN {CHANNEL}")
                async for told in listener.notifies():
                    for event in _waiting.get(int(told.payload), ()):
                        event.set()
        except (psycopg.Error, OSError) as error:
            # those who wait look for themselves meanwhile
            _log.warning("news of runs are not heard: %s", str(error).strip())
            await asyncio.sleep(1.0)
