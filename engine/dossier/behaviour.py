"""Chapters: how the building was analysed, and how it answers."""

from __future__ import annotations

from collections.abc import Iterator
from math import isfinite

import numpy as np

from engine.chain import Chain
from engine.dossier.building import different, named
from engine.dossier.diagrams import forces as drawn_forces
from engine.dossier.slabs import slab_blocks
from engine.dossier.values import Cell, Column, Facts, Figure, Heading, Paragraph, Table, Told
from engine.report import holding, supports
from engine.report.movements import worst_movements
from engine.structure.model import FREEDOMS
from engine.structure.planes import Plane
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import SERVICE
from engine.verification.pads import told_of
from engine.verification.standing import in_words

#: combinations listed by their α_cr
LISTED = {"summary": 1, "normal": 8, "full": 100000}
FORCES = {"x": "H_X", "y": "H_Y", "z": "V", "rx": "M_X", "ry": "M_Y", "rz": "M_Z"}


UNHELD = "Above 1 the weights alone do not hold: anchors and foundations must hold the rest, and are not checked here."


def analysis(chain: Chain, told: Told) -> None:
    """Model data, order of analysis, α_cr, checks of equilibrium."""
    document, combined = chain.document, chain.combined
    options = document.analysis
    order = {
        "first": "first order for all",
        "second": "second order for all ultimate combinations",
        "by alpha_cr": f"second order for ultimate combinations with α_cr below {options.second_order_below:g}",
    }[options.order]
    beyond = options.bears_at
    bears = "in the axes of columns" if beyond is None else f"{1000 * beyond:.0f} mm in front of the faces of columns"
    told.add(
        Heading("Model", "analysis.model"),
        Facts(
            (
                ("Elements", f"{len(chain.response.elements)}", "beams in space, exact between their nodes"),
                (
                    "Nodes",
                    f"{len(chain.structure.nodes)}",
                    f"{int((chain.structure.fixed | (chain.structure.springs != 0)).any(axis=1).sum())} supported",
                ),
                ("Cases", f"{len(chain.loading.cases)}", ""),
                ("Combinations", f"{len(chain.combinations)}", f"{int(combined.second.sum())} in second order"),
                ("Order", order, "EN 1993-1-1 5.2.1(3)"),
                ("Shear deformation", "yes" if options.shear_deformation else "no", ""),
                ("Hinged beams bear", bears, "where the beams themselves state nothing else"),
                ("Sway imperfections", "yes" if document.rules.imperfections else "no", "EN 1993-1-1 5.3.2(3)a"),
                ("Residual of the equations", f"{chain.response.residual:.1e}", "relative, of all cases"),
            )
        ),
    )
    told.add(*critical_factors(chain, told))
    told.add(*_without_state(chain))
    told.add(*_stabilised(chain))
    told.add(*_equilibrium(chain))


def critical_factors(chain: Chain, told: Told) -> Iterator[Heading | Table]:
    """The lowest critical factors, with what buckles."""
    combined, alpha = chain.combined, chain.combined.alpha
    ranked = [int(i) for i in np.argsort(np.where(np.isfinite(alpha), alpha, np.inf)) if np.isfinite(alpha[i])]
    if not ranked:
        return
    yield Heading("Critical factors", "analysis.critical", aside="EN 1993-1-1 5.2.1")
    rows = tuple(
        (
            chain.combinations[i].name, chain.combinations[i].formula, float(alpha[i]), "second" if combined.second[i] else "first",
            in_words(combined, i),
        )
        for i in ranked[: LISTED[told.level]]
    )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("combination"), Column("formula", wide=True), Column("α_cr"), Column("order"), Column("what buckles", wide=True),
    )  # fmt: skip
    yield Table("critical factors", columns, rows)


def _equilibrium(chain: Chain) -> Iterator[Heading | Table | Paragraph]:
    """Overturning and uplift of the whole, and supports in tension."""
    tilts, lifted = supports.tilts(chain), supports.lifted(chain)
    if tilts or lifted:
        yield Heading("Static equilibrium", "analysis.equilibrium", aside="EN 1990 6.4.2")
    if tilts:
        tilt_rows = tuple(
            (t.words, t.acting / 1000, t.resisting / 1000, "kNm" if t.moment else "kN", t.utilisation, t.combination.name)
            for t in tilts
        )  # fmt: skip
        columns: tuple[Column, ...] = (
            Column("what", wide=True), Column("E_d,dst", "", 1), Column("E_d,stb", "", 1), Column("unit"), Column("E_d,dst/E_d,stb"),
            Column("combination"),
        )  # fmt: skip
        yield Table("equilibrium", columns, tilt_rows)
        if not all(t.holds for t in tilts):
            yield Paragraph(UNHELD, "fails")
    if lifted:
        lifted_rows = tuple((node, tension / 1000, combination.name) for node, tension, combination in lifted)
        columns = (Column("support"), Column("tension", "kN", 1), Column("combination"))
        yield Table("supports in tension", columns, lifted_rows)


