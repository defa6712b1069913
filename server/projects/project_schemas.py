"""What the API tells and takes of projects and their revisions."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from pydantic import BaseModel

from engine.document import Document
from engine.document.base import Name
from engine.editing.operations import Operation
from server.projects.people_schemas import ProjectRole
from server.projects.returned_schemas import EffectOut


class NewProject(BaseModel):
    """template: key of what it begins with; kept: in its place the number of a template of the office."""

    name: Name
    template: str = "portal"
    kept: int | None = None


class TemplateOut(BaseModel):
    """What a project may begin with. lines: its picture, as an SVG path in 120 by 60."""

    key: str
    title: str
    words: str
    lines: str


class ProjectChange(BaseModel):
    name: Name | None = None
    archived: bool | None = None
    paused: bool | None = None


class Deletion(BaseModel):
    """name: that of the project, typed again, to remove it at once; empty: it waits, and can be brought back."""

    name: str = ""


class RevisionOut(BaseModel):
    number: int
    label: str
    author: str
    created: datetime


class CardOut(BaseModel):
    """What is known of a building without opening it. revision: the one it was computed of; problem: why it could not be computed;
    worst: the largest utilisation; tonnage: of steel, in t; lines, failing_lines: SVG paths in a box of 120 by 60."""

    revision: int
    problem: str = ""
    members: int = 0
    failing: int = 0
    not_covered: int = 0
    left_out: int = 0
    worst: float = 0.0
    tonnage: float = 0.0
    lines: str = ""
    failing_lines: str = ""


class ProjectSummary(BaseModel):
    """A project in the list. role: what the user may do in it; shared: with anybody; by: who made the revision that stands. readable: whether this build takes its document; else the summary says why not. deleted: since when it
    waits to be removed, and when it will be."""

    id: UUID
    name: str
    archived: bool
    changed: datetime
    owner: str
    role: ProjectRole
    by: str
    shared: bool
    card: CardOut | None
    revision: int
    summary: str
    readable: bool
    deleted: datetime | None = None
    removed: datetime | None = None


class ProjectList(BaseModel):
    """A person's projects, and how much of what one may have they take. Sizes in MB."""

    projects: list[ProjectSummary]
    most_projects: int
    size: float
    most_size: float


class ProjectOut(BaseModel):
    id: UUID
    name: str
    archived: bool
    revision: RevisionOut
    can_undo: bool
    can_redo: bool
    paused: bool
    owner: str
    role: ProjectRole
    fingerprints: dict[str, str]
    document: Document


class Change(BaseModel):
    """A change at a dotted path of the document: "set" the value there; of a list there "add" an item, "remove" the one that is
    equal to the value, or "replace" the one that is equal to `was` by it; "clear"
    takes away the key that the path ends in."""

    path: str
    value: Any = None
    do: Literal["set", "add", "remove", "replace", "clear"] = "set"
    was: Any = None


class Edit(BaseModel):
    base: int
    label: str
    changes: list[Change]


class Operate(BaseModel):
    """Operations by hand, one after the other, as one revision."""

    base: int
    label: str
    operations: list[Operation]


class Version(BaseModel):
    """A revision that bears a name."""

    number: int
    name: str
    label: str
    author: str
    created: datetime


class NameVersion(BaseModel):
    number: int
    name: str


class Restore(BaseModel):
    """Which revision is to stand again; base: the one that the sender sees."""

    base: int
    number: int


class MemberDifference(BaseModel):
    """A member that differs between two versions, and how."""

    member: str
    what: str


class Comparison(BaseModel):
    """From one version to another: members added, removed, changed; tonnage of each, None where it cannot be set out."""

    before: int
    after: int
    added: list[str]
    removed: list[str]
    changed: list[MemberDifference]
    tonnage_before: float | None
    tonnage_after: float | None


class InputDifference(BaseModel):
    """A value of the document that differs, as it was and as it is; None: it is not stated."""

    what: str
    before: Any
    after: Any


class VerifiedOut(BaseModel):
    """A member as it is verified in a revision."""

    section: str
    governs: str
    utilisation: float | None
    status: str


class MemberBesideOut(BaseModel):
    """A member in two revisions; None where it is not there."""

    member: str
    label: str
    before: VerifiedOut | None
    after: VerifiedOut | None


class ReactionBesideOut(BaseModel):
    """A reaction in two revisions, least and greatest under the combinations for strength, N or Nm; None where nothing holds that way."""

    node: str
    freedom: str
    before: tuple[float, float] | None
    after: tuple[float, float] | None


Pair = tuple[float, float]


class AmountBeside(BaseModel):
    """Members of one role in two revisions: how many, t, cost by the prices of the later one, t CO2e."""

    words: str
    number: Pair
    mass: Pair
    cost: Pair
    carbon: Pair


class Beside(BaseModel):
    """What was computed of two revisions: amounts by role, inputs, members and reactions that differ, the most first; how many more do, how many are
    alike."""

    before: int
    after: int
    stood: EffectOut
    stands: EffectOut
    amounts: list[AmountBeside]
    inputs: list[InputDifference]
    inputs_left: int
    members: list[MemberBesideOut]
    members_left: int
    members_alike: int
    reactions: list[ReactionBesideOut]
    reactions_left: int
    reactions_alike: int


class Base(BaseModel):
    """The revision that the sender sees."""

    base: int
