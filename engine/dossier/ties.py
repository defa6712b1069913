"""What must hold a building together where a part of it is gone: beams and trusses as ties along floors and roofs, columns as ties upwards."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.dossier.end_forces import Place, ends_of
from engine.dossier.meeting import Joint, in_one_line, joints_of
from engine.standards.family import family
from engine.structure.model import Floats

#: roles that may tie columns together by themselves, those of trusses, which do as a whole, and their chords
TYING = ("main beam", "joist", "rafter", "eaves beam", "ridge beam", "strut", "tie", "member")
TRUSS, CHORDS = ("top chord", "bottom chord", "web"), ("top chord", "bottom chord")


def horizontal_ties(chain: Chain, joints: list[Joint]) -> list[tuple[Place, float]]:
    """Ends of beams, and of the chords of trusses, at columns, with the tension that they bear as horizontal ties, N (EN 1991-1-7 A.5.1): by what lies on
    the beam, or on the truss."""
    members = chain.structure.members
    at_columns = [joint for joint in joints if any(members[r.member].role == "column" for r in joint.members)]
    places = [place for place in ends_of(at_columns) if members[place[1].member].role in (*TYING, *CHORDS)]
    if not places:
        return []
    whole, trusses = _whole(chain), _trusses(chain)
    own = [place for place in places if place[1].member not in trusses]
    lines = [whole.get(row.member, [row.member]) for _, row in own]
    every = sorted({m for line in lines for m in line})
    each = dict(zip(every, _weight(chain, every), strict=True)) if every else {}
    on = [sum((each[m] for m in line), np.zeros(len(chain.loading.cases))) for line in lines]
    chords = [place for place in places if place[1].member in trusses]
    borne = dict.fromkeys(trusses.values(), np.zeros(len(chain.loading.cases)))
    # webs that end at a column put their share on it too
    every_end = [place for place in ends_of(at_columns) if place[1].member in trusses]
    for (_, row), force in zip(every_end, _handed_on(chain, every_end), strict=True):
        borne[trusses[row.member]] = borne[trusses[row.member]] + force
    on += [borne[trusses[row.member]] for _, row in chords]
    forces = family(chain.document).ties(chain.document, chain.loading.cases, np.array(on))
    return [(place, float(force)) for place, force in zip([*own, *chords], forces, strict=True)]


def _trusses(chain: Chain) -> dict[int, int]:
    """Members of trusses, each with a number of its truss: chords and webs that meet."""
    structure = chain.structure
    found: dict[int, int] = {}
    for first, m in enumerate(structure.members):
        if m.role not in TRUSS or first in found:
            continue
        waiting = [first]
        while waiting:
            i = waiting.pop()
            if i in found:
                continue
            found[i] = first
            for node in structure.members[i].nodes:
                waiting += [j for j in structure.meeting.get(node, ()) if structure.members[j].role in TRUSS]
    return found


def _handed_on(chain: Chain, places: list[Place]) -> list[Floats]:
    """(cases,) N that each of some ends puts on its joint, downwards."""
    elements = chain.response.elements
    cases = (np.arange(len(chain.loading.cases)) + len(chain.combinations)).tolist()
    handed: list[Floats] = []
    for _, row in places:
        rows = elements.rows(row.member)
        k = int(rows[0] if row.where == "start" else rows[-1])
        found = chain.combined.diagrams(cases, np.array([k]))
        at = 0 if row.where == "start" else -1
        # what acts on the face towards the end
        forces = np.stack([found.N[0, at], -found.Vy[0, at], -found.Vz[0, at]])
        down: Floats = elements.axes[k][:, 2] @ forces
        handed.append(-down if row.where == "start" else down)
    return handed


def _whole(chain: Chain) -> dict[int, list[int]]:
    """Members that are one tie together: rafters that meet at an apex, and pieces that are spliced."""
    members = chain.structure.members
    found: dict[int, list[int]] = {}
    for joint in joints_of(chain.structure):
        ends: dict[str, list[int]] = {}
        for row in joint.members:
            role = members[row.member].role
            if row.where != "through" and (role == "rafter" if joint.kind == "apex" else joint.kind == "splice"):
                ends.setdefault(role, []).append(row.member)
        for own in ends.values():
            line = sorted({m for member in own for m in found.get(member, [member])})
            found.update(dict.fromkeys(line, line))
    return found


def _weight(chain: Chain, members: list[int]) -> Floats:
    """(m, cases) N that lies on members, downwards, with what others put on them between their ends: what their shear changes by."""
    elements = chain.response.elements
    rows = [elements.rows(member) for member in members]
    # each member with its elements one after the other
    last = np.cumsum([len(own) for own in rows]) - 1
    first = np.concatenate([[0], last[:-1] + 1])
    down = elements.axes[[own[0] for own in rows]][:, :, 2]
    cases = np.arange(len(chain.loading.cases)) + len(chain.combinations)
    found = chain.combined.diagrams(cases.tolist(), np.concatenate(rows))
    # V = dM/dx with tension on the −y and −z side: what acts on the face is its opposite
    forces = np.stack([found.N, -found.Vy, -found.Vz])
    step = forces[:, last, -1] - forces[:, first, 0]
    change: Floats = np.einsum("ma,amc->mc", down, step)
    return change


def vertical_ties(chain: Chain, joints: list[Joint]) -> list[tuple[Place, float]]:
    """Ends of columns at their splices with the tension that they bear as vertical ties, N: the largest that one storey puts on the column, of all nodes
    at which beams meet it, under all combinations for strength (EN 1991-1-7 A.6(2); those are no less than what the accidental ones give)."""
    members = chain.structure.members
    splices = []
    for joint in joints:
        places = [(j, row) for j, row in ends_of([joint]) if members[row.member].role == "column"]
        if len(places) == 2 and in_one_line(chain.structure, places[0][1].member, places[1][1].member):
            splices.append(places)
    if not splices:
        return []
    lines = _lines([(one[0][1].member, one[1][1].member) for one in splices])
    most = {line: _heaviest(chain, line) for line in set(lines.values())}
    return [(place, most[lines[place[1].member]]) for places in splices for place in places]


def _lines(pairs: list[tuple[int, int]]) -> dict[int, tuple[int, ...]]:
    """Members that go on in one another, each with all of them."""
    found: dict[int, tuple[int, ...]] = {}
    for a, b in pairs:
        line = tuple(sorted({*found.get(a, (a,)), *found.get(b, (b,))}))
        found.update(dict.fromkeys(line, line))
    return found


def _heaviest(chain: Chain, line: tuple[int, ...]) -> float:
    """The most that the beams at one node put on a line of columns, N: what it bears more below than above."""
    structure, elements = chain.structure, chain.response.elements
    rows = np.concatenate([elements.rows(member) for member in line])
    ends = elements.ends[rows]
    nodes = [
        node
        for node in np.unique(ends).tolist()
        if any(structure.members[i].role in (*TYING, *CHORDS) for i in structure.meeting.get(node, ()) if i not in line)
    ]
    if not nodes:
        return 0.0
    found = chain.combined.diagrams(chain.verification.strength, rows)
    # compression downwards, at the start and the end of each element
    up = np.sign(elements.axes[rows, 0, 2])
    pressed: Floats = -np.stack([found.N[:, 0], found.N[:, -1]], axis=1)
    most = 0.0
    for node in nodes:
        step = np.zeros(pressed.shape[2])
        for end in (0, 1):
            at = np.flatnonzero(ends[:, end] == node)
            # an element that begins here and rises bears what stands above
            above = up[at] > 0 if end == 0 else up[at] < 0
            step += (np.where(above, -1.0, 1.0)[:, None] * pressed[at, end]).sum(axis=0)
        most = max(most, float(step.max()))
    return most
