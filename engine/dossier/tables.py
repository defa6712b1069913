"""Tables that somebody put into a chapter of the dossier besides: made anew of what stands, with the rows that are wanted."""

from __future__ import annotations

import operator
import re
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from engine.analysis.diagrams import FORCES
from engine.chain import Chain
from engine.document.handover import PlacedTable, TableKind
from engine.dossier.actions import cases_table, combining
from engine.dossier.behaviour import critical_factors, reaction_tables
from engine.dossier.building import quantities
from engine.dossier.end_forces import SYMBOLS
from engine.dossier.values import Block, Cell, Column, Link, Paragraph, Table, Told
from engine.dossier.verified import groups_table, members_table
from engine.report import verdicts
from engine.structure.model import FREEDOMS
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import SERVICE

_COMPARE = {">": operator.gt, "<": operator.lt, ">=": operator.ge, "<=": operator.le}
_CONDITION = re.compile(r"(.*?)\s*(>=|<=|>|<|:)\s*(.*)")


def placed_table(chain: Chain, placed: PlacedTable) -> list[Block]:
    """A table with its own words above it, or in words that it has no such row."""
    table = _TABLES[placed.table](chain)
    rows = [row for row in table.rows if fits(placed.words, table, row)] if table else []
    if table is None or not rows:
        why = f": nothing in it holds “{placed.words}”" if table and placed.words else ""
        return [Paragraph(f"The table “{placed.name}” has no rows{why}.", "missing")]
    words = f"{placed.name}: {len(rows)} of {len(table.rows)} rows." if len(rows) < len(table.rows) else placed.name
    return [Paragraph(words), replace(table, name=placed.name, rows=tuple(rows), marked=-1)]


def fits(words: str, table: Table, row: tuple[Cell, ...]) -> bool:
    """Whether a row holds all words, and what is asked of single columns: “section: ipe”, “utilisation > 0.9”."""
    cells = [_text(cell, column.digits) for cell, column in zip(row, table.columns, strict=True)]
    heads = [f"{c.words} {c.unit}".strip().lower().replace("_", "") for c in table.columns]
    return all(_holds(part, heads, cells, row) for part in _parts(words))


def _parts(words: str) -> list[str]:
    """Conditions apart: those on columns between commas, words one by one."""
    found: list[str] = []
    for part in re.split(r"[,;]\s+|[,;]$", words):
        found += [part] if re.search(r"[:<>]", part) else part.split()
    return [part.strip().lower() for part in found if part.strip()]


def _holds(part: str, heads: list[str], cells: list[str], row: tuple[Cell, ...]) -> bool:
    match = _CONDITION.fullmatch(part)
    column = next((k for k, head in enumerate(heads) if match and match[1] and head.startswith(match[1])), -1)
    if match is None or column < 0:
        return part in " ".join(cells)
    if match[2] == ":":
        return match[3] in cells[column]
    try:
        limit = float(match[3].replace("−", "-"))
    except ValueError:
        return False
    value = row[column]
    return isinstance(value, float) and bool(_COMPARE[match[2]](value, limit))


def _text(cell: Cell, digits: int) -> str:
    if cell is None:
        return ""
    return f"{cell:.{digits}f}" if isinstance(cell, float) else (cell.words if isinstance(cell, Link) else cell).lower()


def _steelwork(chain: Chain) -> Table:
    structure = chain.structure
    rows = tuple(
        (
            label(m), ROLE_WORDS[m.role][0], m.section.name, m.material.name, structure.length(m), float(np.degrees(m.roll)), m.behaviour, m.group,
            structure.mass(m),
        )
        for m in structure.members
    )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("member", wide=True), Column("role"), Column("section"), Column("grade"), Column("length", "m", 3), Column("turned", "°", 1),
        Column("behaviour"), Column("group"), Column("mass", "kg", 0),
    )  # fmt: skip
    return Table("steelwork", columns, rows)


