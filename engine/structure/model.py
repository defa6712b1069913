"""What stands: nodes, members cut into elements, supports, panels, grid and levels. Plain values with lasting names."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.base import Haunch
from engine.document.byhand import OwnChecks
from engine.lazy import lazily

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]

FREEDOMS = ("x", "y", "z", "rx", "ry", "rz")
HINGE = frozenset({"ry", "rz"})


@dataclass(frozen=True)
class Piece:
    """A stretch of a member with a section of its own, from `start` to `end` (m). rise_start, rise_end: height of its
    centroid line above the member's own, along local z (m)."""

    start: float
    end: float
    section: Section
    rise_start: float = 0.0
    rise_end: float = 0.0


@dataclass(frozen=True)
class Member:
    """A physical member: a straight run through `nodes` (start, cuts, end), with what holds it against buckling.

    outer, inner: distances from the start at which the outer (+z local) and inner (-z) flange are held sideways; both ends are held. release_start,
    release_end: local freedoms let go; springs_start, springs_end: (freedom, stiffness in N/m or Nm/rad) instead. bears_at: how far from columns'
    faces it bears where hinged, m, "axis", or "as stated" for all; joints: from its nodes to where it is hinged, m. offset: of the centroid from the
    nodes' line, along local y and z. pieces: where the section differs from `section`; haunches: what they come from, at start and end. frame:
    1-based frame it belongs to. jig: name of the jig that made it, "" by hand; slot: which of the jig's sections it takes, "" when it has one of its
    own; line: letter of the grid line of a hall's column; bay: letters of the columns that a hall's rafter or chord lies between; place: "overhang"
    or "lean-to", the end ("front", "back") of a post, "" for the rest of the hall; checks: what it is verified with by its own.
    """

    name: str
    role: str
    nodes: tuple[int, ...]
    section: Section
    material: Material
    roll: float = 0.0
    behaviour: str = "beam"
    release_start: frozenset[str] = frozenset()
    release_end: frozenset[str] = frozenset()
    springs_start: tuple[tuple[str, float], ...] = ()
    springs_end: tuple[tuple[str, float], ...] = ()
    bears_at: float | str = "as stated"
    joints: tuple[float, float] = (0.0, 0.0)
    offset: tuple[float, float] = (0.0, 0.0)
    pieces: tuple[Piece, ...] = ()
    haunches: tuple[Haunch | None, Haunch | None] = (None, None)
    frame: int = 0
    outer: tuple[float, ...] = ()
    inner: tuple[float, ...] = ()
    group: str = ""
    jig: str = ""
    slot: str = ""
    line: str = ""
    bay: str = ""
    place: str = ""
    edited: bool = False
    checks: OwnChecks = OwnChecks()

    @property
    def bar(self) -> bool:
        """Whether it carries axial force alone."""
        return self.behaviour in ("bar", "tension-only", "compression-only")

    def through(self, nodes: tuple[int, ...]) -> Member:
        """The same member through other nodes."""
        return self.but(nodes=nodes)

    def but(self, **values: Any) -> Member:
        """The same member with other values; much quicker than dataclasses.replace, and halls have thousands."""
        other = object.__new__(Member)
        given = self.__dict__.copy()
        given.update(values)
        object.__setattr__(other, "__dict__", given)
        return other


@dataclass(frozen=True)
class Plate:
    """What a panel is that bends as a plate: E in N/m², ν, density in kg/m³, thickness in m; cracked: share of its bending stiffness that is
    left; size: of its cells, m; rise: of its middle above the panel's plane, m; hinged: it takes no moments from what it is joined to;
    held: edges, from corner k to the next, that are held, each with the directions."""

    E: float
    nu: float
    density: float
    thickness: float
    material: str
    cracked: float = 1.0
    size: float = 0.5
    rise: float = 0.0
    hinged: bool = False
    held: tuple[tuple[int, frozenset[str]], ...] = ()


