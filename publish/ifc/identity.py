"""Identifiers that follow from a project and a name, so that they last from revision to revision, and when a jig is released."""

from __future__ import annotations

import uuid
from collections.abc import Iterable

from engine.structure.names import lasting

#: classes that a member is built as, by its role
CLASSES = ("IfcColumn", "IfcBeam", "IfcMember")


def identity(space: uuid.UUID, *key: str) -> str:
    """The identifier of something in a project, 32 hexadecimal digits."""
    return uuid.uuid5(space, "/".join(key)).hex


def members_by_identity(space: uuid.UUID, names: Iterable[str]) -> dict[str, str]:
    """Members' names by the identities that they may have, whatever they are built as: of their lasting names, and of their own, as files once bore."""
    known = lasting(names)
    own = {identity(space, kind, name): name for name in known for kind in CLASSES}
    return own | {identity(space, kind, last): name for name, last in known.items() for kind in CLASSES}
