"""Set-outs beside one another: the same building with other parameters, each generated, loaded, analysed and sized by itself."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from math import prod

import numpy as np

from engine.document import Document, read_document
from engine.document.jigs import HallJig
from engine.errors import ModelError
from engine.expand import expand
from engine.progress import Progress, quiet
from engine.sizing.costs import Beside, beside
from engine.sizing.groups import Choice, groups_of, with_choices
from engine.sizing.quantities import QUANTITIES, Value, worth_a_stay, worth_splitting
from engine.sizing.size import size
from engine.sizing.sized import Sizing

#: set-outs in one study at most
MOST = 200


@dataclass(frozen=True)
class Solved:
    """A set-out, sized. area: in plan between the outer grid lines and end frames, m²; without a hall of what lies within its outermost
    nodes; beside: purlins and rails that are no members, in no mass of the sizing."""

    sizing: Sizing
    area: float
    beside: tuple[Beside, ...] = ()


def varied(document: Document, values: Mapping[str, Value]) -> Document:
    """The document with other parameters. Raises ModelError for what is not known, for what it has not, and for what makes no hall."""
    other = document
    for key, value in values.items():
        if key not in QUANTITIES:
            raise ModelError(f"“{key}” is nothing that a study varies.", key)
        quantity = QUANTITIES[key]
        if quantity.of_hall and document.hall is None:
            raise ModelError(f"{quantity.words} is of a hall, and there is none.", key)
        options = quantity.options(document)
        if options and value not in options:
            raise ModelError(f"{quantity.words}: {value} is none of {', '.join(options)}.", key)
        if not options and isinstance(value, str):
            raise ModelError(f"{quantity.words}: “{value}” is no number.", key)
        other = quantity.write(other, value)
    return read_document(other.model_dump(mode="json"))


def in_words(values: Mapping[str, Value]) -> str:
    """“Frames over its length 7, bases fixed”."""
    said: list[str] = []
    for q in QUANTITIES.values():
        if q.key not in values:
            continue
        value = values[q.key]
        words = q.words if not said else q.words[0].lower() + q.words[1:]
        figure = value if isinstance(value, str) else f"{value:g}"
        said.append(f"{words} {figure}" + (f" {q.unit}".replace(" °", "°") if q.unit else ""))
    said += [f"{key} {value}" for key, value in values.items() if key not in QUANTITIES]
    return ", ".join(said) or "As it stands"


def grid(ranges: Mapping[str, Sequence[Value]]) -> list[dict[str, Value]]:
    """Every combination of values. Raises ModelError for a quantity without values, and for more than may be."""
    for key, values in ranges.items():
        if key not in QUANTITIES:
            raise ModelError(f"“{key}” is nothing that a study varies.", key)
        if not values:
            raise ModelError(f"{QUANTITIES[key].words}: say which values.", key)
    if not ranges:
        raise ModelError("Say what the study varies.", "ranges")
    different = [list(dict.fromkeys(values)) for values in ranges.values()]
    count = prod(len(values) for values in different)
    if count > MOST:
        raise ModelError(f"That makes {count} set-outs, more than {MOST}: take fewer values.", "ranges")
    return [dict(zip(ranges, values, strict=True)) for values in product(*different)]


def _haunched(jig: HallJig) -> list[dict[str, Value]]:
    """Haunches of an ordinary size, or what there is a quarter longer or deeper."""
    if jig.truss:
        return []
    if jig.eaves_haunch is None:
        return [{"haunch length": round(max(bay.span for bay in jig.bays) / 10, 1), "haunch depth": 0.4}]
    length, depth = jig.eaves_haunch.length, jig.eaves_haunch.depth
    return [{"haunch length": round(length * 1.25, 2)}, {"haunch depth": round(depth * 1.25, 2)}]


def ways(document: Document) -> list[dict[str, Value]]:
    """One thing changed at a time that may save steel or make pass what fails, of those that stand otherwise: parameters of a hall, another
    stay, a split of one group. Raises ModelError where there is none."""
    found = _of_jig(document.hall) if document.hall else []
    found += [{"stay": name} for name in worth_a_stay(document)]
    found += [{"split": words} for words in worth_splitting(document)]
    if document.analysis.order == "by alpha_cr":
        found.append({"order": "always"})
    if not found:
        raise ModelError("Nothing of what a study varies could be otherwise.", "study")
    return found[: MOST - 1]


def _of_jig(jig: HallJig) -> list[dict[str, Value]]:
    """Other parameters of a hall."""
    found = _haunched(jig)
    if jig.purlins.stay_every != 1:
        found.append({"stays": 1.0})
    if jig.purlins.spacing > 1.2:
        found.append({"purlins": round(jig.purlins.spacing * 0.8, 2)})
    if jig.bases == "pinned":
        found += [{"base stiffness": 25_000.0}, {"bases": "fixed"}]
    elif jig.bases == "spring":
        found.append({"bases": "fixed"})
    for grade in ("S355", "S460"):
        if jig.grade < grade:
            found.append({"grade": grade})
    for count in (jig.frames - 1, jig.frames + 1):
        if count >= 2:
            found.append({"frames": float(count)})
    return found


def solve(document: Document, values: Mapping[str, Value], within: Progress = quiet) -> Solved:
    """Size a set-out. Raises ModelError where it cannot be set out or computed."""
    other = varied(document, values)
    hall = other.hall
    across = np.ptp(expand(other).xyz[:, :2], axis=0) if hall is None else np.array([hall.span, hall.length])
    return Solved(size(other, within=within), float(across.prod()), beside(other))


def taken(document: Document, values: Mapping[str, Value], choices: Mapping[str, Choice]) -> Document:
    """The document set out and sized so."""
    other = varied(document, values)
    structure = expand(other)
    return with_choices(other, structure, groups_of(other, structure), choices)
