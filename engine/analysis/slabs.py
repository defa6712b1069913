"""Slabs in the frame: reduced to the nodes they share with it, their loads moved there, and what goes on within them found again."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from threading import Lock

import numpy as np
import shapely
from scipy.sparse import csc_array, csr_array
from shapely.geometry import Polygon

from engine.actions.cases import Loading
from engine.analysis.recovery import Recovered, recovered
from engine.analysis.shell import BENDING, IN_PLANE, RESULTANTS, Law, alike, quadrilaterals, triangles
from engine.analysis.substructure import Reduced, reduce
from engine.errors import ModelError
from engine.processors import shared_out
from engine.structure.model import Floats, Ints, Slab, Structure

#: bytes of reduced slabs that are kept
MOST = 200_000_000
PARTS = (BENDING, IN_PLANE)


@dataclass(frozen=True)
class Substructure:
    """A slab reduced to its nodes. parts: of what bends it and of what stays in its plane; resultants: by kind of cell its S as in
    shell.Cells, with the cells of that kind; recovered: how values in the middles of cells become those at their corners; points, joined: (b,) the numbers of its points and of the structure's nodes where these are one;
    turn: (6, 6) from the movements of a node in global axes to those of the point there."""

    parts: tuple[Reduced, Reduced]
    points: Ints
    joined: Ints
    turn: Floats
    resultants: list[tuple[Ints, Floats]]
    recovered: Recovered

    def stiffness(self, size: int) -> csc_array:
        """(size, size) over all freedoms of the structure, global axes."""
        found = csc_array((size, size))
        for part, (points, rows) in zip(self.parts, self._rows(), strict=True):
            at, j = np.nonzero(self.turn[rows])
            columns = 6 * self.joined[points[at]] + j
            used, place = np.unique(columns, return_inverse=True)
            into = csr_array((self.turn[rows[at], j], (place, at)), shape=(len(used), len(rows)))
            K = np.asarray(into @ (into @ part.K).T)
            counts = np.zeros(size + 1, dtype=np.int64)
            counts[used + 1] = len(used)
            found = found + csc_array((K.ravel(), np.tile(used, len(used)), np.cumsum(counts)), shape=(size, size))
        return csc_array(found)

    @property
    def freedoms(self) -> Ints:
        """(6 b,) of the nodes."""
        return np.asarray((self.joined[:, None] * 6 + np.arange(6)).ravel())

    def _rows(self) -> Iterator[tuple[Ints, Ints]]:
        """Of each part, of which node each kept freedom is, and which of its six."""
        for part, own in zip(self.parts, PARTS, strict=True):
            yield np.searchsorted(self.points, part.kept // 3), np.array(own)[part.kept % 3]

    def push(self, force: Floats) -> Floats:
        """Forces on the nodes (6 b, c), global axes, of forces (v, 6, c) on its points in its own axes."""
        cases = force.shape[2]
        found = np.zeros((len(self.joined), 6, cases))
        for part, (points, rows), own in zip(self.parts, self._rows(), PARTS, strict=True):
            found[points, rows] = part.push(force[:, own].reshape(-1, cases))
        return np.asarray(self.turn.T @ found).reshape(-1, cases)

    def recover(self, force: Floats, moved: Floats) -> Floats:
        """(v, 6, c) movements of its points in its own axes, of forces (v, 6, c) and the movements (nodes, 6, c) of the structure."""
        cases = force.shape[2]
        nodes = self.turn @ moved[self.joined]
        found = np.zeros_like(force)
        for part, (points, rows), own in zip(self.parts, self._rows(), PARTS, strict=True):
            forces = force[:, own].reshape(-1, cases)
            found[:, own] = part.recover(forces, nodes[points, rows]).reshape(-1, 3, cases)
        return found


def law_of(slab: Slab) -> Law:
    """The elastic plate that a slab is."""
    return Law(slab.plate.E, slab.plate.nu, slab.plate.thickness, slab.plate.cracked)


def substructure(slab: Slab) -> Substructure:
    """A slab reduced to its nodes. Raises ModelError where nothing holds a part of it."""
    found = _KEPT.of(_Shape(slab))
    return Substructure(
        found.parts, found.points, slab.nodes[found.points], _turn(slab), found.resultants, found.recovered
    )


@dataclass(frozen=True)
class _Kind:
    """What slabs of one shape, stiffness and way of being joined have in common, as in Substructure."""

    parts: tuple[Reduced, Reduced]
    points: Ints
    resultants: list[tuple[Ints, Floats]]
    recovered: Recovered

    @property
    def size(self) -> int:
        """Bytes."""
        steps = sum(L.nbytes + hangs.nbytes for part in self.parts for _, _, L, hangs in part.steps)
        return steps + sum(part.K.nbytes for part in self.parts)


class _Shape:
    """A slab by what it has in common with those like it."""

    def __init__(self, slab: Slab):
        self.slab = slab
        self.values = (
            (slab.flat - slab.flat[0]).round(8).tobytes(),
            slab.cells.tobytes(),
            (slab.nodes >= 0).tobytes(),
            law_of(slab),
            slab.plate.size,
            slab.plate.hinged,
        )

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Shape) and self.values == other.values

    def __hash__(self) -> int:
        return hash(self.values)


class _Kept:
    """What was reduced last, as much of it as MOST bytes."""

    def __init__(self) -> None:
        self.found: dict[_Shape, _Kind] = {}
        self.lock = Lock()

    def of(self, shape: _Shape) -> _Kind:
        with self.lock:
            kind = self.found.pop(shape, None)
            if kind is not None:
                self.found[shape] = kind
                return kind
        kind = _reduced(shape.slab)
        with self.lock:
            self.found[shape] = kind
            while len(self.found) > 1 and sum(one.size for one in self.found.values()) > MOST:
                del self.found[next(iter(self.found))]
        return kind


_KEPT = _Kept()


def _reduced(slab: Slab) -> _Kind:
    three = slab.cells[:, 2] == slab.cells[:, 3]
    corners: list[Ints] = [np.zeros(0, dtype=np.int64)] * len(slab.cells)
    own: tuple[list[Floats], list[Floats]] = ([np.zeros(0)] * len(corners), [np.zeros(0)] * len(corners))
    resultants = []
    for which, k, made in ((~three, 4, quadrilaterals), (three, 3, triangles)):
        cells = np.flatnonzero(which)
        if not len(cells):
            continue
        flat = slab.flat[slab.cells[cells, :k]]
        first, kind = alike(flat)
        found = made(flat[first], law_of(slab))
        split = [np.add.outer(6 * np.arange(k), part).ravel() for part in PARTS]
        parts = [found.K[:, rows[:, None], rows] for rows in split]
        for cell, n in zip(cells.tolist(), kind.tolist(), strict=True):
            corners[cell] = slab.cells[cell, :k]
            for stiffness, part in zip(own, parts, strict=True):
                stiffness[cell] = part[n]
        resultants += [(cells[kind == n], found.S[n]) for n in range(len(first))]
    joined = np.flatnonzero(slab.nodes >= 0)
    kept = np.zeros((len(slab.flat), 3), dtype=bool)
    kept[joined] = True
    turning = kept.copy()
    if slab.plate.hinged:
        turning[:, 1:] = False
    # a hinge lets the slab bend freely; in its plane it stays joined
    both = ((own[0], turning), (own[1], kept))
    reduced = list(shared_out(lambda part: reduce(corners, part[0], slab.flat, part[1]), both))
    for loose in reduced:
        if isinstance(loose, int):
            x, y, z = slab.points[loose]
            raise ModelError(
                f"Nothing holds the slab “{slab.panel}” at ({x:.2f}, {y:.2f}, {z:.2f}) m: it can turn freely about what it is joined to.",
                slab.panel,
            )
    bending, in_plane = (part for part in reduced if isinstance(part, Reduced))
    return _Kind((bending, in_plane), joined, resultants, recovered(slab))


def _turn(slab: Slab) -> Floats:
    """From movements of nodes, global axes, to those of the slab's points, `rise` above them, in its own axes."""
    one = np.zeros((6, 6))
    one[:3, :3] = one[3:, 3:] = slab.axes
    arm = np.eye(6)
    arm[0, 4], arm[1, 3] = slab.plate.rise, -slab.plate.rise
    return np.asarray(arm @ one)


