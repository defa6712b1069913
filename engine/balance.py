"""The balance of each case: what was expected, what was applied, what the supports give back."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.actions.cases import Loading
from engine.analysis.solve import Response
from engine.structure.model import Floats

#: relative difference beyond which a case is flagged
TOLERANCE = 1e-3


@dataclass(frozen=True)
class Balance:
    """Resultants in N along X, Y, Z. expected: from surfaces and masses; applied: from the loads on members and nodes;
    reacted: what the supports take, with the sign of the load. off: largest relative difference.
    """

    expected: Floats
    applied: Floats
    reacted: Floats
    off: float

    @property
    def holds(self) -> bool:
        """Whether the three agree within 0.1 %."""
        return self.off <= TOLERANCE


def balances(loading: Loading, response: Response) -> list[Balance]:
    """One balance a case."""
    cases = len(loading.cases)
    applied = np.zeros((cases, 3))
    loads = response.loads
    if len(loads.line):
        mean = loads.q.mean(axis=1) * (loads.span[:, 1] - loads.span[:, 0])[:, None]
        axes = response.elements.axes[loads.line[:, 0]]
        np.add.at(applied, loads.line[:, 1], np.einsum("nij,ni->nj", axes, mean))
    for point in loading.points:
        applied[point.case] += point.force
    reacted = -response.reaction[:, :3].sum(axis=0).T
    found = []
    for i in range(cases):
        expected = loading.expected[i]
        scale = max(float(np.linalg.norm(expected)), float(np.linalg.norm(applied[i])), 1e-6)
        off = max(np.abs(expected - applied[i]).max(), np.abs(applied[i] - reacted[i]).max()) / scale
        found.append(Balance(expected, applied[i], reacted[i], float(off)))
    return found
