"""The verdict on every member: section, stability and deflection, each with what governs it."""

from __future__ import annotations

import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams, peaked
from engine.analysis.solve import Response
from engine.document import Document
from engine.memory import stored
from engine.processors import shared_out
from engine.progress import Step, quiet
from engine.standards.en.steel import SteelArrays, Values, section_check, stability_check, steel_arrays
from engine.structure.model import Bools, Floats, Ints, Member, Structure
from engine.verification.segments import Segments, cut_segments

#: criterion -> (words, clause)
CRITERIA = {
    "section": ("Cross-section N + M", "EN 1993-1-1 6.2.9"),
    "shear": ("Shear", "EN 1993-1-1 6.2.6"),
    "flexural": ("Flexural buckling", "EN 1993-1-1 6.3.1"),
    "lateral": ("Lateral-torsional buckling", "EN 1993-1-1 6.3.2"),
    "interaction": ("Buckling under N + M", "EN 1993-1-1 6.3.3"),
    "critical": ("Critical load exceeded", "EN 1993-1-1 5.2.1"),
    "deflection": ("Deflection", "EN 1990 A1.4"),
    "sway": ("Sway of the eaves", "EN 1990 A1.4"),
}
#: shapes with checks
COVERED = ("I", "square", "rectangular", "circular")
#: utilisation said of a combination beyond its critical load where its α_cr is not known
BEYOND = 9.99
#: values that are checked together
BLOCK = 80_000
#: torsion is covered only as negligible: share of the shear yield stress up to which it is left out
TORSION_LIMIT = 0.05


@dataclass(frozen=True)
class Outcome:
    """The governing utilisation of one criterion for one member, and where: indices for the proof.

    row: element (section, shear) or segment row (stability); station: of that element, else −1. position: m from start.
    """

    criterion: str
    utilisation: float
    combination: int
    position: float
    row: int
    station: int = -1


@dataclass(frozen=True)
class Verdict:
    """Everything found for one member. status: "passes", "fails" or "not covered" (then the reasons say why)."""

    member: int
    status: str
    outcomes: tuple[Outcome, ...]
    not_covered: tuple[str, ...]

    @property
    def governing(self) -> Outcome | None:
        """The outcome with the largest utilisation."""
        return max(self.outcomes, key=lambda o: o.utilisation, default=None)


@dataclass(frozen=True)
class Grounds:
    """What verdicts rest on, recovered from the results of the combinations `strength` when it is asked for.

    forces: at the stations; peaks: with moments and shears raised to those between them. Neither is kept when pickled.
    """

    document: Document
    combined: Combined
    strength: tuple[int, ...]

    @cached_property
    def forces(self) -> Diagrams:
        return self.combined.diagrams(self.strength)

    @cached_property
    def peaks(self) -> Diagrams:
        return peaked(self.forces, self.combined.response.loads, self.combined.pulled(self.strength))

    @cached_property
    def segments(self) -> Segments:
        return cut_segments(self.document, self.combined.structure, self.combined.elements, self.forces)

    @cached_property
    def steel(self) -> SteelArrays:
        return steel_arrays([(m.section, m.material, m.bar) for m in self.combined.structure.members])

    def forget(self) -> None:
        """Let go of what can be recovered: by far the most of what a chain takes of memory."""
        for name in vars(self).keys() - stored(self).keys():
            vars(self).pop(name, None)

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)


@dataclass(frozen=True)
class Verification:
    """Verdicts and all that their proofs need. strength, deflection: indices of the combinations used; service_factors:
    (deflection combinations, cases); along: (e, s) largest utilisation of section and stability checks at each station."""

    verdicts: tuple[Verdict, ...]
    grounds: Grounds
    deflection: tuple[int, ...]
    service_factors: Floats
    along: Floats

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
    def worst(self) -> float:
        """The largest utilisation of all."""
        return max((v.governing.utilisation for v in self.verdicts if v.governing), default=0.0)


