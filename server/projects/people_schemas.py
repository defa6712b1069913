"""What the API tells and takes of the people of the office: who they are, what is shared with whom, what was done."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import BaseModel

OfficeRole = Literal["administrator", "designer", "checker", "viewer"]
ProjectRole = Literal["owner", "editor", "checker", "viewer"]
SharedRole = Literal["editor", "checker", "viewer"]


class Me(BaseModel):
    """Who is signed in, and their role in the office."""

    name: str
    role: OfficeRole


class SharingOut(BaseModel):
    """Whose a project is and who may see it. office_role: as what all of the office may, None for not at all."""

    owner: str
    office_role: SharedRole | None
    shares: list[ShareOut]


class ShareOut(BaseModel):
    name: str
    role: SharedRole


class Sharing(BaseModel):
    """name: of a person, empty for all of the office; role: None to share no longer."""

    name: str = ""
    role: SharedRole | None = None


class Transfer(BaseModel):
    name: str


class HappenedOut(BaseModel):
    """Something that was done. revision: the one that it made, if it made one."""

    at: datetime
    person: str
    words: str
    revision: int | None = None


class PersonOut(BaseModel):
    """A person of the office. last: when they signed in last, told to administrators alone."""

    name: str
    role: OfficeRole
    active: bool
    last: datetime | None


class PersonChange(BaseModel):
    name: str
    role: OfficeRole | None = None
    active: bool | None = None


class Invite(BaseModel):
    """note: whom the link is for; person: who has an account and takes a new password."""

    role: OfficeRole = "designer"
    note: str = ""
    person: str = ""


class LinkOut(BaseModel):
    link: str
    expires: datetime


class InvitationOut(BaseModel):
    """An open link, without its secret. password: it gives the person in the note a new password."""

    id: int
    role: OfficeRole
    note: str
    password: bool
    expires: datetime


class PasswordChange(BaseModel):
    old: str
    new: str


class SessionOut(BaseModel):
    """A browser in which one is signed in. present: the one that asks."""

    id: int
    address: str
    browser: str
    began: datetime
    present: bool
