"""What a pressure on many surfaces would put on members, before it is taken."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel

from engine.actions.cases import Case, Loading
from engine.actions.panels import spread
from engine.actions.stated_panels import lay
from engine.document import Document
from engine.document.loads import AreaLoad
from engine.expand import expand
from server.projects import response_schemas, structure_schemas
from server.projects.response import line_loads


class LayIn(BaseModel):
    """A pressure as it would be kept."""

    load: AreaLoad


class LaidOut(BaseModel):
    """Where a pressure would lie: panels, their area in m², its resultant in kN along X, Y, Z, and the loads on members in kN/m; most:
    the largest of them."""

    panels: list[str]
    area: float
    total: structure_schemas.Triple
    members: int
    most: float
    loads: list[response_schemas.LoadOut]


def laid(document: Document, area: AreaLoad) -> LaidOut:
    """The loads on members that a pressure makes. Raises ModelError as it would be refused."""
    structure, loading = expand(document), Loading()
    loading.add_case(Case(area.case, "trial", "other"))
    panels = lay(loading, structure, area, {area.case: 0}, document.force, "load")
    table = spread(structure, loading)
    loads = line_loads(structure, table, np.ones(1), np.ones(len(table.member), dtype=bool))
    sizes = [float(np.linalg.norm(value)) for load in loads for value in (load.first, load.last)]
    x, y, z = (loading.expected[0] / 1000).tolist()
    return LaidOut(
        panels=[panel.name for panel in panels],
        area=sum(panel.area for panel in panels),
        total=(x, y, z),
        members=len({load.member for load in loads}),
        most=max(sizes, default=0.0),
        loads=loads,
    )
