"""What the list of projects tells of a building without opening it: a small picture, the verdict on the whole, its steel."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.chain import Chain
from engine.document import Document
from engine.errors import ModelError
from engine.structure.model import Bools, Structure
from server.projects.models import Project, Revision

#: size of the picture; the most members in it, the longest ones
WIDTH, HEIGHT = 120.0, 60.0
MOST = 400
#: what a metre along x, y and z is to the right and upwards in the picture: seen from the right, in front and above
RIGHT, UP = np.array([0.82, 0.57, 0.0]), np.array([-0.25, 0.36, 0.9])


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
    ends = structure.xyz[structure.ends]
    if not len(ends):
        return "", ""
    keep = np.sort(np.argsort(-np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1), kind="stable")[:MOST])
    flat = np.stack([ends[keep] @ RIGHT, -(ends[keep] @ UP)], axis=-1)
    low, size = flat.min(axis=(0, 1)), np.ptp(flat, axis=(0, 1))
    scale = float(np.min(np.array([WIDTH, HEIGHT]) / np.maximum(size, 1e-6)))
    placed = (flat - low) * scale + (np.array([WIDTH, HEIGHT]) - size * scale) / 2

    def path(own: Any) -> str:
        return "".join(f"M{a:.1f} {b:.1f}L{c:.1f} {d:.1f}" for (a, b), (c, d) in placed[own].tolist())

    return path(~fails[keep]), path(fails[keep])


def show(project_id: Any, revision_id: int, card: dict[str, Any]) -> None:
    """Keep a card with its project, if it is of the revision that stands."""
    number = Revision.objects.values_list("number", flat=True).get(pk=revision_id)
    Project.objects.filter(pk=project_id, head=revision_id).update(card=card | {"revision": number})
