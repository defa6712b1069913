"""What every part of a document shares: numbers with bounds, names, and the words it may use."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

Name = Annotated[str, Field(min_length=1, max_length=80)]
Number = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(gt=0, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, allow_inf_nan=False)]
Vector = tuple[Number, Number, Number]
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
Freedom = Literal["x", "y", "z", "rx", "ry", "rz"]
BracingKind = Literal["X", "single", "K", "V"]
Terrain = Literal["0", "I", "II", "III", "IV"]
Nature = Literal["permanent", "imposed", "snow", "wind", "other"]


class Part(BaseModel):
    """Base of everything in a document: unknown fields are refused, not dropped."""

    model_config = ConfigDict(extra="forbid")
