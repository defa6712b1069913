"""Which building snow and wind act on: that of the hall, of a floor jig with a roof or walls, or of trusses under a roof."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from engine.document import Document
from engine.document.floors import FloorJig
from engine.document.jigs import TrussJig
from engine.errors import ModelError
from engine.jigs.parts import Parts
from engine.structure.model import Envelope, Panel

#: how far a roof may end beside the walls below it, in metres
BESIDE = 0.5


def enclose(document: Document, parts: Parts) -> Envelope | None:
    """The building, if there is one. The roof of the only truss jig that bears one becomes its roof where it lies along the axes and
    over the walls. Raises ModelError where two buildings would stand beside each other."""
    hall = document.hall
    found = Envelope(hall.base_level, open=hall.open_sides, blockage=hall.blockage) if hall else None
    for i, jig in enumerate(document.jigs):
        if not isinstance(jig, FloorJig) or not (jig.walls or jig.top == "roof"):
            continue
        if found:
            field, words = ("top", "a roof") if jig.top == "roof" else ("walls", "walls")
            raise ModelError(
                f"Snow and wind act on one building, and that is {found.of}: “{jig.name}” cannot have {words} of its own.",
                f"jigs.{i}.{field}",
            )
        # what stands below an open roof blocks the wind; that all of it does is the safe side for uplift
        found = Envelope(jig.base, of=f"“{jig.name}”", open=not jig.walls, blockage=1.0)
    trussed = [jig for jig in document.jigs if isinstance(jig, TrussJig) and jig.roofed]
    if hall or len(trussed) != 1 or trussed[0].outline == "curved":
        return found
    own = [p for p in parts.panels if p.kind == "roof"]
    if any(p.place != "truss" for p in own) or not _along_axes(own):
        return found
    corners = np.concatenate([p.corners for p in own])
    walls = [p.corners for p in parts.panels if p.kind == "wall"]
    if walls:
        below = np.concatenate(walls)
        ends = [c.min(axis=0)[:2] for c in (corners, below)], [c.max(axis=0)[:2] for c in (corners, below)]
        if max(np.abs(a - b).max() for a, b in ends) > BESIDE:
            return found
    parts.panels = [replace(p, place="") if p.place == "truss" else p for p in parts.panels]
    if found:
        return found
    # it may stand on walls, or on columns by hand: the ground is ±0, or lower where something stands lower (safe side)
    ground = min(0.0, *(z for _, _, z in parts.nodes.values()), *(node.at[2] for node in document.nodes))
    return Envelope(ground, of=f"“{trussed[0].name}”", open=True, blockage=trussed[0].blockage)


def _along_axes(roofs: list[Panel]) -> bool:
    """Whether slopes run from left to right along X and the roof along Y, as zones of wind are laid out."""
    for panel in roofs:
        a, b, _, d = panel.corners
        if abs(d[1] - a[1]) > 1e-6 or d[0] - a[0] < 1e-6 or abs(b[0] - a[0]) > 1e-6 or abs(b[2] - a[2]) > 1e-6:
            return False
    return bool(roofs)
