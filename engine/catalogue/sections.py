"""The catalogue of rolled and hot-finished sections, read from dimension data."""

from __future__ import annotations

import csv
import re
from collections.abc import Mapping
from difflib import get_close_matches
from functools import cache
from pathlib import Path

from engine.catalogue.properties import Section, circular_hollow, rolled_i, square_hollow
from engine.errors import ModelError

DATA = Path(__file__).parent / "data"

#: family -> (standard of the dimensions, what it is)
FAMILIES = {
    "IPE": ("EN 10365", "I sections, parallel flanges"),
    "HEA": ("EN 10365", "wide-flange sections, light"),
    "HEB": ("EN 10365", "wide-flange sections, normal"),
    "HEM": ("EN 10365", "wide-flange sections, heavy"),
    "SHS": ("EN 10210-2", "hot-finished square hollow sections"),
    "CHS": ("EN 10210-2", "hot-finished circular hollow sections"),
}


@cache
def catalogue() -> Mapping[str, Section]:
    """All sections by name, within a family in ascending mass."""
    found: list[Section] = []
    with (DATA / "rolled_i.csv").open() as file:
        for row in csv.DictReader(file):
            h, b, tw, tf, r = (float(row[key]) / 1000 for key in ("h", "b", "tw", "tf", "r"))
            found.append(rolled_i(row["name"], row["name"].split()[0], h, b, tw, tf, r))
    with (DATA / "hollow.csv").open() as file:
        for row in csv.DictReader(file):
            make = square_hollow if row["shape"] == "square" else circular_hollow
            found.append(make(row["name"], float(row["size"]) / 1000, float(row["t"]) / 1000))
    order = list(FAMILIES)
    return {s.name: s for s in sorted(found, key=lambda s: (order.index(s.family), s.A))}


def section(name: str, place: str = "") -> Section:
    """The section of that name. Raises ModelError, with near names, when there is none."""
    found = catalogue().get(name)
    if found is None:
        near = _near(name)
        hint = f" Did you mean {', '.join(near)}?" if near else ""
        raise ModelError(f"There is no section “{name}” in the catalogue.{hint}", place)
    return found


def _near(name: str) -> list[str]:
    """Names like this one, those of the nearest size first."""
    asked = _size(name)
    alike = get_close_matches(name.upper(), catalogue(), n=20, cutoff=0.6)
    return sorted(alike, key=lambda other: abs(_size(other) - asked))[:3]


def _size(name: str) -> float:
    found = re.search(r"[\d.]+", name)
    return float(found[0].strip(".") or 0) if found else 0.0


def family_of(name: str) -> list[Section]:
    """The sections of the same family, in ascending mass."""
    family = section(name).family
    return [s for s in catalogue().values() if s.family == family]
