"""I sections: rolled, welded of three plates, with a haunch, and two through one another."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache
from math import pi

import numpy as np

from engine.catalogue.outlines import Ring, rounded, turned
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import make, tee_junction


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


def i_torsion(b: float, tf: float, h: float, tw: float, r: float) -> float:
    """It of a doubly symmetric I section by the same source, as the British tables print it."""
    return 2 / 3 * b * tf**3 + (h - 2 * tf) * tw**3 / 3 + 2 * tee_junction(tw, tf, r) - 0.42 * tf**4


def i_outline(s: Section) -> Ring:
    """Outline of a doubly symmetric I section with its fillets."""
    y, z, w, f = s.b / 2, s.h / 2, s.tw / 2, s.h / 2 - s.tf
    return rounded(
        [
            (-y, -z, 0),
            (y, -z, 0),
            (y, -f, 0),
            (w, -f, s.r),
            (w, f, s.r),
            (y, f, 0),
            (y, z, 0),
            (-y, z, 0),
            (-y, f, 0),
            (-w, f, s.r),
            (-w, -f, s.r),
            (-y, -f, 0),
        ]
    )


def welded_outline(h: float, b: float, tf: float, tw: float, b2: float, tf2: float) -> Ring:
    """Three plates with the foot on z = 0: top flange b × tf, bottom flange b2 × tf2."""
    return np.array(
        [
            (-b2 / 2, 0),
            (b2 / 2, 0),
            (b2 / 2, tf2),
            (tw / 2, tf2),
            (tw / 2, h - tf),
            (b / 2, h - tf),
            (b / 2, h),
            (-b / 2, h),
            (-b / 2, h - tf),
            (-tw / 2, h - tf),
            (-tw / 2, tf2),
            (-b2 / 2, tf2),
        ]
    )


def welded_i(
    name: str, h: float, b: float, tf: float, tw: float, b2: float = 0.0, tf2: float = 0.0, family: str = "built"
) -> Section:
    """I section of three plates, top flange b × tf, bottom flange b2 × tf2 (0: as the top); welds neglected.

    It = Σ b t³/3; for flanges with second moments I1, I2 at the distance d: Iw = d² I1 I2/(I1 + I2), and the shear centre
    d I2/(I1 + I2) below the top flange.
    """
    b2, tf2 = b2 or b, tf2 or tf
    if b2 == b and tf2 == tf:
        plain = rolled_i(name, family, h, b, tw, tf, 0.0)
        web = h - 2 * tf
        It = (2 * b * tf**3 + web * tw**3) / 3
        return replace(plain, shape="I", It=It, Wt=It / max(tf, tw), Av_z=web * tw)
    web = h - tf - tf2
    top, bottom = tf * b**3 / 12, tf2 * b2**3 / 12
    d = h - (tf + tf2) / 2
    return make(
        name,
        family,
        "welded I",
        [welded_outline(h, b, tf, tw, b2, tf2)],
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        It=(b * tf**3 + b2 * tf2**3 + web * tw**3) / 3,
        Iw=d**2 * top * bottom / (top + bottom),
        web=web * tw,
        flanges=b * tf + b2 * tf2,
        shear=(0.0, h - tf / 2 - d * bottom / (top + bottom)),
        b2=b2,
        tf2=tf2,
    )


@lru_cache(maxsize=512)
def haunched(rafter: Section, depth: float, web: float, flange_width: float, flange: float) -> Section:
    """A rafter with a haunch of that depth below it: its own I section, a web and a bottom flange.

    Centroid from mid-depth of the rafter is centre_z (downwards negative). Thin-walled torsion Σ b t³/3; warping of the
    outer flanges as in welded_i.
    """
    base = i_outline(rafter)
    bottom = -rafter.h / 2 - depth
    web_depth = max(depth - flange, 0.0)
    rings = [base]
    if web_depth > 0:
        rings.append(
            np.array(
                [
                    (-web / 2, bottom + flange),
                    (web / 2, bottom + flange),
                    (web / 2, -rafter.h / 2),
                    (-web / 2, -rafter.h / 2),
                ]
            )
        )
    w = flange_width / 2
    rings.append(np.array([(-w, bottom), (w, bottom), (w, bottom + flange), (-w, bottom + flange)]))
    top, low = rafter.tf * rafter.b**3 / 12, flange * flange_width**3 / 12
    d = rafter.h + depth - (rafter.tf + flange) / 2
    return make(
        f"{rafter.name} + haunch {depth * 1000:.0f}",
        "haunched",
        "haunched",
        rings,
        h=rafter.h + depth,
        b=rafter.b,
        tw=rafter.tw,
        tf=rafter.tf,
        r=rafter.r,
        It=rafter.It + (web_depth * web**3 + flange_width * flange**3) / 3,
        Iw=d**2 * top * low / (top + low),
        web=rafter.Av_z + web_depth * web,
        flanges=2 * rafter.b * rafter.tf + flange_width * flange,
        thickest=max(rafter.tf, flange),
        b2=flange_width,
        tf2=flange,
        h2=depth,
        tw2=web,
    )


def cross(name: str, of: Section) -> Section:
    """Two I sections through one another, the second cut in two and welded to the web of the first.

    It: both sections' together less the web thickness counted twice; Iw: the sum of both.
    """
    ring = i_outline(of)
    overlap = np.array(
        [(-of.tw / 2, -of.tw / 2), (of.tw / 2, -of.tw / 2), (of.tw / 2, of.tw / 2), (-of.tw / 2, of.tw / 2)]
    )
    rings = [ring, turned(ring), overlap[::-1]]
    return make(
        name,
        "built",
        "cross",
        rings,
        h=of.h,
        b=of.h,
        tw=of.tw,
        tf=of.tf,
        r=of.r,
        It=2 * of.It - of.tw**4 / 3,
        Iw=2 * of.Iw,
        web=of.Av_z + 2 * of.b * of.tf,
        flanges=of.Av_z + 2 * of.b * of.tf,
    )


#: those with a haunch are drawn by their parts
OUTLINES = {
    "I": lambda s: [i_outline(s)],
    "welded I": lambda s: [welded_outline(s.h, s.b, s.tf, s.tw, s.b2, s.tf2)],
}
