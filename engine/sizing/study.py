"""Set-outs beside one another: the same building with other parameters, each generated, loaded, analysed and sized by itself."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from itertools import product
from math import prod
from typing import Any

from engine.document import Document, read_document
from engine.document.base import Haunch
from engine.document.jigs import HallJig, RoofTruss
from engine.errors import ModelError
from engine.expand import expand
from engine.progress import Progress, quiet
from engine.sizing.groups import Choice, groups_of, with_choices
from engine.sizing.size import size
from engine.sizing.sized import Sizing

#: set-outs in one study at most, frames of a hall
MOST, MOST_FRAMES = 200, 120

Value = float | str


@dataclass(frozen=True)
class Quantity:
    """What a study varies. unit: "" for a number of things; options: what it may be, () for any number. read: what a document with a hall
    has now, None where it has none; write: a document that has another."""

    key: str
    words: str
    unit: str
    options: tuple[str, ...]
    read: Callable[[Document], Value | None]
    write: Callable[[Document, Any], Document]


def _of_hall(
    key: str,
    words: str,
    unit: str,
    options: tuple[str, ...],
    read: Callable[[HallJig], Value | None],
    write: Callable[[HallJig, Any], HallJig],
) -> Quantity:
    """A quantity of the hall's jig."""

    def now(document: Document) -> Value | None:
        return read(document.hall) if document.hall else None

    def then(document: Document, value: Any) -> Document:
        assert document.hall is not None
        return document.model_copy(update={"hall": write(document.hall, value)})

    return Quantity(key, words, unit, options, now, then)


def _but(jig: HallJig, **values: Any) -> HallJig:
    return jig.model_copy(update=values)


def _frames(jig: HallJig, number: float) -> HallJig:
    """Frames at even distances over the length as it is."""
    if not 2 <= number <= MOST_FRAMES or number != int(number):
        raise ModelError(f"A hall has two frames to {MOST_FRAMES}, not {number:g}.", "frames")
    count = int(number) - 1
    return _but(jig, spacings=[jig.length / count] * count)


def _pitch(jig: HallJig, degrees: float) -> HallJig:
    bays = [bay.model_copy(update={"pitch": degrees, "right_pitch": None, "ridge_height": None}) for bay in jig.bays]
    return _but(jig, bays=bays)


def _haunch(jig: HallJig, key: str, value: float) -> HallJig:
    if not value:
        return _but(jig, eaves_haunch=None)
    return _but(jig, eaves_haunch=(jig.eaves_haunch or Haunch()).model_copy(update={key: value}))


def _roof(jig: HallJig, kind: str) -> HallJig:
    if kind == "portal":
        return _but(jig, truss=None)
    return _but(jig, truss=jig.truss or RoofTruss(), eaves_haunch=None, apex_haunch=None, knee_braces=None)


def _of_purlins(jig: HallJig, **values: Any) -> HallJig:
    return _but(jig, purlins=jig.purlins.model_copy(update=values))


#: what is said of the order of the analysis, and how a document has it
ORDERS = {"where it must be": "by alpha_cr", "always": "second"}


def _order_now(document: Document) -> Value | None:
    return next((words for words, order in ORDERS.items() if order == document.analysis.order), None)


def _order_then(document: Document, words: str) -> Document:
    analysis = document.analysis.model_copy(update={"order": ORDERS[words]})
    return document.model_copy(update={"analysis": analysis})


def _ends_now(document: Document) -> Value | None:
    return "apart" if any(plan.ends_apart for plan in document.sizing.groups.values()) else "alike"


def _ends_then(document: Document, words: str) -> Document:
    """The end frames of every group that has some a group of their own, or of none."""
    structure = expand(document)
    last = max((m.frame for m in structure.members if m.frame), default=0)
    plans = dict(document.sizing.groups)
    for group in groups_of(document, structure):
        frames = {structure.members[i].frame for i in group.members}
        mixed = last > 2 and frames & {1, last} and frames - {0, 1, last}
        if mixed or group.plan.ends_apart:
            plans[group.name] = group.plan.model_copy(update={"ends_apart": words == "apart"})
    return document.model_copy(update={"sizing": document.sizing.model_copy(update={"groups": plans})})


