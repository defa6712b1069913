"""Dossiers: made by workers of what stands, issued for good, questioned and ticked."""

from __future__ import annotations

import hashlib
from itertools import takewhile
from typing import Any, Literal, cast

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from engine.chain import run
from engine.document import Document, read_stored
from engine.dossier.compose import FIXED, TITLES, compose, ordered
from engine.dossier.values import Dossier
from engine.errors import ModelError
from engine.progress import Progress
from publish.dxf.drawings import dxf
from publish.tables.dossier import workbook
from publish.typeset import typeset
from server.people.models import Event
from server.projects import pictures, queue, results, sizings, studies
from server.projects.dossier_schemas import (
    AnswerIn,
    ChapterOut,
    DossierSectionOut,
    DossierState,
    FileOut,
    IssueOut,
    Purpose,
    QuestionIn,
    QuestionOut,
    Standing,
    TickIn,
)
from server.projects.models import DossierFile, Issue, Project, Question, Revision, Run, Tick
from server.projects.schemas import Problem

#: dossiers of a project that are kept beside those issued
KEPT = 3
#: questions that a project may have
MOST_QUESTIONS = 1000


def key_of(project: Project, revision: Revision, document: Document) -> str:
    """The fingerprint of everything in a dossier."""
    plan = document.dossier.model_dump_json()
    found = f"{sizings.ended_last(project)} {studies.ended(project)}"
    text = f"dossier {results.key_of(document)} {project.pk} {project.name} {revision.number} {plan} {found}"
    return hashlib.sha256(text.encode()).hexdigest()


def ask(
    project: Project, revision: Revision, purpose: Purpose | None = None, author: str = "", again: bool = False
) -> Run | None:
    """Have the dossier of a revision made, or (purpose) issued by somebody: the run that does, or the last one where it failed or was
    stopped, which is not tried again by looking (again: it is); None where it is there."""
    document = read_stored(revision.content)
    key = key_of(project, revision, document)
    if purpose is None and DossierFile.objects.filter(key=key).exists():
        return None
    last = project.runs.filter(key=key).first()
    if purpose is None and not again and last and last.state in (Run.State.FAILED, Run.State.CANCELLED):
        return last
    if purpose is not None:
        key = hashlib.sha256(f"issue {purpose} {key}".encode()).hexdigest()
    with transaction.atomic():
        answer = {"purpose": purpose, "author": author} if purpose else {}
        made, new = queue.begun(project, revision, Run.Kind.DOSSIER, key, answer=answer)
        if new:
            before = project.runs.filter(kind=Run.Kind.DOSSIER).exclude(pk=made.pk)
            # what was asked of an older revision is not wanted any more; an issue is
            queue.finish(before.exclude(answer__has_key="purpose"), Run.State.SUPERSEDED)
            if settings.WORKERS:
                queue.send(made)
    if not settings.WORKERS:
        queue.perform(made.pk, compute)
        made.refresh_from_db(fields=queue.SHOWN)
    return queue.revived(made)


def compute(found: Run) -> None:
    """Make the dossier of a run: of what its revision says alone, whatever is edited meanwhile."""
    project, revision = found.project, found.revision
    document = read_stored(revision.content)
    purpose: Purpose | None = found.answer.get("purpose")
    tell = queue.teller(found.pk)

    def shortly(stage: str, done: int, of: int) -> None:
        tell(stage[:20], done, of)

    number = (project.issues.values_list("number", flat=True).first() or 0) + 1 if purpose else 0
    words = f"Revision {revision.number}"
    if purpose:
        words = f"Issue {number}, {_FOR[purpose]} · revision {revision.number}"
    try:
        dossier = _composed(project, document, words, shortly)
        pages = typeset(dossier, shortly, pictures.of(project, document.dossier))
    except ModelError as error:
        problem = {"message": error.message, "place": error.place}
        queue.persistently(lambda: queue.end(found.pk, Run.State.FAILED, answer={**found.answer, "problem": problem}))
        return
    values = {
        "project": project,
        "revision": revision,
        "pdf": pages.pdf,
        "sheets": workbook(dossier),
        "drawings": dxf(dossier),
        "sections": [vars(section) for section in pages.sections],
        "pages": pages.count,
    }
    tell("storing", 0, 0)

    def store() -> None:
        with transaction.atomic():
            if purpose:
                author = found.answer.get("author", "")
                Issue.objects.create(number=number, purpose=purpose, author=author, document=revision.content, **values)
                person = User.objects.filter(username=author).first()
                Event.objects.create(person=person, project=project, words=f"Issued no. {number}, {_FOR[purpose]}")
            else:
                DossierFile.objects.update_or_create(key=found.key, defaults=values)
                kept = project.dossiers.values_list("key", flat=True)[:KEPT]
                project.dossiers.exclude(key__in=list(kept)).delete()
            queue.end(found.pk, Run.State.DONE)

    queue.persistently(store)


