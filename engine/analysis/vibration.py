"""Natural modes of frames with slabs: slabs swing with all their points, members with nodes within them.

With masses m at points and F what unit forces there move, K⁻¹ of the whole, x = ω² F m x: the largest eigenvalues of m^½ F m^½ are
1/ω². F is what the reduced slabs and the frame's factors give; nothing larger is assembled.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np
from scipy.sparse.linalg import LinearOperator, eigsh

from engine.analysis.factors import Factors
from engine.analysis.masses import masses
from engine.analysis.modes_drawn import Mode, drawn
from engine.analysis.slabs import Substructure, point_forces, slab_loads, substructure
from engine.analysis.system import System
from engine.catalogue.steels import GRAVITY
from engine.structure.model import Floats

#: eigenvalues of one shape are found together with this many more
MORE = 4


@dataclass(frozen=True)
class _Whole:
    """The nodes of a frame and the points of its slabs: (6 n + Σ 6 v) movements, those of points in their slab's axes."""

    system: System
    factors: Factors
    slabs: list[Substructure]
    points: list[int]

    def split(self, x: Floats) -> tuple[Floats, list[Floats]]:
        """(n, 6, c) of the nodes, and (v, 6, c) of the points of each slab."""
        nodes = len(self.system.structure.nodes)
        at = np.cumsum([6 * nodes, *(6 * v for v in self.points)])
        parts = np.split(x, at[:-1])
        return parts[0].reshape(nodes, 6, -1), [
            part.reshape(v, 6, -1) for part, v in zip(parts[1:], self.points, strict=True)
        ]

    def moved(self, force: Floats) -> Floats:
        """What forces on all of it move, (…, c)."""
        system = self.system
        nodes, points = self.split(force)
        cases = nodes.shape[2]
        total = nodes.reshape(-1, cases).copy()
        for slab, own in zip(self.slabs, points, strict=True):
            total[slab.freedoms] += slab.push(own)
        right = total if system.R is None else np.asarray(system.R.T @ total)
        u = np.zeros((system.force.shape[0], cases))
        u[system.active] = self.factors.solve(np.ascontiguousarray(right[system.active]))
        moved = system.to_global(u)
        frame = moved.reshape(-1, 6, cases)
        found = [slab.recover(own, frame).reshape(-1, cases) for slab, own in zip(self.slabs, points, strict=True)]
        return np.concatenate([moved, *found])


def vibrations(coarse: System, system: System, factors: Floats, count: int) -> list[Mode]:
    """The lowest natural modes of a frame with slabs, on the fine mesh `system` of its members, drawn on `coarse`. Masses from the downward
    loads of cases with factors (cases,). Empty without mass."""
    structure = system.structure
    if system.factors is None or not len(factors):
        return []
    whole = _Whole(
        system, system.factors, [substructure(slab) for slab in structure.slabs], [len(s.flat) for s in structure.slabs]
    )
    mass = _masses(system, factors)
    heavy = np.flatnonzero(mass > 0)
    if not len(heavy):
        return []
    root = np.sqrt(mass[heavy])

    def image(y: Floats) -> Floats:
        force = np.zeros((len(mass), y.shape[1] if y.ndim > 1 else 1))
        force[heavy] = root[:, None] * y.reshape(len(heavy), -1)
        return np.asarray(root[:, None] * whole.moved(force)[heavy]).reshape(y.shape)

    wanted = min(count + MORE, len(heavy) - 1)
    operator = LinearOperator((len(heavy), len(heavy)), matvec=image, matmat=image, dtype=np.float64)
    start = np.random.default_rng(7).standard_normal(len(heavy))
    values, vectors = eigsh(operator, k=wanted, which="LA", v0=start)
    modes = []
    for k in np.argsort(-values)[:count].tolist():
        if values[k] <= 0:
            continue
        force = np.zeros((len(mass), 1))
        force[heavy, 0] = root * vectors[:, k]
        nodes, points = whole.split(whole.moved(force))
        modes.append(
            drawn(coarse, system, 1 / (2 * pi * sqrt(values[k])), nodes[..., 0], tuple(p[..., 0] for p in points))
        )
    return modes


def _masses(system: System, factors: Floats) -> Floats:
    """(6 n + Σ 6 v) kg: of members at the nodes of the fine mesh, of slabs at their points, moving alike every way."""
    structure, loading = system.structure, system.loading
    found, ends = masses(system, factors), system.elements.ends
    # what is on a slab swings with its points, not with the nodes that bear it
    borne = -(slab_loads(structure, loading).reshape(-1, 6, len(factors))[:, 2] @ factors) / GRAVITY
    nodes = np.maximum(found.nodes - np.maximum(borne, 0.0), 0.0)
    nodes[nodes < 1e-9 * max(found.total, 1e-12)] = 0.0
    for end, share in ((0, 1 - found.share), (1, found.share)):
        nodes += np.bincount(ends[found.element, end], found.mass * share, len(nodes))
    parts = [nodes]
    for slab in structure.slabs:
        down = np.einsum("vac,a->vc", point_forces(structure, slab, loading)[:, :3], slab.axes[:, 2]) @ factors
        parts.append(np.maximum(-down, 0.0) / GRAVITY)
    return np.concatenate([np.repeat(part, 6) * np.tile([1.0, 1, 1, 0, 0, 0], len(part)) for part in parts])