@dataclass(frozen=True)
class Panel:
    """A plane polygon of cladding or floor: corners (k, 3) in order, unit normal pointing outside, and what carries it.

    kind: "roof", "wall" or "floor". span: unit vector in the plane along which the cladding spans, from carrier to carrier. carriers: names of
    the members that take its load. two_way: a rectangle whose load goes to all four sides by lines at 45°. openings: polygons in its plane
    without cladding. side: "left" or "right" where the roof falls to one. pitch: degrees. permanent, imposed: N/m² that the panel brings along
    (floors); reduced: imposed by α_A of each carrier's area. place: what it stands for in the building: "overhang", "lean-to", "truss" (cladding
    between the trusses of a jig), else "". snow, wind: of a drawn panel, its shape coefficient and its net pressure coefficients by direction.
    grounded: an edge at the ground to which its cladding spans too, on posts that are not modelled: what that edge takes loads no member. rigid:
    a level floor that moves as one in plan; law: stiffness as a membrane, N/m: along either direction, across between them (both 0 for sheeting
    that carries shear alone), and in shear. cover: area of the cladding over that between the lines of the steel; beyond: how far it reaches
    beyond them sideways and upwards, in metres. jig: name of the jig that made it, "" by hand; deck: of a deck, its floor, and the row and column
    of the field that it lies in. plate: as what it bends by itself; its carriers are then what it is joined to. excluded: kept from bearing it.
    """

    name: str
    kind: str
    corners: Floats
    outside: Floats
    span: Floats
    carriers: tuple[str, ...]
    side: str = ""
    pitch: float = 0.0
    two_way: bool = False
    openings: tuple[Floats, ...] = ()
    permanent: float = 0.0
    imposed: float = 0.0
    category: str = ""
    reduced: bool = False
    place: str = ""
    snow: float | None = None
    wind: dict[str, float] = field(default_factory=dict)
    grounded: tuple[Floats, Floats] | None = None
    rigid: bool = False
    law: tuple[float, float, float] | None = None
    cover: float = 1.0
    beyond: tuple[float, float] = (0.0, 0.0)
    jig: str = ""
    deck: tuple[str, int, int] | None = None
    plate: Plate | None = None
    excluded: tuple[str, ...] = ()

    @lazily
    def seen(self) -> Floats:
        """(2, 3): unit vectors in its plane, to the right and upwards for someone who looks at it from outside; of a level one along X and Y."""
        lying = abs(self.outside[2]) > 0.9999
        up = np.array([0.0, 1.0, 0.0]) if lying else np.array([0.0, 0.0, 1.0]) - self.outside * self.outside[2]
        up = up / np.linalg.norm(up)
        return np.stack([np.cross(up, self.outside), up])

    @lazily
    def basis(self) -> Floats:
        """(2, 3): unit vectors of the panel's coordinates s (across the span) and t (along it)."""
        return np.stack([np.cross(self.span, self.outside), self.span])

    def flat(self, points: Floats) -> Floats:
        """Points (…, 3) in the panel's coordinates (…, 2), metres from its first corner."""
        found: Floats = (np.asarray(points, dtype=float) - self.corners[0]) @ self.basis.T
        return found

    def place_of(self, flat: Floats) -> Floats:
        """Panel coordinates (…, 2) in space (…, 3)."""
        found: Floats = self.corners[0] + np.asarray(flat, dtype=float) @ self.basis
        return found

    @lazily
    def area(self) -> float:
        """Surface area without its openings, in m²."""
        return float(abs(_area(self.flat(self.corners))) - sum(abs(_area(self.flat(o))) for o in self.openings))

    @property
    def length(self) -> float:
        """Distance from the first corner to the last, in metres: of a roof, the length of the slope."""
        return float(np.linalg.norm(self.corners[-1] - self.corners[0]))


def _area(flat: Floats) -> float:
    x, y = flat.T
    return float(x @ np.roll(y, -1) - y @ np.roll(x, -1)) / 2


