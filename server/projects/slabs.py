"""Slabs and walls as they are sent: pictures of one, and the extremes of all."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.report.slabs import Extreme, pictured, slab_extremes
from engine.structure.model import Floats
from server.projects.slab_schemas import JoinedOut, SlabOut, SlabRow, SlabValue
from server.projects.surfaces import flat_of, seen_from_outside

#: figures that a value is sent with
FIGURES = 5


def slab_out(chain: Chain, revision: int, name: str, state: str) -> SlabOut:
    """A slab in a state, laid flat. Raises KeyError for a slab or a state that is not there."""
    found = pictured(chain, name, state)
    slab, structure = found.slab, chain.structure
    panel = next(p for p in structure.panels if p.name == name)
    origin, basis = seen_from_outside(panel)
    joined = set(slab.joined)
    members, columns = [], []
    for member in structure.members:
        own = [n for n in member.nodes if n in joined]
        off = np.abs((structure.xyz[own] - panel.corners[0]) @ panel.outside)
        ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
        upright = np.abs((ends - panel.corners[0]) @ panel.outside).max() > 1e-2
        if own and upright and off.max() < 1e-2:
            columns += flat_of(structure.xyz[own], origin, basis)
        elif len(own) > 1:
            members.append(JoinedOut(member=member.name, line=flat_of(structure.xyz[[own[0], own[-1]]], origin, basis)))
    corners = panel.corners
    held = [corners[[k, (k + 1) % len(corners)]] for k, _ in slab.plate.held]
    return SlabOut(
        revision=revision,
        name=name,
        state=state,
        kind=found.kind,
        words=found.words,
        thickness=slab.plate.thickness,
        material=slab.plate.material,
        coarse=found.coarse,
        upright=abs(panel.outside[2]) < 0.7,
        outline=flat_of(corners, origin, basis),
        openings=[flat_of(opening, origin, basis) for opening in panel.openings],
        points=flat_of(slab.points.round(4), origin, basis),
        cells=[c[:3] if c[2] == c[3] else c for c in slab.cells.tolist()],
        corner=found.corner.tolist(),
        most={key: _short(values, _unit(key, found.kind)) for key, values in found.most.items()},
        least={key: _short(values, _unit(key, "")) for key, values in found.least.items()}
        if found.kind == "envelope"
        else {},
        way=np.degrees(found.way).round(1).tolist(),
        members=members,
        columns=columns,
        held=[flat_of(edge, origin, basis) for edge in held],
    )


def _unit(key: str, kind: str) -> float:
    """From m, N/m and Nm/m to mm, kN/m and kNm/m; of a mode shares stay as they are."""
    return 1.0 if kind == "mode" else 1000.0 if key == "w" else 1e-3


def _short(values: Floats, unit: float) -> list[float]:
    """In a unit, to FIGURES of the largest."""
    own = values * unit
    most = float(np.abs(own).max(initial=0.0))
    digits = FIGURES - 1 - int(np.floor(np.log10(most))) if most > 0 else 0
    rounded: list[float] = (own.round(digits) + 0.0).tolist()
    return rounded


def slabs_out(chain: Chain) -> list[SlabRow]:
    """What is greatest and least in every slab."""
    return [
        SlabRow(
            name=row.slab.panel,
            thickness=row.slab.plate.thickness,
            material=row.slab.plate.material,
            cells=len(row.slab.cells),
            joined=len(row.slab.joined),
            most={key: _value(most, key) for key, (most, _) in row.found.items()},
            least={key: _value(least, key) for key, (_, least) in row.found.items()},
        )
        for row in slab_extremes(chain)
    ]


def _value(one: Extreme, key: str) -> SlabValue:
    return SlabValue(value=one.value * _unit(key, ""), at=one.at, combination=one.combination)