def _stabilised(chain: Chain) -> Iterator[Heading | Table]:
    """What each span of bracing carries for the members that lean on it."""
    spans = holding.stabilised(chain)
    if not spans:
        return
    yield Heading("What bracing stabilises", "analysis.stabilising", aside="EN 1993-1-1 5.3.3")
    rows = tuple(
        (
            f"{span.lines} lines, {span.lines / span.count:g} bracings",
            span.span,
            span.compression / 1000,
            span.alpha_m,
            span.bow * 1000,
            span.movement * 1000,
            span.force / 1000,
            span.combination.name,
        )
        for span in spans
    )
    columns = (
        Column("what leans on it", wide=True),
        Column("L", "m"),
        Column("ΣN_Ed", "kN", 0),
        Column("α_m"),
        Column("e_0", "mm", 1),
        Column("δ_q", "mm", 1),
        Column("Σq_d", "kN/m"),
        Column("combination"),
    )
    yield Table("stabilising forces", columns, rows)


def _without_state(chain: Chain) -> Iterator[Paragraph]:
    """Combinations beyond their critical load, without a state, or with a mechanism that slack members leave."""
    numbers = range(len(chain.combinations))
    for words, found in (
        ("beyond their critical load (α_cr below 1)", [i for i in numbers if not chain.combined.stable(i)]),
        (
            "without a state: members or supports that act one way alternate",
            [i for i in numbers if not chain.combined.settled(i)],
        ),
        ("in which slack members leave a mechanism", [i for i in numbers if chain.combined.free(i)]),
    ):
        if found:
            names = ", ".join(chain.combinations[i].name for i in found[:8])
            more = f" and {len(found) - 8} more" if len(found) > 8 else ""
            yield Paragraph(f"Combinations {words}: {names}{more}. The verdicts take this into account.", "fails")


def frames_with_worst(chain: Chain) -> list[tuple[list[Plane], int]]:
    """The different frames, of each group the one with the worst member first, and that member."""
    use = np.zeros(len(chain.structure.members))
    for v in chain.verification.verdicts:
        use[v.member] = max((o.utilisation for o in v.outcomes if o.criterion not in SERVICE), default=0.0)
    found = []
    for group in different(chain, "frame"):
        bent = {p.key: [i for i in p.members if not chain.structure.members[i].bar] for p in group}
        group = sorted((p for p in group if bent[p.key]), key=lambda p: -use[bent[p.key]].max())
        if group:
            own = bent[group[0].key]
            found.append((group, own[int(use[own].argmax())]))
    return found


def response(chain: Chain, told: Told) -> None:
    """Moments of the different frames, reactions, movements against their limits."""
    verification = chain.verification
    if verification.strength and told.level != "summary":
        told.add(Heading("Moments of frames", "response.moments", aside="on the side in tension, kNm"))
        frames = frames_with_worst(chain)
        if not frames:
            told.add(
                Paragraph("No member lies in an upright plane across the building: no moments are drawn.", "missing")
            )
        if len(frames) > 4 and told.level != "full":
            told.add(Paragraph(f"{len(frames) - 4} further different frames are drawn at the level “full”.", "missing"))
        for group, worst in frames if told.level == "full" else frames[:4]:
            forces = verification.forces.My
            envelope = [np.maximum(forces.max(axis=2), 0), np.minimum(forces.min(axis=2), 0)]
            drawing = drawn_forces(chain, group[0], envelope, named(group))
            told.add(
                Heading(named(group), f"response.{group[0].key}", 3),
                Figure(drawing, "M_y, envelope of the combinations for strength, kNm"),
            )
            strong = [o for o in verification.verdicts[worst].outcomes if o.criterion not in SERVICE]
            if strong:
                o = max(strong, key=lambda o: o.utilisation)
                c = chain.combinations[verification.strength[o.combination]]
                one = drawn_forces(chain, group[0], [forces[..., o.combination]], named(group))
                told.add(
                    Figure(
                        one,
                        f"M_y in {c.name} = {c.formula}, which governs {label(chain.structure.members[worst])}, kNm",
                    )
                )
    told.add(Heading("Reactions", "response.reactions", aside="combinations for strength"))
    told.add(*reaction_tables(chain, told.level == "full"))
    if chain.verification.pads:
        told.add(Heading("Pad footings", "response.footings", aside="told, not verified"), pad_table(chain))
    if chain.structure.slabs:
        told.add(Heading("Slabs and walls", "response.slabs", aside="told, not verified"), *slab_blocks(chain))
    told.add(Heading("Deflection and sway", "response.movements", aside="EN 1990 A1.4"))
    table = _movements(chain)
    told.add(table if table else Paragraph("No member has a limit of deflection or sway.", "missing"))


