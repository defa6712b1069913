"""Rows of a CSV file as people send them: with comma or semicolon, from any system, headings in any case."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterator, Sequence

from engine.errors import ModelError


def rows_of(text: str, columns: Sequence[str], needed: Sequence[str]) -> Iterator[tuple[int, dict[str, str]]]:
    """Each row with its number, cells by heading. Raises ModelError where a needed column is missing, and for what is no table."""
    text = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    first = text.split("\n", 1)[0]
    reader = csv.DictReader(io.StringIO(text), delimiter=";" if first.count(";") > first.count(",") else ",")
    heading = [(name or "").strip().lower() for name in reader.fieldnames or []]
    if missing := [name for name in needed if name not in heading]:
        raise ModelError(f"The heading row lacks “{missing[0]}”; the columns are {', '.join(columns)}.", "file")
    try:
        for raw in reader:
            cells = {
                (key or "").strip().lower(): (cell or "").strip() for key, cell in raw.items() if isinstance(cell, str)
            }
            yield reader.line_num, cells
    except csv.Error as error:
        raise ModelError(f"The file is no table of comma-separated values: {error}.", "file") from None


def number_of(cell: str, row: int, column: str) -> float:
    """A cell as a number, with a point or a comma. Raises ModelError naming the row and the column."""
    try:
        return float(cell.replace(",", "."))
    except ValueError:
        raise ModelError(f"Row {row}: {column} is a number, not “{cell}”.", "file") from None
