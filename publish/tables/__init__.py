"""Spreadsheets and tables: those of a dossier and of a model out, nodes, members, supports and loads in."""

from publish.tables.dossier import workbook
from publish.tables.model import model_workbook
from publish.tables.taken import taken

__all__ = ["model_workbook", "taken", "workbook"]
