"""What a structure weighs, costs and emits, by what its members are for."""

from __future__ import annotations

from dataclasses import dataclass

from engine.document.sizing import Prices
from engine.sizing.candidates import made, price, seams
from engine.structure.model import Structure
from engine.structure.words import ROLE_WORDS


@dataclass(frozen=True)
class Amount:
    """Of members with one role: in words, how many, steel and other materials in t, cost in the currency of the prices, carbon in t CO2e."""

    role: str
    words: str
    number: int
    mass: float
    cost: float
    carbon: float


def amounts(structure: Structure, prices: Prices) -> tuple[Amount, ...]:
    """By role, the heaviest first. Haunches weigh as they are, and cost by each beside their steel."""
    found: dict[str, list[float]] = {}
    for m in structure.members:
        mass = structure.mass(m)
        cost = mass * price(prices, m.section, m.material.name) + made(prices, structure, [m])
        cost += prices.weld * seams(m.section) * structure.length(m)
        row = found.setdefault(m.role, [0, 0.0, 0.0])
        for k, value in enumerate((1, mass, cost)):
            row[k] += value
    rows = [
        Amount(role, ROLE_WORDS[role][1], int(n), mass / 1000, cost, mass * prices.carbon / 1000)
        for role, (n, mass, cost) in found.items()
    ]
    return tuple(sorted(rows, key=lambda a: -a.mass))
