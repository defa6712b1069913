"""Tables that somebody put into a chapter of the dossier besides: made anew of what stands, with the rows that are wanted."""

from __future__ import annotations

import operator
import re
from collections.abc import Callable
from dataclasses import replace

from engine.chain import Chain
from engine.document.handover import PlacedTable, TableKind
from engine.dossier import ledgers
from engine.dossier.actions import cases_table, combining
from engine.dossier.behaviour import critical_factors, pad_table, reaction_tables
from engine.dossier.building import quantities
from engine.dossier.slabs import slab_table
from engine.dossier.values import Block, Cell, Link, Paragraph, Table, Told
from engine.dossier.verified import groups_table, members_table
from engine.report import verdicts

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
    "steelwork": ledgers.steelwork,
    "nodes": ledgers.nodes,
    "supports": ledgers.supports,
    "sections": _within(quantities, "material by section"),
    "members": members_table,
    "design members": ledgers.designed,
    "deflections": ledgers.deflections,
    "reactions": lambda chain: _first([*reaction_tables(chain, False)]),
    "footings": lambda chain: pad_table(chain) if chain.verification.pads else None,
    "cases": cases_table,
    "combinations": _within(combining, "combinations"),
    "forces": ledgers.forces,
    "group forces": ledgers.group_forces,
    "sways": ledgers.sways,
    "decks": ledgers.decks,
    "slabs": lambda chain: slab_table(chain) if chain.structure.slabs else None,
    "loads": ledgers.loads,
    "states": lambda chain: _first([*critical_factors(chain, Told("analysis", "", "full"))]),
}
