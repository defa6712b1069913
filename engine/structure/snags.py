"""What a snag is: something found in a structure, with where it is, why it matters and what mends it."""

from __future__ import annotations

from dataclasses import dataclass

from engine.structure.model import Floats

#: nodes nearer than this, and not joined, are a snag; in metres
NEAR = 0.05


@dataclass(frozen=True)
class Snag:
    """A fault or doubt found in the structure.

    weight: "fault" (the analysis would fail or be wrong), "doubt" (look at it) or "note". mend: what would put it right
    without a choice to make: "merge" the nodes, "cut" the members at their crossing, "drop" the members, "join" them to one; "" when none is safe.
    """

    kind: str
    weight: str
    what: str
    why: str
    members: tuple[str, ...]
    nodes: tuple[str, ...]
    at: tuple[float, float, float]
    mend: str = ""


def placed(point: Floats) -> tuple[float, float, float]:
    x, y, z = point.tolist()
    return (x, y, z)
