"""External pressure coefficients of EN 1991-1-4 section 7 as printed, with interpolation and the loaded area's effect.

Every zone has the two values printed for it: a suction set and a pressure set, each as (c_pe,10, c_pe,1). Where a table
prints one value, both sets are the same.
"""

from __future__ import annotations

from bisect import bisect_right
from math import log10

from engine.actions.derived import Both, Pair


def _one(c10: float, c1: float | None = None) -> Both:
    pair = (c10, c10 if c1 is None else c1)
    return pair, pair


def _two(low: float, low1: float | None, high: float) -> Both:
    return (low, low if low1 is None else low1), (high, high)


#: table 7.1: h/d -> zone
WALLS: dict[float, dict[str, Both]] = {
    0.25: {"A": _one(-1.2, -1.4), "B": _one(-0.8, -1.1), "C": _one(-0.5), "D": _one(0.7, 1.0), "E": _one(-0.3)},
    1.0: {"A": _one(-1.2, -1.4), "B": _one(-0.8, -1.1), "C": _one(-0.5), "D": _one(0.8, 1.0), "E": _one(-0.5)},
    5.0: {"A": _one(-1.2, -1.4), "B": _one(-0.8, -1.1), "C": _one(-0.5), "D": _one(0.8, 1.0), "E": _one(-0.7)},
}

_INNER = {"I": _two(-0.2, None, 0.2)}
_HALF = {"H": _one(-0.7, -1.2)}
#: table 7.2: eaves -> h_p/h, r/h or mansard angle -> zone
FLAT: dict[str, dict[float, dict[str, Both]]] = {
    "sharp": {0.0: {"F": _one(-1.8, -2.5), "G": _one(-1.2, -2.0), **_HALF, **_INNER}},
    "parapet": {
        0.0: {"F": _one(-1.8, -2.5), "G": _one(-1.2, -2.0), **_HALF, **_INNER},
        0.025: {"F": _one(-1.6, -2.2), "G": _one(-1.1, -1.8), **_HALF, **_INNER},
        0.05: {"F": _one(-1.4, -2.0), "G": _one(-0.9, -1.6), **_HALF, **_INNER},
        0.10: {"F": _one(-1.2, -1.8), "G": _one(-0.8, -1.4), **_HALF, **_INNER},
    },
    "curved": {
        0.0: {"F": _one(-1.8, -2.5), "G": _one(-1.2, -2.0), **_HALF, **_INNER},
        0.05: {"F": _one(-1.0, -1.5), "G": _one(-1.2, -1.8), "H": _one(-0.4), **_INNER},
        0.10: {"F": _one(-0.7, -1.2), "G": _one(-0.8, -1.4), "H": _one(-0.3), **_INNER},
        0.20: {"F": _one(-0.5, -0.8), "G": _one(-0.5, -0.8), "H": _one(-0.3), **_INNER},
    },
    "mansard": {
        30.0: {"F": _one(-1.0, -1.5), "G": _one(-1.0, -1.5), "H": _one(-0.3), **_INNER},
        45.0: {"F": _one(-1.2, -1.8), "G": _one(-1.3, -1.9), "H": _one(-0.4), **_INNER},
        60.0: {"F": _one(-1.3, -1.9), "G": _one(-1.3, -1.9), "H": _one(-0.5), **_INNER},
    },
}

