"""Drawings to scale, as values: strokes, words and circles in millimetres of paper, x to the right and y upwards."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from engine.structure.model import Floats

#: what a stroke stands for: how it is drawn, and its layer in a file
Style = Literal[
    "steel",
    "axis",
    "dimension",
    "ground",
    "restraint",
    "diagram",
    "load",
    "pressure",
    "zone",
    "outline",
    "failing",
    "uncovered",
]
#: scales that drawings are made in
SCALES = (5, 10, 20, 25, 50, 75, 100, 125, 150, 200, 250, 300, 400, 500, 600, 750, 1000, 1500, 2000, 2500, 5000, 10000)
Point = tuple[float, float]


@dataclass(frozen=True)
class Stroke:
    """A line through points, closed or not; filled where its style fills. holes: closed lines that are left out of it."""

    points: tuple[Point, ...]
    style: Style
    closed: bool = False
    holes: tuple[tuple[Point, ...], ...] = ()


@dataclass(frozen=True)
class Words:
    """Words at a point: size in mm, turned by degrees; ground: with paper behind them, where they stand on lines."""

    at: Point
    words: str
    size: float = 2.2
    align: Literal["start", "middle", "end"] = "middle"
    angle: float = 0.0
    bold: bool = False
    ground: bool = False


@dataclass(frozen=True)
class Circle:
    """A circle about a point."""

    at: Point
    radius: float
    style: Style


@dataclass(frozen=True)
class Drawing:
    """A drawing of width × height mm, 1 : scale."""

    title: str
    width: float
    height: float
    scale: int
    strokes: tuple[Stroke, ...]
    words: tuple[Words, ...]
    circles: tuple[Circle, ...]


def scale_for(size: Point, room: Point) -> int:
    """The largest scale at which size (m) finds room (mm)."""
    need = max(size[0] * 1000 / room[0], size[1] * 1000 / room[1])
    return next((scale for scale in SCALES if scale >= need), int(np.ceil(need / 1000) * 1000))


@dataclass
class Sheet:
    """A drawing in the making: metres of a plane are laid on paper. low, high: corners of what is drawn, in metres; margins: left, below, right,
    above, in mm."""

    title: str
    low: Point
    high: Point
    room: Point
    margins: tuple[float, float, float, float]
    strokes: list[Stroke] = field(default_factory=list)
    words: list[Words] = field(default_factory=list)
    circles: list[Circle] = field(default_factory=list)

    def __post_init__(self) -> None:
        left, below, right, above = self.margins
        size = (self.high[0] - self.low[0], self.high[1] - self.low[1])
        self.scale = scale_for(size, (self.room[0] - left - right, self.room[1] - below - above))
        self.factor = 1000 / self.scale
        self.width = size[0] * self.factor + left + right
        self.height = size[1] * self.factor + below + above

    def at(self, x: float, y: float) -> Point:
        """The place on paper of a point in metres."""
        return (
            (x - self.low[0]) * self.factor + self.margins[0],
            (y - self.low[1]) * self.factor + self.margins[1],
        )

    def line(self, points: Floats | list[Point], style: Style, closed: bool = False) -> None:
        """A stroke through points in metres."""
        self.strokes.append(Stroke(tuple(self.at(float(x), float(y)) for x, y in points), style, closed))

    def rings(self, rings: Sequence[Floats], style: Style) -> None:
        """A closed outline (m) with holes in it; nothing for none."""
        first, *holes = [tuple(self.at(float(x), float(y)) for x, y in ring) for ring in rings] or [()]
        if first:
            self.strokes.append(Stroke(first, style, True, tuple(holes)))

    def paper(self, points: list[Point], style: Style, closed: bool = False) -> None:
        """A stroke through points in mm of paper."""
        self.strokes.append(Stroke(tuple(points), style, closed))

    def say(self, at: Point, words: str, **how: object) -> None:
        """Words at a point in mm of paper."""
        self.words.append(Words(at, words, **how))  # type: ignore[arg-type]

    def bubble(self, at: Point, name: str) -> None:
        """A grid bubble about a point in mm of paper."""
        self.circles.append(Circle(at, 2.6, "dimension"))
        self.say((at[0], at[1] - 0.8), name, size=2.4)

    def north(self, at: Point, way: Point) -> None:
        """An arrow about a point in mm of paper, that points north: way, a unit vector; its letter stands behind it."""
        (x, y), (u, v) = at, way
        tip, back, notch = (4.0, 0.0), -3.4, -2.2
        corners = (tip, (back, 1.7), (notch, 0.0), (back, -1.7))
        self.paper([(x + a * u - b * v, y + a * v + b * u) for a, b in corners], "restraint", True)
        self.say((x - 5.6 * u, y - 5.6 * v - 0.9), "N", size=2.6, bold=True)

    def across(self, places: list[float], y: float) -> None:
        """A chain of dimensions between places (m) along x, at y in mm of paper."""
        self._chain([self.at(p, 0)[0] for p in places], places, y, False)

    def upward(self, places: list[float], x: float) -> None:
        """A chain of dimensions between places (m) along y, at x in mm of paper."""
        self._chain([self.at(0, p)[1] for p in places], places, x, True)

    def _chain(self, on_paper: list[float], places: list[float], at: float, turned: bool) -> None:
        def point(along: float, aside: float) -> Point:
            return (aside, along) if turned else (along, aside)

        if len(places) < 2:
            return
        self.paper([point(on_paper[0] - 1, at), point(on_paper[-1] + 1, at)], "dimension")
        for along in on_paper:
            self.paper([point(along, at - 1.4), point(along, at + 1.4)], "dimension")
            self.paper([point(along - 0.7, at - 0.7), point(along + 0.7, at + 0.7)], "dimension")
        for a, b, left, right in zip(on_paper, on_paper[1:], places, places[1:], strict=False):
            text = f"{right - left:.2f}"
            if b - a < 1.25 * len(text):
                # no room between the ticks
                continue
            self.say(
                point((a + b) / 2, at - 0.8 if turned else at + 0.8), text, size=2.2, angle=90.0 if turned else 0.0
            )

    def done(self) -> Drawing:
        """The drawing."""
        return Drawing(
            self.title,
            self.width,
            self.height,
            self.scale,
            tuple(self.strokes),
            tuple(self.words),
            tuple(self.circles),
        )
