"""Accounts: invited by link, changed, disabled; and who is signed in where. No mail is sent: a link is handed over."""

from __future__ import annotations

import hashlib
import secrets
from datetime import timedelta
from typing import Any

from django.contrib.auth.models import User
from django.contrib.auth.password_validation import validate_password
from django.contrib.auth.signals import user_logged_in, user_logged_out
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import transaction
from django.dispatch import receiver
from django.http import HttpRequest
from django.utils import timezone

from engine.errors import ModelError
from server.people.models import Event, Invitation, Member, Role, SignedIn
from server.people.roles import role_of

#: days that a link holds
DAYS = 14
#: open links that there may be
MOST_LINKS = 200


def _digest(secret: str) -> str:
    return hashlib.sha256(secret.encode()).hexdigest()


@transaction.atomic
def invite(author: User, role: Role, note: str = "", person: User | None = None) -> str:
    """A new link, by which somebody makes an account with that role, or that person takes a new password: what follows /invited/.
    Raises ModelError when too many are open."""
    Invitation.objects.filter(expires__lt=timezone.now()).delete()
    if person is not None:
        Invitation.objects.filter(person=person).delete()
    if Invitation.objects.count() >= MOST_LINKS:
        raise ModelError(f"There are {MOST_LINKS} open invitations. Withdraw those that nobody needs.", "")
    secret = secrets.token_urlsafe(24)
    expires = timezone.now() + timedelta(days=DAYS)
    Invitation.objects.create(
        digest=_digest(secret), role=role, note=note, person=person, author=author, expires=expires
    )
    words = f"New password offered to {person.get_username()}" if person else f"Invited {note or 'somebody'} as {role}"
    Event.objects.create(person=author, words=words)
    return secret


def invitation_of(secret: str) -> Invitation | None:
    """The open invitation of a link."""
    return Invitation.objects.filter(digest=_digest(secret), expires__gt=timezone.now()).first()


@transaction.atomic
def accept(secret: str, name: str, password: str) -> User:
    """Make the account that a link offers, or give its person the new password. Raises ModelError naming the field."""
    found = Invitation.objects.select_for_update().filter(digest=_digest(secret), expires__gt=timezone.now()).first()
    if found is None:
        raise ModelError("This link was used, withdrawn or is too old. Ask for another one.", "")
    user = found.person or User(username=User.normalize_username(name.strip()))
    if found.person is None and User.objects.filter(username__iexact=user.username).exists():
        raise ModelError("A person of that name already exists here.", "name")
    try:
        if found.person is None:
            User.username_validator(user.username)
            user.full_clean(exclude=["password"])
        validate_password(password, user)
    except ValidationError as error:
        named = getattr(error, "message_dict", {})
        raise ModelError(" ".join(error.messages), "name" if "username" in named else "password") from None
    user.set_password(password)
    user.save()
    if found.person is None:
        Member.objects.create(person=user, role=found.role)
        _as_staff(user, Role(found.role))
    Event.objects.create(person=user, words="Took a new password" if found.person else "Accepted the invitation")
    found.delete()
    end_all(user)
    return user


def _as_staff(user: User, role: Role) -> None:
    """Django's own administration is for administrators."""
    user.is_staff = user.is_superuser = role == Role.ADMINISTRATOR
    user.save(update_fields=["is_staff", "is_superuser"])


@transaction.atomic
def change(author: User, person: User, role: Role | None, active: bool | None) -> None:
    """Give a person another role, or close and open the account. Raises ModelError when no administrator would be left."""
    # one at a time: two administrators might disable each other
    administrators = [
        u
        for u in User.objects.select_for_update().filter(is_active=True).order_by("pk")
        if role_of(u) == Role.ADMINISTRATOR
    ]
    falls = (role is not None and role != Role.ADMINISTRATOR) or active is False
    if falls and administrators == [person]:
        raise ModelError(f"{person.get_username()} is the only administrator: name another one first.", "role")
    if role is not None and role != role_of(person):
        Member.objects.update_or_create(person=person, defaults={"role": role})
        _as_staff(person, role)
        Event.objects.create(person=author, words=f"{person.get_username()} is {role} now")
    if active is not None and active != person.is_active:
        person.is_active = active
        person.save(update_fields=["is_active"])
        Event.objects.create(person=author, words=f"{person.get_username()} {'opened' if active else 'disabled'}")
        if not active:
            end_all(person)


def change_password(user: User, old: str, new: str) -> None:
    """Change one's own password; other browsers are signed out. Raises ModelError naming the field."""
    if not user.check_password(old):
        raise ModelError("That is not your present password.", "old")
    try:
        validate_password(new, user)
    except ValidationError as error:
        raise ModelError(" ".join(error.messages), "new") from None
    user.set_password(new)
    user.save(update_fields=["password"])
    Event.objects.create(person=user, words="Changed the password")


def end(found: SignedIn) -> None:
    """Sign a browser out."""
    Session.objects.filter(session_key=found.key).delete()
    found.delete()


def end_all(user: User, but: str = "") -> None:
    """Sign a person out everywhere, but in one session."""
    for found in SignedIn.objects.filter(person=user).exclude(key=but):
        end(found)


@receiver(user_logged_in)
def _signed_in(sender: Any, request: HttpRequest, user: User, **_: Any) -> None:
    if request.session.session_key is None:
        request.session.save()
    SignedIn.objects.update_or_create(
        key=request.session.session_key,
        defaults={
            "person": user,
            "address": request.META.get("REMOTE_ADDR", "")[:64],
            "browser": request.META.get("HTTP_USER_AGENT", "")[:200],
        },
    )
    Event.objects.create(person=user, words="Signed in")


@receiver(user_logged_out)
def _signed_out(sender: Any, request: HttpRequest, user: User | None, **_: Any) -> None:
    SignedIn.objects.filter(key=request.session.session_key or "").delete()
