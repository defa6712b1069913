"""What is computed of a revision, and what is asked of it. Whoever waits holds no thread."""

from __future__ import annotations

import asyncio
import json
import time
from base64 import b64decode
from typing import Any
from uuid import UUID

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Query, Router
from ninja.responses import Response

from engine.document import read_stored
from server.api.access import DXF, HTML, IFC, SHEETS, WORD, document_of, download, in_thread, revision_of
from server.people.roles import May
from server.projects import (
    action_schemas,
    derivations,
    looks,
    news,
    project_schemas,
    queue,
    response,
    response_schemas,
    results,
    runs,
    schemas,
    screen,
    sizings,
    studies,
    trial_loads,
    verdict_schemas,
)
from server.projects import sizing_schemas as sized
from server.projects.models import Run

#: seconds that an answer may wait for a run whose progress is shown
LONGEST_WAIT = 2.0
#: seconds that what looks at a chain waits for it
PATIENCE = 8.0

router = Router()


async def _ended(run: Run, seconds: float) -> Run:
    """The run once it has ended, or after some time."""
    end = time.monotonic() + seconds
    if run.state not in Run.ACTIVE or seconds <= 0:
        return run
    with news.listening(run.pk) as event:
        while run.state in Run.ACTIVE and (left := end - time.monotonic()) > 0:
            event.clear()
            await in_thread(lambda: run.refresh_from_db(fields=queue.SHOWN))
            if run.state in Run.ACTIVE:
                await news.heard(event, left)
    return run


async def seen(request: HttpRequest, project_id: UUID, revision: int | None, look: str, /, **arguments: Any) -> Any:
    """What is asked of the chain of a revision, by the name of the look, once it is there. Raises ModelError when it cannot be
    computed, or is not yet; Overtaken when an edit ends its computation and no file is wanted."""

    def now() -> Any:
        found, own = revision_of(request, project_id, revision)
        if looks.by_worker(look, results.key_of(read_stored(own.content))):
            run = looks.ask(found, own, look, arguments)
            if run.state in Run.ACTIVE:
                raise runs.Pending(run)
            return looks.outcome(run)
        return looks.LOOKS[look](runs.chain_now(found, own), own.number, **arguments)

    end = time.monotonic() + PATIENCE
    while True:
        try:
            return await in_thread(now)
        except runs.Pending as pending:
            run = pending.run
        left = end - time.monotonic()
        own = (await in_thread(revision_of, request, project_id, revision))[1]
        if left <= 0:
            raise runs.too_long(own)
        if run is None or run.state not in Run.ACTIVE:
            # it stores what it has shown
            await asyncio.sleep(0.05)
            continue
        run = await _ended(run, left)
        if run.state == Run.State.CANCELLED:
            raise runs.stopped(own)
        # who asks for no revision is answered of what stands now
        if run.state == Run.State.SUPERSEDED and revision is not None and look not in looks.FILES:
            raise runs.Overtaken


@router.get(
    "/projects/{project_id}/chain", response={200: schemas.ChainOut, 202: schemas.RunningOut, 422: schemas.Problem}
)
async def chain(request: HttpRequest, project_id: UUID, revision: int | None = None, wait: float = 0.0) -> HttpResponse:
    """The computed chain of a revision; when it cannot be computed, the reason and what is known without it. While it is not
    there yet (waiting up to `wait` seconds for it), how its run stands."""

    def asked() -> tuple[Run | None, str, int]:
        found, own = revision_of(request, project_id, revision)
        document = read_stored(own.content)
        return runs.ask(found, own, document), results.key_of(document), own.number

    state, key, number = await in_thread(asked)
    if state is not None:
        state = await _ended(state, min(max(wait, 0.0), LONGEST_WAIT))
    text = await in_thread(results.screen_of, key)
    if text is None:
        return Response(screen.running_out(state, number), status=202)
    # validated as it was made; a second time would take longer than the analysis
    return HttpResponse(b'{"revision":%d,' % number + text[1:], content_type="application/json")


@router.post("/projects/{project_id}/runs", response={202: schemas.RunningOut})
def start_run(request: HttpRequest, project_id: UUID) -> tuple[int, schemas.RunningOut]:
    """Compute the head's chain now, also when the project is paused or the last run was stopped."""
    found, own = revision_of(request, project_id, None, May.CHANGE)
    state = runs.ask(found, own, read_stored(own.content), force=True)
    return 202, screen.running_out(state, own.number)


@router.delete("/projects/{project_id}/runs", response={202: schemas.RunningOut})
def stop_run(request: HttpRequest, project_id: UUID) -> tuple[int, schemas.RunningOut]:
    """Stop what is being computed for the project."""
    found, own = revision_of(request, project_id, None, May.CHANGE)
    runs.cancel(found)
    return 202, screen.running_out(found.runs.filter(kind=Run.Kind.CHAIN).first(), own.number)


