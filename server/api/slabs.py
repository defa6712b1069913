"""Slabs and walls of a computed revision."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.api.chains import seen
from server.projects import schemas
from server.projects.slab_schemas import SlabOut, SlabRow

router = Router()


@router.get("/projects/{project_id}/slab", response={200: SlabOut, 422: schemas.Problem})
async def slab(
    request: HttpRequest, project_id: UUID, name: str, state: str = "envelope", revision: int | None = None
) -> Any:
    """What goes on within a slab in a case, a combination or their envelope."""
    return await seen(request, project_id, revision, "slab", name=name, state=state)


@router.get("/projects/{project_id}/slabs", response={200: list[SlabRow], 422: schemas.Problem})
async def slabs(request: HttpRequest, project_id: UUID, revision: int | None = None) -> Any:
    """What is greatest and least in every slab over the combinations."""
    return await seen(request, project_id, revision, "slabs")
