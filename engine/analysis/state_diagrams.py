"""Internal forces and deflections along the elements of solved states, in second order with the lever of the axial force."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from engine.analysis.bows import along, bowed
from engine.analysis.clamped import clamped
from engine.analysis.diagrams import Diagrams
from engine.analysis.geometric import FREEDOMS_OF, shapes
from engine.analysis.states import States
from engine.structure.model import Floats, Ints


def _along(states: States, which: Ints, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, k), the same): transverse displacement of elements along y and z beyond that of their start, and its
    slope, in second order."""
    system, unit = states.system, shapes()
    e = system.elements
    xi = x / e.length[:, None]
    factors = states.factors[which]
    w_case, slope_case = clamped(system, x)
    w, slope = w_case @ factors.T, slope_case @ factors.T
    length = e.length[:, None, None]
    slopes = [[shape.deriv() for shape in group] for group in (unit.hermite, unit.straight, unit.bubbles)]
    for p, (freedoms, sense) in enumerate(FREEDOMS_OF):
        EI, GA = (e.EIz, e.GAy) if p == 0 else (e.EIy, e.GAz)
        phi = np.where(e.bar, 0.0, 12 * EI / (GA * e.length**2))[:, None]
        q = states.end_displacement[:, list(freedoms)][:, :, which].copy()
        q[:, [1, 3]] *= sense * length
        q[:, 2] -= q[:, 0]
        q[:, 0] = 0.0
        amounts = np.concatenate([q, states.swell[p][..., which]], axis=1)
        bent = [((h(xi) + phi * s(xi)) / (1 + phi)) for h, s in zip(unit.hermite, unit.straight, strict=True)]
        turned = [(h(xi) + phi * s(xi)) / (1 + phi) for h, s in zip(*slopes[:2], strict=True)]
        shape = np.stack(bent + [b(xi) for b in unit.bubbles], axis=2)
        rate = np.stack(turned + [b(xi) for b in slopes[2]], axis=2)
        # what is hinged at both ends stays straight
        shape[e.bar], rate[e.bar] = 0.0, 0.0
        shape[e.bar, :, 2], rate[e.bar, :, 2] = xi[e.bar], 1.0
        w[p] += shape @ amounts
        slope[p] += rate @ amounts / length
    return w, slope


@dataclass(frozen=True)
class _Pull:
    """What makes up ∫ N w' at places: N beyond its mean, its integral from the element's start, w and w'; (…, s, c)."""

    beyond: Floats
    area: Floats
    w: Floats
    slope: Floats

    def at(self, pick: Callable[[Floats], Floats]) -> _Pull:
        """Some of the places."""
        return _Pull(pick(self.beyond), pick(self.area), pick(self.w), pick(self.slope))


def _pull(states: States, which: Ints, x: Floats, bent: tuple[Floats, Floats]) -> _Pull:
    """At places x (e, s). A state that does not stand has no axial force."""
    system, factors = states.system, states.factors[which]
    ends = system.elements.length[:, None]
    mean = system.integrals_at(ends).axial[1] / ends[:, :, None]
    loads = system.integrals_at(x)
    acts = (states.axial[:, which] != 0)[:, None]
    beyond = np.where(acts, (mean - loads.axial[0]) @ factors.T, 0.0)
    area = np.where(acts, (mean * x[:, :, None] - loads.axial[1]) @ factors.T, 0.0)
    return _Pull(beyond, area, *bent)


def _lever(h: Floats, a: _Pull, b: _Pull) -> Floats:
    """∫ N w' over a length h from a to b: by parts, with N as a parabola and w as a cubic."""
    safe = np.where(h > 0, h, 1.0)
    rise = b.beyond - a.beyond
    bulge = 6 * ((b.area - a.area) / safe - (a.beyond + b.beyond) / 2) * (h > 0)
    mean_w = (a.w + b.w) / 2 + h * (a.slope - b.slope) / 12
    turned_w = (a.w - b.w) / 5 + h * (a.slope + b.slope) / 60
    return np.asarray(b.beyond * b.w - a.beyond * a.w - rise * mean_w - bulge * turned_w)


