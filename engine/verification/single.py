"""One member by itself: what it reaches in every combination by each criterion, and what it would reach if it were another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.combined import Combined
from engine.document import Document
from engine.structure.model import Floats, Ints, Structure
from engine.verification.axial import axial_values, is_axial
from engine.verification.channels import buckling_use, is_channel, section_use
from engine.verification.general import Within, alike
from engine.verification.grounds import Grounds
from engine.verification.net import net_values
from engine.verification.outcomes import Outcome
from engine.verification.sections import section_values
from engine.verification.service import Stretch, measure, stretches
from engine.verification.stability import criteria, stability_values
from engine.verification.verify import Verification
from engine.verification.webs import checked as pressed_places
from engine.verification.webs import web_values


@dataclass(frozen=True)
class Reached:
    """One criterion of one member under combinations, (c,): the utilisation in each and where it is reached, as in `Outcome`.

    used: numbers of the combinations.
    """

    criterion: str
    used: tuple[int, ...]
    utilisation: Floats
    row: Ints
    station: Ints
    position: Floats

    def outcome(self, column: int) -> Outcome:
        """As what governs in one of the combinations."""
        c = column
        return Outcome(
            self.criterion,
            float(self.utilisation[c]),
            c,
            float(self.position[c]),
            int(self.row[c]),
            int(self.station[c]),
        )

    @property
    def worst(self) -> int:
        """The combination, by its place among those used, in which most is reached; −1 where nothing could be computed."""
        known = np.nan_to_num(self.utilisation, nan=-1.0)
        return int(known.argmax()) if known.size and known.max() >= 0 else -1


def reached(document: Document, grounds: Grounds, member: int, governing: bool = False) -> list[Reached]:
    """All criteria of strength that apply to a member, in all combinations for strength. governing: of the general method, which
    takes longest, the one that governs alone; NaN in the others."""
    m = grounds.combined.structure.members[member]
    if grounds.strength and is_channel(m):
        return _channel(document, grounds, member)
    if not grounds.strength or np.isnan(_strength(grounds, member)):
        return []
    holed = [_net(document, grounds, member)] if _holed(grounds, member) else []
    if is_axial(m):
        return [_bar(document, grounds, member), *_sections(document, grounds, member), *holed]
    return [
        *holed,
        *_sections(document, grounds, member),
        *_webs(document, grounds, member),
        *_stability(document, grounds, member),
        *_general(document, grounds, member, governing),
    ]


def _strength(grounds: Grounds, member: int) -> float:
    m = grounds.combined.structure.members[member]
    return 1.0 if is_axial(m) else float(grounds.steel.fy[member])


def _most(criterion: str, used: tuple[int, ...], u: Floats, places: list[tuple[int, int, float]]) -> Reached:
    """u: (places, combinations)."""
    at = np.where(np.isnan(u).all(axis=0), 0, np.nan_to_num(u, nan=-1.0).argmax(axis=0))
    rows, stations, x = (np.array(column) for column in zip(*places, strict=True))
    return Reached(criterion, used, u[at, np.arange(u.shape[1])], rows[at], stations[at], x[at])


def _sections(document: Document, grounds: Grounds, member: int) -> list[Reached]:
    elements = grounds.combined.elements
    own = np.flatnonzero(elements.member == member)
    if not np.isfinite(grounds.steel.fy[member]):
        return []
    every = slice(None)
    v = section_values(document, grounds, own.tolist(), every, every)
    places = elements.positions(grounds.peaks.x)[own]
    where = [(int(own[e]), s, float(places[e, s])) for e in range(len(own)) for s in range(places.shape[1])]
    shape = (len(where), len(grounds.strength))
    return [
        _most(name, grounds.strength, np.broadcast_to(v[key], grounds.peaks.N[own].shape).reshape(shape), where)
        for name, key in (("section", "u_NM"), ("shear", "u_V"))
    ]


def _stability(document: Document, grounds: Grounds, member: int) -> list[Reached]:
    segments = grounds.segments([member])
    v = stability_values(document, segments, grounds.steel, grounds.limits)
    where = [(r, -1, float(segments.start[r] + segments.end[r]) / 2) for r in range(len(segments.member))]
    found = []
    for name, u in criteria(v, grounds.steel.take(segments.member, 1)).items():
        u[segments.inside] = np.nan
        if not np.isnan(u).all() and np.nanmax(u) >= 0:
            found.append(_most(name, grounds.strength, u, where))
    return found


def _general(document: Document, grounds: Grounds, member: int, governing: bool) -> list[Reached]:
    for own in alike(grounds, [member]):
        values = []
        for span in own.spans:
            within = Within(document, grounds, own, span)
            u = np.full(within.count, np.nan)
            if governing:
                most, at = within.largest()
                u[at[0]] = most[0]
            elif not within.stretch.loose:
                u = within.values(np.arange(within.count))["u_general"]
            values.append(u)
        where = [(k, -1, sum(span) / 2) for k, span in enumerate(own.spans)]
        return [_most("general", grounds.strength, np.array(values), where)]
    return []


def _webs(document: Document, grounds: Grounds, member: int) -> list[Reached]:
    places = pressed_places(grounds, member)
    if not places:
        return []
    u = web_values(document, grounds, member, places)["u_web"]
    return [_most("web", grounds.strength, u, [(k, -1, place.x) for k, place in enumerate(places)])]


def _bar(document: Document, grounds: Grounds, member: int) -> Reached:
    m = grounds.combined.structure.members[member]
    u = axial_values(document, grounds, member)["u_axial"]
    return _most("axial", grounds.strength, u[None], [(member, -1, grounds.combined.structure.length(m) / 2)])


def _channel(document: Document, grounds: Grounds, member: int) -> list[Reached]:
    own, v = section_use(document, grounds, member)
    if np.isnan(v["u_sum"]).all():
        return []
    places = grounds.combined.elements.positions(grounds.peaks.x)[own]
    where = [(int(own[e]), s, float(places[e, s])) for e in range(len(own)) for s in range(places.shape[1])]
    segments, w = buckling_use(document, grounds, member)
    middles = [(r, -1, float(segments.start[r] + segments.end[r]) / 2) for r in range(len(segments.member))]
    found = [
        _most("sum", grounds.strength, v["u_sum"].reshape(len(where), -1), where),
        _most("single", grounds.strength, w["u_single"], middles),
    ]
    return [*found, _net(document, grounds, member)] if _holed(grounds, member) else found


def _holed(grounds: Grounds, member: int) -> bool:
    return grounds.combined.structure.members[member].checks.holes is not None


def _net(document: Document, grounds: Grounds, member: int) -> Reached:
    u = net_values(document, grounds, member)["u_net"]
    return _most("net", grounds.strength, u[None], [(member, -1, 0.0)])


def served(combined: Combined, used: Sequence[int], found: Sequence[tuple[int, Stretch]], member: int) -> list[Reached]:
    """Deflection and sway of a member in the combinations `used`, by stretches with their numbers."""
    if not used:
        return []
    moved = combined.displacement(used)
    places = combined.elements.positions(combined.stations)
    by: dict[str, list[tuple[Floats, list[tuple[int, int, float]]]]] = {}
    for number, stretch in found:
        own = np.flatnonzero(combined.elements.member[stretch.rows] == member)
        if member not in stretch.members or not len(own):
            continue
        along = combined.deflections(used, stretch.rows)
        block = measure(combined, moved, along, stretch)[own] * (stretch.ratio / stretch.length)
        count = block.shape[1]
        where = [
            (number, int(k) * count + s, float(places[stretch.rows[k], s])) for k in own.tolist() for s in range(count)
        ]
        by.setdefault(stretch.criterion, []).append((block.reshape(len(where), -1), where))
    return [
        _most(
            criterion,
            tuple(used),
            np.concatenate([block for block, _ in parts]),
            [place for _, where in parts for place in where],
        )
        for criterion, parts in by.items()
    ]


def everything(document: Document, combined: Combined, verification: Verification, member: int) -> list[Reached]:
    """All criteria of a member as it stands, worst first."""
    found = reached(document, verification.grounds, member)
    for under, used in (("deflection", verification.deflection), ("variable", verification.variable)):
        found += served(combined, used, verification.limited(under), member)
    return sorted((r for r in found if r.worst >= 0), key=lambda r: -float(r.utilisation[r.worst]))


def with_structure(combined: Combined, structure: Structure) -> Combined:
    """The same results under members that are held or made otherwise: present forces."""
    system = replace(combined.response.system, structure=structure)
    return replace(combined, response=replace(combined.response, system=system))


def under_present(document: Document, structure: Structure, verification: Verification) -> Grounds:
    """What verdicts rest on where members are held or made otherwise, under the forces present."""
    before = verification.grounds
    grounds = Grounds(document, with_structure(before.combined, structure), before.strength, before.stabilising)
    # what was found of the forces holds: they are the present ones
    for name in ("analysed", "forces", "peaks"):
        vars(grounds)[name] = getattr(before, name)
    return grounds


def tried(
    document: Document,
    structure: Structure,
    combined: Combined,
    verification: Verification,
    member: int,
    moved: Combined | None = None,
) -> list[Outcome]:
    """What a member reaches with the forces present, where the document and its structure are others: other restraints, lengths,
    limits, section. Nodes, members and their order are those that were analysed. What the whole does to it is as present. moved: where
    the movements come from, if not from there."""
    found = reached(document, under_present(document, structure, verification), member, governing=True)
    moved = moved or combined
    limits = tuple(stretches(document, structure, moved.elements))
    there = replace(verification, stretches=limits)
    for under, used in (("deflection", verification.deflection), ("variable", verification.variable)):
        found += served(moved, used, there.limited(under), member)
    outcomes = [r.outcome(r.worst) for r in found if r.worst >= 0]
    outcomes += [o for o in verification.verdicts[member].outcomes if o.criterion == "critical"]
    return sorted(outcomes, key=lambda o: -o.utilisation)


def number_of(verification: Verification, outcome: Outcome) -> int:
    """The combination of an outcome among all of the document."""
    return verification.used(outcome.criterion)[outcome.combination]
