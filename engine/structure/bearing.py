"""Beams hinged beside the axes of columns: their reactions bend the columns."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.shapes import sides_of
from engine.structure.axes import local_axes
from engine.structure.model import HINGE, Bools, Floats, Member, Structure
from engine.structure.runs import lying

#: shapes that beams between their flanges reach at the web
WEBBED = ("I", "welded I")
#: roles that meet columns together with webs, in one node
IN_TRUSSES = ("top chord", "bottom chord")
#: cosine between a beam and the face's normal below which it runs along that face
ALONG = 0.3
#: share of the stretch to a beam's next node that its joint may lie from the axis
NEAR = 0.5


def bear(structure: Structure, beyond: float | None) -> Structure:
    """The structure with the joints of hinged beams where they bear: `beyond` metres from the faces of columns that bear moments, None: in the
    axes, where a member does not say so itself; chords of trusses bear in the axes unless they do. Where the next node of a beam
    is too near for it, its joint stays in the axis."""
    if beyond is None and all(m.bears_at == "as stated" for m in structure.members):
        return structure
    members, lies = list(structure.members), lying(structure)
    for i in np.flatnonzero(lies).tolist():
        m = members[i]
        stated = beyond if m.bears_at == "as stated" else m.bears_at
        in_truss = m.role in IN_TRUSSES and m.bears_at == "as stated"
        if stated is None or isinstance(stated, str) or in_truss or m.behaviour != "beam":
            continue
        joints = [
            _from_axis(structure, lies, i, node, following, stated) if release & HINGE else 0.0
            for node, following, release in (
                (m.nodes[0], m.nodes[1], m.release_start),
                (m.nodes[-1], m.nodes[-2], m.release_end),
            )
        ]
        if any(joints):
            members[i] = m.but(joints=tuple(joints))
    return replace(structure, members=tuple(members))


def _from_axis(structure: Structure, lies: Bools, beam: int, node: int, following: int, beyond: float) -> float:
    """Distance in metres along a beam from its node to its joint: that of the column whose face is the farthest; 0 where there is no column."""
    way = structure.xyz[following] - structure.xyz[node]
    reach = float(np.linalg.norm(way))
    columns = [
        structure.members[j]
        for j in structure.meeting[node]
        if j != beam and not lies[j] and _bends(structure.members[j], node)
    ]
    found = max((_to_face(structure, m, node, way / reach, beyond) for m in columns), default=0.0)
    return found if 0 < found <= NEAR * reach else 0.0


def _bends(member: Member, node: int) -> bool:
    """Whether a member bears moments at a node of its own."""
    ends = ((member.nodes[0], member.release_start), (member.nodes[-1], member.release_end))
    return member.behaviour == "beam" and not any(end == node and release & HINGE for end, release in ends)


def _there(column: Member, at: float) -> tuple[Section, float]:
    """The section of a column at a distance from its start, and how far its centroid lies beside the nodes along local z."""
    for p in column.pieces:
        if p.start <= at <= p.end:
            share = (at - p.start) / (p.end - p.start)
            return p.section, column.offset[1] + p.rise_start + share * (p.rise_end - p.rise_start)
    return column.section, column.offset[1]


def _to_face(structure: Structure, column: Member, node: int, way: Floats, beyond: float) -> float:
    """Distance along a direction from a column's node to `beyond` in front of the face that looks there, m."""
    ends = structure.xyz[[column.nodes[0], column.nodes[-1]]]
    _, y, z = local_axes(ends[:1], ends[1:], np.array([column.roll]))[0]
    section, rise = _there(column, float(np.linalg.norm(structure.xyz[node] - ends[0])))
    left, right, up, down = sides_of(section)
    along_y, along_z = float(way @ y), float(way @ z)
    if abs(along_z) >= abs(along_y):
        face, cosine = (rise + up, along_z) if along_z > 0 else (down - rise, -along_z)
    else:
        if section.shape in WEBBED:
            left = right = (section.tw or 0.0) / 2
        face, cosine = (column.offset[0] + left, along_y) if along_y > 0 else (right - column.offset[0], -along_y)
    return (face + beyond) / cosine if cosine > ALONG else 0.0
