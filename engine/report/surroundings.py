"""The building in its surroundings: its plan, what stands against the wind on each side, the snow that lies on it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.across import across
from engine.actions.derived import Idle
from engine.chain import Chain
from engine.standards.family import family
from engine.structure.model import Panel

#: heights at which the course of q_p is told
STEPS = 24
#: how far above the building's top it goes, as a multiple of its height
BEYOND = 1.3
Course = list[tuple[float, float]]


@dataclass(frozen=True)
class Upwind:
    """What stands against the wind from one direction: c_dir; q_p in kN/m² at z_e, and its course over heights in m."""

    direction: str
    terrain: str
    directional: float
    height: float
    peak: float
    course: Course


@dataclass(frozen=True)
class Lying:
    """Snow of a case across the building, in kN/m² of plan: (x in m, s), linear between."""

    case: str
    name: str
    course: Course


@dataclass(frozen=True)
class Surroundings:
    """The building in metres: its plan from (x0, y0) to (x1, y1), ridges and valleys as x across it, the section across its middle as lines of
    (x, z), ground level. height: of its top above the ground."""

    x0: float
    x1: float
    y0: float
    y1: float
    ground: float
    height: float
    folds: list[float]
    section: list[Course]
    winds: list[Upwind]
    idle: list[Idle]
    snow: list[Lying]


def surroundings(chain: Chain) -> Surroundings | None:
    """None where no building stands that snow and wind act on."""
    structure, loading = chain.structure, chain.loading
    roofs = [p for p in structure.panels if p.kind == "roof"]
    if structure.envelope is None or not roofs:
        return None
    corners = np.concatenate([p.corners for p in roofs])
    (x0, y0), (x1, y1) = corners.min(axis=0)[:2].tolist(), corners.max(axis=0)[:2].tolist()
    ground = structure.envelope.ground
    top = float(corners[:, 2].max()) - ground
    walls = [p for p in structure.panels if p.side in ("left", "right") and p.kind == "wall"]
    return Surroundings(
        x0=x0,
        x1=x1,
        y0=y0,
        y1=y1,
        ground=ground,
        height=top,
        folds=_folds(roofs, x0, x1),
        section=[_cut(p) for p in (*roofs, *walls)],
        winds=_winds(chain, np.linspace(0.0, top * BEYOND, STEPS + 1)),
        idle=list(family(chain.document).idle(chain.document, structure)),
        snow=[
            Lying(
                loading.cases[found.case].symbol,
                loading.cases[found.case].name,
                list(zip(found.x.tolist(), (found.pressure / 1000).tolist(), strict=True)),
            )
            for found in across(structure, loading, "snow")
        ],
    )


def _winds(chain: Chain, heights: np.ndarray) -> list[Upwind]:
    document, actions = chain.document, family(chain.document)
    found = []
    for wind in actions.winds(document, chain.structure):
        height = max(wind.pressures)
        at = wind.pressures[height]
        course = (actions.wind_profile(document, wind, heights) / 1000).tolist()
        directional = document.wind.directional.get(wind.direction, 1.0)
        found.append(
            Upwind(
                wind.direction,
                at.terrain,
                directional,
                height,
                at.peak / 1000,
                list(zip(heights.tolist(), course, strict=True)),
            )
        )
    return found


def _folds(roofs: list[Panel], x0: float, x1: float) -> list[float]:
    """Where slopes meet: edges of roofs within the plan."""
    edges = {round(float(x), 3) for p in roofs for x in (p.corners[:, 0].min(), p.corners[:, 0].max())}
    return sorted(x for x in edges if x0 + 0.01 < x < x1 - 0.01)


def _cut(panel: Panel) -> Course:
    """A panel as a section across the building shows it: its two ends."""
    x, z = panel.corners[:, 0], panel.corners[:, 2]
    first, last = (int(i) for i in (np.lexsort((z, x))[0], np.lexsort((z, x))[-1]))
    return [(float(x[first]), float(z[first])), (float(x[last]), float(z[last]))]
