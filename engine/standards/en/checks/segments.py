"""Members cut at the restraints of their flanges: the moments and forces that each segment must resist."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from itertools import pairwise
from typing import Any

import numpy as np

from engine.analysis.diagrams import Diagrams
from engine.analysis.elements import Elements
from engine.analysis.lateral import end_conditions
from engine.analysis.sampling import interpolation
from engine.catalogue.properties import PRONE
from engine.document import Document
from engine.lazy import lazily
from engine.processors import shared_out
from engine.standards.en.moments import amplification, counting, lift_of, moment_factor, most_counting, shape_of_moments
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.verification.grounds import Lengths
from engine.verification.runs import HELD, reaches

#: samples along a segment, and along a whole member
SAMPLES, ALONG = 25, 49
#: c of `lift_of` under a uniform load over the whole of a segment, where only a part of it is known
PARABOLA = float(lift_of(np.ones(1), (4 * np.linspace(0, 1, SAMPLES) * (1 - np.linspace(0, 1, SAMPLES)))[:, None])[0])
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
    general method verifies; sway: (m, 1) whether their buckling about y is a sway mode; free: (spans,) whether an end of the segment is
    free; warping: (m, spans) of `shape_of_moments`, None where nothing buckles sideways; from_above: whether loads act at the outer
    flange; lengths: of each member; beyond: (spans,) how far a segment goes on in other members."""

    members: Ints
    elements: Ints
    places: Floats
    spans: list[tuple[int, float, float]]
    total: float
    general: list[tuple[float, float]]
    sway: Bools
    free: Bools
    warping: Floats | None
    from_above: bool
    lengths: list[Lengths]
    beyond: Floats

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
    loose, on = free_ends(structure), reaches(structure)
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
            ends,
            general,
            on.get(i),
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
        prone = sample.section.shape in PRONE
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
                    free,
                    _warping(structure, own_, spans) if prone else None,
                    # loads from above push on the outer flange; at the shear centre they do nothing
                    prone and document.rules.loads_at == "upper flange",
                    [lengths[i] for i in own_],
                    beyond,
                )
            )
    return chunks


def cut_segments(
    document: Document,
    structure: Structure,
    elements: Elements,
    forces: Diagrams,
    lengths: tuple[Lengths, ...],
    members: Sequence[int] | None = None,
    columns: Sequence[int] | None = None,
) -> Segments:
    """The segments of members (all by default) under combinations (all by default) of `forces`, in the order of the members.

    A flange's segments run between its own restraints. A segment that ends at a free end is a cantilever: it counts with twice
    its length and a uniform moment, which covers loads at its upper flange too. Members alike in geometry are treated together.
    """
    pick = slice(None) if columns is None else list(columns)
    count = forces.N.shape[2] if columns is None else len(columns)
    annex_a = document.national.steel.interaction == "annex A"

    def cut(own: Alike) -> Segments:
        along = Along(own, forces, pick)
        return replace(along.segments(), **along.factors(annex_a))

    chunks = alike(document, structure, elements, forces.x, lengths, count, members)
    return joined(list(shared_out(cut, chunks)))


def joined(parts: list[Segments]) -> Segments:
    """The rows of all parts, member by member."""
    order = np.argsort(np.concatenate([part.member for part in parts]), kind="stable")
    values: dict[str, Any] = {}
    for field in fields(Segments):
        columns = [getattr(part, field.name) for part in parts]
        rows = 1 if field.name == "Cmy_0" else 0
        values[field.name] = (
            None if columns[0] is None else np.take(np.concatenate(columns, axis=rows), order, axis=rows)
        )
    return Segments(**values)


def free_ends(structure: Structure) -> Bools:
    """(members, 2) ends that nothing else meets and no support holds."""
    nodes = np.array([node for m in structure.members for node in set(m.nodes)], dtype=np.int64)
    met = np.bincount(nodes, minlength=len(structure.nodes))
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    alone = (met < 2) & ~held
    return np.asarray(alone[structure.ends].reshape(-1, 2))