def _bent(states: States, which: Ints, x: Floats) -> tuple[Floats, Floats]:
    """Deflection and slope as of `_along`, with the bows: these bend nothing by themselves, but the axial force acts on them."""
    system = states.system
    w, slope = _along(states, which, x)
    straight = system.elements.held & ~bowed(system.elements, system.bows)[0]
    if straight.any():
        # what is held sideways at short distances leans as a straight line there
        lean = (states.end_displacement[:, 7] - states.end_displacement[:, 1])[straight][:, None, which]
        length = system.elements.length[straight, None, None]
        w[0, straight], slope[0, straight] = lean * x[straight][:, :, None] / length, lean / length
    if system.bows:
        curved = along(system.elements, system.bows, states.signs[:, which], x)
        w, slope = w + curved[0], slope + curved[1]
    return w, slope


def _of_course(states: States, which: Ints, x: Floats, bent: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
    """((2, e, s, c), the same): what an axial force that varies along an element adds to shears and moments, beyond its mean."""
    stations = states.system.stations
    here = base = _pull(states, which, x, bent)
    if x is not stations:
        base = _pull(states, which, stations, _bent(states, which, stations))
    left, right = base.at(lambda v: v[..., :-1, :]), base.at(lambda v: v[..., 1:, :])
    steps = _lever(np.diff(stations, axis=1)[:, :, None], left, right)
    moment = np.concatenate([np.zeros_like(steps[:, :, :1]), np.cumsum(steps, axis=2)], axis=2)
    if x is not stations:
        before = ((stations[:, None] <= x[:, :, None] + 1e-12).sum(axis=2) - 1)[:, :, None]
        rest = x[:, :, None] - np.take_along_axis(stations[:, :, None], before, axis=1)

        def start(values: Floats) -> Floats:
            return np.take_along_axis(values, before if values.ndim == 3 else before[None], axis=-2)

        moment = start(moment) + _lever(rest, base.at(start), here)
    varies = states.varies[:, :, None, None]
    return varies * here.beyond * here.slope, varies * moment


def state_diagrams(states: States, which: Ints, x: Floats) -> Diagrams:
    """Internal forces of solved states at stations x; in second order M = M0 + V0 x + Q2 + ∫ N w' dx, V = dM/dx, with the mean
    of N where loads along the element are too small to count."""
    system = states.system
    factors, f = states.factors[which], states.end_force[:, :, which]
    loads = system.integrals_at(x)
    X = x[:, :, None]
    N = -f[:, 0, None] - loads.axial[0] @ factors.T
    T = -f[:, 3, None] - loads.torsion[0] @ factors.T
    pull = states.axial[:, which][:, None]
    bent = _bent(states, which, x) if pull.any() else None
    more = _of_course(states, which, x, bent) if bent and states.varies.any() else None
    V, M = [], []
    for p, ((w1, r1, _, _), sense) in enumerate(FREEDOMS_OF):
        q1, q2 = (q @ factors.T for q in loads.transverse["yz"[p]][:2])
        V0, M0 = f[:, w1, None], -f[:, r1, None] * sense
        V.append(V0 + q1 + (pull * bent[1][p] if bent else 0.0))
        M.append(M0 + V0 * X + q2 + (pull * bent[0][p] if bent else 0.0))
        if more is not None:
            V[-1] += more[0][p]
            M[-1] += more[1][p]
    return Diagrams(x, N, V[0], V[1], T, M[1], M[0])


def state_deflections(states: States, which: Ints, x: Floats) -> Floats:
    """(e, s, 3, k) displacements along the elements in global axes."""
    system = states.system
    e, factors = system.elements, states.factors[which]
    d = states.end_displacement[:, :, which]
    loads = system.integrals_at(x)
    X = x[:, :, None]
    out = np.zeros((*x.shape, 3, len(which)))
    N0 = -states.end_force[:, 0][:, None, which]
    share = X / e.length[:, None, None]
    grown = (N0 + (system.warm @ factors.T)[:, None]) * X
    stretched = d[:, 0, None] + (grown - loads.axial[1] @ factors.T) / e.EA[:, None, None]
    # what hangs slack follows its ends
    plain = d[:, 0, None] * (1 - share) + d[:, 6, None] * share
    out[:, :, 0] = np.where(states.slack[:, None, which], plain, stretched)
    w, _ = _along(states, which, x)
    for p, (freedoms, _) in enumerate(FREEDOMS_OF):
        out[:, :, 1 + p] = d[:, freedoms[0], None] + w[p]
    turned: Floats = np.einsum("eij,esic->esjc", e.axes, out, optimize=True)
    return turned
