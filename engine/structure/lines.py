"""Design members: members that are one piece of steel, whatever they were drawn in."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.structure.model import HINGE, Floats, Member, Structure
from engine.structure.together import STRAIGHT

#: of a member: what those that go on in it are made of, and what they are for
Kind = tuple[str, str, str, float]


def design_members(structure: Structure) -> list[tuple[int, ...]]:
    """Numbers of members that follow one another on a line (a kink of some degrees is none), of one role, section, material and roll, joined without hinges, in
    order: of two at least. Bars are joined by pins."""
    ways = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-9)
    ending: dict[tuple[int, Kind], list[tuple[int, int]]] = defaultdict(list)
    for i, m in enumerate(structure.members):
        if m.behaviour != "beam":
            continue
        for at, released in ((0, m.release_start), (1, m.release_end)):
            if not released & HINGE:
                ending[m.nodes[-at], _kind(m)].append((i, at))
    joined: dict[tuple[int, int], tuple[int, int]] = {}
    for there in ending.values():
        # the straightest first: where two lines of a kind cross, each goes on in its own
        pairs = [
            (_straight(ways, one, other), one, other)
            for k, one in enumerate(there)
            for other in there[k + 1 :]
            if one[0] != other[0]
        ]
        for straight, one, other in sorted(pairs, key=lambda pair: -pair[0]):
            if straight > STRAIGHT and one not in joined and other not in joined:
                joined[one], joined[other] = other, one
    return _chains(joined)


def _kind(m: Member) -> Kind:
    return m.role, m.section.name, m.material.name, round(m.roll, 6)


def _straight(ways: Floats, one: tuple[int, int], other: tuple[int, int]) -> float:
    """Cosine of the kink between two members, each (number, 0 where it starts there, 1 where it ends there)."""
    away = [ways[i] * (1.0 if at == 0 else -1.0) for i, at in (one, other)]
    return -float(away[0] @ away[1])


def _chains(joined: dict[tuple[int, int], tuple[int, int]]) -> list[tuple[int, ...]]:
    """From ends that are joined to members in order; a ring begins with its first."""
    found, seen = [], set[int]()
    numbers = sorted({i for i, _ in joined})
    # lines from their free ends first, then rings
    for i in [*(n for n in numbers if ((n, 0) in joined) != ((n, 1) in joined)), *numbers]:
        if i in seen:
            continue
        line, now, leaves = [i], i, 1 if (i, 1) in joined else 0
        seen.add(i)
        while (now, leaves) in joined:
            now, came = joined[now, leaves]
            if now in seen:
                break
            seen.add(now)
            line.append(now)
            leaves = 1 - came
        found.append(tuple(line))
    return sorted(found)
