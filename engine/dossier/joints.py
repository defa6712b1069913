"""Chapter: where members meet, in kinds, with the forces that act there at the same time; their design is not part of it."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass

import numpy as np

from engine.analysis.diagrams import FORCES
from engine.chain import Chain
from engine.dossier.values import Cell, Column, Heading, Paragraph, Table, Told
from engine.structure.model import Floats, Structure
from engine.structure.words import ROLE_WORDS, label

BRACING = ("roof bracing", "wall bracing", "strut", "tie", "knee brace")
SYMBOLS = ("N", "V_y", "V_z", "T", "M_y", "M_z")
#: a force below this is none, N or Nm
LEAST = 50.0
#: cosine above which two members go on in one line
STRAIGHT = 0.999


@dataclass(frozen=True)
class Meeting:
    """A member at a joint: its number, and "start", "end" or "through"."""

    member: int
    where: str


@dataclass(frozen=True)
class Joint:
    """A node at which members meet, or one stands on a support."""

    node: int
    kind: str
    members: tuple[Meeting, ...]


#: roles, sections and whether they run through, of the members that meet in a joint
Slots = tuple[tuple[str, str, str], ...]
Ranked = list[tuple[tuple[str, Slots], list[Joint]]]
UNDESIGNED = "The design of joints, and least forces that EN 1993-1-8 asks for, are not part of this document."


def joints_of(structure: Structure) -> list[Joint]:
    """All joints, in the order of the nodes: where two members meet, or one is supported."""
    held = (structure.fixed | (structure.springs != 0)).any(axis=1)
    found = []
    for node, own in sorted(structure.meeting.items()):
        rows = [
            Meeting(
                i, "start" if node == structure.ends[i, 0] else "end" if node == structure.ends[i, 1] else "through"
            )
            for i in own
            if structure.members[i].behaviour != "rigid link" and structure.members[i].role != "deck"
        ]
        if len(rows) > 1 or (rows and held[node]):
            found.append(Joint(node, _kind(structure, rows, bool(held[node])), tuple(rows)))
    return found


def _kind(structure: Structure, rows: list[Meeting], held: bool) -> str:
    roles = [structure.members[row.member].role for row in rows]
    carrying = [(row, role) for row, role in zip(rows, roles, strict=True) if role not in BRACING]
    ending = [row for row, _ in carrying if row.where != "through"]
    if held:
        return "base"
    main = {role for _, role in carrying}
    if "column" in main and main & {"rafter", "top chord"}:
        return "eaves"
    if sum(role in ("rafter", "top chord") for _, role in carrying) == 2 and main <= {
        "rafter",
        "top chord",
        "ridge beam",
        "purlin",
    }:
        a, b = (_way(structure, row.member) for row, role in carrying if role in ("rafter", "top chord"))
        return "splice" if abs(float(a @ b)) > STRAIGHT else "apex"
    if len(carrying) < len(rows) and len(carrying) <= 1:
        return "bracing"
    if main & {"top chord", "bottom chord", "web"}:
        return "truss node"
    if (
        len(ending) == 2 == len(carrying)
        and abs(float(_way(structure, ending[0].member) @ _way(structure, ending[1].member))) > STRAIGHT
    ):
        return "splice"
    if "column" in main or "gable post" in main:
        return "beam to column"
    return "bracing" if len(carrying) < 2 else "beam to beam"


def _way(structure: Structure, member: int) -> Floats:
    a, b = structure.xyz[structure.ends[member]]
    found: Floats = (b - a) / np.linalg.norm(b - a)
    return found


def joints(chain: Chain, told: Told) -> None:
    """Kinds of joints with their number; the extremes of the forces at the ends that meet there, each with those that act with it."""
    ranked = _ranked(chain.structure)
    told.add(Heading("Kinds of joints", "joints.kinds"))
    if not ranked:
        told.add(Paragraph("No members meet.", "missing"))
        return
    told.add(_kinds(chain.structure, ranked), Paragraph(UNDESIGNED, "missing"))
    if told.level == "summary" or not chain.verification.strength:
        return
    aside = "combinations for strength; N tension positive, local axes of the member"
    told.add(Heading("Forces at ends", "joints.forces", aside=aside), _forces(chain, ranked))
    if told.level == "full":
        told.add(Heading("Every joint", "joints.all"), _every(chain.structure, ranked))


def _ranked(structure: Structure) -> Ranked:
    """Joints alike, kind by kind, those of which there are most first."""
    kinds: dict[tuple[str, Slots], list[Joint]] = defaultdict(list)
    for joint in joints_of(structure):
        meeting = sorted(
            (
                structure.members[row.member].role,
                structure.members[row.member].section.name,
                "through" if row.where == "through" else "end",
            )
            for row in joint.members
        )
        kinds[joint.kind, tuple(meeting)].append(joint)
    return sorted(kinds.items(), key=lambda item: (item[0][0], -len(item[1]), item[0][1]))


def _kinds(structure: Structure, ranked: Ranked) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for number, ((kind, slots), own) in enumerate(ranked, 1):
        nodes = ", ".join(structure.nodes[j.node] for j in own[:3]) + (
            f" and {len(own) - 3} more" if len(own) > 3 else ""
        )
        rows.append((f"J{number}", kind, _in_words(slots), float(len(own)), nodes))
    columns = (
        Column("kind"),
        Column("what"),
        Column("members that meet", wide=True),
        Column("number", "", 0),
        Column("at", wide=True),
    )
    return Table("kinds of joints", columns, tuple(rows))


def _every(structure: Structure, ranked: Ranked) -> Table:
    def members(joint: Joint) -> str:
        return ", ".join(f"{label(structure.members[r.member])} ({r.where})" for r in joint.members)

    rows = tuple(
        (structure.nodes[joint.node], f"J{number}", joint.kind, members(joint))
        for number, (_, own) in enumerate(ranked, 1)
        for joint in own
    )
    return Table("joints", (Column("joint"), Column("kind"), Column("what"), Column("members", wide=True)), rows)


def _in_words(slots: tuple[tuple[str, str, str], ...]) -> str:
    count: dict[tuple[str, str, str], int] = defaultdict(int)
    for slot in slots:
        count[slot] += 1
    return "; ".join(
        f"{number if number > 1 else ''}{' × ' if number > 1 else ''}{ROLE_WORDS[role][0].lower()} {section}{' passing' if where == 'through' else ''}"
        for (role, section, where), number in count.items()
    )


def _forces(chain: Chain, ranked: list[tuple[tuple[str, tuple[tuple[str, str, str], ...]], list[Joint]]]) -> Table:
    """Over all joints of a kind, for each role and section that ends there: the least and greatest N, and the largest V_z and M_y."""
    structure, verification = chain.structure, chain.verification
    first = np.searchsorted(chain.response.elements.member, np.arange(len(structure.members) + 1))
    forces = [getattr(verification.forces, name) for name in FORCES]
    names = [chain.combinations[i].name for i in verification.strength]
    rows: list[tuple[Cell, ...]] = []
    for number, (_, own) in enumerate(ranked, 1):
        ends: dict[tuple[str, str], list[tuple[Joint, Meeting]]] = defaultdict(list)
        for joint in own:
            for row in joint.members:
                m = structure.members[row.member]
                if row.where != "through":
                    ends[m.role, m.section.name].append((joint, row))
        for (role, section), places in ends.items():
            # (places, forces, combinations)
            values = np.array(
                [
                    [
                        f[first[row.member], 0] if row.where == "start" else f[first[row.member + 1] - 1, -1]
                        for f in forces
                    ]
                    for _, row in places
                ]
            )
            picks = {
                "N least": (0, values[:, 0].argmin()),
                "N most": (0, values[:, 0].argmax()),
                "V_z": (2, np.abs(values[:, 2]).argmax()),
                "M_y": (4, np.abs(values[:, 4]).argmax()),
            }
            seen: set[tuple[int, int]] = set()
            for what, (force, flat) in picks.items():
                place, c = (int(k) for k in np.unravel_index(int(flat), values[:, 0].shape))
                if (place, c) in seen or abs(values[place, force, c]) < LEAST:
                    continue
                seen.add((place, c))
                joint = places[place][0]
                here = (float(v) / 1000 for v in values[place, :, c])
                rows.append(
                    (
                        f"J{number}",
                        f"{ROLE_WORDS[role][0]} {section}",
                        what,
                        structure.nodes[joint.node],
                        names[c],
                        *here,
                    )
                )
    columns = (
        Column("kind"), Column("end of", wide=True), Column("most by"), Column("joint", wide=True), Column("in"),
        *(Column(symbol, "kNm" if name[0] in "TM" else "kN", 1) for symbol, name in zip(SYMBOLS, FORCES, strict=True)),
    )  # fmt: skip
    return Table("forces at ends", columns, tuple(rows))
