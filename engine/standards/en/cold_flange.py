"""The free flange of a purlin that sheeting holds at its other flange: a beam on an elastic foundation, EN 1993-1-3 10.1.4.

Its moments and its buckling length are found on that beam itself, over the spans in line and the anti-sag bars there are; tables 10.1 and
10.2 approximate the same (tests compare)."""

from __future__ import annotations

from collections.abc import Sequence
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
#: more spans alike in line than these bend like as many
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


#: rows of factors and powers of the length of an element
Terms = list[list[tuple[int, int]]]
#: lengths in m of the spans of a line, from end to end
Spans = tuple[float, ...]


def line_of(lengths: Sequence[float], continuous: bool) -> Spans:
    """The spans that a line of purlins bends over: the longest alone where each is hinged at its ends; as many as count where all are alike."""
    if not continuous:
        return (max(lengths),)
    alike = max(lengths) - min(lengths) < 1e-6
    return (lengths[0],) * min(len(lengths), MOST) if alike else tuple(lengths)


@dataclass(frozen=True)
class Bent:
    """A continuous beam under 1 N/m at the stations, PARTS to each span: moment (sagging positive) and deflection; most: the largest moment
    either way where nothing beds it, also between the stations; the largest shear at a support within and at an end."""

    moment: Floats
    deflection: Floats
    most: float
    shear_within: float
    shear_end: float


def _together(own: Floats) -> csc_array:
    """A line of elements put together, from the matrix of each (count, 4, 4); deflection and slope of each node in turn."""
    first = 2 * np.arange(len(own))[:, None, None]
    rows, columns = np.broadcast_arrays(first + np.arange(4)[:, None], first + np.arange(4))
    size = 2 * len(own) + 2
    return csc_array(coo_array((own.ravel(), (rows.ravel(), columns.ravel())), shape=(size, size)))


def _lengths(spans: Spans) -> Floats:
    """(count,) of the elements."""
    return np.repeat(np.array(spans) / PARTS, PARTS)


def _of_each(rows: Terms, a: Floats) -> Floats:
    """(count, 4, 4) matrices of elements of the lengths a, from factors and powers of a."""
    factor: Floats = np.array([[one[0] for one in row] for row in rows], dtype=float)
    power: Floats = np.array([[one[1] for one in row] for row in rows], dtype=float)
    return np.asarray(factor * a[:, None, None] ** power)


#: Hermite's: of bending, of the bed, of an axial force
_BEND: Terms = [
    [(12, -3), (6, -2), (-12, -3), (6, -2)],
    [(6, -2), (4, -1), (-6, -2), (2, -1)],
    [(-12, -3), (-6, -2), (12, -3), (-6, -2)],
]
_BEND += [[(6, -2), (2, -1), (-6, -2), (4, -1)]]
_BED: Terms = [
    [(156, 1), (22, 2), (54, 1), (-13, 2)],
    [(22, 2), (4, 3), (13, 2), (-3, 3)],
    [(54, 1), (13, 2), (156, 1), (-22, 2)],
]
_BED += [[(-13, 2), (-3, 3), (-22, 2), (4, 3)]]
_AXIAL: Terms = [
    [(36, -1), (3, 0), (-36, -1), (3, 0)],
    [(3, 0), (4, 1), (-3, 0), (-1, 1)],
    [(-36, -1), (-3, 0), (36, -1), (-3, 0)],
]
_AXIAL += [[(3, 0), (-1, 1), (-3, 0), (4, 1)]]


def _stiffness(a: Floats, stiffness: float, spring: float) -> csc_array:
    """Of a line of elements on a foundation."""
    return _together(stiffness * _of_each(_BEND, a) + spring / 420 * _of_each(_BED, a))


def _free(count: int, bars: int) -> NDArray[np.intp]:
    """Degrees of freedom that no support and no anti-sag bar holds."""
    return np.setdiff1d(np.arange(2 * count + 2), 2 * np.arange(0, count + 1, PARTS // (bars + 1)))


@lru_cache(maxsize=256)
def bending(spans: Spans, stiffness: float = 1.0, spring: float = 0.0, bars: int = 0) -> Bent:
    """A beam over spans under 1 N/m all along. stiffness: EI in Nm²; spring: N/m²; bars: that hold it in each span too."""
    a = _lengths(spans)
    count = len(a)
    f = np.zeros(2 * count + 2)
    # consistent: half of each load to its ends, its clamping moments besides
    f[:-2:2] += a / 2
    f[2::2] += a / 2
    f[1:-2:2] += a**2 / 12
    f[3::2] -= a**2 / 12
    free = _free(count, bars)
    d = np.zeros(len(f))
    d[free] = spsolve(_stiffness(a, stiffness, spring)[free][:, free], f[free])
    # moments from the curvature at the nodes of each element, its own load and bed put back: −EI w″ + q a²/12
    w, slope = d[::2], d[1::2]
    net = 1.0 - spring * (w[:-1] + w[1:]) / 2
    first = stiffness / a**2 * (6 * (w[:-1] - w[1:]) + a * (4 * slope[:-1] + 2 * slope[1:])) - net * a**2 / 12
    last = -stiffness / a**2 * (6 * (w[:-1] - w[1:]) + a * (2 * slope[:-1] + 4 * slope[1:])) - net * a**2 / 12
    moment = np.append(first, last[-1])
    moment[1:-1] = (first[1:] + last[:-1]) / 2
    m, long = moment[::PARTS], np.array(spans)
    left, right = long / 2 + (m[1:] - m[:-1]) / long, long / 2 - (m[1:] - m[:-1]) / long
    within = max([*left[1:], *right[:-1]], default=0.0)
    most = max(np.abs(moment).max(), (m[:-1] + left**2 / 2).max())
    return Bent(moment, w, float(most), float(within), float(max(left[0], right[-1])))


@lru_cache(maxsize=256)
def buckling_length(spans: Spans, stiffness: float, spring: float, bars: int, lifted: bool) -> float:
    """l_fz in m: π √(E I_fz / N_cr) with N_cr the largest force in the free flange when it buckles sideways, its force running as the moment of
    a beam that is pressed down, or lifted; 0 where no part is compressed."""
    a = _lengths(spans)
    sense = 1.0 if lifted else -1.0
    moment = sense * bending(spans).moment
    if moment.max() <= 1e-9 * max(spans) ** 2:
        return 0.0
    # the mean of each element: the moment is a parabola
    mean = (moment[1:] + moment[:-1]) / 2 + sense * a**2 / 12
    G = _together((mean / moment.max())[:, None, None] / 30 * _of_each(_AXIAL, a))
    free = _free(len(a), bars)
    K = _stiffness(a, stiffness, spring)[free][:, free]
    inverse = LinearOperator(K.shape, matvec=splu(K).solve)
    found = eigsh(G[free][:, free], 1, K, which="LA", Minv=inverse, v0=np.ones(len(free)), return_eigenvectors=False)
    return pi * sqrt(stiffness * float(found[0]))
