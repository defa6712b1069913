"""What the API tells of what stands."""

from __future__ import annotations

from pydantic import BaseModel

from engine.document.byhand import Footing, OwnChecks
from server.projects.verdict_schemas import CheckOut

Triple = tuple[float, float, float]


class HaunchOut(BaseModel):
    """A haunch below a member, m: from its foot to its tip along the member, and its depth below the section at the foot."""

    foot: float
    tip: float
    depth: float


class RailsOut(BaseModel):
    """A pair of crane rails: by rail the indices of the nodes on which it lies, in order; pairs: those opposite each other; across: from the
    first rail to the other; said: what could not be found."""

    name: str
    lines: list[list[int]]
    pairs: list[tuple[int, int]]
    across: Triple
    said: list[str]


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
    hinged: tuple[bool, bool] = (False, False)
    joints: tuple[float, float] = (0.0, 0.0)
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
    name: str


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
    """A support. springs: in the units of the document, without those of its footing. own: stated by hand, in place of a jig's."""

    node: str
    index: int
    fixed: list[str]
    springs: dict[str, float]
    one_way: list[str]
    turn: float
    settlement: Triple
    footing: Footing | None
    own: bool
