"""What watches the server asks: whether the process lives, whether it can work, and its numbers."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.utils import timezone
from django.utils.crypto import constant_time_compare

from server import metrics
from server.projects import builds
from server.projects.models import Run

#: seconds after which a worker that has not been heard of counts as gone
SILENT = 30
#: seconds after which a run that waits means that the workers do not keep up
LATE = 120


def alive(request: HttpRequest) -> HttpResponse:
    """This process answers."""
    return JsonResponse({"status": "alive", "build": builds.own()[:12]})


def ready(request: HttpRequest) -> HttpResponse:
    """The database answers, this build serves it, workers live and keep up; 503 and what does not, otherwise."""
    try:
        faults = _faults()
    except DatabaseError:
        faults = ["The database does not answer."]
    found: dict[str, Any] = {"status": "not ready" if faults else "ready", "build": builds.own()[:12], "faults": faults}
    return JsonResponse(found, status=503 if faults else 200)


def _faults() -> list[str]:
    faults = []
    if builds.replaced():
        faults.append(builds.OTHER)
    if settings.WORKERS:
        with connection.cursor() as cursor:
            cursor.execute(
                "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => %s)",
                [SILENT],
            )
            if not cursor.fetchone()[0]:
                faults.append("No worker is alive.")
    first = Run.objects.filter(state=Run.State.WAITING).order_by("asked").values_list("asked", flat=True).first()
    if first and (waited := (timezone.now() - first).total_seconds()) > LATE:
        faults.append(f"A run has waited for a worker for {waited:.0f} s.")
    return faults


def numbers(request: HttpRequest) -> HttpResponse:
    """Metrics as plain text, for who bears LORICA_METRICS_TOKEN; on loopback for everybody."""
    said = request.headers.get("Authorization", "")
    known = settings.METRICS_TOKEN and constant_time_compare(said, f"Bearer {settings.METRICS_TOKEN}")
    if not (known or settings.LOCAL):
        return HttpResponse("Not found\n", status=404, content_type="text/plain")
    return HttpResponse(metrics.text(), content_type="text/plain; version=0.0.4; charset=utf-8")
