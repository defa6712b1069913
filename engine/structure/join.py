"""Where parts meet: nodes in one place become one, and beams pass through the nodes that lie on their line."""

from __future__ import annotations

import numpy as np
from scipy.spatial import cKDTree

from engine.structure.model import Floats, Ints, Member

#: nodes nearer than this are one; a node nearer than this to a beam's line lies on it, in metres
SAME = 1e-3


def merge(names: list[str], xyz: Floats) -> tuple[list[str], Floats, Ints]:
    """Make nodes within a millimetre one: the remaining names and places, and for each old node its new number."""
    target = np.arange(len(names))
    if len(names) > 1:
        for a, b in cKDTree(xyz).query_pairs(SAME, output_type="ndarray"):
            low, high = sorted((int(target[a]), int(target[b])))
            if low != high:
                target[target == high] = low
    kept, number = np.unique(target, return_inverse=True)
    return [names[i] for i in kept], xyz[kept], number.ravel().astype(np.int64)


def nodes_on_lines(xyz: Floats, start: Floats, end: Floats, reach: float) -> tuple[Ints, Ints, Floats, Floats]:
    """Pairs of line and node for nodes strictly between a line's ends and within `reach` of it.

    start, end: (m, 3). Gives line numbers, node numbers, distance along the line, distance off it.
    """
    span = end - start
    length = np.linalg.norm(span, axis=1)
    near = cKDTree(xyz).query_ball_point((start + end) / 2, length / 2 + reach)
    counts = np.array([len(found) for found in near])
    line = np.repeat(np.arange(len(start)), counts)
    node = np.concatenate([np.asarray(found, dtype=np.int64) for found in near]) if len(line) else np.zeros(0, np.int64)
    offset = xyz[node] - start[line]
    unit = span[line] / length[line, None]
    along = np.einsum("ij,ij->i", offset, unit)
    off = np.linalg.norm(offset - along[:, None] * unit, axis=1)
    inside = (along > SAME) & (along < length[line] - SAME) & (off <= reach)
    return line[inside], node[inside], along[inside], off[inside]


def join(members: list[Member], names: list[str], xyz: Floats) -> tuple[list[Member], list[str], Floats]:
    """Lead beams through the nodes on their line, and give nodes to the ends of pieces with a section of their own.

    Bars are not led through: a hinge in the middle of one would be a mechanism. Members reduced to no length by a merge
    are left as they are; the audit finds them.
    """
    if not members:
        return members, names, xyz
    names, points = list(names), [xyz]
    extra: dict[int, list[tuple[float, int]]] = {}
    count = len(names)
    for i, m in enumerate(members):
        for j, cut in enumerate(sorted({round(p.start, 9) for p in m.pieces} | {round(p.end, 9) for p in m.pieces})):
            a, b = xyz[m.nodes[0]], xyz[m.nodes[-1]]
            length = float(np.linalg.norm(b - a))
            if SAME < cut < length - SAME:
                names.append(f"{m.name}#{j}")
                points.append((a + (b - a) * cut / length)[None])
                extra.setdefault(i, []).append((cut, count))
                count += 1
    beams = np.array([i for i, m in enumerate(members) if not m.bar], dtype=np.int64)
    through: dict[int, list[tuple[float, int]]] = {}
    if len(beams):
        ends = np.array([members[i].nodes for i in beams])
        length = np.linalg.norm(xyz[ends[:, 1]] - xyz[ends[:, 0]], axis=1)
        sound = length > SAME
        beams, ends = beams[sound], ends[sound]
        line, node, along, _ = nodes_on_lines(xyz, xyz[ends[:, 0]], xyz[ends[:, 1]], SAME)
        for k, n, s in zip(beams[line].tolist(), node.tolist(), along.tolist(), strict=True):
            through.setdefault(k, []).append((s, n))
    out = []
    for i, m in enumerate(members):
        found = through.get(i, [])
        for cut, number in extra.get(i, []):
            # a piece may end where another member meets the line
            if all(abs(cut - s) > SAME for s, _ in found):
                found.append((cut, number))
        inner = [n for _, n in sorted(found)]
        out.append(m.through((m.nodes[0], *inner, m.nodes[-1])) if inner else m)
    xyz = np.concatenate(points)
    used = np.zeros(len(names), dtype=bool)
    used[: len(points[0])] = True
    for m in out:
        used[list(m.nodes)] = True
    if used.all():
        return out, names, xyz
    renumbered = (np.cumsum(used) - 1).tolist()
    out = [m.through(tuple(renumbered[n] for n in m.nodes)) for m in out]
    return out, [name for name, keep in zip(names, used, strict=True) if keep], xyz[used]
