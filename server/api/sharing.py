"""With whom a project is shared, whose it is, and what was done in it."""

from __future__ import annotations

from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.api.access import user_of
from server.people.roles import May
from server.projects import people_schemas, revisions, schemas, sharing
from server.projects.models import Project

router = Router()
#: what of a project's history is listed
LATEST = 300


def _out(project: Project) -> people_schemas.SharingOut:
    return people_schemas.SharingOut(
        owner=project.owner.get_username(),
        office_role=project.office_role or None,  # type: ignore[arg-type]
        shares=[
            people_schemas.ShareOut(name=share.person.get_username(), role=share.role)  # type: ignore[arg-type]
            for share in project.shares.select_related("person")
        ],
    )


@router.get("/projects/{project_id}/sharing", response=people_schemas.SharingOut)
def shown(request: HttpRequest, project_id: UUID) -> people_schemas.SharingOut:
    """Who may see the project, and as what."""
    return _out(revisions.project_of(user_of(request), project_id))


@router.put("/projects/{project_id}/sharing", response={200: people_schemas.SharingOut, 422: schemas.Problem})
def share(request: HttpRequest, project_id: UUID, body: people_schemas.Sharing) -> people_schemas.SharingOut:
    """Share the project with a person, or with all of the office where no name is given; without a role, no longer."""
    project = revisions.project_of(user_of(request), project_id, May.OWN)
    sharing.share(user_of(request), project, body.name, body.role)
    return _out(project)


@router.post("/projects/{project_id}/transfer", response={200: people_schemas.SharingOut, 422: schemas.Problem})
def transfer(request: HttpRequest, project_id: UUID, body: people_schemas.Transfer) -> people_schemas.SharingOut:
    """Give the project to somebody else; whose it was keeps on editing it."""
    project = revisions.project_of(user_of(request), project_id, May.OWN)
    sharing.transfer(user_of(request), project, body.name)
    return _out(project)


@router.get("/projects/{project_id}/history", response=list[people_schemas.HappenedOut])
def history(request: HttpRequest, project_id: UUID) -> list[people_schemas.HappenedOut]:
    """What was done in the project, by whom and when, newest first: revisions, and whom it was shared with."""
    project = revisions.project_of(user_of(request), project_id)
    made = project.revisions.select_related("author").defer("document", "patch").order_by("-number")[:LATEST]
    found = [
        people_schemas.HappenedOut(
            at=r.created, person=r.author.get_username() if r.author else "", words=r.label, revision=r.number
        )
        for r in made
    ]
    found += [
        people_schemas.HappenedOut(at=e.at, person=e.person.get_username() if e.person else "", words=e.words)
        for e in project.events.select_related("person")[:LATEST]
    ]
    return sorted(found, key=lambda h: h.at, reverse=True)[:LATEST]
