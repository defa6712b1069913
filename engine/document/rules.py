"""The site, the cladding, and the rules of proof."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import BeyondFace, Direction, NotNegative, Number, Part, Positive, Role, Terrain
from engine.document.references import CaseName, MemberName, PanelName

#: roles that keep the limit of rafters
ROOF = ("rafter", "top chord", "bottom chord")
#: length over deflection of other roles, where the document says nothing; usual values, EN 1990 A1.4 leaves them to the client
DEFLECTIONS = {
    "main beam": 250.0,
    "joist": 250.0,
    "member": 250.0,
    "purlin": 200.0,
    "eaves beam": 200.0,
    "ridge beam": 200.0,
    "side rail": 150.0,
    "gable post": 150.0,
}
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Factor = Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]


class Around(Part):
    """Buildings around the site: their average height, and their distance from it."""

    height: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] = 8.0
    distance: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)] = 20.0


class Source(Part):
    """Where a value comes from, as long as it stands as it was given."""

    value: float | str
    words: Annotated[str, Field(max_length=200)]


class Site(Part):
    """What the place puts on the building. Pressures in kN/m² always, speed in m/s.

    bearing: compass bearing of the way from the front to the back, in degrees, None: not stated; it turns the drawing of the
    site alone. reference_period: mean return period of the wind in years. sources: where values come from, by field.
    """

    place: Annotated[str, Field(max_length=80)] = ""
    altitude: Annotated[float, Field(ge=-100, le=3000, allow_inf_nan=False)] = 200.0
    ground_snow: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.8
    wind_speed: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 24.0
    terrain: Terrain = "II"
    around: Around | None = None
    bearing: Annotated[float, Field(ge=0, lt=360, allow_inf_nan=False)] | None = None
    reference_period: Annotated[float, Field(ge=2, le=1000, allow_inf_nan=False)] = 50.0
    sources: dict[str, Source] = {}


class Neighbour(Part):
    """A taller building beside the hall: how far its roof stands above the hall's eaves there, its width, the gap between."""

    side: Literal["left", "right"] = "left"
    above: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] = 4.0
    width: Annotated[float, Field(gt=0, le=300, allow_inf_nan=False)] = 20.0
    gap: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.0


class Obstruction(Part):
    """Something on a roof against which snow drifts: a strip of plant, an upstand. panel: name of the roof; at: its place
    across the hall, x in metres; start, end: y between which it stands; None: over the whole length."""

    panel: PanelName
    at: Number
    height: Annotated[float, Field(gt=0, le=20, allow_inf_nan=False)] = 1.0
    start: Number | None = None
    end: Number | None = None


class SnowOptions(Part):
    """How snow lies: C_e and C_t; held: parapets or guards keep it from sliding; parapet: their height at the eaves.

    exceptional: C_esl by which ground snow is multiplied in an accidental case, None where there is none (4.3).
    edge: snow overhanging the eaves, above 800 m of altitude (6.3).
    """

    exposure: Annotated[float, Field(ge=0.5, le=1.5, allow_inf_nan=False)] = 1.0
    thermal: Annotated[float, Field(gt=0, le=1.2, allow_inf_nan=False)] = 1.0
    held: bool = False
    parapet: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.0
    neighbour: Neighbour | None = None
    obstructions: Annotated[list[Obstruction], Field(max_length=20)] = []
    exceptional: Annotated[float, Field(ge=1, le=5, allow_inf_nan=False)] | None = None
    edge: bool = True


class Inside(Part):
    """Internal pressure. both: +0.2 and −0.3 (7.2.9(6)); openings: from the area of openings in each face, in m²; own: as
    stated, with other values for wind from the directions that have some."""

    kind: Literal["both", "openings", "own"] = "both"
    openings: dict[Literal["left", "right", "front", "back", "roof"], NotNegative] = {}
    values: Annotated[list[Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]], Field(max_length=4)] = [
        0.2,
        -0.3,
    ]
    by_direction: dict[
        Direction,
        Annotated[list[Annotated[float, Field(ge=-2, le=2, allow_inf_nan=False)]], Field(min_length=1, max_length=4)],
    ] = {}


class Eaves(Part):
    """Edges of a flat roof. size: height of a parapet or radius of a curve in metres, angle of a mansard in degrees."""

    kind: Literal["sharp", "parapet", "curved", "mansard"] = "sharp"
    size: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)] = 0.0


