"""What the API gives and takes of studies."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, Field

Value = Annotated[float, Field(allow_inf_nan=False)] | Annotated[str, Field(max_length=120)]


class QuantityOut(BaseModel):
    """What a study may vary. options: what it may be, none for any number; now: what it is."""

    key: str
    words: str
    unit: str
    options: list[str]
    now: Value | None


class SetOut(BaseModel):
    """A set-out. number: of its run; words: what it differs in; state: of its run. worst None: not covered. area: in plan, m²; mass
    in t, cold-formed purlins and rails in it: cold; left_out: those whose weight is not known; sections: by group."""

    number: int
    values: dict[str, Value]
    words: str
    state: str
    message: str
    passes: bool = False
    worst: float | None = None
    tonnage: float | None = None
    cost: float | None = None
    carbon: float | None = None
    area: float | None = None
    cold: float = 0.0
    left_out: str = ""
    sections: dict[str, str] = {}
    obstacles: list[str] = []


class StudyOut(BaseModel):
    """The project's study. stands: it is of what stands now; done: how many set-outs have ended."""

    revision: int = 0
    stands: bool = True
    quantities: list[QuantityOut] = []
    points: list[SetOut] = []
    done: int = 0


class StudyIn(BaseModel):
    """What to vary, by quantity its values; none: one thing changed at a time, by what may help."""

    base: int
    ranges: dict[Annotated[str, Field(max_length=40)], Annotated[list[Value], Field(max_length=50)]] = {}


class TakePoint(BaseModel):
    """The set-out to take, by the number of its run."""

    base: int
    number: int
