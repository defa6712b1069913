"""Chapter: where members meet, in kinds, with the forces that act there at the same time; their design is not part of it."""

from __future__ import annotations

from collections import defaultdict

from engine.chain import Chain
from engine.dossier.end_forces import forces_of_kind
from engine.dossier.least import least_forces, least_table
from engine.dossier.meeting import Joint, Ranked, Slots, joint_anchor, ranked_joints
from engine.dossier.values import Cell, Column, Heading, Link, Paragraph, Table, Told
from engine.standards.family import family
from engine.structure.model import Structure
from engine.structure.words import ROLE_WORDS, label

UNDESIGNED = "The design of joints is not part of this document."


def joints(chain: Chain, told: Told) -> None:
    """Kinds of joints with their number; of each the extremes of the forces at the ends that meet there, each with those that act with it, and what
    they must bear at least."""
    structure = chain.structure
    ranked = ranked_joints(structure)
    told.add(Heading("Kinds of joints", "joints.kinds"))
    if not ranked:
        told.add(Paragraph("No members meet.", "missing"))
        return
    told.add(_kinds(structure, ranked), Paragraph(UNDESIGNED, "missing"))
    if told.level == "summary" or not chain.verification.strength:
        return
    aside = "combinations for strength; N tension positive, local axes of the member"
    told.add(Heading("Forces at ends", "joints.forces", aside=aside))
    told.add(Paragraph(family(chain.document).ties_asked(chain.document).words, "missing"))
    least_asked = least_forces(chain, ranked)
    for number, ((kind, slots), own) in enumerate(ranked, 1):
        told.add(Heading(f"J{number} · {kind}", joint_anchor(structure, own), 3, _in_words(slots)))
        least = least_table(chain, number, own, least_asked)
        told.add(forces_of_kind(chain, number, own), *([least] if least else []))
    if told.level == "full":
        told.add(Heading("Every joint", "joints.all"), _every(structure, ranked))


def _kinds(structure: Structure, ranked: Ranked) -> Table:
    rows: list[tuple[Cell, ...]] = []
    for number, ((kind, slots), own) in enumerate(ranked, 1):
        nodes = ", ".join(structure.nodes[j.node] for j in own[:3]) + (
            f" and {len(own) - 3} more" if len(own) > 3 else ""
        )
        rows.append((Link(f"J{number}", joint_anchor(structure, own)), kind, _in_words(slots), float(len(own)), nodes))
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


def _in_words(slots: Slots) -> str:
    """What meets in a kind of joints: “2 × rafter IPE 450; column HEA 300”."""
    count: dict[tuple[str, str, str], int] = defaultdict(int)
    for slot in slots:
        count[slot] += 1
    return "; ".join(
        f"{number if number > 1 else ''}{' × ' if number > 1 else ''}{ROLE_WORDS[role][0].lower()} {section}{' passing' if where == 'through' else ''}"
        for (role, section, where), number in count.items()
    )
