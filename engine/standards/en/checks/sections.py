"""Cross-sections of all members at all stations: bounds tell which combinations can govern, and those are checked in full."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from itertools import pairwise

import numpy as np

from engine.processors import shared_out
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.haunched import haunched_check
from engine.standards.en.steel import SteelArrays, Values, section_bound, section_check, slender_web
from engine.structure.model import Bools, Floats, Ints
from engine.verification.outcomes import Findings, Held, Outcome, Reached, most_of

#: values that are checked together
BLOCK = 80_000
#: bounds this near below what was found may be equal to it but for rounding
NEAR = 1e-9
#: slope of flanges towards each other up to which a panel counts as a rectangle (EN 1993-1-5 2.5)
STEEP = float(np.tan(np.radians(10.0)))
#: pieces nearer to each other than this follow one another, m
JOINED = 1e-6


def section_values(
    grounds: SteelGrounds,
    e: slice | list[int],
    s: slice | list[int],
    c: slice | list[int],
    steel: SteelArrays | None = None,
) -> Values:
    """section_check on some elements, stations and combinations; `haunched_check` on those with a haunch. Where there are both, only
    what both give is right for all: N_Rd, n, u_V, cls, u_NM. steel: of the members, in place of what everything is made of."""
    pick = np.arange(len(grounds.combined.elements))[e]
    f = grounds.peaks
    N, Vy, Vz, T, My, Mz = (values[pick][:, s][:, :, c] for values in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    gamma, eta, gamma_M1 = (
        grounds.document.rules.gamma_M0,
        grounds.document.national.steel.eta,
        grounds.document.rules.gamma_M1,
    )
    if steel is not None:
        p = steel.take(grounds.combined.elements.member[pick], 2)
        return section_check(p, N, Vy, Vz, T, My, Mz, gamma, eta, gamma_M1)
    haunched = np.flatnonzero(grounds.haunched_row[pick] >= 0)

    def stresses(rows: Ints) -> Values:
        p = grounds.haunched.take(grounds.haunched_row[pick[rows]], 2)
        deepest = grounds.deepest[pick[rows], None, None]
        return haunched_check(p, N[rows], Vy[rows], Vz[rows], T[rows], My[rows], Mz[rows], gamma, gamma_M1, deepest)

    if len(haunched) == len(pick) > 0:
        return stresses(haunched)
    v = section_check(grounds.element_steel.take(grounds.steel_of[pick], 2), N, Vy, Vz, T, My, Mz, gamma, eta, gamma_M1)
    if len(haunched):
        own = stresses(haunched)
        for name in ("N_Rd", "n", "u_V", "cls", "u_NM"):
            v[name] = np.broadcast_to(v[name], N.shape).copy()
            v[name][haunched] = own[name]
    return v


def sections(grounds: SteelGrounds, found: Findings) -> list[Held]:
    """Add to the outcomes and reasons of each member, and what the sections reach at each station."""
    elements = grounds.combined.elements
    forces, steel = grounds.peaks, grounds.steel
    first = np.searchsorted(elements.member, np.arange(len(found.outcomes) + 1))
    steep = too_steep(grounds)
    blocks = list(blocks_of(first, forces.N[0].size))
    places = elements.positions(forces.x)
    along = found.along
    along[:] = 0.0

    def checked(block: tuple[int, int]) -> tuple[dict[str, tuple[Floats, Ints]], Bools]:
        rows = slice(first[block[0]], first[block[1]])
        largest, class_4 = _largest(grounds, rows)
        along[rows] = np.maximum(*(u for u, _ in largest.values()))
        return largest, class_4

    for (start, end), (largest, class_4) in zip(blocks, shared_out(checked, blocks), strict=True):
        found.progress(start, len(found.outcomes))
        for m in range(start, end):
            e = slice(first[m] - first[start], first[m + 1] - first[start])
            for criterion, (u, at) in largest.items():
                if np.isnan(u[e]).all():
                    continue
                j, s = np.unravel_index(int(np.nanargmax(u[e])), u[e].shape)
                row = int(first[m] + j)
                reached = float(u[e][j, s]), int(at[e][j, s]), float(places[row, s])
                found.outcomes[m].append(Outcome(criterion, *reached, row, int(s)))
            unknown = np.isnan(np.stack([u[e] for u, _ in largest.values()]))
            if class_4[e].any():
                found.reasons[m].append("a class 4 cross-section of this shape is not covered")
                found.slender.add(m)
            elif unknown.any() and np.isfinite(steel.fy[m]):
                found.reasons[m].append("a resistance could not be computed")
            if m in steep:
                found.reasons[m].append(
                    "shear buckling of a web that deepens by more than 10° (EN 1993-1-5 2.5) is not covered"
                )
                found.slender.add(m)
    return []


def _largest(grounds: SteelGrounds, rows: slice) -> tuple[dict[str, tuple[Floats, Ints]], Bools]:
    """({criterion: largest utilisation (e, s) and its combination (e, s)}, (e,) whether any section is of a class 4 that is not covered) of some elements."""
    f, of = grounds.peaks, grounds.steel_of[rows]
    gamma, eta, gamma_M1 = (
        grounds.document.rules.gamma_M0,
        grounds.document.national.steel.eta,
        grounds.document.rules.gamma_M1,
    )
    N, Vy, Vz, T, My, Mz = (values[rows] for values in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    bound, shear = section_bound(grounds.element_steel.take(of, 2), N, Vy, Vz, My, Mz, gamma, eta, gamma_M1)
    class_4 = np.zeros(len(of), dtype=bool)
    haunched = np.flatnonzero(grounds.haunched_row[rows] >= 0)
    if len(haunched):
        h = grounds.haunched.take(grounds.haunched_row[rows][haunched], 2)
        own = [values[haunched] for values in (N, Vy, Vz, T, My, Mz)]
        v = haunched_check(
            h,
            own[0],
            own[1],
            own[2],
            own[3],
            own[4],
            own[5],
            gamma,
            gamma_M1,
            grounds.deepest[rows][haunched, None, None],
        )
        class_4[haunched] = (v["cls"] == 4).any(axis=(1, 2))
        bound[haunched], shear[haunched] = v["u_NM"], v["u_V"]

    def exact(*at: Ints) -> tuple[Floats, Bools]:
        """Of some (element, station, combination)."""
        p = grounds.element_steel.take(of[at[0]], 0)
        v = section_check(p, N[at], Vy[at], Vz[at], T[at], My[at], Mz[at], gamma, eta, gamma_M1)
        return np.asarray(v["u_NM"]), np.asarray((v["cls"] == 4) & np.isnan(p.A_eff))

    e, s = np.indices(bound.shape[:2])
    likely = np.nan_to_num(bound, nan=-1.0).argmax(axis=2)
    least = exact(e.ravel(), s.ravel(), likely.ravel())[0].reshape(e.shape)
    possible = (bound >= (least * (1 - NEAR))[..., None]) & (bound > 0)
    # by stresses everything is exact already
    possible[haunched] = False
    can = np.nonzero(possible)
    values, slender = exact(*can)
    known = bound[haunched].copy()
    bound[:] = np.where(bound > 0, -1.0, bound)
    bound[can], bound[haunched] = values, known
    class_4[can[0][slender]] = True
    largest = {}
    for criterion, u in (("section", bound), ("shear", shear)):
        at = u.argmax(axis=2)
        largest[criterion] = np.take_along_axis(u, at[..., None], axis=2)[..., 0], at
    return largest, class_4


def too_steep(grounds: SteelGrounds) -> set[int]:
    """Members whose webs buckle under shear and deepen by more than STEEP along a haunch or taper."""
    owner = grounds.combined.elements.member
    p = grounds.element_steel.take(grounds.steel_of, 0)
    buckles = slender_web(p, grounds.document.national.steel.eta) | (grounds.deepest > 0)
    found = set()
    for i in np.unique(owner[buckles]).tolist():
        pieces = sorted(grounds.combined.structure.members[i].pieces, key=lambda piece: piece.start)
        for a, b in pairwise(pieces):
            if abs(a.end - b.start) < JOINED and abs(b.section.h - a.section.h) > STEEP * (b.end - a.start) / 2:
                found.add(i)
    return found


def blocks_of(first: Ints, each: int) -> Iterator[tuple[int, int]]:
    """Runs of members whose elements (or segments) make some BLOCK values; first: (members + 1,) the first of each; each: values of
    one. What is computed on them stays in the processor's cache: half the time."""
    start = 0
    for m in range(1, len(first)):
        if m == len(first) - 1 or (first[m + 1] - first[start]) * each > BLOCK:
            yield start, m
            start = m


