"""Sets of national values as CSV: out with what is recommended beside, and in, row by row."""

from __future__ import annotations

import csv
import io
from typing import Any

from engine.document import Document, read_document
from engine.document.national_values import NationalValue
from engine.errors import ModelError
from engine.standards.family import national_values
from server.projects.changes import Change, changed
from server.projects.csv_rows import number_of, rows_of

COLUMNS = ("path", "symbol", "words", "clause", "recommended", "value")
#: the row that says where the values come from
SOURCE = "national.source"


def written(content: dict[str, Any]) -> str:
    """A set of national values, by path, as CSV with every value that nations may choose."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(COLUMNS)
    for v in national_values():
        value = content.get(v.path, v.recommended)
        rows.writerow([v.path, v.symbol, v.words, v.clause, _cell(v.recommended), _cell(value)])
    rows.writerow([SOURCE, "", "where they come from", "", "", content.get(SOURCE, "")])
    return out.getvalue()


def read(text: str) -> dict[str, Any]:
    """The values of a CSV file that differ from what is recommended, by path; the columns path and value are needed. Raises ModelError
    naming the row."""
    known = {v.path: v for v in national_values()}
    found: dict[str, Any] = {}
    for number, row in rows_of(text, COLUMNS, ("path", "value")):
        path, cell = row.get("path", ""), row.get("value", "")
        if not path:
            continue
        if path == SOURCE:
            found[SOURCE] = cell
        elif path not in known:
            raise ModelError(f"Row {number}: “{path}” is no value that a nation may choose.", "file")
        else:
            found[path] = _value(known[path], cell, number)
    differing = {path: value for path, value in found.items() if path == SOURCE or value != known[path].recommended}
    _check(differing)
    return differing


def _cell(value: Any) -> str:
    return "" if value is None else str(value).lower() if isinstance(value, bool) else str(value)


def _value(v: NationalValue, cell: str, number: int) -> Any:
    if not cell:
        return None if v.recommended is None else v.recommended
    if isinstance(v.recommended, bool):
        if cell.lower() not in ("true", "false", "yes", "no"):
            raise ModelError(f"Row {number}: {v.path} is true or false, not “{cell}”.", "file")
        return cell.lower() in ("true", "yes")
    if v.choices:
        if cell not in v.choices:
            raise ModelError(f"Row {number}: {v.path} is one of {', '.join(v.choices)}, not “{cell}”.", "file")
        return cell
    return number_of(cell, number, v.path)


def _check(values: dict[str, Any]) -> None:
    """Raises ModelError for values that no document takes."""
    data = Document(name="National values").model_dump(mode="json")
    read_document(changed(data, [Change(path, value) for path, value in values.items()]))
