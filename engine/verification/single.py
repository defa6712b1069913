"""One member by itself: what it reaches in every combination by each criterion, and what it would reach if it were another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.combined import Combined
from engine.document import Document
from engine.structure.model import Floats, Structure
from engine.verification.checks import Checks
from engine.verification.limits import Stretch
from engine.verification.outcomes import SERVICE, Outcome, Reached, most_of
from engine.verification.service import measure, stretches
from engine.verification.verify import Verification


def served(combined: Combined, used: Sequence[int], found: Sequence[tuple[int, Stretch]], member: int) -> list[Reached]:
    """Deflection and sway of a member in the combinations `used`, by stretches with their numbers."""
    if not used:
        return []
    moved = combined.displacement(used)
    places = combined.elements.positions(combined.stations)
    by: dict[str, list[tuple[Floats, list[tuple[int, int, float]]]]] = {}
    for number, stretch in found:
        own = np.flatnonzero(combined.elements.member[stretch.rows] == member)
        if member not in stretch.members or not len(own):
            continue
        along = combined.deflections(used, stretch.rows)
        block = measure(combined, moved, along, stretch)[own] * (stretch.ratio / stretch.length)
        count = block.shape[1]
        where = [
            (number, int(k) * count + s, float(places[stretch.rows[k], s])) for k in own.tolist() for s in range(count)
        ]
        by.setdefault(stretch.criterion, []).append((block.reshape(len(where), -1), where))
    return [
        most_of(
            criterion,
            tuple(used),
            np.concatenate([block for block, _ in parts]),
            [place for _, where in parts for place in where],
        )
        for criterion, parts in by.items()
    ]


def everything(verification: Verification, member: int) -> list[Reached]:
    """All criteria of a member as it stands, worst first."""
    found = verification.checks.reached(member)
    for under, used in verification.served:
        found += served(verification.grounds.combined, used, verification.limited(under), member)
    return sorted((r for r in found if r.worst >= 0), key=lambda r: -float(r.utilisation[r.worst]))


def under_present(document: Document, structure: Structure, verification: Verification) -> Checks:
    """The checks where members are held or made otherwise, under the forces present."""
    return verification.checks.on(verification.grounds.under(document, structure))


@dataclass(frozen=True)
class Otherwise:
    """A building where the document and its structure are others under the forces present: strong: its checks of strength and stability; moving: its limits of
    movement on the movements that it has."""

    strong: Verification
    moving: Verification

    def of(self, criterion: str) -> Verification:
        """The one that a criterion belongs to."""
        return self.moving if criterion in SERVICE else self.strong

    def reached(self, member: int, governing: bool = False) -> list[Reached]:
        """All criteria of a member, as `Checks.reached`."""
        found = self.strong.checks.reached(member, governing=governing)
        moving = self.moving
        for under, used in moving.served:
            found += served(moving.grounds.combined, used, moving.limited(under), member)
        return found


def otherwise(
    document: Document, structure: Structure, verification: Verification, moved: Combined | None = None
) -> Otherwise:
    """Where the document and its structure are others: other restraints, lengths, limits, section, methods. Nodes, members and their order are those that were
    analysed. What the whole does to a member is as present. moved: where the movements come from, if not from there."""
    checks = under_present(document, structure, verification)
    combined = moved or verification.grounds.combined
    limits = tuple(stretches(document, structure, combined.elements))
    strong = replace(verification, checks=checks, stretches=limits)
    return Otherwise(strong, replace(strong, checks=checks.on(replace(checks.grounds, combined=combined))))


def tried(there: Otherwise, member: int, reached: Sequence[Reached] | None = None) -> list[Outcome]:
    """What a member reaches in a building that is otherwise, worst first. reached: all its criteria there, where they are known."""
    found = there.reached(member, governing=True) if reached is None else reached
    outcomes = [r.outcome(r.worst) for r in found if r.worst >= 0]
    outcomes += [o for o in there.strong.verdicts[member].outcomes if o.criterion == "critical"]
    return sorted(outcomes, key=lambda o: -o.utilisation)


def number_of(verification: Verification, outcome: Outcome) -> int:
    """The combination of an outcome among all of the document."""
    return verification.used(outcome.criterion)[outcome.combination]
