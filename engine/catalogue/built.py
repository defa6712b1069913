"""Sections and materials that a document brings along: built up in the workshop, and own materials."""

from __future__ import annotations

from collections.abc import Mapping
from math import inf

from engine.catalogue.properties import Latticed, Section
from engine.catalogue.sections import section
from engine.catalogue.shapes.hollow import box
from engine.catalogue.shapes.i_sections import cross, welded_i
from engine.catalogue.shapes.latticed import latticed
from engine.catalogue.shapes.pairs import double
from engine.catalogue.steels import Material
from engine.errors import ModelError


def built_section(
    name: str,
    shape: str,
    sizes: Mapping[str, float],
    of: str,
    place: str,
    by: str = "",
    arrangement: str = "zigzag",
    planes: int = 2,
) -> Section:
    """A welded I, box, cross or double section, or two chords laced or battened; sizes in mm. Raises ModelError for sizes that make no
    section."""
    mm = {key: value / 1000 for key, value in sizes.items()}
    if shape in ("laced", "battened"):
        return latticed(name, _chords(name, shape, mm, of, place, by, arrangement, planes))
    if shape in ("cross", "double"):
        base = section(of, f"{place}.of")
        if shape == "cross":
            if base.shape != "I":
                raise ModelError(f"“{name}”: a cross is made of I sections, and “{of}” is none.", f"{place}.of")
            return cross(name, base)
        if base.shape not in ("angle", "channel"):
            raise ModelError(
                f"“{name}”: a double section is made of angles or channels, and “{of}” is neither.", f"{place}.of"
            )
        return double(name, base, mm["gap"])
    for key in ("h", "b", "tw", "tf"):
        if mm[key] <= 0:
            raise ModelError(f"“{name}”: {key} must be greater than 0.", f"{place}.{key}")
    thick = 2 * mm["tf"] if shape == "box" or not mm["tf2"] else mm["tf"] + mm["tf2"]
    if thick >= mm["h"]:
        raise ModelError(f"“{name}”: its flanges are thicker than its depth of {sizes['h']:g} mm.", f"{place}.h")
    webs = 2 * mm["tw"] if shape == "box" else mm["tw"]
    if webs >= min(mm["b"], mm["b2"] or mm["b"]):
        raise ModelError(f"“{name}”: its webs are wider than its flange.", f"{place}.tw")
    if shape == "box":
        return box(name, mm["h"], mm["b"], mm["tf"], mm["tw"])
    return welded_i(name, mm["h"], mm["b"], mm["tf"], mm["tw"], mm["b2"], mm["tf2"])


def _chords(
    name: str, shape: str, mm: Mapping[str, float], of: str, place: str, by: str, arrangement: str, planes: int
) -> Latticed:
    chord = section(of, f"{place}.of")
    if chord.shape not in ("channel", "I"):
        raise ModelError(f"“{name}”: its chords are channels or I sections, and “{of}” is neither.", f"{place}.of")
    for key in ("h", "panel", *(("b", "tw") if shape == "battened" else ())):
        if mm[key] <= 0:
            raise ModelError(f"“{name}”: {key} must be greater than 0.", f"{place}.{key}")
    if mm["h"] < chord.b:
        raise ModelError(f"“{name}”: its chords overlap at a distance of {mm['h'] * 1000:g} mm.", f"{place}.h")
    if shape == "battened":
        if mm["b"] >= mm["panel"]:
            raise ModelError(f"“{name}”: its battens are deeper than its panels are long.", f"{place}.b")
        return Latticed(chord, mm["h"], mm["panel"], None, arrangement, planes, (mm["b"], mm["tw"]))
    lacing = section(by, f"{place}.by")
    if lacing.shape not in ("angle", "flat", "round", "channel", "tee"):
        raise ModelError(
            f"“{name}”: lacing is of angles, flats, rounds, channels or tees; “{by}” is none.", f"{place}.by"
        )
    return Latticed(chord, mm["h"], mm["panel"], lacing, arrangement, planes)


def own_material(
    name: str,
    E: float,
    G: float | None,
    density: float,
    fy: float | None,
    expansion: float = 12e-6,
    fu: float | None = None,
) -> Material:
    """A material of one's own, in pascals; G by ν = 0.3 when it is not given."""
    yields, breaks = (((inf, value),) if value else None for value in (fy, fu))
    return Material(name, E, G or E / 2.6, density, yields, expansion, breaks)
