"""Results of combinations: by superposition of the cases where that holds, else each as it was solved."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.diagrams import Diagrams, deflections, diagrams, varying
from engine.analysis.elements import Elements
from engine.analysis.solve import solve_linear
from engine.analysis.stability import Critical, critical
from engine.analysis.state_diagrams import state_deflections, state_diagrams
from engine.analysis.state_solver import one_sided
from engine.analysis.states import States, solve_states
from engine.analysis.system import Response, System
from engine.lazy import lazily
from engine.memory import stored
from engine.progress import Step, quiet
from engine.structure.model import FREEDOMS, Bools, Floats, Ints, Structure

#: EN 1993-1-1 5.2.1(3): first order is enough from this α_cr on, in elastic analysis
ENOUGH = 10.0
#: uses of combinations that are taken in second order
ULTIMATE = ("strength", "accidental")


@dataclass(frozen=True)
class Combined:
    """Results of combinations, by their numbers; the cases alone follow them (see `case`).

    response: the linear response to the cases. rows: (k, cases) factors of combinations and cases. states: those solved on
    their own, None where superposition holds for all; place: (k,) their column there, −1 by superposition. standing: stability
    of the ultimate combinations, in their order; second: (k,) whether in second order; ultimate: (k,) whether it could be.
    """

    response: Response
    rows: Floats
    count: int
    states: States | None
    place: Ints
    standing: Critical
    second: Bools
    ultimate: Bools

    @lazily
    def alpha(self) -> Floats:
        """(k,) α_cr of the ultimate combinations; NaN for the others."""
        found = np.full(len(self.rows), np.nan)
        found[self.ultimate] = self.standing.alpha
        return found

    @lazily
    def column(self) -> Ints:
        """(k,) where a combination is in `standing`, −1 where it is not."""
        found = np.full(len(self.rows), -1)
        found[self.ultimate] = np.arange(int(self.ultimate.sum()))
        return found

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)

    @property
    def structure(self) -> Structure:
        """What was analysed."""
        return self.response.structure

    @property
    def elements(self) -> Elements:
        """Its elements."""
        return self.response.elements

    def case(self, number: int) -> int:
        """The number under which a case alone stands."""
        return self.count + number

    @property
    def stations(self) -> Floats:
        """(e, s) m from the start of the elements, where their diagrams have values."""
        return self.response.system.stations

    @lazily
    def _diagrams(self) -> Diagrams:
        return diagrams(self.response)

    def linear(self, factors: Floats) -> Diagrams:
        """Internal forces of the cases by superposition, with factors (cases,)."""
        return self._diagrams.combined(factors[None])

    @lazily
    def _deflections(self) -> Floats:
        return deflections(self.response)

    def _split(self, which: Sequence[int]) -> tuple[Ints, Ints, Ints]:
        """Of the wanted: places of those by superposition, of the others, and the columns of these."""
        place = self.place[np.asarray(which, dtype=np.int64)]
        return np.flatnonzero(place < 0), np.flatnonzero(place >= 0), place[place >= 0]

    def _mixed(
        self, which: Sequence[int], linear: Floats, own: str, rows_of: Sequence[int] | slice = slice(None)
    ) -> Floats:
        """(…, len(which)) of a quantity, or of some of its rows: linear (…, cases), own: its name among the states."""
        linear = linear[rows_of]
        plain, solved, column = self._split(which)
        rows = self.rows[np.asarray(which, dtype=np.int64)]
        if not len(solved):
            return np.asarray(linear @ rows.T)
        out = np.empty((*linear.shape[:-1], len(rows)))
        out[..., plain] = linear @ rows[plain].T
        out[..., solved] = getattr(self.states, own)[rows_of][..., column]
        return out

    def displacement(self, which: Sequence[int], nodes: Sequence[int] | slice = slice(None)) -> Floats:
        """(nodes, 6, k) m and rad, of some nodes or of all."""
        return self._mixed(which, self.response.displacement, "displacement", nodes)

    def reaction(self, which: Sequence[int]) -> Floats:
        """(nodes, 6, k) N and Nm."""
        return self._mixed(which, self.response.reaction, "reaction")

    def end_force(self, which: Sequence[int]) -> Floats:
        """(e, 12, k) N and Nm in local axes."""
        return self._mixed(which, self.response.end_force, "end_force")

    def diagrams(self, which: Sequence[int], elements: Ints | None = None) -> Diagrams:
        """Internal forces along all elements, or along some: those of whole members."""
        plain, solved, column = self._split(which)
        rows = self.rows[np.asarray(which, dtype=np.int64)]
        cases = self._diagrams if elements is None else self._diagrams.of(elements)
        if not len(solved):
            return cases.combined(rows)
        assert self.states is not None
        states = self.states if elements is None else _part(self.states, elements)
        own = state_diagrams(states, column, states.system.stations)
        if not len(plain):
            return own
        linear = cases.combined(rows[plain])
        values = []
        for name in ("N", "Vy", "Vz", "T", "My", "Mz"):
            out = np.empty((*own.x.shape, len(rows)))
            out[..., plain], out[..., solved] = getattr(linear, name), getattr(own, name)
            values.append(out)
        return Diagrams(own.x, *values)

    def pulled(self, which: Sequence[int]) -> Floats | None:
        """(e, s, k) ∫N along the elements, by which N is known between the stations; None where no line load varies along a
        member's axis, so that N is straight between them."""
        system = self.response.system
        if not len(varying(system.loads, 0)):
            return None
        rows = self.rows[np.asarray(which, dtype=np.int64)]
        start = -self.end_force(which)[:, 0]
        return np.asarray(
            start[:, None] * self.stations[:, :, None] - system.integrals_at(self.stations).axial[1] @ rows.T
        )

    def deflections(self, which: Sequence[int], elements: slice | Ints = slice(None)) -> Floats:
        """(e, s, 3, k) displacements along elements (all by default) in global axes."""
        plain, solved, column = self._split(which)
        rows = self.rows[np.asarray(which, dtype=np.int64)]
        if not len(solved):
            return np.asarray(self._deflections[elements] @ rows.T)
        assert self.states is not None
        own = state_deflections(self.states, column, self.stations)[elements]
        if not len(plain):
            return own
        linear = self._deflections[elements]
        out = np.empty((*linear.shape[:-1], len(rows)))
        out[..., plain], out[..., solved] = linear @ rows[plain].T, own
        return out

    def settled(self, number: int) -> bool:
        """Whether the state of one-way parts was found."""
        return bool(self.place[number] < 0 or self.states is None or self.states.settled[self.place[number]])

    def stable(self, number: int) -> bool:
        """Whether it stands, below its critical load; else the values shown are those of the first order."""
        solved = self.place[number] >= 0 and self.states is not None
        if solved and not self.states.stable[self.place[number]]:  # type: ignore[union-attr]
            return False
        return bool(np.isnan(self.alpha[number]) or self.alpha[number] >= 1.0)

    def free(self, number: int) -> bool:
        """Whether what does not act leaves a mechanism, of which nothing is known but how it moves."""
        return bool(self.place[number] >= 0 and self.states is not None and self.states.free[self.place[number]])

    def lifted(self, number: int) -> list[tuple[int, str]]:
        """Supports that lift: node and direction."""
        if self.states is None or self.place[number] < 0:
            return []
        at = np.flatnonzero(self.states.lifted[:, self.place[number]])
        return [(int(n), FREEDOMS[int(f)]) for n, f in zip(*np.divmod(at, 6), strict=True)]

    def slack(self, number: int) -> list[int]:
        """Members that do not act."""
        if self.states is None or self.place[number] < 0:
            return []
        found: list[int] = np.unique(self.elements.member[self.states.slack[:, self.place[number]]]).tolist()
        return found


