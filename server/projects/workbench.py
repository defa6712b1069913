"""From a computed chain to what the workbench shows. Units of the screen: kN, kNm, m, mm."""

from __future__ import annotations

from collections.abc import Iterator
from math import isfinite
from typing import Any

import numpy as np

from engine.chain import Chain
from engine.document import Document
from engine.document.byhand import Footing
from engine.report import holding, loads, supports, verdicts
from engine.standards.family import family
from engine.structure.audit import audit
from engine.structure.lines import design_members
from engine.structure.model import FREEDOMS, Floats, Pad, Structure
from engine.structure.planes import planes
from engine.structure.storeys import storeys
from engine.structure.words import ROLE_WORDS, slope_words
from engine.verification.marks import marks
from engine.verification.pads import told_of
from server.projects import (
    action_schemas,
    limits,
    response_schemas,
    schemas,
    structure_schemas,
    verdict_schemas,
)
from server.projects.member_rows import bare_member, member_out, roles_out
from server.projects.surfaces import brief, local_out, wind_out

#: members up to which the whole building's diagrams are sent at once
MOST_RUNS = 800


def kilo(values: Floats) -> tuple[float, float, float]:
    x, y, z = (values / 1000).tolist()
    return (x, y, z)


def _whole(chain: Chain) -> verdict_schemas.WholeOut:
    found = chain.verification.whole
    left_out = [verdict_schemas.LeftOut(words=words, members=count) for words, count in found.left_out]
    return verdict_schemas.WholeOut(
        passing=found.passing, failing=found.failing, not_covered=found.not_covered, left_out=left_out
    )


def secondary_sections_out(chain: Chain, role: str) -> list[verdict_schemas.SecondarySectionOut]:
    """How purlins or rails of a role would fare as other sections."""
    found = family(chain.document).secondary_candidates(chain.document, chain.structure, chain.loading, role)
    return [
        verdict_schemas.SecondarySectionOut(
            section=one.section,
            mass=one.mass,
            status=one.secondary.status,
            worst=one.secondary.worst,
            ways={
                way: max((u.utilisation for u in one.secondary.uses if u.way == way), default=0.0)
                for way in ("down", "up", "service")
            },
            reasons=list(one.secondary.reasons),
        )
        for one in found
    ]


def _secondary(chain: Chain) -> list[verdict_schemas.SecondaryOut]:
    return [
        verdict_schemas.SecondaryOut(
            role=s.role,
            label=ROLE_WORDS[s.role][1],
            table=s.table,
            source=s.source,
            computed=bool(s.how),
            span=s.span,
            spans=s.spans,
            status=s.status,
            worst=s.worst,
            uses=[
                verdict_schemas.UseOut(
                    panel=u.panel,
                    zone=u.zone,
                    way=u.way,
                    load=u.load / 1000,
                    resistance=u.resistance / 1000,
                    utilisation=u.utilisation,
                    formula=u.formula,
                )
                for u in s.uses
            ],
            reasons=list(s.reasons),
            left_out=list(s.left_out),
        )
        for s in chain.verification.secondary
    ]


def _reactions(chain: Chain) -> Iterator[response_schemas.ReactionOut]:
    found = supports.reactions(chain)
    if not found.combinations:
        return
    for s, node in enumerate(found.nodes):
        held = np.flatnonzero(found.held[s])
        values = found.force[s, held] / 1000
        yield response_schemas.ReactionOut(
            node=node,
            directions=[FREEDOMS[i] for i in held],
            most=values.max(axis=1).tolist(),
            most_in=[found.combinations[i].name for i in found.most[s, held]],
            least=values.min(axis=1).tolist(),
            least_in=[found.combinations[i].name for i in found.least[s, held]],
        )


