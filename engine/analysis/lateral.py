"""Lateral-torsional buckling of a member as an eigenvalue: two flanges that bend sideways between restraints.

Sideways movements u_t, u_b of the outer and the inner flange, cubic between nodes (four freedoms a node: u_t, u_t', u_b, u_b'); the web
keeps the cross-section's shape, so that a point at height z above the nodes' line moves by v − z φ, with φ = (u_b − u_t)/d:

Π = ½ ∫ (Σ E I_f u_f''² + G I_t φ'²) dx + λ ½ ∫ (N v'² + 2 M v' φ' + 2 V v' φ + W φ'² − q z_q φ²) dx

with N (tension positive), M about y (tension below positive) and V = dM/dx about the nodes' line, W = ∫ σ (y² + z²) dA, and loads q
downwards at height z_q. At a kink of a flange it is its own slope that goes on, not the rate of twist. λ is the factor on the
state's forces at which the member buckles. End moments are couples of forces that keep their direction.

Trahair, Flexural-Torsional Buckling of Structures, chapters 2, 15 and 17; flanges of tapered beams: Andrade, Camotim and
Dinis, Thin-Walled Structures 45 (2007); Sturm's count of negative pivots: Bathe, Finite Element Procedures, 11.3.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from scipy.linalg import null_space

from engine.analysis.flanges import COVERED, FLANGED, Flanges, flanges_at, kinks
from engine.structure.model import Bools, Floats, Ints, Member, Structure

#: elements between the ends of a stretch, at least
PIECES = 16
#: Gauss points of an element
POINTS = 4
#: freedoms of a node, and of an element
NODE, ELEMENT = 4, 8
#: places of an element at which the shape of buckling is told
DRAWN = 4
#: states that are looked at together: counting pivots, and solving
TOGETHER, AT_ONCE = 2048, 128
#: factors beyond this are none
MOST = 1e6
#: a pivot below this share of its stiffness: nothing holds that freedom
LOOSE = 1e-9


@dataclass(frozen=True)
class Ends:
    """How an end of a stretch is held: sideways and against twist ("fork"), not at all ("free"), or "clamped": also against turning
    sideways, or "built in": against warping too. Nothing in a model says that warping is held: it is free, on the safe side."""

    start: str
    end: str


@dataclass(frozen=True)
class Stretch:
    """A stretch of a member between places where it is held, cut into n elements: what resists, and what forces do, in the upper
    triangles (36) of the elements' matrices.

    x: (n + 1,) m from the member's start; elastic: (n, 36); geometric: (n, 36, 6) for N, M and V at the start, then at the end;
    line, point: (3, n, 36) and (3, n + 1, 10) for a load towards −z between nodes and at a node, at the outer flange, at the shear
    centre. held: (n + 1, 4, 4) the freedoms of each node from those that are left; pinned: (n + 1, 4) of these, what does not move. loose: whether nothing holds
    it.
    """

    x: Floats
    elastic: Floats
    geometric: Floats
    line: Floats
    point: Floats
    held: Floats
    pinned: Bools
    loose: bool


def end_conditions(structure: Structure, member: int) -> Ends:
    """Free where nothing else meets the member and no support holds it; clamped where a support holds all rotations and the
    member is not released there; else forks."""
    m = structure.members[member]
    found = []
    for node, released in ((m.nodes[0], m.release_start), (m.nodes[-1], m.release_end)):
        alone = all(other == member for other in structure.meeting[node])
        held = structure.fixed[node] | (structure.springs[node] != 0)
        if alone and not held.any():
            found.append("free")
        elif alone and structure.fixed[node, 3:].all() and not released:
            found.append("clamped")
        else:
            found.append("fork")
    return Ends(*found)


def covered(member: Member) -> bool:
    """Whether its lateral buckling can be found: beams whose flanges are known, or that have none."""
    return not member.bar and member.behaviour != "rigid link" and member.section.shape in COVERED


def _hermite(xi: Floats, L: Floats) -> tuple[Floats, Floats, Floats]:
    """Hermite's cubics for (w1, w1', w2, w2') at ξ: values, first and second derivatives along x, (4, …)."""
    xi, L = np.broadcast_arrays(xi, L)
    n = np.stack([1 - 3 * xi**2 + 2 * xi**3, L * (xi - 2 * xi**2 + xi**3), 3 * xi**2 - 2 * xi**3, L * (xi**3 - xi**2)])
    d = np.stack([(6 * xi**2 - 6 * xi) / L, 1 - 4 * xi + 3 * xi**2, (6 * xi - 6 * xi**2) / L, 3 * xi**2 - 2 * xi])
    dd = np.stack([(12 * xi - 6) / L**2, (6 * xi - 4) / L, (6 - 12 * xi) / L**2, (6 * xi - 2) / L])
    return n, d, dd


