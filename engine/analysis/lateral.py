"""Lateral-torsional buckling of one member as an eigenvalue: a thin-walled beam with warping between its restraints.

Sideways movement v of the shear centre and twist φ about it, cubic between nodes (four freedoms a node: v, v', φ, φ'):

Π = ½ ∫ (E I_z v''² + E I_w φ''² + G I_t φ'²) dx + λ ½ ∫ (N (v'² + i_p² φ'²) − 2 M_y φ v'') dx

with N (tension positive) and M_y along the member as analysed, transverse loads at the shear centre. λ is the factor on the
state's forces at which the member buckles. Doubly symmetric prismatic members. Trahair, Flexural-Torsional Buckling of
Structures, chapters 2 and 17; Timoshenko and Gere, Theory of Elastic Stability, chapter 6.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.linalg import eigh, null_space

from engine.analysis.combined import Combined
from engine.structure.model import Floats, Member, Structure

#: elements between the ends of a member, at least
PIECES = 24
#: Gauss points of an element
POINTS = 4
COVERED = ("I", "given", "square", "rectangular", "circular")


@dataclass(frozen=True)
class Ends:
    """How an end of a member is held: sideways and against twist (a fork), not at all, or clamped: also against turning
    sideways. Warping is free at all ends, on the safe side."""

    start: str
    end: str


def end_conditions(structure: Structure, member: int) -> Ends:
    """Free where nothing else meets the member and no support holds it; clamped where a support holds all rotations and the
    member is not released there; else forks."""
    m = structure.members[member]
    found = []
    for node, released in ((m.nodes[0], m.release_start), (m.nodes[-1], m.release_end)):
        alone = all(node not in other.nodes for i, other in enumerate(structure.members) if i != member)
        held = structure.fixed[node] | (structure.springs[node] != 0)
        if alone and not held.any():
            found.append("free")
        elif alone and structure.fixed[node, 3:].all() and not released:
            found.append("clamped")
        else:
            found.append("fork")
    return Ends(*found)


def _shapes(xi: Floats, L: Floats) -> tuple[Floats, Floats, Floats]:
    """Hermite's cubics for (w1, w1', w2, w2') at ξ: values, first and second derivatives along x, (4, …)."""
    xi, L = np.broadcast_arrays(xi, L)
    n = np.stack([1 - 3 * xi**2 + 2 * xi**3, L * (xi - 2 * xi**2 + xi**3), 3 * xi**2 - 2 * xi**3, L * (xi**3 - xi**2)])
    d = np.stack([(6 * xi**2 - 6 * xi) / L, 1 - 4 * xi + 3 * xi**2, (6 * xi - 6 * xi**2) / L, 3 * xi**2 - 2 * xi])
    dd = np.stack([(12 * xi - 6) / L**2, (6 * xi - 4) / L, (6 - 12 * xi) / L**2, (6 * xi - 2) / L])
    return n, d, dd


def _places(length: float, member: Member) -> Floats:
    """Nodes of the mesh: restraints, and enough between them."""
    held = sorted({0.0, length, *(x for x in (*member.outer, *member.inner) if 0 < x < length)})
    found = [0.0]
    for a, b in pairwise(held):
        if b - a < 1e-6:
            continue
        count = max(2, round(PIECES * (b - a) / length))
        found += [a + (b - a) * k / count for k in range(1, count + 1)]
    return np.array(found)


def _between(x: Floats, values: Floats, slopes: Floats | None, at: Floats) -> Floats:
    """Diagrams (s, c) at places (…): cubic where their slopes at the stations are known, else straight: (…, c)."""
    k = np.clip(np.searchsorted(x, at, side="right") - 1, 0, len(x) - 2)
    h = np.maximum(x[k + 1] - x[k], 1e-12)
    t = (at - x[k]) / h
    if slopes is None:
        return np.asarray(values[k] * (1 - t)[..., None] + values[k + 1] * t[..., None])
    n = _shapes(t, h)[0][..., None]
    return np.asarray(n[0] * values[k] + n[1] * slopes[k] + n[2] * values[k + 1] + n[3] * slopes[k + 1])


