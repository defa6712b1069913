"""Masses of a frame, from its downward loads."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse import csr_array

from engine.analysis.geometric import BUBBLES
from engine.analysis.system import System
from engine.catalogue.steels import GRAVITY
from engine.structure.model import Floats, Ints

#: Gauss points of a line load's mass
GAUSS = BUBBLES + 4


@dataclass(frozen=True)
class Masses:
    """Masses in kg. element, share, mass: (p,) those on elements, each at a share of the element's length; nodes: (nodes,)."""

    element: Ints
    share: Floats
    mass: Floats
    nodes: Floats

    @property
    def total(self) -> float:
        """Their sum."""
        return float(self.mass.sum() + self.nodes.sum())

    def gathered(self, values: Floats, count: int) -> Floats:
        """(count, k, k) Σ m v vᵀ over each of `count` elements, of values v (p, k) at the masses."""
        size = values.shape[1]
        products = (self.mass[:, None, None] * values[:, :, None] * values[:, None]).reshape(-1, size**2)
        into = csr_array((np.ones(len(products)), (self.element, np.arange(len(products)))), (count, len(products)))
        return np.asarray(into @ products).reshape(count, size, size)


def masses(system: System, factors: Floats) -> Masses:
    """The downward loads of the cases, with their factors (cases,), as masses. A line load counts at Gauss points, with which
    the products of all shapes are integrated exactly; what lifts an element takes off the rest of what is on it."""
    loads, e = system.loads, system.elements
    nodes = np.zeros(len(system.structure.nodes))
    if not len(factors):
        return Masses(np.zeros(0, dtype=np.int64), np.zeros(0), np.zeros(0), nodes)

    def down(cells: Ints, values: Floats) -> Floats:
        """Of loads (n, …, 3) in local axes, those on (n, 2) elements and cases, what acts downwards."""
        found = np.einsum("nj,n...j->n...", e.axes[cells[:, 0], :, 2], values)
        return np.asarray(-(found.T * factors[cells[:, 1]]).T)

    at, share = np.polynomial.legendre.leggauss(GAUSS)
    a, b = loads.span[:, :1], loads.span[:, 1:]
    ends = down(loads.line, loads.q)
    q = ends[:, :1] + (ends[:, 1:] - ends[:, :1]) * (at + 1) / 2
    element = np.concatenate([np.repeat(loads.line[:, 0], GAUSS), loads.point[:, 0]])
    x = np.concatenate([(a + (b - a) * (at + 1) / 2).ravel(), loads.at])
    weight = np.concatenate([(q * share * (b - a) / 2).ravel(), down(loads.point, loads.force)])
    pressing = np.maximum(weight, 0.0)
    net, whole = (np.bincount(element, w, len(e)) for w in (weight, pressing))
    kept = np.maximum(net, 0.0) / np.where(whole > 0, whole, 1.0)
    # what is left of the nodes' loads once the elements have theirs
    at_nodes = -(system.force.reshape(-1, 6, len(factors))[:, 2] @ factors)
    shared = np.swapaxes(system.T, 1, 2) @ system.fixed_c
    np.subtract.at(at_nodes, e.ends.ravel(), (shared[:, [2, 8]] @ factors).ravel())
    nodes = np.maximum(at_nodes, 0.0) / GRAVITY
    return Masses(element, x / e.length[element], pressing * kept[element] / GRAVITY, nodes)
