"""The people of the office: who they are, invitations, one's own account."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth import update_session_auth_hash
from django.contrib.auth.models import User
from django.http import HttpRequest
from django.shortcuts import get_object_or_404
from django.utils import timezone
from ninja import Router
from ninja.errors import HttpError

from server.api.access import user_of
from server.people import accounts
from server.people.models import Event, Invitation, Role, SignedIn
from server.people.roles import need_role, role_of, title_of
from server.projects import people_schemas, schemas
from server.sign_in import BUSY, turn

router = Router()
#: what of the office's events is listed
LATEST = 300


def _administrator(request: HttpRequest) -> User:
    user: User = user_of(request)
    need_role(user, Role.ADMINISTRATOR)
    return user


@router.get("/people", response=list[people_schemas.PersonOut])
def people(request: HttpRequest) -> list[people_schemas.PersonOut]:
    """Everybody in the office; when they signed in last, for administrators."""
    told = role_of(user_of(request)) == Role.ADMINISTRATOR
    return [
        people_schemas.PersonOut(
            name=user.get_username(),
            role=title_of(user),
            active=user.is_active,
            last=user.last_login if told else None,
        )
        for user in User.objects.select_related("member").order_by("username")
    ]


@router.patch("/people", response={200: list[people_schemas.PersonOut], 422: schemas.Problem})
def change_person(request: HttpRequest, body: people_schemas.PersonChange) -> list[people_schemas.PersonOut]:
    """Give somebody another role, or close and open an account."""
    author = _administrator(request)
    person = get_object_or_404(User, username=body.name)
    accounts.change(author, person, Role(body.role) if body.role else None, body.active)
    return people(request)


@router.get("/people/invitations", response=list[people_schemas.InvitationOut])
def invitations(request: HttpRequest) -> list[people_schemas.InvitationOut]:
    """Links that are open."""
    _administrator(request)
    return [
        people_schemas.InvitationOut(
            id=i.pk,
            role=i.role,  # type: ignore[arg-type]
            note=i.person.get_username() if i.person else i.note,
            password=i.person is not None,
            expires=i.expires,
        )
        for i in Invitation.objects.filter(expires__gt=timezone.now()).select_related("person")
    ]


@router.post("/people/invitations", response={201: people_schemas.LinkOut, 422: schemas.Problem})
def invite(request: HttpRequest, body: people_schemas.Invite) -> tuple[int, people_schemas.LinkOut]:
    """A link by which somebody makes an account, or (person) takes a new password. It is shown this once."""
    author = _administrator(request)
    person = get_object_or_404(User, username=body.person) if body.person else None
    role = role_of(person) if person else Role(body.role)
    secret = accounts.invite(author, role, body.note.strip()[:80], person)
    expires = timezone.now() + timedelta(days=accounts.DAYS)
    return 201, people_schemas.LinkOut(link=request.build_absolute_uri(f"/invited/{secret}"), expires=expires)


@router.delete("/people/invitations/{invitation_id}", response=list[people_schemas.InvitationOut])
def withdraw(request: HttpRequest, invitation_id: int) -> list[people_schemas.InvitationOut]:
    """Withdraw a link."""
    _administrator(request)
    Invitation.objects.filter(pk=invitation_id).delete()
    return invitations(request)


@router.get("/people/events", response=list[people_schemas.HappenedOut])
def events(request: HttpRequest) -> list[people_schemas.HappenedOut]:
    """What was done in the office that concerns no single project, newest first."""
    _administrator(request)
    return [
        people_schemas.HappenedOut(at=e.at, person=e.person.get_username() if e.person else "", words=e.words)
        for e in Event.objects.filter(project=None).select_related("person")[:LATEST]
    ]


@router.post("/me/password", response={204: None, 422: schemas.Problem})
def change_password(request: HttpRequest, body: people_schemas.PasswordChange) -> tuple[int, None]:
    """Change one\u2019s own password; other browsers are signed out."""
    user = user_of(request)
    with turn() as mine:
        if not mine:
            raise HttpError(503, BUSY)
        accounts.change_password(user, body.old, body.new)
    update_session_auth_hash(request, user)
    key = request.session.session_key or ""
    accounts.end_all(user, but=key)
    return 204, None


@router.get("/me/sessions", response=list[people_schemas.SessionOut])
def sessions(request: HttpRequest) -> list[people_schemas.SessionOut]:
    """Where one is signed in."""
    present = request.session.session_key
    return [
        people_schemas.SessionOut(
            id=s.pk, address=s.address, browser=s.browser, began=s.began, present=s.key == present
        )
        for s in SignedIn.objects.filter(person=user_of(request))
    ]


@router.delete("/me/sessions/{session_id}", response=list[people_schemas.SessionOut])
def end_session(request: HttpRequest, session_id: int) -> list[people_schemas.SessionOut]:
    """Sign out elsewhere."""
    found = SignedIn.objects.filter(person=user_of(request), pk=session_id).first()
    if found is not None:
        accounts.end(found)
    return sessions(request)
