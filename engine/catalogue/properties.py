"""Formulas that turn the dimensions of a section into its properties."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt

#: shapes that buckle sideways
PRONE = ("I", "channel")


@dataclass(frozen=True)
class Section:
    """A cross-section with its properties in metres; y is the strong axis, z the weak one (EN 1993-1-1 1.7).

    shape: "I" (doubly symmetric), "square", "rectangular" or "circular" (hollow), "given" (properties stated by the
    document), or a shape of shapes.py. h, b, tw, tf, r: depth, width, web and flange thickness, root radius; hollow
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
    def iy(self) -> float:
        """Radius of gyration about y."""
        return sqrt(self.Iy / self.A)

    @property
    def iz(self) -> float:
        """Radius of gyration about z."""
        return sqrt(self.Iz / self.A)

    def mass(self, density: float = 7850.0) -> float:
        """Mass per length in kg/m."""
        return self.A * density


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


def rolled_i(name: str, family: str, h: float, b: float, tw: float, tf: float, r: float) -> Section:
    """Doubly symmetric rolled I section from its dimensions in metres.

    Fillets are exact: area r²(1 - π/4) each, centroid r(10 - 3π)/(12 - 3π) from both faces, second moment about a face
    r⁴(1 - 5π/16). It after El Darwish and Johnston (1965); Iw = Iz,f (h - tf)²/4
    with the second moment of the flanges alone, Iz,f = tf b³/6.
    """
    web = h - 2 * tf
    fillet = (1 - pi / 4) * r**2
    arm = r * (10 - 3 * pi) / (12 - 3 * pi)
    own = (1 - 5 * pi / 16) * r**4 - fillet * arm**2
    A = 2 * b * tf + web * tw + 4 * fillet
    Iy = (b * h**3 - (b - tw) * web**3) / 12 + 4 * (own + fillet * (web / 2 - arm) ** 2)
    Iz = tf * b**3 / 6 + web * tw**3 / 12 + 4 * (own + fillet * (tw / 2 + arm) ** 2)
    Wpl_y = b * tf * (h - tf) + tw * web**2 / 4 + 4 * fillet * (web / 2 - arm)
    Wpl_z = tf * b**2 / 2 + web * tw**2 / 4 + 4 * fillet * (tw / 2 + arm)
    disc = ((r + tw / 2) ** 2 + (r + tf) ** 2 - r**2) / (2 * r + tf)
    It = 2 / 3 * (b - 0.63 * tf) * tf**3 + (h - 2 * tf) * tw**3 / 3 + 2 * (tw / tf) * (0.145 + 0.1 * r / tf) * disc**4
    return Section(
        name=name,
        family=family,
        shape="I",
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        r=r,
        A=A,
        Iy=Iy,
        Iz=Iz,
        It=It,
        Iw=tf * b**3 * (h - tf) ** 2 / 24,
        Wel_y=2 * Iy / h,
        Wel_z=2 * Iz / b,
        Wpl_y=Wpl_y,
        Wpl_z=Wpl_z,
        Wt=It / max(tf, tw),
        Av_z=max(A - 2 * b * tf + (tw + 2 * r) * tf, web * tw),
        Av_y=A - web * tw,
        stiffness_Avy=2 * b * tf * 5 / 6,
        stiffness_Avz=(h - tf) * tw,
    )


def rectangular_hollow(
    name: str, h: float, b: float, t: float, cold: bool = False, radii: tuple[float, float] | None = None
) -> Section:
    """Rectangular or square hollow section, EN 10210-2 annex B (hot-finished) or EN 10219-2 annex B (cold-formed).

    Corner radii outside and inside: hot 1.5 t and 1.0 t; cold 2.0 t and 1.0 t up to 6 mm, 2.5 t and 1.5 t up to 10 mm,
    else 3.0 t and 2.0 t; or other `radii` in multiples of t.
    """
    by_standard = (1.5, 1.0) if not cold else (2.0, 1.0) if t <= 0.006 else (2.5, 1.5) if t <= 0.010 else (3.0, 2.0)
    outer, within = radii or by_standard
    ro, ri = outer * t, within * t
    corner_out, corner_in = (1 - pi / 4) * ro**2, (1 - pi / 4) * ri**2
    share = (10 - 3 * pi) / (12 - 3 * pi)
    own = 1 / 3 - pi / 16 - 1 / (3 * (12 - 3 * pi))
    A = h * b - (h - 2 * t) * (b - 2 * t) - 4 * corner_out + 4 * corner_in

    def about(d: float, w: float) -> tuple[float, float]:
        """Second moment and plastic modulus for bending over the depth d."""
        arm_out, arm_in = d / 2 - share * ro, d / 2 - t - share * ri
        di, wi = d - 2 * t, w - 2 * t
        second = (w * d**3 - wi * di**3) / 12
        second += 4 * (own * ri**4 + corner_in * arm_in**2) - 4 * (own * ro**4 + corner_out * arm_out**2)
        return second, (w * d**2 - wi * di**2) / 4 - 4 * corner_out * arm_out + 4 * corner_in * arm_in

    (Iy, Wpl_y), (Iz, Wpl_z) = about(h, b), about(b, h)
    rc = (ro + ri) / 2
    around = 2 * ((b - t) + (h - t)) - 2 * rc * (4 - pi)
    enclosed = (b - t) * (h - t) - rc**2 * (4 - pi)
    K = 2 * enclosed * t / around
    It = t**3 * around / 3 + 2 * K * enclosed
    square = h == b
    return Section(
        name=name,
        family=("SHS" if square else "RHS") + (" cold" if cold else ""),
        shape="square" if square else "rectangular",
        h=h,
        b=b,
        tw=t,
        tf=t,
        r=ro,
        A=A,
        Iy=Iy,
        Iz=Iz,
        It=It,
        Iw=0.0,
        Wel_y=2 * Iy / h,
        Wel_z=2 * Iz / b,
        Wpl_y=Wpl_y,
        Wpl_z=Wpl_z,
        Wt=It / (t + K / t),
        Av_y=A * b / (b + h),
        Av_z=A * h / (b + h),
        stiffness_Avy=A * b / (b + h),
        stiffness_Avz=A * h / (b + h),
        cold=cold,
    )


def circular_hollow(name: str, d: float, t: float, cold: bool = False) -> Section:
    """Circular hollow section, EN 10210-2 annex B (hot-finished) or EN 10219-2 annex B (cold-formed)."""
    inner = d - 2 * t
    A = pi * (d**2 - inner**2) / 4
    second = pi * (d**4 - inner**4) / 64
    plastic = (d**3 - inner**3) / 6
    return Section(
        name=name,
        family="CHS" + (" cold" if cold else ""),
        shape="circular",
        h=d,
        b=d,
        tw=t,
        tf=t,
        r=0.0,
        A=A,
        Iy=second,
        Iz=second,
        It=2 * second,
        Iw=0.0,
        Wel_y=2 * second / d,
        Wel_z=2 * second / d,
        Wpl_y=plastic,
        Wpl_z=plastic,
        Wt=4 * second / d,
        Av_y=2 * A / pi,
        Av_z=2 * A / pi,
        stiffness_Avy=A / 2,
        stiffness_Avz=A / 2,
        cold=cold,
    )


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
