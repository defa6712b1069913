"""Tables taken in: each sheet is a kind of part, each column a field of it; both are guessed by their headings, and can be settled."""

from __future__ import annotations

from dataclasses import dataclass

from engine.document import FORMAT_VERSION
from engine.errors import ModelError
from publish.tables.cells import HEAD, Column, Sheet, columns_of, number_in, sheets_of
from publish.tables.fields import KINDS, UNITS, Field, field_of, unit_in
from publish.tables.rows import MOST, Cells, Made
from publish.taken import FileChoice, FileOption, Settled, Taken, chosen, counted, some

LEAVE_OUT = ""
#: without a unit, lengths larger than this are in millimetres
LARGE = 300.0


@dataclass
class _Table:
    """A sheet as what it is taken for: its columns by the keys of their fields, and those that are none."""

    sheet: Sheet
    kind: str
    rows: list[tuple[int, list[str]]]
    fields: dict[str, int]
    columns: list[Column]
    others: list[int]

    @property
    def lacks(self) -> list[str]:
        """Fields that it should have and no column is."""
        return [spec.words for spec in KINDS[self.kind].needed if spec.key not in self.fields]


def taken(data: bytes, settled: Settled, name: str = "Table") -> Taken:
    """The document that a spreadsheet or a table becomes. Raises ModelError with one sentence for a file that is none, or is empty."""
    found = Taken(document={})
    sheets = [sheet for sheet in sheets_of(data, name) if sheet.rows]
    if not sheets:
        raise ModelError("The file holds no table: every sheet is empty.")
    tables = [table for sheet in sheets if (table := _table(sheet, settled, found))]
    length = _length(tables, settled, found)
    made = Made(lambda words: _wrong(found, words), unsure={table.kind for table in tables if table.lacks})
    for kind in KINDS:
        for table in tables:
            if table.kind == kind and not table.lacks:
                _rows(table, made, length)
                _unknown_cases(table, made, found)
    if not any(table.kind == "members" for table in tables):
        found.problems.insert(0, "No sheet holds members: say which one does.")
    elif not made.parts["members"] and not found.problems:
        found.problems.append("The sheet of members has no row.")
    found.document = {"version": FORMAT_VERSION, "name": name[:80] or "Table"} | {
        kind: parts for kind, parts in made.parts.items() if parts
    }
    if any(case["nature"] == "imperfection" for case in made.parts["cases"]):
        found.guessed.append("The tables bear sway imperfections as cases: none are added to them.")
        found.document["rules"] = {"imperfections": False}
    counts = [counted(len(parts), *KINDS[kind].called) for kind, parts in made.parts.items() if parts]
    if counts:
        found.understood.append(f"{', '.join(counts)}.")
    found.guessed += [f"{words} ({count})." for words, count in made.guessed.items()]
    if not made.parts["supports"]:
        found.left_out.append("Supports: no sheet holds them. They are put in the Frame stage.")
    found.left_out.append(
        "What holds the flanges of members sideways, and haunches: tables do not bear them. Until restraints are put, members "
        "count as held at their ends alone."
    )
    return found


def _length(tables: list[_Table], settled: Settled, found: Taken) -> str:
    """The unit of lengths whose headings have none, by how large they are; offered to be settled where there are any."""
    values = [
        abs(number_in(row[k]) or 0.0)
        for table in tables
        for spec in KINDS[table.kind].fields
        if spec.quantity == "length" and (k := table.fields.get(spec.key)) is not None and not table.columns[k].unit
        for _, row in table.rows
        if k < len(row)
    ]
    if not values:
        return "m"
    guess = "mm" if max(values) > LARGE else "m"
    units = {unit: unit for unit in UNITS["length"]}
    unit, _ = chosen(settled, "", "length", guess, units, "the unit of lengths")
    offered = tuple(FileOption(own, own) for own in units)
    found.choices.insert(0, FileChoice("", "length", "Lengths without a unit", unit, offered))
    if ("", "length") not in settled:
        found.guessed.append(
            f"Lengths whose headings have no unit are up to {max(values):g}, and taken to be in {unit}."
        )
    return unit


def _unknown_cases(table: _Table, made: Made, found: Taken) -> None:
    """Columns of combinations that are no case."""
    if table.kind == "combinations":
        cases = made.names.get("cases", set())
        unknown = [name for k in table.others if (name := table.columns[k].whole) not in cases]
        if unknown:
            found.left_out.append(f"Of {table.sheet.name}: {some(unknown)}, which are no cases.")


