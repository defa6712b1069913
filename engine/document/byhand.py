"""What is set out by hand, and what is laid over generated things. Lengths in metres, angles in degrees."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import ConfigDict, Field

from engine.document.base import (
    Align,
    BearsAt,
    Behaviour,
    Category,
    Deck,
    Direction,
    Freedom,
    Haunch,
    Name,
    NotNegative,
    Number,
    Part,
    Place,
    Point,
    Positive,
    Role,
    Slab,
    Vector,
)
from engine.document.references import MemberName, NodeName, PanelName


class GridLineInput(Part):
    """A grid line besides those of the hall. axis: what it measures; a line of axis "X" stands at x = at."""

    name: Annotated[str, Field(min_length=1, max_length=8)]
    axis: Literal["X", "Y"]
    at: Place


class LevelInput(Part):
    """A named level by its height above ±0, or above another level of that name."""

    name: Annotated[str, Field(min_length=1, max_length=30)]
    height: Number
    above: Annotated[str, Field(max_length=80)] = ""


class NodeInput(Part):
    name: Name
    at: Point


class MaterialInput(Part):
    """An elastic material stated by the document, in its units; fy, fu: yield and tensile strength, when it is a steel of one's own;
    expansion: per kelvin."""

    name: Name
    E: Positive
    G: Positive | None = None
    density: NotNegative = 0.0
    fy: Positive | None = None
    fu: Positive | None = None
    expansion: NotNegative = 12e-6


class SectionInput(Part):
    """A section stated by its properties, in m², m⁴, m⁶. Without shear areas it is rigid in shear."""

    name: Name
    A: Positive
    Iy: Positive
    Iz: Positive
    It: Positive
    Iw: NotNegative = 0.0
    Avy: Positive | None = None
    Avz: Positive | None = None


class BuiltSection(Part):
    """A section made up in the workshop, from sizes in mm. Which sizes count depends on the shape.

    welded I: h, b (top flange), tf, b2 and tf2 (bottom flange; 0: as the top), tw. box: h, b, tf, tw. cross: the section
    `of` and another turned by 90° through its web. double: two of section `of` (angle or channel), back to back, `gap`. laced,
    battened: two chords of section `of`, `h` between their centroids, joined every `panel`: by diagonals of section `by` in an
    `arrangement`, or by battens `b` deep along the member and `tw` thick; in `planes` planes.
    """

    name: Name
    shape: Literal["welded I", "box", "cross", "double", "laced", "battened"]
    h: NotNegative = 0.0
    b: NotNegative = 0.0
    tw: NotNegative = 0.0
    tf: NotNegative = 0.0
    b2: NotNegative = 0.0
    tf2: NotNegative = 0.0
    of: str = ""
    gap: NotNegative = 0.0
    panel: NotNegative = 0.0
    by: str = ""
    arrangement: Literal["zigzag", "crossed", "posts"] = "zigzag"
    planes: Annotated[int, Field(ge=1, le=4)] = 2


class PanelInput(Part):
    """A panel drawn by hand: a plane polygon of nodes or places.

    kind: "floor" brings its own weight and imposed load (kN/m²), "surface" only what is put on it. carriers: members that
    take its load, empty: all beams in its plane that run through it; excluded: never these. span: direction in which it
    spans, None: across the longest carrier. flip: its outside is the other side. snow: shape coefficient μ with which it
    takes part in the generated snow; diaphragm: how it holds the members in its plane, as in a floor jig, or as a slab that bends by itself; reduced: imposed load by α_A of each carrier's area (EN 1991-1-1 6.3.1.2(10)); wind: net pressure coefficient by direction, pressing from outside, with q_p at its
    top; both absent: none.
    """

    name: Name
    kind: Literal["floor", "surface"] = "floor"
    corners: Annotated[list[NodeName | Vector], Field(min_length=3, max_length=40)]
    carriers: list[MemberName] = []
    excluded: list[MemberName] = []
    span: Vector | None = None
    two_way: bool = False
    diaphragm: Literal["none", "rigid", "membrane", "slab"] = "none"
    membrane: Deck = Deck()
    slab: Slab = Slab()
    flip: bool = False
    openings: list[Annotated[list[Vector], Field(min_length=3, max_length=40)]] = []
    permanent: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0
    imposed: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 0.0
    category: Category = "B"
    reduced: bool = False
    snow: Annotated[float, Field(ge=0, le=4, allow_inf_nan=False)] | None = None
    wind: dict[Direction, Annotated[float, Field(ge=-5, le=5, allow_inf_nan=False)] | None] = {}


class Releases(Part):
    """Movements released at start and end (local axes; rx is twist), and springs instead: force per metre, moment
    per radian, in the document's units."""

    start: list[Freedom] = []
    end: list[Freedom] = []
    start_springs: dict[Freedom, Positive] = {}
    end_springs: dict[Freedom, Positive] = {}


class Offset(Part):
    """Distance of the member's centroid from the line between its nodes, along local y and z."""

    y: Number = 0.0
    z: Number = 0.0


