"""Projects and their revisions."""

from __future__ import annotations

import uuid
from typing import Any

from django.conf import settings
from django.db import models
from django.utils import timezone
from jsonpatch import apply_patch


class Sharing(models.TextChoices):
    """As what somebody may see a project."""

    EDITOR = "editor"
    CHECKER = "checker"
    VIEWER = "viewer"


class Project(models.Model):
    """A piece of work of one owner. head: the revision that stands; redo: numbers of revisions that were undone; paused: its
    numbers are refreshed only when asked for; deleted: since when it waits to be removed for good; office_role: as what all of the
    office may see it, "" for not at all; card: what the list tells of the building, and of which revision (`cards`)."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="projects")
    name = models.CharField(max_length=80)
    archived = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    head = models.ForeignKey("Revision", null=True, on_delete=models.PROTECT, related_name="+")
    redo = models.JSONField(default=list)
    paused = models.BooleanField(default=False)
    deleted = models.DateTimeField(null=True)
    office_role = models.CharField(max_length=8, choices=Sharing, default="", blank=True)
    card = models.JSONField(default=dict)

    class Meta:
        ordering = ["-changed"]


class Share(models.Model):
    """A project shared with a person."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="shares")
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="shares")
    role = models.CharField(max_length=8, choices=Sharing)

    class Meta:
        ordering = ["person__username"]
        constraints = [models.UniqueConstraint(fields=["project", "person"], name="one_share_a_person")]


class OfficeSection(models.Model):
    """A section of the office's own catalogue, ready to be taken into a project."""

    name = models.CharField(max_length=80, unique=True)
    definition = models.JSONField()

    class Meta:
        ordering = ["name"]


class OfficeKept(models.Model):
    """What the office keeps for its projects (`kept`): content by paths of the document, or of a template the whole of it."""

    kind = models.CharField(max_length=12)
    name = models.CharField(max_length=80)
    content = models.JSONField()
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["kind", "name"]
        constraints = [models.UniqueConstraint(fields=["kind", "name"], name="one_name_a_kind")]