#: table 7.3a, θ = 0° (the low eaves to windward): pitch -> zone
SINGLE_LOW: dict[float, dict[str, Both]] = {
    5.0: {"F": _two(-1.7, -2.5, 0.0), "G": _two(-1.2, -2.0, 0.0), "H": _two(-0.6, -1.2, 0.0)},
    15.0: {"F": _two(-0.9, -2.0, 0.2), "G": _two(-0.8, -1.5, 0.2), "H": _two(-0.3, None, 0.2)},
    30.0: {"F": _two(-0.5, -1.5, 0.7), "G": _two(-0.5, -1.5, 0.7), "H": _two(-0.2, None, 0.4)},
    45.0: {"F": _two(0.0, None, 0.7), "G": _two(0.0, None, 0.7), "H": _two(0.0, None, 0.6)},
    60.0: {"F": _one(0.7), "G": _one(0.7), "H": _one(0.7)},
    75.0: {"F": _one(0.8), "G": _one(0.8), "H": _one(0.8)},
}
#: table 7.3a, θ = 180° (the high eaves to windward)
SINGLE_HIGH: dict[float, dict[str, Both]] = {
    5.0: {"F": _one(-2.3, -2.5), "G": _one(-1.3, -2.0), "H": _one(-0.8, -1.2)},
    15.0: {"F": _one(-2.5, -2.8), "G": _one(-1.3, -2.0), "H": _one(-0.9, -1.2)},
    30.0: {"F": _one(-1.1, -2.3), "G": _one(-0.8, -1.5), "H": _one(-0.8)},
    45.0: {"F": _one(-0.6, -1.3), "G": _one(-0.5), "H": _one(-0.7)},
    60.0: {"F": _one(-0.5, -1.0), "G": _one(-0.5), "H": _one(-0.5)},
    75.0: {"F": _one(-0.5, -1.0), "G": _one(-0.5), "H": _one(-0.5)},
}
#: table 7.3b, θ = 90°: Fu at the high corner, Fl at the low one
SINGLE_ALONG: dict[float, dict[str, Both]] = {
    5.0: {
        "Fu": _one(-2.1, -2.6),
        "Fl": _one(-2.1, -2.4),
        "G": _one(-1.8, -2.0),
        "H": _one(-0.6, -1.2),
        "I": _one(-0.5),
    },
    15.0: {
        "Fu": _one(-2.4, -2.9),
        "Fl": _one(-1.6, -2.4),
        "G": _one(-1.9, -2.5),
        "H": _one(-0.8, -1.2),
        "I": _one(-0.7, -1.2),
    },
    30.0: {
        "Fu": _one(-2.1, -2.9),
        "Fl": _one(-1.3, -2.0),
        "G": _one(-1.5, -2.0),
        "H": _one(-1.0, -1.3),
        "I": _one(-0.8, -1.2),
    },
    45.0: {
        "Fu": _one(-1.5, -2.4),
        "Fl": _one(-1.3, -2.0),
        "G": _one(-1.4, -2.0),
        "H": _one(-1.0, -1.3),
        "I": _one(-0.9, -1.2),
    },
    60.0: {
        "Fu": _one(-1.2, -2.0),
        "Fl": _one(-1.2, -2.0),
        "G": _one(-1.2, -2.0),
        "H": _one(-1.0, -1.3),
        "I": _one(-0.7, -1.2),
    },
    75.0: {
        "Fu": _one(-1.2, -2.0),
        "Fl": _one(-1.2, -2.0),
        "G": _one(-1.2, -2.0),
        "H": _one(-1.0, -1.3),
        "I": _one(-0.5),
    },
}
#: table 7.4a, wind across the ridge; pitches below 0 are of troughs
DUOPITCH_ACROSS: dict[float, dict[str, Both]] = {
    -45.0: {"F": _one(-0.6), "G": _one(-0.6), "H": _one(-0.8), "I": _one(-0.7), "J": _one(-1.0, -1.5)},
    -30.0: {"F": _one(-1.1, -2.0), "G": _one(-0.8, -1.5), "H": _one(-0.8), "I": _one(-0.6), "J": _one(-0.8, -1.4)},
    -15.0: {
        "F": _one(-2.5, -2.8),
        "G": _one(-1.3, -2.0),
        "H": _one(-0.9, -1.2),
        "I": _one(-0.5),
        "J": _one(-0.7, -1.2),
    },
    -5.0: {
        "F": _one(-2.3, -2.5),
        "G": _one(-1.2, -2.0),
        "H": _one(-0.8, -1.2),
        "I": _two(-0.6, None, 0.2),
        "J": _two(-0.6, None, 0.2),
    },
    5.0: {
        "F": _two(-1.7, -2.5, 0.0),
        "G": _two(-1.2, -2.0, 0.0),
        "H": _two(-0.6, -1.2, 0.0),
        "I": _one(-0.6),
        "J": _two(-0.6, None, 0.2),
    },
    15.0: {
        "F": _two(-0.9, -2.0, 0.2),
        "G": _two(-0.8, -1.5, 0.2),
        "H": _two(-0.3, None, 0.2),
        "I": _two(-0.4, None, 0.0),
        "J": _two(-1.0, -1.5, 0.0),
    },
    30.0: {
        "F": _two(-0.5, -1.5, 0.7),
        "G": _two(-0.5, -1.5, 0.7),
        "H": _two(-0.2, None, 0.4),
        "I": _two(-0.4, None, 0.0),
        "J": _two(-0.5, None, 0.0),
    },
    45.0: {
        "F": _two(0.0, None, 0.7),
        "G": _two(0.0, None, 0.7),
        "H": _two(0.0, None, 0.6),
        "I": _two(-0.2, None, 0.0),
        "J": _two(-0.3, None, 0.0),
    },
    60.0: {"F": _one(0.7), "G": _one(0.7), "H": _one(0.7), "I": _one(-0.2), "J": _one(-0.3)},
    75.0: {"F": _one(0.8), "G": _one(0.8), "H": _one(0.8), "I": _one(-0.2), "J": _one(-0.3)},
}
#: table 7.4b, wind along the ridge
DUOPITCH_ALONG: dict[float, dict[str, Both]] = {
    -45.0: {"F": _one(-1.4, -2.0), "G": _one(-1.2, -2.0), "H": _one(-1.0, -1.3), "I": _one(-0.9, -1.2)},
    -30.0: {"F": _one(-1.5, -2.1), "G": _one(-1.2, -2.0), "H": _one(-1.0, -1.3), "I": _one(-0.9, -1.2)},
    -15.0: {"F": _one(-1.9, -2.5), "G": _one(-1.2, -2.0), "H": _one(-0.8, -1.2), "I": _one(-0.8, -1.2)},
    -5.0: {"F": _one(-1.8, -2.5), "G": _one(-1.2, -2.0), "H": _one(-0.7, -1.2), "I": _one(-0.6, -1.2)},
    5.0: {"F": _one(-1.6, -2.2), "G": _one(-1.3, -2.0), "H": _one(-0.7, -1.2), "I": _one(-0.6)},
    15.0: {"F": _one(-1.3, -2.0), "G": _one(-1.3, -2.0), "H": _one(-0.6, -1.2), "I": _one(-0.5)},
    30.0: {"F": _one(-1.1, -1.5), "G": _one(-1.4, -2.0), "H": _one(-0.8, -1.2), "I": _one(-0.5)},
    45.0: {"F": _one(-1.1, -1.5), "G": _one(-1.4, -2.0), "H": _one(-0.9, -1.2), "I": _one(-0.5)},
    60.0: {"F": _one(-1.1, -1.5), "G": _one(-1.2, -2.0), "H": _one(-0.8, -1.0), "I": _one(-0.5)},
    75.0: {"F": _one(-1.1, -1.5), "G": _one(-1.2, -2.0), "H": _one(-0.8, -1.0), "I": _one(-0.5)},
}
#: table 7.6: pitch -> (most, least at φ = 0, least at φ = 1), each overall c_f and c_p,net of zones A, B, C
CANOPY_SINGLE: dict[float, tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]] = {
    0.0: ((0.2, 0.6, 1.8, 1.1), (-0.5, -0.6, -1.3, -1.4), (-1.3, -1.5, -1.8, -2.2)),
    5.0: ((0.4, 0.8, 2.1, 1.3), (-0.7, -1.1, -1.7, -1.8), (-1.4, -1.6, -2.2, -2.5)),
    10.0: ((0.5, 1.2, 2.4, 1.6), (-0.9, -1.5, -2.0, -2.1), (-1.4, -2.1, -2.6, -2.7)),
    15.0: ((0.7, 1.4, 2.7, 1.8), (-1.1, -1.8, -2.4, -2.5), (-1.4, -1.6, -2.9, -3.0)),
    20.0: ((0.8, 1.7, 2.9, 2.1), (-1.3, -2.2, -2.8, -2.9), (-1.4, -1.6, -2.9, -3.0)),
    25.0: ((1.0, 2.0, 3.1, 2.3), (-1.6, -2.6, -3.2, -3.2), (-1.4, -1.5, -2.5, -2.8)),
    30.0: ((1.2, 2.2, 3.2, 2.4), (-1.8, -3.0, -3.8, -3.6), (-1.4, -1.5, -2.2, -2.7)),
}
#: table 7.7: the same of duopitch canopies, zones A, B, C, D; pitches below 0 are of troughs
CANOPY_DUOPITCH: dict[float, tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]] = {
    -20.0: ((0.7, 0.8, 1.6, 0.6, 1.7), (-0.7, -0.9, -1.3, -1.6, -0.6), (-1.3, -1.5, -2.4, -2.4, -0.6)),
    -15.0: ((0.5, 0.6, 1.5, 0.7, 1.4), (-0.6, -0.8, -1.3, -1.6, -0.6), (-1.4, -1.6, -2.7, -2.6, -0.6)),
    -10.0: ((0.4, 0.6, 1.4, 0.8, 1.1), (-0.6, -0.8, -1.3, -1.5, -0.6), (-1.4, -1.6, -2.7, -2.6, -0.6)),
    -5.0: ((0.3, 0.5, 1.5, 0.8, 0.8), (-0.5, -0.7, -1.3, -1.6, -0.6), (-1.3, -1.5, -2.4, -2.4, -0.6)),
    5.0: ((0.3, 0.6, 1.8, 1.3, 0.4), (-0.6, -0.6, -1.4, -1.4, -1.1), (-1.3, -1.3, -2.0, -1.8, -1.5)),
    10.0: ((0.4, 0.7, 1.8, 1.4, 0.4), (-0.7, -0.7, -1.5, -1.4, -1.4), (-1.3, -1.3, -2.0, -1.8, -1.8)),
    15.0: ((0.4, 0.9, 1.9, 1.4, 0.4), (-0.8, -0.9, -1.7, -1.4, -1.8), (-1.3, -1.3, -2.2, -1.6, -2.1)),
    20.0: ((0.6, 1.1, 1.9, 1.5, 0.4), (-0.9, -1.2, -1.8, -1.4, -2.0), (-1.3, -1.4, -2.2, -1.6, -2.1)),
    25.0: ((0.7, 1.2, 1.9, 1.6, 0.5), (-1.0, -1.4, -1.9, -1.4, -2.0), (-1.3, -1.4, -2.0, -1.5, -2.0)),
    30.0: ((0.9, 1.3, 1.9, 1.6, 0.7), (-1.0, -1.4, -1.9, -1.4, -2.0), (-1.3, -1.4, -1.8, -1.4, -2.0)),
}

