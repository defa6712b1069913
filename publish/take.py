"""Any file of others to what it becomes, by what it begins with."""

from __future__ import annotations

import numpy as np

from engine.document import read_document
from engine.errors import ModelError
from publish.dxf.taken import taken as drawing_taken
from publish.ifc.taken import taken as ifc_taken
from publish.picture import picture
from publish.tables.taken import taken as tables_taken
from publish.taken import Settled, Taken

KINDS = "IFC4, DXF, a spreadsheet (.xlsx) or a table (.csv)"


def take(data: bytes, name: str, settled: Settled) -> Taken:
    """The document that a file becomes, and a picture of it; what cannot be a document is told among the problems. name: of the file.
    Raises ModelError with one sentence for what is none of the kinds that are read, or cannot be read as what it is."""
    if not data.strip():
        raise ModelError("The file is empty.")
    found = _by_kind(data, name, settled)
    if found.document and not found.problems:
        try:
            read_document(found.document)
        except ModelError as error:
            found.problems.append(error.message)
    found.lines = _picture(found)
    return found


def _by_kind(data: bytes, name: str, settled: Settled) -> Taken:
    stem, _, kind = name.rpartition(".")
    stem, kind, head = stem or name, kind.lower(), data[:200].lstrip()
    if head.startswith(b"ISO-10303-21") or kind == "ifc":
        return ifc_taken(data)
    if data.startswith(b"PK\x03\x04") or kind in ("xlsx", "xlsm"):
        return tables_taken(data, settled, stem)
    if kind == "dxf" or b"Binary DXF" in data[:32] or (head.startswith(b"0") and b"SECTION" in data[:200]):
        return drawing_taken(data, settled, stem)
    if kind in ("csv", "txt", "tsv"):
        return tables_taken(data, settled, stem)
    raise ModelError(f"The file is none that can be taken in; {KINDS} can.")


def _picture(found: Taken) -> str:
    places = {node["name"]: node["at"] for node in found.document.get("nodes", ())}
    ends = [[places.get(m["start"]), places.get(m["end"])] for m in found.document.get("members", ())]
    known = np.array([pair for pair in ends if None not in pair], dtype=float).reshape(-1, 2, 3)
    return picture(known, np.zeros(len(known), dtype=bool))[0]