def sections_reached(grounds: SteelGrounds, member: int, governing: bool = False) -> list[Reached]:
    """The sections of a member in every combination for strength; nothing where there is no check of their shape."""
    elements = grounds.combined.elements
    own = elements.rows(member)
    every = slice(None)
    v = section_values(grounds, own.tolist(), every, every)
    places = elements.positions(grounds.peaks.x, own)
    where = [(int(own[e]), s, float(places[e, s])) for e in range(len(own)) for s in range(places.shape[1])]
    shape = (len(where), len(grounds.strength))
    return [
        most_of(name, grounds.strength, np.broadcast_to(v[key], grounds.peaks.N[own].shape).reshape(shape), where)
        for name, key in (("section", "u_NM"), ("shear", "u_V"))
    ]


def sections_most(grounds: SteelGrounds, most: Floats) -> None:
    """Raise (members, combinations) to what the sections reach."""

    def of(rows: slice) -> Floats:
        v = section_values(grounds, rows, slice(None), slice(None))
        return np.asarray(np.nan_to_num(np.maximum(np.maximum(v["u_NM"], v["n"]), v["u_V"]).max(axis=1)))

    raise_to(most, grounds.combined.elements.member, grounds.peaks.N[0].size, of)


def sections_of(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    """What the sections reach in one combination for strength, into `along` (e, s)."""
    v = section_values(grounds, slice(None), slice(None), [column])
    along[:] = np.maximum(np.maximum(v["u_NM"], v["n"]), v["u_V"])[..., 0]
    return []


def raise_to(most: Floats, owner: Ints, each: int, of: Callable[[slice], Floats]) -> None:
    """Raise (members, combinations) to what rows reach, (rows, combinations), a block of members at a time. owner: (rows,) their member;
    each: values of one row."""
    first = np.searchsorted(owner, np.arange(len(most) + 1))
    rows = [slice(first[start], first[end]) for start, end in blocks_of(first, each)]
    for own, values in zip(rows, shared_out(of, rows), strict=True):
        np.maximum.at(most, owner[own], values)
