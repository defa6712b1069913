"""Snow on roofs that trusses carry, beside no hall."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.document import Document
from engine.document.jigs import TrussJig
from engine.standards.en import snow
from engine.standards.en.snow_lying import Arrangement, Axis, shaped, stretched
from engine.structure.model import Panel, Structure


@dataclass(frozen=True)
class TrussRoof:
    """The roof of a truss jig: its panels from left to right, and its own axis across. rise: of a curved one, metres."""

    name: str
    panels: list[Panel]
    axis: Axis
    length: float
    rise: float


def truss_roofs(document: Document, structure: Structure) -> list[TrussRoof]:
    """The roofs that truss jigs bear."""
    found = []
    for jig in document.jigs:
        panels = [p for p in structure.panels if p.place == "truss" and p.jig == jig.name]
        if isinstance(jig, TrussJig) and panels:
            start, way = panels[0].corners[0], panels[-1].corners[-1] - panels[0].corners[0]
            length = float(np.linalg.norm(way[:2]))
            rise = jig.height_apex - jig.height_support if jig.outline == "curved" else 0.0
            found.append(TrussRoof(jig.name, panels, Axis(start, way * [1, 1, 0] / length), length, rise))
    return found


def on_truss(made: Arrangement, roof: TrussRoof, document: Document, drifted: str = "") -> None:
    """Snow on the roof of a truss jig: even, or drifted towards a side.

    Curved (5.3.5): case (i) 0.8; case (ii) triangles over each half of l_s, μ3 towards the side and half of it on the
    other, none where it is steeper than 60°. Otherwise μ1, half of it on the slope away from the side (figure 5.3).
    """
    flat = [p for p in roof.panels if p.pitch <= 60]
    if not roof.rise:
        for panel in roof.panels:
            half = 0.5 if drifted and panel.side != drifted else 1.0
            how = shaped(panel, document)
            made.knots(panel, [(0.0, half * how["mu1"])], how | ({"half": half} if half < 1 else {}), axis=roof.axis)
        return
    if not drifted:
        for panel in flat:
            made.knots(
                panel, [(0.0, document.national.snow.flat)], {"flat": document.national.snow.flat}, axis=roof.axis
            )
        return
    ends = [stretched(p, roof.axis) for p in flat]
    a, b = min(e[0] for e in ends), max(e[1] for e in ends)
    peak = float(snow.mu3(0.0, roof.rise, roof.length, document.national.snow.curved_most))
    left, right = (peak, peak / 2) if drifted == "left" else (peak / 2, peak)
    quarter = (b - a) / 4
    how = {"rise": roof.rise, "across": roof.length, "mu3_most": document.national.snow.curved_most, "mu3": peak}
    knots = [(a, 0.0), (a + quarter, left), (a + 2 * quarter, 0.0), (a + 3 * quarter, right), (b, 0.0)]
    for panel in flat:
        made.knots(panel, knots, how, axis=roof.axis)
