"""A member laid flat: what holds its flanges, how it is bent where strength governs, its stretches."""

from __future__ import annotations

from dataclasses import dataclass

from engine.chain import Chain
from engine.structure.model import Floats
from engine.verification.checks import Between, Buckled
from engine.verification.outcomes import Outcome, kind_of


@dataclass(frozen=True)
class Ribbon:
    """combination: in which strength governs, "" without any; x, My: along the member in that combination, m and Nm; spans: stretches of its
    flanges with the largest utilisation under all combinations; strong: the outcomes of strength and stability; buckled: how it buckles sideways where an
    eigenvalue governs that, in the combination `buckles_in`."""

    combination: str
    x: Floats
    My: Floats
    spans: tuple[Between, ...]
    strong: tuple[Outcome, ...]
    buckled: Buckled | None = None
    buckles_in: str = ""


def ribbon(chain: Chain, member: int) -> Ribbon:
    """The ribbon of a member."""
    verification = chain.verification
    strong = tuple(o for o in verification.verdicts[member].outcomes if kind_of(o.criterion) != "service")
    worst = max(strong, key=lambda o: o.utilisation, default=None)
    c = worst.combination if worst else 0
    rows = chain.response.elements.rows(member)
    forces, there = verification.forces, bool(verification.strength)
    x = chain.response.elements.positions(forces.x, rows).ravel()
    buckled = verification.checks.buckled(member, strong)
    return Ribbon(
        combination=chain.combinations[verification.strength[c]].name if there else "",
        x=x,
        My=forces.My[rows, :, c].ravel() if there else x[:0],
        spans=tuple(verification.checks.flanges(member)),
        strong=strong,
        buckled=buckled,
        buckles_in=chain.combinations[verification.strength[buckled.combination]].name if buckled else "",
    )
