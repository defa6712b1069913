"""Internal forces and deflections along elements, exact at every station, for cases and for combinations.

Signs: N tension positive; My and Mz positive with tension on the −z and −y side; V = dM/dx; T positive turning the end
about +x.
"""

from __future__ import annotations

from dataclasses import dataclass, fields, replace

import numpy as np
from numpy.typing import NDArray

from engine.analysis.stations import ACROSS
from engine.analysis.system import Response
from engine.analysis.transfer import PLANES, ElementLoads, integrate
from engine.processors import shared_out
from engine.structure.model import Floats, Ints

#: internal forces of a `Diagrams`
FORCES = ("N", "Vy", "Vz", "T", "My", "Mz")


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

    def of(self, rows: slice | Ints) -> Diagrams:
        """Those of some elements."""
        return Diagrams(*(getattr(self, field.name)[rows] for field in fields(self)))

    def combined(self, factors: Floats) -> Diagrams:
        """The same for combinations of the cases: factors (combinations, cases)."""
        return Diagrams(self.x, *(values @ factors.T for values in (getattr(self, name) for name in FORCES)))


#: elements that are looked at together
BLOCK = 200
#: shear and moment that belong together
PAIRS = (("Vz", "My"), ("Vy", "Mz"))


def peaked(d: Diagrams, loads: ElementLoads, pulled: Floats | None = None) -> Diagrams:
    """The diagrams with each moment, shear and axial force raised to its peak between a station and the next, where that is
    larger. pulled: (e, s, c) ∫N along the elements; without it N is that of the stations."""
    uneven = [varying(loads, axis) for axis in range(3)]

    def raised(rows: slice) -> dict[str, Floats]:
        part, peaks = d.of(rows), {}
        own = [found[(found >= rows.start) & (found < rows.stop)] - rows.start for found in uneven]
        for V_name, M_name in PAIRS:
            V, M = getattr(part, V_name), getattr(part, M_name)
            at = _turning(V)
            _, b, c = _parabola(part, V, M, at)
            peaks[M_name] = _raised(M, at, _root(part, V, M, at, b, c)[1])
            peaks[V_name] = _turned(part, V, M, own[1 if V_name == "Vy" else 2])
        if pulled is not None:
            peaks["N"] = _turned(part, part.N, pulled[rows], own[0])
        return peaks

    parts = list(shared_out(raised, [slice(at, at + BLOCK) for at in range(0, len(d.x), BLOCK)]))
    return replace(d, **{name: np.concatenate([part[name] for part in parts]) for name in (parts[0] if parts else ())})


def _turned(d: Diagrams, V: Floats, M: Floats, own: Ints) -> Floats:
    """A shear (or axial force) with its integral, raised to where it turns in some elements."""
    if not len(own):
        return V
    places = np.meshgrid(own, np.arange(V.shape[1] - 1), np.arange(V.shape[2]), indexing="ij")
    at = (places[0].ravel(), places[1].ravel(), places[2].ravel())
    return _raised(V, at, _vertex(V, at, *_parabola(d, V, M, at)[1:])[1])


#: indices of elements, stations and states
Places = tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]


def _turning(V: Floats) -> Places:
    """Where a shear changes its sign from a station to the next."""
    e, s, c = np.nonzero(V[:, :-1] * V[:, 1:] < 0)
    return e, s, c


def _raised(values: Floats, at: Places, peak: Floats) -> Floats:
    out = values.copy()
    # a NaN compares as smaller
    out[at] = np.where(np.abs(peak) > np.abs(values[at]), peak, values[at])
    return out


def varying(loads: ElementLoads, axis: int) -> Ints:
    """Elements on which a line load along a local axis varies: between two stations the sum of loads may change sign."""
    q = loads.q[:, :, axis]
    uneven = np.abs(q[:, 0] - q[:, 1]) > 1e-6 * np.abs(q).max(initial=0.0)
    return np.asarray(np.unique(loads.line[uneven, 0]))


def _parabola(d: Diagrams, V: Floats, M: Floats, at: Places) -> tuple[Floats, Floats, Floats]:
    """The way from station to station, and b and c of V = a + b t + c t² in between, that has the stations' shears and encloses
    the difference of their moments: exact for uniform and linearly varying loads, since loads start and end at stations; in
    second order the axial force's lever between two stations counts as such a parabola. Across a concentrated load, between the
    stations closely before and behind it, both jump: there the way is straight."""
    after = (at[0], at[1] + 1, at[2])
    h = (d.x[:, 1:] - d.x[:, :-1])[at[:2]]
    jump = h < ACROSS * d.x[at[0], -1]
    c = np.where(jump, 0.0, 3 * (V[at] + V[after]) - 6 * (M[after] - M[at]) / np.where(jump, 1.0, h))
    return h, V[after] - V[at] - c, c


