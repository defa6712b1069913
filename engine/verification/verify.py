"""The verdict on every member: section, stability and deflection, each with what governs it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams, peaked
from engine.analysis.elements import Elements
from engine.analysis.solve import Response
from engine.catalogue.steels import E
from engine.document import Document
from engine.lazy import lazily
from engine.memory import stored
from engine.processors import shared_out
from engine.progress import Step, quiet
from engine.standards.en.steel import SteelArrays, Values, section_check, stability_check, steel_arrays
from engine.structure.model import Bools, Floats, Ints, Structure
from engine.verification.equilibrium import Lifted, Tilt, equilibrium, unbalanced
from engine.verification.outcomes import Outcome, Verdict, Whole, whole
from engine.verification.segments import Segments, cut_segments
from engine.verification.service import Stretch, measure, stretches, unlimited
from engine.verification.standing import free_to_move, judge

#: shapes with checks
COVERED = ("I", "square", "rectangular", "circular")
#: values that are checked together
BLOCK = 80_000
#: criteria of which at least one must be found
STRENGTH = ("section", "shear", "flexural", "lateral", "interaction")
#: torsion is covered only as negligible: share of the shear yield stress up to which it is left out
TORSION_LIMIT = 0.05


@dataclass(frozen=True)
class Grounds:
    """What verdicts rest on, recovered from the results of the combinations `strength` when it is asked for.

    forces: at the stations; peaks: with moments and shears raised to those between them. Neither is kept when pickled.
    """

    document: Document
    combined: Combined
    strength: tuple[int, ...]

    @lazily
    def forces(self) -> Diagrams:
        return self.combined.diagrams(self.strength)

    @lazily
    def peaks(self) -> Diagrams:
        return peaked(self.forces, self.combined.response.loads, self.combined.pulled(self.strength))

    @lazily
    def segments(self) -> Segments:
        return cut_segments(self.document, self.combined.structure, self.combined.elements, self.forces)

    @lazily
    def limits(self) -> Floats:
        """(2, members, combinations) critical axial forces about y and z that the buckling of the whole leaves each member, inf
        where it does not limit them: modes that sway are in the forces where a combination is in second order and leans."""
        standing, second = self.combined.standing, self.combined.second[list(self.strength)]
        leans = second & self.document.rules.imperfections
        found = np.where(leans, standing.held, standing.least)
        # along local z a member bends about y
        return found[::-1]

    @lazily
    def steel(self) -> SteelArrays:
        return steel_arrays([(m.section, m.material, m.bar) for m in self.combined.structure.members])

    def forget(self) -> None:
        """Let go of what can be recovered: by far the most of what a chain takes of memory."""
        for name in set(vars(self)) - set(stored(self)):
            vars(self).pop(name, None)

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)


@dataclass(frozen=True)
class Verification:
    """Verdicts and all that their proofs need. strength, deflection: indices of the combinations used; stretches: what keeps
    limits of deflection; along: (e, s) largest utilisation of section and stability checks at each station, NaN where nothing is
    checked; tilts, lifted: static equilibrium of the whole; left_out: what is said of no member, in words: cases that no combination
    for strength takes up, and what the weights alone do not hold down."""

    verdicts: tuple[Verdict, ...]
    grounds: Grounds
    deflection: tuple[int, ...]
    stretches: tuple[Stretch, ...]
    along: Floats
    tilts: tuple[Tilt, ...] = ()
    lifted: tuple[Lifted, ...] = ()
    left_out: tuple[str, ...] = ()

    @property
    def strength(self) -> tuple[int, ...]:
        """Indices of the combinations for strength."""
        return self.grounds.strength

    @property
    def segments(self) -> Segments:
        """All members cut at the restraints of their flanges."""
        return self.grounds.segments

    @property
    def steel(self) -> SteelArrays:
        """Section and material of every member."""
        return self.grounds.steel

    @property
    def forces(self) -> Diagrams:
        """Internal forces at the stations."""
        return self.grounds.forces

    @property
    def peaks(self) -> Diagrams:
        """The same with moments and shears raised to those between the stations."""
        return self.grounds.peaks

    @property
    def whole(self) -> Whole:
        """What may be said of the whole building."""
        return whole(self.verdicts, self.left_out)

    @property
    def worst(self) -> float:
        """The largest utilisation of all."""
        return self.whole.worst


def verify(
    document: Document, combined: Combined, combinations: list[Combination], progress: Step = quiet
) -> Verification:
    """Verify every member for every combination of its use. `progress` is told of how many members the sections have been
    checked, by far the most of the work."""
    response = combined.response
    structure = response.structure
    strength = tuple(i for i, c in enumerate(combinations) if c.use in ("strength", "accidental"))
    service = tuple(i for i, c in enumerate(combinations) if c.use == "deflection")
    grounds = Grounds(document, combined, strength)
    outcomes: list[list[Outcome]] = [[] for _ in structure.members]
    reasons: list[list[str]] = [[] for _ in structure.members]
    for i, member in enumerate(structure.members):
        if member.section.shape == "given":
            reasons[i].append("the section is known by its stiffness alone")
        elif member.material.strength is None:
            reasons[i].append("the material has no design strength")
        elif member.section.shape not in COVERED:
            reasons[i].append(f"checks of this shape ({member.section.shape}) are not covered yet")
        elif member.pieces:
            reasons[i].append("its haunch or taper is analysed exactly, but not checked yet; the rest of it is")
        if member.offset != (0.0, 0.0) and not member.bar:
            reasons[i].append(
                "the offset of the member enters the analysis; its effect on stability is not covered yet"
            )
    along = np.full(combined.stations.shape, np.nan)
    stretches_: tuple[Stretch, ...] = ()
    left_out: list[list[str]] = [[] for _ in structure.members]
    if strength:
        along = _sections(document, response, grounds, outcomes, reasons, progress)
        held = _stability(document, grounds, outcomes, reasons)
        _spread(combined, grounds.segments, held, along)
        judge(document, combined, combinations, strength, outcomes, reasons)
    if service:
        stretches_ = tuple(stretches(document, structure, combined.elements))
        _deflection(combined, service, list(stretches_), outcomes)
        free_to_move(combined, combinations, service, reasons)
        for i in unlimited(document, structure, list(stretches_)):
            left_out[i].append("deflection not checked: it has no limit")
    else:
        for i, member in enumerate(structure.members):
            if member.behaviour == "beam" and document.rules.deflects(member.role):
                left_out[i].append("deflection not checked: there is no combination for it")
    verdicts = []
    for i, found in enumerate(outcomes):
        usable = tuple(o for o in found if np.isfinite(o.utilisation))
        if len(usable) < len(found) and not reasons[i]:
            reasons[i].append("a resistance could not be computed")
        if not strength and not reasons[i]:
            reasons[i].append("no combination for strength")
        elif not any(o.criterion in STRENGTH for o in usable) and not reasons[i]:
            reasons[i].append("nothing of it is checked for strength")
        worst = max((o.utilisation for o in usable), default=0.0)
        status = "fails" if worst > 1.0 else "not covered" if reasons[i] else "passes"
        verdicts.append(Verdict(i, status, usable, tuple(dict.fromkeys(reasons[i])), tuple(left_out[i])))
    _shown(combined, verdicts, along)
    tilts, lifted = equilibrium(combined, combinations)
    unsaid = _idle(combined, combinations) + unbalanced(tilts, structure)
    return Verification(tuple(verdicts), grounds, service, stretches_, along, tuple(tilts), tuple(lifted), unsaid)


def _shown(combined: Combined, verdicts: list[Verdict], along: Floats) -> None:
    """What the pictures show along the members: criteria of whole members count over all of them, and what is not covered shows
    nothing, unless it fails."""
    first = np.searchsorted(combined.elements.member, np.arange(len(verdicts) + 1))
    for v in verdicts:
        own = slice(first[v.member], first[v.member + 1])
        whole_ones = [o.utilisation for o in v.outcomes if o.criterion not in STRENGTH]
        if whole_ones:
            np.fmax(along[own], max(whole_ones), out=along[own], where=~np.isnan(along[own]))
        if v.status == "not covered":
            along[own] = np.nan


def of_one(document: Document, combined: Combined, verification: Verification, number: int) -> Floats:
    """(e, s) utilisation along the members in one combination alone: of sections and stability where it is one for strength, of
    deflection and sway where it is one for that; NaN where nothing is checked."""
    along = np.full(combined.stations.shape, np.nan)
    if number in verification.strength:
        c = [verification.strength.index(number)]
        every = slice(None)
        v = section_values(document, combined.response, verification.peaks, verification.steel, every, every, c)
        along = np.maximum(np.maximum(v["u_NM"], v["n"]), v["u_V"])[..., 0]
        grounds = verification.grounds
        s = stability_values(document, grounds.segments, grounds.steel, grounds.limits, every, c)
        held = np.where(grounds.segments.inside, 0.0, np.maximum(s["u_661"], s["u_662"])[:, 0])
        _spread(combined, grounds.segments, np.nan_to_num(held), along)
        along[within_pieces(combined.structure, combined.elements)] = np.nan
        if not combined.stable(number):
            along[:] = np.fmax(along, 1 / max(float(combined.alpha[number]), 0.1))
    elif number in verification.deflection:
        moved = combined.deflections([number])
        for stretch in verification.stretches:
            found = measure(combined, [number], moved, stretch).max() * stretch.ratio / stretch.length
            own = np.isin(combined.elements.member, stretch.members)
            along[own] = np.fmax(along[own], found)
    uncovered = [v.member for v in verification.verdicts if v.status == "not covered"]
    along[np.isin(combined.elements.member, uncovered)] = np.nan
    return along


def _idle(combined: Combined, combinations: list[Combination]) -> tuple[str, ...]:
    """Cases with loads that no combination for strength takes up."""
    rows = np.array([c.factors for c in combinations if c.use in ("strength", "accidental")])
    loading = combined.response.system.loading
    if not len(rows):
        return ()
    found = []
    for i, case in enumerate(loading.cases):
        if case.nature == "imperfection" or rows[:, i].any():
            continue
        if np.abs(combined.response.reaction[..., i]).max(initial=0.0) > 1.0:
            found.append(f"case “{case.name}” is in no combination for strength")
    return tuple(found)


def stability_values(
    document: Document,
    segments: Segments,
    steel: SteelArrays,
    limits: Floats,
    rows: slice | list[int],
    columns: slice | list[int],
) -> Values:
    """stability_check on some segment rows and combinations: the whole for the verdict, a single one for a proof. limits: (2,
    members, combinations) as in `Grounds`."""
    s = segments
    pick = np.arange(len(s.member))[rows]

    def lengths(values: Floats) -> Floats:
        return values[pick][:, None]

    def at(values: Floats) -> Floats:
        return values[pick][:, columns]

    return stability_check(
        steel.take(s.member[pick], 1),
        at(s.N),
        at(s.My),
        at(s.Mz),
        at(s.Cmy),
        at(s.CmLT),
        at(s.C1),
        lengths(s.Lcr_y),
        lengths(s.Lcr_z),
        lengths(s.L_T),
        lengths(s.a_T),
        lengths(s.L_LT),
        document.rules.gamma_M1,
        at(s.lift),
        at(s.My_most),
        at(s.Mz_most),
        limits[0, s.member[pick]][:, columns],
        limits[1, s.member[pick]][:, columns],
        document.national.steel.lambda_LT0,
        document.national.steel.beta,
        document.national.steel.modification == "(6.58)",
        None if s.Cmy_0 is None else (at(s.Cmy_0[0]), at(s.Cmy_0[1])),
    )


def section_values(
    document: Document,
    response: Response,
    forces: Diagrams,
    steel: SteelArrays,
    e: slice | list[int],
    s: slice | list[int],
    c: slice | list[int],
) -> Values:
    """section_check on some elements, stations and combinations."""
    pick = np.arange(len(response.elements))[e]

    def at(values: Floats) -> Floats:
        return values[pick][:, s][:, :, c]

    return section_check(
        steel.take(response.elements.member[pick], 2),
        at(forces.N),
        at(forces.Vy),
        at(forces.Vz),
        at(forces.T),
        at(forces.My),
        at(forces.Mz),
        document.rules.gamma_M0,
        document.national.steel.eta,
    )


def _sections(
    document: Document,
    response: Response,
    grounds: Grounds,
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
    progress: Step,
) -> Floats:
    """Also gives the largest utilisation of the sections at each station, (e, s), NaN within haunches, of which nothing is
    checked."""
    elements, forces, steel = response.elements, grounds.peaks, grounds.steel
    along = np.zeros(forces.x.shape)
    within = within_pieces(response.structure, elements)
    first = np.searchsorted(elements.member, np.arange(len(outcomes) + 1))
    slender_web = (steel.kind == 0) & (steel.h - 2 * steel.tf > 72 * np.sqrt(235e6 / steel.fy * steel.E / E) * steel.tw)
    blocks = list(blocks_of(first, forces.N[0].size))

    def checked(block: tuple[int, int]) -> tuple[dict[str, Floats], Bools, Bools]:
        rows = slice(first[block[0]], first[block[1]])
        v = section_values(document, response, forces, steel, rows, slice(None), slice(None))
        along[rows] = np.maximum(v["u_NM"], v["u_V"]).max(axis=2)
        hidden = within[rows]
        along[rows][hidden] = np.nan
        largest = {
            "section": np.where(v["n"] > 1.0, np.maximum(v["n"], v["u_NM"]), v["u_NM"]),
            "shear": v["u_V"],
        }
        for u in largest.values():
            u[hidden] = np.nan
        return (
            largest,
            (v["cls"] == 4).any(axis=(1, 2)) & ~hidden,
            (v["u_T"] > TORSION_LIMIT).any(axis=(1, 2)) & ~hidden,
        )

    for (start, end), (largest, class_4, torsion) in zip(blocks, shared_out(checked, blocks), strict=True):
        progress(start, len(outcomes))
        for m in range(start, end):
            e = slice(first[m] - first[start], first[m + 1] - first[start])
            for criterion, u in largest.items():
                block = u[e]
                if np.isnan(block).all():
                    continue
                flat = int(np.argmax(np.where(np.isnan(block), -1.0, block)))
                j, s, c = np.unravel_index(flat, block.shape)
                row = int(first[m] + j)
                position = float(elements.positions(forces.x)[row, s])
                outcomes[m].append(Outcome(criterion, float(block[j, s, c]), int(c), position, row, int(s)))
            if class_4[e].any():
                reasons[m].append("class 4 cross-section (EN 1993-1-5) is not covered yet")
            if torsion[e].any():
                reasons[m].append("torsion above 5 % of its resistance (6.2.7) is not covered yet")
            if slender_web[m]:
                reasons[m].append("shear buckling of the web (6.2.6(6)) is not covered yet")
    return along


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
    one. What is computed on them stays in
    the processor's cache: half the time."""
    start = 0
    for m in range(1, len(first)):
        if m == len(first) - 1 or (first[m + 1] - first[start]) * each > BLOCK:
            yield start, m
            start = m


