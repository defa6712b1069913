"""Values found when they are first asked for, without a lock.

Python 3.11's `functools.cached_property` holds one lock for all instances while it computes: a thread that waits in it for work
of others keeps every other thread from computing the same attribute of anything. Here two threads may find a value twice.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, Generic, TypeVar, overload

T = TypeVar("T")


class lazily(Generic[T]):
    """An attribute found by a method when it is first read, and kept with the instance."""

    def __init__(self, find: Callable[[Any], T]) -> None:
        self.find = find
        self.name = find.__name__
        self.__doc__ = find.__doc__

    @overload
    def __get__(self, instance: None, owner: type | None = None) -> lazily[T]: ...

    @overload
    def __get__(self, instance: object, owner: type | None = None) -> T: ...

    def __get__(self, instance: object | None, owner: type | None = None) -> lazily[T] | T:
        if instance is None:
            return self
        found = self.find(instance)
        vars(instance)[self.name] = found
        return found
