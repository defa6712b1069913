"""Tables of extremes over combinations: forces of members, sways of columns, membrane forces of decks."""

from __future__ import annotations

import numpy as np

from engine.analysis.diagrams import extremes
from engine.analysis.membranes import membrane_forces
from engine.analysis.sways import storeys, sways
from engine.chain import Chain
from engine.structure.model import Floats, Structure
from server.projects import response_schemas

QUANTITIES = ("N", "Vy", "Vz", "T", "My", "Mz")
#: elements whose extremes are found at a time
BLOCK = 400


def extremes_out(chain: Chain) -> list[response_schemas.ExtremesOut]:
    """Envelopes of all members over the strength combinations, with where along the member and in which of these."""
    strength, forces, elements = chain.verification.strength, chain.verification.forces, chain.response.elements
    if not strength:
        return []
    names = [chain.combinations[i].name for i in strength]
    first = np.searchsorted(elements.member, np.arange(len(chain.structure.members) + 1))
    pulled = chain.combined.pulled(strength)
    blocks = [
        extremes(
            forces.of(slice(at, at + BLOCK)),
            None if pulled is None else pulled[at : at + BLOCK],
        )
        for at in range(0, len(elements), BLOCK)
    ]
    found: dict[str, list[Floats]] = {
        q: [np.concatenate([block[q][k] for block in blocks]) for k in range(4)] for q in QUANTITIES
    }
    stretch = elements.reach / elements.length
    out = []
    for i, m in enumerate(chain.structure.members):
        own = slice(first[i], first[i + 1])
        row = response_schemas.ExtremesOut(member=m.name, role=m.role)
        for q in QUANTITIES:
            most, most_at, least, least_at = (values[own] for values in found[q])
            for values, at, pick, key in (
                (most, most_at, most.argmax(), "most"),
                (least, least_at, least.argmin(), "least"),
            ):
                e, c = np.unravel_index(int(pick), values.shape)
                place = elements.offset[own][e] + at[e, c] * stretch[own][e]
                getattr(row, key).append(float(values[e, c]) / 1000)
                getattr(row, f"{key}_at").append(float(place))
                getattr(row, f"{key}_in").append(names[int(c)])
        out.append(row)
    return out


def _grid_place(structure: Structure, node: int) -> str:
    """A node by the grid lines through it: “A 4”."""
    x, y, _ = structure.xyz[node]
    words = [
        next((line.name for line in structure.grid if line.axis == axis and abs(line.at - at) < 0.01), "")
        for axis, at in (("X", x), ("Y", y))
    ]
    return " ".join(word for word in words if word)


def sways_out(chain: Chain) -> list[response_schemas.SwayOut]:
    """Sway of every storey of every column, and of whole columns: the largest along X and along Y over the combinations for
    deflection, and over those for strength."""
    structure, combined = chain.structure, chain.combined
    found = storeys(structure)
    if not found:
        return []
    sets = {"deflection": list(chain.verification.deflection), "strength": list(chain.verification.strength)}
    moved = {use: sways(found, combined.displacement(which)) for use, which in sets.items() if which}
    out = []
    for i, storey in enumerate(found):
        for use, values in moved.items():
            pick = np.abs(values[i]).argmax(axis=1)
            out.append(
                response_schemas.SwayOut(
                    member=structure.members[storey.member].name,
                    grid=_grid_place(structure, storey.foot),
                    foot=float(structure.xyz[storey.foot, 2]),
                    head=float(structure.xyz[storey.head, 2]),
                    whole=storey.whole,
                    use=use,
                    sway=[float(values[i, axis, pick[axis]]) * 1000 for axis in (0, 1)],
                    ratio=[_ratio(storey.height, float(values[i, axis, pick[axis]])) for axis in (0, 1)],
                    combination=[chain.combinations[sets[use][int(k)]].name for k in pick],
                )
            )
    return out


def _ratio(height: float, sway: float) -> float | None:
    """Height over sway, None beyond 100,000."""
    return height / abs(sway) if abs(sway) > height * 1e-5 else None


def decks_out(chain: Chain) -> list[response_schemas.DeckForcesOut]:
    """Membrane forces of stiff decks, the largest in size over the strength combinations: n_x, n_y, n_xy of each panel."""
    structure, strength = chain.structure, list(chain.verification.strength)
    if not structure.membranes or not strength:
        return []
    forces = membrane_forces(structure, chain.combined.displacement(strength))
    panels = np.array([m.panel for m in structure.membranes])
    out = []
    for name in dict.fromkeys(panels.tolist()):
        own = forces[panels == name]
        flat = own.transpose(1, 0, 2).reshape(3, -1)
        pick = np.abs(flat).argmax(axis=1)
        out.append(
            response_schemas.DeckForcesOut(
                panel=name,
                force=[float(flat[k, pick[k]]) / 1000 for k in range(3)],
                combination=[chain.combinations[strength[int(k) % own.shape[2]]].name for k in pick],
            )
        )
    return out
