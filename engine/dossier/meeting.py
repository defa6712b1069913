"""Where members meet: joints of a structure, and those of them that are alike."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from engine.structure.model import Floats, Structure

BRACING = ("roof bracing", "wall bracing", "strut", "tie", "knee brace")
#: cosine above which two members go on in one line
STRAIGHT = 0.999


@dataclass(frozen=True)
class Meeting:
    """A member at a joint: its number, and "start", "end" or "through"."""

    member: int
    where: str


@dataclass(frozen=True)
class Joint:
    """A node at which members meet, or one stands on a support."""

    node: int
    kind: str
    members: tuple[Meeting, ...]


#: roles, sections and whether they run through, of the members that meet in a joint
Slots = tuple[tuple[str, str, str], ...]
Ranked = list[tuple[tuple[str, Slots], list[Joint]]]


def joints_of(structure: Structure) -> list[Joint]:
    """All joints, in the order of the nodes: where two members meet, or one is supported."""
    holding = structure.fixed | (structure.springs != 0)
    held, down = holding.any(axis=1), holding[:, 2]
    found = []
    for node, own in sorted(structure.meeting.items()):
        rows = [
            Meeting(
                i, "start" if node == structure.ends[i, 0] else "end" if node == structure.ends[i, 1] else "through"
            )
            for i in own
            if structure.members[i].behaviour != "rigid link" and structure.members[i].role != "deck"
        ]
        if len(rows) > 1 or (rows and held[node]):
            # what is held sideways alone stands on nothing
            base = bool(down[node]) or len(rows) == 1
            found.append(Joint(node, _kind(structure, rows, base), tuple(rows)))
    return found


def _kind(structure: Structure, rows: list[Meeting], base: bool) -> str:
    roles = [structure.members[row.member].role for row in rows]
    carrying = [(row, role) for row, role in zip(rows, roles, strict=True) if role not in BRACING]
    ending = [row for row, _ in carrying if row.where != "through"]
    if base:
        return "base"
    main = {role for _, role in carrying}
    if "column" in main and main & {"rafter", "top chord"}:
        return "eaves"
    if sum(role in ("rafter", "top chord") for _, role in carrying) == 2 and main <= {
        "rafter",
        "top chord",
        "ridge beam",
        "purlin",
    }:
        a, b = (_way(structure, row.member) for row, role in carrying if role in ("rafter", "top chord"))
        return "splice" if abs(float(a @ b)) > STRAIGHT else "apex"
    if len(carrying) < len(rows) and len(carrying) <= 1:
        return "bracing"
    if main & {"top chord", "bottom chord", "web"}:
        return "truss node"
    if len(ending) == 2 == len(carrying) and in_one_line(structure, ending[0].member, ending[1].member):
        return "splice"
    if "column" in main or "gable post" in main:
        return "beam to column"
    return "bracing" if len(carrying) < 2 else "beam to beam"


def joint_anchor(structure: Structure, kind: list[Joint]) -> str:
    """The lasting name of a kind of joints: that of the first of them."""
    return f"joint.{structure.nodes[kind[0].node]}"


def in_one_line(structure: Structure, one: int, other: int) -> bool:
    """Whether two members lie along each other."""
    return abs(float(_way(structure, one) @ _way(structure, other))) > STRAIGHT


def _way(structure: Structure, member: int) -> Floats:
    a, b = structure.xyz[structure.ends[member]]
    found: Floats = (b - a) / np.linalg.norm(b - a)
    return found


def ranked_joints(structure: Structure) -> Ranked:
    """Joints alike, kind by kind, those of which there are most first."""
    kinds: dict[tuple[str, Slots], list[Joint]] = defaultdict(list)
    for joint in joints_of(structure):
        meeting = sorted(
            (
                structure.members[row.member].role,
                structure.members[row.member].section.name,
                "through" if row.where == "through" else "end",
            )
            for row in joint.members
        )
        kinds[joint.kind, tuple(meeting)].append(joint)
    return sorted(kinds.items(), key=lambda item: (item[0][0], -len(item[1]), item[0][1]))
