"""What holds members sideways between their ends without being a member: purlins, rails, stays.

A restraint keeps a place of a member on the straight line between the member's ends, sideways (local y); the line itself moves
with its ends. In the linear analysis it does nothing: loads go their way through steel alone. In second order and in
buckling it resists what moves beyond the first order. It is as stiff as STIFF times the member is along: what it must be
able to take is a check of its own. A flange held alone still lets the member turn about it: that is a check of the member
(EN 1993-1-1 6.3.1.4, BB.3).
"""

from __future__ import annotations

import numpy as np
from scipy.sparse import csc_array, csr_array

from engine.analysis.elements import Elements
from engine.structure.axes import local_axes
from engine.structure.model import Structure

#: stiffness of a restraint beside EA/L of the member between its neighbours
STIFF = 10.0
#: places nearer than this are one, in metres
SAME = 1e-3


def places(structure: Structure, member: int) -> list[float]:
    """Where a member is held sideways between its ends, m from its start, either flange."""
    m, length = structure.members[member], structure.length(structure.members[member])
    if m.bar or m.behaviour == "rigid link":
        return []
    found: list[float] = []
    for x in sorted({*m.outer, *m.inner}):
        if SAME < x < length - SAME and (not found or x - found[-1] > SAME):
            found.append(x)
    return found


def rows(structure: Structure, elements: Elements) -> csr_array:
    """(k, 6 n) of all restraints at nodes: movement off the line between the member's ends, times the root of the stiffness.
    Global axes."""
    row: list[int] = []
    column: list[int] = []
    value: list[float] = []
    count = 0
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    for i, m in enumerate(structure.members):
        if len(m.nodes) < 3 or (len(m.outer) < 3 and len(m.inner) < 3):
            continue
        at = structure.xyz[list(m.nodes)]
        along = np.linalg.norm(at - at[0], axis=1)
        held = places(structure, i)
        aside = local_axes(at[:1], at[-1:], np.array([m.roll]))[0, 1]
        for node, x in zip(m.nodes[1:-1], along[1:-1].tolist(), strict=True):
            if not any(abs(x - place) < SAME for place in held):
                continue
            share = x / along[-1]
            root = np.sqrt(STIFF * elements.EA[first[i]] / elements.length[first[i] : first[i + 1]].min())
            for other, weight in ((node, 1.0), (m.nodes[0], share - 1.0), (m.nodes[-1], -share)):
                row += [count] * 3
                column += [6 * other, 6 * other + 1, 6 * other + 2]
                value += (root * weight * aside).tolist()
            count += 1
    return csr_array((value, (row, column)), shape=(count, structure.fixed.size))


def stiffness(structure: Structure, elements: Elements) -> csc_array | None:
    """(6 n, 6 n) of all restraints at nodes, global axes; None where there are none."""
    found = rows(structure, elements)
    return csc_array(found.T @ found) if found.shape[0] else None
