"""What loads between clamped ends make of elements: bubbles of second order, deflections and slopes."""

from __future__ import annotations

from functools import cache

import numpy as np
from scipy.sparse import csr_array

from engine.analysis.geometric import BUBBLES, FREEDOMS_OF, shapes
from engine.analysis.system import System
from engine.structure.model import Floats

#: powers of the twice integrated bubbles
POWERS = BUBBLES + 6


def load_bubbles(system: System) -> Floats:
    """(2, e, b, cases): what loads between clamped ends make of the bubbles: the work they do on each, over its stiffness."""
    e, loads, cases, unit = system.elements, system.loads, system.fixed.shape[2], shapes()
    row = loads.line[:, 0]
    L = e.length[row, None]
    xi = loads.span / L
    rise = (loads.q[:, 1] - loads.q[:, 0]) / (xi[:, 1] - xi[:, 0])[:, None]
    # ∫ q ψ dξ by parts, q linear
    ends = np.split(_powers_of(xi) @ _integrated_bubbles(), 2, axis=2)
    first, last = loads.q[:, 0, 1:, None] * ends[0][:, [0]], loads.q[:, 1, 1:, None] * ends[0][:, [1]]
    work = (last - first - rise[:, 1:, None] * (ends[1][:, [1]] - ends[1][:, [0]])) * L[..., None]
    cells = loads.line
    phi = np.stack([12 * e.EIz / (e.GAy * e.length**2), 12 * e.EIy / (e.GAz * e.length**2)])[..., None]
    soft = 1 + unit.mu * phi / 12
    if len(loads.point):
        row = loads.point[:, 0]
        xi = loads.at / e.length[row]
        value = np.stack([b(xi) for b in unit.bubbles], axis=1)
        slope = np.stack([b.deriv()(xi) for b in unit.bubbles], axis=1) / e.length[row, None]
        # a couple turns with the bending alone; about local y it turns x towards −z, about z towards +y
        turn = slope[:, None] / soft[:, row].swapaxes(0, 1)
        couple = np.stack([loads.moment[:, 2], -loads.moment[:, 1]], axis=1)
        work = np.concatenate([work, loads.force[:, 1:, None] * value[:, None] + couple[..., None] * turn])
        cells = np.concatenate([cells, loads.point])
    into = (np.ones(len(cells)), (cells[:, 0] * cases + cells[:, 1], np.arange(len(cells))))
    total = csr_array(into, shape=(len(e) * cases, len(cells))) @ work.reshape(len(cells), 2 * BUBBLES)
    EI = np.stack([e.EIz, e.EIy])[..., None]
    K_b = EI / e.length[:, None] ** 3 * unit.mu / soft
    found = total.reshape(len(e), cases, 2, BUBBLES).transpose(2, 0, 3, 1) / K_b[..., None]
    found[:, e.bar] = 0.0
    return np.asarray(found)


@cache
def _integrated_bubbles() -> Floats:
    """(powers, 2 b): coefficients of the bubbles' first and second integrals over ξ."""
    once = [b.integ() for b in shapes().bubbles]
    found = np.zeros((POWERS, 2 * BUBBLES))
    for k, p in enumerate([*once, *(b.integ() for b in once)]):
        found[: len(p.coef), k] = p.coef
    return found


def _powers_of(xi: Floats) -> Floats:
    """(…, POWERS): 1, ξ, ξ² …"""
    return np.vander(xi.ravel(), POWERS, increasing=True).reshape(*xi.shape, POWERS)


def clamped(system: System, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, cases), the same): deflection of loaded elements between clamped ends (bars: hinged ones) at stations x,
    and its slope dw/dx."""
    e, cases = system.elements, system.fixed.shape[2]
    loads = system.integrals_at(x)
    X, L = x[:, :, None], e.length[:, None, None]
    w, slope = np.zeros((2, *x.shape, cases)), np.zeros((2, *x.shape, cases))
    for p, (axis, ((w1, r1, _, _), sense)) in enumerate(zip("yz", FREEDOMS_OF, strict=True)):
        EI, GA = (e.EIz, e.GAy) if p == 0 else (e.EIy, e.GAz)
        EI, GA = EI[:, None, None], GA[:, None, None]
        V0, M0 = system.fixed[:, w1, None], -system.fixed[:, r1, None] * sense
        q1, _, q3, q4, s2 = loads.transverse[axis]
        curled = system.curled[p][:, None]
        w[p] = (M0 * X**2 / 2 + V0 * X**3 / 6 + q4) / EI - (V0 * X + s2) / GA + curled * X**2 / 2
        slope[p] = (M0 * X + V0 * X**2 / 2 + q3) / EI - (V0 + q1) / GA + curled * X
        turn = np.where(e.bar[:, None, None], -w[p][:, -1:] / L, 0.0)
        w[p] += turn * X
        slope[p] += turn
    return w, slope
