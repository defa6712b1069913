"""References between the parts of a document: which fields name a node, a member, a case or a panel, found by their types.

A field that refers to something says so in its type (`NodeName`, `MemberName`, …); whoever renames, removes or checks what is
referred to walks over all of them at once, so that none is forgotten.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from types import UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from pydantic import BaseModel

from engine.document.base import Name

Kind = Literal["node", "member", "case", "panel"]


@dataclass(frozen=True)
class Ref:
    """Marks a name as that of a thing of a kind."""

    kind: Kind


NodeName = Annotated[Name, Ref("node")]
MemberName = Annotated[Name, Ref("member")]
CaseName = Annotated[Name, Ref("case")]
PanelName = Annotated[Name, Ref("panel")]

#: gives the name that stands in place of one, several where it stands in a list, None where it goes; the place is a dotted path
Change = Callable[[Kind, str, str], str | list[str] | None]


@cache
def _fields(model: type[BaseModel]) -> dict[str, Any]:
    """The annotations of a model's fields that can hold references."""
    hints = get_type_hints(model, include_extras=True)
    return {name: hints[name] for name in model.model_fields if _holds(hints[name], frozenset({model}))}


def _holds(annotation: Any, seen: frozenset[type[BaseModel]]) -> bool:
    """Whether a type can hold references; seen: models on the way, which do not count again."""
    if any(isinstance(mark, Ref) for mark in getattr(annotation, "__metadata__", ())):
        return True
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        if annotation in seen:
            return False
        hints = get_type_hints(annotation, include_extras=True)
        return any(_holds(hints[name], seen | {annotation}) for name in annotation.model_fields)
    return any(_holds(part, seen) for part in get_args(annotation))


_GONE = object()


def _walk(annotation: Any, value: Any, place: str, change: Change) -> Any:
    """The value with its references changed; models are changed in place. _GONE for a name that goes."""
    marks = getattr(annotation, "__metadata__", ())
    for mark in marks:
        if isinstance(mark, Ref) and isinstance(value, str):
            found = change(mark.kind, value, place)
            if found is None or (isinstance(found, list) and not place.rpartition(".")[2].isdigit()):
                return _GONE
            return found
    if isinstance(value, BaseModel):
        for name, inner in _fields(type(value)).items():
            before = getattr(value, name)
            after = _walk(inner, before, f"{place}.{name}" if place else name, change)
            if after is _GONE:
                return _GONE
            if after is not before:
                setattr(value, name, after)
        return value
    origin, parts = get_origin(annotation), get_args(annotation)
    if origin is Annotated:
        return _walk(parts[0], value, place, change)
    if origin in (Union, UnionType):
        fit = next((part for part in parts if _fits(part, value)), None)
        return value if fit is None else _walk(fit, value, place, change)
    if isinstance(value, list) and parts:
        walked: list[Any] = []
        for i, item in enumerate(value):
            found_item = _walk(parts[0], item, f"{place}.{i}", change)
            several = isinstance(item, str) and isinstance(found_item, list)
            walked += found_item if several else [] if found_item is _GONE else [found_item]
        return walked
    if isinstance(value, tuple) and parts and parts[-1] is not Ellipsis:
        inner = [
            _walk(part, item, f"{place}.{i}", change) for i, (part, item) in enumerate(zip(parts, value, strict=True))
        ]
        if any(item is _GONE or isinstance(item, list) for item in inner):
            return _GONE
        return value if all(a is b for a, b in zip(inner, value, strict=True)) else tuple(inner)
    if isinstance(value, dict) and len(parts) == 2:
        found_ = {}
        for key, item in value.items():
            new_key = _walk(parts[0], key, f"{place}.{key}", change)
            new_item = _walk(parts[1], item, f"{place}.{key}", change)
            if new_key is not _GONE and new_item is not _GONE:
                found_[new_key] = new_item
        return found_
    return value


def _fits(annotation: Any, value: Any) -> bool:
    """Whether a value can be one of a type of a union."""
    if get_origin(annotation) is Annotated:
        return _fits(get_args(annotation)[0], value)
    plain = get_origin(annotation) or annotation
    return isinstance(plain, type) and isinstance(value, plain)


def references(document: BaseModel) -> list[tuple[str, Kind, str]]:
    """All references of a document: place, kind and name."""
    found: list[tuple[str, Kind, str]] = []

    def note(kind: Kind, name: str, place: str) -> str:
        found.append((place, kind, name))
        return name

    _walk(type(document), document, "", note)
    return found


def rename(document: BaseModel, kind: Kind, names: dict[str, str]) -> None:
    """Change a document in place: references of a kind to their new names."""
    _walk(type(document), document, "", lambda of, name, _: names.get(name, name) if of == kind else name)


def split(document: BaseModel, kind: Kind, names: dict[str, list[str]]) -> None:
    """Change a document in place: in lists several names stand where one did; what refers to that one alone goes."""
    _walk(type(document), document, "", lambda of, name, _: names.get(name, name) if of == kind else name)


def drop(document: BaseModel, kind: Kind, names: set[str]) -> None:
    """Change a document in place: without references of a kind to names that are gone. What consists in such a reference (a load,
    a support, a bow, an entry of a list) goes with it."""
    _walk(type(document), document, "", lambda of, name, _: None if of == kind and name in names else name)
