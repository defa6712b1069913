"""Parameters of the jigs: hall, truss, floor, bracing. Lengths in metres, angles in degrees."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from engine.document.base import BracingKind, Haunch, Name, Number, Part, Positive, Spacing, Vector
from engine.document.floors import FloorJig
from engine.document.references import MemberName, NodeName

Share = Annotated[float, Field(gt=0, lt=1, allow_inf_nan=False)]
Pitch = Annotated[float, Field(ge=-60, le=60, allow_inf_nan=False)]
#: of what stands on the ground: millimetres typed for metres end here
Height = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]
Pattern = Literal["Pratt", "Howe", "Warren", "Warren with posts", "N", "K", "Fink", "fan"]


class HallSections(Part):
    """One section per role of the hall."""

    columns: Name = "HEA 300"
    inner_columns: Name = "HEA 300"
    rafters: Name = "IPE 360"
    gable_rafters: Name = "IPE 240"
    gable_posts: Name = "IPE 240"
    eaves_beams: Name = "SHS 120x5"
    ridge_beam: Name = "SHS 120x5"
    bracing: Name = "CHS 88.9x4"
    struts: Name = "CHS 114.3x4"
    purlins: Name = "IPE 140"
    rails: Name = "IPE 140"
    knee_braces: Name = "SHS 100x5"
    ties: Name = "CHS 60.3x4"
    top_chords: Name = "HEA 160"
    bottom_chords: Name = "HEA 140"
    webs: Name = "SHS 80x4"
    lean_to_columns: Name = "HEA 160"
    lean_to_rafters: Name = "IPE 270"


class RoofBay(Part):
    """One bay across the hall, from its left grid line to its right one, under one roof shape.

    duopitch: the ridge follows from `pitch` and `right_pitch` (None: alike), or from `pitch` and `ridge_at` (distance
    from the left grid line), or from `ridge_height` and `ridge_at` (None: the middle). single pitch: rises to the right
    when the pitch is positive, and sets the height of its right end. right_height, right_base: top and foot of the
    columns on the right grid line; None: as on the left.
    """

    span: Annotated[float, Field(ge=3, le=80, allow_inf_nan=False)] = 24.0
    shape: Literal["duopitch", "single pitch", "flat"] = "duopitch"
    pitch: Pitch = 10.0
    right_pitch: Pitch | None = None
    ridge_at: Positive | None = None
    ridge_height: Height | None = None
    right_height: Height | None = None
    right_base: Number | None = None


class KneeBraces(Part):
    """Diagonals between column and rafter at the eaves; distances of their ends from the eaves node."""

    down: Annotated[float, Field(ge=0.3, le=10, allow_inf_nan=False)] = 1.5
    along: Annotated[float, Field(ge=0.3, le=10, allow_inf_nan=False)] = 1.5


class RafterTie(Part):
    """A tie between the two slopes of each duopitch bay, at a share of the rise above the eaves (0: eaves to eaves)."""

    at: Annotated[float, Field(ge=0, le=0.9, allow_inf_nan=False)] = 0.0


class Gable(Part):
    """An end frame: like the others, or simple rafters on posts. Posts by number, or by largest spacing when given."""

    kind: Literal["frame", "posts"] = "frame"
    posts: Annotated[int, Field(ge=0, le=30)] = 3
    spacing: Spacing | None = None


class ColdFormed(Part):
    """A cold-formed channel or Z with lips as a purlin or rail, held by sheeting on its outer flange as `rules.sheeting` of its role states.

    bars: anti-sag bars that hold it sideways in each span. fastener: from its web to the fasteners of the sheeting, None: in the middle of
    the flange.
    """

    section: Name = "Z 200x2.0"
    grade: Name = "S350GD"
    bars: Annotated[int, Field(ge=0, le=3)] = 0
    fastener: Annotated[float, Field(gt=0, le=0.2, allow_inf_nan=False)] | None = None


class Purlins(Part):
    """Purlins on the slopes (or rails on the walls).

    first: distance of the first from the eaves (rails: from the base), None: none besides the even ones. spacing: the
    largest. stay_every: every n-th is stayed to the inner flange (0: none). modelled: they are members that carry the
    panels; otherwise they only hold the flanges and weigh with the cladding. continuous: over the frames, else hinged. Where they are no
    members they are verified by table, of what they bear, by its name, or as cold.
    """

    first: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None
    spacing: Annotated[float, Field(ge=0.5, le=6, allow_inf_nan=False)] = 1.5
    stay_every: Annotated[int, Field(ge=0, le=20)] = 2
    modelled: bool = False
    continuous: bool = False
    table: Annotated[str, Field(max_length=80)] = ""
    cold: ColdFormed | None = None

    @model_validator(mode="after")
    def _one_way(self) -> Self:
        if self.table and self.cold:
            raise ValueError("a table and a cold-formed section exclude each other: both say what they bear")
        return self


class BracedBays(Part):
    """Bracing of one surface. bays: their numbers from the front, negative from the back. tension_only: of X bracing."""

    bays: list[int] = [1, -1]
    kind: BracingKind = "X"
    tension_only: bool = False


class HallBracing(Part):
    """Bracing of a hall by surface; None: none. gables: bays between the gable's posts or columns.

    struts: compression members across the slope at the panel points of the roof bracing, in the braced bays.
    """

    roof: BracedBays | None = BracedBays()
    walls: BracedBays | None = BracedBays()
    gables: BracedBays | None = None
    struts: bool = False
    panel: Annotated[float, Field(ge=1, le=20, allow_inf_nan=False)] = 6.5


class Overhangs(Part):
    """How far the roof stands out, measured in plan, beyond the outer column lines and beyond the end frames."""

    left: Annotated[float, Field(ge=0, le=6, allow_inf_nan=False)] = 0.0
    right: Annotated[float, Field(ge=0, le=6, allow_inf_nan=False)] = 0.0


class LeanTo(Part):
    """A lean-to: its roof meets the hall's column at `height` and falls outwards by `pitch` over `span`."""

    span: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] = 6.0
    height: Height = 4.5
    pitch: Annotated[float, Field(ge=0, le=45, allow_inf_nan=False)] = 8.0