def _root(d: Diagrams, V: Floats, M: Floats, at: Places, b: Floats, c: Floats) -> tuple[Floats, Floats]:
    """Where the shear, of opposite signs at both stations, is zero, as a share of the way; and the moment there."""
    a, h = V[at], (d.x[:, 1:] - d.x[:, :-1])[at[:2]]
    with np.errstate(divide="ignore"):
        # what is nothing but rounding has its root anywhere: at the end
        t = np.clip(2 * a / (-b + np.sign(a) * np.sqrt(np.maximum(b**2 - 4 * a * c, 0.0))), 0.0, 1.0)
    return t, M[at] + h * (a * t + b * t**2 / 2 + c * t**3 / 3)


def _vertex(V: Floats, at: Places, b: Floats, c: Floats) -> tuple[Floats, Floats]:
    """Where the shear turns, as a share of the way, and its value there; NaN where it does not."""
    with np.errstate(divide="ignore", invalid="ignore"):
        t = -b / (2 * c)
    t[~((t > 0) & (t < 1))] = np.nan
    return t, V[at] + b * t + c * t**2


def extremes(d: Diagrams, pulled: Floats | None = None) -> dict[str, tuple[Floats, Floats, Floats, Floats]]:
    """Greatest and least of N, Vy, Vz, T, My, Mz of each element in each state, (e, c), and where: for each quantity the
    greatest, its distance from the element's start in metres, the least, and its distance. pulled: as in `peaked`."""
    found = {}
    turns: dict[str, tuple[Floats, Floats]] = {}
    shape = (d.x.shape[0], d.x.shape[1] - 1, d.N.shape[2])
    e, s, c = np.indices(shape)
    every = (e.ravel(), s.ravel(), c.ravel())
    for V_name, M_name in PAIRS:
        V, M = getattr(d, V_name), getattr(d, M_name)
        _, b, c = _parabola(d, V, M, every)
        turns[V_name] = _vertex(V, every, b, c)
        at = _turning(V)
        share, top = np.full((2, *shape), np.nan)
        share[at], top[at] = _root(d, V, M, at, b.reshape(shape)[at], c.reshape(shape)[at])
        turns[M_name] = share, top
    if pulled is not None:
        turns["N"] = _vertex(d.N, every, *_parabola(d, d.N, pulled, every)[1:])
    step = np.diff(d.x, axis=1)[:, :, None]
    for name in ("N", "Vy", "Vz", "T", "My", "Mz"):
        values, x = getattr(d, name), np.broadcast_to(d.x[:, :, None], getattr(d, name).shape)
        if name in turns:
            share, own = (v.reshape(shape) for v in turns[name])
            values = np.concatenate([values, np.where(np.isnan(own), values[:, :-1], own)], axis=1)
            x = np.concatenate([x, x[:, :-1] + np.nan_to_num(share) * step], axis=1)
        picks = []
        for pick in (values.argmax(axis=1), values.argmin(axis=1)):
            picks += [np.take_along_axis(v, pick[:, None], axis=1)[:, 0] for v in (values, x)]
        found[name] = tuple(picks)
    return found  # type: ignore[return-value]


def diagrams(response: Response, x: Floats | None = None) -> Diagrams:
    """Internal forces of every case from the end forces and the loads between (transfer functions, transfer.py)."""
    x = response.system.stations if x is None else x
    f = response.end_force
    loads = response.system.integrals_at(x)
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
    x = response.system.stations if x is None else x
    e, f, d = response.elements, response.end_force, response.end_displacement
    cases = f.shape[2]
    loads = response.system.integrals_at(x)
    X = x[:, :, None]
    out = np.zeros((*x.shape, 3, cases))
    N0 = -f[:, 0, None]
    grown = (N0 + response.system.warm[:, None]) * X
    out[:, :, 0] = d[:, 0, None] + (grown - loads.axial[1]) / e.EA[:, None, None]
    for index, (axis, (w1, r1, w2, _, sense)) in enumerate(PLANES.items(), 1):
        EI, GA = (e.EIz, e.GAy) if axis == "y" else (e.EIy, e.GAz)
        EI, GA = EI[:, None, None], GA[:, None, None]
        V0, M0 = f[:, w1, None], -f[:, r1, None] * sense
        _, _, q3, q4, s2 = loads.transverse[axis]
        curled = response.system.curled[index - 1][:, None]
        bent = (M0 * X**2 / 2 + V0 * X**3 / 6 + q4) / EI - (V0 * X + s2) / GA + curled * X**2 / 2
        theta0 = d[:, r1, None] * sense
        # a bar's end rotation is no unknown: it follows from where its far end is
        L = e.length[:, None, None]
        at_end = integrate(response.loads, e.length[:, None], cases).transverse[axis]
        far = (M0 * L**2 / 2 + V0 * L**3 / 6 + at_end[3]) / EI - (V0 * L + at_end[4]) / GA + curled * L**2 / 2
        theta0 = np.where(e.bar[:, None, None], (d[:, w2, None] - d[:, w1, None] - far) / L, theta0)
        out[:, :, index] = d[:, w1, None] + theta0 * X + bent
    turned: Floats = np.einsum("eij,esic->esjc", e.axes, out, optimize=True)
    return turned