def _nodes(member: Member, places: Sequence[float], start: float, end: float, least: int) -> Floats:
    """Nodes of a stretch: where its elements, haunches and restraints begin and end, and enough between them."""
    held = sorted({start, end, *(x for x in (*places, *member.outer, *member.inner) if start < x < end)})
    found = [start]
    for a, b in pairwise(held):
        if b - found[-1] < 1e-6:
            continue
        count = max(1, round(least * (b - a) / (end - start)))
        found += [a + (b - a) * k / count for k in range(1, count + 1)]
    return np.array(found)


def _rows(x: Floats, f: Flanges, xi: Floats) -> dict[str, Floats]:
    """Movements at Gauss points from the freedoms of each element, (n, g, 8): v', φ, φ' and the curvatures of what bends."""
    L = np.diff(x)[:, None]
    n, d, dd = (np.moveaxis(values, 0, -1) for values in _hermite(xi, L))
    g = len(xi)

    def of(values: Floats, first: int) -> Floats:
        out = np.zeros((len(L), g, ELEMENT))
        out[..., [first, first + 1, first + 4, first + 5]] = values
        return out

    (t, t1, t2), (b, b1, b2) = ([of(values, first) for values in (n, d, dd)] for first in (0, 2))

    def height(values: Floats) -> tuple[Floats, Floats]:
        """Heights at the points and their slopes, which are constant within an element."""
        shape = values.reshape(len(L), g)
        slope = (shape[:, -1:] - shape[:, :1]) / ((xi[-1] - xi[0]) * L)
        return shape[..., None], slope[..., None]

    (zt, zt1), (zb, zb1) = height(f.top), height(f.bottom)
    depth, depth1 = zt - zb, zt1 - zb1
    phi = (b - t) / depth
    phi1 = (b1 - t1 - depth1 * phi) / depth
    phi2 = (b2 - t2 - 2 * depth1 * phi1) / depth
    v2 = t2 + 2 * zt1 * phi1 + zt * phi2
    bent = {"top": t2, "bottom": b2}
    for name in ("middle", "centroid"):
        z, z1 = height(getattr(f, name))
        bent[name] = v2 - z * phi2 - 2 * z1 * phi1
    return bent | {"v1": t1 + zt1 * phi + zt * phi1, "phi": phi, "phi1": phi1}


