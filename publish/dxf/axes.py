"""The axes of a model as DXF: a line in space for each member, in millimetres, on a layer of its role and section."""

from __future__ import annotations

import io

from ezdxf import filemanagement, units

from engine.structure.model import Structure
from publish.words import layer_of

#: of layers, of the index
COLOURS = (1, 2, 3, 4, 5, 6, 30, 40, 90, 140, 170, 200)


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
    file = io.StringIO()
    document.write(file)
    return file.getvalue().encode()
