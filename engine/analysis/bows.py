"""Bow imperfections of members: a start shape w0 = 4 e0 ξ (1 − ξ) over the member's length.

Second order acts on it as on any other movement: −K_g w0 is the equivalent load 8 N e0/L² with its end shears of EN 1993-1-1
figure 5.4, for each combination's own N.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_array

from engine.analysis.elements import Elements
from engine.structure.model import Bools, Floats, Ints


@dataclass(frozen=True)
class Bow:
    """member: its number; plane: 0 along its local y, 1 along z; rise: e0 in metres; sense: +1 or −1 of that axis, 0: as the
    member bends in each combination."""

    member: int
    plane: int
    rise: float
    sense: int = 0


def bowed(elements: Elements, bows: Sequence[Bow]) -> Bools:
    """(2, e) elements that have a bow in each plane."""
    found = np.zeros((2, len(elements)), dtype=bool)
    for bow in bows:
        found[bow.plane] |= elements.member == bow.member
    return found


def _spans(elements: Elements, bow: Bow) -> tuple[Ints, Floats, Floats]:
    """The elements of a bowed member, and where each starts and ends as shares of its length."""
    own = elements.rows(bow.member)
    length = float(elements.reach[own].sum())
    start = elements.offset[own] / length
    return own, start, start + elements.reach[own] / length


def leans(elements: Elements, bows: Sequence[Bow], bend: Ints) -> csr_array:
    """(3 m, bows) lean and end rotations times length of each element that bends (rows of `bend`, (m, 2): plane and element;
    all leans first), for a bow of its full rise along + its axis. A parabola is what an element's own shapes hold exactly."""
    row_of = {(int(p), int(e)): k for k, (p, e) in enumerate(bend)}
    rows: list[int] = []
    columns: list[int] = []
    values: list[float] = []
    for j, bow in enumerate(bows):
        for e, a, b in zip(*_spans(elements, bow), strict=True):
            rise = 4 * bow.rise
            # w0 = rise (ξ − ξ²), and its slope times the element's length
            own = (rise * (b - b**2 - a + a**2), rise * (1 - 2 * a) * (b - a), rise * (1 - 2 * b) * (b - a))
            rows += [row_of[bow.plane, int(e)] + k * len(bend) for k in range(3)]
            columns += [j] * 3
            values += own
    return csr_array((values, (rows, columns)), shape=(3 * len(bend), len(bows)))


def along(elements: Elements, bows: Sequence[Bow], signs: Floats, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, c), the same): start shape beyond its value at the elements' starts, and its slope, at stations x (e, s);
    signs: (bows, c)."""
    w, slope = np.zeros((2, *x.shape, signs.shape[1])), np.zeros((2, *x.shape, signs.shape[1]))
    for bow, sign in zip(bows, signs, strict=True):
        own, a, b = _spans(elements, bow)
        share = (b - a)[:, None] / elements.length[own, None]
        xi = a[:, None] + x[own] * share
        start = a - a**2
        w[bow.plane, own] += 4 * bow.rise * (xi - xi**2 - start[:, None])[:, :, None] * sign
        slope[bow.plane, own] += 4 * bow.rise * ((1 - 2 * xi) * share)[:, :, None] * sign
    return w, slope
