"""The model as IFC4: what is built (members with profiles, grid, storeys) and what is analysed (nodes, members, releases, supports, cases,
combinations). Names keep their identifiers from revision to revision."""

from __future__ import annotations

import uuid
from typing import Any

from engine.chain import Chain, Forces, Loaded
from publish.ifc.analysed import analysed_of
from publish.ifc.built import built_of, grid_of, profile_of, storeys_of
from publish.ifc.results import results_of
from publish.ifc.writer import Writer

#: what this file does not bear, said in its head
LEFT_OUT = "Left out: flanges of haunches, tapers, restraints of flanges, panels, temperature, settlements, results."
WITH_RESULTS = (
    "Left out: flanges of haunches, tapers, restraints of flanges, panels, temperature, settlements, results other than reactions and forces of cases "
    "and reactions of combinations in which one is extreme."
)


def ifc(loaded: Loaded | Forces, name: str, space: uuid.UUID, revision: str, solved: Chain | None = None) -> bytes:
    """The file. space: what the identifiers belong to, the same for every revision of a project; solved: with the results of its analysis."""
    w = Writer(space, [*(m.name for m in loaded.structure.members), *loaded.structure.nodes])
    w.file.header.file_description.description = (
        "ViewDefinition [ReferenceView]",
        WITH_RESULTS if solved else LEFT_OUT,
    )
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
    storeys = storeys_of(w, structure, origin)
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
    profiles = {s.name: profile_of(w, s) for s in {m.section.name: m.section for m in structure.members}.values()}
    sets: dict[tuple[str, str], tuple[Any, list[Any]]] = {}
    built = built_of(w, structure, storeys, body, profiles)
    grid_of(w, structure, storeys, body, origin)
    model = analysed_of(w, loaded, axis, origin, name)
    analysed = model.members
    if solved:
        results_of(w, solved, model, origin)
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
