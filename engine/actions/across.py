"""Pressures on roofs as they lie across the building, where a section cuts it at half its length."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.cases import Loading
from engine.structure.model import Floats, Structure

#: metres beside a place at which a pressure changes
BESIDE = 1e-6


@dataclass(frozen=True)
class Across:
    """A case's pressure on the roofs in N/m² of plan, downwards positive, at places x (n,) across the building; linear between
    them, and it may change at once at one of them, which is then there twice."""

    case: int
    x: Floats
    pressure: Floats


def across(structure: Structure, loading: Loading, nature: str) -> list[Across]:
    """What the cases of a nature press on the roofs, summed at each place of a section along X at the middle of all roofs; cases
    without any there are left out."""
    roofs = {p.name: p for p in structure.panels if p.kind == "roof"}
    if not roofs:
        return []
    y = np.concatenate([p.corners[:, 1] for p in roofs.values()])
    # beside the middle, where frames and edges of zones lie
    middle = float(y.min() + y.max()) / 2 + BESIDE
    found = []
    for case, own in enumerate(loading.cases):
        strips = []
        for load in loading.surfaces:
            if own.nature != nature or load.case != case or load.panel not in roofs or load.kind != "area":
                continue
            panel = roofs[load.panel]
            place = panel.place_of(load.polygon)
            ends = _crossed(place[:, :2], middle)
            if ends is None:
                continue
            # linear along the section; of the surface, so that it is more in plan; as it lies on the cladding, which may reach beyond
            # the lines of the steel
            at = np.array([load.at(flat) for flat in load.polygon])
            plan = -load.direction[2] / max(np.cos(np.radians(panel.pitch)), 1e-9) / panel.cover
            (x0, w0), (x1, w1) = ends
            strips.append((x0, x1, float(w0 @ at) * plan, float(w1 @ at) * plan))
        if strips:
            every = sorted(x for x0, x1, _, _ in strips for x in (x0, x1))
            places = [x for i, x in enumerate(every) if not i or x - every[i - 1] > 10 * BESIDE]
            x = np.array([side for place in places for side in (place - BESIDE, place + BESIDE)])[1:-1]
            total = np.zeros(len(x))
            for x0, x1, s0, s1 in strips:
                on = (x > x0) & (x < x1)
                total[on] += s0 + (s1 - s0) * (x[on] - x0) / (x1 - x0)
            found.append(Across(case, x, total))
    return found


def _crossed(polygon: Floats, y: float) -> tuple[tuple[float, Floats], tuple[float, Floats]] | None:
    """Where a line along X at y enters and leaves a polygon (k, 2), each with the weights of its corners there; None where it
    does not meet it."""
    found = []
    count = len(polygon)
    for i in range(count):
        a, b = polygon[i], polygon[(i + 1) % count]
        if (a[1] - y) * (b[1] - y) < 0:
            t = float((y - a[1]) / (b[1] - a[1]))
            weights = np.zeros(count)
            weights[i], weights[(i + 1) % count] = 1 - t, t
            found.append((float(a[0] + (b[0] - a[0]) * t), weights))
    if len(found) < 2:
        return None
    found.sort(key=lambda end: end[0])
    first, last = found[0], found[-1]
    return (first, last) if last[0] - first[0] > 10 * BESIDE else None
