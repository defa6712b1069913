"""The operations by hand, as typed values: what an API call or a test says."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import (
    Align,
    BearsAt,
    Behaviour,
    Freedom,
    Haunch,
    Name,
    NotNegative,
    Number,
    Part,
    Positive,
    Role,
    Vector,
)
from engine.document.byhand import (
    Footing,
    MemberInput,
    NodeInput,
    Offset,
    OwnChecks,
    Releases,
    SectionInput,
    SupportInput,
)
from engine.document.loads import CaseInput, MemberLoad, NodeLoad

Place = Name | Vector
Count = Annotated[int, Field(ge=1, le=200)]


class MemberChange(Part):
    """New values for members; None leaves what stands. prismatic: takes haunches and taper off."""

    section: Name | None = None
    prismatic: Literal[True] | None = None
    end_section: Name | None = None
    haunch_start: Haunch | None = None
    haunch_end: Haunch | None = None
    material: Name | None = None
    roll: Number | None = None
    offset: Offset | None = None
    align: Align | None = None
    behaviour: Behaviour | None = None
    releases: Releases | None = None
    bears_at: BearsAt | None = None
    group: Annotated[str, Field(max_length=40)] | None = None
    checks: OwnChecks | None = None


class ChangeMembers(Part):
    """Change members; a role can be given to members by hand only."""

    do: Literal["change"] = "change"
    members: list[Name]
    change: MemberChange
    role: Role | None = None


class HaunchSize(Part):
    """Length and depth of a haunch, m."""

    length: Annotated[float, Field(ge=0.2, le=20, allow_inf_nan=False)]
    depth: Annotated[float, Field(ge=0.05, le=2, allow_inf_nan=False)]


class Resize(Part):
    """Give members another section, of another grade if one is given; haunch: and the deepest haunches among them another size. Where they
    are all that a jig's section or haunch is for, the jig itself changes; else they are edited."""

    do: Literal["resize"] = "resize"
    members: Annotated[list[Name], Field(min_length=1)]
    section: Name
    material: Name | None = None
    haunch: HaunchSize | None = None


class RemoveMembers(Part):
    do: Literal["remove"] = "remove"
    members: list[Name]


class RestoreMembers(Part):
    """Take the edits of generated members back: they stand as their jig sets them."""

    do: Literal["restore"] = "restore"
    members: list[Name]


class Restrain(Part):
    """Hold flanges at a distance from the start, or let go what holds them there. to: where it is moved instead."""

    do: Literal["restrain"] = "restrain"
    members: list[Name]
    flange: Literal["outer", "inner", "both"]
    at: NotNegative
    let_go: bool = False
    to: NotNegative | None = None


class Lateral(Part):
    """State the length for lateral-torsional buckling of the segment of a flange around a place, over the distance of what holds it there; without a factor:
    that distance again."""

    do: Literal["lateral"] = "lateral"
    members: list[Name]
    flange: Literal["outer", "inner"]
    at: NotNegative
    factor: Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)] | None = None


class MatchRestraints(Part):
    """Hold the flanges of members at the same distances as those of another one of their length."""

    do: Literal["match"] = "match"
    members: list[Name]
    like: Name


class Draw(Part):
    """Draw members from point to point; a point is a node's name or a place. releases: of each member."""

    do: Literal["draw"] = "draw"
    points: Annotated[list[Place], Field(min_length=2, max_length=500)]
    section: Name = "IPE 200"
    material: Name = "S355"
    role: Role = "member"
    behaviour: Behaviour = "beam"
    roll: Number = 0.0
    releases: Releases = Releases()
    group: Annotated[str, Field(max_length=40)] = ""


class Add(Part):
    """Add parts that were made elsewhere, moved by a step: nodes, members between them, supports, sections of one's own, cases with loads.
    A node where one stands already is that one; a member or a node whose name is taken gets a fresh one; a case of the same name and nature
    is the same case."""

    do: Literal["add"] = "add"
    nodes: Annotated[list[NodeInput], Field(min_length=2, max_length=10_000)]
    members: Annotated[list[MemberInput], Field(min_length=1, max_length=10_000)]
    supports: Annotated[list[SupportInput], Field(max_length=10_000)] = []
    sections: Annotated[list[SectionInput], Field(max_length=500)] = []
    cases: Annotated[list[CaseInput], Field(max_length=200)] = []
    member_loads: Annotated[list[MemberLoad], Field(max_length=20_000)] = []
    node_loads: Annotated[list[NodeLoad], Field(max_length=20_000)] = []
    step: Vector = (0.0, 0.0, 0.0)


