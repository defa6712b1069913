"""Panels that bend: divided into cells that share their corners with the members, the supports and the other slabs they meet."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from typing import Any

import numpy as np
import shapely
from scipy.spatial import cKDTree
from shapely import Point, Polygon, prepare
from shapely.geometry import LineString

from engine.errors import ModelError
from engine.structure.cut import cut, longer
from engine.structure.mesh import Mesh, MeshError, divide
from engine.structure.model import FREEDOMS, Floats, Ints, Panel, Slab, Structure

#: how far a node may lie off a panel and still belong to it, in metres
OFF = 2e-3
#: how often slabs that meet may give points to each other until none has new ones
ROUNDS = 8
#: cells of all slabs together, beyond which a building is refused
MOST = 40_000


def nodes_of(structure: Structure, panel: Panel, among: Ints | None = None) -> Ints:
    """The nodes that lie on a panel, its edge included; among: those that may, None: all."""
    low, high = panel.corners.min(axis=0) - OFF, panel.corners.max(axis=0) + OFF
    within = structure.xyz if among is None else structure.xyz[among]
    near = np.flatnonzero(((within >= low) & (within <= high)).all(axis=1))
    near = near if among is None else among[near]
    near = near[np.abs((structure.xyz[near] - panel.corners[0]) @ panel.outside) < OFF]
    area = Polygon(panel.flat(panel.corners)).buffer(OFF)
    prepare(area)
    inside = [area.covers(Point(p)) for p in panel.flat(structure.xyz[near])]
    return np.asarray(near[np.array(inside, dtype=bool)])


@dataclass
class _Laid:
    """A slab on its way: its area, and with its edge, lines and points in its own coordinates (`seen`), the members and nodes it is joined to."""

    panel: Panel
    area: Polygon
    wide: Any
    lines: Floats
    points: Floats
    members: list[int]
    own: Ints = field(default_factory=lambda: np.zeros(0, dtype=np.int64))
    mesh: Mesh | None = None
    given: list[Floats] = field(default_factory=list)

    def flat(self, xyz: Floats) -> Floats:
        return np.asarray((xyz - self.panel.corners[0]) @ self.panel.seen.T)

    def space(self, flat: Floats) -> Floats:
        return np.asarray(self.panel.corners[0] + flat @ self.panel.seen)

    def lines_of(self, ends: Floats) -> list[Floats]:
        """The parts (2, 2) of a line in its plane that lie on it, its edges included; they end exactly on its edges."""
        shared = self.wide.intersection(LineString(self.flat(ends)))
        parts = [np.array(g.coords)[[0, -1]] for g in getattr(shared, "geoms", [shared]) if g.length > 0.05]
        return [np.array([shapely.shortest_line(self.area, Point(p)).coords[0] for p in part]) for part in parts]

    def bears(self, xyz: Floats) -> Floats:
        """Those of points (n, 3) that lie on it, edges included."""
        near = xyz[np.abs((xyz - self.panel.corners[0]) @ self.panel.outside) < OFF]
        flat = self.flat(near)
        on = shapely.distance(shapely.points(flat), self.area) < OFF if len(near) else np.zeros(0, dtype=bool)
        return np.asarray(near[on])


def lay_slabs(structure: Structure) -> Structure:
    """The structure with its slabs divided, and its members cut where they are joined to their cells. Raises ModelError naming the panel that
    cannot be divided, has too many cells, or crosses another."""
    panels = [p for p in structure.panels if p.plate is not None]
    if not panels:
        return structure
    _foresee(panels)
    structure = _through(structure, panels)
    laid = [_begun(structure, panel) for panel in panels]
    _meet(laid)
    for _ in range(ROUNDS):
        for slab in laid:
            slab.mesh = slab.mesh or _divided(slab)
        if not _exchanged(laid):
            break
    else:
        names = ", ".join(f"“{p.name}”" for p in panels)
        raise ModelError(
            f"The cells of {names} do not fit each other where they meet; give them one size.", panels[0].name
        )
    return _joined(structure, laid)


def _foresee(panels: list[Panel]) -> None:
    cells = sum(p.area / p.plate.size**2 for p in panels if p.plate)
    if cells > MOST:
        largest = max(panels, key=lambda p: p.area / p.plate.size**2 if p.plate else 0.0)
        raise ModelError(
            f"The slabs would have about {cells:,.0f} cells, more than {MOST:,}: make those of “{largest.name}” larger.",
            largest.name,
        )


def _area(panel: Panel) -> Polygon:
    def flat(xyz: Floats) -> Floats:
        return np.asarray((xyz - panel.corners[0]) @ panel.seen.T)

    return Polygon(flat(panel.corners), [flat(opening) for opening in panel.openings])


def _through(structure: Structure, panels: list[Panel]) -> Structure:
    """Members that pass through a slab get a node in its plane."""
    start, end = (structure.xyz[structure.ends[:, k]] for k in (0, 1))
    at: dict[int, list[float]] = {}
    for panel in panels:
        area = _area(panel).buffer(OFF)
        prepare(area)
        a, b = ((xyz - panel.corners[0]) @ panel.outside for xyz in (start, end))
        crossing = np.flatnonzero(((a < -OFF) & (b > OFF) | (a > OFF) & (b < -OFF)) & ~structure.bars)
        for i in crossing.tolist():
            share = a[i] / (a[i] - b[i])
            place = start[i] + (end[i] - start[i]) * share
            if area.covers(Point(panel.seen @ (place - panel.corners[0]))):
                at.setdefault(i, []).append(share * float(np.linalg.norm(end[i] - start[i])))
    return cut(structure, at, OFF) if at else structure


def _begun(structure: Structure, panel: Panel) -> _Laid:
    area = _area(panel)
    slab = _Laid(panel, area, area.buffer(OFF), np.zeros((0, 2, 2)), np.zeros((0, 2)), [])
    low, high = panel.corners.min(axis=0) - OFF, panel.corners.max(axis=0) + OFF
    listed = None if panel.jig else {structure.index[name] for name in panel.carriers}
    ends = structure.xyz[structure.ends]
    level = np.abs((ends - panel.corners[0]) @ panel.outside).max(axis=1) < OFF
    near = ((ends.min(axis=1) <= high) & (ends.max(axis=1) >= low)).all(axis=1)
    lines = []
    for i in np.flatnonzero(level & near & ~structure.bars).tolist():
        if listed is not None and i not in listed:
            continue
        parts = slab.lines_of(ends[i])
        if parts:
            slab.members.append(i)
            lines += parts
    slab.lines = np.array(lines).reshape(-1, 2, 2)
    slab.own = _meeting(structure, panel, slab.members)
    slab.points = slab.flat(structure.xyz[slab.own])
    return slab


def _meeting(structure: Structure, panel: Panel, joined: list[int]) -> Ints:
    """The nodes on a slab that it is joined at: not those of members in its plane alone that are none of its own."""
    nodes = nodes_of(structure, panel)
    ends = structure.xyz[structure.ends]
    level = np.abs((ends - panel.corners[0]) @ panel.outside).max(axis=1) < OFF
    beside = set(np.flatnonzero(level).tolist()) - set(joined)
    return np.array(
        [n for n in nodes.tolist() if not (met := structure.meeting.get(n)) or not beside.issuperset(met)],
        dtype=np.int64,
    )


def _meet(laid: list[_Laid]) -> None:
    """Edges of slabs that lie on others become lines of these. Raises ModelError for two that cross."""
    low = np.array([slab.panel.corners.min(axis=0) - OFF for slab in laid])
    high = np.array([slab.panel.corners.max(axis=0) + OFF for slab in laid])
    for i, one in enumerate(laid):
        near = np.flatnonzero(((low <= high[i]) & (high >= low[i])).all(axis=1))
        for other in (laid[j] for j in near.tolist() if j != i):
            edges = np.stack([one.panel.corners, np.roll(one.panel.corners, -1, axis=0)], axis=1)
            off = (edges - other.panel.corners[0]) @ other.panel.outside
            for edge, (a, b) in zip(edges, off.tolist(), strict=True):
                if max(abs(a), abs(b)) < OFF:
                    parts = other.lines_of(edge)
                    other.lines = np.concatenate([other.lines, np.array(parts).reshape(-1, 2, 2)])
                elif min(a, b) < -OFF and max(a, b) > OFF:
                    place = edge[0] + (edge[1] - edge[0]) * a / (a - b)
                    if other.area.buffer(-OFF).contains(Point(other.flat(place))):
                        raise ModelError(
                            f"“{one.panel.name}” and “{other.panel.name}” pass through each other: end one of them at the other.",
                            one.panel.name,
                        )


def _divided(slab: _Laid) -> Mesh:
    assert slab.panel.plate is not None
    points = np.concatenate([slab.points, *slab.given])
    try:
        return divide(slab.area, points, slab.lines, slab.panel.plate.size)
    except MeshError as error:
        raise ModelError(f"The slab “{slab.panel.name}” cannot be divided: {error}.", slab.panel.name) from None


def _exchanged(laid: list[_Laid]) -> bool:
    """Give each slab the points of others that lie on it and are none of its own; whether there were any."""
    any_new = False
    spaces = [slab.space(slab.mesh.points) for slab in laid if slab.mesh]
    low, high = [xyz.min(axis=0) - OFF for xyz in spaces], [xyz.max(axis=0) + OFF for xyz in spaces]
    for i, slab in enumerate(laid):
        new = []
        for j, xyz in enumerate(spaces):
            if i != j and (low[i] <= high[j]).all() and (low[j] <= high[i]).all():
                new.append(slab.bears(xyz[((xyz >= low[i]) & (xyz <= high[i])).all(axis=1)]))
        found = np.concatenate([np.zeros((0, 3)), *new])
        if len(found):
            found = found[cKDTree(spaces[i]).query(found)[0] > OFF]
        if len(found):
            slab.given.append(slab.flat(found))
            slab.mesh, any_new = None, True
    return any_new


def _joined(structure: Structure, laid: list[_Laid]) -> Structure:
    """With nodes where corners of cells lie on members, on other slabs and on edges that are held, and the slabs between them."""
    spaces = [slab.space(slab.mesh.points) for slab in laid if slab.mesh]
    xyz, names = structure.xyz, list(structure.nodes)
    through: dict[int, list[Ints]] = {}
    numbers = []
    shared = _shared(spaces)
    for k, (slab, points) in enumerate(zip(laid, spaces, strict=True)):
        away, number = cKDTree(xyz).query(points)
        number = np.where(away < OFF, number, -1)
        # nodes of members beside it are none of its own
        own = set(slab.own.tolist())
        number = np.array([n if n in own or n >= len(structure.nodes) else -1 for n in number.tolist()], dtype=np.int64)
        wanted = np.zeros(len(points), dtype=bool)
        for i in slab.members:
            on = _on_line(points, *structure.xyz[structure.ends[i]])
            wanted |= on
        wanted |= shared[k]
        for edge in _held_edges(slab.panel):
            wanted |= _on_line(points, *edge[0])
        new = np.flatnonzero(wanted & (number < 0))
        number[new] = len(names) + np.arange(len(new))
        names += [f"{slab.panel.name}~{n + 1}" for n in range(len(new))]
        xyz = np.concatenate([xyz, points[new]])
        numbers.append(number)
        for i in slab.members:
            on = _on_line(points, *structure.xyz[structure.ends[i]])
            through.setdefault(i, []).append(number[on])
    members = list(structure.members)
    for i, found in through.items():
        m = members[i]
        nodes = np.unique(np.concatenate([np.array(m.nodes), *found]))
        start = xyz[m.nodes[0]]
        way = xyz[m.nodes[-1]] - start
        order = np.argsort((xyz[nodes] - start) @ way, kind="stable")
        members[i] = m.through(tuple(nodes[order].tolist()))
    slabs = []
    for slab, points, number in zip(laid, spaces, numbers, strict=True):
        assert slab.mesh is not None and slab.panel.plate is not None
        if (number < 0).all():
            raise ModelError(
                f"The slab “{slab.panel.name}” rests on nothing: no member, support or slab meets it.", slab.panel.name
            )
        axes = np.concatenate([slab.panel.seen, slab.panel.outside[None]])
        flat, cells = slab.mesh.points, slab.mesh.cells
        slabs.append(Slab(slab.panel.name, slab.panel.plate, points, flat, cells, number, axes))
    grown = longer(structure, names, xyz)
    for slab, points, number in zip(laid, spaces, numbers, strict=True):
        for (a, b), directions in _held_edges(slab.panel):
            nodes = number[_on_line(points, a, b)]
            grown.fixed[nodes] |= [freedom in directions for freedom in FREEDOMS]
    return replace(grown, members=tuple(members), slabs=tuple(slabs))


def _shared(spaces: list[Floats]) -> list[Any]:
    """Of each slab which of its points are also points of another."""
    every = np.concatenate(spaces)
    owner = np.repeat(np.arange(len(spaces)), [len(points) for points in spaces])
    pairs = cKDTree(every).query_pairs(OFF, output_type="ndarray")
    found = np.zeros(len(every), dtype=bool)
    found[pairs[owner[pairs[:, 0]] != owner[pairs[:, 1]]].ravel()] = True
    return np.split(found, np.cumsum([len(points) for points in spaces])[:-1])


def _held_edges(panel: Panel) -> list[tuple[Floats, frozenset[str]]]:
    """The edges that are held, (2, 3) each, with the directions. Raises ModelError for one that is not there."""
    assert panel.plate is not None
    found = []
    for edge, directions in panel.plate.held:
        if edge >= len(panel.corners):
            raise ModelError(
                f"“{panel.name}” has {len(panel.corners)} edges: there is none of number {edge + 1} to hold.",
                panel.name,
            )
        found.append((panel.corners[[edge, (edge + 1) % len(panel.corners)]], directions))
    return found


def _on_line(points: Floats, a: Floats, b: Floats) -> Any:
    """Whether each of points (n, 3) lies on the line from a to b."""
    length = float(np.linalg.norm(b - a))
    along = (points - a) @ (b - a) / length
    off = np.linalg.norm(points - a - along[:, None] * (b - a) / length, axis=1)
    return (off < OFF) & (along > -OFF) & (along < length + OFF)
