"""Projects: listed, made, changed, and their revisions."""

from __future__ import annotations

import json
from datetime import timedelta
from functools import cache
from uuid import UUID

import numpy as np
from django.conf import settings
from django.contrib.auth.models import User
from django.db.models import Q
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import File, Form, Router, UploadedFile

from engine.chain import fingerprints, prepare
from engine.document import Document, read_document, read_stored
from engine.document.reading import read_json
from engine.document.units import in_kilonewtons
from engine.errors import ModelError
from engine.expand import expand
from engine.templates import TEMPLATES
from publish.taken import Taken
from server.api.access import ZIP, document_of, download, in_thread, revision_of, revision_out, user_of
from server.people.models import Role
from server.people.roles import May, may, need, need_role, shared_with, word_for
from server.projects import archive, kept, load_table_csv, project_schemas, queue, quotas, revisions, runs, schemas
from server.projects.cards import drawn
from server.projects.changes import Change
from server.projects.cleaning import remove
from server.projects.comparison import compare_documents
from server.projects.models import Project, Run
from server.projects.taking import read_file

router = Router()
#: projects of which nothing is known that one look at the list has computed
AT_ONCE = 4


def project_out(user: User, project: Project) -> project_schemas.ProjectOut:
    """A project with its head, as a person may see it."""
    head = project.head
    assert head is not None
    document = read_stored(head.content)
    return project_schemas.ProjectOut(
        id=project.id,
        name=project.name,
        archived=project.archived,
        revision=revision_out(head),
        can_undo=head.parent_id is not None,
        can_redo=bool(project.redo),
        paused=project.paused,
        owner=project.owner.get_username(),
        role=word_for(may(user, project) or May.LOOK),
        fingerprints=fingerprints(document),
        document=document,
    )


@router.get("/projects", response=project_schemas.ProjectList)
def projects(request: HttpRequest) -> project_schemas.ProjectList:
    """The projects that the user may see; their own that wait to be removed with them."""
    user = user_of(request)
    found = Project.objects.filter(shared_with(user)).filter(Q(deleted=None) | Q(owner=user))
    listed = list(found.select_related("head", "head__author", "head__checkpoint", "owner"))
    _have_computed([project for project in listed if not project.card and not project.deleted])
    now = quotas.used(user)
    return project_schemas.ProjectList(
        projects=[_summary(user, project) for project in listed],
        most_projects=now.most_projects,
        size=now.size / 1e6,
        most_size=now.most_size / 1e6,
    )


def _have_computed(unknown: list[Project]) -> None:
    """Have workers compute some of the projects of which nothing is known yet."""
    if not settings.WORKERS:
        return
    for project in unknown[:AT_ONCE]:
        assert project.head is not None
        try:
            runs.ask(project, project.head, read_stored(project.head.content))
        except ModelError:
            # the list says so
            continue


def _summary(user: User, project: Project) -> project_schemas.ProjectSummary:
    assert project.head is not None
    try:
        words, readable = _in_words(read_stored(project.head.content)), True
    except ModelError as error:
        # one that cannot be opened does not hide the others
        words, readable = error.message, False
    return project_schemas.ProjectSummary(
        id=project.id,
        name=project.name,
        archived=project.archived,
        changed=project.changed,
        owner=project.owner.get_username(),
        role=word_for(may(user, project) or May.LOOK),
        by=project.head.author.get_username() if project.head.author else "",
        card=project_schemas.CardOut(**project.card) if "revision" in project.card else None,
        shared=bool(project.office_role) or project.shares.exists(),
        revision=project.head.number,
        summary=words,
        readable=readable,
        deleted=project.deleted,
        removed=project.deleted + timedelta(days=settings.DELETED_DAYS) if project.deleted else None,
    )


def _in_words(document: Document) -> str:
    hall = document.hall
    words = f"{len(document.members)} members by hand"
    if hall:
        spans = " + ".join(f"{bay.span:g}" for bay in hall.bays)
        words = f"{spans} m hall, {hall.frames} frames over {hall.length:g} m, eaves {hall.eaves_height:g} m"
    if document.jigs:
        words += ", " + ", ".join(f"{jig.kind} “{jig.name}”" for jig in document.jigs)
    return words


@cache
def _templates() -> list[project_schemas.TemplateOut]:
    found = []
    for t in TEMPLATES.values():
        structure = expand(t.make())
        lines, _ = drawn(structure, np.zeros(len(structure.members), dtype=bool))
        found.append(project_schemas.TemplateOut(key=t.key, title=t.title, words=t.words, lines=lines))
    return found


@router.get("/templates", response=list[project_schemas.TemplateOut])
def templates(request: HttpRequest) -> list[project_schemas.TemplateOut]:
    """What a project may begin with."""
    return _templates()


