"""Copying members by hand: along a line, in rows, mirrored, turned, with what holds and what loads them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from engine.document.loads import MemberLoad
from engine.editing.copied_panels import Shift, copy_panels
from engine.editing.copied_supports import turned_support
from engine.editing.handed import turn_like
from engine.editing.operations import Copy, Mirror, Rotate
from engine.editing.work import SAME, Work, vector
from engine.errors import ModelError
from engine.structure.axes import local_axes
from engine.structure.model import Floats

#: members that one copy may make
MOST_COPIES = 20_000


class Copying(Work):
    """The operations that make more members like those that are there."""

    def _placed(self, members: list[str], place: Callable[[Floats], Floats], turned: Floats) -> Shift:
        """Copies of members with their ends moved, and turned or mirrored with what lies along their axes."""
        made, axes = {}, {}
        for name in members:
            a, b = self.ends(name)
            like = self.like(name)
            if name not in self.stated:
                # what holds a generated member is not copied with it: only what was said by hand goes along
                edit = self.edits.get(name)
                for flange in ("restraints_outer", "restraints_inner"):
                    like[flange] = getattr(edit, flange) if edit else []
            if not np.allclose(turned, np.eye(3)):
                axes[name] = turn_like(
                    like, self.member(name), np.stack([a, b]), np.stack([place(a), place(b)]), turned
                )
            if found := self.add(self.node(place(a)), self.node(place(b)), like):
                made[name] = found.name
        return Shift(made, place, turned, axes)

    def _copy(self, o: Copy) -> None:
        step, across = np.array(o.step), np.array(o.across)
        if np.linalg.norm(step) < SAME:
            raise ModelError("The copies would lie on the members themselves; give a step.", "step")
        if o.rows and np.linalg.norm(across) < SAME:
            raise ModelError("The rows of copies would lie on one another; give a second step.", "across")
        if len(o.members) * (o.count + 1) * (o.rows + 1) > MOST_COPIES:
            raise ModelError(f"That would make more than {MOST_COPIES} members at once.", "count")
        steps = [k * step + row * across for row in range(o.rows + 1) for k in range(o.count + 1) if k or row]
        self._copied(o, [self._shifted(o.members, by) for by in steps])

    def _shifted(self, members: list[str], by: Floats) -> Shift:
        def place(p: Floats) -> Floats:
            return np.asarray(p + by)

        return self._placed(members, place, np.eye(3))

    def _copied(self, o: Copy | Mirror | Rotate, shifts: list[Shift]) -> None:
        """The supports, loads and panels of copied members on the copies, as asked."""
        for shift in shifts:
            if o.supports:
                self._copy_supports(o.members, shift)
            if o.loads:
                self._copy_loads(shift)
        if o.panels:
            copy_panels(self, o.members, shifts, o.loads)

    def _copy_loads(self, shift: Shift) -> None:
        """The loads of copied members and of the nodes at their ends, on the copies."""
        made, place, turned = shift.made, shift.place, shift.turned
        ends = [self.member(name).nodes[:: len(self.member(name).nodes) - 1] for name in made]
        places = {self.structure.nodes[n]: self.structure.xyz[n] for nodes in ends for n in nodes}
        # a couple is an axial vector: mirrored it turns the other way round
        couple = turned * round(float(np.linalg.det(turned)))
        copies = []
        for load in self.document.member_loads:
            if not {load.member, *load.run} <= made.keys():
                continue
            update: dict[str, Any] = {"member": made[load.member], "run": [made[name] for name in load.run]}
            if load.member in shift.axes:
                if load.kind == "temperature":
                    # the differences lie along the member's own axes
                    update["value"] = vector(shift.axes[load.member] @ np.array(load.value))
                else:
                    update |= self._turned_load(load, couple if load.kind == "moment" else turned)
            copies.append(load.model_copy(update=update))
        self.document.member_loads += copies
        self.document.node_loads += [
            load.model_copy(
                update={
                    "node": self.node(place(places[load.node])),
                    "force": vector(turned @ np.array(load.force)),
                    "moment": vector(couple @ np.array(load.moment)),
                }
            )
            for load in list(self.document.node_loads)
            if load.node in places
        ]
        # only what is held can be moved
        held = {support.node for support in self.document.supports}
        settled = {(move.case, move.node) for move in self.document.settlements}
        for move in list(self.document.settlements):
            node = self.node(place(places[move.node])) if move.node in places else ""
            if node in held and (move.case, node) not in settled:
                movement = vector(turned @ np.array(move.movement))
                self.document.settlements.append(move.model_copy(update={"node": node, "movement": movement}))

    def _turned_load(self, load: MemberLoad, turned: Floats) -> dict[str, Any]:
        """What a load becomes on a turned or mirrored copy: along the member's own axes it is stated in global ones from now on, and so is one
        per metre of plan where its parts no longer lie along the axes."""
        start, end = self.ends(load.member)
        values = [np.array(value) for value in (load.value, load.value_end) if value is not None]
        axes = "global"
        if load.axes == "local":
            own = local_axes(start[None], end[None], np.array([self.member(load.member).roll]))[0]
            new = [turned @ own.T @ value for value in values]
        elif load.axes == "projected":
            along = (end - start) / np.linalg.norm(end - start)
            before, after = (np.sqrt(np.clip(1 - way**2, 0.0, 1.0)) for way in (along, np.abs(turned) @ np.abs(along)))
            new = [turned @ value for value in values]
            level = [turned @ (value * before) for value in values]
            if all(np.allclose(one * after, other, atol=1e-9) for one, other in zip(new, level, strict=True)):
                axes = "projected"
            else:
                new = level
        else:
            new = [turned @ value for value in values]
        return {"axes": axes} | dict(zip(("value", "value_end"), map(vector, new), strict=False))

    def _copy_supports(self, members: list[str], shift: Shift) -> None:
        place = shift.place
        held = self.structure.fixed.any(axis=1) | (self.structure.springs != 0).any(axis=1)
        there, lines = {s.node for s in self.document.supports}, self._lines(set(shift.made.values()))
        for node in {n for name in members for n in (self.member(name).nodes[0], self.member(name).nodes[-1])}:
            if held[node]:
                at = place(self.structure.xyz[node])
                if _on_steel(at, lines):
                    continue
                target = self.node(at)
                if target in there:
                    continue
                there.add(target)
                self.document.supports.append(turned_support(self.support_like(node, target), shift.turned))

    def _lines(self, but: set[str]) -> tuple[Floats, Floats]:
        """The lower and the upper ends of all members but some, (n, 3) each."""
        lines = [(self.at[m.start], self.at[m.end]) for m in self.document.members if m.name not in but]
        lines += [(a, b) for a, b in (self.ends(m.name) for m in self.structure.members if m.jig)]
        ends = np.array(lines).reshape(-1, 2, 3)
        down = ends[:, 0, 2] > ends[:, 1, 2]
        ends[down] = ends[down][:, ::-1]
        return ends[:, 0], ends[:, 1]

    def _mirror(self, o: Mirror) -> None:
        axis = "XYZ".index(o.axis)

        def place(p: Floats) -> Floats:
            q = p.copy()
            q[axis] = 2 * o.at - q[axis]
            return q

        mirrored = np.eye(3)
        mirrored[axis, axis] = -1.0
        self._copied(o, [self._placed(o.members, place, mirrored)])

    def _rotate(self, o: Rotate) -> None:
        shifts = []
        for k in range(1, o.count + 1):
            angle = np.radians(o.angle * k)
            R, centre = _rotation(o.axis, angle), np.array(o.about)

            def place(p: Floats, R: Floats = R, centre: Floats = centre) -> Floats:
                moved: Floats = centre + R @ (p - centre)
                return moved

            shifts.append(self._placed(o.members, place, R))
        self._copied(o, shifts)


def _on_steel(at: Floats, lines: tuple[Floats, Floats]) -> bool:
    """Whether a place lies on a member that does not rise from it: what has its foot there stands on steel."""
    low, high = lines
    along = high - low
    rises = (np.abs(low - at).max(axis=1) < SAME) & (high[:, 2] > low[:, 2] + SAME)
    share = ((at - low) * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), 1e-12)
    off = np.linalg.norm(low + np.clip(share, 0.0, 1.0)[:, None] * along - at, axis=1)
    return bool(((off < SAME) & ~rises).any())


def _rotation(axis: str, angle: float) -> Floats:
    c, s = np.cos(angle), np.sin(angle)
    if axis == "Z":
        return np.array([[c, -s, 0], [s, c, 0], [0, 0, 1.0]])
    if axis == "Y":
        return np.array([[c, 0, s], [0, 1.0, 0], [-s, 0, c]])
    return np.array([[1.0, 0, 0], [0, c, -s], [0, s, c]])