class Revision(models.Model):
    """An immutable state of a project's document: the document itself, or how it differs from that of another revision, its
    checkpoint (RFC 6902). `content` is the document in both cases."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="children")
    document = models.JSONField(null=True)
    checkpoint = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="+")
    patch = models.JSONField(null=True)
    label = models.CharField(max_length=200)
    name = models.CharField(max_length=80, default="", blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_revision_a_number")]

    @property
    def content(self) -> dict[str, Any]:
        """The document. A copy of its own where it is put together."""
        if self.checkpoint is None:
            return dict(self.document or {})
        found: dict[str, Any] = apply_patch(self.checkpoint.document, self.patch or [])
        return found


class Result(models.Model):
    """What a chain gave, under the fingerprint of everything that went into it: document and program.

    response: the fingerprint of its stages up to the response. screen: what the workbench shows, as compressed JSON; card: what the list of projects tells; parts: the
    chain itself, compressed and sealed (see `results`), stored a little later; complete: all of them are there. refused: why it
    could not be stored. size: bytes of all.
    """

    key = models.CharField(max_length=64, primary_key=True)
    response = models.CharField(max_length=64, db_index=True, default="")
    screen = models.BinaryField()
    card = models.JSONField(default=dict)
    complete = models.BooleanField(default=False)
    refused = models.CharField(max_length=300, default="")
    size = models.PositiveBigIntegerField()
    used = models.DateTimeField(default=timezone.now, db_index=True)


class ResultPart(models.Model):
    """A piece of a stored chain: PostgreSQL takes no value of a gigabyte."""

    result = models.ForeignKey(Result, on_delete=models.CASCADE, related_name="parts")
    number = models.PositiveIntegerField()
    data = models.BinaryField()

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["result", "number"], name="one_part_a_number")]


class Run(models.Model):
    """Work on one revision by a worker: its chain, a sizing from it, a set-out of a study of it, or a look at its chain.

    key: of what it makes. head: it is for the revision that stands, so that a newer edit supersedes it. build: of the program that
    asked. job: its number in the queue. loaded: sealed, what the edit that asked for it has already set out and loaded. stage,
    done, of: where it is; seconds: taken by each stage, when done. answer: what a sizing has found so
    far, or what a look is for and found.
    """

    class Kind(models.TextChoices):
        CHAIN = "chain"
        SIZING = "sizing"
        LOOK = "look"
        DOSSIER = "dossier"
        STUDY = "study"
        RETURNED = "returned"

    class State(models.TextChoices):
        WAITING = "waiting"
        RUNNING = "running"
        DONE = "done"
        SUPERSEDED = "superseded"
        CANCELLED = "cancelled"
        FAILED = "failed"

    ACTIVE = (State.WAITING, State.RUNNING)

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="runs")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="runs")
    kind = models.CharField(max_length=8, choices=Kind, default=Kind.CHAIN)
    key = models.CharField(max_length=64)
    build = models.CharField(max_length=64, default="")
    head = models.BooleanField(default=True)
    state = models.CharField(max_length=12, choices=State, default=State.WAITING)
    stage = models.CharField(max_length=20, default="")
    done = models.PositiveIntegerField(default=0)
    of = models.PositiveIntegerField(default=0)
    seconds = models.JSONField(default=dict)
    message = models.CharField(max_length=300, default="")
    loaded = models.BinaryField(null=True)
    answer = models.JSONField(default=dict)
    attempts = models.PositiveSmallIntegerField(default=1)
    job = models.BigIntegerField(null=True)
    asked = models.DateTimeField(auto_now_add=True)
    started = models.DateTimeField(null=True)
    ended = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-id"]
        constraints = [
            models.UniqueConstraint(
                fields=["project", "key"],
                condition=models.Q(state__in=("waiting", "running")),
                name="one_active_run_a_result",
            )
        ]


class DossierFile(models.Model):
    """A dossier as it was made of a revision, under the fingerprint of everything in it. sections: chapters and sections with their
    pages and digests; sheets: its tables as a spreadsheet; drawings: as DXF."""

    key = models.CharField(max_length=64, primary_key=True)
    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="dossiers")
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="+")
    pdf = models.BinaryField()
    sheets = models.BinaryField()
    drawings = models.BinaryField()
    sections = models.JSONField()
    pages = models.PositiveIntegerField()
    made = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-made"]


class Issue(models.Model):
    """A dossier that was handed over, with the document it speaks of. The database refuses to alter it (migration 0009)."""

    class Purpose(models.TextChoices):
        PRELIMINARY = "preliminary"
        TENDER = "tender"
        APPROVAL = "approval"
        CONSTRUCTION = "construction"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="issues")
    number = models.PositiveIntegerField()
    revision = models.ForeignKey(Revision, on_delete=models.CASCADE, related_name="+")
    purpose = models.CharField(max_length=12, choices=Purpose)
    author = models.CharField(max_length=150)
    document = models.JSONField()
    pdf = models.BinaryField()
    sheets = models.BinaryField()
    drawings = models.BinaryField()
    sections = models.JSONField()
    pages = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_issue_a_number")]


class Question(models.Model):
    """What somebody asks about a section of the dossier. anchor, title: of the section; revision: what they looked at."""

    class State(models.TextChoices):
        OPEN = "open"
        ANSWERED = "answered"
        CLOSED = "closed"

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="questions")
    number = models.PositiveIntegerField()
    anchor = models.CharField(max_length=200)
    title = models.CharField(max_length=200)
    revision = models.PositiveIntegerField()
    text = models.CharField(max_length=2000)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    state = models.CharField(max_length=8, choices=State, default=State.OPEN)
    answer = models.CharField(max_length=2000, default="", blank=True)
    answered_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    answered = models.DateTimeField(null=True)

    class Meta:
        ordering = ["-number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_question_a_number")]


class Tick(models.Model):
    """That somebody has seen a section as it was. It counts as long as the section says the same (its digest)."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="ticks")
    anchor = models.CharField(max_length=200)
    digest = models.CharField(max_length=16)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["anchor"]
        constraints = [models.UniqueConstraint(fields=["project", "anchor", "person"], name="one_tick_a_section")]


class Picture(models.Model):
    """A picture that somebody took in, as it was checked and written anew: PNG or JPEG. key: of what it shows."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="pictures")
    key = models.CharField(max_length=16)
    name = models.CharField(max_length=120)
    kind = models.CharField(max_length=10)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    data = models.BinaryField()
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at", "pk"]
        constraints = [models.UniqueConstraint(fields=["project", "key"], name="one_picture_a_key")]


class Returned(models.Model):
    """A model that was sent and came back, as its members. name: of the file, or of the order of an office; revision: which one was sent,
    None where the file no longer says it; refused: keys of the differences that are not taken; done: what the office says that it did."""

    project = models.OneToOneField(Project, on_delete=models.CASCADE, related_name="returned")
    name = models.CharField(max_length=120)
    content = models.JSONField()
    revision = models.ForeignKey(Revision, null=True, on_delete=models.SET_NULL, related_name="+")
    refused = models.JSONField(default=list)
    done = models.JSONField(default=list)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    at = models.DateTimeField(auto_now_add=True)


class Installed(models.Model):
    """The one build of the program that serves this database; others notice and end."""

    id = models.PositiveSmallIntegerField(primary_key=True, default=1)
    build = models.CharField(max_length=64)
    since = models.DateTimeField(default=timezone.now)
