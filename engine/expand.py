"""From the document of intent to the structure that it describes."""

from __future__ import annotations

from dataclasses import replace
from math import radians
from typing import Any

import numpy as np

from engine.catalogue.built import built_section, own_material
from engine.catalogue.properties import Section, given_section
from engine.document import Document
from engine.document.byhand import BuiltSection, Footing, MemberInput, OwnChecks
from engine.document.floors import FloorJig
from engine.document.jigs import TrussJig
from engine.errors import ModelError
from engine.jigs.bracing import set_out_bracing
from engine.jigs.drawn_panels import drawn_panel
from engine.jigs.envelope import enclose
from engine.jigs.floors import set_out_floor
from engine.jigs.hall import set_out_hall
from engine.jigs.haunches import pieces_of
from engine.jigs.parts import Materials, Parts, Point
from engine.jigs.truss_jig import set_out_truss
from engine.laid import lay_edits, leave_out, offset_of, places_of, releases_of
from engine.structure.bearing import bear
from engine.structure.join import in_mid_air, join, merge
from engine.structure.model import FREEDOMS, Floats, GridLine, Ints, Level, Member, Orphan, Pad, Structure
from engine.structure.stiff import stiffen

_SETTERS = {"truss": set_out_truss, "floor": set_out_floor, "bracing": set_out_bracing}


def materials_of(document: Document) -> Materials:
    """The document's own sections and materials, over the catalogue. Raises ModelError for sizes that make no section."""
    found = Materials(force=document.force)
    for s in document.sections:
        found.sections[s.name] = given_section(s.name, s.A, s.Iy, s.Iz, s.It, s.Iw, s.Avy, s.Avz)
    for i, b in enumerate(document.built_sections):
        found.sections[b.name] = built_of(b, f"built_sections.{i}")
    for m in document.materials:
        force = document.force
        found.materials[m.name] = own_material(
            m.name,
            m.E * force,
            m.G * force if m.G else None,
            m.density,
            m.fy * force if m.fy else None,
            m.expansion,
            m.fu * force if m.fu else None,
        )
    return found


def built_of(b: BuiltSection, place: str) -> Section:
    """The section that a stated built-up one is. Raises ModelError for sizes that make none."""
    sizes = {key: getattr(b, key) for key in ("h", "b", "tw", "tf", "b2", "tf2", "gap", "panel")}
    return built_section(b.name, b.shape, sizes, b.of, place, b.by, b.arrangement, b.planes)


def generated(document: Document, materials: Materials | None = None) -> Parts:
    """What the jigs set out, without anything by hand. Raises ModelError naming the field that makes no structure."""
    materials = materials or materials_of(document)
    parts = set_out_hall(document.hall, materials) if document.hall else Parts()
    parts.grid += [GridLine(line.name, line.axis, line.at) for line in document.grid]
    for i, jig in enumerate(document.jigs):
        if jig.name == "hall" or "/" in jig.name:
            raise ModelError(f"A jig cannot be named “{jig.name}”.", f"jigs.{i}.name")
        if isinstance(jig, FloorJig) or (isinstance(jig, TrussJig) and jig.on):
            parts.drawn = _drawn_ends(document, parts)
        _SETTERS[jig.kind](parts, materials, jig, f"jigs.{i}")  # type: ignore[operator]
    parts.envelope = enclose(document, parts)
    return parts


def _drawn_ends(document: Document, parts: Parts) -> dict[str, tuple[Point, Point]]:
    """Where the members by hand start and end, whose nodes are known so far."""
    places = parts.nodes | {node.name: node.at for node in document.nodes}
    return {m.name: (places[m.start], places[m.end]) for m in document.members if {m.start, m.end} <= places.keys()}


