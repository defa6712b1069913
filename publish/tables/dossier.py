"""The tables of a dossier as a spreadsheet: a sheet a table, numbers as numbers."""

from __future__ import annotations

import csv
import io
import re
import zipfile
from dataclasses import replace

from openpyxl import Workbook, load_workbook
from openpyxl.cell import Cell as Box
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from engine.dossier.values import Cell, Column, Dossier, Link, Table
from publish.tables.separated import FORMULA

#: characters that the name of a sheet cannot bear
_NOT_NAMES = re.compile(r"[\[\]:*?/\\']")


def workbook(dossier: Dossier) -> bytes:
    """All tables of a dossier; tables of one name with the same columns on one sheet."""
    book = Workbook()
    first = book.active
    assert first is not None
    first.title = "Dossier"
    lines = [
        [dossier.title],
        [dossier.place],
        [dossier.revision, dossier.made],
        [dossier.verdict],
        [],
        ["Sheet", "Section"],
    ]
    taken: set[str] = {"dossier"}
    together: dict[tuple[str, tuple[Column, ...]], list[tuple[str, Table]]] = {}
    for section, table in dossier.tables:
        together.setdefault((table.name, table.columns), []).append((section, table))
    for (wanted, _), own in together.items():
        name = _name(wanted, taken)
        lines.append([name, own[0][0] if len(own) == 1 else f"{own[0][0]} and {len(own) - 1} more"])
        _fill(book, name, replace(own[0][1], rows=tuple(row for _, table in own for row in table.rows)))
    for k, line in enumerate(lines, 1):
        for j, words in enumerate(line, 1):
            _put(first.cell(k, j), words)
        if k > 6:
            first.cell(k, 1).hyperlink = f"#'{line[0]}'!A1"
    first["A1"].font = Font(bold=True, size=14)
    first.column_dimensions["A"].width = 34
    first.column_dimensions["B"].width = 60
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()


def separate(book: bytes) -> bytes:
    """The tables of such a workbook as files of separated values, numbers to the digits that they are shown with, in one ZIP."""
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        for sheet in load_workbook(io.BytesIO(book)).worksheets[1:]:
            text = io.StringIO()
            out = csv.writer(text, lineterminator="\r\n")
            for row in sheet.iter_rows():
                out.writerow([_separated(box.value, box.number_format) for box in row])
            archive.writestr(f"{sheet.title}.csv", text.getvalue().encode())
    return file.getvalue()


def _separated(value: object, digits: str) -> str:
    if isinstance(value, int | float):
        words = f"{value:.{len(digits.partition('.')[2])}f}" if digits != "General" else f"{value:g}"
        return words if float(words) else words.lstrip("-")
    words = "" if value is None else str(value)
    return f"'{words}" if words.startswith(FORMULA) else words


def _name(wanted: str, taken: set[str]) -> str:
    """A name for a sheet: at most 31 characters, none twice."""
    base = _NOT_NAMES.sub("-", wanted)[:31] or "table"
    name, number = base, 2
    while name.lower() in taken:
        end = f" {number}"
        name, number = base[: 31 - len(end)] + end, number + 1
    taken.add(name.lower())
    return name


def _fill(book: Workbook, name: str, table: Table) -> None:
    sheet = book.create_sheet(name)
    sheet.append([f"{c.words} [{c.unit}]" if c.unit else c.words for c in table.columns])
    for k, row in enumerate(table.rows, 2):
        for j, (cell, column) in enumerate(zip(row, table.columns, strict=True), 1):
            box = sheet.cell(k, j)
            _put(box, cell)
            if isinstance(cell, float):
                box.number_format = f"0.{'0' * column.digits}" if column.digits else "0"
    for box in sheet[1]:
        box.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for j, column in enumerate(table.columns, 1):
        longest = max((len(str(row[j - 1])) for row in table.rows if isinstance(row[j - 1], str)), default=0)
        sheet.column_dimensions[get_column_letter(j)].width = min(
            60, max(longest, len(column.words) + len(column.unit) + 4, 9)
        )


def _put(box: Box | object, cell: Cell) -> None:
    assert isinstance(box, Box)
    box.value = cell.words if isinstance(cell, Link) else cell
    if isinstance(box.value, str):
        # a text that begins like a formula is a text
        box.data_type = "s"
