"""The Eurocodes, recommended values, as a family of standards."""

from __future__ import annotations

from collections.abc import Sequence

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
from engine.standards.en.checks.lengths import effective_lengths
from engine.standards.en.checks.steel import steel_checks
from engine.standards.en.combinations import PSI, combine, counted, leaning, psi, psi_key
from engine.standards.en.concentrated import add_concentrated
from engine.standards.en.derived import of_case, of_combination, of_load, of_zone
from engine.standards.en.hall_actions import add_hall_cases, simplifications
from engine.standards.en.idle import idle
from engine.standards.en.imperfections import add_imperfections, bow_ratio
from engine.standards.en.imposed import reduce_by_area
from engine.standards.en.least import ASKED, splice, ties
from engine.standards.en.national import national_values
from engine.standards.en.secondary import candidates, secondary
from engine.standards.en.snow import mu1
from engine.standards.en.snow_cases import greatest, hall_roofs
from engine.standards.en.wind_cases import hall_winds, profile
from engine.standards.en.wind_local import local_pressures
from engine.structure.model import Floats, Member, Structure
from engine.verification.checks import Checks
from engine.verification.grounds import Lengths
from engine.verification.least import Splice, TiesAsked
from engine.verification.secondary import Candidate, Secondary


class Eurocodes:
    """EN 1990, EN 1991-1-1, -1-3 and -1-4, the imperfections of EN 1993-1-1 5.3, and the checks of EN 1993-1-1 and -1-5."""

    def add_actions(self, loading: Loading, structure: Structure, document: Document) -> None:
        add_hall_cases(loading, structure, document)

    def finish(self, loading: Loading, structure: Structure, document: Document) -> None:
        reduce_by_area(loading, structure)
        if document.rules.imperfections:
            add_imperfections(loading, structure, document.national.imperfections)
        add_concentrated(loading, structure, document.national.imposed)

    def combine(
        self,
        cases: list[Case],
        rules: Rules,
        site: Site,
        basis: BasisValues,
        leans: dict[int, tuple[int, int]],
        resultants: Floats,
    ) -> list[Combination]:
        return combine(cases, rules, site, basis, leans, resultants)

    def foresee(self, cases: list[Case], basis: BasisValues) -> int:
        return counted(cases, basis)

    def leaning(self, factors: Floats, leans: dict[int, tuple[int, int]], resultants: Floats) -> list[Floats]:
        return leaning(factors, leans, resultants)

    def bow_ratio(self, member: Member, about: str, values: ImperfectionValues) -> float:
        return bow_ratio(member.section, member.material.name, about, values)

    def winds(self, document: Document, structure: Structure) -> list[Wind]:
        return hall_winds(document, structure)

    def wind_profile(self, document: Document, wind: Wind, heights: Floats) -> Floats:
        return profile(document, wind, heights)

    def local_pressures(self, document: Document, structure: Structure, loading: Loading) -> list[LocalPressure]:
        return local_pressures(document, structure, loading)

    def secondary(self, document: Document, structure: Structure, loading: Loading) -> list[Secondary]:
        return secondary(document, structure, loading)

    def secondary_candidates(
        self, document: Document, structure: Structure, loading: Loading, role: str
    ) -> list[Candidate]:
        return candidates(document, structure, loading, role)

    def snow_shape(self, document: Document, structure: Structure) -> SnowShape:
        pitch = next(p.pitch for p in hall_roofs(structure))
        return SnowShape(float(mu1(pitch, document.national.snow.flat)), greatest(document, structure))

    def idle(self, document: Document, structure: Structure) -> list[Idle]:
        return idle(document, structure)

    def factors(self, document: Document, case: Case) -> Factors:
        site, basis = document.site, document.national.basis
        row = psi_key(case, site, basis)
        return Factors(row, psi(case, document.rules, site, basis), PSI[row])

    def load_derivation(self, reason: Reason) -> Derivation:
        return of_load(reason)

    def case_derivations(self, loading: Loading, case: int) -> list[Derivation]:
        return of_case(loading, case)

    def zone_derivations(self, wind: Wind, zone: Zone) -> list[Derivation]:
        return of_zone(wind, zone)

    def factor_derivation(self, document: Document, loading: Loading, combination: Combination) -> Derivation:
        return of_combination(document, loading, combination)

    def national_values(self) -> list[NationalValue]:
        return national_values()

    def effective_lengths(self, document: Document, structure: Structure, member: Member) -> Lengths:
        return effective_lengths(document, structure, member)

    def checks(self, document: Document, combined: Combined, strength: tuple[int, ...]) -> Checks:
        return steel_checks(document, combined, strength)

    def splice(self, document: Document, parts: Sequence[tuple[Section, Material]], compression: float) -> Splice:
        return splice(document, parts, compression)

    def ties_asked(self, document: Document) -> TiesAsked:
        own = document.rules.consequences
        return TiesAsked(own not in ("", "1"), own in ("2b", "3"), ASKED[own])

    def ties(self, document: Document, cases: Sequence[Case], on: Floats) -> Floats:
        return ties(document, cases, on)

    def simplifications(self, document: Document, structure: Structure) -> list[str]:
        return simplifications(document, structure)
