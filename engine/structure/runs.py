"""Members that go on in another one on their line, where nothing holds the node between them: no restraint lies there."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.structure.model import Bools, Floats, Structure

#: members whose directions differ by less than this (of a cosine) lie on one line
STRAIGHT = 1e-6
#: what lies rises by no more than this share of its length
LYING = 0.8
#: restraints this near to an end of a member are its end, m
AT_END = 1e-6


@dataclass(frozen=True)
class Reach:
    """How far the flanges go on beyond the start and the end of a member to what holds them, m, 0 where the end itself is held; free:
    whether a free end lies there."""

    outer: tuple[float, float] = (0.0, 0.0)
    inner: tuple[float, float] = (0.0, 0.0)
    free: tuple[bool, bool] = (False, False)


#: a member that is held at both ends
HELD = Reach()


def reaches(structure: Structure) -> dict[int, Reach]:
    """Members that go on beyond an end, by number."""
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    ways = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-12)
    found = {}
    for i, m in enumerate(structure.members):
        if m.bar:
            continue
        start, end = (_beyond(structure, held, ways, i, at) for at in (0, 1))
        if start or end:
            a, b = start or (0.0, 0.0, False), end or (0.0, 0.0, False)
            found[i] = Reach((a[0], b[0]), (a[1], b[1]), (a[2], b[2]))
    return found


def _next(structure: Structure, held: Bools, ways: Floats, member: int, node: int) -> int | None:
    """The member that goes on from a node, where nothing but members on the same line meet: None where something holds it, −1 at a
    free end."""
    others = [j for j in structure.meeting[node] if j != member]
    if held[node] or any(abs(ways[j] @ ways[member]) < 1 - STRAIGHT for j in others):
        return None
    if not others:
        return -1
    ending = [j for j in others if node in (structure.members[j].nodes[0], structure.members[j].nodes[-1])]
    return ending[0] if ending else None


def _beyond(structure: Structure, held: Bools, ways: Floats, member: int, at: int) -> tuple[float, float, bool] | None:
    """How far the outer and the inner flange go on beyond one end, and whether to a free end; None where that end is held, or free
    itself."""
    node = structure.members[member].nodes[-at]
    now = _next(structure, held, ways, member, node)
    if now is None or now == -1:
        return None
    reach: dict[str, float] = {}
    gone, seen = 0.0, {member}
    while True:
        m, length = structure.members[now], structure.length(structure.members[now])
        forward = m.nodes[0] == node
        for flange in ("outer", "inner"):
            places = [x for x in getattr(m, flange) if AT_END < x < length - AT_END]
            if places and flange not in reach:
                reach[flange] = gone + (min(places) if forward else length - max(places))
        gone += length
        seen.add(now)
        node = m.nodes[-1] if forward else m.nodes[0]
        following = _next(structure, held, ways, now, node)
        if len(reach) == 2 or following is None or following == -1 or following in seen:
            free = following == -1 and len(reach) < 2
            return reach.get("outer", gone), reach.get("inner", gone), free
        now = following


def lying(structure: Structure) -> Bools:
    """(members,): whether each bends and rises by little."""
    way = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    return np.asarray(~structure.bars & (np.abs(way[:, 2]) <= LYING * np.linalg.norm(way, axis=1)))


def hinged_joints(structure: Structure) -> dict[int, tuple[str, str]]:
    """Beams that go on in another one where nothing but bars and what is hinged meets them from the side: by number, names of the one that goes on
    and of one that meets it. Such a joint counts as held, though what meets it may lead to no bracing and let it twist."""
    held = (structure.still | (structure.springs != 0)).any(axis=1)
    stiff = [*structure.diaphragms, *(m.nodes for m in structure.membranes), *(slab.joined for slab in structure.slabs)]
    held[[node for nodes in stiff for node in nodes]] = True
    ways = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-12)
    found = {}
    for i in np.flatnonzero(lying(structure)).tolist():
        for node in structure.ends[i].tolist():
            others = [j for j in structure.meeting[node] if j != i]
            if held[node] or len(others) < 2:
                continue
            straight = np.abs(ways[others] @ ways[i]) >= 1 - STRAIGHT
            onward = [j for j, on in zip(others, straight, strict=True) if on and node in structure.ends[j]]
            side = [j for j, on in zip(others, straight, strict=True) if not on]
            if onward and side and all(_hinged(structure, j, node) for j in side):
                found[i] = (structure.members[onward[0]].name, structure.members[side[0]].name)
    return found


def _hinged(structure: Structure, member: int, node: int) -> bool:
    """Whether a member bears no moments about its strong axis where it meets a node: bars, and what is hinged at an end there."""
    m = structure.members[member]
    at = [release for end, release in ((m.nodes[0], m.release_start), (m.nodes[-1], m.release_end)) if end == node]
    return m.bar or (bool(at) and all("ry" in release for release in at))


def in_pieces(structure: Structure) -> list[tuple[int, ...]]:
    """Members that make one piece of steel in parts, end to end: on one line, nothing between them, of one section and material, without
    hinges where they meet."""
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    ways = structure.xyz[structure.ends[:, 1]] - structure.xyz[structure.ends[:, 0]]
    ways = ways / np.maximum(np.linalg.norm(ways, axis=1, keepdims=True), 1e-12)
    seen: set[int] = set()
    found = []
    for i in sorted(reaches(structure)):
        if i in seen:
            continue
        run = [i]
        for at in (0, 1):
            now, node = i, structure.members[i].nodes[-at]
            while True:
                following = _next(structure, held, ways, now, node)
                if (
                    following is None
                    or following < 0
                    or following in run
                    or not _alike(structure, now, following, node)
                ):
                    break
                run.insert(0, following) if at == 0 else run.append(following)
                m = structure.members[following]
                now, node = following, m.nodes[-1] if m.nodes[0] == node else m.nodes[0]
        seen.update(run)
        if len(run) > 1:
            found.append(tuple(run))
    return found


def _alike(structure: Structure, one: int, other: int, node: int) -> bool:
    a, b = structure.members[one], structure.members[other]
    if {*structure.ends[one].tolist()} == {*structure.ends[other].tolist()}:
        # one of them stands there twice
        return False
    hinged = any(m.release_start if m.nodes[0] == node else m.release_end for m in (a, b))
    return (a.section, a.material, a.behaviour) == (b.section, b.material, b.behaviour) and not hinged
