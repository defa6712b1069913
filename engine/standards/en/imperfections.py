"""Sway imperfections by EN 1993-1-1 5.3.2 as horizontal forces that follow the vertical ones of each case."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import cos, radians, sin, sqrt

import numpy as np

from engine.actions.cases import Case, LineTable, Loading, PointLoad, columns
from engine.catalogue.properties import Section
from engine.document.national import ImperfectionValues
from engine.standards.en.steel import buckling_curves
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure

#: natures of the cases that lean
LEANING = ("permanent", "imposed", "snow", "accidental", "crane", "other")


#: share of its length that a column rises, at least
UPRIGHT = 0.9
#: how far from a direction a beam still runs along it, in degrees
ALONG = 5.0
#: share of the beams, by length, that run along or across the direction that a building has
MOST = 0.8
#: cosine beyond which a way leads out of the plane of a plane frame
ACROSS = 0.99


@dataclass(frozen=True)
class Ways:
    """In which ways a building leans: along a direction of its plan, turned from X (degrees, from −45 to 45), and across it; mixed: its beams run in many
    directions."""

    turned: float = 0.0
    mixed: bool = False

    @property
    def names(self) -> tuple[str, str]:
        return ("X′", "Y′") if self.turned else ("X", "Y")

    @property
    def said(self) -> str:
        """What a case says of them."""
        if self.mixed:
            return "; φ raised by √2, for beams run in many directions"
        return f"; X′ is X turned by {self.turned:.4g}°, as most beams are" if self.turned else ""

    @property
    def vectors(self) -> Floats:
        """(2, 3) unit vectors of both."""
        c, s = cos(radians(self.turned)), sin(radians(self.turned))
        return np.array([[c, s, 0.0], [-s, c, 0.0]])


def ways(structure: Structure) -> Ways:
    """The directions in which most of what lies runs, as seen from above, by length; of what only stands, those of its cross-sections."""
    bent = [m for m in structure.members if not m.bar]
    if not bent:
        return Ways()
    ends = structure.xyz[[(m.nodes[0], m.nodes[-1]) for m in bent]]
    plan = ends[:, 1, :2] - ends[:, 0, :2]
    weight = np.linalg.norm(plan, axis=1)
    if weight.max() < 0.1:
        plan = local_axes(ends[:, 0], ends[:, 1], np.array([m.roll for m in bent]))[:, 1, :2]
        weight = np.ones(len(bent))
    lies = weight > 1e-3 * weight.max()
    angle = np.degrees(np.arctan2(plan[lies, 1], plan[lies, 0])).round(4) % 90.0
    each, which = np.unique(angle, return_inverse=True)
    own = np.bincount(which, weight[lies])
    apart = np.abs(each[:, None] - each)
    near = np.minimum(apart, 90.0 - apart) <= ALONG
    best = int(np.argmax(np.where(near @ own > (1 - 1e-9) * (near @ own).max(), own, 0.0)))
    turned = float(each[best]) - (90.0 if each[best] > 45.0 else 0.0)
    mixed = float((near @ own)[best]) < MOST * own.sum()
    return Ways(0.0 if mixed else turned, mixed)


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


def slopes(structure: Structure, basic: float = 200.0, along: Ways = Ways()) -> tuple[float, float]:
    """φ in both ways in which it leans: height of the columns' heads above the lowest foot, columns in a frame and in a row. Where beams run in many
    directions √2 φ without α_m, so that it is φ at least in each of them."""
    rising = [m for m in structure.members if structure.xyz[m.nodes[0], 2] != structure.xyz[m.nodes[-1], 2]]
    upright = [m for m in rising if not m.bar and abs(_rise(structure, m)) > UPRIGHT * structure.length(m)]
    columns_ = [m for m in structure.members if m.role == "column"] or upright or rising
    if not columns_:
        return 0.0, 0.0
    ends = structure.xyz[[n for m in columns_ for n in (m.nodes[0], m.nodes[-1])]]
    height = float(np.ptp(ends[:, 2]))
    if height < 0.1:
        return 0.0, 0.0
    if along.mixed:
        return (sqrt(2) * sway(height, 1, basic),) * 2
    # of columns in several storeys or pieces each line counts once
    feet = np.unique(np.round(ends[::2] @ along.vectors.T, 2), axis=0)
    _, frames = np.unique(feet[:, 1], return_counts=True)
    _, rows = np.unique(feet[:, 0], return_counts=True)
    return sway(height, int(frames.max()), basic), sway(height, int(rows.max()), basic)


def _rise(structure: Structure, member: Member) -> float:
    return float(structure.xyz[member.nodes[-1], 2] - structure.xyz[member.nodes[0], 2])


def add_imperfections(loading: Loading, structure: Structure, values: ImperfectionValues) -> None:
    """Add, for each case with vertical loads, two that push with φ times its downward loads along and across the building; none (−1) across the plane of a plane
    frame."""
    along = ways(structure)
    phi = slopes(structure, values.sway, along)
    loading.lean_along = along.vectors
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
        for axis, name in enumerate(along.names):
            if structure.out >= 0 and abs(along.vectors[axis][structure.out]) > ACROSS:
                numbers.append(-1)
                continue
            note = f"φ = 1/{1 / phi[axis]:.0f} times the vertical loads of {case.symbol} (5.3.2(3)){along.said}"
            symbol = f"Φ{'xy'[axis]}({case.symbol})"
            number = loading.add_case(Case(f"{case.name}, leaning along {name}", symbol, "imperfection", name, note))
            numbers.append(number)
            turn = np.zeros((3, 3))
            turn[:, 2] = -phi[axis] * along.vectors[axis]
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
                leaning = replace(
                    load, case=number, pressure=pushed, direction=along.vectors[axis], why=note, reason=None
                )
                loading.surfaces.append(leaning)
            loading.expected[number] = turn @ loading.expected[i]
        loading.leans[i] = (numbers[0], numbers[1])
    if made:
        every = [loading.spread, *made] if loading.spread is not None else made
        loading.spread = LineTable(*(np.concatenate(parts) for parts in zip(*map(columns, every), strict=True)))
