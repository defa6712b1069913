"""Cells of a spreadsheet or of a table with commas, as they are sent by people."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import dataclass
from math import isfinite

from openpyxl import load_workbook
from openpyxl.utils import get_column_letter

from engine.errors import ModelError

#: unpacked bytes, sheets, rows and columns of a workbook at most
UNPACKED, SHEETS, ROWS, COLUMNS = 200_000_000, 40, 60_000, 60
#: rows at the head of a sheet among which its headings are looked for
HEAD = 12


@dataclass(frozen=True)
class Sheet:
    """rows: numbers as people count them, with what stands in each cell as text, "" where nothing does."""

    name: str
    rows: list[tuple[int, list[str]]]


@dataclass(frozen=True)
class Column:
    """A heading as it stands and without its unit, its unit, "" without one, and its letters."""

    whole: str
    heading: str
    unit: str
    letters: str


def sheets_of(data: bytes, name: str) -> list[Sheet]:
    """The sheets of a workbook, or the one that a table of separated values is. Raises ModelError with one sentence."""
    if data.startswith(b"PK\x03\x04"):
        return _workbook(data)
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        text = data.decode("latin-1")
    if "\0" in text:
        raise ModelError("The file is no table: it holds NUL characters.")
    first = next((line for line in text.splitlines() if line.strip()), "")
    mark = max(";\t,", key=lambda c: (first.count(c), c == ";"))
    try:
        rows = [
            (k, [cell.strip() for cell in row])
            for k, row in enumerate(csv.reader(io.StringIO(text), delimiter=mark), 1)
        ]
    except csv.Error as error:
        raise ModelError(f"The file is no table of separated values: {error}.") from None
    return [_bounded(Sheet(name, [(k, row) for k, row in rows if any(row)]))]


def _workbook(data: bytes) -> list[Sheet]:
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            if sum(part.file_size for part in packed.infolist()) > UNPACKED:
                raise ModelError(f"The spreadsheet unpacks to more than {UNPACKED / 1e6:.0f} MB.")
        book = load_workbook(io.BytesIO(data), read_only=True, data_only=True)
        sheets = book.worksheets
        if len(sheets) > SHEETS:
            raise ModelError(f"The spreadsheet has {len(sheets)} sheets; up to {SHEETS} are read.")
        found = []
        for sheet in sheets:
            rows = [
                (k, [_text(cell) for cell in row])
                for k, row in enumerate(sheet.iter_rows(values_only=True, max_row=ROWS + 1, max_col=COLUMNS), 1)
            ]
            found.append(_bounded(Sheet(sheet.title, [(k, row) for k, row in rows if any(row)])))
        return found
    except ModelError:
        raise
    except (zipfile.BadZipFile, KeyError, ValueError, TypeError, OSError, AttributeError, SyntaxError) as error:
        raise ModelError(f"The file cannot be read as a spreadsheet ({type(error).__name__}).") from error


def _bounded(sheet: Sheet) -> Sheet:
    if sheet.rows and sheet.rows[-1][0] > ROWS:
        raise ModelError(f"Sheet {sheet.name} has more than {ROWS} rows.")
    return sheet


def _text(cell: object) -> str:
    """As a person reads it: a whole number without its point."""
    if cell is None:
        return ""
    if isinstance(cell, float) and cell.is_integer() and abs(cell) < 1e15:
        return str(int(cell))
    return str(cell).strip()


def columns_of(row: list[str]) -> list[Column]:
    """Headings with their units, which stand in brackets."""
    found = []
    for k, cell in enumerate(row, 1):
        match = re.fullmatch(r"(.*?)\s*[\[(]([^\])]*)[\])]\s*", cell.replace("\n", " "))
        heading, unit = (match[1], match[2]) if match else (cell, "")
        found.append(Column(cell.strip(), heading.strip(), unit.strip(), get_column_letter(k)))
    return found


def number_in(cell: str) -> float | None:
    """A cell as a finite number, with a point or a comma; None for none."""
    try:
        value = float(cell.replace(",", ".").replace("−", "-").replace(" ", ""))
    except ValueError:
        return None
    return value if isfinite(value) else None
