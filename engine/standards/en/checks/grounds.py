"""What the checks of EN 1993 rest on: lengths, segments and steel of every member, beside the forces."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from engine.analysis.lateral import Stretch
from engine.document import Document
from engine.lazy import lazily
from engine.standards.en.checks.alike import Segments, facing
from engine.standards.en.checks.knees_at import Knees, knees_of
from engine.standards.en.checks.lengths import effective_lengths
from engine.standards.en.checks.segments import cut_segments
from engine.standards.en.checks.sheeting import sheeted
from engine.standards.en.checks.stays_to import Stay, stays_of
from engine.standards.en.haunched import SHAPES as BY_STRESSES
from engine.standards.en.haunched import Haunched, buckles_in_shear, haunched_arrays
from engine.standards.en.steel import SteelArrays, reduction, steel_arrays, torsion_use
from engine.structure.model import Floats, Ints, Member, Piece, Structure
from engine.structure.runs import HELD, Reach, reaches
from engine.structure.together import Together, together
from engine.verification.grounds import Grounds, Lengths

#: share of the shear yield stress that St Venant's torsion alone would make, up to which it is negligible: the normal stresses of
#: warping are then some hundredth of the yield stress
TORSION_LIMIT = 0.01
#: the same where no check of torsion is: what is left out
TORSION_UNCHECKED = 0.05
#: the same of sections with a haunch, in whose stresses it is
HAUNCH_TORSION_LIMIT = 0.5


def _stiffened(steel: SteelArrays, members: Sequence[Member]) -> SteelArrays:
    """With what the members' webs are stiffened by, a member a row."""
    if not any(m.checks.panel or m.checks.rigid_ends for m in members):
        return steel
    panel = np.array([m.checks.panel or np.inf for m in members])
    return replace(steel, panel=panel, rigid_ends=np.array([float(bool(m.checks.rigid_ends)) for m in members]))


@dataclass(frozen=True)
class SteelGrounds(Grounds):
    """What the checks of EN 1993 rest on."""

    def under(self, document: Document, structure: Structure, only: Sequence[int] | None = None) -> SteelGrounds:
        return super().under(document, sheeted(document, structure), only)

    def added(self, number: int, factors: Floats) -> SteelGrounds:
        other = super().added(number, factors)
        # what the whole leaves each member is that of this combination
        vars(other)["limits"] = self.limits[..., [self.strength.index(number)]]
        return other

    @lazily
    def reaches(self) -> dict[int, Reach]:
        """How far members go on beyond their ends, by number."""
        return reaches(self.combined.structure)

    @lazily
    def facing(self) -> Ints:
        """(members,) which flange loads push."""
        return facing(self.combined.structure)

    @lazily
    def together(self) -> Together:
        """Members that bend as one."""
        return together(self.combined.structure)

    @lazily
    def stays(self) -> dict[int, tuple[list[Stay], list[float]]]:
        """Stays of members that have any, by number, as `stays_of`."""
        structure = self.combined.structure
        found = ((i, stays_of(self.document, structure, i, int(self.facing[i]))) for i in range(len(structure.members)))
        return {i: own for i, own in found if own[0] or own[1]}

    @lazily
    def knees(self) -> Knees:
        """Panels of webs at rigid joints."""
        members, c = self.combined.structure.members, self.combined
        sections = [m.section for m in members] + [piece.section for _, piece in self.pieces]
        return knees_of(c.structure, c.elements, self.analysed.x, [sections[row] for row in self.steel_of])

    @lazily
    def stretches(self) -> dict[object, Stretch]:
        """Stretches of members for lateral buckling that were made already, by what they depend on."""
        return {}

    @lazily
    def shapes(self) -> dict[bytes, Floats]:
        """C_my of members with haunches alike, under all combinations, that were found already, by the members."""
        return {}

    def beyond(self, member: int) -> tuple[float, float]:
        """How far a member bends on about y with others beyond its ends, m."""
        return self.together.beyond[1].get(member, (0.0, 0.0))

    def length_of(self, member: int) -> Lengths:
        structure = self.combined.structure
        sideways = member in self.together.beyond[0]
        line = tuple(i for i in self.together.run(structure, member, (0,))[0] if i != member) if sideways else ()
        reach, own = self.reaches.get(member, HELD), structure.members[member]
        return effective_lengths(self.document, structure, own, reach, self.beyond(member), line)

    def compressed(self) -> Floats:
        found = np.ones(len(self.combined.structure.members))
        for i, (m, lengths) in enumerate(zip(self.combined.structure.members, self.lengths, strict=True)):
            fy, alpha = self.steel.fy[i], max(self.steel.alpha_y[i], self.steel.alpha_z[i])
            if np.isfinite(fy):
                least = min(m.section.Iy / lengths.y**2, m.section.Iz / lengths.z**2)
                slenderness = np.sqrt(m.section.A * fy / (np.pi**2 * m.material.E * least))
                found[i] = reduction(np.asarray(alpha), np.asarray(slenderness))[1]
        return found

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
        members = self.combined.structure.members
        return _stiffened(steel_arrays([(m.section, m.material, m.bar) for m in members]), members)

    @lazily
    def pieces(self) -> tuple[tuple[int, Piece], ...]:
        """Pieces of haunches and tapers with the number of their member."""
        return tuple((i, piece) for i, m in enumerate(self.combined.structure.members) for piece in m.pieces)

    @lazily
    def element_steel(self) -> SteelArrays:
        """Steel of the members, then of the pieces of haunches and tapers."""
        members = self.combined.structure.members
        rows = [(m.section, m.material, m.bar) for m in members]
        of_pieces = [(piece.section, members[i].material, False) for i, piece in self.pieces]
        return _stiffened(steel_arrays(rows + of_pieces), (*members, *(members[i] for i, _ in self.pieces)))

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
    def torsion_along(self) -> Floats:
        """(e,) the largest torque on each element, as St Venant's shear stress over the yield stress in shear; NaN without a strength."""
        T = self.peaks.T
        most = np.maximum(T.max(axis=(1, 2), initial=0.0), -T.min(axis=(1, 2), initial=0.0))
        return torsion_use(self.element_steel.take(self.steel_of, 0), most, self.document.rules.gamma_M0)

    @lazily
    def haunched(self) -> Haunched:
        """Of the rows of `element_steel`, those that are checked by stresses: haunches and unequal flanges."""
        members = self.combined.structure.members
        rows = [(m.section, m.material) for m in members] + [(p.section, members[i].material) for i, p in self.pieces]
        return haunched_arrays([row for row in rows if row[0].shape in BY_STRESSES and row[1].strength is not None])

    @lazily
    def deepest(self) -> Floats:
        """(e,) h_w/t of webs that buckle under shear, of elements that are checked by stresses, where their member is deepest; 0 of others."""
        row, owner = self.haunched_row, self.combined.elements.member
        found = np.zeros(len(row))
        own = np.flatnonzero(row >= 0)
        if len(own):
            buckles = np.flatnonzero(buckles_in_shear(self.haunched)[row[own]])
            for i in np.unique(owner[own[buckles]]).tolist():
                of = own[owner[own] == i]
                found[of] = self.haunched.whole[row[of]].max()
        return found

    @lazily
    def haunched_row(self) -> Ints:
        """(e,) the row of `haunched` that each element is made of, −1 where it is checked otherwise."""
        of = (self.element_steel.kind == 4) & np.isfinite(self.element_steel.fy)
        return np.asarray(np.where(of, np.cumsum(of) - 1, -1)[self.steel_of])
