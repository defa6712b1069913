"""Edits, undo and redo: how a project's document moves from revision to revision."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import UUID

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models, transaction
from django.shortcuts import get_object_or_404

from engine.chain import Loaded, prepare
from engine.document import Document, read_document, read_stored
from engine.document.units import in_kilonewtons
from engine.editing.apply import operate as apply_operation
from engine.editing.operations import Operation
from engine.errors import ModelError
from server.people.models import Role
from server.people.roles import May, need, need_role
from server.projects import quotas, runs
from server.projects.changes import Change, Difference, changed, differences, meet, same_places, set_outright, touched
from server.projects.history import record
from server.projects.models import Project, Revision

#: combinations up to which an edit makes them; more are left to its run: some 0.2 s
AT_ONCE = 5000


class Conflict(Exception):
    """Somebody else was faster: the head is no longer the base of the edit."""

    def __init__(self, head: Revision, differences: list[Difference]) -> None:
        super().__init__(f"revision {head.number} came first")
        self.head = head
        self.differences = differences


def project_of(user: User, project_id: UUID, least: May = May.LOOK) -> Project:
    """A project that a person may do that much in. Raises Forbidden, and the same Http404 for one that is none of theirs and one
    that does not exist."""
    found = Project.objects.select_related("head", "head__author", "head__checkpoint", "owner")
    project = get_object_or_404(found, id=project_id, deleted=None)
    need(user, project, least)
    return project


@transaction.atomic
def create(user: User, document: Document, label: str) -> Project:
    """A new project with its first revision. Raises ModelError when the user has as much as one may, and Forbidden."""
    need_role(user, Role.DESIGNER, Role.ADMINISTRATOR)
    quotas.check(user, another=True)
    project = Project.objects.create(owner=user, name=document.name)
    project.head = record(project, document.model_dump(mode="json"), label=label, author=user)
    project.save()
    refresh(project)
    return project


def _locked(user: User, project_id: UUID, base: int | None = None) -> Project:
    """The project, no longer moved on by others meanwhile; with `base` only if its head still is that revision."""
    project = get_object_or_404(Project.objects.select_for_update(of=("self",)), id=project_id, deleted=None)
    need(user, project, May.CHANGE)
    assert project.head is not None
    if base is not None and project.head.number != base:
        raise conflict(project, base)
    return project


def conflict(project: Project, base: int) -> Conflict:
    """What is said to somebody whose base is no longer the head."""
    assert project.head is not None
    old = get_object_or_404(Revision, project=project, number=base)
    return Conflict(project.head, list(differences(old.content, project.head.content)))


def edit(user: User, project_id: UUID, base: int, label: str, changes: list[Change]) -> Project:
    """Make changes and the next revision; those of others since `base` stay where they touch something else. Raises Conflict or
    ModelError, and then nothing has changed."""
    return _next(user, project_id, base, label, lambda document: changed(document, changes), changes)


def operate(user: User, project_id: UUID, base: int, label: str, operations: list[Operation]) -> Project:
    """Do operations by hand and make the next revision, beside what others did to other things since `base`. Raises Conflict or
    ModelError, and then nothing has changed."""

    def done(data: dict[str, Any]) -> dict[str, Any]:
        document = Document.model_validate(data)
        for operation in operations:
            document = apply_operation(document, operation)
        return document.model_dump(mode="json")

    return _next(user, project_id, base, label, done, [])


def replace(
    user: User, project_id: UUID, base: int, label: str, change: Callable[[dict[str, Any]], dict[str, Any]]
) -> Project:
    """Make what a function gives the next revision, of nothing but `base`. Raises Conflict or ModelError."""
    return _next(user, project_id, base, label, change, None)


def restore(user: User, project_id: UUID, base: int, number: int) -> Project:
    """Make an older revision's document the next revision. Raises Conflict or ModelError."""
    project_of(user, project_id, May.CHANGE)
    old = get_object_or_404(Revision, project_id=project_id, number=number)
    words = f"“{old.name}”" if old.name else f"revision {number}"
    return _next(user, project_id, base, f"Back to {words}", lambda _: old.content, None)


def versions(project: Project) -> list[Revision]:
    """Named revisions and the latest twenty, newest first."""
    found = project.revisions.select_related("author").order_by("-number")
    latest = set(found.values_list("number", flat=True)[:20])
    return list(found.filter(models.Q(number__in=latest) | ~models.Q(name="")))


def name_version(project: Project, number: int, name: str) -> Revision:
    """Name a revision. Raises ModelError when another one bears the name."""
    revision = get_object_or_404(project.revisions.select_related("author"), number=number)
    words = name.strip()[:80]
    if words and project.revisions.filter(name=words).exclude(number=number).exists():
        raise ModelError(f"Another revision is named “{words}” already.", "name")
    revision.name = words
    revision.save(update_fields=["name"])
    return revision


@transaction.atomic
def _next(
    user: User,
    project_id: UUID,
    base: int,
    label: str,
    change: Callable[[dict[str, Any]], dict[str, Any]],
    changes: list[Change] | None,
) -> Project:
    """changes: None where the change is of the whole and merges with nothing."""
    project = _locked(user, project_id, base if changes is None else None)
    assert project.head is not None
    present = read_stored(project.head.content).model_dump(mode="json")
    if changes is not None and project.head.number != base:
        old = get_object_or_404(Revision, project=project, number=base)
        before = read_stored(old.content).model_dump(mode="json")
        mine = touched(before, change(before)) | set_outright(changes, before)
        if not same_places(changes, before, present) or meet(mine, touched(before, present)):
            raise conflict(project, base)
    quotas.check(project.owner)
    document = in_kilonewtons(read_document(change(present)))
    loaded = prepare(document, most=AT_ONCE)
    dump = document.model_dump(mode="json")
    if dump == present:
        return project
    project.head = record(project, dump, parent=project.head, label=label, author=user)
    project.name = document.name
    project.redo = []
    project.save()
    refresh(project, loaded)
    return project


def refresh(project: Project, loaded: Loaded | None = None) -> None:
    """Have the numbers of what stands now computed, and those of what stood before no longer."""
    runs.supersede(project)
    if settings.WORKERS:
        assert project.head is not None
        runs.ask(project, project.head, read_stored(project.head.content), loaded=loaded)


@transaction.atomic
def undo(user: User, project_id: UUID, base: int) -> Project:
    """Step back to the revision before. Raises ModelError when there is none."""
    project = _locked(user, project_id, base)
    assert project.head is not None
    if project.head.parent is None:
        raise ModelError("There is nothing to undo: this is the first revision.")
    project.redo = [*project.redo, project.head.number]
    project.head = project.head.parent
    project.name = project.head.content["name"]
    project.save()
    refresh(project)
    return project


@transaction.atomic
def redo(user: User, project_id: UUID, base: int) -> Project:
    """Step forward to the revision undone last. Raises ModelError when there is none."""
    project = _locked(user, project_id, base)
    if not project.redo:
        raise ModelError("There is nothing to redo.")
    project.head = project.revisions.get(number=project.redo[-1])
    project.redo = project.redo[:-1]
    project.name = project.head.content["name"]
    project.save()
    refresh(project)
    return project
