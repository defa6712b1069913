"""Drawings as SVG: lines for black and white, hatched by nothing, with real text."""

from __future__ import annotations

from html import escape

from engine.dossier.drawing import Drawing, Point, Stroke, Words

#: style -> attributes of its strokes; widths in mm
STYLES = {
    "steel": 'fill="#d9dde2" stroke="#1f2a33" stroke-width="0.22"',
    "axis": 'fill="none" stroke="#6b7680" stroke-width="0.13" stroke-dasharray="4 1 0.6 1"',
    "dimension": 'fill="none" stroke="#1f2a33" stroke-width="0.13"',
    "ground": 'fill="none" stroke="#1f2a33" stroke-width="0.35"',
    "restraint": 'fill="#1f2a33" stroke="#1f2a33" stroke-width="0.15"',
    "diagram": 'fill="#1f5f7a" fill-opacity="0.16" stroke="#1f5f7a" stroke-width="0.2"',
    "load": 'fill="#a03b23" stroke="#a03b23" stroke-width="0.3"',
    "pressure": 'fill="#a03b23" fill-opacity="0.10" stroke="#a03b23" stroke-width="0.15"',
    "zone": 'fill="#1f5f7a" fill-opacity="0.06" stroke="#1f2a33" stroke-width="0.15"',
    "failing": 'fill="#e3b3a6" stroke="#a03b23" stroke-width="0.6"',
    "uncovered": 'fill="#fff" stroke="#7a5a14" stroke-width="0.35" stroke-dasharray="1.2 0.8"',
    "outline": 'fill="none" stroke="#1f2a33" stroke-width="0.45"',
}
FONT = "IBM Plex Sans"


def svg(drawing: Drawing) -> str:
    """A drawing as SVG in millimetres."""
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {drawing.width:.2f} {drawing.height:.2f}" '
        f'width="{drawing.width:.2f}mm" height="{drawing.height:.2f}mm" font-family="{FONT}" font-stretch="condensed" role="img">'
        f"<title>{escape(drawing.title)}</title>"
    ]
    parts += [_stroke(one, drawing.height) for one in drawing.strokes]
    for circle in drawing.circles:
        x, y = circle.at
        parts.append(
            f'<circle cx="{x:.2f}" cy="{drawing.height - y:.2f}" r="{circle.radius:.2f}" {STYLES[circle.style]}/>'
        )
    parts += [_words(one, drawing.height) for one in drawing.words]
    return "".join([*parts, "</svg>"])


def _path(points: tuple[Point, ...], height: float, closed: bool) -> str:
    return "M" + "L".join(f"{x:.2f} {height - y:.2f}" for x, y in points) + ("Z" if closed else "")


def _stroke(stroke: Stroke, height: float) -> str:
    d = _path(stroke.points, height, stroke.closed) + "".join(_path(hole, height, True) for hole in stroke.holes)
    return f'<path d="{d}" {STYLES[stroke.style]} fill-rule="evenodd"/>'


def _words(words: Words, height: float) -> str:
    x, y = words.at[0], height - words.at[1]
    turn = f' transform="rotate({-words.angle:.1f} {x:.2f} {y:.2f})"' if words.angle else ""
    weight = ' font-weight="700"' if words.bold else ""
    place = f'x="{x:.2f}" y="{y:.2f}" font-size="{words.size}" text-anchor="{words.align}"{weight}{turn}'
    text = escape(words.words)
    # a halo of paper: renderers of print know no paint-order
    halo = f'<text {place} fill="#fff" stroke="#fff" stroke-width="0.7">{text}</text>' if words.ground else ""
    return f'{halo}<text {place} fill="#1f2a33">{text}</text>'
