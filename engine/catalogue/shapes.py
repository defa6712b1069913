"""Sections that are not doubly symmetric I or hollow: from dimensions in metres to properties.

Area, second moments and plastic moduli follow from the outline with its fillets (outlines.py). Torsion: El Darwish and
Johnston, Torsion of structural shapes, Journal of the Structural Division ASCE 91 (1965), with the junction factors as
printed in the notes of the British section tables; warping and shear centre: the thin-walled closed form of each shape.
"""

from __future__ import annotations

from math import atan2, pi, sqrt

import numpy as np

from engine.catalogue.latticed import chords_apart
from engine.catalogue.outlines import Ring, circle, integrals, plastic_modulus, rounded
from engine.catalogue.properties import Section
from engine.catalogue.thin_walled import thin_walled


def make(
    name: str,
    family: str,
    shape: str,
    rings: list[Ring],
    *,
    h: float,
    b: float,
    tw: float,
    tf: float,
    r: float = 0.0,
    It: float,
    Iw: float,
    web: float,
    flanges: float,
    shear: tuple[float, float] = (0.0, 0.0),
    thickest: float | None = None,
    principal: bool = False,
    **more: float | bool,
) -> Section:
    """A section from its outline. web, flanges: shear areas along z and y. shear: shear centre in the outline's axes.

    principal: y and z are turned to the principal axes (strong first); else the outline's own.
    """
    area = integrals(rings)
    angle = 0.0
    Iy, Iz = area.Iy, area.Iz
    if principal:
        middle, half = (Iy + Iz) / 2, sqrt(((Iy - Iz) / 2) ** 2 + area.Iyz**2)
        angle = 0.5 * atan2(-2 * area.Iyz, Iy - Iz)
        Iy, Iz = middle + half, middle - half
    points = np.concatenate(rings) - (area.y, area.z)
    c, s = np.cos(angle), np.sin(angle)
    u, v = points[:, 0] * c + points[:, 1] * s, points[:, 1] * c - points[:, 0] * s
    sy, sz = shear[0] - area.y, shear[1] - area.z
    return Section(
        name=name,
        family=family,
        shape=shape,
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        r=r,
        A=area.A,
        Iy=Iy,
        Iz=Iz,
        It=It,
        Iw=Iw,
        Wel_y=Iy / float(np.abs(v).max()),
        Wel_z=Iz / float(np.abs(u).max()),
        Wpl_y=plastic_modulus(rings, angle),
        Wpl_z=plastic_modulus(rings, angle + pi / 2),
        Wt=It / (thickest or max(tw, tf)),
        Av_y=flanges,
        Av_z=web,
        stiffness_Avy=flanges * 5 / 6,
        stiffness_Avz=web,
        turn=angle,
        shear_y=float(sy * c + sz * s),
        shear_z=float(sz * c - sy * s),
        centre_y=area.y,
        centre_z=area.z,
        **more,  # type: ignore[arg-type]
    )


def _corner_junction(t1: float, t2: float, r: float) -> float:
    """α₃ D₃⁴: the junction term of an L corner between walls t1 (web) and t2 (flange) with fillet r."""
    a = -0.0908 + 0.2621 * t1 / t2 + 0.1231 * r / t2 - 0.0752 * t1 * r / t2**2 - 0.0945 * (t1 / t2) ** 2
    D = 2 * ((3 * r + t1 + t2) - sqrt(2 * (2 * r + t1) * (2 * r + t2)))
    return a * D**4


def _tee_junction(tw: float, tf: float, r: float) -> float:
    """α₁ D₁⁴: the junction term of a T between a web tw and a flange tf with fillets r."""
    a = -0.042 + 0.2204 * tw / tf + 0.1355 * r / tf - 0.0865 * r * tw / tf**2 - 0.0725 * (tw / tf) ** 2
    D = ((tf + r) ** 2 + (r + 0.25 * tw) * tw) / (2 * r + tf)
    return a * D**4


def i_torsion(b: float, tf: float, h: float, tw: float, r: float) -> float:
    """It of a doubly symmetric I section by the same source, as the British tables print it."""
    return 2 / 3 * b * tf**3 + (h - 2 * tf) * tw**3 / 3 + 2 * _tee_junction(tw, tf, r) - 0.42 * tf**4


def channel_outline(
    h: float, b: float, tw: float, tf: float, r1: float, r2: float = 0.0, slope: float = 0.0, at: float | None = None
) -> Ring:
    """A channel with its back on y = 0. tf: flange thickness at the distance `at` from the toe; slope: of its inside."""
    at = (b - tw) / 2 if at is None else at
    toe = tf - slope * at
    root = tf + slope * (b - tw - at)
    half = h / 2
    return rounded(
        [
            (0, -half, 0),
            (b, -half, 0),
            (b, -half + toe, r2),
            (tw, -half + root, r1),
            (tw, half - root, r1),
            (b, half - toe, r2),
            (b, half, 0),
            (0, half, 0),
        ]
    )


