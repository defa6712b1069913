"""Chapters: the verdicts with their proofs, and what holds the members."""

from __future__ import annotations

from dataclasses import replace

from engine.chain import Chain
from engine.dossier.elevations import section_drawing
from engine.dossier.second import NEAR, differs, second
from engine.dossier.values import Cell, Column, Heading, Link, Paragraph, Proven, Table, Told
from engine.progress import Step
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import CRITERIA, Outcome, Verdict
from engine.verification.proof import Proof, prove

#: members up to which each has its proof: some two pages each
MOST_PROVEN = 500


def groups(chain: Chain) -> list[tuple[str, list[Verdict]]]:
    """Members of one role and section, by role, each group's worst first: what fails, then what is not covered, then by utilisation."""
    found: dict[tuple[str, str], list[Verdict]] = {}
    order = list(ROLE_WORDS)
    for v in chain.verification.verdicts:
        m = chain.structure.members[v.member]
        found.setdefault((m.role, m.section.name), []).append(v)
    state = {"fails": 0, "not covered": 1, "passes": 2}
    rows = []
    for (role, section), own in sorted(found.items(), key=lambda item: (order.index(item[0][0]), item[0][1])):
        own.sort(key=lambda v: (state.get(v.status, 3), -(v.governing.utilisation if v.governing else 0.0)))
        rows.append((f"{ROLE_WORDS[role][1]}, {section}", own))
    return rows


def verification(chain: Chain, told: Told, every_member: bool, step: Step) -> None:
    """A summary by group with what governs; proofs of what governs each group, or each member."""
    structure, whole = chain.structure, chain.verification.whole
    all_groups = groups(chain)
    words = f"{whole.passing} of {len(structure.members)} members pass"
    words += f", {whole.failing} fail" if whole.failing else ""
    words += f", {whole.not_covered} are not covered" if whole.not_covered else ""
    told.add(
        Heading("Summary", "verification.summary"),
        Paragraph(
            words + f"; the largest utilisation is {whole.worst:.3f}.",
            "fails" if whole.failing else "missing" if whole.not_covered or whole.left_out else "plain",
        ),
    )
    for left_out, members in whole.left_out:
        told.add(Paragraph("Left out: " + left_out + (f" ({members} members)" if members else ""), "missing"))
    proven = told.level != "summary"
    rows: list[tuple[Cell, ...]] = []
    for name, own in all_groups:
        worst = own[0]
        o = worst.governing
        m = structure.members[worst.member]
        shown = label(m)
        where: Cell = Link(shown, anchor_of(m.name)) if proven and o else shown
        rows.append(
            (
                name, float(len(own)), where, CRITERIA[o.criterion] if o else "", chain.combinations[chain.verification.used(o.criterion)[o.combination]].name if o else "",
                o.utilisation if o else None, worst.status,
            )
        )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("group", wide=True), Column("number", "", 0), Column("worst member", wide=True), Column("governs"), Column("in"), Column("utilisation", "", 3), Column("verdict"),
    )  # fmt: skip
    worst_row = max(range(len(rows)), key=lambda k: _use(all_groups[k][1][0]), default=-1)
    told.add(Table("verdicts by group", columns, tuple(rows), worst_row))
    told.add(*_secondary(chain))
    if told.level == "full":
        told.add(Heading("Every member", "verification.members"), _ledger(chain))
    if not proven:
        return
    told.add(Heading("Second opinion", "verification.second"), *_second(chain, all_groups))
    if every_member and len(structure.members) > MOST_PROVEN:
        every_member = False
        told.add(
            Paragraph(
                f"Proofs of every member are written up to {MOST_PROVEN} members; here are {len(structure.members)}: the worst of each "
                "group is proven, the table above has them all.",
                "missing",
            )
        )
    total = sum(len(own) if every_member else 1 for _, own in all_groups)
    done = 0
    for name, own in all_groups:
        told.add(Heading(name, f"verification.{name}", aside=f"{len(own)} members" if len(own) > 1 else "1 member"))
        for k, verdict in enumerate(own if every_member else own[:1]):
            _member(chain, told, verdict, told.level == "full" and not k)
            done += 1
            step(done, total)


