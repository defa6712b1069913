"""Haunches as a choice beside the section: which sizes the groups of a building may have together."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import product
from math import prod

from engine.document import Document
from engine.errors import ModelError
from engine.jigs.haunches import deepest
from engine.sizing.candidates import Candidates, candidates_of
from engine.sizing.groups import Group, HaunchOf
from engine.structure.model import Structure

#: sets of haunches beside what stands, at most: each takes analyses of its own
MOST = 24

#: by the name of a group the length and depth of its deepest haunches, m; of others as they are
Haunches = Mapping[str, HaunchOf]


def offered(document: Document, structure: Structure, group: Group) -> list[Candidates]:
    """What a group may have, with each size of its haunches; the first as they are. Raises ModelError."""
    sizes = [None] if group.kept else _sizes(structure, group)
    return [candidates_of(document, structure, group, size) for size in sizes]


def haunches_of(structure: Structure, groups: Sequence[Group]) -> list[Haunches]:
    """All that the plan allows beside what stands, the smallest first.

    Raises ModelError for a group without a haunch, and for more than `MOST` sets.
    """
    wanted = {g.name: _sizes(structure, g) for g in groups if not g.kept}
    wanted = {name: sizes for name, sizes in wanted.items() if len(sizes) > 1}
    count = prod(len(sizes) for sizes in wanted.values()) - 1
    if count > MOST:
        raise ModelError(f"That makes {count} sets of haunches, more than {MOST}: take fewer sizes.", "sizing.groups")
    sets = [{name: size for name, size in zip(wanted, one, strict=True) if size} for one in product(*wanted.values())]
    return sorted((one for one in sets if one), key=lambda one: sum(a * b for a, b in one.values()))


def _sizes(structure: Structure, group: Group) -> list[HaunchOf | None]:
    """What a group may have, None as it is."""
    plan, of = group.plan, deepest(structure.members[i] for i in group.members)
    if not (plan.haunch_lengths or plan.haunch_depths):
        return [None]
    if of is None:
        raise ModelError(
            f"“{group.name}” has no haunch to make longer or deeper: give it one first.",
            f"sizing.groups.{group.name}.haunch_{'lengths' if plan.haunch_lengths else 'depths'}",
        )
    every = product(dict.fromkeys(plan.haunch_lengths or [of.length]), dict.fromkeys(plan.haunch_depths or [of.depth]))
    return [None, *(size for size in every if size != (of.length, of.depth))]
