"""Steel delivered otherwise than it is modelled: one member in several pieces, several members in one."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np

from engine.returned.axes import FIT
from engine.returned.model import ReturnedMember
from engine.structure.model import Bools, Floats

#: how far a piece may lie off the line that it is a piece of, metres
ON_LINE = 0.01


@dataclass
class Cut:
    """came: (members, 2, 3) with the pieces of a member as one; known: (members,) those that came, whole or in pieces; split: by member
    the distances from its start at which it is cut, and sections of its pieces; joined: by member the one whose steel it is part of; rest: what is none of all that."""

    came: Floats
    known: Bools
    split: dict[int, tuple[list[float], list[str]]] = field(default_factory=dict)
    joined: dict[int, int] = field(default_factory=dict)
    rest: list[ReturnedMember] = field(default_factory=list)


def put_together(axes: Floats, members: dict[int, ReturnedMember], others: list[ReturnedMember], came: Floats) -> Cut:
    """axes: (members, 2, 3) as sent; members: those that came, by number; others: what bears no identity of ours; came: axes as they came."""
    length = np.linalg.norm(axes[:, 1] - axes[:, 0], axis=1)
    way = (axes[:, 1] - axes[:, 0]) / length[:, None]
    known = np.zeros(len(axes), dtype=bool)
    known[list(members)] = True
    found = Cut(came.copy(), known)
    spans = np.einsum("mej,mj->me", came - axes[:, :1], way)
    whole = known & (np.ptp(spans, axis=1) >= length - 2 * FIT)
    pieces: dict[int, list[tuple[float, float, str]]] = defaultdict(list)
    for other in others:
        ends = np.array([other.start, other.end])
        along = np.einsum("ej,mj->me", ends, way) - np.einsum("mj,mj->m", axes[:, 0], way)[:, None]
        off = np.linalg.norm(ends - axes[:, :1] - along[..., None] * way[:, None], axis=2).max(axis=1)
        low, high = along.min(axis=1), along.max(axis=1)
        fits = ~whole & (off < ON_LINE) & (low > -FIT) & (high < length + FIT) & (high - low > FIT)
        if fits.any():
            i = int(np.argmax(fits))
            pieces[i].append((float(low[i]), float(high[i]), other.section))
        else:
            found.rest.append(other)
    for i, parts in pieces.items():
        own = [(float(spans[i].min()), float(spans[i].max()), members[i].section)] if i in members else []
        parts = sorted(parts + own)
        found.came[i] = axes[i, 0] + np.array([[parts[0][0]], [max(p[1] for p in parts)]]) * way[i]
        found.known[i] = True
        found.split[i] = [(a[1] + b[0]) / 2 for a, b in zip(parts[:-1], parts[1:], strict=True)], [p[2] for p in parts]
    _join(axes, found, way, length)
    return found


def _join(axes: Floats, found: Cut, way: Floats, length: Floats) -> None:
    """Members that did not come, but lie along one that did and reaches over them: they are one piece of steel."""
    for i in np.flatnonzero(~found.known).tolist():
        start = found.came[:, 0]
        own = found.came[:, 1] - start
        long = np.where(found.known, np.linalg.norm(own, axis=1), 1.0)
        direction = own / np.where(long > 0, long, 1.0)[:, None]
        along = np.einsum("mej,mj->me", axes[i][None] - start[:, None], direction)
        off = np.linalg.norm(axes[i][None] - start[:, None] - along[..., None] * direction[:, None], axis=2).max(axis=1)
        over = found.known & (off < ON_LINE) & (along.min(axis=1) > -FIT) & (along.max(axis=1) < long + FIT)
        over &= long > length + FIT
        if over.any():
            j = int(np.argmax(over))
            found.joined[i] = j
    for i, j in found.joined.items():
        found.came[i] = axes[i]
        # how far it reaches is known where it ends: its own ends within what was sent stay its own
        found.came[j] = axes[j]
        found.known[i] = True