def general_stretches(structure: Structure, number: int) -> list[tuple[float, float]]:
    """From where to where a member is verified by the general method: between places where both flanges are held sideways, where
    anything between them is haunched or tapers. What reaches to a free end is held by the next stretch too."""
    member = structure.members[number]
    if not member.pieces or member.bar:
        return []
    length, ends = structure.length(member), end_conditions(structure, number)
    both = [x for x in member.outer if any(abs(x - y) < 1e-6 for y in member.inner) and 1e-6 < x < length - 1e-6]
    cuts = sorted(both)[1 if ends.start == "free" else 0 :]
    cuts = cuts[:-1] if ends.end == "free" else cuts
    return [
        (a, b)
        for a, b in pairwise([0.0, *cuts, length])
        if any(min(piece.end, b) - max(piece.start, a) > 1e-6 for piece in member.pieces)
    ]


def _warping(structure: Structure, members: list[int], spans: list[tuple[int, float, float]]) -> Floats:
    """(members, spans) π² E I_w/(G I_t L²)."""
    own = [structure.members[i] for i in members]
    ratio = np.array([m.material.E * m.section.Iw / (m.material.G * m.section.It) for m in own])
    return np.asarray(np.pi**2 * ratio[:, None] / np.array([b - a for _, a, b in spans]) ** 2)


