"""The Eurocodes, recommended values, as a family of standards."""

from __future__ import annotations

from engine.actions.cases import Case, Loading
from engine.actions.combinations import Combination
from engine.document import Document
from engine.document.national import BasisValues, ImperfectionValues
from engine.document.rules import Rules, Site
from engine.standards.en.combinations import combine, counted, leaning
from engine.standards.en.hall_actions import add_hall_cases, simplifications
from engine.standards.en.imperfections import add_imperfections, bow_ratio
from engine.standards.en.imposed import reduce_by_area
from engine.structure.model import Floats, Member, Structure


class Eurocodes:
    """EN 1990, EN 1991-1-1, -1-3 and -1-4, and the imperfections of EN 1993-1-1 5.3."""

    def add_actions(self, loading: Loading, structure: Structure, document: Document) -> None:
        add_hall_cases(loading, structure, document)

    def finish(self, loading: Loading, structure: Structure, document: Document) -> None:
        reduce_by_area(loading, structure)
        if document.rules.imperfections:
            add_imperfections(loading, structure, document.national.imperfections)

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

    def simplifications(self, document: Document, structure: Structure) -> list[str]:
        return simplifications(document, structure)
