"""What members that came back are made of: section, grade, roll and haunches, against what was sent."""

from __future__ import annotations

from collections.abc import Mapping
from math import degrees

from pydantic import ValidationError

from engine.catalogue.properties import Section
from engine.catalogue.steels import ELASTIC, STRENGTH
from engine.document.base import Haunch, Vector
from engine.document.byhand import BuiltSection
from engine.returned.model import Difference, ReturnedHaunch, ReturnedMember
from engine.structure.model import Structure
from engine.structure.words import label

#: degrees that a roll may differ by; sizes of plates in mm, lengths and depths of haunches in m
TURN, THICK, LONG = 0.5, 0.6, 0.005
#: shapes that half a turn changes
ONE_SIDED = ("channel", "angle", "tee", "double angle", "double channel")
#: sizes of a section of plates in their order
SIZES = ("h", "b", "tw", "tf", "b2", "tf2")


def lines_of(structure: Structure, i: int) -> tuple[tuple[Vector, Vector], ...]:
    """The line from start to end of a member."""
    (a, b, c), (d, e, f) = structure.xyz[structure.ends[i]].round(4).tolist()
    return (((a, b, c), (d, e, f)),)


def made_of(
    structure: Structure,
    i: int,
    came: ReturnedMember,
    plates: Mapping[str, BuiltSection],
    one: bool,
    compared: bool,
) -> list[Difference]:
    """Section, grade and roll of a member. plates: sections that the file draws of plates; one: all its pieces are of one section; compared: its roll can be compared."""
    m = structure.members[i]
    axis = lines_of(structure, i)
    found = []
    built = plates.get(came.section)
    section, other = came.section, came.section != m.section.name
    if built is not None:
        other = not _alike(m.section, built)
        built = plated(structure, plates, came.section) if other else None
        section = built.name if built else section
    if other and one:
        found.append(
            Difference(
                f"section:{m.name}",
                "section",
                label(m),
                m.section.name,
                section,
                f"{m.section.name} → {section}",
                (m.name,),
                value=section,
                built=built,
                lines=axis,
            )
        )
    if came.material and came.material != m.material.name:
        known = came.material in (STRENGTH | ELASTIC) or any(
            came.material == o.material.name for o in structure.members
        )
        shared = f"{m.material.name} → {came.material}{'' if known else ', which is no grade that is known here'}"
        found.append(
            Difference(
                f"grade:{m.name}",
                "grade",
                label(m),
                m.material.name,
                came.material if known else shared,
                shared,
                (m.name,),
                value=came.material,
                takes=known,
                lines=axis,
            )
        )
    # a round section looks the same however it is turned, most others after half a turn
    period = 360.0 if m.section.shape in ONE_SIDED or m.section.b2 else 180.0
    turn = (came.roll - degrees(m.roll) + period / 2) % period - period / 2
    if compared and m.section.shape not in ("circular", "round") and abs(turn) > TURN:
        roll = round(degrees(m.roll) + turn, 3)
        found.append(
            Difference(
                f"turned:{m.name}",
                "turned",
                label(m),
                f"{degrees(m.roll):.1f}°",
                f"{roll:.1f}°",
                f"{degrees(m.roll):.1f}° → {roll:.1f}°",
                (m.name,),
                value=roll,
                lines=axis,
            )
        )
    return found


def _alike(section: Section, built: BuiltSection) -> bool:
    """Whether a section is of the same plates."""
    if section.shape not in (("box",) if built.shape == "box" else ("I", "welded I")):
        return False
    own = {key: 1000 * float(getattr(section, key)) for key in SIZES}
    return all(abs(a - b) < THICK for a, b in zip(_sizes(own), _sizes(built.model_dump()), strict=True))


def _sizes(of: Mapping[str, float]) -> tuple[float, ...]:
    """Sizes with those of the bottom flange, where they are no others, as the top's."""
    h, b, tw, tf, b2, tf2 = (of[key] for key in SIZES)
    return h, b, tw, tf, b2 or b, tf2 or tf


def plated(structure: Structure, plates: Mapping[str, BuiltSection], name: str) -> BuiltSection | None:
    """The section that a file draws of plates by that name, by a name that is free here; None where it is none of plates, or one that
    stands here just so."""
    built = plates.get(name)
    if built is None:
        return None
    there = {m.section.name: m.section for m in structure.members}
    if name in there and _alike(there[name], built):
        return None
    if name in there:
        h, b, tw, tf, b2, tf2 = _sizes(built.model_dump())
        words = f"{h:g}x{b:g}x{tw:g}x{tf:g}" + (f"/{b2:g}x{tf2:g}" if (b2, tf2) != (b, tf) else "")
        return built.model_copy(update={"name": f"{name} {words}"[:80]})
    return built


def haunches(structure: Structure, i: int, came: ReturnedMember, turned: bool) -> list[Difference]:
    """Haunches at the ends of a member that are longer or deeper, new or gone. turned: it came the other way round."""
    m = structure.members[i]
    theirs = {int(h.at_start == turned): h for h in came.haunches}
    found = []
    for end, (sent, got) in enumerate(zip(m.haunches, (theirs.get(0), theirs.get(1)), strict=True)):
        near = sent and got and abs(sent.length - got.length) < LONG and abs(sent.depth - got.depth) < LONG
        if near or (sent is None and got is None):
            continue
        was, now = _said(sent), _said(got)
        try:
            wanted = _haunch(sent, got)
        except ValidationError:
            now, wanted = f"{now}, which is no haunch that is known here", sent
        both = (wanted, m.haunches[1]) if end == 0 else (m.haunches[0], wanted)
        found.append(
            Difference(
                f"haunch:{m.name}:{end}",
                "haunch",
                f"{label(m)}, haunch at its {'end' if end else 'start'}",
                was,
                now,
                f"{was} → {now}",
                (m.name,),
                end_number=end,
                haunches=both,
                lines=lines_of(structure, i),
                takes=wanted is not sent,
            )
        )
    return found


def _haunch(sent: Haunch | None, got: ReturnedHaunch | None) -> Haunch | None:
    """Another haunch, made as that which was sent. Raises ValidationError for sizes of none."""
    if got is None:
        return None
    sizes = {"length": round(got.length, 3), "depth": round(got.depth, 3)}
    return Haunch.model_validate((sent.model_dump() if sent else {}) | sizes)


def _said(haunch: Haunch | ReturnedHaunch | None) -> str:
    return f"{haunch.length:.2f} m long, {1000 * haunch.depth:.0f} mm deep" if haunch else "none"
