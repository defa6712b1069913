"""Spreadsheets and tables: those of a dossier and of a model out, nodes, members, supports and loads in."""
