"""Work on all processors at once: NumPy lets other threads run while it computes on arrays."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterable, Iterator
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import TypeVar

T = TypeVar("T")
R = TypeVar("R")


@cache
def _pool() -> ThreadPoolExecutor:
    """Made when it is first needed: threads do not outlive a fork."""
    return ThreadPoolExecutor(os.cpu_count() or 1, "computing")


def shared_out(work: Callable[[T], R], items: Iterable[T]) -> Iterator[R]:
    """The work done on each item, in order. What is not begun when the caller stops asking is left."""
    return _pool().map(work, items)