def _nodes(chain: Chain) -> Table:
    structure = chain.structure
    rows = tuple((name, *at) for name, at in zip(structure.nodes, structure.xyz.tolist(), strict=True))
    return Table("nodes", (Column("node", wide=True), *(Column(axis, "m", 3) for axis in "XYZ")), rows)


def _supports(chain: Chain) -> Table:
    structure = chain.structure
    rows: list[tuple[Cell, ...]] = []
    for node in np.flatnonzero((structure.fixed | (structure.springs != 0)).any(axis=1)).tolist():
        held = ", ".join(f for f, fixed in zip(FREEDOMS, structure.fixed[node], strict=True) if fixed)
        springs = ", ".join(
            f"{f} {k / 1000:g} {'kNm/rad' if f[0] == 'r' else 'kN/m'}"
            for f, k in zip(FREEDOMS, structure.springs[node].tolist(), strict=True)
            if k
        )
        rows.append((structure.nodes[node], *structure.xyz[node].tolist(), held, springs))
    columns: tuple[Column, ...] = (
        Column("support"),
        *(Column(a, "m", 3) for a in "XYZ"),
        Column("held"),
        Column("springs", wide=True),
    )
    return Table("supports", columns, tuple(rows))


def _deflections(chain: Chain) -> Table:
    verification = chain.verification
    rows: list[tuple[Cell, ...]] = []
    for m in verdicts.members(chain):
        for check in m.checks:
            if check.criterion in SERVICE:
                stretch = verification.stretches[check.outcome.row]
                limit = stretch.length / stretch.ratio * 1000
                rows.append(
                    (m.label, check.words, check.utilisation * limit, limit, check.utilisation, check.combination.name)
                )
    rows.sort(key=lambda row: -float(str(row[4])))
    columns: tuple[Column, ...] = (
        Column("member", wide=True), Column("what"), Column("w", "mm", 1), Column("limit", "mm", 1), Column("utilisation", "", 3), Column("combination"),
    )  # fmt: skip
    return Table("deflections of members", columns, tuple(rows))


def _forces(chain: Chain) -> Table | None:
    """The greatest and the least of each force along each member, over the combinations for strength."""
    if not chain.verification.strength:
        return None
    elements = chain.response.elements
    found = [getattr(chain.verification.forces, name) / 1000 for name in FORCES]
    rows: list[tuple[Cell, ...]] = []
    for i, m in enumerate(chain.structure.members):
        own = elements.rows(i)
        rows.append((label(m), *(float(v) for f in found for v in (f[own].max(), f[own].min()))))
    columns = [Column("member", wide=True)]
    for symbol, name in zip(SYMBOLS, FORCES, strict=True):
        unit = "kNm" if name[0] in "TM" else "kN"
        columns += [Column(f"{symbol} most", unit, 1), Column("least", unit, 1)]
    return Table("forces of members", tuple(columns), tuple(rows))


def _within(teller: Callable[[Chain, Told], None], name: str) -> Callable[[Chain], Table | None]:
    """A table of a chapter as that is told in full."""

    def found(chain: Chain) -> Table | None:
        told = Told("open", "", "full")
        teller(chain, told)
        return next((b for b in told.blocks if isinstance(b, Table) and b.name == name), None)

    return found


def _first(blocks: list[Block]) -> Table | None:
    return next((b for b in blocks if isinstance(b, Table)), None)


_TABLES: dict[TableKind, Callable[[Chain], Table | None]] = {
    "groups": lambda chain: groups_table(verdicts.groups(chain), False),
    "steelwork": _steelwork,
    "nodes": _nodes,
    "supports": _supports,
    "sections": _within(quantities, "material by section"),
    "members": members_table,
    "deflections": _deflections,
    "reactions": lambda chain: _first([*reaction_tables(chain, False)]),
    "cases": cases_table,
    "combinations": _within(combining, "combinations"),
    "forces": _forces,
    "states": lambda chain: _first([*critical_factors(chain, Told("analysis", "", "full"))]),
}
