"""From a computed chain to what the workbench shows. Units of the screen: kN, kNm, m, mm."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from typing import Any

import numpy as np

from engine.balance import balances
from engine.catalogue.properties import Section
from engine.catalogue.sections import FAMILIES, catalogue, family_of
from engine.catalogue.shapes import outline_of
from engine.catalogue.steels import ELASTIC, STRENGTH
from engine.chain import Chain
from engine.document import Document
from engine.document.rules import DEFLECTIONS
from engine.result import combination_of
from engine.standards.en import snow
from engine.standards.en.combinations import PSI, psi, psi_key
from engine.standards.en.snow_cases import greatest
from engine.standards.en.wind_cases import hall_winds
from engine.standards.family import family
from engine.structure.audit import audit
from engine.structure.model import FREEDOMS, Floats, Member, Structure
from engine.structure.planes import planes
from engine.structure.storeys import storeys
from engine.structure.words import ROLE_WORDS, label
from engine.verification.channels import buckling_use, is_channel
from engine.verification.equilibrium import tilt_words
from engine.verification.general import general_largest, general_values
from engine.verification.marks import marks
from engine.verification.outcomes import CRITERIA, Verdict, kind_of
from engine.verification.proof import Proof
from engine.verification.stability import stability_values
from server.projects import (
    action_schemas,
    catalogue_schemas,
    response_schemas,
    schemas,
    structure_schemas,
    verdict_schemas,
)
from server.projects.surfaces import brief, local_out, wind_out

#: members up to which the whole building's diagrams are sent at once
MOST_RUNS = 800


def kilo(values: Floats) -> tuple[float, float, float]:
    x, y, z = (values / 1000).tolist()
    return (x, y, z)


def _inside(places: tuple[float, ...]) -> list[float]:
    """Restraints between the ends."""
    return list(places[1:-1])


def bare_member(structure: Structure, m: Member, storey: str) -> structure_schemas.MemberOut:
    """A member of a storey as it stands, without a verdict."""
    releases = [
        f"{words}: {', '.join(sorted(free))}"
        for words, free in (("start", m.release_start), ("end", m.release_end))
        if free
    ]
    return structure_schemas.MemberOut(
        name=m.name,
        label=label(m),
        role=m.role,
        frame=m.frame,
        line=list(m.nodes),
        section=m.section.name,
        size=(m.section.h or 0.1, m.section.b or 0.1),
        shape=m.section.shape,
        material=m.material.name,
        behaviour=m.behaviour,
        roll=float(np.degrees(m.roll)),
        group=m.group,
        storey=storey,
        jig=m.jig,
        edited=m.edited,
        releases=releases,
        outer=_inside(m.outer),
        inner=_inside(m.inner),
        length=structure.length(m),
        mass=structure.mass(m),
        haunches=_haunches(structure, m),
        own=m.checks,
        status="",
        not_covered=[],
        utilisation=None,
        governs="",
        combination="",
        checks=[],
    )


def _haunches(structure: Structure, m: Member) -> list[structure_schemas.HaunchOut]:
    length = structure.length(m)
    return [
        structure_schemas.HaunchOut(foot=foot, tip=abs(foot - haunch.length), depth=haunch.depth)
        for haunch, foot in zip(m.haunches, (0.0, length), strict=True)
        if haunch
    ]


def _whole(chain: Chain) -> verdict_schemas.WholeOut:
    found = chain.verification.whole
    left_out = [verdict_schemas.LeftOut(words=words, members=count) for words, count in found.left_out]
    return verdict_schemas.WholeOut(
        passing=found.passing, failing=found.failing, not_covered=found.not_covered, left_out=left_out
    )


def _limits(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """Of the roles that are there, without those that have fields of their own."""
    present = {m.role for m in chain.structure.members if m.behaviour == "beam"}
    stated: dict[str, float | None] = {str(role): ratio for role, ratio in chain.document.rules.deflections.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=ROLE_WORDS[role][1], stated=stated.get(role), usual=usual)
        for role, usual in DEFLECTIONS.items()
        if role in present
    ]


def _limits_variable(chain: Chain) -> list[verdict_schemas.LimitOut]:
    """Under variable actions alone, of the roles that are there and deflect."""
    rules = chain.document.rules
    present = {m.role for m in chain.structure.members if m.behaviour == "beam" and rules.deflects(m.role)}
    stated: dict[str, float | None] = {str(role): ratio for role, ratio in rules.deflections_variable.items()}
    return [
        verdict_schemas.LimitOut(role=role, label=words[1], stated=stated.get(role), usual=0.0)
        for role, words in ROLE_WORDS.items()
        if role in present
    ]


def member_out(chain: Chain, verdict: Verdict, storey: str) -> structure_schemas.MemberOut:
    """A member with its verdict."""
    m = chain.structure.members[verdict.member]
    checks = []
    for o in sorted(verdict.outcomes, key=lambda o: -o.utilisation):
        combination = combination_of(chain, o.criterion, o.combination)
        words, clause = CRITERIA[o.criterion]
        checks.append(
            verdict_schemas.CheckOut(
                criterion=o.criterion,
                kind=kind_of(o.criterion),
                words=words,
                clause=clause,
                utilisation=o.utilisation,
                combination=combination.name,
                formula=combination.formula,
                position=o.position,
            )
        )
    found = bare_member(chain.structure, m, storey)
    found.status, found.not_covered, found.checks = verdict.status, list(verdict.not_covered), checks
    found.left_out = list(verdict.left_out)
    if checks:
        found.utilisation, found.governs, found.combination = (
            checks[0].utilisation,
            checks[0].words,
            checks[0].combination,
        )
    return found


def _roles(structure: Structure, members: list[structure_schemas.MemberOut]) -> list[structure_schemas.RoleOut]:
    slots: dict[str, set[str]] = defaultdict(set)
    for m in structure.members:
        if m.jig == "hall" and m.slot:
            slots[m.role].add(m.slot)
    found = []
    for role, (_, words) in ROLE_WORDS.items():
        own = [m for m in members if m.role == role]
        if not own:
            continue
        sections = sorted({m.section for m in own})
        states = {m.status for m in own}
        found.append(
            structure_schemas.RoleOut(
                role=role,
                label=words,
                key=min(slots[role]) if len(slots[role]) == 1 else "",
                section=sections[0] if len(sections) == 1 else f"{len(sections)} sections",
                count=len(own),
                worst=max((m.utilisation for m in own if m.utilisation is not None), default=None),
                status=next((s for s in ("fails", "not covered", "passes") if s in states), ""),
                mass=sum(m.mass for m in own),
            )
        )
    return found


def _reactions(chain: Chain) -> Iterator[response_schemas.ReactionOut]:
    structure = chain.structure
    strength = chain.verification.strength
    if not strength:
        return
    reaction = chain.combined.reaction(strength)
    names = [chain.combinations[i].name for i in strength]
    for node in np.flatnonzero((structure.fixed | (structure.springs != 0)).any(axis=1)):
        held = [i for i in range(6) if structure.fixed[node, i] or structure.springs[node, i]]
        values = reaction[node, held] / 1000
        high, low = values.argmax(axis=1), values.argmin(axis=1)
        yield response_schemas.ReactionOut(
            node=structure.nodes[node],
            directions=[FREEDOMS[i] for i in held],
            most=values.max(axis=1).tolist(),
            most_in=[names[i] for i in high],
            least=values.min(axis=1).tolist(),
            least_in=[names[i] for i in low],
        )


def _lengths(chain: Chain) -> Iterator[verdict_schemas.LengthsOut]:
    seen = set()
    for m, lengths in zip(chain.structure.members, chain.verification.grounds.lengths, strict=True):
        if m.role in seen:
            continue
        seen.add(m.role)
        chosen = chain.document.rules.effective_lengths.get(m.role)  # type: ignore[call-overload]
        yield verdict_schemas.LengthsOut(
            role=m.role,
            label=ROLE_WORDS[m.role][1],
            length=chain.structure.length(m),
            y=lengths.y,
            z=lengths.z,
            lateral=lengths.torsion,
            why_y=lengths.why_y,
            why_z=lengths.why_z,
            set_y=chosen.y if chosen else None,
            set_z=chosen.z if chosen else None,
        )


def hall_facts(document: Document, structure: Structure) -> dict[str, Any]:
    """What follows from the hall's parameters and the site alone: dimensions, wind and snow numbers."""
    hall, site = document.hall, document.site
    found: dict[str, Any] = {"simplifications": family(document).simplifications(document, structure)}
    if hall is None:
        return found
    columns = [line.at for line in structure.grid if line.axis == "X"]
    roofs = [p for p in structure.panels if p.name.startswith("roof-")]
    found["hall"] = structure_schemas.HallOut(
        height=max(float(p.corners[:, 2].max()) for p in roofs),
        span=max(columns) - min(columns),
        length=hall.length,
        slopes=[(p.name.removeprefix("roof-"), p.length, p.pitch) for p in roofs],
    )
    mu = float(snow.mu1(roofs[0].pitch, document.national.snow.flat))
    ground = site.ground_snow * document.snow.exposure * document.snow.thermal
    found["snow"] = action_schemas.SnowOut(mu=mu, undrifted=mu * ground, drifted=greatest(document, structure) * ground)
    found["winds"] = wind_out(hall_winds(document, structure))
    return found


