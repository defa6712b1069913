"""IFC4, out and in."""

from publish.ifc.out import ifc
from publish.ifc.taken import Taken, taken

__all__ = ["Taken", "ifc", "taken"]
