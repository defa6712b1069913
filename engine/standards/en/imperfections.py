"""Sway imperfections by EN 1993-1-1 5.3.2 as horizontal forces that follow the vertical ones of each case."""

from __future__ import annotations

from dataclasses import replace
from math import sqrt

import numpy as np

from engine.actions.cases import Case, LineTable, Loading, PointLoad, columns
from engine.catalogue.properties import Section
from engine.document.national import ImperfectionValues
from engine.standards.en.steel import buckling_curves
from engine.structure.model import Member, Structure

#: natures of the cases that lean
LEANING = ("permanent", "imposed", "snow", "accidental", "crane", "other")


#: share of its length that a column rises, at least
UPRIGHT = 0.9


def bow_ratio(section: Section, grade: str, about: str, values: ImperfectionValues) -> float:
    """L/e0 of a member bent about its axis y or z (5.3.2(3)b, table 5.1), by its buckling curve (table 6.2); of shapes other
    than I and hollow ones by curve c, on the safe side for angles."""
    curves = {"a0": values.bow_a0, "a": values.bow_a, "b": values.bow_b, "c": values.bow_c, "d": values.bow_d}
    if section.shape not in ("I", "square", "rectangular", "circular"):
        return curves["c"]
    return curves[buckling_curves(section, grade)["yz".index(about)]]


def sway(height: float, count: int, basic: float = 200.0) -> float:
    """φ = φ0 α_h α_m (5.5); height in metres, number of columns in the row; basic: 1/φ0."""
    alpha_h = min(max(2 / sqrt(height), 2 / 3), 1.0)
    alpha_m = sqrt(0.5 * (1 + 1 / max(count, 1)))
    return alpha_h * alpha_m / basic


def slopes(structure: Structure, basic: float = 200.0) -> tuple[float, float]:
    """φ along X and along Y: height of the columns' heads above the lowest foot, columns in a frame and in a row."""
    rising = [m for m in structure.members if structure.xyz[m.nodes[0], 2] != structure.xyz[m.nodes[-1], 2]]
    upright = [m for m in rising if not m.bar and abs(_rise(structure, m)) > UPRIGHT * structure.length(m)]
    columns_ = [m for m in structure.members if m.role == "column"] or upright or rising
    if not columns_:
        return 0.0, 0.0
    ends = structure.xyz[[n for m in columns_ for n in (m.nodes[0], m.nodes[-1])]]
    height = float(np.ptp(ends[:, 2]))
    if height < 0.1:
        return 0.0, 0.0
    # of columns in several storeys or pieces each line counts once
    feet = np.unique(np.round(ends[::2, :2], 2), axis=0)
    _, frames = np.unique(feet[:, 1], return_counts=True)
    _, rows = np.unique(feet[:, 0], return_counts=True)
    return sway(height, int(frames.max()), basic), sway(height, int(rows.max()), basic)


def _rise(structure: Structure, member: Member) -> float:
    return float(structure.xyz[member.nodes[-1], 2] - structure.xyz[member.nodes[0], 2])


def add_imperfections(loading: Loading, structure: Structure, values: ImperfectionValues) -> None:
    """Add, for each case with vertical loads, two that push with φ times its downward loads along X and Y."""
    phi = slopes(structure, values.sway)
    table = loading.table(structure)
    made: list[LineTable] = []
    slabs = {slab.panel for slab in structure.slabs}
    on_slabs = [load for load in loading.surfaces if load.panel in slabs]
    for i, case in enumerate(list(loading.cases)):
        if case.nature not in LEANING or abs(loading.expected[i][2]) < 1e-6 or not any(phi):
            continue
        own = table.case == i
        points = [p for p in loading.points if p.case == i]
        numbers = []
        for axis, name in ((0, "X"), (1, "Y")):
            note = f"φ = 1/{1 / phi[axis]:.0f} times the vertical loads of {case.symbol} (5.3.2(3))"
            number = loading.add_case(
                Case(
                    f"{case.name}, leaning along {name}", f"Φ{name.lower()}({case.symbol})", "imperfection", name, note
                )
            )
            numbers.append(number)
            turn = np.zeros((3, 3))
            turn[axis, 2] = -phi[axis]
            made.append(
                LineTable(
                    table.member[own],
                    np.full(int(own.sum()), number),
                    table.start[own],
                    table.end[own],
                    table.first[own] @ turn.T,
                    table.last[own] @ turn.T,
                    np.full(int(own.sum()), -1),
                )
            )
            for p in points:
                loading.points.append(PointLoad(number, turn @ p.force, np.zeros(3), p.member, p.at, p.node))
            for load in (s for s in on_slabs if s.case == i):
                share = -phi[axis] * float(load.direction[2])
                pushed = (load.pressure[0] * share, load.pressure[1] * share, load.pressure[2] * share)
                leaning = replace(load, case=number, pressure=pushed, direction=np.eye(3)[axis], why=note, reason=None)
                loading.surfaces.append(leaning)
            loading.expected[number] = turn @ loading.expected[i]
        loading.leans[i] = (numbers[0], numbers[1])
    if made:
        every = [loading.spread, *made] if loading.spread is not None else made
        loading.spread = LineTable(*(np.concatenate(parts) for parts in zip(*map(columns, every), strict=True)))
