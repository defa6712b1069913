"""A document being changed by hand: its names and places as they stood, and the means to add to it."""

from __future__ import annotations

from collections.abc import Container
from itertools import product
from typing import Any

import numpy as np

from engine.document import Document
from engine.document.byhand import MemberEdit, MemberInput, NodeInput, OwnChecks, SupportInput
from engine.errors import ModelError
from engine.expand import expand
from engine.structure.model import FREEDOMS, Floats, Member, Structure

#: places nearer than this are one, in metres
SAME = 1e-3
#: places are looked for in cells as wide as that, m
CELL = 0.05


def vector(value: Floats) -> tuple[float, float, float]:
    """A place or direction as documents state it."""
    x, y, z = (round(float(v), 9) for v in value)
    return (x, y, z)


class Work:
    """A document being changed, with its structure as it stood, set out anew where it is not given."""

    def __init__(self, document: Document, structure: Structure | None = None) -> None:
        self.document = document.model_copy(deep=True)
        self.structure = structure or expand(document)
        self.stated = {m.name: m for m in self.document.members}
        self.nodes = {n.name: n for n in self.document.nodes}
        every = dict(zip(self.structure.nodes, self.structure.xyz, strict=True))
        # where members were cut alone a node is stated once something is asked of it
        self.passing = {name: every[name] for name in self.structure.passing}
        self.at = {name: place for name, place in every.items() if name not in self.passing}
        self.at |= {name: self.at[other] for name, other in self.structure.aliases.items()}
        self._numbers: dict[str, int] = {}
        self._cells: dict[tuple[int, int, int], list[str]] = {}
        for name, place in self.at.items():
            self._remember(name, place)
        self.edits = {e.member: e for e in self.document.edits}

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

    def fresh(self, letter: str, *taken: Container[str]) -> str:
        """A letter with the next number that nothing bears."""
        number = self._numbers.get(letter, 1)
        while any(f"{letter}{number}" in names for names in taken):
            number += 1
        # what is given away is taken: no need to count to it again
        self._numbers[letter] = number
        return f"{letter}{number}"

    def _remember(self, name: str, place: Floats) -> None:
        x, y, z = np.floor(place / CELL).astype(int).tolist()
        self._cells.setdefault((x, y, z), []).append(name)

    def stands(self, at: Floats) -> str | None:
        """The node that stands at a place."""
        low, high = np.floor((at - SAME) / CELL).astype(int).tolist(), np.floor((at + SAME) / CELL).astype(int).tolist()
        for cell in product(*({a, b} for a, b in zip(low, high, strict=True))):
            for name in self._cells.get(cell, ()):
                if np.abs(self.at[name] - at).max() < SAME:
                    return name
        return None

    def node(self, at: Floats) -> str:
        """The node at a place: one that stands there, or a new one."""
        near = self.stands(at)
        if near is not None:
            return near
        name = self.fresh("n", self.at)
        self.document.nodes.append(NodeInput(name=name, at=vector(at)))
        self.nodes[name] = self.document.nodes[-1]
        self.at[name] = np.asarray(at, dtype=float)
        self._remember(name, self.at[name])
        return name

    def point(self, of: str | tuple[float, float, float], path: str) -> str:
        """The node of a name, or at a place. path: where that is said."""
        if not isinstance(of, str):
            return self.node(np.array(of, dtype=float))
        return self.standing(of, path)

    def standing(self, name: str, path: str = "nodes") -> str:
        """The node of a name. path: where that is said. Raises ModelError when there is none."""
        if name in self.passing:
            return self.node(self.passing[name])
        if name not in self.at:
            raise ModelError(f"There is no node “{name}”.", path)
        return name

    def add(self, start: str, end: str, like: dict[str, Any]) -> MemberInput | None:
        """A new member by hand; none where its ends coincide."""
        if start == end:
            return None
        name = self.fresh("m", self.structure.index, self.stated)
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
            "bears_at": m.bears_at,
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

    def support_like(self, node: int, name: str) -> SupportInput:
        """A support for the node of a name that holds it as another node is held."""
        s, force = self.structure, self.document.force
        held: dict[str, Any] = {
            "fixed": [f for f, there in zip(FREEDOMS, s.fixed[node], strict=True) if there],
            "springs": {f: k / force for f, k in s.sprung(node).items()},
            "one_way": [f for f, there in zip(FREEDOMS, s.one_way[node], strict=True) if there],
            "turn": round(float(np.degrees(s.turn[node])), 9),
            "settlement": vector(s.settlement[node]),
        }
        if pad := s.pads.get(node):
            held["footing"] = vars(pad) | {"subgrade": pad.subgrade / 1000}
        return SupportInput.model_validate({"node": name, **held})


def _releases(m: Member, force: float) -> dict[str, Any]:
    return {
        "start": sorted(m.release_start),
        "end": sorted(m.release_end),
        "start_springs": {f: k / force for f, k in m.springs_start},
        "end_springs": {f: k / force for f, k in m.springs_end},
    }
