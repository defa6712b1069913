"""Static equilibrium (EQU) of the building as a rigid body on its supports: overturning, uplift, supports that lift."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from shapely.geometry import MultiPoint, Polygon

from engine.actions.combinations import Combination
from engine.analysis.combined import Combined
from engine.analysis.system import Response
from engine.structure.model import Floats, Ints, Structure

#: end points of an edge of the footprint in plan, metres
Edge = tuple[tuple[float, float], tuple[float, float]]


#: share of what resists, in combinations for strength, from which on static equilibrium may fail with its own factors; and N that lift a support
NEAR, LIFTS = 0.5, 1000.0


@dataclass(frozen=True)
class Tilt:
    """Overturning about one edge of the footprint, or uplift of the whole, in its worst combination.

    about: end points of the edge (m), None for uplift; acting, resisting: E_d,dst and E_d,stb of (6.7) in Nm about the
    edge, in N for uplift.
    """

    about: Edge | None
    acting: float
    resisting: float
    combination: int

    @property
    def utilisation(self) -> float:
        """E_d,dst / E_d,stb; infinite when nothing resists."""
        return self.acting / self.resisting if self.resisting > 0 else (np.inf if self.acting > 0 else 0.0)


@dataclass(frozen=True)
class Lifted:
    """A support that would lift: the greatest tension on it in N, and its combination. The anchor must hold it."""

    node: int
    tension: float
    combination: int


@dataclass(frozen=True)
class _Body:
    """What each case gives: edges (None: uplift) with (edges, cases) towards resisting; feet: supports along Z."""

    edges: list[Edge | None]
    resisting: Floats
    feet: Ints


def _body(response: Response) -> _Body:
    """The supports as a footprint: the convex hull of those that hold Z; without an area there is uplift alone."""
    structure = response.structure
    held = (structure.fixed | (structure.springs != 0))[:, :3].any(axis=1)
    upright = (structure.fixed | (structure.springs != 0))[:, 2]
    at, force, moment = structure.xyz[held], -response.reaction[held, :3], -response.reaction[held, 3:]
    edges: list[Edge | None] = [None]
    rows = [-force[:, 2].sum(axis=0)]
    hull = MultiPoint(structure.xyz[upright, :2]).convex_hull
    if isinstance(hull, Polygon):
        corners = np.array(hull.exterior.coords)
        if not hull.exterior.is_ccw:
            corners = corners[::-1]
        base = float(structure.xyz[upright, 2].min())
        for a, b in zip(corners[:-1], corners[1:], strict=True):
            axis = np.append((b - a) / np.linalg.norm(b - a), 0.0)
            arm = at - np.append(a, base)
            about = np.cross(arm[:, None, :], np.moveaxis(force, 1, 2)) + np.moveaxis(moment, 1, 2)
            # anticlockwise round the hull, weight inside turns negatively about the edge
            rows.append(-(about @ axis).sum(axis=0))
            edges.append(((float(a[0]), float(a[1])), (float(b[0]), float(b[1]))))
    feet = np.flatnonzero(upright)
    return _Body(edges, np.array(rows), feet)


def _tilts(body: _Body, factors: Floats) -> tuple[Floats, Floats]:
    """(edges, combinations): acting and resisting; each case is destabilising or stabilising as a whole."""
    share = body.resisting[:, None, :] * factors
    return -np.minimum(share, 0).sum(axis=2), np.maximum(share, 0).sum(axis=2)


def _ratio(acting: Floats, resisting: Floats) -> Floats:
    safe = np.where(resisting > 0, resisting, 1.0)
    return np.where(resisting > 0, acting / safe, np.where(acting > 0, np.inf, 0.0))


def equilibrium(combined: Combined, combinations: list[Combination]) -> tuple[list[Tilt], list[Lifted]]:
    """E_d,dst ≤ E_d,stb of EN 1990 6.4.2 in the worst EQU combination, about each edge of the hull of the supports.

    The action of each case is destabilising or stabilising as a whole. Supports in one line have no footprint: then only
    uplift and lifted supports are given.
    """
    use = [i for i, c in enumerate(combinations) if c.use == "uplift"]
    if not use:
        return [], []
    factors = np.array([combinations[i].factors for i in use])
    body = _body(combined.response)
    if not len(body.feet):
        return [], []
    acting, resisting = _tilts(body, factors)
    worst = _ratio(acting, resisting).argmax(axis=1)
    tilts = [
        Tilt(edge, float(acting[k, c]), float(resisting[k, c]), use[c])
        for k, (edge, c) in enumerate(zip(body.edges, worst.tolist(), strict=True))
    ]
    tension = -combined.reaction(use)[body.feet, 2]
    lifted = [
        Lifted(int(node), float(tension[k, c]), use[c])
        for k, (node, c) in enumerate(zip(body.feet.tolist(), tension.argmax(axis=1).tolist(), strict=True))
        if tension[k, c] > 1.0
    ]
    return tilts, sorted(lifted, key=lambda found: -found.tension)


def unbalanced_unasked(
    combined: Combined, combinations: list[Combination], strength: tuple[int, ...]
) -> tuple[str, ...]:
    """Said where nothing is combined for static equilibrium, and combinations for strength come near to overturning or lifting something."""
    if not strength or any(c.use == "uplift" for c in combinations):
        return ()
    body = _body(combined.response)
    if not len(body.feet):
        return ()
    tilts = bool((_ratio(*_tilts(body, combined.rows[list(strength)])) > NEAR).any())
    lifts = bool((combined.reaction(list(strength))[body.feet, 2] < -LIFTS).any())
    if not tilts and not lifts:
        return ()
    return ("overturning and uplift are not checked: there is no combination for them (EN 1990 6.4.2)",)


def tilt_words(tilt: Tilt, structure: Structure) -> str:
    """What tilts, as engineers say it."""
    if tilt.about is None:
        return "Uplift of the whole"
    (x0, y0), (x1, y1) = tilt.about
    low, high = structure.xyz[:, :2].min(axis=0), structure.xyz[:, :2].max(axis=0)
    if abs(x0 - x1) < 0.01:
        side = "left" if abs(x0 - low[0]) < abs(x0 - high[0]) else "right"
        return f"Overturning about the {side} edge"
    if abs(y0 - y1) < 0.01:
        side = "front" if abs(y0 - low[1]) < abs(y0 - high[1]) else "back"
        return f"Overturning about the {side} edge"
    return f"Overturning about the edge ({x0:g}, {y0:g}) – ({x1:g}, {y1:g})"


def unbalanced(tilts: list[Tilt], structure: Structure) -> tuple[str, ...]:
    """What the weights alone do not hold down, in words."""
    return tuple(
        f"{tilt_words(tilt, structure)[0].lower()}{tilt_words(tilt, structure)[1:]} takes "
        + (f"{tilt.utilisation:.2f} times what the weights resist" if tilt.resisting > 0 else "what no weight resists")
        + ": anchors and foundations must hold the rest and are not checked"
        for tilt in tilts
        if tilt.utilisation > 1
    )


def resistances(combined: Combined, which: list[int]) -> tuple[list[str], Floats]:
    """What EQU combinations are judged by: names and (quantities, combinations) of overturning, uplift, and tensions."""
    body = _body(combined.response)
    acting, resisting = _tilts(body, combined.rows[which])
    names = ["uplift" if edge is None else f"overturning {k}" for k, edge in enumerate(body.edges)]
    tension = np.maximum(-combined.reaction(which)[body.feet, 2], 0.0)
    names += [combined.structure.nodes[node] for node in body.feet.tolist()]
    return names, np.concatenate([np.minimum(_ratio(acting, resisting), 1e6), tension])
