"""What a file of others becomes: a document as plain values, what is said of it, and what its reader may settle."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, TypeVar

from pydantic import BaseModel

from engine.errors import ModelError


@dataclass(frozen=True)
class FileOption:
    value: str
    label: str


@dataclass(frozen=True)
class FileChoice:
    """Something that a file does not say: what is taken of a layer, a sheet, a column or a profile, or of the whole file (of: "").

    field: which of its properties, words: what it is called; options: what it may be, besides the sections of the catalogue where that is
    its kind. value: what is in force, guessed or settled; aside: what the file tells of it.
    """

    of: str
    field: str
    words: str
    value: str
    options: tuple[FileOption, ...] = ()
    kind: Literal["options", "section"] = "options"
    aside: str = ""


class Taken(BaseModel):
    """problems: what is wrong in it, at its place; with any of them nothing can be made of it. lines: a picture of it, as an SVG path."""

    document: dict[str, Any]
    understood: list[str] = []
    guessed: list[str] = []
    left_out: list[str] = []
    choices: list[FileChoice] = []
    problems: list[str] = []
    lines: str = ""


#: what has been settled, by what it is of and which property
Settled = Mapping[tuple[str, str], str]

_Value = TypeVar("_Value")


def chosen(
    settled: Settled, of: str, name: str, guess: str, options: Mapping[str, _Value], words: str
) -> tuple[str, _Value]:
    """What is in force of some options: what was settled, else the guess. Raises ModelError for what is none of them."""
    value = settled.get((of, name), guess)
    if value not in options:
        raise ModelError(f"{of or 'The file'}: “{value}” is none of what {words} may be.")
    return value, options[value]


class Reader:
    """What a reader has of a file: what was settled of it, and what it becomes."""

    def __init__(self, settled: Settled) -> None:
        self.settled = settled
        self.taken = Taken(document={})

    def choose(self, of: str, field: str, words: str, guess: str, options: Mapping[str, str], aside: str = "") -> str:
        """One of some options, offered to be settled."""
        value, _ = chosen(self.settled, of, field, guess, options, words.lower())
        offered = tuple(FileOption(own, label) for own, label in options.items())
        self.taken.choices.append(FileChoice(of, field, words, value, offered, aside=aside))
        return value

    def value(self, of: str, field: str) -> str:
        """What is in force of something offered before."""
        return next(c.value for c in self.taken.choices if (c.of, c.field) == (of, field))


def counted(number: int, one: str, many: str = "") -> str:
    """“1 line”, “2 lines”."""
    return f"{number} {one if number == 1 else many or one + 's'}"


def some(names: list[str], most: int = 6) -> str:
    """Names in words, the first of them where there are many."""
    return ", ".join(names[:most]) + (f" and {len(names) - most} more" if len(names) > most else "")
