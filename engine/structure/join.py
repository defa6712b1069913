"""Where parts meet: nodes in one place become one, and beams pass through the nodes that lie on their line."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from scipy.spatial import cKDTree

from engine.structure.model import Floats, Ints, Member

#: nodes nearer than this are one; a node nearer than this to a beam's line lies on it, in metres
SAME = 1e-3
#: how far above the lowest support one stands in mid-air if it meets steel, in metres
MID_AIR = 0.1
#: share of its length that an upright rises
UPRIGHT = 0.99
#: spacing of the points by which nodes near a line are looked for, in metres, and how many of them a line has at most: what is
#: drawn by slip a thousand times too long costs no more
STEP, POINTS = 3.0, 400


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


def sample(start: Floats, end: Floats, step: float) -> tuple[Floats, Ints, float]:
    """Points along lines at most `step` apart (as near as POINTS of them go), (p, 3); the line of each; the farthest that a line's point is from one."""
    span = end - start
    length = np.linalg.norm(span, axis=1)
    counts = np.clip(np.ceil(length / step).astype(np.int64), 1, POINTS)
    owner = np.repeat(np.arange(len(start)), counts)
    rank = np.arange(len(owner)) - np.repeat(np.cumsum(counts) - counts, counts)
    points = start[owner] + ((rank + 0.5) / counts[owner])[:, None] * span[owner]
    return points, owner, float((length / counts).max(initial=0.0)) / 2


def distinct(keys: Ints) -> Ints:
    """The different values, ascending; by sorting, which is several times quicker than numpy's own hashing."""
    found = np.sort(keys)
    return found[np.r_[True, found[1:] != found[:-1]]] if len(found) else found


def nodes_on_lines(xyz: Floats, start: Floats, end: Floats, reach: float) -> tuple[Ints, Ints, Floats, Floats]:
    """Pairs of line and node for nodes strictly between a line's ends and within `reach` of it.

    start, end: (m, 3). Gives line numbers, node numbers, distance along the line, distance off it.
    """
    span = end - start
    length = np.linalg.norm(span, axis=1)
    points, owner, half = sample(start, end, STEP)
    near = cKDTree(points, balanced_tree=False, compact_nodes=False).sparse_distance_matrix(
        cKDTree(xyz), half + reach, output_type="ndarray"
    )
    line, node = np.divmod(distinct(owner[near["i"]] * len(xyz) + near["j"]), len(xyz))
    offset = xyz[node] - start[line]
    unit = span[line] / length[line, None]
    along = np.einsum("ij,ij->i", offset, unit)
    off = np.linalg.norm(offset - along[:, None] * unit, axis=1)
    inside = (along > SAME) & (along < length[line] - SAME) & (off <= reach)
    return line[inside], node[inside], along[inside], off[inside]


def in_mid_air(members: Sequence[Member], xyz: Floats, held: Ints, slabs: frozenset[int] = frozenset()) -> list[int]:
    """Of the nodes that are held those above the lowest that stand on steel, or on slabs with these nodes.

    Either they are the foot of an upright, and another member passes there, or ends there without rising from it; or an upright
    leads down from them, or past them, to a node that is held lower. Webs are no uprights: a truss may stand on a wall.
    """
    lowest = float(xyz[held, 2].min())
    high = {int(n) for n in held.tolist() if xyz[n, 2] > lowest + MID_AIR}
    if not high:
        return []
    feet: set[int] = set()
    on_steel = high & slabs
    below: dict[int, int] = {}
    for m in members:
        rise, length = (
            xyz[m.nodes[-1], 2] - xyz[m.nodes[0], 2],
            float(np.linalg.norm(xyz[m.nodes[-1]] - xyz[m.nodes[0]])),
        )
        upright = abs(rise) > UPRIGHT * length and m.role != "web" and not m.bar
        if upright:
            upwards = m.nodes if rise > 0 else m.nodes[::-1]
            below.update(zip(upwards[1:], upwards[:-1], strict=True))
        for node in high.intersection(m.nodes):
            inner = node not in (m.nodes[0], m.nodes[-1])
            rises = rise if node == m.nodes[0] else -rise
            if inner or (not m.bar and rises <= SAME):
                on_steel.add(node)
            elif upright:
                feet.add(node)
    supported = {int(n) for n in held.tolist()}
    standing = {node for node in high if _leads_to(node, below, supported)}
    return sorted((feet & on_steel) | standing)


def _leads_to(node: int, below: dict[int, int], supported: set[int]) -> bool:
    """Whether a way down along uprights comes to a support."""
    seen = {node}
    while node in below and below[node] not in seen:
        node = below[node]
        if node in supported:
            return True
        seen.add(node)
    return False


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
        if not m.pieces:
            continue
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
        ends = np.array([members[i].nodes for i in beams.tolist()])
        length = np.linalg.norm(xyz[ends[:, 1]] - xyz[ends[:, 0]], axis=1)
        sound = length > SAME
        beams, ends = beams[sound], ends[sound]
        line, node, along, _ = nodes_on_lines(xyz, xyz[ends[:, 0]], xyz[ends[:, 1]], SAME)
        for k, n, s in zip(beams[line].tolist(), node.tolist(), along.tolist(), strict=True):
            through.setdefault(k, []).append((s, n))
    out, kept = list(members), set(range(len(xyz)))
    for i in through.keys() | extra.keys():
        found = through.get(i, [])
        for cut, number in extra.get(i, []):
            # a piece may end where another member meets the line
            if all(abs(cut - s) > SAME for s, _ in found):
                found.append((cut, number))
                kept.add(number)
        m = members[i]
        out[i] = m.through((m.nodes[0], *(n for _, n in sorted(found)), m.nodes[-1]))
    xyz = np.concatenate(points)
    if len(kept) == len(names):
        return out, names, xyz
    used = np.zeros(len(names), dtype=bool)
    used[list(kept)] = True
    renumbered = (np.cumsum(used) - 1).tolist()
    out = [m.through(tuple(renumbered[n] for n in m.nodes)) for m in out]
    return out, [name for name, keep in zip(names, used, strict=True) if keep], xyz[used]
