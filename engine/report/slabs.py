"""What goes on within slabs and walls: pictures of one in a state, and what is greatest and least in each."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from engine.analysis.modes_drawn import Mode
from engine.analysis.shell import RESULTANTS
from engine.analysis.slabs import Within, principal, substructure, within
from engine.chain import Chain
from engine.report.states import find_state
from engine.structure.model import Floats, Ints, Slab, Structure

#: movement inwards (of a floor: downwards) in m, resultants of shell.RESULTANTS, and principal moments and forces
QUANTITIES = ("w", *RESULTANTS, "m1", "m2", "n1", "n2")
#: states that are found at a time, in millions of values
BLOCK = 4_000_000


@dataclass(frozen=True)
class Pictured:
    """A slab in a state, or the greatest and the least over an envelope: by quantity (g,) values in m, N/m and Nm/m at the corners of its cells;
    way: (g,) from x to the first principal moment, in radians, empty over an envelope. coarse: as of slabs.Within,
    the largest."""

    slab: Slab
    corner: Ints
    kind: str
    words: str
    most: dict[str, Floats]
    least: dict[str, Floats]
    way: Floats
    coarse: float = 0.0


@dataclass(frozen=True)
class Extreme:
    """A value, where (x, y, z) in m, and in which combination."""

    value: float
    at: tuple[float, float, float]
    combination: str


@dataclass(frozen=True)
class SlabExtremes:
    """Of a slab by quantity the greatest and the least: movements over the combinations for deflection, the others over those for strength."""

    slab: Slab
    found: dict[str, tuple[Extreme, Extreme]]


def pictured(chain: Chain, name: str, state: str) -> Pictured:
    """A slab in a case, a combination or an envelope. Of a mode its movement alone, in shares of the largest (in place of m). Raises KeyError for a slab or a state that is not there."""
    slab = _named(chain.structure, name)
    found = find_state(chain, state)
    if found.mode is not None:
        return _swinging(chain, slab, found.mode, found.words)
    corner = substructure(slab).recovered.corner
    most: dict[str, Floats] = {}
    least: dict[str, Floats] = {}
    way, coarse = np.zeros(0), 0.0
    for _, values, one in _each(chain, slab, found.numbers):
        for key, rows in values.items():
            high, low = rows.max(axis=1), rows.min(axis=1)
            most[key] = np.maximum(most[key], high) if key in most else high
            least[key] = np.minimum(least[key], low) if key in least else low
        coarse = max(coarse, float(one.coarse.max()))
        if found.kind != "envelope":
            m = one.resultants[:, :3, 0]
            way = principal(m[:, 0], m[:, 1], m[:, 2])[2]
    return Pictured(slab, corner, found.kind, found.words, most, least, way, coarse)


def _swinging(chain: Chain, slab: Slab, mode: Mode, words: str) -> Pictured:
    """How a slab moves in a mode, in shares of the largest movement. Raises KeyError for one that is not known on slabs."""
    if not mode.slabs:
        raise KeyError(words)
    number = [s.panel for s in chain.structure.slabs].index(slab.panel)
    found = substructure(slab).recovered
    values = {"w": -mode.slabs[number][found.point, 2]}
    return Pictured(slab, found.corner, "mode", words, values, values, np.zeros(0))


def slab_extremes(chain: Chain) -> list[SlabExtremes]:
    """Of every slab; none without combinations."""
    strength = list(chain.verification.strength)
    deflection = list(chain.verification.deflection) or strength
    out = []
    for slab in chain.structure.slabs if strength else ():
        found: dict[str, tuple[Extreme, Extreme]] = {}
        for which, keys in ((deflection, QUANTITIES[:1]), (strength, QUANTITIES[1:])):
            for numbers, values, one in _each(chain, slab, which):
                place = substructure(slab).recovered.point
                for key in keys:
                    rows = values[key]
                    pair = [
                        _extreme(chain, slab, place, rows, numbers, int(pick))
                        for pick in (rows.argmax(), rows.argmin())
                    ]
                    if key in found:
                        before = found[key]
                        pair = [
                            pair[0] if pair[0].value > before[0].value else before[0],
                            pair[1] if pair[1].value < before[1].value else before[1],
                        ]
                    found[key] = (pair[0], pair[1])
                del one
        out.append(SlabExtremes(slab, found))
    return out


def _extreme(chain: Chain, slab: Slab, place: Ints, rows: Floats, numbers: list[int], pick: int) -> Extreme:
    g, c = np.unravel_index(pick, rows.shape)
    x, y, z = slab.points[place[g]].tolist()
    count = len(chain.combinations)
    number = numbers[int(c)]
    name = chain.combinations[number].name if number < count else chain.loading.cases[number - count].symbol
    return Extreme(float(rows[g, c]), (x, y, z), name)


def _named(structure: Structure, name: str) -> Slab:
    for slab in structure.slabs:
        if slab.panel == name:
            return slab
    raise KeyError(name)


def _each(chain: Chain, slab: Slab, numbers: list[int]) -> Iterator[tuple[list[int], dict[str, Floats], Within]]:
    """The states of these numbers, some at a time: by quantity values (g, c) at the corners of cells, and what goes on within."""
    point = substructure(slab).recovered.point
    size = max(1, BLOCK // (len(slab.flat) * 6 + len(point) * len(QUANTITIES)))
    for at in range(0, len(numbers), size):
        own = numbers[at : at + size]
        moved = chain.combined.displacement(own)
        one = within(chain.structure, slab, chain.loading, chain.combined.rows[own], moved)
        values = {"w": -one.movement[point, 2]}
        values |= {key: one.resultants[:, k] for k, key in enumerate(RESULTANTS)}
        values["m1"], values["m2"], _ = principal(values["mx"], values["my"], values["mxy"])
        values["n1"], values["n2"], _ = principal(values["nx"], values["ny"], values["nxy"])
        yield own, values, one
