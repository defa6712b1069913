"""Snags of stability: joints that let everything turn, and what nothing holds along an axis."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from engine.structure.model import HINGE, Bools, Ints, Structure
from engine.structure.snags import Snag, placed


def loose_joints(structure: Structure) -> list[Snag]:
    """Nodes where only bars meet, and not in enough directions to hold them."""
    segments, owner = structure.segments, structure.owner
    if not len(segments):
        return []
    bar = structure.bars[owner]
    count = len(structure.nodes)
    stiff = np.zeros(count, dtype=bool)
    stiff[segments[~bar].ravel()] = True
    stiff |= structure.still[:, :3].all(axis=1)
    direction = structure.xyz[segments[:, 1]] - structure.xyz[segments[:, 0]]
    direction /= np.maximum(np.linalg.norm(direction, axis=1, keepdims=True), 1e-9)
    spread = np.zeros((count, 3, 3))
    outer = direction[:, :, None] * direction[:, None, :]
    for side in (0, 1):
        np.add.at(spread, segments[bar][:, side], outer[bar])
    spread += (structure.still | (structure.springs != 0))[:, :3, None] * np.eye(3)
    met = np.zeros(count, dtype=bool)
    met[segments[bar].ravel()] = True
    doubtful = np.flatnonzero(met & ~stiff)
    if not len(doubtful):
        return []
    values, vectors = np.linalg.eigh(spread[doubtful])
    found = []
    for node, value, vector in zip(doubtful.tolist(), values[:, 0], vectors[:, :, 0], strict=True):
        if value > 1e-6:
            continue
        axis = int(np.argmax(np.abs(vector)))
        members = tuple(structure.members[m].name for m in np.unique(owner[(segments == node).any(axis=1)]).tolist())
        found.append(
            Snag(
                "mechanism",
                "fault",
                f"Node “{structure.nodes[node]}” is free to move along {'XYZ'[axis]}",
                "Only hinged bars meet there, and none of them holds it in that direction: a mechanism.",
                members,
                (structure.nodes[node],),
                placed(structure.xyz[node]),
            )
        )
    return found


def unbraced(structure: Structure) -> list[Snag]:
    """Columns whose heads nothing holds in plan, in a horizontal direction."""
    unheld = {name: held_by_nothing(structure, axis, feet_hold=True) for axis, name in ((0, "X"), (1, "Y"))}
    return [
        Snag(
            "unbraced",
            "fault",
            f"{len(names)} column head{'s' if len(names) > 1 else ''} drift along {axis}: “{min(names)}”"
            + (" …" if len(names) > 1 else ""),
            f"No bracing, rigid frame or clamped foot holds them along {axis}. Brace a bay, or clamp the feet.",
            tuple(sorted(names)),
            (),
            placed(structure.xyz[list(structure.member(min(names)).nodes)].mean(axis=0)),
        )
        for axis, names in unheld.items()
        if names
    ]


def held_by_nothing(structure: Structure, axis: int, feet_hold: bool) -> set[str]:
    """Columns whose heads nothing holds along X (0) or Y (1).

    A node is held by a support there, by an inclined member, by a column clamped at its foot (if feet_hold), or where a
    column and a beam along that direction meet rigidly; and it holds others through members that run (partly) along it, and
    through floors that are stiff in their plane. A beam of which two nodes are held holds its others.
    """
    segments, owner = structure.segments, structure.owner
    if not len(segments):
        return set()
    members = structure.members
    count = len(structure.nodes)
    direction = structure.xyz[segments[:, 1]] - structure.xyz[segments[:, 0]]
    direction = np.abs(direction / np.maximum(np.linalg.norm(direction, axis=1, keepdims=True), 1e-9))
    upright = direction[:, 2] > 0.9987
    bar = structure.bars[owner]
    start = np.array([not HINGE.isdisjoint(m.release_start) for m in members], dtype=bool)
    end = np.array([not HINGE.isdisjoint(m.release_end) for m in members], dtype=bool)
    first = np.r_[True, owner[1:] != owner[:-1]]
    last = np.r_[owner[1:] != owner[:-1], True]
    rigid = np.stack([~(first & start[owner]), ~(last & end[owner])], axis=1) & ~bar[:, None]
    clamped = structure.fixed[:, 3:5] | (structure.springs[:, 3:5] != 0)
    on_column = np.zeros(count, dtype=bool)
    on_column[segments[upright & ~bar][rigid[upright & ~bar]]] = True
    stiff = [*structure.diaphragms, *(m.nodes for m in structure.membranes), *(slab.joined for slab in structure.slabs)]
    floors = np.array([pair for nodes in stiff for pair in pairwise(nodes)], dtype=np.int64).reshape(-1, 2)
    heads = {
        m.nodes[-1] if structure.xyz[m.nodes[-1], 2] > structure.xyz[m.nodes[0], 2] else m.nodes[0]: m
        for m in members
        if m.role in ("column", "gable post")
    }
    along = direction[:, axis] > 0.2
    holds = structure.still[:, axis] | (structure.springs[:, axis] != 0)
    # inclined members brace what is at their upper end
    inclined = (direction[:, axis] > 0.05) & (direction[:, 2] > 0.2)
    upper = np.where(
        structure.xyz[segments[:, 0], 2] > structure.xyz[segments[:, 1], 2], segments[:, 0], segments[:, 1]
    )
    holds[upper[inclined & (bar | rigid.all(axis=1))]] = True
    joint = segments[along & ~upright][rigid[along & ~upright]]
    holds[joint[on_column[joint]]] = True
    for slab in structure.slabs:
        nodes = np.array(slab.joined)
        upright_wall = abs(slab.axes[2, 2]) < 0.7
        if upright_wall and abs(slab.axes[0, axis]) > 0.2:
            # a wall along it
            holds[nodes] = True
        elif not upright_wall and not slab.plate.hinged:
            # a floor that turns with the columns it lies on
            holds[nodes[on_column[nodes]]] = True
    if feet_hold:
        # a column clamped at its foot against turning about the other axis holds its head
        feet = clamped[:, 1 - axis]
        holds[segments[(~structure.bars & feet[structure.ends].any(axis=1))[owner]]] = True
    held = _spread(structure, np.concatenate([segments[along], floors]), holds)
    return {m.name for node, m in heads.items() if not held[node]}


def _spread(structure: Structure, links: Ints, holds: Bools) -> Bools:
    """Nodes that are held: those linked to a held one, and all on a straight beam of which two are held."""
    count = len(structure.nodes)
    graph = coo_array((np.ones(len(links)), (links[:, 0], links[:, 1])), shape=(count, count))
    _, part = connected_components(graph, directed=False)
    beams = [m for m in structure.members if len(m.nodes) > 2 and not m.bar]
    nodes = np.array([n for m in beams for n in m.nodes], dtype=np.int64)
    owner = np.repeat(np.arange(len(beams)), [len(m.nodes) for m in beams])
    held = holds.copy()
    while True:
        safe = np.zeros(part.max() + 1, dtype=bool)
        safe[part[held]] = True
        now = held | safe[part]
        twice = np.bincount(owner, weights=now[nodes], minlength=len(beams)) >= 2
        now[nodes[twice[owner]]] = True
        if (now == held).all():
            return held
        held = now
