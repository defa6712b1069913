"""The balance of each case: what was expected, what was applied, what the supports give back."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.cases import Loading
from engine.analysis.slabs import point_forces
from engine.analysis.system import Response
from engine.structure.model import Floats

#: relative difference beyond which a case is flagged
TOLERANCE = 1e-3
#: moment that a panel's load may lose on its way to the carriers, as a share of the force times the panel's size
TILTED = 0.15


@dataclass(frozen=True)
class Balance:
    """Resultants in N along X, Y, Z. expected: from surfaces and masses; ground: what of it cladding gives to the ground, past the
    structure; applied: from the loads on members and nodes; reacted: what the supports take, with the sign of the load. off:
    largest relative difference. tilted: panels whose load reaches their carriers without its moment.
    """

    expected: Floats
    ground: Floats
    applied: Floats
    reacted: Floats
    off: float
    tilted: tuple[str, ...] = ()

    @property
    def holds(self) -> bool:
        """Whether expected less ground, applied and reacted agree within 0.1 %, and no panel loses its moment."""
        return self.off <= TOLERANCE and not self.tilted


def balances(loading: Loading, response: Response) -> list[Balance]:
    """One balance a case."""
    cases = len(loading.cases)
    applied = np.zeros((cases, 3))
    loads = response.loads
    if len(loads.line):
        mean = loads.q.mean(axis=1) * (loads.span[:, 1] - loads.span[:, 0])[:, None]
        axes = response.elements.axes[loads.line[:, 0]]
        np.add.at(applied, loads.line[:, 1], np.einsum("nij,ni->nj", axes, mean))
    for point in loading.points:
        applied[point.case] += point.force
    applied += _on_slabs(loading, response)
    reacted = -response.reaction[:, :3].sum(axis=0).T
    found, borne, tilted = [], loading.borne, tilts(loading, response)
    for i in range(cases):
        expected, ground = loading.expected[i], loading.expected[i] - borne[i]
        scale = max(float(np.linalg.norm(expected)), float(np.linalg.norm(applied[i])), 1e-6)
        off = max(np.abs(borne[i] - applied[i]).max(), np.abs(applied[i] - reacted[i]).max()) / scale
        found.append(Balance(expected, ground, applied[i], reacted[i], float(off), tuple(tilted.get(i, ()))))
    return found


def _on_slabs(loading: Loading, response: Response) -> Floats:
    """(cases, 3) what the loads on slabs come to on their points."""
    found = np.zeros((len(loading.cases), 3))
    for slab in response.structure.slabs:
        found += point_forces(response.structure, slab, loading)[:, :3].sum(axis=0).T @ slab.axes
    return found


def tilts(loading: Loading, response: Response) -> dict[int, list[str]]:
    """By case the panels whose load has another moment on its carriers than where it lies, by more than TILTED of the force times
    the panel's size: cladding that rests on one edge. Halves between carriers move a load by less."""
    table, structure = loading.spread, response.structure
    if table is None or not loading.surfaces:
        return {}
    panels = {p.name: i for i, p in enumerate(structure.panels)}
    size = len(panels)
    lies, bears, force = (np.zeros((len(loading.cases) * size, 3)) for _ in range(3))
    middle = np.array([p.corners.mean(axis=0) for p in structure.panels])
    # cases share the polygons of their zones
    places: dict[tuple[int, int], tuple[Floats, Floats, Floats]] = {}
    keys, moments, amounts, directions = [], [], [], []
    for load in loading.surfaces:
        p = panels[load.panel]
        panel = structure.panels[p]
        if panel.grounded is not None or panel.plate is not None:
            continue
        if (p, id(load.polygon)) not in places:
            at, weight = _cells(load.polygon)
            places[p, id(load.polygon)] = at, weight, panel.place_of(at) - middle[p]
        at, weight, arm = places[p, id(load.polygon)]
        amount = weight * (load.pressure[0] + at @ np.array(load.pressure[1:]))
        keys.append(load.case * size + p)
        moments.append(amount @ arm)
        amounts.append(amount.sum())
        directions.append(load.direction)
    if keys:
        way = np.array(directions)
        np.add.at(lies, keys, np.cross(np.array(moments), way))
        np.add.at(force, keys, np.array(amounts)[:, None] * way)
    own = np.flatnonzero(table.surface >= 0)
    of = np.array([panels[load.panel] for load in loading.surfaces])[table.surface[own]]
    start = structure.xyz[structure.ends[:, 0]][table.member[own]]
    along = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    along = (along / np.linalg.norm(along, axis=1, keepdims=True))[table.member[own]]
    a, b, first, last = table.start[own], table.end[own], table.first[own], table.last[own]
    for share in (0.5 - np.sqrt(1 / 12), 0.5 + np.sqrt(1 / 12)):
        x = a + (b - a) * share
        pushed = (first + (last - first) * share) * ((b - a) / 2)[:, None]
        np.add.at(bears, table.case[own] * size + of, np.cross(start + along * x[:, None] - middle[of], pushed))
    found: dict[int, list[str]] = {}
    reach = np.array([float(np.linalg.norm(np.ptp(p.corners, axis=0))) for p in structure.panels])
    scale = np.linalg.norm(force, axis=1) * np.tile(reach, len(loading.cases))
    lost = np.linalg.norm(lies - bears, axis=1)
    for key in np.flatnonzero((scale > 1.0) & (lost > TILTED * scale)).tolist():
        case, p = divmod(key, size)
        if structure.panels[p].carriers:
            found.setdefault(case, []).append(structure.panels[p].name)
    return found


def _cells(polygon: Floats) -> tuple[Floats, Floats]:
    """Places (m, 2) and weights (m,) that integrate a product of two linear functions over a polygon exactly: the middles of the
    sides of triangles."""
    a, b, c = polygon[0], polygon[1:-1], polygon[2:]
    area = ((b - a)[:, 0] * (c - a)[:, 1] - (b - a)[:, 1] * (c - a)[:, 0]) / 2
    at = np.concatenate([(a + b) / 2, (b + c) / 2, (c + a) / 2])
    weight = np.tile(area / 3, 3)
    return at, weight * (1.0 if weight.sum() >= 0 else -1.0)