def expand(document: Document) -> Structure:
    """The structure of a document: what the jigs set out, what is stated by hand, and the edits laid over both.

    Nodes within a millimetre of each other become one; a beam on whose line a node lies passes through it. Raises
    ModelError naming the field, member or node that is unknown, doubled or has no length.
    """
    materials = materials_of(document)
    parts = generated(document, materials)
    orphans = _move_nodes(document, parts)
    for i, node in enumerate(document.nodes):
        if node.name in parts.nodes:
            raise ModelError(f"A jig already set a node “{node.name}”.", f"nodes.{i}.name")
        parts.node(node.name, node.at)
    orphans += lay_edits(document, parts, materials) + leave_out(document, parts.panels)
    for i, m in enumerate(document.members):
        _state_member(parts, materials, m, f"members.{i}")
    places = np.array(list(parts.nodes.values()), dtype=float).reshape(-1, 3)
    names, xyz, target = merge(list(parts.nodes), places)
    number = dict(zip(parts.nodes, target.tolist(), strict=True))
    aliases = {name: names[i] for name, i in number.items() if names[i] != name}
    merged = _measured(parts, places, target)
    members, names, xyz = join(merged, names, xyz)
    index = {member.name: i for i, member in enumerate(members)}
    carried = [
        p
        if all(name in index for name in p.carriers)
        else replace(p, carriers=tuple(name for name in p.carriers if name in index))
        for p in parts.panels
    ]
    supports = _supports(document, parts, number, len(names), orphans)
    if document.analysis.plane and supports["turn"].any():
        raise ModelError("A support that is turned about Z has no place in plane frames.", "analysis.plane")
    _stand_on_steel(members, xyz, supports, {number[s.node] for s in document.supports if s.node in number})
    structure = Structure(
        nodes=tuple(names),
        xyz=xyz,
        members=tuple(members),
        panels=tuple(carried),
        grid=tuple(parts.grid),
        levels=_levels(document, parts),
        orphans=tuple(orphans),
        index=index,
        aliases=aliases,
        envelope=parts.envelope,
        out={"YZ": 0, "XZ": 1, "": -1}[document.analysis.plane],
        **supports,
    )
    if not document.panels:
        return _finished(structure, document, parts)
    taken = {panel.name for panel in carried}
    for i, given in enumerate(document.panels):
        if given.name in taken:
            raise ModelError(f"There already is a panel “{given.name}”.", f"panels.{i}.name")
    drawn = tuple(drawn_panel(given, structure, materials, f"panels.{i}") for i, given in enumerate(document.panels))
    return _finished(replace(structure, panels=(*structure.panels, *drawn)), document, parts)


def _finished(structure: Structure, document: Document, parts: Parts) -> Structure:
    """With what follows from all that stands there."""
    found = stiffen(bear(structure, document.analysis.bears_at))
    return replace(found, passing=frozenset(found.nodes) - parts.nodes.keys())


def _measured(parts: Parts, places: Floats, target: Ints) -> list[Member]:
    """The members between merged nodes; those without restraints of their own are held at both ends. Raises ModelError
    for one without length."""
    if not parts.members:
        return []
    ends = np.array([m.nodes for m in parts.members.values()])
    lengths = np.linalg.norm(places[ends[:, 1]] - places[ends[:, 0]], axis=1)
    found = []
    for m, (start, end), length in zip(parts.members.values(), target[ends].tolist(), lengths.tolist(), strict=True):
        if length < 2e-3:
            a, b = (list(parts.nodes)[n] for n in m.nodes)
            raise ModelError(f"Member “{m.name}” has no length: “{a}” and “{b}” coincide.", m.name)
        outer, inner = m.outer or (0.0, length), m.inner or (0.0, length)
        # a node moved by hand may make a member longer than its jig did
        if outer[-1] < length - 1e-6:
            outer = (*outer, length)
        if inner[-1] < length - 1e-6:
            inner = (*inner, length)
        if (start, end) != m.nodes or outer is not m.outer or inner is not m.inner:
            m = m.but(nodes=(start, end), outer=outer, inner=inner)
        found.append(m)
    return found


def _levels(document: Document, parts: Parts) -> tuple[Level, ...]:
    """All levels, from the lowest. Raises ModelError for one above a level that is not there, or above itself in a circle."""
    found = {level.name: level for level in parts.levels}
    given = {level.name: (i, level) for i, level in enumerate(document.levels) if level.name not in found}

    def height(name: str, way: tuple[str, ...]) -> float:
        if name in found:
            return found[name].height
        i, level = given[name]
        if not level.above:
            return level.height
        place = f"levels.{i}.above"
        if level.above in (*way, name):
            raise ModelError(f"Level “{name}” stands above itself, by “{level.above}”.", place)
        if level.above not in found and level.above not in given:
            raise ModelError(f"Level “{name}” stands above “{level.above}”, which is not there.", place)
        return height(level.above, (*way, name)) + level.height

    heights = {name: height(name, ()) for name in given}
    return tuple(
        sorted((*found.values(), *(Level(n, round(z, 9)) for n, z in heights.items())), key=lambda level: level.height)
    )


def _move_nodes(document: Document, parts: Parts) -> list[Orphan]:
    lost = []
    for i, edit in enumerate(document.moved_nodes):
        if edit.node in parts.nodes:
            x, y, z = (a + b for a, b in zip(parts.nodes[edit.node], edit.move, strict=True))
            parts.nodes[edit.node] = (x, y, z)
        else:
            words = ", ".join(f"{axis} {value:+g} m" for axis, value in zip("XYZ", edit.move, strict=True) if value)
            lost.append(Orphan(f"moved_nodes.{i}", edit.node, f"moved by {words or 'nothing'}"))
    return lost


