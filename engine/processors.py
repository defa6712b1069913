"""Work on all processors at once: NumPy lets other threads run while it computes on arrays."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from functools import cache
from threading import local
from typing import TypeVar

T = TypeVar("T")
R = TypeVar("R")

_own = local()


def _enter() -> None:
    _own.works = True


@cache
def _pool() -> ThreadPoolExecutor:
    """Made when it is first needed: threads do not outlive a fork."""
    return ThreadPoolExecutor(os.cpu_count() or 1, "computing", initializer=_enter)


@contextmanager
def alone() -> Iterator[None]:
    """What is done within is not shared out: on processors that are busy with other work, sharing costs a tenth more."""
    before, _own.works = getattr(_own, "works", False), True
    try:
        yield
    finally:
        _own.works = before


def shared_out(work: Callable[[T], R], items: Iterable[T]) -> Iterator[R]:
    """The work done on each item, in order. What is not begun when the caller stops asking is left. A thread of the pool does
    such work itself: none of them ever waits for the pool, so whoever waits for it is served."""
    if getattr(_own, "works", False):
        return map(work, items)
    return _pool().map(work, items)