def structure_out(document: Document, structure: Structure) -> dict[str, Any]:
    """What stands, known without any analysis."""
    own = {support.node for support in document.supports}
    held = structure.fixed.any(axis=1) | (structure.springs != 0).any(axis=1)
    stated = {level.name for level in document.levels}
    return {
        "nodes": [(x, y, z) for x, y, z in structure.xyz.tolist()],
        "node_names": list(structure.nodes),
        "supports": [
            structure_schemas.SupportOut(
                node=structure.nodes[i],
                index=int(i),
                fixed=[f for f, there in zip(FREEDOMS, structure.fixed[i], strict=True) if there],
                springs={
                    f: k / document.force for f, k in zip(FREEDOMS, structure.springs[i].tolist(), strict=True) if k
                },
                one_way=[f for f, there in zip(FREEDOMS, structure.one_way[i], strict=True) if there],
                turn=float(np.degrees(structure.turn[i])),
                settlement=tuple(structure.settlement[i].tolist()),
                own=structure.nodes[i] in own,
            )
            for i in np.flatnonzero(held)
        ],
        "planes": [structure_schemas.PlaneOut(**{**vars(p), "members": list(p.members)}) for p in planes(structure)],
        "grid": [structure_schemas.GridOut(**vars(line)) for line in structure.grid],
        "levels": [
            structure_schemas.LevelOut(name=v.name, height=v.height, own=v.name in stated, floor=v.floor)
            for v in structure.levels
        ],
        "snags": [
            structure_schemas.SnagOut(**{**vars(s), "members": list(s.members), "nodes": list(s.nodes)})
            for s in audit(structure)
        ],
        "orphans": [structure_schemas.OrphanOut(**vars(o)) for o in structure.orphans],
        "panels": brief(structure),
        "tonnage": sum(structure.masses().values()) / 1000,
        "masses": {what: mass / 1000 for what, mass in structure.masses().items()},
        **hall_facts(document, structure),
    }