class Holes(Part):
    """Bolt holes at the ends of a member, mm. across: in one section at right angles to it; zigzag: on a staggered line, with s along
    and p across from each to the next; thickness: of what they go through, None: its flange, leg or web. rows: of an angle by one leg,
    bolts in a line along it (0: connected otherwise); p1: between them; e2: from the hole to the edge, where there is one bolt alone.
    """

    model_config = ConfigDict(frozen=True)

    d0: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)]
    across: Annotated[int, Field(ge=1, le=50)] = 1
    thickness: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)] | None = None
    zigzag: Annotated[int, Field(ge=0, le=50)] = 0
    s: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
    p: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
    rows: Annotated[int, Field(ge=0, le=50)] = 0
    p1: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0
    e2: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 0.0


class StiffenerPlates(Part):
    """Transverse stiffeners of a web: a flat plate on each side of it, width × thickness, mm, fitted to both flanges; post: distance of the two
    pairs of a rigid end post, mm, 0 where none is stated."""

    model_config = ConfigDict(frozen=True)

    width: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]
    thickness: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False)]
    post: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] = 0.0


class SegmentLength(Part):
    """The length for lateral-torsional buckling of the segment of a flange in which a place lies, m from the member's start, over the distance between
    what holds it there. over: that distance as it was, m: where it is another, nothing is stated; None: whatever it is."""

    model_config = ConfigDict(frozen=True)

    flange: Literal["outer", "inner"]
    at: NotNegative
    factor: Annotated[float, Field(ge=0.1, le=10, allow_inf_nan=False)]
    over: Positive | None = None

    def holds(self, start: float, end: float) -> bool:
        """Whether it is of a segment between these places, m."""
        there = start - 1e-6 <= self.at < end - 1e-6
        return there and (self.over is None or abs(self.over - (end - start)) < 1e-3)


class OwnChecks(Part):
    """What a member is verified with, in place of what its role gives; None leaves that.

    buckling_y, buckling_z, buckling_T: effective lengths for buckling about y and z and in torsion over the member's own length; from_y, from_z: how they were
    found, in words, None by hand; lateral: those for lateral-torsional buckling, segment by segment. deflection: length over
    deflection (height over drift, of columns) that it must keep, 0 where it is not checked; deflection_variable, deflection_imposed, deflection_lasting: under variable actions alone, under imposed loads alone, under the
    quasi-permanent combinations; deflection_mm, variable_mm, imposed_mm, lasting_mm: the same as millimetres at most, besides. camber: how far it is made to rise in its middle, mm, which the total deflection
    takes off. slenderness: L_cr/i at most, 0: no limit. holes: at its ends, for its net section. bearing: stiff length, mm, over which
    what presses on its flanges does so, 0 where none is stated; stiffened: its web has stiffeners wherever something presses on it.
    knees: its web at rigid joints has a supplementary plate as thick as itself, or diagonal stiffeners, whose strength is not verified.
    panel: distance of transverse stiffeners along it, m, 0 or nothing where they stand at its supports alone; rigid_ends: its end posts are rigid;
    plates: what all of these stiffeners are made of, None where that is not stated.
    remark: the designer's own words, which stand in its proofs. proven: its proofs stand in the dossier, as those of a member with a remark do.
    """

    model_config = ConfigDict(frozen=True)

    buckling_y: Annotated[float, Field(ge=0.1, le=1000, allow_inf_nan=False)] | None = None
    from_y: Annotated[str, Field(max_length=120)] | None = None
    from_z: Annotated[str, Field(max_length=120)] | None = None
    buckling_z: Annotated[float, Field(ge=0.1, le=1000, allow_inf_nan=False)] | None = None
    buckling_T: Annotated[float, Field(ge=0.1, le=1000, allow_inf_nan=False)] | None = None
    lateral: tuple[SegmentLength, ...] | None = None
    deflection: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    deflection_mm: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    deflection_variable: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    variable_mm: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    deflection_imposed: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    imposed_mm: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    deflection_lasting: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    lasting_mm: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    camber: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] | None = None
    slenderness: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    holes: Holes | None = None
    bearing: Annotated[float, Field(ge=0, le=5000, allow_inf_nan=False)] | None = None
    stiffened: bool | None = None
    knees: Literal["plates", "diagonals"] | None = None
    panel: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] | None = None
    rigid_ends: bool | None = None
    plates: StiffenerPlates | None = None
    remark: Annotated[str, Field(max_length=2000)] | None = None
    proven: bool | None = None

    def changed(self, given: OwnChecks) -> OwnChecks | None:
        """With what was given, None too, in place of what was; the rest stays. None where nothing is left of it."""
        update = {name: getattr(given, name) for name in given.model_fields_set}
        if given.holes is not None and self.holes is not None:
            own = {name: getattr(given.holes, name) for name in given.holes.model_fields_set}
            update["holes"] = self.holes.model_copy(update=own)
        found = self.model_copy(update=update)
        return found if found != OwnChecks() else None

    def over(self, share: float) -> OwnChecks:
        """The same effective lengths in metres of a member whose length is that share of this one's."""
        update = {
            key: min(max(value / share, 0.1), 1000.0)
            for key in ("buckling_y", "buckling_z", "buckling_T")
            if (value := getattr(self, key)) is not None
        }
        return self.model_copy(update=update)

    def between(self, start: float, end: float) -> OwnChecks:
        """What of the lengths for lateral-torsional buckling belongs to a part of the member, in m from its start."""
        kept = [s for s in self.lateral or () if start <= s.at < end]
        moved = tuple(s.model_copy(update={"at": s.at - start}) for s in kept)
        return self.model_copy(update={"lateral": moved or None})

    def lateral_factor(self, flange: str, start: float, end: float) -> float | None:
        """What is stated for the segment of a flange from `start` to `end`, m, the most where several segments became one; None where nothing is."""
        own = (s.factor for s in self.lateral or () if s.flange == flange and s.holds(start, end))
        return max(own, default=None)