class Copy(Part):
    """Copy members by a step, `count` times, and all of that by another step, `rows` times; with supports and loads if asked for, and with the
    panels that rest on them alone."""

    do: Literal["copy"] = "copy"
    members: list[Name]
    step: Vector
    count: Count = 1
    across: Vector = (0.0, 0.0, 0.0)
    rows: Annotated[int, Field(ge=0, le=200)] = 0
    supports: bool = True
    loads: bool = False
    panels: bool = True


class Move(Part):
    """Move members with their nodes, or nodes alone."""

    do: Literal["move"] = "move"
    members: list[Name] = []
    nodes: list[Name] = []
    step: Vector


class Mirror(Part):
    """Copy members mirrored in the plane axis = at; with what a Copy brings."""

    do: Literal["mirror"] = "mirror"
    members: list[Name]
    axis: Literal["X", "Y", "Z"]
    at: Number
    supports: bool = False
    loads: bool = False
    panels: bool = True


class Rotate(Part):
    """Copy members turned about an axis through a point, `count` times by the angle in degrees; with what a Copy brings."""

    do: Literal["rotate"] = "rotate"
    members: list[Name]
    about: Vector
    axis: Literal["X", "Y", "Z"] = "Z"
    angle: Number
    count: Count = 1
    supports: bool = False
    loads: bool = False
    panels: bool = True


class Extrude(Part):
    """Draw a member from each node along a step, `count` times on end."""

    do: Literal["extrude"] = "extrude"
    nodes: list[Name]
    step: Vector
    count: Count = 1
    section: Name = "IPE 200"
    material: Name = "S355"
    role: Role = "member"


class Divide(Part):
    """Put nodes on members that divide them equally, or at shares of their length; with `cut` the parts become members of their own."""

    do: Literal["divide"] = "divide"
    members: list[Name]
    parts: Annotated[int, Field(ge=2, le=100)] | None = None
    at: Annotated[list[Annotated[float, Field(gt=0, lt=1, allow_inf_nan=False)]], Field(max_length=100)] = []
    cut: bool = False


class Join(Part):
    """Make members that follow one another on one line a single one."""

    do: Literal["join"] = "join"
    members: Annotated[list[Name], Field(min_length=2)]


class Cross(Part):
    """Put a node where members cross, through which they then pass."""

    do: Literal["cross"] = "cross"
    members: Annotated[list[Name], Field(min_length=2)]


class Trim(Part):
    """Lengthen or shorten members so that they end on the line of another."""

    do: Literal["trim"] = "trim"
    members: list[Name]
    to: Name


class Rejoin(Part):
    """Put ends of a member elsewhere, at a node or a place; None: it stays. A member of a jig is taken out of it and drawn there like it."""

    do: Literal["rejoin"] = "rejoin"
    member: Name
    start: Place | None = None
    end: Place | None = None


class Merge(Part):
    """Make nodes one: those by hand move to the first, or to one of a jig."""

    do: Literal["merge"] = "merge"
    nodes: Annotated[list[Name], Field(min_length=2)]


class Support(Part):
    """Support nodes, in place of what they have; without directions, springs and a footing: let them go."""

    do: Literal["support"] = "support"
    nodes: list[Name]
    fixed: list[Freedom] = []
    springs: dict[Freedom, Positive] = {}
    one_way: list[Freedom] = []
    turn: Number = 0.0
    settlement: Vector = (0.0, 0.0, 0.0)
    footing: Footing | None = None


class ChangeLoad(Part):
    """New values for a load on a member, by its number in the document; None leaves what stands."""

    do: Literal["load"] = "load"
    number: Annotated[int, Field(ge=0)]
    value: Vector | None = None
    value_end: Vector | None = None
    start: NotNegative | None = None
    end: NotNegative | None = None


class Replace(Part):
    """Give an edit that lost its place another one; without a target: drop it. place: “edits.3” and the like."""

    do: Literal["replace"] = "replace"
    place: Name
    target: Name | None = None


class Rename(Part):
    """Give a case, a panel or a member by hand another name; everything that refers to it follows."""

    do: Literal["rename"] = "rename"
    kind: Literal["case", "panel", "member"]
    name: Name
    to: Name


class ReleaseJig(Part):
    """Turn what a jig sets out into free members, for good."""

    do: Literal["release"] = "release"
    jig: Name


Operation = Annotated[
    ChangeMembers
    | Resize
    | RemoveMembers
    | RestoreMembers
    | Restrain
    | Lateral
    | MatchRestraints
    | Draw
    | Add
    | Copy
    | Move
    | Mirror
    | Rotate
    | Extrude
    | Divide
    | Join
    | Cross
    | Trim
    | Rejoin
    | Merge
    | Support
    | ChangeLoad
    | Replace
    | Rename
    | ReleaseJig,
    Field(discriminator="do"),
]
