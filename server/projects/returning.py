"""Models that were sent and came back: what differs, what it would do to the verdict, and taking it."""

from __future__ import annotations

import hashlib
from dataclasses import asdict
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.shortcuts import get_object_or_404

from engine.document import Document, read_stored
from engine.errors import ModelError
from engine.expand import expand
from engine.report.standing import Effect
from engine.returned.compare import compare
from engine.returned.model import Comparison, Difference, ReturnedModel, alike
from engine.returned.taking import effect, take
from engine.structure.names import called_as
from publish.ifc.identity import members_by_identity
from publish.taken import counted
from server.people.roles import May
from server.projects import queue, quotas, results, revisions
from server.projects import returned_schemas as told
from server.projects.models import Project, Returned, Revision, Run

#: groups of differences alike whose effect is solved one by one; more are solved together alone
MOST_SOLVED = 24


def receive(user: User, project: Project, name: str, model: ReturnedModel, done: list[str]) -> None:
    """Keep a model that came back, in place of the one before: what was refused of that stays refused where it came again. Raises ModelError for one
    of another project."""
    quotas.check(project.owner)
    assert project.head is not None
    sent = project.revisions.filter(number=model.revision).first() if model.revision else None
    found = _compared(project, project.head, sent, model)
    refused = _refused_before(project, project.head, found)
    if refused:
        done = [*done, f"Refused before and here again: {counted(len(refused), 'difference')}, which stay refused."]
    values = {
        "name": name,
        "content": model.model_dump(mode="json"),
        "revision": sent,
        "refused": refused,
        "done": done,
    }
    with transaction.atomic():
        Returned.objects.filter(project=project).delete()
        Returned.objects.create(project=project, person=user, **values)
        forget(project)


def _refused_before(project: Project, head: Revision, now: Comparison) -> list[str]:
    """Differences that were refused of the model before and are the same in this one, by their keys."""
    before = Returned.objects.filter(project=project).select_related("revision").first()
    if before is None or not before.refused:
        return []
    try:
        old = _compared(project, head, before.revision, ReturnedModel.model_validate(before.content))
    except ModelError:
        return []
    said = {d.key: d.now for d in old.differences if d.key in set(before.refused)}
    return [d.key for d in now.differences if said.get(d.key) == d.now]


def forget(project: Project) -> None:
    """Drop what was solved of a model that came back."""
    old = project.runs.filter(kind=Run.Kind.RETURNED)
    queue.finish(old, Run.State.CANCELLED)
    old.delete()


def under_way(project: Project) -> int | None:
    """How many effects the run has solved that is under way; None without one."""
    run = project.runs.filter(kind=Run.Kind.RETURNED, state__in=Run.ACTIVE).only("done").first()
    return run.done if run else None


def _compared(project: Project, head: Revision, sent: Revision | None, model: ReturnedModel) -> Comparison:
    stands = expand(read_stored(head.content))
    before = stands if sent is None or sent.pk == head.pk else expand(read_stored(sent.content))
    names = members_by_identity(project.pk, before.index)
    if before is not stands:
        before, now = called_as(before, stands)
        names = {key: now.get(name, name) for key, name in names.items()}
        names |= members_by_identity(project.pk, stands.index)
    return compare(model, names.get, before, stands)


def _open(found: Returned, comparison: Comparison) -> dict[str, list[Difference]]:
    """What may be taken and is not refused, by what is alike."""
    refused = set(found.refused)
    return alike([d for d in comparison.differences if d.takes and d.key not in refused])


def _key(found: Returned, document: Document) -> str:
    text = f"returned {found.pk} {results.key_of(document)} {sorted(found.refused)}"
    return hashlib.sha256(text.encode()).hexdigest()


def out(project: Project, head: Revision) -> told.ReturnedState:
    """The model that came back, beside what stands."""
    found = Returned.objects.filter(project=project).select_related("revision", "person").first()
    office = bool(settings.DETAILING_URL)
    if found is None:
        return told.ReturnedState(office=office, model=None)
    model = ReturnedModel.model_validate(found.content)
    try:
        comparison = _compared(project, head, found.revision, model)
    except ModelError as error:
        return told.ReturnedState(
            office=office, model=None, problem=f"{found.name} cannot be compared: {error.message}"
        )
    run = project.runs.filter(kind=Run.Kind.RETURNED).first()
    run = queue.revived(run) if run else None
    solved = run is not None and run.key == _key(found, read_stored(head.content))
    effects: dict[str, Any] = run.answer.get("effects", {}) if run and solved else {}
    refused = set(found.refused)
    groups = [
        told.AlikeOut(
            key=key,
            kind=items[0].kind,
            words=_words(items),
            meanwhile=items[0].meanwhile,
            takes=any(d.takes for d in items),
            refused=all(d.key in refused for d in items),
            items=[told.CameBackOut.model_validate(d, from_attributes=True) for d in items],
            effect=effects.get(key),
        )
        for key, items in alike(comparison.differences).items()
    ]
    return told.ReturnedState(
        office=office,
        model=told.ReturnedOut(
            name=found.name,
            person=found.person.get_username() if found.person else "",
            at=found.at,
            sent=found.revision.number if found.revision else None,
            revision=head.number,
            groups=groups,
            already=comparison.already,
            said=found.done,
            guessed=[*model.guessed, *_guessed(found)],
            left_out=[*model.left_out, *_left_out(comparison)],
            state=run.state if run else "",
            done_of=(run.done, run.of) if run else (0, 0),
            message=run.message if run else "",
            solved=solved,
            stands=effects.get(""),
            together=effects.get("*"),
        ),
    )


