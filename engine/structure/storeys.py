"""Which storey each member belongs to: the lowest floor at or above its upper end."""

from __future__ import annotations

import numpy as np

from engine.structure.model import Structure

#: how far above a floor a member may end and still belong to it, in metres
ABOVE = 0.05


def storeys(structure: Structure) -> list[str]:
    """By member the name of its storey's level; "" above the highest floor, and where there is none.

    Floors are levels in which a jig's floor lies, or a panel that is drawn as one.
    """
    decks = np.array([p.corners[0, 2] for p in structure.panels if p.kind == "floor"])
    levels = [v for v in structure.levels if v.floor or (len(decks) and np.abs(decks - v.height).min() < 1e-3)]
    if not levels or not structure.members:
        return [""] * len(structure.members)
    top = structure.xyz[structure.ends, 2].max(axis=1)
    number = np.searchsorted(np.array([v.height for v in levels]) + ABOVE, top)
    names = [*(v.name for v in levels), ""]
    return [names[i] for i in number.tolist()]
