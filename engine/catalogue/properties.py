"""Formulas that turn the dimensions of a section into its properties."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt


@dataclass(frozen=True)
class Section:
    """A cross-section with its properties in metres; y is the strong axis, z the weak one (EN 1993-1-1 1.7).

    shape: "I" (rolled), "square" or "circular" (hot-finished hollow), "given" (properties stated by the document).
    h, b, tw, tf, r: depth, width, web and flange thickness, root radius; hollow sections use tw = tf = t.
    Avy, Avz: shear areas for stiffness (None: rigid in shear) along local y and z.
    Av_z, Av_y: shear areas for resistance, EN 1993-1-1 6.2.6(3).
    Wt: torsion modulus of the largest St Venant shear stress.
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


def square_hollow(name: str, b: float, t: float) -> Section:
    """Hot-finished square hollow section, EN 10210-2 annex B, with corner radii 1.5 t outside and 1.0 t inside."""
    ro, ri = 1.5 * t, 1.0 * t
    inner = b - 2 * t
    corner_out, corner_in = (1 - pi / 4) * ro**2, (1 - pi / 4) * ri**2
    share = (10 - 3 * pi) / (12 - 3 * pi)
    arm_out, arm_in = b / 2 - share * ro, inner / 2 - share * ri
    own_out = (1 / 3 - pi / 16 - 1 / (3 * (12 - 3 * pi))) * ro**4
    own_in = (1 / 3 - pi / 16 - 1 / (3 * (12 - 3 * pi))) * ri**4
    A = b**2 - inner**2 - 4 * corner_out + 4 * corner_in
    second = (b**4 - inner**4) / 12 - 4 * (own_out + corner_out * arm_out**2) + 4 * (own_in + corner_in * arm_in**2)
    plastic = (b**3 - inner**3) / 4 - 4 * corner_out * arm_out + 4 * corner_in * arm_in
    rc = (ro + ri) / 2
    around = 4 * (b - t) - 2 * rc * (4 - pi)
    enclosed = (b - t) ** 2 - rc**2 * (4 - pi)
    K = 2 * enclosed * t / around
    It = t**3 * around / 3 + 2 * K * enclosed
    return Section(
        name=name,
        family="SHS",
        shape="square",
        h=b,
        b=b,
        tw=t,
        tf=t,
        r=ro,
        A=A,
        Iy=second,
        Iz=second,
        It=It,
        Iw=0.0,
        Wel_y=2 * second / b,
        Wel_z=2 * second / b,
        Wpl_y=plastic,
        Wpl_z=plastic,
        Wt=It / (t + K / t),
        Av_y=A / 2,
        Av_z=A / 2,
        stiffness_Avy=A / 2,
        stiffness_Avz=A / 2,
    )


def circular_hollow(name: str, d: float, t: float) -> Section:
    """Hot-finished circular hollow section, EN 10210-2 annex B."""
    inner = d - 2 * t
    A = pi * (d**2 - inner**2) / 4
    second = pi * (d**4 - inner**4) / 64
    plastic = (d**3 - inner**3) / 6
    return Section(
        name=name,
        family="CHS",
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
    )


def given_section(
    name: str, A: float, Iy: float, Iz: float, It: float, Avy: float | None, Avz: float | None
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
        Iw=0.0,
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
