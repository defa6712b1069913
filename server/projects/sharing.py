"""Sharing a project with people and with all of the office, and giving it to somebody else."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db import transaction

from engine.errors import ModelError
from server.people.models import Event, Role
from server.people.roles import role_of
from server.projects import quotas
from server.projects.models import Project, Share


def _person(name: str) -> User:
    found = User.objects.filter(username=name, is_active=True).first()
    if found is None:
        raise ModelError(f"There is nobody named “{name}” in the office.", "name")
    return found


@transaction.atomic
def share(author: User, project: Project, name: str, role: str | None) -> None:
    """Share a project with a person, or with all of the office where no name is given; without a role, no longer. Raises
    ModelError."""
    whom = name or "all of the office"
    if not name:
        project.office_role = role or ""
        project.save(update_fields=["office_role"])
    else:
        person = _person(name)
        if person.pk == project.owner_id:
            raise ModelError(f"The project is {name}’s own.", "name")
        if role:
            Share.objects.update_or_create(project=project, person=person, defaults={"role": role})
        else:
            Share.objects.filter(project=project, person=person).delete()
    words = f"Shared with {whom} as {role}" if role else f"No longer shared with {whom}"
    Event.objects.create(person=author, project=project, words=words)


@transaction.atomic
def transfer(author: User, project: Project, name: str) -> None:
    """Give a project to somebody else; whose it was keeps on editing it. Raises ModelError."""
    person = _person(name)
    if role_of(person) not in (Role.DESIGNER, Role.ADMINISTRATOR):
        raise ModelError(f"{name} is a {role_of(person)}: projects belong to designers.", "name")
    if person.pk == project.owner_id:
        return
    quotas.check(person, another=True)
    before = project.owner
    Share.objects.filter(project=project, person=person).delete()
    Share.objects.update_or_create(project=project, person=before, defaults={"role": "editor"})
    project.owner = person
    project.save(update_fields=["owner"])
    words = f"Given by {before.get_username()} to {name}"
    Event.objects.create(person=author, project=project, words=words)