@router.post("/projects", response={201: project_schemas.ProjectOut, 422: schemas.Problem})
def create_project(request: HttpRequest, body: project_schemas.NewProject) -> tuple[int, project_schemas.ProjectOut]:
    template = TEMPLATES.get(body.template)
    if body.kept is not None:
        document = kept.document_of(kept.find(body.kept), body.name)
        prepare(document, most=revisions.AT_ONCE)
    elif template is None:
        raise ModelError(f"There is no template “{body.template}”.", "template")
    else:
        document = template.make().model_copy(update={"name": body.name})
    return 201, project_out(user_of(request), revisions.create(user_of(request), document, "New project"))


@router.post("/projects/import", response={201: project_schemas.ProjectOut, 422: schemas.Problem})
def import_project(request: HttpRequest) -> tuple[int, project_schemas.ProjectOut]:
    """A new project from a document in the file format."""
    document = in_kilonewtons(read_document(read_json(request.body)))
    prepare(document, most=revisions.AT_ONCE)
    return 201, project_out(user_of(request), revisions.create(user_of(request), document, "Taken in from a file"))


@router.post("/projects/import/archive", response={201: project_schemas.ProjectOut, 422: schemas.Problem})
def import_archive(
    request: HttpRequest, file: File[UploadedFile | None] = None
) -> tuple[int, project_schemas.ProjectOut]:
    """A new project from an archive: with its revisions and pictures."""
    need_role(user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    if file is None:
        raise ModelError("No file was sent.", "file")
    return 201, project_out(user_of(request), archive.unpacked(user_of(request), file.read()))


@router.post("/projects/import/read", response={200: Taken, 422: schemas.Problem})
async def read_other(request: HttpRequest, file: File[UploadedFile | None] = None, settled: Form[str] = "[]") -> Taken:
    """What a file of others (IFC4, DXF, a spreadsheet, a table) becomes, with what was understood, guessed and left out, and what can be
    settled of it. Nothing is made: the document is posted to be."""
    await in_thread(need_role, user_of(request), Role.DESIGNER, Role.ADMINISTRATOR)
    if file is None:
        raise ModelError("No file was sent.", "file")
    return await read_file(file.read(), file.name or "", settled)


@router.get("/projects/{project_id}", response={200: project_schemas.ProjectOut, 422: schemas.Problem})
def project(request: HttpRequest, project_id: UUID) -> project_schemas.ProjectOut:
    return project_out(user_of(request), revisions.project_of(user_of(request), project_id))


@router.get("/projects/{project_id}/head", response=project_schemas.RevisionOut)
def head(request: HttpRequest, project_id: UUID) -> project_schemas.RevisionOut:
    """Which revision stands."""
    return revision_out(revision_of(request, project_id, None)[1])


@router.patch("/projects/{project_id}", response=project_schemas.ProjectOut)
def change_project(
    request: HttpRequest, project_id: UUID, body: project_schemas.ProjectChange
) -> project_schemas.ProjectOut:
    """Rename, archive or pause. A new name is a revision like any edit."""
    found = revisions.project_of(user_of(request), project_id, May.CHANGE)
    if body.name is not None and found.head is not None:
        changes = [Change("name", body.name)]
        found = revisions.edit(user_of(request), project_id, found.head.number, f"Renamed to {body.name}", changes)
    if body.archived is not None:
        found.archived = body.archived
        found.save(update_fields=["archived"])
    if body.paused is not None:
        found.paused = body.paused
        found.save(update_fields=["paused"])
    return project_out(user_of(request), found)


@router.delete("/projects/{project_id}", response={204: None, 422: schemas.Problem})
def delete_project(request: HttpRequest, project_id: UUID, body: project_schemas.Deletion) -> tuple[int, None]:
    """Delete a project: it waits some days to be removed; with its name typed again, it is removed at once."""
    found = _owned(user_of(request), project_id)
    if body.name and body.name != found.name:
        raise ModelError(f"The project is named “{found.name}”. Nothing was removed.", "name")
    if body.name:
        remove(found)
        return 204, None
    if found.deleted is None:
        found.deleted = timezone.now()
        found.save(update_fields=["deleted"])
        runs.cancel(found)
        queue.cancel(found, Run.Kind.SIZING)
        queue.cancel(found, Run.Kind.STUDY)
    return 204, None


@router.post("/projects/{project_id}/recover", response=project_schemas.ProjectSummary)
def recover_project(request: HttpRequest, project_id: UUID) -> project_schemas.ProjectSummary:
    """Bring back a project that waits to be removed."""
    found = _owned(user_of(request), project_id)
    found.deleted = None
    found.save(update_fields=["deleted"])
    return _summary(user_of(request), found)


def _owned(user: User, project_id: UUID) -> Project:
    """A project that a person may do all in, also one that waits to be removed. Raises Http404 and Forbidden."""
    seen = Project.objects.filter(Q(deleted=None) | Q(owner=user)).select_related("head", "owner")
    found = get_object_or_404(seen, id=project_id)
    need(user, found, May.OWN)
    return found


@router.post("/projects/{project_id}/duplicate", response={201: project_schemas.ProjectOut})
def duplicate_project(request: HttpRequest, project_id: UUID) -> tuple[int, project_schemas.ProjectOut]:
    document, _ = document_of(request, project_id, None)
    copy = document.model_copy(update={"name": f"{document.name[:73]} (copy)"})
    return 201, project_out(user_of(request), revisions.create(user_of(request), copy, f"Copy of {document.name}"))


@router.post(
    "/projects/{project_id}/edits",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def edit(request: HttpRequest, project_id: UUID, body: project_schemas.Edit) -> project_schemas.ProjectOut:
    changes = [Change(c.path, c.value, c.do, c.was) for c in body.changes]
    return project_out(
        user_of(request), revisions.edit(user_of(request), project_id, body.base, body.label[:200], changes)
    )


@router.post(
    "/projects/{project_id}/operate",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def operate(request: HttpRequest, project_id: UUID, body: project_schemas.Operate) -> project_schemas.ProjectOut:
    """Operations by hand, as one revision."""
    found = revisions.operate(user_of(request), project_id, body.base, body.label[:200], body.operations)
    return project_out(user_of(request), found)


@router.get("/projects/{project_id}/versions", response=list[project_schemas.Version])
def versions(request: HttpRequest, project_id: UUID) -> list[project_schemas.Version]:
    """Revisions that bear a name, newest first, and the last twenty without."""
    return [
        project_schemas.Version(
            number=r.number,
            name=r.name,
            label=r.label,
            author=r.author.get_username() if r.author else "",
            created=r.created,
        )
        for r in revisions.versions(revisions.project_of(user_of(request), project_id))
    ]


@router.post("/projects/{project_id}/versions", response={200: project_schemas.Version, 422: schemas.Problem})
def name_version(request: HttpRequest, project_id: UUID, body: project_schemas.NameVersion) -> project_schemas.Version:
    """Give a revision a name, or take it away with an empty one."""
    r = revisions.name_version(revisions.project_of(user_of(request), project_id, May.CHANGE), body.number, body.name)
    author = r.author.get_username() if r.author else ""
    return project_schemas.Version(number=r.number, name=r.name, label=r.label, author=author, created=r.created)


@router.post(
    "/projects/{project_id}/restore",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def restore(request: HttpRequest, project_id: UUID, body: project_schemas.Restore) -> project_schemas.ProjectOut:
    """Make an older revision the head again, as a new revision: nothing in between is lost."""
    return project_out(user_of(request), revisions.restore(user_of(request), project_id, body.base, body.number))


@router.get("/projects/{project_id}/compare", response={200: project_schemas.Comparison, 422: schemas.Problem})
def compare(request: HttpRequest, project_id: UUID, before: int, after: int) -> project_schemas.Comparison:
    one, _ = document_of(request, project_id, before)
    other, _ = document_of(request, project_id, after)
    return project_schemas.Comparison(before=before, after=after, **vars(compare_documents(one, other)))


@router.post(
    "/projects/{project_id}/undo",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def undo(request: HttpRequest, project_id: UUID, body: project_schemas.Base) -> project_schemas.ProjectOut:
    return project_out(user_of(request), revisions.undo(user_of(request), project_id, body.base))


@router.post(
    "/projects/{project_id}/redo",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def redo(request: HttpRequest, project_id: UUID, body: project_schemas.Base) -> project_schemas.ProjectOut:
    return project_out(user_of(request), revisions.redo(user_of(request), project_id, body.base))


@router.get("/projects/{project_id}/load-tables")
def download_load_tables(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The project's tables of purlins and rails as CSV."""
    project, own = revision_of(request, project_id, None)
    tables = read_stored(own.content).load_tables
    return download(load_table_csv.written(tables), project.name, "load-tables", "text/csv")


@router.get("/projects/{project_id}/archive")
def download_archive(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The project as one file: revisions, pictures, issues."""
    found = revisions.project_of(user_of(request), project_id)
    return download(archive.packed(found), found.name, "project", ZIP)


@router.get("/projects/{project_id}/document")
def download_document(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The document of the head; as it is stored where this build does not take it."""
    project, own = revision_of(request, project_id, None)
    try:
        data = read_stored(own.content).model_dump(mode="json")
    except ModelError:
        data = own.content
    return download(json.dumps(data, indent=1), project.name, f"revision-{own.number}")
