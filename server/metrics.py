"""Numbers to watch, as plain text: requests, memory, runs, queue. Web processes and workers of a machine add up in
PROMETHEUS_MULTIPROC_DIR, where it is set."""

from __future__ import annotations

import os
from pathlib import Path

from django.db.models import Count, Min
from django.utils import timezone
from prometheus_client import CollectorRegistry, Counter, Gauge, Histogram, generate_latest, multiprocess

REQUESTS = Counter("lorica_requests", "Requests answered", ["method", "route", "status"])
SECONDS = Histogram(
    "lorica_request_seconds", "Time to answer", ["route"], buckets=(0.01, 0.03, 0.1, 0.3, 0.6, 1, 3, 10, 30)
)
MEMORY = Gauge("lorica_memory_bytes", "Resident memory of each process", ["what"], multiprocess_mode="liveall")


def answered(method: str, route: str, status: int, seconds: float) -> None:
    """Count a request."""
    REQUESTS.labels(method, route, str(status)).inc()
    SECONDS.labels(route).observe(seconds)
    MEMORY.labels("web").set(resident())


def resident() -> int:
    """Bytes of memory that this process holds."""
    return int(Path("/proc/self/statm").read_text().split()[1]) * os.sysconf("SC_PAGE_SIZE")


def text() -> bytes:
    """All numbers, in the text format that Prometheus reads."""
    from server.projects.models import Run

    registry = CollectorRegistry()
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        multiprocess.MultiProcessCollector(registry)  # type: ignore[no-untyped-call]
    else:
        for own in (REQUESTS, SECONDS, MEMORY):
            registry.register(own)
    states = dict(Run.objects.values_list("state").annotate(n=Count("id")).order_by())
    runs = Gauge("lorica_runs", "Runs by state", ["state"], registry=registry)
    for state in Run.State:
        runs.labels(state).set(states.get(state, 0))
    first = Run.objects.filter(state=Run.State.WAITING).aggregate(first=Min("asked"))["first"]
    waits = Gauge("lorica_queue_seconds", "How long the first waiting run has waited", registry=registry)
    waits.set((timezone.now() - first).total_seconds() if first else 0.0)
    return generate_latest(registry)