class Hill(Part):
    """The rise of the ground in one direction of the wind, figures A.1 to A.3 of EN 1991-1-4.

    kind: "hill" (or ridge) falls again behind its crest, over `downwind`; "cliff" (or escarpment) does not. height: H;
    upwind: L_u; x: of the building from the crest, negative before it, metres.
    """

    kind: Literal["hill", "cliff"] = "hill"
    height: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)] = 40.0
    upwind: Annotated[float, Field(gt=0, le=20000, allow_inf_nan=False)] = 300.0
    downwind: Annotated[float, Field(gt=0, le=20000, allow_inf_nan=False)] = 300.0
    x: Annotated[float, Field(ge=-20000, le=20000, allow_inf_nan=False)] = 0.0


class WindOptions(Part):
    """Wind besides the site's basic values; by direction: c_dir, terrain, c_o. structural: c_s c_d.

    hills: by direction, from which c_o is found by A.3 in place of a stated one.

    correlation: use the lack of it between windward and leeward walls (7.2.2(3)). own_areas: purlins and rails that are members bear
    c_pe of their own loaded area (7.2.1(1)), and so does what they rest on (safe side); else c_pe,10.
    """

    season: Factor = 1.0
    directional: dict[Direction, Factor] = {}
    terrains: dict[Direction, Terrain] = {}
    orography: dict[Direction, Factor] = {}
    hills: dict[Direction, Hill] = {}
    air_density: Factor = 1.25
    structural: Factor = 1.0
    correlation: bool = False
    own_areas: bool = True
    inside: Inside = Inside()
    eaves: Eaves = Eaves()
    friction: Literal["none", "smooth", "rough", "very rough"] = "very rough"


class Cladding(Part):
    """Weight of sheeting in kN/m² of surface, with its purlins or rails where they are not members.

    roof_imposed: imposed load of roofs for maintenance alone, category H, kN/m² of plan (EN 1991-1-1 table 6.10).
    """

    roof: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.25
    roof_imposed: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.4
    walls: Annotated[float, Field(ge=0, le=5, allow_inf_nan=False)] = 0.20


class EffectiveLength(Part):
    """Factors on the system length for one role; None leaves the value the standard's rule gives for the role."""

    y: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None
    z: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] | None = None


class Sheeting(Part):
    """Sheeting that is fixed to the outer flange of members and may hold it (EN 1993-1-1 BB.2), in kN and m whatever the document's
    units. shear: S, the shear stiffness of the sheeting that falls to one member, kN; rotation: C_θ, kNm/m per radian, 0: not stated;
    every_rib: fixed at each rib, else at every second one."""

    shear: Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)] = 0.0
    rotation: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0
    every_rib: bool = True


class Stayed(Part):
    """What stays of members of a role lead to, in place of what is found of it: rotation: C_θ, kNm per radian at one stay, 0: found; moment: the
    design moment in kNm that it may bear of one stay, 0: not known."""

    rotation: Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)] = 0.0
    moment: Annotated[float, Field(ge=0, le=1e5, allow_inf_nan=False)] = 0.0


class RoleLimits(Part):
    """More limits of movement of a role, each besides: total_mm, variable_mm, imposed_mm, lasting_mm: at most so many millimetres under the characteristic
    combinations, under variable actions alone, under imposed loads alone, under the quasi-permanent combinations; imposed, lasting: length over
    movement under these. 0 or nothing: no limit."""

    total_mm: NotNegative | None = None
    variable_mm: NotNegative | None = None
    imposed: NotNegative | None = None
    imposed_mm: NotNegative | None = None
    lasting: NotNegative | None = None
    lasting_mm: NotNegative | None = None


