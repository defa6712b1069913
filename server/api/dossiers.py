"""The dossier: made, issued, read, questioned, ticked."""

from __future__ import annotations

import asyncio
import time
from typing import Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404
from ninja import File, Router, UploadedFile

from engine.errors import ModelError
from publish.tables.dossier import separate
from server.api.access import DXF, PDF, SHEETS, ZIP, download, in_thread, revision_of, user_of
from server.api.chains import LONGEST_WAIT
from server.people.roles import May
from server.projects import dossier_schemas as told
from server.projects import dossiers, pictures, queue, revisions, schemas
from server.projects.models import DossierFile, Issue, Picture, Project, Run

router = Router()


@router.get("/projects/{project_id}/dossier", response={200: told.DossierState, 422: schemas.Problem})
async def dossier(
    request: HttpRequest, project_id: UUID, make: bool = False, again: bool = False, wait: float = 0.0
) -> told.DossierState:
    """How the dossier of what stands is; make: it is asked of a worker if it is not there, again: also where that failed or was stopped.
    Waits up to `wait` seconds while it is being made."""

    def first() -> told.DossierState:
        found, own = revision_of(request, project_id, None)
        if make:
            dossiers.ask(found, own, again=again)
        return dossiers.state_of(found)

    end = time.monotonic() + min(max(wait, 0.0), LONGEST_WAIT)
    state = await in_thread(first)
    told = (state.state, state.stage, state.done)
    while state.state in Run.ACTIVE and (state.state, state.stage, state.done) == told and time.monotonic() < end:
        await asyncio.sleep(0.15)
        state = await in_thread(lambda: dossiers.state_of(revision_of(request, project_id, None)[0]))
    return state


@router.post("/projects/{project_id}/pictures", response={201: told.PictureOut, 422: schemas.Problem})
def take_picture(
    request: HttpRequest, project_id: UUID, file: File[UploadedFile | None] = None
) -> tuple[int, told.PictureOut]:
    """Take a picture in, to stand in the dossier."""
    found = revision_of(request, project_id, None, May.CHANGE)[0]
    if file is None:
        raise ModelError("No file was sent.", "file")
    return 201, pictures.receive(user_of(request), found, file.name or "", file.read())


@router.get("/projects/{project_id}/pictures/{key}")
def picture(request: HttpRequest, project_id: UUID, key: str) -> HttpResponse:
    """A picture of the project."""
    shown = get_object_or_404(Picture, project=revision_of(request, project_id, None)[0], key=key)
    answer = HttpResponse(bytes(shown.data), content_type=shown.kind)
    answer["Cache-Control"] = "private, max-age=86400, immutable"
    return answer


@router.delete("/projects/{project_id}/dossier", response=told.DossierState)
def stop(request: HttpRequest, project_id: UUID) -> told.DossierState:
    """Stop what is being made."""
    found = revision_of(request, project_id, None, May.CHANGE)[0]
    queue.cancel(found, Run.Kind.DOSSIER)
    return dossiers.state_of(found)


@router.get("/projects/{project_id}/dossier/pdf")
def pages(request: HttpRequest, project_id: UUID, key: str = "") -> HttpResponse:
    """The pages of a dossier that is there, by its key; without one, of the last."""
    found = revision_of(request, project_id, None)[0]
    file = _made(found, key)
    return download(bytes(file.pdf), found.name, f"dossier-{file.revision.number}", PDF)


@router.get("/projects/{project_id}/dossier/sheets")
def sheets(request: HttpRequest, project_id: UUID, key: str = "") -> HttpResponse:
    """The tables of a dossier that is there, as a spreadsheet."""
    found = revision_of(request, project_id, None)[0]
    file = _made(found, key)
    return download(bytes(file.sheets), found.name, f"tables-{file.revision.number}", SHEETS)


@router.get("/projects/{project_id}/dossier/csv")
def separated_tables(request: HttpRequest, project_id: UUID, key: str = "") -> HttpResponse:
    """The tables of a dossier that is there, a file of separated values each, in one ZIP."""
    found = revision_of(request, project_id, None)[0]
    file = _made(found, key)
    return download(separate(bytes(file.sheets)), found.name, f"tables-{file.revision.number}", ZIP)


@router.get("/projects/{project_id}/dossier/drawings")
def drawings(request: HttpRequest, project_id: UUID, key: str = "") -> HttpResponse:
    """The drawings of a dossier that is there, as DXF."""
    found = revision_of(request, project_id, None)[0]
    file = _made(found, key)
    return download(bytes(file.drawings), found.name, f"drawings-{file.revision.number}", DXF)


def _made(project: Project, key: str) -> DossierFile:
    kept = project.dossiers.select_related("revision")
    file = kept.filter(key=key).first() if key else kept.first()
    if file is None:
        raise Http404
    return file


@router.post("/projects/{project_id}/issues", response={202: told.DossierState, 422: schemas.Problem})
def issue(request: HttpRequest, project_id: UUID, body: told.IssueIn) -> tuple[int, told.DossierState]:
    """Hand over what stands, for good. Raises a conflict when it is not what the page shows."""
    found, own = revision_of(request, project_id, None, May.CHANGE)
    if own.number != body.base:
        raise revisions.conflict(found, body.base)
    dossiers.ask(found, own, body.purpose, user_of(request).get_username())
    return 202, dossiers.state_of(found)


@router.get("/projects/{project_id}/issues/{number}/pdf")
def issued(request: HttpRequest, project_id: UUID, number: int) -> HttpResponse:
    """The pages of an issue."""
    found = revision_of(request, project_id, None)[0]
    one = get_object_or_404(Issue, project=found, number=number)
    return download(bytes(one.pdf), found.name, f"issue-{number}", PDF)


@router.get("/projects/{project_id}/issues/{number}/document", response=dict[str, Any])
def issued_document(request: HttpRequest, project_id: UUID, number: int) -> Any:
    """The document that an issue speaks of."""
    found = revision_of(request, project_id, None)[0]
    return get_object_or_404(Issue, project=found, number=number).document


@router.post("/projects/{project_id}/questions", response={200: told.DossierState, 422: schemas.Problem})
def question(request: HttpRequest, project_id: UUID, body: told.QuestionIn) -> told.DossierState:
    """Ask about a section of the dossier."""
    found = revision_of(request, project_id, None, May.CHECK)[0]
    dossiers.question(user_of(request), found, body)
    return dossiers.state_of(found)


@router.patch("/projects/{project_id}/questions/{number}", response={200: told.DossierState, 422: schemas.Problem})
def answer(request: HttpRequest, project_id: UUID, number: int, body: told.AnswerIn) -> told.DossierState:
    """Answer a question, which takes who may change the project; or close it."""
    found = revision_of(request, project_id, None, May.CHECK if body.close else May.CHANGE)[0]
    dossiers.answer(user_of(request), found, number, body)
    return dossiers.state_of(found)


@router.put("/projects/{project_id}/ticks", response={200: told.DossierState, 422: schemas.Problem})
def tick(request: HttpRequest, project_id: UUID, body: told.TickIn) -> told.DossierState:
    """Note that a section was seen as it stands."""
    found = revision_of(request, project_id, None, May.CHECK)[0]
    dossiers.tick(user_of(request), found, body)
    return dossiers.state_of(found)
