"""Models that were sent and came back."""

from __future__ import annotations

import asyncio
import time
from uuid import UUID

from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from ninja import File, Router, UploadedFile

from engine.errors import ModelError
from server.api.access import in_thread, revision_of, user_of
from server.api.chains import LONGEST_WAIT, seen
from server.api.projects import project_out
from server.people.roles import May
from server.projects import detailing, project_schemas, queue, returning, schemas
from server.projects import returned_schemas as told
from server.projects.models import Returned, Run
from server.projects.taking import read_returned

router = Router()


@router.get("/projects/{project_id}/returned", response=told.ReturnedState)
async def returned(request: HttpRequest, project_id: UUID, done: int = -1, wait: float = 0.0) -> told.ReturnedState:
    """The model that came back last, beside what stands; waits up to `wait` seconds for more to be solved than is known."""
    project, head = await in_thread(revision_of, request, project_id, None)
    end = time.monotonic() + min(max(wait, 0.0), LONGEST_WAIT)
    while time.monotonic() < end and await in_thread(returning.under_way, project) == done:
        await asyncio.sleep(0.3)
    return await in_thread(returning.out, project, head)


@router.post("/projects/{project_id}/returned", response={200: told.ReturnedState, 422: schemas.Problem})
async def receive(request: HttpRequest, project_id: UUID, file: File[UploadedFile | None] = None) -> told.ReturnedState:
    """Take a model back as an IFC4 file. Nothing is changed: what differs is told, and taken or refused."""
    found = await in_thread(revision_of, request, project_id, None, May.CHANGE)
    if file is None:
        raise ModelError("No file was sent.", "file")
    model = await read_returned(file.read())
    name = (file.name or "a file")[-120:]
    await in_thread(lambda: returning.receive(user_of(request), found[0], name, model, []))
    return await in_thread(returning.out, *found)


@router.post("/projects/{project_id}/returned/order", response={200: told.ReturnedState, 422: schemas.Problem})
async def order(request: HttpRequest, project_id: UUID) -> told.ReturnedState:
    """Send what stands, with the forces at its joints, to the office that details steel, and receive what it makes of it."""
    project, head = await in_thread(revision_of, request, project_id, None, May.CHANGE)

    text = await seen(request, project_id, head.number, "ifc", name=project.name, project=str(project.pk))
    forces = await seen(request, project_id, head.number, "joints")
    name, data, said = await in_thread(detailing.ordered, text.encode(), forces.encode())
    model = await read_returned(data)
    await in_thread(lambda: returning.receive(user_of(request), project, name, model, said))
    return await in_thread(returning.out, project, head)


@router.delete("/projects/{project_id}/returned", response=told.ReturnedState)
def drop(request: HttpRequest, project_id: UUID) -> told.ReturnedState:
    """Put the model that came back away; what was taken of it stays."""
    project, head = revision_of(request, project_id, None, May.CHANGE)
    returning.forget(project)
    Returned.objects.filter(project=project).delete()
    return returning.out(project, head)


@router.post("/projects/{project_id}/returned/refuse", response={200: told.ReturnedState, 422: schemas.Problem})
def refuse(request: HttpRequest, project_id: UUID, body: told.Refusing) -> told.ReturnedState:
    """Decide against differences, or no longer."""
    project, head = revision_of(request, project_id, None, May.CHANGE)
    returning.refuse(project, body.keys, body.refused)
    return returning.out(project, head)


@router.post(
    "/projects/{project_id}/returned/take",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def accept(request: HttpRequest, project_id: UUID, body: told.TakingBack) -> project_schemas.ProjectOut:
    """Make differences the next revision, all at once."""
    return project_out(user_of(request), returning.accept(user_of(request), project_id, body.base, body.keys))


@router.post("/projects/{project_id}/returned/effects", response={202: told.ReturnedState, 422: schemas.Problem})
def solve(request: HttpRequest, project_id: UUID, body: told.Solving) -> tuple[int, told.ReturnedState]:
    """Have solved what each group of differences, and all together, would do to the verdict. Nothing is changed."""
    project, head = revision_of(request, project_id, body.base, May.CHANGE)
    get_object_or_404(Returned, project=project)
    returning.ask(project, head)
    return 202, returning.out(project, head)


@router.delete("/projects/{project_id}/returned/effects", response=told.ReturnedState)
def stop(request: HttpRequest, project_id: UUID) -> told.ReturnedState:
    """Stop solving; what was found stays."""
    project, head = revision_of(request, project_id, None, May.CHANGE)
    queue.cancel(project, Run.Kind.RETURNED)
    return returning.out(project, head)
