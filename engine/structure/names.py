"""Names that last: what a jig set out is called otherwise once it is released."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from engine.document.naming import free_name
from engine.structure.model import Structure


def lasting(names: Iterable[str]) -> dict[str, str]:
    """Names by which things are known whether they are released or not; what something else is called already stays as it is."""
    known = set(names)
    return {name: name if (free := free_name(name)) != name and free in known else free for name in known}


def called_as(before: Structure, now: Structure) -> tuple[Structure, dict[str, str]]:
    """A structure with its members and nodes called as they are now, where they were released or taken into a jig since; and the members' names now by
    those before."""
    members = _now([m.name for m in before.members], [m.name for m in now.members])
    nodes = _now([*before.nodes, *before.aliases], [*now.nodes, *now.aliases])
    if all(old == new for old, new in (*members.items(), *nodes.items())):
        return before, members
    renamed = tuple(replace(m, name=members[m.name]) for m in before.members)
    return replace(
        before,
        members=renamed,
        nodes=tuple(nodes[n] for n in before.nodes),
        index={m.name: i for i, m in enumerate(renamed)},
        aliases={nodes[alias]: nodes.get(name, name) for alias, name in before.aliases.items()},
    ), members


def _now(before: list[str], now: list[str]) -> dict[str, str]:
    """Names now by names before; the same where there is no other."""
    known, lasts = set(now), {last: name for name, last in lasting(now).items()}
    was = lasting(before)
    return {name: name if name in known else lasts.get(was[name], name) for name in before}
