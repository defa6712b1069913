"""What a designer does by hand, as functions from a document to the next: draw, change, copy, divide, mend, release.

Members of jigs are never rewritten: what is done to them is kept beside the parameters, as edits that are laid on again.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterator
from typing import Any

import numpy as np

from engine.document import Document, references
from engine.document.byhand import (
    GridLineInput,
    LevelInput,
    MemberEdit,
    MemberInput,
    NodeEdit,
    NodeInput,
    OwnChecks,
    PanelInput,
    Releases,
    SupportInput,
)
from engine.document.jigs import FloorJig
from engine.document.loads import CaseInput, MemberLoad, PanelLoad
from engine.editing import restraints
from engine.editing.operations import (
    ChangeLoad,
    ChangeMembers,
    Copy,
    Cross,
    Divide,
    Draw,
    Extrude,
    Join,
    MatchRestraints,
    MemberChange,
    Merge,
    Mirror,
    Move,
    Operation,
    ReleaseJig,
    RemoveMembers,
    Replace,
    Resize,
    RestoreMembers,
    Restrain,
    Rotate,
    Support,
    Trim,
)
from engine.errors import ModelError
from engine.expand import expand, generated
from engine.structure.model import FREEDOMS, Floats, Member, Structure

SAME = 1e-3


def operate(document: Document, operation: Operation) -> Document:
    """The document after one operation. Raises ModelError naming what it cannot be done to, and why."""
    return _Work(document).run(operation)


class _Work:
    """A document being changed, with its structure as it stood."""

    def __init__(self, document: Document) -> None:
        self.document = document.model_copy(deep=True)
        self.structure = expand(document)
        self.stated = {m.name: m for m in self.document.members}
        self.nodes = {n.name: n for n in self.document.nodes}
        self.at = dict(zip(self.structure.nodes, self.structure.xyz, strict=True))
        self.at |= {name: self.at[other] for name, other in self.structure.aliases.items()}
        self.edits = {e.member: e for e in self.document.edits}

    def run(self, operation: Operation) -> Document:
        getattr(self, f"_{operation.do}")(operation)
        return self.document

    # names and places

    def member(self, name: str) -> Member:
        if name not in self.structure.index:
            raise ModelError(f"There is no member “{name}”.", "members")
        return self.structure.member(name)

    def free(self, name: str, words: str) -> MemberInput:
        """The member by hand of that name."""
        member = self.member(name)
        if name not in self.stated:
            raise ModelError(
                f"“{name}” belongs to the jig “{member.jig}”, so it cannot be {words}. Release the jig first, or copy the member.",
                name,
            )
        return self.stated[name]

    def ends(self, name: str) -> Floats:
        member = self.member(name)
        return self.structure.xyz[[member.nodes[0], member.nodes[-1]]]

    def fresh(self, letter: str, taken: Any) -> Iterator[str]:
        number = 1
        while True:
            if f"{letter}{number}" not in taken:
                yield f"{letter}{number}"
            number += 1

    def node(self, at: Floats) -> str:
        """The node at a place: one that stands there, or a new one."""
        near = [name for name, place in self.at.items() if np.abs(place - at).max() < SAME]
        if near:
            return near[0]
        name = next(self.fresh("n", self.at))
        x, y, z = (round(float(v), 9) for v in at)
        self.document.nodes.append(NodeInput(name=name, at=(x, y, z)))
        self.nodes[name] = self.document.nodes[-1]
        self.at[name] = np.asarray(at, dtype=float)
        return name

    def add(self, start: str, end: str, like: dict[str, Any]) -> MemberInput | None:
        """A new member by hand; none where its ends coincide."""
        if start == end:
            return None
        name = next(self.fresh("m", {*self.structure.index, *self.stated}))
        made = MemberInput(**{**like, "name": name, "start": start, "end": end})
        self.document.members.append(made)
        self.stated[name] = made
        return made

    def like(self, name: str) -> dict[str, Any]:
        """What a member by hand must say to be like this one."""
        if name in self.stated:
            return self.stated[name].model_dump(exclude={"name", "start", "end"})
        m = self.member(name)
        length = self.structure.length(m)
        return {
            "section": m.section.name,
            "end_section": edit.end_section if (edit := self.edits.get(name)) else None,
            "haunch_start": m.haunches[0],
            "haunch_end": m.haunches[1],
            "material": m.material.name,
            "roll": round(float(np.degrees(m.roll)), 9),
            "behaviour": m.behaviour,
            "role": m.role,
            "group": m.group,
            "offset": {"y": m.offset[0], "z": m.offset[1]},
            "releases": _releases(m, self.document.force),
            "restraints_outer": [x for x in m.outer if SAME < x < length - SAME],
            "restraints_inner": [x for x in m.inner if SAME < x < length - SAME],
            "checks": m.checks if m.checks != OwnChecks() else None,
        }

    def edit(self, name: str) -> MemberEdit:
        """The edit laid over a generated member, made if there is none."""
        if name not in self.edits:
            self.edits[name] = MemberEdit(member=name)
            self.document.edits.append(self.edits[name])
        return self.edits[name]

    def sweep(self) -> None:
        """Drop nodes by hand that nothing refers to any more."""
        used = {name for m in self.document.members for name in (m.start, m.end)}
        used |= {s.node for s in self.document.supports} | {load.node for load in self.document.node_loads}
        used |= {move.node for move in self.document.settlements}
        used |= {c for panel in self.document.panels for c in panel.corners if isinstance(c, str)}
        corners = {c for j in self.document.jigs if j.kind == "bracing" for c in j.corners if isinstance(c, str)}
        before = {n for m in self.structure.members if not m.jig for n in (m.nodes[0], m.nodes[-1])}
        once = {self.structure.nodes[n] for n in before}
        self.document.nodes = [n for n in self.document.nodes if n.name in used | corners or n.name not in once]

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
        if o.material is not None:
            graded = [name for name, m in wanted.items() if m.material.name != o.material]
            if graded:
                self._change(ChangeMembers(members=graded, change=MemberChange(material=o.material)))

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
        names = []
        for i, point in enumerate(o.points):
            if isinstance(point, str):
                if point not in self.at:
                    raise ModelError(f"There is no node “{point}”.", f"points.{i}")
                names.append(point)
            else:
                names.append(self.node(np.array(point, dtype=float)))
        values = o.model_dump(exclude={"do", "points"})
        drawn = [self.add(a, b, values) for a, b in zip(names[:-1], names[1:], strict=True)]
        if not any(drawn):
            raise ModelError("The points coincide: nothing to draw.", "points")

    def _placed(
        self, members: list[str], place: Callable[[Floats], Floats], turn: Callable[[dict[str, Any], str], None]
    ) -> list[str]:
        """Copies of members with their ends moved; gives the nodes they stand on, old by new."""
        made = []
        for name in members:
            a, b = self.ends(name)
            like = self.like(name)
            if name not in self.stated:
                # what holds a generated member is not copied with it: only what was said by hand goes along
                edit = self.edits.get(name)
                for flange in ("restraints_outer", "restraints_inner"):
                    like[flange] = getattr(edit, flange) if edit else []
            turn(like, name)
            if found := self.add(self.node(place(a)), self.node(place(b)), like):
                made.append(found.name)
        return made

    def _copy(self, o: Copy) -> None:
        step = np.array(o.step)
        if np.linalg.norm(step) < SAME:
            raise ModelError("The copies would lie on the members themselves; give a step.", "step")
        for k in range(1, o.count + 1):
            shift = k * step
            self._placed(o.members, lambda p, shift=shift: p + shift, lambda like, name: None)  # type: ignore[misc]
            if o.supports:
                self._copy_supports(o.members, shift)

    def _copy_supports(self, members: list[str], shift: Floats) -> None:
        held = self.structure.fixed.any(axis=1) | (self.structure.springs != 0).any(axis=1)
        for node in {n for name in members for n in (self.member(name).nodes[0], self.member(name).nodes[-1])}:
            if held[node]:
                if self._on_steel(self.structure.xyz[node] + shift):
                    continue
                target = self.node(self.structure.xyz[node] + shift)
                if not any(s.node == target for s in self.document.supports):
                    self.document.supports.append(self._support_like(node, target))

    def _on_steel(self, at: Floats) -> bool:
        """Whether a place lies on a member that does not rise from it: what has its foot there stands on steel."""
        lines = [(self.at[m.start], self.at[m.end]) for m in self.document.members]
        lines += [(a, b) for a, b in (self.ends(m.name) for m in self.structure.members if m.jig)]
        for a, b in lines:
            low, high = (a, b) if a[2] <= b[2] else (b, a)
            if np.abs(low - at).max() < SAME and high[2] > low[2] + SAME:
                continue
            along = b - a
            share = float(np.clip((at - a) @ along / max(float(along @ along), 1e-12), 0.0, 1.0))
            if np.linalg.norm(a + share * along - at) < SAME:
                return True
        return False

    def _support_like(self, node: int, name: str) -> SupportInput:
        """A support for the node of a name that holds it as another node is held."""
        s, force = self.structure, self.document.force
        stiffness = zip(FREEDOMS, s.springs[node].tolist(), strict=True)
        held = {
            "fixed": [f for f, there in zip(FREEDOMS, s.fixed[node], strict=True) if there],
            "springs": {f: k / force for f, k in stiffness if k},
            "one_way": [f for f, there in zip(FREEDOMS, s.one_way[node], strict=True) if there],
            "turn": round(float(np.degrees(s.turn[node])), 9),
        }
        return SupportInput.model_validate({"node": name, **held})

    def _move(self, o: Move) -> None:
        nodes = {*o.nodes}
        for name in o.members:
            m = self.free(name, "moved")
            nodes |= {m.start, m.end}
        for name in sorted(nodes):
            if name not in self.at:
                raise ModelError(f"There is no node “{name}”.", "nodes")
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

    def _mirror(self, o: Mirror) -> None:
        axis = "XYZ".index(o.axis)

        def place(p: Floats) -> Floats:
            q = p.copy()
            q[axis] = 2 * o.at - q[axis]
            return q

        def turn(like: dict[str, Any], name: str) -> None:
            like["roll"] = -like["roll"] + (180.0 if o.axis == "X" and _upright(self.ends(name)) else 0.0)

        self._placed(o.members, place, turn)

    def _rotate(self, o: Rotate) -> None:
        for k in range(1, o.count + 1):
            angle = np.radians(o.angle * k)
            R, centre = _rotation(o.axis, angle), np.array(o.about)

            def turn(like: dict[str, Any], name: str, angle: float = float(angle)) -> None:
                if o.axis == "Z" and _upright(self.ends(name)):
                    upwards = np.sign(self.ends(name)[1][2] - self.ends(name)[0][2])
                    like["roll"] = like["roll"] + upwards * float(np.degrees(angle))

            self._placed(o.members, lambda p, R=R, centre=centre: centre + R @ (p - centre), turn)  # type: ignore[misc]

    def _extrude(self, o: Extrude) -> None:
        like = o.model_dump(include={"section", "material", "role"})
        for name in o.nodes:
            if name not in self.at:
                raise ModelError(f"There is no node “{name}”.", "nodes")
            place, before = self.at[name], name
            for _ in range(o.count):
                place = place + np.array(o.step)
                after = self.node(place)
                self.add(before, after, like)
                before = after

    def _divide(self, o: Divide) -> None:
        for name in o.members:
            a, b = self.ends(name)
            places = [a + (b - a) * k / o.parts for k in range(1, o.parts)]
            if not o.cut:
                for place in places:
                    self.node(place)
                continue
            m = self.free(name, "cut")
            if m.end_section:
                raise ModelError(f"“{name}” tapers, so it cannot be cut.", name)
            like = self.like(name) | {"restraints_outer": [], "restraints_inner": []}
            if m.checks:
                like["checks"] = m.checks.over(1 / o.parts)
            whole = m.releases
            stops = [m.start, *(self.node(place) for place in places), m.end]
            self._remove_only(name)
            last, made = len(stops) - 2, []
            for k, (start, end) in enumerate(zip(stops[:-1], stops[1:], strict=True)):
                ends = Releases(
                    start=whole.start if k == 0 else [],
                    end=whole.end if k == last else [],
                    start_springs=whole.start_springs if k == 0 else {},
                    end_springs=whole.end_springs if k == last else {},
                )
                haunches = {
                    "haunch_start": m.haunch_start if k == 0 else None,
                    "haunch_end": m.haunch_end if k == last else None,
                }
                if found := self.add(start, end, like | {"releases": ends} | haunches):
                    made.append(found.name)
            self._divide_loads(name, made, float(np.linalg.norm(b - a)))
            references.split(self.document, "member", {name: made})

    def _divide_loads(self, name: str, made: list[str], length: float) -> None:
        """Loads on a member that is now several of equal length, in its direction: each takes what lies on it."""
        part = length / len(made)
        kept: list[MemberLoad] = []
        for load in self.document.member_loads:
            if load.member != name or load.run:
                if name in (load.member, *load.run):
                    names = [load.member, *load.run]
                    at = names.index(name)
                    ordered = made if self._runs_on(made[-1], names[at + 1 : at + 2]) else made[::-1]
                    load.member, *load.run = [*names[:at], *ordered, *names[at + 1 :]]
                kept.append(load)
                continue
            scale = length if load.ratio else 1.0
            start, end = load.start * scale, length if load.end is None else load.end * scale
            for k, new in enumerate(made):
                a, b = k * part, (k + 1) * part
                values: dict[str, Any] = {"member": new, "ratio": False}
                if load.kind == "temperature":
                    values = {"member": new}
                elif load.kind == "line":
                    low, high = max(start, a), min(end, b)
                    if high - low < 1e-9:
                        continue
                    first, last = np.array(load.value), np.array(load.value_end or load.value)
                    ends = [first + (last - first) * (x - start) / (end - start) for x in (low, high)]
                    values |= {"start": low - a, "end": high - a, "value": tuple(ends[0].tolist())}
                    values["value_end"] = tuple(ends[1].tolist()) if load.value_end else None
                elif not (a <= start < b or (k == len(made) - 1 and start >= b)):
                    continue
                else:
                    values |= {"start": min(start - a, part), "end": None}
                kept.append(load.model_copy(update=values))
        self.document.member_loads = kept

    def _runs_on(self, last: str, following: list[str]) -> bool:
        """Whether a member's end is where the next one of a run starts or ends; true where none follows."""
        if not following:
            return True
        end = self.ends(last)[1] if last in self.structure.index else self.at[self.stated[last].end]
        return any(np.abs(end - point).max() < SAME for point in self.ends(following[0]))

    def _remove_only(self, name: str) -> None:
        self.document.members = [m for m in self.document.members if m.name != name]
        del self.stated[name]

    def _join(self, o: Join) -> None:
        members = [self.free(name, "joined") for name in o.members]
        counts: dict[str, int] = {}
        for m in members:
            for node in (m.start, m.end):
                counts[node] = counts.get(node, 0) + 1
        loose = [node for node, count in counts.items() if count == 1]
        points = np.array([self.at[node] for node in counts])
        if len(loose) != 2 or max(counts.values()) > 2:
            raise ModelError("The members do not follow one another end to end.", "members")
        a, b = (self.at[node] for node in loose)
        unit = (b - a) / np.linalg.norm(b - a)
        off = points - a - ((points - a) @ unit)[:, None] * unit
        if np.linalg.norm(off, axis=1).max() > SAME:
            raise ModelError("The members do not lie on one line.", "members")
        if len({m.section for m in members}) > 1:
            raise ModelError(
                "The members have different sections: " + ", ".join(sorted({m.section for m in members})) + ".",
                "members",
            )
        first = next(m for m in members if loose[0] in (m.start, m.end))
        start = loose[0] if first.start == loose[0] else loose[1]
        end = loose[1] if start == loose[0] else loose[0]
        like = self.like(first.name) | {"restraints_outer": [], "restraints_inner": []}
        if first.checks:
            before, after = (
                np.linalg.norm(self.at[b] - self.at[a]) for a, b in ((first.start, first.end), (start, end))
            )
            like["checks"] = first.checks.over(float(after / before))
        like["haunch_start"] = next((m.haunch_start for m in members if m.start == start), None)
        like["haunch_end"] = next((m.haunch_end for m in members if m.end == end), None)
        self._join_loads(members, first.name, self.at[start], self.at[end])
        for m in members:
            self._remove_only(m.name)
        references.rename(self.document, "member", {m.name: first.name for m in members})
        for panel in self.document.panels:
            panel.carriers = list(dict.fromkeys(panel.carriers))
            panel.excluded = list(dict.fromkeys(panel.excluded))
        for kept in self.document.sets:
            kept.members = list(dict.fromkeys(kept.members))
        self.document.members.append(MemberInput(**{**like, "name": first.name, "start": start, "end": end}))
        self.sweep()

    def _join_loads(self, members: list[MemberInput], name: str, start: Floats, end: Floats) -> None:
        """Loads on members that become one from start to end: they stay where they are."""
        way = (end - start) / np.linalg.norm(end - start)
        lies = {m.name: sorted(float((self.at[n] - start) @ way) for n in (m.start, m.end)) for m in members}
        backward = {m.name: float((self.at[m.end] - self.at[m.start]) @ way) < 0 for m in members}
        warm = [load for load in self.document.member_loads if load.kind == "temperature" and load.member in lies]
        for case in {load.case for load in warm}:
            own = [load for load in warm if load.case == case]
            if len(own) != len(members) or len({load.value for load in own}) > 1:
                raise ModelError(
                    "The members are not equally warm: make their temperatures alike before they are joined.", name
                )
            self.document.member_loads = [load for load in self.document.member_loads if load not in own[1:]]
        for load in self.document.member_loads:
            if load.run and lies.keys() & {load.member, *load.run}:
                raise ModelError(
                    f"A load runs over “{load.member}” and others: take it off before they are joined.", name
                )
            if load.member not in lies or load.kind == "temperature":
                continue
            if load.axes == "local" and backward[load.member]:
                raise ModelError(
                    f"A load in local axes lies on “{load.member}”, which runs the other way.", load.member
                )
            low, high = lies[load.member]
            length = high - low
            scale = length if load.ratio else 1.0
            a, b = load.start * scale, length if load.end is None else load.end * scale
            if backward[load.member]:
                a, b = length - b, length - a
                if load.kind != "line":
                    a = b
                if load.value_end is not None:
                    load.value, load.value_end = load.value_end, load.value
            load.start, load.ratio = low + a, False
            load.end = low + b if load.kind == "line" else None

    def _cross(self, o: Cross) -> None:
        put = 0
        for i, one in enumerate(o.members):
            for other in o.members[i + 1 :]:
                place = _crossing(self.ends(one), self.ends(other), within=True)
                if place is not None:
                    self.node(place)
                    put += 1
        if not put:
            raise ModelError("These members do not cross.", "members")

    def _trim(self, o: Trim) -> None:
        target = self.ends(o.to)
        for name in o.members:
            m = self.free(name, "trimmed")
            own = self.ends(name)
            place = _crossing(own, target, within=False)
            if place is None:
                raise ModelError(f"The lines of “{name}” and “{o.to}” do not meet.", name)
            near = int(np.argmin(np.linalg.norm(own - place, axis=1)))
            if np.linalg.norm(own[1 - near] - place) < SAME:
                raise ModelError(f"“{name}” would have no length.", name)
            node = self.node(place)
            if near == 0:
                m.start = node
            else:
                m.end = node
        self.sweep()

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
        for name in o.nodes:
            if name not in self.at:
                raise ModelError(f"There is no node “{name}”.", "nodes")
            node = self.structure.aliases.get(name, name)
            self.document.supports = [s for s in self.document.supports if s.node != node]
            number = self.structure.nodes.index(node) if node in self.structure.nodes else None
            by_jig = number is not None and "/" in node
            if o.fixed or o.springs or by_jig:
                self.document.supports.append(SupportInput(node=node, **o.model_dump(exclude={"do", "nodes"})))

    def _load(self, o: ChangeLoad) -> None:
        if o.number >= len(self.document.member_loads):
            raise ModelError(f"There is no load number {o.number + 1} on a member.", "number")
        load = self.document.member_loads[o.number]
        for key, value in o.model_dump(exclude={"do", "number"}, exclude_none=True).items():
            setattr(load, key, value)

    def _replace(self, o: Replace) -> None:
        kind, _, number = o.place.partition(".")
        items: Any = getattr(self.document, kind, None) if kind in ("edits", "moved_nodes", "supports") else None
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
        else:
            if o.target not in self.at:
                raise ModelError(f"There is no node “{o.target}”.", "target")
            items[int(number)].node = o.target

    def _release(self, o: ReleaseJig) -> None:
        known = {"hall"} if self.document.hall else set()
        known |= {j.name for j in self.document.jigs}
        if o.jig not in known:
            raise ModelError(f"There is no jig “{o.jig}”.", "jig")
        mine = [m for m in self.structure.members if m.jig == o.jig]
        node_names = {n: self.structure.nodes[n] for m in mine for n in m.nodes}
        renamed = {name: name.replace("/", " ") for name in [*node_names.values(), *(m.name for m in mine)]}
        held = self.structure.fixed.any(axis=1) | (self.structure.springs != 0).any(axis=1)
        for number, name in node_names.items():
            x, y, z = (round(float(v), 9) for v in self.structure.xyz[number])
            if name not in self.nodes:
                self.document.nodes.append(NodeInput(name=renamed[name], at=(x, y, z)))
            if held[number] and not any(s.node == name for s in self.document.supports):
                self.document.supports.append(self._support_like(number, renamed[name]))
        of_jig = {m.name for m in generated(self.document).members.values() if m.jig == o.jig}
        edited = [e.member for e in self.document.edits if e.member in of_jig]
        self.document.edits = [e for e in self.document.edits if e.member not in of_jig]
        self.document.moved_nodes = [e for e in self.document.moved_nodes if e.node not in renamed]
        references.rename(self.document, "node", renamed)
        references.rename(self.document, "member", renamed)
        references.drop(self.document, "member", set(edited) - self.structure.index.keys())
        for member in mine:
            start, end = (renamed[self.structure.nodes[n]] for n in (member.nodes[0], member.nodes[-1]))
            like = self.like(member.name)
            self.document.members.append(
                MemberInput(**{**like, "name": renamed[member.name], "start": start, "end": end})
            )
        panels = {p.name: p.name.replace("/", " ") for p in self.structure.panels if self._is_of(p.name, o.jig)}
        self._keep_decks(o.jig, node_names, renamed)
        if o.jig == "hall":
            self._keep_cladding(renamed)
            self._keep_lines()
            self.document.hall = None
            self.document.snow.obstructions = []
        self.document.jigs = [j for j in self.document.jigs if j.name != o.jig]
        there = {p.name for p in self.document.panels}
        references.rename(self.document, "panel", {old: new for old, new in panels.items() if new in there})
        references.drop(self.document, "panel", {old for old, new in panels.items() if new not in there})

    def _keep_lines(self) -> None:
        """A hall that is released keeps its grid lines and levels: other jigs lie between them."""
        lines = {(line.axis, line.name) for line in self.document.grid}
        for line in self.structure.grid:
            if (line.axis, line.name) not in lines:
                self.document.grid.append(GridLineInput.model_validate(vars(line)))
        levels = {level.name for level in self.document.levels}
        for level in self.structure.levels:
            if level.name not in levels and not level.floor:
                self.document.levels.append(LevelInput(name=level.name, height=level.height))

    def _is_of(self, panel: str, jig: str) -> bool:
        """Whether a panel is one that a jig made."""
        return panel.startswith(f"{jig}/") if jig != "hall" else "/" not in panel and panel not in self._drawn

    @property
    def _drawn(self) -> set[str]:
        return {p.name for p in self.document.panels}

    def _keep_cladding(self, renamed: dict[str, str]) -> None:
        """A hall that is released keeps its roofs and walls as drawn panels: with the weight of their cladding as a case, and roofs
        with the even snow. Wind belongs to the hall: it goes."""
        made = []
        for panel in self.structure.panels:
            carriers = [renamed.get(name, name) for name in panel.carriers]
            if panel.name in self._drawn or "/" in panel.name or not carriers or panel.grounded is not None:
                continue
            made.append(panel)
            self.document.panels.append(
                PanelInput(
                    name=panel.name,
                    kind="surface",
                    corners=[(float(x), float(y), float(z)) for x, y, z in panel.corners.round(9)],
                    carriers=carriers,
                    span=(float(panel.span[0]), float(panel.span[1]), float(panel.span[2])),
                    # μ1 of EN 1991-1-3 table 5.2
                    snow=float(np.interp(panel.pitch, [30, 60], [0.8, 0.0])) if panel.kind == "roof" else None,
                )
            )
        if made:
            name = next(self.fresh("Cladding kept ", {c.name for c in self.document.cases}))
            references.rename(self.document, "case", {"Cladding": name})
            self.document.cases.append(CaseInput(name=name, nature="permanent"))
            weights = self.document.cladding
            force = 1000 / self.document.force
            self.document.panel_loads += [
                PanelLoad(
                    case=name,
                    panel=panel.name,
                    pressure=(weights.roof if panel.kind == "roof" else weights.walls) * force,
                    axes="down",
                )
                for panel in made
            ]

    def _keep_decks(self, jig: str, node_names: dict[int, str], renamed: dict[str, str]) -> None:
        """A floor that is released keeps what holds it in its plane, as panels without load."""
        floor = next((j for j in self.document.jigs if j.name == jig and isinstance(j, FloorJig)), None)
        if floor is None or floor.diaphragm == "none":
            return
        numbers = list(node_names)
        for panel in self.structure.panels:
            if not panel.name.startswith(f"{jig}/"):
                continue
            away = np.linalg.norm(self.structure.xyz[numbers] - panel.corners[:, None], axis=2)
            corners = [renamed[node_names[numbers[k]]] for k in away.argmin(axis=1).tolist()]
            self.document.panels.append(
                PanelInput(
                    name=panel.name.replace("/", " "),
                    kind="surface",
                    corners=list(corners),
                    diaphragm=floor.diaphragm,
                    membrane=floor.membrane,
                )
            )


