"""The catalogue of sections, read from dimension data; sizes cut to order, tees and built-up sections made on demand."""

from __future__ import annotations

import csv
import re
from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from difflib import get_close_matches
from functools import cache, lru_cache, partial
from pathlib import Path

from engine.catalogue.properties import Section
from engine.catalogue.shapes.angles import angle
from engine.catalogue.shapes.channels import channel
from engine.catalogue.shapes.cold_formed import lipped_channel, zed
from engine.catalogue.shapes.hollow import circular_hollow, rectangular_hollow
from engine.catalogue.shapes.i_sections import i_torsion, rolled_i, welded_i
from engine.catalogue.shapes.solid import flat_bar, round_bar
from engine.catalogue.shapes.tees import tee
from engine.errors import ModelError

DATA = Path(__file__).parent / "data"
INCH = 0.0254

#: family -> (standard of the dimensions, what it is)
FAMILIES = {
    "IPE": ("EN 10365", "I sections, parallel flanges"),
    "IPE A": ("EN 10365", "I sections, light"),
    "IPE O": ("EN 10365", "I sections, heavy"),
    "HEAA": ("EN 10365", "wide-flange sections, very light"),
    "HEA": ("EN 10365", "wide-flange sections, light"),
    "HEB": ("EN 10365", "wide-flange sections, normal"),
    "HEM": ("EN 10365", "wide-flange sections, heavy"),
    "HL": ("EN 10365", "wide-flange beams, extra wide"),
    "HD": ("EN 10365", "wide-flange columns"),
    "UB": ("EN 10365 (BS 4-1)", "universal beams"),
    "UC": ("EN 10365 (BS 4-1)", "universal columns"),
    "UPN": ("EN 10365", "channels, tapered flanges"),
    "UPE": ("EN 10365", "channels, parallel flanges"),
    "PFC": ("EN 10365 (BS 4-1)", "channels, parallel flanges"),
    "L": ("EN 10056-1", "angles, equal and unequal"),
    "T IPE": ("cut from EN 10365", "tees, half an IPE"),
    "T HEA": ("cut from EN 10365", "tees, half an HEA"),
    "T HEB": ("cut from EN 10365", "tees, half an HEB"),
    "SHS": ("EN 10210-2", "hot-finished square hollow sections"),
    "RHS": ("EN 10210-2", "hot-finished rectangular hollow sections"),
    "CHS": ("EN 10210-2", "hot-finished circular hollow sections"),
    "SHS cold": ("EN 10219-2", "cold-formed square hollow sections"),
    "RHS cold": ("EN 10219-2", "cold-formed rectangular hollow sections"),
    "CHS cold": ("EN 10219-2", "cold-formed circular hollow sections"),
    "Z": ("EN 1993-1-3, sizes of our own", "cold-formed lipped Z purlins"),
    "CL": ("EN 1993-1-3, sizes of our own", "cold-formed lipped channels"),
    "RD": ("EN 10060", "rounds"),
    "FL": ("EN 10058", "flats"),
    "W": ("ASTM A6", "American wide-flange sections"),
    "WT": ("cut from ASTM A6", "American tees, half a W"),
    "C": ("ASTM A6", "American standard channels"),
    "L in": ("ASTM A6", "American angles"),
    "HSS": ("ASTM A500", "American hollow sections, 93 % of the nominal wall"),
    "PIPE": ("ASTM A53", "American standard pipe, 93 % of the nominal wall"),
}
_ROUNDS = (10, 12, 16, 20, 24, 27, 30, 36, 40, 50, 60, 80, 100)
_FLATS = ("40x5", "50x6", "60x8", "80x8", "80x10", "100x10", "120x10", "120x12", "150x12", "150x15", "200x15", "200x20")


def _rows(name: str) -> Iterator[dict[str, str]]:
    with (DATA / name).open() as file:
        yield from csv.DictReader(file)