WAYS = {"down": "pressed", "up": "lifted", "service": "deflection"}


def _secondary(chain: Chain) -> list[Heading | Paragraph | Table]:
    """Purlins and rails that are no members, by tables of what they bear: what asks most of them, each way."""
    rows: list[tuple[Cell, ...]] = []
    words = []
    for s in chain.verification.secondary:
        if s.uses:
            words.append(
                f"{ROLE_WORDS[s.role][1]}: {s.table} over {s.span:g} m, {s.source or 'its source is not stated'}. "
            )
        for way in WAYS:
            use = next((u for u in s.uses if u.way == way), None)
            if use:
                rows.append(
                    (
                        ROLE_WORDS[s.role][1], WAYS[way], f"{use.panel}, zone {use.zone}", use.formula, use.load / 1000, use.resistance / 1000,
                        use.utilisation,
                    )
                )  # fmt: skip
        words += [f"Left out: {left_out}. " for left_out in s.left_out]
    if not rows:
        return []
    columns: tuple[Column, ...] = (
        Column("which"), Column("how"), Column("where", wide=True), Column("load", wide=True), Column("acts", "kN/m", 2), Column("bears", "kN/m", 2),
        Column("utilisation", "", 2),
    )  # fmt: skip
    worst = max(range(len(rows)), key=lambda k: float(str(rows[k][-1])))
    table = Table("purlins and rails that are no members", columns, tuple(rows), worst)
    return [Heading("Purlins and rails by tables", "verification.secondary"), Paragraph("".join(words).strip()), table]


def _second(chain: Chain, all_groups: list[tuple[str, list[Verdict]]]) -> list[Paragraph | Table]:
    """What governs each group beside the figure of another method; what stands on one method alone says so."""
    rows: list[tuple[Cell, ...]] = []
    for name, own in all_groups:
        o = own[0].governing
        if o is None:
            continue
        other = second(chain, own[0].member, o)
        if other is None:
            rows.append((name, CRITERIA[o.criterion], o.utilisation, "no second method here", None, None, ""))
            continue
        share = differs(o.utilisation, other.utilisation)
        why = other.why if abs(share) > NEAR else ""
        if other.utilisation > 1 >= o.utilisation:
            why = f"beyond 1 by this method. {why}"
        rows.append((name, CRITERIA[o.criterion], o.utilisation, other.method, other.utilisation, share * 100, why))
    columns: tuple[Column, ...] = (
        Column("group"), Column("governs"), Column("utilisation", "", 3), Column("another method", wide=True), Column("gives", "", 3),
        Column("difference", "%", 1), Column("why, above 10 %", wide=True),
    )  # fmt: skip
    words = "What governs the worst member of each group, beside the figure of another method. The verdict is that of the first."
    return [Paragraph(words), Table("second opinion", columns, tuple(rows))]


def _use(verdict: Verdict) -> float:
    return verdict.governing.utilisation if verdict.governing else -1.0


def anchor_of(member: str) -> str:
    """The lasting name of a member's proofs."""
    return f"member.{member}"


def _member(chain: Chain, told: Told, verdict: Verdict, every: bool) -> None:
    """What governs a member, proven; every: all its checks."""
    m = chain.structure.members[verdict.member]
    aside = f"{m.section.name} · {m.material.name} · {chain.structure.length(m):.2f} m · {verdict.status}"
    told.add(Heading(label(m), anchor_of(m.name), 3, aside))
    for words in verdict.not_covered:
        told.add(Paragraph(f"Not covered: {words}", "missing"))
    for words in verdict.left_out:
        told.add(Paragraph(f"Left out: {words}", "missing"))
    if m.checks.remark:
        told.add(Paragraph(m.checks.remark, "remark"))
    ranked = sorted(verdict.outcomes, key=lambda o: -o.utilisation)
    if len(ranked) > 1:
        rows = tuple(
            (
                CRITERIA[o.criterion],
                chain.verification.checks.clauses[o.criterion],
                chain.combinations[chain.verification.used(o.criterion)[o.combination]].name,
                o.position,
                o.utilisation,
            )
            for o in ranked
        )
        columns: tuple[Column, ...] = (
            Column("criterion", wide=True),
            Column("clause"),
            Column("combination"),
            Column("at", "m"),
            Column("utilisation", "", 3),
        )
        told.add(Table(f"checks of {m.name}", columns, rows, 0))
    for k, o in enumerate(ranked if every else ranked[:1]):
        proof = proof_of(chain, verdict.member, o)
        told.add(Proven(proof, None if k else section_drawing(m)))


