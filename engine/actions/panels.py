"""From pressures on a panel to line loads on the members that carry it."""

from __future__ import annotations

import numpy as np

from engine.actions.cases import LineLoad, Loading
from engine.structure.model import Floats, Panel


def press(
    loading: Loading,
    case: int,
    panel: Panel,
    direction: Floats,
    pressure: float,
    start: float = 0.0,
    end: float | None = None,
) -> None:
    """Load a strip of a panel, between two distances along its length, with a uniform pressure.

    pressure: N/m² of panel surface along the unit vector `direction` (global). The carriers take it by tributary width,
    the cladding being simply supported between them; a two-way panel (loaded whole) gives lines at 45° to its sides. The
    expected resultant is pressure times strip area.
    """
    end = panel.length if end is None else end
    if end - start < 1e-9 or pressure == 0.0:
        return
    loading.expected[case] = loading.expected[case] + direction * pressure * (end - start) * panel.width
    if panel.two_way:
        _two_way(loading, case, panel, direction * pressure)
        return
    for c in panel.carriers:
        low, high = max(start, c.start), min(end, c.end)
        if high - low < 1e-9:
            continue
        if c.across:
            intensity = direction * pressure * (high - low)
            loading.lines.append(LineLoad(case, c.member, 0.0, None, intensity, intensity))
            continue
        intensity = direction * pressure * c.width
        first, last = c.offset + low - c.start, c.offset + high - c.start
        if c.reverse:
            first, last = c.offset - (high - c.start), c.offset - (low - c.start)
        loading.lines.append(LineLoad(case, c.member, first, last, intensity, intensity))


def _two_way(loading: Loading, case: int, panel: Panel, pressure: Floats) -> None:
    """Triangles on the short sides and trapezoids on the long ones. Carriers `across` lie on the sides of panel.width."""
    half = min(panel.length, panel.width) / 2
    for c in panel.carriers:
        first, side = (c.start, panel.width) if c.across else (c.offset, panel.length)
        peak, none = pressure * half, np.zeros(3)
        places = [first, first + half, first + side - half, first + side]
        for a, b, low, high in zip(places[:-1], places[1:], (none, peak, peak), (peak, peak, none), strict=True):
            if b - a > 1e-9:
                loading.lines.append(LineLoad(case, c.member, a, b, low, high))


DOWN = np.array([0.0, 0.0, -1.0])
