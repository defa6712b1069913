"""What differs between two revisions: inputs, members, and what was computed of them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any
from uuid import UUID

import numpy as np

from engine.chain import Chain, run
from engine.document import Document, read_stored
from engine.errors import ModelError
from engine.expand import expand
from engine.report.compared import compared
from engine.sizing.costs import amounts
from engine.structure.model import Member, Structure
from server.projects import results
from server.projects.changes import by_name, differences
from server.projects.models import Revision
from server.projects.project_schemas import AmountBeside, Beside, InputDifference, MemberDifference

#: inputs, members and reactions that are told
MOST = 200


@dataclass(frozen=True)
class Differences:
    """Members by name; tonnage in tonnes, None for a document that cannot be set out."""

    added: list[str]
    removed: list[str]
    changed: list[MemberDifference]
    tonnage_before: float | None
    tonnage_after: float | None


def compare_documents(before: Document, after: Document) -> Differences:
    """Members added, removed and changed from one document to another, and the tonnage of both."""
    one, other = _structure(before), _structure(after)
    first, second = (s.index if s else {} for s in (one, other))
    changed = []
    if one and other:
        for name in first:
            if name in second and (words := _difference(one, one.member(name), other, other.member(name))):
                changed.append(MemberDifference(member=name, what=words))
    return Differences(
        added=[name for name in second if name not in first],
        removed=[name for name in first if name not in second],
        changed=changed,
        tonnage_before=_tonnage(one),
        tonnage_after=_tonnage(other),
    )


def _structure(document: Document) -> Structure | None:
    try:
        return expand(document)
    except ModelError:
        return None


def _tonnage(structure: Structure | None) -> float | None:
    return sum(structure.mass(m) for m in structure.members) / 1000 if structure else None


def _difference(one: Structure, a: Member, other: Structure, b: Member) -> str:
    """How a member differs, in words; "" when it does not."""
    words = [
        f"{name} {before} → {after}"
        for name, before, after in (
            ("section", a.section.name, b.section.name),
            ("grade", a.material.name, b.material.name),
            ("behaviour", a.behaviour, b.behaviour),
            ("group", a.group or "–", b.group or "–"),
        )
        if before != after
    ]
    lengths = one.length(a), other.length(b)
    if abs(lengths[0] - lengths[1]) > 1e-4:
        words.append(f"length {lengths[0]:.3f} → {lengths[1]:.3f} m")
    elif np.abs(one.xyz[[a.nodes[0], a.nodes[-1]]] - other.xyz[[b.nodes[0], b.nodes[-1]]]).max() > 1e-4:
        words.append("moved")
    if abs(a.roll - b.roll) > 1e-6:
        words.append("turned")
    if (a.release_start, a.release_end) != (b.release_start, b.release_end):
        words.append("releases")
    if np.abs(np.subtract(a.joints, b.joints)).max() > 1e-4:
        words.append("where it bears")
    if len(a.outer) != len(b.outer) or len(a.inner) != len(b.inner):
        words.append("restraints")
    if a.pieces != b.pieces:
        words.append("haunch")
    return "; ".join(words)


def beside(chain: Chain, number: int, project: str, before: int) -> Beside:
    """What was computed of a revision beside an older one, and in which inputs they differ. Raises ModelError where one cannot be."""
    revisions = {r.number: r for r in Revision.objects.filter(project=UUID(project), number__in=(before, number))}
    if before not in revisions:
        raise ModelError(f"There is no revision {before} of this project.", "before")
    one, other = (revisions[n].content for n in (before, number))
    document = read_stored(one)
    old = results.chain_by(results.key_of(document)) or run(document)
    if isinstance(old, ModelError):
        raise ModelError(f"Revision {before} cannot be computed: {old.message}", old.place)
    found = compared(old, chain)
    inputs = [
        InputDifference(what=_said(d.path), before=d.before, after=d.after)
        for d in differences(_keyed(one), _keyed(other))
    ]
    return Beside.model_validate(
        {
            "before": before,
            "after": number,
            "stood": found.before,
            "stands": found.after,
            "amounts": _amounts(old, chain),
            "inputs": inputs[:MOST],
            "inputs_left": max(len(inputs) - MOST, 0),
            "members": found.members[:MOST],
            "members_left": max(len(found.members) - MOST, 0),
            "members_alike": found.members_alike,
            "reactions": found.reactions[:MOST],
            "reactions_left": max(len(found.reactions) - MOST, 0),
            "reactions_alike": found.reactions_alike,
        },
        from_attributes=True,
    )


def _amounts(before: Chain, after: Chain) -> list[AmountBeside]:
    """What both weigh and cost by role, by the prices of the later one."""
    prices = after.document.sizing.prices
    one, other = ({a.role: a for a in amounts(c.structure, prices)} for c in (before, after))

    def pair(role: str, key: str) -> tuple[float, float]:
        return tuple(float(getattr(of[role], key)) if role in of else 0.0 for of in (one, other))  # type: ignore[return-value]

    return [
        AmountBeside(
            words=(other.get(role) or one[role]).words,
            number=pair(role, "number"),
            mass=pair(role, "mass"),
            cost=pair(role, "cost"),
            carbon=pair(role, "carbon"),
        )
        for role in dict.fromkeys([*other, *one])
    ]


def _keyed(value: Any) -> Any:
    """A document with lists of named things as tables by their names."""
    if isinstance(value, dict):
        return {key: _keyed(inner) for key, inner in value.items()}
    if isinstance(value, list):
        named = by_name(value)
        return [_keyed(inner) for inner in value] if named is None else _keyed(named)
    return value


def _said(path: str) -> str:
    """A place of a document in words: “site · ground snow”."""
    return " · ".join(step.replace("_", " ") for step in path.split("."))
