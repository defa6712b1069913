"""What the API tells of a chain as a whole, and of what is refused."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel

from server.projects.action_schemas import CaseOut, CombinationOut, LocalOut, PanelBrief, PsiOut, SnowOut, WindOut
from server.projects.response_schemas import ReactionOut
from server.projects.structure_schemas import (
    GridOut,
    HallOut,
    LevelOut,
    MemberOut,
    OrphanOut,
    PlaneOut,
    RailsOut,
    RoleOut,
    SnagOut,
    SupportOut,
    Triple,
)
from server.projects.verdict_schemas import (
    LengthsOut,
    LiftedOut,
    LimitOut,
    PadOut,
    SecondaryOut,
    StabilisedOut,
    TiltOut,
    WholeOut,
)

Stage = Literal["structure", "loading", "combinations", "response", "verification"]


class Problem(BaseModel):
    """Why something was refused: a sentence, and the place in the document as a dotted path, if it has one."""

    message: str
    place: str = ""


class DifferenceOut(BaseModel):
    path: str
    before: Any
    after: Any


class ConflictOut(BaseModel):
    """An edit that came too late: what the head is now, by whom, and what it changed."""

    message: str
    number: int
    author: str
    differences: list[DifferenceOut]


class ChainOut(BaseModel):
    """Everything the workbench shows of one revision but diagrams and proofs. problem: set when the chain broke. tonnage: of all members;
    masses: of the steel, and of other materials by name; both in t. lines: numbers of members that are one piece of steel, in order."""

    revision: int
    problem: Problem | None = None
    broken_stage: str = ""
    fingerprints: dict[str, str] = {}
    seconds: dict[str, float] = {}
    nodes: list[Triple] = []
    node_names: list[str] = []
    supports: list[SupportOut] = []
    planes: list[PlaneOut] = []
    grid: list[GridOut] = []
    levels: list[LevelOut] = []
    snags: list[SnagOut] = []
    orphans: list[OrphanOut] = []
    members: list[MemberOut] = []
    lines: list[list[int]] = []
    roles: list[RoleOut] = []
    cases: list[CaseOut] = []
    combinations: list[CombinationOut] = []
    reactions: list[ReactionOut] = []
    equilibrium: list[TiltOut] = []
    lifted: list[LiftedOut] = []
    pads: list[PadOut] = []
    stabilised: list[StabilisedOut] = []
    lengths: list[LengthsOut] = []
    hall: HallOut | None = None
    winds: list[WindOut] = []
    panels: list[PanelBrief] = []
    crane_rails: list[RailsOut] = []
    local: list[LocalOut] = []
    psi: list[PsiOut] = []
    snow: SnowOut | None = None
    simplifications: list[str] = []
    tonnage: float = 0.0
    masses: dict[str, float] = {}
    residual: float = 0.0
    worst: float | None = None
    status: str = ""
    whole: WholeOut | None = None
    limits: list[LimitOut] = []
    limits_variable: list[LimitOut] = []
    limits_frequency: list[LimitOut] = []
    limits_slenderness: list[LimitOut] = []
    secondary: list[SecondaryOut] = []


class RunningOut(BaseModel):
    """How the computation of a revision stands. state: that of its run, or "paused". done of `of` combinations of the stage."""

    revision: int
    state: str
    stage: str = ""
    done: int = 0
    of: int = 0
    attempts: int = 1
    message: str = ""
