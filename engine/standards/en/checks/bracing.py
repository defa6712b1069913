"""What bracing, struts and purlins carry from the rafters and chords that lean on them: EN 1993-1-1 5.3.3."""

from __future__ import annotations

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams
from engine.standards.en.stabilising import flange_force, stabilising
from engine.structure.model import Floats, Structure
from engine.structure.rows import SAME, Line, Row, rows
from engine.verification.stabilising import Stabilised, Stabilising, across, depths, none, pushed, responses, sag


def found(combined: Combined, strength: tuple[int, ...], forces: Diagrams) -> Stabilising:
    """What the members of a structure that restrain others carry for it. forces: at the stations, of the combinations `strength`."""
    structure, elements = combined.structure, combined.elements
    every = rows(structure)
    braced = [row for row in every if row.trusses]
    loose = tuple(sorted({m for row in every if not row.trusses for line in row.lines for m in line.members}))
    if not braced or not strength:
        empty = none(len(elements), len(strength))
        return Stabilising(empty.unit, empty.q, (), loose)
    loads = [(row, span, i) for row in braced for span in row.spans for i in range(len(row.lines))]
    force = np.stack([pushed(structure, row, span, row.lines[i], i) for row, span, i in loads], axis=1)
    unit, moved = responses(combined.response.system, force)
    depth = depths(structure, elements.member, elements.positions(combined.stations))
    q = np.zeros((len(loads), len(strength)))
    spans = []
    for row in braced:
        for span in row.spans:
            own = [k for k, load in enumerate(loads) if load[0] is row and load[1] is span]
            N = np.stack([_compression(structure, combined, forces, depth, line, row, span) for line in row.lines])
            moves = [row.across @ moved.reshape(-1, 6, force.shape[1])[:, :3][..., own]]
            soft = sag(row, span, moves[0])
            external = sag(row, span, across(combined, strength, row))
            L = np.full(len(own), span[1] - span[0])
            count = len(row.lines) / len(row.trusses)
            v = stabilising(N, soft, L, count, external)
            q[own] = v["q"]
            members = tuple(sorted({m for line in row.lines for m in line.members}))
            spans.append(
                Stabilised(
                    len(row.lines),
                    count,
                    v["alpha_m"],
                    float(L[0]),
                    members,
                    tuple(sorted({bar for truss in row.trusses for bar in truss.bars})),
                    N.sum(axis=0),
                    v["q"].sum(axis=0),
                    float(v["e0"][0]),
                    v["delta"],
                    v["firm"],
                )
            )
    return Stabilising(unit, q, tuple(spans), loose)


def _compression(
    structure: Structure,
    combined: Combined,
    forces: Diagrams,
    depth: Floats,
    line: Line,
    row: Row,
    span: tuple[float, float],
) -> Floats:
    """(c,) the most that the compressed flange of a line carries within a span."""
    elements = combined.elements
    ends = structure.xyz[elements.ends] @ row.along
    middle = ends.mean(axis=1)
    own = np.flatnonzero(np.isin(elements.member, line.members) & (middle > span[0] - SAME) & (middle < span[1] + SAME))
    if not len(own):
        return np.zeros(forces.N.shape[2])
    return np.asarray(flange_force(forces.N[own], forces.My[own], depth[own, None, None]).max(axis=(0, 1)))
