"""Who may do what: the role in the office, and what somebody may do in a project."""

from __future__ import annotations

from enum import IntEnum
from typing import TYPE_CHECKING, Literal

from django.contrib.auth.models import User
from django.db.models import Q
from django.http import Http404

from server.people.models import Member, Role

if TYPE_CHECKING:
    from server.projects.models import Project


class May(IntEnum):
    """What somebody may do in a project, each including those before it. CHECK: ask questions of the dossier and tick what was seen."""

    LOOK = 1
    CHECK = 2
    CHANGE = 3
    OWN = 4


#: what a share of a project allows, by its role
SHARED = {"viewer": May.LOOK, "checker": May.CHECK, "editor": May.CHANGE}
_WORDS: dict[May, Literal["viewer", "checker", "editor", "owner"]] = {
    May.LOOK: "viewer",
    May.CHECK: "checker",
    May.CHANGE: "editor",
    May.OWN: "owner",
}
#: the most that somebody may do anywhere, by the role in the office
MOST = {Role.VIEWER: May.LOOK, Role.CHECKER: May.CHECK, Role.DESIGNER: May.OWN, Role.ADMINISTRATOR: May.OWN}


class Forbidden(Exception):
    """Somebody may not do what was asked; the words say why and who can help."""

    def __init__(self, message: str) -> None:
        super().__init__(message)
        self.message = message


def role_of(user: User) -> Role:
    """The role of a person in the office."""
    try:
        return Role(user.member.role)
    except Member.DoesNotExist:
        return Role.ADMINISTRATOR if user.is_superuser else Role.DESIGNER


def title_of(user: User) -> Literal["administrator", "designer", "checker", "viewer"]:
    """The same as a word."""
    return role_of(user).value  # type: ignore[return-value]


def shared_with(user: User) -> Q:
    """What of all projects a person may see."""
    seen = Q(owner=user) | Q(pk__in=user.shares.values("project")) | ~Q(office_role="")
    return seen | Q(owner__is_active=False) if role_of(user) == Role.ADMINISTRATOR else seen


def may(user: User, project: Project) -> May | None:
    """What a person may do in a project; None who may not know of it."""
    role = role_of(user)
    if project.owner_id == user.pk:
        return min(May.OWN, MOST[role])
    found = [SHARED[share.role] for share in project.shares.filter(person=user)]
    if project.office_role:
        found.append(SHARED[project.office_role])
    if role == Role.ADMINISTRATOR and (project.office_role or not project.owner.is_active):
        # what belongs to the office, or to somebody who has left it, is the administrators' too
        found.append(May.OWN)
    return min(max(found), MOST[role]) if found else None


def word_for(level: May) -> Literal["viewer", "checker", "editor", "owner"]:
    """The name of what somebody may do in a project."""
    return _WORDS[level]


def need(user: User, project: Project, least: May) -> None:
    """Raises Forbidden when somebody may not do that much in a project, Http404 when they may not know of it."""
    level = may(user, project)
    if level is None:
        raise Http404
    if level >= least:
        return
    if MOST[role_of(user)] < least:
        raise Forbidden(f"You are a {role_of(user)} in this office: you may look at projects, not change them.")
    whose = project.owner.get_username()
    if least is May.OWN:
        raise Forbidden(f"Only {whose}, whose project this is, may do that.")
    raise Forbidden(f"{whose} shares this project with you as {word_for(level)}: you may not change it.")


def need_role(user: User, *roles: Role) -> None:
    """Raises Forbidden when a person has none of these roles in the office."""
    if role_of(user) not in roles:
        raise Forbidden(f"This is for {' and '.join(f'{role}s' for role in roles)} of the office.")
