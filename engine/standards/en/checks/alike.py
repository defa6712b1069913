"""Members alike with their segments between restraints of the flanges, and the values that each segment must resist."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, fields
from itertools import pairwise
from typing import Any

import numpy as np

from engine.analysis.elements import Elements
from engine.analysis.lateral import end_conditions
from engine.catalogue.properties import PRONE
from engine.document import Document
from engine.lazy import lazily
from engine.structure.axes import local_axes
from engine.structure.model import Bools, Floats, Ints, Member, Structure
from engine.structure.runs import HELD, reaches
from engine.verification.grounds import Lengths

#: samples along a segment, and along a whole member
SAMPLES, ALONG = 25, 49

#: shapes of members that the general method verifies all along
UNEQUAL = ("welded I",)

#: a local z that rises by less than this lies level
LEVEL = 0.05

#: values that are sampled together: fewer cost more in small operations than the processor's cache saves
BLOCK = 1_000_000


@dataclass(frozen=True)
class Segments:
    """Rows over segments of all members; forces are (rows, combinations).

    member: (r,) index; flange: 1 outer, −1 inner in compression; start, end: (r,) m along the member. L_LT: (r,) length for
    lateral-torsional buckling; free: (r,) whether an end of it is free; inside: (r,) whether it belongs to a stretch with a haunch
    or taper, which the general method verifies instead.
    N: most compressive axial force; My: largest moment that counts (`moments.counting`), Mz: largest magnitude; C1, lift
    and CmLT of the segment, Cmy of the member; Cmy_0: (2, r, c) a and b of its `moments.amplification`, with annex A alone; My_most, Mz_most: largest magnitudes anywhere in the member. M_start, M_middle, M_end: moments with their sign.
    """

    member: Ints
    flange: Ints
    start: Floats
    end: Floats
    N: Floats
    My: Floats
    Mz: Floats
    C1: Floats
    lift: Floats
    Cmy: Floats
    CmLT: Floats
    My_most: Floats
    Mz_most: Floats
    M_start: Floats
    M_middle: Floats
    M_end: Floats
    Lcr_y: Floats
    Lcr_z: Floats
    L_T: Floats
    a_T: Floats
    L_LT: Floats
    free: Bools
    inside: Bools
    Cmy_0: Floats | None = None

    def of(self, rows: slice | list[int], columns: slice | list[int]) -> Segments:
        """Some rows and combinations."""
        values: dict[str, Any] = {}
        for field in fields(self):
            own = getattr(self, field.name)
            if own is not None:
                own = own[..., rows, :][..., columns] if own.ndim > 1 else own[rows]
            values[field.name] = own
        return Segments(**values)

    def pairs(self, rows: Ints, columns: Ints, factors: dict[str, Any]) -> Segments:
        """Pairs of rows and combinations, each as a row of one column, with the factors (pairs,) that belong to them."""
        values: dict[str, Any] = {}
        for field in fields(self):
            own = getattr(self, field.name)
            if field.name in factors:
                own = factors[field.name][..., None]
            elif own is not None:
                own = own[rows, columns][:, None] if own.ndim == 2 else own[rows]
            values[field.name] = own
        return Segments(**values)


@dataclass(frozen=True)
class Alike:
    """Members alike in geometry, which are cut at the same places. members: (m,) indices; elements: (m, n) theirs; places: (n,
    stations) m along each; spans: flange, start and end of their segments; total: their length; general: stretches that the
    general method verifies; sway: (m, 1) whether their buckling about y is a sway mode; part: (m, 1) whether they bend about y with others; free: (spans,) whether an end of the segment is
    free; warping: (m, spans) of `shape_of_moments`, None where nothing buckles sideways; from_above: whether loads act at the flange
    that they push, facing: 1 the outer, −1 the inner, 0 either; lengths: of each member; beyond: (spans,) how far a segment goes on in other members;
    lateral: (spans,) length for lateral-torsional buckling over that of the segment."""

    members: Ints
    elements: Ints
    places: Floats
    spans: list[tuple[int, float, float]]
    total: float
    general: list[tuple[float, float]]
    sway: Bools
    part: Bools
    free: Bools
    warping: Floats | None
    from_above: bool
    facing: int
    lengths: list[Lengths]
    beyond: Floats
    lateral: Floats

    @lazily
    def flange(self) -> Ints:
        """(spans,) 1 outer, −1 inner."""
        return np.array([side for side, _, _ in self.spans])

    @lazily
    def other_held(self) -> Bools:
        """(spans,) whether the other flange is held within the segment."""
        return np.array([any(a < p < b for side, p, _ in self.spans if side != f) for f, a, b in self.spans])

    @lazily
    def inside(self) -> Bools:
        """(spans,) segments within those stretches."""
        return np.array(
            [any(a > x - 1e-6 and b < y + 1e-6 for x, y in self.general) for _, a, b in self.spans], dtype=bool
        )

    @lazily
    def goes_on(self) -> bool:
        """Whether any segment does."""
        return bool((self.beyond > 0).any())

    @lazily
    def uniform(self) -> Bools:
        """(spans,) segments that count as if under a uniform moment: cantilevers, and those that go on in another member."""
        return np.asarray(self.free | (self.beyond > 0))

    def run(self, values: Floats, columns: slice | list[int]) -> Floats:
        """(m, stations of the member, combinations) of values (elements, stations, combinations)."""
        return np.asarray(values[self.elements][..., columns].reshape(len(self.members), self.places.size, -1))


def alike(
    document: Document,
    structure: Structure,
    elements: Elements,
    stations: Floats,
    lengths: tuple[Lengths, ...],
    combinations: int,
    members: Sequence[int] | None = None,
) -> list[Alike]:
    """The members (all by default) in groups that are alike in geometry, small enough to be looked at together under so many
    combinations. stations: (elements, stations); lengths: of all members."""
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    loose, on, turned = free_ends(structure), reaches(structure), facing(structure).tolist()
    everywhere = elements.positions(stations)
    found: dict[tuple[object, ...], list[int]] = defaultdict(list)
    for i in range(len(structure.members)) if members is None else members:
        m = structure.members[i]
        own = slice(first[i], first[i + 1])
        ends, general = tuple(loose[i].tolist()), tuple(general_stretches(structure, i))
        key = (
            np.round(everywhere[own], 6).tobytes(),
            m.outer,
            m.inner,
            m.section.shape in PRONE,
            turned[i],
            ends,
            general,
            on.get(i),
            m.checks.lateral,
        )
        found[key].append(i)
    each = stations.shape[1] * combinations
    chunks = []
    for same in found.values():
        sample = structure.members[same[0]]
        count = int(first[same[0] + 1] - first[same[0]])
        total = float(everywhere[first[same[0] + 1] - 1, -1])
        spans = [(1, a, b) for a, b in _pairs(sample.outer, total)]
        spans += [(-1, a, b) for a, b in _pairs(sample.inner, total)]
        reach = on.get(same[0], HELD)
        free_at = [bool(loose[same[0], k]) or reach.free[k] for k in (0, 1)]
        free = np.array([(free_at[0] and a < 1e-6) or (free_at[1] and b > total - 1e-6) for _, a, b in spans])
        beyond = np.array(
            [
                sum(
                    (reach.outer if side > 0 else reach.inner)[k] * here
                    for k, here in ((0, a < 1e-6), (1, b > total - 1e-6))
                )
                for side, a, b in spans
            ]
        )
        prone, lateral = sample.section.shape in PRONE, _stated(sample, spans, free)
        most = max(1, BLOCK // max(count * each, len(spans) * SAMPLES * combinations, 1))
        for start in range(0, len(same), most):
            own_ = same[start : start + most]
            chunks.append(
                Alike(
                    np.array(own_),
                    np.array([np.arange(first[i], first[i] + count) for i in own_]),
                    everywhere[first[same[0]] : first[same[0] + 1]],
                    spans,
                    total,
                    general_stretches(structure, same[0]),
                    np.array([lengths[i].sway for i in own_])[:, None],
                    np.array([lengths[i].part for i in own_])[:, None],
                    free,
                    _warping(structure, own_, spans, lateral) if prone else None,
                    # at the shear centre they do nothing
                    prone and document.rules.loads_at == "upper flange",
                    turned[same[0]],
                    [lengths[i] for i in own_],
                    beyond,
                    lateral,
                )
            )
    return chunks


def _stated(member: Member, spans: list[tuple[int, float, float]], free: Bools) -> Floats:
    """(spans,) the length for lateral-torsional buckling over the distance of what holds a segment: what is stated for it, or twice to a free end."""
    stated = [member.checks.lateral_factor("outer" if side > 0 else "inner", a, b) for side, a, b in spans]
    usual = np.where(free, 2.0, 1.0)
    return np.array([u if f is None else f for f, u in zip(stated, usual.tolist(), strict=True)])


def facing(structure: Structure) -> Ints:
    """(members,) which flange loads push: 1 the outer one, which is the upper one of what lies, and the one outside of what a hall sets upright; −1 the inner one, of
    what is rolled over; 0 either, where nothing says it."""
    if not structure.members:
        return np.zeros(0, dtype=np.int64)
    ends, rolls = structure.xyz[structure.ends], np.array([m.roll for m in structure.members])
    up = local_axes(ends[:, 0], ends[:, 1], rolls)[:, 2, 2]
    known = np.array([m.jig == "hall" for m in structure.members])
    return np.where(np.abs(up) > LEVEL, np.sign(up), np.where(known, 1, 0)).astype(np.int64)


def free_ends(structure: Structure) -> Bools:
    """(members, 2) ends that nothing else meets and no support holds."""
    nodes = np.array([node for m in structure.members for node in set(m.nodes)], dtype=np.int64)
    met = np.bincount(nodes, minlength=len(structure.nodes))
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    alone = (met < 2) & ~held
    return np.asarray(alone[structure.ends].reshape(-1, 2))


def general_stretches(structure: Structure, number: int) -> list[tuple[float, float]]:
    """From where to where a member is verified by the general method: between places where both flanges are held sideways, where
    anything between them is haunched or tapers, or its flanges are unequal. What reaches to a free end is held by the next stretch too."""
    member = structure.members[number]
    unequal = member.section.shape in UNEQUAL
    if not (member.pieces or unequal) or member.bar:
        return []
    length, ends = structure.length(member), end_conditions(structure, number)
    both = [x for x in member.outer if any(abs(x - y) < 1e-6 for y in member.inner) and 1e-6 < x < length - 1e-6]
    cuts = sorted(both)[1 if ends.start == "free" else 0 :]
    cuts = cuts[:-1] if ends.end == "free" else cuts
    return [
        (a, b)
        for a, b in pairwise([0.0, *cuts, length])
        if unequal or any(min(piece.end, b) - max(piece.start, a) > 1e-6 for piece in member.pieces)
    ]


def _warping(
    structure: Structure, members: list[int], spans: list[tuple[int, float, float]], lateral: Floats
) -> Floats:
    """(members, spans) π² E I_w/(G I_t L²)."""
    own = [structure.members[i] for i in members]
    ratio = np.array([m.material.E * m.section.Iw / (m.material.G * m.section.It) for m in own])
    return np.asarray(np.pi**2 * ratio[:, None] / (lateral * np.array([b - a for _, a, b in spans])) ** 2)


def _pairs(positions: tuple[float, ...], total: float) -> list[tuple[float, float]]:
    places = positions if len(positions) > 1 else (0.0, total)
    return list(zip(places[:-1], places[1:], strict=True))
