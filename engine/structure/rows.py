"""Lines of rafters, chords or beams side by side, the bracing between them, and where that bracing is held: what EN 1993-1-1 5.3.3
calls members to be restrained and their bracing system. Geometry alone: no names are read."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from engine.structure.model import Floats, Member, Structure

Pair = tuple[int, int]

#: what rises more than this share of its length is an upright, not part of a line
STEEP = 0.8
#: cosine between a chord's pieces from which on they are one chord
ONWARD = 0.9
#: share of its length in plan below which a member runs straight across, or straight along
STRAIGHT = 0.05
#: lines are alike whose ends and middles lie this near, m; nodes at one place along a line, m
ALIKE, SAME = 0.3, 0.02


@dataclass(frozen=True)
class Line:
    """Members one after another in one vertical plane, from eaves to eaves. nodes: along the line; at: (nodes,) m along it in plan."""

    members: tuple[int, ...]
    nodes: tuple[int, ...]
    at: Floats

    def node_at(self, t: float) -> int:
        """The node nearest to a place along the line."""
        return self.nodes[int(np.argmin(np.abs(self.at - t)))]


@dataclass(frozen=True)
class Truss:
    """Bracing between two lines, by their numbers: the places along them at which it meets them, m; bars: its diagonals."""

    lines: tuple[int, int]
    at: tuple[float, ...]
    bars: tuple[int, ...]


@dataclass(frozen=True)
class Row:
    """Lines side by side that lean on the same bracing.

    along, across: horizontal unit vectors. linked: by line, the places at which something joins it to a neighbour. spans: from where
    to where along the lines the bracing spans, between its ends and what holds it towards the ground.
    """

    lines: tuple[Line, ...]
    trusses: tuple[Truss, ...]
    along: Floats
    across: Floats
    linked: tuple[tuple[float, ...], ...]
    spans: tuple[tuple[float, float], ...]


def rows(structure: Structure) -> tuple[Row, ...]:
    """All rows that have bracing, and lines of members held along their length that have none: rows without trusses."""
    lines, ways = _lines(structure)
    on: dict[int, list[int]] = defaultdict(list)
    for i, line in enumerate(lines):
        for node in line.nodes:
            on[node].append(i)
    diagonals, links = _between(structure, lines, ways, on)
    parent = list(range(len(lines)))

    def find(i: int) -> int:
        while parent[i] != i:
            i = parent[i]
        return i

    for a, b in [*diagonals, *(pair for pair, places in links.items() if len(places) > 1)]:
        parent[find(a)] = find(b)
    for a, b in _alike(structure, lines, ways):
        parent[find(a)] = find(b)
    groups: dict[int, list[int]] = defaultdict(list)
    for i in range(len(lines)):
        groups[find(i)].append(i)
    found = []
    taken: set[int] = set()
    # rafters and purlins both have the same diagonals between them: these brace what is heavier
    for group in sorted(groups.values(), key=lambda own: -_area(structure, lines, own)):
        bars = {pair: [d for d in own if d[0] not in taken] for pair, own in diagonals.items() if pair[0] in group}
        taken |= {bar for own in bars.values() for bar, _ in own}
        met = {pair: own for pair, own in bars.items() if own}
        held = any(_held_between(structure, structure.members[m]) for i in group for m in lines[i].members)
        if met or held:
            found.append(_row(structure, lines, ways, group, met, links))
    return tuple(found)


def _area(structure: Structure, lines: list[Line], group: list[int]) -> float:
    """Mean area of the sections that lines are made of."""
    return float(np.mean([structure.members[m].section.A for i in group for m in lines[i].members]))


def _held_between(structure: Structure, member: Member) -> bool:
    """Whether anything is said to hold it between its ends, other than the floor or stiff deck that lies on it, or what meets it at nodes
    that are all in such a deck; what is hinged at both ends, as purlins and joists are, is held by what lies on it."""
    stiff = (*structure.diaphragms, *(m.nodes for m in structure.membranes), *(slab.joined for slab in structure.slabs))
    at = np.linalg.norm(structure.xyz[list(member.nodes)] - structure.xyz[member.nodes[0]], axis=1)
    held = np.array([*member.outer, *member.inner, 0.0])
    if (np.abs(held[:, None] - at).min(axis=1) < SAME).all() and any(set(member.nodes) <= set(own) for own in stiff):
        return False
    hinged = "ry" in member.release_start and "ry" in member.release_end
    decks = (panel for panel in structure.panels if panel.kind == "floor" or panel.rigid or panel.law)
    floors = any(member.name in panel.carriers for panel in decks)
    return (len(member.outer) > 2 or len(member.inner) > 2) and not hinged and not floors


def _lines(structure: Structure) -> tuple[list[Line], list[Floats]]:
    """Lines, and the horizontal unit vector along each."""
    chords = _chords(structure)
    planes: dict[tuple[float, float, float], list[int]] = defaultdict(list)
    way: dict[tuple[float, float, float], Floats] = {}
    for i, m in enumerate(structure.members):
        a, b = structure.xyz[m.nodes[0]], structure.xyz[m.nodes[-1]]
        length, plan = float(np.linalg.norm(b - a)), (b - a)[:2]
        if (m.bar and i not in chords) or length == 0 or abs(b[2] - a[2]) > STEEP * length:
            continue
        unit = plan / np.linalg.norm(plan)
        if unit[0] < -1e-6 or (abs(unit[0]) <= 1e-6 and unit[1] < 0):
            unit = -unit
        key = (round(float(unit[0]), 4), round(float(unit[1]), 4), round(float(unit[0] * a[1] - unit[1] * a[0]), 2))
        planes[key].append(i)
        way.setdefault(key, unit)
    lines, ways = [], []
    for key, members in planes.items():
        for line in _chained(structure, members, way[key]):
            lines.append(line)
            ways.append(way[key])
    return lines, ways


def _chords(structure: Structure) -> set[int]:
    """Bars that go on nearly straight in another member beyond one of their ends, as chords from panel point to panel point do, and
    webs and bracing do not."""
    ways = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-12)
    found = set()
    for i, m in enumerate(structure.members):
        if not m.bar:
            continue
        for node, outward in ((m.nodes[0], -1.0), (m.nodes[-1], 1.0)):
            for j in structure.meeting[node]:
                ends = structure.members[j].nodes
                beyond = 1.0 if ends[0] == node else -1.0 if ends[-1] == node else 0.0
                if j != i and outward * beyond * float(ways[i] @ ways[j]) > ONWARD:
                    found.add(i)
    return found


def _chained(structure: Structure, members: list[int], way: Floats) -> list[Line]:
    """Members of one vertical plane one after another, always forward, straight on where several go on."""
    xyz = structure.xyz
    place = xyz[:, :2] @ way

    def forward(i: int) -> tuple[int, ...]:
        nodes = structure.members[i].nodes
        return nodes if place[nodes[-1]] >= place[nodes[0]] else nodes[::-1]

    runs = {i: forward(i) for i in members}
    begins: dict[int, list[int]] = defaultdict(list)
    for i, nodes in runs.items():
        begins[nodes[0]].append(i)

    def rise(i: int) -> float:
        a, b = xyz[runs[i][0]], xyz[runs[i][-1]]
        return float((b - a)[2] / np.linalg.norm(b - a))

    left = set(members)
    found = []
    for first in sorted(members, key=lambda i: (place[runs[i][0]], i)):
        if first not in left:
            continue
        chain = [first]
        left.discard(first)
        while following := [i for i in begins[runs[chain[-1]][-1]] if i in left]:
            now = rise(chain[-1])
            chain.append(min(following, key=lambda i: abs(rise(i) - now)))
            left.discard(chain[-1])
        nodes = tuple(dict.fromkeys(node for i in chain for node in runs[i]))
        found.append(Line(tuple(chain), nodes, place[list(nodes)]))
    return found


def _between(
    structure: Structure, lines: list[Line], ways: list[Floats], on: dict[int, list[int]]
) -> tuple[dict[Pair, list[tuple[int, list[float]]]], dict[Pair, list[float]]]:
    """By pair of parallel lines (lower number first): diagonals with the places at which they meet them, and the places of what runs
    straight across."""
    diagonals: dict[Pair, list[tuple[int, list[float]]]] = defaultdict(list)
    links: dict[Pair, list[float]] = defaultdict(list)
    for number, m in enumerate(structure.members):
        for start, near in pairwise(m.nodes) if not m.bar else [(m.nodes[0], m.nodes[-1])]:
            end = near if m.bar else _across_to(structure, ways, on, number, start, near)
            step = structure.xyz[end] - structure.xyz[start]
            length = float(np.linalg.norm(step))
            for a in on.get(start, ()):
                for b in on.get(end, ()):
                    across = abs(float(ways[a][0] * step[1] - ways[a][1] * step[0]))
                    if a == b or abs(ways[a] @ ways[b]) < 1 - STRAIGHT**2 or across < STRAIGHT * length:
                        continue
                    along = abs(float(ways[a] @ step[:2]))
                    pair = (min(a, b), max(a, b))
                    places = [float(structure.xyz[node, :2] @ ways[a]) for node in (start, end)]
                    if along <= STRAIGHT * length:
                        links[pair] += places
                    elif m.bar:
                        diagonals[pair].append((number, places))
    return diagonals, links


def _across_to(
    structure: Structure, ways: list[Floats], on: dict[int, list[int]], member: int, start: int, end: int
) -> int:
    """The node where what runs straight across from a line meets the next one that is parallel, past the joints between its pieces; the end where it meets
    none."""
    step = structure.xyz[end] - structure.xyz[start]
    length = float(np.linalg.norm(step))
    for a in on.get(start, ()):
        if abs(float(ways[a] @ step[:2])) > STRAIGHT * length:
            continue
        now, node = member, end
        while not any(abs(ways[a] @ ways[b]) >= 1 - STRAIGHT**2 for b in on.get(node, ())):
            following = _following(structure, now, node, step / length)
            if following is None:
                break
            now, node = following
        else:
            return node
    return end


def _following(structure: Structure, member: int, node: int, way: Floats) -> tuple[int, int] | None:
    """A beam that begins or ends at a node and goes straight on from it, and the next node on it."""
    for i in structure.meeting[node]:
        m = structure.members[i]
        if i == member or m.bar or node not in (m.nodes[0], m.nodes[-1]):
            continue
        on = m.nodes[1] if m.nodes[0] == node else m.nodes[-2]
        step = structure.xyz[on] - structure.xyz[node]
        if float(step @ way) > ONWARD * float(np.linalg.norm(step)):
            return i, on
    return None


def _alike(structure: Structure, lines: list[Line], ways: list[Floats]) -> list[tuple[int, int]]:
    """Pairs of parallel lines with ends and middles at one place and height: each with the first like it."""

    def shape(i: int) -> Floats:
        line = lines[i]
        ends = structure.xyz[[line.nodes[0], line.nodes[-1]]]
        heights = structure.xyz[list(line.nodes), 2]
        middle = float(np.interp(line.at.mean(), line.at, heights))
        return np.array([line.at[0], line.at[-1], *ends[:, 2], middle])

    firsts: list[tuple[int, Floats]] = []
    found = []
    for i in range(len(lines)):
        own = shape(i)
        for first, of in firsts:
            if abs(ways[i] @ ways[first]) > 1 - 1e-6 and np.abs(own - of).max() < ALIKE:
                found.append((first, i))
                break
        else:
            firsts.append((i, own))
    return found


def _row(
    structure: Structure,
    lines: list[Line],
    ways: list[Floats],
    group: list[int],
    diagonals: dict[Pair, list[tuple[int, list[float]]]],
    links: dict[Pair, list[float]],
) -> Row:
    number = {i: k for k, i in enumerate(group)}
    along = ways[group[0]]
    trusses = []
    for (a, b), bars in diagonals.items():
        met = [t for _, places in bars for t in places] + links.get((a, b), [])
        trusses.append(Truss((number[a], number[b]), distinct(met), tuple(bar for bar, _ in bars)))
    linked = tuple(
        distinct(
            [
                t
                for pair, places in links.items()
                if i in pair and pair[0] in number and pair[1] in number
                for t in places
            ]
        )
        for i in group
    )
    own = tuple(lines[i] for i in group)
    ends = [float(np.min([line.at[0] for line in own])), float(np.max([line.at[-1] for line in own]))]
    inside = [t for t in _held_at(structure, own, along) if ends[0] + SAME < t < ends[1] - SAME]
    places = distinct([*ends, *inside])
    across = np.array([-along[1], along[0], 0.0])
    return Row(own, tuple(trusses), np.array([*along, 0.0]), across, linked, tuple(pairwise(places)))


def distinct(places: list[float]) -> tuple[float, ...]:
    """Places in order, each once."""
    found: list[float] = []
    for t in sorted(places):
        if not found or t - found[-1] > SAME:
            found.append(t)
    return tuple(found)


def _held_at(structure: Structure, lines: tuple[Line, ...], along: Floats) -> list[float]:
    """Places along the lines at which bracing leads down from them across the row, or a support holds them sideways."""
    across = np.array([-along[1], along[0]])
    found = []
    for line in lines:
        for node, t in zip(line.nodes, line.at.tolist(), strict=True):
            held = structure.fixed[node, :2] | (structure.springs[node, :2] != 0)
            if (held & (np.abs(across) > 0.5)).any() or any(
                _leads_down(structure, structure.members[i], node, along) for i in structure.meeting.get(node, ())
            ):
                found.append(t)
    return found


def _leads_down(structure: Structure, member: Member, node: int, along: Floats) -> bool:
    """Whether a bar goes down from a node at its end, across the row."""
    if not member.bar or node not in (member.nodes[0], member.nodes[-1]):
        return False
    other = member.nodes[-1] if member.nodes[0] == node else member.nodes[0]
    step = structure.xyz[other] - structure.xyz[node]
    length = float(np.linalg.norm(step))
    across = abs(float(along[0] * step[1] - along[1] * step[0]))
    return bool(
        -step[2] > 0.3 * length and across > STRAIGHT * length and abs(float(along[:2] @ step[:2])) <= STRAIGHT * length
    )
