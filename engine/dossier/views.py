"""Views of the workbench that somebody put into the dossier: drawn anew of what stands, to scale."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.document.handover import PlacedView
from engine.document.naming import free_name
from engine.dossier.acting import loads
from engine.dossier.details import flanges
from engine.dossier.diagrams import forces, movement, utilisations
from engine.dossier.drawing import Drawing
from engine.dossier.elevations import elevation, in_space
from engine.dossier.site import site_plan
from engine.dossier.values import Figure, Paragraph
from engine.report.states import State, find_state, moved
from engine.structure.model import Floats
from engine.structure.names import lasting
from engine.structure.planes import Plane, planes
from engine.structure.words import label

WHOLE = "whole"
SYMBOLS = {"N": "N", "Vy": "V_y", "Vz": "V_z", "T": "T", "My": "M_y", "Mz": "M_z"}


def placed(chain: Chain, view: PlacedView) -> Figure | Paragraph:
    """A view, or in words why there is none any more."""
    if view.shows in ("site", "restraints"):
        return _apart(chain, view)
    plane = _plane(chain, view)
    if plane is None:
        return Paragraph(f"The view “{view.name}” is not drawn: what it looked at is not there any more.", "missing")
    try:
        drawing, words = _drawn(chain, plane, view)
    except KeyError:
        return Paragraph(f"The view “{view.name}” is not drawn: there is no “{view.state}” any more.", "missing")
    if drawing is None:
        return Paragraph(f"{plane.label}: {view.state} puts nothing on it, in its plane.", "plain")
    scale = "seen from afar" if plane.kind == "space" else f"1 : {drawing.scale}"
    return Figure(drawing, f"{plane.label}, {scale}{words}")


def _apart(chain: Chain, view: PlacedView) -> Figure | Paragraph:
    """What is drawn in no plane of the building."""
    if view.shows == "site":
        site = site_plan(chain)
        if site is None:
            return Paragraph(f"The view “{view.name}” is not drawn: no building stands that wind acts on.", "missing")
        return Figure(site[0], f"The building in its surroundings, 1 : {site[0].scale}{site[1]}")
    numbers = {name: chain.structure.index[now] for now, name in lasting(chain.structure.index).items()}
    number = chain.structure.index.get(view.member, numbers.get(free_name(view.member)))
    if number is None:
        return Paragraph(
            f"The view “{view.name}” is not drawn: there is no member “{view.member}” any more.", "missing"
        )
    drawing, words = flanges(chain, number)
    return Figure(drawing, f"{label(chain.structure.members[number])}, 1 : {drawing.scale}: {words}")


def _plane(chain: Chain, view: PlacedView) -> Plane | None:
    if view.plane == WHOLE:
        return in_space(chain.structure, view.bearing, view.tilt)
    return next((p for p in planes(chain.structure) if p.key == view.plane and p.members), None)


def _drawn(chain: Chain, plane: Plane, view: PlacedView) -> tuple[Drawing | None, str]:
    """Raises KeyError for a state that is none."""
    if view.shows == "steel":
        return elevation(chain.structure, plane, plane.label), ""
    if view.shows == "utilisation":
        return utilisations(chain, plane, plane.label), ": utilisation of each member, over all its checks"
    name = _now(chain, view)
    state = find_state(chain, name)
    if view.shows == "loads":
        if state.kind not in ("case", "combination"):
            raise KeyError(view.state)
        factors = chain.combined.rows[state.numbers[0]]
        return loads(chain, plane, factors, plane.label), f": {_said(name, state)}, kN/m and kN"
    said = _said(name, state)
    if view.shows == "movement":
        found = moved(chain, state)
        if found is None:
            raise KeyError(view.state)
        unit = "" if state.kind == "mode" else ", mm"
        drawing = movement(chain, plane, found, plane.label, sizes=state.kind != "mode")
        return drawing, f": movement in {said}, enlarged{unit}"
    if not state.numbers:
        raise KeyError(view.state)
    unit = "kNm" if view.quantity[0] in "MT" else "kN"
    drawing = forces(chain, plane, _values(chain, state, view.quantity), plane.label, view.quantity)
    sign = " (tension positive)" if view.quantity == "N" else ""
    return drawing, f": {SYMBOLS[view.quantity]} {'in ' if state.kind != 'envelope' else ''}{said}, {unit}{sign}"


def _said(name: str, state: State) -> str:
    """A state in words: “C1 = 1.35 G1”, “S1, snow”, “buckling mode 1, α_cr = 4.2, of C7”."""
    if state.kind == "combination":
        return f"{name} = {state.words}"
    if state.kind == "case":
        return f"{name}, {state.words}"
    return f"{state.words}, of {state.of}" if state.of else state.words


def _values(chain: Chain, state: State, quantity: str) -> list[Floats]:
    """Over all elements: of one state, or the greatest and the least of an envelope."""
    found: Floats = getattr(chain.combined.diagrams(state.numbers), quantity)
    if state.kind != "envelope":
        return [found[..., 0]]
    return [np.maximum(found.max(axis=2), 0), np.minimum(found.min(axis=2), 0)]


def _now(chain: Chain, view: PlacedView) -> str:
    """What the state that a view means is called now: by what it is where that is kept, else by its name. Raises KeyError where it is not
    there."""
    kind, colon, rest = view.state.partition(":")
    shape = kind in ("mode", "free") and bool(colon)
    if view.state.startswith("envelope") or (colon and not shape):
        return view.state
    own, _, number = rest.partition(":") if shape else (view.state, "", "")
    known = [(c.name, c.formula) for c in chain.combinations]
    if not shape:
        known += [(c.symbol, c.name) for c in chain.loading.cases]
    alike = [name for name, means in known if (means == view.means if view.means else name == own)]
    if not alike:
        raise KeyError(view.state)
    name = own if own in alike else alike[0]
    return ":".join(part for part in (kind, name, number) if part) if shape else name
