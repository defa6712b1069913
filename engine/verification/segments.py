"""Members cut at the restraints of their flanges: the moments and forces that each segment must resist."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from engine.analysis.diagrams import Diagrams
from engine.analysis.elements import Elements
from engine.document import Document
from engine.processors import shared_out
from engine.standards.en.moments import amplification, counting, moment_factor, shape_of_moments
from engine.structure.model import Bools, Floats, Ints, Member, Structure
from engine.verification.effective_lengths import default_factors, stands_alone

#: samples along a segment, and along a whole member
SAMPLES, ALONG = 25, 49
#: values that are sampled together: fewer cost more in small operations than the processor's cache saves
BLOCK = 1_000_000


@dataclass(frozen=True)
class Lengths:
    """Effective lengths of one member in metres, and how they were found.

    sway: its buckling about y is a sway mode. held: distance from the shear centre to the flange held at shorter
    distances than the torsional restraints, 0 when there is none.
    """

    y: float
    z: float
    torsion: float
    held: float
    sway: bool
    why_y: str
    why_z: str


def effective_lengths(document: Document, structure: Structure, member: Member) -> Lengths:
    """Effective lengths of a member: the rule of its role, or the factors that the document sets for the role."""
    length = structure.length(member)
    factor_y, why_y, sway = default_factors(document, structure, member)
    outer = float(np.max(np.diff(member.outer))) if len(member.outer) > 1 else length
    torsion = float(np.max(np.diff(member.inner))) if len(member.inner) > 1 else length
    z, why_z = outer, "between restraints of the outer flange" if outer < length - 1e-6 else "own length"
    if stands_alone(document, member):
        z, why_z = 2 * length, "a cantilever along the hall: clamped at its foot, and nothing braces the walls"
    chosen = document.rules.effective_lengths.get(member.role)  # type: ignore[call-overload]
    if chosen and chosen.y is not None:
        factor_y, why_y, sway = chosen.y, f"{chosen.y:g} × own length, set for the role", sway
    if chosen and chosen.z is not None:
        z, why_z = chosen.z * length, f"{chosen.z:g} × own length, set for the role"
    held = member.section.h / 2 if outer < torsion - 1e-6 else 0.0
    return Lengths(factor_y * length, z, torsion, held, sway, why_y, why_z)


@dataclass(frozen=True)
class Segments:
    """Rows over segments of all members; forces are (rows, combinations).

    member: (r,) index; flange: 1 outer, −1 inner in compression; start, end: (r,) m along the member. L_LT: (r,) length for
    lateral-torsional buckling; free: (r,) whether an end of it is free; inside: (r,) whether all of it lies in a haunch or taper, where nothing is
    checked. Of a segment that does so in part only the rest counts, as if under a uniform moment.
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
    lengths: tuple[Lengths, ...]
    Cmy_0: Floats | None = None


def _interpolation(places: Floats, at: Floats) -> tuple[Floats, Floats, Floats]:
    """Matrices (samples, stations of the member) that give values from values and slopes (cubic Hermite), and linearly.

    places: (elements, stations) m along the member. Exact between stations for a uniform or linearly varying load.
    """
    elements, stations = places.shape
    value, slope, linear = (np.zeros((len(at), elements * stations)) for _ in range(3))
    element = np.clip(np.searchsorted(places[:, 0], at, side="right") - 1, 0, elements - 1)
    k = np.clip((places[element] <= at[:, None]).sum(axis=1) - 1, 0, stations - 2)
    step = places[element, k + 1] - places[element, k]
    t = np.clip((at - places[element, k]) / step, 0.0, 1.0)
    rows, left = np.arange(len(at)), element * stations + k
    value[rows, left] = 1 - 3 * t**2 + 2 * t**3
    value[rows, left + 1] = 3 * t**2 - 2 * t**3
    slope[rows, left] = step * (t - 2 * t**2 + t**3)
    slope[rows, left + 1] = step * (t**3 - t**2)
    linear[rows, left], linear[rows, left + 1] = 1 - t, t
    return value, slope, linear


