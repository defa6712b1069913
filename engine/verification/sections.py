"""Cross-sections of all members at all stations: bounds tell which combinations can govern, and those are checked in full."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from engine.catalogue.steels import E
from engine.document import Document
from engine.processors import shared_out
from engine.progress import Step
from engine.standards.en.haunched import haunched_check
from engine.standards.en.steel import SteelArrays, Values, section_bound, section_check, torsion_use
from engine.structure.model import Bools, Floats, Ints
from engine.verification.grounds import Grounds
from engine.verification.outcomes import Outcome

#: values that are checked together
BLOCK = 80_000
#: torsion is covered only as negligible: share of the shear yield stress up to which it is left out
TORSION_LIMIT = 0.05
#: the same where its stresses are in the check
HAUNCH_TORSION_LIMIT = 0.5
#: bounds this near below what was found may be equal to it but for rounding
NEAR = 1e-9


def section_values(
    document: Document,
    grounds: Grounds,
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
    gamma, eta, gamma_M1 = document.rules.gamma_M0, document.national.steel.eta, document.rules.gamma_M1
    if steel is not None:
        p = steel.take(grounds.combined.elements.member[pick], 2)
        return section_check(p, N, Vy, Vz, T, My, Mz, gamma, eta, gamma_M1)
    haunched = np.flatnonzero(grounds.haunched_row[pick] >= 0)

    def stresses(rows: Ints) -> Values:
        p = grounds.haunched.take(grounds.haunched_row[pick[rows]], 2)
        return haunched_check(p, N[rows], Vy[rows], Vz[rows], T[rows], My[rows], Mz[rows], gamma)

    if len(haunched) == len(pick) > 0:
        return stresses(haunched)
    v = section_check(grounds.element_steel.take(grounds.steel_of[pick], 2), N, Vy, Vz, T, My, Mz, gamma, eta, gamma_M1)
    if len(haunched):
        own = stresses(haunched)
        for name in ("N_Rd", "n", "u_V", "cls", "u_NM"):
            v[name] = np.broadcast_to(v[name], N.shape).copy()
            v[name][haunched] = own[name]
    return v


def sections(
    document: Document, grounds: Grounds, outcomes: list[list[Outcome]], reasons: list[list[str]], progress: Step
) -> Floats:
    """Add to the outcomes and reasons of each member; gives the largest utilisation of the sections at each station, (e, s). `progress` is told of how many members have been checked."""
    elements = grounds.combined.elements
    forces, steel = grounds.peaks, grounds.steel
    first = np.searchsorted(elements.member, np.arange(len(outcomes) + 1))
    slender_haunch = slender_haunches(grounds)
    blocks = list(blocks_of(first, forces.N[0].size))
    places = elements.positions(forces.x)
    along = np.zeros(forces.x.shape)

    def checked(block: tuple[int, int]) -> tuple[dict[str, tuple[Floats, Ints]], Bools, Bools]:
        rows = slice(first[block[0]], first[block[1]])
        largest, class_4 = _largest(document, grounds, rows)
        torsion = torsion_use(
            grounds.element_steel.take(grounds.steel_of[rows], 0),
            np.abs(forces.T[rows]).max(axis=(1, 2)),
            document.rules.gamma_M0,
        )
        along[rows] = np.maximum(*(u for u, _ in largest.values()))
        limit = np.where(grounds.haunched_row[rows] >= 0, HAUNCH_TORSION_LIMIT, TORSION_LIMIT)
        return largest, class_4, torsion > limit

    for (start, end), (largest, class_4, torsion) in zip(blocks, shared_out(checked, blocks), strict=True):
        progress(start, len(outcomes))
        for m in range(start, end):
            e = slice(first[m] - first[start], first[m + 1] - first[start])
            for criterion, (u, at) in largest.items():
                if np.isnan(u[e]).all():
                    continue
                j, s = np.unravel_index(int(np.nanargmax(u[e])), u[e].shape)
                row = int(first[m] + j)
                found = float(u[e][j, s]), int(at[e][j, s]), float(places[row, s])
                outcomes[m].append(Outcome(criterion, *found, row, int(s)))
            unknown = np.isnan(np.stack([u[e] for u, _ in largest.values()]))
            if class_4[e].any():
                reasons[m].append("a class 4 cross-section of this shape is not covered")
            elif unknown.any() and np.isfinite(steel.fy[m]):
                reasons[m].append("a resistance could not be computed")
            if torsion[e].any():
                reasons[m].append("torsion above what is negligible (6.2.7) is not covered yet")
            if slender_haunch[first[m] : first[m + 1]].any():
                reasons[m].append("shear buckling of a haunch's web (6.2.6(6)) is not covered yet")
    return along


def _largest(document: Document, grounds: Grounds, rows: slice) -> tuple[dict[str, tuple[Floats, Ints]], Bools]:
    """({criterion: largest utilisation (e, s) and its combination (e, s)}, (e,) whether any section is of a class 4 that is not covered) of some elements."""
    f, of = grounds.peaks, grounds.steel_of[rows]
    gamma, eta, gamma_M1 = document.rules.gamma_M0, document.national.steel.eta, document.rules.gamma_M1
    N, Vy, Vz, T, My, Mz = (values[rows] for values in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    bound, shear = section_bound(grounds.element_steel.take(of, 2), N, Vy, Vz, My, Mz, gamma, eta, gamma_M1)
    class_4 = np.zeros(len(of), dtype=bool)
    haunched = np.flatnonzero(grounds.haunched_row[rows] >= 0)
    if len(haunched):
        h = grounds.haunched.take(grounds.haunched_row[rows][haunched], 2)
        own = [values[haunched] for values in (N, Vy, Vz, T, My, Mz)]
        v = haunched_check(h, own[0], own[1], own[2], own[3], own[4], own[5], gamma)
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


def slender_haunches(grounds: Grounds) -> Bools:
    """(e,) elements with a haunch, one of whose webs is above the limit of 6.2.6(6), with η = 1."""
    row = grounds.haunched_row
    found = np.zeros(len(row), dtype=bool)
    own = row >= 0
    if own.any():
        p = grounds.haunched.take(row[own], 0)
        found[own] = (p.clear > 72 * np.sqrt(235e6 / p.fy * p.E / E)).any(axis=0)
    return found


def blocks_of(first: Ints, each: int) -> Iterator[tuple[int, int]]:
    """Runs of members whose elements (or segments) make some BLOCK values; first: (members + 1,) the first of each; each: values of
    one. What is computed on them stays in the processor's cache: half the time."""
    start = 0
    for m in range(1, len(first)):
        if m == len(first) - 1 or (first[m + 1] - first[start]) * each > BLOCK:
            yield start, m
            start = m
