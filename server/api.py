"""The API. Every route needs a signed-in user; every project route asks whose the project is."""

from __future__ import annotations

import json
import logging
from collections.abc import Iterator
from queue import Queue
from threading import Event, Thread
from typing import Any
from uuid import UUID

from django.db import InterfaceError, InternalError, OperationalError
from django.http import HttpRequest, HttpResponse, StreamingHttpResponse
from django.shortcuts import get_object_or_404
from ninja import NinjaAPI
from ninja.errors import HttpError
from ninja.security import django_auth
from pydantic import TypeAdapter

from engine.catalogue.sections import section as catalogue_section
from engine.chain import Chain, fingerprints, prepare
from engine.document import Document, read_document, read_stored
from engine.document.byhand import BuiltSection
from engine.document.jigs import HallJig
from engine.document.reading import read_json
from engine.document.units import in_kilonewtons
from engine.errors import ModelError
from engine.result import result
from engine.sizing.size import Round, size
from engine.standards.en.national import NationalValue, national_values
from engine.verification.proof import prove
from server.projects import (
    climate,
    envelopes,
    office,
    response,
    results,
    revisions,
    runs,
    schemas,
    screen,
    surfaces,
    workbench,
)
from server.projects.changes import Change
from server.projects.comparison import compare_documents
from server.projects.models import Project, Revision
from server.reading import JsonParser

_log = logging.getLogger(__name__)
#: seconds that an answer may wait for a run
LONGEST_WAIT = 2.0

api = NinjaAPI(title="Lorica", version="1", auth=django_auth, docs_url=None, openapi_url=None, parser=JsonParser())


@api.exception_handler(ModelError)
def _model_error(request: HttpRequest, error: ModelError) -> HttpResponse:
    return api.create_response(request, {"message": error.message, "place": error.place}, status=422)


@api.exception_handler(HttpError)
def _refused(request: HttpRequest, error: HttpError) -> HttpResponse:
    return api.create_response(request, {"message": error.message, "place": ""}, status=error.status_code)


@api.exception_handler(OperationalError)
@api.exception_handler(InterfaceError)
@api.exception_handler(InternalError)
def _no_database(request: HttpRequest, error: Exception) -> HttpResponse:
    """The database is away, or could not write; its transaction is undone."""
    _log.error("the database failed", exc_info=error)
    reason = str(error).strip().split("\n")[0]
    full = any(words in reason for words in ("No space left", "could not extend", "could not write", "File too large"))
    message = f"The database cannot write (is its disk full?): {reason}." if full else "The database does not answer."
    return api.create_response(request, {"message": message, "place": ""}, status=503)


@api.exception_handler(revisions.Conflict)
def _conflict(request: HttpRequest, conflict: revisions.Conflict) -> HttpResponse:
    author = conflict.head.author.get_username() if conflict.head.author else "somebody"
    answer = schemas.ConflictOut(
        message=f"{author} made revision {conflict.head.number} meanwhile (“{conflict.head.label}”). Nothing was changed.",
        number=conflict.head.number,
        author=author,
        differences=[schemas.DifferenceOut(**vars(d)) for d in conflict.differences],
    )
    return api.create_response(request, answer.model_dump(), status=409)


def user_of(request: HttpRequest) -> Any:
    """The signed-in user."""
    return request.auth  # type: ignore[attr-defined]


def _revision_out(revision: Revision) -> schemas.RevisionOut:
    author = revision.author.get_username() if revision.author else ""
    return schemas.RevisionOut(number=revision.number, label=revision.label, author=author, created=revision.created)


def project_out(project: Project) -> schemas.ProjectOut:
    """A project with its head."""
    head = project.head
    assert head is not None
    document = read_stored(head.document)
    return schemas.ProjectOut(
        id=project.id,
        name=project.name,
        archived=project.archived,
        revision=_revision_out(head),
        can_undo=head.parent_id is not None,
        can_redo=bool(project.redo),
        paused=project.paused,
        fingerprints=fingerprints(document),
        document=document,
    )