def stretch_of(
    member: Member,
    places: Sequence[float],
    start: float,
    end: float,
    ends: Ends,
    least: int = PIECES,
    sprung: tuple[Sequence[float], int] = ((), -1),
) -> Stretch:
    """A stretch of a member from `start` to `end` (m). places: where its elements begin and end; all that holds its flanges within the stretch
    does so there; least: elements of it; sprung: where the inner flange (−1) or the outer one (1) is free though stayed (`twist_springs`)."""
    length = max(end, *places) if places else end
    x = _nodes(member, [*places, *kinks(member, length)], start, end, least)
    points, weights = np.polynomial.legendre.leggauss(POINTS)
    xi, L = (points + 1) / 2, np.diff(x)
    at = x[:-1, None] + xi * L[:, None]
    f = flanges_at(member, at.ravel())
    r = _rows(x, f, xi)
    E, G, weight = member.material.E, member.material.G, weights / 2 * L[:, None]

    def times(one: Floats, other: Floats, value: Floats) -> Floats:
        """(n, 8, 8) ∫ value · one · other, symmetric."""
        found = np.einsum("egi,egj,eg->eij", one, other, value * weight, optimize=True)
        return np.asarray((found + found.swapaxes(1, 2)) / 2)

    def own(values: Floats) -> Floats:
        return values.reshape(at.shape)

    K = times(r["phi1"], r["phi1"], G * own(f.It))
    for name, stiff in (
        ("top", f.I_top),
        ("bottom", f.I_bottom),
        ("middle", f.I_middle),
        ("centroid", f.I_rest),
    ):
        K += times(r[name], r[name], E * own(stiff))
    h, h1, _ = _hermite(xi[None], L[:, None])
    e, wagner = own(f.centroid), own(f.wagner)
    by_force = own(f.polar) - e * wagner - e**2
    straight = np.stack([np.broadcast_to(1 - xi, at.shape), np.broadcast_to(xi, at.shape)])
    parts = []
    for k in (0, 1):
        pull = straight[k]
        parts.append(times(r["v1"], r["v1"], pull) + times(r["phi1"], r["phi1"], pull * by_force))
        for shape, slope in ((h[2 * k], h1[2 * k]), (h[2 * k + 1], h1[2 * k + 1])):
            parts.append(
                2 * times(r["v1"], r["phi1"], shape)
                + 2 * times(r["v1"], r["phi"], slope)
                - times(r["phi1"], r["phi1"], shape * (wagner + 2 * e))
            )
    heights = [own(f.outer), own(f.shear_centre), own(f.inner)]
    line = [-times(r["phi"], r["phi"], z) for z in heights]
    node = flanges_at(member, x)
    twist = np.array([-1.0, 0.0, 1.0, 0.0])[None] / (node.top - node.bottom)[:, None]
    point = [-np.einsum("n,ni,nj->nij", z, twist, twist) for z in (node.outer, node.shear_centre, node.inner)]
    hold, pinned = _held(member, x, ends, node, sprung)
    both = np.zeros((len(L), ELEMENT, ELEMENT))
    both[:, :NODE, :NODE], both[:, NODE:, NODE:] = hold[:-1], hold[1:]

    def reduced(values: Floats, by: Floats) -> Floats:
        found = by.swapaxes(1, 2) @ values @ by
        return np.asarray(found[:, *np.triu_indices(found.shape[1])])

    elastic = reduced(K, both)
    return Stretch(
        x=x,
        elastic=elastic,
        geometric=np.stack([reduced(part, both) for part in parts], axis=2),
        line=np.stack([reduced(part, both) for part in line]),
        point=np.stack([reduced(part, hold) for part in point]),
        held=hold,
        pinned=pinned,
        loose=_is_loose(elastic, pinned),
    )


def _held(
    member: Member, x: Floats, ends: Ends, node: Flanges, sprung: tuple[Sequence[float], int]
) -> tuple[Floats, Bools]:
    """(n, 4, 4) the freedoms of each node from those that are left, whose columns vanish where `pinned` (n, 4)."""
    flanged = member.section.shape in FLANGED
    depth = node.top - node.bottom
    rows: list[list[Floats]] = [[] for _ in x]
    unit = np.eye(NODE)
    for i, kind in ((0, ends.start), (len(x) - 1, ends.end)):
        if kind != "free":
            rows[i] += [unit[0], unit[2]]
        if kind == "built in":
            rows[i] += [unit[1], unit[3]]
        if kind == "clamped":
            share = float((node.top[i] - node.shear_centre[i]) / depth[i])
            rows[i].append((1 - share) * unit[1] + share * unit[3])
    outer, inner = (
        [x for x in places if sprung[1] != side or not any(abs(x - place) < 1e-6 for place in sprung[0])]
        for side, places in ((1, member.outer), (-1, member.inner))
    )
    for held, others, z in ((outer, inner, node.outer), (inner, outer, node.inner)):
        for place in held:
            i = int(np.argmin(np.abs(x - place)))
            if abs(x[i] - place) > 1e-6 or i in (0, len(x) - 1):
                continue
            if any(abs(place - other) < 1e-6 for other in others):
                # both flanges: no twist either
                rows[i] += [unit[0], unit[2]]
                continue
            # a point at height z moves by a share of both flanges
            share = float((node.top[i] - z[i]) / depth[i])
            share = round(share) if flanged else share
            rows[i].append((1 - share) * unit[0] + share * unit[2])
    hold, pinned = np.tile(unit, (len(x), 1, 1)), np.zeros((len(x), NODE), dtype=bool)
    for i, own in enumerate(rows):
        if own:
            free = null_space(np.array(own))
            hold[i] = 0.0
            hold[i, :, : free.shape[1]] = free
            pinned[i, free.shape[1] :] = True
    return hold, pinned


