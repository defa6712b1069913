"""What acts under pad footings: pressure on the ground, uplift, sliding. Told, not verified: what the ground bears is not in the model.

Pressure by EN 1997-1 annex D.4: on the effective area (x − 2 e_x)(y − 2 e_y) about the force's own place. The weight of the pad, concrete of
25 kN/m³, counts with γ_G,sup or γ_G,inf, whichever is worse for pressure, and with γ_G,inf against uplift and sliding: that of EN 1990 table A1.2(A) where it is less.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.analysis.combined import Combined
from engine.structure.model import Floats, Pad

#: N/m³, EN 1991-1-1 table A.1 with reinforcement
CONCRETE = 25_000.0


@dataclass(frozen=True)
class UnderPad:
    """What acts under a pad at its worst, with the number of the combination: weight of the pad in N; pressure in Pa, infinite where it tips over;
    slide: the force sideways over friction, infinite where nothing presses; least: the least force on the ground in N, lifted off where it is
    negative; gapes: whether a part of its base comes off the ground, where the springs would pull."""

    node: int
    pad: Pad
    weight: float
    pressure: tuple[float, int]
    slide: tuple[float, int]
    least: tuple[float, int]
    gapes: bool

    @property
    def stands(self) -> bool:
        """Whether it neither tips over, nor slides, nor lifts off."""
        return bool(np.isfinite(self.pressure[0]) and self.slide[0] <= 1 and self.least[0] >= 0)


def told_of(one: UnderPad) -> str:
    """How a pad stands, in words."""
    falls = [
        words
        for words, there in (
            ("tips over", np.isinf(one.pressure[0])),
            ("lifts off", one.least[0] < 0),
            ("slides", one.slide[0] > 1),
        )
        if there
    ]
    return " and ".join(falls) or ("stands, a part comes off the ground" if one.gapes else "stands")


def under_pads(combined: Combined, which: tuple[int, ...], gamma: tuple[float, float]) -> list[UnderPad]:
    """Every pad under the combinations of these numbers; gamma: γ_G,sup, γ_G,inf of the pad's weight."""
    structure = combined.structure
    if not structure.pads or not which:
        return []
    reaction = combined.reaction(which)
    return [
        _under(node, pad, reaction[node], structure.turn[node], which, gamma) for node, pad in structure.pads.items()
    ]


def _under(
    node: int, pad: Pad, reaction: Floats, turn: float, which: tuple[int, ...], gamma: tuple[float, float]
) -> UnderPad:
    """One pad; reaction: (6, c) on what stands on it, in global axes."""
    cos, sin = np.cos(turn), np.sin(turn)
    turned = np.array([[cos, sin], [-sin, cos]])
    # what stands on the pad presses on its top: forces and moments the other way round
    (H_x, H_y), (M_x, M_y) = -turned @ reaction[:2], -turned @ reaction[3:5]
    N, weight = reaction[2], CONCRETE * pad.x * pad.y * pad.depth
    below = M_x - pad.depth * H_y, M_y + pad.depth * H_x
    heavy, light = N + gamma[0] * weight, N + gamma[1] * weight
    pressure = np.maximum(_pressure(pad, heavy, *below), _pressure(pad, light, *below))
    sideways = np.hypot(H_x, H_y)
    with np.errstate(divide="ignore", invalid="ignore"):
        slide = np.where(sideways < 1e-6, 0.0, np.where(light > 0, sideways / (pad.friction * light), np.inf))
        e_x, e_y = np.abs(below[1] / light), np.abs(below[0] / light)
        gapes = bool(((light <= 0) | (6 * e_x > pad.x * (1 + 1e-9)) | (6 * e_y > pad.y * (1 + 1e-9))).any())

    def at(values: Floats, k: int) -> tuple[float, int]:
        return float(values[k]), which[k]

    return UnderPad(
        node,
        pad,
        weight,
        at(pressure, int(pressure.argmax())),
        at(slide, int(slide.argmax())),
        at(light, int(light.argmin())),
        gapes,
    )


def _pressure(pad: Pad, N: Floats, M_x: Floats, M_y: Floats) -> Floats:
    """N over the effective area; infinite where the force leaves the base, 0 where nothing presses."""
    with np.errstate(divide="ignore", invalid="ignore"):
        e_x, e_y = np.abs(M_y / N), np.abs(M_x / N)
        x, y = pad.x - 2 * e_x, pad.y - 2 * e_y
        found = np.where((x > 0) & (y > 0), N / (x * y), np.inf)
    tips = (np.abs(M_x) > 0) | (np.abs(M_y) > 0)
    return np.where(N > 0, found, np.where(tips & (N < 0), np.inf, 0.0))


def said_of(found: list[UnderPad]) -> tuple[str, ...]:
    """What a verdict says that it leaves out."""
    if not found:
        return ()
    fallen = sum(not one.stands for one in found)
    count = "1 pad footing" if len(found) == 1 else f"{len(found)} pad footings"
    words = f"{count} and the ground under them: pressure, sliding and uplift are told, not verified"
    return (words + (f"; {fallen} tip over, slide or lift off" if fallen else ""),)