#: table 7.9, φ = 1: length over height of a free-standing wall without return corners -> c_p,net of zones A, B, C, D
FREE_WALL: dict[float, tuple[float, float, float, float]] = {
    3.0: (2.3, 1.4, 1.2, 1.2),
    5.0: (2.9, 1.8, 1.4, 1.2),
    10.0: (3.4, 2.1, 1.7, 1.2),
}
#: table 7.9, φ = 1: with return corners at least as long as the wall is high
FREE_WALL_RETURNS = (2.1, 1.8, 1.4, 1.2)
#: figure 7.19: ends of zones A, B and C, as shares of the height
FREE_WALL_ZONES = (0.3, 2.0, 4.0)


def _between(keys: list[float], at: float) -> tuple[float, float, float]:
    """The two keys around a value and the share of the way from the first; outside, the end twice."""
    if at <= keys[0]:
        return keys[0], keys[0], 0.0
    if at >= keys[-1]:
        return keys[-1], keys[-1], 0.0
    i = bisect_right(keys, at)
    low, high = keys[i - 1], keys[i]
    return low, high, (at - low) / (high - low)


def coefficient(table: dict[float, dict[str, Both]], zone: str, at: float) -> Both:
    """The two sets of a zone, linear between the printed rows (suction with suction, pressure with pressure)."""
    low, high, share = _between(sorted(table), at)
    a, b = table[low][zone], table[high][zone]

    def mix(k: int) -> Pair:
        return a[k][0] + share * (b[k][0] - a[k][0]), a[k][1] + share * (b[k][1] - a[k][1])

    return mix(0), mix(1)


