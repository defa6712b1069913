"""A model as a spreadsheet, with the headings by which it is taken in again: what is analysed, with every load of every case."""

from __future__ import annotations

import io
from collections.abc import Iterator
from math import degrees
from typing import Any

import numpy as np
from openpyxl import Workbook
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from engine.chain import Forces, Loaded
from engine.structure.model import FREEDOMS, Structure
from publish.tables.fields import KINDS
from publish.words import section_called

Row = list[Any]


def model_workbook(found: Loaded | Forces) -> bytes:
    """Nodes, members, supports, cases, loads and combinations, in metres and kilonewtons; what has no table is told on its first sheet."""
    book = Workbook()
    assert book.active is not None
    book.remove(book.active)
    structure = found.structure
    sheets: dict[str, tuple[Row, Iterator[Row]]] = {
        "nodes": (
            ["Name", "X [m]", "Y [m]", "Z [m]"],
            ([n, *np.round(at, 9).tolist()] for n, at in zip(structure.nodes, structure.xyz, strict=True)),
        ),
        "members": (
            ["Name", "Node at its start", "Node at its end", "Section", "Grade", "Role", "Joined", "Turned by [°]", "Group",
             "Released at its start", "Released at its end"],
            _members(structure),
        ),
        "sections": (
            ["Name", "A [m2]", "I_y [m4]", "I_z [m4]", "I_t [m4]", "I_w [m6]"],
            ([s.name, s.A, s.Iy, s.Iz, s.It, s.Iw] for s in _own_sections(structure)),
        ),
        "supports": (["Node", "Holds"], _supports(structure)),
        "cases": (["Name", "Nature"], ([c.symbol, c.nature] for c in found.loading.cases)),
        "member_loads": (
            ["Case", "Member", "Line, force or moment", *_along("kN/m"), "From [m]", "To [m]"],
            _member_loads(found),
        ),
        "node_loads": (
            ["Case", "Node", *(f"{word} {axis} [{unit}]" for word, unit in (("Force along", "kN"), ("Moment about", "kNm")) for axis in "XYZ")],
            _node_loads(found),
        ),
        "combinations": (["Name", "For", *(c.symbol for c in found.loading.cases)], _combinations(found)),
    }  # fmt: skip
    _fill(book, "About", ["Model of Lorica"], _about(structure))
    for kind, (headings, rows) in sheets.items():
        if found_rows := list(rows):
            _fill(book, KINDS[kind].words, headings, found_rows)
    file = io.BytesIO()
    book.save(file)
    return file.getvalue()


def _along(unit: str) -> list[str]:
    return [f"Along {axis}{where} [{unit}]" for where in ("", " at its end") for axis in "XYZ"]


def _fill(book: Workbook, name: str, headings: Row, rows: list[Row]) -> None:
    sheet = book.create_sheet(name)
    for k, row in enumerate((headings, *rows), 1):
        for j, value in enumerate(row, 1):
            box = sheet.cell(k, j, value)
            if isinstance(value, str):
                # a text that begins like a formula is a text
                box.data_type = "s"
    for box in sheet[1]:
        box.font = Font(bold=True)
    sheet.freeze_panes = "A2"
    for j, heading in enumerate(headings, 1):
        sheet.column_dimensions[get_column_letter(j)].width = max(12, min(len(heading) + 3, 40))


def _own_sections(structure: Structure) -> list[Any]:
    """Those that the catalogue does not know: by their properties."""
    return list(
        {m.section.name: m.section for m in structure.members if section_called(m.section.name) is None}.values()
    )


def _about(structure: Structure) -> list[Row]:
    """What the tables do not bear, and how often the model has it."""
    springs = int((structure.springs > 0).any(axis=1).sum())
    at_ends = sum(bool(m.springs_start or m.springs_end) for m in structure.members)
    pieces = sum(bool(m.pieces) for m in structure.members)
    counted = {
        "nodes that rest on springs": springs,
        "members with springs at their ends": at_ends,
        "members with haunches or tapers: their own section stands here": pieces,
    }
    lines = [[f"Not in these tables: {count} {words}."] for words, count in counted.items() if count]
    return [
        *lines,
        ["Not in these tables: what holds flanges sideways, panels, temperature, settlements, offsets, checks."],
    ]


def _members(structure: Structure) -> Iterator[Row]:
    for m in structure.members:
        ends = structure.nodes[m.nodes[0]], structure.nodes[m.nodes[-1]]
        released = (" ".join(f for f in FREEDOMS if f in free) for free in (m.release_start, m.release_end))
        made = m.section.name, m.material.name, m.role, m.behaviour, round(degrees(m.roll), 6), m.group
        yield [m.name, *ends, *made, *released]


def _supports(structure: Structure) -> Iterator[Row]:
    for node, held in zip(structure.nodes, structure.fixed, strict=True):
        if held.any():
            yield [node, " ".join(k for k, own in zip(FREEDOMS, held, strict=True) if own)]


def _member_loads(found: Loaded | Forces) -> Iterator[Row]:
    loading, structure = found.loading, found.structure
    table = loading.table(structure)
    for k in range(len(table.case)):
        first, last = (np.round(v / 1000.0, 9).tolist() for v in (table.first[k], table.last[k]))
        case, member = loading.cases[int(table.case[k])].symbol, structure.members[int(table.member[k])].name
        yield [case, member, "line", *first, *last, round(float(table.start[k]), 9), round(float(table.end[k]), 9)]
    for point in loading.points:
        if point.node < 0:
            for kind, vector in (("force", point.force), ("moment", point.moment)):
                if np.any(vector):
                    value = (vector / 1000.0).tolist()
                    yield [
                        loading.cases[point.case].symbol,
                        point.member,
                        kind,
                        *value,
                        None,
                        None,
                        None,
                        point.at,
                        None,
                    ]


def _node_loads(found: Loaded | Forces) -> Iterator[Row]:
    for point in found.loading.points:
        if point.node >= 0:
            values = [*(point.force / 1000.0).tolist(), *(point.moment / 1000.0).tolist()]
            yield [found.loading.cases[point.case].symbol, found.structure.nodes[point.node], *values]


def _combinations(found: Loaded | Forces) -> Iterator[Row]:
    for c in found.combinations:
        yield [c.name, c.use, *(float(f) or None for f in c.factors)]
