"""Studies: set-outs of a hall beside one another."""

from __future__ import annotations

import asyncio
import time
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.api.access import in_thread, revision_of, user_of
from server.api.chains import LONGEST_WAIT
from server.api.projects import project_out
from server.people.roles import May
from server.projects import project_schemas, schemas, studies
from server.projects import study_schemas as told

router = Router()


@router.get("/projects/{project_id}/study", response=told.StudyOut)
async def study(request: HttpRequest, project_id: UUID, done: int = -1, wait: float = 0.0) -> told.StudyOut:
    """How the project's study stands; waits up to `wait` seconds for more than the set-outs that are known to have ended."""
    end = time.monotonic() + min(max(wait, 0.0), LONGEST_WAIT)
    while True:
        found = await in_thread(lambda: studies.out(*revision_of(request, project_id, None)))
        if found.done == len(found.points) or found.done != done or time.monotonic() > end:
            return found
        await asyncio.sleep(0.3)


@router.post("/projects/{project_id}/study", response={202: told.StudyOut, 422: schemas.Problem})
def start_study(request: HttpRequest, project_id: UUID, body: told.StudyIn) -> tuple[int, told.StudyOut]:
    """Have set-outs sized by workers, each by itself. Nothing is changed until one is taken."""
    found = revision_of(request, project_id, body.base, May.CHANGE)
    studies.ask(*found, dict(body.ranges))
    return 202, studies.out(*found)


@router.delete("/projects/{project_id}/study", response=told.StudyOut)
def stop_study(request: HttpRequest, project_id: UUID) -> told.StudyOut:
    """Stop what has not ended; what was found stays."""
    found = revision_of(request, project_id, None, May.CHANGE)
    studies.stop(found[0])
    return studies.out(*found)


@router.post(
    "/projects/{project_id}/study/take",
    response={200: project_schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def take_point(request: HttpRequest, project_id: UUID, body: told.TakePoint) -> project_schemas.ProjectOut:
    """Make a set-out with its sections the next revision."""
    return project_out(user_of(request), studies.take(user_of(request), project_id, body.base, body.number))
