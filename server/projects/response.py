"""What the Response stage shows: diagrams of members, modes, mechanisms, and tables of states and extremes."""

from __future__ import annotations

from collections import defaultdict
from typing import Any

import numpy as np

from engine.actions.cases import LineTable
from engine.analysis.diagrams import FORCES, Diagrams
from engine.analysis.elements import Elements
from engine.analysis.lateral_members import lateral_factors
from engine.analysis.modes import mechanism
from engine.analysis.solve import assemble
from engine.balance import balances
from engine.chain import Chain
from engine.document import Document
from engine.expand import expand
from engine.load import load
from engine.report import modes
from engine.report.acting import pressed, summed
from engine.report.states import find_state, moved, number_of
from engine.structure.model import Bools, Floats, Structure
from engine.structure.planes import planes
from engine.verification.standing import in_words
from engine.verification.verify import of_one
from server.projects import response_schemas
from server.projects.workbench import MOST_RUNS, kilo


def modes_out(chain: Chain, combination: str) -> list[response_schemas.ModeOut]:
    """Buckling modes of a combination, or without one the natural modes. Raises KeyError for one that is not there."""
    if combination:
        return [
            response_schemas.ModeOut(value=m.value, state=f"mode:{combination}:{k}", by_itself=name)
            for k, (m, name) in enumerate(modes.buckling(chain, number_of(chain, combination)), 1)
        ]
    found = modes.natural(chain)
    return [response_schemas.ModeOut(value=m.value, state=f"vibration:{k}") for k, m in enumerate(found, 1)]


def _members_of(structure: Structure, plane: str) -> list[int]:
    if plane != "whole":
        return next((list(p.members) for p in planes(structure) if p.key == plane), [])
    return list(range(len(structure.members))) if len(structure.members) <= MOST_RUNS else []


