"""Properties of sections that are made up in the workshop: welded I sections and boxes, crosses and pairs, I sections with a haunch."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np

from engine.catalogue.outlines import mirrored, rounded, turned
from engine.catalogue.properties import Section, rolled_i
from engine.catalogue.shapes import channel_outline, i_outline, make


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
    ring = np.array(
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
    web = h - tf - tf2
    top, bottom = tf * b**3 / 12, tf2 * b2**3 / 12
    d = h - (tf + tf2) / 2
    return make(
        name,
        family,
        "welded I",
        [ring],
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


def box(name: str, h: float, b: float, tf: float, tw: float) -> Section:
    """Box of four plates; b over all, webs flush with the flanges' edges. It by Bredt: 4 A_m² / ∮ ds/t."""
    outer = np.array([(-b / 2, -h / 2), (b / 2, -h / 2), (b / 2, h / 2), (-b / 2, h / 2)])
    y, z = b / 2 - tw, h / 2 - tf
    hole = np.array([(-y, -z), (-y, z), (y, z), (y, -z)])
    enclosed = (b - tw) * (h - tf)
    It = 4 * enclosed**2 / (2 * (b - tw) / tf + 2 * (h - tf) / tw)
    return make(
        name, "built", "box", [outer, hole], h=h, b=b, tw=tw, tf=tf, It=It, Iw=0.0, web=2 * h * tw, flanges=2 * b * tf
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


def double(name: str, of: Section, gap: float) -> Section:
    """Two angles or two channels back to back with a gap, joined so closely that they act as one. It, Iw: twice the one's."""
    if of.shape == "channel":
        ring = channel_outline(of.h, of.b, of.tw, of.tf, of.r)
    else:
        t = of.tf
        ring = rounded([(0, 0, 0), (of.b, 0, 0), (of.b, t, of.r / 2), (t, t, of.r), (t, of.h, of.r / 2), (0, of.h, 0)])
    right = ring + (gap / 2, 0.0)
    return make(
        name,
        "built",
        f"double {of.shape}",
        [right, mirrored(right)],
        h=of.h,
        b=2 * of.b + gap,
        tw=of.tw,
        tf=of.tf,
        r=of.r,
        It=2 * of.It,
        Iw=2 * of.Iw,
        web=2 * of.Av_z,
        flanges=2 * of.Av_y,
        gap=gap,
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