def _stability(
    document: Document,
    grounds: Grounds,
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
) -> Floats:
    """Also gives the largest utilisation of each segment in stability, (segments,)."""
    segments, steel, limits = grounds.segments, grounds.steel, grounds.limits
    first = np.searchsorted(segments.member, np.arange(len(outcomes) + 1))
    middle = (segments.start + segments.end) / 2
    held = np.zeros(len(middle))
    blocks = list(blocks_of(first, segments.N.shape[1]))

    def checked(block: tuple[int, int]) -> tuple[dict[str, Floats], Bools]:
        rows = slice(first[block[0]], first[block[1]])
        v = stability_values(document, segments, steel, limits, rows, slice(None))
        interaction = np.maximum(v["u_661"], v["u_662"])
        held[rows] = np.nan_to_num(interaction.max(axis=1))
        largest = {
            "flexural": np.maximum(v["u_Ny"], v["u_Nz"]),
            "lateral": np.where(steel.kind[segments.member[rows]][:, None] == 0, v["u_LT"], -1.0),
            "interaction": interaction,
        }
        hidden = segments.inside[rows]
        held[rows] = np.where(hidden, 0.0, held[rows])
        for u in largest.values():
            u[hidden] = np.nan
        return largest, (v["cls"] == 4).any(axis=1) & ~hidden

    for (start, end), (largest, class_4) in zip(blocks, shared_out(checked, blocks), strict=True):
        for m in range(start, end):
            own = slice(first[m] - first[start], first[m + 1] - first[start])
            for criterion, u in largest.items():
                block = u[own]
                if not block.size or np.isnan(block).all() or np.nanmax(block) < 0:
                    continue
                j, c = np.unravel_index(int(np.argmax(np.where(np.isnan(block), -1.0, block))), block.shape)
                row = int(first[m] + j)
                outcomes[m].append(Outcome(criterion, float(block[j, c]), int(c), float(middle[row]), row))
            if class_4[own].any():
                reasons[m].append("class 4 cross-section (EN 1993-1-5) is not covered yet")
    return held


