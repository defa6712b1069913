"""The same document with its forces in kilonewtons: the unit that the workbench shows and takes."""

from __future__ import annotations

from typing import Any

from engine.document import Document

#: per list of a document the fields that hold forces, stiffnesses or stresses
_FORCES = {
    "materials": ("E", "G", "fy", "fu"),
    "supports": ("springs",),
    "node_loads": ("force", "moment"),
    "member_loads": ("value", "value_end"),
    "panel_loads": ("pressure",),
    "area_loads": ("pressure",),
}


def in_kilonewtons(document: Document) -> Document:
    """The document stated in "kN, m"; itself when it is already."""
    if document.units == "kN, m":
        return document
    data = document.model_dump(mode="json")
    for name, fields in _FORCES.items():
        for item in data[name]:
            if item.get("kind") == "temperature":
                continue
            for field in fields:
                item[field] = _scaled(item[field])
    for member in (*data["members"], *data["edits"]):
        for end in ("start_springs", "end_springs"):
            if member["releases"]:
                member["releases"][end] = _scaled(member["releases"][end])
    return Document.model_validate(data | {"units": "kN, m"})


def _scaled(value: Any) -> Any:
    if isinstance(value, dict):
        return {key: _scaled(item) for key, item in value.items()}
    if isinstance(value, list):
        return [_scaled(item) for item in value]
    return None if value is None else value / 1000
