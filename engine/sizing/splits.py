"""Splits of a group by place: what fabricators and erectors would call apart anyway."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Sequence

import numpy as np

from engine.document.sizing import ApartBy
from engine.structure.model import Member, Structure

#: members whose lengths differ by less than this share are as long
AS_LONG = 0.15
#: upper ends whose heights step by less than this are at one level, m
AS_HIGH = 1.5

#: heights this near are the same, m
NEAR = 1e-6

#: a part's words, "" for what keeps the name of the group
Parts = dict[str, list[int]]


def split(structure: Structure, members: Sequence[int], by: ApartBy) -> Parts:
    """Members, by index, in parts by their words; the largest keeps the group's name. One part where they are alike in this."""
    found: dict[str, list[int]] = defaultdict(list)
    for i, words in zip(members, _WORDS[by](structure, [structure.members[i] for i in members]), strict=True):
        found[words].append(i)
    if len(found) < 2:
        return {"": list(members)}
    usual = max(found, key=lambda words: (words == "", len(found[words])))
    return {("" if words == usual else words): own for words, own in found.items()}


def may_split(structure: Structure, members: Sequence[int]) -> list[ApartBy]:
    """By what a group can be split."""
    return [by for by in _WORDS if len(split(structure, members, by)) > 1]


def _ends(structure: Structure, members: list[Member]) -> list[str]:
    """The first and the last frame of a hall apart, where there are others between."""
    last = max((m.frame for m in structure.members if m.frame), default=0)
    inner = any(1 < m.frame < last for m in members)
    return ["end frames" if inner and last > 2 and m.frame in (1, last) else "" for m in members]


def _levels(structure: Structure, members: list[Member]) -> list[str]:
    """By the storey in which members have their upper ends."""
    tops = np.array([structure.xyz[[m.nodes[0], m.nodes[-1]], 2].max() for m in members])
    order = np.sort(tops)
    last = np.append(order[:-1][np.diff(order) > AS_HIGH], order[-1])
    words = []
    for top in last.tolist():
        level = min(structure.levels, key=lambda one: abs(one.height - top), default=None)
        near = level is not None and abs(level.height - top) <= AS_HIGH / 2
        words.append(f"at {level.name}" if near and level else f"up to {top:.2f} m")
    # two steps between the same levels
    if len(set(words)) < len(words):
        words = [f"up to {top:.2f} m" for top in last.tolist()]
    return [words[k] for k in np.searchsorted(last, tops - NEAR)]


def _bays(structure: Structure, members: list[Member]) -> list[str]:
    """Rafters and chords by the bay across that they are of; columns in the outer lines, and those between."""
    lines = sorted({m.line for m in structure.members if m.line})
    outer = {*lines[:1], *lines[-1:]}
    return [
        f"bay {m.bay}" if m.bay else ("outer lines" if m.line in outer else "inner lines") if m.line else ""
        for m in members
    ]


def _lengths(structure: Structure, members: list[Member]) -> list[str]:
    """The long and the short, at the largest step between lengths."""
    lengths = [structure.length(m) for m in members]
    order = sorted(lengths)
    steps = [(b / a, (a * b) ** 0.5) for a, b in zip(order, order[1:], strict=False) if a > 0]
    step, border = max(steps, default=(1.0, 0.0))
    return ["long" if length > border else "short" for length in lengths] if step > 1 + AS_LONG else [""] * len(members)


_WORDS: dict[ApartBy, Callable[[Structure, list[Member]], list[str]]] = {
    "end frames": _ends,
    "levels": _levels,
    "bays": _bays,
    "lengths": _lengths,
}
