"""Beam elements in space: local axes, stiffness with shear deformation, releases by condensation.

Local x runs from start to end; local z lies in the vertical plane through x and points upwards (for vertical elements
running upwards: towards −X); y = z × x; then both are turned by the roll angle about x. Element freedoms, in order:
u, v, w, rx, ry, rz at the start, then at the end.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.structure.model import Bools, Floats, Ints, Structure


@dataclass(frozen=True)
class Elements:
    """Arrays over elements. ends: (e, 2) nodes; axes: (e, 3, 3) rows are local x, y, z; released: (e, 12) bool.

    member, offset: the member each element belongs to and its distance from that member's start (m).
    GAy, GAz: shear stiffness along y and z, inf when rigid.
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

    def __len__(self) -> int:
        return len(self.length)


def local_axes(start: Floats, end: Floats, roll: Floats) -> Floats:
    """(e, 3, 3) local axes as rows for elements between (e, 3) points, turned by (e,) radians."""
    x = end - start
    x = x / np.linalg.norm(x, axis=1, keepdims=True)
    vertical = np.abs(x[:, 2]) > 1 - 1e-9
    up = np.where(vertical[:, None], np.array([-1.0, 0.0, 0.0]) * np.sign(x[:, 2:3]), np.array([0.0, 0.0, 1.0]))
    z = up - np.sum(up * x, axis=1, keepdims=True) * x
    z /= np.linalg.norm(z, axis=1, keepdims=True)
    y = np.cross(z, x)
    c, s = np.cos(roll)[:, None], np.sin(roll)[:, None]
    return np.stack([x, c * y + s * z, c * z - s * y], axis=1)


def make_elements(structure: Structure, shear_deformation: bool = True) -> Elements:
    """The elements of all members, one between each two successive nodes of a member."""
    ends, member, offset, roll, bar, released = [], [], [], [], [], []
    stiffness = []
    for i, m in enumerate(structure.members):
        along = 0.0
        for j, pair in enumerate(zip(m.nodes[:-1], m.nodes[1:], strict=True)):
            ends.append(pair)
            member.append(i)
            offset.append(along)
            along += float(np.linalg.norm(structure.xyz[pair[1]] - structure.xyz[pair[0]]))
            roll.append(m.roll)
            bar.append(m.bar)
            row = np.zeros(12, dtype=bool)
            if m.bar:
                row[[3, 4, 5, 9, 10, 11]] = True
            elif j == 0:
                row[3:6] = [axis in m.release_start for axis in "xyz"]
            if not m.bar and j == len(m.nodes) - 2:
                row[9:12] = [axis in m.release_end for axis in "xyz"]
            released.append(row)
        s, e, g = m.section, m.material.E, m.material.G
        areas = (s.stiffness_Avy, s.stiffness_Avz)
        shear = [g * a if a is not None and shear_deformation else np.inf for a in areas]
        stiffness += [(e * s.A, e * s.Iy, e * s.Iz, g * s.It, *shear)] * (len(m.nodes) - 1)
    pairs = np.array(ends, dtype=np.int64)
    start, end = structure.xyz[pairs[:, 0]], structure.xyz[pairs[:, 1]]
    columns = np.array(stiffness, dtype=float).T
    return Elements(
        ends=pairs,
        length=np.linalg.norm(end - start, axis=1),
        axes=local_axes(start, end, np.array(roll)),
        member=np.array(member, dtype=np.int64),
        offset=np.array(offset),
        EA=columns[0],
        EIy=columns[1],
        EIz=columns[2],
        GJ=columns[3],
        GAy=columns[4],
        GAz=columns[5],
        released=np.array(released),
        bar=np.array(bar),
    )


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
    """Release moments at element ends.

    Gives (e, 12, 12) condensed stiffness and (e, 12, 12) maps G with d_local = G d_node − (flexible part) such that the
    end displacements of a released element under nodal displacements alone are G d_node. Bars are condensed by nature.
    """
    n = len(elements)
    maps = np.broadcast_to(np.eye(12), (n, 12, 12)).copy()
    out = k.copy()
    patterns, group = np.unique(elements.released & ~elements.bar[:, None], axis=0, return_inverse=True)
    for g, pattern in enumerate(patterns):
        if not pattern.any():
            continue
        rows = np.flatnonzero(group.ravel() == g)
        r, c = np.flatnonzero(pattern), np.flatnonzero(~pattern)
        flexible = np.linalg.solve(k[np.ix_(rows, r, r)], k[np.ix_(rows, r, c)])
        out[np.ix_(rows, c, c)] = k[np.ix_(rows, c, c)] - k[np.ix_(rows, c, r)] @ flexible
        out[np.ix_(rows, r, np.arange(12))] = 0.0
        out[np.ix_(rows, np.arange(12), r)] = 0.0
        maps[np.ix_(rows, r, r)] = 0.0
        maps[np.ix_(rows, r, c)] = -flexible
    return out, maps


def release_forces(k: Floats, fixed: Floats, elements: Elements) -> tuple[Floats, Floats]:
    """Condense fixed-end forces (e, 12, cases): gives the condensed forces and the free end displacements they cause."""
    out = fixed.copy()
    free = np.zeros_like(fixed)
    patterns, group = np.unique(elements.released & ~elements.bar[:, None], axis=0, return_inverse=True)
    for g, pattern in enumerate(patterns):
        if not pattern.any():
            continue
        rows = np.flatnonzero(group.ravel() == g)
        r, c = np.flatnonzero(pattern), np.flatnonzero(~pattern)
        moved = -np.linalg.solve(k[np.ix_(rows, r, r)], fixed[np.ix_(rows, r, np.arange(fixed.shape[2]))])
        free[np.ix_(rows, r, np.arange(fixed.shape[2]))] = moved
        out[np.ix_(rows, c, np.arange(fixed.shape[2]))] += k[np.ix_(rows, c, r)] @ moved
        out[np.ix_(rows, r, np.arange(fixed.shape[2]))] = 0.0
    return out, free
