"""A project as one file to be carried to another installation: its revisions, pictures and issues in a ZIP, with a list of what is in it."""

from __future__ import annotations

import io
import json
import zipfile
import zlib
from typing import Annotated, Any, Literal

from django.contrib.auth.models import User
from django.db import transaction
from pydantic import BaseModel, Field, ValidationError

from engine.chain import prepare
from engine.document import Document, read_document
from engine.document.reading import read_json
from engine.document.units import in_kilonewtons
from engine.errors import ModelError
from server.projects import quotas, revisions
from server.projects.history import record
from server.projects.models import Project, Revision
from server.projects.pictures import MOST, receive

#: revisions that go along: those with a name, those issued, and the latest
LATEST = 200
#: bytes that an archive may hold, unpacked
MOST_BYTES = 200_000_000
LIST = "project.json"
README = """A project of Lorica.

project.json       what is in here
revisions/         documents, in Lorica's open format; the last one stands
pictures/          pictures of the dossier
issues/            dossiers as they were issued, with the document that each speaks of; they are not taken in again

Lorica takes this file in where projects are imported. Questions, ticks and shares stay where they were made.
"""


class PackedRevision(BaseModel):
    file: Annotated[str, Field(pattern=r"^revisions/\d{1,8}\.json$")]
    label: Annotated[str, Field(max_length=200)]
    name: Annotated[str, Field(max_length=80)] = ""
    author: Annotated[str, Field(max_length=150)] = ""
    created: Annotated[str, Field(max_length=40)] = ""


class PackedPicture(BaseModel):
    file: Annotated[str, Field(pattern=r"^pictures/[0-9a-f]{16}$")]
    name: Annotated[str, Field(max_length=120)]


class Packed(BaseModel):
    """The list. revisions: oldest first; the last one stands."""

    format: Literal["lorica-project"]
    version: Literal[1] = 1
    name: Annotated[str, Field(max_length=80)]
    revisions: Annotated[list[PackedRevision], Field(min_length=1, max_length=2000)]
    pictures: Annotated[list[PackedPicture], Field(max_length=MOST)] = []


def packed(project: Project) -> bytes:
    """The archive of a project."""
    assert project.head is not None
    issues = list(project.issues.select_related("revision"))
    latest = set(project.revisions.order_by("-number").values_list("number", flat=True)[:LATEST])
    latest |= {i.revision.number for i in issues} | set(
        project.revisions.exclude(name="").values_list("number", flat=True)
    )
    head = project.head
    found = project.revisions.select_related("author", "checkpoint").filter(number__in=latest).exclude(pk=head.pk)
    file = io.BytesIO()
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        rows = [_revision(archive, one) for one in [*found, head]]
        shown = []
        for picture in project.pictures.all():
            archive.writestr(f"pictures/{picture.key}", bytes(picture.data))
            shown.append(PackedPicture(file=f"pictures/{picture.key}", name=picture.name))
        for issue in issues:
            archive.writestr(f"issues/{issue.number}.pdf", bytes(issue.pdf))
            archive.writestr(f"issues/{issue.number}.json", json.dumps(issue.document))
        told = Packed(format="lorica-project", name=project.name, revisions=rows, pictures=shown)
        archive.writestr(LIST, told.model_dump_json(indent=1))
        archive.writestr("README.txt", README)
    return file.getvalue()


def _revision(archive: zipfile.ZipFile, one: Revision) -> PackedRevision:
    name = f"revisions/{one.number:04d}.json"
    archive.writestr(name, json.dumps(one.content))
    author = one.author.get_username() if one.author else ""
    return PackedRevision(
        file=name, label=one.label, name=one.name, author=author, created=one.created.isoformat()[:16]
    )


def unpacked(user: User, data: bytes) -> Project:
    """A new project from an archive, with its revisions as they followed one another. Raises ModelError, and then nothing is made."""
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            if sum(info.file_size for info in archive.infolist()) > MOST_BYTES:
                raise ModelError(f"The archive grows beyond {MOST_BYTES // 1_000_000} MB.", "file")
            told = Packed.model_validate_json(archive.read(LIST))
            documents = [(one, _document(archive, one.file)) for one in told.revisions]
            shown = [(one.name, archive.read(one.file)) for one in told.pictures]
    except (zipfile.BadZipFile, zlib.error, RuntimeError, NotImplementedError, OSError, EOFError) as error:
        # broken inside, under a password, or packed in a way that is not known here
        raise ModelError("The file is no archive that can be opened.", "file") from error
    except KeyError as error:
        raise ModelError("The archive lacks a file that it lists, or its list.", "file") from error
    except ValidationError as error:
        raise ModelError("The archive holds no project of Lorica's, or one of a later version.", "file") from error
    return _made(user, told.name, documents, shown)


def _document(archive: zipfile.ZipFile, file: str) -> Document:
    try:
        return in_kilonewtons(read_document(read_json(archive.read(file))))
    except ModelError as error:
        raise ModelError(f"{file}: {error.message}", "file") from error


@transaction.atomic
def _made(
    user: User, name: str, documents: list[tuple[PackedRevision, Document]], shown: list[tuple[str, bytes]]
) -> Project:
    quotas.check(user, another=True)
    loaded = prepare(documents[-1][1], most=revisions.AT_ONCE)
    project = Project.objects.create(owner=user, name=name)
    for one, document in documents:
        by = ", ".join(filter(None, (one.author, one.created.replace("T", " "))))
        label = f"{one.label} ({by})" if by else one.label
        values: dict[str, Any] = {"label": label[:200], "name": one.name, "author": user, "parent": project.head}
        project.head = record(project, document.model_dump(mode="json"), **values)
    project.save()
    for title, picture in shown:
        receive(user, project, title, picture)
    revisions.refresh(project, loaded)
    return project
