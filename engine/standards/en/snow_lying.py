"""How snow lies: stretches along an axis across the building, as one arrangement."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np

from engine.derivation import Values
from engine.document import Document
from engine.standards.en import snow
from engine.standards.en.roofs import parapet
from engine.standards.en.wind_zones import FAR
from engine.structure.model import Floats, Panel


@dataclass(frozen=True)
class Axis:
    """The horizontal axis across a roof: a point on it and its unit vector."""

    origin: Floats
    across: Floats


#: across a hall, from grid A
HALL = Axis(np.zeros(3), np.array([1.0, 0.0, 0.0]))


@dataclass(frozen=True)
class Stretch:
    """A stretch of a roof: from x0 to x1 along an axis across it and y0 to y1 sideways, μ at x0 and x1. how: the values that μ came
    from, by name."""

    x: tuple[float, float]
    mu: tuple[float, float]
    y: tuple[float, float] = (-FAR, FAR)
    axis: Axis = HALL
    how: Values = field(default_factory=dict)

    def on(self, panel: Panel) -> Floats:
        """Its polygon in the plane of the panel, as points in space."""
        across = self.axis.across
        sideways = np.array([-across[1], across[0], 0.0])
        (x0, x1), (y0, y1) = self.x, self.y
        points = self.axis.origin + np.array(
            [across * x + sideways * y for x, y in ((x0, y0), (x1, y0), (x1, y1), (x0, y1))]
        )
        points[:, 2] -= (points - panel.corners[0]) @ panel.outside / panel.outside[2]
        return np.asarray(points)

    def terms(self, panel: Panel) -> tuple[float, float, float]:
        """μ in the panel's coordinates: at its origin, its change along s and along t."""
        rate = (self.mu[1] - self.mu[0]) / (self.x[1] - self.x[0])
        start = float((panel.corners[0] - self.axis.origin) @ self.axis.across) - self.x[0]
        along, up = panel.basis @ self.axis.across
        return float(self.mu[0] + rate * start), float(rate * along), float(rate * up)


@dataclass
class Arrangement:
    """How snow lies: the stretches of each panel, and why."""

    name: str
    note: str
    stretches: dict[str, list[Stretch]] = field(default_factory=lambda: defaultdict(list))

    def lay(self, panel: Panel, mu: float, how: Values) -> None:
        """The same μ over a whole panel."""
        self.stretches[panel.name].append(Stretch(stretched(panel), (mu, mu), how=how))

    def drift(self, panel: Panel, wall: float, length: float, peak: float, even: float, how: Values) -> None:
        """Where a drift of that length lies against a wall at x on a panel: linear from `peak` to `even`; beyond it, even."""
        x0, x1 = stretched(panel)
        away = 1.0 if (x0 + x1) / 2 > wall else -1.0
        end = wall + away * length
        self.knots(panel, sorted([(wall, peak), (end, even)]), how)

    def knots(
        self,
        panel: Panel,
        knots: list[tuple[float, float]],
        how: Values,
        y: tuple[float, float] = (-FAR, FAR),
        axis: Axis = HALL,
    ) -> None:
        """μ linear between knots (x, μ) in ascending order of x, and even beyond them."""
        places, values = [x for x, _ in knots], [mu for _, mu in knots]
        x0, x1 = stretched(panel, axis)
        cuts = sorted({x0, x1, *(x for x in places if x0 < x < x1)})
        for a, b in zip(cuts[:-1], cuts[1:], strict=True):
            ends = (float(np.interp(a, places, values)), float(np.interp(b, places, values)))
            self.stretches[panel.name].append(Stretch((a, b), ends, y, axis, how))


def stretched(panel: Panel, axis: Axis = HALL) -> tuple[float, float]:
    x = (panel.corners - axis.origin) @ axis.across
    return float(x.min()), float(x.max())


def shape(panel: Panel, document: Document) -> float:
    """μ1 of a roof panel; at least 0.8 where snow is kept from sliding (5.3.2(2), 5.3.3(2))."""
    return shaped(panel, document)["mu1"]


def shaped(panel: Panel, document: Document) -> dict[str, float]:
    """The same as "mu1", with the values that it comes from: the pitch alpha in degrees, μ1 of flat roofs, whether snow is held."""
    flat = document.national.snow.flat
    mu = float(snow.mu1(panel.pitch, flat))
    held = document.snow.held or bool(parapet(document))
    return {"alpha": panel.pitch, "flat": flat, "mu1": max(mu, flat) if held else mu} | ({"held": 1.0} if held else {})