def _spread(combined: Combined, segments: Segments, held: Floats, along: Floats) -> None:
    """Raise utilisations along the elements, (e, s), to those of the segments (segments,) that the stations lie in."""
    x = combined.elements.positions(combined.stations)
    first = np.searchsorted(combined.elements.member, np.arange(len(combined.structure.members) + 1))
    for m, start, end, value in zip(segments.member, segments.start, segments.end, held, strict=True):
        own = slice(first[m], first[m + 1])
        inside = (x[own] >= start - 1e-6) & (x[own] <= end + 1e-6)
        np.maximum(along[own], value, out=along[own], where=inside)


def _deflection(
    combined: Combined, which: tuple[int, ...], found: list[Stretch], outcomes: list[list[Outcome]]
) -> None:
    """The worst stretch of each member against its limit."""
    along = combined.deflections(which)
    places = combined.elements.positions(combined.stations)
    worst: dict[tuple[int, str], Outcome] = {}
    for number, stretch in enumerate(found):
        block = measure(combined, which, along, stretch) * (stretch.ratio / stretch.length)
        owners = combined.elements.member[stretch.rows]
        for member in stretch.members:
            own = np.flatnonzero(owners == member)
            if not len(own):
                continue
            part = block[own]
            k, s, c = np.unravel_index(int(np.argmax(part)), part.shape)
            e = int(stretch.rows[own[k]])
            outcome = Outcome(
                stretch.criterion,
                float(part[k, s, c]),
                int(c),
                float(places[e, s]),
                number,
                int(own[k] * block.shape[1] + s),
            )
            before = worst.get((member, stretch.criterion))
            if before is None or outcome.utilisation > before.utilisation:
                worst[member, stretch.criterion] = outcome
    for (member, _), outcome in worst.items():
        outcomes[member].append(outcome)