def _revision(request: HttpRequest, project_id: UUID, revision: int | None) -> tuple[Project, Revision]:
    project = revisions.own_project(user_of(request), project_id)
    if revision is None:
        assert project.head is not None
        return project, project.head
    return project, get_object_or_404(Revision, project=project, number=revision)


def _document(request: HttpRequest, project_id: UUID, revision: int | None) -> tuple[Document, int]:
    found = _revision(request, project_id, revision)[1]
    return read_stored(found.document), found.number


def _chain(request: HttpRequest, project_id: UUID, revision: int | None) -> Chain:
    return runs.chain_of(*_revision(request, project_id, revision))


@api.get("/me", response=schemas.Me)
def me(request: HttpRequest) -> schemas.Me:
    return schemas.Me(name=user_of(request).get_username())


@api.get("/catalogue", response=list[schemas.FamilyOut])
def catalogue(request: HttpRequest) -> list[schemas.FamilyOut]:
    return workbench.catalogue_out()


@api.get("/catalogue/outline", response={200: schemas.OutlineOut, 422: schemas.Problem})
def outline(request: HttpRequest, name: str) -> schemas.OutlineOut:
    """A section to scale, with its properties and its neighbours in mass."""
    return workbench.outline_out(catalogue_section(name, "name"))


@api.get("/office", response=list[BuiltSection])
def office_catalogue(request: HttpRequest) -> list[BuiltSection]:
    """The office's own sections."""
    return office.catalogue_of(user_of(request))


@api.post("/office", response={200: list[BuiltSection], 422: schemas.Problem})
def take_into_office(request: HttpRequest, body: schemas.CsvFile) -> list[BuiltSection]:
    """Take in sections from a CSV file; all of them or none."""
    office.take_in(user_of(request), office.read_csv(body.text))
    return office.catalogue_of(user_of(request))


@api.delete("/office", response=list[BuiltSection])
def drop_from_office(request: HttpRequest, name: str) -> list[BuiltSection]:
    office.drop(user_of(request), name)
    return office.catalogue_of(user_of(request))


@api.get("/materials", response=list[schemas.MaterialOut])
def materials(request: HttpRequest) -> list[schemas.MaterialOut]:
    return workbench.materials_out()


@api.get("/national", response=list[NationalValue])
def national(request: HttpRequest) -> list[NationalValue]:
    return national_values()


@api.get("/projects", response=list[schemas.ProjectSummary])
def projects(request: HttpRequest) -> list[schemas.ProjectSummary]:
    found = Project.objects.filter(owner=user_of(request)).select_related("head")
    return [_summary(project) for project in found]


