"""Springs against twist between the ends of a member: stays that lead to what bends, purlins and rails, are as stiff as these."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.analysis.flanges import flanges_at
from engine.analysis.lateral import ELEMENT, NODE, Stretch, modes_below, whole
from engine.structure.model import Floats, Member

#: states that are solved together
AT_ONCE = 128
#: of the largest compliance, what counts as none
NONE = 1e-12


def twist_rows(member: Member, stretch: Stretch, rotations: Sequence[tuple[float, float]]) -> Floats:
    """(springs, 4 nodes) of springs against twist at places between the ends of a stretch: twist by its freedoms, times the root of the
    stiffness, ½ C φ² with φ = (u_b − u_t)/d. rotations: (m from the member's start, Nm per radian) each."""
    node = flanges_at(member, stretch.x)
    found = np.zeros((len(rotations), len(stretch.x), NODE))
    for row, (place, rotation) in zip(found, rotations, strict=True):
        i = int(np.argmin(np.abs(stretch.x - place)))
        twist = np.array([-1.0, 0.0, 1.0, 0.0]) / (node.top[i] - node.bottom[i])
        row[i] = np.sqrt(rotation) * twist @ stretch.held[i]
    return found.reshape(len(rotations), -1)


def added(rows: Floats, nodes: int) -> Floats:
    """(n, 36) what springs add to the elastic part of a stretch of n elements; none is at its last node."""
    both = np.zeros((nodes - 1, ELEMENT, ELEMENT))
    own = rows.reshape(-1, nodes, NODE)[:, :-1]
    both[:, :NODE, :NODE] = np.einsum("sni,snj->nij", own, own)
    return np.asarray(both[:, *np.triu_indices(ELEMENT)])


def share_needed(stretch: Stretch, geometric: Floats, factors: Floats, rows: Floats) -> Floats:
    """(s,) the least share of springs with which states do not buckle below factors: 0 where they need none, inf where springs as stiff as
    one likes do not do. geometric: (n, 36, s) of `geometry_of`; rows: of `twist_rows`.

    A + s BᵀB, with A of what resists at the factor, is singular where 1 + s μ = 0, μ an eigenvalue of B A⁻¹ Bᵀ. As s grows, each such root
    lifts one eigenvalue above 0: past the last of them as many have gone as A had negative ones, or never all go.
    """
    left = np.flatnonzero(~stretch.pinned.ravel())
    B, found = rows[:, left], []
    for at in range(0, len(factors), AT_ONCE):
        own = slice(at, at + AT_ONCE)
        A = whole(stretch.elastic[..., None] + factors[own] * geometric[..., own], len(stretch.pinned.ravel()))
        A = A[:, left][:, :, left]
        mu = np.linalg.eigvalsh(B @ np.linalg.solve(A, np.broadcast_to(B.T, (len(A), *B.T.shape))))
        lifting = mu < -NONE * np.abs(mu).max(axis=1, keepdims=True)
        roots = np.where(lifting, -1 / np.where(lifting, mu, -1.0), 0.0).max(axis=1)
        enough = modes_below(stretch, geometric[..., own], factors[own]) <= lifting.sum(axis=1)
        found.append(np.where(enough, roots, np.inf))
    return np.concatenate(found) if found else np.empty(0)
