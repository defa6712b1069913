"""What the API gives and takes of dossiers."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from engine.document.handover import Chapter, Level
from server.projects.schemas import Problem

Standing = Literal["open", "answered", "closed"]
Purpose = Literal["preliminary", "tender", "approval", "construction"]
Anchor = Annotated[str, Field(min_length=1, max_length=200)]


class DossierSectionOut(BaseModel):
    """A chapter (depth 1), a section, or (row) an input in a table of one. down: how far down its page it stands, mm; seen: who ticked it as
    it stands; fallen: who ticked it as it was before; since: what it is beside the last issue."""

    anchor: str
    depth: int
    number: str
    title: str
    page: int
    down: float
    row: bool
    seen: list[str]
    fallen: list[str]
    since: Literal["", "new", "changed"]


class IssueOut(BaseModel):
    """A dossier that was handed over."""

    number: int
    purpose: Purpose
    revision: int
    author: str
    created: datetime
    pages: int


class QuestionOut(BaseModel):
    """A question with its answer. page: of its section in the present dossier, 0 where it is not there any more."""

    number: int
    anchor: str
    title: str
    page: int
    revision: int
    text: str
    author: str
    created: datetime
    state: Standing
    answer: str
    answered_by: str
    answered: datetime | None


class ChapterOut(BaseModel):
    """A chapter as planned. place: by which chapters are ordered; fixed: it cannot be left out."""

    key: Chapter
    title: str
    level: Level
    left_out: bool
    fixed: bool
    place: float
    remark: str


class FileOut(BaseModel):
    """A dossier that is there. key: under which its pages are asked for; current: it tells what stands; gone: sections of the last issue
    that are not in it."""

    key: str
    revision: int
    pages: int
    made: datetime
    current: bool
    sections: list[DossierSectionOut]
    gone: list[str]


class DossierState(BaseModel):
    """How the dossier of a project stands: what is under way, what is there, what was issued and asked."""

    state: str
    stage: str = ""
    done: int = 0
    of: int = 0
    message: str = ""
    problem: Problem | None = None
    chapters: list[ChapterOut]
    file: FileOut | None = None
    issues: list[IssueOut] = []
    questions: list[QuestionOut] = []


class IssueIn(BaseModel):
    """Hand over what stands in revision `base`."""

    base: int
    purpose: Purpose


class QuestionIn(BaseModel):
    """A question about a section of the present dossier."""

    anchor: Anchor
    text: Annotated[str, Field(min_length=1, max_length=2000)]


class AnswerIn(BaseModel):
    """The answer to a question, or that it is closed."""

    answer: Annotated[str, Field(max_length=2000)] = ""
    close: bool = False


class TickIn(BaseModel):
    """That a section was seen with the inputs that stand in it, or an input, or not any more."""

    anchor: Anchor
    seen: bool


class PictureOut(BaseModel):
    """A picture of the project. width, height: pixels."""

    key: str
    name: str
    width: int
    height: int