@router.get("/projects/{project_id}/structure", response={200: schemas.ChainOut, 422: schemas.Problem})
def structure(request: HttpRequest, project_id: UUID, revision: int | None = None) -> schemas.ChainOut:
    """What stands in a revision, before anything is computed of it."""
    _, own = revision_of(request, project_id, revision)
    return screen.bare_out(read_stored(own.content), own.number)


@router.get("/projects/{project_id}/result", response={200: dict[str, Any], 422: schemas.Problem})
async def download_result(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The result file of what stands."""
    found, own = await in_thread(revision_of, request, project_id, None)
    data = await seen(request, project_id, own.number, "result")
    return download(json.dumps(data, indent=1), found.name, f"result-{own.number}")


@router.get("/projects/{project_id}/ifc")
async def download_ifc(request: HttpRequest, project_id: UUID, results: bool = False) -> HttpResponse:
    """The model of what stands as IFC4: what is built, and what is analysed; results: with reactions and forces."""
    found, own = await in_thread(revision_of, request, project_id, None)
    asked: dict[str, Any] = {"name": found.name, "project": str(found.pk)} | ({"results": True} if results else {})
    text = await seen(request, project_id, own.number, "ifc", **asked)
    return download(text, found.name, f"model-{own.number}", IFC)


@router.get("/projects/{project_id}/axes")
async def download_axes(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The axes of what stands as DXF, a layer for each role and section."""
    found, own = await in_thread(revision_of, request, project_id, None)
    return download(await seen(request, project_id, own.number, "axes"), found.name, f"axes-{own.number}", DXF)


@router.get("/projects/{project_id}/dossier/html")
async def download_webpage(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The dossier of what stands as one web page that needs nothing else."""
    return await _dossier(request, project_id, "webpage", HTML)


@router.get("/projects/{project_id}/dossier/docx")
async def download_document(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The dossier of what stands as a document for word processors."""
    return await _dossier(request, project_id, "word", WORD)


async def _dossier(request: HttpRequest, project_id: UUID, look: str, kind: str) -> HttpResponse:
    found, own = await in_thread(revision_of, request, project_id, None)
    today = timezone.localdate()
    asked: dict[str, Any] = {
        "plan": read_stored(own.content).dossier.model_dump(mode="json"),
        "name": found.name,
        "made": f"made {today.day} {today:%b %Y}",
        "project": str(found.pk),
        "sized": await in_thread(sizings.ended_last, found),
        "studied": await in_thread(studies.ended, found),
    }
    data = b64decode(await seen(request, project_id, own.number, look, **asked))
    return download(data, found.name, f"dossier-{own.number}", kind)


@router.get("/projects/{project_id}/beside", response={200: project_schemas.Beside, 422: schemas.Problem})
async def beside(request: HttpRequest, project_id: UUID, before: int, revision: int | None = None) -> Any:
    """What was computed of a revision beside an older one: inputs, verdicts, reactions."""
    found = (await in_thread(revision_of, request, project_id, revision))[0]
    return await seen(request, project_id, revision, "beside", project=str(found.pk), before=before)


@router.get("/projects/{project_id}/joints")
async def download_joints(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The forces at the ends of members of what stands as CSV, joint by joint."""
    found, own = await in_thread(revision_of, request, project_id, None)
    return download(
        await seen(request, project_id, own.number, "joints"), found.name, f"joints-{own.number}", "text/csv"
    )


@router.get("/projects/{project_id}/tables")
async def download_tables(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The model of what stands as a spreadsheet: nodes, members, supports, cases, loads, combinations."""
    found, own = await in_thread(revision_of, request, project_id, None)
    data = b64decode(await seen(request, project_id, own.number, "tables"))
    return download(data, found.name, f"model-{own.number}", SHEETS)


@router.get("/projects/{project_id}/marks", response={200: list[action_schemas.MarkOut], 422: schemas.Problem})
async def combination_marks(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """How near each combination comes to what governs."""
    return await seen(request, project_id, revision, "marks")


@router.get("/projects/{project_id}/diagrams", response={200: response_schemas.DiagramOut, 422: schemas.Problem})
async def frame_diagrams(
    request: HttpRequest,
    project_id: UUID,
    plane: str = "whole",
    state: str = "envelope",
    revision: int | None = None,
    alone: bool = False,
) -> Any:
    """Forces and movements of what lies in a plane, in a case, a combination or their envelope."""
    return await seen(request, project_id, revision, "diagrams", plane=plane, state=state, alone=alone)


@router.get("/projects/{project_id}/site", response={200: action_schemas.SiteOut | None, 422: schemas.Problem})
async def surroundings(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """The building in its surroundings, with the wind from each side and the snow that lies on it; null where none stands on which
    these act."""
    return await seen(request, project_id, revision, "site")


@router.get("/projects/{project_id}/mechanism", response={200: response_schemas.DiagramOut, 422: schemas.Problem})
def free_movement(
    request: HttpRequest, project_id: UUID, plane: str = "whole", revision: int | None = None
) -> response_schemas.DiagramOut:
    """How a structure that does not stand moves."""
    document, number = document_of(request, project_id, revision)
    return response.mechanism_out(document, number, plane)


@router.get("/projects/{project_id}/modes", response={200: list[response_schemas.ModeOut], 422: schemas.Problem})
async def shapes(request: HttpRequest, project_id: UUID, combination: str = "", revision: int | None = None) -> Any:
    """Buckling modes of a combination; without one, natural modes."""
    return await seen(request, project_id, revision, "modes", combination=combination)


@router.get("/projects/{project_id}/states", response={200: list[response_schemas.StateOut], 422: schemas.Problem})
async def states(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """What stands and what buckles in each combination."""
    return await seen(request, project_id, revision, "states")


@router.get("/projects/{project_id}/extremes", response={200: list[response_schemas.ExtremesOut], 422: schemas.Problem})
async def extremes(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """Extremes of every member, with their combinations."""
    return await seen(request, project_id, revision, "extremes")


@router.get("/projects/{project_id}/sways", response={200: list[response_schemas.SwayOut], 422: schemas.Problem})
async def sways(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """Sway of storeys."""
    return await seen(request, project_id, revision, "sways")


@router.get("/projects/{project_id}/decks", response={200: list[response_schemas.DeckForcesOut], 422: schemas.Problem})
async def decks(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """Forces of decks that act as membranes."""
    return await seen(request, project_id, revision, "decks")


@router.get("/projects/{project_id}/panel", response={200: action_schemas.PanelOut, 422: schemas.Problem})
async def panel(request: HttpRequest, project_id: UUID, name: str, revision: int | None = None) -> Any:
    """A panel laid flat, with its wind zones and the pressures of every case."""
    return await seen(request, project_id, revision, "panel", name=name)


@router.post("/projects/{project_id}/lay", response={200: trial_loads.LaidOut, 422: schemas.Problem})
def lay(request: HttpRequest, project_id: UUID, body: trial_loads.LayIn) -> trial_loads.LaidOut:
    """What a pressure on many surfaces would put on members. Nothing is changed."""
    return trial_loads.laid(document_of(request, project_id, None)[0], body.load)


@router.get("/projects/{project_id}/derivations", response={200: list[derivations.DerivationOut], 422: schemas.Problem})
async def derived(
    request: HttpRequest, project_id: UUID, asked: Query[derivations.Asked], revision: int | None = None
) -> Any:
    """How what purlins or rails bear came about, the factors of a combination, the pressures of a case, the wind on a zone of a panel, the
    pressure of that number on a panel, or the peak pressure of wind from a direction: the first of these that is named."""
    return await seen(request, project_id, revision, "derivations", **asked.model_dump())


@router.get(
    "/projects/{project_id}/secondary-sections",
    response={200: list[verdict_schemas.SecondarySectionOut], 422: schemas.Problem},
)
async def secondary_sections(request: HttpRequest, project_id: UUID, role: str, revision: int | None = None) -> Any:
    """How cold-formed purlins or rails beside the model would fare as other sections of their series."""
    return await seen(request, project_id, revision, "secondary_sections", role=role)


@router.get("/projects/{project_id}/groups", response=sized.GroupsOut)
def groups(request: HttpRequest, project_id: UUID, revision: int | None = None) -> sized.GroupsOut:
    """Which members shall have one section, and how many each of these groups may have."""
    return sizings.proposed(revision_of(request, project_id, revision)[1])


@router.post("/projects/{project_id}/sizing", response={202: sized.SizingState, 422: schemas.Problem})
def start_sizing(request: HttpRequest, project_id: UUID, body: project_schemas.Base) -> tuple[int, sized.SizingState]:
    """Have every group sized by a worker. Nothing is changed: the designer accepts the sections by an edit."""
    return 202, sizings.out(sizings.ask(*revision_of(request, project_id, body.base, May.CHANGE)))


@router.get("/projects/{project_id}/sizing", response=sized.SizingState)
async def sizing(request: HttpRequest, project_id: UUID, rounds: int = 0, wait: float = 0.0) -> sized.SizingState:
    """How the project's last sizing stands; waits up to `wait` seconds for more than the rounds that are known."""
    end = time.monotonic() + min(max(wait, 0.0), LONGEST_WAIT)
    while True:
        state = await in_thread(lambda: sizings.out(sizings.last(revision_of(request, project_id, None)[0])))
        if state.state not in Run.ACTIVE or len(state.rounds) != rounds or time.monotonic() > end:
            return state
        await asyncio.sleep(0.2)


@router.delete("/projects/{project_id}/sizing", response=sized.SizingState)
def stop_sizing(request: HttpRequest, project_id: UUID) -> sized.SizingState:
    """Stop the sizing that is under way."""
    found = revision_of(request, project_id, None, May.CHANGE)[0]
    queue.cancel(found, Run.Kind.SIZING)
    return sizings.out(sizings.last(found))