def _releases(m: Member, force: float) -> dict[str, Any]:
    return {
        "start": sorted(m.release_start),
        "end": sorted(m.release_end),
        "start_springs": {f: k / force for f, k in m.springs_start},
        "end_springs": {f: k / force for f, k in m.springs_end},
    }


def _upright(ends: Floats) -> bool:
    d = ends[1] - ends[0]
    return bool(abs(d[2]) > (1 - 1e-9) * np.linalg.norm(d))


def _rotation(axis: str, angle: float) -> Floats:
    c, s = np.cos(angle), np.sin(angle)
    if axis == "Z":
        return np.array([[c, -s, 0], [s, c, 0], [0, 0, 1.0]])
    if axis == "Y":
        return np.array([[c, 0, s], [0, 1.0, 0], [-s, 0, c]])
    return np.array([[1.0, 0, 0], [0, c, -s], [0, s, c]])


def _crossing(one: Floats, other: Floats, within: bool) -> Floats | None:
    """Where two lines meet; `within`: between the ends of both, else anywhere on the first and on the second's length."""
    u, v, w = one[1] - one[0], other[1] - other[0], one[0] - other[0]
    uu, vv, uv, uw, vw = u @ u, v @ v, u @ v, u @ w, v @ w
    det = uu * vv - uv**2
    if det < 1e-9 * uu * vv:
        return None
    s, t = (uv * vw - vv * uw) / det, (uu * vw - uv * uw) / det
    if np.linalg.norm(w + s * u - t * v) > 2 * SAME:
        return None
    inside = -1e-6 < t < 1 + 1e-6
    if within and not (inside and -1e-6 < s < 1 + 1e-6):
        return None
    point: Floats = other[0] + t * v
    return point


def grow(structure: Structure, members: list[str]) -> list[str]:
    """The members and all that share a node with them."""
    nodes = {n for name in members for n in structure.member(name).nodes}
    return [m.name for m in structure.members if nodes & set(m.nodes)]