def _composed(project: Project, document: Document, words: str, progress: Progress) -> Dossier:
    """The dossier as values. Its chain is let go here: setting pages in type wants the room. Raises ModelError."""
    chain = results.chain_by(results.key_of(document))
    if chain is None:
        chain = run(document, progress, results.forces_like(document))
    if isinstance(chain, ModelError):
        raise chain
    today = timezone.localtime()
    sized = sizings.for_dossier(project, sizings.ended_last(project))
    study = studies.for_dossier(project, document, studies.ended(project))
    made = f"made {today.day} {today:%b %Y}"
    return compose(chain, document.dossier, project.name, words, made, progress, sized, study)


_FOR: dict[str, str] = {
    "preliminary": "preliminary",
    "tender": "for tender",
    "approval": "for approval",
    "construction": "for construction",
}


def state_of(project: Project) -> DossierState:
    """How the dossier of what stands is."""
    assert project.head is not None
    revision = project.head
    document = read_stored(revision.content)
    sized, studied = sizings.ended_last(project), studies.ended(project)
    last = project.runs.filter(kind=Run.Kind.DOSSIER).select_related("revision").first()
    if last is not None:
        last = queue.revived(last)
    own = key_of(project, revision, document)
    file = project.dossiers.filter(key=own).defer("pdf", "sheets", "drawings").select_related("revision").first()
    current = file is not None
    if file is None:
        file = project.dossiers.defer("pdf", "sheets", "drawings").select_related("revision").first()
    shown = _file(project, file, current) if file else None
    pages = {section.anchor: section.page for section in shown.sections} if shown else {}
    found = DossierState(
        state="none",
        chapters=[
            ChapterOut(
                key=key,
                title=TITLES[key],
                level=own.level,
                left_out=own.left_out,
                fixed=key in FIXED,
                place=place,
                remark=own.remark,
            )
            for place, key, own in ordered(document.dossier)
            if key != "sizing" or sized or studied
        ],
        file=shown,
        issues=[
            IssueOut(
                number=one.number,
                purpose=cast(Purpose, one.purpose),
                revision=one.revision.number,
                author=one.author,
                created=one.created,
                pages=one.pages,
            )
            for one in project.issues.defer("pdf", "sheets", "drawings", "document", "sections").select_related(
                "revision"
            )
        ],
        questions=[_question(one, pages) for one in project.questions.select_related("author", "answered_by")],
    )
    if last is not None and (last.state in Run.ACTIVE or last.revision_id == revision.pk):
        found.state, found.stage, found.done, found.of = last.state, last.stage, last.done, last.of
        found.message = last.message
        if "problem" in last.answer:
            found.problem = Problem(**last.answer["problem"])
    return found