def _psi(chain: Chain) -> list[action_schemas.PsiOut]:
    """The rows of table A1.1 that the cases take."""
    rules, site, basis = chain.document.rules, chain.document.site, chain.document.national.basis
    rows: dict[str, action_schemas.PsiOut] = {}
    for case in chain.loading.cases:
        if case.nature in ("permanent", "imperfection", "accidental"):
            continue
        key = psi_key(case, site, basis)
        used = psi(case, rules, site, basis)
        row = rows.setdefault(key, action_schemas.PsiOut(row=key, used=used, recommended=PSI[key], cases=[]))
        row.cases.append(case.symbol)
    return list(rows.values())


def bare_chain(document: Document, structure: Structure | None) -> dict[str, Any]:
    """What can be shown of a document whose chain broke: its structure, if it could be set out."""
    if structure is None:
        return {}
    own = zip(structure.members, storeys(structure), strict=True)
    members = [bare_member(structure, m, storey) for m, storey in own]
    return {"members": members, "roles": _roles(structure, members), **structure_out(document, structure)}


def equilibrium_out(chain: Chain) -> dict[str, Any]:
    """Static equilibrium as a rigid body, and the supports that lift."""
    return {
        "equilibrium": [
            verdict_schemas.TiltOut(
                words=tilt_words(tilt, chain.structure),
                acting=tilt.acting / 1000,
                resisting=tilt.resisting / 1000,
                utilisation=tilt.utilisation if np.isfinite(tilt.utilisation) else None,
                combination=chain.combinations[tilt.combination].name,
                formula=chain.combinations[tilt.combination].formula,
            )
            for tilt in chain.verification.tilts
        ],
        "lifted": [
            verdict_schemas.LiftedOut(
                node=chain.structure.nodes[found.node],
                tension=found.tension / 1000,
                combination=chain.combinations[found.combination].name,
            )
            for found in chain.verification.lifted
        ],
    }


def stabilised_out(chain: Chain) -> list[verdict_schemas.StabilisedOut]:
    """What each span of bracing stabilises, at its most."""
    verification = chain.verification
    found = []
    for span in verification.grounds.stabilising.spans:
        c = span.most
        combination = chain.combinations[verification.strength[c]]
        found.append(
            verdict_schemas.StabilisedOut(
                lines=span.lines,
                count=span.count,
                span=span.L,
                compression=float(span.N[c]) / 1000,
                force=float(span.q[c]) / 1000,
                bow=span.e0 * 1000,
                movement=float(span.delta[c]) * 1000,
                alpha_m=span.alpha_m,
                combination=combination.name,
                formula=combination.formula,
                firm=bool(span.firm.all()),
            )
        )
    return found


