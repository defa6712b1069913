"""Members that bend as one with others on their line: nothing holds the node between them in the plane in which they bend."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Container
from dataclasses import dataclass, field

import numpy as np

from engine.structure.axes import local_axes
from engine.structure.model import Floats, Ints, Member, Structure

#: share of a member's direction across another from which it holds that
ACROSS = 0.2
#: cosine between members that run on in one another: a kink of 6° still does
STRAIGHT = 0.9945
#: cosine between the axes of cross-sections that are turned alike
ALIKE = 0.98
#: stiffness of a hold beside the force that it holds over a length, times that length: what braces a column of many spans fully is 4
FULLY = 4.0
#: rotations about local axes, in which a hinge lets a member bend by itself: sideways, and along its local z
TURNS = ("rz", "ry")


@dataclass(frozen=True)
class Together:
    """By plane (0 sideways, along local y; 1 along local z, bent about y): group: (2, members) a number that members share which nothing
    holds between them by its own length; beyond: how far a member bends on beyond its start and its end in others, m, to what
    holds these, by its length or because it does not bend as they do; only of those that do. joints: by node, member and plane the
    member that it goes on in there, and the plane of that."""

    group: Ints
    beyond: tuple[dict[int, tuple[float, float]], dict[int, tuple[float, float]]] = field(
        default_factory=lambda: ({}, {})
    )
    joints: dict[tuple[int, int, int], tuple[int, int]] = field(default_factory=dict)

    def run(
        self, structure: Structure, member: int, planes: tuple[int, ...], stops: Container[int] = ()
    ) -> tuple[list[int], tuple[int, int]]:
        """A member with those that bend on with it in all these planes, in order, and the nodes at both ends. stops: nodes that it does not go beyond."""
        found, ends = [member], []
        for at in (0, 1):
            now, own, node = member, planes, structure.members[member].nodes[-at]
            while node not in stops and all((node, now, p) in self.joints for p in own):
                on = [self.joints[node, now, p] for p in own]
                now, own = on[0][0], tuple(p for _, p in on)
                if now in found:
                    break
                found.insert(0, now) if at == 0 else found.append(now)
                m = structure.members[now]
                node = m.nodes[-1] if m.nodes[0] == node else m.nodes[0]
            ends.append(node)
        return found, (ends[0], ends[1])


def together(structure: Structure) -> Together:
    """What bends as one. Members with hinges where they meet do not, nor those whose sections are turned by odd angles."""
    count = len(structure.members)
    found = Together(np.arange(2 * count).reshape(2, count))
    if not count:
        return found
    look = _Look(structure)
    joints = found.joints
    flat = found.group.ravel()
    for node, a, b in look.joints:
        for plane in (0, 1):
            other = look.alike(a, b, plane)
            if other is None or look.hinged(node, a, plane) or look.hinged(node, b, other):
                continue
            across = look.axes[a, 1 + plane]
            if look.held(node, across, (a, b)):
                continue
            one, two = flat[plane * count + a], flat[other * count + b]
            flat[flat == max(one, two)] = min(one, two)
            if not look.braced(node, across, (a, b)):
                joints[node, a, plane], joints[node, b, other] = (b, other), (a, plane)
    for _, a, plane in joints:
        if a not in found.beyond[plane]:
            start, end = (look.on(found, a, plane, at) for at in (0, 1))
            found.beyond[plane][a] = (start, end)
    return found


def held_at(structure: Structure, member: Member, plane: int = 1) -> list[float]:
    """Where something holds a member across in a plane, m from its start: its ends, supports, and nodes that a member
    meets which runs across it in that plane; what meets it from the side does not."""
    ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
    across = local_axes(ends[:1], ends[1:], np.array([member.roll]))[0, 1 + plane]
    own = structure.index[member.name]
    return sorted(
        [0.0, structure.length(member)]
        + [
            float(np.linalg.norm(structure.xyz[node] - ends[0]))
            for node in member.nodes[1:-1]
            if held(structure, node, across, (own,))
        ]
    )


def held(structure: Structure, node: int, across: Floats, line: tuple[int, ...]) -> bool:
    """Whether a support, or a member that is none of a line, holds a node across by its own length."""
    supported = structure.fixed[node, :3] | (structure.springs[node, :3] != 0)
    if bool((np.abs(across) @ supported) > ACROSS):
        return True
    for i in structure.meeting[node]:
        if i in line:
            continue
        other = structure.members[i]
        for end in (other.nodes[0], other.nodes[-1]):
            way = structure.xyz[end] - structure.xyz[node]
            length = float(np.linalg.norm(way))
            if length > 0 and abs(float(way @ across)) > ACROSS * length and not _stub(structure, i, end):
                return True
    return False


def _stub(structure: Structure, member: int, end: int) -> bool:
    """Whether a member ends there in the air: a bracket holds nothing."""
    supported = bool(structure.fixed[end].any() or structure.springs[end].any())
    return structure.meeting[end] == (member,) and not supported and end not in _in_decks(structure)


def _in_decks(structure: Structure) -> frozenset[int]:
    """Nodes of stiff decks and slabs."""
    parts = [*structure.diaphragms, *(m.nodes for m in structure.membranes), *(s.joined for s in structure.slabs)]
    return frozenset(node for own in parts for node in own)


class _Look:
    """What is asked of joints again and again."""

    def __init__(self, structure: Structure) -> None:
        self.structure = structure
        ends = structure.xyz[structure.ends]
        rolls = np.array([m.roll for m in structure.members])
        self.axes = local_axes(ends[:, 0], ends[:, 1], rolls)
        self.joints = self._joints()
        self.decks = _in_decks(structure)

    def _joints(self) -> list[tuple[int, int, int]]:
        """Nodes with two members that end there and run on in one another."""
        structure = self.structure
        ending: dict[int, list[tuple[int, float]]] = defaultdict(list)
        for i, m in enumerate(structure.members):
            if not m.bar and m.behaviour == "beam":
                ending[m.nodes[0]].append((i, 1.0))
                ending[m.nodes[-1]].append((i, -1.0))
        found = []
        for node, own in ending.items():
            for k, (a, way) in enumerate(own):
                on = [b for b, sign in own[k + 1 :] if -sign * way * (self.axes[a, 0] @ self.axes[b, 0]) > STRAIGHT]
                found += [(node, a, b) for b in on[:1]]
        return found

    def alike(self, a: int, b: int, plane: int) -> int | None:
        """The plane of one member that is the given one of the other; None where their sections are turned by an odd angle."""
        across = self.axes[a, 1 + plane]
        return next((p for p in (plane, 1 - plane) if abs(across @ self.axes[b, 1 + p]) > ALIKE), None)

    def hinged(self, node: int, member: int, plane: int) -> bool:
        m = self.structure.members[member]
        return TURNS[plane] in (m.release_start if m.nodes[0] == node else m.release_end)

    def held(self, node: int, across: Floats, line: tuple[int, int]) -> bool:
        level = abs(across[2]) < 1 - ACROSS
        return (level and node in self.decks) or held(self.structure, node, across, line)

    def braced(self, node: int, across: Floats, line: tuple[int, int]) -> bool:
        """Whether what crosses a line there is stiff enough in bending to hold it: 48 E I/L³, of beams between their ends."""
        structure = self.structure
        others = [i for i in structure.meeting[node] if i not in line and structure.members[i].behaviour == "beam"]
        if not others:
            return False
        span = sum(structure.length(structure.members[i]) for i in others)
        stiffest = max(self._bending(i, across) for i in others)
        length = max(structure.length(structure.members[i]) for i in line)
        own = max(self._bending(i, across) for i in line)
        return bool(48 * stiffest / span**3 > FULLY * np.pi**2 * own / length**3)

    def _bending(self, member: int, across: Floats) -> float:
        m = self.structure.members[member]
        along = np.abs(self.axes[member] @ across)
        return float(m.material.E * (m.section.Iz * along[1] ** 2 + m.section.Iy * along[2] ** 2))

    def on(self, whole: Together, member: int, plane: int, at: int) -> float:
        """How far beyond an end of a member others bend on with it, m."""
        gone, seen = 0.0, {member}
        now, node = member, self.structure.members[member].nodes[-at]
        while (node, now, plane) in whole.joints:
            now, plane = whole.joints[node, now, plane]
            if now in seen:
                break
            seen.add(now)
            m = self.structure.members[now]
            points = held_at(self.structure, m, plane)
            forward = m.nodes[0] == node
            inner = points[1] if forward else points[-1] - points[-2]
            gone += inner
            if len(points) > 2:
                break
            node = m.nodes[-1] if forward else m.nodes[0]
        return gone
