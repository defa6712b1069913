"""Groups: members that shall have one section, and what gives them other sections.

They are proposed by jig and what a jig's section is for, or by role; the document may take members out of them into groups of its
own, and split them by place.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from engine.catalogue.sections import makers
from engine.document import Document
from engine.document.sizing import GroupPlan, SizingPlan
from engine.editing.apply import resize
from engine.editing.operations import HaunchSize, Resize
from engine.errors import ModelError
from engine.sizing.splits import split
from engine.structure.model import Structure
from engine.structure.words import ROLE_WORDS, label

#: length and depth of haunches, m
HaunchOf = tuple[float, float]


@dataclass(frozen=True)
class Choice:
    """A section and its grade; haunch: length and depth of the deepest haunches, m, None: none, or as they are."""

    section: str
    grade: str
    haunch: HaunchOf | None = None

    @property
    def words(self) -> str:
        """“IPE 400, haunch 2.4 × 0.3 m”."""
        return self.section + (f", haunch {self.haunch[0]:g} × {self.haunch[1]:g} m" if self.haunch else "")


@dataclass(frozen=True)
class Group:
    """Members, by index, that shall have one section. now: what they have, of the largest where they differ (mixed). kept: why
    nothing of it is chosen, "" where it is. of: the group that it was split from, its own name where it was not."""

    name: str
    members: tuple[int, ...]
    now: Choice
    mixed: bool
    plan: GroupPlan
    kept: str = ""
    of: str = ""


def groups_of(document: Document, structure: Structure) -> tuple[Group, ...]:
    """The groups of a structure, in the order of their members.

    Every member is in one of them. Raises ModelError where the plan puts a member into two groups, gives two groups one name, or ties
    groups in a circle.
    """
    plan = document.sizing
    at: dict[int, str] = {}
    for k, own in enumerate(plan.own):
        for name in own.members:
            i = structure.index.get(name)
            if i is None:
                continue
            if i in at:
                raise ModelError(f"“{name}” is in two groups, “{at[i]}” and “{own.name}”.", f"sizing.own.{k}")
            at[i] = own.name
    by_key: dict[tuple[str, ...], list[int]] = defaultdict(list)
    for i, m in enumerate(structure.members):
        if i not in at:
            apart = () if m.slot else (m.role, m.behaviour)
            by_key[m.jig, m.slot, m.group, m.section.name, m.material.name, *apart].append(i)
    named: dict[str, list[int]] = {}
    of: dict[str, str] = {}
    names = Counter(_base(structure, members[0]) for members in by_key.values())
    taken: set[str] = set()
    for members in by_key.values():
        name = _base(structure, members[0])
        if names[name] > 1 and name in taken:
            name = _plain(f"{name} as {label(structure.members[members[0]])}")
        taken.add(name)
        for part, own_members in _parts(structure, members, plan.groups.get(name, GroupPlan())).items():
            named[_plain(name + part)] = own_members
            of[_plain(name + part)] = name
    for k, own in enumerate(plan.own):
        if own.name in named or own.name in [other.name for other in plan.own[:k]]:
            raise ModelError(
                f"There already is a group “{own.name}”: give this one another name.", f"sizing.own.{k}.name"
            )
    for own in plan.own:
        members = [i for i, name in at.items() if name == own.name]
        if members:
            named[own.name] = members
    if sum(len(members) for members in named.values()) != len(structure.members):
        raise ModelError("Two groups would bear one name: name members or jigs apart.", "sizing.groups")
    found = []
    for name, members in named.items():
        base = of.get(name, name)
        found.append(_group(structure, name, members, plan_of(plan, name, base), base))
    found.sort(key=lambda g: g.members[0])
    _check_ties(found)
    return tuple(found)


def plan_of(plan: SizingPlan, name: str, of: str) -> GroupPlan:
    """What a group may have: a part that has no plan of its own has that of the group it was split from."""
    return plan.groups.get(name) or plan.groups.get(of, GroupPlan())


def _parts(structure: Structure, members: list[int], plan: GroupPlan) -> dict[str, list[int]]:
    """What a group is split into, by what is added to its name."""
    found = {"": members}
    for by in dict.fromkeys(plan.apart):
        found = {
            name + (f", {words}" if words else ""): own
            for name, whole in found.items()
            for words, own in split(structure, whole, by).items()
        }
    return found


def _base(structure: Structure, member: int) -> str:
    """“Rafters”, “truss-1 · Top chords”, “Columns · shed”."""
    m = structure.members[member]
    plural = ROLE_WORDS[m.role][1]
    words = m.slot.replace("_", " ").capitalize() if m.slot and m.jig == "hall" else plural
    words = (f"{m.jig} · " if m.jig not in ("", "hall") else "") + words + (f" · {m.group}" if m.group else "")
    return _plain(words)


def _plain(words: str) -> str:
    """Without what dotted paths into the document are made of."""
    return words.replace(".", "·")


def _group(structure: Structure, name: str, members: list[int], plan: GroupPlan, of: str) -> Group:
    own = [structure.members[i] for i in members]
    largest = max(own, key=lambda m: m.section.A * m.material.density)
    different = {(m.section.name, m.material.name) for m in own}
    kept = ""
    if plan.locked:
        kept = "locked"
    elif any(m.section.shape == "given" for m in own):
        kept = "known by its stiffness alone"
    elif any(m.material.strength is None for m in own):
        kept = "its material has no design strength"
    elif largest.section.name not in makers() and not (plan.families or plan.only or plan.plates):
        kept = "its section belongs to no series: name the series that it may be taken from"
    elif any(m.pieces and any(p.section.shape != "haunched" for p in m.pieces) for m in own):
        kept = "tapered"
    return Group(
        name, tuple(members), Choice(largest.section.name, largest.material.name), len(different) > 1, plan, kept, of
    )


def _check_ties(groups: list[Group]) -> None:
    by_name = {g.name: g for g in groups}

    def follow(seen: list[str]) -> None:
        plan = by_name[seen[-1]].plan
        for key in ("not_deeper_than", "as_deep_as"):
            other = getattr(plan, key)
            if other is None:
                continue
            place = f"sizing.groups.{seen[-1]}.{key}"
            if other not in by_name:
                raise ModelError(f"“{seen[-1]}” is tied to “{other}”, which is no group.", place)
            if other in seen:
                raise ModelError(f"Groups are tied in a circle: {' → '.join([*seen, other])}.", place)
            follow([*seen, other])

    for group in groups:
        follow([group.name])


def with_choices(
    document: Document, structure: Structure, groups: Sequence[Group], choices: Mapping[str, Choice]
) -> Document:
    """The document with other sections and haunches of groups, by their names. Raises ModelError where it cannot be set out."""
    return resize(document, structure, operations(structure, groups, choices))


def operations(structure: Structure, groups: Sequence[Group], choices: Mapping[str, Choice]) -> list[Resize]:
    """What gives groups other sections; nothing for those that have them or are not named."""
    found = []
    for group in groups:
        choice = choices.get(group.name, group.now)
        if choice == group.now and not group.mixed:
            continue
        names = [structure.members[i].name for i in group.members]
        grade = None if choice.grade == group.now.grade and not group.mixed else choice.grade
        size = HaunchSize(length=choice.haunch[0], depth=choice.haunch[1]) if choice.haunch else None
        found.append(Resize(members=names, section=choice.section, material=grade, haunch=size))
    return found
