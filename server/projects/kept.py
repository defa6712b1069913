"""What the office keeps beside its sections: sets of national values, limits, prices, materials, layouts of the dossier, templates. Each
is kept from a project as it stands, and put into another one as one revision."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any, Literal, get_args

from django.contrib.auth.models import User
from django.http import Http404

from engine.document import Document, read_stored
from engine.document.handover import ChapterPlan
from engine.errors import ModelError
from engine.standards.family import national_values
from server.projects.changes import Change
from server.projects.models import OfficeKept

Kind = Literal["national", "limits", "prices", "stock", "materials", "tables", "dossier", "template"]
#: kind -> what it is called, and the paths of the document that it takes up, where these are always the same
KINDS: dict[str, tuple[str, tuple[str, ...]]] = {
    "national": ("National values", ()),
    "limits": (
        "Limits of deflection and slenderness",
        (
            "rules.rafter_deflection_ratio",
            "rules.eaves_sway_ratio",
            "rules.apart_ratio",
            "rules.deflections",
            "rules.deflections_variable",
            "rules.limits",
            "rules.frequencies",
            "rules.floor_frequency",
            "rules.slenderness",
        ),
    ),
    "prices": ("Prices", ("sizing.prices",)),
    "stock": ("Stock", ("sizing.stock", "sizing.avoid")),
    "materials": ("Materials", ("materials",)),
    "tables": ("Tables of purlins and rails", ("load_tables",)),
    "dossier": ("Layout of the dossier", ("dossier.paper", "dossier.every_member", "dossier.chapters")),
    "template": ("Template of a project", ()),
}
#: kinds that are lists of named things, of which a project takes those it does not have
LISTS = {"materials": "materials", "tables": "load_tables"}
MOST = 200
#: what a chapter of the dossier says and shows of its own project, which no layout brings along or takes away
OWN_PARTS = ("remark", "pictures", "views", "tables")


def kinds() -> tuple[str, ...]:
    """All kinds, in the order in which they are listed."""
    return get_args(Kind)


def keep(user: User, kind: Kind, name: str, document: Document) -> OfficeKept:
    """Keep what a document has of a kind under a name; what bore it before is replaced. Raises ModelError where there is nothing to
    keep, and beyond MOST of a kind."""
    words = name.strip()[:80]
    if not words:
        raise ModelError("It needs a name.", "name")
    content = part_of(document, kind)
    if not content:
        raise ModelError(f"There is nothing of it to keep: {KINDS[kind][0].lower()} are as they come.", "kind")
    others = OfficeKept.objects.filter(kind=kind).exclude(name=words)
    if others.count() >= MOST:
        raise ModelError(f"The office keeps {MOST} of these already.", "name")
    kept, _ = OfficeKept.objects.update_or_create(kind=kind, name=words, defaults={"content": content, "author": user})
    return kept


def keep_national(user: User, name: str, values: dict[str, Any]) -> OfficeKept:
    """Keep national values, by path, under a name. Raises ModelError without a name, or where all are as recommended."""
    words = name.strip()[:80]
    if not words:
        raise ModelError("It needs a name.", "name")
    if not values:
        raise ModelError("All values are as recommended: there is nothing to keep.", "file")
    kept, _ = OfficeKept.objects.update_or_create(
        kind="national", name=words, defaults={"content": values, "author": user}
    )
    return kept


def find(number: int) -> OfficeKept:
    """What is kept under a number. Raises Http404."""
    kept = OfficeKept.objects.filter(pk=number).first()
    if kept is None:
        raise Http404
    return kept


def part_of(document: Document, kind: Kind) -> dict[str, Any]:
    """What a document has of a kind: values by their paths; of a template the whole."""
    data = document.model_dump(mode="json")
    if kind == "template":
        return {**data, "name": "Template"}
    if kind == "national":
        found = {v.path: _at(data, v.path) for v in national_values()}
        differing = {v.path: found[v.path] for v in national_values() if found[v.path] != v.recommended}
        source = data["national"]["source"]
        return {**differing, **({"national.source": source} if source else {})}
    found = {path: _at(data, path) for path in KINDS[kind][1]}
    if kind in LISTS:
        return found if found[LISTS[kind]] else {}
    if kind == "dossier":
        # remarks are of their project
        found["dossier.chapters"] = {
            key: {part: value for part, value in plan.items() if part not in OWN_PARTS}
            for key, plan in (found["dossier.chapters"] or {}).items()
        }
    return found


def changes_of(kept: OfficeKept, document: Document) -> list[Change]:
    """What puts it into a document. Raises ModelError for a template, with which a project begins."""
    if kept.kind == "template":
        raise ModelError("A template begins a project; it is not put into one.", "kind")
    data = document.model_dump(mode="json")
    return list(_changes(kept.kind, kept.content, data))


def _changes(kind: str, content: dict[str, Any], data: dict[str, Any]) -> Iterator[Change]:
    if kind == "national":
        wanted = {v.path: content.get(v.path, v.recommended) for v in national_values()}
        wanted["national.source"] = content.get("national.source", "")
    elif kind in LISTS:
        path = LISTS[kind]
        present = {own["name"]: own for own in data[path]}
        for item in content[path]:
            before = present.get(item["name"])
            if before is None:
                yield Change(path, item, "add")
            elif before != item:
                yield Change(path, item, "replace", before)
        return
    elif kind == "dossier":
        # what this project says and shows stays its own
        wanted = {
            **content,
            "dossier.chapters": _laid_out(content["dossier.chapters"] or {}, data["dossier"]["chapters"]),
        }
    else:
        wanted = content
    for path, value in wanted.items():
        if _at(data, path) != value:
            yield Change(path, value)


def _laid_out(layout: dict[str, Any], present: dict[str, Any]) -> dict[str, Any]:
    """Chapters by a layout, each with the remarks, pictures, views and tables that it has."""
    empty = {
        key: [] if isinstance(value, list) else value for key, value in ChapterPlan().model_dump(mode="json").items()
    }
    found = {}
    for key in dict.fromkeys([*layout, *present]):
        own = {part: value for part, value in present.get(key, {}).items() if part in OWN_PARTS}
        found[key] = {**empty, **layout.get(key, {}), **own}
    return found


def document_of(kept: OfficeKept, name: str) -> Document:
    """The document of a template, under a name. Raises ModelError for what is none."""
    if kept.kind != "template":
        raise ModelError(f"“{kept.name}” is no template of a project.", "template")
    return read_stored(kept.content).model_copy(update={"name": name})


def _at(data: Any, path: str) -> Any:
    for step in path.split("."):
        data = data.get(step) if isinstance(data, dict) else None
    return data
