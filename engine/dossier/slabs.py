"""Slabs and walls in the dossier: what is greatest and least in each, and lines of equal moment."""

from __future__ import annotations

import numpy as np
from shapely import MultiLineString, line_merge

from engine.chain import Chain
from engine.dossier.drawing import Drawing, Sheet
from engine.dossier.values import Block, Cell, Column, Figure, Paragraph, Table
from engine.report.slabs import Pictured, pictured, slab_extremes
from engine.structure.model import Floats

#: slabs that are drawn; further ones stand in the table alone
DRAWN = 6
#: lines of equal value on a drawing, about
LINES = 7
#: mm of paper between figures, and room for a drawing
APART, ROOM = 13.0, (165.0, 88.0)
TOLD = (
    ("mx", "m_x", "kNm/m"),
    ("my", "m_y", "kNm/m"),
    ("mxy", "m_xy", "kNm/m"),
    ("vx", "v_x", "kN/m"),
    ("vy", "v_y", "kN/m"),
)


def slab_table(chain: Chain) -> Table:
    """The greatest and the least of every slab, with their combinations."""
    rows: list[tuple[Cell, ...]] = []
    for row in slab_extremes(chain):
        plate = row.slab.plate
        what = f"{plate.thickness * 1000:g} mm {plate.material}"
        sag = row.found["w"][0]
        rows.append((row.slab.panel, what, "w, mm", None, "", sag.value * 1000, sag.combination))
        for key, sign, unit in TOLD:
            most, least = row.found[key]
            words = f"{sign}, {unit}"
            rows.append(("", "", words, least.value / 1000, least.combination, most.value / 1000, most.combination))
    columns = (
        Column("slab or wall", wide=True), Column("of"), Column("what"), Column("least", "", 1), Column("in"), Column("greatest", "", 1), Column("in"),
    )  # fmt: skip
    return Table("slabs and walls", columns, tuple(rows))


def slab_blocks(chain: Chain) -> list[Block]:
    """The table, and drawings of the moments in the first slabs."""
    blocks: list[Block] = [
        Paragraph(
            "Slabs and walls are analysed as elastic plates of four- and three-cornered cells (Bathe and Dvorkin 1985), joined to the members, supports and "
            "slabs that they meet. Moments are per metre, positive where they pull on the side that faces away from outside (below a floor); m_x bends "
            "along x. They are told, not verified: no reinforcement is designed.",
            "plain",
        ),
        slab_table(chain),
    ]
    slabs = chain.structure.slabs
    for slab in slabs[:DRAWN] if chain.verification.strength else ():
        found = pictured(chain, slab.panel, "envelope")
        for key, sign in (("mx", "m_x"), ("my", "m_y")):
            for words, values in (("greatest", found.most[key]), ("least", found.least[key])):
                title = f"{sign} of {slab.panel}, {words} over the combinations for strength, kNm/m"
                drawing = _lines(chain, found, values / 1000, title)
                blocks.append(Figure(drawing, f"{title}, 1 : {drawing.scale}"))
    if len(slabs) > DRAWN:
        blocks.append(Paragraph(f"Of {len(slabs)} slabs the first {DRAWN} are drawn.", "plain"))
    return blocks


def _lines(chain: Chain, found: Pictured, values: Floats, title: str) -> Drawing:
    slab = found.slab
    panel = next(p for p in chain.structure.panels if p.name == slab.panel)
    low, high = slab.flat.min(axis=0), slab.flat.max(axis=0)
    sheet = Sheet(title, (low[0], low[1]), (high[0], high[1]), ROOM, (8.0, 6.0, 8.0, 6.0))
    sheet.line((panel.corners - panel.corners[0]) @ slab.axes[:2].T, "steel", True)
    for opening in panel.openings:
        sheet.line((opening - panel.corners[0]) @ slab.axes[:2].T, "outline", True)
    joined = set(slab.joined)
    for member in chain.structure.members:
        own = [n for n in member.nodes if n in joined]
        if len(own) > 1:
            ends = chain.structure.xyz[[own[0], own[-1]]]
            sheet.line((ends - panel.corners[0]) @ slab.axes[:2].T, "axis")
    for line in isolines(slab.flat[slab.cells], values[found.corner], _levels(values)):
        sheet.line(line, "dimension")
    places = np.zeros((len(values), 2))
    places[found.corner.ravel()] = slab.flat[slab.cells].reshape(-1, 2)
    taken: list[tuple[float, float]] = []
    order = [int(values.argmax()), int(values.argmin()), *range(len(values))]
    for k, g in enumerate(order):
        x, y = sheet.at(*places[g])
        if all(abs(x - a) > APART or abs(y - b) > APART / 2 for a, b in taken):
            taken.append((x, y))
            sheet.say((x, y - 0.7), f"{values[g]:.1f}".replace("-", "−"), size=2.0, bold=k < 2, ground=True)
    return sheet.done()


def _levels(values: Floats) -> Floats:
    """About LINES levels at round numbers between the least and the greatest."""
    least, most = float(values.min()), float(values.max())
    if most - least < 1e-9:
        return np.zeros(0)
    rough = (most - least) / LINES
    power = 10.0 ** np.floor(np.log10(rough))
    step = next(k * power for k in (1.0, 2.0, 5.0, 10.0) if k * power >= rough * (1 - 1e-9))
    return np.asarray(np.arange(np.ceil(least / step), np.floor(most / step) + 1) * step)


def isolines(flat: Floats, values: Floats, levels: Floats) -> list[Floats]:
    """Lines (k, 2) of equal value through cells (c, 4, 2) with values (c, 4) at their corners, each cell as four triangles about its middle."""
    middle, mean = flat.mean(axis=1, keepdims=True), values.mean(axis=1, keepdims=True)
    found: list[Floats] = []
    sides = [(k, (k + 1) % 4) for k in range(4)]
    corners = np.concatenate([np.stack([flat[:, a], flat[:, b], middle[:, 0]], axis=1) for a, b in sides])
    own = np.concatenate([np.stack([values[:, a], values[:, b], mean[:, 0]], axis=1) for a, b in sides])
    for level in levels.tolist():
        above = own > level
        cut = np.flatnonzero(above.any(axis=1) & ~above.all(axis=1))
        segments = []
        for t in cut.tolist():
            ends = []
            for a, b in ((0, 1), (1, 2), (2, 0)):
                if above[t, a] != above[t, b]:
                    share = (level - own[t, a]) / (own[t, b] - own[t, a])
                    ends.append((corners[t, a] + share * (corners[t, b] - corners[t, a])).round(6).tolist())
            if ends[0] != ends[1]:
                segments.append(ends)
        if segments:
            merged = line_merge(MultiLineString(segments))
            found += [np.array(line.coords) for line in getattr(merged, "geoms", [merged])]
    return found