def _words(items: list[Difference]) -> str:
    """What happened to all of them."""
    first = items[0]
    if not first.takes:
        return f"{first.was}: {first.now}" if first.kind == "removed" else first.now
    if first.shared and (len(items) > 1 or first.kind != "placed"):
        return first.shared
    return first.now if first.kind in ("added", "set off") else f"{first.was} → {first.now}"


def _guessed(found: Returned) -> list[str]:
    if found.revision is not None:
        return []
    return [
        "The file no longer says which revision was sent: what was changed here since then is told as a difference too."
    ]


def _left_out(comparison: Comparison) -> list[str]:
    said = []
    if comparison.fitted:
        ends = counted(comparison.fitted, "end is", "ends are")
        said.append(
            f"{ends} cut back or lengthened for joints, by {1000 * comparison.farthest:.0f} mm at most: axes stay."
        )
    if comparison.short:
        said.append(f"{counted(comparison.short, 'short piece')} of steel, part of joints.")
    return said


def refuse(project: Project, keys: list[str], refused: bool) -> None:
    """Decide against differences, or no longer."""
    with transaction.atomic():
        found = get_object_or_404(Returned.objects.select_for_update(), project=project)
        kept = set(found.refused) - set(keys)
        found.refused = sorted(kept | set(keys)) if refused else sorted(kept)
        found.save(update_fields=["refused"])


def accept(user: User, project_id: UUID, base: int, keys: list[str]) -> Project:
    """Make differences the next revision, all at once. Raises ModelError for what cannot be taken, or is none of them."""
    project = revisions.project_of(user, project_id, May.CHANGE)
    found = get_object_or_404(Returned.objects.select_related("revision"), project=project)
    assert project.head is not None
    model = ReturnedModel.model_validate(found.content)
    there = {d.key: d for d in _compared(project, project.head, found.revision, model).differences if d.takes}
    missing = [key for key in keys if key not in there]
    if missing or not keys:
        raise ModelError("That is no difference from what stands any more: look at them again.", "keys")
    taken = [there[key] for key in keys]
    words = taken[0].what if len(taken) == 1 else f"{len(taken)} changes"

    def change(data: dict[str, Any]) -> dict[str, Any]:
        return take(Document.model_validate(data), taken, model).model_dump(mode="json")

    return revisions.replace(user, project_id, base, f"From {found.name}: {words}"[:200], change)


def ask(project: Project, head: Revision) -> None:
    """Have solved what each group of differences, and all together, would do to the verdict."""
    found = get_object_or_404(Returned.objects.select_related("revision"), project=project)
    key = _key(found, read_stored(head.content))
    with transaction.atomic():
        old = project.runs.filter(kind=Run.Kind.RETURNED).exclude(key=key)
        queue.finish(old, Run.State.CANCELLED)
        old.delete()
        ended = (Run.State.CANCELLED, Run.State.FAILED)
        project.runs.filter(kind=Run.Kind.RETURNED, state__in=ended).delete()
        if project.runs.filter(kind=Run.Kind.RETURNED, key=key).exists():
            return
        made, new = queue.begun(project, head, Run.Kind.RETURNED, key)
        if new and settings.WORKERS:
            queue.send(made)
    if not settings.WORKERS:
        queue.perform(made.pk, compute)


def compute(run: Run) -> None:
    """Solve what the differences do, one group after another; what is found is told as it comes."""
    found = get_object_or_404(Returned.objects.select_related("revision"), project=run.project)
    document = read_stored(run.revision.content)
    model = ReturnedModel.model_validate(found.content)
    groups = _open(found, _compared(run.project, run.revision, found.revision, model))
    everything = [d for items in groups.values() for d in items]
    wanted = {"": [], "*": everything} | (groups if len(groups) <= MOST_SOLVED else {})
    if len(groups) == 1:
        del wanted["*"]
    effects: dict[str, Any] = {}
    for k, (key, items) in enumerate(wanted.items()):
        queue.note(run.pk, stage="returned", done=k, of=len(wanted), answer={"effects": effects})
        effects[key] = asdict(_effect(document, items, model))
    if len(groups) == 1:
        effects["*"] = effects[next(iter(groups))]
    queue.persistently(lambda: queue.end(run.pk, Run.State.DONE, done=len(wanted), answer={"effects": effects}))


def _effect(document: Document, items: list[Difference], model: ReturnedModel) -> Effect:
    try:
        return effect(take(document, items, model))
    except ModelError as error:
        return Effect(problem=error.message)