def _lengths(chain: Chain) -> Iterator[verdict_schemas.LengthsOut]:
    """Of each role its first kind."""
    seen = set()
    for found in holding.lengths(chain):
        role, own = found.member.role, found.lengths
        if role in seen:
            continue
        seen.add(role)
        chosen = chain.document.rules.effective_lengths.get(role)  # type: ignore[call-overload]
        yield verdict_schemas.LengthsOut(
            role=role,
            label=ROLE_WORDS[role][1],
            length=found.length,
            y=own.y,
            z=own.z,
            lateral=own.torsion,
            why_y=own.why_y,
            why_z=own.why_z,
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
    roofs = [p for p in structure.panels if p.kind == "roof" and p.jig == "hall" and not p.place]
    found["hall"] = structure_schemas.HallOut(
        height=max(float(p.corners[:, 2].max()) for p in roofs),
        span=max(columns) - min(columns),
        length=hall.length,
        slopes=[(slope_words(p), p.length, p.pitch) for p in roofs],
    )
    shape = family(document).snow_shape(document, structure)
    ground = site.ground_snow * document.snow.exposure * document.snow.thermal
    found["snow"] = action_schemas.SnowOut(
        mu=shape.undrifted, undrifted=shape.undrifted * ground, drifted=shape.greatest * ground
    )
    found["winds"] = wind_out(family(document).winds(document, structure))
    return found


def structure_out(document: Document, structure: Structure) -> dict[str, Any]:
    """What stands, known without any analysis."""
    own = {support.node for support in document.supports}
    held = structure.fixed.any(axis=1) | (structure.springs != 0).any(axis=1)
    stated = {level.name for level in document.levels}
    return {
        "nodes": [(x, y, z) for x, y, z in structure.xyz.tolist()],
        "node_names": list(structure.nodes),
        "lines": [list(line) for line in design_members(structure)],
        "supports": [
            structure_schemas.SupportOut(
                node=structure.nodes[i],
                index=i,
                fixed=[f for f, there in zip(FREEDOMS, structure.fixed[i], strict=True) if there],
                springs={f: k / document.force for f, k in structure.sprung(i).items()},
                one_way=[f for f, there in zip(FREEDOMS, structure.one_way[i], strict=True) if there],
                turn=float(np.degrees(structure.turn[i])),
                settlement=tuple(structure.settlement[i].tolist()),
                footing=_footing(structure.pads[i]) if i in structure.pads else None,
                own=structure.nodes[i] in own,
            )
            for i in np.flatnonzero(held).tolist()
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
        "crane_rails": limits.crane_rails(document, structure),
        "tonnage": sum(structure.masses().values()) / 1000,
        "masses": {what: mass / 1000 for what, mass in structure.masses().items()},
        **hall_facts(document, structure),
    }


def _psi(chain: Chain) -> list[action_schemas.PsiOut]:
    """The rows of table A1.1 that the cases take."""
    return [action_schemas.PsiOut(**vars(own), cases=symbols) for own, symbols in loads.factors(chain)]


def bare_chain(document: Document, structure: Structure | None) -> dict[str, Any]:
    """What can be shown of a document whose chain broke: its structure, if it could be set out."""
    if structure is None:
        return {}
    own = zip(structure.members, storeys(structure), strict=True)
    members = [bare_member(structure, m, storey) for m, storey in own]
    return {"members": members, "roles": roles_out(structure, members), **structure_out(document, structure)}


def _footing(pad: Pad) -> Footing:
    return Footing.model_validate(vars(pad) | {"subgrade": pad.subgrade / 1000})


def equilibrium_out(chain: Chain) -> dict[str, Any]:
    """Static equilibrium as a rigid body, and the supports that lift."""
    return {
        "equilibrium": [
            verdict_schemas.TiltOut(
                words=tilt.words,
                moment=tilt.moment,
                acting=tilt.acting / 1000,
                resisting=tilt.resisting / 1000,
                utilisation=tilt.utilisation,
                combination=tilt.combination.name,
                formula=tilt.combination.formula,
            )
            for tilt in supports.tilts(chain)
        ],
        "lifted": [
            verdict_schemas.LiftedOut(node=node, tension=tension / 1000, combination=combination.name)
            for node, tension, combination in supports.lifted(chain)
        ],
        "pads": [
            verdict_schemas.PadOut(
                node=chain.structure.nodes[one.node],
                size=f"{one.pad.x:g} × {one.pad.y:g} × {one.pad.depth:g} m",
                weight=one.weight / 1000,
                pressure=one.pressure[0] / 1000 if isfinite(one.pressure[0]) else None,
                pressure_in=chain.combinations[one.pressure[1]].name,
                slide=one.slide[0] if isfinite(one.slide[0]) else None,
                slide_in=chain.combinations[one.slide[1]].name,
                least=one.least[0] / 1000,
                least_in=chain.combinations[one.least[1]].name,
                told=told_of(one),
                stands=one.stands,
            )
            for one in chain.verification.pads
        ],
    }


def stabilised_out(chain: Chain) -> list[verdict_schemas.StabilisedOut]:
    """What each span of bracing stabilises, at its most."""
    return [
        verdict_schemas.StabilisedOut(
            lines=span.lines,
            count=span.count,
            span=span.span,
            compression=span.compression / 1000,
            force=span.force / 1000,
            bow=span.bow * 1000,
            movement=span.movement * 1000,
            alpha_m=span.alpha_m,
            combination=span.combination.name,
            formula=span.combination.formula,
            firm=span.firm,
        )
        for span in holding.stabilised(chain)
    ]


def marks_out(chain: Chain) -> list[action_schemas.MarkOut]:
    """How near each combination comes to what governs."""
    found = marks(chain.verification, chain.combinations)
    return [
        action_schemas.MarkOut(name=c.name, share=mark.share, at=mark.at, governs=mark.governs)
        for c, mark in zip(chain.combinations, found, strict=True)
    ]


def chain_out(chain: Chain, revision: int) -> schemas.ChainOut:
    """Everything of a chain but diagrams and proofs."""
    structure = chain.structure
    own_storeys = storeys(structure)
    reported = verdicts.members(chain)
    members = [member_out(structure, m, own_storeys[m.verdict.member]) for m in reported]
    return schemas.ChainOut(
        revision=revision,
        fingerprints=chain.fingerprints,
        seconds=chain.seconds,
        members=members,
        roles=roles_out(structure, members),
        cases=[
            action_schemas.CaseOut(
                symbol=found.case.symbol,
                name=found.case.name,
                nature=found.case.nature,
                note=found.case.note,
                expected=kilo(found.balance.expected),
                applied=kilo(found.balance.applied),
                reacted=kilo(found.balance.reacted),
                ground=kilo(found.balance.ground),
                tilted=list(found.balance.tilted),
                off=found.balance.off,
                holds=found.balance.holds,
                exclusive=found.case.exclusive,
                category=found.case.category,
                own=found.own,
                alone=found.case.alone,
            )
            for found in loads.cases(chain)
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
        limits=limits.total(chain),
        limits_variable=limits.variable(chain),
        limits_frequency=limits.frequency(chain),
        limits_slenderness=limits.slenderness(chain),
        secondary=_secondary(chain),
        status=verdicts.worst_state(m.status for m in reported),
        **structure_out(chain.document, structure),
    )
