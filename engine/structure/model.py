"""What stands: nodes, members cut into elements, supports, panels. Plain values with lasting names."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from engine.catalogue.properties import Section
from engine.catalogue.steels import Material

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Bools = NDArray[np.bool_]

FREEDOMS = ("x", "y", "z", "rx", "ry", "rz")


@dataclass(frozen=True)
class Member:
    """A physical member: a straight run through `nodes` (start, cuts, end), with what holds it against buckling.

    outer, inner: distances from the start at which the outer (+z local) and inner (-z) flange are held sideways; both
    ends are held. releases: ("x", "y", "z") local rotations free at start and end. frame: 1-based frame it belongs to.
    """

    name: str
    role: str
    nodes: tuple[int, ...]
    section: Section
    material: Material
    roll: float = 0.0
    bar: bool = False
    release_start: frozenset[str] = frozenset()
    release_end: frozenset[str] = frozenset()
    frame: int = 0
    outer: tuple[float, ...] = ()
    inner: tuple[float, ...] = ()


@dataclass(frozen=True)
class Carrier:
    """A member that carries a strip of a panel: the strip's width, and the member's length along it in metres."""

    member: str
    width: float


@dataclass(frozen=True)
class Panel:
    """A plane piece of cladding: its corners in order, unit normal pointing outside, and the members it loads.

    kind: "roof" or "wall". side: "left" or "right". length: dimension along the carriers, width: across them, in metres.
    """

    name: str
    kind: str
    side: str
    corners: Floats
    outside: Floats
    length: float
    width: float
    carriers: tuple[Carrier, ...]

    @property
    def area(self) -> float:
        """Surface area in m²."""
        return self.length * self.width


@dataclass(frozen=True)
class Structure:
    """nodes: names; xyz: (nodes, 3) m; fixed: (nodes, 6) bool; springs: (nodes, 6) N/m and Nm/rad."""

    nodes: tuple[str, ...]
    xyz: Floats
    fixed: Bools
    springs: Floats
    members: tuple[Member, ...]
    panels: tuple[Panel, ...] = ()
    index: dict[str, int] = field(default_factory=dict, compare=False)

    def member(self, name: str) -> Member:
        """The member of that name."""
        return self.members[self.index[name]]

    def length(self, member: Member) -> float:
        """System length in metres."""
        return float(np.linalg.norm(self.xyz[member.nodes[-1]] - self.xyz[member.nodes[0]]))

    def mass(self, member: Member) -> float:
        """Mass in kg."""
        return member.section.A * member.material.density * self.length(member)
