"""Shapes of sections, a file each: how their properties follow from dimensions, and their outlines by the name of the shape."""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

import numpy as np

from engine.catalogue.outlines import Ring, integrals
from engine.catalogue.properties import Section
from engine.catalogue.shapes import angles, channels, cold_formed, hollow, i_sections, latticed, pairs, solid, tees

#: what draws a shape about its own axes; shapes without are drawn by their sizes
OUTLINES: dict[str, Callable[[Section], list[Ring]]] = {
    **i_sections.OUTLINES,
    **hollow.OUTLINES,
    **channels.OUTLINES,
    **angles.OUTLINES,
    **tees.OUTLINES,
    **solid.OUTLINES,
    **cold_formed.OUTLINES,
    **pairs.OUTLINES,
}


def outline_of(s: Section) -> list[Ring]:
    """The outline of a section for drawing it, about its centroid, upright as its legs and flanges are (not turned to principal axes);
    nothing for one stated by its properties."""
    if s.latticed is not None:
        return latticed.chords_apart(outline_of(s.latticed.chord)[0], s.latticed)
    draw = OUTLINES.get(s.shape)
    rings = draw(s) if draw else []
    if not rings:
        return []
    middle = integrals(rings)
    return [ring - (middle.y, middle.z) for ring in rings]


#: shapes whose local axes are the principal ones, turned from their legs: their sides count by half of what they measure
TURNED = ("angle", "zed")


@cache
def sides_of(section: Section) -> tuple[float, float, float, float]:
    """How far a section reaches from its centroid: to the left and the right of who looks along the member (local y points to the left), upwards, downwards; m."""
    rings = [] if section.shape in TURNED else outline_of(section)
    if not rings:
        aside, half = (section.b or 0.0) / 2, (section.h or 0.0) / 2
        return aside, aside, half, half
    points = np.concatenate(rings)
    (right, down), (left, up) = points.min(axis=0).tolist(), points.max(axis=0).tolist()
    return left, -right, up, -down
