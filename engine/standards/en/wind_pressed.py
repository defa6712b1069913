"""A pressure of the wind on a panel, and how it came about."""

from __future__ import annotations

from typing import NamedTuple

from engine.actions.cases import Loading
from engine.actions.derived import PeakPressure, Wind, Zone
from engine.actions.panels import press
from engine.derivation import Reason
from engine.structure.model import Floats, Panel

#: a pressure below this is none, N/m²
NOTHING = 1e-6


class Pressed(NamedTuple):
    """A pressure in N/m² on a polygon of a panel: where it pushes, the letter or word of its zone, the coefficients behind it, and how it
    came about."""

    panel: Panel
    towards: Floats
    pressure: float
    points: Floats
    zone: str
    why: str
    reason: Reason

    def put(self, loading: Loading, case: int) -> None:
        """Lay it on its panel in a case; next to nothing counts as nought."""
        pressure = self.pressure if abs(self.pressure) > NOTHING else 0.0
        why = self.why.replace("-", "−")
        press(loading, case, self.panel, self.towards, pressure, self.points, self.zone, why, reason=self.reason)


def because(pressure: PeakPressure, words: dict[str, str] | None = None, **values: float) -> Reason:
    """A reason of wind: the steps to its peak pressure, and those that follow it."""
    of = pressure.reason
    return Reason("wind", {**of.values, **values}, {**of.words, **(words or {})})


def outer_reason(w: Wind, zone: Zone, pick: int, words: dict[str, str] | None = None, **values: float) -> Reason:
    """How the outer pressure of a set of a zone's coefficients comes about, with values of what follows it."""
    read = f", {zone.read[pick]}" if zone.read[pick] else ""
    c = zone.both[pick][0] if zone.own is None else zone.own[0][pick]
    own = {} if zone.own is None else {"loaded_area": zone.own[1]}
    lack = {"correlation": w.correlation} if zone.letter in "DE" and w.correlation != 1 else {}
    box = {"b": w.box.across(w.direction), "h": w.box.height, "e": w.box.e(w.direction)}
    told = {"source": (zone.source + read).replace("-", "−"), "zone": zone.letter}
    pressure, outer = w.pressures[zone.height], w.outside(zone, pick)[0] * w.peak(zone)
    own_values = {**box, **own, **lack, "structural": w.structural, "c_pe": c, "w_e": outer, **values}
    return because(pressure, told | (words or {}), **own_values)


def net_reason(w: Wind, zone: Zone, pick: int, inside: float, source: str) -> Reason:
    """How the pressure on a zone comes about, less that inside, or less that on the wall below an overhang."""
    if zone.below is not None:
        over = w.peak(zone) * (w.outside(zone, pick)[0] - zone.below)
        return outer_reason(w, zone, pick, c_below=zone.below, w_overhang=over)
    elsewhere = abs(w.peak(zone) - w.inner) > NOTHING
    inner = {"inner": w.inner, "z_i": max(w.pressures)} if elsewhere else {}
    w_i = w.inner * inside
    net = w.outside(zone, pick)[0] * w.peak(zone) - w_i
    words = {"inside": source.replace("-", "−")}
    return outer_reason(w, zone, pick, words, **inner, c_pi=inside, w_i=w_i, net=net)
