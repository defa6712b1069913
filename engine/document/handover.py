"""What the dossier holds: chapters with their levels, order and remarks, and what its cover says."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from engine.document.base import Name, Part
from engine.document.naming import free_name

Chapter = Literal[
    "basis",
    "building",
    "actions",
    "combinations",
    "analysis",
    "response",
    "verification",
    "restraints",
    "joints",
    "quantities",
    "sizing",
    "open",
]
Level = Literal["summary", "normal", "full"]
Remark = Annotated[str, Field(max_length=4000)]
Line = Annotated[str, Field(max_length=120)]


class PlacedPicture(Part):
    """A picture of one's own. name: its key among those of the project; width: share of the line."""

    name: Annotated[str, Field(pattern="^[0-9a-f]{16}$")]
    caption: Annotated[str, Field(max_length=300)] = ""
    width: Annotated[float, Field(ge=0.1, le=1, allow_inf_nan=False)] = 0.5


class PlacedView(Part):
    """A view of the workbench that is drawn anew in each dossier. name: its own; plane: the key of what is looked at, “whole” for the building in space;
    shows: the steel, its utilisation, the plan of the site, the restraints of a member laid flat (member: which), the loads of a case or a combination, one of the internal forces (“moments”: M_y) or the movement of a case, a combination, an
    envelope or a mode; state: which; means: the name of that case or the formula of that combination, which is looked for where numbers have
    moved on; bearing, tilt: from where the whole is looked at, degrees from X towards Y and above the ground."""

    name: Name
    plane: Annotated[str, Field(max_length=80)]
    shows: Literal["steel", "utilisation", "loads", "moments", "forces", "movement", "site", "restraints"]
    member: Annotated[str, Field(max_length=120)] = ""
    quantity: Literal["N", "Vy", "Vz", "T", "My", "Mz"] = "My"
    state: Annotated[str, Field(max_length=120)] = ""
    means: Annotated[str, Field(max_length=1000)] = ""
    bearing: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 225.0
    tilt: Annotated[float, Field(ge=-90, le=90, allow_inf_nan=False)] = 25.0


#: tables that can be put into a chapter besides
TableKind = Literal[
    "groups",
    "steelwork",
    "nodes",
    "supports",
    "sections",
    "members",
    "design members",
    "deflections",
    "reactions",
    "footings",
    "cases",
    "combinations",
    "forces",
    "states",
    "group forces",
    "sways",
    "decks",
    "slabs",
    "loads",
]


class PlacedTable(Part):
    """A table that stands in a chapter besides, made anew in each dossier. name: its own; table: which; words: what a row must hold, all of it, or of
    single columns: “rafter, utilisation > 0.8”; none: every row."""

    name: Name
    table: TableKind
    words: Annotated[str, Field(max_length=200)] = ""


class SectionNote(Part):
    """What the designer adds to a section of the dossier: a member, a check, a case, or any other. name: the lasting name of the section;
    title: what it was called, for where it is not there any more; a remark stands below its heading, pictures below that."""

    name: Annotated[str, Field(min_length=1, max_length=200)]
    title: Line = ""
    remark: Remark = ""
    pictures: Annotated[list[PlacedPicture], Field(max_length=20)] = []


class ChapterPlan(Part):
    """How a chapter is told. place: its position among the others, by default that of the list of chapters (1, 2, …); a remark
    stands below its heading, pictures below that, then views, then tables."""

    level: Level = "normal"
    left_out: bool = False
    place: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] | None = None
    remark: Remark = ""
    pictures: Annotated[list[PlacedPicture], Field(max_length=20)] = []
    views: Annotated[list[PlacedView], Field(max_length=20)] = []
    tables: Annotated[list[PlacedTable], Field(max_length=20)] = []


class DossierPlan(Part):
    """The dossier as it is handed over. every_member: the proof of what governs each member, not of each group alone.

    What is open or not covered is always told: that chapter cannot be left out.
    """

    paper: Literal["A4", "Letter"] = "A4"
    client: Line = ""
    reference: Line = ""
    author: Line = ""
    every_member: bool = False
    chapters: dict[Chapter, ChapterPlan] = {}
    notes: Annotated[list[SectionNote], Field(max_length=500)] = []

    def noted(self, member: str) -> bool:
        """Whether a note stands at a member of that name, or at one of its checks; as it was called before it was released, too."""
        at = free_name(f"member.{member}")
        return any(f"{free_name(note.name)}.".startswith(f"{at}.") for note in self.notes)

    @property
    def pictures(self) -> set[str]:
        """Keys of all pictures that it shows."""
        placed = [*(c.pictures for c in self.chapters.values()), *(n.pictures for n in self.notes)]
        return {picture.name for pictures in placed for picture in pictures}
