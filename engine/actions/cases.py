"""Load cases and the loads in them, ready for analysis: plain tables in newtons and metres."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from engine.derivation import Reason
from engine.document.base import LiesOn
from engine.structure.model import Floats, Ints, Structure


@dataclass(frozen=True)
class Case:
    """A load case. symbol: short name in formulas (G1, S2, W3); exclusive: cases of the same set never act together.
    together: variable cases of the same word are one action: they act at once, with one factor. alone: it acts with no other variable case, for
    strength alone.

    category: of an imposed case (EN 1990 table A1.1). note: in words, what it is and what was simplified.
    """

    name: str
    symbol: str
    nature: str
    exclusive: str = ""
    note: str = ""
    category: str = ""
    together: str = ""
    alone: bool = False


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
class LineTable:
    """Line loads in one table, as in LineLoad: member, case, surface (−1: none): (n,); start, end: (n,) m; first, last:
    (n, 3) N/m."""

    member: Ints
    case: Ints
    start: Floats
    end: Floats
    first: Floats
    last: Floats
    surface: Ints

    def __len__(self) -> int:
        return len(self.member)


@dataclass(frozen=True)
class SurfaceLoad:
    """A pressure on a part of a panel, in N/m² of its surface.

    polygon: (k, 2) in the panel's coordinates; pressure: at the panel's origin, its change per metre of s and of t;
    direction: unit vector in which it pushes; zone: letter or word; why: the coefficients behind it; excluded: carriers of the panel that
    take none of it; reason: how it came about, step by step. kind: of one along a line or at a point the pressure times its reach, in
    metres or square metres, is what acts on each metre or on the point.
    """

    case: int
    panel: str
    polygon: Floats
    pressure: tuple[float, float, float]
    direction: Floats
    zone: str = ""
    why: str = ""
    excluded: frozenset[str] = frozenset()
    reason: Reason | None = None
    kind: LiesOn = "area"
    reach: float = 1.0

    def at(self, point: Floats) -> float:
        """Pressure at a point of the panel."""
        return float(self.pressure[0] + self.pressure[1] * point[0] + self.pressure[2] * point[1])


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
class Warming:
    """A change of temperature of a member, as what it would take freely: the strain α ΔT, and the curvature α ΔT/h towards
    local y and z, 1/m."""

    case: int
    member: str
    strain: float
    curvature: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class Settlement:
    """An imposed movement (m, global axes) of a support."""

    case: int
    node: int
    movement: Floats


@dataclass(frozen=True)
class Reduction:
    """α_A of the imposed load that a member takes from panels: the area it takes in m², and the factor."""

    area: float
    factor: float


#: a part of a panel: its corners (k, 2), area and centroid
Region = tuple[Floats, float, Floats]


@dataclass
class Loading:
    """All cases with their loads; expected: (cases, 3) N, the resultant found from surfaces, pressures and masses; grounded: by
    case what of it cladding gives to the ground, past the structure.

    lines: loads stated on members; surfaces: those on panels; spread: the line loads that the panels' carriers take;
    leans: case -> its two imperfection cases; lean_along: (2, 3) the ways in which these push, level. regions: parts of panels cut out so far. reductions: by case and number
    of a member.
    """

    cases: list[Case] = field(default_factory=list)
    lines: list[LineLoad] = field(default_factory=list)
    points: list[PointLoad] = field(default_factory=list)
    surfaces: list[SurfaceLoad] = field(default_factory=list)
    spread: LineTable | None = None
    settlements: list[Settlement] = field(default_factory=list)
    warmings: list[Warming] = field(default_factory=list)
    expected: list[Floats] = field(default_factory=list)
    grounded: dict[int, Floats] = field(default_factory=dict)
    leans: dict[int, tuple[int, int]] = field(default_factory=dict)
    lean_along: Floats = field(default_factory=lambda: np.eye(3)[:2])
    regions: dict[tuple[str, bytes], list[Region]] = field(default_factory=dict)
    reductions: dict[tuple[int, int], Reduction] = field(default_factory=dict)

    def add_case(self, case: Case) -> int:
        """Add a case and give its number."""
        self.cases.append(case)
        self.expected.append(np.zeros(3))
        return len(self.cases) - 1

    @property
    def borne(self) -> Floats:
        """(cases, 3) N: what the structure bears of the expected resultants."""
        found = np.array(self.expected, dtype=float).reshape(-1, 3)
        for case, force in self.grounded.items():
            found[case] -= force
        return found

    def table(self, structure: Structure) -> LineTable:
        """All line loads: those stated and those from panels."""
        stated = self.lines
        ends = [structure.length(structure.member(s.member)) if s.end is None else s.end for s in stated]
        table = LineTable(
            np.array([structure.index[s.member] for s in stated], dtype=np.int64),
            np.array([s.case for s in stated], dtype=np.int64),
            np.array([s.start for s in stated], dtype=float),
            np.array(ends, dtype=float),
            np.array([s.first for s in stated], dtype=float).reshape(-1, 3),
            np.array([s.last for s in stated], dtype=float).reshape(-1, 3),
            np.full(len(stated), -1, dtype=np.int64),
        )
        if self.spread is None:
            return table
        return LineTable(*(np.concatenate([a, b]) for a, b in zip(columns(table), columns(self.spread), strict=True)))


def columns(table: LineTable) -> tuple[Floats | Ints, ...]:
    """The columns of a table, in order."""
    return (table.member, table.case, table.start, table.end, table.first, table.last, table.surface)
