"""How revisions are kept: as differences from a checkpoint, so that an edit of a large project costs what it changes."""

from __future__ import annotations

import json
from typing import Any

from jsonpatch import apply_patch, make_patch

from server.projects.models import Project, Revision

#: documents below so many characters are kept whole
SMALL = 3000
#: a difference above this share of the document makes a new checkpoint
SHARE = 0.1


def record(project: Project, document: dict[str, Any], **values: Any) -> Revision:
    """A new revision with a document, as JSON values; the last one is the first candidate for its checkpoint."""
    last = project.revisions.order_by("-number").select_related("checkpoint").first()
    number = last.number + 1 if last else 1
    found = _difference(last.checkpoint or last, document) if last else None
    if found is None:
        return Revision.objects.create(project=project, number=number, document=document, **values)
    checkpoint, patch = found
    return Revision.objects.create(project=project, number=number, checkpoint=checkpoint, patch=patch, **values)


def _difference(checkpoint: Revision, document: dict[str, Any]) -> tuple[Revision, list[dict[str, Any]]] | None:
    size = len(json.dumps(document))
    if size < SMALL:
        return None
    patch: list[dict[str, Any]] = make_patch(checkpoint.document, document).patch
    if len(json.dumps(patch)) > SHARE * size:
        return None
    # what is put together again is what was stated, or it is kept whole
    return (checkpoint, patch) if apply_patch(checkpoint.document, patch) == document else None
