"""The lowest critical factors of many combinations together, from one subspace that grows until it is good enough."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from engine.analysis.pencil import Pencil, greatest, orthonormal
from engine.analysis.uneven import Uneven
from engine.structure.model import Floats, Ints

#: factors beyond this are found less closely, and say nothing on effective lengths
FAR = 25.0

#: relative residual of a mode that is close enough: α is as close as its square
CLOSE = 0.05

#: modes of the envelope that are sought at first, and at most; directions added at a time
FIRST, MOST, MORE = 8, 128, 8

#: modes of each combination that are looked at
LOOKED_AT = 3

#: up to so many combinations are solved on their own
FEW = 8


#: times that the common space grows before combinations are solved on their own
GROWTHS = 6


#: all modes of the envelope below this factor are in the common space: no combination has one below it that is missed
SURE = 12.0


def lowest(pencil: Pencil, N: Floats, uneven: Uneven | None, factors: Floats) -> tuple[Floats, Floats]:
    """Critical factors (k, c) of the lowest modes of combinations with factors (c, cases) and axial forces N (e, c), inf where
    there is none, and the modes (size, k, c), of unit energy. uneven: how axial forces vary along elements."""
    count = N.shape[1]
    varying = None if uneven is None else (uneven.rows, uneven.of(factors))

    def image(x: Floats, columns: Ints) -> Floats:
        more = None if varying is None else (varying[0], varying[1][..., columns])
        return -pencil.geometric(x, N[:, columns], more)

    if count <= FEW:
        modes, theta = np.zeros((sum(pencil.sizes), LOOKED_AT, count)), np.zeros((LOOKED_AT, count))
        for c in range(count):
            _alone(pencil, image, c, pencil.random(LOOKED_AT + 1), theta, modes)
        return _factors(theta), modes
    worst, wide = N.min(axis=1, keepdims=True), FIRST
    while True:
        envelope = greatest(pencil, lambda x: -pencil.geometric(x, worst), pencil.random(min(wide, 16)), wide, 12)
        if len(envelope.values) < wide or envelope.values[-1] < 1 / SURE or wide >= MOST:
            break
        wide *= 2
    wanted = envelope.values > min(1 / FAR, envelope.values[:1].max(initial=0.0))
    wanted[:1] = True
    V = envelope.vectors[:, wanted]
    if not V.shape[1]:
        return np.full((1, count), np.inf), np.zeros((len(V), 1, count))
    KV = pencil.elastic(V)
    every = np.arange(count)
    for growth in range(GROWTHS + 1):
        theta, y = _projected(pencil, V, N, uneven, factors)
        x = V @ y[:, 0].T
        moved = pencil.precondition(image(x, every))
        rest = moved - x * theta[:, 0]
        residual = np.sqrt(np.maximum((rest * pencil.elastic(rest)).sum(axis=0), 0.0))
        bad = np.flatnonzero((residual > CLOSE * theta[:, 0]) & (theta[:, 0] + residual > 1 / FAR))
        if not len(bad) or growth == GROWTHS:
            break
        pick = _apart(rest[:, bad], MORE)
        new, K_new = orthonormal(rest[:, bad[pick]], pencil.elastic(rest[:, bad[pick]]), V, KV)
        V, KV = np.concatenate([V, new], axis=1), np.concatenate([KV, K_new], axis=1)
    k = min(LOOKED_AT, theta.shape[1])
    theta = theta[:, :k].T.copy()
    modes = np.einsum("np,ckp->nkc", V, y[:, :k], optimize=True)
    for c in bad.tolist():
        _alone(pencil, image, c, np.concatenate([modes[:, :, c], pencil.random(2, 11)], axis=1), theta, modes)
    return _factors(theta), modes


def _factors(theta: Floats) -> Floats:
    return np.where(theta > 1e-9, 1 / np.where(theta > 1e-9, theta, 1.0), np.inf)


def _alone(
    pencil: Pencil, image: Callable[[Floats, Ints], Floats], c: int, start: Floats, theta: Floats, modes: Floats
) -> None:
    """Put the lowest modes of one combination into theta (k, c) and modes (size, k, c)."""
    found = greatest(pencil, lambda x: image(x, np.full(x.shape[1], c)), start, len(theta))
    theta[:, c], modes[:, :, c] = 0.0, 0.0
    theta[: len(found.values), c], modes[:, : len(found.values), c] = found.values, found.vectors


def _projected(pencil: Pencil, V: Floats, N: Floats, uneven: Uneven | None, factors: Floats) -> tuple[Floats, Floats]:
    """θ (c, p) of all combinations within a space V (size, p), greatest first, and their vectors there (c, p, p)."""
    geo, p = pencil.geometry, V.shape[1]
    s, lean = pencil.shapes(V)
    whole = geo.whole(np.arange(len(geo.bend)))
    each = np.einsum("imp,mij,jmq->mpq", s, whole, s, optimize=True).reshape(-1, p * p)
    hung = (lean[:, :, None] * lean[:, None]).reshape(-1, p * p)
    bend, hang = geo.rates(N)
    matrix = (bend.T @ each + hang.T @ hung).reshape(-1, p, p)
    if uneven is not None:
        own = s[:, uneven.rows]
        half = np.einsum("ijkn,jkq->ikqn", uneven.matrix, own, optimize=True)
        each = np.einsum("ikp,ikqn->npq", own, half, optimize=True).reshape(-1, p * p)
        matrix = matrix + (factors @ each).reshape(-1, p, p)
    values, vectors = np.linalg.eigh(-(matrix + np.swapaxes(matrix, 1, 2)) / 2)
    return values[:, ::-1], np.swapaxes(vectors[:, :, ::-1], 1, 2)


def _apart(vectors: Floats, count: int) -> Ints:
    """Columns that differ most from one another in direction."""
    unit = vectors / np.maximum(np.linalg.norm(vectors, axis=0), 1e-300)
    found = [0]
    near = np.abs(unit.T @ unit[:, 0])
    while len(found) < min(count, unit.shape[1]):
        pick = int(np.argmin(near))
        if near[pick] > 0.999:
            break
        found.append(pick)
        near = np.maximum(near, np.abs(unit.T @ unit[:, pick]))
    return np.array(found)
