"""Rows of tables to what a document states; what is wrong in a cell is told with its place."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from typing import Any, get_args

import numpy as np

from engine.catalogue.sections import section as section_named
from engine.catalogue.steels import STRENGTH
from engine.catalogue.steels import material as material_named
from engine.document.base import Behaviour, Nature
from engine.document.loads import CombinationInput
from engine.errors import ModelError
from engine.structure.words import ROLE_WORDS
from publish.dxf.members import behaviour_of, role_by_way
from publish.tables.cells import Column, number_in
from publish.tables.fields import KINDS, Field, unit_in
from publish.words import role_called, role_in, section_called

#: problems told at most
MOST = 40
FREEDOMS = ("x", "y", "z", "rx", "ry", "rz")
HOLDS = {"pinned": FREEDOMS[:3], "pin": FREEDOMS[:3], "hinged": FREEDOMS[:3], "fixed": FREEDOMS, "rigid": FREEDOMS}
YES, NO = ("1", "yes", "true", "x", "fixed", "held"), ("0", "no", "false", "", "-", "free")
USES = get_args(CombinationInput.model_fields["use"].annotation)


def _millimetres(place: tuple[float, float, float]) -> tuple[int, ...]:
    return tuple(round(v * 1000) for v in place)


def _bare(name: str) -> str:
    return name.lower().replace(" ", "")


@dataclass
class Cells:
    """One row by its fields. at: where it is, for what is said of it; factors: cells of the columns that are no field, by heading; length:
    unit of lengths where the heading has none."""

    sheet: str
    row: int
    values: dict[str, str]
    columns: dict[str, Column]
    factors: dict[str, tuple[str, Column]]
    wrong: Callable[[str], None]
    length: str

    def at(self, key: str) -> str:
        return (
            f"{self.sheet}, {self.columns[key].letters}{self.row}"
            if key in self.columns
            else f"{self.sheet}, row {self.row}"
        )

    def say(self, key: str, words: str) -> None:
        self.wrong(f"{self.at(key)}: {words}")

    def text(self, key: str) -> str:
        return self.values.get(key, "")

    def number(self, spec: Field) -> float | None:
        """In metres, kilonewtons and degrees; None where nothing stands, or no number, which is told."""
        cell = self.text(spec.key)
        if not cell:
            return None
        value = number_in(cell)
        if value is None:
            self.say(spec.key, f"{spec.words} is a number, not “{cell[:40]}”.")
            return None
        unit = self.columns[spec.key].unit or (self.length if spec.quantity == "length" else "")
        return value * (unit_in(unit, spec.quantity) or 1.0)

    def one_of(self, key: str, words: str, options: tuple[str, ...], default: str) -> str:
        cell = self.text(key).lower() or default
        if cell in options:
            return cell
        self.say(key, f"{words} is {', '.join(options)}, not “{cell[:40]}”.")
        return default


@dataclass
class Made:
    """What the rows become; unsure: kinds of which not everything was read, so that what lacks of them is not told; guessed: what they do not say, by what is assumed of it and how often."""

    wrong: Callable[[str], None]
    unsure: set[str] = field(default_factory=set)
    parts: dict[str, list[dict[str, Any]]] = field(default_factory=lambda: {kind: [] for kind in KINDS})
    names: dict[str, set[str]] = field(default_factory=dict)
    places: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    near: dict[tuple[int, ...], str] = field(default_factory=dict)
    guessed: dict[str, int] = field(default_factory=dict)

    def guess(self, words: str) -> None:
        self.guessed[words] = self.guessed.get(words, 0) + 1

    def row(self, kind: str, cells: Cells) -> None:
        """Take one row."""
        for spec in KINDS[kind].needed:
            if not cells.text(spec.key):
                cells.say(spec.key, f"{spec.words} is missing.")
                return
        found = getattr(self, f"_{kind}")(cells)
        if found is not None:
            self.parts[kind].append(found)

    def named(self, kind: str, cells: Cells, name: str) -> str:
        """A name that no other of its kind bears."""
        if name in self.names.setdefault(kind, set()):
            cells.say("name", f"there are two {KINDS[kind].words.lower()} named “{name}”.")
        self.names[kind].add(name)
        return name

    def known(self, kind: str, cells: Cells, key: str) -> str:
        name = cells.text(key)
        if name not in self.names.get(kind, ()) and kind not in self.unsure:
            cells.say(key, f"there is no {KINDS[kind].called[0]} “{name[:40]}”.")
        return name

    def numbers(self, kind: str, cells: Cells, keys: list[str]) -> list[float | None]:
        specs = {f.key: f for f in KINDS[kind].fields}
        return [cells.number(specs[key]) for key in keys]

    def _sections(self, cells: Cells) -> dict[str, Any]:
        keys = ["A", "Iy", "Iz", "It", "Iw"]
        values = dict(zip(keys, self.numbers("sections", cells, keys), strict=True))
        self.guess("A section by its properties alone is analysed, not verified")
        return {"name": self.named("sections", cells, cells.text("name"))} | {
            k: v for k, v in values.items() if v is not None
        }

    def _nodes(self, cells: Cells) -> dict[str, Any] | None:
        at = self.numbers("nodes", cells, ["x", "y", "z"])
        name = self.named("nodes", cells, cells.text("name"))
        if None in at:
            return None
        self.stand(name, (at[0] or 0.0, at[1] or 0.0, at[2] or 0.0))
        return {"name": name, "at": list(self.places[name])}

    def stand(self, name: str, place: tuple[float, float, float]) -> None:
        """Keep where a node stands; the first of those within a millimetre is met by members that say places."""
        self.places[name] = place
        self.near.setdefault(_millimetres(place), name)

    def _members(self, cells: Cells) -> dict[str, Any] | None:
        start, end = (self.end_of(cells, which) for which in ("start", "end"))
        name = self.named("members", cells, cells.text("name") or f"{cells.row}")
        if not (start and end):
            return None
        if start == end:
            cells.say("end", f"member {name} begins and ends at node {start}.")
        found: dict[str, Any] = {
            "name": name,
            "start": start,
            "end": end,
            "section": self.section(cells),
            "material": "S355",
        }
        found["material"] = self.material(cells)
        found["role"] = self.role(cells, start, end)
        found["behaviour"] = self.behaviour(cells, found["role"], found["section"])
        released = {which: self.freedoms(cells, f"released {which}") for which in ("start", "end")}
        if any(released.values()):
            found["releases"] = {which: free for which, free in released.items() if free}
        roll = self.numbers("members", cells, ["roll"])[0]
        return (
            found | ({"roll": roll} if roll else {}) | ({"group": cells.text("group")} if cells.text("group") else {})
        )

    def freedoms(self, cells: Cells, key: str) -> list[str]:
        """Directions in words, “ry rz” or “ry, rz”."""
        found = cells.text(key).lower().replace(",", " ").split()
        if not set(found) <= set(FREEDOMS):
            hint = "a support is pinned, fixed, or holds some of" if key == "fixed" else "directions are some of"
            cells.say(key, f"{hint} {' '.join(FREEDOMS)}, not “{cells.text(key)[:40]}”.")
        return found

    def end_of(self, cells: Cells, which: str) -> str | None:
        """The node at an end: by its name, else by its place, where one is made."""
        if cells.text(which):
            return self.known("nodes", cells, which)
        at = self.numbers("members", cells, [f"{which} {axis}" for axis in "xyz"])
        if None in at:
            cells.say(which, f"the member says neither which node it has at its {which} nor where that is.")
            return None
        place = (at[0] or 0.0, at[1] or 0.0, at[2] or 0.0)
        near = self.near.get(_millimetres(place))
        if near is None:
            near = f"n{len(self.places) + 1}"
            while near in self.names.get("nodes", ()):
                near += "'"
            self.names.setdefault("nodes", set()).add(near)
            self.stand(near, place)
            self.parts["nodes"].append({"name": near, "at": list(place)})
        return near

    def section(self, cells: Cells) -> str:
        name = cells.text("section")
        if name in self.names.get("sections", ()):
            return name
        found = section_called(name)
        if found is None:
            try:
                section_named(name)
            except ModelError as error:
                cells.say("section", error.message[0].lower() + error.message[1:])
        return found or name

    def behaviour(self, cells: Cells, role: str, section: str) -> str:
        """As it is stated, else as usual for the role."""
        if cells.text("behaviour"):
            return cells.one_of("behaviour", "Joined", get_args(Behaviour), "beam")
        usual = behaviour_of(role, section)
        if usual != "beam":
            self.guess(f"{ROLE_WORDS[role][1]} bear as usual: {usual}")
        return usual

    def material(self, cells: Cells) -> str:
        name = cells.text("material")
        if not name:
            self.guess("Members without a grade are S355")
            return "S355"
        found = next((g for g in STRENGTH if _bare(g) == _bare(name)), name)
        try:
            material_named(found)
        except ModelError as error:
            cells.say("material", error.message[0].lower() + error.message[1:])
        return found

    def role(self, cells: Cells, start: str, end: str) -> str:
        words = cells.text("role")
        if not words and start in self.places and end in self.places:
            found = role_by_way(np.array([[self.places[start], self.places[end]]]))
            self.guess(f"Members without a role are taken for {ROLE_WORDS[found][1].lower()} by how they run")
            return found
        if not words:
            return "member"
        role = role_called(words)
        if role is None and (role := role_in(words) or None):
            self.guess(f"“{words}” is taken for the role {role}")
        if role is None:
            cells.say("role", f"there is no role “{words[:40]}”.")
        return role or "member"

    def _supports(self, cells: Cells) -> dict[str, Any]:
        words = cells.text("fixed").lower()
        held = [k for k in FREEDOMS if cells.text(f"fixed {k}").lower() in YES]
        for k in FREEDOMS:
            if cells.text(f"fixed {k}").lower() not in (*YES, *NO):
                cells.say(f"fixed {k}", f"a direction is held or free, not “{cells.text(f'fixed {k}')[:40]}”.")
        if words in HOLDS:
            held = list(HOLDS[words])
        elif words:
            held = self.freedoms(cells, "fixed")
        elif not held:
            cells.say("node", "the support holds nothing.")
        return {"node": self.known("nodes", cells, "node"), "fixed": held}

    def _cases(self, cells: Cells) -> dict[str, Any]:
        nature = cells.one_of("nature", "Nature", get_args(Nature), "other")
        category = {"category": cells.text("category").upper()} if cells.text("category") else {}
        return {"name": self.named("cases", cells, cells.text("name")), "nature": nature} | category

    def _member_loads(self, cells: Cells) -> dict[str, Any]:
        first, last = (self.vector("member_loads", cells, name) for name in ("value", "value_end"))
        if first is None:
            cells.say("member", "the load has no value.")
        start, end = self.numbers("member_loads", cells, ["start", "end"])
        kind = cells.one_of("kind", "A load", ("line", "force", "moment"), "line")
        axes = cells.one_of("axes", "Axes", ("global", "local", "projected"), "global")
        return {
            "case": self.known("cases", cells, "case"),
            "member": self.known("members", cells, "member"),
            "kind": kind,
            "value": first or [0.0, 0.0, 0.0],
            "start": start or 0.0,
            "axes": axes,
        } | {key: value for key, value in (("value_end", last), ("end", end)) if value is not None and kind == "line"}

    def _node_loads(self, cells: Cells) -> dict[str, Any]:
        force, moment = (self.vector("node_loads", cells, name) for name in ("force", "moment"))
        if force is None and moment is None:
            cells.say("node", "the load has no value.")
        return {
            "case": self.known("cases", cells, "case"),
            "node": self.known("nodes", cells, "node"),
            "force": force or [0.0, 0.0, 0.0],
            "moment": moment or [0.0, 0.0, 0.0],
        }

    def vector(self, kind: str, cells: Cells, name: str) -> list[float] | None:
        """Three values, those that are empty 0; None where all are."""
        values = self.numbers(kind, cells, [f"{name} {axis}" for axis in "xyz"])
        return None if all(v is None for v in values) else [v or 0.0 for v in values]

    def _combinations(self, cells: Cells) -> dict[str, Any]:
        return {
            "name": self.named("combinations", cells, cells.text("name")),
            "use": cells.one_of("use", "A combination is for", USES, "strength"),
            "factors": dict(self.factors(cells)),
        }

    def factors(self, cells: Cells) -> Iterator[tuple[str, float]]:
        for case, (cell, column) in cells.factors.items():
            if cell and case in self.names.get("cases", ()):
                value = number_in(cell)
                if value is None:
                    cells.wrong(f"{cells.sheet}, {column.letters}{cells.row}: a factor is a number, not “{cell[:40]}”.")
                elif value:
                    yield case, value

    def _grid(self, cells: Cells) -> dict[str, Any]:
        axis = cells.one_of("axis", "Axis", ("x", "y"), "x").upper()
        at = self.numbers("grid", cells, ["at"])[0]
        return {"name": self.named("grid", cells, cells.text("name")), "axis": axis, "at": at or 0.0}

    def _levels(self, cells: Cells) -> dict[str, Any]:
        height = self.numbers("levels", cells, ["height"])[0]
        return {"name": self.named("levels", cells, cells.text("name")), "height": height or 0.0}
