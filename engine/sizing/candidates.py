"""What a group may have: sections and grades as its plan allows, what they weigh and cost."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.sections import family_of, is_known, makers
from engine.document import Document
from engine.document.sizing import Prices
from engine.errors import ModelError
from engine.expand import materials_of
from engine.jigs.haunches import deepest, steel
from engine.sizing.groups import Choice, Group, HaunchOf
from engine.standards.family import family
from engine.structure.model import Floats, Member, Structure

#: candidates of a group at most
MOST = 600
#: roles whose inner flange is held by stays; of others it is by what meets them
STAYED = ("rafter", "column", "gable post")
#: what is nearer to an end of a member is there, m
NEAR = 1e-6


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


def candidates_of(document: Document, structure: Structure, group: Group, haunch: HaunchOf | None = None) -> Candidates:
    """What a group may have, in order. A group that keeps what it has has that alone. haunch: with its deepest haunches of that length
    and depth, where it is given.

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
        sections = _deep_enough(structure, group, sections, haunch)
        choices = [(s, grade) for s in sections for grade in grades]
    members = [structure.members[i] for i in group.members]
    length = sum(structure.length(m) for m in members)
    prices = document.sizing.prices
    more = _haunch_steel(document, members, [s for s, _ in choices], haunch)
    by_mass = [
        (s.weighing * length + own) * materials.material(grade).density
        for own, (s, grade) in zip(more, choices, strict=True)
    ]
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
        tuple(Choice(choices[k][0].name, choices[k][1], haunch) for k in order),
        tuple(choices[k][0] for k in order),
        mass[order],
        cost[order],
        weight[order],
        slenderness[order],
    )


def _deep_enough(structure: Structure, group: Group, sections: list[Section], haunch: HaunchOf | None) -> list[Section]:
    """Those that the group's haunches can be cut from, where they are cut from the section itself."""
    own = [structure.members[i] for i in group.members]
    of = deepest(own)
    cut = [h for m in own for h in m.haunches if h and h.made_of == "cut" and not h.section]
    least = max((haunch[1] if haunch and h == of else h.depth for h in cut), default=0.0)
    if not least:
        return sections
    kept = [s for s in sections if s.shape == "I" and s.h - s.tf >= least]
    if not kept:
        raise ModelError(
            f"No section that “{group.name}” may have is deep enough to cut a haunch of {least:g} m from.",
            f"sizing.groups.{group.name}.haunch_depths",
        )
    return kept


def _haunch_steel(
    document: Document, members: list[Member], sections: list[Section], haunch: HaunchOf | None
) -> Floats:
    """(n,) m³ of the haunches of members made of sections."""
    found, of = np.zeros(len(sections)), deepest(members)
    for h in (h for m in members for h in m.haunches if h):
        now = h.model_copy(update=dict(zip(("length", "depth"), haunch, strict=True))) if haunch and h == of else h
        cut = [materials_of(document).section(h.section)] * len(sections) if h.section else sections
        found = found + steel(now, *(np.array([getattr(s, key) for s in cut]) for key in ("tw", "b", "tf")))
    return found


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
    return 4 if section.welded and section.shape in ("I", "welded I", "box") else 0


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
    base = prices.hollow if hollow else prices.welded if section.welded else prices.rolled
    return base + prices.grades.get(grade, 0.0) if base else 0.0