class RoofTruss(Part):
    """The truss in place of the rafters of a trussed hall. depth: between the chords at the columns.

    panels: per half (for a single pitch or flat roof: per half of the span). bottom: level, or parallel to the slopes. stay_every: at every n-th panel point the bottom chord is stayed
    to the purlins (0: nowhere).
    """

    pattern: Pattern = "Warren with posts"
    depth: Annotated[float, Field(ge=0.3, le=8, allow_inf_nan=False)] = 1.2
    panels: Annotated[int, Field(ge=1, le=30)] = 5
    bottom: Literal["level", "parallel"] = "level"
    webs_pinned: bool = True
    stay_every: Annotated[int, Field(ge=0, le=20)] = 0


class HallJig(Part):
    """Parameters of a portal-frame or trussed hall of one to six bays across.

    spacings: distances between the frames, front to back. eaves_height, base_level: top and foot of the columns on the
    first grid line, heights above ±0. measured: what spans and heights are measured to; the steel keeps its place behind
    it. open_sides: a roof without walls, with the blockage φ below it. base_stiffness: kNm/rad about the axis along the hall, for bases "spring".
    """

    kind: Literal["hall"] = "hall"
    bays: Annotated[list[RoofBay], Field(min_length=1, max_length=6)] = [RoofBay()]
    eaves_height: Annotated[float, Field(ge=2, le=40, allow_inf_nan=False)] = 6.0
    base_level: Annotated[float, Field(ge=-20, le=30, allow_inf_nan=False)] = 0.0
    measured: Literal["grid", "cladding", "clear"] = "grid"
    spacings: Annotated[list[Spacing], Field(min_length=1, max_length=119)] = [6.0] * 7
    bases: Literal["pinned", "fixed", "spring"] = "pinned"
    base_stiffness: Positive = 20000.0
    eaves_haunch: Haunch | None = None
    apex_haunch: Haunch | None = None
    knee_braces: KneeBraces | None = None
    tie: RafterTie | None = None
    truss: RoofTruss | None = None
    front: Gable = Gable()
    back: Gable = Gable()
    purlins: Purlins = Purlins()
    rails: Purlins | None = None
    bracing: HallBracing = HallBracing()
    overhangs: Overhangs = Overhangs()
    lean_to_left: LeanTo | None = None
    lean_to_right: LeanTo | None = None
    open_sides: bool = False
    blockage: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    grade: Name = "S355"
    sections: HallSections = HallSections()

    @property
    def frames(self) -> int:
        """Number of frames."""
        return len(self.spacings) + 1

    @property
    def length(self) -> float:
        """Distance from the first frame to the last, in metres."""
        return sum(self.spacings)

    @property
    def span(self) -> float:
        """Distance between the outer grid lines as measured, in metres."""
        return sum(bay.span for bay in self.bays)

    @property
    def symmetric_duopitch(self) -> bool:
        """Whether it is a single bay under two equal slopes with equal eaves: the shape whose wind is generated so far."""
        bay = self.bays[0]
        alone = len(self.bays) == 1 and not self.lean_to_left and not self.lean_to_right
        level = bay.right_height in (None, self.eaves_height) and bay.right_base in (None, self.base_level)
        even = bay.right_pitch in (None, bay.pitch) and bay.ridge_at in (None, bay.span / 2)
        return bool(
            alone and level and even and bay.shape == "duopitch" and bay.pitch >= 5 and bay.ridge_height is None
        )


