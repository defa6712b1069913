"""What bracing carries from the members that it restrains: EN 1993-1-1 5.3.3."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats

#: span of the bracing over its bow before α_m, (5.12)
BOW = 500.0
#: share of its stiffness that bracing must have left under what it restrains: growth by more than this is no state to rely on
LEAST = 0.1


def reduction(count: float) -> float:
    """α_m (5.12) of so many members to be restrained by one bracing system."""
    return float(np.sqrt(0.5 * (1 + 1 / max(count, 1.0))))


def flange_force(N: Floats, My: Floats, h: Floats | float) -> Floats:
    """N_Ed that the bracing stabilises, N: of the compressed flange M_Ed/h, and all of a compression of the member itself (5.3.3(3), which
    asks for a part of it: safe side, and right where it bends little).

    N: tension positive; My: either way; h: overall depth, m.
    """
    return np.asarray(np.abs(My) / h + np.maximum(-N, 0.0))


def stabilising(N: Floats, soft: Floats, L: Floats, count: float, moved: Floats) -> dict[str, Any]:
    """The equivalent stabilising force of (5.13), q_d = Σ 8 N_Ed (e_0 + δ_q)/L² by member, N/m, with the growth that δ_q brings.

    N: (k, c) compression of each restrained member under each combination, N; soft: (k,) how far the bracing moves under 1 N/m on each,
    m; L: (k,) span of the bracing, m; count: members to each bracing system; moved: (c,) how far it moves under everything else, m.
    Gives q (k, c), delta (c,), e0 (k,), alpha_m, and firm (c,): whether the bracing is stiff enough for (5.13) to mean anything.
    δ_q = moved + Σ soft q is solved with q, not repeated.
    """
    alpha = reduction(count)
    e0 = alpha * L / BOW
    share = 8 * N / L[:, None] ** 2
    grown = (soft[:, None] * share).sum(axis=0)
    left = 1 - grown
    firm = left >= LEAST
    delta = (moved + (soft[:, None] * share * e0[:, None]).sum(axis=0)) / np.maximum(left, LEAST)
    return {"q": share * (e0[:, None] + delta), "delta": delta, "e0": e0, "alpha_m": alpha, "firm": firm}