QUANTITIES: dict[str, Quantity] = {
    q.key: q
    for q in (
        _of_hall("frames", "Frames over its length", "", (), lambda j: float(j.frames), _frames),
        _of_hall("pitch", "Pitch of the roof", "°", (), lambda j: j.bays[0].pitch, _pitch),
        _of_hall(
            "haunch length",
            "Length of the eaves haunches",
            "m",
            (),
            lambda j: j.eaves_haunch.length if j.eaves_haunch else 0.0,
            lambda j, v: _haunch(j, "length", v),
        ),
        _of_hall(
            "haunch depth",
            "Depth of the eaves haunches",
            "m",
            (),
            lambda j: j.eaves_haunch.depth if j.eaves_haunch else 0.0,
            lambda j, v: _haunch(j, "depth", v),
        ),
        _of_hall(
            "purlins",
            "Spacing of the purlins",
            "m",
            (),
            lambda j: j.purlins.spacing,
            lambda j, v: _of_purlins(j, spacing=v),
        ),
        _of_hall(
            "stays",
            "Purlins from stay to stay",
            "",
            (),
            lambda j: float(j.purlins.stay_every),
            lambda j, v: _of_purlins(j, stay_every=int(v) if v == int(v) else v),
        ),
        _of_hall(
            "bases",
            "Bases",
            "",
            ("pinned", "spring", "fixed"),
            lambda j: j.bases,
            lambda j, v: _but(j, bases=v),
        ),
        _of_hall(
            "base stiffness",
            "Stiffness of the bases",
            "kNm/rad",
            (),
            lambda j: j.base_stiffness if j.bases == "spring" else None,
            lambda j, v: _but(j, bases="spring", base_stiffness=v),
        ),
        _of_hall(
            "roof",
            "Roof",
            "",
            ("portal", "truss"),
            lambda j: "truss" if j.truss else "portal",
            _roof,
        ),
        _of_hall(
            "grade",
            "Grade of everything",
            "",
            ("S235", "S275", "S355", "S420", "S460"),
            lambda j: j.grade,
            lambda j, v: _but(j, grade=v),
        ),
        Quantity("end frames", "End frames", "", ("alike", "apart"), _ends_now, _ends_then),
        Quantity("order", "Analysis in second order", "", tuple(ORDERS), _order_now, _order_then),
    )
}


@dataclass(frozen=True)
class Solved:
    """A set-out, sized. area: in plan between the outer grid lines and end frames, m²."""

    sizing: Sizing
    area: float


def varied(document: Document, values: Mapping[str, Value]) -> Document:
    """The document with other parameters of its hall. Raises ModelError for what is not known or makes no hall."""
    if document.hall is None:
        raise ModelError("A study varies a hall, and there is none.", "hall")
    other = document
    for key, value in values.items():
        if key not in QUANTITIES:
            raise ModelError(f"“{key}” is nothing that a study varies.", key)
        quantity = QUANTITIES[key]
        if quantity.options and value not in quantity.options:
            raise ModelError(f"{quantity.words}: {value} is none of {', '.join(quantity.options)}.", key)
        if not quantity.options and isinstance(value, str):
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
    """One thing changed at a time that may save steel or make pass what fails, of those that the hall has not. Raises ModelError
    without a hall."""
    jig = document.hall
    if jig is None:
        raise ModelError("Ways to other set-outs need a hall, and there is none.", "hall")
    found: list[dict[str, Value]] = []
    found += _haunched(jig)
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
    if jig.frames > 2 and _ends_now(document) == "alike":
        found.append({"end frames": "apart"})
    if document.analysis.order == "by alpha_cr":
        found.append({"order": "always"})
    return found


def solve(document: Document, values: Mapping[str, Value], within: Progress = quiet) -> Solved:
    """Size a set-out. Raises ModelError where it cannot be set out or computed."""
    other = varied(document, values)
    hall = other.hall
    assert hall is not None
    return Solved(size(other, within=within), hall.span * hall.length)


def taken(document: Document, values: Mapping[str, Value], choices: Mapping[str, Choice]) -> Document:
    """The document set out and sized so."""
    other = varied(document, values)
    structure = expand(other)
    return with_choices(other, structure, groups_of(other, structure), choices)
