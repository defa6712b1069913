"""Haunches of members that came in: the triangles that are drawn below them."""

from __future__ import annotations

from typing import Any

import ifcopenshell.util.placement
import numpy as np

from engine.returned.model import ReturnedHaunch
from engine.structure.model import Floats

#: corners nearer than this are one, m
NEAR = 0.001


def haunches_of(product: Any, scale: float) -> list[ReturnedHaunch]:
    """The triangular plates in the body of a member beside the solid that it is extruded to, each as a haunch of its nearer end."""
    shapes = product.Representation.Representations if product.Representation else ()
    solids = [i for s in shapes for i in s.Items if i.is_a("IfcExtrudedAreaSolid")]
    if len(solids) < 2:
        return []
    place = _place(solids[0])
    way = place[:3, :3] @ np.array(solids[0].ExtrudedDirection.DirectionRatios, dtype=float)
    found = []
    for solid in solids[1:]:
        corners = _triangle(solid)
        if corners is not None:
            found.append(_haunch((corners - place[:3, 3]) * scale, way, float(solids[0].Depth) * scale))
    return found


def _place(solid: Any) -> Floats:
    if not solid.Position:
        return np.eye(4)
    return np.array(ifcopenshell.util.placement.get_axis2placement(solid.Position), dtype=float)


def _triangle(solid: Any) -> Floats | None:
    """(3, 3): corners of a solid's profile in the axes of its member; None of one that is no triangle."""
    curve = solid.SweptArea.OuterCurve if solid.SweptArea.is_a("IfcArbitraryClosedProfileDef") else None
    if curve is None or not curve.is_a("IfcPolyline"):
        return None
    points = np.array([p.Coordinates[:2] for p in curve.Points], dtype=float)
    if len(points) != 4 or np.abs(points[0] - points[-1]).max() > NEAR:
        return None
    place = _place(solid)
    return np.asarray(points[:3] @ place[:3, :2].T + place[:3, 3])


def _haunch(corners: Floats, way: Floats, length: float) -> ReturnedHaunch:
    """The corner that lies apart from the other two, across the member, is the deep one."""
    along = corners @ way
    across = corners - along[:, None] * way
    apart = np.linalg.norm(across[:, None] - across[None, :], axis=2)
    deep = int(apart.sum(axis=1).argmax())
    others = [k for k in range(3) if k != deep]
    return ReturnedHaunch(
        at_start=bool(along[deep] < length / 2),
        length=float(np.ptp(along)),
        depth=float(apart[deep, others].max()),
    )