def reading(table: dict[float, dict[str, Both]], zone: str, at: float, unit: str, which: int) -> str:
    """The printed c_pe,10 that a value of `coefficient` lies between, with the rows they stand in; "" in a printed row. which: 0
    of the suction set, 1 of the pressure set."""
    low, high, share = _between(sorted(table), at)
    if share * (1 - share) < 1e-9:
        return ""
    rows = [f"{table[key][zone][which][0]:+.2f} at {key:g}{unit}" for key in (low, high)]
    return "between " + " and ".join(rows)


def canopy(
    table: dict[float, tuple[tuple[float, ...], tuple[float, ...], tuple[float, ...]]], pitch: float, blockage: float
) -> tuple[tuple[float, ...], tuple[float, ...]]:
    """(most, least) c_f and c_p,net of tables 7.6 and 7.7, linear between pitches and in the blockage φ (7.3(3))."""
    low, high, share = _between(sorted(table), pitch)
    rows = [
        tuple(x + share * (y - x) for x, y in zip(a, b, strict=True))
        for a, b in zip(table[low], table[high], strict=True)
    ]
    most, free, blocked = rows
    return most, tuple(x + blockage * (y - x) for x, y in zip(free, blocked, strict=True))


def by_area(pair: Pair, area: float, rule: str = "logarithmic") -> float:
    """c_pe of a loaded area in m², figure 7.2: c_pe,1 up to 1 m², c_pe,10 from 10 m², logarithmic between, or as another
    national rule says: "c_pe,1 below 10 m²", or "c_pe,10" throughout."""
    c10, c1 = pair
    if rule == "c_pe,10":
        return c10
    if rule == "c_pe,1 below 10 m²":
        return c10 if area >= 10 else c1
    if area <= 1:
        return c1
    return c10 if area >= 10 else c1 - (c1 - c10) * log10(area)
