"""One member of a computed chain: what holds it, what governs it, its proofs, and what a change would do to it."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest
from ninja import Router

from server.api.chains import seen
from server.projects import action_schemas, response_schemas, schemas, single, verdict_schemas

router = Router()


@router.get("/projects/{project_id}/lateral", response={200: response_schemas.LateralOut, 422: schemas.Problem})
async def lateral(request: HttpRequest, project_id: UUID, member: str, state: str, revision: int | None = None) -> Any:
    """The factor at which a member buckles sideways under a case or combination."""
    return await seen(request, project_id, revision, "lateral", member=member, state=state)


@router.get("/projects/{project_id}/ribbon", response={200: verdict_schemas.RibbonOut, 422: schemas.Problem})
async def ribbon(request: HttpRequest, project_id: UUID, member: str, revision: int | None = None) -> Any:
    """The restraints of a member and what they do."""
    return await seen(request, project_id, revision, "ribbon", member=member)


@router.get("/projects/{project_id}/loads", response={200: action_schemas.TracedOut, 422: schemas.Problem})
async def member_loads(
    request: HttpRequest, project_id: UUID, member: str, case: str, revision: int | None = None
) -> Any:
    """The line loads on a member in a case, traced back to their panels."""
    return await seen(request, project_id, revision, "loads", member=member, case=case)


@router.get("/projects/{project_id}/proof", response={200: verdict_schemas.ProofOut, 422: schemas.Problem})
async def proof(
    request: HttpRequest,
    project_id: UUID,
    member: str,
    criterion: str,
    combination: str = "",
    revision: int | None = None,
) -> Any:
    """The proof of a check, in what governs it or in another combination."""
    given = {"member": member, "criterion": criterion, "combination": combination}
    return await seen(request, project_id, revision, "proof", **given)


@router.get("/projects/{project_id}/why", response={200: single.WhyOut, 422: schemas.Problem})
async def why(request: HttpRequest, project_id: UUID, member: str, revision: int | None = None) -> Any:
    """What governs a member, what comes next, and what moves it."""
    return await seen(request, project_id, revision, "why", member=member)


@router.get("/projects/{project_id}/lengths", response={200: single.WaysOut, 422: schemas.Problem})
async def lengths(request: HttpRequest, project_id: UUID, member: str, revision: int | None = None) -> Any:
    """The effective lengths of a member, and what other ways to them lead to."""
    return await seen(request, project_id, revision, "lengths", member=member)


@router.post("/projects/{project_id}/try", response={200: single.TriedOut, 422: schemas.Problem})
async def tried(request: HttpRequest, project_id: UUID, body: single.TryIn) -> Any:
    """What operations would do to a member under the forces present. Nothing is changed."""
    return await seen(request, project_id, body.revision, "tried", **single.told(body))


@router.post("/projects/{project_id}/otherwise", response={200: single.OtherwiseOut, 422: schemas.Problem})
async def otherwise(request: HttpRequest, project_id: UUID, body: single.OtherwiseIn) -> Any:
    """The proof of a member as operations or other methods would make it, under the forces present. Nothing is changed."""
    return await seen(request, project_id, body.revision, "otherwise", asked=single.told(body))
