"""What a designer does by hand, as functions from a document to the next: draw, change, copy, divide, mend, release.

Members of jigs are never rewritten: what is done to them is kept beside the parameters, as edits that are laid on again.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Sequence
from typing import Any

import numpy as np

from engine.document import Document, references
from engine.document.byhand import (
    NodeEdit,
    OwnChecks,
    SupportInput,
)
from engine.editing import restraints
from engine.editing.adding import Adding
from engine.editing.copied_panels import move_panels
from engine.editing.copying import Copying
from engine.editing.cutting import Cutting
from engine.editing.operations import (
    ChangeLoad,
    ChangeMembers,
    Draw,
    Extrude,
    HaunchSize,
    Lateral,
    MatchRestraints,
    MemberChange,
    Merge,
    Move,
    Operation,
    RemoveMembers,
    Rename,
    Replace,
    Resize,
    RestoreMembers,
    Restrain,
    Support,
)
from engine.editing.release import Releasing
from engine.editing.work import SAME
from engine.errors import ModelError
from engine.jigs.haunches import deepest
from engine.structure.model import Member, Structure


def operate(document: Document, operation: Operation) -> Document:
    """The document after one operation. Raises ModelError naming what it cannot be done to, and why."""
    return _Operations(document).run(operation)


def resize(document: Document, structure: Structure, operations: Sequence[Resize]) -> Document:
    """The document after members of its structure were given other sections, none of them twice. Raises ModelError."""
    found = _Operations(document, structure)
    for operation in operations:
        found.run(operation)
    return found.document


class _Operations(Adding, Copying, Cutting, Releasing):
    """All operations, each by its name."""

    def run(self, operation: Operation) -> Document:
        """The document after an operation. Raises ModelError."""
        getattr(self, f"_{operation.do}")(operation)
        return self.document

    # operations

    def _change(self, o: ChangeMembers) -> None:
        values = o.change.model_dump(exclude_none=True)
        if not values and o.role is None:
            raise ModelError("Nothing to change was given.", "change")
        if "prismatic" in values:
            straight = dict.fromkeys(("end_section", "haunch_start", "haunch_end"))
            for name in o.members:
                target: Any = self.stated[name] if name in self.stated else self.edit(name)
                for key in straight:
                    setattr(target, key, None)
        for name in o.members:
            member = self.member(name)
            if o.change.checks is not None:
                # one value of them at a time: what somebody else set meanwhile stays
                checked: Any = self.stated[name] if name in self.stated else self.edit(name)
                checked.checks = (checked.checks or OwnChecks()).changed(o.change.checks)
            if name in self.stated:
                for key, value in values.items():
                    if key in ("prismatic", "checks"):
                        continue
                    setattr(self.stated[name], key, getattr(o.change, key) if isinstance(value, dict) else value)
                if o.role is not None:
                    self.stated[name].role = o.role
                continue
            if o.role is not None and o.role != member.role:
                raise ModelError(f"“{name}” has its role from the jig “{member.jig}”.", name)
            for key in values.keys() - {"checks"}:
                setattr(self.edit(name), key, getattr(o.change, key))

    def _resize(self, o: Resize) -> None:
        wanted = {name: self.member(name) for name in o.members}
        by_slot: dict[tuple[str, str], list[str]] = defaultdict(list)
        for m in self.structure.members:
            by_slot[m.jig, m.slot].append(m.name)
        edited = set(wanted)
        for (jig, slot), names in by_slot.items():
            if not slot or not edited.issuperset(names):
                continue
            of = self.document.hall if jig == "hall" else next(j for j in self.document.jigs if j.name == jig)
            assert of is not None and of.kind != "bracing"
            setattr(of.sections, slot, o.section)
            edited -= set(names)
        section = [name for name in o.members if name in edited]
        if section:
            self._change(ChangeMembers(members=section, change=MemberChange(section=o.section)))
        if o.haunch is not None:
            self._haunch(wanted, o.haunch)
        if o.material is not None:
            graded = [name for name, m in wanted.items() if m.material.name != o.material]
            if graded:
                self._change(ChangeMembers(members=graded, change=MemberChange(material=o.material)))

    def _haunch(self, wanted: dict[str, Member], size: HaunchSize) -> None:
        """Give the deepest haunches of members another size. Raises ModelError where there is none."""
        of = deepest(wanted.values())
        if of is None:
            raise ModelError("None of these members has a haunch.", "haunch")
        new, hall = of.model_copy(update={"length": size.length, "depth": size.depth}), self.document.hall
        edited = {e.member for e in self.document.edits if e.haunch_start or e.haunch_end}
        of_hall = {m.name for m in self.structure.members if m.jig == "hall" and of in m.haunches} - edited
        if hall is not None and of_hall and of_hall <= wanted.keys():
            for key in ("eaves_haunch", "apex_haunch"):
                if getattr(hall, key) == of:
                    setattr(hall, key, new)
        else:
            of_hall = set()
        for name, member in wanted.items():
            target: Any = None if name in of_hall else self.stated.get(name) or self.edit(name)
            for key, own in zip(("haunch_start", "haunch_end"), member.haunches, strict=True):
                if target is not None and own == of:
                    setattr(target, key, new)

    def _remove(self, o: RemoveMembers) -> None:
        for name in o.members:
            self.member(name)
            if name not in self.stated:
                self.edit(name).removed = True
        gone = set(o.members)
        self.document.members = [m for m in self.document.members if m.name not in gone]
        # what is by hand is gone for good; of generated members an edit remembers it
        by_hand = gone & self.stated.keys()
        self.document.member_loads = [
            load for load in self.document.member_loads if not gone & {load.member, *load.run}
        ]
        for kept in self.document.sets:
            kept.members = [name for name in kept.members if name not in gone]
        references.drop(self.document, "member", by_hand)
        self.sweep()

    def _restore(self, o: RestoreMembers) -> None:
        wanted = set(o.members)
        self.document.edits = [e for e in self.document.edits if e.member not in wanted]

    def _restrain(self, o: Restrain) -> None:
        flanges = ("outer", "inner") if o.flange == "both" else (o.flange,)
        for name in o.members:
            length = self.structure.length(self.member(name))
            for place, at in (("at", o.at), ("to", o.to)):
                if at is not None and at > length + 1e-6:
                    raise ModelError(f"{at:g} m lies beyond the length of “{name}”, {length:.3f} m.", place)
            target = self.stated.get(name) or self.edit(name)
            for flange in flanges:
                if o.let_go or o.to is not None:
                    restraints.let_go(target, self.member(name), flange, o.at, length)
                if not o.let_go:
                    restraints.hold(target, flange, o.at if o.to is None else o.to)

    def _lateral(self, o: Lateral) -> None:
        for name in o.members:
            member = self.member(name)
            length = self.structure.length(member)
            if o.at >= length:
                raise ModelError(f"{o.at:g} m lies beyond the length of “{name}”, {length:.3f} m.", "at")
            restraints.state_length(self.stated.get(name) or self.edit(name), member, o.flange, o.at, o.factor, length)

    def _match(self, o: MatchRestraints) -> None:
        like = self.member(o.like)
        length = self.structure.length(like)
        for name in o.members:
            own = self.structure.length(self.member(name))
            if abs(own - length) > 10 * SAME:
                raise ModelError(
                    f"“{name}” is {own:.2f} m long, “{o.like}” {length:.2f} m: restraints are copied to members of one length.",
                    "members",
                )
            if name != o.like:
                restraints.match(self.stated.get(name) or self.edit(name), self.member(name), like, length)

    def _draw(self, o: Draw) -> None:
        names = [self.point(point, f"points.{i}") for i, point in enumerate(o.points)]
        values = o.model_dump(exclude={"do", "points"})
        drawn = [self.add(a, b, values) for a, b in zip(names[:-1], names[1:], strict=True)]
        if not any(drawn):
            raise ModelError("The points coincide: nothing to draw.", "points")

    def _move(self, o: Move) -> None:
        nodes = {*o.nodes}
        for name in o.members:
            m = self.free(name, "moved")
            nodes |= {m.start, m.end}
        move_panels(self, set(o.members), nodes, o.step)
        for name in sorted(map(self.standing, nodes)):
            if name in self.nodes:
                x, y, z = (round(a + b, 9) for a, b in zip(self.nodes[name].at, o.step, strict=True))
                self.nodes[name].at = (x, y, z)
                continue
            found = next((e for e in self.document.moved_nodes if e.node == name), None)
            if found is None:
                found = NodeEdit(node=name, move=(0.0, 0.0, 0.0))
                self.document.moved_nodes.append(found)
            x, y, z = (round(a + b, 9) for a, b in zip(found.move, o.step, strict=True))
            found.move = (x, y, z)

    def _extrude(self, o: Extrude) -> None:
        like = o.model_dump(include={"section", "material", "role"})
        for name in map(self.standing, o.nodes):
            place, before = self.at[name], name
            for _ in range(o.count):
                place = place + np.array(o.step)
                after = self.node(place)
                self.add(before, after, like)
                before = after

    def _merge(self, o: Merge) -> None:
        for name in o.nodes:
            if name not in self.at:
                raise ModelError(f"There is no node “{name}”.", "nodes")
        keep = next((n for n in o.nodes if n not in self.nodes), o.nodes[0])
        others = [n for n in o.nodes if n != keep]
        if any(n not in self.nodes for n in others):
            raise ModelError("Two nodes of jigs cannot be made one; change the jigs.", "nodes")
        references.rename(self.document, "node", dict.fromkeys(others, keep))
        gone = {m.name for m in self.document.members if m.start == m.end}
        self.document.members = [m for m in self.document.members if m.name not in gone]
        references.drop(self.document, "member", gone)
        # two supports of what is now one node: the one that was there first stays
        once = {s.node: s for s in reversed(self.document.supports)}
        self.document.supports = [s for s in self.document.supports if once[s.node] is s]
        self.document.nodes = [n for n in self.document.nodes if n.name not in others]

    def _support(self, o: Support) -> None:
        for name in map(self.standing, o.nodes):
            node = self.structure.aliases.get(name, name)
            self.document.supports = [s for s in self.document.supports if s.node != node]
            number = self.structure.nodes.index(node) if node in self.structure.nodes else None
            by_jig = number is not None and "/" in node
            if o.fixed or o.springs or o.footing or by_jig:
                self.document.supports.append(SupportInput(node=node, **o.model_dump(exclude={"do", "nodes"})))

    def _load(self, o: ChangeLoad) -> None:
        if o.number >= len(self.document.member_loads):
            raise ModelError(f"There is no load number {o.number + 1} on a member.", "number")
        load = self.document.member_loads[o.number]
        for key, value in o.model_dump(exclude={"do", "number"}, exclude_none=True).items():
            setattr(load, key, value)

    def _replace(self, o: Replace) -> None:
        kind, _, number = o.place.partition(".")
        items: Any = (
            getattr(self.document, kind, None) if kind in ("edits", "moved_nodes", "panel_edits", "supports") else None
        )
        if items is None or not number.isdigit() or int(number) >= len(items):
            raise ModelError(f"There is no edit at “{o.place}”.", "place")
        if o.target is None:
            del items[int(number)]
            return
        if kind == "edits":
            self.member(o.target)
            if o.target in self.stated:
                raise ModelError(f"“{o.target}” is a member by hand; change it itself.", "target")
            if o.target in self.edits:
                raise ModelError(f"“{o.target}” is edited already.", "target")
            items[int(number)].member = o.target
        elif kind == "panel_edits":
            if o.target not in {panel.name for panel in self.structure.panels}:
                raise ModelError(f"There is no panel “{o.target}”.", "target")
            items[int(number)].panel = o.target
        else:
            if o.target not in self.at:
                raise ModelError(f"There is no node “{o.target}”.", "target")
            items[int(number)].node = o.target

    def _rename(self, o: Rename) -> None:
        lists: dict[str, list[Any]] = {
            "case": self.document.cases,
            "panel": self.document.panels,
            "member": self.document.members,
        }
        own = next((item for item in lists[o.kind] if item.name == o.name), None)
        if own is None:
            raise ModelError(f"There is no {o.kind} “{o.name}” by hand.", "name")
        to = o.to.strip()
        if not to or any(item.name == to for item in lists[o.kind] if item is not own):
            raise ModelError(f"There already is a {o.kind} “{to}”." if to else "A name is needed.", "to")
        own.name = to
        references.rename(self.document, o.kind, {o.name: to})


def grow(structure: Structure, members: list[str]) -> list[str]:
    """The members and all that share a node with them."""
    nodes = {n for name in members for n in structure.member(name).nodes}
    return [m.name for m in structure.members if nodes & set(m.nodes)]
