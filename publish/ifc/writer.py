"""Entities of IFC4 with identifiers that last."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import Any

import ifcopenshell
import ifcopenshell.guid
import numpy as np

from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member, Structure
from engine.structure.names import lasting
from publish.ifc.identity import identity


class Writer:
    """Entities with lasting identifiers; names: of what may be released."""

    def __init__(self, space: uuid.UUID, names: Iterable[str] = ()) -> None:
        self.names = lasting(names)
        self.file = ifcopenshell.file(schema="IFC4")
        self.space = space
        self.points: dict[tuple[float, ...], Any] = {}
        self.directions: dict[tuple[float, ...], Any] = {}

    def make(self, kind: str, *values: Any, **named: Any) -> Any:
        return self.file.create_entity(kind, *values, **named)

    def guid(self, *key: str) -> str:
        """The identifier of something by its name."""
        found: str = ifcopenshell.guid.compress(identity(self.space, *(self.names.get(part, part) for part in key)))
        return found

    def rooted(self, kind: str, key: tuple[str, ...], **values: Any) -> Any:
        return self.make(kind, GlobalId=self.guid(kind, *key), **values)

    def point(self, at: Iterable[float]) -> Any:
        key = tuple(round(float(v), 9) for v in at)
        if key not in self.points:
            self.points[key] = self.make("IfcCartesianPoint", key)
        return self.points[key]

    def direction(self, way: Iterable[float]) -> Any:
        key = tuple(round(float(v), 12) for v in way)
        if key not in self.directions:
            self.directions[key] = self.make("IfcDirection", key)
        return self.directions[key]

    def placement(
        self, at: Iterable[float], axis: Iterable[float] | None = None, ref: Iterable[float] | None = None
    ) -> Any:
        return self.make(
            "IfcAxis2Placement3D",
            self.point(at),
            self.direction(axis) if axis is not None else None,
            self.direction(ref) if ref is not None else None,
        )


def axes_of(structure: Structure, m: Member) -> Floats:
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    found: Floats = local_axes(ends[:1], ends[1:], np.array([m.roll]))[0]
    return found
