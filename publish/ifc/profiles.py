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


def plates_of(profile: Any, scale: float) -> dict[str, Any] | None:
    """Shape and sizes, in mm, of the plates that a profile is welded from, or may stand for; None of one that is no I of plates and no box. Radii
    at the roots are left out."""

    def mm(*values: float) -> list[float]:
        return [round(float(v) * scale * 1000, 3) for v in values]

    if profile.is_a() == "IfcIShapeProfileDef":
        h, b, tw, tf = mm(profile.OverallDepth, profile.OverallWidth, profile.WebThickness, profile.FlangeThickness)
        return {"shape": "welded I", "h": h, "b": b, "tw": tw, "tf": tf}
    if profile.is_a() == "IfcAsymmetricIShapeProfileDef":
        keys = (
            "OverallDepth",
            "TopFlangeWidth",
            "WebThickness",
            "TopFlangeThickness",
            "BottomFlangeWidth",
            "BottomFlangeThickness",
        )
        values = [getattr(profile, key) for key in keys]
        # the thickness of the upper flange may be left out
        values[3] = values[3] or values[5]
        if None in values:
            return None
        return {"shape": "welded I", **dict(zip(("h", "b", "tw", "tf", "b2", "tf2"), mm(*values), strict=True))}
    rings = _outlines(profile, scale) if profile.is_a() == "IfcArbitraryProfileDefWithVoids" else []
    if len(rings) != 2 or any(not _rectangle(ring) for ring, _ in rings):
        return None
    outside, inside = (np.ptp(ring, axis=0) for ring, _ in rings)
    middles = [(ring.min(axis=0) + ring.max(axis=0)) / 2 for ring, _ in rings]
    if np.abs(middles[0] - middles[1]).max() > ALIKE:
        return None
    b, h, tw, tf = mm(*(v / scale for v in (*outside, *(outside - inside) / 2)))
    return {"shape": "box", "h": h, "b": b, "tw": tw, "tf": tf}


def _rectangle(ring: Floats) -> bool:
    """Whether a ring is a rectangle along the axes."""
    size = np.ptp(ring, axis=0)
    return abs(float(_moments(ring)[0]) - float(size.prod())) < ALIKE * float(size.max())


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
    if kind == "IfcAsymmetricIShapeProfileDef" and (plates := plates_of(profile, scale)):
        h, b, tw, tf, b2, tf2 = (plates[key] / 1000 for key in ("h", "b", "tw", "tf", "b2", "tf2"))
        half = [(b, h), (b, h - tf), (tw, h - tf), (tw, tf2), (b2, tf2), (b2, 0.0)]
        return np.array([*[(x / 2, y) for x, y in half], *[(-x / 2, y) for x, y in reversed(half)]])
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
