"""Members of two chords that lacing or battens join: their properties as one section, EN 1993-1-1 6.4.

The chords stand apart along local z, each with its weak axis along y: bending about y is that of both chords together, and the
shear along z is borne by the lacing or the battens, whose flexibility is the shear area along z.
"""

from __future__ import annotations

from dataclasses import replace
from math import inf, pi

import numpy as np

from engine.catalogue.outlines import Ring, integrals
from engine.catalogue.properties import Latticed, Section
from engine.catalogue.steels import E

#: G of steel beside its E, by which a stiffness in shear becomes an area
G = E / 2.6
#: shapes of such sections
SHAPES = ("laced", "battened")


def shear_stiffness(of: Latticed, modulus: float = E) -> float:
    """S_v in N, figure 6.9 for lacing, (6.73) for battens. Of crossing diagonals one counts, half of what both are in a panel: safe side."""
    if of.lacing is None:
        chord, (deep, thick) = of.chord, of.batten
        most = 2 * pi**2 * modulus * chord.Iz / of.panel**2
        batten = thick * deep**3 / 12
        soft = 1 + 2 * chord.Iz * of.h0 / (of.planes * batten * of.panel) if batten < inf else 1.0
        return min(24 * modulus * chord.Iz / (of.panel**2 * soft), most)
    d, A_d = of.diagonal, of.lacing.A
    plain = of.planes * modulus * A_d * of.panel * of.h0**2 / d**3
    if of.arrangement == "zigzag":
        return plain / 2
    if of.arrangement == "crossed":
        return plain
    # with posts of the same section
    return plain / (1 + of.h0**3 / d**3)


def chords_apart(ring: Ring, of: Latticed) -> list[Ring]:
    """The outlines of both chords, from that of one about any axes: backs outside, strong axes across."""
    middle = integrals([ring])
    lain = np.stack([ring[:, 1] - middle.z, middle.y - ring[:, 0]], axis=1)
    return [lain + (0, of.h0 / 2), (lain * (1, -1))[::-1] - (0, of.h0 / 2)]


def latticed(name: str, of: Latticed) -> Section:
    """Both chords as one section. I_y = h0² A_ch/2, with battens and 2 I_ch beside (μ = 1)."""
    c = of.chord
    battens = 2 * c.Iz if of.lacing is None else 0.0
    Iy = of.h0**2 * c.A / 2 + battens
    depth = of.h0 + c.b
    return replace(
        c,
        name=name,
        family="built",
        shape="laced" if of.lacing else "battened",
        h=depth,
        b=c.h,
        A=2 * c.A,
        Iy=Iy,
        Iz=2 * c.Iy,
        It=2 * c.It,
        Iw=2 * c.Iw,
        Wel_y=2 * Iy / depth,
        Wel_z=2 * c.Wel_y,
        Wpl_y=c.A * of.h0,
        Wpl_z=2 * c.Wpl_y,
        Wt=2 * c.Wt,
        Av_y=2 * c.Av_z,
        Av_z=2 * c.Av_y,
        stiffness_Avy=2 * c.stiffness_Avz if c.stiffness_Avz else None,
        stiffness_Avz=shear_stiffness(of) / G,
        turn=0.0,
        shear_y=0.0,
        shear_z=0.0,
        centre_y=0.0,
        centre_z=0.0,
        latticed=of,
    )
