"""Solves groups of states that have the same parts acting: stiffness without what is slack or lifted, and what second order needs."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.sparse import coo_array, csc_array

from engine.analysis import restraints
from engine.analysis.bows import bowed
from engine.analysis.clamped import load_bubbles
from engine.analysis.factors import Factors, sound_factor
from engine.analysis.geometric import FREEDOMS_OF, Geometry, geometry
from engine.analysis.system import System
from engine.analysis.uneven import Uneven, uneven
from engine.lazy import lazily
from engine.structure.model import Bools, Floats, Ints

#: share of its stiffness that a member keeps while it does not act, so that the rest can be solved
SLACK = 1e-6


def sides(system: System) -> Ints:
    """(e,) +1 for elements that act in tension only, −1 in compression only, else 0."""
    signs = {"tension-only": 1, "compression-only": -1}
    of = np.array([signs.get(m.behaviour, 0) for m in system.structure.members], dtype=np.int64)
    return np.asarray(of[system.elements.member])


def one_sided(system: System) -> bool:
    """Whether anything acts one way only, so that superposition does not hold."""
    s = system.structure
    return bool(sides(system).any() or (s.one_way & (s.fixed | (s.springs != 0))).any())


class StateSolver:
    """Solves groups of states that have the same parts acting. factors: (s, cases) of all that will be taken in second order,
    as far as their loads grow there. hinged_straight: for `Geometry`."""

    def __init__(self, system: System, factors: Floats, hinged_straight: bool = False):
        self.system, self.all, self.hinged_straight = system, factors, hinged_straight
        s = system.structure
        self.side = sides(system)
        self.sided = np.flatnonzero(self.side)
        self.one_way = np.flatnonzero((s.one_way & (s.fixed | (s.springs != 0))).ravel())
        self.factors: dict[bytes, tuple[csc_array, Factors | None, Ints]] = {}
        self.loose: dict[bytes, bool] = {}
        self.geometry: Geometry | None = None
        self.uneven: Uneven | None = None
        self.bubbles: Floats | None = None
        self.solves = 0
        #: says how far the work is, now and then; it may raise to stop it
        self.tell: Callable[[], None] = lambda: None

    def prepare(self) -> tuple[Geometry, Floats]:
        """What second order needs, made once."""
        if self.geometry is None or self.bubbles is None:
            y = self.system
            curved = bowed(y.elements, y.bows) if y.bows and not self.hinged_straight else None
            self.geometry = geometry(
                y.elements, y.k, y.maps, y.T, y.dofs, y.force.shape[0], curved, self.hinged_straight
            )
            self.bubbles = load_bubbles(y)
            self.uneven = uneven(y, self.geometry, self.all)
        return self.geometry, self.bubbles

    def varying(self, factors: Floats) -> tuple[Ints, Floats] | None:
        """Rows of what bends whose axial force varies, and what that adds to K_g: (3 + b, 3 + b, k, c). What can hang slack is a
        bar, and does not bend."""
        self.prepare()
        return None if self.uneven is None else (self.uneven.rows, self.uneven.of(factors))

    def given(self, factors: Floats, imposed: Floats) -> Floats | None:
        """(3 m + h, c) movements of what bends and hangs that do not depend on the unknowns: settled supports, and ends that
        loads move where they are released. None where there are none."""
        geo, _ = self.prepare()
        system = self.system
        found = None
        if imposed.any():
            found = np.asarray(geo.Z @ system.to_global(imposed))
        plane, e = geo.bend[geo.loose].T
        free = system.free[e[:, None], np.array([f for f, _ in FREEDOMS_OF])[plane]]
        if free.any():
            q = free * geo.scale[plane, e][..., None] @ factors.T
            found = (0.0 if found is None else found) + geo.Z_loose @ q.reshape(-1, len(factors))
        return found

    def stiffness(self, slack: Bools, lifted: Bools) -> tuple[csc_array, Factors | None, Ints]:
        """K, its factors and the freedoms that move, with some elements slack and some supports lifted."""
        key = np.packbits(np.concatenate([slack[self.sided], lifted[self.one_way]])).tobytes()
        if key not in self.factors:
            system = self.system
            K, active = system.K, system.active
            off = np.flatnonzero(slack)
            if len(off):
                K = csc_array(K - (1 - SLACK) * self._of_elements(off))
            loose = np.flatnonzero(lifted)
            if len(loose):
                springs = system.structure.springs.ravel()[loose]
                less = csc_array(coo_array(((1 - SLACK) * springs, (loose, loose)), shape=K.shape))
                K = csc_array(K - (less if system.link is None else system.link.T @ less @ system.link))
                active = np.union1d(active, loose)
            if K is system.K and active is system.active:
                self.factors[key] = (K, system.factors, active)
            else:
                self.factors[key] = (K, sound_factor(csc_array(K[active][:, active])), active)
        return self.factors[key]

    def braced(self, slack: Bools, lifted: Bools) -> tuple[csc_array, Factors | None, Ints, bool]:
        """`stiffness` for what moves beyond the first order: with the restraints at nodes that are no members, and, where slack
        members leave a mechanism (last value), with those that slacken least: they tighten as soon as what they brace moves.
        """
        K, lu, active = self.stiffness(slack, lifted)
        if self.holding is None and not slack.any():
            return K, lu, active, False
        key = b"braced" + np.packbits(np.concatenate([slack[self.sided], lifted[self.one_way]])).tobytes()
        if key not in self.factors:
            loose = False
            off = np.flatnonzero(slack)
            whole = K
            if len(off) and lu is not None:
                loose = sound_factor(csc_array((K - SLACK * self._of_elements(off))[active][:, active])) is None
            if loose:
                whole = csc_array(K + (1 - SLACK) * self._of_elements(self._tightened(off, K, active)))
            if self.holding is not None:
                whole = csc_array(whole + self.holding)
            if whole is K:
                self.factors[key] = (K, lu, active)
            else:
                self.factors[key] = (whole, sound_factor(csc_array(whole[active][:, active])), active)
            self.loose[key] = loose
        return *self.factors[key], self.loose[key]

    @lazily
    def holding(self) -> csc_array | None:
        """(6 n, 6 n) restraints at nodes that are no members, on the freedoms."""
        system = self.system
        found = restraints.stiffness(system.structure, system.elements)
        return found if found is None or system.R is None else csc_array(system.R.T @ found @ system.R)

    def _of_elements(self, which: Ints) -> csc_array:
        """(6 n, 6 n) stiffness of some elements on the freedoms."""
        system = self.system
        part = np.swapaxes(system.T[which], 1, 2) @ system.k_c[which] @ system.T[which]
        dofs = system.dofs[which]
        at = (np.repeat(dofs, 12, axis=1).ravel(), np.tile(dofs, (1, 12)).ravel())
        block = csc_array(coo_array((part.ravel(), at), shape=system.K.shape))
        return block if system.R is None else csc_array(system.R.T @ block @ system.R)

    def _tightened(self, off: Ints, K: csc_array, active: Ints) -> Ints:
        """Of slack elements those without which there is a mechanism, one of each pair that hold each other's movement."""
        kept: list[int] = []
        for e in off.tolist():
            others = np.array([*kept, *[other for other in off.tolist() if other > e]], dtype=np.int64)
            rest = csc_array(K - SLACK * self._of_elements(off) + self._of_elements(others))
            if sound_factor(csc_array(rest[active][:, active])) is None:
                kept.append(e)
        return np.array(kept, dtype=np.int64)

    def force(self, factors: Floats, slack: Bools) -> Floats:
        """(6 n, c) loads; slack elements do not push because they are warm."""
        system = self.system
        found: Floats = system.force @ factors.T
        off = np.flatnonzero(slack)
        if len(off) and system.warm[off].any():
            push = np.zeros((len(off), 12, len(factors)))
            push[:, 0] = system.warm[off] @ factors.T
            push[:, 6] = -push[:, 0]
            extra = np.zeros_like(found)
            back = np.swapaxes(system.T[off], 1, 2) @ push
            np.add.at(extra, system.dofs[off].ravel(), back.reshape(-1, len(factors)))
            found = found + (extra if system.R is None else system.R.T @ extra)
        return found