def verify(
    document: Document, combined: Combined, combinations: list[Combination], progress: Step = quiet
) -> Verification:
    """Verify every member for every combination of its use. `progress` is told of how many members the sections have been
    checked, by far the most of the work."""
    response = combined.response
    structure = response.structure
    strength = tuple(i for i, c in enumerate(combinations) if c.use in ("strength", "accidental"))
    service = tuple(i for i, c in enumerate(combinations) if c.use == "deflection")
    cases = response.displacement.shape[2]
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
    along = np.zeros(combined.stations.shape)
    if strength:
        along = _sections(document, response, grounds.peaks, grounds.steel, outcomes, reasons, progress)
        held = _stability(document, grounds.segments, grounds.steel, outcomes, reasons)
        _spread(combined, grounds.segments, held, along)
        _equilibria(combined, combinations, strength, outcomes, reasons)
    service_factors = np.array([combinations[i].factors for i in service]).reshape(len(service), cases)
    if service and document.hall:
        _deflection(document, combined, service, outcomes)
        _free(combined, combinations, service, reasons)
    verdicts = []
    for i, found in enumerate(outcomes):
        usable = tuple(o for o in found if np.isfinite(o.utilisation))
        if len(usable) < len(found) and not reasons[i]:
            reasons[i].append("a resistance could not be computed")
        worst = max((o.utilisation for o in usable), default=0.0)
        status = "fails" if worst > 1.0 else "not covered" if reasons[i] or not usable else "passes"
        if not usable and not reasons[i]:
            reasons[i].append("no combination for strength")
        verdicts.append(Verdict(i, status, usable, tuple(dict.fromkeys(reasons[i]))))
    return Verification(tuple(verdicts), grounds, service, service_factors, along)


def stability_values(
    document: Document, segments: Segments, steel: SteelArrays, rows: slice | list[int], columns: slice | list[int]
) -> Values:
    """stability_check on some segment rows and combinations: the whole for the verdict, a single one for a proof."""
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
        lengths(s.end - s.start),
        document.rules.gamma_M1,
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
    )


def _sections(
    document: Document,
    response: Response,
    forces: Diagrams,
    steel: SteelArrays,
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
    progress: Step,
) -> Floats:
    """Also gives the largest utilisation of the sections at each station, (e, s)."""
    elements = response.elements
    along = np.zeros(forces.x.shape)
    first = np.searchsorted(elements.member, np.arange(len(outcomes) + 1))
    slender_web = (steel.kind == 0) & (steel.h - 2 * steel.tf > 72 * np.sqrt(235e6 / steel.fy) * steel.tw)
    blocks = list(blocks_of(first, forces.N[0].size))

    def checked(block: tuple[int, int]) -> tuple[dict[str, Floats], Bools, Bools]:
        rows = slice(first[block[0]], first[block[1]])
        v = section_values(document, response, forces, steel, rows, slice(None), slice(None))
        along[rows] = np.nan_to_num(np.maximum(np.maximum(v["u_NM"], v["u_Vz"]), v["u_Vy"]).max(axis=2))
        largest = {
            "section": np.where(v["n"] > 1.0, np.maximum(v["n"], v["u_NM"]), v["u_NM"]),
            "shear": np.maximum(v["u_Vz"], v["u_Vy"]),
        }
        return largest, (v["cls"] == 4).any(axis=(1, 2)), (v["u_T"] > TORSION_LIMIT).any(axis=(1, 2))

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
    segments: Segments,
    steel: SteelArrays,
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
) -> Floats:
    """Also gives the largest utilisation of each segment in stability, (segments,)."""
    first = np.searchsorted(segments.member, np.arange(len(outcomes) + 1))
    middle = (segments.start + segments.end) / 2
    held = np.zeros(len(middle))
    blocks = list(blocks_of(first, segments.N.shape[1]))

    def checked(block: tuple[int, int]) -> tuple[dict[str, Floats], Bools]:
        rows = slice(first[block[0]], first[block[1]])
        v = stability_values(document, segments, steel, rows, slice(None))
        interaction = np.maximum(v["u_661"], v["u_662"])
        held[rows] = np.nan_to_num(interaction.max(axis=1))
        largest = {
            "flexural": np.maximum(v["u_Ny"], v["u_Nz"]),
            "lateral": np.where(steel.kind[segments.member[rows]][:, None] == 0, v["u_LT"], -1.0),
            "interaction": interaction,
        }
        return largest, (v["cls"] == 4).any(axis=1)

    for (start, end), (largest, class_4) in zip(blocks, shared_out(checked, blocks), strict=True):
        for m in range(start, end):
            own = slice(first[m] - first[start], first[m + 1] - first[start])
            for criterion, u in largest.items():
                block = u[own]
                if not block.size or np.isnan(block).all() or block.max() < 0:
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


