"""Modes as they are drawn: on nodes, along elements, on slabs."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.analysis.geometric import FREEDOMS_OF, shapes
from engine.analysis.system import System
from engine.structure.model import Bools, Floats, Ints


@dataclass(frozen=True)
class Mode:
    """A shape, its largest movement 1: (nodes, 6) and (e, s, 3) along the elements, in global axes. value: critical factor,
    frequency in Hz, or 0 for a mechanism. by_itself: a member that buckles nearly alone, −1: parts of the frame together. slabs: (v, 6) of the points of each, in its own axes."""

    value: float
    nodes: Floats
    along: Floats
    by_itself: int = -1
    slabs: tuple[Floats, ...] = ()


@dataclass(frozen=True)
class Within:
    """What moves within elements besides their ends: of loose ends (2, e, 4), bubbles (2, e, k), and the scale of the ends' freedoms."""

    ends: Floats
    bubbles: Floats
    scale: Floats


def drawn(
    coarse: System,
    system: System,
    value: float,
    shown: Floats,
    slabs: tuple[Floats, ...] = (),
    within: Within | None = None,
    bends: Bools | None = None,
) -> Mode:
    """A mode of the fine mesh `system` with nodes that move by shown (n, 6), global axes, on the nodes and along the elements of the coarse one, its
    largest movement 1; slabs: (v, 6) of their points; bends: (2, e) elements that bend in each plane, None: all."""
    e, unit = system.elements, shapes()
    local = (system.maps @ (system.T @ shown.ravel()[system.dofs][:, :, None]))[:, :, 0]
    at, xi = _element_at(coarse, system)
    out = np.zeros((*xi.shape, 3))
    out[:, :, 0] = local[at, 0] * (1 - xi) + local[at, 6] * xi
    for p, (freedoms, sense) in enumerate(FREEDOMS_OF):
        if within is None:
            one = np.ones(len(e))
            q = (local[:, list(freedoms)] * np.stack([one, sense * e.length, one, sense * e.length], axis=1))[at]
        else:
            q = (local[:, list(freedoms)] * within.scale[p] + within.ends[p])[at]
        line = q[..., 0] * (1 - xi) + q[..., 2] * xi
        curve = sum((unit.hermite[k](xi) * q[..., k] for k in range(4)), np.zeros_like(line))
        if within is not None:
            curve = curve + sum(
                (b(xi) * within.bubbles[p, at, k] for k, b in enumerate(unit.bubbles)), np.zeros_like(line)
            )
        straight = e.bar[at] if bends is None else ~bends[p, at]
        out[:, :, 1 + p] = np.where(straight, line, curve)
    along = np.einsum("esij,esi->esj", e.axes[at], out)
    size = max(float(np.abs(along).max(initial=0.0)), *(float(np.abs(s[:, :3]).max(initial=0.0)) for s in slabs), 1e-12)
    nodes = shown[: len(coarse.structure.nodes)] / size
    return Mode(value, nodes, along / size, slabs=tuple(s / size for s in slabs))


def _element_at(coarse: System, system: System) -> tuple[Ints, Floats]:
    """((e, s), the same) for the stations of the coarse mesh: the element of the fine one in which each lies, and its share of
    that element's length."""
    x, own = coarse.stations, coarse.elements
    if system is coarse:
        at = np.broadcast_to(np.arange(len(own))[:, None], x.shape)
        return at, x / own.length[:, None]
    e = system.elements
    along = own.positions(x)
    first = np.searchsorted(e.member, np.arange(len(system.structure.members) + 1))
    at, share = np.zeros(x.shape, dtype=np.int64), np.zeros(x.shape)
    for k, member in enumerate(own.member.tolist()):
        start, end = int(first[member]), int(first[member + 1])
        at[k] = start + np.clip(np.searchsorted(e.offset[start:end], along[k] + 1e-9, side="right") - 1, 0, None)
        share[k] = np.clip((along[k] - e.offset[at[k]]) / e.reach[at[k]], 0.0, 1.0)
    return at, share
