"""Panels that are stiff in their own plane: level floors as rigid diaphragms, others as membranes between nodes."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import Delaunay
from shapely import Polygon

from engine.errors import ModelError
from engine.structure.model import Floats, Ints, Membrane, Panel, Structure
from engine.structure.slabs import OFF, lay_slabs, nodes_of


def stiffen(structure: Structure) -> Structure:
    """The structure with the diaphragms, membranes and slabs that its panels make. Raises ModelError naming a panel that is inclined
    and rigid, or that has no node at a corner."""
    structure = lay_slabs(structure)
    rigid = [p for p in structure.panels if p.rigid]
    soft = [p for p in structure.panels if p.law is not None]
    if not rigid and not soft:
        return structure
    return replace(
        structure,
        diaphragms=_diaphragms(structure, rigid),
        membranes=tuple(m for panel in soft for m in _membranes(structure, panel)),
    )


def _diaphragms(structure: Structure, panels: list[Panel]) -> tuple[tuple[int, ...], ...]:
    """Groups of nodes that move as one in plan: those of rigid panels that share a node are one floor."""
    rows: list[Ints] = []
    level: dict[float, Ints] = {}
    for panel in panels:
        if abs(panel.outside[2]) < 1 - 1e-6:
            raise ModelError(
                f"Panel “{panel.name}” is inclined; a rigid floor lies level. Make it a membrane instead.", panel.name
            )
        height = round(float(panel.corners[0, 2]), 3)
        if height not in level:
            level[height] = np.flatnonzero(np.abs(structure.xyz[:, 2] - height) < 2 * OFF)
        rows.append(nodes_of(structure, panel, level[height]))
    if not rows:
        return ()
    owner = np.repeat(np.arange(len(rows)), [len(row) for row in rows])
    count = len(structure.nodes)
    links = (np.ones(len(owner)), (owner, len(rows) + np.concatenate(rows)))
    _, label = connected_components(coo_array(links, shape=(len(rows) + count, len(rows) + count)), directed=False)
    found = []
    for group in np.unique(label[: len(rows)]):
        nodes = np.flatnonzero(label[len(rows) :] == group)
        if len(nodes) > 1:
            found.append(tuple(nodes.tolist()))
    return tuple(found)


def _membranes(structure: Structure, panel: Panel) -> list[Membrane]:
    """A panel as one quadrilateral, or as triangles where more nodes than its corners lie on it."""
    assert panel.law is not None
    nodes = nodes_of(structure, panel)
    flat = panel.flat(structure.xyz[nodes])
    corners: list[int] = []
    for k, corner in enumerate(panel.flat(panel.corners)):
        away = np.linalg.norm(flat - corner, axis=1) if len(flat) else np.array([np.inf])
        if away.min() > 2 * OFF:
            raise ModelError(
                f"Corner {k + 1} of panel “{panel.name}” is no node of the steelwork: a membrane hangs on its nodes.",
                panel.name,
            )
        corners.append(int(np.argmin(away)))
    if panel.openings:
        raise ModelError(
            f"Panel “{panel.name}” has openings; as a membrane it is not covered. Divide it around them.", panel.name
        )
    if len(nodes) == len(corners) in (3, 4):
        return [Membrane(panel.name, tuple(nodes[corners].tolist()), panel.law)]
    area = Polygon(flat[corners])
    pieces = [t for t in Delaunay(flat).simplices.tolist() if area.buffer(OFF).covers(Polygon(flat[t]))]
    if abs(sum(_area(flat[t]) for t in pieces) - area.area) > 1e-3 * area.area:
        raise ModelError(
            f"Panel “{panel.name}” cannot be divided between its nodes as a membrane; draw it as convex parts.",
            panel.name,
        )
    return [Membrane(panel.name, tuple(nodes[t].tolist()), panel.law) for t in pieces]


def _area(flat: Floats) -> float:
    (ax, ay), (bx, by) = flat[1] - flat[0], flat[2] - flat[0]
    return abs(float(ax * by - ay * bx)) / 2
