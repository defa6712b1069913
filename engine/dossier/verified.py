"""Chapters: the verdicts with their proofs, and what holds the members."""

from __future__ import annotations

from dataclasses import replace

from engine.chain import Chain
from engine.document.handover import DossierPlan
from engine.dossier.details import flanges
from engine.dossier.elevations import section_drawing
from engine.dossier.second import NEAR, differs, second
from engine.dossier.values import Cell, Column, Derived, Figure, Heading, Link, Paragraph, Proven, Table, Told
from engine.progress import Step
from engine.report import holding, verdicts
from engine.report.verdicts import Group, MemberReport
from engine.structure.words import ROLE_WORDS, label
from engine.verification.outcomes import Outcome
from engine.verification.proof import Proof, prove

#: members up to which each has its proof: some two pages each
MOST_PROVEN = 500
#: a utilisation below this is none
NOTHING = 0.005


def verification(chain: Chain, told: Told, plan: DossierPlan, step: Step) -> None:
    """A summary by group with what governs; proofs of what governs each group and each member that is chosen or bears a remark or a
    note, or of each member."""
    structure, whole = chain.structure, chain.verification.whole
    every_member = plan.every_member
    all_groups = verdicts.groups(chain)
    summary = f"{whole.passing} of {len(structure.members)} members pass"
    summary += f", {whole.failing} fail" if whole.failing else ""
    summary += f", {whole.not_covered} are not covered" if whole.not_covered else ""
    told.add(
        Heading("Summary", "verification.summary"),
        Paragraph(
            summary + f"; the largest utilisation is {whole.worst:.3f}.",
            "fails" if whole.failing else "missing" if whole.not_covered or whole.left_out else "plain",
        ),
    )
    for words in verdicts.left_out(chain):
        told.add(Paragraph(f"Left out: {words}", "missing"))
    proven = told.level != "summary"
    told.add(groups_table(all_groups, proven))
    told.add(*_secondary(chain, told.level))
    if told.level == "full":
        told.add(Heading("Every member", "verification.members"), members_table(chain))
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
    shown = [list(group.members) if every_member else _shown(group, plan) for group in all_groups]
    total, done = sum(map(len, shown)), 0
    for group, members in zip(all_groups, shown, strict=True):
        count = len(group.members)
        told.add(
            Heading(group.name, f"verification.{group.name}", aside=f"{count} members" if count > 1 else "1 member")
        )
        for k, member in enumerate(members):
            _member(chain, told, member, told.level == "full" and not k)
            done += 1
            step(done, total)


def groups_table(found: list[Group], proven: bool) -> Table:
    """Groups with what governs the worst member of each; proven: with links to its proof."""
    rows: list[tuple[Cell, ...]] = []
    for group in found:
        worst = group.members[0]
        g = worst.governing
        where: Cell = Link(worst.label, anchor_of(worst.member.name)) if proven and g else worst.label
        rows.append(
            (
                group.name, float(len(group.members)), where, g.words if g else "", g.combination.name if g else "",
                g.utilisation if g else None, worst.status,
            )
        )  # fmt: skip
    columns: tuple[Column, ...] = (
        Column("group", wide=True), Column("number", "", 0), Column("worst member", wide=True), Column("governs"), Column("in"), Column("utilisation", "", 3), Column("verdict"),
    )  # fmt: skip
    worst_row = max(range(len(rows)), key=lambda k: _use(found[k].members[0]), default=-1)
    return Table("verdicts by group", columns, tuple(rows), worst_row)


def _shown(group: Group, plan: DossierPlan) -> list[MemberReport]:
    """Members of a group whose proofs are written: the worst one, and those that are asked for."""
    asked = [
        m for m in group.members[1:] if m.member.checks.proven or m.member.checks.remark or plan.noted(m.member.name)
    ]
    return [*group.members[:1], *asked[:MOST_PROVEN]]


WAYS = {"down": "pressed", "up": "lifted", "service": "deflection"}


def _secondary(chain: Chain, level: str) -> list[Heading | Paragraph | Table | Derived]:
    """Purlins and rails that are no members: what asks most of them, each way, and how what they bear came about, of what governs or, in
    full, of each way."""
    rows: list[tuple[Cell, ...]] = []
    words = []
    derived = []
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
        ways = (
            [how for how in s.how if level == "full" or how.way == s.uses[0].way]
            if s.uses and level != "summary"
            else []
        )
        derived += [
            Derived(replace(how.derivation, title=f"{ROLE_WORDS[s.role][1]}: {how.derivation.title}")) for how in ways
        ]
    if not rows:
        return []
    columns: tuple[Column, ...] = (
        Column("which"), Column("how"), Column("where", wide=True), Column("load", wide=True), Column("acts", "kN/m", 2), Column("bears", "kN/m", 2),
        Column("utilisation", "", 2),
    )  # fmt: skip
    worst = max(range(len(rows)), key=lambda k: float(str(rows[k][-1])))
    table = Table("purlins and rails that are no members", columns, tuple(rows), worst)
    heading = Heading("Purlins and rails that are no members", "verification.secondary")
    return [heading, Paragraph("".join(words).strip()), table, *derived]


