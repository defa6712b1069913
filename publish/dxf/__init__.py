"""DXF: drawings of a dossier and axes of a model out, lines and grids in."""
