"""IFC4, out and in."""

from publish.ifc.out import ifc
from publish.ifc.taken import taken

__all__ = ["ifc", "taken"]
