"""The office's own catalogue of sections: read from CSV, kept for everybody in it."""

from __future__ import annotations

import csv
import io

from django.db import transaction
from pydantic import ValidationError

from engine.document.byhand import BuiltSection
from engine.errors import ModelError
from engine.expand import built_of
from server.projects.models import OfficeSection

#: columns of the file; name and shape are needed, of the others those that the shape uses
COLUMNS = ("name", "shape", "h", "b", "tw", "tf", "b2", "tf2", "of", "gap", "panel", "by", "arrangement", "planes")
#: those that are words
WORDS = ("name", "shape", "of", "by", "arrangement")
MOST = 2000


def read_csv(text: str) -> list[BuiltSection]:
    """The sections of a CSV file with a heading row; sizes in mm, comma or semicolon between the cells.

    Raises ModelError naming the row and the reason; then nothing is taken in.
    """
    text = text.lstrip("\ufeff").replace("\r\n", "\n").replace("\r", "\n")
    first = text.split("\n", 1)[0]
    if not text.strip():
        raise ModelError("The file is empty.", "file")
    delimiter = ";" if first.count(";") > first.count(",") else ","
    reader = csv.DictReader(io.StringIO(text), delimiter=delimiter)
    try:
        return _sections(reader)
    except csv.Error as error:
        raise ModelError(
            f"The file is no table of comma-separated values: {error}, in line {reader.line_num + 1}.", "file"
        ) from None


def _sections(reader: csv.DictReader[str]) -> list[BuiltSection]:
    heading = [name.strip().lower() for name in reader.fieldnames or []]
    if missing := [name for name in ("name", "shape") if name not in heading]:
        raise ModelError(f"The heading row lacks “{missing[0]}”; the columns are {', '.join(COLUMNS)}.", "file")
    if unknown := [name for name in heading if name not in COLUMNS]:
        raise ModelError(f"The column “{unknown[0]}” is not known; the columns are {', '.join(COLUMNS)}.", "file")
    found: list[BuiltSection] = []
    seen: set[str] = set()
    for number, raw in enumerate(reader, 2):
        row = {
            (key or "").strip().lower(): (value or "").strip() for key, value in raw.items() if isinstance(value, str)
        }
        if not any(row.values()):
            continue
        values = {key: value.replace(",", ".") if key not in WORDS else value for key, value in row.items() if value}
        try:
            section = BuiltSection.model_validate(values)
            built_of(section, f"row {number}")
        except ValidationError as error:
            problem = error.errors()[0]
            place = ".".join(str(part) for part in problem["loc"])
            raise ModelError(f"Row {number}: {place}: {problem['msg'].lower()}.", "file") from None
        except ModelError as error:
            raise ModelError(f"Row {number}: {error.message}", "file") from None
        if section.name in seen:
            raise ModelError(f"Row {number}: there are two sections named “{section.name}”.", "file")
        seen.add(section.name)
        found.append(section)
        if len(found) > MOST:
            raise ModelError(f"The file has more than {MOST} sections.", "file")
    if not found:
        raise ModelError("The file has a heading and no sections.", "file")
    return found


@transaction.atomic
def take_in(sections: list[BuiltSection]) -> None:
    """Keep sections in the office's catalogue; those of the same name are replaced."""
    for section in sections:
        OfficeSection.objects.update_or_create(
            name=section.name, defaults={"definition": section.model_dump(mode="json")}
        )


def catalogue() -> list[BuiltSection]:
    """The sections of the office's own catalogue."""
    return [BuiltSection.model_validate(row.definition) for row in OfficeSection.objects.all()]


def drop(name: str) -> None:
    """Take a section out of the office's catalogue; projects that use it keep their copy."""
    OfficeSection.objects.filter(name=name).delete()
