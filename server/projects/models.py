"""Projects and their revisions."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.db import models


class Project(models.Model):
    """A piece of work of one owner. head: the revision that stands; redo: numbers of revisions that were undone."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="projects")
    name = models.CharField(max_length=80)
    archived = models.BooleanField(default=False)
    created = models.DateTimeField(auto_now_add=True)
    changed = models.DateTimeField(auto_now=True)
    head = models.ForeignKey("Revision", null=True, on_delete=models.PROTECT, related_name="+")
    redo = models.JSONField(default=list)

    class Meta:
        ordering = ["-changed"]


class OfficeSection(models.Model):
    """A section of an office's own catalogue, ready to be taken into a project."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="office_sections")
    name = models.CharField(max_length=80)
    definition = models.JSONField()

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="one_office_section_a_name")]


class Revision(models.Model):
    """An immutable state of a project's document."""

    project = models.ForeignKey(Project, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    parent = models.ForeignKey("self", null=True, on_delete=models.PROTECT, related_name="children")
    document = models.JSONField()
    label = models.CharField(max_length=200)
    name = models.CharField(max_length=80, default="", blank=True)
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [models.UniqueConstraint(fields=["project", "number"], name="one_revision_a_number")]
