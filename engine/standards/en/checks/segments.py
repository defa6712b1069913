"""Members cut at the restraints of their flanges: the moments and forces that each segment must resist."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import fields, replace
from typing import Any

import numpy as np

from engine.analysis.diagrams import Diagrams
from engine.analysis.elements import Elements
from engine.analysis.sampling import BESIDE, interpolation
from engine.document import Document
from engine.lazy import lazily
from engine.processors import shared_out
from engine.standards.en.checks.alike import ALONG, SAMPLES, Alike, Segments, alike
from engine.standards.en.moments import amplification, counting, lift_of, moment_factor, most_counting, shape_of_moments
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.verification.grounds import Lengths

#: c of `lift_of` under a uniform load over the whole of a segment, where only a part of it is known
PARABOLA = float(lift_of(np.ones(1), (4 * np.linspace(0, 1, SAMPLES) * (1 - np.linspace(0, 1, SAMPLES)))[:, None])[0])


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
        along = Along(own, elements, forces, pick)
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


class Along:
    """What runs along the segments of members alike, sampled: moments (m, spans, SAMPLES, combinations), and what of them counts."""

    def __init__(
        self, own: Alike, elements: Elements, forces: Diagrams, columns: slice | list[int] = slice(None)
    ) -> None:
        self.own, self.elements, self.forces, self.columns = own, elements, forces, columns
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
                lift = np.where(held_back, 0.0, self._lift(self.counted, self.My))
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
            L_LT=np.tile(own.lateral * (end - start + own.beyond), len(own.members)),
            free=np.tile(own.free, len(own.members)),
            inside=np.tile(own.inside, len(own.members)),
        )

    def _lift(self, largest: Floats, signed: Floats) -> Floats:
        """`moments.lift_of` by which flange loads push."""
        sides = {1: (1.0,), -1: (-1.0,), 0: (1.0, -1.0)}[self.own.facing]
        return np.asarray(np.max([lift_of(largest, side * signed) for side in sides], axis=0))

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
            if own.facing != 1:
                lift = self._lift(pressing.max(axis=-2), My)
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
        bent_on = part | own.part[m, 0]
        found: dict[str, Any] = {"C1": C1, "lift": lift}
        found["Cmy"] = np.where(bent_on, 1.0, np.where(sway, np.maximum(Cmy, 0.9), Cmy))
        found["CmLT"] = np.ones(len(rows)) if part else moment_factor(My)
        if annex_a:
            known = np.where(part | own.part[of, 0], 1.0, whole.T)
            base, slope = (values[back] for values in amplification(known))
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
        for m, lengths in enumerate(own.lengths):
            if lengths.line:
                # what bends sideways as one counts with what is largest anywhere in it
                rows = np.isin(self.elements.member, lengths.line)
                beside_N, beside_Mz = (f[rows][..., self.columns] for f in (self.forces.N, self.forces.Mz))
                least_N[m] = np.minimum(least_N[m], beside_N.min(axis=(0, 1)))
                largest_Mz[m] = np.maximum(largest_Mz[m], np.abs(beside_Mz).max(axis=(0, 1)))
        gaps = np.diff(own.places, axis=1)
        if not np.allclose(gaps, gaps[:, :1]):
            # concentrated loads make kinks between the samples: the stations stand at them
            flat, held = own.places.ravel(), own.other_held
            middle = np.repeat(own.places.mean(axis=1), own.places.shape[1])
            ends = np.zeros(own.places.shape, dtype=bool)
            ends[:, [0, -1]] = True

            def beyond(place: float) -> Bools:
                """Stations beyond a place; where elements meet there, by the side on which theirs lies."""
                return np.where(ends.ravel() & (np.abs(flat - place) < BESIDE), middle > place, flat >= place)

            for k, (side, a, b) in enumerate(own.spans):
                # where forces jump at an end of the segment, what lies beyond it is the next one's
                inside = beyond(a) & ~beyond(b)
                if not inside.any():
                    continue
                kinks = counting(self._My[:, None, inside], np.array([[side]]), held[k : k + 1][None])[:, 0]
                largest[:, k] = np.maximum(largest[:, k], kinks.max(axis=1, initial=0.0))
                largest_Mz[:, k] = np.maximum(largest_Mz[:, k], np.abs(self._Mz[:, inside]).max(axis=1, initial=0.0))
                least_N[:, k] = np.minimum(least_N[:, k], own_N[:, inside].min(axis=1, initial=np.inf))
        return least_N, largest, largest_Mz
