"""Who asks, and what of theirs they ask for; and how a view waits without holding a thread or a connection."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar
from uuid import UUID

from asgiref.sync import sync_to_async
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404

from engine.document import Document, read_stored
from server.people.roles import May
from server.projects import project_schemas, revisions
from server.projects.models import Project, Revision

T = TypeVar("T")
PDF, SHEETS = "application/pdf", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
DXF, IFC, HTML = "image/vnd.dxf", "application/x-step", "text/html; charset=utf-8"
WORD = "application/vnd.openxmlformats-officedocument.wordprocessingml.document"
ZIP = "application/zip"
#: how files of a kind end
ENDS = {
    "application/json": "json",
    "text/csv": "csv",
    PDF: "pdf",
    SHEETS: "xlsx",
    DXF: "dxf",
    IFC: "ifc",
    HTML: "html",
    WORD: "docx",
    ZIP: "zip",
}


def user_of(request: HttpRequest) -> Any:
    """The signed-in user."""
    return request.auth  # type: ignore[attr-defined]


def revision_of(
    request: HttpRequest, project_id: UUID, revision: int | None, least: May = May.LOOK
) -> tuple[Project, Revision]:
    """A project that the user may do that much in, and one of its revisions, without a number the one that stands. Raises Http404 and
    Forbidden."""
    project = revisions.project_of(user_of(request), project_id, least)
    if revision is None:
        assert project.head is not None
        return project, project.head
    return project, get_object_or_404(Revision, project=project, number=revision)


def document_of(request: HttpRequest, project_id: UUID, revision: int | None) -> tuple[Document, int]:
    """The document of a revision, and its number."""
    found = revision_of(request, project_id, revision)[1]
    return read_stored(found.content), found.number


def revision_out(revision: Revision) -> project_schemas.RevisionOut:
    """A revision without its document."""
    author = revision.author.get_username() if revision.author else ""
    return project_schemas.RevisionOut(
        number=revision.number, label=revision.label, author=author, created=revision.created
    )


def download(body: str | bytes, name: str, suffix: str, kind: str = "application/json") -> HttpResponse:
    """An answer that browsers save as a file."""
    safe = "".join(c if c.isascii() and c.isalnum() else "-" for c in name).strip("-").lower()
    response = HttpResponse(body, content_type=kind)
    response["Content-Disposition"] = f'attachment; filename="{safe}-{suffix}.{ENDS[kind]}"'
    return response


async def in_thread(work: Callable[..., T], *arguments: Any) -> T:
    """What asks the database, from an asynchronous view; its connection goes back when it is done."""

    def done() -> T:
        try:
            return work(*arguments)
        finally:
            if not connection.in_atomic_block:
                connection.close()

    return await sync_to_async(done)()
