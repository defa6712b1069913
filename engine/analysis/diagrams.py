"""Internal forces and deflections along elements, exact at every station, for cases and for combinations.

Signs: N tension positive; My and Mz positive with tension on the −z and −y side; V = dM/dx; T positive turning the end
about +x.
"""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.elements import Elements
from engine.analysis.solve import Response
from engine.analysis.transfer import PLANES, ElementLoads, integrate
from engine.structure.model import Floats

#: stations per element, at least
STATIONS = 9
#: distance of stations from a concentrated load between them, as a share of the element
BESIDE = 1e-6


@dataclass(frozen=True)
class Diagrams:
    """x: (e, s) m from the element's start. N, Vy, Vz, T, My, Mz: (e, s, c). c runs over cases or combinations."""

    x: Floats
    N: Floats
    Vy: Floats
    Vz: Floats
    T: Floats
    My: Floats
    Mz: Floats

    def combined(self, factors: Floats) -> Diagrams:
        """The same for combinations of the cases: factors (combinations, cases)."""
        return Diagrams(
            self.x, *(values @ factors.T for values in (self.N, self.Vy, self.Vz, self.T, self.My, self.Mz))
        )


def peaked(d: Diagrams) -> Diagrams:
    """The diagrams with each moment raised to its peak between a station and the next, where the shear changes sign.

    Between stations V is the parabola a + b t + c t² that has the stations' shears and encloses the difference of their
    moments: exact for uniform and linearly varying loads, within 0.01 % where a load steps between two stations. The peak
    lies at its root.
    """

    step = np.diff(d.x, axis=1)

    def raised(V: Floats, M: Floats) -> Floats:
        at = np.nonzero(V[:, :-1] * V[:, 1:] < 0)
        after = (at[0], at[1] + 1, at[2])
        a, last, h = V[at], V[after], step[at[:2]]
        c = 3 * (a + last) - 6 * (M[after] - M[at]) / h
        b = last - a - c
        t = np.clip(2 * a / (-b + np.sign(a) * np.sqrt(np.maximum(b**2 - 4 * a * c, 0.0))), 0.0, 1.0)
        peak = M[at] + h * (a * t + b * t**2 / 2 + c * t**3 / 3)
        out = M.copy()
        out[at] = np.where(np.abs(peak) > np.abs(M[at]), peak, M[at])
        return out

    return replace(d, My=raised(d.Vz, d.My), Mz=raised(d.Vy, d.Mz))


def station_positions(elements: Elements, loads: ElementLoads) -> Floats:
    """(e, s) stations, both ends included: equally spaced, but where concentrated loads act one closely before and one behind
    each, so that everything between two stations is smooth. There are more of them when an element bears many such loads.
    """
    own: dict[int, set[float]] = defaultdict(set)
    for e, at in zip(loads.point[:, 0].tolist(), loads.at.tolist(), strict=True):
        share = at / elements.length[e]
        if 2 * BESIDE < share < 1 - 2 * BESIDE:
            own[e].add(round(share, 6))
    count = max(STATIONS, 2 + 2 * max(map(len, own.values()), default=0))
    shares = np.tile(np.linspace(0.0, 1.0, count), (len(elements), 1))
    for e, places in own.items():
        found = sorted([0.0, 1.0, *(p - BESIDE for p in places), *(p + BESIDE for p in places)])
        while len(found) < count:
            widest = int(np.argmax(np.diff(found)))
            found.insert(widest + 1, (found[widest] + found[widest + 1]) / 2)
        shares[e] = found
    return elements.length[:, None] * shares


def diagrams(response: Response, x: Floats | None = None) -> Diagrams:
    """Internal forces of every case from the end forces and the loads between (transfer functions, transfer.py)."""
    x = station_positions(response.elements, response.loads) if x is None else x
    f = response.end_force
    cases = f.shape[2]
    loads = integrate(response.loads, x, cases)
    X = x[:, :, None]
    N = -f[:, 0, None] - loads.axial[0]
    T = -f[:, 3, None] - loads.torsion[0]
    V, M = {}, {}
    for axis, (w1, r1, _, _, sense) in PLANES.items():
        V0, M0 = f[:, w1, None], -f[:, r1, None] * sense
        q1, q2, *_ = loads.transverse[axis]
        V[axis] = V0 + q1
        M[axis] = M0 + V0 * X + q2
    return Diagrams(x, N, V["y"], V["z"], T, M["z"], M["y"])


def deflections(response: Response, x: Floats | None = None) -> Floats:
    """(e, s, 3, cases) displacements in global axes along the elements, exact for the loads between their ends."""
    x = station_positions(response.elements, response.loads) if x is None else x
    e, f, d = response.elements, response.end_force, response.end_displacement
    cases = f.shape[2]
    loads = integrate(response.loads, x, cases)
    X = x[:, :, None]
    out = np.zeros((*x.shape, 3, cases))
    N0 = -f[:, 0, None]
    out[:, :, 0] = d[:, 0, None] + (N0 * X - loads.axial[1]) / e.EA[:, None, None]
    warm = np.flatnonzero(response.system.warm.any(axis=1))
    share = (x[warm] / e.length[warm, None])[:, :, None]
    out[warm, :, 0] = d[warm, 0, None] * (1 - share) + d[warm, 6, None] * share
    for index, (axis, (w1, r1, w2, _, sense)) in enumerate(PLANES.items(), 1):
        EI, GA = (e.EIz, e.GAy) if axis == "y" else (e.EIy, e.GAz)
        EI, GA = EI[:, None, None], GA[:, None, None]
        V0, M0 = f[:, w1, None], -f[:, r1, None] * sense
        _, _, q3, q4, s2 = loads.transverse[axis]
        bent = (M0 * X**2 / 2 + V0 * X**3 / 6 + q4) / EI - (V0 * X + s2) / GA
        theta0 = d[:, r1, None] * sense
        # a bar's end rotation is no unknown: it follows from where its far end is
        L = e.length[:, None, None]
        at_end = integrate(response.loads, e.length[:, None], cases).transverse[axis]
        far = (M0 * L**2 / 2 + V0 * L**3 / 6 + at_end[3]) / EI - (V0 * L + at_end[4]) / GA
        theta0 = np.where(e.bar[:, None, None], (d[:, w2, None] - d[:, w1, None] - far) / L, theta0)
        out[:, :, index] = d[:, w1, None] + theta0 * X + bent
    turned: Floats = np.einsum("eij,esic->esjc", e.axes, out, optimize=True)
    return turned