def _second(chain: Chain, all_groups: list[Group]) -> list[Paragraph | Table]:
    """What governs each group beside the figure of another method; what stands on one method alone says so."""
    rows: list[tuple[Cell, ...]] = []
    for group in all_groups:
        worst = group.members[0]
        g = worst.governing
        if g is None:
            continue
        other = second(chain, worst.verdict.member, g.outcome)
        if other is None:
            rows.append((group.name, g.words, g.utilisation, "no second method here", None, None, ""))
            continue
        share = differs(g.utilisation, other.utilisation)
        why = other.why if abs(share) > NEAR else ""
        if other.utilisation > 1 >= g.utilisation:
            why = f"beyond 1 by this method. {why}"
        rows.append((group.name, g.words, g.utilisation, other.method, other.utilisation, share * 100, why))
    columns: tuple[Column, ...] = (
        Column("group"), Column("governs"), Column("utilisation", "", 3), Column("another method", wide=True), Column("gives", "", 3),
        Column("difference", "%", 1), Column("why, above 10 %", wide=True),
    )  # fmt: skip
    words = "What governs the worst member of each group, beside the figure of another method. The verdict is that of the first."
    return [Paragraph(words), Table("second opinion", columns, tuple(rows))]


def _use(member: MemberReport) -> float:
    return member.governing.utilisation if member.governing else -1.0


def anchor_of(member: str) -> str:
    """The lasting name of a member's proofs."""
    return f"member.{member}"


def _member(chain: Chain, told: Told, found: MemberReport, every: bool) -> None:
    """What governs a member, proven; every: all its checks."""
    m = found.member
    aside = f"{m.section.name} · {m.material.name} · {found.length:.2f} m · {found.status}"
    told.add(Heading(found.label, anchor_of(m.name), 3, aside))
    for words in found.verdict.not_covered:
        told.add(Paragraph(f"Not covered: {words}", "missing"))
    for words in found.verdict.left_out:
        told.add(Paragraph(f"Left out: {words}", "missing"))
    if m.checks.remark:
        told.add(Paragraph(m.checks.remark, "remark"))
    if len(found.checks) > 1:
        rows = tuple((c.words, c.clause, c.combination.name, c.position, c.utilisation) for c in found.checks)
        columns: tuple[Column, ...] = (
            Column("criterion", wide=True),
            Column("clause"),
            Column("combination"),
            Column("at", "m"),
            Column("utilisation", "", 3),
        )
        told.add(Table(f"checks of {m.name}", columns, rows, 0))
    for k, check in enumerate(found.checks if every else found.checks[:1]):
        if every:
            # each check can be ticked by itself
            told.add(Heading(check.words, f"{anchor_of(m.name)}.{check.outcome.criterion}", 4, check.clause))
        proof = proof_of(chain, found.verdict.member, check.outcome)
        told.add(Proven(proof, None if k else section_drawing(m)))


def proof_of(chain: Chain, member: int, outcome: Outcome) -> Proof:
    """The proof of an outcome, its title with the place."""
    found = prove(chain.verification, chain.combinations, member, outcome)
    return replace(found, title=f"{found.title}, at {outcome.position:.2f} m")


def members_table(chain: Chain) -> Table:
    """Every member with what governs it."""
    rows: list[tuple[Cell, ...]] = []
    for m in verdicts.members(chain):
        g = m.governing
        rows.append(
            (
                m.label, m.member.section.name, m.member.material.name, m.length, g.words if g else "", g.utilisation if g else None, m.status,
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
        _drawn(chain, told)


def _lengths(chain: Chain, told: Told) -> None:
    told.add(Heading("Effective lengths", "restraints.lengths"))
    rows = tuple(
        (
            ROLE_WORDS[found.member.role][1],
            found.member.section.name,
            found.length,
            found.lengths.y,
            found.lengths.z,
            found.lengths.torsion,
            f"y: {found.lengths.why_y}; z: {found.lengths.why_z}",
            float(found.count),
        )
        for found in holding.lengths(chain)
    )
    columns: tuple[Column, ...] = (
        Column("role"), Column("section"), Column("length", "m"), Column("L_cr,y", "m"), Column("L_cr,z", "m"), Column("L_T", "m"),
        Column("from", wide=True), Column("members", "", 0),
    )  # fmt: skip
    limit = 12 if told.level == "summary" else len(rows)
    told.add(Table("effective lengths", columns, rows[:limit]))
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


def _drawn(chain: Chain, told: Told) -> None:
    """The worst member of each group laid flat, and those that are asked for, where flanges are held between the ends."""
    asked = [m for group in verdicts.groups(chain) for m in _shown(group, chain.document.dossier) if m.verdict.outcomes]
    # what does not buckle sideways has no stretches to show
    shown = [
        m for m in asked if any(s.utilisation >= NOTHING for s in chain.verification.checks.flanges(m.verdict.member))
    ]
    if not shown:
        return
    aside = "the worst of each group, and members that are proven besides"
    told.add(Heading("Members laid flat", "restraints.drawn", aside=aside))
    for found in shown:
        drawing, words = flanges(chain, found.verdict.member)
        told.add(Figure(drawing, f"{found.label}, 1 : {drawing.scale}: {words}"))


def _places(places: tuple[float, ...]) -> str:
    return ", ".join(f"{x:.2f}" for x in places)