def _summary(project: Project) -> schemas.ProjectSummary:
    assert project.head is not None
    try:
        words, readable = _in_words(read_stored(project.head.document)), True
    except ModelError as error:
        # one that cannot be opened does not hide the others
        words, readable = error.message, False
    return schemas.ProjectSummary(
        id=project.id,
        name=project.name,
        archived=project.archived,
        changed=project.changed,
        revision=project.head.number,
        summary=words,
        readable=readable,
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


@api.post("/projects", response={201: schemas.ProjectOut})
def create_project(request: HttpRequest, body: schemas.NewProject) -> tuple[int, schemas.ProjectOut]:
    document = Document(name=body.name, hall=HallJig() if body.hall else None)
    return 201, project_out(revisions.create(user_of(request), document, "New project"))


@api.post("/projects/import", response={201: schemas.ProjectOut, 422: schemas.Problem})
def import_project(request: HttpRequest) -> tuple[int, schemas.ProjectOut]:
    """A new project from a document in the file format."""
    document = in_kilonewtons(read_document(read_json(request.body)))
    prepare(document)
    return 201, project_out(revisions.create(user_of(request), document, "Taken in from a file"))


@api.get("/projects/{project_id}", response={200: schemas.ProjectOut, 422: schemas.Problem})
def project(request: HttpRequest, project_id: UUID) -> schemas.ProjectOut:
    return project_out(revisions.own_project(user_of(request), project_id))


@api.get("/projects/{project_id}/head", response=schemas.RevisionOut)
def head(request: HttpRequest, project_id: UUID) -> schemas.RevisionOut:
    """Which revision stands."""
    return _revision_out(_revision(request, project_id, None)[1])


@api.patch("/projects/{project_id}", response=schemas.ProjectOut)
def change_project(request: HttpRequest, project_id: UUID, body: schemas.ProjectChange) -> schemas.ProjectOut:
    """Rename, archive or pause. A new name is a revision like any edit."""
    found = revisions.own_project(user_of(request), project_id)
    if body.name is not None and found.head is not None:
        changes = [Change("name", body.name)]
        found = revisions.edit(user_of(request), project_id, found.head.number, f"Renamed to {body.name}", changes)
    if body.archived is not None:
        found.archived = body.archived
        found.save()
    if body.paused is not None:
        found.paused = body.paused
        found.save(update_fields=["paused"])
    return project_out(found)


@api.post("/projects/{project_id}/duplicate", response={201: schemas.ProjectOut})
def duplicate_project(request: HttpRequest, project_id: UUID) -> tuple[int, schemas.ProjectOut]:
    document, _ = _document(request, project_id, None)
    copy = document.model_copy(update={"name": f"{document.name[:73]} (copy)"})
    return 201, project_out(revisions.create(user_of(request), copy, f"Copy of {document.name}"))


@api.post(
    "/projects/{project_id}/edits", response={200: schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem}
)
def edit(request: HttpRequest, project_id: UUID, body: schemas.Edit) -> schemas.ProjectOut:
    changes = [Change(c.path, c.value, c.do, c.was) for c in body.changes]
    return project_out(revisions.edit(user_of(request), project_id, body.base, body.label[:200], changes))


@api.post(
    "/projects/{project_id}/operate",
    response={200: schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem},
)
def operate(request: HttpRequest, project_id: UUID, body: schemas.Operate) -> schemas.ProjectOut:
    """Operations by hand, as one revision."""
    found = revisions.operate(user_of(request), project_id, body.base, body.label[:200], body.operations)
    return project_out(found)


@api.get("/projects/{project_id}/versions", response=list[schemas.Version])
def versions(request: HttpRequest, project_id: UUID) -> list[schemas.Version]:
    """Revisions that bear a name, newest first, and the last twenty without."""
    return [
        schemas.Version(
            number=r.number,
            name=r.name,
            label=r.label,
            author=r.author.get_username() if r.author else "",
            created=r.created,
        )
        for r in revisions.versions(revisions.own_project(user_of(request), project_id))
    ]


@api.post("/projects/{project_id}/versions", response={200: schemas.Version, 422: schemas.Problem})
def name_version(request: HttpRequest, project_id: UUID, body: schemas.NameVersion) -> schemas.Version:
    """Give a revision a name, or take it away with an empty one."""
    r = revisions.name_version(revisions.own_project(user_of(request), project_id), body.number, body.name)
    author = r.author.get_username() if r.author else ""
    return schemas.Version(number=r.number, name=r.name, label=r.label, author=author, created=r.created)


@api.post(
    "/projects/{project_id}/restore", response={200: schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem}
)
def restore(request: HttpRequest, project_id: UUID, body: schemas.Restore) -> schemas.ProjectOut:
    """Make an older revision the head again, as a new revision: nothing in between is lost."""
    return project_out(revisions.restore(user_of(request), project_id, body.base, body.number))


@api.get("/projects/{project_id}/compare", response={200: schemas.Comparison, 422: schemas.Problem})
def compare(request: HttpRequest, project_id: UUID, before: int, after: int) -> schemas.Comparison:
    one, _ = _document(request, project_id, before)
    other, _ = _document(request, project_id, after)
    return schemas.Comparison(before=before, after=after, **vars(compare_documents(one, other)))


@api.post(
    "/projects/{project_id}/undo", response={200: schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem}
)
def undo(request: HttpRequest, project_id: UUID, body: schemas.Base) -> schemas.ProjectOut:
    return project_out(revisions.undo(user_of(request), project_id, body.base))


@api.post(
    "/projects/{project_id}/redo", response={200: schemas.ProjectOut, 409: schemas.ConflictOut, 422: schemas.Problem}
)
def redo(request: HttpRequest, project_id: UUID, body: schemas.Base) -> schemas.ProjectOut:
    return project_out(revisions.redo(user_of(request), project_id, body.base))


@api.get("/projects/{project_id}/document")
def download_document(request: HttpRequest, project_id: UUID) -> HttpResponse:
    """The document of the head; as it is stored where this build does not take it."""
    project, own = _revision(request, project_id, None)
    try:
        data = read_stored(own.document).model_dump(mode="json")
    except ModelError:
        data = own.document
    return _download(json.dumps(data, indent=1), project.name, f"revision-{own.number}")


@api.get("/projects/{project_id}/result", response={422: schemas.Problem})
def download_result(request: HttpRequest, project_id: UUID) -> HttpResponse:
    found, own = _revision(request, project_id, None)
    text = json.dumps(result(runs.chain_of(found, own)) | {"revision": own.number}, indent=1)
    return _download(text, found.name, f"result-{own.number}")


def _download(text: str, name: str, suffix: str) -> HttpResponse:
    safe = "".join(c if c.isascii() and c.isalnum() else "-" for c in name).strip("-").lower()
    response = HttpResponse(text, content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{safe}-{suffix}.json"'
    return response


@api.get("/projects/{project_id}/chain", response={200: schemas.ChainOut, 202: schemas.RunningOut})
def chain(request: HttpRequest, project_id: UUID, revision: int | None = None, wait: float = 0.0) -> HttpResponse:
    """The computed chain of a revision; when it cannot be computed, the reason and what is known without it. While it is not
    there yet (waiting up to `wait` seconds for it), how its run stands."""
    found, own = _revision(request, project_id, revision)
    document = read_stored(own.document)
    state = runs.ask(found, own, document)
    if state is not None:
        state = runs.wait(state, min(max(wait, 0.0), LONGEST_WAIT))
    text = results.screen_of(results.key_of(document))
    if text is None:
        return api.create_response(request, screen.running_out(state, own.number), status=202)
    # validated as it was made; a second time would take longer than the analysis
    return HttpResponse(b'{"revision":%d,' % own.number + text[1:], content_type="application/json")


@api.post("/projects/{project_id}/runs", response={202: schemas.RunningOut})
def start_run(request: HttpRequest, project_id: UUID) -> tuple[int, schemas.RunningOut]:
    """Compute the head's chain now, also when the project is paused or the last run was stopped."""
    found, own = _revision(request, project_id, None)
    state = runs.ask(found, own, read_stored(own.document), force=True)
    return 202, screen.running_out(state, own.number)


@api.delete("/projects/{project_id}/runs", response={202: schemas.RunningOut})
def stop_run(request: HttpRequest, project_id: UUID) -> tuple[int, schemas.RunningOut]:
    """Stop what is being computed for the project."""
    found, own = _revision(request, project_id, None)
    runs.cancel(found)
    return 202, screen.running_out(found.runs.first(), own.number)


@api.get("/projects/{project_id}/structure", response=schemas.ChainOut)
def structure(request: HttpRequest, project_id: UUID, revision: int | None = None) -> schemas.ChainOut:
    """What stands in a revision, before anything is computed of it."""
    _, own = _revision(request, project_id, revision)
    return screen.bare_out(read_stored(own.document), own.number)


@api.get("/projects/{project_id}/marks", response={200: list[schemas.MarkOut], 422: schemas.Problem})
def combination_marks(request: HttpRequest, project_id: UUID, revision: int | None = None) -> list[schemas.MarkOut]:
    return workbench.marks_out(_chain(request, project_id, revision))


@api.get("/projects/{project_id}/diagrams", response={200: schemas.DiagramOut, 422: schemas.Problem})
def frame_diagrams(
    request: HttpRequest,
    project_id: UUID,
    plane: str = "whole",
    state: str = "envelope",
    revision: int | None = None,
    alone: bool = False,
) -> schemas.DiagramOut:
    found, own = _revision(request, project_id, revision)
    try:
        return response.diagram_out(runs.chain_of(found, own), own.number, plane, state, alone)
    except KeyError:
        raise ModelError(f"There is no case or combination “{state}”.", "state") from None


@api.get("/projects/{project_id}/mechanism", response={200: schemas.DiagramOut, 422: schemas.Problem})
def free_movement(
    request: HttpRequest, project_id: UUID, plane: str = "whole", revision: int | None = None
) -> schemas.DiagramOut:
    """How a structure that does not stand moves."""
    document, number = _document(request, project_id, revision)
    return response.mechanism_out(document, number, plane)


@api.get("/projects/{project_id}/modes", response={200: list[schemas.ModeOut], 422: schemas.Problem})
def shapes(
    request: HttpRequest, project_id: UUID, combination: str = "", revision: int | None = None
) -> list[schemas.ModeOut]:
    """Buckling modes of a combination; without one, natural modes."""
    try:
        return response.modes_out(_chain(request, project_id, revision), combination)
    except KeyError:
        raise ModelError(f"There is no combination “{combination}”.", "combination") from None


@api.get("/projects/{project_id}/states", response={200: list[schemas.StateOut], 422: schemas.Problem})
def states(request: HttpRequest, project_id: UUID, revision: int | None = None) -> list[schemas.StateOut]:
    return response.states_out(_chain(request, project_id, revision))


@api.get("/projects/{project_id}/extremes", response={200: list[schemas.ExtremesOut], 422: schemas.Problem})
def extremes(request: HttpRequest, project_id: UUID, revision: int | None = None) -> list[schemas.ExtremesOut]:
    return envelopes.extremes_out(_chain(request, project_id, revision))


@api.get("/projects/{project_id}/sways", response={200: list[schemas.SwayOut], 422: schemas.Problem})
def sways(request: HttpRequest, project_id: UUID, revision: int | None = None) -> list[schemas.SwayOut]:
    return envelopes.sways_out(_chain(request, project_id, revision))


@api.get("/projects/{project_id}/decks", response={200: list[schemas.DeckForcesOut], 422: schemas.Problem})
def decks(request: HttpRequest, project_id: UUID, revision: int | None = None) -> list[schemas.DeckForcesOut]:
    return envelopes.decks_out(_chain(request, project_id, revision))


@api.get("/projects/{project_id}/lateral", response={200: schemas.LateralOut, 422: schemas.Problem})
def lateral(
    request: HttpRequest, project_id: UUID, member: str, state: str, revision: int | None = None
) -> schemas.LateralOut:
    """The factor at which a member buckles sideways under a case or combination."""
    computed = _chain(request, project_id, revision)
    try:
        return response.lateral_out(computed, state, _member(computed.structure.index, member))
    except KeyError:
        raise ModelError(f"There is no case or combination “{state}”.", "state") from None


@api.get("/projects/{project_id}/ribbon", response={200: schemas.RibbonOut, 422: schemas.Problem})
def ribbon(request: HttpRequest, project_id: UUID, member: str, revision: int | None = None) -> schemas.RibbonOut:
    computed = _chain(request, project_id, revision)
    return workbench.ribbon_out(computed, _member(computed.structure.index, member))


@api.get("/projects/{project_id}/panel", response={200: schemas.PanelOut, 422: schemas.Problem})
def panel(request: HttpRequest, project_id: UUID, name: str, revision: int | None = None) -> schemas.PanelOut:
    """A panel laid flat, with its wind zones and the pressures of every case."""
    return surfaces.panel_out(_chain(request, project_id, revision), name)


@api.get("/projects/{project_id}/loads", response={200: schemas.TracedOut, 422: schemas.Problem})
def member_loads(
    request: HttpRequest, project_id: UUID, member: str, case: str, revision: int | None = None
) -> schemas.TracedOut:
    """The line loads on a member in a case, traced back to their panels."""
    return surfaces.traced(_chain(request, project_id, revision), member, case)


@api.get("/climate", response={200: schemas.ClimateOut, 422: schemas.Problem})
def site_climate(request: HttpRequest, place: str, altitude: float | None = None) -> schemas.ClimateOut:
    """Site values of a place, asked of the climate service."""
    return climate.site_values(place, altitude)


@api.get("/climate/places", response=list[str])
def climate_places(request: HttpRequest, name: str = "") -> list[str]:
    """Places that the climate service knows by these letters."""
    return climate.place_names(name)


@api.get("/projects/{project_id}/proof", response={200: schemas.ProofOut, 422: schemas.Problem})
def proof(
    request: HttpRequest, project_id: UUID, member: str, criterion: str, revision: int | None = None
) -> schemas.ProofOut:
    found, own = _revision(request, project_id, revision)
    c = runs.chain_of(found, own)
    index = _member(c.structure.index, member)
    for outcome in c.verification.verdicts[index].outcomes:
        if outcome.criterion == criterion:
            proof = prove(c.document, c.combined, c.verification, c.combinations, index, outcome)
            return workbench.proof_out(proof, own.number, member)
    raise ModelError(f"Member “{member}” has no check “{criterion}”.", "criterion")


def _member(index: dict[str, int], name: str) -> int:
    if name not in index:
        raise ModelError(f"There is no member “{name}”.", "member")
    return index[name]


@api.post("/projects/{project_id}/sizing", response={200: schemas.SizingLine})
def sizing(request: HttpRequest, project_id: UUID, body: schemas.Base) -> StreamingHttpResponse:
    """Size every role; answers line by line as JSON while the rounds are found. Closing the connection stops it.

    Nothing is changed: the designer accepts the sections by an edit.
    """
    document, _ = _document(request, project_id, body.base)
    response = StreamingHttpResponse(_sizing_lines(document), content_type="application/x-ndjson")
    # compression would hold the rounds back until its buffer is full
    response["Content-Encoding"] = "identity"
    return response


_LINE = TypeAdapter(schemas.SizingLine)


def _sizing_lines(document: Document) -> Iterator[bytes]:
    lines: Queue[schemas.SizingLine | None] = Queue()
    stopped = Event()

    class Stopped(Exception):
        pass

    def progress(found: Round) -> None:
        if stopped.is_set():
            raise Stopped
        worst = {role: value if value < 1e6 else None for role, value in found.worst.items()}
        lines.put(
            schemas.SizingLine(
                round=schemas.RoundOut(**{**vars(found), "worst": worst, "tonnage": found.tonnage / 1000})
            )
        )

    def work() -> None:
        try:
            found = size(document, progress)
            lines.put(
                schemas.SizingLine(
                    sizing=schemas.SizingOut(
                        sections=found.sections,
                        passes=found.passes,
                        obstacles=list(found.obstacles),
                        before=found.rounds[0].tonnage / 1000,
                        after=found.rounds[-1].tonnage / 1000,
                    )
                )
            )
        except ModelError as error:
            lines.put(schemas.SizingLine(problem=schemas.Problem(message=error.message, place=error.place)))
        except Stopped:
            pass
        finally:
            lines.put(None)

    thread = Thread(target=work, daemon=True)
    thread.start()
    try:
        while (line := lines.get()) is not None:
            yield _LINE.dump_json(line) + b"\n"
    finally:
        stopped.set()
