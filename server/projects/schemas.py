"""What the API gives and takes. The TypeScript types are generated from these and from the engine's document."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from engine.document import Document
from engine.document.base import Name
from engine.document.byhand import OwnChecks
from engine.editing.operations import Operation
from engine.verification.outcomes import Kind

Triple = tuple[float, float, float]
OfficeRole = Literal["administrator", "designer", "checker", "viewer"]
ProjectRole = Literal["owner", "editor", "checker", "viewer"]
SharedRole = Literal["editor", "checker", "viewer"]
Stage = Literal["structure", "loading", "combinations", "response", "verification"]


class Me(BaseModel):
    """Who is signed in, and their role in the office."""

    name: str
    role: OfficeRole


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


class SharingOut(BaseModel):
    """Whose a project is and who may see it. office_role: as what all of the office may, None for not at all."""

    owner: str
    office_role: SharedRole | None
    shares: list[ShareOut]


class ShareOut(BaseModel):
    name: str
    role: SharedRole


class Sharing(BaseModel):
    """name: of a person, empty for all of the office; role: None to share no longer."""

    name: str = ""
    role: SharedRole | None = None


class Transfer(BaseModel):
    name: str


class HappenedOut(BaseModel):
    """Something that was done. revision: the one that it made, if it made one."""

    at: datetime
    person: str
    words: str
    revision: int | None = None


class PersonOut(BaseModel):
    """A person of the office. last: when they signed in last, told to administrators alone."""

    name: str
    role: OfficeRole
    active: bool
    last: datetime | None


class PersonChange(BaseModel):
    name: str
    role: OfficeRole | None = None
    active: bool | None = None


class Invite(BaseModel):
    """note: whom the link is for; person: who has an account and takes a new password."""

    role: OfficeRole = "designer"
    note: str = ""
    person: str = ""


class LinkOut(BaseModel):
    link: str
    expires: datetime


class InvitationOut(BaseModel):
    """An open link, without its secret. password: it gives the person in the note a new password."""

    id: int
    role: OfficeRole
    note: str
    password: bool
    expires: datetime


class PasswordChange(BaseModel):
    old: str
    new: str


class SessionOut(BaseModel):
    """A browser in which one is signed in. present: the one that asks."""

    id: int
    address: str
    browser: str
    began: datetime
    present: bool


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


class Base(BaseModel):
    """The revision that the sender sees."""

    base: int


class SectionOut(BaseModel):
    """Dimensions in mm, mass in kg/m, properties in cm and its powers."""

    name: str
    family: str
    h: float
    b: float
    tw: float
    tf: float
    mass: float
    A: float
    Iy: float
    Iz: float
    It: float
    Iw: float
    Wel_y: float
    Wpl_y: float
    Wel_z: float
    Wpl_z: float


class FamilyOut(BaseModel):
    name: str
    standard: str
    what: str
    sections: list[SectionOut]


class OutlineOut(BaseModel):
    """A section to scale: rings of points in mm, and its neighbours in mass order."""

    section: SectionOut
    rings: list[list[tuple[float, float]]]
    neighbours: list[SectionOut]


class CsvFile(BaseModel):
    """The text of a CSV file."""

    text: Annotated[str, Field(max_length=1_000_000)]


class MaterialOut(BaseModel):
    name: str
    what: str


class CheckOut(BaseModel):
    criterion: str
    kind: Kind
    words: str
    clause: str
    utilisation: float
    combination: str
    formula: str
    position: float


class HaunchOut(BaseModel):
    """A haunch below a member, m: from its foot to its tip along the member, and its depth below the section at the foot."""

    foot: float
    tip: float
    depth: float


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
    """The limit on deflection of a role: length over deflection, as stated and by default."""

    role: str
    label: str
    stated: float | None
    usual: float


class MemberOut(BaseModel):
    """A member with its verdict. line: indices of its nodes; size: depth and width of its section in m; shape: outline to
    draw it with; roll: degrees, of local z from upwards; storey: name of its floor's level; outer, inner: restraints of the flanges
    between its ends."""

    name: str
    label: str
    role: str
    frame: int
    line: list[int]
    section: str
    size: tuple[float, float]
    shape: str
    material: str
    behaviour: str
    roll: float
    group: str
    storey: str
    jig: str
    edited: bool
    releases: list[str]
    outer: list[float]
    inner: list[float]
    length: float
    mass: float
    status: str
    not_covered: list[str]
    left_out: list[str] = []
    haunches: list[HaunchOut] = []
    own: OwnChecks = OwnChecks()
    utilisation: float | None
    governs: str
    combination: str
    checks: list[CheckOut]


class RoleOut(BaseModel):
    """A role of the building. key: its place below hall.sections, "" when it has none or several."""

    role: str
    label: str
    key: str
    section: str
    count: int
    worst: float | None
    status: str
    mass: float


class CaseOut(BaseModel):
    """A case with its balance, in kN. ground: what cladding gives to the ground past the structure; tilted: panels whose load
    reaches their carriers without its moment."""

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


class TiltOut(BaseModel):
    """Overturning about an edge of the footprint (None: uplift of the whole): kNm or kN, acting and resisting."""

    words: str
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


class ReactionOut(BaseModel):
    """Extreme reactions of a support over the strength combinations, in kN and kNm, with the combination of each."""

    node: str
    directions: list[str]
    most: list[float]
    most_in: list[str]
    least: list[float]
    least_in: list[str]


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


class PanelBrief(BaseModel):
    """A panel. stiff: "rigid", "membrane" or "", how it holds its plane; its corners in m where it does."""

    name: str
    kind: str
    side: str
    area: float
    pitch: float
    carriers: int
    stiff: str = ""
    corners: list[Triple] = []


Flat = tuple[float, float]


class StepsOut(BaseModel):
    """The steps of EN 1991-1-4 4.2 to 4.5 to q_p(z_e), speed in m/s, heights in m, q_b in kN/m²; and e = min(b, 2h)."""

    z: float
    speed: float
    basic: float
    terrain: str
    terrain_factor: float
    roughness: float
    orography: float
    turbulence: float
    exposure: float
    b: float
    height: float
    e: float


class ZoneOut(BaseModel):
    """A wind zone on a panel: (c_pe,10, c_pe,1) of its two sets, and the printed values that they lie between; peak: q_p(z_e) in
    kN/m², with its steps."""

    direction: str
    letter: str
    polygon: list[Flat]
    area: float
    suction: Flat
    pressure: Flat
    peak: float
    source: str
    read: list[str]
    steps: StepsOut


class SurfaceLoadOut(BaseModel):
    """A pressure of a case on a part of a panel, at its corners in kN/m²; normal: share that pushes onto the panel."""

    case: str
    zone: str
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

    turn: rows (a, b, c) by which x, y of the drawing become a + b x + c y, the panel's own coordinates.
    """

    name: str
    kind: str
    area: float
    pitch: float
    outline: list[Flat]
    openings: list[list[Flat]]
    outside: Triple
    span: Flat
    two_way: bool
    carriers: list[CarrierOut]
    zones: list[ZoneOut]
    loads: list[SurfaceLoadOut]
    turn: tuple[Triple, Triple]


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


