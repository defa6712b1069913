"""Tees, cut from I sections or made to size."""

from __future__ import annotations

from engine.catalogue.outlines import Ring, rounded
from engine.catalogue.properties import Section
from engine.catalogue.shapes.making import make, tee_junction


def tee_outline(h: float, b: float, tw: float, tf: float, r: float) -> Ring:
    """A tee with its foot on z = 0 and its flange on top."""
    return rounded(
        [
            (tw / 2, 0, 0),
            (tw / 2, h - tf, r),
            (b / 2, h - tf, 0),
            (b / 2, h, 0),
            (-b / 2, h, 0),
            (-b / 2, h - tf, 0),
            (-tw / 2, h - tf, r),
            (-tw / 2, 0, 0),
        ]
    )


def tee(name: str, family: str, h: float, b: float, tw: float, tf: float, r: float) -> Section:
    """Tee with its flange on top. Iw = tf³ b³/144 + tw³ (h − tf/2)³/36; shear centre in the middle of the flange."""
    ring = tee_outline(h, b, tw, tf, r)
    It = b * tf**3 / 3 + (h - tf) * tw**3 / 3 + tee_junction(tw, tf, r) - 0.21 * tf**4 - 0.105 * tw**4
    Iw = tf**3 * b**3 / 144 + tw**3 * (h - tf / 2) ** 3 / 36
    return make(
        name,
        family,
        "tee",
        [ring],
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        r=r,
        It=It,
        Iw=Iw,
        web=h * tw,
        flanges=b * tf,
        shear=(0.0, h - tf / 2),
    )


OUTLINES = {"tee": lambda s: [tee_outline(s.h, s.b, s.tw, s.tf, s.r)]}
