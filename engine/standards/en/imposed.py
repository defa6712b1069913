"""Imposed loads by EN 1991-1-1: reduction of those on floors by the area that a member carries."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from numpy.typing import ArrayLike

from engine.actions.cases import Loading, Reduction
from engine.standards.en.combinations import PSI
from engine.structure.model import Floats, Structure

#: A_0 of (6.1), m²
REFERENCE_AREA = 10.0
#: categories to which α_A applies, 6.3.1.2(10)
REDUCIBLE = ("A", "B", "C", "D")


def area_factor(area: ArrayLike, category: str) -> Floats:
    """α_A = 5/7 ψ0 + A_0/A ≤ 1, (6.1); at least 0.6 for categories C and D. area: m² that a member carries."""
    factor = 5 / 7 * PSI[category][0] + REFERENCE_AREA / np.maximum(np.asarray(area, dtype=float), 1e-9)
    return np.asarray(np.clip(factor, 0.6 if category in ("C", "D") else 0.0, 1.0))


def storeys_factor(storeys: int, category: str) -> float:
    """α_n = (2 + (n − 2) ψ0) / n for columns and walls that carry more than two storeys of one category, (6.2)."""
    return (2 + (storeys - 2) * PSI[category][0]) / storeys if storeys > 2 else 1.0


def reduce_by_area(loading: Loading, structure: Structure) -> None:
    """Reduce the imposed line loads of panels that ask for it, by the area each of their carriers takes in all of them.

    Where patterns load some of the fields, the area is that of the loaded ones: less reduction, on the safe side.
    """
    table = loading.spread
    wanted = {p.name: p.category for p in structure.panels if p.reduced and p.category in REDUCIBLE}
    if table is None or not wanted or not len(table):
        return
    surfaces = loading.surfaces
    imposed = [s.panel in wanted and loading.cases[s.case].nature == "imposed" for s in surfaces]
    pressure = np.array([s.pressure[0] for s in surfaces])
    on = table.surface >= 0
    on[on] = np.array(imposed, dtype=bool)[table.surface[on]] & (pressure[table.surface[on]] > 0)
    if not on.any():
        return
    force = np.abs(table.first + table.last)[on].sum(axis=1) / 2 * (table.end - table.start)[on]
    area = force / pressure[table.surface[on]]
    key = table.case[on] * len(structure.members) + table.member[on]
    _, number = np.unique(key, return_inverse=True)
    total = np.bincount(number, area)[number]
    factors = np.ones(len(table))
    rows = np.flatnonzero(on)
    categories = np.array([wanted.get(surfaces[k].panel, "") for k in table.surface[rows].tolist()])
    for category in set(categories.tolist()):
        own = categories == category
        factors[rows[own]] = area_factor(total[own], category)
    for k, taken in zip(rows.tolist(), total.tolist(), strict=True):
        loading.reductions[int(table.case[k]), int(table.member[k])] = Reduction(taken, float(factors[k]))
    lost = ((1 - factors) * (table.end - table.start))[:, None] * (table.first + table.last) / 2
    for case in np.unique(table.case[rows]).tolist():
        loading.expected[case] = loading.expected[case] - lost[table.case == case].sum(axis=0)
    loading.spread = replace(table, first=table.first * factors[:, None], last=table.last * factors[:, None])
