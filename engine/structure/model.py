"""What stands: nodes, members cut into elements, supports, panels, grid and levels. Plain values with lasting names."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.document.base import Haunch

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

    outer, inner: distances from the start at which the outer (+z local) and inner (-z) flange are held sideways; both
    ends are held. release_start, release_end: local freedoms let go; springs_start, springs_end: (freedom, stiffness in
    N/m or Nm/rad) instead. offset: of the centroid from the nodes' line, along local y and z. pieces: where the section
    differs from `section`; haunches: what they come from, at start and end. frame: 1-based frame it belongs to. jig: name of the jig that made it, "" by hand;
    slot: which of the jig's sections it takes, "" when it has one of its own.
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
    offset: tuple[float, float] = (0.0, 0.0)
    pieces: tuple[Piece, ...] = ()
    haunches: tuple[Haunch | None, Haunch | None] = (None, None)
    frame: int = 0
    outer: tuple[float, ...] = ()
    inner: tuple[float, ...] = ()
    group: str = ""
    jig: str = ""
    slot: str = ""
    edited: bool = False

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
        object.__setattr__(other, "__dict__", {**self.__dict__, **values})
        return other


class Carrier(NamedTuple):
    """A member that carries a strip of a panel.

    along: it runs along the panel's length and takes the width `width`, over the panel's distances `start` to `end`,
    which lie `offset` further along the member (backwards from there with `reverse`). across: it takes all between `start` and `end` over its whole length.
    """

    member: str
    start: float
    end: float
    width: float = 0.0
    offset: float = 0.0
    reverse: bool = False
    across: bool = False


@dataclass(frozen=True)
class Panel:
    """A plane rectangle of cladding or floor: its corners in order, unit normal pointing outside, and its carriers.

    kind: "roof", "wall" or "floor". side: "left" or "right" where wind tells them apart. length: dimension from the first
    corner towards the last, along which the carriers' distances count; width: across it, in metres. pitch: degrees.
    two_way: the load goes to all four sides by lines at 45°; else to the carriers by width. permanent, imposed: N/m² that
    the panel brings along (floors).
    """

    name: str
    kind: str
    corners: Floats
    outside: Floats
    length: float
    width: float
    carriers: tuple[Carrier, ...]
    side: str = ""
    pitch: float = 0.0
    two_way: bool = False
    permanent: float = 0.0
    imposed: float = 0.0

    @property
    def area(self) -> float:
        """Surface area in m²."""
        return self.length * self.width


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
class Orphan:
    """An edit that found no place: where it stands in the document, what it was for, and what it said."""

    place: str
    target: str
    said: str


@dataclass(frozen=True)
class Structure:
    """nodes: names; xyz: (nodes, 3) m; fixed: (nodes, 6) bool; springs: (nodes, 6) N/m and Nm/rad.

    turn: (nodes,) angle about Z of each support's own axes. one_way: (nodes, 6) directions that push back only.
    settlement: (nodes, 3) m. aliases: other names that nodes bear where two jigs meet.
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
    index: dict[str, int] = field(default_factory=dict, compare=False)
    aliases: dict[str, str] = field(default_factory=dict, compare=False)

    def member(self, name: str) -> Member:
        """The member of that name."""
        return self.members[self.index[name]]

    @cached_property
    def ends(self) -> Ints:
        """(members, 2): first and last node of each."""
        return np.array([(m.nodes[0], m.nodes[-1]) for m in self.members], dtype=np.int64).reshape(-1, 2)

    @cached_property
    def owner(self) -> Ints:
        """(segments,): the member of each stretch between two of a member's nodes."""
        return np.repeat(np.arange(len(self.members)), [len(m.nodes) - 1 for m in self.members])

    @cached_property
    def segments(self) -> Ints:
        """(segments, 2): the nodes of each stretch between two of a member's nodes."""
        nodes = np.array([n for m in self.members for n in m.nodes], dtype=np.int64)
        first = np.arange(len(self.owner)) + self.owner
        return np.stack([nodes[first], nodes[first + 1]], axis=1) if len(nodes) else np.zeros((0, 2), np.int64)

    @cached_property
    def bars(self) -> Bools:
        """(members,): whether each carries axial force alone."""
        return np.array([m.bar for m in self.members], dtype=bool)

    def length(self, member: Member) -> float:
        """System length in metres."""
        return float(np.linalg.norm(self.xyz[member.nodes[-1]] - self.xyz[member.nodes[0]]))

    def mass(self, member: Member) -> float:
        """Mass in kg; pieces with a section of their own count with it."""
        length = self.length(member)
        volume = member.section.A * length
        for piece in member.pieces:
            volume += (piece.section.A - member.section.A) * (piece.end - piece.start)
        return volume * member.material.density
