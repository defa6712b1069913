"""Views of the workbench that somebody put into the dossier: drawn anew of what stands, to scale."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.document.handover import PlacedView
from engine.dossier.diagrams import loads, moments
from engine.dossier.drawing import Drawing
from engine.dossier.elevations import elevation
from engine.dossier.values import Figure, Paragraph
from engine.structure.planes import Plane, planes


def placed(chain: Chain, view: PlacedView) -> Figure | Paragraph:
    """A view, or in words why there is none any more."""
    plane = next((p for p in planes(chain.structure) if p.key == view.plane and p.members), None)
    if plane is None:
        return Paragraph(f"The view “{view.name}” is not drawn: what it looked at is not there any more.", "missing")
    try:
        drawing, words = _drawn(chain, plane, view)
    except KeyError:
        return Paragraph(f"The view “{view.name}” is not drawn: there is no “{view.state}” any more.", "missing")
    if drawing is None:
        return Paragraph(f"{plane.label}: {view.state} puts nothing on it, in its plane.", "plain")
    return Figure(drawing, f"{plane.label}, 1 : {drawing.scale}{words}")


def _drawn(chain: Chain, plane: Plane, view: PlacedView) -> tuple[Drawing | None, str]:
    """Raises KeyError for a state that is none."""
    if view.shows == "steel":
        return elevation(chain.structure, plane, plane.label), ""
    if view.shows == "loads":
        case = {c.symbol: k for k, c in enumerate(chain.loading.cases)}[view.state]
        return loads(chain, plane, case, plane.label), f": {view.state}, {chain.loading.cases[case].name}, kN/m and kN"
    if view.state == "envelope":
        if not chain.verification.strength:
            raise KeyError(view.state)
        forces = chain.verification.forces.My
        both = [np.maximum(forces.max(axis=2), 0), np.minimum(forces.min(axis=2), 0)]
        return moments(chain, plane, both, plane.label), ": M_y, envelope of the combinations for strength, kNm"
    count = len(chain.combinations)
    names = [c.name for c in chain.combinations] + [c.symbol for c in chain.loading.cases]
    number = {name: k for k, name in reversed(list(enumerate(names)))}[view.state]
    said = (
        f" = {chain.combinations[number].formula}"
        if number < count
        else f", {chain.loading.cases[number - count].name}"
    )
    found = chain.combined.diagrams([number])
    return moments(chain, plane, [found.My[..., 0]], plane.label), f": M_y in {view.state}{said}, kNm"
