"""What holds members: bracing with what leans on it, effective lengths."""

from __future__ import annotations

from dataclasses import dataclass

from engine.actions.combinations import Combination
from engine.chain import Chain
from engine.structure.model import Member
from engine.verification.grounds import Lengths


@dataclass(frozen=True)
class Stabilised:
    """A span of bracing with the most that it stabilises: lines of members that lean on it and on how many bracings; span, bow and
    movement in m, compression in sum in N, force in N/m; firm: whether the bracing is stiff enough in all combinations."""

    lines: int
    count: float
    span: float
    compression: float
    force: float
    bow: float
    movement: float
    alpha_m: float
    firm: bool
    combination: Combination


def stabilised(chain: Chain) -> list[Stabilised]:
    """Each span of bracing on which members lean."""
    found, strength = [], chain.verification.strength
    for span in chain.verification.grounds.stabilising.spans:
        c = span.most
        found.append(
            Stabilised(
                lines=span.lines,
                count=span.count,
                span=span.L,
                compression=float(span.N[c]),
                force=float(span.q[c]),
                bow=span.e0,
                movement=float(span.delta[c]),
                alpha_m=span.alpha_m,
                firm=bool(span.firm.all()),
                combination=chain.combinations[strength[c]],
            )
        )
    return found


@dataclass(frozen=True)
class LengthsReport:
    """Effective lengths that members of a role and section share: the first of them, its length in m, how many there are."""

    member: Member
    length: float
    lengths: Lengths
    count: int


def lengths(chain: Chain) -> list[LengthsReport]:
    """Each different kind once, in the order of the members."""
    kinds: dict[tuple[object, ...], list[int]] = {}
    every = chain.verification.grounds.lengths
    for i, (m, own) in enumerate(zip(chain.structure.members, every, strict=True)):
        rounded = (round(own.y, 3), round(own.z, 3), round(own.torsion, 3))
        kinds.setdefault((m.role, m.section.name, *rounded, own.why_y, own.why_z), []).append(i)
    first = [(chain.structure.members[own[0]], every[own[0]], len(own)) for own in kinds.values()]
    return [LengthsReport(m, chain.structure.length(m), found, count) for m, found, count in first]