def cut_segments(document: Document, structure: Structure, elements: Elements, forces: Diagrams) -> Segments:
    """The segments of all members under every combination of `forces`.

    A flange's segments run between its own restraints. A segment that ends at a free end is a cantilever: it counts with twice
    its length and a uniform moment, which covers loads at its upper flange too. Members alike in geometry are treated together.
    """
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    lengths = tuple(effective_lengths(document, structure, m) for m in structure.members)
    loose = free_ends(structure)
    plain = [_plain(structure, m) for m in structure.members]
    alike: dict[tuple[object, ...], list[int]] = defaultdict(list)
    everywhere = elements.positions(forces.x)
    for i, m in enumerate(structure.members):
        own = slice(first[i], first[i + 1])
        ends = tuple(loose[i].tolist())
        key = (np.round(everywhere[own], 6).tobytes(), m.outer, m.inner, m.section.shape == "I", ends, plain[i])
        alike[key].append(i)
    annex_a = document.national.steel.interaction == "annex A"
    each = forces.x.shape[1] * forces.N.shape[2]
    chunks = []
    for members in alike.values():
        count = int(first[members[0] + 1] - first[members[0]])
        sample = structure.members[members[0]]
        total = float(everywhere[first[members[0] + 1] - 1, -1])
        spans = [(1, a, b) for a, b in _pairs(sample.outer, total)]
        spans += [(-1, a, b) for a, b in _pairs(sample.inner, total)]
        most = max(1, BLOCK // max(count * each, len(spans) * SAMPLES * forces.N.shape[2], 1))
        for start in range(0, len(members), most):
            chunks.append((members[start : start + most], spans, total))

    def cut(chunk: tuple[list[int], list[tuple[int, float, float]], float]) -> dict[str, Floats]:
        members, spans, total = chunk
        count = first[members[0] + 1] - first[members[0]]
        e = np.array([np.arange(first[i], first[i] + count) for i in members])
        sway = np.array([lengths[i].sway for i in members])[:, None]
        prone = structure.members[members[0]].section.shape == "I"
        warping = _warping(structure, members, spans) if prone else None
        # loads from above push on the outer flange; at the shear centre they do nothing
        from_above = prone and document.rules.loads_at == "upper flange"
        at = everywhere[e[0]]
        own = np.array(members)
        return _cut(own, e, at, spans, total, sway, forces, warping, from_above, plain[members[0]], annex_a)

    counts = np.zeros(len(structure.members), dtype=np.int64)
    for members, spans, _ in chunks:
        counts[members] = len(spans)
    row = np.cumsum(counts) - counts
    joined: dict[str, Floats] = {}
    for (members, spans, _), found in zip(chunks, shared_out(cut, chunks), strict=True):
        places = (row[members][:, None] + np.arange(len(spans))).ravel()
        for name, values in found.items():
            if name not in joined:
                joined[name] = np.zeros((int(counts.sum()), *values.shape[1:]), dtype=values.dtype)
            joined[name][places] = values
    if annex_a:
        joined["Cmy_0"] = np.stack([joined.pop("Cmy_0a"), joined.pop("Cmy_0b")])
    per_row = [lengths[i] for i in joined["member"]]
    free = _cantilevers(joined, loose, everywhere, first)
    clear = np.array(plain)[joined["member"].astype(np.int64)]
    inside = (joined["end"] < clear[:, 0] + 1e-6) | (joined["start"] > clear[:, 1] - 1e-6)
    joined["C1"] = np.where(free[:, None], 1.0, joined["C1"])
    joined["lift"] = np.where(free[:, None], 0.0, joined["lift"])
    return Segments(
        **joined,  # type: ignore[arg-type]
        L_LT=np.where(free, 2.0, 1.0) * (joined["end"] - joined["start"]),
        free=free,
        inside=inside,
        Lcr_y=np.array([r.y for r in per_row]),
        Lcr_z=np.array([r.z for r in per_row]),
        L_T=np.array([r.torsion for r in per_row]),
        a_T=np.array([r.held for r in per_row]),
        lengths=lengths,
    )


def free_ends(structure: Structure) -> Bools:
    """(members, 2) ends that nothing else meets and no support holds."""
    nodes = np.array([node for m in structure.members for node in set(m.nodes)], dtype=np.int64)
    met = np.bincount(nodes, minlength=len(structure.nodes))
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    alone = (met < 2) & ~held
    return np.asarray(alone[structure.ends].reshape(-1, 2))


def _plain(structure: Structure, member: Member) -> tuple[float, float]:
    """From where to where a member has its own section, m from its start: between its haunches; nowhere where it tapers."""
    low, high = 0.0, structure.length(member)
    for piece in sorted(member.pieces, key=lambda p: p.start):
        if piece.start <= low + 1e-6:
            low = max(low, piece.end)
    for piece in sorted(member.pieces, key=lambda p: -p.end):
        if piece.end >= high - 1e-6:
            high = min(high, piece.start)
    return low, high


def _cantilevers(rows: dict[str, Floats], loose: Bools, places: Floats, first: Ints) -> Bools:
    """(r,) segments that reach to a free end of their member."""
    member = rows["member"].astype(np.int64)
    total = places[first[1:] - 1, -1][member]
    at_start, at_end = rows["start"] < 1e-6, rows["end"] > total - 1e-6
    return np.asarray((loose[member, 0] & at_start) | (loose[member, 1] & at_end))


def _warping(structure: Structure, members: list[int], spans: list[tuple[int, float, float]]) -> Floats:
    """(members, spans) π² E I_w/(G I_t L²)."""
    own = [structure.members[i] for i in members]
    ratio = np.array([m.material.E * m.section.Iw / (m.material.G * m.section.It) for m in own])
    return np.asarray(np.pi**2 * ratio[:, None] / np.array([b - a for _, a, b in spans]) ** 2)


def _cut(
    members: Ints,
    e: Ints,
    places: Floats,
    spans: list[tuple[int, float, float]],
    total: float,
    sway: Bools,
    forces: Diagrams,
    warping: Floats | None,
    from_above: bool,
    plain: tuple[float, float],
    annex_a: bool,
) -> dict[str, Floats]:
    """Columns of Segments for members alike in geometry: e: (members, n) their elements, places: (n, stations) along each;
    spans: flange, start and end of their segments; total: their length; sway: (members, 1); warping: (members, spans), None where
    nothing buckles sideways; from_above: whether loads act at the outer flange; plain: from where to where the member has its
    own section; annex_a: whether C_my,0 is wanted."""
    at = np.concatenate([np.linspace(a, b, SAMPLES) for _, a, b in spans])
    value, slope, linear = _interpolation(places, at)

    def run(array: Floats) -> Floats:
        return np.asarray(array[e].reshape(len(members), places.size, -1))

    def sampled(V: Floats, M: Floats) -> Floats:
        found = np.matmul(value, M) + np.matmul(slope, V)
        return np.asarray(found.reshape(len(members), len(spans), SAMPLES, -1))

    own_N, own_My, own_Mz = run(forces.N), run(forces.My), run(forces.Mz)
    own_Vz = run(forces.Vz)
    My, Mz = sampled(own_Vz, own_My), sampled(run(forces.Vy), own_Mz)
    N = np.matmul(linear, own_N).reshape(len(members), len(spans), SAMPLES, -1)
    flange = np.array([s[0] for s in spans])
    # a sagging moment (+) compresses the outer flange (+z)
    other_held = np.array([any(a < p < b for side, p, _ in spans if side != f) for f, a, b in spans])
    pressing = counting(My, flange[None], other_held[None])
    clear = ((at >= plain[0] - 1e-6) & (at <= plain[1] + 1e-6)).reshape(len(spans), SAMPLES)
    in_part: Bools = np.asarray(~clear.all(axis=1))
    if in_part.any():
        pressing, N, Mz = (np.where(clear[None, :, :, None], values, 0.0) for values in (pressing, N, Mz))
    largest, least_N, largest_Mz = pressing.max(axis=2), N.min(axis=2), np.abs(Mz).max(axis=2)
    gaps = np.diff(places, axis=1)
    if not np.allclose(gaps, gaps[:, :1]):
        # concentrated loads make kinks between the samples: the stations stand at them
        flat = places.ravel()
        for k, (side, a, b) in enumerate(spans):
            inside = (flat >= max(a, plain[0] - 1e-6)) & (flat <= min(b, plain[1] + 1e-6))
            if not inside.any():
                continue
            kinks = counting(own_My[:, None, inside], np.array([[side]]), other_held[k : k + 1][None])[:, 0]
            largest[:, k] = np.maximum(largest[:, k], kinks.max(axis=1, initial=0.0))
            largest_Mz[:, k] = np.maximum(largest_Mz[:, k], np.abs(own_Mz[:, inside]).max(axis=1, initial=0.0))
            least_N[:, k] = np.minimum(least_N[:, k], own_N[:, inside].min(axis=1, initial=np.inf))
    signed = [My[:, :, i] for i in (0, (SAMPLES - 1) // 2, SAMPLES - 1)]
    along, V_along, _ = _interpolation(places, np.linspace(0.0, total, ALONG))
    whole = np.matmul(along, own_My) + np.matmul(V_along, own_Vz)
    Cmy = moment_factor(whole)
    Cmy = np.where(sway, np.maximum(Cmy, 0.9), Cmy)
    C1, lift = np.ones_like(largest), np.zeros_like(largest)
    if warping is not None:
        C1, lift = shape_of_moments(pressing, My, warping)
        lift = np.where(other_held[None, :, None] | (not from_above), 0.0, lift)
        C1 = np.where(in_part[None, :, None], 1.0, C1)
    found = {
        "member": np.repeat(members, len(spans)),
        "flange": np.tile(flange, len(members)),
        "start": np.tile([s[1] for s in spans], len(members)),
        "end": np.tile([s[2] for s in spans], len(members)),
    }
    over_combinations = {
        "N": least_N,
        "My": largest,
        "Mz": largest_Mz,
        "C1": C1,
        "lift": lift,
        "Cmy": np.repeat(Cmy[:, None], len(spans), axis=1),
        "CmLT": moment_factor(My),
        "My_most": np.repeat(np.abs(own_My).max(axis=1)[:, None], len(spans), axis=1),
        "Mz_most": np.repeat(np.abs(run(forces.Mz)).max(axis=1)[:, None], len(spans), axis=1),
    }
    over_combinations |= dict(zip(("M_start", "M_middle", "M_end"), signed, strict=True))
    if annex_a:
        base, slope_n = amplification(whole)
        over_combinations["Cmy_0a"] = np.repeat(np.where(sway, 1.0, base)[:, None], len(spans), axis=1)
        slope_n = np.where(sway, np.maximum(slope_n, 0.0), slope_n)
        over_combinations["Cmy_0b"] = np.repeat(slope_n[:, None], len(spans), axis=1)
    shape = (len(members) * len(spans), -1)
    return found | {name: np.ascontiguousarray(values.reshape(shape)) for name, values in over_combinations.items()}


def _pairs(positions: tuple[float, ...], total: float) -> list[tuple[float, float]]:
    places = positions if len(positions) > 1 else (0.0, total)
    return list(zip(places[:-1], places[1:], strict=True))
