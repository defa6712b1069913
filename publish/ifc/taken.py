"""IFC4 taken in, Lorica's own and that of others: what was understood, what was guessed, what was left out, before anything is taken.

Where a file bears a structural analysis model, that is read; else the axes of extruded beams, columns and members.
"""

from __future__ import annotations

from collections import Counter
from math import atan2, degrees
from typing import Any, get_args

import ifcopenshell.util.placement
import ifcopenshell.util.unit
import numpy as np

from engine.document import FORMAT_VERSION
from engine.document.base import Role
from engine.errors import ModelError
from engine.structure.axes import local_axes
from engine.structure.model import FREEDOMS, Floats
from publish.ifc.links import PASSING, rigid_links
from publish.ifc.made_of import MadeOf
from publish.ifc.opening import opened
from publish.meet import GAPS, Met, meet, said
from publish.taken import Reader, Settled, Taken

#: ends nearer than this are one node, metres
NEAR = 0.002
BEHAVIOURS = {
    "PIN_JOINED_MEMBER": "bar",
    "TENSION_MEMBER": "tension-only",
    "COMPRESSION_MEMBER": "compression-only",
    "CABLE": "tension-only",
}
ROLES = {"IfcColumn": "column", "IfcBeam": "member", "IfcMember": "member"}
USES = ("strength", "accidental", "uplift", "deflection", "variable", "frequent", "quasi-permanent")
NATURES = {
    "DEAD_LOAD_G": "permanent",
    "PERMANENT_G": "permanent",
    "SNOW_S": "snow",
    "WIND_W": "wind",
    "LIVE_LOAD_Q": "imposed",
    "VARIABLE_Q": "imposed",
    "EXTRAORDINARY_A": "accidental",
    "SYSTEM_IMPERFECTION": "imperfection",
}


def taken(data: bytes, settled: Settled | None = None) -> Taken:
    """The document that an IFC file becomes. Raises ModelError with one sentence for a file that is none, of another schema, or empty."""
    return opened(data, lambda file: IfcReader(file, settled or {}).read())