class Rules(Part):
    """What is to be proven and against which limits. deflections: length over deflection by role, in place of the usual values;
    0: not checked; deflections_variable: the same under variable actions alone, besides, for the roles that have one; limits: more of them by role. frequencies: natural frequency
    of a beam between its supports at least by role, Hz, under the quasi-permanent combinations; 0 or nothing: no limit; floor_frequency: the same of main beams and joists with what they rest on. slenderness: L_cr/i
    at most by role; 0 or nothing: no limit. sheeting: what holds members of a role all along, where it is
    stiff enough; stays: what their stays lead to, where that is stated.

    apart_ratio: distance of neighbouring frames of a hall over what their eaves move apart, across; 0: no limit.
    psi: ψ0, ψ1, ψ2 in place of those of table A1.1, by its row. strength_rule: expression(s) of EN 1990 6.4.3.2; xi: ξ of
    (6.10b). loads_at: where loads from above act on members that nothing holds between the ends of a segment, for
    lateral-torsional buckling. gamma_G_equ: of overturning and uplift, table A1.2(A). imperfections: sway of EN 1993-1-1
    5.3.2 in strength. consequences: class of EN 1991-1-7 table A.1, by which ties are asked for; "": not stated.
    """

    standard: Literal["EN"] = "EN"
    gamma_G_unfavourable: Positive = 1.35
    gamma_G_favourable: Positive = 1.0
    gamma_Q: Positive = 1.5
    psi: dict[str, tuple[Share, Share, Share]] = {}
    strength_rule: Literal["6.10", "6.10a/b"] = "6.10"
    xi: Share = 0.85
    gamma_G_equ_unfavourable: Positive = 1.10
    gamma_G_equ_favourable: Positive = 0.90
    imperfections: bool = True
    gamma_M0: Positive = 1.0
    gamma_M1: Positive = 1.0
    gamma_M2: Positive = 1.25
    rafter_deflection_ratio: Positive = 200.0
    eaves_sway_ratio: Positive = 150.0
    apart_ratio: NotNegative = 0.0
    loads_at: Literal["upper flange", "shear centre"] = "upper flange"
    deflections: dict[Role, NotNegative | None] = {}
    deflections_variable: dict[Role, NotNegative | None] = {}
    limits: dict[Role, RoleLimits | None] = {}
    frequencies: dict[Role, NotNegative | None] = {}
    floor_frequency: NotNegative | None = None
    slenderness: dict[Role, NotNegative | None] = {}
    sheeting: dict[Role, Sheeting | None] = {}
    stays: dict[Role, Stayed | None] = {}
    consequences: Literal["", "1", "2a", "2b", "3"] = ""
    effective_lengths: dict[Role, EffectiveLength] = {}

    def deflection_ratio(self, role: str) -> float | None:
        """Length over deflection that a role must keep; None where nothing is checked."""
        stated = self.deflections.get(role)  # type: ignore[call-overload]
        if stated is not None:
            return float(stated) or None
        if role == "column":
            return self.eaves_sway_ratio
        return self.rafter_deflection_ratio if role in ROOF else DEFLECTIONS.get(role)

    def slenderness_limit(self, role: str, own: float | None) -> float | None:
        """L_cr/i that a member of a role must keep, or that is its own; None where nothing is asked for."""
        return (self.slenderness.get(role) if own is None else own) or None  # type: ignore[call-overload]

    def deflects(self, role: str) -> bool:
        """Whether members of a role have a limit unless the document takes it away."""
        return role in ROOF or role in DEFLECTIONS or role == "column"


class BowInput(Part):
    """A bow imperfection of a member (EN 1993-1-1 5.3.2(3)b), acting in second order.

    about: the section's axis about which it bends the member. ratio: L/e0, None: by the member's buckling curve (table 5.1,
    elastic analysis). sense: along + or − of the member's local axis, "as it bends": that in which the combination bends it.
    """

    member: MemberName
    about: Literal["y", "z"] = "y"
    ratio: Annotated[float, Field(ge=50, le=5000, allow_inf_nan=False)] | None = None
    sense: Literal["as it bends", "+", "-"] = "as it bends"


class AnalysisOptions(Part):
    """order: of the ultimate combinations: "by alpha_cr": second order for those below the limit of EN 1993-1-1 5.2.1(3);
    "second" for all; "first" for all: then those below the limit count as not verified. With sway imperfections in second
    order members count between their ends (5.2.2(7)b). second_order_below: that limit, α_cr in elastic analysis. masses: of
    natural frequencies, factors of cases by name; none: all permanent ones. bows: imperfections of members, where they are
    asked for. plane: "XZ" or "YZ": frames that stand in such planes are held there at every node, moving in them alone; "": in space. bears_at: how far in
    front of the faces of columns beams bear where they are hinged to them, m; None: in the columns' axes."""

    shear_deformation: bool = True
    second_order_below: Annotated[float, Field(ge=1, le=100, allow_inf_nan=False)] = 10.0
    bows: Annotated[list[BowInput], Field(max_length=500)] = []
    masses: dict[CaseName, NotNegative] = {}
    order: Literal["first", "by alpha_cr", "second"] = "by alpha_cr"
    plane: Literal["", "XZ", "YZ"] = ""
    bears_at: BeyondFace | None = None
