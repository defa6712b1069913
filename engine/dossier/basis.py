"""Chapters: on what the design rests, and what is open or not covered."""

from __future__ import annotations

import operator
from functools import reduce

from engine.chain import Chain
from engine.document import Document
from engine.document.handover import DossierPlan
from engine.dossier.inputs import inputs
from engine.dossier.values import Column, Facts, Heading, Paragraph, Table, Told
from engine.report import verdicts
from engine.standards.family import family
from engine.structure.audit import audit

STANDARDS = (
    ("EN 1990:2002 + A1:2005", "Basis of structural design", "combinations, limits"),
    ("EN 1991-1-1:2002", "Densities, self-weight, imposed loads", "floors, roofs of category H, concentrated loads"),
    ("EN 1991-1-3:2003", "Snow loads", "arrangements, drifts"),
    ("EN 1991-1-4:2005 + A1:2010", "Wind actions", "pressures, zones, friction"),
    ("EN 1993-1-1:2005", "Steel: general rules, rules for buildings", "analysis, sections, members"),
    ("EN 1993-1-3:2006", "Steel: cold-formed members", "purlins and rails beside the model"),
    ("EN 1993-1-5:2006", "Steel: plated elements", "effective sections, shear buckling"),
    ("EN 1993-1-8:2005", "Steel: joints", "panels of webs, net sections of angles"),
    ("EN 1993-6:2007", "Steel: crane supporting structures", "torsion with bending, movement of crane rails"),
)


def _stated(document: Document, path: str) -> object:
    return reduce(lambda part, name: operator.attrgetter(name)(part), path.split("."), document)


def _said(value: object) -> str:
    if value is None:
        return "–"
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value)


def basis(chain: Chain, told: Told) -> None:
    """Standards, national values with marks on changed ones, materials, simplifications; in full every input."""
    document = chain.document
    told.add(
        Heading("Standards", "basis.standards"),
        Table(
            "standards",
            (Column("standard"), Column("subject", wide=True), Column("used for", wide=True)),
            STANDARDS,
        ),
    )
    _national(document, told)
    _materials(chain, told)
    if told.level == "full":
        told.add(*inputs(document))
    simplified = family(document).simplifications(document, chain.structure)
    if simplified:
        told.add(Heading("Simplifications", "basis.simplifications"))
        told.add(*(Paragraph(one, "item") for one in simplified))


def _national(document: Document, told: Told) -> None:
    told.add(Heading("Values that are nationally determined", "basis.national"))
    values = family(document).national_values()
    rows, anchors, differ = [], [], 0
    for value in values:
        stated = _stated(document, value.path)
        changed = stated != value.recommended
        differ += changed
        if changed or told.level == "full":
            source = document.national.sources.get(value.path.replace(".", "/"), "")
            meaning = f"{value.words} · {value.clause}" if value.clause else value.words
            mark = "differs" if changed else ""
            anchors.append(f"national.{value.path}")
            rows.append(
                (
                    value.symbol,
                    _said(stated),
                    _said(value.recommended),
                    mark,
                    source or document.national.source if changed else "",
                    meaning,
                )
            )
    told.add(
        Paragraph(
            f"{differ} of {len(values)} values differ from those that the standards recommend."
            if differ
            else f"All {len(values)} values are those that the standards recommend."
        )
    )
    if rows and told.level != "summary":
        columns: tuple[Column, ...] = (
            Column("symbol"), Column("value"), Column("recommended"), Column(""), Column("source"), Column("meaning", wide=True),
        )  # fmt: skip
        told.add(Table("national values", columns, tuple(rows), anchors=tuple(anchors)))


def _materials(chain: Chain, told: Told) -> None:
    rules = chain.document.rules
    materials = {m.material.name: m.material for m in chain.structure.members}
    told.add(Heading("Materials", "basis.materials"))
    told.add(
        Table(
            "materials",
            (
                Column("grade"), Column("E", "N/mm²", 0), Column("G", "N/mm²", 0), Column("density", "kg/m³", 0),
                Column("γ_M0"), Column("γ_M1"), Column("γ_M2"),
            ),
            tuple(
                (name, m.E / 1e6, m.G / 1e6, m.density, rules.gamma_M0, rules.gamma_M1, rules.gamma_M2)
                for name, m in sorted(materials.items())
            ),
        )
    )  # fmt: skip


def open_matters(chain: Chain, told: Told) -> None:
    """What is not covered, what fails, snags: never left out."""
    structure, every = chain.structure, verdicts.members(chain)
    told.add(Heading("Not covered", "open.covered"))
    left_out = verdicts.left_out(chain)
    for words in left_out:
        told.add(Paragraph(words, "missing"))
    reasons: dict[str, list[str]] = {}
    for m in every:
        for words in m.verdict.not_covered:
            reasons.setdefault(words, []).append(m.label)
    for reason, labels in reasons.items():
        few = ", ".join(labels[:6]) + (f" and {len(labels) - 6} more" if len(labels) > 6 else "")
        told.add(Paragraph(f"{few}: {reason}", "missing"))
    if not left_out and not reasons:
        told.add(Paragraph("Every member is covered by every criterion that applies to it."))
    told.add(
        Paragraph(
            "Connections, column bases, foundations, sheeting, loads on barriers (EN 1991-1-1 6.4), impact, fire, fatigue, brittle fracture"
            " (EN 1993-1-10) and the ductility that earthquakes ask for are not part of this document.",
            "missing",
        )
    )
    if not any(case.nature == "temperature" for case in chain.loading.cases):
        told.add(Paragraph("No temperature acts in any case (EN 1991-1-5).", "missing"))
    failing = [m for m in every if m.status == "fails"]
    told.add(Heading("Members that fail", "open.failing"))
    if not failing:
        told.add(Paragraph("None."))
    else:
        rows = tuple(
            (m.label, m.member.section.name, m.governing.utilisation if m.governing else None)
            for m in sorted(failing, key=lambda m: -(m.governing.utilisation if m.governing else 0))
        )
        told.add(
            Table("members that fail", (Column("member", wide=True), Column("section"), Column("utilisation")), rows)
        )
    snags = audit(structure)
    told.add(Heading("Snags", "open.snags"))
    if not snags and not structure.orphans:
        told.add(Paragraph("None: every member is joined, supported and braced as far as the audit looks."))
    for snag in snags:
        told.add(Paragraph(f"{snag.what} {snag.why}", "fails" if snag.weight == "fault" else "missing"))
    for orphan in structure.orphans:
        told.add(Paragraph(f"An edit for “{orphan.target}” has lost its place: {orphan.said}", "missing"))


def cover(plan: DossierPlan, chain: Chain, version: str) -> Facts:
    """What the cover says; version: of the program that computed it."""
    whole = chain.verification.whole
    rows = [
        ("Client", plan.client, ""),
        ("Reference", plan.reference, ""),
        ("Place", chain.document.site.place, ""),
        ("Author", plan.author, ""),
        ("Members", f"{len(chain.structure.members)}", f"{chain.tonnage() / 1000:.2f} t"),
        ("Pass", f"{whole.passing}", ""),
        ("Fail", f"{whole.failing}", ""),
        ("Not verified", f"{whole.not_covered}", "see what is open" if whole.not_covered or whole.left_out else ""),
        ("Computed by", f"Lorica, engine {version}", "every number of this document, in one run"),
    ]
    return Facts(tuple(row for row in rows if row[1]))