def _constraints(member: Member, x: Floats, ends: Ends, depth: float) -> Floats:
    """(c, 4 n) rows that vanish: how ends and flanges are held. A flange at height z moves by v − z φ."""
    rows = []

    def hold(node: int, **freedoms: float) -> None:
        row = np.zeros(4 * len(x))
        for name, value in freedoms.items():
            row[4 * node + ("v", "dv", "phi", "dphi").index(name)] = value
        rows.append(row)

    for node, kind in ((0, ends.start), (len(x) - 1, ends.end)):
        if kind != "free":
            hold(node, v=1.0)
            hold(node, phi=1.0)
        if kind == "clamped":
            hold(node, dv=1.0)
    for places, others, z in ((member.outer, member.inner, depth / 2), (member.inner, member.outer, -depth / 2)):
        for place in places:
            if not 1e-6 < place < x[-1] - 1e-6:
                continue
            node = int(np.argmin(np.abs(x - place)))
            if any(abs(place - other) < 1e-6 for other in others):
                # both flanges: no twist either
                hold(node, v=1.0)
                hold(node, phi=1.0)
            else:
                hold(node, v=1.0, phi=-z)
    return np.array(rows).reshape(-1, 4 * len(x))


def lateral_factors(combined: Combined, numbers: Sequence[int], member: int) -> Floats | None:
    """(c,) factors on the forces of states at which a member buckles sideways, between the restraints of its flanges; inf where
    nothing makes it buckle. None for members that are not covered: bars, haunched ones, sections of other shapes."""
    structure, elements = combined.structure, combined.elements
    m = structure.members[member]
    section, material = m.section, m.material
    if m.bar or m.pieces or section.shape not in COVERED or m.behaviour == "rigid link":
        return None
    own = np.flatnonzero(elements.member == member)
    d = combined.diagrams(numbers)
    at = elements.positions(d.x)[own].ravel()
    N, M, V = (getattr(d, name)[own].reshape(len(at), -1) for name in ("N", "My", "Vz"))
    x = _places(structure.length(m), m)
    points, weights = np.polynomial.legendre.leggauss(POINTS)
    xi, L = (points + 1) / 2, np.diff(x)[:, None]
    weight = weights / 2 * L
    n, slope, bend = _shapes(xi, L)
    force = _between(at, N, None, x[:-1, None] + xi * L)
    moment = _between(at, M, V, x[:-1, None] + xi * L)
    stiff = np.einsum("ieg,jeg,eg->eij", bend, bend, weight)
    shear = np.einsum("ieg,jeg,eg->eij", slope, slope, weight)
    pull = np.einsum("ieg,jeg,eg,egc->eijc", slope, slope, weight, force, optimize=True)
    twist = -np.einsum("ieg,jeg,eg,egc->eijc", n, bend, weight, moment, optimize=True)
    K, G = np.zeros((4 * len(x), 4 * len(x))), np.zeros((4 * len(x), 4 * len(x), len(numbers)))
    radius = (section.Iy + section.Iz) / section.A
    for k in range(len(x) - 1):
        v, phi = 4 * k + np.array([0, 1, 4, 5]), 4 * k + np.array([2, 3, 6, 7])
        K[np.ix_(v, v)] += material.E * section.Iz * stiff[k]
        K[np.ix_(phi, phi)] += material.E * section.Iw * stiff[k] + material.G * section.It * shear[k]
        G[np.ix_(v, v)] += pull[k]
        G[np.ix_(phi, phi)] += radius * pull[k]
        G[np.ix_(phi, v)] += twist[k]
        G[np.ix_(v, phi)] += twist[k].transpose(1, 0, 2)
    free = null_space(_constraints(m, x, end_conditions(structure, member), section.h))
    found = np.full(len(numbers), np.inf)
    if not free.size:
        return found
    K, last = free.T @ K @ free, free.shape[1] - 1
    for c in range(len(numbers)):
        own_G = -free.T @ G[..., c] @ free
        largest = float(eigh(own_G, K, eigvals_only=True, subset_by_index=[last, last])[0])
        if largest > 1e-9:
            found[c] = 1 / largest
    return found
