"""What goes by itself: projects whose wait has ended, sessions, sign-in attempts, links and events of long ago, runs and results that
nobody needs."""

from __future__ import annotations

from datetime import timedelta

from axes.models import AccessAttempt
from django.conf import settings
from django.contrib.sessions.models import Session
from django.db import transaction
from django.utils import timezone

from server.people.models import Event, Invitation, SignedIn
from server.projects import queue, results
from server.projects.models import Project, Result, Revision, Run

#: days that what happened in the office is remembered
EVENT_DAYS = 400


def clean() -> dict[str, int]:
    """Remove all that has had its time; how many of each went."""
    now = timezone.now()
    doomed = list(Project.objects.filter(deleted__lt=now - timedelta(days=settings.DELETED_DAYS)))
    for project in doomed:
        remove(project)
    sessions = Session.objects.filter(expire_date__lt=now).delete()[0]
    SignedIn.objects.exclude(key__in=Session.objects.values("session_key")).delete()
    Invitation.objects.filter(expires__lt=now).delete()
    # of the office; what was done in a project stays as long as the project
    Event.objects.filter(project=None, at__lt=now - timedelta(days=EVENT_DAYS)).delete()
    attempts = AccessAttempt.objects.filter(attempt_time__lt=now - timedelta(days=1)).delete()[0]
    runs = 0
    for kind, days in queue.REMEMBERED.items():
        runs += Run.objects.filter(kind=kind, ended__lt=now - timedelta(days=days)).delete()[0]
    # shown and never stored: their workers died
    Result.objects.filter(complete=False, refused="", used__lt=now - timedelta(days=1)).delete()
    results.prune()
    return {"projects": len(doomed), "sessions": sessions, "attempts": attempts, "runs": runs}


@transaction.atomic
def remove(project: Project) -> None:
    """Remove a project and all its revisions for good."""
    project.runs.all().delete()
    Project.objects.filter(pk=project.pk).update(head=None)
    # revisions hold on to one another
    project.revisions.update(parent=None)
    Revision.objects.filter(project=project).exclude(checkpoint=None).delete()
    project.delete()
