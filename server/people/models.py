"""The people of the office: what each may do, who is invited, who is signed in where, and what was done that is no revision."""

from __future__ import annotations

from django.conf import settings
from django.db import models


class Role(models.TextChoices):
    """What a person may do in the office."""

    ADMINISTRATOR = "administrator"
    DESIGNER = "designer"
    CHECKER = "checker"
    VIEWER = "viewer"


class Member(models.Model):
    """The role of a person. Who has none is a designer; whom Django calls a superuser, an administrator."""

    person = models.OneToOneField(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="member")
    role = models.CharField(max_length=16, choices=Role, default=Role.DESIGNER)


class Invitation(models.Model):
    """A link that makes an account, or gives `person` a new password: once, and for some days. digest: SHA-256 of what the link bears;
    note: whom it is for."""

    digest = models.CharField(max_length=64, unique=True)
    role = models.CharField(max_length=16, choices=Role, default=Role.DESIGNER)
    note = models.CharField(max_length=80, default="", blank=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.CASCADE, related_name="+")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    created = models.DateTimeField(auto_now_add=True)
    expires = models.DateTimeField()

    class Meta:
        ordering = ["-created"]


class SignedIn(models.Model):
    """A browser in which a person is signed in. key: of Django's session."""

    key = models.CharField(max_length=40, unique=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="signed_in")
    address = models.CharField(max_length=64, default="", blank=True)
    browser = models.CharField(max_length=200, default="", blank=True)
    began = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-began"]


class Event(models.Model):
    """What was done that is no revision: in a project (shared, transferred, a run stopped), or in the office (invited, signed in)."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    person = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.SET_NULL, related_name="+")
    project = models.ForeignKey("projects.Project", null=True, on_delete=models.CASCADE, related_name="events")
    words = models.CharField(max_length=200)

    class Meta:
        ordering = ["-at"]
