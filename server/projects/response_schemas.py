"""What the API tells of the response: diagrams, states, extremes, modes, reactions."""

from __future__ import annotations

from pydantic import BaseModel

from engine.document.base import LiesOn
from server.projects.structure_schemas import Triple


class ReactionOut(BaseModel):
    """Extreme reactions of a support over the strength combinations, in kN and kNm, with the combination of each."""

    node: str
    directions: list[str]
    most: list[float]
    most_in: list[str]
    least: list[float]
    least_in: list[str]


class RunOut(BaseModel):
    """Diagrams along one member in kN, kNm and mm; points and displacements in global X, Y, Z.

    axis_z: direction of local z, towards which a negative moment's diagram is drawn (tension side).
    N, Vy, Vz, T, My, Mz: for an envelope the greatest, least_N and so on the least; alike for a single state.
    utilisation: largest of all checks at each station, over all combinations or in the one that is shown; null where nothing is
    covered. stretch: true length
    of the pieces at the stations beside that along the member, empty where they are the same (a haunch's pieces are inclined). pulled: of a single state, ∫N from each element's start in
    kNm where N is not straight between the stations, else empty.
    """

    member: str
    axis_z: Triple
    points: list[Triple]
    x: list[float]
    stretch: list[float] = []
    N: list[float]
    Vy: list[float]
    Vz: list[float]
    T: list[float]
    My: list[float]
    Mz: list[float]
    least_N: list[float]
    least_Vy: list[float]
    least_Vz: list[float]
    least_T: list[float]
    least_My: list[float]
    least_Mz: list[float]
    displacement: list[Triple]
    utilisation: list[float | None]
    pulled: list[float] = []
    most_in: dict[str, list[int]] = {}
    least_in: dict[str, list[int]] = {}


class LoadOut(BaseModel):
    """A line load on a member in kN/m, global axes, between two points."""

    member: str
    start: Triple
    end: Triple
    first: Triple
    last: Triple


class PointOut(BaseModel):
    """A concentrated load in kN and kNm, global axes, at a point; member: the one it acts on, "" on a node."""

    member: str
    at: Triple
    force: Triple
    moment: Triple


class LateralOut(BaseModel):
    """Factor on a state's forces at which a member buckles sideways; None: it does not. covered: whether it could be sought."""

    factor: float | None
    covered: bool


class StateOut(BaseModel):
    """What an engineer checks of a combination. applied, reacted: kN; moved: the largest movement in mm, and its node; order:
    1 or 2; alpha: critical factor, None where none was sought or nothing buckles; together: the lowest at which no member buckles
    by itself, which chooses the order; buckles: what does, in words; slack: members that do not act; free: what is left without
    these is a mechanism, drawn as the state “free:” and its name."""

    name: str
    use: str
    applied: Triple
    reacted: Triple
    moved: float
    node: str
    residual: float
    order: int
    alpha: float | None
    together: float | None
    buckles: str
    slack: list[str]
    settled: bool
    stable: bool
    free: bool


class ExtremesOut(BaseModel):
    """Greatest and least of N, Vy, Vz, T, My, Mz (kN, kNm) of a member over its strength combinations, with these and with the
    distance from the member's start (m), found by formula between the stations."""

    member: str
    role: str
    most: list[float] = []
    most_at: list[float] = []
    most_in: list[str] = []
    least: list[float] = []
    least_at: list[float] = []
    least_in: list[str] = []


class SwayOut(BaseModel):
    """Sway of a storey of a column, or of the whole, between the heights foot and head (m): along X and Y the largest in mm over
    the combinations of a use, height over it (None: next to nothing), and the combinations. grid: the lines it stands on."""

    member: str
    grid: str
    foot: float
    head: float
    whole: bool
    use: str
    sway: list[float]
    ratio: list[float | None]
    combination: list[str]


class DeckForcesOut(BaseModel):
    """Forces of a stiff deck in its plane, kN/m: along its first side, across it, and in shear, the largest in size over the
    strength combinations, with these."""

    panel: str
    force: list[float]
    combination: list[str]


class ModeOut(BaseModel):
    """A buckling mode (value: critical factor) or a natural one (value: Hz), by the state under which it can be drawn. by_itself:
    the member that buckles nearly alone, "" where parts of the frame do."""

    value: float
    state: str
    by_itself: str = ""


class PushOut(BaseModel):
    """What a support gives to the structure: force in kN, moment in kNm, in global axes, at a point in m."""

    node: str
    at: Triple
    force: Triple
    moment: Triple


class AreaOut(BaseModel):
    """What lies on a slab or a part of it: corners in m, kN/m² in global axes at them, along a line kN/m, at a point kN."""

    panel: str
    kind: LiesOn
    corners: list[Triple]
    force: list[Triple]


class DiagramOut(BaseModel):
    """One frame (or the whole, frame 0) under a case, a combination, or the envelope of all strength combinations. among: the
    states of an envelope. own: whether utilisation is that of this state alone. combination: the one shown, itself or by a mode of it."""

    revision: int
    state: str
    combination: str = ""
    kind: str
    formula: str
    runs: list[RunOut]
    loads: list[LoadOut]
    points: list[PointOut] = []
    areas: list[AreaOut] = []
    reactions: list[PushOut] = []
    own: bool = False
    among: list[str] = []