def pad_table(chain: Chain) -> Table:
    """What acts under pad footings at its worst."""
    names = [c.name for c in chain.combinations]
    rows: list[tuple[Cell, ...]] = []
    for one in chain.verification.pads:
        pressure, slide = one.pressure[0], one.slide[0]
        rows.append(
            (
                chain.structure.nodes[one.node], f"{one.pad.x:g} × {one.pad.y:g} × {one.pad.depth:g} m", one.weight / 1000,
                pressure / 1000 if isfinite(pressure) else "tips over", names[one.pressure[1]],
                slide if isfinite(slide) else "slides", names[one.slide[1]], one.least[0] / 1000, names[one.least[1]],
                told_of(one),
            )
        )  # fmt: skip
    columns = (
        Column("support"), Column("pad"), Column("weight", "kN", 1), Column("pressure", "kN/m²", 0), Column("in"), Column("H / μN", "", 2), Column("in"),
        Column("least on the ground", "kN", 1), Column("in"), Column("told", wide=True),
    )  # fmt: skip
    return Table("pad footings", columns, tuple(rows))


def reaction_tables(chain: Chain, every: bool) -> list[Table | Paragraph]:
    """The least and greatest reactions of every support; every: with those that act at the same time."""
    found = supports.reactions(chain)
    if not found.combinations or not found.nodes:
        why = "There are no supports." if found.combinations else "There are no combinations for strength."
        return [Paragraph(why, "missing")]
    force = found.force / 1000
    tables: list[Table | Paragraph] = []
    rows: list[tuple[Cell, ...]] = []
    used = [k for k in range(6) if np.abs(force[:, k]).max() > 5e-4]
    for r, node in enumerate(found.nodes):
        row: list[Cell] = [node]
        for k in used:
            row += [float(force[r, k].min()), float(force[r, k].max())]
        rows.append(tuple(row))
    columns = [Column("support")]
    for k in used:
        unit = "kN" if k < 3 else "kNm"
        columns += [Column(f"{FORCES[FREEDOMS[k]]} least", unit, 1), Column("most", unit, 1)]
    tables.append(Table("reactions", tuple(columns), tuple(rows)))
    if not every:
        return tables
    # what acts at the same time where one of them is greatest or least
    acting: list[tuple[Cell, ...]] = []
    for r, node in enumerate(found.nodes):
        for k in used:
            for i in dict.fromkeys((int(found.most[r, k]), int(found.least[r, k]))):
                sign = "most" if i == int(found.most[r, k]) else "least"
                acting.append(
                    (
                        node,
                        f"{FORCES[FREEDOMS[k]]} {sign}",
                        found.combinations[i].name,
                        *(float(force[r, j, i]) for j in used),
                    )
                )
    columns = [Column("support"), Column("where"), Column("combination")]
    columns += [Column(FORCES[FREEDOMS[k]], "kN" if k < 3 else "kNm", 1) for k in used]
    tables.append(Table("reactions acting together", tuple(columns), tuple(acting)))
    return tables


def _movements(chain: Chain) -> Table | None:
    found = worst_movements(chain)
    if not found:
        return None
    rows = tuple(
        (
            ROLE_WORDS[m.member.role][1], m.check.words, label(m.member), m.movement * 1000, m.limit * 1000,
            m.words, m.check.utilisation, m.check.combination.name,
        )
        for m in found
    )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("role"), Column("what"), Column("worst member", wide=True), Column("w", "mm", 1), Column("limit", "mm", 1), Column("from"),
        Column("utilisation"), Column("combination"),
    )  # fmt: skip
    return Table("deflections", columns, rows)
