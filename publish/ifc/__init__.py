"""IFC4, out and in."""
