"""What the office keeps for its projects: kept from one of them, put into another, or begun with."""

from __future__ import annotations

from typing import cast
from uuid import UUID

import numpy as np
from django.http import Http404, HttpRequest, HttpResponse
from ninja import Router

from engine.document import read_stored
from engine.errors import ModelError
from engine.expand import expand
from server.api.access import download, revision_of, user_of
from server.api.projects import project_out
from server.people.models import Role
from server.people.roles import May, need_role
from server.projects import kept, kept_schemas, national_csv, project_schemas, revisions, schemas
from server.projects.cards import drawn
from server.projects.models import OfficeKept

router = Router()


def _out(found: OfficeKept) -> kept_schemas.KeptOut:
    lines = ""
    if found.kind == "template":
        try:
            structure = expand(read_stored(found.content))
            lines = drawn(structure, np.zeros(len(structure.members), dtype=bool))[0]
        except ModelError:
            # a template of an older build that does not stand any more still shows its name
            lines = ""
    return kept_schemas.KeptOut(
        id=found.pk,
        kind=cast(kept.Kind, found.kind),
        title=kept.KINDS[found.kind][0],
        name=found.name,
        by=found.author.get_username() if found.author else "",
        changed=found.changed,
        lines=lines,
    )


@router.get("/office/kept", response=list[kept_schemas.KeptOut])
def every(request: HttpRequest, kind: str = "") -> list[kept_schemas.KeptOut]:
    """What the office keeps, of one kind or of all."""
    found = OfficeKept.objects.select_related("author")
    order = {name: i for i, name in enumerate(kept.kinds())}
    rows = found.filter(kind=kind) if kind else found.all()
    return [_out(row) for row in sorted(rows, key=lambda row: (order.get(row.kind, 99), row.name.lower()))]


@router.post("/office/kept", response={200: kept_schemas.KeptOut, 422: schemas.Problem})
def keep(request: HttpRequest, body: kept_schemas.Keep) -> kept_schemas.KeptOut:
    """Keep what a project has of a kind, by who may change it; what bore that name is replaced."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    _, head = revision_of(request, body.project, None, May.CHANGE)
    return _out(kept.keep(user_of(request), body.kind, body.name, read_stored(head.content)))


@router.post("/office/national", response={200: kept_schemas.KeptOut, 422: schemas.Problem})
def take_national(request: HttpRequest, body: kept_schemas.NationalFile) -> kept_schemas.KeptOut:
    """Keep national values from a CSV file, all of them or none."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    return _out(kept.keep_national(user_of(request), body.name, national_csv.read(body.text)))


@router.get("/office/national/{number}")
def give_national(request: HttpRequest, number: int) -> HttpResponse:
    """A set of national values as a CSV file, what is recommended beside."""
    found = kept.find(number)
    if found.kind != "national":
        raise Http404
    return download(national_csv.written(found.content), found.name, "national", "text/csv")


@router.delete("/office/kept/{number}", response={204: None})
def drop(request: HttpRequest, number: int) -> tuple[int, None]:
    """Keep something no longer; projects that took it over keep theirs."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    kept.find(number).delete()
    return 204, None


@router.post(
    "/projects/{project_id}/kept",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def put(request: HttpRequest, project_id: UUID, body: kept_schemas.Put) -> project_schemas.ProjectOut:
    """Put what the office keeps into a project, as one revision."""
    _, head = revision_of(request, project_id, None, May.CHANGE)
    found = kept.find(body.kept)
    changes = kept.changes_of(found, read_stored(head.content))
    label = f"{kept.KINDS[found.kind][0]} of the office: {found.name}"
    return project_out(user_of(request), revisions.edit(user_of(request), project_id, body.base, label, changes))