def marks_out(chain: Chain) -> list[action_schemas.MarkOut]:
    """How near each combination comes to what governs."""
    found = marks(chain.document, chain.combined, chain.verification, chain.combinations)
    return [
        action_schemas.MarkOut(name=c.name, share=mark.share, at=mark.at, governs=mark.governs)
        for c, mark in zip(chain.combinations, found, strict=True)
    ]


def chain_out(chain: Chain, revision: int) -> schemas.ChainOut:
    """Everything of a chain but diagrams and proofs."""
    structure, loading = chain.structure, chain.loading
    own_storeys = storeys(structure)
    members = [member_out(chain, v, own_storeys[v.member]) for v in chain.verification.verdicts]
    states = {m.status for m in members}
    own = {case.name for case in chain.document.cases}
    return schemas.ChainOut(
        revision=revision,
        fingerprints=chain.fingerprints,
        seconds=chain.seconds,
        members=members,
        roles=_roles(structure, members),
        cases=[
            action_schemas.CaseOut(
                symbol=case.symbol,
                name=case.name,
                nature=case.nature,
                note=case.note,
                expected=kilo(b.expected),
                applied=kilo(b.applied),
                reacted=kilo(b.reacted),
                ground=kilo(b.ground),
                tilted=list(b.tilted),
                off=b.off,
                holds=b.holds,
                exclusive=case.exclusive,
                category=case.category,
                own=case.symbol in own,
            )
            for case, b in zip(loading.cases, balances(loading, chain.response), strict=True)
        ],
        combinations=[
            # there are a thousand of them: taken as they are, without validation
            action_schemas.CombinationOut.model_construct(
                name=c.name,
                use=c.use,
                formula=c.formula,
                rule=c.rule,
                own=c.own,
                factors=[(i, c.factors[i].item()) for i in np.flatnonzero(c.factors).tolist()],
            )
            for c in chain.combinations
        ],
        local=local_out(chain),
        psi=_psi(chain),
        reactions=list(_reactions(chain)),
        **equilibrium_out(chain),
        stabilised=stabilised_out(chain),
        lengths=list(_lengths(chain)),
        residual=chain.response.residual,
        worst=chain.verification.worst if members else None,
        whole=_whole(chain) if members else None,
        limits=_limits(chain),
        limits_variable=_limits_variable(chain),
        status=next((s for s in ("fails", "not covered", "passes") if s in states), ""),
        **structure_out(chain.document, structure),
    )


def ribbon_out(chain: Chain, member: int) -> verdict_schemas.RibbonOut:
    """The restraint ribbon of a member in its governing strength combination."""
    structure, verification = chain.structure, chain.verification
    m = structure.members[member]
    verdict = verification.verdicts[member]
    strong = [o for o in verdict.outcomes if kind_of(o.criterion) != "service"]
    worst = max(strong, key=lambda o: o.utilisation, default=None)
    c = worst.combination if worst else 0
    first = np.searchsorted(chain.response.elements.member, np.arange(len(structure.members) + 1))
    e = slice(first[member], first[member + 1])
    grounds = verification.grounds
    s = grounds.segments([member])
    spans: dict[int, list[verdict_schemas.SpanOut]] = {1: [], -1: []}
    if verification.strength:
        v = stability_values(chain.document, s, verification.steel, grounds.limits)
        sideways = np.nan_to_num(v["u_LT"]).max(axis=1) if m.section.shape == "I" else np.zeros(len(s.member))
        if is_channel(m):
            sideways = np.nan_to_num(buckling_use(chain.document, grounds, member)[1]["u_single"]).max(axis=1)
        stretches = general_largest(chain.document, grounds, member)
        for r in range(len(s.member)):
            u = float(sideways[r])
            if s.inside[r]:
                u = next(u for a, b, u in stretches if a < s.start[r] + 1e-6 and s.end[r] < b + 1e-6)
            spans[int(s.flange[r])].append(
                verdict_schemas.SpanOut(start=float(s.start[r]), end=float(s.end[r]), utilisation=u)
            )
    values: list[tuple[str, str, str]] = []
    whole = next((o for o in strong if o.criterion == "general"), None)
    if whole:
        found, (start, end) = general_values(chain.document, grounds, member, whole.row, whole.combination)
        place = f"{start:.2f} m to {end:.2f} m, with its haunch or taper"
        values.append(
            (r"\alpha_{cr,op}", f"{float(found['alpha_op']):.2f}", f"Buckling sideways of {place} (6.3.4(3))")
        )
        values.append((r"\chi_{op}", f"{float(found['chi_op']):.2f}", "Reduction of the general method (6.3.4(4))"))
    if m.section.shape == "I":
        lateral = next((o for o in strong if o.criterion == "lateral"), None)
        if lateral:
            row, column = [lateral.row], [lateral.combination]
            v = stability_values(chain.document, s.of(row, column), verification.steel, grounds.limits[..., column])
            values.append(
                (
                    "L_{LT}",
                    f"{float(s.L_LT[lateral.row]):.2f} m",
                    f"Of the governing segment, {s.start[lateral.row]:.2f} m to {s.end[lateral.row]:.2f} m, "
                    f"{'outer' if s.flange[lateral.row] > 0 else 'inner'} flange in compression",
                )
            )
            values.append(
                (
                    "M_{cr}",
                    f"{float(v['Mcr'][0, 0]) / 1000:.0f} kNm",
                    "Elastic critical moment of the same segment (6.3.2.2)",
                )
            )
            values.append(
                (r"\chi_{LT}", f"{float(v['chi_LT'][0, 0]):.2f}", "Reduction for lateral-torsional buckling (6.57)")
            )
    forces = verification.forces
    return verdict_schemas.RibbonOut(
        member=m.name,
        length=structure.length(m),
        combination=chain.combinations[verification.strength[c]].name if verification.strength else "",
        outer=list(m.outer),
        inner=list(m.inner),
        x=(chain.response.elements.positions(forces.x)[e]).ravel().tolist(),
        My=(forces.My[e, :, c].ravel() / 1000).tolist() if verification.strength else [],
        outer_spans=spans[1],
        inner_spans=spans[-1],
        values=values,
    )


