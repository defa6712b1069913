"""Cross-sections of all members at all stations: bounds tell which combinations can govern, and those are checked in full."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

import numpy as np

from engine.analysis.diagrams import Diagrams
from engine.analysis.elements import Elements
from engine.catalogue.steels import E
from engine.document import Document
from engine.processors import shared_out
from engine.progress import Step
from engine.standards.en.steel import SteelArrays, Values, section_bound, section_check, torsion_use
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.verification.outcomes import Outcome

if TYPE_CHECKING:
    from engine.verification.verify import Grounds

#: values that are checked together
BLOCK = 80_000
#: torsion is covered only as negligible: share of the shear yield stress up to which it is left out
TORSION_LIMIT = 0.05
#: bounds this near below what was found may be equal to it but for rounding
NEAR = 1e-9


def section_values(
    document: Document,
    elements: Elements,
    forces: Diagrams,
    steel: SteelArrays,
    e: slice | list[int],
    s: slice | list[int],
    c: slice | list[int],
) -> Values:
    """section_check on some elements, stations and combinations."""
    pick = np.arange(len(elements))[e]

    def at(values: Floats) -> Floats:
        return values[pick][:, s][:, :, c]

    return section_check(
        steel.take(elements.member[pick], 2),
        at(forces.N),
        at(forces.Vy),
        at(forces.Vz),
        at(forces.T),
        at(forces.My),
        at(forces.Mz),
        document.rules.gamma_M0,
        document.national.steel.eta,
    )


def sections(
    document: Document, grounds: Grounds, outcomes: list[list[Outcome]], reasons: list[list[str]], progress: Step
) -> Floats:
    """Add to the outcomes and reasons of each member; gives the largest utilisation of the sections at each station, (e, s), NaN
    within haunches, of which nothing is checked. `progress` is told of how many members have been checked."""
    structure, elements = grounds.combined.structure, grounds.combined.elements
    forces, steel = grounds.peaks, grounds.steel
    within = within_pieces(structure, elements)
    first = np.searchsorted(elements.member, np.arange(len(outcomes) + 1))
    slender_web = (steel.kind == 0) & (steel.h - 2 * steel.tf > 72 * np.sqrt(235e6 / steel.fy * steel.E / E) * steel.tw)
    blocks = list(blocks_of(first, forces.N[0].size))
    places = elements.positions(forces.x)
    along = np.zeros(forces.x.shape)

    def checked(block: tuple[int, int]) -> tuple[dict[str, tuple[Floats, Ints]], Bools, Bools]:
        rows = slice(first[block[0]], first[block[1]])
        largest, class_4 = _largest(document, grounds, rows)
        torsion = torsion_use(
            steel.take(elements.member[rows], 0), np.abs(forces.T[rows]).max(axis=(1, 2)), document.rules.gamma_M0
        )
        hidden = within[rows]
        for u, _ in largest.values():
            u[hidden] = np.nan
        along[rows] = np.maximum(*(u for u, _ in largest.values()))
        return largest, class_4 & ~hidden, (torsion > TORSION_LIMIT) & ~hidden

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
            unknown = (
                np.isnan(np.stack([u[e] for u, _ in largest.values()])).any(axis=(0, 2))
                & ~within[first[m] : first[m + 1]]
            )
            if unknown.any() and np.isfinite(steel.fy[m]):
                reasons[m].append("a resistance could not be computed")
            if class_4[e].any():
                reasons[m].append("class 4 cross-section (EN 1993-1-5) is not covered yet")
            if torsion[e].any():
                reasons[m].append("torsion above 5 % of its resistance (6.2.7) is not covered yet")
            if slender_web[m]:
                reasons[m].append("shear buckling of the web (6.2.6(6)) is not covered yet")
    return along


def _largest(document: Document, grounds: Grounds, rows: slice) -> tuple[dict[str, tuple[Floats, Ints]], Bools]:
    """({criterion: largest utilisation (e, s) and its combination (e, s)}, (e,) whether any section is of class 4) of some elements."""
    f, member = grounds.peaks, grounds.combined.elements.member[rows]
    gamma, eta = document.rules.gamma_M0, document.national.steel.eta
    N, Vy, Vz, T, My, Mz = (values[rows] for values in (f.N, f.Vy, f.Vz, f.T, f.My, f.Mz))
    bound, shear = section_bound(grounds.steel.take(member, 2), N, Vy, Vz, My, Mz, gamma, eta)

    def exact(*at: Ints) -> tuple[Floats, Bools]:
        """Of some (element, station, combination)."""
        p = grounds.steel.take(member[at[0]], 0)
        v = section_check(p, N[at], Vy[at], Vz[at], T[at], My[at], Mz[at], gamma, eta)
        return np.asarray(v["u_NM"]), np.asarray(v["cls"] == 4)

    e, s = np.indices(bound.shape[:2])
    likely = np.nan_to_num(bound, nan=-1.0).argmax(axis=2)
    least = exact(e.ravel(), s.ravel(), likely.ravel())[0].reshape(e.shape)
    can = np.nonzero((bound >= (least * (1 - NEAR))[..., None]) & (bound > 0))
    values, slender = exact(*can)
    bound[:] = np.where(bound > 0, -1.0, bound)
    bound[can] = values
    class_4 = np.zeros(len(member), dtype=bool)
    class_4[can[0][slender]] = True
    largest = {}
    for criterion, u in (("section", bound), ("shear", shear)):
        at = u.argmax(axis=2)
        largest[criterion] = np.take_along_axis(u, at[..., None], axis=2)[..., 0], at
    return largest, class_4


def within_pieces(structure: Structure, elements: Elements) -> Bools:
    """(e,) elements with a section of their own: pieces of haunches and tapers."""
    found = np.zeros(len(elements), dtype=bool)
    middle = elements.offset + elements.reach / 2
    for i, m in enumerate(structure.members):
        for piece in m.pieces:
            found |= (elements.member == i) & (middle > piece.start) & (middle < piece.end)
    return found


def blocks_of(first: Ints, each: int) -> Iterator[tuple[int, int]]:
    """Runs of members whose elements (or segments) make some BLOCK values; first: (members + 1,) the first of each; each: values of
    one. What is computed on them stays in the processor's cache: half the time."""
    start = 0
    for m in range(1, len(first)):
        if m == len(first) - 1 or (first[m + 1] - first[start]) * each > BLOCK:
            yield start, m
            start = m
