"""What every part of a document shares: numbers with bounds, names, and the words it may use."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field

Name = Annotated[str, Field(min_length=1, max_length=80)]
#: no load, length or factor of a building is near this; beyond it arithmetic loses its meaning
Number = Annotated[float, Field(ge=-1e15, le=1e15, allow_inf_nan=False)]
#: a coordinate or length in metres
Place = Annotated[float, Field(ge=-1e5, le=1e5, allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, le=1e25, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e25, allow_inf_nan=False)]
#: a factor of a case in a combination
Factor = Annotated[float, Field(ge=-1e3, le=1e3, allow_inf_nan=False)]
Vector = tuple[Number, Number, Number]
Point = tuple[Place, Place, Place]
Role = Literal[
    "column",
    "rafter",
    "purlin",
    "side rail",
    "eaves beam",
    "ridge beam",
    "gable post",
    "roof bracing",
    "wall bracing",
    "strut",
    "knee brace",
    "tie",
    "top chord",
    "bottom chord",
    "web",
    "main beam",
    "joist",
    "deck",
    "member",
]
Behaviour = Literal["beam", "bar", "tension-only", "compression-only", "rigid link"]
#: what of a member lies on the line of its nodes; its sides as seen along it, with local z upwards
Align = Literal["centre", "top flange", "bottom flange", "left side", "right side"]
#: how far in front of a column's face a beam bears where it is hinged to it, m
BeyondFace = Annotated[float, Field(ge=-0.5, le=2, allow_inf_nan=False)]
BearsAt = BeyondFace | Literal["axis", "as stated"]
Freedom = Literal["x", "y", "z", "rx", "ry", "rz"]
#: what criteria are about: cross-sections, stability, and deflection, sway and other service
Kind = Literal["section", "stability", "service"]
BracingKind = Literal["X", "single", "K", "V"]
Terrain = Literal["0", "I", "II", "III", "IV"]
Nature = Literal[
    "permanent", "imposed", "snow", "wind", "temperature", "accidental", "crane", "seismic", "imperfection", "other"
]
Direction = Literal["left", "right", "front", "back"]
#: what a load on a panel lies on: a part of it, a line, a point
LiesOn = Literal["area", "line", "point"]
Category = Literal["", "A", "B", "C", "D", "E", "F", "G", "H"]


def nul_within(data: Any) -> str | None:
    """The dotted place of the first text that holds a NUL character, None where none does."""
    waiting: list[tuple[str, Any]] = [("", data)]
    while waiting:
        place, one = waiting.pop()
        if isinstance(one, str) and "\0" in one:
            return place
        if isinstance(one, dict):
            waiting += [(place, key) for key in one]
            waiting += [(f"{place}.{key}" if place else str(key), value) for key, value in one.items()]
        elif isinstance(one, list):
            waiting += [(f"{place}.{i}" if place else str(i), value) for i, value in enumerate(one)]
    return None


class Part(BaseModel):
    """Base of everything in a document: unknown fields are refused, not dropped."""

    model_config = ConfigDict(extra="forbid")


class Haunch(Part):
    """A haunch below a member. length: along it from its end node; depth: added below it at that end.

    made_of: "cut" from a rolled section (None: from that of the member), or "plates" of the given sizes.
    """

    length: Annotated[float, Field(ge=0.2, le=20, allow_inf_nan=False)] = 2.4
    depth: Annotated[float, Field(ge=0.05, le=2, allow_inf_nan=False)] = 0.30
    made_of: Literal["cut", "plates"] = "cut"
    section: Name | None = None
    web: Annotated[float, Field(ge=0.004, le=0.08, allow_inf_nan=False)] = 0.010
    flange_width: Annotated[float, Field(ge=0.05, le=0.6, allow_inf_nan=False)] = 0.20
    flange: Annotated[float, Field(ge=0.004, le=0.08, allow_inf_nan=False)] = 0.015


class Deck(Part):
    """Stiffness of a deck as a membrane in its own plane: of a plate, `thickness` in metres of a material; or of sheeting that
    carries shear alone, `shear` = G t in kN/m."""

    kind: Literal["plate", "sheeting"] = "plate"
    thickness: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.08
    material: Name = "C25/30"
    shear: Annotated[float, Field(gt=0, le=1e8, allow_inf_nan=False)] = 5000.0


class HeldEdge(Part):
    """An edge of a slab that is held along its whole length, from its corner of that number (from 1) to the next; fixed: in which directions."""

    edge: Annotated[int, Field(ge=1, le=40)]
    fixed: list[Freedom] = ["z"]


class Slab(Part):
    """A slab or wall that bends: a solid plate, metres. size: of the cells it is divided into. rise: of its middle above the panel's plane. joint: whether
    what it meets turns with it. cracked: share of its bending stiffness that is left. held: edges on ground or walls that are not modelled."""

    thickness: Annotated[float, Field(gt=0.005, le=3, allow_inf_nan=False)] = 0.2
    material: Name = "C25/30"
    size: Annotated[float, Field(ge=0.05, le=5, allow_inf_nan=False)] = 0.5
    rise: Annotated[float, Field(ge=-3, le=3, allow_inf_nan=False)] = 0.0
    joint: Literal["rigid", "hinged"] = "rigid"
    cracked: Annotated[float, Field(ge=0.05, le=1, allow_inf_nan=False)] = 1.0
    held: Annotated[list[HeldEdge], Field(max_length=40)] = []


Spacing = Annotated[float, Field(ge=0.5, le=30, allow_inf_nan=False)]

#: a section by name, empty: none of its own
OwnSection = Annotated[str, Field(max_length=80)]