@dataclass(frozen=True)
class Membrane:
    """A stiff deck between three or four nodes in one plane, in order round it; panel and law: as in Panel."""

    panel: str
    nodes: tuple[int, ...]
    law: tuple[float, float, float]


@dataclass(frozen=True)
class Slab:
    """A panel that bends, divided into cells: points (v, 3) m, flat (v, 2) along the panel's `seen` axes from its first corner; cells (c, 4), the
    last two corners alike in a triangle, anticlockwise seen from outside; nodes (v,): of the structure, −1 where there is none; axes (3, 3): along
    its x, y and outwards."""

    panel: str
    plate: Plate
    points: Floats
    flat: Floats
    cells: Ints
    nodes: Ints
    axes: Floats

    @lazily
    def joined(self) -> tuple[int, ...]:
        """The nodes of the structure that it is joined to."""
        return tuple(self.nodes[self.nodes >= 0].tolist())

    @lazily
    def area(self) -> float:
        """In m²."""
        x, y = np.moveaxis(self.flat[self.cells], -1, 0)
        return float((x * np.roll(y, -1, axis=1) - y * np.roll(x, -1, axis=1)).sum() / 2)

    @property
    def mass(self) -> float:
        """In kg."""
        return self.area * self.plate.thickness * self.plate.density


@dataclass(frozen=True)
class GridLine:
    """A grid line: axis "X" stands at x = at (lettered in a hall), "Y" at y = at (numbered)."""

    name: str
    axis: str
    at: float


@dataclass(frozen=True)
class Level:
    """A named height above ±0. floor: whether a floor lies in it."""

    name: str
    height: float
    floor: bool = False


@dataclass(frozen=True)
class Envelope:
    """The building that snow and wind act on. ground: level of its feet, metres above ±0; of: what makes it, as it is called; open: a
    roof without walls, with the blockage φ below it."""

    ground: float
    of: str = "the hall"
    open: bool = False
    blockage: float = 0.0


@dataclass(frozen=True)
class Orphan:
    """An edit that found no place: where it stands in the document, what it was for, and what it said."""

    place: str
    target: str
    said: str


@dataclass(frozen=True)
class Pad:
    """A pad footing under a node: its sides along the axes of the support and its depth, m; subgrade modulus in N/m³; friction of its base;
    clamped: what stands on it turns with it."""

    x: float
    y: float
    depth: float
    subgrade: float
    friction: float
    clamped: bool

    @property
    def springs(self) -> tuple[float, float, float]:
        """N/m along Z, Nm/rad about X and Y, of a stiff pad on ground that gives way in proportion to its pressure (Winkler)."""
        area = self.subgrade * self.x * self.y
        return area, area * self.y**2 / 12, area * self.x**2 / 12


