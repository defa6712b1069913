"""What is written of every request, sign-in and fault: lines of JSON. Never a password, a body or a document."""

from __future__ import annotations

import logging
import os
import time
import uuid
from contextvars import ContextVar
from typing import Any

from django.contrib.auth.signals import user_logged_in, user_logged_out, user_login_failed
from django.dispatch import receiver
from django.http import HttpRequest, HttpResponse

from server import metrics
from server.middleware import middleware

_log = logging.getLogger("lorica.requests")
_people = logging.getLogger("lorica.people")
#: number of the request that is answered, for whatever is logged meanwhile
_present: ContextVar[str] = ContextVar("request", default="")
#: questions that come every few seconds and say nothing when they are answered
QUIET = ("/healthz", "/readyz", "/metrics", "/static/")


class Numbered(logging.Filter):
    """Adds the number of the request, and of the process."""

    def filter(self, record: logging.LogRecord) -> bool:
        record.request_id = _present.get()
        record.pid = os.getpid()
        return True


def _begin(request: HttpRequest) -> HttpResponse | None:
    request.number = uuid.uuid4().hex[:12]  # type: ignore[attr-defined]
    request.began = time.perf_counter()  # type: ignore[attr-defined]
    _present.set(request.number)  # type: ignore[attr-defined]
    return None


def _end(request: HttpRequest, response: HttpResponse) -> HttpResponse:
    number: str = request.number  # type: ignore[attr-defined]
    seconds = time.perf_counter() - request.began  # type: ignore[attr-defined]
    response["X-Request-Id"] = number
    match = getattr(request, "resolver_match", None)
    route = match.route if match else ""
    metrics.answered(request.method or "", route, response.status_code, seconds)
    if response.status_code >= 400 or not request.path.startswith(QUIET):
        # what the session says, if anything has asked it: nothing is asked for this line
        person = getattr(getattr(request, "session", None), "_session_cache", {}).get("_auth_user_id", "")
        level = logging.ERROR if response.status_code >= 500 else logging.INFO
        told = {"person": person, "method": request.method, "route": route, "status": response.status_code}
        _log.log(level, "request", extra={**told, "ms": round(seconds * 1000, 1)})
    return response


#: numbers requests, and writes a line of each
requests = middleware(_begin, _end)


@receiver(user_logged_in)
def _signed_in(user: Any, **_: Any) -> None:
    _people.info("signed in", extra={"person": str(user.pk)})


@receiver(user_logged_out)
def _signed_out(user: Any, **_: Any) -> None:
    _people.info("signed out", extra={"person": str(user.pk) if user else ""})


@receiver(user_login_failed)
def _refused(credentials: dict[str, Any], request: HttpRequest | None = None, **_: Any) -> None:
    address = request.META.get("REMOTE_ADDR", "") if request else ""
    _people.warning(
        "sign-in refused", extra={"account": str(credentials.get("username", ""))[:150], "address": address}
    )