def proof_of(chain: Chain, member: int, outcome: Outcome) -> Proof:
    """The proof of an outcome, its title with the place."""
    found = prove(chain.verification, chain.combinations, member, outcome)
    return replace(found, title=f"{found.title}, at {outcome.position:.2f} m")


def _ledger(chain: Chain) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for v in chain.verification.verdicts:
        m, o = chain.structure.members[v.member], v.governing
        rows.append(
            (
                label(m), m.section.name, m.material.name, chain.structure.length(m), CRITERIA[o.criterion] if o else "",
                o.utilisation if o else None, v.status,
            )
        )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("member", wide=True), Column("section"), Column("grade"), Column("length", "m"), Column("governs"), Column("utilisation", "", 3), Column("verdict"),
    )  # fmt: skip
    return Table("members", columns, tuple(rows))


def restraints(chain: Chain, told: Told) -> None:
    """Effective lengths by role with where they come from; restraints of flanges member by member."""
    _lengths(chain, told)
    if told.level != "summary":
        _flanges(chain, told)


def _lengths(chain: Chain, told: Told) -> None:
    structure, lengths = chain.structure, chain.verification.grounds.lengths
    told.add(Heading("Effective lengths", "restraints.lengths"))
    seen: dict[tuple[object, ...], int] = {}
    rows: list[tuple[Cell, ...]] = []
    for m, own in zip(structure.members, lengths, strict=True):
        key = (m.role, m.section.name, round(own.y, 3), round(own.z, 3), round(own.torsion, 3), own.why_y, own.why_z)
        if key in seen:
            seen[key] += 1
            continue
        seen[key] = 1
        rows.append(
            (
                ROLE_WORDS[m.role][1],
                m.section.name,
                structure.length(m),
                own.y,
                own.z,
                own.torsion,
                f"y: {own.why_y}; z: {own.why_z}",
                0.0,
            )
        )
    rows = [(*row[:-1], float(count)) for row, count in zip(rows, seen.values(), strict=True)]
    columns: tuple[Column, ...] = (
        Column("role"), Column("section"), Column("length", "m"), Column("L_cr,y", "m"), Column("L_cr,z", "m"), Column("L_T", "m"),
        Column("from", wide=True), Column("members", "", 0),
    )  # fmt: skip
    limit = 12 if told.level == "summary" else len(rows)
    told.add(Table("effective lengths", columns, tuple(rows[:limit])))
    if len(rows) > limit:
        told.add(Paragraph(f"{len(rows) - limit} further kinds at the level “normal”.", "missing"))


def _flanges(chain: Chain, told: Told) -> None:
    patterns: dict[tuple[str, str, tuple[float, ...], tuple[float, ...]], list[str]] = {}
    for m in chain.structure.members:
        if m.bar or not (m.outer or m.inner):
            continue
        held = tuple(round(x, 2) for x in m.outer), tuple(round(x, 2) for x in m.inner)
        patterns.setdefault((m.role, m.section.name, *held), []).append(label(m))
    if not patterns:
        return
    told.add(Heading("Restraints of flanges", "restraints.flanges", aside="distances from the start, m"))
    rows: list[tuple[Cell, ...]] = []
    for (role, section, outer, inner), names in patterns.items():
        some = names[0] + (f" and {len(names) - 1} more" if len(names) > 1 else "")
        rows.append((ROLE_WORDS[role][1], some, section, _places(outer), _places(inner)))
    columns = (
        Column("role"), Column("members", wide=True), Column("section"), Column("outer flange held at", wide=True),
        Column("inner flange held at", wide=True),
    )  # fmt: skip
    told.add(Table("restraints", columns, tuple(rows)))


def _places(places: tuple[float, ...]) -> str:
    return ", ".join(f"{x:.2f}" for x in places)
