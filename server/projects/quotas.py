"""How much one person may keep: stated, seen, and refused in words beyond it."""

from __future__ import annotations

from dataclasses import dataclass

from django.conf import settings
from django.contrib.auth.models import User
from django.db import connection

from engine.errors import ModelError
from server.projects.models import Project


@dataclass(frozen=True)
class Used:
    """Projects and bytes of revisions, issues, pictures and returned models that a person has, and the most of each."""

    projects: int
    most_projects: int
    size: int
    most_size: int


def used(user: User) -> Used:
    """What a person has now, projects that wait to be removed with it."""
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT coalesce(sum(coalesce(pg_column_size(r.document), 0) + coalesce(pg_column_size(r.patch), 0) + 200), 0)"
            " FROM projects_revision r JOIN projects_project p ON p.id = r.project_id WHERE p.owner_id = %s",
            [user.pk],
        )
        size = int(cursor.fetchone()[0])
        cursor.execute(
            "SELECT coalesce(sum(octet_length(i.pdf) + octet_length(i.sheets) + octet_length(i.drawings) + pg_column_size(i.document)), 0)"
            " FROM projects_issue i JOIN projects_project p ON p.id = i.project_id WHERE p.owner_id = %s",
            [user.pk],
        )
        size += int(cursor.fetchone()[0])
        cursor.execute(
            "SELECT coalesce(sum(pg_column_size(r.content)), 0) FROM projects_returned r"
            " JOIN projects_project p ON p.id = r.project_id WHERE p.owner_id = %s",
            [user.pk],
        )
        size += int(cursor.fetchone()[0])
        cursor.execute(
            "SELECT coalesce(sum(octet_length(i.data)), 0) FROM projects_picture i"
            " JOIN projects_project p ON p.id = i.project_id WHERE p.owner_id = %s",
            [user.pk],
        )
        size += int(cursor.fetchone()[0])
    projects = Project.objects.filter(owner=user).count()
    return Used(projects, settings.MOST_PROJECTS, size, settings.MOST_STORAGE)


def check(user: User, another: bool = False) -> None:
    """Raises ModelError when a person has no room for another revision, or (another) for another project."""
    now = used(user)
    advice = "Delete projects that are no longer needed; they are removed some days later, or at once where you say so."
    if another and now.projects >= now.most_projects:
        raise ModelError(f"You have {now.projects} projects, which is the most one may have. {advice}", "")
    if now.size >= now.most_size:
        words = f"The projects of {user.get_username()} take {now.size / 1e6:,.0f} MB, which is the most they may take."
        raise ModelError(f"{words} {advice}", "")