class ClimateOut(BaseModel):
    """What the climate service knows of a place: kN/m², m/s, m."""

    place: str
    region: str
    x_km: float
    y_km: float
    altitude: float
    ground_snow: float
    wind_speed: float
    terrain: str
    source: str


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


class HallOut(BaseModel):
    """Dimensions that follow: top of the roof, span between the outer system lines, length, slopes (name, length, pitch)."""

    height: float
    span: float
    length: float
    slopes: list[tuple[str, float, float]]


class PlaneOut(BaseModel):
    """A plane to look at: a point of it, unit vectors to the right and upwards, its members by number."""

    key: str
    kind: str
    label: str
    origin: Triple
    u: Triple
    v: Triple
    members: list[int]


class SnagOut(BaseModel):
    kind: str
    weight: str
    what: str
    why: str
    members: list[str]
    nodes: list[str]
    at: Triple
    mend: str


class OrphanOut(BaseModel):
    """An edit without a place: where it stands, what it was for, what it said."""

    place: str
    target: str
    said: str


class GridOut(BaseModel):
    name: str
    axis: str
    at: float


class LevelOut(BaseModel):
    """A level. own: stated by hand; floor: whether a jig's floor lies in it."""

    name: str
    height: float
    own: bool
    floor: bool = False


class SupportOut(BaseModel):
    """A support. springs: in the units of the document. own: stated by hand, in place of a jig's."""

    node: str
    index: int
    fixed: list[str]
    springs: dict[str, float]
    one_way: list[str]
    turn: float
    settlement: Triple
    own: bool


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


class ChainOut(BaseModel):
    """Everything the workbench shows of one revision but diagrams and proofs. problem: set when the chain broke. tonnage: of all members;
    masses: of the steel, and of other materials by name; both in t."""

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
    roles: list[RoleOut] = []
    cases: list[CaseOut] = []
    combinations: list[CombinationOut] = []
    reactions: list[ReactionOut] = []
    equilibrium: list[TiltOut] = []
    lifted: list[LiftedOut] = []
    stabilised: list[StabilisedOut] = []
    lengths: list[LengthsOut] = []
    hall: HallOut | None = None
    winds: list[WindOut] = []
    panels: list[PanelBrief] = []
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


class RunningOut(BaseModel):
    """How the computation of a revision stands. state: that of its run, or "paused". done of `of` combinations of the stage."""

    revision: int
    state: str
    stage: str = ""
    done: int = 0
    of: int = 0
    attempts: int = 1
    message: str = ""


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


class DiagramOut(BaseModel):
    """One frame (or the whole, frame 0) under a case, a combination, or the envelope of all strength combinations. among: the
    states of an envelope. own: whether utilisation is that of this state alone."""

    revision: int
    state: str
    kind: str
    formula: str
    runs: list[RunOut]
    loads: list[LoadOut]
    points: list[PointOut] = []
    reactions: list[PushOut] = []
    own: bool = False
    among: list[str] = []


class SpanOut(BaseModel):
    """A segment of a flange with its utilisation in lateral-torsional buckling."""

    start: float
    end: float
    utilisation: float


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
    values: list[tuple[str, str, str]]


class StepOut(BaseModel):
    symbol: str
    formula: str
    numbers: str
    value: str
    clause: str
    words: str


class ProofOut(BaseModel):
    revision: int
    member: str
    title: str
    clause: str
    combination: str
    formula: str
    utilisation: float
    steps: list[StepOut]
    assumptions: list[str]
