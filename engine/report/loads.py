"""Cases with their balance, and the combination factors that they take."""

from __future__ import annotations

from dataclasses import dataclass

from engine.actions.cases import Case
from engine.actions.derived import Factors
from engine.balance import Balance, balances
from engine.chain import Chain
from engine.standards.family import family


@dataclass(frozen=True)
class CaseReport:
    """A case with its balance; own: whether the document states it."""

    case: Case
    balance: Balance
    own: bool


def cases(chain: Chain) -> list[CaseReport]:
    """All cases, in their order."""
    own = {case.name for case in chain.document.cases}
    both = zip(chain.loading.cases, balances(chain.loading, chain.response), strict=True)
    return [CaseReport(case, balance, case.symbol in own) for case, balance in both]


def factors(chain: Chain) -> list[tuple[Factors, list[str]]]:
    """The rows of combination factors that cases take, each with the symbols of its cases."""
    rows: dict[str, tuple[Factors, list[str]]] = {}
    for case in chain.loading.cases:
        if case.nature not in ("permanent", "imperfection", "accidental") and not case.alone:
            found = family(chain.document).factors(chain.document, case)
            rows.setdefault(found.row, (found, []))[1].append(case.symbol)
    return list(rows.values())
