"""Work for the workers: how it is queued, by whom it is done, how far it is, and what becomes of it when somebody dies.

A worker holds an advisory lock of the database while it works. The lock ends with its connection, whatever ends the process; a
run that says “running” and is not held is taken up again by whoever asks next.
"""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager, nullcontext
from dataclasses import dataclass
from datetime import timedelta
from functools import reduce
from operator import or_
from typing import TypeVar

from django.conf import settings
from django.db import InterfaceError, OperationalError, connection, transaction
from django.db.models import Q
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from engine import processors
from server.projects import builds, news
from server.projects.models import Project, Revision, Run

#: first number of the advisory locks of runs
LOCKS = 7301
#: times a run is taken up before it counts as failed
MOST_ATTEMPTS = 3
#: seconds in which a worker that has taken a job from the queue holds its run
BEGINS = 0.3
#: seconds between two notes of progress
NOTE = 0.1
#: seconds that a worker goes on trying to reach a database that is away
PATIENCE = 60.0
#: days that a run which has ended is remembered; a sizing is looked at later, a look at once
REMEMBERED = {
    Run.Kind.CHAIN: 1.0,
    Run.Kind.SIZING: 30.0,
    Run.Kind.STUDY: 30.0,
    Run.Kind.LOOK: 0.02,
    Run.Kind.DOSSIER: 1.0,
    Run.Kind.RETURNED: 30.0,
}
#: what the page is told of a run
SHOWN = ("state", "stage", "done", "of", "attempts", "message", "answer")
#: members × combinations above which a run waits in the queue of the large ones: some four seconds of work
LARGE = 300_000
SMALL_QUEUE, LARGE_QUEUE = "small", "large"
_LOST = (OperationalError, InterfaceError)
T = TypeVar("T")


class Stopped(Exception):
    """The run was cancelled or superseded."""


@dataclass
class UnderWay:
    """What this process works on, for the one that watches its limits. since: on the monotonic clock."""

    run: int
    since: float
    stage: str = ""
    of: int = 0


#: the run that this process works on; one at a time
under_way: UnderWay | None = None


def send(found: Run, weight: float = 0.0) -> None:
    """Queue a run. weight: members × combinations, where it is known. Each person's next run comes after the first ones of the
    others, and large runs have a queue of their own, which not every worker takes from."""
    from server.projects.tasks import compute

    others = Run.objects.filter(project__owner=found.project.owner_id, state__in=Run.ACTIVE).exclude(pk=found.pk)
    large = weight > LARGE or found.kind in (Run.Kind.SIZING, Run.Kind.STUDY, Run.Kind.DOSSIER, Run.Kind.RETURNED)
    turn = min(others.count(), 1000)
    queued = compute.configure(queue=LARGE_QUEUE if large else SMALL_QUEUE, priority=-turn - (1000 if large else 0))
    found.job = queued.defer(run=found.pk)
    found.save(update_fields=["job"])


def begun(project: Project, revision: Revision, kind: Run.Kind, key: str, **values: object) -> tuple[Run, bool]:
    """The run of that key that is under way, made where there is none; and whether it was made."""
    return Run.objects.get_or_create(
        project=project,
        key=key,
        state__in=Run.ACTIVE,
        defaults={"revision": revision, "kind": kind, "head": False, "build": builds.own(), **values},
    )


