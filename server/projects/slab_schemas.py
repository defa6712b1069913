"""What is said of slabs and walls. Movements in mm, forces in kN/m, moments in kNm/m, places in m."""

from __future__ import annotations

from pydantic import BaseModel

from server.projects.action_schemas import Flat
from server.projects.structure_schemas import Triple


class JoinedOut(BaseModel):
    """A member that a slab is joined to along a line."""

    member: str
    line: list[Flat]


class SlabOut(BaseModel):
    """A slab in a state, seen from outside as its panel is laid flat. cells: corners by number of their point, three or four; corner: of each the
    numbers of its values. most, least: by quantity (w inwards, m, v and n), least over an envelope alone; of a mode w in shares of the largest. way: degrees from x to the first principal
    moment. coarse: share of the energy of bending that its cells are too
    coarse for, about. columns: points where a member ends on it or passes."""

    revision: int
    name: str
    state: str
    kind: str
    words: str
    thickness: float
    material: str
    coarse: float
    upright: bool
    outline: list[Flat]
    openings: list[list[Flat]]
    points: list[Flat]
    cells: list[list[int]]
    corner: list[list[int]]
    most: dict[str, list[float]]
    least: dict[str, list[float]]
    way: list[float]
    members: list[JoinedOut]
    columns: list[Flat]
    held: list[list[Flat]]


class SlabValue(BaseModel):
    """A value of a slab, where, and in which combination."""

    value: float
    at: Triple
    combination: str


class SlabRow(BaseModel):
    """The greatest and the least in a slab, by quantity."""

    name: str
    thickness: float
    material: str
    cells: int
    joined: int
    most: dict[str, SlabValue]
    least: dict[str, SlabValue]
