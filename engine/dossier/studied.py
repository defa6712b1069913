"""Set-outs beside one another, where a study sized them: as a chart and a table."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

import numpy as np

from engine.dossier.drawing import Drawing, Point, Sheet
from engine.dossier.values import Cell, Column, Figure, Heading, Paragraph, Table, Told

Value = float | str
#: room for the points of a chart on paper, and around it: left, below, right, above, mm
PLOT, AROUND = (112.0, 62.0), (16.0, 13.0, 40.0, 8.0)
#: marks of points: what is least, and what passes
SQUARE = np.array([(-1.5, -1.5), (1.5, -1.5), (1.5, 1.5), (-1.5, 1.5)])
ROUND = np.array([(np.cos(a), np.sin(a)) for a in np.linspace(0, 2 * np.pi, 13)[:-1]])


@dataclass(frozen=True)
class ToldPoint:
    """A set-out, sized. values: what it differs in, by quantity; words: the same in words; steel in t, carbon in t CO2e, area in plan in m²; worst
    None: not covered; obstacles: what is in the way where it does not pass."""

    values: Mapping[str, Value]
    words: str
    passes: bool
    worst: float | None
    steel: float
    cost: float
    carbon: float
    area: float
    sections: Mapping[str, str]
    obstacles: tuple[str, ...]


@dataclass(frozen=True)
class ToldStudy:
    """The study of a project. revision: which one was varied; stands: it is what stands now; objective: mass or cost; quantities: words and unit
    of what was varied, by key; failed: what could not be set out, with its reason."""

    revision: int
    stands: bool
    objective: str
    quantities: Mapping[str, tuple[str, str]]
    points: tuple[ToldPoint, ...]
    failed: tuple[tuple[str, str], ...] = ()


def studied(told: Told, found: ToldStudy) -> None:
    """The chart and the table of a study; at the full level with the sections of each set-out."""
    number = len(found.points)
    told.add(
        Heading(
            "Set-outs beside one another",
            "sizing.study",
            aside=f"revision {found.revision}; {number} of them, each loaded, analysed and sized by itself",
        )
    )
    if not found.stands:
        told.add(Paragraph("What stands is not what this study varied: it was changed since.", "missing"))
    best = best_of(found)
    if best is None:
        told.add(Paragraph("None of them passes.", "fails"))
    elif number > 1:
        told.add(Figure(*_chart(found, best)))
    told.add(_table(found, best))
    told.add(*(Paragraph(f"{words}: {why}", "missing") for words, why in found.failed))
    if told.level == "full":
        told.add(_sections(found))
        refused = [p for p in found.points if p.obstacles]
        told.add(*(Paragraph(f"{p.words}: {'; '.join(p.obstacles)}.", "plain") for p in refused))


def best_of(found: ToldStudy) -> ToldPoint | None:
    """The least of those that pass, by what was sought; None where none does."""
    passing = [p for p in found.points if p.passes]
    return min(passing, key=lambda p: p.cost if found.objective == "cost" else p.steel, default=None)


def undominated(found: ToldStudy, point: ToldPoint) -> bool:
    """Whether it passes, and nothing that passes is both lighter and cheaper."""
    others = (p for p in found.points if p.passes)
    return point.passes and not any(p.steel < point.steel - 1e-6 and p.cost < point.cost - 1e-6 for p in others)


def _table(found: ToldStudy, best: ToldPoint | None) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for p in found.points:
        which = "least" if p is best else "nothing lighter and cheaper" if undominated(found, p) else ""
        per = 1000 * p.steel / p.area if p.area else None
        rows.append((p.words, p.steel, per, p.cost, p.carbon, p.worst, which if p.passes else "fails"))
    columns = (
        Column("set-out", wide=True), Column("mass", "t"), Column("mass over plan", "kg/m²", 1), Column("cost", "", 0), Column("carbon", "t CO2e", 1),
        Column("utilisation"), Column("which", wide=True),
    )  # fmt: skip
    marked = next((k for k, p in enumerate(found.points) if p is best), -1)
    return Table("study", columns, tuple(rows), marked)


def _sections(found: ToldStudy) -> Table:
    groups = list(dict.fromkeys(name for p in found.points for name in p.sections))
    rows: list[tuple[Cell, ...]] = [
        (p.words if not k else "", name, p.sections.get(name, ""))
        for p in found.points
        for k, name in enumerate(g for g in groups if g in p.sections)
    ]
    columns = (Column("set-out", wide=True), Column("group", wide=True), Column("section", wide=True))
    return Table("sections of the study", columns, tuple(rows))


def _along(found: ToldStudy) -> str | None:
    """The number with most different values, if there are more than two: it lies along the chart."""
    values: dict[str, set[Value]] = {}
    for p in found.points:
        for key, value in p.values.items():
            if not isinstance(value, str):
                values.setdefault(key, set()).add(value)
    most = max(values, key=lambda key: len(values[key]), default=None)
    return most if most is not None and len(values[most]) > 2 else None


def _lines(found: ToldStudy, along: str | None) -> dict[str, list[ToldPoint]]:
    """Points that differ in what lies along alone, by the words of the rest."""
    lines: dict[str, list[ToldPoint]] = {}
    for p in found.points:
        if along is not None and along not in p.values:
            continue
        rest = ", ".join(_figure(v) for key, v in p.values.items() if key != along) if along else ""
        lines.setdefault(rest, []).append(p)
    return lines


def _figure(value: Value) -> str:
    return value if isinstance(value, str) else f"{value:g}"


def _chart(found: ToldStudy, best: ToldPoint) -> tuple[Drawing, str]:
    """Steel over what is varied most, a line for each of the rest; over cost where no number takes more than two values."""
    along = _along(found)

    def x(p: ToldPoint) -> float:
        return float(p.values[along]) if along is not None else p.cost

    lines = _lines(found, along)
    points = [p for own in lines.values() for p in own]
    # what does not pass may weigh many times what does: it stands at the edge, with its figure
    passing = [p.steel for p in points if p.passes]
    top = (
        max(passing) + max(max(passing) - min(passing), 0.1 * max(passing)) if passing else max(p.steel for p in points)
    )
    counts = along is not None and not found.quantities.get(along, ("", ""))[1]
    across, up = ticks([x(p) for p in points], 1.0 if counts else 0.0), ticks([min(p.steel, top) for p in points])
    width, height = (side + AROUND[k] + AROUND[k + 2] for k, side in enumerate(PLOT))
    sheet = Sheet("Set-outs", (0.0, 0.0), (1.0, 1.0), (width, height), AROUND)

    def at(p: ToldPoint) -> Point:
        u, v = ((value - t[0]) / (t[-1] - t[0]) for value, t in ((x(p), across), (min(p.steel, top), up)))
        return AROUND[0] + u * PLOT[0], AROUND[1] + v * PLOT[1]

    _axes(sheet, across, up)
    words, unit = found.quantities.get(along or "", ("cost by the prices", ""))
    sheet.say((AROUND[0] + PLOT[0] / 2, 2.0), f"{words}{', ' if unit else ''}{unit}", size=2.4)
    sheet.say((AROUND[0], height - 3.5), "steel, t", size=2.4, align="start")
    said: list[float] = []
    for name, own in lines.items():
        own = sorted(own, key=x)
        if along is not None:
            sheet.paper([at(p) for p in own], "ground")
            _end(sheet, at(own[-1]), name, said)
        for p in own:
            _mark(sheet, at(p), p, best)
            if p.steel > top:
                sheet.say((at(p)[0] + 2.5, at(p)[1] - 0.8), f"{p.steel:.1f} t", size=2.2, align="start", ground=True)
    over = f"over {words[0].lower()}{words[1:]}" if along else "over cost"
    # a chart has no scale: it is as large on paper as it is
    drawn = replace(sheet.done(), width=width, height=height, scale=1)
    return drawn, f"Steel {over}: squares are the least, triangles do not pass."


def ticks(values: Sequence[float], least: float = 0.0) -> list[float]:
    """Some four to eight round numbers from below the least to above the largest, no nearer to each other than `least`."""
    low, high = min(values), max(values)
    span = max(high - low, abs(high) * 0.02, 1e-6)
    power = 10 ** np.floor(np.log10(span / 4))
    step = max(float(next(m * power for m in (1, 2, 5, 10) if span / (m * power) <= 6)), least)
    first, last = int(np.floor(low / step)), int(np.ceil(high / step))
    return [k * step for k in range(first, max(last, first + 1) + 1)]


def _axes(sheet: Sheet, across: list[float], up: list[float]) -> None:
    left, below = AROUND[0], AROUND[1]
    right = left + PLOT[0]
    sheet.paper([(left, below), (right, below)], "dimension")
    for value in across:
        px = left + (value - across[0]) / (across[-1] - across[0]) * PLOT[0]
        sheet.paper([(px, below), (px, below - 1.2)], "dimension")
        sheet.say((px, below - 4.2), _round(value, across), size=2.2)
    for value in up:
        py = below + (value - up[0]) / (up[-1] - up[0]) * PLOT[1]
        sheet.paper([(left, py), (right, py)], "axis")
        sheet.say((left - 1.5, py - 0.8), _round(value, up), size=2.2, align="end")


def _round(value: float, among: list[float]) -> str:
    digits = max(0, -int(np.floor(np.log10(among[1] - among[0]) + 1e-9)))
    return f"{value:,.{digits}f}".replace(",", "\u202f").replace("-", "−")


def _end(sheet: Sheet, at: Point, name: str, said: list[float]) -> None:
    """The words of a line at its end, beside those of others."""
    y = at[1]
    while any(abs(y - other) < 3.2 for other in said):
        y -= 1.0
    said.append(y)
    sheet.say((at[0] + 3.0, y - 0.8), name, size=2.2, align="start")


def _mark(sheet: Sheet, at: Point, point: ToldPoint, best: ToldPoint) -> None:
    x, y = at
    if not point.passes:
        sheet.paper([(x - 1.3, y - 1.0), (x + 1.3, y - 1.0), (x, y + 1.4)], "failing", True)
        return
    around = SQUARE if point is best else ROUND
    sheet.paper([(x + float(u), y + float(v)) for u, v in around], "restraint", True)
