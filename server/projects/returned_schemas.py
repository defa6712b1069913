"""What the API gives and takes of models that came back."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from engine.document.base import Vector
from engine.returned.model import Kind

Keys = Annotated[list[Annotated[str, Field(max_length=200)]], Field(max_length=5000)]


class CameBackOut(BaseModel):
    """One difference. members: those that it concerns; lines: axes as they came, in metres."""

    key: str
    what: str
    was: str
    now: str
    members: list[str]
    lines: list[tuple[Vector, Vector]]


class EffectOut(BaseModel):
    """What the verification says of what stands, or of what would. worst None: nothing was verified; problem: why it cannot be said."""

    worst: float | None
    governs: str
    failing: int
    not_covered: int
    left_out: int
    tonnage: float
    problem: str


class AlikeOut(BaseModel):
    """Differences that are alike, in words. takes: whether there is something to take; meanwhile: how it was when it was sent, where it was changed
    here since; refused: somebody decided against all of them; effect: what taking them would do to the verdict, None: not solved."""

    key: str
    kind: Kind
    words: str
    meanwhile: str
    takes: bool
    refused: bool
    items: list[CameBackOut]
    effect: EffectOut | None


class ReturnedOut(BaseModel):
    """A model that came back, beside what stands. sent: the revision that was sent, None where the file does not say it; revision: the one
    that it is compared with; already: differences that stand here by now; done: what the office says that it did. state, done_of: of solving
    what the differences do ("" never asked); solved: it is of what stands; stands: the verdict now; together: with all that is not refused."""

    name: str
    person: str
    at: datetime
    sent: int | None
    revision: int
    groups: list[AlikeOut]
    already: int
    said: list[str]
    guessed: list[str]
    left_out: list[str]
    state: str
    done_of: tuple[int, int]
    message: str
    solved: bool
    stands: EffectOut | None
    together: EffectOut | None


class ReturnedState(BaseModel):
    """The model that came back last, None: none did, or it can be compared with what stands no more (problem: why). office: whether one that
    details steel is set up."""

    office: bool
    model: ReturnedOut | None
    problem: str = ""


class Refusing(BaseModel):
    """Differences by their keys, which are refused, or no longer."""

    keys: Keys
    refused: bool


class TakingBack(BaseModel):
    """Differences to take, by their keys."""

    base: int
    keys: Keys


class Solving(BaseModel):
    base: int
