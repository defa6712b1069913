"""What is built: storeys, grid, members with their profiles."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.outlines import is_hole
from engine.catalogue.properties import Section
from engine.catalogue.shapes import outline_of
from engine.structure.model import Member, Structure
from engine.structure.words import label
from publish.ifc.writer import Writer, axes_of

#: role -> class and kind of what is built
BUILT = {
    "column": ("IfcColumn", "COLUMN"),
    "gable post": ("IfcColumn", "COLUMN"),
    "rafter": ("IfcBeam", "BEAM"),
    "main beam": ("IfcBeam", "BEAM"),
    "eaves beam": ("IfcBeam", "BEAM"),
    "ridge beam": ("IfcBeam", "BEAM"),
    "joist": ("IfcBeam", "JOIST"),
    "purlin": ("IfcMember", "PURLIN"),
    "side rail": ("IfcMember", "MEMBER"),
    "top chord": ("IfcMember", "CHORD"),
    "bottom chord": ("IfcMember", "CHORD"),
    "web": ("IfcMember", "STRUT"),
    "roof bracing": ("IfcMember", "BRACE"),
    "wall bracing": ("IfcMember", "BRACE"),
    "knee brace": ("IfcMember", "BRACE"),
    "strut": ("IfcMember", "STRUT"),
    "tie": ("IfcMember", "MEMBER"),
}


def storeys_of(w: Writer, structure: Structure, origin: Any) -> list[tuple[float, Any]]:
    """Storeys by their height, lowest first; one at the lowest node."""
    low = float(structure.xyz[:, 2].min())
    heights = {round(low, 3): "Base"} | {round(v.height, 3): v.name for v in structure.levels}
    found = []
    for height, name in sorted(heights.items()):
        place = w.make("IfcLocalPlacement", origin, w.placement((0.0, 0.0, height)))
        found.append(
            (height, w.rooted("IfcBuildingStorey", (name,), Name=name, ObjectPlacement=place, Elevation=height))
        )
    return found


def profile_of(w: Writer, s: Section) -> Any:
    """The profile of a section: by its dimensions where IFC has the shape, else by its outline."""
    name = s.name
    if s.shape == "I" and not s.b2 and not s.h2:
        return w.make("IfcIShapeProfileDef", "AREA", name, None, s.b, s.h, s.tw, s.tf, s.r or None)
    if s.shape == "welded I":
        # its middle is that of what is drawn, its axis the centroid
        low, high = (float(f(outline_of(s)[0][:, 1])) for f in (np.min, np.max))
        at = w.make("IfcAxis2Placement2D", w.point((0.0, (low + high) / 2)), None)
        return w.make(
            "IfcAsymmetricIShapeProfileDef",
            "AREA",
            name,
            at,
            s.b2 or s.b,
            s.h,
            s.tw,
            s.tf2 or s.tf,
            None,
            s.b,
            s.tf,
        )
    if s.shape in ("square", "rectangular"):
        return w.make(
            "IfcRectangleHollowProfileDef",
            "AREA",
            name,
            None,
            s.b,
            s.h,
            s.tw,
            max(s.r - s.tw, 0.0) or None,
            s.r or None,
        )
    if s.shape == "circular":
        return w.make("IfcCircleHollowProfileDef", "AREA", name, None, s.h / 2, s.tw)
    if s.shape == "round":
        return w.make("IfcCircleProfileDef", "AREA", name, None, s.h / 2)
    rings = outline_of(s)
    if not rings:
        # known by its properties alone: a square of its area stands for it
        side = float(np.sqrt(s.A))
        return w.make("IfcRectangleProfileDef", "AREA", name, None, side, side)
    outside, holes = (
        [
            w.make("IfcPolyline", [w.point(p) for p in (*ring.tolist(), ring[0].tolist())])
            for ring in rings
            if hole == is_hole(ring)
        ]
        for hole in (False, True)
    )
    if len(outside) > 1:
        # two of one, side by side
        parts = [w.make("IfcArbitraryClosedProfileDef", "AREA", name, curve) for curve in outside]
        return w.make("IfcCompositeProfileDef", "AREA", name, parts, None)
    if holes:
        return w.make("IfcArbitraryProfileDefWithVoids", "AREA", name, outside[0], holes)
    return w.make("IfcArbitraryClosedProfileDef", "AREA", name, outside[0])


def built_of(
    w: Writer, structure: Structure, storeys: list[tuple[float, Any]], body: Any, profiles: dict[str, Any]
) -> list[Any]:
    """What is built of each member, in its storey."""
    found, inside = [], {height: [] for height, _ in storeys}  # type: ignore[var-annotated]
    for m in structure.members:
        start, end = structure.xyz[m.nodes[0]], structure.xyz[m.nodes[-1]]
        axes = axes_of(structure, m)
        foot = start + m.offset[0] * axes[1] + m.offset[1] * axes[2]
        height, storey = [row for row in storeys if row[0] <= min(start[2], end[2]) + 1e-3][-1]
        up = np.array([0.0, 0.0, height])
        place = w.make("IfcLocalPlacement", storey.ObjectPlacement, w.placement(foot - up, axes[0], axes[1]))
        length = float(np.linalg.norm(end - start))
        solids = [w.make("IfcExtrudedAreaSolid", profiles[m.section.name], None, w.direction((0.0, 0.0, 1.0)), length)]
        solids += _haunches(w, m, length)
        shape = w.make("IfcShapeRepresentation", body, "Body", "SweptSolid", solids)
        kind, predefined = BUILT.get(m.role, ("IfcMember", "MEMBER"))
        product = w.rooted(
            kind, (m.name,), Name=m.name, Description=label(m), ObjectType=m.role, ObjectPlacement=place,
            Representation=w.make("IfcProductDefinitionShape", None, None, [shape]), Tag=m.section.name, PredefinedType=predefined,
        )  # fmt: skip
        found.append(product)
        inside[height].append(product)
        values = [("Reference", "IfcIdentifier", m.section.name), ("LoadBearing", "IfcBoolean", True)]
        common = [w.make("IfcPropertySingleValue", n, None, w.make(t, v)) for n, t, v in values]
        pset = w.rooted(
            "IfcPropertySet", (m.name, "common"), Name=f"Pset_{kind.removeprefix('Ifc')}Common", HasProperties=common
        )
        w.rooted(
            "IfcRelDefinesByProperties", (m.name, "common"), RelatedObjects=[product], RelatingPropertyDefinition=pset
        )
    for height, storey in storeys:
        if inside[height]:
            w.rooted(
                "IfcRelContainedInSpatialStructure",
                (storey.Name,),
                RelatedElements=inside[height],
                RelatingStructure=storey,
            )
    return found


def _haunches(w: Writer, m: Member, length: float) -> list[Any]:
    """Webs of haunches below a member, as triangles of its web's thickness."""
    solids = []
    for haunch, foot, way in zip(m.haunches, (0.0, length), (1.0, -1.0), strict=True):
        if haunch is None:
            continue
        h, t = m.section.h / 2, m.section.tw
        # in the plane of local x (here z) and z (here y)
        corners = [(foot, -h), (foot + way * haunch.length, -h), (foot, -h - haunch.depth), (foot, -h)]
        outline = w.make("IfcPolyline", [w.point(p) for p in corners])
        profile = w.make("IfcArbitraryClosedProfileDef", "AREA", f"haunch of {m.section.name}", outline)
        # its first axis runs along the member (here Z), its second along local z (here Y)
        at = w.placement((t / 2, 0.0, 0.0), (-1.0, 0.0, 0.0), (0.0, 0.0, 1.0))
        solids.append(w.make("IfcExtrudedAreaSolid", profile, at, w.direction((0.0, 0.0, 1.0)), t))
    return solids


