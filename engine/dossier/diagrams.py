"""Forces, movement and utilisation drawn on a frame with their values."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from engine.chain import Chain
from engine.dossier.drawing import Drawing, Point, Sheet, Style
from engine.dossier.elevations import ROOM, axes_of, steel_sheet
from engine.report import verdicts
from engine.structure.model import Floats, Member, Structure
from engine.structure.planes import Plane

#: height of the largest ordinate on paper, mm
TALL = 17.0
#: the largest movement on paper, mm
MOVED = 11.0


def forces(chain: Chain, plane: Plane, values: Sequence[Floats], title: str, quantity: str = "My") -> Drawing:
    """An internal force of the members of a plane, moments on the side in tension. values: one or more (e, s) in N or Nm over all elements, drawn over one
    another (an envelope is two of them). What does not bend in the plane is drawn across the member."""
    structure, elements = chain.structure, chain.response.elements
    basis, base = _basis(plane)
    x = chain.verification.forces.x
    lines, most = [], 1e-9
    for i in plane.members:
        own = elements.rows(i)
        flat = _flat(chain, plane, i, x)
        across = _across(chain, plane, structure.members[i], flat, quantity)
        if across is None:
            continue
        rows = [v[own].ravel() for v in values]
        lines.append((flat, across, rows))
        most = max(most, *(float(np.abs(row).max(initial=0.0)) for row in rows))
    sheet = _sheet(structure, plane, title)
    if plane.kind == "space":
        for i in plane.members:
            sheet.line(structure.xyz[structure.ends[i]] @ basis.T - base, "dimension")
    for points, across, rows in lines:
        sheet.line(points[[0, -1]], "outline")
        for row in rows:
            at = np.array([sheet.at(*p) for p in points.tolist()])
            # tension below (−z) is positive
            tips = at - row[:, None] * across * (TALL / most)
            sheet.paper([tuple(p) for p in np.concatenate([at[:1], tips, at[-1:]]).tolist()], "diagram", True)
    said: list[Point] = []
    for points, across, rows in lines:
        for row in rows:
            spots = {0, len(row) - 1, int(np.abs(row).argmax()), int(row.argmax()), int(row.argmin())}
            for k in sorted(spots, key=lambda k: -abs(row[k])):
                if abs(row[k]) < 0.08 * most:
                    continue
                x0, y0 = sheet.at(*points[k].tolist())
                reach = -row[k] * across * (TALL / most)
                reach = reach * (1 + 2.6 / max(float(np.linalg.norm(reach)), 1e-9))
                spot = (x0 + float(reach[0]), y0 + float(reach[1]) - 0.8)
                # a moment lies on the side in tension; other forces bear their sign
                size = abs(row[k]) if quantity[0] == "M" else row[k]
                if apart(spot, said):
                    sheet.say(spot, f"{size / 1000:.1f}".replace("-", "−"), size=2.2, ground=True)
    return sheet.done()


def _basis(plane: Plane) -> tuple[Floats, Floats]:
    """The two unit vectors of a plane (2, 3), and its origin on it (2,)."""
    basis = np.array([plane.u, plane.v])
    base: Floats = np.array(plane.origin) @ basis.T
    return basis, base


def _sheet(structure: Structure, plane: Plane, title: str) -> Sheet:
    """A sheet on which the members of a plane find room, with what is drawn beside them."""
    basis, base = _basis(plane)
    flat = structure.xyz[[n for i in plane.members for n in structure.members[i].nodes]] @ basis.T - base
    low, high = flat.min(axis=0), flat.max(axis=0)
    return Sheet(title, (low[0], low[1]), (high[0], high[1]), (ROOM[0], 91.0), (26.0, 8.0, 26.0, 21.0))


def _flat(chain: Chain, plane: Plane, member: int, x: Floats) -> Floats:
    """(k, 2) m on the plane of the places along a member."""
    basis, base = _basis(plane)
    elements, m = chain.response.elements, chain.structure.members[member]
    places = elements.positions(x, elements.rows(member)).ravel()
    along = axes_of(chain.structure, m)[0]
    flat: Floats = (chain.structure.xyz[m.nodes[0]] + places[:, None] * along) @ basis.T - base
    return flat


def _across(chain: Chain, plane: Plane, m: Member, flat: Floats, quantity: str) -> Floats | None:
    """The way on the plane in which a force of a member is drawn; None where it is not."""
    if m.bar and quantity != "N":
        return None
    basis, _ = _basis(plane)
    axes = axes_of(chain.structure, m)
    seen: Floats = axes[1 if quantity in ("Mz", "Vy") else 2] @ basis.T
    if plane.kind == "space":
        return seen if np.linalg.norm(seen) > 0.15 else None
    if quantity in ("My", "Vz"):
        return seen if np.linalg.norm(seen) >= 0.5 else None
    along = flat[-1] - flat[0]
    length = float(np.linalg.norm(along))
    return np.array([-along[1], along[0]]) / length if length > 0.05 else None


def apart(spot: Point, said: list[Point]) -> bool:
    """Whether words at a spot stand apart from those said before; then it is one of them."""
    if any(abs(spot[0] - a) < 8.5 and abs(spot[1] - b) < 2.6 for a, b in said):
        return False
    said.append(spot)
    return True


def movement(chain: Chain, plane: Plane, moved: Floats, title: str, sizes: bool) -> Drawing:
    """How the members of a plane move, much enlarged, beside their system lines. moved: (e, s, 3) m at the stations; sizes: with the movement in the plane, mm,
    where it is largest along a member."""
    structure, elements = chain.structure, chain.response.elements
    basis, base = _basis(plane)
    stations = chain.combined.stations
    flats = {i: _flat(chain, plane, i, stations) for i in plane.members}
    steps = {i: moved[elements.rows(i)].reshape(-1, 3) @ basis.T for i in plane.members}
    most = max((float(np.linalg.norm(step, axis=1).max(initial=0.0)) for step in steps.values()), default=0.0)
    sheet = _sheet(structure, plane, title)
    for i in plane.members:
        sheet.line(flats[i][[0, -1]], "axis")
    if most < 1e-7:
        return sheet.done()
    said: list[Point] = []
    tips = {i: np.array([sheet.at(*p) for p in flats[i].tolist()]) + steps[i] * (MOVED / most) for i in plane.members}
    for line in tips.values():
        sheet.paper([tuple(p) for p in line.tolist()], "outline")
    largest = {i: int(np.linalg.norm(steps[i], axis=1).argmax()) for i in plane.members}
    for i in sorted(plane.members, key=lambda i: -float(np.linalg.norm(steps[i][largest[i]]))) if sizes else ():
        size = float(np.linalg.norm(steps[i][largest[i]]))
        x, y = tips[i][largest[i]].tolist()
        if size >= 0.3 * most and apart((x, y), said):
            sheet.say((x, y + 0.8), f"{size * 1000:.1f}", size=2.2, ground=True)
    return sheet.done()


def utilisations(chain: Chain, plane: Plane, title: str) -> Drawing:
    """The steel of a plane with the utilisation of each member; what fails and what is not covered is drawn otherwise."""
    found = {m.member.name: m for m in verdicts.members(chain)}
    styles: dict[str, Style] = {"passes": "steel", "fails": "failing", "not covered": "uncovered"}
    members = [chain.structure.members[i] for i in plane.members]
    sheet = steel_sheet(
        chain.structure, plane, title, {m.name: styles.get(found[m.name].status, "uncovered") for m in members}
    )
    basis, base = _basis(plane)
    said: list[Point] = []
    worst = sorted(members, key=lambda m: -(g.utilisation if (g := found[m.name].governing) else np.inf))
    for m in worst:
        g = found[m.name].governing
        x, y = sheet.at(*(chain.structure.xyz[[m.nodes[0], m.nodes[-1]]].mean(axis=0) @ basis.T - base).tolist())
        open_ = found[m.name].status == "not covered"
        if (g or open_) and apart((x, y), said):
            words = "not covered" if open_ or g is None else f"{g.utilisation:.2f}"
            sheet.say((x, y - 0.8), words, size=2.2, bold=found[m.name].status == "fails", ground=True)
    return sheet.done()
