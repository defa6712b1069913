"""A drawing taken in: lines on layers become members, circles with texts the grid; what is guessed can be settled layer by layer."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.sections import section as section_named
from engine.catalogue.steels import STRENGTH
from engine.document import FORMAT_VERSION
from engine.errors import ModelError
from engine.structure.model import Floats
from engine.structure.words import ROLE_WORDS
from publish.dxf.bubbles import bubbles, grid_of
from publish.dxf.lines import Lines, lines_of, some_kinds
from publish.dxf.members import FEET, ROLES, SECTIONS, USUAL, feet_of, members_of, role_by_way
from publish.meet import GAPS, Met, meet
from publish.meet import said as words_of
from publish.taken import FileChoice, Reader, Settled, Taken, counted, some
from publish.words import role_in, section_in

#: $INSUNITS -> unit; metres in it, and what one is called
BY_NUMBER = {1: "in", 2: "ft", 4: "mm", 5: "cm", 6: "m", 14: "dm"}
UNITS = {
    "mm": (0.001, "millimetres"),
    "cm": (0.01, "centimetres"),
    "dm": (0.1, "decimetres"),
    "m": (1.0, "metres"),
    "in": (0.0254, "inches"),
    "ft": (0.3048, "feet"),
}
#: without a unit, a drawing larger than this is in millimetres
LARGE = 300.0
#: flatter than this is flat, in metres
FLAT = 0.002
#: farther than this from the origin a model in space is brought near, in metres
FAR = 1000.0
VIEWS = {
    "space": "a model in space, Z upwards",
    "elevation": "an elevation, Y upwards: it becomes a frame",
    "plan": "a plan at one level",
}
FEET_WORDS = {"pinned": "pinned", "fixed": "fixed", "none": "none: supports are put by hand"}
BEHAVES = {
    "usual": "as usual for the role",
    "beam": "rigidly joined",
    "bar": "hinged bar",
    "tension-only": "tension only",
    "compression-only": "compression only",
}
LEAVE_OUT = ""
MOST_LAYERS = 100


def taken(data: bytes, settled: Settled, name: str = "Drawing") -> Taken:
    """The document that a drawing becomes. Raises ModelError with one sentence for a file that is none, or holds no line."""
    return _Reader(lines_of(data), settled).read(name)


class _Reader(Reader):
    def __init__(self, found: Lines, settled: Settled) -> None:
        super().__init__(settled)
        self.found = found

    def read(self, name: str) -> Taken:
        grid = bubbles(self.found)
        on_grid = np.zeros(len(self.found.layers), dtype=bool)
        on_grid[[line for _, line in grid]] = True
        scale = self.unit()
        ends = self.found.ends * scale
        view = self.view(ends)
        ends = _placed(ends, view)
        self.options(view)
        made = self.layers(ends, on_grid)
        steel = np.array([k for k, one in enumerate(made) if one], dtype=np.int64)
        if not len(steel):
            self.taken.problems.append("No layer is taken as steel: give one a role.")
            return self.taken
        ends = self.moved(ends, steel, view)
        met = meet(ends[steel], GAPS[self.value("", "gap")])
        if not len(met.kept):
            self.taken.problems.append(
                "No line is longer than the gap that joins ends: look at the unit of the drawing."
            )
            return self.taken
        self.document(name, met, [made[k] or {} for k in steel[met.kept].tolist()], view)
        self.taken.document["grid"] = grid_of(self.found, grid, ends, view)
        self.told(met, len(grid))
        return self.taken

    def unit(self) -> float:
        """Metres in the drawing's unit."""
        stated = BY_NUMBER.get(self.found.unit)
        extent = float(np.ptp(self.found.ends.reshape(-1, 3), axis=0).max())
        guess = stated or ("mm" if extent > LARGE else "m")
        unit = self.choose("", "unit", "Unit of the drawing", guess, {key: words for key, (_, words) in UNITS.items()})
        if stated and unit == stated:
            self.taken.understood.append(f"The drawing is in {UNITS[unit][1]}, as its head says.")
        elif ("", "unit") not in self.settled:
            self.taken.guessed.append(
                f"The drawing names no unit that is known here; it is {extent:g} across, and taken to be in {UNITS[unit][1]}."
            )
        return UNITS[unit][0]

    def view(self, ends: Floats) -> str:
        flat = float(np.ptp(ends[..., 2])) < FLAT
        guess = "elevation" if flat else "space"
        view = self.choose("", "view", "The drawing is", guess, VIEWS)
        if flat and ("", "view") not in self.settled:
            self.taken.guessed.append("The drawing is flat, and taken for an elevation: a frame in the plane Y = 0.")
        return view

    def options(self, view: str) -> None:
        self.choose("", "gap", "Ends that meet are within", "10", {key: f"{key} mm" for key in GAPS})
        self.choose("", "feet", "Feet of columns", "none" if view == "plan" else "pinned", FEET_WORDS)
        self.choose("", "grade", "Grade of the steel", "S355", {grade: grade for grade in STRENGTH})
        if view == "elevation":
            words = {"held": "every node is held along Y", "free": "nothing: it is braced by hand"}
            self.choose("", "sideways", "What holds the frame sideways", "held", words)

    def layers(self, ends: Floats, on_grid: np.ndarray[tuple[int], np.dtype[np.bool_]]) -> list[dict[str, str] | None]:
        """What each line becomes, None where it is left out; a choice for each layer with lines that are not of the grid."""
        own = np.array(self.found.layers)
        made: list[dict[str, str] | None] = [None] * len(own)
        names = list(dict.fromkeys(own[~on_grid].tolist()))
        if len(names) > MOST_LAYERS:
            raise ModelError(
                f"The drawing has lines on {len(names)} layers; up to {MOST_LAYERS} are taken in. Leave out what is no steel."
            )
        for layer in names:
            lines = np.flatnonzero((own == layer) & ~on_grid)
            what = self.layer(layer, ends[lines])
            for k in lines.tolist():
                made[k] = what
        return made

    def layer(self, layer: str, ends: Floats) -> dict[str, str] | None:
        by_name, hidden = role_in(layer), layer in self.found.hidden
        guess = LEAVE_OUT if hidden else role_by_way(ends) if by_name is None else by_name
        roles = {LEAVE_OUT: "Leave out"} | {role: ROLE_WORDS[role][1] for role in ROLES}
        aside = f"{counted(len(ends), 'line')}, {float(np.linalg.norm(ends[:, 1] - ends[:, 0], axis=1).sum()):.1f} m"
        role = self.choose(layer, "role", "Becomes", guess, roles, aside)
        if role == LEAVE_OUT:
            why = ", which is off" if hidden else ""
            self.taken.left_out.append(f"{counted(len(ends), 'line')} on layer {layer}{why}.")
            return None
        named = section_in(layer)
        section = self.settled.get((layer, "section"), named or SECTIONS.get(role, USUAL))
        section_named(section, f"{layer}.section")
        self.taken.choices.append(FileChoice(layer, "section", "Section", section, kind="section"))
        behaviour = self.choose(layer, "behaviour", "Joined", "usual", BEHAVES)
        guesses = []
        if (layer, "role") not in self.settled:
            how = "its name" if by_name else "how its lines run"
            guesses.append(f"is taken for {ROLE_WORDS[role][1].lower()}, by {how}")
        if (layer, "section") not in self.settled and named is None:
            guesses.append(f"names no section of the catalogue: {section}, to be chosen")
        if guesses:
            self.taken.guessed.append(f"Layer {layer} {'; it '.join(guesses)}.")
        return {"role": role, "section": section, "behaviour": behaviour}

    def moved(self, ends: Floats, steel: Any, view: str) -> Floats:
        """Brought to the origin: a flat drawing by its steel's lower left corner, one in space where it is far off."""
        corner = ends[steel].reshape(-1, 3).min(axis=0)
        if view == "space":
            corner = np.where(np.abs(corner) > FAR, corner, 0.0)
        if view == "plan":
            corner[2] = 0.0
        if np.abs(corner).max() > FLAT:
            words = ", ".join(f"{axis} {-v:+.3f} m" for axis, v in zip("XYZ", corner, strict=True) if abs(v) > FLAT)
            self.taken.guessed.append(f"The drawing is moved by {words}, so that it begins at the origin.")
        moved: Floats = ends - corner
        return moved

    def document(self, name: str, met: Met, made: list[dict[str, str]], view: str) -> None:
        members = members_of(met, made, self.value("", "grade"))
        feet, which = feet_of(met, [one["role"] for one in made])
        fixed = FEET[self.value("", "feet")]
        supports: dict[int, list[str]] = dict.fromkeys(feet, fixed) if fixed else {}
        if view == "elevation" and self.value("", "sideways") == "held":
            for k in range(len(met.nodes)):
                supports.setdefault(k, ["y"])
            self.taken.guessed.append(
                "Every node is held sideways, along Y, by a support of its own, as if bracing were there: verdicts hold only where it is."
            )
        if feet and fixed:
            self.taken.guessed.append(f"{counted(len(feet), 'foot is', 'feet are')} {self.value('', 'feet')}: {which}.")
        self.taken.document = {
            "version": FORMAT_VERSION,
            "name": name[:80] or "Drawing",
            "nodes": [{"name": f"n{k + 1}", "at": at} for k, at in enumerate(met.nodes.round(6).tolist())],
            "members": members,
            "supports": [{"node": f"n{k + 1}", "fixed": own} for k, own in sorted(supports.items())],
        }

    def told(self, met: Met, grid: int) -> None:
        said, left, guessed = self.taken.understood, self.taken.left_out, self.taken.guessed
        said.append(f"{counted(len(met.kept), 'line')} for members, with {counted(len(met.nodes), 'node')}.")
        if self.taken.document["grid"]:
            said.append(f"Grid lines {some([g['name'] for g in self.taken.document['grid']], 12)}, by their circles.")
        elif grid:
            left.append("Grid lines that run neither across nor along.")
        joined, lost = words_of(met)
        guessed += joined
        left += lost
        guessed.append("Beams are joined rigidly where they meet; there are no loads in such a file.")
        if self.found.others:
            left.append(f"{some_kinds(self.found.others)}: only straight lines become members.")
        left.append(
            "What holds the flanges of members sideways, haunches, releases and turned sections: such a file does not bear them. Until "
            "restraints are put, members count as held at their ends alone."
        )


def _placed(ends: Floats, view: str) -> Floats:
    """In the building's axes: an elevation stands up."""
    return ends[..., [0, 2, 1]] * np.array([1.0, 0.0, 1.0]) if view == "elevation" else ends
