"""Profiles that came in: their dimensions, and the properties of their outlines."""

from __future__ import annotations

from typing import Any

import numpy as np

from engine.structure.model import Floats

#: dimensions of a profile that may differ from the catalogue's, metres
ALIKE = 0.0006


def size_of(profile: Any, scale: float) -> tuple[str, float, float, float, float] | None:
    """Shape, depth, width, thickness of web and flange of a profile with dimensions."""
    kind = profile.is_a()
    if kind == "IfcIShapeProfileDef":
        return (
            "I",
            profile.OverallDepth * scale,
            profile.OverallWidth * scale,
            profile.WebThickness * scale,
            profile.FlangeThickness * scale,
        )
    if kind == "IfcRectangleHollowProfileDef":
        h, b, t = (float(v) * scale for v in (profile.YDim, profile.XDim, profile.WallThickness))
        return ("square" if abs(h - b) < ALIKE else "rectangular", h, b, t, t)
    if kind == "IfcCircleHollowProfileDef":
        d, t = 2 * profile.Radius * scale, profile.WallThickness * scale
        return ("circular", d, d, t, t)
    return None


def properties_of(profile: Any, scale: float) -> dict[str, float] | None:
    """Area and second moments of a profile by its outline; torsion as of thin strips, A⁴/(40 I_p)."""
    outlines = _outlines(profile, scale)
    if not outlines:
        return None
    total = np.zeros(6)
    for ring, sign in outlines:
        total += _moments(ring) * sign
    area, sy, sz, syy, szz, _ = total
    Iy, Iz = szz - sz**2 / area, syy - sy**2 / area
    return {"A": float(area), "Iy": float(Iy), "Iz": float(Iz), "It": float(area**4 / (40 * (Iy + Iz)))}


def _outlines(profile: Any, scale: float) -> list[tuple[Floats, float]]:
    """The rings of a profile with 1 for what is full and −1 for holes; none of one that is not read."""
    kind = profile.is_a()
    if kind == "IfcCompositeProfileDef":
        parts = [_outlines(part, scale) for part in profile.Profiles]
        return [ring for part in parts for ring in part] if all(parts) else []
    drawn = ("IfcArbitraryClosedProfileDef", "IfcArbitraryProfileDefWithVoids")
    if kind in drawn and profile.OuterCurve.is_a("IfcPolyline"):
        curves = [profile.OuterCurve, *(getattr(profile, "InnerCurves", None) or ())]
        rings = [np.array([p.Coordinates for p in curve.Points], dtype=float) * scale for curve in curves]
        return [(ring, 1.0 if k == 0 else -1.0) for k, ring in enumerate(rings)]
    corners = _corners(profile, scale)
    return [] if corners is None else [(corners, 1.0)]


def _corners(profile: Any, scale: float) -> Floats | None:
    kind = profile.is_a()
    if kind == "IfcRectangleProfileDef":
        x, y = profile.XDim * scale / 2, profile.YDim * scale / 2
        return np.array([(-x, -y), (x, -y), (x, y), (-x, y)])
    if kind == "IfcCircleProfileDef":
        angles = np.linspace(0, 2 * np.pi, 96, endpoint=False)
        return np.asarray(profile.Radius * scale * np.stack([np.cos(angles), np.sin(angles)], axis=1))
    if kind == "IfcIShapeProfileDef":
        h, b, tw, tf = (
            float(v) * scale
            for v in (profile.OverallDepth, profile.OverallWidth, profile.WebThickness, profile.FlangeThickness)
        )
        half = [
            (b / 2, h / 2),
            (b / 2, h / 2 - tf),
            (tw / 2, h / 2 - tf),
            (tw / 2, -h / 2 + tf),
            (b / 2, -h / 2 + tf),
            (b / 2, -h / 2),
        ]
        return np.array([*half, *[(-x, y) for x, y in reversed(half)]])
    return None


def _moments(ring: Floats) -> Floats:
    """Area, first and second moments of a polygon: A, ∫y, ∫z, ∫y², ∫z², 0; positive whatever its sense."""
    x, y = ring.T
    x1, y1 = np.roll(x, -1), np.roll(y, -1)
    cross = x * y1 - x1 * y
    found = np.array(
        [
            cross.sum() / 2,
            (cross * (x + x1)).sum() / 6,
            (cross * (y + y1)).sum() / 6,
            (cross * (x * x + x * x1 + x1 * x1)).sum() / 12,
            (cross * (y * y + y * y1 + y1 * y1)).sum() / 12,
            0.0,
        ]
    )
    return found if found[0] >= 0 else -found
