"""What a support becomes where it is turned or mirrored with what stands on it."""

from __future__ import annotations

from itertools import product

import numpy as np

from engine.document.byhand import SupportInput
from engine.editing.work import vector
from engine.errors import ModelError
from engine.structure.model import FREEDOMS, Floats


def turned_support(support: SupportInput, turned: Floats) -> SupportInput:
    """A support as it holds once it is turned or mirrored; turned: (3, 3), what becomes of a direction. Its settlement goes along. Raises
    ModelError naming the node where no support says what it would become."""
    angle = np.radians(support.turn)
    own = np.array([[np.cos(angle), -np.sin(angle), 0.0], [np.sin(angle), np.cos(angle), 0.0], [0.0, 0.0, 1.0]])
    axes = turned @ own
    found = support.model_copy(update={"settlement": vector(turned @ np.array(support.settlement))}, deep=True)
    presses = {FREEDOMS.index(f) for f in support.one_way}
    if abs(axes[2, 2]) > 1 - 1e-9:
        if axes[2, 2] < 0 and (presses - {0, 1} or support.footing):
            raise _refused(support, "it would push down")
        # mirrored one of its level axes points the other way than the other one would have it
        mirrored = np.linalg.det(axes) * np.sign(axes[2, 2]) < 0
        if mirrored and {0, 1} <= presses:
            raise _refused(support, "it pushes both ways level")
        x = axes[:, 0] * (-1.0 if mirrored and 1 in presses else 1.0)
        turn = float(np.degrees(np.arctan2(x[1], x[0])))
        found.turn = round(turn % (360 if presses & {0, 1} else 180), 9)
        return found
    found.turn = 0.0
    if _holds_alike(support):
        return found
    swapped = np.round(np.abs(axes))
    if np.abs(np.abs(axes) - swapped).max() > 1e-9:
        raise _refused(support, "its axes would lie askew")
    if support.footing or any(axes[:, f % 3].sum() < 0 for f in presses):
        raise _refused(support, "it would lie on its side" if support.footing else "it would push the other way")
    to = {FREEDOMS[i + k]: FREEDOMS[int(swapped[:, i].argmax()) + k] for i, k in product(range(3), (0, 3))}
    held = {
        "fixed": [f for f in FREEDOMS if f in {to[held] for held in support.fixed}],
        "springs": {to[f]: k for f, k in support.springs.items()},
        "one_way": [to[f] for f in support.one_way],
    }
    return SupportInput.model_validate(found.model_dump() | held)


def _holds_alike(support: SupportInput) -> bool:
    """Whether it holds along all axes alike, and about all of them."""
    if support.one_way or support.footing:
        return False
    springs: dict[str, float] = {str(f): k for f, k in support.springs.items()}
    held = [(f in support.fixed, springs.get(f, 0.0)) for f in FREEDOMS]
    return len(set(held[:3])) == len(set(held[3:])) == 1


def _refused(support: SupportInput, why: str) -> ModelError:
    return ModelError(
        f"The support of “{support.node}” cannot be copied so: {why}. Copy without supports, and state one there.",
        "supports",
    )
