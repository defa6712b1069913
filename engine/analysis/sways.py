"""Sway of columns: how far the head of each storey moves beside its foot."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from engine.structure.model import Floats, Structure

#: how far a node may lie from a level and still be in it, in metres
IN_LEVEL = 0.05
#: rise over length of a member that drifts as a column does
UPRIGHT = 0.9
ROLES = ("column", "gable post")


@dataclass(frozen=True)
class Storey:
    """A stretch of a column from one node to another above it; whole: from its foot to its head, over all its storeys."""

    member: int
    foot: int
    head: int
    height: float
    whole: bool


def storeys(structure: Structure) -> list[Storey]:
    """The storeys of all columns, cut where levels cross them; of several, the whole column comes first."""
    heights = np.array([level.height for level in structure.levels])
    found = []
    for i, member in enumerate(structure.members):
        if member.role not in ROLES:
            continue
        nodes = sorted(member.nodes, key=lambda n: structure.xyz[n, 2])
        z = structure.xyz[nodes, 2]
        length = float(np.linalg.norm(structure.xyz[nodes[-1]] - structure.xyz[nodes[0]]))
        if z[-1] - z[0] < UPRIGHT * length:
            continue
        inner = [n for n in nodes[1:-1] if len(heights) and np.abs(heights - structure.xyz[n, 2]).min() < IN_LEVEL]
        cuts = [nodes[0], *inner, nodes[-1]]
        if len(cuts) > 2:
            found.append(Storey(i, nodes[0], nodes[-1], float(z[-1] - z[0]), True))
        for a, b in pairwise(cuts):
            found.append(Storey(i, a, b, float(structure.xyz[b, 2] - structure.xyz[a, 2]), len(cuts) == 2))
    return found


def sways(found: list[Storey], displacement: Floats) -> Floats:
    """(storeys, 2, c) m: movement along X and Y of each head beside its foot; displacement: (nodes, 6, c)."""
    heads, feet = np.array([s.head for s in found], dtype=int), np.array([s.foot for s in found], dtype=int)
    return np.asarray(displacement[heads, :2] - displacement[feet, :2])