def held(pk: int) -> bool:
    """Whether a living process works on the run."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT 1 FROM pg_locks WHERE locktype = 'advisory' AND classid = %s AND objid = %s AND granted"
            " AND database = (SELECT oid FROM pg_database WHERE datname = current_database())",
            [LOCKS, pk],
        )
        return cursor.fetchone() is not None


def _begins(found: Run) -> bool:
    doing = ProcrastinateJob.objects.filter(id=found.job, status="doing")
    return found.state == Run.State.WAITING and doing.exists()


def revived(found: Run) -> Run:
    """The run, sent again when nobody works on it any more."""
    if not settings.WORKERS or found.state not in Run.ACTIVE or held(found.pk):
        return found
    if _begins(found):
        # its worker has the job and is about to hold the run
        time.sleep(BEGINS)
    with transaction.atomic():
        now = Run.objects.select_for_update().defer("loaded").get(pk=found.pk)
        if now.state not in Run.ACTIVE or held(now.pk):
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
            send(now)
        else:
            news.tell(now.pk)
        return now


def cancel(project: Project, kind: Run.Kind) -> None:
    """Stop what is being worked at for a project."""
    finish(Run.objects.filter(project=project, kind=kind), Run.State.CANCELLED)


def finish(which: object, state: Run.State, **values: object) -> None:
    """End those runs of a query that have not ended, and tell who waits for them."""
    doomed = which.filter(state__in=Run.ACTIVE)  # type: ignore[attr-defined]
    numbers = list(doomed.values_list("pk", flat=True))
    doomed.update(state=state, ended=timezone.now(), loaded=None, **values)
    for pk in numbers:
        news.tell(pk)


def end(pk: int, state: Run.State, **values: object) -> None:
    """End a run that has not ended."""
    finish(Run.objects.filter(pk=pk), state, **values)


def perform(pk: int, work: Callable[[Run], None]) -> None:
    """Do a run that still waits, unless another process does."""
    global under_way
    with _holding(pk) as mine:
        if not mine:
            return
        found = Run.objects.select_related("revision", "project").filter(pk=pk, state=Run.State.WAITING).first()
        if found is None:
            return
        if found.build != builds.own():
            if builds.replaced(now=True):
                send(found)
            else:
                end(pk, Run.State.FAILED, message=builds.OTHER)
            return
        begun = Run.objects.filter(pk=pk, state=Run.State.WAITING).update(
            state=Run.State.RUNNING, started=timezone.now(), ended=None
        )
        if not begun:
            return
        news.tell(pk)
        under_way = UnderWay(pk, time.monotonic())
        busy = Run.objects.filter(state=Run.State.RUNNING).exclude(pk=pk).exists()
        try:
            with processors.alone() if busy else nullcontext():
                work(found)
            _forget_old()
        except Stopped:
            pass
        except Exception as error:
            words = (
                f"The computation broke down ({type(error).__name__}); the log of the workers tells more of run {pk}."
            )
            persistently(lambda: end(pk, Run.State.FAILED, message=words))
            raise
        finally:
            under_way = None


def _forget_old() -> None:
    now = timezone.now()
    old = (Q(kind=kind, ended__lt=now - timedelta(days=days)) for kind, days in REMEMBERED.items())
    Run.objects.filter(reduce(or_, old)).delete()


def teller(pk: int) -> Callable[[str, int, int], None]:
    """Notes progress now and then. Raises Stopped when the run is no longer wanted."""
    last, named = 0.0, ""

    def tell(stage: str, done: int, of: int) -> None:
        nonlocal last, named
        if under_way:
            under_way.stage, under_way.of = stage, of
        if stage == named and time.monotonic() - last < NOTE:
            return
        last, named = time.monotonic(), stage
        note(pk, stage=stage, done=done, of=of)

    return tell


def note(pk: int, **values: object) -> None:
    """Write down how far a run is. Raises Stopped when it is no longer wanted."""
    try:
        wanted = Run.objects.filter(pk=pk, state=Run.State.RUNNING).update(**values)
    except _LOST:
        # the database is away; what is computed is still worth finishing
        reconnect()
        return
    if not wanted:
        raise Stopped


def reconnect() -> None:
    """Drop a connection that may be dead."""
    if not connection.in_atomic_block:
        connection.close()


def persistently(work: Callable[[], T]) -> T:
    """Do what needs the database, again while it is away."""
    end = time.monotonic() + PATIENCE
    while True:
        try:
            return work()
        except _LOST:
            if time.monotonic() > end or connection.in_atomic_block:
                raise
            reconnect()
            time.sleep(0.5)


@contextmanager
def _holding(pk: int) -> Iterator[bool]:
    """Hold the lock of a run for as long as this process and its connection live."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT pg_try_advisory_lock(%s, %s)", [LOCKS, pk])
        mine = bool(cursor.fetchone()[0])
    try:
        yield mine
    finally:
        if mine:
            try:
                with connection.cursor() as cursor:
                    cursor.execute("SELECT pg_advisory_unlock(%s, %s)", [LOCKS, pk])
            except _LOST:
                reconnect()
