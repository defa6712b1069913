"""Least forces at joints: splices in compression, and members as ties, as rows beside the forces that act."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.chain import Chain
from engine.dossier.end_forces import LEAST, Place, end_values, ends_of, force_columns
from engine.dossier.meeting import Joint, Ranked, in_one_line, joints_of
from engine.dossier.values import Cell, Column, Table
from engine.standards.family import family
from engine.structure.model import Floats
from engine.structure.words import ROLE_WORDS

#: roles that may tie columns together
TYING = ("main beam", "joist", "rafter", "eaves beam", "ridge beam", "strut", "tie", "member")


@dataclass(frozen=True)
class Least:
    """What an end must bear at least: in words, the clause, and N, V_y, V_z, T, M_y, M_z in N and Nm, None where nothing is asked."""

    words: str
    clause: str
    forces: tuple[float | None, ...]

    @property
    def cells(self) -> tuple[Cell, ...]:
        """Its forces in kN and kNm."""
        return tuple(None if force is None else force / 1000 for force in self.forces)


#: an end at a joint: its node, its member, and "start" or "end"
End = tuple[int, int, str]


def end_of(place: Place) -> End:
    """The end that a place is."""
    joint, row = place
    return joint.node, row.member, row.where


def least_forces(chain: Chain, ranked: Ranked) -> dict[End, list[Least]]:
    """What the ends at joints must bear at least, where a standard asks for it."""
    if not chain.verification.strength:
        return {}
    found = [row for (kind, _), own in ranked for row in _splices(chain, own, kind)]
    if family(chain.document).ties_asked(chain.document)[0]:
        found += _ties(chain, [joint for _, own in ranked for joint in own])
    by_end: dict[End, list[Least]] = {}
    for place, least in found:
        by_end.setdefault(end_of(place), []).append(least)
    return by_end


def least_table(chain: Chain, number: int, joints: list[Joint], asked: dict[End, list[Least]]) -> Table | None:
    """The largest of them over the joints of a kind, by role, section and clause; None where nothing is asked."""
    members = chain.structure.members
    most: dict[tuple[str, str], tuple[Joint, Least]] = {}
    for place in ends_of(joints):
        m = members[place[1].member]
        for least in asked.get(end_of(place), ()):
            key = f"{ROLE_WORDS[m.role][0]} {m.section.name}", least.clause
            before = most.get(key)
            if before is None or _size(least) > _size(before[1]):
                most[key] = place[0], least
    if not most:
        return None
    rows = tuple(
        (f"J{number}", end, least.words, chain.structure.nodes[joint.node], clause, *least.cells)
        for (end, clause), (joint, least) in most.items()
    )
    columns = (
        Column("kind"),
        Column("end of", wide=True),
        Column("at least", wide=True),
        Column("joint"),
        Column("clause", wide=True),
    )
    return Table("least forces", columns + force_columns(), rows)


def _size(least: Least) -> float:
    return max(abs(force) for force in least.forces if force is not None)


def _splices(chain: Chain, joints: list[Joint], kind: str) -> list[tuple[Place, Least]]:
    """Splices at which a combination for strength compresses a member: joints that are nothing else, and columns that go on where beams meet them."""
    members = chain.structure.members
    found: list[tuple[Place, Least]] = []
    for joint in joints:
        places = [(j, row) for j, row in ends_of([joint]) if kind == "splice" or members[row.member].role == "column"]
        if len(places) != 2 or not in_one_line(chain.structure, places[0][1].member, places[1][1].member):
            continue
        forces = end_values(chain, places)
        compression = float(-forces[0].min())
        if compression < LEAST:
            continue
        parts = [(members[row.member].section, members[row.member].material) for _, row in places]
        own = family(chain.document).splice(chain.document, parts, compression)
        for place in places:
            shear = own.shear
            found.append(
                (
                    place,
                    Least(
                        "ends not in full contact", own.clause, (None, shear, shear, None, own.moment_y, own.moment_z)
                    ),
                )
            )
            found.append((place, Least("ends in full contact", own.bearing_clause, (-own.bearing, *[None] * 5))))
    return found


def _ties(chain: Chain, joints: list[Joint]) -> list[tuple[Place, Least]]:
    """Ends of beams at columns."""
    members = chain.structure.members
    places = [
        (joint, row)
        for joint in joints
        if any(members[r.member].role == "column" for r in joint.members)
        for row in joint.members
        if row.where != "through" and members[row.member].role in TYING
    ]
    if not places:
        return []
    whole = _whole(chain)
    lines = [whole.get(row.member, [row.member]) for _, row in places]
    every = sorted({m for line in lines for m in line})
    each = dict(zip(every, _weight(chain, every), strict=True))
    on = np.array([sum(each[m] for m in line) for line in lines])
    forces = family(chain.document).ties(chain.document, chain.loading.cases, on)
    return [
        (place, Least("as a tie, by itself", "EN 1991-1-7 A.5.1", (float(force), *[None] * 5)))
        for place, force in zip(places, forces, strict=True)
    ]


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
