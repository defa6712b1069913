"""Results of combinations: by superposition of the cases where that holds, else each as it was solved."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from engine.actions.combinations import Combination
from engine.analysis.bows import along, bowed
from engine.analysis.clamped import clamped
from engine.analysis.diagrams import Diagrams, deflections, diagrams, varying
from engine.analysis.elements import Elements
from engine.analysis.second_order import FREEDOMS_OF, shapes
from engine.analysis.solve import Response, System, solve_linear
from engine.analysis.stability import Critical, critical
from engine.analysis.state_solver import one_sided
from engine.analysis.states import States, solve_states
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


def _along(states: States, which: Ints, x: Floats) -> tuple[Floats, Floats]:
    """((2, e, s, k), the same): transverse displacement of elements along y and z beyond that of their start, and its
    slope, in second order."""
    system, unit = states.system, shapes()
    e = system.elements
    xi = x / e.length[:, None]
    factors = states.factors[which]
    w_case, slope_case = clamped(system, x)
    w, slope = w_case @ factors.T, slope_case @ factors.T
    length = e.length[:, None, None]
    slopes = [[shape.deriv() for shape in group] for group in (unit.hermite, unit.straight, unit.bubbles)]
    for p, (freedoms, sense) in enumerate(FREEDOMS_OF):
        EI, GA = (e.EIz, e.GAy) if p == 0 else (e.EIy, e.GAz)
        phi = np.where(e.bar, 0.0, 12 * EI / (GA * e.length**2))[:, None]
        q = states.end_displacement[:, list(freedoms)][:, :, which].copy()
        q[:, [1, 3]] *= sense * length
        q[:, 2] -= q[:, 0]
        q[:, 0] = 0.0
        amounts = np.concatenate([q, states.swell[p][..., which]], axis=1)
        bent = [((h(xi) + phi * s(xi)) / (1 + phi)) for h, s in zip(unit.hermite, unit.straight, strict=True)]
        turned = [(h(xi) + phi * s(xi)) / (1 + phi) for h, s in zip(*slopes[:2], strict=True)]
        shape = np.stack(bent + [b(xi) for b in unit.bubbles], axis=2)
        rate = np.stack(turned + [b(xi) for b in slopes[2]], axis=2)
        # what is hinged at both ends stays straight
        shape[e.bar], rate[e.bar] = 0.0, 0.0
        shape[e.bar, :, 2], rate[e.bar, :, 2] = xi[e.bar], 1.0
        w[p] += shape @ amounts
        slope[p] += rate @ amounts / length
    return w, slope


@dataclass(frozen=True)
class _Pull:
    """What makes up ∫ N w' at places: N beyond its mean, its integral from the element's start, w and w'; (…, s, c)."""

    beyond: Floats
    area: Floats
    w: Floats
    slope: Floats

    def at(self, pick: Callable[[Floats], Floats]) -> _Pull:
        """Some of the places."""
        return _Pull(pick(self.beyond), pick(self.area), pick(self.w), pick(self.slope))


def _pull(states: States, which: Ints, x: Floats, bent: tuple[Floats, Floats]) -> _Pull:
    """At places x (e, s). A state that does not stand has no axial force."""
    system, factors = states.system, states.factors[which]
    ends = system.elements.length[:, None]
    mean = system.integrals_at(ends).axial[1] / ends[:, :, None]
    loads = system.integrals_at(x)
    acts = (states.axial[:, which] != 0)[:, None]
    beyond = np.where(acts, (mean - loads.axial[0]) @ factors.T, 0.0)
    area = np.where(acts, (mean * x[:, :, None] - loads.axial[1]) @ factors.T, 0.0)
    return _Pull(beyond, area, *bent)


def _lever(h: Floats, a: _Pull, b: _Pull) -> Floats:
    """∫ N w' over a length h from a to b: by parts, with N as a parabola and w as a cubic."""
    safe = np.where(h > 0, h, 1.0)
    rise = b.beyond - a.beyond
    bulge = 6 * ((b.area - a.area) / safe - (a.beyond + b.beyond) / 2) * (h > 0)
    mean_w = (a.w + b.w) / 2 + h * (a.slope - b.slope) / 12
    turned_w = (a.w - b.w) / 5 + h * (a.slope + b.slope) / 60
    return np.asarray(b.beyond * b.w - a.beyond * a.w - rise * mean_w - bulge * turned_w)


