"""Effective lengths: rules by role, and the sway mode of a portal frame."""

from __future__ import annotations

from math import pi, tan

import numpy as np
from scipy.optimize import brentq

from engine.document import Document
from engine.structure.model import Member, Structure


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


def default_factors(document: Document, structure: Structure, member: Member) -> tuple[float, str, bool]:
    """(factor on the member's length for buckling about y, how it was found, whether it is a sway mode)."""
    hall = document.hall
    if document.analysis.order != "first" and document.rules.imperfections and member.role in ("column", "rafter"):
        return 1.0, "own length: sway is in the forces (5.2.2(7)b)", False
    if member.role in ("top chord", "bottom chord"):
        points = structure.xyz[list(member.nodes)]
        panels = np.linalg.norm(np.diff(points, axis=0), axis=1)
        return float(panels.max() / panels.sum()), "between panel points", False
    if hall is None or member.jig != "hall" or not member.frame or member.role not in ("column", "rafter"):
        return 1.0, "own length", False
    mark = member.name.split("/")[1]
    posted = (member.frame == 1 and hall.front.kind == "posts") or (
        member.frame == hall.frames and hall.back.kind == "posts"
    )
    if mark.startswith("overhang"):
        return 2.0, "a cantilever", False
    if posted or mark.startswith("lean"):
        return 1.0, "own length, held at both ends in the frame's plane", False
    if member.role == "column":
        return _column_factor(structure, member, hall.bases)
    other = mark.replace("-left", "-right") if mark.endswith("-left") else mark.replace("-right", "-left")
    if other == mark:
        return 1.0, "own length, eaves to eaves", True
    length = structure.length(member)
    partner = structure.index.get(f"frame-{member.frame}/{other}")
    whole = length + (structure.length(structure.members[partner]) if partner is not None else length)
    return whole / length, "both slopes, eaves to eaves", True


def _column_factor(structure: Structure, member: Member, bases: str) -> tuple[float, str, bool]:
    """Sway mode with the beams that meet the column's head, each bent in double curvature; a base on a spring counts as
    pinned (safe side)."""
    letter = member.name.rsplit("-", 1)[1]
    beams = 0.0
    for first in (chr(ord(letter) - 1), letter):
        place = f"frame-{member.frame}"
        bay = first + chr(ord(first) + 1)
        names = [f"{place}/rafter-{bay}{side}" for side in ("", "-left", "-right")]
        rafters = [structure.member(name) for name in names if name in structure.index]
        if rafters:
            beams += min(m.section.Iy for m in rafters) / sum(structure.length(m) for m in rafters)
            continue
        chords = [f"{place}/truss-{bay}/{key}-1" for key in ("top", "bottom")]
        if all(name in structure.index for name in chords):
            top, bottom = (structure.member(name) for name in chords)
            tops = [m for m in structure.members if m.name.startswith(f"{place}/truss-{bay}/top-")]
            depth = structure.xyz[top.nodes[0], 2] - structure.xyz[bottom.nodes[0], 2]
            second = depth**2 / (1 / top.section.A + 1 / bottom.section.A)
            beams += second / sum(structure.length(m) for m in tops)
    if beams == 0.0:
        return 2.0, "a cantilever: no beam meets its head", True
    ratio = beams / (member.section.Iy / structure.length(member))
    factor = sway_factor(ratio, bases == "fixed")
    return factor, f"sway mode of the frame, r = {ratio:.3f}, {'fixed' if bases == 'fixed' else 'pinned'} bases", True
