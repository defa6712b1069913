"""The verdict on every member: section, stability and deflection, each with what governs it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams
from engine.document import Document
from engine.progress import Step, quiet
from engine.structure.model import Bools, Floats
from engine.structure.runs import hinged_joints
from engine.structure.words import ROLE_WORDS
from engine.verification.checks import Checks
from engine.verification.equilibrium import Lifted, Tilt, equilibrium, unbalanced, unbalanced_unasked
from engine.verification.grounds import Grounds
from engine.verification.limits import Stretch
from engine.verification.outcomes import RAILS, SERVICE, UNDER, Findings, Outcome, Verdict, Whole, whole
from engine.verification.pads import UnderPad, said_of, under_pads
from engine.verification.rails import BESIDE_CRANES, rails_unsaid
from engine.verification.secondary import Secondary
from engine.verification.service import CLOSE, measure, silent, stretches, unlimited
from engine.verification.standing import free_to_move, judge, lenient
from engine.verification.unloaded import NOTHING_BORNE, lost, unasked, unloaded, unplaced
from engine.verification.unsaid import (
    OUT_OF_PLANE,
    held_aloft,
    idle,
    of_decks,
    of_sheeting,
    of_slabs,
    spared,
    unswung,
    untempered,
    weightless,
)

#: criteria of which at least one must be found
STRENGTH = (
    "section", "shear", "flexural", "lateral", "interaction", "torsion", "twist", "general", "chord", "axial", "sum", "single", "web", "stiffener", "knee",
)  # fmt: skip

#: share of its elastic moment above which a member whose role has no limit of deflection is told: it bends as a beam
BENT = 0.25


@dataclass(frozen=True)
class Verification:
    """Verdicts and all that their proofs need. strength, deflection, variable, imposed, quasi, crane: indices of the combinations used; stretches: what keeps
    limits of deflection; along: (e, s) largest utilisation of section and stability checks at each station, NaN where nothing is
    checked; tilts, lifted: static equilibrium of the whole; left_out: what is said of no member, in words: cases that no combination
    for strength takes up, and what the weights alone do not hold down; secondary: purlins and rails that are no members; pads: what
    acts under pad footings."""

    verdicts: tuple[Verdict, ...]
    checks: Checks
    deflection: tuple[int, ...]
    stretches: tuple[Stretch, ...]
    along: Floats
    tilts: tuple[Tilt, ...] = ()
    lifted: tuple[Lifted, ...] = ()
    left_out: tuple[str, ...] = ()
    variable: tuple[int, ...] = ()
    quasi: tuple[int, ...] = ()
    crane: tuple[int, ...] = ()
    imposed: tuple[int, ...] = ()
    secondary: tuple[Secondary, ...] = ()
    pads: tuple[UnderPad, ...] = ()

    def used(self, criterion: str) -> tuple[int, ...]:
        """Indices of the combinations that a criterion looks at."""
        if criterion not in SERVICE:
            return self.strength
        return dict(self.served)[UNDER.get(criterion, "deflection")]

    @property
    def served(self) -> list[tuple[str, tuple[int, ...]]]:
        """Uses for which movements are limited, with the combinations of each."""
        more = ("imposed", self.imposed), ("quasi-permanent", self.quasi), ("crane", self.crane)
        return [("deflection", self.deflection), ("variable", self.variable), *more]

    def limited(self, under: str) -> list[tuple[int, Stretch]]:
        """Stretches with their numbers that are looked at under the combinations of a use."""
        return [(i, s) for i, s in enumerate(self.stretches) if UNDER.get(s.criterion, "deflection") == under]

    @property
    def grounds(self) -> Grounds:
        """What the checks rest on."""
        return self.checks.grounds

    @property
    def strength(self) -> tuple[int, ...]:
        """Indices of the combinations for strength."""
        return self.grounds.strength

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
        return whole(self.verdicts, self.left_out, self.secondary)

    @property
    def worst(self) -> float:
        """The largest utilisation of all."""
        return self.whole.worst


#: what the natural frequency of a beam says nothing of
ALONE = "its natural frequency is of it alone: what it rests on is taken as still"
#: the checks of a family on results under combinations for strength
Make = Callable[[Document, Combined, tuple[int, ...]], Checks]


def verify(
    document: Document,
    combined: Combined,
    combinations: list[Combination],
    make: Make,
    secondary: tuple[Secondary, ...] = (),
    progress: Step = quiet,
) -> Verification:
    """Verify every member for every combination of its use by the checks that a family makes. secondary: what is found of purlins and
    rails that are no members. `progress` is told of how many members the
    sections have been checked, by far the most of the work."""
    structure = combined.structure
    strength = tuple(i for i, c in enumerate(combinations) if c.use in ("strength", "accidental"))
    service, variable, quasi = (
        tuple(i for i, c in enumerate(combinations) if c.use == use)
        for use in ("deflection", "variable", "quasi-permanent")
    )
    loading = combined.response.system.loading
    natures = np.array([case.nature for case in loading.cases], dtype=object)
    imposed = _alone(combined, variable, natures == "imposed", natures == "imposed")
    cranes = natures == "crane"
    crane = _alone(combined, variable, cranes, np.isin(natures, BESIDE_CRANES))
    checks = make(document, combined, strength)
    found = Findings.none(len(structure.members), combined.stations.shape, progress)
    outcomes, reasons, left_out, along = found.outcomes, found.reasons, found.left_out, found.along
    checks.verify(found)
    if strength:
        judge(document, combined, combinations, strength, outcomes, reasons)
    stretches_ = tuple(stretches(document, structure, combined.elements))
    of_all = [(i, s) for i, s in enumerate(stretches_) if s.criterion not in UNDER]
    for criterion, used, words in (
        (("variable",), variable, "deflection under variable actions"),
        (("imposed",), imposed, "deflection under imposed loads"),
        (RAILS, crane, "movement of crane rails"),
        (("lasting",), quasi, "deflection under quasi-permanent actions"),
        (("frequency",), quasi, "natural frequency"),
        (("floor",), quasi, "natural frequency of the floor"),
    ):
        limited = [(i, s) for i, s in enumerate(stretches_) if s.criterion in criterion]
        if used and limited:
            _deflection(combined, _moving(combined, used), limited, outcomes)
            free_to_move(combined, combinations, used, reasons)
        for i in [] if used else sorted({m for _, s in limited for m in s.members}):
            left_out[i].append(f"{words} not checked: there is no combination for it")
    swinging = {m for s in stretches_ if s.criterion == "frequency" for m in s.members}
    for i, member in enumerate(structure.members):
        if i not in swinging and document.rules.frequencies.get(member.role):  # type: ignore[call-overload]
            left_out[i].append("natural frequency not checked: it does not bend downwards between supports")
    floors = {m for s in stretches_ if s.criterion == "floor" for m in s.members}
    if floors:
        for i in sorted({m for s in stretches_ if s.way == "down" for m in s.members} - floors):
            if structure.members[i].role == "member":
                left_out[i].append("natural frequency of floors not checked: its role does not say that it is of one")
    for i in sorted(swinging - floors):
        left_out[i].append(ALONE)
    if service:
        moving = _moving(combined, service)
        _deflection(combined, moving, of_all, outcomes)
        free_to_move(combined, combinations, service, reasons)
        for i, share in _aside(combined, moving, of_all).items():
            left_out[i].append(
                f"it moves sideways by {share:.1f} of what it may move downwards: nobody asked how far it may"
            )
        for i, share in _bowed(combined, moving, of_all).items():
            left_out[i].append(
                f"it bends between its ends by {share:.1f} of what its head may drift: nobody asked how far it may"
            )
        for i in unlimited(document, structure, [s for _, s in of_all]):
            left_out[i].append("deflection not checked: it has no limit")
        for i in _bent(checks, combined, silent(document, structure, [s for _, s in of_all])):
            roles = ROLE_WORDS[structure.members[i].role][1].lower()
            left_out[i].append(f"deflection not checked: {roles} have no limit, and this one bends as a beam")
    else:
        for i, member in enumerate(structure.members):
            if member.behaviour == "beam" and document.rules.deflects(member.role):
                left_out[i].append("deflection not checked: there is no combination for it")
    for i in unloaded(structure, combined.response.system.loading):
        left_out[i].append(NOTHING_BORNE)
    for i, (onward, side) in hinged_joints(structure).items():
        left_out[i].append(
            f"where it goes on in “{onward}” it counts as held by what is hinged to it there (“{side}”): that this leads to bracing, and holds it "
            "against twist, is not checked"
        )
    verdicts = []
    for i, own in enumerate(outcomes):
        usable = tuple(o for o in own if np.isfinite(o.utilisation))
        if len(usable) < len(own) and not reasons[i]:
            reasons[i].append("a resistance could not be computed")
        if not strength and not reasons[i]:
            reasons[i].append("no combination for strength")
        elif not any(o.criterion in STRENGTH for o in usable) and not reasons[i]:
            reasons[i].append("nothing of it is checked for strength")
        worst = max((o.utilisation for o in usable), default=0.0)
        status = "fails" if worst > 1.0 else "not covered" if reasons[i] else "passes"
        verdicts.append(
            Verdict(i, status, usable, tuple(dict.fromkeys(reasons[i])), tuple(left_out[i]), i in found.slender)
        )
    _shown(combined, verdicts, along)
    tilts, lifted = equilibrium(combined, combinations)
    # first what nobody stated: all else rests on it
    unsaid = unasked(document, structure, loading) + unplaced(document, loading)
    unsaid += lenient(document, combined, combinations, strength) + spared(combined, combinations)
    unsaid += lost(combined.response) + idle(combined, combinations) + checks.unsaid()
    unsaid += unbalanced(tilts, structure) + unbalanced_unasked(combined, combinations, strength)
    # a pad is held down by no more than counts against overturning and uplift, in their combinations too
    rules = document.rules
    uplift = tuple(i for i, c in enumerate(combinations) if c.use == "uplift")
    gammas = rules.gamma_G_unfavourable, min(rules.gamma_G_favourable, rules.gamma_G_equ_favourable)
    pads = under_pads(combined, strength + uplift, gammas)
    unsaid += untempered(structure, {case.nature for case in loading.cases}) + unswung(
        document, structure, loading.cases
    )
    if structure.out >= 0:
        unsaid += (OUT_OF_PLANE,)
    if document.rules.floor_frequency and not floors:
        unsaid += ("natural frequency of floors not checked: no main beam or joist bends between supports",)
    unsaid += held_aloft(structure) + weightless(document, structure) + said_of(pads) + of_slabs(structure)
    besides = {"roof" if s.role == "purlin" else "wall" for s in secondary}
    unsaid += of_sheeting(structure, {load.panel for load in loading.surfaces}, besides)
    unsaid += of_decks(structure) + rails_unsaid(document, structure, bool(cranes.any()))
    tuples = tuple(tilts), tuple(lifted)
    return Verification(
        tuple(verdicts),
        checks,
        service,
        stretches_,
        along,
        *tuples,
        unsaid,
        variable,
        quasi,
        crane,
        imposed,
        secondary,
        tuple(pads),
    )


def _alone(combined: Combined, which: tuple[int, ...], wanted: Bools, beside: Bools) -> tuple[int, ...]:
    """Those of combinations in which some of the wanted cases act, and none but what may act beside them."""
    acts = combined.rows != 0
    return tuple(i for i in which if acts[i, wanted].any() and not acts[i, ~beside].any())


def _moving(combined: Combined, which: tuple[int, ...]) -> tuple[Floats, Floats]:
    """Displacements of nodes and along elements, as `measure` takes them."""
    return combined.displacement(which), combined.deflections(which)


def _aside(combined: Combined, moving: tuple[Floats, Floats], found: list[tuple[int, Stretch]]) -> dict[int, float]:
    """How far members move level, square to themselves, beside their limit downwards, where that is more than it."""
    moved, along = moving
    most: dict[int, float] = {}
    for _, stretch in found:
        if stretch.way == "down":
            off = measure(combined, moved, along[stretch.rows], replace(stretch, way="aside", camber=0.0))
            share = float(off.max(initial=0.0)) * stretch.ratio / stretch.length
            for i in stretch.members if share > 1.0 else ():
                most[i] = max(most.get(i, 0.0), share)
    return most


def _bowed(combined: Combined, moving: tuple[Floats, Floats], found: list[tuple[int, Stretch]]) -> dict[int, float]:
    """How far what stands bends off the line between its ends, beside what its head may drift, where that is more than it."""
    moved, along = moving
    z = combined.structure.xyz[combined.elements.ends, 2]
    most: dict[int, float] = {}
    for _, stretch in found:
        if not stretch.drifts:
            continue
        low, high = combined.structure.xyz[[stretch.start, stretch.end], 2]
        own = np.concatenate([combined.elements.rows(i) for i in stretch.members])
        rows = own[(z[own].min(axis=1) > low - CLOSE) & (z[own].max(axis=1) < high + CLOSE)]
        for way in ("across", "across y") if len(rows) else ():
            off = measure(combined, moved, along[rows], replace(stretch, way=way, rows=rows))
            share = float(off.max(initial=0.0)) * stretch.ratio / stretch.length
            for i in stretch.members if share > 1.0 else ():
                most[i] = max(most.get(i, 0.0), share)
    return most


def _bent(checks: Checks, combined: Combined, members: list[int]) -> list[int]:
    """Those members that reach more than `BENT` of their elastic moment about y."""
    found = []
    for i in members:
        m = combined.structure.members[i]
        most = np.abs(checks.grounds.forces.My[combined.elements.rows(i)]).max(initial=0.0)
        if m.material.strength is not None and most > BENT * m.section.Wel_y * m.material.fy(m.section.tf):
            found.append(i)
    return found


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


def of_one(verification: Verification, number: int) -> Floats:
    """(e, s) utilisation along the members in one combination alone: of sections and stability where it is one for strength, of
    deflection and sway where it is one for that; NaN where nothing is checked."""
    combined = verification.grounds.combined
    along = np.full(combined.stations.shape, np.nan)
    if number in verification.strength:
        along = verification.checks.of_one(verification.strength.index(number))
        if not combined.stable(number):
            along[:] = np.fmax(along, 1 / max(float(combined.alpha[number]), 0.1))
    elif under := [use for use, own in verification.served if number in own]:
        moved, bent = combined.displacement([number]), combined.deflections([number])
        for _, stretch in (pair for use in under for pair in verification.limited(use)):
            found = measure(combined, moved, bent[stretch.rows], stretch).max() * stretch.ratio / stretch.length
            own = np.isin(combined.elements.member, stretch.members)
            along[own] = np.fmax(along[own], found)
    uncovered = [v.member for v in verification.verdicts if v.status == "not covered"]
    along[np.isin(combined.elements.member, uncovered)] = np.nan
    return along


def _deflection(
    combined: Combined, moving: tuple[Floats, Floats], found: list[tuple[int, Stretch]], outcomes: list[list[Outcome]]
) -> None:
    """The worst stretch of each member against its limit."""
    moved, along = moving
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
            k, s, c = (int(i) for i in np.unravel_index(int(np.argmax(part)), part.shape))
            at, station = float(places[stretch.rows[own[k]], s]), int(own[k] * block.shape[1] + s)
            outcome = Outcome(stretch.criterion, float(part[k, s, c]), c, at, number, station)
            before = worst.get((member, stretch.criterion))
            if before is None or outcome.utilisation > before.utilisation:
                worst[member, stretch.criterion] = outcome
    for (member, _), outcome in worst.items():
        outcomes[member].append(outcome)
