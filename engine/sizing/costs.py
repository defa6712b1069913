"""What a structure weighs, costs and emits, by what its members are for."""

from __future__ import annotations

from dataclasses import dataclass

from engine.catalogue.sections import section
from engine.catalogue.steels import DENSITY
from engine.document import Document
from engine.document.sizing import Prices
from engine.expand import materials_of
from engine.jigs.profile import beside as lengths_beside
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


@dataclass(frozen=True)
class Beside:
    """Purlins or rails that are no members: of what they are, how many metres; mass in t, None where it is not known, cost and carbon as
    of an amount."""

    role: str
    words: str
    length: float
    mass: float | None
    cost: float
    carbon: float


def beside(document: Document) -> tuple[Beside, ...]:
    """The purlins and rails of a hall that are no members. Cold-formed ones weigh A ρ; of those by a table nothing says it."""
    hall, prices = document.hall, document.sizing.prices
    if hall is None:
        return ()
    found = []
    for role, length in lengths_beside(hall, materials_of(document)).items():
        kind = hall.purlins if role == "purlin" else hall.rails
        assert kind is not None
        mass = section(kind.cold.section).A * DENSITY * length if kind.cold else None
        of = kind.cold.section if kind.cold else kind.table
        words = f"{length:.0f} m of {ROLE_WORDS[role][1].lower()}" + (f", {of}" if of else "")
        cost, carbon = ((mass or 0.0) * rate for rate in (prices.cold, prices.carbon / 1000))
        found.append(Beside(role, words, length, None if mass is None else mass / 1000, cost, carbon))
    return tuple(found)
