"""Groups: members that shall have one section, and the sections that each of them may have.

They are proposed by jig and what a jig's section is for, or by role; the document may take members out of them into groups of its
own, and set the end frames apart.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.sections import family_of, is_known, makers
from engine.document import Document
from engine.document.sizing import GroupPlan, Prices
from engine.editing.apply import operate
from engine.editing.operations import Resize
from engine.errors import ModelError
from engine.expand import materials_of
from engine.standards.family import family
from engine.structure.model import Floats, Member, Structure
from engine.structure.words import ROLE_WORDS, label

#: candidates of a group at most
MOST = 600
#: families of sections that are welded of plates or parts
WELDED = ("built", "WI")
#: roles whose inner flange is held by stays; of others it is by what meets them
STAYED = ("rafter", "column", "gable post")
#: what is nearer to an end of a member is there, m
NEAR = 1e-6


@dataclass(frozen=True)
class Choice:
    """A section and its grade."""

    section: str
    grade: str


@dataclass(frozen=True)
class Group:
    """Members, by index, that shall have one section. now: what they have, of the largest where they differ (mixed). kept: why
    nothing of it is chosen, "" where it is."""

    name: str
    members: tuple[int, ...]
    now: Choice
    mixed: bool
    plan: GroupPlan
    kept: str = ""


@dataclass(frozen=True)
class Candidates:
    """What a group may have, in ascending order of what is made least: sections and grades alike, (n,); mass in kg, cost in the
    currency of the prices; weight: the one that counts; slenderness: the largest L_cr/i, 0 of what is never pressed."""

    choices: tuple[Choice, ...]
    sections: tuple[Section, ...]
    mass: Floats
    cost: Floats
    weight: Floats
    slenderness: Floats


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
    frames = [m.frame for m in structure.members if m.frame]
    last = max(frames, default=0)
    by_key: dict[tuple[str, ...], list[int]] = defaultdict(list)
    for i, m in enumerate(structure.members):
        if i not in at:
            apart = () if m.slot else (m.role, m.behaviour)
            by_key[m.jig, m.slot, m.group, m.section.name, m.material.name, *apart].append(i)
    named: dict[str, list[int]] = {}
    names = Counter(_base(structure, members[0]) for members in by_key.values())
    taken: set[str] = set()
    for members in by_key.values():
        name = _base(structure, members[0])
        if names[name] > 1 and name in taken:
            name = _plain(f"{name} as {label(structure.members[members[0]])}")
        taken.add(name)
        ends = [i for i in members if structure.members[i].frame in (1, last) and last > 2]
        if plan.groups.get(name, GroupPlan()).ends_apart and ends and len(ends) < len(members):
            named[f"{name}, end frames"] = ends
            members = [i for i in members if i not in set(ends)]
        named[name] = members
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
    found = [_group(structure, name, members, plan.groups.get(name, GroupPlan())) for name, members in named.items()]
    found.sort(key=lambda g: g.members[0])
    _check_ties(found)
    return tuple(found)


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


def _group(structure: Structure, name: str, members: list[int], plan: GroupPlan) -> Group:
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
        name, tuple(members), Choice(largest.section.name, largest.material.name), len(different) > 1, plan, kept
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


def candidates_of(document: Document, structure: Structure, group: Group) -> Candidates:
    """What a group may have, in order. A group that keeps what it has has that alone.

    Raises ModelError for families and grades that are not known, for lists without any section, and for prices of zero.
    """
    place = f"sizing.groups.{group.name}"
    materials = materials_of(document)
    now = structure.members[max(group.members, key=lambda i: structure.members[i].section.A)].section
    choices = [(now, group.now.grade)]
    if not group.kept:
        sections = _allowed(document, group, now, place)
        for grade in group.plan.grades:
            if materials.material(grade, f"{place}.grades").strength is None:
                raise ModelError(f"“{grade}” has no design strength.", f"{place}.grades")
        grades = list(dict.fromkeys([group.now.grade, *group.plan.grades]))
        choices = [(s, grade) for s in sections for grade in grades]
    members = [structure.members[i] for i in group.members]
    length = sum(structure.length(m) for m in members)
    prices = document.sizing.prices
    by_mass = [s.A * length * materials.material(grade).density for s, grade in choices]
    by_cost = [
        m * price(prices, s, grade) + prices.weld * seams(s) * length + made(prices, structure, members)
        for m, (s, grade) in zip(by_mass, choices, strict=True)
    ]
    if document.sizing.objective == "cost" and not all(price(prices, s, grade) for s, grade in choices):
        raise ModelError(f"“{group.name}” may have what has no price: give its kilogram one.", "sizing.prices")
    mass, cost = np.array(by_mass), np.array(by_cost)
    weight = cost if document.sizing.objective == "cost" else mass
    made_of = [s for s, _ in choices]
    slenderness = _slenderness(document, structure, members, made_of)
    most = document.sizing.slenderness or np.inf
    order = np.argsort(weight, kind="stable")
    if not group.kept:
        order = order[slenderness[order] <= most]
        for limit, own in _limited(document, members).items():
            most = min(most, limit)
            order = order[_slenderness(document, structure, own, made_of, every=True)[order] <= limit]
        if not len(order):
            raise ModelError(f"“{group.name}” has no section of a slenderness up to {most:g}.", place)
    if len(order) > MOST:
        raise ModelError(f"“{group.name}” may have {len(order)} sections, more than {MOST}: take fewer series.", place)
    return Candidates(
        tuple(Choice(choices[k][0].name, choices[k][1]) for k in order),
        tuple(choices[k][0] for k in order),
        mass[order],
        cost[order],
        weight[order],
        slenderness[order],
    )


def _limited(document: Document, members: list[Member]) -> dict[float, list[Member]]:
    """The members that have a limit of slenderness, by it."""
    found: dict[float, list[Member]] = defaultdict(list)
    for m in members:
        limit = document.rules.slenderness_limit(m.role, m.checks.slenderness)
        if limit is not None:
            found[limit].append(m)
    return found


def _slenderness(
    document: Document, structure: Structure, members: list[Member], sections: list[Section], every: bool = False
) -> Floats:
    """(n,) the largest L_cr/i of members with each section; every: also of those that are never pressed."""
    pressed = [m for m in members if every or (m.behaviour != "tension-only" and m.role != "tie")]
    lengths = [family(document).effective_lengths(document, structure, m) for m in pressed]
    y, z = (max((getattr(own, axis) for own in lengths), default=0.0) for axis in ("y", "z"))
    with np.errstate(divide="ignore", invalid="ignore"):
        i_y, i_z = (np.sqrt(np.array([getattr(s, name) / s.A for s in sections])) for name in ("Iy", "Iz"))
        return np.asarray(np.nan_to_num(np.maximum(y / i_y, z / i_z), nan=0.0, posinf=0.0))


def _allowed(document: Document, group: Group, now: Section, place: str) -> list[Section]:
    plan, materials = group.plan, materials_of(document)
    plates = [materials.section(name, f"{place}.plates") for name in plan.plates.names] if plan.plates else []
    if plan.plates and not plates:
        raise ModelError(
            f"“{group.name}” has no section of plates: state depths, widths and both thicknesses.", f"{place}.plates"
        )
    if plan.only:
        found = [materials.section(name, f"{place}.only") for name in plan.only]
    else:
        families = plan.families or ([] if plates else [now.family])
        found = list(plates)
        for family in families:
            of = next((name for name, (own, _) in makers().items() if own == family), None)
            if of is None:
                raise ModelError(f"There is no series “{family}”.", f"{place}.families")
            found += family_of(of)
        found = _on_stock(document, group, found)
    limits = (plan.least_depth, plan.most_depth, plan.least_width, plan.most_width)
    least_h, most_h, least_b, most_b = (
        x if x is not None else y for x, y in zip(limits, (0.0, np.inf, 0.0, np.inf), strict=True)
    )
    near = 1e-6
    kept = [s for s in found if least_h - near <= s.h <= most_h + near and least_b - near <= s.b <= most_b + near]
    if not kept:
        raise ModelError(f"“{group.name}” has no section within its limits.", place)
    return kept


def _on_stock(document: Document, group: Group, found: list[Section]) -> list[Section]:
    """Those of what is on stock, where anything is said of that, and of what is not avoided. Raises ModelError for names that are none, and where nothing
    is left."""
    plan = document.sizing
    for where, names in (("stock", plan.stock), ("avoid", plan.avoid)):
        wrong = next((name for name in names if not is_known(name)), None)
        if wrong is not None:
            raise ModelError(f"There is no section and no series “{wrong}”.", f"sizing.{where}")
    stock, avoid = set(plan.stock), set(plan.avoid)
    kept = [s for s in found if not stock or {s.name, s.family} & stock]
    kept = [s for s in kept if not {s.name, s.family} & avoid]
    if not kept:
        words = "is on stock" if stock else "is not to be avoided"
        raise ModelError(
            f"“{group.name}” has no section that {words}: name others for it.", f"sizing.groups.{group.name}"
        )
    return kept


def seams(section: Section) -> int:
    """Seams between the plates of a section: four, where it is welded."""
    return 4 if section.family in WELDED and section.shape in ("I", "welded I", "box") else 0


def made(prices: Prices, structure: Structure, members: list[Member]) -> float:
    """What members cost whatever they are made of: by piece, and by what is put on them."""
    haunches = sum(h is not None for m in members for h in m.haunches)
    stays = sum(
        sum(NEAR < x < structure.length(m) - NEAR for x in m.inner) for m in members if m.role in STAYED or not m.jig
    )
    return prices.piece * len(members) + prices.haunch * haunches + prices.stay * stays


def price(prices: Prices, section: Section, grade: str) -> float:
    """Of one kilogram; 0 where none is stated."""
    hollow = section.shape in ("square", "rectangular", "circular")
    base = prices.hollow if hollow else prices.welded if section.family in WELDED else prices.rolled
    return base + prices.grades.get(grade, 0.0) if base else 0.0


def with_choices(
    document: Document, structure: Structure, groups: Sequence[Group], choices: Mapping[str, Choice]
) -> Document:
    """The document with other sections of groups, by their names. Raises ModelError where it cannot be set out."""
    for operation in operations(structure, groups, choices):
        document = operate(document, operation)
    return document


def operations(structure: Structure, groups: Sequence[Group], choices: Mapping[str, Choice]) -> list[Resize]:
    """What gives groups other sections; nothing for those that have them or are not named."""
    found = []
    for group in groups:
        choice = choices.get(group.name, group.now)
        if choice == group.now and not group.mixed:
            continue
        names = [structure.members[i].name for i in group.members]
        grade = None if choice.grade == group.now.grade and not group.mixed else choice.grade
        found.append(Resize(members=names, section=choice.section, material=grade))
    return found
