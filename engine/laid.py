"""Edits by hand laid over members that jigs set out."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import radians
from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.catalogue.shapes import sides_of
from engine.document import Document
from engine.document.byhand import MemberEdit, Offset, Releases
from engine.errors import ModelError
from engine.jigs.haunches import pieces_of
from engine.jigs.parts import Materials, Parts
from engine.structure.model import Member, Orphan, Panel


def said(edit: MemberEdit) -> str:
    """What an edit of a generated member says, in words."""
    words = ["removed"] if edit.removed else []
    for key, value in edit.model_dump(exclude={"member", "removed"}, exclude_none=True, exclude_defaults=True).items():
        if key.startswith(("restraints", "freed")):
            kind, _, flange = key.partition("_")
            if value:
                verb = "held" if kind == "restraints" else "not held"
                words.append(f"{flange} flange {verb} at {', '.join(f'{x:g} m' for x in value)}")
        elif key == "checks":
            words += [_said_check(name, x) for name, x in value.items() if not isinstance(x, str)]
        elif isinstance(value, dict) or value is True:
            words.append(key.replace("_", " at "))
        else:
            words.append(f"{key} {value:g}" if isinstance(value, float) else f"{key} {value}")
    return "; ".join(words) or "nothing"


def _said_check(name: str, value: object) -> str:
    words = name.replace("buckling_", "buckling about ").replace("_", " ")
    if name == "lateral":
        return "lengths for lateral buckling"
    if isinstance(value, bool):
        return words if value else f"not {words}"
    if isinstance(value, dict):
        return "plates of its stiffeners" if name == "plates" else words
    return f"{words} {value:g}" if isinstance(value, float) else words


def lay_edits(document: Document, parts: Parts, materials: Materials) -> list[Orphan]:
    """Lay the edits over the generated members; those whose member is not there are given back."""
    lost = []
    for i, edit in enumerate(document.edits):
        member = parts.members.get(edit.member)
        if member is None:
            lost.append(Orphan(f"edits.{i}", edit.member, said(edit)))
        elif edit.removed:
            del parts.members[edit.member]
        else:
            parts.members[edit.member], off = _edited(parts, materials, member, edit, f"edits.{i}")
            lost += [Orphan(f"edits.{i}", edit.member, words) for words in off]
    return lost


def leave_out(document: Document, panels: list[Panel]) -> list[Orphan]:
    """Take what is left out off the carriers of generated panels; edits whose panel is not there are given back. A slab rests on what it is joined
    to."""
    number, lost = {panel.name: i for i, panel in enumerate(panels)}, []
    for i, edit in enumerate(document.panel_edits):
        at = number.get(edit.panel)
        if at is None:
            lost.append(Orphan(f"panel_edits.{i}", edit.panel, f"not borne by {', '.join(edit.excluded) or 'nothing'}"))
        elif panels[at].plate is None:
            bears = tuple(name for name in panels[at].carriers if name not in edit.excluded)
            panels[at] = replace(panels[at], carriers=bears, excluded=tuple(edit.excluded))
    return lost


def _edited(
    parts: Parts, materials: Materials, member: Member, edit: MemberEdit, place: str
) -> tuple[Member, list[str]]:
    """The member as edited, and what the edit said that lies off it now."""
    values: dict[str, Any] = {"edited": True}
    if edit.section is not None:
        values["section"] = materials.section(edit.section, f"{place}.section")
        values["slot"] = ""
    if edit.material is not None:
        values["material"] = materials.material(edit.material, f"{place}.material")
    if edit.roll is not None:
        values["roll"] = member.roll + radians(edit.roll)
    if edit.behaviour is not None:
        values["behaviour"] = edit.behaviour
    if edit.group is not None:
        values["group"] = edit.group
    if edit.bears_at is not None:
        values["bears_at"] = edit.bears_at
    if edit.checks is not None:
        values["checks"] = edit.checks
    if edit.releases is not None:
        values |= releases_of(edit.releases, materials.force, member.name, f"{place}.releases")
    if edit.offset is not None or edit.align is not None:
        section = values.get("section", member.section)
        values["offset"] = offset_of(edit.offset or Offset(), edit.align or "centre", section)
    off: list[str] = []
    xyz = list(parts.nodes.values())
    length = float(np.linalg.norm(np.subtract(xyz[member.nodes[0]], xyz[member.nodes[1]])))
    own = (None, None) if edit.prismatic or edit.end_section else member.haunches
    haunches = (edit.haunch_start or own[0], edit.haunch_end or own[1])
    if edit.section or edit.end_section or haunches != member.haunches:
        section, align = values.get("section", member.section), edit.align or "centre"
        values["haunches"] = haunches
        values["pieces"] = pieces_of(materials, section, length, edit.end_section, haunches, align, member.name, place)
    for flange in ("outer", "inner"):
        added, freed = getattr(edit, f"restraints_{flange}"), getattr(edit, f"freed_{flange}")
        if added or freed:
            given = tuple(x for x in getattr(member, flange) if x < length and not _freed(x, freed))
            on = [x for x in added if x <= length + 1e-6]
            off += [
                f"{flange} flange held at {x:g} m, beyond its length of {length:.2f} m" for x in added if x not in on
            ]
            off += [
                f"{flange} flange not held at {x:g} m, where the jig holds nothing now"
                for x in freed
                if not _freed(x, getattr(member, flange))
            ]
            values[flange] = places_of((0.0, *given, *on), length, member.name, f"{place}.restraints_{flange}")
    return replace(member, **values), off


def _freed(place: float, freed: Sequence[float]) -> bool:
    return any(abs(place - x) < 1e-3 for x in freed)


def places_of(places: Sequence[float], length: float, name: str, place: str) -> tuple[float, ...]:
    if max(places) > length + 1e-6:
        raise ModelError(f"A restraint at {max(places):g} m lies beyond the length of “{name}”, {length:.3f} m.", place)
    found = sorted({0.0, length, *places})
    return tuple(x for i, x in enumerate(found) if i == 0 or x - found[i - 1] > 1e-6)


def offset_of(offset: Offset, align: str, section: Section) -> tuple[float, float]:
    """(y, z) of a member's centroid beside the line of its nodes, m, where what `align` names lies on it."""
    left, right, up, down = sides_of(section)
    y = offset.y + {"left side": -left, "right side": right}.get(align, 0.0)
    return y, offset.z + {"top flange": -up, "bottom flange": down}.get(align, 0.0)


def releases_of(releases: Releases, force: float, name: str, place: str) -> dict[str, Any]:
    start, end = frozenset(releases.start), frozenset(releases.end)
    for freedom, words in (
        ("rx", "would spin about its own axis"),
        ("x", "would slide along its own axis"),
        ("y", "would slide sideways"),
        ("z", "would slide sideways"),
    ):
        if freedom in start and freedom in end:
            raise ModelError(f"Member “{name}” is released in {freedom} at both ends and {words}.", place)
    for turn, slide in (("ry", "z"), ("rz", "y")):
        if turn in start and turn in end and slide in start | end:
            raise ModelError(
                f"Member “{name}” is released in {turn} at both ends and in {slide}: it would fall.", place
            )
    return {
        "release_start": start,
        "release_end": end,
        "springs_start": tuple((f, k * force) for f, k in releases.start_springs.items()),
        "springs_end": tuple((f, k * force) for f, k in releases.end_springs.items()),
    }
