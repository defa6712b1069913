"""The checks of steel members by EN 1993: a row of a table for each, and what they are asked for."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from engine.analysis.combined import Combined
from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.derivation import Line, Symbol
from engine.document import Document
from engine.standards.en.checks import bracing
from engine.standards.en.checks.axial import axial, axial_most, axial_of, axial_reached, is_axial
from engine.standards.en.checks.built_up import built_up, built_up_most, built_up_of, built_up_reached, is_built_up
from engine.standards.en.checks.candidates import candidates
from engine.standards.en.checks.evaluated import evaluated
from engine.standards.en.checks.general import general, general_most, general_of, general_reached
from engine.standards.en.checks.grounds import SteelGrounds
from engine.standards.en.checks.knees import arms_of, panels, panels_most, panels_of, panels_reached
from engine.standards.en.checks.length_methods import methods
from engine.standards.en.checks.net import net, net_reached
from engine.standards.en.checks.ribbon import between, buckled, figures, flanges
from engine.standards.en.checks.second import second
from engine.standards.en.checks.sections import sections, sections_most, sections_of, sections_reached
from engine.standards.en.checks.sheeting import with_sheeting
from engine.standards.en.checks.slenderness import is_limited, slenderness, slenderness_reached
from engine.standards.en.checks.stability import stability, stability_most, stability_of, stability_reached
from engine.standards.en.checks.stays import is_stayed, stays, stays_most, stays_reached
from engine.standards.en.checks.stiffeners import (
    is_stiffened,
    stiffeners,
    stiffeners_in,
    stiffeners_most,
    stiffeners_reached,
)
from engine.standards.en.checks.summed import (
    is_summed,
    summed,
    summed_in,
    summed_most,
    summed_reached,
)
from engine.standards.en.checks.torsion import is_twisted, torsion, torsion_most, torsion_of, torsion_reached
from engine.standards.en.checks.uncovered import COVERED, uncovered, unfactored
from engine.standards.en.checks.webs import webs, webs_most, webs_of, webs_reached
from engine.standards.en.proof_symbols import SYMBOLS
from engine.standards.en.proof_text import CLAUSES, LINES
from engine.structure.model import Floats
from engine.structure.rows import rows
from engine.verification.checks import Between, Buckled, Checks, Evaluated, Figure, Method, Second
from engine.verification.grounds import Grounds
from engine.verification.outcomes import Findings, Held, Outcome, Reached, spread
from engine.verification.stabilising import none

#: pitch below which water may gather as a roof sags, 5 %, in degrees
PONDING = 2.86
#: rise over length of what counts as upright, and N from which on it is pressed
UPRIGHT, PRESSED = 0.7, 1000.0


def _nothing(grounds: SteelGrounds, column: int, along: Floats) -> list[Held]:
    return []


def _no_more(grounds: SteelGrounds, most: Floats) -> None:
    pass


@dataclass(frozen=True)
class Check:
    """One check. applies: whether to a member, by number; verify: of all members, into what is found; of_one: in one combination, into
    utilisations along the members; most: raises (members, combinations); reached: of one member in every combination."""

    applies: Callable[[SteelGrounds, int], bool]
    verify: Callable[[SteelGrounds, Findings], list[Held]]
    reached: Callable[[SteelGrounds, int, bool], list[Reached]]
    of_one: Callable[[SteelGrounds, int, Floats], list[Held]] = _nothing
    most: Callable[[SteelGrounds, Floats], None] = _no_more


def _bar(grounds: SteelGrounds, member: int) -> bool:
    return is_axial(grounds.combined.structure.members[member])


def _summed(grounds: SteelGrounds, member: int) -> bool:
    return is_summed(grounds.combined.structure.members[member])


def _built_up(grounds: SteelGrounds, member: int) -> bool:
    return is_built_up(grounds.combined.structure.members[member])


def _sectioned(grounds: SteelGrounds, member: int) -> bool:
    # arrays over all members are made for those alone that need them
    shape = grounds.combined.structure.members[member].section.shape
    return shape in COVERED and bool(np.isfinite(grounds.steel.fy[member]))


def _member(grounds: SteelGrounds, member: int) -> bool:
    return _sectioned(grounds, member) and not _bar(grounds, member)


def _known(grounds: SteelGrounds, member: int) -> bool:
    return _sectioned(grounds, member) or _bar(grounds, member) or _summed(grounds, member)


#: in the order in which they are made: what the later ones say of a place along a member stands beside what was said before
CHECKS = (
    Check(_sectioned, sections, sections_reached, sections_of, sections_most),
    Check(_member, stability, stability_reached, stability_of, stability_most),
    Check(is_twisted, torsion, torsion_reached, torsion_of, torsion_most),
    Check(_member, general, general_reached, general_of, general_most),
    Check(_summed, summed, summed_reached, summed_in, summed_most),
    Check(_built_up, built_up, built_up_reached, built_up_of, built_up_most),
    Check(_bar, axial, axial_reached, axial_of, axial_most),
    Check(_known, net, net_reached),
    Check(_member, webs, webs_reached, webs_of, webs_most),
    Check(is_stiffened, stiffeners, stiffeners_reached, stiffeners_in, stiffeners_most),
    Check(_member, panels, panels_reached, panels_of, panels_most),
    Check(is_stayed, stays, stays_reached, most=stays_most),
    Check(is_limited, slenderness, slenderness_reached),
)


def steel_checks(document: Document, combined: Combined, strength: tuple[int, ...]) -> SteelChecks:
    """The checks under the combinations for strength."""
    combined = with_sheeting(document, combined)
    forces = combined.diagrams(strength)
    if document.rules.imperfections:
        stabilising = bracing.found(combined, strength, forces)
    else:
        stabilising = none(len(combined.elements), len(strength))
    grounds = SteelGrounds(document, combined, strength, stabilising)
    vars(grounds)["analysed"] = forces
    return SteelChecks(grounds)


@dataclass(frozen=True)
class SteelChecks(Checks):
    """EN 1993-1-1 and EN 1993-1-5 of steel members."""

    grounds: SteelGrounds

    def verify(self, found: Findings) -> None:
        uncovered(self.grounds, found)
        if not self.grounds.strength:
            return
        held = [part for check in CHECKS for part in check.verify(self.grounds, found)]
        spread(self.grounds.combined, held, found.along)

    def unsaid(self) -> tuple[str, ...]:
        structure = self.grounds.combined.structure
        found = [*unfactored(self.grounds.document, self.grounds.combined, self.grounds.strength)]
        if any(panel.kind == "roof" and panel.pitch < PONDING for panel in structure.panels):
            found.append("ponding of rain on a roof that is nearly flat is not checked (EN 1990 A1.4.3)")
        if not self.grounds.document.rules.imperfections:
            plumb = ["columns stand plumb (EN 1993-1-1 5.3.2)"] if self._pressed_upright() else []
            alone = ["what holds members sideways bears nothing for it (EN 1993-1-1 5.3.3)"] if rows(structure) else []
            found += [f"imperfections: {', and '.join(plumb + alone)}"] if plumb or alone else []
        return tuple(found)

    def _pressed_upright(self) -> bool:
        """Whether anything upright bears what is above it."""
        elements = self.grounds.combined.elements
        upright = np.abs(elements.axes[:, 0, 2]) > UPRIGHT
        return bool(self.grounds.analysed.N[upright].min(initial=0.0) < -PRESSED)

    def of_one(self, column: int) -> Floats:
        along = np.full(self.grounds.combined.stations.shape, np.nan)
        held = [part for check in CHECKS for part in check.of_one(self.grounds, column, along)]
        spread(self.grounds.combined, held, along)
        return along

    def most(self) -> Floats:
        found = np.zeros((len(self.grounds.combined.structure.members), len(self.grounds.strength)))
        for check in CHECKS:
            check.most(self.grounds, found)
        return found

    def reached(self, member: int, governing: bool = False) -> list[Reached]:
        if not self.grounds.strength:
            return []
        own = [check for check in CHECKS if check.applies(self.grounds, member)]
        return [reached for check in own for reached in check.reached(self.grounds, member, governing)]

    def flanges(self, member: int) -> list[Between]:
        return flanges(self.grounds, member)

    def between(self, member: int, outcome: Outcome) -> Between | None:
        return between(self.grounds, member, outcome)

    def buckled(self, member: int, outcomes: Sequence[Outcome]) -> Buckled | None:
        return buckled(self.grounds, member, outcomes)

    def figures(self, member: int, outcomes: Sequence[Outcome]) -> list[Figure]:
        return figures(self.grounds, member, outcomes)

    def methods(self, member: int, axis: str, column: int) -> list[Method]:
        return methods(self.grounds, member, axis, column)

    def evaluated(self, member: int, outcome: Outcome) -> Evaluated:
        return evaluated(self.grounds, member, outcome)

    def second(self, member: int, outcome: Outcome) -> Second | None:
        return second(self.grounds, member, outcome)

    def lines(self, criterion: str) -> Sequence[Line]:
        return LINES[criterion]

    @property
    def symbols(self) -> Mapping[str, Symbol]:
        return SYMBOLS

    @property
    def clauses(self) -> Mapping[str, str]:
        return CLAUSES

    def arms(self, member: int, outcome: Outcome) -> Mapping[int, float]:
        return arms_of(self.grounds, member, outcome.row) if outcome.criterion == "knee" else {}

    def candidates(
        self,
        members: Sequence[int],
        made_of: Sequence[tuple[Section, Material]],
        columns: list[int],
        now: Mapping[str, float],
        twist: bool,
    ) -> Floats | None:
        return candidates(self.grounds, members, made_of, columns, now, twist)

    def on(self, grounds: Grounds) -> SteelChecks:
        assert isinstance(grounds, SteelGrounds)
        return SteelChecks(grounds)
