"""Names of things of a jig, and what they are called once they are free."""

from __future__ import annotations


def free_name(name: str) -> str:
    """What something of a jig is called once it is free."""
    return name.replace("/", " ")
