"""Cases that the structure itself brings along: the weight of its members, the imposed movements of its supports."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import Case, LineLoad, Loading, Settlement
from engine.actions.panels import DOWN, press
from engine.catalogue.steels import GRAVITY
from engine.structure.model import Structure


def add_settlement(loading: Loading, structure: Structure) -> None:
    """Add one permanent case with the imposed movements of all supports."""
    note = "imposed movements of supports"
    case = loading.add_case(Case("Settlement", f"G{len(loading.cases) + 1}", "permanent", note=note))
    for node in np.flatnonzero(structure.settlement.any(axis=1)).tolist():
        loading.settlements.append(Settlement(case, node, structure.settlement[node]))


def add_self_weight(loading: Loading, structure: Structure, case: Case) -> None:
    """Add one permanent case with the weight of every member and slab."""
    number = loading.add_case(case)
    for member in structure.members:
        weight = DOWN * member.section.weighing * member.material.density * GRAVITY
        if weight.any():
            loading.lines.append(LineLoad(number, member.name, 0.0, None, weight, weight))
        for piece in member.pieces:
            more = weight * (piece.section.weighing / member.section.weighing - 1)
            loading.lines.append(LineLoad(number, member.name, piece.start, piece.end, more, more))
        loading.expected[number] = loading.expected[number] + DOWN * structure.mass(member) * GRAVITY
    panels = {panel.name: panel for panel in structure.panels}
    for slab in structure.slabs:
        press(
            loading,
            number,
            panels[slab.panel],
            DOWN,
            slab.plate.thickness * slab.plate.density * GRAVITY,
            why="the slab's own weight",
        )
