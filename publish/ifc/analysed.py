"""What is analysed: nodes, members, releases, supports, cases, combinations."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.chain import Forces, Loaded
from engine.structure.model import FREEDOMS
from publish.ifc.writer import Writer, axes_of

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


@dataclass(frozen=True)
class Analysed:
    """The analysis model with its members, nodes, cases and combinations."""

    model: Any
    members: list[Any]
    nodes: list[Any]
    cases: list[Any]
    combinations: list[Any]


def analysed_of(w: Writer, loaded: Loaded | Forces, axis: Any, origin: Any, name: str) -> Analysed:
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
        up = axes_of(structure, m)[2]
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
    cases = _cases(w, loaded, members, nodes, axis, origin)
    combinations = _combinations(w, loaded.combinations, cases)
    groups = [*cases, *combinations]
    model = w.rooted("IfcStructuralAnalysisModel", ("model",), Name=name, PredefinedType="LOADING_3D", LoadedBy=groups)
    w.rooted("IfcRelAssignsToGroup", ("model",), RelatedObjects=[*members, *nodes], RelatingGroup=model)
    return Analysed(model, members, nodes, cases, combinations)


def _release(w: Writer, free: frozenset[str], springs: dict[str, float]) -> Any:
    """What holds at a released end, in the member's axes."""
    values = [
        w.make("IfcLinearStiffnessMeasure" if k < 3 else "IfcRotationalStiffnessMeasure", springs[f]) if f in springs
        else w.make("IfcBoolean", f not in free)
        for k, f in enumerate(FREEDOMS)
    ]  # fmt: skip
    return w.make("IfcBoundaryNodeCondition", "release", *values)


def _cases(
    w: Writer, loaded: Loaded | Forces, members: list[Any], nodes: list[Any], axis: Any, origin: Any
) -> list[Any]:
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
            if point.case != number:
                continue
            shape, element = None, nodes[point.node] if point.node >= 0 else members[structure.index[point.member]]
            if point.node < 0:
                # where it acts along the member
                start, end = structure.xyz[structure.ends[structure.index[point.member]]]
                place = start + (end - start) / np.linalg.norm(end - start) * point.at
                vertex = w.make("IfcVertexPoint", w.point(place))
                reference = w.make("IfcTopologyRepresentation", axis, "Reference", "Vertex", [vertex])
                shape = w.make("IfcProductDefinitionShape", None, None, [reference])
            force = w.make("IfcStructuralLoadSingleForce", None, *point.force.tolist(), *point.moment.tolist())
            action = w.rooted(
                "IfcStructuralPointAction",
                (case.symbol, f"point {n}"),
                ObjectPlacement=origin,
                Representation=shape,
                AppliedLoad=force,
                GlobalOrLocal="GLOBAL_COORDS",
            )
            w.rooted(
                "IfcRelConnectsStructuralActivity",
                (case.symbol, f"point {n}"),
                RelatingElement=element,
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


def _combinations(w: Writer, combinations: list[Combination], cases: list[Any]) -> list[Any]:
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
