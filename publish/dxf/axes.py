"""The axes of a model as DXF: a line in space for each member, in millimetres, on a layer of its role and section; its grid lines with their
bubbles, and its levels as words at their heights."""

from __future__ import annotations

import io

import numpy as np
from ezdxf import filemanagement, units
from ezdxf.enums import TextEntityAlignment
from ezdxf.layouts.layout import Modelspace

from engine.structure.model import Structure
from publish.words import layer_of

#: of layers, of the index
COLOURS = (1, 2, 3, 4, 5, 6, 30, 40, 90, 140, 170, 200)

#: how far grid lines reach beyond the steel, and the radius of their bubbles, mm
BEYOND, RADIUS = 2000.0, 500.0


def axes(structure: Structure) -> bytes:
    """Members as lines from node to node; rigid links are none."""
    document = filemanagement.new("R2010", units=units.MM)
    space = document.modelspace()
    for m in structure.members:
        if m.behaviour == "rigid link":
            continue
        layer = layer_of(m.role, m.section.name)
        if layer not in document.layers:
            document.layers.add(layer, color=COLOURS[len(document.layers) % len(COLOURS)])
        ends = structure.xyz[[m.nodes[0], m.nodes[-1]]] * 1000.0
        space.add_line(ends[0].tolist(), ends[1].tolist(), dxfattribs={"layer": layer})
    _grid(space, structure)
    file = io.StringIO()
    document.write(file)
    return file.getvalue().encode()


def _grid(space: Modelspace, structure: Structure) -> None:
    """Grid lines at the lowest level, and levels."""
    if not len(structure.xyz):
        return
    low, high = structure.xyz.min(axis=0) * 1000.0, structure.xyz.max(axis=0) * 1000.0
    grid = {"layer": "Grid"}
    for line in structure.grid:
        k = 0 if line.axis == "X" else 1
        ends = np.array([low, high])
        ends[:, 2], ends[:, k] = low[2], line.at * 1000.0
        ends[:, 1 - k] += (-BEYOND, BEYOND)
        centre = ends[1].copy()
        centre[1 - k] += RADIUS
        space.add_line(ends[0].tolist(), ends[1].tolist(), grid)
        space.add_circle(centre.tolist(), RADIUS, grid)
        name = space.add_text(line.name, height=RADIUS * 0.8, dxfattribs=grid)
        name.set_placement(centre.tolist(), align=TextEntityAlignment.MIDDLE_CENTER)
    for level in structure.levels:
        words = space.add_text(f"{level.height:+.2f} {level.name}", height=RADIUS * 0.6, dxfattribs={"layer": "Levels"})
        words.set_placement((low[0] - BEYOND, low[1] - BEYOND, level.height * 1000.0))
