"""Members as flanges that bend sideways, joined by a web that keeps the shape of the cross-section: what resists lateral buckling
of prismatic, haunched and tapered members alike."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from engine.catalogue.properties import Section
from engine.structure.model import Floats, Member, Piece

#: shapes whose flanges are known
FLANGED = ("I", "welded I", "haunched")
#: shapes that buckle as such a member; of the others two flanges are made that warp as the section does
COVERED = (*FLANGED, "given", "square", "rectangular", "circular")
#: least distance of flanges that are made, m
APART = 0.05


@dataclass(frozen=True)
class Flanges:
    """Values at places along a member, (n,) each, heights along local z above the nodes' line.

    top, bottom, middle: heights of the flanges; outer, inner: of their faces; centroid; shear_centre. I_top, I_bottom,
    I_middle: second moments of the flanges in their planes, I_rest: what I_z has beyond them, at the centroid. polar:
    (I_y + I_z)/A; wagner: ∫ z (y² + z²) dA/I_y about the centroid.
    """

    top: Floats
    bottom: Floats
    middle: Floats
    outer: Floats
    inner: Floats
    centroid: Floats
    shear_centre: Floats
    I_top: Floats
    I_bottom: Floats
    I_middle: Floats
    I_rest: Floats
    It: Floats
    polar: Floats
    wagner: Floats


def _plates(s: Section) -> tuple[list[tuple[float, float, float]], list[tuple[float, float, float]]]:
    """Flanges as (height above the centroid, width, thickness) from top to bottom, webs as (thickness, from, to)."""
    if s.shape == "haunched":
        upper = s.h - s.h2
        top, low = (upper - s.tf) / 2 - s.centre_z, -(upper - s.tf) / 2 - s.centre_z
        bottom = -upper / 2 - s.h2 + s.tf2 / 2 - s.centre_z
        half, half2 = s.tf / 2, s.tf2 / 2
        flanges = [(top, s.b, s.tf), (low, s.b, s.tf), (bottom, s.b2, s.tf2)]
        return flanges, [(s.tw, low + half, top - half), (s.tw2, bottom + half2, low - half)]
    if s.shape == "welded I":
        top, bottom = s.h - s.tf / 2 - s.centre_z, s.tf2 / 2 - s.centre_z
        return [(top, s.b, s.tf), (bottom, s.b2, s.tf2)], [(s.tw, bottom + s.tf2 / 2, top - s.tf / 2)]
    half = (s.h - s.tf) / 2
    return [(half, s.b, s.tf), (-half, s.b, s.tf)], [(s.tw, -half, half)]


def _of_section(s: Section, rise: float) -> dict[str, float]:
    """The values of `Flanges` for one section whose centroid lies `rise` above the nodes' line; a haunch lies below a section that
    goes straight on, whatever the mean rise of its piece."""
    rise = s.centre_z if s.shape == "haunched" else rise
    found = {"centroid": rise, "It": s.It, "polar": (s.Iy + s.Iz) / s.A, "wagner": 0.0}
    if s.shape not in FLANGED:
        apart = max(s.h, 2 * float(np.sqrt(s.Iw / s.Iz)), APART)
        flange = 2 * s.Iw / apart**2
        return found | {
            "top": rise + apart / 2,
            "bottom": rise - apart / 2,
            "middle": rise,
            "outer": rise + s.h / 2,
            "inner": rise - s.h / 2,
            "shear_centre": rise,
            "I_top": flange,
            "I_bottom": flange,
            "I_middle": 0.0,
            "I_rest": max(s.Iz - 2 * flange, 0.0),
        }
    flanges, webs = _plates(s)
    heights = [z + rise for z, _, _ in flanges]
    stiff = [t * b**3 / 12 for _, b, t in flanges]
    if s.shape != "I":
        found["wagner"] = (
            sum(b * t * z * (z**2 + (b**2 + 3 * t**2) / 12) for z, b, t in flanges)
            + sum(t * (hi**4 - lo**4) / 4 for t, lo, hi in webs)
        ) / s.Iy
    outer, inner = stiff[0], stiff[-1]
    return found | {
        "top": heights[0],
        "bottom": heights[-1],
        "middle": heights[1] if len(flanges) == 3 else rise,
        "outer": heights[0] + flanges[0][2] / 2,
        "inner": heights[-1] - flanges[-1][2] / 2,
        "shear_centre": (outer * heights[0] + inner * heights[-1]) / (outer + inner),
        "I_top": outer,
        "I_bottom": inner,
        "I_middle": stiff[1] if len(flanges) == 3 else 0.0,
        "I_rest": max(s.Iz - sum(stiff), 0.0),
    }


def kinks(member: Member, length: float) -> list[float]:
    """Where haunches and tapers of a member begin and end, m from its start."""
    return sorted({edge for run in _runs(member) for edge in (run[0].start, run[-1].end) if 0 < edge < length})


def _runs(member: Member) -> list[list[Piece]]:
    """Pieces in runs that follow one another without a gap: a haunch, or a taper."""
    found: list[list[Piece]] = []
    for piece in sorted(member.pieces, key=lambda p: p.start):
        if found and abs(found[-1][-1].end - piece.start) < 1e-6 and _same_haunch(found[-1], piece):
            found[-1].append(piece)
        else:
            found.append([piece])
    return found


def _same_haunch(run: list[Piece], piece: Piece) -> bool:
    """Whether the depth goes on as it did: where one haunch meets another it falls and then rises."""
    if len(run) < 2:
        return True
    step, on = run[-1].section.h - run[-2].section.h, piece.section.h - run[-1].section.h
    return step * on > 0 or abs(step) + abs(on) < 1e-9


def flanges_at(member: Member, x: Floats) -> Flanges:
    """The values at places x, m from the start of a member; within haunches and tapers straight between the middles of its pieces."""
    plain = _of_section(member.section, 0.0)
    values = {name: np.full(x.shape, value) for name, value in plain.items()}
    for run in _runs(member):
        inside = (x > run[0].start - 1e-9) & (x < run[-1].end + 1e-9)
        middles = np.array([(p.start + p.end) / 2 for p in run])
        parts = [_of_section(p.section, (p.rise_start + p.rise_end) / 2) for p in run]
        for name in values:
            column = np.array([part[name] for part in parts])
            if len(run) > 1:
                k = np.clip(np.searchsorted(middles, x[inside]) - 1, 0, len(run) - 2)
                share = (x[inside] - middles[k]) / (middles[k + 1] - middles[k])
                column = column[k] + share * (column[k + 1] - column[k])
            values[name][inside] = column
    for field in fields(Flanges):
        if field.name.startswith("I"):
            values[field.name] = np.maximum(values[field.name], 0.0)
    return Flanges(**values)