def _bent(states: States, which: Ints, x: Floats) -> tuple[Floats, Floats]:
    """Deflection and slope as of `_along`, with the bows: these bend nothing by themselves, but the axial force acts on them."""
    system = states.system
    w, slope = _along(states, which, x)
    straight = system.elements.held & ~bowed(system.elements, system.bows)[0]
    if straight.any():
        # what is held sideways at short distances leans as a straight line there
        lean = (states.end_displacement[:, 7] - states.end_displacement[:, 1])[straight][:, None, which]
        length = system.elements.length[straight, None, None]
        w[0, straight], slope[0, straight] = lean * x[straight][:, :, None] / length, lean / length
    if system.bows:
        curved = along(system.elements, system.bows, states.signs[:, which], x)
        w, slope = w + curved[0], slope + curved[1]
    return w, slope


def _of_course(states: States, which: Ints, x: Floats, bent: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
    """((2, e, s, c), the same): what an axial force that varies along an element adds to shears and moments, beyond its mean."""
    stations = states.system.stations
    here = base = _pull(states, which, x, bent)
    if x is not stations:
        base = _pull(states, which, stations, _bent(states, which, stations))
    left, right = base.at(lambda v: v[..., :-1, :]), base.at(lambda v: v[..., 1:, :])
    steps = _lever(np.diff(stations, axis=1)[:, :, None], left, right)
    moment = np.concatenate([np.zeros_like(steps[:, :, :1]), np.cumsum(steps, axis=2)], axis=2)
    if x is not stations:
        before = ((stations[:, None] <= x[:, :, None] + 1e-12).sum(axis=2) - 1)[:, :, None]
        rest = x[:, :, None] - np.take_along_axis(stations[:, :, None], before, axis=1)

        def start(values: Floats) -> Floats:
            return np.take_along_axis(values, before if values.ndim == 3 else before[None], axis=-2)

        moment = start(moment) + _lever(rest, base.at(start), here)
    varies = states.varies[:, :, None, None]
    return varies * here.beyond * here.slope, varies * moment


def state_diagrams(states: States, which: Ints, x: Floats) -> Diagrams:
    """Internal forces of solved states at stations x; in second order M = M0 + V0 x + Q2 + ∫ N w' dx, V = dM/dx, with the mean
    of N where loads along the element are too small to count."""
    system = states.system
    factors, f = states.factors[which], states.end_force[:, :, which]
    loads = system.integrals_at(x)
    X = x[:, :, None]
    N = -f[:, 0, None] - loads.axial[0] @ factors.T
    T = -f[:, 3, None] - loads.torsion[0] @ factors.T
    pull = states.axial[:, which][:, None]
    bent = _bent(states, which, x) if pull.any() else None
    more = _of_course(states, which, x, bent) if bent and states.varies.any() else None
    V, M = [], []
    for p, ((w1, r1, _, _), sense) in enumerate(FREEDOMS_OF):
        q1, q2 = (q @ factors.T for q in loads.transverse["yz"[p]][:2])
        V0, M0 = f[:, w1, None], -f[:, r1, None] * sense
        V.append(V0 + q1 + (pull * bent[1][p] if bent else 0.0))
        M.append(M0 + V0 * X + q2 + (pull * bent[0][p] if bent else 0.0))
        if more is not None:
            V[-1] += more[0][p]
            M[-1] += more[1][p]
    return Diagrams(x, N, V[0], V[1], T, M[1], M[0])


def state_deflections(states: States, which: Ints, x: Floats) -> Floats:
    """(e, s, 3, k) displacements along the elements in global axes."""
    system = states.system
    e, factors = system.elements, states.factors[which]
    d = states.end_displacement[:, :, which]
    loads = system.integrals_at(x)
    X = x[:, :, None]
    out = np.zeros((*x.shape, 3, len(which)))
    N0 = -states.end_force[:, 0][:, None, which]
    share = X / e.length[:, None, None]
    grown = (N0 + (system.warm @ factors.T)[:, None]) * X
    stretched = d[:, 0, None] + (grown - loads.axial[1] @ factors.T) / e.EA[:, None, None]
    # what hangs slack follows its ends
    plain = d[:, 0, None] * (1 - share) + d[:, 6, None] * share
    out[:, :, 0] = np.where(states.slack[:, None, which], plain, stretched)
    w, _ = _along(states, which, x)
    for p, (freedoms, _) in enumerate(FREEDOMS_OF):
        out[:, :, 1 + p] = d[:, freedoms[0], None] + w[p]
    turned: Floats = np.einsum("eij,esic->esjc", e.axes, out, optimize=True)
    return turned
