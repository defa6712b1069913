"""Forces at the ends of members that meet in joints: the extremes, each with what acts at the same time."""

from __future__ import annotations

from collections import defaultdict

import numpy as np

from engine.analysis.diagrams import FORCES
from engine.chain import Chain
from engine.dossier.meeting import Joint, Meeting
from engine.dossier.values import Cell, Column, Table
from engine.structure.model import Floats
from engine.structure.words import ROLE_WORDS

SYMBOLS = ("N", "V_y", "V_z", "T", "M_y", "M_z")
#: a force below this is none, N or Nm
LEAST = 50.0
#: what is sought: words, number of the force, and how its values are ranked
SOUGHT = (
    ("N least", 0, np.negative),
    ("N most", 0, np.positive),
    ("V_z", 2, np.abs),
    ("M_y", 4, np.abs),
    ("V_y", 1, np.abs),
    ("T", 3, np.abs),
    ("M_z", 5, np.abs),
)
#: of the kinds together, the first of them
OF_KINDS = 4
#: ends of which the forces are looked at together
BLOCK = 256
Place = tuple[Joint, Meeting]


def forces_of_kind(chain: Chain, number: int, own: list[Joint]) -> Table:
    """Over all joints of a kind, for each role and section that ends there: the least and greatest N, and the largest V_z and M_y."""
    members = chain.structure.members
    rows: list[tuple[Cell, ...]] = []
    ends: dict[tuple[str, str], list[Place]] = defaultdict(list)
    for place in ends_of(own):
        m = members[place[1].member]
        ends[m.role, m.section.name].append(place)
    for (role, section), places in ends.items():
        for what, k, name, forces in extremes(chain, places, OF_KINDS):
            at = chain.structure.nodes[places[k][0].node]
            rows.append((f"J{number}", f"{ROLE_WORDS[role][0]} {section}", what, at, name, *forces))
    columns = (Column("kind"), Column("end of", wide=True), Column("most by"), Column("joint", wide=True), Column("in"))
    return Table("forces at ends", columns + force_columns(), tuple(rows))


def force_columns() -> tuple[Column, ...]:
    return tuple(
        Column(symbol, "kNm" if name[0] in "TM" else "kN", 1) for symbol, name in zip(SYMBOLS, FORCES, strict=True)
    )


def ends_of(joints: list[Joint]) -> list[Place]:
    """The ends of members at joints."""
    return [(joint, row) for joint in joints for row in joint.members if row.where != "through"]


def extremes(chain: Chain, places: list[Place], sought: int) -> list[tuple[str, int, str, tuple[float, ...]]]:
    """What is extreme among places: what, which place, the combination, all six forces there in kN and kNm. None is told twice."""
    best: dict[str, tuple[float, int, int, Floats]] = {}
    for begin in range(0, len(places), BLOCK):
        values = end_values(chain, places[begin : begin + BLOCK])
        for what, force, ranking in SOUGHT[:sought]:
            ranked = ranking(values[force])
            place, c = (int(k) for k in np.unravel_index(int(ranked.argmax()), ranked.shape))
            if what not in best or ranked[place, c] > best[what][0]:
                best[what] = float(ranked[place, c]), begin + place, c, values[:, place, c]
    found, seen = [], set()
    for what, force, _ in SOUGHT[:sought]:
        _, place, c, forces = best[what]
        if (place, c) in seen or abs(forces[force]) < LEAST:
            continue
        seen.add((place, c))
        name = chain.combinations[chain.verification.strength[c]].name
        found.append((what, place, name, tuple(float(v) / 1000 for v in forces)))
    return found


def end_values(chain: Chain, places: list[Place]) -> Floats:
    """(forces, places, combinations for strength) at the ends, N and Nm."""
    first = np.searchsorted(chain.response.elements.member, np.arange(len(chain.structure.members) + 1))
    at = np.array([first[row.member] if row.where == "start" else first[row.member + 1] - 1 for _, row in places])
    station = np.array([0 if row.where == "start" else -1 for _, row in places])
    return np.stack([getattr(chain.verification.forces, name)[at, station] for name in FORCES])
