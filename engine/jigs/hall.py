"""The hall jig: portal frames or trusses in a row, with what stands between them.

Axes: X across the hall from grid A, Y along it from frame 1, Z up. Lasting names say role and place, and do not depend on
how many frames or bays there are: `frame-4/column-A`, `frame-4/rafter-AB-left`, `bay-2/eaves-beam-A`.
"""

from __future__ import annotations

from math import isnan, pi

import numpy as np

from engine.catalogue.sections import section
from engine.catalogue.steels import material
from engine.document.jigs import ColdFormed, HallJig
from engine.errors import ModelError
from engine.jigs.hall_bracing import gable_bracing, roof_bracing, wall_bracing
from engine.jigs.hall_frames import frame, lean_tos, posts
from engine.jigs.hall_panels import panels
from engine.jigs.hall_parts import Hall, between_frames
from engine.jigs.parts import Materials, Parts
from engine.jigs.profile import profile, purlin_positions
from engine.structure.model import HINGE, GridLine, Level, Member


def set_out_hall(jig: HallJig, materials: Materials) -> Parts:
    """The parts of the hall. Raises ModelError naming the field that makes no hall."""
    shape = profile(jig, materials)
    y = np.concatenate([[0.0], np.cumsum(jig.spacings)])
    hall = Hall(jig, Parts(), materials, shape, y, materials.material(jig.grade, "hall.grade"))
    for number in hall.frames():
        frame(hall, number)
    for number in (1, jig.frames):
        if gable := hall.posted(number):
            posts(hall, number, gable)
    _long_beams(hall)
    lean_tos(hall)
    _purlins_and_rails(hall)
    roof_bracing(hall)
    wall_bracing(hall)
    gable_bracing(hall)
    panels(hall)
    hall.parts.grid += [GridLine(column.name, "X", column.x) for column in shape.columns]
    hall.parts.grid += [GridLine(str(i + 1), "Y", float(at)) for i, at in enumerate(y)]
    _levels(hall)
    return hall.parts


def _levels(hall: Hall) -> None:
    feet = sorted({column.base for column in hall.profile.columns})
    tops = sorted({column.top for column in hall.profile.columns})
    for words, heights in (("Base", feet), ("Eaves", tops)):
        for i, height in enumerate(heights):
            hall.parts.levels.append(
                Level(words if len(heights) == 1 else f"{words} {i + 1}", height, floor=words == "Base")
            )
    hall.parts.levels.append(Level("Top", hall.profile.height))


def _long_beams(hall: Hall) -> None:
    for bay in range(1, hall.jig.frames):
        rows = [(f"eaves-beam-{c.name}", "eaves beam", "eaves_beams", f"eaves-{c.name}") for c in hall.profile.columns]
        rows += [
            (f"ridge-beam-{letters}", "ridge beam", "ridge_beam", f"ridge-{letters}")
            for letters, _, _ in hall.profile.ridges
        ]
        for name, role, key, node in rows:
            between_frames(hall, bay, f"bay-{bay}/{name}", role, f"frame-{bay}/{node}", f"frame-{bay + 1}/{node}", key)


def _purlins_and_rails(hall: Hall) -> None:
    """Purlins and rails as members, where they are asked for; at eaves and ridge the long beams stand already."""
    purlins, rails = hall.jig.purlins, hall.jig.rails
    for kind, place in ((purlins, "hall.purlins.cold"), (rails, "hall.rails.cold")):
        if kind and kind.cold:
            _cold_formed(kind.cold, place)
    if purlins.modelled:
        for slope in hall.profile.slopes:
            for i, distance in enumerate(purlin_positions(slope.length, purlins)[1:-1], 1):
                mark = f"purlin-{slope.name}-{i}"
                _run(hall, mark, "purlin", "purlins", purlins.continuous, slope.at(distance), slope.lean)
    if rails and rails.modelled:
        # on their sides: across the wall they are strong, with the outer flange outside
        for column, roll in ((hall.profile.columns[0], -pi / 2), (hall.profile.columns[-1], pi / 2)):
            for i, height in enumerate(purlin_positions(column.top - column.base, rails)[1:-1], 1):
                at = (column.x, column.base + height)
                _run(hall, f"rail-{column.name}-{i}", "side rail", "rails", rails.continuous, at, roll)


def _cold_formed(cold: ColdFormed, place: str) -> None:
    """Raises ModelError for a section that is no cold-formed one with lips, a steel without strength at its thickness, and fasteners
    beside its flange."""
    shape = section(cold.section, f"{place}.section")
    if shape.shape not in ("zed", "lipped channel"):
        raise ModelError(f"“{cold.section}” is no cold-formed channel or Z with lips.", f"{place}.section")
    if cold.fastener and cold.fastener >= shape.b:
        words = f"The fasteners lie beside the flange, which is {shape.b * 1000:g} mm wide."
        raise ModelError(words, f"{place}.fastener")
    if isnan(material(cold.grade, f"{place}.grade").fy(shape.tw)):
        words = f"“{cold.grade}” has no strength at {shape.tw * 1000:g} mm."
        raise ModelError(words, f"{place}.grade")


def _run(hall: Hall, mark: str, role: str, key: str, continuous: bool, at: tuple[float, float], roll: float) -> None:
    """A line of members through (x, z), turned about itself: hinged at each frame, or continuous and hinged at its two ends."""
    x, z = at
    nodes = [hall.parts.node(f"frame-{i}/{mark}", (x, y, z)) for i, y in enumerate(hall.y.tolist(), 1)]
    inner = Member("", role, (), hall.section(key), hall.grade, roll, jig="hall", slot=key)
    first = inner.but(release_start=HINGE)
    last = inner.but(release_end=HINGE)
    single = first.but(release_end=HINGE)
    for bay, spacing in enumerate(hall.jig.spacings, 1):
        ends = (bay == 1 or not continuous, bay == len(hall.jig.spacings) or not continuous)
        pattern = (single if ends[1] else first) if ends[0] else (last if ends[1] else inner)
        along = (0.0, spacing)
        hall.parts.like(pattern, f"bay-{bay}/{mark}", nodes[bay - 1], nodes[bay], outer=along, inner=along)
