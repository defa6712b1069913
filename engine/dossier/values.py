"""What a dossier is made of. Numbers are in the units that their columns name; a word may carry a subscript after `_`."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from engine.derivation import Derivation
from engine.document.handover import Chapter, Level
from engine.dossier.drawing import Drawing
from engine.verification.proof import Proof


@dataclass(frozen=True)
class Link:
    """Words that lead to a place of the dossier."""

    words: str
    anchor: str


#: what stands in a table; None is written as a dash
Cell = str | float | Link | None


@dataclass(frozen=True)
class Column:
    """A column of a table. digits: behind the point, of its numbers; wide: takes the room that others leave."""

    words: str
    unit: str = ""
    digits: int = 2
    wide: bool = False


@dataclass(frozen=True)
class Heading:
    """A section of a chapter: its number follows from where it stands. anchor: its lasting name."""

    words: str
    anchor: str
    depth: int = 2
    aside: str = ""


@dataclass(frozen=True)
class Paragraph:
    """A sentence or more. kind: "missing" for what is not covered, "fails" for what does not hold, "remark" for the designer's
    own words."""

    words: str
    kind: str = "plain"


@dataclass(frozen=True)
class Facts:
    """Terms with what they are, and where that comes from."""

    rows: tuple[tuple[str, str, str], ...]


@dataclass(frozen=True)
class Table:
    """A table. name: its lasting name, also that of its file. marked: number of the row that governs, −1 for none; anchors: lasting names
    of the rows, where each can be ticked by itself."""

    name: str
    columns: tuple[Column, ...]
    rows: tuple[tuple[Cell, ...], ...]
    marked: int = -1
    anchors: tuple[str, ...] = ()


@dataclass(frozen=True)
class Figure:
    """A drawing and what stands below it."""

    drawing: Drawing
    words: str = ""


@dataclass(frozen=True)
class Pictured:
    """A picture of the designer's own, by its key among those of the project, with what stands below it. width: share of the line."""

    picture: str
    words: str
    width: float


@dataclass(frozen=True)
class Proven:
    """The proof of one outcome."""

    proof: Proof
    drawing: Drawing | None = None


@dataclass(frozen=True)
class Derived:
    """How a number came about."""

    derivation: Derivation


Standing = Literal["passes", "fails", "open"]
Block = Heading | Paragraph | Facts | Table | Figure | Pictured | Proven | Derived


@dataclass
class Told:
    """A chapter as it is told: its lasting name, title, level, and what stands in it."""

    key: Chapter
    title: str
    level: Level
    blocks: list[Block] = field(default_factory=list)

    def add(self, *blocks: Block) -> None:
        """Put blocks at its end."""
        self.blocks += blocks


@dataclass(frozen=True)
class Dossier:
    """All of it. revision: what it was made from, in words; verdict: on the building, in words, and whether it "passes", "fails" or is
    "open"; left_out: titles of the chapters that were left out."""

    title: str
    place: str
    revision: str
    made: str
    paper: str
    verdict: str
    standing: Standing
    cover: Facts
    chapters: tuple[Told, ...]
    left_out: tuple[str, ...]

    @property
    def tables(self) -> list[tuple[str, Table]]:
        """All tables with the titles of the sections that they stand in."""
        found = []
        for chapter in self.chapters:
            title = chapter.title
            for block in chapter.blocks:
                if isinstance(block, Heading):
                    title = block.words
                elif isinstance(block, Table):
                    found.append((title, block))
        return found