def _mm(row: dict[str, str], *keys: str) -> list[float]:
    return [float(row[key] or 0) / 1000 for key in keys]


Maker = Callable[[], Section]


@cache
def makers() -> Mapping[str, tuple[str, Maker]]:
    """Name -> (family, what makes the section): properties are computed when a section is first asked for."""
    found: dict[str, tuple[str, Maker]] = {}
    for row in _rows("rolled_i.csv"):
        name = row["name"]
        family = name.rsplit(" ", 1)[0]
        found[name] = (family, partial(_rolled, name, family, *_mm(row, "h", "b", "tw", "tf", "r")))
        if family in ("IPE", "HEA", "HEB"):
            h, *others = _mm(row, "h", "b", "tw", "tf", "r")
            found[f"T {name}"] = (f"T {family}", partial(tee, f"T {name}", f"T {family}", h / 2, *others))
    for row in _rows("channels.csv"):
        h, b, tw, tf, r1, r2, at = _mm(row, "h", "b", "tw", "tf", "r1", "r2", "at")
        family = row["name"].split()[0]
        made = partial(channel, row["name"], family, h, b, tw, tf, r1, r2, float(row["slope"]), at or None)
        found[row["name"]] = (family, made)
    for row in _rows("angles.csv"):
        found[row["name"]] = ("L", partial(angle, row["name"], "L", *_mm(row, "h", "b", "t", "r1", "r2")))
    for row in _rows("hollow.csv"):
        h, b, t = _mm(row, "h", "b", "t")
        cold = row["made"] == "cold"
        family = row["name"].split()[0] + (" cold" if cold else "")
        if row["shape"] == "round":
            found[row["name"]] = (family, partial(circular_hollow, row["name"], h, t, cold))
        else:
            found[row["name"]] = (family, partial(rectangular_hollow, row["name"], h, b, t, cold))
    for row in _rows("cold.csv"):
        shape = {"zed": zed, "lipped channel": lipped_channel}[row["shape"]]
        found[row["name"]] = (row["name"].split()[0], partial(shape, row["name"], *_mm(row, "h", "b", "lip", "t")))
    for d in _ROUNDS:
        found[f"RD {d}"] = ("RD", partial(round_bar, f"RD {d}", d / 1000))
    for size in _FLATS:
        h, b = (float(part) / 1000 for part in size.split("x"))
        found[f"FL {size}"] = ("FL", partial(flat_bar, f"FL {size}", "FL", b, h))
    for row in _rows("american.csv"):
        found |= _american(row["name"], row["shape"], *(float(row[key]) * INCH for key in ("h", "b", "tw", "tf", "r")))
    return found


def _rolled(name: str, family: str, h: float, b: float, tw: float, tf: float, r: float) -> Section:
    made = rolled_i(name, family, h, b, tw, tf, r)
    if family not in ("UB", "UC", "W"):
        return made
    It = i_torsion(b, tf, h, tw, r)
    return replace(made, It=It, Wt=It / max(tf, tw))


def _american(
    name: str, shape: str, h: float, b: float, tw: float, tf: float, r: float
) -> dict[str, tuple[str, Maker]]:
    if shape == "I":
        depth, weight = name.removeprefix("W ").split("x")
        half = f"WT {float(depth) / 2:g}x{float(weight) / 2:g}"
        return {
            name: ("W", partial(_rolled, name, "W", h, b, tw, tf, r)),
            half: ("WT", partial(tee, half, "WT", h / 2, b, tw, tf, r)),
        }
    if shape == "channel":
        # inner flange faces rise 1 in 6; the flange thickness is that at the middle of its free part
        return {name: ("C", partial(channel, name, "C", h, b, tw, tf, r, 0.1 * INCH, 1 / 6))}
    if shape == "angle":
        return {name: ("L in", partial(angle, name, "L in", h, b, tw, 0.0))}
    if shape == "rectangular":
        return {name: ("HSS", lambda: replace(rectangular_hollow(name, h, b, tw, True, (2.0, 1.0)), family="HSS"))}
    return {name: ("PIPE", lambda: replace(circular_hollow(name, h, tw), family="PIPE"))}