def grid_of(w: Writer, structure: Structure, storeys: list[tuple[float, Any]], body: Any, origin: Any) -> None:
    """The grid at ±0, each line a metre beyond the building."""
    across = [line for line in structure.grid if line.axis == "X"]
    along = [line for line in structure.grid if line.axis == "Y"]
    if not across or not along:
        return
    (x0, y0), (x1, y1) = structure.xyz[:, :2].min(axis=0) - 1, structure.xyz[:, :2].max(axis=0) + 1

    def line(name: str, a: tuple[float, float], b: tuple[float, float]) -> Any:
        return w.make("IfcGridAxis", name, w.make("IfcPolyline", [w.point(a), w.point(b)]), True)

    u = [line(one.name, (one.at, float(y0)), (one.at, float(y1))) for one in across]
    v = [line(one.name, (float(x0), one.at), (float(x1), one.at)) for one in along]
    curves = w.make("IfcGeometricCurveSet", [axis.AxisCurve for axis in (*u, *v)])
    shape = w.make("IfcShapeRepresentation", body, "FootPrint", "GeometricCurveSet", [curves])
    grid = w.rooted(
        "IfcGrid", ("grid",), Name="Grid", ObjectPlacement=origin, UAxes=u, VAxes=v,
        Representation=w.make("IfcProductDefinitionShape", None, None, [shape]),
    )  # fmt: skip
    w.rooted("IfcRelContainedInSpatialStructure", ("grid",), RelatedElements=[grid], RelatingStructure=storeys[0][1])
