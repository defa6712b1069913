"""Members as the workbench lists them: what they are made of, how they are held, and what verification says."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.report.verdicts import Check, MemberReport, worst_state
from engine.structure.model import HINGE, Member, Structure
from engine.structure.words import ROLE_WORDS, label
from server.projects import structure_schemas, verdict_schemas


def _inside(places: tuple[float, ...]) -> list[float]:
    """Restraints between the ends."""
    return list(places[1:-1])


def bare_member(structure: Structure, m: Member, storey: str) -> structure_schemas.MemberOut:
    """A member of a storey as it stands, without a verdict."""
    releases = [
        f"{words}: {', '.join(sorted(free))}" + (f", {1000 * joint:.0f} mm from the node" if joint else "")
        for words, free, joint in zip(("start", "end"), (m.release_start, m.release_end), m.joints, strict=True)
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
        joints=m.joints,
        hinged=(not HINGE.isdisjoint(m.release_start), not HINGE.isdisjoint(m.release_end)),
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


def _check_out(check: Check) -> verdict_schemas.CheckOut:
    return verdict_schemas.CheckOut(
        criterion=check.criterion,
        kind=check.kind,
        words=check.words,
        clause=check.clause,
        utilisation=check.utilisation,
        combination=check.combination.name,
        formula=check.combination.formula,
        position=check.position,
    )


def member_out(structure: Structure, m: MemberReport, storey: str) -> structure_schemas.MemberOut:
    """A member with its verdict."""
    found = bare_member(structure, m.member, storey)
    found.status, found.not_covered = m.status, list(m.verdict.not_covered)
    found.left_out, found.checks = list(m.verdict.left_out), [_check_out(check) for check in m.checks]
    if m.governing:
        found.utilisation, found.governs = m.governing.utilisation, m.governing.words
        found.combination = m.governing.combination.name
    return found


def roles_out(structure: Structure, members: list[structure_schemas.MemberOut]) -> list[structure_schemas.RoleOut]:
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
        found.append(
            structure_schemas.RoleOut(
                role=role,
                label=words,
                key=min(slots[role]) if len(slots[role]) == 1 else "",
                section=sections[0] if len(sections) == 1 else f"{len(sections)} sections",
                count=len(own),
                worst=max((m.utilisation for m in own if m.utilisation is not None), default=None),
                status=worst_state(m.status for m in own),
                mass=sum(m.mass for m in own),
            )
        )
    return found