class Along:
    """What runs along the segments of members alike, sampled: moments (m, spans, SAMPLES, combinations), and what of them counts."""

    def __init__(self, own: Alike, forces: Diagrams, columns: slice | list[int] = slice(None)) -> None:
        self.own, self.forces, self.columns = own, forces, columns
        value, slope, self._linear = interpolation(own.places, [span[1:] for span in own.spans], SAMPLES)
        self._My, self._Vz, self._Mz = (own.run(values, columns) for values in (forces.My, forces.Vz, forces.Mz))
        shape = (len(own.members), len(own.spans), SAMPLES, -1)
        self.My = (np.matmul(value, self._My) + np.matmul(slope, self._Vz)).reshape(shape)
        self.Mz = (np.matmul(value, self._Mz) + np.matmul(slope, own.run(forces.Vy, columns))).reshape(shape)

    @lazily
    def counted(self) -> Floats:
        """(m, spans, combinations) the largest sampled moment that counts: a sagging one (+) compresses the outer flange (+z)."""
        own = self.own
        return most_counting(self.My, own.flange[None], own.other_held[None])

    def segments(self) -> Segments:
        """The segments with what bounds their factors from the unfavourable side: a uniform moment, and C_m of 1."""
        own, count = self.own, len(self.own.spans)
        most_N, largest, largest_Mz = self._extremes()
        signed = [self.My[:, :, i] for i in (0, (SAMPLES - 1) // 2, SAMPLES - 1)]
        least_C1 = np.ones((len(own.members), count))
        lift = np.zeros(largest.shape)
        if own.warping is not None:
            even = np.ones((*own.warping.shape, SAMPLES, 1))
            least_C1 = np.where(own.uniform, 1.0, shape_of_moments(even, even, own.warping[..., None])[0][..., 0])
            if own.from_above:
                held_back = (own.other_held | own.free)[:, None]
                lift = np.where(held_back, 0.0, lift_of(self.counted, self.My))
                lift = np.where((own.beyond > 0)[:, None] & ~held_back, PARABOLA, lift)
        start, end = (np.array([span[i] for span in own.spans]) for i in (1, 2))

        def rows(values: Floats) -> Floats:
            return np.ascontiguousarray(values.reshape(len(own.members) * count, -1))

        def spread(values: Floats) -> Floats:
            return rows(np.repeat(values[:, None], count, axis=1))

        def each(values: Sequence[float]) -> Floats:
            return np.repeat(np.array(values), count)

        ones = np.ones(rows(largest).shape)
        lengths = own.lengths
        return Segments(
            member=np.repeat(own.members, count),
            flange=np.tile(own.flange, len(own.members)),
            start=np.tile(start, len(own.members)),
            end=np.tile(end, len(own.members)),
            N=rows(most_N),
            My=rows(largest),
            Mz=rows(largest_Mz),
            C1=np.broadcast_to(rows(least_C1), ones.shape),
            lift=rows(lift),
            Cmy=ones,
            CmLT=ones,
            My_most=spread(np.abs(self._My).max(axis=1)),
            Mz_most=spread(np.abs(self._Mz).max(axis=1)),
            M_start=rows(signed[0]),
            M_middle=rows(signed[1]),
            M_end=rows(signed[2]),
            Lcr_y=each([r.y for r in lengths]),
            Lcr_z=each([r.z for r in lengths]),
            L_T=each([r.torsion for r in lengths]),
            a_T=each([r.held for r in lengths]),
            L_LT=np.tile(np.where(own.free, 2.0, 1.0) * (end - start + own.beyond), len(own.members)),
            free=np.tile(own.free, len(own.members)),
            inside=np.tile(own.inside, len(own.members)),
        )

    def factors(self, annex_a: bool) -> dict[str, Any]:
        """C1, lift, Cmy, CmLT (rows, combinations), and with annex A Cmy_0."""
        own, count, combinations = self.own, len(self.own.spans), self.My.shape[-1]
        rows, columns = np.divmod(np.arange(len(own.members) * count * combinations), combinations)
        found = self.factors_of(rows, columns, annex_a)
        return {name: values.reshape(*values.shape[:-1], -1, combinations) for name, values in found.items()}

    def factors_of(self, rows: Ints, columns: Ints, annex_a: bool) -> dict[str, Any]:
        """The same of some pairs of rows and combinations, (pairs,)."""
        own = self.own
        m, k = np.divmod(rows, len(own.spans))
        My = self.My[m, k, :, columns]
        pressing = counting(My[..., None], own.flange[k], own.other_held[k])[..., 0]
        My, pressing = My.T, pressing.T
        sway = own.sway[m, 0]
        C1, lift = np.ones(len(rows)), np.zeros(len(rows))
        if own.warping is not None:
            C1, lift = shape_of_moments(pressing, My, own.warping[m, k])
            C1 = np.where(own.uniform[k], 1.0, C1)
            lift = np.where(own.beyond[k] > 0, PARABOLA, lift)
            lift = np.where((own.other_held | own.free)[k] | (not own.from_above), 0.0, lift)
        ofs, back = np.unique(m * self.My.shape[-1] + columns, return_inverse=True)
        of, under = np.divmod(ofs, self.My.shape[-1])
        along, V_along, _ = interpolation(own.places, [(0.0, own.total)], ALONG)
        whole = self._My[of, :, under] @ along.T + self._Vz[of, :, under] @ V_along.T
        Cmy = moment_factor(whole.T)[back]
        # of what goes on in another member only a part of the diagram is known: as if uniform
        part = own.goes_on
        found: dict[str, Any] = {"C1": C1, "lift": lift}
        found["Cmy"] = np.ones(len(rows)) if part else np.where(sway, np.maximum(Cmy, 0.9), Cmy)
        found["CmLT"] = np.ones(len(rows)) if part else moment_factor(My)
        if annex_a:
            base, slope = (values[back] for values in amplification(np.ones_like(whole.T) if part else whole.T))
            found["Cmy_0"] = np.stack([np.where(sway, 1.0, base), np.where(sway, np.maximum(slope, 0.0), slope)])
        return found

    def _extremes(self) -> tuple[Floats, Floats, Floats]:
        """(m, spans, combinations) least N, largest My that counts, largest Mz as magnitude."""
        own = self.own
        shape = (len(own.members), len(own.spans), SAMPLES, -1)
        own_N = own.run(self.forces.N, self.columns)
        N, Mz = np.matmul(self._linear, own_N).reshape(shape), self.Mz
        largest = self.counted.copy()
        least_N, largest_Mz = N.min(axis=2), np.maximum(Mz.max(axis=2), -Mz.min(axis=2))
        gaps = np.diff(own.places, axis=1)
        if not np.allclose(gaps, gaps[:, :1]):
            # concentrated loads make kinks between the samples: the stations stand at them
            flat, held = own.places.ravel(), own.other_held
            for k, (side, a, b) in enumerate(own.spans):
                inside = (flat >= a) & (flat <= b)
                if not inside.any():
                    continue
                kinks = counting(self._My[:, None, inside], np.array([[side]]), held[k : k + 1][None])[:, 0]
                largest[:, k] = np.maximum(largest[:, k], kinks.max(axis=1, initial=0.0))
                largest_Mz[:, k] = np.maximum(largest_Mz[:, k], np.abs(self._Mz[:, inside]).max(axis=1, initial=0.0))
                least_N[:, k] = np.minimum(least_N[:, k], own_N[:, inside].min(axis=1, initial=np.inf))
        return least_N, largest, largest_Mz


def _pairs(positions: tuple[float, ...], total: float) -> list[tuple[float, float]]:
    places = positions if len(positions) > 1 else (0.0, total)
    return list(zip(places[:-1], places[1:], strict=True))
