"""What is greatest and least over combinations: forces along members, sways of columns, membrane forces of decks."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.analysis.diagrams import FORCES, extremes
from engine.analysis.membranes import membrane_forces
from engine.analysis.sways import Storey, storeys, sways
from engine.chain import Chain
from engine.structure.model import Floats, Ints

#: elements whose extremes are found at a time
BLOCK = 400


@dataclass(frozen=True)
class Extreme:
    """A force in N or Nm at its greatest or least: where along the member (m), and in which combination."""

    value: float
    at: float
    combination: str


def member_extremes(chain: Chain) -> list[list[tuple[Extreme, Extreme]]]:
    """Of each member the greatest and the least of each of its six forces over the strength combinations, between stations too; none without any."""
    strength, forces, elements = chain.verification.strength, chain.verification.forces, chain.response.elements
    if not strength:
        return []
    names = [chain.combinations[i].name for i in strength]
    pulled = chain.combined.pulled(strength)
    blocks = [
        extremes(forces.of(slice(at, at + BLOCK)), None if pulled is None else pulled[at : at + BLOCK])
        for at in range(0, len(elements), BLOCK)
    ]
    found: dict[str, list[Floats]] = {
        q: [np.concatenate([block[q][k] for block in blocks]) for k in range(4)] for q in FORCES
    }
    stretch = elements.reach / elements.length
    out = []
    for i in range(len(chain.structure.members)):
        own = elements.rows(i)

        def extreme(values: Floats, at: Floats, pick: int, own: Ints = own) -> Extreme:
            e, c = np.unravel_index(pick, values.shape)
            place = elements.offset[own][e] + at[e, c] * stretch[own][e]
            return Extreme(float(values[e, c]), float(place), names[int(c)])

        rows = [[values[own] for values in found[q]] for q in FORCES]
        out.append(
            [
                (extreme(most, most_at, int(most.argmax())), extreme(least, least_at, int(least.argmin())))
                for most, most_at, least, least_at in rows
            ]
        )
    return out


@dataclass(frozen=True)
class Sway:
    """Sway of a storey of a column: along X and along Y the largest over the combinations of a use, m, with these."""

    storey: Storey
    use: str
    sway: tuple[float, float]
    combination: tuple[str, str]


def column_sways(chain: Chain) -> list[Sway]:
    """Of every storey of every column and of whole columns, over the combinations for deflection and over those for strength."""
    found = storeys(chain.structure)
    sets = {"deflection": list(chain.verification.deflection), "strength": list(chain.verification.strength)}
    moved = {use: sways(found, chain.combined.displacement(which)) for use, which in sets.items() if which and found}
    out = []
    for i, storey in enumerate(found):
        for use, values in moved.items():
            x, y = np.abs(values[i]).argmax(axis=1).tolist()
            names = [chain.combinations[sets[use][k]].name for k in (x, y)]
            out.append(Sway(storey, use, (float(values[i, 0, x]), float(values[i, 1, y])), (names[0], names[1])))
    return out


@dataclass(frozen=True)
class DeckForces:
    """Membrane forces of a stiff deck, N/m: along its first side, across it, and in shear, the largest in size, with their combinations."""

    panel: str
    force: list[float]
    combination: list[str]


def deck_forces(chain: Chain) -> list[DeckForces]:
    """Of each stiff deck over the strength combinations."""
    structure, strength = chain.structure, list(chain.verification.strength)
    if not structure.membranes or not strength:
        return []
    forces = membrane_forces(structure, chain.combined.displacement(strength))
    panels = np.array([m.panel for m in structure.membranes])
    out = []
    for name in dict.fromkeys(panels.tolist()):
        own = forces[panels == name]
        flat = own.transpose(1, 0, 2).reshape(3, -1)
        pick = np.abs(flat).argmax(axis=1).tolist()
        names = [chain.combinations[strength[k % own.shape[2]]].name for k in pick]
        out.append(DeckForces(name, [float(flat[k, p]) for k, p in enumerate(pick)], names))
    return out
