"""Sections from their outlines, and the junctions that stiffen them in torsion.

Area, second moments and plastic moduli follow from the outline with its fillets (outlines.py). Torsion: El Darwish and
Johnston, Torsion of structural shapes, Journal of the Structural Division ASCE 91 (1965), with the junction factors as
printed in the notes of the British section tables; warping and shear centre: the thin-walled closed form of each shape.
"""

from __future__ import annotations

from math import atan2, pi, sqrt

import numpy as np

from engine.catalogue.outlines import Ring, integrals, plastic_modulus
from engine.catalogue.properties import Section


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


def corner_junction(t1: float, t2: float, r: float) -> float:
    """α₃ D₃⁴: the junction term of an L corner between walls t1 (web) and t2 (flange) with fillet r."""
    a = -0.0908 + 0.2621 * t1 / t2 + 0.1231 * r / t2 - 0.0752 * t1 * r / t2**2 - 0.0945 * (t1 / t2) ** 2
    D = 2 * ((3 * r + t1 + t2) - sqrt(2 * (2 * r + t1) * (2 * r + t2)))
    return a * D**4


def tee_junction(tw: float, tf: float, r: float) -> float:
    """α₁ D₁⁴: the junction term of a T between a web tw and a flange tf with fillets r."""
    a = -0.042 + 0.2204 * tw / tf + 0.1355 * r / tf - 0.0865 * r * tw / tf**2 - 0.0725 * (tw / tf) ** 2
    D = ((tf + r) ** 2 + (r + 0.25 * tw) * tw) / (2 * r + tf)
    return a * D**4
