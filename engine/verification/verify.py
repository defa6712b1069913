"""The verdict on every member: section, stability and deflection, each with what governs it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams
from engine.document import Document
from engine.progress import Step, quiet
from engine.standards.en.steel import SteelArrays, slender_web
from engine.structure.model import Bools, Floats
from engine.structure.rows import rows
from engine.verification.axial import axial, axial_of, is_axial
from engine.verification.channels import channels, channels_of, is_channel
from engine.verification.equilibrium import Lifted, Tilt, equilibrium, unbalanced
from engine.verification.general import general, general_of
from engine.verification.grounds import Grounds
from engine.verification.net import net
from engine.verification.outcomes import SERVICE, Outcome, Verdict, Whole, whole
from engine.verification.runs import reaches
from engine.verification.sections import section_values, sections
from engine.verification.service import Stretch, measure, stretches, unlimited
from engine.verification.stabilising import found as found_of
from engine.verification.stabilising import none
from engine.verification.stability import Held, stability, stability_values
from engine.verification.standing import free_to_move, judge
from engine.verification.webs import webs, webs_of

#: shapes with checks
COVERED = ("I", "square", "rectangular", "circular")
#: criteria of which at least one must be found
STRENGTH = ("section", "shear", "flexural", "lateral", "interaction", "general", "axial", "sum", "single", "web")


@dataclass(frozen=True)
class Verification:
    """Verdicts and all that their proofs need. strength, deflection, variable: indices of the combinations used; stretches: what keeps
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
    variable: tuple[int, ...] = ()

    def used(self, criterion: str) -> tuple[int, ...]:
        """Indices of the combinations that a criterion looks at."""
        if criterion == "variable":
            return self.variable
        return self.deflection if criterion in SERVICE else self.strength

    def limited(self, under: str) -> list[tuple[int, Stretch]]:
        """Stretches with their numbers that are looked at under the combinations of a use, "deflection" or "variable"."""
        return [(i, s) for i, s in enumerate(self.stretches) if (s.criterion == "variable") == (under == "variable")]

    @property
    def strength(self) -> tuple[int, ...]:
        """Indices of the combinations for strength."""
        return self.grounds.strength

    @property
    def steel(self) -> SteelArrays:
        """Section and material of every member."""
        return self.grounds.steel

    @property
    def forces(self) -> Diagrams:
        """Internal forces at the stations, as the analysis finds them."""
        return self.grounds.analysed

    @property
    def peaks(self) -> Diagrams:
        """What sections are checked for: with what bracing stabilises, moments and shears raised to those between the stations."""
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
    service, variable = (
        tuple(i for i, c in enumerate(combinations) if c.use == use) for use in ("deflection", "variable")
    )
    analysed = combined.diagrams(strength)
    imperfect = document.rules.imperfections
    stabilising = found_of(combined, strength, analysed) if imperfect else none(len(combined.elements), len(strength))
    grounds = Grounds(document, combined, strength, stabilising)
    vars(grounds)["analysed"] = analysed
    outcomes: list[list[Outcome]] = [[] for _ in structure.members]
    reasons: list[list[str]] = [[] for _ in structure.members]
    for i, member in enumerate(structure.members):
        if member.section.shape == "given":
            reasons[i].append("the section is known by its stiffness alone")
        elif member.material.strength is None:
            reasons[i].append("the material has no design strength")
        elif member.section.shape not in COVERED and not is_axial(member) and not is_channel(member):
            reasons[i].append(f"checks of this shape ({member.section.shape}) are not covered yet")
        if member.offset != (0.0, 0.0) and not member.bar:
            reasons[i].append(
                "the offset of the member enters the analysis; its effect on stability is not covered yet"
            )
    along = np.full(combined.stations.shape, np.nan)
    left_out: list[list[str]] = [[] for _ in structure.members]
    for i in reaches(structure):
        if structure.members[i].pieces:
            reasons[i].append(
                "its haunch or taper goes on in another member where nothing holds it: make one member of both, or hold the node"
            )
    unstiffened = slender_web(grounds.element_steel.take(grounds.steel_of, 0), document.national.steel.eta)
    for i in np.unique(combined.elements.member[unstiffened & flange_may_fold(grounds)]).tolist():
        reasons[i].append("the compressed flange may buckle into the web (EN 1993-1-5 8), which is not covered")
    for i in np.unique(combined.elements.member[unstiffened]).tolist():
        if structure.members[i].checks.stiffened:
            continue
        left_out[i].append(
            "its web counts with stiffeners at the supports (EN 1993-1-5 5.1(2)), which are not in the model"
        )
    for i in stabilising.loose:
        left_out[i].append(
            "what holds it sideways leads to no bracing in the model, so that nothing carries its forces (5.3.3)"
        )
    for i in sorted({bar for span in stabilising.spans if not span.firm.all() for bar in span.bars}):
        reasons[i].append("its bracing is too soft for what it stabilises (5.3.3)")
    if strength:
        along = sections(document, grounds, outcomes, reasons, progress)
        held = stability(document, grounds, outcomes, reasons) + general(document, grounds, outcomes, reasons)
        held += channels(document, grounds, outcomes, reasons, left_out, along)
        bars = axial(document, grounds, outcomes, reasons, left_out)
        net(document, grounds, outcomes, reasons)
        pressed = webs(document, grounds, outcomes, left_out)
        _clear(combined, bars, along)
        _spread(combined, held + bars + pressed, along)
        judge(document, combined, combinations, strength, outcomes, reasons)
    stretches_ = tuple(stretches(document, structure, combined.elements))
    of_all = [(i, s) for i, s in enumerate(stretches_) if s.criterion != "variable"]
    of_variable = [(i, s) for i, s in enumerate(stretches_) if s.criterion == "variable"]
    if variable and of_variable:
        _deflection(combined, variable, of_variable, outcomes)
        free_to_move(combined, combinations, variable, reasons)
    for i in [] if variable else sorted({m for _, s in of_variable for m in s.members}):
        left_out[i].append("deflection under variable actions not checked: there is no combination for it")
    if service:
        _deflection(combined, service, of_all, outcomes)
        free_to_move(combined, combinations, service, reasons)
        for i in unlimited(document, structure, [s for _, s in of_all]):
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
    if not imperfect and any(row.trusses for row in rows(structure)):
        unsaid += ("what bracing stabilises (5.3.3) adds nothing to its forces: imperfections are left out",)
    tuples = tuple(tilts), tuple(lifted)
    return Verification(tuple(verdicts), grounds, service, stretches_, along, *tuples, unsaid, variable)


