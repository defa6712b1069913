"""The free flange of a purlin that sheeting holds at its other flange: a beam on an elastic foundation, EN 1993-1-3 10.1.4.

Its moments and its buckling length are found on that beam itself, over the spans in line and the anti-sag bars there are; tables 10.1 and
10.2 approximate the same (tests compare)."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import pi, sqrt

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array, csc_array
from scipy.sparse.linalg import LinearOperator, eigsh, splu, spsolve

from engine.standards.en.cold_bending import Walls

Floats = NDArray[np.float64]
#: elements in a span: anti-sag bars, up to three, stand at nodes, and the largest moments of end spans, at 3/8 and 2/5, at or beside one
PARTS = 48
#: more spans in line than these bend like as many
MOST = 6
#: share of the web that goes with the free flange, 10.1.4.1(2)
WEB_SHARE = 0.2


@dataclass(frozen=True)
class FreeFlange:
    """Flange, lip and a fifth of the web about the web's direction: area, second moment, smaller modulus, radius."""

    A: float
    I_z: float
    W: float
    i: float


def free_flange(w: Walls) -> FreeFlange:
    """The gross free flange of a section."""
    parts = [(w.pulled, w.pulled / 2), (w.lip, w.pulled), (WEB_SHARE * w.web, 0.0)]
    length = sum(size for size, _ in parts)
    middle = sum(size * y for size, y in parts) / length
    I_z = w.t * (sum(size * (y - middle) ** 2 for size, y in parts) + w.pulled**3 / 12)
    return FreeFlange(w.t * length, I_z, I_z / max(middle, w.pulled - middle), sqrt(I_z / (w.t * length)))


@dataclass(frozen=True)
class Bent:
    """A continuous beam of equal spans under 1 N/m at the stations x: moment (sagging positive) and deflection; the largest shear at a
    support within and at an end."""

    x: Floats
    moment: Floats
    deflection: Floats
    shear_within: float
    shear_end: float


def _together(count: int, own: Floats) -> csc_array:
    """A line of elements put together, from the matrix of each (count, 4, 4); deflection and slope of each node in turn."""
    first = 2 * np.arange(count)[:, None, None]
    rows, columns = np.broadcast_arrays(first + np.arange(4)[:, None], first + np.arange(4))
    size = 2 * count + 2
    return csc_array(coo_array((own.ravel(), (rows.ravel(), columns.ravel())), shape=(size, size)))


def _stiffness(count: int, a: float, stiffness: float, spring: float) -> csc_array:
    """Of a line of elements of length a on a foundation."""
    bend = [[12, 6 * a, -12, 6 * a], [6 * a, 4 * a**2, -6 * a, 2 * a**2]]
    bend += [[-12, -6 * a, 12, -6 * a], [6 * a, 2 * a**2, -6 * a, 4 * a**2]]
    bed = [[156, 22 * a, 54, -13 * a], [22 * a, 4 * a**2, 13 * a, -3 * a**2]]
    bed += [[54, 13 * a, 156, -22 * a], [-13 * a, -3 * a**2, -22 * a, 4 * a**2]]
    own = stiffness / a**3 * np.array(bend) + spring * a / 420 * np.array(bed)
    return _together(count, np.broadcast_to(own, (count, 4, 4)))


def _free(count: int, between: int) -> NDArray[np.intp]:
    """Degrees of freedom that no support and no anti-sag bar holds; between: elements from one to the next."""
    return np.setdiff1d(np.arange(2 * count + 2), 2 * np.arange(0, count + 1, between))


@lru_cache(maxsize=256)
def bending(spans: int, span: float, stiffness: float = 1.0, spring: float = 0.0, bars: int = 0) -> Bent:
    """A beam over equal spans in m under 1 N/m all along. stiffness: EI in Nm²; spring: N/m²; bars: that hold it in each span too."""
    spans = min(spans, MOST)
    count, a = spans * PARTS, span / PARTS
    f = np.zeros(2 * count + 2)
    f[::2] = a
    f[[0, 1, -2, -1]] = a / 2, a**2 / 12, a / 2, -(a**2) / 12
    free = _free(count, PARTS // (bars + 1))
    d = np.zeros(len(f))
    d[free] = spsolve(_stiffness(count, a, stiffness, spring)[free][:, free], f[free])
    # moments from the curvature at the nodes of each element, its own load and bed put back: −EI w″ + q a²/12
    w, slope = d[::2], d[1::2]
    net = 1.0 - spring * (d[::2][:-1] + d[::2][1:]) / 2
    first = stiffness / a**2 * (6 * (w[:-1] - w[1:]) + a * (4 * slope[:-1] + 2 * slope[1:])) - net * a**2 / 12
    last = -stiffness / a**2 * (6 * (w[:-1] - w[1:]) + a * (2 * slope[:-1] + 4 * slope[1:])) - net * a**2 / 12
    moment = np.append(first, last[-1])
    moment[1:-1] = (first[1:] + last[:-1]) / 2
    supports = np.arange(0, count + 1, PARTS)
    m = moment[supports]
    left, right = span / 2 + (m[1:] - m[:-1]) / span, span / 2 - (m[1:] - m[:-1]) / span
    within = max([*left[1:], *right[:-1]], default=0.0)
    return Bent(np.linspace(0, spans * span, count + 1), moment, w, float(within), float(max(left[0], right[-1])))


@lru_cache(maxsize=256)
def buckling_length(spans: int, span: float, stiffness: float, spring: float, bars: int, lifted: bool) -> float:
    """l_fz in m: π √(E I_fz / N_cr) with N_cr the largest force in the free flange when it buckles sideways, its force running as the moment of
    a beam that is pressed down, or lifted; 0 where no part is compressed."""
    spans = min(spans, MOST)
    count, a = spans * PARTS, span / PARTS
    moment = (1.0 if lifted else -1.0) * bending(spans, span).moment
    if moment.max() <= 1e-9 * span**2:
        return 0.0
    # the mean of each element: the moment is a parabola
    mean = (moment[1:] + moment[:-1]) / 2 + (a**2 / 12 if lifted else -(a**2) / 12)
    shape = [
        [36, 3 * a, -36, 3 * a],
        [3 * a, 4 * a**2, -3 * a, -(a**2)],
        [-36, -3 * a, 36, -3 * a],
        [3 * a, -(a**2), -3 * a, 4 * a**2],
    ]
    G = _together(count, (mean / moment.max())[:, None, None] * np.array(shape) / (30 * a))
    free = _free(count, PARTS // (bars + 1))
    K = _stiffness(count, a, stiffness, spring)[free][:, free]
    factors = splu(K)
    inverse = LinearOperator(K.shape, matvec=factors.solve)
    found = eigsh(G[free][:, free], 1, K, which="LA", Minv=inverse, v0=np.ones(len(free)), return_eigenvectors=False)
    return pi * sqrt(stiffness * float(found[0]))