def slab_stiffness(structure: Structure) -> csc_array | None:
    """Stiffness of all slabs over all freedoms of the nodes, (6 n, 6 n), global axes; None without any. Raises ModelError."""
    if not structure.slabs:
        return None
    size = structure.fixed.size
    return csc_array(sum((substructure(slab).stiffness(size) for slab in structure.slabs), csc_array((size, size))))


def slab_loads(structure: Structure, loading: Loading) -> Floats:
    """(6 n, cases) what the loads on all slabs put on the structure's nodes, global axes."""
    found = np.zeros((structure.fixed.size, len(loading.cases)))
    for slab in structure.slabs:
        sub = substructure(slab)
        found[sub.freedoms] += sub.push(point_forces(structure, slab, loading))
    return found


def point_forces(structure: Structure, slab: Slab, loading: Loading) -> Floats:
    """(v, 6, cases) forces on the points of a slab, in its own axes, of the pressures on it: each part of a cell that one lies on gives its
    resultant to the corners by their shapes at its middle, so that force and moment are kept."""
    panel = next(p for p in structure.panels if p.name == slab.panel)
    found = np.zeros((len(slab.flat), 6, len(loading.cases)))
    places: dict[bytes, tuple[Ints, Floats, Floats, Floats]] = {}
    for load in loading.surfaces:
        if load.panel != slab.panel or not any(load.pressure):
            continue
        key = load.polygon.tobytes()
        if key not in places:
            places[key] = _covered(slab, (panel.place_of(load.polygon) - panel.corners[0]) @ slab.axes[:2].T)
        cells, area, middle, share = places[key]
        at = panel.flat(panel.corners[0] + middle @ slab.axes[:2])
        amount = area * (load.pressure[0] + at @ np.array(load.pressure[1:]))
        force = np.einsum("c,ck,x->ckx", amount, share, slab.axes @ load.direction)
        np.add.at(found[:, :3, load.case], slab.cells[cells], force)
    return found


