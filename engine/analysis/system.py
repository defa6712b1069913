"""Assembled stiffness, loads and transformations of a structure, and its response to every case."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
from scipy.sparse import csc_array, csr_array

from engine.actions.cases import Loading
from engine.analysis.bows import Bow
from engine.analysis.elements import Elements
from engine.analysis.factors import Factors, sound_factor
from engine.analysis.stations import station_positions
from engine.analysis.transfer import ElementLoads, Integrals, integrate
from engine.lazy import lazily
from engine.memory import stored
from engine.structure.model import Bools, Floats, Ints, Structure

#: load integrals are kept up to this many stations × cases: 45 MB
KEPT = 400_000


@dataclass(frozen=True)
class System:
    """The assembled frame before any solution. In element axes: k (e, 12, 12) unreleased and k_c condensed stiffness, maps
    of the releases, T; fixed (e, 12, cases) what clamped ends exert on the elements, fixed_c behind the releases, free the
    displacements of released ends under them. In the supports' axes: K over all freedoms with springs, force and imposed
    (6 n, cases). loading, shear_deformation: what it was assembled from. bows: imperfections that act in second order. turn: rotation of those to global axes, None where no support
    is turned; link: from the freedoms left where floors move as one or elements are very stiff (relative.py), None without
    either: what follows a leading node has none of its own. warm: (e, cases) part of the axial `fixed` that comes from
    temperature; curled: (2, e, cases) curvature that it gives elements along local y and z, 1/m.
    """

    structure: Structure
    elements: Elements
    loads: ElementLoads
    k: Floats
    k_c: Floats
    maps: Floats
    T: Floats
    dofs: Ints
    fixed: Floats
    fixed_c: Floats
    free: Floats
    warm: Floats
    curled: Floats
    K: csc_array
    turn: csc_array | None
    link: csc_array | None
    force: Floats
    imposed: Floats
    active: Ints
    loading: Loading
    shear_deformation: bool = True
    bows: tuple[Bow, ...] = ()

    @property
    def held(self) -> Bools:
        """(6 n,) freedoms held rigidly."""
        return self.structure.still.ravel()

    @lazily
    def R(self) -> csc_array | None:
        """From the freedoms to global displacements, None where they are these."""
        if self.turn is None or self.link is None:
            return self.link if self.turn is None else self.turn
        return csc_array(self.turn @ self.link)

    def to_global(self, u: Floats) -> Floats:
        """Displacements (6 n, …) of the freedoms turned to global axes."""
        return u if self.R is None else np.asarray(self.R @ u)

    def to_own(self, u: Floats) -> Floats:
        """Displacements or forces (6 n, …) in global axes turned to the supports' ones."""
        return u if self.turn is None else np.asarray(self.turn.T @ u)

    def forces_to_global(self, force: Floats) -> Floats:
        """Forces of supports (6 n, …) in their axes turned to global ones."""
        return force if self.turn is None else np.asarray(self.turn @ force)

    @lazily
    def stations(self) -> Floats:
        """(e, s) m from the start of the elements, where their diagrams have values."""
        return station_positions(self.elements, self.loads)

    @lazily
    def _integrals(self) -> Integrals:
        return integrate(self.loads, self.stations, self.force.shape[1])

    def integrals_at(self, x: Floats) -> Integrals:
        """The load integrals at places x (e, s); those at the stations are found once, unless they are very many."""
        kept = x is self.stations and x.size * self.force.shape[1] <= KEPT
        return self._integrals if kept else integrate(self.loads, x, self.force.shape[1])

    @lazily
    def Kff(self) -> csc_array:
        """K of the freedoms that move."""
        return csc_array(self.K[self.active][:, self.active])

    @lazily
    def factors(self) -> Factors | None:
        """The factors of K with all members and supports acting, None where something moves freely."""
        return sound_factor(self.Kff)

    @lazily
    def stretch(self) -> csr_array:
        """(e, 6 n) from displacements of the nodes, global axes, to what the elements grow by."""
        row = np.einsum("ek,ekj->ej", self.maps[:, 6] - self.maps[:, 0], self.T)
        places = (np.repeat(np.arange(len(row)), 12), self.dofs.ravel())
        return csr_array((row.ravel(), places), shape=(len(row), self.force.shape[0]))

    def own_ends(self, local: Floats, free: Floats) -> Floats:
        """(e, 12, c) displacements of the elements' own ends, from those of their nodes in local axes; free: what loads make of
        released ends."""
        found: Floats = local + free
        released = self.elements.released.any(axis=1) & ~self.elements.bar
        found[released] += (self.maps[released] - np.eye(12)) @ local[released]
        return found

    def axial(self, u: Floats, factors: Floats) -> Floats:
        """(e, c) axial forces, their mean along the elements and as if every element acted, from displacements (6 n, c) of the
        nodes in global axes and the factors (c, cases) of the cases. Loads along an element do not change the mean: ∫N dx is
        EA times what it grows by."""
        k = (self.elements.EA / self.elements.length)[:, None]
        held = k * (self.free[:, 6] - self.free[:, 0]) - self.warm
        return np.asarray(k * (self.stretch @ u) + held @ factors.T)

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)


@dataclass(frozen=True)
class Response:
    """Linear response to every case.

    displacement: (nodes, 6, cases) m and rad; reaction: (nodes, 6, cases) N and Nm; end_force and end_displacement:
    (e, 12, cases) in local axes at the element's own ends (behind the releases).
    """

    system: System
    displacement: Floats
    reaction: Floats
    end_force: Floats
    end_displacement: Floats
    residual: float

    @property
    def structure(self) -> Structure:
        """What was analysed."""
        return self.system.structure

    @property
    def elements(self) -> Elements:
        """Its elements."""
        return self.system.elements

    @property
    def loads(self) -> ElementLoads:
        """The loads on them."""
        return self.system.loads