def frame_deflections(combined: Combined, which: Sequence[int]) -> tuple[Floats, Floats]:
    """(e, s, combinations) in metres: downward deflection from the chord between the columns of the bay, and sideways
    movement.

    Deflection has values for the rafters and top chords of frames, movement for all; others are zero.
    """
    structure, elements = combined.structure, combined.elements
    moved = combined.deflections(which)
    x = combined.stations
    vertical, sideways = moved[:, :, 2], moved[:, :, 0]
    u = combined.displacement(which)[:, 2]
    number = {name: i for i, name in enumerate(structure.nodes)}
    sag = np.zeros_like(vertical)
    chords = {i: bay_of(m) for i, m in enumerate(structure.members)}
    for e, m in enumerate(elements.member):
        bay = chords[int(m)]
        if not bay:
            continue
        a, b = (number[f"frame-{structure.members[m].frame}/eaves-{letter}"] for letter in bay)
        at = structure.xyz[elements.ends[e, 0], 0] + x[e] * elements.axes[e, 0, 0]
        share = ((at - structure.xyz[a, 0]) / (structure.xyz[b, 0] - structure.xyz[a, 0]))[:, None]
        sag[e] = (1 - share) * u[a] + share * u[b] - vertical[e]
    return sag, sideways


def bay_of(member: Member) -> str:
    """Letters of the two column lines that a rafter or top chord of a hall spans between; "" for other members."""
    if member.jig != "hall" or not member.frame:
        return ""
    found = re.fullmatch(r"frame-\d+/(?:rafter|truss)-([A-Z]{2})(?:-left|-right)?(?:/top-\d+)?", member.name)
    return found[1] if found else ""


def deflection_limits(document: Document, structure: Structure, member: Member) -> tuple[str, float, float] | None:
    """(criterion, length, ratio) of the limit that a member's deflection keeps: length / ratio; None without one."""
    rules = document.rules
    if bay := bay_of(member):
        number = structure.nodes.index
        a, b = (structure.xyz[number(f"frame-{member.frame}/eaves-{letter}"), 0] for letter in bay)
        return "deflection", float(b - a), rules.rafter_deflection_ratio
    if member.jig == "hall" and member.frame and "/column-" in member.name:
        return "sway", structure.length(member), rules.eaves_sway_ratio
    return None


def _equilibria(
    combined: Combined,
    combinations: list[Combination],
    strength: tuple[int, ...],
    outcomes: list[list[Outcome]],
    reasons: list[list[str]],
) -> None:
    """Combinations beyond their critical load fail every member; those whose one-way parts find no state cover none."""
    for k, i in enumerate(strength):
        if not combined.stable(i):
            alpha = combined.alpha[i]
            u = 1 / alpha if np.isfinite(alpha) and 0 < alpha < 1 else BEYOND
            for m, found in enumerate(outcomes):
                row = int(np.searchsorted(combined.elements.member, m))
                found.append(Outcome("critical", float(u), k, 0.0, row))
        if not combined.settled(i):
            for found_reasons in reasons:
                found_reasons.append(
                    f"members or supports that act one way find no state in {combinations[i].name} (they alternate)"
                )


def _free(combined: Combined, combinations: list[Combination], which: Sequence[int], reasons: list[list[str]]) -> None:
    """Of combinations for deflection that slack members leave as a mechanism nothing is known."""
    for i in which:
        if combined.free(i):
            for found in reasons:
                found.append(f"slack members or lifted supports leave a mechanism in {combinations[i].name}")


def _deflection(document: Document, combined: Combined, which: Sequence[int], outcomes: list[list[Outcome]]) -> None:
    structure, elements = combined.structure, combined.elements
    sag, sideways = frame_deflections(combined, which)
    first = np.searchsorted(elements.member, np.arange(len(outcomes) + 1))
    for m, member in enumerate(structure.members):
        found = deflection_limits(document, structure, member)
        if not found:
            continue
        criterion, length, ratio = found
        block = np.abs((sag if criterion == "deflection" else sideways)[first[m] : first[m + 1]])
        if criterion == "sway":
            # the head of the column alone: of its last element the last station
            only = np.zeros(block.shape[:2], dtype=bool)
            only[-1, -1] = True
            block = np.where(only[:, :, None], block, 0.0)
        j, s, c = np.unravel_index(int(np.argmax(block)), block.shape)
        e = int(first[m] + j)
        position = float(elements.positions(combined.stations)[e, s])
        outcomes[m].append(Outcome(criterion, float(block[j, s, c] / (length / ratio)), int(c), position, e, int(s)))
