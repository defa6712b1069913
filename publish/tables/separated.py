"""A table as separated values."""

from __future__ import annotations

import csv
import io

from engine.dossier.values import Cell, Link, Table

#: what spreadsheets would take for a formula
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def separated(table: Table) -> str:
    """The table with its headings, their units in brackets; numbers with the digits of their column, no cell a formula."""
    file = io.StringIO()
    out = csv.writer(file, lineterminator="\r\n")
    out.writerow([f"{c.words} [{c.unit}]" if c.unit else c.words for c in table.columns])
    for row in table.rows:
        out.writerow([_cell(value, column.digits) for value, column in zip(row, table.columns, strict=True)])
    return file.getvalue()


def _cell(value: Cell, digits: int) -> str:
    if value is None:
        return ""
    if isinstance(value, float):
        words = f"{value:.{digits}f}"
        return words.removeprefix("-") if not float(words) else words
    words = value.words if isinstance(value, Link) else value
    return f"'{words}" if words.startswith(FORMULA) else words
