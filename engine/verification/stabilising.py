"""What bracing, struts and purlins carry from the rafters and chords that lean on them, beside the forces of the analysis: the unit
response to a lateral line load on each restrained line, which a family of standards scales for each combination."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.solve import checked_factors
from engine.analysis.state_solver import StateSolver, sides
from engine.analysis.system import System
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.structure.rows import SAME, Line, Row, distinct

#: axial forces below this share of the largest of a unit response are rounding
LITTLE = 1e-6


@dataclass(frozen=True)
class Stabilised:
    """One span of the bracing of a row under all combinations for strength.

    lines: how many lean on it; count: of them to each bracing system; L: span, m; members: of all lines; bars: diagonals of the bracing;
    N: (c,) the compression of all lines in sum, N; q: (c,) the stabilising force in sum, N/m; e0, delta: bow and (c,) movement of the bracing, m;
    firm: (c,) whether the bracing is stiff enough.
    """

    lines: int
    count: float
    alpha_m: float
    L: float
    members: tuple[int, ...]
    bars: tuple[int, ...]
    N: Floats
    q: Floats
    e0: float
    delta: Floats
    firm: Bools

    @property
    def most(self) -> int:
        """The combination for strength, by its place among them, in which it is largest."""
        return int(self.q.argmax())


@dataclass(frozen=True)
class Stabilising:
    """Axial forces that the bracing's task adds. unit: (2, e, k) of 1 N/m on each restrained line, to either side; q: (k, c) N/m; spans:
    what they come from; loose: members of lines that nothing in the model stabilises."""

    unit: Floats
    q: Floats
    spans: tuple[Stabilised, ...]
    loose: tuple[int, ...]

    def acts(self) -> bool:
        """Whether anything is added."""
        return bool(self.q.size)

    def under(self, columns: list[int]) -> Stabilising:
        """Under some of the combinations: the forces alone, without what they come from."""
        return Stabilising(self.unit, self.q[:, columns], (), self.loose)

    def added(
        self, elements: Ints | slice = slice(None), columns: list[int] | slice = slice(None)
    ) -> tuple[Floats, Floats]:
        """((e, c), the same): the most tension and the most compression that it adds, both as magnitudes, N."""
        to = [self.unit[side][elements] @ self.q[:, columns] for side in (0, 1)]
        return np.maximum(np.maximum(*to), 0.0), np.maximum(-np.minimum(*to), 0.0)


def none(elements: int, combinations: int) -> Stabilising:
    """Where nothing is stabilised."""
    return Stabilising(np.zeros((2, elements, 0)), np.zeros((0, combinations)), (), ())


def _tributary(places: tuple[float, ...], span: tuple[float, float]) -> list[tuple[float, float]]:
    """Places inside a span, its ends among them, with the length of the span that each takes."""
    at = distinct([span[0], *(t for t in places if span[0] + SAME < t < span[1] - SAME), span[1]])
    cuts = [span[0], *((a + b) / 2 for a, b in zip(at[:-1], at[1:], strict=True)), span[1]]
    return [(t, b - a) for t, a, b in zip(at, cuts[:-1], cuts[1:], strict=True)]


def pushed(structure: Structure, row: Row, span: tuple[float, float], line: Line, number: int) -> Floats:
    """(6 n,) nodal forces of 1 N/m across a line over a span of the bracing: at the nodes that lead to the bracing, else on the bracing
    itself; and back at the ends, so that nothing is left over."""
    force = np.zeros((len(structure.nodes), 6))
    inside = [t for t in row.linked[number] if span[0] + SAME < t < span[1] - SAME]
    own = len(inside) > 1
    targets = [(line, tuple(inside), 1.0)] if own else []
    for truss in [] if own else row.trusses:
        targets += [(row.lines[k], truss.at, 0.5 / len(row.trusses)) for k in truss.lines]
    for on, places, share in targets:
        for t, width in _tributary(places, span):
            force[on.node_at(t), :3] += share * width * row.across
    length = span[1] - span[0]
    for t in span:
        at_end = any(abs(t - place) < SAME for place in row.linked[number])
        if at_end:
            force[line.node_at(t), :3] -= length / 2 * row.across
            continue
        for truss in row.trusses:
            for k in truss.lines:
                force[row.lines[k].node_at(t), :3] -= length / 2 * 0.5 / len(row.trusses) * row.across
    return force.ravel()


def responses(system: System, force: Floats) -> tuple[Floats, Floats]:
    """((2, e, k) axial forces, (6 n, k) displacements of the nodes) under nodal forces (6 n, k) in global axes and against them. What acts
    in tension alone is left out of the side to which all of them together press it."""
    own = system.to_own(force)
    if system.link is not None:
        own = system.link.T @ own
    side, sided = sides(system), []
    checked_factors(system)
    u = _solved(system, own, np.zeros(len(system.elements), dtype=bool))
    both = _axial(system, u)
    if not side.any():
        return np.stack([both, -both]), system.to_global(u)
    whole = both.sum(axis=1)
    for way in (1, -1):
        slack = side * way * whole < -LITTLE * np.abs(whole).max(initial=0.0)
        moved = _solved(system, own, slack)
        N = way * _axial(system, moved)
        N[slack] = 0.0
        # what acts one way takes nothing the other way
        sided.append(np.where(side[:, None] * N < 0, 0.0, N))
        u = np.where(np.abs(moved) > np.abs(u), moved, u)
    return np.stack(sided), system.to_global(u)


def _solved(system: System, own: Floats, slack: Bools) -> Floats:
    solver = StateSolver(system, np.zeros((0, system.force.shape[1])))
    _, lu, active = solver.stiffness(slack, np.zeros(system.force.shape[0], dtype=bool))
    u = np.zeros_like(own)
    if lu is not None:
        u[active] = lu.solve(own[active])
    return u


def _axial(system: System, u: Floats) -> Floats:
    """(e, k)"""
    moved = system.to_global(u)
    local = system.T @ moved[system.dofs].reshape(len(system.elements), 12, -1)
    return np.asarray(-(system.k_c[:, 0][:, None] @ local)[:, 0])


def depths(structure: Structure, member: Ints, places: Floats) -> Floats:
    """(e,) overall depth of what each element is made of, m."""
    found = np.array([m.section.h for m in structure.members])[member]
    middle = places.mean(axis=1)
    for i, m in enumerate(structure.members):
        for piece in m.pieces:
            found[(member == i) & (middle > piece.start) & (middle < piece.end)] = piece.section.h
    return np.asarray(found)


def across(combined: Combined, strength: tuple[int, ...], row: Row) -> Floats:
    """(n, c) how far the nodes of a row's bracing move across it, m; 0 elsewhere."""
    nodes = sorted({node for truss in row.trusses for k in truss.lines for node in row.lines[k].nodes})
    moved = np.zeros((len(combined.structure.nodes), len(strength)))
    moved[nodes] = np.einsum("x,nxc->nc", row.across, combined.displacement(strength, nodes)[:, :3])
    return moved


def sag(row: Row, span: tuple[float, float], across: Floats) -> Floats:
    """(c,) the most that the nodes of the bracing move across the row beside the straight between its ends, from (n, c)."""
    most = np.zeros(across.shape[1])
    for truss in row.trusses:
        for k in truss.lines:
            line = row.lines[k]
            start, end = across[line.node_at(span[0])], across[line.node_at(span[1])]
            for t in truss.at:
                if span[0] + SAME < t < span[1] - SAME:
                    share = (t - span[0]) / (span[1] - span[0])
                    sagged = across[line.node_at(t)] - (1 - share) * start - share * end
                    most = np.maximum(most, np.abs(sagged))
    return most
