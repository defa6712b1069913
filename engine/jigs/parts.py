"""Parts that a jig sets out, gathered by name before they are joined to a structure."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np
from numpy.typing import NDArray

from engine.catalogue.properties import Section
from engine.catalogue.sections import section as catalogue_section
from engine.catalogue.steels import Material
from engine.catalogue.steels import material as catalogue_material
from engine.document.base import Slab
from engine.document.byhand import PanelInput
from engine.document.floors import FloorJig
from engine.errors import ModelError
from engine.structure.model import Envelope, GridLine, Level, Member, Panel, Plate

Point = tuple[float, float, float]
#: nodes nearer to each other than this are one, in metres
SAME = 1e-3


@dataclass
class Materials:
    """Sections and materials by name: those of the document, then those of the catalogue; force: newtons in the document's
    unit."""

    sections: dict[str, Section] = field(default_factory=dict)
    materials: dict[str, Material] = field(default_factory=dict)
    force: float = 1000.0

    def section(self, name: str, place: str = "") -> Section:
        """Raises ModelError when there is none."""
        return self.sections.get(name) or catalogue_section(name, place)

    def material(self, name: str, place: str = "") -> Material:
        """Raises ModelError when there is none."""
        return self.materials.get(name) or catalogue_material(name, place)

    def in_plane(self, given: FloorJig | PanelInput, place: str) -> dict[str, Any]:
        """How a deck holds its plane, as fields of a Panel. Raises ModelError for a material that is not there."""
        diaphragm, deck = given.diaphragm, given.membrane
        if diaphragm == "slab":
            return {"plate": self._plate(given.slab, f"{place}.slab")}
        if diaphragm != "membrane":
            return {"rigid": diaphragm == "rigid"}
        if deck.kind == "sheeting":
            return {"law": (0.0, 0.0, deck.shear * 1000)}
        material = self.material(deck.material, f"{place}.membrane.material")
        nu = material.E / (2 * material.G) - 1
        along = material.E * deck.thickness / (1 - nu**2)
        return {"law": (along, nu * along, material.G * deck.thickness)}

    def _plate(self, slab: Slab, place: str) -> Plate:
        material = self.material(slab.material, f"{place}.material")
        return Plate(
            material.E,
            min(max(material.E / (2 * material.G) - 1, 0.0), 0.49),
            material.density,
            slab.thickness,
            material.name,
            slab.cracked,
            slab.size,
            slab.rise,
            slab.joint == "hinged",
            tuple((edge.edge - 1, frozenset(edge.fixed)) for edge in slab.held),
        )


@dataclass(frozen=True)
class Uprights:
    """Members that stand upright: where in plan (n, 2), from which height to which (n,), metres."""

    plan: NDArray[np.float64]
    low: NDArray[np.float64]
    high: NDArray[np.float64]

    def bear(self, at: Point) -> bool:
        """Whether one passes a point, or ends there from below."""
        near = np.abs(self.plan - at[:2]).max(axis=1, initial=0.0) < SAME
        return bool((near & (self.low < at[2] - SAME) & (self.high > at[2] - SAME)).any())


@dataclass
class Parts:
    """Nodes, members, supports, panels, grid lines and levels being gathered.

    Members refer to nodes by number in the order of `nodes`; interior nodes are found when everything is joined.
    supports: node -> directions held; springs: node -> (freedom, N/m or Nm/rad); turns: node -> angle of the support's own
    axes about Z; patterns: a plain member of each role; envelope: the building that snow and wind act on; drawn:
    ends of the members by hand, on which jigs may stand.
    """

    nodes: dict[str, Point] = field(default_factory=dict)
    numbers: dict[str, int] = field(default_factory=dict)
    supports: dict[str, frozenset[str]] = field(default_factory=dict)
    springs: dict[str, tuple[tuple[str, float], ...]] = field(default_factory=dict)
    turns: dict[str, float] = field(default_factory=dict)
    members: dict[str, Member] = field(default_factory=dict)
    panels: list[Panel] = field(default_factory=list)
    grid: list[GridLine] = field(default_factory=list)
    levels: list[Level] = field(default_factory=list)
    patterns: dict[str, Member] = field(default_factory=dict)
    envelope: Envelope | None = None
    drawn: dict[str, tuple[Point, Point]] = field(default_factory=dict)

    def node(self, name: str, at: Point) -> str:
        """Set a node; a second one of the same name must be the same point."""
        if name not in self.nodes:
            self.numbers[name] = len(self.nodes)
            self.nodes[name] = at
        return name

    def ends(self, member: str) -> tuple[Point, Point] | None:
        """Where a member set out so far, or drawn by hand, starts and ends; None where there is none of that name."""
        if member not in self.members:
            return self.drawn.get(member)
        places = list(self.nodes.values())
        a, b = self.members[member].nodes
        return places[a], places[b]

    def uprights(self) -> Uprights:
        """The members that stand upright, set out so far or drawn."""
        places = np.array([*self.nodes.values()], dtype=float).reshape(-1, 3)
        own = np.array([m.nodes for m in self.members.values()], dtype=np.int64).reshape(-1, 2)
        drawn = np.array(list(self.drawn.values()), dtype=float).reshape(-1, 2, 3)
        lines = np.concatenate([places[own], drawn])
        lines = lines[np.abs(lines[:, 0, :2] - lines[:, 1, :2]).max(axis=1, initial=0.0) < SAME]
        return Uprights(lines[:, 0, :2], lines[:, :, 2].min(axis=1), lines[:, :, 2].max(axis=1))

    def hold(self, node: str, directions: str) -> None:
        """Support a node: “x y z rz”."""
        self.supports[node] = frozenset(directions.split())

    def member(
        self, name: str, role: str, start: str, end: str, section: Section, material: Material, **more: Any
    ) -> None:
        """Set a member between two nodes."""
        if role not in self.patterns:
            self.patterns[role] = Member("", role, (), section, material)
        self.like(self.patterns[role], name, start, end, section=section, material=material, **more)

    def like(self, pattern: Member, name: str, start: str, end: str, **more: Any) -> None:
        """Set a member like another, between two nodes of its own."""
        if name in self.members:
            raise ModelError(f"There are two members named “{name}”.", "members")
        nodes = (self.numbers[start], self.numbers[end])
        self.members[name] = pattern.but(name=name, nodes=nodes, **more)
