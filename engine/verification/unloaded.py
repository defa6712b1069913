"""Members that bear nothing but themselves though their role says that they bear: a frame copied without its floors passes easily."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import Loading
from engine.actions.panels import DOWN
from engine.catalogue.steels import GRAVITY
from engine.structure.model import Structure

#: what lies across to bear what is put on it
BEARING = ("rafter", "purlin", "side rail", "main beam", "joist")
#: share of its own weight within which a case is that of the weight, and what counts as no load, N
BESIDE, NONE = 1e-3, 1.0
NOTHING_BORNE = "nothing is put on it in any case: it bears its own weight alone"


def unloaded(structure: Structure, loading: Loading) -> list[int]:
    """The numbers of beams by their roles that no load of any case lies on, that no slab rests on, and that nothing meets between their ends."""
    table, count = loading.table(structure), len(structure.members)
    force = (table.first + table.last) / 2 * (table.end - table.start)[:, None]
    total = np.zeros((len(loading.cases), count, 3))
    np.add.at(total, (table.case, table.member), force)
    own = np.array([structure.mass(m) * GRAVITY for m in structure.members])[:, None] * DOWN
    borne = np.zeros(count, dtype=bool)
    for case, of in zip(loading.cases, total, strict=True):
        # a permanent case that comes to no more than their own weight is that of the weight
        beside = of if case.nature != "permanent" else np.where(np.abs(of - own) <= BESIDE * np.abs(own), 0.0, of)
        borne |= (case.nature != "imperfection") & (np.linalg.norm(beside, axis=1) > NONE)
    points = {structure.index[p.member] for p in loading.points if p.member}
    nodes = {p.node for p in loading.points if p.node >= 0}
    slabs = {structure.index[name] for p in structure.panels if p.plate is not None for name in p.carriers}
    found = []
    for i, m in enumerate(structure.members):
        if m.role not in BEARING or m.bar or i in points or i in slabs or borne[i]:
            continue
        if not any(set(structure.meeting[node]) - {i} or node in nodes for node in m.nodes[1:-1]):
            found.append(i)
    return found
