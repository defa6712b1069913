"""Runs: which chain is computed, by whom, how far it is, and what becomes of it when somebody dies.

A worker holds an advisory lock of the database while it computes. The lock ends with its connection, whatever ends the
process; a run that says “running” and is not held is taken up again by whoever asks next.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from typing import TypeVar

from django.conf import settings
from django.db import InterfaceError, OperationalError, connection, transaction
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from engine.chain import Chain, Loaded, run
from engine.document import Document, read_stored
from engine.errors import ModelError
from server.projects import results
from server.projects.models import Project, Revision, Run
from server.projects.screen import screen

#: first number of the advisory locks of runs
LOCKS = 7301
#: times a run is taken up before it counts as failed
MOST_ATTEMPTS = 3
#: seconds between two looks at a run that is waited for, and between two notes of progress
LOOK, NOTE = 0.02, 0.1
#: seconds that a worker goes on trying to reach a database that is away
PATIENCE = 60.0
#: days that a run which has ended is remembered
REMEMBERED = 1
#: what the page is told of a run
SHOWN = ("state", "stage", "done", "of", "attempts", "message")
_LOST = (OperationalError, InterfaceError)
T = TypeVar("T")


class Stopped(Exception):
    """The run was cancelled or superseded."""


def ask(
    project: Project, revision: Revision, document: Document, force: bool = False, loaded: Loaded | None = None
) -> Run | None:
    """See to it that a revision's result is computed: the run that does, or the last one where it is not computed again
    (cancelled, failed); None where the result is there, or the project is paused. force: also when paused or cancelled.
    loaded: what was prepared of the document, which the worker need not do again."""
    key = results.key_of(document)
    if results.is_stored(key):
        return None
    found = project.runs.filter(key=key).defer("loaded").first()
    if found is not None and found.state in Run.ACTIVE:
        return _revived(found)
    if found is not None and found.state in (Run.State.CANCELLED, Run.State.FAILED) and not force:
        return found
    if project.paused and not force:
        return None
    with transaction.atomic():
        made, new = Run.objects.get_or_create(
            project=project,
            key=key,
            state__in=Run.ACTIVE,
            defaults={
                "revision": revision,
                "head": revision.pk == project.head_id,
                "state": Run.State.WAITING,
                "loaded": results.sealed(loaded) if loaded and settings.WORKERS else None,
            },
        )
        if new and settings.WORKERS:
            _send(made)
    if not settings.WORKERS:
        perform(made.pk)
        made.refresh_from_db(fields=SHOWN)
    return made


def _send(found: Run) -> None:
    from server.projects.tasks import compute

    found.job = compute.defer(run=found.pk)
    found.save(update_fields=["job"])


def _held(pk: int) -> bool:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT 1 FROM pg_locks WHERE locktype = 'advisory' AND classid = %s AND objid = %s AND granted"
            " AND database = (SELECT oid FROM pg_database WHERE datname = current_database())",
            [LOCKS, pk],
        )
        return cursor.fetchone() is not None


def _revived(found: Run) -> Run:
    """The run, sent again when nobody works on it any more."""
    if not settings.WORKERS or _held(found.pk):
        return found
    with transaction.atomic():
        now = Run.objects.select_for_update().defer("loaded").get(pk=found.pk)
        if now.state not in Run.ACTIVE or _held(now.pk):
            return now
        if now.state == Run.State.WAITING:
            waits = ProcrastinateJob.objects.filter(id=now.job, status="todo").exists()
            if waits or (timezone.now() - now.asked).total_seconds() < 2:
                return now
        now.attempts += 1
        now.asked = timezone.now()
        now.state = Run.State.WAITING
        now.message = "The worker ended while it computed; the run was taken up again."
        if now.attempts > MOST_ATTEMPTS:
            now.state, now.ended = Run.State.FAILED, timezone.now()
            now.message = f"The worker ended {MOST_ATTEMPTS} times while it computed this."
        now.save()
        if now.state == Run.State.WAITING:
            _send(now)
        return now


def supersede(project: Project) -> None:
    """End the runs of what stood before."""
    Run.objects.filter(project=project, head=True, state__in=Run.ACTIVE).exclude(revision=project.head).update(
        state=Run.State.SUPERSEDED, ended=timezone.now(), loaded=None
    )


def cancel(project: Project) -> None:
    """Stop what is being computed for a project."""
    Run.objects.filter(project=project, state__in=Run.ACTIVE).update(
        state=Run.State.CANCELLED, ended=timezone.now(), loaded=None
    )


def wait(found: Run, seconds: float) -> Run:
    """The run once it has ended, or after some time."""
    end = time.monotonic() + seconds
    while found.state in Run.ACTIVE and time.monotonic() < end:
        time.sleep(LOOK)
        found.refresh_from_db(fields=SHOWN)
    return found


def chain_of(project: Project, revision: Revision, patience: float = 60.0) -> Chain:
    """The chain of a revision, computed if it is not there. Raises ModelError for one that cannot be computed, or is not yet."""
    document = read_stored(revision.document)
    key = results.key_of(document)
    end = time.monotonic() + patience
    while True:
        found = results.chain_by(key)
        if isinstance(found, ModelError):
            raise found
        if found is not None:
            return found
        state = ask(project, revision, document, force=True)
        if state is None and results.is_stored(key):
            last = Run.objects.filter(key=key, state=Run.State.DONE).defer("loaded").first()
            if last is None or not _held(last.pk):
                # its worker died between showing and storing; or it has just been stored
                results.drop(key)
            else:
                time.sleep(LOOK)
        if state is not None and state.state == Run.State.FAILED:
            raise ModelError(state.message, "")
        if time.monotonic() > end:
            raise ModelError(f"The numbers of revision {revision.number} are still being computed.", "")
        if state is not None and wait(state, 1.0).state == Run.State.CANCELLED:
            raise ModelError(f"The computation of revision {revision.number} was stopped.", "")


def perform(pk: int) -> None:
    """Compute a run, if it still waits, and store what it gives."""
    with _holding(pk) as held:
        if not held:
            return
        begun = Run.objects.filter(pk=pk, state=Run.State.WAITING).update(
            state=Run.State.RUNNING, started=timezone.now(), ended=None
        )
        if not begun:
            return
        found = Run.objects.select_related("revision").get(pk=pk)
        document = read_stored(found.revision.document)
        try:
            loaded = results.opened(bytes(found.loaded)) if found.loaded else None
            chain = _computed(document, _teller(pk), loaded)
            text = screen(document, chain)
            seconds = chain.seconds if isinstance(chain, Chain) else {}
            _persistently(lambda: results.show(document, chain, text))
            _persistently(lambda: _end(pk, Run.State.DONE, seconds=seconds))
            # diagrams are asked for after the page has shown the verdicts: it need not wait for this
            _persistently(lambda: results.store(document, chain))
            Run.objects.filter(ended__lt=timezone.now() - timedelta(days=REMEMBERED)).delete()
        except Stopped:
            pass
        except Exception as error:
            words = f"The computation broke down: {type(error).__name__}: {error}"[:300]
            _persistently(lambda: _end(pk, Run.State.FAILED, message=words))
            raise


def _computed(document: Document, tell: Callable[[str, int, int], None], loaded: Loaded | None) -> Chain | ModelError:
    try:
        return run(document, tell, results.forces_like(document), loaded)
    except ModelError as error:
        return error


def _teller(pk: int) -> Callable[[str, int, int], None]:
    """Notes progress now and then. Raises Stopped when the run is no longer wanted."""
    last, named = 0.0, ""

    def tell(stage: str, done: int, of: int) -> None:
        nonlocal last, named
        if stage == named and time.monotonic() - last < NOTE:
            return
        last, named = time.monotonic(), stage
        try:
            wanted = Run.objects.filter(pk=pk, state=Run.State.RUNNING).update(stage=stage, done=done, of=of)
        except _LOST:
            # the database is away; what is computed is still worth finishing
            _reconnect()
            return
        if not wanted:
            raise Stopped

    return tell


def _end(pk: int, state: Run.State, **values: object) -> None:
    Run.objects.filter(pk=pk, state__in=Run.ACTIVE).update(state=state, ended=timezone.now(), loaded=None, **values)


def _reconnect() -> None:
    if not connection.in_atomic_block:
        connection.close()


def _persistently(work: Callable[[], T]) -> T:
    """Do what needs the database, again while it is away."""
    end = time.monotonic() + PATIENCE
    while True:
        try:
            return work()
        except _LOST:
            if time.monotonic() > end or connection.in_atomic_block:
                raise
            _reconnect()
            time.sleep(0.5)


@contextmanager
def _holding(pk: int) -> Iterator[bool]:
    """Hold the lock of a run for as long as this process and its connection live."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s, %s)", [LOCKS, pk])
        held = bool(cursor.fetchone()[0])
    try:
        yield held
    finally:
        if held:
            try:
                with connection.cursor() as cursor:
                    cursor.execute("SELECT pg_advisory_unlock(%s, %s)", [LOCKS, pk])
            except _LOST:
                _reconnect()