def flange_may_fold(grounds: Grounds) -> Bools:
    """(e,) I sections beyond h_w/t_w = k E/f_y √(A_w/A_fc), EN 1993-1-5 (8.1), with k = 0.55 of elastic bending."""
    p = grounds.element_steel.take(grounds.steel_of, 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        deep = p.h - 2 * p.tf
        most = 0.55 * p.E / p.fy * np.sqrt(deep * p.tw / (p.b * p.tf))
        return np.asarray((p.kind == 0) & (deep / p.tw > most))


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
        v = section_values(document, verification.grounds, every, every, c)
        along = np.maximum(np.maximum(v["u_NM"], v["n"]), v["u_V"])[..., 0]
        grounds = verification.grounds
        segments = grounds.segments(columns=c)
        s = stability_values(document, segments, grounds.steel, grounds.limits[..., c])
        most = np.where(segments.inside, 0.0, np.maximum(s["u_661"], s["u_662"])[:, 0])
        held = [Held(segments.member, segments.start, segments.end, np.nan_to_num(most))]
        held += channels_of(document, grounds, c[0], along)
        bars = axial_of(document, grounds, c[0])
        _clear(combined, bars, along)
        held += general_of(document, grounds, c[0]) + webs_of(document, grounds, c[0])
        _spread(combined, held + bars, along)
        if not combined.stable(number):
            along[:] = np.fmax(along, 1 / max(float(combined.alpha[number]), 0.1))
    elif number in verification.deflection + verification.variable:
        moved, bent = combined.displacement([number]), combined.deflections([number])
        for _, stretch in verification.limited("variable" if number in verification.variable else "deflection"):
            found = measure(combined, moved, bent[stretch.rows], stretch).max() * stretch.ratio / stretch.length
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


def _spread(combined: Combined, held: list[Held], along: Floats) -> None:
    """Raise utilisations along the elements, (e, s), to those of the segments that the stations lie in."""
    x = combined.elements.positions(combined.stations)
    first = np.searchsorted(combined.elements.member, np.arange(len(combined.structure.members) + 1))
    for part in held:
        for m, start, end, value in zip(part.member, part.start, part.end, part.utilisation, strict=True):
            own = slice(first[m], first[m + 1])
            inside = (x[own] >= start - 1e-6) & (x[own] <= end + 1e-6)
            np.maximum(along[own], value, out=along[own], where=inside)


def _clear(combined: Combined, held: list[Held], along: Floats) -> None:
    """Members that nothing else has looked at begin at none."""
    for part in held:
        along[np.isin(combined.elements.member, part.member)] = 0.0


def _deflection(
    combined: Combined, which: tuple[int, ...], found: list[tuple[int, Stretch]], outcomes: list[list[Outcome]]
) -> None:
    """The worst stretch of each member against its limit."""
    moved, along = combined.displacement(which), combined.deflections(which)
    places = combined.elements.positions(combined.stations)
    worst: dict[tuple[int, str], Outcome] = {}
    for number, stretch in found:
        block = measure(combined, moved, along[stretch.rows], stretch) * (stretch.ratio / stretch.length)
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
