"""What worker processes do; the queue is in PostgreSQL."""

from procrastinate.contrib.django import app

from server.projects.runs import perform


@app.task(queue="chains")
def compute(run: int) -> None:
    """Compute a run."""
    perform(run)
