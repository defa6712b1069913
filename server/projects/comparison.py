"""What differs between the structures of two documents."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.document import Document
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.model import Member, Structure
from server.projects.project_schemas import MemberDifference


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
    if len(a.outer) != len(b.outer) or len(a.inner) != len(b.inner):
        words.append("restraints")
    if a.pieces != b.pieces:
        words.append("haunch")
    return "; ".join(words)