@cache
def _made(name: str) -> Section:
    return makers()[name][1]()


@cache
def catalogue() -> Mapping[str, Section]:
    """All sections by name, within a family in ascending mass."""
    order = list(FAMILIES)
    return {s.name: s for s in sorted(map(_made, makers()), key=lambda s: (order.index(s.family), s.A))}


@lru_cache(maxsize=4096)
def made_to_size(name: str) -> Section | None:
    """A section of any size by its name: “FL 100x10” (flat, mm), “RECT 200x400” (width × depth), “RD 25”, a tee
    “TEE 600x500x150x200” (width of the flange × depth × flange × web), an I section welded of three plates “WI 800x300x10x20” (depth × width of
    both flanges × web × flange), or a cold-formed Z or channel “Z 200x60x20x2.0” (depth × flange × lip × thickness); else None."""
    if match := re.fullmatch(r"(Z|CL) (\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", name):
        h, b, lip, t = (float(size) / 1000 for size in match.groups()[1:])
        sound = t >= 0.0005 and 3 * t < lip and 2 * lip < h <= 1 and 3 * t < b <= 0.5
        return {"Z": zed, "CL": lipped_channel}[match[1]](name, h, b, lip, t) if sound else None
    if match := re.fullmatch(r"WI (\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", name):
        h, b, tw, tf = (float(size) / 1000 for size in match.groups())
        sound = 0.001 <= tw < b <= 5 and tf >= 0.001 and 2 * tf < h <= 5
        return welded_i(name, h, b, tf, tw, family="WI") if sound else None
    if match := re.fullmatch(r"TEE (\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", name):
        b, h, tf, tw = (float(size) / 1000 for size in match.groups())
        sound = 0.001 <= tw < b <= 5 and 0.001 <= tf < h <= 5
        return tee(name, "TEE", h, b, tw, tf, 0.0) if sound else None
    if match := re.fullmatch(r"(FL|RECT) (\d+(?:\.\d+)?)x(\d+(?:\.\d+)?)", name):
        first, second = float(match[2]) / 1000, float(match[3]) / 1000
        if not (0.001 <= first <= 5 and 0.001 <= second <= 5):
            return None
        return flat_bar(name, "FL", second, first) if match[1] == "FL" else flat_bar(name, "RECT", first, second)
    if match := re.fullmatch(r"RD (\d+(?:\.\d+)?)", name):
        d = float(match[1]) / 1000
        return round_bar(name, d) if 0.001 <= d <= 5 else None
    return None


def section(name: str, place: str = "") -> Section:
    """The section of that name. Raises ModelError, with near names, when there is none."""
    found = _made(name) if name in makers() else made_to_size(name)
    if found is None:
        near = _near(name)
        hint = f" Did you mean {', '.join(near)}?" if near else ""
        raise ModelError(f"There is no section “{name}” in the catalogue.{hint}", place)
    return found


def _near(name: str) -> list[str]:
    """Names like this one, those of the nearest size first."""
    asked = _size(name)
    alike = get_close_matches(name.upper(), makers(), n=20, cutoff=0.6)
    return sorted(alike, key=lambda other: abs(_size(other) - asked))[:3]


def _size(name: str) -> float:
    found = re.search(r"[\d.]+", name)
    return float(found[0].strip(".") or 0) if found else 0.0


def is_known(name: str) -> bool:
    """Whether there is a section, or a series, of that name."""
    return name in FAMILIES or name in makers() or made_to_size(name) is not None


def family_of(name: str) -> list[Section]:
    """The sections of the same family, in ascending mass."""
    family = section(name).family
    found = [_made(other) for other, (own, _) in makers().items() if own == family]
    return sorted(found, key=lambda s: s.A) or [section(name)]
