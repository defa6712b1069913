"""Changes of a document: values set, items added to lists, removed and replaced; and what two people touched."""

from __future__ import annotations

import copy
import json
from collections import Counter
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from typing import Any, Literal

from engine.errors import ModelError

#: where something was touched: keys, names or numbers of items, or an item itself as text
Touched = tuple[str, ...]
_MISSING = object()


@dataclass(frozen=True)
class Change:
    """One change at a dotted path. "set": the value there; of a list there, "add": an item at its end, "remove": the item that is
    equal to `value`, "replace": the item that is equal to `was` by `value`. "clear": take away the key that the path ends in."""

    path: str
    value: Any
    do: Literal["set", "add", "remove", "replace", "clear"] = "set"
    was: Any = None


@dataclass(frozen=True)
class Difference:
    """A value that differs between two documents, by its dotted path."""

    path: str
    before: Any
    after: Any


def changed(document: dict[str, Any], changes: Iterable[Change]) -> dict[str, Any]:
    """A copy of the document with the changes made. Raises ModelError for a path that leads nowhere, and for an item that is not
    there as it was."""
    result = copy.deepcopy(document)
    for change in changes:
        *steps, last = change.path.split(".")
        place: Any = result
        items: Any = None
        try:
            for step in steps:
                place = place[int(step)] if isinstance(place, list) else place.setdefault(step, {})
                if place is None:
                    raise KeyError(step)
            key = int(last) if isinstance(place, list) else last
            if change.do == "set":
                place[key] = change.value
            elif change.do == "clear":
                del place[key]
            else:
                if isinstance(place, dict) and place.get(key) is None:
                    place[key] = []
                items = place[key]
                if not isinstance(items, list):
                    raise TypeError(change.path)
        except (KeyError, IndexError, ValueError, TypeError, AttributeError):
            raise ModelError(f"There is no place “{change.path}” in the document.", change.path) from None
        if items is not None:
            _among(items, change)
    return result


def _among(items: list[Any], change: Change) -> None:
    if change.do == "add":
        items.append(change.value)
        return
    wanted = change.value if change.do == "remove" else change.was
    if wanted not in items:
        name = wanted.get("name") if isinstance(wanted, dict) else None
        what = f"“{name}”" if name else "What was to be changed"
        raise ModelError(f"{what} is no longer there as it was; nothing was changed.", change.path)
    at = items.index(wanted)
    if change.do == "remove":
        del items[at]
    else:
        items[at] = change.value


def differences(before: Any, after: Any, path: str = "") -> Iterator[Difference]:
    """The values that differ, deepest first by path."""
    if isinstance(before, dict) and isinstance(after, dict):
        for key in [*before, *(k for k in after if k not in before)]:
            yield from differences(before.get(key), after.get(key), f"{path}.{key}" if path else key)
    elif isinstance(before, list) and isinstance(after, list) and len(before) == len(after):
        for i, (one, other) in enumerate(zip(before, after, strict=True)):
            yield from differences(one, other, f"{path}.{i}" if path else str(i))
    elif before != after:
        yield Difference(path, before, after)


def touched(before: Any, after: Any, path: Touched = ()) -> set[Touched]:
    """What differs between two documents, so that two people's changes may be compared: items of lists count by their names, without
    names by what they say."""
    if isinstance(before, dict) and isinstance(after, dict):
        found: set[Touched] = set()
        for key in before.keys() | after.keys():
            found |= touched(before.get(key, _MISSING), after.get(key, _MISSING), (*path, key))
        return found
    if isinstance(before, list) and isinstance(after, list):
        one, other = by_name(before), by_name(after)
        if one is not None and other is not None:
            return touched(one, other, path)
        if len(before) == len(after):
            pairs = enumerate(zip(before, after, strict=True))
            return set().union(*(touched(a, b, (*path, str(i))) for i, (a, b) in pairs))
        a, b = (Counter(json.dumps(item, sort_keys=True) for item in items) for items in (before, after))
        return {(*path, item) for item in (a - b) + (b - a)}
    return set() if before == after else {path}


def by_name(items: list[Any]) -> dict[str, Any] | None:
    """Items by name, edits by hand by their member; None where they have no name of their own."""
    names = [_name(item) for item in items]
    return dict(zip(names, items, strict=True)) if all(names) and len(set(names)) == len(names) else None


def _name(item: Any) -> str:
    if not isinstance(item, dict) or "case" in item:
        return ""
    found = item.get("name", item.get("member"))
    return found if isinstance(found, str) else ""


def set_outright(changes: Iterable[Change], before: dict[str, Any]) -> set[Touched]:
    """The places that changes set as they are, whatever stands there, with names in place of numbers."""
    found = set()
    for change in changes:
        if change.do not in ("set", "clear"):
            continue
        place: Any = before
        steps: list[str] = []
        for step in change.path.split("."):
            if isinstance(place, list):
                item = place[int(step)] if step.isdigit() and int(step) < len(place) else None
                named = by_name(place)
                steps.append(_name(item) if named is not None and item is not None else step)
                place = item
            else:
                steps.append(step)
                place = place.get(step) if isinstance(place, dict) else None
        found.add(tuple(steps))
    return found


def same_places(changes: Iterable[Change], before: dict[str, Any], now: dict[str, Any]) -> bool:
    """Whether the numbers of items in the changes' paths mean the same items in both documents."""
    for change in changes:
        one: Any = before
        other: Any = now
        for step in change.path.split("."):
            if isinstance(one, list):
                a, b = by_name(one), by_name(other) if isinstance(other, list) else None
                if a is not None and b is not None:
                    if list(a) != list(b):
                        return False
                elif not isinstance(other, list) or len(one) != len(other):
                    return False
                if not step.isdigit() or int(step) >= len(one):
                    break
                one, other = one[int(step)], other[int(step)]
            elif isinstance(one, dict) and isinstance(other, dict):
                one, other = one.get(step), other.get(step)
            else:
                break
    return True


def meet(mine: set[Touched], theirs: set[Touched]) -> bool:
    """Whether two people touched the same thing, or one something within what the other touched."""
    within = {place[:i] for place in theirs for i in range(1, len(place) + 1)}
    return any(place in within or any(place[:i] in theirs for i in range(1, len(place))) for place in mine)
