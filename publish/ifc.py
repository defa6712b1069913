"""The model as IFC4: what is built (members with profiles, grid, storeys) and what is analysed (nodes, members, releases, supports, cases,
combinations). Names keep their identifiers from revision to revision."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.elements import local_axes
from engine.catalogue.properties import Section
from engine.catalogue.shapes import outline_of
from engine.chain import Forces, Loaded
from engine.structure.model import FREEDOMS, Floats, Member, Structure
from engine.structure.words import label

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
ANALYSED = {
    "beam": "RIGID_JOINED_MEMBER",
    "bar": "PIN_JOINED_MEMBER",
    "tension-only": "TENSION_MEMBER",
    "compression-only": "COMPRESSION_MEMBER",
    "rigid link": "RIGID_JOINED_MEMBER",
}
ACTIONS = {
    "permanent": ("PERMANENT_G", "DEAD_LOAD_G"),
    "imposed": ("VARIABLE_Q", "LIVE_LOAD_Q"),
    "snow": ("VARIABLE_Q", "SNOW_S"),
    "wind": ("VARIABLE_Q", "WIND_W"),
    "temperature": ("VARIABLE_Q", "TEMPERATURE_T"),
    "accidental": ("EXTRAORDINARY_A", "NOTDEFINED"),
    "seismic": ("EXTRAORDINARY_A", "EARTHQUAKE_E"),
    "imperfection": ("NOTDEFINED", "SYSTEM_IMPERFECTION"),
}
#: what this file does not bear, said in its head
LEFT_OUT = "Left out: flanges of haunches, tapers, restraints of flanges, panels, temperature, settlements, results."


class _Writer:
    """Entities with lasting identifiers."""

    def __init__(self, space: uuid.UUID) -> None:
        self.file = ifcopenshell.file(schema="IFC4")
        self.space = space
        self.points: dict[tuple[float, ...], Any] = {}
        self.directions: dict[tuple[float, ...], Any] = {}

    def make(self, kind: str, *values: Any, **named: Any) -> Any:
        return self.file.create_entity(kind, *values, **named)

    def guid(self, *key: str) -> str:
        """The identifier of something by its name."""
        found: str = ifcopenshell.guid.compress(uuid.uuid5(self.space, "/".join(key)).hex)
        return found

    def rooted(self, kind: str, key: tuple[str, ...], **values: Any) -> Any:
        return self.make(kind, GlobalId=self.guid(kind, *key), **values)

    def point(self, at: Iterable[float]) -> Any:
        key = tuple(round(float(v), 9) for v in at)
        if key not in self.points:
            self.points[key] = self.make("IfcCartesianPoint", key)
        return self.points[key]

    def direction(self, way: Iterable[float]) -> Any:
        key = tuple(round(float(v), 12) for v in way)
        if key not in self.directions:
            self.directions[key] = self.make("IfcDirection", key)
        return self.directions[key]

    def placement(
        self, at: Iterable[float], axis: Iterable[float] | None = None, ref: Iterable[float] | None = None
    ) -> Any:
        return self.make(
            "IfcAxis2Placement3D",
            self.point(at),
            self.direction(axis) if axis is not None else None,
            self.direction(ref) if ref is not None else None,
        )


def ifc(loaded: Loaded | Forces, name: str, space: uuid.UUID, revision: str) -> bytes:
    """The file. space: what the identifiers belong to, the same for every revision of a project."""
    w = _Writer(space)
    w.file.header.file_description.description = ("ViewDefinition [ReferenceView]", LEFT_OUT)
    w.file.header.file_name.name = f"{name}, {revision}"
    w.file.header.file_name.originating_system = "Lorica"
    units = [w.make("IfcSIUnit", None, kind, None, unit) for kind, unit in _UNITS]
    units.append(w.make("IfcSIUnit", None, "MASSUNIT", "KILO", "GRAM"))
    context = w.make("IfcGeometricRepresentationContext", None, "Model", 3, 1e-5, w.placement((0.0, 0.0, 0.0)))
    body, axis = (
        w.make(
            "IfcGeometricRepresentationSubContext",
            kind,
            "Model",
            None,
            None,
            None,
            None,
            context,
            None,
            "MODEL_VIEW" if kind == "Body" else "GRAPH_VIEW",
        )
        for kind in ("Body", "Reference")
    )
    project = w.rooted(
        "IfcProject",
        ("project",),
        Name=name,
        Description=revision,
        RepresentationContexts=[context],
        UnitsInContext=w.make("IfcUnitAssignment", units),
    )
    origin = w.make("IfcLocalPlacement", None, w.placement((0.0, 0.0, 0.0)))
    site = w.rooted("IfcSite", ("site",), Name="Site", ObjectPlacement=origin)
    building = w.rooted("IfcBuilding", ("building",), Name=name, ObjectPlacement=origin)
    structure = loaded.structure
    storeys = _storeys(w, structure, origin)
    for whole, parts in ((project, [site]), (site, [building]), (building, [s for _, s in storeys])):
        w.rooted("IfcRelAggregates", (whole.is_a(), "parts"), RelatingObject=whole, RelatedObjects=parts)
    materials = {m.material.name: m.material for m in structure.members}
    steel = {key: w.make("IfcMaterial", key, None, "steel") for key in materials}
    for key, material in materials.items():
        values = (
            ("YoungModulus", "IfcModulusOfElasticityMeasure", material.E),
            ("ShearModulus", "IfcModulusOfElasticityMeasure", material.G),
        )
        w.make(
            "IfcMaterialProperties",
            "Pset_MaterialMechanical",
            None,
            [w.make("IfcPropertySingleValue", n, None, w.make(t, v)) for n, t, v in values],
            steel[key],
        )
        density = w.make(
            "IfcPropertySingleValue", "MassDensity", None, w.make("IfcMassDensityMeasure", material.density)
        )
        w.make("IfcMaterialProperties", "Pset_MaterialCommon", None, [density], steel[key])
    profiles = {s.name: _profile(w, s) for s in {m.section.name: m.section for m in structure.members}.values()}
    sets: dict[tuple[str, str], tuple[Any, list[Any]]] = {}
    built = _built(w, structure, storeys, body, profiles)
    _grid(w, structure, storeys, body, origin)
    analysed = _analysed(w, loaded, axis, origin, name)
    for i, m in enumerate(structure.members):
        pair = (m.section.name, m.material.name)
        if pair not in sets:
            profile = w.make(
                "IfcMaterialProfile", m.section.name, None, steel[m.material.name], profiles[m.section.name]
            )
            sets[pair] = w.make("IfcMaterialProfileSet", " ".join(pair), None, [profile]), []
        sets[pair][1].extend((built[i], analysed[i]))
        w.rooted("IfcRelAssignsToProduct", (m.name,), RelatedObjects=[analysed[i]], RelatingProduct=built[i])
    for (section, grade), (set_, members) in sets.items():
        w.rooted("IfcRelAssociatesMaterial", (section, grade), RelatedObjects=members, RelatingMaterial=set_)
    return str(w.file.to_string()).encode()  # type: ignore[no-untyped-call]


_UNITS = (
    ("LENGTHUNIT", "METRE"),
    ("AREAUNIT", "SQUARE_METRE"),
    ("VOLUMEUNIT", "CUBIC_METRE"),
    ("PLANEANGLEUNIT", "RADIAN"),
    ("FORCEUNIT", "NEWTON"),
    ("PRESSUREUNIT", "PASCAL"),
)


def _storeys(w: _Writer, structure: Structure, origin: Any) -> list[tuple[float, Any]]:
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


def _profile(w: _Writer, s: Section) -> Any:
    """The profile of a section: by its dimensions where IFC has the shape, else by its outline."""
    name = s.name
    if s.shape == "I" and not s.b2 and not s.h2:
        return w.make("IfcIShapeProfileDef", "AREA", name, None, s.b, s.h, s.tw, s.tf, s.r or None)
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
    curves = [w.make("IfcPolyline", [w.point(p) for p in (*ring.tolist(), ring[0].tolist())]) for ring in rings]
    if len(curves) > 1:
        return w.make("IfcArbitraryProfileDefWithVoids", "AREA", name, curves[0], curves[1:])
    return w.make("IfcArbitraryClosedProfileDef", "AREA", name, curves[0])


def _axes(structure: Structure, m: Member) -> Floats:
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    found: Floats = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    return found


def _built(
    w: _Writer, structure: Structure, storeys: list[tuple[float, Any]], body: Any, profiles: dict[str, Any]
) -> list[Any]:
    """What is built of each member, in its storey."""
    found, inside = [], {height: [] for height, _ in storeys}  # type: ignore[var-annotated]
    for m in structure.members:
        start, end = structure.xyz[m.nodes[0]], structure.xyz[m.nodes[-1]]
        axes = _axes(structure, m)
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


def _haunches(w: _Writer, m: Member, length: float) -> list[Any]:
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


def _grid(w: _Writer, structure: Structure, storeys: list[tuple[float, Any]], body: Any, origin: Any) -> None:
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


def _analysed(w: _Writer, loaded: Loaded | Forces, axis: Any, origin: Any, name: str) -> list[Any]:
    """What is analysed of each member, its nodes, supports, releases, cases and combinations."""
    structure = loaded.structure
    vertices = [w.make("IfcVertexPoint", w.point(at)) for at in structure.xyz.tolist()]
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    nodes = []
    for i, node in enumerate(structure.nodes):
        shape = w.make("IfcTopologyRepresentation", axis, "Reference", "Vertex", [vertices[i]])
        condition = None
        if held[i]:
            stiffness = [
                w.make("IfcBoolean", True) if structure.fixed[i, k]
                else w.make("IfcLinearStiffnessMeasure" if k < 3 else "IfcRotationalStiffnessMeasure", float(structure.springs[i, k])) if structure.springs[i, k]
                else w.make("IfcBoolean", False)
                for k in range(6)
            ]  # fmt: skip
            condition = w.make("IfcBoundaryNodeCondition", f"support {node}", *stiffness)
        nodes.append(
            w.rooted(
                "IfcStructuralPointConnection",
                (node,),
                Name=node,
                ObjectPlacement=origin,
                Representation=w.make("IfcProductDefinitionShape", None, None, [shape]),
                AppliedCondition=condition,
            )
        )
    members = []
    for m in structure.members:
        edge = w.make("IfcEdge", vertices[m.nodes[0]], vertices[m.nodes[-1]])
        shape = w.make("IfcTopologyRepresentation", axis, "Reference", "Edge", [edge])
        up = _axes(structure, m)[2]
        member = w.rooted(
            "IfcStructuralCurveMember", (m.name,), Name=m.name, ObjectPlacement=origin, Axis=w.direction(up),
            Representation=w.make("IfcProductDefinitionShape", None, None, [shape]), PredefinedType=ANALYSED[m.behaviour],
        )  # fmt: skip
        members.append(member)
        for k, at in enumerate(m.nodes):
            free = m.release_start if k == 0 else m.release_end if k == len(m.nodes) - 1 else frozenset()
            springs = dict(m.springs_start if k == 0 else m.springs_end if k == len(m.nodes) - 1 else ())
            w.rooted(
                "IfcRelConnectsStructuralMember", (m.name, structure.nodes[at]),
                RelatingStructuralMember=member, RelatedStructuralConnection=nodes[at],
                AppliedCondition=_release(w, free, springs) if free or springs else None,
            )  # fmt: skip
    cases = _cases(w, loaded, members, nodes, origin)
    groups = [*cases, *_combinations(w, loaded.combinations, cases)]
    model = w.rooted("IfcStructuralAnalysisModel", ("model",), Name=name, PredefinedType="LOADING_3D", LoadedBy=groups)
    w.rooted("IfcRelAssignsToGroup", ("model",), RelatedObjects=[*members, *nodes], RelatingGroup=model)
    return members


def _release(w: _Writer, free: frozenset[str], springs: dict[str, float]) -> Any:
    """What holds at a released end, in the member's axes."""
    values = [
        w.make("IfcLinearStiffnessMeasure" if k < 3 else "IfcRotationalStiffnessMeasure", springs[f]) if f in springs
        else w.make("IfcBoolean", f not in free)
        for k, f in enumerate(FREEDOMS)
    ]  # fmt: skip
    return w.make("IfcBoundaryNodeCondition", "release", *values)


