"""The plan of the site: the building as it lies, north up, with what stands against the wind on each side."""

from __future__ import annotations

import numpy as np

from engine.chain import Chain
from engine.dossier.drawing import Drawing, Point, Sheet
from engine.dossier.elevations import ROOM
from engine.report.surroundings import Surroundings, Upwind, surroundings
from engine.structure.model import Floats

#: words about a wind, mm of paper; arrow from its tail to its tip, and gap to the building
CARD, ARROW, GAP = (35.0, 12.0), 8.0, 2.5
#: room on the page
PLAN = (ROOM[0], 118.0)
#: the side that each wind comes from: across, along
FROM = {"left": (-1.0, 0.0), "right": (1.0, 0.0), "front": (0.0, -1.0), "back": (0.0, 1.0)}
#: a taller building beside is drawn this wide at most, of the hall's width
BESIDE = 0.6


def site_plan(chain: Chain) -> tuple[Drawing, str] | None:
    """The plan and, in words, how it is turned; None where no building stands that snow and wind act on."""
    found = surroundings(chain)
    if found is None:
        return None
    bearing = chain.document.site.bearing
    turn = _turn(90.0 if bearing is None else bearing)
    corners = _box(found.x0, found.x1, found.y0, found.y1)
    beside = _beside(chain, found)
    drawn = np.concatenate([corners, *([beside] if beside is not None else [])]) @ turn
    low, high = drawn.min(axis=0), drawn.max(axis=0)
    aside = tuple(side + ARROW + 2 * GAP + 4.0 for side in CARD)
    sheet = Sheet("Plan of the site", _point(low), _point(high), PLAN, (aside[0], aside[1], aside[0], aside[1]))
    _building(sheet, chain, found, turn)
    if beside is not None:
        _neighbour(sheet, chain, beside @ turn)
    for wind in found.winds:
        _wind(sheet, found, wind, turn, bearing, beside)
    if bearing is None:
        return sheet.done(), "; how it lies to north is not stated"
    sheet.north((sheet.width - 8.0, sheet.height - 8.0), (0.0, 1.0))
    return sheet.done(), f"; north is up, the way from its front to its back bears {bearing:.0f}°"


def _turn(bearing: float) -> Floats:
    """(2, 2): from the building's plan, across and along, to east and north, as rows."""
    b = np.radians(bearing)
    return np.array([[np.cos(b), -np.sin(b)], [np.sin(b), np.cos(b)]])


def _box(x0: float, x1: float, y0: float, y1: float) -> Floats:
    return np.array([(x0, y0), (x1, y0), (x1, y1), (x0, y1)])


def _point(at: Floats) -> Point:
    return float(at[0]), float(at[1])


def _building(sheet: Sheet, chain: Chain, found: Surroundings, turn: Floats) -> None:
    """Outline, frames, ridges and valleys, names of the outer grid lines, and its size."""
    x0, x1, y0, y1 = found.x0, found.x1, found.y0, found.y1
    sheet.line(_box(x0, x1, y0, y1) @ turn, "steel", True)
    rows = sorted((g.at, g.name) for g in chain.structure.grid if g.axis == "X")
    frames = sorted((g.at, g.name) for g in chain.structure.grid if g.axis == "Y")
    for at, _ in frames:
        if y0 < at < y1:
            sheet.line(np.array([(x0, at), (x1, at)]) @ turn, "dimension")
    for x in found.folds:
        sheet.line(np.array([(x, y0), (x, y1)]) @ turn, "axis")
    off = 4.2 / sheet.factor
    # names stand where no other building does
    other = chain.document.snow.neighbour
    beyond = x1 + off if other is not None and other.side == "left" else x0 - off
    for at, name in rows[:1] + rows[1:][-1:]:
        sheet.bubble(sheet.at(*_point(np.array([at, y0 - off]) @ turn)), name)
    for at, name in frames[:1] + frames[1:][-1:]:
        sheet.bubble(sheet.at(*_point(np.array([beyond, at]) @ turn)), name)
    middle = sheet.at(*_point(np.array([(x0 + x1) / 2, (y0 + y1) / 2]) @ turn))
    sheet.say(middle, f"{x1 - x0:.2f} × {y1 - y0:.2f} m", bold=True, ground=True, size=2.6)
    sheet.say((middle[0], middle[1] - 3.6), f"{found.height:.2f} m high", ground=True)


def _beside(chain: Chain, found: Surroundings) -> Floats | None:
    """A taller building beside, where snow slides or drifts from one: its outline, as wide as it is drawn."""
    other = chain.document.snow.neighbour
    if other is None:
        return None
    wide = min(other.width, BESIDE * (found.x1 - found.x0))
    near = found.x0 - other.gap if other.side == "left" else found.x1 + other.gap
    far = near - wide if other.side == "left" else near + wide
    return _box(near, far, found.y0, found.y1)


def _neighbour(sheet: Sheet, chain: Chain, corners: Floats) -> None:
    other = chain.document.snow.neighbour
    assert other is not None
    # cut off where it goes on: its far edge is left out
    sheet.line(corners[[1, 0, 3, 2]], "zone")
    middle = sheet.at(*_point(corners.mean(axis=0)))
    sheet.say(middle, f"taller by {other.above:.1f} m", ground=True)
    sheet.say((middle[0], middle[1] - 3.2), f"{other.width:.1f} m wide", ground=True)


def _wind(
    sheet: Sheet, found: Surroundings, wind: Upwind, turn: Floats, bearing: float | None, beside: Floats | None
) -> None:
    """An arrow towards the building, behind it the words: whence, over what, how strong."""
    way = np.array(FROM[wind.direction])
    all_corners = np.concatenate(
        [_box(found.x0, found.x1, found.y0, found.y1), *([beside] if beside is not None else [])]
    )
    middle = np.array([(found.x0 + found.x1) / 2, (found.y0 + found.y1) / 2])
    edge = middle + way * float(((all_corners - middle) @ way).max())
    d = way @ turn
    tip = np.array(sheet.at(*_point(edge @ turn))) + d * GAP
    tail = tip + d * ARROW
    across = np.array([-d[1], d[0]])
    neck = tip + d * 3.0
    sheet.paper([_point(tail), _point(neck)], "load")
    sheet.paper([_point(tip), _point(neck + across * 1.2), _point(neck - across * 1.2)], "load", True)
    x, y = tail + d * (abs(d[0]) * CARD[0] / 2 + abs(d[1]) * CARD[1] / 2 + 1.0)
    from_where = {"left": -90, "right": 90, "front": 180, "back": 0}[wind.direction]
    degrees = "" if bearing is None else f", {(bearing + from_where) % 360:.0f}°"
    for row, (words, bold) in enumerate(
        (
            (f"from the {wind.direction}{degrees}", True),
            (f"terrain {wind.terrain}, c_dir {wind.directional:.2f}", False),
            (f"q_p {wind.peak:.3f} kN/m² at {wind.height:.2f} m", False),
        )
    ):
        sheet.say((float(x), float(y) + 2.6 - 3.4 * row), words, size=2.4, bold=bold, ground=True)