def _runs(
    structure: Structure,
    elements: Elements,
    stations: Floats,
    members: list[int],
    found: Diagrams | None,
    moved: Floats | None,
    along: Floats | None,
    pulled: Floats | None = None,
) -> list[response_schemas.RunOut]:
    """Members with what is drawn along them. found: of their elements alone, one member after the other; moved: (e, s, 3) m at the
    stations."""
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    longer = elements.length / elements.reach
    runs = []
    done = 0
    for i in members:
        e = slice(first[i], first[i + 1])
        own = slice(done, done + first[i + 1] - first[i])
        done = own.stop
        x = elements.positions(stations)[e].ravel()
        ends = structure.xyz[[structure.members[i].nodes[0], structure.members[i].nodes[-1]]]
        start, unit = ends[0], (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
        values: dict[str, Any] = {"most_in": {}, "least_in": {}}
        for name in FORCES:
            array = getattr(found, name)[own].reshape(len(x), -1) / 1000 if found else np.zeros((len(x), 1))
            values[name], values[f"least_{name}"] = array.max(axis=1).tolist(), array.min(axis=1).tolist()
            if array.shape[1] > 1:
                values["most_in"][name] = array.argmax(axis=1).tolist()
                values["least_in"][name] = array.argmin(axis=1).tolist()
        runs.append(
            response_schemas.RunOut(
                member=structure.members[i].name,
                axis_z=tuple(elements.axes[first[i], 2].tolist()),
                points=[(a, b, c) for a, b, c in (start + x[:, None] * unit).tolist()],
                x=x.tolist(),
                stretch=np.repeat(longer[e], stations.shape[1]).tolist() if longer[e].max() > 1 + 1e-9 else [],
                displacement=[]
                if moved is None
                else [(a, b, c) for a, b, c in (moved[e].reshape(-1, 3) * 1000).tolist()],
                utilisation=[None if np.isnan(u) else u for u in along[e].ravel().tolist()]
                if along is not None
                else [None] * len(x),
                pulled=[] if pulled is None else (pulled[e].ravel() / 1000).tolist(),
                **values,
            )
        )
    return runs


def diagram_out(chain: Chain, revision: int, plane: str, state: str, own: bool = False) -> response_schemas.DiagramOut:
    """Diagrams of the members in a plane ("whole": of all, in halls of up to MOST_RUNS) under a case, a combination, an
    envelope, or a mode. own: with the utilisation in that state alone, not over all. Raises KeyError for an unknown state."""
    structure, elements = chain.structure, chain.response.elements
    members = _members_of(structure, plane)
    along = chain.verification.along
    found = find_state(chain, state)
    if found.mode is not None:
        runs = _runs(structure, elements, chain.combined.stations, members, None, found.mode.along, along)
        return response_schemas.DiagramOut(
            revision=revision,
            state=state,
            combination=found.of,
            kind="mode",
            formula=found.words,
            runs=runs,
            loads=[],
        )
    numbers, envelope = found.numbers, found.kind == "envelope"
    if own and not envelope:
        along = of_one(chain.verification, numbers[0])
    moving = moved(chain, found)
    pulled = None if envelope else chain.combined.pulled(numbers)
    # without any combination there is nothing to envelop yet
    first = np.searchsorted(elements.member, np.arange(len(structure.members) + 1))
    rows = np.concatenate([np.arange(first[i], first[i + 1]) for i in members] or [np.zeros(0, dtype=np.int64)])
    diagrams = chain.combined.diagrams(numbers, rows) if numbers and members else None
    return response_schemas.DiagramOut(
        revision=revision,
        state=state,
        combination=found.of,
        kind=found.kind,
        formula=found.words,
        runs=_runs(structure, elements, chain.combined.stations, members, diagrams, moving, along, pulled),
        loads=[] if envelope else _loads(chain, chain.combined.rows[numbers[0]], members),
        points=[] if envelope else _points(chain, chain.combined.rows[numbers[0]], members),
        areas=[] if envelope or plane != "whole" else _areas(chain, chain.combined.rows[numbers[0]]),
        reactions=[] if envelope else _pushes(chain, numbers[0], members),
        own=own and not envelope,
        among=[_name(chain, number) for number in numbers] if envelope else [],
    )


def _name(chain: Chain, number: int) -> str:
    """A combination's name, or a case's symbol."""
    count = len(chain.combinations)
    return chain.combinations[number].name if number < count else chain.loading.cases[number - count].symbol


def _points(chain: Chain, factors: Floats, members: list[int]) -> list[response_schemas.PointOut]:
    """The concentrated loads of a state on some members and on their nodes, one for each place."""
    structure = chain.structure
    near = {node for i in members for node in structure.members[i].nodes}
    own = {structure.members[i].name for i in members}
    total: dict[tuple[str, int, float], Floats] = defaultdict(lambda: np.zeros(6))
    for p in chain.loading.points:
        if factors[p.case] and (p.member in own if p.member else p.node in near):
            total[p.member, p.node, p.at] += factors[p.case] * np.concatenate([p.force, p.moment])
    found = []
    for (name, node, at), push in total.items():
        if name:
            m = structure.member(name)
            a, b = structure.xyz[[m.nodes[0], m.nodes[-1]]]
            place = a + (b - a) * at / structure.length(m)
        else:
            place = structure.xyz[node]
        found.append(
            response_schemas.PointOut(
                member=name, at=tuple(place.tolist()), force=kilo(push[:3]), moment=kilo(push[3:])
            )
        )
    return found


def _areas(chain: Chain, factors: Floats) -> list[response_schemas.AreaOut]:
    """What lies on slabs in a state."""
    return [
        response_schemas.AreaOut(
            panel=one.panel,
            kind=one.kind,
            corners=[tuple(corner) for corner in one.corners.round(4).tolist()],
            force=[kilo(force) for force in one.force],
        )
        for one in pressed(chain.structure, chain.loading, factors)
    ]


def lateral_out(chain: Chain, state: str, member: int) -> response_schemas.LateralOut:
    """The factor at which a member buckles sideways under a case or combination. Raises KeyError for another state."""
    found_state = find_state(chain, state)
    if found_state.kind not in ("case", "combination"):
        raise KeyError(state)
    found = lateral_factors(chain.combined, found_state.numbers, member)
    factor = None if found is None or not np.isfinite(found[0]) else float(found[0])
    return response_schemas.LateralOut(factor=factor, covered=found is not None)


def _pushes(chain: Chain, number: int, members: list[int]) -> list[response_schemas.PushOut]:
    """Reactions at the supports that the members stand on."""
    structure = chain.structure
    reaction = chain.combined.reaction([number])[:, :, 0]
    near = {node for i in members for node in structure.members[i].nodes}
    held = np.flatnonzero((structure.fixed | (structure.springs != 0)).any(axis=1))
    return [
        response_schemas.PushOut(
            node=structure.nodes[node],
            at=tuple(structure.xyz[node].tolist()),
            force=kilo(reaction[node, :3]),
            moment=kilo(reaction[node, 3:]),
        )
        for node in held.tolist()
        if node in near
    ]


def mechanism_out(document: Document, revision: int, plane: str) -> response_schemas.DiagramOut:
    """How a structure that does not stand moves. Raises ModelError where it cannot even be assembled."""
    structure = expand(document)
    system = assemble(structure, load(document, structure), document.analysis.shear_deformation)
    mode = mechanism(system)
    stations = system.stations
    runs = _runs(structure, system.elements, stations, _members_of(structure, plane), None, mode.along, None)
    return response_schemas.DiagramOut(
        revision=revision, state="mechanism", kind="mode", formula="how it moves freely", runs=runs, loads=[]
    )


def states_out(chain: Chain) -> list[response_schemas.StateOut]:
    """What an engineer checks of every combination."""
    combined, structure = chain.combined, chain.structure
    count = len(chain.combinations)
    which = list(range(count))
    applied = np.array([b.applied for b in balances(chain.loading, chain.response)]).reshape(-1, 3)
    total = combined.rows[:count] @ applied
    reacted = -combined.reaction(which)[:, :3].sum(axis=0).T
    size = np.linalg.norm(combined.displacement(which)[:, :3], axis=1)
    far = size.argmax(axis=0)
    alpha, together = combined.alpha, np.full(len(chain.combinations), np.nan)
    together[combined.ultimate[: len(together)]] = combined.standing.together
    found = []
    for i, c in enumerate(chain.combinations):
        place = int(combined.place[i])
        residual = chain.response.residual if place < 0 or combined.states is None else combined.states.residual[place]
        found.append(
            response_schemas.StateOut(
                name=c.name,
                use=c.use,
                applied=kilo(total[i]),
                reacted=kilo(reacted[i]),
                moved=float(size[far[i], i]) * 1000,
                node=structure.nodes[far[i]],
                residual=float(residual),
                order=2 if combined.second[i] else 1,
                alpha=float(alpha[i]) if np.isfinite(alpha[i]) else None,
                together=float(together[i]) if np.isfinite(together[i]) else None,
                buckles=in_words(combined, i) if combined.ultimate[i] else "",
                slack=[structure.members[m].name for m in combined.slack(i)],
                settled=combined.settled(i),
                stable=combined.stable(i),
                free=combined.free(i),
            )
        )
    return found


def _loads(chain: Chain, factors: Floats, members: list[int]) -> list[response_schemas.LoadOut]:
    """The sum of the line loads on each member, in pieces over which it runs linearly."""
    table = chain.loading.table(chain.structure)
    return line_loads(chain.structure, table, factors, (factors[table.case] != 0) & np.isin(table.member, members))


def line_loads(structure: Structure, table: LineTable, factors: Floats, rows: Bools) -> list[response_schemas.LoadOut]:
    """The sum of chosen line loads on each member, with the factors of their cases, in pieces over which it runs linearly."""
    found = []
    for one in summed(structure, table, factors, rows):
        member = structure.member(one.member)
        a, b = structure.xyz[member.nodes[0]], structure.xyz[member.nodes[-1]]
        along = (b - a) / structure.length(member)
        found.append(
            response_schemas.LoadOut(
                member=one.member,
                start=tuple((a + along * one.start).tolist()),
                end=tuple((a + along * one.end).tolist()),
                first=kilo(one.first),
                last=kilo(one.last),
            )
        )
    return found
