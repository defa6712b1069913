"""Floors and their storeys as a document states them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, field_validator

from engine.document.base import BracingKind, Deck, Name, NotNegative, Number, OwnSection, Part, Slab, Spacing


class FloorSections(Part):
    """Sections by part of a floor."""

    main_beams: Name = "IPE 300"
    joists: Name = "IPE 200"
    columns: Name = "HEA 160"
    bracing: Name = "CHS 88.9x4"


class FloorGrid(Part):
    """Grid lines that a floor brings along: from the corner at x, y, spacings across (lettered lines) and along (numbered ones)."""

    x: Number = 0.0
    y: Number = 0.0
    across: Annotated[list[Spacing], Field(min_length=1, max_length=40)] = [6.0] * 3
    along: Annotated[list[Spacing], Field(min_length=1, max_length=40)] = [6.0] * 4


class Storey(Part):
    """A storey above the first floor of a floor jig. height: above the floor below it. What is None or empty is as on the first
    floor."""

    height: Annotated[float, Field(ge=0.5, le=30, allow_inf_nan=False)] = 3.5
    permanent: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] | None = None
    imposed: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] | None = None
    category: Literal["", "A", "B", "C", "D", "E", "F", "G"] = ""
    main_beams: OwnSection = ""
    joists: OwnSection = ""
    columns: OwnSection = ""


class BracedField(Part):
    """A field between two columns that is braced from the feet to the top. line: the grid line that it stands on; bay: its number
    along that line, negative from the far end."""

    line: Name
    bay: Annotated[int, Field(ge=-60, le=60)] = 1


class FloorOpening(Part):
    """An opening in a field of every floor of a jig, with trimmers and headers round it. field: its numbers across and along, from 1;
    corner: from the field's first corner along X and Y; size: along X and Y, in metres."""

    field: tuple[Annotated[int, Field(ge=1, le=60)], Annotated[int, Field(ge=1, le=119)]]
    corner: tuple[NotNegative, NotNegative] = (0.0, 0.0)
    size: tuple[
        Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)],
        Annotated[float, Field(gt=0, le=30, allow_inf_nan=False)],
    ]


class FloorJig(Part):
    """A floor or mezzanine at a level between chosen grid lines, or a building of storeys one above another.

    across, along: names of the grid lines that bound it (across: lettered A, B…; along: numbered 1, 2…). divide: number
    of equal spans between the two lines across; columns stand below the main beams at each of them. grid: lines of its own in
    place of these three; columns stand at each crossing. main: direction of
    the main beams. joists: number in each field, or by largest spacing. deck: its span; diaphragm: how it holds the floor
    in its own plane: not at all, as a rigid body, as a membrane of the stiffness `membrane`, or as the `slab` that bends by itself and is joined to all beams. base: level of the feet of its columns. permanent, imposed: loads on the deck in kN/m². reduced:
    imposed load by α_A of the area that each carrier of the deck takes (EN 1991-1-1 6.3.1.2(10)).

    storeys: those above it, upwards. joints: columns run through from storey to storey, or are hinged on each floor. frames: which
    beams are joined rigidly to the columns, so that frames bear sideways forces in their direction: none, the main beams, whose
    columns then stand with their webs along them, or the joists on the columns' lines too. bases: feet of the columns. braced: fields
    with bracing of one pattern. openings: in every floor, not in a roof. top: whether the uppermost storey ends with a floor, with a flat roof that bears cladding, snow and
    wind, or with columns alone on its outer lettered lines, for trusses. walls:
    cladding round the building, on its outer columns.
    """

    kind: Literal["floor"] = "floor"
    name: Name
    level: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] = 3.2
    across: tuple[Name, Name] = ("A", "B")
    along: tuple[Name, Name] = ("1", "3")
    divide: Annotated[int, Field(ge=1, le=20)] = 2
    grid: FloorGrid | None = None
    main: Literal["across", "along"] = "across"
    joists: Annotated[int, Field(ge=0, le=60)] | None = None
    joist_spacing: Spacing = 2.5
    columns: bool = True
    base: Number = 0.0
    storeys: Annotated[list[Storey], Field(max_length=40)] = []
    joints: Literal["continuous", "hinged"] = "continuous"
    frames: Literal["none", "main beams", "all"] = "none"
    bases: Literal["pinned", "fixed"] = "pinned"
    braced: Annotated[list[BracedField], Field(max_length=80)] = []
    pattern: BracingKind = "X"
    tension_only: bool = False
    openings: Annotated[list[FloorOpening], Field(max_length=60)] = []
    top: Literal["floor", "roof", "columns"] = "floor"
    walls: bool = False
    deck: Literal["one way", "two ways"] = "one way"
    diaphragm: Literal["none", "rigid", "membrane", "slab"] = "rigid"
    membrane: Deck = Deck()
    slab: Slab = Slab()
    permanent: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 1.5
    imposed: Annotated[float, Field(ge=0, le=50, allow_inf_nan=False)] = 5.0
    category: Literal["A", "B", "C", "D", "E", "F", "G"] = "B"
    reduced: bool = False
    grade: Name = "S355"
    sections: FloorSections = FloorSections()

    @field_validator("diaphragm", mode="before")
    @classmethod
    def _said_before(cls, value: object) -> object:
        """Documents once said yes or no."""
        return {True: "rigid", False: "none"}[value] if isinstance(value, bool) else value

    @property
    def levels(self) -> list[float]:
        """Heights of its floors above ±0, upwards, in metres."""
        found = [self.level]
        for storey in self.storeys:
            found.append(round(found[-1] + storey.height, 9))
        return found
