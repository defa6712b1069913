"""Results of chains: stored in PostgreSQL by fingerprint, and those in use kept in memory.

A stored chain is a pickle sealed with the application's secret: what does not bear the seal is never opened. What can be found
again from displacements and end forces (diagrams, segments) is not stored.
"""

from __future__ import annotations

import hashlib
import json
import pickle
import threading
from collections import OrderedDict
from datetime import timedelta
from typing import Any

import zstandard
from django.conf import settings
from django.db import transaction
from django.db.models import Sum
from django.db.models.functions import Length
from django.utils import timezone
from django.utils.crypto import constant_time_compare, salted_hmac

from engine.chain import Chain, Forces, fingerprints
from engine.document import Document
from engine.errors import ModelError
from server.projects import builds, pieces
from server.projects.models import Result

#: chains kept in memory, all but the last without what can be recovered; one of an ordinary hall takes 30 to 60 MB
KEPT = 6
#: bytes that they may take together as they are stored, some eight times as much in memory; the last is kept all the same
KEPT_SIZE = 25_000_000
#: how often a use is written down, which pruning goes by
NOTED = timedelta(hours=1)
_SEAL = 32

_kept: OrderedDict[str, Chain | ModelError] = OrderedDict()
_sizes: dict[str, int] = {}
_guard = threading.Lock()


def key_of(document: Document) -> str:
    """The fingerprint of a document's whole result; what its dossier tells and its sizing may choose are no part of it."""
    text = json.dumps(document.model_dump(mode="json", exclude={"dossier", "sizing"}), sort_keys=True)
    return hashlib.sha256((builds.own() + text).encode()).hexdigest()


def response_key(document: Document) -> str:
    """The fingerprint of its stages up to the response."""
    return hashlib.sha256((builds.own() + fingerprints(document)["response"]).encode()).hexdigest()


def keep(key: str, found: Chain | ModelError, size: int = 0) -> None:
    """Keep in this process's memory. size: bytes as it is stored."""
    with _guard:
        _kept[key] = found
        _sizes[key] = size
        _kept.move_to_end(key)
        while len(_kept) > KEPT or (len(_kept) > 1 and sum(_sizes.values()) > KEPT_SIZE):
            del _sizes[_kept.popitem(last=False)[0]]
        for other in list(_kept.values())[:-1]:
            if isinstance(other, Chain):
                other.verification.grounds.forget()


def _remembered(key: str) -> Chain | ModelError | None:
    with _guard:
        found = _kept.get(key)
        if found is not None:
            _kept.move_to_end(key)
        return found


def show(document: Document, found: Chain | ModelError, screen: bytes, card: dict[str, Any]) -> None:
    """Store what the workbench shows of a result; `store` follows."""
    key = key_of(document)
    small = _pressed(screen)
    response = response_key(document) if isinstance(found, Chain) else ""
    Result.objects.update_or_create(
        key=key,
        defaults={
            "response": response,
            "screen": small,
            "card": card,
            "complete": False,
            "refused": "",
            "size": len(small),
            "used": timezone.now(),
        },
    )


def card_of(key: str) -> dict[str, Any]:
    """What the list of projects tells of a stored result."""
    found = Result.objects.filter(key=key).values_list("card", flat=True).first()
    return dict(found or {})


def store(document: Document, found: Chain | ModelError) -> None:
    """Store the chain of a result that is shown, in pieces, and drop the longest unused ones when they are too many. One that is
    larger than all results may be together is refused, once, in words."""
    key = key_of(document)
    numbers = sealed(found)
    keep(key, found, len(numbers))
    if len(numbers) > settings.RESULTS_SIZE:
        size, most = len(numbers) / 1e6, settings.RESULTS_SIZE / 1e6
        words = f"The numbers of this building take {size:,.0f} MB; no more than {most:,.0f} MB are kept (LORICA_RESULTS_MB)."
        Result.objects.filter(key=key).update(refused=words)
        return
    with transaction.atomic():
        # shown and kept since, or pruned meanwhile
        if not Result.objects.filter(key=key).update(complete=True, size=Length("screen") + len(numbers)):
            return
        pieces.write(key, numbers)
    prune()


def drop(key: str) -> None:
    """Forget a stored result whose chain never came."""
    Result.objects.filter(key=key, complete=False, refused="").delete()


def prune() -> None:
    """Drop the results not used for longest while all together take more than RESULTS_SIZE."""
    total = Result.objects.aggregate(total=Sum("size"))["total"] or 0
    excess, doomed = total - settings.RESULTS_SIZE, []
    if excess <= 0:
        return
    for key, size in Result.objects.order_by("used").values_list("key", "size").iterator():
        doomed.append(key)
        excess -= size
        if excess <= 0:
            break
    Result.objects.filter(key__in=doomed).delete()


def screen_of(key: str) -> bytes | None:
    """What the workbench shows of a stored result, as JSON; None when it is not stored."""
    row = Result.objects.filter(key=key).values_list("screen", "used").first()
    if row is None:
        return None
    if timezone.now() - row[1] > NOTED:
        Result.objects.filter(key=key).update(used=timezone.now())
    return zstandard.decompress(row[0])


def is_stored(key: str) -> bool:
    """Whether the result is there."""
    return Result.objects.filter(key=key).exists()


def chain_by(key: str) -> Chain | ModelError | None:
    """The chain of a result, from memory or as it is stored; None when neither has it. Raises ModelError for one that was too
    large to be stored."""
    found = _remembered(key)
    if found is None:
        row = Result.objects.filter(key=key).values_list("complete", "refused").first()
        if row is not None and row[1]:
            raise ModelError(row[1], "")
        if row is not None and row[0]:
            numbers = pieces.read(key)
            found = opened(numbers)
            if found is not None:
                keep(key, found, len(numbers))
    return found


def forces_like(document: Document) -> Forces | None:
    """The stages up to the response of any result in which they are the same."""
    response = response_key(document)
    key = (
        Result.objects.filter(response=response, complete=True).order_by("-used").values_list("key", flat=True).first()
    )
    found = chain_by(key) if key else None
    return found if isinstance(found, Chain) else None


def sealed(value: object) -> bytes:
    """A compressed pickle that bears the seal of this installation and of this build."""
    body = _pressed(pickle.dumps(value, protocol=5))
    return _seal(body) + body


def opened(data: bytes) -> Any:
    """What was sealed; None for what does not bear the seal."""
    seal, body = data[:_SEAL], data[_SEAL:]
    return pickle.loads(zstandard.decompress(body)) if constant_time_compare(seal, _seal(body)) else None


def _pressed(data: bytes) -> bytes:
    # seven times as quick as zlib, and as small
    return zstandard.compress(data, 1)


def _seal(body: bytes) -> bytes:
    return salted_hmac(f"lorica.result {builds.own()}", body, algorithm="sha256").digest()
