"""What loads on an element do along it: the transfer functions behind fixed-end forces, diagrams and deflections.

In a plane with transverse axis t (y or z), sagging moment M positive with tension on the −t side:
V' = q, M' = V, θ' = M/EI, w' = θ − V/GA. Integrating from the start (initial parameters; Macaulay brackets):

V = V0 + Q1            M = M0 + V0 x + Q2
θ = θ0 + (M0 x + V0 x²/2 + Q3)/EI
w = w0 + θ0 x + (M0 x²/2 + V0 x³/6 + Q4)/EI − (V0 x + S2)/GA

Qn is the n-fold integral of the load; a concentrated couple C turning x towards t enters as Q2 = −C⟨x−a⟩⁰ and so on,
but not S2. Along the axis N' = −n, u' = N/EA, and the same for torsion.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_array

from engine.actions.cases import Loading
from engine.analysis.elements import Elements
from engine.structure.model import Floats, Ints, Structure


@dataclass(frozen=True)
class ElementLoads:
    """Loads cut to elements, in local axes. Rows of line loads (a to b, qa to qb) and of concentrated ones (at a).

    line: (n, 2) element and case; span: (n, 2) m; q: (n, 2, 3) N/m. point: (m, 2); at: (m,); force, moment: (m, 3).
    """

    line: Ints
    span: Floats
    q: Floats
    point: Ints
    at: Floats
    force: Floats
    moment: Floats

    def of(self, rows: Ints, count: int) -> ElementLoads:
        """Those on some of `count` elements, which are numbered anew."""
        number = np.full(count, -1, dtype=np.int64)
        number[rows] = np.arange(len(rows))
        line, point = number[self.line[:, 0]] >= 0, number[self.point[:, 0]] >= 0
        return ElementLoads(
            np.stack([number[self.line[line, 0]], self.line[line, 1]], axis=1),
            self.span[line],
            self.q[line],
            np.stack([number[self.point[point, 0]], self.point[point, 1]], axis=1),
            self.at[point],
            self.force[point],
            self.moment[point],
        )


def cut_loads(structure: Structure, elements: Elements, loading: Loading) -> ElementLoads:
    """Cut member loads at the element ends and turn them into local axes."""
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    table = loading.table(structure)
    count = first[table.member + 1] - first[table.member]
    row = np.repeat(np.arange(len(table)), count)
    e = np.arange(len(row)) - np.repeat(np.cumsum(count) - count, count) + first[table.member[row]]
    offset, reach = elements.offset[e], elements.reach[e]
    a, b = np.maximum(table.start[row], offset), np.minimum(table.end[row], offset + reach)
    inside = b - a > 1e-9
    row, e, a, b, offset, reach = (v[inside] for v in (row, e, a, b, offset, reach))
    slope = (table.last - table.first)[row] / (table.end - table.start)[row, None]
    ends = table.first[row, None] + slope[:, None] * (np.stack([a, b], axis=1) - table.start[row, None])[:, :, None]
    # a piece of a haunch is longer than its share of the member's line
    longer = elements.length[e] / reach
    line = np.stack([e, table.case[row]], axis=1)
    span = (np.stack([a, b], axis=1) - offset[:, None]) * longer[:, None]
    axes = elements.axes[e]
    q = sum(axes[:, None, :, j] * ends[:, :, None, j] for j in range(3)) / longer[:, None, None]
    point, at, force, moment = [], [], [], []
    for p in loading.points:
        if not p.member:
            continue
        m = structure.index[p.member]
        k = int(first[m] + np.searchsorted(elements.offset[first[m] : first[m + 1]], p.at, side="right") - 1)
        point.append((k, p.case))
        # beyond the end by rounding it would load nothing
        share = min(max((p.at - elements.offset[k]) / elements.reach[k], 0.0), 1.0)
        at.append(share * elements.length[k])
        force.append(elements.axes[k] @ p.force)
        moment.append(elements.axes[k] @ p.moment)
    return ElementLoads(
        line,
        span,
        q,
        np.array(point, dtype=np.int64).reshape(-1, 2),
        np.array(at).reshape(-1),
        np.array(force).reshape(-1, 3),
        np.array(moment).reshape(-1, 3),
    )


def _powers(x: Floats, most: int) -> list[Floats]:
    """⟨x⟩ⁿ / n! for n from 0 to `most`."""
    base = np.maximum(x, 0.0)
    found = [(x >= 0).astype(float)]
    for n in range(1, most + 1):
        found.append(found[-1] * base / n)
    return found


@dataclass(frozen=True)
class Integrals:
    """(e, s, cases, …) integrals of the loads at stations: axial n1, n2; torsion t1, t2; Q1…Q4 and S2 for y and z."""

    axial: tuple[Floats, Floats]
    torsion: tuple[Floats, Floats]
    transverse: dict[str, tuple[Floats, Floats, Floats, Floats, Floats]]


def integrate(loads: ElementLoads, x: Floats, cases: int) -> Integrals:
    """The load integrals at stations x (e, s) for every case."""
    stations = x.shape[1]
    size = len(x) * cases
    out = np.zeros((14, size, stations))

    def put(cells: Ints, quantities: dict[int, Floats]) -> None:
        """Add rows of values (rows, stations) to the quantities, each to the element and case of its row."""
        e, c = cells.T
        rows = np.arange(len(cells))
        into = csr_array((np.ones(len(cells)), (e * cases + c, rows)), shape=(size, len(cells)))
        every = into @ np.concatenate(list(quantities.values()), axis=1)
        for k, number in enumerate(quantities):
            out[number] += every[:, k * stations : (k + 1) * stations]

    if len(loads.line):
        a, b = loads.span[:, :1], loads.span[:, 1:]
        slope = (loads.q[:, 1] - loads.q[:, 0]) / (b - a)
        e = loads.line[:, 0]
        xa, xb = _powers(x[e] - a, 5), _powers(x[e] - b, 5)

        def q_integral(axis: int, n: int) -> Floats:
            qa, qb, s = loads.q[:, 0, axis, None], loads.q[:, 1, axis, None], slope[:, axis, None]
            return qa * xa[n] + s * xa[n + 1] - qb * xb[n] - s * xb[n + 1]

        found = {n - 1: q_integral(0, n) for n in (1, 2)}
        for base, axis in ((4, 1), (9, 2)):
            found |= {base + n - 1: q_integral(axis, n) for n in (1, 2, 3, 4)}
            found[base + 4] = found[base + 1]
        put(loads.line, found)
    if len(loads.point):
        power = _powers(x[loads.point[:, 0]] - loads.at[:, None], 3)
        found = {}
        for n in (1, 2):
            found[n - 1] = loads.force[:, :1] * power[n - 1]
            found[n + 1] = loads.moment[:, :1] * power[n - 1]
        # a couple about local y turns x towards −z, about local z towards +y
        for base, axis, couple in ((4, 1, loads.moment[:, 2:]), (9, 2, -loads.moment[:, 1:2])):
            force = loads.force[:, axis, None]
            for n in (1, 2, 3, 4):
                found[base + n - 1] = force * power[n - 1] - (couple * power[n - 2] if n > 1 else 0.0)
            found[base + 4] = force * power[1]
        put(loads.point, found)
    swapped = np.swapaxes(out.reshape(14, len(x), cases, stations), 2, 3)
    return Integrals(
        (swapped[0], swapped[1]),
        (swapped[2], swapped[3]),
        {"y": tuple(swapped[4:9]), "z": tuple(swapped[9:14])},
    )


#: element freedoms (w1, θ1, w2, θ2) in each plane, and the sense of the rotation freedom against θ
PLANES = {"y": (1, 5, 7, 11, 1.0), "z": (2, 4, 8, 10, -1.0)}


def fixed_end_forces(elements: Elements, loads: ElementLoads, cases: int) -> Floats:
    """(e, 12, cases) forces that clamped ends exert on the elements, from the transfer functions at x = L."""
    e = elements
    at_end = integrate(loads, e.length[:, None], cases)
    f = np.zeros((len(e), 12, cases))
    L = e.length[:, None]
    for (i, j), (first, second) in (((0, 6), at_end.axial), ((3, 9), at_end.torsion)):
        start = second[:, 0] / L
        f[:, i] = -start
        f[:, j] = start - first[:, 0]
    for axis, (w1, r1, w2, r2, sense) in PLANES.items():
        EI, GA = (e.EIz, e.GAy) if axis == "y" else (e.EIy, e.GAz)
        q1, q2, q3, q4, s2 = (q[:, 0] for q in at_end.transverse[axis])
        k = (EI / GA)[:, None]
        V0 = (q4 - q3 * L / 2 - k * s2) / (L**3 / 12 + k * L)
        M0 = -V0 * L / 2 - q3 / L
        # a bar is hinged at both ends: it carries its load as a simple beam
        V0 = np.where(e.bar[:, None], -q2 / L, V0)
        M0 = np.where(e.bar[:, None], 0.0, M0)
        f[:, w1], f[:, r1] = V0, -M0 * sense
        f[:, w2], f[:, r2] = -(V0 + q1), (M0 + V0 * L + q2) * sense
    f[np.abs(f) < 1e-12 * np.abs(f).max(initial=0.0)] = 0.0
    return f
