"""Copying members by hand: along a line, in rows, mirrored, turned, with what holds and what loads them."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from engine.document.loads import MemberLoad
from engine.editing.copied_panels import Shift, copy_panels
from engine.editing.operations import Copy, Mirror, Rotate
from engine.editing.work import SAME, Work, vector
from engine.errors import ModelError
from engine.structure.axes import local_axes
from engine.structure.model import Floats

#: members that one copy may make
MOST_COPIES = 20_000


class Copying(Work):
    """The operations that make more members like those that are there."""

    def _placed(
        self, members: list[str], place: Callable[[Floats], Floats], turn: Callable[[dict[str, Any], str], None]
    ) -> dict[str, str]:
        """Copies of members with their ends moved; gives their names by those of the members."""
        made = {}
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
                made[name] = found.name
        return made

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

        return Shift(self._placed(members, place, lambda like, name: None), place, np.eye(3))

    def _copied(self, o: Copy | Mirror | Rotate, shifts: list[Shift]) -> None:
        """The supports, loads and panels of copied members on the copies, as asked."""
        for shift in shifts:
            if o.supports:
                self._copy_supports(o.members, shift.place, shift.turned)
            if o.loads:
                self._copy_loads(shift.made, shift.place, shift.turned)
        if o.panels:
            copy_panels(self, o.members, shifts, o.loads)

    def _copy_loads(self, made: dict[str, str], place: Callable[[Floats], Floats], turned: Floats) -> None:
        """The loads of copied members and of the nodes at their ends, on the copies."""
        ends = [self.member(name).nodes[:: len(self.member(name).nodes) - 1] for name in made]
        places = {self.structure.nodes[n]: self.structure.xyz[n] for nodes in ends for n in nodes}
        # a couple is an axial vector: mirrored it turns the other way round
        couple = turned * round(float(np.linalg.det(turned)))
        copies = []
        for load in self.document.member_loads:
            if not {load.member, *load.run} <= made.keys():
                continue
            update: dict[str, Any] = {"member": made[load.member], "run": [made[name] for name in load.run]}
            if load.kind != "temperature" and not np.allclose(turned, np.eye(3)):
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

    def _turned_load(self, load: MemberLoad, turned: Floats) -> dict[str, Any]:
        """What a load becomes on a turned or mirrored copy: along the member's own axes it is stated in global ones from now on."""
        if load.axes == "local":
            ends = self.ends(load.member)
            turned = turned @ local_axes(ends[:1], ends[1:], np.array([self.member(load.member).roll]))[0].T
        found = {
            key: vector(turned @ np.array(value))
            for key in ("value", "value_end")
            if (value := getattr(load, key)) is not None
        }
        return found | {"axes": "global" if load.axes == "local" else load.axes}

    def _copy_supports(self, members: list[str], place: Callable[[Floats], Floats], turned: Floats) -> None:
        held = self.structure.fixed.any(axis=1) | (self.structure.springs != 0).any(axis=1)
        there, lines = {s.node for s in self.document.supports}, self._lines()
        for node in {n for name in members for n in (self.member(name).nodes[0], self.member(name).nodes[-1])}:
            if held[node]:
                at = place(self.structure.xyz[node])
                if _on_steel(at, lines):
                    continue
                target = self.node(at)
                if target in there:
                    continue
                there.add(target)
                support = self.support_like(node, target)
                # its own x axis, wherever it points to now
                x = turned @ np.array([np.cos(np.radians(support.turn)), np.sin(np.radians(support.turn)), 0.0])
                support.turn = round(float(np.degrees(np.arctan2(x[1], x[0]))) % 180, 9)
                self.document.supports.append(support)

    def _lines(self) -> tuple[Floats, Floats]:
        """The lower and the upper ends of all members, (n, 3) each."""
        lines = [(self.at[m.start], self.at[m.end]) for m in self.document.members]
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

        def turn(like: dict[str, Any], name: str) -> None:
            like["roll"] = -like["roll"] + (180.0 if o.axis == "X" and _upright(self.ends(name)) else 0.0)

        made = self._placed(o.members, place, turn)
        mirrored = np.eye(3)
        mirrored[axis, axis] = -1.0
        self._copied(o, [Shift(made, place, mirrored)])

    def _rotate(self, o: Rotate) -> None:
        shifts = []
        for k in range(1, o.count + 1):
            angle = np.radians(o.angle * k)
            R, centre = _rotation(o.axis, angle), np.array(o.about)

            def turn(like: dict[str, Any], name: str, angle: float = float(angle)) -> None:
                if o.axis == "Z" and _upright(self.ends(name)):
                    upwards = np.sign(self.ends(name)[1][2] - self.ends(name)[0][2])
                    like["roll"] = like["roll"] + upwards * float(np.degrees(angle))

            def place(p: Floats, R: Floats = R, centre: Floats = centre) -> Floats:
                moved: Floats = centre + R @ (p - centre)
                return moved

            shifts.append(Shift(self._placed(o.members, place, turn), place, R))
        self._copied(o, shifts)


def _on_steel(at: Floats, lines: tuple[Floats, Floats]) -> bool:
    """Whether a place lies on a member that does not rise from it: what has its foot there stands on steel."""
    low, high = lines
    along = high - low
    rises = (np.abs(low - at).max(axis=1) < SAME) & (high[:, 2] > low[:, 2] + SAME)
    share = ((at - low) * along).sum(axis=1) / np.maximum((along**2).sum(axis=1), 1e-12)
    off = np.linalg.norm(low + np.clip(share, 0.0, 1.0)[:, None] * along - at, axis=1)
    return bool(((off < SAME) & ~rises).any())


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
