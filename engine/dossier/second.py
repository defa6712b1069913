"""A second figure for what governs, found in another way: no number is to stand on one method alone without saying so."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.dossier.around import followed
from engine.dossier.braced import stretched
from engine.report import modes
from engine.verification.checks import Second
from engine.verification.outcomes import Outcome

#: a beam that rises more than this deflects along its axis too: sine of its slope
LEVEL = 0.05
#: what moves across by less, as a share of what moves along, adds next to nothing to both together
LITTLE = 0.05
#: difference above which it is said why
NEAR = 0.10


def second(chain: Chain, member: int, outcome: Outcome) -> Second | None:
    """The figure of another method for an outcome; None where there is no other method here."""
    if outcome.criterion in ("deflection", "variable", "imposed", "lasting", "frequency"):
        return _integrated(chain, outcome)
    if outcome.criterion == "sway":
        return _around(chain, outcome)
    if outcome.criterion == "critical":
        return _finer(chain, outcome)
    return chain.verification.checks.second(member, outcome)


def _integrated(chain: Chain, outcome: Outcome) -> Second | None:
    """Curvature from the moments, integrated twice between the supports: without the stiffness matrix, and without shear."""
    verification, elements = chain.verification, chain.response.elements
    stretch = verification.stretches[outcome.row]
    rows = np.sort(stretch.rows)
    ends = chain.structure.xyz[[stretch.start, stretch.end]]
    rise = abs(ends[1, 2] - ends[0, 2])
    if (
        stretch.start == stretch.end
        or len(stretch.members) != 1
        or rise > LEVEL * stretch.length
        or stretch.way != "down"
    ):
        return None
    member = chain.structure.members[stretch.members[0]]
    if {stretch.start, stretch.end} != {member.nodes[0], member.nodes[-1]}:
        return None
    along = chain.combined.diagrams([verification.used(outcome.criterion)[outcome.combination]])
    x = elements.positions(along.x, rows)
    # between two stations a cubic through the moments with their slopes, the shear
    M, V = (values[rows, :, 0] / elements.EIy[rows][:, None] for values in (along.My, along.Vz))
    h, a, b = np.diff(x), (slice(None), slice(None, -1)), (slice(None), slice(1, None))
    gained = h / 2 * (M[a] + M[b]) + h**2 / 12 * (V[a] - V[b])
    fallen = h**2 * (7 * M[a] + 3 * M[b]) / 20 + h**3 * (V[a] / 20 - V[b] / 30)
    slope = np.concatenate([[0.0], np.cumsum(gained.ravel())])
    moved = np.concatenate([[0.0], np.cumsum(slope[:-1] * h.ravel() + fallen.ravel())])
    x = np.concatenate([x[0, :1], x[:, 1:].ravel()])
    chord = moved[0] + (moved[-1] - moved[0]) * (x - x[0]) / (x[-1] - x[0])
    found = float(np.abs(moved - chord).max()) * stretch.ratio / stretch.length
    return Second(
        "moments integrated twice", found, "shear of the web, supports that move and bending sideways are left out"
    )


def _finer(chain: Chain, outcome: Outcome) -> Second | None:
    """The critical factor on a mesh of its own, with further nodes within the members."""
    found = modes.buckling(chain, chain.verification.strength[outcome.combination])
    if not found or found[0][0].value <= 0:
        return None
    return Second(
        "eigenvalue on a finer mesh", 1 / found[0][0].value, "members that bend between their nodes buckle at less"
    )


def _around(chain: Chain, outcome: Outcome) -> Second | None:
    """The sway by what the frame bends, stretches and shears by, followed around from one support to another; of a braced row by what its bars
    stretch."""
    verification = chain.verification
    stretch = verification.stretches[outcome.row]
    number = verification.used(outcome.criterion)[outcome.combination]
    words = "nothing but what leaves the plane of the frame is left out"
    displacement = chain.combined.displacement([number])[..., 0]
    moved = np.abs(displacement[stretch.end, :2] - displacement[stretch.start, :2])
    methods: list[str] = []
    found = 0.0
    for axis in np.argsort(-moved).tolist():
        if methods and moved[axis] < LITTLE * moved.max():
            continue
        own, method = followed(chain, stretch, number, axis), "curvatures followed around the frame"
        if own is None:
            own, method = stretched(chain, stretch, number, axis), "what the bars of the row stretch, laid together"
        if own is None:
            return None
        methods.append(method)
        found = float(np.hypot(found, own))
    return Second("; ".join(dict.fromkeys(methods)), found * stretch.ratio / stretch.length, words)


def differs(first: float, other: float) -> float:
    """By how much another figure differs, as a share of the first."""
    return (other - first) / first if first else 0.0