def _covered(slab: Slab, polygon: Floats) -> tuple[Ints, Floats, Floats, Floats]:
    """The cells under a polygon: their numbers, how much of each lies under it in m², the middle of that (c, 2), and its corners' shapes there."""
    shape = Polygon(polygon)
    shapely.prepare(shape)
    every = np.asarray(shapely.polygons(slab.flat[slab.cells]))
    cells = np.flatnonzero(shapely.intersects(shape, every))
    parts = every[cells]
    cut = ~shapely.covers(shape, parts)
    parts[cut] = shapely.intersection(shape, parts[cut])
    area = shapely.area(parts)
    cells, parts, area = cells[area > 1e-12], parts[area > 1e-12], area[area > 1e-12]
    centre = shapely.centroid(parts)
    middle = np.stack([shapely.get_x(centre), shapely.get_y(centre)], axis=1)
    return cells, area, middle, _shares(slab.flat[slab.cells[cells]], middle)


def _shares(flat: Floats, at: Floats) -> Floats:
    """(c, 4) shapes of cells flat (c, 4, 2) at a place of each; a triangle's last two add up to its third corner's."""
    signs = np.array([[-1.0, -1.0], [1, -1], [1, 1], [-1, 1]])
    own = np.zeros((len(flat), 2))
    for _ in range(12):
        both = 1 + own[:, None] * signs
        N = both.prod(axis=2) / 4
        slopes = np.stack([signs[:, 0] * both[:, :, 1], signs[:, 1] * both[:, :, 0]], axis=1) / 4
        off = at - np.einsum("ck,ckx->cx", N, flat)
        own = own + np.linalg.solve(np.swapaxes(slopes @ flat, 1, 2), off[..., None])[..., 0]
        if np.abs(off).max(initial=0.0) < 1e-12:
            break
    both = 1 + own[:, None] * signs
    return np.asarray(both.prod(axis=2) / 4)


@dataclass(frozen=True)
class Within:
    """What goes on within a slab in c states: movement (v, 6, c) of its points in its own axes, m and rad; resultants (g, 8, c) of
    shell.RESULTANTS at the corners of its cells, N/m and Nm/m; corner (cells, 4): which of these each corner has. coarse (c,): about how much of the
    energy of bending the cells are too coarse for, as a share (Zienkiewicz and Zhu, A simple error estimator, 1987)."""

    movement: Floats
    resultants: Floats
    corner: Ints
    coarse: Floats


def within(structure: Structure, slab: Slab, loading: Loading, factors: Floats, moved: Floats) -> Within:
    """What goes on within a slab, of states with factors (c, cases) in which the structure's nodes move by (nodes, 6, c)."""
    sub = substructure(slab)
    force = point_forces(structure, slab, loading) @ factors.T
    movement = sub.recover(force, moved)
    middle = np.zeros((len(slab.cells), len(RESULTANTS), movement.shape[2]))
    for cells, S in sub.resultants:
        k = S.shape[1] // 6
        own = movement[slab.cells[cells, :k]].reshape(len(cells), 6 * k, -1)
        middle[cells] = np.einsum("aj,njc->nac", S, own, optimize=True)
    found = sub.recovered.weights @ middle.reshape(len(middle), -1)
    resultants = found.reshape(-1, *middle.shape[1:])
    return Within(movement, resultants, sub.recovered.corner, _coarse(slab, middle, resultants[sub.recovered.corner]))


def _coarse(slab: Slab, middle: Floats, corners: Floats) -> Floats:
    """(c,) ∫ (m* − m)² over ∫ m*², with m* linear between the corners of cells (n, 4, 8, c) and m even in them (n, 8, c)."""
    x, y = np.moveaxis(slab.flat[slab.cells], -1, 0)
    area = (x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum(axis=1) / 2
    weight = np.array([1.0, 1.0, 2.0])
    off = corners[:, :, :3] - middle[:, None, :3]
    # over a cell a linear function that is 0 in its middle has a third of what it has at the corners
    apart = np.einsum("n,a,nkac->c", area, weight, off**2) / 12
    whole = np.einsum("n,a,nkac->c", area, weight, corners[:, :, :3] ** 2) / 4
    return np.asarray(np.divide(apart, whole, out=np.zeros_like(apart), where=whole > 0))


def principal(mx: Floats, my: Floats, mxy: Floats) -> tuple[Floats, Floats, Floats]:
    """The greater and the lesser principal value of moments or forces, and the direction of the greater one from x, in radians."""
    middle, reach = (mx + my) / 2, np.hypot((mx - my) / 2, mxy)
    return middle + reach, middle - reach, np.arctan2(2 * mxy, mx - my) / 2
