"""Wind on parapets by EN 1991-1-4 7.4.1: a free-standing wall on the edge of the roof, held by the columns and posts below."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from engine.document.base import Direction
from engine.standards.en.roofs import planes_of
from engine.standards.en.wind_tables import FREE_WALL, FREE_WALL_RETURNS, FREE_WALL_ZONES
from engine.standards.en.wind_zones import BLOWS
from engine.structure.model import Floats, Panel, Structure

#: what stands this near to a wall's upper edge holds its parapet, in metres
NEAR = 1e-3


@dataclass(frozen=True)
class Push:
    """Force (N) and moment (Nm) in global axes on a member at a distance from its start (m)."""

    member: str
    at: float
    force: Floats
    moment: Floats


def net_coefficients(ratio: float, returns: bool) -> tuple[float, ...]:
    """c_p,net of zones A to D of a solid wall, table 7.9; ratio: its length over its height; returns: whether it goes on round
    the corners by at least its height."""
    if returns:
        return FREE_WALL_RETURNS
    keys = sorted(FREE_WALL)
    return tuple(float(np.interp(ratio, keys, [FREE_WALL[k][zone] for k in keys])) for zone in range(4))


def resultant(coefficients: tuple[float, ...], height: float, length: float, start: float, end: float) -> float:
    """The integral of c_p,net from start to end along a wall of that height and length, in metres (figure 7.19: the zones count
    from both of its ends)."""
    limits = np.array([0.0, *(share * height for share in FREE_WALL_ZONES), np.inf])

    def from_an_end(distance: float) -> float:
        reach = np.clip(distance, limits[:-1], limits[1:]) - limits[:-1]
        return float(reach @ np.array(coefficients))

    def so_far(x: float) -> float:
        half = length / 2
        return from_an_end(x) if x <= half else 2 * from_an_end(half) - from_an_end(length - x)

    return so_far(end) - so_far(start)


def parapet_pushes(structure: Structure, direction: Direction, height: float, q: float) -> Iterator[Push]:
    """The pushes of the wind from a direction on parapets of that height (m) at q_p(z_e) (N/m²), to windward and, without
    shelter, in the lee. They stand on the long walls, and on the gables where the roof is flat (below 5°)."""
    flat = all(plane.panels[0].pitch < 5 for plane in planes_of(structure))
    for panel in structure.panels:
        facing = panel.kind == "wall" and not panel.place and abs(float(panel.outside @ BLOWS[direction])) > 0.5
        if facing and (direction in ("left", "right") or flat):
            yield from _on_wall(structure, panel, BLOWS[direction], height, q, flat)


def _on_wall(
    structure: Structure, panel: Panel, blows: Floats, height: float, q: float, returns: bool
) -> Iterator[Push]:
    run = 1 if abs(panel.outside[0]) > 0.5 else 0
    along = panel.corners[:, run]
    start, length = float(along.min()), float(np.ptp(along))
    heads = sorted(_heads(structure, panel, run))
    if not heads:
        return
    at = np.array([x for x, _, _ in heads]) - start
    limits = [0.0, *((at[:-1] + at[1:]) / 2), length]
    coefficients = net_coefficients(length / height, returns)
    for (_, member, place), a, b in zip(heads, limits[:-1], limits[1:], strict=True):
        force = blows * q * height * resultant(coefficients, height, length, float(a), float(b))
        yield Push(member, place, force, np.cross([0.0, 0.0, height / 2], force))


def _heads(structure: Structure, panel: Panel, run: int) -> Iterator[tuple[float, str, float]]:
    """Uprights that reach a wall's upper edge, in the wall's plane: where along it, the member, and the distance of its head from
    its start. Each place once."""
    top = panel.corners[:, 2].max()
    seen = set()
    for member in structure.members:
        ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
        upright = float(np.ptp(ends[:, 2])) > 0.9 * float(np.linalg.norm(ends[1] - ends[0]))
        head = int(ends[:, 2].argmax())
        edge = abs((ends[head] - panel.corners[0]) @ panel.outside) < NEAR and _at_top(panel, ends[head], run, top)
        key = round(float(ends[head, run]), 3)
        if upright and member.behaviour == "beam" and edge and key not in seen:
            seen.add(key)
            yield float(ends[head, run]), member.name, head * structure.length(member)


def _at_top(panel: Panel, point: Floats, run: int, top: float) -> bool:
    """Whether a point lies on the upper edge: at its height, or on the line of a roof that slopes a little."""
    above = panel.corners[panel.corners[:, 2] > panel.corners[:, 2].min() + NEAR]
    order = np.argsort(above[:, run])
    line = np.interp(point[run], above[order, run], above[order, 2]) if len(above) else top
    return bool(abs(line - point[2]) < NEAR)