def _cases(w: _Writer, loaded: Loaded | Forces, members: list[Any], nodes: list[Any], origin: Any) -> list[Any]:
    loading, structure = loaded.loading, loaded.structure
    table = loading.table(structure)
    found = []
    for number, case in enumerate(loading.cases):
        actions = []
        for k in np.flatnonzero(table.case == number).tolist():
            loads = [
                w.make("IfcStructuralLoadLinearForce", None, *v.tolist(), 0.0, 0.0, 0.0)
                for v in (table.first[k], table.last[k])
            ]
            spread = w.make(
                "IfcStructuralLoadConfiguration", None, loads, [[float(table.start[k])], [float(table.end[k])]]
            )
            action = w.rooted(
                "IfcStructuralCurveAction", (case.symbol, str(k)), ObjectPlacement=origin, AppliedLoad=spread,
                GlobalOrLocal="GLOBAL_COORDS", ProjectedOrTrue="TRUE_LENGTH", PredefinedType="LINEAR",
            )  # fmt: skip
            member = members[int(table.member[k])]
            w.rooted(
                "IfcRelConnectsStructuralActivity",
                (case.symbol, str(k)),
                RelatingElement=member,
                RelatedStructuralActivity=action,
            )
            actions.append(action)
        for n, point in enumerate(loading.points):
            if point.case != number or point.node < 0:
                continue
            force = w.make("IfcStructuralLoadSingleForce", None, *point.force.tolist(), *point.moment.tolist())
            action = w.rooted(
                "IfcStructuralPointAction",
                (case.symbol, f"point {n}"),
                ObjectPlacement=origin,
                AppliedLoad=force,
                GlobalOrLocal="GLOBAL_COORDS",
            )
            w.rooted(
                "IfcRelConnectsStructuralActivity",
                (case.symbol, f"point {n}"),
                RelatingElement=nodes[point.node],
                RelatedStructuralActivity=action,
            )
            actions.append(action)
        kind, source = ACTIONS.get(case.nature, ("NOTDEFINED", "NOTDEFINED"))
        group = w.rooted(
            "IfcStructuralLoadCase",
            (case.symbol,),
            Name=case.symbol,
            Description=case.name,
            PredefinedType="LOAD_CASE",
            ActionType=kind,
            ActionSource=source,
        )
        if actions:
            w.rooted("IfcRelAssignsToGroup", (case.symbol,), RelatedObjects=actions, RelatingGroup=group)
        found.append(group)
    return found


def _combinations(w: _Writer, combinations: list[Combination], cases: list[Any]) -> list[Any]:
    found = []
    for c in combinations:
        group = w.rooted(
            "IfcStructuralLoadGroup", (c.name,), Name=c.name, Description=c.formula, PredefinedType="LOAD_COMBINATION",
            ActionType="NOTDEFINED", ActionSource="NOTDEFINED", Purpose=c.use,
        )  # fmt: skip
        for k in np.flatnonzero(c.factors).tolist():
            w.rooted(
                "IfcRelAssignsToGroupByFactor",
                (c.name, cases[k].Name),
                RelatedObjects=[cases[k]],
                RelatingGroup=group,
                Factor=float(c.factors[k]),
            )
        found.append(group)
    return found
