"""Values and slopes at the stations of a member, read at other places."""

from __future__ import annotations

import numpy as np

from engine.analysis.stations import ACROSS
from engine.structure.model import Floats

#: how far beside a place, in m, it is decided what acts there: more than members alike differ by
BESIDE = 1e-5


def interpolation(places: Floats, spans: list[tuple[float, float]], samples: int) -> tuple[Floats, Floats, Floats]:
    """Matrices (spans × samples, stations of the member) that give values from values and slopes (cubic Hermite), and linearly, at
    equally spaced places of each span: where forces jump, those beyond the jump, at the end of the span those before it.

    places: (elements, stations) m along the member. Exact between stations for a uniform or linearly varying load.
    """
    # beyond the stations that stand before and behind a concentrated load
    beside = max(BESIDE, ACROSS * float(np.ptp(places, axis=1).max()))
    at = np.concatenate([np.linspace(a, b, samples) for a, b in spans])
    within = np.concatenate([np.clip(np.linspace(a, b, samples) + beside, a, b - beside) for a, b in spans])
    elements, stations = places.shape
    value, slope, linear = (np.zeros((len(at), elements * stations)) for _ in range(3))
    element = np.clip(np.searchsorted(places[:, 0], within, side="right") - 1, 0, elements - 1)
    k = np.clip((places[element] <= within[:, None]).sum(axis=1) - 1, 0, stations - 2)
    step = places[element, k + 1] - places[element, k]
    t = np.clip((at - places[element, k]) / step, 0.0, 1.0)
    rows, left = np.arange(len(at)), element * stations + k
    value[rows, left] = 1 - 3 * t**2 + 2 * t**3
    value[rows, left + 1] = 3 * t**2 - 2 * t**3
    slope[rows, left] = step * (t - 2 * t**2 + t**3)
    slope[rows, left + 1] = step * (t**3 - t**2)
    linear[rows, left], linear[rows, left + 1] = 1 - t, t
    return value, slope, linear