def _state_member(parts: Parts, materials: Materials, m: MemberInput, place: str) -> None:
    for end in ("start", "end"):
        if getattr(m, end) not in parts.nodes:
            raise ModelError(
                f"Member “{m.name}” refers to node “{getattr(m, end)}”, which does not exist.", f"{place}.{end}"
            )
    a, b = np.array(parts.nodes[m.start]), np.array(parts.nodes[m.end])
    length = float(np.linalg.norm(b - a))
    if length < 2e-3:
        raise ModelError(f"Member “{m.name}” has no length: “{m.start}” and “{m.end}” coincide.", place)
    section = materials.section(m.section, f"{place}.section")
    haunches = (m.haunch_start, m.haunch_end)
    pieces = pieces_of(materials, section, length, m.end_section, haunches, m.align, m.name, place)
    parts.member(
        m.name,
        m.role,
        m.start,
        m.end,
        section,
        materials.material(m.material, f"{place}.material"),
        roll=radians(m.roll),
        behaviour=m.behaviour,
        bears_at=m.bears_at,
        offset=offset_of(m.offset, m.align, section),
        pieces=pieces,
        haunches=haunches,
        group=m.group,
        checks=m.checks or OwnChecks(),
        outer=places_of((0.0, *m.restraints_outer), length, m.name, f"{place}.restraints_outer"),
        inner=places_of((0.0, *m.restraints_inner), length, m.name, f"{place}.restraints_inner"),
        **releases_of(m.releases, materials.force, m.name, f"{place}.releases"),
    )


def _stand_on_steel(members: list[Member], xyz: Floats, supports: dict[str, Any], stated: set[int]) -> None:
    """Take the supports that jigs gave to feet off those that meet steel above the lowest foot: they stand on it. What is
    stated by hand stays; the audit says where it is in mid-air."""
    fixed = supports["fixed"]
    held = np.flatnonzero(fixed[:, 2] | (supports["springs"][:, 2] != 0))
    if not len(held):
        return
    for node in in_mid_air(members, xyz, held):
        if node not in stated:
            fixed[node], supports["springs"][node], supports["one_way"][node] = False, 0.0, False


def _supports(
    document: Document, parts: Parts, number: dict[str, int], count: int, orphans: list[Orphan]
) -> dict[str, Any]:
    fixed, one_way = np.zeros((count, 6), dtype=bool), np.zeros((count, 6), dtype=bool)
    springs, turn, settlement = np.zeros((count, 6)), np.zeros(count), np.zeros((count, 3))
    for name, held in parts.supports.items():
        fixed[number[name]] |= [freedom in held for freedom in FREEDOMS]
    for name, given in parts.springs.items():
        for freedom, stiffness in given:
            if not fixed[number[name], FREEDOMS.index(freedom)]:
                springs[number[name], FREEDOMS.index(freedom)] = stiffness
    for name, angle in parts.turns.items():
        turn[number[name]] = angle
    stated: dict[int, str] = {}
    pads: dict[int, Pad] = {}
    for i, support in enumerate(document.supports):
        if support.node not in number:
            if "/" in support.node:
                words = ", ".join(support.fixed) or "free"
                orphans.append(Orphan(f"supports.{i}", support.node, f"support: {words}"))
                continue
            raise ModelError(f"A support refers to node “{support.node}”, which does not exist.", f"supports.{i}.node")
        row = number[support.node]
        if row in stated:
            other = "" if stated[row] == support.node else f" (also called “{stated[row]}”)"
            raise ModelError(f"Node “{support.node}”{other} has two supports: state it once.", f"supports.{i}.node")
        stated[row] = support.node
        fixed[row] = [freedom in support.fixed for freedom in FREEDOMS]
        springs[row] = 0.0
        for freedom, stiffness in support.springs.items():
            springs[row, FREEDOMS.index(freedom)] = stiffness * document.force
        if support.footing:
            pads[row] = pad = _pad(support.footing)
            for axis, own in zip((2, 3, 4) if pad.clamped else (2,), pad.springs, strict=False):
                fixed[row, axis], springs[row, axis] = False, own
        one_way[row] = [freedom in support.one_way for freedom in FREEDOMS]
        turn[row] = radians(support.turn)
        settlement[row] = support.settlement
    return {
        "fixed": fixed,
        "springs": springs,
        "turn": turn,
        "one_way": one_way,
        "settlement": settlement,
        "pads": pads,
    }


def _pad(given: Footing) -> Pad:
    return Pad(given.x, given.y, given.depth, given.subgrade * 1000, given.friction, given.clamped)
