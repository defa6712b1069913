"""Least forces at joints: splices in compression, and members as ties, as rows beside the forces that act."""

from __future__ import annotations

from dataclasses import dataclass

from engine.chain import Chain
from engine.dossier.end_forces import LEAST, Place, end_values, ends_of, force_columns
from engine.dossier.meeting import Joint, Ranked, in_one_line
from engine.dossier.ties import horizontal_ties, vertical_ties
from engine.dossier.values import Cell, Column, Table
from engine.standards.family import family
from engine.structure.words import ROLE_WORDS


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
    asked, joints = family(chain.document).ties_asked(chain.document), [joint for _, own in ranked for joint in own]
    if asked.horizontal:
        clause = "EN 1991-1-7 A.5.1"
        for place, force in horizontal_ties(chain, joints):
            found.append((place, Least("as a tie, by itself", clause, (force, *[None] * 5))))
    if asked.vertical:
        clause = "EN 1991-1-7 A.6(2)"
        for place, force in vertical_ties(chain, joints):
            found.append((place, Least("as a vertical tie, by itself", clause, (force, *[None] * 5))))
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
