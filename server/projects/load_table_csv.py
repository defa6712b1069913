"""Tables of what purlins and rails bear as CSV: a row a span, out and in."""

from __future__ import annotations

import csv
import io
from collections import defaultdict
from collections.abc import Sequence
from typing import Any

from pydantic import ValidationError

from engine.document.secondary import LoadTable
from engine.errors import ModelError
from server.projects.csv_rows import number_of, rows_of

COLUMNS = ("profile", "span", "spans", "down", "up", "service", "stiffness", "moment", "source", "held")
NEEDED = ("profile", "span", "down", "up")
NUMBERS = ("span", "spans", "down", "up", "service")
#: what is said of a profile in its first row
OF_PROFILE = ("stiffness", "moment")


def written(tables: Sequence[LoadTable]) -> str:
    """Tables as CSV: span in m, loads in kN/m, E I in kNm² and the moment at a stay in kNm."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\r\n")
    rows.writerow(COLUMNS)
    for table in tables:
        for row in table.rows:
            values = (f"{getattr(row, name):g}" for name in NUMBERS)
            whole = (f"{getattr(table, name):g}" for name in OF_PROFILE)
            rows.writerow([table.name, *values, *whole, table.source, table.held])
    return out.getvalue()


def read(text: str) -> list[LoadTable]:
    """The tables of a CSV file, a profile each. Raises ModelError naming the row and what is wrong in it."""
    rows: dict[str, list[dict[str, Any]]] = defaultdict(list)
    words: dict[str, dict[str, Any]] = {}
    for number, cells in rows_of(text, COLUMNS, NEEDED):
        name = cells.get("profile", "")
        if not name:
            continue
        found = {key: number_of(cells[key], number, key) for key in NUMBERS if cells.get(key)}
        whole = {key: number_of(cells[key], number, key) for key in OF_PROFILE if cells.get(key)}
        try:
            LoadTable.model_validate({"name": name, "rows": [found], **whole})
        except ValidationError as error:
            first = error.errors()[0]
            where = str(first["loc"][-1]) if first["loc"] else "profile"
            raise ModelError(f"Row {number}: {where}: {first['msg']}.", "file") from None
        rows[name].append(found)
        words.setdefault(name, whole | {key: cells.get(key, "")[:200] for key in ("source", "held")})
    if not rows:
        raise ModelError("The file has no row with a profile.", "file")
    try:
        return [LoadTable.model_validate({"name": name, "rows": found, **words[name]}) for name, found in rows.items()]
    except ValidationError as error:
        raise ModelError(f"The file: {error.errors()[0]['msg']}.", "file") from None
