"""Identifiers that follow from a project and a name, so that they last from revision to revision."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

#: classes that a member is built as, by its role
CLASSES = ("IfcColumn", "IfcBeam", "IfcMember")


def identity(space: uuid.UUID, *key: str) -> str:
    """The identifier of something in a project, 32 hexadecimal digits."""
    return uuid.uuid5(space, "/".join(key)).hex


def members_by_identity(space: uuid.UUID, names: Iterable[str]) -> dict[str, str]:
    """Members' names by the identities that they may have, whatever they are built as."""
    return {identity(space, kind, name): name for name in names for kind in CLASSES}
