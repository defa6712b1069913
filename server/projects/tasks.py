"""What worker processes do; the queue is in PostgreSQL."""

import logging

from procrastinate.contrib.django import app

from server.projects.models import Run
from server.projects.queue import LARGE_QUEUE

_log = logging.getLogger("lorica.work")


@app.task
def compute(run: int) -> None:
    """Do a run."""
    perform(run)


def perform(pk: int) -> None:
    """Do a run of whatever kind, here and now."""
    from server.projects import dossiers, looks, queue, returning, runs, sizings, studies

    kind = Run.objects.filter(pk=pk).values_list("kind", flat=True).first()
    work = {
        Run.Kind.CHAIN: runs.compute,
        Run.Kind.SIZING: sizings.compute,
        Run.Kind.STUDY: studies.compute,
        Run.Kind.LOOK: looks.compute,
        Run.Kind.DOSSIER: dossiers.compute,
        Run.Kind.RETURNED: returning.compute,
    }
    queue.perform(pk, work[Run.Kind(kind or "chain")])


@app.periodic(cron="17 3 * * *")
@app.task(queue=LARGE_QUEUE)
def tidy(timestamp: int) -> None:
    """Every night: what has had its time goes."""
    from server.projects.cleaning import clean

    _log.info("cleaned", extra=clean())
