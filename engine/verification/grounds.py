"""What verdicts rest on: forces and effective lengths, recovered from the results when they are asked for."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any, Self

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.diagrams import FORCES, Diagrams, peaked
from engine.document import Document
from engine.lazy import lazily
from engine.memory import stored
from engine.structure.model import Floats, Structure
from engine.verification.stabilising import Stabilising


@dataclass(frozen=True)
class Lengths:
    """Effective lengths of one member in metres, and how they were found.

    sway: its buckling about y is a sway mode. part: it bends about y with others beyond its ends; line: numbers of those that bend sideways with it. held: distance from the shear centre to the flange held at shorter
    distances than the torsional restraints, 0 when there is none.
    """

    y: float
    z: float
    torsion: float
    held: float
    sway: bool
    why_y: str
    why_z: str
    part: bool = False
    line: tuple[int, ...] = ()


@dataclass(frozen=True)
class Grounds(ABC):
    """What verdicts rest on, recovered from the results of the combinations `strength` when it is asked for.

    stabilising: what the bracing's task adds to the axial forces. analysed: forces at the stations as the analysis finds them; forces:
    with what is added, to the side from which more is asked; peaks: these with moments and shears raised to those between the stations.
    None of the three is kept when pickled.
    """

    document: Document
    combined: Combined
    strength: tuple[int, ...]
    stabilising: Stabilising

    @lazily
    def analysed(self) -> Diagrams:
        return self.combined.diagrams(self.strength)

    @lazily
    def forces(self) -> Diagrams:
        return self._braced(self.analysed)

    @lazily
    def peaks(self) -> Diagrams:
        return self._braced(peaked(self.analysed, self.combined.response.loads, self.combined.pulled(self.strength)))

    @lazily
    def lengths(self) -> tuple[Lengths, ...]:
        return tuple(self.length_of(i) for i in range(len(self.combined.structure.members)))

    @abstractmethod
    def length_of(self, member: int) -> Lengths:
        """Effective lengths of a member."""

    @abstractmethod
    def compressed(self) -> Floats:
        """(members,) about the share of its strength in tension that each bears in compression."""

    def _braced(self, forces: Diagrams) -> Diagrams:
        """With what the bracing's task adds: tension or compression, whichever asks for the larger share of what the member bears."""
        if not self.stabilising.acts():
            return forces
        share = self.compressed()[self.combined.elements.member][:, None, None]
        pulled, pressed = (added[:, None] for added in self.stabilising.added())
        most, least = forces.N + pulled, forces.N - pressed
        return replace(forces, N=np.where(-least > most * share, least, most))

    def extremes(self, member: int, columns: list[int] | slice = slice(None)) -> tuple[Floats, Floats]:
        """((c,), the same): the largest and the least axial force along a member in each combination, with what is added."""
        rows = self.combined.elements.rows(member)
        own = self.analysed.N[rows][..., columns]
        pulled, pressed = self.stabilising.added(rows, columns)
        return np.asarray((own.max(axis=1) + pulled).max(axis=0)), np.asarray((own.min(axis=1) - pressed).min(axis=0))

    def chosen(self, **steel: object) -> Self:
        """The same under other national choices of steel, by name; what was found already does not depend on them."""
        values = self.document.national.steel.model_copy(update=steel)
        national = self.document.national.model_copy(update={"steel": values})
        other = replace(self, document=self.document.model_copy(update={"national": national}))
        vars(other).update({name: value for name, value in vars(self).items() if name != "document"})
        return other

    def under(self, document: Document, structure: Structure, only: Sequence[int] | None = None) -> Self:
        """Where members are held or made otherwise, under the forces that are present. only: those whose effective lengths are found anew,
        all where it is not given."""
        system = replace(self.combined.response.system, structure=structure)
        response = replace(self.combined.response, system=system)
        other = replace(self, document=document, combined=replace(self.combined, response=response))
        # what was found of the forces holds: they are the present ones
        vars(other).update({name: getattr(self, name) for name in ("analysed", "forces", "peaks")})
        if only is not None:
            lengths = list(self.lengths)
            for i in only:
                lengths[i] = other.length_of(i)
            vars(other)["lengths"] = tuple(lengths)
        return other

    def added(self, number: int, factors: Floats) -> Self:
        """Under one combination for strength alone, with more of the cases by (cases,) factors: the linear response to them, beside what
        is present."""
        column = self.strength.index(number)
        other = replace(self, strength=(number,), stabilising=self.stabilising.under([column]))
        linear = self.combined.linear(factors)
        for name in ("analysed", "forces", "peaks"):
            present: Diagrams = getattr(self, name)
            values = [getattr(present, key)[..., [column]] + getattr(linear, key) for key in FORCES]
            vars(other)[name] = Diagrams(present.x, *values)
        return other

    def forget(self) -> None:
        """Let go of what can be recovered: by far the most of what a chain takes of memory."""
        for name in set(vars(self)) - set(stored(self)):
            vars(self).pop(name, None)

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)
