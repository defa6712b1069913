"""What verdicts rest on: forces, lengths, segments and steel, recovered from the results when they are asked for."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.diagrams import Diagrams, peaked
from engine.document import Document
from engine.lazy import lazily
from engine.memory import stored
from engine.standards.en.haunched import Haunched, haunched_arrays
from engine.standards.en.steel import SteelArrays, reduction, steel_arrays
from engine.structure.model import Floats, Ints, Piece
from engine.verification.lengths import Lengths, effective_lengths
from engine.verification.runs import HELD, reaches
from engine.verification.segments import Segments, cut_segments
from engine.verification.stabilising import Stabilising


@dataclass(frozen=True)
class Grounds:
    """What verdicts rest on, recovered from the results of the combinations `strength` when it is asked for.

    stabilising: what the bracing's task adds to the axial forces. analysed: forces at the stations as the analysis finds them; forces:
    with what is added, to the side from which more is asked; peaks: these with moments and shears raised to those between the stations.
    None of the three is kept when pickled.
    """

    document: Document
    combined: Combined
    strength: tuple[int, ...]
    stabilising: Stabilising

    def chosen(self, **steel: object) -> Grounds:
        """The same grounds under other national choices of steel, by name; what was found already does not depend on them."""
        values = self.document.national.steel.model_copy(update=steel)
        national = self.document.national.model_copy(update={"steel": values})
        document = self.document.model_copy(update={"national": national})
        other = Grounds(document, self.combined, self.strength, self.stabilising)
        vars(other).update({name: value for name, value in vars(self).items() if name != "document"})
        return other

    @lazily
    def analysed(self) -> Diagrams:
        return self.combined.diagrams(self.strength)

    @lazily
    def forces(self) -> Diagrams:
        return self._braced(self.analysed)

    @lazily
    def peaks(self) -> Diagrams:
        return self._braced(peaked(self.analysed, self.combined.response.loads, self.combined.pulled(self.strength)))

    def _braced(self, forces: Diagrams) -> Diagrams:
        """With what the bracing's task adds: tension or compression, whichever asks for the larger share of what the member bears."""
        if not self.stabilising.acts():
            return forces
        pulled, pressed = (added[:, None] for added in self.stabilising.added())
        most, least = forces.N + pulled, forces.N - pressed
        return replace(forces, N=np.where(-least > most * self._slender[:, None, None], least, most))

    def extremes(self, member: int, columns: list[int] | slice = slice(None)) -> tuple[Floats, Floats]:
        """((c,), the same): the largest and the least axial force along a member in each combination, with what is added."""
        rows = np.flatnonzero(self.combined.elements.member == member)
        own = self.analysed.N[rows][..., columns]
        pulled, pressed = self.stabilising.added(rows, columns)
        return np.asarray((own.max(axis=1) + pulled).max(axis=0)), np.asarray((own.min(axis=1) - pressed).min(axis=0))

    @lazily
    def _slender(self) -> Floats:
        """(e,) about the share of its strength in tension that each bears in compression."""
        found = np.ones(len(self.combined.structure.members))
        for i, (m, lengths) in enumerate(zip(self.combined.structure.members, self.lengths, strict=True)):
            fy, alpha = self.steel.fy[i], max(self.steel.alpha_y[i], self.steel.alpha_z[i])
            if np.isfinite(fy):
                least = min(m.section.Iy / lengths.y**2, m.section.Iz / lengths.z**2)
                slenderness = np.sqrt(m.section.A * fy / (np.pi**2 * m.material.E * least))
                found[i] = reduction(np.asarray(alpha), np.asarray(slenderness))[1]
        return np.asarray(found[self.combined.elements.member])

    @lazily
    def lengths(self) -> tuple[Lengths, ...]:
        structure = self.combined.structure
        on = reaches(structure)
        return tuple(
            effective_lengths(self.document, structure, m, on.get(i, HELD)) for i, m in enumerate(structure.members)
        )

    def segments(self, members: Sequence[int] | None = None, columns: Sequence[int] | None = None) -> Segments:
        """Members (all by default) cut at the restraints of their flanges, under combinations for strength (all by default)."""
        c = self.combined
        return cut_segments(self.document, c.structure, c.elements, self.forces, self.lengths, members, columns)

    @lazily
    def limits(self) -> Floats:
        """(2, members, combinations) critical axial forces about y and z that the buckling of the whole leaves each member, inf
        where it does not limit them: modes that sway are in the forces where a combination is in second order and leans."""
        standing, second = self.combined.standing, self.combined.second[list(self.strength)]
        leans = second & self.document.rules.imperfections
        found = np.where(leans, standing.held, standing.least)
        # along local z a member bends about y
        return found[::-1]

    @lazily
    def steel(self) -> SteelArrays:
        return steel_arrays([(m.section, m.material, m.bar) for m in self.combined.structure.members])

    @lazily
    def pieces(self) -> tuple[tuple[int, Piece], ...]:
        """Pieces of haunches and tapers with the number of their member."""
        return tuple((i, piece) for i, m in enumerate(self.combined.structure.members) for piece in m.pieces)

    @lazily
    def element_steel(self) -> SteelArrays:
        """Steel of the members, then of the pieces of haunches and tapers."""
        members = self.combined.structure.members
        rows = [(m.section, m.material, m.bar) for m in members]
        return steel_arrays(rows + [(piece.section, members[i].material, False) for i, piece in self.pieces])

    @lazily
    def steel_of(self) -> Ints:
        """(e,) the row of `element_steel` that each element is made of."""
        elements = self.combined.elements
        found = elements.member.copy()
        middle = elements.offset + elements.reach / 2
        for k, (i, piece) in enumerate(self.pieces):
            own = (elements.member == i) & (middle > piece.start) & (middle < piece.end)
            found[own] = len(self.combined.structure.members) + k
        return found

    @lazily
    def haunched(self) -> Haunched:
        """Of the pieces, those with a haunch; of the others the values mean nothing."""
        members = self.combined.structure.members
        rows = [(piece.section, members[i].material) for i, piece in self.pieces if piece.section.shape == "haunched"]
        return haunched_arrays(rows)

    @lazily
    def haunched_row(self) -> Ints:
        """(e,) the row of `haunched` that each element is made of, −1 where it has no haunch."""
        count = len(self.combined.structure.members)
        of = np.array([p.section.shape == "haunched" for _, p in self.pieces], dtype=bool)
        rows = np.concatenate([np.full(count, -1), np.where(of, np.cumsum(of) - 1, -1)])
        return np.asarray(rows[self.steel_of])

    def forget(self) -> None:
        """Let go of what can be recovered: by far the most of what a chain takes of memory."""
        for name in set(vars(self)) - set(stored(self)):
            vars(self).pop(name, None)

    def __getstate__(self) -> dict[str, Any]:
        return stored(self)
