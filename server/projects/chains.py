"""Chains of documents, computed once and kept while they are in use."""

from __future__ import annotations

import json
import threading
from collections import OrderedDict

from engine.chain import Chain, run
from engine.document import Document
from engine.errors import ModelError

#: chains kept in memory; one of an ordinary hall takes some 30 MB
KEPT = 12

_kept: OrderedDict[str, Chain | ModelError] = OrderedDict()
_locks: dict[str, threading.Lock] = {}
_guard = threading.Lock()


def chain_of(document: Document) -> Chain:
    """The chain of a document, from memory if it is there. Raises ModelError."""
    key = json.dumps(document.model_dump(mode="json"), sort_keys=True)
    with _guard:
        lock = _locks.setdefault(key, threading.Lock())
    with lock:
        with _guard:
            found = _kept.get(key)
            if found is not None:
                _kept.move_to_end(key)
        if found is None:
            try:
                found = run(document)
            except ModelError as error:
                found = error
            with _guard:
                _kept[key] = found
                while len(_kept) > KEPT:
                    _kept.popitem(last=False)
    with _guard:
        _locks.pop(key, None)
    if isinstance(found, ModelError):
        raise found
    return found
