"""A panel laid flat: its outline, what carries it, the wind zones on it, and the pressures of every case."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from shapely.geometry import Polygon

from engine.actions.derived import Wind
from engine.actions.panels import areas, cut
from engine.chain import Chain
from engine.errors import ModelError
from engine.standards.family import family
from engine.structure.axes import local_axes
from engine.structure.model import Floats, Panel, Plate, Structure
from server.projects import action_schemas, structure_schemas


def seen_from_outside(panel: Panel) -> tuple[Floats, Floats]:
    """Origin (3,) and basis (2, 3) of the drawing: to the right and upwards for someone who looks at it from outside."""
    basis = panel.seen
    least = (panel.corners @ basis.T).min(axis=0)
    return panel.corners[0] + (least - panel.corners[0] @ basis.T) @ basis, basis


def flat_of(points: Floats, origin: Floats, basis: Floats) -> list[tuple[float, float]]:
    """Points (n, 3) on the drawing, m."""
    return [(float(x), float(y)) for x, y in (points - origin) @ basis.T]


def _turn(panel: Panel, origin: Floats, basis: Floats) -> tuple[structure_schemas.Triple, structure_schemas.Triple]:
    start, across, up = panel.flat(origin), panel.basis @ basis[0], panel.basis @ basis[1]
    first, second = ((float(start[i]), float(across[i]), float(up[i])) for i in (0, 1))
    return first, second


def brief(structure: Structure) -> list[action_schemas.PanelBrief]:
    """The panels by name; those that are stiff in their plane with their corners."""
    found = []
    for p in structure.panels:
        stiff = "rigid" if p.rigid else "membrane" if p.law else "slab" if p.plate else ""
        corners = [(x, y, z) for x, y, z in p.corners.tolist()] if stiff else []
        found.append(
            action_schemas.PanelBrief(
                name=p.name,
                kind=p.kind,
                side=p.side,
                area=p.area,
                pitch=p.pitch,
                carriers=len(p.carriers),
                stiff=stiff,
                corners=corners,
                plate=_plate(p, p.plate) if p.plate else None,
            )
        )
    return found


def _plate(panel: Panel, plate: Plate) -> action_schemas.PlateOut:
    x, y, z = panel.outside.tolist()
    return action_schemas.PlateOut(
        thickness=plate.thickness,
        rise=plate.rise,
        outside=(x, y, z),
        openings=[[(a, b, c) for a, b, c in opening.tolist()] for opening in panel.openings],
    )


def wind_out(winds: list[Wind]) -> list[action_schemas.WindOut]:
    """The numbers behind the wind from each direction."""
    found = []
    for w in winds:
        p = w.pressures[max(w.pressures)]
        found.append(
            action_schemas.WindOut(
                direction=w.direction,
                terrain=p.terrain,
                speed=p.speed,
                basic=p.basic / 1000,
                exposure=p.exposure,
                peak=p.peak / 1000,
                orography=p.orography,
                displacement=p.displacement,
                height=w.box.height,
                b=w.box.across(w.direction),
                d=w.box.along(w.direction),
                e=w.box.e(w.direction),
                slenderness=w.slenderness,
                inside=list(w.inside),
                correlation=w.correlation,
            )
        )
    return found


def local_out(chain: Chain) -> list[action_schemas.LocalOut]:
    """Local pressures of secondary members."""
    return [
        action_schemas.LocalOut(
            role=p.role,
            panel=p.panel,
            zone=p.zone,
            area=p.area,
            most=p.most / 1000,
            least=p.least / 1000,
            most_line=p.most * p.spacing / 1000,
            least_line=p.least * p.spacing / 1000,
        )
        for p in family(chain.document).local_pressures(chain.document, chain.structure, chain.loading)
    ]


def traced(chain: Chain, member: str, case: str) -> action_schemas.TracedOut:
    """The line loads on a member in a case, each with the panel and zone it comes from, and why there is none. Raises
    ModelError."""
    structure, loading = chain.structure, chain.loading
    if member not in structure.index:
        raise ModelError(f"There is no member “{member}”.", "member")
    number = next((i for i, c in enumerate(loading.cases) if c.symbol == case), None)
    if number is None:
        raise ModelError(f"There is no case “{case}”.", "case")
    table = loading.table(structure)
    own = np.flatnonzero((table.case == number) & (table.member == structure.index[member]))
    found, m = [], structure.member(member)
    axes = local_axes(structure.xyz[[m.nodes[0]]], structure.xyz[[m.nodes[-1]]], np.array([m.roll]))[0]
    reduction = loading.reductions.get((number, structure.index[member]))
    for k in own[np.argsort(table.start[own], kind="stable")].tolist():
        surface = loading.surfaces[table.surface[k]] if table.surface[k] >= 0 else None
        ends = table.first[k] / 1000, table.last[k] / 1000
        first, last, own_first, own_last = (tuple(v.tolist()) for v in (*ends, *(axes @ end for end in ends)))
        widths = None
        if surface and surface.pressure[0] and not any(surface.pressure[1:]):
            full = abs(surface.pressure[0]) / 1000 * (reduction.factor if reduction else 1.0)
            a, b = (float(np.linalg.norm(end)) / full for end in ends)
            widths = (a, b)
        found.append(
            action_schemas.TracedLoad(
                start=float(table.start[k]),
                end=float(table.end[k]),
                first=first,
                last=last,
                own_first=own_first,
                own_last=own_last,
                widths=widths,
                panel=surface.panel if surface else "",
                zone=surface.zone if surface else "",
                why=surface.why if surface else "",
            )
        )
    return action_schemas.TracedOut(
        loads=found,
        nothing=[] if found else nothing(chain, member, number),
        area=reduction.area if reduction else None,
        factor=reduction.factor if reduction else None,
    )


def nothing(chain: Chain, member: str, case: int) -> list[str]:
    """Why no line load of a case lies on a member, in words."""
    structure, loading = chain.structure, chain.loading
    symbol = loading.cases[case].symbol
    borne = [panel for panel in structure.panels if member in panel.carriers]
    words = []
    for panel in borne:
        here = [s for s in loading.surfaces if s.case == case and s.panel == panel.name]
        reasons = list(dict.fromkeys(s.why for s in here if not any(s.pressure)))
        if not here:
            words.append(f"Nothing of {symbol} acts on {panel.name}.")
        elif len(reasons) == len({s.why for s in here}):
            words.append(f"{symbol} is nought on {panel.name}: {'; '.join(reasons)}.")
        else:
            words.append(f"What {symbol} puts on {panel.name} lies on its other carriers.")
    if borne:
        return words
    words.append("No panel rests on it: it takes what other members hand to it.")
    factors = [r.factor for (of, _), r in loading.reductions.items() if of == case]
    if factors:
        words.append(
            f"Its load is that of the beams above, each reduced by α_A of its own area ({min(factors):.2f} to "
            f"{max(factors):.2f}); it is not reduced further."
        )
    return words


def _excluded(structure: Structure, panel: Panel, origin: Floats, basis: Floats) -> Iterator[action_schemas.CarrierOut]:
    """Members that a panel is kept from resting on."""
    for name in panel.excluded:
        if name in structure.index:
            ends = structure.xyz[[structure.member(name).nodes[0], structure.member(name).nodes[-1]]]
            yield action_schemas.CarrierOut(member=name, line=flat_of(ends, origin, basis), takes=[])


def _zones(chain: Chain, panel: Panel, origin: Floats, basis: Floats) -> Iterator[action_schemas.ZoneOut]:
    """The wind zones on a panel, from every direction, cut to it."""
    for w in family(chain.document).winds(chain.document, chain.structure):
        for zone in (zone for zone in w.zones if zone.panel.name == panel.name):
            for polygon in cut(panel, zone.points):
                yield action_schemas.ZoneOut(
                    direction=w.direction,
                    letter=zone.letter,
                    polygon=flat_of(panel.place_of(polygon), origin, basis),
                    area=Polygon(polygon).area,
                    suction=zone.both[0],
                    pressure=zone.both[1],
                    peak=w.peak(zone) / 1000,
                    source=zone.source,
                    read=list(zone.read),
                    below=zone.below,
                )


def _loads(chain: Chain, panel: Panel, origin: Floats, basis: Floats) -> Iterator[action_schemas.SurfaceLoadOut]:
    """The pressures on a panel, of every case."""
    for load in (load for load in chain.loading.surfaces if load.panel == panel.name):
        yield action_schemas.SurfaceLoadOut(
            case=chain.loading.cases[load.case].symbol,
            zone=load.zone,
            polygon=flat_of(panel.place_of(load.polygon), origin, basis),
            area=Polygon(load.polygon).area,
            kind=load.kind,
            pressure=[load.at(corner) * load.reach / 1000 for corner in load.polygon],
            normal=float(-(load.direction @ panel.outside)),
            why=load.why,
        )


def _carriers(structure: Structure, panel: Panel, origin: Floats, basis: Floats) -> Iterator[action_schemas.CarrierOut]:
    """What carries a panel, and what each takes of it."""
    taken = areas(panel, structure) if panel.plate is None else {}
    for carrier in panel.carriers:
        member = structure.member(carrier)
        ends = structure.xyz[[member.nodes[0], member.nodes[-1]]]
        parts = [flat_of(panel.place_of(part), origin, basis) for part in taken.get(carrier, [])]
        yield action_schemas.CarrierOut(member=carrier, line=flat_of(ends, origin, basis), takes=parts)


def panel_out(chain: Chain, name: str) -> action_schemas.PanelOut:
    """A panel laid flat. Raises ModelError for a name that no panel bears."""
    structure = chain.structure
    panel = next((p for p in structure.panels if p.name == name), None)
    if panel is None:
        raise ModelError(f"There is no panel “{name}”.", "panel")
    origin, basis = seen_from_outside(panel)
    span = panel.span @ basis.T
    return action_schemas.PanelOut(
        name=name,
        kind=panel.kind,
        area=panel.area,
        pitch=panel.pitch,
        outline=flat_of(panel.corners, origin, basis),
        openings=[flat_of(o, origin, basis) for o in panel.openings],
        outside=tuple(panel.outside.tolist()),
        span=(float(span[0]), float(span[1])),
        across=tuple(np.cross(panel.outside, panel.span).round(6).tolist()),
        two_way=panel.two_way,
        carriers=list(_carriers(structure, panel, origin, basis)),
        excluded=list(_excluded(structure, panel, origin, basis)),
        zones=list(_zones(chain, panel, origin, basis)),
        loads=list(_loads(chain, panel, origin, basis)),
        turn=_turn(panel, origin, basis),
        origin=tuple(origin.tolist()),
        u=tuple(basis[0].tolist()),
        v=tuple(basis[1].tolist()),
    )