class Repeat(Part):
    """Copies in a row: how many in all, and the step from one to the next."""

    count: Annotated[int, Field(ge=1, le=200)] = 1
    step: Vector = (0.0, 6.0, 0.0)


class TrussSections(Part):
    """Sections by part of a truss."""

    top: Name = "HEA 160"
    bottom: Name = "HEA 140"
    posts: Name = "SHS 80x4"
    diagonals: Name = "SHS 80x4"
    columns: Name = "HEA 220"
    struts: Name = "SHS 100x5"
    purlins: Name = "IPE 140"
    bracing: Name = "CHS 60.3x4"


class TrussJig(Part):
    """A truss between two points of its bottom chord or on two columns, repeatable.

    start, end: ends of the bottom chord, at one height. on: the names of two columns in place of them: the truss meets their
    heads with the chord that `seat` says, and each repeated one stands on steel too. height_support, height_apex: between the chords at the supports
    and at the apex; apex_at: share of the span. panels: per half. columns: length of the columns below the bottom chord
    (None: it stands on supports). struts: members between repeated trusses at their ends and the apex; purlins: at every panel
    point of the top chord, and they bear the cladding; stay_every: at every n-th panel point they stay the bottom chord too (0: nowhere). braced: fields between trusses, by number from the first, negative from the last, with crossing
    diagonals along the top chords, which may act in tension only. roofed: cladding lies on the top chords from truss to truss, with the weight, imposed load and snow of a
    roof, and with wind where it is the roof of the building. blockage: φ below a roof without walls.
    """

    kind: Literal["truss"] = "truss"
    name: Name
    start: Vector = (0.0, 0.0, 5.0)
    end: Vector = (18.0, 0.0, 5.0)
    on: Annotated[list[MemberName], Field(max_length=2)] | None = None
    seat: Literal["top chord", "bottom chord"] = "top chord"
    pattern: Pattern = "Pratt"
    outline: Literal["double pitch", "single pitch", "parallel", "curved"] = "double pitch"
    height_support: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 1.0
    height_apex: Annotated[float, Field(ge=0.2, le=30, allow_inf_nan=False)] = 2.0
    apex_at: Share = 0.5
    panels: Annotated[int, Field(ge=1, le=40)] = 4
    chords_continuous: bool = True
    webs_pinned: bool = True
    columns: Annotated[float, Field(ge=0.5, le=40, allow_inf_nan=False)] | None = None
    bases: Literal["pinned", "fixed"] = "fixed"
    struts: bool = True
    purlins: bool = False
    stay_every: Annotated[int, Field(ge=0, le=20)] = 0
    tension_only: bool = False
    braced: Annotated[list[Annotated[int, Field(ge=-200, le=200)]], Field(max_length=40)] = []
    roofed: bool = False
    blockage: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    repeat: Repeat = Repeat()
    grade: Name = "S355"
    sections: TrussSections = TrussSections()


Place = NodeName | Vector


class BracingJig(Part):
    """Bracing between four points in order round a field: the names of nodes, or coordinates.

    storeys: shares of the height from the first side to the opposite one, divided into that many fields.
    """

    kind: Literal["bracing"] = "bracing"
    name: Name
    corners: tuple[Place, Place, Place, Place]
    pattern: BracingKind = "X"
    tension_only: bool = False
    storeys: Annotated[int, Field(ge=1, le=40)] = 1
    struts: bool = False
    repeat: Repeat = Repeat()
    section: Name = "CHS 88.9x4"
    grade: Name = "S355"


Jig = Annotated[TrussJig | FloorJig | BracingJig, Field(discriminator="kind")]
