"""Studies: each set-out is a run of its own, so that as many workers as there are take part, and what was found stays."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterable
from functools import lru_cache
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404

from engine.document import Document, read_stored
from engine.dossier.studied import ToldPoint, ToldStudy
from engine.errors import ModelError
from engine.sizing.groups import Choice
from engine.sizing.quantities import QUANTITIES
from engine.sizing.study import grid, in_words, solve, taken, varied, ways
from server.people.roles import May
from server.projects import queue, results, revisions
from server.projects import study_schemas as told
from server.projects.models import Project, Revision, Run

#: set-outs under way that are looked after at a time: those that were asked for first
LOOKED_AFTER = 4


def _keys(document: Document, wanted: Iterable[dict[str, Any]]) -> list[str]:
    """The fingerprints of set-outs of a document."""
    base = f"study {results.key_of(document)} {document.sizing.model_dump_json()}"
    said = [json.dumps(values, sort_keys=True) for values in wanted]
    return [hashlib.sha256(f"{base} {words}".encode()).hexdigest() for words in said]


def ask(project: Project, revision: Revision, ranges: dict[str, Any]) -> None:
    """Have the set-outs of a study sized, as it stands among them; those that were found before stay found. Raises ModelError for what
    cannot be varied."""
    document = read_stored(revision.content)
    wanted = grid(ranges) if ranges else ways(document)
    for values in wanted[:1]:
        varied(document, values)
    wanted = [{}, *wanted]
    keys = _keys(document, wanted)
    asked = []
    with transaction.atomic():
        old = project.runs.filter(kind=Run.Kind.STUDY).exclude(key__in=keys)
        queue.finish(old, Run.State.CANCELLED)
        old.delete()
        failed = project.runs.filter(kind=Run.Kind.STUDY, state__in=(Run.State.CANCELLED, Run.State.FAILED))
        failed.delete()
        there = set(project.runs.filter(kind=Run.Kind.STUDY, key__in=keys).values_list("key", flat=True))
        for values, key in zip(wanted, keys, strict=True):
            if key in there:
                continue
            made, new = queue.begun(project, revision, Run.Kind.STUDY, key, answer={"values": values})
            asked.append(made)
            if new and settings.WORKERS:
                queue.send(made)
    if not settings.WORKERS:
        for made in asked:
            queue.perform(made.pk, compute)


def stop(project: Project) -> None:
    """Stop what has not ended."""
    queue.cancel(project, Run.Kind.STUDY)


def out(project: Project, revision: Revision) -> told.StudyOut:
    """How the project's study stands."""
    document = read_stored(revision.content)
    found = project.runs.filter(kind=Run.Kind.STUDY).select_related("revision", "project").order_by("pk")
    waiting = [r.pk for r in found if r.state in Run.ACTIVE][:LOOKED_AFTER]
    runs = [queue.revived(r) if r.pk in waiting else r for r in found]
    return told.StudyOut(
        revision=runs[0].revision.number if runs else 0,
        stands=[r.key for r in runs] == _keys(document, (r.answer["values"] for r in runs)),
        quantities=list(_quantities(revision.pk)),
        points=[_point(r) for r in runs],
        done=sum(r.state not in Run.ACTIVE for r in runs),
    )


@lru_cache(maxsize=32)
def _quantities(revision: int) -> tuple[told.QuantityOut, ...]:
    """What may be varied of a revision; they never change."""
    document = read_stored(Revision.objects.get(pk=revision).content)
    try:
        return tuple(
            told.QuantityOut(
                key=q.key, words=q.words, unit=q.unit, options=list(q.options(document)), now=q.read(document)
            )
            for q in QUANTITIES.values()
            if document.hall or not q.of_hall
        )
    except ModelError:
        # the page says beside it why nothing can be set out
        return ()


def _point(run: Run) -> told.SetOut:
    values = run.answer["values"]
    found = run.answer.get("found", {})
    message = run.answer.get("message", "") or ("" if run.state == Run.State.DONE else run.message)
    return told.SetOut(number=run.pk, values=values, words=in_words(values), state=run.state, message=message, **found)


