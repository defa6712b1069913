"""Chapter: how the sections were found, where a sizing found them: its rounds, what each group had and has, what else was on the shelf."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from engine.chain import Chain
from engine.dossier.values import Cell, Column, Heading, Paragraph, Table, Told

#: candidates of a group that are told, those nearest in mass to what was found
SHELF = 8


@dataclass(frozen=True)
class ToldCandidate:
    """One on the shelf of a group, the other groups as found. utilisation None: not covered, or without a limit; fits: its ties allow it."""

    choice: str
    mass: float
    utilisation: float | None
    fits: bool


@dataclass(frozen=True)
class ToldGroup:
    """A group: section and grade before and as found, mass in kg, utilisation (None: not covered), what governs; kept: why nothing of
    it was chosen."""

    name: str
    members: tuple[str, ...]
    before: tuple[str, str]
    after: tuple[str, str]
    mass: tuple[float, float]
    worst: tuple[float | None, float | None]
    criterion: str
    kept: str
    shelf: tuple[ToldCandidate, ...]


@dataclass(frozen=True)
class ToldRound:
    """An analysis on the way: under how many combinations (0: all), the largest utilisation (None: something is not covered), tonnes."""

    number: int
    step: str
    why: str
    few: int
    worst: float | None
    passes: bool
    tonnage: float
    cost: float


@dataclass(frozen=True)
class ToldSizing:
    """The last sizing of a project. revision: which one was sized; totals: t, cost, t CO2e before and as found."""

    revision: int
    objective: str
    passes: bool
    obstacles: tuple[str, ...]
    totals: tuple[tuple[float, float, float], tuple[float, float, float]]
    rounds: tuple[ToldRound, ...]
    groups: tuple[ToldGroup, ...]


def sizing(chain: Chain, told: Told, found: ToldSizing) -> None:
    """What was found, beside what stands; in rounds; at the full level with what else there was."""
    standing = {m.name: (m.section.name, m.material.name) for m in chain.structure.members}
    told.add(
        Heading("What was found", "sizing.found", aside=f"revision {found.revision}, for the least {found.objective}")
    )
    ended = (
        "Every member passes with what was found."
        if found.passes
        else "Nothing that was allowed makes every member pass."
    )
    told.add(Paragraph(ended, "plain" if found.passes else "fails"))
    told.add(*(Paragraph(words, "missing") for words in found.obstacles))
    told.add(_totals(found), _groups(found, standing))
    other = [g.name for g in found.groups if _stands(g, standing) != g.after]
    if other:
        told.add(Paragraph(f"What stands is not what was found in: {', '.join(other)}.", "missing"))
    if told.level == "summary":
        return
    told.add(Heading("Rounds", "sizing.rounds"), _rounds(found))
    if told.level == "full":
        told.add(
            Heading("What else there was", "sizing.shelf", aside="the other groups as found; those nearest in mass")
        )
        told.add(*(_shelf(g) for g in found.groups if len(g.shelf) > 1))


def _stands(group: ToldGroup, standing: Mapping[str, tuple[str, str]]) -> tuple[str, str] | None:
    """Section and grade that all members of a group have now; None where they differ, or one is not there any more."""
    now = {standing.get(name) for name in group.members}
    return now.pop() if len(now) == 1 else None


def _totals(found: ToldSizing) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for words, digits_row in zip(("before", "as found"), found.totals, strict=True):
        rows.append((words, *digits_row))
    columns = (Column("which", wide=True), Column("mass", "t"), Column("cost", "", 0), Column("carbon", "t CO2e"))
    return Table("sizing totals", columns, tuple(rows))


def _groups(found: ToldSizing, standing: Mapping[str, tuple[str, str]]) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for g in found.groups:
        now = _stands(g, standing)
        stands = "as found" if now == g.after else " ".join(now) if now else "several"
        rows.append(
            (
                g.name, float(len(g.members)), " ".join(g.before), " ".join(g.after) if not g.kept else f"kept: {g.kept}", stands, g.mass[1] - g.mass[0],
                *g.worst, g.criterion,
            )
        )  # fmt: skip
    columns = (
        Column("group", wide=True), Column("number", "", 0), Column("before"), Column("found", wide=True), Column("stands"), Column("mass", "kg", 0),
        Column("before"), Column("then"), Column("governs", wide=True),
    )  # fmt: skip
    return Table("sizing groups", columns, tuple(rows))


def _rounds(found: ToldSizing) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for r in found.rounds:
        looked = f"{r.few} that governed" if r.few else "all"
        rows.append(
            (float(r.number), r.step, r.why, looked, r.worst, "passes" if r.passes else "fails", r.tonnage, r.cost)
        )
    columns = (
        Column("round", "", 0), Column("step"), Column("why", wide=True), Column("combinations"), Column("used, of what may be"), Column("verdict"),
        Column("mass", "t"), Column("cost", "", 0),
    )  # fmt: skip
    return Table("sizing rounds", columns, tuple(rows))


def _shelf(group: ToldGroup) -> Table:
    near = sorted(group.shelf, key=lambda c: abs(c.mass - group.mass[1]))[:SHELF]
    own = " ".join(group.after)
    rows: list[tuple[Cell, ...]] = [
        (
            group.name if not k else "",
            c.choice,
            c.mass,
            c.utilisation,
            "found" if c.choice == own else "" if c.fits else "its ties forbid it",
        )
        for k, c in enumerate(sorted(near, key=lambda c: c.mass))
    ]
    marked = next((k for k, row in enumerate(rows) if row[4] == "found"), -1)
    columns = (
        Column("group", wide=True), Column("section and grade", wide=True), Column("mass", "kg", 0), Column("utilisation"), Column("which"),
    )  # fmt: skip
    return Table(f"shelf of {group.name}"[:60], columns, tuple(rows), marked)
