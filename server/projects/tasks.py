"""What worker processes do; the queue is in PostgreSQL."""

from procrastinate.contrib.django import app

from server.projects.models import Run


@app.task
def compute(run: int) -> None:
    """Do a run."""
    perform(run)


def perform(pk: int) -> None:
    """Do a run of whatever kind, here and now."""
    from server.projects import queue, runs, sizings

    kind = Run.objects.filter(pk=pk).values_list("kind", flat=True).first()
    queue.perform(pk, {Run.Kind.CHAIN: runs.compute, Run.Kind.SIZING: sizings.compute}[Run.Kind(kind or "chain")])
