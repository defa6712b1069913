"""The planes that a designer looks at and draws in: frames, grid lines, levels, slopes."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from engine.structure.model import Floats, Structure
from engine.structure.words import slope_words

#: nodes nearer to a plane than this lie in it, in metres
IN_PLANE = 0.01
#: upright planes without a grid line that are offered
MOST_ELEVATIONS = 40


@dataclass(frozen=True)
class Plane:
    """A plane by a point of it and two unit vectors: u to the right, v upwards on the sheet. kind: "frame" (a grid line along
    the hall), "row" (a lettered grid line), "level" or "slope". members: those that lie in it, by number. name: of a level."""

    key: str
    kind: str
    label: str
    origin: tuple[float, float, float]
    u: tuple[float, float, float]
    v: tuple[float, float, float]
    members: tuple[int, ...]
    name: str = ""


def _triple(vector: Floats) -> tuple[float, float, float]:
    x, y, z = vector.tolist()
    return (x, y, z)


def _elevations(structure: Structure, axis: int) -> list[float]:
    """Places of upright planes at right angles to X (0) or Y (1) that hold members: elevations without grid lines."""
    ends = structure.xyz[structure.ends]
    if not len(ends):
        return []
    flat = np.abs(ends[:, 0, axis] - ends[:, 1, axis]) < IN_PLANE
    places = np.unique(np.round(ends[flat, 0, axis], 3))
    return [float(at) for at in places[:MOST_ELEVATIONS]]


def planes(structure: Structure) -> list[Plane]:
    """All planes of a structure that hold a member, and all levels."""
    ends = np.array([(m.nodes[0], m.nodes[-1]) for m in structure.members], dtype=np.int64).reshape(-1, 2)
    found = []

    def add(key: str, kind: str, label: str, origin: Floats, u: Floats, v: Floats, name: str = "") -> None:
        off = np.abs((structure.xyz - origin) @ np.cross(u, v)) < IN_PLANE
        inside = np.flatnonzero(off[ends].all(axis=1)) if len(ends) else np.zeros(0, dtype=int)
        if len(inside) or kind == "level":
            found.append(Plane(key, kind, label, _triple(origin), _triple(u), _triple(v), tuple(inside.tolist()), name))

    X, Y, Z = np.eye(3)
    for line in structure.grid:
        if line.axis == "Y":
            add(f"frame-{line.name}", "frame", f"Frame on grid {line.name}", line.at * Y, X, Z)
        else:
            add(f"row-{line.name}", "row", f"Row on grid {line.name}", line.at * X, Y, Z)
    for axis, kind, words, normal, u in (("Y", "frame", "y", Y, X), ("X", "row", "x", X, Y)):
        if not any(line.axis == axis for line in structure.grid):
            for at in _elevations(structure, int(axis == "Y")):
                add(f"{kind}-at-{at:g}", kind, f"Elevation at {words} = {at:g} m", at * normal, u, Z)
    for level in structure.levels:
        add(f"level-{level.name}", "level", f"Level {level.name}", level.height * Z, X, Y, level.name)
    for panel in structure.panels:
        if panel.kind == "roof":
            c = panel.corners
            along, up = c[1] - c[0], c[3] - c[0]
            # seen from outside, as on the plan: with its ridge below where it would be a mirror image otherwise
            up = up if np.cross(along, up)[2] > 0 else -up
            words = slope_words(panel).replace("-", " ")
            add(
                panel.name, "slope", f"Roof slope {words}", c[0], along / np.linalg.norm(along), up / np.linalg.norm(up)
            )
    return found
