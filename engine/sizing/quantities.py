"""What a study varies of a building: parameters of its hall, groups that are split, stays, the analysis."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, get_args

from engine.catalogue.properties import PRONE
from engine.document import Document
from engine.document.base import Haunch
from engine.document.jigs import HallJig, RoofTruss
from engine.document.sizing import ApartBy, GroupPlan
from engine.editing.apply import operate
from engine.editing.operations import Restrain
from engine.errors import ModelError
from engine.expand import expand
from engine.sizing.groups import Group, groups_of
from engine.sizing.splits import may_split
from engine.structure.model import Member, Structure

#: frames of a hall at most
MOST_FRAMES = 120

Value = float | str


@dataclass(frozen=True)
class Quantity:
    """What a study varies. unit: "" for a number of things; options: what it may be of a document, () for any number. read: what a document
    has now, None where it has none; write: a document that has another. of_hall: only halls have it."""

    key: str
    words: str
    unit: str
    options: Callable[[Document], tuple[str, ...]]
    read: Callable[[Document], Value | None]
    write: Callable[[Document, Any], Document]
    of_hall: bool = False


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

    return Quantity(key, words, unit, lambda _: options, now, then, True)


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


#: groups of a smaller share of the steel are not split, nor given stays, unless it is asked for
WORTH = 0.05
#: the only option of what is as it is, beside those that change it
NONE = "none"


def _named(document: Document) -> tuple[Structure, dict[str, Group]]:
    structure = expand(document)
    return structure, {g.name: g for g in groups_of(document, structure) if not g.kept}


def _splits(document: Document) -> dict[str, tuple[list[str], ApartBy]]:
    """What could be split of the groups that have a choice, in words: which groups, and by what; the heaviest first."""
    structure, groups = _named(document)
    # a group by hand is what it is, and a part is split by the group it comes from
    own = {g.name for g in document.sizing.own}
    whole = [g for g in groups.values() if g.name == g.of and g.name not in own]
    whole.sort(key=lambda g: -_mass(structure, g))
    found: dict[str, tuple[list[str], ApartBy]] = {}
    for by in get_args(ApartBy):
        names = [g.name for g in whole if by in may_split(structure, g.members)]
        if len(names) > 1:
            found[f"everything by {by}"] = names, by
        found |= {split_words(name, by): ([name], by) for name in names}
    return found


def split_words(name: str, by: ApartBy) -> str:
    """What a study calls the split of a group."""
    return f"{name} by {by}"


def _mass(structure: Structure, group: Group) -> float:
    return sum(structure.mass(structure.members[i]) for i in group.members)


def _split_then(document: Document, words: str) -> Document:
    if words == NONE:
        return document
    names, by = _splits(document)[words]
    groups = dict(document.sizing.groups)
    for name in names:
        plan = groups.get(name, GroupPlan())
        groups[name] = plan.model_copy(update={"apart": [*plan.apart, by]})
    return document.model_copy(update={"sizing": document.sizing.model_copy(update={"groups": groups})})


#: a stretch between restraints shorter than this gets no other one between, m
LEAST_GAP = 1.0


def _stay(structure: Structure, member: Member) -> Restrain | None:
    """A restraint about the middle of the longest stretch of the inner flange that nothing holds: where the outer one is held there, a stay
    of the inner one; else of both."""
    length = structure.length(member)
    held = sorted({0.0, length, *member.inner})
    gap, start = max((b - a, a) for a, b in zip(held, held[1:], strict=False))
    if member.bar or member.section.shape not in PRONE or gap < LEAST_GAP:
        return None
    there = [x for x in member.outer if start + gap / 4 <= x <= start + gap * 3 / 4]
    at = min(there, key=lambda x: abs(x - start - gap / 2), default=round(start + gap / 2, 3))
    return Restrain(members=[member.name], flange="inner" if there else "both", at=at)


def _stays(document: Document) -> tuple[str, ...]:
    """The groups of which a member could have another stay."""
    structure, groups = _named(document)
    return tuple(
        g.name for g in groups.values() if any(_stay(structure, structure.members[i]) is not None for i in g.members)
    )


def _stays_then(document: Document, words: str) -> Document:
    if words == NONE:
        return document
    structure, groups = _named(document)
    members = [structure.members[i] for i in groups[words].members]
    for stay in (_stay(structure, m) for m in members):
        if stay is not None:
            document = operate(document, stay)
    return document


def worth_splitting(document: Document) -> list[str]:
    """The splits of groups that weigh something beside the whole, in words."""
    structure, groups = _named(document)
    heavy = _heavy(structure, groups)
    return [words for words, (names, _) in _splits(document).items() if len(names) > 1 or names[0] in heavy]


def worth_a_stay(document: Document) -> list[str]:
    """The groups that weigh something beside the whole, and of which a member could have another stay."""
    heavy = _heavy(*_named(document))
    return [name for name in _stays(document) if name in heavy]


def _heavy(structure: Structure, groups: Mapping[str, Group]) -> set[str]:
    whole = sum(structure.mass(m) for m in structure.members)
    return {name for name, g in groups.items() if _mass(structure, g) >= WORTH * whole}


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
        Quantity("split", "Split", "", lambda d: (NONE, *_splits(d)), lambda _: NONE, _split_then),
        Quantity("stay", "One more stay for", "", lambda d: (NONE, *_stays(d)), lambda _: NONE, _stays_then),
        Quantity("order", "Analysis in second order", "", lambda _: tuple(ORDERS), _order_now, _order_then),
    )
}
