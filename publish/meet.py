"""Where lines meet: ends near each other become one node, ends near another line are put on it, what lies twice is told."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components
from scipy.spatial import cKDTree

from engine.structure.join import SAME, nodes_on_lines
from engine.structure.model import Bools, Floats, Ints
from publish.taken import counted

#: gaps within which ends meet, in metres, by what they are called
GAPS = {"1": 0.001, "2": 0.002, "5": 0.005, "10": 0.01, "20": 0.02, "50": 0.05, "100": 0.1, "200": 0.2, "300": 0.3}
#: beyond this many lines crossings are not looked for
MANY = 3000
#: ends put on a line may leave another one that they lie on too: some rounds settle it
ROUNDS = 8


@dataclass
class Met:
    """nodes: (n, 3); ends: (lines, 2) of the lines that are kept, kept: their numbers among those given.

    joined: the farthest that an end was moved to meet others, put: how many nodes were put on a line, at most so far off it.
    short: lines no longer than the gap; twice: lines that lie on another as a whole; overlapping: pairs that do in part;
    crossing: pairs that cross without a node, None where nobody looked.
    """

    nodes: Floats
    ends: Ints
    kept: Ints
    joined: float
    put: int
    off: float
    short: int
    twice: int
    overlapping: int
    crossing: int | None


def said(met: Met) -> tuple[list[str], list[str]]:
    """What was guessed and what was left out in joining lines."""
    guessed, left = [], []
    if met.joined > 1e-6:
        guessed.append(f"Ends that nearly meet are joined; the farthest moves by {met.joined * 1000:.1f} mm.")
    if met.put:
        which = counted(met.put, "end is", "ends are")
        guessed.append(f"{which} put on the line that they nearly reach, by {met.off * 1000:.1f} mm at most.")
    if met.crossing:
        pairs = counted(met.crossing, "pair")
        guessed.append(f"{pairs} of lines cross without a node: they pass each other, and are not joined.")
    if met.crossing is None:
        left.append("Whether lines cross without a node was not looked at: there are too many.")
    if met.overlapping:
        pairs = counted(met.overlapping, "pair")
        guessed.append(f"{pairs} of lines overlap in part: both become members. Look at the drawing.")
    if met.twice:
        left.append(f"{counted(met.twice, 'line')} on another one.")
    if met.short:
        left.append(f"{counted(met.short, 'line')} no longer than the gap.")
    return guessed, left


def meet(ends: Floats, gap: float) -> Met:
    """Lines (m, 2, 3) joined where their ends are within `gap` of each other or of a line, in metres."""
    nodes, at, joined = _clustered(ends.reshape(-1, 3), gap)
    pairs = at.reshape(-1, 2)
    kept = np.flatnonzero(pairs[:, 0] != pairs[:, 1])
    short = len(pairs) - len(kept)
    _, first = np.unique(np.sort(pairs[kept], axis=1), axis=0, return_index=True)
    twice = len(kept) - len(first)
    kept = kept[np.sort(first)]
    nodes, put, off = _put_on_lines(nodes, pairs[kept], gap)
    covered, overlapping = _lying_on_others(nodes, pairs[kept])
    kept = kept[~covered]
    crossing = _crossings(nodes, pairs[kept]) if len(kept) <= MANY else None
    used, ends_of = np.unique(pairs[kept], return_inverse=True)
    return Met(
        nodes[used],
        ends_of.reshape(-1, 2),
        kept,
        joined,
        put,
        off,
        short,
        twice + int(covered.sum()),
        overlapping,
        crossing,
    )


def _clustered(points: Floats, gap: float) -> tuple[Floats, Ints, float]:
    """Places that points near each other share, the place of each point, and the farthest that one was moved."""
    near = cKDTree(points).query_pairs(gap, output_type="ndarray")
    graph = coo_array((np.ones(len(near)), (near[:, 0], near[:, 1])), shape=(len(points), len(points)))
    count, at = connected_components(graph, directed=False)
    # the end that was drawn first stays: the mean of them would set lines askew that were drawn straight
    first = np.full(count, len(points))
    np.minimum.at(first, at, np.arange(len(points)))
    places = points[first]
    moved = float(np.linalg.norm(points - places[at], axis=1).max(initial=0.0))
    return places, at.astype(np.int64), moved


def _put_on_lines(nodes: Floats, ends: Ints, gap: float) -> tuple[Floats, int, float]:
    """Nodes off a line by at most `gap` moved onto it; how many, and the farthest."""
    start, nodes = nodes, nodes.copy()
    for _ in range(ROUNDS):
        line, node, along, off = nodes_on_lines(nodes, nodes[ends[:, 0]], nodes[ends[:, 1]], gap)
        if not (off > SAME / 10).any():
            break
        a, b = nodes[ends[line, 0]], nodes[ends[line, 1]]
        foot = a + (b - a) * (along / np.linalg.norm(b - a, axis=1))[:, None]
        moved, count = np.zeros_like(nodes), np.bincount(node, minlength=len(nodes))
        np.add.at(moved, node, foot - nodes[node])
        nodes += moved / np.maximum(count, 1)[:, None]
    by = np.linalg.norm(nodes - start, axis=1)
    return nodes, int((by > SAME / 10).sum()), float(by.max(initial=0.0))


def _lying_on_others(nodes: Floats, ends: Ints) -> tuple[np.ndarray[tuple[int], np.dtype[np.bool_]], int]:
    """Which lines lie on another one as a whole, and how many pairs overlap in part."""
    line, node, _, _ = nodes_on_lines(nodes, nodes[ends[:, 0]], nodes[ends[:, 1]], SAME)
    inside: dict[int, set[int]] = {}
    for i, n in zip(line.tolist(), node.tolist(), strict=True):
        inside.setdefault(n, set()).add(i)
    touching: dict[int, set[int]] = {n: set(lines) for n, lines in inside.items()}
    for j, (a, b) in enumerate(ends.tolist()):
        touching.setdefault(a, set()).add(j)
        touching.setdefault(b, set()).add(j)
    covered = np.array([bool((touching[a] & touching[b]) - {j}) for j, (a, b) in enumerate(ends.tolist())], dtype=bool)
    way = nodes[ends[:, 1]] - nodes[ends[:, 0]]
    way /= np.linalg.norm(way, axis=1)[:, None]
    partly = {
        (min(i, j), max(i, j))
        for j, pair in enumerate(ends.tolist())
        for n in pair
        for i in inside.get(n, ())
        if not (covered[i] or covered[j])
        and any(j in inside.get(m, ()) for m in ends[i].tolist())
        and abs(float(way[i] @ way[j])) > 1 - 1e-9
    }
    return covered, len(partly)


def _crossings(nodes: Floats, ends: Ints) -> int:
    """Pairs of lines that cross within a millimetre, each between its ends, where neither has a node."""
    return sum(
        int((near.inside & (near.off < SAME)).sum())
        for near in (_nearest(nodes, ends, i) for i in range(len(ends) - 1))
    )


@dataclass(frozen=True)
class Passing:
    """Two lines by number that pass each other, and the nearest places on them, (2, 3)."""

    lines: tuple[int, int]
    places: Floats


def passing(nodes: Floats, ends: Ints, within: float) -> list[Passing]:
    """Lines that pass each other at most `within` apart without a node in common, ends included."""
    found = []
    for i in range(len(ends) - 1):
        near = _nearest(nodes, ends, i)
        common = (ends[i + 1 :, :, None] == ends[i][None, None, :]).any(axis=(1, 2))
        for k in np.flatnonzero(near.touching & (near.off > SAME) & (near.off < within + 1e-9) & ~common).tolist():
            found.append(Passing((i, i + 1 + k), np.array([near.own[k], near.others[k]])))
    return found


@dataclass(frozen=True)
class _Near:
    """The nearest places of a line and of those after it: own, others (m, 3), off: how far apart (m,); inside: strictly between the ends of both,
    touching: ends included."""

    own: Floats
    others: Floats
    off: Floats
    inside: Bools
    touching: Bools


def _nearest(nodes: Floats, ends: Ints, i: int) -> _Near:
    a, b = nodes[ends[i, 0]], nodes[ends[i + 1 :, 0]]
    d, e = nodes[ends[i, 1]] - a, nodes[ends[i + 1 :, 1]] - b
    r = b - a
    dd, ee, de = float(d @ d), np.einsum("ij,ij->i", e, e), e @ d
    rd, re = r @ d, np.einsum("ij,ij->i", r, e)
    det = dd * ee - de * de
    with np.errstate(divide="ignore", invalid="ignore"):
        s, t = (rd * ee - re * de) / det, (rd * de - re * dd) / det
    # lines alongside have no nearest places
    aslant = det > 1e-9 * dd * ee
    s, t = np.where(aslant, s, 0.0), np.where(aslant, t, 0.0)
    own, others = a + s[:, None] * d, b + t[:, None] * e
    end, far = SAME / np.sqrt(dd), SAME / np.sqrt(ee)
    inside = aslant & (s > end) & (s < 1 - end) & (t > far) & (t < 1 - far)
    touching = aslant & (s > -end) & (s < 1 + end) & (t > -far) & (t < 1 + far)
    return _Near(own, others, np.linalg.norm(own - others, axis=1), inside, touching)
