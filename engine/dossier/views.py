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
        case = _meant(view, [(c.symbol, c.name) for c in chain.loading.cases])
        of = chain.loading.cases[case]
        return loads(chain, plane, case, plane.label), f": {of.symbol}, {of.name}, kN/m and kN"
    if view.state == "envelope":
        if not chain.verification.strength:
            raise KeyError(view.state)
        forces = chain.verification.forces.My
        both = [np.maximum(forces.max(axis=2), 0), np.minimum(forces.min(axis=2), 0)]
        return moments(chain, plane, both, plane.label), ": M_y, envelope of the combinations for strength, kNm"
    known = [(c.name, c.formula) for c in chain.combinations] + [(c.symbol, c.name) for c in chain.loading.cases]
    number = _meant(view, known)
    name, means = known[number]
    found = chain.combined.diagrams([number])
    sign = " =" if number < len(chain.combinations) else ","
    return moments(chain, plane, [found.My[..., 0]], plane.label), f": M_y in {name}{sign} {means}, kNm"


def _meant(view: PlacedView, known: list[tuple[str, str]]) -> int:
    """The number of the case or combination that a view means, by what it is where that is kept, else by its name. Raises KeyError where it
    is not there."""
    alike = [k for k, (name, means) in enumerate(known) if (means == view.means if view.means else name == view.state)]
    if not alike:
        raise KeyError(view.state)
    return next((k for k in alike if known[k][0] == view.state), alike[0])
