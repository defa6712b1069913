"""The building in its surroundings: what the Site stage draws."""

from __future__ import annotations

import numpy as np

from engine.actions.across import across
from engine.chain import Chain
from engine.standards.family import family
from engine.structure.model import Panel
from server.projects import action_schemas

#: heights at which the course of q_p is told, as shares of what is drawn
STEPS = 24
#: how far above the building's top it is drawn
BEYOND = 1.3


def site_out(chain: Chain, revision: int) -> action_schemas.SiteOut | None:
    """None where no building stands that snow and wind act on."""
    structure, document = chain.structure, chain.document
    roofs = [p for p in structure.panels if p.kind == "roof"]
    if structure.envelope is None or not roofs:
        return None
    corners = np.concatenate([p.corners for p in roofs])
    (x0, y0), (x1, y1) = corners.min(axis=0)[:2].tolist(), corners.max(axis=0)[:2].tolist()
    ground = structure.envelope.ground
    top = float(corners[:, 2].max()) - ground
    heights = np.linspace(0.0, top * BEYOND, STEPS + 1)
    loading, actions = chain.loading, family(document)
    return action_schemas.SiteOut(
        revision=revision,
        x0=x0,
        x1=x1,
        y0=y0,
        y1=y1,
        ground=ground,
        height=top,
        folds=_folds(roofs, x0, x1),
        section=[
            _cut(p)
            for p in (*roofs, *(p for p in structure.panels if p.side in ("left", "right") and p.kind == "wall"))
        ],
        winds=[
            action_schemas.UpwindOut(
                direction=w.direction,
                terrain=w.pressures[max(w.pressures)].terrain,
                directional=document.wind.directional.get(w.direction, 1.0),
                height=max(w.pressures),
                peak=w.pressures[max(w.pressures)].peak / 1000,
                course=list(
                    zip(heights.tolist(), (actions.wind_profile(document, w, heights) / 1000).tolist(), strict=True)
                ),
            )
            for w in actions.winds(document, structure)
        ],
        idle=[action_schemas.IdleOut(**vars(found)) for found in actions.idle(document, structure)],
        snow=[
            action_schemas.LyingOut(
                case=loading.cases[found.case].symbol,
                name=loading.cases[found.case].name,
                course=list(zip(found.x.tolist(), (found.pressure / 1000).tolist(), strict=True)),
            )
            for found in across(structure, loading, "snow")
        ],
    )


def _folds(roofs: list[Panel], x0: float, x1: float) -> list[float]:
    """Where slopes meet: edges of roofs within the plan."""
    edges = {round(float(x), 3) for p in roofs for x in (p.corners[:, 0].min(), p.corners[:, 0].max())}
    return sorted(x for x in edges if x0 + 0.01 < x < x1 - 0.01)


def _cut(panel: Panel) -> list[tuple[float, float]]:
    """A panel as a section across the building shows it: its two ends."""
    x, z = panel.corners[:, 0], panel.corners[:, 2]
    first, last = (int(i) for i in (np.lexsort((z, x))[0], np.lexsort((z, x))[-1]))
    return [(float(x[first]), float(z[first])), (float(x[last]), float(z[last]))]
