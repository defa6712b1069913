"""A model as somebody gave it back, and how it differs from the one that was sent: plain values."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from pydantic import BaseModel

from engine.document.base import Haunch, Vector
from engine.document.byhand import BuiltSection, SectionInput

Kind = Literal[
    "section", "grade", "turned", "moved", "placed", "added", "removed", "split", "joined", "set off", "haunch"
]


class ReturnedHaunch(BaseModel):
    """A haunch as it is drawn below a member: at its start or its end, how long and how deep, m."""

    at_start: bool
    length: float
    depth: float


class ReturnedMember(BaseModel):
    """A member as a file bears it: the identity that lasts, what it is called there, section, grade and role, the axis that it is extruded
    along (m), roll in degrees, haunches."""

    identity: str
    called: str
    section: str
    material: str
    role: str
    start: Vector
    end: Vector
    roll: float
    haunches: list[ReturnedHaunch] = []


class ReturnedModel(BaseModel):
    """revision: which one was sent, as the file still says it; unread: identities of members whose shape is none that is read;
    sections: of the file's own, known by their properties alone; built: those that are known by their plates."""

    revision: int | None
    members: list[ReturnedMember]
    sections: list[SectionInput] = []
    built: list[BuiltSection] = []
    unread: list[str] = []
    guessed: list[str] = []
    left_out: list[str] = []


@dataclass(frozen=True)
class Difference:
    """One thing that is not as it was sent.

    key: what it is of, the same in every revision. what: that thing in words; was, now: its states in words; shared: what it has in
    common with others of its kind, in words, "" with none. members: those that it
    concerns; node: the one that moved, by step; offset: of an axis beside its nodes, along local y and z, m. end_number, haunches: at which end
    a haunch is another, 0 or 1, and those of both ends then. built: the section by its plates, where it is none that is known. start, end: where an end is now, a node's name or a place; None where it stays.
    lines: axes as they come, pairs of places. takes: whether there is something to take; where there is not, `now` says why. meanwhile:
    how the same thing was when it was sent, if it was changed here since.
    """

    key: str
    kind: Kind
    what: str
    was: str
    now: str
    shared: str = ""
    members: tuple[str, ...] = ()
    node: str = ""
    step: Vector = (0.0, 0.0, 0.0)
    start: str | Vector | None = None
    end: str | Vector | None = None
    value: str | float = ""
    added: ReturnedMember | None = None
    offset: tuple[float, float] | None = None
    end_number: int = 0
    haunches: tuple[Haunch | None, Haunch | None] = (None, None)
    built: BuiltSection | None = None
    lines: tuple[tuple[Vector, Vector], ...] = ()
    takes: bool = True
    meanwhile: str = ""


@dataclass
class Comparison:
    """already: how many differences of what was sent stand here by now; fitted: ends cut back or lengthened along their axis for a joint,
    and the farthest of them in metres; short: parts of joints among what is new."""

    differences: list[Difference] = field(default_factory=list)
    already: int = 0
    fitted: int = 0
    farthest: float = 0.0
    short: int = 0


def alike(differences: list[Difference]) -> dict[str, list[Difference]]:
    """Differences by what they have in common: those of one section to the same other one, those that moved by the same step."""
    found: dict[str, list[Difference]] = {}
    for d in differences:
        found.setdefault(" · ".join((d.kind, d.shared or d.key, d.meanwhile)), []).append(d)
    return found
