"""Load cases and the loads in them, ready for analysis: plain tables in newtons and metres."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from engine.structure.model import Floats


@dataclass(frozen=True)
class Case:
    """A load case. symbol: short name in formulas (G1, S2, W3); exclusive: cases of the same set never act together.

    note: in words, what it is and what was simplified.
    """

    name: str
    symbol: str
    nature: str
    exclusive: str = ""
    note: str = ""


@dataclass(frozen=True)
class LineLoad:
    """A line load on a member in global axes, N per metre of member: from `first` at `start` to `last` at `end` (m; None:
    the member's end)."""

    case: int
    member: str
    start: float
    end: float | None
    first: Floats
    last: Floats


@dataclass(frozen=True)
class PointLoad:
    """A concentrated force (N) and moment (Nm), global axes, on a member at a distance (m), or on a node."""

    case: int
    force: Floats
    moment: Floats
    member: str = ""
    at: float = 0.0
    node: int = -1


@dataclass(frozen=True)
class Settlement:
    """An imposed movement (m, global axes) of a support."""

    case: int
    node: int
    movement: Floats


@dataclass
class Loading:
    """All cases with their loads; expected: (cases, 3) N, the resultant found from surfaces, pressures and masses."""

    cases: list[Case] = field(default_factory=list)
    lines: list[LineLoad] = field(default_factory=list)
    points: list[PointLoad] = field(default_factory=list)
    settlements: list[Settlement] = field(default_factory=list)
    expected: list[Floats] = field(default_factory=list)

    def add_case(self, case: Case) -> int:
        """Add a case and give its number."""
        self.cases.append(case)
        self.expected.append(np.zeros(3))
        return len(self.cases) - 1
