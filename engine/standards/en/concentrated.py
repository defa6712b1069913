"""The concentrated load of each category of use (EN 1991-1-1 6.2.1(3)): it acts alone, anywhere on a floor or roof, for the least resistance of
what lies below it. Beams whose imposed load does not outdo it bear it in cases of their own, many of them at once where they do not touch."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass, field

import numpy as np

from engine.actions.cases import Case, LineTable, Loading, PointLoad
from engine.actions.panels import DOWN
from engine.document.national import ImposedValues
from engine.structure.model import Bools, Floats, Ints, Member, Structure
from engine.structure.runs import lying
from engine.structure.words import label

#: share of the imposed load on a span up to which concentrated loads ask for less at every place: hinged at both ends (from M = Q x (L − x)/L
#: below q x (L − x)/2, and shear alike), and else (clamped: Q L/8 below q L²/24)
OUTDONE, OUTDONE_RIGID = 1 / 2, 1 / 3
#: cosine of the kink up to which a member goes on in the next one
ONWARD = 0.8
#: levels of beams on beams that are followed
DEEP = 4
#: what counts as no load, N
NONE = 1.0
#: categories of traffic, whose concentrated load is that of an axle (table 6.8)
AXLES = ("F", "G")
#: members that a case names
NAMED = 3


@dataclass(frozen=True)
class Stand:
    """A place of a concentrated load: on a member by its number, m from its start, and in words."""

    member: int
    at: float
    words: str


def concentrated(category: str, values: ImposedValues) -> float:
    """Q_k of a category of use, N: EN 1991-1-1 tables 6.2, 6.4, 6.8 and 6.10, or as the document sets it."""
    return float(getattr(values, f"concentrated_{category}")) * 1000


def add_concentrated(loading: Loading, structure: Structure, values: ImposedValues) -> None:
    """Cases of concentrated loads wherever the imposed load does not outdo them; they act with no other variable case."""
    cases = {k: case.category for k, case in enumerate(loading.cases) if case.nature == "imposed" and case.category}
    if not cases:
        return
    lies = lying(structure)
    onto = _onto(structure, lies)
    number = 0
    for category, borne in _borne(loading, structure, cases, lies, onto).items():
        Q = concentrated(category, values)
        bears = np.zeros(len(borne))
        for i in np.flatnonzero(borne > NONE).tolist():
            bears[i] = borne[i] * _share(structure, lies, i)
        short = np.flatnonzero((borne > NONE) & (bears < Q - NONE))
        places: dict[str, list[Stand]] = defaultdict(list)
        for i in short.tolist():
            for at, words in _places(structure, lies, i):
                places[words].append(Stand(i, at, words))
        axle = ", the whole axle at one place" if category in AXLES else ""
        for words, stands in places.items():
            for apart in _apart(structure, onto, stands, Q, bears):
                number += 1
                names = [label(structure.members[s.member]) for s in apart]
                more = f" and {len(names) - NAMED} more" if len(names) > NAMED else ""
                case = Case(
                    f"Concentrated loads {number}, category {category}, {words}",
                    f"Qk{number}",
                    "imposed",
                    note=f"on {', '.join(names[:NAMED])}{more}{axle}; without any other variable action (EN 1991-1-1 6.2.1(3))",
                    category=category,
                    alone=True,
                )
                which = loading.add_case(case)
                force = Q * np.array(DOWN)
                loading.points += [
                    PointLoad(which, force, np.zeros(3), structure.members[s.member].name, s.at) for s in apart
                ]
                loading.expected[which] = loading.expected[which] + len(apart) * force


def _share(structure: Structure, lies: Bools, i: int) -> float:
    """Share of what a member bears of the imposed load up to which a concentrated load on it is outdone; one section all along: what its longest
    span bears speaks for the shorter ones."""
    m = structure.members[i]
    if len(m.nodes) == 2:
        return OUTDONE if _simple(m) else OUTDONE_RIGID
    spans = _spans(structure, lies, i)
    if len(spans) == 2:
        return OUTDONE if _simple(m) else OUTDONE_RIGID
    each = np.diff(spans)
    return OUTDONE_RIGID * float(each.min() if m.pieces else each.max()) / float(spans[-1])


def _apart(structure: Structure, onto: Ints, stands: list[Stand], Q: float, bears: Floats) -> list[list[Stand]]:
    """What stands on members that do not touch, in as few parts as come of taking each in turn: none shares a node or a member with another, but for
    beams that they all end on, which bear several as long as the imposed load outdoes these together."""
    below: dict[int, list[int]] = defaultdict(list)
    for i, other in onto.tolist():
        below[other].append(i)
    parts: list[_Part] = []
    for stand in stands:
        m = structure.members[stand.member]
        there = stand.at / structure.length(m)
        passed = {
            c: Q * (1 - there if m.nodes[0] in structure.members[c].nodes else there) for c in below[stand.member]
        }
        touches = {k for node in m.nodes for k in structure.meeting[node]} - passed.keys()
        for part in parts:
            if part.takes(touches, passed, bears):
                break
        else:
            part = _Part()
            parts.append(part)
        part.stands.append(stand)
        part.touched |= touches
        for c, force in passed.items():
            part.borne[c] += force
    return [part.stands for part in parts]


@dataclass
class _Part:
    """What stands at once, what it touches, and what it brings by number to beams on which several end, N."""

    stands: list[Stand] = field(default_factory=list)
    touched: set[int] = field(default_factory=set)
    borne: dict[int, float] = field(default_factory=lambda: defaultdict(float))

    def takes(self, touches: set[int], passed: dict[int, float], bears: Floats) -> bool:
        free = not touches & (self.touched | self.borne.keys()) and not passed.keys() & self.touched
        return free and all(self.borne[c] + force <= bears[c] for c, force in passed.items())


def _down(table: LineTable, on: Bools, count: int) -> Floats:
    """(members,) N downwards of some line loads."""
    force = -(table.first + table.last)[on, 2] / 2 * (table.end - table.start)[on]
    return np.asarray(np.bincount(table.member[on], force, count), dtype=float)


def _onto(structure: Structure, lies: Bools) -> Ints:
    """(k, 2) numbers of what lies and of what lies and ends on it, between its ends."""
    ends = structure.ends.tolist()
    found = [
        (i, other)
        for i in np.flatnonzero(lies).tolist()
        for node in structure.members[i].nodes[1:-1]
        for other in structure.meeting[node]
        if other != i and lies[other] and node in ends[other]
    ]
    return np.array(found, dtype=np.int64).reshape(-1, 2)


def _borne(loading: Loading, structure: Structure, cases: dict[int, str], lies: Bools, onto: Ints) -> dict[str, Floats]:
    """category -> (members,) N: the most that what lies bears of the imposed load of any case, by itself and by beams that end on it. cases:
    categories by number."""
    table, count = loading.table(structure), len(structure.members)
    found: dict[str, Floats] = {}
    for k, category in cases.items():
        own = _down(table, table.case == k, count)
        total = own
        for _ in range(DEEP):
            total = own + np.bincount(onto[:, 0], total[onto[:, 1]] / 2, count)
        total = np.where(lies, total, 0.0)
        found[category] = np.maximum(found[category], total) if category in found else total
    return found


def _spans(structure: Structure, lies: Bools, i: int) -> Floats:
    """Distances (k,) along a member of its ends and of what carries it between them: supports, what stands there, and what passes."""
    m = structure.members[i]

    def carries(node: int) -> bool:
        others = [k for k in structure.meeting[node] if k != i and not structure.members[k].bar]
        return bool(structure.fixed[node, 2] or structure.springs[node, 2]) or any(
            not lies[k] or node not in structure.ends[k] for k in others
        )

    at = [m.nodes[0], *(node for node in m.nodes[1:-1] if carries(node)), m.nodes[-1]]
    return np.asarray(np.linalg.norm(structure.xyz[at] - structure.xyz[m.nodes[0]], axis=1))


def _simple(m: Member) -> bool:
    """Whether it is hinged at both ends in the plane in which it bends."""
    return "ry" in m.release_start and "ry" in m.release_end


def _places(structure: Structure, lies: Bools, i: int) -> list[tuple[float, str]]:
    """Where on a member it stands, m and in words: in the middle of its longest span, and for shear a depth beside its ends; at an end that is free
    or goes on in another member without a hinge, there. One end stands for both where it is hinged at both."""
    m, spans = structure.members[i], _spans(structure, lies, i)
    k = int(np.argmax(np.diff(spans)))
    middle = "in the middle" if len(spans) == 2 else "in the middle of its longest span"
    found = [(float(spans[k] + spans[k + 1]) / 2, middle)]
    for at, word, node, release in (
        (0.0, "start", m.nodes[0], m.release_start),
        (spans[-1], "end", m.nodes[-1], m.release_end),
    ):
        if at and _simple(m):
            break
        held = structure.fixed[node, 2] or structure.springs[node, 2]
        beside = min(m.section.h, float(np.diff(spans).min()) / 4)
        if len(structure.meeting[node]) == 1 and not held:
            found.append((float(at), f"at its free {word}"))
        elif "ry" not in release and not held and _goes_on(structure, i, node):
            found.append((float(at), f"at its {word}"))
        else:
            found.append((abs(float(at) - beside), f"beside its {word}"))
    return found


def _goes_on(structure: Structure, i: int, node: int) -> bool:
    """Whether nothing but members that it goes on in meet a member at an end."""
    meeting = structure.ends[list(structure.meeting[node])]
    own, *ways = np.diff(structure.xyz[np.concatenate([structure.ends[[i]], meeting])], axis=1)[:, 0]
    return all(abs(float(own @ way)) > ONWARD * np.linalg.norm(own) * np.linalg.norm(way) for way in ways)