class IfcReader(Reader):
    """An opened file, read member by member."""

    def __init__(self, file: Any, settled: Settled) -> None:
        super().__init__(settled)
        self.file = file
        self.scale = float(ifcopenshell.util.unit.calculate_unit_scale(file))
        self.nodes: list[tuple[str, Floats]] = []
        self.names: dict[str, int] = {}
        #: members by the number of their entity: several may bear one name in a file
        self.members: dict[int, str] = {}
        self.plain = self.in_newton()
        self.alike: Counter[str] = Counter()
        self.made = MadeOf(self.scale, lambda name: self.unique("s", name), self.alike, settled)

    def read(self) -> Taken:
        curves = self.file.by_type("IfcStructuralCurveMember")
        products = [p for kind in ROLES for p in self.file.by_type(kind)]
        if not curves and not products:
            raise ModelError("The file holds no structural member, beam, column or member.")
        project = (self.file.by_type("IfcProject") or [None])[0]
        document: dict[str, Any] = {
            "version": FORMAT_VERSION,
            "units": "N, m",
            "name": ((project and project.Name) or "From IFC")[:80],
        }
        if curves:
            for connection in self.file.by_type("IfcStructuralPointConnection"):
                self.node(self.vertex(connection.Representation.Representations[0].Items[0]), connection.Name)
            document["members"] = [m for m in map(self.curve, curves) if m]
            document["supports"] = list(self.supports())
            if self.plain:
                document |= self.loads()
            else:
                self.taken.left_out.append(
                    "All loads, combinations and springs: the file states them in other units than newton and metre."
                )
            surfaces = len(self.file.by_type("IfcStructuralSurfaceMember"))
            if surfaces:
                self.taken.left_out.append(f"{surfaces} surfaces of the analysis model.")
            self.taken.understood.append(
                f"The structural analysis model: {len(document['members'])} members, {len(self.nodes)} nodes, {len(document['supports'])} supports."
            )
        else:
            document["members"] = self.joined(products)
            self.taken.understood.append(f"Axes of {len(document['members'])} extruded beams, columns and members.")
            self.taken.guessed.append(
                "What meets is joined rigidly; there are no supports and no loads in such a file."
            )
        document |= self.lines()
        self.taken.left_out.append(
            "Haunches, tapers, what holds the flanges of members sideways, cladding and floors: such a file does not bear them. Until "
            "restraints are put, members count as held at their ends alone."
        )
        document["nodes"] = [{"name": name, "at": [float(v) for v in at]} for name, at in self.nodes]
        document["sections"] = list(self.made.own.values())
        document["built_sections"] = list(self.made.built.values())
        self.taken.choices += self.made.choices()
        for words, count in self.alike.items():
            self.taken.guessed.append(f"{words} ({count}).")
        self.taken.document = document
        return self.taken

    def in_newton(self) -> bool:
        """Whether forces per length and moments are in newton and metre: other units are not converted, so nothing of them is taken."""
        force = float(ifcopenshell.util.unit.calculate_unit_scale(self.file, "FORCEUNIT"))
        derived = {unit.UnitType for unit in self.file.by_type("IfcDerivedUnit")}
        stated = {"LINEARFORCEUNIT", "TORQUEUNIT", "LINEARSTIFFNESSUNIT", "ROTATIONALSTIFFNESSUNIT"}
        return self.scale == 1.0 and force == 1.0 and not derived & stated

    def lines(self) -> dict[str, Any]:
        """Grid lines along X and Y, and levels at the storeys."""
        grid: list[dict[str, Any]] = []
        for axis in self.file.by_type("IfcGridAxis"):
            points = [np.array(p.Coordinates[:2]) * self.scale for p in getattr(axis.AxisCurve, "Points", ())]
            if len(points) != 2:
                continue
            across = np.abs(points[1] - points[0])
            if min(across) < NEAR:
                k = int(np.argmin(across))
                name = self.unique("grid", (axis.AxisTag or f"{len(grid) + 1}")[:4])
                grid.append({"name": name, "axis": "XY"[k], "at": float(points[0][k])})
        levels = [
            {
                "name": self.unique("level", (storey.Name or "level")[:24]),
                "height": float(storey.Elevation) * self.scale,
            }
            for storey in self.file.by_type("IfcBuildingStorey")
            if storey.Elevation is not None
        ]
        return {"grid": grid, "levels": levels}

    def node(self, at: Floats, name: str | None = None) -> str:
        """The node at a place, made if there is none."""
        for known, where in self.nodes:
            if float(np.linalg.norm(where - at)) < NEAR:
                return known
        self.nodes.append((self.unique("n", name or f"n{len(self.nodes) + 1}"), at))
        return self.nodes[-1][0]

    def unique(self, kind: str, name: str) -> str:
        """A name that nothing of its kind bears yet."""
        name = name[:70]
        key = f"{kind} {name}"
        self.names[key] = self.names.get(key, 0) + 1
        return name if self.names[key] == 1 else f"{name} ({self.names[key]})"

    def vertex(self, vertex: Any) -> Floats:
        return np.array(vertex.VertexGeometry.Coordinates, dtype=float) * self.scale

    def curve(self, member: Any) -> dict[str, Any] | None:
        edge = member.Representation.Representations[0].Items[0]
        if not edge.is_a("IfcEdge"):
            self.taken.left_out.append(f"{member.Name}: its axis is no straight edge.")
            return None
        ends = [self.vertex(edge.EdgeStart), self.vertex(edge.EdgeEnd)]
        start, end = (self.node(at) for at in ends)
        built = next((r.RelatingProduct for r in member.HasAssignments if r.is_a("IfcRelAssignsToProduct")), None)
        found: dict[str, Any] = {"name": self.unique("m", member.Name or "member"), "start": start, "end": end}
        found |= self.made_of(member)
        found["role"] = self.role(built or member)
        if member.PredefinedType in BEHAVIOURS:
            found["behaviour"] = BEHAVIOURS[member.PredefinedType]
        found |= self.roll(ends, np.array(member.Axis.DirectionRatios, dtype=float)) if member.Axis else {}
        self.members[member.id()] = found["name"]
        releases: dict[str, Any] = {}
        for relation in member.ConnectedBy or ():
            condition = relation.AppliedCondition
            name = self.node(
                self.vertex(relation.RelatedStructuralConnection.Representation.Representations[0].Items[0])
            )
            if condition is None or name not in (start, end):
                continue
            where = "start" if name == start else "end"
            for k, freedom in enumerate(FREEDOMS):
                value = condition[k + 1].wrappedValue if condition[k + 1] is not None else True
                if value is False:
                    releases.setdefault(where, []).append(freedom)
                elif value is not True and self.plain:
                    releases.setdefault(f"{where}_springs", {})[freedom] = float(value)
        return found | ({"releases": releases} if releases else {})

    def joined(self, products: list[Any]) -> list[dict[str, Any]]:
        """Beams, columns and members by their axes, whose ends meet within the gap that is chosen."""
        gap = GAPS[self.choose("", "gap", "Ends that meet are within", "2", {key: f"{key} mm" for key in GAPS})]
        parts = [part for product in products if (part := self.product(product))]
        if not parts:
            raise ModelError("The file holds no beam, column or member that is extruded along an axis.")
        met = meet(np.array([ends for _, ends in parts]), gap)
        guessed, left = said(met)
        self.taken.guessed += guessed
        self.taken.left_out += left
        self.nodes = [(f"n{k + 1}", at) for k, at in enumerate(met.nodes)]
        found = []
        for k, (start, end) in zip(met.kept.tolist(), met.ends.tolist(), strict=True):
            found.append(parts[k][0] | {"start": self.nodes[start][0], "end": self.nodes[end][0]})
        return found + self.linked(met, found)

    def linked(self, met: Met, members: list[dict[str, Any]]) -> list[dict[str, Any]]:
        """Rigid links between members that pass each other, where that is asked for."""
        words = {key: f"{key} mm" if value else "not at all" for key, value in PASSING.items()}
        within = PASSING[self.choose("", "passing", "Members that pass each other are joined within", "0", words)]
        links, said_of = rigid_links(met, members, self.nodes, within)
        self.taken.guessed += said_of
        return [{**link, "name": self.unique("m", link["name"])} for link in links]

    def product(self, product: Any) -> tuple[dict[str, Any], list[Floats]] | None:
        """A beam, column or member by the solid that it is extruded to, and its ends."""
        shapes = product.Representation.Representations if product.Representation else ()
        solid = next((whole for s in shapes for i in s.Items if (whole := _extruded(i)) is not None), None)
        if solid is None:
            self.taken.left_out.append(f"{product.Name or product.is_a()}: it is not extruded along an axis.")
            return None
        place = np.array(ifcopenshell.util.placement.get_local_placement(product.ObjectPlacement), dtype=float)
        if solid.Position:
            place = place @ np.array(ifcopenshell.util.placement.get_axis2placement(solid.Position), dtype=float)
        way = place[:3, :3] @ np.array(solid.ExtrudedDirection.DirectionRatios, dtype=float)
        ends = [place[:3, 3] * self.scale, (place[:3, 3] + way * solid.Depth) * self.scale]
        found: dict[str, Any] = {"name": self.unique("m", product.Name or product.is_a())}
        found |= self.made_of(product, solid.SweptArea)
        found["role"] = self.role(product)
        return found | self.roll(ends, place[:3, 1]), ends

    def roll(self, ends: list[Floats], up: Floats) -> dict[str, float]:
        """The roll that turns the usual local z to a direction."""
        axes = local_axes(ends[0][None], ends[1][None], np.zeros(1))[0]
        angle = degrees(atan2(-float(up @ axes[1]), float(up @ axes[2])))
        # half a turn either way is one
        angle = 180.0 if angle < -180 + 1e-6 else angle
        return {"roll": round(angle, 6)} if abs(angle) > 1e-6 else {}

    def role(self, product: Any) -> str:
        stated = (product.ObjectType or "").lower()
        if stated in get_args(Role):
            return stated
        return ROLES.get(product.is_a(), "member")

    def made_of(self, product: Any, profile: Any = None) -> dict[str, str]:
        """Section and grade from the profile set, or from the profile that is extruded."""
        stated, grade = self.material_of(product)
        return {"section": self.made.section(stated or profile), "material": self.made.material(grade)}

    def material_of(self, product: Any) -> tuple[Any, str]:
        """The profile of the profile set, None where there is none, and the name of the material."""
        profile, grade = None, ""
        for relation in product.HasAssociations or ():
            material = relation.RelatingMaterial if relation.is_a("IfcRelAssociatesMaterial") else None
            if material is not None and material.is_a("IfcMaterialProfileSetUsage"):
                material = material.ForProfileSet
            if material is not None and material.is_a("IfcMaterialProfileSet"):
                own = material.MaterialProfiles[0]
                profile, grade = own.Profile or profile, own.Material.Name if own.Material else ""
            elif material is not None and material.is_a("IfcMaterial"):
                grade = material.Name
        return profile, grade.strip()

    def supports(self) -> Any:
        for connection in self.file.by_type("IfcStructuralPointConnection"):
            condition = connection.AppliedCondition
            if condition is None or not condition.is_a("IfcBoundaryNodeCondition"):
                continue
            fixed, springs = [], {}
            for k, freedom in enumerate(FREEDOMS):
                value = condition[k + 1].wrappedValue if condition[k + 1] is not None else False
                if value is True:
                    fixed.append(freedom)
                elif value is not False and value and self.plain:
                    springs[freedom] = float(value)
            if fixed or springs:
                node = self.node(self.vertex(connection.Representation.Representations[0].Items[0]))
                yield {"node": node, "fixed": fixed, "springs": springs}

    def loads(self) -> dict[str, Any]:
        """Cases with loads on members and nodes in global axes, and combinations by factor."""
        cases: list[dict[str, Any]] = []
        lines: list[dict[str, Any]] = []
        points: list[dict[str, Any]] = []
        combinations: list[dict[str, Any]] = []
        of: dict[int, str] = {}
        for group in self.file.by_type("IfcStructuralLoadGroup"):
            if group.PredefinedType == "LOAD_COMBINATION":
                continue
            name = self.unique("case", group.Name or "case")
            of[group.id()] = name
            nature = NATURES.get(group.ActionSource) or NATURES.get(group.ActionType) or "other"
            cases.append({"name": name, "nature": nature})
            if any(getattr(group, "SelfWeightCoefficients", None) or ()):
                self.taken.left_out.append(f"{name}: self-weight by a factor; mark the case as self-weight.")
            if group.Coefficient not in (None, 1.0):
                self.taken.left_out.append(f"{name}: its coefficient {group.Coefficient:g}; loads are as they stand.")
            for relation in group.IsGroupedBy or ():
                for action in relation.RelatedObjects:
                    self.action(action, name, lines, points)
        for group in self.file.by_type("IfcStructuralLoadGroup"):
            if group.PredefinedType == "LOAD_COMBINATION":
                parts = [(r, case) for r in group.IsGroupedBy or () for case in r.RelatedObjects]
                by_factor = all(r.is_a("IfcRelAssignsToGroupByFactor") and case.id() in of for r, case in parts)
                if not parts or not by_factor or group.Coefficient not in (None, 1.0):
                    self.taken.left_out.append(f"Combination {group.Name}: it is not made of cases by factors alone.")
                    continue
                factors: dict[str, float] = {}
                for r, case in parts:
                    factors[of[case.id()]] = factors.get(of[case.id()], 0.0) + float(r.Factor)
                if factors:
                    use = group.Purpose if group.Purpose in USES else "strength"
                    if use != group.Purpose:
                        self.alike["Combinations without a known purpose are taken for strength"] += 1
                    combinations.append(
                        {"name": self.unique("u", group.Name or "combination"), "factors": factors, "use": use}
                    )
        self.taken.understood.append(
            f"{len(cases)} cases with {len(lines) + len(points)} loads, {len(combinations)} combinations."
        )
        found: dict[str, Any] = {
            "cases": cases,
            "member_loads": lines,
            "node_loads": points,
            "combinations": combinations,
        }
        if any(case["nature"] == "imperfection" for case in cases):
            self.taken.guessed.append("The file bears sway imperfections as cases: none are added to them.")
            found["rules"] = {"imperfections": False}
        return found

    def action(self, action: Any, case: str, lines: list[dict[str, Any]], points: list[dict[str, Any]]) -> None:
        element = next((r.RelatingElement for r in action.AssignedToStructuralItem or ()), None)
        load = action.AppliedLoad
        if element is None or action.GlobalOrLocal != "GLOBAL_COORDS":
            self.taken.left_out.append(f"A load of {case} that is not in global axes.")
        elif getattr(action, "ProjectedOrTrue", None) == "PROJECTED_LENGTH":
            self.taken.left_out.append(f"A load of {case} on the projected length.")
        elif element.id() not in self.members and not element.is_a("IfcStructuralPointConnection"):
            self.taken.left_out.append(f"A load of {case} on {element.is_a()}.")
        elif action.is_a("IfcStructuralPointAction") and element.is_a("IfcStructuralPointConnection"):
            node = self.node(self.vertex(element.Representation.Representations[0].Items[0]))
            force = [float(load[k] or 0.0) for k in (1, 2, 3)]
            points.append(
                {"case": case, "node": node, "force": force, "moment": [float(load[k] or 0.0) for k in (4, 5, 6)]}
            )
        elif action.is_a("IfcStructuralPointAction") and action.Representation:
            place = self.vertex(action.Representation.Representations[0].Items[0])
            foot = self.vertex(element.Representation.Representations[0].Items[0].EdgeStart)
            at = float(np.linalg.norm(place - foot))
            for kind, columns in (("force", (1, 2, 3)), ("moment", (4, 5, 6))):
                value = [float(load[k] or 0.0) for k in columns]
                if any(value):
                    lines.append(
                        {"case": case, "member": self.members[element.id()], "kind": kind, "value": value, "start": at}
                    )
        elif load.is_a("IfcStructuralLoadConfiguration") and len(load.Values) == 2 and load.Locations:
            values = [[float(v[k] or 0.0) for k in (1, 2, 3)] for v in load.Values]
            start, end = (float(at[0]) * self.scale for at in load.Locations)
            lines.append(
                {
                    "case": case,
                    "member": self.members[element.id()],
                    "value": values[0],
                    "value_end": values[1],
                    "start": start,
                    "end": end,
                }
            )
        elif load.is_a("IfcStructuralLoadLinearForce"):
            lines.append(
                {
                    "case": case,
                    "member": self.members[element.id()],
                    "value": [float(load[k] or 0.0) for k in (1, 2, 3)],
                }
            )
        else:
            self.taken.left_out.append(f"A load of {case} of the kind {load.is_a()}.")


def _extruded(item: Any) -> Any:
    """The extruded solid that an item is, or that it is cut from; None where there is none."""
    while item is not None and item.is_a("IfcBooleanResult"):
        item = item.FirstOperand
    return item if item is not None and item.is_a("IfcExtrudedAreaSolid") else None
