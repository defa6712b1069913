"""Drawings of a dossier as DXF: each to its true size in millimetres, side by side, what strokes stand for on layers of their own."""

from __future__ import annotations

import io

from ezdxf import filemanagement, units
from ezdxf.enums import TextEntityAlignment
from ezdxf.layouts.layout import Modelspace

from engine.dossier.drawing import Drawing, Point, Style
from engine.dossier.values import Dossier, Figure

#: style -> layer, colour (of the index), kind of line, weight in hundredths of a millimetre
LAYERS: dict[Style, tuple[str, int, str, int]] = {
    "steel": ("STEEL", 7, "CONTINUOUS", 25),
    "axis": ("AXES", 8, "CENTER", 13),
    "dimension": ("DIMENSIONS", 3, "CONTINUOUS", 13),
    "ground": ("GROUND", 8, "CONTINUOUS", 35),
    "restraint": ("SUPPORTS", 1, "CONTINUOUS", 18),
    "diagram": ("FORCES", 5, "CONTINUOUS", 18),
    "load": ("LOADS", 1, "CONTINUOUS", 18),
    "pressure": ("LOAD AREAS", 1, "CONTINUOUS", 18),
    "zone": ("ZONES", 4, "CONTINUOUS", 18),
    "failing": ("FAILING", 1, "CONTINUOUS", 50),
    "uncovered": ("NOT COVERED", 2, "DASHED", 35),
    "outline": ("SYSTEM LINES", 8, "CONTINUOUS", 35),
}
TEXT = "TEXT"
_ALIGN = {
    "start": TextEntityAlignment.LEFT,
    "middle": TextEntityAlignment.CENTER,
    "end": TextEntityAlignment.RIGHT,
}
#: between two drawings, mm of paper
GAP = 20.0


def dxf(dossier: Dossier) -> bytes:
    """All drawings of a dossier that are to scale."""
    document = filemanagement.new("R2010", setup=["linetypes"], units=units.MM)
    for layer, colour, kind, weight in LAYERS.values():
        document.layers.add(layer, color=colour, linetype=kind, lineweight=weight)
    document.layers.add(TEXT, color=7)
    along = 0.0
    for chapter in dossier.chapters:
        for block in chapter.blocks:
            if isinstance(block, Figure):
                _draw(document.modelspace(), block.drawing, along)
                along += (block.drawing.width + GAP) * block.drawing.scale
    file = io.StringIO()
    document.write(file)
    return file.getvalue().encode()


def _draw(space: Modelspace, drawing: Drawing, along: float) -> None:
    scale = drawing.scale

    def at(point: Point) -> Point:
        return (point[0] * scale + along, point[1] * scale)

    for stroke in drawing.strokes:
        for ring in (stroke.points, *stroke.holes):
            layer = {"layer": LAYERS[stroke.style][0]}
            space.add_lwpolyline([at(p) for p in ring], close=stroke.closed, dxfattribs=layer)
    for circle in drawing.circles:
        space.add_circle(at(circle.at), circle.radius * scale, dxfattribs={"layer": LAYERS[circle.style][0]})
    for words in drawing.words:
        text = space.add_text(
            words.words, height=words.size * scale * 0.72, rotation=words.angle, dxfattribs={"layer": TEXT}
        )
        text.set_placement(at(words.at), align=_ALIGN[words.align])
    title = space.add_text(f"{drawing.title}, 1:{scale}", height=3.5 * scale, dxfattribs={"layer": TEXT})
    title.set_placement(at((0.0, drawing.height + 6.0)))
