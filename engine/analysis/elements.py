"""Beam elements in space: local axes, stiffness with shear deformation, releases by condensation.

Local x runs from start to end; local z lies in the vertical plane through x and points upwards (for vertical elements
running upwards: towards −X); y = z × x; then both are turned by the roll angle about x. Element freedoms, in order:
u, v, w, rx, ry, rz at the start, then at the end.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, fields

import numpy as np

from engine.catalogue.properties import Section
from engine.structure.axes import local_axes
from engine.structure.model import FREEDOMS, Bools, Floats, Ints, Member, Structure


@dataclass(frozen=True)
class Elements:
    """Arrays over elements. ends: (e, 2) nodes; axes: (e, 3, 3) rows are local x, y, z; released: (e, 12) bool.

    arms: (e, 2, 3) from the nodes to the element's ends, rigid, in global axes. spring: (e, 12) stiffness between a
    released end and its node. member, offset: the member each element belongs to and its distance from that member's start
    along the nodes' line (m); reach: its length on that line. held: (e,) whether something that is no member holds it sideways
    between its nodes. GAy, GAz: shear stiffness along y and z, inf when rigid.
    """

    ends: Ints
    length: Floats
    axes: Floats
    member: Ints
    offset: Floats
    EA: Floats
    EIy: Floats
    EIz: Floats
    GJ: Floats
    GAy: Floats
    GAz: Floats
    released: Bools
    bar: Bools
    arms: Floats
    spring: Floats
    reach: Floats
    held: Bools

    def __len__(self) -> int:
        return len(self.length)

    def of(self, rows: Ints) -> Elements:
        """Some of them."""
        return Elements(*(getattr(self, field.name)[rows] for field in fields(self)))

    def rows(self, member: int) -> Ints:
        """Those of a member, from its start."""
        first, after = np.searchsorted(self.member, [member, member + 1])
        return np.arange(first, after)

    def positions(self, x: Floats, rows: Ints | slice = slice(None)) -> Floats:
        """Distances along the members (e, s) of stations at distances x (e, s) along the elements; of some of them where rows are given."""
        return self.offset[rows, None] + x[rows] * (self.reach[rows] / self.length[rows])[:, None]


#: EA in N, and EI and GJ in Nm², of a rigid link: some hundred times the stiffest member of a hall
RIGID = 2e12


def make_elements(structure: Structure, shear_deformation: bool = True) -> Elements:
    """The elements of all members, one between each two successive nodes of a member."""
    members = structure.members
    counts = np.array([len(m.nodes) - 1 for m in members], dtype=np.int64)
    owner = np.repeat(np.arange(len(members)), counts)
    first = np.concatenate([[0], np.cumsum(counts)])
    bar = structure.bars[owner]
    released, spring = np.zeros((len(owner), 12), dtype=bool), np.zeros((len(owner), 12))
    released[bar] = np.tile([False, False, False, True, True, True], 2)
    for i, m in enumerate(members):
        if m.bar or not (m.release_start or m.release_end or m.springs_start or m.springs_end):
            continue
        for at, base, free, springs in (
            (first[i], 0, m.release_start, m.springs_start),
            (first[i + 1] - 1, 6, m.release_end, m.springs_end),
        ):
            for freedom in free:
                released[at, base + FREEDOMS.index(freedom)] = True
            for freedom, k in springs:
                released[at, base + FREEDOMS.index(freedom)] = True
                spring[at, base + FREEDOMS.index(freedom)] = k
    known: dict[tuple[int, int, str], tuple[float, ...]] = {}

    def stiffness_of(section: Section, m: Member) -> tuple[float, ...]:
        key = (id(section), id(m.material), m.behaviour)
        if key not in known:
            known[key] = _stiffness(section, m, shear_deformation)
        return known[key]

    stiffness = np.array([stiffness_of(m.section, m) for m in members]).reshape(-1, 6)[owner]
    roll = np.array([m.roll for m in members], dtype=float)[owner]
    turn = np.array([m.section.turn for m in members], dtype=float)[owner]
    shifts = np.repeat(np.array([m.offset for m in members], dtype=float).reshape(-1, 1, 2)[owner], 2, axis=1)
    pairs = structure.segments
    start, end = structure.xyz[pairs[:, 0]], structure.xyz[pairs[:, 1]]
    reach = np.linalg.norm(end - start, axis=1)
    before = np.cumsum(reach) - reach
    offset = before - before[first[owner]]
    for i, m in enumerate(members):
        if not m.pieces:
            continue
        for e in range(first[i], first[i + 1]):
            middle = offset[e] + reach[e] / 2
            for piece in m.pieces:
                if piece.start < middle < piece.end:
                    share = (np.array([offset[e], offset[e] + reach[e]]) - piece.start) / (piece.end - piece.start)
                    shifts[e, :, 1] += piece.rise_start + share * (piece.rise_end - piece.rise_start)
                    stiffness[e] = stiffness_of(piece.section, m)
    straight = local_axes(start, end, roll)
    arms = np.einsum("ens,esj->enj", shifts, straight[:, 1:])
    for i, m in enumerate(members):
        if any(m.joints):
            arms[first[i], 0] += m.joints[0] * straight[first[i], 0]
            arms[first[i + 1] - 1, 1] -= m.joints[1] * straight[first[i + 1] - 1, 0]
    start, end = start + arms[:, 0], end + arms[:, 1]
    columns = stiffness.T
    return Elements(
        ends=pairs,
        length=np.linalg.norm(end - start, axis=1),
        axes=local_axes(start, end, roll + turn),
        member=owner,
        offset=offset,
        EA=columns[0],
        EIy=columns[1],
        EIz=columns[2],
        GJ=columns[3],
        GAy=columns[4],
        GAz=columns[5],
        released=released,
        bar=bar,
        arms=arms,
        spring=spring,
        reach=reach,
        held=_held(structure, first, offset, reach),
    )


def _held(structure: Structure, first: Ints, offset: Floats, reach: Floats) -> Bools:
    """Whether a restraint of a flange lies inside each element; first: (members + 1,) the first element of each."""
    found = np.zeros(len(offset), dtype=bool)
    for i, m in enumerate(structure.members):
        if len(m.outer) > 2 or len(m.inner) > 2:
            own = slice(first[i], first[i + 1])
            places = np.array([*m.outer, *m.inner])[:, None]
            low, high = offset[own] + 1e-6, offset[own] + reach[own] - 1e-6
            found[own] = ((places > low) & (places < high)).any(axis=0)
    return found


def _stiffness(section: Section, member: Member, shear_deformation: bool) -> tuple[float, ...]:
    if member.behaviour == "rigid link":
        return (RIGID, RIGID, RIGID, RIGID, np.inf, np.inf)
    e, g = member.material.E, member.material.G
    areas = (section.stiffness_Avy, section.stiffness_Avz)
    shear = [g * a if a is not None and shear_deformation else np.inf for a in areas]
    return (e * section.A, e * section.Iy, e * section.Iz, g * section.It, *shear)


def transforms(elements: Elements) -> Floats:
    """(e, 12, 12) from the displacements of the nodes in global axes to those of the element's ends in local axes."""
    T = np.zeros((len(elements), 12, 12))
    for end in (0, 1):
        base = 6 * end
        T[:, base : base + 3, base : base + 3] = T[:, base + 3 : base + 6, base + 3 : base + 6] = elements.axes
        x, y, z = elements.arms[:, end].T
        none = np.zeros_like(x)
        # θ × r = −[r] θ
        cross = np.array([[none, z, -y], [-z, none, x], [y, -x, none]]).transpose(2, 0, 1)
        T[:, base : base + 3, base + 3 : base + 6] = elements.axes @ cross
    return T


