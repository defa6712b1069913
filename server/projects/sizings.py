"""Sizings by workers: the rounds are kept as they are found, for whoever looks, also after a reload or in another page."""

from __future__ import annotations

import hashlib

from django.conf import settings
from django.db import transaction

from engine.document import read_stored
from engine.errors import ModelError
from engine.sizing.size import Round, size
from server.projects import queue, results, schemas
from server.projects.models import Project, Revision, Run


def ask(project: Project, revision: Revision) -> Run:
    """Have a revision sized: the run that does, one that is under way if there is one."""
    document = read_stored(revision.content)
    if document.hall is None:
        raise ModelError("Sizing works on the roles of a hall, and there is no hall.", "hall")
    key = hashlib.sha256(f"sizing {results.key_of(document)}".encode()).hexdigest()
    with transaction.atomic():
        made, new = queue.begun(project, revision, Run.Kind.SIZING, key)
        if new:
            # the project's last sizing is the one that is looked at
            project.runs.filter(kind=Run.Kind.SIZING).exclude(pk=made.pk).exclude(state__in=Run.ACTIVE).delete()
            if settings.WORKERS:
                queue.send(made)
    if not settings.WORKERS:
        queue.perform(made.pk, compute)
        made.refresh_from_db(fields=queue.SHOWN)
    return queue.revived(made)


def last(project: Project) -> Run | None:
    """The project's last sizing."""
    found = project.runs.filter(kind=Run.Kind.SIZING).select_related("revision").first()
    return queue.revived(found) if found else None


def out(run: Run | None) -> schemas.SizingState:
    """How a sizing stands."""
    if run is None:
        return schemas.SizingState(state="none")
    return schemas.SizingState(
        state=run.state, revision=run.revision.number, attempts=run.attempts, message=run.message, **run.answer
    )


def compute(found: Run) -> None:
    """Size the revision of a run, noting each round."""
    document = read_stored(found.revision.content)
    rounds: list[dict[str, object]] = []
    tell = queue.teller(found.pk)

    def progress(new: Round) -> None:
        worst = {role: value if value < 1e6 else None for role, value in new.worst.items()}
        shown = schemas.RoundOut(**{**vars(new), "worst": worst, "tonnage": new.tonnage / 1000})
        rounds.append(shown.model_dump())
        queue.note(found.pk, answer={"rounds": rounds})

    try:
        sized = size(document, progress, tell)
    except ModelError as error:
        problem = {"message": error.message, "place": error.place}
        queue.persistently(lambda: queue.end(found.pk, Run.State.FAILED, answer={"rounds": rounds, "problem": problem}))
        return
    ended = schemas.SizingOut(
        sections=sized.sections,
        passes=sized.passes,
        obstacles=list(sized.obstacles),
        before=sized.rounds[0].tonnage / 1000,
        after=sized.rounds[-1].tonnage / 1000,
    )
    answer = {"rounds": rounds, "sizing": ended.model_dump()}
    queue.persistently(lambda: queue.end(found.pk, Run.State.DONE, answer=answer))
