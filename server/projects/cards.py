"""What the list of projects tells of a building without opening it: a small picture, the verdict on the whole, its steel."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.chain import Chain
from engine.document import Document
from engine.errors import ModelError
from engine.structure.model import Bools, Structure
from publish.picture import picture
from server.projects.models import Project, Revision


def card_of(document: Document, found: Chain | ModelError) -> dict[str, Any]:
    """The card of a document's result, as `project_schemas.CardOut` without its revision."""
    if isinstance(found, ModelError):
        # a project that is empty is not broken
        return (
            {}
            if document.hall is None and not document.jigs and not document.members
            else {"problem": found.message[:200]}
        )
    structure, whole = found.structure, found.verification.whole
    fails = [v.status == "fails" for v in found.verification.verdicts]
    steel = [m for m in structure.members if m.section.shape != "given" and m.material.strength is not None]
    lines, failing = drawn(structure, np.array(fails, dtype=bool))
    return {
        "members": len(structure.members),
        "failing": whole.failing,
        "not_covered": whole.not_covered,
        "left_out": len(whole.left_out),
        "worst": round(whole.worst, 4),
        "tonnage": round(sum(structure.mass(m) for m in steel) / 1000, 3),
        "lines": lines,
        "failing_lines": failing,
    }


def drawn(structure: Structure, fails: Bools) -> tuple[str, str]:
    """SVG paths of the members that stand and of those that fail, (members,)."""
    return picture(structure.xyz[structure.ends], fails)


def show(project_id: Any, revision_id: int, card: dict[str, Any]) -> None:
    """Keep a card with its project, if it is of the revision that stands."""
    number = Revision.objects.values_list("number", flat=True).get(pk=revision_id)
    Project.objects.filter(pk=project_id, head=revision_id).update(card=card | {"revision": number})