def ended(project: Project) -> list[int]:
    """The runs of the project's study, once all of them have ended; none while some have not."""
    states = dict(project.runs.filter(kind=Run.Kind.STUDY).order_by("pk").values_list("pk", "state"))
    return [] if set(states.values()) & set(Run.ACTIVE) else list(states)


def for_dossier(project: Project, document: Document, numbers: list[int]) -> ToldStudy | None:
    """The study that these runs make, as the dossier of a document tells it; None where nothing was found."""
    runs = list(project.runs.filter(pk__in=numbers).select_related("revision").order_by("pk"))
    points = [(run, _point(run)) for run in runs]
    solved = [p for run, p in points if run.state == Run.State.DONE and p.tonnage is not None]
    if not solved:
        return None
    varied_document = read_stored(runs[0].revision.content)
    return ToldStudy(
        revision=runs[0].revision.number,
        stands=[r.key for r in runs] == _keys(document, (r.answer["values"] for r in runs)),
        objective=varied_document.sizing.objective,
        quantities={q.key: (q.words, q.unit) for q in QUANTITIES.values()},
        points=tuple(_told(p) for p in solved),
        failed=tuple((p.words, p.message) for run, p in points if run.state == Run.State.FAILED),
    )


def _told(p: told.SetOut) -> ToldPoint:
    return ToldPoint(
        values=p.values,
        words=p.words,
        passes=p.passes,
        worst=p.worst,
        steel=p.tonnage or 0.0,
        cost=p.cost or 0.0,
        carbon=p.carbon or 0.0,
        area=p.area or 0.0,
        sections=p.sections,
        obstacles=tuple(p.obstacles),
    )


def compute(run: Run) -> None:
    """Size one set-out."""
    document = read_stored(run.revision.content)
    answer = run.answer
    try:
        solved = solve(document, answer["values"], queue.teller(run.pk))
    except ModelError as error:
        failed = answer | {"message": error.message}
        queue.persistently(lambda: queue.end(run.pk, Run.State.FAILED, answer=failed))
        return
    sized, known = solved.sizing, [b for b in solved.beside if b.mass is not None]
    cold = sum(b.mass or 0.0 for b in known)
    worst = max((g.worst_after for g in sized.groups), default=0.0)
    found = told.SetOut(
        number=0,
        values={},
        words="",
        state="",
        message="",
        passes=sized.passes,
        worst=worst if worst < 1e6 else None,
        tonnage=sized.after[0] / 1000 + cold,
        cost=sized.after[1] + sum(b.cost for b in known),
        carbon=sized.after[2] / 1000 + sum(b.carbon for b in known),
        cold=cold,
        left_out="; ".join(b.words for b in solved.beside if b.mass is None),
        area=solved.area or None,
        sections={name: choice.words for name, choice in sized.choices.items()},
        obstacles=list(sized.obstacles)[:6],
    )
    own = {"number", "values", "words", "state", "message"}
    choices = {name: [choice.section, choice.grade, choice.haunch] for name, choice in sized.choices.items()}
    ended = answer | {"found": found.model_dump(exclude=own), "choices": choices}
    queue.persistently(lambda: queue.end(run.pk, Run.State.DONE, answer=ended))


def take(user: User, project_id: UUID, base: int, number: int) -> Project:
    """Make a set-out with its sections the next revision. Raises ModelError for one that was not found, or is of another model."""
    project = revisions.project_of(user, project_id, May.CHANGE)
    run = get_object_or_404(project.runs.filter(kind=Run.Kind.STUDY, state=Run.State.DONE), pk=number)
    values = run.answer["values"]
    choices = {
        name: Choice(section, grade, tuple(haunch[0]) if haunch and haunch[0] else None)
        for name, (section, grade, *haunch) in run.answer["choices"].items()
    }

    def change(data: dict[str, Any]) -> dict[str, Any]:
        document = Document.model_validate(data)
        if _keys(document, [values]) != [run.key]:
            raise ModelError("The model has changed since that was found: have the study made again.", "study")
        return taken(document, values, choices).model_dump(mode="json")

    return revisions.replace(user, project_id, base, f"Set-out taken: {in_words(values)}"[:200], change)
