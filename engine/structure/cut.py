"""Further nodes in a structure that stands."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from engine.structure.model import Floats, Structure


def cut(structure: Structure, at: dict[int, list[float]], same: float) -> Structure:
    """The same structure with further nodes within some members, at places in metres from their starts that are no nodes within `same`; its own
    nodes keep their numbers."""
    names, points, members = list(structure.nodes), [structure.xyz], list(structure.members)
    for i, wanted in at.items():
        m = structure.members[i]
        line = structure.xyz[list(m.nodes)]
        along = np.linalg.norm(line - line[0], axis=1)
        inside = list(zip(along.tolist(), m.nodes, strict=True))
        for x in wanted:
            if all(abs(x - other) > same for other, _ in inside):
                inside.append((x, len(names)))
                names.append(f"{m.name}~{x:.4f}")
                points.append((line[0] + (line[-1] - line[0]) * x / along[-1])[None])
        members[i] = m.through(tuple(node for _, node in sorted(inside)))
    return longer(replace(structure, members=tuple(members)), names, np.concatenate(points))


def longer(structure: Structure, names: list[str], xyz: Floats) -> Structure:
    """The same structure with further nodes after its own, which nothing holds."""
    more = len(names) - len(structure.nodes)

    def grown(name: str) -> Any:
        values = getattr(structure, name)
        return np.concatenate([values, np.zeros((more, *values.shape[1:]), dtype=values.dtype)])

    held = {name: grown(name) for name in ("fixed", "springs", "turn", "one_way", "settlement")}
    return replace(structure, nodes=tuple(names), xyz=xyz, **held)
