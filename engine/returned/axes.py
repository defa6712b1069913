"""Axes as they came beside those that were sent: which nodes moved, and which members lie elsewhere than their nodes."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from engine.structure.axes import local_axes
from engine.structure.join import UPRIGHT
from engine.structure.model import Bools, Floats, Structure

#: what counts as the same place, and as moved by the same, metres
NEAR, AGREE = 0.002, 0.005
#: steel is cut back or lengthened along its axis for a joint by this much at most, and above a support, for a base plate, metres
FIT, PLATE = 0.3, 0.06

#: weight of an upright member at a support, beside 1 of others
STANDS = 5


def sent_axes(structure: Structure) -> tuple[Floats, Floats]:
    """(members, 2, 3): the axes of the members as they go out, which lie by their offset beside their nodes; and that offset, (members, 3)."""
    ends = structure.xyz[structure.ends]
    axes = local_axes(ends[:, 0], ends[:, 1], np.array([m.roll for m in structure.members]))
    offset = np.array([m.offset for m in structure.members]).reshape(-1, 2)
    aside = offset[:, :1] * axes[:, 1] + offset[:, 1:] * axes[:, 2]
    return ends + aside[:, None], aside


@dataclass(frozen=True)
class Row:
    """What one member tells of a node: end 0 or 1, or None where it passes; its unit axis, outwards at an end; by how much its axis
    moved there, across it and along."""

    member: int
    end: int | None
    axis: Floats
    across: Floats
    along: float


def moved_nodes(
    structure: Structure, axes: Floats, came: Floats, known: Bools
) -> dict[int, tuple[Floats, set[tuple[int, int]]]]:
    """By node: how far it moved, and the ends (member, 0 or 1) there that did something else. Nodes where nothing changed are left out.

    axes, came: (members, 2, 3) as sent and as they came; known: (members,) those that came. A member tells of its end how far it lies off
    its axis; how far it reaches along it is the joint's, up to FIT. A node moved where more members say so than say that it stays.
    """
    span = axes[:, 1] - axes[:, 0]
    length = np.linalg.norm(span, axis=1)
    way = span / length[:, None]
    shift = came - axes
    along = np.einsum("mej,mj->me", shift, way)
    across = shift - along[..., None] * way[:, None]
    changed = known & ((np.linalg.norm(across, axis=2) > NEAR).any(axis=1) | (np.abs(along) > NEAR).any(axis=1))
    held: Bools = np.any(structure.fixed | (structure.springs > 0), axis=1)
    found = {}
    for node in sorted({n for i in np.flatnonzero(changed) for n in structure.members[i].nodes}):
        rows = []
        for i in structure.meeting[node]:
            if not known[i]:
                continue
            nodes = structure.members[i].nodes
            if node in (nodes[0], nodes[-1]):
                e = 0 if node == nodes[0] else 1
                rows.append(Row(i, e, way[i] * (2 * e - 1), across[i, e], along[i, e] * (2 * e - 1)))
            else:
                t = float(np.dot(structure.xyz[node] - structure.xyz[nodes[0]], way[i]) / length[i])
                rows.append(Row(i, None, way[i], across[i, 0] * (1 - t) + across[i, 1] * t, 0.0))
        step, others = _settled(rows, bool(held[node]), len(structure.meeting[node]) > 1)
        if step.any() or others:
            found[node] = step, others
    return found


def _settled(rows: list[Row], held: bool, meets: bool) -> tuple[Floats, set[tuple[int, int]]]:
    """The step that most of the members at a node agree on, and the ends that do not follow it."""
    candidates = [np.zeros(3)]
    if all(_follows(r, candidates[0], held, meets) for r in rows):
        return candidates[0], set()
    candidates += [r.across + r.along * r.axis for r in rows if r.end is not None]
    candidates += [_both(a, b) for a, b in combinations(rows[:12], 2)]
    best, most = candidates[0], -1
    for step in candidates:
        agree = sum(_weight(r, held) for r in rows if _follows(r, step, held, meets))
        if agree > most:
            best, most = step, agree
    others = {(r.member, r.end) for r in rows if r.end is not None and not _follows(r, best, held, meets)}
    return (best if np.linalg.norm(best) > NEAR else np.zeros(3)).round(4), others


def _weight(row: Row, held: bool) -> int:
    """What stands on a foundation tells more of it than what meets it there."""
    return STANDS if held and abs(row.axis[2]) > UPRIGHT else 1


def _both(a: Row, b: Row) -> Floats:
    """The least step that takes two axes off themselves as they lie."""
    planes = [np.eye(3) - np.outer(r.axis, r.axis) for r in (a, b)]
    found: Floats = np.linalg.lstsq(np.concatenate(planes), np.concatenate([a.across, b.across]), rcond=1e-6)[0]
    return found


def _follows(row: Row, step: Floats, held: bool, meets: bool) -> bool:
    """Whether a member's axis lies as it would if the node had moved by that step."""
    along = float(step @ row.axis)
    if np.linalg.norm(step - along * row.axis - row.across) > AGREE:
        return False
    if row.end is None:
        return True
    back = along - row.along
    # what stands on a foundation ends there, a base plate above it
    if held and abs(row.axis[2]) > UPRIGHT:
        return -NEAR <= back <= PLATE
    return abs(back) <= (FIT if meets else NEAR)
