"""What a family of standards provides to the pipeline, and the families there are."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from engine.actions.cases import Case, Loading
from engine.actions.combinations import Combination
from engine.actions.derived import Factors, Idle, LocalPressure, SnowShape, Wind, Zone
from engine.analysis.combined import Combined
from engine.catalogue.properties import Section
from engine.catalogue.steels import Material
from engine.derivation import Derivation, Reason
from engine.document import Document
from engine.document.national import BasisValues, ImperfectionValues
from engine.document.national_values import NationalValue
from engine.document.rules import Rules, Site
from engine.errors import ModelError
from engine.standards.en.family import Eurocodes
from engine.structure.model import Floats, Member, Structure
from engine.verification.checks import Checks
from engine.verification.grounds import Lengths
from engine.verification.least import Splice, TiesAsked
from engine.verification.secondary import Candidate, Secondary


class Family(Protocol):
    """A family of standards for actions, their combinations, imperfections, and checks of members."""

    def add_actions(self, loading: Loading, structure: Structure, document: Document) -> None:
        """Add the cases that the site and the building bring along: weights, imposed loads, snow, wind."""

    def finish(self, loading: Loading, structure: Structure, document: Document) -> None:
        """Change or add what follows from all loads together: reductions by area, imperfections."""

    def combine(
        self,
        cases: list[Case],
        rules: Rules,
        site: Site,
        basis: BasisValues,
        leans: dict[int, tuple[int, int]],
        resultants: Floats,
    ) -> list[Combination]:
        """All combinations of the cases. leans: case -> its imperfection cases; resultants: (cases, 3) N."""

    def foresee(self, cases: list[Case], basis: BasisValues) -> int:
        """About how many they will be, from above. Raises ModelError for more than may be made."""

    def leaning(self, factors: Floats, leans: dict[int, tuple[int, int]], resultants: Floats) -> list[Floats]:
        """A stated combination (cases,) with the sway imperfections of its cases, in each way in which it must be looked at; none
        where it needs none."""

    def bow_ratio(self, member: Member, about: str, values: ImperfectionValues) -> float:
        """L/e0 of the bow imperfection of a member bent about its axis y or z, in elastic analysis."""

    def winds(self, document: Document, structure: Structure) -> list[Wind]:
        """Wind on the building from each direction; none without one that has a roof."""

    def wind_profile(self, document: Document, wind: Wind, heights: Floats) -> Floats:
        """Peak pressure in N/m² at heights in m above the ground, for wind from the direction of `wind`."""

    def local_pressures(self, document: Document, structure: Structure, loading: Loading) -> list[LocalPressure]:
        """Net pressures of the wind on secondary members, by panel and zone."""

    def secondary(self, document: Document, structure: Structure, loading: Loading) -> list[Secondary]:
        """Purlins and rails that are no members of the model, beside what they bear."""

    def secondary_candidates(
        self, document: Document, structure: Structure, loading: Loading, role: str
    ) -> list[Candidate]:
        """How those of a role would fare as other sections, the lightest first; none where nothing is computed."""

    def snow_shape(self, document: Document, structure: Structure) -> SnowShape:
        """How snow lies on the roofs of the building."""

    def idle(self, document: Document, structure: Structure) -> list[Idle]:
        """What of the family's actions does not act on the building, and why."""

    def factors(self, document: Document, case: Case) -> Factors:
        """Combination factors of a variable case."""

    def load_derivation(self, reason: Reason) -> Derivation:
        """How a pressure of wind or snow, or the wind's peak pressure, came about."""

    def case_derivations(self, loading: Loading, case: int) -> list[Derivation]:
        """How the pressures of a case come about, alike ones once; none of what is stated."""

    def zone_derivations(self, wind: Wind, zone: Zone) -> list[Derivation]:
        """How the wind on a zone comes about: its peak pressure, then what follows from it by each set of coefficients and pressure
        inside."""

    def factor_derivation(self, document: Document, loading: Loading, combination: Combination) -> Derivation:
        """How the factors of a combination came about."""

    def national_values(self) -> list[NationalValue]:
        """What the family leaves to nations, by group."""

    def effective_lengths(self, document: Document, structure: Structure, member: Member) -> Lengths:
        """Effective lengths of a member that is held at both ends."""

    def checks(self, document: Document, combined: Combined, strength: tuple[int, ...]) -> Checks:
        """The checks of members under the combinations for strength, by their numbers."""

    def splice(self, document: Document, parts: Sequence[tuple[Section, Material]], compression: float) -> Splice:
        """What a splice between sections must bear at least where its members are in compression; compression: the largest, N."""

    def ties_asked(self, document: Document) -> TiesAsked:
        """Whether members must tie the building together when a part of it fails."""

    def ties(self, document: Document, cases: Sequence[Case], on: Floats) -> Floats:
        """(m,) N that members must bear in tension as horizontal ties; on: (m, cases) N of weight on each."""

    def simplifications(self, document: Document, structure: Structure) -> list[str]:
        """What is simplified or not covered for this document, in sentences."""


#: by the name that documents call them
FAMILIES: dict[str, Family] = {"EN": Eurocodes()}


def family(document: Document) -> Family:
    """The family that a document's rules name. Raises ModelError for one that is not there."""
    found = FAMILIES.get(document.rules.standard)
    if found is None:
        raise ModelError(f"There is no family of standards “{document.rules.standard}”.", "rules.standard")
    return found


def national_values() -> list[NationalValue]:
    """What every family leaves to nations: an office keeps them for all of its projects."""
    return [value for own in FAMILIES.values() for value in own.national_values()]
