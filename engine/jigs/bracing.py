"""Bracing of a field between four points: the kinds, and the bracing jig."""

from __future__ import annotations

import numpy as np

from engine.document.jigs import BracingJig
from engine.errors import ModelError
from engine.jigs.parts import Materials, Parts, Point
from engine.structure.model import HINGE

#: name of a diagonal, and its two ends as corners (0, 1: first side; 2, 3: opposite side) or "mid-01" (middle of a side)
Diagonal = tuple[str, str, str]


def diagonals(kind: str, odd: bool = False) -> list[Diagonal]:
    """Diagonals of a field with corners 0 and 1 on its first side and 3 above 0, 2 above 1.

    X: both; single: one, the other way in odd fields; K: from the middle of side 0–3 to the corners of the other side;
    V: from the corners of the first side to the middle of the opposite one.
    """
    if kind == "X":
        return [("up", "0", "2"), ("down", "3", "1")]
    if kind == "single":
        return [("down", "3", "1")] if odd else [("up", "0", "2")]
    if kind == "K":
        return [("up", "mid-03", "2"), ("down", "mid-03", "1")]
    return [("up", "0", "mid-32"), ("down", "1", "mid-32")]


def resolve(parts: Parts, prefix: str, corners: tuple[str, str, str, str], end: str) -> str:
    """The node of a diagonal's end: a corner, or a new node in the middle of a side."""
    if not end.startswith("mid"):
        return corners[int(end)]
    a, b = (parts.nodes[corners[int(c)]] for c in end[-2:])
    return parts.node(f"{prefix}-{end}", tuple((p + q) / 2 for p, q in zip(a, b, strict=True)))  # type: ignore[arg-type]


def set_out_bracing(parts: Parts, materials: Materials, jig: BracingJig, place: str) -> None:
    """Add the diagonals (and struts) of a bracing jig. Raises ModelError naming the corner that does not exist."""
    points: list[np.ndarray] = []
    for i, corner in enumerate(jig.corners):
        if isinstance(corner, str):
            if corner not in parts.nodes:
                raise ModelError(f"There is no node “{corner}”.", f"{place}.corners.{i}")
            points.append(np.array(parts.nodes[corner]))
        else:
            points.append(np.array(corner, dtype=float))
    for i in range(4):
        if np.linalg.norm(points[i] - points[(i + 1) % 4]) < 0.05:
            raise ModelError(f"Corners {i + 1} and {(i + 1) % 4 + 1} of the bracing coincide.", f"{place}.corners.{i}")
    section = materials.section(jig.section, f"{place}.section")
    grade = materials.material(jig.grade, f"{place}.grade")
    behaviour = "tension-only" if jig.tension_only and jig.pattern == "X" else "bar"
    role = "wall bracing" if max(p[2] for p in points) - min(p[2] for p in points) > 0.2 else "roof bracing"
    for copy in range(jig.repeat.count):
        shift = copy * np.array(jig.repeat.step)
        for storey in range(jig.storeys):
            low, high = storey / jig.storeys, (storey + 1) / jig.storeys
            prefix = f"{jig.name}/{copy + 1}-{storey + 1}"

            def node(mark: str, a: int, b: int, share: float, shift=shift, prefix=prefix) -> str:  # type: ignore[no-untyped-def]
                p = points[a] * (1 - share) + points[b] * share + shift
                point: Point = (float(p[0]), float(p[1]), float(p[2]))
                return parts.node(f"{prefix}-{mark}", point)

            corners = (node("0", 0, 3, low), node("1", 1, 2, low), node("2", 1, 2, high), node("3", 0, 3, high))
            for mark, a, b in diagonals(jig.pattern, bool(storey % 2)):
                start, end = resolve(parts, prefix, corners, a), resolve(parts, prefix, corners, b)
                parts.member(f"{prefix}-{mark}", role, start, end, section, grade, behaviour=behaviour, jig=jig.name)
            if jig.struts or jig.pattern == "V":
                parts.member(
                    f"{prefix}-strut",
                    "strut",
                    corners[3],
                    corners[2],
                    section,
                    grade,
                    jig=jig.name,
                    release_start=HINGE,
                    release_end=HINGE,
                )
