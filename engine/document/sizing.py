"""What sizing may choose: its aim, prices, and for each group of members the sections that are allowed."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from engine.document.base import Name, Part
from engine.document.references import MemberName

Price = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Size = Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0.2, le=1, allow_inf_nan=False)]


class GroupPlan(Part):
    """What may be chosen for a group.

    locked: keeps what it has. families: series by name, its own by default; only: these sections alone. Depths and widths in metres.
    grades: tried beside the one that it has. target: utilisation that may be reached, the reserve of all by default. not_deeper_than,
    as_deep_as: names of other groups. ends_apart: the first and the last frame are a group of their own.
    """

    locked: bool = False
    families: Annotated[list[Name], Field(max_length=40)] = []
    only: Annotated[list[Name], Field(max_length=200)] = []
    least_depth: Size | None = None
    most_depth: Size | None = None
    least_width: Size | None = None
    most_width: Size | None = None
    grades: Annotated[list[Name], Field(max_length=10)] = []
    target: Share | None = None
    not_deeper_than: Name | None = None
    as_deep_as: Name | None = None
    ends_apart: bool = False

    @model_validator(mode="after")
    def _in_order(self) -> GroupPlan:
        for what in ("depth", "width"):
            least, most = getattr(self, f"least_{what}"), getattr(self, f"most_{what}")
            if least is not None and most is not None and least > most:
                raise ValueError(f"the least {what}, {least * 1000:g} mm, is above the most, {most * 1000:g} mm")
        return self


class OwnGroup(Part):
    """Members that shall have one section, taken out of the groups that are proposed."""

    name: Name
    members: Annotated[list[MemberName], Field(max_length=5000)] = []

    @field_validator("name")
    @classmethod
    def _without_dots(cls, name: str) -> str:
        if "." in name:
            raise ValueError("the name of a group has no full stop")
        return name


class Prices(Part):
    """Prices by kilogram of what is rolled, hollow and welded; by kilogram more of grades; by piece. carbon: kg CO2e by kilogram.

    Examples to begin with, from no list: an office states its own.
    """

    rolled: Price = 2.4
    hollow: Price = 3.0
    welded: Price = 3.6
    grades: dict[Name, Price] = {"S420": 0.2, "S460": 0.25}
    piece: Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)] = 60.0
    carbon: Price = 1.2


class SizingPlan(Part):
    """How everything is sized. reserve: share of the resistance that stays unused; slenderness: L_cr/i at most of what may be pressed, 0
    for none, a limit of practice; groups: by the name of a group that is proposed or of an own one."""

    objective: Literal["mass", "cost"] = "mass"
    reserve: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.0
    slenderness: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 250.0
    prices: Prices = Prices()
    groups: dict[Name, GroupPlan] = {}
    own: Annotated[list[OwnGroup], Field(max_length=200)] = []
