"""From the document of intent to the structure that it describes."""

from __future__ import annotations

import numpy as np

from engine.catalogue.properties import Section, given_section
from engine.catalogue.sections import section as catalogue_section
from engine.catalogue.steels import STRENGTH, Material, steel
from engine.document import Document
from engine.errors import ModelError
from engine.jigs.hall import Parts, set_out_hall
from engine.structure.model import FREEDOMS, Bools, Floats, Member, Structure


def expand(document: Document) -> Structure:
    """The structure of a document: the hall's parts, then what is stated directly.

    Raises ModelError naming the field, member or node that is unknown, doubled or has no length.
    """
    parts = set_out_hall(document.hall) if document.hall else Parts()
    for i, node in enumerate(document.nodes):
        if node.name in parts.nodes:
            raise ModelError(f"The hall already has a node “{node.name}”.", f"nodes.{i}.name")
        parts.nodes[node.name] = node.at
    if not parts.nodes:
        raise ModelError("There is no hall and there are no nodes: nothing to analyse yet.", "hall")
    number = {name: i for i, name in enumerate(parts.nodes)}
    xyz = np.array(list(parts.nodes.values()), dtype=float)
    members = [*parts.members, *_stated_members(document, number, xyz)]
    index: dict[str, int] = {}
    for i, member in enumerate(members):
        if member.name in index:
            raise ModelError(f"There are two members named “{member.name}”.", "members")
        index[member.name] = i
    if not members:
        raise ModelError("There are no members: nothing to analyse yet.", "members")
    fixed, springs = _supports(document, parts, number)
    return Structure(
        nodes=tuple(parts.nodes),
        xyz=xyz,
        fixed=fixed,
        springs=springs,
        members=tuple(members),
        panels=tuple(parts.panels),
        index=index,
    )


def _stated_members(document: Document, number: dict[str, int], xyz: Floats) -> list[Member]:
    own_sections: dict[str, Section] = {
        s.name: given_section(s.name, s.A, s.Iy, s.Iz, s.It, s.Avy, s.Avz) for s in document.sections
    }
    own_materials: dict[str, Material] = {}
    for given in document.materials:
        modulus = given.E * document.force
        shear = (given.G * document.force) if given.G else modulus / 2.6
        own_materials[given.name] = Material(given.name, modulus, shear, given.density, None)
    members = []
    for i, m in enumerate(document.members):
        for end in ("start", "end"):
            if getattr(m, end) not in number:
                raise ModelError(
                    f"Member “{m.name}” refers to node “{getattr(m, end)}”, which does not exist.", f"members.{i}.{end}"
                )
        a, b = number[m.start], number[m.end]
        if np.linalg.norm(xyz[a] - xyz[b]) < 1e-6:
            raise ModelError(f"Member “{m.name}” has no length: “{m.start}” and “{m.end}” coincide.", f"members.{i}")
        if "x" in m.releases.start and "x" in m.releases.end:
            raise ModelError(
                f"Member “{m.name}” is released in torsion at both ends and would spin about its own axis.",
                f"members.{i}.releases",
            )
        if m.material not in own_materials and m.material not in STRENGTH:
            raise ModelError(
                f"Member “{m.name}” refers to material “{m.material}”, which does not exist.", f"members.{i}.material"
            )
        members.append(
            Member(
                name=m.name,
                role=m.role,
                nodes=(a, b),
                section=own_sections.get(m.section) or catalogue_section(m.section, f"members.{i}.section"),
                material=own_materials.get(m.material) or steel(m.material),
                roll=float(np.radians(m.roll)),
                bar=m.behaviour == "bar",
                release_start=frozenset(m.releases.start),
                release_end=frozenset(m.releases.end),
                outer=(0.0, float(np.linalg.norm(xyz[a] - xyz[b]))),
                inner=(0.0, float(np.linalg.norm(xyz[a] - xyz[b]))),
            )
        )
    return members


def _supports(document: Document, parts: Parts, number: dict[str, int]) -> tuple[Bools, Floats]:
    fixed = np.zeros((len(number), 6), dtype=bool)
    springs = np.zeros((len(number), 6))
    for name, held in parts.supports.items():
        fixed[number[name]] = [freedom in held for freedom in FREEDOMS]
    for i, support in enumerate(document.supports):
        if support.node not in number:
            raise ModelError(f"A support refers to node “{support.node}”, which does not exist.", f"supports.{i}.node")
        row = number[support.node]
        fixed[row] |= [freedom in support.fixed for freedom in FREEDOMS]
        for freedom, stiffness in support.springs.items():
            springs[row, FREEDOMS.index(freedom)] += stiffness * document.force
    if not fixed.any() and not springs.any():
        raise ModelError("Nothing holds the structure: it has no supports.", "supports")
    return fixed, springs
