"""What a cross-section is: its dimensions and properties."""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot, sqrt

#: shapes that buckle sideways
PRONE = ("I", "channel", "tee", "flat")
#: families of what is welded of plates: built up in the document, or of any size by its name
WELDED = ("built", "WI")


@dataclass(frozen=True)
class Section:
    """A cross-section with its properties in metres; y is the strong axis, z the weak one (EN 1993-1-1 1.7).

    shape: "I" (doubly symmetric), "square", "rectangular" or "circular" (hollow), "given" (properties stated by the
    document), or a shape of shapes/. h, b, tw, tf, r: depth, width, web and flange thickness, root radius; hollow
    sections use tw = tf = t. b2, tf2: bottom flange where it differs; h2, tw2: depth of a haunch below the section and its
    web. lip: of cold-formed sections.
    slope, slope_at, r2: of tapered flanges, where their thickness is tf, and of the toe.
    Avy, Avz: shear areas for stiffness (None: rigid in shear) along local y and z.
    Av_z, Av_y: shear areas for resistance, EN 1993-1-1 6.2.6(3).
    Wt: torsion modulus of the largest St Venant shear stress.
    turn: angle from the geometric axes to y and z, which are the principal ones (angles, Z sections), in radians.
    shear_y, shear_z: shear centre from the centroid; centre_y, centre_z: centroid from the back and from mid-depth.
    cold: cold-formed (EN 10219), which takes a lower buckling curve. latticed: what two chords and their lacing or battens are.
    """

    name: str
    family: str
    shape: str
    h: float
    b: float
    tw: float
    tf: float
    r: float
    A: float
    Iy: float
    Iz: float
    It: float
    Iw: float
    Wel_y: float
    Wel_z: float
    Wpl_y: float
    Wpl_z: float
    Wt: float
    Av_y: float
    Av_z: float
    stiffness_Avy: float | None
    stiffness_Avz: float | None
    turn: float = 0.0
    shear_y: float = 0.0
    shear_z: float = 0.0
    centre_y: float = 0.0
    centre_z: float = 0.0
    b2: float = 0.0
    tf2: float = 0.0
    h2: float = 0.0
    tw2: float = 0.0
    lip: float = 0.0
    gap: float = 0.0
    slope: float = 0.0
    slope_at: float = 0.0
    r2: float = 0.0
    cold: bool = False
    latticed: Latticed | None = None

    @property
    def welded(self) -> bool:
        """Whether it is welded of plates."""
        return self.family in WELDED

    @property
    def iy(self) -> float:
        """Radius of gyration about y."""
        return sqrt(self.Iy / self.A)

    @property
    def iz(self) -> float:
        """Radius of gyration about z."""
        return sqrt(self.Iz / self.A)

    @property
    def weighing(self) -> float:
        """Area that weighs, m²: with the lacing or battens of a built-up member."""
        return self.A + (self.latticed.joining if self.latticed else 0.0)

    def mass(self, density: float = 7850.0) -> float:
        """Mass per length in kg/m."""
        return self.weighing * density


@dataclass(frozen=True)
class Latticed:
    """Two chords with their weak axes across, h0 apart between their centroids, m; panel: distance of the joints along a chord. lacing: of
    the diagonals in `planes` planes, their arrangement "zigzag", "crossed" or "posts"; else battens, (depth along the member, thickness)
    each."""

    chord: Section
    h0: float
    panel: float
    lacing: Section | None = None
    arrangement: str = "zigzag"
    planes: int = 2
    batten: tuple[float, float] = (0.0, 0.0)

    @property
    def diagonal(self) -> float:
        """Length of a diagonal between the lines of the chords, m: of a zigzag over half a panel."""
        return hypot(self.h0, self.panel / 2 if self.arrangement == "zigzag" else self.panel)

    @property
    def joining(self) -> float:
        """What lacing or battens add to the area that weighs, m²: their lengths between the lines of the chords, over those of the panels."""
        if self.lacing is None:
            deep, thick = self.batten
            volume = self.h0 * deep * thick
        else:
            lengths = self.diagonal + (self.h0 if self.arrangement == "posts" else self.diagonal)
            volume = self.lacing.A * lengths
        return self.planes * volume / self.panel


def given_section(
    name: str, A: float, Iy: float, Iz: float, It: float, Iw: float, Avy: float | None, Avz: float | None
) -> Section:
    """A section known by its stiffness alone: it can be analysed, and its checks say "not covered"."""
    return Section(
        name=name,
        family="given",
        shape="given",
        h=0.0,
        b=0.0,
        tw=0.0,
        tf=0.0,
        r=0.0,
        A=A,
        Iy=Iy,
        Iz=Iz,
        It=It,
        Iw=Iw,
        Wel_y=0.0,
        Wel_z=0.0,
        Wpl_y=0.0,
        Wpl_z=0.0,
        Wt=0.0,
        Av_y=0.0,
        Av_z=0.0,
        stiffness_Avy=Avy,
        stiffness_Avz=Avz,
    )
