"""What the API tells of actions: cases and combinations, wind and snow on the building and on its panels."""

from __future__ import annotations

from pydantic import BaseModel

from engine.document.base import LiesOn
from server.projects.structure_schemas import Triple


class CaseOut(BaseModel):
    """A case with its balance, in kN. ground: what cladding gives to the ground past the structure; tilted: panels whose load
    reaches their carriers without its moment; alone: a concentrated load of a category of use, of which there are many."""

    symbol: str
    name: str
    nature: str
    note: str
    expected: Triple
    ground: Triple
    tilted: list[str]
    applied: Triple
    reacted: Triple
    off: float
    holds: bool
    exclusive: str
    category: str
    own: bool
    alone: bool = False


class CombinationOut(BaseModel):
    """A combination. factors: numbers of cases, and their factors."""

    name: str
    use: str
    formula: str
    rule: str
    own: bool
    factors: list[tuple[int, float]]


class MarkOut(BaseModel):
    """How near a combination comes to what governs among those of its use: share, at which member, node or edge, and
    for how many of them it governs."""

    name: str
    share: float
    at: str
    governs: int


class WindOut(BaseModel):
    """Numbers behind the wind from one direction: pressures in kN/m², lengths in m. inside: (c_pi, where it comes from)."""

    direction: str
    terrain: str
    speed: float
    basic: float
    exposure: float
    peak: float
    orography: float
    displacement: float
    height: float
    b: float
    d: float
    e: float
    slenderness: float
    inside: list[tuple[float, str]]
    correlation: float


class UpwindOut(BaseModel):
    """What stands against the wind from one direction: c_dir; q_p in kN/m² at z_e, and its course over heights in m."""

    direction: str
    terrain: str
    directional: float
    height: float
    peak: float
    course: list[tuple[float, float]]


class LyingOut(BaseModel):
    """Snow of a case across the building, in kN/m² of plan: (x in m, s), linear between."""

    case: str
    name: str
    course: list[tuple[float, float]]


class IdleOut(BaseModel):
    """Something that does not act, and why. covered: whether it would act if it had to."""

    nature: str
    what: str
    why: str
    covered: bool


class SiteOut(BaseModel):
    """The building in its surroundings, in metres: its plan from (x0, y0) to (x1, y1), ridges and valleys as x across it, the section
    across its middle as lines of (x, z), ground level. height: of its top above the ground."""

    revision: int
    x0: float
    x1: float
    y0: float
    y1: float
    ground: float
    height: float
    folds: list[float]
    section: list[list[tuple[float, float]]]
    winds: list[UpwindOut]
    idle: list[IdleOut]
    snow: list[LyingOut]


class LocalOut(BaseModel):
    """Net pressures on a purlin, rail or gable post in kN/m² and per metre of it in kN/m; positive pushes inwards."""

    role: str
    panel: str
    zone: str
    area: float
    most: float
    least: float
    most_line: float
    least_line: float


class PlateOut(BaseModel):
    """A panel that bends, m: its thickness, its middle above the panel's plane, which way is outwards, its openings."""

    thickness: float
    rise: float
    outside: Triple
    openings: list[list[Triple]]


class PanelBrief(BaseModel):
    """A panel. stiff: "rigid", "membrane", "slab" or "", how it holds its plane; its corners in m where it does."""

    name: str
    kind: str
    side: str
    area: float
    pitch: float
    carriers: int
    stiff: str = ""
    corners: list[Triple] = []
    plate: PlateOut | None = None


Flat = tuple[float, float]


class ZoneOut(BaseModel):
    """A wind zone on a panel: (c_pe,10, c_pe,1) of its two sets, and the printed values that they lie between; peak: q_p(z_e) in
    kN/m²; below: of an overhang, the coefficient of the wall under it, in place of the pressure inside."""

    direction: str
    letter: str
    polygon: list[Flat]
    area: float
    suction: Flat
    pressure: Flat
    peak: float
    source: str
    read: list[str]
    below: float | None


class SurfaceLoadOut(BaseModel):
    """A pressure of a case on a part of a panel, at its corners in kN/m², along a line kN/m, at a point kN; normal: share that pushes onto
    the panel."""

    case: str
    zone: str
    kind: LiesOn
    polygon: list[Flat]
    area: float
    pressure: list[float]
    normal: float
    why: str


class CarrierOut(BaseModel):
    """A member that carries a panel, and the parts of it whose load it takes."""

    member: str
    line: list[Flat]
    takes: list[list[Flat]]


class PanelOut(BaseModel):
    """A panel as someone sees it who looks at it from outside: coordinates in m to the right and upwards.

    turn: rows (a, b, c) by which x, y of the drawing become a + b x + c y, the panel's own coordinates. across: in which direction it would span, turned by
    90°; excluded: what it is kept from resting on. origin, u, v: where its drawing lies in space, and its directions to the right and upwards.
    """

    name: str
    kind: str
    area: float
    pitch: float
    outline: list[Flat]
    openings: list[list[Flat]]
    outside: Triple
    span: Flat
    across: Triple
    two_way: bool
    carriers: list[CarrierOut]
    excluded: list[CarrierOut]
    zones: list[ZoneOut]
    loads: list[SurfaceLoadOut]
    turn: tuple[Triple, Triple]
    origin: Triple
    u: Triple
    v: Triple


class TracedLoad(BaseModel):
    """A line load on a member of one case: from start to end in m, in kN/m along X, Y, Z and along the member's own x, y, z, and
    the panel it comes from ("": stated or self-weight). widths: m of the panel that the member takes at start and end, None where
    the pressure changes over them."""

    start: float
    end: float
    first: Triple
    last: Triple
    own_first: Triple
    own_last: Triple
    widths: tuple[float, float] | None
    panel: str
    zone: str
    why: str


class TracedOut(BaseModel):
    """The line loads on a member of one case, or why there are none. area, factor: m² of deck that it takes and α_A of it, where
    imposed load is reduced by area."""

    loads: list[TracedLoad]
    nothing: list[str]
    area: float | None
    factor: float | None


class PsiOut(BaseModel):
    """ψ0, ψ1, ψ2 of a row of EN 1990 table A1.1, as used and as recommended; cases: symbols that take it."""

    row: str
    used: tuple[float, float, float]
    recommended: tuple[float, float, float]
    cases: list[str]


class SnowOut(BaseModel):
    mu: float
    undrifted: float
    drifted: float
