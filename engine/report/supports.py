"""Reactions, static equilibrium and supports in tension."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.combinations import Combination
from engine.chain import Chain
from engine.structure.model import Floats, Ints
from engine.verification.equilibrium import tilt_words


@dataclass(frozen=True)
class Reactions:
    """Reactions of the supported nodes (s,) in the combinations for strength (c,): force (s, 6, c) in N and Nm in global axes; held:
    (s, 6) whether the support acts there."""

    nodes: tuple[str, ...]
    held: Floats
    force: Floats
    combinations: tuple[Combination, ...]

    @property
    def most(self) -> Ints:
        """(s, 6) combination of the greatest."""
        return np.asarray(self.force.argmax(axis=2))

    @property
    def least(self) -> Ints:
        """(s, 6) combination of the least."""
        return np.asarray(self.force.argmin(axis=2))


def reactions(chain: Chain) -> Reactions:
    """Reactions of every support; no combinations, or no nodes, where there are none."""
    structure, strength = chain.structure, chain.verification.strength
    held = structure.fixed | (structure.springs != 0)
    nodes = np.flatnonzero(held.any(axis=1))
    # what is held along axes of its own pushes along both of the global ones
    turned = structure.turn != 0
    for x, y in ((0, 1), (3, 4)):
        held[turned, x] = held[turned, y] = held[turned, x] | held[turned, y]
    force = chain.combined.reaction(strength)[nodes] if strength else np.zeros((len(nodes), 6, 0))
    names = tuple(structure.nodes[node] for node in nodes)
    return Reactions(names, held[nodes], force, tuple(chain.combinations[i] for i in strength))


@dataclass(frozen=True)
class Tilted:
    """Overturning about an edge of the footprint in Nm, or uplift of the whole in N: acting, resisting; utilisation: None where nothing
    resists."""

    words: str
    moment: bool
    acting: float
    resisting: float
    utilisation: float | None
    combination: Combination

    @property
    def holds(self) -> bool:
        """Whether what resists is enough."""
        return self.acting <= 0 if self.utilisation is None else self.utilisation <= 1


def tilts(chain: Chain) -> list[Tilted]:
    """Static equilibrium as a rigid body."""
    return [
        Tilted(
            tilt_words(t, chain.structure),
            bool(t.about),
            t.acting,
            t.resisting,
            t.utilisation if np.isfinite(t.utilisation) else None,
            chain.combinations[t.combination],
        )
        for t in chain.verification.tilts
    ]


def lifted(chain: Chain) -> list[tuple[str, float, Combination]]:
    """Supports in tension: node, N, combination."""
    return [
        (chain.structure.nodes[f.node], f.tension, chain.combinations[f.combination]) for f in chain.verification.lifted
    ]