def local_stiffness(elements: Elements) -> Floats:
    """(e, 12, 12) local stiffness of unreleased beams; bars carry axial force only.

    Beam with shear deformation: Φ = 12 EI / (GA_s L²); Przemieniecki, Theory of Matrix Structural Analysis, (5.116).
    """
    e = elements
    k = np.zeros((len(e), 12, 12))
    L = e.length
    for stiffness, i, j in ((e.EA, 0, 6), (np.where(e.bar, 0.0, e.GJ), 3, 9)):
        k[:, i, i] = k[:, j, j] = stiffness / L
        k[:, i, j] = k[:, j, i] = -stiffness / L
    # transverse freedom and rotation; the sense of the rotation that follows dw/dx is +1 for rz, −1 for ry
    for EI, GA, w1, r1, w2, r2, sense in ((e.EIz, e.GAy, 1, 5, 7, 11, 1.0), (e.EIy, e.GAz, 2, 4, 8, 10, -1.0)):
        phi = 12 * EI / (GA * L**2)
        factor = np.where(e.bar, 0.0, EI) / (L**3 * (1 + phi))
        block = {
            (w1, w1): 12.0 + 0 * L,
            (w1, r1): 6 * L * sense,
            (w1, w2): -12.0 + 0 * L,
            (w1, r2): 6 * L * sense,
            (r1, r1): (4 + phi) * L**2,
            (r1, w2): -6 * L * sense,
            (r1, r2): (2 - phi) * L**2,
            (w2, w2): 12.0 + 0 * L,
            (w2, r2): -6 * L * sense,
            (r2, r2): (4 + phi) * L**2,
        }
        for (i, j), value in block.items():
            k[:, i, j] = k[:, j, i] = factor * value
    return k


