"""Tables of members, nodes, supports and how they answer, as the workbench lists them."""

from __future__ import annotations

import numpy as np

from engine.analysis.diagrams import FORCES
from engine.chain import Chain
from engine.document.units import in_kilonewtons
from engine.dossier.end_forces import SYMBOLS
from engine.dossier.values import Cell, Column, Table
from engine.report import verdicts
from engine.report.extremes import column_sways, deck_forces, member_extremes
from engine.structure.lines import design_members
from engine.structure.model import FREEDOMS
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import SERVICE


def steelwork(chain: Chain) -> Table:
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


def nodes(chain: Chain) -> Table:
    structure = chain.structure
    rows = tuple((name, *at) for name, at in zip(structure.nodes, structure.xyz.tolist(), strict=True))
    return Table("nodes", (Column("node", wide=True), *(Column(axis, "m", 3) for axis in "XYZ")), rows)


def supports(chain: Chain) -> Table:
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


def designed(chain: Chain) -> Table:
    """Members that are one piece of steel, each with the piece that uses most of what it bears; one that is not covered counts before all others."""
    lines = design_members(chain.structure)
    pieces = {i for line in lines for i in line}
    alone = [(i,) for i in range(len(chain.structure.members)) if i not in pieces]
    reported = verdicts.members(chain)

    def worst_first(m: verdicts.MemberReport) -> float:
        return -(np.inf if m.status == "not covered" else m.governing.utilisation if m.governing else 0.0)

    rows: list[tuple[Cell, ...]] = []
    for own in sorted(
        ([reported[i] for i in line] for line in [*lines, *alone]), key=lambda own: min(map(worst_first, own))
    ):
        worst = min(own, key=worst_first)
        check = worst.governing
        name = own[0].label if len(own) == 1 else f"{own[0].label} … {own[-1].label}"
        rows.append(
            (
                name, own[0].member.section.name, float(len(own)), sum(m.length for m in own), sum(m.mass for m in own),
                worst.label if len(own) > 1 else "", check.words if check else "", check.combination.name if check else "",
                check.utilisation if check else None, worst.status,
            )
        )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("design member", wide=True), Column("section"), Column("pieces", "", 0), Column("length", "m", 3), Column("mass", "kg", 0),
        Column("worst piece", wide=True), Column("governs"), Column("combination"), Column("utilisation", "", 3), Column("verdict"),
    )  # fmt: skip
    return Table("design members", columns, tuple(rows))


def deflections(chain: Chain) -> Table:
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


def forces(chain: Chain) -> Table | None:
    """The greatest and the least of each force along each member, over the combinations for strength; None without any."""
    return _extremes(
        chain, "forces of members", "member", {label(m): [i] for i, m in enumerate(chain.structure.members)}
    )


def group_forces(chain: Chain) -> Table | None:
    """The same over all members of a group, or of a role, and a section."""
    found: dict[str, list[int]] = {}
    for i, m in enumerate(chain.structure.members):
        found.setdefault(f"{m.group or ROLE_WORDS[m.role][1]} {m.section.name}", []).append(i)
    groups = {f"{len(own)} × {words}": own for words, own in found.items()}
    return _extremes(chain, "forces of groups", "group", groups)


def _extremes(chain: Chain, name: str, what: str, of: dict[str, list[int]]) -> Table | None:
    found = member_extremes(chain)
    if not found:
        return None
    rows: list[tuple[Cell, ...]] = []
    for words, members in of.items():
        pairs = [found[i] for i in members]
        ends = [(max(p[k][0].value for p in pairs), min(p[k][1].value for p in pairs)) for k in range(len(FORCES))]
        rows.append((words, *(value / 1000 for pair in ends for value in pair)))
    columns = [Column(what, wide=True)]
    for symbol, force in zip(SYMBOLS, FORCES, strict=True):
        unit = "kNm" if force[0] in "TM" else "kN"
        columns += [Column(f"{symbol} most", unit, 1), Column("least", unit, 1)]
    return Table(name, tuple(columns), tuple(rows))


def sways(chain: Chain) -> Table:
    """How far the head of every storey of every column moves beside its foot, the most along X and along Y."""
    structure = chain.structure
    rows: list[tuple[Cell, ...]] = []
    for s in column_sways(chain):
        heights = (float(structure.xyz[node, 2]) for node in (s.storey.foot, s.storey.head))
        moved = [cell for sway, name in zip(s.sway, s.combination, strict=True) for cell in (sway * 1000, name)]
        rows.append((label(structure.members[s.storey.member]), *heights, s.use, *moved))
    columns: tuple[Column, ...] = (
        Column("column", wide=True), Column("from", "m"), Column("to", "m"), Column("combinations for"), Column("along X", "mm", 1), Column("in"),
        Column("along Y", "mm", 1), Column("in"),
    )  # fmt: skip
    return Table("sways", columns, tuple(rows))


def decks(chain: Chain) -> Table:
    """The largest membrane forces of stiff decks over the combinations for strength."""
    rows: list[tuple[Cell, ...]] = []
    for d in deck_forces(chain):
        rows.append((d.panel, *(c for f, name in zip(d.force, d.combination, strict=True) for c in (f / 1000, name))))
    columns: list[Column] = [Column("deck", wide=True)]
    for words in ("along its first side", "across", "shear"):
        columns += [Column(words, "kN/m"), Column("in")]
    return Table("membrane forces", tuple(columns), tuple(rows))


def loads(chain: Chain) -> Table:
    """Loads on members that are stated by hand."""
    rows: list[tuple[Cell, ...]] = []
    for load in in_kilonewtons(chain.document).member_loads:
        to = "end" if load.end is None else f"{load.end:g}"
        ends = [", ".join(f"{v:g}" for v in vector) for vector in (load.value, load.value_end or ())]
        where = f"{load.start:g} to {to}" if load.kind == "line" else f"{load.start:g}"
        axes = f"{load.axes}{', shares of the length' if load.ratio else ''}"
        rows.append((load.case, ", ".join([load.member, *load.run]), load.kind, *ends, where, axes))
    heads = ("case", "member", "kind", "value x, y, z", "at its end", "at", "axes")
    return Table("loads on members", tuple(Column(head, wide=head == "member") for head in heads), tuple(rows))
