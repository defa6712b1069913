"""Every end of every joint in one table, for who designs the joints."""

from __future__ import annotations

from engine.chain import Chain
from engine.dossier.end_forces import SOUGHT, ends_of, extremes, force_columns
from engine.dossier.least import end_of, least_forces
from engine.dossier.meeting import joint_anchor, ranked_joints
from engine.dossier.values import Cell, Column, Table
from engine.structure.words import label


def end_forces(chain: Chain) -> Table:
    """Every end that meets others or a support: its extremes in the combinations for strength, in the local axes of the member, N as
    tension positive; what it must bear at least, with the clause in place of the combination; and the designer's words on the joint or its kind."""
    structure = chain.structure
    notes = {note.name: " ".join(note.remark.split()) for note in chain.document.dossier.notes}
    rows: list[tuple[Cell, ...]] = []
    ranked = ranked_joints(structure)
    least = least_forces(chain, ranked)
    for number, ((kind, _), own) in enumerate(ranked, 1):
        of_kind = notes.get(joint_anchor(structure, own), "")
        for joint, row in ends_of(own) if chain.verification.strength else ():
            m, node = structure.members[row.member], structure.nodes[joint.node]
            named = (node, f"J{number}", kind, m.name, label(m), row.where, m.section.name, m.material.name)
            words = notes.get(f"joint.{node}", "") or of_kind
            found = [(what, name, forces) for what, _, name, forces in extremes(chain, [(joint, row)], len(SOUGHT))]
            asked = [(f"at least, {one.words}", one.clause, one.cells) for one in least.get(end_of((joint, row)), ())]
            rows += [(*named, what, name, *forces, words) for what, name, forces in (*found, *asked)]
    heads = ("joint", "kind", "what", "member", "called", "end", "section", "grade", "most by", "combination")
    columns = (*(Column(head) for head in heads), *force_columns(), Column("described as"))
    return Table("end forces", columns, tuple(rows))
