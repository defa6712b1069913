"""What becomes of a member that is turned or mirrored: its roll, and what is stated along its own axes."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.catalogue.properties import Section
from engine.errors import ModelError
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Member

#: which way of its own a side or flange of a member lies
SIDES = {
    "top flange": (0.0, 0.0, 1.0),
    "bottom flange": (0.0, 0.0, -1.0),
    "left side": (0.0, 1.0, 0.0),
    "right side": (0.0, -1.0, 0.0),
}
#: distances that are rounding, m
NOTHING = 1e-9


def turn_like(like: dict[str, Any], member: Member, ends: Floats, new: Floats, turned: Floats) -> Floats:
    """Change what a copy of a member says so that it lies as the member does, turned or mirrored. like: what the copy says; ends, new: (2, 3) of
    the member and of the copy; turned: (3, 3) what becomes of a direction. Gives (3, 3) what becomes of what is stated along the member's
    principal axes. Raises ModelError for a section whose mirror image is another one."""
    old = local_axes(ends[:1], ends[1:], np.radians([like["roll"]]))[0]
    up, more = turned @ old[2], 0.0
    if np.linalg.det(turned) < 0:
        sign, more = _mirrored(member.section, member.name)
        up = sign * up
    plain = local_axes(new[:1], new[1:], np.zeros(1))[0]
    like["roll"] = round(float(np.degrees(np.arctan2(-(up @ plain[1]), up @ plain[2]))) + more, 9) + 0.0
    own = local_axes(new[:1], new[1:], np.radians([like["roll"]]))[0]
    change: Floats = np.round(own @ turned @ old.T, 9) + 0.0
    _, y, z = (change @ np.array([0.0, like["offset"]["y"], like["offset"]["z"]])).tolist()
    like["offset"] = {"y": y, "z": z}
    if like.get("align", "centre") != "centre":
        way = change @ np.array(SIDES[like["align"]])
        like["align"] = max(SIDES, key=lambda side: float(way @ np.array(SIDES[side])))
    if change[2, 2] < -0.5:
        like["restraints_outer"], like["restraints_inner"] = like["restraints_inner"], like["restraints_outer"]
    # releases, springs and temperatures lie along the principal axes, and these stay what they are
    c, s = np.cos(member.section.turn), np.sin(member.section.turn)
    principal = np.array([[1.0, 0.0, 0.0], [0.0, c, s], [0.0, -s, c]])
    return np.asarray(np.round(principal @ change @ principal.T, 9) + 0.0)


def _mirrored(section: Section, name: str) -> tuple[float, float]:
    """(sign, degrees): whether the mirror image of a section keeps its upper side up (1) or turns it over (−1), and by how much it rolls besides."""
    if section.turn == 0 and max(abs(section.centre_y), abs(section.shear_y)) < NOTHING:
        return 1.0, 0.0
    if section.turn == 0 and max(abs(section.centre_z), abs(section.shear_z)) < NOTHING:
        return -1.0, 0.0
    if section.shape == "angle" and section.h == section.b:
        # about its axis of symmetry
        return 1.0, 180.0 - 2 * float(np.degrees(section.turn))
    raise ModelError(f"“{name}” cannot be mirrored: the mirror image of {section.name} is another section.", name)