class MemberInput(Part):
    """A member by hand. end_section: section at its end when it tapers; else it may have haunches. align: flange or side that lies
    on the nodes' line. bears_at: where it bears on columns that it is hinged to, "as stated" for all (`analysis.bears_at`)."""

    name: Name
    start: NodeName
    end: NodeName
    section: Name
    end_section: Name | None = None
    haunch_start: Haunch | None = None
    haunch_end: Haunch | None = None
    material: Name = "S355"
    roll: Number = 0.0
    offset: Offset = Offset()
    align: Align = "centre"
    behaviour: Behaviour = "beam"
    releases: Releases = Releases()
    bears_at: BearsAt = "as stated"
    role: Role = "member"
    group: Annotated[str, Field(max_length=40)] = ""
    restraints_outer: list[NotNegative] = []
    restraints_inner: list[NotNegative] = []
    checks: OwnChecks | None = None


class MemberEdit(Part):
    """What is laid over a generated member; None leaves what the jig gives. Restraints are added to the jig's; freed_outer,
    freed_inner: places where what the jig holds does not count.

    prismatic: without the haunches of the jig; those of the edit come on top.
    """

    member: MemberName
    removed: bool = False
    section: Name | None = None
    prismatic: bool = False
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
    restraints_outer: list[NotNegative] = []
    restraints_inner: list[NotNegative] = []
    freed_outer: list[NotNegative] = []
    freed_inner: list[NotNegative] = []
    checks: OwnChecks | None = None


class NodeEdit(Part):
    """A generated node moved from where the jig puts it."""

    node: NodeName
    move: Vector


class PanelEdit(Part):
    """What is laid over a generated panel; excluded: members that bear none of it, its others bear their share."""

    panel: PanelName
    excluded: list[MemberName] = []


class Footing(Part):
    """A pad footing under a support, which its springs follow from: x, y: its sides along the support's axes, depth, in m. subgrade: modulus of
    the ground below it in kN/m³, friction: of its base, both whatever the document's units. clamped: what stands on it turns with it.
    """

    x: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)]
    y: Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)]
    depth: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 0.5
    subgrade: Annotated[float, Field(gt=0, le=1e7, allow_inf_nan=False)] = 20_000.0
    friction: Annotated[float, Field(ge=0, le=2, allow_inf_nan=False)] = 0.4
    clamped: bool = False


class SupportInput(Part):
    """What holds a node, in place of what the jig gives it.

    fixed: directions held rigidly; springs: force per metre, moment per radian, in the document's units. one_way:
    directions that push back only (the node may lift off). turn: the support's own axes, turned about Z (degrees).
    settlement: imposed movement in metres along X, Y, Z. footing: what it stands on, which bears it along Z and, clamped, about X and Y.
    """

    node: NodeName
    fixed: list[Freedom] = []
    springs: dict[Freedom, Positive] = {}
    one_way: list[Freedom] = []
    turn: Number = 0.0
    settlement: Vector = (0.0, 0.0, 0.0)
    footing: Footing | None = None


class CraneRails(Part):
    """A pair of crane rails on brackets, or on the heads of members, and how far cranes, and temperature beside them, may move
    them (EN 1993-6 tables 7.1 and 7.2): sway_ratio: height over movement across; beside_ratio: distance over what neighbours
    on one rail move apart across; spread_mm: change of their distance; level_ratio: distance over what one moves below the other. 0: no limit."""

    name: Name
    members: list[MemberName]
    sway_ratio: NotNegative = 400.0
    beside_ratio: NotNegative = 600.0
    spread_mm: NotNegative = 10.0
    level_ratio: NotNegative = 600.0


class NamedSet(Part):
    """Members kept together under a name."""

    name: Name
    members: list[MemberName]


class NamedView(Part):
    """What is looked at, kept under a name: a plane of the key plan, and members hidden or faded."""

    name: Name
    plane: Name = "whole"
    colour: str = "utilisation"
    hidden: list[str] = []
    faded: list[str] = []
    alone: list[MemberName] = []
