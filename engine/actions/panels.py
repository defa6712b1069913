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
    """Load a strip of a panel, between two distances along its carriers, with a uniform pressure.

    pressure: N/m² of panel surface along the unit vector `direction` (global). The carriers take it by tributary width,
    purlins and rails being simply supported from frame to frame. The expected resultant is pressure times strip area.
    """
    end = panel.length if end is None else end
    if end - start < 1e-9 or pressure == 0.0:
        return
    for carrier in panel.carriers:
        intensity = direction * pressure * carrier.width
        loading.lines.append(LineLoad(case, carrier.member, start, end, intensity, intensity))
    loading.expected[case] = loading.expected[case] + direction * pressure * (end - start) * panel.width


DOWN = np.array([0.0, 0.0, -1.0])
