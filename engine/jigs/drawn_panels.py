"""Panels drawn by hand between nodes or places, over members that stand."""

from __future__ import annotations

from math import acos, degrees

import numpy as np
from shapely.geometry import LineString, Polygon

from engine.document.byhand import PanelInput
from engine.errors import ModelError
from engine.jigs.parts import Materials
from engine.structure.model import Floats, Panel, Structure

#: how far a corner or a member may lie off a panel's plane, in metres
OFF = 5e-3
#: area that counts as none, in m²
LEAST = 1e-4


def drawn_panel(given: PanelInput, structure: Structure, materials: Materials, place: str) -> Panel:
    """The panel as it stands. Raises ModelError for corners that are not there, not in one plane, or enclose nothing."""
    corners = np.array([_corner(structure, corner, f"{place}.corners.{i}") for i, corner in enumerate(given.corners)])
    normal = _normal(corners)
    if normal is None:
        raise ModelError(f"The corners of panel “{given.name}” enclose no area.", f"{place}.corners")
    off = float(np.abs((corners - corners[0]) @ normal).max())
    if off > OFF:
        raise ModelError(
            f"The corners of panel “{given.name}” lie up to {off * 1000:.0f} mm off one plane.", f"{place}.corners"
        )
    outside = _outwards(normal, corners, structure) * (-1.0 if given.flip else 1.0)
    names = _carriers(given, structure, corners, normal)
    span = _span(given, structure, names, normal, place)
    panel = Panel(
        given.name,
        given.kind,
        corners,
        outside,
        span,
        tuple(names),
        two_way=given.two_way,
        openings=tuple(np.array(o, dtype=float) for o in given.openings),
        permanent=given.permanent * 1000,
        imposed=given.imposed * 1000,
        category=given.category,
        pitch=degrees(acos(min(abs(float(outside[2])), 1.0))),
        reduced=given.reduced,
        snow=given.snow,
        wind={str(direction): value for direction, value in given.wind.items() if value},
        excluded=tuple(given.excluded),
        **materials.in_plane(given, place),
    )
    if not Polygon(panel.flat(corners)).is_valid:
        raise ModelError(f"The edge of panel “{given.name}” crosses itself.", f"{place}.corners")
    _check_openings(panel, place)
    if given.two_way and len(corners) != 4:
        raise ModelError(f"Panel “{given.name}” spans two ways; only a rectangle can.", f"{place}.two_way")
    return panel


def _check_openings(panel: Panel, place: str) -> None:
    """Openings lie in the panel's plane and within its edge, enclose something, and are apart. Raises ModelError."""
    whole, before = Polygon(panel.flat(panel.corners)), list[Polygon]()
    for i, corners in enumerate(panel.openings):
        said, at = f"Opening {i + 1} of panel “{panel.name}”", f"{place}.openings.{i}"
        off = float(np.abs((corners - panel.corners[0]) @ panel.outside).max())
        if off > OFF:
            raise ModelError(f"{said} lies up to {off * 1000:.0f} mm off its plane.", at)
        own = Polygon(panel.flat(corners))
        if not own.is_valid:
            raise ModelError(f"The edge of opening {i + 1} of panel “{panel.name}” crosses itself.", at)
        if own.area < LEAST:
            raise ModelError(f"{said} encloses no area.", at)
        if own.difference(whole).area > LEAST:
            raise ModelError(f"{said} reaches beyond its edge.", at)
        other = next((k for k, one in enumerate(before) if own.intersection(one).area > LEAST), None)
        if other is not None:
            raise ModelError(f"{said} overlaps opening {other + 1}; make one of both.", at)
        before.append(own)


def _corner(structure: Structure, corner: str | tuple[float, float, float], place: str) -> Floats:
    if not isinstance(corner, str):
        return np.array(corner, dtype=float)
    name = structure.aliases.get(corner, corner)
    if name not in structure.nodes:
        raise ModelError(f"There is no node “{corner}”.", place)
    return np.asarray(structure.xyz[structure.nodes.index(name)])


def _normal(corners: Floats) -> Floats | None:
    """Unit normal by Newell's sum; None for a polygon without area."""
    following = np.roll(corners, -1, axis=0)
    total = np.cross(corners - corners[0], following - corners[0]).sum(axis=0)
    size = float(np.linalg.norm(total))
    return None if size < 0.02 else np.asarray(total / size)


def _outwards(normal: Floats, corners: Floats, structure: Structure) -> Floats:
    """Upwards, or away from the middle of the structure for what stands upright."""
    if abs(normal[2]) > 0.05:
        return np.asarray(normal * np.sign(normal[2]))
    towards = float((corners.mean(axis=0) - structure.xyz.mean(axis=0)) @ normal)
    return normal if towards >= 0 else -normal


def _carriers(given: PanelInput, structure: Structure, corners: Floats, normal: Floats) -> list[str]:
    """Those named, or all beams in the plane that run through the panel; never those left out."""
    left_out = set(given.excluded)
    if given.carriers:
        return [name for name in given.carriers if name in structure.index and name not in left_out]
    first = corners[1] - corners[0]
    basis = np.stack([first / np.linalg.norm(first), np.cross(normal, first) / np.linalg.norm(first)])
    area = Polygon((corners - corners[0]) @ basis.T).buffer(OFF)
    ends = structure.xyz[structure.ends]
    flat = np.abs((ends - corners[0]) @ normal).max(axis=1) < OFF
    seen = (ends - corners[0]) @ basis.T
    least, most = np.reshape(area.bounds, (2, 2))
    near = ((seen.min(axis=1) <= most) & (seen.max(axis=1) >= least)).all(axis=1)
    found = []
    for i in np.flatnonzero(flat & near & ~structure.bars).tolist():
        line = LineString(seen[i])
        if area.intersection(line).length > 0.05 and structure.members[i].name not in left_out:
            found.append(structure.members[i].name)
    return found


def _span(given: PanelInput, structure: Structure, names: list[str], normal: Floats, place: str) -> Floats:
    """As stated, turned into the plane; else at right angles to the longest carrier."""
    if given.span is not None:
        span = np.array(given.span, dtype=float)
        span = span - (span @ normal) * normal
        if np.linalg.norm(span) < 1e-6:
            raise ModelError(f"Panel “{given.name}” cannot span at right angles to itself.", f"{place}.span")
        return np.asarray(span / np.linalg.norm(span))
    members = [structure.member(name) for name in names]
    if not members:
        other = np.cross(normal, [0.0, 0.0, 1.0] if abs(normal[2]) < 0.9 else [0.0, 1.0, 0.0])
        return np.asarray(other / np.linalg.norm(other))
    longest = max(members, key=structure.length)
    line = structure.xyz[longest.nodes[-1]] - structure.xyz[longest.nodes[0]]
    span = np.cross(normal, line)
    return np.asarray(span / np.linalg.norm(span))
