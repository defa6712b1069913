"""What the API tells of verdicts: checks, limits, lengths, equilibrium, ribbons, proofs."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from engine.document.base import Kind
from server.projects.derivations import DerivationOut


class CheckOut(BaseModel):
    criterion: str
    kind: Kind
    words: str
    clause: str
    utilisation: float
    combination: str
    formula: str
    position: float


class LeftOut(BaseModel):
    """What verdicts do not speak for, and how many members that concerns (0: the whole)."""

    words: str
    members: int


class WholeOut(BaseModel):
    """What may be said of the whole building, every member counted."""

    passing: int
    failing: int
    not_covered: int
    left_out: list[LeftOut]


class LimitOut(BaseModel):
    """A limit of a role, length over deflection or L_cr/i, as stated and by default."""

    role: str
    label: str
    stated: float | None
    usual: float


class UseOut(BaseModel):
    """A zone under what asks most of its purlins or rails one way: kN/m. way: "down" (pressed), "up" (lifted) or "service"."""

    panel: str
    zone: str
    way: Literal["down", "up", "service"]
    load: float
    resistance: float
    utilisation: float
    formula: str


class SecondaryOut(BaseModel):
    """Purlins or rails that are no members, by a table of what they bear; computed: as cold-formed ones, with a derivation."""

    role: str
    label: str
    table: str
    source: str
    computed: bool
    span: float
    spans: int
    status: str
    worst: float
    uses: list[UseOut]
    reasons: list[str]
    left_out: list[str]


class PadOut(BaseModel):
    """What acts under a pad footing at its worst, each with its combination: weight of the pad kN; pressure kN/m², None: it tips over; slide:
    force sideways over friction, None: nothing presses; least: force on the ground kN, lifted off where negative; told: how it stands, in
    words."""

    node: str
    size: str
    weight: float
    pressure: float | None
    pressure_in: str
    slide: float | None
    slide_in: str
    least: float
    least_in: str
    told: str
    stands: bool


class SecondarySectionOut(BaseModel):
    """A section that purlins or rails could be, kg/m, and how they would fare: the worst of each way, and why it is not covered."""

    section: str
    mass: float
    status: str
    worst: float
    ways: dict[str, float]
    reasons: list[str]


class TiltOut(BaseModel):
    """Overturning about an edge of the footprint in kNm (moment), or uplift of the whole in kN: acting and resisting."""

    words: str
    moment: bool
    acting: float
    resisting: float
    utilisation: float | None
    combination: str
    formula: str


class LiftedOut(BaseModel):
    """A support in tension, kN, and the EQU combination of its greatest tension."""

    node: str
    tension: float
    combination: str


class StabilisedOut(BaseModel):
    """A span of bracing with the most that it stabilises (EN 1993-1-1 5.3.3): lines of members that lean on it, span in m, their
    compression in sum in kN, q_d in kN/m, bow and movement of the bracing in mm, in that combination. firm: whether it is stiff
    enough in all."""

    lines: int
    count: float
    span: float
    compression: float
    force: float
    bow: float
    movement: float
    alpha_m: float
    combination: str
    formula: str
    firm: bool


class LengthsOut(BaseModel):
    """Effective lengths of one role in m, in words where they come from."""

    role: str
    label: str
    length: float
    y: float
    z: float
    lateral: float
    why_y: str
    why_z: str
    set_y: float | None
    set_z: float | None


class SpanOut(BaseModel):
    """A segment of a flange with its utilisation in lateral-torsional buckling."""

    start: float
    end: float
    utilisation: float


class BuckledOut(BaseModel):
    """How a member buckles sideways, at a factor on the forces of a combination: m from its start, and how far its flanges move, 1 at most."""

    combination: str
    factor: float
    x: list[float]
    outer: list[float]
    inner: list[float]


class FigureOut(BaseModel):
    """A value beside a member. symbol: LaTeX; brief: what is said right beside it."""

    symbol: str
    value: str
    words: str
    brief: str


class RibbonOut(BaseModel):
    """A member laid flat: restraints of its flanges, its moment in the governing combination, its segments."""

    member: str
    length: float
    combination: str
    outer: list[float]
    inner: list[float]
    x: list[float]
    My: list[float]
    outer_spans: list[SpanOut]
    inner_spans: list[SpanOut]
    buckled: BuckledOut | None
    figures: list[FigureOut]


class ProofOut(DerivationOut):
    """The derivation of one check of a member."""

    revision: int
    member: str
    combination: str
    formula: str
    utilisation: float