def _band(blocks: Floats, nodes: int, pinned: Bools, unit: float) -> Floats:
    """(4 nodes, 8, …) upper band A[i, i + k] of a matrix from the upper triangles of its elements, (n, 36, …); unit: what stands on
    the diagonal where a freedom is pinned."""
    out = np.zeros((NODE * nodes + NODE, ELEMENT, *blocks.shape[2:]))
    rows, columns = np.triu_indices(ELEMENT)
    for e in range(len(blocks)):
        out[NODE * e + rows, columns - rows] += blocks[e]
    out = out[: NODE * nodes]
    out[pinned.ravel(), 0] += unit
    return out


def _pivots(A: Floats) -> Floats:
    """(f, s) pivots of LDLᵀ of bands (f, 8, s), which are overwritten: as many are negative as eigenvalues are."""
    f = len(A)
    for i in range(f):
        pivot = A[i, 0]
        pivot[...] = np.where(np.abs(pivot) < 1e-300, 1e-300, pivot)
        for a in range(1, min(ELEMENT, f - i)):
            A[i + a, : ELEMENT - a] -= A[i, a] / pivot * A[i, a:]
    return np.asarray(A[:, 0])


def _is_loose(elastic: Floats, pinned: Bools) -> bool:
    """Whether nothing holds the stretch against some movement."""
    K = _band(elastic[..., None], len(pinned), pinned, float(elastic[:, 0].max()))
    stiff = K[:, 0].copy()
    return bool((_pivots(K) < LOOSE * stiff).any())


def modes_below(
    stretch: Stretch, geometric: Floats, factors: Floats, added: tuple[Floats, Floats] | None = None
) -> Ints:
    """(s,) in how many modes states buckle at less than these factors. geometric: (n, 36, s) of `geometry_of`; added: (n, 36) to the elastic
    part, and (s,) the share of it that there is in each state."""
    found, nodes = np.zeros(len(factors), dtype=np.int64), len(stretch.x)
    K = _band(stretch.elastic, nodes, stretch.pinned, float(stretch.elastic[:, 0].max()))[..., None]
    for at in range(0, len(factors), TOGETHER):
        own = slice(at, at + TOGETHER)
        A = K + factors[own] * _band(geometric[..., own], nodes, stretch.pinned, 0.0)
        if added:
            A += added[1][own] * _band(added[0], nodes, stretch.pinned, 0.0)[..., None]
        found[own] = (_pivots(A) < 0).sum(axis=0)
    return found


def buckles_below(
    stretch: Stretch, geometric: Floats, factors: Floats, added: tuple[Floats, Floats] | None = None
) -> Bools:
    """(s,) whether states buckle at less than these factors, as `modes_below`."""
    return np.asarray(modes_below(stretch, geometric, factors, added) > 0)


def geometry_of(stretch: Stretch, N: Floats, M: Floats, V: Floats, above: bool, facing: int = 1) -> Floats:
    """(n, 36, s) what forces (2 n, s) at both ends of the elements do; above: whether loads act at the flange that they push (1: the outer one alone,
    −1: the inner one, 0: either, as `facing` says), else at the shear centre, as all others do."""

    def placed(q: Floats) -> Floats:
        """Loads (k, s) by where they act, (k, 3, s)."""
        outer, inner = (q > 0) & above & (facing >= 0), (q < 0) & above & (facing <= 0)
        return np.stack([np.where(outer, q, 0.0), np.where(outer | inner, 0.0, q), np.where(inner, q, 0.0)], axis=1)

    n = len(stretch.elastic)
    ends = np.stack([N, M, V]).reshape(3, n, 2, -1)
    at = np.concatenate([ends[:, :, 0], ends[:, :, 1]]).transpose(1, 0, 2)
    # Hermite's cubics come as M and V at the start, then at the end
    q = (ends[2, :, 0] - ends[2, :, 1]) / np.diff(stretch.x)[:, None]
    does = np.concatenate([stretch.geometric, stretch.line.transpose(1, 2, 0)], axis=2)
    found = does @ np.concatenate([at, placed(q)], axis=1)
    drop = np.zeros((n + 1, N.shape[1]))
    drop[1:-1] = ends[2, :-1, 1] - ends[2, 1:, 0]
    if ends.size:
        # the load at a free end is what the shear there holds
        drop[0], drop[-1] = -ends[2, 0, 0], ends[2, -1, 1]
    points = stretch.point.transpose(1, 2, 0) @ placed(drop)
    rows, columns = np.triu_indices(NODE)
    upper = {pair: i for i, pair in enumerate(zip(*np.triu_indices(ELEMENT), strict=True))}
    first = [upper[r, c] for r, c in zip(rows, columns, strict=True)]
    last = [upper[r + NODE, c + NODE] for r, c in zip(rows, columns, strict=True)]
    found[:, first] += points[:-1]
    found[-1, last] += points[-1]
    return np.asarray(found)


