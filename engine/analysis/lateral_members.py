"""Lateral-torsional buckling of members of a structure: their internal forces referred to the nodes of a stretch."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from engine.analysis.combined import Combined
from engine.analysis.elements import Elements
from engine.analysis.lateral import Stretch, covered, end_conditions, factors_of, geometry_of, stretch_of
from engine.analysis.sampling import interpolation
from engine.analysis.stations import ACROSS
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Ints, Structure


def breaks(places: Floats) -> list[float]:
    """Where elements of a member begin and end and concentrated loads act between, from its stations (elements, stations) in m."""
    gaps = np.diff(places, axis=1)
    at = (places[:, 1:] + places[:, :-1])[gaps < ACROSS * (places[:, -1:] - places[:, :1])] / 2
    return [float(x) for x in np.unique(np.concatenate([places[:, [0, -1]].ravel(), at]))]


@dataclass(frozen=True)
class Referred:
    """Forces of members alike about the line of their nodes, (stations of a member, states); places: (elements, stations)."""

    places: Floats
    N: Floats
    M: Floats
    V: Floats

    def of(self, states: Ints) -> Referred:
        """Some of the states."""
        return Referred(self.places, *(np.take(values, states, axis=1) for values in (self.N, self.M, self.V)))


def about_nodes(structure: Structure, elements: Elements, own: Ints, x: Floats) -> tuple[Floats, Floats, Floats]:
    """(n, 1), (n, 1), (n, stations): cosine and sine of the slope of a member's elements against the line of its nodes, and the height
    of their centroid above that of the plain member. x: (n, stations) m from the elements' starts."""
    m = structure.members[int(elements.member[own[0]])]
    ends = structure.xyz[[m.nodes[0], m.nodes[-1]]]
    along, _, up = local_axes(ends[:1], ends[1:], np.array([m.roll + m.section.turn]))[0]
    c, s = (elements.axes[own, 0] @ way for way in (along, up))
    rise = elements.arms[own] @ up - m.offset[1]
    share = x / elements.length[own, None]
    return c[:, None], s[:, None], rise[:, :1] * (1 - share) + rise[:, 1:] * share


def referred(structure: Structure, elements: Elements, own: Ints, x: Floats, forces: Sequence[Floats]) -> Referred:
    """Forces N, Vz, My (n, stations, states) of one member's elements about the line of its nodes."""
    N, V, M = forces
    cos, sin, rise = (values[..., None] for values in about_nodes(structure, elements, own, x))
    pull = N * cos + V * sin
    flat = [values.reshape(x.size, -1) for values in (pull, M - rise * pull, V * cos - N * sin)]
    return Referred(elements.offset[own, None] + x * (elements.reach / elements.length)[own, None], *flat)


def at_nodes(stretch: Stretch, forces: Referred) -> tuple[Floats, Floats, Floats]:
    """N, M, V (2 n, states) at both ends of the elements of a stretch."""
    value, slope, linear = interpolation(forces.places, list(pairwise(stretch.x.tolist())), 2)
    return linear @ forces.N, value @ forces.M + slope @ forces.V, linear @ forces.V


def lateral_factors(combined: Combined, numbers: Sequence[int], member: int) -> Floats | None:
    """(c,) factors on the forces of states at which a member buckles sideways, between the restraints of its flanges, under loads at
    the shear centre; inf where nothing makes it buckle. None for members that are not covered: bars, sections of other shapes, and
    what nothing holds."""
    structure, elements = combined.structure, combined.elements
    m = structure.members[member]
    if not covered(m):
        return None
    own = elements.rows(member)
    d = combined.diagrams(numbers)
    forces = referred(structure, elements, own, d.x[own], [values[own] for values in (d.N, d.Vz, d.My)])
    stretch = stretch_of(m, breaks(forces.places), 0.0, structure.length(m), end_conditions(structure, member))
    found = factors_of(stretch, geometry_of(stretch, *at_nodes(stretch, forces), above=False))
    return None if stretch.loose else found
