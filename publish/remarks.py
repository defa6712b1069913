"""Remarks of people: plain words with **bold**, *italic*, lines that begin with “- ” as a list, and $formulas$."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache
from typing import Any

import typst

from publish.formulas import typst_math

_MARK = re.compile(
    r"\$(?P<formula>[^$\s](?:[^$]*[^$\s])?)\$(?!\d)|\*\*(?P<bold>[^*]+)\*\*|(?<![*\w])\*(?P<italic>[^*\s](?:[^*]*[^*\s])?)\*(?![*\w])"
)
#: what a formula may be written with: nothing that ends words or begins a program in any of the languages that formulas are set in
_PLAIN = re.compile(r"[A-Za-z0-9Α-ωϕϵ\s\\{}^_+\-−·=<>≤≥/().,|\[\]!%°]*")


def remark_lines(
    words: str, parts: Callable[[str], list[dict[str, Any]]], formula: Callable[[str], str]
) -> list[dict[str, Any]]:
    """Lines with their parts. parts: words with what is lowered apart; formula: LaTeX as whoever sets it wants it. What is no formula that can be set stays as
    it was written."""
    found = []
    for line in words.split("\n"):
        item = re.match(r"\s*[-–]\s+", line)
        inner = line[item.end() :] if item else line
        found.append({"item": bool(item), "parts": _inline(inner, parts, formula)})
    return found


def _inline(
    line: str, parts: Callable[[str], list[dict[str, Any]]], formula: Callable[[str], str]
) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = []
    at = 0

    def say(words: str, bold: bool = False, italic: bool = False) -> None:
        found.extend({**part, "bold": bold, "italic": italic, "formula": ""} for part in parts(words))

    for match in _MARK.finditer(line):
        say(line[at : match.start()])
        at = match.end()
        if match["formula"] is None:
            say(match["bold"] or match["italic"], bool(match["bold"]), bool(match["italic"]))
        elif (set_so := _formula(match["formula"], formula)) is not None:
            found.append({"words": "", "sub": False, "bold": False, "italic": False, "formula": set_so})
        else:
            say(match[0])
    say(line[at:])
    return found


@lru_cache(maxsize=4096)
def can_be_set(latex: str) -> bool:
    """Whether a formula of somebody's own can be set in type: one that cannot would take the whole document with it."""
    if not _PLAIN.fullmatch(latex):
        return False
    try:
        mathematics = typst_math(latex)
        page = b'#set page(width: auto, height: auto)\n#eval(sys.inputs.formula, mode: "math")'
        compiler = typst.Compiler(
            page, font_paths=typst.Fonts(include_system_fonts=False), sys_inputs={"formula": mathematics}
        )
        compiler.compile(format="svg")
    except (ValueError, IndexError, typst.TypstError):
        return False
    return True


def _formula(latex: str, formula: Callable[[str], str]) -> str | None:
    """A formula as it is set; None where it cannot be."""
    try:
        return formula(latex) if can_be_set(latex) else None
    except Exception:
        # whatever a library makes of people's words, they stay words
        return None
