"""Purlins and rails that are no members of the model: what they bear by a table, beside what acts on them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from engine.derivation import Derivation
from engine.document.secondary import LoadTable, SpanRow

Way = Literal["down", "up", "service"]


@dataclass(frozen=True)
class Use:
    """A zone of a roof or wall under what asks most of its secondary members one way: load and resistance in N/m at right angles to the
    sheeting, formula: how the load is combined."""

    panel: str
    zone: str
    way: Way
    load: float
    resistance: float
    formula: str

    @property
    def utilisation(self) -> float:
        """Load over resistance."""
        return self.load / self.resistance


@dataclass(frozen=True)
class How:
    """How what secondary members bear one way came about."""

    way: Way
    derivation: Derivation


@dataclass(frozen=True)
class Secondary:
    """The purlins or the rails of a building. table: of what they are, "" where nothing is known; span in m, spans in line; uses: the worst
    first; reasons: why they are not covered; left_out: what the verdict does not speak for; how: what they bear came about, each way, where
    no table states it; stayed: stays lead from members to them."""

    role: str
    table: str
    source: str
    span: float
    spans: int
    spacing: float
    uses: tuple[Use, ...] = ()
    reasons: tuple[str, ...] = ()
    left_out: tuple[str, ...] = ()
    how: tuple[How, ...] = ()
    stayed: bool = False

    @property
    def worst(self) -> float:
        """The largest utilisation."""
        return max((use.utilisation for use in self.uses), default=0.0)

    @property
    def status(self) -> str:
        """As of a member's verdict."""
        return "fails" if self.worst > 1 else "passes" if self.uses and not self.reasons else "not covered"


@dataclass(frozen=True)
class Candidate:
    """A section that secondary members could be. mass: kg/m; secondary: how they fare with it."""

    section: str
    mass: float
    secondary: Secondary


def row_for(table: LoadTable, span: float, spans: int) -> SpanRow | None:
    """The row of a span: that of the next longer one for as many in line, three for more; None where the table does not reach."""
    rows = [row for row in table.rows if row.spans == min(spans, 3) and row.span >= span - 1e-6]
    return min(rows, key=lambda row: row.span, default=None)
