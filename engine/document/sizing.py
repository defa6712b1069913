"""What sizing may choose: its aim, prices, and for each group of members the sections that are allowed."""

from __future__ import annotations

from itertools import product
from typing import Annotated, Literal

from pydantic import Field, field_validator, model_validator

from engine.document.base import Kind, Name, Part
from engine.document.references import MemberName

Price = Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)]
Each = Annotated[float, Field(ge=0, le=100_000, allow_inf_nan=False)]
Lengths = Annotated[list[Annotated[float, Field(ge=50, le=5000, allow_inf_nan=False)]], Field(max_length=20)]
Thicknesses = Annotated[list[Annotated[float, Field(ge=3, le=150, allow_inf_nan=False)]], Field(max_length=20)]
HaunchLengths = Annotated[list[Annotated[float, Field(ge=0.2, le=20, allow_inf_nan=False)]], Field(max_length=8)]
HaunchDepths = Annotated[list[Annotated[float, Field(ge=0.05, le=2, allow_inf_nan=False)]], Field(max_length=8)]
ApartBy = Literal["end frames", "levels", "bays", "lengths"]
Size = Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0.2, le=1, allow_inf_nan=False)]


class Plates(Part):
    """I sections welded of three plates, of all depths × widths of both flanges × thicknesses of web and flanges, in mm; of none where one of the
    lists is empty."""

    depths: Lengths = []
    widths: Lengths = []
    webs: Thicknesses = []
    flanges: Thicknesses = []

    @property
    def names(self) -> list[str]:
        """The names of all of them that are I sections: flanges no thinner than the web, and wider than it is thick."""
        return [
            f"WI {h:g}x{b:g}x{tw:g}x{tf:g}"
            for h, b, tw, tf in product(self.depths, self.widths, self.webs, self.flanges)
            if tw <= tf and tw < b and 2 * tf < h
        ]


class GroupPlan(Part):
    """What may be chosen for a group.

    locked: keeps what it has. families: series by name, its own by default; only: these sections alone; plates: sections welded
    of plates, besides the series that are named. Depths and widths in metres.
    grades: tried beside the one that it has. target: utilisation that may be reached, the reserve of all by default; targets: the same in cross-sections,
    stability, or deflection, sway and other service alone. not_deeper_than,
    as_deep_as: names of other groups. apart: what the group is split by, each part a group of its own; a part is planned as the whole
    until it has a plan of its own. haunch_lengths, haunch_depths:
    of the deepest haunches of the group, in metres, tried beside what they have.
    """

    locked: bool = False
    families: Annotated[list[Name], Field(max_length=40)] = []
    only: Annotated[list[Name], Field(max_length=200)] = []
    plates: Plates | None = None
    least_depth: Size | None = None
    most_depth: Size | None = None
    least_width: Size | None = None
    most_width: Size | None = None
    grades: Annotated[list[Name], Field(max_length=10)] = []
    target: Share | None = None
    targets: dict[Kind, Share] = {}
    not_deeper_than: Name | None = None
    as_deep_as: Name | None = None
    apart: Annotated[list[ApartBy], Field(max_length=4)] = []
    haunch_lengths: HaunchLengths = []
    haunch_depths: HaunchDepths = []

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
    """Prices by kilogram of what is rolled, hollow and welded; by kilogram more of grades; by piece, by stay and by haunch beside its steel; weld: by metre of a seam between
    web and flange, where the kilogram of what is welded does not bear it; cold: by
    kilogram of cold-formed purlins and rails that are no members. carbon: kg CO2e by kilogram.

    Examples to begin with, from no list: an office states its own.
    """

    rolled: Price = 2.4
    hollow: Price = 3.0
    welded: Price = 3.6
    grades: dict[Name, Price] = {"S420": 0.2, "S460": 0.25}
    piece: Each = 60.0
    stay: Each = 25.0
    haunch: Each = 110.0
    weld: Price = 0.0
    cold: Price = 2.8
    carbon: Price = 1.2


class SizingPlan(Part):
    """How everything is sized. reserve: share of the resistance that stays unused; slenderness: L_cr/i at most of what may be pressed, 0
    for none, a limit of practice; stock: sections, or series, that alone are taken where a group names none, all where there are none; avoid: those that are
    not; groups: by the name of a group that is proposed or of an own one."""

    objective: Literal["mass", "cost"] = "mass"
    reserve: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.0
    slenderness: Annotated[float, Field(ge=0, le=1000, allow_inf_nan=False)] = 250.0
    prices: Prices = Prices()
    stock: Annotated[list[Name], Field(max_length=2000)] = []
    avoid: Annotated[list[Name], Field(max_length=2000)] = []
    groups: dict[Name, GroupPlan] = {}
    own: Annotated[list[OwnGroup], Field(max_length=200)] = []
