"""What the API tells and takes of what the office keeps for its projects."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated
from uuid import UUID

from pydantic import BaseModel, Field

from server.projects.kept import Kind


class KeptOut(BaseModel):
    """Something that the office keeps: its kind, name, who kept it last, and when; lines: of a template, its small picture."""

    id: int
    kind: Kind
    title: str
    name: str
    by: str
    changed: datetime
    lines: str = ""


class Keep(BaseModel):
    """To keep what a project has of a kind, as it stands."""

    kind: Kind
    name: Annotated[str, Field(max_length=80)]
    project: UUID


class NationalFile(BaseModel):
    """National values as CSV, to be kept under a name."""

    name: Annotated[str, Field(max_length=80)]
    text: Annotated[str, Field(max_length=200_000)]


class Put(BaseModel):
    """To put what the office keeps into a project, of that revision."""

    base: int
    kept: int