def proof_out(proof: Proof, revision: int, member: str) -> verdict_schemas.ProofOut:
    """A proof for the screen."""
    return verdict_schemas.ProofOut(
        revision=revision,
        member=member,
        title=proof.title,
        clause=proof.clause,
        combination=proof.combination,
        formula=proof.formula,
        utilisation=proof.utilisation,
        steps=[verdict_schemas.StepOut(**vars(step)) for step in proof.steps],
        assumptions=list(proof.assumptions),
    )


def section_out(s: Section) -> catalogue_schemas.SectionOut:
    """A section with its properties."""
    return catalogue_schemas.SectionOut(
        name=s.name,
        family=s.family,
        h=s.h * 1e3,
        b=s.b * 1e3,
        tw=s.tw * 1e3,
        tf=s.tf * 1e3,
        mass=s.mass(),
        A=s.A * 1e4,
        Iy=s.Iy * 1e8,
        Iz=s.Iz * 1e8,
        It=s.It * 1e8,
        Iw=s.Iw * 1e12,
        Wel_y=s.Wel_y * 1e6,
        Wpl_y=s.Wpl_y * 1e6,
        Wel_z=s.Wel_z * 1e6,
        Wpl_z=s.Wpl_z * 1e6,
    )


def catalogue_out() -> list[catalogue_schemas.FamilyOut]:
    """The catalogue by family, in ascending mass."""
    families: dict[str, list[catalogue_schemas.SectionOut]] = defaultdict(list)
    for s in catalogue().values():
        families[s.family].append(section_out(s))
    return [
        catalogue_schemas.FamilyOut(name=family, standard=standard, what=what, sections=families[family])
        for family, (standard, what) in FAMILIES.items()
    ]


def outline_out(s: Section) -> catalogue_schemas.OutlineOut:
    """A section to scale with its neighbours: up to three lighter and three heavier of its family."""
    family = family_of(s.name) if s.name in catalogue() else [s]
    at = next(i for i, other in enumerate(family) if other.name == s.name)
    near = family[max(at - 3, 0) : at] + family[at + 1 : at + 4]
    return catalogue_schemas.OutlineOut(
        section=section_out(s),
        rings=[[(y * 1e3, z * 1e3) for y, z in ring.tolist()] for ring in outline_of(s)],
        neighbours=[section_out(other) for other in near],
    )


def materials_out() -> list[catalogue_schemas.MaterialOut]:
    """All materials, in words."""
    steels = [
        catalogue_schemas.MaterialOut(name=name, what=f"steel, fy = {strength[0][1] / 1e6:g} MPa")
        for name, strength in STRENGTH.items()
    ]
    return steels + [
        catalogue_schemas.MaterialOut(name=name, what=f"{what}: analysed, not checked")
        for name, (*_, what) in ELASTIC.items()
    ]