def _wrong(found: Taken, words: str) -> None:
    if len(found.problems) < MOST:
        found.problems.append(words)
    elif len(found.problems) == MOST:
        found.problems.append(f"More is wrong than these {MOST}.")


def _table(sheet: Sheet, settled: Settled, found: Taken) -> _Table | None:
    """What a sheet is taken for, with its choices; None where it is left out."""
    guess, at = max(
        ((kind, k) for kind in KINDS for k in range(min(HEAD, len(sheet.rows)))),
        key=lambda pair: (_fits(sheet, *pair), -pair[1]),
    )
    if _fits(sheet, guess, at) <= 0:
        guess, at = LEAVE_OUT, 0
    options = {LEAVE_OUT: "Leave out"} | {kind: spec.words for kind, spec in KINDS.items()}
    kind, _ = chosen(settled, sheet.name, "", guess, options, "a sheet")
    offered = tuple(FileOption(key, words) for key, words in options.items())
    found.choices.append(
        FileChoice(
            sheet.name,
            "",
            "Holds",
            kind,
            offered,
            aside=f"{counted(len(sheet.rows) - at - 1, 'row')} below its headings",
        )
    )
    if kind == LEAVE_OUT:
        found.left_out.append(f"Sheet {sheet.name}.")
        return None
    if kind != guess:
        at = max(range(min(HEAD, len(sheet.rows))), key=lambda k: (_fits(sheet, kind, k), -k))
    table = _Table(sheet, kind, sheet.rows[at + 1 :], {}, columns_of(sheet.rows[at][1]), [])
    for k in range(len(table.columns)):
        _column(table, k, settled, found)
    if table.others and kind != "combinations":
        found.left_out.append(f"Of {sheet.name}: {some([table.columns[k].whole for k in table.others])}.")
    found.problems += [f"{sheet.name}: no column is {words}." for words in table.lacks]
    return table


def _fits(sheet: Sheet, kind: str, at: int) -> float:
    """How well a row's headings are those of a kind; 0 and less: not at all."""
    spec = KINDS[kind]
    fields = {f.key for c in columns_of(sheet.rows[at][1]) if c.heading and (f := field_of(spec, c.heading))}
    lacking = sum(f.key not in fields for f in spec.needed)
    called = max((4 + 0.1 * len(word) for word in spec.names if word in sheet.name.lower()), default=0.0)
    return len(fields) - 2.0 * lacking + called if fields else 0.0


def _column(table: _Table, k: int, settled: Settled, found: Taken) -> None:
    """Take a column for a field, as it is settled or as its heading says."""
    column, spec = table.columns[k], KINDS[table.kind]
    if not column.heading:
        return
    own = field_of(spec, column.heading)
    guess = own.key if own and own.key not in table.fields else LEAVE_OUT
    options = {LEAVE_OUT: "a case" if table.kind == "combinations" else "Leave out"} | {
        f.key: f.words for f in spec.fields
    }
    key, _ = chosen(settled, table.sheet.name, column.letters, guess, options, "a column")
    examples = [row[k] for _, row in table.rows[:3] if k < len(row) and row[k]]
    unit = f" [{column.unit}]" if column.unit else ""
    offered = tuple(FileOption(name, words) for name, words in options.items())
    found.choices.append(
        FileChoice(
            table.sheet.name, column.letters, f"{column.heading}{unit}", key, offered, aside=", ".join(examples)[:60]
        )
    )
    if key == LEAVE_OUT:
        table.others.append(k)
    elif key in table.fields:
        first = table.columns[table.fields[key]].heading
        found.problems.append(f"{table.sheet.name}: both {first} and {column.heading} are {options[key]}.")
    else:
        table.fields[key] = k
        _known_unit(table, next(f for f in spec.fields if f.key == key), column, found)


def _known_unit(table: _Table, spec: Field, column: Column, found: Taken) -> None:
    if spec.quantity and unit_in(column.unit, spec.quantity) is None:
        known = ", ".join(UNITS[spec.quantity])
        found.problems.append(
            f"{table.sheet.name}, column {column.letters}: {spec.words} in {column.unit} is not read; {known} are."
        )


def _rows(table: _Table, made: Made, length: str) -> None:
    columns = {key: table.columns[k] for key, k in table.fields.items()}
    for number, row in table.rows:
        values = {key: row[k] for key, k in table.fields.items() if k < len(row)}
        factors = {table.columns[k].whole: (row[k], table.columns[k]) for k in table.others if k < len(row)}
        made.row(table.kind, Cells(table.sheet.name, number, values, columns, factors, made.wrong, length))
