"""What the document states, input by input: each under a lasting name, so that a checker can tick it."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator
from itertools import groupby
from typing import Any

from engine.document import Document
from engine.document.jigs import HallJig
from engine.document.units import in_kilonewtons
from engine.dossier.values import Block, Cell, Column, Heading, Paragraph, Table

#: parts of a document with what they are called; the order is that of the tables
PARTS = {
    "site": "Site",
    "snow": "Snow",
    "wind": "Wind",
    "cladding": "Cladding",
    "rules": "Rules of proof",
    "analysis": "Analysis",
    "hall": "Hall",
    "jigs": "What is set out besides",
    "grid": "Grid lines by hand",
    "levels": "Levels by hand",
    "materials": "Materials of one's own",
    "sections": "Sections of one's own",
    "built_sections": "Built-up sections",
    "load_tables": "Tables of what purlins bear",
    "nodes": "Nodes by hand",
    "members": "Members by hand",
    "supports": "Supports by hand",
    "panels": "Panels by hand",
    "edits": "Edits of members",
    "moved_nodes": "Moved nodes",
    "panel_edits": "What panels do not rest on",
    "crane_rails": "Crane rails",
    "cases": "Cases by hand",
    "node_loads": "Loads on nodes",
    "member_loads": "Loads on members",
    "panel_loads": "Loads on panels",
    "area_loads": "Loads on areas",
    "settlements": "Settlements",
    "combinations": "Combinations by hand",
}
#: parts of the document that compute nothing, or have a table of their own (national values)
ELSEWHERE = frozenset({"format", "version", "units", "name", "sets", "views", "national", "dossier", "sizing"})
#: units of values whose field does not say so itself
UNITS = {
    "ground_snow": "kN/m²",
    "wind_speed": "m/s",
    "reference_period": "years",
    "altitude": "m",
    "bearing": "°",
    "air_density": "kg/m³",
    "pitch": "°",
    "right_pitch": "°",
    "roll": "°",
    "base_stiffness": "kNm/rad",
} | dict.fromkeys(("spread_mm", "total_mm", "variable_mm", "imposed_mm", "lasting_mm", "deflection_mm"), "mm")
METRES = frozenset(
    [
        "span",
        "spacing",
        "spacings",
        "length",
        "depth",
        "height",
        "height_support",
        "height_apex",
        "eaves_height",
        "base_level",
        "right_height",
        "right_base",
        "ridge_height",
        "ridge_at",
        "parapet",
        "distance",
        "width",
        "gap",
        "overhang",
        "level",
        "above",
        "upwind",
        "downwind",
    ]
)
#: Greek letters that fields spell out
LETTERS = {"alpha": "α", "gamma": "γ", "psi": "ψ", "xi": "ξ"}
#: rows of one part; a building drawn by hand has thousands of nodes
MOST = 400
UNIT_WORDS = "lengths in m, angles in °, forces in kN, moments in kNm, pressures in kN/m² (loads along lines of slabs in kN/m, at points in kN), strengths in kN/m², where no unit stands"


def inputs(document: Document) -> Iterator[Block]:
    """A table for each part of the document that says something: every value of what is stated once, and each item of what is listed."""
    own = in_kilonewtons(document)
    data = own.model_dump(mode="json")
    short = own.model_dump(mode="json", exclude_defaults=True)
    blank = Document(hall=HallJig()).model_dump(mode="json")
    yield Heading("Inputs", "basis.inputs", aside=UNIT_WORDS)
    yield Paragraph(
        "What is not listed here is not stated. “As proposed” is what stands where nobody states another value."
    )
    for part, title in PARTS.items():
        value = data[part]
        if not value:
            continue
        if part == "jigs":
            rows = [
                (f"{part}.{jig['name']}.{path}", f"{jig['name']} · {words}", said, "")
                for jig in value
                for path, words, said in _leaves({k: v for k, v in jig.items() if k != "name"})
            ]
        elif isinstance(value, list):
            rows = list(_items(part, short[part]))
        else:
            proposed = {path: said for path, _, said in _leaves(blank[part])}
            rows = [
                (f"{part}.{path}", words, said, "as proposed" if proposed.get(path) == said else "")
                for path, words, said in _leaves(value)
                if f"{part}.{path}" != "hall.kind"
            ]
        yield Heading(title, f"inputs.{part}", 3)
        yield _table(title, rows[:MOST])
        if len(rows) > MOST:
            yield Paragraph(
                f"{len(rows) - MOST} further ones stand in the model that goes with this document.", "missing"
            )


def _table(title: str, rows: list[tuple[str, str, str, str]]) -> Table:
    marks = any(mark for *_, mark in rows)
    columns = (Column("input", wide=True), Column("value", wide=True), *([Column("")] if marks else []))
    cells: list[tuple[Cell, ...]] = [(words, said, mark) if marks else (words, said) for _, words, said, mark in rows]
    return Table(title.lower(), columns, tuple(cells), anchors=tuple(f"input.{anchor}"[:200] for anchor, *_ in rows))


def _items(part: str, items: list[dict[str, Any]]) -> Iterator[tuple[str, str, str, str]]:
    """Items of a list, one row each: by name, edits by their member; loads, which have none, by a digest of what they say."""
    seen: set[str] = set()
    for k, item in enumerate(items, 1):
        field = next(
            (key for key in ("name", "member", "node") if isinstance(item.get(key), str) and "case" not in item), ""
        )
        rest = {key: value for key, value in item.items() if key != field}
        words = item[field] if field else f"{k}"
        key = words if field else hashlib.sha256(json.dumps(item, sort_keys=True).encode()).hexdigest()[:8]
        while key in seen:
            key += "'"
        seen.add(key)
        yield f"{part}.{key}", words, "; ".join(f"{what} {said}" for _, what, said in _leaves(rest)), ""


def _leaves(value: dict[str, Any], path: str = "", words: str = "") -> Iterator[tuple[str, str, str]]:
    """Values within: path, words, and the value as it is said. What lists things of several values has one row for each."""
    for key, inner in value.items():
        at, what = f"{path}.{key}" if path else key, f"{words} · {_words(key)}" if words else _words(key)
        if isinstance(inner, dict) and inner:
            yield from _leaves(inner, at, what)
        elif isinstance(inner, list) and inner and isinstance(inner[0], dict):
            for k, item in enumerate(inner, 1):
                yield from _leaves(item, f"{at}.{k}", f"{what} {k}")
        elif inner is not None and inner not in ([], {}, ""):
            yield at, what, _said(inner, key)


def _words(key: str) -> str:
    return " ".join(LETTERS.get(word, word) for word in key.split("_"))


def _said(value: Any, key: str) -> str:
    unit = UNITS.get(key) or ("m" if key in METRES else "")
    if isinstance(value, list):
        each = [_said(one, "") for one in value]
        # vectors stay as they are
        runs = [(one, len(list(run))) for one, run in groupby(each)] if len(each) > 3 else [(one, 1) for one in each]
        said = ", ".join(f"{count} × {one}" if count > 1 else one for one, count in runs)
    elif isinstance(value, bool):
        return "yes" if value else "no"
    elif isinstance(value, int | float):
        said = f"{value:.10g}".replace("-", "−")
    else:
        return str(value).replace("alpha_", "α_")
    return f"{said} {unit}" if unit else said
