"""Where diagrams have values along the elements."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.analysis.elements import Elements
from engine.analysis.transfer import ElementLoads
from engine.structure.model import Floats, Ints

#: stations per element, at least
STATIONS = 9
#: how far apart they are at most, as a share of the element
WIDEST = 0.25
#: distance of stations from a concentrated load between them, as a share of the element
BESIDE = 1e-6
#: two stations nearer than this share of the element stand before and behind a concentrated load
ACROSS = 4 * BESIDE
#: loads that start or end nearer than this to another place, as a share of the element, do so there
STEP = 1e-5


def station_positions(elements: Elements, loads: ElementLoads) -> Floats:
    """(e, s) stations, both ends included: equally spaced, but there is one where a line load starts or ends, and one closely
    before and one behind each concentrated load, so that everything between two stations is smooth. There are more of them
    when an element bears many such loads, and none are farther apart than WIDEST.
    """
    own: dict[int, set[float]] = defaultdict(set)
    for e, share in _inside(elements, loads.point[:, 0], loads.at, 2 * BESIDE):
        own[e] |= {share - BESIDE, share + BESIDE}
    steps = _inside(elements, np.repeat(loads.line[:, 0], 2), loads.span.ravel(), STEP)
    for e, share in steps:
        if all(abs(share - other) > STEP for other in own[e]):
            own[e].add(share)
    every = {e: _filled([0.0, 1.0, *places], 0, WIDEST) for e, places in own.items()}
    count = max(STATIONS, max(map(len, every.values()), default=0))
    shares = np.tile(np.linspace(0.0, 1.0, count), (len(elements), 1))
    for e, places in every.items():
        shares[e] = _filled(places, count, 1.0)
    return elements.length[:, None] * shares


def _filled(places: list[float], count: int, widest: float) -> list[float]:
    """Shares in order, with more of them in the middle of the widest gaps until there are so many and no gap is wider."""
    found = sorted(places)
    gaps = np.diff(found)
    while len(found) < count or gaps.max() > widest:
        k = int(np.argmax(gaps))
        found.insert(k + 1, (found[k] + found[k + 1]) / 2)
        gaps = np.diff(found)
    return found


def _inside(elements: Elements, e: Ints, at: Floats, margin: float) -> list[tuple[int, float]]:
    """Elements and shares of their length, once each, of places (m) that lie inside them."""
    share = at / elements.length[e]
    inside = (share > margin) & (share < 1 - margin)
    pairs = np.unique(np.stack([e[inside], np.round(share[inside], 7)], axis=1), axis=0)
    return [(int(a), float(b)) for a, b in pairs]