def channel(
    name: str,
    family: str,
    h: float,
    b: float,
    tw: float,
    tf: float,
    r1: float,
    r2: float = 0.0,
    slope: float = 0.0,
    at: float | None = None,
) -> Section:
    """Channel, parallel or tapered flanges. Warping by (h−tf)²/4 [Iz − A (c − tw/2)² ((h−tf)² A / (4 Iy) − 1)]; shear centre
    b'² (h−tf)² tf / (4 Iy) behind the web's middle, b' = b − tw/2."""
    ring = channel_outline(h, b, tw, tf, r1, r2, slope, at)
    area = integrals([ring])
    depth = h - tf
    It = 2 / 3 * b * tf**3 + (h - 2 * tf) * tw**3 / 3 + 2 * _corner_junction(tw, tf, r1) - 0.42 * tf**4
    Iw = depth**2 / 4 * (area.Iz - area.A * (area.y - tw / 2) ** 2 * (depth**2 * area.A / (4 * area.Iy) - 1))
    centre = tw / 2 - (b - tw / 2) ** 2 * depth**2 * tf / (4 * area.Iy)
    if slope:
        Iw, centre = _tapered_warping(h, b, tw, tf, slope, (b - tw) / 2 if at is None else at)
    return make(
        name,
        family,
        "channel",
        [ring],
        h=h,
        b=b,
        tw=tw,
        tf=tf,
        r=r1,
        It=It,
        Iw=Iw,
        web=area.A - 2 * b * tf + (tw + r1) * tf,
        flanges=2 * b * tf,
        shear=(centre, 0.0),
        slope=slope,
        slope_at=at or 0.0,
        r2=r2,
    )


def _tapered_warping(h: float, b: float, tw: float, tf: float, slope: float, at: float) -> tuple[float, float]:
    """Iw of a channel with tapered flanges, and its shear centre from the back: walls of stepped thickness."""
    y = np.linspace(b, tw / 2, 21)
    t = tf + slope * (b - y - at)
    flange = np.stack([y, -h / 2 + t / 2], axis=1)
    line = np.vstack([flange, (flange * (1, -1))[::-1]])
    thickness = (t[1:] + t[:-1]) / 2
    found = thin_walled(line, np.concatenate([thickness, [tw], thickness[::-1]]))
    return found.Iw, found.y + found.shear_y


def angle(name: str, family: str, h: float, b: float, t: float, r1: float, r2: float = 0.0) -> Section:
    """Angle with legs h (upright) and b, turned to its principal axes. Shear centre at the crossing of the legs' middles;
    Iw = t³/36 [(h − t/2)³ + (b − t/2)³]."""
    ring = rounded([(0, 0, 0), (b, 0, 0), (b, t, r2), (t, t, r1), (t, h, r2), (0, h, 0)])
    It = (b + h - t) * t**3 / 3 + _corner_junction(t, t, r1) - 0.21 * t**4
    Iw = t**3 / 36 * ((h - t / 2) ** 3 + (b - t / 2) ** 3)
    return make(
        name,
        family,
        "angle",
        [ring],
        h=h,
        b=b,
        tw=t,
        tf=t,
        r=r1,
        It=It,
        Iw=Iw,
        web=h * t,
        flanges=b * t,
        shear=(t / 2, t / 2),
        principal=True,
    )


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
    It = b * tf**3 / 3 + (h - tf) * tw**3 / 3 + _tee_junction(tw, tf, r) - 0.21 * tf**4 - 0.105 * tw**4
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


def round_bar(name: str, d: float) -> Section:
    """Solid round."""
    second = pi * d**4 / 64
    return make(
        name,
        "RD",
        "round",
        [circle(d / 2)],
        h=d,
        b=d,
        tw=d,
        tf=d,
        It=2 * second,
        Iw=0.0,
        web=0.9 * pi * d**2 / 4,
        flanges=0.9 * pi * d**2 / 4,
        thickest=d,
    )


def flat_bar(name: str, family: str, b: float, h: float) -> Section:
    """Solid rectangle, h deep and b wide. It: the series of Timoshenko and Goodier, Theory of Elasticity, article 109."""
    long, short = max(b, h), min(b, h)
    n = np.arange(1, 60, 2)
    It = (
        long
        * short**3
        / 3
        * (1 - 192 / pi**5 * short / long * float((np.tanh(n * pi * long / (2 * short)) / n**5).sum()))
    )
    ring = np.array([(-b / 2, -h / 2), (b / 2, -h / 2), (b / 2, h / 2), (-b / 2, h / 2)])
    return make(
        name,
        family,
        "flat",
        [ring],
        h=h,
        b=b,
        tw=b,
        tf=h,
        It=It,
        Iw=0.0,
        web=b * h * 5 / 6,
        flanges=b * h,
        thickest=short,
    )