def _to_unit(stretch: Stretch) -> tuple[Ints, Floats]:
    """The freedoms that are left, and what makes their elastic matrix the unit matrix."""
    left = np.flatnonzero(~stretch.pinned.ravel())
    elastic = whole(stretch.elastic[..., None], stretch.pinned.size)[0][np.ix_(left, left)]
    return left, np.linalg.inv(np.linalg.cholesky(elastic))


def factors_of(stretch: Stretch, geometric: Floats) -> Floats:
    """(s,) factors on the forces of states at which a stretch buckles, inf where nothing makes it; NaN where nothing holds it."""
    if stretch.loose:
        return np.full(geometric.shape[2], np.nan)
    n, (left, to_unit) = stretch.pinned.size, _to_unit(stretch)
    found = []
    for at in range(0, geometric.shape[2], AT_ONCE):
        G = whole(geometric[..., at : at + AT_ONCE], n)[:, left][:, :, left]
        # 1/λ is the largest of −G against K
        found.append(-np.linalg.eigvalsh(to_unit @ G @ to_unit.T)[:, 0])
    most = np.concatenate(found) if found else np.empty(0)
    with np.errstate(divide="ignore"):
        return np.asarray(np.where(most > 1 / MOST, 1 / np.maximum(most, 1e-300), np.inf))


def shape_of(stretch: Stretch, geometric: Floats) -> tuple[Floats, Floats]:
    """How a stretch buckles in one state, of `geometry_of` (n, 36): (k,) m from the member's start, and (2, k) how far the outer and the inner flange move sideways
    there, the largest of all 1."""
    left, to_unit = _to_unit(stretch)
    G = whole(geometric[..., None], stretch.pinned.size)[0][np.ix_(left, left)]
    free = np.zeros(stretch.pinned.size)
    free[left] = to_unit.T @ np.linalg.eigh(to_unit @ G @ to_unit.T)[1][:, 0]
    moved = np.einsum("nij,nj->ni", stretch.held, free.reshape(-1, NODE))
    ends = np.concatenate([moved[:-1], moved[1:]], axis=1)
    L, xi = np.diff(stretch.x)[:, None], np.linspace(0, 1, DRAWN, endpoint=False)
    n = _hermite(xi[None], L)[0]
    sideways = [np.einsum("keg,ek->eg", n, ends[:, [f, f + 1, f + 4, f + 5]]).ravel() for f in (0, 2)]
    x = np.append((stretch.x[:-1, None] + L * xi).ravel(), stretch.x[-1])
    both = np.stack([np.append(own, moved[-1, f]) for own, f in zip(sideways, (0, 2), strict=True)])
    return x, both / both.flat[np.abs(both).argmax()]


def whole(blocks: Floats, size: int) -> Floats:
    """(s, size, size) symmetric matrices from the upper triangles of their elements, (n, 36, s)."""
    out = np.zeros((blocks.shape[2], size, size))
    rows, columns = np.triu_indices(ELEMENT)
    for e, block in enumerate(blocks):
        out[:, NODE * e + rows, NODE * e + columns] += block.T
    below = np.tril_indices(size, -1)
    out[:, below[0], below[1]] = out[:, below[1], below[0]]
    return out
