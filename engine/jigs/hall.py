"""The hall jig: a duopitch portal-frame hall from its parameters.

Axes: X across the hall from grid A to grid B, Y along it from frame 1, Z up. Lasting names say role and place:
`frame-4/rafter-left`. Frames stand at Y = 0, spacing, …; the roof bracing of the end bays divides each slope equally.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from math import ceil, cos, floor, pi, radians, tan

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import steel
from engine.document import HallJig
from engine.structure.model import Carrier, Floats, Member, Panel

#: target length of a roof bracing panel along the slope, in metres
BRACING_PANEL = 6.5
HINGE = frozenset({"y", "z"})


@dataclass
class Parts:
    """Nodes, members, supports and panels being gathered, by name."""

    nodes: dict[str, tuple[float, float, float]] = field(default_factory=dict)
    supports: dict[str, frozenset[str]] = field(default_factory=dict)
    members: list[Member] = field(default_factory=list)
    panels: list[Panel] = field(default_factory=list)


def hall_height(hall: HallJig) -> float:
    """Height of the ridge in metres."""
    return hall.eaves_height + hall.span / 2 * tan(radians(hall.pitch))


def slope_length(hall: HallJig) -> float:
    """Length of a slope from eaves to ridge in metres."""
    return hall.span / 2 / cos(radians(hall.pitch))


def purlin_positions(hall: HallJig) -> tuple[float, ...]:
    """Distances of the purlins from the eaves along the slope: equal spaces not longer than asked for."""
    length = slope_length(hall)
    spaces = max(1, ceil(length / hall.purlin_spacing - 1e-9))
    return tuple(length * i / spaces for i in range(spaces + 1))


def stay_positions(hall: HallJig) -> tuple[float, ...]:
    """Distances along the slope at which a stay holds the inner flange: every n-th purlin, and both ends."""
    purlins = purlin_positions(hall)
    chosen = purlins[hall.stay_every : -1 : hall.stay_every] if hall.stay_every else ()
    return (0.0, *chosen, purlins[-1])


def tributary_widths(hall: HallJig) -> list[float]:
    """Width of cladding that each frame carries: half a bay on each side."""
    return [hall.spacing / 2 if frame in (1, hall.frames) else hall.spacing for frame in range(1, hall.frames + 1)]


def set_out_hall(hall: HallJig) -> Parts:
    """The parts of the hall. Raises ModelError for an unknown section or steel."""
    parts = Parts()
    ridge = hall_height(hall)
    half = hall.span / 2
    cuts = max(2, floor(slope_length(hall) / BRACING_PANEL + 0.5))
    numbers: dict[str, int] = {}

    def node(name: str, x: float, y: float, z: float) -> int:
        if name not in numbers:
            numbers[name] = len(numbers)
            parts.nodes[name] = (x, y, z)
        return numbers[name]

    base_fixity = frozenset({"x", "y", "z", "rz"}) | (frozenset({"rx", "ry"}) if hall.bases == "fixed" else frozenset())
    slope: dict[tuple[int, str], list[int]] = {}
    eaves: dict[tuple[int, str], int] = {}
    bases: dict[tuple[int, str], int] = {}
    for frame in range(1, hall.frames + 1):
        y = (frame - 1) * hall.spacing
        for side, grid, x, towards in (("left", "A", 0.0, 1), ("right", "B", hall.span, -1)):
            bases[frame, side] = node(f"frame-{frame}/base-{grid}", x, y, 0.0)
            parts.supports[f"frame-{frame}/base-{grid}"] = base_fixity
            eaves[frame, side] = node(f"frame-{frame}/eaves-{grid}", x, y, hall.eaves_height)
            run = [eaves[frame, side]]
            for cut in range(1, cuts):
                share = cut / cuts
                height = hall.eaves_height + share * (ridge - hall.eaves_height)
                run.append(node(f"frame-{frame}/roof-{side}-{cut}", x + towards * share * half, y, height))
            run.append(node(f"frame-{frame}/ridge", half, y, ridge))
            slope[frame, side] = run

    grade = steel(hall.grade, "hall.grade")
    chosen = {
        key: section(getattr(hall.sections, key), f"hall.sections.{key}") for key in type(hall.sections).model_fields
    }
    purlins, stays = purlin_positions(hall), stay_positions(hall)
    for frame in range(1, hall.frames + 1):
        for side in ("left", "right"):
            parts.members.append(
                Member(
                    f"frame-{frame}/column-{side}",
                    "column",
                    (bases[frame, side], eaves[frame, side]),
                    chosen["columns"],
                    grade,
                    roll=0.0 if side == "left" else pi,  # local z outwards on both sides
                    frame=frame,
                    outer=(0.0, hall.eaves_height),
                    inner=(0.0, hall.eaves_height),
                )
            )
        for side in ("left", "right"):
            parts.members.append(
                Member(
                    f"frame-{frame}/rafter-{side}",
                    "rafter",
                    tuple(slope[frame, side]),
                    chosen["rafters"],
                    grade,
                    frame=frame,
                    outer=purlins,
                    inner=stays,
                )
            )
    for bay in range(1, hall.frames):
        along = (0.0, hall.spacing)
        for side in ("left", "right"):
            parts.members.append(
                Member(
                    f"bay-{bay}/eaves-beam-{side}",
                    "eaves beam",
                    (eaves[bay, side], eaves[bay + 1, side]),
                    chosen["eaves_beams"],
                    grade,
                    release_start=HINGE,
                    release_end=HINGE,
                    outer=along,
                    inner=along,
                )
            )
        parts.members.append(
            Member(
                f"bay-{bay}/ridge-beam",
                "ridge beam",
                (slope[bay, "left"][-1], slope[bay + 1, "left"][-1]),
                chosen["ridge_beam"],
                grade,
                release_start=HINGE,
                release_end=HINGE,
                outer=along,
                inner=along,
            )
        )
    for bay in sorted({1, hall.frames - 1}):
        for side in ("left", "right"):
            near, far = slope[bay, side], slope[bay + 1, side]
            for cut in range(cuts):
                for direction, ends in (("up", (near[cut], far[cut + 1])), ("down", (near[cut + 1], far[cut]))):
                    parts.members.append(
                        Member(
                            f"bay-{bay}/roof-brace-{side}-{cut + 1}-{direction}",
                            "roof bracing",
                            ends,
                            chosen["bracing"],
                            grade,
                            bar=True,
                        )
                    )
            for direction, ends in (
                ("up", (bases[bay, side], eaves[bay + 1, side])),
                ("down", (eaves[bay, side], bases[bay + 1, side])),
            ):
                parts.members.append(
                    Member(
                        f"bay-{bay}/wall-brace-{side}-{direction}",
                        "wall bracing",
                        ends,
                        chosen["bracing"],
                        grade,
                        bar=True,
                    )
                )
    parts.panels = _panels(hall, ridge)
    return parts


def _panels(hall: HallJig, ridge: float) -> list[Panel]:
    length = (hall.frames - 1) * hall.spacing
    half = hall.span / 2
    pitch = radians(hall.pitch)
    widths = tributary_widths(hall)

    def corners(*points: tuple[float, float, float]) -> Floats:
        return np.array(points, dtype=float)

    panels = []
    for side, x, out in (("left", 0.0, -1.0), ("right", hall.span, 1.0)):
        panels.append(
            Panel(
                f"wall-{side}",
                "wall",
                side,
                corners((x, 0.0, 0.0), (x, length, 0.0), (x, length, hall.eaves_height), (x, 0.0, hall.eaves_height)),
                np.array([out, 0.0, 0.0]),
                hall.eaves_height,
                length,
                tuple(Carrier(f"frame-{i + 1}/column-{side}", w) for i, w in enumerate(widths)),
            )
        )
        panels.append(
            Panel(
                f"roof-{side}",
                "roof",
                side,
                corners(
                    (x, 0.0, hall.eaves_height),
                    (x, length, hall.eaves_height),
                    (half, length, ridge),
                    (half, 0.0, ridge),
                ),
                np.array([out * np.sin(pitch), 0.0, np.cos(pitch)]),
                slope_length(hall),
                length,
                tuple(Carrier(f"frame-{i + 1}/rafter-{side}", w) for i, w in enumerate(widths)),
            )
        )
    return panels
