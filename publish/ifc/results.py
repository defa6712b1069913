"""Results in the analysis model: reactions and internal forces of every case, reactions of the combinations that are extreme somewhere."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.analysis.diagrams import FORCES
from engine.chain import Chain
from engine.report import supports
from engine.structure.model import Floats
from publish.ifc.analysed import Analysed
from publish.ifc.writer import Writer

#: shares of a member's length at which its forces are given
PLACES = (0.0, 0.25, 0.5, 0.75, 1.0)
SIGNS = "Internal forces in the member's axes: N tension positive, V = dM/dx, My and Mz positive with tension on the side of negative z and y."


def results_of(w: Writer, chain: Chain, analysed: Analysed, origin: Any) -> None:
    """Put the results into the analysis model."""
    extreme = supports.reactions(chain)
    which = sorted(
        {chain.verification.strength[i] for i in {*extreme.most.ravel().tolist(), *extreme.least.ravel().tolist()}}
        if extreme.nodes
        else set()
    )
    numbers = [chain.combined.case(k) for k in range(len(chain.loading.cases))]
    groups = [
        *(_group(w, chain, analysed, origin, number, analysed.cases[k], False) for k, number in enumerate(numbers)),
        *(
            _group(w, chain, analysed, origin, i, analysed.combinations[i], bool(chain.combined.second[i]))
            for i in which
        ),
    ]
    if groups:
        analysed.model.HasResults = groups
    for k, number in enumerate(numbers):
        _forces(w, chain, analysed, origin, number, groups[k])


def _group(w: Writer, chain: Chain, analysed: Analysed, origin: Any, number: int, of: Any, second: bool) -> Any:
    """Results of a case or a combination, with the reactions at the supports."""
    structure = chain.structure
    group = w.rooted(
        "IfcStructuralResultGroup",
        (of.Name,),
        Name=of.Name,
        Description=SIGNS,
        TheoryType="SECOND_ORDER_THEORY" if second else "FIRST_ORDER_THEORY",
        ResultForLoadGroup=of,
        IsLinear=not second,
    )
    reaction = chain.combined.reaction([number])[..., 0]
    held = np.flatnonzero((structure.fixed | (structure.springs != 0)).any(axis=1)).tolist()
    found = []
    for node in held:
        load = w.make("IfcStructuralLoadSingleForce", None, *(float(v) for v in reaction[node]))
        own = w.rooted(
            "IfcStructuralPointReaction",
            (of.Name, structure.nodes[node]),
            Name=structure.nodes[node],
            ObjectPlacement=origin,
            AppliedLoad=load,
            GlobalOrLocal="GLOBAL_COORDS",
        )
        _connect(w, analysed.nodes[node], own, (of.Name, "reaction", structure.nodes[node]))
        found.append(own)
    if found:
        w.rooted("IfcRelAssignsToGroup", (of.Name, "reactions"), RelatedObjects=found, RelatingGroup=group)
    return group


def _forces(w: Writer, chain: Chain, analysed: Analysed, origin: Any, number: int, group: Any) -> None:
    """Internal forces of the members in one case."""
    elements, structure = chain.response.elements, chain.structure
    found = chain.combined.diagrams([number])
    values: Floats = np.stack([getattr(found, name)[..., 0] for name in FORCES], axis=-1)
    reactions = []
    for i, m in enumerate(structure.members):
        own = elements.rows(i)
        places = elements.positions(found.x, own).ravel()
        at = [int(np.abs(places - share * places[-1]).argmin()) for share in PLACES]
        rows = values[own].reshape(-1, 6)[at]
        loads = [w.make("IfcStructuralLoadSingleForce", None, *map(float, row)) for row in rows]
        spread = w.make("IfcStructuralLoadConfiguration", None, loads, [[float(places[k])] for k in at])
        reaction = w.rooted(
            "IfcStructuralCurveReaction", (group.Name, m.name), Name=m.name, ObjectPlacement=origin, AppliedLoad=spread, GlobalOrLocal="LOCAL_COORDS",
            PredefinedType="DISCRETE",
        )  # fmt: skip
        _connect(w, analysed.members[i], reaction, (group.Name, "forces", m.name))
        reactions.append(reaction)
    w.rooted("IfcRelAssignsToGroup", (group.Name, "forces"), RelatedObjects=reactions, RelatingGroup=group)


def _connect(w: Writer, element: Any, activity: Any, key: tuple[str, ...]) -> None:
    w.rooted("IfcRelConnectsStructuralActivity", key, RelatingElement=element, RelatedStructuralActivity=activity)
