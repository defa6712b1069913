"""DXF: drawings of a dossier and axes of a model out, lines and grids in."""

from publish.dxf.axes import axes
from publish.dxf.drawings import dxf
from publish.dxf.taken import taken

__all__ = ["axes", "dxf", "taken"]
