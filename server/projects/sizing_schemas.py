"""What the API gives and takes of sizing. Masses in t of the whole and kg of groups, depths in mm."""

from __future__ import annotations

from pydantic import BaseModel

from engine.document.sizing import ApartBy
from engine.sizing.groups import Choice, HaunchOf
from server.projects.schemas import Problem


class ProfileOut(BaseModel):
    """What a section is drawn by: its shape, mm of depth, width, web and flange."""

    shape: str
    h: float
    b: float
    tw: float
    tf: float


class SplitOut(BaseModel):
    """By what a group can be split; words: what a study calls it."""

    by: ApartBy
    words: str


class GroupOut(BaseModel):
    """A group as it is proposed: members that shall have one section, and how many it may have. of: the group that it was split from,
    its own name where it was not; splits: by what that one can be split; kept: why nothing of it is chosen; lightest, heaviest: the ends
    of what it may have; families: series it may be taken from as the plan stands; haunch: length and depth of its deepest haunches, m."""

    name: str
    of: str
    splits: list[SplitOut]
    haunch: HaunchOf | None
    members: list[str]
    now: Choice
    drawn: ProfileOut
    mixed: bool
    kept: str
    own: bool
    candidates: int
    lightest: str
    heaviest: str
    families: list[str]
    mass: float


class GroupsOut(BaseModel):
    """The groups of a revision, or why there are none."""

    revision: int
    groups: list[GroupOut] = []
    problem: Problem | None = None


class RoundOut(BaseModel):
    """One analysis on the way; sent as it is found. few: how many combinations it looked at, 0: all. worst: beside what each group may be used; None: not covered."""

    number: int
    step: str
    why: str
    few: int
    choices: dict[str, Choice]
    worst: dict[str, float | None]
    passes: bool
    tonnage: float
    cost: float


class CandidateOut(ProfileOut):
    """One on the shelf, all other groups as found. None: it has no such limit, or what it reaches is not covered (open). others: the largest utilisation of the other groups then; slender: L_cr/i
    beside what it may be."""

    choice: Choice
    by_metre: float
    mass: float
    cost: float
    section: float | None
    stability: float | None
    service: float | None
    others: float | None
    slender: float | None
    open: bool
    solved: bool
    fits: bool


class SizedOut(BaseModel):
    """A group with what was found. drawn: what it shall have, None: kept from before it was told; criterion: in words; targets: in cross-sections, stability and service, none: kept from before these were
    told apart; moves: shares of the groups in the movement that governs it."""

    name: str
    members: list[str]
    kept: str
    before: Choice
    after: Choice
    drawn: ProfileOut | None = None
    mass_before: float
    mass_after: float
    worst_before: float | None
    worst_after: float | None
    criterion: str
    member: str
    targets: list[float] = []
    not_covered: str
    shelf: list[CandidateOut]
    moves: dict[str, float]


class TotalsOut(BaseModel):
    """Of the whole: t, cost by the prices of the document, t CO2e."""

    tonnage: float
    cost: float
    carbon: float


class SizingOut(BaseModel):
    """The end of a sizing. full, few: analyses under all combinations, and under those that governed."""

    groups: list[SizedOut]
    passes: bool
    obstacles: list[str]
    before: TotalsOut
    after: TotalsOut
    full: int
    few: int


class SizingState(BaseModel):
    """How the last sizing of a project stands: its run's state, or "none". revision: that it sizes; stands: what is computed of it is
    what is computed of the present one."""

    state: str
    revision: int = 0
    stands: bool = True
    attempts: int = 1
    message: str = ""
    rounds: list[RoundOut] = []
    sizing: SizingOut | None = None
    problem: Problem | None = None