def combine_results(
    system: System,
    combinations: list[Combination],
    order: str = "by alpha_cr",
    limit: float = ENOUGH,
    progress: Step = quiet,
) -> Combined:
    """Analyse all cases and combinations, and the stability of the ultimate ones. order: "first"; "second" for all ultimate
    combinations; "by alpha_cr": for those below the limit of EN 1993-1-1 5.2.1(3). One beyond its critical load stays in first
    order: second order has no meaning there. `progress` is told how many of the combinations solved on their own are done.
    Raises ModelError for a mechanism.
    """
    response = solve_linear(system)
    cases = system.force.shape[1]
    count = len(combinations)
    rows = np.concatenate([np.array([c.factors for c in combinations]).reshape(count, cases), np.eye(cases)])
    ultimate = np.array([c.use in ULTIMATE for c in combinations] + [False] * cases, dtype=bool)
    standing = critical(response, rows[ultimate])
    second = ultimate.copy()
    if order != "second":
        second[ultimate] = standing.together < limit if order == "by alpha_cr" else False
    second[ultimate] &= standing.alpha >= 1.0
    own = np.arange(len(rows)) if one_sided(system) else np.flatnonzero(second)
    place = np.full(len(rows), -1, dtype=np.int64)
    place[own] = np.arange(len(own))
    states = solve_states(system, rows[own], second[own], progress) if len(own) else None
    return Combined(response, rows, count, states, place, standing, second, ultimate)


def _part(states: States, rows: Ints) -> States:
    """The states of the elements of some whole members, as far as what runs along them goes."""
    whole = states.system
    system = replace(
        whole,
        elements=whole.elements.of(rows),
        loads=whole.loads.of(rows, len(whole.elements)),
        fixed=whole.fixed[rows],
        warm=whole.warm[rows],
        curled=whole.curled[:, rows],
    )
    # their number goes by all elements
    vars(system)["stations"] = whole.stations[rows]
    return replace(
        states,
        system=system,
        end_force=states.end_force[rows],
        end_displacement=states.end_displacement[rows],
        axial=states.axial[rows],
        swell=states.swell[:, rows],
        varies=states.varies[:, rows],
        slack=states.slack[rows],
    )