def _channel_line(h: float, b: float, lip: float, t: float) -> Ring:
    y, z, c = b - t, (h - t) / 2, lip - t / 2
    return np.array([(y, -z + c), (y, -z), (0, -z), (0, z), (y, z), (y, z - c)])


def _zed_line(h: float, b: float, lip: float, t: float) -> Ring:
    y, z, c = b - t, (h - t) / 2, lip - t / 2
    return np.array([(-y, -z + c), (-y, -z), (0, -z), (0, z), (y, z), (y, z - c)])


def lipped_channel(name: str, h: float, b: float, lip: float, t: float) -> Section:
    """Cold-formed channel with lips, sharp corners of the middle line (EN 1993-1-3 5.1(3): fillets small)."""
    return _cold(name, "CL", "lipped channel", _channel_line(h, b, lip, t), h, b, lip, t)


def zed(name: str, h: float, b: float, lip: float, t: float) -> Section:
    """Cold-formed Z with lips, sharp corners of the middle line, turned to its principal axes."""
    return _cold(name, "Z", "zed", _zed_line(h, b, lip, t), h, b, lip, t)


def _cold(name: str, family: str, shape: str, line: Ring, h: float, b: float, lip: float, t: float) -> Section:
    w = thin_walled(line, t)
    return make(
        name,
        family,
        shape,
        [wall(line, t)],
        h=h,
        b=b,
        tw=t,
        tf=t,
        It=w.It,
        Iw=w.Iw,
        web=(h - t) * t,
        flanges=2 * (b - t) * t,
        shear=(w.y + w.shear_y, w.z + w.shear_z),
        principal=shape == "zed",
        lip=lip,
        cold=True,
    )


def wall(line: Ring, t: float) -> Ring:
    """The outline of a wall of thickness t along a line, mitred at its corners."""
    step = np.diff(line, axis=0)
    step /= np.hypot(*step.T)[:, None]
    normal = np.stack([-step[:, 1], step[:, 0]], axis=1)
    before, after = np.vstack([normal[:1], normal]), np.vstack([normal, normal[-1:]])
    mitre = (before + after) / (1 + (before * after).sum(axis=1))[:, None]
    ring = np.vstack([line - mitre * t / 2, (line + mitre * t / 2)[::-1]])
    return ring if integrals([ring]).A > 0 else ring[::-1]


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


def outline_of(s: Section) -> list[Ring]:
    """The outline of a section for drawing it, about its own axes; nothing for one stated by its properties."""
    if s.shape == "I":
        return [i_outline(s)]
    if s.shape in ("square", "rectangular"):
        inner = s.r - s.tw if s.cold else s.r / 1.5

        def frame(y: float, z: float, r: float) -> Ring:
            return rounded([(-y, -z, r), (y, -z, r), (y, z, r), (-y, z, r)])

        return [frame(s.b / 2, s.h / 2, s.r), frame(s.b / 2 - s.tw, s.h / 2 - s.tf, inner)[::-1]]
    if s.shape == "circular":
        return [circle(s.h / 2), circle(s.h / 2 - s.tw, hole=True)]
    if s.shape == "round":
        return [circle(s.h / 2)]
    if s.shape == "channel":
        return [channel_outline(s.h, s.b, s.tw, s.tf, s.r, s.r2, s.slope, s.slope_at or None)]
    if s.shape == "angle":
        return [
            rounded(
                [(0, 0, 0), (s.b, 0, 0), (s.b, s.tf, s.r / 2), (s.tf, s.tf, s.r), (s.tf, s.h, s.r / 2), (0, s.h, 0)]
            )
        ]
    if s.shape == "tee":
        return [tee_outline(s.h, s.b, s.tw, s.tf, s.r)]
    if s.shape == "flat":
        return [np.array([(-s.b / 2, -s.h / 2), (s.b / 2, -s.h / 2), (s.b / 2, s.h / 2), (-s.b / 2, s.h / 2)])]
    if s.latticed is not None:
        return chords_apart(outline_of(s.latticed.chord)[0], s.latticed)
    if s.shape in ("zed", "lipped channel"):
        line = _zed_line if s.shape == "zed" else _channel_line
        return [wall(line(s.h, s.b, s.lip, s.tw), s.tw)]
    return []
