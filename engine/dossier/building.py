"""Chapters: the building as it stands, and its steel in numbers."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.chain import Chain
from engine.dossier.details import haunched_joints
from engine.dossier.elevations import alike, elevation, in_words, plan
from engine.dossier.values import Cell, Column, Facts, Figure, Heading, Paragraph, Table, Told
from engine.structure.planes import Plane, planes
from engine.structure.words import ROLE_WORDS

ROOF = ("rafter", "top chord", "purlin", "eaves beam", "ridge beam", "roof bracing", "strut")
FLOOR = ("main beam", "joist")


def named(group: list[Plane]) -> str:
    """What alike planes are called together: “Frame on grid 2, also 3, 4”."""
    first, *others = [p.label for p in group]
    marks = sorted((words.split()[-1] for words in others), key=lambda mark: (len(mark), mark))
    return first + (f", also {', '.join(marks)}" if marks else "")


def different(chain: Chain, kind: str) -> list[list[Plane]]:
    """The planes of a kind, those alike together."""
    return alike(chain.structure, [p for p in planes(chain.structure) if p.kind == kind and p.members])


def building(chain: Chain, told: Told) -> None:
    """Dimensions, drawings, sections by role, supports."""
    structure, document = chain.structure, chain.document
    low, high = (structure.xyz.min(axis=0), structure.xyz.max(axis=0)) if len(structure.xyz) else (np.zeros(3),) * 2
    size = high - low
    rows = [
        ("Across", f"{size[0]:.2f} m", "between the outermost nodes, along X"),
        ("Along", f"{size[1]:.2f} m", "along Y"),
        ("Height", f"{size[2]:.2f} m", f"{low[2]:+.2f} m to {high[2]:+.2f} m"),
        ("Members", f"{len(structure.members)}", f"{len(structure.nodes)} nodes"),
        *(
            ("Mass of steel" if what == "steel" else f"Mass, {what}", f"{mass / 1000:.2f} t", "without connections")
            for what, mass in structure.masses().items()
        ),
    ]
    told.add(Heading("Dimensions", "building.dimensions"), Facts(tuple(rows)))
    if document.hall is not None:
        hall = document.hall
        told.add(Paragraph(f"A hall of {len(hall.spacings)} bays along its length, {hall.length:.2f} m."))
    told.add(Heading("Sections by role", "building.sections"), sections_by_role(chain))
    if told.level == "summary":
        return
    held = structure.fixed | (structure.springs != 0)
    feet = [
        m for m in structure.members if m.role in ("column", "gable post") and held[[m.nodes[0], m.nodes[-1]]].any()
    ]
    bearing = document.site.bearing
    bases = plan(structure, feet, "Plan at the bases", False, bearing)
    if bases:
        told.add(
            Heading("Plan at the bases", "building.bases", aside=f"1 : {bases.scale}"), Figure(bases, in_words(feet))
        )
    above = [m for m in structure.members if m.role in ROOF]
    roof = plan(structure, above, "Plan of the roof", False, bearing)
    if roof:
        told.add(Heading("Plan of the roof", "building.roof", aside=f"1 : {roof.scale}"), Figure(roof, in_words(above)))
    for level in [p for p in planes(structure) if p.kind == "level"]:
        carrying = [structure.members[i] for i in level.members if structure.members[i].role in FLOOR]
        floor = plan(structure, carrying, level.label, bearing=bearing)
        if floor:
            told.add(
                Heading(level.label, f"building.{level.key}", aside=f"1 : {floor.scale}"),
                Figure(floor, in_words(carrying)),
            )
    for kind in ("frame", "row"):
        groups = different(chain, kind)
        for group in groups if told.level == "full" or len(groups) <= 6 else groups[:6]:
            drawn = elevation(structure, group[0], named(group))
            told.add(
                Heading(drawn.title, f"building.{group[0].key}", aside=f"1 : {drawn.scale}"),
                Figure(drawn, in_words([structure.members[i] for i in group[0].members])),
            )
        if told.level != "full" and len(groups) > 6:
            told.add(
                Paragraph(f"{len(groups) - 6} further different elevations are drawn at the level “full”.", "missing")
            )
    _haunches(chain, told)


def _haunches(chain: Chain, told: Told) -> None:
    """Each different joint with a haunch."""
    found = haunched_joints(chain.structure)
    if not found:
        return
    told.add(Heading("Details of haunches", "building.haunches"))
    shown = found if told.level == "full" else found[:4]
    for nodes, drawn, words in shown:
        count = "once" if len(nodes) == 1 else f"{len(nodes)} times alike"
        told.add(Figure(drawn, f"1 : {drawn.scale}, {count}. {words} Of the connection nothing is drawn."))
    if len(found) > len(shown):
        told.add(Paragraph(f"{len(found) - len(shown)} further joints are drawn at the level “full”.", "missing"))


def sections_by_role(chain: Chain) -> Table:
    """Members, length and mass by role, section and grade, with the sum."""
    structure = chain.structure
    found: dict[tuple[str, str, str], list[float]] = defaultdict(lambda: [0, 0.0, 0.0])
    for m in structure.members:
        row = found[(m.role, m.section.name, m.material.name)]
        row[0], row[1], row[2] = row[0] + 1, row[1] + structure.length(m), row[2] + structure.mass(m)
    order = list(ROLE_WORDS)
    rows: list[tuple[Cell, ...]] = [
        (ROLE_WORDS[role][1], section, grade, *(float(value) for value in sums))
        for (role, section, grade), sums in sorted(found.items(), key=lambda item: (order.index(item[0][0]), item[0]))
    ]
    length, mass = (sum(row[k] for row in found.values()) for k in (1, 2))
    rows.append(("All members", "", "", float(len(structure.members)), length, mass))
    columns: tuple[Column, ...] = (
        Column("role"), Column("section"), Column("grade"), Column("number", "", 0), Column("length", "m", 1), Column("mass", "kg", 0),
    )  # fmt: skip
    return Table("sections by role", columns, tuple(rows), len(rows) - 1)


def quantities(chain: Chain, told: Told) -> None:
    """The list of material: by section, and at the full level member by member."""
    structure = chain.structure
    by: dict[tuple[str, str], list[float]] = defaultdict(lambda: [0.0, 0.0, 0.0])
    for m in structure.members:
        row = by[(m.section.name, m.material.name)]
        row[0] += 1
        row[1] += structure.length(m)
        row[2] += structure.mass(m)
    total = sum(row[2] for row in by.values())
    rows: list[tuple[Cell, ...]] = [
        (section, grade, *row, row[2] / row[1] if row[1] else None)
        for (section, grade), row in sorted(by.items(), key=lambda item: -item[1][2])
    ]
    rows.append(("All sections", "", float(len(structure.members)), sum(row[1] for row in by.values()), total, None))
    columns: tuple[Column, ...] = (
        Column("section"), Column("grade"), Column("number", "", 0), Column("length", "m", 1), Column("mass", "kg", 0),
        Column("mass per metre", "kg/m", 1),
    )  # fmt: skip
    told.add(
        Heading("By section", "quantities.sections"), Table("material by section", columns, tuple(rows), len(rows) - 1)
    )
    told.add(Paragraph("Lengths between nodes; connections, plates, bolts and waste are not counted.", "missing"))
    if told.level != "full":
        return
    cuts: dict[tuple[str, str, float], int] = defaultdict(int)
    for m in structure.members:
        cuts[(m.section.name, m.material.name, round(structure.length(m), 3))] += 1
    list_rows: list[tuple[Cell, ...]] = [
        (section, grade, length, float(number)) for (section, grade, length), number in sorted(cuts.items())
    ]
    told.add(
        Heading("By length", "quantities.lengths"),
        Table(
            "material by length",
            (Column("section"), Column("grade"), Column("length", "m", 3), Column("number", "", 0)),
            tuple(list_rows),
        ),
    )
