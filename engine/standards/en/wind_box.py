"""The box that the wind of EN 1991-1-4 meets: a building by its outline and its height."""

from __future__ import annotations

import numpy as np

from engine.actions.derived import Box
from engine.structure.model import Structure


def box(structure: Structure, ground: float) -> Box:
    """The building's outline from its panels, to the outside of their cladding where the hall is measured to it; ground: height
    of the ground above ±0. The structure must have a roof."""
    roofs = [p for p in structure.panels if p.kind == "roof" and p.place != "truss"]
    main = np.concatenate([p.corners for p in roofs if not p.place])
    outer = np.concatenate([p.corners for p in roofs if p.place != "overhang"])
    # a lean-to lies lower: the edge of the hall's own roof stays an edge
    every = np.concatenate([p.corners for p in roofs if p.place != "lean-to"])
    aside, above = max(p.beyond for p in roofs)
    return Box(
        float(outer[:, 0].min()),
        float(outer[:, 0].max()),
        float(main[:, 1].min()),
        float(main[:, 1].max()),
        float(every[:, 0].min()),
        float(every[:, 0].max()),
        ground,
        float(main[:, 2].max()) + above - ground,
        aside,
    )