@dataclass(frozen=True)
class Structure:
    """nodes: names; xyz: (nodes, 3) m; fixed: (nodes, 6) bool; springs: (nodes, 6) N/m and Nm/rad. turn: (nodes,) angle about Z of each support's own axes. one_way: (nodes, 6) directions that push back only. settlement: (nodes, 3) m.
    aliases: other names that nodes bear where two jigs meet. diaphragms: groups of nodes that move as one in plan. slabs: panels that bend. pads:
    footings by the node on them. passing: nodes that no document and no jig states, at which members were cut alone; envelope: the building that
    snow and wind act on, None: none. out: 0 or 1, the axis X or Y along which no node of a plane frame moves, −1: in space.
    """

    nodes: tuple[str, ...]
    xyz: Floats
    fixed: Bools
    springs: Floats
    members: tuple[Member, ...]
    turn: Floats
    one_way: Bools
    settlement: Floats
    panels: tuple[Panel, ...] = ()
    grid: tuple[GridLine, ...] = ()
    levels: tuple[Level, ...] = ()
    orphans: tuple[Orphan, ...] = ()
    membranes: tuple[Membrane, ...] = ()
    diaphragms: tuple[tuple[int, ...], ...] = ()
    slabs: tuple[Slab, ...] = ()
    envelope: Envelope | None = None
    pads: dict[int, Pad] = field(default_factory=dict)
    passing: frozenset[str] = frozenset()
    out: int = -1
    index: dict[str, int] = field(default_factory=dict, compare=False)
    aliases: dict[str, str] = field(default_factory=dict, compare=False)

    @lazily
    def still(self) -> Bools:
        """(nodes, 6) directions in which nodes do not move: held by supports, or out of the plane of a plane frame."""
        off = ((0, 4, 5), (1, 3, 5), ())[self.out]
        return self.fixed | np.isin(np.arange(6), off)

    def sprung(self, node: int) -> dict[str, float]:
        """Springs of a node by direction, N/m and Nm/rad, without those of its footing."""
        pad = self.pads.get(node)
        by_pad = () if pad is None else ("z", "rx", "ry") if pad.clamped else ("z",)
        found = zip(FREEDOMS, self.springs[node].tolist(), strict=True)
        return {f: k for f, k in found if k and f not in by_pad}

    def member(self, name: str) -> Member:
        """The member of that name."""
        return self.members[self.index[name]]

    @lazily
    def ends(self) -> Ints:
        """(members, 2): first and last node of each."""
        return np.array([(m.nodes[0], m.nodes[-1]) for m in self.members], dtype=np.int64).reshape(-1, 2)

    @lazily
    def owner(self) -> Ints:
        """(segments,): the member of each stretch between two of a member's nodes."""
        return np.repeat(np.arange(len(self.members)), [len(m.nodes) - 1 for m in self.members])

    @lazily
    def segments(self) -> Ints:
        """(segments, 2): the nodes of each stretch between two of a member's nodes."""
        nodes = np.array([n for m in self.members for n in m.nodes], dtype=np.int64)
        first = np.arange(len(self.owner)) + self.owner
        return np.stack([nodes[first], nodes[first + 1]], axis=1) if len(nodes) else np.zeros((0, 2), np.int64)

    @lazily
    def meeting(self) -> dict[int, tuple[int, ...]]:
        """By node the numbers of the members that meet or pass there."""
        found: dict[int, list[int]] = {}
        for i, m in enumerate(self.members):
            for node in m.nodes:
                found.setdefault(node, []).append(i)
        return {node: tuple(dict.fromkeys(members)) for node, members in found.items()}

    @lazily
    def frames(self) -> dict[int, tuple[Member, ...]]:
        """The members of each frame of a hall, by its number."""
        found: dict[int, list[Member]] = {}
        for m in self.members:
            if m.frame:
                found.setdefault(m.frame, []).append(m)
        return {number: tuple(own) for number, own in found.items()}

    @lazily
    def bars(self) -> Bools:
        """(members,): whether each carries axial force alone."""
        return np.array([m.bar for m in self.members], dtype=bool)

    def length(self, member: Member) -> float:
        """System length in metres."""
        return float(np.linalg.norm(self.xyz[member.nodes[-1]] - self.xyz[member.nodes[0]]))

    def masses(self) -> dict[str, float]:
        """Mass in kg of all that has a steel strength ("steel"), and of each other material by its name, slabs too, the heaviest first."""
        found: dict[str, float] = {}
        for m in self.members:
            what = "steel" if m.material.strength is not None else m.material.name
            found[what] = found.get(what, 0.0) + self.mass(m)
        for slab in self.slabs:
            found[slab.plate.material] = found.get(slab.plate.material, 0.0) + slab.mass
        return dict(sorted(found.items(), key=lambda item: -item[1]))

    def mass(self, member: Member) -> float:
        """Mass in kg; pieces with a section of their own count with it."""
        length = self.length(member)
        volume = member.section.weighing * length
        for piece in member.pieces:
            volume += (piece.section.weighing - member.section.weighing) * (piece.end - piece.start)
        return volume * member.material.density