def _file(project: Project, file: DossierFile, current: bool) -> FileOut:
    seen: dict[str, list[str]] = {}
    fallen: dict[str, list[str]] = {}
    digests = {one["anchor"]: one["digest"] for one in file.sections}
    for tick in project.ticks.select_related("person"):
        holds = digests.get(tick.anchor) == tick.digest
        (seen if holds else fallen).setdefault(tick.anchor, []).append(tick.person.get_username())
    last = project.issues.values_list("sections", flat=True).first()
    issued = {one["anchor"]: one for one in last or ()}

    def since(anchor: str, digest: str) -> Literal["", "new", "changed"]:
        if last is None or issued.get(anchor, {}).get("digest") == digest:
            return ""
        return "changed" if anchor in issued else "new"

    return FileOut(
        key=file.key,
        revision=file.revision.number,
        pages=file.pages,
        made=file.made,
        current=current,
        sections=[
            DossierSectionOut(
                anchor=one["anchor"],
                depth=one["depth"],
                number=one["number"],
                title=one["title"],
                page=one["page"],
                down=one["down"],
                row=one.get("row", False),
                seen=seen.get(one["anchor"], []),
                fallen=fallen.get(one["anchor"], []),
                since=since(one["anchor"], one["digest"]),
            )
            for one in file.sections
        ],
        gone=[f"{one['number']} {one['title']}" for anchor, one in issued.items() if anchor not in digests],
    )


def _question(one: Question, pages: dict[str, int]) -> QuestionOut:
    return QuestionOut(
        number=one.number,
        anchor=one.anchor,
        title=one.title,
        page=pages.get(one.anchor, 0),
        revision=one.revision,
        text=one.text,
        author=one.author.get_username() if one.author else "",
        created=one.created,
        state=cast(Standing, one.state),
        answer=one.answer,
        answered_by=one.answered_by.get_username() if one.answered_by else "",
        answered=one.answered,
    )


def _section(project: Project, anchor: str) -> tuple[DossierFile, dict[str, Any]]:
    """The last dossier and the section of it. Raises ModelError where there is none."""
    file = project.dossiers.defer("pdf", "sheets", "drawings").select_related("revision").first()
    if file is None:
        raise ModelError("There is no dossier yet: make it first.", "anchor")
    found = next((one for one in file.sections if one["anchor"] == anchor), None)
    if found is None:
        raise ModelError("The dossier has no such section (any more).", "anchor")
    return file, found


@transaction.atomic
def question(user: User, project: Project, given: QuestionIn) -> None:
    """Ask about a section. Raises ModelError."""
    file, section = _section(project, given.anchor)
    if not given.text.strip():
        raise ModelError("A question needs words.", "text")
    Project.objects.select_for_update().get(pk=project.pk)
    number = (project.questions.values_list("number", flat=True).first() or 0) + 1
    if number > MOST_QUESTIONS:
        raise ModelError(f"A project holds {MOST_QUESTIONS} questions at most.", "text")
    Question.objects.create(
        project=project,
        number=number,
        anchor=given.anchor,
        title=f"{section['number']} {section['title']}"[:200],
        revision=file.revision.number,
        text=given.text.strip(),
        author=user,
    )


@transaction.atomic
def answer(user: User, project: Project, number: int, given: AnswerIn) -> None:
    """Answer a question, or close it. Raises ModelError."""
    found = Question.objects.select_for_update().filter(project=project, number=number).first()
    if found is None:
        raise ModelError(f"There is no question {number}.", "")
    if given.close:
        found.state = Question.State.CLOSED
    elif given.answer.strip():
        found.answer, found.answered_by, found.answered = given.answer.strip(), user, timezone.now()
        found.state = Question.State.ANSWERED
    else:
        raise ModelError("An answer needs words.", "answer")
    found.save()


def tick(user: User, project: Project, given: TickIn) -> None:
    """Note that a section was seen as it stands, with the inputs that stand in it, or take that back. Raises ModelError."""
    file, section = _section(project, given.anchor)
    at = file.sections.index(section)
    rows = takewhile(lambda one: one.get("row"), file.sections[at + 1 :] if not section.get("row") else [])
    wanted = {one["anchor"]: one["digest"] for one in (section, *rows)}
    with transaction.atomic():
        Tick.objects.filter(project=project, anchor__in=wanted, person=user).delete()
        if given.seen:
            Tick.objects.bulk_create(
                Tick(project=project, anchor=anchor, person=user, digest=digest) for anchor, digest in wanted.items()
            )
