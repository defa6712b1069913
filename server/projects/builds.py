"""Builds of the program: results of one are not read by another, and one alone serves a database."""

from __future__ import annotations

import hashlib
import time
from functools import cache
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from server.projects.models import Installed

#: seconds between two looks at which build serves the database
LOOK = 2.0
OTHER = "Another build of Lorica serves this database now; load the page anew."
_seen: tuple[float, str] = (float("-inf"), "")


@cache
def own() -> str:
    """Fingerprint of the program that runs here."""
    found = hashlib.sha256()
    for folder in ("engine", "publish", "server"):
        for path in sorted((settings.ROOT / Path(folder)).rglob("*")):
            if path.suffix in (".py", ".csv", ".typ") and "migrations" not in path.parts:
                found.update(path.read_bytes())
    return found.hexdigest()


def install() -> None:
    """Say that this build serves the database from now on."""
    Installed.objects.update_or_create(id=1, defaults={"build": own(), "since": timezone.now()})


def replaced(now: bool = False) -> bool:
    """Whether another build serves the database; looked up every two seconds at most, or now."""
    global _seen
    if now or time.monotonic() - _seen[0] > LOOK:
        _seen = (time.monotonic(), Installed.objects.values_list("build", flat=True).first() or "")
    return noticed()


def noticed() -> bool:
    """Whether that was so when it was looked up last."""
    return _seen[1] not in ("", own())


class Replaced(Exception):
    """This build no longer serves the database."""