def condense(k: Floats, elements: Elements) -> tuple[Floats, Floats]:
    """Release element ends, or tie them to their nodes by springs.

    Gives (e, 12, 12) condensed stiffness and (e, 12, 12) maps G with d_end = G d_node − (flexible part), such that the end
    displacements of a released element under nodal displacements alone are G d_node. With springs S at the released
    freedoms r: d_r = D (S u_r − k_rc u_c), D = (k_rr + S)⁻¹. Bars are condensed by nature.
    """
    n = len(elements)
    maps = np.broadcast_to(np.eye(12), (n, 12, 12)).copy()
    out = k.copy()
    for rows, r, c in _patterns(elements):
        S, D = _springs(k, elements, rows, r)
        k_rc, k_cr = k[np.ix_(rows, r, c)], k[np.ix_(rows, c, r)]
        out[np.ix_(rows, c, c)] = k[np.ix_(rows, c, c)] - k_cr @ D @ k_rc
        out[np.ix_(rows, c, r)] = k_cr @ D @ S
        out[np.ix_(rows, r, c)] = S @ D @ k_rc
        out[np.ix_(rows, r, r)] = S - S @ D @ S
        maps[np.ix_(rows, r, r)] = D @ S
        maps[np.ix_(rows, r, c)] = -D @ k_rc
    return out, maps


def release_forces(k: Floats, fixed: Floats, elements: Elements) -> tuple[Floats, Floats]:
    """Condense fixed-end forces (e, 12, cases): gives the condensed forces and the free end displacements they cause."""
    out = fixed.copy()
    free = np.zeros_like(fixed)
    cases = np.arange(fixed.shape[2])
    for rows, r, c in _patterns(elements):
        S, D = _springs(k, elements, rows, r)
        moved = -D @ fixed[np.ix_(rows, r, cases)]
        free[np.ix_(rows, r, cases)] = moved
        out[np.ix_(rows, c, cases)] += k[np.ix_(rows, c, r)] @ moved
        out[np.ix_(rows, r, cases)] = -S @ moved
    return out, free


def _patterns(elements: Elements) -> Iterator[tuple[Ints, Ints, Ints]]:
    """Elements that are released alike: their rows, the released freedoms and the others."""
    patterns, group = np.unique(elements.released & ~elements.bar[:, None], axis=0, return_inverse=True)
    for g, pattern in enumerate(patterns):
        if pattern.any():
            yield np.flatnonzero(group.ravel() == g), np.flatnonzero(pattern), np.flatnonzero(~pattern)


def _springs(k: Floats, elements: Elements, rows: Ints, r: Ints) -> tuple[Floats, Floats]:
    """Springs of the released freedoms as diagonal matrices, and (k_rr + S)⁻¹."""
    S = elements.spring[np.ix_(rows, r)][:, :, None] * np.eye(len(r))
    return S, np.asarray(np.linalg.inv(k[np.ix_(rows, r, r)] + S), dtype=np.float64)
