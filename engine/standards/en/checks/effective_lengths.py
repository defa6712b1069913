"""Effective lengths: rules by role, and the sway mode of a portal frame."""

from __future__ import annotations

from math import pi, tan

import numpy as np
from scipy.optimize import brentq

from engine.document import Document
from engine.structure.model import Member, Structure
from engine.structure.together import held_at

CHORDS = ("top chord", "bottom chord")


def sway_factor(stiffness_ratio: float, fixed_base: bool) -> float:
    """Effective length factor of the columns of a one-bay frame in its sway mode, both columns loaded alike.

    stiffness_ratio r = (I_beam / L) / (I_column / h). Pinned bases: kh tan kh = 6 r; fixed: kh / tan kh = −6 r; K = π/kh.
    (Timoshenko and Gere, Theory of Elastic Stability, 2.4.)
    """
    if fixed_base:
        root = brentq(lambda u: u / tan(u) + 6 * stiffness_ratio, pi / 2 + 1e-12, pi - 1e-12)
    else:
        root = brentq(lambda u: u * tan(u) - 6 * stiffness_ratio, 1e-9, pi / 2 - 1e-9)
    return pi / float(root)


def default_factors(
    document: Document, structure: Structure, member: Member, beyond: tuple[float, float] = (0.0, 0.0)
) -> tuple[float, str, bool]:
    """(factor on the member's length for buckling about y, how it was found, whether it is a sway mode). beyond: how far it bends on with others
    beyond its ends, m."""
    factor, why, sway = _of_role(document, structure, member, beyond)
    length = structure.length(member)
    if member.role not in CHORDS and any(beyond) and factor * length < length + sum(beyond):
        return (
            (length + sum(beyond)) / length,
            "with what it goes on in on its line, to what holds it in its plane",
            sway,
        )
    return factor, why, sway


def _of_role(
    document: Document, structure: Structure, member: Member, beyond: tuple[float, float]
) -> tuple[float, str, bool]:
    """The same by the rule of its role, of a chord with what it goes on in."""
    hall = document.hall
    if document.analysis.order != "first" and document.rules.imperfections and member.role in ("column", "rafter"):
        return 1.0, "own length: where it sways, that is in the forces (5.2.2(7)b)", False
    if member.role in CHORDS:
        points = np.array(held_at(structure, member))
        gaps = np.diff(points)
        gaps[0], gaps[-1] = gaps[0] + beyond[0], gaps[-1] + beyond[1]
        return float(gaps.max() / points[-1]), "between panel points", False
    if hall is None or member.jig != "hall" or not member.frame or member.role not in ("column", "rafter"):
        return 1.0, "own length", False
    posted = (member.frame == 1 and hall.front.kind == "posts") or (
        member.frame == hall.frames and hall.back.kind == "posts"
    )
    if member.place == "overhang":
        return 2.0, "a cantilever", False
    if posted or member.place == "lean-to":
        return 1.0, "own length, held at both ends in the frame's plane", False
    if member.role == "column":
        return _column_factor(structure, member, hall.bases)
    slopes = [m for m in structure.frames[member.frame] if m.role == "rafter" and m.bay == member.bay]
    if len(slopes) == 1:
        return 1.0, "own length, eaves to eaves", True
    whole = sum(structure.length(m) for m in slopes)
    return whole / structure.length(member), "both slopes, eaves to eaves", True


def stands_alone(document: Document, member: Member) -> bool:
    """Whether nothing but its clamped foot holds a column of the hall along the building."""
    hall = document.hall
    braced = hall is None or hall.bases != "fixed" or (hall.bracing.walls is not None and bool(hall.bracing.walls.bays))
    return not braced and member.jig == "hall" and member.role == "column"


def _column_factor(structure: Structure, member: Member, bases: str) -> tuple[float, str, bool]:
    """Sway mode with the beams that meet the column's head, each bent in double curvature; a base on a spring counts as
    pinned (safe side)."""
    beams = 0.0
    own = [m for m in structure.frames[member.frame] if member.line in m.bay]
    for bay in sorted({m.bay for m in own}):
        rafters, tops, bottoms = (
            [m for m in own if m.bay == bay and m.role == role] for role in ("rafter", "top chord", "bottom chord")
        )
        if rafters:
            beams += min(m.section.Iy for m in rafters) / sum(structure.length(m) for m in rafters)
        elif tops and bottoms:
            top, bottom = tops[0], bottoms[0]
            depth = structure.xyz[top.nodes[0], 2] - structure.xyz[bottom.nodes[0], 2]
            second = depth**2 / (1 / top.section.A + 1 / bottom.section.A)
            beams += second / sum(structure.length(m) for m in tops)
    if beams == 0.0:
        return 2.0, "a cantilever: no beam meets its head", True
    ratio = beams / (member.section.Iy / structure.length(member))
    factor = sway_factor(ratio, bases == "fixed")
    return factor, f"sway mode of the frame, r = {ratio:.3f}, {'fixed' if bases == 'fixed' else 'pinned'} bases", True
