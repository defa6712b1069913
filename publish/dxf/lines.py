"""What a drawing holds, in its own units: straight lines by layer, texts, circles, and what is neither."""

from __future__ import annotations

import io
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np
from ezdxf import recover
from ezdxf.disassemble import recursive_decompose
from ezdxf.document import Drawing
from ezdxf.entities.dxfentity import DXFEntity
from ezdxf.entities.dxfgfx import DXFGraphic
from ezdxf.entities.lwpolyline import LWPolyline
from ezdxf.entities.polyline import Polyline
from ezdxf.lldxf.const import DXFError
from ezdxf.lldxf.tagger import binary_tags_loader

from engine.errors import ModelError
from engine.structure.model import Floats

#: more lines than this are no frame; parts of any kind that are looked at
MOST, PARTS = 20_000, 300_000
Place = tuple[float, float, float]


@dataclass
class Lines:
    """ends: (lines, 2, 3), layers: of each line; texts: words and where; circles: centre and radius. unit: of $INSUNITS. hidden: layers
    that are off or frozen; others: what is neither, by kind and layer."""

    unit: int
    ends: Floats
    layers: list[str]
    texts: list[tuple[str, Place]] = field(default_factory=list)
    circles: list[tuple[Place, float]] = field(default_factory=list)
    hidden: set[str] = field(default_factory=set)
    others: Counter[tuple[str, str]] = field(default_factory=Counter)


def lines_of(data: bytes) -> Lines:
    """Read a drawing's model space, blocks taken apart. Raises ModelError with one sentence for what is none, or holds no line."""
    try:
        if b"Binary DXF" in data[:32]:
            document = Drawing.load(binary_tags_loader(data))
        else:
            document, _ = recover.read(io.BytesIO(data))
    except (DXFError, OSError, ValueError, LookupError, TypeError, AttributeError, AssertionError) as error:
        raise ModelError(f"The file cannot be read as DXF ({type(error).__name__}).") from error
    found = Lines(int(document.header.get("$INSUNITS", 0) or 0), np.empty((0, 2, 3)), [])
    found.hidden = {layer.dxf.name for layer in document.layers if layer.is_off() or layer.is_frozen()}
    ends: list[tuple[Place, Place]] = []
    for number, entity in enumerate(_parts(document)):
        if number > PARTS:
            raise ModelError(f"The drawing holds more than {PARTS} parts, blocks taken apart.")
        for start, end in _straight(entity, found):
            ends.append((start, end))
            found.layers.append(str(entity.dxf.layer))
        if len(ends) > MOST:
            raise ModelError(f"The drawing holds more than {MOST} lines; leave out of it what is no axis of a member.")
    if not ends:
        what = some_kinds(found.others) or "nothing that is drawn"
        raise ModelError(f"The drawing holds no straight line in its model space; it holds {what}.")
    found.ends = np.array(ends, dtype=float)
    if not np.all(np.isfinite(found.ends)) or float(np.abs(found.ends).max()) > 1e12:
        raise ModelError("The drawing holds a line whose ends are no places.")
    return found


def some_kinds(others: Counter[tuple[str, str]]) -> str:
    """“12 HATCH, 3 SPLINE”."""
    kinds: Counter[str] = Counter()
    for (kind, _), count in others.items():
        kinds[kind] += count
    return ", ".join(f"{count} {kind}" for kind, count in kinds.most_common(8))


def _parts(document: Drawing) -> Iterator[DXFEntity]:
    try:
        yield from recursive_decompose(document.modelspace())
    except (DXFError, ValueError, LookupError, TypeError, AttributeError, AssertionError, RecursionError) as error:
        raise ModelError(f"A block of the drawing cannot be taken apart ({type(error).__name__}).") from error


def _straight(entity: DXFEntity, found: Lines) -> Iterator[tuple[Place, Place]]:
    """The straight lines of one thing; what else it is is noted."""
    kind = entity.dxftype()
    if kind == "LINE":
        yield _place(entity.dxf.start), _place(entity.dxf.end)
    elif isinstance(entity, LWPolyline | Polyline) and _is_run(entity):
        yield from _run(entity, found)
    elif kind == "CIRCLE":
        found.circles.append((_place(entity.dxf.center), float(entity.dxf.radius)))
    elif kind in ("TEXT", "MTEXT", "ATTRIB"):
        words = entity.plain_text() if hasattr(entity, "plain_text") else str(entity.dxf.text)
        found.texts.append((words.strip(), _place(_middle(entity))))
    elif isinstance(entity, DXFGraphic):
        found.others[(kind, str(entity.dxf.layer))] += 1


def _is_run(entity: LWPolyline | Polyline) -> bool:
    return isinstance(entity, LWPolyline) or entity.is_2d_polyline or entity.is_3d_polyline


def _run(entity: LWPolyline | Polyline, found: Lines) -> Iterator[tuple[Place, Place]]:
    """The straight parts of a polyline, in the world's axes; arcs of it are noted."""
    if isinstance(entity, LWPolyline):
        points = [_place(p) for p in entity.vertices_in_wcs()]
        bulges = [float(p[-1]) for p in entity.get_points("xyb")]
        closed = entity.closed
    else:
        points = [_place(p) for p in entity.points_in_wcs()]
        bulges = [float(v.dxf.get("bulge", 0.0)) for v in entity.vertices]
        closed = entity.is_closed
    following = points[1:] + points[:1] if closed else points[1:]
    for start, end, bulge in zip(points, following, bulges, strict=False):
        if bulge:
            found.others[("ARC of a polyline", str(entity.dxf.layer))] += 1
        else:
            yield start, end


def _middle(entity: DXFEntity) -> object:
    """Where a text is put: its second point where it is not set from the left."""
    if entity.dxf.hasattr("align_point") and (entity.dxf.get("halign", 0) or entity.dxf.get("valign", 0)):
        return entity.dxf.align_point
    return entity.dxf.insert


def _place(point: object) -> Place:
    x, y, *z = (float(v) for v in point)  # type: ignore[attr-defined]
    return x, y, z[0] if z else 0.0
